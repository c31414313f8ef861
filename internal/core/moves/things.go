package moves

import (
	"slices"
	"strings"

	"hobrak/internal/core/geometry"
	"hobrak/internal/core/keeping"
	"hobrak/internal/core/reach"
	"hobrak/internal/core/shop"
)

// things finds what is carried: pieces whose home is another in the target.
func (w *work) things() {
	items := map[string]int{}
	for i := range w.both.Items {
		items[w.both.Items[i].ID] = i
	}
	held := map[int][]int{} // of each item, numbers of the hands
	for k, h := range w.hands.All() {
		held[h.Item] = append(held[h.Item], k)
	}
	goal := map[int][]shop.Home{}
	var stay [][3]int // what the target gives no home: item, pieces, number of the hands
	for _, h := range w.target.Homes {
		if i, ok := items[h.Item]; ok {
			goal[i] = append(goal[i], h)
		}
	}
	for i := range w.both.Items {
		it := &w.both.Items[i]
		if !it.Needs() || slices.Contains(w.o.Leave, it.ID) {
			continue
		}
		type portion struct{ k, n int }
		var from []portion
		to := slices.Clone(goal[i])
		need := make([]int, len(to))
		for k := range to {
			need[k] = to[k].Number(it)
		}
		total := 0
		for _, k := range held[i] {
			h := w.hands.Held(k)
			n := h.N
			total += n
			for j := range to { // what stays
				if h.Home.Place != "" && Same(&h.Home, &to[j]) {
					stays := min(n, need[j])
					n, need[j] = n-stays, need[j]-stays
				}
			}
			if n > 0 {
				from = append(from, portion{k, n})
			}
		}
		if rest := it.Number() - total; rest > 0 {
			from = append(from, portion{-1, rest})
		}
		for j := range to {
			for f := range from {
				if n := min(need[j], from[f].n); n > 0 {
					h := to[j]
					w.carry(i, n, from[f].k, &h)
					need[j], from[f].n = need[j]-n, from[f].n-n
				}
			}
		}
		for _, f := range from { // no home in the target: out of the way only when its place goes
			if f.n > 0 && f.k >= 0 {
				stay = append(stay, [3]int{i, f.n, f.k})
			}
		}
	}
	for _, x := range stay {
		at := w.hands.Held(x[2]).Home
		if w.going[at.Place] || slices.ContainsFunc(w.nodes, func(n node) bool {
			return n.do == Carry && n.to != nil && n.to.Place == at.Place && w.hands.Clash(x[0], x[1], &at, n.item, w.all(&n), n.to)
		}) {
			w.carry(x[0], x[1], x[2], nil)
		}
	}
	w.stay = stay
	w.lids()
}

// all are the pieces that lie at the goal of a node in the end.
func (w *work) all(n *node) int {
	return max(n.n, n.to.Number(&w.both.Items[n.item]))
}

// evict takes what the target gives no home out of places in which something finds no room beside it; false when there is nothing
// like that.
func (w *work) evict(places map[string]bool) bool {
	before := len(w.nodes)
	w.stay = slices.DeleteFunc(w.stay, func(x [3]int) bool {
		at := w.hands.Held(x[2]).Home
		if !places[at.Place] {
			return false
		}
		if !slices.ContainsFunc(w.nodes, func(n node) bool { return n.do == Carry && n.from == x[2] }) {
			w.carry(x[0], x[1], x[2], nil)
		}
		return true
	})
	return len(w.nodes) > before
}

// lids are things that stay but lie on something that goes: they are put aside for as long.
func (w *work) lids() {
	node := map[int]int{} // of each number of the hands
	for i := range w.nodes {
		if n := &w.nodes[i]; n.do == Carry && n.from >= 0 {
			node[n.from] = i
		}
	}
	for i := 0; i < len(w.nodes); i++ {
		n := &w.nodes[i]
		if n.do != Carry || n.from < 0 {
			continue
		}
		for _, k := range w.hands.Over(n.from) {
			if _, goes := node[k]; goes {
				continue
			}
			h := w.hands.Held(k)
			w.carry(h.Item, h.N, k, &h.Home)
			lid := len(w.nodes) - 1
			w.nodes[lid].gain, w.nodes[lid].lid = 0, true
			node[k] = lid
		}
	}
	for i := range w.nodes {
		if n := &w.nodes[i]; n.do == Carry && n.from >= 0 {
			for _, k := range w.hands.Over(n.from) {
				if lid := node[k]; w.nodes[lid].lid {
					w.nodes[lid].after = append(w.nodes[lid].after, i)
				}
			}
		}
	}
}

