package supply

import (
	"cmp"
	"fmt"
	"math"
	"slices"
	"strings"

	"hobrak/internal/core/geometry"
	"hobrak/internal/core/length"
	"hobrak/internal/core/served"
	"hobrak/internal/core/shop"
)

// Heard is how loud a set that runs together is somewhere, an estimate from stated levels.
type Heard struct {
	Where string  `json:"where" doc:"id of the station, door, or wall and its letter"`
	Name  string  `json:"name"`
	Set   string  `json:"set" doc:"what runs"`
	DB    float64 `json:"db" doc:"dB(A)"`
	Hours float64 `json:"hours" doc:"a day after which ears have had enough without protection, by 85 dB(A) for eight hours and half the time for each 3 dB; 24 when it is quieter"`
}

// Estimates and sources of noise.
const (
	absorbed = .1  // share of the sound that a bare shop takes in, of all its surfaces (Sabine)
	spokenAt = 1.0 // m from a machine at which its level is stated
)

// At is a level so many metres off in a room, dB(A), of one that is stated at 1 m: Lp = Lw + 10·log(Q/4πr² + 4/A) with Q = 2 for what
// stands on a floor, and Lw so that it comes to the stated level at 1 m in the same room (Sabine's A, m²).
func At(db, far, absorption float64) float64 {
	field := func(r float64) float64 { return 2/(4*math.Pi*r*r) + 4/absorption }
	return db + 10*math.Log10(field(max(.5, far))/field(spokenAt))
}

// Together are levels summed, dB(A).
func Together(list []float64) float64 {
	sum := 0.0
	for _, l := range list {
		sum += math.Pow(10, l/10)
	}
	if sum == 0 {
		return 0
	}
	return 10 * math.Log10(sum)
}

// Hours a day that a level may last, by 85 dB(A) for eight and half the time for each 3 dB (NIOSH 1998); at most 24.
func Hours(db float64) float64 { return min(24, 8*math.Pow(2, (85-db)/3)) }

func (w *worker) absorption() float64 {
	return absorbed * (2*math.Abs(w.area.Outline().Area())/1e6 + w.girth()*w.high()/1e6)
}

// noise of each set at the main bench and at the main door.
func (w *worker) noise() {
	a := w.absorption()
	if a <= 0 {
		return
	}
	type ear struct {
		id, name string
		at       geometry.Point
		wall     *geometry.Segment // somebody lives beyond it: it is heard where it is nearest
		beyond   string
	}
	var ears []ear
	for _, st := range w.here {
		if st.Kind == shop.Bench {
			ears = append(ears, ear{id: st.ID, name: st.Name, at: geometry.Point{X: st.Stand[0].MM(), Y: st.Stand[1].MM()}})
			break
		}
	}
	for i := range w.area.Walls {
		for k := range w.area.Walls[i].Features {
			if f := &w.area.Walls[i].Features[k]; strings.Contains(string(f.Kind), "door") && !slices.ContainsFunc(ears, func(e ear) bool { return e.id == "door" }) {
				ears = append(ears, ear{id: "door", name: "the " + f.Called(), at: w.area.Frame(i).Spot((f.X + f.W/2).MM(), 0)})
			}
		}
	}
	for i := range w.area.Walls {
		if x := &w.area.Walls[i]; x.Beyond != "" {
			edge := w.area.Outline().Edge(i)
			ears = append(ears, ear{id: "wall " + x.ID, name: "wall " + x.ID, wall: &edge, beyond: x.Beyond})
		}
	}
	for _, x := range w.sets {
		for _, e := range ears {
			var all []float64
			for _, id := range x.ids {
				i := w.number(id)
				if i < 0 || served.Level(w.here[i]) == 0 {
					continue
				}
				mid, at := w.mid(i), e.at
				if e.wall != nil {
					at = e.wall.Nearest(mid)
				}
				all = append(all, At(served.Level(w.here[i]), mid.Distance(at)/1000, a))
			}
			if db := Together(all); db > 0 {
				w.out.Heard = append(w.out.Heard, Heard{e.id, e.name, x.name, db, Hours(db)})
			}
		}
	}
	slices.SortStableFunc(w.out.Heard, func(a, b Heard) int { return cmp.Compare(b.DB, a.DB) })
	for _, h := range w.out.Heard {
		if w.number(h.Where) >= 0 && h.DB >= loud {
			w.caution("loud", h.Where, fmt.Sprintf("with %s it is about %.0f dB(A) at %s", h.Set, h.DB, h.Name), "ear protection for all who are there; a radio under the muffs hides a cry")
			break
		}
	}
	for _, e := range ears {
		for _, h := range w.out.Heard { // the loudest of each
			if e.beyond != "" && h.Where == e.id && h.DB >= heardBeyond {
				w.quiet(&h, e.beyond)
				break
			}
		}
	}
	for _, st := range w.here {
		if st.Boxed && st.Amps > 0 {
			w.caution("boxed", st.ID, st.Name+" is boxed in", "an inlet below and an outlet above, each as large as its own grille, and a hand on the motor after ten minutes: it must not get hot")
		}
	}
}

// heardBeyond is a level on this side of a wall from which it is heard beyond it, dB(A): 30 in the night by the WHO's guideline, and some 45 that
// a common wall takes off; a lighter wall takes off less.
const heardBeyond = 75.0

