// Package shoptest makes shops for tests: at random, and as wide as the shop
// file allows. Rooms have odd outlines, slopes and gables, posts, steps and
// every kind of feature; what stands and hangs in them is of every kind, in
// every place and at every angle; modes arrange it otherwise. What is made is
// valid, and no more than that: it may break every rule of the check.
package shoptest

import (
	"fmt"
	"hobrak/internal/core/keeping"
	"math"
	"math/rand/v2"
	"strings"

	"hobrak/internal/core/length"
	"hobrak/internal/core/shop"
	"hobrak/internal/core/weight"
)

// Size says how much is in a random shop, at most. The zero value is a few of everything.
type Size struct {
	Areas, Stations, Containers, Places, Items, Modes int
	Homes                                             bool // most things are given a random home
}

// Few of everything.
var Few = Size{Areas: 2, Stations: 5, Containers: 6, Places: 10, Items: 15, Modes: 2, Homes: true}

// maker of one shop.
type maker struct {
	rng *rand.Rand
	s   *shop.Shop
}

// Random shop for a seed: the same seed gives the same shop.
func Random(seed uint64, size Size) *shop.Shop {
	m := &maker{rng: rand.New(rand.NewPCG(seed, 7)), s: &shop.Shop{Format: shop.Format, Version: shop.Version}}
	m.settings()
	for i := range 1 + m.rng.IntN(max(1, size.Areas)) {
		m.area(i)
	}
	some := func(most int, make func(int)) {
		for i := range m.rng.IntN(most + 1) {
			make(i)
		}
	}
	some(size.Stations, m.station)
	some(size.Containers, m.container)
	for i := range m.rng.IntN(size.Modes + 1) {
		m.s.Modes = append(m.s.Modes, shop.Mode{ID: fmt.Sprintf("m%d", i), Name: fmt.Sprintf("Mode %d", i), HoursPerWeek: float64(m.rng.IntN(50))})
	}
	some(size.Places, m.place)
	some(size.Items, m.item)
	m.onPlaces()
	if size.Homes {
		m.homes()
	}
	m.spots()
	m.kits()
	m.targets()
	m.supplied(seed)
	return m.s
}

// supplied says at random what stations need of the room and what the room gives; it draws by itself, so that all else stays as it is.
func (m *maker) supplied(seed uint64) {
	was := m.rng
	m.rng = rand.New(rand.NewPCG(seed, 23))
	defer func() { m.rng = was }()
	var outlets, exits []string
	for i := range m.s.Areas {
		a := &m.s.Areas[i]
		a.Pale, a.Insulated = m.yes(3), m.yes(3)
		for k := range a.Walls {
			a.Walls[k].Beyond, a.Walls[k].Damp = m.word("|||neighbour|bedroom"), m.yes(4)
			for _, f := range a.Walls[k].Features {
				if f.Kind == "outlet" {
					outlets = append(outlets, f.ID)
				} else if f.Kind.Lit() || f.Kind.Passage() {
					exits = append(exits, f.ID)
				}
			}
		}
		if len(exits) > 0 && m.yes(3) {
			a.Exhaust = pick(m, exits...)
		}
	}
	for i := range m.s.Circuits {
		m.s.Circuits[i].Guard = m.word("|yes|no")
	}
	set := &m.s.Settings
	for i := range m.rng.IntN(4) {
		x := shop.Strip{ID: fmt.Sprintf("strip-%d", i), Name: fmt.Sprintf("Strip %d", i), Lead: m.mm(500, 25000), Rated: float64(m.rng.IntN(20)), Reel: m.yes(3), Overhead: m.yes(4)}
		if len(outlets) > 0 && m.yes(2) {
			x.Into = pick(m, outlets...)
		} else if m.yes(2) {
			x.Into = fmt.Sprintf("strip-%d", m.rng.IntN(4)) // also into itself, and round
		}
		set.Strips = append(set.Strips, x)
		outlets = append(outlets, x.ID)
	}
	if m.yes(3) {
		set.Stored = &shop.Stored{Hours: 1 + 5*m.rng.Float64(), Chargers: m.rng.IntN(3), Batteries: []shop.Battery{{Name: "packs", N: 1 + m.rng.IntN(6), Volts: 18, AH: 1 + 5*m.rng.Float64(), Charge: float64(m.rng.IntN(90))}}, Draws: []shop.Draw{{Name: "lamp", Watts: 1 + 40*m.rng.Float64()}, {Name: "drill", Watts: 300, Minutes: float64(m.rng.IntN(60))}}}
	}
	if m.yes(3) {
		set.QuietFrom, set.QuietTo = "20:00", "08:00"
	}
	for i := range m.s.Stations {
		st := &m.s.Stations[i]
		st.Air, st.Wants = m.word("||||dusty|clean|fumes"), m.words("air|water|network")
		if len(outlets) > 0 && m.yes(2) {
			st.Outlet = pick(m, outlets...)
		}
		if m.yes(3) {
			st.Mat = shop.Point{m.mm(400, 1500), m.mm(300, 1000)}
		}
		if m.yes(3) {
			st.Sees = []string{m.s.Stations[m.rng.IntN(len(m.s.Stations))].ID}
		}
		if m.yes(4) {
			st.Placed = m.word("2024-02-29|2026-10-31|2026-11-29")
		}
		for range m.rng.IntN(3) {
			st.Controls = append(st.Controls, shop.Control{Kind: m.word("stop|switch|crank|remote"), X: m.mm(-1000, 2000), Y: m.mm(-1000, 2000), Z: m.mm(0, 2200)})
		}
	}
	if len(m.s.Stations) > 1 && m.yes(2) {
		set.Running = []shop.Together{{Name: "work", Stations: []string{m.s.Stations[0].ID, m.s.Stations[1].ID, "gone"}}}
	}
}

