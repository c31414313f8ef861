package access_test

import (
	"math"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"hobrak/internal/core/keeping"
	"hobrak/internal/core/length"
	"hobrak/internal/core/reach"
	"hobrak/internal/core/shop"
)

func TestWhatMustBeOpenedAndHowThingsAreSearched(t *testing.T) {
	_, m := slipway(t, func(s *shop.Shop) {
		tote := shop.Container{ID: "T1", Kind: "tote", Access: "lid", At: shop.At{In: "K1", Z: length.MM(900)}, W: length.MM(300), H: length.MM(200), D: length.MM(200)}
		s.Containers = append(s.Containers, tote)
		s.Places = append(s.Places, shop.Place{ID: "T1-1", Kind: "bin", At: shop.At{In: "T1"}, W: length.MM(280), H: length.MM(180), D: length.MM(180)})
	})
	for id, want := range map[string]struct {
		accesses []reach.Access
		search   reach.Search
		closed   bool
	}{
		"B1":   {nil, reach.InSight, false},
		"N1":   {[]reach.Access{"drawer"}, reach.Labelled, true},
		"N6":   {[]reach.Access{"drawer"}, reach.Unlabelled, true},
		"K1-1": {[]reach.Access{"door"}, reach.Labelled, true},
		"N10":  {nil, reach.Heap, false},
		"D7":   {nil, reach.Labelled, false},
		"T1-1": {[]reach.Access{"door", "lid"}, reach.Heap, true}, // the cabinet first, then the tote in it
	} {
		f := m.Front(m.PlaceNumber(id))
		assert.Equal(t, want.accesses, f.Accesses, id)
		assert.Equal(t, want.search, f.Search, id)
		assert.Equal(t, want.closed, f.Closed, id)
	}
	f := m.Front(m.PlaceNumber("T1-1"))
	assert.True(t, f.LiftOut)
	assert.InDelta(t, 900, f.Z, 1e-6, "heights add up through the containers")
	assert.Equal(t, -1, m.PlaceNumber("nowhere"))
}

func TestWhatIsAwayCannotBeReached(t *testing.T) {
	s, m := slipway(t, func(s *shop.Shop) {
		s.Places = append(s.Places, shop.Place{ID: "S1", Kind: "deck", At: shop.At{In: "skiff"}, W: length.MM(1000), H: length.MM(300), D: length.MM(500)})
	})
	place := m.PlaceNumber("S1")
	assert.True(t, m.Front(place).Away)
	u := m.UseOf(&s.Items[0])
	_, ok := m.Weekly(&u, place, keeping.Grip{}, 0)
	assert.False(t, ok)
	band, _ := m.Band(&u, place, keeping.Grip{})
	assert.Equal(t, reach.OutOfReach, band)
	assert.Equal(t, reach.Verdict{}, m.Lift(&u, place, keeping.Grip{}))
	assert.Empty(t, m.Breaks(place, 0))
	_, ok = m.Path(0, place, keeping.Grip{})
	assert.False(t, ok)
}

func TestCostsOnlyChangeFromColumnToColumnAndAtTheBreaks(t *testing.T) {
	s, m := slipway(t, nil)
	place := m.PlaceNumber("B1")
	u := m.UseOf(&s.Items[0])
	for _, x := range []float64{40, 555, 1210, 1890} {
		breaks := m.Breaks(place, x)
		var last float64
		var lastOK bool
		for z := 0.0; z <= 1150; z += 5 {
			c, ok := m.Weekly(&u, place, keeping.Grip{X: x, Z: z}, 0)
			if z > 0 && (c != last || ok != lastOK) {
				near := math.Inf(1)
				for _, b := range breaks {
					near = min(near, math.Abs(b-z))
				}
				assert.LessOrEqual(t, near, 5.0, "the cost jumps at %v, %v without a break", x, z)
			}
			last, lastOK = c, ok
		}
	}
}

func TestTheFirstAdultsReachCounts(t *testing.T) {
	_, m := slipway(t, func(s *shop.Shop) {
		s.Settings.People = []shop.Person{{ID: "child", Stature: length.MM(1180), Child: true}, {ID: "tall", Stature: length.MM(1900), Measured: map[string]length.Length{"shoulder": length.MM(1600)}}}
	})
	assert.Equal(t, 1900.0, m.Body.Stature)
	assert.InDelta(t, 1625, m.Body.Shoulder, 1e-9)
	_, nobody := slipway(t, func(s *shop.Shop) { s.Settings.People = nil })
	assert.Equal(t, 1700.0, nobody.Body.Stature)
}

func TestThePathEndsWhereOneStandsBeforeThePlace(t *testing.T) {
	s, m := slipway(t, nil)
	for i := range s.Places {
		for st := range s.Stations {
			p, ok := m.Path(st, i, keeping.Grip{X: s.Places[i].W.MM() / 2, Z: 300})
			if !ok {
				continue
			}
			require.GreaterOrEqual(t, len(p.Points), 1)
			assert.InDelta(t, s.Stations[st].Stand[0].MM(), p.Points[0].X, 1e-6)
			total := 0.0
			for k := 1; k < len(p.Points); k++ {
				total += p.Points[k-1].Distance(p.Points[k])
			}
			assert.InDelta(t, p.Length, total, 1e-6, "%s to %s", s.Stations[st].ID, s.Places[i].ID)
		}
	}
}

func TestALowerEstimateMakesItCheaper(t *testing.T) {
	s, m := slipway(t, nil)
	_, quick := slipway(t, func(s *shop.Shop) { s.Settings.Estimates = map[string]float64{"drawer": 0.5, "labelled": 0.1} })
	u, v := m.UseOf(&s.Items[0]), quick.UseOf(&s.Items[0])
	place := m.PlaceNumber("N1")
	slow, ok := m.Weekly(&u, place, keeping.Grip{X: 300, Z: 50}, 0)
	require.True(t, ok)
	fast, ok := quick.Weekly(&v, place, keeping.Grip{X: 300, Z: 50}, 0)
	require.True(t, ok)
	assert.InDelta(t, s.Items[0].UsesPerWeek*(2*2+1.4), slow-fast, 1e-9)
}
