package pack

import (
	"fmt"
	"math"
	"slices"

	"hobrak/internal/core/length"
)

// across is the run of n pieces w wide with clearance between them.
func across(n int, w, gap length.Length) length.Length {
	n = max(n, 1)
	return length.Length(n)*w + length.Length(n-1)*gap
}

// Shelf has a row in front and, where it is deep enough, one behind it.
type Shelf struct {
	W, D   length.Length
	placed []rect          // y is the row, h the depth
	xs     []length.Length // room to work in
}

// Spots in both rows, from the left.
func (p *Shelf) Spots(t Thing, dst []Spot) []Spot {
	w := across(t.N, t.W, t.Clearance)
	if t.D > p.D || w > p.W {
		return dst
	}
	for row := range 2 {
		xs := append(p.xs[:0], 0, p.W-w)
		for i := range p.placed {
			// Beside it, or just past it in the other row.
			if r := &p.placed[i]; int(r.y) == row {
				xs = append(xs, r.x+r.w+max(r.gap, t.Clearance))
			} else {
				xs = append(xs, r.x+r.w)
			}
		}
		slices.Sort(xs)
		p.xs = xs
		for _, x := range slices.Compact(xs) {
			if s := (Spot{X: x, Row: row}); x+w <= p.W && p.free(t, w, s) {
				dst = append(dst, s)
			}
		}
	}
	return dst
}

// free tells whether nothing is in the way at a spot.
func (p *Shelf) free(t Thing, w length.Length, s Spot) bool {
	for i := range p.placed {
		r := &p.placed[i]
		if int(r.y) == s.Row {
			if g := max(r.gap, t.Clearance); r.x < s.X+w+g && s.X < r.x+r.w+g {
				return false
			}
		} else if r.x < s.X+w && s.X < r.x+r.w && r.h+t.D > p.D {
			return false
		}
	}
	return true
}

// Sides of a thing on the shelf: width and depth.
func (p *Shelf) Sides(t Thing) (w, d length.Length, turns, ok bool) { return t.W, t.D, false, true }

// Allows checks a spot: nothing beside it within clearance in its row, and in
// the other row nothing so deep that the two would not fit behind each other.
func (p *Shelf) Allows(t Thing, s Spot) error {
	w := across(t.N, t.W, t.Clearance)
	switch {
	case t.D > p.D:
		return fmt.Errorf("%s too deep", t.D-p.D)
	case w > p.W:
		return fmt.Errorf("%s too wide", w-p.W)
	case s.X < 0 || s.X+w > p.W:
		return errOffShelf
	case s.Row < 0 || s.Row > 1:
		return fmt.Errorf("a shelf has two rows")
	}
	for i := range p.placed {
		r := &p.placed[i]
		if int(r.y) == s.Row {
			g := max(r.gap, t.Clearance)
			if r.x < s.X+w+g && s.X < r.x+r.w+g {
				return errCrowded
			}
		} else if r.x < s.X+w && s.X < r.x+r.w && r.h+t.D > p.D {
			return fmt.Errorf("the shelf is not deep enough for two rows there")
		}
	}
	return nil
}

// Clashes lists what is in the way of a thing at a spot.
func (p *Shelf) Clashes(t Thing, s Spot) (ids []int) {
	w := across(t.N, t.W, t.Clearance)
	for i := range p.placed {
		r := &p.placed[i]
		if g := max(r.gap, t.Clearance); int(r.y) == s.Row && r.x < s.X+w+g && s.X < r.x+r.w+g || int(r.y) != s.Row && r.x < s.X+w && s.X < r.x+r.w && r.h+t.D > p.D {
			ids = append(ids, r.id)
		}
	}
	return ids
}

// Corners are the left ends of what is placed.
func (p *Shelf) Corners() (out []Spot) {
	for i := range p.placed {
		out = append(out, Spot{X: p.placed[i].x, Row: int(p.placed[i].y)})
	}
	return out
}

// Put a thing.
func (p *Shelf) Put(id int, t Thing, s Spot) {
	p.placed = append(p.placed, rect{id, s.X, length.Length(s.Row), across(t.N, t.W, t.Clearance), t.D, t.Clearance, p.Takes(t), nil})
}

