package supply

import (
	"fmt"
	"math"

	"hobrak/internal/core/geometry"
	"hobrak/internal/core/shop"
)

// Lit is how bright it is where somebody works.
type Lit struct {
	Station string  `json:"station"`
	Name    string  `json:"name"`
	Wants   float64 `json:"wants" doc:"lx"`
	Lamps   float64 `json:"lamps" doc:"lx straight from lamps"`
	Sky     float64 `json:"sky" doc:"lx through windows under a dull sky"`
	Room    float64 `json:"room" doc:"lx thrown back by walls and ceiling"`
	Evening float64 `json:"evening" doc:"lx without the sky"`
	Shaded  int     `json:"shaded" doc:"lamps that something tall stands before"`
	Hand    bool    `json:"hand" doc:"most of it comes from the side of the hand that works: its shadow falls on the work"`
	Behind  bool    `json:"behind" doc:"most of it comes from behind the one who stands there: one works in one's own shadow"`
}

// NewLamp is where one lamp more brings most.
type NewLamp struct {
	X     float64 `json:"x" doc:"mm on the plan"`
	Y     float64 `json:"y"`
	Lumen float64 `json:"lumen" doc:"as the others have, or a usual one"`
	For   string  `json:"for" doc:"name of the station that gains most"`
	Gain  float64 `json:"gain" doc:"lx it gains"`
	Fewer int     `json:"fewer" doc:"so many stations fewer are too dark"`
}

// Estimates and sources of light.
const (
	usualLumen = 4000.0  // of a lamp under a ceiling that nobody read (an estimate: a tube of 1.2 m)
	sky        = 10000.0 // lx outside under a dull sky (CIE overcast, a usual design figure)
	throughIn  = .02     // daylight factor right before a window, falling with distance
	ceilingRho = .5      // raw boards; .7 painted pale
	wallRho    = .3      // .5 painted pale
	floorRho   = .1      // .2 pale
	wrongSide  = 300.0   // so far to one side a lamp counts as at that side, mm
	lightGrid  = 400.0   // from one spot of a lamp that is tried to the next, mm; wider in a large room
)

// source of light, mm and lumen.
type source struct {
	x, y, z, lumen float64
	id             string
}

func (w *worker) lamps() (out []source) {
	if w.area.Ceiling == nil {
		return nil
	}
	for _, f := range w.area.Ceiling.Features {
		if f.Kind != "light" {
			continue
		}
		s := source{x: (f.X + f.W/2).MM(), y: (f.Y + f.D/2).MM(), lumen: f.Lumen, id: f.ID}
		if s.lumen == 0 {
			s.lumen = usualLumen
		}
		s.z = w.high() - f.Drop.MM()
		out = append(out, s)
	}
	return out
}

// Straight is the light of a flat diffuse lamp on a level spot, lx: I·cos θ / d² with I = Φ/π·cos θ of the lamp itself, which looks down
// (Lambert). Metres and lumen.
func Straight(lumen, aside, above float64) float64 {
	if above <= 0 {
		return 0
	}
	d2 := aside*aside + above*above
	cos := above / math.Sqrt(d2)
	return lumen / math.Pi * cos * cos / d2
}

func (w *worker) light() {
	lamps := w.lamps()
	room := w.thrownBack(lamps, w.area.Pale)
	if !w.area.Pale {
		w.out.Paint = w.thrownBack(lamps, true) - room
	}
	for i, st := range w.here {
		wantLux := st.Kind.Supply().Light
		if wantLux == 0 || st.Kind.Lodger() {
			continue
		}
		w.out.Lit = append(w.out.Lit, w.litAt(i, st, lamps, room, wantLux))
	}
	dark := func(l *Lit) bool { return l.Evening < l.Wants }
	for k := range w.out.Lit {
		l := &w.out.Lit[k]
		if dark(l) {
			w.caution("dark", l.Station, fmt.Sprintf("%s has about %.0f lx in the evening, %.0f are wanted", l.Name, math.Round(l.Evening/10)*10, l.Wants), "a lamp of its own from the side of the hand that does not work")
		}
	}
	w.lampMore(lamps)
}

