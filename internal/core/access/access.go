// Package access works out how each spot of a shop is got at: where one stands,
// what stands in the way, how far it is from each station, what must be opened,
// and so what fetching a thing from there costs. It joins the model (shop), the
// floor (walk) and the person (reach). Lengths are millimetres as floats.
package access

import (
	"fmt"
	"math"
	"sort"
	"sync"
	"sync/atomic"

	"hobrak/internal/core/geometry"
	"hobrak/internal/core/keeping"
	"hobrak/internal/core/length"
	"hobrak/internal/core/reach"
	"hobrak/internal/core/shop"
	"hobrak/internal/core/walk"
)

// ColumnWidth is how finely fronts are divided: within a column all spots count
// as equally far. Costs are exact for this division, so bounds can be, too.
const ColumnWidth = 100.0

// tableReach is how far from the body a thing is put down on a station (estimate).
const tableReach = 300.0

// Map of a shop: every place with the way to it. Once made it does not change
// and may be used by several goroutines.
type Map struct {
	Shop      *shop.Shop
	Index     *shop.Index
	Body      reach.Body   // of the adult who reaches least high
	bodies    []reach.Body // of all adults, at least one
	all       []int        // every adult
	Estimates reach.Estimates
	floors    map[string]*floor
	ways      []func() *walk.Ways // by station, worked out when first asked for
	works     func() []bool       // by station, see Worked
	fronts    []Front             // by place
	places    map[string]int
	stations  map[string]int
	hosts     map[string]*host
}

type floor struct {
	area   *shop.Area
	walk   *walk.Floor
	things []Standing
	once   sync.Once
	main   [][]geometry.Point // ways from the main door, once asked for
}

// Standing is a thing that stands on the floor of an area.
type Standing struct {
	ID        string
	Footprint geometry.Polygon
	Height    float64
	Movable   bool // rolls or folds out of the way
	Built     bool // a post: it stands for good, up to the highest top of a wall of its area
}

// host is a face that places are on: a wall, or the front of a container or station.
type host struct {
	frame   shop.Frame
	floor   *floor
	self    string // what is not in its own way
	columns []*column
	overall bool // one column only: bins and decks reached from one spot
	// turned is the front of a two-sided cart whose back this is: where it is
	// rolled out and turned when nobody can stand behind it.
	turned *shop.Frame
	centre geometry.Point
}

type column struct {
	goal *walk.Goal
	dist []atomic.Uint64       // from each station, as the bits of a float64; unknown until asked for
	path []atomic.Pointer[way] // on foot from each station, likewise
	full []reach.Zones         // by adult
	// clear is the reach once everything that rolls has been rolled away, and
	// blockers what that is; empty when there is nothing to roll.
	clear    []reach.Zones
	blockers []string
	spot     geometry.Point // on the face, at the floor
	obstacle reach.Obstacle
}

// way on foot, when there is one.
type way struct {
	walk.Path
	ok bool
}

// Front is how a place is got at.
type Front struct {
	Place    *shop.Place
	Area     *shop.Area
	X, Z     float64       // its lower left corner along the host and above the floor
	Accesses []shop.Access // what must be opened, outermost first
	Away     bool          // it is not in the shop
	Search   reach.Search
	Closed   bool // behind a door, in a drawer or under a lid
	Locked   bool // in something that can be locked
	Tight    bool // in something that keeps dust out
	LiftOut  bool
	heap     bool // in a bin
	host     *host
}

// standWithin is how far from the spot at a station one may have to stand to work there, mm (estimate): as far as one leans over to what is
// in the way. Where there is no room so near, nobody works there.
const standWithin = 600.0

