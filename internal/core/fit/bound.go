package fit

import (
	"math"

	"hobrak/internal/core/hold"
)

// bound is a proven lower bound of the weekly handling of any plan for these
// places: the Lagrangian relaxation of the rule that what a place holds needs
// no more room than it has. For multipliers λ ≥ 0,
//
//	L(λ) = Σ items min(homeless, min over places (cost + λ·takes)) − Σ places λ·room
//
// never exceeds the cost of a plan (Fisher 1981). Room and takes are bare areas,
// lengths, slots or volumes as pack counts them, so every packing obeys the
// relaxed rule. The best of some subgradient steps is returned.
func (e *Engine) bound() float64 {
	places := len(e.shop.Places)
	room := make([]float64, places)
	for p := range e.shop.Places {
		room[p] = e.spaces[p].Room()
	}
	type term struct {
		place int
		cost  float64
		takes float64 // share of the place's room
	}
	var terms [][]term
	var alone []float64
	for i := range e.shop.Items {
		it := &e.shop.Items[i]
		if !it.Needs() {
			continue
		}
		var ts []term
		for _, o := range e.fits[i] {
			takes := 0.0
			if room[o.place] > 0 {
				// The smaller of a piece's ways to lie: two faces of a thing may be turned to a bin.
				takes = e.spaces[o.place].Takes(hold.Thing(&e.shop.Places[o.place], it, it.Number())) / room[o.place]
			}
			ts = append(ts, term{o.place, o.least, takes})
		}
		terms = append(terms, ts)
		alone = append(alone, e.homelessCost(i, it.Number()))
	}
	lambda := make([]float64, places)
	use := make([]float64, places)
	best, step, stall := 0.0, 2.0, 0
	for range 300 {
		sum := 0.0
		clear(use)
		for i, ts := range terms {
			least, at := alone[i], -1
			for k := range ts {
				if ts[k].cost >= least && lambda[ts[k].place] >= 0 {
					break // cheapest first, and multipliers only add
				}
				if c := ts[k].cost + lambda[ts[k].place]*ts[k].takes; c < least {
					least, at = c, k
				}
			}
			sum += least
			if at >= 0 {
				use[ts[at].place] += ts[at].takes
			}
		}
		norm := 0.0
		for p := range lambda {
			sum -= lambda[p]
			g := use[p] - 1
			if g > 0 || lambda[p] > 0 {
				norm += g * g
			}
		}
		if sum > best+1e-9 {
			best, stall = sum, 0
		} else if stall++; stall >= 10 {
			step, stall = step/2, 0
		}
		if norm == 0 || step < 1e-4 {
			break
		}
		// Polyak's step towards a target a little above the best bound so far.
		length := step * (1.02*math.Abs(best) + 1 - sum) / norm
		for p := range lambda {
			lambda[p] = max(0, lambda[p]+length*(use[p]-1))
		}
	}
	return best
}
