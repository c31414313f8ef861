package fit

import (
	"fmt"
	"slices"

	"hobrak/internal/core/access"
	"hobrak/internal/core/keeping"
	"hobrak/internal/core/pack"
	"hobrak/internal/core/reach"
	"hobrak/internal/core/scene"
	"hobrak/internal/core/shop"
	"hobrak/internal/core/weight"
)

// NotAsked is the reason of what was not among the items homes were looked for.
const NotAsked = "no home was looked for"

// reason says why n pieces of an item found no home, and the smallest change
// seen that would give them one.
func (e *Arrangement) reason(item, n int) (why, change string) {
	it := &e.shop.Items[item]
	if e.asked != nil && !slices.Contains(e.asked, it.ID) {
		return NotAsked, ""
	}
	if len(e.shop.Places) == 0 {
		return "there is no place yet", ""
	}
	if len(e.fits[item]) == 0 {
		return e.nowhere(item), e.change(item, n)
	}
	// Of the places that could take it when empty, the cheapest says what is in the way.
	p := e.fits[item][0].place
	return fmt.Sprintf("%s would take it but %s", e.shop.Places[p].ID, e.inTheWay(item, n, p)), e.change(item, n)
}

// roomFor is a place that has a free spot for n pieces of an item as it is filled now;
// empty when there is none, or when it was not asked for.
func (e *Arrangement) roomFor(item, n int) string {
	if e.asked != nil && !slices.Contains(e.asked, e.shop.Items[item].ID) {
		return ""
	}
	for k := range e.fits[item] {
		o := &e.fits[item][k]
		if e.best(item, n, o).Found {
			return e.shop.Places[o.place].ID
		}
	}
	return ""
}

// nowhere is the reason of what no place can take even when empty.
func (e *Problem) nowhere(item int) string {
	it := &e.shop.Items[item]
	first, nearest, least := none, none, 0.0
	for p := range e.shop.Places {
		pl := &e.shop.Places[p]
		if !pl.Takes(it) {
			continue
		}
		if first == none {
			first = p
		}
		if why := e.rules.Bars(it, p); why != "" && keeping.Barred(pl, it, 1, e.emptySpace(p)) == "" {
			return fmt.Sprintf("%s would take it, but %s", pl.ID, why)
		}
		if short := keeping.Of(pl).Short(pl, keeping.Of(pl).Size(it)); short > 0 && (nearest == none || short < least) {
			nearest, least = p, short
		}
	}
	bar := func(p int) string { return fmt.Sprintf("%s: %s", e.shop.Places[p].ID, e.bars[item][p]) }
	switch {
	case first == none:
		return "no place holds things that are kept " + keeping.Either(it.Holding())
	case nearest == none:
		return bar(first)
	}
	return "too big for every place that could hold it; " + bar(nearest)
}

// inTheWay says what bars n pieces from a place as it is filled now.
func (e *Arrangement) inTheWay(item, n, place int) string {
	it, p := &e.shop.Items[item], &e.shop.Places[place]
	if over, what := e.overloaded(item, n, place); over > 0 {
		return fmt.Sprintf("%s would carry %s too much", what, over)
	}
	if why := e.harmful(item, place); why != "" {
		return why
	}
	if why := e.tornApart(item, place); why != "" {
		return why
	}
	t := keeping.Thing(p, it, n)
	spots := e.spaces[place].Spots(t, nil)
	for _, s := range spots {
		if _, why := e.spotCost(item, n, place, s, false); why != "" {
			return why
		}
	}
	if len(spots) > 0 {
		return ""
	}
	empty := e.emptySpace(place)
	if err := empty.Allows(t, keeping.Of(p).Try(p, t)); err != nil && e.kinds[place].Form() != keeping.Heap && len(empty.Spots(t, nil)) == 0 {
		return err.Error()
	}
	if b, ok := e.spaces[place].(*pack.Bin); ok {
		return b.Allows(t, pack.Spot{}).Error()
	}
	return "what is in it leaves no free spot large enough"
}

