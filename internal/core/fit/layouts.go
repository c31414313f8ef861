package fit

import (
	"cmp"
	"math"
	"slices"

	"hobrak/internal/core/inorder"
	"hobrak/internal/core/keeping"
	"hobrak/internal/core/length"
	"hobrak/internal/core/pack"
)

// groups of what is laid out: the series, and the others one by one; by what is used most, by what is largest, or as they stand.
func (t *tidying) groups(open []int, series [][]int, way int) [][]int {
	var out [][]int
	grouped := map[int]bool{}
	for _, s := range series {
		var mine []int
		for _, i := range s {
			grouped[i] = true
			if slices.Contains(open, i) {
				mine = append(mine, i)
			}
		}
		if len(mine) > 0 {
			out = append(out, mine)
		}
	}
	for _, i := range open {
		if !grouped[i] {
			out = append(out, []int{i})
		}
	}
	rank := func(g []int) float64 {
		v := 0.0
		switch way {
		case 0:
			for _, i := range g {
				v -= t.itemOf(i).UsesPerWeek
			}
			return v / float64(len(g))
		case 1:
			for _, i := range g {
				v -= t.itemOf(i).W.MM() * t.itemOf(i).H.MM()
			}
		default:
			r := t.reading(g[0])
			for _, i := range g[1:] {
				if o := t.reading(i); o.Compare(r) < 0 {
					r = o
				}
			}
			for k, x := range r {
				v += float64(x) * math.Pow(1e-3, float64(k)) // the first counts most
			}
		}
		return v
	}
	ranks := map[int]float64{}
	for _, g := range out {
		ranks[g[0]] = rank(g)
	}
	slices.SortStableFunc(out, func(a, b []int) int { return cmp.Compare(ranks[a[0]], ranks[b[0]]) })
	return out
}

// lay the groups out anew, one after the other, each thing near the one before; false when one of them has no spot then.
func (t *tidying) lay(place int, groups [][]int, along float64) bool {
	for _, g := range groups {
		for _, i := range g {
			t.take(i)
		}
	}
	var buf []pack.Spot
	for _, g := range groups {
		last := none
		for _, i := range g {
			spot, cost, b, ok := t.next(i, place, last, along, buf)
			buf = b
			if !ok {
				return false
			}
			t.put(i, place, spot, cost)
			last = i
		}
	}
	return true
}

// A series is wedged in at so many spots down and across a plane.
const (
	wedgesDown   = 20
	wedgesAcross = 12
)

// steps are shares from 0 up to 1.
func steps(n int) []float64 {
	out := make([]float64, n)
	for k := range out {
		out[k] = float64(k) / float64(n-1)
	}
	return out
}

// wedge a series in as a row at a spot given in shares of what is left of the plane; what was there goes to the best spots that are free then,
// the largest first. False when the row or one of the others has none.
func (t *tidying) wedge(place int, plane *pack.Plane, one, open []int, right, down float64) bool {
	var row []int
	var wide, deep length.Length
	things := map[int]pack.Thing{}
	for _, i := range one {
		if !slices.Contains(open, i) {
			return false
		}
		row = append(row, i)
		things[i] = t.kinds[place].Thing(t.itemOf(i), t.parcels[i].n)
		w, h := plane.Block(things[i], pack.Spot{})
		wide, deep = wide+w+things[i].Clearance, max(deep, h)
	}
	if wide > plane.W || deep > plane.H {
		return false
	}
	x := length.Length(right*float64(plane.W-wide)) / length.Millimetre * length.Millimetre
	y := length.Length(down*float64(plane.H-deep)) / length.Millimetre * length.Millimetre
	hole := block{x, rowAt(plane, y, deep), wide, deep}
	var out []int
	for _, i := range open {
		if slices.Contains(row, i) {
			continue
		}
		gap := t.itemOf(i).KeptClear()
		if b := t.blockOf(plane, i); b.x < hole.x+hole.w+gap && b.x+b.w+gap > hole.x && b.y < hole.y+hole.h+gap && b.y+b.h+gap > hole.y {
			out = append(out, i)
		}
	}
	if len(out) > mostWedged {
		return false
	}
	for _, i := range slices.Concat(row, out) {
		t.take(i)
	}
	for _, i := range row {
		w, h := plane.Block(things[i], pack.Spot{})
		if !t.seat(i, place, pack.Spot{X: x, Y: rowAt(plane, y, h)}) {
			return false
		}
		x += w + things[i].Clearance
	}
	slices.SortStableFunc(out, func(a, b int) int { return cmp.Compare(t.area(b), t.area(a)) })
	var buf []pack.Spot
	for _, i := range out {
		spot, cost, b, ok := t.next(i, place, none, 0, buf)
		buf = b
		if !ok {
			return false
		}
		t.put(i, place, spot, cost)
	}
	return true
}

