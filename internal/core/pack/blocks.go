package pack

import (
	"math"
	"slices"
)

// JoinUp joins pieces that have a side alike to blocks, and blocks to larger ones, and lays
// what comes of it, again and again with other luck until stop says so. What was cut from one
// board or made as a set goes back together so, where an order of single pieces would have to
// be just right (block building, after Eley 2002). Which pair is joined goes by how little
// chance explains its sides being alike, by luck, and by what the best tries so far joined
// (ant colonies, after Dorigo and Gambardella 1997). Where these lead no further, they are
// forgotten.
func (f *Filling) JoinUp(stop func() bool) {
	if len(f.sides) > mostJoined {
		return
	}
	for j := newJoining(f); !stop(); {
		j.once(stop)
	}
}

const (
	// mostJoined pieces are joined up: beyond, too many are alike by chance to get far in time.
	mostJoined = 150

	elites   = 20  // tries that are learned from
	patience = 500 // tries without a better best one before those are forgotten
)

// block of pieces without a gap between them: a piece, or two blocks joined.
type joined struct {
	w, h  int32
	turn  bool // all in it may be turned
	value float64
	by    joint // how it was joined; of a piece a is its number
	piece bool
	alive bool
	id    uint64 // by the pieces in it, in whatever order they were joined
}

// joint is a way of joining two blocks: b to the right of a or above it.
type joint struct {
	a, b             int32
	w, h             int32
	beside           bool
	aTurned, bTurned bool
	luck, shared     float64 // what speaks for it by the side they have alike, and luck
	made             float64 // and by what they come to, should a side be as long
}

// sides of a joint that count: the one both have, and the one they come to.
func (c *joint) sides() (shared, made int32) {
	if c.beside {
		return c.h, c.w
	}
	return c.w, c.h
}

// joining is the room to work in.
type joining struct {
	f          *Filling
	list       []joined
	alive      int
	wide, high tally
	joints     []joint
	keys       []uint64 // of the pieces, at random
	elite      []attempt
	seen       map[uint64]int // in how many of these a block was made
	least      int            // blocks left by the best of them
	idle       int            // tries since
}

// attempt is a try by the blocks it made and how many were left in the end.
type attempt struct {
	left int
	made []uint64
}

// tally of how many sides of a length there are.
type tally struct {
	n      map[int32]int
	sorted []int32 // of the pieces and the rectangle
}

func newJoining(f *Filling) *joining {
	j := &joining{f: f, seen: map[uint64]int{}, least: len(f.sides)}
	for range f.sides {
		j.keys = append(j.keys, f.rng.Uint64())
	}
	for _, t := range []*tally{&j.wide, &j.high} {
		t.n = map[int32]int{}
	}
	for i := range f.sides {
		s := &f.sides[i]
		j.wide.sorted, j.high.sorted = append(j.wide.sorted, s.w), append(j.high.sorted, s.h)
		if s.turn {
			j.wide.sorted, j.high.sorted = append(j.wide.sorted, s.h), append(j.high.sorted, s.w)
		}
	}
	slices.Sort(j.wide.sorted)
	slices.Sort(j.high.sorted)
	return j
}

// rarity is the logarithm of how many millimetres there are for each side about as long: how
// little chance explains that one is exactly so long, when people measure to the millimetre.
func (t *tally) rarity(length int32) float64 {
	from, _ := slices.BinarySearch(t.sorted, length-length/5)
	to, _ := slices.BinarySearch(t.sorted, length+length/5)
	return math.Log(1 + .4*float64(length)/1000/float64(max(1, to-from)))
}

func (j *joining) count(b *joined, by int) {
	j.wide.n[b.w] += by
	j.high.n[b.h] += by
	if b.turn && b.w != b.h {
		j.wide.n[b.h] += by
		j.high.n[b.w] += by
	}
}

// once joins as long as something can be joined, and lays what there is now and then.
func (j *joining) once(stop func() bool) {
	f := j.f
	j.list, j.joints, j.alive = j.list[:0], j.joints[:0], 0
	clear(j.wide.n)
	clear(j.high.n)
	j.wide.n[f.w], j.high.n[f.h] = 1, 1
	for i := range f.sides {
		s := &f.sides[i]
		j.add(joined{w: s.w, h: s.h, turn: s.turn, value: f.worth[i], by: joint{a: int32(i)}, piece: true, id: j.keys[i]})
	}
	for !stop() {
		f.laid += 1 + len(j.joints)/8
		best := j.best()
		if best == nil {
			break
		}
		c := *best
		for _, k := range [2]int32{c.a, c.b} {
			j.list[k].alive = false
			j.alive--
			j.count(&j.list[k], -1)
		}
		j.joints = slices.DeleteFunc(j.joints, func(x joint) bool { return !j.list[x.a].alive || !j.list[x.b].alive })
		a, b := &j.list[c.a], &j.list[c.b]
		j.add(joined{w: c.w, h: c.h, turn: a.turn && b.turn, value: a.value + b.value, by: c, id: a.id ^ b.id})
		if j.alive%layEvery == 0 && 3*j.alive < 2*len(f.sides) {
			j.lay()
		}
	}
	j.lay()
	j.learn()
}

