// Package hazard says where things must not live because they or others would come
// to harm: flammable things near heat, what frost, damp or sun spoils, what children
// must not reach, what is needed at once when something happened out of sight, edges and
// fragile things beside the ways, fragile things among those handled with force. Distances are mm. It states the usual caution; labels of
// products and local rules may ask more.
package hazard

import (
	"cmp"
	"fmt"
	"math"
	"slices"
	"sync"

	"hobrak/internal/core/access"
	"hobrak/internal/core/geometry"
	"hobrak/internal/core/kinds"
	"hobrak/internal/core/length"
	"hobrak/internal/core/scene"
	"hobrak/internal/core/served"
	"hobrak/internal/core/shop"
)

// Apart is how far flammable things stay from heaters and from what charges, mm
// (an estimate; the heater's own clearance where the shop states one).
const Apart = 900.0

// childStretch is how high a child reaches, as a share of its stature (estimate).
const childStretch = 1.25

// AtHand is how high things needed at once may hang, mm: the usual height for the
// handle of a fire extinguisher (estimate; local rules may say otherwise).
const AtHand = 1500.0

// Rules of a mapped shop.
type Rules struct {
	m        *access.Map
	childTop float64
	urgent   map[string]bool // items needed at once, by id
	spots    []span          // by place
	heat     []string        // by place: the heater that is too near, empty when none is
	passed   func() []bool   // by place: people walk by close to it; the ways are worked out when first asked for
	damp     []bool          // by place: the wall it hangs on is damp
	outlet   []float64       // by place: mm to the nearest outlet
	near     [][]int         // by place: the places within Apart of it, itself included
}

// span is a box round a place, in the area's coordinates.
type span struct {
	area           *shop.Area
	x0, y0, x1, y1 float64
	z0, z1         float64
}

func (a *span) distance(b *span) float64 {
	gap := func(lowA, highA, lowB, highB float64) float64 { return max(0, lowA-highB, lowB-highA) }
	return math.Hypot(math.Hypot(gap(a.x0, a.x1, b.x0, b.x1), gap(a.y0, a.y1, b.y0, b.y1)), gap(a.z0, a.z1, b.z0, b.z1))
}

// ChildReach is how high the tallest child of a shop reaches, in mm; 0 without one.
func ChildReach(s *shop.Shop) (top float64) {
	for _, p := range s.Settings.People {
		if p.Child {
			top = max(top, p.Stature.MM()*childStretch)
		}
	}
	return top
}

// New works the rules out for a shop.
func New(m *access.Map) *Rules { return with(m, nil, nil) }

// With is New for a map of a shop in which of the items only some are others.
func (r *Rules) With(m *access.Map, changed map[string]bool) *Rules { return with(m, r, changed) }

// In works the rules out for a shop in its modes: what is too near in one of them is too
// near.
func In(scenes *scene.Scenes) *Rules { return within(scenes, nil, nil) }

// Within works the rules out likewise, taking over what is known of items that did not change.
func (r *Rules) Within(scenes *scene.Scenes, changed map[string]bool) *Rules {
	return within(scenes, r, changed)
}

func within(scenes *scene.Scenes, old *Rules, changed map[string]bool) *Rules {
	r := with(scenes.Base, old, changed)
	for i := range scenes.All {
		if scenes.All[i].Map == scenes.Base {
			continue
		}
		o := r.With(scenes.All[i].Map, nil)
		for p := range r.near {
			r.near[p] = append(r.near[p], o.near[p]...)
			slices.Sort(r.near[p])
			r.near[p] = slices.Compact(r.near[p])
			r.heat[p] = cmp.Or(r.heat[p], o.heat[p])
			r.damp[p] = r.damp[p] || o.damp[p]
			r.outlet[p] = max(r.outlet[p], o.outlet[p])
		}
	}
	return r
}