// mostWedged things make way for a series.
const mostWedged = 12

// rowTries are the orders in which the series are laid in rows: three by what they are, the others by chance.
const rowTries = 9

// rows lays the series of a plane in rows, tops in line where they hang and fronts in line where they lie, from some share of its height on;
// then each other thing where it is best. False when one of them has no spot then.
func (t *tidying) rows(place int, plane *pack.Plane, groups [][]int, share float64) bool {
	for _, g := range groups {
		for _, i := range g {
			t.take(i)
		}
	}
	down := length.Length(share * float64(plane.H)) // of the row from the upper edge, or from the front
	var x, deep, gap length.Length
	next := func() { down, deep, x = down+deep+gap, 0, 0 }
	var buf []pack.Spot
	for _, single := range []bool{false, true} {
		for _, g := range groups {
			if (len(g) == 1) != single {
				continue
			}
			if single {
				spot, cost, b, ok := t.next(g[0], place, none, 0, buf)
				buf = b
				if !ok {
					return false
				}
				t.put(g[0], place, spot, cost)
				continue
			}
			things := make([]pack.Thing, len(g))
			whole := length.Length(0)
			for k, i := range g {
				things[k] = t.kinds[place].Thing(t.itemOf(i), t.parcels[i].n)
				w, _ := plane.Block(things[k], pack.Spot{})
				whole += w + things[k].Clearance
			}
			if x > 0 && x+whole > plane.W && whole <= plane.W {
				next()
			}
			for k, i := range g {
				w, h := plane.Block(things[k], pack.Spot{})
				gap = max(gap, things[k].Clearance)
				for {
					if x+w > plane.W {
						next()
					}
					if down+h > plane.H {
						return false
					}
					if t.seat(i, place, pack.Spot{X: x, Y: rowAt(plane, down, h)}) {
						break
					}
					x += 20 * length.Millimetre
				}
				x += w + things[k].Clearance
				deep = max(deep, h)
			}
		}
	}
	return true
}

// rowAt is where something so high goes in a row so far down: below its line, or from it on where things lie. Rails are taken as they come.
func rowAt(plane *pack.Plane, down, h length.Length) length.Length {
	if plane.Lying {
		return down
	}
	top := plane.H - down
	best := length.Length(-1)
	for _, z := range plane.Rails {
		if z <= top && z > best {
			best = z
		}
	}
	if len(plane.Rails) > 0 {
		top = best
	}
	return top - h
}

// next spot of a parcel, the cheapest by handling and by how far it is from the one before.
func (t *tidying) next(i, place, last int, along float64, buf []pack.Spot) (spot pack.Spot, cost float64, _ []pack.Spot, found bool) {
	q := &t.parcels[i]
	o := t.optionOf(q.item, place)
	if o == nil {
		return spot, 0, buf, false
	}
	if over, _ := t.overloaded(q.item, q.n, place); over > 0 || t.harmful(q.item, place) != "" {
		return spot, 0, buf, false
	}
	buf = append(buf[:0], t.spots(i, place)...)
	if len(buf) > 0 {
		buf = t.preferred(q.item, q.n, o, t.kinds[place].Thing(t.itemOf(i), q.n), math.Inf(1), buf)
	}
	least := math.Inf(1)
	for _, s := range buf {
		c, why := t.spotCost(q.item, q.n, place, s, false)
		if why != "" {
			continue
		}
		if v := c + along*t.far(last, place, i, s); v < least-1e-12 {
			least, cost, spot, found = v, c, s, true
		}
	}
	return spot, cost, buf, found
}

// far is how far a spot is from a parcel, m; something before it in reading counts twice.
func (t *tidying) far(last, place, i int, s pack.Spot) float64 {
	if last == none {
		return 0
	}
	p := &t.shop.Places[place]
	q := &t.parcels[last]
	a := keeping.Home(t.itemOf(last), p, q.n, q.spot)
	b := keeping.Home(t.itemOf(i), p, t.parcels[i].n, s)
	ra, rb := inorder.Read(p, &a), inorder.Read(p, &b)
	rows := math.Abs(float64(ra[0]-rb[0]))*.4 + math.Abs(float64(ra[1]-rb[1]))*.4 + math.Abs(float64(ra[2]-rb[2]))*.3
	d := rows + math.Abs(float64(rb[3]-ra[3]))*.02 + math.Abs(float64(rb[4]-ra[4]))/1e6
	if rb.Compare(ra) < 0 {
		d *= 2
	}
	return d
}

