package fit

import (
	"math"
	"slices"

	"hobrak/internal/core/access"
	"hobrak/internal/core/keeping"
	"hobrak/internal/core/pack"
	"hobrak/internal/core/reach"
	"hobrak/internal/core/shop"
)

// The bound is a Lagrangian relaxation (Fisher 1981) of the room of each place.
// A place is cut into cells; what lies in a cell can be no more than the cell
// holds. For multipliers λ ≥ 0 of the cells,
//
//	L(λ) = Σ things min(homeless, min over places and spots (cost + Σ cells λ·share)) − Σ cells λ
//
// never exceeds the cost of a plan: every plan obeys the relaxed rules, and its
// things cost at least as much as their cheapest spots do. Shares are parts of a
// cell's room.
//
// Clearance counts: each piece is grown by half of its own, at most by half of
// slack, on every side, and the place by slack/2. The room between two pieces is the
// larger of theirs, so that the grown ones still do not overlap.

// axis cuts a length into cells.
type axis struct{ edges []float64 }

func (a axis) cells() int { return len(a.edges) - 1 }

// part of a cell: a length of it in mm, or a share of its room.
type part struct {
	cell   int
	amount float64
}

func (a axis) parts(from, to float64) (out []part) {
	for c := range a.cells() {
		if mm := min(to, a.edges[c+1]) - max(from, a.edges[c]); mm > 0 {
			out = append(out, part{c, mm})
		}
	}
	return out
}

// among adds to some middles those at which a side, half from the middle, enters
// another cell, sorted and each once.
func (a axis) among(out []float64, half, from, to float64) []float64 {
	for _, e := range a.edges {
		for _, x := range [...]float64{e - half, e + half} {
			if x > from && x < to {
				out = append(out, x)
			}
		}
	}
	slices.Sort(out)
	return slices.CompactFunc(out, func(a, b float64) bool { return math.Abs(a-b) < 1e-6 })
}

// evenly cuts from −slack/2 to long + slack/2 into n cells.
func evenly(long, slack float64, n int) axis {
	a := axis{}
	for i := range n + 1 {
		a.edges = append(a.edges, -slack/2+(long+slack)*float64(i)/float64(n))
	}
	return a
}

// ground is a place cut into cells. Cell numbers count from first among all cells
// of the shop: the whole of the place, its weight when it is rated, then the grid.
type ground struct {
	first int
	slack float64
	total float64 // room of the whole
	x, z  axis    // of the grid; none: only the whole counts
	form  keeping.Form
	cells keeping.Cells
	rows  int
	rated float64 // kg
}

// grain is how finely places are cut into cells: the finer, the closer the bound and
// the longer it takes.
type grain struct {
	wide        float64 // wanted width of a cell, mm
	columns     int     // at most
	bands       int
	leastBand   float64 // mm
	stall       int     // full steps without a better bound before they get smaller
	shrink, end float64 // by how much then, and how small is the end
}

func grainFor(items int) grain {
	switch {
	case items <= 150:
		return grain{60, mostColumns, 12, 30, 5, .7, 1e-3}
	case items <= 1200:
		return grain{100, 16, 8, 30, 5, .7, 1e-3}
	}
	return grain{200, 8, 4, 60, 4, .7, 2e-3}
}

const (
	mostColumns = 24
	room        = 2 * (2*mostColumns + 2) // to work in: a column and the edges, twice, for a block and its last row
)

// relaxation works the bound out, and keeps the multipliers that gave it.
type relaxation struct {
	e          *Problem
	grain      grain
	grounds    []ground
	empty      []pack.Space // its own: those of an arrangement are in use
	room       []float64    // of each cell
	multiplier []float64    // of each cell, seconds a week for all of its room
	per        []float64    // the same for a unit of room
	swing      []float64    // how far each cell was from full lately, squared
	step       float64      // of the search for multipliers: how much of the way is gone at once
	things     []relaxed
	fixed      float64 // cost of what stays where it is
	taken      []float64
	lean       bool // only what was the cheapest lately is looked at
}

