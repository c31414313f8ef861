// Package feed works out what each machine can take where it stands: the longest and widest piece, what stops it on each
// side, what would have to be opened or rolled away to pass a longer one, and what carries it. A piece lies on the table: it
// passes over whatever is no higher, under what hangs high enough, and out through a door or window whose sill is no
// higher than the table. Lengths are millimetres as floats, times seconds.
package feed

import (
	"cmp"
	"fmt"
	"math"
	"slices"

	"hobrak/internal/core/access"
	"hobrak/internal/core/free"
	"hobrak/internal/core/geometry"
	"hobrak/internal/core/length"
	"hobrak/internal/core/shop"
)

// The piece that is passed, unless another is meant, and how long a sheet is of which the width is asked (estimates).
const (
	Wide  = 150.0
	Thick = 40.0
	Sheet = 1220.0
	// Endless is how long a piece is that nothing known stops: out of doors there may be a fence or a road.
	Endless = 12000.0
	// open and aside are what it takes to open a door or window, and to roll something away.
	open, aside = 5.0, 10.0
)

// Kinds of what stops a piece.
const (
	ByWall  = "wall"
	ByLeaf  = "leaf" // a door or window that is shut
	BySlope = "slope"
	ByThing = "thing"
)

// Stop is what a piece comes up against on one side of the cut.
type Stop struct {
	Kind string  `json:"kind"`
	ID   string  `json:"id"`
	Name string  `json:"name"`
	At   float64 `json:"at" doc:"mm from the cut"`
	// Gives tells that it can be opened or rolled away.
	Gives bool `json:"gives" doc:"it can be opened or rolled away"`
}

// Step is something to do before a longer piece passes.
type Step struct {
	Do      string  `json:"do" doc:"what is done, in words"`
	ID      string  `json:"id"`
	Seconds float64 `json:"seconds"`
	Longest float64 `json:"longest" doc:"mm, of what passes then"`
}

// Carrier is a surface that a piece lies on beside the machine, or would if it were a little higher.
type Carrier struct {
	ID    string  `json:"id"`
	Name  string  `json:"name"`
	Side  string  `json:"side" enum:"in,out"`
	From  float64 `json:"from" doc:"mm from the cut"`
	To    float64 `json:"to"`
	Below float64 `json:"below" doc:"mm below the table, by the fall of the floor"`
	Riser float64 `json:"riser" doc:"mm to put on it so that it carries; 0 when it does"`
}

// Band is something beside the cut seen from the side of a piece's way.
type Band struct {
	ID    string  `json:"id"`
	Name  string  `json:"name"`
	From  float64 `json:"from" doc:"mm from the cut, negative before the machine"`
	To    float64 `json:"to"`
	Low   float64 `json:"low" doc:"height it begins at"`
	High  float64 `json:"high"`
	Own   bool    `json:"own" doc:"it is the machine itself"`
	Stops bool    `json:"stops" doc:"a piece on the table comes up against it"`
}

// Taken is what a machine can take.
type Taken struct {
	Station string    `json:"station"`
	Name    string    `json:"name"`
	Longest float64   `json:"longest" doc:"mm; as it stands, with doors and windows shut"`
	Endless bool      `json:"endless" doc:"nothing known stops it"`
	In      []Stop    `json:"in" nullable:"false" doc:"what stops a piece before the machine, the nearest first, as far as the first that does not give"`
	Out     []Stop    `json:"out" nullable:"false" doc:"the same behind it"`
	Steps   []Step    `json:"steps" nullable:"false" doc:"what makes room for longer ones, each after the one before"`
	Left    float64   `json:"left" doc:"mm from the cut to what a sheet comes up against"`
	Right   float64   `json:"right"`
	ByLeft  *Stop     `json:"by_left,omitempty"`
	ByRight *Stop     `json:"by_right,omitempty"`
	Sheet   float64   `json:"sheet" doc:"mm, how long the sheet is of which left and right are said"`
	Above   float64   `json:"above" doc:"mm from the table to the lowest that hangs over the way of the longest piece; 0 when nothing does"`
	ByAbove string    `json:"by_above"`
	Thick   float64   `json:"thick" doc:"mm, the thickest piece: as the machine itself takes or what hangs over it lets pass; 0 when nothing known limits it"`
	ByThick string    `json:"by_thick" doc:"what limits that: the machine itself, or what hangs there"`
	Plate   float64   `json:"plate" doc:"mm, the widest piece the machine itself takes; 0 when that is not known"`
	Carries []Carrier `json:"carries" nullable:"false"`
	Profile []Band    `json:"profile" nullable:"false" doc:"what stands and hangs along the way of a piece, seen from its side"`
	// Way are the strips of floor that are free for a piece as it stands: before the machine, behind it.
	Way [2]geometry.Polygon `json:"-"`
}

