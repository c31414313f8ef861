package fit_test

import (
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

// guessing makes half of the sizes of a shop assumed.
func guessing(s *shop.Shop) {
	for i := range s.Items {
		if i%2 == 0 {
			s.Items[i].Assumed = []string{"w", "h", "d"}
		}
	}
}

// Of two slots that are got at alike, one left and one right of who stands before them, the one is taken in which a thing of assumed size would fit
// even if it were larger; and where the size is known, either.
func TestTheSurerHomeIsTakenWhereItCostsTheSame(t *testing.T) {
	moved := 0
	for seed := range shoptest.Seeds(40) {
		rng := rand.New(rand.NewPCG(seed, 5))
		s := slotted(t, rng)
		off := length.MM(float64(300 + rng.IntN(1200)))
		s.Stations[0].X, s.Stations[0].Stand[0] = length.MM(2300), length.MM(3000)
		narrow, wide := length.MM(float64(205+rng.IntN(30))), length.MM(float64(260+rng.IntN(200)))
		left, right := s.Places[0], s.Places[0]
		left.ID, right.ID = "left", "right"
		first, second := narrow, wide
		if rng.IntN(2) == 0 {
			first, second = wide, narrow
		}
		for p, w := range map[*shop.Place]length.Length{&left: first, &right: second} {
			p.W, p.Slots = w, []shop.SlotRun{{N: 1, W: w, H: length.MM(800), D: length.MM(200)}}
			p.At.X = s.Stations[0].Stand[0] - off - w/2
			if p == &right {
				p.At.X = s.Stations[0].Stand[0] + off - w/2
			}
		}
		s.Places, s.Items = []shop.Place{left, right}, s.Items[:1]
		s.Items[0].W, s.Items[0].UsesPerWeek, s.Items[0].Assumed = length.MM(200), float64(1+rng.IntN(8)), []string{"w"}
		require.NoError(t, s.Validate())
		p, err := fit.Run(s, fit.Options{Seed: 1, Iterations: 50})
		require.NoError(t, err)
		require.Len(t, p.Homes, 1)
		require.Zero(t, p.Order.Tight, "seed %d", seed)
		moved += p.Order.WasTight
		require.Equal(t, wide, shop.NewIndex(s).Place(p.Homes[0].Place).W)
		require.Empty(t, brokenBy(t, s, p.Homes))
		s.Items[0].Assumed = nil
		p, err = fit.Run(s, fit.Options{Seed: 1, Iterations: 50})
		require.NoError(t, err)
		require.Zero(t, p.Order.WasTight)
	}
	assert.Positive(t, moved)
}

// In any room it costs no more than moving those things is worth, breaks no rule, and leaves no more of them tight.
func TestSurerHomesBreakNoRule(t *testing.T) {
	for seed := range shoptest.Seeds(12) {
		s := shoptest.Random(seed, shoptest.Size{Areas: 1, Stations: 4, Containers: 5, Places: 14, Items: 40})
		guessing(s)
		p, err := fit.Run(s, fit.Options{Seed: 1, Iterations: 300})
		require.NoError(t, err)
		require.NoError(t, p.Contradiction())
		require.LessOrEqual(t, p.Order.Tight, p.Order.WasTight)
		require.Empty(t, brokenBy(t, s, p.Homes), "seed %d", seed)
	}
}

// One more like a thing costs no less than the best spot of the empty shop, and no more than being without a home; and with all places taken away
// just that.
func TestRisksAreWithinTheirBounds(t *testing.T) {
	for seed := range shoptest.Seeds(10) {
		s := shoptest.Random(seed, shoptest.Few)
		guessing(s)
		e, err := fit.New(s)
		require.NoError(t, err)
		a := e.AsItIs()
		was := a.AsItStands()
		for _, r := range a.Risks() {
			i := slices.IndexFunc(s.Items, func(it shop.Item) bool { return it.ID == r.Item })
			n := float64(s.Items[i].Number())
			require.LessOrEqual(t, r.Another, 60*s.Items[i].UsesPerWeek/n+1e-9)
			if least, ok := e.Cheapest(i); ok {
				require.GreaterOrEqual(t, r.Another, min(least/n, 60*s.Items[i].UsesPerWeek/n)-1e-9)
			}
			for _, lost := range r.Larger {
				require.GreaterOrEqual(t, lost, 0.0)
			}
			require.True(t, i%2 != 0 || r.Larger != nil)
		}
		require.InDelta(t, was, a.AsItStands(), 1e-9, "asking changes nothing")
	}
}

// BenchmarkRisks of the demo, all of its sizes assumed.
func BenchmarkRisks(b *testing.B) {
	s, err := shop.Read(demo.Slipway)
	require.NoError(b, err)
	guessing(s)
	e, err := fit.New(s)
	require.NoError(b, err)
	for b.Loop() {
		e.AsItIs().Risks()
	}
}
