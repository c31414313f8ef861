package fit_test

import (
	"slices"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"hobrak/demo"
	"hobrak/internal/core/access"
	"hobrak/internal/core/fit"
	"hobrak/internal/core/geometry"
	"hobrak/internal/core/length"
	"hobrak/internal/core/scene"
	"hobrak/internal/core/shop"
	"hobrak/internal/core/shoptest"
	"hobrak/internal/core/walk"
)

func never() bool { return false }

// weekOf a shop in its modes, worked out from what each thing costs in each of them by itself: its uses fall into the hours in which one can work
// at its stations, alike for each hour at each of them. Boxed counts the things that are used at none in some mode.
func weekOf(t *testing.T, s *shop.Shop, scenes *scene.Scenes) (sum float64, boxed int) {
	costs, uses := make([]float64, len(s.Items)), make([]float64, len(s.Items))
	plain := make([]float64, len(s.Items))
	for _, x := range scenes.All {
		then, err := s.InMode(x.Mode)
		require.NoError(t, err)
		ix := shop.NewIndex(then)
		open := map[string]bool{} // stations at which one can stand
		for i := range then.Stations {
			st := &then.Stations[i]
			area := ix.Area(st.Area)
			var feet []geometry.Polygon
			for _, o := range access.StandingIn(then, ix, area) {
				feet = append(feet, o.Footprint)
			}
			spot, ok := walk.NewFloor(area.Outline(), feet, walk.BodyRadius).Nearest(st.Stand.Geometry())
			open[st.ID] = ok && spot.Distance(st.Stand.Geometry()) <= 600
		}
		one, err := fit.New(then)
		require.NoError(t, err)
		for i := range then.Items {
			at := slices.DeleteFunc(slices.Clone(then.Items[i].UsedAt), func(id string) bool { return ix.Station(id) == nil })
			if len(at) == 0 && len(then.Stations) > 0 {
				at = []string{then.Stations[0].ID}
			}
			n := 0.0
			for _, id := range at {
				if open[id] {
					n++
				}
			}
			if len(at) == 0 {
				n = 1
			}
			if !then.Items[i].Needs() {
				continue
			}
			if n == 0 {
				boxed++
			}
			plain[i] += x.Share * one.Seconds(i)
			costs[i] += x.Share * n * one.Seconds(i)
			uses[i] += x.Share * n
		}
	}
	for i := range costs {
		if uses[i] > 0 {
			sum += costs[i] / uses[i]
		} else {
			sum += plain[i]
		}
	}
	return sum, boxed
}

func TestAWeekIsTheMeanOfItsModesByTheirHours(t *testing.T) {
	with, barred, boxed := 0, 0, 0
	for seed := range shoptest.Seeds(16) {
		s := shoptest.Random(seed, shoptest.Size{Areas: 2, Stations: 4, Containers: 5, Places: 10, Items: 15, Homes: true, Modes: 4})
		if len(s.Modes) > 0 && len(s.Stations) > 0 && seed%2 == 0 { // something large where one would stand
			st := &s.Stations[0]
			s.Containers = append(s.Containers, shop.Container{ID: "hull", Name: "Hull", Kind: "trolley", At: shop.At{Away: true}, W: length.MM(2600), H: length.MM(900), D: length.MM(2200)})
			m := &s.Modes[int(seed/2)%len(s.Modes)]
			if m.Spots == nil {
				m.Spots = map[string]shop.Standing{}
			}
			m.Spots["hull"] = shop.Standing{Floor: shop.Point{st.Stand[0] - length.MM(1300), st.Stand[1] - length.MM(1100)}}
			if s.Validate() != nil {
				continue
			}
		}
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
		want, n := weekOf(t, s, scenes)
		boxed += n
		// What is barred in every mode counts 60 s a use in both; so the two agree.
		require.InDelta(t, want, p.AsItStands(), 1e-6*max(1, want), "seed %d", seed)
		require.InDelta(t, want, scenes.Week(s.Homes), 1e-6*max(1, want), "seed %d", seed)
		plan := p.Run(fit.Options{Seed: seed, Iterations: 60})
		require.NoError(t, plan.Contradiction(), "seed %d", seed)
		require.NoError(t, shoptest.Finite(plan))
		after := plan.Apply(s)
		sum, _ := weekOf(t, after, scenes)
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
	assert.Positive(t, boxed, "something is used at no station in a mode")
	assert.Positive(t, barred, "some homes cannot be reached in a mode, and still pay")
	t.Logf("%d shops, %d things used at no station in a mode, %d homes out of reach in one", with, boxed, barred)
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
