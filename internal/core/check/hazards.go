package check

import (
	"fmt"

	"hobrak/internal/core/hazard"
	"hobrak/internal/core/keeping"
	"hobrak/internal/core/length"
)

// hazards cautions about things that live where they or others come to harm. They
// are not broken rules: people know their shop; no plan puts things there.
func (c *checker) hazards() {
	rules := hazard.New(c.m)
	kinds := make([][]int, len(c.s.Places)) // homes of things that burn or charge, by place
	for i := range c.s.Homes {
		h := &c.s.Homes[i]
		it, place := c.ix.Item(h.Item), c.m.PlaceNumber(h.Place)
		if it == nil || place < 0 {
			continue
		}
		where := fmt.Sprintf("homes[%d]", i)
		if why := rules.Bars(it, place); why != "" {
			c.add(false, "hazard", where, 0, "", "%s in %s: %s", it.Name, h.Place, why)
		}
		if why := rules.Height(it, place, keeping.GripOf(&c.s.Places[place], it, h).Z); why != "" {
			code := "child"
			if rules.Urgent(it) {
				code = "hazard"
			}
			c.add(false, code, where, 0, "", "%s in %s: %s", it.Name, h.Place, why)
		}
		for _, f := range it.Flags {
			if f == "dust" && rules.Dusty(place) {
				c.add(false, "dust", where, 0, "", "%s gathers dust in %s: put it behind a door, under a lid or in a drawer", it.Name, h.Place)
			}
		}
		if hazard.KindOf(it) != hazard.Harmless {
			kinds[place] = append(kinds[place], i)
		}
	}
	for place := range kinds {
		for _, i := range kinds[place] {
			it := c.ix.Item(c.s.Homes[i].Item)
			if hazard.KindOf(it) != hazard.Burns {
				continue
			}
			for _, p := range rules.Near(place) {
				for _, k := range kinds[p] {
					if o := c.ix.Item(c.s.Homes[k].Item); hazard.KindOf(o) == hazard.Charges {
						c.add(false, "hazard", fmt.Sprintf("homes[%d]", i), hazard.Apart, "mm", "%s in %s is flammable and nearer than %s to %s in %s, which charges", it.Name, c.s.Homes[i].Place, length.Whole(hazard.Apart), o.Name, c.s.Homes[k].Place)
					}
				}
			}
		}
	}
}
