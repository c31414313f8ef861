// Package arrange looks for better arrangements of a whole room: all stations that are not pinned, together, by what is walked
// and carried in a week, with light, dust and long pieces, in a few schools of how a shop is laid out. It also makes room for
// something in a mode with the fewest things moved. Lengths are millimetres as floats, walking metres a week.
package arrange

import (
	"cmp"
	"fmt"
	"math"
	"math/rand/v2"
	"slices"
	"sync"

	"hobrak/internal/core/access"
	"hobrak/internal/core/floor"
	"hobrak/internal/core/flow"
	"hobrak/internal/core/geometry"
	"hobrak/internal/core/mode"
	"hobrak/internal/core/shop"
	"hobrak/internal/core/walk"
)

// School is a way of laying out a room.
type School string

// Schools.
const (
	Short School = "short" // the shortest ways, whatever it looks like
	Hub   School = "hub"   // what is used most in the middle, the rest about it
	Rim   School = "rim"   // everything at the walls, the middle free
	Rolls School = "rolls" // what rolls is parked near the door end of the room, out of the way
)

// Schools there are, with what each is in words.
var Schools = []struct {
	ID   School
	Says string
}{
	{Short, "the shortest ways"},
	{Hub, "a hub in the middle"},
	{Rim, "everything at the walls, the middle free"},
	{Rolls, "what rolls out of the way"},
}

// What the schools and the room weigh, in metres a week (estimates).
const (
	atHub    = 6.0  // a metre that a bench is from the middle of the room, to the hub
	offWall  = 60.0 // to stand in the middle, to the rim
	inMiddle = 4.0  // to all others
	parked   = 5.0  // a metre from the nearest corner of what rolls, to rolls
	dark     = 25.0 // to stand before a window and be higher than its sill
	light    = 8.0  // what a bench that wants light gains at a window
	feeding  = 12.0 // a metre that the longest piece has too little room
	dusty    = 1.5  // a metre from the nearest opening of what makes the most dust
	visits   = .6   // a metre from a bench, from a machine that no job comes to
)

// Figures of an arrangement.
type Figures struct {
	Walking  float64 `json:"walking" doc:"metres a week, walked and carried, round what stands there"`
	Open     float64 `json:"open" doc:"m² of the largest free rectangle"`
	Feed     float64 `json:"feed" doc:"metres that the longest pieces have too little room, of all machines"`
	Narrow   float64 `json:"narrow" doc:"mm, the narrowest way to a station, up to 1100"`
	Clashes  int     `json:"clashes" doc:"rules that are broken, in all modes"`
	Cautions int     `json:"cautions"`
}

// Moved is a station that would stand elsewhere.
type Moved struct {
	ID   string  `json:"id"`
	Name string  `json:"name"`
	X    float64 `json:"x"`
	Y    float64 `json:"y"`
	Rot  float64 `json:"rot"`
}

// Proposal of an arrangement.
type Proposal struct {
	School School  `json:"school"`
	Says   string  `json:"says"`
	Moved  []Moved `json:"moved" nullable:"false"`
	Before Figures `json:"before"`
	After  Figures `json:"after"`
	Bound  float64 `json:"bound" doc:"metres a week: straight ways only, each station where that is best for it; none can be shorter while things live where they do"`
	// Shop as it would be.
	Shop *shop.Shop `json:"-"`
}

// Options of a search.
type Options struct {
	Area   string
	Pinned []string // stations that stay
	Tries  int      // of the search; 0 for the usual number
	Seed   uint64
	Grid   float64 // between spots, mm; 0 for the usual
}

// usualTries of the search for each school.
const usualTries = 600000

