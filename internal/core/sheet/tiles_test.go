package sheet_test

import (
	"math"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"hobrak/demo"
	"hobrak/internal/core/fit"
	"hobrak/internal/core/length"
	"hobrak/internal/core/round"
	"hobrak/internal/core/sheet"
	"hobrak/internal/core/shop"
	"hobrak/internal/core/shoptest"
)

// Laid side by side with their marks on each other the sheets show all of a drawing once, each spot
// where it belongs.
func TestSheetsLaidOnTheirMarksShowTheWholeDrawing(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		d := sheet.Page{W: rapid.Float64Range(20, 3000).Draw(t, "w"), H: rapid.Float64Range(20, 1500).Draw(t, "h")}
		paper := rapid.SampledFrom(sheet.Papers).Draw(t, "paper")
		tiles := sheet.Tiled(&d, paper, "title", length.Metric)
		for range 20 {
			x, y := rapid.Float64Range(0, d.W).Draw(t, "x"), rapid.Float64Range(0, d.H).Draw(t, "y")
			shown := 0
			for _, p := range tiles {
				in := p.Insets[0]
				require.Equal(t, &d, in.Drawing)
				require.GreaterOrEqual(t, in.X, 5.0)
				require.LessOrEqual(t, in.X+in.W, p.W-5+1e-6)
				require.LessOrEqual(t, in.Y+in.H, p.H-5+1e-6)
				if x >= in.AtX-1e-9 && x <= in.AtX+in.W+1e-9 && y >= in.AtY-1e-9 && y <= in.AtY+in.H+1e-9 {
					shown++
				}
			}
			require.Positive(t, shown, "%v %v of %v", x, y, d)
			require.LessOrEqual(t, shown, 4)
		}
		// A mark is at the same spot of the drawing on both sheets it is on.
		marks := map[[2]int]int{}
		for _, p := range tiles {
			in := p.Insets[0]
			for _, l := range p.Lines {
				if math.Abs(l.X2-l.X1-5) < 1e-9 && l.Y1 == l.Y2 {
					marks[[2]int{int(math.Round(10 * ((l.X1+l.X2)/2 - in.X + in.AtX))), int(math.Round(10 * (l.Y1 - in.Y + in.AtY)))}]++
				}
			}
		}
		if len(tiles) > 1 {
			assert.NotEmpty(t, marks)
		}
	})
}

func roundOf(t require.TestingT, s *shop.Shop) *round.Round {
	p, err := fit.New(s)
	require.NoError(t, err)
	return round.Of(p.AsItIs())
}

// On paper a length is that of the shop divided by the scale, whatever the wall and the scale.
func TestADrawingIsToScale(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		r := roundOf(t, shoptest.Random(rapid.Uint64().Draw(t, "seed"), shoptest.Few))
		at := rapid.IntRange(0, len(r.Elevations)-1).Draw(t, "wall")
		scale := rapid.SampledFrom(sheet.Scales).Draw(t, "scale")
		p := sheet.Wall(r, at, scale)
		e := r.Elevations[at]
		floor := p.Lines[len(p.Lines)-1]
		for _, l := range p.Lines {
			if l.Weight == .6 {
				floor = l
			}
		}
		assert.InDelta(t, e.Length/scale, floor.X2-floor.X1, 1e-6)
		for _, text := range p.Texts {
			assert.LessOrEqual(t, text.X, p.W)
			assert.NotEmpty(t, strings.TrimSpace(text.Text))
		}
		_ = sheet.Floor(r, scale)
		// Every thing with a home is named once for each of its homes; who has none is at the end.
		var words []string
		for _, page := range sheet.Contents(r, sheet.A4) {
			for _, text := range page.Texts {
				words = append(words, text.Text)
				assert.LessOrEqual(t, text.Y, page.H)
			}
		}
		rows := 0
		for _, page := range sheet.Belongings(r, sheet.Letter) {
			for _, text := range page.Texts {
				require.LessOrEqual(t, text.Y, page.H)
				if text.X == 14 && !text.Bold {
					rows++
				}
			}
		}
		named := 0
		for i := range r.Items {
			if r.Items[i].Name != "" {
				named++
			}
		}
		assert.Equal(t, named, rows, "everything owned is on the list once")
		for _, pl := range r.Places {
			found := false
			for _, w := range words {
				found = found || strings.HasPrefix(w, pl.ID+"  ") || w == pl.ID
			}
			assert.True(t, found || len(pl.ID+pl.Name) > 40, pl.ID)
		}
	})
}

func TestTheLargestScaleThatGoesOnOneSheetIsTaken(t *testing.T) {
	s, err := shop.Read(demo.Slipway)
	require.NoError(t, err)
	r := roundOf(t, s)
	made := func(scale float64) sheet.Page { return sheet.Wall(r, 0, scale) }
	for _, paper := range sheet.Papers {
		d, scale := sheet.Fitting(paper, made)
		assert.Len(t, sheet.Tiled(&d, paper, "", length.Metric), 1)
		for _, larger := range append([]float64{5}, sheet.Scales...) {
			if larger < scale {
				d := made(larger)
				assert.Greater(t, len(sheet.Tiled(&d, paper, "", length.Metric)), 1, "%s 1:%v", paper.Name, larger)
			}
		}
	}
}
