// Package keeping knows the kinds of place: how each of them holds things. A kind is
// one file here and one line in the list below; nothing else in the core names it.
//
// A kind says what space it offers (package pack), what an item is like in that
// space, what the numbers of a home mean, where the hand goes, how the pieces lie,
// what bars an item that the space itself does not see, how the bound of package fit
// may cut it into cells, what is drawn of it, and the words for it. Lengths are
// micrometres where they are length.Length, else millimetres.
package keeping

import (
	"fmt"
	"math"
	"slices"

	"hobrak/internal/core/length"
	"hobrak/internal/core/pack"
	"hobrak/internal/core/shop"
	"hobrak/internal/core/weight"
)

// all kinds, in the order in which they are listed to people.
var all = []Kind{wallField{}, rail{}, hook{}, shelf{}, deck{}, drawer{lying{always: true}}, slots{}, arms{}, bin{}, sheetBay{}, roller{}, floor{}}

// The kinds that the ways of building storage make.
const (
	WallField shop.PlaceKind = "wall-field"
	Rail      shop.PlaceKind = "rail"
	Hook      shop.PlaceKind = "hook"
	Shelf     shop.PlaceKind = "shelf"
	Deck      shop.PlaceKind = "deck"
	Drawer    shop.PlaceKind = "drawer"
	Slots     shop.PlaceKind = "slots"
	Arms      shop.PlaceKind = "arms"
	Bin       shop.PlaceKind = "bin"
	SheetBay  shop.PlaceKind = "sheet-bay"
	Floor     shop.PlaceKind = "floor"
)

func init() {
	for _, k := range all {
		shop.RegisterPlace(k)
	}
}

// Kind of place. The embedded part is what the shop file needs to know of it.
type Kind interface {
	shop.Keeping

	// Form is how things lie in it.
	Form() Form
	// Hangs tells whether things hang at its back.
	Hangs() bool
	// Boarded tells whether what is in it rests on one board, which can sag.
	Boarded() bool
	// Ample tells whether a share of it may be kept free for what is to come.
	Ample() bool

	// Space is the empty space of a place. Head is the height from its floor to what
	// is over it.
	Space(p *shop.Place, head length.Length) pack.Space
	// Thing is n pieces of an item as that space sees them.
	Thing(it *shop.Item, n int) pack.Thing
	// Home is a home with the numbers of a spot, Spot is the reverse.
	Home(h shop.Home, p *shop.Place, it *shop.Item, s pack.Spot) shop.Home
	Spot(h shop.Home) pack.Spot
	// Try is where one would try first, to hear why not.
	Try(p *shop.Place, t pack.Thing) pack.Spot
	// Into moves a spot so that the pieces end inside the place.
	Into(p *shop.Place, t pack.Thing, s pack.Spot) pack.Spot

	// Block is the width and height (or depth, lying) of all the pieces of a home
	// together, clearance between them included.
	Block(it *shop.Item, n int, s pack.Spot) (w, up float64)
	// Grip is where the hand goes.
	Grip(p *shop.Place, it *shop.Item, n int, s pack.Spot) Grip
	// Grips lists grips in the empty place, at least one in every region of equal cost
	// in which one piece of the item, or some side by side, can be gripped.
	Grips(p *shop.Place, it *shop.Item, at Where) []Grip
	// At is the spot of a block w by up whose grip is nearest to one; false where the
	// kind has no spots to choose from.
	At(p *shop.Place, g Grip, w, up float64) (pack.Spot, bool)
	// Boxes are the pieces of a home one by one.
	Boxes(p *shop.Place, it *shop.Item, n int, s pack.Spot) []Box
	// Mass is where the centre of mass of a home is: out from the back and up from
	// the lower edge.
	Mass(p *shop.Place, it *shop.Item, n int, s pack.Spot) (out, up float64)

	// Over is by how much one piece is too large in a direction the space does not
	// look at, and how that is said; 0 when it is not.
	Over(p *shop.Place, s shop.Size) (by length.Length, says string)
	// Short is by how many mm the place is too small for one piece; 0 when size is not
	// what bars it.
	Short(p *shop.Place, s shop.Size) float64
	// Growing lists the ways to make such a place larger, the easiest first.
	Growing() []Growth

	// Cells says how the place is cut for a bound, and into how many rows.
	Cells(p *shop.Place) (Cells, int)
	// Row is what a block that is up high takes when it is in row k: the rows, the
	// height of its grip and how many things stand before it. False when it cannot be.
	Row(p *shop.Place, it *shop.Item, up float64, k int) (rows []int, z float64, aside int, ok bool)
	// RowOf is the row of a spot of a block that is up high.
	RowOf(p *shop.Place, s pack.Spot, up float64) int

	// View is the side that shows what is in it.
	View() View
	// Face is what one sees of it from the front.
	Face() Face
	// Lines are its rails, slot edges and arms from the front, x and z of both ends.
	Lines(p *shop.Place) [][4]float64
	// Materials of one: m² of sheet, m of rail.
	Materials(p *shop.Place) (sheet, rail float64)
	// Furnish gives a new place what its kind needs beside its size; between picks a
	// length.
	Furnish(p *shop.Place, between func(least, most length.Length) length.Length)
}

