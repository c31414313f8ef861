// Package check looks a shop over for broken rules and cautions. It works from
// the shop file's own numbers, piece by piece, and shares no bookkeeping with
// the engine that finds homes, so that it can catch that engine's errors.
package check

import (
	"fmt"
	"hobrak/internal/core/keeping"
	"hobrak/internal/core/length"
	"hobrak/internal/core/weight"
	"math"
	"runtime"
	"slices"
	"sync"

	"hobrak/internal/core/access"
	"hobrak/internal/core/geometry"
	"hobrak/internal/core/quantity"
	"hobrak/internal/core/reach"
	"hobrak/internal/core/shop"
)

// Finding is one broken rule or caution.
type Finding struct {
	Code  string  `json:"code" doc:"kind of finding, as overlap or capacity"`
	Where string  `json:"where" doc:"path in the shop file"`
	What  string  `json:"what" doc:"one plain sentence"`
	By    float64 `json:"by" doc:"by how much"`
	Unit  string  `json:"unit" doc:"unit of by: mm, kg, index or empty"`
	Hard  bool    `json:"hard" doc:"true for a broken rule, false for a caution"`
}

// String is one line: code, where, what, by how much.
func (f Finding) String() string {
	kind := "caution"
	if f.Hard {
		kind = "broken"
	}
	by := ""
	if f.Unit != "" && f.By != 0 {
		by = fmt.Sprintf(" (by %s)", f.by())
	}
	return fmt.Sprintf("%s %s\t%s\t%s%s", kind, f.Code, f.Where, f.What, by)
}

// by is the amount with its unit.
func (f Finding) by() string {
	switch f.Unit {
	case "mm":
		return length.Fine(f.By)
	case "kg":
		return weight.Rough(f.By)
	case "index":
		return quantity.Number(f.By, 2) + " on the lifting index"
	default:
		return quantity.Number(f.By, 3) + " " + f.Unit
	}
}

// eps is the rounding allowed, in mm.
const eps = 0.01

// Shop checks a valid shop.
func Shop(s *shop.Shop) ([]Finding, error) {
	m, err := access.NewMap(s)
	if err != nil {
		return nil, err
	}
	return Mapped(m)
}

// Mapped checks a shop whose ways are known already.
func Mapped(m *access.Map) ([]Finding, error) {
	c := &checker{s: m.Shop, ix: m.Index, m: m, standing: map[string][]access.Standing{}}
	for i := range c.s.Areas {
		c.standing[c.s.Areas[i].ID] = access.StandingIn(c.s, c.ix, &c.s.Areas[i])
	}
	c.walk()
	if err := c.arrange(); err != nil {
		return nil, err
	}
	c.homes()
	c.loose()
	c.household()
	c.weights()
	c.families()
	c.hazards()
	c.aids()
	c.tipping()
	c.hung()
	c.bends()
	c.floor()
	c.inModes()
	c.walls()
	c.kept()
	c.current()
	c.arrangements()
	c.surveys()
	slices.SortStableFunc(c.found, func(a, b Finding) int {
		switch {
		case a.Hard == b.Hard:
			return 0
		case a.Hard:
			return -1
		}
		return 1
	})
	return c.found, nil
}

// walk works out the ways to all homes on every core there is; they are remembered by the
// map, and take most of the time of a check where much stands.
func (c *checker) walk() {
	var wait sync.WaitGroup
	workers := runtime.GOMAXPROCS(0)
	for w := range workers {
		wait.Go(func() {
			for i := w; i < len(c.s.Homes); i += workers {
				h := &c.s.Homes[i]
				if it, p := c.ix.Item(h.Item), c.ix.Place(h.Place); it != nil && p != nil {
					u := c.m.UseOf(it)
					c.m.Weekly(&u, c.m.PlaceNumber(p.ID), keeping.GripOf(p, it, h), 0)
				}
			}
		})
	}
	wait.Wait()
}

