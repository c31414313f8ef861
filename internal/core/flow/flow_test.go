package flow_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"hobrak/demo"
	"hobrak/internal/core/floor"
	"hobrak/internal/core/flow"
	"hobrak/internal/core/length"
	"hobrak/internal/core/shop"
	"hobrak/internal/core/shoptest"
)

func hall() *shop.Shop {
	mm := length.MM
	long := []shop.Point{{0, mm(2400)}, {mm(10000), mm(2400)}}
	short := []shop.Point{{0, mm(2400)}, {mm(5000), mm(2400)}}
	s := &shop.Shop{Settings: shop.Settings{Units: length.Metric}, Areas: []shop.Area{{ID: "main", Corners: []shop.Point{{0, 0}, {0, mm(5000)}, {mm(10000), mm(5000)}, {mm(10000), 0}},
		Walls: []shop.Wall{{ID: "A", Profile: short, Features: []shop.Feature{{ID: "d", Kind: "door", X: mm(2000), W: mm(1000), H: mm(2000)}}}, {ID: "B", Profile: long}, {ID: "C", Profile: short}, {ID: "D", Profile: long}}}}}
	for i, x := range []float64{2000, 5000, 8000} {
		s.Stations = append(s.Stations, shop.Station{ID: string(rune('a' + i)), Name: string(rune('A' + i)), Kind: "shaper", X: mm(x), Y: mm(4000), W: mm(600), D: mm(600), H: mm(900), Stand: shop.Point{mm(x + 300), mm(3600)}})
	}
	return s
}

// By hand: A, C, B, C along a wall: 6 + 3 + 3 m, of which C to B and B to C lead back.
func TestAJobThatGoesBackAndForth(t *testing.T) {
	s := hall()
	s.Settings.Jobs = []shop.Job{{Name: "box", PerMonth: 4, Path: []string{"a", "c", "b", "c"}}}
	f := flow.Of(s, &s.Areas[0])[0]
	assert.InDelta(t, 12, f.Metres, .01)
	require.Len(t, f.Legs, 3)
	assert.Equal(t, []bool{false, true, true}, []bool{f.Legs[0].Back, f.Legs[1].Back, f.Legs[2].Back})
	// B and C change places: 3 + 3 + 3 m.
	swaps := flow.Swaps(s, &s.Areas[0])
	require.NotEmpty(t, swaps)
	assert.ElementsMatch(t, []string{"b", "c"}, []string{swaps[0].A, swaps[0].B})
	assert.InDelta(t, 4*3, swaps[0].Saves, .05)
}

func TestTheUsualJobGoesThroughTheStagesThereAre(t *testing.T) {
	s := hall()
	s.Stations[0].Kind, s.Stations[1].Kind, s.Stations[2].Kind = "table-saw", "bench", "finishing"
	j := flow.Usual(s, &s.Areas[0])
	assert.Equal(t, []string{"door", "a", "b", "c", "door"}, j.Path)
	bare := hall()
	bare.Stations = nil
	assert.Empty(t, flow.Of(bare, &bare.Areas[0]), "nothing is made in an empty room")
	s.Stations[1].Wished = "2027-01-01"
	assert.NotContains(t, flow.Usual(s, &s.Areas[0]).Path, "b")
}

// A swap that is said saves what it says, when it is done; ways are no shorter than straight ones.
func TestSwapsSaveWhatTheySay(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		s := shoptest.Random(rapid.Uint64Range(0, 1e6).Draw(t, "seed"), shoptest.Few)
		a := &s.Areas[0]
		flows := flow.Of(s, a)
		require.NoError(t, shoptest.Finite(flows))
		for _, f := range flows {
			for _, l := range f.Legs {
				if n := len(l.Path); n > 1 {
					p, q := l.Path[0], l.Path[n-1]
					require.GreaterOrEqual(t, l.Way*l.Way+1, (p[0]-q[0])*(p[0]-q[0])+(p[1]-q[1])*(p[1]-q[1]))
				}
			}
		}
		for _, x := range flow.Swaps(s, a) {
			require.Positive(t, x.Saves)
			require.NotEqual(t, x.A, x.B)
		}
	})
}

// In the demo, whose bench has drawers of its own, every pair of stations is tried.
func TestTheDemosSwaps(t *testing.T) {
	s, err := shop.Read(demo.Slipway)
	require.NoError(t, err)
	before := 0.0
	for _, f := range flow.Of(s, &s.Areas[0]) {
		assert.Zero(t, f.Cut)
		before += f.Metres * f.PerMonth
	}
	for _, x := range flow.Swaps(s, &s.Areas[0]) {
		next := s.Clone()
		require.True(t, floor.Exchange(next, x.A, x.B))
		after := 0.0
		for _, f := range flow.Of(next, &next.Areas[0]) {
			after += f.Metres * f.PerMonth
		}
		assert.InDelta(t, x.Saves, before-after, 1e-6)
	}
}
