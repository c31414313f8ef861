package gather

import (
	"math"
	"slices"

	"hobrak/internal/core/access"
	"hobrak/internal/core/geometry"
	"hobrak/internal/core/keeping"
	"hobrak/internal/core/reach"
	"hobrak/internal/core/shop"
	"hobrak/internal/core/walk"
)

// Want is what is fetched, or brought back: pieces of a thing.
type Want struct {
	Item string `json:"item"`
	N    int    `json:"n"`
}

// Picked is what is taken from a place, or put there.
type Picked struct {
	Item string `json:"item"`
	Name string `json:"name"`
	N    int    `json:"n"`
}

// Chore is something to do at a station, or by the main door when it is at none.
type Chore struct {
	ID      string `json:"id"`
	Station string `json:"station"`
	Says    string `json:"says"`
	Caution bool   `json:"caution" doc:"somebody can be hurt or the house burn when it is left undone"`
}

// Stop is a place one stands before, or a station.
type Stop struct {
	Place  string     `json:"place" doc:"empty at a station"`
	Things []Picked   `json:"things" nullable:"false"`
	Chores []Chore    `json:"chores" nullable:"false"`
	Reach  string     `json:"reach" doc:"how it is reached there: easily, bending, on a stool and so on"`
	At     [2]float64 `json:"at" doc:"where one stands, mm"`
	Metres float64    `json:"metres" doc:"on foot from the stop before"`
}

// Trip is the round through one area.
type Trip struct {
	Area    string       `json:"area"`
	Name    string       `json:"name"`
	Stops   []Stop       `json:"stops" nullable:"false"`
	Metres  float64      `json:"metres" doc:"the whole round, back to where it begins"`
	Seconds float64      `json:"seconds" doc:"on foot, with the way to the area and back"`
	Way     [][2]float64 `json:"way" nullable:"false" doc:"the way on the floor, mm"`
}

// Round is what is fetched in which order.
type Round struct {
	Trips    []Trip   `json:"trips" nullable:"false" doc:"the area one is in first"`
	Homeless []Picked `json:"homeless" nullable:"false" doc:"what has no home one could go to"`
	Metres   float64  `json:"metres"`
	Seconds  float64  `json:"seconds" doc:"on foot"`
}

