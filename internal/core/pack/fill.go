package pack

import (
	"cmp"
	"math"
	"math/bits"
	"math/rand/v2"
	"slices"

	"hobrak/internal/core/length"
)

// Piece to be put into a rectangle as one of many.
type Piece struct {
	W, H  length.Length
	Turn  bool
	Value float64 // what having it in counts
}

// Laid is where a piece lies.
type Laid struct {
	Piece  int
	X, Y   length.Length
	Turned bool
}

// Filling searches for the most value a rectangle of w × h can hold of pieces that
// need no room between them. Pieces go one after the other into the lowest gap of
// the skyline, the one that fits its width and the heights beside it best, and among
// those that fit alike the first of an order (after Leung, Zhang, Sim 2011).
type Filling struct {
	w, h    int32 // the shorter side is w, whatever way up the rectangle is: short gaps are filled better
	tall    bool  // so that the pieces are laid on their sides
	sides   []sides
	worth   []float64
	least   int32   // the shortest side of all
	all     float64 // value of all
	byWorth []int32 // pieces, what is worth least for its area first
	light   []light // from what is worth least for its area on
	mean    float64 // area of a piece of middle size
	// Ways of laying a piece by the length of either side.
	byWidth, byHeight lookup

	order  []int32    // the piece at each position
	pos    []int32    // the position of each piece
	bySize []int32    // the order by size, largest first
	lowest []shortest // the shortest sides in each block of positions
	rng    *rand.Rand

	now, try *course
	laid     int // pieces and gaps gone through, a measure of the effort
	best     float64
	kept     []Laid
	// room to work in
	sky   []step
	left  []uint8 // what is not laid yet: a bit for each position of a block
	whole []uint8 // the bits of everything
	n     int     // how much that is
}

// block is how many positions share their shortest sides, so that a gap none of
// them fits into passes them at once.
const block = 8

// Inside, lengths are in 32 bits, which go up to two kilometres: most of the time goes
// by with going through them.

// sides of a piece and whether it may be turned.
type sides struct {
	w, h int32
	turn bool
}

// light is how much of the pieces, area and value, is worth no more for its area than
// one of them.
type light struct{ area, value float64 }

func (s *sides) area() float64 { return float64(s.w) * float64(s.h) }

// shortest sides of several pieces, however they are turned.
type shortest struct{ w, h int32 }

// way of laying a piece.
type way struct {
	w, h   int32
	piece  int32
	turned bool
}

// step of a skyline: from x to the next step's x it is y high.
type step struct{ x, y, w int32 }

// course of laying an order: what went into which gap.
type course struct {
	events []event
	at     []int32 // of each piece the event that laid it, or never
	marks  []int   // where in skies the skyline before each 16th event begins
	skies  []step
	value  float64
	empty  float64 // area that nothing fitted into
}

const (
	never     = math.MaxInt32
	markEvery = 16
)

// event is a gap and what went into it.
type event struct {
	gap    gap
	x, y   int32
	piece  int32 // -1: nothing fitted
	low    int16 // the gap's step of the skyline
	fit    int8  // how well the piece fitted
	turned bool
}

// gap to be filled: its width, the heights of the walls beside it and the height up
// to the top of the rectangle.
type gap struct{ w, left, right, up int32 }

// lookup of ways by a length. Most gaps are as wide as nothing: a bit for a hash of
// the length says so at once.
type lookup struct {
	ways map[int32][]way
	bits [16]uint64
}

func (l *lookup) bit(of int32) (word, mask uint64) {
	h := uint32(of) * 2654435769
	return uint64(h >> 28), 1 << (h >> 22 & 63)
}

func (l *lookup) add(of int32, w way) {
	if l.ways == nil {
		l.ways = map[int32][]way{}
	}
	l.ways[of] = append(l.ways[of], w)
	k, m := l.bit(of)
	l.bits[k] |= m
}

func (l *lookup) of(length int32) []way {
	if k, m := l.bit(length); l.bits[k]&m == 0 {
		return nil
	}
	return l.ways[length]
}

