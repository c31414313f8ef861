package reach

import (
	"fmt"
	"hobrak/internal/core/length"
	"maps"
	"slices"
	"strings"
)

// TMU is the time measurement unit of MTM-1 (Maynard, Stegemerten and Schwab
// 1948): .00001 hour, in seconds.
const TMU = .036

// Motions of MTM-1 in TMU.
const (
	paceTMU      = 17.0 // among obstacles; 15 on a free way
	turnTMU      = 18.6
	bendTMU      = 29.0 + 31.9 // and arise
	kneelTMU     = 69.4 + 76.7 // on both knees, and arise
	armTMU       = 50.0        // reach out and move back at full arm
	graspTMU     = 2.0
	jumbleTMU    = 10.1 // grasp one of many jumbled together, middle of 7.3 to 12.9
	shortWayFrom = 1.0  // below this many millimetres nobody walks
)

// Estimates are the seconds that no table of motions gives. Each can be set by
// the user under the name in its tag.
type Estimates struct {
	Door, Drawer, Lid, LiftOut, Aside, Stretch, Stool, Ladder, Hoist, RollOut float64
	InSight, Labelled, Unlabelled, Heap                                       float64
	StepHeight                                                                float64 // mm, not seconds
	Stoop                                                                     float64 // what it costs somebody who does not kneel to get at something low
	DimSight                                                                  float64 // how many times as long somebody searches who reads labels badly
	Hole                                                                      float64 // a hole in a wall where few are wanted, in seconds a week
	Homeless                                                                  float64 // seconds a use of a thing without a home
}

// DefaultEstimates of domain knowledge; see docs/rules.
func DefaultEstimates() Estimates {
	return Estimates{Door: 3, Drawer: 2.5, Lid: 6, LiftOut: 2, Aside: 4, Stretch: 1, Stool: 8, Ladder: 40, Hoist: 60, RollOut: 10,
		InSight: .5, Labelled: 1.5, Unlabelled: 6, Heap: 12, StepHeight: 400, Stoop: 15, DimSight: 1.5, Hole: 5, Homeless: 60}
}

func (e *Estimates) byName() map[string]*float64 {
	return map[string]*float64{"door": &e.Door, "drawer": &e.Drawer, "lid": &e.Lid, "lift_out": &e.LiftOut, "aside": &e.Aside, "stretch": &e.Stretch,
		"stool": &e.Stool, "ladder": &e.Ladder, "hoist": &e.Hoist, "roll_out": &e.RollOut, "in_sight": &e.InSight, "labelled": &e.Labelled,
		"unlabelled": &e.Unlabelled, "heap": &e.Heap, "step_height": &e.StepHeight, "stoop": &e.Stoop, "dim_sight": &e.DimSight, "hole": &e.Hole, "homeless": &e.Homeless}
}

// Of is an estimate by its name; false when there is none of that name.
func (e Estimates) Of(name string) (float64, bool) {
	p, ok := e.byName()[name]
	if !ok {
		return 0, false
	}
	return *p, true
}

// Set changes estimates by name. A name that is not known or a value below 0 is an error.
func (e *Estimates) Set(values map[string]float64) error {
	known := e.byName()
	for _, name := range slices.Sorted(maps.Keys(values)) {
		p, ok := known[name]
		if !ok {
			return fmt.Errorf("there is no estimate %q; known are %s", name, strings.Join(slices.Sorted(maps.Keys(known)), ", "))
		}
		if values[name] < 0 {
			return fmt.Errorf("the estimate %s cannot be below 0", name)
		}
		*p = values[name]
	}
	return nil
}

// Search says how a thing is found once one stands there.
type Search int

// Kinds of search: an own spot in sight, closed with and without a label, and a mixed heap.
const (
	InSight Search = iota
	Labelled
	Unlabelled
	Heap
)

// Errand is one thing fetched from one spot.
type Errand struct {
	Distance  float64  // one way on foot, mm
	AreaTime  float64  // one way to another area, s
	Band      Band     // how its height is reached
	Accesses  []Access // what must be opened on the way, outermost first
	Search    Search
	Jumble    bool // grasped out of many
	LiftOut   bool // a box is lifted out
	Aside     int  // how many things stand before it
	Of        Body // who goes
	Across    bool // it hangs on the side of the hand that is not used: one turns for it
	Estimates Estimates
}

