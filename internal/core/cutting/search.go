package cutting

import (
	"cmp"
	"math"
	"slices"
)

// search makes plans until the time is up: stock after stock is filled, each time with what is worth most for what it costs; what lay
// badly is worth more the next time (sequential value correction: Mukhacheva and others, Pesquisa Operacional 20, 2000; Belov and
// Scheithauer, INFORMS J. Computing 19, 2007). It gives the best and how many parts it lacks.
func (pr *problem) search(want []int, bound float64, duals []float64) (best []cutFrom, missing int) {
	total := 0
	for _, n := range want {
		total += n
	}
	if total == 0 || len(pr.bins) == 0 {
		return nil, total
	}
	value := slices.Clone(pr.areas)
	if duals != nil {
		for i := range value {
			value[i] = max(duals[i], .02*pr.areas[i]*pr.worth())
		}
	}
	missing = total + 1
	cost := math.Inf(1)
	better := func(list []cutFrom) bool {
		n, c := pr.missing(list, want), pr.cost(list)
		if n < missing || n == missing && c <= cost {
			best, missing, cost = list, n, c
			return true
		}
		return false
	}
	if list := pr.assembled(want); list != nil && better(list) && missing == 0 {
		return best, 0
	}
	for round := 0; ; round++ {
		f := &filler{pr: pr, value: value, choose: 1, noise: 0}
		if round > 0 {
			f.choose, f.noise = .35+.4*pr.rng.Float64(), .3*pr.rng.Float64()
		}
		list := pr.onceThrough(f, want, round)
		list = pr.smaller(list, f)
		better(list)
		if missing == 0 && cost <= bound*(1+1e-9) || pr.over() {
			break
		}
		pr.correct(value, list, want)
		if missing == 0 && round%4 == 3 {
			if set := pr.target(want, bound, cost, value); set != nil {
				better(set)
			}
		}
		// From the second round on what there is is mended, most of the time.
		for range mended {
			if round == 0 || missing > 0 || len(best) == 0 || pr.over() {
				break
			}
			if list := pr.mend(best, value); list != nil {
				better(list)
			}
		}
	}
	return best, max(0, missing)
}

// mended so often between one plan from scratch and the next.
const mended = 30

// mend takes some pieces of a plan back, the emptiest rather than others, and cuts their parts anew out of what that sets free and what
// is not used; nothing when that costs more.
func (pr *problem) mend(list []cutFrom, value []float64) []cutFrom {
	n := min(len(list), 1+pr.rng.IntN(4))
	share := make([]float64, len(list))
	for i, c := range list {
		share[i] = pr.sum(c.tree, pr.areas) / (pr.bins[c.bin].l * pr.bins[c.bin].w) * (.6 + .8*pr.rng.Float64())
	}
	order := make([]int, len(list))
	for i := range order {
		order[i] = i
	}
	slices.SortFunc(order, func(a, b int) int { return cmp.Compare(share[a], share[b]) })
	out := map[int]bool{}
	need := make([]int, len(pr.parts))
	was := 0.0
	for _, i := range order[:n] {
		out[i] = true
		was += pr.bins[list[i].bin].cost
		pr.kinds(list[i].tree, func(k int) { need[k]++ })
	}
	var kept []cutFrom
	for i, c := range list {
		if !out[i] {
			kept = append(kept, c)
		}
	}
	// The same problem with less of everything.
	small := *pr
	small.bins = slices.Clone(pr.bins)
	for b, n := range pr.unused(kept) {
		small.bins[b].left = n
	}
	f := &filler{pr: &small, value: value, choose: .5 + .5*pr.rng.Float64(), noise: .25 * pr.rng.Float64()}
	if pr.rng.IntN(3) == 0 {
		f.value = pr.areas
	}
	made := small.smaller(small.onceThrough(f, need, 1), f)
	if small.missing(made, need) > 0 || pr.cost(made) > was+1e-9 {
		return nil
	}
	return append(kept, made...)
}

// worth of an mm² of the cheapest stock.
func (pr *problem) worth() float64 {
	out := math.Inf(1)
	for i := range pr.bins {
		out = min(out, pr.bins[i].cost/(pr.bins[i].l*pr.bins[i].w))
	}
	return out
}

// looked at so many kinds of stock before one is taken, once a plan is there.
const looked = 6

// onceThrough fills stock after stock until nothing is wanted any more or nothing fits.
func (pr *problem) onceThrough(f *filler, want []int, round int) []cutFrom {
	left := slices.Clone(want)
	have := pr.unused(nil)
	var out []cutFrom
	for round == 0 || !pr.over() {
		type tried struct {
			bin   int
			tree  *node
			score float64
		}
		var best *tried
		order := pr.rng.Perm(len(pr.bins))
		if pr.o.Goal == FewestNew || pr.o.Goal == SmallestOne {
			slices.SortStableFunc(order, func(a, b int) int {
				x, y := &pr.bins[a], &pr.bins[b]
				if n := cmp.Compare(b2i(x.Count < 0), b2i(y.Count < 0)); n != 0 || pr.o.Goal == FewestNew {
					return n
				}
				return cmp.Compare(x.l*x.w, y.l*y.w)
			})
		}
		seen := 0
		for _, b := range order {
			if have[b] == 0 {
				continue
			}
			if round > 0 && seen >= looked {
				break
			}
			f.avail = slices.Clone(left)
			t := f.whole(pr.bins[b].l, pr.bins[b].w)
			v := pr.sum(t, f.value)
			if v == 0 {
				continue
			}
			seen++
			score := v / pr.bins[b].cost
			if round > 0 {
				score *= 1 + .1*(pr.rng.Float64()-.5)
			}
			if best == nil || score > best.score {
				best = &tried{b, t, score}
			}
			if (pr.o.Goal == FewestNew || pr.o.Goal == SmallestOne) && pr.bins[b].Count > 0 {
				break // what there is goes first
			}
		}
		if best == nil {
			return out
		}
		have[best.bin]--
		pr.kinds(best.tree, func(k int) { left[k]-- })
		out = append(out, cutFrom{best.bin, best.tree})
		if !slices.ContainsFunc(left, func(n int) bool { return n > 0 }) {
			return out
		}
	}
	return out
}

