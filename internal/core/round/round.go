// Package round lays a shop out as it is seen turning on one's heel: all walls
// side by side in clockwise order, what hangs on them and stands before them in
// front elevation, and after the walls of an area what stands free on its floor
// or hangs under its ceiling. All numbers are millimetres, seconds a week and
// kilograms; x runs to the right and z up from the floor. Screens and drawings
// show what is worked out here.
package round

import (
	"math"
	"slices"
	"sort"

	"hobrak/internal/core/access"
	"hobrak/internal/core/fit"
	"hobrak/internal/core/geometry"
	"hobrak/internal/core/keeping"
	"hobrak/internal/core/kinds"
	"hobrak/internal/core/length"
	"hobrak/internal/core/reach"
	"hobrak/internal/core/shop"
)

// Round of a shop.
type Round struct {
	Name       string        `json:"name"`
	Units      length.System `json:"units"`
	Comma      bool          `json:"comma" doc:"a comma before decimals instead of a point"`
	Figure     Figure        `json:"figure"`
	Elevations []Elevation   `json:"elevations" nullable:"false"`
	Places     []Place       `json:"places" nullable:"false"`
	Things     []Thing       `json:"things" nullable:"false" doc:"what stands on the floor"`
	Items      []Item        `json:"items" nullable:"false"`
	Wished     []Item        `json:"wished" nullable:"false" doc:"things that are not owned yet and need no home"`
	Plan       Plan          `json:"plan"`
	Totals     Totals        `json:"totals"`
	People     []string      `json:"people" nullable:"false" doc:"who uses the shop"`
	Fresh      bool          `json:"fresh" doc:"nothing is said of the shop yet, not even who uses it"`
	OneOut     bool          `json:"one_out" doc:"ask what leaves whenever something comes in"`
	Mode       string        `json:"mode" doc:"mode the floor is in now; empty as it stands"`
}

// Figure is the person the reach is worked out for.
type Figure struct {
	Stature    float64 `json:"stature"`
	LeftHanded bool    `json:"left_handed"`
	Knee       float64 `json:"knee" doc:"below it one kneels"`
	Fingertip  float64 `json:"fingertip" doc:"below it one bends"`
	Shoulder   float64 `json:"shoulder" doc:"up to it is easy"`
	Elbow      float64 `json:"elbow"`
	Eye        float64 `json:"eye"`
	Stretch    float64 `json:"stretch" doc:"reached stretching before a bare wall"`
	Step       float64 `json:"step" doc:"reached from a step"`
}

// Elevation is a wall, or what stands free in the middle of an area.
type Elevation struct {
	ID       string       `json:"id" doc:"letter of the wall; empty in the middle"`
	Area     string       `json:"area"`
	Title    string       `json:"title"`
	Middle   bool         `json:"middle" doc:"no wall: what stands free"`
	Claimed  bool         `json:"claimed"`
	Surface  string       `json:"surface"`
	Offset   float64      `json:"offset" doc:"where it begins in the whole round"`
	Length   float64      `json:"length"`
	Profile  [][2]float64 `json:"profile" nullable:"false" doc:"top edge"`
	Studs    []float64    `json:"studs" nullable:"false" doc:"centres"`
	Features []Feature    `json:"features" nullable:"false"`
	Reach    []ReachRun   `json:"reach" nullable:"false" doc:"bands of reach from left to right"`
}

// Feature of a wall.
type Feature struct {
	ID    string           `json:"id"`
	Kind  shop.FeatureKind `json:"kind"`
	Name  string           `json:"name"`
	X     float64          `json:"x"`
	Z     float64          `json:"z"`
	W     float64          `json:"w"`
	H     float64          `json:"h"`
	Shape string           `json:"shape"`
	Hinge string           `json:"hinge"`
}

