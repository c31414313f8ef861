package fit

import (
	"math"

	"hobrak/internal/core/hazard"
	"hobrak/internal/core/keeping"
	"hobrak/internal/core/pack"
	"hobrak/internal/core/shop"
)

// remember so many of the cheapest places of each parcel.
const remember = 32

// remembered is the best spot of a parcel in a place with a hash.
type remembered struct {
	hash   uint64
	spot   pack.Spot
	cost   float64
	toll   float64 // at the multipliers of the bound
	beyond float64 // where none is known, all cost at least so much
	ok     bool
	tolled bool
}

// choice is the best spot for a parcel in one place.
type choice struct {
	place int
	spot  pack.Spot
	cost  float64
	value float64
	ok    bool
}

// manner of finding homes again.
type manner struct {
	noise  float64 // how much ties and orders are shaken
	paying bool    // what a spot takes from others counts, at the multipliers of the bound
	first  int     // this one before all others, when it is one of them
	force  bool
	quick  bool // the best spot is all that is asked for
}

// choices looks the cheapest places through until the best and the second best
// are known for certain, and says what losing the best would cost; only the best where that is enough.
func (r *search) choices(i int, m manner) (best choice, regret float64) {
	p := &r.parcels[i]
	share := float64(p.n) / float64(r.shop.Items[p.item].Number())
	second := math.Inf(1)
	best.value = math.Inf(1)
	old, had := r.old[p.item]
	for k := range r.fits[p.item] {
		o := &r.fits[p.item][k]
		most := second
		if m.quick {
			most = best.value
		}
		if o.least*share >= most {
			break
		}
		if !r.minds(o.place) || r.torn(p.item, o.place) || r.only != none && r.only != r.kin.host[o.place] {
			continue
		}
		extra := r.liked(p.item, o.place) + r.company(p.item, o.place) + r.use(p.item, p.n, o.place)
		known := r.recall(i, k, most-extra)
		spot, cost, ok := known.spot, known.cost, known.ok
		// The home it has is a spot worth trying even where no corner is.
		if had && old.Place == r.shop.Places[o.place].ID {
			if c, same := r.again(i, o.place, &old); same && (!ok || c <= cost+r.o.Wishes.Moving/2) {
				spot, cost, ok = keeping.SpotOf(&r.shop.Places[o.place], &old), c, true
			}
		}
		if !ok {
			continue
		}
		v := cost + r.moved(p.item, o.place, spot) + extra
		if m.paying && r.relaxed != nil {
			if !known.tolled && ok {
				known.toll, known.tolled = r.relaxed.toll(p.item, p.n, o.place, known.spot), true
			}
			v += known.toll
		}
		if m.noise > 0 {
			v *= 1 + min(m.noise, .3)*r.rng.Float64()
		}
		if v < best.value {
			second, best = best.value, choice{o.place, spot, cost, v, true}
		} else if v < second {
			second = v
		}
	}
	if math.IsInf(second, 1) {
		second = r.nuisance[p.item] + r.homelessCost(p.item, p.n)
	}
	regret = second - best.value
	if m.noise > 0 {
		// Ties break differently each time, and with much noise the order is nearly random.
		regret *= 1 - min(m.noise, .95)*r.rng.Float64()
	}
	if m.force && m.first == i {
		regret = math.Inf(1)
	}
	return best, regret
}

// recall gives the best spot of a parcel in its k-th place, if it costs less than something, worked out anew when
// what is there has changed.
func (r *search) recall(i, k int, below float64) *remembered {
	p := &r.parcels[i]
	o := &r.fits[p.item][k]
	for len(r.memo) <= i {
		r.memo = append(r.memo, nil)
	}
	if r.memo[i] == nil {
		r.memo[i] = make([]remembered, min(remember, len(r.fits[p.item])))
	}
	m := &r.other
	if k < remember {
		m = &r.memo[i][k]
	}
	stamp := r.hash[o.place] ^ uint64(p.n)<<56 ^ 1 // never 0, which is an empty memory
	if k < remember && r.plain[o.place] && !hazard.Shuns(&r.shop.Items[p.item]) && (m.ok || m.beyond >= below) && (m.hash == stamp || r.holds(m, p, o.place)) {
		m.hash = stamp
		return m
	}
	t := r.kinds[o.place].Thing(&r.shop.Items[p.item], p.n)
	if r.refuses(o.place, t) {
		*m = remembered{hash: stamp, beyond: math.Inf(1)}
		return m
	}
	at := r.free(p.item, p.n, o, below)
	*m = remembered{hash: stamp, spot: at.Spot, cost: at.Cost, beyond: below, ok: at.Found}
	if at.None {
		m.beyond = math.Inf(1)
		r.refuse(o.place, t)
	}
	return m
}

// mostBefore is how many things put in one after the other a memory may outlast.
const mostBefore = 16

// holds tells whether what is remembered of a place is true although things were put in
// since: none of its spots became better or free by that, so that the best one is the
// best as long as it is free itself.
func (r *search) holds(m *remembered, p *parcel, place int) bool {
	if m.hash == 0 {
		return false
	}
	for _, h := range r.before[place] {
		if m.hash != h^uint64(p.n)<<56^1 {
			continue
		}
		if !m.ok {
			return true
		}
		if r.kinds[place].Form() == keeping.Piles { // where a pile becomes a better spot
			return false
		}
		over, _ := r.overloaded(p.item, p.n, place)
		return over == 0 && r.spaces[place].Allows(r.kinds[place].Thing(&r.shop.Items[p.item], p.n), m.spot) == nil
	}
	return false
}

// again tells whether the old home is free, and its cost.
func (r *search) again(i, place int, h *shop.Home) (float64, bool) {
	p := &r.parcels[i]
	if h.Number(&r.shop.Items[p.item]) != p.n {
		return 0, false
	}
	pl := &r.shop.Places[place]
	s := keeping.SpotOf(pl, h)
	if over, _ := r.overloaded(p.item, p.n, place); over > 0 || r.harmful(p.item, place) != "" || r.rules.Bars(&r.shop.Items[p.item], place) != "" || r.spaces[place].Allows(r.kinds[place].Thing(&r.shop.Items[p.item], p.n), s) != nil {
		return 0, false
	}
	c, why := r.spotCost(p.item, p.n, place, s, false)
	return c, why == ""
}
