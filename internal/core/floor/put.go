package floor

import (
	"cmp"
	"fmt"
	"math"
	"slices"

	"hobrak/internal/core/geometry"
	"hobrak/internal/core/length"
	"hobrak/internal/core/shop"
)

// Wish is where a station should stand, as far as it was said. What is empty is free.
type Wish struct {
	Wall   string
	From   *length.Length // of its left side from the left end of the wall
	End    string         // the wall at whose end of that wall
	By     string         // window, door, or a kind of station
	Middle bool
	Anyhow bool // even where the ways become too narrow: its real spot is still to be said
}

// NoSpot is why a station stands nowhere.
type NoSpot struct{ Why string }

func (e *NoSpot) Error() string { return e.Why }

const (
	step = 100.0 // between spots that are looked at
	grid = 200.0 // in the middle of the room
)

// What the spots are compared by, in mm of walking at each visit (estimates).
const (
	toBench    = 1.0  // to a bench: where most goes to and comes from
	toMachine  = .25  // to any other station
	toDoor     = .15  // material comes in there
	lodgerDoor = .5   // what only lives there is best near the door, out of the work
	atWindow   = 1500 // what a bench in the light is worth
	darkens    = 4000 // what it costs to stand before a window and be higher than its sill
	noRoom     = .3   // a mm that a piece has too little before or behind the machine
	fromEnd    = 10.0 // to the end of the wall it was said to stand at
	aWeek      = 100  // what serves a station is priced in metres a week: some ten visits
	middle     = 900  // what it costs to stand in the middle of the room, in everybody's way
)

// Put finds where a station stands best and puts it there: it gives the station with its place, turn and
// where one stands. Where it is said exactly and something is in the way, it goes there all the same and blocked
// says what: a room may be as it is. The error is a *NoSpot.
func Put(s *shop.Shop, st shop.Station, wish Wish) (placed shop.Station, blocked *Blocked, err error) {
	area := &s.Areas[0]
	for i := range s.Areas {
		if s.Areas[i].ID == st.Area {
			area = &s.Areas[i]
		}
	}
	g, err := Of(s, area, st.ID)
	if err != nil {
		return st, nil, err
	}
	spots := g.spots(&st, wish)
	if len(spots) == 0 {
		return st, nil, &NoSpot{g.nowhere(&st, wish)}
	}
	if at, _, ok := g.best(&st, wish); ok {
		return at, nil, nil
	}
	why := g.At(&spots[0].st)
	if why == nil {
		why = g.Reached(&spots[0].st, g.clear.AisleSide)
	}
	if wish.From != nil && why != nil && why.Kind != "outside" && g.outline.Contains(spots[0].st.Stand.Geometry()) {
		return spots[0].st, why, nil
	}
	if wish.Anyhow {
		if at, in := g.leastBad(spots); in != nil {
			return at, in, nil
		}
	}
	return st, nil, &NoSpot{g.nowhere(&st, wish)}
}

// leastBad is the spot where the least is in the way of what is there all the same: first where only a way becomes narrow,
// then in room that should be kept, before where somebody stands, last on top of something else.
func (g *Ground) leastBad(spots []candidate) (shop.Station, *Blocked) {
	order := []string{"way", "kept", "stand", "thing"}
	slices.SortStableFunc(spots, func(a, b candidate) int { return cmp.Compare(a.cost, b.cost) })
	var best *shop.Station
	var in *Blocked
	for i := range spots {
		if !g.outline.Contains(spots[i].st.Stand.Geometry()) {
			continue // what else is in the way there says nothing of it
		}
		why := g.At(&spots[i].st)
		if why == nil {
			why = g.Reached(&spots[i].st, 0)
		}
		if why == nil {
			why = &Blocked{"way", "", "it leaves little room to walk past"}
		}
		if k := slices.Index(order, why.Kind); k >= 0 && (in == nil || k < slices.Index(order, in.Kind)) {
			best, in = &spots[i].st, why
		}
	}
	if in == nil {
		return shop.Station{}, nil
	}
	return *best, in
}

func (g *Ground) nowhere(st *shop.Station, wish Wish) string {
	where := "on the floor"
	switch {
	case wish.Wall != "":
		where = "at wall " + wish.Wall
	case wish.By != "":
		where = "by the " + wish.By
	case wish.Middle:
		where = "in the middle"
	}
	return fmt.Sprintf("nothing is free %s for %s × %s with room to stand before it and to walk past; make room, or say another spot", where, st.W, st.D)
}

type candidate struct {
	st   shop.Station
	cost float64
}

