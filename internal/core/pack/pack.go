// Package pack puts things into places so that nothing overlaps, nothing
// sticks out and clearance is kept. Each kind of space offers the spots where a
// thing may go beside what is already there; what is offered fits exactly.
// Lengths are micrometres.
package pack

import (
	"cmp"
	"errors"
	"fmt"
	"math"
	"slices"

	"hobrak/internal/core/geometry"
	"hobrak/internal/core/length"
)

// Thing is what is to be packed: N alike, each W × H × D, with Clearance to
// its neighbours. What the three sizes mean depends on the space.
type Thing struct {
	W, H, D   length.Length
	N         int
	Clearance length.Length
	Turn      bool // may be turned by 90°
	Lean      bool // in a bin it stands on end and may stick out of the top
	// Shape is its true outline in its W by H, mm, and Turned that in its H by W, when it is turned; nil when only the box is known. They
	// count in planes that are packed densely.
	Shape, Turned geometry.Polygon
}

// Spot in a space. Which fields are used depends on the kind of space.
type Spot struct {
	X, Y, Z length.Length
	Turned  bool
	Row     int
	Slot    int
	Level   int
	Cols    int // pieces side by side before the next row begins
}

// Space holds things, known by a number the caller chooses.
type Space interface {
	// Spots appends every spot worth trying for the thing; each of them is free.
	Spots(t Thing, dst []Spot) []Spot
	// Allows tells why a thing cannot be at a spot; nil means it can.
	Allows(t Thing, s Spot) error
	// Put a thing at a spot that is allowed.
	Put(id int, t Thing, s Spot)
	// Take a thing away again.
	Take(id int)
	// Used and Room say how full the space is, in a unit of its own: an area,
	// a length, a number of slots or a volume. Any set of things that fits
	// uses at most Room, so the two serve as a bound as well.
	Used() float64
	Room() float64
	// Takes is what a thing adds to Used.
	Takes(t Thing) float64
}

// Crowded spaces tell what is in the way of a thing, and where there is something.
type Crowded interface {
	Clashes(t Thing, s Spot) []int
	Corners() []Spot
}

// Sided spaces look at two sides of a thing and its clearance only: where one finds no spot, none does that is no smaller on either side
// and wants no less clearance. Turns tells whether the sides may change places; ok is false for things that are packed by their outline.
type Sided interface {
	Sides(t Thing) (w, h length.Length, turns, ok bool)
}

// rect is a placed block with the clearance its thing wants.
type rect struct {
	id         int
	x, y, w, h length.Length
	gap        length.Length
	takes      float64
	shape      geometry.Polygon // of one thing in a plane that is packed densely, where it lies; nil for its box
}

// Plane is a rectangle seen from the front (a wall field) or from above (a
// drawer, a deck, a floor). A thing's W lies along the plane's width; its H
// along the plane's height on a wall. Lying things give their depth as H.
type Plane struct {
	W, H length.Length
	// Rails are heights at which things hang by their top edge; without rails
	// they may hang anywhere.
	Rails []length.Length
	// Single allows one thing only, as a hook does.
	Single bool
	// Lying planes are seen from above: what does not fit is too deep, not too high.
	Lying bool
	// Dense planes have things whose shape is known reach into each other's boxes.
	Dense bool

	placed []rect
	ys     []length.Length // room to work in
	lanes  []lane
	forms  []formed
	spots  []Spot
	bans   []ban
	level  []int32 // the bans at one height
}

func (p *Plane) block(t Thing, turned bool, cols int) (w, h length.Length) {
	w, h = t.W, t.H
	if turned {
		w, h = h, w
	}
	n := max(t.N, 1)
	if cols <= 0 || cols > n {
		cols = n
	}
	rows := (n + cols - 1) / cols
	return length.Length(cols)*w + length.Length(cols-1)*t.Clearance, length.Length(rows)*h + length.Length(rows-1)*t.Clearance
}

// shapes lists the ways to lay n alike out as a block: rows that fit the width.
func (p *Plane) shapes(t Thing, yield func(turned bool, cols int, w, h length.Length)) {
	n := max(t.N, 1)
	for _, turned := range [2]bool{false, true} {
		if turned && (!t.Turn || t.W == t.H) {
			continue
		}
		tried := 0
		last := 0
		for rows := 1; rows <= n && tried < 6; rows++ {
			if rows > 1 && len(p.Rails) > 0 {
				break // several rows would hang from several rails: they are separate homes
			}
			cols := (n + rows - 1) / rows
			if cols == last {
				continue
			}
			last = cols
			if w, h := p.block(t, turned, cols); w <= p.W && h <= p.H {
				tried++
				yield(turned, cols, w, h)
			}
		}
	}
}

