// Package moves works out how a shop gets from how it stands to how it is to be: what is built, hung and shifted, what is carried
// from home to home and what is put aside for a while, in an order that can be done, an evening at a time. After each step the shop
// is lawful: nothing lies in anything else, nothing carries too much, nothing is lost. Lengths are millimetres as floats, times
// minutes, handling seconds a week.
package moves

import (
	"fmt"
	"math"

	"hobrak/internal/core/shop"
)

// Kinds of step.
const (
	Carry = "move"  // things from home to home, or to a spot for a while and from there
	Build = "build" // make it and put it up
	Shift = "shift" // move a station or storage with what is in it
	Clear = "clear" // take it down
)

// Step of an evening.
type Step struct {
	N     int    `json:"n" doc:"from 1, in the order of the plan"`
	Do    string `json:"do" enum:"move,build,shift,clear"`
	Item  string `json:"item,omitempty" doc:"id of what is carried"`
	What  string `json:"what,omitempty" doc:"id of the station or storage that is built, shifted or taken down"`
	Name  string `json:"name"`
	Count int    `json:"count,omitempty" doc:"how many pieces"`
	// Homes of the pieces before and after: nothing when they have none, or lie on a spot for a while that is no place.
	From      *shop.Home `json:"from,omitempty"`
	To        *shop.Home `json:"to,omitempty"`
	FromOn    string     `json:"from_on,omitempty" doc:"where they lie, when that is no place"`
	On        string     `json:"on,omitempty" doc:"where they are put for a while, when that is no place"`
	Spot      *Spot      `json:"spot,omitempty" doc:"of a station that is set aside: where it stands for a while"`
	Temporary bool       `json:"temporary" doc:"they do not stay there"`
	Minutes   float64    `json:"minutes"`
	People    int        `json:"people"`
	Part      int        `json:"part,omitempty" doc:"of something that takes more than an evening: which part"`
	Parts     int        `json:"parts,omitempty"`
	Gain      float64    `json:"gain" doc:"seconds a week that it saves; negative when it costs"`
	Caution   string     `json:"caution,omitempty"`
}

// Spot is where a station stands: the left lower corner of its footprint before it is turned, in mm, its turn in degrees, and where
// one stands at it.
type Spot struct {
	X     float64    `json:"x"`
	Y     float64    `json:"y"`
	Rot   float64    `json:"rot"`
	Stand [2]float64 `json:"stand"`
}

// Evening is a session of steps.
type Evening struct {
	Minutes  float64 `json:"minutes"`
	Handling float64 `json:"handling_after" doc:"seconds a week once it is done"`
	Steps    []Step  `json:"steps" nullable:"false"`
	Aside    int     `json:"aside" doc:"how many things lie on a spot for a while when it ends"`
	Covered  string  `json:"covered,omitempty" doc:"name of the main bench when something lies on it until the next evening"`
}

// Handling now and at the end, seconds a week.
type Handling struct {
	Now    float64 `json:"now"`
	Target float64 `json:"target"`
}

// Plan of evenings.
type Plan struct {
	Handling  Handling  `json:"handling"`
	Temporary int       `json:"temporary" doc:"how many things are put aside for a while"`
	Minutes   float64   `json:"minutes" doc:"of all evenings"`
	Worst     float64   `json:"worst" doc:"by how many seconds a week handling is worse than now after the worst evening; 0 when it never is"`
	Evenings  []Evening `json:"evenings" nullable:"false"`
	Opens     *Opening  `json:"opens,omitempty" doc:"the step on which most others wait; left out when none waits"`
	Stuck     []string  `json:"stuck" nullable:"false" doc:"what cannot be done, with the reason and a way on"`
}

// Opening is the step that makes most others possible.
type Opening struct {
	N      int    `json:"n" doc:"its number; 0 when it is in no evening yet"`
	Name   string `json:"name"`
	Do     string `json:"do" enum:"move,build,shift,clear"`
	Others int    `json:"others" doc:"how many wait for it"`
}

// Options of a plan.
type Options struct {
	Minutes float64  // of an evening, 10 to 600
	Pace    float64  // how much longer than usual somebody takes; 1 when left out
	Leave   []string // items that stay where they are
	First   int      // so many evenings are enough; all when left out
	Stop    func() bool
}

// shortest evening in which anything gets done, and the longest.
const (
	shortest = 10.0
	longest  = 600.0
)

// Of is the plan from one shop to another: the same shop with other homes, storage or stations. Neither is changed. What is only in
// the second is built, what is only in the first taken down. The error says what is wrong with what is asked; what cannot be done is
// in the plan.
func Of(now, target *shop.Shop, o Options) (*Plan, error) {
	if math.IsNaN(o.Minutes) || o.Minutes < shortest || o.Minutes > longest {
		return nil, fmt.Errorf("an evening of %.0f minutes: give it from %.0f to %.0f, in less than that something is only begun", o.Minutes, shortest, longest)
	}
	if o.Pace <= 0 {
		o.Pace = 1
	}
	w, err := newWork(now, target, o)
	if err != nil {
		return nil, err
	}
	w.asides()
	return w.evenings()
}

// Done are the homes of a shop after a step.
func Done(homes []shop.Home, items func(id string) *shop.Item, s *Step) []shop.Home {
	if s.Do != Carry {
		return homes
	}
	out := append([]shop.Home{}, homes...)
	it := items(s.Item)
	if it == nil {
		return out
	}
	set := func(i, n int) {
		if out[i].N = n; n == it.Number() {
			out[i].N = 0
		}
	}
	if s.From != nil {
		for i := range out {
			if h := &out[i]; Same(h, s.From) {
				if n := h.Number(it) - s.Count; n > 0 {
					set(i, n)
				} else {
					out = append(out[:i], out[i+1:]...)
				}
				break
			}
		}
	}
	if s.To != nil {
		for i := range out {
			if Same(&out[i], s.To) {
				set(i, out[i].Number(it)+s.Count)
				return out
			}
		}
		h := *s.To
		out = append(out, h)
		set(len(out)-1, s.Count)
	}
	return out
}

// Same tells whether two homes are one spot of one item, whatever the numbers there.
func Same(a, b *shop.Home) bool {
	x, y := *a, *b
	x.N, y.N, x.Locked, y.Locked = 0, 0, false, false
	return x == y
}