// relaxed is one item, or what is left of it without a home that stays.
type relaxed struct {
	item     int
	n        int
	alone    float64   // without a home
	placings []placing // cheapest place first
	// beyond is the least cost in the places that are not among the placings.
	beyond float64
	// last is the cheapest placing there was of one piece, of two and so on at the multipliers
	// before: mostly it is among the cheapest still, and few others need to be looked at.
	last []recent
}

// recent picks that were the cheapest.
type recent struct {
	picks [4]pick
	next  int
}

// pick of a placing, one of its poses, and there one of the candidates in x and z.
type pick struct {
	known         bool
	n             int // pieces
	placing, pose int
	x, z          int
}

// placing is an item in one place.
type placing struct {
	place int
	least float64
	whole []part  // of the place as a whole and its weight, as shares
	poses []poses // ways to hang or lie there; none: anywhere at the least cost
}

// poses of one shape: every candidate in x and z, and its cost. Of several alike a
// shape is some of them as a block.
type poses struct {
	n     int      // pieces of the block
	x, z  [][]part // of the grid, mm
	cost  []float64
	least []float64 // of the costs at each z
	spans []span    // of each x
	wide  float64   // the least that any x takes, mm
	// last is the row that is not full, where the block has one: x and z are without it then.
	last *poses
}

// span is what a candidate takes along x: a part of its first cell, all of those up to
// the last, and a part of that.
type span struct {
	first, last float64 // mm
	from, to    int32
}

func spanOf(parts []part) span {
	if len(parts) == 0 {
		return span{to: 1}
	}
	a, b := parts[0], parts[len(parts)-1]
	if len(parts) == 1 {
		return span{a.amount, 0, int32(a.cell), int32(a.cell + 1)}
	}
	return span{a.amount, b.amount, int32(a.cell), int32(b.cell)}
}

// mostAlike is up to how many alike are relaxed as blocks; more count as a whole.
const mostAlike = 6

// mostPlacings of an item are relaxed; the other places count with their least cost.
func mostPlacings(items int) int {
	if items > 1200 {
		return 8
	}
	return 14
}

// relax cuts the places into cells and lists what each item could cost where.
// What is fixed stays where it is: its cost and its room count.
func (e *Problem) relax(fixed func(item int) []*shop.Home, done func() bool) *relaxation {
	p := &relaxation{e: e, grain: grainFor(len(e.shop.Items)), grounds: make([]ground, len(e.shop.Places)), empty: e.emptySpaces()}
	slack := make([]float64, len(e.shop.Places))
	cutters := crew(len(slack), 16)
	spread(cutters, func(w int) {
		for i := w; i < len(slack) && !done(); i += cutters {
			slack[i] = p.clearance(i)
		}
	})
	for i := range slack {
		p.cut(i, slack[i])
	}
	p.multiplier = make([]float64, len(p.room))
	p.per = make([]float64, len(p.room))
	p.swing = slices.Repeat([]float64{.1}, len(p.room))
	p.step = 1
	p.taken = make([]float64, len(p.room))
	filled, stays := e.emptySpaces(), 0
	for i := range e.shop.Items {
		it := &e.shop.Items[i]
		if !it.Needs() {
			continue
		}
		rest := it.Number()
		for _, h := range fixed(i) {
			n := h.Number(it)
			rest -= n
			p.fixed += e.homeCost(i, h)
			place := e.ways.PlaceNumber(h.Place)
			// As it stands may be messy: what lies in something else or sticks out does not
			// take its own room of the place, but its weight counts.
			t, s := e.kinds[place].Thing(it, n), keeping.SpotOf(&e.shop.Places[place], h)
			lawful := filled[place].Allows(t, s) == nil
			if lawful {
				filled[place].Put(stays, t, s)
				stays++
			}
			for _, w := range p.whole(i, n, place) {
				if lawful || w.cell != p.grounds[place].first {
					p.taken[w.cell] += w.amount
				}
			}
		}
		if rest > 0 {
			p.things = append(p.things, relaxed{item: i, n: rest, alone: e.homelessCost(i, rest)})
		}
	}
	for c := range p.taken {
		p.taken[c] = min(p.taken[c], 1) // an overload that stays leaves no room; it makes none scarcer
	}
	workers := crew(len(p.things), 16)
	spread(workers, func(w int) {
		for k := w; k < len(p.things); k += workers {
			if done() {
				// Without placings a thing costs the bound nothing: it stays a bound.
				p.things[k].alone = 0
				continue
			}
			p.list(&p.things[k])
		}
	})
	return p
}