// thrownBack is the light that walls, floor and ceiling throw back, lx: Φ·ρ / (A·(1 − ρ)), the lumen of all lamps by the mean reflectance over
// all surfaces, as in an integrating sphere: a rough form of the lumen method.
func (w *worker) thrownBack(lamps []source, pale bool) float64 {
	floor, walls := math.Abs(w.area.Outline().Area())/1e6, w.girth()*w.high()/1e6
	c, wl, f := ceilingRho, wallRho, floorRho
	if pale {
		c, wl, f = .7, .5, .2
	}
	all := 2*floor + walls
	rho := (c*floor + wl*walls + f*floor) / max(1e-9, all)
	sum := 0.0
	for _, l := range lamps {
		sum += l.lumen
	}
	return sum / max(1e-9, all) * rho / (1 - rho)
}

// litAt is the light at a station where it is said to stand; i is its number, which does not shade itself.
func (w *worker) litAt(i int, st *shop.Station, lamps []source, room, wanted float64) Lit {
	foot := st.Footprint()
	mid := foot[0].Add(foot[2]).Mul(.5)
	l := Lit{Station: st.ID, Name: st.Name, Wants: wanted, Room: room}
	h := st.H.MM()
	stand := geometry.Point{X: st.Stand[0].MM(), Y: st.Stand[1].MM()}
	facing := mid.Sub(stand)
	behind, side := 0.0, 0.0
	right := geometry.Point{X: facing.Y, Y: -facing.X}
	if w.left {
		right = right.Mul(-1)
	}
	for _, s := range lamps {
		p := geometry.Point{X: s.x, Y: s.y}
		e := Straight(s.lumen, p.Distance(mid)/1000, (s.z-h)/1000)
		if e < 1 {
			continue
		}
		if w.blocked(i, mid, h, s) {
			l.Shaded++
			continue
		}
		l.Lamps += e
		if facing.Norm() > 1 && p.Sub(stand).Dot(facing) < 0 {
			behind += e
		}
		if facing.Norm() > 1 && p.Sub(mid).Dot(right.Unit()) > wrongSide {
			side += e
		}
	}
	l.Hand = l.Lamps > 0 && side > 2*l.Lamps/3
	l.Behind = l.Lamps > 0 && behind > l.Lamps/2
	for k := range w.area.Walls {
		for n := range w.area.Walls[k].Features {
			f := &w.area.Walls[k].Features[n]
			if !f.Kind.Lit() {
				continue
			}
			// Falling with the distance as the window looks smaller: half a window's height away it is a half.
			d := w.area.Frame(k).Spot((f.X + f.W/2).MM(), 0).Distance(mid)
			size := math.Sqrt(f.W.MM() * f.H.MM())
			l.Sky += sky * throughIn / (1 + (d/size)*(d/size))
		}
	}
	l.Evening = l.Lamps + l.Room
	return l
}

// blocked tells whether another station or container that is higher stands between a spot and a lamp.
func (w *worker) blocked(i int, at geometry.Point, h float64, s source) bool {
	over := func(g geometry.Polygon, box [2]geometry.Point, tall float64) bool {
		if tall <= h {
			return false
		}
		// Where the ray comes over its top, it is past it.
		end := at.Add(geometry.Point{X: s.x, Y: s.y}.Sub(at).Mul(min(1, (tall-h)/max(1, s.z-h))))
		if max(at.X, end.X) < box[0].X || min(at.X, end.X) > box[1].X || max(at.Y, end.Y) < box[0].Y || min(at.Y, end.Y) > box[1].Y {
			return false
		}
		return crosses(g, geometry.Segment{A: at, B: end})
	}
	for k, o := range w.here {
		if k != i && over(w.feet[k], w.boxes[k], max(o.H, o.Tall).MM()) {
			return true
		}
	}
	for _, c := range w.cases {
		if over(c.foot, c.box, c.high) {
			return true
		}
	}
	return false
}

// Hang is a lamp that would bring more elsewhere, as things stand now.
type Hang struct {
	Lamp  string  `json:"lamp"`
	X     float64 `json:"x" doc:"mm on the plan"`
	Y     float64 `json:"y"`
	Gain  float64 `json:"gain" doc:"lx less missing, over all places of work"`
	Fewer int     `json:"fewer" doc:"so many stations fewer are too dark"`
}

// net are the spots that are tried for a lamp, with what a lumen there brings each place of work, lx.
type net struct {
	at    []geometry.Point
	bring [][]float64
}

