package check

import (
	"cmp"
	"fmt"
	"slices"

	"hobrak/internal/core/access"
	"hobrak/internal/core/geometry"
	"hobrak/internal/core/shop"
)

// floor checks that nothing stands in anything else, or where one stands to work.
func (c *checker) floor() {
	for i := range c.s.Areas {
		a := &c.s.Areas[i]
		for _, p := range c.together(c.standing[a.ID]) {
			c.add(true, "standing", p.a, 0, "", "%s and %s stand in the same spot", p.a, p.b)
		}
	}
	for i := range c.s.Areas {
		a := &c.s.Areas[i]
		on := newRow(c.standing[a.ID])
		for k := range c.s.Stations {
			st := &c.s.Stations[k]
			if c.ix.Area(st.Area) != a {
				continue
			}
			p := st.Stand.Geometry()
			on.at(p.X, p.X, func(t *access.Standing) {
				if t.Footprint.Contains(p) {
					c.add(true, "stand", fmt.Sprintf("stations[%d].stand", k), 0, "", "where one stands at %s there is %s", st.Name, t.ID)
				}
			})
		}
	}
}

// pair of things that stand in each other.
type pair struct{ a, b string }

// together finds the things that stand in each other, in the order they are in.
func (c *checker) together(things []access.Standing) []pair {
	type hit struct{ j, k int }
	var hits []hit
	r := newRow(things)
	for j := range things {
		low, high := things[j].Footprint.Bounds()
		r.at(low.X, high.X, func(t *access.Standing) {
			if k := r.number[t]; k < j && t.Footprint.Overlaps(things[j].Footprint, 1) {
				hits = append(hits, hit{j, k})
			}
		})
	}
	slices.SortFunc(hits, func(a, b hit) int { return cmp.Or(cmp.Compare(a.j, b.j), cmp.Compare(a.k, b.k)) })
	var out []pair
	for _, h := range hits {
		out = append(out, pair{things[h.j].ID, things[h.k].ID})
	}
	return out
}

// row holds things sorted by where they begin along x, so that what may be at a spot is
// found without looking at all of them.
type row struct {
	sorted []*access.Standing
	low    []float64
	widest float64
	number map[*access.Standing]int
}

func newRow(things []access.Standing) *row {
	r := &row{number: map[*access.Standing]int{}}
	begins := map[*access.Standing]float64{}
	for i := range things {
		t := &things[i]
		low, high := t.Footprint.Bounds()
		begins[t] = low.X
		r.widest = max(r.widest, high.X-low.X)
		r.sorted = append(r.sorted, t)
		r.number[t] = i
	}
	slices.SortStableFunc(r.sorted, func(a, b *access.Standing) int { return cmp.Compare(begins[a], begins[b]) })
	for _, t := range r.sorted {
		r.low = append(r.low, begins[t])
	}
	return r
}

// at visits what may reach into the stretch between two x.
func (r *row) at(from, to float64, visit func(*access.Standing)) {
	i, _ := slices.BinarySearch(r.low, from-r.widest)
	for ; i < len(r.sorted) && r.low[i] <= to; i++ {
		visit(r.sorted[i])
	}
}

// modes checks that what has a spot of its own in a mode stands inside its area there, and
// not in anything else that stands there then.
func (c *checker) modes() {
	for i := range c.s.Modes {
		m := &c.s.Modes[i]
		if len(m.Spots) == 0 {
			continue
		}
		then, err := c.s.InMode(m.ID)
		if err != nil {
			continue // a valid shop has the mode
		}
		ix := shop.NewIndex(then)
		where := func(id string) string { return fmt.Sprintf("modes[%d].spots.%s", i, id) }
		for j := range then.Areas {
			a := &then.Areas[j]
			things := access.StandingIn(then, ix, a)
			for _, t := range things {
				if spot, moved := m.Spots[t.ID]; moved && spot.State == "" && !within(a.Outline(), t.Footprint) {
					c.add(true, "outside", where(t.ID), 0, "", "in %s %s stands outside the area", m.Name, t.ID)
				}
			}
			for _, p := range c.together(things) {
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
