package fit

import (
	"cmp"
	"math"
	"slices"
	"strings"

	"hobrak/internal/core/keeping"
	"hobrak/internal/core/pack"
	"hobrak/internal/core/shop"
)

// Point of a curve: what so many moves bring.
type Point struct {
	Moves    int
	Handling float64  // seconds a week after them
	Least    float64  // no plan that moves so few things costs less
	Exact    bool     // no other so many moves to the spots that are looked at bring more
	Items    []string // that move, in the order in which they do most
}

// Curve is what few moves bring, from none on.
type Curve struct {
	Points []Point
	homes  [][]shop.Home // after each of them
}

// Homes after a point of the curve.
func (c *Curve) Homes(k int) []shop.Home { return c.homes[k] }

// exactUpTo so many moves all that may be better are gone through, as long as there are not too many.
const (
	exactUpTo  = 3
	mostLooked = 60_000
)

// Curve of a shop with its homes as they stand: after each point one thing more has another home, or one for the first time. Up to three moves
// are the best there are, as far as they can be gone through; beyond, the move or exchange that saves most for each thing it moves comes next,
// what has moved already moving again for nothing. Handling, and what wishes cost, count; locked homes stay. Most is how many moves are enough.
func (p *Problem) Curve(most int, o Options) *Curve {
	if o.Wishes == nil {
		w := WishesOf(p.shop)
		o.Wishes = &w
	}
	if o.Done == nil {
		o.Done = func() bool { return false }
	}
	e := p.AsItIs()
	e.asked = o.Items
	c := &climb{Arrangement: e, o: &o, moved: map[int]bool{}}
	e.withHomeless()
	out := &Curve{}
	start := c.total()
	can := c.potentials()
	least := func(k int) float64 { // no more than the k largest that anything can save by itself
		sum := start
		for _, g := range can[:min(k, len(can))] {
			sum -= g
		}
		return sum
	}
	note := func(exact bool) {
		items := make([]string, 0, len(c.order))
		for _, i := range c.order {
			items = append(items, c.itemOf(i).ID)
		}
		out.Points = append(out.Points, Point{Moves: len(c.order), Handling: c.total(), Least: least(len(c.order)), Exact: exact, Items: items})
		out.homes = append(out.homes, c.asHomes())
	}
	note(true)
	first := c.all()
	for k := 1; k <= min(exactUpTo, most) && !o.Done(); k++ {
		state, order := c.all(), c.order
		c.backTo(first)
		c.order, c.moved = nil, map[int]bool{}
		if !c.exactly(k) { // too many to go through: on from the one before
			c.backTo(state)
			c.order, c.moved = order, map[int]bool{}
			for _, i := range order {
				c.moved[i] = true
			}
			break
		}
		if len(c.order) == k { // else fewer do as well; one more may help again
			note(true)
		}
	}
	for len(c.order) < most && !o.Done() {
		n := len(c.order)
		if !c.step() {
			break
		}
		if len(c.order) > n {
			note(false)
		} else if last := len(out.Points) - 1; last >= 0 { // what moved already found a better spot
			out.Points[last].Handling, out.homes[last] = c.total(), c.asHomes()
		}
	}
	return out
}

// few is the plan of so many moves.
func (p *Problem) few(o *Options) *Plan {
	c := p.Curve(o.Moves, *o)
	k := len(c.Points) - 1
	for c.Points[k].Moves > o.Moves { // an exchange moves two
		k--
	}
	plan := &Plan{Before: c.Points[0].Handling, Objective: c.Points[k].Handling, Bound: c.Points[k].Least, Homes: c.homes[k], Iterations: len(c.Points) - 1, Seed: o.Seed}
	e := p.with(c.homes[k])
	plan.Paid = e.paid(*o)
	plan.Homeless = e.homeless(o.Hurry)
	for i := range plan.Homeless { // what has room and waits for more moves
		if h := &plan.Homeless[i]; strings.Contains(h.Why, noTime) {
			h.Why = strings.Replace(h.Why, noTime, "others save more with so few moves", 1)
			h.SmallestChange = strings.Replace(h.SmallestChange, searchLonger, "one move more: ", 1)
		}
	}
	plan.Order.Pairs, plan.Order.Now = e.InOrder()
	return plan
}

// climb is a shop of which one thing after the other moves.
type climb struct {
	*Arrangement
	o     *Options
	moved map[int]bool
	order []int // parcels that moved, in the order they did
}

// withHomeless counts the pieces that have no home as parcels, too.
func (e *Arrangement) withHomeless() {
	have := make([]int, len(e.shop.Items))
	for i := range e.parcels {
		have[e.parcels[i].item] += e.parcels[i].n
	}
	for i := range e.shop.Items {
		it := &e.shop.Items[i]
		if rest := it.Number() - have[i]; it.Needs() && rest > 0 {
			e.parcels = append(e.parcels, parcel{item: i, n: rest, place: none, cost: e.homelessCost(i, rest)})
		}
	}
}

