package fit

import (
	"cmp"
	"slices"
)

// Things leave a place in which series are apart for a place elsewhere where that is worth it: so many of them are tried in a place, each in so
// many other places, so many times over.
const (
	leaving    = 8
	elsewhere  = 3
	leavings   = 3
	mostLeaves = 6 // things that leave together
)

// leave is a group of parcels that might live elsewhere, and by how much their handling would grow, at least.
type leave struct {
	group []int
	to    int
	more  float64
}

// across lets what makes a place too full for order live elsewhere: what is in no series by itself, a whole series together, and one of a series
// that cannot stand together here, as what is used at another machine than the rest. It gives the handling it costs.
func (t *tidying) across() (costs float64) {
	for range leavings {
		better := false
		list := t.byPlace()
		full := make([]int, 0, len(list))
		gap := make([]int, len(list))
		for place, in := range list {
			if gap[place] = t.apartIn(place, in, t.series(place, in)); gap[place] > 0 {
				full = append(full, place)
			}
		}
		slices.SortStableFunc(full, func(a, b int) int { return cmp.Compare(gap[b], gap[a]) })
		for _, place := range full {
			for _, l := range t.leaves(place, gap[place]) {
				if t.over() {
					return costs
				}
				if c, ok := t.let(place, &l); ok {
					costs, better = costs+c, true
					break // the place is another one now
				}
			}
		}
		if !better {
			break
		}
	}
	return costs
}

// leaves are what might leave a place, what costs least first.
func (t *tidying) leaves(place, gap int) (out []leave) {
	in := t.byPlace()[place]
	var groups [][]int
	together := map[int]bool{}
	for _, s := range t.series(place, in) {
		for _, i := range s {
			together[i] = true
		}
		if len(s) <= mostLeaves {
			groups = append(groups, s)
		}
		if len(s) > 2 && t.apartIn(place, in, [][]int{s}) > 0 {
			for _, i := range s {
				groups = append(groups, []int{i})
			}
		}
	}
	for _, i := range in {
		if !together[i] {
			groups = append(groups, []int{i})
		}
	}
	for _, g := range groups {
		if slices.ContainsFunc(g, func(i int) bool { return !t.movable(i) }) {
			continue
		}
		was := t.handling(g)
		var to []leave
		for _, o := range t.fits[t.parcels[g[0]].item] {
			if o.place == place {
				continue
			}
			sum := 0.0
			for _, i := range g {
				q := &t.parcels[i]
				if c := t.optionOf(q.item, o.place); c != nil {
					sum += c.least * float64(q.n) / float64(t.itemOf(i).Number())
				} else {
					sum += 1e9
				}
			}
			if more := sum - was; more < t.price*float64(gap) {
				to = append(to, leave{g, o.place, more})
			}
		}
		slices.SortStableFunc(to, func(a, b leave) int { return cmp.Compare(a.more, b.more) })
		out = append(out, to[:min(len(to), elsewhere)]...)
	}
	slices.SortStableFunc(out, func(a, b leave) int { return cmp.Compare(a.more, b.more) })
	return out[:min(len(out), leaving*elsewhere)]
}

// movable tells whether a parcel may be put into another place.
func (t *tidying) movable(i int) bool {
	return t.mayShift(i) && !t.kin.bound(t.parcels[i].item)
}

// let a group live elsewhere, when both places in order then are better than they are; the handling that costs.
func (t *tidying) let(from int, l *leave) (costs float64, better bool) {
	all := t.byPlace()
	both := slices.Concat(all[from], all[l.to])
	was := make([]saved, len(both))
	for k, i := range both {
		was[k] = t.savedOf(i)
	}
	handling, before := t.handling(both), t.whole()
	for _, i := range l.group {
		t.take(i)
	}
	for _, i := range l.group {
		q := &t.parcels[i]
		o := t.optionOf(q.item, l.to)
		at := t.best(q.item, q.n, o)
		if !at.Found {
			t.backTo(was)
			return 0, false
		}
		t.put(i, l.to, at.Spot, at.Cost)
	}
	now := t.byPlace()
	for _, p := range []int{from, l.to} {
		if s := t.series(p, now[p]); len(s) > 0 {
			t.place(p, now[p], s)
		}
	}
	if t.whole() < before-1e-6 {
		return t.handling(both) - handling, true
	}
	t.backTo(was)
	return 0, false
}

// whole is the handling of all and what is paid for wishes.
func (t *tidying) whole() (sum float64) {
	for i := range t.parcels {
		sum += t.parcels[i].cost
	}
	return sum + t.paid(*t.o).sum()
}
