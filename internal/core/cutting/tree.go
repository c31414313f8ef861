package cutting

import (
	"cmp"
	"slices"
)

// node is a piece with how it is cut on: in two, into a part, or not at all. Sizes have the kerf on them.
type node struct {
	l, w  float64
	part  int // number of the side that lies here, -1 none
	along bool
	at    float64  // of the cut
	kids  [2]*node // below and above when it is cut along, left and right when across
}

// leaf is a piece that is not cut.
func leaf(l, w float64) *node { return &node{l: l, w: w, part: -1} }

// across cuts a piece into left and right, along into below and above; nothing of no size comes of it.
func across(left, right *node) *node { return joined(left, right, false) }
func along(below, above *node) *node { return joined(below, above, true) }

func joined(a, b *node, along bool) *node {
	if !along {
		return &node{l: a.l + b.l, w: a.w, part: -1, at: a.l, kids: [2]*node{a, b}}
	}
	return &node{l: a.l, w: a.w + b.w, part: -1, along: true, at: a.w, kids: [2]*node{a, b}}
}

// kinds calls for every part in a tree, by its kind.
func (pr *problem) kinds(n *node, do func(kind int)) {
	if n == nil {
		return
	}
	if n.part >= 0 {
		do(pr.sides[n.part].kind)
	}
	pr.kinds(n.kids[0], do)
	pr.kinds(n.kids[1], do)
}

// count of cuts in a tree.
func (n *node) count() int {
	if n == nil || n.kids[0] == nil {
		return 0
	}
	return 1 + n.kids[0].count() + n.kids[1].count()
}

// written is a piece as the plan says it: cuts from the root on, what is in the hand largest first, so that it soon falls.
func (pr *problem) written(c cutFrom) Piece {
	b := &pr.bins[c.bin]
	k, trim := pr.o.Kerf, pr.o.Trim
	out := Piece{Stock: b.Name, L: b.L, W: b.W, Trim: trim, Bought: b.Count < 0, Cuts: []Cut{}, Parts: []Placed{}, Offcuts: []Rect{}}
	type hand struct {
		n    *node
		id   int
		x, y float64
	}
	list := []hand{{c.tree, 0, trim, trim}}
	next := 1
	for len(list) > 0 {
		slices.SortStableFunc(list, func(a, b hand) int { return cmp.Compare(b.n.l*b.n.w, a.n.l*a.n.w) })
		h := list[0]
		list = list[1:]
		switch {
		case h.n.part >= 0:
			s := &pr.sides[h.n.part]
			out.Parts = append(out.Parts, Placed{pr.parts[s.kind].Name, h.x, h.y, s.l - k, s.w - k, s.turned})
		case h.n.kids[0] == nil:
			if l, w := h.n.l-k, h.n.w-k; l > 0 && w > 0 {
				out.Offcuts = append(out.Offcuts, Rect{h.x, h.y, l, w})
			}
		default:
			a, b := hand{h.n.kids[0], next, h.x, h.y}, hand{h.n.kids[1], next + 1, h.x, h.y}
			next += 2
			cut := Cut{N: len(out.Cuts) + 1, Along: "w", At: h.n.at - k, Of: h.id, Gives: [2]int{a.id, b.id}}
			if h.n.along {
				cut.Along = "l"
				b.y += h.n.at
			} else {
				b.x += h.n.at
			}
			out.Cuts = append(out.Cuts, cut)
			list = append(list, a, b)
		}
	}
	slices.SortStableFunc(out.Offcuts, func(a, b Rect) int { return cmp.Compare(b.L*b.W, a.L*a.W) })
	return out
}
