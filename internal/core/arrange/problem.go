package arrange

import (
	"fmt"
	"math"
	"slices"

	"hobrak/internal/core/access"
	"hobrak/internal/core/floor"
	"hobrak/internal/core/flow"
	"hobrak/internal/core/geometry"
	"hobrak/internal/core/served"
	"hobrak/internal/core/shop"
)

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

// pull is how often a week something is carried between a station and a spot that stays.
type pull struct {
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
	rest   float64 // metres a week, straight, between what does not move
	middle geometry.Point
	lodger []bool
	ground *ground
	now    []int // spots as it stands
	field  field
	served *served.Prices
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
	for i := range s.Stations {
		st := &s.Stations[i]
		if ix.Area(st.Area) != area || st.Mobility == shop.HungUp || slices.Contains(o.Pinned, st.ID) {
			bare.Stations = append(bare.Stations, *st)
		} else {
			p.ids = append(p.ids, i)
		}
	}
	if len(p.ids) == 0 && len(o.Pinned) == 0 {
		return nil, fmt.Errorf("no station stands in this area that could be moved")
	}
	if len(p.ids) == 0 {
		return nil, fmt.Errorf("every station is pinned: nothing can be arranged")
	}
	p.served = served.New(s, area, func(st *shop.Station) bool {
		return !slices.ContainsFunc(bare.Stations, func(o shop.Station) bool { return o.ID == st.ID })
	})
	bare.Places, bare.Containers = without(s, &bare)
	bare.Homes = nil
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
		now := slices.IndexFunc(list, func(x spot) bool { return x.st.X == st.X && x.st.Y == st.Y && x.st.Rot == st.Rot })
		if now < 0 { // as it stands, whatever is said of that
			now, list = len(list), append(list, newSpot(*st))
		}
		p.spots, p.now = append(p.spots, list), append(p.now, now)
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
func without(s, bare *shop.Shop) (places []shop.Place, containers []shop.Container) {
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
	return places, containers
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
	x.foot = st.Footprint()
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
				p.pulls[n] = append(p.pulls[n], pull{at: at, rate: rate})
				used[n] = true
			}
		case moves2 && !moves:
			if at, ok := flow.Spot(p.s, ix, p.area, a); ok {
				p.pulls[k] = append(p.pulls[k], pull{at: at, rate: rate})
				used[k] = true
			}
		case !moves && !moves2:
			at, ok := flow.Spot(p.s, ix, p.area, a)
			to, ok2 := flow.Spot(p.s, ix, p.area, b)
			if ok && ok2 && (ix.Station(a) != nil || ix.Station(b) != nil) {
				p.rest += rate * at.Distance(to) / 1000
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
			link(j.Path[k-1], j.Path[k], j.PerWeek())
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
	foot := st.Footprint()
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
	return sum + p.served.At(st)
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
	d := a.foot.Gap(b.foot)
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
