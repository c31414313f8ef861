package fit_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"hobrak/internal/core/fit"
	"hobrak/internal/core/length"
	"hobrak/internal/core/shop"
	"hobrak/internal/core/shoptest"
	"hobrak/internal/core/weight"
)

// What is worked at in halves is put together to a plan that keeps every rule, with
// hazards, rated cases and families that reach across the cut.
func TestAPlanMadeInHalvesKeepsEveryRule(t *testing.T) {
	for seed := range shoptest.Seeds(1) {
		s := made(t, 300, 32, seed+1)
		for i := range s.Items {
			switch i % 20 {
			case 3:
				s.Items[i].Flags = []shop.Flag{"flammable"}
			case 11:
				s.Items[i].Flags = []shop.Flag{"charger"}
			}
			s.Items[i].Family = []string{"", "planes", "chisels", "clamps"}[i%4]
		}
		for i := range s.Places {
			if s.Places[i].Kind == "drawer" {
				s.Places[i].Capacity = weight.KG(6)
			}
		}
		require.NoError(t, s.Validate())
		plan, err := fit.Run(s, fit.Options{Seed: 1, Iterations: 1500})
		require.NoError(t, err)
		keepsRules(t, s, plan)
		assert.LessOrEqual(t, plan.Bound, plan.Objective+1e-6)
		again, err := fit.Run(s, fit.Options{Seed: 1, Iterations: 1500})
		require.NoError(t, err)
		assert.Equal(t, plan.Homes, again.Homes, "the same seed gives the same plan")
	}
}

// Four that are used much go to the bench as far as there is room, the others
// elsewhere, when all of them have room together only far away.
func TestThingsThatAreSeveralArePartedWhereThatPays(t *testing.T) {
	s := made(t, 1, 17, 1)
	s.Items = []shop.Item{{ID: "squares", Name: "Squares", W: length.MM(180), H: length.MM(250), D: length.MM(20), Count: 4, Hold: []shop.Hold{"hang"}, UsesPerWeek: 40, UsedAt: []string{"s0"}}}
	// A field with room for two beside the bench, and one with room for all at the far end.
	near, far := s.Places[0], s.Places[16]
	for _, p := range []*shop.Place{&near, &far} {
		p.Kind, p.Style, p.Rows = "wall-field", "board", nil
		p.H = length.MM(280)
	}
	near.W, far.W = length.MM(420), length.MM(1200)
	s.Places = []shop.Place{near, far}
	require.NoError(t, s.Validate())
	plan, err := fit.Run(s, fit.Options{Seed: 1, Iterations: 200})
	require.NoError(t, err)
	keepsRules(t, s, plan)
	there := map[string]int{}
	for i := range plan.Homes {
		there[plan.Homes[i].Place] += plan.Homes[i].Number(&s.Items[0])
	}
	assert.Equal(t, map[string]int{near.ID: 2, far.ID: 2}, there)
}

// Whatever the searches tried last, in halves or each on the whole, they go on from one
// plan: a shop too full for its things has both pack places anew, each in its own way.
func TestHalvesOfACrowdedShopDoNotGetInEachOthersWay(t *testing.T) {
	for seed := range uint64(2) {
		s := made(t, 420, 24, seed+1)
		plan, err := fit.Run(s, fit.Options{Seed: seed, Iterations: 2500})
		require.NoError(t, err)
		keepsRules(t, s, plan)
		assert.NotEmpty(t, plan.Homeless, "it is crowded")
	}
}
