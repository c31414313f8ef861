package fit_test

import (
	"slices"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"hobrak/internal/core/check"
	"hobrak/internal/core/fit"
	"hobrak/internal/core/shop"
)

// rehomed is a shop in which some homes are others.
func rehomed(s *shop.Shop, items []string, homes []shop.Home) *shop.Shop {
	out := s.Clone()
	out.Homes = slices.DeleteFunc(out.Homes, func(h shop.Home) bool { return slices.Contains(items, h.Item) })
	out.Homes = append(out.Homes, homes...)
	return out
}

// Each swap that is told is done: every rule is kept, and what was to be saved is.
func TestSwapsSaveWhatTheySayAndKeepEveryRule(t *testing.T) {
	pairs, moves := 0, 0
	for seed := range uint64(4) {
		s := made(t, 120, 14, seed+1)
		for i := range s.Items {
			if i%9 == 0 {
				s.Items[i].Flags = append(s.Items[i].Flags, []shop.Flag{"dust", "show"}[i%2])
			}
		}
		plan, err := fit.Run(s, fit.Options{Seed: 1, Iterations: 1})
		require.NoError(t, err)
		now := plan.Apply(s)
		for i := range now.Homes { // in the order of another day: what is used most is not at hand
			now.Homes[i].Locked = i%7 == 0
		}
		for i := range now.Items {
			now.Items[i].UsesPerWeek = float64((i*37)%23) / 4
		}
		require.NoError(t, now.Validate())
		problem, err := fit.New(now)
		require.NoError(t, err)
		e := problem.AsItIs()
		swaps := e.Swaps(6)
		require.NotEmpty(t, swaps)
		assert.Equal(t, swaps, e.Swaps(6), "the engine is left as it was")
		handling, seen := e.AsItStands(), map[string]bool{}
		for k, w := range swaps {
			for _, id := range w.Items {
				require.False(t, seen[id], "%s is in two of them", id)
				seen[id] = true
				require.False(t, shop.NewIndex(now).Homes(id)[0].Locked, "%s is locked", id)
			}
			if k > 0 {
				assert.LessOrEqual(t, w.Saves(), swaps[k-1].Saves(), "the best first")
			}
			if len(w.Items) == 2 {
				pairs++
			} else {
				moves++
			}
			after := rehomed(now, w.Items, w.Homes)
			found, err := check.Shop(after)
			require.NoError(t, err)
			for _, f := range found {
				assert.False(t, f.Hard, "%v after %v", f, w.Items)
			}
			next, err := fit.New(after)
			require.NoError(t, err)
			assert.InDelta(t, handling-w.Saves(), next.AsItStands(), 1e-6*handling)
		}
	}
	assert.Positive(t, pairs)
	assert.Positive(t, moves)
}

func TestNothingIsWorthSwappingInTheBestPlan(t *testing.T) {
	s := made(t, 60, 8, 2)
	plan, err := fit.Run(s, fit.Options{Seed: 1, Iterations: 4000})
	require.NoError(t, err)
	problem, err := fit.New(plan.Apply(s))
	require.NoError(t, err)
	e := problem.AsItIs()
	saved := 0.0
	for _, w := range e.Swaps(20) {
		saved += w.Saves()
	}
	assert.Less(t, saved, .01*plan.Objective)
}

func BenchmarkSwaps(b *testing.B) {
	s := made(b, 600, 60, 1)
	plan, err := fit.Run(s, fit.Options{Seed: 1, Iterations: 1})
	require.NoError(b, err)
	problem, err := fit.New(plan.Apply(s))
	require.NoError(b, err)
	e := problem.AsItIs()
	for b.Loop() {
		e.Swaps(5)
	}
}
