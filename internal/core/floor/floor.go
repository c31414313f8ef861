// Package floor finds where on the floor a station can stand: backs to the walls or in the middle of the room, clear
// of what stands there, of where one stands at other stations, of doors that swing and of panels, with ways
// left to walk. Among the spots that are allowed it takes the one with the least walking. Lengths are
// millimetres as floats, angles degrees.
package floor

import (
	"math"
	"slices"

	"hobrak/internal/core/access"
	"hobrak/internal/core/free"
	"hobrak/internal/core/geometry"
	"hobrak/internal/core/length"
	"hobrak/internal/core/served"
	"hobrak/internal/core/shop"
	"hobrak/internal/core/walk"
)

// standOff is how far before a station one stands (estimate).
const standOff = 350.0

// tallest is how high what stands on a floor is taken to be: what is kept free above it does not matter.
const tallest = 1500.0

// Blocked is what is in the way of a station at a spot.
type Blocked struct {
	Kind string // outside, thing, stand, kept, way
	ID   string // of what is in the way
	Says string
}

// Ground is the floor of an area as it is, ready to be asked about spots.
type Ground struct {
	area    *shop.Area
	outline geometry.Polygon
	frames  []shop.Frame
	things  []body
	stands  []body
	kept    []free.Kept
	door    geometry.Point // just inside the main door, or the middle of the room when it has none
	hasDoor bool
	clear   shop.Clear
	solid   []geometry.Polygon // what one walks round
	served  *served.Prices
}

// body is something on the floor.
type body struct {
	id, name string
	foot     geometry.Polygon
	lodger   bool
	bench    bool
	at       geometry.Point // where one stands
}

// Of is the floor of an area without the station named, if there is one.
func Of(s *shop.Shop, area *shop.Area, without string) (*Ground, error) {
	s = leaving(s, without)
	m, err := access.NewMap(s)
	if err != nil {
		return nil, err
	}
	area = m.Index.Area(area.ID)
	g := &Ground{area: area, outline: area.Outline(), clear: s.Settings.Clearances(), served: served.New(s, area, func(*shop.Station) bool { return false })}
	for i := range area.Walls {
		g.frames = append(g.frames, area.Frame(i))
	}
	names := map[string]string{}
	for i := range s.Stations {
		names[s.Stations[i].ID] = s.Stations[i].Name
	}
	for i := range s.Containers {
		names[s.Containers[i].ID] = s.Containers[i].Name
	}
	for _, t := range access.StandingIn(s, m.Index, area) {
		g.things = append(g.things, body{id: t.ID, name: names[t.ID], foot: t.Footprint})
		g.solid = append(g.solid, t.Footprint)
	}
	for i := range s.Stations { // nor on the place that is held for what is wished for
		if st := &s.Stations[i]; st.Wished != "" && m.Index.Area(st.Area) == area {
			g.things = append(g.things, body{id: st.ID, name: st.Name, foot: st.Footprint()})
		}
	}
	for i := range s.Modes { // nor where something goes when the room is arranged otherwise
		then, err := s.InMode(s.Modes[i].ID)
		if err != nil {
			continue
		}
		ix := shop.NewIndex(then)
		for _, t := range access.StandingIn(then, ix, ix.Area(area.ID)) {
			g.things = append(g.things, body{id: t.ID, name: names[t.ID], foot: t.Footprint})
		}
	}
	kept, _ := free.KeptClear(m, area)
	for _, k := range kept {
		if k.From < tallest {
			g.kept = append(g.kept, k)
		}
	}
	for i := range s.Stations {
		if st := &s.Stations[i]; m.Index.Area(st.Area) == area {
			g.stands = append(g.stands, body{id: st.ID, name: st.Name, foot: spot(st.Stand.Geometry()), lodger: st.Kind.Lodger(), bench: st.Kind.Bench(), at: st.Stand.Geometry()})
		}
	}
	g.door, g.hasDoor = access.MainDoor(area)
	if !g.hasDoor {
		low, high := g.outline.Bounds()
		g.door = low.Add(high).Mul(.5)
	}
	return g, nil
}

// leaving is the shop without one of its stations and what is part of it; nothing of the first is changed.
func leaving(s *shop.Shop, id string) *shop.Shop {
	if id == "" {
		return s
	}
	next := *s
	next.Stations = slices.DeleteFunc(slices.Clone(s.Stations), func(st shop.Station) bool { return st.ID == id })
	ix := shop.NewIndex(s)
	part := func(at *shop.At) bool {
		_, root := ix.Chain(at)
		return root.Station == id
	}
	next.Places = slices.DeleteFunc(slices.Clone(s.Places), func(p shop.Place) bool { return part(&p.At) })
	next.Containers = slices.DeleteFunc(slices.Clone(s.Containers), func(c shop.Container) bool { return part(&c.At) })
	if len(next.Places)+len(next.Containers) < len(s.Places)+len(s.Containers) {
		left := shop.NewIndex(&next)
		next.Homes = slices.DeleteFunc(slices.Clone(s.Homes), func(h shop.Home) bool { return left.Place(h.Place) == nil })
	}
	return &next
}

