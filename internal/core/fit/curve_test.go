package fit_test

import (
	"math"
	"math/rand/v2"
	"slices"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"hobrak/demo"
	"hobrak/internal/core/fit"
	"hobrak/internal/core/shop"
	"hobrak/internal/core/shoptest"
)

// In small shops up to three moves are the best there are, by going through all ways to give the things hooks.
func TestFewMovesAreTheBestThereAre(t *testing.T) {
	exact, chains := 0, 0
	for seed := range shoptest.Seeds(60) {
		rng := rand.New(rand.NewPCG(seed, 3))
		s := random(4+int(seed%2), 4, seed+1)
		hooks := rng.Perm(4)
		p, err := fit.New(s)
		require.NoError(t, err)
		cost := map[string]float64{}
		for _, c := range p.Costs() {
			cost[c.Item+" "+c.Place] = c.SecondsPerWeek
		}
		for i := range s.Items { // some have none yet
			h := s.Places[hooks[i%4]].ID
			if _, ok := cost[s.Items[i].ID+" "+h]; ok && i < 4 && rng.IntN(6) > 0 {
				s.Homes = append(s.Homes, shop.Home{Item: s.Items[i].ID, Place: h})
			}
		}
		require.NoError(t, s.Validate())
		p, err = fit.New(s)
		require.NoError(t, err)
		c := p.Curve(3, fit.Options{})
		at, stays := map[string]string{}, map[string]float64{}
		for k, h := range s.Homes {
			one := s.Clone()
			one.Homes = one.Homes[k : k+1]
			one.Items = []shop.Item{*shop.NewIndex(s).Item(h.Item)}
			e, err := fit.New(one)
			require.NoError(t, err)
			at[h.Item], stays[h.Item] = h.Place, e.AsItStands()
		}
		least := [4]float64{}
		for k := range least {
			least[k] = math.Inf(1)
		}
		taken := map[string]bool{}
		var walk func(i, moved int, sum float64)
		walk = func(i, moved int, sum float64) {
			if moved > 3 {
				return
			}
			if i == len(s.Items) {
				for k := moved; k < 4; k++ {
					least[k] = min(least[k], sum)
				}
				return
			}
			it := &s.Items[i]
			if at[it.ID] == "" {
				walk(i+1, moved, sum+60*it.UsesPerWeek)
			}
			for _, h := range s.Places {
				if v, ok := cost[it.ID+" "+h.ID]; ok && !taken[h.ID] {
					taken[h.ID] = true
					if at[it.ID] == h.ID {
						walk(i+1, moved, sum+stays[it.ID])
					}
					walk(i+1, moved+1, sum+v) // also to a better spot of the same hook
					taken[h.ID] = false
				}
			}
		}
		walk(0, 0, 0)
		for k := range 4 {
			point := c.Points[0]
			for _, x := range c.Points {
				if x.Moves <= k {
					point = x
				}
			}
			require.True(t, point.Exact)
			require.InDelta(t, least[k], point.Handling, 1e-6, "seed %d: %d moves", seed, k)
			require.LessOrEqual(t, point.Least, point.Handling+1e-9)
			exact++
			if k >= 2 && point.Moves == k && least[k] < least[k-1]-1e-9 {
				chains++
			}
		}
	}
	t.Logf("%d points, %d of them of several moves", exact, chains)
	assert.Greater(t, chains, 20)
}