func (m *maker) mm(low, high float64) length.Length {
	v := low + (high-low)*m.rng.Float64()
	if m.rng.IntN(3) > 0 {
		v = math.Round(v) // people mostly round
	}
	return length.MM(max(low, v))
}

func (m *maker) kg(high float64) weight.Weight {
	return weight.KG(high * m.rng.Float64() * m.rng.Float64())
}
func (m *maker) yes(in int) bool         { return m.rng.IntN(in) == 0 }
func pick[T any](m *maker, from ...T) T  { return from[m.rng.IntN(len(from))] }
func (m *maker) word(from string) string { return pick(m, strings.Split(from, "|")...) }
func (m *maker) words(from string) (w []string) {
	for _, x := range strings.Split(from, "|") {
		if m.yes(3) {
			w = append(w, x)
		}
	}
	return w
}

// worded types know their words.
type worded interface {
	~string
	Words() []string
}

// some are the words of a type after others.
func some[T worded](first ...T) []T {
	for _, w := range T("").Words() {
		first = append(first, T(w))
	}
	return first
}

func oneOf[T worded](m *maker) T { return pick(m, some[T]()...) }

// few of the words of a type.
func few[T worded](m *maker) (out []T) {
	for _, w := range some[T]() {
		if m.yes(3) {
			out = append(out, w)
		}
	}
	return out
}

// try adds something and takes it back when the shop is not valid with it.
func (m *maker) try(add, back func()) bool {
	add()
	if m.s.Validate() == nil {
		return true
	}
	back()
	return false
}

// tries is how often something is tried at random before it is left out.
const tries = 8

func (m *maker) settings() {
	st := &m.s.Settings
	*st = shop.Settings{Name: "Random", Units: pick(m, length.Metric, length.Imperial), SessionsPerWeek: float64(m.rng.IntN(8)), GrowthReserve: .4 * m.rng.Float64(), Fixing: m.word("|anything|few-holes|none")}
	for i := range m.rng.IntN(3) {
		p := shop.Person{ID: fmt.Sprintf("p%d", i), Stature: m.mm(900, 2100), LeftHanded: m.yes(3), Child: m.yes(3)}
		p.Seated, p.NoKneeling, p.NoLadder, p.DimSight = m.yes(8), m.yes(5), m.yes(4), m.yes(6)
		if m.yes(6) {
			p.Lifts = m.kg(20)
		}
		if m.yes(3) {
			l := m.mm(0, 400)
			p.Lean = &l
		}
		if m.yes(4) {
			p.Measured = map[string]length.Length{"shoulder": p.Stature * 4 / 5, "knee": p.Stature / 4}
		}
		st.People = append(st.People, p)
	}
	st.Makes, st.Shares = m.words("carving|boats|repair"), m.words("car|bicycle")
	if m.yes(2) {
		st.Ways = &shop.Working{Open: m.rng.Float64(), ByMachine: m.rng.Float64()}
	}
	if m.yes(3) {
		st.Clear = &shop.Clearances{AisleMain: ptr(m.mm(300, 1200)), AisleSide: ptr(m.mm(300, 900)), PanelDeep: ptr(m.mm(0, 1500)), Head: ptr(m.mm(0, 300)), OverThings: ptr(m.mm(0, 400))}
	}
}