// Broken tells whether a hard rule is among the findings.
func Broken(found []Finding) bool {
	return slices.ContainsFunc(found, func(f Finding) bool { return f.Hard })
}

type checker struct {
	s     *shop.Shop
	ix    *shop.Index
	m     *access.Map
	found []Finding

	standing map[string][]access.Standing // by area
	modes    []inMode                     // those in which things stand otherwise
}

func (c *checker) add(hard bool, code, where string, by float64, unit, format string, args ...any) {
	c.found = append(c.found, Finding{code, where, fmt.Sprintf(format, args...), by, unit, hard})
}

// piece is one of an item in its place: a box in the place's own coordinates,
// x to the right, y from front to back (or out from the wall), z up.
type piece struct {
	home       int
	item       *shop.Item
	x, y, z    float64
	w, d, h    float64
	gap        float64
	slot       int
	row, level int
	shape      geometry.Polygon // of a thing in a place that is packed by outlines, where it lies
}

// homes checks every piece against its place and the others in it.
func (c *checker) homes() {
	byPlace := map[string][]piece{}
	for i := range c.s.Homes {
		h := &c.s.Homes[i]
		it, p := c.ix.Item(h.Item), c.ix.Place(h.Place)
		where := fmt.Sprintf("homes[%d]", i)
		if it == nil || p == nil {
			c.add(true, "dangling", where, 0, "", "home of %q in %q: one of them does not exist", h.Item, h.Place)
			continue
		}
		if !p.Takes(it) {
			c.add(true, "holding", where, 0, "", "%s is kept %v but %s offers %v", it.Name, it.Holding(), p.ID, p.Offers())
			continue
		}
		if h.Rot == 90 && !it.Turns(p.Kind) {
			c.add(true, "turned", where, 0, "", "%s may not be turned in %s", it.Name, p.ID)
		}
		pieces := expand(p, it, h, i)
		for _, q := range pieces {
			c.inside(where, p, q)
		}
		byPlace[p.ID] = append(byPlace[p.ID], pieces...)
		c.reach(where, it, p, h)
	}
	for i := range c.s.Places {
		p := &c.s.Places[i]
		c.apart(p, append(c.on(p), byPlace[p.ID]...))
		c.liftOff(p, byPlace[p.ID])
	}
}

// on are the containers on a place, as pieces that share its room.
func (c *checker) on(p *shop.Place) (out []piece) {
	for i := range c.s.Containers {
		if k := &c.s.Containers[i]; k.At.In == p.ID {
			it := &shop.Item{ID: k.ID, Name: k.ID, W: k.W, H: k.H, D: k.D}
			out = append(out, piece{home: -1, item: it, x: k.At.X.MM(), y: k.At.Y.MM(), z: k.At.Z.MM(), w: k.W.MM(), d: k.D.MM(), h: k.H.MM(), slot: -1})
		}
	}
	return out
}

// loose is what lies somewhere without a spot of its own.
func (c *checker) loose() {
	for i := range c.s.Items {
		it := &c.s.Items[i]
		if n := c.ix.Loose(it); n > 0 {
			c.add(false, "loose", fmt.Sprintf("items[%d]", i), 0, "", "%s lies on top or leans in %s: it has no spot of its own there", it.Name, it.Lies)
		}
	}
}

