package supply

import (
	"cmp"
	"fmt"
	"math"
	"slices"

	"hobrak/internal/core/floor"
	"hobrak/internal/core/geometry"
	"hobrak/internal/core/length"
	"hobrak/internal/core/served"
	"hobrak/internal/core/shop"
)

// Site is a spot for a station with what it would have there.
type Site struct {
	X       float64 `json:"x" doc:"mm, left edge"`
	Y       float64 `json:"y"`
	Rot     float64 `json:"rot"`
	Now     bool    `json:"now" doc:"it stands there"`
	Wall    string  `json:"wall" doc:"nearest wall"`
	Hose    float64 `json:"hose" doc:"mm of hose to the farthest machine it serves, or to what serves it; 0 without"`
	Metres  float64 `json:"metres" doc:"of hose to all of them"`
	Cord    float64 `json:"cord" doc:"mm that its cord is short, straight to its outlet"`
	Bench   float64 `json:"bench" doc:"dB(A) of it at the bench; 0 where it makes no noise"`
	Beyond  float64 `json:"beyond" doc:"dB(A) of it at the wall somebody lives behind; 0 without one"`
	Light   float64 `json:"light" doc:"lx there in the evening; 0 where none is wanted"`
	Day     float64 `json:"day" doc:"lx by day"`
	Door    float64 `json:"door" doc:"mm to the nearest door, to carry out what is emptied"`
	Opening float64 `json:"opening" doc:"mm to the nearest door, window or fan"`
	Price   float64 `json:"price" doc:"metres of walking a week that all this is worth"`
}

// Prices of a site beside those of what serves it, in metres of walking a week (estimates).
const (
	aDecibel  = 1.0  // at the bench over 70
	quietAt   = 70.0 // dB(A) at the bench from which it costs
	aMetreOut = .6   // to the door, with a full bag
	aHundred  = 1.5  // lx that are missing, each hundred
	aMetreDry = .8   // of what is dusty or makes fumes from an opening
	sitesMost = 4    // that are shown
	siteApart = 800  // between those that are shown, mm
	sitesWork = 600  // that are looked at for what is in the way
)

// Sites are the best spots for a station by what it needs and does to the others, and the one where it stands; the best first. The
// error says which station, area or mode there is not.
func Sites(s *shop.Shop, mode, id string) ([]Site, error) {
	in := s
	if mode != "" {
		var err error
		if in, err = s.InMode(mode); err != nil {
			return nil, err
		}
	}
	ix := shop.NewIndex(in)
	st := ix.Station(id)
	if st == nil {
		return nil, fmt.Errorf("there is no station %q", id)
	}
	a := ix.Area(st.Area)
	g, err := floor.Of(in, a, id)
	if err != nil {
		return nil, err
	}
	w := newWorker(in, ix, a)
	j := &judge{w: w, prices: served.New(in, a, func(o *shop.Station) bool { return o.ID == id }), lamps: w.lamps(), exits: w.exits(), me: w.number(id)}
	j.room = w.thrownBack(j.lamps, a.Pale)
	for _, o := range w.here {
		if o.Kind == shop.Bench && o.ID != id {
			j.bench = &geometry.Point{X: o.Stand[0].MM(), Y: o.Stand[1].MM()}
			break
		}
	}
	now := j.site(st)
	now.Now = true
	var all []Site
	for _, at := range g.Spots(st, false) {
		if x := j.site(&at); x.Price < now.Price-.5 {
			all = append(all, x)
		}
	}
	slices.SortStableFunc(all, func(a, b Site) int { return cmp.Compare(a.Price, b.Price) })
	out := []Site{}
	for _, x := range all[:min(len(all), sitesWork)] {
		if len(out) == sitesMost || slices.ContainsFunc(out, func(o Site) bool { return math.Hypot(o.X-x.X, o.Y-x.Y) < siteApart }) {
			continue
		}
		at := *st
		at.X, at.Y, at.Rot = length.MM(x.X), length.MM(x.Y), x.Rot
		at.Stand = floor.Stand(&at)
		if g.At(&at) == nil && g.Reached(&at, in.Settings.Clearances().AisleSide) == nil {
			out = append(out, x)
		}
	}
	return append(out, now), nil
}

// judge of the spots of a station.
type judge struct {
	w      *worker
	prices *served.Prices
	lamps  []source
	room   float64
	exits  []Exit
	bench  *geometry.Point
	me     int // its number; -1 while it is only wished for
}

func (j *judge) site(st *shop.Station) Site {
	foot := st.Footprint()
	mid := foot[0].Add(foot[2]).Mul(.5)
	x := Site{X: st.X.MM(), Y: st.Y.MM(), Rot: st.Rot, Cord: j.prices.Short(st), Price: j.prices.At(st), Door: math.Inf(1), Opening: math.Inf(1)}
	near := math.Inf(1)
	outline := j.w.area.Outline()
	for k := range outline {
		if d := outline.Edge(k).Distance(mid); d < near {
			near, x.Wall = d, j.w.area.Walls[k].ID
		}
	}
	j.hoses(st, foot, &x)
	if a, db := j.w.absorption(), served.Level(st); db > 0 && a > 0 {
		if j.bench != nil {
			x.Bench = At(db, mid.Distance(*j.bench)/1000, a)
			x.Price += aDecibel * max(0, x.Bench-quietAt)
		}
		for k := range j.w.area.Walls {
			if j.w.area.Walls[k].Beyond != "" {
				x.Beyond = max(x.Beyond, At(db, outline.Edge(k).Distance(mid)/1000, a))
			}
		}
	}
	if want := st.Kind.Supply().Light; want > 0 && !st.Kind.Lodger() {
		l := j.w.litAt(j.me, st, j.lamps, j.room, want)
		x.Light, x.Day = l.Evening, l.Evening+l.Sky
		x.Price += aHundred * (max(0, want-x.Light) + max(0, want-x.Day)) / 200
	}
	for _, e := range j.exits {
		d := e.at.Distance(mid)
		x.Opening = min(x.Opening, d)
		if e.door {
			x.Door = min(x.Door, d)
		}
	}
	if math.IsInf(x.Opening, 1) {
		x.Opening = 0
	}
	if math.IsInf(x.Door, 1) {
		x.Door = 0
	}
	if served.Extracts(st.Kind) {
		x.Price += aMetreOut * x.Door / 1000
	}
	if b := st.Breath(); b == "dusty" || b == "fumes" {
		x.Price += aMetreDry * x.Opening / 1000
	}
	return x
}