func ptr[T any](v T) *T { return &v }

// outline of an area, clockwise seen from above: a rectangle, an L, one with an
// alcove or a chimney, or an odd one with slanting sides; turned or not.
func (m *maker) outline() []shop.Point {
	w, d := 1500+7000*m.rng.Float64(), 1500+7000*m.rng.Float64()
	var p [][2]float64
	cut := func(of float64) float64 { return of * (.15 + .3*m.rng.Float64()) }
	switch a, b := cut(w), cut(d); m.rng.IntN(5) {
	case 0:
		p = [][2]float64{{0, 0}, {0, d}, {w, d}, {w, 0}}
	case 1: // an L
		p = [][2]float64{{0, 0}, {0, d}, {w - a, d}, {w - a, d - b}, {w, d - b}, {w, 0}}
	case 2: // a chimney stands in from the upper side
		p = [][2]float64{{0, 0}, {0, d}, {a, d}, {a, d - b/2}, {w - a, d - b/2}, {w - a, d}, {w, d}, {w, 0}}
	case 3: // an alcove
		p = [][2]float64{{0, 0}, {0, a}, {-b, a}, {-b, d - b}, {0, d - b}, {0, d}, {w, d}, {w, 0}}
		if d-b <= a+100 {
			p = [][2]float64{{0, 0}, {0, d}, {w, d}, {w, 0}}
		}
	default: // slanting, three to seven corners on an oval
		n := 3 + m.rng.IntN(5)
		for i := range n {
			t := -2 * math.Pi * (float64(i) + .6*m.rng.Float64()) / float64(n)
			p = append(p, [2]float64{w / 2 * math.Cos(t), d / 2 * math.Sin(t)})
		}
	}
	t := 0.0
	if m.yes(4) {
		t = 2 * math.Pi * m.rng.Float64()
	}
	var out []shop.Point
	for _, q := range p {
		out = append(out, shop.Point{length.MM(math.Round(q[0]*math.Cos(t) - q[1]*math.Sin(t))), length.MM(math.Round(q[0]*math.Sin(t) + q[1]*math.Cos(t)))})
	}
	return out
}

func (m *maker) area(i int) {
	a := shop.Area{ID: fmt.Sprintf("area%d", i), Kind: m.word("|room|shed|loft|outdoors"), Climate: m.words("frost|damp|sun")}
	if i == 0 {
		a.ID = "main"
	} else {
		a.WalkSeconds = 120 * m.rng.Float64()
	}
	for ok := false; !ok; {
		a.Corners, a.Walls = m.outline(), nil
		for k := range a.Corners {
			a.Walls = append(a.Walls, shop.Wall{ID: string(rune('A' + k)), Claimed: !m.yes(5)})
		}
		for k := range a.Walls {
			a.Walls[k].Profile = []shop.Point{{0, length.MM(2400)}, {a.Frame(k).Length, length.MM(2400)}}
		}
		ok = m.try(func() { m.s.Areas = append(m.s.Areas, a) }, func() { m.s.Areas = m.s.Areas[:i] })
	}
	area := &m.s.Areas[i]
	low, high := m.mm(400, 2200), m.mm(2200, 4500)
	for k := range area.Walls {
		w := &area.Walls[k]
		long := area.Frame(k).Length
		switch m.rng.IntN(4) {
		case 0: // level
			w.Profile = []shop.Point{{0, high}, {long, high}}
		case 1: // a slope
			w.Profile = []shop.Point{{0, low}, {long, high}}
		case 2: // a gable
			w.Profile = []shop.Point{{0, low}, {long / 2, high}, {long, low}}
		}
		w.Surface = m.word("|drywall|plaster|plywood|boards|bare-studs|timber|brick|block|concrete|sheet-metal")
		m.studs(w)
		for f := range m.rng.IntN(4) {
			m.feature(area, w, long, f)
		}
	}
	m.overAndUnder(area, high)
	if m.s.Validate() != nil {
		panic("a random area is not valid: " + m.s.Validate().Error())
	}
}

