package survey_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"hobrak/internal/core/length"
	"hobrak/internal/core/shop"
)

// furnished is a measured room of 4 × 3 m with something at every edge.
func furnished(t *testing.T) *shop.Shop {
	s := book(length.Metric)
	enter(t, s, "walls/A/length=3000", "walls/B/length=4000", "walls/A/top/0/z=2400")
	s.Stations = []shop.Station{{ID: "bench", Name: "Bench", Kind: "bench", X: mm(3300), Y: mm(100), W: mm(700), D: mm(500), H: mm(900), Stand: shop.Point{mm(3500), mm(1000)}}}
	s.Containers = []shop.Container{{ID: "K1", Kind: "cabinet", At: shop.At{Wall: "B", X: mm(3200), Z: mm(1400)}, W: mm(800), H: mm(600), D: mm(300)}}
	ceiling := shop.Point{mm(3000), mm(2500)}
	s.Places = []shop.Place{
		{ID: "B1", Kind: "wall-field", Style: "board", At: shop.At{Wall: "B", X: mm(500), Z: mm(900)}, W: mm(1000), H: mm(800), D: mm(150)},
		{ID: "E1", Kind: "deck", At: shop.At{Ceiling: &ceiling, Z: mm(2000)}, W: mm(1000), H: mm(300), D: mm(500)},
	}
	require.NoError(t, s.Validate())
	return s
}

func TestWhatStandsOrHangsAtAWallThatComesNearerMovesAlong(t *testing.T) {
	s := furnished(t)
	enter(t, s, "walls/B/length=3950")
	require.NoError(t, s.Validate())
	ix := shop.NewIndex(s)
	assert.Equal(t, mm(3150), ix.Container("K1").At.X, "along the wall")
	assert.Equal(t, mm(3250), ix.Station("bench").X, "inwards, and its standing point with it")
	assert.Equal(t, mm(3450), ix.Station("bench").Stand[0])
	assert.Equal(t, mm(2950), ix.Place("E1").At.Ceiling[0])
	assert.Equal(t, mm(500), ix.Place("B1").At.X, "what is not in the way stays")
}

func TestARoomThatGrowsMovesNothing(t *testing.T) {
	s := furnished(t)
	enter(t, s, "walls/B/length=4200", "walls/A/length=3300")
	require.NoError(t, s.Validate())
	ix := shop.NewIndex(s)
	assert.Equal(t, mm(3200), ix.Container("K1").At.X)
	assert.Equal(t, mm(3300), ix.Station("bench").X)
}

func TestAWallThatThingsHangOnCannotGo(t *testing.T) {
	s := furnished(t)
	enter(t, s, "walls/C/split=")
	refused(t, s, "walls/B/remove=", "things hang on wall B")
	refused(t, s, "walls/B/split=", "in use up to its right end")
	enter(t, s, "walls/D/remove=")
	assert.Len(t, s.Areas[0].Walls, 4)
	require.NoError(t, s.Validate())
}

func TestWallsAreLetteredAnewWithWhatHangsOnThem(t *testing.T) {
	s := furnished(t)
	enter(t, s, "floor/fall=8", "floor/toward=C", "walls/A/split=")
	require.NoError(t, s.Validate())
	ix := shop.NewIndex(s)
	assert.Equal(t, "C", ix.Place("B1").At.Wall, "wall B is C now")
	assert.Equal(t, "C", ix.Container("K1").At.Wall)
	assert.Equal(t, "D", s.Areas[0].Floor.Fall.Toward)
}