// Whole arranges a whole room in each school. Stations that are fixed to services stay when they are pinned; lodgers and what
// holds storage moves as one piece with what is in it.
func Whole(s *shop.Shop, o Options) ([]Proposal, error) {
	ix := shop.NewIndex(s)
	area := ix.Area(o.Area)
	if area == nil {
		return nil, fmt.Errorf("there is no area %q", o.Area)
	}
	found := make([]*Proposal, len(Schools))
	errs := make([]error, len(Schools))
	var wait sync.WaitGroup
	for i, school := range Schools {
		wait.Go(func() {
			p, err := newProblem(s, school.ID, o)
			if err != nil {
				errs[i] = err
				return
			}
			if x, ok := p.solve(school.ID, o); ok {
				x.Says = school.Says
				found[i] = &x
			}
		})
	}
	wait.Wait()
	if err := errs[0]; err != nil {
		return nil, err
	}
	before := figuresOf(s, area)
	out := []Proposal{}
	for _, x := range found {
		if x == nil || len(x.Moved) == 0 || slices.ContainsFunc(out, func(y Proposal) bool { return sameMoves(x.Moved, y.Moved) }) {
			continue
		}
		x.Before = before
		out = append(out, *x)
	}
	slices.SortStableFunc(out, func(a, b Proposal) int { return cmp.Compare(a.After.Walking, b.After.Walking) })
	return out, nil
}

func sameMoves(a, b []Moved) bool {
	return slices.EqualFunc(a, b, func(x, y Moved) bool { return x == y })
}

// spot is one of the spots a station may have.
type spot struct {
	st    shop.Station
	foot  geometry.Polygon
	low   geometry.Point // of what it takes with where one stands
	high  geometry.Point
	stand geometry.Point
	own   geometry.Polygon // kept free before its front
	walls []int32          // squares in which nobody walks when it stands there; worked out when first asked for
	near  []int32          // squares from which one gets at it
	alone float64          // metres a week to what does not move
	wish  float64          // of the school, the light, the dust and the feed
}

// pull is how often something is carried between two stations, or a station and a spot that stays, a week.
type pull struct {
	to   int // number of a station that moves; -1 for at
	at   geometry.Point
	rate float64
	near []int32 // squares by the spot; worked out when first asked for
}

type problem struct {
	s      *shop.Shop
	area   *shop.Area
	ids    []int // stations that move
	spots  [][]spot
	pulls  [][]pull
	pair   [][]float64
	middle geometry.Point
	lodger []bool
	ground *ground
	now    []int // spots as it stands
	field  field
}

func newProblem(s *shop.Shop, school School, o Options) (*problem, error) {
	ix := shop.NewIndex(s)
	area := ix.Area(o.Area)
	if area == nil {
		return nil, fmt.Errorf("there is no area %q", o.Area)
	}
	p := &problem{s: s, area: area}
	low, high := area.Outline().Bounds()
	p.middle = low.Add(high).Mul(.5)
	bare := *s
	bare.Stations, bare.Modes = nil, nil
	held := map[string]bool{} // stations that other things hang before are kept
	for i := range s.Stations {
		st := &s.Stations[i]
		if ix.Area(st.Area) != area || st.Mobility == shop.HungUp || slices.Contains(o.Pinned, st.ID) || held[st.ID] {
			bare.Stations = append(bare.Stations, *st)
		} else {
			p.ids = append(p.ids, i)
		}
	}
	if len(p.ids) == 0 {
		return nil, fmt.Errorf("every station is pinned: nothing can be arranged")
	}
	bare.Places, bare.Containers, bare.Homes = without(s, &bare)
	g, err := floor.Of(&bare, area, "")
	if err != nil {
		return nil, err
	}
	// What cannot be put aside keeps off the spots that carts and boats have in modes, too.
	bare.Modes = brought(s)
	inModes, err := floor.Of(&bare, area, "")
	if err != nil {
		return nil, err
	}
	var solid []geometry.Polygon
	for _, t := range access.StandingIn(&bare, shop.NewIndex(&bare), area) {
		solid = append(solid, t.Footprint)
	}
	p.ground = newGround(area, solid, s.Settings.Clearances().AisleSide)
	p.pair = make([][]float64, len(p.ids))
	p.pulls = make([][]pull, len(p.ids))
	for n, i := range p.ids {
		p.pair[n] = make([]float64, len(p.ids))
		p.lodger = append(p.lodger, s.Stations[i].Kind.Lodger())
	}
	p.weigh(ix)
	for _, i := range p.ids {
		st := &s.Stations[i]
		var list []spot
		seen := map[[3]int]bool{}
		add := func(at shop.Station) {
			key := [3]int{int(at.X.MM()), int(at.Y.MM()), int(at.Rot)}
			if seen[key] {
				return
			}
			seen[key] = true
			if st.Mobility.Aside() && g.At(&at) == nil || inModes.At(&at) == nil {
				list = append(list, newSpot(at))
			}
		}
		// Away from the walls stand what is worked at from all sides, what stands there now, and benches that are to be a hub.
		for _, at := range g.Spots(st, school == Hub && st.Kind.Bench() || away(area, st)) {
			if o.Grid == 0 || onGrid(&at, o.Grid) {
				add(at)
			}
		}
		now := newSpot(*st)
		if !slices.ContainsFunc(list, func(x spot) bool { return x.st.X == st.X && x.st.Y == st.Y && x.st.Rot == st.Rot }) {
			list = append(list, now) // as it stands, whatever is said of that
		}
		p.spots = append(p.spots, list)
	}
	for n, i := range p.ids {
		st := &s.Stations[i]
		p.now = append(p.now, slices.IndexFunc(p.spots[n], func(x spot) bool { return x.st.X == st.X && x.st.Y == st.Y && x.st.Rot == st.Rot }))
	}
	for n := range p.spots {
		for k := range p.spots[n] {
			p.spots[n][k].alone = p.alone(n, &p.spots[n][k])
		}
	}
	return p, nil
}

