package access

import (
	"fmt"
	"hobrak/internal/core/geometry"
	"hobrak/internal/core/weight"
	"math"
	"slices"

	"hobrak/internal/core/keeping"
	"hobrak/internal/core/reach"
	"hobrak/internal/core/shop"
	"hobrak/internal/core/walk"
)

// Use is what an item is used for, prepared for quick costing.
type Use struct {
	Item     *shop.Item
	Rate     float64 // uses a week
	stations []int
	lifted   bool // heavy enough for the lifting equation, or for somebody
	table    []float64
	who      []int // the adults who use it
	hand     int   // 1 when all of them are right-handed, -1 left-handed, 0 both
}

// Lifted tells whether the item is heavy enough for lifting it to be judged, which goes by the height it is at.
func (u *Use) Lifted() bool { return u.lifted }

// UseOf prepares an item. Without stations of its own it is used at the first one.
func (m *Map) UseOf(it *shop.Item) Use {
	u := Use{Item: it, Rate: it.UsesPerWeek, lifted: it.KG.KG() >= reach.LiftFrom}
	for i := range m.bodies {
		if it.Whose != "" && m.bodies[i].ID == it.Whose {
			u.who = []int{i}
		}
	}
	if len(u.who) == 0 { // anybody's
		u.who = m.all
	}
	left := 0
	for _, i := range u.who {
		b := &m.bodies[i]
		u.lifted = u.lifted || b.Lifts > 0 && it.KG.KG() > b.Lifts
		if b.LeftHanded {
			left++
		}
	}
	switch left {
	case 0:
		u.hand = 1
	case len(u.who):
		u.hand = -1
	}
	for _, id := range it.UsedAt {
		if i, ok := m.stations[id]; ok {
			u.stations = append(u.stations, i)
		}
	}
	if len(u.stations) == 0 && len(m.ways) > 0 {
		u.stations = []int{0}
	}
	for _, i := range u.stations {
		u.table = append(u.table, m.Shop.Stations[i].H.MM())
	}
	return u
}

// Front of place i of the shop.
func (m *Map) Front(i int) *Front { return &m.fronts[i] }

// Middle is the point on the floor before the middle of a place, in mm, and the area
// it is in.
func (m *Map) Middle(place int) (*shop.Area, geometry.Point) {
	f := &m.fronts[place]
	if f.host == nil {
		return f.Area, geometry.Point{}
	}
	if f.host.overall {
		return f.Area, f.host.centre
	}
	return f.Area, f.host.frame.Spot(f.X+f.Place.W.MM()/2, 0)
}

// PlaceNumber is the position of a place in the shop, -1 when there is none of that id.
func (m *Map) PlaceNumber(id string) int {
	if i, ok := m.places[id]; ok {
		return i
	}
	return -1
}

// columnAt is the column of a front at x from the place's left.
func (m *Map) columnAt(f *Front, x float64) *column {
	return f.host.column(int(math.Floor((f.X + x) / ColumnWidth)))
}

// band at a spot, of whom of some adults it is worst, and whether things must be rolled away for it.
func (m *Map) band(c *column, z float64, who []int) (reach.Band, *reach.Body, bool) {
	b, body := m.worst(c.full, z, who)
	if b == reach.OutOfReach && len(c.blockers) > 0 {
		if b, body := m.worst(c.clear, z, who); b != reach.OutOfReach {
			return b, body, true
		}
	}
	return b, body, false
}

// worst is how a height is reached by the one of some adults to whom it is most trouble.
func (m *Map) worst(zones []reach.Zones, z float64, who []int) (reach.Band, *reach.Body) {
	worst, body, most := reach.OutOfReach, &m.bodies[who[0]], math.Inf(-1)
	for _, i := range who {
		b := zones[i].At(z)
		if b == reach.OutOfReach {
			return b, &m.bodies[i]
		}
		if t := reach.PostureSeconds(&m.bodies[i], b, &m.Estimates); t > most {
			worst, body, most = b, &m.bodies[i], t
		}
	}
	return worst, body
}

