package round_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"hobrak/demo"
	"hobrak/internal/core/length"
	"hobrak/internal/core/round"
	"hobrak/internal/core/shop"
)

func TestAWallByItselfIsAsItIsInTheRound(t *testing.T) {
	s, err := shop.Read(demo.Slipway)
	require.NoError(t, err)
	a := &s.Areas[0]
	w := round.WallOf(a, 0)
	assert.Equal(t, "A", w.ID)
	assert.Zero(t, w.Offset)
	assert.Equal(t, 4600.0, w.Length)
	assert.Equal(t, [][2]float64{{0, 2400}, {4600, 3100}}, w.Profile)
	assert.Equal(t, []float64{300, 900, 1500, 2100, 2700, 3300, 3900, 4500}, w.Studs)
	names := map[string]string{}
	for _, f := range w.Features {
		names[f.ID] = f.Name
	}
	assert.Equal(t, "main door", names["A-door"])
	assert.Equal(t, "outlet", names["A-outlet"], "without a name it is called by its kind")
	a.Walls[0].Studs = &shop.Studs{Width: length.MM(45), List: []length.Length{length.MM(410), length.MM(1000)}}
	assert.Equal(t, []float64{410, 1000}, round.WallOf(a, 0).Studs, "studs one by one")
	assert.Empty(t, round.WallOf(a, 2).Studs, "brick has none")
}

func TestThePlanOfARoomHasItsOpenings(t *testing.T) {
	s, err := shop.Read(demo.Slipway)
	require.NoError(t, err)
	r := round.RoomOf(&s.Areas[0])
	assert.Len(t, r.Corners, 4)
	kinds := map[string]int{}
	for _, g := range r.Gaps {
		kinds[g.Kind]++
	}
	assert.Equal(t, map[string]int{"wall": 4, "door": 1, "panel": 1, "window": 1, "double-door": 1}, kinds)
	for _, g := range r.Gaps {
		if g.Kind == "double-door" {
			assert.Equal(t, [2]float64{7300, 4600 - 1700}, g.From, "from the left end of wall C, seen from inside")
			assert.Equal(t, [2]float64{7300, 4600 - 3900}, g.To)
		}
	}
}
