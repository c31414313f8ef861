package fit

import (
	"cmp"
	"math"
	"slices"

	"hobrak/internal/core/keeping"
	"hobrak/internal/core/pack"
	"hobrak/internal/core/shop"
)

// Admission of a new or changed thing. Costs are seconds a week.
type Admission struct {
	Found   bool
	Homes   []shop.Home // of the thing, and of those that move for it
	Moved   []string    // the items that move, besides it, each once
	Seconds float64     // of it and of what moves, after
	Before  float64     // of the same as they are; the thing counts as without a home when it has none
	Why     string      // why there is no home, when there is none
	Change  string      // the smallest change that would give it one
	// More is what would be gained on top if MoreMoved others might move; 0 when nothing.
	More      float64
	MoreMoved int
}

const (
	mostTargets = 12 // cheapest places that are looked at
	mostSpots   = 24 // spots in each, where something is in the way
	furtherOn   = 2  // how many more might move in the answer to "what if"
)

// Admit finds a home for all pieces of an item that moves at most k others, which go
// to free spots of their own. Locked homes stay. The arrangement is left as it was.
func (e *Arrangement) Admit(item, k int) Admission {
	it := &e.shop.Items[item]
	if on := e.LyingOn(item); on != "" {
		return Admission{Before: e.now(item), Seconds: e.now(item), Why: Lies(on)}
	}
	back := e.lift(item)
	defer back()
	now := e.now(item)
	out := Admission{Before: now}
	e.parcels = append(e.parcels, parcel{item: item, n: it.Number(), place: none})
	me := len(e.parcels) - 1
	defer func() { e.parcels = e.parcels[:me] }()
	best, ok := e.makeRoom(me, k)
	further, better := e.makeRoom(me, k+furtherOn)
	if ok {
		out.Found, out.Seconds, out.Before = true, best.after, now+best.before
		for i, s := range best.moves {
			q := &e.parcels[s.i]
			h := keeping.Home(&e.shop.Items[q.item], &e.shop.Places[s.place], q.n, s.spot)
			out.Homes = append(out.Homes, h)
			if i > 0 {
				if id := e.shop.Items[q.item].ID; !slices.Contains(out.Moved, id) {
					out.Moved = append(out.Moved, id)
					out.Homes = append(out.Homes, e.otherHomes(q.item, best.moves)...)
				}
			}
		}
	} else {
		out.Why, out.Change = e.reason(item, it.Number())
	}
	if better {
		saved, mine := now+further.before-further.after, 0.0
		if ok {
			mine = out.Before - out.Seconds
		}
		if gain := saved - mine; gain > .05 {
			out.More, out.MoreMoved = gain, len(further.moves)-1
		}
	}
	return out
}

// otherHomes of an item of which some pieces move: those that stay.
func (e *Arrangement) otherHomes(item int, moves []saved) (out []shop.Home) {
	for i := range e.parcels {
		q := &e.parcels[i]
		if q.item != item || q.place == none || slices.ContainsFunc(moves, func(s saved) bool { return s.i == i }) {
			continue
		}
		h := keeping.Home(&e.shop.Items[item], &e.shop.Places[q.place], q.n, q.spot)
		h.Locked = e.keepsLock(q)
		out = append(out, h)
	}
	return out
}

// exchange is a way to make room: the thing first, then what moves for it.
type exchange struct {
	moves  []saved
	after  float64 // of all that moves
	before float64 // of what moves, without the thing
}

// makeRoom finds the exchange that costs least for a parcel that is out, moving at
// most k others.
func (e *Arrangement) makeRoom(me, k int) (best exchange, ok bool) {
	p := &e.parcels[me]
	it := &e.shop.Items[p.item]
	share := float64(p.n) / float64(it.Number())
	least := math.Inf(1) // of after − before
	for i := range e.fits[p.item] {
		o := &e.fits[p.item][i]
		if i >= mostTargets && ok || o.least*share >= least {
			break
		}
		if at := e.best(p.item, p.n, o); at.Found && at.Cost < least {
			least, ok = at.Cost, true
			best = exchange{moves: []saved{{me, o.place, at.Spot, at.Cost}}, after: at.Cost}
		}
		space, crowded := e.spaces[o.place].(pack.Crowded)
		if k < 1 || !crowded || i >= mostTargets {
			continue
		}
		for _, s := range e.crowdedSpots(me, o, space) {
			if s.cost >= least {
				break // the cheapest come first
			}
			if x, can := e.push(me, o.place, s.Spot, s.cost, space, k, least); can && x.after-x.before < least-1e-9 {
				least, best, ok = x.after-x.before, x, true
			}
		}
	}
	return best, ok
}

