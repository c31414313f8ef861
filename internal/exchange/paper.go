// Package exchange writes what leaves Hobrak as files: drawings on paper as SVG
// and PDF.
package exchange

import (
	"bytes"
	"encoding/xml"
	"fmt"
	"io"
	"math"
	"strconv"
	"time"

	"codeberg.org/go-pdf/fpdf"

	"hobrak/internal/core/sheet"
)

// gap between pages in an SVG, mm.
const gap = 6.0

// SVG writes pages one below the other, true to scale when printed.
func SVG(w io.Writer, title string, pages []sheet.Page) error {
	var b bytes.Buffer
	wide, high := 0.0, -gap
	for _, p := range pages {
		wide = max(wide, p.W)
		high += p.H + gap
	}
	fmt.Fprintf(&b, `<svg xmlns="http://www.w3.org/2000/svg" width="%smm" height="%smm" viewBox="0 0 %s %s" font-family="Helvetica, Arial, sans-serif" fill="none" stroke="#000" stroke-linecap="round">`+"\n", n(wide), n(high), n(wide), n(high))
	fmt.Fprintf(&b, "<title>%s</title>\n", escaped(title))
	y := 0.0
	for _, p := range pages {
		fmt.Fprintf(&b, "<g transform=\"translate(0 %s)\">\n<rect width=\"%s\" height=\"%s\" fill=\"#fff\" stroke=\"none\"/>\n", n(y), n(p.W), n(p.H))
		for _, a := range p.Areas {
			b.WriteString(`<polygon stroke="none" fill="`)
			g := int(math.Round(a.Grey * 255))
			fmt.Fprintf(&b, `rgb(%d,%d,%d)" points="`, g, g, g)
			for i, q := range a.Points {
				if i > 0 {
					b.WriteByte(' ')
				}
				b.WriteString(n(q[0]) + "," + n(q[1]))
			}
			b.WriteString("\"/>\n")
		}
		for _, l := range p.Lines {
			dash := ""
			if l.Dashed {
				dash = ` stroke-dasharray="2 1.4"`
			}
			fmt.Fprintf(&b, `<line x1="%s" y1="%s" x2="%s" y2="%s" stroke-width="%s"%s/>`+"\n", n(l.X1), n(l.Y1), n(l.X2), n(l.Y2), n(l.Weight), dash)
		}
		for _, r := range p.Boxes {
			fill := "none"
			if r.Empty {
				fill = "#fff"
			}
			fmt.Fprintf(&b, `<rect x="%s" y="%s" width="%s" height="%s" stroke-width="%s" fill="%s"/>`+"\n", n(r.X), n(r.Y), n(r.W), n(r.H), n(r.Weight), fill)
		}
		for _, t := range p.Texts {
			more := ""
			if t.Bold {
				more = ` font-weight="bold"`
			}
			if t.Turn != 0 {
				more += fmt.Sprintf(` transform="rotate(%s %s %s)"`, n(-t.Turn), n(t.X), n(t.Y))
			}
			fmt.Fprintf(&b, `<text x="%s" y="%s" font-size="%s" text-anchor="%s" fill="#000" stroke="none"%s>%s</text>`+"\n", n(t.X), n(t.Y), n(t.Size), t.Anchor, more, escaped(t.Text))
		}
		b.WriteString("</g>\n")
		y += p.H + gap
	}
	b.WriteString("</svg>\n")
	_, err := w.Write(b.Bytes())
	return err
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

// PDF writes pages at their true size. The same pages give the same bytes.
func PDF(w io.Writer, title string, pages []sheet.Page) error {
	doc := fpdf.New("L", "mm", "A4", "")
	doc.SetCatalogSort(true)
	doc.SetCreationDate(time.Unix(0, 0).UTC())
	doc.SetModificationDate(time.Unix(0, 0).UTC())
	doc.SetTitle(title, true)
	doc.SetProducer("Hobrak", true)
	doc.SetAutoPageBreak(false, 0)
	doc.SetLineCapStyle("round")
	latin := doc.UnicodeTranslatorFromDescriptor("")
	for _, p := range pages {
		doc.AddPageFormat("L", fpdf.SizeType{Wd: p.H, Ht: p.W})
		for _, a := range p.Areas {
			g := int(math.Round(a.Grey * 255))
			doc.SetFillColor(g, g, g)
			var pts []fpdf.PointType
			for _, q := range a.Points {
				pts = append(pts, fpdf.PointType{X: q[0], Y: q[1]})
			}
			doc.Polygon(pts, "F")
		}
		for _, l := range p.Lines {
			doc.SetLineWidth(l.Weight)
			if l.Dashed {
				doc.SetDashPattern([]float64{2, 1.4}, 0)
			}
			doc.Line(l.X1, l.Y1, l.X2, l.Y2)
			if l.Dashed {
				doc.SetDashPattern(nil, 0)
			}
		}
		doc.SetFillColor(255, 255, 255)
		for _, r := range p.Boxes {
			doc.SetLineWidth(r.Weight)
			style := "D"
			switch {
			case r.Weight == 0:
				style = "F"
			case r.Empty:
				style = "FD"
			}
			doc.Rect(r.X, r.Y, r.W, r.H, style)
		}
		for _, t := range p.Texts {
			style := ""
			if t.Bold {
				style = "B"
			}
			doc.SetFont("Helvetica", style, t.Size*72/25.4)
			s := latin(t.Text)
			x := t.X
			switch t.Anchor {
			case "middle":
				x -= doc.GetStringWidth(s) / 2
			case "end":
				x -= doc.GetStringWidth(s)
			}
			if t.Turn != 0 {
				doc.TransformBegin()
				doc.TransformRotate(t.Turn, t.X, t.Y)
			}
			doc.Text(x, t.Y, s)
			if t.Turn != 0 {
				doc.TransformEnd()
			}
		}
	}
	if err := doc.Error(); err != nil {
		return fmt.Errorf("drawing %s as PDF: %w", title, err)
	}
	return doc.Output(w)
}
