package supply

import (
	"fmt"
	"math"

	"hobrak/internal/core/geometry"
	"hobrak/internal/core/length"
	"hobrak/internal/core/served"
	"hobrak/internal/core/shop"
)

// Breath is a station that makes dust or fumes, or that wants clean air.
type Breath struct {
	Station string  `json:"station"`
	Name    string  `json:"name"`
	Air     string  `json:"air" enum:"dusty,clean,fumes"`
	Opening string  `json:"opening" doc:"nearest door, window or fan, in words; empty without one"`
	Far     float64 `json:"far" doc:"mm to it"`
	By      string  `json:"by" doc:"of what wants clean air: the nearest that makes dust or fumes, by name; empty without one"`
	Apart   float64 `json:"apart" doc:"mm between the two"`
	Down    bool    `json:"down" doc:"air on its way out comes from that one to this"`
}

const (
	apartFrom = 3000.0 // between what makes dust and what wants none of it, mm (an estimate)
	beside    = 1500.0 // from the line that air takes on its way out, mm (an estimate)
	byOpening = 3000.0 // so near to a door, window or fan dust is swept and blown out, mm (an estimate)
)

// Exit is a way out of the air.
type Exit struct {
	ID   string
	Name string
	at   geometry.Point
	door bool // one goes through it
}

func (w *worker) exits() []Exit { return Exits(w.area) }

// Exits of an area are its doors, windows and fans.
func Exits(a *shop.Area) (out []Exit) {
	for i := range a.Walls {
		for k := range a.Walls[i].Features {
			if f := &a.Walls[i].Features[k]; f.Kind.Lit() || f.Kind.Passage() || f.Kind == "wall-fan" {
				out = append(out, Exit{f.ID, f.Called() + " in wall " + a.Walls[i].ID, a.Frame(i).Spot((f.X + f.W/2).MM(), 0), f.Kind.Passage()})
			}
		}
	}
	if a.Ceiling != nil {
		for _, f := range a.Ceiling.Features {
			if f.Kind == "fan" {
				out = append(out, Exit{f.ID, "the fan under the ceiling", geometry.Point{X: (f.X + f.W/2).MM(), Y: (f.Y + f.D/2).MM()}, false})
			}
		}
	}
	return out
}

func nearestExit(list []Exit, to geometry.Point) (out *Exit, far float64) {
	far = math.Inf(1)
	for i := range list {
		if d := list[i].at.Distance(to); d < far {
			out, far = &list[i], d
		}
	}
	return out, far
}

// breaths: what is dusty near an opening, what wants clean air away from it and up-wind.
func (w *worker) breaths() {
	exits := w.exits()
	var out *Exit // by which the air leaves
	for i := range exits {
		if exits[i].ID == w.area.Exhaust {
			out = &exits[i]
		}
	}
	if out == nil { // by the opening that is nearest to what makes most dust
		most := 0.0
		for i, st := range w.here {
			if d, _ := served.Wants(st); st.Breath() == "dusty" && d > most {
				if e, _ := nearestExit(exits, w.mid(i)); e != nil {
					most, out = d, e
				}
			}
		}
	}
	for i, st := range w.here {
		air := st.Breath()
		if air == "" {
			continue
		}
		b := Breath{Station: st.ID, Name: st.Name, Air: air}
		if e, far := nearestExit(exits, w.mid(i)); e != nil {
			b.Opening, b.Far = e.Name, far
		}
		if air == "fumes" {
			if b.Opening == "" {
				w.caution("fumes", st.ID, st.Name+" makes fumes, and no door, window or fan is marked in this room", "open air, or a fan that blows out and an opening across from it; a mask for vapour, not for dust")
			}
			w.ignition(i, st)
		}
		if air == "clean" {
			b.Apart = math.Inf(1)
			for k, o := range w.here {
				if x := o.Breath(); x != "dusty" && x != "fumes" || k == i {
					continue
				}
				if d := w.feet[i].Gap(w.feet[k]); d < b.Apart {
					b.Apart, b.By, b.Down = d, o.Name, out != nil && between(w.mid(k), w.mid(i), out.at)
				}
			}
			if b.By == "" {
				b.Apart = 0
			} else if b.Apart < apartFrom && b.Down {
				w.caution("down-wind", st.ID, fmt.Sprintf("%s wants clean air and stands between %s and %s, by which the air leaves", st.Name, b.By, out.Name), "change it with something that bears dust, cover it while the other runs, or let the air out elsewhere")
			}
		}
		w.out.Breaths = append(w.out.Breaths, b)
	}
	w.both()
}

// between tells whether what comes from one spot passes another on its way out.
func between(from, at, out geometry.Point) bool {
	return at.Distance(out) < from.Distance(out) && geometry.Segment{A: from, B: out}.Distance(at) < beside
}

// ignition: what burns, glows or throws sparks near fumes.
func (w *worker) ignition(i int, st *shop.Station) {
	say := func(name string, d float64) {
		w.caution("fumes", st.ID, fmt.Sprintf("%s stands %s from %s", st.Name, length.OnFoot(d), name), "not while that burns, glows or throws sparks, nor while anything dries; rags flat outdoors or in closed metal, since they heat by themselves; what the tin says comes first")
	}
	for k, o := range w.here {
		if o.Kind.Burning() && k != i {
			if d := w.feet[i].Gap(w.feet[k]); d < served.FumesFrom {
				say(o.Name, d)
			}
		}
	}
	for n := range w.area.Walls {
		if w.area.Walls[n].Beyond == "bedroom" {
			if d := w.feet[i].Distance(w.area.Outline().Edge(n).Nearest(w.mid(i))); d < byOpening {
				w.caution("fumes", st.ID, fmt.Sprintf("somebody sleeps beyond wall %s, beside %s", w.area.Walls[n].ID, st.Name), "another wall for it, gaps and cables sealed, and the fan running until it is dry")
			}
		}
		for k := range w.area.Walls[n].Features {
			if f := &w.area.Walls[n].Features[k]; f.Kind == "heater" {
				if d := w.feet[i].Gap(w.area.Frame(n).Before(f.X.MM(), (f.X + f.W).MM(), max(50, f.D.MM()))); d < served.FumesFrom {
					say("the "+f.Called(), d)
				}
			}
		}
	}
}

// both: what wants clean air and what makes dust, fumes and fire, run at the same time by what somebody said.
func (w *worker) both() {
	for _, t := range w.s.Settings.Running {
		var dusty, clean *shop.Station
		for _, id := range t.Stations {
			if i := w.number(id); i >= 0 {
				switch w.here[i].Breath() {
				case "dusty":
					dusty = w.here[i]
				case "clean", "fumes":
					clean = w.here[i]
				}
			}
		}
		if dusty == nil || clean == nil {
			continue
		}
		if d := w.feet[w.number(clean.ID)].Gap(w.feet[w.number(dusty.ID)]); d < apartFrom {
			w.caution("down-wind", clean.ID, fmt.Sprintf("%s and %s are in use at the same time for %s, %s apart", clean.Name, dusty.Name, t.Name, length.OnFoot(d)), "one after the other with the air cleaned between, or a curtain")
		}
	}
}
