package supply

import (
	"cmp"
	"fmt"
	"math"
	"slices"

	"hobrak/internal/core/access"
	"hobrak/internal/core/geometry"
	"hobrak/internal/core/length"
	"hobrak/internal/core/reach"
	"hobrak/internal/core/shop"
)

// Controlled is a switch, stop, crank or remote against whoever stands at the station.
type Controlled struct {
	Station string  `json:"station"`
	Name    string  `json:"name"`
	Kind    string  `json:"kind" enum:"stop,switch,crank,remote"`
	Far     float64 `json:"far" doc:"mm from the shoulder of who reaches least"`
	Reach   float64 `json:"reach" doc:"mm that they reach, leaning"`
	Out     bool    `json:"out" doc:"it is out of reach from where one stands"`
	Over    string  `json:"over" doc:"name of what stands between; empty when nothing does"`
}

// Starting is a machine from which one walks to switch its extractor on and off.
type Starting struct {
	Station string  `json:"station"`
	Name    string  `json:"name"`
	By      string  `json:"by" doc:"name of the extractor"`
	Seconds float64 `json:"seconds" doc:"a week, walking there and back each time"`
	Remote  bool    `json:"remote" doc:"a remote is at hand there: no walking"`
	Keep    string  `json:"keep" doc:"where a remote would hang: id of the place within reach of whoever stands there, the handiest; empty when there is none, then on the machine itself"`
}

// pace of somebody who walks in a shop, mm/s, as everywhere.
const pace = 1200.0

func (w *worker) controls() {
	bodies := access.Bodies(w.s)
	for i, st := range w.here {
		if len(st.Controls) == 0 {
			continue
		}
		stand := geometry.Point{X: st.Stand[0].MM(), Y: st.Stand[1].MM()}
		for _, c := range st.Controls {
			at := w.spot(i, c.X.MM(), c.Y.MM())
			x := Controlled{Station: st.ID, Name: st.Name, Kind: c.Kind}
			least := math.Inf(1)
			for _, b := range bodies {
				far := math.Hypot(stand.Distance(at), c.Z.MM()-b.Shoulder)
				if can := b.Arm + b.Lean; can-far < least {
					least, x.Far, x.Reach = can-far, far, can
				}
			}
			x.Out = x.Far > x.Reach
			sight := geometry.Segment{A: stand, B: at}
			for k, o := range w.here {
				if k != i && max(o.H, o.Tall) > c.Z && crosses(w.feet[k], sight) {
					x.Over = o.Name
				}
			}
			switch {
			case (x.Out || x.Over != "") && c.Kind == "stop":
				says := fmt.Sprintf("the stop of %s is out of reach from where one stands", st.Name)
				if !x.Out {
					says = fmt.Sprintf("%s is between whoever works at %s and its stop", x.Over, st.Name)
				}
				w.caution("stop", st.ID, says, "it must be within reach, also with the knee or foot and with both hands at the work: move where one stands, or have a second one fitted")
			case x.Out || x.Over != "":
				w.caution("control", st.ID, fmt.Sprintf("the %s of %s is out of reach from where one stands", c.Kind, st.Name), "move it, or stand elsewhere")
			}
			w.out.Controls = append(w.out.Controls, x)
		}
	}
	w.starting()
}

// spot on the floor below what is x from the left of a station's front and y behind it.
func (w *worker) spot(i int, x, y float64) geometry.Point {
	g := w.feet[i]
	right, back := g[1].Sub(g[0]).Unit(), g[3].Sub(g[0]).Unit()
	return g[0].Add(right.Mul(x)).Add(back.Mul(y))
}

func crosses(g geometry.Polygon, e geometry.Segment) bool {
	for k := range g {
		if e.Crosses(g.Edge(k)) {
			return true
		}
	}
	return false
}

// starting are the machines whose extractor one walks to; those where most walking goes are the candidates for a start by itself.
func (w *worker) starting() {
	for _, r := range w.out.Runs {
		i, k := w.number(r.Station), w.number(r.From)
		if i < 0 || k < 0 {
			continue
		}
		st := w.here[i]
		far := w.feet[k].Distance(geometry.Point{X: st.Stand[0].MM(), Y: st.Stand[1].MM()})
		x := Starting{Station: st.ID, Name: st.Name, By: r.By, Remote: slices.ContainsFunc(st.Controls, func(c shop.Control) bool { return c.Kind == "remote" })}
		if far > reach.ArmsReach && !x.Remote {
			x.Seconds = 4 * far / pace * r.Weekly // there and back, on and off
			x.Keep = w.handy(st)
		}
		w.out.Starting = append(w.out.Starting, x)
	}
	slices.SortStableFunc(w.out.Starting, func(a, b Starting) int { return cmp.Compare(b.Seconds, a.Seconds) })
}