// spots are where a station may stand by the wish, with what they cost; most are not looked at for what is in
// the way yet.
func (g *Ground) spots(st *shop.Station, wish Wish) (out []candidate) {
	w, d := st.W.MM(), st.D.MM()
	add := func(mid geometry.Point, turn float64, wall int, along float64) {
		at := *st
		at.X, at.Y, at.Rot = length.MM(mid.X-w/2), length.MM(mid.Y-d/2), turn
		at.Stand = Stand(&at)
		out = append(out, candidate{at, g.cost(&at, wall, along)})
	}
	if !wish.Middle {
		for k, fr := range g.frames {
			id := g.area.Walls[k].ID
			if wish.Wall != "" && wish.Wall != id {
				continue
			}
			long := fr.Length.MM()
			if w > long+1 {
				continue
			}
			turn := math.Round((math.Atan2(fr.Inward.Y, fr.Inward.X)*180/math.Pi+90)*1000) / 1000
			for n, t := range g.along(k, w, wish) {
				add(fr.Spot(t, d/2), math.Mod(turn+360, 360), k, t)
				if wish.End != "" { // as near to it as there is room
					out[len(out)-1].cost += fromEnd * step * float64(n)
				}
			}
		}
	}
	if wish.Middle || wish.Wall == "" && wish.By == "" && (wish.Anyhow || walkedRound(st.Kind)) {
		low, high := g.outline.Bounds()
		for x := low.X + grid; x < high.X; x += grid {
			for y := low.Y + grid; y < high.Y; y += grid {
				for _, turn := range []float64{0, 90, 180, 270} {
					add(geometry.Point{X: x, Y: y}, turn, -1, 0)
				}
			}
		}
	}
	return out
}

// walkedRound tells whether one works at a station from all sides.
func walkedRound(k shop.StationKind) bool {
	return slices.Contains([]shop.StationKind{"table-saw", "panel-saw", shop.Assembly, "cutting", "out-feed", "shaving-horse", "saw-bench", "anvil", "chopping-block"}, k)
}

// along lists where the middle of a station may be along a wall, by the wish.
func (g *Ground) along(wall int, w float64, wish Wish) (out []float64) {
	long := g.frames[wall].Length.MM()
	first, last := w/2, long-w/2
	switch {
	case wish.From != nil:
		return []float64{min(max(first, wish.From.MM()+w/2), last)}
	case wish.End != "":
		// Walls run clockwise: the one before ends where this one begins.
		n := len(g.area.Walls)
		for t := first; t <= last; t += step {
			if wish.End == g.area.Walls[(wall+n-1)%n].ID {
				out = append(out, t)
			} else {
				out = append(out, last-(t-first))
			}
		}
		return out
	case wish.By != "":
		for _, f := range g.area.Walls[wall].Features {
			if wish.By == "window" && f.Kind.Lit() || wish.By == "door" && f.Kind.Passage() || string(f.Kind) == wish.By {
				for t := max(first, f.X.MM()-w); t <= min(last, (f.X+f.W).MM()+w); t += step {
					out = append(out, t)
				}
			}
		}
		return out
	}
	for t := first; t < last; t += step {
		out = append(out, t)
	}
	return append(out, last)
}

// cost compares spots: what is walked to and from there, and what it does to light and to long pieces.
func (g *Ground) cost(st *shop.Station, wall int, along float64) float64 {
	at := st.Stand.Geometry()
	sum := 0.0
	if st.Kind.Lodger() {
		sum += lodgerDoor * at.Distance(g.door)
		for i := range g.stands {
			if g.stands[i].bench {
				sum -= .2 * at.Distance(g.stands[i].at)
			}
		}
	} else {
		if g.hasDoor {
			sum += toDoor * at.Distance(g.door)
		}
		for i := range g.stands {
			switch t := &g.stands[i]; {
			case t.lodger:
			case t.bench || st.Kind.Bench():
				sum += toBench * at.Distance(t.at)
			default:
				sum += toMachine * at.Distance(t.at)
			}
		}
	}
	if wall < 0 {
		sum += middle
	} else {
		for _, f := range g.area.Walls[wall].Features {
			if !f.Kind.Lit() {
				continue
			}
			over := min((f.X+f.W).MM(), along+st.W.MM()/2) - max(f.X.MM(), along-st.W.MM()/2)
			switch {
			case over <= 0:
			case max(st.H, st.Tall) > f.Z+f.H/3:
				sum += darkens
			case st.Kind.Bench():
				sum -= atWindow * min(1, over/st.W.MM())
			}
		}
	}
	if st.Feed != nil {
		sum += noRoom * g.short(st)
	}
	return sum + aWeek*g.served.At(st)
}

// short is by how much the longest pieces have too little room to the walls before and behind a machine.
func (g *Ground) short(st *shop.Station) float64 {
	foot := st.Footprint()
	mid := middleOf(st)
	way, half := foot[1].Sub(foot[0]).Unit(), st.W.MM()/2
	if st.Feed.Along == "y" {
		way, half = foot[3].Sub(foot[0]).Unit(), st.D.MM()/2
	}
	short := 0.0
	for _, run := range []struct {
		way  geometry.Point
		need float64
	}{{way, st.Feed.Out.MM()}, {way.Mul(-1), st.Feed.In.MM()}} {
		short += max(0, run.need-(g.toWall(mid, run.way)-half))
	}
	return short
}

// toWall is how far it is from a spot to the walls that way.
func (g *Ground) toWall(from, way geometry.Point) float64 {
	best := math.Inf(1)
	for k := range g.outline {
		e := g.outline.Edge(k)
		d := e.B.Sub(e.A)
		den := way.Cross(d)
		if math.Abs(den) < 1e-9 {
			continue
		}
		t, u := e.A.Sub(from).Cross(d)/den, e.A.Sub(from).Cross(way)/den
		if t > 0 && u >= 0 && u <= 1 {
			best = min(best, t)
		}
	}
	if math.IsInf(best, 1) {
		return 0
	}
	return best
}
