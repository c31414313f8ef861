package cutting

import (
	"cmp"
	"math"
	"slices"
)

// master is the relaxed programme: as few as possible of the ways to cut stock so that every part is there, where a way may be taken in
// fractions (Gilmore and Gomory, Operations Research 9, 1961). It is solved by the revised simplex method; ways to cut are added as they
// are found to pay.
type master struct {
	rows    int // of parts, then of stock there is a number of
	parts   int // so many of them are of parts
	need    []float64
	inverse [][]float64
	basis   []int // number of the way, or of a slack below 0
	x       []float64
	ways    []way
	big     float64
}

// way to cut a piece of stock.
type way struct {
	cost float64
	a    []float64 // by row
}

// relaxed gives a bound on the cost of any plan and what each part is worth in the relaxed programme; nil when there is no time or stock.
func (pr *problem) relaxed(want []int) (float64, []float64) {
	bound := pr.byArea(want)
	kinds := []int{}
	for i, n := range want {
		if n > 0 {
			kinds = append(kinds, i)
		}
	}
	if len(kinds) == 0 || len(pr.bins) == 0 || len(kinds) > 60 || len(pr.bins) > 60 {
		return bound, nil
	}
	m := pr.newMaster(want, kinds)
	over := pr.until(.25)
	f := &filler{pr: pr, choose: 1}
	value := make([]float64, len(pr.parts))
	for turn := 0; !over(); turn++ {
		m.solve()
		y := m.duals()
		for i := range value {
			value[i] = 0
		}
		for r, k := range kinds {
			value[k] = max(0, y[r])
		}
		found := false
		for b := range pr.bins {
			for try := range 3 {
				if over() {
					break
				}
				f.value, f.avail = value, slices.Clone(want)
				f.choose, f.noise = 1, 0
				if try > 0 {
					f.choose, f.noise = .6, .25
				}
				t := f.whole(pr.bins[b].l, pr.bins[b].w)
				if m.enter(pr, b, t, kinds, y) {
					found = true
					break
				}
			}
		}
		if !found {
			break
		}
	}
	m.solve()
	y := m.duals()
	duals := make([]float64, len(pr.parts))
	for r, k := range kinds {
		duals[k] = max(0, y[r])
	}
	if lb := pr.lagrange(want, duals, kinds); lb > bound {
		bound = lb
	}
	return pr.roundedUp(bound), duals
}

// byArea is the cheapest stock that has the area of the parts.
func (pr *problem) byArea(want []int) float64 {
	need := pr.need(want)
	order := make([]int, len(pr.bins))
	for i := range order {
		order[i] = i
	}
	per := func(b int) float64 { return pr.bins[b].cost / (pr.bins[b].l * pr.bins[b].w) }
	slices.SortFunc(order, func(a, b int) int { return cmp.Compare(per(a), per(b)) })
	sum := 0.0
	for _, b := range order {
		if need <= 0 {
			break
		}
		x := &pr.bins[b]
		n := math.Min(need/(x.l*x.w), float64(x.left))
		sum += n * x.cost
		need -= n * x.l * x.w
	}
	return sum
}

func (pr *problem) newMaster(want, kinds []int) *master {
	m := &master{parts: len(kinds), ways: []way{{}}} // ways are counted from 1
	for _, k := range kinds {
		m.need = append(m.need, float64(want[k]))
	}
	for b := range pr.bins {
		m.big = max(m.big, pr.bins[b].cost)
		if pr.bins[b].left < many {
			m.need = append(m.need, float64(pr.bins[b].left))
		}
	}
	m.big *= 1000
	m.rows = len(m.need)
	m.x = slices.Clone(m.need)
	for r := range m.rows {
		row := make([]float64, m.rows)
		row[r] = 1
		m.inverse = append(m.inverse, row)
		m.basis = append(m.basis, -1-r) // what is missing of a part, or stock that is not used
	}
	return m
}

// costOf what is in the basis: a part that is missing costs much, stock that is not used nothing.
func (m *master) costOf(v int) float64 {
	switch {
	case v >= 0:
		return m.ways[v].cost
	case -1-v < m.parts:
		return m.big
	}
	return 0
}

// duals of the rows.
func (m *master) duals() []float64 {
	y := make([]float64, m.rows)
	for r := range m.rows {
		c := m.costOf(m.basis[r])
		if c == 0 {
			continue
		}
		for k := range m.rows {
			y[k] += c * m.inverse[r][k]
		}
	}
	return y
}

// enter adds a way to cut when it pays by the duals.
func (m *master) enter(pr *problem, b int, t *node, kinds []int, y []float64) bool {
	a := make([]float64, m.rows)
	at := map[int]int{}
	for r, k := range kinds {
		at[k] = r
	}
	pr.kinds(t, func(k int) {
		if r, ok := at[k]; ok {
			a[r]++
		}
	})
	row := len(kinds)
	for i := range b {
		if pr.bins[i].left < many {
			row++
		}
	}
	if pr.bins[b].left < many {
		a[row] = 1
	}
	paid := -pr.bins[b].cost
	for r := range a {
		paid += y[r] * a[r]
	}
	if paid < 1e-7*(1+pr.bins[b].cost) {
		return false
	}
	m.ways = append(m.ways, way{pr.bins[b].cost, a})
	return true
}

// solve goes on from the basis there is until no way pays.
func (m *master) solve() {
	n := m.parts
	column := make([]float64, m.rows)
	for range 2000 {
		y := m.duals()
		best, least, surplus := 0, -1e-9*(1+m.big/1000), -1
		for j := 1; j < len(m.ways); j++ {
			c := m.ways[j].cost
			for r, v := range m.ways[j].a {
				if v != 0 {
					c -= y[r] * v
				}
			}
			if c < least {
				best, least, surplus = j, c, -1
			}
		}
		for r := range m.rows { // more of a part than is wanted, or stock that is not used
			c := y[r]
			if r >= n {
				c = -y[r]
			}
			if c < least {
				best, least, surplus = 0, c, r
			}
		}
		if best == 0 && surplus < 0 {
			return
		}
		for r := range m.rows {
			column[r] = 0
			if surplus >= 0 {
				column[r] = m.inverse[r][surplus]
				if surplus < n {
					column[r] = -column[r]
				}
				continue
			}
			for k, v := range m.ways[best].a {
				if v != 0 {
					column[r] += m.inverse[r][k] * v
				}
			}
		}
		out, ratio := -1, math.Inf(1)
		for r := range m.rows {
			if column[r] > 1e-9 {
				if q := m.x[r] / column[r]; q < ratio-1e-12 || q < ratio+1e-12 && out >= 0 && m.basis[r] < m.basis[out] {
					out, ratio = r, q
				}
			}
		}
		if out < 0 {
			return
		}
		p := column[out]
		for k := range m.rows {
			m.inverse[out][k] /= p
		}
		m.x[out] = ratio
		for r := range m.rows {
			if r == out || column[r] == 0 {
				continue
			}
			q := column[r]
			for k := range m.rows {
				m.inverse[r][k] -= q * m.inverse[out][k]
			}
			m.x[r] = max(0, m.x[r]-q*ratio)
		}
		switch {
		case surplus < 0:
			m.basis[out] = best
		case surplus < n:
			m.basis[out] = -1 - m.rows - surplus // surplus of a part: costs nothing
		default:
			m.basis[out] = -1 - surplus
		}
	}
}