// Form is how things lie in a place.
type Form int

const (
	// Upright: side by side and over each other on an upright face.
	Upright Form = iota
	// Single: one thing on an upright face.
	Single
	// Lying: beside and behind each other, seen from above.
	Lying
	// Rows: side by side, in front and behind.
	Rows
	// Run: side by side.
	Run
	// Slotted: a slot each.
	Slotted
	// Piles: on each other, at several levels.
	Piles
	// Leaning: on edge, beside each other.
	Leaning
	// Heap: a volume without order.
	Heap
	// Boxed: as the boxes say, for all that lie in some other way.
	Boxed
)

// Shared tells whether things of all sizes share a plane, so that a large one takes
// the room of several.
func (f Form) Shared() bool { return f == Upright || f == Lying }

// InRow tells whether several alike are always beside each other.
func (f Form) InRow() bool { return f == Rows || f == Run || f == Slotted }

// Sliding tells whether a thing can be a little to the side of where it is.
func (f Form) Sliding() bool { return f == Upright || f == Lying || f == Rows || f == Run }

// Cells is how a place is cut for a bound: always along its width, and
type Cells int

const (
	// Uncut: not at all, only the whole of it counts.
	Uncut Cells = iota
	// Bands: into heights, in which things hang anywhere.
	Bands
	// Strip: no further.
	Strip
	// InRows: into rows, of which a thing takes one or several.
	InRows
)

// View is the side of a place that shows what is in it.
type View int

const (
	FromFront View = iota
	FromAbove
	FromEnd
)

// Face is what one sees of a place from the front.
type Face int

const (
	Bare   Face = iota // what is in it
	Framed             // its outline and what is in it
	Shut               // its outline
	Front              // a front larger than itself
	Ledge              // a board below what stands on it
)

// Grip is where the hand goes: x along the place from its left and the height
// above the place's lower edge, in millimetres.
type Grip struct{ X, Z float64 }

// Box is a piece in a place: x from its left, y from the front (on arms out from the
// wall), z from its lower edge. Behind tells that others are before it.
type Box struct {
	X, Y, Z float64
	W, D, H float64
	Behind  bool
}

// Where finds the grips at which costs can differ.
type Where interface {
	// Columns lists one x of the place in every column of cost between two.
	Columns(from, to float64) []float64
	// Heights lists one height in every band of reach between two, at x.
	Heights(x, low, high float64) []float64
}

// Growth is a side by which a place can be made larger, and how that is said of a
// length and a place.
type Growth struct {
	Side func(*shop.Place) *length.Length
	Says string
}

func wide(p *shop.Place) *length.Length { return &p.W }
func high(p *shop.Place) *length.Length { return &p.H }
func deep(p *shop.Place) *length.Length { return &p.D }

// Of is the kind of a place of a valid shop.
func Of(p *shop.Place) Kind { return p.Kind.Keeping().(Kind) }

// Kinds in the order in which they are listed to people.
func Kinds() []Kind { return slices.Clone(all) }

// GripOf finds the grip of an item in a home of the place.
func GripOf(p *shop.Place, it *shop.Item, h *shop.Home) Grip {
	return Of(p).Grip(p, it, h.Number(it), SpotOf(p, h))
}

// BoxesOf are the pieces of a home of the place one by one.
func BoxesOf(p *shop.Place, it *shop.Item, h *shop.Home) []Box {
	return Of(p).Boxes(p, it, h.Number(it), SpotOf(p, h))
}

// SpaceIn is the space of a place of a shop, less the room of the containers that
// are on it.
func SpaceIn(s *shop.Shop, p *shop.Place, head length.Length) pack.Space {
	k := Of(p)
	space := k.Space(p, head)
	for i := range s.Containers {
		if c := &s.Containers[i]; c.At.In == p.ID {
			t, spot := Case(p, c)
			space.Put(-1-i, t, spot)
		}
	}
	return space
}

