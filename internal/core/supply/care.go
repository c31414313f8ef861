package supply

import (
	"fmt"
	"slices"
	"strings"

	"hobrak/internal/core/geometry"
	"hobrak/internal/core/length"
	"hobrak/internal/core/say"
	"hobrak/internal/core/served"
	"hobrak/internal/core/shop"
)

// Unsure is what is on record so that little follows from it: what is missing, and what is taken meanwhile.
type Unsure struct {
	On   string `json:"on" doc:"id of what it is about"`
	Says string `json:"says"`
}

func (w *worker) unsure(on, says string) {
	w.out.Unsure = append(w.out.Unsure, Unsure{on, says})
}

// doubts: volts and amperes nobody read, circuits that feed nothing, lamps without lumen, outlets behind something.
func (w *worker) doubts() {
	if !slices.ContainsFunc(w.s.Circuits, func(c shop.Circuit) bool { return c.Volts > 0 }) && len(w.out.Plugs) > 0 {
		w.unsure("", fmt.Sprintf("nobody said the voltage: %.0f V is taken", w.s.Volts()))
	}
	var assumed []string
	for _, p := range w.out.Plugs {
		if p.Assumed {
			assumed = append(assumed, p.Name)
		}
	}
	if len(assumed) > 0 {
		w.unsure(w.here[0].ID, "nobody read the plate of "+say.Listed(assumed)+": usual currents are taken")
	}
	fed := map[string]bool{}
	for i := range w.s.Areas {
		for k := range w.s.Areas[i].Walls {
			for _, f := range w.s.Areas[i].Walls[k].Features {
				fed[f.Circuit] = true
			}
		}
	}
	for _, c := range w.s.Circuits {
		if !fed[c.ID] {
			w.unsure(c.ID, fmt.Sprintf("circuit %s feeds no outlet that is marked", c.ID))
		} else if c.Amps == 0 {
			w.unsure(c.ID, fmt.Sprintf("nobody said what the breaker of %s carries: its load is not judged", c.ID))
		}
	}
	if w.area.Ceiling != nil {
		n := 0
		for _, f := range w.area.Ceiling.Features {
			if f.Kind == "light" && f.Lumen == 0 {
				n++
			}
		}
		if n > 0 {
			w.unsure("", fmt.Sprintf("%s: %.0f lm is taken", lampsWithout(n), usualLumen))
		}
	}
	w.hidden()
}

func lampsWithout(n int) string {
	if n == 1 {
		return "nobody said how much light a lamp gives"
	}
	return fmt.Sprintf("nobody said how much light %d lamps give", n)
}

// atBack is how near to a wall something stands against it, mm.
const atBack = 120.0

// hidden outlets: behind what stands against the wall and is higher, or hangs over it.
func (w *worker) hidden() {
	used := map[string]string{}
	for _, p := range w.out.Plugs {
		used[p.Outlet] = p.Name
	}
	for _, o := range w.outlets {
		mid := (o.F.Z + o.F.H/2).MM()
		by := ""
		behind := func(name string, g geometry.Polygon, high float64, legs bool) {
			if high > mid && !legs && (g.Contains(o.At) || g.Distance(o.At) < atBack && before(g, o.At, w.area.Outline())) {
				by = name
			}
		}
		for _, c := range w.cases {
			behind(c.name, c.foot, c.high, false)
		}
		for i, st := range w.here {
			behind(st.Name, w.feet[i], st.H.MM(), bare(st) || st.Kind.Footed())
		}
		for i := range w.s.Containers {
			c := &w.s.Containers[i]
			if c.At.Wall == o.Wall && w.ix.Area(c.At.Area) == w.area && c.At.X.MM() < (o.F.X+o.F.W/2).MM() && (c.At.X+c.W).MM() > (o.F.X+o.F.W/2).MM() && c.At.Z.MM() < mid && (c.At.Z+c.H).MM() > mid {
				by = w.ix.Name(c.ID)
			}
		}
		if by == "" {
			continue
		}
		says := fmt.Sprintf("%s is behind %s", o.Called(), by)
		if m := used[o.F.ID]; m != "" && m != by {
			w.caution("hidden", o.F.ID, says+", and "+m+" is plugged into it", "a plug must be pulled without moving furniture: another outlet, or a gap before it")
		} else {
			w.unsure(o.F.ID, says)
		}
	}
}

