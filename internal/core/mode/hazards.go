package mode

import (
	"fmt"
	"slices"

	"hobrak/internal/core/access"
	"hobrak/internal/core/body"
	"hobrak/internal/core/feed"
	"hobrak/internal/core/geometry"
	"hobrak/internal/core/length"
	"hobrak/internal/core/shop"
)

// How far things should keep from each other, mm (estimates; machines come with figures of their own, which win).
const (
	kick     = 2500.0 // a piece that is thrown back flies so far and farther
	unheld   = 1500.0 // so far from the cut a long piece wants something under it
	sparkFar = 2000.0
	throwFar = 3000.0
	deepHead = 300.0
	aidNear  = 2000.0
)

var (
	saws      = []shop.StationKind{"table-saw", "site-saw", "panel-saw", "radial-arm-saw"}
	pushed    = []shop.StationKind{"table-saw", "site-saw", "panel-saw", "jointer", "planer-thicknesser", "router-table", "shaper", "bandsaw", "bench-bandsaw"}
	sparking  = []shop.StationKind{"bench-grinder", "knife-grinder", "welder", "welding", "forge", "grindstone"}
	catches   = []shop.StationKind{"sander", "drum-sander", "edge-sander", "spindle-sander", "extractor", "cyclone", "finishing", "paint", "spray-booth", "shop-vacuum"}
	lathes    = []shop.StationKind{"lathe", "mini-lathe", "bowl-lathe"}
	sittingAt = []shop.StationKind{"desk", "drawing", "sofa", "electronics", "sewing"}
)

// lines looks along the ways of pieces: who stands where one may be thrown back, what carries a long one, and where a lathe throws.
func (w *world) lines() {
	takes, err := feed.Of(w.s, "")
	if err != nil {
		return
	}
	for i := range takes {
		t := &takes[i]
		st := w.ix.Station(t.Station)
		if st == nil || w.ix.Area(st.Area) != w.area || w.out(st) {
			continue
		}
		if slices.Contains(saws, st.Kind) {
			for k := range w.s.Stations {
				o := &w.s.Stations[k]
				if o.ID == st.ID || o.Kind.Lodger() || w.ix.Area(o.Area) != w.area || w.out(o) {
					continue
				}
				p := o.Stand.Geometry()
				if len(t.Way[0]) == 4 && t.Way[0].Contains(p) && p.Distance(st.Stand.Geometry()) < kick {
					w.add(false, "in-line", []string{st.ID, o.ID}, "nobody works there while the saw runs, or turn one of them", "who works at %s stands in line with the blade of %s", o.Name, st.Name)
				}
			}
		}
		want := min(st.Feed.In.MM(), st.Feed.Out.MM(), t.Longest)
		held := slices.ContainsFunc(t.Carries, func(c feed.Carrier) bool { return c.Side == "out" && c.Riser == 0 })
		if half := st.D.MM() / 2; want > unheld+half && !held {
			w.add(false, "unheld", []string{st.ID}, "a stand with a roller, or a table up to 5 mm lower than its own", "a piece of %s has nothing under it behind %s", length.Whole(want), st.Name)
		}
	}
	for i := range w.s.Stations {
		st := &w.s.Stations[i]
		if !slices.Contains(lathes, st.Kind) || w.ix.Area(st.Area) != w.area || w.out(st) {
			continue
		}
		foot := st.Footprint()
		out := foot[1].Sub(foot[2]).Unit().Mul(throwFar)
		line := geometry.Polygon{foot[0], foot[1], foot[1].Add(out), foot[0].Add(out)}
		for k := range w.s.Stations {
			if o := &w.s.Stations[k]; slices.Contains(sittingAt, o.Kind) && w.ix.Area(o.Area) == w.area && line.Contains(o.Stand.Geometry()) {
				w.add(false, "throw", []string{st.ID, o.ID}, "turn the lathe, or put a screen between", "%s throws towards where one sits at %s", st.Name, o.Name)
			}
		}
		if door, ok := access.MainDoor(w.area); ok && line.Contains(door) {
			w.add(false, "throw", []string{st.ID}, "turn it, put a screen between, or lock the door while it runs", "%s throws towards the door, where somebody may come in", st.Name)
		}
	}
}

