package fit

import (
	"math/rand/v2"
	"slices"

	"hobrak/internal/core/keeping"
	"hobrak/internal/core/pack"
	"hobrak/internal/core/shop"
)

// tidying puts the things of each place in order, where that costs less handling than the wish is worth.
type tidying struct {
	*Arrangement
	o     *Options
	old   map[int]*shop.Home
	price float64
	luck  uint64
}

// tidy a plan: what lives in which place stays, where in it may change. What has others on it stays, too. Where order is dear, things change
// their places as well; that is done twice side by side, each time with other luck, and the better is taken.
func (e *Arrangement) tidy(o *Options) (out Ordered) {
	t := &tidying{e, o, map[int]*shop.Home{}, o.Wishes.Order, 0}
	for i := range e.shop.Items {
		if homes := e.ways.Index.Homes(e.shop.Items[i].ID); len(homes) == 1 {
			t.old[i] = homes[0]
		}
	}
	switch {
	case o.KeepHomes || t.price <= 0:
	case t.price < dear:
		out.Costs = t.inPlaces()
	default:
		all, costs := [twins]*tidying{t}, [twins]float64{}
		for k := 1; k < twins; k++ {
			all[k] = &tidying{e.copied(), o, t.old, t.price, uint64(k)}
		}
		spread(twins, func(k int) { costs[k] = all[k].everywhere() })
		best := 0
		for k := range all {
			if all[k].whole() < all[best].whole()-1e-9 {
				best = k
			}
		}
		if out.Costs = costs[best]; best > 0 {
			e.as(all[best].Arrangement)
		}
	}
	if !o.KeepHomes {
		out.WasTight, out.Tight = t.surer()
	}
	out.Pairs, out.Now = e.InOrder()
	return out
}

// inPlaces puts each place in order by itself. It gives the handling it costs.
func (t *tidying) inPlaces() (costs float64) {
	for place, list := range t.byPlace() {
		if series := t.series(place, list); len(series) > 0 && !t.over() {
			costs += t.place(place, list, series)
		}
	}
	return costs
}

// everywhere puts the shop in order and lets things live elsewhere for it, at a price that rises. It gives the handling it costs.
func (t *tidying) everywhere() (costs float64) {
	for _, price := range risingTo(t.price) {
		t.price = price
		costs += t.inPlaces() + t.across()
	}
	return costs + t.anywhere() + t.settled() + t.anywhere()
}

// copied is another arrangement in the same state.
func (e *Arrangement) copied() *Arrangement {
	out := &Arrangement{Problem: e.Problem, asked: e.asked}
	out.reset()
	for i := range e.parcels {
		q := e.parcels[i]
		q.place = none
		out.parcels = append(out.parcels, q)
	}
	out.as(e)
	return out
}

// as another arrangement of the same parcels is.
func (e *Arrangement) as(other *Arrangement) {
	was := make([]saved, len(other.parcels))
	for i := range other.parcels {
		was[i] = other.savedOf(i)
	}
	e.backTo(was)
}

// over tells whether there is no more time.
func (t *tidying) over() bool { return t.o.Done() || t.o.Spent() >= 1 }

// effort is how many tries of so many are made, when fewer improvements than usual were asked for: as many fewer.
func (t *tidying) effort(tries int) int {
	if t.o.Iterations == 0 {
		return tries
	}
	return int(float64(tries) * min(1, float64(t.o.Iterations)/float64(usualTries(len(t.parcels)))))
}

// rng of some work at a place.
func (t *tidying) rng(place int, work uint64) *rand.Rand {
	return rand.New(rand.NewPCG(t.o.Seed, uint64(place)+work<<32+t.luck<<48))
}

// dear is the price from which on order is looked for all over the shop, and with whole series as blocks: at less it would not pay.
const dear = .5

// dearest is the price up to which order is made step by step: at more, all is wanted that can be had.
const dearest = 10.0

// risingTo a price: order that costs little is made first, so that what is dear later need not be.
func risingTo(price float64) (out []float64) {
	for p := dear; p < min(price, dearest); p *= 2 {
		out = append(out, p)
	}
	return append(out, price)
}

// worth of a place as it is: its handling, the wish for order and what moves.
func (t *tidying) worth(place int, in []int, series [][]int) (sum float64) {
	for _, i := range in {
		q := &t.parcels[i]
		sum += q.cost
		if old := t.old[q.item]; old != nil && !q.fixed {
			if old.Place != t.shop.Places[q.place].ID || keeping.SpotOf(&t.shop.Places[q.place], old) != q.spot {
				sum += t.o.Wishes.Moving
			}
		}
	}
	return sum + t.price*float64(t.apartIn(place, in, series))
}

