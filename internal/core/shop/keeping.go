package shop

import (
	"fmt"
	"maps"
	"slices"
	"sync/atomic"

	"hobrak/internal/core/length"
)

// PlaceKind names how a place holds things. The kinds themselves are in package
// place, which registers them here when it is imported: without it no place of a
// shop file is known.
type PlaceKind string

// Keeping is what the shop file needs to know of a kind of place.
type Keeping interface {
	// Name in the file, and the word for it among people.
	Name() PlaceKind
	Word() string
	// Offers are the ways a place holds things.
	Offers(p *Place) []Hold
	// Turns tells whether things may be turned by 90 degrees in it unless they say
	// otherwise.
	Turns() bool
	// Size of one piece as it is kept there.
	Size(it *Item) Size
	// Bears says how a container can be on it.
	Bears() Bearing
	// Faults complains of what a place of the kind needs and has not.
	Faults(p *Place, bad Complain)
	// Misplaced complains of a home of n pieces in what the place does not have.
	Misplaced(p *Place, h *Home, n int, bad Complain)
}

// Complain notes a fault at a field, a path from the place or home on.
type Complain func(field, format string, args ...any)

// Bearing is how a container can be on a place.
type Bearing int

const (
	BearsNothing  Bearing = iota
	BearsStanding         // at x from the left and y from the front
	BearsHung             // at x from the left and z up
)

// keepings are replaced as a whole, so that readers need no lock.
var keepings atomic.Pointer[registry]

type registry struct {
	list   []Keeping
	byName map[PlaceKind]Keeping
}

// RegisterPlace makes a kind of place known. It is meant for the init of package
// place and is not safe for several at once.
func RegisterPlace(k Keeping) {
	next := &registry{byName: map[PlaceKind]Keeping{}}
	if was := keepings.Load(); was != nil {
		next.list = slices.Clone(was.list)
		maps.Copy(next.byName, was.byName)
	}
	if next.byName[k.Name()] != nil {
		panic("two kinds of place are called " + string(k.Name()))
	}
	next.list, next.byName[k.Name()] = append(next.list, k), k
	keepings.Store(next)
}

// PlaceKinds lists the kinds of place in the order in which they were registered.
func PlaceKinds() []Keeping {
	if r := keepings.Load(); r != nil {
		return r.list
	}
	return nil
}

// Keeping is what is known of a kind; nil when nothing is.
func (k PlaceKind) Keeping() Keeping {
	if r := keepings.Load(); r != nil {
		return r.byName[k]
	}
	return nil
}

// Words of the kinds there are.
func (PlaceKind) Words() (out []string) {
	for _, k := range PlaceKinds() {
		out = append(out, string(k.Name()))
	}
	return out
}

// Tolerance is how far drawn sizes may disagree with what they are in: people round.
const Tolerance = 5 * length.Millimetre

// Nth is the path of an element of a list.
func Nth(list string, i int) string { return fmt.Sprintf("%s[%d]", list, i) }

// Offers lists the ways of holding a place offers.
func (p *Place) Offers() []Hold { return p.Kind.Keeping().Offers(p) }

// SizeIn is the size of one piece as it is kept in a kind of place.
func (it *Item) SizeIn(k PlaceKind) Size { return k.Keeping().Size(it) }

// Turns tells whether the item may be turned by 90 degrees in a kind of place.
func (it *Item) Turns(k PlaceKind) bool { return it.Turned(k.Keeping().Turns()) }

// Turned tells whether the item may be turned where things usually may, or may not.
func (it *Item) Turned(usually bool) bool {
	if it.Turn != nil {
		return *it.Turn
	}
	return usually
}

// Laid is the size of one piece where things lie flat if they can: those that can
// also stand do so unless they always lie there.
func (it *Item) Laid(always bool) Size {
	if it.held("flat") && (always || !it.held("stand")) {
		if it.Flat != nil {
			return *it.Flat
		}
		if (it.held("hang") || it.held("slot")) && it.H > it.D {
			return Size{W: it.H, H: it.D, D: it.W} // down from the wall onto its widest side
		}
	}
	return Size{W: it.W, H: it.H, D: it.D}
}

func (it *Item) held(way Hold) bool {
	for _, h := range it.Holding() {
		if h == way {
			return true
		}
	}
	return false
}