// NewFilling starts with the largest pieces first.
func NewFilling(w, h length.Length, pieces []Piece, seed uint64) *Filling {
	tall := w > h
	all, worth := make([]sides, len(pieces)), make([]float64, len(pieces))
	for i := range pieces {
		p := &pieces[i]
		w, h := int32(p.W), int32(p.H)
		if tall {
			w, h = h, w
		}
		all[i], worth[i] = sides{w, h, p.Turn && w != h}, p.Value
	}
	f := filling(int32(min(w, h)), int32(max(w, h)), all, worth, rand.New(rand.NewPCG(seed, 0x66696c6c)))
	f.tall = tall
	f.keep(f.now.value, f.now.events)
	return f
}

// filling of a rectangle w × h, upright, largest pieces first.
func filling(w, h int32, all []sides, worth []float64, rng *rand.Rand) *Filling {
	n := len(all)
	f := &Filling{
		w: w, h: h, least: h, sides: all, worth: worth, rng: rng,
		order: make([]int32, n), pos: make([]int32, n),
		lowest: make([]shortest, (n+block-1)/block), left: make([]uint8, (n+block-1)/block),
		now: &course{at: make([]int32, n)}, try: &course{at: make([]int32, n)},
	}
	for i, s := range all {
		ways := []way{{s.w, s.h, int32(i), false}}
		if s.turn {
			ways = append(ways, way{s.h, s.w, int32(i), true})
		}
		for _, v := range ways {
			f.byWidth.add(v.w, v)
			f.byHeight.add(v.h, v)
		}
		f.least = min(f.least, s.w, s.h)
		f.order[i] = int32(i)
		f.all += worth[i]
	}
	slices.SortStableFunc(f.order, func(a, b int32) int { return cmp.Compare(all[b].area(), all[a].area()) })
	f.bySize = slices.Clone(f.order)
	f.whole = make([]uint8, len(f.left))
	for k := range n {
		f.whole[k/block] |= 1 << (k % block)
	}
	f.byWorth = slices.SortedFunc(slices.Values(f.order), func(a, b int32) int {
		return cmp.Compare(f.worth[a]*f.sides[b].area(), f.worth[b]*f.sides[a].area())
	})
	for _, i := range f.byWorth {
		var l light
		if len(f.light) > 0 {
			l = f.light[len(f.light)-1]
		}
		f.light = append(f.light, light{l.area + f.sides[i].area(), l.value + f.worth[i]})
	}
	if n > 0 {
		f.mean = f.light[n-1].area / float64(n)
	}
	f.placed(0, n-1)
	f.layFrom(f.now, 0, math.Inf(-1))
	return f
}

// warmth is how much worse than now a try may be at first, in pieces of mean value.
const warmth = .24

// Best layout so far and its value.
func (f *Filling) Best() ([]Laid, float64) { return f.kept, f.best }

// Full tells whether everything is in.
func (f *Filling) Full() bool { return f.best >= f.all-1e-9*math.Abs(f.all) }

// keep a layout as the best, with the value it comes to.
func (f *Filling) keep(value float64, events []event) {
	f.best, f.kept = value, f.kept[:0]
	for k := range events {
		f.keepOne(&events[k])
	}
}

func (f *Filling) keepOne(e *event) {
	if e.piece < 0 {
		return
	}
	x, y := length.Length(e.x), length.Length(e.y)
	if f.tall {
		x, y = y, x
	}
	f.kept = append(f.kept, Laid{int(e.piece), x, y, e.turned})
}

// Improve tries n more orders, as long as something is left out: swaps and moves of
// pieces, taken by simulated annealing. Warm, from 1 to 0, says how much worse a try may
// be than what it comes from. A try is laid anew only from the first gap on that another
// piece goes into.
func (f *Filling) Improve(n int, warm float64) {
	if len(f.order) < 2 {
		return
	}
	temperature := warm * warmth / float64(len(f.order)) * f.all
	for range n {
		if f.Full() {
			return
		}
		f.laid++ // also when nothing is: an effort comes to its end
		a, b := f.rng.IntN(len(f.order)), f.rng.IntN(len(f.order))
		moved := f.rng.IntN(3) == 0
		from := f.differs(a, b, moved)
		f.change(a, b, moved)
		if from == never {
			continue
		}
		least := f.now.value + temperature*math.Log(1-f.rng.Float64())
		if f.layFrom(f.try, from, least) {
			f.now, f.try = f.try, f.now
			if f.now.value > f.best {
				f.keep(f.now.value, f.now.events)
			}
			continue
		}
		if moved {
			a, b = b, a
		}
		f.change(a, b, moved)
	}
}