// ReachRun is a run of wall with the same bands. Heights are above the floor;
// Floor is the lowest that is reached at all, 0 before a bare wall.
type ReachRun struct {
	From    float64 `json:"from"`
	To      float64 `json:"to"`
	Out     bool    `json:"out" doc:"nothing is reached here"`
	Floor   float64 `json:"floor"`
	EasyLow float64 `json:"easy_low"`
	Easy    float64 `json:"easy"`
	Stretch float64 `json:"stretch"`
	Step    float64 `json:"step"`
}

// Place as it is drawn.
type Place struct {
	ID        string         `json:"id"`
	Name      string         `json:"name"`
	Word      string         `json:"word" doc:"what such a place is called"`
	Kind      shop.PlaceKind `json:"kind"`
	Style     string         `json:"style"`
	Elevation int            `json:"elevation" doc:"-1 when it is not in the shop"`
	Host      string         `json:"host" doc:"container or station it is in"`
	X         float64        `json:"x"`
	Z         float64        `json:"z"`
	W         float64        `json:"w"`
	H         float64        `json:"h"`
	D         float64        `json:"d"`
	Access    []shop.Access  `json:"access" nullable:"false"`
	Closed    bool           `json:"closed" doc:"what is in it cannot be seen"`
	Lines     [][4]float64   `json:"lines" nullable:"false" doc:"rails, slots and arms as lines x1 z1 x2 z2 in the elevation"`
	KG        float64        `json:"kg" doc:"what it carries"`
	Capacity  float64        `json:"capacity" doc:"0 when not rated"`
	Items     int            `json:"items" doc:"pieces in it"`
	Seconds   float64        `json:"seconds" doc:"weekly handling of what is in it"`
	Fill      float64        `json:"fill" doc:"share of its room that is taken"`
	Dense     bool           `json:"dense" doc:"packed by outlines where they are known"`
	Sides     bool           `json:"sides" doc:"things hang or lie in it side by side and over each other"`
	Labelled  bool           `json:"labelled" doc:"a label outside says what is in it"`
	Pictured  string         `json:"pictured" doc:"what its photos are of: the place itself, or the container it is in"`
	Photos    []string       `json:"photos" nullable:"false" doc:"names of those photos"`
	Order     string         `json:"order" doc:"what is in it is in this order; empty: by use"`
	Dull      string         `json:"dull" doc:"side on which dull blades hang; empty for anywhere"`
}

// Thing stands on the floor or hangs as a container on a wall.
type Thing struct {
	ID        string  `json:"id"`
	Name      string  `json:"name"`
	Kind      string  `json:"kind"`
	Station   bool    `json:"station"`
	Elevation int     `json:"elevation"`
	X         float64 `json:"x"`
	Z         float64 `json:"z"`
	W         float64 `json:"w"`
	H         float64 `json:"h" doc:"height of the table or of the whole"`
	Tall      float64 `json:"tall" doc:"overall height"`
	Out       float64 `json:"out" doc:"how far before the wall its back is"`
	Movable   bool    `json:"movable"`
	// Floor is the left and lower edge of a container's footprint before it is
	// turned by Rot; nil when it does not stand on the floor.
	Floor *[2]float64 `json:"floor,omitempty"`
	Rot   float64     `json:"rot,omitempty"`
	// Traits of a container: dust_tight, lockable, portable.
	Traits []string `json:"traits" nullable:"false"`
}

// Piece is one of an item as it is drawn.
type Piece struct {
	X      float64 `json:"x"`
	Z      float64 `json:"z"`
	W      float64 `json:"w"`
	H      float64 `json:"h"`
	Behind bool    `json:"behind" doc:"in the second row"`
}

