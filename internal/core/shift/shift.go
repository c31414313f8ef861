// Package shift works out how the floor is changed from one arrangement to another: what is rolled, folded, hoisted and
// brought in, in which order, so that nothing is put where something still stands and everything can be got past what
// stands between. It finds the fewest moves, with something put aside for a while where things stand in each other's way.
// Lengths are millimetres as floats, times seconds, forces newtons.
package shift

import (
	"cmp"
	"fmt"
	"math"
	"slices"

	"hobrak/internal/core/access"
	"hobrak/internal/core/geometry"
	"hobrak/internal/core/reach"
	"hobrak/internal/core/shop"
)

// What moving takes (estimates): pushing at half a metre a second, the brakes of a set of casters, and so on.
const (
	pushSpeed = 500.0 // mm/s
	brakes    = 10.0
	fold      = 20.0
	hoist     = 60.0
	fetch     = 30.0 // in or out of the room, besides the way
	// Rolling resistance of hard casters as a share of the weight, the upper end of what ISO 11228-2 expects, and the
	// force from which it calls for help at the start.
	rolling = .05
	mostN   = 200.0
	gravity = 9.81
)

// Spot is where a body stands: its left lower corner before it is turned, and its turn in degrees.
type Spot struct {
	X   float64 `json:"x"`
	Y   float64 `json:"y"`
	Rot float64 `json:"rot"`
}

// Move is one thing to do.
type Move struct {
	ID      string  `json:"id"`
	Name    string  `json:"name"`
	Do      string  `json:"do" enum:"roll,set aside,fold,unfold,hoist,let down,take away,roll outdoors,bring in"`
	From    *Spot   `json:"from,omitempty" doc:"on the floor; left out when it is not there"`
	To      *Spot   `json:"to,omitempty"`
	Way     float64 `json:"way" doc:"mm that it is pushed"`
	Seconds float64 `json:"seconds"`
	People  int     `json:"people" doc:"how many it takes: 1 or 2"`
	Caution string  `json:"caution" doc:"what to mind; empty when nothing is"`
	Path    []Pose  `json:"path,omitempty" doc:"of something long that comes in or goes out: its poses on the way through the door"`
	// Shape it stands in before and after, on the floor.
	Was, Is geometry.Polygon `json:"-"`
	Before  [][2]float64     `json:"before" nullable:"false" doc:"corners of the shape it stands in before; none when it is not on the floor"`
	After   [][2]float64     `json:"after" nullable:"false" doc:"the same after"`
}

// Plan is how one arrangement becomes another.
type Plan struct {
	Moves   []Move   `json:"moves" nullable:"false"`
	Seconds float64  `json:"seconds"`
	Least   int      `json:"least" doc:"no fewer moves do: each thing that stands otherwise at least once"`
	Fewest  bool     `json:"fewest" doc:"it is known that no fewer do"`
	Limit   float64  `json:"limit" doc:"seconds it may take, as the shop says; 0 when it says nothing"`
	Stuck   []string `json:"stuck" nullable:"false" doc:"what cannot be brought to where it is to stand, with the reason; empty when all can"`
}

// body is something that stands otherwise in the two arrangements.
type body struct {
	id, name   string
	area       *shop.Area
	at         []place // start, end, and where it may be set aside
	folds      bool
	out, in    string // how it leaves the floor and comes to it
	half       float64
	kg         float64
	rated      bool // it hangs on a hoist rated for what it weighs
	fixedPlace bool // it changes its shape where it is: nothing is pushed
}

// place is a state of a body.
type place struct {
	on   bool // the floor
	spot Spot
	foot geometry.Polygon
}

const (
	start = 0
	end   = 1
)

// Between two arrangements of a shop; an empty name is how it stands now. An error names a mode there is none of.
func Between(s *shop.Shop, from, to string) (*Plan, error) {
	p, err := problemOf(s, from, to)
	if err != nil {
		return nil, err
	}
	out := p.solve()
	out.Limit = 60 * s.Settings.ChangeMinutes
	for i := range out.Moves {
		m := &out.Moves[i]
		m.Before, m.After = corners(m.Was), corners(m.Is)
	}
	return out, nil
}

func corners(g geometry.Polygon) [][2]float64 {
	out := [][2]float64{}
	for _, p := range g {
		out = append(out, [2]float64{p.X, p.Y})
	}
	return out
}

func inMode(s *shop.Shop, mode string) (*shop.Shop, error) {
	if mode == "" {
		return s, nil
	}
	return s.InMode(mode)
}

type problem struct {
	bodies []body
	static map[*shop.Area][]geometry.Polygon
	areas  map[*shop.Area]*ground
	fall   float64
}

