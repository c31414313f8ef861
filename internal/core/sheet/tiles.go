package sheet

import (
	"fmt"
	"math"

	"hobrak/internal/core/length"
)

// Paper is a size of sheets, upright, in mm.
type Paper struct {
	Name string
	W, H float64
}

// Papers there are.
var (
	A4     = Paper{"A4", 210, 297}
	A3     = Paper{"A3", 297, 420}
	Letter = Paper{"Letter", 215.9, 279.4}
	Papers = []Paper{A4, A3, Letter}
)

const (
	edge    = 9.0  // what printers leave white, with room for a line of words below
	overlap = 10.0 // what two sheets that are glued together have both
)

// laid is a paper one way round, with the columns and rows of sheets a drawing takes on it.
type laid struct {
	w, h       float64
	cols, rows int
}

func layOn(w, h float64, d *Page) laid {
	count := func(need, has float64) int {
		if need <= has+1e-9 {
			return 1
		}
		return int(math.Ceil((need - overlap) / (has - overlap)))
	}
	return laid{w, h, count(d.W, w-2*edge), count(d.H, h-2*edge)}
}

// Tiled cuts a drawing up into sheets of paper, upright or on its side, whatever takes fewer.
// Sheets that belong together overlap by 10 mm, with marks to lay them on each other, and all
// carry a line of known length to see that the printer keeps to scale.
func Tiled(d *Page, paper Paper, title string, units length.System) []Page {
	l := layOn(paper.H, paper.W, d)
	if up := layOn(paper.W, paper.H, d); up.cols*up.rows < l.cols*l.rows {
		l = up
	}
	var out []Page
	n := l.cols * l.rows
	for row := range l.rows {
		for col := range l.cols {
			p := Page{W: l.w, H: l.h}
			in := Inset{X: edge, Y: edge, W: l.w - 2*edge, H: l.h - 2*edge, Drawing: d}
			stepX, stepY := in.W-overlap, in.H-overlap
			in.AtX, in.AtY = float64(col)*stepX, float64(row)*stepY
			if n == 1 { // in the middle
				in.X, in.Y = (l.w-d.W)/2, (l.h-d.H)/2
			}
			in.W, in.H = min(in.W, d.W-in.AtX), min(in.H, d.H-in.AtY)
			p.Insets = []Inset{in}
			if n > 1 {
				p.marks(&in, col > 0, col < l.cols-1, row > 0, row < l.rows-1)
			}
			p.control(edge, l.h-4, units)
			words := title
			if n > 1 {
				words = fmt.Sprintf("%s, sheet %d of %d: row %d, column %d", title, row*l.cols+col+1, n, row+1, col+1)
			}
			p.text(l.w-edge, l.h-3, 2.6, "end", words)
			out = append(out, p)
		}
	}
	return out
}

// marks are crosses where two sheets overlap: laid on each other they coincide.
func (p *Page) marks(in *Inset, left, right, above, below bool) {
	cross := func(x, y float64) {
		p.line(x-2.5, y, x+2.5, y, .15)
		p.line(x, y-2.5, x, y+2.5, .15)
	}
	mid := overlap / 2
	xs, ys := []float64{in.X + mid, in.X + in.W - mid}, []float64{in.Y + mid, in.Y + in.H - mid}
	for i, side := range []bool{left, right} {
		if side {
			cross(xs[i], ys[0])
			cross(xs[i], ys[1])
		}
	}
	for i, side := range []bool{above, below} {
		if side {
			cross(xs[0], ys[i])
			cross(xs[1], ys[i])
		}
	}
}

// control is a line of known length: who measures it sees whether the printer kept to scale.
func (p *Page) control(x, y float64, units length.System) {
	l, says := 50.0, "50 mm"
	if units == length.Imperial {
		l, says = 50.8, `2"`
	}
	p.line(x, y, x+l, y, .2)
	p.line(x, y-1.2, x, y+1.2, .2)
	p.line(x+l, y-1.2, x+l, y+1.2, .2)
	p.text(x+l+1.5, y+1, 2.6, "start", says+" when printed at full size")
}

// Stacked is one drawing of several, one below the other.
func Stacked(drawings []Page) Page {
	p := Page{}
	for i := range drawings {
		d := &drawings[i]
		p.Insets = append(p.Insets, Inset{Y: p.H, W: d.W, H: d.H, Drawing: d})
		p.W, p.H = max(p.W, d.W), p.H+d.H
	}
	return p
}

// Scales a drawing of the shop may have, one to so many.
var Scales = []float64{10, 20, 25, 50}

// Fitting is the largest scale at which a drawing goes on one sheet; made is given a scale and
// gives the drawing.
func Fitting(paper Paper, made func(scale float64) Page) (Page, float64) {
	var d Page
	for _, s := range append(append([]float64{5}, Scales...), 75, 100, 150, 200, 500) {
		d = made(s)
		for _, l := range []laid{layOn(paper.W, paper.H, &d), layOn(paper.H, paper.W, &d)} {
			if l.cols*l.rows == 1 {
				return d, s
			}
		}
	}
	return d, 500
}
