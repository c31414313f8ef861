// Package stature compares the heights one works at with the people who do: benches, tables, lathes and vices against the elbow.
// The rules are those of Grandjean, Fitting the Task to the Man. Lengths are millimetres as floats.
package stature

import (
	"cmp"
	"math"
	"slices"

	"hobrak/internal/core/access"
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
)

// spans from the elbow, upwards: where the table should be (Grandjean; for a lathe the centres are at the elbow, a hand's breadth
// either way).
var spans = map[Task][2]float64{Precise: {50, 100}, Light: {-150, -100}, Heavy: {-400, -150}, Turning: {-50, 50}}

var tasks = map[shop.StationKind]Task{
	"carving": Precise, "electronics": Precise, "sharpening": Precise, "scroll-saw": Precise, "treadle-saw": Precise, "leather": Precise,
	"bench": Heavy, "planing-beam": Heavy, "anvil": Heavy, "forge": Heavy, "metal": Light,
	"assembly": Light, "finishing": Light, "paint": Light, "table": Light, "router-table": Light, "cutting": Light, "mitre-bench": Light, "clamping": Light,
	"drill-press": Light, "bench-drill": Light, "bandsaw": Light, "bench-bandsaw": Light, "mortiser": Light, "sander": Light, "spindle-sander": Light, "table-saw": Light, "site-saw": Light,
	"lathe": Turning, "mini-lathe": Turning, "bowl-lathe": Turning, "pole-lathe": Turning, "treadle-lathe": Turning,
}

// Fit of a station to somebody.
type Fit struct {
	Station string  `json:"station"`
	Name    string  `json:"name"`
	Person  string  `json:"person" doc:"id; empty when nobody is named"`
	Task    Task    `json:"task" enum:"precise,light,heavy,turning"`
	Height  float64 `json:"height" doc:"mm, of its table; of a lathe its centres"`
	Low     float64 `json:"low" doc:"mm, where it should be"`
	High    float64 `json:"high"`
	Off     float64 `json:"off" doc:"mm above what it should be, negative below; 0 when it is right"`
	Assumed bool    `json:"assumed" doc:"its height is not measured"`
}

// Of all stations one stands at by hand, for each adult, what is furthest off first.
func Of(s *shop.Shop) []Fit {
	out := []Fit{}
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
			f := Fit{Station: st.ID, Name: st.Name, Person: b.ID, Task: task, Height: st.H.MM(), Low: b.Elbow + span[0], High: b.Elbow + span[1], Assumed: slices.Contains(st.Assumed, "h")}
			switch {
			case f.Height > f.High:
				f.Off = f.Height - f.High
			case f.Height < f.Low:
				f.Off = f.Height - f.Low
			}
			out = append(out, f)
		}
	}
	slices.SortStableFunc(out, func(a, b Fit) int { return cmp.Compare(math.Abs(b.Off), math.Abs(a.Off)) })
	return out
}