// backTo puts parcels where they were.
func (e *Arrangement) backTo(was []saved) {
	for _, s := range was {
		if e.parcels[s.i].place != none {
			e.take(s.i)
		}
	}
	for _, s := range was {
		if s.place != none {
			e.put(s.i, s.place, s.spot, s.cost)
		}
	}
}

func (c *climb) all() (out []saved) {
	for i := range c.parcels {
		out = append(out, c.savedOf(i))
	}
	return out
}

// total of handling, seconds a week.
func (c *climb) total() (sum float64) {
	for i := range c.parcels {
		sum += c.parcels[i].cost
	}
	return sum
}

// value is what a parcel costs where it is, wishes included.
func (c *climb) value(i int) float64 {
	q := &c.parcels[i]
	if q.place == none {
		return q.cost
	}
	return q.cost + c.againstAll(q.item, q.place, c.o.Wishes)
}

func (c *climb) open(i int) bool {
	q := &c.parcels[i]
	return !q.fixed && (q.place == none || !c.bears(i)) && (c.asked == nil || slices.Contains(c.asked, c.itemOf(i).ID)) && !c.keptLocked(i)
}

func (c *climb) keptLocked(i int) bool {
	q := &c.parcels[i]
	return q.place != none && c.lockedAt(q.item, q.place)
}

// potentials are what each thing can save at best by itself, the most first.
func (c *climb) potentials() (out []float64) {
	for i := range c.parcels {
		if q := &c.parcels[i]; !q.fixed {
			if g := q.cost - c.cheapest(i); g > 0 {
				out = append(out, g)
			}
		}
	}
	slices.SortFunc(out, func(a, b float64) int { return cmp.Compare(b, a) })
	return out
}

// asHomes are the homes as they are now.
func (c *climb) asHomes() (out []shop.Home) {
	for i := range c.parcels {
		q := &c.parcels[i]
		if q.place == none {
			continue
		}
		if h := c.written(q); h != nil && !c.moved[i] {
			out = append(out, *h)
			continue
		}
		out = append(out, keeping.Home(c.itemOf(i), &c.shop.Places[q.place], q.n, q.spot))
	}
	c.inOrder(out)
	return out
}

// chance is a place a parcel might go to, and what that saves at best.
type chance struct {
	i    int
	to   *option
	gain float64
}

// chances of all that may move which may save more than so much, the best first.
func (c *climb) chances(over float64) (out []chance) {
	for i := range c.parcels {
		if !c.open(i) {
			continue
		}
		q := &c.parcels[i]
		share := float64(q.n) / float64(c.itemOf(i).Number())
		now := c.value(i)
		for k := range c.fits[q.item] {
			o := &c.fits[q.item][k]
			if g := now - o.least*share; g > over {
				out = append(out, chance{i, o, g})
			} else {
				break // the others cost more
			}
		}
	}
	slices.SortStableFunc(out, func(a, b chance) int { return cmp.Compare(b.gain, a.gain) })
	return out
}

// exactly the best k moves there are, by going through all sets of chances whose gains could add up to more than the best so far, each in every
// order of putting them. It does them, and tells whether it went through all.
func (c *climb) exactly(k int) bool {
	all := c.chances(math.Inf(-1)) // one that makes way may lose by it
	best, looked, whole := 1e-6, 0, true
	var found []saved
	var chosen []chance
	var search func(from int, sum float64)
	try := func() {
		looked++
		lifted := make([]saved, len(chosen))
		was := 0.0
		for n, x := range chosen {
			lifted[n] = c.savedOf(x.i)
			was += c.value(x.i)
		}
		permuted(len(chosen), func(order []int) {
			for _, s := range lifted {
				if c.parcels[s.i].place != none {
					c.take(s.i)
				}
			}
			ok, now := true, 0.0
			for _, n := range order {
				x := chosen[n]
				spot, cost, ok2 := c.bestAt(x.i, x.to)
				if ok = ok2; !ok {
					break
				}
				c.put(x.i, x.to.place, spot, cost)
				now += c.value(x.i)
			}
			if ok && was-now > best {
				best = was - now
				found = found[:0]
				for _, x := range chosen {
					found = append(found, c.savedOf(x.i))
				}
			}
			c.backTo(lifted)
		})
	}
	search = func(from int, sum float64) {
		if len(chosen) > 0 {
			if sum > best {
				try()
			}
			if len(chosen) == k {
				return
			}
		}
		left := float64(k - len(chosen))
		for n := from; n < len(all); n++ {
			x := all[n]
			if sum+left*x.gain <= best {
				return
			}
			if looked > mostLooked || c.o.Done() {
				whole = false
				return
			}
			if slices.ContainsFunc(chosen, func(o chance) bool { return o.i == x.i }) {
				continue
			}
			chosen = append(chosen, x)
			search(n+1, sum+x.gain)
			chosen = chosen[:len(chosen)-1]
		}
	}
	search(0, 0)
	for _, s := range found {
		if c.parcels[s.i].place != none {
			c.take(s.i)
		}
	}
	for _, s := range found {
		c.put(s.i, s.place, s.spot, s.cost)
		c.moved[s.i] = true
		c.order = append(c.order, s.i)
	}
	return whole
}

