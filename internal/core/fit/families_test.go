package fit_test

import (
	"fmt"
	"math/rand/v2"
	"slices"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"hobrak/internal/core/fit"
	"hobrak/internal/core/length"
	"hobrak/internal/core/shop"
)

// hosts in which a family of the plan lives.
func hosts(s *shop.Shop, homes []shop.Home, family string) (out []string) {
	ix := shop.NewIndex(s)
	for _, h := range homes {
		if ix.Item(h.Item).Family == family && !slices.Contains(out, h.Place) {
			out = append(out, h.Place)
		}
	}
	return out
}

func TestFamiliesThatMustStayTogetherDo(t *testing.T) {
	torn := 0
	for seed := range uint64(4) {
		s := made(t, 200, 24, seed+1)
		rng := rand.New(rand.NewPCG(seed, 5))
		for i := range s.Items {
			if k := rng.IntN(40); k < 4 && s.Items[i].Hold[0] == "hang" {
				s.Items[i].Family = fmt.Sprintf("family %d", k)
			}
		}
		free, err := fit.Run(s, fit.Options{Seed: 1, Iterations: 800})
		require.NoError(t, err)
		s.Settings.Together = []string{"family 0", "family 1", "family 2"}
		plan, err := fit.Run(s, fit.Options{Seed: 1, Iterations: 800})
		require.NoError(t, err)
		out := keepsRules(t, s, plan) // which has a rule of its own for this
		for _, f := range s.Settings.Together {
			assert.LessOrEqual(t, len(hosts(s, plan.Homes, f)), 1, f)
			torn += max(0, len(hosts(s, free.Homes, f))-1)
		}
		assert.LessOrEqual(t, len(plan.Homeless), len(free.Homeless)+1, "they find room together")
		assert.Less(t, plan.Objective, 1.1*free.Objective)
		// Nor is one of them let go elsewhere by hand.
		problem, err := fit.New(out)
		require.NoError(t, err)
		e := problem.AsItIs()
		for i := range out.Items {
			it := &out.Items[i]
			if it.Family != "family 0" {
				continue
			}
			for k := range out.Places {
				if p := &out.Places[k]; p.Kind == "wall-field" && p.ID != hosts(s, plan.Homes, "family 0")[0] {
					if a := e.Try(i, shop.Home{Place: p.ID, X: p.W / 2, Z: p.H / 2}); !a.Allowed {
						torn += 100
						if a.Why == "family 0 must stay together, and live in "+hosts(s, plan.Homes, "family 0")[0] {
							torn += 1000
						}
					}
					assert.False(t, e.Try(i, shop.Home{Place: p.ID, X: p.W / 2, Z: p.H / 2}).Allowed)
				}
			}
		}
	}
	assert.Greater(t, torn, 1000, "without the rule they are torn apart, and the reason is told")
}

func TestRoomIsKeptForGrowthWhereThatIsWorthSomething(t *testing.T) {
	s := made(t, 100, 16, 3)
	s.Settings.GrowthReserve = .4
	over := func(price float64) (sum, cost float64) {
		w := fit.Wishes{Reserve: price}
		plan, err := fit.Run(s, fit.Options{Seed: 1, Iterations: 1500, Wishes: &w})
		require.NoError(t, err)
		problem, err := fit.New(keepsRules(t, s, plan))
		require.NoError(t, err)
		e := problem.AsItIs()
		for i := range s.Places {
			if s.Places[i].Kind != "slots" {
				sum += max(0, e.Fill(i)-.6)
			}
		}
		assert.InDelta(t, 10*price*sum, plan.Paid.Reserve, 1e-6, "what is paid is what is said")
		return sum, plan.Objective
	}
	full, cheap := over(0)
	eased, dear := over(30)
	assert.Less(t, eased, full/3)
	assert.Greater(t, dear, .995*cheap, "nothing is gained by it but room")
}