func with(m *access.Map, old *Rules, changed map[string]bool) *Rules {
	s := m.Shop
	r := &Rules{m: m, childTop: ChildReach(s), heat: make([]string, len(s.Places)), near: make([][]int, len(s.Places)), spots: make([]span, len(s.Places))}
	r.passed = sync.OnceValue(func() []bool {
		out := make([]bool, len(s.Places))
		for i := range out {
			out[i] = r.besideAWay(i)
		}
		return out
	})
	r.urgent = map[string]bool{}
	for i := range s.Items {
		it := &s.Items[i]
		if old != nil && !changed[it.ID] {
			if old.urgent[it.ID] {
				r.urgent[it.ID] = true
			}
		} else if k, ok := kinds.Sure(it.Name); ok && k.Kind.Urgent {
			r.urgent[it.ID] = true
		}
	}
	clear := s.Settings.Clearances().Heater
	r.damp, r.outlet = make([]bool, len(s.Places)), make([]float64, len(s.Places))
	for i := range s.Places {
		r.spots[i] = r.box(i)
	}
	for i := range s.Places {
		a := r.spots[i].area
		if a == nil {
			continue
		}
		for w := range a.Walls {
			for _, f := range a.Walls[w].Features {
				if f.Kind.Keeps() != shop.KeepsHeat {
					continue
				}
				at := a.Frame(w)
				p, q := at.Spot(f.X.MM(), 0), at.Spot((f.X+f.W).MM(), max(1, f.D.MM()))
				h := span{a, min(p.X, q.X), min(p.Y, q.Y), max(p.X, q.X), max(p.Y, q.Y), f.Z.MM(), (f.Z + f.H).MM()}
				if h.distance(&r.spots[i]) < clear {
					r.heat[i] = "the heater " + f.ID
				}
			}
		}
		r.freestanding(i, a)
		r.services(i, a)
		for k := range s.Places {
			if r.spots[k].area == a && r.spots[i].distance(&r.spots[k]) < Apart {
				r.near[i] = append(r.near[i], k)
			}
		}
	}
	return r
}

// freestanding stoves and heaters near a place.
func (r *Rules) freestanding(place int, a *shop.Area) {
	for k := range r.m.Shop.Stations {
		st := &r.m.Shop.Stations[k]
		keep := served.Clearance(st.Kind)
		if st.Kind == "forge" {
			keep = served.GlowFrom
		}
		if keep == 0 || st.Wished != "" || r.m.Index.Area(st.Area) != a {
			continue
		}
		low, high := st.Footprint().Bounds()
		h := span{a, low.X, low.Y, high.X, high.Y, 0, max(st.H, st.Tall).MM()}
		if h.distance(&r.spots[place]) < keep {
			r.heat[place] = st.Name
		}
	}
}

// nearOutlet is how far a charger's lead gets, mm (an estimate).
const nearOutlet = 1500.0

// services of a place: whether the wall it hangs on is damp, and how far the nearest outlet is; 0 where none is marked anywhere.
func (r *Rules) services(place int, a *shop.Area) {
	p := &r.m.Shop.Places[place]
	if _, root := r.m.Index.Chain(&p.At); root.Wall != "" {
		if k := a.WallIndex(root.Wall); k >= 0 {
			r.damp[place] = a.Walls[k].Damp
		}
	}
	r.outlet[place] = math.Inf(1)
	marked := false
	for i := range r.m.Shop.Areas {
		b := &r.m.Shop.Areas[i]
		for w := range b.Walls {
			for _, f := range b.Walls[w].Features {
				if f.Kind != "outlet" {
					continue
				}
				marked = true
				if b == a {
					q := b.Frame(w).Spot((f.X + f.W/2).MM(), 0)
					z := (f.Z + f.H/2).MM()
					o := span{b, q.X, q.Y, q.X, q.Y, z, z}
					r.outlet[place] = min(r.outlet[place], o.distance(&r.spots[place]))
				}
			}
		}
	}
	if !marked { // nobody looked for them
		r.outlet[place] = 0
	}
}

