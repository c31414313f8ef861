package fit

import (
	"cmp"
	"slices"

	"hobrak/internal/core/keeping"
	"hobrak/internal/core/length"
	"hobrak/internal/core/pack"
	"hobrak/internal/core/shop"
)

// Effort of packing a place anew, in pieces laid; some 0.3 µs each. Where things have
// nowhere else to go, packing is all that matters.
const (
	usualEffort = 1.2e5
	onlyEffort  = 1.5e7
	timedEffort = 1.5e8 // when the time given ends it before
)

// mostSqueezed places are packed anew, those first for which most waits.
const mostSqueezed = 8

// squeeze packs places anew that are too full for what has no home and could live
// there: all that is in them and all that waits, as tightly as can be, whatever the
// spots cost.
func (r *search) squeeze(open []int) {
	waiting := map[int][]int{} // by place
	for k, i := range open {
		if k%64 == 0 && r.o.Done() {
			return
		}
		if r.parcels[i].place != none {
			continue
		}
		for _, o := range r.fits[r.parcels[i].item] {
			waiting[o.place] = append(waiting[o.place], i)
		}
	}
	places := make([]int, 0, len(waiting))
	for p := range waiting {
		places = append(places, p)
	}
	slices.SortFunc(places, func(a, b int) int { return cmp.Or(cmp.Compare(len(waiting[b]), len(waiting[a])), a-b) })
	for _, p := range places[:min(len(places), mostSqueezed)] {
		if r.o.Done() {
			break
		}
		list := slices.DeleteFunc(waiting[p], func(i int) bool { return r.parcels[i].place != none })
		if len(list) > 0 {
			r.repack(p, list)
		}
	}
}

// repack one place with what is in it and what waits for it.
func (r *search) repack(place int, waiting []int) {
	pl := &r.shop.Places[place]
	plane, ok := r.spaces[place].(*pack.Plane)
	if !ok || plane.Single || len(railsOf(plane)) > 0 {
		return
	}
	list := slices.Concat(r.there[place], waiting)
	slices.Sort(list)
	gap, effort := length.Length(0), float64(usualEffort)
	for _, i := range list {
		p := &r.parcels[i]
		if p.fixed || p.n > 1 {
			return
		}
		gap = max(gap, r.shop.Items[p.item].KeptClear())
	}
	if slices.ContainsFunc(r.shop.Containers, func(c shop.Container) bool { return c.At.In == pl.ID }) {
		return
	}
	only := true
	pieces := make([]pack.Piece, 0, len(list))
	now, area := 0.0, 0.0
	for _, i := range list {
		p := &r.parcels[i]
		t := keeping.Thing(pl, &r.shop.Items[p.item], 1)
		v := r.nuisance[p.item] + r.homelessCost(p.item, 1)
		if p.place == place {
			now += v
			area += float64(t.W+gap) * float64(t.H+gap)
		}
		only = only && len(r.fits[p.item]) == 1
		pieces = append(pieces, pack.Piece{W: t.W + gap, H: t.H + gap, Turn: t.Turn, Value: v})
	}
	room := float64(plane.W+gap) * float64(plane.H+gap)
	if !slices.ContainsFunc(pieces, func(q pack.Piece) bool { return area+float64(q.W)*float64(q.H) <= room }) {
		return // not even the smallest of them has room beside what is there
	}
	if only {
		effort = onlyEffort
		if r.o.timed {
			effort = timedEffort
		}
	}
	f := pack.NewFilling(plane.W+gap, plane.H+gap, pieces, r.rng.Uint64())
	from := r.o.Spent()
	f.Fill(effort, func() float64 {
		switch {
		case r.o.Done():
			return 1
		case only:
			return (r.o.Spent() - from) / (r.o.searching() - from)
		}
		return 0
	})
	laid, value := f.Best()
	if value <= now+1e-9 {
		return
	}
	// Every spot must be in reach and bearable.
	was := make([]saved, 0, len(list))
	for _, i := range list {
		p := &r.parcels[i]
		was = append(was, r.savedOf(i))
		if p.place != none {
			r.take(i)
		}
	}
	for _, l := range laid {
		i := list[l.Piece]
		p := &r.parcels[i]
		s := pack.Spot{X: l.X, Y: l.Y, Turned: l.Turned, Cols: 1}
		c, why := r.spotCost(p.item, p.n, place, s, false)
		over, _ := r.overloaded(p.item, p.n, place)
		if why != "" || over > 0 || r.harmful(p.item, place) != "" || r.torn(p.item, place) {
			r.back(was)
			return
		}
		r.put(i, place, s, c)
	}
}