func problemOf(s *shop.Shop, from, to string) (*problem, error) {
	a, err := inMode(s, from)
	if err != nil {
		return nil, err
	}
	b, err := inMode(s, to)
	if err != nil {
		return nil, err
	}
	p := &problem{static: map[*shop.Area][]geometry.Polygon{}, areas: map[*shop.Area]*ground{}}
	before, after := standing(a), standing(b)
	ix := shop.NewIndex(s)
	for i := range s.Areas {
		area := &s.Areas[i]
		p.areas[area] = newGround(area)
		if area.Floor != nil && area.Floor.Fall != nil {
			p.fall = max(p.fall, area.Floor.Fall.MMPerM/1000)
		}
	}
	load := loads(s, ix)
	var ids []string
	for id := range before {
		ids = append(ids, id)
	}
	for id := range after {
		if _, there := before[id]; !there {
			ids = append(ids, id)
		}
	}
	slices.Sort(ids)
	for _, id := range ids {
		was, old := before[id]
		is, next := after[id]
		area := ix.Area(cmp.Or(was.area, is.area))
		if old && next && same(was.foot, is.foot) {
			p.static[area] = append(p.static[area], was.foot)
			continue
		}
		x := body{id: id, name: id, area: area, kg: load[id], out: "take away", in: "bring in", at: []place{{old, was.spot, was.foot}, {next, is.spot, is.foot}}}
		x.half = min(shorter(was.foot), shorter(is.foot)) / 2
		state := func(m string) string {
			mode, _ := s.Mode(m)
			if mode == nil {
				return ""
			}
			return mode.Spots[id].State
		}
		if st := ix.Station(id); st != nil {
			x.kg += st.KG.KG()
			x.name, x.folds, x.rated = st.Name, st.Mobility == shop.Folds, st.Rated > 0 && st.KG <= st.Rated
		}
		if c := ix.Container(id); c != nil {
			x.name = c.Name
		}
		if state(to) == "hoisted" || state(from) == "hoisted" {
			x.out, x.in = "hoist", "let down"
		}
		if state(to) == "outdoors" {
			x.out = "roll outdoors"
		}
		if old != next && (state(to) == "folded" || state(from) == "folded") {
			x.out, x.in = "fold", "unfold"
		}
		x.fixedPlace = old && next && (state(to) == "folded") != (state(from) == "folded") || x.out == "hoist" || x.out == "fold"
		p.bodies = append(p.bodies, x)
	}
	for i := range p.bodies {
		p.asides(i)
	}
	return p, nil
}

type stood struct {
	area string
	spot Spot
	foot geometry.Polygon
}

// standing is all that stands on the floors of a shop.
func standing(s *shop.Shop) map[string]stood {
	ix, out := shop.NewIndex(s), map[string]stood{}
	for i := range s.Areas {
		a := &s.Areas[i]
		for _, t := range access.StandingIn(s, ix, a) {
			x := stood{area: a.ID, foot: t.Footprint}
			if st := ix.Station(t.ID); st != nil {
				x.spot = Spot{st.X.MM(), st.Y.MM(), st.Rot}
			} else if c := ix.Container(t.ID); c != nil && c.At.Floor != nil {
				x.spot = Spot{c.At.Floor[0].MM(), c.At.Floor[1].MM(), c.At.Rot}
			}
			out[t.ID] = x
		}
	}
	return out
}

// loads are what containers weigh with what lives in them, in kg.
func loads(s *shop.Shop, ix *shop.Index) map[string]float64 {
	out := map[string]float64{}
	for i := range s.Containers {
		out[s.Containers[i].ID] += s.Containers[i].KG.KG()
	}
	for i := range s.Homes {
		h := &s.Homes[i]
		it, p := ix.Item(h.Item), ix.Place(h.Place)
		if it == nil || p == nil {
			continue
		}
		chain, _ := ix.Chain(&p.At)
		for _, c := range chain {
			out[c.ID] += it.KG.KG() * float64(h.Number(it))
		}
	}
	return out
}

func same(a, b geometry.Polygon) bool {
	return len(a) == len(b) && !slices.ContainsFunc(a, func(p geometry.Point) bool {
		return !slices.ContainsFunc(b, func(q geometry.Point) bool { return p.Near(q, 1) })
	})
}

func shorter(g geometry.Polygon) float64 {
	if len(g) < 4 {
		return math.Inf(1)
	}
	return min(g[0].Distance(g[1]), g[1].Distance(g[2]))
}

func middle(g geometry.Polygon) geometry.Point { return g[0].Add(g[2]).Mul(.5) }

// touching is by how much footprints may overlap and still stand beside each other.
const touching = 1.0