// Widest sheet that passes, in mm: by the room on both sides of the cut, and by the machine itself.
func (t *Taken) Widest() float64 {
	if t.Plate > 0 {
		return min(t.Plate, t.Left+t.Right)
	}
	return t.Left + t.Right
}

// ToPass are the steps before a piece so long passes, the fewest there are; an error says what stands in its way for good.
func (t *Taken) ToPass(long float64) ([]Step, error) {
	if long <= t.Longest {
		return nil, nil
	}
	for i, s := range t.Steps {
		if long <= s.Longest {
			return t.Steps[:i+1], nil
		}
	}
	most, by := t.Longest, t.In
	if n := len(t.Steps); n > 0 {
		most = t.Steps[n-1].Longest
	}
	if n := len(t.Out); n > 0 && !t.Out[n-1].Gives && t.Out[n-1].At <= most+1e-6 {
		by = t.Out
	}
	if len(by) == 0 {
		return nil, fmt.Errorf("nothing is known of so long a piece")
	}
	last := by[len(by)-1]
	return nil, fmt.Errorf("no more than %s passes: %s stands for good", length.Whole(most), last.Name)
}

// Of are all machines of a shop as it stands, or as it is in a mode when one is named, that pieces are fed through.
func Of(s *shop.Shop, mode string) ([]Taken, error) {
	if mode != "" {
		then, err := s.InMode(mode)
		if err != nil {
			return nil, err
		}
		s = then
	}
	ix := shop.NewIndex(s)
	out := []Taken{}
	for i := range s.Areas {
		a := &s.Areas[i]
		r := roomOf(s, ix, a)
		for k := range s.Stations {
			if st := &s.Stations[k]; st.Feed != nil && st.Wished == "" && st.Mobility != shop.HungUp && ix.Area(st.Area) == a {
				out = append(out, r.taken(st))
			}
		}
	}
	return out, nil
}

// room is what pieces meet in an area.
type room struct {
	area     *shop.Area
	roof     free.Roof
	standing []access.Standing
	hanging  []access.Hanging
	name     map[string]string
	stations map[string]*shop.Station
}

func roomOf(s *shop.Shop, ix *shop.Index, a *shop.Area) *room {
	r := &room{area: a, roof: free.NewRoof(a), standing: access.StandingIn(s, ix, a), hanging: access.HangingIn(s, ix, a), name: map[string]string{}, stations: map[string]*shop.Station{}}
	for i := range s.Stations {
		r.name[s.Stations[i].ID], r.stations[s.Stations[i].ID] = s.Stations[i].Name, &s.Stations[i]
	}
	for i := range s.Containers {
		r.name[s.Containers[i].ID] = s.Containers[i].Name
	}
	for i := range s.Places {
		r.name[s.Places[i].ID] = s.Places[i].Name
	}
	return r
}

func (r *room) called(id string) string {
	if n := r.name[id]; n != "" {
		return n
	}
	return id
}

