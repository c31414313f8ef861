package exchange

import (
	"fmt"
	"io"
	"math"
	"time"

	"codeberg.org/go-pdf/fpdf"

	"hobrak/internal/core/sheet"
)

// pt is a point of type in mm.
const pt = 25.4 / 72

// PDF writes pages at their true size, with the letters they use in the file. The same pages give the same bytes.
func PDF(w io.Writer, title string, pages []sheet.Page) error {
	doc := fpdf.New("P", "mm", "A4", "")
	doc.SetCatalogSort(true)
	doc.SetCreationDate(time.Unix(0, 0).UTC())
	doc.SetModificationDate(time.Unix(0, 0).UTC())
	doc.SetTitle(title, true)
	doc.SetProducer("Hobrak", true)
	doc.SetAutoPageBreak(false, 0)
	doc.SetLineCapStyle("round")
	p := &pdf{Fpdf: doc, has: map[string]bool{}}
	for i := range pages {
		doc.AddPageFormat("P", fpdf.SizeType{Wd: pages[i].W, Ht: pages[i].H})
		draw(p, &pages[i])
	}
	if err := doc.Error(); err != nil {
		return fmt.Errorf("drawing %s as PDF: %w", title, err)
	}
	return doc.Output(w)
}

type pdf struct {
	*fpdf.Fpdf
	has map[string]bool // typefaces that are in the file
}

func (d *pdf) path(p *sheet.Path) {
	for _, g := range p.Segs {
		switch g.Op {
		case 'M':
			d.MoveTo(g.P[0][0], g.P[0][1])
		case 'L':
			d.LineTo(g.P[0][0], g.P[0][1])
		case 'C':
			d.CurveBezierCubicTo(g.P[0][0], g.P[0][1], g.P[1][0], g.P[1][1], g.P[2][0], g.P[2][1])
		case 'Z':
			d.ClosePath()
		}
	}
	style := ""
	if p.Grey >= 0 {
		g := int(math.Round(p.Grey * 255))
		d.SetFillColor(g, g, g)
		style = "f*"
	}
	if p.Weight > 0 {
		d.SetLineWidth(p.Weight)
		if style == "" {
			style = "S"
		} else {
			style = "B*"
		}
	}
	if style == "" {
		style = "n"
	}
	d.dash(p.Dashed)
	d.DrawPath(style)
	d.dash(false)
}

func (d *pdf) dash(on bool) {
	if on {
		d.SetDashPattern(dashes[:], 0)
	} else {
		d.SetDashPattern(nil, 0)
	}
}

func (d *pdf) line(l *sheet.Line) {
	d.SetLineWidth(l.Weight)
	if l.White {
		d.SetDrawColor(255, 255, 255)
	}
	d.dash(l.Dashed)
	d.Line(l.X1, l.Y1, l.X2, l.Y2)
	d.dash(false)
	d.SetDrawColor(0, 0, 0)
}

func (d *pdf) box(r *sheet.Box) {
	d.SetFillColor(255, 255, 255)
	d.SetLineWidth(r.Weight)
	style := "D"
	switch {
	case r.Weight == 0:
		style = "F"
	case r.Empty:
		style = "FD"
	}
	d.Rect(r.X, r.Y, r.W, r.H, style)
}

func (d *pdf) face(f *typeface, size float64) {
	if !d.has[f.name] {
		d.has[f.name] = true
		d.AddUTF8FontFromBytes(f.name, "", f.data)
	}
	d.SetFont(f.name, "", size/pt)
}

func (d *pdf) text(t *sheet.Text) {
	if needsShaping(t.Text) {
		for _, l := range letters(t) {
			d.path(&l)
		}
		return
	}
	all := runs(t.Text, t.Bold)
	wide := 0.0
	for _, r := range all {
		d.face(r.face, t.Size)
		wide += d.GetStringWidth(r.text)
	}
	x := t.X
	switch t.Anchor {
	case "middle":
		x -= wide / 2
	case "end":
		x -= wide
	}
	if t.Turn != 0 {
		d.TransformBegin()
		d.TransformRotate(t.Turn, t.X, t.Y)
	}
	for _, r := range all {
		d.face(r.face, t.Size)
		d.Text(x, t.Y, r.text)
		x += d.GetStringWidth(r.text)
	}
	if t.Turn != 0 {
		d.TransformEnd()
	}
}

func (d *pdf) within(in *sheet.Inset, draw func()) {
	d.ClipRect(in.X, in.Y, in.W, in.H, false)
	d.TransformBegin()
	d.TransformTranslate(in.X-in.AtX, in.Y-in.AtY)
	draw()
	d.TransformEnd()
	d.ClipEnd()
}
