package shift_test

import (
	"math"
	"math/rand/v2"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"hobrak/demo"
	"hobrak/internal/core/geometry"
	"hobrak/internal/core/length"
	"hobrak/internal/core/shift"
	"hobrak/internal/core/shop"
)

// boathouse is a room with a wide door in which things stand at random, and a boat that comes in to a spot.
func boathouse(seed uint64, things int) *shop.Shop {
	rng := rand.New(rand.NewPCG(seed, 9))
	mm := length.MM
	s := crowd(seed, 0, 7000, 6000)
	s.Areas[0].Walls[0].Features = []shop.Feature{{ID: "gate", Kind: "sectional-door", X: mm(1500), W: mm(2600), H: mm(2100)}}
	for i := range things {
		w, d := 300+rng.Float64()*500, 300+rng.Float64()*500
		s.Stations = append(s.Stations, shop.Station{ID: string(rune('a' + i)), Name: "Thing", Kind: "shaper", X: mm(rng.Float64() * (7000 - w)), Y: mm(rng.Float64() * (6000 - d)), W: mm(w), D: mm(d), H: mm(900)})
	}
	s.Containers = []shop.Container{{ID: "boat", Name: "Boat", Kind: "trolley", W: mm(3600), D: mm(1300), H: mm(1000), At: shop.At{Away: true}}}
	s.Modes = []shop.Mode{{ID: "then", Name: "Then", Spots: map[string]shop.Standing{"boat": {Floor: shop.Point{mm(300 + 2800*rng.Float64()), mm(300 + 4200*rng.Float64())}}}}}
	return s
}

func TestABoatComesInWithNothingOfItInAnything(t *testing.T) {
	in, stuck := 0, 0
	for seed := range uint64(25) {
		s := boathouse(seed, 4)
		boat := s.Modes[0].Spots["boat"]
		at := geometry.Rectangle(boat.Floor[0].MM(), boat.Floor[1].MM(), 3600, 1300, 0)
		var solid []geometry.Polygon
		clash := false
		for i := range s.Stations {
			st := &s.Stations[i]
			solid = append(solid, geometry.Rectangle(st.X.MM(), st.Y.MM(), st.W.MM(), st.D.MM(), 0))
			clash = clash || solid[i].Overlaps(at, 1)
		}
		if clash {
			continue
		}
		plan, err := shift.Between(s, "", "then")
		require.NoError(t, err)
		if len(plan.Stuck) > 0 {
			stuck++
			continue
		}
		in++
		path := plan.Moves[0].Path
		require.NotEmpty(t, path)
		last := path[len(path)-1]
		assert.InDelta(t, boat.Floor[0].MM()+1800, last.X, 1)
		assert.InDelta(t, boat.Floor[1].MM()+650, last.Y, 1)
		// Judged apart: finer steps, corners against what stands there, and through the walls only where the gate is.
		for i := 1; i < len(path); i++ {
			a, b := path[i-1], path[i]
			assert.LessOrEqual(t, math.Hypot(b.X-a.X, b.Y-a.Y), 142.0)
			for k := range 5 {
				u := float64(k) / 4
				foot := geometry.Rectangle(a.X+u*(b.X-a.X)-1800, a.Y+u*(b.Y-a.Y)-650, 3600, 1300, a.Rot+u*math.Remainder(b.Rot-a.Rot, 360))
				for _, o := range solid {
					require.False(t, o.Overlaps(foot, 60), "seed %d", seed)
				}
				for e := range foot {
					edge := foot.Edge(e)
					// The wall of the gate is x = 0, from the bottom up; the gate is from 1500 to 4100.
					if (edge.A.X > 30) != (edge.B.X > 30) && math.Abs(edge.A.X-edge.B.X) > 1 {
						y := edge.A.Y + (30-edge.A.X)/(edge.B.X-edge.A.X)*(edge.B.Y-edge.A.Y)
						require.True(t, y > 1500-100 && y < 4100+100, "seed %d: through the wall at %.0f", seed, y)
					}
				}
			}
		}
		// And out again.
		back, err := shift.Between(s, "then", "")
		require.NoError(t, err)
		assert.Empty(t, back.Stuck)
		assert.NotEmpty(t, back.Moves[0].Path)
	}
	assert.Greater(t, in, 5)
	t.Logf("%d came in, %d did not", in, stuck)
}

func TestABoatWiderThanTheDoorIsStuck(t *testing.T) {
	s := boathouse(1, 0)
	plan, err := shift.Between(s, "", "then")
	require.NoError(t, err)
	require.Empty(t, plan.Stuck)
	s.Areas[0].Walls[0].Features[0].W = length.MM(1200)
	s.Settings.ChangeMinutes = 2
	plan, err = shift.Between(s, "", "then")
	require.NoError(t, err)
	require.Len(t, plan.Stuck, 1)
	assert.Contains(t, plan.Stuck[0], "does not get through the door")
	assert.InDelta(t, 120, plan.Limit, 1e-9)
}

func TestTheDemosSkiffComesIn(t *testing.T) {
	s, err := shop.Read(demo.Slipway)
	require.NoError(t, err)
	plan, err := shift.Between(s, "", "evening")
	require.NoError(t, err)
	assert.Empty(t, plan.Stuck)
	for _, m := range plan.Moves {
		if m.ID == "skiff" {
			assert.NotEmpty(t, m.Path)
		}
	}
}
