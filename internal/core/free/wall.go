package free

import (
	"cmp"
	"fmt"
	"math"
	"slices"

	"hobrak/internal/core/access"
	"hobrak/internal/core/geometry"
	"hobrak/internal/core/length"
	"hobrak/internal/core/reach"
)

// cell of a wall: how far something may stick out there.
type cell struct {
	depth  float64 // with what hangs and stands as storage in the way
	bare   float64 // as the building alone leaves it
	limit  *Limit
	beyond bool // above the top edge
}

// wallGrid is a wall divided at every edge of everything that matters.
type wallGrid struct {
	f     *finder
	of    *walled
	index int
	xs    []float64
	zs    []float64
	cells [][]cell // by column, then by height
	out   Wall
	bands map[string]float64
}

// walled is what came of a wall, and what of the shop it came of.
type walled struct {
	out   Wall
	bands map[string]float64
	dead  []Dead

	seen  []before
	ways  [][]geometry.Point // main ways of the area
	zones []reach.Zones
}

// same tells whether another wall comes to the same, in a shop with the same building.
func (w *walled) same(o *walled) bool {
	return slices.EqualFunc(w.seen, o.seen, before.same) && slices.EqualFunc(w.ways, o.ways, slices.Equal[[]geometry.Point]) && slices.Equal(w.zones, o.zones)
}

// slopeStep is how finely a sloping top edge is followed, mm.
const slopeStep = 150.0

// walkway is the least gap a body goes through, mm.
const walkway = 500.0

// before is a box or a wall as seen from a wall: a stretch along it, from how
// far out to how far.
type before struct {
	x0, x1    float64
	near, far float64
	box       *box
	foot      []geometry.Point // along the wall and out
}

// same tells whether it is the same for a wall.
func (b before) same(o before) bool {
	return b.box.from == o.box.from && b.box.to == o.box.to && b.box.limit == o.box.limit && b.box.stands == o.box.stands && b.box.storage == o.box.storage && slices.Equal(b.foot, o.foot)
}

// wall works out what is free on wall i, of what of the shop concerns it.
func (f *finder) wall(i int, of *walled) *wallGrid {
	w := &f.area.Walls[i]
	long := f.frames[i].Length.MM()
	g := &wallGrid{f: f, of: of, index: i, bands: map[string]float64{}, out: Wall{Area: f.area.ID, ID: w.ID, Claimed: w.Claimed, Patches: []Patch{}, Regions: []Region{}}}
	for k := 1; k < len(w.Profile); k++ {
		a, b := w.Profile[k-1], w.Profile[k]
		g.out.Gross += (b[0] - a[0]).MM() * (a[1] + b[1]).MM() / 2 / 1e6
	}
	if !w.Claimed {
		return g
	}
	g.divide(of.seen, long)
	g.fill()
	g.sum()
	g.patches()
	g.regions()
	return g
}

// seenFrom brings everything before wall i into its coordinates.
func (f *finder) seenFrom(i int) []before {
	fr := f.frames[i]
	var out []before
	for k := range f.boxes {
		b := before{box: &f.boxes[k], x0: math.Inf(1), x1: math.Inf(-1), near: math.Inf(1), far: math.Inf(-1)}
		for _, p := range f.boxes[k].foot {
			x, o := fr.Coordinates(p)
			b.foot = append(b.foot, geometry.Point{X: x, Y: o})
			b.x0, b.x1, b.near, b.far = min(b.x0, x), max(b.x1, x), min(b.near, o), max(b.far, o)
		}
		beyond := b.near >= maxDepth && !b.box.stands // it limits nothing here
		if b.x1 > 1 && b.x0 < fr.Length.MM()-1 && b.far > 1 && !beyond {
			out = append(out, b)
		}
	}
	return out
}