// AsItIs puts the shop's own homes into the places, so that questions are
// answered about the shop as it stands. What overlaps stays where it is said to be.
func (p *Problem) AsItIs() *Arrangement {
	e := p.Empty()
	for i := range e.shop.Items {
		it := &e.shop.Items[i]
		if !it.Needs() {
			continue
		}
		for _, h := range e.ways.Index.Homes(it.ID) {
			e.settleIn(i, h)
		}
	}
	return e
}

// settleIn puts what a home says of an item where it says, whatever is there.
func (e *Arrangement) settleIn(item int, h *shop.Home) {
	place := e.ways.PlaceNumber(h.Place)
	e.parcels = append(e.parcels, parcel{item: item, n: h.Number(&e.shop.Items[item]), fixed: h.Locked, place: none})
	e.put(len(e.parcels)-1, place, keeping.SpotOf(&e.shop.Places[place], h), e.homeCost(item, h))
}

// Answer to the question whether an item may live at a spot.
type Answer struct {
	Allowed bool
	Home    shop.Home // the spot, moved to the nearest one that is free when that is near
	Why     string    // what forbids it
	Here    float64   // seconds a week there
	Now     float64   // seconds a week where it is now, or without a home
	Load    weight.Weight
	Room    weight.Weight // capacity, 0 when not rated
	Caution string
}

// near is how far a dropped thing slides to a free spot, in µm.
const near = 150_000

// Try answers for all pieces of an item at a wished home. Only place, x, y, z,
// rot, row, slot and level of the wish count.
func (e *Arrangement) Try(item int, wish shop.Home) Answer {
	it := &e.shop.Items[item]
	place := e.ways.PlaceNumber(wish.Place)
	p := &e.shop.Places[place]
	out := Answer{Home: wish, Now: e.now(item), Room: p.Capacity}
	out.Home.Item, out.Home.N = it.ID, 0
	if why := keeping.Barred(p, it, it.Number(), e.emptySpace(place)); why != "" {
		out.Why = why
		return out
	}
	if on := e.LyingOn(item); on != "" {
		out.Why = Lies(on)
		return out
	}
	back := e.lift(item)
	defer back()
	n := it.Number()
	out.Load = e.load[place] + it.KG*weight.Weight(n)
	if over, what := e.overloaded(item, n, place); over > 0 {
		out.Why = fmt.Sprintf("%s would carry %s too much", what, over)
		return out
	}
	if out.Why = e.rules.Bars(it, place); out.Why == "" {
		out.Why = e.harmful(item, place)
	}
	if out.Why == "" {
		out.Why = e.tornApart(item, place)
	}
	if out.Why != "" {
		return out
	}
	t := keeping.Thing(p, it, n)
	spot := keeping.SpotOf(p, &out.Home)
	err := e.spaces[place].Allows(t, spot)
	if err != nil {
		var ok bool
		if spot, ok = e.nearest(p, t, spot, place); !ok {
			out.Why = err.Error()
			return out
		}
	}
	cost, why := e.spotCost(item, n, place, spot, false)
	if why != "" {
		out.Why = why
		return out
	}
	out.Allowed, out.Here, out.Home = true, cost, keeping.Home(&e.shop.Items[item], &e.shop.Places[place], n, spot)
	if v := e.scenes.Lift(&e.uses[item], place, e.grip(item, n, place, spot)); v.Caution {
		out.Caution = v.Why
	}
	return out
}

// Fill is the share of a place's room that is taken.
func (e *Arrangement) Fill(place int) float64 {
	if room := e.spaces[place].Room(); room > 0 {
		return e.spaces[place].Used() / room
	}
	return 0
}

