// Package walk finds the shortest way on foot across a floor: around whatever
// stands there and within its walls, for a body of a given radius. Lengths are
// millimetres.
//
// The way is searched in the visibility graph of the obstacles grown by the
// body's radius (Lozano-Pérez and Wesley 1979), with rounded corners replaced
// by circumscribed octagon corners, so ways are at most 1.5 % of a corner's arc
// longer than the exact ones and never shorter.
//
// On a floor with so much on it that its graph would be too large, each node knows only
// those near it, and one way at a time is searched towards its goal (A*, Hart, Nilsson,
// Raphael 1968). Such a way may be a little longer; where none is found so, the whole graph
// is asked.
package walk

import (
	"container/heap"
	"math"
	"slices"
	"sync"
	"sync/atomic"

	"hobrak/internal/core/geometry"
)

// BodyRadius is the room a walking person needs to each side.
const BodyRadius = 250.0

// slack is how far a way may graze what it must keep clear of, for rounding.
const slack = 0.5

// Floor is a walkable floor. It is safe for use by several goroutines.
type Floor struct {
	outline geometry.Polygon
	radius  float64
	grown   []grown
	nodes   []geometry.Point
	at      *grid // obstacles and nodes by where they are
	meet    sync.Once
	met     []geometry.Point
	mu      sync.Mutex
	seen    [][]edge                 // neighbours of each node, worked out on first use
	near    []atomic.Pointer[[]edge] // of a large floor: those near it
}

// grown is an obstacle grown by the body's radius: a convex polygon as half planes.
type grown struct {
	corners   geometry.Polygon
	normals   []geometry.Point // outward
	offsets   []float64
	low, high geometry.Point
}

type edge struct {
	to   int
	cost float64
}

// NewFloor makes a floor from the outline of an area and convex obstacles
// standing on it, for a body of the given radius.
func NewFloor(outline geometry.Polygon, obstacles []geometry.Polygon, radius float64) *Floor {
	f := &Floor{outline: outline, radius: radius}
	for _, o := range obstacles {
		f.grown = append(f.grown, grow(o, radius))
	}
	f.at = newGrid(outline, f.grown)
	for _, g := range f.grown {
		for _, p := range g.corners {
			if f.Free(p) {
				f.nodes = append(f.nodes, p)
			}
		}
	}
	// Round the corners that stick into the room of an area that is not convex.
	for i := range outline {
		a, b := outline.Edge((i+len(outline)-1)%len(outline)), outline.Edge(i)
		if a.B.Sub(a.A).Cross(b.B.Sub(b.A)) > 0 { // clockwise outline: a left turn is a reflex corner
			for k := range 8 {
				p := outline[i].Add(geometry.Point{X: radius / math.Cos(math.Pi/8)}.Turned(float64(k)*45 + 22.5))
				if f.Free(p) {
					f.nodes = append(f.nodes, p)
				}
			}
		}
	}
	f.seen = make([][]edge, len(f.nodes))
	f.near = make([]atomic.Pointer[[]edge], len(f.nodes))
	f.at.hold(f.nodes)
	return f
}

func grow(o geometry.Polygon, r float64) grown {
	if o.Area() < 0 {
		turned := make(geometry.Polygon, len(o))
		for i, p := range o {
			turned[len(o)-1-i] = p
		}
		o = turned
	}
	var g grown
	n := len(o)
	for i := range o {
		in, out := outward(o.Edge((i+n-1)%n)), outward(o.Edge(i))
		// Two tangent planes between the sides' normals round the corner off.
		turn := math.Atan2(in.Cross(out), in.Dot(out)) * 180 / math.Pi
		for _, share := range []float64{0, 1. / 3, 2. / 3} {
			m := in.Turned(turn * share)
			if share == 0 {
				g.add(m, o[i].Dot(m)+r)
				continue
			}
			if turn > 1 {
				g.add(m, o[i].Dot(m)+r)
			}
		}
	}
	for i := range g.normals {
		g.corners = append(g.corners, meet(g, i, (i+1)%len(g.normals)))
	}
	g.low, g.high = g.corners.Bounds()
	return g
}

func (g *grown) add(n geometry.Point, offset float64) {
	g.normals = append(g.normals, n)
	g.offsets = append(g.offsets, offset)
}

func outward(e geometry.Segment) geometry.Point {
	d := e.B.Sub(e.A).Unit()
	return geometry.Point{X: d.Y, Y: -d.X}
}

func meet(g grown, i, j int) geometry.Point {
	a, b := g.normals[i], g.normals[j]
	det := a.Cross(b)
	return geometry.Point{
		X: (g.offsets[i]*b.Y - g.offsets[j]*a.Y) / det,
		Y: (a.X*g.offsets[j] - b.X*g.offsets[i]) / det,
	}
}