// cut a place into cells. Slack is the clearance that is counted.
func (p *relaxation) cut(i int, slack float64) {
	pl := &p.e.shop.Places[i]
	g := &p.grounds[i]
	k := p.e.kinds[i]
	g.first, g.form = len(p.room), k.Form()
	g.cells, g.rows = k.Cells(pl)
	g.slack = slack
	w, h, d := pl.W.MM(), pl.H.MM(), pl.D.MM()
	columns := max(1, min(p.grain.columns, int(math.Round(w/p.grain.wide))))
	switch g.form {
	case keeping.Upright:
		g.total = (w + g.slack) * (h + g.slack)
	case keeping.Lying:
		g.total = (w + g.slack) * (d + g.slack)
	case keeping.Rows:
		// The whole is its floor, without clearance: what stands behind needs none to what stands before it.
		g.total = w * d
	case keeping.Run:
		g.total = w + g.slack
	default:
		g.total = p.empty[i].Room()
	}
	switch g.cells {
	case keeping.Bands:
		g.x, g.z = evenly(w, g.slack, columns), p.bands(i, h, g.slack)
	case keeping.Strip:
		g.x, g.z = evenly(w, g.slack, columns), evenly(d, g.slack, 1)
	case keeping.InRows: // a cell of a row is a length of it
		g.x, g.z = evenly(w, g.slack, columns), evenly(float64(g.rows), 0, g.rows)
	}
	if k.Bears() == shop.BearsStanding {
		g.total -= p.stood(pl)
	}
	g.total = math.Max(g.total, 1e-9)
	p.room = append(p.room, g.total, math.Inf(1))
	if pl.Capacity > 0 {
		g.rated = pl.Capacity.KG()
		p.room[len(p.room)-1] = g.rated
	}
	for c := range g.x.cells() * max(0, g.z.cells()) {
		x, z := c%g.x.cells(), c/g.x.cells()
		p.room = append(p.room, (g.x.edges[x+1]-g.x.edges[x])*(g.z.edges[z+1]-g.z.edges[z]))
	}
}

// stood is the area of a place that containers stand on, in mm²; what sticks out or stands
// in another is left out, so that it is never too much.
func (p *relaxation) stood(pl *shop.Place) (area float64) {
	type rect struct{ x0, y0, x1, y1 float64 }
	var all []rect
	for k := range p.e.shop.Containers {
		c := &p.e.shop.Containers[k]
		if c.At.In != pl.ID {
			continue
		}
		r := rect{c.At.X.MM(), c.At.Y.MM(), (c.At.X + c.W).MM(), (c.At.Y + c.D).MM()}
		if r.x1 > pl.W.MM() || r.y1 > pl.D.MM() || slices.ContainsFunc(all, func(o rect) bool { return r.x0 < o.x1 && o.x0 < r.x1 && r.y0 < o.y1 && o.y0 < r.y1 }) {
			continue
		}
		all = append(all, r)
		area += (r.x1 - r.x0) * (r.y1 - r.y0)
	}
	return area
}

// clearance is the clearance most of what fits a place asks for.
func (p *relaxation) clearance(place int) float64 {
	var all []float64
	for i := range p.e.shop.Items {
		if p.e.bars[i][place] == "" && p.e.shop.Items[i].Needs() {
			all = append(all, p.e.shop.Items[i].KeptClear().MM())
		}
	}
	if len(all) == 0 {
		return 0
	}
	slices.Sort(all)
	return all[len(all)/2]
}