// Unplugged tells whether a thing that charges is farther from an outlet than its lead gets.
func (r *Rules) Unplugged(it *shop.Item, place int) bool {
	return KindOf(it) == Charges && r.outlet[place] > nearOutlet
}

// brushed is how close to the middle of a way somebody brushes against what is beside it, mm (estimate: half a body and an elbow).
const brushed = 400.0

// besideAWay tells whether a way from the main door to a station leads past the front of a place.
func (r *Rules) besideAWay(place int) bool {
	f := r.m.Front(place)
	corners := f.Corners()
	if f.Area == nil || len(corners) < 4 {
		return false
	}
	for _, way := range r.m.MainWays(f.Area) {
		for k := 1; k < len(way); k++ {
			leg := geometry.Segment{A: way[k-1], B: way[k]}
			for c := range corners { // the side that looks at the way is among them
				if leg.Distance(corners[c]) < brushed || corners.Edge(c).Distance(leg.A) < brushed {
					return true
				}
			}
		}
	}
	return false
}

// box of place i: where it is on the floor and how high.
func (r *Rules) box(i int) span {
	f := r.m.Front(i)
	if f.Area == nil || f.Away {
		return span{}
	}
	p := f.Place
	corners := f.Corners()
	out := span{area: f.Area, x0: math.Inf(1), y0: math.Inf(1), x1: math.Inf(-1), y1: math.Inf(-1), z0: f.Z, z1: f.Z + p.H.MM()}
	for _, c := range corners {
		out.x0, out.y0 = min(out.x0, c.X), min(out.y0, c.Y)
		out.x1, out.y1 = max(out.x1, c.X), max(out.y1, c.Y)
	}
	return out
}

// Bars says why an item must not live in a place at all; empty when it may.
func (r *Rules) Bars(it *shop.Item, place int) string {
	f := r.m.Front(place)
	if f.Area == nil {
		return ""
	}
	if r.urgent[it.ID] && f.Closed {
		return "it is needed at once when something happens: it must be in sight, not behind a door, in a drawer or under a lid"
	}
	if slices.Contains(it.Flags, "freeze") && slices.Contains(f.Area.Climate, "frost") {
		return "frost would spoil it there"
	}
	if f.Area.Kind == "outdoors" || f.Area.Kind == "shed" { // in a room where one works it is a matter of more or less
		if why := r.weather(it, f); why != "" {
			return why
		}
	}
	if it.Flagged(shop.Fragile) && !f.Closed && r.passed()[place] {
		return "people pass close by and knock against it"
	}
	if slices.Contains(it.Flags, "flammable") && r.heat[place] != "" {
		return "too near to " + r.heat[place]
	}
	return ""
}

// Urgent tells whether an item is needed at once when somebody is hurt or something burns.
func (r *Rules) Urgent(it *shop.Item) bool { return r.urgent[it.ID] }

// Height says why an item must not be at a height of a place: children reach what is kept
// from them, or what is needed at once is too high to be at hand.
func (r *Rules) Height(it *shop.Item, place int, z float64) string {
	f := r.m.Front(place)
	if r.urgent[it.ID] && f.Z+z > AtHand {
		return fmt.Sprintf("it is needed at once when something happens: no higher than %s", length.Whole(AtHand))
	}
	if it.Flagged(shop.Sharp) && !f.Closed && r.passed()[place] && f.Z+z > r.m.Body.Shoulder && f.Z+z < r.tallest() {
		return "an edge at the height of a face, beside a way that people take"
	}
	if r.childTop == 0 || !slices.Contains(it.Flags, "child") {
		return ""
	}
	if f.Z+z >= r.childTop || f.Locked {
		return ""
	}
	return fmt.Sprintf("a child reaches up to %s and nothing locks it", length.Whole(r.childTop))
}