// Times of carrying, minutes (estimates).
const (
	grasp   = .15 // to take something and to put it down, each piece
	begin   = .2  // to look where it goes
	screwed = 1.5 // a holder for what hangs
	aWalk   = 60.0
)

// handled is how long n pieces take from one place to another but for the walk; small things in numbers come in a tray.
func handled(n int) float64 { return begin + 2*grasp*float64(min(n, 12)) + .02*float64(max(0, n-12)) }

func (w *work) carry(item, n, from int, to *shop.Home) {
	it := &w.both.Items[item]
	x := newNode(Carry, it.Name)
	x.item, x.n, x.from, x.to = item, n, from, to
	kg := it.KG.KG()
	x.minutes = handled(n)
	was := ""
	if from >= 0 {
		was = w.hands.Held(from).Home.Place
		x.minutes += w.apart(was, to) / 1000 / aWalk
	}
	if to != nil {
		w.wanted[to.Place] = true
		if k, ok := w.number[1][to.Place]; ok {
			p := &w.target.Places[k]
			if keeping.Of(p).Form() == keeping.Upright {
				x.minutes += screwed
			}
		}
	}
	switch {
	case kg > reach.OneLifts:
		x.people, x.minutes = 2, 2*x.minutes
		x.caution = "two people, or a trolley"
	case it.Flagged(shop.Fragile):
		x.caution = "it breaks: nothing on top of it on the way"
	case it.W.MM() > 1800 || it.H.MM() > 1800:
		x.caution = "mind lamps over your head and who stands behind you"
	case sharp(it.Kind):
		x.caution = "edges away from you, covered or in a tray"
	}
	x.minutes *= w.o.Pace
	x.left = x.minutes
	x.gain = w.cost(0, it, w.heldHome(from), n) - w.cost(1, it, to, n)
	w.nodes = append(w.nodes, x)
}

func sharp(kind string) bool {
	return slices.ContainsFunc([]string{"chisel", "saw", "knife", "plane", "gouge", "axe", "adze", "blade"}, func(k string) bool { return strings.Contains(kind, k) })
}

func (w *work) heldHome(k int) *shop.Home {
	if k < 0 {
		return nil
	}
	h := w.hands.Held(k).Home
	return &h
}

// cost of n pieces at a home, seconds a week: in the shop as it is (0) or as it is to be (1).
func (w *work) cost(then int, it *shop.Item, h *shop.Home, n int) float64 {
	sc := w.scenes[then]
	u := sc.Base.UseOf(it)
	share := float64(n) / float64(max(1, it.Number()))
	if h == nil {
		return share * sc.Base.Without(&u)
	}
	k, ok := w.number[then][plain(h.Place)]
	if !ok {
		return share * sc.Base.Without(&u)
	}
	p := &sc.Base.Shop.Places[k]
	c, ok := sc.Weekly(&u, k, keeping.GripOf(p, it, h), keeping.Aside(p, keeping.SpotOf(p, h)))
	if !ok {
		c = sc.Base.Without(&u)
	}
	return share * c
}

// apart is how far two places are from each other, straight; a few steps where that is not known.
func (w *work) apart(from string, to *shop.Home) float64 {
	if to == nil {
		return 3000
	}
	a, ok := w.where(0, plain(from))
	b, ok2 := w.where(1, to.Place)
	if !ok || !ok2 {
		return 3000
	}
	return 2 * a.Distance(b)
}

func (w *work) where(then int, id string) (geometry.Point, bool) {
	key := [2]string{"now ", "then "}[then] + id
	if p, ok := w.spot[key]; ok {
		return p, true
	}
	k, ok := w.number[then][id]
	if !ok {
		return geometry.Point{}, false
	}
	m := w.scenes[then].Base
	g := m.Front(k).Corners()
	if len(g) == 0 {
		return geometry.Point{}, false
	}
	p := g[0].Add(g[len(g)/2]).Mul(.5)
	w.spot[key] = p
	return p, true
}
