// Package free finds the wall and the ceiling that can still hold something:
// how far a thing may stick out at each spot of a wall, the largest free
// rectangles with what limits them, how far something may hang from the
// ceiling, and the dead spaces people overlook. All numbers are millimetres; x
// runs along a wall from its left end, z up from the floor.
//
// What is kept free is in shop.Clearances. Where it concerns electricity, heat
// or ways out these are the usual cautious figures; local codes may ask more.
package free

import (
	"cmp"
	"fmt"
	"math"
	"slices"
	"sync"

	"hobrak/internal/core/access"
	"hobrak/internal/core/body"
	"hobrak/internal/core/geometry"
	"hobrak/internal/core/length"
	"hobrak/internal/core/shop"
)

// Result for a whole shop.
type Result struct {
	Walls    []Wall    `json:"walls" nullable:"false"`
	Ceilings []Ceiling `json:"ceilings" nullable:"false"`
	Dead     []Dead    `json:"dead" nullable:"false" doc:"spaces that are easily overlooked, largest first"`
	Totals   Totals    `json:"totals"`

	shop  *shop.Shop
	walls []*walled // all of them, as the areas list them
}

// Totals of the shop. Areas in m², volumes in m³.
type Totals struct {
	Floor    float64            `json:"floor"`
	Wall     float64            `json:"wall" doc:"claimed wall"`
	Usable   float64            `json:"usable" doc:"of it what the building leaves"`
	Free     float64            `json:"free" doc:"of that what holds nothing yet"`
	Ratio    float64            `json:"ratio" doc:"claimed wall to floor"`
	Volume   float64            `json:"volume" doc:"m³ of all rooms"`
	Overhead float64            `json:"overhead" doc:"m³ under the ceiling that can hold something"`
	Ceiling  float64            `json:"ceiling" doc:"m² of ceiling with room enough to hang something"`
	Bands    map[string]float64 `json:"bands" doc:"free wall by how its height is reached, m²"`
}

// Limit is what something stops at.
type Limit struct {
	Kind string `json:"kind" doc:"feature, thing, aisle, door-swing, panel, heater, track, post, storage, room, floor, top, corner opening or depth"`
	By   string `json:"by" doc:"id of what limits"`
	Says string `json:"says"`
}

// Patch is a piece of wall with one depth.
type Patch struct {
	X     float64 `json:"x"`
	Z     float64 `json:"z"`
	W     float64 `json:"w"`
	H     float64 `json:"h"`
	Depth float64 `json:"depth" doc:"how far something may stick out; 0 where nothing may"`
	Limit Limit   `json:"limit" doc:"why not further"`
}

// Region is a free rectangle that cannot grow in any direction.
type Region struct {
	X     float64 `json:"x"`
	Z     float64 `json:"z"`
	W     float64 `json:"w"`
	H     float64 `json:"h"`
	Depth float64 `json:"depth" doc:"how far something may stick out all over it"`
	Area  float64 `json:"area" doc:"m²"`
	Band  string  `json:"band" doc:"how its height is reached, from below"`
	Left  Limit   `json:"left"`
	Right Limit   `json:"right"`
	Below Limit   `json:"below"`
	Above Limit   `json:"above"`
	Out   Limit   `json:"out" doc:"what limits the depth"`
}

// Wall with its free part.
type Wall struct {
	Area    string   `json:"area"`
	ID      string   `json:"id"`
	Claimed bool     `json:"claimed"`
	Gross   float64  `json:"gross" doc:"m²"`
	Usable  float64  `json:"usable" doc:"m² that the building leaves"`
	Free    float64  `json:"free" doc:"m² that hold nothing yet"`
	Patches []Patch  `json:"patches" nullable:"false" doc:"the depth map"`
	Regions []Region `json:"regions" nullable:"false" doc:"largest first"`
}

// MinDepth is the least depth that counts as free, and MinSide the least side
// of a region, mm: below that nothing hangs.
const (
	MinDepth = 50.0
	MinSide  = 150.0
)

// levels are the depths at which regions are looked for.
var levels = []float64{MinDepth, 100, 150, 200, 250, 300, 400, 500, 600, 800, 1000, 1500}

// maxDepth caps what is said: nobody hangs anything deeper on a wall.
const maxDepth = 2000.0

// maxRegions on one wall are listed.
const maxRegions = 40

// Of works out what is free in a shop.
func Of(m *access.Map) *Result { return (&Result{}).Of(m) }

