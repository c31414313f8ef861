// Package flow follows the material of a job through the room: from the door to the rack, to where it is broken down, milled,
// joined, glued, sanded and finished. It says how far it is carried, where its ways cross and go back, and which two stations
// would better change places. Lengths are millimetres as floats.
package flow

import (
	"cmp"
	"fmt"
	"math"
	"slices"

	"hobrak/internal/core/access"
	"hobrak/internal/core/floor"
	"hobrak/internal/core/geometry"
	"hobrak/internal/core/shop"
	"hobrak/internal/core/walk"
)

// Leg of a job is from one stop to the next.
type Leg struct {
	From string       `json:"from"`
	To   string       `json:"to"`
	Way  float64      `json:"way" doc:"mm on foot; 0 when one does not get there"`
	Path [][2]float64 `json:"path" nullable:"false"`
	// Back tells that it turns by more than 120 degrees from the leg before.
	Back bool `json:"back" doc:"it goes back where the leg before came from"`
}

// Flow of a job.
type Flow struct {
	Name      string  `json:"name"`
	PerMonth  float64 `json:"per_month"`
	Usual     bool    `json:"usual" doc:"nobody said what is made: a job through the stages there are stations for"`
	Legs      []Leg   `json:"legs" nullable:"false"`
	Metres    float64 `json:"metres" doc:"of one job"`
	Crossings int     `json:"crossings" doc:"how often its ways cross each other"`
	Back      float64 `json:"back" doc:"metres that lead back"`
	Cut       int     `json:"cut" doc:"legs on which one does not get to the next stop"`
}

// Swap of two stations that saves way.
type Swap struct {
	A     string  `json:"a"`
	B     string  `json:"b"`
	Names string  `json:"names"`
	Saves float64 `json:"saves" doc:"metres a month, of all jobs"`
}

// usualPerMonth is how often the job is done that nobody said anything of (estimate).
const usualPerMonth = 2.0

// stages of a job, with the kinds of station each may be done at, the likeliest first.
var stages = []struct {
	name  string
	kinds []shop.StationKind
}{
	{"break down", []shop.StationKind{"panel-saw", "cutting", "mitre-saw", "table-saw", "site-saw", "radial-arm-saw", "bandsaw", "saw-bench", "bench-bandsaw"}},
	{"mill", []shop.StationKind{"planer-thicknesser", "jointer", "planer", "bench-planer", "planing-beam", "drum-sander"}},
	{"rip", []shop.StationKind{"table-saw", "panel-saw", "site-saw", "bandsaw", "bench-bandsaw"}},
	{"join", []shop.StationKind{"bench", "router-table", "shaper", "mortiser", "drill-press", "table"}},
	{"glue", []shop.StationKind{"assembly", "clamping", "table", "bench"}},
	{"sand", []shop.StationKind{"sander", "edge-sander", "drum-sander", "spindle-sander", "bench"}},
	{"finish", []shop.StationKind{"spray-booth", "finishing", "paint", "assembly", "bench"}},
}

// Door is the stop at which material comes in and work goes out.
const Door = "door"

// Usual is a job through the stages there are stations for, in an area: from the door over where boards are kept.
func Usual(s *shop.Shop, area *shop.Area) shop.Job {
	ix := shop.NewIndex(s)
	j := shop.Job{Name: "a piece of furniture", PerMonth: usualPerMonth, Path: []string{Door}}
	for i := range s.Places {
		p := &s.Places[i]
		if _, at := ix.Chain(&p.At); !at.Away && at.Station == "" && ix.Area(at.Area) == area && (len(p.Levels) > 0 || p.Kind == "bay" || p.Kind == "rack") {
			j.Path = append(j.Path, p.ID)
			break
		}
	}
	for _, stage := range stages {
		for _, k := range stage.kinds {
			n := slices.IndexFunc(s.Stations, func(st shop.Station) bool {
				return st.Kind == k && ix.Area(st.Area) == area && st.Mobility != shop.HungUp && st.Wished == ""
			})
			if n >= 0 {
				if id := s.Stations[n].ID; j.Path[len(j.Path)-1] != id {
					j.Path = append(j.Path, id)
				}
				break
			}
		}
	}
	j.Path = append(j.Path, Door)
	return j
}

// Jobs of a shop in an area: its own, or the usual one; none where there is no station it would come to.
func Jobs(s *shop.Shop, area *shop.Area) (jobs []shop.Job, usual bool) {
	if len(s.Settings.Jobs) > 0 {
		return s.Settings.Jobs, false
	}
	if j := Usual(s, area); slices.ContainsFunc(j.Path, func(stop string) bool { return stop != Door }) {
		return []shop.Job{j}, true
	}
	return nil, true
}

