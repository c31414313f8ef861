package arrange

import (
	"cmp"
	"math"
	"slices"

	"hobrak/internal/core/shop"
)

// Best looks at every arrangement of a room for the cheapest by a school, on foot: in the order of their straight ways, until
// those alone cost more. It gives how many there are that are allowed.
func Best(s *shop.Shop, school School, o Options) (best float64, lawful int, err error) {
	p, err := newProblem(s, school, o)
	if err != nil {
		return 0, 0, err
	}
	for n := range p.spots {
		for k := range p.spots[n] {
			p.spots[n][k].wish = p.wish(n, &p.spots[n][k], school)
		}
	}
	var all []state
	at := make([]int, len(p.ids))
	var fill func(n int)
	fill = func(n int) {
		if n == len(at) {
			all = append(all, state{slices.Clone(at), p.total(at)})
			return
		}
		for k := range p.spots[n] {
			ok := true
			for m := range n {
				ok = ok && p.together(n, k, m, at[m])
			}
			if ok {
				at[n] = k
				fill(n + 1)
			}
		}
	}
	fill(0)
	slices.SortFunc(all, func(a, b state) int { return cmp.Compare(a.cost, b.cost) })
	best = math.Inf(1)
	for _, x := range all {
		if x.cost >= best {
			break
		}
		if p.reached(x.at) {
			best = min(best, p.walked(x.at))
		}
	}
	return best, len(all), nil
}

// Cost of a proposal by its school, on foot.
func Cost(s *shop.Shop, x *Proposal, o Options) (float64, error) {
	p, err := newProblem(s, x.School, o)
	if err != nil {
		return 0, err
	}
	at := slices.Clone(p.now)
	for n, i := range p.ids {
		st := &x.Shop.Stations[i]
		for k := range p.spots[n] {
			y := &p.spots[n][k]
			y.wish = p.wish(n, y, x.School)
			if y.st.X == st.X && y.st.Y == st.Y && y.st.Rot == st.Rot {
				at[n] = k
			}
		}
	}
	return p.walked(at), nil
}
