package check

import (
	"fmt"

	"hobrak/internal/core/access"
	"hobrak/internal/core/free"
	"hobrak/internal/core/geometry"
	"hobrak/internal/core/length"
	"hobrak/internal/core/shop"
	"hobrak/internal/core/survey"
)

// kept cautions about what stands or hangs where the building wants room: in
// the swing of a door, before the panel, at a heater, in the tracks of a door, and too
// low overhead.
func (c *checker) kept() {
	for i := range c.s.Areas {
		a := &c.s.Areas[i]
		kept, head := free.KeptClear(c.m, a)
		standing, hanging := c.standing[a.ID], access.HangingIn(c.s, c.ix, a)
		for _, k := range kept {
			for _, t := range standing {
				if t.Height > k.From && 0 < k.To && t.Footprint.Overlaps(k.Foot, 10) {
					c.add(false, k.Limit.Kind, t.ID, 0, "", "%s stands in the room of %s: %s", t.ID, k.Limit.By, k.Limit.Says)
				}
			}
			for _, h := range hanging {
				if h.To > k.From+eps && h.From < k.To-eps && h.Footprint.Overlaps(k.Foot, 10) && !c.onLeaf(h.ID) {
					c.add(false, k.Limit.Kind, h.ID, 0, "", "%s hangs in the room of %s: %s", h.ID, k.Limit.By, k.Limit.Says)
				}
			}
		}
		for _, h := range hanging {
			if c.s.Settings.Fixing == shop.NoHoles && !c.onLeaf(h.ID) {
				c.add(false, "holes", h.ID, 0, "", "%s is fixed to the building, and nothing may be: ask whose room it is before you drill, or stand it on the floor", h.ID)
			}
			if h.Wall >= 0 || h.From >= head {
				continue
			}
			under := 0.0
			for _, t := range standing {
				if t.Footprint.Overlaps(h.Footprint, 10) {
					under = max(under, overlap(t.Footprint, h.Footprint))
				}
			}
			// Over a bench nobody walks; over open floor the tallest person does.
			if under < .9*h.Footprint.Area() {
				c.add(false, "head-room", h.ID, head-h.From, "mm", "%s hangs at %s where one walks; the tallest person needs %s", h.ID, length.MM(h.From), length.MM(head))
			}
		}
	}
}

// onLeaf tells whether something hangs on the leaf of a door and swings with it.
func (c *checker) onLeaf(id string) bool {
	k := c.ix.Container(id)
	return k != nil && k.Kind.OnDoor()
}

// overlap of two convex footprints as an area, by clipping one with the other.
func overlap(g, o geometry.Polygon) float64 {
	out := g
	for i := range o {
		e := o.Edge(i)
		in := func(p geometry.Point) float64 { return e.B.Sub(e.A).Cross(p.Sub(e.A)) }
		var next geometry.Polygon
		for k := range out {
			s := out.Edge(k)
			a, b := in(s.A), in(s.B)
			if a >= 0 {
				next = append(next, s.A)
			}
			if (a < 0) != (b < 0) {
				next = append(next, s.A.Add(s.B.Sub(s.A).Mul(a/(a-b))))
			}
		}
		out = next
	}
	return out.Area()
}

// surveys cautions about measurements that do not fit.
func (c *checker) surveys() {
	for i := range c.s.Areas {
		a := &c.s.Areas[i]
		if a.Survey == nil {
			continue
		}
		where := fmt.Sprintf("areas[%d].survey", i)
		r := survey.Of(a)
		switch {
		case r.Fault != "":
			c.add(false, "survey", where, r.Closure, "mm", "%s", r.Fault)
		case r.Suspect != nil:
			c.add(false, "survey", fmt.Sprintf("%s.measures[%d]", where, r.Suspect.Measure), 0, "", "%s", r.Suspect.Says)
		}
	}
}