// Item with where it lives.
type Item struct {
	ID        string       `json:"id"`
	Name      string       `json:"name"`
	Kind      string       `json:"kind"`
	Glyph     string       `json:"glyph" doc:"silhouette"`
	Outline   [][2]float64 `json:"outline,omitempty" doc:"its true shape in its width and height, mm from the left lower corner; left out when it is not known"`
	Family    string       `json:"family"`
	Count     int          `json:"count"`
	W         float64      `json:"w"`
	H         float64      `json:"h"`
	D         float64      `json:"d"`
	KG        float64      `json:"kg" doc:"of one"`
	Uses      float64      `json:"uses" doc:"a week"`
	UsedAt    []string     `json:"used_at" nullable:"false"`
	Hold      []shop.Hold  `json:"hold" nullable:"false"`
	Flags     []shop.Flag  `json:"flags" nullable:"false"`
	Assumed   []string     `json:"assumed" nullable:"false"`
	Place     string       `json:"place" doc:"empty without a home"`
	Homed     int          `json:"homed" doc:"pieces that have a home"`
	Lies      string       `json:"lies" doc:"place in which it lies without a spot of its own while it has no home; empty otherwise"`
	Whose     string       `json:"whose" doc:"who uses it; empty when anybody"`
	Locked    bool         `json:"locked"`
	Elevation int          `json:"elevation" doc:"-1 without a home"`
	Hidden    bool         `json:"hidden" doc:"in a closed place"`
	Pieces    []Piece      `json:"pieces" nullable:"false"`
	Order     int          `json:"order" doc:"1 to 4, 0 without a home"`
	Seconds   float64      `json:"seconds" doc:"a week"`
	Out       bool         `json:"out" doc:"lent or out: only its outline stays"`
	Photos    []string     `json:"photos" nullable:"false" doc:"names of its photos"`
	Status    string       `json:"status" doc:"wished, limbo, or empty when owned"`
	Keep      bool         `json:"keep" doc:"never suggested for leaving"`
	With      []string     `json:"with" nullable:"false" doc:"names of things that are wanted whenever it is used"`
	SetUp     string       `json:"set_up" doc:"how it is set up"`
	Due       string       `json:"due" doc:"day by which it is inspected or replaced; empty when nothing is said"`
	Notes     string       `json:"notes"`
	Trip      string       `json:"trip" doc:"what the area is called that it is fetched from; empty when it lives in one it is used in"`
}

// Plan is the floor seen from above: the key to the round.
type Plan struct {
	Rooms    []Room      `json:"rooms" nullable:"false"`
	Things   []Footprint `json:"things" nullable:"false"`
	Stations []Stand     `json:"stations" nullable:"false"`
}

// Room on the plan.
type Room struct {
	Area    string       `json:"area"`
	Corners [][2]float64 `json:"corners" nullable:"false"`
	Gaps    []Gap        `json:"gaps" nullable:"false" doc:"doors and windows as lines"`
}

// Gap in a wall of the plan.
type Gap struct {
	Kind string     `json:"kind"`
	From [2]float64 `json:"from"`
	To   [2]float64 `json:"to"`
	Wall string     `json:"wall"`
	Mid  [2]float64 `json:"mid"`
}

// Footprint on the plan.
type Footprint struct {
	ID      string       `json:"id"`
	Station bool         `json:"station"`
	Corners [][2]float64 `json:"corners" nullable:"false"`
}

// Stand is where one stands at a station, with what is fetched from there.
type Stand struct {
	ID      string  `json:"id"`
	Name    string  `json:"name"`
	X       float64 `json:"x"`
	Y       float64 `json:"y"`
	Seconds float64 `json:"seconds" doc:"weekly handling of what is used there"`
	Ways    []Way   `json:"ways" nullable:"false" doc:"walking lines to places, weighted"`
}

// Way from a station to a place.
type Way struct {
	Place   string       `json:"place"`
	Seconds float64      `json:"seconds" doc:"a week, of what is fetched there from this station"`
	Points  [][2]float64 `json:"points" nullable:"false"`
}

// Totals of the shop.
type Totals struct {
	Seconds  float64 `json:"seconds" doc:"weekly handling"`
	Lines    int     `json:"lines" doc:"items that need a home"`
	Homeless int     `json:"homeless"`
	Pieces   int     `json:"pieces"`
	Orders   [5]int  `json:"orders" doc:"items by order 1 to 4; at 0 those without a home"`
}

// reachRunWidth merges the columns of reach that agree within this much.
const reachRunWidth = 1.0

