// Package geometry has the few plane figures the floor of a shop needs: points,
// segments and polygons, in millimetres as floating-point numbers.
package geometry

import "math"

// Point is a spot on the floor, in millimetres.
type Point struct{ X, Y float64 }

// Add, Sub and Mul are the usual vector operations.
func (p Point) Add(q Point) Point        { return Point{p.X + q.X, p.Y + q.Y} }
func (p Point) Sub(q Point) Point        { return Point{p.X - q.X, p.Y - q.Y} }
func (p Point) Mul(k float64) Point      { return Point{p.X * k, p.Y * k} }
func (p Point) Dot(q Point) float64      { return p.X*q.X + p.Y*q.Y }
func (p Point) Cross(q Point) float64    { return p.X*q.Y - p.Y*q.X }
func (p Point) Norm() float64            { return math.Sqrt(p.X*p.X + p.Y*p.Y) }
func (p Point) Distance(q Point) float64 { return p.Sub(q).Norm() }
func (p Point) Unit() Point              { return p.Mul(1 / p.Norm()) }
func (p Point) Turned(deg float64) Point {
	s, c := math.Sincos(deg * math.Pi / 180)
	return Point{p.X*c - p.Y*s, p.X*s + p.Y*c}
}
func (p Point) Near(q Point, d float64) bool { return p.Distance(q) <= d }

// Segment runs from A to B.
type Segment struct{ A, B Point }

// Nearest is the point of the segment closest to p.
func (s Segment) Nearest(p Point) Point {
	d := s.B.Sub(s.A)
	l2 := d.Dot(d)
	if l2 == 0 {
		return s.A
	}
	t := min(1, max(0, p.Sub(s.A).Dot(d)/l2))
	return s.A.Add(d.Mul(t))
}

// Distance from p to the segment.
func (s Segment) Distance(p Point) float64 { return p.Distance(s.Nearest(p)) }

// Crosses tells whether two segments share a point, ends included.
func (s Segment) Crosses(o Segment) bool {
	d1 := side(o.A, o.B, s.A)
	d2 := side(o.A, o.B, s.B)
	d3 := side(s.A, s.B, o.A)
	d4 := side(s.A, s.B, o.B)
	if d1*d2 < 0 && d3*d4 < 0 {
		return true
	}
	return d1 == 0 && o.within(s.A) || d2 == 0 && o.within(s.B) || d3 == 0 && s.within(o.A) || d4 == 0 && s.within(o.B)
}

func (s Segment) within(p Point) bool {
	return p.X >= min(s.A.X, s.B.X) && p.X <= max(s.A.X, s.B.X) && p.Y >= min(s.A.Y, s.B.Y) && p.Y <= max(s.A.Y, s.B.Y)
}

func side(a, b, p Point) float64 {
	c := b.Sub(a).Cross(p.Sub(a))
	switch {
	case c > 0:
		return 1
	case c < 0:
		return -1
	}
	return 0
}

// Polygon is an outline given by its corners in order.
type Polygon []Point

// Edge is the side from corner i to the next.
func (g Polygon) Edge(i int) Segment { return Segment{g[i], g[(i+1)%len(g)]} }

// Crossing finds two sides that meet though they are not neighbours.
func (g Polygon) Crossing() (i, j int, found bool) {
	for i := range g {
		for j := i + 2; j < len(g); j++ {
			if i == 0 && j == len(g)-1 {
				continue
			}
			if g.Edge(i).Crosses(g.Edge(j)) {
				return i, j, true
			}
		}
	}
	return 0, 0, false
}

// Area is positive when the corners run anticlockwise (x right, y up).
func (g Polygon) Area() float64 {
	sum := 0.0
	for i := range g {
		e := g.Edge(i)
		sum += e.A.Cross(e.B)
	}
	return sum / 2
}

// Contains tells whether p lies inside; what lies exactly on the outline may go either way.
func (g Polygon) Contains(p Point) bool {
	in := false
	for i := range g {
		e := g.Edge(i)
		if (e.A.Y > p.Y) != (e.B.Y > p.Y) && p.X < (e.B.X-e.A.X)*(p.Y-e.A.Y)/(e.B.Y-e.A.Y)+e.A.X {
			in = !in
		}
	}
	return in
}

// Distance from p to the outline.
func (g Polygon) Distance(p Point) float64 {
	best := math.Inf(1)
	for i := range g {
		best = min(best, g.Edge(i).Distance(p))
	}
	return best
}

// Gap between two convex polygons that do not overlap: the shortest way from a corner of one to a side of the other.
func (g Polygon) Gap(o Polygon) float64 {
	gap := math.Inf(1)
	for _, p := range g {
		gap = min(gap, o.Distance(p))
	}
	for _, p := range o {
		gap = min(gap, g.Distance(p))
	}
	return gap
}

// Clear is what is free between two simple polygons, convex or not, in their unit: 0 where they touch, cross, or one is in the other.
func (g Polygon) Clear(o Polygon) float64 {
	if len(g) == 0 || len(o) == 0 {
		return math.Inf(1)
	}
	if g.Contains(o[0]) || o.Contains(g[0]) {
		return 0
	}
	for i := range g {
		e := g.Edge(i)
		for k := range o {
			if e.Crosses(o.Edge(k)) {
				return 0
			}
		}
	}
	return g.Gap(o)
}

// Moved is the polygon elsewhere.
func (g Polygon) Moved(by Point) Polygon {
	out := make(Polygon, len(g))
	for i := range g {
		out[i] = g[i].Add(by)
	}
	return out
}

// Bounds of the polygon.
func (g Polygon) Bounds() (low, high Point) {
	low, high = Point{math.Inf(1), math.Inf(1)}, Point{math.Inf(-1), math.Inf(-1)}
	for _, p := range g {
		low = Point{min(low.X, p.X), min(low.Y, p.Y)}
		high = Point{max(high.X, p.X), max(high.Y, p.Y)}
	}
	return low, high
}

// Overlaps tells whether two convex polygons share more than depth millimetres,
// by the separating-axis test.
func (g Polygon) Overlaps(o Polygon, depth float64) bool {
	for _, pair := range [2][2]Polygon{{g, o}, {o, g}} {
		for i := range pair[0] {
			e := pair[0].Edge(i)
			if e.A == e.B {
				continue
			}
			n := e.B.Sub(e.A).Unit()
			n = Point{n.Y, -n.X}
			aLow, aHigh := span(pair[0], n)
			bLow, bHigh := span(pair[1], n)
			if aHigh-bLow <= depth || bHigh-aLow <= depth {
				return false
			}
		}
	}
	return true
}

func span(g Polygon, n Point) (low, high float64) {
	low, high = math.Inf(1), math.Inf(-1)
	for _, p := range g {
		d := p.Dot(n)
		low, high = min(low, d), max(high, d)
	}
	return low, high
}

// Rectangle with its lower left corner at x, y before it is turned
// anticlockwise about its middle. Corners run anticlockwise from the front left.
func Rectangle(x, y, w, d, deg float64) Polygon {
	mid := Point{x + w/2, y + d/2}
	out := make(Polygon, 0, 4)
	for _, c := range []Point{{-w / 2, -d / 2}, {w / 2, -d / 2}, {w / 2, d / 2}, {-w / 2, d / 2}} {
		out = append(out, mid.Add(c.Turned(deg)))
	}
	return out
}