// Case is a container on a place as its space sees it.
func Case(p *shop.Place, c *shop.Container) (pack.Thing, pack.Spot) {
	t, s := pack.Thing{W: c.W, H: c.H, D: c.D, N: 1}, pack.Spot{X: c.At.X, Y: c.At.Y}
	k := Of(p)
	if k.Bears() == shop.BearsHung {
		s.Y = c.At.Z
	}
	if k.Form() == Lying {
		t.H = c.D
	}
	return t, s
}

// Thing is n pieces of an item as the space of a place sees them.
func Thing(p *shop.Place, it *shop.Item, n int) pack.Thing { return Of(p).Thing(it, n) }

// Barred tells what forbids an item in an empty place, leaving reach and lifting
// aside; empty when nothing does.
func Barred(p *shop.Place, it *shop.Item, n int, space pack.Space) string {
	if !p.Takes(it) {
		return fmt.Sprintf("holds %s; this is kept %s", Either(p.Offers()), Either(it.Holding()))
	}
	k := Of(p)
	if by, says := k.Over(p, k.Size(it)); by > 0 {
		return fmt.Sprintf("%s too %s", by, says)
	}
	if p.Capacity > 0 && it.KG*weight.Weight(n) > p.Capacity {
		return fmt.Sprintf("%s too heavy for its capacity of %s", it.KG*weight.Weight(n)-p.Capacity, p.Capacity)
	}
	t := k.Thing(it, n)
	if len(space.Spots(t, nil)) > 0 {
		return ""
	}
	if err := space.Allows(t, k.Try(p, t)); err != nil {
		return err.Error()
	}
	return "it does not fit in"
}

// Either lists words: a, b or c.
func Either[S ~string](words []S) string {
	out := ""
	for i, w := range words {
		switch {
		case i == 0:
		case i == len(words)-1:
			out += " or "
		default:
			out += ", "
		}
		out += string(w)
	}
	return out
}

// Home turns a spot into a home of the shop file.
func Home(it *shop.Item, p *shop.Place, n int, s pack.Spot) shop.Home {
	h := shop.Home{Item: it.ID, Place: p.ID}
	if n != it.Number() {
		h.N = n
	}
	if s.Turned {
		h.Rot = 90
	}
	if s.Cols > 0 && s.Cols < n {
		h.Cols = s.Cols
	}
	return Of(p).Home(h, p, it, s)
}

// SpotOf is the reverse of Home.
func SpotOf(p *shop.Place, h *shop.Home) pack.Spot {
	s := Of(p).Spot(*h)
	s.Cols = h.Cols
	return s
}

// Aside is how many things stand before a spot.
func Aside(p *shop.Place, s pack.Spot) int {
	if s.Row > 0 && Of(p).Form() == Rows {
		return s.Row
	}
	return 0
}

// Outlook is what the pieces of a home take of the front of the place, in mm from its lower left
// corner; false when the front does not show them.
func Outlook(p *shop.Place, it *shop.Item, h *shop.Home) (Box, bool) {
	boxes := BoxesOf(p, it, h)
	if Of(p).View() != FromFront || len(boxes) == 0 {
		return Box{}, false
	}
	out := boxes[0]
	for _, b := range boxes[1:] {
		x, z := min(out.X, b.X), min(out.Z, b.Z)
		out = Box{X: x, Z: z, W: max(out.X+out.W, b.X+b.W) - x, H: max(out.Z+out.H, b.Z+b.H) - z}
	}
	return out, true
}

// Dropped is the spot of n pieces of an item whose middle is dropped at x along and z up the
// front of a place, both in mm; what is near that and free is for who asks to find.
func Dropped(p *shop.Place, it *shop.Item, n int, x, z float64) pack.Spot {
	k := Of(p)
	w, up := k.Block(it, n, pack.Spot{})
	if k.Form() == Slotted {
		return slotAt(p, it, n, x)
	}
	if s, ok := k.At(p, Grip{X: x, Z: z}, w, up); ok {
		return s
	}
	s := pack.Spot{X: length.MM(max(0, x-min(w, p.W.MM())/2))}
	for i, l := range p.Levels {
		if l.Z.MM() <= z {
			s.Level = i
		}
	}
	return s
}

// slotAt is the spot of n pieces whose middle is nearest to x, in mm along the place.
func slotAt(p *shop.Place, it *shop.Item, n int, x float64) (best pack.Spot) {
	away := math.Inf(1)
	for i := 0; i <= p.SlotCount()-max(1, n); i++ {
		s := pack.Spot{Slot: i}
		h := Of(p).Home(shop.Home{N: n}, p, it, s)
		if b, _ := Outlook(p, it, &h); math.Abs(b.X+b.W/2-x) < away {
			best, away = s, math.Abs(b.X+b.W/2-x)
		}
	}
	return best
}