// NewMap works out the ways of a shop. The shop must be valid.
func NewMap(s *shop.Shop) (*Map, error) {
	m := &Map{Shop: s, Index: shop.NewIndex(s), Estimates: reach.DefaultEstimates(), floors: map[string]*floor{},
		places: map[string]int{}, stations: map[string]int{}, hosts: map[string]*host{}}
	if err := m.Estimates.Set(s.Settings.Estimates); err != nil {
		return nil, fmt.Errorf("shop.estimates: %w", err)
	}
	m.bodies = Bodies(s)
	m.Body = least(m.bodies)
	for i := range m.bodies {
		m.all = append(m.all, i)
	}
	for i := range s.Areas {
		a := &s.Areas[i]
		f := &floor{area: a, things: StandingIn(s, m.Index, a)}
		var obstacles []geometry.Polygon
		for _, t := range f.things {
			obstacles = append(obstacles, t.Footprint)
		}
		f.walk = walk.NewFloor(a.Outline(), obstacles, walk.BodyRadius)
		m.floors[a.ID] = f
	}
	for i := range s.Stations {
		st := &s.Stations[i]
		m.stations[st.ID] = i
		fl, stand := m.floors[m.Index.Area(st.Area).ID].walk, st.Stand.Geometry()
		m.ways = append(m.ways, sync.OnceValue(func() *walk.Ways { return fl.From(stand) }))
	}
	m.works = sync.OnceValue(m.working)
	for i := range s.Places {
		m.places[s.Places[i].ID] = i
		m.fronts = append(m.fronts, m.front(&s.Places[i]))
	}
	for i := range s.Areas {
		for j := range s.Areas[i].Walls {
			m.wallHost(&s.Areas[i], j)
		}
	}
	var wait sync.WaitGroup
	for _, h := range m.hosts {
		wait.Go(func() {
			for i := range h.columns {
				h.columns[i] = m.newColumn(h, i)
			}
		})
	}
	wait.Wait()
	return m, nil
}

// Bodies of the adults who use a shop; of one of 1700 mm when nobody is given.
func Bodies(s *shop.Shop) (out []reach.Body) {
	for i := range s.Settings.People {
		p := &s.Settings.People[i]
		if p.Child {
			continue
		}
		lean := reach.DefaultLean
		if p.Lean != nil {
			lean = p.Lean.MM()
		}
		measured := map[string]float64{}
		for name, l := range p.Measured {
			measured[name] = l.MM()
		}
		out = append(out, reach.NewBody(p.Stature.MM(), lean, measured).With(reach.Habits{ID: p.ID, Seated: p.Seated, NoKneeling: p.NoKneeling, NoLadder: p.NoLadder,
			DimSight: p.DimSight, LeftHanded: p.LeftHanded, Lifts: p.Lifts.KG()}))
	}
	if len(out) == 0 {
		out = append(out, reach.NewBody(1700, reach.DefaultLean, nil))
	}
	return out
}

// BodyOf is the adult who reaches least high before a bare wall.
func BodyOf(s *shop.Shop) reach.Body { return least(Bodies(s)) }

func least(bodies []reach.Body) reach.Body {
	out, top := bodies[0], math.Inf(1)
	for _, b := range bodies {
		if w := b.Over(reach.Obstacle{}, 0); w.High < top {
			out, top = b, w.High
		}
	}
	return out
}

// StandingIn lists what stands on the floor of an area: stations, containers,
// places and posts.
func StandingIn(s *shop.Shop, ix *shop.Index, a *shop.Area) []Standing {
	var out []Standing
	for i := range s.Stations {
		st := &s.Stations[i]
		if ix.Area(st.Area) == a && st.Mobility != shop.HungUp && st.Wished == "" {
			out = append(out, Standing{st.ID, st.Footprint(), max(st.H, st.Tall).MM(), st.Mobility.Aside(), false})
		}
	}
	for i := range s.Containers {
		c := &s.Containers[i]
		if c.At.Floor != nil && ix.Area(c.At.Area) == a {
			out = append(out, Standing{c.ID, geometry.Rectangle(c.At.Floor[0].MM(), c.At.Floor[1].MM(), c.W.MM(), c.D.MM(), c.At.Rot), c.H.MM(), c.Kind.Rolls(), false})
		}
	}
	for i := range s.Places {
		p := &s.Places[i]
		if p.At.Floor != nil && ix.Area(p.At.Area) == a {
			out = append(out, Standing{p.ID, geometry.Rectangle(p.At.Floor[0].MM(), p.At.Floor[1].MM(), p.W.MM(), p.D.MM(), p.At.Rot), p.H.MM(), false, false})
		}
	}
	if a.Floor != nil {
		for _, f := range a.Floor.Features {
			if f.Kind == "post" {
				out = append(out, Standing{f.ID, geometry.Rectangle(f.X.MM(), f.Y.MM(), f.W.MM(), f.D.MM(), 0), a.Highest().MM(), false, true})
			}
		}
	}
	return out
}

