package fit

import (
	"cmp"
	"slices"

	"hobrak/internal/core/keeping"
	"hobrak/internal/core/shop"
)

// Wishes are prices in seconds a week: what it may cost to have it otherwise.
type Wishes struct {
	Together float64 // a family in one more place or case than one
	Dust     float64 // a thing that gathers dust where dust gets at it
	Power    float64 // what charges where no outlet is near
	Show     float64 // a liked thing hidden behind a door or in a drawer
	Moving   float64 // a thing that gets another home than it has
	Reserve  float64 // a tenth of a place filled that was to be kept for growth
	Wall     float64 // a square metre of wall whose storage is needed
	Order    float64 // a thing of a series that does not stand beside the next of it
}

func (w Wishes) sum() float64 {
	return w.Together + w.Dust + w.Power + w.Show + w.Moving + w.Reserve + w.Wall + w.Order
}

// UsualWishes are the prices when none are said, own estimates.
func UsualWishes() Wishes {
	return Wishes{Together: .3, Dust: 10, Power: 6, Show: 3, Moving: .05, Reserve: .1, Order: .2}
}

// WishesOf a shop are the usual prices as its aims weigh them: who aims at less handling pays less for what it is weighed against, who aims at
// walls that are not full pays more for filling them. An aim that was judged weighs nothing. A weight of 1 doubles or halves (estimates).
func WishesOf(s *shop.Shop) Wishes {
	w := UsualWishes()
	for i := range s.Settings.Aims {
		a := &s.Settings.Aims[i]
		if a.State != "" {
			continue
		}
		k := 1 + cmp.Or(a.Weight, 1)
		switch a.What {
		case "handling":
			w.Together, w.Show, w.Reserve, w.Order = w.Together/k, w.Show/k, w.Reserve/k, w.Order/k
		case "full-walls":
			w.Reserve, w.Wall = w.Reserve*k, w.Wall+.5*(k-1)
		case "in-order":
			w.Together, w.Order = w.Together*k, w.Order*k
		}
	}
	return w
}

// care is what a place pays for how it is used: for the room that was to be kept for
// growth, and, with all others in the same case, for the wall it takes.
type care struct {
	used, room float64
	reserve    float64 // price of filling a tenth of its room more than is to be filled
	filled     float64 // share of its room that may be filled
	parcels    int     // in the case, counted at its first place
	wall       float64 // price of the wall the case takes, at its first place
}

// grows is what it pays for being filled to some room.
func (c *care) grows(used float64) float64 {
	if c.room <= 0 || c.reserve <= 0 {
		return 0
	}
	return c.reserve * 10 * max(0, used/c.room-c.filled)
}

// clear forgets what was there; an empty place pays nothing.
func (c *care) clear() { c.used, c.parcels = 0, 0 }

// cares are the prices of using each place, of all of them empty.
func (e *Problem) cares(w *Wishes) []care {
	out := make([]care, len(e.shop.Places))
	reserve := e.shop.Settings.GrowthReserve
	for i := range e.shop.Places {
		p := &e.shop.Places[i]
		c := &out[i]
		if reserve > 0 && e.kinds[i].Ample() {
			c.reserve, c.filled, c.room = w.Reserve, 1-reserve, e.emptySpace(i).Room()
		}
		if e.kin.host[i] != i || w.Wall <= 0 {
			continue
		}
		at, width, height := &p.At, p.W, p.H
		if chain, ground := e.ways.Index.Chain(&p.At); len(chain) > 0 {
			outer := chain[len(chain)-1]
			at, width, height = ground, outer.W, outer.H
		}
		if at.Wall != "" {
			c.wall = w.Wall * width.MM() * height.MM() / 1e6
		}
	}
	return out
}

// keepUp counts a parcel in or out of a place.
func (r *search) keepUp(item, n, place, by int) {
	c, host := &r.care[place], &r.care[r.kin.host[place]]
	if c.reserve > 0 {
		r.upkeep -= c.grows(c.used)
		c.used += float64(by) * r.spaces[place].Takes(r.kinds[place].Thing(&r.shop.Items[item], n))
		r.upkeep += c.grows(c.used)
	}
	if host.wall > 0 {
		was := host.parcels
		host.parcels += by
		switch {
		case was == 0 && by > 0:
			r.upkeep += host.wall
		case host.parcels == 0:
			r.upkeep -= host.wall
		}
	}
}