// bands cuts the height of a field where the reach changes.
func (p *relaxation) bands(place int, h, slack float64) axis {
	a := axis{edges: []float64{-slack / 2}}
	for _, b := range p.e.scenes.Breaks(place, p.e.shop.Places[place].W.MM()/2) {
		if b > a.edges[len(a.edges)-1]+p.grain.leastBand && b < h-p.grain.leastBand && len(a.edges) < p.grain.bands {
			a.edges = append(a.edges, b)
		}
	}
	a.edges = append(a.edges, h+slack/2)
	return a
}

// whole is what n pieces take of a place as a whole and of its rated weight.
func (p *relaxation) whole(item, n, place int) []part {
	it, pl, g := &p.e.shop.Items[item], &p.e.shop.Places[place], &p.grounds[place]
	size := it.SizeIn(pl.Kind)
	grow := min(it.KeptClear().MM(), g.slack)
	takes := 0.0
	switch g.form {
	case keeping.Upright:
		takes = float64(n) * (size.W.MM() + grow) * (size.H.MM() + grow)
	case keeping.Lying:
		takes = float64(n) * (size.W.MM() + grow) * (size.D.MM() + grow)
	case keeping.Rows:
		takes = float64(n) * size.W.MM() * size.D.MM()
	case keeping.Run:
		takes = float64(n) * (size.W.MM() + grow)
	default:
		takes = p.empty[place].Takes(p.e.kinds[place].Thing(it, n))
	}
	out := []part{{g.first, takes / g.total}}
	if g.rated > 0 {
		out = append(out, part{g.first + 1, it.KG.KG() * float64(n) / g.rated})
	}
	return out
}

// list the placings of an item.
func (p *relaxation) list(t *relaxed) {
	e := p.e
	it := &e.shop.Items[t.item]
	share := float64(t.n) / float64(it.Number())
	t.beyond = math.Inf(1)
	t.last = make([]recent, min(t.n, mostAlike))
	for _, o := range e.fits[t.item] {
		if o.least*share >= t.alone {
			break
		}
		if len(t.placings) >= mostPlacings(len(e.shop.Items)) {
			t.beyond = o.least * share
			break
		}
		w := placing{place: o.place, least: o.least * share, whole: p.whole(t.item, t.n, o.place)}
		if t.n <= mostAlike && p.grounds[o.place].x.cells() > 0 {
			for m := 1; m <= t.n; m++ {
				w.poses = append(w.poses, p.posesOf(t.item, m, o.place)...)
			}
			if len(w.poses) == 0 {
				continue
			}
		}
		t.placings = append(t.placings, w)
	}
}

