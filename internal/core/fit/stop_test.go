package fit_test

import (
	"errors"
	"fmt"
	"sync"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"hobrak/internal/core/access"
	"hobrak/internal/core/fit"
)

// BenchmarkStopping stops the preparation and the search of the largest made shop at
// different times, and reports how long it takes until the plan is there.
func BenchmarkStopping(b *testing.B) {
	s := made(b, 3000, 300, 1)
	start := time.Now()
	_, err := access.NewMap(s)
	require.NoError(b, err)
	b.Logf("the ways alone, which nothing stops: %v", time.Since(start))
	for _, after := range []float64{.3, 1, 2, 2.5, 3, 3.5, 4, 5, 8} {
		b.Run(fmt.Sprint(after), func(b *testing.B) {
			worst := 0.0
			for b.Loop() {
				end := time.Now().Add(time.Duration(after * float64(time.Second)))
				done := func() bool { return time.Now().After(end) }
				e, err := fit.NewUntil(s, done)
				if err == nil {
					e.Run(fit.Options{Seed: 1, Done: done, Hurry: done})
				} else {
					require.ErrorIs(b, err, fit.ErrStopped)
				}
				worst = max(worst, time.Since(end).Seconds()*1000)
			}
			b.ReportMetric(worst, "ms-late")
		})
	}
}

func TestStoppingAtAnyMomentGivesAPlanThatKeepsTheRules(t *testing.T) {
	s := made(t, 200, 24, 1)
	stopped, planned := 0, 0
	for asked := 1; asked < 4000; asked = asked*2 + 3 {
		left := asked
		done := func() bool { left--; return left < 0 }
		e, err := fit.NewUntil(s, func() bool { return false })
		if asked < 60 {
			e, err = fit.NewUntil(s, onceAsked(asked))
		}
		if errors.Is(err, fit.ErrStopped) {
			stopped++
			continue
		}
		require.NoError(t, err)
		plan := e.Run(fit.Options{Seed: 1, Iterations: 50, Done: done, Hurry: done})
		keepsRules(t, s, plan)
		assert.LessOrEqual(t, plan.Bound, plan.Objective+1e-6)
		planned++
	}
	assert.Positive(t, stopped)
	assert.Positive(t, planned)
}

// onceAsked says yes for good once it was asked so often.
func onceAsked(n int) func() bool {
	var asked counter
	return func() bool { return asked.next() > n }
}

type counter struct {
	mu sync.Mutex
	n  int
}

func (c *counter) next() int {
	c.mu.Lock()
	defer c.mu.Unlock()
	c.n++
	return c.n
}