// Walk is the round over all that is wanted and to be done, from a station and back; from the main door when no station is said. In
// other areas it goes from their main door.
func Walk(m *access.Map, station string, wants []Want, chores ...Chore) Round {
	out := Round{Trips: []Trip{}, Homeless: []Picked{}}
	s := m.Shop
	from := m.Index.Station(station)
	var here *shop.Area
	if from != nil {
		here = m.Index.Area(from.Area)
	} else if len(s.Areas) > 0 {
		here = &s.Areas[0]
	}
	type spot struct {
		stop Stop
		p    geometry.Point
	}
	byArea := map[*shop.Area][]spot{}
	var areas []*shop.Area
	for _, w := range wants {
		it := m.Index.Item(w.Item)
		if it == nil {
			continue
		}
		left := min(max(1, w.N), it.Number())
		u := m.UseOf(it)
		for _, h := range m.Index.Homes(it.ID) {
			if left == 0 {
				break
			}
			n := min(left, h.Number(it))
			k := m.PlaceNumber(h.Place)
			p := &s.Places[k]
			g := keeping.GripOf(p, it, h)
			area, at, ok := m.StandAt(k, g)
			if !ok {
				continue
			}
			left -= n
			list := byArea[area]
			// One stands once before a place for all that is in it within an arm's length.
			i := slices.IndexFunc(list, func(x spot) bool { return x.stop.Place == p.ID && x.p.Distance(at) < armsLength })
			if i < 0 {
				if len(list) == 0 {
					areas = append(areas, area)
				}
				band, _ := m.Band(&u, k, g)
				list = append(list, spot{Stop{Place: p.ID, Things: []Picked{}, Chores: []Chore{}, Reach: band.String(), At: [2]float64{at.X, at.Y}}, at})
				i = len(list) - 1
			}
			list[i].stop.Things = append(list[i].stop.Things, Picked{it.ID, it.Name, n})
			byArea[area] = list
		}
		if left > 0 {
			out.Homeless = append(out.Homeless, Picked{it.ID, it.Name, left})
		}
	}
	for _, c := range chores {
		area, at := here, geometry.Point{}
		if st := m.Index.Station(c.Station); st != nil {
			area, at = m.Index.Area(st.Area), st.Stand.Geometry()
		} else if here != nil {
			at, _ = access.MainDoor(here)
		}
		if area == nil {
			continue
		}
		list := byArea[area]
		i := slices.IndexFunc(list, func(x spot) bool { return x.stop.Place == "" && x.p == at })
		if i < 0 {
			if len(list) == 0 {
				areas = append(areas, area)
			}
			list = append(list, spot{Stop{Things: []Picked{}, Chores: []Chore{}, At: [2]float64{at.X, at.Y}}, at})
			i = len(list) - 1
		}
		list[i].stop.Chores = append(list[i].stop.Chores, c)
		byArea[area] = list
	}
	slices.SortStableFunc(areas, func(a, b *shop.Area) int { return before(a, b, here) })
	for _, a := range areas {
		list := byArea[a]
		start, ok := geometry.Point{}, false
		if a == here && from != nil {
			start, ok = from.Stand.Geometry(), true
		} else {
			start, ok = access.MainDoor(a)
		}
		if !ok {
			start = list[0].p
		}
		n := len(list)
		ways := make([]*walk.Ways, n+1)
		at := func(i int) geometry.Point {
			if i == n {
				return start
			}
			return list[i].p
		}
		for i := range ways {
			ways[i] = m.Between(a, at(i))
		}
		far := distances(ways, at)
		t := Trip{Area: a.ID, Name: a.Called(), Stops: []Stop{}, Way: [][2]float64{}}
		last := n
		order := Order(n, far)
		// Either way round is as long: what is done by the door is done last.
		if last := func(k int) bool { return list[k].stop.Place == "" && far(n, k) < 1 }; n > 1 && last(order[0]) && !last(order[n-1]) {
			slices.Reverse(order)
		}
		for _, k := range append(order, n) {
			if k < n {
				x := list[k].stop
				x.Metres = far(last, k) / 1000
				t.Stops = append(t.Stops, x)
			}
			t.Metres += far(last, k) / 1000
			if path, ok := ways[last].To(at(k)); ok {
				for _, p := range path.Points {
					t.Way = append(t.Way, [2]float64{p.X, p.Y})
				}
			}
			last = k
		}
		t.Seconds = reach.WalkSeconds(m.Body, 1000*t.Metres)
		if a != here && here != nil {
			t.Seconds += 2 * (here.WalkSeconds + a.WalkSeconds)
		}
		out.Metres += t.Metres
		out.Seconds += t.Seconds
		out.Trips = append(out.Trips, t)
	}
	return out
}

// armsLength to either side of where one stands, mm.
const armsLength = 600

// before has the area one is in first, then the nearest.
func before(a, b, here *shop.Area) int {
	switch {
	case a == b:
		return 0
	case a == here:
		return -1
	case b == here:
		return 1
	case a.WalkSeconds < b.WalkSeconds:
		return -1
	case a.WalkSeconds > b.WalkSeconds:
		return 1
	}
	return 0
}

// unreached counts as so far when no way leads there, mm.
const unreached = 1e6

// distances between all, each worked out once.
func distances(ways []*walk.Ways, at func(int) geometry.Point) func(i, j int) float64 {
	n := len(ways)
	known := make([]float64, n*n)
	for i := range known {
		known[i] = -1
	}
	return func(i, j int) float64 {
		if i == j {
			return 0
		}
		if d := known[i*n+j]; d >= 0 {
			return d
		}
		d := unreached
		if p, ok := ways[i].To(at(j)); ok {
			d = p.Length
		}
		d = math.Max(0, d)
		known[i*n+j], known[j*n+i] = d, d
		return d
	}
}
