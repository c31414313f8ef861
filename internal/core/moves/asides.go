package moves

import (
	"cmp"
	"math/bits"
	"slices"
)

// exactly so many things that wait for each other are looked at in all ways; more of them by a rule of thumb.
const exactly = 10

// asides finds what has to be put aside for a while, as few things as there are, of those the quickest. What everything waits for in
// the end is known: pieces at their goal are in nobody's way, since the target is lawful as a whole. So a set of things put aside is
// enough when, with them in the hand, one thing after the other gets to its goal; and to leave one more in the hand never hurts.
func (w *work) asides() {
	t := w.trial()
	for again := true; again; { // lids from the top down
		again = false
		for i := range t.done {
			if w.nodes[i].lid && t.lift(i) {
				w.aside(i)
				again = true
			}
		}
	}
	t.grow()
	t.all()
	for t.n < len(w.nodes)-w.evacs() {
		var set []int
		if stuck := t.left(); len(stuck) > 0 {
			set = t.fewest(stuck)
		}
		if len(set) == 0 {
			places := map[string]bool{}
			for i := range t.done {
				if n := &w.nodes[i]; !t.done[i] && n.do == Carry && n.to != nil {
					places[n.to.Place] = true
				}
			}
			if w.evict(places) {
				t.grow()
				t.all()
				continue
			}
			break // what is left waits for something that cannot be done: said by the evenings
		}
		for _, i := range set {
			w.aside(i)
			t.lift(i)
		}
		t.grow()
		for _, i := range set {
			t.freed(i)
			t.again([]int{i})
		}
		t.run()
	}
	t.undo()
}

// evacs is how many nodes put something aside.
func (w *work) evacs() (n int) {
	for i := range w.nodes {
		if w.nodes[i].puts() {
			n++
		}
	}
	return n
}

// aside adds the node that puts something aside before it is carried on.
func (w *work) aside(i int) {
	n := &w.nodes[i]
	if n.evac >= 0 {
		return
	}
	e := newNode(Carry, n.name)
	e.item, e.n, e.from, e.of = n.item, n.n, n.from, i
	e.people, e.caution, e.minutes = n.people, n.caution, (begin+grasp)*w.o.Pace
	e.left = e.minutes
	it := &w.both.Items[n.item]
	e.gain = w.cost(0, it, w.heldHome(n.from), n.n) - w.cost(0, it, nil, n.n)
	w.nodes = append(w.nodes, e)
	k := len(w.nodes) - 1
	n = &w.nodes[i]
	n.evac = k
	n.after = append(n.after, k)
	n.gain -= w.nodes[k].gain
	// What waited for it to be out of a place waits for that alone.
	for j := range w.nodes {
		if x := &w.nodes[j]; x.do != Carry {
			for a := range x.after {
				if x.after[a] == i {
					x.after[a] = k
				}
			}
		}
	}
}

// trial does what can be done without regard to time, and takes it back.
type trial struct {
	w      *work
	done   []bool
	inHand []bool // put aside
	log    []func()
	// What may become possible when room is made at a place, or a node is done.
	at     map[string][]int // by what carries the place things want to go to
	waits  map[int][]int
	look   []int
	looked []bool
	n      int // done
}

func (w *work) trial() *trial {
	t := &trial{w: w}
	t.grow()
	return t
}

// grow takes nodes in that were added.
func (t *trial) grow() {
	t.at, t.waits = map[string][]int{}, map[int][]int{}
	for len(t.done) < len(t.w.nodes) {
		t.done, t.inHand, t.looked = append(t.done, false), append(t.inHand, false), append(t.looked, false)
	}
	for i := range t.w.nodes {
		n := &t.w.nodes[i]
		if n.puts() {
			continue
		}
		if n.do == Carry && n.to != nil {
			r := t.w.root(n.to.Place)
			t.at[r] = append(t.at[r], i)
		}
		for _, a := range n.after {
			t.waits[a] = append(t.waits[a], i)
		}
	}
}

// again has nodes looked at once more.
func (t *trial) again(list []int) {
	for _, i := range list {
		if !t.looked[i] && !t.done[i] {
			t.looked[i] = true
			t.look = append(t.look, i)
		}
	}
}

// freed has those looked at that want to go where something lay.
func (t *trial) freed(i int) {
	if n := &t.w.nodes[i]; n.from >= 0 {
		t.again(t.at[t.w.root(t.w.began[n.from])])
	}
	t.again(t.waits[i])
	if e := t.w.nodes[i].evac; e >= 0 {
		t.again(t.waits[e])
	}
}

// undo takes everything back, down to a mark.
func (t *trial) undoTo(mark int) {
	for len(t.log) > mark {
		f := t.log[len(t.log)-1]
		t.log = t.log[:len(t.log)-1]
		f()
	}
}

func (t *trial) undo() { t.undoTo(0) }

func (t *trial) isDone(i int) bool { return i < len(t.done) && t.done[i] }

