// Package passage answers whether a board, a sheet or a cabinet can be brought
// into a room, turned in it and stood up: before it is bought, and before a
// layout is settled. Lengths are millimetres.
package passage

import (
	"fmt"
	"math"
	"slices"

	"hobrak/internal/core/access"
	"hobrak/internal/core/free"
	"hobrak/internal/core/geometry"
	"hobrak/internal/core/length"
	"hobrak/internal/core/shop"
)

// StandUpHeight is how high a piece of that length and thickness reaches while
// it is stood up on one edge: √(L²+t²).
func StandUpHeight(long, thick float64) float64 { return math.Hypot(long, thick) }

// RoundCorner is the longest board of some width that can be carried level
// round a square corner between ways of clear widths a and b:
// (a^⅔ + b^⅔)^{3/2} less the board's width (the ladder round a corner).
func RoundCorner(a, b, wide float64) float64 {
	return max(0, math.Pow(math.Cbrt(a*a)+math.Cbrt(b*b), 1.5)-wide)
}

// Passes tells whether a cross-section p by q goes through an opening w by h,
// tilted if need be (Carver, Solution of problem E 1225, Amer. Math. Monthly 64, 1957).
func Passes(p, q, w, h float64) bool {
	if p < q {
		p, q = q, p
	}
	a, b := max(w, h), min(w, h)
	if p <= a && q <= b {
		return true
	}
	return q <= b && p > a && b >= (2*p*q*a+(p*p-q*q)*math.Sqrt(p*p+q*q-a*a))/(p*p+q*q)
}

// Piece is a board, sheet or cabinet; its sides may be given in any order.
type Piece struct{ A, B, C float64 }

// sides from the longest to the shortest.
func (p Piece) sides() (long, wide, thick float64) {
	s := []float64{p.A, p.B, p.C}
	slices.Sort(s)
	return s[2], s[1], s[0]
}

// Verdict on one thing one does with a piece.
type Verdict struct {
	What  string  `json:"what" enum:"come-in,turn,stand-up"`
	Fits  bool    `json:"fits"`
	Needs float64 `json:"needs" doc:"mm of length, disc or height"`
	Has   float64 `json:"has" doc:"the most there is"`
	X     float64 `json:"x" doc:"the best spot on the floor"`
	Y     float64 `json:"y"`
	By    string  `json:"by" doc:"id of what limits it; empty when it fits"`
	Says  string  `json:"says"`
}

// Figures of a room.
type Figures struct {
	Board  Figure   `json:"board" doc:"longest board, 25 mm thick and 200 wide"`
	Sheet  Figure   `json:"sheet" doc:"biggest sheet twice as long as wide, 18 mm thick"`
	Common []Common `json:"common" nullable:"false" doc:"sheets one buys"`
}

// Figure is the largest piece with what limits each step, mm.
type Figure struct {
	Longest float64 `json:"longest"`
	ComeIn  float64 `json:"come_in"`
	Turn    float64 `json:"turn"`
	StandUp float64 `json:"stand_up"`
	By      string  `json:"by" doc:"the step that limits it"`
}

// Common is a sheet as it is sold.
type Common struct {
	W    float64 `json:"w"`
	H    float64 `json:"h"`
	Fits bool    `json:"fits"`
	Why  string  `json:"why"`
}

// Heights at which things are carried, mm (estimates): a board at the hip, a
// sheet or cabinet near the floor.
const (
	carryHigh = 1000.0
	carryLow  = 300.0
	narrow    = 300.0 // up to this width a piece is carried high
)

// step of the grid that is searched, mm.
const step = 100.0

// Room is one area ready for questions, one at a time.
type Room struct {
	discs   map[string]disc // by what is in the way
	area    *shop.Area
	outline geometry.Polygon
	things  []thing
	doors   []door
	low     geometry.Point
	cols    int
	rows    int
	over    []float64 // lowest thing above each square, or its ceiling
	overBy  []string
	high    []float64 // highest thing standing on each square, infinite outside
}

type thing struct {
	id, name string
	foot     geometry.Polygon
	from, to float64
}

type door struct {
	feature *shop.Feature
	wall    int
}