// Hanging is a container or place on a wall or under the ceiling.
type Hanging struct {
	ID        string
	Footprint geometry.Polygon
	From, To  float64 // heights
	Wall      int     // -1 under the ceiling
}

// HangingIn lists the containers and places that hang on the walls and under
// the ceiling of an area.
func HangingIn(s *shop.Shop, ix *shop.Index, a *shop.Area) []Hanging {
	var out []Hanging
	add := func(id string, at *shop.At, w, h, d float64) {
		if ix.Area(at.Area) != a {
			return
		}
		x := Hanging{ID: id, From: at.Z.MM(), To: at.Z.MM() + h, Wall: -1}
		switch {
		case at.Wall != "" && a.WallIndex(at.Wall) >= 0:
			x.Wall = a.WallIndex(at.Wall)
			x.Footprint = a.Frame(x.Wall).Before(at.X.MM(), at.X.MM()+w, d)
		case at.Ceiling != nil:
			x.Footprint = geometry.Rectangle(at.Ceiling[0].MM(), at.Ceiling[1].MM(), w, d, at.Rot)
		default:
			return
		}
		out = append(out, x)
	}
	for i := range s.Containers {
		c := &s.Containers[i]
		add(c.ID, &c.At, c.W.MM(), c.H.MM(), c.D.MM())
	}
	for i := range s.Places {
		p := &s.Places[i]
		add(p.ID, &p.At, p.W.MM(), p.H.MM(), p.D.MM())
	}
	return out
}

func (m *Map) front(p *shop.Place) Front {
	chain, at := m.Index.Chain(&p.At)
	x, z := m.Index.Offset(&p.At)
	f := Front{Place: p, Area: m.Index.Area(at.Area), X: x.MM(), Z: z.MM(), Away: at.Away}
	for i := len(chain) - 1; i >= 0; i-- {
		c := chain[i]
		f.open(c.Access)
		f.LiftOut = f.LiftOut || c.Kind.Lifted()
		f.Locked = f.Locked || c.Lockable
		f.Tight = f.Tight || c.DustTight
	}
	f.open(p.Access)
	f.Search = reach.InSight
	f.heap = keeping.Of(p).Form() == keeping.Heap
	switch {
	case f.heap && !p.Labelled:
		f.Search = reach.Heap
	case f.Closed && p.Labelled, f.heap:
		f.Search = reach.Labelled
	case f.Closed:
		f.Search = reach.Unlabelled
	}
	if f.Away || f.Area == nil {
		return f
	}
	f.host = m.host(p, chain, at)
	return f
}

// Corners of the place on the floor of its area: of its front and as deep as it is.
func (f *Front) Corners() geometry.Polygon {
	if f.host == nil {
		return nil
	}
	deep := f.Place.D.MM()
	if f.host.self != "" {
		deep = -deep // the front of a thing looks away from it, a wall is looked at
	}
	w := f.Place.W.MM()
	return geometry.Polygon{f.host.frame.Spot(f.X, 0), f.host.frame.Spot(f.X+w, 0), f.host.frame.Spot(f.X+w, deep), f.host.frame.Spot(f.X, deep)}
}

func (f *Front) open(access shop.Access) {
	if access.Free() {
		return
	}
	f.Accesses = append(f.Accesses, access)
	f.Closed = f.Closed || access.Hides()
}