// Of lays out a shop as its things are arranged.
func Of(e *fit.Arrangement) *Round {
	s := e.Map().Shop
	d := &artist{s: s, e: e, m: e.Map(), r: &Round{Name: s.Settings.Name, Units: s.Settings.Units, Comma: s.Settings.Decimal == "comma", OneOut: s.Settings.OneOut, Mode: s.Settings.Mode, People: []string{}, Fresh: s.Fresh()},
		hosts: map[string]onWall{}, places: map[string]int{}}
	for i := range s.Settings.People {
		d.r.People = append(d.r.People, s.Settings.People[i].ID)
	}
	d.figure()
	d.elevations()
	d.things()
	d.placesOf()
	d.items()
	d.plan()
	return d.r
}

// onWall is where something is on a elevation.
type onWall struct {
	elevation int
	x, z      float64
}

type artist struct {
	s      *shop.Shop
	e      *fit.Arrangement
	m      *access.Map
	r      *Round
	hosts  map[string]onWall // containers and stations by id
	places map[string]int
	middle map[string]int // elevation of the middle of each area
	cursor map[string]float64
}

func (d *artist) figure() {
	b := d.m.Body
	z := b.Zones(reach.Obstacle{}, d.m.Estimates.StepHeight)
	d.r.Figure = Figure{Stature: b.Stature, Knee: z.Kneel, Fingertip: z.Bend, Shoulder: z.Easy, Elbow: b.Elbow, Eye: b.Eye, Stretch: z.Stretch, Step: z.Step}
	for _, p := range d.s.Settings.People {
		if !p.Child {
			d.r.Figure.LeftHanded = p.LeftHanded
			break
		}
	}
}

func (d *artist) elevations() {
	offset := 0.0
	d.middle, d.cursor = map[string]int{}, map[string]float64{}
	for i := range d.s.Areas {
		a := &d.s.Areas[i]
		for j := range a.Walls {
			g := WallOf(a, j)
			g.Offset, g.Reach = offset, d.reach(a, j)
			d.r.Elevations = append(d.r.Elevations, g)
			offset += g.Length
		}
		low := math.Inf(1)
		for _, w := range a.Walls {
			for _, p := range w.Profile {
				low = min(low, p[1].MM())
			}
		}
		d.middle[a.ID] = len(d.r.Elevations)
		d.cursor[a.ID] = middleMargin
		d.r.Elevations = append(d.r.Elevations, Elevation{Area: a.ID, Title: "In the room", Middle: true, Offset: offset, Profile: [][2]float64{{0, low}, {0, low}}, Studs: []float64{}, Features: []Feature{}, Reach: []ReachRun{}})
	}
}

const middleMargin = 250.0

// inMiddle gives the next free stretch of the middle of an area.
func (d *artist) inMiddle(area string, w float64) onWall {
	i := d.middle[area]
	x := d.cursor[area]
	d.cursor[area] += w + middleMargin
	d.r.Elevations[i].Length = d.cursor[area]
	d.r.Elevations[i].Profile[1][0] = d.cursor[area]
	for j := i + 1; j < len(d.r.Elevations); j++ {
		d.r.Elevations[j].Offset = d.r.Elevations[j-1].Offset + d.r.Elevations[j-1].Length
	}
	return onWall{i, x, 0}
}

func (d *artist) reach(a *shop.Area, wall int) []ReachRun {
	var out []ReachRun
	long := a.Frame(wall).Length.MM()
	for i, z := range d.m.Zones(a, wall) {
		r := ReachRun{From: float64(i) * access.ColumnWidth, To: min(long, float64(i+1)*access.ColumnWidth)}
		if !z.OK {
			r.Out = true
		} else {
			r.Floor, r.Stretch, r.Step = z.Floor, z.Stretch, z.Step
			if !math.IsInf(z.EasyLow, 0) {
				r.EasyLow, r.Easy = z.EasyLow, z.Easy
			}
		}
		if n := len(out); n > 0 && alike(out[n-1], r) {
			out[n-1].To = r.To
			continue
		}
		out = append(out, r)
	}
	return out
}

