package passage_test

import (
	"math"
	"testing"

	"github.com/stretchr/testify/assert"

	"hobrak/internal/core/length"
	"hobrak/internal/core/passage"
	"hobrak/internal/core/shop"
)

func featureOf(kind shop.FeatureKind, x, w, h float64) shop.Feature {
	return shop.Feature{ID: "D-" + string(kind), Kind: kind, X: length.MM(x), W: length.MM(w), H: length.MM(h)}
}

func TestTheBetterOfTwoDoorsCounts(t *testing.T) {
	sheet := passage.Piece{A: 2300, B: 2250, C: 18}
	assert.False(t, roomOf(t, nil).Judge(sheet)[0].Fits, "900 by 2000 clear, 2193 across")
	r := roomOf(t, func(s *shop.Shop) {
		s.Areas[0].Walls[3].Features = []shop.Feature{featureOf("sectional-door", 700, 2600, 2200)}
	})
	v := r.Judge(sheet)[0]
	assert.True(t, v.Fits, v.Says)
	assert.Greater(t, v.Has, 2900.0)
}

func TestARoomWithoutADoorTakesNothing(t *testing.T) {
	r := roomOf(t, func(s *shop.Shop) { s.Areas[0].Walls[0].Features = nil })
	v := r.Judge(passage.Piece{A: 500, B: 100, C: 20})[0]
	assert.False(t, v.Fits)
	assert.Contains(t, v.Says, "there is no door")
	assert.Zero(t, r.Figures().Board.Longest)
}

func TestABenchIsInTheWayOfASheetAndNotOfABoard(t *testing.T) {
	r := roomOf(t, func(s *shop.Shop) {
		s.Stations = []shop.Station{{ID: "bench", Name: "Bench", Kind: "bench", X: length.MM(1500), Y: length.MM(1000), W: length.MM(1000), D: length.MM(1000), H: length.MM(880), Stand: shop.Point{length.MM(500), length.MM(500)}}}
	})
	board, sheet := r.Judge(passage.Piece{A: 2800, B: 150, C: 25})[1], r.Judge(passage.Piece{A: 2000, B: 1000, C: 18})[1]
	assert.True(t, board.Fits, "carried at a metre it passes over: "+board.Says)
	assert.False(t, sheet.Fits, sheet.Says)
	assert.Equal(t, "bench", sheet.By)
	assert.Contains(t, sheet.Says, "Bench")
}

func TestTheSidesMayBeGivenInAnyOrder(t *testing.T) {
	r := roomOf(t, nil)
	want := r.Judge(passage.Piece{A: 2300, B: 1200, C: 18})
	for _, p := range []passage.Piece{{A: 18, B: 2300, C: 1200}, {A: 1200, B: 18, C: 2300}} {
		assert.Equal(t, want, r.Judge(p))
	}
}

func TestASlopingCeilingIsHighWhereItIsHigh(t *testing.T) {
	r := roomOf(t, func(s *shop.Shop) {
		a := &s.Areas[0]
		a.Walls[0].Profile = []shop.Point{{0, length.MM(2400)}, {length.MM(3000), length.MM(3000)}}
		a.Walls[1].Profile = []shop.Point{{0, length.MM(3000)}, {length.MM(4000), length.MM(3000)}}
		a.Walls[2].Profile = []shop.Point{{0, length.MM(3000)}, {length.MM(3000), length.MM(2400)}}
	})
	tall := r.Judge(passage.Piece{A: 2900, B: 100, C: 25})[2]
	assert.True(t, tall.Fits, tall.Says)
	assert.Greater(t, tall.Y, 2000.0, "at the high wall")
	assert.False(t, r.Judge(passage.Piece{A: 3050, B: 100, C: 25})[2].Fits)
}

func TestFiguresAreWhatJudgeSays(t *testing.T) {
	r := roomOf(t, nil)
	f := r.Figures()
	for _, d := range []float64{-10, 10} {
		v := r.Judge(passage.Piece{A: f.Board.StandUp + d, B: 200, C: 25})[2]
		assert.Equal(t, d < 0, v.Fits, "%.0f", f.Board.StandUp+d)
		v = r.Judge(passage.Piece{A: f.Board.Turn + d, B: 200, C: 25})[1]
		assert.Equal(t, d < 0, v.Fits, "%.0f", f.Board.Turn+d)
	}
	assert.InDelta(t, math.Sqrt(2400*2400-25*25), f.Board.StandUp, 6)
}
