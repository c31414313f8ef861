package fit

import "hobrak/internal/core/pack"

// saved is a parcel's home before it was taken out.
type saved struct {
	i     int
	place int
	spot  pack.Spot
	cost  float64
}

func (r *search) progress(it, total int, keep []saved) Progress {
	p := Progress{Iteration: it, Of: total, Bound: r.bound}
	for _, s := range keep {
		p.Objective += s.cost
		if s.place == none {
			p.Homeless++
		}
	}
	return p
}

// kept remembers the plan as it is as the best.
func (r *search) kept() {
	if r.keep == nil {
		r.keep, r.since = make([]saved, len(r.parcels)), r.since[:0]
		for i := range r.parcels {
			r.since = append(r.since, i)
		}
	}
	for _, i := range r.since {
		r.keep[i] = r.savedOf(i)
	}
	r.since = r.since[:0]
}

// restore puts parcels where they were kept.
func (r *search) restore(keep []saved) {
	var open []saved
	for _, s := range keep {
		if p := &r.parcels[s.i]; !p.fixed {
			open = append(open, s)
		}
	}
	r.back(open)
}

// back puts parcels where they were. Boards go in from the bottom of their piles.
func (r *search) back(was []saved) {
	for _, s := range was {
		if r.parcels[s.i].place != none {
			r.take(s.i)
		}
	}
	for _, s := range was {
		if s.place != none {
			r.put(s.i, s.place, s.spot, s.cost)
		}
	}
}

// savedOf is where a parcel is now.
func (e *Arrangement) savedOf(i int) saved {
	p := &e.parcels[i]
	return saved{i, p.place, p.spot, p.cost}
}
