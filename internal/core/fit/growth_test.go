package fit_test

import (
	"fmt"
	"runtime"
	"testing"
	"time"

	"github.com/stretchr/testify/require"

	"hobrak/internal/core/fit"
)

// BenchmarkGrowth says what shops of different size cost: preparing them, and ten
// tries a thing, by the number of things times places.
func BenchmarkGrowth(b *testing.B) {
	for _, c := range [][2]int{{100, 12}, {200, 25}, {400, 50}, {800, 100}, {1600, 200}, {3000, 300}} {
		items, places := c[0], c[1]
		b.Run(fmt.Sprintf("%dx%d", items, places), func(b *testing.B) {
			var prepare, all float64
			for b.Loop() {
				s := made(b, items, places, 1)
				start := time.Now()
				e, err := fit.New(s)
				require.NoError(b, err)
				prepare += time.Since(start).Seconds()
				plan := e.Run(fit.Options{Seed: 1, Iterations: 10 * items})
				all += time.Since(start).Seconds()
				require.NotEmpty(b, plan.Homes)
			}
			n, pairs := float64(b.N), float64(items*places)
			var mem runtime.MemStats
			runtime.ReadMemStats(&mem)
			b.ReportMetric(1e6*prepare/n/pairs, "µs/pair-prepared")
			b.ReportMetric(1e6*all/n/pairs, "µs/pair-in-all")
			b.ReportMetric(all/n, "s")
			b.ReportMetric(float64(mem.HeapSys)/(1<<20), "MB")
		})
	}
}