// Edges are the heights of a place, mm above its lower edge, at which Height may begin or end to bar an item, from below.
func (r *Rules) Edges(it *shop.Item, place int) (out []float64) {
	if r.urgent[it.ID] {
		out = append(out, AtHand)
	}
	if it.Flagged(shop.Sharp) {
		out = append(out, r.m.Body.Shoulder, r.tallest())
	}
	if r.childTop > 0 && slices.Contains(it.Flags, "child") {
		out = append(out, r.childTop)
	}
	slices.Sort(out)
	for i := range out {
		out[i] -= r.m.Front(place).Z
	}
	return out
}

// NeverAt tells whether Height bars an item at every height between low and high, mm above the lower edge of the place.
func (r *Rules) NeverAt(it *shop.Item, place int, low, high float64) bool {
	if r.Height(it, place, low) == "" || r.Height(it, place, high) == "" {
		return false
	}
	from := low
	for _, z := range append(r.Edges(it, place), high) {
		if z <= low || z > high {
			continue
		}
		// Between two edges it is the same everywhere, at an edge it may be as below it, as above it or neither.
		if r.Height(it, place, (from+z)/2) == "" || r.Height(it, place, z) == "" {
			return false
		}
		from = z
	}
	return true
}

// tallest person of the shop, mm.
func (r *Rules) tallest() float64 {
	out := r.m.Body.Stature
	for i := range r.m.Shop.Settings.People {
		out = max(out, r.m.Shop.Settings.People[i].Stature.MM())
	}
	return out
}

// Breaks tells whether one of two things in one place breaks the other: what is handled with force, what is fragile.
func Breaks(a, b *shop.Item) bool {
	return a.Flagged(shop.Fragile) && b.Flagged(shop.HeavyHanded) || a.Flagged(shop.HeavyHanded) && b.Flagged(shop.Fragile)
}

// Kind of a thing that must not be near things of the other kind.
type Kind int

// Kinds of things that stay apart: none, what burns, what charges.
const (
	Harmless Kind = iota
	Burns
	Charges
)

// KindOf an item.
func KindOf(it *shop.Item) Kind {
	switch {
	case slices.Contains(it.Flags, "flammable"):
		return Burns
	case slices.Contains(it.Flags, "charger"):
		return Charges
	}
	return Harmless
}

// Shuns tells whether it matters to a thing what lives near it.
func Shuns(it *shop.Item) bool {
	return KindOf(it) != Harmless || it.Flagged(shop.Fragile) || it.Flagged(shop.HeavyHanded)
}

// Other is the kind that must stay away.
func (k Kind) Other() Kind { return [...]Kind{Harmless, Charges, Burns}[k] }

// Near lists the places within Apart of a place, itself included.
func (r *Rules) Near(place int) []int { return r.near[place] }

// weather says what the air or the light of an area does to a thing in the open; empty when nothing.
func (r *Rules) weather(it *shop.Item, f *access.Front) string {
	switch {
	case f.Area == nil || f.Closed || f.Tight:
	case it.Flagged(shop.Rusts) && (slices.Contains(f.Area.Climate, "damp") || r.damp[r.m.PlaceNumber(f.Place.ID)]):
		return "damp would rust it there: keep it behind a door, in a drawer or under a lid"
	case it.Flagged(shop.Fades) && slices.Contains(f.Area.Climate, "sun"):
		return "sun would spoil it there: keep it behind a door, in a drawer or under a lid"
	}
	return ""
}

// Dusty tells whether dust gets at a thing that should be kept clean in a place: it is neither closed nor dust-tight.
func (r *Rules) Dusty(it *shop.Item, place int) bool {
	f := r.m.Front(place)
	return it.Flagged(shop.Dusty) && !f.Closed && !f.Tight
}

// Weathered tells whether damp or sun gets at a thing in a place that it spoils.
func (r *Rules) Weathered(it *shop.Item, place int) bool {
	return r.weather(it, r.m.Front(place)) != ""
}
