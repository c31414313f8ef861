package arrange

import (
	"cmp"
	"math"
	"math/rand/v2"
	"slices"
)

// usualTries of the search for each school.
const usualTries = 600000

// state is which spot each station has.
type state struct {
	at   []int
	cost float64
}

// costOf a station in a state: to what stays, its wish, and to all others.
func (p *problem) costOf(n, k int, at []int) float64 {
	x := &p.spots[n][k]
	sum := x.alone + x.wish
	for m, w := range p.pair[n] {
		if w > 0 && m != n {
			sum += w * x.stand.Distance(p.spots[m][at[m]].stand) / 1000
		}
	}
	return sum
}

// total of a state.
func (p *problem) total(at []int) float64 {
	sum := 0.0
	for n, k := range at {
		x := &p.spots[n][k]
		sum += x.alone + x.wish
		for m := range n {
			if w := p.pair[n][m]; w > 0 {
				sum += w * x.stand.Distance(p.spots[m][at[m]].stand) / 1000
			}
		}
	}
	return sum
}

// fits tells whether a station can have a spot with the others where they are, but for one that is about to move.
func (p *problem) fits(n, k int, at []int, but int) bool {
	for m := range at {
		if m != n && m != but && !p.together(n, k, m, at[m]) {
			return false
		}
	}
	return true
}

// solve looks for the cheapest arrangement of a school: from as it stands, and anew from spots taken at random, by moving one
// station or changing two about; worse ones are taken now and then, less and less (simulated annealing). Of those found the
// cheapest is taken to whose stations one gets on ways wide enough, in every mode.
func (p *problem) solve(school School, o Options) (Proposal, bool) {
	for n := range p.spots {
		for k := range p.spots[n] {
			p.spots[n][k].wish = p.wish(n, &p.spots[n][k], school)
		}
	}
	tries := cmp.Or(o.Tries, usualTries)
	rng := rand.New(rand.NewPCG(o.Seed, uint64(len(p.ids))))
	var found []state
	keep := func(s state) {
		if len(found) == mostKept && s.cost >= found[len(found)-1].cost || !p.reached(s.at) {
			return
		}
		s.at = slices.Clone(s.at)
		i, there := slices.BinarySearchFunc(found, s, func(a, b state) int { return cmp.Compare(a.cost, b.cost) })
		if there && slices.Equal(found[i].at, s.at) {
			return
		}
		if found = slices.Insert(found, i, s); len(found) > mostKept {
			found = found[:mostKept]
		}
	}
	start := p.now
	lawful := func(at []int) bool {
		for n := range at {
			if !p.fits(n, at[n], at, -1) {
				return false
			}
		}
		return true
	}
	for run := range runs {
		at := slices.Clone(start)
		if run > 0 {
			if r, ok := p.random(rng); ok {
				at = r
			}
		}
		legal := lawful(at)
		cost := p.total(at)
		heat := max(1, .05*cost)
		n, over := tries/runs, o.until(onStraights*float64(run+1)/runs)
		for t := range n {
			if t%256 == 0 && over() {
				break
			}
			temp := heat * math.Pow(.002, float64(t)/float64(n))
			a := rng.IntN(len(at))
			if rng.IntN(4) == 0 && len(at) > 1 { // two change about: each to a spot near the other's
				b := rng.IntN(len(at))
				if a == b {
					continue
				}
				ka, ok := p.near(a, &p.spots[b][at[b]], rng)
				kb, ok2 := p.near(b, &p.spots[a][at[a]], rng)
				if !ok || !ok2 || !p.fits(a, ka, at, b) {
					continue
				}
				wasA, wasB := at[a], at[b]
				at[a] = ka
				if !p.fits(b, kb, at, -1) {
					at[a] = wasA
					continue
				}
				at[b] = kb
				if next := p.total(at); next < cost || rng.Float64() < math.Exp((cost-next)/temp) {
					cost = next
				} else {
					at[a], at[b] = wasA, wasB
					continue
				}
			} else {
				k := rng.IntN(len(p.spots[a]))
				if rng.IntN(2) == 0 { // often one close by
					if near, ok := p.near(a, &p.spots[a][at[a]], rng); ok {
						k = near
					}
				}
				if k == at[a] || !p.fits(a, k, at, -1) {
					continue
				}
				d := p.costOf(a, k, at) - p.costOf(a, at[a], at)
				if d >= 0 && rng.Float64() >= math.Exp(-d/temp) {
					continue
				}
				at[a] = k
				cost += d
			}
			if !legal {
				legal = lawful(at)
			}
			if legal && (len(found) < few || cost < found[min(few, len(found))-1].cost) {
				keep(state{at, cost})
			}
		}
		if legal {
			p.descend(at, lawful)
			keep(state{at, p.total(at)})
		}
	}
	// Ways round what stands there are longer than straight ones: the best few, and how it stands, are gone on from with those.
	var walked []state
	begin := append([]state{{start, 0}}, found[:min(len(found), few)]...)
	for i, f := range begin {
		if !lawful(f.at) || !p.reached(f.at) {
			continue
		}
		x := p.onFoot(slices.Clone(f.at), rng, tries/asked, o.until(onStraights+(onWays-onStraights)*float64(i+1)/float64(len(begin))))
		walked = append(walked, x)
	}
	// Where few arrangements are possible at all, none of them is left out.
	walked = append(walked, p.each(tries/asked*few, o.until(onWays))...)
	slices.SortStableFunc(walked, func(a, b state) int { return cmp.Compare(a.cost, b.cost) })
	bound := p.bound()
	// What is shortest on foot may bar shelves in a mode: of the best few the one is taken that is handled quickest once homes follow.
	var best Proposal
	lawfulOnes := 0
	for _, f := range walked {
		x, ok := p.proposal(f.at)
		if !ok {
			continue
		}
		x.School, x.Bound, x.Follow = school, bound, followed(x.Shop, p.area.ID)
		if lawfulOnes++; lawfulOnes == 1 || x.Follow.Handling < best.Follow.Handling {
			best = x
		}
		if over := o.until(onWays); lawfulOnes == compared || over() {
			break
		}
	}
	return best, lawfulOnes > 0
}

