package fit

import (
	"cmp"
	"slices"

	"hobrak/internal/core/keeping"
	"hobrak/internal/core/length"
	"hobrak/internal/core/pack"
	"hobrak/internal/core/shop"
	"hobrak/internal/core/weight"
)

// Doubtful is an item with assumed figures and what hangs on them.
type Doubtful struct {
	Item    string   `json:"item"`
	Fields  []string `json:"fields" nullable:"false" doc:"what is assumed: w, h, d, kg"`
	Seconds float64  `json:"seconds" doc:"a week that are lost, on average, when they turn out larger"`
	Area    float64  `json:"area" doc:"m² of front it would take more, on average"`
}

// Doubts of a shop.
type Doubts struct {
	Sizes int        `json:"sizes" doc:"items of which a side is assumed"`
	KGs   int        `json:"kgs" doc:"items whose weight is assumed"`
	Uses  int        `json:"uses" doc:"items of which it is assumed how often they are fetched"`
	List  []Doubtful `json:"list" nullable:"false" doc:"assumed sizes and weights, those first that most depends on"`
	First int        `json:"first" doc:"how many from the top of the list hold four fifths of what depends on all of them"`
}

// excess is by how much an assumed figure may turn out larger than it was
// assumed, each as likely as the others.
var excess = []float64{1.1, 1.25, 1.5}

// maxDoubts is how many items are tried out; the others are ranked by their area.
const maxDoubts = 400

// Doubts ranks what is assumed by how much the homes depend on it: each assumed
// side and weight is made larger, and when the item then no longer fits where it
// lives, or its place gets overloaded, it costs what the best free home costs
// more, or what being without one costs. Where nothing has a home yet the area
// alone decides.
func (e *Arrangement) Doubts() Doubts {
	e = e.supposing()
	out := Doubts{List: []Doubtful{}}
	type candidate struct {
		item int
		most float64 // seconds that could be lost at all
	}
	var list []candidate
	area := map[int]float64{}
	for i := range e.shop.Items {
		it := &e.shop.Items[i]
		if !it.Needs() || len(it.Assumed) == 0 {
			continue
		}
		if slices.Contains(it.Assumed, "uses_per_week") {
			out.Uses++
		}
		sides := 0
		for _, f := range []string{"w", "h", "d"} {
			if slices.Contains(it.Assumed, f) {
				sides++
			}
		}
		if sides > 0 {
			out.Sizes++
		}
		kg := slices.Contains(it.Assumed, "kg")
		if kg {
			out.KGs++
		}
		if sides == 0 && !kg {
			continue
		}
		for _, k := range excess {
			g := grown(it, k)
			area[i] += (g.W.Metres()*g.H.Metres() - it.W.Metres()*it.H.Metres()) * float64(it.Number()) / float64(len(excess))
		}
		list = append(list, candidate{i, e.homelessCost(i, it.Number())})
	}
	slices.SortStableFunc(list, func(a, b candidate) int {
		return cmp.Or(cmp.Compare(b.most, a.most), cmp.Compare(area[b.item], area[a.item]))
	})
	for n, c := range list {
		it := &e.shop.Items[c.item]
		d := Doubtful{Item: it.ID, Area: area[c.item], Fields: []string{}}
		for _, f := range []string{"w", "h", "d", "kg"} {
			if slices.Contains(it.Assumed, f) {
				d.Fields = append(d.Fields, f)
			}
		}
		if n < maxDoubts {
			for _, k := range excess {
				d.Seconds += e.lostIfGrown(c.item, k) / float64(len(excess))
			}
		}
		out.List = append(out.List, d)
	}
	slices.SortStableFunc(out.List, func(a, b Doubtful) int {
		return cmp.Or(cmp.Compare(b.Seconds, a.Seconds), cmp.Compare(b.Area, a.Area))
	})
	out.First = first(out.List)
	return out
}