func (m *maker) studs(w *shop.Wall) {
	old := w.Studs
	switch m.rng.IntN(3) {
	case 0:
		m.try(func() {
			w.Studs = &shop.Studs{Spacing: m.mm(100, 3000), First: m.mm(0, 3000), Width: m.mm(20, 400)}
		}, func() { w.Studs = old })
	case 1:
		m.try(func() {
			w.Studs = &shop.Studs{Width: 45 * length.Millimetre, List: []length.Length{m.mm(0, 300), m.mm(400, 900), m.mm(1000, 1500)}}
		}, func() { w.Studs = old })
	}
}

func (m *maker) feature(a *shop.Area, w *shop.Wall, long length.Length, n int) {
	for range tries {
		f := shop.Feature{ID: fmt.Sprintf("%s-%d", w.ID, n), Kind: oneOf[shop.FeatureKind](m),
			X: m.mm(0, long.MM()), W: m.mm(20, 3000), H: m.mm(20, 2500), Hinge: m.word("|left|right"), Swing: m.word("|in|out"), Shape: m.word("|square|arched")}
		if f.Kind.Leaves() == 0 {
			f.Z = m.mm(0, 2000)
		}
		if m.yes(2) {
			f.D = m.mm(0, 400)
		}
		if f.Kind == "outlet" && m.yes(2) {
			if len(m.s.Circuits) == 0 {
				m.s.Circuits = []shop.Circuit{{ID: "c1", Volts: 230, Amps: 16}, {ID: "c2"}}
			}
			f.Circuit = "c1"
		}
		if m.try(func() { w.Features = append(w.Features, f) }, func() { w.Features = w.Features[:len(w.Features)-1] }) {
			return
		}
	}
}

// overAndUnder puts joists, what hangs, posts, steps and a fall into an area. Features of
// the floor and the ceiling may reach anywhere, as in the file.
func (m *maker) overAndUnder(a *shop.Area, high length.Length) {
	low, up := a.Outline().Bounds()
	at := func() (x, y length.Length) {
		return m.mm(low.X-200, up.X+200), m.mm(low.Y-200, up.Y+200)
	}
	if m.yes(2) {
		a.Ceiling = &shop.Ceiling{}
		if m.yes(2) {
			a.Ceiling.Joists = &shop.Joists{Along: m.word("x|y"), Spacing: m.mm(50, 3000), First: m.mm(0, 3000)}
		}
		for k := range m.rng.IntN(4) {
			f := shop.CeilingFeature{ID: fmt.Sprintf("ceiling-%d", k), Kind: m.word("light|track|opener|beam|duct|fan|hoist"), W: m.mm(10, 4000), D: m.mm(10, 4000), Drop: m.mm(0, min(5000, high.MM()))}
			f.X, f.Y = at()
			a.Ceiling.Features = append(a.Ceiling.Features, f)
		}
	}
	if m.yes(2) {
		a.Floor = &shop.Floor{}
		if m.yes(2) {
			a.Floor.Fall = &shop.Fall{MMPerM: 40 * m.rng.Float64(), Toward: a.Walls[m.rng.IntN(len(a.Walls))].ID}
		}
		for k := range m.rng.IntN(4) {
			f := shop.FloorFeature{ID: fmt.Sprintf("floor-%d", k), Kind: m.word("post|post|step|drain|pit"), W: m.mm(20, 600), D: m.mm(20, 600)}
			f.X, f.Y = at()
			switch m.rng.IntN(4) { // right in a corner, or against a wall
			case 0:
				f.X, f.Y = a.Corners[0][0], a.Corners[0][1]
			case 1:
				f.X = 0
			}
			a.Floor.Features = append(a.Floor.Features, f)
		}
	}
}

// anywhere is a spot inside an area; ids of areas are left out for the main one, as people do.
func (m *maker) anywhere() (area *shop.Area, id string, p shop.Point) {
	k := m.rng.IntN(len(m.s.Areas))
	area = &m.s.Areas[k]
	if id = area.ID; k == 0 && m.yes(2) {
		id = ""
	}
	low, high := area.Outline().Bounds()
	return area, id, shop.Point{m.mm(low.X, high.X), m.mm(low.Y, high.Y)}
}