// Whatever a shop is like, each point of its curve keeps every rule, moves as many things as it says, costs what it says, no less than the
// bound, and never more than the one before.
func TestEveryPointOfACurveIsAsItIsSaid(t *testing.T) {
	points := 0
	for seed := range shoptest.Seeds(3) {
		s := mixed(t, seed+40)
		plan, err := fit.Run(s, fit.Options{Seed: 1, Iterations: 1})
		require.NoError(t, err)
		now := plan.Apply(s)
		for i := range now.Items { // as if it had been arranged on another day
			now.Items[i].UsesPerWeek = float64((i*37)%23) / 4
		}
		for i := range now.Homes {
			now.Homes[i].Locked = i%9 == 0
		}
		before := brokenBy(t, now, now.Homes)
		p, err := fit.New(now)
		require.NoError(t, err)
		c := p.Curve(10, fit.Options{})
		require.Greater(t, len(c.Points), 1)
		was := map[string][]shop.Home{}
		for _, h := range now.Homes {
			was[h.Item] = append(was[h.Item], h)
		}
		for k, x := range c.Points {
			points++
			homes := c.Homes(k)
			require.ElementsMatch(t, before, brokenBy(t, now, homes), "seed %d, %d moves", seed, x.Moves)
			is := map[string][]shop.Home{}
			for _, h := range homes {
				is[h.Item] = append(is[h.Item], h)
			}
			moved := map[string]bool{}
			for i := range now.Items {
				id := now.Items[i].ID
				if !assert.ObjectsAreEqual(was[id], is[id]) {
					moved[id] = true
					for _, h := range was[id] {
						if h.Locked {
							require.Contains(t, is[id], h, "%s is locked there", id)
						}
					}
				}
			}
			require.LessOrEqual(t, len(moved), x.Moves, "seed %d", seed)
			with := now.Clone()
			with.Homes = homes
			q, err := fit.New(with)
			require.NoError(t, err)
			require.InDelta(t, q.AsItStands(), x.Handling, 1e-6, "seed %d, %d moves", seed, x.Moves)
			require.LessOrEqual(t, x.Least, x.Handling+1e-9)
			if k > 0 {
				require.LessOrEqual(t, x.Handling, c.Points[k-1].Handling+1e-9)
			}
		}
	}
	t.Logf("%d points", points)
	// A plan of so many moves is that point.
	s := mixed(t, 40)
	p, err := fit.New(s)
	require.NoError(t, err)
	c := p.Curve(7, fit.Options{})
	plan := p.Run(fit.Options{Moves: 5})
	for _, x := range c.Points {
		if x.Moves <= 5 {
			assert.LessOrEqual(t, plan.Objective, x.Handling+1e-9)
		}
	}
	assert.LessOrEqual(t, len(plan.Homes), 5)
	assert.Len(t, plan.Homeless, len(s.Items)-len(plan.Homes))
	require.NoError(t, plan.Contradiction())
	for _, h := range plan.Homeless {
		assert.NotContains(t, h.Why+h.SmallestChange, "search longer")
	}
	require.Empty(t, brokenBy(t, s, plan.Homes))
	// With everything locked there is nothing to move; with more moves than there are things all are found that help.
	s.Homes = plan.Homes
	s.Items = slices.DeleteFunc(s.Items, func(it shop.Item) bool {
		return !slices.ContainsFunc(s.Homes, func(h shop.Home) bool { return h.Item == it.ID })
	})
	for i := range s.Homes {
		s.Homes[i].Locked = true
	}
	p, err = fit.New(s)
	require.NoError(t, err)
	assert.Len(t, p.Curve(10, fit.Options{}).Points, 1)
	assert.LessOrEqual(t, p.Run(fit.Options{Moves: 10}).Objective, p.AsItStands()+1e-9)
	assert.NotPanics(t, func() { p.Run(fit.Options{Moves: 100_000}) })
}

// BenchmarkCurve reports what twelve moves of the demo bring of what a whole plan brings, and what the bound allows at most.
func BenchmarkCurve(b *testing.B) {
	s := read(b, demo.Slipway)
	e, err := fit.New(s)
	require.NoError(b, err)
	plan := e.Run(fit.Options{Seed: 1})
	for b.Loop() {
		at := time.Now()
		c := e.Curve(30, fit.Options{})
		b.ReportMetric(float64(time.Since(at).Milliseconds()), "ms/curve")
		for _, k := range []int{5, 12, 30} {
			x := c.Points[k]
			name := map[int]string{5: "5", 12: "12", 30: "30"}[k]
			b.ReportMetric(100*(plan.Before-x.Handling)/(plan.Before-plan.Objective), "%gain_of_"+name)
			b.ReportMetric(100*(plan.Before-x.Least)/(plan.Before-plan.Objective), "%bound_of_"+name)
		}
	}
}
