package check

import (
	"fmt"
	"math"

	"hobrak/internal/core/access"
	"hobrak/internal/core/free"
	"hobrak/internal/core/geometry"
	"hobrak/internal/core/length"
	"hobrak/internal/core/shop"
	"hobrak/internal/core/survey"
)

// kept cautions about what stands or hangs where the building wants room: in
// the swing of a door, before the panel, at a heater, and too low overhead.
func (c *checker) kept() {
	for i := range c.s.Areas {
		a := &c.s.Areas[i]
		kept, head := free.KeptClear(c.m, a)
		standing := access.StandingIn(c.s, c.ix, a)
		for _, k := range kept {
			if k.Limit.Kind == "track" {
				continue // overhead: a thing on the floor does not meet it
			}
			for _, t := range standing {
				if t.Height > k.From && 0 < k.To && t.Footprint.Overlaps(k.Foot, 10) {
					c.add(false, k.Limit.Kind, t.ID, 0, "", "%s stands in the room of %s: %s", t.ID, k.Limit.By, k.Limit.Says)
				}
			}
		}
		overhead := func(id string, at *shop.At, w, d float64) {
			if at.Ceiling == nil || c.ix.Area(at.Area) != a || at.Z.MM() >= head {
				return
			}
			g := geometry.Rectangle(at.Ceiling[0].MM(), at.Ceiling[1].MM(), w, d, at.Rot)
			under := 0.0
			for _, t := range standing {
				if t.Footprint.Overlaps(g, 10) {
					under = max(under, math.Abs(overlap(t.Footprint, g)))
				}
			}
			// Over a bench nobody walks; over open floor the tallest person does.
			if under < .9*w*d {
				c.add(false, "head-room", id, head-at.Z.MM(), "mm", "%s hangs at %s where one walks; the tallest person needs %s", id, at.Z, length.MM(head))
			}
		}
		for k := range c.s.Containers {
			x := &c.s.Containers[k]
			overhead(x.ID, &x.At, x.W.MM(), x.D.MM())
		}
		for k := range c.s.Places {
			x := &c.s.Places[k]
			overhead(x.ID, &x.At, x.W.MM(), x.D.MM())
		}
	}
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
	style := length.Style{System: c.s.Settings.Units}
	for i := range c.s.Areas {
		a := &c.s.Areas[i]
		if a.Survey == nil {
			continue
		}
		where := fmt.Sprintf("areas[%d].survey", i)
		r := survey.Of(a, style)
		switch {
		case r.Fault != "":
			c.add(false, "survey", where, r.Closure, "mm", "%s", r.Fault)
		case r.Suspect != nil:
			c.add(false, "survey", fmt.Sprintf("%s.measures[%d]", where, r.Suspect.Measure), 0, "", "%s", r.Suspect.Says)
		}
	}
}