// Of is what is free in a later state of the shop, as if worked out anew. Where only places and boxes that do not stand on the floor are
// others, the walls before which none of them is are taken over.
func (was *Result) Of(m *access.Map) *Result {
	r := &Result{Walls: []Wall{}, Ceilings: []Ceiling{}, Dead: []Dead{}, Totals: Totals{Bands: map[string]float64{}}, shop: m.Shop}
	var known []*walled
	if was.shop != nil {
		if _, few := was.shop.PlacesChanged(m.Shop); few {
			known = was.walls
		}
	}
	for i := range m.Shop.Areas {
		f := newFinder(m, &m.Shop.Areas[i])
		above := make(chan Ceiling, 1)
		go func() { above <- f.ceiling() }()
		for _, w := range f.walls(known) {
			r.walls = append(r.walls, w)
			r.Walls = append(r.Walls, w.out)
			if w.out.Claimed {
				r.Totals.Wall += w.out.Gross
			}
			r.Totals.Usable += w.out.Usable
			r.Totals.Free += w.out.Free
			for band, m2 := range w.bands {
				r.Totals.Bands[band] += m2
			}
			r.Dead = append(r.Dead, w.dead...)
		}
		known = known[min(len(known), len(f.area.Walls)):]
		c := <-above
		r.Ceilings = append(r.Ceilings, c)
		r.Totals.Overhead += c.Volume
		r.Totals.Ceiling += c.Free
		floor := math.Abs(f.outline.Area()) / 1e6
		r.Totals.Floor += floor
		r.Totals.Volume += floor * c.mean / 1000
		r.Dead = append(r.Dead, f.deadBelow()...)
		if d, ok := f.deadAbove(&c); ok {
			r.Dead = append(r.Dead, d)
		}
	}
	if r.Totals.Floor > 0 {
		r.Totals.Ratio = r.Totals.Wall / r.Totals.Floor
	}
	slices.SortStableFunc(r.Dead, func(a, b Dead) int { return -cmp.Compare(a.Volume, b.Volume) })
	return r
}

// walls works out all walls, several at a time, but for such as are known.
func (f *finder) walls(known []*walled) []*walled {
	out := make([]*walled, len(f.area.Walls))
	ways := f.m.MainWays(f.area)
	var wait sync.WaitGroup
	for k := range out {
		is := walled{seen: f.seenFrom(k), ways: ways}
		if f.area.Walls[k].Claimed {
			is.zones = f.m.Zones(f.area, k)
		}
		if k < len(known) && known[k].same(&is) {
			out[k] = known[k]
			continue
		}
		out[k] = &is
		wait.Go(func() {
			g := f.wall(k, &is)
			is.out, is.bands, is.dead = g.out, g.bands, f.deadOn(g)
		})
	}
	wait.Wait()
	return out
}

// box is something in the room: a convex footprint from one height to another.
type box struct {
	foot     geometry.Polygon
	from, to float64
	limit    Limit
	stands   bool // on the floor, so that one walks round it
	storage  bool // holds things: the wall behind it counts as usable
}

// finder knows one area.
type finder struct {
	m       *access.Map
	area    *shop.Area
	clear   shop.Clear
	outline geometry.Polygon
	frames  []shop.Frame
	boxes   []box
	roof    Roof
	head    float64 // below it one walks
}

// Kept is room that something of the building keeps clear: the swing of a door,
// the working space of a panel, the distance to a heater, the tracks of a door.
type Kept struct {
	Limit    Limit
	Foot     geometry.Polygon
	From, To float64
}

// KeptClear lists what is kept clear in an area, and the height below which
// one walks.
func KeptClear(m *access.Map, a *shop.Area) (kept []Kept, head float64) {
	f := bareFinder(m, a) // what stands and hangs there is not asked for
	for i := range a.Walls {
		f.building(i)
	}
	for _, b := range f.boxes {
		kept = append(kept, Kept{b.limit, b.foot, b.from, b.to})
	}
	return kept, f.head
}

// bareFinder knows the area and nothing that is in it.
func bareFinder(m *access.Map, a *shop.Area) *finder {
	f := &finder{m: m, area: a, clear: m.Shop.Settings.Clearances(), outline: a.Outline(), roof: NewRoof(a)}
	for i := range a.Walls {
		f.frames = append(f.frames, a.Frame(i))
	}
	tallest := m.Body.Stature
	for _, p := range m.Shop.Settings.People {
		tallest = max(tallest, p.Stature.MM())
	}
	f.head = tallest + f.clear.Head
	return f
}

func newFinder(m *access.Map, a *shop.Area) *finder {
	f := bareFinder(m, a)
	bodies := body.In(m.Shop, m.Index, a)
	for i := range bodies {
		b, name := &bodies[i], m.Index.Name(bodies[i].ID)
		switch b.Part {
		case body.Post:
			f.boxes = append(f.boxes, box{foot: b.Foot, to: b.To, limit: Limit{"post", b.ID, name}, stands: true})
		case body.Stands, body.Top:
			// What is beneath the top of a bench is the bench's: nobody reaches a wall behind it down there.
			f.boxes = append(f.boxes, box{foot: b.Foot, to: b.To, limit: Limit{"thing", b.ID, name}, stands: true, storage: m.Index.Station(b.ID) == nil})
		}
	}
	for i := range a.Walls {
		f.building(i)
	}
	for i := range bodies {
		switch b := &bodies[i]; {
		case b.Part == body.Hangs:
			f.boxes = append(f.boxes, box{foot: b.Foot, from: b.From, to: b.To, limit: Limit{"storage", b.ID, b.ID + " " + m.Index.Name(b.ID)}, storage: true})
		case !b.Part.Solid() && math.Abs(b.Foot.Area()) > 1:
			f.boxes = append(f.boxes, box{foot: b.Foot, from: b.From, to: b.To, limit: Limit{"opening", b.Of, m.Index.Name(b.Of) + " opens here"}})
		}
	}
	if a.Ceiling != nil {
		for _, c := range a.Ceiling.Features {
			g := geometry.Rectangle(c.X.MM(), c.Y.MM(), c.W.MM(), c.D.MM(), 0)
			top := f.roof.Lowest(g)
			f.boxes = append(f.boxes, box{foot: g, from: top - c.Drop.MM(), to: math.Inf(1), limit: Limit{"feature", c.ID, c.Kind}})
		}
	}
	return f
}