// area of the front of all pieces of a parcel, mm².
func (t *tidying) area(i int) float64 {
	it := t.itemOf(i)
	return it.W.MM() * it.H.MM() * float64(t.parcels[i].n)
}

// handling of parcels.
func (e *Arrangement) handling(in []int) (sum float64) {
	for _, i := range in {
		sum += e.parcels[i].cost
	}
	return sum
}

// place is put in order by several ways of laying it out anew and by changing two at a time; the best is kept. It gives the handling it costs.
func (t *tidying) place(place int, in []int, series [][]int) float64 {
	if t.apartIn(place, in, series) == 0 {
		return 0
	}
	open := t.openOf(in)
	if len(open) < 2 || len(open) > mostTidied {
		return 0
	}
	first := t.handling(in)
	was := make([]saved, len(open))
	keep := func() {
		for k, i := range open {
			was[k] = t.savedOf(i)
		}
	}
	back := func() { t.backTo(was) }
	keep()
	best := t.worth(place, in, series)
	try := func(laid bool) {
		if laid {
			w := t.worth(place, in, series)
			if w > best-1e-9 && w < best+nearlyBetter {
				t.loosen(place, open, series)
				w = t.worth(place, in, series)
			}
			if w < best-1e-9 {
				best = w
				keep()
				return
			}
		}
		back()
	}
	for _, along := range []float64{.05, .5, 5} { // seconds a week for each metre to the one before
		for way := range 3 {
			try(t.lay(place, t.groups(open, series, way), along))
		}
	}
	if plane, ok := t.spaces[place].(*pack.Plane); ok && !plane.Single {
		rng := t.rng(place, 0)
		for _, share := range []float64{0, .15, .3, .45, .6} {
			for way := range rowTries {
				groups := t.groups(open, series, way%3)
				if way >= 3 {
					rng.Shuffle(len(groups), func(a, b int) { groups[a], groups[b] = groups[b], groups[a] })
				}
				try(t.rows(place, plane, groups, share))
			}
		}
	}
	if plane, ok := t.spaces[place].(*pack.Plane); ok && !plane.Single {
		for round := 0; round < 3 && !t.over(); round++ {
			before := best
			for _, one := range series {
				if t.apartIn(place, in, [][]int{one}) == 0 {
					continue
				}
				for _, down := range steps(wedgesDown) {
					for _, right := range steps(wedgesAcross) {
						try(t.wedge(place, plane, one, open, right, down))
					}
				}
			}
			if best >= before-1e-9 {
				break
			}
		}
	}
	if plane, ok := t.spaces[place].(*pack.Plane); ok && !plane.Single && t.price >= dear {
		t.bundled(place, plane, in, open, series, &best, keep)
	}
	try(t.permute(place, open, series, false))
	try(t.permute(place, open, series, true))
	t.pairs(place, in, open, series, &best)
	keep()
	t.through(place, in, open, series, &best, keep)
	back()
	return t.handling(in) - first
}

// openOf some parcels are those that may change their spots.
func (t *tidying) openOf(in []int) (open []int) {
	for _, i := range in {
		if t.mayShift(i) {
			open = append(open, i)
		}
	}
	return open
}

// mayShift tells whether a parcel may change its spot.
func (t *tidying) mayShift(i int) bool {
	return !t.parcels[i].fixed && !t.bears(i) && (t.asked == nil || slices.Contains(t.asked, t.itemOf(i).ID))
}

// nearlyBetter is how much worse than the best, in seconds a week, a layout is that is still looked at closer.
const nearlyBetter = 6.0

// loosen lets each thing that is in no series go to the cheapest spot that is free.
func (t *tidying) loosen(place int, open []int, series [][]int) {
	var buf []pack.Spot
	for range 2 {
		better := false
		for _, i := range open {
			if slices.ContainsFunc(series, func(s []int) bool { return slices.Contains(s, i) }) {
				continue
			}
			was := t.savedOf(i)
			t.take(i)
			spot, cost, b, ok := t.next(i, place, none, 0, buf)
			buf = b
			if ok && cost < was.cost-1e-9 {
				t.put(i, place, spot, cost)
				better = true
			} else {
				t.put(i, was.place, was.spot, was.cost)
			}
		}
		if !better {
			return
		}
	}
}

// mostTidied things of a place are put in order.
const mostTidied = 80
