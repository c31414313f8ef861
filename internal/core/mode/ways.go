package mode

import (
	"cmp"
	"math"
	"slices"

	"hobrak/internal/core/geometry"
)

const (
	// square of the floor in which ways are looked for, mm. A way is said up to so much narrower than it is.
	square = 50.0
	// widest that is asked for: wider ways are wide enough for anything.
	widest = 1100.0
	// arm is how near one must get to where one stands at a station, mm: one stands closer than one walks past.
	arm = 500.0
)

// terrain is the floor in squares, each with the room to the nearest that stands in the way.
type terrain struct {
	low   geometry.Point
	w, h  int
	room  []float64 // 0 outside and in what stands there, else the radius of the free disc about the middle
	by    []int32   // number of the body that limits it, -1 a wall
	solid []geometry.Polygon
	boxes [][2]geometry.Point // about each of them
	// from the door: the widest way there, as the least room on it, and the square where that is.
	wide  []float64
	pinch []int32
}

func newTerrain(outline geometry.Polygon, solid []geometry.Polygon) *terrain {
	low, high := outline.Bounds()
	t := &terrain{low: low, w: int((high.X-low.X)/square) + 1, h: int((high.Y-low.Y)/square) + 1, solid: solid}
	n := t.w * t.h
	t.room, t.by = make([]float64, n), make([]int32, n)
	t.indoors(outline)
	for i, o := range solid {
		from, to := o.Bounds()
		t.boxes = append(t.boxes, [2]geometry.Point{from, to})
		rect := rectangle(o)
		boxed := math.Abs(math.Abs(o.Area())-(to.X-from.X)*(to.Y-from.Y)) < 1 // it lies along the axes
		x0, y0, x1, y1 := t.span(from, to, widest/2)
		for y := y0; y <= y1; y++ {
			py := t.low.Y + (float64(y)+.5)*square
			dy := max(from.Y-py, 0, py-to.Y)
			for x := x0; x <= x1; x++ {
				c := y*t.w + x
				room := t.room[c]
				if room == 0 {
					continue
				}
				px := t.low.X + (float64(x)+.5)*square
				dx := max(from.X-px, 0, px-to.X)
				// The box about it is no farther, and for most it is all there is.
				if dx*dx+dy*dy >= room*room {
					continue
				}
				d := math.Sqrt(dx*dx + dy*dy)
				switch {
				case boxed:
				case rect != nil:
					d = rect.distance(px, py)
				default:
					p := geometry.Point{X: px, Y: py}
					if d = 0; !o.Contains(p) {
						d = o.Distance(p)
					}
				}
				if d < room {
					t.room[c], t.by[c] = d, int32(i)
				}
			}
		}
	}
	return t
}

// turned is a rectangle at any angle: from a corner, along two sides of unit length.
type turned struct {
	at, u, v geometry.Point
	w, h     float64
}

// rectangle makes one of an outline; nil when it is none.
func rectangle(g geometry.Polygon) *turned {
	if len(g) != 4 {
		return nil
	}
	a, b, back := g[1].Sub(g[0]), g[3].Sub(g[0]), g[2].Sub(g[1]).Sub(g[3].Sub(g[0]))
	w, h := a.Norm(), b.Norm()
	if w == 0 || h == 0 || math.Abs(a.Dot(b)) > 1e-6*w*h || back.Norm() > 1e-6*(w+h) {
		return nil
	}
	return &turned{g[0], a.Mul(1 / w), b.Mul(1 / h), w, h}
}

// distance from a spot; 0 within.
func (r *turned) distance(x, y float64) float64 {
	x, y = x-r.at.X, y-r.at.Y
	u, v := x*r.u.X+y*r.u.Y, x*r.v.X+y*r.v.Y
	du, dv := max(-u, 0, u-r.w), max(-v, 0, v-r.h)
	return math.Sqrt(du*du + dv*dv)
}

// span are the squares about a box, first and last in each direction, as far out as is said.
func (t *terrain) span(from, to geometry.Point, far float64) (x0, y0, x1, y1 int) {
	return max(0, int((from.X-far-t.low.X)/square)), max(0, int((from.Y-far-t.low.Y)/square)),
		min(t.w-1, int((to.X+far-t.low.X)/square)), min(t.h-1, int((to.Y+far-t.low.Y)/square))
}

// indoors gives each square in the room its distance to the nearest wall, and -1 to what limits it.
func (t *terrain) indoors(outline geometry.Polygon) {
	var crossed []float64 // where a row enters and leaves the room
	for y := range t.h {
		py := t.low.Y + (float64(y)+.5)*square
		crossed = crossed[:0]
		for i := range outline {
			if e := outline.Edge(i); (e.A.Y > py) != (e.B.Y > py) {
				crossed = append(crossed, e.A.X+(e.B.X-e.A.X)*(py-e.A.Y)/(e.B.Y-e.A.Y))
			}
		}
		slices.Sort(crossed)
		for x, k, in := 0, 0, false; x < t.w; x++ {
			c := y*t.w + x
			t.by[c] = -1
			for px := t.low.X + (float64(x)+.5)*square; k < len(crossed) && crossed[k] <= px; k++ {
				in = !in
			}
			if in {
				t.room[c] = widest / 2
			}
		}
	}
	// A wall limits only what is near it.
	for i := range outline {
		e := outline.Edge(i)
		from, to := geometry.Polygon{e.A, e.B}.Bounds()
		d := e.B.Sub(e.A)
		n := d.Dot(d)
		x0, y0, x1, y1 := t.span(from, to, widest/2)
		for y := y0; y <= y1; y++ {
			py := t.low.Y + (float64(y)+.5)*square
			for x := x0; x <= x1; x++ {
				c := y*t.w + x
				room := t.room[c]
				if room == 0 {
					continue
				}
				px := t.low.X + (float64(x)+.5)*square
				u := 0.0
				if n > 0 {
					u = min(1, max(0, ((px-e.A.X)*d.X+(py-e.A.Y)*d.Y)/n))
				}
				qx, qy := px-e.A.X-u*d.X, py-e.A.Y-u*d.Y
				if q := qx*qx + qy*qy; q < room*room {
					// Never nothing: that is outside.
					t.room[c] = max(math.Sqrt(q), 1e-6)
				}
			}
		}
	}
}

