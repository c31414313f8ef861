package fit

import (
	"cmp"
	"hobrak/internal/core/keeping"
	"math"
	"slices"

	"hobrak/internal/core/reach"
)

// Summary of how a shop works as its things live now.
type Summary struct {
	Walked  float64 // metres a week on foot between stations and homes, there and back to fetch and to put back
	Walking float64 // the seconds a week that takes
	Fill    float64 // mean share of their room that is taken, of the places that hold something
	InUse   int     // places that hold something
	Roomy   int     // of those, how many have the growth reserve left
}

// Sum up the shop.
func (e *Arrangement) Sum() (out Summary) {
	for i := range e.parcels {
		p := &e.parcels[i]
		if p.place == none {
			continue
		}
		u := &e.uses[p.item]
		stations := u.Stations()
		g := e.grip(p.item, p.n, p.place, p.spot)
		share := u.Rate * float64(p.n) / float64(u.Item.Number()) / float64(max(1, len(stations)))
		for _, st := range stations {
			if errand, ok := e.ways.Errand(u, p.place, g, keeping.Aside(&e.shop.Places[p.place], p.spot), st); ok && errand.AreaTime == 0 {
				out.Walked += 4 * errand.Distance / 1000 * share
				out.Walking += 4 * reach.WalkSeconds(e.ways.Body, errand.Distance) * share
			} else if ok {
				out.Walking += 4 * errand.AreaTime * share
			}
		}
	}
	for i := range e.shop.Places {
		if e.spaces[i].Used() <= 0 {
			continue
		}
		out.InUse++
		fill := e.Fill(i)
		out.Fill += fill
		if fill <= 1-e.shop.Settings.GrowthReserve+1e-9 {
			out.Roomy++
		}
	}
	if out.InUse > 0 {
		out.Fill /= float64(out.InUse)
	}
	return out
}

// Worth of a place for what lives in it.
type Worth struct {
	Fill    float64 `json:"fill" doc:"share of its room that is taken"`
	Growth  float64 `json:"growth" doc:"share that is to be kept for growth"`
	Seconds float64 `json:"seconds" doc:"a week that would be lost if each thing in it, by itself, took the next best free spot"`
	Gains   []Gain  `json:"gains" nullable:"false" doc:"the things in it, what gains most first"`
}

// Gain of a thing by living where it does.
type Gain struct {
	Item    string  `json:"item"`
	Name    string  `json:"name"`
	Seconds float64 `json:"seconds" doc:"a week less than at the next best free spot; negative where that would be better"`
	Next    string  `json:"next" doc:"the place of that spot, empty when there is none"`
}

// WorthOf a place. The arrangement is left as it was.
func (e *Arrangement) WorthOf(id string) Worth {
	place := e.ways.PlaceNumber(id)
	out := Worth{Fill: e.Fill(place), Growth: e.shop.Settings.GrowthReserve, Gains: []Gain{}}
	seen := map[int]bool{}
	for i := range e.parcels {
		item := e.parcels[i].item
		if e.parcels[i].place != place || seen[item] {
			continue
		}
		seen[item] = true
		it := &e.shop.Items[item]
		n := it.Number()
		now := e.now(item)
		g := Gain{Item: it.ID, Name: it.Name, Seconds: e.homelessCost(item, n) - now}
		back := e.lift(item)
		least := math.Inf(1)
		for k := range e.fits[item] {
			o := &e.fits[item][k]
			if o.least >= least {
				break
			}
			if at := e.best(item, n, o); at.Found && o.place != place && at.Cost < least {
				least, g.Next, g.Seconds = at.Cost, e.shop.Places[o.place].ID, at.Cost-now
			}
		}
		back()
		out.Gains = append(out.Gains, g)
		out.Seconds += g.Seconds
	}
	slices.SortStableFunc(out.Gains, func(a, b Gain) int { return cmp.Compare(b.Seconds, a.Seconds) })
	return out
}

// Dearest are the things that would save most if each had the best spot of an empty shop, by id.
func (e *Arrangement) Dearest(many int) []string {
	type dear struct {
		id   string
		more float64
	}
	var all []dear
	for i := range e.parcels {
		if len(e.fits[e.parcels[i].item]) > 0 {
			all = append(all, dear{e.itemOf(i).ID, e.parcels[i].cost - e.cheapest(i)})
		}
	}
	slices.SortStableFunc(all, func(a, b dear) int { return cmp.Compare(b.more, a.more) })
	out := []string{}
	for _, d := range all[:min(many, len(all))] {
		out = append(out, d.id)
	}
	return out
}

// cheapest is what a parcel would cost at the best spot of an empty shop; what it costs now, where no place takes it.
func (e *Arrangement) cheapest(i int) float64 {
	q := &e.parcels[i]
	if len(e.fits[q.item]) == 0 {
		return q.cost
	}
	return e.fits[q.item][0].least * float64(q.n) / float64(e.shop.Items[q.item].Number())
}

// Cheapest is what an item costs in seconds a week at the best spot of an empty shop; false when no place takes it.
func (e *Problem) Cheapest(item int) (float64, bool) {
	if len(e.fits[item]) == 0 {
		return 0, false
	}
	return e.fits[item][0].least, true
}

// WouldGain are the items that could cost less in one of some places than where they live, and those without a home, by id.
func (e *Problem) WouldGain(places map[string]bool) []string {
	out := []string{}
	for i := range e.shop.Items {
		it := &e.shop.Items[i]
		if !it.Needs() {
			continue
		}
		now := e.now(i)
		if e.homed(i) < it.Number() || slices.ContainsFunc(e.fits[i], func(o option) bool { return o.least < now && places[e.shop.Places[o.place].ID] }) {
			out = append(out, it.ID)
		}
	}
	return out
}

// homed are the pieces of an item that have a home.
func (e *Problem) homed(item int) (n int) {
	it := &e.shop.Items[item]
	for _, h := range e.ways.Index.Homes(it.ID) {
		n += h.Number(it)
	}
	return n
}
