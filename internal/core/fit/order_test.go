package fit_test

import (
	"fmt"
	"math"
	"math/rand/v2"
	"slices"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"hobrak/demo"
	"hobrak/internal/core/fit"
	"hobrak/internal/core/length"
	"hobrak/internal/core/shop"
	"hobrak/internal/core/shoptest"
)

// The demo's series come into order for less than half a per cent of the handling.
func TestOrderOneCanSeeCostsLittle(t *testing.T) {
	s, err := shop.Read(demo.Slipway)
	require.NoError(t, err)
	off := fit.UsualWishes()
	off.Order = 0
	plain, err := fit.Run(s, fit.Options{Seed: 1, Iterations: 3000, Wishes: &off})
	require.NoError(t, err)
	e, err := fit.New(s)
	require.NoError(t, err)
	was, now := e.AsItIs().InOrder()
	for _, price := range []float64{.2, 2} {
		w := fit.UsualWishes()
		w.Order = price
		p, err := fit.Run(s, fit.Options{Seed: 1, Iterations: 3000, Wishes: &w})
		require.NoError(t, err)
		t.Logf("price %.1f: %d of %d pairs side by side (as it stands %d of %d; without the wish %d of %d), %.2f s a week more, %.2f %%", price, p.Order.Now, p.Order.Pairs, now, was, plain.Order.Now, plain.Order.Pairs, p.Order.Costs, 100*p.Order.Costs/p.Objective)
		assert.NoError(t, p.Contradiction())
		assert.Less(t, p.Order.Costs/p.Objective, .005)
		if price >= 2 {
			assert.GreaterOrEqual(t, float64(p.Order.Now)/float64(p.Order.Pairs), .85)
		}
	}
}

// Wishes for order that contradict each other, or cannot be met, are a plan all the same: what all of a place is in order of, against what is
// locked in it; and a price beyond all handling.
func TestOrderThatCannotBeIsAPlanAllTheSame(t *testing.T) {
	s, err := shop.Read(demo.Pantry)
	require.NoError(t, err)
	for i := range s.Places {
		words := shop.Ordering("").Words()
		s.Places[i].Order = shop.Ordering(words[i%len(words)])
	}
	for i := range s.Homes { // half of it may not move
		s.Homes[i].Locked = i%2 == 0
	}
	w := fit.UsualWishes()
	w.Order = 1000
	p, err := fit.Run(s, fit.Options{Seed: 1, Iterations: 500, Wishes: &w})
	require.NoError(t, err)
	require.NoError(t, p.Contradiction())
	assert.Empty(t, brokenBy(t, s, p.Homes))
	assert.Less(t, p.Order.Now, p.Order.Pairs, "not all of it can be")
	assert.InDelta(t, 1000*float64(p.Order.Pairs-p.Order.Now), p.Paid.Order, 1e-6, "and what is apart is said")
	for i := range s.Homes {
		if h := s.Homes[i]; h.Locked {
			assert.True(t, slices.ContainsFunc(p.Homes, func(o shop.Home) bool { return o.Item == h.Item && o.Place == h.Place }), h.Item)
		}
	}

	for i := range s.Homes { // and when nothing may move, nothing does
		s.Homes[i].Locked = true
	}
	p, err = fit.Run(s, fit.Options{Seed: 1, Iterations: 500, Wishes: &w})
	require.NoError(t, err)
	for _, h := range s.Homes {
		assert.True(t, slices.ContainsFunc(p.Homes, func(o shop.Home) bool { return o.Item == h.Item && o.Place == h.Place && o.X == h.X && o.Z == h.Z }), h.Item)
	}
	for _, h := range p.Homeless {
		assert.NotEmpty(t, h.Why)
	}
}