// expand lays the pieces of a home out one by one.
func expand(p *shop.Place, it *shop.Item, h *shop.Home, home int) []piece {
	size := it.SizeIn(p.Kind)
	w, up, d := size.W.MM(), size.H.MM(), size.D.MM()
	n := h.Number(it)
	cols := n
	if h.Cols > 0 && h.Cols < n {
		cols = h.Cols
	}
	gap := it.KeptClear().MM()
	out := make([]piece, 0, n)
	for k := range n {
		col, row := float64(k%cols), float64(k/cols)
		q := piece{home: home, item: it, gap: gap, w: w, h: up, d: d, row: h.Row, level: h.Level, slot: -1}
		switch keeping.Of(p).Form() {
		case keeping.Upright, keeping.Single:
			if h.Rot == 90 {
				q.w, q.h = up, w
			}
			q.x, q.z = h.X.MM()+col*(q.w+gap), h.Z.MM()+row*(q.h+gap)
		case keeping.Lying:
			if h.Rot == 90 {
				q.w, q.d = d, w
			}
			q.x, q.y = h.X.MM()+col*(q.w+gap), h.Y.MM()+row*(q.d+gap)
		case keeping.Rows:
			q.x = h.X.MM() + float64(k)*(w+gap)
		case keeping.Run:
			q.x = float64(h.Slot)*p.RailPitch().MM() + float64(k)*(w+gap)
		case keeping.Slotted:
			q.slot = h.Slot + k
		case keeping.Leaning:
			thick := min(w, up, d)
			q.x, q.w = h.X.MM()+float64(k)*(thick+5), thick+5
		case keeping.Piles:
			q.x, q.y, q.z = h.X.MM(), h.Y.MM()+col*d, h.Z.MM()+row*up
		case keeping.Boxed:
			b := keeping.BoxesOf(p, it, h)[k]
			q.x, q.y, q.z, q.w, q.d, q.h = b.X, b.Y, b.Z, b.W, b.D, b.H
		}
		if p.Dense && n == 1 {
			q.shape = traced(p, it, h, q)
		}
		out = append(out, q)
	}
	return out
}

// traced is the outline of a thing where it hangs or lies; nil when it is not known.
func traced(p *shop.Place, it *shop.Item, h *shop.Home, q piece) geometry.Polygon {
	size := it.SizeIn(p.Kind)
	up, y := size.H, q.z
	switch keeping.Of(p).Form() {
	case keeping.Upright:
	case keeping.Lying:
		up, y = size.D, q.y
	default:
		return nil
	}
	g := it.Seen(size.W, up)
	if h.Rot == 90 {
		g = it.Seen(up, size.W)
	}
	if g == nil {
		return nil
	}
	return g.Moved(geometry.Point{X: q.x, Y: y})
}