func alike(a, b ReachRun) bool {
	near := func(x, y float64) bool { return math.Abs(x-y) < reachRunWidth }
	return a.Out == b.Out && near(a.Floor, b.Floor) && near(a.EasyLow, b.EasyLow) && near(a.Easy, b.Easy) && near(a.Stretch, b.Stretch) && near(a.Step, b.Step)
}

// freeStanding is how far the back of a thing is from the wall before it counts
// as standing in the room, mm.
const freeStanding = 700.0

// against finds the wall a footprint has its back to, and where along it.
func (d *artist) against(a *shop.Area, g geometry.Polygon) (wall int, x, out float64, ok bool) {
	front := g.Edge(0)
	facing := geometry.Point{X: front.B.Y - front.A.Y, Y: front.A.X - front.B.X}.Unit()
	best := math.Inf(1)
	for i := range a.Walls {
		f := a.Frame(i)
		if f.Inward.Dot(facing) < .9 {
			continue
		}
		low, high := math.Inf(1), math.Inf(-1)
		left := math.Inf(1)
		for _, p := range g {
			px, po := f.Coordinates(p)
			low, high, left = min(low, po), max(high, po), min(left, px)
		}
		if low < best && left > -50 && left < f.Length.MM() {
			best, wall, x, out, ok = low, i, left, low, true
		}
	}
	return wall, x, out, ok && best < freeStanding
}

// put places a footprint on its wall or in the middle.
func (d *artist) put(area string, g geometry.Polygon, w float64) (onWall, float64) {
	a := d.m.Index.Area(area)
	if wall, x, out, ok := d.against(a, g); ok {
		for i, s := range d.r.Elevations {
			if s.Area == a.ID && s.ID == a.Walls[wall].ID && !s.Middle {
				return onWall{i, x, 0}, out
			}
		}
	}
	return d.inMiddle(a.ID, w), 0
}

func (d *artist) elevationOf(area, wall string) int {
	a := d.m.Index.Area(area)
	return slices.IndexFunc(d.r.Elevations, func(s Elevation) bool { return s.Area == a.ID && s.ID == wall && !s.Middle })
}

// find where a place is drawn, following its containers.
func (d *artist) find(p *shop.Place) onWall {
	chain, at := d.m.Index.Chain(&p.At)
	x, z := d.m.Index.Offset(&p.At)
	if ground := d.m.Index.Ground(&p.At); ground != nil {
		// In a container on a place: that place's spot and the way from there.
		out := d.find(ground)
		return onWall{out.elevation, out.x + (x - at.X).MM(), out.z + (z - at.Z).MM()}
	}
	out := onWall{elevation: -1}
	switch {
	case at.Wall != "" && len(chain) == 0:
		return onWall{d.elevationOf(at.Area, at.Wall), at.X.MM(), at.Z.MM()}
	case at.Station != "":
		h := d.hosts[at.Station]
		return onWall{h.elevation, h.x + x.MM(), z.MM()}
	case len(chain) > 0:
		h, ok := d.hosts[chain[len(chain)-1].ID]
		if !ok {
			return out
		}
		// The outermost container's own position is its host's.
		return onWall{h.elevation, h.x + (x - at.X).MM(), h.z + (z - at.Z).MM()}
	case at.Floor != nil:
		out, _ = d.put(at.Area, geometry.Rectangle(at.Floor[0].MM(), at.Floor[1].MM(), p.W.MM(), p.D.MM(), at.Rot), p.W.MM())
	case at.Ceiling != nil:
		out = d.inMiddle(d.m.Index.Area(at.Area).ID, p.W.MM())
		out.z = at.Z.MM()
	}
	return out
}

