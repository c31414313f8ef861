package supply

import (
	"cmp"
	"fmt"
	"math"
	"slices"

	"hobrak/internal/core/flow"
	"hobrak/internal/core/geometry"
	"hobrak/internal/core/served"
	"hobrak/internal/core/shop"
	"hobrak/internal/core/walk"
)

// Room is what a room supplies in one mode, and where it reaches.
type Room struct {
	Mode     string       `json:"mode" doc:"id; empty as it stands"`
	Name     string       `json:"name"`
	Plan     Drawn        `json:"plan"`
	Plugs    []Plug       `json:"plugs" nullable:"false" doc:"of each machine that draws current"`
	Loads    []Load       `json:"loads" nullable:"false" doc:"of each circuit and set that runs together, the fullest first"`
	Outlets  []OutletLoad `json:"outlets" nullable:"false"`
	Runs     []Run        `json:"runs" nullable:"false" doc:"of each machine that makes dust, those first that make most of it"`
	Ways     []DustWay    `json:"ways" nullable:"false" doc:"ways to get extraction to them, compared"`
	Air      Changes      `json:"air"`
	Lit      []Lit        `json:"lit" nullable:"false" doc:"of each station somebody works at"`
	Lamp     *NewLamp     `json:"lamp,omitempty" doc:"where a lamp more brings most; none where all have enough"`
	Rehang   []Hang       `json:"rehang" nullable:"false" doc:"lamps that would bring more elsewhere, each with those before it there"`
	Paint    float64      `json:"paint" doc:"lx everywhere that pale paint would bring; 0 where it is pale"`
	Heard    []Heard      `json:"heard" nullable:"false"`
	Strips   []StripLoad  `json:"strips" nullable:"false"`
	Reached  []Reached    `json:"reached" nullable:"false" doc:"compressed air, water and network, to each station that wants them"`
	Breaths  []Breath     `json:"breaths" nullable:"false" doc:"stations that make dust or fumes, or want clean air"`
	Controls []Controlled `json:"controls" nullable:"false"`
	Starting []Starting   `json:"starting" nullable:"false" doc:"machines from which one walks to the extractor, those first where most walking goes"`
	Cleaner  *Cleaner     `json:"cleaner,omitempty" doc:"where an air cleaner would hang best; none where one is, or where no head room is"`
	Sights   []Sight      `json:"sights" nullable:"false"`
	Unsure   []Unsure     `json:"unsure" nullable:"false" doc:"what is missing on record, and what is taken meanwhile"`
	Wanted   []Wanted     `json:"wanted" nullable:"false" doc:"to hand to an electrician: what is wanted, not how it is made"`
	Cautions []Caution    `json:"cautions" nullable:"false"`
}

// Drawn is the plan it is drawn on, mm.
type Drawn struct {
	Outline  [][2]float64 `json:"outline" nullable:"false"`
	Stations []DrawnShape `json:"stations" nullable:"false"`
	Outlets  []DrawnShape `json:"outlets" nullable:"false" doc:"a point each"`
	Lamps    []DrawnShape `json:"lamps" nullable:"false" doc:"a point each"`
}

// DrawnShape is something on the plan.
type DrawnShape struct {
	ID     string       `json:"id"`
	Name   string       `json:"name"`
	Points [][2]float64 `json:"points" nullable:"false"`
}

// Caution is a rule that is not met, with what to do.
type Caution struct {
	Code string `json:"code" doc:"kind of it, as overload or short-cord"`
	On   string `json:"on" doc:"id of what it is about"`
	Says string `json:"says"`
	Do   string `json:"do"`
}

// Of a room in a mode; as it stands when none is named. The error says which area or mode there is not.
func Of(s *shop.Shop, area, mode string) (*Room, error) {
	in := s
	name := ""
	if mode != "" {
		var err error
		if in, err = s.InMode(mode); err != nil {
			return nil, err
		}
		for i := range s.Modes {
			if s.Modes[i].ID == mode {
				name = s.Modes[i].Name
			}
		}
	}
	ix := shop.NewIndex(in)
	a := ix.Area(area)
	if a == nil {
		return nil, fmt.Errorf("there is no area %q", area)
	}
	w := newWorker(in, ix, a)
	w.out.Mode, w.out.Name = mode, name
	w.drawn()
	w.plugs()
	w.loads()
	w.sockets()
	w.wishes()
	w.strips()
	w.dust()
	w.emptying()
	w.air()
	w.pipes()
	w.breaths()
	w.cleaner()
	w.light()
	w.noise()
	w.heat()
	w.panel()
	w.controls()
	w.sights()
	w.mats()
	w.care()
	w.doubts()
	slices.SortStableFunc(w.out.Cautions, func(a, b Caution) int { return order(a.Code) - order(b.Code) })
	return w.out, nil
}

// codes of cautions, the gravest first.
var codes = []string{"stop", "overload", "strip", "flame", "fumes", "sparks", "charging", "guard", "heat", "heater", "panel", "chained", "reel", "aid", "boxed", "crossing", "hose-across", "hidden", "short-cord", "no-outlet", "long-cord", "start",
	"no-extraction", "fine-dust", "far-hose", "loud", "quiet", "meet", "down-wind", "emptying", "no-air", "no-water", "no-drain", "no-network", "short-hose", "control", "sight", "mat", "dark"}

