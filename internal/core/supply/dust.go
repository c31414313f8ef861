package supply

import (
	"cmp"
	"fmt"
	"math"
	"slices"

	"hobrak/internal/core/geometry"
	"hobrak/internal/core/length"
	"hobrak/internal/core/say"
	"hobrak/internal/core/served"
	"hobrak/internal/core/shop"
	"hobrak/internal/core/walk"
)

// Run is how extraction comes to a machine.
type Run struct {
	Station string       `json:"station"`
	Name    string       `json:"name"`
	Wants   float64      `json:"wants" doc:"m³/h"`
	Stated  bool         `json:"stated" doc:"by its plate; else usual for its kind"`
	Weekly  float64      `json:"weekly" doc:"how often things are used at it in a week"`
	From    string       `json:"from" doc:"id of the extractor or vacuum; empty when there is none"`
	By      string       `json:"by" doc:"its name"`
	Gives   float64      `json:"gives" doc:"m³/h by its plate; 0 when nobody read it"`
	Long    float64      `json:"long" doc:"mm of hose along the floor, and up to both"`
	Bends   int          `json:"bends"`
	Wide    float64      `json:"wide" doc:"mm across the hose, usual for so much air"`
	Speed   float64      `json:"speed" doc:"m/s in it"`
	Loss    float64      `json:"loss" doc:"Pa in a ribbed hose at that flow, an estimate"`
	Path    [][2]float64 `json:"path" nullable:"false"`
	Arm     bool         `json:"arm" doc:"an arm carries the hose over the floor: it crosses no way"`
	Crosses int          `json:"crosses" doc:"ways that the hose lies across while one works there"`
	Drop    float64      `json:"drop" doc:"mm from a duct under the ceiling down to the machine"`
}

// DustWay is a way to get extraction to all machines that want it.
type DustWay struct {
	Way     string  `json:"way" enum:"hose,vacuums,ducts" doc:"one hose that is carried about, a vacuum each, or fixed ducts"`
	Metres  float64 `json:"metres" doc:"of hose or duct"`
	Seconds float64 `json:"seconds" doc:"a week, to plug it over"`
	Floor   float64 `json:"floor" doc:"m² more on the floor"`
	Drops   float64 `json:"drops" doc:"metres of that which come down from the ceiling to the machines"`
	Loss    float64 `json:"loss" doc:"Pa to the machine where most is lost, an estimate"`
	Short   int     `json:"short" doc:"machines it would not do for"`
}

// Estimates and sources of extraction.
const (
	friction  = .018 // Darcy and Weisbach, smooth duct
	ribbed    = 2.5  // so many times that in a ribbed hose
	bend      = 9.0  // diameters of duct that a bend of 90° counts as (6 to 12)
	air       = 1.2  // kg/m³
	transport = 20.0 // m/s that carry chips in a level duct (ACGIH, Industrial Ventilation)
	plugOver  = 30.0 // s to carry a hose to another machine (an estimate)
	vacuumM2  = .16  // m² that a vacuum stands on

	armHigh      = 2100.0 // mm, at which an arm carries a hose over people's heads
	underCeiling = 150.0  // mm from the ceiling to the middle of a duct
)

// extractorOf a station: the nearest, in a straight line; nil when there is none.
func (w *worker) extractorOf(i int) (out *shop.Station) {
	best := math.Inf(1)
	mid := w.mid(i)
	for k, o := range w.here {
		if served.Extracts(o.Kind) && k != i {
			if d := w.mid(k).Distance(mid); d < best {
				best, out = d, o
			}
		}
	}
	return out
}