// blocks tells whether the segment passes through the inside.
func (g *grown) blocks(s geometry.Segment) bool {
	if max(s.A.X, s.B.X) <= g.low.X || min(s.A.X, s.B.X) >= g.high.X || max(s.A.Y, s.B.Y) <= g.low.Y || min(s.A.Y, s.B.Y) >= g.high.Y {
		return false
	}
	from, to := 0.0, 1.0
	d := s.B.Sub(s.A)
	for i, n := range g.normals {
		dist := s.A.Dot(n) - g.offsets[i] + slack // inside when below 0
		slope := d.Dot(n)
		switch {
		case slope == 0:
			if dist >= 0 {
				return false
			}
		case slope > 0:
			to = min(to, -dist/slope)
		default:
			from = max(from, -dist/slope)
		}
		if from >= to {
			return false
		}
	}
	return true
}

func (g *grown) contains(p geometry.Point) bool {
	for i, n := range g.normals {
		if p.Dot(n)-g.offsets[i] > -slack {
			return false
		}
	}
	return true
}

// Free tells whether a person can stand at p.
func (f *Floor) Free(p geometry.Point) bool {
	if !f.outline.Contains(p) || f.outline.Distance(p) < f.radius-slack {
		return false
	}
	for _, i := range f.at.at(p) {
		if f.grown[i].contains(p) {
			return false
		}
	}
	return true
}

// clear tells whether one can walk straight along the segment.
func (f *Floor) clear(s geometry.Segment) bool {
	if f.at.along(s, func(i int32) bool { return f.grown[i].blocks(s) }) {
		return false
	}
	for i := range f.outline {
		e := f.outline.Edge(i)
		if s.Crosses(e) || min(s.Distance(e.A), s.Distance(e.B), e.Distance(s.A), e.Distance(s.B)) < f.radius-slack {
			return false
		}
	}
	return true
}

// Nearest is the free spot closest to p; false when there is none on this floor.
func (f *Floor) Nearest(p geometry.Point) (geometry.Point, bool) {
	if f.Free(p) {
		return p, true
	}
	best, least := geometry.Point{}, math.Inf(1)
	for _, q := range f.meetings() {
		if d := p.Distance(q); d < least {
			best, least = q, d
		}
	}
	try := func(side geometry.Segment) {
		q := side.Nearest(p)
		if d := p.Distance(q); d < least && f.Free(q) {
			best, least = q, d
		}
	}
	for i := range f.outline {
		try(f.inset(i))
	}
	for i := range f.grown {
		for k := range f.grown[i].corners {
			try(f.grown[i].corners.Edge(k))
		}
	}
	return best, !math.IsInf(least, 1)
}

// inset is a side of the outline as near as one can stand to it.
func (f *Floor) inset(i int) geometry.Segment {
	e := f.outline.Edge(i)
	in := outward(e).Mul(f.radius) // of a clockwise outline this points inwards
	return geometry.Segment{A: e.A.Add(in), B: e.B.Add(in)}
}

// meetings are the free spots where the limits of where one can stand meet: grown
// obstacles and inset walls, each other; and the nodes that are free. They are the same
// for every spot that is asked about.
func (f *Floor) meetings() []geometry.Point {
	f.meet.Do(func() {
		keep := func(q geometry.Point) {
			if f.Free(q) {
				f.met = append(f.met, q)
			}
		}
		for j := range f.outline { // in a corner of the room
			for i := range f.outline[:j] {
				if x, ok := crossing(f.inset(i), f.inset(j)); ok {
					keep(x)
				}
			}
		}
		for j := range f.grown {
			g := &f.grown[j]
			for l := range g.corners {
				side := g.corners.Edge(l)
				for i := range f.outline {
					if x, ok := crossing(f.inset(i), side); ok {
						keep(x)
					}
				}
				for _, i := range f.at.around(g.low, g.high) {
					o := &f.grown[i]
					if int(i) >= j || g.low.X > o.high.X || o.low.X > g.high.X || g.low.Y > o.high.Y || o.low.Y > g.high.Y {
						continue
					}
					for k := range o.corners {
						if x, ok := crossing(o.corners.Edge(k), side); ok {
							keep(x)
						}
					}
				}
			}
		}
		for _, q := range f.nodes {
			keep(q)
		}
	})
	return f.met
}

func crossing(a, b geometry.Segment) (geometry.Point, bool) {
	d, e := a.B.Sub(a.A), b.B.Sub(b.A)
	det := d.Cross(e)
	if math.Abs(det) < 1e-9 {
		return geometry.Point{}, false
	}
	t := b.A.Sub(a.A).Cross(e) / det
	u := b.A.Sub(a.A).Cross(d) / det
	if t < 0 || t > 1 || u < 0 || u > 1 {
		return geometry.Point{}, false
	}
	return a.A.Add(d.Mul(t)), true
}

func (f *Floor) neighbours(i int) []edge {
	f.mu.Lock()
	defer f.mu.Unlock()
	if f.seen[i] == nil {
		f.seen[i] = f.visible(f.nodes[i], nil)
	}
	return f.seen[i]
}

// Ways are the shortest ways from one spot to everywhere.
type Ways struct {
	floor *Floor
	from  geometry.Point // as asked
	start geometry.Point // the free spot nearest to it
	ok    bool
	cost  []float64
	prev  []int // -1: straight from the start
}