func (m *maker) rot() float64 {
	return pick(m, 0, 90, 180, 270, -90, math.Round(360*m.rng.Float64()), 360*m.rng.Float64())
}

func (m *maker) station(i int) {
	for range tries {
		_, area, at := m.anywhere()
		_, _, stand := m.anywhere()
		st := shop.Station{ID: fmt.Sprintf("s%d", i), Name: fmt.Sprintf("Station %d", i), Kind: shop.StationKind(m.word("bench|table-saw|bandsaw|drill-press|sink|what-not")), Area: area, X: at[0], Y: at[1], Rot: m.rot(),
			W: m.mm(100, 2400), D: m.mm(100, 1200), H: m.mm(50, 1200), Stand: stand, Mobility: pick(m, some[shop.Mobility]("")...), Amps: 20 * m.rng.Float64()}
		if m.yes(2) {
			st.Tall = st.H + m.mm(0, 1000)
		}
		if m.yes(2) {
			st.Feed = &shop.Feed{Along: m.word("x|y"), In: m.mm(0, 3000), Out: m.mm(0, 3000)}
		}
		if m.try(func() { m.s.Stations = append(m.s.Stations, st) }, func() { m.s.Stations = m.s.Stations[:len(m.s.Stations)-1] }) {
			return
		}
	}
}

// at is somewhere a place or container can be; most tries are valid.
func (m *maker) at(w, h, d length.Length) shop.At {
	a, area, p := m.anywhere()
	switch m.rng.IntN(7) {
	case 0, 1:
		k := m.rng.IntN(len(a.Walls))
		long := a.Frame(k).Length
		return shop.At{Area: area, Wall: a.Walls[k].ID, X: m.mm(0, max(0, (long-w).MM())), Z: m.mm(0, 2500)}
	case 2:
		return shop.At{Area: area, Floor: &p, Rot: m.rot()}
	case 3:
		return shop.At{Area: area, Ceiling: &p, Z: m.mm(1200, 3000), Rot: m.rot()}
	case 4:
		if n := len(m.s.Stations); n > 0 {
			return shop.At{Station: m.s.Stations[m.rng.IntN(n)].ID, X: m.mm(0, 200), Z: m.mm(0, 500)}
		}
	case 5:
		return shop.At{Away: true}
	}
	if n := len(m.s.Containers); n > 0 {
		c := &m.s.Containers[m.rng.IntN(n)]
		return shop.At{In: c.ID, X: m.mm(0, max(0, (c.W-w).MM())), Z: m.mm(0, max(0, (c.H-h).MM())), Face: m.word("|front|back")}
	}
	return shop.At{Area: area, Floor: &p}
}

func (m *maker) container(i int) {
	for range tries {
		c := shop.Container{ID: fmt.Sprintf("K%d", i), Kind: oneOf[shop.ContainerKind](m), W: m.mm(100, 1600), H: m.mm(100, 2000), D: m.mm(50, 800), KG: m.kg(80),
			Access: pick(m, some[shop.Access]("")...), DustTight: m.yes(3), Lockable: m.yes(4), Portable: m.yes(4)}
		if m.yes(3) {
			c.Capacity = m.kg(300)
		}
		c.At = m.at(c.W, c.H, c.D)
		c.Area = c.At.Area
		if m.try(func() { m.s.Containers = append(m.s.Containers, c) }, func() { m.s.Containers = m.s.Containers[:len(m.s.Containers)-1] }) {
			return
		}
	}
}

func (m *maker) place(i int) {
	for range tries {
		p := shop.Place{ID: fmt.Sprintf("P%d", i), Kind: pick(m, some[shop.PlaceKind](keeping.WallField)...), Style: m.word("|cleat|peg|board|screw|studs|magnet|dowel"),
			W: m.mm(50, 2500), H: m.mm(50, 1500), D: m.mm(30, 900), Access: pick(m, some[shop.Access]("")...), Labelled: m.yes(2), Pitch: m.mm(0, 300), Fill: m.rng.Float64()}
		if m.yes(3) {
			p.Capacity = m.kg(200)
		}
		k := keeping.Of(&p)
		k.Furnish(&p, func(least, most length.Length) length.Length { return m.mm(least.MM(), most.MM()) })
		if k.Boarded() && m.yes(2) {
			p.Board = &shop.Board{Wood: m.word("stud|red-oak|white-pine|plywood|mdf|osb"), T: m.mm(3, 60), Strip: m.mm(0, 100)}
		}
		if m.yes(3) {
			p.Fixing = &shop.Fixing{Screws: m.rng.IntN(12), D: m.mm(0, 12), Thread: m.mm(0, 100), Side: m.mm(0, 60), Lever: m.mm(0, 2000)}
		}
		if len(m.s.Modes) > 0 && m.yes(5) {
			p.When = []string{m.s.Modes[0].ID}
		}
		p.At = m.at(p.W, p.H, p.D)
		if m.try(func() { m.s.Places = append(m.s.Places, p) }, func() { m.s.Places = m.s.Places[:len(m.s.Places)-1] }) {
			return
		}
	}
}