// ratedSpot is a spot with its cost.
type ratedSpot struct {
	pack.Spot
	cost float64
}

// crowdedSpots are where a parcel would be if what is there moved: at what lies
// there, the cheapest first.
func (e *Arrangement) crowdedSpots(me int, o *option, space pack.Crowded) []ratedSpot {
	p := &e.parcels[me]
	pl, it := &e.shop.Places[o.place], &e.shop.Items[p.item]
	t := keeping.Thing(pl, it, p.n)
	var spots []pack.Spot
	for _, s := range space.Corners() {
		s.Cols = 1
		if e.kinds[o.place].Form().InRow() {
			s.Cols = p.n
		}
		rails := railsOf(e.spaces[o.place])
		if len(rails) == 0 {
			spots = append(spots, e.kinds[o.place].Into(pl, t, s))
			continue
		}
		for _, z := range rails {
			if z >= t.H {
				s.Y = z - t.H
				spots = append(spots, e.kinds[o.place].Into(pl, t, s))
			}
		}
	}
	slices.SortFunc(spots, func(a, b pack.Spot) int { return cmp.Or(cmp.Compare(a.X, b.X), cmp.Compare(a.Y, b.Y)) })
	var out []ratedSpot
	for _, s := range slices.Compact(spots) {
		if c, why := e.spotCost(p.item, p.n, o.place, s, false); why == "" {
			out = append(out, ratedSpot{s, c})
		}
	}
	slices.SortStableFunc(out, func(a, b ratedSpot) int { return cmp.Compare(a.cost, b.cost) })
	return out[:min(len(out), mostSpots)]
}

// push puts a parcel where others are and finds those a free spot each, at most k
// of them; all is put back as it was.
func (e *Arrangement) push(me, place int, s pack.Spot, cost float64, space pack.Crowded, k int, least float64) (x exchange, ok bool) {
	p := &e.parcels[me]
	t := e.kinds[place].Thing(&e.shop.Items[p.item], p.n)
	ids := space.Clashes(t, s)
	if len(ids) == 0 || len(ids) > k {
		return x, false
	}
	x = exchange{moves: []saved{{me, place, s, cost}}, after: cost}
	for _, id := range ids {
		if id < 0 || e.parcels[id].fixed {
			return x, false
		}
	}
	was := make([]saved, 0, len(ids))
	for _, id := range ids {
		q := &e.parcels[id]
		was = append(was, e.savedOf(id))
		x.before += q.cost
		e.take(id)
	}
	put := []int{}
	defer func() {
		for _, id := range put {
			e.take(id)
		}
		for _, w := range was {
			e.put(w.i, w.place, w.spot, w.cost)
		}
	}()
	if over, _ := e.overloaded(p.item, p.n, place); over > 0 || e.harmful(p.item, place) != "" || e.spaces[place].Allows(t, s) != nil {
		return x, false
	}
	e.put(me, place, s, cost)
	put = append(put, me)
	for _, id := range ids {
		q := &e.parcels[id]
		spot, at, c := pack.Spot{}, none, math.Inf(1)
		share := float64(q.n) / float64(e.shop.Items[q.item].Number())
		for i := range e.fits[q.item] {
			o := &e.fits[q.item][i]
			if i >= mostTargets || o.least*share >= c || x.after-x.before+o.least*share >= least {
				break
			}
			if to := e.best(q.item, q.n, o); to.Found && to.Cost < c {
				spot, at, c = to.Spot, o.place, to.Cost
			}
		}
		if at == none {
			return x, false
		}
		e.put(id, at, spot, c)
		put = append(put, id)
		x.moves = append(x.moves, saved{id, at, spot, c})
		x.after += c
	}
	return x, true
}
