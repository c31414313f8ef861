// Package served says what it costs a station to stand off what serves it: the outlet its cord gets to, the extractor its hose comes
// from, the wall that somebody lives behind, what burns near fumes. Prices are in metres of walking a week, so that they weigh against
// the ways; lengths are millimetres. It looks along straight lines, which are never longer than the way of a cord: what is priced as
// short is short. The supply of a room as it stands is worked out by package supply.
package served

import (
	"cmp"
	"fmt"
	"math"
	"slices"

	"hobrak/internal/core/geometry"
	"hobrak/internal/core/shop"
)

// Estimates of cords and hoses.
const (
	UsualCord = 2000.0 // of a machine whose cord nobody measured, mm
	UsualHose = 4000.0 // that come with an extractor, mm
	Ports     = 1600.0 // mm of hose that are not on the floor: up to both
	inlet     = 500.0  // height at which a cord comes to a machine, mm, or its table where that is lower
	FumesFrom = 3000.0 // between fumes and what burns, glows or throws sparks, mm (the tin and the fire code say more)
	HeatFrom  = 300.0  // round what warms air where its maker says nothing, mm
	GlowFrom  = 1000.0 // before what glows, likewise; local codes come first
	quietFrom = 3000.0 // from a wall somebody lives behind, mm
	loudFrom  = 85.0   // dB(A)
)

// Prices, in metres of walking a week (estimates: how far people will walk rather than bear it).
const (
	aMetreShort = 8.0  // of cord or hose: a lead across the floor, a hose that is carried about
	aMetreHose  = .5   // of hose to what wants 400 m³/h: it costs suction
	aMetreQuiet = 4.0  // nearer to a wall somebody lives behind
	atFire      = 60.0 // fumes by what burns, or anything in the clearance of a heater
	hiddenPlug  = 15.0 // to stand before an outlet that something else is plugged into
)

// Outlet with the point on the floor below it.
type Outlet struct {
	F    *shop.Feature
	At   geometry.Point
	Wall string
	nth  int // of the outlets on its wall, from the left
	of   int // so many are there
}

// Called is an outlet in words: by the name it was given, else by its wall, and which of several from the left.
func (o *Outlet) Called() string {
	switch {
	case o.F.Name != "":
		return o.F.Name
	case o.of > 1:
		return fmt.Sprintf("outlet %d on wall %s", o.nth, o.Wall)
	}
	return "the outlet on wall " + o.Wall
}

// Rises are the parts of a cord to a station that are not on the floor.
func (o *Outlet) Rises(st *shop.Station) float64 {
	return (o.F.Z + o.F.H/2).MM() + min(inlet, st.H.MM())
}

// Outlets of an area, each wall from the left.
func Outlets(a *shop.Area) (out []Outlet) {
	for i := range a.Walls {
		var here []Outlet
		for k := range a.Walls[i].Features {
			if f := &a.Walls[i].Features[k]; f.Kind == "outlet" {
				here = append(here, Outlet{F: f, At: a.Frame(i).Spot((f.X + f.W/2).MM(), 20), Wall: a.Walls[i].ID})
			}
		}
		slices.SortStableFunc(here, func(a, b Outlet) int { return cmp.Compare(a.F.X, b.F.X) })
		for k := range here {
			here[k].nth, here[k].of = k+1, len(here)
		}
		out = append(out, here...)
	}
	return out
}

// Extracts tells whether a kind sucks dust off others.
func Extracts(k shop.StationKind) bool {
	return slices.Contains([]shop.StationKind{"extractor", "cyclone", "shop-vacuum"}, k)
}

// Wants is the air a machine asks for, m³/h, and whether that was read off its plate.
func Wants(st *shop.Station) (flow float64, stated bool) {
	if Extracts(st.Kind) || st.Kind == "air-cleaner" {
		return 0, false
	}
	if st.Flow > 0 {
		return st.Flow, true
	}
	return st.Kind.Supply().Dust, false
}

// Have is the cord of a station with the lead that is laid to it, mm, and whether a usual cord was taken.
func Have(st *shop.Station) (long float64, usual bool) {
	if st.Cord == 0 {
		return UsualCord + st.Lead.MM(), true
	}
	return st.Cord.MM() + st.Lead.MM(), false
}

// Prices of spots in an area.
type Prices struct {
	outlets []Outlet
	quiet   []geometry.Segment
	others  []other
	strips  map[string]float64 // mm of lead of each strip
}

// other station that stays where it is.
type other struct {
	st   *shop.Station
	foot geometry.Polygon
}

