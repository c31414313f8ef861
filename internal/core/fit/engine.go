// Package fit gives every item a home. It knows which places can take what
// (geometry, holding, capacity, reach, lifting), what each home costs in
// seconds a week, and searches for the homes that cost least in all.
//
// The search constructs a plan by regret (the thing that loses most by not
// getting its best spot goes first) and improves it by taking a few things out
// and putting them back better (large neighbourhood search, Shaw 1998; ruin and
// recreate, Schrimpf and others 2000). It is deterministic for a seed and a
// number of iterations.
package fit

import (
	"errors"
	"slices"

	"hobrak/internal/core/access"
	"hobrak/internal/core/hazard"
	"hobrak/internal/core/inorder"
	"hobrak/internal/core/keeping"
	"hobrak/internal/core/length"
	"hobrak/internal/core/pack"
	"hobrak/internal/core/scene"
	"hobrak/internal/core/shop"
	"hobrak/internal/core/weight"
)

// none marks a parcel without a place.
const none = -1

// parcel is what gets one home: all pieces of an item, or some of them.
type parcel struct {
	item  int
	n     int
	fixed bool
	place int
	spot  pack.Spot
	cost  float64 // seconds a week
}

// Problem is a shop ready for questions about homes: what can live where, and what it would
// cost there. It does not change once it is made and may be used by several goroutines.
type Problem struct {
	shop     *shop.Shop
	ways     *access.Map // as it stands
	scenes   *scene.Scenes
	uses     []access.Use
	within   [][]int // bearers each place is in or on: containers, and places with containers on them
	screwed  []screwed
	hung     [][]hung   // by place, the screws it hangs on
	fits     [][]option // by item: the places that can take one piece, cheapest first
	bars     [][]string // by item and place: what bars it there even when it is empty
	rules    *hazard.Rules
	kin      families
	kinds    []keeping.Kind // of the places
	sorters  map[shop.Ordering]*inorder.Sorter
	nuisance []float64 // of an item without a home, beyond its seconds
}

// Arrangement is a state of a problem: which things are where. Questions that move things
// to find out put them back, so that several must not ask one arrangement at once.
type Arrangement struct {
	*Problem
	spaces  []pack.Space
	load    []weight.Weight // by place
	pulled  []pulls         // by screwed, what its contents weigh
	carried []weight.Weight // by bearer, what is in it: the containers, then the places
	parcels []parcel
	harm    [][3]int      // pieces of each kind of hazard by place
	rough   [][2]int      // pieces that are fragile and that are handled with force, by place
	cases   []map[int]int // by family: parcels by the case they are in
	asked   []string      // the items homes are looked for, by id; nil: all
	prices  prices        // of what is looked for just now
	spots   []pack.Spot   // room to work in
}

// option is a place that can take an item.
type option struct {
	place int
	least float64 // seconds a week for all pieces at the best spot of the empty place; never too high
	// prefer lists the cheapest grips in the empty place: where a field is still
	// sparsely filled, they beat its corners.
	prefer []keeping.Grip
	// bands is what it costs at each height; nil where the height does not matter, and in places
	// that are hardly ever asked for.
	bands *bands
}

// ErrStopped says that the preparation was given up.
var ErrStopped = errors.New("stopped before the search began")

// New prepares a shop with its homes as they stand.
func New(s *shop.Shop) (*Problem, error) { return NewUntil(s, func() bool { return false }) }

// In is the problem of a shop in some scenes, likewise.
func In(scenes *scene.Scenes, stop func() bool) (*Problem, error) { return problem(scenes, stop) }

// ByHours is the problem of a shop in all its modes, each by its hours; as it stands when there are none.
func ByHours(s *shop.Shop, stop func() bool) (*Problem, error) {
	scenes, err := scene.ByHours(s)
	if err != nil {
		return nil, err
	}
	return problem(scenes, stop)
}

// NewUntil is New that gives up with ErrStopped when stop says so; it is asked often, by
// several at once.
func NewUntil(s *shop.Shop, stop func() bool) (*Problem, error) {
	scenes, err := scene.AsItStands(s)
	if err != nil {
		return nil, err
	}
	return problem(scenes, stop)
}

func problem(scenes *scene.Scenes, stop func() bool) (*Problem, error) {
	m := scenes.Base
	s := m.Shop
	e := &Problem{shop: s, ways: m, scenes: scenes, rules: hazard.In(scenes)}
	e.prepare()
	all := make([]int, len(s.Items))
	for i := range s.Items {
		all[i] = i
		e.uses = append(e.uses, m.UseOf(&s.Items[i]))
	}
	e.fits, e.bars = make([][]option, len(all)), make([][]string, len(all))
	e.survey(all, stop)
	if stop() {
		return nil, ErrStopped
	}
	e.weigh()
	return e, nil
}

