package label

import (
	"fmt"
	"slices"
	"strings"

	"hobrak/internal/core/sheet"
	"hobrak/internal/core/silhouette"
)

// Bits of a square code: true is black.
type Bits [][]bool

// Small is a label on which the address is not as large as it must be to be read from where one stands.
type Small struct {
	Label  string  `json:"label" doc:"address"`
	Needs  float64 `json:"needs" doc:"height of letters, mm"`
	Has    float64 `json:"has" doc:"height of letters on this size, mm"`
	Larger int     `json:"larger" doc:"number of the next common size on which it is large enough; -1 when there is none"`
}

// capital is the height of a capital letter as a share of the size of type.
const capital = .73

// quiet is how many modules of white a code has round it.
const quiet = 4

// module is the least width of a square of a code that phones read from a hand's breadth, mm.
const module = .38

// Drawn is one label, as a page of its size. Code is what its square code says; none without. It gives the height of the letters of
// the address, mm.
func Drawn(l *Label, w, h float64, code Bits) (sheet.Page, float64) {
	p := sheet.Page{W: w, H: h}
	pad := min(2.2, h*.08)
	// The code in the upper right corner as small as it is read well; below it lines have the whole width.
	codeLeft, codeEnd := w, 0.0
	if n := len(code); n > 0 {
		side := max(float64(n+2*quiet)*module*1.1, min(h*.45, w*.3))
		if side = min(side, h-2*pad, w*.5); side/float64(n+2*quiet) >= module {
			square(&p, code, w-pad-side, pad, side)
			codeLeft, codeEnd = w-pad-side, pad+side
		}
	}
	room := func(y, size float64) float64 {
		if y-size < codeEnd {
			return codeLeft - 1 - pad
		}
		return w - 2*pad
	}
	small := max(1.9, min(3.4, h*.085))
	step := small * 1.3
	foot := strings.Join(append(append([]string{}, l.Hazards...), nonEmpty(l.Load)...), " · ")
	name := l.Name
	if name == l.Address {
		name = ""
	}
	if l.Under {
		name = strings.TrimSpace(name + " (underside)")
	}
	// The address is half as large again as it must be to be read, or larger where nothing else wants the room.
	tall := max(l.Letters*1.5, h*.2)
	if name == "" && len(l.Lines) == 0 {
		tall = h * .62
	}
	size := min(tall, (h-2*pad)*.62) / capital
	for size > 2 && (sheet.Text{Size: size, Text: l.Address, Bold: true}).Width() > room(0, 0) {
		size *= .96
	}
	y := pad + size*capital
	p.Texts = append(p.Texts, sheet.Text{X: pad, Y: y, Size: size, Text: l.Address, Anchor: "start", Bold: true})
	end := h - pad
	feet := wrapped(foot, " · ", func(t string) bool {
		return (sheet.Text{Size: small, Text: t, Bold: true}).Width() <= room(end-2*step, small)
	})
	for _, text := range slices.Backward(feet) { // from below
		if end-small < y {
			break
		}
		p.Texts = append(p.Texts, sheet.Text{X: pad, Y: end, Size: small, Text: text, Anchor: "start", Bold: true}.Cut(room(end, small)))
		end -= step
	}
	y += small * .45
	put := func(text string, bold bool) bool {
		if y+step > end {
			return false
		}
		y += step
		p.Texts = append(p.Texts, sheet.Text{X: pad, Y: y, Size: small, Text: text, Anchor: "start", Bold: bold}.Cut(room(y, small)))
		return true
	}
	for _, text := range wrapped(name, " ", func(t string) bool {
		return (sheet.Text{Size: small, Text: t, Bold: true}).Width() <= room(y+step, small)
	}) {
		put(text, true)
	}
	for i, text := range l.Lines {
		if y+2*step > end && i < len(l.Lines)-1 {
			put(fmt.Sprintf("and %d more", len(l.Lines)-i), false)
			break
		}
		if !put(text, false) {
			break
		}
	}
	return p, size * capital
}