func (t *terrain) middle(c int) geometry.Point {
	return geometry.Point{X: t.low.X + (float64(c%t.w)+.5)*square, Y: t.low.Y + (float64(c/t.w)+.5)*square}
}

// about are the squares within a distance of a spot.
func (t *terrain) about(p geometry.Point, far float64, visit func(c int)) {
	_, y0, _, y1 := t.span(p, p, far)
	for y := y0; y <= y1; y++ {
		dy := t.low.Y + (float64(y)+.5)*square - p.Y
		if dy*dy > far*far {
			continue
		}
		half := math.Sqrt(far*far - dy*dy)
		from, to := int(math.Ceil((p.X-half-t.low.X)/square-.5)), int(math.Floor((p.X+half-t.low.X)/square-.5))
		for x := max(0, from); x <= min(t.w-1, to); x++ {
			visit(y*t.w + x)
		}
	}
}

// spread works out the widest way from doors to everywhere: of two ways that is wider whose narrowest spot is
// (a widest-path search; Pollack, The maximum capacity through a network, Operations Research 8, 1960).
func (t *terrain) spread(doors ...geometry.Point) {
	t.wide, t.pinch = make([]float64, len(t.room)), make([]int32, len(t.room))
	// Squares wait by how wide the way to them is, in whole mm: the widest are gone on from first.
	waiting := make([][]int32, widest/2+1)
	push := func(c int32, wide float64) { waiting[int(wide)] = append(waiting[int(wide)], c) }
	for _, door := range doors {
		t.about(door, arm, func(c int) {
			if t.room[c] > 0 && t.seen(door, t.middle(c)) {
				t.wide[c], t.pinch[c] = widest/2, int32(c)
				if t.by[c] >= 0 { // the wall of the door itself is no narrow spot, what stands beside it is
					t.wide[c] = t.room[c]
				}
				push(int32(c), t.wide[c])
			}
		})
	}
	for k := len(waiting) - 1; k >= 0; k-- {
		for len(waiting[k]) > 0 {
			c := int(waiting[k][len(waiting[k])-1])
			waiting[k] = waiting[k][:len(waiting[k])-1]
			if int(t.wide[c]) != k {
				continue // a wider way was found since
			}
			here, from := t.wide[c], t.pinch[c]
			x, y := c%t.w, c/t.w
			x0, x1, y1 := max(0, x-1), min(t.w-1, x+1), min(t.h-1, y+1)
			for dy := max(0, y-1); dy <= y1; dy++ {
				for n := dy*t.w + x0; n <= dy*t.w+x1; n++ {
					had := t.wide[n]
					if had >= here || had >= t.room[n] {
						continue // as wide as it can be
					}
					wide, pinch := here, from
					if room := t.room[n]; room < wide {
						wide, pinch = room, int32(n)
					}
					t.wide[n], t.pinch[n] = wide, pinch
					push(int32(n), wide)
				}
			}
		}
	}
}

// seen tells whether nothing stands between two spots.
func (t *terrain) seen(a, b geometry.Point) bool {
	s := geometry.Segment{A: a, B: b}
	from, to := geometry.Polygon{a, b}.Bounds()
	for k, o := range t.solid {
		if box := &t.boxes[k]; box[0].X > to.X || box[1].X < from.X || box[0].Y > to.Y || box[1].Y < from.Y {
			continue
		}
		if o.Contains(a) || o.Contains(b) {
			return false
		}
		for i := range o {
			if s.Crosses(o.Edge(i)) {
				return false
			}
		}
	}
	return true
}

// to is how wide the way from the door to a spot is, mm, and the square where it is narrowest; 0 when there is none.
func (t *terrain) to(p geometry.Point) (wide float64, pinch int) {
	best := int32(-1)
	t.about(p, arm, func(c int) {
		if t.wide[c] > 0 && (best < 0 || t.wide[c] > t.wide[best]) {
			best = int32(c)
		}
	})
	if best < 0 {
		return 0, -1
	}
	if t.seen(p, t.middle(int(best))) { // as it mostly is
		return 2 * t.wide[best], int(t.pinch[best])
	}
	var near []int32
	t.about(p, arm, func(c int) {
		if t.wide[c] > 0 {
			near = append(near, int32(c))
		}
	})
	slices.SortFunc(near, func(a, b int32) int { return cmp.Compare(t.wide[b], t.wide[a]) })
	for _, c := range near {
		if t.seen(p, t.middle(int(c))) {
			return 2 * t.wide[c], int(t.pinch[c])
		}
	}
	return 0, -1
}

// between are the numbers of the two nearest bodies to a square, -1 for a wall.
func (t *terrain) between(c int, outline geometry.Polygon) [2]int {
	type side struct {
		far float64
		by  int
	}
	a, b := side{math.Inf(1), -1}, side{math.Inf(1), -1}
	p := t.middle(c)
	add := func(far float64, by int) {
		switch {
		case far < a.far:
			a, b = side{far, by}, a
		case far < b.far:
			b = side{far, by}
		}
	}
	for i := range outline {
		add(outline.Edge(i).Distance(p), -1)
	}
	for i, o := range t.solid {
		add(o.Distance(p), i)
	}
	return [2]int{a.by, b.by}
}