// brought are the modes with the spots of containers alone.
func brought(s *shop.Shop) (out []shop.Mode) {
	ix := shop.NewIndex(s)
	for _, m := range s.Modes {
		spots := map[string]shop.Standing{}
		for id, spot := range m.Spots {
			if ix.Container(id) != nil {
				spots[id] = spot
			}
		}
		m.Spots = spots
		out = append(out, m)
	}
	return out
}

// without are the places and containers that do not move along with a station of the problem.
func without(s, bare *shop.Shop) (places []shop.Place, containers []shop.Container, homes []shop.Home) {
	stays := func(at *shop.At) bool {
		return at.Station == "" || slices.ContainsFunc(bare.Stations, func(st shop.Station) bool { return st.ID == at.Station })
	}
	ix := shop.NewIndex(s)
	for i := range s.Places {
		if _, root := ix.Chain(&s.Places[i].At); stays(root) {
			places = append(places, s.Places[i])
		}
	}
	for i := range s.Containers {
		if _, root := ix.Chain(&s.Containers[i].At); stays(root) {
			containers = append(containers, s.Containers[i])
		}
	}
	return places, containers, nil
}

func onGrid(st *shop.Station, grid float64) bool {
	on := func(v float64) bool { return math.Abs(math.Mod(v+grid*1000, grid)) < 1 }
	return on(st.X.MM()) && on(st.Y.MM())
}

// before the front of a station so much is kept free of others, over its width: to stand there, and to pull drawers out.
const before = 500.0

// beside others a station either stands close, or so far off that one gets between.
const (
	close   = 60.0
	between = 620.0
)

func newSpot(st shop.Station) spot {
	x := spot{st: st, stand: st.Stand.Geometry()}
	x.foot = geometry.Rectangle(st.X.MM(), st.Y.MM(), st.W.MM(), st.D.MM(), st.Rot)
	out := x.foot[1].Sub(x.foot[2]).Unit().Mul(before)
	x.own = geometry.Polygon{x.foot[0], x.foot[1], x.foot[1].Add(out), x.foot[0].Add(out)}
	x.low, x.high = append(slices.Clone(x.foot), x.own...).Bounds()
	return x
}

