package walk

import (
	"container/heap"
	"math"
	"slices"

	"hobrak/internal/core/geometry"
)

const (
	// manyNodes make a floor large: some fifty things stand on it.
	manyNodes = 600
	// manyNear is how many of the nearest nodes one looks at on a large floor, an eighth of
	// them in each direction.
	manyNear = 40
	// cell is how wide the squares are by which things are found, in mm.
	cell = 1000.0
	// mostCells along a side; then the squares are wider.
	mostCells = 200
)

func (f *Floor) large() bool { return len(f.nodes) > manyNodes }

// grid finds what is near without looking at everything.
type grid struct {
	low        geometry.Point
	size       float64
	cols, rows int
	grown      [][]int32 // obstacles in each square
	held       [][]int32 // nodes in each square
}

func newGrid(outline geometry.Polygon, obstacles []grown) *grid {
	low, high := outline.Bounds()
	for i := range obstacles {
		low.X, low.Y = min(low.X, obstacles[i].low.X), min(low.Y, obstacles[i].low.Y)
		high.X, high.Y = max(high.X, obstacles[i].high.X), max(high.Y, obstacles[i].high.Y)
	}
	g := &grid{low: low, size: max(cell, (high.X-low.X)/mostCells, (high.Y-low.Y)/mostCells)}
	g.cols, g.rows = int((high.X-low.X)/g.size)+1, int((high.Y-low.Y)/g.size)+1
	g.grown, g.held = make([][]int32, g.cols*g.rows), make([][]int32, g.cols*g.rows)
	for i := range obstacles {
		c0, r0 := g.square(obstacles[i].low)
		c1, r1 := g.square(obstacles[i].high)
		for r := r0; r <= r1; r++ {
			for c := c0; c <= c1; c++ {
				g.grown[r*g.cols+c] = append(g.grown[r*g.cols+c], int32(i))
			}
		}
	}
	return g
}

func (g *grid) square(p geometry.Point) (c, r int) {
	return min(max(int((p.X-g.low.X)/g.size), 0), g.cols-1), min(max(int((p.Y-g.low.Y)/g.size), 0), g.rows-1)
}

// hold nodes.
func (g *grid) hold(nodes []geometry.Point) {
	for i, p := range nodes {
		c, r := g.square(p)
		g.held[r*g.cols+c] = append(g.held[r*g.cols+c], int32(i))
	}
}

// at lists the obstacles that may be at a spot.
func (g *grid) at(p geometry.Point) []int32 {
	c, r := g.square(p)
	return g.grown[r*g.cols+c]
}

// around lists the obstacles that may reach into a rectangle, each once, in their order.
func (g *grid) around(low, high geometry.Point) (out []int32) {
	c0, r0 := g.square(low)
	c1, r1 := g.square(high)
	for r := r0; r <= r1; r++ {
		for c := c0; c <= c1; c++ {
			out = append(out, g.grown[r*g.cols+c]...)
		}
	}
	slices.Sort(out)
	return slices.Compact(out)
}

// along asks about the obstacles in the squares a segment passes, until one answers yes.
// One that lies in several squares may be asked about more than once.
func (g *grid) along(s geometry.Segment, yes func(int32) bool) bool {
	ask := func(c, r int) bool { return slices.ContainsFunc(g.grown[r*g.cols+c], yes) }
	c0, r0 := g.square(s.A)
	c1, r1 := g.square(s.B)
	if c0 == c1 {
		for r := min(r0, r1); r <= max(r0, r1); r++ {
			if ask(c0, r) {
				return true
			}
		}
		return false
	}
	// Column by column the rows it passes there, a little more for rounding.
	slope := (s.B.Y - s.A.Y) / (s.B.X - s.A.X)
	step := 1
	if c1 < c0 {
		step = -1
	}
	for c := c0; ; c += step {
		x0, x1 := g.low.X+float64(c)*g.size, g.low.X+float64(c+1)*g.size
		from, to := min(s.A.X, s.B.X), max(s.A.X, s.B.X)
		x0, x1 = min(max(x0, from), to), min(max(x1, from), to)
		y0, y1 := s.A.Y+(x0-s.A.X)*slope, s.A.Y+(x1-s.A.X)*slope
		_, a := g.square(geometry.Point{X: x0, Y: min(y0, y1) - 1})
		_, b := g.square(geometry.Point{X: x0, Y: max(y0, y1) + 1})
		for r := a; r <= b; r++ {
			if ask(c, r) {
				return true
			}
		}
		if c == c1 {
			return false
		}
	}
}