func (w *worker) net() (n net) {
	g := w.area.Outline()
	lo, hi := g.Bounds()
	grid := max(lightGrid, math.Sqrt(math.Abs(g.Area()))/16)
	for x := lo.X + grid/2; x < hi.X; x += grid {
		for y := lo.Y + grid/2; y < hi.Y; y += grid {
			p := geometry.Point{X: x, Y: y}
			if !g.Contains(p) {
				continue
			}
			s := source{x: x, y: y, z: w.high() - 100}
			row := make([]float64, len(w.out.Lit))
			for k := range w.out.Lit {
				i := w.number(w.out.Lit[k].Station)
				mid, h := w.mid(i), w.here[i].H.MM()
				if e := Straight(1, p.Distance(mid)/1000, (s.z-h)/1000); e > 1e-4 && !w.blocked(i, mid, h, s) {
					row[k] = e
				}
			}
			n.at, n.bring = append(n.at, p), append(n.bring, row)
		}
	}
	return n
}

// missing light over all places of work, lx, and how many have too little, with something added to each.
func (w *worker) missing(more func(k int) float64) (sum float64, dark int) {
	for k := range w.out.Lit {
		if m := w.out.Lit[k].Wants - w.out.Lit[k].Evening - more(k); m > 1e-9 {
			sum += m
			dark++
		}
	}
	return sum, dark
}

// lampMore looks on a grid for the spot of a lamp that leaves least missing, and for lamps that would bring more elsewhere.
func (w *worker) lampMore(lamps []source) {
	missing, tooDark := w.missing(func(int) float64 { return 0 })
	if tooDark == 0 {
		return
	}
	lumen := usualLumen
	if len(lamps) > 0 {
		lumen = lamps[0].lumen
	}
	n := w.net()
	best := missing
	for g := range n.at {
		left, dark := w.missing(func(k int) float64 { return lumen * n.bring[g][k] })
		if left >= best-1e-9 {
			continue
		}
		best = left
		x := &NewLamp{X: n.at[g].X, Y: n.at[g].Y, Lumen: lumen, Fewer: tooDark - dark}
		for k := range w.out.Lit {
			if e := lumen * n.bring[g][k]; e > x.Gain {
				x.For, x.Gain = w.out.Lit[k].Name, e
			}
		}
		w.out.Lamp = x
	}
	w.rehang(lamps, n, missing, tooDark)
}

// worthRehanging is the share of what is missing that a lamp has to bring elsewhere before it is taken down (an estimate).
const worthRehanging = .1

// rehang lists the lamps that would bring more elsewhere, one after the other, each with those before it where they would be then.
func (w *worker) rehang(lamps []source, n net, missing float64, tooDark int) {
	were := make([]float64, len(w.out.Lit))
	for k := range w.out.Lit {
		were[k] = w.out.Lit[k].Evening
	}
	enough := worthRehanging * missing
	for _, l := range lamps {
		gives := make([]float64, len(w.out.Lit))
		for k := range w.out.Lit {
			i := w.number(w.out.Lit[k].Station)
			mid, h := w.mid(i), w.here[i].H.MM()
			if e := Straight(l.lumen, geometry.Point{X: l.x, Y: l.y}.Distance(mid)/1000, (l.z-h)/1000); e >= 1 && !w.blocked(i, mid, h, l) {
				gives[k] = e
			}
		}
		best, at, fewer := missing-enough, -1, 0
		for g := range n.at {
			if left, dark := w.missing(func(k int) float64 { return l.lumen*n.bring[g][k] - gives[k] }); left < best {
				best, at, fewer = left, g, tooDark-dark
			}
		}
		if at < 0 {
			continue
		}
		w.out.Rehang = append(w.out.Rehang, Hang{Lamp: l.id, X: n.at[at].X, Y: n.at[at].Y, Gain: missing - best, Fewer: fewer})
		for k := range w.out.Lit {
			w.out.Lit[k].Evening += l.lumen*n.bring[at][k] - gives[k]
		}
		missing, tooDark = best, tooDark-fewer
	}
	for k := range w.out.Lit {
		w.out.Lit[k].Evening = were[k]
	}
}

func (w *worker) number(id string) int {
	for i, st := range w.here {
		if st.ID == id {
			return i
		}
	}
	return -1
}