// prepare what depends on the places and on who belongs together.
func (e *Problem) prepare() {
	s := e.shop
	bearing := map[string]bool{}
	for i := range s.Containers {
		bearing[s.Containers[i].At.In] = true
	}
	for i := range s.Places {
		p := &s.Places[i]
		e.kinds = append(e.kinds, keeping.Of(p))
		within := e.bearersOf(&p.At)
		if bearing[p.ID] {
			within = append(within, len(s.Containers)+i)
		}
		e.within = append(e.within, within)
	}
	e.kin = e.families()
	e.sorters = map[shop.Ordering]*inorder.Sorter{shop.BySize: inorder.By(s, shop.BySize)}
	for i := range s.Places {
		if by := s.Places[i].Order; by != "" && e.sorters[by] == nil {
			e.sorters[by] = inorder.By(s, by)
		}
	}
	e.onScrews()
}

// weigh says how much of a nuisance each item is without a home. Where things share
// the room of a field, drawer or deck, room is what is scarce: half of it counts for
// the size of the thing against the mean. On hooks and in slots all count alike.
func (e *Problem) weigh() {
	size := make([]float64, len(e.shop.Items))
	mean := 0.0
	for i := range e.shop.Items {
		it := &e.shop.Items[i]
		sides := []float64{it.W.MM(), it.H.MM(), it.D.MM()}
		slices.Sort(sides)
		size[i] = sides[1] * sides[2]
		mean += size[i] / float64(len(size))
	}
	e.nuisance = make([]float64, len(size))
	for i := range size {
		e.nuisance[i] = nuisance
		shares := func(o option) bool {
			return e.kinds[o.place].Form().Shared()
		}
		if len(e.fits[i]) > 0 && !slices.ContainsFunc(e.fits[i], func(o option) bool { return !shares(o) }) {
			e.nuisance[i] *= .5 + .5*min(10, size[i]/mean)
		}
	}
}

// Empty is the arrangement with nothing in any place.
func (p *Problem) Empty() *Arrangement {
	e := &Arrangement{Problem: p}
	e.reset()
	return e
}

// reset empties all places.
func (e *Arrangement) reset() {
	e.spaces = e.emptySpaces()
	e.cases = make([]map[int]int, e.kin.n)
	for k := range e.cases {
		e.cases[k] = map[int]int{}
	}
	e.load = make([]weight.Weight, len(e.shop.Places))
	e.carried = make([]weight.Weight, len(e.shop.Containers)+len(e.shop.Places))
	for i := range e.shop.Containers {
		c := &e.shop.Containers[i]
		for _, b := range e.bearersOf(&c.At) {
			e.carried[b] += c.KG
		}
	}
	e.pulled = make([]pulls, len(e.screwed))
	e.harm = make([][3]int, len(e.shop.Places))
	e.rough = make([][2]int, len(e.shop.Places))
	e.parcels = e.parcels[:0]
}

// harmful says what in or near a place an item must stay away from; empty when
// there is nothing.
func (e *Arrangement) harmful(item, place int) string {
	if it := &e.shop.Items[item]; it.Flagged(shop.Fragile) && e.rough[place][1] > 0 {
		return "something handled with force is kept there"
	} else if it.Flagged(shop.HeavyHanded) && e.rough[place][0] > 0 {
		return "something fragile is kept there"
	}
	kind := hazard.KindOf(&e.shop.Items[item])
	if kind == hazard.Harmless {
		return ""
	}
	for _, p := range e.rules.Near(place) {
		if e.harm[p][kind.Other()] > 0 {
			if kind == hazard.Burns {
				return "something charges too near, in " + e.shop.Places[p].ID
			}
			return "something flammable is too near, in " + e.shop.Places[p].ID
		}
	}
	return ""
}

// bearersOf lists what carries what is at a position: the containers it is in and
// the places those are on, by their number in carried.
func (e *Problem) bearersOf(at *shop.At) (out []int) {
	chain, _ := e.ways.Index.Chain(at)
	for i := range e.shop.Containers {
		if slices.Contains(chain, &e.shop.Containers[i]) {
			out = append(out, i)
		}
	}
	for _, p := range e.ways.Index.Bearers(at) {
		out = append(out, len(e.shop.Containers)+e.ways.PlaceNumber(p.ID))
	}
	return out
}

// rated is the capacity of a bearer.
func (e *Problem) rated(bearer int) (weight.Weight, string) {
	if n := len(e.shop.Containers); bearer >= n {
		p := &e.shop.Places[bearer-n]
		return p.Capacity, p.ID
	}
	return e.shop.Containers[bearer].Capacity, e.shop.Containers[bearer].ID
}