func b2i(b bool) int {
	if b {
		return 1
	}
	return 0
}

// smaller tries to get what is cut from each piece out of a cheaper one that is not used, the emptiest first.
func (pr *problem) smaller(list []cutFrom, f *filler) []cutFrom {
	have := pr.unused(list)
	order := make([]int, len(pr.bins))
	for i := range order {
		order[i] = i
	}
	slices.SortStableFunc(order, func(a, b int) int { return cmp.Compare(pr.bins[a].cost, pr.bins[b].cost) })
	for i := range list {
		c := &list[i]
		need := make([]int, len(pr.parts))
		area, n := pr.sum(c.tree, pr.areas), 0
		pr.kinds(c.tree, func(k int) { need[k]++; n++ })
		for _, b := range order {
			if pr.bins[b].cost >= pr.bins[c.bin].cost-1e-12 {
				break
			}
			if have[b] == 0 || pr.bins[b].l*pr.bins[b].w < area-tight {
				continue
			}
			f.avail = slices.Clone(need)
			t := f.whole(pr.bins[b].l, pr.bins[b].w)
			m := 0
			pr.kinds(t, func(int) { m++ })
			if m == n {
				have[b]--
				have[c.bin]++
				*c = cutFrom{b, t}
				break
			}
		}
	}
	return list
}

// correct makes what lay in badly filled stock worth more, smoothly.
func (pr *problem) correct(value []float64, list []cutFrom, want []int) {
	got := make([]float64, len(value))
	for _, c := range list {
		filled := pr.sum(c.tree, pr.areas)
		if filled == 0 {
			continue
		}
		waste := pr.bins[c.bin].l * pr.bins[c.bin].w / filled
		pr.kinds(c.tree, func(k int) { got[k] += waste })
	}
	scale, all := 0.0, pr.need(want)
	for i := range value {
		scale += value[i] * float64(want[i])
	}
	if scale == 0 || all == 0 {
		return
	}
	p := 1.01 + .05*pr.rng.Float64()
	for i := range value {
		if want[i] == 0 {
			continue
		}
		is := math.Pow(pr.areas[i], p) * got[i] / float64(want[i]) * scale / all
		g := .3 + .5*pr.rng.Float64()
		value[i] = (1-g)*value[i] + g*is
	}
}

// target looks for a set of stock that costs less than the best plan so far, and tries to get everything out of it.
func (pr *problem) target(want []int, bound, cost float64, value []float64) []cutFrom {
	need := pr.need(want)
	// A random set between the bound and the best, built up by stock that is not too much.
	for range 20 {
		var set []int
		have := pr.unused(nil)
		sum, room := 0.0, 0.0
		for _, b := range pr.rng.Perm(len(pr.bins)) {
			for have[b] > 0 && sum+pr.bins[b].cost < cost-1e-9 && (room < need || sum < bound) {
				if pr.bins[b].left < many && pr.rng.IntN(3) == 0 {
					break
				}
				have[b]--
				set = append(set, b)
				sum += pr.bins[b].cost
				room += pr.bins[b].l * pr.bins[b].w
			}
		}
		if room < need*1.0001 || sum >= cost-1e-9 {
			continue
		}
		slices.SortFunc(set, func(a, b int) int { return cmp.Compare(pr.bins[a].l*pr.bins[a].w, pr.bins[b].l*pr.bins[b].w) })
		f := &filler{pr: pr, value: value, choose: .7, noise: .2, avail: slices.Clone(want)}
		var out []cutFrom
		for _, b := range set {
			out = append(out, cutFrom{b, f.whole(pr.bins[b].l, pr.bins[b].w)})
		}
		if !slices.ContainsFunc(f.avail, func(n int) bool { return n > 0 }) {
			return slices.DeleteFunc(out, func(c cutFrom) bool { n := 0; pr.kinds(c.tree, func(int) { n++ }); return n == 0 })
		}
	}
	return nil
}

// fewer looks for a plan of the same cost with fewer cuts, in the time that is left for that.
func (pr *problem) fewer(best []cutFrom, want []int) []cutFrom {
	count := func(list []cutFrom) (n int) {
		for _, c := range list {
			n += c.tree.count()
		}
		return n
	}
	pr.over = pr.until(1)
	cost, least := pr.cost(best), count(best)
	for !pr.over() {
		f := &filler{pr: pr, value: pr.areas, choose: .4 + .6*pr.rng.Float64(), noise: .3 * pr.rng.Float64()}
		list := pr.smaller(pr.onceThrough(f, want, 1), f)
		if n := count(list); pr.missing(list, want) == 0 && pr.cost(list) <= cost*1.0001 && n < least {
			best, least = list, n
		}
	}
	return best
}
