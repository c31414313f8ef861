package fit

import (
	"cmp"
	"math"
	"slices"

	"hobrak/internal/core/keeping"
)

// quick gives parcels homes without weighing them against each other: those they have,
// where no rule bars that, and then, what would be missed most first, the first free spot
// in the cheapest place that has one. However short the time is, it is done to the end: no
// plan is worse.
func (r *search) quick(todo []int) {
	for _, i := range todo {
		item := r.parcels[i].item
		if old, had := r.old[item]; had && r.parcels[i].place == none {
			place := r.ways.PlaceNumber(old.Place)
			if !slices.ContainsFunc(r.fits[item], func(o option) bool { return o.place == place }) {
				continue // it does not even belong there when the place is empty
			}
			if cost, ok := r.again(i, place, &old); ok && !r.torn(item, place) {
				r.put(i, place, keeping.SpotOf(&r.shop.Places[place], &old), cost)
			}
		}
	}
	order := slices.Clone(todo)
	missed := func(i int) float64 {
		p := &r.parcels[i]
		return r.homelessCost(p.item, p.n) + r.nuisance[p.item]
	}
	slices.SortStableFunc(order, func(a, b int) int { return cmp.Compare(missed(b), missed(a)) })
	for _, i := range order {
		p := &r.parcels[i]
		for k := range r.fits[p.item] {
			if p.place != none {
				break
			}
			o := &r.fits[p.item][k]
			if r.torn(p.item, o.place) {
				continue
			}
			if at := r.free(p.item, p.n, o, math.Inf(1)); at.Found {
				r.put(i, o.place, at.Spot, at.Cost)
			}
		}
	}
}

// construct begins the plan of parcels without a home: the quick way, and then, for as
// long as there is time, by what each would lose; the better one stays.
func (r *search) construct(todo []int) {
	worth := func() (sum float64) {
		for _, i := range todo {
			sum += r.value(i)
		}
		return sum + r.apart(todo) + r.upkeep
	}
	r.quick(todo)
	if r.o.Done() {
		return
	}
	quick, was := make([]saved, 0, len(todo)), worth()
	for _, i := range todo {
		quick = append(quick, r.savedOf(i))
		if r.parcels[i].place != none {
			r.take(i)
		}
	}
	r.recreate(todo, manner{paying: true})
	if worth() > was {
		r.back(quick)
	}
}
