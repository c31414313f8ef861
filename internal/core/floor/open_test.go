package floor_test

import (
	"math"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"hobrak/internal/core/access"
	"hobrak/internal/core/floor"
	"hobrak/internal/core/geometry"
	"hobrak/internal/core/length"
	"hobrak/internal/core/shop"
	"hobrak/internal/core/shoptest"
)

// By hand: a room of 6 × 4 m with a bench of 2 × 1 m in one corner leaves 6 × 3 m beside it, more than 4 × 4 m.
func TestTheLargestOpenFloorByHand(t *testing.T) {
	s := room(t, "6 x 4 x 2.5")
	mm := length.MM
	s.Stations = []shop.Station{{ID: "b", Name: "Bench", Kind: "bench", W: mm(2000), D: mm(1000), H: mm(900), Stand: shop.Point{mm(1000), mm(1300)}}}
	got := floor.OpenFloor(s, &s.Areas[0])
	assert.InDelta(t, 18e6, got.W*got.D, 18e6*.03)
	assert.InDelta(t, 4800, math.Max(got.ProjectW, got.ProjectD), 101)
	assert.InDelta(t, 2500, got.High, 1)
	// A rack under the ceiling limits how high a project is.
	s.Places = []shop.Place{{ID: "R1", Kind: "deck", W: mm(1000), D: mm(800), H: mm(300), At: shop.At{Ceiling: &shop.Point{mm(4000), mm(2000)}, Z: mm(2100)}}}
	got = floor.OpenFloor(s, &s.Areas[0])
	assert.InDelta(t, 2100, got.High, 1)
	assert.Equal(t, "R1", got.Under)
}

// Judged apart: nothing stands on the rectangle, and it lies in the room.
func TestTheOpenFloorIsFree(t *testing.T) {
	found := 0
	rapid.Check(t, func(t *rapid.T) {
		s := shoptest.Random(rapid.Uint64Range(0, 1e6).Draw(t, "seed"), shoptest.Few)
		ix := shop.NewIndex(s)
		for i := range s.Areas {
			a := &s.Areas[i]
			got := floor.OpenFloor(s, a)
			require.NoError(t, shoptest.Finite(got))
			var things []geometry.Polygon
			for _, x := range access.StandingIn(s, ix, a) {
				things = append(things, x.Footprint)
			}
			free := func(g geometry.Polygon) bool {
				for _, c := range g {
					if !a.Outline().Contains(c) && a.Outline().Distance(c) > 2 {
						return false
					}
				}
				for k := range a.Outline() {
					for j := range g {
						mid := g.Edge(j).A.Add(g.Edge(j).B).Mul(.5)
						if !a.Outline().Contains(mid) && a.Outline().Distance(mid) > 2 || a.Outline().Edge(k).Crosses(geometry.Segment{A: g[0].Mul(.99).Add(g[2].Mul(.01)), B: g[2].Mul(.99).Add(g[0].Mul(.01))}) {
							return false
						}
					}
				}
				for _, o := range things {
					if o.Overlaps(g, 2) {
						return false
					}
				}
				return true
			}
			if got.W > 0 {
				found++
				require.True(t, free(geometry.Rectangle(got.X, got.Y, got.W, got.D, 0)))
			}
		}
	})
	assert.Positive(t, found)
}