// Settle puts all pieces of an item without a home at the cheapest free spot of
// a place, where the arrangement keeps them for the questions that follow.
func (e *Arrangement) Settle(item int, place string) Answer {
	k := e.ways.PlaceNumber(place)
	out := Answer{Home: shop.Home{Item: e.shop.Items[item].ID, Place: place}}
	n := e.shop.Items[item].Number()
	for i := range e.fits[item] {
		o := &e.fits[item][i]
		if o.place != k {
			continue
		}
		if over, what := e.overloaded(item, n, k); over > 0 {
			out.Why = fmt.Sprintf("%s would carry %s too much", what, over)
			return out
		}
		at := e.best(item, n, o)
		if why := e.tornApart(item, k); why != "" {
			out.Why = why
			return out
		}
		if !at.Found {
			out.Why = "no spot is free there"
			return out
		}
		e.parcels = append(e.parcels, parcel{item: item, n: n, place: none})
		e.put(len(e.parcels)-1, k, at.Spot, at.Cost)
		out.Allowed, out.Here, out.Home = true, at.Cost, keeping.Home(&e.shop.Items[item], &e.shop.Places[k], n, at.Spot)
		return out
	}
	if out.Why = keeping.Barred(&e.shop.Places[k], &e.shop.Items[item], n, e.spaces[k]); out.Why == "" {
		out.Why = "it cannot be there"
	}
	return out
}

// nearest free spot to a wished one; in a field only a near one.
func (e *Arrangement) nearest(p *shop.Place, t pack.Thing, wish pack.Spot, place int) (pack.Spot, bool) {
	best, found := pack.Spot{}, false
	least := int64(0)
	spots := e.spaces[place].Spots(t, nil)
	if pl, ok := e.spaces[place].(*pack.Plane); ok && len(pl.Rails) > 0 {
		// A holder slides along its rail: try the wished x at each rail.
		for _, z := range pl.Rails {
			s := wish
			s.Y = z - t.H
			if pl.Allows(t, s) == nil {
				spots = append(spots, s)
			}
		}
	}
	limit := int64(near)
	if !e.kinds[place].Form().Sliding() {
		limit = 1 << 60 // slots, arms, bins: anywhere in the place is meant
	}
	for _, s := range spots {
		dx, dy := int64(s.X-wish.X), int64(s.Y-wish.Y)
		if _, ok := e.spaces[place].(*pack.Rail); ok {
			dx = int64(s.Slot-wish.Slot) * int64(p.RailPitch())
		}
		d := max(dx, -dx) + max(dy, -dy)
		if d <= limit && (!found || d < least) {
			best, least, found = s, d, true
		}
	}
	return best, found
}

// lift takes all parcels of an item out and gives the way back.
func (e *Arrangement) lift(item int) func() {
	var was []saved
	for i := range e.parcels {
		if p := &e.parcels[i]; p.item == item && p.place != none {
			was = append(was, e.savedOf(i))
			e.take(i)
		}
	}
	return func() {
		for _, s := range was {
			e.put(s.i, s.place, s.spot, s.cost)
		}
	}
}

// Lies says what to do about a thing that lies on another.
func Lies(on string) string { return on + " lies on it; take that off first" }

// LyingOn names another thing that lies on one of the item's pieces where they live, so
// that they cannot be taken away by themselves; empty when none does.
func (e *Arrangement) LyingOn(item int) string {
	for i := range e.parcels {
		p := &e.parcels[i]
		if p.item != item || p.place == none {
			continue
		}
		arms, ok := e.spaces[p.place].(*pack.Arms)
		if !ok {
			continue
		}
		for _, k := range arms.On(i) {
			if e.parcels[k].item != item {
				return e.shop.Items[e.parcels[k].item].Name
			}
		}
	}
	return ""
}

// now is the weekly handling of an item as it stands.
func (e *Problem) now(item int) float64 {
	it := &e.shop.Items[item]
	rest, sum := it.Number(), 0.0
	for _, h := range e.ways.Index.Homes(it.ID) {
		rest -= h.Number(it)
		sum += e.homeCost(item, h)
	}
	if rest > 0 {
		sum += e.homelessCost(item, rest)
	}
	return sum
}