// nearest lists manyNear nodes near p, as many in each eighth of the circle.
func (g *grid) nearest(nodes []geometry.Point, p geometry.Point) (out []int32) {
	c0, r0 := g.square(p)
	for ring := 0; ring <= max(g.cols, g.rows); ring++ {
		for r := max(0, r0-ring); r <= min(g.rows-1, r0+ring); r++ {
			for c := max(0, c0-ring); c <= min(g.cols-1, c0+ring); c++ {
				if c == c0-ring || c == c0+ring || r == r0-ring || r == r0+ring {
					out = append(out, g.held[r*g.cols+c]...)
				}
			}
		}
		if len(out) >= 4*manyNear {
			break // what is beyond this ring is further than most of these
		}
	}
	// The few nearest in each eighth of the circle, kept sorted.
	type near struct {
		node int32
		far  float64 // squared
	}
	var each [8][manyNear / 8]near
	var held [8]int
	for _, i := range out {
		d := nodes[i].Sub(p)
		x, side := near{i, d.Dot(d)}, 0
		if d.X < 0 {
			side = 1
		}
		if d.Y < 0 {
			side |= 2
		}
		if math.Abs(d.X) < math.Abs(d.Y) {
			side |= 4
		}
		list, k := &each[side], held[side]
		if k == len(list) {
			if x.far >= list[k-1].far {
				continue
			}
			k--
		} else {
			held[side]++
		}
		for ; k > 0 && list[k-1].far > x.far; k-- {
			list[k] = list[k-1]
		}
		list[k] = x
	}
	out = out[:0]
	for side := range each {
		for _, x := range each[side][:held[side]] {
			out = append(out, x.node)
		}
	}
	return out
}

// nearby are the neighbours of a node among those near it. Two who ask at once may both
// work them out: they come to the same.
func (f *Floor) nearby(i int) []edge {
	if known := f.near[i].Load(); known != nil {
		return *known
	}
	seen := f.visible(f.nodes[i], f.at.nearest(f.nodes, f.nodes[i]))
	f.near[i].Store(&seen)
	return seen
}

// search finds one way on a large floor: its length, infinite when there is none, and its points.
func (w *Ways) search(g *Goal) (float64, []geometry.Point) {
	f := w.floor
	if !w.ok || !g.OK || g.floor != f {
		return math.Inf(1), nil
	}
	ends := w.from.Distance(w.start) + g.Stand.Distance(g.At)
	line := func(points ...geometry.Point) []geometry.Point {
		return slices.Compact(slices.Concat([]geometry.Point{w.from, w.start}, points, []geometry.Point{g.Stand, g.At}))
	}
	if f.clear(geometry.Segment{A: w.start, B: g.Stand}) {
		return ends + w.start.Distance(g.Stand), line()
	}
	first := f.visible(w.start, f.at.nearest(f.nodes, w.start))
	_, way, ok := f.astar(first, g.nodesSeen(), g.Stand, f.nearby)
	if !ok {
		if _, way, ok = f.astar(f.visible(w.start, nil), f.visible(g.Stand, nil), g.Stand, f.neighbours); !ok {
			return math.Inf(1), nil
		}
	}
	points := f.taut(line(way...))
	length := 0.0
	for i := 1; i < len(points); i++ {
		length += points[i-1].Distance(points[i])
	}
	return length, points
}

// taut leaves out the points between two that see each other. The first and the last step
// stay: they lead to where one can stand.
func (f *Floor) taut(points []geometry.Point) []geometry.Point {
	for again := true; again; {
		again = false
		for i := 1; i+2 < len(points)-1; i++ {
			for j := len(points) - 2; j > i+1; j-- {
				if f.clear(geometry.Segment{A: points[i], B: points[j]}) {
					points, again = slices.Delete(points, i+1, j), true
					break
				}
			}
		}
	}
	return points
}

// astar finds the shortest way from the nodes first seen to a goal seen from the last ones.
func (f *Floor) astar(first, last []edge, goal geometry.Point, neighbours func(int) []edge) (float64, []geometry.Point, bool) {
	end := make(map[int]float64, len(last))
	for _, e := range last {
		end[e.to] = e.cost
	}
	cost, prev := make([]float64, len(f.nodes)), make([]int32, len(f.nodes))
	for i := range cost {
		cost[i], prev[i] = math.Inf(1), -1
	}
	q := &queue{}
	reach := func(i, from int, c float64) {
		if c < cost[i] {
			cost[i], prev[i] = c, int32(from)
			heap.Push(q, entry{i, c + f.nodes[i].Distance(goal)})
		}
	}
	for _, e := range first {
		reach(e.to, -1, e.cost)
	}
	best, via := math.Inf(1), -1
	for q.Len() > 0 {
		e := heap.Pop(q).(entry)
		if e.cost >= best {
			break
		}
		if e.cost > cost[e.node]+f.nodes[e.node].Distance(goal)+1e-9 {
			continue // reached cheaper since
		}
		if c, sees := end[e.node]; sees && cost[e.node]+c < best {
			best, via = cost[e.node]+c, e.node
		}
		for _, n := range neighbours(e.node) {
			reach(n.to, e.node, cost[e.node]+n.cost)
		}
	}
	if via < 0 {
		return 0, nil, false
	}
	var way []geometry.Point
	for i := via; i >= 0; i = int(prev[i]) {
		way = append(way, f.nodes[i])
	}
	slices.Reverse(way)
	return best, way, true
}
