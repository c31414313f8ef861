package fit

import (
	"cmp"
	"math"
	"math/rand/v2"
	"slices"

	"hobrak/internal/core/length"
	"hobrak/internal/core/pack"
)

// bundle of things that are laid out as one: a series side by side in its order, or a thing by itself.
type bundle []int

// How much worse a layout may be and is gone on from all the same, at first and on average: of a place as a share of its worth, of the whole shop in
// seconds a week.
const (
	worseTaken    = .002
	worseAnywhere = .1
)

// Bundles of a plane are taken out and put back so often, so many at most at a time; fewer times once a series is let go.
const (
	bundleTries = 4000
	letGoTries  = 60
	mostBundles = 4
)

// bundled lays a plane out with whole series as blocks: each where it is handled at best in the room there is, some of them taken out and put
// back again and again (ruin and recreate). Then each series is let go for once, when handling saves more than its order is worth.
func (t *tidying) bundled(place int, plane *pack.Plane, in, open []int, series [][]int, best *float64, keep func()) {
	rng := t.rng(place, 1)
	var whole [][]int
	for _, s := range series {
		if len(s) > 1 && whollyIn(s, open) {
			whole = append(whole, s)
		}
	}
	if len(whole) == 0 {
		return
	}
	try := func(whole [][]int, tries int) bool {
		was := t.states([]bundle{open})
		w, ok := t.relay(place, plane, in, series, bundlesOf(open, whole), tries, rng)
		if ok && w < *best-1e-9 {
			*best = w
			keep()
			return true
		}
		t.backTo(was)
		return false
	}
	try(whole, t.effort(bundleTries))
	for k := 0; k < len(whole) && !t.over(); {
		less := slices.Delete(slices.Clone(whole), k, k+1)
		if try(less, letGoTries) {
			whole = less
		} else {
			k++
		}
	}
}

// whollyIn tells whether all of a series is open.
func whollyIn(series, open []int) bool {
	return !slices.ContainsFunc(series, func(i int) bool { return !slices.Contains(open, i) })
}

// bundlesOf what is open: some series, and the others one by one.
func bundlesOf(open []int, series [][]int) (out []bundle) {
	in := map[int]bool{}
	for _, s := range series {
		out = append(out, s)
		for _, i := range s {
			in[i] = true
		}
	}
	for _, i := range open {
		if !in[i] {
			out = append(out, bundle{i})
		}
	}
	return out
}

// relay lays bundles out anew and gives the worth of the place then; false when they do not all find room.
func (t *tidying) relay(place int, plane *pack.Plane, in []int, series [][]int, all []bundle, tries int, rng *rand.Rand) (float64, bool) {
	whole := slices.Clone(all)
	ok := false
	for first := 0; first < 4 && !ok; first++ {
		for _, b := range all {
			t.out(b)
		}
		slices.SortStableFunc(whole, func(a, b bundle) int {
			if first%2 == 0 {
				return cmp.Compare(t.density(b), t.density(a))
			}
			return cmp.Compare(t.room(b), t.room(a))
		})
		ok = true
		for _, b := range whole {
			if !t.settle(b, place, plane, .1*float64(first/2), rng) {
				ok = false
				break
			}
		}
	}
	if !ok {
		return 0, false
	}
	return t.shuffled(place, plane, in, series, all, tries, rng), true
}

// shuffled takes some bundles of a plane out and puts them back, again and again, and leaves the best there was. What is a little worse is taken
// as well, less and less. It gives the worth of the place then.
func (t *tidying) shuffled(place int, plane *pack.Plane, in []int, series [][]int, all []bundle, tries int, rng *rand.Rand) float64 {
	least := t.worth(place, in, series)
	best := t.states(all)
	now := least
	for n := 0; n < tries && !t.over(); n++ {
		was := t.states(all)
		some := t.some(all, plane, rng)
		for _, b := range some {
			t.out(b)
		}
		rng.Shuffle(len(some), func(i, j int) { some[i], some[j] = some[j], some[i] })
		if rng.IntN(2) == 0 {
			slices.SortStableFunc(some, func(a, b bundle) int { return cmp.Compare(t.density(b), t.density(a)) })
		}
		ok := true
		for _, b := range some {
			if ok = t.settle(b, place, plane, []float64{0, 0, .2}[rng.IntN(3)], rng); !ok {
				break
			}
		}
		w := math.Inf(1)
		if ok {
			w = t.worth(place, in, series)
		}
		if w < now+worseTaken*least*(1-float64(n)/float64(tries))*-math.Log(1-rng.Float64()) {
			now = w
			if w < least-1e-9 {
				least, best = w, t.states(all)
			}
		} else {
			t.backTo(was)
		}
	}
	t.backTo(best)
	return least
}