// In any room order that is worth a lot breaks no rule, leaves no more neighbours apart than without it, and costs the handling that
// is said: the search before it is the same.
func TestOrderCostsWhatIsSaid(t *testing.T) {
	for seed := range shoptest.Seeds(3) {
		s := shoptest.Random(seed, shoptest.Size{Areas: 1, Stations: 4, Containers: 5, Places: 12, Items: 40})
		for i := range s.Items {
			s.Items[i].Kind, s.Items[i].Family = []string{"chisel", "plane", "saw", "clamp", "jig"}[i%5], ""
			s.Items[i].Assumed = nil
		}
		run := func(price float64) *fit.Plan {
			w := fit.UsualWishes()
			w.Order = price
			p, err := fit.Run(s, fit.Options{Seed: 1, Iterations: 300, Wishes: &w})
			require.NoError(t, err)
			require.NoError(t, p.Contradiction())
			require.Empty(t, brokenBy(t, s, p.Homes), "seed %d at %g", seed, price)
			return p
		}
		plain, ordered := run(0), run(20)
		require.InDelta(t, plain.Objective+ordered.Order.Costs, ordered.Objective, 1e-6, "seed %d", seed)
		require.Len(t, ordered.Homeless, len(plain.Homeless))
		if plain.Order.Pairs > 0 && ordered.Order.Pairs > 0 {
			apart := func(p *fit.Plan) int { return p.Order.Pairs - p.Order.Now }
			require.LessOrEqual(t, apart(ordered), apart(plain), "seed %d", seed)
		}
	}
}

// BenchmarkOrder says what order costs in the demo by its price, with several seeds.
func BenchmarkOrder(b *testing.B) {
	s, err := shop.Read(demo.Slipway)
	require.NoError(b, err)
	for _, price := range []float64{.2, 2, 10, 100} {
		b.Run(fmt.Sprint(price, " s"), func(b *testing.B) {
			for b.Loop() {
				now, pairs, sum, worst := 0, 0, 0.0, 0.0
				const seeds = 4
				for seed := range uint64(seeds) {
					w := fit.UsualWishes()
					w.Order = price
					p, err := fit.Run(s, fit.Options{Seed: seed + 1, Wishes: &w})
					require.NoError(b, err)
					now, pairs = now+p.Order.Now, pairs+p.Order.Pairs
					more := p.Order.Costs / p.Objective
					sum, worst = sum+more, max(worst, more)
				}
				b.ReportMetric(float64(now)/seeds, "pairs_in_order")
				b.ReportMetric(float64(pairs)/seeds, "pairs")
				b.ReportMetric(100*sum/seeds, "%more_handling")
				b.ReportMetric(100*worst, "%more_at_worst")
			}
		})
	}
}

// slotted is a shop of five things in a row of six slots along a wall, the bench somewhere before it.
func slotted(t *testing.T, rng *rand.Rand) *shop.Shop {
	s, err := shop.Read([]byte(`{"format":"hobrak-shop","version":1,"shop":{"name":"S","units":"metric"},"areas":[{"id":"main","corners":[[0,0],[0,5000],[6000,5000],[6000,0]],"walls":[
		{"id":"A","profile":[[0,2600],[5000,2600]],"claimed":true},{"id":"B","profile":[[0,2600],[6000,2600]],"claimed":true},{"id":"C","profile":[[0,2600],[5000,2600]],"claimed":true},{"id":"D","profile":[[0,2600],[6000,2600]],"claimed":true}]}],
		"stations":[{"id":"bench","name":"Bench","kind":"bench","x":2200,"y":0,"w":1400,"d":600,"h":900,"stand":[3000,1200]}],
		"places":[{"id":"P","kind":"slots","at":{"wall":"B","x":1400,"z":600},"w":2700,"h":900,"d":300,"slots":[{"n":6,"w":450,"h":800,"d":200}]}]}`))
	require.NoError(t, err)
	s.Stations[0].X = length.MM(float64(500 + rng.IntN(4000)))
	s.Stations[0].Stand[0] = s.Stations[0].X + length.MM(700)
	for i := range 5 {
		kind := []string{"frame", "frame", "frame", "tray", "tray"}[i]
		s.Items = append(s.Items, shop.Item{ID: fmt.Sprint("i", i), Name: fmt.Sprint("Thing ", i), Family: kind, W: length.MM(float64(200 + 20*rng.IntN(8))), H: length.MM(float64(300 + 50*rng.IntN(6))), D: length.MM(100),
			Hold: []shop.Hold{"slot"}, UsesPerWeek: float64(rng.IntN(8)), UsedAt: []string{"bench"}})
	}
	require.NoError(t, s.Validate())
	return s
}

