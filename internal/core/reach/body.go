// Package reach knows the person: how high and how far they reach, what they
// may lift, and how long it takes to fetch a thing. Lengths are millimetres,
// weights kilograms and times seconds, as floating-point numbers.
package reach

import "math"

// Shares of stature after Drillis and Contini, Body Segment Parameters (1966).
const (
	eyeShare       = .936
	shoulderShare  = .818
	elbowShare     = .630
	hipShare       = .530
	fingertipShare = .377
	kneeShare      = .285
	armShare       = .386 // shoulder to grip
)

// Shoes add to every height.
const Shoes = 25.0

// DefaultLean is how far a person leans over an obstacle unless told otherwise.
const DefaultLean = 250.0

// Somebody who works sitting down.
const (
	// Seat is how high they sit: a stool at a low bench, a wheelchair (estimate).
	Seat = 480.0
	// sittingShare is sitting height over the seat as a share of stature (Drillis and Contini 1966).
	sittingShare = .520
	// SeatedLow is the lowest height reached forward from a wheelchair: 15 in (2010 ADA Standards, 308.2.1).
	SeatedLow = 381.0
)

// Body of a person: heights above the floor in shoes, the arm's length to the
// grip and the lean, in millimetres.
type Body struct {
	Stature, Eye, Shoulder, Elbow, Hip, Fingertip, Knee, Arm, Lean float64
	Habits
}

// Habits are what somebody does not do, or does otherwise than most.
type Habits struct {
	ID         string // of the person
	Seated     bool
	NoKneeling bool
	NoLadder   bool
	DimSight   bool
	LeftHanded bool
	Lifts      float64 // kg at most; 0 when nothing is said
}

// With are the same limbs with habits. Who sits is lower from the hip upwards.
func (b Body) With(h Habits) Body {
	b.Habits = h
	if h.Seated {
		drop := b.Stature + Shoes - (Seat + sittingShare*b.Stature)
		b.Eye, b.Shoulder, b.Elbow, b.Fingertip = b.Eye-drop, b.Shoulder-drop, b.Elbow-drop, max(b.Fingertip-drop, SeatedLow)
		b.Hip, b.Knee = Seat, 0
	}
	return b
}

// NewBody derives a body from the stature. Heights in measured (eye, shoulder,
// elbow, hip, fingertip, knee, arm; without shoes) override the derived ones.
func NewBody(stature, lean float64, measured map[string]float64) Body {
	pick := func(name string, share, shoes float64) float64 {
		if v, ok := measured[name]; ok {
			return v + shoes
		}
		return share*stature + shoes
	}
	return Body{
		Stature:   stature,
		Eye:       pick("eye", eyeShare, Shoes),
		Shoulder:  pick("shoulder", shoulderShare, Shoes),
		Elbow:     pick("elbow", elbowShare, Shoes),
		Hip:       pick("hip", hipShare, Shoes),
		Fingertip: pick("fingertip", fingertipShare, Shoes),
		Knee:      pick("knee", kneeShare, Shoes),
		Arm:       pick("arm", armShare, 0),
		Lean:      lean,
	}
}

// Pace is the length of a step: .43 of the stature.
func (b Body) Pace() float64 { return .43 * b.Stature }

// Band says how a height is reached.
type Band int

// The bands, from below. OutOfReach is behind or beyond an obstacle.
const (
	Kneel Band = iota
	Bend
	Easy
	Stretch
	Step
	Ladder
	OutOfReach
)

func (b Band) String() string {
	return [...]string{"kneel", "bend", "easy", "stretch", "step", "ladder", "out of reach"}[b]
}

// Obstacle is what stands between the person and a wall: how far it sticks out
// and how high it is. The zero value is no obstacle.
type Obstacle struct{ Depth, Top float64 }

// Window is the range of heights reached over an obstacle; Low is not below its
// top. OK is false when it is too deep to reach over at all.
type Window struct {
	Low, High float64
	OK        bool
}

// Over gives the heights reached over an obstacle of depth d with an arm of
// length a: shoulder ± √(a² − d²), after leaning as far as the person does.
func (b Body) Over(o Obstacle, lean float64) Window {
	a := b.Arm + lean
	if o.Depth > a {
		return Window{}
	}
	r := math.Sqrt(a*a - o.Depth*o.Depth)
	w := Window{Low: b.Shoulder - r, High: b.Shoulder + r, OK: true}
	if o.Depth > 0 {
		w.Low = max(w.Low, o.Top)
	}
	return w
}

// Zones are the bands at one spot as heights: below Kneel one kneels, up to
// Bend one bends, and so on; below Floor or above a band that is missing
// nothing is reached.
type Zones struct {
	Floor   float64 // lowest height that is reached at all
	Kneel   float64 // up to here one kneels
	Bend    float64 // up to here one bends
	Easy    float64 // up to here it is easy
	EasyLow float64 // and from here: over an obstacle lower things need the lean
	Stretch float64 // up to here one stretches
	Step    float64 // up to here a step helps, above it a ladder
	Top     float64 // above it nothing is reached; 0 when a ladder reaches all
	OK      bool
}

// Zones at a spot behind an obstacle. stepHeight is that of the step stool.
func (b Body) Zones(o Obstacle, stepHeight float64) Zones {
	w := b.Over(o, b.Lean)
	if !w.OK {
		return Zones{}
	}
	z := Zones{Kneel: b.Knee, Bend: b.Fingertip, Easy: b.Shoulder, EasyLow: b.Fingertip, Stretch: w.High, Step: w.High + stepHeight, OK: true}
	if o.Depth > 0 {
		z.Floor = w.Low
		if upright := b.Over(o, 0); upright.OK {
			z.EasyLow = max(z.EasyLow, upright.Low)
			z.Easy = min(z.Easy, max(upright.High, upright.Low))
		} else {
			z.EasyLow, z.Easy = math.Inf(1), math.Inf(-1)
		}
	}
	switch {
	case b.Seated:
		z.Floor, z.Top = max(z.Floor, SeatedLow), max(z.Stretch, SeatedLow)
	case b.NoLadder:
		z.Top = z.Step
	}
	return z
}

// At gives the band of height z.
func (n Zones) At(z float64) Band {
	switch {
	case !n.OK || z < n.Floor || n.Top > 0 && z > n.Top:
		return OutOfReach
	case z >= n.EasyLow && z <= n.Easy:
		return Easy
	case z < n.Kneel:
		return Kneel
	case z < n.Bend:
		return Bend
	case z <= n.Stretch:
		return Stretch
	case z <= n.Step:
		return Step
	default:
		return Ladder
	}
}

// Breaks lists the heights at which the band changes, rising.
func (n Zones) Breaks() []float64 {
	var out []float64
	for _, z := range []float64{n.Floor, n.Kneel, n.Bend, n.EasyLow, n.Easy, n.Stretch, n.Step, n.Top} {
		if !math.IsInf(z, 0) {
			out = append(out, z)
		}
	}
	return out
}