// Take a thing.
func (p *Shelf) Take(id int) { p.placed = without(p.placed, id) }

// Used floor of the shelf in µm².
func (p *Shelf) Used() float64 { return used(p.placed) }

// Room is the floor of the shelf: two rows never need more.
func (p *Shelf) Room() float64 { return float64(p.W) * float64(p.D) }

// Takes is the floor the pieces cover.
func (p *Shelf) Takes(t Thing) float64 { return float64(max(t.N, 1)) * float64(t.W) * float64(t.D) }

// Rail holds things side by side at positions of equal pitch.
type Rail struct {
	W, Pitch length.Length
	placed   []rect
}

// Spots from the left: the first position and the first free one to the right of each thing.
func (p *Rail) Spots(t Thing, dst []Spot) []Spot {
	slots := []int{0}
	for i := range p.placed {
		end := p.placed[i].x + p.placed[i].w + max(p.placed[i].gap, t.Clearance)
		slots = append(slots, int((end+p.Pitch-1)/p.Pitch))
	}
	slices.Sort(slots)
	for _, s := range slices.Compact(slots) {
		if p.Allows(t, Spot{Slot: s}) == nil {
			dst = append(dst, Spot{Slot: s})
		}
	}
	return dst
}

// Sides of a thing on the rail: its width alone.
func (p *Rail) Sides(t Thing) (w, h length.Length, turns, ok bool) { return t.W, 0, false, true }

// Allows checks a position.
func (p *Rail) Allows(t Thing, s Spot) error {
	w := across(t.N, t.W, t.Clearance)
	x := length.Length(s.Slot) * p.Pitch
	if w > p.W {
		return fmt.Errorf("%s too wide", w-p.W)
	}
	if s.Slot < 0 || x+w > p.W {
		return errOffRail
	}
	for i := range p.placed {
		r := &p.placed[i]
		g := max(r.gap, t.Clearance)
		if r.x < x+w+g && x < r.x+r.w+g {
			return errBeside
		}
	}
	return nil
}

// Clashes lists what is in the way of a thing at a spot.
func (p *Rail) Clashes(t Thing, s Spot) (ids []int) {
	x, w := length.Length(s.Slot)*p.Pitch, across(t.N, t.W, t.Clearance)
	for i := range p.placed {
		r := &p.placed[i]
		if g := max(r.gap, t.Clearance); r.x < x+w+g && x < r.x+r.w+g {
			ids = append(ids, r.id)
		}
	}
	return ids
}

// Corners are the first positions of what is placed.
func (p *Rail) Corners() (out []Spot) {
	for i := range p.placed {
		out = append(out, Spot{Slot: int(p.placed[i].x / p.Pitch)})
	}
	return out
}

// Put a thing.
func (p *Rail) Put(id int, t Thing, s Spot) {
	p.placed = append(p.placed, rect{id: id, x: length.Length(s.Slot) * p.Pitch, w: across(t.N, t.W, t.Clearance), gap: t.Clearance, takes: p.Takes(t)})
}

// Take a thing.
func (p *Rail) Take(id int) { p.placed = without(p.placed, id) }

// Used length in µm.
func (p *Rail) Used() float64 { return used(p.placed) }

// Room is the length of the rail.
func (p *Rail) Room() float64 { return float64(p.W) }

// Takes is the length the pieces cover.
func (p *Rail) Takes(t Thing) float64 { return float64(max(t.N, 1)) * float64(t.W) }

// Slot of a given size.
type Slot struct{ W, H, D length.Length }

// Slots hold one piece each; several alike take slots next to each other.
type Slots struct {
	Slots  []Slot
	owner  []int // id+1 of what is in each
	placed map[int]Spot
	count  map[int]int
}

func (p *Slots) ready() {
	if p.owner == nil {
		p.owner = make([]int, len(p.Slots))
		p.placed, p.count = map[int]Spot{}, map[int]int{}
	}
}