// change the order: the piece at a is moved to b, or both are swapped.
func (f *Filling) change(a, b int, moved bool) {
	if !moved {
		f.order[a], f.order[b] = f.order[b], f.order[a]
		f.placed(a, a)
		f.placed(b, b)
		return
	}
	x := f.order[a]
	if a < b {
		copy(f.order[a:b], f.order[a+1:b+1])
	} else {
		copy(f.order[b+1:a+1], f.order[b:a])
	}
	f.order[b] = x
	f.placed(min(a, b), max(a, b))
}

// placed brings up to date what follows from the order between two positions.
func (f *Filling) placed(from, to int) {
	for k := from; k <= to; k++ {
		f.pos[f.order[k]] = int32(k)
	}
	for b := from / block; b*block <= to; b++ {
		l := shortest{math.MaxInt32, math.MaxInt32}
		for _, i := range f.order[b*block : min(len(f.order), (b+1)*block)] {
			p := &f.sides[i]
			w, h := p.w, p.h
			if p.turn {
				w, h = min(w, h), min(w, h)
			}
			l.w, l.h = min(l.w, w), min(l.h, h)
		}
		f.lowest[b] = l
	}
}

// differs gives the first event of the course as it is that a change of the order may
// alter, never when it alters none: one that laid what goes back in the order, or one
// whose gap what comes forward fits as well as the later piece that went in.
func (f *Filling) differs(a, b int, moved bool) int32 {
	if a == b {
		return never
	}
	back, forward, to := f.order[min(a, b)], f.order[max(a, b)], int32(min(a, b))
	first := min(f.now.at[back], f.now.at[forward])
	if moved {
		if a < b { // only what was at a changes its position among the others
			return f.now.at[back]
		}
		first = f.now.at[forward]
	}
	p := &f.sides[forward]
	for k := range f.now.events[:min(int(first), len(f.now.events))] {
		e := &f.now.events[k]
		if e.piece < 0 || f.pos[e.piece] < to {
			continue
		}
		if fitness(p.w, p.h, &e.gap) == e.fit || p.turn && fitness(p.h, p.w, &e.gap) == e.fit {
			return int32(k)
		}
	}
	return first
}

// spare is how much of the rectangle may stay empty when what is in is to have a value.
func (f *Filling) spare(value float64) float64 {
	out := f.all - value // at most, and that takes most room with what is worth least for it
	k, _ := slices.BinarySearchFunc(f.light, out, func(l light, v float64) int { return cmp.Compare(l.value, v) })
	if k == len(f.light) {
		return math.Inf(1)
	}
	var l light
	if k > 0 {
		l = f.light[k-1]
	}
	next := f.light[k]
	area := l.area + (next.area-l.area)*(out-l.value)/(next.value-l.value)
	return float64(f.w)*float64(f.h) - f.light[len(f.light)-1].area + area
}

// layFrom lays the order into a course that is like the present one up to an event, and
// tells whether it has a value. It gives up when so much is empty that it can't have it.
func (f *Filling) layFrom(c *course, from int32, value float64) bool {
	f.begin(c, int(from))
	return f.lay(c, f.spare(value)*(1+1e-9)) && c.value >= value-1e-12*f.all
}

// lay what is left, unless more becomes empty than may.
func (f *Filling) lay(c *course, spare float64) bool {
	low := -1
	for f.n > 0 {
		if low < 0 { // else what the last piece left of its gap is the lowest still
			low = f.lowestStep()
		}
		s := f.sky[low]
		if s.y >= f.h {
			break
		}
		e := f.fill(f.gapAt(low), s, low)
		f.laid++
		f.note(c, &e)
		low = f.apply(c, &e)
		if c.empty > spare {
			return false
		}
	}
	return true
}

