package keeping

import (
	"slices"

	"hobrak/internal/core/length"
	"hobrak/internal/core/pack"
	"hobrak/internal/core/shop"
)

// sheetBay in which sheets lean on edge beside each other.
type sheetBay struct{ plain }

func (sheetBay) Name() shop.PlaceKind           { return SheetBay }
func (sheetBay) Word() string                   { return "sheet bay" }
func (sheetBay) Offers(*shop.Place) []shop.Hold { return []shop.Hold{"lean"} }
func (sheetBay) Form() Form                     { return Leaning }
func (sheetBay) View() View                     { return FromAbove }
func (sheetBay) Face() Face                     { return Shut }

func (sheetBay) Space(p *shop.Place, _ length.Length) pack.Space {
	return &pack.SheetBay{W: p.W, H: p.H, D: p.D}
}

func (b sheetBay) Thing(it *shop.Item, n int) pack.Thing { return run(it, b.Size(it), n) }

func (sheetBay) Home(h shop.Home, _ *shop.Place, _ *shop.Item, s pack.Spot) shop.Home {
	h.X = s.X
	return h
}
func (sheetBay) Spot(h shop.Home) pack.Spot { return pack.Spot{X: h.X, Y: h.Y} }

func (b sheetBay) Block(it *shop.Item, n int, s pack.Spot) (w, up float64) {
	return block(b.Size(it).W.MM(), b.Size(it).H.MM(), it.KeptClear().MM(), n, s.Cols)
}

// Grip: sheets are pulled out at the front.
func (sheetBay) Grip(p *shop.Place, _ *shop.Item, _ int, _ pack.Spot) Grip {
	return Grip{p.W.MM() / 2, p.H.MM() / 2}
}

func (b sheetBay) Grips(p *shop.Place, it *shop.Item, _ Where) []Grip {
	return []Grip{b.Grip(p, it, 1, pack.Spot{})}
}

// sorted sides of a piece, the thickness first.
func sorted(s shop.Size) [3]length.Length {
	out := [3]length.Length{s.W, s.H, s.D}
	slices.Sort(out[:])
	return out
}

// Boxes: on the shorter edge where that fits under the top of the bay.
func (b sheetBay) Boxes(p *shop.Place, it *shop.Item, n int, s pack.Spot) (out []Box) {
	sides := sorted(b.Size(it))
	up, deep := sides[2], sides[1]
	if up > p.H {
		up, deep = deep, up
	}
	for k := range n {
		out = append(out, Box{X: (s.X + length.Length(k)*(sides[0]+pack.SheetGap)).MM(), W: sides[0].MM(), D: deep.MM(), H: up.MM()})
	}
	return out
}

func (sheetBay) Mass(p *shop.Place, it *shop.Item, n int, s pack.Spot) (out, up float64) {
	return bin{}.Mass(p, it, n, s)
}

func (sheetBay) Short(p *shop.Place, size shop.Size) float64 {
	s := sorted(size)
	return min(short([2]length.Length{s[1], p.D}, [2]length.Length{s[2], p.H}), short([2]length.Length{s[2], p.D}, [2]length.Length{s[1], p.H}))
}

func (sheetBay) Growing() []Growth {
	return []Growth{{wide, "free %s in %s"}, {high, "%s more height in %s"}, {deep, "%s more depth in %s"}}
}

func (sheetBay) Materials(p *shop.Place) (sheet, rail float64) { return box(p), 0 }