// Find the best free home for all pieces of an item, nothing else moving.
func (e *Arrangement) Find(item int) (Answer, bool) {
	n := e.shop.Items[item].Number()
	if on := e.LyingOn(item); on != "" {
		return Answer{Why: Lies(on), Now: e.now(item)}, false
	}
	back := e.lift(item)
	least, place, spot := 0.0, none, pack.Spot{}
	for k := range e.fits[item] {
		o := &e.fits[item][k]
		if place != none && o.least >= least {
			break
		}
		if at := e.best(item, n, o); at.Found && (place == none || at.Cost < least) {
			least, place, spot = at.Cost, o.place, at.Spot
		}
	}
	back()
	if place == none {
		why, change := e.reason(item, n)
		if change != "" {
			why += "; " + change
		}
		return Answer{Why: why, Now: e.now(item)}, false
	}
	return e.Try(item, keeping.Home(&e.shop.Items[item], &e.shop.Places[place], n, spot)), true
}

// Better is a place that would cost less, and what bars it.
type Better struct {
	Place   string
	Seconds float64
	Barred  string
}

// Reasons why an item lives where it does.
type Reasons struct {
	Seconds float64 // a week
	Order   int
	Band    string
	Station string // the station the parts are worked out from
	Parts   []reach.Part
	Fetch   float64
	PutBack float64
	Lift    reach.Verdict
	Better  []Better
}

// Explain a home of an item.
func (e *Arrangement) Explain(item int, h *shop.Home) Reasons {
	u := &e.uses[item]
	place := e.ways.PlaceNumber(h.Place)
	p := &e.shop.Places[place]
	s := keeping.SpotOf(p, h)
	g := keeping.GripOf(p, u.Item, h)
	out := Reasons{Seconds: e.now(item), Lift: e.scenes.Lift(u, place, g)}
	station := none
	if ss := u.Stations(); len(ss) > 0 {
		station = ss[max(0, slices.IndexFunc(ss, e.ways.Worked))]
		out.Station = e.shop.Stations[station].Name
	}
	errand, ok := e.ways.Errand(u, place, g, keeping.Aside(p, s), station)
	out.Band = errand.Band.String()
	if ok {
		t := reach.Fetch(errand)
		out.Parts, out.Fetch, out.PutBack, out.Order = t.Parts, t.Fetch, t.PutBack, reach.Order(errand)
	} else {
		out.Order = 4
	}
	n := u.Item.Number()
	back := e.lift(item)
	for k := range e.fits[item] {
		o := &e.fits[item][k]
		if o.least >= out.Seconds-.05 || len(out.Better) == 3 {
			break
		}
		if o.place == place {
			continue
		}
		b := Better{Place: e.shop.Places[o.place].ID, Seconds: o.least}
		if at := e.best(item, n, o); at.Found {
			if at.Cost >= out.Seconds-.05 {
				b.Barred = "the good spots in it are taken"
			} else {
				b.Seconds = at.Cost
			}
		} else {
			b.Barred = e.inTheWay(item, n, o.place)
		}
		out.Better = append(out.Better, b)
	}
	back()
	return out
}

// OrderOf a home from 1 to 4, see reach.Order; 4 also for what cannot be reached.
func (e *Problem) OrderOf(item int, h *shop.Home) int {
	u := &e.uses[item]
	place := e.ways.PlaceNumber(h.Place)
	p := &e.shop.Places[place]
	worst := 0
	stations := u.Stations()
	if len(stations) == 0 {
		stations = []int{none}
	}
	for _, s := range stations {
		if s != none && !e.ways.Worked(s) && slices.ContainsFunc(stations, e.ways.Worked) {
			continue
		}
		errand, ok := e.ways.Errand(u, place, keeping.GripOf(p, u.Item, h), keeping.Aside(p, keeping.SpotOf(p, h)), s)
		if !ok {
			return 4
		}
		worst = max(worst, reach.Order(errand))
	}
	return worst
}

// Seconds a week of an item as it stands.
func (e *Problem) Seconds(item int) float64 { return e.now(item) }

// Scenes the problem counts.
func (e *Problem) Scenes() *scene.Scenes { return e.scenes }

// Map of the ways of the shop as it stands.
func (e *Problem) Map() *access.Map { return e.ways }
