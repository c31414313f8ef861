package shop

import "hobrak/internal/core/length"

// FeatureKind is what a feature of a wall is. What is known of each kind is one line
// of the table below; nothing else tells them apart by name.
type FeatureKind string

// Covering is what it means that something hangs over a feature.
type Covering int

const (
	MustNot  Covering = iota // it breaks a rule
	Hides                    // it is a caution
	OnLeaf                   // only what is made for the back of a door may
	Harmless                 // nothing is lost
)

// Keeps is what room a feature keeps free before it.
type Keeps int

const (
	KeepsNothing Keeps = iota
	KeepsWork          // room to work in, as before a panel
	KeepsHeat          // distance, as round a heater
)

type feature struct {
	name   FeatureKind
	usual  Feature  // size and height when nothing is said
	asked  []string // what is to be measured of each
	margin float64  // kept free round it, mm (estimate): casing, sill, a hand at the switch
	// passage: one goes through it; leaves: how many hinged ones it has; overhead: its
	// leaf goes up on tracks; gap: it is drawn as a gap of the wall in plans.
	passage  bool
	leaves   int
	overhead bool
	gap      bool
	covering Covering
	keeps    Keeps
	// depth is what its d is called, shaped and wired what else can be said of it.
	depth         string
	shaped, wired bool
	// lit: light comes through; recess: it goes into the wall and takes nothing of it;
	// across: it may run across others.
	lit, recess, across bool
	says                string // what it is called where its name does not say
}

const mm = length.Millimetre

func sized(z, w, h, d length.Length) Feature {
	return Feature{Z: z * mm, W: w * mm, H: h * mm, D: d * mm}
}

var (
	doorway = []string{"x", "w", "h"} // a door stands on the floor
	plate   = []string{"x", "z"}      // nobody measures the plate of an outlet
	opened  = []string{"x", "z", "w", "h"}
	solid   = []string{"x", "z", "w", "h", "d"}
)

var features = []feature{
	{name: "door", usual: sized(0, 900, 2000, 0), asked: doorway, margin: 70, passage: true, leaves: 1, gap: true, covering: OnLeaf},
	{name: "double-door", usual: sized(0, 1600, 2000, 0), asked: doorway, margin: 70, passage: true, leaves: 2, gap: true},
	{name: "sectional-door", usual: sized(0, 2400, 2100, 0), asked: doorway, passage: true, overhead: true, gap: true},
	{name: "up-and-over-door", usual: sized(0, 2400, 2100, 0), asked: doorway, passage: true, overhead: true, gap: true},
	{name: "opening", usual: sized(0, 900, 2000, 0), asked: doorway, margin: 40, passage: true, gap: true, covering: Harmless},
	{name: "window", usual: sized(900, 1000, 1000, 0), asked: opened, margin: 50, gap: true, lit: true, shaped: true},
	{name: "panel", usual: sized(1200, 400, 600, 100), asked: solid, gap: true, keeps: KeepsWork, depth: "stands out"},
	{name: "outlet", usual: sized(1050, 80, 80, 0), asked: plate, margin: 60, covering: Hides, wired: true},
	{name: "switch", usual: sized(1100, 80, 80, 0), asked: plate, margin: 60, covering: Hides},
	{name: "tap", usual: sized(900, 100, 150, 120), asked: solid, covering: Hides, depth: "stands out"},
	{name: "data-socket", says: "network socket", usual: sized(300, 80, 80, 0), asked: plate, margin: 60, covering: Hides},
	{name: "wall-fan", says: "exhaust fan", usual: sized(1900, 300, 300, 100), asked: solid, covering: Hides, depth: "stands out"},
	{name: "heater", usual: sized(150, 1000, 500, 120), asked: solid, keeps: KeepsHeat, depth: "stands out"},
	{name: "pipe", usual: sized(0, 50, 2000, 60), asked: solid, margin: 30, covering: Hides, across: true, depth: "stands out"},
	{name: "beam", usual: sized(2000, 200, 200, 150), asked: solid, covering: Hides, across: true, depth: "stands out"},
	{name: "niche", usual: sized(1000, 400, 400, 100), asked: solid, covering: Harmless, depth: "deep", recess: true},
	{name: "keepsake", usual: sized(1500, 400, 300, 40), asked: solid, depth: "stands out"}, // a picture, a clock: it stays where it hangs
}

// FeatureKinds that a wall may have, in the order they are offered.
func FeatureKinds() []FeatureKind {
	return listOf(features, func(i int) FeatureKind { return features[i].name })
}

// Words of the kinds of feature.
func (FeatureKind) Words() []string { return texts(FeatureKinds()) }

func (k FeatureKind) known() *feature {
	for i := range features {
		if features[i].name == k {
			return &features[i]
		}
	}
	return &feature{}
}

// Usual is a feature of the kind as large and high as most, and which of its values
// are to be measured.
func (k FeatureKind) Usual() (Feature, []string) {
	f := k.known().usual
	f.Kind = k
	if k.Leaves() > 0 {
		f.Hinge, f.Swing = "left", "in"
	}
	return f, append([]string{}, k.known().asked...)
}

// Margin is what is kept free round it, in mm.
func (k FeatureKind) Margin() float64 { return k.known().margin }

// Passage tells whether one goes through it.
func (k FeatureKind) Passage() bool { return k.known().passage }

// Leaves is how many hinged leaves it has.
func (k FeatureKind) Leaves() int { return k.known().leaves }

// Overhead tells whether its leaf goes up on tracks.
func (k FeatureKind) Overhead() bool { return k.known().overhead }

// Gap tells whether it is drawn as a gap of the wall in plans.
func (k FeatureKind) Gap() bool { return k.known().gap }

// Covering is what it means that something hangs over it.
func (k FeatureKind) Covering() Covering { return k.known().covering }

// Keeps is what room it keeps free before it.
func (k FeatureKind) Keeps() Keeps { return k.known().keeps }

// Lit tells whether light comes through it.
func (k FeatureKind) Lit() bool { return k.known().lit }

// Across tells whether it may run across others.
func (k FeatureKind) Across() bool { return k.known().across }

// Recess tells whether it goes into the wall and takes nothing of it.
func (k FeatureKind) Recess() bool { return k.known().recess }

// Depth is what its d is called; empty when it has none.
func (k FeatureKind) Depth() string { return k.known().depth }

// Shaped tells whether its top may be arched, Wired whether it is on a circuit.
func (k FeatureKind) Shaped() bool { return k.known().shaped }
func (k FeatureKind) Wired() bool  { return k.known().wired }

// Called is how people call a feature: its name, or what it is.
func (f *Feature) Called() string {
	if f.Name != "" {
		return f.Name
	}
	if says := f.Kind.known().says; says != "" {
		return says
	}
	return string(f.Kind)
}