// Spots are the free spots worth trying: at every height at which a thing can rest on another one or on the
// edge, the leftmost and the rightmost of each gap. Any free spot can be slid to one of them without touching anything.
func (p *Plane) Spots(t Thing, dst []Spot) []Spot {
	if p.Single && (len(p.placed) > 0 || t.N > 1) {
		return dst
	}
	p.shapes(t, func(turned bool, cols int, w, h length.Length) {
		p.ys = p.heights(t, h, p.ys[:0])
		p.forbid(t.Clearance, w, h)
		for _, y := range p.ys {
			dst = p.along(turned, cols, p.W-w, y, dst)
		}
	})
	return dst
}

// heights of the lower edge of a block h high, rising and each once.
func (p *Plane) heights(t Thing, h length.Length, ys []length.Length) []length.Length {
	if len(p.Rails) > 0 {
		for _, z := range p.Rails {
			if z >= h && z <= p.H {
				ys = append(ys, z-h)
			}
		}
	} else {
		ys = append(ys, 0)
		if top := p.H - h; top > 0 {
			ys = append(ys, top)
		}
		for i := range p.placed {
			r := &p.placed[i]
			if y := r.y + r.h + max(r.gap, t.Clearance); y+h <= p.H {
				ys = append(ys, y)
			}
		}
	}
	slices.Sort(ys)
	return slices.Compact(ys)
}

// Prices of a thing in a plane. A level stands for what the heights at which it costs the same have in common; it is handed back as it was
// given. Both are infinite where the thing may not be.
type Prices interface {
	// Floor is what any spot costs at least at which the lower edge of the block is at y.
	Floor(turned bool, cols int, y length.Length) (least float64, level int)
	Cost(s *Spot, level int) float64
}

// lane is a height of a block, and what a spot there costs at least.
type lane struct {
	least float64
	level int
	form  int // the shape of the block, in the order of shapes
	y     length.Length
}

// formed is one shape of a block.
type formed struct {
	turned bool
	cols   int
	w, h   length.Length
}

// Offer is the cheapest spot of a thing, where one was found.
type Offer struct {
	Spot
	Cost  float64
	Found bool
	None  bool // there is no room at all, whatever it costs
}

// Cheapest finds the spot of a thing that costs least, when that is below something. Only heights are looked at that may be cheaper than what
// was found. Of several that cost the same it is the first one, by the floor of its height, the shape of the block, from below and from the left.
func (p *Plane) Cheapest(t Thing, prices Prices, below float64) Offer {
	out := Offer{Cost: below}
	if p.Single && (len(p.placed) > 0 || t.N > 1) {
		out.None = true
		return out
	}
	p.lanes, p.forms = p.lanes[:0], p.forms[:0]
	p.shapes(t, func(turned bool, cols int, w, h length.Length) {
		p.ys = p.heights(t, h, p.ys[:0])
		for _, y := range p.ys {
			floor, level := prices.Floor(turned, cols, y)
			p.lanes = append(p.lanes, lane{floor, level, len(p.forms), y})
		}
		p.forms = append(p.forms, formed{turned, cols, w, h})
	})
	slices.SortFunc(p.lanes, func(a, b lane) int {
		return cmp.Or(cmp.Compare(a.least, b.least), a.form-b.form, cmp.Compare(a.y, b.y))
	})
	last := -1
	out.None = true
	for k := range p.lanes {
		l := &p.lanes[k]
		if l.least >= out.Cost-Tie && (!out.None || !math.IsInf(out.Cost, 1)) {
			out.None = false // or not known
			break
		}
		f := &p.forms[l.form]
		if l.form != last {
			p.forbid(t.Clearance, f.w, f.h)
			last = l.form
		}
		p.spots = p.along(f.turned, f.cols, p.W-f.w, l.y, p.spots[:0])
		for i := range p.spots {
			out.None = false
			if c := prices.Cost(&p.spots[i], l.level); c < out.Cost-Tie {
				out.Spot, out.Cost, out.Found = p.spots[i], c, true
			}
		}
	}
	return out
}