// weigh works out what is carried between what, in times a week: things from their homes to where they are used and back, and
// the material of jobs from stop to stop.
func (p *problem) weigh(ix *shop.Index) {
	number := map[string]int{}
	for n, i := range p.ids {
		number[p.s.Stations[i].ID] = n
	}
	used := make([]bool, len(p.ids))
	link := func(a, b string, rate float64) {
		n, moves := number[a]
		k, moves2 := number[b]
		switch {
		case moves && moves2 && n != k:
			p.pair[n][k] += rate
			p.pair[k][n] += rate
			used[n], used[k] = true, true
		case moves && !moves2:
			if at, ok := flow.Spot(p.s, ix, p.area, b); ok {
				p.pulls[n] = append(p.pulls[n], pull{-1, at, rate, nil})
				used[n] = true
			}
		case moves2 && !moves:
			if at, ok := flow.Spot(p.s, ix, p.area, a); ok {
				p.pulls[k] = append(p.pulls[k], pull{-1, at, rate, nil})
				used[k] = true
			}
		}
	}
	for i := range p.s.Homes {
		h := &p.s.Homes[i]
		it, place := ix.Item(h.Item), ix.Place(h.Place)
		if it == nil || place == nil || it.UsesPerWeek == 0 {
			continue
		}
		at := it.UsedAt
		if len(at) == 0 && len(p.s.Stations) > 0 {
			at = []string{p.s.Stations[0].ID}
		}
		from := place.ID
		if _, root := ix.Chain(&place.At); root.Station != "" {
			from = root.Station
		}
		for _, st := range at {
			share := it.UsesPerWeek * float64(h.Number(it)) / float64(max(1, it.Number())) / float64(len(at))
			link(st, from, 2*share)
		}
	}
	jobs, _ := flow.Jobs(p.s, p.area)
	for _, j := range jobs {
		for k := 1; k < len(j.Path); k++ {
			link(j.Path[k-1], j.Path[k], j.PerMonth*12/52)
		}
	}
	// What no job and no thing comes to is still gone to from the benches now and then.
	for n, i := range p.ids {
		if used[n] || p.lodger[n] {
			continue
		}
		for k, other := range p.ids {
			if k != n && p.s.Stations[other].Kind.Bench() && !p.s.Stations[i].Kind.Bench() {
				p.pair[n][k] += visits
				p.pair[k][n] += visits
			}
		}
	}
}

// alone is what a spot costs in straight metres a week to what does not move.
func (p *problem) alone(n int, x *spot) float64 {
	sum := 0.0
	for _, l := range p.pulls[n] {
		sum += l.rate * x.stand.Distance(l.at) / 1000
	}
	return sum
}

// nearest wall to a spot, and how far it is.
func nearest(outline geometry.Polygon, p geometry.Point) (far float64, wall int) {
	far = math.Inf(1)
	for k := range outline {
		if d := outline.Edge(k).Distance(p); d < far {
			far, wall = d, k
		}
	}
	return far, wall
}

// away tells whether a station stands away from the walls, so that one gets round it.
func away(a *shop.Area, st *shop.Station) bool {
	foot := geometry.Rectangle(st.X.MM(), st.Y.MM(), st.W.MM(), st.D.MM(), st.Rot)
	far, _ := nearest(a.Outline(), foot[0].Add(foot[2]).Mul(.5))
	return far > st.D.MM()/2+300 && far > st.W.MM()/2+300
}

// wish is what the school, light, dust and long pieces make of a spot, in metres a week.
func (p *problem) wish(n int, x *spot, school School) float64 {
	st := &x.st
	mid := x.foot[0].Add(x.foot[2]).Mul(.5)
	sum := 0.0
	outline := p.area.Outline()
	_, wall := nearest(outline, mid)
	away := away(p.area, st)
	switch {
	case school == Hub && st.Kind.Bench():
		sum += atHub * mid.Distance(p.middle) / 1000
	case away && school == Rim:
		sum += offWall
	case away && school != Hub:
		sum += inMiddle
	}
	if school == Rolls && st.Mobility.Aside() {
		best := math.Inf(1)
		for _, c := range outline {
			best = min(best, c.Distance(mid))
		}
		sum += parked * best / 1000
	}
	usual := st.Kind.Supply()
	w := &p.area.Walls[wall]
	frame := p.area.Frame(wall)
	along, _ := frame.Coordinates(mid)
	opening := math.Inf(1)
	for k := range p.area.Walls {
		for i := range p.area.Walls[k].Features {
			f := &p.area.Walls[k].Features[i]
			if f.Kind.Lit() || f.Kind.Passage() {
				opening = min(opening, p.area.Frame(k).Spot((f.X+f.W/2).MM(), 0).Distance(mid))
			}
		}
	}
	for i := range w.Features {
		f := &w.Features[i]
		half := st.W.MM() / 2
		if !f.Kind.Lit() || away || along+half < f.X.MM() || along-half > (f.X+f.W).MM() {
			continue
		}
		if max(st.H, st.Tall) > f.Z+f.H/3 {
			sum += dark
		} else if usual.Light > 0 && st.Kind.Bench() {
			sum -= light * usual.Light / 750
		}
	}
	if usual.Dust >= 400 && !math.IsInf(opening, 1) {
		sum += dusty * opening / 1000
	}
	return sum
}

