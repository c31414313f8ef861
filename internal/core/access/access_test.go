package access_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"hobrak/demo"
	"hobrak/internal/core/access"
	"hobrak/internal/core/keeping"
	"hobrak/internal/core/length"
	"hobrak/internal/core/reach"
	"hobrak/internal/core/shop"
)

func slipway(t *testing.T, change func(*shop.Shop)) (*shop.Shop, *access.Map) {
	s, err := shop.Read(demo.Slipway)
	require.NoError(t, err)
	if change != nil {
		change(s)
	}
	m, err := access.NewMap(s)
	require.NoError(t, err)
	return s, m
}

func TestWeeklyIsUsesTimesFetchAndPutBack(t *testing.T) {
	s, m := slipway(t, nil)
	ix := shop.NewIndex(s)
	for i := range s.Homes {
		h := &s.Homes[i]
		it, p := ix.Item(h.Item), ix.Place(h.Place)
		u := m.UseOf(it)
		g := keeping.GripOf(p, it, h)
		n := m.PlaceNumber(p.ID)
		weekly, ok := m.Weekly(&u, n, g, 0)
		require.True(t, ok, "%s in %s", it.ID, p.ID)
		sum := 0.0
		for _, st := range u.Stations() {
			e, ok := m.Errand(&u, n, g, 0, st)
			require.True(t, ok)
			sum += reach.Fetch(e).Both()
		}
		assert.InDelta(t, it.UsesPerWeek*sum/float64(len(u.Stations())), weekly, 1e-9, "%s in %s", it.ID, p.ID)
	}
}

func TestOverABenchTheReachIsShorter(t *testing.T) {
	s, m := slipway(t, nil)
	zones := m.Zones(&s.Areas[0], 1)
	over, beside := zones[25], zones[66] // wall B: over the main bench, and beside the drum sander
	assert.Equal(t, reach.OutOfReach, over.At(700), "behind the bench")
	assert.Equal(t, reach.Easy, beside.At(700))
	assert.Less(t, over.Stretch, beside.Stretch)
}

func TestWhatIsBehindACartCostsRollingItOut(t *testing.T) {
	inFront := func(s *shop.Shop) {
		for i := range s.Containers {
			if s.Containers[i].ID == "K3" {
				s.Containers[i].At = shop.At{Floor: &shop.Point{length.MM(60), length.MM(2700)}, Rot: 0}
			}
		}
		// The sharpening and bending benches make room for it.
		s.Stations[7].X, s.Stations[8].X = length.MM(3000), length.MM(4500)
		s.Stations[7].Y, s.Stations[8].Y = length.MM(2900), length.MM(2900)
		s.Stations[7].Stand, s.Stations[8].Stand = shop.Point{length.MM(3000), length.MM(2800)}, shop.Point{length.MM(3000), length.MM(2800)}
	}
	s, m := slipway(t, inFront)
	place := m.PlaceNumber("A1")
	g := keeping.Grip{X: 500, Z: 100}
	u := m.UseOf(&s.Items[0])
	band, rolled := m.Band(&u, place, g)
	assert.Equal(t, []string{"K3"}, rolled)
	assert.Equal(t, reach.Easy, band)
	e, ok := m.Errand(&u, place, g, 0, u.Stations()[0])
	require.True(t, ok)
	assert.Equal(t, 4, reach.Order(e))
}

func TestAThingInAnotherAreaCostsTheWayThere(t *testing.T) {
	s, m := slipway(t, func(s *shop.Shop) {
		shed := s.Areas[0]
		shed.ID, shed.WalkSeconds = "shed", 40
		s.Areas = append(s.Areas, shed)
		s.Places = append(s.Places, shop.Place{ID: "S1", Kind: "hook", At: shop.At{Area: "shed", Wall: "A", X: length.MM(2500), Z: length.MM(1000)}, W: length.MM(300), H: length.MM(400), D: length.MM(200)})
	})
	u := m.UseOf(&s.Items[0])
	e, ok := m.Errand(&u, m.PlaceNumber("S1"), keeping.Grip{X: 100, Z: 200}, 0, 0)
	require.True(t, ok)
	assert.Equal(t, 40.0, e.AreaTime)
	assert.Equal(t, 4, reach.Order(e))
	assert.Greater(t, reach.Fetch(e).Fetch, 80.0, "there and back")
}