// onPlaces puts some containers on places, as totes on a deck.
func (m *maker) onPlaces() {
	for i := range m.s.Containers {
		c := &m.s.Containers[i]
		if len(m.s.Places) == 0 || !m.yes(3) {
			continue
		}
		p := &m.s.Places[m.rng.IntN(len(m.s.Places))]
		was := c.At
		m.try(func() {
			c.At = shop.At{In: p.ID, X: m.mm(0, max(0, (p.W-c.W).MM())), Y: m.mm(0, max(0, (p.D-c.D).MM()))}
		}, func() { c.At = was })
	}
}

func (m *maker) item(i int) {
	it := shop.Item{ID: fmt.Sprintf("i%d", i), Name: m.word("Plane|Saw|Clamp|Varnish|Charger|Step stool|Plank|Sheet|First-aid box|Dust mask|Thing") + fmt.Sprintf(" %d", i), Kind: m.word("|plane|saw|f-clamp|bottle|box|board|sheet"),
		W: m.mm(1, 1500), H: m.mm(1, 1200), D: m.mm(1, 600), Count: m.rng.IntN(13) * m.rng.IntN(2), Hold: few[shop.Hold](m),
		UsesPerWeek: 6 * m.rng.Float64() * m.rng.Float64(), Flags: few[shop.Flag](m), Family: m.word("||planes|saws"),
		Realm: m.word("|shop|household"), Status: m.word("|||owned|wished|limbo"), Assumed: m.words("w|h|d|kg|uses_per_week"), Keep: m.yes(5), Twins: m.rng.IntN(3) * m.rng.IntN(2)}
	if m.yes(3) { // most things are small
		it.W, it.H, it.D = m.mm(1, 300), m.mm(1, 300), m.mm(1, 200)
	}
	if !m.yes(4) {
		it.KG = m.kg(40)
	}
	if m.yes(3) {
		it.Flat = &shop.Size{W: it.H, H: it.D, D: it.W}
	}
	if m.yes(4) {
		it.Clearance = ptr(m.mm(0, 80))
	}
	if m.yes(4) {
		it.Turn = ptr(m.yes(2))
	}
	for _, st := range m.s.Stations {
		if m.yes(3) {
			it.UsedAt = append(it.UsedAt, st.ID)
		}
	}
	if n := len(m.s.Settings.People); n > 0 && m.yes(3) {
		it.Whose = m.s.Settings.People[m.rng.IntN(n)].ID
	}
	if n := len(m.s.Places); n > 0 && m.yes(6) {
		it.Lies = m.s.Places[m.rng.IntN(n)].ID
	}
	m.s.Items = append(m.s.Items, it)
}

func (m *maker) homes() {
	for i := range m.s.Items {
		it := &m.s.Items[i]
		for range tries {
			if len(m.s.Places) == 0 {
				return
			}
			p := &m.s.Places[m.rng.IntN(len(m.s.Places))]
			h := shop.Home{Item: it.ID, Place: p.ID, X: m.mm(0, p.W.MM()), Y: m.mm(0, p.D.MM()), Z: m.mm(0, p.H.MM()), Rot: pick(m, 0, 0, 90), Row: m.rng.IntN(2), Slot: m.rng.IntN(3), Level: m.rng.IntN(2),
				Cols: m.rng.IntN(3), Locked: m.yes(6)}
			if it.Number() > 1 && m.yes(2) {
				h.N = 1 + m.rng.IntN(it.Number())
			}
			if p.Takes(it) && m.try(func() { m.s.Homes = append(m.s.Homes, h) }, func() { m.s.Homes = m.s.Homes[:len(m.s.Homes)-1] }) {
				break
			}
		}
	}
}