// apart tells whether two stations can stand where they are: not in each other, nor one where one stands at the other.
func apart(a, b *spot, lodgerA, lodgerB bool) bool {
	if a.high.X <= b.low.X || b.high.X <= a.low.X || a.high.Y <= b.low.Y || b.high.Y <= a.low.Y {
		return true
	}
	if a.foot.Overlaps(b.foot, 1) {
		return false
	}
	if !lodgerA && b.foot.Overlaps(a.own, 1) || !lodgerB && a.foot.Overlaps(b.own, 1) {
		return false
	}
	return true
}

// gapped tells whether there is no gap between two stations that is too narrow to pass and too wide to be none.
func gapped(a, b *spot) bool {
	if a.high.X+between <= b.low.X || b.high.X+between <= a.low.X || a.high.Y+between <= b.low.Y || b.high.Y+between <= a.low.Y {
		return true
	}
	d := math.Inf(1)
	for _, c := range a.foot {
		d = min(d, b.foot.Distance(c))
	}
	for _, c := range b.foot {
		d = min(d, a.foot.Distance(c))
	}
	return d <= close || d >= between
}

// together tells whether two stations can have their spots at the same time. As they stand now they can, whatever is said of it.
func (p *problem) together(n, k, m, l int) bool {
	a, b := &p.spots[n][k], &p.spots[m][l]
	if !apart(a, b, p.lodger[n], p.lodger[m]) {
		return false
	}
	return gapped(a, b) || p.now[n] == k && p.now[m] == l
}

// state is which spot each station has.
type state struct {
	at   []int
	cost float64
}

// costOf a station in a state: to what stays, its wish, and to all others.
func (p *problem) costOf(n, k int, at []int) float64 {
	x := &p.spots[n][k]
	sum := x.alone + x.wish
	for m, w := range p.pair[n] {
		if w > 0 && m != n {
			sum += w * x.stand.Distance(p.spots[m][at[m]].stand) / 1000
		}
	}
	return sum
}

// total of a state.
func (p *problem) total(at []int) float64 {
	sum := 0.0
	for n, k := range at {
		x := &p.spots[n][k]
		sum += x.alone + x.wish
		for m := range n {
			if w := p.pair[n][m]; w > 0 {
				sum += w * x.stand.Distance(p.spots[m][at[m]].stand) / 1000
			}
		}
	}
	return sum
}

// fits tells whether a station can have a spot with the others where they are, but for one that is about to move.
func (p *problem) fits(n, k int, at []int, but int) bool {
	for m := range at {
		if m != n && m != but && !p.together(n, k, m, at[m]) {
			return false
		}
	}
	return true
}