// posesOf lists every pose of m alike, as a block, at which its reduced cost can be
// least: between them its cost is the same and its shares of the cells change
// linearly.
func (p *relaxation) posesOf(item, m, place int) (out []poses) {
	it, pl, g := &p.e.shop.Items[item], &p.e.shop.Places[place], &p.grounds[place]
	size := it.SizeIn(pl.Kind)
	grow := min(it.KeptClear().MM(), g.slack)
	kind := p.e.kinds[place]
	w, up := size.W.MM(), size.H.MM()
	if g.form == keeping.Lying {
		up = size.D.MM()
	}
	share := float64(m) / float64(it.Number()) // of the item's weekly handling
	for _, s := range p.shapes(m, w, up, it.KeptClear().MM(), it.Turned(kind.Turns()) && w != up && g.form.Shared(), g.cells == keeping.InRows) {
		if s.w > pl.W.MM()+1e-6 {
			continue
		}
		q := poses{n: m}
		ends := []float64{(s.w + grow) / 2} // how far from its middle the block ends
		to := s.rest + grow - ends[0]       // and its last row to the right
		if s.rest > 0 {
			q.last = &poses{}
			ends = append(ends, to)
		}
		centres := p.centres(place, s.w, ends)
		for _, x := range centres {
			q.x = append(q.x, g.x.parts(x-ends[0], x+ends[0]))
			if q.last != nil {
				q.last.x = append(q.last.x, g.x.parts(x-ends[0], x+to))
			}
		}
		switch g.cells {
		case keeping.InRows:
			for k := range g.rows {
				taken, z, aside, ok := kind.Row(pl, it, s.up, k)
				if !ok {
					continue
				}
				var rows []part
				for _, r := range taken {
					rows = append(rows, part{r, 1})
				}
				q.z = append(q.z, rows)
				for _, x := range centres {
					q.cost = append(q.cost, p.costAt(item, place, x, z, aside))
				}
			}
		case keeping.Bands:
			if s.up > pl.H.MM()+1e-6 {
				continue
			}
			half := (s.up + grow) / 2
			top := half - s.last // from the middle up to where the rows before the last end
			levels := p.levels(item, place, s.up, half, top, half-s.high-grow)
			for _, z := range levels {
				q.z = append(q.z, g.z.parts(z-half, z+top))
				if q.last != nil {
					q.last.z = append(q.last.z, g.z.parts(z+half-s.high-grow, z+half))
				}
			}
			q.cost = p.costsOf(item, place, centres, levels)
		default: // one height
			if s.up > pl.D.MM()+1e-6 {
				continue
			}
			deep := g.z.edges[1] - g.z.edges[0]
			q.z = append(q.z, []part{{0, min(s.up-s.last+grow, deep)}})
			if q.last != nil {
				q.last.z = append(q.last.z, []part{{0, min(s.high+grow, deep)}})
			}
			z := kind.Grip(pl, it, 1, pack.Spot{}).Z
			for _, x := range centres {
				q.cost = append(q.cost, p.costAt(item, place, x, z, 0))
			}
		}
		if len(q.z) > 0 {
			for i := range q.cost {
				q.cost[i] *= share
			}
			q.fold()
			if q.last != nil {
				q.last.fold()
			}
			for costs := range slices.Chunk(q.cost, max(1, len(q.x))) {
				q.least = append(q.least, slices.Min(costs))
			}
			out = append(out, q)
		}
	}
	return out
}

// fold works out what each x takes.
func (q *poses) fold() {
	q.wide = math.Inf(1)
	for _, x := range q.x {
		q.spans = append(q.spans, spanOf(x))
		takes := 0.0
		for _, c := range x {
			takes += c.amount
		}
		q.wide = min(q.wide, takes)
	}
}

// shape of some alike as a block.
type shape struct {
	w, up      float64
	rest, last float64 // width of the row that is not full, and what it adds to the height, 0 when all are
	high       float64 // of one row
}

// shapes of m pieces w by up as a block, turned too where they may be. Several rows only where there are no rows to hang or stand in.
func (p *relaxation) shapes(m int, w, up, gap float64, turned, inRows bool) (out []shape) {
	for cols := m; cols >= 1; cols-- {
		rows := (m + cols - 1) / cols
		if rows > 1 && inRows {
			break
		}
		block := func(w, up float64) {
			s := shape{w: float64(cols)*w + float64(cols-1)*gap, up: float64(rows)*up + float64(rows-1)*gap, high: up}
			if n := m - (rows-1)*cols; n < cols {
				s.rest, s.last = float64(n)*w+float64(n-1)*gap, up+gap
			}
			out = append(out, s)
		}
		block(w, up)
		if turned {
			block(up, w)
		}
	}
	return out
}

// costsOf an item in a field: for each level, what it costs at least at each of the centres there or on the way to the next.
func (p *relaxation) costsOf(item, place int, centres, levels []float64) []float64 {
	n := len(centres)
	out := make([]float64, n*len(levels))
	for i := range out {
		out[i] = math.Inf(1)
	}
	for i, centre := range centres {
		if len(levels) == 1 {
			out[i] = p.costAt(item, place, centre, levels[0], 0)
		}
		for _, x := range p.beside(place, centre) {
			// What stands before another part of the wall changes the reach at heights of its own.
			breaks := p.e.scenes.Breaks(place, x)
			for k := range len(levels) - 1 {
				from, least := levels[k], math.Inf(1)
				part := func(to float64) {
					if c, ok := p.e.leastAt(item, place, keeping.Grip{X: x, Z: (from + to) / 2}, from, to, 0); ok {
						least = min(least, c)
					}
					from = to
				}
				for _, b := range breaks {
					if b > from && b < levels[k+1] {
						part(b)
					}
				}
				part(levels[k+1])
				out[k*n+i], out[(k+1)*n+i] = min(out[k*n+i], least), min(out[(k+1)*n+i], least)
			}
		}
	}
	return out
}

