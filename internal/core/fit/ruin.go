package fit

import (
	"math"
	"slices"

	"hobrak/internal/core/hold"
	"hobrak/internal/core/length"
	"hobrak/internal/core/pack"
	"hobrak/internal/core/shop"
)

// ruin picks the parcels to take out: some at random, those of one place, those of
// two, or one that would rather be elsewhere with those that are in its way. First
// is that one, -1 when there is none.
func (r *search) ruin(open []int) (out []int, first int) {
	size := 2 + r.rng.IntN(min(8, max(1, len(open)-1)))
	if r.rng.IntN(8) == 0 {
		size *= 2
	}
	chosen := map[int]bool{}
	add := func(i int) {
		if len(out) >= size+4 || chosen[i] || r.parcels[i].fixed {
			return
		}
		if p := r.parcels[i].place; p != none {
			if arms, ok := r.spaces[p].(*pack.Arms); ok && arms.Bears(i) {
				return
			}
		}
		chosen[i] = true
		out = append(out, i)
	}
	seed := open[r.rng.IntN(len(open))]
	first = -1
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
		for range 8 {
			i := open[r.rng.IntN(len(open))]
			p := &r.parcels[i]
			if len(r.fits[p.item]) == 0 {
				continue
			}
			share := float64(p.n) / float64(r.shop.Items[p.item].Number())
			if d := r.value(i) - r.fits[p.item][0].least*share; d > loss {
				loss, seed = d, i
			}
		}
		add(seed)
		first = seed
		if options := r.fits[r.parcels[seed].item]; len(options) > 0 {
			want := &options[r.rng.IntN(min(4, len(options)))]
			if r.rng.IntN(2) == 0 {
				r.inTheWay(seed, want, add)
				size = max(2, len(out)+r.rng.IntN(4)-4)
			}
			r.fromPlace(want.place, size-len(out), add)
			if kind == 4 && len(out) > 1 {
				// And what is where one of those would go.
				next := r.fits[r.parcels[out[1+r.rng.IntN(len(out)-1)]].item]
				size += 4
				if len(next) > 0 {
					r.fromPlace(next[r.rng.IntN(min(4, len(next)))].place, 4, add)
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
	return out, first
}

// inTheWay takes out what is in the way of a parcel in a place, where that costs
// least of a few spots.
func (r *search) inTheWay(i int, o *option, add func(int)) {
	space, ok := r.spaces[o.place].(pack.Crowded)
	if !ok || r.parcels[i].place == o.place {
		return
	}
	p := &r.parcels[i]
	pl, it := &r.shop.Places[o.place], &r.shop.Items[p.item]
	t := hold.Thing(pl, it, p.n)
	spots := space.Corners()
	r.rng.Shuffle(len(spots), func(a, b int) { spots[a], spots[b] = spots[b], spots[a] })
	var out []int
	least := math.Inf(1)
	for _, s := range spots[:min(6, len(spots))] {
		s.Cols, s.Turned = 1, t.Turn && r.rng.IntN(2) == 0
		if len(pl.Rows) > 0 && pl.Style == "cleat" { // at the rail it is nearest to
			s.Y = pl.Rows[r.rng.IntN(len(pl.Rows))] - t.H
		}
		s = within(pl, t, s)
		c, why := r.spotCost(p.item, p.n, o.place, s, false)
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

// within moves a spot so that one row of the thing ends inside the place.
func within(p *shop.Place, t pack.Thing, s pack.Spot) pack.Spot {
	w, h := t.W, t.H
	if s.Turned {
		w, h = h, w
	}
	n := length.Length(max(t.N, 1))
	switch p.Kind {
	case "wall-field", "drawer", "deck", "floor":
		h = n*h + (n-1)*t.Gap // one above the other
		high := p.H
		if p.Kind != "wall-field" {
			high = p.D
		}
		s.X, s.Y = max(0, min(s.X, p.W-w)), max(0, min(s.Y, high-h))
	case "shelf":
		s.X = max(0, min(s.X, p.W-n*w-(n-1)*t.Gap))
	}
	return s
}

func (r *search) fromPlace(place, size int, add func(int)) {
	if place == none {
		return
	}
	there := slices.Clone(r.there[place])
	r.rng.Shuffle(len(there), func(a, b int) { there[a], there[b] = there[b], there[a] })
	for _, i := range there[:max(0, min(size, len(there)))] {
		add(i)
	}
}