const (
	runs     = 6
	mostKept = 40
	asked    = 1800 // a way on foot costs so many times what a straight one does
	compared = 2    // so many are compared with homes that follow
	few      = 8    // while it is searched only what is among so many best is looked at closer

	countable = 400000  // arrangements of a room are gone through one by one up to so many,
	triedOut  = 4000000 // and while no more than so many spots have to be tried for them

	// shares of the time by which it is searched by straight ways, and by ways round what stands there
	onStraights = .35
	onWays      = .7
)

// each goes through the arrangements of a small room, on foot, in the order of their straight ways, until those alone cost more
// than the best: it is among what comes back. At most so many are walked through; nothing comes back where there are too many
// arrangements to be listed.
func (p *problem) each(most int, over func() bool) (walked []state) {
	var all []state
	left := triedOut
	at := make([]int, len(p.ids))
	var fill func(n int) bool
	fill = func(n int) bool {
		if n == len(at) {
			all = append(all, state{slices.Clone(at), p.total(at)})
			return len(all) <= countable
		}
	spots:
		for k := range p.spots[n] {
			if left--; left < 0 || left%1024 == 0 && over() {
				return false
			}
			for m := range n {
				if !p.together(n, k, m, at[m]) {
					continue spots
				}
			}
			at[n] = k
			if !fill(n + 1) {
				return false
			}
		}
		return true
	}
	if !fill(0) {
		return nil
	}
	slices.SortStableFunc(all, func(a, b state) int { return cmp.Compare(a.cost, b.cost) })
	low := math.Inf(1)
	for _, x := range all {
		if most--; most < 0 || x.cost >= low || over() {
			break
		}
		if p.reached(x.at) {
			x.cost = p.walked(x.at)
			walked, low = append(walked, x), min(low, x.cost)
		}
	}
	return walked
}

