package pack

import (
	"cmp"
	"math"
	"math/rand/v2"
	"slices"

	"hobrak/internal/core/geometry"
)

// Nested is a thing that is to be laid by its outline. Lengths are mm.
type Nested struct {
	Shape  geometry.Polygon // from the left lower corner of its box
	Turned geometry.Polygon // the same when it is turned by a quarter; nil when it may not be
	Gap    float64          // to its neighbours
	Value  float64          // what having it in counts
	Fixed  *Lain            // where it stays; it may not overlap what stays otherwise
}

// Lain is where one was laid: the left lower corner of its box.
type Lain struct {
	Piece  int
	X, Y   float64
	Turned bool
}

// NestOptions of a search.
type NestOptions struct {
	Rails []float64 // heights at which things hang with the top of their box; anywhere without
	Tries int       // orders that are tried
	Seed  uint64
	Done  func() bool // it is over before; never when left out
}

// cells across the longer side of a plane: outlines are compared in them before they are compared exactly.
const nestCells = 320

// Nest lays things by their outlines into a plane w by h so that what is in counts as much as is found, each at least its gap from the
// others. They are put in one after the other, each at the lowest, the leftmost or the cornermost free spot of a grid, and orders are changed about as
// long as that gets more in. Free is decided by the outlines themselves; the grid only says quickly what cannot be (as in the raster
// method of Burke and others, Operations Research 54, 2006, which compares outlines alone).
func Nest(w, h float64, list []Nested, o NestOptions) []Lain {
	n := newNest(w, h, list, o)
	if o.Done == nil {
		o.Done = func() bool { return false }
	}
	rng := rand.New(rand.NewPCG(o.Seed, uint64(len(list))))
	var order []int
	for i := range list {
		if list[i].Fixed == nil {
			order = append(order, i)
		}
	}
	area := func(i int) float64 { return math.Abs(list[i].Shape.Area()) }
	slices.SortStableFunc(order, func(a, b int) int { return cmp.Compare(area(b), area(a)) })
	var best []Lain
	most := math.Inf(-1)
	kept := slices.Clone(order)
	for try := range max(1, o.Tries) {
		if try > 0 && o.Done() {
			break
		}
		next := slices.Clone(kept)
		if try > 1 && len(next) > 1 {
			for range 1 + rng.IntN(3) { // what was left out goes first, or two change about
				i, k := rng.IntN(len(next)), rng.IntN(len(next))
				x := next[i]
				next = slices.Insert(slices.Delete(next, i, i+1), k, x)
			}
		}
		laid, value := n.lay(next, try%3)
		if value >= most {
			if value > most || try == 0 {
				best = laid
			}
			most, kept = value, next
		}
	}
	return best
}

// nest is a search.
type nest struct {
	w, h, cell float64
	nx, ny     int
	list       []Nested
	rails      []float64
	masks      [][2]*mask // of each piece, as it is and turned
}

// mask is a piece in cells: those whose middle is in it, and those whose middle is nearer to it than a gap.
type mask struct {
	shape      geometry.Polygon
	w, h       float64
	rows       [][]uint64
	wide, high int
}

func newNest(w, h float64, list []Nested, o NestOptions) *nest {
	n := &nest{w: w, h: h, cell: max(1, max(w, h)/nestCells), list: list, rails: o.Rails, masks: make([][2]*mask, len(list))}
	n.nx, n.ny = int(math.Ceil(w/n.cell)), int(math.Ceil(h/n.cell))
	for i := range list {
		n.masks[i][0] = n.mask(list[i].Shape)
		if list[i].Turned != nil {
			n.masks[i][1] = n.mask(list[i].Turned)
		}
	}
	return n
}

func (n *nest) mask(g geometry.Polygon) *mask {
	_, high := g.Bounds()
	m := &mask{shape: g, w: high.X, h: high.Y, wide: int(math.Ceil(high.X / n.cell)), high: int(math.Ceil(high.Y / n.cell))}
	for range m.high {
		m.rows = append(m.rows, make([]uint64, (m.wide+63)/64))
	}
	n.mark(g, 0, m.rows, m.wide)
	return m
}