func (w *worker) dust() {
	used := map[string]float64{}
	for i := range w.s.Items {
		for _, id := range w.s.Items[i].UsedAt {
			used[id] += w.s.Items[i].UsesPerWeek
		}
	}
	changes := 0.0
	var mids []geometry.Point
	short := 0
	var bare []*shop.Station // without anything that extracts
	for i, st := range w.here {
		flow, stated := served.Wants(st)
		if flow == 0 {
			continue
		}
		r := Run{Station: st.ID, Name: st.Name, Wants: flow, Stated: stated, Weekly: used[st.ID], Path: [][2]float64{}}
		changes += min(7, used[st.ID]/2)
		mids = append(mids, w.mid(i))
		x := w.extractorOf(i)
		if x == nil {
			bare = append(bare, st)
			w.out.Runs = append(w.out.Runs, r)
			short++
			continue
		}
		k := slices.Index(w.here, x)
		r.From, r.By, r.Gives = x.ID, x.Name, x.Flow
		long := math.Inf(1)
		var path []geometry.Point
		starts := slices.Clone(w.edges[k]) // the sides that look to the machine
		slices.SortStableFunc(starts, func(a, b *walk.Goal) int { return cmp.Compare(w.feet[i].Distance(a.At), w.feet[i].Distance(b.At)) })
		for _, g := range starts[:min(2, len(starts))] {
			if p, d, ok := w.lead(g.At, i); ok && d < long {
				path, long = p, d
			}
		}
		switch straight := w.feet[k].Gap(w.feet[i]); {
		case x.Arm > 0 && straight <= x.Arm.MM(): // over the heads, straight, and down
			a, b := nearest(w.feet[k], w.mid(i)), nearest(w.feet[i], w.mid(k))
			r.Path, r.Long, r.Bends, r.Arm = points([]geometry.Point{a, b}), straight+2*armHigh-x.H.MM()/2-st.H.MM()/2, 2, true
		case path != nil:
			r.Path, r.Long, r.Bends = points(path), long+served.Ports, max(0, len(path)-2)+2
			r.Crosses = len(w.crossed(path))
		}
		r.Drop = max(0, w.high()-underCeiling-st.H.MM())
		r.Wide = 100
		if flow < 200 {
			r.Wide = 38
		}
		d := r.Wide / 1000
		r.Speed = flow / 3600 / (math.Pi * d * d / 4)
		r.Loss = Loss(r.Speed, d, r.Long/1000, r.Bends, friction*ribbed)
		if x.Flow > 0 && flow > x.Flow {
			short++
			w.caution("far-hose", st.ID, fmt.Sprintf("%s wants about %.0f m³/h, %s moves %.0f at best", st.Name, flow, x.Name, x.Flow), "a stronger extractor, or a hood that lets less by; a mask meanwhile")
		}
		have := x.Hose.MM()
		if have == 0 {
			have = served.UsualHose
		}
		if r.Long > have {
			w.caution("far-hose", st.ID, fmt.Sprintf("the hose of %s is %s short of %s", x.Name, length.OnFoot(r.Long-have), st.Name), "move one of them nearer, or lay a duct that is smooth inside")
		}
		w.out.Runs = append(w.out.Runs, r)
	}
	if len(bare) > 0 {
		names := make([]string, len(bare))
		for k, st := range bare {
			names[k] = st.Name
		}
		w.caution("no-extraction", bare[0].ID, "nothing extracts the dust of "+say.Listed(names), "catch it at the source with a vacuum; else a mask that fits and the door open, and the air cleaned after")
	}
	slices.SortStableFunc(w.out.Runs, func(a, b Run) int {
		return cmp.Or(cmp.Compare(b.Wants*max(.1, b.Weekly), a.Wants*max(.1, a.Weekly)), cmp.Compare(a.Station, b.Station))
	})
	if len(w.out.Runs) == 0 {
		return
	}
	w.across()
	longest, all, drops, lost, least := 0.0, 0.0, 0.0, 0.0, 0.0
	for _, r := range w.out.Runs {
		longest = max(longest, r.Long/1000)
		drops += r.Drop / 1000
		lost = max(lost, r.Loss)
		if d := r.Wide / 1000; r.Speed > 0 { // the same way, up to the ceiling and down, in a smooth duct
			least = max(least, Loss(r.Speed, d, (r.Long+2*r.Drop)/1000, r.Bends+2, friction))
		}
	}
	for i, x := range w.here {
		if served.Extracts(x.Kind) {
			mids = append([]geometry.Point{w.mid(i)}, mids...)
			break
		}
	}
	all = tree(mids)/1000 + drops + float64(len(w.out.Runs))*served.Ports/2000
	w.out.Ways = []DustWay{
		{"hose", longest, changes * plugOver, 0, 0, lost, short},
		{"vacuums", float64(len(w.out.Runs)) * 2, 0, float64(len(w.out.Runs)) * vacuumM2, 0, 0, w.many()},
		{"ducts", all, 0, 0, drops, least, short},
	}
}

// across: hoses on the floor that lie across ways while one works, said once for each extractor.
func (w *worker) across() {
	for _, x := range w.here {
		var names []string
		first := ""
		for _, r := range w.out.Runs {
			if r.From == x.ID && r.Crosses > 0 {
				names = append(names, r.Name)
				if first == "" {
					first = r.Station
				}
			}
		}
		if first != "" {
			w.caution("hose-across", first, fmt.Sprintf("the hose of %s to %s lies across ways people walk", x.Name, say.Listed(names)), "an arm or a duct overhead; else lay it only while you work there, and hang it up after")
		}
	}
}

