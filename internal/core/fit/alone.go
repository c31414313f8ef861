package fit

import (
	"cmp"
	"math"
	"slices"

	"hobrak/internal/core/access"
	"hobrak/internal/core/keeping"
	"hobrak/internal/core/length"
	"hobrak/internal/core/pack"
	"hobrak/internal/core/scene"
)

// survey finds for items the places that can take one piece of them, and the least it
// could cost there, as far as it comes.
func (e *Problem) survey(items []int, stop func() bool) {
	workers := crew(len(items), 8)
	spread(workers, func(w int) {
		// Looking for spots needs room to work in: each worker has places of its own.
		empty := e.emptySpaces()
		said := map[string]string{} // the same few reasons for many
		for k := w; k < len(items) && !stop(); k += workers {
			e.look(items[k], empty, said)
		}
	})
}

// emptySpaces of all places, less what boxes take of them.
func (e *Problem) emptySpaces() []pack.Space {
	out := make([]pack.Space, len(e.shop.Places))
	for p := range out {
		out[p] = e.emptySpace(p)
	}
	return out
}

// emptySpace of one place.
func (e *Problem) emptySpace(place int) pack.Space {
	return keeping.SpaceIn(e.shop, &e.shop.Places[place], headOver(e.ways, place))
}

// look finds the places of one item.
func (e *Problem) look(i int, empty []pack.Space, said map[string]string) {
	e.bars[i], e.fits[i] = make([]string, len(e.shop.Places)), nil
	if !e.shop.Items[i].Needs() {
		return
	}
	for p := range e.shop.Places {
		e.judge(i, p, empty[p], said)
	}
	e.cheapestFirst(i)
}

// judge whether a place can take an item: it becomes one of those that fit, or what bars
// it is noted. Reasons that were said are said again, not copied.
func (e *Problem) judge(i, p int, empty pack.Space, said map[string]string) {
	it := &e.shop.Items[i]
	why := keeping.Barred(&e.shop.Places[p], it, 1, empty)
	if why == "" {
		why = e.rules.Bars(it, p)
	}
	if why == "" {
		o, ok := e.least(i, p)
		if ok {
			e.fits[i] = append(e.fits[i], o)
			return
		}
		why = "out of reach"
	}
	if known, ok := said[why]; ok {
		why = known
	} else {
		said[why] = why
	}
	e.bars[i][p] = why
}

func (e *Problem) cheapestFirst(i int) {
	slices.SortStableFunc(e.fits[i], byCost)
	for k := range e.fits[i] {
		o := &e.fits[i][k]
		if cells, _ := e.kinds[o.place].Cells(&e.shop.Places[o.place]); cells != keeping.Bands || k >= remember {
			o.bands = nil // in a large shop there are hundreds
		} else if o.bands == nil {
			o.bands = &bands{}
		}
	}
}

func byCost(a, b option) int {
	return cmp.Or(cmp.Compare(a.least, b.least), cmp.Compare(a.place, b.place))
}

// least is the lowest weekly handling any spot of the empty place could give. Costs change
// only from column to column and where the band changes, so looking there is enough for it
// never to be too high.
func (e *Problem) least(item, place int) (option, bool) {
	o := option{place: place, least: math.Inf(1)}
	// The few cheapest, the cheapest first.
	var cheap [preferences + 1]keeping.Grip
	var costs [preferences + 1]float64
	n := 0
	e.grips(item, place, func(g keeping.Grip, _, _, c float64) {
		o.least = min(o.least, c)
		k := n
		for k > 0 && costs[k-1] > c {
			cheap[k], costs[k] = cheap[k-1], costs[k-1]
			k--
		}
		cheap[k], costs[k] = g, c
		n = min(n+1, preferences)
	})
	o.prefer = slices.Clone(cheap[:n])
	return o, n > 0
}

// grips in an empty place at which what an item costs can differ, the heights for which each stands, and what it costs there at least.
func (e *Problem) grips(item, place int, yield func(g keeping.Grip, low, high, cost float64)) {
	u := &e.uses[item]
	p := &e.shop.Places[place]
	cells, _ := e.kinds[place].Cells(p)
	var last struct { // band in which all grips of a column come to the same
		x, low, high, cost float64
		ok                 bool
	}
	for _, g := range e.kinds[place].Grips(p, u.Item, where{e.scenes, e.ways, place}) {
		low, high := e.alike(item, place, g)
		c, ok := last.cost, last.ok
		if cells != keeping.Bands || low == high || low != last.low || high != last.high || g.X != last.x {
			c, ok = e.leastAt(item, place, g, low, high, 0)
			last.x, last.low, last.high, last.cost, last.ok = g.X, low, high, c, ok
		}
		if ok {
			yield(g, low, high, c)
		}
	}
}

