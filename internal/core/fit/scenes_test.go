package fit_test

import (
	"slices"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"hobrak/demo"
	"hobrak/internal/core/fit"
	"hobrak/internal/core/scene"
	"hobrak/internal/core/shop"
	"hobrak/internal/core/shoptest"
)

func never() bool { return false }

func TestAWeekIsTheMeanOfItsModesByTheirHours(t *testing.T) {
	with, barred := 0, 0
	for seed := range shoptest.Seeds(12) {
		s := shoptest.Random(seed, shoptest.Size{Areas: 2, Stations: 4, Containers: 5, Places: 10, Items: 15, Homes: true, Modes: 4})
		scenes, err := scene.ByHours(s)
		require.NoError(t, err)
		p, err := fit.In(scenes, never)
		require.NoError(t, err)
		shares := 0.0
		for _, x := range scenes.All {
			shares += x.Share
		}
		require.InDelta(t, 1, shares, 1e-9)
		if scenes.All[0].Mode == "" {
			continue
		}
		with++
		// Each mode by itself is a shop in which things stand so: an engine of its own judges it.
		want := 0.0
		for _, x := range scenes.All {
			then, err := s.InMode(x.Mode)
			require.NoError(t, err)
			one, err := fit.New(then)
			require.NoError(t, err)
			want += x.Share * one.AsItStands()
		}
		asIs := p.AsItStands()
		// What is barred in every mode counts 60 s a use in both; so the two agree.
		require.InDelta(t, want, asIs, 1e-6*max(1, want), "seed %d", seed)
		plan := p.Run(fit.Options{Seed: seed, Iterations: 60})
		require.NoError(t, plan.Contradiction(), "seed %d", seed)
		require.NoError(t, shoptest.Finite(plan))
		after := plan.Apply(s)
		sum := 0.0
		for _, x := range scenes.All {
			then, err := after.InMode(x.Mode)
			require.NoError(t, err)
			one, err := fit.New(then)
			require.NoError(t, err)
			sum += x.Share * one.AsItStands()
		}
		require.InDelta(t, sum, plan.Objective, 1e-6*max(1, sum), "seed %d: the plan costs what its modes cost", seed)
		for i := range after.Homes {
			h := &after.Homes[i]
			u := p.Map().UseOf(p.Map().Index.Item(h.Item))
			if _, not := scenes.Where(&u, p.Map().PlaceNumber(h.Place), fit.GripOf(after, h)); len(not) > 0 {
				barred++
			}
		}
	}
	assert.Greater(t, with, 5)
	assert.Positive(t, barred, "some homes cannot be reached in a mode, and still pay")
}

func TestWhatCannotBeReachedInALongModeGoesElsewhere(t *testing.T) {
	s, err := shop.Read(demo.Slipway)
	require.NoError(t, err)
	// The clamp cart is out of the shop all the while but for an hour.
	k := slices.IndexFunc(s.Modes, func(m shop.Mode) bool { return m.ID == "evening" })
	s.Modes[k].Spots["K3"] = shop.Standing{State: "away"}
	inCart := func(hours float64) (uses float64) {
		s.Modes[k].HoursPerWeek = hours
		scenes, err := scene.ByHours(s)
		require.NoError(t, err)
		p, err := fit.In(scenes, never)
		require.NoError(t, err)
		plan := p.Run(fit.Options{Seed: 1, Iterations: 600})
		require.NoError(t, plan.Contradiction())
		for _, h := range plan.Homes {
			if pl := p.Map().Index.Place(h.Place); pl.At.In == "K3" {
				it := p.Map().Index.Item(h.Item)
				uses += it.UsesPerWeek * float64(h.Number(it)) / float64(it.Number())
			}
		}
		return uses
	}
	seldom, mostly := inCart(.5), inCart(150)
	assert.Less(t, mostly, seldom, "%.1f uses a week from the cart while it is there, %.1f once it is away", seldom, mostly)
}