// before tells whether a footprint stands before a spot at a wall, not beside it: a step into the room from there is in it.
func before(g geometry.Polygon, at geometry.Point, outline geometry.Polygon) bool {
	best, wall := outline.Edge(0), 0
	for k := range outline {
		if e := outline.Edge(k); e.Distance(at) < best.Distance(at) {
			best, wall = e, k
		}
	}
	e := outline.Edge(wall)
	d := e.B.Sub(e.A).Unit()
	for _, in := range []geometry.Point{{X: d.Y, Y: -d.X}, {X: -d.Y, Y: d.X}} {
		if g.Contains(at.Add(in.Mul(atBack + 20))) {
			return true
		}
	}
	return false
}

// Distances of the usual cautions, mm.
const (
	fromSparks  = 2000.0  // of a grinder from what burns easily (an estimate; a screen of metal between does as well)
	fromWelding = 11000.0 // 35 ft (NFPA 51B)
	fromWayOut  = 1000.0  // of what charges from the door one gets out by (an estimate)
)

// care: what else can hurt somebody, by what stands there and what is on record.
func (w *worker) care() {
	w.guards()
	dusty, cleaned := "", false
	for _, st := range w.here {
		if flow, _ := served.Wants(st); flow > 0 && dusty == "" {
			dusty = st.ID
		}
		cleaned = cleaned || st.Kind == "air-cleaner"
	}
	if dusty != "" && !cleaned {
		w.caution("fine-dust", dusty, "the finest dust stays in the air for hours, and nothing cleans it here", "catch it where it comes up, air the room or clean the air after, and wear a mask whenever you blow or sweep it up")
	}
	for i, st := range w.here {
		switch {
		case st.Kind.Flame() && !w.listedThing("monoxide"):
			w.caution("flame", st.ID, st.Name+" burns something in this room, and no carbon monoxide alarm is on the list", "an alarm for carbon monoxide, air from outside while it burns, the flue swept; a licensed fitter for gas")
		case st.Kind == "charger" || strings.Contains(string(st.Kind), "charg"):
			w.charging(i, st)
		}
		if st.Kind.Sparks() {
			w.sparks(i, st)
		}
	}
	w.aid()
	w.runTogether()
}

// listedThing tells whether a word is in the name of something on the list.
func (w *worker) listedThing(word string) bool {
	return slices.ContainsFunc(w.s.Items, func(it shop.Item) bool {
		return strings.Contains(strings.ToLower(it.Name), word) || strings.Contains(it.Kind, word)
	})
}

// guards: outlets outdoors or in the damp without residual-current protection, as far as anybody said.
func (w *worker) guards() {
	var first, wet string
	var circuits []string
	for _, p := range w.out.Plugs {
		where := ""
		for i := range w.outlets {
			o := &w.outlets[i]
			if o.F.ID != p.Outlet {
				continue
			}
			switch k := w.area.WallIndex(o.Wall); {
			case w.area.Kind == "outdoors":
				where = "outdoors"
			case slices.Contains(w.area.Climate, "damp"):
				where = "in a damp room"
			case k >= 0 && w.area.Walls[k].Damp:
				where = "on a damp wall"
			}
		}
		guarded := slices.ContainsFunc(w.s.Circuits, func(c shop.Circuit) bool { return c.ID == p.Circuit && c.Guard == "yes" })
		if where == "" || guarded {
			continue
		}
		name := p.Circuit
		if name == "" {
			name = "a circuit nobody named"
		}
		if first == "" {
			first, wet = p.Station, where
		}
		if !slices.Contains(circuits, name) {
			circuits = append(circuits, name)
		}
	}
	if first != "" {
		w.caution("guard", first, fmt.Sprintf("outlets %s are on %s, and nobody said under Facts that there is residual-current protection", wet, say.Listed(circuits)), "press the test button at the panel; where there is none, an electrician, and a protective plug meanwhile")
	}
}

// charging: batteries charge on a bare surface, not by the way out, not under what rains chips on them.
func (w *worker) charging(i int, st *shop.Station) {
	do := "on a bare surface that does not burn, gaps between, nothing over or under it that does, and unplugged when nobody is there; their maker says more"
	for _, e := range w.exits() {
		if d := w.feet[i].Distance(e.at); e.door && d < fromWayOut {
			w.caution("charging", st.ID, fmt.Sprintf("batteries charge %s from the %s: a fire there would bar the way out", length.OnFoot(d), e.Name), do)
			return
		}
	}
	for k, o := range w.here {
		if flow, _ := served.Wants(o); k != i && flow > 0 && w.feet[i].Gap(w.feet[k]) < 300 {
			w.caution("charging", st.ID, fmt.Sprintf("batteries charge beside %s, which throws dust", o.Name), do)
			return
		}
	}
}