// Part of an errand's time.
type Part struct {
	Name    string  `json:"name" doc:"walk, turn, posture, open, search, move aside, grasp"`
	Seconds float64 `json:"seconds" doc:"seconds to fetch"`
	Detail  string  `json:"detail" doc:"how it comes about"`
}

// Time of an errand.
type Time struct {
	Parts   []Part
	Fetch   float64 // s
	PutBack float64 // s: the same less the search
}

// Both is fetching and putting back together.
func (t Time) Both() float64 { return t.Fetch + t.PutBack }

// Walks tells whether a way of so many millimetres is walked at all.
func Walks(mm float64) bool { return mm >= shortWayFrom }

// WalkSeconds is the time for a way of so many millimetres, one way, paces
// among obstacles at 17 TMU.
func WalkSeconds(b Body, mm float64) float64 {
	if !Walks(mm) {
		return 0
	}
	return mm / b.Pace() * paceTMU * TMU
}

// TurnSeconds is turning to the place and back when one walks.
func TurnSeconds(walks bool) float64 {
	if !walks {
		return 0
	}
	return 2 * turnTMU * TMU
}

// PostureSeconds is what a band costs somebody.
func PostureSeconds(b *Body, band Band, e *Estimates) float64 {
	switch band {
	case Kneel:
		if b.NoKneeling {
			return e.Stoop
		}
		return kneelTMU * TMU
	case Bend:
		return bendTMU * TMU
	case Stretch:
		return e.Stretch
	case Step:
		return e.Stool
	case Ladder:
		return e.Ladder
	}
	return 0
}

// SearchSeconds is what finding costs somebody.
func SearchSeconds(b *Body, s Search, e *Estimates) float64 {
	t := [...]float64{e.InSight, e.Labelled, e.Unlabelled, e.Heap}[s]
	if b.DimSight {
		t *= e.DimSight
	}
	return t
}

// AcrossSeconds is turning to the other side at one's place and back, without a step (turn body, case 1).
func AcrossSeconds() float64 { return 2 * turnTMU * TMU }

// GraspSeconds is reaching out, grasping and drawing back.
func GraspSeconds(jumble bool) float64 {
	if jumble {
		return (armTMU + jumbleTMU) * TMU
	}
	return (armTMU + graspTMU) * TMU
}

// Fetch works out the time of an errand.
func Fetch(r Errand) Time {
	var t Time
	add := func(name string, seconds float64, detail string) {
		if seconds > 0 {
			t.Parts = append(t.Parts, Part{name, seconds, detail})
			t.Fetch += seconds
		}
	}
	add("walk", 2*WalkSeconds(r.Of, r.Distance), "2 × "+length.OnFoot(r.Distance))
	add("other area", 2*r.AreaTime, "there and back")
	add("turn", TurnSeconds(Walks(r.Distance) || r.AreaTime > 0), "there and back")
	add("posture", PostureSeconds(&r.Of, r.Band, &r.Estimates), r.Band.String())
	if r.Across {
		add("turn", AcrossSeconds(), "to the other hand's side")
	}
	for _, a := range r.Accesses {
		add("open", a.Seconds(&r.Estimates), string(a))
	}
	add("move aside", float64(r.Aside)*r.Estimates.Aside, fmt.Sprintf("%d before it", r.Aside))
	if r.LiftOut {
		add("lift out", r.Estimates.LiftOut, "a box")
	}
	search := SearchSeconds(&r.Of, r.Search, &r.Estimates)
	add("search", search, [...]string{"in sight", "closed, labelled", "closed, no label", "mixed heap"}[r.Search])
	add("grasp", GraspSeconds(r.Jumble), "reach, grasp, draw back")
	t.PutBack = t.Fetch - search
	return t
}

// Order of retrieval from 1 to 4: 1 within arm's reach, 2 a few steps or one
// door or drawer, 3 something to open and to move or a step to climb, 4 ladder,
// other area, hoist or a cart to roll out.
func Order(r Errand) int {
	opens := 0
	for _, a := range r.Accesses {
		opens += a.steps()
	}
	switch {
	case opens >= far || r.Band >= Ladder || r.AreaTime > 0:
		return 4
	case r.Band == Step || opens >= 2 || r.Aside > 0 || r.Band == Kneel && opens > 0:
		return 3
	case opens == 1 || r.Distance > ArmsReach || r.Band == Kneel:
		return 2
	}
	return 1
}

// ArmsReach is how far from the standing point a thing still counts as within
// reach: one step, in millimetres (estimate).
const ArmsReach = 900.0
