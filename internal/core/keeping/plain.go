package keeping

import (
	"hobrak/internal/core/length"
	"hobrak/internal/core/pack"
	"hobrak/internal/core/shop"
)

// plain is what most kinds have in common; each says what is different with it.
type plain struct{}

func (plain) Turns() bool                                           { return false }
func (plain) Size(it *shop.Item) shop.Size                          { return shop.Size{W: it.W, H: it.H, D: it.D} }
func (plain) Bears() shop.Bearing                                   { return shop.BearsNothing }
func (plain) Faults(*shop.Place, shop.Complain)                     {}
func (plain) Misplaced(*shop.Place, *shop.Home, int, shop.Complain) {}

func (plain) Hangs() bool   { return false }
func (plain) Boarded() bool { return false }
func (plain) Ample() bool   { return true }

func (plain) Try(*shop.Place, pack.Thing) pack.Spot                    { return pack.Spot{} }
func (plain) Into(_ *shop.Place, _ pack.Thing, s pack.Spot) pack.Spot  { return s }
func (plain) At(*shop.Place, Grip, float64, float64) (pack.Spot, bool) { return pack.Spot{}, false }

func (plain) Over(*shop.Place, shop.Size) (length.Length, string) { return 0, "" }
func (plain) Short(*shop.Place, shop.Size) float64                { return 0 }
func (plain) Growing() []Growth                                   { return nil }

func (plain) Cells(*shop.Place) (Cells, int) { return Uncut, 0 }
func (plain) Row(*shop.Place, *shop.Item, float64, int) ([]int, float64, int, bool) {
	return nil, 0, 0, false
}
func (plain) RowOf(*shop.Place, pack.Spot, float64) int { return 0 }

func (plain) View() View                                                         { return FromFront }
func (plain) Face() Face                                                         { return Bare }
func (plain) Lines(*shop.Place) [][4]float64                                     { return nil }
func (plain) Materials(*shop.Place) (sheet, rail float64)                        { return 0, 0 }
func (plain) Furnish(*shop.Place, func(least, most length.Length) length.Length) {}

// thing of a size as it is.
func thing(it *shop.Item, s shop.Size, n int) pack.Thing {
	t := pack.Thing{W: s.W, H: s.H, D: s.D, N: n, Clearance: it.KeptClear()}
	if n <= 1 {
		t.Shape, t.Turned = it.Seen(s.W, s.H), it.Seen(s.H, s.W)
	}
	return t
}

// block of n pieces w by up, in rows of the columns of a home.
func block(w, up, gap float64, n, cols int) (float64, float64) {
	cols = columns(n, cols)
	rows := (n + cols - 1) / cols
	return float64(cols)*w + float64(cols-1)*gap, float64(rows)*up + float64(rows-1)*gap
}

// columns of n pieces: what is said, all of them when nothing is.
func columns(n, said int) int {
	if said > 0 {
		return min(said, n)
	}
	return n
}

// across is the width of n pieces side by side.
func across(it *shop.Item, s shop.Size, n int) float64 {
	return float64(n)*s.W.MM() + float64(n-1)*it.KeptClear().MM()
}

// short is by how much the largest of some lengths is over what there is for it.
func short(pairs ...[2]length.Length) float64 {
	most := 0.0
	for _, p := range pairs {
		most = max(most, (p[0] - p[1]).MM())
	}
	return most
}

// box of a place that is open in front: its floor, two sides, front and back, in m².
func box(p *shop.Place) float64 {
	return area(p.W, p.D) + 2*area(p.D, p.H) + 2*area(p.W, p.H)
}

func area(a, b length.Length) float64 { return a.Metres() * b.Metres() }