// NewRoom makes a room of an area of a mapped shop.
func NewRoom(m *access.Map, a *shop.Area) *Room {
	r := &Room{discs: map[string]disc{}, area: a, outline: a.Outline()}
	for _, t := range access.StandingIn(m.Shop, m.Index, a) {
		r.things = append(r.things, thing{t.ID, m.Index.Name(t.ID), t.Footprint, 0, t.Height})
	}
	for _, h := range access.HangingIn(m.Shop, m.Index, a) {
		r.things = append(r.things, thing{h.ID, m.Index.Name(h.ID), h.Footprint, h.From, h.To})
	}
	roof := free.NewRoof(a)
	if a.Ceiling != nil {
		for _, f := range a.Ceiling.Features {
			g := geometry.Rectangle(f.X.MM(), f.Y.MM(), f.W.MM(), f.D.MM(), 0)
			r.things = append(r.things, thing{f.ID, "the " + f.Kind, g, roof.At(g[0].Add(g[2]).Mul(.5)) - f.Drop.MM(), math.Inf(1)})
		}
	}
	for i := range a.Walls {
		for k := range a.Walls[i].Features {
			if f := &a.Walls[i].Features[k]; f.Kind.Passage() {
				r.doors = append(r.doors, door{f, i})
			}
		}
	}
	r.grid(roof)
	return r
}

// grid notes for each square of the floor what stands on it and hangs over it.
func (r *Room) grid(roof free.Roof) {
	low, high := r.outline.Bounds()
	r.low = low
	r.cols, r.rows = int((high.X-low.X)/step)+1, int((high.Y-low.Y)/step)+1
	n := r.cols * r.rows
	r.over, r.overBy, r.high = make([]float64, n), make([]string, n), make([]float64, n)
	for i := range n {
		p := r.middle(i)
		if !r.outline.Contains(p) {
			r.high[i] = math.Inf(1)
			continue
		}
		r.over[i] = roof.At(p)
	}
	for _, t := range r.things {
		lo, hi := t.foot.Bounds()
		for c := max(0, int((lo.X-low.X)/step)-1); c < r.cols && low.X+float64(c)*step < hi.X; c++ {
			for k := max(0, int((lo.Y-low.Y)/step)-1); k < r.rows && low.Y+float64(k)*step < hi.Y; k++ {
				i := k*r.cols + c
				square := geometry.Rectangle(low.X+float64(c)*step, low.Y+float64(k)*step, step, step, 0)
				if !t.foot.Overlaps(square, 1) {
					continue
				}
				if t.from > 0 {
					if t.from < r.over[i] {
						r.over[i], r.overBy[i] = t.from, t.id
					}
				} else {
					r.high[i] = max(r.high[i], t.to)
				}
			}
		}
	}
}

func (r *Room) middle(i int) geometry.Point {
	return geometry.Point{X: r.low.X + (float64(i%r.cols)+.5)*step, Y: r.low.Y + (float64(i/r.cols)+.5)*step}
}

// square of the grid at p, -1 outside.
func (r *Room) square(p geometry.Point) int {
	c, k := int(math.Floor((p.X-r.low.X)/step)), int(math.Floor((p.Y-r.low.Y)/step))
	if c < 0 || k < 0 || c >= r.cols || k >= r.rows {
		return -1
	}
	return k*r.cols + c
}

func (r *Room) say(mm float64) string { return length.Whole(mm) }

// Judge a piece: may it come in, be turned and be stood up?
func (r *Room) Judge(p Piece) []Verdict {
	return []Verdict{r.comeIn(p), r.turn(p), r.standUp(p)}
}

// carried is the height at which a piece is carried.
func carried(wide float64) float64 {
	if wide <= narrow {
		return carryHigh
	}
	return carryLow
}

// inTheWay are the things that a piece carried at a height meets.
func (r *Room) inTheWay(at, wide float64) []thing {
	var out []thing
	for _, t := range r.things {
		if t.to > at && t.from < at+max(100, wide) {
			out = append(out, t)
		}
	}
	return out
}

// comeIn looks at every door: does the cross-section pass, and is there room
// behind it for the length, straight in or at an angle? Outside is taken as free.
func (r *Room) comeIn(p Piece) Verdict {
	long, wide, thick := p.sides()
	v := Verdict{What: "come-in", Needs: long}
	why := "there is no door"
	way := r.inTheWay(carried(wide), wide)
	for _, d := range r.doors {
		name := d.feature.Called()
		w, h := d.feature.W.MM(), d.feature.H.MM()
		if !Passes(wide, thick, w, h) {
			if v.Has == 0 {
				why, v.By = fmt.Sprintf("%s × %s does not pass the %s, %s × %s clear, not even tilted (diagonal %s)", r.say(wide), r.say(thick), name, r.say(w), r.say(h), r.say(math.Hypot(w, h))), d.feature.ID
			}
			continue
		}
		run, at, by := r.run(d, way, min(thick, wide))
		if run > v.Has {
			v.Has, v.X, v.Y = run, at.X, at.Y
			why, v.By = fmt.Sprintf("through the %s there are %s up to %s", name, r.say(run), by.name), by.id
		}
	}
	v.Fits = v.Has >= long
	if v.Fits {
		v.By, v.Says = "", fmt.Sprintf("comes in: %s of room behind the door for %s", r.say(v.Has), r.say(long))
	} else {
		v.Says = "does not come in: " + why
	}
	return v
}