// areaTime is the walking time between the area of a station and that of a front.
func (m *Map) areaTime(f *Front, station int) (float64, bool) {
	from := m.Index.Area(m.Shop.Stations[station].Area)
	if from == f.Area {
		return 0, true
	}
	return from.WalkSeconds + f.Area.WalkSeconds, false
}

// Weekly is the weekly handling of an item at a grip of a place in seconds:
// uses × (fetch + put back), averaged over those stations it is used at where one can work, over all where one can at none. OK is
// false when it cannot be reached there. Aside is how many things stand before it.
func (m *Map) Weekly(u *Use, place int, g keeping.Grip, aside int) (seconds float64, ok bool) {
	f := &m.fronts[place]
	if f.host == nil {
		return 0, false
	}
	c := m.columnAt(f, g.X)
	band, body, rolled := m.band(c, f.Z+g.Z, u.who)
	if band == reach.OutOfReach {
		return 0, false
	}
	e := &m.Estimates
	t := 2*(reach.PostureSeconds(body, band, e)+reach.GraspSeconds(f.heap)+float64(aside)*e.Aside) + m.search(u, f)
	for _, a := range f.Accesses {
		t += 2 * a.Seconds(e)
	}
	if rolled {
		t += 2 * e.RollOut * float64(len(c.blockers))
	}
	if f.LiftOut {
		t += 2 * e.LiftOut
	}
	if len(u.stations) > 0 {
		way, worked := 0.0, 0
		none := !slices.ContainsFunc(u.stations, m.Worked)
		for _, s := range u.stations {
			if !none && !m.Worked(s) {
				continue
			}
			worked++
			if area, same := m.areaTime(f, s); !same {
				way += 4*area + 2*reach.TurnSeconds(true)
				continue
			}
			d := m.from(c, s)
			if math.IsInf(d, 1) {
				return 0, false
			}
			way += 4*reach.WalkSeconds(m.walker(u), d) + 2*reach.TurnSeconds(reach.Walks(d))
			if m.across(u, c, s) {
				way += 2 * reach.AcrossSeconds()
			}
		}
		t += way / float64(worked)
	}
	return u.Rate * t, true
}

// Worked tells whether there is room to stand and work at a station.
func (m *Map) Worked(station int) bool { return m.works()[station] }

func (m *Map) working() []bool {
	out := make([]bool, len(m.Shop.Stations))
	for i := range out {
		st := &m.Shop.Stations[i]
		stand := st.Stand.Geometry()
		spot, ok := m.floors[m.Index.Area(st.Area).ID].walk.Nearest(stand)
		out[i] = ok && spot.Distance(stand) <= standWithin
	}
	return out
}

// search is how long the one searches who takes longest.
func (m *Map) search(u *Use, f *Front) (t float64) {
	for _, i := range u.who {
		t = max(t, reach.SearchSeconds(&m.bodies[i], f.Search, &m.Estimates))
	}
	return t
}

// walker is the one of those who use a thing who takes the shortest steps.
func (m *Map) walker(u *Use) reach.Body {
	out := &m.bodies[u.who[0]]
	for _, i := range u.who[1:] {
		if m.bodies[i].Stature < out.Stature {
			out = &m.bodies[i]
		}
	}
	return *out
}

// Beside a station, as far as one reaches without a step, things hang well on the side of the hand that takes them.
const (
	besideReach = 1100.0 // from where one stands to the wall behind a bench and to the side, mm (estimate)
	// ahead is how far to the side of straight ahead either hand takes a thing alike, mm (estimate).
	ahead = 250.0
)