// within gives how far out a footprint begins and ends in a strip of the wall.
func within(foot []geometry.Point, x0, x1 float64) (near, far float64, ok bool) {
	near, far = math.Inf(1), math.Inf(-1)
	at := func(p geometry.Point) { near, far = min(near, p.Y), max(far, p.Y) }
	for i, p := range foot {
		if p.X >= x0 && p.X <= x1 {
			at(p)
		}
		q := foot[(i+1)%len(foot)]
		for _, x := range [2]float64{x0, x1} {
			if (p.X < x) != (q.X < x) {
				at(geometry.Point{X: x, Y: p.Y + (q.Y-p.Y)*(x-p.X)/(q.X-p.X)})
			}
		}
	}
	return near, far, near < far
}

func (g *wallGrid) divide(seen []before, long float64) {
	w := &g.f.area.Walls[g.index]
	xs, zs := []float64{0, long}, []float64{0, g.f.head}
	top := 0.0
	for k, p := range w.Profile {
		top = max(top, p[1].MM())
		xs = append(xs, p[0].MM())
		if k == 0 || p[1] == w.Profile[k-1][1] {
			continue
		}
		a := w.Profile[k-1]
		n := math.Ceil((p[0] - a[0]).MM() / slopeStep)
		for j := 1.0; j < n; j++ {
			xs = append(xs, a[0].MM()+(p[0]-a[0]).MM()*j/n)
		}
	}
	for _, x := range w.Features {
		m := x.Kind.Margin()
		xs = append(xs, x.X.MM()-m, (x.X+x.W).MM()+m)
		zs = append(zs, x.Z.MM()-m, (x.Z+x.H).MM()+m)
	}
	for _, b := range seen {
		xs = append(xs, b.x0, b.x1)
		if len(b.foot) > 4 || len(b.foot) == 4 && b.foot[0].Y != b.foot[1].Y && b.foot[1].Y != b.foot[2].Y {
			for _, p := range b.foot {
				xs = append(xs, p.X)
			}
		}
		zs = append(zs, b.box.from, b.box.to)
	}
	for _, p := range g.f.outline {
		if x, o := g.f.frames[g.index].Coordinates(p); o > 1 {
			xs = append(xs, x)
		}
	}
	zs = append(zs, top)
	g.xs = steps(xs, 0, long)
	for k := 1; k < len(g.xs); k++ {
		zs = append(zs, w.TopOver(length.MM(g.xs[k-1]), length.MM(g.xs[k])).MM())
	}
	g.zs = steps(zs, 0, top)
}

// steps sorts values within bounds and drops such as are nearly the same.
func steps(v []float64, low, high float64) []float64 {
	slices.Sort(v)
	out := []float64{low}
	for _, x := range v {
		x = math.Round(x*10) / 10
		if x > out[len(out)-1]+1 && x < high-1 {
			out = append(out, x)
		}
	}
	return append(out, high)
}

// fill works out the depth of every cell.
func (g *wallGrid) fill() {
	w := &g.f.area.Walls[g.index]
	room := g.opposite()
	limits := make([]Limit, len(w.Features))
	for i := range w.Features {
		limits[i] = limitOf(&w.Features[i])
	}
	var here []int // features in this column
	above := &Limit{"top", w.ID, "top of the wall"}
	for c := 1; c < len(g.xs); c++ {
		x0, x1 := g.xs[c-1], g.xs[c]
		top := w.TopOver(length.MM(x0), length.MM(x1)).MM()
		strip := g.strip(g.of.seen, x0, x1)
		far, by := room(x0, x1)
		way, wayLimit := g.aisle(strip, x0, x1, far, by)
		column := make([]cell, len(g.zs)-1)
		here = here[:0]
		for i := range w.Features {
			x := &w.Features[i]
			if m := x.Kind.Margin(); !x.Kind.Recess() && x.X.MM()-m < x1-.5 && (x.X+x.W).MM()+m > x0+.5 {
				here = append(here, i)
			}
		}
		for k := range column {
			z0, z1 := g.zs[k], g.zs[k+1]
			if z1 > top+1 {
				column[k] = cell{limit: above, beyond: true}
				continue
			}
			d := cell{depth: min(far, maxDepth), bare: min(far, maxDepth), limit: &by}
			for _, b := range strip {
				if b.box.from >= z1-.5 || b.box.to <= z0+.5 {
					continue
				}
				near := max(0, b.near)
				if b.box.stands && near < walkway {
					near = 0 // nobody gets at the wall behind it
				}
				if near < d.depth {
					d.depth, d.limit = near, &b.box.limit
				}
				if !b.box.storage {
					d.bare = min(d.bare, near)
				}
			}
			if z0 < g.f.head-.5 && way < d.depth {
				d.depth, d.limit = way, &wayLimit
			}
			for _, i := range here {
				x := &w.Features[i]
				m := x.Kind.Margin()
				if x.Z.MM()-m < z1-.5 && (x.Z+x.H).MM()+m > z0+.5 {
					d.depth, d.bare, d.limit = 0, 0, &limits[i]
				}
			}
			column[k] = d
		}
		g.cells = append(g.cells, column)
	}
}