// run is the longest straight line from a door into the room that stays clear
// of what is in the way by half the breadth of the piece.
func (r *Room) run(d door, way []thing, broad float64) (best float64, from geometry.Point, by thing) {
	f := r.area.Frame(d.wall)
	half := broad/2 + 20
	x0, x1 := d.feature.X.MM()+half, (d.feature.X+d.feature.W).MM()-half
	for s := range 7 {
		o := f.Spot(x0+(x1-x0)*float64(s)/6, 1)
		if x1 <= x0 {
			o = f.Spot((x0+x1)/2, 1)
		}
		for deg := -70.0; deg <= 70; deg += 2.5 {
			u := f.Inward.Turned(deg)
			far, hit := r.ray(o, u, half, d.wall, way)
			if far > best {
				best, from, by = far, o, hit
			}
		}
	}
	return best, from, by
}

// ray is how far one comes from o along u, keeping half to each side.
func (r *Room) ray(o, u geometry.Point, half float64, own int, way []thing) (float64, thing) {
	side := geometry.Point{X: -u.Y, Y: u.X}
	best, by := math.Inf(1), thing{}
	hit := func(e geometry.Segment, t thing) {
		// Nearest point of the segment within the band of the piece, along u.
		a, b := e.A.Sub(o), e.B.Sub(o)
		ax, ay, bx, by2 := a.Dot(u), a.Dot(side), b.Dot(u), b.Dot(side)
		t0, t1 := 0.0, 1.0
		if d := by2 - ay; d == 0 {
			if math.Abs(ay) > half {
				return
			}
		} else {
			p, q := (-half-ay)/d, (half-ay)/d
			t0, t1 = max(t0, min(p, q)), min(t1, max(p, q))
			if t0 > t1 {
				return
			}
		}
		near := min(ax+(bx-ax)*t0, ax+(bx-ax)*t1)
		if far := max(ax+(bx-ax)*t0, ax+(bx-ax)*t1); far <= 0 {
			return
		}
		if near = max(0, near); near < best {
			best, by = near, t
		}
	}
	for i := range r.outline {
		if i != own {
			hit(r.outline.Edge(i), thing{id: r.area.Walls[i].ID, name: "wall " + r.area.Walls[i].ID})
		}
	}
	for _, t := range way {
		for i := range t.foot {
			hit(t.foot.Edge(i), t)
		}
	}
	if math.IsInf(best, 1) {
		best = 0
	}
	return best, by
}

// turn looks for the largest free disc at the height the piece is carried.
func (r *Room) turn(p Piece) Verdict {
	long, wide, thick := p.sides()
	broad := thick
	if wide <= narrow {
		broad = wide
	}
	v := Verdict{What: "turn", Needs: math.Hypot(long, broad)}
	d := r.disc(r.inTheWay(carried(wide), wide))
	v.Has, v.X, v.Y = 2*d.radius, d.at.X, d.at.Y
	v.Fits = v.Has >= v.Needs
	if v.Fits {
		v.Says = fmt.Sprintf("turns: a free disc of %s for %s", r.say(v.Has), r.say(v.Needs))
	} else {
		v.By = d.by.id
		v.Says = fmt.Sprintf("cannot be turned level: it sweeps %s and the largest free disc is %s, at %s", r.say(v.Needs), r.say(v.Has), d.by.name)
	}
	return v
}

// disc that is free, and what it touches.
type disc struct {
	radius float64
	at     geometry.Point
	by     thing
}

// disc is the largest free one, remembered by what is in the way.
func (r *Room) disc(way []thing) disc {
	key := ""
	for _, t := range way {
		key += t.id + " "
	}
	d, ok := r.discs[key]
	if !ok {
		d = r.largestDisc(way)
		r.discs[key] = d
	}
	return d
}

// largestDisc takes the best square of the grid, then smaller steps.
func (r *Room) largestDisc(way []thing) disc {
	var radius float64
	var at geometry.Point
	var by thing
	clear := func(p geometry.Point) (float64, thing) {
		if !r.outline.Contains(p) {
			return 0, thing{}
		}
		best, by := math.Inf(1), thing{}
		for i := range r.outline {
			if d := r.outline.Edge(i).Distance(p); d < best {
				best, by = d, thing{id: r.area.Walls[i].ID, name: "wall " + r.area.Walls[i].ID}
			}
		}
		for _, t := range way {
			if d := t.foot.Distance(p); t.foot.Contains(p) {
				return 0, t
			} else if d < best {
				best, by = d, t
			}
		}
		return best, by
	}
	for i := range r.over {
		p := r.middle(i)
		if d, b := clear(p); d > radius {
			radius, at, by = d, p, b
		}
	}
	for size := step / 2; size > .5; size /= 2 {
		for moved := true; moved; {
			moved = false
			for _, u := range []geometry.Point{{X: 1}, {X: -1}, {Y: 1}, {Y: -1}, {X: 1, Y: 1}, {X: -1, Y: -1}, {X: 1, Y: -1}, {X: -1, Y: 1}} {
				p := at.Add(u.Mul(size))
				if d, b := clear(p); d > radius+1e-6 {
					radius, at, by, moved = d, p, b, true
				}
			}
		}
	}
	return disc{radius, at, by}
}

