package exchange

import (
	"bytes"
	"encoding/xml"
	"fmt"
	"io"
	"math"
	"strconv"

	"hobrak/internal/core/sheet"
)

// gap between pages in an SVG, mm.
const gap = 6.0

// SVG writes pages one below the other, true to scale when printed.
func SVG(w io.Writer, title string, pages []sheet.Page) error {
	s := &svg{}
	wide, high := 0.0, -gap
	for i := range pages {
		wide = max(wide, pages[i].W)
		high += pages[i].H + gap
	}
	fmt.Fprintf(&s.b, `<svg xmlns="http://www.w3.org/2000/svg" width="%smm" height="%smm" viewBox="0 0 %s %s" font-family="'DejaVu Sans', Verdana, sans-serif" fill="none" stroke="#000" stroke-linecap="round">`+"\n", n(wide), n(high), n(wide), n(high))
	fmt.Fprintf(&s.b, "<title>%s</title>\n", escaped(title))
	y := 0.0
	for i := range pages {
		p := &pages[i]
		fmt.Fprintf(&s.b, "<g transform=\"translate(0 %s)\">\n<rect width=\"%s\" height=\"%s\" fill=\"#fff\" stroke=\"none\"/>\n", n(y), n(p.W), n(p.H))
		draw(s, p)
		s.b.WriteString("</g>\n")
		y += p.H + gap
	}
	s.b.WriteString("</svg>\n")
	_, err := w.Write(s.b.Bytes())
	return err
}

type svg struct {
	b     bytes.Buffer
	clips int
}

func (s *svg) path(p *sheet.Path) {
	s.b.WriteString(`<path d="`)
	for _, g := range p.Segs {
		s.b.WriteByte(g.Op)
		points := map[byte]int{'M': 1, 'L': 1, 'C': 3}[g.Op]
		for i := range points {
			if i > 0 {
				s.b.WriteByte(' ')
			}
			s.b.WriteString(n(g.P[i][0]) + " " + n(g.P[i][1]))
		}
	}
	s.b.WriteString(`"`)
	if p.Grey >= 0 {
		g := int(math.Round(p.Grey * 255))
		fmt.Fprintf(&s.b, ` fill="rgb(%d,%d,%d)" fill-rule="evenodd"`, g, g, g)
	}
	if p.Weight == 0 {
		s.b.WriteString(` stroke="none"`)
	} else {
		fmt.Fprintf(&s.b, ` stroke-width="%s"%s`, n(p.Weight), dashed(p.Dashed))
	}
	s.b.WriteString("/>\n")
}

func dashed(yes bool) string {
	if yes {
		return fmt.Sprintf(` stroke-dasharray="%s %s"`, n(dashes[0]), n(dashes[1]))
	}
	return ""
}

func (s *svg) line(l *sheet.Line) {
	white := ""
	if l.White {
		white = ` stroke="#fff"`
	}
	fmt.Fprintf(&s.b, `<line x1="%s" y1="%s" x2="%s" y2="%s" stroke-width="%s"%s%s/>`+"\n", n(l.X1), n(l.Y1), n(l.X2), n(l.Y2), n(l.Weight), white, dashed(l.Dashed))
}

func (s *svg) box(r *sheet.Box) {
	fill := "none"
	if r.Empty {
		fill = "#fff"
	}
	fmt.Fprintf(&s.b, `<rect x="%s" y="%s" width="%s" height="%s" stroke-width="%s" fill="%s"/>`+"\n", n(r.X), n(r.Y), n(r.W), n(r.H), n(r.Weight), fill)
}

func (s *svg) text(t *sheet.Text) {
	more := ""
	if t.Bold {
		more = ` font-weight="bold"`
	}
	if t.Turn != 0 {
		more += fmt.Sprintf(` transform="rotate(%s %s %s)"`, n(-t.Turn), n(t.X), n(t.Y))
	}
	fmt.Fprintf(&s.b, `<text x="%s" y="%s" font-size="%s" text-anchor="%s" fill="#000" stroke="none"%s>%s</text>`+"\n", n(t.X), n(t.Y), n(t.Size), t.Anchor, more, escaped(t.Text))
}

func (s *svg) within(in *sheet.Inset, draw func()) {
	s.clips++
	fmt.Fprintf(&s.b, `<clipPath id="c%d"><rect x="%s" y="%s" width="%s" height="%s"/></clipPath>`+"\n", s.clips, n(in.X), n(in.Y), n(in.W), n(in.H))
	fmt.Fprintf(&s.b, `<g clip-path="url(#c%d)"><g transform="translate(%s %s)">`+"\n", s.clips, n(in.X-in.AtX), n(in.Y-in.AtY))
	draw()
	s.b.WriteString("</g></g>\n")
}

// n writes a number with at most two decimals.
func n(v float64) string {
	return strconv.FormatFloat(math.Round(v*100)/100, 'f', -1, 64)
}

func escaped(s string) string {
	var b bytes.Buffer
	_ = xml.EscapeText(&b, []byte(s)) // a buffer does not fail
	return b.String()
}
