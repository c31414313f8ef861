package fit

import (
	"cmp"
	"math"
	"slices"
)

// guide tells a search where an item is best off at the multipliers of the bound: a plan
// that costs no more than the bound has everything at such a spot, so what a thing
// costs beyond it is where a plan can gain.
type guide struct {
	least float64 // seconds a week with what it takes from others, for all pieces
	wants []want  // the best few places, cheapest first
}

type want struct {
	place int
	least float64
}

// mostWants places of a thing are worth trying to make room in.
const mostWants = 4

// guides of all items, in their order; those it does not come to are empty.
func (p *relaxation) guides(done func() bool) []guide {
	out := make([]guide, len(p.e.shop.Items))
	workers := crew(len(p.things), 64)
	spread(workers, func(w int) {
		buf := make([]float64, room)
		for k := w; k < len(p.things) && !done(); k += workers {
			out[p.things[k].item] = p.guide(&p.things[k], buf)
		}
	})
	return out
}

// unbound guides, of a search without a bound: where each item would be best off if it were alone.
func (e *Problem) unbound() []guide {
	out := make([]guide, len(e.fits))
	for i, fits := range e.fits {
		for _, o := range fits[:min(len(fits), mostWants)] {
			out[i].wants = append(out[i].wants, want{o.place, o.least})
		}
		if len(fits) > 0 {
			out[i].least = fits[0].least
		}
	}
	return out
}

// guide of one thing.
func (p *relaxation) guide(t *relaxed, buf []float64) (g guide) {
	for w := range t.placings {
		only := relaxed{item: t.item, n: t.n, alone: math.Inf(1), beyond: math.Inf(1), placings: t.placings[w : w+1], last: make([]recent, min(t.n, mostAlike))}
		if c, _ := p.cheapest(&only, nil, buf); !math.IsInf(c, 1) {
			g.wants = append(g.wants, want{t.placings[w].place, c})
		}
	}
	slices.SortFunc(g.wants, func(a, b want) int { return cmp.Or(cmp.Compare(a.least, b.least), a.place-b.place) })
	if len(g.wants) > 0 {
		g.least = g.wants[0].least
	}
	g.wants = slices.Clone(g.wants[:min(len(g.wants), mostWants)])
	share := float64(p.e.shop.Items[t.item].Number()) / float64(t.n)
	g.least *= share
	for i := range g.wants {
		g.wants[i].least *= share
	}
	return g
}

// excess is what a parcel costs beyond its best at the multipliers of the bound.
func (r *search) excess(i int) float64 {
	p := &r.parcels[i]
	share := float64(p.n) / float64(r.shop.Items[p.item].Number())
	e := r.value(i) - r.guides[p.item].least*share
	if p.place != none && r.relaxed != nil {
		e += r.relaxed.toll(p.item, p.n, p.place, p.spot)
	}
	return e
}

// wanted picks a place a parcel would gain in, none when there is no such.
func (r *search) wanted(i int, excess float64) int {
	p := &r.parcels[i]
	g := &r.guides[p.item]
	share := float64(p.n) / float64(r.shop.Items[p.item].Number())
	n := 0
	for n < len(g.wants) && (g.wants[n].least-g.least)*share < excess {
		n++
	}
	if n == 0 {
		return none
	}
	return g.wants[r.rng.IntN(n)].place
}