// spot is where somebody stands.
func spot(p geometry.Point) geometry.Polygon {
	return geometry.Rectangle(p.X-walk.BodyRadius, p.Y-walk.BodyRadius, 2*walk.BodyRadius, 2*walk.BodyRadius, 0)
}

func middleOf(st *shop.Station) geometry.Point {
	return geometry.Point{X: (st.X + st.W/2).MM(), Y: (st.Y + st.D/2).MM()}
}

// Stand is where one stands at a station, before the middle of its front.
func Stand(st *shop.Station) shop.Point {
	foot := st.Footprint()
	mid := middleOf(st)
	front := foot[0].Add(foot[1]).Mul(.5)
	p := front.Add(front.Sub(mid).Unit().Mul(standOff))
	return shop.Point{length.MM(p.X), length.MM(p.Y)}
}

// At is what is in the way of a station where it stands; nil when nothing is. Lodgers need no room to
// stand before them but that of a way.
func (g *Ground) At(st *shop.Station) *Blocked {
	foot := st.Footprint()
	if !within(g.outline, foot) {
		return &Blocked{"outside", "", "it would stand outside the room"}
	}
	for i := range g.things {
		if t := &g.things[i]; t.foot.Overlaps(foot, 1) {
			return &Blocked{"thing", t.id, "it would stand in " + called(t)}
		}
	}
	for _, k := range g.kept {
		if k.Foot.Overlaps(foot, 1) {
			return &Blocked{"kept", k.Limit.By, "it would be in the way of " + k.Limit.Says}
		}
	}
	for i := range g.stands {
		if t := &g.stands[i]; !t.lodger && t.foot.Overlaps(foot, 1) {
			return &Blocked{"stand", t.id, "one stands there at " + called(t)}
		}
	}
	if st.Kind.Lodger() {
		return nil
	}
	own := spot(st.Stand.Geometry())
	if !within(g.outline, own) {
		return &Blocked{"outside", "", "there is no room to stand before it"}
	}
	for i := range g.things {
		if t := &g.things[i]; t.foot.Overlaps(own, 1) {
			return &Blocked{"thing", t.id, called(t) + " is where one would stand at it"}
		}
	}
	return nil
}

func called(b *body) string {
	if b.name != "" {
		return b.name
	}
	return b.id
}

// Reached tells whether one gets from the main door to every station with something standing at a footprint, on
// ways at least so wide.
func (g *Ground) Reached(st *shop.Station, wide float64) *Blocked {
	foot := st.Footprint()
	f := walk.NewFloor(g.outline, append(slices.Clone(g.solid), foot), wide/2)
	from := f.From(g.door)
	reach := func(p geometry.Point) bool {
		for _, q := range round(p) {
			// One may stand closer to a bench than one walks past it.
			goal := f.Goal(q)
			if goal.OK && goal.Stand.Distance(p) <= standOff+wide/2 && !math.IsInf(from.Length(goal), 1) {
				return true
			}
		}
		return false
	}
	if !st.Kind.Lodger() && !reach(st.Stand.Geometry()) {
		return &Blocked{"way", "", "one would not get to it"}
	}
	for i := range g.stands {
		if t := &g.stands[i]; !t.lodger && !reach(t.at) {
			return &Blocked{"way", t.id, "one would not get to " + called(t)}
		}
	}
	return nil
}

// round a spot are itself and others close by: the free one nearest to it may be a pocket nobody gets into.
func round(p geometry.Point) []geometry.Point {
	out := []geometry.Point{p}
	for turn := 0.0; turn < 360; turn += 30 {
		out = append(out, p.Add(geometry.Point{X: standOff}.Turned(turn)))
	}
	return out
}

// within tells whether a convex footprint lies in a room; it may touch the walls.
func within(outline, foot geometry.Polygon) bool {
	mid := foot[0].Add(foot[2]).Mul(.5)
	shrunk := slices.Clone(foot)
	for i, c := range foot {
		shrunk[i] = c.Add(mid.Sub(c).Unit())
	}
	for i, c := range shrunk {
		if !outline.Contains(c) {
			return false
		}
		for k := range outline {
			if outline.Edge(k).Crosses(shrunk.Edge(i)) {
				return false
			}
		}
	}
	return true
}