// density of a bundle: how often it is used for the room it takes, uses a week and mm².
func (t *tidying) density(b bundle) float64 {
	uses := 0.0
	for _, i := range b {
		uses += t.itemOf(i).UsesPerWeek
	}
	return uses / t.room(b)
}

// room that the things of a bundle take, mm² of their fronts.
func (t *tidying) room(b bundle) (sum float64) {
	for _, i := range b {
		sum += t.area(i)
	}
	return sum
}

// settled lets the things of each place find better spots while its series stay together. It gives the handling it costs, which is less than none.
func (t *tidying) settled() (costs float64) {
	for place, in := range t.byPlace() {
		plane, ok := t.spaces[place].(*pack.Plane)
		series := t.series(place, in)
		if !ok || plane.Single || len(series) == 0 {
			continue
		}
		open, whole := t.openOf(in), [][]int(nil)
		for _, s := range series {
			if t.apartIn(place, in, [][]int{s}) == 0 && whollyIn(s, open) {
				whole = append(whole, s)
			}
		}
		if len(open) < 2 || len(open) > mostTidied {
			continue
		}
		first := t.handling(in)
		t.shuffled(place, plane, in, series, bundlesOf(open, whole), t.effort(bundleTries), t.rng(place, 3))
		costs += t.handling(in) - first
	}
	return costs
}

// some bundles near each other, or anywhere.
func (t *tidying) some(all []bundle, plane *pack.Plane, rng *rand.Rand) []bundle {
	one := all[rng.IntN(len(all))]
	out := []bundle{one}
	n := 1 + rng.IntN(mostBundles)
	if rng.IntN(2) == 0 {
		for _, k := range rng.Perm(len(all))[:min(n, len(all))] {
			if !slices.Equal(all[k], one) {
				out = append(out, all[k])
			}
		}
		return out
	}
	near := slices.Clone(all)
	slices.SortStableFunc(near, func(a, b bundle) int {
		return cmp.Compare(t.between(plane, one[0], a[0]), t.between(plane, one[0], b[0]))
	})
	return near[:min(n+1, len(near))]
}

// between is how far apart two parcels are in a plane, along and up together.
func (t *tidying) between(plane *pack.Plane, i, j int) length.Length {
	a, b := t.blockOf(plane, i), t.blockOf(plane, j)
	return max(a.x-b.x, b.x-a.x) + max(a.y-b.y, b.y-a.y)
}

func (t *tidying) states(all []bundle) (out []saved) {
	for _, b := range all {
		for _, i := range b {
			out = append(out, t.savedOf(i))
		}
	}
	return out
}

// out with a bundle.
func (t *tidying) out(b bundle) {
	for _, i := range b {
		if t.parcels[i].place != none {
			t.take(i)
		}
	}
}

// settle a bundle where it is handled at best: in a row or in a column, rising or falling; with some noise. False when there is no room for it, and
// then none of it is there.
func (t *tidying) settle(b bundle, place int, plane *pack.Plane, noise float64, rng *rand.Rand) bool {
	if len(b) == 1 {
		spot, cost, _, ok := t.next(b[0], place, none, 0, nil)
		if ok {
			t.put(b[0], place, spot, cost)
		}
		return ok
	}
	seats := t.seats(b, place, plane, noise, rng)
	for _, x := range seats[:min(len(seats), seatsTried)] {
		if t.sit(b, place, &x) {
			return true
		}
	}
	return false
}

// seatsTried are how many of the cheapest spots of a bundle are tried: one of its things may weigh too much there.
const seatsTried = 3

// seat of a bundle: where each thing of it would be, and the handling of all.
type seat struct {
	spots []pack.Spot
	cost  float64
}

// sit a bundle down; false, and none of it is there, when a rule forbids it.
func (t *tidying) sit(b bundle, place int, x *seat) bool {
	for k, i := range b {
		if !t.seat(i, place, x.spots[k]) {
			t.out(b)
			return false
		}
	}
	return true
}

