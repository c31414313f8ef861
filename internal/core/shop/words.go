package shop

import (
	"slices"

	"hobrak/internal/core/reach"
)

// worded types are texts of which only some words are known. What they know is in
// their type: reading, the schema, tables and forms all ask it.
type worded interface{ Words() []string }

// Hold is a way of holding a thing.
type Hold string

// The ways of holding, and what a thing does when it is held so.
const (
	Hang   Hold = "hang"
	Stand  Hold = "stand"
	Flat   Hold = "flat"
	Slot   Hold = "slot"
	Lean   Hold = "lean"
	OnArms Hold = "arms"
	InBin  Hold = "bin"
	Magnet Hold = "magnet"
	OnBar  Hold = "roll" // with a bar through it
)

var holds = []struct {
	hold Hold
	says string // of a thing: let it …
}{{Hang, "hang"}, {Stand, "stand"}, {Flat, "lie"}, {Slot, "be in a slot"}, {Lean, "lean"}, {OnArms, "lie on arms"}, {InBin, "be in a bin"}, {Magnet, "be held by a magnet"}, {OnBar, "hang on a bar as a roll"}}

// Holds are all ways of holding.
func Holds() []Hold { return listOf(holds, func(i int) Hold { return holds[i].hold }) }

// Words of the ways of holding.
func (Hold) Words() []string { return texts(Holds()) }

// Says what a thing does that is held so, as "lie".
func (h Hold) Says() string {
	for _, x := range holds {
		if x.hold == h {
			return x.says
		}
	}
	return string(h)
}

// Flag is something to mind about a thing.
type Flag string

const (
	Sharp       Flag = "sharp"
	Fragile     Flag = "fragile"
	Dusty       Flag = "dust" // dust harms it
	Freezes     Flag = "freeze"
	Flammable   Flag = "flammable"
	NotForChild Flag = "child"
	Rusts       Flag = "rust"
	HeavyHanded Flag = "heavy-handed" // handled with force
	Fades       Flag = "fades"        // sun spoils it
	Show        Flag = "show"
	Charger     Flag = "charger"
	Dull        Flag = "dull"
	Lent        Flag = "lent"
)

// Flags are all there are.
func Flags() []Flag {
	return []Flag{Sharp, Fragile, Dusty, Freezes, Flammable, NotForChild, Rusts, Fades, HeavyHanded, Show, Charger, Dull, Lent}
}

// Words of the flags.
func (Flag) Words() []string { return texts(Flags()) }

// Flagged tells whether an item has a flag.
func (it *Item) Flagged(f Flag) bool { return slices.Contains(it.Flags, f) }

// Access is what must be done to get at what is in something.
type Access = reach.Access

// ContainerKind is what a container is.
type ContainerKind string

// container is what is known of a kind.
type container struct {
	name ContainerKind
	// rolls: it can be rolled aside; tips: it stands free and can fall over; lifted: it
	// is taken out to get at what is in it; onDoor: it hangs on the back of a door.
	rolls, tips, lifted, onDoor bool
}

const (
	Cabinet  ContainerKind = "cabinet"
	Chest    ContainerKind = "chest"
	Cart     ContainerKind = "cart"
	Shelving ContainerKind = "shelving"
	DoorBack ContainerKind = "door-back"
	Tote     ContainerKind = "tote"
	Trolley  ContainerKind = "trolley"
)

var containers = []container{{name: Cabinet}, {name: Chest}, {name: Cart, rolls: true, tips: true}, {name: Shelving, tips: true},
	{name: DoorBack, onDoor: true}, {name: Tote, lifted: true}, {name: Trolley, rolls: true, tips: true}}

// Words of the kinds of container.
func (ContainerKind) Words() []string {
	return texts(listOf(containers, func(i int) ContainerKind { return containers[i].name }))
}

func (k ContainerKind) known() container {
	for _, c := range containers {
		if c.name == k {
			return c
		}
	}
	return container{}
}

// Rolls tells whether it can be rolled aside.
func (k ContainerKind) Rolls() bool { return k.known().rolls }

// Tips tells whether it stands free and can fall over.
func (k ContainerKind) Tips() bool { return k.known().tips }

// Lifted tells whether it is taken out to get at what is in it.
func (k ContainerKind) Lifted() bool { return k.known().lifted }

// OnDoor tells whether it hangs on the back of a door.
func (k ContainerKind) OnDoor() bool { return k.known().onDoor }

func listOf[T, U any](list []T, of func(i int) U) []U {
	out := make([]U, len(list))
	for i := range list {
		out[i] = of(i)
	}
	return out
}

func texts[T ~string](list []T) []string {
	out := make([]string, len(list))
	for i, x := range list {
		out[i] = string(x)
	}
	return out
}

// Ordering is what things in a place are in order of.
type Ordering string

// The orders there are; the most used at hand when none is said.
const (
	ByUse  Ordering = "use"
	ByName Ordering = "name"
	BySize Ordering = "size"
	ByKind Ordering = "kind"
	// ByJob puts what belongs to one kit together, ByMachine what is used at one station, and ByWeight what is heavy below.
	ByJob     Ordering = "job"
	ByMachine Ordering = "machine"
	ByWeight  Ordering = "weight"
)

// Words of the orders.
func (Ordering) Words() []string {
	return texts([]Ordering{ByUse, ByName, BySize, ByKind, ByJob, ByMachine, ByWeight})
}

// Mobility is how a station can be moved.
type Mobility string

const (
	Fixed  Mobility = "fixed"
	Rolls  Mobility = "rolls"
	Folds  Mobility = "folds"
	HungUp Mobility = "hangs"
)

// Words of the mobilities.
func (Mobility) Words() []string { return texts([]Mobility{Fixed, Rolls, Folds, HungUp}) }

// Casters that something rolls on.
type Casters string

// Casters that are known.
const (
	Locking Casters = "locking"
	Plain   Casters = "plain" // without locks
)

// Words of casters.
func (Casters) Words() []string { return texts([]Casters{Locking, Plain}) }

// Aside tells whether it gets out of the way of somebody.
func (m Mobility) Aside() bool { return m == Rolls || m == Folds }

// What may be fixed to the building.
const (
	AnyHoles = "anything"
	FewHoles = "few-holes"
	NoHoles  = "none"
)

// Fixings are what may be said of it.
func Fixings() []string { return []string{AnyHoles, FewHoles, NoHoles} }
