package supply

import (
	"cmp"
	"fmt"
	"math"
	"slices"

	"hobrak/internal/core/geometry"
	"hobrak/internal/core/length"
	"hobrak/internal/core/quantity"
	"hobrak/internal/core/say"
	"hobrak/internal/core/served"
	"hobrak/internal/core/shop"
)

// Plug is where a machine is plugged in, and whether its cord gets there.
type Plug struct {
	Station  string       `json:"station"`
	Name     string       `json:"name"`
	Amps     float64      `json:"amps"`
	Assumed  bool         `json:"assumed" doc:"nobody read its plate"`
	Outlet   string       `json:"outlet" doc:"id; empty where none is marked"`
	Called   string       `json:"called" doc:"the outlet in words"`
	Circuit  string       `json:"circuit" doc:"empty when nobody said on which it is"`
	Strip    string       `json:"strip" doc:"name of the power strip or reel it is plugged into; empty for the outlet itself"`
	Chosen   bool         `json:"chosen" doc:"somebody said that it is this outlet; else it is the nearest"`
	Need     float64      `json:"need" doc:"mm of cord: along the floor round what stands there, down from the outlet and up to the machine"`
	Wall     float64      `json:"wall" doc:"the same along the walls, which crosses no way"`
	Have     float64      `json:"have" doc:"mm of its own cord and the lead that is laid to it"`
	Usual    bool         `json:"usual" doc:"nobody measured the cord: a usual one"`
	Crossing int          `json:"crossing" doc:"ways that it crosses on the floor"`
	Crosses  [][2]float64 `json:"crosses" nullable:"false" doc:"where, mm"`
	Path     [][2]float64 `json:"path" nullable:"false"`
	Drop     float64      `json:"drop" doc:"share of the voltage that the cord costs at full load, 0 to 1"`
}

// Load is what runs together on a circuit.
type Load struct {
	Circuit  string   `json:"circuit"`
	Rated    float64  `json:"rated" doc:"A, of its breaker; 0 when nobody said"`
	Amps     float64  `json:"amps"`
	Set      string   `json:"set" doc:"what runs together"`
	Names    []string `json:"names" nullable:"false"`
	Stations []string `json:"stations" nullable:"false" doc:"ids of them"`
	Over     bool     `json:"over" doc:"more than 80 per cent of the breaker"`
	Advice   string   `json:"advice" doc:"what would bring it below; empty when nothing has to"`
	Move     *Move    `json:"move,omitempty" doc:"the same to be done with a press, where another outlet does it"`
}

// OutletLoad is an outlet with what is plugged into it and how full its circuit is.
type OutletLoad struct {
	ID       string   `json:"id"`
	Name     string   `json:"name"`
	Circuit  string   `json:"circuit" doc:"empty when nobody said on which it is"`
	Machines []string `json:"machines" nullable:"false" doc:"names of what is plugged into it, also by a strip"`
	Amps     float64  `json:"amps" doc:"most that runs on its circuit at the same time"`
	Rated    float64  `json:"rated" doc:"A, of its breaker; 0 when nobody said"`
	Short    bool     `json:"short" doc:"a cord does not get to it from where its machine stands"`
}

// sockets are the outlets with what is plugged into them and the fullest that their circuits get.
func (w *worker) sockets() {
	for i := range w.outlets {
		o := &w.outlets[i]
		x := OutletLoad{ID: o.F.ID, Name: o.Called(), Circuit: o.F.Circuit, Machines: []string{}, Rated: w.rated(o.F.Circuit)}
		for _, p := range w.out.Plugs {
			if p.Outlet == o.F.ID {
				x.Machines = append(x.Machines, p.Name)
				x.Short = x.Short || p.Need > p.Have+slack
			}
		}
		for _, l := range w.out.Loads {
			if l.Circuit == o.F.Circuit {
				x.Amps = max(x.Amps, l.Amps)
			}
		}
		w.out.Outlets = append(w.out.Outlets, x)
	}
}

// Move of a plug to another outlet.
type Move struct {
	Station string `json:"station"`
	Outlet  string `json:"outlet"`
}

// Wanted is what to hand to an electrician.
type Wanted struct {
	What string  `json:"what" enum:"outlet,circuit"`
	For  string  `json:"for" doc:"name of the machine"`
	Wall string  `json:"wall" doc:"nearest to it"`
	X    float64 `json:"x" doc:"mm from the wall's left end, about"`
	Amps float64 `json:"amps"`
}

