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
	}
	if len(f.order) < many {
		until = through() + ahead
	}
	from, width := through(), narrowest
	ran := func() float64 { // the share of the effort a run took
		began := through()
		f.LookAhead(width, stop)
		return through() - began
	}
	took := ran()
	for ; through()-from < (until-from)/4 && !stop(); took = ran() {
		width = min(2*width, widest)
	}
	// Once more, as wide as what is left allows.
	for !stop() {
		width = min(widest, max(narrowest, int(float64(width)*(until-through())/max(took, 1e-9))))
		took = ran()
	}
	until = 1
	f.anneal(through, stop)
}

// Where the effort is much, joining up takes a share of it first, and where there are fewer
// than many pieces looking ahead takes only a share as well. Measured on what was cut without
// waste: annealing is better up to some 75 pieces.
const (
	many     = 75
	much     = 1e6
	joinedUp = .4
	ahead    = .15

	// Layouts kept side by side when looking ahead.
	narrowest, widest = 8, 10_000
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

// node is a layout begun.
type node struct {
	sky           []step
	left          []uint8
	n, done       int // how much that is, and how much lies there
	value         float64
	filled, waste float64 // area: of what lies there, and what stays empty below it
	laid          *link
	set           uint64  // by what lies there
	promise       float64 // what it comes to when the rest is laid as it fits best, where that is looked at
}

// link of the chain of what was laid so far, last first.
type link struct {
	event
	before *link
}

// choice is a piece that may go on with a layout.
type choice struct {
	score  float64 // less is better
	set    uint64
	of     int32 // the layout
	piece  int32
	fit    int8
	turned bool
}

// leaning is what a run of looking ahead goes by. It is drawn for each, as none is best for
// all.
type leaning struct {
	corner float64 // what a step of the skyline counts, in areas of a piece of middle size
	large  int     // how much it counts to have laid what is large: a power of its mean area
	over   float64 // how much more area than there is room for what is looked at takes
}

func (f *Filling) leaning() leaning {
	return leaning{.02 + .04*f.rng.Float64(), 4 + f.rng.IntN(6), .1 * f.rng.Float64()}
}

const (
	// rest is from how many pieces left on layouts are judged by laying all the rest; at most a
	// third of them.
	rest = 50

	// wider is how many times as many layouts as are kept are judged by that.
	wider = 8
)

// LookAhead lays piece after piece in as many layouts as the width says: all that can go into
// the next gap of each is judged by how little is wasted for what is filled, how smooth the
// skyline is, and whether it leaves what is small for later (a beam search guided by waste,
// after Libralesso and Fontan 2021); towards the end by what laying all the rest comes to (a
// pilot, after Duin and Voß 1999). It stops when stop says so.
func (f *Filling) LookAhead(width int, stop func() bool) {
	f.laid += len(f.order)
	order := slices.Clone(f.order)
	f.reorder(f.bySize)
	defer f.reorder(order)
	keys := make([]uint64, len(f.sides))
	for i := range keys {
		keys[i] = f.rng.Uint64()
	}
	lean := f.leaning()
	root := f.worthy(lean.over)
	outside := slices.Clone(f.whole)
	for k := range outside {
		outside[k] &^= root.left[k]
	}
	nodes := []*node{root}
	for len(nodes) > 0 {
		keep := width
		judged := nodes[0].n <= min(rest, len(f.sides)/3)
		if judged {
			keep *= wider
		}
		c := choices{most: keep, bar: math.Inf(1)}
		for k, b := range nodes {
			if stop() {
				return
			}
			f.goOn(b, int32(k), lean, keys, &c)
		}
		best := c.best()
		next := make([]*node, 0, len(best))
		f.laid += 2 * len(best)
		for k := range best {
			n := f.follow(nodes[best[k].of], &best[k])
			if next = append(next, n); judged {
				if stop() {
					return
				}
				f.pilot(n, outside)
			}
		}
		if judged {
			slices.SortStableFunc(next, func(a, b *node) int { return cmp.Compare(b.promise, a.promise) })
			next = next[:min(width, len(next))]
		}
		nodes = next
	}
}

// worthy gives a layout not begun, with what is left of it what is worth most for its area: as
// much as there is room for and a share more.
func (f *Filling) worthy(over float64) *node {
	n := &node{sky: []step{{0, 0, f.w}}, left: make([]uint8, len(f.whole))}
	out := f.light[len(f.light)-1].area - float64(f.w)*float64(f.h)*(1+over)
	for k, i := range f.byWorth {
		if f.light[k].area > out {
			n.left[f.pos[i]/block] |= 1 << (f.pos[i] % block)
			n.n++
		}
	}
	return n
}

// reorder takes another order of the pieces.
func (f *Filling) reorder(order []int32) {
	copy(f.order, order)
	f.placed(0, len(f.order)-1)
}

// choices are the best of all that layouts may go on with, one for the same pieces.
type choices struct {
	most int
	list []choice
	bar  float64 // what is no better than that is not among them
}

func (c *choices) add(k choice) {
	if k.score >= c.bar {
		return
	}
	if c.list = append(c.list, k); len(c.list) >= 8*c.most+64 {
		if c.best(); len(c.list) == c.most {
			c.bar = c.list[c.most-1].score
		}
	}
}

// best leaves and gives the best ones, best first.
func (c *choices) best() []choice {
	slices.SortFunc(c.list, func(a, b choice) int {
		switch {
		case a.score < b.score:
			return -1
		case a.score > b.score:
			return 1
		case a.of != b.of:
			return int(a.of - b.of)
		case a.piece != b.piece:
			return int(a.piece - b.piece)
		case a.turned == b.turned:
			return 0
		case b.turned:
			return -1
		}
		return 1
	})
	seen, n := make(map[uint64]bool, min(len(c.list), c.most)), 0
	for _, k := range c.list {
		if n < c.most && !seen[k.set] {
			seen[k.set] = true
			c.list[n] = k
			n++
		}
	}
	c.list = c.list[:n]
	return c.list
}

// goOn adds all that may be laid into the next gap of a layout; gaps nothing fits into are
// filled up.
func (f *Filling) goOn(b *node, of int32, lean leaning, keys []uint64, c *choices) {
	f.laid++ // also when nothing is: an effort comes to its end
	f.keepBetter(b.value, b.laid, nil)
	least := int32(math.MaxInt32)
	f.eachLeft(b, func(w way) { least = min(least, w.w) })
	f.sky = b.sky
	for some := false; !some; b.sky = f.sky {
		low := f.lowestStep()
		s := f.sky[low]
		if s.y >= f.h {
			return
		}
		g := f.gapAt(low)
		if g.w >= least {
			f.eachLeft(b, func(w way) {
				fit := fitness(w.w, w.h, &g)
				if fit < 0 {
					return
				}
				some = true
				e := laying(w, fit, g, s, low)
				c.add(choice{f.score(b, &e, w, least, lean), b.set ^ keys[w.piece], of, w.piece, fit, w.turned})
			})
			f.laid += 2 + b.n/8
		}
		if !some {
			b.waste += float64(g.w) * float64(min(g.left, g.right))
			f.raise(low)
		}
	}
}

// eachLeft way of laying what is left.
func (f *Filling) eachLeft(b *node, do func(w way)) {
	for k, there := range b.left {
		for ; there != 0; there &= there - 1 {
			i := f.order[k*block+bits.TrailingZeros8(there)]
			p := &f.sides[i]
			do(way{p.w, p.h, i, false})
			if p.turn {
				do(way{p.h, p.w, i, true})
			}
		}
	}
}

// score of going on with a layout so, when nothing left is narrower than least.
func (f *Filling) score(b *node, e *event, w way, least int32, lean leaning) float64 {
	g := &e.gap
	beside := g.left // the wall the piece lies at
	other := g.right
	if e.x > f.sky[e.low].x {
		beside, other = other, beside
	}
	steps := len(f.sky)
	waste := b.waste
	switch beyond := g.w - w.w; {
	case beyond > 0:
		if w.h != beside {
			steps++
		}
		if beyond < least {
			waste += float64(beyond) * float64(min(w.h, other))
		}
	default:
		if w.h == g.left {
			steps--
		}
		if w.h == g.right {
			steps--
		}
	}
	filled := b.filled + float64(w.w)*float64(w.h)
	// How much smaller than in the middle of all what lies there is.
	small := f.mean * float64(b.done+1) / filled
	score := (waste + lean.corner*float64(steps)*f.mean) / filled
	for range lean.large {
		score *= small
	}
	return score
}

// follow a layout with a piece in its next gap.
func (f *Filling) follow(b *node, k *choice) *node {
	p := &f.sides[k.piece]
	w, h := p.w, p.h
	if k.turned {
		w, h = h, w
	}
	f.sky = append(make([]step, 0, len(b.sky)+2), b.sky...)
	low := f.lowestStep()
	s := f.sky[low]
	e := laying(way{w, h, k.piece, k.turned}, k.fit, f.gapAt(low), s, low)
	n := &node{
		left: slices.Clone(b.left), n: b.n - 1, done: b.done + 1,
		value: b.value + f.worth[e.piece], filled: b.filled + float64(w)*float64(h), waste: b.waste,
		laid: &link{e, b.laid}, set: k.set,
	}
	at := f.pos[e.piece]
	n.left[at/block] &^= 1 << (at % block)
	f.cover(low, e.x, w, e.y+h)
	n.sky = f.sky
	return n
}

// pilot sees what a layout comes to when the rest is laid as it fits best, largest first.
func (f *Filling) pilot(n *node, outside []uint8) {
	c := f.try
	c.events, c.marks, c.skies = c.events[:0], c.marks[:0], c.skies[:0]
	c.value, c.empty = n.value, 0
	f.sky = slices.Clone(n.sky)
	f.n = 0
	for k := range f.left {
		f.left[k] = n.left[k] | outside[k]
		f.n += bits.OnesCount8(f.left[k])
	}
	f.lay(c, math.Inf(1))
	n.promise = c.value
	f.keepBetter(c.value, n.laid, c.events)
}

// keepBetter keeps a layout, begun and what was laid after that, if it comes to more than the best.
func (f *Filling) keepBetter(value float64, begun *link, events []event) {
	if value <= f.best {
		return
	}
	f.keep(value, events)
	for l := begun; l != nil; l = l.before {
		f.keepOne(&l.event)
	}
}
