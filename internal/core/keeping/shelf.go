package keeping

import (
	"hobrak/internal/core/length"
	"hobrak/internal/core/pack"
	"hobrak/internal/core/shop"
)

// shelf with a row in front and, where it is deep enough, one behind it.
type shelf struct{ plain }

func (shelf) Name() shop.PlaceKind           { return Shelf }
func (shelf) Word() string                   { return "shelf" }
func (shelf) Offers(*shop.Place) []shop.Hold { return []shop.Hold{"stand", "flat", "bin"} }
func (shelf) Form() Form                     { return Rows }
func (shelf) Boarded() bool                  { return true }
func (shelf) Bears() shop.Bearing            { return shop.BearsStanding }
func (shelf) Size(it *shop.Item) shop.Size   { return it.Laid(false) }

func (shelf) Space(p *shop.Place, _ length.Length) pack.Space { return &pack.Shelf{W: p.W, D: p.D} }
func (k shelf) Thing(it *shop.Item, n int) pack.Thing         { return run(it, k.Size(it), n) }

// run is what goes beside others; it is turned only when it is said to.
func run(it *shop.Item, s shop.Size, n int) pack.Thing {
	t := thing(it, s, n)
	t.Turn = it.Turned(false)
	return t
}

func (shelf) Home(h shop.Home, _ *shop.Place, _ *shop.Item, s pack.Spot) shop.Home {
	h.X, h.Row = s.X, s.Row
	return h
}
func (shelf) Spot(h shop.Home) pack.Spot { return pack.Spot{X: h.X, Row: h.Row} }

func (k shelf) Block(it *shop.Item, n int, s pack.Spot) (w, up float64) {
	return across(it, k.Size(it), n), k.Size(it).H.MM()
}

func (k shelf) Grip(_ *shop.Place, it *shop.Item, n int, s pack.Spot) Grip {
	w, up := k.Block(it, n, s)
	return Grip{s.X.MM() + w/2, up / 2}
}

func (k shelf) Grips(p *shop.Place, it *shop.Item, at Where) []Grip {
	return runGrips(p, k.Size(it), k.Size(it).H.MM()/2, at)
}

// runGrips are those of one piece anywhere along a run.
func runGrips(p *shop.Place, s shop.Size, z float64, at Where) (out []Grip) {
	for _, x := range at.Columns(s.W.MM()/2, p.W.MM()-s.W.MM()/2) {
		out = append(out, Grip{x, z})
	}
	return out
}

func (shelf) At(p *shop.Place, g Grip, w, _ float64) (pack.Spot, bool) {
	return pack.Spot{X: leftOf(p, g, w)}, true
}

func (k shelf) Boxes(_ *shop.Place, it *shop.Item, n int, s pack.Spot) []Box {
	return runBoxes(it, k.Size(it), n, Box{X: s.X.MM(), Behind: s.Row > 0})
}

// runBoxes are the pieces of a home side by side from a box on.
func runBoxes(it *shop.Item, s shop.Size, n int, b Box) (out []Box) {
	b.W, b.D, b.H = s.W.MM(), s.D.MM(), s.H.MM()
	for range n {
		out = append(out, b)
		b.X += b.W + it.KeptClear().MM()
	}
	return out
}

func (k shelf) Mass(p *shop.Place, it *shop.Item, n int, s pack.Spot) (out, up float64) {
	return p.D.MM() / 2, s.Z.MM() + k.Size(it).H.MM()/2
}

func (shelf) Into(p *shop.Place, t pack.Thing, s pack.Spot) pack.Spot {
	n := length.Length(max(t.N, 1))
	w := t.W
	if s.Turned {
		w = t.H
	}
	s.X = max(0, min(s.X, p.W-n*w-(n-1)*t.Clearance))
	return s
}

func (shelf) Over(p *shop.Place, s shop.Size) (length.Length, string) { return s.H - p.H, "high" }
func (shelf) Short(p *shop.Place, s shop.Size) float64                { return all3(p, s) }

func (shelf) Growing() []Growth {
	return []Growth{{high, "%s more height in %s"}, {wide, "free %s in %s"}, {deep, "%s more depth in %s"}}
}

func (shelf) Cells(*shop.Place) (Cells, int) { return InRows, 2 }

func (k shelf) Row(_ *shop.Place, it *shop.Item, _ float64, row int) (rows []int, z float64, aside int, ok bool) {
	return []int{row}, k.Size(it).H.MM() / 2, row, true
}

func (shelf) RowOf(_ *shop.Place, s pack.Spot, _ float64) int { return s.Row }

func (shelf) Face() Face                                    { return Ledge }
func (shelf) Lines(p *shop.Place) [][4]float64              { return deck{}.Lines(p) }
func (shelf) Materials(p *shop.Place) (sheet, rail float64) { return area(p.W, p.D), 0 }
