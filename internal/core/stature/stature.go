// Package stature compares the heights one works at with the people who do: benches, tables, lathes, vices and cranks against the
// elbow, shelves against how high somebody reaches. The rules of benches are those of Grandjean, Fitting the Task to the Man. Lengths are millimetres as floats.
package stature

import (
	"cmp"
	"math"
	"slices"

	"hobrak/internal/core/access"
	"hobrak/internal/core/keeping"
	"hobrak/internal/core/kinds"
	"hobrak/internal/core/reach"
	"hobrak/internal/core/shop"
)

// Task is a way of working with its own height.
type Task string

// Tasks.
const (
	Precise Task = "precise" // close to the eyes: carving, soldering, sharpening by eye
	Light   Task = "light"   // assembling, routing, feeding machines
	Heavy   Task = "heavy"   // planing by hand, hewing: with the weight of the body
	Turning Task = "turning" // the centres of a lathe
	Vice    Task = "vice"    // the top of the jaws of a vice that one files and saws at
	Crank   Task = "crank"   // the axle of what is turned by hand
	Shelf   Task = "shelf"   // where things in weekly use are kept, against how high somebody reaches
)

// spans from the elbow, upwards: where the table should be (Grandjean; for a lathe the centres are at the elbow, a hand's breadth
// either way).
var spans = map[Task][2]float64{Precise: {50, 100}, Light: {-150, -100}, Heavy: {-400, -150}, Turning: {-50, 50},
	// The jaws at the elbow is how metalworkers are taught to set a vice; the handle of a crank should stay below the shoulder and
	// above the hip all the way round (estimate).
	Vice: {-50, 50}, Crank: {-250, -50}}

// jaws of a bench vice are so high above the bench, mm, unless its height is on the list (estimate).
const jaws = 150.0

var tasks = map[shop.StationKind]Task{
	"carving": Precise, "electronics": Precise, "sharpening": Precise, "scroll-saw": Precise, "treadle-saw": Precise, "leather": Precise,
	"bench": Heavy, "planing-beam": Heavy, "anvil": Heavy, "forge": Heavy, "metal": Light,
	"assembly": Light, "finishing": Light, "paint": Light, "table": Light, "router-table": Light, "cutting": Light, "mitre-bench": Light, "clamping": Light,
	"drill-press": Light, "bench-drill": Light, "bandsaw": Light, "bench-bandsaw": Light, "mortiser": Light, "sander": Light, "spindle-sander": Light, "table-saw": Light, "site-saw": Light,
	"grindstone": Crank,
	"lathe":      Turning, "mini-lathe": Turning, "bowl-lathe": Turning, "pole-lathe": Turning, "treadle-lathe": Turning,
}

// Fit of a station to somebody.
type Fit struct {
	Station string  `json:"station"`
	Name    string  `json:"name"`
	Person  string  `json:"person" doc:"id; empty when nobody is named"`
	Task    Task    `json:"task" enum:"precise,light,heavy,turning,vice,crank,shelf"`
	Height  float64 `json:"height" doc:"mm, of its table; of a lathe its centres, of a vice the top of its jaws, of a crank its axle, of a shelf its board"`
	Low     float64 `json:"low" doc:"mm, where it should be"`
	High    float64 `json:"high"`
	Off     float64 `json:"off" doc:"mm above what it should be, negative below; 0 when it is right"`
	Assumed bool    `json:"assumed" doc:"its height is not measured"`
}

// Of all stations one stands at by hand, for each adult, what is furthest off first.
func Of(s *shop.Shop) []Fit {
	out := []Fit{}
	ix := shop.NewIndex(s)
	for _, b := range access.Bodies(s) {
		for i := range s.Stations {
			st := &s.Stations[i]
			task, ok := tasks[st.Kind]
			if !ok {
				if !st.Kind.Bench() {
					continue
				}
				task = Light
			}
			span := spans[task]
			out = append(out, against(Fit{Station: st.ID, Name: st.Name, Person: b.ID, Task: task, Height: st.H.MM(), Low: b.Elbow + span[0], High: b.Elbow + span[1], Assumed: slices.Contains(st.Assumed, "h")}))
		}
		out = append(out, vices(s, ix, &b)...)
		out = append(out, shelves(s, ix, &b)...)
	}
	slices.SortStableFunc(out, func(a, b Fit) int { return cmp.Compare(math.Abs(b.Off), math.Abs(a.Off)) })
	return out
}

// against says by how much a height is off.
func against(f Fit) Fit {
	switch {
	case f.Height > f.High:
		f.Off = f.Height - f.High
	case f.Height < f.Low:
		f.Off = f.Height - f.Low
	}
	return f
}

// vices on metalworking benches, and those of the list that live at a station.
func vices(s *shop.Shop, ix *shop.Index, b *reach.Body) (out []Fit) {
	add := func(st *shop.Station, high float64, assumed bool) {
		if !slices.ContainsFunc(out, func(f Fit) bool { return f.Station == st.ID }) {
			out = append(out, against(Fit{Station: st.ID, Name: st.Name, Person: b.ID, Task: Vice, Height: st.H.MM() + high, Low: b.Elbow + spans[Vice][0], High: b.Elbow + spans[Vice][1], Assumed: assumed}))
		}
	}
	for i := range s.Items {
		it := &s.Items[i]
		k, ok := kinds.Sure(it.Name)
		if !ok || k.Kind.Name != "bench vice" || !it.Needs() {
			continue
		}
		for _, id := range it.UsedAt {
			if st := ix.Station(id); st != nil {
				add(st, it.H.MM(), slices.Contains(it.Assumed, "h"))
			}
		}
	}
	for i := range s.Stations {
		if st := &s.Stations[i]; st.Kind == "metal" {
			add(st, jaws, true)
		}
	}
	return out
}

// weekly is how often a thing is used that should be had without a step.
const weekly = 1.0

// shelves that hold something in weekly use higher than somebody reaches. Only these: what is reached is no news.
func shelves(s *shop.Shop, ix *shop.Index, b *reach.Body) (out []Fit) {
	over := b.Over(reach.Obstacle{}, 0)
	told := map[string]bool{}
	for i := range s.Homes {
		h := &s.Homes[i]
		it, p := ix.Item(h.Item), ix.Place(h.Place)
		if it == nil || p == nil || it.UsesPerWeek < weekly || told[p.ID] {
			continue
		}
		_, root := ix.Chain(&p.At)
		_, z := ix.Offset(&p.At)
		high := z.MM() + keeping.GripOf(p, it, h).Z
		if root.Away || high <= over.High {
			continue
		}
		told[p.ID] = true
		name := p.ID
		if p.Name != "" {
			name += " " + p.Name
		}
		out = append(out, against(Fit{Station: p.ID, Name: name, Person: b.ID, Task: Shelf, Height: high, Low: b.Knee, High: over.High}))
	}
	return out
}
