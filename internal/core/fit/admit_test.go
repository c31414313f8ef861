package fit_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"hobrak/demo"
	"hobrak/internal/core/check"
	"hobrak/internal/core/fit"
	"hobrak/internal/core/length"
	"hobrak/internal/core/shop"
	"hobrak/internal/core/weight"
)

// crowded is a planned shop and a thing without a home in it.
func crowded(t testing.TB, items, places int, seed uint64) (*shop.Shop, string) {
	s := made(t, items, places, seed)
	plan, err := fit.Run(s, fit.Options{Seed: 1, Iterations: 500})
	require.NoError(t, err)
	out := plan.Apply(s)
	out.Fit = nil
	out.Items = append(out.Items, shop.Item{ID: "new", Name: "New thing", W: length.MM(120), H: length.MM(260), D: length.MM(60), KG: weight.KG(1), Hold: []shop.Hold{"hang"}, UsesPerWeek: 12, UsedAt: []string{"s0"}})
	require.NoError(t, out.Validate())
	return out, "new"
}

func TestANewThingFindsAHomeThatDisturbsFew(t *testing.T) {
	for seed := range uint64(6) {
		s, id := crowded(t, 160, 16, seed+1)
		problem, err := fit.New(s)
		require.NoError(t, err)
		e := problem.AsItIs()
		item := len(s.Items) - 1
		before := e.AsItStands()
		last := 1e18
		for k := range 4 {
			a := e.Admit(item, k)
			assert.LessOrEqual(t, len(a.Moved), k)
			assert.InDelta(t, before, e.AsItStands(), 1e-9, "the engine is left as it was")
			if !a.Found {
				assert.NotEmpty(t, a.Why)
				continue
			}
			assert.LessOrEqual(t, a.Seconds-a.Before, last+1e-6, "more that may move is never worse")
			last = a.Seconds - a.Before
			// The answer keeps every rule and costs what it says.
			next := s.Clone()
			moved := map[string]bool{id: true}
			for _, m := range a.Moved {
				moved[m] = true
			}
			var homes []shop.Home
			for _, h := range next.Homes {
				if !moved[h.Item] {
					homes = append(homes, h)
				}
			}
			next.Homes = append(homes, a.Homes...)
			require.NoError(t, next.Validate())
			found, err := check.Shop(next)
			require.NoError(t, err)
			for _, f := range found {
				assert.False(t, f.Hard, "seed %d, %d may move: %s", seed, k, f)
			}
			after, err := fit.New(next)
			require.NoError(t, err)
			assert.InDelta(t, before+a.Seconds-a.Before, after.AsItStands(), 1e-6)
		}
	}
}

func TestLockedThingsMoveForNobody(t *testing.T) {
	s, _ := crowded(t, 160, 16, 3)
	for i := range s.Homes {
		s.Homes[i].Locked = true
	}
	problem, err := fit.New(s)
	require.NoError(t, err)
	e := problem.AsItIs()
	a := e.Admit(len(s.Items)-1, 5)
	assert.Empty(t, a.Moved)
	assert.Zero(t, a.More)
}

func TestContradictionsAreNamedBeforeARun(t *testing.T) {
	s := read(t, demo.Slipway)
	e, err := fit.New(s)
	require.NoError(t, err)
	assert.Empty(t, e.Contradictions())

	ix := shop.NewIndex(s)
	// A vacuum locked onto a magnet rail, a family locked apart, a place that bears nothing of what is locked in it.
	for i := range s.Homes {
		if h := &s.Homes[i]; h.Place == "B1" || h.Place == "D1" {
			h.Locked = true
		}
	}
	ix.Place("B1").Capacity = weight.KG(1)
	s.Homes = append(s.Homes, shop.Home{Item: "shop-vacuum", Place: "N9", Locked: true})
	for i := range s.Items {
		for _, h := range s.Homes {
			if h.Item == s.Items[i].ID && h.Locked {
				s.Items[i].Family = "together"
			}
		}
	}
	require.NoError(t, s.Validate())
	e, err = fit.New(s)
	require.NoError(t, err)
	said := ""
	for _, c := range e.Contradictions() {
		said += c.What + "\n"
	}
	assert.Contains(t, said, "is locked in N9, but")
	assert.Contains(t, said, "what is locked in B1 weighs")
	assert.Contains(t, said, "together belong together, but")
	plan := e.Run(fit.Options{Seed: 1, Iterations: 50})
	for _, h := range plan.Homes {
		if h.Item == "shop-vacuum" {
			assert.Equal(t, "N9", h.Place, "what is locked stays all the same")
		}
	}
}

