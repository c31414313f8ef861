package shift

import (
	"container/heap"
	"fmt"
	"slices"
)

// node of the search: where each body is, and how one came there.
type node struct {
	at    now
	moves int
	left  int // moves that are still to be made at least
	from  *node
	did   Move
	order int
	aside bool // what is set aside from here is still to be looked at
	cost  float64
}

// queue is led by the node with the fewest moves in all, of those by the one that is furthest on.
type queue []*node

func (q queue) Len() int { return len(q) }
func (q queue) Less(i, j int) bool {
	a, b := q[i], q[j]
	if fa, fb := a.moves+a.left, b.moves+b.left; fa != fb {
		return fa < fb
	}
	if a.left != b.left {
		return a.left < b.left
	}
	if a.cost != b.cost {
		return a.cost < b.cost
	}
	return a.order < b.order
}
func (q queue) Swap(i, j int) { q[i], q[j] = q[j], q[i] }
func (q *queue) Push(x any)   { *q = append(*q, x.(*node)) }
func (q *queue) Pop() any {
	old := *q
	x := old[len(old)-1]
	*q = old[:len(old)-1]
	return x
}

// most arrangements are looked at before what was found is taken.
const most = 4000

// solve looks for the fewest moves, best first: no arrangement takes fewer than one for each body that is not where it is
// to be, and one more where they stand in each other's way in a ring.
func (p *problem) solve() *Plan {
	out := &Plan{Moves: []Move{}, Stuck: []string{}}
	first := make(now, len(p.bodies))
	out.Least = p.least(first)
	seen := map[string]int{first.key(): 0}
	open := queue{{at: first, left: out.Least}}
	best, looked, order := open[0], 0, 0
	for len(open) > 0 && looked < most {
		x := heap.Pop(&open).(*node)
		if x.moves > seen[x.at.key()] {
			continue
		}
		// Setting aside is a move more, unless it breaks a ring: it waits until nothing shorter is left.
		wait := !x.aside && x.left > 0 && !p.ring(x.at)
		if wait {
			later := *x
			later.aside, later.left = true, x.left+1
			heap.Push(&open, &later)
		}
		looked++
		if !x.aside && x.left < best.left {
			best = x
		}
		if x.left == 0 {
			best = x
			out.Fewest = true
			break
		}
		for i := range p.bodies {
			if x.at[i] == end {
				continue
			}
			for to := range p.bodies[i].at {
				if to == start || to > end && (x.at[i] != start || wait) || to == end && x.aside {
					continue // set aside once
				}
				way, ok := p.can(x.at, i, uint8(to))
				if !ok {
					continue
				}
				next := slices.Clone(x.at)
				next[i] = uint8(to)
				if old, known := seen[next.key()]; known && old <= x.moves+1 {
					continue
				}
				seen[next.key()] = x.moves + 1
				order++
				m := p.move(x.at, i, uint8(to), way)
				heap.Push(&open, &node{at: next, moves: x.moves + 1, left: p.least(next), from: x, did: m, order: order, cost: x.cost + m.Seconds})
			}
		}
	}
	for x := best; x.from != nil; x = x.from {
		out.Moves = append(out.Moves, x.did)
		out.Seconds += x.did.Seconds
	}
	slices.Reverse(out.Moves)
	for i := range p.bodies {
		if best.at[i] != end {
			out.Stuck = append(out.Stuck, fmt.Sprintf("%s does not get to its spot: %s", p.bodies[i].name, p.why(best.at, i)))
		}
	}
	p.swept(out)
	return out
}

// least is how many moves are needed at least: one for each body that is not at its end, and one more when some of them
// stand in each other's way in a ring.
func (p *problem) least(n now) int {
	left := 0
	for i := range n {
		if n[i] != end {
			left++
		}
	}
	if left > 1 && p.ring(n) {
		left++
	}
	return left
}

// ring tells whether bodies at their starts stand where others are to go, round and round.
func (p *problem) ring(n now) bool {
	state := make([]uint8, len(n)) // 1 on the way, 2 done
	var visit func(i int) bool
	visit = func(i int) bool {
		state[i] = 1
		for k := range n {
			if k == i || n[k] != start || n[i] != start {
				continue
			}
			a, b := p.bodies[i].at[end], p.bodies[k].at[start]
			if p.bodies[i].area == p.bodies[k].area && a.on && b.on && a.foot.Overlaps(b.foot, touching) {
				if state[k] == 1 || state[k] == 0 && visit(k) {
					return true
				}
			}
		}
		state[i] = 2
		return false
	}
	for i := range n {
		if n[i] == start && state[i] == 0 && visit(i) {
			return true
		}
	}
	return false
}

// why a body does not get to its end.
func (p *problem) why(n now, i int) string {
	b := &p.bodies[i]
	for k := range p.bodies {
		o := &p.bodies[k]
		if k != i && o.area == b.area && o.at[n[k]].on && b.at[end].on && o.at[n[k]].foot.Overlaps(b.at[end].foot, touching) {
			return o.name + " is there"
		}
	}
	return "what stands between leaves no way so wide"
}
