package reach

import (
	"fmt"
	"hobrak/internal/core/length"
	"hobrak/internal/core/weight"
	"math"
)

// LiftFrom is the weight from which the lifting equation is applied; it is made
// for two-handed lifts and ISO 11228-1 likewise starts at 3 kg.
const LiftFrom = 3.0

// High limit: above it the equation gives no value, and nothing heavier than
// HighWeight is put there.
const (
	HighLimit  = 1750.0
	HighWeight = 5.0
)

// OneLifts is what one person lifts now and then, kg; more is for two (the guideline of the British HSE for a man at the height of
// the elbow).
const OneLifts = 25.0

// From bestHeight the equation allows most, and travel up to freeTravel costs nothing, both in mm.
const (
	bestHeight = 750.0
	freeTravel = 250.0
)

// Lift is one lift: the hands' height above the floor and distance from the
// ankles at its two ends, in millimetres, the turn in degrees and the factors
// for frequency and coupling, 1 for rare lifts of a good grip.
type Lift struct {
	FromHeight, FromReach float64
	ToHeight, ToReach     float64
	Turn                  float64
	Frequency, Coupling   float64
}

// Multipliers of the revised NIOSH lifting equation at one end of a lift.
type Multipliers struct {
	H, V, D, A, F, C float64
	Limit            float64 // recommended weight limit, kg
}

// Limits gives the recommended weight limit at both ends, in kg, by the revised
// NIOSH lifting equation (Waters, Putz-Anderson and Garg 1994, metric form):
// 23 · 25/H · (1 − .003 |V − 75|) · (.82 + 4.5/D) · (1 − .0032 A) · F · C.
// A reach over 63 cm or a height outside 0 to 175 cm gives 0.
func (l Lift) Limits() (from, to Multipliers) {
	travel := math.Abs(l.FromHeight - l.ToHeight)
	return l.end(l.FromHeight, l.FromReach, travel), l.end(l.ToHeight, l.ToReach, travel)
}

func (l Lift) end(height, reach, travel float64) Multipliers {
	v, d := height/10, max(travel/10, 25)
	h := max(reach/10, 25)
	f, c := l.Frequency, l.Coupling
	if f == 0 {
		f = 1
	}
	if c == 0 {
		c = 1
	}
	m := Multipliers{H: 25 / h, V: 1 - .003*math.Abs(v-75), D: min(1, .82+4.5/d), A: max(0, 1-.0032*l.Turn), F: f, C: c}
	if h > 63 {
		m.H = 0
	}
	if v < 0 || v > 175 {
		m.V = 0
	}
	m.Limit = 23 * m.H * m.V * m.D * m.A * m.F * m.C
	return m
}

// NoLimit is the index where nothing at all should be lifted: the equation's limit is 0
// there, and any weight over it. No index is larger.
const NoLimit = 99.0

// Index is weight over limit at the worse end, at most NoLimit.
func (l Lift) Index(kg float64) float64 {
	from, to := l.Limits()
	limit := min(from.Limit, to.Limit)
	if limit <= 0 {
		return NoLimit
	}
	return min(kg/limit, NoLimit)
}

// Verdict on a lift.
type Verdict struct {
	Index   float64 // 0 when the equation was not applied, NoLimit when nothing may be lifted there
	Caution bool    // to be told to the user
	Barred  bool    // not to be put there unless the user locks it
	Why     string
}

// What is said of things lifted down from above.
var (
	fromAbove         = "lifted down from above " + length.Whole(HighLimit)
	tooHeavyFromAbove = fmt.Sprintf("more than %s is not lifted down from above %s", weight.KG(HighWeight), length.Whole(HighLimit))
)

// Judge a lift of so many kg: up to index 1 it is fine, up to 2 a caution,
// above that or higher than 175 cm with more than 5 kg it is barred.
func (l Lift) Judge(kg float64) Verdict {
	if kg < LiftFrom {
		return Verdict{}
	}
	if l.FromHeight > HighLimit {
		if kg > HighWeight {
			return Verdict{Index: NoLimit, Barred: true, Why: tooHeavyFromAbove}
		}
		return Verdict{Caution: true, Why: fromAbove}
	}
	i := l.Index(kg)
	switch {
	case i >= NoLimit:
		return Verdict{Index: i, Barred: true, Why: "too far from the body to be lifted"}
	case i > 2:
		return Verdict{Index: i, Barred: true, Why: "lifting index over 2"}
	case i > 1:
		return Verdict{Index: i, Caution: true, Why: "lifting index over 1"}
	}
	return Verdict{Index: i}
}

// Never tells whether the lift is barred from whatever height between low and high, in mm; FromHeight does not count.
// The limit falls away from 75 cm and with the travel beyond 25 cm, convex in between, so that it is highest at one of
// these heights or at an end of the range; above 175 cm only weight counts.
func (l Lift) Never(kg, low, high float64) bool {
	for _, z := range [...]float64{bestHeight, l.ToHeight - freeTravel, l.ToHeight + freeTravel, HighLimit, high} {
		l.FromHeight = min(max(z, low), high)
		if !l.Judge(kg).Barred {
			return false
		}
	}
	return true
}