// inside checks that a piece lies within its place.
func (c *checker) inside(where string, p *shop.Place, q piece) {
	out := func(code string, by float64, format string, args ...any) {
		if by > eps {
			c.add(true, code, where, by, "mm", "%s "+format, append([]any{q.item.Name}, args...)...)
		}
	}
	W, H, D := p.W.MM(), p.H.MM(), p.D.MM()
	switch keeping.Of(p).Form() {
	case keeping.Upright, keeping.Single:
		out("bounds", max(-q.x, q.x+q.w-W, -q.z, q.z+q.h-H), "sticks out of %s", p.ID)
		out("depth", q.d-D, "is deeper than %s", p.ID)
		if p.Style == "cleat" && len(p.Rows) > 0 {
			off := math.Inf(1)
			for _, z := range p.Rows {
				off = min(off, math.Abs(q.z+q.h-z.MM()))
			}
			out("rail", off, "does not hang at a rail of %s", p.ID)
		}
	case keeping.Lying:
		out("bounds", max(-q.x, q.x+q.w-W, -q.y, q.y+q.d-D), "sticks out of %s", p.ID)
		out("height", q.h-H, "is higher than %s", p.ID)
	case keeping.Rows:
		out("bounds", max(-q.x, q.x+q.w-W), "sticks out of %s", p.ID)
		out("depth", q.d-D, "is deeper than %s", p.ID)
		out("height", q.h-H, "is higher than %s", p.ID)
	case keeping.Run:
		out("bounds", max(-q.x, q.x+q.w-W), "sticks out of %s", p.ID)
		out("depth", q.d-D, "is deeper than %s", p.ID)
		out("height", q.h-H, "is longer than there is room below %s", p.ID)
	case keeping.Slotted:
		if q.slot < 0 || q.slot >= p.SlotCount() {
			c.add(true, "bounds", where, 0, "", "%s is in a slot that %s does not have", q.item.Name, p.ID)
			return
		}
		s, _ := p.SlotAt(q.slot)
		out("bounds", max(q.w-s.W.MM(), q.h-s.H.MM()), "is too big for its slot in %s", p.ID)
		out("depth", q.d-s.D.MM(), "is too deep for its slot in %s", p.ID)
	case keeping.Piles:
		if q.level >= len(p.Levels) {
			c.add(true, "bounds", where, 0, "", "%s is on a level that %s does not have", q.item.Name, p.ID)
			return
		}
		over := min(q.w/4, 600)
		out("overhang", max(-q.x-over, q.x+q.w-W-over), "reaches too far past the last arm of %s", p.ID)
		out("bounds", max(-q.y, q.y+q.d-D, -q.z, q.z+q.h-p.Levels[q.level].H.MM()), "sticks out of %s", p.ID)
	case keeping.Leaning:
		out("bounds", max(-q.x, q.x+q.w-W), "sticks out of %s", p.ID)
		s := []float64{q.item.W.MM(), q.item.H.MM(), q.item.D.MM()}
		slices.Sort(s)
		out("bounds", min(max(s[1]-D, s[2]-H), max(s[2]-D, s[1]-H)), "is too large for %s", p.ID)
	case keeping.Boxed:
		out("bounds", max(-q.x, q.x+q.w-W, -q.y, q.y+q.d-D, -q.z, q.z+q.h-H), "sticks out of %s", p.ID)
	case keeping.Heap:
		s := []float64{q.item.W.MM(), q.item.H.MM(), q.item.D.MM()}
		slices.Sort(s)
		if slices.Contains(q.item.Holding(), "bin") {
			out("bounds", s[2]-math.Sqrt(W*W+H*H+D*D), "is longer than the diagonal of %s", p.ID)
		}
	}
}

// apart checks that pieces in the same place keep their distance.
func (c *checker) apart(p *shop.Place, pieces []piece) {
	volume, form := 0.0, keeping.Of(p).Form()
	for i := range pieces {
		a := &pieces[i]
		where := fmt.Sprintf("homes[%d]", a.home)
		if a.home < 0 {
			where = a.item.ID
		}
		if form == keeping.Heap {
			s := []float64{a.item.W.MM(), a.item.H.MM(), a.item.D.MM()}
			slices.Sort(s)
			if !slices.Contains(a.item.Holding(), "bin") {
				s[2] = min(s[2], p.H.MM()) // it stands on end and sticks out
			}
			volume += s[0] * s[1] * s[2]
			continue
		}
		for j := range i {
			b := &pieces[j]
			if by := collide(p, a, b); by > eps {
				c.add(true, "overlap", where, by, "mm", "%s and %s are too close in %s", a.item.Name, b.item.Name, p.ID)
			}
		}
		if form == keeping.Piles && a.z > eps && !borne(a, pieces) {
			c.add(true, "unborne", where, 0, "", "nothing bears %s in %s", a.item.Name, p.ID)
		}
	}
	if form == keeping.Single && len(pieces) > 1 {
		c.add(true, "overlap", p.ID, float64(len(pieces)-1), "", "%s is a hook for one thing and holds %d", p.ID, len(pieces))
	}
	if room := p.W.MM() * p.H.MM() * p.D.MM() * p.FillFactor(); form == keeping.Heap && volume > room*1.000001 {
		c.add(true, "volume", p.ID, (volume-room)/1e6, "l", "%s is overfull", p.ID)
	}
}

// collide gives by how many millimetres two pieces of a place are too close.
func collide(p *shop.Place, a, b *piece) float64 {
	by := boxesCollide(p, a, b)
	if by <= eps || a.shape == nil && b.shape == nil {
		return by
	}
	outline := func(q *piece) geometry.Polygon {
		switch {
		case q.shape != nil:
			return q.shape
		case keeping.Of(p).Form() == keeping.Lying:
			return geometry.Rectangle(q.x, q.y, q.w, q.d, 0)
		default:
			return geometry.Rectangle(q.x, q.z, q.w, q.h, 0)
		}
	}
	clear := outline(a).Clear(outline(b))
	if clear == 0 { // they touch or cross
		return by
	}
	return max(a.gap, b.gap) - clear
}