func TestHazardsBarPlans(t *testing.T) {
	s := read(t, demo.Slipway)
	for i := range s.Homes {
		s.Homes[i].Locked = false
	}
	plan, err := fit.Run(s, fit.Options{Seed: 3, Iterations: 400})
	require.NoError(t, err)
	out := plan.Apply(s)
	found, err := check.Shop(out)
	require.NoError(t, err)
	for _, f := range found {
		assert.NotContains(t, []string{"child", "hazard"}, f.Code, f.String())
	}
	urgent := 0
	ix := shop.NewIndex(out)
	for _, h := range out.Homes {
		if h.Item != "first-aid-box" && h.Item != "fire-blanket" {
			continue
		}
		urgent++
		assert.NotContains(t, []string{"drawer", "slots", "bin"}, ix.Place(h.Place).Kind, "what is needed at once is in sight")
	}
	assert.Equal(t, 2, urgent)
	// In frost nothing that freezes finds a home; at a heater nothing that burns.
	s.Areas[0].Climate = []string{"frost"}
	plan, err = fit.Run(s, fit.Options{Seed: 3, Iterations: 50})
	require.NoError(t, err)
	why := map[string]string{}
	for _, h := range plan.Homeless {
		why[h.Item] = h.Why
	}
	assert.Contains(t, why["wood-glue"], "frost")
	s.Areas[0].Climate = nil
	far := length.MM(5000) // the heater's maker asks for much
	s.Settings.Clear = &shop.Clearances{Heater: &far}
	for i := range s.Areas[0].Walls {
		w := &s.Areas[0].Walls[i]
		w.Features = append(w.Features, shop.Feature{ID: w.ID + "-heater", Kind: "heater", X: length.MM(100), Z: length.MM(100), W: w.Profile[len(w.Profile)-1][0] - length.MM(300), H: length.MM(2000), D: length.MM(50)})
	}
	problem, err := fit.New(s)
	require.NoError(t, err)
	e := problem.AsItIs()
	for i := range s.Items {
		if s.Items[i].ID == "white-spirit" {
			a := e.Admit(i, 2)
			assert.False(t, a.Found)
			assert.Contains(t, a.Why, "heater")
		}
	}
}

func TestFamiliesLiveTogetherWhenThatIsWorthSomething(t *testing.T) {
	s := made(t, 120, 16, 5)
	for i := range s.Items {
		s.Items[i].Family = []string{"a", "b", "c", "d", "e", "f"}[i%6]
	}
	places := func(w fit.Wishes) (n int, cost float64) {
		plan, err := fit.Run(s, fit.Options{Seed: 1, Iterations: 1500, Wishes: &w})
		require.NoError(t, err)
		ix := shop.NewIndex(s)
		there := map[string]bool{}
		for _, h := range plan.Homes {
			there[ix.Item(h.Item).Family+" "+h.Place] = true
		}
		assert.InDelta(t, plan.Paid.Together, w.Together*float64(len(there)-6), 1e-6, "what is paid is what is said")
		return len(there), plan.Objective
	}
	apart, cheap := places(fit.Wishes{})
	near, dear := places(fit.Wishes{Together: 200})
	assert.Less(t, near, apart-10)
	assert.Greater(t, dear, cheap)
}

func BenchmarkAdmitInAShopOfSixHundred(b *testing.B) {
	s, _ := crowded(b, 600, 60, 1)
	problem, err := fit.New(s)
	require.NoError(b, err)
	e := problem.AsItIs()
	for b.Loop() {
		a := e.Admit(len(s.Items)-1, 2)
		b.ReportMetric(float64(len(a.Moved)), "moved")
	}
}