func (f *Filling) lowestStep() (low int) {
	lowest := int32(math.MaxInt32)
	for i := range f.sky {
		if y := f.sky[i].y; y < lowest {
			low, lowest = i, y
		}
	}
	return low
}

// gapAt a step of the skyline; the sides of the rectangle are walls up to its top.
func (f *Filling) gapAt(k int) gap {
	s := &f.sky[k]
	up := f.h - s.y
	g := gap{s.w, up, up, up}
	if k > 0 {
		g.left = f.sky[k-1].y - s.y
	}
	if k < len(f.sky)-1 {
		g.right = f.sky[k+1].y - s.y
	}
	return g
}

// fill a gap over a step with what fits best.
func (f *Filling) fill(g gap, s step, low int) event {
	if g.w >= f.least {
		if v, fit := f.pick(&g); fit >= 0 {
			return laying(v, fit, g, s, low)
		}
	}
	return event{gap: g, low: int16(low), piece: -1, y: s.y}
}

// laying puts a piece beside the wall of the gap it is as high as, else beside the
// higher one.
func laying(v way, fit int8, g gap, s step, low int) event {
	x := s.x
	if v.h != g.left && (v.h == g.right || g.right > g.left) {
		x += g.w - v.w
	}
	return event{gap: g, x: x, y: s.y, piece: v.piece, low: int16(low), fit: fit, turned: v.turned}
}

// begin a course with what the present one does before an event.
func (f *Filling) begin(c *course, from int) {
	c.value, c.empty, f.n = 0, 0, len(f.order)
	copy(f.left, f.whole)
	for i := range c.at {
		c.at[i] = never
	}
	if from == 0 {
		c.events, c.marks, c.skies = c.events[:0], c.marks[:0], c.skies[:0]
		f.sky = append(f.sky[:0], step{0, 0, f.w})
		return
	}
	mark := from / markEvery
	if mark == len(f.now.marks) {
		mark--
	}
	end := len(f.now.skies)
	if mark+1 < len(f.now.marks) {
		end = f.now.marks[mark+1]
	}
	c.events = append(c.events[:0], f.now.events[:from]...)
	c.marks = append(c.marks[:0], f.now.marks[:mark+1]...)
	c.skies = append(c.skies[:0], f.now.skies[:end]...)
	f.sky = append(f.sky[:0], c.skies[c.marks[mark]:]...)
	for k := range c.events {
		e := &c.events[k]
		if k >= mark*markEvery {
			f.apply(c, e)
		} else {
			f.out(c, e)
		}
		if e.piece >= 0 {
			c.at[e.piece] = int32(k)
		}
	}
}

// note an event, and now and then the skyline before it.
func (f *Filling) note(c *course, e *event) {
	if len(c.events)%markEvery == 0 && len(c.events)/markEvery == len(c.marks) {
		c.marks = append(c.marks, len(c.skies))
		c.skies = append(c.skies, f.sky...)
	}
	if e.piece >= 0 {
		c.at[e.piece] = int32(len(c.events))
	}
	c.events = append(c.events, *e)
}

// out takes what an event laid out of what is left.
func (f *Filling) out(c *course, e *event) {
	if e.piece < 0 {
		c.empty += float64(e.gap.w) * float64(min(e.gap.left, e.gap.right))
		return
	}
	k := f.pos[e.piece]
	f.left[k/block] &^= 1 << (k % block)
	f.n--
	c.value += f.worth[e.piece]
}

// apply an event to the skyline and tell which step what is left of the gap is, -1
// when nothing is.
func (f *Filling) apply(c *course, e *event) int {
	f.out(c, e)
	if e.piece < 0 {
		f.raise(int(e.low))
		return -1
	}
	p := &f.sides[e.piece]
	w, h := p.w, p.h
	if e.turned {
		w, h = h, w
	}
	return f.cover(int(e.low), e.x, w, e.y+h)
}