// Estimates and sources of the figures of electricity.
const (
	continuous = .8    // of a breaker for what runs for hours (NFPA 70, 210.20(A); a usual figure elsewhere)
	starting   = 6.0   // of the rated current of an induction motor for part of a second (IEC 60034-12 allows more)
	mayTrip    = 5.0   // of a breaker of type B at which it trips at once (IEC 60898-1: 3 to 5)
	copper     = .0175 // resistivity, Ω mm²/m
	thick      = 1.5   // mm² of a usual lead
	mostDrop   = .05   // of the voltage
	slack      = 50.0  // that nobody measures a cord to, mm
)

// straight is the least cord from an outlet to a station.
func (w *worker) straight(i int, o *served.Outlet) float64 {
	if w.feet[i].Contains(o.At) {
		return o.Rises(w.here[i])
	}
	return w.feet[i].Distance(o.At) + o.Rises(w.here[i])
}

// reached is an outlet with the mm of cord that it takes to get there at least.
type reached struct {
	outlet *served.Outlet
	least  float64
}

func (w *worker) plugs() {
	for i, st := range w.here {
		if st.Amps <= 0 {
			continue
		}
		p := Plug{Station: st.ID, Name: st.Name, Amps: st.Amps, Assumed: slices.Contains(st.Assumed, "amps"), Path: [][2]float64{}, Crosses: [][2]float64{}}
		p.Have, p.Usual = served.Have(st)
		chain, end := w.chain(st.Outlet)
		for _, x := range chain {
			p.Have += x.Lead.MM()
		}
		if len(chain) > 0 {
			p.Strip = chain[0].Name
		}
		best := math.Inf(1)
		into := st.Outlet // the one outlet it can be, where somebody said; with a strip the one at its end
		chosen := slices.ContainsFunc(w.outlets, func(o served.Outlet) bool { return o.F.ID == into })
		if end != nil {
			into, chosen = end.F.ID, true
		}
		near := make([]reached, len(w.outlets)) // by what is needed at least, in a straight line: those that need more than the best are not looked at
		for k := range w.outlets {
			near[k] = reached{&w.outlets[k], w.straight(i, &w.outlets[k])}
		}
		slices.SortStableFunc(near, func(a, b reached) int { return cmp.Compare(a.least, b.least) })
		for _, r := range near {
			o := r.outlet
			if chosen && o.F.ID != into || p.Strip != "" && end == nil { // a strip that hangs on nothing reaches none
				continue
			}
			if r.least >= best {
				break
			}
			path, long, ok := w.lead(o.At, i)
			if !ok {
				continue
			}
			if need := long + o.Rises(st); need < best {
				best = need
				p.Outlet, p.Called, p.Circuit, p.Chosen = o.F.ID, o.Called(), o.F.Circuit, chosen
				p.Need, p.Path, p.Crosses = need, points(path), points(w.crossed(path))
				p.Crossing = len(p.Crosses)
				p.Wall = w.alongWall(o.At, w.feet[i]) + o.Rises(st)
			}
		}
		if slices.ContainsFunc(chain, func(x *shop.Strip) bool { return x.Overhead }) {
			p.Crossing, p.Crosses = 0, [][2]float64{}
		}
		w.out.Plugs = append(w.out.Plugs, p)
		w.judge(&w.out.Plugs[len(w.out.Plugs)-1], st)
	}
}

// alongWall is how long a cord is that goes along the walls and leaves them only for the station.
func (w *worker) alongWall(from geometry.Point, foot geometry.Polygon) float64 {
	g := w.area.Outline()
	whole, at := 0.0, make([]float64, len(g))
	for i := range g {
		at[i] = whole
		whole += g.Edge(i).A.Distance(g.Edge(i).B)
	}
	along := func(p geometry.Point) (s, off float64) {
		off = math.Inf(1)
		for i := range g {
			q := g.Edge(i).Nearest(p)
			if d := q.Distance(p); d < off {
				off, s = d, at[i]+q.Distance(g.Edge(i).A)
			}
		}
		return s, off
	}
	a, _ := along(from)
	best := math.Inf(1)
	for i := range foot {
		b, off := along(foot[i])
		d := math.Abs(a - b)
		best = min(best, min(d, whole-d)+off)
	}
	return best
}