// across tells whether a column is beside a station, on the side of the hand that is not used.
func (m *Map) across(u *Use, c *column, station int) bool {
	if u.hand == 0 {
		return false
	}
	st := &m.Shop.Stations[station]
	stand := st.Stand.Geometry()
	to := c.spot.Sub(stand)
	facing := geometry.Point{X: (st.X + st.W/2).MM(), Y: (st.Y + st.D/2).MM()}.Sub(stand)
	n := facing.Norm()
	if n < 1 || to.Norm() > besideReach {
		return false
	}
	right := (facing.Y*to.X - facing.X*to.Y) / n // how far to the right of straight ahead
	return right*float64(u.hand) < -ahead
}

// Without is the weekly handling of an item that has no home, or none that can be reached.
func (m *Map) Without(u *Use) float64 { return m.Estimates.Homeless * u.Rate }

// Errand is the trip for an item at a grip of a place from one of its stations,
// -1 when it has none.
func (m *Map) Errand(u *Use, place int, g keeping.Grip, aside int, station int) (reach.Errand, bool) {
	f := &m.fronts[place]
	if f.host == nil {
		return reach.Errand{}, false
	}
	c := m.columnAt(f, g.X)
	band, body, rolled := m.band(c, f.Z+g.Z, u.who)
	e := reach.Errand{Band: band, Accesses: f.Accesses, Search: f.Search, Jumble: f.heap, LiftOut: f.LiftOut, Aside: aside, Of: *body, Estimates: m.Estimates}
	e.Of.Stature = m.walker(u).Stature
	for _, i := range u.who {
		e.Of.DimSight = e.Of.DimSight || m.bodies[i].DimSight
	}
	if rolled {
		e.Accesses = append([]shop.Access{}, f.Accesses...)
		for range c.blockers {
			e.Accesses = append(e.Accesses, reach.RollOut)
		}
	}
	if station >= 0 {
		if area, same := m.areaTime(f, station); !same {
			e.AreaTime = area
		} else {
			e.Distance, e.Across = m.from(c, station), m.across(u, c, station)
			if math.IsInf(e.Distance, 1) { // no way leads there
				e.Distance = 0
				return e, false
			}
		}
	}
	return e, band != reach.OutOfReach
}

// Stations of a use, as positions in the shop.
func (u *Use) Stations() []int { return u.stations }

// Lift judges lifting one of the item between a grip of a place and the
// stations it is used at; the worst counts.
func (m *Map) Lift(u *Use, place int, g keeping.Grip) reach.Verdict {
	f := &m.fronts[place]
	if !u.lifted || f.host == nil {
		return reach.Verdict{}
	}
	if len(u.who) > 1 { // whoever it is harder for counts: what one rolls out of the way another may not
		var worst reach.Verdict
		for k, i := range u.who {
			one := *u
			one.who = []int{i}
			v := m.Lift(&one, place, g)
			if k == 0 || v.Barred && !worst.Barred || v.Barred == worst.Barred && v.Index > worst.Index {
				worst = v
			}
		}
		return worst
	}
	c := m.columnAt(f, g.X)
	depth := c.obstacle.Depth
	if _, _, rolled := m.band(c, f.Z+g.Z, u.who); rolled {
		depth = 0
	}
	l := reach.Lift{FromHeight: f.Z + g.Z, FromReach: 250 + depth, ToReach: tableReach}
	var worst reach.Verdict
	for i, h := range m.tables(u) {
		l.ToHeight = h
		v := l.Judge(u.Item.KG.KG())
		if i == 0 || v.Index > worst.Index {
			worst = v
		}
	}
	for _, i := range u.who {
		if b := &m.bodies[i]; b.Lifts > 0 && u.Item.KG.KG() > b.Lifts {
			// At the height of hip and hands it can be drawn out without being lifted.
			barred := l.FromHeight < b.Fingertip || l.FromHeight > b.Shoulder
			worst.Caution, worst.Index = true, max(worst.Index, 1)
			if barred && !worst.Barred || worst.Why == "" {
				worst.Why = fmt.Sprintf("more than the %s that %s lifts", weight.KG(b.Lifts), b.ID)
			}
			worst.Barred = worst.Barred || barred
		}
	}
	return worst
}