// pick what fits a gap best, and among what fits alike the first of the order; how
// well is -1 when nothing does. What fits the width, or else the height of a wall, is
// looked up; only when nothing does all that is left is gone through.
func (f *Filling) pick(g *gap) (way, int8) {
	pick, fit := f.among(f.byWidth.of(g.w), way{}, -1, g)
	if fit >= 0 {
		return pick, fit
	}
	if g.left < g.up {
		pick, fit = f.among(f.byHeight.of(g.left), pick, fit, g)
	}
	if g.right != g.left && g.right < g.up {
		pick, fit = f.among(f.byHeight.of(g.right), pick, fit, g)
	}
	if pick, fit = f.among(f.byHeight.of(g.up), pick, fit, g); fit >= 0 {
		return pick, fit
	}
	for b, there := range f.left {
		if there == 0 || f.lowest[b].w > g.w || f.lowest[b].h > g.up {
			continue
		}
		for ; there != 0; there &= there - 1 {
			i := f.order[b*block+bits.TrailingZeros8(there)]
			p := &f.sides[i]
			if p.w <= g.w && p.h <= g.up {
				return way{p.w, p.h, i, false}, 0
			}
			if p.turn && p.h <= g.w && p.w <= g.up {
				return way{p.h, p.w, i, true}, 0
			}
		}
	}
	return pick, -1
}

// among several ways the one that fits a gap best, if it does so better than one
// known, or as well and comes before it in the order.
func (f *Filling) among(ways []way, pick way, fit int8, g *gap) (way, int8) {
	for _, v := range ways {
		k := f.pos[v.piece]
		if f.left[k/block]&(1<<(k%block)) == 0 {
			continue
		}
		if s := fitness(v.w, v.h, g); s > fit || s >= 0 && s == fit && k < f.pos[pick.piece] {
			pick, fit = v, s
		}
	}
	return pick, fit
}

// fitness of what is w × h for a gap, -1 when it does not go in.
func fitness(w, h int32, g *gap) (s int8) {
	if w > g.w || h > g.up {
		return -1
	}
	if w == g.w {
		s += 4
	}
	if h == g.left || h == g.right {
		s += 2
	}
	if h == g.up {
		s++
	}
	return s
}

// raise fills a gap nothing fits into, up to its lower wall.
func (f *Filling) raise(low int) {
	y := f.h
	if low > 0 {
		y = min(y, f.sky[low-1].y)
	}
	if low < len(f.sky)-1 {
		y = min(y, f.sky[low+1].y)
	}
	f.sky[low].y = y
	f.join(low)
}

// cover part of a step up to y and tell which step the rest of it is, -1 when nothing is.
func (f *Filling) cover(low int, x, w, y int32) int {
	g := f.sky[low]
	switch {
	case w == g.w:
		f.sky[low].y = y
		f.join(low)
		return -1
	case x == g.x:
		f.sky[low].x, f.sky[low].w = x+w, g.w-w
		if low > 0 && f.sky[low-1].y == y {
			f.sky[low-1].w += w
			return low
		}
		f.sky = slices.Insert(f.sky, low, step{x, y, w})
		return low + 1
	default:
		f.sky[low].w = g.w - w
		if low < len(f.sky)-1 && f.sky[low+1].y == y {
			f.sky[low+1].x, f.sky[low+1].w = x, f.sky[low+1].w+w
			return low
		}
		f.sky = slices.Insert(f.sky, low+1, step{x, y, w})
		return low
	}
}

// join a step with those beside it that are as high.
func (f *Filling) join(i int) {
	if i < len(f.sky)-1 && f.sky[i+1].y == f.sky[i].y {
		f.sky[i].w += f.sky[i+1].w
		f.sky = slices.Delete(f.sky, i+1, i+2)
	}
	if i > 0 && f.sky[i-1].y == f.sky[i].y {
		f.sky[i-1].w += f.sky[i].w
		f.sky = slices.Delete(f.sky, i, i+1)
	}
}