// idle tells whether a station is put out of the way in the mode, or not there at all yet.
func (w *world) idle(st *shop.Station) bool {
	return st.Wished != "" || st.W <= body.Gone || w.mode.Spots[st.ID].State == Folded
}

// out tells whether nobody works at a station in the mode, one that is hung up among them.
func (w *world) out(st *shop.Station) bool { return w.idle(st) || st.Mobility == shop.HungUp }

// sparks finds what makes them too near to dust and finish.
func (w *world) sparks() {
	for i := range w.s.Stations {
		a := &w.s.Stations[i]
		if !slices.Contains(sparking, a.Kind) || w.ix.Area(a.Area) != w.area || w.out(a) {
			continue
		}
		for k := range w.s.Stations {
			b := &w.s.Stations[k]
			if !slices.Contains(catches, b.Kind) || w.ix.Area(b.Area) != w.area || w.out(b) {
				continue
			}
			if d := apart(a, b); d < sparkFar {
				w.add(false, "sparks", []string{a.ID, b.ID}, "move one of them, clear dust first, and never grind while finish dries", "%s makes sparks %s from %s, with dust or finish", a.Name, length.Whole(d), b.Name)
			}
		}
	}
}

// apart is how far the footprints of two stations are from each other.
func apart(a, b *shop.Station) float64 {
	f := a.Footprint()
	g := b.Footprint()
	if f.Overlaps(g, 0) {
		return 0
	}
	return f.Gap(g)
}

// heads finds what hangs deep at the height of a face with nothing beneath it, so that one walks into it.
func (w *world) heads() {
	for i := range w.bodies {
		b := &w.bodies[i]
		if b.Part != body.Hangs || b.From > 1900 || b.To < 1300 || b.From < 900 {
			continue
		}
		low, high := b.Foot.Bounds()
		if min(high.X-low.X, high.Y-low.Y) < deepHead {
			continue
		}
		beneath := slices.ContainsFunc(w.bodies, func(o body.Body) bool {
			return o.Part.Solid() && o.ID != b.ID && o.From < b.From && o.Foot.Overlaps(b.Foot, 20)
		})
		if !beneath {
			w.add(false, "head", []string{b.ID}, "put something beneath it, hang it higher, or round its corners", "%s sticks out %s at the height of a face, with nothing beneath it", w.called(b.ID), length.Whole(min(high.X-low.X, high.Y-low.Y)))
		}
	}
}

// aids looks for push sticks by what they are pushed past: a hand should find one without a step.
func (w *world) aids() {
	var have []geometry.Point
	for _, x := range w.aidsAt {
		if slices.Contains(pushes, x.kind) {
			have = append(have, x.spot)
		}
	}
	var missing []string
	var of []string
	for i := range w.s.Stations {
		st := &w.s.Stations[i]
		if !slices.Contains(pushed, st.Kind) || w.ix.Area(st.Area) != w.area || w.out(st) {
			continue
		}
		if !slices.ContainsFunc(have, func(p geometry.Point) bool { return p.Distance(st.Stand.Geometry()) < aidNear }) {
			missing, of = append(missing, st.Name), append(of, st.ID)
		}
	}
	if len(missing) > 0 {
		what := missing[0]
		if n := len(missing) - 1; n > 0 {
			what = fmt.Sprintf("%s and %d more", missing[0], n)
		}
		w.add(false, "push-stick", of, "hang one on each machine, within reach of where one stands, and keep guards and the stop switch clear", "no push stick has its home within %s of %s", length.Whole(aidNear), what)
	}
}