// headOver is the height from a bin's floor to the lowest wall top of its area.
func headOver(m *access.Map, place int) length.Length {
	f := m.Front(place)
	if f.Area == nil {
		return 0
	}
	low := f.Area.Walls[0].Profile[0][1]
	for _, w := range f.Area.Walls {
		for _, p := range w.Profile {
			low = min(low, p[1])
		}
	}
	return low - length.MM(f.Z)
}

// grip of a parcel at a spot.
func (e *Problem) grip(item, n, place int, s pack.Spot) keeping.Grip {
	return e.kinds[place].Grip(&e.shop.Places[place], &e.shop.Items[item], n, s)
}

// aside is how many things stand before a spot.
func (e *Problem) aside(place int, s pack.Spot) int {
	if s.Row > 0 && e.kinds[place].Form() == keeping.Rows {
		return s.Row
	}
	return 0
}

// spotCost is the weekly handling of n pieces at a spot, or why not.
func (e *Problem) spotCost(item, n, place int, s pack.Spot, locked bool) (float64, string) {
	u := &e.uses[item]
	g := e.grip(item, n, place, s)
	c, why := e.scenes.Cost(u, place, g, e.aside(place, s), locked)
	if why != "" {
		return 0, why
	}
	if why := e.rules.Height(u.Item, place, g.Z); why != "" && !locked {
		return 0, why
	}
	return c * float64(n) / float64(u.Item.Number()), ""
}

// overloaded tells by how much n pieces more would overload the place, a container
// round it or the screws it hangs on; 0 when they would not.
func (e *Arrangement) overloaded(item, n, place int) (weight.Weight, string) {
	kg := e.shop.Items[item].KG * weight.Weight(n)
	p := &e.shop.Places[place]
	if p.Capacity > 0 && e.load[place]+kg > p.Capacity {
		return e.load[place] + kg - p.Capacity, p.ID
	}
	for _, c := range e.within[place] {
		if most, id := e.rated(c); most > 0 && e.carried[c]+kg > most {
			return e.carried[c] + kg - most, id
		}
	}
	return e.tooMuch(item, n, place)
}

// railsOf a space are the heights at which things hang by their top edge.
func railsOf(s pack.Space) []length.Length {
	if p, ok := s.(*pack.Plane); ok {
		return p.Rails
	}
	return nil
}

// put a parcel into a place.
func (e *Arrangement) put(i, place int, s pack.Spot, cost float64) {
	p := &e.parcels[i]
	kg := e.shop.Items[p.item].KG * weight.Weight(p.n)
	e.spaces[place].Put(i, e.kinds[place].Thing(&e.shop.Items[p.item], p.n), s)
	e.load[place] += kg
	for _, c := range e.within[place] {
		e.carried[c] += kg
	}
	e.harm[place][hazard.KindOf(&e.shop.Items[p.item])] += p.n
	e.handle(p.item, place, p.n)
	e.burden(p, place, s, 1)
	e.join(p.item, place, 1)
	p.place, p.spot, p.cost = place, s, cost
}

// handle notes n pieces that are fragile, or handled with force.
func (e *Arrangement) handle(item, place, n int) {
	it := &e.shop.Items[item]
	if it.Flagged(shop.Fragile) {
		e.rough[place][0] += n
	}
	if it.Flagged(shop.HeavyHanded) {
		e.rough[place][1] += n
	}
}

// take a parcel out of its place.
func (e *Arrangement) take(i int) {
	p := &e.parcels[i]
	kg := e.shop.Items[p.item].KG * weight.Weight(p.n)
	e.spaces[p.place].Take(i)
	e.load[p.place] -= kg
	e.harm[p.place][hazard.KindOf(&e.shop.Items[p.item])] -= p.n
	e.handle(p.item, p.place, -p.n)
	for _, c := range e.within[p.place] {
		e.carried[c] -= kg
	}
	e.burden(p, p.place, p.spot, -1)
	e.join(p.item, p.place, -1)
	p.place, p.cost = none, e.homelessCost(p.item, p.n)
}

// bears tells whether other things lie on a parcel that has a home.
func (e *Arrangement) bears(i int) bool {
	arms, ok := e.spaces[e.parcels[i].place].(*pack.Arms)
	return ok && arms.Bears(i)
}

// homelessCost is what n pieces without a home count as, in seconds a week.
func (e *Problem) homelessCost(item, n int) float64 {
	it := &e.shop.Items[item]
	return e.ways.Estimates.Homeless * it.UsesPerWeek * float64(n) / float64(it.Number())
}