// New makes the prices of an area; the stations that may move are left out of what serves.
func New(s *shop.Shop, a *shop.Area, moves func(*shop.Station) bool) *Prices {
	p := &Prices{outlets: Outlets(a), strips: map[string]float64{}}
	for i := range a.Walls {
		if a.Walls[i].Beyond != "" {
			p.quiet = append(p.quiet, a.Outline().Edge(i))
		}
	}
	ix := shop.NewIndex(s)
	for i := range s.Stations {
		if st := &s.Stations[i]; ix.Area(st.Area) == a && st.Wished == "" && !moves(st) {
			p.others = append(p.others, other{st, st.Footprint()})
		}
	}
	for _, x := range s.Settings.Strips {
		p.strips[x.ID] = x.Lead.MM()
	}
	return p
}

// Short is how much cord a station lacks at a spot to the outlet it is plugged into, or to the nearest, mm; 0 when it gets there or no
// outlet is marked.
func (p *Prices) Short(st *shop.Station) float64 {
	if st.Amps <= 0 || len(p.outlets) == 0 {
		return 0
	}
	have, _ := Have(st)
	have += p.strips[st.Outlet]
	foot := st.Footprint()
	best, chosen := math.Inf(1), math.Inf(1)
	for i := range p.outlets {
		o := &p.outlets[i]
		need := o.Rises(st)
		if !foot.Contains(o.At) {
			need += foot.Distance(o.At)
		}
		best = min(best, need)
		if o.F.ID == st.Outlet {
			chosen = need
		}
	}
	if !math.IsInf(chosen, 1) {
		best = chosen
	}
	return max(0, best-have)
}

// At is what the spot of a station costs, metres of walking a week.
func (p *Prices) At(st *shop.Station) float64 {
	sum := aMetreShort * p.Short(st) / 1000
	foot := st.Footprint()
	if flow, _ := Wants(st); flow > 0 {
		sum += p.hose(foot, flow)
	}
	if Extracts(st.Kind) {
		for _, o := range p.others {
			if flow, _ := Wants(o.st); flow > 0 {
				sum += aMetreHose * min(2, flow/400) * foot.Gap(o.foot) / 1000
			}
		}
	}
	if db := Level(st); db >= loudFrom {
		for _, e := range p.quiet {
			mid := foot[0].Add(foot[2]).Mul(.5)
			sum += aMetreQuiet * max(0, quietFrom-e.Distance(mid)) / 1000 * (1 + (db-loudFrom)/10)
		}
	}
	return sum + p.fire(st, foot) + p.before(st, foot)
}

// hose from the nearest extractor that stays.
func (p *Prices) hose(foot geometry.Polygon, flow float64) float64 {
	best, have := math.Inf(1), 0.0
	for _, o := range p.others {
		if d := foot.Gap(o.foot); Extracts(o.st.Kind) && d < best {
			best, have = d, o.st.Hose.MM()
		}
	}
	if math.IsInf(best, 1) {
		return 0
	}
	if have == 0 {
		have = UsualHose
	}
	return aMetreHose*min(2, flow/400)*best/1000 + aMetreShort*max(0, best+Ports-have)/1000
}

// fire: fumes by what burns, and what stands in the clearance of a heater.
func (p *Prices) fire(st *shop.Station, foot geometry.Polygon) (sum float64) {
	for _, o := range p.others {
		if !o.st.Kind.Burning() && !st.Kind.Burning() {
			continue
		}
		d := foot.Gap(o.foot)
		if d < FumesFrom && (st.Breath() == "fumes" && o.st.Kind.Burning() || o.st.Breath() == "fumes" && st.Kind.Burning()) {
			sum += atFire
		}
		if keep := max(Clearance(st.Kind), Clearance(o.st.Kind)); d < keep {
			sum += atFire
		}
	}
	return sum
}

// Clearance of what gives heat, mm; 0 of what gives none.
func Clearance(k shop.StationKind) float64 {
	switch k {
	case "stove":
		return GlowFrom
	case "heater", "water-heater":
		return HeatFrom
	}
	return 0
}

// before an outlet that something else is plugged into.
func (p *Prices) before(st *shop.Station, foot geometry.Polygon) (sum float64) {
	if st.Kind.Bench() || st.Kind.Footed() {
		return 0
	}
	for i := range p.outlets {
		o := &p.outlets[i]
		if (o.F.Z+o.F.H/2) >= max(st.H, st.Tall) || !foot.Contains(o.At) && foot.Distance(o.At) > 40 {
			continue
		}
		for _, x := range p.others {
			if x.st.Outlet == o.F.ID {
				sum += hiddenPlug
			}
		}
	}
	return sum
}

// boxedBy is what a vented box of 18 mm board takes off, dB (an estimate).
const boxedBy = 8.0

// Level of a machine where one stands at it, dB(A): as stated, or usual for its kind; less its box.
func Level(st *shop.Station) float64 {
	db := st.DB
	if db == 0 {
		db = st.Kind.Supply().Noise
	}
	if st.Boxed && db > 0 {
		db -= boxedBy
	}
	return db
}