func (e *Problem) optionOf(item, place int) *option {
	for k := range e.fits[item] {
		if e.fits[item][k].place == place {
			return &e.fits[item][k]
		}
	}
	return nil
}

// permute the members of each series over the spots they have, rising or falling; false where one does not fit.
func (t *tidying) permute(place int, open []int, series [][]int, falling bool) bool {
	for _, s := range series {
		var mine []int
		for _, i := range s {
			if slices.Contains(open, i) {
				mine = append(mine, i)
			}
		}
		seats := slices.Clone(mine)
		at := map[int]inorder.Reading{}
		for _, i := range mine {
			at[i] = t.reading(i)
		}
		slices.SortStableFunc(seats, func(a, b int) int { return at[a].Compare(at[b]) })
		if falling {
			slices.Reverse(seats)
		}
		spots := make([]pack.Spot, len(seats))
		for k, i := range seats {
			spots[k] = t.parcels[i].spot
		}
		for _, i := range mine {
			t.take(i)
		}
		for k, i := range mine {
			if !t.seat(i, place, spots[k]) {
				return false
			}
		}
	}
	return true
}

// seat puts a parcel at a spot where it may be.
func (t *tidying) seat(i, place int, s pack.Spot) bool {
	q := &t.parcels[i]
	if over, _ := t.overloaded(q.item, q.n, place); over > 0 || t.harmful(q.item, place) != "" {
		return false
	}
	th := t.kinds[place].Thing(t.itemOf(i), q.n)
	if s.Turned && !th.Turn || t.spaces[place].Allows(th, s) != nil {
		return false
	}
	c, why := t.spotCost(q.item, q.n, place, s, false)
	if why != "" {
		return false
	}
	t.put(i, place, s, c)
	return true
}

// pairs lets two change spots, or one go to a free one, as long as that is better.
func (t *tidying) pairs(place int, in, open []int, series [][]int, best *float64) {
	for round := 0; round < 6 && !t.over(); round++ {
		better := false
		for a, i := range open {
			for _, j := range open[a+1:] {
				x, y := t.savedOf(i), t.savedOf(j)
				t.take(i)
				t.take(j)
				ok := t.seat(i, place, y.spot)
				if ok && !t.seat(j, place, x.spot) {
					t.take(i)
					ok = false
				}
				if ok {
					if w := t.worth(place, in, series); w < *best-1e-9 {
						*best, better = w, true
						continue
					}
					t.take(i)
					t.take(j)
				}
				t.put(i, x.place, x.spot, x.cost)
				t.put(j, y.place, y.spot, y.cost)
			}
			better = t.relocate(i, place, in, series, best) || better
		}
		if !better {
			return
		}
	}
}

// spots a parcel may be at: those worth trying for handling, of slots all of them.
func (t *tidying) spots(i, place int) (out []pack.Spot) {
	th := t.kinds[place].Thing(t.itemOf(i), t.parcels[i].n)
	slots, ok := t.spaces[place].(*pack.Slots)
	if !ok {
		return t.spaces[place].Spots(th, nil)
	}
	for k := range slots.Slots {
		if s := (pack.Spot{Slot: k}); slots.Allows(th, s) == nil {
			out = append(out, s)
		}
	}
	return out
}

// goneThrough is how many ways to fill a place are all gone through.
const goneThrough = 3000

// through goes through all ways to put a few things at the spots there are for them, and keeps the best.
func (t *tidying) through(place int, in, open []int, series [][]int, best *float64, keep func()) {
	for _, i := range open {
		t.take(i)
	}
	spots := make([][]pack.Spot, len(open))
	ways := 1
	for k, i := range open {
		spots[k] = t.spots(i, place)
		if ways *= max(1, len(spots[k])-k); ways > goneThrough || t.over() {
			return
		}
	}
	var put func(k int)
	put = func(k int) {
		if k == len(open) {
			if w := t.worth(place, in, series); w < *best-1e-9 {
				*best = w
				keep()
			}
			return
		}
		for _, s := range spots[k] {
			if t.seat(open[k], place, s) {
				put(k + 1)
				t.take(open[k])
			}
		}
	}
	put(0)
}

// relocate a parcel to the free spot that is best for the place.
func (t *tidying) relocate(i, place int, in []int, series [][]int, best *float64) (better bool) {
	was := t.savedOf(i)
	t.take(i)
	spots := t.spots(i, place)
	for _, s := range spots[:min(len(spots), 60)] {
		if !t.seat(i, place, s) {
			continue
		}
		if w := t.worth(place, in, series); w < *best-1e-9 {
			*best, better, was = w, true, t.savedOf(i)
		}
		t.take(i)
	}
	t.put(i, was.place, was.spot, was.cost)
	return better
}