// descend moves one station at a time to its best spot until none is better.
func (p *problem) descend(at []int, lawful func([]int) bool) {
	for better := true; better; {
		better = false
		for n := range at {
			was := p.costOf(n, at[n], at)
			best, low := at[n], was
			for k := range p.spots[n] {
				if c := p.costOf(n, k, at); c < low-1e-9 && p.fits(n, k, at, -1) {
					best, low = k, c
				}
			}
			if best != at[n] {
				at[n], better = best, true
			}
		}
	}
}

// onFoot goes on from an arrangement by ways round what stands there: one station at a time to another spot that is hopeful by
// straight ways, kept when it is better, now and then when it is a little worse.
func (p *problem) onFoot(at []int, rng *rand.Rand, tries int, done func() bool) state {
	cost := p.walked(at)
	best := state{slices.Clone(at), cost}
	for t := range tries {
		if done() {
			break
		}
		temp := .01 * cost * (1 - float64(t)/float64(tries))
		n := rng.IntN(len(at))
		was, straight := at[n], p.costOf(n, at[n], at)
		k, low := -1, math.Inf(1)
		for range hopeful {
			c := rng.IntN(len(p.spots[n]))
			if rng.IntN(3) > 0 {
				c, _ = p.near(n, &p.spots[n][at[n]], rng)
			}
			if c != was && p.fits(n, c, at, -1) {
				if d := p.costOf(n, c, at); d < low {
					k, low = c, d
				}
			}
		}
		if k < 0 || low > straight+.05*cost {
			continue
		}
		at[n] = k
		if next := p.walked(at); (next < cost || rng.Float64() < math.Exp((cost-next)/max(temp, 1e-6))) && p.reached(at) {
			if cost = next; cost < best.cost {
				best = state{slices.Clone(at), cost}
			}
			continue
		}
		at[n] = was
	}
	return best
}

// hopeful is how many spots are compared by straight ways before one is walked to.
const hopeful = 8

// near is one of a station's spots close to where something stands.
func (p *problem) near(n int, to *spot, rng *rand.Rand) (int, bool) {
	mid := to.foot[0].Add(to.foot[2]).Mul(.5)
	best, far := -1, math.Inf(1)
	for range 12 {
		k := rng.IntN(len(p.spots[n]))
		x := &p.spots[n][k]
		if d := x.foot[0].Add(x.foot[2]).Mul(.5).Distance(mid); d < far {
			best, far = k, d
		}
	}
	return best, best >= 0
}

// random is an arrangement in which each station has a spot of its own; false when none is found soon.
func (p *problem) random(rng *rand.Rand) ([]int, bool) {
	for range 20 {
		at := make([]int, len(p.ids))
		var put []int
		done := true
		for _, n := range rng.Perm(len(at)) {
			ok := false
			for range 200 {
				k := rng.IntN(len(p.spots[n]))
				if !slices.ContainsFunc(put, func(m int) bool { return !p.together(n, k, m, at[m]) }) {
					at[n], ok = k, true
					put = append(put, n)
					break
				}
			}
			if !ok {
				done = false
				break
			}
		}
		if done {
			return at, true
		}
	}
	return nil, false
}

// bound is what no arrangement of these spots can be below, in straight metres a week without wishes: each station at its best
// to what stays, each pair as near as any of their spots that are apart.
func (p *problem) bound() float64 {
	sum := p.rest
	for n := range p.spots {
		low := math.Inf(1)
		for k := range p.spots[n] {
			low = min(low, p.spots[n][k].alone)
		}
		sum += low
		for m := range n {
			w := p.pair[n][m]
			if w == 0 {
				continue
			}
			near := math.Inf(1)
			for k := range p.spots[n] {
				for l := range p.spots[m] {
					if d := p.spots[n][k].stand.Distance(p.spots[m][l].stand); d < near && apart(&p.spots[n][k], &p.spots[m][l], p.lodger[n], p.lodger[m]) {
						near = d
					}
				}
			}
			sum += w * near / 1000
		}
	}
	return sum
}