// strip lists what stands before a stretch of wall, nearest first.
func (g *wallGrid) strip(seen []before, x0, x1 float64) []before {
	out := make([]before, 0, 8)
	for _, b := range seen {
		if b.x1 <= x0+.5 || b.x0 >= x1-.5 {
			continue
		}
		near, far, ok := within(b.foot, x0, x1)
		if ok && far > 1 {
			out = append(out, before{near: near, far: far, box: b.box})
		}
	}
	slices.SortFunc(out, func(a, b before) int { return cmp.Compare(a.near, b.near) })
	return out
}

// opposite finds how far the room reaches from a stretch of the wall.
func (g *wallGrid) opposite() func(x0, x1 float64) (float64, Limit) {
	type side struct {
		foot []geometry.Point
		id   string
	}
	var sides []side
	for k := range g.f.frames {
		if k == g.index {
			continue
		}
		e := g.f.outline.Edge(k)
		ax, ao := g.f.frames[g.index].Coordinates(e.A)
		bx, bo := g.f.frames[g.index].Coordinates(e.B)
		sides = append(sides, side{[]geometry.Point{{X: ax, Y: ao}, {X: bx, Y: bo}}, g.f.area.Walls[k].ID})
	}
	return func(x0, x1 float64) (float64, Limit) {
		best, limit := math.Inf(1), Limit{"room", "", "the room ends"}
		for _, s := range sides {
			a, b := s.foot[0], s.foot[1]
			low, high := max(x0, min(a.X, b.X)), min(x1, max(a.X, b.X))
			if high-low < .5 {
				continue
			}
			at := func(x float64) float64 { return a.Y + (b.Y-a.Y)*(x-a.X)/(b.X-a.X) }
			if o := min(at(low), at(high)); o > -.5 && o < best {
				best, limit = max(0, o), Limit{"room", s.id, "wall " + s.id}
			}
		}
		if math.IsInf(best, 1) {
			best = maxDepth
		}
		return best, limit
	}
}

// aisle finds how far something may stick out below head height so that one
// still gets by. What stands close together counts as one: where no body goes
// there is no way to keep.
func (g *wallGrid) aisle(strip []before, x0, x1, far float64, by Limit) (float64, Limit) {
	end := 0.0 // up to here it is taken
	keep := func(gap0, gap1 float64, by Limit) (float64, Limit) {
		need, kind := g.f.clear.AisleSide, "side aisle"
		if g.crossed(x0, x1, gap0, gap1) {
			need, kind = g.f.clear.AisleMain, "main aisle"
		}
		return max(gap0, gap1-need), Limit{"aisle", by.By, fmt.Sprintf("%s of %s to %s", kind, length.Whole(need), by.Says)}
	}
	for _, b := range strip {
		if !b.box.stands {
			continue
		}
		if b.near-end >= walkway {
			return keep(end, b.near, b.box.limit)
		}
		end = max(end, b.far)
	}
	if far-end >= walkway {
		return keep(end, far, by)
	}
	return math.Inf(1), Limit{}
}

// crossed tells whether a main aisle leads through a gap before the wall.
func (g *wallGrid) crossed(x0, x1, gap0, gap1 float64) bool {
	fr := g.f.frames[g.index]
	for _, way := range g.of.ways {
		for k := 1; k < len(way); k++ {
			ax, ao := fr.Coordinates(way[k-1])
			bx, bo := fr.Coordinates(way[k])
			t0, t1 := 0.0, 1.0
			if !clip(ax, bx, x0, x1, &t0, &t1) || !clip(ao, bo, gap0, gap1, &t0, &t1) {
				continue
			}
			return true
		}
	}
	return false
}

