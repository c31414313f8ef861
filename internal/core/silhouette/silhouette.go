// Package silhouette holds the outlines of things, each in a box of 100 × 100 that is stretched
// to the true size of the thing: x runs right, y down, as the thing hangs. They are drawn in
// web/src/stage/glyphs.ts; glyphs.json is written from there.
package silhouette

import (
	_ "embed"
	"encoding/json"
	"fmt"
	"math"
	"strconv"
	"sync"
)

//go:embed glyphs.json
var file []byte

// Tone of a stroke: dark is steel or ink, wood a handle or body of wood, light a body of sheet
// metal, plastic or paper.
type Tone string

// The tones.
const (
	Dark  Tone = "dark"
	Wood  Tone = "wood"
	Light Tone = "light"
)

// Stroke is one filled outline; holes in it are outlines within it.
type Stroke struct {
	Tone Tone
	Path []Seg
}

// Silhouette of a kind of thing. A tall one lies on its side when the thing lies wider than high.
type Silhouette struct {
	Tall    bool
	Strokes []Stroke
}

// Seg is a step of an outline: M moves, L is a straight line, C a curve with two control points
// and its end, Z closes it.
type Seg struct {
	Op byte
	P  [3][2]float64 // one point for M and L, three for C
}

// Turn tells whether the thing of a width and height has its silhouette on its side.
func (s *Silhouette) Turn(w, h float64) bool { return s.Tall && w > h*1.15 }

var all = sync.OnceValue(func() map[string]*Silhouette {
	var f struct {
		Glyphs map[string]struct {
			Tall    bool
			Strokes []struct {
				D    string
				Tone Tone
			}
		}
		Aliases map[string]string
	}
	if err := json.Unmarshal(file, &f); err != nil {
		panic(err) // it is part of the program, and a test reads it
	}
	out := map[string]*Silhouette{}
	for name, g := range f.Glyphs {
		s := &Silhouette{Tall: g.Tall}
		for _, st := range g.Strokes {
			path, err := Parse(st.D)
			if err != nil {
				panic(fmt.Sprintf("silhouette %s: %v", name, err))
			}
			s.Strokes = append(s.Strokes, Stroke{st.Tone, path})
		}
		out[name] = s
	}
	for name, of := range f.Aliases {
		out[name] = out[of]
	}
	return out
})

// Of is the silhouette with a name; what has none of its own is a box.
func Of(name string) *Silhouette {
	if s := all()[name]; s != nil {
		return s
	}
	return all()["box"]
}

// Parse reads path data as SVG has it, with the commands M L H V C Q T A Z and their small forms.
// Quarters of ellipses become curves, exact to a few ten-thousandths of their radius.
func Parse(d string) ([]Seg, error) {
	p := &parser{in: d}
	for {
		p.blank()
		if p.at >= len(p.in) {
			return p.out, p.err
		}
		c := p.in[p.at]
		if c >= 'A' && c <= 'Z' || c >= 'a' && c <= 'z' {
			p.cmd = c
			p.at++
		}
		if !p.step() || p.err != nil {
			return nil, p.err
		}
	}
}

type parser struct {
	in      string
	at      int
	cmd     byte
	x, y    float64 // where the pen is
	x0, y0  float64 // where the outline began
	out     []Seg
	control [2]float64 // of the last quadratic curve, when it was just drawn
	curved  bool
	err     error
}

func (p *parser) blank() {
	for p.at < len(p.in) && (p.in[p.at] == ' ' || p.in[p.at] == ',' || p.in[p.at] == '\n' || p.in[p.at] == '\t') {
		p.at++
	}
}

func (p *parser) number() float64 {
	p.blank()
	from, dot := p.at, false
	for p.at < len(p.in) {
		c := p.in[p.at]
		switch {
		case c >= '0' && c <= '9':
		case c == '.' && !dot:
			dot = true
		case (c == '-' || c == '+') && p.at == from:
		default:
			goto end
		}
		p.at++
	}
end:
	v, err := strconv.ParseFloat(p.in[from:p.at], 64)
	if err != nil && p.err == nil {
		p.err = fmt.Errorf("a number is missing at %d of %q", from, p.in)
	}
	return v
}

