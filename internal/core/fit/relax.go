package fit

import (
	"math"
	"slices"

	"hobrak/internal/core/keeping"
	"hobrak/internal/core/pack"
)

// cheapest way of a thing at the present multipliers, and what it takes of the cells.
func (p *relaxation) cheapest(t *relaxed, takes []part, buf []float64) (float64, []part) {
	least := min(t.alone, t.beyond)
	best := pick{}
	if t.last.known {
		if c := p.tollOf(t, t.last); c < least {
			least, best = c, t.last
		}
	}
	for k := range t.placings {
		w := &t.placings[k]
		if w.least >= least {
			break // cheapest first, and tolls only add
		}
		g := &p.grounds[w.place]
		toll := p.wholeToll(w)
		if w.least+toll >= least {
			continue
		}
		if len(w.poses) == 0 {
			least, best = w.least+toll, pick{known: true, placing: k, pose: -1}
			continue
		}
		nx := g.x.cells()
		per := p.per[g.first+2:]
		for s := range w.poses {
			q := &w.poses[s]
			for z := range q.z {
				if q.least[z]+toll >= least {
					continue
				}
				along, before, sum := buf[:nx+1], buf[nx+1:2*nx+2], 0.0
				clear(along)
				for _, r := range q.z[z] {
					amount := q.times * r.amount
					for c, l := range per[r.cell*nx : (r.cell+1)*nx] {
						along[c] += amount * l
						sum += l
					}
				}
				// What all cells before one cost.
				for c, l := range along[:nx] {
					before[c+1] = before[c] + l*(g.x.edges[c+1]-g.x.edges[c])
				}
				costs := q.cost[z*len(q.x) : (z+1)*len(q.x)]
				for x, cost := range costs {
					c := cost + toll
					if c >= least {
						continue
					}
					if sum > 0 {
						o := &q.spans[x]
						c += o.first*along[o.from] + before[o.to] - before[o.from+1] + o.last*along[o.to]
						if c >= least {
							continue
						}
					}
					least, best = c, pick{true, k, s, x, z}
				}
			}
		}
	}
	t.last = best
	takes = takes[:0]
	if !best.known {
		return least, takes
	}
	w := &t.placings[best.placing]
	takes = append(takes, w.whole...)
	if best.pose >= 0 {
		g := &p.grounds[w.place]
		nx := g.x.cells()
		q := &w.poses[best.pose]
		for _, r := range q.z[best.z] {
			for _, o := range q.x[best.x] {
				c := g.first + 2 + r.cell*nx + o.cell
				takes = append(takes, part{c, q.times * r.amount * o.amount / p.room[c]})
			}
		}
	}
	return least, takes
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
	for it := 0; it < most && !done(); it++ {
		p.divide()
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
		if best < -1e299 || sum > best+1e-7*math.Abs(best) {
			if sum > best+1e-4*math.Abs(best) {
				stall = 0
			}
			best = sum
			copy(kept, p.multiplier)
		} else if stall++; stall >= p.grain.stall {
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
func (p *relaxation) tollOf(t *relaxed, a pick) float64 {
	w := &t.placings[a.placing]
	toll := p.wholeToll(w)
	if a.pose < 0 {
		return w.least + toll
	}
	g, q := &p.grounds[w.place], &w.poses[a.pose]
	nx := g.x.cells()
	toll += q.cost[a.z*len(q.x)+a.x]
	for _, r := range q.z[a.z] {
		for _, o := range q.x[a.x] {
			toll += q.times * r.amount * o.amount * p.per[g.first+2+r.cell*nx+o.cell]
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
