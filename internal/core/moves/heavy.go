package moves

import (
	"slices"

	"hobrak/internal/core/reach"
	"hobrak/internal/core/shop"
)

// tiring is what a step needs strength for, kg from which it does, as a share of what one person lifts (an estimate).
const tiring = .6

// heavyFirst puts what two carry, and what is heavy for one, to the beginning of an evening, with what has to be done for it and
// nothing else before: arms are fresh then. Steps that have something to do with each other keep their order, so each step stays
// lawful.
func (p *packer) heavyFirst(e *Evening) {
	steps := e.Steps
	before := make([][]int, len(steps)) // of each step all that keep their order with it, transitively
	for i := range steps {
		in := make([]bool, i)
		for k := i - 1; k >= 0; k-- {
			if !in[k] && !p.apart(&steps[k], &steps[i]) {
				in[k] = true
				for _, x := range before[k] {
					in[x] = true
				}
			}
		}
		for k := range in {
			if in[k] {
				before[i] = append(before[i], k)
			}
		}
	}
	done := make([]bool, len(steps))
	order := make([]int, 0, len(steps))
	put := func(i int) {
		if !done[i] {
			done[i], order = true, append(order, i)
		}
	}
	for {
		best, fewest := -1, 0
		for i := range steps {
			if done[i] || !p.heavy(&steps[i]) {
				continue
			}
			n := 0
			for _, k := range before[i] {
				if !done[k] {
					n++
				}
			}
			if best < 0 || n < fewest {
				best, fewest = i, n
			}
		}
		if best < 0 {
			break
		}
		for _, k := range before[best] {
			put(k)
		}
		put(best)
	}
	for i := range steps {
		put(i)
	}
	was, key := slices.Clone(steps), 0
	if p.plan.Opens != nil {
		key = p.plan.Opens.N
	}
	for i, k := range order {
		steps[i] = was[k]
		steps[i].N = was[0].N + i
		if key > 0 && was[k].N == key {
			p.plan.Opens.N = steps[i].N
		}
	}
}

// heavy tells whether a step carries something heavy.
func (p *packer) heavy(s *Step) bool {
	if s.Do != Carry {
		return false
	}
	it := p.w.ix.Item(s.Item)
	return s.People > 1 || it != nil && it.KG.KG()*float64(s.Count) > tiring*reach.OneLifts && s.Count <= 2
}

// apart tells whether two steps have nothing to do with each other: other things, from and to other storage.
func (p *packer) apart(a, b *Step) bool {
	if a.Do == Carry && a.Item == b.Item {
		return false
	}
	mine := p.touched(b)
	for _, x := range p.touched(a) {
		for _, y := range mine {
			if x == y {
				return false
			}
		}
	}
	return true
}

// touched is the storage, the spots for a while and the stations a step has to do with.
func (p *packer) touched(s *Step) (out []string) {
	add := func(place string) {
		for _, id := range [2]string{place, place + before} { // the same place in another shape
			out = append(out, id, p.w.root(id))
		}
	}
	for _, h := range []*shop.Home{s.From, s.To} {
		if h != nil {
			add(h.Place)
		}
	}
	for _, on := range []string{s.FromOn, s.On} {
		if on != "" {
			out = append(out, "on "+on)
		}
	}
	if s.Do == Carry {
		return out
	}
	out = append(out, s.What, "station "+s.What)
	add(s.What)
	for i := range p.w.nodes {
		if n := &p.w.nodes[i]; n.unit == s.What {
			for _, id := range n.places {
				add(id)
			}
		}
	}
	return out
}