// Codes of cautions, the gravest first.
func Codes() []string { return slices.Clone(codes) }

func order(code string) int {
	if k := slices.Index(codes, code); k >= 0 {
		return k
	}
	return len(codes)
}

// worker works a room out.
type worker struct {
	s     *shop.Shop
	ix    *shop.Index
	area  *shop.Area
	out   *Room
	here  []*shop.Station // that stand in it now
	feet  []geometry.Polygon
	boxes [][2]geometry.Point // round them
	ways  [][2]geometry.Point // pieces of what is walked

	floor  *walk.Floor
	edges  [][]*walk.Goal // spots round each station
	starts map[geometry.Point]*walk.Ways
	cases  []standing // containers on the floor

	outlets []served.Outlet
	sets    []set // that run together
	left    bool  // whoever works there works with the left hand
}

// standing is what stands on the floor and is no station.
type standing struct {
	name string
	box  [2]geometry.Point
	foot geometry.Polygon
	high float64 // mm
}

func boxOf(g geometry.Polygon) [2]geometry.Point {
	low, high := g.Bounds()
	return [2]geometry.Point{low, high}
}

// thin is what a cord or hose keeps from what stands there, mm: it lies against it.
const thin = 15.0

func newWorker(s *shop.Shop, ix *shop.Index, a *shop.Area) *worker {
	w := &worker{s: s, ix: ix, area: a, starts: map[geometry.Point]*walk.Ways{}}
	w.out = &Room{Plugs: []Plug{}, Loads: []Load{}, Outlets: []OutletLoad{}, Runs: []Run{}, Ways: []DustWay{}, Lit: []Lit{}, Rehang: []Hang{}, Heard: []Heard{}, Strips: []StripLoad{}, Reached: []Reached{}, Breaths: []Breath{},
		Controls: []Controlled{}, Starting: []Starting{}, Sights: []Sight{}, Unsure: []Unsure{}, Wanted: []Wanted{}, Cautions: []Caution{}}
	for _, p := range s.Settings.People { // by most of those who work there
		if !p.Child {
			w.left = p.LeftHanded
			break
		}
	}
	for i := range s.Stations {
		if st := &s.Stations[i]; ix.Area(st.Area) == a && st.Wished == "" {
			w.here = append(w.here, st)
			w.feet = append(w.feet, st.Footprint())
			w.boxes = append(w.boxes, boxOf(w.feet[len(w.feet)-1]))
		}
	}
	w.ground()
	w.outlets = served.Outlets(a)
	w.sets = w.together()
	for _, f := range flow.Of(s, a) {
		for _, l := range f.Legs {
			for k := 1; k < len(l.Path); k++ {
				w.ways = append(w.ways, [2]geometry.Point{{X: l.Path[k-1][0], Y: l.Path[k-1][1]}, {X: l.Path[k][0], Y: l.Path[k][1]}})
			}
		}
	}
	return w
}

func (w *worker) caution(code, on, says, do string) {
	w.out.Cautions = append(w.out.Cautions, Caution{code, on, says, do})
}

// bare tells whether a station stands on legs, so that a cord goes under it.
func bare(st *shop.Station) bool { return st.Kind.Bench() }

// ground is the floor on which cords and hoses run: round the feet of what stands there, under what stands on legs; and round each
// station the spots at which one comes to it.
func (w *worker) ground() {
	var solid []geometry.Polygon
	for i, o := range w.here {
		if !bare(o) {
			solid = append(solid, w.feet[i])
		}
	}
	for i := range w.s.Containers {
		c := &w.s.Containers[i]
		if c.At.Floor != nil && w.ix.Area(c.Area) == w.area {
			foot := geometry.Rectangle(c.At.Floor[0].MM(), c.At.Floor[1].MM(), c.W.MM(), c.D.MM(), c.At.Rot)
			solid = append(solid, foot)
			w.cases = append(w.cases, standing{w.ix.Name(c.ID), boxOf(foot), foot, c.H.MM()})
		}
	}
	w.floor = walk.NewFloor(w.area.Outline(), solid, thin)
	w.edges = make([][]*walk.Goal, len(w.here))
	for i, foot := range w.feet {
		mid := w.mid(i)
		for k := range foot {
			e := foot.Edge(k)
			for _, p := range []geometry.Point{e.A, e.A.Add(e.B).Mul(.5)} {
				out := p.Sub(mid)
				p = p.Add(out.Mul((thin*1.6 + 2) / max(1, out.Norm())))
				if w.floor.Free(p) {
					w.edges[i] = append(w.edges[i], w.floor.Goal(p))
				}
			}
		}
	}
}

// from are the ways of a cord from a point, worked out once.
func (w *worker) from(p geometry.Point) *walk.Ways {
	if w.starts[p] == nil {
		w.starts[p] = w.floor.From(p)
	}
	return w.starts[p]
}

