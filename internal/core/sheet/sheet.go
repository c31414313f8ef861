// Package sheet draws on paper: pages of outlines, lines, boxes and words as data, in
// millimetres of paper, x to the right and y down. What becomes of them, SVG, PDF or a picture,
// is for others. A drawing is a page as large as it needs to be; Tiled cuts it up for paper there is.
package sheet

import (
	"math"
	"strings"

	"hobrak/internal/core/silhouette"
)

// Page of paper. It is drawn in this order: paths, lines, boxes, texts, and last what is inset.
type Page struct {
	W, H float64

	Paths  []Path
	Lines  []Line
	Boxes  []Box
	Texts  []Text
	Insets []Inset
}

// Inset is part of a drawing seen through a window of a page.
type Inset struct {
	X, Y, W, H float64 // the window on the page
	AtX, AtY   float64 // what of the drawing is at its upper left corner
	Drawing    *Page
}

// Path is a filled outline. Grey is from 0 black to 1 white, below 0 it is not filled; what an
// outline encloses within another is a hole. Weight 0 draws no line.
type Path struct {
	Segs   []silhouette.Seg
	Grey   float64
	Weight float64
	Dashed bool
}

// Line from one spot to another.
type Line struct {
	X1, Y1, X2, Y2 float64
	Weight         float64 // mm
	Dashed         bool
	White          bool // as an opening in a black line
}

// Box outlines a rectangle; an Empty one is white inside, to be written in or
// to keep a text clear. Weight 0 draws no outline.
type Box struct {
	X, Y, W, H float64
	Weight     float64
	Empty      bool
}

// Text with its baseline at Y. Anchor is start, middle or end; Turn is in
// degrees anticlockwise.
type Text struct {
	X, Y   float64
	Size   float64 // mm
	Text   string
	Anchor string
	Bold   bool
	Turn   float64
}

// Outline is a closed path of straight lines.
func Outline(points [][2]float64, grey, weight float64) Path {
	p := Path{Grey: grey, Weight: weight}
	for i, q := range points {
		s := silhouette.Seg{Op: 'L', P: [3][2]float64{q}}
		if i == 0 {
			s.Op = 'M'
		}
		p.Segs = append(p.Segs, s)
	}
	p.Segs = append(p.Segs, silhouette.Seg{Op: 'Z'})
	return p
}

// Cut shortens a text to a width in mm, down to one letter.
func (t Text) Cut(room float64) Text {
	for t.Width() > room && len([]rune(t.Text)) > 2 {
		w := []rune(strings.TrimSuffix(t.Text, "…"))
		t.Text = strings.TrimSpace(string(w[:len(w)-1])) + "…"
	}
	return t
}

// Width of a text, about, in mm: wide enough to keep labels apart.
func (t Text) Width() float64 {
	each := .58
	if t.Bold {
		each = .66
	}
	return each * t.Size * float64(len([]rune(t.Text)))
}

// A4 landscape, with a margin.
const (
	paperW = 297.0
	paperH = 210.0
	margin = 14.0
)

// scales a drawing may have, one to so many.
var scales = []float64{10, 20, 25, 50, 75, 100, 150, 200, 500}

// fitting is the largest scale at which a size of mm fits into a box of paper.
func fitting(w, h, boxW, boxH float64) float64 {
	for _, s := range scales {
		if w/s <= boxW && h/s <= boxH {
			return s
		}
	}
	return math.Ceil(max(w/boxW, h/boxH)/100) * 100
}

func (p *Page) line(x1, y1, x2, y2, weight float64) {
	p.Lines = append(p.Lines, Line{X1: x1, Y1: y1, X2: x2, Y2: y2, Weight: weight})
}

func (p *Page) dashed(x1, y1, x2, y2, weight float64) {
	p.Lines = append(p.Lines, Line{X1: x1, Y1: y1, X2: x2, Y2: y2, Weight: weight, Dashed: true})
}

func (p *Page) text(x, y, size float64, anchor, s string) {
	p.Texts = append(p.Texts, Text{X: x, Y: y, Size: size, Anchor: anchor, Text: s})
}

func (p *Page) bold(x, y, size float64, anchor, s string) {
	p.Texts = append(p.Texts, Text{X: x, Y: y, Size: size, Anchor: anchor, Text: s, Bold: true})
}

// value writes a number, or an empty box where there is none yet.
func (p *Page) value(x, y, size float64, s string) {
	if s != "" {
		t := Text{X: x, Y: y, Size: size, Anchor: "middle", Text: s}
		p.Texts = append(p.Texts, t)
		// On a ground of its own, so that no line strikes it through.
		p.Boxes = append(p.Boxes, Box{X: x - t.Width()/2 - .4, Y: y - size*.85, W: t.Width() + .8, H: size * 1.05, Empty: true})
		return
	}
	w := 4.2 * size
	p.Boxes = append(p.Boxes, Box{X: x - w/2, Y: y - 1.25*size, W: w, H: 1.7 * size, Weight: .2, Empty: true})
}

// dimension is a line with a tick at each end and a number over its middle.
func (p *Page) dimension(x1, y1, x2, y2 float64, s string) {
	p.line(x1, y1, x2, y2, .15)
	l := math.Hypot(x2-x1, y2-y1)
	if l == 0 {
		return
	}
	ux, uy := (x2-x1)/l, (y2-y1)/l
	for _, e := range [][2]float64{{x1, y1}, {x2, y2}} {
		p.line(e[0]-uy*1.2-ux*.8, e[1]+ux*1.2-uy*.8, e[0]+uy*1.2+ux*.8, e[1]-ux*1.2+uy*.8, .3)
	}
	up := 1.0
	if math.Abs(ux) < .5 {
		up = -1 // beside an upright line the number sits on it
	}
	p.value((x1+x2)/2, (y1+y2)/2-up, 3, s)
}
