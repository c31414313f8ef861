package fit_test

import (
	"fmt"
	"math/rand/v2"
	"runtime"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"hobrak/demo"
	"hobrak/internal/core/check"
	"hobrak/internal/core/fit"
	"hobrak/internal/core/length"
	"hobrak/internal/core/shop"
	"hobrak/internal/core/weight"
)

func read(t testing.TB, data []byte) *shop.Shop {
	t.Helper()
	s, err := shop.Read(data)
	require.NoError(t, err)
	return s
}

// keepsRules checks a plan with the checker that knows nothing of the engine.
func keepsRules(t testing.TB, s *shop.Shop, plan *fit.Plan) *shop.Shop {
	t.Helper()
	out := plan.Apply(s)
	again, err := shop.Read(shop.Write(out))
	require.NoError(t, err, "the plan is a valid shop file")
	found, err := check.Shop(again)
	require.NoError(t, err)
	for _, f := range found {
		require.False(t, f.Hard, "%s", f)
	}
	// Every piece either has a home or is named as homeless.
	have, lost := map[string]int{}, map[string]bool{}
	for i := range again.Homes {
		h := &again.Homes[i]
		have[h.Item] += h.Number(shop.NewIndex(again).Item(h.Item))
	}
	for _, h := range plan.Homeless {
		lost[h.Item] = true
		assert.NotEmpty(t, h.Why, h.Item)
	}
	for i := range again.Items {
		it := &again.Items[i]
		if it.Needs() && !lost[it.ID] {
			require.Equal(t, it.Number(), have[it.ID], "%s is homed whole", it.ID)
		}
	}
	return out
}

func TestTheDemosGetHomesThatKeepEveryRule(t *testing.T) {
	for name, c := range map[string]struct {
		data []byte
		less float64
	}{"slipway": {demo.Slipway, .35}, "pantry": {demo.Pantry, .3}} {
		t.Run(name, func(t *testing.T) {
			s := read(t, c.data)
			plan, err := fit.Run(s, fit.Options{Seed: 1, Iterations: 600})
			require.NoError(t, err)
			keepsRules(t, s, plan)
			assert.LessOrEqual(t, float64(len(plan.Homeless)), .03*float64(len(s.Items)))
			assert.LessOrEqual(t, plan.Objective, (1-c.less)*plan.Before)
			assert.LessOrEqual(t, plan.Bound, plan.Objective)
			assert.Greater(t, plan.Bound, .5*plan.Objective, "the bound says something")
		})
	}
}

func TestTheSameSeedGivesTheSamePlan(t *testing.T) {
	s := read(t, demo.Pantry)
	a, err := fit.Run(s, fit.Options{Seed: 5, Iterations: 300})
	require.NoError(t, err)
	b, err := fit.Run(s, fit.Options{Seed: 5, Iterations: 300})
	require.NoError(t, err)
	assert.Equal(t, a, b)
}

func TestMoreTriesNeverMakeItWorse(t *testing.T) {
	s := read(t, demo.Pantry)
	last := 0.0
	for i, n := range []int{1, 200, 2000} {
		p, err := fit.Run(s, fit.Options{Seed: 2, Iterations: n})
		require.NoError(t, err)
		if i > 0 {
			assert.LessOrEqual(t, p.Objective, last*1.02, "%d iterations", n)
		}
		last = p.Objective
	}
}

func TestLockedAndKeptHomesStay(t *testing.T) {
	s := read(t, demo.Slipway)
	locked := s.Homes[0]
	s.Homes[0].Locked = true
	plan, err := fit.Run(s, fit.Options{Seed: 1, Iterations: 200})
	require.NoError(t, err)
	keepsRules(t, s, plan)
	for _, h := range plan.Homes {
		if h.Item == locked.Item {
			assert.Equal(t, locked.Place, h.Place)
			assert.True(t, h.Locked)
		}
	}
	kept, err := fit.Run(s, fit.Options{Seed: 1, Iterations: 200, KeepHomes: true})
	require.NoError(t, err)
	for _, h := range s.Homes {
		assert.Contains(t, kept.Homes, h)
	}
	assert.Greater(t, len(kept.Homes), len(s.Homes), "things without a home got one")
}

func TestStoppingGivesTheBestSoFar(t *testing.T) {
	s := read(t, demo.Slipway)
	asked := 0
	e, err := fit.New(s)
	require.NoError(t, err)
	plan := e.Run(fit.Options{Seed: 1, Done: func() bool { asked++; return asked > 50 }})
	assert.LessOrEqual(t, plan.Iterations, 51)
	keepsRules(t, s, plan)
}

