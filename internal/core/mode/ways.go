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
	room  []float64 // radius of the free disc about the middle
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
		boxed := math.Abs(math.Abs(o.Area())-(to.X-from.X)*(to.Y-from.Y)) < 1 // it lies along the axes
		const far = widest / 2
		for y := max(0, int((from.Y-far-low.Y)/square)); y <= min(t.h-1, int((to.Y+far-low.Y)/square)); y++ {
			for x := max(0, int((from.X-far-low.X)/square)); x <= min(t.w-1, int((to.X+far-low.X)/square)); x++ {
				c := y*t.w + x
				if t.room[c] == 0 {
					continue
				}
				p := t.middle(c)
				// The box about it is no farther, and for most it is all there is.
				d := math.Hypot(max(from.X-p.X, 0, p.X-to.X), max(from.Y-p.Y, 0, p.Y-to.Y))
				if !boxed && d < t.room[c] {
					if d = 0; !o.Contains(p) {
						d = o.Distance(p)
					}
				}
				if d < t.room[c] {
					t.room[c], t.by[c] = d, int32(i)
				}
			}
		}
	}
	return t
}

// indoors gives each square in the room its distance to the nearest wall, and -1 to what limits it.
func (t *terrain) indoors(outline geometry.Polygon) {
	type edge struct{ ax, ay, dx, dy, n float64 }
	edges := make([]edge, len(outline))
	for i := range outline {
		e := outline.Edge(i)
		d := e.B.Sub(e.A)
		edges[i] = edge{e.A.X, e.A.Y, d.X, d.Y, d.Dot(d)}
	}
	var crossed []float64 // where a row enters and leaves the room
	for y := range t.h {
		py := t.middle(y * t.w).Y
		crossed = crossed[:0]
		for _, e := range edges {
			if (e.ay > py) != (e.ay+e.dy > py) {
				crossed = append(crossed, e.ax+e.dx*(py-e.ay)/e.dy)
			}
		}
		slices.Sort(crossed)
		for x := range t.w {
			c := y*t.w + x
			px := t.middle(c).X
			t.by[c] = -1
			in := false
			for _, at := range crossed {
				in = in != (at <= px)
			}
			if !in {
				continue
			}
			least := widest * widest / 4
			for _, e := range edges {
				u := 0.0
				if e.n > 0 {
					u = min(1, max(0, ((px-e.ax)*e.dx+(py-e.ay)*e.dy)/e.n))
				}
				qx, qy := px-e.ax-u*e.dx, py-e.ay-u*e.dy
				least = min(least, qx*qx+qy*qy)
			}
			t.room[c] = math.Sqrt(least)
		}
	}
}

func (t *terrain) middle(c int) geometry.Point {
	return geometry.Point{X: t.low.X + (float64(c%t.w)+.5)*square, Y: t.low.Y + (float64(c/t.w)+.5)*square}
}

// about are the squares within a distance of a spot.
func (t *terrain) about(p geometry.Point, far float64, visit func(c int)) {
	for y := max(0, int((p.Y-far-t.low.Y)/square)); y <= min(t.h-1, int((p.Y+far-t.low.Y)/square)); y++ {
		for x := max(0, int((p.X-far-t.low.X)/square)); x <= min(t.w-1, int((p.X+far-t.low.X)/square)); x++ {
			if c := y*t.w + x; t.middle(c).Near(p, far) {
				visit(c)
			}
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
			x, y := c%t.w, c/t.w
			for dy := max(0, y-1); dy <= min(t.h-1, y+1); dy++ {
				for dx := max(0, x-1); dx <= min(t.w-1, x+1); dx++ {
					n := dy*t.w + dx
					wide, pinch := t.wide[c], t.pinch[c]
					if t.room[n] < wide {
						wide, pinch = t.room[n], int32(n)
					}
					if wide > t.wide[n] {
						t.wide[n], t.pinch[n] = wide, pinch
						push(int32(n), wide)
					}
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
	var near []int32
	best := int32(-1)
	t.about(p, arm, func(c int) {
		if t.wide[c] > 0 {
			if near = append(near, int32(c)); best < 0 || t.wide[c] > t.wide[best] {
				best = int32(c)
			}
		}
	})
	if best < 0 {
		return 0, -1
	}
	if t.seen(p, t.middle(int(best))) { // as it mostly is
		return 2 * t.wide[best], int(t.pinch[best])
	}
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