// lift puts something in the hand.
func (t *trial) lift(i int) bool {
	n := &t.w.nodes[i]
	if n.from < 0 || t.inHand[i] || t.w.hands.Under(n.from) {
		return false
	}
	h := t.w.hands
	home := h.Held(n.from).Home
	k := h.Split(n.from, n.n)
	n.held, t.inHand[i] = k, true
	t.log = append(t.log, func() {
		if k == n.from {
			h.Back(k, &home)
		} else {
			h.Join(n.from, k)
		}
		n = &t.w.nodes[i]
		n.held, t.inHand[i] = -1, false
	})
	return true
}

// try does a node when it can be done.
func (t *trial) try(i int) bool {
	w := t.w
	n := &w.nodes[i]
	for _, a := range n.after {
		if !t.isDone(a) && !(w.nodes[a].puts() && t.inHand[w.nodes[a].of]) && !(n.do != Carry && w.nodes[a].do == Carry && t.inHand[a]) {
			return false
		}
	}
	if n.do == Carry && !n.puts() {
		held := t.inHand[i]
		if !held && n.from >= 0 && !t.lift(i) {
			return false
		}
		picked := false
		if n.from < 0 && n.held < 0 {
			n.held, picked = w.hands.Pick(n.item, n.n), true
		}
		if n.to != nil {
			k := n.held
			put, err := w.hands.Put(k, n.to)
			if err != nil {
				switch {
				case picked:
					n.held = -1
				case !held:
					t.undoTo(len(t.log) - 1)
				}
				return false
			}
			t.log = append(t.log, put)
		}
		if picked {
			t.log = append(t.log, func() { w.nodes[i].held = -1 })
		}
	}
	t.done[i] = true
	t.n++
	t.log = append(t.log, func() { t.done[i] = false; t.n-- })
	t.freed(i)
	return true
}

// run does what can be done, one after the other, until nothing more can: all that is looked at, and what that makes possible.
func (t *trial) run() {
	for len(t.look) > 0 {
		i := t.look[0]
		t.look = t.look[1:]
		t.looked[i] = false
		if !t.done[i] && !t.w.nodes[i].puts() {
			t.try(i)
		}
	}
}

// all is everything there is.
func (t *trial) all() {
	for i := range t.done {
		t.again([]int{i})
	}
	t.run()
}

// left are the things still to be carried that lie in a place.
func (t *trial) left() (out []int) {
	for i := range t.done {
		if n := &t.w.nodes[i]; !t.done[i] && n.do == Carry && !n.puts() && n.from >= 0 && !t.inHand[i] {
			out = append(out, i)
		}
	}
	return out
}

// unlocked is how many more nodes are done with things in the hand; what cannot be lifted counts as nothing.
func (t *trial) unlocked(set []int) int {
	mark, before := len(t.log), t.n
	for _, i := range set {
		if !t.lift(i) {
			t.undoTo(mark)
			t.look = t.look[:0]
			clear(t.looked)
			return -1
		}
		t.freed(i)
		t.again([]int{i})
	}
	t.run()
	n := t.n - before
	t.undoTo(mark)
	return n
}

// fewest things to lift so that all that can ever be done is done; of a large knot the one that unlocks most for its minutes.
func (t *trial) fewest(stuck []int) []int {
	can := slices.DeleteFunc(slices.Clone(stuck), func(i int) bool { return t.w.hands.Under(t.w.nodes[i].from) })
	if len(can) == 0 {
		return nil
	}
	all := t.unlocked(can)
	if all <= 0 {
		return nil
	}
	effort := func(set []int) (sum float64) {
		for _, i := range set {
			sum += t.w.nodes[i].minutes * float64(t.w.nodes[i].people)
		}
		return sum
	}
	if len(can) <= exactly {
		for size := 1; size < len(can); size++ {
			var best []int
			for bit := uint(0); bit < 1<<len(can); bit++ {
				if bits.OnesCount(bit) != size {
					continue
				}
				var set []int
				for k := range can {
					if bit>>k&1 == 1 {
						set = append(set, can[k])
					}
				}
				if (best == nil || effort(set) < effort(best)) && t.unlocked(set) == all {
					best = set
				}
			}
			if best != nil {
				return best
			}
		}
		return can
	}
	// Those that one alone helps most; where none helps, the one in the way of most goes.
	type gain struct {
		i int
		n float64
	}
	var best []gain
	for _, i := range t.knot(can) {
		best = append(best, gain{i, float64(t.unlocked([]int{i})) / max(.1, effort([]int{i}))})
	}
	slices.SortStableFunc(best, func(a, b gain) int { return cmp.Compare(b.n, a.n) })
	return []int{best[0].i}
}

// most candidates of a large knot that are tried.
const mostTried = 24

// knot are those of many that lie where others want to go, the most wanted places first.
func (t *trial) knot(can []int) []int {
	wanted := map[string]int{}
	for _, i := range can {
		if to := t.w.nodes[i].to; to != nil {
			wanted[to.Place]++
		}
	}
	here := make(map[int]int, len(can)) // how many want to go where each lies
	for _, i := range can {
		here[i] = wanted[t.w.hands.Held(t.w.nodes[i].from).Home.Place]
	}
	out := slices.Clone(can)
	slices.SortStableFunc(out, func(a, b int) int { return cmp.Compare(here[b], here[a]) })
	return out[:min(len(out), mostTried)]
}
