package free

import (
	"fmt"
	"math"
	"slices"

	"hobrak/internal/core/length"
)

// Dead is a space that is easily overlooked, with its size.
type Dead struct {
	Kind   string  `json:"kind" enum:"over-door,behind-door,corner,under-window,between-studs,under-bench,under-machine,under-ceiling"`
	Area   string  `json:"area"`
	Wall   string  `json:"wall" doc:"empty in the room"`
	By     string  `json:"by" doc:"id of the door, window or station"`
	X      float64 `json:"x" doc:"along the wall, or on the floor"`
	Z      float64 `json:"z"`
	Y      float64 `json:"y" doc:"on the floor, in the room"`
	W      float64 `json:"w"`
	H      float64 `json:"h"`
	D      float64 `json:"d"`
	Volume float64 `json:"volume" doc:"litres"`
	Name   string  `json:"name"`
	Note   string  `json:"note" doc:"special care it needs"`
}

func (d *Dead) sized() Dead {
	d.Volume = d.W * d.H * d.D / 1e6
	return *d
}

// Bounds of dead spaces, mm.
const (
	deadSide    = 120.0 // smaller is of no use
	leastBehind = 40.0  // gap behind an open door that still holds something flat
	cornerReach = 300.0 // how far a corner reaches along each wall
	overDoor    = 300.0 // depth taken for what is over a door
	shelfUnder  = 400.0 // height of what counts as under the ceiling
	bayDepth    = 90.0  // depth between bare studs unless said otherwise (estimate)
	legRoom     = 80.0  // taken by the legs of a bench at each end (estimate)
	topThick    = 120.0 // taken by its top (estimate)
)

// shallowest depth over a piece of wall; 0 where nothing may hang.
func (g *wallGrid) shallowest(x0, x1, z0, z1 float64) float64 {
	c, _ := slices.BinarySearch(g.xs, x0+1)
	first, _ := slices.BinarySearch(g.zs, z0+1)
	d := math.Inf(1)
	for c = max(0, c-1); c < len(g.cells) && g.xs[c] < x1-1; c++ {
		for k := max(0, first-1); k < len(g.cells[c]) && g.zs[k] < z1-1; k++ {
			d = min(d, g.cells[c][k].depth)
		}
	}
	if math.IsInf(d, 1) {
		return 0
	}
	return d
}

// upFrom is how high a piece of wall is free from z upwards.
func (g *wallGrid) upFrom(x0, x1, z float64) float64 {
	high := z
	for k := range g.zs[:len(g.zs)-1] {
		if g.zs[k+1] <= z+1 {
			continue
		}
		if g.shallowest(x0, x1, max(z, g.zs[k]), g.zs[k+1]) < MinDepth {
			break
		}
		high = g.zs[k+1]
	}
	return high
}