// supposing gives the arrangement items of its own, so that they can be supposed to be otherwise
// while others read the shop.
func (e *Arrangement) supposing() *Arrangement {
	own := *e.shop
	own.Items = slices.Clone(own.Items)
	p := *e.Problem
	p.shop = &own
	x := *e
	x.Problem = &p
	return &x
}

// first counts how many from the top hold four fifths of the seconds, or of the
// area where no seconds are at stake.
func first(list []Doubtful) int {
	weigh := func(d Doubtful) float64 { return d.Seconds }
	sum := 0.0
	for _, d := range list {
		sum += d.Seconds
	}
	if sum == 0 {
		weigh = func(d Doubtful) float64 { return d.Area }
		for _, d := range list {
			sum += d.Area
		}
	}
	so := 0.0
	for n, d := range list {
		if so >= .8*sum {
			return n
		}
		so += weigh(d)
	}
	return len(list)
}

// grown is an item with what is assumed of it so many times as large.
func grown(it *shop.Item, k float64) shop.Item {
	g := *it
	more := func(l *length.Length, f string) {
		if slices.Contains(it.Assumed, f) {
			*l = length.Length(float64(*l) * k)
		}
	}
	more(&g.W, "w")
	more(&g.H, "h")
	more(&g.D, "d")
	if g.Flat != nil {
		flat := *g.Flat
		if slices.ContainsFunc(it.Assumed, func(f string) bool { return f == "w" || f == "h" || f == "d" }) {
			flat.W, flat.H, flat.D = length.Length(float64(flat.W)*k), length.Length(float64(flat.H)*k), length.Length(float64(flat.D)*k)
		}
		g.Flat = &flat
	}
	if slices.Contains(it.Assumed, "kg") {
		g.KG = weight.Weight(float64(g.KG) * k)
	}
	return g
}

// lostIfGrown is how many seconds a week it costs when what is assumed of an
// item is so many times as large; 0 when it still fits where it lives. The arrangement has
// items of its own.
func (e *Arrangement) lostIfGrown(item int, k float64) float64 {
	it := &e.shop.Items[item]
	now := e.now(item)
	homes := e.ways.Index.Homes(it.ID)
	back := e.lift(item)
	old := *it
	*it = grown(&old, k)
	defer func() {
		*it = old
		back()
	}()
	if len(homes) > 0 && e.staysGrown(item, homes) {
		return 0
	}
	least := e.homelessCost(item, it.Number())
	for i := range e.fits[item] {
		o := &e.fits[item][i]
		if o.least >= least {
			break
		}
		if keeping.Barred(&e.shop.Places[o.place], it, it.Number(), e.spaces[o.place]) != "" {
			continue
		}
		if at := e.best(item, it.Number(), o); at.Found {
			least = min(least, at.Cost)
		}
	}
	return max(0, least-now)
}

// staysGrown tells whether a grown item, taken out, may be put back into its homes.
func (e *Arrangement) staysGrown(item int, homes []*shop.Home) bool {
	it := &e.shop.Items[item]
	for _, h := range homes {
		place := e.ways.PlaceNumber(h.Place)
		p := &e.shop.Places[place]
		n := h.Number(it)
		if over, _ := e.overloaded(item, n, place); over > 0 {
			return false
		}
		if keeping.Barred(p, it, n, e.emptySpace(place)) != "" {
			return false
		}
		t, s := keeping.Thing(p, it, n), keeping.SpotOf(p, h)
		if len(railsOf(e.spaces[place])) > 0 {
			s = hangLower(p, s, t)
		}
		if e.spaces[place].Allows(t, s) != nil {
			return false
		}
	}
	return true
}

// hangLower moves a spot in a cleat field so that the top is at a rail again and
// the lower edge no higher than it was.
func hangLower(p *shop.Place, s pack.Spot, t pack.Thing) pack.Spot {
	if s.Turned {
		return s
	}
	best, found := s, false
	for _, rail := range p.Rows {
		if y := rail - t.H; y <= s.Y && (!found || y > best.Y) {
			best.Y, found = y, true
		}
	}
	return best
}