// learn from a try when it is as good as the worst of those learned from.
func (j *joining) learn() {
	if j.idle++; j.alive < j.least {
		j.least, j.idle = j.alive, 0
	}
	if j.idle > patience {
		j.elite, j.least, j.idle = j.elite[:0], len(j.list), 0
		clear(j.seen)
	}
	var t *attempt
	if len(j.elite) < elites {
		j.elite = append(j.elite, attempt{})
		t = &j.elite[len(j.elite)-1]
	} else {
		worst := 0
		for k := range j.elite {
			if j.elite[k].left >= j.elite[worst].left {
				worst = k
			}
		}
		if t = &j.elite[worst]; t.left < j.alive {
			return
		}
	}
	for _, id := range t.made {
		j.seen[id]--
	}
	t.made, t.left = t.made[:0], j.alive
	for k := range j.list {
		if b := &j.list[k]; !b.piece {
			t.made = append(t.made, b.id)
			j.seen[b.id]++
		}
	}
}

// layEvery is how many blocks fewer are laid again.
const layEvery = 8

// add a block, with the ways of joining it to those there are.
func (j *joining) add(b joined) {
	b.alive = true
	n := int32(len(j.list))
	j.list = append(j.list, b)
	j.alive++
	j.count(&b, 1)
	for k := range j.list[:n] {
		o := &j.list[k]
		if o.alive && (o.h == b.h || o.w == b.w || (o.turn || b.turn) && (o.h == b.w || o.w == b.h)) {
			j.ways(int32(k), n)
		}
	}
}

// ways of joining two blocks; turning one of them will do.
func (j *joining) ways(a, b int32) {
	x, y := &j.list[a], &j.list[b]
	try := func(aTurned, bTurned bool) {
		aw, ah, bw, bh := x.w, x.h, y.w, y.h
		if aTurned {
			aw, ah = ah, aw
		}
		if bTurned {
			bw, bh = bh, bw
		}
		if ah == bh {
			j.way(joint{a: a, b: b, w: aw + bw, h: ah, beside: true, aTurned: aTurned, bTurned: bTurned})
		}
		if aw == bw {
			j.way(joint{a: a, b: b, w: aw, h: ah + bh, aTurned: aTurned, bTurned: bTurned})
		}
	}
	try(false, false)
	if y.turn && y.w != y.h {
		try(false, true)
	} else if x.turn && x.w != x.h {
		try(true, false)
	}
}

func (j *joining) way(c joint) {
	if c.w > j.f.w || c.h > j.f.h {
		return
	}
	shared, made := &j.high, &j.wide
	if !c.beside {
		shared, made = made, shared
	}
	s, m := c.sides()
	// The largest of likelihoods with such luck is each as often as it is likely (Gumbel).
	c.luck = logOf(1+j.seen[j.list[c.a].id^j.list[c.b].id]) - math.Log(-math.Log(1-j.f.rng.Float64()))
	c.shared, c.made = shared.rarity(s), made.rarity(m)
	j.joints = append(j.joints, c)
}

// best is the joint that most speaks for.
func (j *joining) best() (best *joint) {
	most := math.Inf(-1)
	for k := range j.joints {
		c := &j.joints[k]
		shared, made := &j.high, &j.wide
		if !c.beside {
			shared, made = made, shared
		}
		s, m := c.sides()
		speaks := c.luck + c.shared - logOf(shared.n[s]-1)
		if n := made.n[m]; n > 0 {
			speaks += c.made - logOf(n)
		}
		if speaks > most {
			most, best = speaks, c
		}
	}
	return best
}

var logs = func() (l [64]float64) {
	for n := range l {
		l[n] = math.Log(float64(max(1, n)))
	}
	return l
}()

func logOf(n int) float64 { return logs[min(max(n, 0), len(logs)-1)] }

// lay the blocks there are as if each were a piece, and keep what comes of it when it is the
// best.
func (j *joining) lay() {
	f := j.f
	var all []sides
	var worth []float64
	var which []int32
	for k := range j.list {
		if b := &j.list[k]; b.alive {
			all = append(all, sides{b.w, b.h, b.turn && b.w != b.h})
			worth = append(worth, b.value)
			which = append(which, int32(k))
		}
	}
	g := filling(f.w, f.h, all, worth, f.rng)
	f.laid += g.laid
	if g.now.value <= f.best {
		return
	}
	f.best, f.kept = g.now.value, f.kept[:0]
	for k := range g.now.events {
		if e := &g.now.events[k]; e.piece >= 0 {
			j.unfold(which[e.piece], e.x, e.y, e.turned)
		}
	}
}

// unfold a block into the layout that is kept. Turned, it is seen in the mirror of its diagonal.
func (j *joining) unfold(k, x, y int32, turned bool) {
	b := &j.list[k]
	if b.piece {
		j.f.keepOne(&event{piece: b.by.a, x: x, y: y, turned: turned})
		return
	}
	first := &j.list[b.by.a]
	dx, dy := int32(0), int32(0)
	w, h := first.w, first.h
	if b.by.aTurned {
		w, h = h, w
	}
	if b.by.beside {
		dx = w
	} else {
		dy = h
	}
	if turned {
		dx, dy = dy, dx
	}
	j.unfold(b.by.a, x, y, b.by.aTurned != turned)
	j.unfold(b.by.b, x+dx, y+dy, b.by.bTurned != turned)
}