func (m *Map) host(p *shop.Place, chain []*shop.Container, at *shop.At) *host {
	fl := m.floors[m.Index.Area(at.Area).ID]
	self, w, d := p.ID, p.W.MM(), p.D.MM()
	if outer := m.Index.Ground(&p.At); outer != nil {
		self, w, d = outer.ID, outer.W.MM(), outer.D.MM()
	} else if len(chain) > 0 {
		outer := chain[len(chain)-1]
		self, w, d = outer.ID, outer.W.MM(), outer.D.MM()
	}
	key := "thing " + self
	h := &host{floor: fl, self: self}
	back := p.At.Face == "back" && len(chain) == 1
	switch {
	case at.Wall != "":
		key = "wall " + fl.area.ID + " " + at.Wall
		h.self = ""
		h.frame = fl.area.Frame(fl.area.WallIndex(at.Wall))
	case at.Station != "":
		st := m.Index.Station(at.Station)
		fl = m.floors[m.Index.Area(st.Area).ID]
		key = "thing " + st.ID
		h.floor, h.self = fl, st.ID
		h.frame = frontFrame(st.Footprint())
	case at.Floor != nil:
		g := geometry.Rectangle(at.Floor[0].MM(), at.Floor[1].MM(), w, d, at.Rot)
		h.frame = frontFrame(g)
		if back {
			key += " from behind"
			front := h.frame
			if chain[0].Kind.Rolls() {
				h.turned = &front
			}
			h.frame = frontFrame(geometry.Polygon{g[2], g[3], g[0], g[1]})
		}
	case at.Ceiling != nil:
		g := geometry.Rectangle(at.Ceiling[0].MM(), at.Ceiling[1].MM(), w, d, at.Rot)
		h.frame = frontFrame(g)
		h.overall = true
		h.centre = g[0].Add(g[2]).Mul(.5)
	}
	if known, ok := m.hosts[key]; ok {
		return known
	}
	n := int(math.Ceil(h.frame.Length.MM()/ColumnWidth)) + 1
	if h.overall {
		n = 1
	}
	h.columns = make([]*column, n)
	m.hosts[key] = h
	return h
}

// frontFrame is the frame of a footprint's front: x runs to the right as one
// stands before it, out points away from it.
func frontFrame(g geometry.Polygon) shop.Frame {
	e := g.Edge(0)
	u := e.B.Sub(e.A)
	return shop.Frame{Origin: e.A, Along: u.Unit(), Inward: geometry.Point{X: u.Unit().Y, Y: -u.Unit().X}, Length: length.MM(u.Norm())}
}

// wallHost is the host of wall i of an area.
func (m *Map) wallHost(a *shop.Area, i int) *host {
	at := shop.At{Area: a.ID, Wall: a.Walls[i].ID}
	return m.host(&shop.Place{}, nil, &at)
}

func (h *host) column(i int) *column { return h.columns[min(max(i, 0), len(h.columns)-1)] }

func (m *Map) newColumn(h *host, i int) *column {
	x := min((float64(i)+.5)*ColumnWidth, h.frame.Length.MM()-1)
	all, blockers := h.standing(x, nil)
	c := &column{obstacle: all, spot: h.frame.Spot(x, 0), full: make([]reach.Zones, len(m.bodies))}
	stand := h.frame.Spot(x, all.Depth+walk.BodyRadius)
	if h.overall {
		stand, blockers, all, c.obstacle = h.centre, nil, reach.Obstacle{}, reach.Obstacle{}
	}
	c.goal = h.floor.walk.Goal(stand)
	if c.goal.OK {
		// Standing aside costs reach: beyond half a step it counts as depth.
		if extra := c.goal.Stand.Distance(c.goal.At) - asideFree; extra > 0 && !h.overall {
			all.Depth += extra
		}
		c.full = m.zones(all)
	}
	if h.turned != nil && (!c.goal.OK || c.goal.Stand.Distance(c.goal.At) > asideFree) {
		// Nobody can stand behind it: the cart is rolled out first.
		c.full = make([]reach.Zones, len(m.bodies))
		all, _ = (&host{frame: *h.turned, floor: h.floor, self: h.self}).standing(x, nil)
		if c.goal = h.floor.walk.Goal(h.turned.Spot(x, all.Depth+walk.BodyRadius)); c.goal.OK {
			c.clear, c.blockers = m.zones(reach.Obstacle{}), []string{h.self}
		}
	} else if len(blockers) > 0 && c.goal.OK {
		rest, _ := h.standing(x, blockers)
		c.clear, c.blockers = m.zones(rest), blockers
	}
	c.dist, c.path = make([]atomic.Uint64, len(m.ways)), make([]atomic.Pointer[way], len(m.ways))
	return c
}

