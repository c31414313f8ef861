package fit_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"hobrak/internal/core/fit"
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