// solve looks for the cheapest arrangement of a school: from as it stands, and anew from spots taken at random, by moving one
// station or changing two about; worse ones are taken now and then, less and less (simulated annealing). Of those found the
// cheapest is taken to whose stations one gets on ways wide enough, in every mode.
func (p *problem) solve(school School, o Options) (Proposal, bool) {
	for n := range p.spots {
		for k := range p.spots[n] {
			p.spots[n][k].wish = p.wish(n, &p.spots[n][k], school)
		}
	}
	tries := cmp.Or(o.Tries, usualTries)
	rng := rand.New(rand.NewPCG(o.Seed, uint64(len(p.ids))))
	var found []state
	keep := func(s state) {
		if len(found) == mostKept && s.cost >= found[len(found)-1].cost || !p.reached(s.at) {
			return
		}
		s.at = slices.Clone(s.at)
		i, there := slices.BinarySearchFunc(found, s, func(a, b state) int { return cmp.Compare(a.cost, b.cost) })
		if there && slices.Equal(found[i].at, s.at) {
			return
		}
		if found = slices.Insert(found, i, s); len(found) > mostKept {
			found = found[:mostKept]
		}
	}
	start := p.now
	lawful := func(at []int) bool {
		for n := range at {
			if !p.fits(n, at[n], at, -1) {
				return false
			}
		}
		return true
	}
	for run := range runs {
		at := slices.Clone(start)
		if run > 0 {
			if r, ok := p.random(rng); ok {
				at = r
			}
		}
		legal := lawful(at)
		cost := p.total(at)
		heat := max(1, .05*cost)
		n := tries / runs
		for t := range n {
			temp := heat * math.Pow(.002, float64(t)/float64(n))
			a := rng.IntN(len(at))
			if rng.IntN(4) == 0 && len(at) > 1 { // two change about: each to a spot near the other's
				b := rng.IntN(len(at))
				if a == b {
					continue
				}
				ka, ok := p.near(a, &p.spots[b][at[b]], rng)
				kb, ok2 := p.near(b, &p.spots[a][at[a]], rng)
				if !ok || !ok2 || !p.fits(a, ka, at, b) {
					continue
				}
				wasA, wasB := at[a], at[b]
				at[a] = ka
				if !p.fits(b, kb, at, -1) {
					at[a] = wasA
					continue
				}
				at[b] = kb
				if next := p.total(at); next < cost || rng.Float64() < math.Exp((cost-next)/temp) {
					cost = next
				} else {
					at[a], at[b] = wasA, wasB
					continue
				}
			} else {
				k := rng.IntN(len(p.spots[a]))
				if rng.IntN(2) == 0 { // often one close by
					if near, ok := p.near(a, &p.spots[a][at[a]], rng); ok {
						k = near
					}
				}
				if k == at[a] || !p.fits(a, k, at, -1) {
					continue
				}
				d := p.costOf(a, k, at) - p.costOf(a, at[a], at)
				if d >= 0 && rng.Float64() >= math.Exp(-d/temp) {
					continue
				}
				at[a] = k
				cost += d
			}
			if !legal {
				legal = lawful(at)
			}
			if legal && (len(found) < few || cost < found[min(few, len(found))-1].cost) {
				keep(state{at, cost})
			}
		}
		if legal {
			p.descend(at, lawful)
			keep(state{at, p.total(at)})
		}
	}
	// Ways round what stands there are longer than straight ones: the best few, and how it stands, are gone on from with those.
	var walked []state
	begin := append([]state{{start, 0}}, found[:min(len(found), few)]...)
	for _, f := range begin {
		if !lawful(f.at) || !p.reached(f.at) {
			continue
		}
		x := p.onFoot(slices.Clone(f.at), rng, tries/asked)
		walked = append(walked, x)
	}
	slices.SortStableFunc(walked, func(a, b state) int { return cmp.Compare(a.cost, b.cost) })
	bound := p.bound()
	for _, f := range walked {
		if x, ok := p.proposal(f.at); ok {
			x.School, x.Bound = school, bound
			return x, true
		}
	}
	return Proposal{}, false
}

const (
	runs     = 6
	mostKept = 40
	asked    = 1800 // a way on foot costs so many times what a straight one does
	few      = 8    // while it is searched only what is among so many best is looked at closer
)

// descend moves one station at a time to its best spot until none is better.
func (p *problem) descend(at []int, lawful func([]int) bool) {
	for better := true; better; {
		better = false
		for n := range at {
			was := p.costOf(n, at[n], at)
			best, low := at[n], was
			for k := range p.spots[n] {
				if c := p.costOf(n, k, at); c < low-1e-9 && p.fits(n, k, at, -1) {
					best, low = k, c
				}
			}
			if best != at[n] {
				at[n], better = best, true
			}
		}
	}
}

