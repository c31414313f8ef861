package free

import (
	"cmp"
	"math"
	"slices"

	"gonum.org/v1/gonum/mat"

	"hobrak/internal/core/geometry"
	"hobrak/internal/core/shop"
)

// Ceiling of an area with what may hang from it.
type Ceiling struct {
	Area   string         `json:"area"`
	Volume float64        `json:"volume" doc:"m³ that can hold something"`
	Free   float64        `json:"free" doc:"m² with room enough"`
	Shape  string         `json:"shape" enum:"flat,sloped,ridged,lowest" doc:"how its height was found from the walls; lowest: the lowest wall everywhere, to be safe"`
	Cells  []CeilingPatch `json:"cells" nullable:"false"`
	Zones  []Zone         `json:"zones" nullable:"false" doc:"largest first"`
	Note   string         `json:"note"`
	mean   float64        // height, mm
}

// CeilingPatch is a piece of ceiling with one drop.
type CeilingPatch struct {
	X     float64 `json:"x"`
	Y     float64 `json:"y"`
	W     float64 `json:"w"`
	D     float64 `json:"d"`
	Drop  float64 `json:"drop"`
	Limit Limit   `json:"limit"`
}

// Zone is a rectangle under the ceiling that cannot grow.
type Zone struct {
	X      float64   `json:"x"`
	Y      float64   `json:"y"`
	W      float64   `json:"w"`
	D      float64   `json:"d"`
	Drop   float64   `json:"drop" doc:"how far something may hang down all over it"`
	Low    float64   `json:"low" doc:"height of the lowest spot something may reach down to"`
	Volume float64   `json:"volume" doc:"m³"`
	Joists []float64 `json:"joists" nullable:"false" doc:"where the joists over it are, across the way they run; hang only from these"`
	Along  string    `json:"along" doc:"axis the joists run along; empty when they are not known"`
	Limit  Limit     `json:"limit" doc:"what limits the drop"`
}

// MinDrop is the least drop that can hold something, mm.
const MinDrop = 150.0

var drops = []float64{MinDrop, 200, 250, 300, 400, 500, 600, 800, 1000}

// maxZones under one ceiling are listed.
const maxZones = 12

// Roof is the underside of a ceiling: planes of which the lowest counts.
type Roof struct {
	planes []plane
	shape  string
}

// plane z = a + b·x + c·y.
type plane struct{ a, b, c float64 }

func (p plane) at(q geometry.Point) float64 { return p.a + p.b*q.X + p.c*q.Y }

// At is the height of the ceiling over a spot of the floor.
func (r Roof) At(q geometry.Point) float64 {
	z := math.Inf(1)
	for _, p := range r.planes {
		z = min(z, p.at(q))
	}
	return z
}

// Slopes tells whether it is not as high everywhere.
func (r Roof) Slopes() bool { return r.shape == "sloped" || len(r.planes) > 1 }

// Lowest height over a footprint.
func (r Roof) Lowest(g geometry.Polygon) float64 {
	z := math.Inf(1)
	for _, q := range g {
		z = min(z, r.At(q))
	}
	return z
}

// roofFit is how far the walls may be off the planes that are laid over them, mm.
const roofFit = 20.0

type spatial struct {
	geometry.Point
	z float64
}

// NewRoof finds the ceiling from the tops of the walls: one plane if they lie
// in one, two that meet at a ridge between two gables, else the lowest top
// everywhere.
func NewRoof(a *shop.Area) Roof {
	var tops []spatial
	var ridge []spatial
	low := math.Inf(1)
	for i := range a.Walls {
		f := a.Frame(i)
		p := a.Walls[i].Profile
		for k, q := range p {
			s := spatial{f.Spot(q[0].MM(), 0), q[1].MM()}
			tops = append(tops, s)
			low = min(low, s.z)
			if k > 0 && k < len(p)-1 && q[1] > p[k-1][1] && q[1] > p[k+1][1] {
				ridge = append(ridge, s)
			}
		}
	}
	if p, ok := through(tops); ok {
		if math.Abs(p.b)+math.Abs(p.c) < 1e-4 {
			return Roof{[]plane{p}, "flat"}
		}
		return Roof{[]plane{p}, "sloped"}
	}
	if len(ridge) == 2 {
		along := ridge[1].Sub(ridge[0].Point)
		var sides [2][]spatial
		for _, t := range tops {
			switch c := along.Cross(t.Sub(ridge[0].Point)) / along.Norm(); {
			case math.Abs(c) < 1:
				sides[0], sides[1] = append(sides[0], t), append(sides[1], t)
			case c > 0:
				sides[0] = append(sides[0], t)
			default:
				sides[1] = append(sides[1], t)
			}
		}
		p, ok := through(sides[0])
		q, ok2 := through(sides[1])
		if ok && ok2 {
			return Roof{[]plane{p, q}, "ridged"}
		}
	}
	return Roof{[]plane{{a: low}}, "lowest"}
}