func (p *parser) add(op byte, pts ...[2]float64) {
	s := Seg{Op: op}
	copy(s.P[:], pts)
	p.out = append(p.out, s)
	if len(pts) > 0 {
		p.x, p.y = pts[len(pts)-1][0], pts[len(pts)-1][1]
	}
}

// step reads one command with its numbers.
func (p *parser) step() bool {
	rel := p.cmd >= 'a'
	bx, by := 0.0, 0.0
	if rel {
		bx, by = p.x, p.y
	}
	point := func() [2]float64 { x := p.number(); return [2]float64{bx + x, by + p.number()} }
	switch p.cmd &^ 0x20 {
	case 'M':
		q := point()
		p.add('M', q)
		p.x0, p.y0 = q[0], q[1]
		p.cmd = 'L' | p.cmd&0x20 // what follows without a command are lines
	case 'L':
		p.add('L', point())
	case 'H':
		p.add('L', [2]float64{bx + p.number(), p.y})
	case 'V':
		p.add('L', [2]float64{p.x, by + p.number()})
	case 'C':
		a, b := point(), point()
		p.add('C', a, b, point())
	case 'Q':
		c := point()
		p.quadratic(c, point())
		return true
	case 'T': // the control point of the curve before, on the other side
		c := [2]float64{p.x, p.y}
		if p.curved {
			c = [2]float64{2*p.x - p.control[0], 2*p.y - p.control[1]}
		}
		p.quadratic(c, point())
		return true
	case 'A':
		rx, ry := p.number(), p.number()
		p.number() // none of ours is turned
		large, sweep := p.number() != 0, p.number() != 0
		p.arc(rx, ry, large, sweep, point())
	case 'Z':
		p.add('Z')
		p.x, p.y = p.x0, p.y0
		p.cmd = 0
	default:
		p.err = fmt.Errorf("no command at %d of %q", p.at, p.in)
		return false
	}
	p.curved = false
	return true
}

func (p *parser) quadratic(c, to [2]float64) {
	third := func(e [2]float64) [2]float64 { return [2]float64{e[0] + 2*(c[0]-e[0])/3, e[1] + 2*(c[1]-e[1])/3} }
	p.add('C', third([2]float64{p.x, p.y}), third(to), to)
	p.control, p.curved = c, true
}

// arc draws part of an ellipse, as SVG 2, appendix B.2.4 and B.2.5, says, in pieces of at most a quarter.
func (p *parser) arc(rx, ry float64, large, sweep bool, to [2]float64) {
	x1, y1 := (p.x-to[0])/2, (p.y-to[1])/2
	if rx == 0 || ry == 0 || x1 == 0 && y1 == 0 {
		p.add('L', to)
		return
	}
	if l := x1*x1/(rx*rx) + y1*y1/(ry*ry); l > 1 {
		rx, ry = rx*math.Sqrt(l), ry*math.Sqrt(l)
	}
	q := (rx*rx*ry*ry - rx*rx*y1*y1 - ry*ry*x1*x1) / (rx*rx*y1*y1 + ry*ry*x1*x1)
	f := math.Sqrt(max(0, q))
	if large == sweep {
		f = -f
	}
	cx, cy := f*rx*y1/ry, -f*ry*x1/rx
	mx, my := cx+(p.x+to[0])/2, cy+(p.y+to[1])/2
	a := math.Atan2((y1-cy)/ry, (x1-cx)/rx)
	turn := math.Atan2((-y1-cy)/ry, (-x1-cx)/rx) - a
	if sweep && turn < 0 {
		turn += 2 * math.Pi
	} else if !sweep && turn > 0 {
		turn -= 2 * math.Pi
	}
	n := int(math.Ceil(math.Abs(turn)/(math.Pi/2) - 1e-9))
	part := turn / float64(n)
	k := 4.0 / 3 * math.Tan(part/4)
	at := func(a float64) (x, y, dx, dy float64) {
		return mx + rx*math.Cos(a), my + ry*math.Sin(a), -rx * math.Sin(a), ry * math.Cos(a)
	}
	for i := range n {
		xa, ya, dxa, dya := at(a + float64(i)*part)
		xb, yb, dxb, dyb := at(a + float64(i+1)*part)
		end := [2]float64{xb, yb}
		if i == n-1 {
			end = to
		}
		p.add('C', [2]float64{xa + k*dxa, ya + k*dya}, [2]float64{xb - k*dxb, yb - k*dyb}, end)
	}
}
