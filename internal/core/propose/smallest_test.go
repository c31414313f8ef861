package propose_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"hobrak/demo"
	"hobrak/internal/core/fit"
	"hobrak/internal/core/length"
	"hobrak/internal/core/propose"
	"hobrak/internal/core/quantity"
	"hobrak/internal/core/shop"
	"hobrak/internal/core/weight"
)

func TestWhatNoPlaceTakesIsToldWhichPlaceWould(t *testing.T) {
	s, err := shop.Read(demo.Slipway)
	require.NoError(t, err)
	s.Items = append(s.Items,
		shop.Item{ID: "wardrobe", Name: "Wardrobe", W: length.MM(4000), H: length.MM(3300), D: length.MM(2700), KG: weight.KG(60), Hold: []shop.Hold{"stand"}, UsesPerWeek: 1})
	plan, err := fit.Run(s, fit.Options{Seed: 1, Iterations: 20, KeepHomes: true})
	require.NoError(t, err)
	require.NoError(t, propose.Answer(s, plan, func() bool { return false }))
	says := map[string]string{}
	for _, h := range plan.Homeless {
		says[h.Item] = h.SmallestChange
	}
	assert.Equal(t, "neither walls, ceiling nor floor have room for a place that would hold it", says["wardrobe"])

	// With no place at all every thing is answered with one.
	bare := s.Clone()
	bare.Places, bare.Containers, bare.Homes, bare.Modes = nil, nil, nil, nil
	for i := range bare.Items {
		if bare.Items[i].ID == "jack-plane" {
			bare.Items = bare.Items[i : i+1]
			break
		}
	}
	require.NoError(t, bare.Validate())
	plan, err = fit.Run(bare, fit.Options{Seed: 1, Iterations: 20})
	require.NoError(t, err)
	require.Len(t, plan.Homeless, 1)
	require.NoError(t, propose.Answer(bare, plan, func() bool { return false }))
	assert.Regexp(t, `^make a .+, \d+ × \d+ × \d+ mm, (on|before) wall [A-Z]`, quantity.Metric(plan.Homeless[0].SmallestChange))
}