// seats of a series in a plane, the cheapest first, by costs with some noise.
func (t *tidying) seats(b bundle, place int, plane *pack.Plane, noise float64, rng *rand.Rand) (seats []seat) {
	for _, column := range []bool{false, true} {
		for _, falling := range []bool{false, true} {
			if column && (falling || len(plane.Rails) > 0) {
				continue // it reads from above down; and rails are no ladder
			}
			list := slices.Clone(b)
			if falling {
				slices.Reverse(list)
			}
			size, at := t.block(list, place, plane, column)
			for _, s := range plane.Spots(size, nil) {
				if s.Turned {
					continue
				}
				one := seat{make([]pack.Spot, len(b)), 0}
				for k, i := range list {
					spot := pack.Spot{X: s.X + at[k].x, Y: s.Y + at[k].y}
					q := &t.parcels[i]
					c, why := t.spotCost(q.item, q.n, place, spot, false)
					if why != "" {
						one.cost = math.Inf(1)
						break
					}
					one.spots[slices.Index(b, i)], one.cost = spot, one.cost+c
				}
				if !math.IsInf(one.cost, 1) {
					one.cost *= 1 + noise*rng.Float64()
					seats = append(seats, one)
				}
			}
		}
	}
	slices.SortStableFunc(seats, func(x, y seat) int { return cmp.Compare(x.cost, y.cost) })
	return seats
}

// block is a list of things side by side or one below the other as one thing, and where in it each is: tops in line where they hang, fronts where
// they lie.
func (t *tidying) block(list []int, place int, plane *pack.Plane, column bool) (size pack.Thing, at []block) {
	var along length.Length
	gap := length.Length(0)
	for k, i := range list {
		th := t.kinds[place].Thing(t.itemOf(i), t.parcels[i].n)
		w, h := plane.Block(th, pack.Spot{})
		gap = max(gap, th.Clearance)
		between := length.Length(0)
		if k > 0 {
			between = max(th.Clearance, t.itemOf(list[k-1]).KeptClear())
		}
		if column {
			along += between
			at = append(at, block{0, along, w, h})
			along += h
			size.W = max(size.W, w)
		} else {
			along += between
			at = append(at, block{along, 0, w, h})
			along += w
			size.H = max(size.H, h)
		}
	}
	size.Clearance, size.N = gap, 1
	if column {
		size.H = along
		for k := range at { // from above down
			at[k].y = along - at[k].y - at[k].h
		}
		return size, at
	}
	size.W = along
	if !plane.Lying {
		for k := range at {
			at[k].y = size.H - at[k].h
		}
	}
	return size, at
}

// Bundles are taken out anywhere in the shop so often, for each of them; each looks at so many places.
const (
	anywhereTries  = 150
	anywherePlaces = 6
)