// hoses to what it serves, or from what serves it, straight.
func (j *judge) hoses(st *shop.Station, foot geometry.Polygon, x *Site) {
	for k, o := range j.w.here {
		if k == j.me {
			continue
		}
		flow, _ := served.Wants(o)
		serves := served.Extracts(st.Kind) && flow > 0 || st.Kind == "compressor" && slices.Contains(o.Piped(), "air")
		if serves {
			d := foot.Gap(j.w.feet[k])
			x.Metres += d / 1000
			x.Hose = max(x.Hose, d)
			if st.Kind == "compressor" {
				x.Price += .5 * d / 1000
			}
		}
	}
	if flow, _ := served.Wants(st); flow > 0 {
		best := math.Inf(1)
		for k, o := range j.w.here {
			if k != j.me && served.Extracts(o.Kind) {
				best = min(best, foot.Gap(j.w.feet[k]))
			}
		}
		if !math.IsInf(best, 1) {
			x.Hose, x.Metres = best, best/1000
		}
	}
}

// Cleaner is where an air cleaner hangs best.
type Cleaner struct {
	X    float64 `json:"x" doc:"mm on the plan"`
	Y    float64 `json:"y"`
	Low  float64 `json:"low" doc:"mm, its underside"`
	Head float64 `json:"head" doc:"mm that the tallest needs where one walks"`
	Over string  `json:"over" doc:"name of what it hangs over; empty over free floor"`
	Wall string  `json:"wall" doc:"the wall it blows along"`
	By   string  `json:"by" doc:"name of what makes most dust near it"`
}

// An air cleaner as most are (estimates), mm.
const (
	cleanerHigh = 330.0
	cleanerLong = 700.0
	fromWallMin = 450.0 // from the wall it blows along, so that the stream runs round the room
	fromWallMax = 1100.0
	overHead    = 100.0 // over the tallest head
)

// cleaner looks for the spot of an air cleaner: under the ceiling beside a long wall, near what makes most dust and away from the openings,
// clear of lamps and rails, over a bench or where nobody's head gets.
func (w *worker) cleaner() {
	if len(w.out.Runs) == 0 || slices.ContainsFunc(w.here, func(st *shop.Station) bool { return st.Kind == "air-cleaner" }) {
		return
	}
	head := 1800.0
	for _, p := range w.s.Settings.People {
		head = max(head, p.Stature.MM()+25)
	}
	head += overHead
	low := w.high() - cleanerHigh - 50
	outline := w.area.Outline()
	longest := 0.0
	for k := range outline {
		longest = max(longest, outline.Edge(k).A.Distance(outline.Edge(k).B))
	}
	exits := w.exits()
	best := math.Inf(1)
	for k := range outline {
		e := outline.Edge(k)
		long := e.A.Distance(e.B)
		if long < .7*longest {
			continue
		}
		fr := w.area.Frame(k)
		for x := cleanerLong; x < long-cleanerLong; x += 300 {
			for _, out := range []float64{fromWallMin, (fromWallMin + fromWallMax) / 2, fromWallMax} {
				p := fr.Spot(x, out)
				if !outline.Contains(p) || w.overheadAt(p) {
					continue
				}
				over := ""
				for i, o := range w.here {
					if w.feet[i].Contains(p) && o.H.MM() > 600 && max(o.H, o.Tall).MM() < low-300 {
						over = o.Name
					}
				}
				if low < head && over == "" {
					continue
				}
				cost, most, by := 0.0, 0.0, ""
				for _, r := range w.out.Runs {
					d := w.mid(w.number(r.Station)).Distance(p) / 1000
					weight := r.Wants * max(.2, min(7, r.Weekly))
					cost += weight * d
					if weight/(1+d) > most {
						most, by = weight/(1+d), r.Name
					}
				}
				if x, far := nearestExit(exits, p); x != nil && far < 1500 {
					cost *= 1.3 // it would clean the air that comes in
				}
				if cost < best {
					best = cost
					w.out.Cleaner = &Cleaner{X: p.X, Y: p.Y, Low: low, Head: head, Over: over, Wall: w.area.Walls[k].ID, By: by}
				}
			}
		}
	}
}

// overheadAt tells whether a lamp, rail or beam hangs where a cleaner would.
func (w *worker) overheadAt(p geometry.Point) bool {
	if w.area.Ceiling == nil {
		return false
	}
	half := cleanerLong / 2
	return slices.ContainsFunc(w.area.Ceiling.Features, func(f shop.CeilingFeature) bool {
		return p.X+half > f.X.MM() && p.X-half < (f.X+f.W).MM() && p.Y+half > f.Y.MM() && p.Y-half < (f.Y+f.D).MM()
	})
}