func TestNoPlacesAndNoItemsAreAnswersNotFailures(t *testing.T) {
	s := read(t, demo.Pantry)
	s.Places, s.Homes = nil, nil
	plan, err := fit.Run(s, fit.Options{Seed: 1})
	require.NoError(t, err)
	assert.Len(t, plan.Homeless, len(s.Items))
	assert.Contains(t, plan.Homeless[0].Why, "no place")
	s.Items = nil
	plan, err = fit.Run(s, fit.Options{Seed: 1})
	require.NoError(t, err)
	assert.Empty(t, plan.Homeless)
	assert.Zero(t, plan.Objective)
}

func TestTheBoundHoldsForTheExactOptimum(t *testing.T) {
	// Small shops: every assignment of items to hooks is tried.
	for seed := range uint64(25) {
		s := random(3+int(seed%3), 3, seed)
		e, err := fit.New(s)
		require.NoError(t, err)
		plan := e.Run(fit.Options{Seed: 1, Iterations: 3000})
		best := enumerate(s, e.Costs())
		assert.LessOrEqual(t, plan.Bound, best+1e-6, "seed %d", seed)
		assert.InDelta(t, best, plan.Objective, 1e-6, "seed %d: the engine finds the optimum", seed)
	}
}

// random makes a shop whose places are hooks for one thing each, so that the
// optimum can be found by trying everything.
func random(items, hooks int, seed uint64) *shop.Shop {
	rng := rand.New(rand.NewPCG(seed, 1))
	s, err := shop.Read(demo.Pantry)
	if err != nil {
		panic(err)
	}
	s.Items, s.Homes, s.Places, s.Containers = nil, nil, nil, nil
	for i := range hooks {
		s.Places = append(s.Places, shop.Place{ID: fmt.Sprintf("H%d", i), Kind: "hook", At: shop.At{Wall: []string{"A", "C"}[i%2], X: length.MM(300 + 600*float64(i)), Z: length.MM(400 + 500*float64(rng.IntN(4)))},
			W: length.MM(200 + 100*float64(rng.IntN(2))), H: length.MM(300), D: length.MM(200)})
	}
	for i := range items {
		s.Items = append(s.Items, shop.Item{ID: fmt.Sprintf("i%d", i), Name: "Thing", W: length.MM(150 + 100*float64(rng.IntN(2))), H: length.MM(250), D: length.MM(80), KG: weight.KG(.5),
			Hold: []shop.Hold{"hang"}, UsesPerWeek: float64(1 + rng.IntN(9)), UsedAt: []string{s.Stations[rng.IntN(len(s.Stations))].ID}})
	}
	return s
}

func enumerate(s *shop.Shop, costs []fit.Alone) float64 {
	cost := map[string]float64{}
	for _, c := range costs {
		cost[c.Item+" "+c.Place] = c.SecondsPerWeek
	}
	taken := map[string]bool{}
	var try func(i int) float64
	try = func(i int) float64 {
		if i == len(s.Items) {
			return 0
		}
		best := 60*s.Items[i].UsesPerWeek + 1e7 + try(i+1) // a home for all comes first
		for _, p := range s.Places {
			if c, ok := cost[s.Items[i].ID+" "+p.ID]; ok && !taken[p.ID] {
				taken[p.ID] = true
				best = min(best, c+try(i+1))
				taken[p.ID] = false
			}
		}
		return best
	}
	best := try(0)
	for best > 1e7 {
		best -= 1e7
	}
	return best
}

func engineAsItIs(t *testing.T, data []byte) (*shop.Shop, *fit.Arrangement, map[string]int) {
	s := read(t, data)
	problem, err := fit.New(s)
	require.NoError(t, err)
	e := problem.AsItIs()
	at := map[string]int{}
	for i := range s.Items {
		at[s.Items[i].ID] = i
	}
	return s, e, at
}

func TestTryAnswersWhatForbidsASpot(t *testing.T) {
	_, e, at := engineAsItIs(t, demo.Slipway)
	a := e.Try(at["shop-vacuum"], shop.Home{Place: "B1"})
	assert.False(t, a.Allowed)
	assert.Contains(t, a.Why, "holds hang")
	a = e.Try(at["broom"], shop.Home{Place: "A2"})
	assert.True(t, a.Allowed || a.Why != "")
	a = e.Try(at["larch-plank-4-8-m"], shop.Home{Place: "C2"})
	assert.Contains(t, a.Why, "too long for the arms")
}

func TestFindGivesAHomeThatTryAllows(t *testing.T) {
	s, e, at := engineAsItIs(t, demo.Slipway)
	found := 0
	for id, i := range at {
		a, ok := e.Find(i)
		if !ok {
			assert.NotEmpty(t, a.Why, id)
			continue
		}
		found++
		assert.True(t, a.Allowed, id)
		again := e.Try(i, a.Home)
		assert.Equal(t, a.Home, again.Home, id)
		assert.InDelta(t, a.Here, again.Here, 1e-9)
	}
	assert.Greater(t, found, len(s.Items)/2)
}