// handy is the place on a wall that is nearest to the shoulders of whoever stands at a station, within the reach of who reaches least;
// empty when there is none.
func (w *worker) handy(st *shop.Station) (id string) {
	stand := geometry.Point{X: st.Stand[0].MM(), Y: st.Stand[1].MM()}
	bodies := access.Bodies(w.s)
	best := math.Inf(1)
	for i := range w.s.Places {
		p := &w.s.Places[i]
		_, root := w.ix.Chain(&p.At)
		k := w.area.WallIndex(root.Wall)
		if k < 0 || w.ix.Area(root.Area) != w.area || root != &p.At { // what is in something has to be opened
			continue
		}
		far := w.area.Frame(k).Before(p.At.X.MM(), (p.At.X + p.W).MM(), max(1, p.D.MM())).Distance(stand)
		z := (p.At.Z + p.H/2).MM()
		most := 0.0
		for _, b := range bodies {
			up := max(0, math.Abs(z-b.Shoulder)-p.H.MM()/2)
			d := math.Hypot(far, up)
			if d > b.Arm+b.Lean {
				most = math.Inf(1)
			}
			most = max(most, d)
		}
		if most < best {
			best, id = most, p.ID
		}
	}
	return id
}

// Sight is what is to be seen from a station.
type Sight struct {
	Station string `json:"station"`
	Name    string `json:"name"`
	Of      string `json:"of" doc:"name of what is to be seen"`
	Behind  string `json:"behind" doc:"name of what stands between and is higher than the eye; empty when it is seen"`
}

// sights from where one stands to what is to be in sight, over what is lower than the eye of the smallest.
func (w *worker) sights() {
	eye := math.Inf(1)
	for _, b := range access.Bodies(w.s) {
		eye = min(eye, b.Eye)
	}
	for i, st := range w.here {
		for _, id := range st.Sees {
			k := w.number(id)
			if k < 0 {
				continue
			}
			x := Sight{Station: st.ID, Name: st.Name, Of: w.here[k].Name}
			ray := geometry.Segment{A: geometry.Point{X: st.Stand[0].MM(), Y: st.Stand[1].MM()}, B: w.mid(k)}
			for n, o := range w.here {
				if n != i && n != k && max(o.H, o.Tall).MM() > eye && crosses(w.feet[n], ray) {
					x.Behind = o.Name
				}
			}
			for _, c := range w.cases {
				if c.high > eye && crosses(c.foot, ray) {
					x.Behind = c.name
				}
			}
			if x.Behind != "" {
				w.caution("sight", st.ID, fmt.Sprintf("from %s one does not see %s: %s stands between", st.Name, x.Of, x.Behind), "turn or move one of them, or something lower there")
			}
			w.out.Sights = append(w.out.Sights, x)
		}
	}
}

// mats: what one stands on, and what rolls over it or stands on it.
func (w *worker) mats() {
	for i, st := range w.here {
		if st.Mat[0] <= 0 || st.Mat[1] <= 0 {
			continue
		}
		g := w.feet[i]
		out := g[0].Sub(g[3]).Unit()
		mid := g[0].Add(g[1]).Mul(.5)
		right := g[1].Sub(g[0]).Unit().Mul(st.Mat[0].MM() / 2)
		far := mid.Add(out.Mul(st.Mat[1].MM()))
		mat := geometry.Polygon{far.Sub(right), far.Add(right), mid.Add(right), mid.Sub(right)}
		for k, o := range w.here {
			if k != i && w.feet[k].Overlaps(mat, 20) {
				do := "a smaller mat, or one that is rolled up"
				if o.Mobility.Aside() {
					do = "casters do not climb a mat: a smaller one, or roll it up before"
				}
				w.caution("mat", st.ID, fmt.Sprintf("%s stands on the mat before %s, %s deep", o.Name, st.Name, length.OnFoot(st.Mat[1].MM())), do)
			}
		}
	}
}
