package fit

import (
	"math"
	"slices"

	"hobrak/internal/core/keeping"
	"hobrak/internal/core/pack"
)

// cheapest way of a thing at the present multipliers, and what it takes of the cells. Several
// alike are parted into blocks in the way that costs least.
func (p *relaxation) cheapest(t *relaxed, takes []part, buf []float64) (float64, []part) {
	takes = takes[:0]
	if t.n == 1 || t.n > mostAlike {
		var best pick
		cost := p.block(t, t.n, &t.last[0], &best, buf)
		return cost, p.takes(t, &best, takes)
	}
	var picks [mostAlike + 1]pick
	var cost, least [mostAlike + 1]float64
	var last [mostAlike + 1]int // block of the best parting
	for n := 1; n <= t.n; n++ {
		cost[n] = p.block(t, n, &t.last[n-1], &picks[n], buf)
		least[n] = math.Inf(1)
		for m := 1; m <= n; m++ {
			if c := cost[m] + least[n-m]; c < least[n] {
				least[n], last[n] = c, m
			}
		}
	}
	if math.IsInf(least[t.n], 1) {
		return least[t.n], takes
	}
	for n := t.n; n > 0; n -= last[n] {
		takes = p.takes(t, &picks[last[n]], takes)
	}
	return least[t.n], takes
}

// fullSteps: in one of so many steps every placing is looked at, and the bound is known; in the others only
// what was the cheapest lately. That comes to the same bound in half of the time.
const fullSteps = 3

// block of n pieces of a thing at its cheapest, and what that is; lately is what was the cheapest before.
func (p *relaxation) block(t *relaxed, n int, lately *recent, best *pick, buf []float64) float64 {
	share := float64(n) / float64(t.n)
	least := share * min(t.alone, t.beyond)
	*best = pick{n: n}
	for i := range lately.picks {
		if a := &lately.picks[i]; a.known {
			if c := p.tollOf(t, a); c < least {
				least, *best = c, *a
			}
		}
	}
	if p.lean {
		return least
	}
	found := *best
	defer func() {
		if best.known && *best != found {
			lately.picks[lately.next] = *best
			lately.next = (lately.next + 1) % len(lately.picks)
		}
	}()
	for k := range t.placings {
		w := &t.placings[k]
		if share*w.least >= least {
			break // cheapest first, and tolls only add
		}
		g := &p.grounds[w.place]
		toll := share * p.wholeToll(w)
		if share*w.least+toll >= least {
			continue
		}
		if len(w.poses) == 0 {
			least, *best = share*w.least+toll, pick{known: true, n: n, placing: k, pose: -1}
			continue
		}
		nx := g.x.cells()
		per := p.per[g.first+2:]
		for s := range w.poses {
			q := &w.poses[s]
			if q.n != n {
				continue
			}
			for z := range q.z {
				if q.least[z]+toll >= least {
					continue
				}
				first, last := buf[:2*nx+2], buf[2*nx+2:4*nx+4]
				sum, low := q.alongOf(z, per, g, first)
				if q.least[z]+toll+low*q.wide >= least {
					continue
				}
				if q.last != nil {
					more, _ := q.last.alongOf(z, per, g, last)
					sum += more
				}
				costs := q.cost[z*len(q.x) : (z+1)*len(q.x)]
				for x, cost := range costs {
					c := cost + toll
					if c >= least {
						continue
					}
					if sum > 0 {
						c += q.spans[x].of(first)
						if q.last != nil {
							c += q.last.spans[x].of(last)
						}
						if c >= least {
							continue
						}
					}
					least, *best = c, pick{true, n, k, s, x, z}
				}
			}
		}
	}
	return least
}

// alongOf fills in what a mm of each column costs at the z-th height, and then what all columns
// before one do, and says whether that is anything, and what it is at least.
func (q *poses) alongOf(z int, per []float64, g *ground, buf []float64) (sum, low float64) {
	nx := g.x.cells()
	along, before := buf[:nx+1], buf[nx+1:]
	clear(along)
	for _, r := range q.z[z] {
		for c, l := range per[r.cell*nx : (r.cell+1)*nx] {
			along[c] += r.amount * l
			sum += l
		}
	}
	before[0], low = 0, math.Inf(1)
	for c, l := range along[:nx] {
		before[c+1] = before[c] + l*(g.x.edges[c+1]-g.x.edges[c])
		low = min(low, l)
	}
	return sum, low
}

// of what alongOf filled in, what a span costs.
func (o *span) of(buf []float64) float64 {
	along, before := buf[:len(buf)/2], buf[len(buf)/2:]
	return o.first*along[o.from] + before[o.to] - before[o.from+1] + o.last*along[o.to]
}

// takes adds what a pick takes of the cells, as shares.
func (p *relaxation) takes(t *relaxed, a *pick, out []part) []part {
	if !a.known {
		return out
	}
	w := &t.placings[a.placing]
	share := float64(a.n) / float64(t.n)
	for _, s := range w.whole {
		out = append(out, part{s.cell, share * s.amount})
	}
	if a.pose < 0 {
		return out
	}
	g := &p.grounds[w.place]
	nx := g.x.cells()
	for q := &w.poses[a.pose]; q != nil; q = q.last {
		for _, r := range q.z[a.z] {
			for _, o := range q.x[a.x] {
				c := g.first + 2 + r.cell*nx + o.cell
				out = append(out, part{c, r.amount * o.amount / p.room[c]})
			}
		}
	}
	return out
}

