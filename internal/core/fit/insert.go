package fit

import (
	"cmp"
	"slices"
)

// insert finds homes for those of some parcels that have none, one after the other, each where it is best off: in any order, what is large
// first, what is used much, or what is used much for its size. Was is where they were.
func (r *search) insert(was []saved, m manner) {
	type waiting struct {
		i    int
		key  float64
		lost bool // had no home before, so that one is hard to find
	}
	by, lost := r.rng.IntN(4), r.rng.IntN(2) == 0
	list := make([]waiting, 0, len(was))
	for _, k := range r.rng.Perm(len(was)) {
		s := &was[k]
		p := &r.parcels[s.i]
		if p.place != none {
			continue // its family took it along
		}
		it := &r.shop.Items[p.item]
		size := it.W.MM() * max(it.H, it.D).MM() * float64(p.n)
		uses := it.UsesPerWeek * float64(p.n) / float64(it.Number())
		list = append(list, waiting{s.i, [...]float64{0, size, uses, uses / size}[by], lost && s.place == none})
	}
	slices.SortStableFunc(list, func(a, b waiting) int {
		switch {
		case m.force && a.i == m.first, a.lost && !b.lost:
			return -1
		case m.force && b.i == m.first, b.lost && !a.lost:
			return 1
		}
		return cmp.Compare(b.key, a.key)
	})
	m.quick = true
	for k := range list {
		if k%8 == 7 && r.o.Done() {
			return // what is left over stays without a home, and the try is given up
		}
		if c, _ := r.choices(list[k].i, m); c.ok {
			r.put(list[k].i, c.place, c.spot, c.cost)
		}
	}
}