// mark the cells whose middle is in an outline or nearer to it than a reach.
func (n *nest) mark(g geometry.Polygon, reach float64, rows [][]uint64, wide int) {
	lo, hi := g.Bounds()
	var cross []float64
	for y := max(0, int(lo.Y/n.cell)-1); y < min(len(rows), int(hi.Y/n.cell)+1); y++ {
		mid := (float64(y) + .5) * n.cell
		cross = cross[:0]
		for i := range g {
			a, b := g[i], g[(i+1)%len(g)]
			if (a.Y > mid) != (b.Y > mid) {
				cross = append(cross, a.X+(mid-a.Y)/(b.Y-a.Y)*(b.X-a.X))
			}
		}
		slices.Sort(cross)
		for i := 0; i+1 < len(cross); i += 2 {
			for x := max(0, int(math.Ceil(cross[i]/n.cell-.5))); x < wide && (float64(x)+.5)*n.cell < cross[i+1]; x++ {
				rows[y][x/64] |= 1 << (x % 64)
			}
		}
	}
	if reach <= 0 {
		return
	}
	for i := range g {
		e := g.Edge(i)
		x0, x1 := min(e.A.X, e.B.X)-reach, max(e.A.X, e.B.X)+reach
		y0, y1 := min(e.A.Y, e.B.Y)-reach, max(e.A.Y, e.B.Y)+reach
		for y := max(0, int(y0/n.cell)); y < min(len(rows), int(y1/n.cell)+1); y++ {
			for x := max(0, int(x0/n.cell)); x < min(wide, int(x1/n.cell)+1); x++ {
				if rows[y][x/64]>>(x%64)&1 == 0 && e.Distance(geometry.Point{X: (float64(x) + .5) * n.cell, Y: (float64(y) + .5) * n.cell}) < reach {
					rows[y][x/64] |= 1 << (x % 64)
				}
			}
		}
	}
}

// put is a piece where it lies.
type put struct {
	piece    int
	shape    geometry.Polygon
	lo, hi   geometry.Point
	gap      float64
	x, y     float64
	turnedBy bool
}

// Ways to choose a free spot: the lowest, the leftmost, or that nearest to the lower left corner, by which angles come to lie in angles.
const (
	lowest = iota
	leftmost
	cornermost
)

// lay the pieces in an order, each at its first free spot by a way to choose.
func (n *nest) lay(order []int, way int) ([]Lain, float64) {
	var there []put
	value := 0.0
	// For each gap that is asked for, which cells are nearer to something than it.
	taken := map[float64][][]uint64{}
	for i := range n.list {
		if _, ok := taken[n.list[i].Gap]; !ok {
			grid := make([][]uint64, n.ny)
			for y := range grid {
				grid[y] = make([]uint64, n.nx/64+2)
			}
			taken[n.list[i].Gap] = grid
		}
	}
	add := func(i int, turned bool, x, y float64) {
		m := n.masks[i][b2i(turned)]
		g := m.shape.Moved(geometry.Point{X: x, Y: y})
		lo, hi := g.Bounds()
		there = append(there, put{i, g, lo, hi, n.list[i].Gap, x, y, turned})
		value += n.list[i].Value
		for gap, grid := range taken {
			n.mark(g, max(gap, n.list[i].Gap), grid, n.nx)
		}
	}
	for i := range n.list {
		if f := n.list[i].Fixed; f != nil {
			add(i, f.Turned, f.X, f.Y)
		}
	}
	for _, i := range order {
		bestKey, at, found := [2]float64{}, Lain{}, false
		for t := range 2 {
			if n.masks[i][t] == nil {
				continue
			}
			x, y, ok := n.spot(i, t == 1, taken[n.list[i].Gap], there, way)
			if !ok {
				continue
			}
			m := n.masks[i][t]
			key := [2]float64{y + m.h, x + m.w}
			switch way {
			case leftmost:
				key = [2]float64{x + m.w, y + m.h}
			case cornermost:
				key = [2]float64{x + m.w + y + m.h, y + m.h}
			}
			if !found || key[0] < bestKey[0]-1e-9 || key[0] < bestKey[0]+1e-9 && key[1] < bestKey[1] {
				bestKey, at, found = key, Lain{i, x, y, t == 1}, true
			}
		}
		if found {
			add(i, at.Turned, at.X, at.Y)
		}
	}
	out := make([]Lain, 0, len(there))
	for _, p := range there {
		out = append(out, Lain{p.piece, p.x, p.y, p.turnedBy})
	}
	return out, value
}

