package sheet_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"hobrak/internal/core/length"
	"hobrak/internal/core/sheet"
)

// Outlines are at full size, each thing where it lies; pockets have their play and stay within the drawer.
func TestOutlinesAreAtFullSize(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		w, h := rapid.Float64Range(60, 900).Draw(t, "w"), rapid.Float64Range(60, 700).Draw(t, "h")
		tw, th := rapid.Float64Range(10, w).Draw(t, "tw"), rapid.Float64Range(10, h).Draw(t, "th")
		x, y := rapid.Float64Range(0, w-tw).Draw(t, "x"), rapid.Float64Range(0, h-th).Draw(t, "y")
		glyph := rapid.SampledFrom([]string{"saw", "chisel", "plane", "nothing of that name"}).Draw(t, "glyph")
		play := rapid.Float64Range(0, 8).Draw(t, "play")
		things := []sheet.Traced{{Name: "Thing", Glyph: glyph, X: x, Y: y, W: tw, H: th}}
		span := func(p sheet.Page, from int) (x0, y0, x1, y1 float64) {
			x0, y0 = p.W, p.H
			for _, path := range p.Paths[from:] {
				for _, s := range path.Segs {
					n := map[byte]int{'M': 1, 'L': 1, 'C': 3}[s.Op]
					for _, q := range s.P[:n] {
						x0, y0, x1, y1 = min(x0, q[0]), min(y0, q[1]), max(x1, q[0]), max(y1, q[1])
					}
				}
			}
			return x0, y0, x1, y1
		}
		p := sheet.Shadows(w, h, things, length.Metric)
		ax, ay, bx, by := span(sheet.Page{W: p.W, H: p.H, Paths: p.Paths[:1]}, 0)
		require.InDelta(t, w, bx-ax, 1e-6, "the place at full size")
		require.InDelta(t, h, by-ay, 1e-6)
		x0, y0, x1, y1 := span(p, 1)
		// The points of curves lie a little outside of them.
		assert.GreaterOrEqual(t, x0, ax+x-.05*tw)
		assert.LessOrEqual(t, x1, ax+x+1.05*tw)
		assert.GreaterOrEqual(t, y0, by-y-1.05*th)
		assert.LessOrEqual(t, y1, by-y+.05*th)
		if glyph == "nothing of that name" { // a box fills all of it
			assert.InDelta(t, tw, x1-x0, tw/4)
		}
		f := sheet.Foam(w, h, play, things, length.Metric)
		pocket := sheet.Page{W: f.W, H: f.H, Paths: f.Paths[1:2]}
		x0, y0, x1, y1 = span(pocket, 0)
		assert.InDelta(t, max(0, x-play), x0-ax, 1e-6)
		assert.InDelta(t, min(w, x+tw+play), x1-ax, 1e-6)
		assert.InDelta(t, max(0, y-play), by-y1, 1e-6)
		assert.InDelta(t, min(h, y+th+play), by-y0, 1e-6)
	})
}