func TestWallIsLeftFreeWhereThatIsWorthSomething(t *testing.T) {
	s := made(t, 60, 24, 3)
	wall := func(price float64) (m2 float64) {
		w := fit.Wishes{Wall: price}
		plan, err := fit.Run(s, fit.Options{Seed: 1, Iterations: 1500, Wishes: &w})
		require.NoError(t, err)
		ix := shop.NewIndex(s)
		for i := range s.Places {
			p := &s.Places[i]
			if p.At.Wall != "" && slices.ContainsFunc(plan.Homes, func(h shop.Home) bool { return ix.Place(h.Place).ID == p.ID }) {
				m2 += p.W.MM() * p.H.MM() / 1e6
			}
		}
		assert.InDelta(t, price*m2, plan.Paid.Wall, 1e-6)
		return m2
	}
	assert.Less(t, wall(300), .8*wall(0))
}

func TestOnlyWhatIsAskedForGetsAnotherHome(t *testing.T) {
	s := made(t, 80, 12, 2)
	first, err := fit.Run(s, fit.Options{Seed: 1, Iterations: 20})
	require.NoError(t, err)
	now := first.Apply(s)
	asked := []string{}
	for i := range now.Items {
		if i%5 == 0 {
			asked = append(asked, now.Items[i].ID)
			now.Homes = slices.DeleteFunc(now.Homes, func(h shop.Home) bool { return h.Item == now.Items[i].ID })
		}
	}
	now.Items = append(now.Items, shop.Item{ID: "other", Name: "Other", Count: 4, W: length.MM(50), H: length.MM(50), D: length.MM(20), Hold: []shop.Hold{"hang"}, UsesPerWeek: 5})
	plan, err := fit.Run(now, fit.Options{Seed: 1, Iterations: 300, Items: asked})
	require.NoError(t, err)
	got := map[string]bool{}
	for _, h := range plan.Homes {
		got[h.Item] = true
		if !slices.Contains(asked, h.Item) {
			assert.Contains(t, now.Homes, h, "what was not asked for stays")
		}
	}
	for _, id := range asked {
		assert.True(t, got[id] || slices.ContainsFunc(plan.Homeless, func(l shop.Homeless) bool { return l.Item == id }))
	}
	assert.False(t, got["other"])
}

func TestAPlaceIsWorthWhatItsThingsWouldLose(t *testing.T) {
	s := made(t, 60, 12, 4)
	plan, err := fit.Run(s, fit.Options{Seed: 1, Iterations: 300})
	require.NoError(t, err)
	now := plan.Apply(s)
	problem, err := fit.New(now)
	require.NoError(t, err)
	e := problem.AsItIs()
	before := e.AsItStands()
	ix := shop.NewIndex(now)
	most := 0
	for i := range now.Places {
		w := e.WorthOf(now.Places[i].ID)
		last := 1e18
		for _, g := range w.Gains {
			assert.LessOrEqual(t, g.Seconds, last)
			last = g.Seconds
			if g.Next == "" {
				continue
			}
			// Where it would go is allowed and costs as much more.
			item := slices.IndexFunc(now.Items, func(it shop.Item) bool { return it.ID == g.Item })
			out := now.Clone()
			out.Places = slices.DeleteFunc(out.Places, func(p shop.Place) bool { return p.ID == now.Places[i].ID })
			out.Homes = slices.DeleteFunc(out.Homes, func(h shop.Home) bool { return h.Place == now.Places[i].ID && h.Item != g.Item || h.Item == g.Item })
			if len(ix.Homes(g.Item)) != 1 || most >= 6 {
				continue
			}
			problem, err := fit.New(out)
			require.NoError(t, err)
			other := problem.AsItIs()
			a, ok := other.Find(item)
			require.True(t, ok)
			assert.InDelta(t, e.Seconds(item)+g.Seconds, a.Here, 1e-6)
			most++
		}
	}
	assert.GreaterOrEqual(t, most, 4)
	assert.InDelta(t, before, e.AsItStands(), 1e-9, "the engine is left as it was")
}