// clip narrows the share of a run from a to b that lies between low and high.
func clip(a, b, low, high float64, t0, t1 *float64) bool {
	d := b - a
	if d == 0 {
		return a >= low && a <= high
	}
	u, v := (low-a)/d, (high-a)/d
	*t0, *t1 = max(*t0, min(u, v)), min(*t1, max(u, v))
	return *t0 < *t1
}

// sum adds up areas, and free wall by band of reach.
func (g *wallGrid) sum() {
	zones := g.of.zones
	for c, column := range g.cells {
		w := g.xs[c+1] - g.xs[c]
		zone := zones[min(len(zones)-1, int((g.xs[c]+w/2)/access.ColumnWidth))]
		for k, x := range column {
			m2 := w * (g.zs[k+1] - g.zs[k]) / 1e6
			if x.bare >= MinDepth && !x.beyond {
				g.out.Usable += m2
			}
			if x.depth >= MinDepth {
				g.out.Free += m2
				g.bands[zone.At((g.zs[k]+g.zs[k+1])/2).String()] += m2
			}
		}
	}
}

// patches joins cells of the same depth for the picture.
func (g *wallGrid) patches() {
	open := map[[2]float64]int{} // the patch that ends at this column, by height
	for c, column := range g.cells {
		next := map[[2]float64]int{}
		for k := 0; k < len(column); {
			j := k + 1
			for j < len(column) && column[j].depth == column[k].depth && column[j].beyond == column[k].beyond && (column[j].limit == column[k].limit || *column[j].limit == *column[k].limit) {
				j++
			}
			x := column[k]
			if !x.beyond {
				key := [2]float64{g.zs[k], g.zs[j]}
				if n, ok := open[key]; ok && g.out.Patches[n].Depth == x.depth && g.out.Patches[n].Limit == *x.limit {
					g.out.Patches[n].W = g.xs[c+1] - g.out.Patches[n].X
					next[key] = n
				} else {
					next[key] = len(g.out.Patches)
					g.out.Patches = append(g.out.Patches, Patch{X: g.xs[c], Z: g.zs[k], W: g.xs[c+1] - g.xs[c], H: g.zs[j] - g.zs[k], Depth: x.depth, Limit: *x.limit})
				}
			}
			k = j
		}
		open = next
	}
}

// regions finds the free rectangles that cannot grow, at each step of depth.
func (g *wallGrid) regions() {
	cols, rows := len(g.cells), len(g.zs)-1
	seen := map[span]bool{}
	last := 0.0
	for _, level := range levels {
		// Where no depth lies between two steps, both find the same.
		if !g.anyBetween(last, level) {
			continue
		}
		last = level
		found := maximal(cols, rows, func(c, k int) bool { return g.cells[c][k].depth >= level })
		for _, s := range found {
			if seen[s] {
				continue
			}
			seen[s] = true
			w, h := g.xs[s.c1]-g.xs[s.c0], g.zs[s.r1]-g.zs[s.r0]
			if w < MinSide || h < MinSide {
				continue
			}
			g.out.Regions = append(g.out.Regions, g.region(s))
		}
	}
	slices.SortStableFunc(g.out.Regions, func(a, b Region) int { return cmp.Compare(b.Area*weight(b.Depth), a.Area*weight(a.Depth)) })
	g.out.Regions = distinct(g.out.Regions)
}

// anyBetween tells whether a cell is at least low deep, but less than high.
func (g *wallGrid) anyBetween(low, high float64) bool {
	for _, column := range g.cells {
		for _, x := range column {
			if x.depth >= low && x.depth < high {
				return true
			}
		}
	}
	return low == 0
}