// lead is a cord or hose along the floor from a point to a station: its path up to the station's edge.
func (w *worker) lead(from geometry.Point, i int) (path []geometry.Point, long float64, ok bool) {
	foot := w.feet[i]
	if foot.Contains(from) {
		return []geometry.Point{from}, 0, true
	}
	if d := foot.Distance(from); d < 2*thin { // it stands before it
		return []geometry.Point{from, nearest(foot, from)}, d, true
	}
	ways := w.from(from)
	long = math.Inf(1)
	var best *walk.Goal
	near := slices.Clone(w.edges[i]) // a way is never shorter than the straight line
	slices.SortStableFunc(near, func(a, b *walk.Goal) int { return cmp.Compare(a.At.Distance(from), b.At.Distance(from)) })
	for _, g := range near {
		if g.At.Distance(from) >= long {
			break
		}
		if d := ways.Length(g); d < long {
			long, best = d, g
		}
	}
	if best == nil {
		return nil, 0, false
	}
	p, ok := ways.To(best.At)
	if !ok {
		return nil, 0, false
	}
	path = p.Points
	if len(path) == 0 || path[0] != from {
		path = append([]geometry.Point{from}, path...)
	}
	// And the last step up to it.
	path = append(path, nearest(foot, path[len(path)-1]))
	long = 0
	for k := 1; k < len(path); k++ {
		long += path[k-1].Distance(path[k])
	}
	return path, long, true
}

// nearest point of a footprint's edge.
func nearest(foot geometry.Polygon, to geometry.Point) (out geometry.Point) {
	step := math.Inf(1)
	for k := range foot {
		if q := foot.Edge(k).Nearest(to); q.Distance(to) < step {
			step, out = q.Distance(to), q
		}
	}
	return out
}

// atWall is how near to a wall nobody walks, mm.
const atWall = 250.0

// crossed are the spots at which a cord on the floor crosses ways; along a wall it crosses none.
func (w *worker) crossed(path []geometry.Point) (at []geometry.Point) {
	outline := w.area.Outline()
	for k := 1; k < len(path); k++ {
		e := geometry.Segment{A: path[k-1], B: path[k]}
		if outline.Distance(e.A.Add(e.B).Mul(.5)) < atWall {
			continue
		}
		for _, way := range w.ways {
			o := geometry.Segment{A: way[0], B: way[1]}
			if !e.Crosses(o) {
				continue
			}
			// Ways that run in the same step cross once.
			d := e.B.Sub(e.A)
			den := d.Cross(o.B.Sub(o.A))
			p := e.A
			if math.Abs(den) > 1e-9 {
				p = e.A.Add(d.Mul(o.A.Sub(e.A).Cross(o.B.Sub(o.A)) / den))
			}
			if !slices.ContainsFunc(at, func(q geometry.Point) bool { return q.Distance(p) < 600 }) {
				at = append(at, p)
			}
		}
	}
	return at
}

// mid is the middle of a station.
func (w *worker) mid(i int) geometry.Point { return w.feet[i][0].Add(w.feet[i][2]).Mul(.5) }

// girth is the length of all walls, mm.
func (w *worker) girth() (sum float64) {
	g := w.area.Outline()
	for i := range g {
		sum += g.Edge(i).A.Distance(g.Edge(i).B)
	}
	return sum
}

// high is the mean height of the walls, mm.
func (w *worker) high() float64 {
	sum, long := 0.0, 0.0
	for i := range w.area.Walls {
		p := w.area.Walls[i].Profile
		for k := 1; k < len(p); k++ {
			dx := (p[k][0] - p[k-1][0]).MM()
			sum += dx * (p[k][1] + p[k-1][1]).MM() / 2
			long += dx
		}
	}
	return sum / max(1, long)
}

func (w *worker) drawn() {
	p := Drawn{Outline: [][2]float64{}, Stations: []DrawnShape{}, Outlets: []DrawnShape{}, Lamps: []DrawnShape{}}
	ring := func(g geometry.Polygon) [][2]float64 {
		out := make([][2]float64, len(g))
		for i := range g {
			out[i] = [2]float64{g[i].X, g[i].Y}
		}
		return out
	}
	p.Outline = ring(w.area.Outline())
	for i, st := range w.here {
		p.Stations = append(p.Stations, DrawnShape{st.ID, st.Name, ring(w.feet[i])})
	}
	for _, o := range w.outlets {
		p.Outlets = append(p.Outlets, DrawnShape{o.F.ID, o.Called(), [][2]float64{{o.At.X, o.At.Y}}})
	}
	if w.area.Ceiling != nil {
		for _, f := range w.area.Ceiling.Features {
			if f.Kind == "light" {
				p.Lamps = append(p.Lamps, DrawnShape{f.ID, "lamp " + f.ID, [][2]float64{{(f.X + f.W/2).MM(), (f.Y + f.D/2).MM()}}})
			}
		}
	}
	w.out.Plan = p
}

func points(list []geometry.Point) [][2]float64 {
	out := make([][2]float64, len(list))
	for i, p := range list {
		out[i] = [2]float64{p.X, p.Y}
	}
	return out
}