// judge a plug: what is short, crosses, or loses too much.
func (w *worker) judge(p *Plug, st *shop.Station) {
	if p.Outlet == "" && p.Strip != "" {
		return // that is said of the strip
	}
	if p.Outlet == "" {
		w.caution("no-outlet", st.ID, st.Name+" finds no outlet that a cord could come to", "an outlet near it: an electrician's work")
		w.wish("outlet", st)
		return
	}
	if p.Need > p.Have+slack {
		what := fmt.Sprintf("the cord of %s is %s short of %s", st.Name, length.OnFoot(p.Need-p.Have), p.Called)
		if p.Usual {
			what += "; nobody measured it, a usual one is taken"
		}
		w.caution("short-cord", st.ID, what, "move it, take a nearer outlet, or lay one lead of the right length, rated for the machine, not one into another")
		if p.Need > p.Have+5000 {
			w.wish("outlet", st)
		}
	}
	if p.Crossing > 0 {
		do := "lead it along the wall or overhead, or cover it with a ramp while it lies there"
		if p.Wall <= p.Have+1 {
			do = "lead it along the wall: it is long enough for that"
		}
		w.caution("crossing", st.ID, fmt.Sprintf("the cord of %s lies across %s people walk", st.Name, times(p.Crossing)), do)
	}
	volts := w.s.Volts()
	for _, c := range w.s.Circuits {
		if c.ID == p.Circuit && c.Volts > 0 {
			volts = c.Volts
		}
	}
	p.Drop = 2 * copper * p.Have / 1000 * p.Amps / thick / volts
	if p.Drop > mostDrop {
		w.caution("long-cord", st.ID, fmt.Sprintf("%s of cord cost %s %.0f %% of the voltage", length.OnFoot(p.Have), st.Name, 100*p.Drop), "a shorter or thicker lead, fully unrolled: what is wound up gets hot")
	}
}

func times(n int) string {
	if n == 1 {
		return "a way"
	}
	return fmt.Sprintf("%d ways", n)
}

// set of machines that run together.
type set struct {
	name string
	ids  []string
}

// together are the sets that run at the same time: those somebody named, and each machine that makes dust with what extracts it.
func (w *worker) together() (out []set) {
	for _, t := range w.s.Settings.Running {
		out = append(out, set{t.Name, t.Stations})
	}
	var always []string // runs while anything does
	for _, st := range w.here {
		if st.Amps > 0 && (st.Kind == "air-cleaner" || st.Kind == "heater") {
			always = append(always, st.ID)
		}
	}
	for i, st := range w.here {
		if st.Amps <= 0 || st.Kind.Supply().Dust <= 0 {
			continue
		}
		ids := append([]string{st.ID}, always...)
		if x := w.extractorOf(i); x != nil && x.Amps > 0 {
			ids = append(ids, x.ID)
		}
		out = append(out, set{st.Name, ids})
	}
	for _, st := range w.here { // and each by itself
		if st.Amps > 0 && !slices.ContainsFunc(out, func(x set) bool { return slices.Contains(x.ids, st.ID) }) {
			out = append(out, set{st.Name, []string{st.ID}})
		}
	}
	return out
}

func (w *worker) rated(circuit string) float64 {
	for _, c := range w.s.Circuits {
		if c.ID == circuit {
			return c.Amps
		}
	}
	return 0
}

func (w *worker) plug(id string) *Plug {
	for i := range w.out.Plugs {
		if w.out.Plugs[i].Station == id {
			return &w.out.Plugs[i]
		}
	}
	return nil
}

