package exchange

import (
	"bufio"
	"fmt"
	"io"

	"hobrak/internal/core/sheet"
)

// DXF writes drawings as lines and texts in the exchange form of drawing programs (R12), in millimetres of the paper, one page beside
// the other; shades are left out.
func DXF(w io.Writer, _ string, pages []sheet.Page) error {
	b := bufio.NewWriter(w)
	put := func(code int, v any) { fmt.Fprintf(b, "%d\n%v\n", code, v) }
	put(0, "SECTION")
	put(2, "ENTITIES")
	left := 0.0
	for i := range pages {
		p := &pages[i]
		line := func(x1, y1, x2, y2 float64, layer string) {
			put(0, "LINE")
			put(8, layer)
			put(10, left+x1)
			put(20, p.H-y1)
			put(30, 0.0)
			put(11, left+x2)
			put(21, p.H-y2)
			put(31, 0.0)
		}
		for _, s := range p.Paths {
			var at, began [2]float64
			for _, g := range s.Segs {
				switch g.Op {
				case 'M':
					at, began = g.P[0], g.P[0]
				case 'L':
					line(at[0], at[1], g.P[0][0], g.P[0][1], "outlines")
					at = g.P[0]
				case 'C':
					line(at[0], at[1], g.P[2][0], g.P[2][1], "outlines")
					at = g.P[2]
				case 'Z':
					if at != began {
						line(at[0], at[1], began[0], began[1], "outlines")
					}
				}
			}
		}
		for _, l := range p.Lines {
			line(l.X1, l.Y1, l.X2, l.Y2, "lines")
		}
		for _, t := range p.Texts {
			put(0, "TEXT")
			put(8, "texts")
			x := t.X
			switch t.Anchor {
			case "middle":
				x -= t.Width() / 2
			case "end":
				x -= t.Width()
			}
			put(10, left+x)
			put(20, p.H-t.Y)
			put(30, 0.0)
			put(40, t.Size)
			put(1, t.Text)
		}
		left += p.W + 20
	}
	put(0, "ENDSEC")
	put(0, "EOF")
	return b.Flush()
}