func TestReasonsAddUpToTheSecondsAWeek(t *testing.T) {
	s, e, at := engineAsItIs(t, demo.Slipway)
	checked := 0
	for i := range s.Homes {
		h := &s.Homes[i]
		it := &s.Items[at[h.Item]]
		if len(it.UsedAt) != 1 || h.N != 0 {
			continue
		}
		r := e.Explain(at[h.Item], h)
		if r.Fetch == 0 {
			continue
		}
		checked++
		assert.InDelta(t, r.Seconds, it.UsesPerWeek*(r.Fetch+r.PutBack), 1e-6, "%s in %s", h.Item, h.Place)
		for _, b := range r.Better {
			assert.Less(t, b.Seconds, r.Seconds+.05)
		}
	}
	assert.Greater(t, checked, 50)
}

// large makes a shop of many items and wall fields for the benchmarks.
func large(items, places int) *shop.Shop {
	rng := rand.New(rand.NewPCG(uint64(items), uint64(places)))
	wide := 60000.0
	s, _ := shop.Read([]byte(fmt.Sprintf(`{"format":"hobrak-shop","version":1,"shop":{"name":"Large","units":"metric"},"areas":[{"id":"main",
		"corners":[[0,0],[0,8000],[%v,8000],[%v,0]],"walls":[{"id":"A","profile":[[0,3000],[8000,3000]],"claimed":true},{"id":"B","profile":[[0,3000],[%v,3000]],"claimed":true},
		{"id":"C","profile":[[0,3000],[8000,3000]],"claimed":true},{"id":"D","profile":[[0,3000],[%v,3000]],"claimed":true}]}]}`, wide, wide, wide, wide)))
	for i := range 12 {
		x := 1500 + 4500*float64(i)
		s.Stations = append(s.Stations, shop.Station{ID: fmt.Sprintf("s%d", i), Name: "Bench", Kind: "bench", X: length.MM(x), Y: length.MM(3500), W: length.MM(1800), D: length.MM(700), H: length.MM(900),
			Stand: shop.Point{length.MM(x + 900), length.MM(3200)}})
	}
	for i := range places {
		wall := []string{"B", "D"}[i%2]
		p := shop.Place{ID: fmt.Sprintf("p%d", i), Kind: "wall-field", Style: "board", At: shop.At{Wall: wall, X: length.MM(float64(i/2) * (wide - 2000) / float64(places/2+1)), Z: length.MM(900)},
			W: length.MM(1500), H: length.MM(1000), D: length.MM(300), Capacity: weight.KG(60)}
		if i%5 == 4 {
			p.Kind, p.Style, p.H = "shelf", "", length.MM(400)
		}
		s.Places = append(s.Places, p)
	}
	for i := range items {
		s.Items = append(s.Items, shop.Item{ID: fmt.Sprintf("i%d", i), Name: "Thing", W: length.MM(30 + 200*rng.Float64()), H: length.MM(60 + 300*rng.Float64()), D: length.MM(20 + 150*rng.Float64()),
			KG: weight.KG(2 * rng.Float64()), Hold: []shop.Hold{"hang", "stand"}, UsesPerWeek: 5 * rng.Float64(), UsedAt: []string{fmt.Sprintf("s%d", rng.IntN(12))}})
	}
	return s
}

func BenchmarkFitOfSixHundredThingsInSixtyPlaces(b *testing.B) {
	s := large(600, 60)
	for b.Loop() {
		deadline := time.Now().Add(4500 * time.Millisecond)
		plan, err := fit.Run(s, fit.Options{Seed: 1, Done: func() bool { return time.Now().After(deadline) }})
		require.NoError(b, err)
		var mem runtime.MemStats
		runtime.ReadMemStats(&mem)
		b.ReportMetric(100*plan.Gap(), "gap-%")
		b.ReportMetric(float64(len(plan.Homeless)), "homeless")
		b.ReportMetric(float64(plan.Iterations), "tries")
		b.ReportMetric(float64(mem.Sys)/(1<<20), "MB")
	}
}

func BenchmarkFitOfTheSlipway(b *testing.B) {
	s := read(b, demo.Slipway)
	for b.Loop() {
		deadline := time.Now().Add(1800 * time.Millisecond)
		plan, err := fit.Run(s, fit.Options{Seed: 1, Done: func() bool { return time.Now().After(deadline) }})
		require.NoError(b, err)
		b.ReportMetric(100*(plan.Before-plan.Objective)/plan.Before, "less-%")
		b.ReportMetric(100*plan.Gap(), "gap-%")
		b.ReportMetric(float64(len(plan.Homeless)), "homeless")
	}
}

func BenchmarkTryWhileDragging(b *testing.B) {
	s := read(b, demo.Slipway)
	problem, err := fit.New(s)
	require.NoError(b, err)
	e := problem.AsItIs()
	for b.Loop() {
		e.Try(0, shop.Home{Place: "D1", X: length.MM(700), Z: length.MM(200)})
	}
}
