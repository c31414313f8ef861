package mode

import (
	"slices"
	"strings"

	"hobrak/internal/core/body"
	"hobrak/internal/core/flow"
	"hobrak/internal/core/geometry"
	"hobrak/internal/core/kinds"
	"hobrak/internal/core/shop"
)

// rolling finds what rolls without locks while one works at it, and what was rolled out of doors.
func (w *world) rolling() {
	var loose, of []string
	for i := range w.s.Stations {
		st := &w.s.Stations[i]
		if w.ix.Area(st.Area) != w.area || st.Wished != "" {
			continue
		}
		if w.mode.Spots[st.ID].State == Outdoor {
			w.add(false, "weather", []string{st.ID}, "only while it is dry, on firm level ground; unplug it, and bring it in before rain, dew and the night", "%s stands outdoors", st.Name)
			continue
		}
		if st.Mobility == shop.Rolls && st.Casters == shop.Plain && !st.Kind.Lodger() && !w.out(st) {
			loose, of = append(loose, st.Name), append(of, st.ID)
		}
	}
	if len(loose) > 0 {
		rolls := "rolls on casters without locks"
		if len(loose) > 1 {
			rolls = "roll on casters without locks"
		}
		w.add(false, "locks", of, "fit casters that lock wheel and swivel, or let it down onto feet before it is switched on", "%s %s: it may move under a cut", strings.Join(loose, ", "), rolls)
	}
}

// hung finds what is hoisted or hung up with less under it than it weighs, or with nothing known of what holds it.
func (w *world) hung() {
	for i := range w.was.Stations {
		st := &w.was.Stations[i]
		up := w.mode.Spots[st.ID].State == HoistUp
		if _, own := w.mode.Spots[st.ID]; !own && st.Mobility == shop.HungUp {
			up = true
		}
		if !up || st.Wished != "" || w.ix.Area(st.Area) != w.area {
			continue
		}
		const do = "screw what holds it into joists that carry it, by the rating of its maker; nobody and nothing stays under it"
		switch {
		case st.Rated == 0:
			w.add(false, "hoist", []string{st.ID}, "type what its maker rates it for on the sheet of the station; "+do, "nothing is said of what the hoist or hooks of %s are rated for", st.Name)
		case st.KG == 0:
			w.add(false, "hoist", []string{st.ID}, "weigh it and type that on its sheet; "+do, "%s hangs on what is rated for %s, and its weight is not known", st.Name, st.Rated)
		case st.KG > st.Rated:
			w.add(true, "hoist", []string{st.ID}, "leave it down, or hang it on something rated for more", "%s weighs %s and hangs on what is rated for %s", st.Name, st.KG, st.Rated)
		case w.area.Ceiling == nil || w.area.Ceiling.Joists == nil:
			w.add(false, "hoist", []string{st.ID}, "find the joists and enter them on Survey; "+do, "%s hangs from a ceiling whose joists are not known", st.Name)
		}
	}
}

// leaves finds storage on the leaf of an overhead door or hanging into the room its leaf and tracks need, for which nothing is rated.
func (w *world) leaves() {
	for i := range w.area.Walls {
		wall := &w.area.Walls[i]
		frame := w.area.Frame(i)
		for k := range wall.Features {
			x := &wall.Features[k]
			if !x.Kind.Overhead() {
				continue
			}
			// Open, the leaf lies under its tracks: as deep as the opening is high.
			leaf := frame.Before(x.X.MM(), (x.X + x.W).MM(), x.H.MM())
			for n := range w.bodies {
				b := &w.bodies[n]
				if b.Part != body.Hangs && b.Part != body.Hoisted || b.To < (x.Z+x.H).MM()-1 || !b.Foot.Overlaps(leaf, 5) {
					continue
				}
				if rated(w.ix, b.ID) {
					continue
				}
				w.add(false, "leaf", []string{b.ID, x.ID}, "hang it clear of leaf, tracks and opener and on the building, never on the door; springs and tracks are work for somebody who knows them", "%s hangs over the leaf of %s, with no rating typed", w.called(b.ID), x.Called())
			}
			// On the leaf itself: on the wall within the opening.
			for n := range w.bodies {
				b := &w.bodies[n]
				if b.Part != body.Hangs || b.From >= (x.Z+x.H).MM()-1 || b.To <= x.Z.MM()+1 || !b.Foot.Overlaps(frame.Before(x.X.MM(), (x.X+x.W).MM(), 50), 5) {
					continue
				}
				w.add(false, "leaf", []string{b.ID, x.ID}, "take it off: what hangs there goes up with the door, and its springs are set for the leaf alone", "%s hangs on the leaf of %s", w.called(b.ID), x.Called())
			}
		}
	}
}

// rated tells whether somebody typed what a place or container may carry.
func rated(ix *shop.Index, id string) bool {
	if p := ix.Place(id); p != nil {
		return p.Capacity > 0
	}
	if c := ix.Container(id); c != nil {
		return c.Capacity > 0
	}
	if st := ix.Station(id); st != nil {
		return st.Rated > 0
	}
	return false
}

// pushes are what a piece is pushed past a blade with.
var pushes = []string{"push stick", "push block"}

// aid is something that has to be at hand, by the name of its kind, and the spot before where it lives.
type aid struct {
	item  *shop.Item
	place *shop.Place
	kind  string
	spot  geometry.Point
}

// known finds where extinguishers, first-aid boxes and push sticks live in the area.
func (w *world) known() {
	for i := range w.s.Homes {
		h := &w.s.Homes[i]
		it, p := w.ix.Item(h.Item), w.ix.Place(h.Place)
		if it == nil || p == nil {
			continue
		}
		k, ok := kinds.Sure(it.Name)
		if !ok || !kinds.Emergency(k.Kind.Name) && !slices.Contains(pushes, k.Kind.Name) {
			continue
		}
		if spot, ok := flow.Spot(w.s, w.ix, w.area, p.ID); ok {
			w.aidsAt = append(w.aidsAt, aid{it, p, k.Kind.Name, spot})
		}
	}
}

// helped finds extinguishers and first-aid boxes one does not get to on a way as wide as one walks straight, and those behind
// the leaf of a door.
func (w *world) helped(t *terrain) {
	for _, x := range w.aidsAt {
		if !kinds.Emergency(x.kind) {
			continue
		}
		it, p, spot := x.item, x.place, x.spot
		if wide, pinch := t.to(spot); wide < w.s.Settings.Clearances().AisleSide-square {
			of, before := []string{p.ID}, ""
			if b := w.over(spot); b != nil {
				of, before = append(of, b.ID), ": "+w.called(b.ID)+" stands before it"
			} else if pinch >= 0 {
				before = ": the way is narrowest between " + strings.Join(w.sides(t, pinch), " and ")
			}
			w.add(false, "aid", of, "keep the floor before it and the way to it free in every arrangement, or hang it near the door", "one does not get to %s in %s without moving something%s", it.Name, p.ID, before)
			continue
		}
		for _, k := range w.keeps {
			if k.Limit.Kind == "door-swing" && k.Foot.Contains(spot) {
				w.add(false, "aid", []string{p.ID, k.Limit.By}, "hang it where no open door covers it", "%s in %s is behind the leaf of %s when that is open", it.Name, p.ID, w.called(k.Limit.By))
				break
			}
		}
	}
}

// over is what stands on a spot.
func (w *world) over(p geometry.Point) *body.Body {
	for i := range w.bodies {
		if b := &w.bodies[i]; (b.Part == body.Stands || b.Part == body.Top) && b.Foot.Contains(p) {
			return b
		}
	}
	return nil
}