// onFoot goes on from an arrangement by ways round what stands there: one station at a time to another spot that is hopeful by
// straight ways, kept when it is better, now and then when it is a little worse.
func (p *problem) onFoot(at []int, rng *rand.Rand, tries int) state {
	cost := p.walked(at)
	best := state{slices.Clone(at), cost}
	for t := range tries {
		temp := .01 * cost * (1 - float64(t)/float64(tries))
		n := rng.IntN(len(at))
		was, straight := at[n], p.costOf(n, at[n], at)
		k, low := -1, math.Inf(1)
		for range hopeful {
			c := rng.IntN(len(p.spots[n]))
			if rng.IntN(3) > 0 {
				c, _ = p.near(n, &p.spots[n][at[n]], rng)
			}
			if c != was && p.fits(n, c, at, -1) {
				if d := p.costOf(n, c, at); d < low {
					k, low = c, d
				}
			}
		}
		if k < 0 || low > straight+.05*cost {
			continue
		}
		at[n] = k
		if next := p.walked(at); (next < cost || rng.Float64() < math.Exp((cost-next)/max(temp, 1e-6))) && p.reached(at) {
			if cost = next; cost < best.cost {
				best = state{slices.Clone(at), cost}
			}
			continue
		}
		at[n] = was
	}
	return best
}

// hopeful is how many spots are compared by straight ways before one is walked to.
const hopeful = 8

// near is one of a station's spots close to where something stands.
func (p *problem) near(n int, to *spot, rng *rand.Rand) (int, bool) {
	mid := to.foot[0].Add(to.foot[2]).Mul(.5)
	best, far := -1, math.Inf(1)
	for range 12 {
		k := rng.IntN(len(p.spots[n]))
		x := &p.spots[n][k]
		if d := x.foot[0].Add(x.foot[2]).Mul(.5).Distance(mid); d < far {
			best, far = k, d
		}
	}
	return best, best >= 0
}

// random is an arrangement in which each station has a spot of its own; false when none is found soon.
func (p *problem) random(rng *rand.Rand) ([]int, bool) {
	for range 20 {
		at := make([]int, len(p.ids))
		var put []int
		done := true
		for _, n := range rng.Perm(len(at)) {
			ok := false
			for range 200 {
				k := rng.IntN(len(p.spots[n]))
				if !slices.ContainsFunc(put, func(m int) bool { return !p.together(n, k, m, at[m]) }) {
					at[n], ok = k, true
					put = append(put, n)
					break
				}
			}
			if !ok {
				done = false
				break
			}
		}
		if done {
			return at, true
		}
	}
	return nil, false
}

// bound is what no arrangement of these spots can be below, in straight metres a week without wishes: each station at its best
// to what stays, each pair as near as any of their spots that are apart.
func (p *problem) bound() float64 {
	sum := 0.0
	for n := range p.spots {
		low := math.Inf(1)
		for k := range p.spots[n] {
			low = min(low, p.spots[n][k].alone)
		}
		sum += low
		for m := range n {
			w := p.pair[n][m]
			if w == 0 {
				continue
			}
			near := math.Inf(1)
			for k := range p.spots[n] {
				for l := range p.spots[m] {
					if d := p.spots[n][k].stand.Distance(p.spots[m][l].stand); d < near && apart(&p.spots[n][k], &p.spots[m][l], p.lodger[n], p.lodger[m]) {
						near = d
					}
				}
			}
			sum += w * near / 1000
		}
	}
	return sum
}