// NeverLifted tells whether Lift bars the item in the column of x at every height between low and high above the
// place's lower edge, in mm.
func (m *Map) NeverLifted(u *Use, place int, x, low, high float64) bool {
	f := &m.fronts[place]
	if !u.lifted || f.host == nil {
		return false
	}
	low, high = low+f.Z, high+f.Z
	kg := u.Item.KG.KG()
	for _, i := range u.who {
		if b := &m.bodies[i]; b.Lifts > 0 && kg > b.Lifts && (low > b.Shoulder || high < b.Fingertip) {
			return true
		}
	}
	c := m.columnAt(f, x)
	l := reach.Lift{FromReach: 250, ToReach: tableReach}
	if len(c.blockers) == 0 { // else it depends on the height whether they are rolled away
		l.FromReach += c.obstacle.Depth
	}
	return slices.ContainsFunc(m.tables(u), func(h float64) bool {
		l.ToHeight = h
		return l.Never(kg, low, high)
	})
}

// tables are the heights in mm at which an item is put down: at the elbow of whoever uses it where it is used at no station.
func (m *Map) tables(u *Use) []float64 {
	if len(u.table) > 0 {
		return u.table
	}
	out := make([]float64, len(u.who))
	for k, i := range u.who {
		out[k] = m.bodies[i].Elbow
	}
	return out
}

// Band at a grip, and what must be rolled away for it.
func (m *Map) Band(u *Use, place int, g keeping.Grip) (reach.Band, []string) {
	f := &m.fronts[place]
	if f.host == nil {
		return reach.OutOfReach, nil
	}
	c := m.columnAt(f, g.X)
	b, _, rolled := m.band(c, f.Z+g.Z, u.who)
	if rolled {
		return b, c.blockers
	}
	return b, nil
}

// Breaks lists the heights above the place's lower edge at which the band
// changes in the column of x, so that the best height can be found exactly.
func (m *Map) Breaks(place int, x float64) []float64 {
	f := &m.fronts[place]
	if f.host == nil {
		return nil
	}
	c := m.columnAt(f, x)
	var out []float64
	for i := range c.full {
		out = append(out, c.full[i].Breaks()...)
		if len(c.blockers) > 0 {
			out = append(out, c.clear[i].Breaks()...)
		}
	}
	for i := range out {
		out[i] -= f.Z
	}
	return out
}

// Zones of reach along a wall of the area, one for each column of ColumnWidth.
func (m *Map) Zones(a *shop.Area, wall int) []reach.Zones {
	h := m.wallHost(a, wall)
	n := int(math.Ceil(h.frame.Length.MM() / ColumnWidth))
	out := make([]reach.Zones, n)
	for i := range out {
		out[i] = h.column(i).full[m.lowest()]
	}
	return out
}

// lowest is which adult reaches least high.
func (m *Map) lowest() int {
	for i := range m.bodies {
		if m.bodies[i] == m.Body {
			return i
		}
	}
	return 0
}

// Path on the floor from a station to a grip of a place, false when there is
// none or the place is in another area.
func (m *Map) Path(station, place int, g keeping.Grip) (walk.Path, bool) {
	f := &m.fronts[place]
	if f.host == nil || m.Index.Area(m.Shop.Stations[station].Area) != f.Area {
		return walk.Path{}, false
	}
	c := m.columnAt(f, g.X)
	w := c.path[station].Load()
	if w == nil {
		w = &way{}
		w.Path, w.ok = m.ways[station]().To(c.goal.Stand)
		c.path[station].Store(w)
	}
	return w.Path, w.ok
}

// Things that stand in an area.
func (m *Map) Things(area string) []Standing { return m.floors[area].things }