// zones of every adult over an obstacle.
func (m *Map) zones(o reach.Obstacle) []reach.Zones {
	out := make([]reach.Zones, len(m.bodies))
	for i := range m.bodies {
		out[i] = m.bodies[i].Zones(o, m.Estimates.StepHeight)
	}
	return out
}

// unknown is what no distance is: no way is exactly 0 long.
const unknown = 0

// from is the way on foot from a station to the column in mm, infinite when none leads
// there. It is worked out when it is first asked for.
func (m *Map) from(c *column, station int) float64 {
	if d := c.dist[station].Load(); d != unknown {
		return math.Float64frombits(d)
	}
	d := m.ways[station]().Length(c.goal)
	if d == 0 {
		d = math.SmallestNonzeroFloat64 // 0 is unknown
	}
	c.dist[station].Store(math.Float64bits(d))
	return d
}

// asideFree is how far beside a spot one may stand without losing reach, mm.
const asideFree = 300.0

// standing finds how deep what stands before the face is at x: everything up
// to the first gap a body fits into. It names what could be rolled away.
func (h *host) standing(x float64, without []string) (reach.Obstacle, []string) {
	const far = 2500
	ray := geometry.Segment{A: h.frame.Spot(x, 1), B: h.frame.Spot(x, far)}
	type hit struct {
		from, to float64
		thing    Standing
	}
	var hits []hit
next:
	for _, t := range h.floor.things {
		if t.ID == h.self {
			continue
		}
		for _, id := range without {
			if id == t.ID {
				continue next
			}
		}
		from, to, ok := through(t.Footprint, ray)
		if ok {
			hits = append(hits, hit{from * (far - 1), to * (far - 1), t})
		}
	}
	sort.Slice(hits, func(i, j int) bool { return hits[i].from < hits[j].from })
	var o reach.Obstacle
	var movable []string
	for _, k := range hits {
		if k.from-o.Depth >= 2*walk.BodyRadius {
			break
		}
		o.Depth = max(o.Depth, k.to)
		o.Top = max(o.Top, k.thing.Height)
		if k.thing.Movable {
			movable = append(movable, k.thing.ID)
		}
	}
	return o, movable
}

// through gives the shares of a segment at which it enters and leaves a convex polygon.
func through(g geometry.Polygon, s geometry.Segment) (from, to float64, ok bool) {
	from, to = 0, 1
	d := s.B.Sub(s.A)
	for i := range g {
		e := g.Edge(i)
		n := e.B.Sub(e.A)
		n = geometry.Point{X: n.Y, Y: -n.X} // outward of an anticlockwise polygon
		dist, slope := s.A.Sub(e.A).Dot(n), d.Dot(n)
		switch {
		case slope == 0:
			if dist >= 0 {
				return 0, 0, false
			}
		case slope > 0:
			to = min(to, -dist/slope)
		default:
			from = max(from, -dist/slope)
		}
	}
	return from, to, from < to
}

// MainWays are the ways on foot from the main door of an area to its stations.
// The main door is the first door of the first wall that has one.
func (m *Map) MainWays(a *shop.Area) [][]geometry.Point {
	f := m.floors[a.ID]
	f.once.Do(func() {
		from, ok := MainDoor(a)
		if !ok {
			return
		}
		ways := f.walk.From(from)
		for i := range m.Shop.Stations {
			st := &m.Shop.Stations[i]
			if m.Index.Area(st.Area) != a {
				continue
			}
			if p, ok := ways.To(st.Stand.Geometry()); ok {
				f.main = append(f.main, p.Points)
			}
		}
	})
	return f.main
}

// Doors are the spots just inside the doors of an area, the main one first.
func Doors(a *shop.Area) (out []geometry.Point) {
	for i := range a.Walls {
		for _, f := range a.Walls[i].Features {
			if f.Kind.Passage() {
				out = append(out, a.Frame(i).Spot((f.X+f.W/2).MM(), walk.BodyRadius+1))
			}
		}
	}
	return out
}

// MainDoor is the spot just inside the main door.
func MainDoor(a *shop.Area) (geometry.Point, bool) {
	for _, p := range Doors(a) {
		return p, true
	}
	return geometry.Point{}, false
}