// emptied is the room before an extractor to draw its bin or bag out, mm, and filterRoom what is free over it to get at a filter on top
// (estimates: as deep as most bins are; a forearm).
const (
	emptied    = 600.0
	filterRoom = 350.0
)

// emptying: what stands before an extractor so that its bin does not come out, and what is over it so that nobody gets at the filter.
func (w *worker) emptying() {
	for i, x := range w.here {
		if !served.Extracts(x.Kind) || x.Mobility.Aside() { // what rolls is turned round
			continue
		}
		g := w.feet[i]
		deep := min(emptied, max(300, x.D.MM()))
		out := g[0].Sub(g[3]).Unit().Mul(deep)
		before := geometry.Polygon{g[0].Add(out), g[1].Add(out), g[1], g[0]}
		by := ""
		for k, o := range w.here {
			if k != i && !o.Mobility.Aside() && before.Overlaps(w.feet[k], 20) {
				by = o.Name
			}
		}
		for _, c := range w.cases {
			if before.Overlaps(c.foot, 20) {
				by = c.name
			}
		}
		if by != "" {
			w.caution("emptying", x.ID, fmt.Sprintf("the bin of %s does not come out: %s stands less than %s before it", x.Name, by, length.OnFoot(deep)), "turn it, or keep the floor before it free; a full bag bursts when it is dragged over something")
		}
		top := max(x.H, x.Tall).MM()
		over, room := "the ceiling", w.high()-top
		for k := range w.s.Containers {
			c := &w.s.Containers[k]
			n := w.area.WallIndex(c.At.Wall)
			if n < 0 || w.ix.Area(c.Area) != w.area || c.At.Z.MM() < top-20 {
				continue
			}
			if hung := w.area.Frame(n).Before(c.At.X.MM(), (c.At.X + c.W).MM(), c.D.MM()); hung.Overlaps(g, 20) && c.At.Z.MM()-top < room {
				over, room = w.ix.Name(c.ID), c.At.Z.MM()-top
			}
		}
		if room < filterRoom {
			w.caution("emptying", x.ID, fmt.Sprintf("only %s is free between %s and %s", length.OnFoot(max(0, room)), x.Name, over), "a filter on top wants an arm's room to be shaken and changed: lower, elsewhere, or one at its side")
		}
	}
}

// many are the machines a vacuum is too weak for.
func (w *worker) many() (n int) {
	for _, r := range w.out.Runs {
		if r.Wants >= 200 {
			n++
		}
	}
	return n
}

// Loss of pressure in a straight duct with bends, Pa: f·(L + bends·9·d)/d·ρ·v²/2 (Darcy and Weisbach). Lengths are m, speed m/s.
func Loss(speed, wide, long float64, bends int, f float64) float64 {
	return f * (long + float64(bends)*bend*wide) / wide * air * speed * speed / 2
}

// tree is how long what joins all points is at least, each to the nearest that is joined (Prim), mm.
func tree(list []geometry.Point) (sum float64) {
	if len(list) < 2 {
		return 0
	}
	in := make([]bool, len(list))
	near := make([]float64, len(list))
	for i := range near {
		near[i] = list[i].Distance(list[0])
	}
	in[0] = true
	for range len(list) - 1 {
		best := -1
		for i := range list {
			if !in[i] && (best < 0 || near[i] < near[best]) {
				best = i
			}
		}
		in[best] = true
		sum += near[best]
		for i := range list {
			near[i] = min(near[i], list[i].Distance(list[best]))
		}
	}
	return sum
}

// Changes of the air of a room.
type Changes struct {
	M3    float64 `json:"m3" doc:"of air in the room"`
	Flow  float64 `json:"flow" doc:"m³/h of the air cleaners by their plates"`
	Times float64 `json:"times" doc:"changes an hour"`
	Clear float64 `json:"clear" doc:"hours until 95 per cent of fine dust is gone after work; 0 without a cleaner"`
	Want  float64 `json:"want" doc:"m³/h for six changes an hour"`
}

// air of the room: n = Q / V changes an hour; 95 % is gone after 3 / n hours, as C = C₀·e^(−n·t).
func (w *worker) air() {
	c := Changes{M3: math.Abs(w.area.Outline().Area()) * w.high() / 1e9}
	for _, st := range w.here {
		if st.Kind == "air-cleaner" {
			c.Flow += st.Flow
		}
	}
	if c.M3 > 0 {
		c.Times = c.Flow / c.M3
		c.Want = 6 * c.M3
	}
	if c.Times > 0 {
		c.Clear = 3 / c.Times
	}
	w.out.Air = c
}