// standUp looks for a spot and a direction in which the piece can be raised on
// its end: over every spot of the sweep the ceiling and what hangs there is
// higher than the edge gets, √(L²+t²−s²) at distance s from the foot.
func (r *Room) standUp(p Piece) Verdict {
	long, wide, thick := p.sides()
	v := Verdict{What: "stand-up", Needs: StandUpHeight(long, thick)}
	short, where, by := r.raise(long, wide, thick)
	v.X, v.Y = where.X, where.Y
	v.Has = v.Needs - short
	v.Fits = short <= 0
	name := "the ceiling"
	if by != "" {
		for _, t := range r.things {
			if t.id == by {
				name = t.name
			}
		}
	}
	switch {
	case v.Fits:
		v.Has = v.Needs
		v.Says = fmt.Sprintf("stands up: it reaches %s on the way", r.say(v.Needs))
	case math.IsInf(short, 1):
		v.Has, v.Says = 0, "cannot be stood up: nowhere is floor enough for its sweep"
	default:
		v.By = by
		v.Says = fmt.Sprintf("cannot be stood up: it reaches %s on the way, and at the best spot %s is %s too low", r.say(v.Needs), name, r.say(short))
	}
	return v
}

// raise gives by how much the best spot is too low, 0 or less when one fits.
func (r *Room) raise(long, wide, thick float64) (short float64, where geometry.Point, by string) {
	short = math.Inf(1)
	diagonal := long*long + thick*thick
	sides := []float64{0}
	if wide > step {
		for x := step / 2; x < wide/2; x += step {
			sides = append(sides, x, -x)
		}
		sides = append(sides, wide/2, -wide/2)
	}
	for i := range r.over {
		if r.high[i] > 0 || (i%r.cols+i/r.cols)%2 == 1 {
			continue
		}
		foot := r.middle(i)
		for deg := 0; deg < 360; deg += 45 {
			u := geometry.Point{X: 1}.Turned(float64(deg))
			n := geometry.Point{X: -u.Y, Y: u.X}
			worst, what := math.Inf(-1), ""
			for s := 0.0; s < long && worst < short; s += step {
				z := math.Sqrt(diagonal - s*s)
				for _, x := range sides {
					k := r.square(foot.Add(u.Mul(s)).Add(n.Mul(x)))
					// Over a bench it is raised, too; not through what is higher than it is carried.
					if k < 0 || r.high[k] > carryHigh || s == 0 && r.high[k] > 0 {
						worst = math.Inf(1)
						break
					}
					if d := z - r.over[k]; d > worst {
						worst, what = d, r.overBy[k]
					}
				}
			}
			if worst < short {
				short, where, by = worst, foot, what
				if short <= 0 {
					return short, where, by
				}
			}
		}
	}
	return short, where, by
}

// Figures of the room: the longest board and the biggest sheet that can be
// brought in, turned and stood up.
func (r *Room) Figures() Figures {
	board := func(long float64) Piece { return Piece{long, 200, 25} }
	sheet := func(long float64) Piece { return Piece{long, long / 2, 18} }
	f := Figures{Board: r.figure(board), Sheet: r.figure(sheet), Common: []Common{}}
	for _, s := range [][2]float64{{2440, 1220}, {2500, 1250}, {1525, 1525}, {1220, 610}} {
		c := Common{W: s[1], H: s[0], Fits: true}
		for _, v := range r.Judge(Piece{s[0], s[1], 18}) {
			if !v.Fits && c.Fits {
				c.Fits, c.Why = false, v.Says
			}
		}
		f.Common = append(f.Common, c)
	}
	return f
}

func (r *Room) figure(of func(long float64) Piece) Figure {
	const most = 12000.0
	largest := func(judge func(Piece) Verdict) float64 {
		low, high := 0.0, most
		for high-low > 5 {
			if mid := (low + high) / 2; judge(of(mid)).Fits {
				low = mid
			} else {
				high = mid
			}
		}
		return math.Floor(low)
	}
	f := Figure{ComeIn: largest(r.comeIn), Turn: largest(r.turn), StandUp: largest(r.standUp)}
	f.Longest, f.By = f.ComeIn, "come-in"
	if f.Turn < f.Longest {
		f.Longest, f.By = f.Turn, "turn"
	}
	if f.StandUp < f.Longest {
		f.Longest, f.By = f.StandUp, "stand-up"
	}
	return f
}