// Tie is by how much costs must differ to matter, in what they are told in.
const Tie = 1e-9

// Sides of a thing in the plane.
func (p *Plane) Sides(t Thing) (w, h length.Length, turns, ok bool) {
	return t.W, t.H, t.Turn, !p.Dense || t.Shape == nil
}

// ban is where the lower left corner of a thing may not be, beside one that is
// placed; the ends are allowed.
type ban struct{ left, right, low, high length.Length }

// forbid lists the bans for a thing w by h, from left to right.
func (p *Plane) forbid(gap, w, h length.Length) {
	p.bans = p.bans[:0]
	for i := range p.placed {
		r := &p.placed[i]
		g := max(r.gap, gap)
		b := ban{r.x - w - g, r.x + r.w + g, r.y - h - g, r.y + r.h + g}
		// Nearly in order already: what is placed is kept from left to right.
		k := len(p.bans)
		p.bans = append(p.bans, b)
		for ; k > 0 && p.bans[k-1].left > b.left; k-- {
			p.bans[k] = p.bans[k-1]
		}
		p.bans[k] = b
	}
	if cap(p.level) < len(p.bans) {
		p.level = make([]int32, 2*len(p.bans))
	}
}

// along finds the ends of the gaps at height y: free spots beside a block that is level with it or at an edge of the
// plane; last is the one at the right edge.
func (p *Plane) along(turned bool, cols int, last, y length.Length, dst []Spot) []Spot {
	if last < 0 {
		return dst
	}
	// Which bans hold at this height is a coin toss for each: counted without a branch.
	level, n := p.level[:cap(p.level)], 0
	for i := range p.bans {
		b := &p.bans[i]
		level[n] = int32(i)
		n += int(uint64(b.low-y) >> 63 & (uint64(y-b.high) >> 63))
	}
	// Sweep from the left: x is the least edge that nothing so far forbids.
	x := length.Length(0)
	for _, i := range level[:n] {
		b := &p.bans[i]
		if b.left >= x && x <= last {
			dst = append(dst, Spot{X: x, Y: y, Turned: turned, Cols: cols})
			if b.left > x && b.left < last {
				dst = append(dst, Spot{X: b.left, Y: y, Turned: turned, Cols: cols})
			}
			x = -1 // told; the next one is right of what comes now
		}
		if x < 0 {
			x = max(b.right, 0)
		} else {
			x = max(x, b.right)
		}
	}
	if x <= last {
		dst = append(dst, Spot{X: x, Y: y, Turned: turned, Cols: cols})
	}
	if last > 0 && x < last { // and at the right edge, when that is free
		dst = append(dst, Spot{X: last, Y: y, Turned: turned, Cols: cols})
	}
	return dst
}

// meets tells whether a block so placed, with its shape where that counts, is nearer to what is placed than either wants.
func (p *Plane) meets(r *rect, x, y, w, h, gap length.Length, shape geometry.Polygon) bool {
	g := max(r.gap, gap)
	if !(r.x < x+w+g && x < r.x+r.w+g && r.y < y+h+g && y < r.y+r.h+g) {
		return false
	}
	if !p.Dense || shape == nil && r.shape == nil {
		return true
	}
	if shape == nil {
		shape = boxed(x, y, w, h)
	}
	other := r.shape
	if other == nil {
		other = boxed(r.x, r.y, r.w, r.h)
	}
	clear := shape.Clear(other)
	return clear == 0 || clear < g.MM()-shapeTight // outlines that touch cannot be told from such that cross
}

// shapeTight is by how much two outlines may be nearer than is wanted, mm: less than is measured.
const shapeTight = 1e-3

func boxed(x, y, w, h length.Length) geometry.Polygon {
	return geometry.Rectangle(x.MM(), y.MM(), w.MM(), h.MM(), 0)
}

// shapeAt is the shape of a thing at a spot; nil where only its box counts.
func (p *Plane) shapeAt(t Thing, s Spot) geometry.Polygon {
	if !p.Dense || t.Shape == nil || t.N > 1 {
		return nil
	}
	g := t.Shape
	if s.Turned {
		g = t.Turned
	}
	if g == nil {
		return nil
	}
	return g.Moved(geometry.Point{X: s.X.MM(), Y: s.Y.MM()})
}