// deadOn finds the dead spaces on a wall.
func (f *finder) deadOn(g *wallGrid) []Dead {
	if !g.out.Claimed {
		return nil
	}
	var out []Dead
	w := &f.area.Walls[g.index]
	long := f.frames[g.index].Length.MM()
	add := func(d Dead) {
		d.Area, d.Wall = f.area.ID, w.ID
		if d.W >= deadSide && d.H >= deadSide && d.D > 0 {
			out = append(out, d.sized())
		}
	}
	for i := range w.Features {
		x := &w.Features[i]
		m := x.Kind.Margin()
		x0, x1 := max(0, x.X.MM()), min(long, (x.X+x.W).MM())
		switch {
		case x.Kind.Passage():
			z := (x.Z + x.H).MM() + m
			if high := g.upFrom(x0, x1, z); high > z {
				add(Dead{Kind: "over-door", By: x.ID, X: x0, Z: z, W: x1 - x0, H: high - z, D: min(overDoor, g.shallowest(x0, x1, z, high)), Name: "over the " + x.Called(), Note: "light things; nothing that can fall on who comes in"})
			}
			if high := f.roof.At(f.frames[g.index].Spot((x0+x1)/2, 1)); x.Kind.Overhead() {
				z = (x.Z + x.H).MM() + trackHigh
				add(Dead{Kind: "over-door", By: x.ID, X: x0, Z: z, W: x1 - x0, H: high - z, D: x.H.MM() + 300, Name: "over the tracks of the " + x.Called(), Note: "hung from joists, clear of the tracks; light and seldom used"})
			}
		case x.Kind.Lit():
			// Up from the floor to the sill, as far as it is free.
			sill := x.Z.MM() - m
			low := sill
			for k := len(g.zs) - 2; k >= 0; k-- {
				if g.zs[k] >= sill-1 {
					continue
				}
				if g.shallowest(x0, x1, g.zs[k], min(sill, g.zs[k+1])) < MinDepth {
					break
				}
				low = g.zs[k]
			}
			if low < sill {
				add(Dead{Kind: "under-window", By: x.ID, X: x0, Z: low, W: x1 - x0, H: sill - low, D: min(400, g.shallowest(x0, x1, low, sill)), Name: "under the " + x.Called()})
			}
		}
	}
	out = append(out, f.behindDoors(g)...)
	// Corners: a floor-to-top strip at each end that is free over some height.
	for _, end := range []struct {
		x0, x1 float64
		at     int
	}{{0, min(cornerReach, long), g.index}, {max(0, long-cornerReach), long, (g.index + 1) % len(f.frames)}} {
		if end.at != g.index { // each corner once, at the wall that begins there
			continue
		}
		best := Dead{}
		for k := range g.zs[:len(g.zs)-1] {
			if high := g.upFrom(end.x0, end.x1, g.zs[k]); high-g.zs[k] > best.H {
				best = Dead{Kind: "corner", X: end.x0, Z: g.zs[k], W: end.x1 - end.x0, H: high - g.zs[k]}
			}
		}
		if best.H >= 400 {
			best.D = min(cornerReach, g.shallowest(end.x0, end.x1, best.Z, best.Z+best.H))
			best.Name, best.Note = "corner "+f.area.CornerName(g.index), "for what is seldom touched"
			add(best)
		}
	}
	if w.Surface == "bare-studs" && w.Studs != nil {
		centres := w.Studs.Centres(length.MM(long))
		n, total, high := 0, 0.0, 0.0
		for k := 1; k < len(centres); k++ {
			bay := (centres[k] - centres[k-1] - w.Studs.Width).MM()
			if h := g.upFrom((centres[k-1] + w.Studs.Width/2).MM(), (centres[k] - w.Studs.Width/2).MM(), 0); bay >= deadSide && h >= 400 {
				n++
				total += bay
				high = max(high, h)
			}
		}
		if n > 0 {
			add(Dead{Kind: "between-studs", X: centres[0].MM(), W: total, H: high, D: bayDepth, Name: fmt.Sprintf("between the studs, %d bays of %s", n, length.Whole(total/float64(n))), Note: fmt.Sprintf("look for cables and pipes before you fix anything; a depth of %s is assumed", length.MM(bayDepth))})
		}
	}
	// Under the ceiling: the longest run above head height.
	top := w.TopOver(0, length.MM(long)).MM()
	best := Dead{}
	z := max(f.head, top-shelfUnder)
	from := 0
	for c := range g.cells {
		if g.shallowest(g.xs[c], g.xs[c+1], z, top) < MinDepth {
			from = c + 1
		} else if run := g.xs[c+1] - g.xs[from]; run > best.W && top-z >= deadSide {
			best = Dead{Kind: "under-ceiling", X: g.xs[from], Z: z, W: run, H: top - z}
		}
	}
	if best.W >= 600 {
		best.D = min(overDoor, g.shallowest(best.X, best.X+best.W, z, top))
		best.Name, best.Note = "under the ceiling on wall "+w.ID, "by step or ladder: light and seldom used"
		add(best)
	}
	return out
}

