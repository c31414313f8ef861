package check

import (
	"maps"
	"slices"

	"cmp"
	"fmt"
	"hobrak/internal/core/keeping"

	"hobrak/internal/core/access"
	"hobrak/internal/core/geometry"
	"hobrak/internal/core/shop"
)

// floor checks that nothing stands in anything else, or where one stands to work.
func (c *checker) floor() {
	rows := make([]row, len(c.s.Areas))
	for i := range c.s.Areas {
		rows[i] = newRow(c.standing[c.s.Areas[i].ID])
		for _, p := range rows[i].together() {
			c.add(true, "standing", p.a, 0, "", "%s and %s stand in the same spot", p.a, p.b)
		}
	}
	for i := range c.s.Areas {
		for k := range c.s.Stations {
			st := &c.s.Stations[k]
			if c.ix.Area(st.Area) != &c.s.Areas[i] || st.Kind.Lodger() || st.Wished != "" {
				continue // nobody stands at what only lives there
			}
			p := st.Stand.Geometry()
			rows[i].at(p.X, p.X, func(t *stretch) {
				if t.thing.Footprint.Contains(p) {
					c.add(true, "stand", fmt.Sprintf("stations[%d].stand", k), 0, "", "where one stands at %s there is %s", st.Name, t.thing.ID)
				}
			})
		}
	}
}

// stretch is what a thing takes along x, with its number among those it stands with.
type stretch struct {
	thing    *access.Standing
	n        int
	from, to float64
}

// row holds things sorted by where they begin along x, so that what may be at a spot is
// found without looking at all of them.
type row struct {
	sorted []stretch
	widest float64
}

func newRow(things []access.Standing) (r row) {
	for i := range things {
		low, high := things[i].Footprint.Bounds()
		r.widest = max(r.widest, high.X-low.X)
		r.sorted = append(r.sorted, stretch{&things[i], i, low.X, high.X})
	}
	slices.SortStableFunc(r.sorted, func(a, b stretch) int { return cmp.Compare(a.from, b.from) })
	return r
}

// at visits what may reach into the stretch between two x.
func (r row) at(from, to float64, visit func(*stretch)) {
	i, _ := slices.BinarySearchFunc(r.sorted, from-r.widest, func(s stretch, x float64) int { return cmp.Compare(s.from, x) })
	for ; i < len(r.sorted) && r.sorted[i].from <= to; i++ {
		visit(&r.sorted[i])
	}
}

// pair of things that stand in each other.
type pair struct{ a, b string }

// together finds the things that stand in each other, in the order they are in.
func (r row) together() (out []pair) {
	var hits [][2]*stretch
	for j := range r.sorted {
		a := &r.sorted[j]
		r.at(a.from, a.to, func(b *stretch) {
			if b.n < a.n && b.thing.Footprint.Overlaps(a.thing.Footprint, 1) {
				hits = append(hits, [2]*stretch{a, b})
			}
		})
	}
	slices.SortFunc(hits, func(x, y [2]*stretch) int { return cmp.Or(cmp.Compare(x[0].n, y[0].n), cmp.Compare(x[1].n, y[1].n)) })
	for _, h := range hits {
		out = append(out, pair{h[0].thing.ID, h[1].thing.ID})
	}
	return out
}

// modes checks that what has a spot of its own in a mode stands inside its area there, and
// not in anything else that stands there then.
func (c *checker) inModes() {
	for k := range c.modes {
		i, m, then, ix := c.modes[k].i, c.modes[k].mode, c.modes[k].m.Shop, c.modes[k].m.Index
		c.blocked(&c.modes[k])
		c.noRoom(&c.modes[k])
		where := func(id string) string { return fmt.Sprintf("modes[%d].spots.%s", i, id) }
		for j := range then.Areas {
			a := &then.Areas[j]
			things := access.StandingIn(then, ix, a)
			for _, t := range things {
				if spot, moved := m.Spots[t.ID]; moved && spot.State == "" && !within(a.Outline(), t.Footprint) {
					c.add(true, "outside", where(t.ID), 0, "", "in %s %s stands outside the area", m.Name, t.ID)
				}
			}
			for _, p := range newRow(things).together() {
				id := p.a
				if _, moved := m.Spots[id]; !moved {
					id = p.b
				}
				if _, moved := m.Spots[id]; moved {
					c.add(true, "standing", where(id), 0, "", "in %s %s and %s stand in the same spot", m.Name, p.a, p.b)
				}
			}
		}
	}
}

// within tells whether a footprint lies inside an outline, give or take what people round.
func within(outline, foot geometry.Polygon) bool {
	return !slices.ContainsFunc(foot, func(p geometry.Point) bool { return !outline.Contains(p) && outline.Distance(p) > 5 })
}

// inMode is the shop in a mode in which things stand otherwise than now.
type inMode struct {
	i    int
	mode *shop.Mode
	m    *access.Map
}

// arrange works out the ways of the modes in which something stands elsewhere.
func (c *checker) arrange() error {
	for i := range c.s.Modes {
		m := &c.s.Modes[i]
		if len(m.Spots) == 0 && !slices.ContainsFunc(c.s.Places, func(p shop.Place) bool { return len(p.When) > 0 }) {
			continue
		}
		then, err := c.s.InMode(m.ID)
		if err != nil {
			return err
		}
		ways, err := access.NewMap(then)
		if err != nil {
			return err
		}
		c.modes = append(c.modes, inMode{i, m, ways})
	}
	return nil
}

// reachedIn names a mode in which a grip can be reached; empty when there is none.
func (c *checker) reachedIn(u *access.Use, place int, g keeping.Grip) string {
	for _, x := range c.modes {
		if _, ok := x.m.Weekly(u, place, g, 0); ok {
			return x.mode.Name
		}
	}
	return ""
}

// noRoom says at which machines there is no room to work in a mode, though there is now: what is used there counts in the other modes.
func (c *checker) noRoom(x *inMode) {
	for i := range c.s.Stations {
		st := &c.s.Stations[i]
		if x.mode.Spots[st.ID].State == "" && st.Wished == "" && c.m.Worked(i) && !x.m.Worked(i) {
			c.add(false, "no-room", st.ID, 0, "", "in the mode “%s” nobody can stand at %s: move what is before it if you work there then; else its things count in the other modes", x.mode.Name, st.Name)
		}
	}
}

// blocked says of which places things cannot be reached in a mode, though they can now.
func (c *checker) blocked(x *inMode) {
	n, one := map[string]int{}, map[string]string{}
	for i := range c.s.Homes {
		h := &c.s.Homes[i]
		it, p := c.ix.Item(h.Item), c.ix.Place(h.Place)
		if it == nil || p == nil {
			continue
		}
		u, place, g := c.m.UseOf(it), c.m.PlaceNumber(p.ID), keeping.GripOf(p, it, h)
		if _, now := c.m.Weekly(&u, place, g, 0); !now {
			continue
		}
		if _, then := x.m.Weekly(&u, place, g, 0); !then {
			n[p.ID]++
			one[p.ID] = it.Name
		}
	}
	for _, id := range slices.Sorted(maps.Keys(n)) {
		what := one[id]
		if n[id] > 1 {
			what = fmt.Sprintf("%d things", n[id])
		}
		c.add(false, "blocked", id, float64(n[id]), "", "in %s %s in %s cannot be reached", x.mode.Name, what, id)
	}
}