// alone does a chance and undoes it.
func (c *climb) alone(x *chance) (gain float64, moved []saved) {
	was := c.savedOf(x.i)
	before := c.value(x.i)
	if was.place != none {
		c.take(x.i)
	}
	spot, cost, ok := c.bestAt(x.i, x.to)
	if ok {
		c.put(x.i, x.to.place, spot, cost)
		gain, moved = before-c.value(x.i), []saved{c.savedOf(x.i)}
	}
	c.backTo([]saved{was})
	return gain, moved
}

// makeWay lets j go elsewhere for x, and undoes it. It gives what both save together, and where they are then.
func (c *climb) makeWay(x *chance, j int) (gain float64, moves []saved) {
	was := []saved{c.savedOf(x.i), c.savedOf(j)}
	before := c.value(x.i) + c.value(j)
	if was[0].place != none {
		c.take(x.i)
	}
	c.take(j)
	if spot, cost, ok := c.bestAt(x.i, x.to); ok {
		c.put(x.i, x.to.place, spot, cost)
		mine := c.value(x.i)
		least, place, at, price := math.Inf(1), none, pack.Spot{}, 0.0
		q := &c.parcels[j]
		share := float64(q.n) / float64(c.itemOf(j).Number())
		for n := range c.fits[q.item] {
			o := &c.fits[q.item][n]
			if o.least*share >= least {
				break
			}
			if s, cost, ok := c.bestAt(j, o); ok {
				if v := cost + c.againstAll(q.item, o.place, c.o.Wishes); v < least {
					least, place, at, price = v, o.place, s, cost
				}
			}
		}
		if place != none {
			c.put(j, place, at, price)
			gain, moves = before-mine-least, []saved{c.savedOf(x.i), c.savedOf(j)}
		}
	}
	c.backTo(was)
	return gain, moves
}

// bestAt is the best free spot of a parcel in a place.
func (c *climb) bestAt(i int, to *option) (spot pack.Spot, cost float64, ok bool) {
	q := &c.parcels[i]
	at := c.best(q.item, q.n, to)
	return at.Spot, at.Cost, at.Found
}

// step does the move or exchange that saves most for each thing more that it moves; false when none saves anything.
func (c *climb) step() bool {
	all := c.chances(1e-6)
	best := 1e-6
	var found []saved
	rate := func(gain float64, moves []saved) float64 {
		n := 0
		for _, s := range moves {
			if !c.moved[s.i] {
				n++
			}
		}
		if n == 0 {
			return gain * 1e3 // for nothing
		}
		if len(c.order)+n > len(c.parcels) {
			return 0
		}
		return gain / float64(n)
	}
	for n := range all {
		x := &all[n]
		if c.o.Done() {
			break
		}
		if x.gain <= best && !c.moved[x.i] {
			break
		}
		if g, moves := c.alone(x); moves != nil {
			if r := rate(g, moves); r > best {
				best, found = r, moves
			}
		}
		for j := range c.parcels {
			if j == x.i || !c.open(j) || c.parcels[j].place != x.to.place {
				continue
			}
			share := 2.0
			if c.moved[j] || c.moved[x.i] {
				share = 1
			}
			if (x.gain+c.most(j))/share <= best {
				continue
			}
			if g, moves := c.makeWay(x, j); moves != nil {
				if r := rate(g, moves); r > best {
					best, found = r, moves
				}
			}
		}
	}
	if found == nil {
		return false
	}
	c.backTo(found)
	for _, s := range found {
		if !c.moved[s.i] {
			c.moved[s.i] = true
			c.order = append(c.order, s.i)
		}
	}
	return true
}

// most that a parcel can save by itself; negative never.
func (c *climb) most(j int) float64 {
	return max(0, c.value(j)-c.cheapest(j))
}

// permuted calls with each order of the numbers below n.
func permuted(n int, each func([]int)) {
	list := make([]int, n)
	for i := range list {
		list[i] = i
	}
	var walk func(k int)
	walk = func(k int) {
		if k == n {
			each(list)
			return
		}
		for i := k; i < n; i++ {
			list[k], list[i] = list[i], list[k]
			walk(k + 1)
			list[k], list[i] = list[i], list[k]
		}
	}
	walk(0)
}

// with puts homes into the places instead of those the shop has, and counts what has none.
func (p *Problem) with(homes []shop.Home) *Arrangement {
	e := p.Empty()
	number := map[string]int{}
	for i := range p.shop.Items {
		number[p.shop.Items[i].ID] = i
	}
	for k := range homes {
		e.settleIn(number[homes[k].Item], &homes[k])
	}
	e.withHomeless()
	return e
}