// From works out the ways from p. On a large floor each is searched when it is asked for. When p itself is not free (one stands with
// the belly at the bench), the way begins at the nearest free spot and the
// step to it counts.
func (f *Floor) From(p geometry.Point) *Ways {
	w := &Ways{floor: f, from: p}
	w.start, w.ok = f.Nearest(p)
	if f.large() {
		return w
	}
	w.cost, w.prev = make([]float64, len(f.nodes)), make([]int, len(f.nodes))
	for i := range w.cost {
		w.cost[i] = math.Inf(1)
	}
	if !w.ok {
		return w
	}
	q := &queue{}
	first := p.Distance(w.start)
	for i, n := range f.nodes {
		if f.clear(geometry.Segment{A: w.start, B: n}) {
			w.cost[i], w.prev[i] = first+w.start.Distance(n), -1
			heap.Push(q, entry{i, w.cost[i]})
		}
	}
	for q.Len() > 0 {
		e := heap.Pop(q).(entry)
		if e.cost > w.cost[e.node] {
			continue
		}
		for _, n := range f.neighbours(e.node) {
			if c := e.cost + n.cost; c < w.cost[n.to] {
				w.cost[n.to], w.prev[n.to] = c, e.node
				heap.Push(q, entry{n.to, c})
			}
		}
	}
	return w
}

// Path is a way on foot.
type Path struct {
	Length float64
	Points []geometry.Point // from the first to the last, both included
}

// Goal is a spot to walk to, prepared so that ways from several starts to it
// are found quickly.
type Goal struct {
	floor *Floor
	At    geometry.Point // as asked
	Stand geometry.Point // the free spot nearest to it
	OK    bool           // false when there is no free spot on the floor
	look  sync.Once
	seen  []edge // nodes seen from there, once asked for
}

// Goal prepares the spot p.
func (f *Floor) Goal(p geometry.Point) *Goal {
	g := &Goal{floor: f, At: p}
	g.Stand, g.OK = f.Nearest(p)
	return g
}

// nodesSeen from the goal.
func (g *Goal) nodesSeen() []edge {
	g.look.Do(func() {
		if g.floor.large() {
			g.seen = g.floor.visible(g.Stand, g.floor.at.nearest(g.floor.nodes, g.Stand))
		} else {
			g.seen = g.floor.visible(g.Stand, nil)
		}
	})
	return g.seen
}

// visible nodes from p among those given, or among all of them.
func (f *Floor) visible(p geometry.Point, among []int32) []edge {
	out := []edge{}
	look := func(i int) {
		if d := f.nodes[i].Distance(p); d > 0 && f.clear(geometry.Segment{A: p, B: f.nodes[i]}) {
			out = append(out, edge{i, d})
		}
	}
	if among == nil {
		for i := range f.nodes {
			look(i)
		}
		return out
	}
	for _, i := range among {
		look(int(i))
	}
	return out
}

// best finds the length of the way and the last node on it: -1 straight from the start, -2 no way.
func (w *Ways) best(g *Goal) (float64, int) {
	if !w.ok || !g.OK || g.floor != w.floor { // no way leads from one floor to another
		return math.Inf(1), -2
	}
	best, via := math.Inf(1), -2
	if w.floor.clear(geometry.Segment{A: w.start, B: g.Stand}) {
		best, via = w.from.Distance(w.start)+w.start.Distance(g.Stand), -1
	}
	for _, e := range g.nodesSeen() {
		if c := w.cost[e.to] + e.cost; c < best {
			best, via = c, e.to
		}
	}
	return best + g.Stand.Distance(g.At), via
}

// Length of the shortest way to the goal, infinite when none leads there.
func (w *Ways) Length(g *Goal) float64 {
	if w.floor.large() {
		l, _ := w.search(g)
		return l
	}
	l, via := w.best(g)
	if via == -2 {
		return math.Inf(1)
	}
	return l
}

// To gives the shortest way to p, or false when none leads there.
func (w *Ways) To(p geometry.Point) (Path, bool) {
	f := w.floor
	g := f.Goal(p)
	if f.large() {
		length, points := w.search(g)
		return Path{Length: length, Points: points}, points != nil
	}
	length, via := w.best(g)
	if via == -2 {
		return Path{}, false
	}
	points := []geometry.Point{p}
	step := func(q geometry.Point) {
		if q != points[len(points)-1] {
			points = append(points, q)
		}
	}
	step(g.Stand)
	for i := via; i >= 0; i = w.prev[i] {
		step(f.nodes[i])
	}
	step(w.start)
	step(w.from)
	slices.Reverse(points)
	return Path{Length: length, Points: points}, true
}

type entry struct {
	node int
	cost float64
}

type queue []entry

func (q queue) Len() int           { return len(q) }
func (q queue) Less(i, j int) bool { return q[i].cost < q[j].cost }
func (q queue) Swap(i, j int)      { q[i], q[j] = q[j], q[i] }
func (q *queue) Push(x any)        { *q = append(*q, x.(entry)) }
func (q *queue) Pop() any {
	old := *q
	x := old[len(old)-1]
	*q = old[:len(old)-1]
	return x
}
