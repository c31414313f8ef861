package exchange

import (
	"fmt"
	"image"
	"image/color"
	"io"
	"math"

	"git.sr.ht/~sbinet/gg"
	"golang.org/x/image/font"
	"golang.org/x/image/font/opentype"

	"hobrak/internal/core/sheet"
)

// A picture has 200 dots an inch, fewer when it would have more than mostDots in all.
const (
	perMM    = 200 / 25.4
	mostDots = 40e6
)

// PNG writes one page as a picture.
func PNG(w io.Writer, title string, pages []sheet.Page) error {
	if len(pages) != 1 {
		return fmt.Errorf("drawing %s as PNG: a picture has one page, not %d", title, len(pages))
	}
	return raster(&pages[0], perMM).EncodePNG(w)
}

// Dots is a page as a printer of labels burns it: black or not, so many dots a mm.
func Dots(p *sheet.Page, perMM float64) *image.Paletted {
	grey := raster(p, perMM).Image()
	b := grey.Bounds()
	out := image.NewPaletted(b, color.Palette{color.White, color.Black})
	for y := b.Min.Y; y < b.Max.Y; y++ {
		for x := b.Min.X; x < b.Max.X; x++ {
			if r, g, u, _ := grey.At(x, y).RGBA(); r+g+u < 3*0x8000 {
				out.SetColorIndex(x, y, 1)
			}
		}
	}
	return out
}

// raster draws a page, so many dots a mm, fewer when it would have too many.
func raster(p *sheet.Page, perMM float64) *gg.Context {
	k := min(perMM, math.Sqrt(mostDots/(p.W*p.H)))
	c := gg.NewContext(int(math.Ceil(p.W*k)), int(math.Ceil(p.H*k)))
	c.SetRGB(1, 1, 1)
	c.Clear()
	c.SetLineCap(gg.LineCapRound)
	c.SetFillRuleEvenOdd()
	draw(&png{Context: c, k: k, faces: map[string]font.Face{}}, p)
	return c
}

type png struct {
	*gg.Context
	k      float64 // dots a mm
	dx, dy float64 // where a drawing is moved to, mm
	faces  map[string]font.Face
}

func (p *png) at(x, y float64) (float64, float64) { return (x + p.dx) * p.k, (y + p.dy) * p.k }

func (p *png) dash(on bool) {
	if on {
		p.SetDash(dashes[0]*p.k, dashes[1]*p.k)
	} else {
		p.SetDash()
	}
}

func (p *png) path(s *sheet.Path) {
	p.NewSubPath()
	for _, g := range s.Segs {
		var q [6]float64
		for i := range g.P {
			q[2*i], q[2*i+1] = p.at(g.P[i][0], g.P[i][1])
		}
		switch g.Op {
		case 'M':
			p.MoveTo(q[0], q[1])
		case 'L':
			p.LineTo(q[0], q[1])
		case 'C':
			p.CubicTo(q[0], q[1], q[2], q[3], q[4], q[5])
		case 'Z':
			p.ClosePath()
		}
	}
	if s.Grey >= 0 {
		p.SetRGB(s.Grey, s.Grey, s.Grey)
		p.FillPreserve()
	}
	if s.Weight > 0 {
		p.SetRGB(0, 0, 0)
		p.SetLineWidth(max(1, s.Weight*p.k))
		p.dash(s.Dashed)
		p.StrokePreserve()
	}
	p.ClearPath()
}

func (p *png) line(l *sheet.Line) {
	g := 0.0
	if l.White {
		g = 1
	}
	p.SetRGB(g, g, g)
	p.SetLineWidth(max(1, l.Weight*p.k))
	p.dash(l.Dashed)
	x1, y1 := p.at(l.X1, l.Y1)
	x2, y2 := p.at(l.X2, l.Y2)
	p.DrawLine(x1, y1, x2, y2)
	p.Stroke()
}

func (p *png) box(r *sheet.Box) {
	x, y := p.at(r.X, r.Y)
	p.DrawRectangle(x, y, r.W*p.k, r.H*p.k)
	if r.Empty || r.Weight == 0 {
		p.SetRGB(1, 1, 1)
		p.FillPreserve()
	}
	if r.Weight > 0 {
		p.SetRGB(0, 0, 0)
		p.dash(false)
		p.SetLineWidth(max(1, r.Weight*p.k))
		p.StrokePreserve()
	}
	p.ClearPath()
}

func (p *png) face(f *typeface, size float64) font.Face {
	key := fmt.Sprintf("%s %.2f", f.name, size)
	if face, ok := p.faces[key]; ok {
		return face
	}
	face, err := opentype.NewFace(f.font, &opentype.FaceOptions{Size: size * p.k, DPI: 72})
	if err != nil {
		panic(err) // it is part of the program
	}
	p.faces[key] = face
	return face
}

func (p *png) text(t *sheet.Text) {
	if needsShaping(t.Text) {
		for _, l := range letters(t) {
			p.path(&l)
		}
		return
	}
	all := runs(t.Text, t.Bold)
	wide := 0.0
	for _, r := range all {
		p.SetFontFace(p.face(r.face, t.Size))
		w, _ := p.MeasureString(r.text)
		wide += w
	}
	x, y := p.at(t.X, t.Y)
	if t.Turn != 0 {
		p.Push()
		p.RotateAbout(-t.Turn*math.Pi/180, x, y)
		defer p.Pop()
	}
	switch t.Anchor {
	case "middle":
		x -= wide / 2
	case "end":
		x -= wide
	}
	p.SetRGB(0, 0, 0)
	for _, r := range all {
		p.SetFontFace(p.face(r.face, t.Size))
		p.DrawString(r.text, x, y)
		w, _ := p.MeasureString(r.text)
		x += w
	}
}

func (p *png) within(in *sheet.Inset, draw func()) {
	// A window that shows all of a drawing cuts nothing off, and a mask is slow.
	cut := in.AtX != 0 || in.AtY != 0 || in.W < in.Drawing.W || in.H < in.Drawing.H
	if cut {
		x, y := p.at(in.X, in.Y)
		p.DrawRectangle(x, y, in.W*p.k, in.H*p.k)
		p.Clip()
	}
	p.dx, p.dy = p.dx+in.X-in.AtX, p.dy+in.Y-in.AtY
	draw()
	p.dx, p.dy = p.dx-in.X+in.AtX, p.dy-in.Y+in.AtY
	if cut {
		p.ResetClip()
	}
}