// lane is the way of a piece: from the cut along, so wide to both sides, at a height.
type lane struct {
	cut, along, across geometry.Point
	half               float64 // of its width
	table, top         float64 // heights
}

// laneOf a machine: the cut is in the middle of its table.
func laneOf(st *shop.Station) lane {
	foot := st.Footprint()
	along := foot[1].Sub(foot[0]).Unit()
	if st.Feed.Along == "y" {
		along = foot[3].Sub(foot[0]).Unit()
	}
	return lane{cut: foot[0].Add(foot[2]).Mul(.5), along: along, across: geometry.Point{X: along.Y, Y: -along.X}, half: Wide / 2, table: st.H.MM(), top: st.H.MM() + Thick}
}

// at are the coordinates of a point: along the lane and to its right.
func (l *lane) at(p geometry.Point) geometry.Point {
	d := p.Sub(l.cut)
	return geometry.Point{X: d.Dot(l.along), Y: d.Dot(l.across)}
}

// hits tells whether something between two heights is met by the piece.
func (l *lane) hits(from, to float64) bool { return from < l.top && to > l.table+.5 }

// within is the stretch along the lane that a convex outline takes of it; false when it is beside.
func (l *lane) within(g geometry.Polygon) (from, to float64, ok bool) {
	from, to = math.Inf(1), math.Inf(-1)
	for i := range g {
		e := g.Edge(i)
		a, b := l.at(e.A), l.at(e.B)
		if lo, hi, in := clipped(a, b, l.half); in {
			from, to = min(from, lo.X, hi.X), max(to, lo.X, hi.X)
		}
	}
	return from, to, to > from+1e-6
}

// clipped is the part of a segment that is no further than half from the middle.
func clipped(a, b geometry.Point, half float64) (geometry.Point, geometry.Point, bool) {
	t0, t1 := 0.0, 1.0
	d := b.Sub(a)
	for _, side := range [2]float64{1, -1} {
		p, v := side*a.Y-half, side*d.Y // p + t v <= 0 inside
		switch {
		case v == 0 && p >= -1e-9:
			return a, b, false
		case v > 0:
			t1 = min(t1, -p/v)
		case v < 0:
			t0 = max(t0, -p/v)
		}
	}
	if t1-t0 <= 1e-9 {
		return a, b, false
	}
	return a.Add(d.Mul(t0)), a.Add(d.Mul(t1)), true
}

// stops on the side the lane runs to, the nearest first and none behind the first that does not give.
func (r *room) stops(l *lane, own string) []Stop {
	var out []Stop
	for i := range r.standing {
		t := &r.standing[i]
		if t.ID == own || !l.hits(0, t.Height) {
			continue
		}
		if from, to, ok := l.within(t.Footprint); ok && to > 0 {
			out = append(out, Stop{ByThing, t.ID, r.called(t.ID), max(0, from), t.Movable})
		}
	}
	for i := range r.hanging {
		h := &r.hanging[i]
		if !l.hits(h.From, h.To) {
			continue
		}
		if from, to, ok := l.within(h.Footprint); ok && to > 0 {
			out = append(out, Stop{ByThing, h.ID, r.called(h.ID), max(0, from), false})
		}
	}
	out = append(out, r.walls(l)...)
	if at, ok := r.slope(l); ok {
		out = append(out, Stop{BySlope, "", "the slope of the ceiling", at, false})
	}
	slices.SortStableFunc(out, func(a, b Stop) int { return cmp.Compare(a.At, b.At) })
	for i := range out {
		if !out[i].Gives {
			out = out[:i+1]
			break
		}
	}
	// Through a door that is open one is outside: what is behind it is not of this room.
	if i := slices.IndexFunc(out, func(s Stop) bool { return s.Kind == ByLeaf }); i >= 0 {
		out = out[:i+1]
	}
	return out
}

