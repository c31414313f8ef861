// Package arrange looks for better arrangements of a whole room: all stations that are not pinned, together, by what is walked
// and carried in a week, with light, dust and long pieces, in a few schools of how a shop is laid out. It also makes room for
// something in a mode with the fewest things moved. Lengths are millimetres as floats, walking metres a week.
package arrange

import (
	"cmp"
	"fmt"
	"math"
	"slices"
	"sync"

	"hobrak/internal/core/access"
	"hobrak/internal/core/fit"
	"hobrak/internal/core/geometry"
	"hobrak/internal/core/mode"
	"hobrak/internal/core/scene"
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

// Figures of an arrangement.
type Figures struct {
	Walking  float64 `json:"walking" doc:"metres a week, walked and carried, round what stands there"`
	Open     float64 `json:"open" doc:"m² of the largest free rectangle"`
	Feed     float64 `json:"feed" doc:"metres that the longest pieces have too little room, of all machines"`
	Narrow   float64 `json:"narrow" doc:"mm, the narrowest way to a station, up to 1100"`
	Clashes  int     `json:"clashes" doc:"rules that are broken, in all modes"`
	Cautions int     `json:"cautions"`
	Handling float64 `json:"handling" doc:"seconds a week to fetch and put back, in all modes by their hours, with homes as they are"`
}

// Follow is what the same would be with the homes that are best then.
type Follow struct {
	Walking  float64 `json:"walking" doc:"metres a week"`
	Handling float64 `json:"handling" doc:"seconds a week"`
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
	Follow Follow  `json:"follow" doc:"when homes follow"`
	Stays  Follow  `json:"stays" doc:"when only homes were looked for, and everything stands as it does"`
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
	// Done is asked now and then, by several at once: the search ends with what it has when it says so. It may be left out.
	Done func() bool
	// Spent says how much of the time given is gone, from 0 to 1; it is asked by several at once, and each part of the search
	// ends when its share is gone. Nil when only the number of tries counts.
	Spent func() float64
}

// until is when a part of the search ends that may last until so much of the time is gone.
func (o *Options) until(share float64) func() bool {
	return func() bool { return o.Done() || o.Spent() > share }
}

// Whole arranges a whole room in each school. Stations that are fixed to services stay when they are pinned; lodgers and what
// holds storage moves as one piece with what is in it.
func Whole(s *shop.Shop, o Options) ([]Proposal, error) {
	ix := shop.NewIndex(s)
	area := ix.Area(o.Area)
	if area == nil {
		return nil, fmt.Errorf("there is no area %q", o.Area)
	}
	if o.Done == nil {
		o.Done = func() bool { return false }
	}
	if o.Spent == nil {
		o.Spent = func() float64 { return 0 }
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
	before, stays := figuresOf(s, area), followed(s, area.ID)
	out := []Proposal{}
	for _, x := range found {
		if x == nil || len(x.Moved) == 0 || slices.ContainsFunc(out, func(y Proposal) bool { return slices.Equal(x.Moved, y.Moved) }) {
			continue
		}
		x.Before, x.Stays = before, stays
		out = append(out, *x)
	}
	slices.SortStableFunc(out, func(a, b Proposal) int { return cmp.Compare(a.Follow.Handling, b.Follow.Handling) })
	return out, nil
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
	if scenes, err := scene.ByHours(s); err == nil {
		f.Handling = scenes.Week(s.Homes)
	}
	return f
}

// following is how long homes are looked for when arrangements are compared; a plan of its own looks longer.
const following = 500

// followed is what is walked and handled in an area once everything has the home that is best there.
func followed(s *shop.Shop, area string) Follow {
	then, err := WithHomes(s)
	if err != nil {
		return Follow{}
	}
	return Follow{Walking: Walking(then, shop.NewIndex(then).Area(area)), Handling: then.Fit.Objective}
}

// WithHomes is a shop with the homes that a short search finds best in all its modes by their hours.
func WithHomes(s *shop.Shop) (*shop.Shop, error) {
	p, err := fit.ByHours(s, func() bool { return false })
	if err != nil {
		return nil, err
	}
	return p.Run(fit.Options{Seed: 1, Iterations: following, Hurry: func() bool { return true }}).Apply(s), nil
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