// anywhere lets whole series change places with others, as long as handling and order together get better by it. It gives the handling it costs.
func (t *tidying) anywhere() float64 {
	rng := t.rng(0, 2)
	var all []bundle
	for place, in := range t.byPlace() {
		inSeries := map[int]bool{}
		for _, s := range t.series(place, in) {
			if !slices.ContainsFunc(s, func(i int) bool { return !t.movable(i) }) && t.shop.Places[place].Order == "" {
				all = append(all, s)
			}
			for _, i := range s {
				inSeries[i] = true
			}
		}
		for _, i := range in {
			if !inSeries[i] && t.movable(i) {
				all = append(all, bundle{i})
			}
		}
	}
	if len(all) < 2 {
		return 0
	}
	everything := t.states(all)
	first, before := t.whole(), t.handlingOf(all)
	options := make([][]int, len(all)) // places, cheapest first
	for k, b := range all {
		options[k] = t.placesFor(b)
	}
	now, least := 0.0, 0.0 // against the beginning
	best := everything
	tries := t.effort(anywhereTries * len(all))
	for n := 0; n < tries && !t.over(); n++ {
		one := rng.IntN(len(all))
		if len(options[one]) == 0 {
			continue
		}
		some := []int{one}
		into := options[one][rng.IntN(min(len(options[one]), 3))]
		var there []int
		for k, b := range all {
			if k != one && t.parcels[b[0]].place == into {
				there = append(there, k)
			}
		}
		rng.Shuffle(len(there), func(i, j int) { there[i], there[j] = there[j], there[i] })
		if plane, ok := t.spaces[into].(*pack.Plane); ok && len(there) > 0 && rng.IntN(2) == 0 {
			c := all[there[0]][0]
			slices.SortStableFunc(there, func(a, b int) int {
				return cmp.Compare(t.between(plane, c, all[a][0]), t.between(plane, c, all[b][0]))
			})
		}
		some = append(some, there[:min(len(there), rng.IntN(mostBundles+1))]...)
		touched := map[int]bool{}
		var was []saved
		for _, k := range some {
			for _, i := range all[k] {
				was = append(was, t.savedOf(i))
				touched[t.parcels[i].place] = true
			}
		}
		worth := func() (sum float64) {
			list := t.byPlace()
			for place := range touched {
				sum += t.worth(place, list[place], t.series(place, list[place]))
			}
			other := t.paidButOrder(t.o)
			other.Moving = 0 // is in the worth of the places
			return sum + other.sum()
		}
		pay := worth()
		for _, k := range some {
			t.out(all[k])
		}
		rng.Shuffle(len(some), func(i, j int) { some[i], some[j] = some[j], some[i] })
		noise := []float64{0, 0, .2}[rng.IntN(3)]
		ok := true
		for _, k := range some {
			if ok = t.settleAnywhere(all[k], options[k], noise, rng); !ok {
				break
			}
			if place := t.parcels[all[k][0]].place; !touched[place] {
				touched[place] = true
				// What it was worth before this came.
				rest := slices.DeleteFunc(t.byPlace()[place], func(i int) bool { return slices.Contains(all[k], i) })
				pay += t.worth(place, rest, t.series(place, rest))
			}
		}
		more := math.Inf(1)
		if ok {
			more = worth() - pay
		}
		if more < worseAnywhere*(1-float64(n)/float64(tries))*-math.Log(1-rng.Float64()) {
			if now += more; now < least-1e-6 {
				least, best = now, t.states(all)
			}
		} else {
			t.backTo(was)
		}
	}
	t.backTo(best)
	if t.whole() > first-1e-6 {
		t.backTo(everything)
	}
	return t.handlingOf(all) - before
}

func (t *tidying) handlingOf(all []bundle) (sum float64) {
	for _, b := range all {
		sum += t.handling(b)
	}
	return sum
}

// placesFor a bundle, what would cost least first if they were empty.
func (t *tidying) placesFor(b bundle) (out []int) {
	sum := map[int]float64{}
	for _, o := range t.fits[t.parcels[b[0]].item] {
		s := 0.0
		for _, i := range b {
			q := &t.parcels[i]
			c := t.optionOf(q.item, o.place)
			if c == nil {
				s = math.Inf(1)
				break
			}
			s += c.least*float64(q.n)/float64(t.itemOf(i).Number()) + t.againstAll(q.item, o.place, t.o.Wishes)
		}
		if _, plane := t.spaces[o.place].(*pack.Plane); !math.IsInf(s, 1) && (plane || len(b) == 1) {
			sum[o.place] = s
			out = append(out, o.place)
		}
	}
	slices.SortStableFunc(out, func(a, b int) int { return cmp.Compare(sum[a], sum[b]) })
	return out[:min(len(out), anywherePlaces)]
}

// settleAnywhere puts a bundle where it is handled at best in some places; false when none has room.
func (t *tidying) settleAnywhere(b bundle, places []int, noise float64, rng *rand.Rand) bool {
	var best seat
	where := none
	best.cost = math.Inf(1)
	var buf []pack.Spot
	for _, place := range places {
		if t.torn(t.parcels[b[0]].item, place) {
			continue
		}
		wish := 0.0
		for _, i := range b {
			wish += t.againstAll(t.parcels[i].item, place, t.o.Wishes)
		}
		if len(b) == 1 {
			spot, cost, next, ok := t.next(b[0], place, none, 0, buf)
			buf = next
			if cost = (cost + wish) * (1 + noise*rng.Float64()); ok && cost < best.cost {
				best, where = seat{[]pack.Spot{spot}, cost}, place
			}
			continue
		}
		plane, ok := t.spaces[place].(*pack.Plane)
		if !ok {
			continue
		}
		if seats := t.seats(b, place, plane, noise, rng); len(seats) > 0 && seats[0].cost+wish < best.cost {
			best, where = seats[0], place
			best.cost += wish
		}
	}
	return where != none && t.sit(b, where, &best)
}