// through lays a plane through points by least squares; ok when all are near it.
func through(pts []spatial) (plane, bool) {
	if len(pts) < 3 {
		return plane{}, false
	}
	a, z := mat.NewDense(len(pts), 3, nil), mat.NewVecDense(len(pts), nil)
	for i, p := range pts {
		a.SetRow(i, []float64{1, p.X / 1000, p.Y / 1000})
		z.SetVec(i, p.z)
	}
	var x mat.VecDense
	if err := x.SolveVec(a, z); err != nil {
		return plane{}, false
	}
	p := plane{x.AtVec(0), x.AtVec(1) / 1000, x.AtVec(2) / 1000}
	for _, q := range pts {
		if math.Abs(p.at(q.Point)-q.z) > roofFit {
			return plane{}, false
		}
	}
	return p, true
}

// ceilingStep is the side of the squares a ceiling is looked at in, mm; large
// rooms are looked at in a hundred steps.
const ceilingStep = 100.0

func (f *finder) ceiling() Ceiling {
	out := Ceiling{Area: f.area.ID, Shape: f.roof.shape, Cells: []CeilingPatch{}, Zones: []Zone{},
		Note: "Hang things only from joists and within a rated capacity; have a qualified person judge the structure."}
	low, high := f.outline.Bounds()
	step := max(ceilingStep, math.Ceil(max(high.X-low.X, high.Y-low.Y)/100))
	cols, rows := int((high.X-low.X)/step), int((high.Y-low.Y)/step)
	type square struct {
		drop  float64
		floor float64 // something may reach down to here
		limit Limit
	}
	grid := make([][]square, cols)
	reach := make([]reaching, len(f.boxes))
	for i := range f.boxes {
		reach[i] = reaching{box: &f.boxes[i]}
		reach[i].low, reach[i].high = f.boxes[i].foot.Bounds()
	}
	inside := f.insideSquares(low, step, cols, rows)
	squares := 0.0
	for c := range grid {
		grid[c] = make([]square, rows)
		for r := range grid[c] {
			if !inside[c][r] {
				grid[c][r].limit = Limit{"room", "", "outside the room"}
				continue
			}
			x, y := low.X+float64(c)*step, low.Y+float64(r)*step
			g := geometry.Polygon{{X: x, Y: y}, {X: x + step, Y: y}, {X: x + step, Y: y + step}, {X: x, Y: y + step}}
			top := f.roof.Lowest(g)
			out.mean += f.roof.At(geometry.Point{X: x + step/2, Y: y + step/2})
			squares++
			s := square{floor: f.head, limit: Limit{"head", "", "head room for the tallest person"}}
			under := 0.0
			ceilingHeld := false
			for _, b := range reach {
				if b.high.X <= x+.5 || b.low.X >= x+step-.5 || b.high.Y <= y+.5 || b.low.Y >= y+step-.5 || !b.box.foot.Overlaps(g, .5) {
					continue
				}
				switch {
				case b.box.limit.Kind == "track", b.box.to >= top-f.clear.OverThings:
					top, s.limit, ceilingHeld = b.box.from, b.box.limit, true
				case b.box.stands && b.box.to > under:
					under = b.box.to
					if !ceilingHeld {
						s.floor, s.limit = under+f.clear.OverThings, b.box.limit
					}
				case !b.box.stands && b.box.to > s.floor:
					s.floor = b.box.to
					if !ceilingHeld {
						s.limit = b.box.limit
					}
				}
			}
			s.drop = max(0, top-s.floor)
			if ceilingHeld && top < f.roof.Lowest(g) {
				s.drop = 0 // nothing hangs through what hangs there
			}
			if s.drop >= MinDrop {
				out.Free += step * step / 1e6
				out.Volume += step * step * s.drop / 1e9
			}
			grid[c][r] = s
		}
	}
	out.mean /= max(1, squares)
	// The picture: runs of squares of the same limit and nearly the same drop.
	for r := range rows {
		for c := 0; c < cols; {
			s := grid[c][r]
			e := c + 1
			for e < cols && math.Abs(grid[e][r].drop-s.drop) < 25 && grid[e][r].limit == s.limit {
				e++
			}
			if inside[c][r] {
				out.Cells = append(out.Cells, CeilingPatch{low.X + float64(c)*step, low.Y + float64(r)*step, float64(e-c) * step, step, math.Round(s.drop), s.limit})
			}
			c = e
		}
	}
	seen := map[span]bool{}
	for _, level := range drops {
		for _, s := range maximal(cols, rows, func(c, r int) bool { return grid[c][r].drop >= level }) {
			if seen[s] || float64(s.c1-s.c0)*step < 400 || float64(s.r1-s.r0)*step < 300 && float64(s.c1-s.c0)*step < 600 {
				continue
			}
			seen[s] = true
			z := Zone{X: low.X + float64(s.c0)*step, Y: low.Y + float64(s.r0)*step, W: float64(s.c1-s.c0) * step, D: float64(s.r1-s.r0) * step, Drop: math.Inf(1), Joists: []float64{}}
			for c := s.c0; c < s.c1; c++ {
				for r := s.r0; r < s.r1; r++ {
					if q := grid[c][r]; q.drop < z.Drop {
						z.Drop, z.Limit = q.drop, q.limit
					}
					z.Low = max(z.Low, grid[c][r].floor)
				}
			}
			z.Volume = z.W * z.D * z.Drop / 1e9
			f.joists(&z)
			out.Zones = append(out.Zones, z)
		}
	}
	slices.SortStableFunc(out.Zones, func(a, b Zone) int { return cmp.Compare(b.Volume, a.Volume) })
	out.Zones = out.Zones[:min(len(out.Zones), maxZones)]
	return out
}

