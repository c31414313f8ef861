package fit

import (
	"cmp"
	"math"
	"slices"

	"hobrak/internal/core/keeping"
	"hobrak/internal/core/pack"
	"hobrak/internal/core/shop"
)

// Risk is what may come otherwise with an item where it lives.
type Risk struct {
	Item string
	// Larger is what is lost, seconds a week, when what is assumed of its size and weight turns out larger, in each of the ways Doubts supposes; nil
	// when nothing is assumed.
	Larger []float64
	// Guessed tells that it is assumed how often it is used.
	Guessed bool
	// Another is what one more like it would cost, seconds a week: at the best spot that is free, or without a home.
	Another float64
}

// Risks of an arrangement, by item in the order of the shop.
func (e *Arrangement) Risks() []Risk {
	e = e.supposing()
	out := make([]Risk, 0, len(e.shop.Items))
	for i := range e.shop.Items {
		it := &e.shop.Items[i]
		if !it.Needs() {
			continue
		}
		r := Risk{Item: it.ID, Guessed: slices.Contains(it.Assumed, "uses_per_week"), Another: e.another(i)}
		if sized(it) {
			for _, k := range excess {
				r.Larger = append(r.Larger, e.lostIfGrown(i, k))
			}
		}
		out = append(out, r)
	}
	return out
}

// sized tells whether something is assumed of the size or weight of an item.
func sized(it *shop.Item) bool {
	return slices.ContainsFunc(it.Assumed, func(f string) bool { return f != "uses_per_week" })
}

// another is what one piece more of an item would cost a week, used as often as each of them.
func (e *Arrangement) another(item int) float64 {
	least := e.homelessCost(item, 1)
	for k := range e.fits[item] {
		o := &e.fits[item][k]
		if o.least/float64(e.shop.Items[item].Number()) >= least {
			break
		}
		if at := e.best(item, 1, o); at.Found {
			least = min(least, at.Cost)
		}
	}
	return least
}

// slack is how much larger what is assumed of a thing may turn out while it still fits, so that a home counts as sure.
const slack = 1.25

// tight lists the parcels with assumed sizes that would not fit where they are if they were larger.
func (t *tidying) tight() (out []int) {
	for i := range t.parcels {
		if q := &t.parcels[i]; q.place != none && sized(t.itemOf(i)) && !t.roomy(i, q.place) {
			out = append(out, i)
		}
	}
	return out
}

// roomy tells whether a place would still take a parcel, and all that is there, if the parcel were larger than assumed: the others may shift along.
// The parcel is there, or has no home.
func (t *tidying) roomy(i, place int) bool {
	var was []saved
	var others []int
	for k := range t.parcels {
		if q := &t.parcels[k]; k != i && q.place == place {
			if q.fixed || t.bears(k) {
				continue
			}
			others = append(others, k)
			was = append(was, t.savedOf(k))
		}
	}
	was = append(was, t.savedOf(i))
	it := t.itemOf(i)
	defer func(old shop.Item) {
		for _, k := range append(others, i) {
			if t.parcels[k].place != none {
				t.take(k)
			}
		}
		*it = old
		t.backTo(was)
	}(*it)
	for _, s := range was {
		if s.place != none {
			t.take(s.i)
		}
	}
	*it = grown(it, slack)
	if keeping.Barred(&t.shop.Places[place], it, t.parcels[i].n, t.emptySpace(place)) != "" {
		return false
	}
	slices.SortStableFunc(others, func(a, b int) int { return cmp.Compare(t.area(b), t.area(a)) })
	var buf []pack.Spot
	for _, k := range append([]int{i}, others...) {
		spot, cost, b, ok := t.next(k, place, none, 0, buf)
		if buf = b; !ok {
			return false
		}
		t.put(k, place, spot, cost)
	}
	return true
}

// surer moves things whose size is assumed to where they would fit if they were larger, where that costs no more a week than having to move them
// later is worth. More it may not cost: to move what proves to be too large is early enough then. It says how many would not fit before and after.
func (t *tidying) surer() (before, after int) {
	own := *t
	own.Arrangement = t.supposing()
	t = &own
	list := t.tight()
	before = len(list)
	for _, i := range list {
		q := &t.parcels[i]
		if !t.movable(i) || t.over() {
			continue
		}
		was := t.savedOf(i)
		t.take(i)
		best, at, found := was.cost+t.o.Wishes.Moving, was, false
		var buf []pack.Spot
		for k := range t.fits[q.item] {
			o := &t.fits[q.item][k]
			if o.least*float64(q.n)/float64(t.itemOf(i).Number()) > best {
				break
			}
			if t.torn(q.item, o.place) || t.harmful(q.item, o.place) != "" {
				continue
			}
			if over, _ := t.overloaded(q.item, q.n, o.place); over > 0 {
				continue
			}
			th := t.kinds[o.place].Thing(t.itemOf(i), q.n)
			buf = t.preferred(q.item, q.n, o, th, math.Inf(1), t.spaces[o.place].Spots(th, buf[:0]))
			spot, least := pack.Spot{}, best
			for _, s := range buf {
				if c, why := t.spotCost(q.item, q.n, o.place, s, false); why == "" && c <= least {
					spot, least = s, c
				}
			}
			if least < best && o.place != was.place && t.roomy(i, o.place) {
				best, at, found = least, saved{i, o.place, spot, least}, true
			}
		}
		t.put(i, was.place, was.spot, was.cost)
		if !found {
			continue
		}
		worth := t.whole()
		t.backTo([]saved{at})
		if t.whole() > worth+t.o.Wishes.Moving { // what it would break of the wishes
			t.backTo([]saved{was})
		}
	}
	return before, len(t.tight())
}