// proposal is a shop with the stations where a state has them, and whatever stands there in modes settled; false when one does
// not get to every station, or a rule is broken that was not before.
func (p *problem) proposal(at []int) (Proposal, bool) {
	next := p.s.Clone()
	x := Proposal{Moved: []Moved{}, Shop: next}
	for n, i := range p.ids {
		to := p.spots[n][at[n]].st
		st := &next.Stations[i]
		if st.X == to.X && st.Y == to.Y && st.Rot == to.Rot {
			continue
		}
		st.X, st.Y, st.Rot, st.Stand = to.X, to.Y, to.Rot, to.Stand
		x.Moved = append(x.Moved, Moved{st.ID, st.Name, st.X.MM(), st.Y.MM(), st.Rot})
	}
	l, err := mode.Breaches(next, "", p.area.ID)
	if err != nil {
		return x, false
	}
	was, err := mode.Breaches(p.s, "", p.area.ID)
	if err != nil || hard(l) > hard(was) || narrow(l) && !narrow(was) {
		return x, false
	}
	if !Settle(next, p.area.ID) {
		return x, false
	}
	for _, id := range modeIDs(next) {
		was, err := mode.Breaches(p.s, id, p.area.ID)
		then, err2 := mode.Breaches(next, id, p.area.ID)
		if err != nil || err2 != nil || hard(then) > hard(was) {
			return x, false
		}
	}
	x.After = figuresOf(next, shop.NewIndex(next).Area(p.area.ID))
	return x, true
}

func hard(l []mode.Breach) (n int) {
	for _, b := range l {
		if b.Hard {
			n++
		}
	}
	return n
}

// narrow tells whether a station is not got to on a way wide enough.
func narrow(l []mode.Breach) bool {
	return slices.ContainsFunc(l, func(b mode.Breach) bool { return b.Code == "way" })
}

// figuresOf a shop as it stands, in an area.
func figuresOf(s *shop.Shop, area *shop.Area) Figures {
	f := Figures{Walking: Walking(s, area)}
	for i, id := range append([]string{""}, modeIDs(s)...) {
		l, err := mode.Of(s, id, area.ID)
		if err != nil {
			continue
		}
		f.Clashes += hard(l.Breaches)
		f.Cautions += len(l.Breaches) - hard(l.Breaches)
		if i == 0 {
			f.Open = l.Open.W * l.Open.D / 1e6
			f.Narrow = math.Inf(1)
			for _, w := range l.Ways {
				f.Narrow = min(f.Narrow, w.Wide)
			}
			if math.IsInf(f.Narrow, 1) {
				f.Narrow = 0
			}
		}
	}
	f.Feed = short(s, area)
	return f
}

func modeIDs(s *shop.Shop) (out []string) {
	for i := range s.Modes {
		out = append(out, s.Modes[i].ID)
	}
	return out
}

// Walking is what is walked and carried in a week in an area as it stands, in metres round what stands there: things from their
// homes to where they are used and back, and the material of jobs. Where there is no way twice the straight one counts.
func Walking(s *shop.Shop, area *shop.Area) float64 {
	p := &problem{s: s, area: area}
	ix := shop.NewIndex(s)
	for i := range s.Stations {
		if ix.Area(s.Stations[i].Area) == area {
			p.ids = append(p.ids, i)
			p.lodger = append(p.lodger, s.Stations[i].Kind.Lodger())
		}
	}
	p.pair, p.pulls = make([][]float64, len(p.ids)), make([][]pull, len(p.ids))
	for n := range p.ids {
		p.pair[n] = make([]float64, len(p.ids))
	}
	p.weigh(ix)
	var solid []geometry.Polygon
	for _, t := range access.StandingIn(s, ix, area) {
		solid = append(solid, t.Footprint)
	}
	f := walk.NewFloor(area.Outline(), solid, walk.BodyRadius)
	sum := 0.0
	for n, i := range p.ids {
		from := s.Stations[i].Stand.Geometry()
		ways := f.From(from)
		far := func(to geometry.Point) float64 {
			if p, ok := ways.To(to); ok {
				return p.Length
			}
			return 2 * from.Distance(to)
		}
		for _, l := range p.pulls[n] {
			sum += l.rate * far(l.at) / 1000
		}
		for m := range n {
			if w := p.pair[n][m]; w > 0 {
				sum += w * far(s.Stations[p.ids[m]].Stand.Geometry()) / 1000
			}
		}
	}
	return sum
}
