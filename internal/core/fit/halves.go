package fit

import (
	"cmp"
	"math"
	"slices"

	"hobrak/internal/core/hazard"
	"hobrak/internal/core/shop"
)

// In a large shop most improvements concern a few places that are near each other.
// So the two searches mostly work in a half of the shop each, cut anew every round in
// another direction, and what both improved is put together. Places that share what
// bears them are not parted, and what may be a hazard to others stays meanwhile.

// leastHalved things are worth cutting the shop for.
const leastHalved = 150

type halves struct {
	e     *Arrangement
	group []int // by place: the least number of those it may not be parted from
	open  []int
}

// newHalves gives nil when the shop is too small to be cut.
func (e *Arrangement) newHalves(open []int) *halves {
	if len(open) < leastHalved {
		return nil
	}
	h := &halves{e: e, open: open}
	first := map[int]int{} // by bearer: a place it bears
	for i := range e.shop.Places {
		h.group = append(h.group, i)
		for _, b := range e.within[i] {
			if f, ok := first[b]; ok {
				h.unite(f, i)
			} else {
				first[b] = i
			}
		}
	}
	for i := range h.group {
		h.group[i] = h.root(i)
	}
	return h
}

func (h *halves) root(i int) int {
	for h.group[i] != i {
		i = h.group[i]
	}
	return i
}

func (h *halves) unite(a, b int) {
	a, b = h.root(a), h.root(b)
	h.group[max(a, b)] = min(a, b)
}

// cut lets all go on from the best of them, so that what lies where is the same in both,
// and gives each search the places of one side, and what is open there.
func (h *halves) cut(all [twins]*search) (lists [twins][]int) {
	first := bestOf(all)
	for _, r := range all {
		r.adopt(first)
	}
	r := all[0]
	angle := 2 * math.Pi * r.rng.Float64()
	count := make([]int, len(h.group))
	for _, i := range h.open {
		if p := r.parcels[i].place; p != none {
			count[h.group[p]]++
		}
	}
	type placed struct {
		group int
		along float64
	}
	var order []placed
	for g := range h.group {
		if h.group[g] == g {
			a, at := r.ways.Middle(g)
			// What is in another area is further away than anything in this one.
			along := at.X*math.Cos(angle) + at.Y*math.Sin(angle)
			if a != nil {
				along += 1e6 * float64(slices.IndexFunc(r.shop.Areas, func(o shop.Area) bool { return o.ID == a.ID }))
			}
			order = append(order, placed{g, along})
		}
	}
	slices.SortFunc(order, func(a, b placed) int { return cmp.Or(cmp.Compare(a.along, b.along), a.group-b.group) })
	side := make([]int, len(h.group))
	sum := 0
	for _, o := range order {
		if sum += count[o.group]; 2*sum > len(h.open) {
			side[o.group] = 1
		}
	}
	for k, r := range all {
		r.mine = make([]bool, len(h.group))
		for p, g := range h.group {
			r.mine[p] = side[g] == k
		}
	}
	for n, i := range h.open {
		p := &r.parcels[i]
		k := n % twins // what has no home tries in either half
		if p.place != none {
			k = side[h.group[p.place]]
		}
		if !r.reaches(p.item) {
			lists[k] = append(lists[k], i)
		}
	}
	return lists
}

// join puts together what the searches found, each in its half, and lets all go on
// from there.
func (h *halves) join(all [twins]*search, lists [twins][]int, open []int) {
	first := bestOf(all)
	keep := slices.Clone(all[0].keep)
	for _, i := range lists[1] {
		keep[i] = all[1].keep[i]
	}
	for _, r := range all {
		r.mine = nil
		r.restore(keep)
		r.now = r.apart(open) + r.upkeep
		for _, i := range open {
			r.now += r.value(i)
		}
		if r.now > first.best+1e-6 {
			// Families were torn apart by what each did on its own.
			r.adopt(first)
			continue
		}
		r.best, r.keep, r.since = r.now, slices.Clone(keep), r.since[:0]
	}
}

// minds tells whether the search may change what is in a place now.
func (r *search) minds(place int) bool { return r.mine == nil || r.mine[place] }

// reaches tells whether where an item lives matters to what is in the other half:
// hazards, and families that must stay together.
func (r *search) reaches(item int) bool {
	return hazard.Shuns(&r.shop.Items[item]) || r.kin.bound(item)
}

// stays tells whether a parcel is left where it is now: one in the other half, or one
// that matters there.
func (r *search) stays(i int) bool {
	p := &r.parcels[i]
	return r.mine != nil && (p.place != none && !r.mine[p.place] || r.reaches(p.item))
}