// steps improves the multipliers by subgradient steps towards a target and returns the best
// bound. Target is the cost of a plan, 0 when none is known. A multiplier moves the less the
// more its cell swung between too full and empty so far: how much a multiplier matters differs
// by cell, and steps alike for all of them need many times as many to come as far (a
// scaling like that of Duchi, Hazan, Singer 2011, but one that forgets).
func (p *relaxation) steps(most int, target float64, done func() bool) float64 {
	best, stall := -1e300, 0
	kept := slices.Clone(p.multiplier)
	move := make([]float64, len(p.multiplier))
	use := make([]float64, len(p.room))
	way := make([]float64, len(p.room)) // smoothed direction
	workers := crew(len(p.things), 16)
	parts := make([][]float64, workers)
	sums := make([]float64, workers)
	for w := range parts {
		parts[w] = make([]float64, len(p.room))
	}
	defer func() { p.lean = false }()
	for it := 0; it < most && !done(); it++ {
		p.divide()
		p.lean = it%fullSteps != 0
		spread(workers, func(w int) {
			mine := parts[w]
			clear(mine)
			sum := 0.0
			var takes []part
			var c float64
			buf := make([]float64, room)
			for k := w; k < len(p.things); k += workers {
				c, takes = p.cheapest(&p.things[k], takes, buf)
				sum += c
				for _, s := range takes {
					mine[s.cell] += s.amount
				}
			}
			sums[w] = sum
		})
		sum := p.fixed
		copy(use, p.taken)
		for w := range parts {
			sum += sums[w]
			for c, v := range parts[w] {
				use[c] += v
			}
		}
		for c := range p.multiplier {
			sum -= p.multiplier[c] * (1 - p.taken[c])
		}
		switch {
		case p.lean: // it proves nothing
		case best < -1e299 || sum > best+1e-7*math.Abs(best):
			if sum > best+1e-4*math.Abs(best) {
				stall = 0
			}
			best = sum
			copy(kept, p.multiplier)
		default:
			stall++
		}
		if stall >= p.grain.stall {
			p.step, stall = p.step*p.grain.shrink, 0
			copy(p.multiplier, kept)
			clear(way)
			if p.step < p.grain.end {
				break
			}
			continue
		}
		norm := 0.0
		for c := range p.multiplier {
			way[c] = .4*way[c] + use[c] - 1
			if p.multiplier[c] <= 0 && way[c] < 0 {
				way[c] = 0
			}
			p.swing[c] = .95*p.swing[c] + .05*way[c]*way[c]
			move[c] = way[c] / math.Pow(p.swing[c]+.01, .75)
			norm += way[c] * move[c]
		}
		if norm == 0 {
			break
		}
		goal := target
		if goal <= best {
			goal = best + .02*math.Abs(best) + 1
		}
		length := p.step * (goal - sum) / norm
		for c := range p.multiplier {
			p.multiplier[c] = max(0, p.multiplier[c]+length*move[c])
		}
	}
	copy(p.multiplier, kept)
	p.divide()
	return best
}

// divide the multipliers of cells by their room.
func (p *relaxation) divide() {
	for c, l := range p.multiplier {
		p.per[c] = 0
		if l > 0 {
			p.per[c] = l / p.room[c]
		}
	}
}

// wholeToll is what a placing takes of the place as a whole and of its weight.
func (p *relaxation) wholeToll(w *placing) (toll float64) {
	for _, s := range w.whole {
		toll += p.multiplier[s.cell] * s.amount
	}
	return toll
}

// tollOf a pick at the present multipliers.
func (p *relaxation) tollOf(t *relaxed, a *pick) float64 {
	w := &t.placings[a.placing]
	share := float64(a.n) / float64(t.n)
	toll := share * p.wholeToll(w)
	if a.pose < 0 {
		return share*w.least + toll
	}
	g, q := &p.grounds[w.place], &w.poses[a.pose]
	nx := g.x.cells()
	toll += q.cost[a.z*len(q.x)+a.x]
	for ; q != nil; q = q.last {
		for _, r := range q.z[a.z] {
			for _, o := range q.x[a.x] {
				toll += r.amount * o.amount * p.per[g.first+2+r.cell*nx+o.cell]
			}
		}
	}
	return toll
}

// improve the bound, a proven lower bound of the weekly handling of any plan for
// these places that leaves what stays where it is.
func (p *relaxation) improve(most int, target float64, done func() bool) float64 {
	if len(p.things) == 0 {
		return p.fixed
	}
	return max(0, p.steps(most, target, done))
}

// toll is the cost, at the multipliers, of what n pieces at a spot take from others.
func (p *relaxation) toll(item, n, place int, s pack.Spot) (toll float64) {
	for _, w := range p.whole(item, n, place) {
		toll += p.multiplier[w.cell] * w.amount
	}
	g := &p.grounds[place]
	nx := g.x.cells()
	if nx <= 0 {
		return toll
	}
	it, pl := &p.e.shop.Items[item], &p.e.shop.Places[place]
	kind := p.e.kinds[place]
	w, up := kind.Block(it, n, s)
	grow := min(it.KeptClear().MM(), g.slack) / 2
	x := kind.Grip(pl, it, n, s).X - w/2
	var rows []part
	if g.cells == keeping.InRows {
		taken, _, _, _ := kind.Row(pl, it, up, kind.RowOf(pl, s, up))
		for _, r := range taken {
			rows = append(rows, part{r, 1})
		}
	} else {
		rows = g.z.parts(s.Y.MM()-grow, s.Y.MM()+up+grow)
	}
	for _, o := range g.x.parts(x-grow, x+w+grow) {
		for _, r := range rows {
			if c := g.first + 2 + r.cell*nx + o.cell; p.per[c] > 0 {
				toll += p.per[c] * r.amount * o.amount
			}
		}
	}
	return toll
}