// quiet says what a neighbour hears, and when it must be quiet.
func (w *worker) quiet(h *Heard, beyond string) {
	who := "a neighbour lives"
	if beyond == "bedroom" {
		who = "somebody sleeps"
	}
	do := "say from when to when it must be quiet; the loudest to another wall, off the wall and the floor on rubber, or in a vented box"
	if from, to := w.s.Settings.QuietFrom, w.s.Settings.QuietTo; from != "" && to != "" {
		do = fmt.Sprintf("not from %s to %s; the loudest to another wall, off the wall and the floor on rubber, or in a vented box", from, to)
	}
	on := ""
	for _, x := range w.sets {
		if x.name == h.Set && len(x.ids) > 0 {
			on = x.ids[0]
		}
	}
	w.caution("quiet", on, fmt.Sprintf("with %s it is about %.0f dB(A) at %s, beyond which %s", h.Set, h.DB, h.Name, who), do)
}

// kept is storage with the room it takes on the plan.
type kept struct {
	id, name string
	foot     geometry.Polygon
}

// boards is the storage of this room in which wood is kept, by the outermost of it.
func (w *worker) boards() (out []kept) {
	seen := map[string]bool{}
	for i := range w.s.Items {
		if w.s.Items[i].Wood == nil {
			continue
		}
		for _, h := range w.ix.Homes(w.s.Items[i].ID) {
			p := w.ix.Place(h.Place)
			if p == nil {
				continue
			}
			chain, root := w.ix.Chain(&p.At)
			id, wide, deep := p.ID, p.W.MM(), p.D.MM()
			if len(chain) > 0 {
				c := chain[len(chain)-1]
				id, wide, deep = c.ID, c.W.MM(), c.D.MM()
			}
			if seen[id] || w.ix.Area(root.Area) != w.area {
				continue
			}
			seen[id] = true
			switch k := w.area.WallIndex(root.Wall); {
			case k >= 0:
				out = append(out, kept{id, w.ix.Name(id), w.area.Frame(k).Before(root.X.MM(), root.X.MM()+wide, max(1, deep))})
			case root.Floor != nil:
				out = append(out, kept{id, w.ix.Name(id), geometry.Rectangle(root.Floor[0].MM(), root.Floor[1].MM(), wide, max(1, deep), root.Rot)})
			}
		}
	}
	return out
}

// heat: what stands too near to a heater or stove.
func (w *worker) heat() {
	near := func(code, id, name string, g geometry.Polygon, keep float64) {
		for i, o := range w.here {
			if o.ID != id && g.Clear(w.feet[i]) < keep {
				w.caution(code, o.ID, fmt.Sprintf("%s stands %s from %s", o.Name, length.OnFoot(g.Clear(w.feet[i])), name), fmt.Sprintf("keep what its maker says, and at least %s where he says nothing; no boards, rags or cords in it; a licensed fitter for gas and flues", length.OnFoot(keep)))
			}
		}
	}
	cords := func(id, name string, g geometry.Polygon) {
		for k := range w.out.Plugs {
			p := &w.out.Plugs[k]
			if p.Station == id {
				continue
			}
			for n := 1; n < len(p.Path); n++ {
				e := geometry.Segment{A: geometry.Point{X: p.Path[n-1][0], Y: p.Path[n-1][1]}, B: geometry.Point{X: p.Path[n][0], Y: p.Path[n][1]}}
				if crosses(g, e) || g.Distance(e.A) < served.HeatFrom || g.Distance(e.B) < served.HeatFrom {
					w.caution("heat", p.Station, fmt.Sprintf("the cord of %s passes close by %s", p.Name, name), "lead it another way: its sheath softens in the heat")
					break
				}
			}
		}
	}
	boards := w.boards()
	stored := func(name string, g geometry.Polygon, keep float64) {
		for _, b := range boards {
			if d := g.Clear(b.foot); d < keep {
				w.caution("heat", b.id, fmt.Sprintf("wood is kept in %s, %s from %s", b.name, length.OnFoot(d), name), fmt.Sprintf("keep what its maker says, and at least %s where he says nothing: wood beside it dries, cracks and burns", length.OnFoot(keep)))
			}
		}
	}
	for i, st := range w.here {
		if keep := served.Clearance(st.Kind); keep > 0 {
			stored(st.Name, w.feet[i], keep)
		}
		if st.Kind == "stove" || st.Kind == "heater" {
			cords(st.ID, st.Name, w.feet[i])
		}
		if keep := served.Clearance(st.Kind); keep > 0 {
			near("heat", st.ID, st.Name, w.feet[i], keep)
		}
	}
	for i := range w.area.Walls {
		for k := range w.area.Walls[i].Features {
			if f := &w.area.Walls[i].Features[k]; f.Kind == "heater" {
				stored(f.Called(), w.area.Frame(i).Before(f.X.MM(), (f.X+f.W).MM(), max(50, f.D.MM())), served.HeatFrom)
				near("heater", f.ID, f.Called(), w.area.Frame(i).Before(f.X.MM(), (f.X+f.W).MM(), max(50, f.D.MM())), served.HeatFrom)
			}
		}
	}
}

// beforePanel is what is kept free before a breaker panel, mm: as deep as the usual codes ask (NFPA 70, 110.26: 36 in; others less).
const beforePanel = 900.0

// panel: what stands before a breaker panel.
func (w *worker) panel() {
	for i := range w.area.Walls {
		for k := range w.area.Walls[i].Features {
			f := &w.area.Walls[i].Features[k]
			if f.Kind != "panel" {
				continue
			}
			g := w.area.Frame(i).Before(f.X.MM(), (f.X + f.W).MM(), beforePanel)
			for n, o := range w.here {
				if g.Overlaps(w.feet[n], 1) {
					w.caution("panel", o.ID, o.Name+" stands before the breaker panel", "one must get at it at once, in the dark: keep the floor before it free; local codes say how much")
				}
			}
		}
	}
}