// on is a box before wall i.
func (f *finder) on(i int, x0, x1, deep, z0, z1 float64, l Limit) box {
	return box{foot: f.frames[i].Before(x0, x1, deep), from: z0, to: z1, limit: l}
}

// leafThickness of a door, mm (estimate).
const leafThickness = 40.0

// trackHigh is the room above an overhead door for its shaft and tracks, and
// trackWide the room beside it, mm (estimates; the maker's sheet wins).
const (
	trackHigh = 350.0
	trackWide = 100.0
)

// building adds what the features of wall i keep free before them.
func (f *finder) building(i int) {
	w := &f.area.Walls[i]
	for _, x := range w.Features {
		x0, x1, z0, z1 := x.X.MM(), (x.X + x.W).MM(), x.Z.MM(), (x.Z + x.H).MM()
		switch {
		case x.Kind.Leaves() > 0:
			if x.Swing != "out" {
				f.swings(i, &x)
			}
		case x.Kind.Keeps() == shop.KeepsWork:
			mid := (x0 + x1) / 2
			half := max(f.clear.PanelWide, x.W.MM()) / 2
			f.boxes = append(f.boxes, f.on(i, mid-half, mid+half, f.clear.PanelDeep, 0, max(f.clear.PanelHigh, z1), Limit{"panel", x.ID, "working space before the panel, kept clear; local code may ask more"}))
		case x.Kind.Keeps() == shop.KeepsHeat:
			c := f.clear.Heater
			f.boxes = append(f.boxes, f.on(i, x0-c, x1+c, x.D.MM()+c, z0-c, z1+c, Limit{"heater", x.ID, "distance to the heater"}))
		case x.Kind.Overhead():
			deep := x.H.MM() + 300
			f.boxes = append(f.boxes, f.on(i, x0-trackWide, x1+trackWide, deep, z1, z1+trackHigh, Limit{"track", x.ID, "tracks of the door"}))
			for _, side := range [2]float64{x0 - trackWide, x1} {
				f.boxes = append(f.boxes, f.on(i, side, side+trackWide, trackWide, 0, z1, Limit{"track", x.ID, "tracks of the door"}))
			}
		}
	}
}

// swings adds the quarter circles that the leaves of a door sweep.
func (f *finder) swings(i int, x *shop.Feature) {
	fr := f.frames[i]
	x0, w := x.X.MM(), x.W.MM()
	leaf := func(hinge, r, dir float64) {
		g := geometry.Polygon{fr.Spot(hinge, 0)}
		const steps = 8
		for k := 0; k <= steps; k++ {
			s, c := math.Sincos(math.Pi / 2 * float64(k) / steps)
			// Outside the arc, so that nothing swept is called free.
			grow := 1 / math.Cos(math.Pi/4/steps)
			if k == 0 || k == steps {
				grow = 1
			}
			g = append(g, fr.Spot(hinge+dir*c*r*grow, s*r*grow))
		}
		// The open leaf has a thickness on the hinge side.
		g = append(g, fr.Spot(hinge-dir*leafThickness, r), fr.Spot(hinge-dir*leafThickness, 0))
		if g.Area() < 0 {
			slices.Reverse(g)
		}
		f.boxes = append(f.boxes, box{foot: g, from: x.Z.MM(), to: (x.Z + x.H).MM(), limit: Limit{"door-swing", x.ID, "the door swings here"}})
	}
	switch {
	case x.Kind.Leaves() == 2:
		leaf(x0, w/2, 1)
		leaf(x0+w, w/2, -1)
	case x.Hinge == "right":
		leaf(x0+w, w, -1)
	default:
		leaf(x0, w, 1)
	}
}

func limitOf(x *shop.Feature) Limit {
	says := x.Called()
	if m := x.Kind.Margin(); m > 0 {
		says = fmt.Sprintf("%s with %s round it", says, length.Whole(m))
	}
	return Limit{"feature", x.ID, says}
}

// KeptIn is KeptClear where no ways have been worked out.
func KeptIn(s *shop.Shop, ix *shop.Index, a *shop.Area) (kept []Kept, head float64) {
	return KeptClear(&access.Map{Shop: s, Index: ix, Body: access.BodyOf(s)}, a)
}
