package supply

import (
	"fmt"
	"math"
	"slices"

	"hobrak/internal/core/geometry"
	"hobrak/internal/core/length"
	"hobrak/internal/core/shop"
)

// Reached is how compressed air, water or the network comes to a station that wants it.
type Reached struct {
	Station  string       `json:"station"`
	Name     string       `json:"name"`
	What     string       `json:"what" enum:"air,water,network"`
	From     string       `json:"from" doc:"id of the compressor, sink, tap or socket; empty when there is none"`
	By       string       `json:"by" doc:"its name"`
	Long     float64      `json:"long" doc:"mm: of a hose along the floor round what stands there and up to both ends; of a pipe or cable along the walls"`
	Have     float64      `json:"have" doc:"mm of hose that there is; 0 for what is laid along the wall"`
	Usual    bool         `json:"usual" doc:"nobody measured the hose: a usual one"`
	Short    bool         `json:"short" doc:"the hose does not get there"`
	Crossing int          `json:"crossing" doc:"ways that the hose crosses on the floor"`
	Path     [][2]float64 `json:"path" nullable:"false"`
}

// Estimates of what comes through hoses and pipes.
const (
	usualAirHose = 10000.0 // mm that come with a compressor (an estimate)
	upToBoth     = 1500.0  // mm of an air hose that are not on the floor
)

// piped are the words of what comes through hoses, pipes and cables.
var piped = map[string]struct{ says, missing, do string }{
	"air":     {"compressed air", "no compressor stands in this room", "a compressor with a hose that gets there, or tools that need none"},
	"water":   {"water", "no sink stands and no tap is marked in this room", "a can and a bucket, or a tap and a drain laid by a plumber"},
	"network": {"the network", "no network socket is marked in this room", "a cable along the wall by whoever may lay it, or wireless: try it there first"},
}

// from is a source of what is piped.
type spring struct {
	id, name string
	at       geometry.Point
	station  int // number of the station it is; -1 for a feature of a wall
	hose     float64
	usual    bool
}

func (w *worker) springs(what string) (out []spring) {
	kinds := map[string][]shop.StationKind{"air": {"compressor"}, "water": {"sink"}}[what]
	for i, st := range w.here {
		if slices.Contains(kinds, st.Kind) {
			s := spring{id: st.ID, name: st.Name, at: w.mid(i), station: i}
			if what == "air" {
				if s.hose = st.Hose.MM(); s.hose == 0 {
					s.hose, s.usual = usualAirHose, true
				}
			}
			out = append(out, s)
		}
	}
	feature := map[string]shop.FeatureKind{"water": "tap", "network": "data-socket"}[what]
	for i := range w.area.Walls {
		for k := range w.area.Walls[i].Features {
			if f := &w.area.Walls[i].Features[k]; feature != "" && f.Kind == feature {
				out = append(out, spring{id: f.ID, name: f.Called(), at: w.area.Frame(i).Spot((f.X + f.W/2).MM(), 20), station: -1})
			}
		}
	}
	return out
}

// pipes brings compressed air, water and the network to the stations that want them.
func (w *worker) pipes() {
	for i, st := range w.here {
		for _, what := range st.Piped() {
			r := Reached{Station: st.ID, Name: st.Name, What: what, Path: [][2]float64{}}
			best := math.Inf(1)
			for _, s := range w.springs(what) {
				if s.station == i {
					continue
				}
				path, long, ok := w.hose(s, i)
				if !ok || long >= best {
					continue
				}
				best = long
				r.From, r.By, r.Long, r.Have, r.Usual, r.Path, r.Crossing = s.id, s.name, long, s.hose, s.usual, points(path), 0
				if s.hose > 0 && !w.carried(s, i) {
					r.Crossing = len(w.crossed(path))
				}
			}
			p := piped[what]
			switch {
			case r.From == "":
				w.caution("no-"+what, st.ID, fmt.Sprintf("%s wants %s, and %s", st.Name, p.says, p.missing), p.do)
			case r.Have > 0 && r.Long > r.Have+slack:
				r.Short = true
				says := fmt.Sprintf("the air hose of %s is %s short of %s", r.By, length.OnFoot(r.Long-r.Have), st.Name)
				if r.Usual {
					says += "; nobody measured it, a usual one is taken"
				}
				w.caution("short-hose", st.ID, says, "move one of them nearer, or a longer hose or a reel under the ceiling")
			}
			if what == "water" && r.From != "" && !w.drained() {
				w.caution("no-drain", st.ID, fmt.Sprintf("%s gets its water from %s, and no sink stands in this room: nothing takes it away", st.Name, r.By), "a bucket under it and a tray round it; a drain is a plumber's")
			}
			if r.Crossing > 0 {
				w.caution("crossing", st.ID, fmt.Sprintf("the air hose to %s lies across %s people walk", st.Name, times(r.Crossing)), "a reel under the ceiling, or a pipe along the wall with a coupling at "+st.Name)
			}
			w.out.Reached = append(w.out.Reached, r)
		}
	}
}

// carried tells whether an arm of a compressor carries its hose to a station.
func (w *worker) carried(s spring, i int) bool {
	return s.station >= 0 && w.here[s.station].Arm > 0 && w.feet[s.station].Gap(w.feet[i]) <= w.here[s.station].Arm.MM()
}

// drained tells whether what runs out is taken away: a sink stands here.
func (w *worker) drained() bool {
	return slices.ContainsFunc(w.here, func(st *shop.Station) bool { return st.Kind == "sink" })
}

// hose from a spring to a station: along the floor where it is a hose, along the walls where it is a pipe or a cable.
func (w *worker) hose(s spring, i int) (path []geometry.Point, long float64, ok bool) {
	if s.hose == 0 {
		return []geometry.Point{s.at, nearest(w.feet[i], s.at)}, w.alongWall(s.at, w.feet[i]), true
	}
	if w.carried(s, i) {
		a, b := nearest(w.feet[s.station], w.mid(i)), nearest(w.feet[i], s.at)
		return []geometry.Point{a, b}, a.Distance(b) + upToBoth, true
	}
	best := math.Inf(1)
	for _, g := range w.edges[s.station] {
		if p, d, ok := w.lead(g.At, i); ok && d < best {
			path, best = p, d
		}
	}
	return path, best + upToBoth, path != nil
}
