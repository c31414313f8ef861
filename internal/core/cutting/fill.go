package cutting

import (
	"cmp"
	"math"
	"slices"
)

// filler cuts one piece of stock up for as much value as it finds: strip by strip, each strip of the parts that go beside each other in
// it (a knapsack by dynamic programming, as Gilmore and Gomory, Operations Research 13, 1965), what is left over in the same way.
type filler struct {
	pr     *problem
	value  []float64 // of a part of each kind
	avail  []int
	choose float64 // of all heights of strips so large a share is tried
	noise  float64
	best   []float64
	taken  []uint64 // which columns a length is made of, a row of bits for each
}

// column is some parts of one side over each other in a strip.
type column struct {
	side, n int
	l       float64
	value   float64
}

// fill cuts a piece up; what it takes is no longer available.
func (f *filler) fill(l, w float64) *node {
	type strip struct {
		along bool
		size  float64 // across its length
		cols  []column
		score float64
	}
	var best *strip
	for d, lengthwise := range []bool{true, false} {
		list := f.heights(l, w, lengthwise)
		for _, h := range list {
			if len(list) > 3 && best != nil && f.pr.rng.Float64() > f.share(len(list)) {
				continue
			}
			long, room := l, w
			if d == 1 {
				long, room = w, l
			}
			cols, value := f.strip(long, h, d == 1)
			if value <= 0 {
				continue
			}
			size := h
			if room-h < f.least(d == 1) { // nothing goes beside it: the strip may as well take all
				size = room
			}
			score := value / (size * long) * (1 + f.noise*(f.pr.rng.Float64()-.5))
			if best == nil || score > best.score {
				best = &strip{d == 0, h, cols, score}
			}
		}
	}
	if best == nil {
		return leaf(l, w)
	}
	long, room := l, w
	if !best.along {
		long, room = w, l
	}
	made := f.build(best.cols, long, best.size, best.along)
	if room-best.size <= tight {
		return made
	}
	if best.along {
		return along(made, f.fill(l, room-best.size))
	}
	return across(made, f.fill(room-best.size, w))
}

// heightsTried at most, one time with another, of those a strip could have.
const heightsTried = 8

// share of so many heights that is tried.
func (f *filler) share(n int) float64 { return min(f.choose, heightsTried/float64(n)) }

// whole cuts a piece of stock up in the best of three ways: into strips along it, or across it, whose sizes add up to its own as nearly
// as they can, or strip by strip as they come.
func (f *filler) whole(l, w float64) *node {
	start := slices.Clone(f.avail)
	var best *node
	var left []int
	most := -1.0
	keep := func(t *node) {
		if v := f.pr.sum(t, f.value); v > most+1e-12 {
			best, most, left = t, v, f.avail
		}
	}
	for _, lengthwise := range []bool{true, false} {
		f.avail = slices.Clone(start)
		keep(f.inStrips(l, w, lengthwise))
	}
	f.avail = slices.Clone(start)
	keep(f.fill(l, w))
	f.avail = left
	return best
}

// copies of one height of strip that are thought of.
const copies = 3

// inStrips cuts a piece into strips of heights that are worth most together and fit: each height with what the first strip of it would
// hold, the second without that, and so on.
func (f *filler) inStrips(l, w float64, lengthwise bool) *node {
	long, room := l, w
	if !lengthwise {
		long, room = w, l
	}
	heights := f.heights(l, w, lengthwise)
	if len(heights) == 0 {
		return leaf(l, w)
	}
	var items []column // a strip each: its height is what it takes of the room
	start := slices.Clone(f.avail)
	for _, h := range heights {
		if len(heights) > 4 && f.pr.rng.Float64() > f.share(len(heights)) {
			continue
		}
		f.avail = slices.Clone(start)
		for range copies {
			cols, v := f.strip(long, h, !lengthwise)
			if v <= 0 {
				break
			}
			items = append(items, column{l: h, value: v * (1 + f.noise*(f.pr.rng.Float64()-.5))})
			for _, c := range cols {
				f.avail[f.pr.sides[c.side].kind] -= c.n
			}
		}
	}
	f.avail = start
	var chosen []column
	for _, k := range f.knapsack(room, items) {
		chosen = append(chosen, items[k])
	}
	slices.SortStableFunc(chosen, func(a, b column) int { return cmp.Compare(b.value/b.l, a.value/a.l) })
	var parts []*node
	for _, c := range chosen {
		cols, v := f.strip(long, c.l, !lengthwise)
		if v <= 0 || c.l > room+tight {
			continue
		}
		parts = append(parts, f.build(cols, long, c.l, lengthwise))
		room -= c.l
	}
	if room > tight {
		if lengthwise {
			parts = append(parts, f.fill(l, room))
		} else {
			parts = append(parts, f.fill(room, w))
		}
	}
	return row(parts, lengthwise)
}

// heights that strips of a piece can have, the smallest first: of the parts that fit it, across the strip.
func (f *filler) heights(l, w float64, lengthwise bool) (out []float64) {
	for s := range f.pr.sides {
		x := &f.pr.sides[s]
		switch {
		case f.avail[x.kind] == 0 || x.l > l+tight || x.w > w+tight:
		case lengthwise:
			out = append(out, x.w)
		default:
			out = append(out, x.l)
		}
	}
	slices.Sort(out)
	return distinct(out)
}

// least is the smallest size across that any part that is still wanted has.
func (f *filler) least(across bool) float64 {
	out := math.Inf(1)
	for s := range f.pr.sides {
		if x := &f.pr.sides[s]; f.avail[x.kind] > 0 {
			if across {
				out = min(out, x.l)
			} else {
				out = min(out, x.w)
			}
		}
	}
	return out
}