// wrapped is a text in lines that fit, cut at a mark between its parts.
func wrapped(text, mark string, fits func(string) bool) (lines []string) {
	line := ""
	for _, part := range strings.Split(text, mark) {
		switch {
		case part == "":
		case line == "":
			line = part
		case fits(line + mark + part):
			line += mark + part
		default:
			lines = append(lines, line)
			line = part
		}
	}
	if line != "" {
		lines = append(lines, line)
	}
	return lines
}

func nonEmpty(text string) []string {
	if text == "" {
		return nil
	}
	return []string{text}
}

// square draws a code, each run of black as one rectangle so that no seams show.
func square(p *sheet.Page, code Bits, x, y, side float64) {
	m := side / float64(len(code)+2*quiet)
	path := sheet.Path{Grey: 0}
	for r := range code {
		for c := 0; c < len(code[r]); c++ {
			if !code[r][c] {
				continue
			}
			from := c
			for c < len(code[r]) && code[r][c] {
				c++
			}
			x1, x2 := x+float64(quiet+from)*m, x+float64(quiet+c)*m
			y1, y2 := y+float64(quiet+r)*m, y+float64(quiet+r+1)*m
			for k, q := range [][2]float64{{x1, y1}, {x2, y1}, {x2, y2}, {x1, y2}} {
				op := byte('L')
				if k == 0 {
					op = 'M'
				}
				path.Segs = append(path.Segs, silhouette.Seg{Op: op, P: [3][2]float64{q}})
			}
			path.Segs = append(path.Segs, silhouette.Seg{Op: 'Z'})
		}
	}
	p.Paths = append(p.Paths, path)
}

// Pages of labels on a stock, the first one at a position of the first sheet counted from 1, along the rows. Code gives what the square
// code of a label is; nil without codes. Lines to cut along are drawn when it is asked for. It says which are too small to be read.
func Pages(labels []Label, s *Stock, start int, cut bool, code func(*Label) Bits) ([]sheet.Page, []Small, error) {
	if _, err := s.Check(); err != nil {
		return nil, nil, err
	}
	paper, err := s.PaperOf()
	if err != nil {
		return nil, nil, err
	}
	each := s.Cols * s.Rows
	if start < 1 || start > each {
		return nil, nil, fmt.Errorf("the first label of a sheet is from 1 to %d", each)
	}
	pages := []sheet.Page{{W: paper.W, H: paper.H}}
	small := []Small{}
	at := start - 1
	for i := range labels {
		if at == each {
			pages = append(pages, sheet.Page{W: paper.W, H: paper.H})
			at = 0
		}
		p := &pages[len(pages)-1]
		x, y := s.Left+float64(at%s.Cols)*s.StepX, s.Top+float64(at/s.Cols)*s.StepY
		var bits Bits
		if code != nil {
			bits = code(&labels[i])
		}
		d, has := Drawn(&labels[i], s.W, s.H, bits)
		p.Insets = append(p.Insets, sheet.Inset{X: x, Y: y, W: s.W, H: s.H, Drawing: &d})
		if cut {
			p.Boxes = append(p.Boxes, sheet.Box{X: x, Y: y, W: s.W, H: s.H, Weight: .1})
		}
		if l := &labels[i]; has < l.Letters-.05 {
			small = append(small, Small{l.Address, l.Letters, has, larger(l, s)})
		}
		at++
	}
	return pages, small, nil
}

// larger is the number of the smallest common stock of the same paper on which the address can be read.
func larger(l *Label, than *Stock) int {
	best := -1
	for i := range Stocks {
		s := &Stocks[i]
		if s.Paper != than.Paper {
			continue
		}
		if _, has := Drawn(l, s.W, s.H, nil); has >= l.Letters && (best < 0 || s.W*s.H < Stocks[best].W*Stocks[best].H) {
			best = i
		}
	}
	return best
}
