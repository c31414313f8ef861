package pack

import (
	"cmp"
	"math"
	"math/bits"
	"slices"
)

// Fill searches until an effort is spent, counted in pieces laid (some 0.3 µs each), or
// until spent, asked now and then, has come to 1; it may be nil. It joins up first, then looks
// ahead, to the end where pieces are many; where they are few it goes on with improving their
// order, which may then put in all.
func (f *Filling) Fill(effort float64, spent func() float64) {
	if len(f.order) < 2 {
		return
	}
	start := f.laid
	through := func() float64 {
		gone := float64(f.laid-start) / effort
		if spent != nil {
			gone = max(gone, spent())
		}
		return gone
	}
	until := 1.0
	stop := func() bool { return f.Full() || through() >= until }
	if effort > much {
		until = joinedUp
		f.JoinUp(stop)
		until = 1
		if len(f.order) < many {
			until = joinedUp + ahead
		}
	}
	from, before := through(), f.laid
	for width := 1; through()-from < (until-from)/4 && !stop(); width = min(2*width, widest) {
		f.LookAhead(width, stop)
	}
	// Once more, as wide as what is left allows.
	for at, laid := through()-from, f.laid-before; !stop(); {
		rest := (until - through()) / at * float64(laid)
		f.LookAhead(int(min(widest, max(1, rest/f.cost(1)))), stop)
	}
	until = 1
	f.anneal(through, stop)
}

// Where the effort is much, joining up takes a share of it first, and where there are fewer
// than many pieces looking ahead takes only a share as well. Measured on what was cut without
// waste: annealing is better up to some 75 pieces, when it has time to cool down.
const (
	many     = 75
	much     = 1e6
	joinedUp = .4
	ahead    = .15
	widest   = 10_000
)

// coolings is how often annealing cools down in a whole effort and begins anew, warm, from
// where it is.
const coolings = 4

// anneal with what is left of the effort.
func (f *Filling) anneal(through func() float64, stop func() bool) {
	from := through()
	for !stop() {
		_, cooled := math.Modf(coolings * (through() - from) / (1 - from))
		f.Improve(max(1, 20_000/len(f.order)), 1-cooled)
	}
}

// node is a layout begun, looked at from its next gap.
type node struct {
	sky     []step
	left    []uint8
	n       int
	value   float64
	laid    *link
	promise float64 // what it comes to when the rest is laid as it fits best
}

// link of the chain of what was laid so far, last first.
type link struct {
	event
	before *link
}

// choices are what is tried in a gap: half of them what fits best, the others what luck
// takes.
const choices = 4

// cost of looking ahead with a width, in pieces laid: the rest is laid for each choice.
func (f *Filling) cost(width int) float64 {
	n := float64(len(f.order))
	return float64(width*choices) * n * n / 2
}

// LookAhead lays piece after piece in as many layouts as the width says: in each several
// choices for its next gap are tried by laying all the rest, largest first, and those that
// come to most are kept (a beam search with a pilot, after Duin and Voß 1999). It stops
// when stop says so.
func (f *Filling) LookAhead(width int, stop func() bool) {
	order := slices.Clone(f.order)
	f.reorder(f.bySize)
	defer f.reorder(order)
	nodes := []*node{{sky: []step{{0, 0, f.w}}, left: f.whole, n: len(f.order)}}
	for len(nodes) > 0 {
		var next []*node
		for _, b := range nodes {
			if stop() {
				return
			}
			next = f.branch(b, next)
		}
		slices.SortStableFunc(next, func(a, b *node) int { return cmp.Compare(b.promise, a.promise) })
		next = slices.CompactFunc(next, func(a, b *node) bool { return a.promise == b.promise && slices.Equal(a.left, b.left) })
		nodes = next[:min(width, len(next))]
	}
}

// reorder takes another order of the pieces.
func (f *Filling) reorder(order []int32) {
	copy(f.order, order)
	f.placed(0, len(f.order)-1)
}

// branch adds what a layout may be continued to.
func (f *Filling) branch(b *node, next []*node) []*node {
	f.laid++ // also when nothing is: an effort comes to its end
	f.sky = append(f.sky[:0], b.sky...)
	var fitting []event
	for {
		low := f.lowestStep()
		s := f.sky[low]
		if s.y >= f.h {
			return next
		}
		if fitting = f.fitting(b, f.gapAt(low), s, low); len(fitting) > 0 {
			break
		}
		f.raise(low)
	}
	// What fits best first, and the first of the order among what fits alike.
	slices.SortStableFunc(fitting, func(a, b event) int { return cmp.Compare(b.fit, a.fit) })
	sky := slices.Clone(f.sky)
	for k := range min(choices, len(fitting)) {
		if k >= choices/2 {
			other := k + f.rng.IntN(len(fitting)-k)
			fitting[k], fitting[other] = fitting[other], fitting[k]
		}
		next = append(next, f.follow(b, sky, &fitting[k]))
	}
	return next
}

// fitting gives all that may be laid into a gap.
func (f *Filling) fitting(b *node, g gap, s step, low int) (list []event) {
	for k, there := range b.left {
		for ; there != 0; there &= there - 1 {
			i := f.order[k*block+bits.TrailingZeros8(there)]
			p := &f.sides[i]
			if fit := fitness(p.w, p.h, &g); fit >= 0 {
				list = append(list, laying(way{p.w, p.h, i, false}, fit, g, s, low))
			}
			if !p.turn {
				continue
			}
			if fit := fitness(p.h, p.w, &g); fit >= 0 {
				list = append(list, laying(way{p.h, p.w, i, true}, fit, g, s, low))
			}
		}
	}
	return list
}

// follow a layout with a piece and see what it comes to.
func (f *Filling) follow(b *node, sky []step, e *event) *node {
	c := f.try
	c.events, c.marks, c.skies = c.events[:0], c.marks[:0], c.skies[:0]
	c.value, c.empty = b.value, 0
	f.sky = append(f.sky[:0], sky...)
	copy(f.left, b.left)
	f.n = b.n
	f.apply(c, e)
	n := &node{sky: slices.Clone(f.sky), left: slices.Clone(f.left), n: f.n, value: c.value, laid: &link{*e, b.laid}}
	f.lay(c, math.Inf(1))
	n.promise = c.value
	if c.value > f.best {
		f.best, f.kept = c.value, f.kept[:0]
		for l := n.laid; l != nil; l = l.before {
			f.keepOne(&l.event)
		}
		for k := range c.events {
			f.keepOne(&c.events[k])
		}
	}
	return n
}