// slope is where the ceiling comes down on the piece; false when it does not before the next wall.
func (r *room) slope(l *lane) (at float64, ok bool) {
	if !r.roof.Slopes() {
		return 0, false
	}
	// The lowest over both edges of the piece. Along a straight line the ceiling only falls once it falls, so that halving finds where.
	over := func(far float64) float64 {
		p := l.cut.Add(l.along.Mul(far))
		return min(r.roof.At(p.Add(l.across.Mul(l.half))), r.roof.At(p.Sub(l.across.Mul(l.half))))
	}
	end := Endless
	for _, w := range r.walls(l) {
		end = min(end, w.At)
	}
	if end == Endless || over(end) >= l.top {
		return 0, false
	}
	low, high := 0.0, end
	if over(0) < l.top {
		return 0, true
	}
	for high-low > 1 {
		if mid := (low + high) / 2; over(mid) < l.top {
			high = mid
		} else {
			low = mid
		}
	}
	return low, true
}

// walls that a piece comes up against, and doors and windows it would pass if they were open. What passes an opening
// without a leaf is stopped by nothing that is known.
func (r *room) walls(l *lane) (out []Stop) {
	outline := r.area.Outline()
	for k := range r.area.Walls {
		e := outline.Edge(k)
		a, b, ok := clipped(l.at(e.A), l.at(e.B), l.half)
		if !ok || max(a.X, b.X) <= 0 {
			continue
		}
		at := max(0, min(a.X, b.X))
		frame, w := r.area.Frame(k), &r.area.Walls[k]
		// Where along the wall: the clipped ends, back on the floor.
		xs := [2]float64{}
		for i, p := range [2]geometry.Point{a, b} {
			xs[i], _ = frame.Coordinates(l.cut.Add(l.along.Mul(p.X)).Add(l.across.Mul(p.Y)))
		}
		from, to := min(xs[0], xs[1]), max(xs[0], xs[1])
		stop := Stop{ByWall, w.ID, "wall " + w.ID, at, false}
		for i := range w.Features {
			f := &w.Features[i]
			if !f.Kind.Passage() && !f.Kind.Lit() || f.X.MM() > from+.5 || (f.X+f.W).MM() < to-.5 || f.Z.MM() > l.table+.5 || (f.Z+f.H).MM() < l.top {
				continue
			}
			stop = Stop{ByLeaf, f.ID, nameOf(f), at, true}
			if f.Kind.Passage() && f.Kind.Leaves() == 0 && !f.Kind.Overhead() {
				stop.Kind = "" // an opening
			}
			break
		}
		if stop.Kind != "" {
			out = append(out, stop)
		}
	}
	return out
}

func nameOf(f *shop.Feature) string {
	if f.Name != "" {
		return f.Name
	}
	return fmt.Sprintf("%s %s", f.Kind, f.ID)
}

func (r *room) taken(st *shop.Station) Taken {
	l := laneOf(st)
	back := l
	back.along, back.across = l.along.Mul(-1), l.across.Mul(-1)
	t := Taken{Station: st.ID, Name: st.Name, Out: append([]Stop{}, r.stops(&l, st.ID)...), In: append([]Stop{}, r.stops(&back, st.ID)...), Steps: []Step{}, Carries: []Carrier{}}
	gone := map[string]bool{}
	first := func(stops []Stop) *Stop {
		for i := range stops {
			if !gone[stops[i].ID] {
				return &stops[i]
			}
		}
		return &Stop{At: Endless}
	}
	in, out := first(t.In), first(t.Out)
	t.Longest = min(in.At, out.At)
	t.Endless = t.Longest >= Endless
	t.Way = [2]geometry.Polygon{back.strip(in.At), l.strip(out.At)}
	for {
		next := in
		if out.At < in.At {
			next = out
		}
		if !next.Gives {
			break
		}
		gone[next.ID] = true
		do, seconds := "open "+next.Name, open
		if next.Kind == ByThing {
			do, seconds = "move "+next.Name+" away", aside
		}
		in, out = first(t.In), first(t.Out)
		t.Steps = append(t.Steps, Step{do, next.ID, seconds, min(in.At, out.At)})
	}
	r.sides(&t, l, st)
	r.above(&t, l)
	t.Plate = st.Feed.Wide.MM()
	if t.Thick = t.Above; t.Thick > 0 {
		t.ByThick = t.ByAbove
	}
	if own := st.Feed.Thick.MM(); own > 0 && (t.Thick == 0 || own < t.Thick) {
		t.Thick, t.ByThick = own, st.Name
	}
	r.carriers(&t, l, st)
	r.profile(&t, l, st)
	return t
}