func (d *artist) placesOf() {
	d.r.Places = []Place{}
	for i := range d.s.Places {
		p := &d.s.Places[i]
		at := d.find(p)
		f := d.m.Front(i)
		out := Place{ID: p.ID, Name: p.Name, Kind: p.Kind, Word: p.Kind.Keeping().Word(), Style: p.Style, Elevation: at.elevation, Host: p.At.In + p.At.Station, X: at.x, Z: at.z, W: p.W.MM(), H: p.H.MM(), D: p.D.MM(),
			Access: append([]shop.Access{}, f.Accesses...), Closed: f.Closed, Capacity: p.Capacity.KG(), Lines: lines(p, at), Order: string(p.Order), Dull: p.Dull, Labelled: p.Labelled, Dense: p.Dense, Sides: keeping.Of(p).Form() == keeping.Upright || keeping.Of(p).Form() == keeping.Lying}
		of := p.ID
		if d.m.Index.Container(p.At.In) != nil {
			of = p.At.In
		}
		if x, ok := d.s.Stored(of); ok {
			out.Pictured, out.Photos = of, append([]string{}, *x.List...)
		}
		d.places[p.ID] = i
		d.r.Places = append(d.r.Places, out)
	}
}

// lines are the rails, slot edges and arms of a place.
func lines(p *shop.Place, at onWall) [][4]float64 {
	out := [][4]float64{}
	add := func(x1, z1, x2, z2 float64) {
		out = append(out, [4]float64{at.x + x1, at.z + z1, at.x + x2, at.z + z2})
	}
	for _, l := range keeping.Of(p).Lines(p) {
		add(l[0], l[1], l[2], l[3])
	}
	return out
}

func (d *artist) items() {
	d.r.Items, d.r.Wished = []Item{}, []Item{}
	for i := range d.s.Items {
		it := &d.s.Items[i]
		o := Item{ID: it.ID, Name: it.Name, Kind: it.Kind, Glyph: kinds.Glyph(it.Kind), Family: it.Family, Count: it.Number(), W: it.W.MM(), H: it.H.MM(), D: it.D.MM(), KG: it.KG.KG(), Uses: it.UsesPerWeek,
			UsedAt: append([]string{}, it.UsedAt...), Hold: it.Holding(), Flags: append([]shop.Flag{}, it.Flags...), Assumed: append([]string{}, it.Assumed...), Elevation: -1, Pieces: []Piece{},
			Whose: it.Whose, Out: it.Flagged(shop.Lent), Photos: append([]string{}, it.Photos...), Status: it.Status, Keep: it.Keep, Notes: it.Notes, With: []string{}, SetUp: it.SetUp, Due: it.Due}
		for _, p := range it.Outline {
			o.Outline = append(o.Outline, [2]float64{p[0].MM(), p[1].MM()})
		}
		for _, id := range it.With {
			if w := d.m.Index.Item(id); w != nil {
				o.With = append(o.With, w.Name)
			}
		}
		if !it.Needs() {
			d.r.Wished = append(d.r.Wished, o)
			continue
		}
		o.Seconds = d.e.Seconds(i)
		for _, h := range d.m.Index.Homes(it.ID) {
			k := d.places[h.Place]
			p, drawn := &d.s.Places[k], &d.r.Places[k]
			n := h.Number(it)
			o.Place, o.Elevation, o.Hidden, o.Locked = p.ID, drawn.Elevation, drawn.Closed, h.Locked
			o.Homed += n
			o.Order = max(o.Order, d.e.OrderOf(i, h))
			o.Pieces = append(o.Pieces, pieces(p, drawn, it, h)...)
			drawn.Items += n
			drawn.KG += it.KG.KG() * float64(n)
			drawn.Seconds += o.Seconds * float64(n) / float64(it.Number())
		}
		o.Trip = d.trip(it)
		if d.m.Index.Loose(it) > 0 {
			o.Lies = it.Lies
		}
		if o.Homed < it.Number() {
			d.r.Totals.Homeless++
			if o.Homed == 0 {
				o.Order = 0
			}
		}
		d.r.Totals.Orders[o.Order]++
		d.r.Totals.Lines++
		d.r.Totals.Pieces += it.Number()
		d.r.Totals.Seconds += o.Seconds
		d.r.Items = append(d.r.Items, o)
	}
	for k := range d.r.Places {
		d.r.Places[k].Fill = d.e.Fill(k)
	}
}

