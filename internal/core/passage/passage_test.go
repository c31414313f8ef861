package passage_test

import (
	"math"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"hobrak/demo"
	"hobrak/internal/core/access"
	"hobrak/internal/core/passage"
	"hobrak/internal/core/quantity"
	"hobrak/internal/core/shop"
)

func roomOf(t require.TestingT, change func(*shop.Shop)) *passage.Room {
	s, err := shop.Read([]byte(`{ "format": "hobrak-shop", "version": 1, "shop": { "name": "t", "units": "metric" },
 "areas": [ { "id": "main", "corners": [[0,0],[0,3000],[4000,3000],[4000,0]], "walls": [
  { "id": "A", "profile": [[0,2400],[3000,2400]], "claimed": true, "features": [ { "id": "A-door", "kind": "door", "x": 1000, "z": 0, "w": 900, "h": 2000 } ] },
  { "id": "B", "profile": [[0,2400],[4000,2400]], "claimed": true }, { "id": "C", "profile": [[0,2400],[3000,2400]], "claimed": true }, { "id": "D", "profile": [[0,2400],[4000,2400]], "claimed": true } ] } ] }`))
	require.NoError(t, err)
	if change != nil {
		change(s)
	}
	m, err := access.NewMap(s)
	require.NoError(t, err)
	return passage.NewRoom(m, &s.Areas[0])
}

func TestTheFormulas(t *testing.T) {
	assert.InDelta(t, 2440.07, passage.StandUpHeight(2440, 18), .01)
	assert.InDelta(t, 2498.5, passage.StandUpHeight(2400, 695), .5)
	// Ways of 1000 and 1000: 2√2 m. Of 900 and 1200, worked in docs/rules.
	assert.InDelta(t, 2828.4, passage.RoundCorner(1000, 1000, 0), .1)
	assert.InDelta(t, 2959.6, passage.RoundCorner(900, 1200, 0), 1)
	assert.True(t, passage.Passes(2000, 900, 900, 2000))
	assert.False(t, passage.Passes(2250, 18, 900, 2000), "longer than the diagonal of 2193")
	assert.True(t, passage.Passes(2150, 18, 900, 2000), "tilted")
}

// A rectangle passes when some tilt puts it inside; the formula agrees with trying.
func TestPassesAgreesWithTryingEveryTilt(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		w, h := rapid.Float64Range(300, 2500).Draw(t, "w"), rapid.Float64Range(300, 2500).Draw(t, "h")
		p, q := rapid.Float64Range(10, 3500).Draw(t, "p"), rapid.Float64Range(10, 1500).Draw(t, "q")
		tried := false
		for k := 0; k <= 3600; k++ {
			s, c := math.Sincos(math.Pi / 2 * float64(k) / 3600)
			if p*c+q*s <= w && p*s+q*c <= h {
				tried = true
			}
		}
		if tried {
			assert.True(t, passage.Passes(p, q, w, h))
		} else {
			assert.False(t, passage.Passes(p*1.002, q*1.002, w, h))
		}
	})
}

func TestABoardInABareRoom(t *testing.T) {
	r := roomOf(t, nil)
	v := r.Judge(passage.Piece{A: 2900, B: 200, C: 25})
	assert.True(t, v[0].Fits, v[0].Says)
	assert.True(t, v[1].Fits, v[1].Says)
	assert.InDelta(t, 3000, v[1].Has, 1, "the largest disc between walls 3 m apart")
	assert.False(t, v[2].Fits)
	assert.Contains(t, quantity.Metric(v[2].Says), "the ceiling is 500 mm too low")
	assert.True(t, r.Judge(passage.Piece{A: 2390, B: 200, C: 25})[2].Fits)
	assert.False(t, r.Judge(passage.Piece{A: 2400, B: 100, C: 75})[2].Fits, "√(2400² + 75²) is over 2401")
	// In through the door at an angle, towards the far corner, more than the 4 m straight in.
	run := v[0].Has
	assert.Greater(t, run, 4000.0)
	assert.Less(t, run, math.Hypot(4000, 2000))
}

func TestWhatStandsAndHangsThereLimits(t *testing.T) {
	r := roomOf(t, func(s *shop.Shop) {
		a := &s.Areas[0]
		a.Ceiling = &shop.Ceiling{Features: []shop.CeilingFeature{{ID: "beam", Kind: "beam", X: 0, Y: 0, W: 4_000_000, D: 3_000_000, Drop: 200_000}}}
		s.Stations = []shop.Station{{ID: "saw", Name: "Bandsaw", Kind: "bandsaw", X: 1_800_000, Y: 1_300_000, W: 400_000, D: 400_000, H: 1_700_000, Stand: shop.Point{1_000_000, 1_000_000}}}
	})
	v := r.Judge(passage.Piece{A: 2390, B: 200, C: 25})
	assert.False(t, v[1].Fits)
	assert.Equal(t, "saw", v[1].By)
	assert.False(t, v[2].Fits)
	assert.Equal(t, "beam", v[2].By)
	assert.Contains(t, quantity.Metric(v[2].Says), "the beam is 190 mm too low")
	bed := r.Judge(passage.Piece{A: 2300, B: 2200, C: 300})
	assert.Contains(t, quantity.Metric(bed[0].Says), "does not pass the door, 900 mm × 2000 mm clear")
}

func TestALongerPieceNeverFitsBetter(t *testing.T) {
	r := roomOf(t, nil)
	rapid.Check(t, func(t *rapid.T) {
		p := passage.Piece{A: rapid.Float64Range(500, 5000).Draw(t, "l"), B: rapid.Float64Range(20, 1300).Draw(t, "w"), C: 18}
		q := p
		q.A += rapid.Float64Range(1, 500).Draw(t, "more")
		if p.A < p.B {
			return
		}
		for i, v := range r.Judge(p) {
			if !v.Fits {
				assert.False(t, r.Judge(q)[i].Fits, "%s of %v but not %v", v.What, q, p)
			}
		}
	})
}

func TestFiguresOfTheDemo(t *testing.T) {
	s, err := shop.Read(demo.Slipway)
	require.NoError(t, err)
	m, err := access.NewMap(s)
	require.NoError(t, err)
	f := passage.NewRoom(m, &s.Areas[0]).Figures()
	assert.Equal(t, f.Board.Longest, min(f.Board.ComeIn, f.Board.Turn, f.Board.StandUp))
	assert.Less(t, f.Board.StandUp, 3100.0, "the ceiling is 3.1 m at most")
	assert.Greater(t, f.Board.ComeIn, 4300.0, "the skiff comes in through the boat door")
	assert.Len(t, f.Common, 4)
}

func BenchmarkFiguresOfTheDemo(b *testing.B) {
	s, err := shop.Read(demo.Slipway)
	require.NoError(b, err)
	m, err := access.NewMap(s)
	require.NoError(b, err)
	var f passage.Figures
	for b.Loop() {
		f = passage.NewRoom(m, &s.Areas[0]).Figures()
	}
	b.ReportMetric(f.Board.Longest, "mm-board")
	b.ReportMetric(f.Sheet.Longest, "mm-sheet")
}