func boxesCollide(p *shop.Place, a, b *piece) float64 {
	gap := max(a.gap, b.gap)
	x := min(a.x+a.w, b.x+b.w) - max(a.x, b.x)
	y := min(a.y+a.d, b.y+b.d) - max(a.y, b.y)
	z := min(a.z+a.h, b.z+b.h) - max(a.z, b.z)
	switch keeping.Of(p).Form() {
	case keeping.Upright:
		return min(x, z) + gap
	case keeping.Lying:
		return min(x, y) + gap
	case keeping.Run:
		return x + gap
	case keeping.Rows:
		if a.row == b.row {
			return x + gap
		}
		return min(x, a.d+b.d-p.D.MM())
	case keeping.Slotted:
		if a.slot == b.slot {
			return a.w
		}
	case keeping.Leaning:
		return x
	case keeping.Piles:
		if a.level == b.level {
			return min(y, z) // boards on one level share its whole run
		}
	case keeping.Boxed:
		return min(x, y, z)
	}
	return 0
}

// borne tells whether what lies directly below a board carries its whole width.
func borne(a *piece, pieces []piece) bool {
	covered := 0.0
	for i := range pieces {
		b := &pieces[i]
		if b.level == a.level && math.Abs(b.z+b.h-a.z) <= eps {
			covered += max(0, min(a.y+a.d, b.y+b.d)-max(a.y, b.y))
		}
	}
	return covered >= a.d-eps
}

// reach checks bands and lifting.
func (c *checker) reach(where string, it *shop.Item, p *shop.Place, h *shop.Home) {
	u := c.m.UseOf(it)
	place := c.m.PlaceNumber(p.ID)
	if c.m.Front(place).Away {
		c.add(false, "away", where, 0, "", "%s lives in %s, which is not in the shop now", it.Name, p.ID)
		return
	}
	g := keeping.GripOf(p, it, h)
	band, rolled := c.m.Band(&u, place, g)
	if _, ok := c.m.Weekly(&u, place, g, 0); !ok {
		if mode := c.reachedIn(&u, place, g); mode != "" {
			c.add(false, "reach", where, 0, "", "%s cannot be reached in %s as the floor stands, only in %s", it.Name, p.ID, mode)
			return
		}
		c.add(!h.Locked, "reach", where, 0, "", "%s cannot be reached in %s", it.Name, p.ID)
		return
	}
	if len(rolled) > 0 {
		c.add(false, "behind", where, 0, "", "%s is behind %v, which must be rolled out first", it.Name, rolled)
	}
	v := c.m.Lift(&u, place, g)
	switch {
	case v.Barred:
		c.add(!h.Locked, "lifting", where, v.Index, "index", "%s (%s) in %s: %s", it.Name, it.KG, p.ID, v.Why)
	case v.Caution:
		c.add(false, "lifting", where, v.Index, "index", "%s (%s) in %s: %s; lift it with somebody or keep it at hip height", it.Name, it.KG, p.ID, v.Why)
	}
	if band == reach.Ladder && it.KG.KG() >= reach.LiftFrom {
		c.add(false, "ladder", where, 0, "", "%s (%s) comes down a ladder from %s", it.Name, it.KG, p.ID)
	}
}