// alike are the heights for which one of the grips of an item in an empty place stands: where it hangs anywhere, those of its band.
func (e *Problem) alike(item, place int, g keeping.Grip) (low, high float64) {
	p := &e.shop.Places[place]
	cells, _ := e.kinds[place].Cells(p)
	switch {
	case cells == keeping.Uncut && e.kinds[place].Form() != keeping.Slotted:
		return 0, p.H.MM()
	case cells != keeping.Bands:
		return g.Z, g.Z
	}
	size := e.shop.Items[item].SizeIn(p.Kind)
	half := min(size.W, size.H).MM() / 2
	low, high = min(half, g.Z), max(p.H.MM()-half, g.Z)
	breaks := e.scenes.Breaks(place, g.X)
	k, at := slices.BinarySearch(breaks, g.Z)
	switch {
	case at:
		return g.Z, g.Z
	case k > 0:
		low = max(low, breaks[k-1])
	}
	if k < len(breaks) {
		high = min(high, breaks[k])
	}
	return low, high
}

// leastAt is what one piece and all of an item cost a week at least at a grip whose height may be anything from low to high, where the
// band is that of the grip; false where it is barred at all of them.
func (e *Problem) leastAt(item, place int, g keeping.Grip, low, high float64, aside int) (float64, bool) {
	u := &e.uses[item]
	if low == high {
		c, why := e.scenes.Cost(u, place, g, aside, false)
		return c, why == "" && e.rules.Height(u.Item, place, g.Z) == ""
	}
	if e.rules.NeverAt(u.Item, place, low, high) {
		return 0, false
	}
	return e.scenes.Least(u, place, g, low, high, aside)
}

// preferences is how many of the cheapest grips of a place are remembered.
const preferences = 6

// where finds the grips in a place at which costs can differ.
type where struct {
	scenes *scene.Scenes
	ways   *access.Map
	place  int
}

func (w where) Columns(from, to float64) []float64 { return columnsOf(w.ways, w.place, from, to) }

func (w where) Heights(x, low, high float64) []float64 {
	return heights(w.scenes.Breaks(w.place, x), low, high)
}

// columnsOf lists one x in every column between from and to.
func columnsOf(m *access.Map, place int, from, to float64) []float64 {
	left := m.Front(place).X
	var out []float64
	for x := from; x < to; {
		out = append(out, x)
		x = (math.Floor((left+x)/access.ColumnWidth)+1)*access.ColumnWidth - left
		if x <= out[len(out)-1] {
			x = out[len(out)-1] + access.ColumnWidth
		}
	}
	return append(out, max(from, to))
}

// heights lists one height in every band between low and high: the ends, the
// breaks between them, and a point on either side of each break.
func heights(breaks []float64, low, high float64) []float64 {
	if high < low {
		high = low
	}
	out := []float64{low, high}
	for _, b := range breaks {
		for _, z := range []float64{b - .001, b, b + .001} {
			if z > low && z < high {
				out = append(out, z)
			}
		}
	}
	return out
}

// Alone is what an item costs in a place it has to itself.
type Alone struct {
	Item, Place    string
	SecondsPerWeek float64
}

// Costs lists what every item would cost in every place that can take all
// pieces of it alone.
func (e *Problem) Costs() []Alone {
	var out []Alone
	for i := range e.shop.Items {
		it := &e.shop.Items[i]
		for p := range e.shop.Places {
			if e.bars[i][p] != "" || !it.Needs() {
				continue
			}
			pl := &e.shop.Places[p]
			empty := e.emptySpace(p)
			if keeping.Barred(pl, it, it.Number(), empty) != "" {
				continue
			}
			best := math.Inf(1)
			for _, s := range aloneSpots(e, i, p, empty) {
				if c, why := e.spotCost(i, it.Number(), p, s, false); why == "" {
					best = min(best, c)
				}
			}
			if !math.IsInf(best, 1) {
				out = append(out, Alone{it.ID, pl.ID, best})
			}
		}
	}
	return out
}

// aloneSpots lists spots of an empty place: the corners, and on fields one in
// every column and band.
func aloneSpots(e *Problem, item, place int, empty pack.Space) []pack.Spot {
	p, it := &e.shop.Places[place], &e.shop.Items[item]
	t := keeping.Thing(p, it, it.Number())
	spots := empty.Spots(t, nil)
	if plane, ok := empty.(*pack.Plane); ok {
		for _, corner := range slices.Clone(spots) {
			w, up := e.kinds[place].Block(it, it.Number(), corner)
			for _, x := range columnsOf(e.ways, place, w/2, p.W.MM()-w/2) {
				zs := []float64{corner.Y.MM() + up/2}
				if e.kinds[place].Form() == keeping.Upright && len(plane.Rails) == 0 {
					zs = heights(e.scenes.Breaks(place, x), up/2, p.H.MM()-up/2)
				}
				for _, z := range zs {
					s := corner
					s.X, s.Y = length.MM(x-w/2), length.MM(z-up/2)
					if empty.Allows(t, s) == nil {
						spots = append(spots, s)
					}
				}
			}
		}
	}
	return spots
}