// distinct leaves out regions that are nearly the same as a better one: under a
// sloping top there is a maximal rectangle at every step.
func distinct(all []Region) []Region {
	out := []Region{}
	for _, r := range all {
		same := slices.ContainsFunc(out, func(o Region) bool {
			w := min(r.X+r.W, o.X+o.W) - max(r.X, o.X)
			h := min(r.Z+r.H, o.Z+o.H) - max(r.Z, o.Z)
			return w > 0 && h > 0 && w*h > .85*r.W*r.H && r.Depth < 1.2*o.Depth
		})
		if !same && len(out) < maxRegions {
			out = append(out, r)
		}
	}
	return out
}

// weight of a depth when regions are ranked: what is deeper than a cabinet is no better.
func weight(depth float64) float64 { return math.Sqrt(min(depth, 400)) }

func (g *wallGrid) region(s span) Region {
	r := Region{X: g.xs[s.c0], Z: g.zs[s.r0], W: g.xs[s.c1] - g.xs[s.c0], H: g.zs[s.r1] - g.zs[s.r0], Depth: math.Inf(1)}
	r.Area = r.W * r.H / 1e6
	for c := s.c0; c < s.c1; c++ {
		for k := s.r0; k < s.r1; k++ {
			if x := g.cells[c][k]; x.depth < r.Depth {
				r.Depth, r.Out = x.depth, *x.limit
			}
		}
	}
	// What an edge stops at is the shallowest cell beyond it.
	edge := func(end Limit, c0, c1, r0, r1 int) Limit {
		worst := math.Inf(1)
		for c := c0; c < c1; c++ {
			for k := r0; k < r1; k++ {
				if c < 0 || k < 0 || c >= len(g.cells) || k >= len(g.cells[0]) {
					return end
				}
				if x := g.cells[c][k]; x.depth < worst {
					worst, end = x.depth, *x.limit
				}
			}
		}
		return end
	}
	walls := g.f.area.Walls
	n := len(walls)
	r.Left = edge(Limit{"corner", walls[(g.index+n-1)%n].ID, "corner to wall " + walls[(g.index+n-1)%n].ID}, s.c0-1, s.c0, s.r0, s.r1)
	r.Right = edge(Limit{"corner", walls[(g.index+1)%n].ID, "corner to wall " + walls[(g.index+1)%n].ID}, s.c1, s.c1+1, s.r0, s.r1)
	r.Below = edge(Limit{"floor", "", "the floor"}, s.c0, s.c1, s.r0-1, s.r0)
	r.Above = edge(Limit{"top", walls[g.index].ID, "top of the wall"}, s.c0, s.c1, s.r1, s.r1+1)
	zones := g.of.zones
	zone := zones[min(len(zones)-1, int((r.X+r.W/2)/access.ColumnWidth))]
	low, high := zone.At(r.Z+1).String(), zone.At(r.Z+r.H-1).String()
	r.Band = low
	if low != high {
		r.Band = low + " to " + high
	}
	return r
}

// span of cells: columns c0 to c1, rows r0 to r1, ends not included.
type span struct{ c0, c1, r0, r1 int }

// maximal lists the rectangles of free cells that cannot grow on any side.
func maximal(cols, rows int, isFree func(c, r int) bool) []span {
	up := make([]int, cols) // free cells from here upwards
	below := make([]int, cols+1)
	var out []span
	type step struct{ from, high int }
	for r := rows - 1; r >= 0; r-- {
		for c := range up {
			if isFree(c, r) {
				up[c]++
			} else {
				up[c] = 0
			}
		}
		// below[c] counts the cells in the row beneath that are not free, up to column c.
		for c := range cols {
			below[c+1] = below[c]
			if r == 0 || !isFree(c, r-1) {
				below[c+1]++
			}
		}
		var stack []step
		for c := 0; c <= cols; c++ {
			high := 0
			if c < cols {
				high = up[c]
			}
			from := c
			for len(stack) > 0 && stack[len(stack)-1].high > high {
				top := stack[len(stack)-1]
				stack = stack[:len(stack)-1]
				from = top.from
				if below[c] > below[top.from] {
					out = append(out, span{top.from, c, r, r + top.high})
				}
			}
			if high > 0 && (len(stack) == 0 || stack[len(stack)-1].high < high) {
				stack = append(stack, step{from, high})
			}
		}
	}
	return out
}