// costAt is the least cost just beside x at a height; infinite where it is out of reach.
func (p *relaxation) costAt(item, place int, x, z float64, row int) float64 {
	least := math.Inf(1)
	for _, x := range p.beside(place, x) {
		z := max(0, z)
		if c, ok := p.e.leastAt(item, place, keeping.Grip{X: x, Z: z}, z, z, row); ok {
			least = min(least, c)
		}
	}
	return least
}

// beside are the spots just left and right of one, which may belong to two columns of cost.
func (p *relaxation) beside(place int, x float64) [2]float64 {
	wide := p.e.shop.Places[place].W.MM()
	return [...]float64{min(max(0, x-.002), wide), min(max(0, x+.002), wide)}
}

// centres are the spots along a place at which the middle of a thing w wide enters
// another column of cost, or one of its ends, so far from the middle, another cell.
func (p *relaxation) centres(place int, w float64, ends []float64) []float64 {
	pl, g := &p.e.shop.Places[place], &p.grounds[place]
	from, to := w/2, pl.W.MM()-w/2
	out := []float64{from, to}
	left := p.e.ways.Front(place).X
	for x := (math.Floor((left+from)/access.ColumnWidth)+1)*access.ColumnWidth - left; x < to; x += access.ColumnWidth {
		out = append(out, x)
	}
	for _, e := range ends {
		out = g.x.among(out, e, from, to)
	}
	return out
}

// levels are the same for heights, and where an item begins to be barred.
func (p *relaxation) levels(item, place int, up float64, ends ...float64) []float64 {
	pl, g := &p.e.shop.Places[place], &p.grounds[place]
	from, to := up/2, pl.H.MM()-up/2
	out := []float64{from, to}
	add := func(all []float64) {
		for _, b := range all {
			if b > from && b < to {
				out = append(out, b)
			}
		}
	}
	for _, x := range [...]float64{0, pl.W.MM() / 2, pl.W.MM()} {
		add(p.e.scenes.Breaks(place, x))
	}
	add(p.e.rules.Edges(&p.e.shop.Items[item], place))
	for _, e := range ends {
		out = g.z.among(out, e, from, to)
	}
	return p.withLifts(item, place, out)
}

// withLifts adds to sorted levels those between which lifting begins or ends to bar an item, on the side where it is barred.
func (p *relaxation) withLifts(item, place int, levels []float64) []float64 {
	u := &p.e.uses[item]
	if u.Item.KG.KG() < reach.LiftFrom {
		return levels
	}
	x := p.e.shop.Places[place].W.MM() / 2
	barred := func(z float64) bool { return p.e.scenes.Lift(u, place, keeping.Grip{X: x, Z: z}).Barred }
	for k := range len(levels) - 1 {
		a, b := levels[k], levels[k+1]
		if barred(a) == barred(b) {
			continue
		}
		low, high := a, b
		for high-low > .5 {
			if mid := (low + high) / 2; barred(mid) == barred(a) {
				low = mid
			} else {
				high = mid
			}
		}
		if barred(a) {
			high = low
		}
		levels = append(levels, high)
	}
	slices.Sort(levels)
	return slices.Compact(levels)
}

// Bound is a handling, seconds a week, below which no homes in the places of the problem can come, locked ones where they are.
func (p *Problem) Bound(done func() bool) float64 {
	e := p.Empty()
	o := Options{}
	relaxed := e.relax(func(item int) []*shop.Home { return e.staying(item, o.stays(e.shop.Items[item].ID)) }, done)
	return relaxed.improve(firstSteps, 0, done)
}