// profile is what is along the way of a piece, as far as a wall on each side.
func (r *room) profile(t *Taken, l lane, st *shop.Station) {
	t.Profile = []Band{}
	back := l
	back.along, back.across = l.along.Mul(-1), l.across.Mul(-1)
	far := [2]float64{Endless, Endless} // before, behind
	for i, side := range []*lane{&back, &l} {
		way := float64(2*i - 1) // before is negative
		for _, w := range r.walls(side) {
			far[i] = min(far[i], w.At)
			t.Profile = append(t.Profile, Band{ID: w.ID, Name: w.Name, From: way * w.At, To: way * w.At, High: 2400, Stops: w.Kind == ByWall})
		}
	}
	add := func(id string, g geometry.Polygon, low, high float64) {
		from, to, ok := l.within(g)
		if !ok || to < -far[0] || from > far[1] {
			return
		}
		t.Profile = append(t.Profile, Band{ID: id, Name: r.called(id), From: max(from, -far[0]), To: min(to, far[1]), Low: low, High: high, Own: id == st.ID, Stops: id != st.ID && l.hits(low, high)})
	}
	for i := range r.standing {
		add(r.standing[i].ID, r.standing[i].Footprint, 0, r.standing[i].Height)
	}
	for i := range r.hanging {
		add(r.hanging[i].ID, r.hanging[i].Footprint, r.hanging[i].From, r.hanging[i].To)
	}
	slices.SortStableFunc(t.Profile, func(a, b Band) int { return cmp.Compare(a.From, b.From) })
}

// Pair of surfaces of which one can carry what lies on the other: the lower is the machine's helper.
type Pair struct {
	Machine string  `json:"machine"`
	Helper  string  `json:"helper"`
	Names   string  `json:"names"`
	Below   float64 `json:"below" doc:"mm that the helper is below the table"`
	Riser   float64 `json:"riser" doc:"mm to put on it so that it carries; 0 when it does"`
	Rolls   bool    `json:"rolls" doc:"one of them can be moved to the other"`
}

// Pairs are the surfaces anywhere in a shop that are as high as a machine's table, or nearly: 0 to 5 mm lower, or up to 120 with a
// riser. The floor's fall is left out, since they may stand anywhere. What needs the least comes first.
func Pairs(s *shop.Shop) []Pair {
	out := []Pair{}
	for i := range s.Stations {
		m := &s.Stations[i]
		if m.Feed == nil || m.Wished != "" {
			continue
		}
		add := func(id, name string, high float64, rolls bool) {
			below := m.H.MM() - high
			if below < 0 || below > riserTo {
				return
			}
			p := Pair{Machine: m.ID, Helper: id, Names: m.Name + " and " + name, Below: below, Rolls: rolls || m.Mobility.Aside()}
			if below > carriesTo {
				p.Riser = math.Floor(below)
			}
			out = append(out, p)
		}
		for k := range s.Stations {
			if o := &s.Stations[k]; o.ID != m.ID && o.Tall <= o.H && !o.Kind.Lodger() && o.Wished == "" {
				add(o.ID, o.Name, o.H.MM(), o.Mobility.Aside())
			}
		}
		for k := range s.Containers {
			if c := &s.Containers[k]; c.Kind.Rolls() && c.At.Floor != nil {
				name := c.Name
				if name == "" {
					name = c.ID
				}
				add(c.ID, name, c.H.MM(), true)
			}
		}
	}
	slices.SortStableFunc(out, func(a, b Pair) int { return cmp.Compare(a.Riser, b.Riser) })
	return out
}

