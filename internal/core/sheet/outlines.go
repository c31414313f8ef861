package sheet

import (
	"fmt"
	"math"

	"hobrak/internal/core/length"
	"hobrak/internal/core/round"
	"hobrak/internal/core/silhouette"
)

// Traced is a thing as it is seen in a place, mm from its left lower corner.
type Traced struct {
	Name, Glyph string
	X, Y, W, H  float64
	Outline     [][2]float64 // its own shape in W by H, when it is known
}

// Finger is how wide a hole is by which one gets at what lies in foam, mm (an estimate).
const Finger = 25.0

// Shadows are the outlines of what hangs or stands in a place at full size, to be cut out or painted: so one sees what is missing.
// They are those of the kind of thing; where a tool is otherwise it is traced over them.
func Shadows(w, h float64, things []Traced, units length.System) Page {
	p := newPicture(0, w, h, 1, units)
	p.rect(0, 0, w, h, -1, .3)
	for _, t := range things {
		if t.Outline != nil {
			p.own(t.Outline, t.X, t.Y, 0)
		} else {
			p.thing(t.Glyph, round.Piece{X: t.X, Z: t.Y, W: t.W, H: t.H}, false)
		}
		p.named(t)
	}
	return *p.Page
}

// own draws the outline of a thing as it is, grown by so much.
func (p *picture) own(outline [][2]float64, x, y, by float64) {
	pts := outline
	if by > 0 {
		pts = grown(outline, by)
	}
	on := make([][2]float64, len(pts))
	for i, q := range pts {
		on[i] = [2]float64{x + q[0], y + q[1]}
	}
	p.outline(on, -1, .35)
}

// Foam are the pockets for what lies in a drawer or tray at full size, to be cut out of foam: the outline of each thing where it is known,
// else its box, with play round it, and a hole for a finger where one gets under it. Play is in mm.
func Foam(w, h, play float64, things []Traced, units length.System) Page {
	p := newPicture(0, w, h, 1, units)
	p.rect(0, 0, w, h, -1, .3)
	for _, t := range things {
		x0, y0 := max(0, t.X-play), max(0, t.Y-play)
		x1, y1 := min(w, t.X+t.W+play), min(h, t.Y+t.H+play)
		if t.Outline != nil {
			p.own(t.Outline, t.X, t.Y, play)
		} else {
			p.pocket(x0, y0, x1, y1, min(Finger/2, (x1-x0)/4, (y1-y0)/4))
			p.thing(t.Glyph, round.Piece{X: t.X, Z: t.Y, W: t.W, H: t.H}, true)
		}
		// Under the middle of a long side, half of it outside of the pocket, where there is room.
		r := min(Finger/2, (x1-x0)/2, (y1-y0)/2)
		if x1-x0 >= y1-y0 {
			p.circle((x0+x1)/2, y0, r)
		} else {
			p.circle(x0, (y0+y1)/2, r)
		}
		p.named(t)
	}
	return *p.Page
}

// named writes what it is where there is room for it.
func (p *picture) named(t Traced) {
	size := min(4.5, t.H/3)
	if size < 2 {
		size = 2
	}
	p.name(t.X+t.W/2, t.Y+t.H/2, t.W, size, "middle", false, t.Name)
}

// pocket is a rectangle with rounded corners.
func (p *picture) pocket(x0, y0, x1, y1, r float64) {
	k := r * (1 - .5523) // quarter of a circle as a curve
	seg := func(op byte, pts ...[2]float64) silhouette.Seg {
		s := silhouette.Seg{Op: op}
		for i, q := range pts {
			s.P[i] = p.at(q[0], q[1])
		}
		return s
	}
	p.Paths = append(p.Paths, Path{Grey: -1, Weight: .35, Segs: []silhouette.Seg{
		seg('M', [2]float64{x0 + r, y0}), seg('L', [2]float64{x1 - r, y0}),
		seg('C', [2]float64{x1 - k, y0}, [2]float64{x1, y0 + k}, [2]float64{x1, y0 + r}), seg('L', [2]float64{x1, y1 - r}),
		seg('C', [2]float64{x1, y1 - k}, [2]float64{x1 - k, y1}, [2]float64{x1 - r, y1}), seg('L', [2]float64{x0 + r, y1}),
		seg('C', [2]float64{x0 + k, y1}, [2]float64{x0, y1 - k}, [2]float64{x0, y1 - r}), seg('L', [2]float64{x0, y0 + r}),
		seg('C', [2]float64{x0, y0 + k}, [2]float64{x0 + k, y0}, [2]float64{x0 + r, y0}), {Op: 'Z'},
	}})
}

func (p *picture) circle(x, y, r float64) {
	const n = 24
	pts := make([][2]float64, n)
	for i := range pts {
		a := 2 * math.Pi * float64(i) / n
		pts[i] = [2]float64{x + r*math.Cos(a), y + r*math.Sin(a)}
	}
	p.outline(pts, -1, .25)
}

// OutlinesTitle says what is on the sheets of outlines.
func OutlinesTitle(place string, foam bool) string {
	if foam {
		return fmt.Sprintf("%s, pockets in foam", place)
	}
	return fmt.Sprintf("%s, shadows", place)
}

// Cutout is an outline at full size, mm, with play round it: to be cut out of foam, or painted. Play is drawn by offsetting each edge;
// sharp corners are cut off at twice the play.
func Cutout(points [][2]float64, w, h, play float64) Page {
	round := 5 + play
	p := Page{W: w + 2*round, H: h + 2*round}
	at := func(q [2]float64) [2]float64 { return [2]float64{round + q[0], p.H - round - q[1]} }
	ring := func(list [][2]float64, weight float64) {
		var out [][2]float64
		for _, q := range list {
			out = append(out, at(q))
		}
		p.Paths = append(p.Paths, Outline(out, -1, weight))
	}
	ring(points, .3)
	if play > 0 && len(points) > 2 {
		ring(grown(points, play), .15)
	}
	return p
}

// grown is an outline with each edge moved out.
func grown(points [][2]float64, by float64) [][2]float64 {
	area := 0.0
	n := len(points)
	for i, a := range points {
		b := points[(i+1)%n]
		area += a[0]*b[1] - b[0]*a[1]
	}
	side := math.Copysign(1, area)
	var out [][2]float64
	for i, q := range points {
		a, b := points[(i+n-1)%n], points[(i+1)%n]
		l1, l2 := math.Hypot(q[0]-a[0], q[1]-a[1]), math.Hypot(b[0]-q[0], b[1]-q[1])
		if l1 < 1e-9 || l2 < 1e-9 {
			continue
		}
		n1 := [2]float64{side * (q[1] - a[1]) / l1, -side * (q[0] - a[0]) / l1}
		n2 := [2]float64{side * (b[1] - q[1]) / l2, -side * (b[0] - q[0]) / l2}
		m := [2]float64{n1[0] + n2[0], n1[1] + n2[1]}
		l := math.Hypot(m[0], m[1])
		if l < .2 {
			out = append(out, [2]float64{q[0] + by*n1[0], q[1] + by*n1[1]}, [2]float64{q[0] + by*n2[0], q[1] + by*n2[1]})
			continue
		}
		k := min(2, 2/l) // of a mitre, cut off at twice the play
		out = append(out, [2]float64{q[0] + by*k*m[0]/l, q[1] + by*k*m[1]/l})
	}
	return out
}
