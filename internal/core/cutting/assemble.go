package cutting

import (
	"math"
	"slices"
)

// nearly is from which share on parts may fill their stock without any waste, so that putting them together like a puzzle is tried.
const nearly = .97

// attempts at a puzzle at least.
const attempts = 25

// block is some parts that were put together without waste.
type block struct {
	tree *node
	turn bool // it may be turned by a quarter
}

// assembled puts parts together that have a side in common, again and again, until they fill the stock: as they would have been cut
// from it without waste. It gives nothing where that is out of the question or does not come about.
func (pr *problem) assembled(want []int) []cutFrom {
	need, n := pr.need(want), 0
	for _, k := range want {
		n += k
	}
	if n < 2 || n > 400 {
		return nil
	}
	for b := range pr.bins {
		x := &pr.bins[b]
		sheets := int(math.Ceil(need/(x.l*x.w) - 1e-9))
		if sheets < 1 || sheets > x.left || need < nearly*float64(sheets)*x.l*x.w {
			continue
		}
		over := pr.until(.5)
		for n := 0; n < attempts || pr.o.Rounds == 0 && !over(); n++ {
			if list := pr.puzzle(b, sheets, want); list != nil {
				return list
			}
		}
	}
	return nil
}

// pieces are the parts by themselves.
func (pr *problem) pieces(want []int) []block {
	var out []block
	for kind, n := range want {
		first, both := -1, false
		for s := range pr.sides {
			if pr.sides[s].kind == kind {
				if first >= 0 {
					both = true
				} else {
					first = s
				}
			}
		}
		if first < 0 {
			continue
		}
		x := &pr.sides[first]
		for range n {
			out = append(out, block{&node{l: x.l, w: x.w, part: first}, both || math.Abs(x.l-x.w) < tight})
		}
	}
	return out
}

// other is the side a part has when it is turned.
func (pr *problem) other(s int) int {
	for t := range pr.sides {
		if t != s && pr.sides[t].kind == pr.sides[s].kind {
			return t
		}
	}
	return s
}

// turned is a tree turned by a quarter.
func (pr *problem) turned(n *node) *node {
	if n == nil {
		return nil
	}
	out := &node{l: n.w, w: n.l, part: n.part, along: !n.along, at: n.at}
	if n.part >= 0 {
		out.part = pr.other(n.part)
	}
	if n.kids[0] == nil {
		out.along = false
	}
	out.kids = [2]*node{pr.turned(n.kids[0]), pr.turned(n.kids[1])}
	return out
}

// puzzle puts blocks together at random, those first whose common side few others have.
func (pr *problem) puzzle(b, sheets int, want []int) []cutFrom {
	x := &pr.bins[b]
	const off = .01 // sides that are the same within, mm
	blocks := pr.pieces(want)
	var whole []*node
	for len(blocks) > 0 {
		// How often each length occurs among the sides that may meet.
		var often [2]map[int64]int // along and across the stock
		often[0], often[1] = map[int64]int{}, map[int64]int{}
		for i := range blocks {
			t := blocks[i].tree
			l, w := int64(math.Round(t.l/off)), int64(math.Round(t.w/off))
			often[0][l]++
			often[1][w]++
			if blocks[i].turn && l != w {
				often[0][w]++
				often[1][l]++
			}
		}
		type pair struct {
			i, j         int
			along        bool
			turnI, turnJ bool
			score        float64
		}
		var best *pair
		for i := range blocks {
			for j := i + 1; j < len(blocks); j++ {
				for _, ti := range []bool{false, true} {
					if ti && !blocks[i].turn {
						continue
					}
					for _, tj := range []bool{false, true} {
						if tj && !blocks[j].turn {
							continue
						}
						il, iw := blocks[i].tree.l, blocks[i].tree.w
						if ti {
							il, iw = iw, il
						}
						jl, jw := blocks[j].tree.l, blocks[j].tree.w
						if tj {
							jl, jw = jw, jl
						}
						for _, al := range []bool{false, true} {
							side := iw
							if al {
								side = il
								if math.Abs(il-jl) > off || iw+jw > x.w+off || il > x.l+off {
									continue
								}
							} else if math.Abs(iw-jw) > off || il+jl > x.l+off || iw > x.w+off {
								continue
							}
							of := often[1]
							if al {
								of = often[0]
							}
							n := max(2, of[int64(math.Round(side/off))])
							score := side / float64(n*n*n) * (.5 + pr.rng.Float64())
							if l, w := il+jl, iw; !al && (math.Abs(l-x.l) < off || math.Abs(w-x.w) < off) || al && (math.Abs(il-x.l) < off || math.Abs(iw+jw-x.w) < off) {
								score *= 2
							}
							if best == nil || score > best.score {
								best = &pair{i, j, al, ti, tj, score}
							}
						}
					}
				}
			}
		}
		if best == nil {
			return nil
		}
		a, c := blocks[best.i], blocks[best.j]
		if best.turnI {
			a.tree = pr.turned(a.tree)
		}
		if best.turnJ {
			c.tree = pr.turned(c.tree)
		}
		made := block{joined(a.tree, c.tree, best.along), a.turn && c.turn}
		blocks = slices.Delete(blocks, best.j, best.j+1)
		blocks = slices.Delete(blocks, best.i, best.i+1)
		full := func(l, w float64) bool { return l*w >= nearly*x.l*x.w && l <= x.l+off && w <= x.w+off }
		switch {
		case full(made.tree.l, made.tree.w):
			whole = append(whole, made.tree)
		case made.turn && full(made.tree.w, made.tree.l):
			whole = append(whole, pr.turned(made.tree))
		default:
			blocks = append(blocks, made)
		}
	}
	if len(whole) > sheets {
		return nil
	}
	var out []cutFrom
	for _, n := range whole {
		if n.w < x.w-tight {
			n = along(n, leaf(n.l, x.w-n.w))
		}
		if n.l < x.l-tight {
			n = across(n, leaf(x.l-n.l, x.w))
		}
		out = append(out, cutFrom{b, n})
	}
	return out
}