// loads of the circuits by what runs together on each.
func (w *worker) loads() {
	for _, x := range w.sets {
		sum := map[string]*Load{}
		for _, id := range x.ids {
			p := w.plug(id)
			if p == nil || p.Circuit == "" {
				continue
			}
			if sum[p.Circuit] == nil {
				sum[p.Circuit] = &Load{Circuit: p.Circuit, Rated: w.rated(p.Circuit), Set: x.name, Names: []string{}, Stations: []string{}}
			}
			l := sum[p.Circuit]
			l.Amps += p.Amps
			l.Names = append(l.Names, p.Name)
			l.Stations = append(l.Stations, p.Station)
		}
		for _, c := range w.s.Circuits {
			l := sum[c.ID]
			if l == nil {
				continue
			}
			if l.Rated > 0 {
				l.Over = l.Amps > continuous*l.Rated+1e-9
				most := 0.0
				for _, id := range x.ids {
					if p := w.plug(id); p != nil && p.Circuit == c.ID {
						most = max(most, p.Amps)
					}
				}
				if l.Over {
					l.Advice, l.Move = w.advice(x, c.ID)
					says := fmt.Sprintf("%s draw %s A together on %s, which carries %s A", say.Listed(l.Names), quantity.Number(l.Amps, 3), c.ID, quantity.Number(l.Rated, 3))
					if len(l.Names) == 1 {
						says = fmt.Sprintf("%s draws %s A on %s, which carries %s A", l.Names[0], quantity.Number(l.Amps, 3), c.ID, quantity.Number(l.Rated, 3))
					}
					w.caution("overload", x.ids[0], says+"; for hours 80 % of that", l.Advice)
				} else if start := l.Amps + (starting-1)*most; start > mayTrip*l.Rated {
					w.caution("start", x.ids[0], fmt.Sprintf("%s may trip %s at the start", say.Listed(l.Names), c.ID), "start them one after the other, the largest first")
				}
			}
			w.out.Loads = append(w.out.Loads, *l)
		}
	}
	share := func(l *Load) float64 {
		if l.Rated == 0 {
			return 0
		}
		return l.Amps / l.Rated
	}
	slices.SortStableFunc(w.out.Loads, func(a, b Load) int { return cmp.Compare(share(&b), share(&a)) })
}

// advice is what brings a set below 80 per cent: one of it on the outlet of another circuit that its cord comes to, or not at once.
func (w *worker) advice(x set, circuit string) (says string, move *Move) {
	best, far := "", math.Inf(1)
	for _, id := range x.ids {
		p := w.plug(id)
		if p == nil || p.Circuit != circuit {
			continue
		}
		i := w.number(id)
		for _, o := range w.outlets {
			if o.F.Circuit == "" || o.F.Circuit == circuit || w.rated(o.F.Circuit) == 0 {
				continue
			}
			there, here := p.Amps, -p.Amps
			for _, other := range x.ids {
				if q := w.plug(other); q != nil {
					if q.Circuit == o.F.Circuit {
						there += q.Amps
					}
					if q.Circuit == circuit {
						here += q.Amps
					}
				}
			}
			if w.straight(i, &o) > p.Have || there > continuous*w.rated(o.F.Circuit) || here > continuous*w.rated(circuit) {
				continue
			}
			if _, long, ok := w.lead(o.At, i); ok && long+o.Rises(w.here[i]) <= p.Have && long < far {
				best, far = fmt.Sprintf("plug %s into %s, on %s", w.here[i].Name, o.Called(), o.F.Circuit), long
				move = &Move{Station: id, Outlet: o.F.ID}
			}
		}
	}
	if best != "" {
		return best, move
	}
	if len(x.ids) > 1 {
		return "not at the same time, or a circuit more: ask an electrician", nil
	}
	return "another circuit: ask an electrician", nil
}

// wish adds to what is handed to an electrician.
func (w *worker) wish(what string, st *shop.Station) {
	foot := st.Footprint()
	mid := foot[0].Add(foot[2]).Mul(.5)
	out := Wanted{What: what, For: st.Name, Amps: st.Amps}
	far := math.Inf(1)
	g := w.area.Outline()
	for i := range w.area.Walls {
		e := g.Edge(i)
		if q := e.Nearest(mid); q.Distance(mid) < far {
			far, out.Wall = q.Distance(mid), w.area.Walls[i].ID
			out.X, _ = w.area.Frame(i).Coordinates(q)
		}
	}
	if !slices.ContainsFunc(w.out.Wanted, func(x Wanted) bool { return x.What == what && x.For == st.Name }) {
		w.out.Wanted = append(w.out.Wanted, out)
	}
}

// wishes are the machines that are only wished for and that no circuit carries, and those that are too much for theirs.
func (w *worker) wishes() {
	most := 0.0
	for _, c := range w.s.Circuits {
		most = max(most, continuous*c.Amps)
	}
	for i := range w.s.Stations {
		st := &w.s.Stations[i]
		if w.ix.Area(st.Area) == w.area && st.Amps > 0 && most > 0 && st.Amps > most {
			w.wish("circuit", st)
		}
	}
}
