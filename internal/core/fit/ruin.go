package fit

import (
	"cmp"
	"math"
	"slices"

	"hobrak/internal/core/keeping"
	"hobrak/internal/core/pack"
)

// ruin picks the parcels to take out: some at random, those of one place, those of
// two, or one that would rather be elsewhere with those that are in its way. First
// is that one, -1 when there is none; host the case a family goes to as a whole, none
// when it is about no family.
func (r *search) ruin(open []int) (out []int, first, host int) {
	host = none
	size := 2 + r.rng.IntN(min(8, max(1, len(open)-1)))
	if r.rng.IntN(8) == 0 {
		size *= 2
	}
	chosen := map[int]bool{}
	add := func(i int) {
		if len(out) >= size+4 || chosen[i] || r.parcels[i].fixed || r.stays(i) {
			return
		}
		if r.parcels[i].place != none && r.bears(i) {
			return
		}
		chosen[i] = true
		out = append(out, i)
	}
	seed := open[r.rng.IntN(len(open))]
	first = -1
	if r.mine == nil && len(r.kin.must) > 0 && r.rng.IntN(12) == 0 {
		return r.ruinFamily(open)
	}
	switch kind := r.rng.IntN(5); kind {
	case 0:
		for range size {
			add(open[r.rng.IntN(len(open))])
		}
	case 1:
		r.fromPlace(r.parcels[seed].place, size, add)
		add(seed)
	default:
		// The one of a few that loses most against its best place, and what is there.
		loss := -1.0
		for range r.drawn(len(open)) {
			i := open[r.rng.IntN(len(open))]
			p := &r.parcels[i]
			if len(r.fits[p.item]) == 0 {
				continue
			}
			if d := r.excess(i) / r.tiring(i); d > loss {
				loss, seed = d, i
			}
		}
		add(seed)
		first = seed
		if want := r.wanted(seed, r.excess(seed)); want != none && r.minds(want) {
			if r.rng.IntN(2) == 0 {
				r.inTheWay(seed, want, add)
				size = max(2, len(out)+r.rng.IntN(4)-4)
			}
			r.fromPlace(want, size-len(out), add)
			if kind == 4 && len(out) > 1 {
				// And what is where one of those would go.
				next := out[1+r.rng.IntN(len(out)-1)]
				if want := r.wanted(next, math.Inf(1)); want != none {
					r.fromPlace(want, 4, add)
				}
			}
		}
	}
	// Whatever has no home tries again every time.
	for _, i := range open {
		if r.parcels[i].place == none && r.rng.IntN(3) == 0 {
			add(i)
		}
	}
	return out, first, host
}

// drawn is how many things are drawn of which the one that loses most is taken out. In a large shop chance finds it less often, and more
// are drawn; what was tried in vain counts less there.
func (r *search) drawn(open int) int {
	if open < leastHalved {
		return 8
	}
	return 30
}

// tiring divides what a parcel loses by how often it was tried in vain.
func (r *search) tiring(i int) float64 {
	if i >= len(r.tired) || len(r.parcels) < leastHalved {
		return 1
	}
	return 1 + float64(r.tired[i])
}

// tire notes whether a try with a parcel as the first one gained something.
func (r *search) tire(i int, gained bool) {
	for len(r.tired) <= i {
		r.tired = append(r.tired, 0)
	}
	r.tired[i]++
	if gained {
		r.tired[i] = 0
	}
}

// inTheWay takes out what is in the way of a parcel in a place, where that costs
// least of a few spots.
func (r *search) inTheWay(i, place int, add func(int)) {
	space, ok := r.spaces[place].(pack.Crowded)
	if !ok || r.parcels[i].place == place {
		return
	}
	p := &r.parcels[i]
	pl, it := &r.shop.Places[place], &r.shop.Items[p.item]
	t := keeping.Thing(pl, it, p.n)
	spots := space.Corners()
	r.rng.Shuffle(len(spots), func(a, b int) { spots[a], spots[b] = spots[b], spots[a] })
	var out []int
	least := math.Inf(1)
	for _, s := range spots[:min(6, len(spots))] {
		s.Cols, s.Turned = 1, t.Turn && r.rng.IntN(2) == 0
		if rails := railsOf(r.spaces[place]); len(rails) > 0 { // at one of them
			s.Y = rails[r.rng.IntN(len(rails))] - t.H
		}
		s = r.kinds[place].Into(pl, t, s)
		c, why := r.spotCost(p.item, p.n, place, s, false)
		if why != "" {
			continue
		}
		ids := space.Clashes(t, s)
		for _, id := range ids {
			if id < 0 || r.parcels[id].fixed {
				c = math.Inf(1)
				break
			}
			// What it costs here is what it may lose elsewhere, for want of better.
			c += r.parcels[id].cost * .2
		}
		if c < least {
			least, out = c, ids
		}
	}
	for _, id := range out {
		add(id)
	}
}

func (r *search) fromPlace(place, size int, add func(int)) {
	if place == none {
		return
	}
	there := slices.Clone(r.there[place])
	if len(there) == 0 {
		return
	}
	if r.rng.IntN(3) > 0 {
		// Those round one of them: together they leave room for something else.
		at := r.parcels[there[r.rng.IntN(len(there))]].spot
		far := func(i int) float64 {
			s := r.parcels[i].spot
			return math.Abs(float64(s.X-at.X)) + math.Abs(float64(s.Y-at.Y)) + 1e4*math.Abs(float64(s.Slot-at.Slot))
		}
		slices.SortFunc(there, func(a, b int) int { return cmp.Or(cmp.Compare(far(a), far(b)), a-b) })
	} else {
		r.rng.Shuffle(len(there), func(a, b int) { there[a], there[b] = there[b], there[a] })
	}
	for _, i := range there[:max(0, min(size, len(there)))] {
		add(i)
	}
}