func b2i(b bool) int {
	if b {
		return 1
	}
	return 0
}

// spot is the first free one by a way to choose.
func (n *nest) spot(i int, turned bool, taken [][]uint64, there []put, way int) (x, y float64, ok bool) {
	m := n.masks[i][b2i(turned)]
	if m.w > n.w+1e-9 || m.h > n.h+1e-9 {
		return 0, 0, false
	}
	cols, rows := int((n.w-m.w+1e-9)/n.cell)+1, int((n.h-m.h+1e-9)/n.cell)+1
	heights := make([]float64, 0, rows)
	if len(n.rails) > 0 {
		for _, z := range n.rails {
			if z-m.h >= -1e-9 && z <= n.h+1e-9 {
				heights = append(heights, max(0, z-m.h))
			}
		}
	} else {
		for k := range rows {
			heights = append(heights, float64(k)*n.cell)
		}
	}
	try := func(x, y float64, cx int) bool {
		if cy := y / n.cell; cy == math.Trunc(cy) { // on the grid: most of what cannot be is seen from the cells
			if n.blocked(m, taken, cx, int(cy)) {
				return false
			}
		}
		return n.free(i, m, there, x, y)
	}
	switch way {
	case leftmost:
		for c := range cols {
			for _, y := range heights {
				if try(float64(c)*n.cell, y, c) {
					return float64(c) * n.cell, y, true
				}
			}
		}
		return 0, 0, false
	case cornermost:
		// Along lines that fall to the right, nearest to the corner first; each height begins where it comes to the line.
		last := 0
		for _, y := range heights {
			last = max(last, int(y/n.cell)+cols)
		}
		for line := range last + 1 {
			for _, y := range heights {
				if c := line - int(y/n.cell); c >= 0 && c < cols && try(float64(c)*n.cell, y, c) {
					return float64(c) * n.cell, y, true
				}
			}
		}
		return 0, 0, false
	}
	for _, y := range heights {
		for c := range cols {
			if try(float64(c)*n.cell, y, c) {
				return float64(c) * n.cell, y, true
			}
		}
	}
	return 0, 0, false
}

// blocked tells whether a cell of the piece is one that is taken.
func (n *nest) blocked(m *mask, taken [][]uint64, cx, cy int) bool {
	shift, from := cx%64, cx/64
	for r, row := range m.rows {
		if cy+r >= n.ny {
			break
		}
		line := taken[cy+r]
		for k, word := range row {
			if word == 0 {
				continue
			}
			if at := from + k; at < len(line) && line[at]&(word<<shift) != 0 {
				return true
			}
			if at := from + k + 1; shift > 0 && at < len(line) && line[at]&(word>>(64-shift)) != 0 {
				return true
			}
		}
	}
	return false
}

// free tells by the outlines whether a piece may lie there.
func (n *nest) free(i int, m *mask, there []put, x, y float64) bool {
	var g geometry.Polygon
	for k := range there {
		p := &there[k]
		gap := max(p.gap, n.list[i].Gap)
		if x >= p.hi.X+gap || x+m.w+gap <= p.lo.X || y >= p.hi.Y+gap || y+m.h+gap <= p.lo.Y {
			continue
		}
		if g == nil {
			g = m.shape.Moved(geometry.Point{X: x, Y: y})
		}
		if clear := g.Clear(p.shape); clear == 0 || clear < gap-shapeTight/2 {
			return false
		}
	}
	return true
}