// weights checks rated capacities of places and containers.
func (c *checker) weights() {
	place, container := map[string]float64{}, map[string]float64{}
	carry := func(at *shop.At, kg float64) {
		chain, _ := c.ix.Chain(at)
		for _, k := range chain {
			container[k.ID] += kg
		}
		for _, p := range c.ix.Bearers(at) {
			place[p.ID] += kg
		}
	}
	for i := range c.s.Containers {
		carry(&c.s.Containers[i].At, c.s.Containers[i].KG.KG())
	}
	for i := range c.s.Homes {
		h := &c.s.Homes[i]
		it, p := c.ix.Item(h.Item), c.ix.Place(h.Place)
		if it == nil || p == nil {
			continue
		}
		kg := it.KG.KG() * float64(h.Number(it))
		place[p.ID] += kg
		carry(&p.At, kg)
	}
	for _, p := range c.s.Places {
		if p.Capacity > 0 && place[p.ID] > p.Capacity.KG()+1e-6 {
			c.add(true, "capacity", p.ID, place[p.ID]-p.Capacity.KG(), "kg", "%s carries %s, rated for %s", p.ID, weight.Rough(place[p.ID]), p.Capacity)
		}
	}
	for _, k := range c.s.Containers {
		if k.Capacity > 0 && container[k.ID] > k.Capacity.KG()+1e-6 {
			c.add(true, "capacity", k.ID, container[k.ID]-k.Capacity.KG(), "kg", "%s carries %s, rated for %s", k.ID, weight.Rough(container[k.ID]), k.Capacity)
		}
	}
}

// rect is what covers a part of a wall.
type rect struct {
	id, name   string
	x, z, w, h float64
	d          float64
	onDoor     bool // made to hang on a door's back
}

// walls checks that what hangs on a wall hangs on claimed wall and neither on
// doors, windows and panels nor in something else.
func (c *checker) walls() {
	for i := range c.s.Areas {
		a := &c.s.Areas[i]
		for j := range a.Walls {
			w := &a.Walls[j]
			var on []rect
			for _, p := range c.s.Places {
				if p.At.Wall == w.ID && c.ix.Area(p.At.Area) == a && len(p.When) == 0 {
					on = append(on, rect{p.ID, p.Name, p.At.X.MM(), p.At.Z.MM(), p.W.MM(), p.H.MM(), p.D.MM(), false})
				}
			}
			for _, k := range c.s.Containers {
				if k.At.Wall == w.ID && c.ix.Area(k.At.Area) == a {
					on = append(on, rect{k.ID, k.Name, k.At.X.MM(), k.At.Z.MM(), k.W.MM(), k.H.MM(), k.D.MM(), k.Kind.OnDoor()})
				}
			}
			for m, r := range on {
				if !w.Claimed {
					c.add(true, "left-alone", r.id, 0, "", "%s hangs on wall %s, which is left alone", r.id, w.ID)
				}
				for _, f := range w.Features {
					if by := min(r.x+r.w, (f.X+f.W).MM()) - max(r.x, f.X.MM()); by > eps {
						if bz := min(r.z+r.h, (f.Z+f.H).MM()) - max(r.z, f.Z.MM()); bz > eps {
							c.covers(r, &f, min(by, bz))
						}
					}
				}
				for _, o := range on[:m] {
					by := min(min(r.x+r.w, o.x+o.w)-max(r.x, o.x), min(r.z+r.h, o.z+o.h)-max(r.z, o.z))
					if by > eps {
						c.add(true, "same-wall", r.id, by, "mm", "%s and %s overlap on wall %s", r.id, o.id, w.ID)
					}
				}
			}
		}
	}
}

func (c *checker) covers(r rect, f *shop.Feature, by float64) {
	switch f.Kind.Covering() {
	case shop.Hides:
		c.add(false, "covers", r.id, by, "mm", "%s covers %s (%s)", r.id, f.ID, f.Kind)
	case shop.Harmless:
	case shop.OnLeaf:
		if !r.onDoor {
			c.add(true, "covers", r.id, by, "mm", "%s hangs over %s (%s)", r.id, f.ID, f.Kind)
		}
	default:
		c.add(true, "covers", r.id, by, "mm", "%s hangs over %s (%s)", r.id, f.ID, f.Kind)
	}
}