// strip of floor under a piece that reaches so far from the cut.
func (l *lane) strip(long float64) geometry.Polygon {
	right, far := l.across.Mul(l.half), l.along.Mul(long)
	return geometry.Polygon{l.cut.Add(right), l.cut.Add(right).Add(far), l.cut.Sub(right).Add(far), l.cut.Sub(right)}
}

// sides are what a sheet comes up against to the left and right of the cut on its whole way.
func (r *room) sides(t *Taken, l lane, st *shop.Station) {
	t.Sheet = min(Sheet, t.Longest)
	if t.Sheet <= 0 {
		return
	}
	right := lane{cut: l.cut, along: l.across, across: l.along.Mul(-1), half: t.Sheet, table: l.table, top: l.top}
	left := right
	left.along, left.across = right.along.Mul(-1), right.across.Mul(-1)
	for _, side := range []struct {
		l   *lane
		far *float64
		by  **Stop
	}{{&right, &t.Right, &t.ByRight}, {&left, &t.Left, &t.ByLeft}} {
		*side.far = Endless
		if stops := r.stops(side.l, st.ID); len(stops) > 0 {
			s := stops[0]
			*side.far, *side.by = s.At, &s
		}
	}
}

// above is the lowest that hangs over the way of the longest piece.
func (r *room) above(t *Taken, l lane) {
	for i := range r.hanging {
		h := &r.hanging[i]
		if h.From < l.top {
			continue
		}
		if from, to, ok := l.within(h.Footprint); ok && from < t.Longest && to > -t.Longest && (t.ByAbove == "" || h.From-l.table < t.Above) {
			t.Above, t.ByAbove = h.From-l.table, r.called(h.ID)
		}
	}
}

// A surface carries when it is no higher than the table and at most so much lower; a riser is worth making up to so much.
const (
	carriesTo = 5.0
	riserTo   = 120.0
)

// carriers are what a piece lies on beside the machine.
func (r *room) carriers(t *Taken, l lane, st *shop.Station) {
	table := st.H.MM() + r.level(l.cut)
	for i := range r.standing {
		s := &r.standing[i]
		other := r.stations[s.ID]
		if s.ID == st.ID || s.Built || other != nil && (other.Tall > other.H || other.Kind.Lodger()) {
			continue
		}
		from, to, ok := l.within(s.Footprint)
		if !ok {
			continue
		}
		mid := geometry.Point{}
		for _, c := range s.Footprint {
			mid = mid.Add(c.Mul(1 / float64(len(s.Footprint))))
		}
		below := table - s.Height - r.level(mid)
		if below < 0 || below > riserTo {
			continue
		}
		c := Carrier{ID: s.ID, Name: r.called(s.ID), Side: "out", From: from, To: to, Below: below}
		if from+to < 0 {
			c.Side, c.From, c.To = "in", -to, -from
		}
		if c.From > t.Longest {
			continue
		}
		if below > carriesTo {
			c.Riser = math.Floor(below)
		}
		t.Carries = append(t.Carries, c)
	}
	slices.SortStableFunc(t.Carries, func(a, b Carrier) int { return cmp.Or(cmp.Compare(a.Riser, b.Riser), cmp.Compare(a.From, b.From)) })
}

// level of the floor at a spot: it falls towards a wall.
func (r *room) level(p geometry.Point) float64 {
	if r.area.Floor == nil || r.area.Floor.Fall == nil {
		return 0
	}
	k := r.area.WallIndex(r.area.Floor.Fall.Toward)
	if k < 0 {
		return 0
	}
	_, out := r.area.Frame(k).Coordinates(p)
	return r.area.Floor.Fall.MMPerM * out / 1000
}