// Spot is where one stands at a stop; false when it is not in the area.
func Spot(s *shop.Shop, ix *shop.Index, area *shop.Area, stop string) (geometry.Point, bool) {
	if stop == Door {
		return access.MainDoor(area)
	}
	if st := ix.Station(stop); st != nil {
		return st.Stand.Geometry(), ix.Area(st.Area) == area
	}
	var at *shop.At
	w, d := 0.0, 0.0
	if p := ix.Place(stop); p != nil {
		chain, root := ix.Chain(&p.At)
		at, w, d = root, p.W.MM(), p.D.MM()
		if len(chain) > 0 {
			c := chain[len(chain)-1]
			w, d = c.W.MM(), c.D.MM()
		}
	} else if c := ix.Container(stop); c != nil {
		_, at = ix.Chain(&c.At)
		w, d = c.W.MM(), c.D.MM()
	}
	switch {
	case at == nil || at.Away:
		return geometry.Point{}, false
	case at.Station != "":
		return Spot(s, ix, area, at.Station)
	case ix.Area(at.Area) != area:
		return geometry.Point{}, false
	case at.Floor != nil:
		g := geometry.Rectangle(at.Floor[0].MM(), at.Floor[1].MM(), w, d, at.Rot)
		front := g[0].Add(g[1]).Mul(.5)
		return front.Add(front.Sub(g[0].Add(g[2]).Mul(.5)).Unit().Mul(2 * walk.BodyRadius)), true
	case at.Wall != "" && area.WallIndex(at.Wall) >= 0:
		return area.Frame(area.WallIndex(at.Wall)).Spot(at.X.MM()+w/2, d+2*walk.BodyRadius), true
	case at.Ceiling != nil:
		return geometry.Point{X: at.Ceiling[0].MM() + w/2, Y: at.Ceiling[1].MM() + d/2}, true
	}
	return geometry.Point{}, false
}

// Called is the name of a stop.
func Called(ix *shop.Index, stop string) string {
	if stop == Door {
		return "the door"
	}
	if n := ix.Name(stop); n != "" {
		return n
	}
	return stop
}

// Of follows the jobs of an area, as the shop is now or in a mode.
func Of(s *shop.Shop, area *shop.Area) []Flow {
	ix := shop.NewIndex(s)
	var solid []geometry.Polygon
	for _, t := range access.StandingIn(s, ix, area) {
		solid = append(solid, t.Footprint)
	}
	f := walk.NewFloor(area.Outline(), solid, walk.BodyRadius)
	jobs, usual := Jobs(s, area)
	out := []Flow{}
	for _, j := range jobs {
		x := Flow{Name: j.Name, PerMonth: j.PerMonth, Usual: usual, Legs: []Leg{}}
		var before geometry.Point
		for i := 1; i < len(j.Path); i++ {
			l := Leg{From: Called(ix, j.Path[i-1]), To: Called(ix, j.Path[i]), Path: [][2]float64{}}
			from, ok := Spot(s, ix, area, j.Path[i-1])
			to, ok2 := Spot(s, ix, area, j.Path[i])
			p, found := walk.Path{}, false
			if ok && ok2 {
				p, found = f.From(from).To(to)
			}
			if !found {
				x.Cut++
				x.Legs = append(x.Legs, l)
				continue
			}
			l.Way = p.Length
			for _, q := range p.Points {
				l.Path = append(l.Path, [2]float64{q.X, q.Y})
			}
			// Back: it turns by more than 120 degrees from the way of the leg before.
			came, goes := from.Sub(before), to.Sub(from)
			if len(x.Legs) > x.Cut && came.Dot(goes) < -.5*came.Norm()*goes.Norm() {
				l.Back = true
				x.Back += l.Way / 1000
			}
			before = from
			x.Metres += l.Way / 1000
			x.Legs = append(x.Legs, l)
		}
		x.Crossings = crossings(x.Legs)
		out = append(out, x)
	}
	return out
}

// crossings counts how often the ways of different legs cross, not counting where one begins as the other ended.
func crossings(legs []Leg) (n int) {
	at := func(p [2]float64) geometry.Point { return geometry.Point{X: p[0], Y: p[1]} }
	for a := range legs {
		for b := a + 2; b < len(legs); b++ {
			crossed := false
			for i := 1; i < len(legs[a].Path) && !crossed; i++ {
				for k := 1; k < len(legs[b].Path) && !crossed; k++ {
					crossed = geometry.Segment{A: at(legs[a].Path[i-1]), B: at(legs[a].Path[i])}.Crosses(geometry.Segment{A: at(legs[b].Path[k-1]), B: at(legs[b].Path[k])})
				}
			}
			if crossed {
				n++
			}
		}
	}
	return n
}

// total metres a month; infinite when a stop cannot be got to.
func total(flows []Flow) float64 {
	sum := 0.0
	for _, f := range flows {
		if f.Cut > 0 {
			return math.Inf(1)
		}
		sum += f.PerMonth * f.Metres
	}
	return sum
}

// enough is how many metres a month a swap saves to be worth saying (estimate).
const enough = 2.0

// Swaps of two stations of the jobs that fit on each other's spot and save way, the best first.
func Swaps(s *shop.Shop, area *shop.Area) []Swap {
	ix := shop.NewIndex(s)
	now := total(Of(s, area))
	var ids []string
	jobs, _ := Jobs(s, area)
	for _, j := range jobs {
		for _, stop := range j.Path {
			if st := ix.Station(stop); st != nil && ix.Area(st.Area) == area && !slices.Contains(ids, stop) {
				ids = append(ids, stop)
			}
		}
	}
	out := []Swap{}
	for i, a := range ids {
		for _, b := range ids[:i] {
			next := s.Clone()
			if !floor.Exchange(next, a, b) {
				continue
			}
			then := total(Of(next, shop.NewIndex(next).Area(area.ID)))
			if saves := now - then; saves >= enough && !math.IsInf(saves, 0) {
				out = append(out, Swap{a, b, fmt.Sprintf("%s and %s", Called(ix, b), Called(ix, a)), saves})
			}
		}
	}
	slices.SortFunc(out, func(a, b Swap) int { return cmp.Compare(b.Saves, a.Saves) })
	return out
}