// reaching is a box with its bounds on the floor.
type reaching struct {
	box       *box
	low, high geometry.Point
}

// insideSquares tells which squares lie wholly in the room: no side cuts them
// and their middle is inside.
func (f *finder) insideSquares(low geometry.Point, step float64, cols, rows int) [][]bool {
	in := make([][]bool, cols)
	for c := range in {
		in[c] = make([]bool, rows)
		for r := range in[c] {
			in[c][r] = f.outline.Contains(geometry.Point{X: low.X + (float64(c)+.5)*step, Y: low.Y + (float64(r)+.5)*step})
		}
	}
	for i := range f.outline {
		e := f.outline.Edge(i)
		lo := geometry.Point{X: min(e.A.X, e.B.X), Y: min(e.A.Y, e.B.Y)}
		hi := geometry.Point{X: max(e.A.X, e.B.X), Y: max(e.A.Y, e.B.Y)}
		line := geometry.Polygon{e.A, e.B}
		for c := max(0, int((lo.X-low.X)/step)-1); c < cols && low.X+float64(c)*step <= hi.X; c++ {
			for r := max(0, int((lo.Y-low.Y)/step)-1); r < rows && low.Y+float64(r)*step <= hi.Y; r++ {
				x, y := low.X+float64(c)*step, low.Y+float64(r)*step
				in[c][r] = in[c][r] && !line.Overlaps(geometry.Rectangle(x, y, step, step, 0), .5)
			}
		}
	}
	return in
}

// joists finds those over a zone.
func (f *finder) joists(z *Zone) {
	if f.area.Ceiling == nil || f.area.Ceiling.Joists == nil {
		return
	}
	j := f.area.Ceiling.Joists
	z.Along = j.Along
	low, _ := f.outline.Bounds()
	from, to, origin := z.Y, z.Y+z.D, low.Y
	if j.Along == "y" {
		from, to, origin = z.X, z.X+z.W, low.X
	}
	for at := origin + j.First.MM(); at <= to; at += j.Spacing.MM() {
		if at >= from {
			z.Joists = append(z.Joists, at)
		}
	}
}