func (p *Plane) free(t Thing, s Spot, w, h length.Length) bool {
	shape := p.shapeAt(t, s)
	for i := range p.placed {
		if p.meets(&p.placed[i], s.X, s.Y, w, h, t.Clearance, shape) {
			return false
		}
	}
	return true
}

// What a search is given a hundred thousand times a second.
var (
	errOut      = errors.New("it would stick out of the place")
	errNoRail   = errors.New("its top is not at a rail")
	errClose    = errors.New("it would be too close to what hangs or lies there")
	errOffShelf = errors.New("it would stick out of the shelf")
	errCrowded  = errors.New("it would be too close to what stands there")
	errOffRail  = errors.New("it would stick out of the rail")
	errBeside   = errors.New("it would be too close to what hangs there")
)

// Allows checks a spot.
func (p *Plane) Allows(t Thing, s Spot) error {
	if s.Turned && !t.Turn {
		return fmt.Errorf("it may not be turned here")
	}
	w, h := p.block(t, s.Turned, s.Cols)
	switch {
	case w > p.W:
		return fmt.Errorf("%s too wide", w-p.W)
	case h > p.H && p.Lying:
		return fmt.Errorf("%s too deep", h-p.H)
	case h > p.H:
		return fmt.Errorf("%s too high", h-p.H)
	case s.X < 0 || s.Y < 0 || s.X+w > p.W || s.Y+h > p.H:
		return errOut
	case p.Single && t.N > 1:
		return fmt.Errorf("a hook holds one thing")
	case p.Single && len(p.placed) > 0:
		return fmt.Errorf("the hook holds one thing and is taken")
	}
	if len(p.Rails) > 0 {
		onRail := false
		for _, z := range p.Rails {
			onRail = onRail || s.Y+h == z
		}
		if !onRail {
			return errNoRail
		}
	}
	if !p.free(t, s, w, h) {
		return errClose
	}
	return nil
}

// Block is how wide and high what is put at a spot is.
func (p *Plane) Block(t Thing, s Spot) (w, h length.Length) { return p.block(t, s.Turned, s.Cols) }

// Put a thing.
func (p *Plane) Put(id int, t Thing, s Spot) {
	w, h := p.block(t, s.Turned, s.Cols)
	r := rect{id, s.X, s.Y, w, h, t.Clearance, p.Takes(t), p.shapeAt(t, s)}
	i, _ := slices.BinarySearchFunc(p.placed, r, func(a, b rect) int {
		return cmp.Or(cmp.Compare(a.x, b.x), cmp.Compare(a.y, b.y), cmp.Compare(a.id, b.id))
	})
	p.placed = slices.Insert(p.placed, i, r)
}

// Clashes lists what is in the way of a thing at a spot.
func (p *Plane) Clashes(t Thing, s Spot) (ids []int) {
	w, h := p.block(t, s.Turned, s.Cols)
	shape := p.shapeAt(t, s)
	for i := range p.placed {
		r := &p.placed[i]
		if p.Single || p.meets(r, s.X, s.Y, w, h, t.Clearance, shape) {
			ids = append(ids, r.id)
		}
	}
	return ids
}

// Corners are the lower left corners of what is placed.
func (p *Plane) Corners() (out []Spot) {
	for i := range p.placed {
		out = append(out, Spot{X: p.placed[i].x, Y: p.placed[i].y})
	}
	return out
}

// Take a thing.
func (p *Plane) Take(id int) { p.placed = without(p.placed, id) }

// Used area in µm², without clearance.
func (p *Plane) Used() float64 { return used(p.placed) }

// Room is the area in µm².
func (p *Plane) Room() float64 { return float64(p.W) * float64(p.H) }

// Takes is the bare area of the pieces: of their shape where that counts.
func (p *Plane) Takes(t Thing) float64 {
	if p.Dense && t.Shape != nil && t.N <= 1 {
		return math.Abs(t.Shape.Area()) * float64(length.Millimetre) * float64(length.Millimetre)
	}
	return float64(max(t.N, 1)) * float64(t.W) * float64(t.H)
}

// without takes the block of a thing out, keeping the order of the others.
func without(placed []rect, id int) []rect {
	for i := range placed {
		if placed[i].id == id {
			return slices.Delete(placed, i, i+1)
		}
	}
	return placed
}

func used(placed []rect) float64 {
	sum := 0.0
	for i := range placed {
		sum += placed[i].takes
	}
	return sum
}
