package check

import (
	"fmt"

	"hobrak/internal/core/hazard"
	"hobrak/internal/core/household"
	"hobrak/internal/core/keeping"
	"hobrak/internal/core/length"
	"hobrak/internal/core/say"
	"hobrak/internal/core/shop"
)

// rough cautions about fragile things among those that are handled with force.
func (c *checker) rough() {
	byPlace := map[string][]*shop.Item{}
	for i := range c.s.Homes {
		h := &c.s.Homes[i]
		it := c.ix.Item(h.Item)
		if it == nil {
			continue
		}
		for _, o := range byPlace[h.Place] {
			if hazard.Breaks(it, o) {
				c.add(false, "fragile", fmt.Sprintf("homes[%d]", i), 0, "", "%s and %s are both in %s: one is fragile, the other handled with force", it.Name, o.Name, h.Place)
			}
		}
		byPlace[h.Place] = append(byPlace[h.Place], it)
	}
}

// hazards cautions about things that live where they or others come to harm. They
// are not broken rules: people know their shop; no plan puts things there.
func (c *checker) hazards() {
	rules := hazard.New(c.m)
	weathered, spoilt := 0, -1
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
		if rules.Dusty(it, place) {
			c.add(false, "dust", where, 0, "", "%s gathers dust in %s: put it behind a door, under a lid or in a drawer", it.Name, h.Place)
		}
		if rules.Unplugged(it, place) {
			c.add(false, "outlet", where, 0, "", "%s in %s charges, and no outlet is near enough: move it, or ask an electrician for an outlet there", it.Name, h.Place)
		}
		if rules.Weathered(it, place) {
			weathered++
			if spoilt < 0 {
				spoilt = i
			}
		}
		if hazard.KindOf(it) != hazard.Harmless {
			kinds[place] = append(kinds[place], i)
		}
	}
	if weathered > 0 { // one word for all: in a damp room it is most of what hangs there
		c.add(false, "weather", fmt.Sprintf("homes[%d]", spoilt), 0, "", "%s, %s among them: close them in, oil what rusts, or dry and shade the room", say.Count(weathered, "thing is open to the damp or sun that spoils it", "things are open to the damp or sun that spoils them"), c.ix.Item(c.s.Homes[spoilt].Item).Name)
	}
	c.rough()
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

// household says where the things of the household take more room than was agreed.
func (c *checker) household() {
	taken := household.Of(c.s)
	for i := range c.s.Areas {
		a := &c.s.Areas[i]
		wall, floor := taken[i].Creeps(a.Household)
		if wall {
			c.add(false, "household", a.ID, 0, "", "household things take %s of the walls of %s, of %s that were agreed: see which can go elsewhere", length.Area(1e6*taken[i].Wall), a.Called(), length.Area(1e6*a.Household.Wall))
		}
		if floor {
			c.add(false, "household", a.ID, 0, "", "household things take %s of the floor of %s, of %s that were agreed: see which can go elsewhere", length.Area(1e6*taken[i].Floor), a.Called(), length.Area(1e6*a.Household.Floor))
		}
	}
}