// use is what n pieces more would make a place pay for being used.
func (r *search) use(item, n, place int) (price float64) {
	c, host := &r.care[place], &r.care[r.kin.host[place]]
	if c.reserve > 0 {
		more := r.spaces[place].Takes(r.kinds[place].Thing(&r.shop.Items[item], n))
		price = c.grows(c.used+more) - c.grows(c.used)
	}
	if host.wall > 0 && host.parcels == 0 {
		price += host.wall
	}
	return price
}

// company is what an item pays for going where none of its family is, when some
// are elsewhere.
func (r *search) company(item, place int) float64 {
	k := r.kin.of[item]
	if k == none || r.o.Wishes.Together <= 0 || len(r.cases[k]) == 0 || r.cases[k][r.kin.host[place]] > 0 {
		return 0
	}
	return r.o.Wishes.Together
}

// apart is what the families of some parcels pay for living in more than one case.
func (r *search) apart(list []int) (sum float64) {
	if r.o.Wishes.Together <= 0 {
		return 0
	}
	var seen []int
	for _, i := range list {
		if k := r.kin.of[r.parcels[i].item]; k != none && !slices.Contains(seen, k) {
			seen = append(seen, k)
			sum += r.o.Wishes.Together * float64(max(0, len(r.cases[k])-1))
		}
	}
	return sum
}

// liked is what an item pays for a place that is against a wish.
func (r *search) liked(item, place int) float64 {
	return r.Arrangement.againstAll(item, place, r.o.Wishes)
}

// against says which wishes a place is against for an item, and their prices.
func (e *Problem) against(item, place int, w *Wishes) (out Wishes) {
	it := &e.shop.Items[item]
	if len(it.Flags) == 0 {
		return out
	}
	if e.rules.Dusty(it, place) || e.rules.Weathered(it, place) {
		out.Dust = w.Dust
	}
	if e.rules.Unplugged(it, place) {
		out.Power = w.Power
	}
	if slices.Contains(it.Flags, "show") && e.ways.Front(place).Closed {
		out.Show = w.Show
	}
	return out
}

// againstAll is what a place pays for the wishes it is against for an item.
func (e *Problem) againstAll(item, place int, w *Wishes) float64 {
	a := e.against(item, place, w)
	return a.Dust + a.Power + a.Show
}

// paid adds up what the plan in the arrangement's parcels pays for each wish.
func (e *Arrangement) paid(o Options) Wishes {
	out := e.paidButOrder(&o)
	pairs, beside := e.InOrder()
	out.Order = o.Wishes.Order * float64(pairs-beside)
	return out
}

// paidButOrder adds up what is paid for all other wishes.
func (e *Arrangement) paidButOrder(o *Options) (out Wishes) {
	cares := e.cares(o.Wishes)
	for i := range e.parcels {
		p := &e.parcels[i]
		if p.place == none {
			continue
		}
		a := e.against(p.item, p.place, o.Wishes)
		out.Dust += a.Dust
		out.Power += a.Power
		out.Show += a.Show
		if homes := e.ways.Index.Homes(e.shop.Items[p.item].ID); len(homes) > 0 && !p.fixed {
			if h := homes[0]; h.Place != e.shop.Places[p.place].ID || keeping.SpotOf(&e.shop.Places[p.place], h) != p.spot {
				out.Moving += o.Wishes.Moving
			}
		}
		cares[p.place].used += e.spaces[p.place].Takes(e.kinds[p.place].Thing(&e.shop.Items[p.item], p.n))
		if host := &cares[e.kin.host[p.place]]; host.parcels == 0 {
			host.parcels++
			out.Wall += host.wall
		}
	}
	for i := range cares {
		out.Reserve += cares[i].grows(cares[i].used)
	}
	for _, t := range e.cases {
		out.Together += o.Wishes.Together * float64(max(0, len(t)-1))
	}
	return out
}
