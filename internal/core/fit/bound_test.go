package fit_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"hobrak/internal/core/fit"
	"hobrak/internal/core/length"
	"hobrak/internal/core/pack"
	"hobrak/internal/core/shop"
	"hobrak/internal/core/weight"
)

// No plan may cost less than the bound, whatever the shop and however it is found.
func TestTheBoundIsNeverAboveAPlan(t *testing.T) {
	rapid.Check(t, func(rt *rapid.T) {
		seed := rapid.Uint64Range(1, 1e6).Draw(rt, "seed")
		var s *shop.Shop
		if rapid.Bool().Draw(rt, "mixed") {
			s = mixed(t, seed)
		} else {
			s = made(t, rapid.IntRange(5, 90).Draw(rt, "items"), rapid.IntRange(1, 16).Draw(rt, "places"), seed)
		}
		keep := rapid.Bool().Draw(rt, "keep homes")
		e, err := fit.New(s)
		require.NoError(t, err)
		plan := e.Run(fit.Options{Seed: seed, Iterations: 400, KeepHomes: keep})
		if plan.Bound > plan.Objective {
			rt.Fatalf("bound %.6f above the plan's %.6f", plan.Bound, plan.Objective)
		}
		if keep {
			return
		}
		// Some things stay where the plan put them: the rest cannot cost less than the new bound says.
		next := plan.Apply(s)
		for i := range next.Homes {
			next.Homes[i].Locked = i%3 == 0
		}
		again, err := fit.Run(next, fit.Options{Seed: seed, Iterations: 200})
		require.NoError(t, err)
		if again.Bound > again.Objective || again.Bound > plan.Objective+1e-6 {
			rt.Fatalf("bound %.6f with locked homes, the plans cost %.6f and %.6f", again.Bound, again.Objective, plan.Objective)
		}
	})
}

func TestTheBoundSeesClearanceColumnsAndBands(t *testing.T) {
	// Where every place is crowded the bound must say more than that each thing has its best spot.
	s := made(t, 60, 8, 3)
	plan, err := fit.Run(s, fit.Options{Seed: 1, Iterations: 3000})
	require.NoError(t, err)
	assert.Less(t, plan.Gap(), .03)
	assert.Greater(t, plan.Bound, 0.0)
}

// What a rule forbids no longer can only help: in shops so small that the engine finds
// the best plan, the plan without the rule is at least as good.
func TestRelaxingARuleNeverMakesAPlanWorse(t *testing.T) {
	relaxed := map[string]func(*shop.Shop){
		"rated loads": func(s *shop.Shop) {
			for i := range s.Places {
				s.Places[i].Capacity = 0
			}
		},
		"hazards": func(s *shop.Shop) {
			for i := range s.Items {
				s.Items[i].Flags = nil
			}
		},
		"weights": func(s *shop.Shop) {
			for i := range s.Items {
				s.Items[i].KG = 0
			}
		},
		"locks": func(s *shop.Shop) {
			for i := range s.Homes {
				s.Homes[i].Locked = false
			}
		},
	}
	helped := 0
	for seed := range uint64(20) {
		s := made(t, 9, 4, seed+1)
		for i := range s.Places {
			s.Places[i].Capacity = weight.KG(1.5)
		}
		for i := range s.Items {
			s.Items[i].KG *= 4
			s.Items[i].Count = 1
			switch i % 4 {
			case 0:
				s.Items[i].Flags = []shop.Flag{"flammable"}
			case 1:
				s.Items[i].Flags = []shop.Flag{"charger"}
			}
		}
		first, err := fit.Run(s, fit.Options{Seed: seed, Iterations: 1, Wishes: &fit.Wishes{}})
		require.NoError(t, err)
		s.Homes = first.Homes
		for i := range s.Homes {
			s.Homes[i].Locked = i == 0
		}
		value := func(s *shop.Shop) float64 {
			plan, err := fit.Run(s, fit.Options{Seed: seed, Iterations: 1500, Wishes: &fit.Wishes{}})
			require.NoError(t, err)
			return plan.Objective + 1e5*float64(len(plan.Homeless))
		}
		strict := value(s)
		for name, relax := range relaxed {
			next := s.Clone()
			relax(next)
			free := value(next)
			assert.LessOrEqual(t, free, strict+1e-6, "seed %d without %s", seed, name)
			if free < strict-1e-6 {
				helped++
			}
		}
	}
	assert.Greater(t, helped, 10, "the rules bite in some of them")
}

// Where room costs nothing, no spot of an empty place costs less than the bound says of it, however many pieces hang there and in what
// rows, heavy or watched by a rule.
func TestTheBoundOfOnePlaceIsThatOfItsBestSpot(t *testing.T) {
	rapid.Check(t, func(rt *rapid.T) {
		s := made(t, 24, 8, rapid.Uint64Range(1, 1e6).Draw(rt, "seed"))
		item := rapid.IntRange(0, len(s.Items)-1).Draw(rt, "item")
		it := &s.Items[item]
		it.Count = rapid.IntRange(1, 5).Draw(rt, "count")
		it.KG = weight.KG(rapid.Float64Range(.1, 14).Draw(rt, "kg"))
		if rapid.Bool().Draw(rt, "hangs") {
			it.Hold = []shop.Hold{"hang"}
		}
		it.Flags = [][]shop.Flag{nil, {"sharp"}, {"child"}}[rapid.IntRange(0, 2).Draw(rt, "flag")]
		s.Settings.People = append(s.Settings.People, shop.Person{ID: "child", Stature: length.MM(rapid.Float64Range(1000, 1450).Draw(rt, "child")), Child: true})
		e, err := fit.New(s)
		require.NoError(t, err)
		n := rapid.IntRange(1, it.Count).Draw(rt, "pieces")
		for place := range s.Places {
			if least, found := e.LeastBlock(item, n, place), e.CheapestSpot(item, n, place, manySpots(&s.Places[place], n)); least > found+1e-9 {
				rt.Fatalf("%d of %s (%s, %s) in %s: the bound says %.6f, and there is a spot for %.6f", n, it.ID, it.Flags, it.KG, s.Places[place].ID, least, found)
			}
		}
	})
}

// What is too heavy for the heights at which a field is cheapest does not count there.
func TestTheBoundDoesNotHangAThingWhereItCannotBeLifted(t *testing.T) {
	s := made(t, 600, 60, 2)
	const item, place = 78, 40 // heavy, over a bench
	e, err := fit.New(s)
	require.NoError(t, err)
	found := e.CheapestSpot(item, 1, place, manySpots(&s.Places[place], 1))
	least := e.LeastBlock(item, 1, place)
	assert.InEpsilon(t, found, least, 1e-6)
	s.Items[item].KG = weight.KG(1)
	e, err = fit.New(s)
	require.NoError(t, err)
	assert.Less(t, e.LeastBlock(item, 1, place), least*.8, "a light one hangs at a better height")
}

// manySpots of a field for n pieces, in rows of every length.
func manySpots(p *shop.Place, n int) (out []pack.Spot) {
	for cols := 1; cols <= n; cols++ {
		if p.Style == "cleat" && cols < n {
			continue // what hangs from several rails is several homes
		}
		for x := length.Length(0); x < p.W; x += length.MM(47) {
			for y := length.Length(0); y < p.H; y += length.MM(23) {
				out = append(out, pack.Spot{X: x, Y: y, Cols: cols})
			}
		}
	}
	return out
}