// kits are of some of the things, and of what is gone since.
func (m *maker) kits() {
	for i := range m.rng.IntN(3) {
		k := shop.Kit{ID: fmt.Sprintf("kit-%d", i), Name: m.word("Outdoors|Carving|Glue-up") + fmt.Sprintf(" %d", i), Notes: m.word("|mind the edges")}
		for j := range m.s.Items {
			if m.yes(3) {
				k.Items = append(k.Items, shop.KitItem{Item: m.s.Items[j].ID, N: m.rng.IntN(3)})
			}
		}
		if m.yes(3) {
			k.Items = append(k.Items, shop.KitItem{Item: "gone"})
		}
		for j := range m.s.Stations {
			if m.yes(2) {
				k.Drops = append(k.Drops, m.s.Stations[j].ID)
			}
		}
		m.s.Kits = append(m.s.Kits, k)
	}
	for j := range m.s.Places {
		m.s.Places[j].Order = pick(m, "", "", shop.ByUse, shop.ByName, shop.BySize, shop.ByKind)
	}
	for j := range m.s.Items {
		it := &m.s.Items[j]
		if m.yes(6) {
			it.With = append(it.With, m.s.Items[m.rng.IntN(len(m.s.Items))].ID)
		}
		it.SetUp, it.Due = m.word("|||3 mm shim at the left"), m.word("|||2027-05-31")
		if j%8 == 3 { // by its number, so that the shops of a seed stay otherwise as they are
			it.Wood = &shop.Wood{Of: []string{"", "larch", "ash", "plywood"}[j/8%4], Form: []string{"board", "sheet", "offcut"}[j/8%3], Across: j%3 == 0, About: j%5 == 0, Flaws: []string{"", "a knot"}[j/8%2], Moisture: float64(j % 30), Came: []string{"", "2026-05-31"}[j/8%2], Price: float64(j%40) / 2, Salvaged: j%7 == 0}
		}
	}
}

// targets are plans that are kept: of some of the homes, with storage or without, of things and places that may be gone.
func (m *maker) targets() {
	for i := range m.rng.IntN(3) {
		t := shop.Target{ID: fmt.Sprintf("t%d", i), Name: fmt.Sprintf("Plan %d", i), Note: m.word("|because"), Judge: m.word("|2027-05-31"), Made: m.word("|2026-05-31")}
		for _, h := range m.s.Homes {
			if !m.yes(3) {
				t.Homes = append(t.Homes, h)
			}
		}
		if m.yes(3) {
			t.Homes = append(t.Homes, shop.Home{Item: "gone", Place: "P0"})
		}
		if t.Storage = m.yes(3); t.Storage {
			t.Places, t.Containers = m.s.Places, m.s.Containers
		}
		for _, st := range m.s.Stations {
			if m.yes(4) {
				t.Stations = append(t.Stations, shop.StationTarget{ID: st.ID, X: st.X + 1000, Y: st.Y, Rot: st.Rot, Stand: st.Stand})
			}
		}
		if len(m.s.Items) > 0 && m.yes(3) {
			t.Left = []shop.Left{{Item: m.s.Items[0].ID, Why: m.word("|it broke")}}
			t.Aside = []shop.Aside{{Item: m.s.Items[0].ID, N: m.rng.IntN(3), On: "the bench"}}
		}
		m.s.Targets = append(m.s.Targets, t)
		if m.yes(3) {
			m.s.Settings.Target = t.ID
		}
	}
}

// spots of the modes.
func (m *maker) spots() {
	for i := range m.s.Modes {
		spots := map[string]shop.Standing{}
		somewhere := func(id string) {
			if m.yes(2) {
				return
			}
			_, _, p := m.anywhere()
			spots[id] = pick(m, shop.Standing{State: "folded"}, shop.Standing{State: "hoisted"}, shop.Standing{State: "outdoors"}, shop.Standing{State: "away"}, shop.Standing{Floor: p, Rot: m.rot()})
		}
		for _, x := range m.s.Stations {
			somewhere(x.ID)
		}
		for _, x := range m.s.Containers {
			somewhere(x.ID)
		}
		if len(spots) > 0 {
			m.s.Modes[i].Spots = spots
		}
	}
}