// trip is what the area is called that somebody goes to for an item, from the area it is used in.
func (d *artist) trip(it *shop.Item) string {
	var from []*shop.Area
	for _, id := range it.UsedAt {
		if st := d.m.Index.Station(id); st != nil {
			from = append(from, d.m.Index.Area(st.Area))
		}
	}
	if len(from) == 0 {
		from = append(from, d.m.Index.Area(""))
	}
	for _, h := range d.m.Index.Homes(it.ID) {
		if p := d.m.Index.Place(h.Place); p != nil {
			_, where := d.m.Index.Chain(&p.At)
			if a := d.m.Index.Area(where.Area); a != nil && !where.Away && !slices.Contains(from, a) {
				return a.Called()
			}
		}
	}
	return ""
}

// pieces of a home as they are seen from the front.
func pieces(p *shop.Place, at *Place, it *shop.Item, h *shop.Home) []Piece {
	out := []Piece{}
	for _, b := range keeping.BoxesOf(p, it, h) {
		out = append(out, Piece{X: at.X + b.X, Z: at.Z + b.Z, W: b.W, H: b.H, Behind: b.Behind})
	}
	return out
}

func (d *artist) plan() {
	p := Plan{Rooms: []Room{}, Things: []Footprint{}, Stations: []Stand{}}
	for i := range d.s.Areas {
		a := &d.s.Areas[i]
		p.Rooms = append(p.Rooms, RoomOf(a))
		for _, t := range d.m.Things(a.ID) {
			p.Things = append(p.Things, Footprint{t.ID, d.m.Index.Station(t.ID) != nil, Corners(t.Footprint)})
		}
	}
	p.Stations = d.stands()
	d.r.Plan = p
}

// stands sums up what is fetched from each station, and from which places.
func (d *artist) stands() []Stand {
	type fetched struct {
		seconds float64
		grip    keeping.Grip
		most    float64
	}
	per := make([]map[int]*fetched, len(d.s.Stations))
	for i := range d.s.Items {
		it := &d.s.Items[i]
		u := d.m.UseOf(it)
		for _, h := range d.m.Index.Homes(it.ID) {
			k := d.places[h.Place]
			share := d.e.Seconds(i) * float64(h.Number(it)) / float64(it.Number()) / float64(max(1, len(u.Stations())))
			for _, st := range u.Stations() {
				if per[st] == nil {
					per[st] = map[int]*fetched{}
				}
				f := per[st][k]
				if f == nil {
					f = &fetched{}
					per[st][k] = f
				}
				f.seconds += share
				if share >= f.most {
					f.most, f.grip = share, keeping.GripOf(&d.s.Places[k], it, h)
				}
			}
		}
	}
	out := []Stand{}
	for i := range d.s.Stations {
		st := &d.s.Stations[i]
		o := Stand{ID: st.ID, Name: st.Name, X: st.Stand[0].MM(), Y: st.Stand[1].MM(), Ways: []Way{}}
		for k := range d.s.Places {
			f := per[i][k]
			if f == nil {
				continue
			}
			o.Seconds += f.seconds
			if path, ok := d.m.Path(i, k, f.grip); ok {
				w := Way{Place: d.s.Places[k].ID, Seconds: f.seconds}
				for _, q := range path.Points {
					w.Points = append(w.Points, pair(q))
				}
				o.Ways = append(o.Ways, w)
			}
		}
		sort.SliceStable(o.Ways, func(a, b int) bool { return o.Ways[a].Seconds > o.Ways[b].Seconds })
		out = append(out, o)
	}
	return out
}

func pair(p geometry.Point) [2]float64 {
	return [2]float64{math.Round(p.X*10) / 10, math.Round(p.Y*10) / 10}
}

// Corners of a polygon as pairs of mm, as the drawings have them.
func Corners(g geometry.Polygon) [][2]float64 {
	out := make([][2]float64, len(g))
	for i, p := range g {
		out[i] = pair(p)
	}
	return out
}