// Spots lists the first slot of every free run that takes the pieces, at the
// left end of each run of free slots and at its right end.
func (p *Slots) Spots(t Thing, dst []Spot) []Spot {
	p.ready()
	n := max(t.N, 1)
	before := false
	for i := 0; i+n <= len(p.Slots); i++ {
		ok := p.Allows(t, Spot{Slot: i}) == nil
		last := i+n == len(p.Slots) || p.owner[i+n] != 0
		if ok && (!before || last) {
			dst = append(dst, Spot{Slot: i})
		}
		before = ok
	}
	return dst
}

// Allows checks the slots from s.Slot on.
func (p *Slots) Allows(t Thing, s Spot) error {
	p.ready()
	n := max(t.N, 1)
	if n > len(p.Slots) {
		return fmt.Errorf("%d slots are needed, there are %d", n, len(p.Slots))
	}
	if s.Slot < 0 || s.Slot+n > len(p.Slots) {
		return fmt.Errorf("the slots end before it does")
	}
	for i := s.Slot; i < s.Slot+n; i++ {
		k := p.Slots[i]
		switch {
		case p.owner[i] != 0:
			return fmt.Errorf("slot %d is taken", i+1)
		case t.W > k.W:
			return fmt.Errorf("%s too wide for the slot", t.W-k.W)
		case t.H > k.H:
			return fmt.Errorf("%s too long for the slot", t.H-k.H)
		case t.D > k.D:
			return fmt.Errorf("%s too deep for the slot", t.D-k.D)
		}
	}
	return nil
}

// Clashes lists what is in the way of a thing at a spot.
func (p *Slots) Clashes(t Thing, s Spot) (ids []int) {
	p.ready()
	for i := s.Slot; i < min(len(p.owner), s.Slot+max(t.N, 1)); i++ {
		if id := p.owner[i] - 1; id >= 0 && (len(ids) == 0 || ids[len(ids)-1] != id) {
			ids = append(ids, id)
		}
	}
	return ids
}

// Corners are the first slots of what is placed.
func (p *Slots) Corners() (out []Spot) {
	for i, o := range p.owner {
		if o != 0 && (i == 0 || p.owner[i-1] != o) {
			out = append(out, Spot{Slot: i})
		}
	}
	return out
}

// Put a thing.
func (p *Slots) Put(id int, t Thing, s Spot) {
	p.ready()
	p.placed[id], p.count[id] = s, max(t.N, 1)
	for i := range max(t.N, 1) {
		p.owner[s.Slot+i] = id + 1
	}
}

// Take a thing.
func (p *Slots) Take(id int) {
	p.ready()
	for i := range p.count[id] {
		p.owner[p.placed[id].Slot+i] = 0
	}
	delete(p.placed, id)
	delete(p.count, id)
}

// Used slots.
func (p *Slots) Used() float64 {
	n := 0
	for _, c := range p.count {
		n += c
	}
	return float64(n)
}

// Room is the number of slots.
func (p *Slots) Room() float64 { return float64(len(p.Slots)) }

// Takes is a slot a piece.
func (p *Slots) Takes(t Thing) float64 { return float64(max(t.N, 1)) }

// SheetGap is what a sheet on edge takes beside its thickness.
const SheetGap = 5 * length.Millimetre

// SheetBay holds sheets on edge, beside each other along its width.
type SheetBay struct {
	W, H, D length.Length
	placed  []rect
}

// lean gives the thickness of a sheet and whether its larger sides fit the bay.
func (p *SheetBay) lean(t Thing) (length.Length, error) {
	sides := []length.Length{t.W, t.H, t.D}
	slices.Sort(sides)
	a, b := sides[1], sides[2]
	if a <= p.D && b <= p.H || b <= p.D && a <= p.H {
		return sides[0] + SheetGap, nil
	}
	short := min(max(a-p.D, b-p.H), max(b-p.D, a-p.H))
	return 0, fmt.Errorf("%s too large for the bay", short)
}

// Spots from the left.
func (p *SheetBay) Spots(t Thing, dst []Spot) []Spot {
	xs := []length.Length{0}
	for i := range p.placed {
		xs = append(xs, p.placed[i].x+p.placed[i].w)
	}
	slices.Sort(xs)
	for _, x := range slices.Compact(xs) {
		if p.Allows(t, Spot{X: x}) == nil {
			dst = append(dst, Spot{X: x})
		}
	}
	return dst
}

