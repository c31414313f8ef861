package fit_test

import (
	"fmt"
	"math"
	"math/rand/v2"
	"runtime"
	"testing"
	"time"

	"github.com/stretchr/testify/require"

	"hobrak/internal/core/fit"
	"hobrak/internal/core/length"
	"hobrak/internal/core/shop"
)

// BenchmarkGap fits made shops in a given time and reports how far the plans may
// be from the best possible.
func BenchmarkGap(b *testing.B) {
	for _, c := range []struct {
		items, places int
		seconds       float64
	}{{60, 8, 5}, {200, 25, 5}, {600, 60, 5}, {3000, 300, 30}} {
		b.Run(fmt.Sprintf("%dx%d", c.items, c.places), func(b *testing.B) {
			for b.Loop() {
				var gap, homeless, tries, seconds float64
				seeds := 3
				if c.items > 1000 {
					seeds = 1
				}
				for seed := range seeds {
					s := made(b, c.items, c.places, uint64(seed+1))
					start := time.Now()
					deadline := start.Add(time.Duration(c.seconds * float64(time.Second)))
					plan, err := fit.Run(s, within(start, deadline))
					require.NoError(b, err)
					gap += 100 * plan.Gap() / float64(seeds)
					homeless += float64(len(plan.Homeless)) / float64(seeds)
					tries += float64(plan.Iterations) / float64(seeds)
					seconds += time.Since(start).Seconds() / float64(seeds)
				}
				var mem runtime.MemStats
				runtime.ReadMemStats(&mem)
				b.ReportMetric(gap, "gap-%")
				b.ReportMetric(homeless, "homeless")
				b.ReportMetric(tries, "tries")
				b.ReportMetric(seconds, "s")
				b.ReportMetric(float64(mem.Sys)/(1<<20), "MB")
			}
		})
	}
}

// within a time as many improvements are tried as it allows.
func within(start, deadline time.Time) fit.Options {
	all := deadline.Sub(start).Seconds()
	return fit.Options{Seed: 1, Iterations: 1e6, Done: func() bool { return time.Now().After(deadline) },
		Spent: func() float64 { return time.Since(start).Seconds() / all }}
}

// cut gives a rectangle cut by random guillotine cuts into pieces, w × h in mm.
func cut(rng *rand.Rand, w, h float64, pieces int) [][2]float64 {
	const least = 60
	list := [][2]float64{{w, h}}
	for len(list) < pieces {
		// The larger a piece, the likelier it is cut.
		k, most := 0, -1.0
		for i, p := range list {
			if a := p[0] * p[1] * rng.Float64(); a > most && max(p[0], p[1]) > 2*least {
				k, most = i, a
			}
		}
		p := list[k]
		across := 0
		if p[1] > p[0] || p[0] <= 2*least {
			across = 1
		}
		if rng.IntN(4) == 0 && p[1-across] > 2*least {
			across = 1 - across
		}
		at := math.Round(least + (p[across]-2*least)*rng.Float64())
		a, b := p, p
		a[across], b[across] = at, p[across]-at
		list[k] = a
		list = append(list, b)
	}
	return list
}

// one place and the pieces it was cut into.
func puzzle(t testing.TB, kind shop.PlaceKind, pieces int, turn bool, seed uint64) (s *shop.Shop, area map[string]float64) {
	rng := rand.New(rand.NewPCG(seed, uint64(pieces)))
	s = made(t, 1, 1, 1)
	w, h := 2400.0, 1200.0
	p := shop.Place{ID: "P", Kind: kind, At: shop.At{Wall: "A", X: length.MM(1800), Z: length.MM(700)}, W: length.MM(w), H: length.MM(h), D: length.MM(300)}
	hold := []shop.Hold{"hang"}
	if kind == "wall-field" {
		p.Style = "board"
	} else {
		p.H, p.D = length.MM(100), length.MM(h)
		p.At = shop.At{Floor: &shop.Point{length.MM(500), length.MM(2500)}}
		hold = []shop.Hold{"flat"}
	}
	s.Places, s.Items = []shop.Place{p}, nil
	area = map[string]float64{}
	none := length.Length(0)
	for i, c := range cut(rng, w, h, pieces) {
		it := shop.Item{ID: fmt.Sprintf("i%d", i), Name: "Piece", W: length.MM(c[0]), H: length.MM(c[1]), D: length.MM(20), Hold: hold, UsesPerWeek: 1, Clearance: &none, Turn: &turn}
		if kind != "wall-field" {
			it.H, it.D = it.D, it.H
		}
		if turn && rng.IntN(2) == 0 {
			if kind == "wall-field" {
				it.W, it.H = it.H, it.W
			} else {
				it.W, it.D = it.D, it.W
			}
		}
		area[it.ID] = c[0] * c[1] / (w * h)
		s.Items = append(s.Items, it)
	}
	require.NoError(t, s.Validate())
	return s, area
}

// BenchmarkPuzzle puts back what was cut without waste.
func BenchmarkPuzzle(b *testing.B) {
	for _, c := range []struct {
		kind   shop.PlaceKind
		pieces int
		turn   bool
	}{{"wall-field", 40, false}, {"wall-field", 60, false}, {"wall-field", 80, false}, {"wall-field", 120, false}, {"wall-field", 200, false}, {"drawer", 60, true}, {"drawer", 200, true}} {
		b.Run(fmt.Sprintf("%s-%d", c.kind, c.pieces), func(b *testing.B) {
			for b.Loop() {
				sum, worst, left := 0.0, 1.0, 0.0
				for seed := range 10 {
					s, area := puzzle(b, c.kind, c.pieces, c.turn, uint64(seed+1))
					start := time.Now()
					plan, err := fit.Run(s, within(start, start.Add(5*time.Second)))
					require.NoError(b, err)
					got := 0.0
					for _, h := range plan.Homes {
						got += area[h.Item]
					}
					sum += got / 10
					worst = min(worst, got)
					left += float64(len(plan.Homeless)) / 10
				}
				b.ReportMetric(100*sum, "area-%")
				b.ReportMetric(100*worst, "worst-%")
				b.ReportMetric(left, "left")
			}
		})
	}
}