// distinct sizes of a sorted list.
func distinct(list []float64) []float64 {
	return slices.CompactFunc(list, func(a, b float64) bool { return math.Abs(a-b) < tight })
}

// step by which lengths in a strip are counted, mm: finer in short ones.
func step(long float64) float64 {
	switch {
	case long > 4000:
		return 4
	case long > 1000:
		return 2
	case long > 400:
		return 1
	}
	return .5
}

// strip finds the columns of most value in a strip so long and wide; turned strips run across the stock.
func (f *filler) strip(long, wide float64, turned bool) ([]column, float64) {
	var items []column
	for s := range f.pr.sides {
		x := &f.pr.sides[s]
		l, w := x.l, x.w
		if turned {
			l, w = w, l
		}
		left := f.avail[x.kind]
		if left == 0 || l > long+tight || w > wide+tight {
			continue
		}
		stack := min(left, int((wide+tight)/w))
		for left >= stack && stack > 0 && len(items) < 400 { // as often as there are enough of them
			items = append(items, column{s, stack, l, float64(stack) * f.value[x.kind]})
			left -= stack
			if int(long/l) < len(items)-1 && left > int(long/l)*stack {
				left = int(long/l) * stack // more do not go beside each other
			}
		}
		if left > 0 {
			items = append(items, column{s, left, l, float64(left) * f.value[x.kind]})
		}
	}
	if len(items) == 0 {
		return nil, 0
	}
	var cols []column
	used := map[int]int{}
	value := 0.0
	for _, k := range f.knapsack(long, items) {
		c := items[k]
		// Both ways one kind can lie draw on the same number.
		kind := f.pr.sides[c.side].kind
		if c.n = min(c.n, f.avail[kind]-used[kind]); c.n <= 0 {
			continue
		}
		used[kind] += c.n
		value += float64(c.n) * f.value[kind]
		cols = append(cols, c)
	}
	return cols, value
}

// knapsack finds the items of most value that go beside each other, by number, the last first. Lengths are counted in steps: to the
// nearest, with one to spare, and where what is found is longer than there is room without that, and at last each rounded up, which
// always fits. So what fits to the tenth of a millimetre is found as well.
func (f *filler) knapsack(room float64, items []column) []int {
	u := step(room)
	nearest := func(k int) int { return max(1, int(math.Round(items[k].l/u))) }
	fits := func(list []int) bool {
		sum := 0.0
		for _, k := range list {
			sum += items[k].l
		}
		return sum <= room+tight
	}
	cells := int(math.Round(room / u))
	for spare := 1; spare >= 0; spare-- {
		if list := f.inCells(cells+spare, items, nearest); fits(list) {
			return list
		}
	}
	return f.inCells(int((room+tight)/u), items, func(k int) int { return max(1, int(math.Ceil(items[k].l/u-tight))) })
}

// inCells is the knapsack itself, by dynamic programming over so many cells.
func (f *filler) inCells(room int, items []column, cells func(k int) int) (out []int) {
	n, many := room+1, len(items)
	if cap(f.best) < n {
		f.best = make([]float64, n)
	}
	best := f.best[:n]
	clear(best)
	// Which were taken is found again by going back through the rows.
	words := (n + 63) / 64
	if cap(f.taken) < words*many {
		f.taken = make([]uint64, words*many)
	}
	taken := f.taken[:words*many]
	clear(taken)
	for k := range many {
		c, v := cells(k), items[k].value
		row := taken[k*words : (k+1)*words]
		for i := n - 1; i >= c; i-- {
			if t := best[i-c] + v; t > best[i]+1e-12 {
				best[i] = t
				row[i>>6] |= 1 << (i & 63)
			}
		}
	}
	i := n - 1
	for k := many - 1; k >= 0; k-- {
		if taken[k*words+i>>6]>>(i&63)&1 == 1 {
			out = append(out, k)
			i -= cells(k)
		}
	}
	return out
}

// build cuts a strip up into its columns, and what is left of it on.
func (f *filler) build(cols []column, long, wide float64, lengthwise bool) *node {
	slices.SortStableFunc(cols, func(a, b column) int { return cmp.Or(cmp.Compare(b.l, a.l), cmp.Compare(a.side, b.side)) })
	var parts []*node
	at := 0.0
	for _, c := range cols {
		f.avail[f.pr.sides[c.side].kind] -= c.n
	}
	for _, c := range cols {
		x := &f.pr.sides[c.side]
		var list []*node
		up := 0.0
		for range c.n {
			n := &node{l: x.l, w: x.w, part: c.side}
			list = append(list, n)
			if lengthwise {
				up += x.w
			} else {
				up += x.l
			}
		}
		if rest := wide - up; rest > tight {
			if lengthwise {
				list = append(list, f.fill(c.l, rest))
			} else {
				list = append(list, f.fill(rest, c.l))
			}
		}
		parts = append(parts, row(list, lengthwise))
		at += c.l
	}
	if rest := long - at; rest > tight {
		if lengthwise {
			parts = append(parts, f.fill(rest, wide))
		} else {
			parts = append(parts, f.fill(wide, rest))
		}
	}
	return row(parts, !lengthwise)
}

// row joins pieces one after the other: below each other along the stock, or beside each other across it.
func row(list []*node, along bool) *node {
	out := list[len(list)-1]
	for i := len(list) - 2; i >= 0; i-- {
		out = joined(list[i], out, along)
	}
	return out
}