// Allows checks a spot.
func (p *SheetBay) Allows(t Thing, s Spot) error {
	one, err := p.lean(t)
	if err != nil {
		return err
	}
	w := length.Length(max(t.N, 1)) * one
	if s.X < 0 || s.X+w > p.W {
		return fmt.Errorf("the bay is too narrow for %s more", w)
	}
	for i := range p.placed {
		r := &p.placed[i]
		if r.x < s.X+w && s.X < r.x+r.w {
			return fmt.Errorf("other sheets lean there")
		}
	}
	return nil
}

// Put a thing.
func (p *SheetBay) Put(id int, t Thing, s Spot) {
	p.placed = append(p.placed, rect{id: id, x: s.X, w: length.Length(p.Takes(t)), takes: p.Takes(t)})
}

// Take a thing.
func (p *SheetBay) Take(id int) { p.placed = without(p.placed, id) }

// Used width in µm.
func (p *SheetBay) Used() float64 { return used(p.placed) }

// Room is the width of the bay.
func (p *SheetBay) Room() float64 { return float64(p.W) }

// Takes is the thickness of the sheets and the gap beside each.
func (p *SheetBay) Takes(t Thing) float64 {
	return float64(max(t.N, 1)) * float64(min(t.W, t.H, t.D)+SheetGap)
}

// Bin is a volume things are thrown or stood into.
type Bin struct {
	W, H, D length.Length
	Fill    float64 // share of the volume that can be used
	// Head is how long a thing on end may be, above the bin's floor.
	Head   length.Length
	volume map[int]float64
}

// Spots is one spot, when the thing fits in.
func (p *Bin) Spots(t Thing, dst []Spot) []Spot {
	if p.Allows(t, Spot{}) == nil {
		dst = append(dst, Spot{})
	}
	return dst
}

// Allows checks the longest side against the bin's diagonal, or against the
// head room where things lean, and the volume against what is free.
func (p *Bin) Allows(t Thing, _ Spot) error {
	sides := []float64{float64(t.W), float64(t.H), float64(t.D)}
	slices.Sort(sides)
	w, h, d := float64(p.W), float64(p.H), float64(p.D)
	room := math.Sqrt(w*w + h*h + d*d)
	if t.Lean {
		room = float64(max(p.Head, p.H))
	}
	if sides[2] > room {
		return fmt.Errorf("%s too long", length.Length(math.Ceil((sides[2]-room)/1e3))*length.Millimetre)
	}
	inner := []float64{w, h, d}
	slices.Sort(inner)
	if sides[0] > inner[0] || sides[1] > inner[1] && !t.Lean || t.Lean && sides[1] > max(w, d) {
		return fmt.Errorf("too thick for the bin")
	}
	if p.Used()+p.Takes(t) > p.Room() {
		return fmt.Errorf("too full: %s free, %s needed", length.Litres((p.Room()-p.Used())/1e15), length.Litres(p.Takes(t)/1e15))
	}
	return nil
}

// Put a thing.
func (p *Bin) Put(id int, t Thing, _ Spot) {
	if p.volume == nil {
		p.volume = map[int]float64{}
	}
	p.volume[id] = p.Takes(t)
}

// Take a thing.
func (p *Bin) Take(id int) { delete(p.volume, id) }

// Used volume in µm³.
func (p *Bin) Used() float64 {
	ids := make([]int, 0, len(p.volume))
	for id := range p.volume {
		ids = append(ids, id)
	}
	slices.Sort(ids) // the same order gives the same sum
	sum := 0.0
	for _, id := range ids {
		sum += p.volume[id]
	}
	return sum
}

// Room is the volume that can be used.
func (p *Bin) Room() float64 { return p.Fill * float64(p.W) * float64(p.H) * float64(p.D) }

// Takes is the volume of the pieces; of what leans only the part inside counts.
func (p *Bin) Takes(t Thing) float64 {
	sides := []length.Length{t.W, t.H, t.D}
	slices.Sort(sides)
	long := sides[2]
	if t.Lean {
		long = min(long, p.H)
	}
	return float64(max(t.N, 1)) * float64(sides[0]) * float64(sides[1]) * float64(long)
}
