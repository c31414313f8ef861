package fit

import (
	"cmp"
	"slices"

	"hobrak/internal/core/keeping"
	"hobrak/internal/core/shop"
)

// Swap of the homes of two things, or the move of one thing to a free spot. Costs are
// seconds a week of weekly handling.
type Swap struct {
	Items  []string
	Homes  []shop.Home // of the same, after
	Before float64
	After  float64
}

// Saves is what the swap is worth, in seconds a week.
func (s *Swap) Saves() float64 { return s.Before - s.After }

const (
	// worthIt is what a swap must save to be told, in seconds a week (estimate).
	worthIt = 2.0
	// mostTried swaps are tried, the most promising ones.
	mostTried = 600
)

// promise is a swap that may save so much at best: j is none when i moves alone.
type promise struct {
	i, j   int
	to     *option // for i
	other  *option // for j
	saving float64
}

// Swaps lists up to n swaps and moves that save most as the shop stands, each by itself
// keeping every rule and none against a wish; no thing is in two of them. Once one is done
// the others may come to something else, as they may want the same room. Only things with
// one home count, and locked homes stay. The arrangement is left as it was.
func (e *Arrangement) Swaps(n int) []Swap {
	var found []Swap
	for _, p := range e.promises() {
		if s, ok := e.trySwap(&p); ok {
			found = append(found, s)
		}
	}
	slices.SortStableFunc(found, func(a, b Swap) int { return cmp.Compare(b.Saves(), a.Saves()) })
	var out []Swap
	taken := map[string]bool{}
	for _, s := range found {
		if len(out) == n {
			break
		}
		if slices.ContainsFunc(s.Items, func(id string) bool { return taken[id] }) {
			continue
		}
		for _, id := range s.Items {
			taken[id] = true
		}
		out = append(out, s)
	}
	return out
}

// promises are the swaps that may save something if both get the best spots of each
// other's place, the most promising first.
func (e *Arrangement) promises() (out []promise) {
	homes := map[int]int{}
	for i := range e.parcels {
		homes[e.parcels[i].item]++
	}
	var free []int
	ways := map[[2]int]*option{} // by item and place
	for i := range e.parcels {
		p := &e.parcels[i]
		if p.fixed || p.place == none || homes[p.item] > 1 || p.n != e.shop.Items[p.item].Number() || e.bears(i) {
			continue
		}
		free = append(free, i)
		for k := range e.fits[p.item] {
			o := &e.fits[p.item][k]
			ways[[2]int{p.item, o.place}] = o
			if saving := p.cost - o.least; o.place != p.place && saving > worthIt {
				out = append(out, promise{i, none, o, nil, saving})
			}
		}
	}
	for a, i := range free {
		p := &e.parcels[i]
		for _, j := range free[a+1:] {
			q := &e.parcels[j]
			if p.place == q.place {
				continue
			}
			to, other := ways[[2]int{p.item, q.place}], ways[[2]int{q.item, p.place}]
			if to == nil || other == nil {
				continue
			}
			if saving := p.cost + q.cost - to.least - other.least; saving > worthIt {
				out = append(out, promise{i, j, to, other, saving})
			}
		}
	}
	slices.SortStableFunc(out, func(a, b promise) int { return cmp.Compare(b.saving, a.saving) })
	return out[:min(len(out), mostTried)]
}

// trySwap puts the things where they would go, and back again.
func (e *Arrangement) trySwap(p *promise) (Swap, bool) {
	moved := []saved{e.savedOf(p.i)}
	to := []*option{p.to}
	if p.j != none {
		moved, to = append(moved, e.savedOf(p.j)), append(to, p.other)
	}
	for _, s := range moved {
		e.take(s.i)
	}
	out, ok := Swap{}, true
	put := 0
	wishes := WishesOf(e.shop)
	for k, s := range moved {
		q := &e.parcels[s.i]
		at := e.best(q.item, q.n, to[k])
		if ok = at.Found && e.againstAll(q.item, to[k].place, &wishes) <= e.againstAll(q.item, s.place, &wishes); !ok {
			break
		}
		e.put(s.i, to[k].place, at.Spot, at.Cost)
		put++
		out.Items = append(out.Items, e.shop.Items[q.item].ID)
		out.Homes = append(out.Homes, keeping.Home(&e.shop.Items[q.item], &e.shop.Places[to[k].place], q.n, at.Spot))
		out.Before += s.cost
		out.After += at.Cost
	}
	for _, s := range moved[:put] {
		e.take(s.i)
	}
	for _, s := range moved {
		e.put(s.i, s.place, s.spot, s.cost)
	}
	return out, ok && out.Saves() > worthIt
}