// behindDoors finds the wall an open door stands before, and the gap it leaves.
func (f *finder) behindDoors(g *wallGrid) []Dead {
	var out []Dead
	n := len(f.frames)
	for _, side := range []struct {
		wall  int
		hinge string
	}{{(g.index + 1) % n, "left"}, {(g.index + n - 1) % n, "right"}} {
		w := &f.area.Walls[side.wall]
		long := f.frames[side.wall].Length.MM()
		for i := range w.Features {
			x := &w.Features[i]
			if x.Kind.Leaves() != 1 || x.Swing == "out" || hingeOf(x.Hinge) != side.hinge {
				continue
			}
			gap := x.X.MM() - leafThickness
			if side.hinge == "right" {
				gap = long - (x.X + x.W).MM() - leafThickness
			}
			own := f.frames[g.index].Length.MM()
			x0, x1 := 0.0, min(own, x.W.MM())
			if side.hinge == "left" {
				x0, x1 = own-min(own, x.W.MM()), own
			}
			h := (x.Z + x.H).MM()
			if gap >= leastBehind && gap < 600 && g.shallowest(x0, x1, 300, min(h, 1500)) >= leastBehind {
				d := Dead{Kind: "behind-door", Area: f.area.ID, Wall: f.area.Walls[g.index].ID, By: x.ID, X: x0, Z: 0, W: x1 - x0, H: h, D: gap, Name: "behind the open " + x.Called(), Note: fmt.Sprintf("only what is thinner than %s", length.Whole(gap))}
				out = append(out, d.sized())
			}
		}
	}
	return out
}

func hingeOf(h string) string {
	if h == "" {
		return "left"
	}
	return h
}

// deadBelow finds what is free under benches and machines.
func (f *finder) deadBelow() []Dead {
	var out []Dead
	for i := range f.m.Shop.Stations {
		st := &f.m.Shop.Stations[i]
		if f.m.Index.Area(st.Area) != f.area {
			continue
		}
		kind, name := "under-machine", "under the "+st.Name
		high := st.H.MM() - topThick
		wide := st.W.MM() - 2*legRoom
		if st.Kind.Footed() {
			continue
		}
		if st.Kind.Bench() {
			kind = "under-bench"
		}
		taken := 0.0
		for k := range f.m.Shop.Places {
			if p := &f.m.Shop.Places[k]; p.At.Station == st.ID && p.At.Z.MM() < high {
				taken += p.W.MM() * p.H.MM()
			}
		}
		for k := range f.m.Shop.Containers {
			if c := &f.m.Shop.Containers[k]; c.At.Station == st.ID && c.At.Z.MM() < high {
				taken += c.W.MM() * c.H.MM()
			}
		}
		// What is already in there is taken off the height, over the whole width.
		high -= taken / max(wide, 1)
		if high < 200 || wide < 300 {
			continue
		}
		mid := st.Footprint()
		c := mid[0].Add(mid[2]).Mul(.5)
		d := Dead{Kind: kind, Area: f.area.ID, By: st.ID, X: c.X, Y: c.Y, W: wide, H: high, D: st.D.MM() - 50, Name: name, Note: fmt.Sprintf("legs, a top of %s and a foot's room are assumed", 120*length.Millimetre)}
		out = append(out, d.sized())
	}
	return out
}

// deadAbove names the best zone under the ceiling.
func (f *finder) deadAbove(c *Ceiling) (Dead, bool) {
	if len(c.Zones) == 0 {
		return Dead{}, false
	}
	z := c.Zones[0]
	d := Dead{Kind: "under-ceiling", Area: f.area.ID, X: z.X + z.W/2, Y: z.Y + z.D/2, Z: z.Low, W: z.W, H: z.Drop, D: z.D, Name: "under the ceiling, in the room", Note: fmt.Sprintf("%d joists over it; %s", len(z.Joists), c.Note)}
	return d.sized(), true
}