// asides are a few spots where a body is in nobody's way: neither on anything that stays, nor where anything stands before
// or after.
func (p *problem) asides(i int) {
	b := &p.bodies[i]
	if !b.at[start].on || b.fixedPlace {
		return
	}
	g := p.areas[b.area]
	from := middle(b.at[start].foot)
	w, d := b.at[start].foot[0].Distance(b.at[start].foot[1]), b.at[start].foot[1].Distance(b.at[start].foot[2])
	var all []place
	low, high := g.outline.Bounds()
	for x := low.X + 50; x+min(w, d) < high.X; x += asideStep {
		for y := low.Y + 50; y+min(w, d) < high.Y; y += asideStep {
			for _, turn := range []float64{0, 90} {
				ww, dd := w, d
				if turn == 90 {
					ww, dd = d, w
				}
				foot := geometry.Rectangle(x, y, ww, dd, 0)
				if !g.holds(foot) || p.taken(b, foot) {
					continue
				}
				mid := middle(foot)
				all = append(all, place{true, Spot{mid.X - w/2, mid.Y - d/2, turn}, foot})
			}
		}
	}
	slices.SortStableFunc(all, func(a, b place) int { return cmp.Compare(middle(a.foot).Distance(from), middle(b.foot).Distance(from)) })
	for _, a := range all {
		if len(b.at) == 2+mostAsides {
			break
		}
		// Some way apart, so that two bodies find one each.
		if !slices.ContainsFunc(b.at[2:], func(o place) bool { return o.foot.Overlaps(a.foot, touching) }) {
			b.at = append(b.at, a)
		}
	}
}

const (
	asideStep  = 250.0
	mostAsides = 2
)

// taken tells whether something stays on a spot, or stands there before or after.
func (p *problem) taken(b *body, foot geometry.Polygon) bool {
	if slices.ContainsFunc(p.static[b.area], func(o geometry.Polygon) bool { return o.Overlaps(foot, touching) }) {
		return true
	}
	for k := range p.bodies {
		o := &p.bodies[k]
		if o.area != b.area {
			continue
		}
		for _, at := range o.at[:2] {
			if at.on && at.foot.Overlaps(foot, touching) {
				return true
			}
		}
	}
	return false
}

// now is where each body is: a number among its places.
type now []uint8

func (n now) key() string { return string(n) }

// can tells how far body i is pushed to a place of its own while the others are where they are; false when something is
// there, or it does not get past.
func (p *problem) can(n now, i int, to uint8) (way float64, ok bool) {
	b := &p.bodies[i]
	t := b.at[to]
	if !t.on {
		return p.toDoor(n, i, b.at[n[i]]), true
	}
	var others []geometry.Polygon
	for k := range p.bodies {
		if o := &p.bodies[k]; k != i && o.area == b.area && o.at[n[k]].on {
			if o.at[n[k]].foot.Overlaps(t.foot, touching) {
				return 0, false
			}
			others = append(others, o.at[n[k]].foot)
		}
	}
	f := b.at[n[i]]
	if b.fixedPlace {
		return 0, true
	}
	g := p.areas[b.area]
	if !f.on {
		door := g.doorFor(2 * b.half)
		if door == nil {
			return 0, true
		}
		return g.way(*door, middle(t.foot), b.half, p.static[b.area], others)
	}
	return g.way(middle(f.foot), middle(t.foot), b.half, p.static[b.area], others)
}

// toDoor is how far something is pushed out; 0 where it goes up or folds.
func (p *problem) toDoor(n now, i int, f place) float64 {
	b := &p.bodies[i]
	g := p.areas[b.area]
	door := g.doorFor(2 * b.half)
	if b.fixedPlace || door == nil || !f.on {
		return 0
	}
	return middle(f.foot).Distance(*door)
}

// move is what is done to bring a body from one place to another.
func (p *problem) move(n now, i int, to uint8, way float64) Move {
	b := &p.bodies[i]
	f, t := b.at[n[i]], b.at[to]
	m := Move{ID: b.id, Name: b.name, Do: "roll", People: 1, Way: way, Seconds: way/pushSpeed + brakes}
	if f.on {
		spot := f.spot
		m.From, m.Was = &spot, f.foot
	}
	if t.on {
		spot := t.spot
		m.To, m.Is = &spot, t.foot
	}
	switch {
	case to > end:
		m.Do = "set aside"
	case f.on && t.on && b.fixedPlace:
		m.Do, m.Seconds = "fold", fold
		if t.foot.Area() > f.foot.Area() {
			m.Do = "unfold"
		}
	case f.on && !t.on:
		m.Do = b.out
	case !f.on && t.on:
		m.Do = b.in
	}
	switch m.Do {
	case "hoist", "let down":
		m.Seconds = hoist
		m.Caution = "nobody and nothing under it while it moves; within what hoist and joists are rated for"
		if b.kg > reach.OneLifts && !b.rated {
			m.People = 2
			m.Caution = fmt.Sprintf("%.0f kg are for two people, or for a hoist that is rated for them; nobody and nothing under it", b.kg)
		}
	case "fold", "unfold":
		m.Seconds = fold
	case "take away", "roll outdoors", "bring in":
		m.Seconds = fetch + way/pushSpeed
	}
	if way > 0 && b.kg > 0 {
		if push := b.kg * gravity * (rolling + p.fall); push > mostN {
			m.People = 2
			m.Caution = fmt.Sprintf("it takes about %.0f N to set %.0f kg rolling: two people, or empty it first", push, b.kg)
		}
	}
	return m
}
