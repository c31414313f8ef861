package fit

import (
	"math"
	"slices"

	"hobrak/internal/core/keeping"
	"hobrak/internal/core/pack"
)

// cheapest way of a thing at the present prices, and what it takes of the cells.
func (p *pricer) cheapest(t *priced, takes []part, buf []float64) (float64, []part) {
	least := min(t.alone, t.beyond)
	best := pick{}
	if t.last.known {
		if c := p.priceOf(t, t.last); c < least {
			least, best = c, t.last
		}
	}
	for k := range t.ways {
		w := &t.ways[k]
		if w.least >= least {
			break // cheapest first, and prices only add
		}
		g := &p.grounds[w.place]
		price := p.wholePrice(w)
		if w.least+price >= least {
			continue
		}
		if len(w.poses) == 0 {
			least, best = w.least+price, pick{known: true, way: k, pose: -1}
			continue
		}
		nx := g.x.cells()
		per := p.per[g.first+2:]
		for s := range w.poses {
			q := &w.poses[s]
			for z := range q.z {
				if q.least[z]+price >= least {
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
					c := cost + price
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
	w := &t.ways[best.way]
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

// steps improves the prices by subgradient steps towards a target and returns the best
// bound. Target is the cost of a plan, 0 when none is known. A price moves the less the
// more its cell swung between too full and empty so far: how much a price matters differs
// by cell, and steps alike for all of them need many times as many to come as far (a
// scaling like that of Duchi, Hazan, Singer 2011, but one that forgets).
func (p *pricer) steps(most int, target float64, done func() bool) float64 {
	best, stall := -1e300, 0
	kept := slices.Clone(p.lambda)
	move := make([]float64, len(p.lambda))
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
		for c := range p.lambda {
			sum -= p.lambda[c] * (1 - p.taken[c])
		}
		if best < -1e299 || sum > best+1e-7*math.Abs(best) {
			if sum > best+1e-4*math.Abs(best) {
				stall = 0
			}
			best = sum
			copy(kept, p.lambda)
		} else if stall++; stall >= p.grain.stall {
			p.step, stall = p.step*p.grain.shrink, 0
			copy(p.lambda, kept)
			clear(way)
			if p.step < p.grain.end {
				break
			}
			continue
		}
		norm := 0.0
		for c := range p.lambda {
			way[c] = .4*way[c] + use[c] - 1
			if p.lambda[c] <= 0 && way[c] < 0 {
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
		for c := range p.lambda {
			p.lambda[c] = max(0, p.lambda[c]+length*move[c])
		}
	}
	copy(p.lambda, kept)
	p.divide()
	return best
}

// divide the prices of cells by their room.
func (p *pricer) divide() {
	for c, l := range p.lambda {
		p.per[c] = 0
		if l > 0 {
			p.per[c] = l / p.room[c]
		}
	}
}

// wholePrice is the price of what a way takes of the place as a whole and of its weight.
func (p *pricer) wholePrice(w *way) (price float64) {
	for _, s := range w.whole {
		price += p.lambda[s.cell] * s.amount
	}
	return price
}

// priceOf a pick at the present prices.
func (p *pricer) priceOf(t *priced, a pick) float64 {
	w := &t.ways[a.way]
	price := p.wholePrice(w)
	if a.pose < 0 {
		return w.least + price
	}
	g, q := &p.grounds[w.place], &w.poses[a.pose]
	nx := g.x.cells()
	price += q.cost[a.z*len(q.x)+a.x]
	for _, r := range q.z[a.z] {
		for _, o := range q.x[a.x] {
			price += q.times * r.amount * o.amount * p.per[g.first+2+r.cell*nx+o.cell]
		}
	}
	return price
}

// improve the bound, a proven lower bound of the weekly handling of any plan for
// these places that leaves what stays where it is.
func (p *pricer) improve(most int, target float64, done func() bool) float64 {
	if len(p.things) == 0 {
		return p.fixed
	}
	return max(0, p.steps(most, target, done))
}

// toll is the price of what n pieces at a spot take from others.
func (p *pricer) toll(item, n, place int, s pack.Spot) (price float64) {
	for _, w := range p.whole(item, n, place) {
		price += p.lambda[w.cell] * w.amount
	}
	g := &p.grounds[place]
	nx := g.x.cells()
	if nx <= 0 {
		return price
	}
	it, pl := &p.e.shop.Items[item], &p.e.shop.Places[place]
	kind := p.e.kinds[place]
	w, up := kind.Block(it, n, s)
	grow := min(it.HandRoom().MM(), g.slack) / 2
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
				price += p.per[c] * r.amount * o.amount
			}
		}
	}
	return price
}