// wanting counts by the slots alone which neighbours of a family do not stand in the slots next to each other in the order of their sizes; with
// things alike in the best of their orders.
func wanting(s *shop.Shop, slot []int) (n int) {
	long := func(i int) [2]length.Length {
		it := &s.Items[i]
		return [2]length.Length{max(it.W, it.H, it.D), it.W}
	}
	for _, family := range []string{"frame", "tray"} {
		var own []int
		for i := range s.Items {
			if s.Items[i].Family == family {
				own = append(own, i)
			}
		}
		least := len(own)
		permutations(own, func(p []int) {
			for k := 1; k < len(p); k++ {
				a, b := long(p[k-1]), long(p[k])
				if a[0] > b[0] || a[0] == b[0] && a[1] > b[1] {
					return
				}
			}
			for _, step := range []int{1, -1} {
				apart := 0
				for k := 1; k < len(p); k++ {
					// Empty slots between do not count: what stands there is next.
					between := 0
					for _, x := range slot {
						if (x-slot[p[k-1]])*step > 0 && (slot[p[k]]-x)*step > 0 {
							between++
						}
					}
					if (slot[p[k]]-slot[p[k-1]])*step <= 0 || between > 0 {
						apart++
					}
				}
				least = min(least, apart)
			}
		})
		n += least
	}
	return n
}

func permutations(list []int, each func([]int)) {
	var walk func(k int)
	walk = func(k int) {
		if k == len(list) {
			each(list)
			return
		}
		for i := k; i < len(list); i++ {
			list[k], list[i] = list[i], list[k]
			walk(k + 1)
			list[k], list[i] = list[i], list[k]
		}
	}
	walk(0)
}

// In a row of slots the plan is the best there is of handling and order together, by going through all ways to fill them.
func TestOrderIsTheBestThereIs(t *testing.T) {
	ordered, dearer := 0, 0
	for seed := range shoptest.Seeds(9) {
		rng := rand.New(rand.NewPCG(seed, 24))
		s := slotted(t, rng)
		w := fit.UsualWishes()
		w.Order, w.Together, w.Moving = []float64{.02, .3, 3}[seed%3], 0, 0
		p, err := fit.Run(s, fit.Options{Seed: 1, Wishes: &w})
		require.NoError(t, err)
		require.Empty(t, p.Homeless)
		keepsRules(t, s, p)
		slotOf := map[string]int{}
		for _, h := range p.Homes {
			slotOf[h.Item] = h.Slot
		}
		mine := make([]int, 5)
		for i := range mine {
			mine[i] = slotOf[s.Items[i].ID]
		}
		require.Equal(t, wanting(s, mine), p.Order.Pairs-p.Order.Now, "seed %d: %v", seed, mine)
		// Handling of each thing in each slot, from the shop with it alone there.
		cost := [5][6]float64{}
		for i := range 5 {
			for k := range 6 {
				one := s.Clone()
				one.Items = one.Items[i : i+1]
				one.Homes = []shop.Home{{Item: s.Items[i].ID, Place: "P", Slot: k}}
				e, err := fit.New(one)
				require.NoError(t, err)
				cost[i][k] = e.AsItStands()
			}
		}
		best, plain := math.Inf(1), math.Inf(1)
		permutations([]int{0, 1, 2, 3, 4, 5}, func(q []int) {
			sum := 0.0
			for i := range 5 {
				sum += cost[i][q[i]]
			}
			plain = min(plain, sum)
			best = min(best, sum+w.Order*float64(wanting(s, q[:5])))
		})
		got := p.Objective + w.Order*float64(p.Order.Pairs-p.Order.Now)
		assert.InDelta(t, best, got, 1e-6, "seed %d: order at %.2f", seed, w.Order)
		ordered += p.Order.Now
		if p.Objective > plain+1e-6 {
			dearer++
		}
	}
	t.Logf("%d pairs in order, %d plans that pay handling for it", ordered, dearer)
	assert.Positive(t, dearer)
}