// sparks: grinders and welding beside what burns easily.
func (w *worker) sparks(i int, st *shop.Station) {
	keep, do := fromSparks, "sparks lie hidden in dust for hours: clear and sweep before, a screen of metal between, and never the extractor of the wood dust on it"
	if st.Kind == "welding" || st.Kind == "welder" {
		keep, do = fromWelding, "clear or cover what burns, an extinguisher beside you, and look again half an hour after; ventilate, and screen the light from others' eyes"
	}
	for k, o := range w.here {
		burns := served.Extracts(o.Kind) || o.Kind == "wood-pile" || o.Breath() == "fumes"
		if d := w.feet[i].Gap(w.feet[k]); k != i && burns && !o.Kind.Sparks() && d < keep {
			w.caution("sparks", st.ID, fmt.Sprintf("sparks of %s fly to %s, %s off", st.Name, o.Name, length.OnFoot(d)), do)
			return
		}
	}
}

// aid: first aid and an extinguisher are on the list, have a home, and that is in this room or the main one.
func (w *worker) aid() {
	if len(w.s.Items) == 0 || w.ix.Area("") != w.area {
		return
	}
	for _, x := range []struct{ word, name, do string }{
		{"first-aid", "a first-aid box", "one with a home in sight on the way out, at most at the height of the chest"},
		{"extinguisher", "a fire extinguisher", "one for what burns there, on the way out and in sight; its date looked at once a year"},
	} {
		var it *shop.Item
		for i := range w.s.Items {
			if name := strings.ToLower(strings.ReplaceAll(w.s.Items[i].Name, " ", "-")); strings.Contains(name, x.word) || strings.Contains(w.s.Items[i].Kind, x.word) {
				it = &w.s.Items[i]
			}
		}
		switch {
		case it == nil:
			w.caution("aid", "", x.name+" is not on the list", x.do)
		case len(w.ix.Homes(it.ID)) == 0:
			w.caution("aid", "", it.Name+" has no home", x.do)
		}
	}
}

// runTogether: long pieces of machines that somebody said run at the same time meet, or the extractor moves less than they want.
func (w *worker) runTogether() {
	for _, t := range w.s.Settings.Running {
		var feeds []int
		flow := map[string]float64{}
		for _, id := range t.Stations {
			i := w.number(id)
			if i < 0 {
				continue
			}
			if w.here[i].Feed != nil {
				feeds = append(feeds, i)
			}
			if want, _ := served.Wants(w.here[i]); want > 0 {
				if x := w.extractorOf(i); x != nil {
					flow[x.ID] += want
				}
			}
		}
		for n, i := range feeds {
			for _, k := range feeds[n+1:] {
				if w.passes(i).Overlaps(w.passes(k), 20) {
					w.caution("meet", w.here[i].ID, fmt.Sprintf("long pieces of %s and %s meet, and both run for %s", w.here[i].Name, w.here[k].Name, t.Name), "one after the other with long pieces, or turn one of them")
				}
			}
		}
		for _, x := range w.here {
			if x.Flow > 0 && flow[x.ID] > x.Flow {
				w.caution("far-hose", x.ID, fmt.Sprintf("for %s about %.0f m³/h are wanted of %s at once, which moves %.0f", t.Name, flow[x.ID], x.Name, x.Flow), "a gate at each hose, open at one machine at a time")
			}
		}
	}
}

// passes is where long pieces pass through a machine, its own footprint included.
func (w *worker) passes(i int) geometry.Polygon {
	g, f := w.feet[i], w.here[i].Feed
	right, back := g[1].Sub(g[0]).Unit(), g[3].Sub(g[0]).Unit()
	if f.Along == "x" {
		in, out := right.Mul(-f.In.MM()), right.Mul(f.Out.MM())
		return geometry.Polygon{g[0].Add(in), g[1].Add(out), g[2].Add(out), g[3].Add(in)}
	}
	in, out := back.Mul(-f.In.MM()), back.Mul(f.Out.MM())
	return geometry.Polygon{g[0].Add(in), g[1].Add(in), g[2].Add(out), g[3].Add(out)}
}
