package keeping

import (
	"slices"

	"hobrak/internal/core/length"
	"hobrak/internal/core/pack"
	"hobrak/internal/core/shop"
)

// bin that things are thrown or stood into.
type bin struct{ plain }

func (bin) Name() shop.PlaceKind           { return Bin }
func (bin) Word() string                   { return "bin" }
func (bin) Offers(*shop.Place) []shop.Hold { return []shop.Hold{"bin", "lean"} }
func (bin) Form() Form                     { return Heap }

func (bin) Space(p *shop.Place, head length.Length) pack.Space {
	return &pack.Bin{W: p.W, H: p.H, D: p.D, Fill: p.FillFactor(), Head: head}
}

func (b bin) Thing(it *shop.Item, n int) pack.Thing {
	t := run(it, b.Size(it), n)
	t.Lean = !slices.Contains(it.Holding(), "bin")
	return t
}

func (bin) Home(h shop.Home, _ *shop.Place, _ *shop.Item, _ pack.Spot) shop.Home { return h }
func (bin) Spot(h shop.Home) pack.Spot                                           { return pack.Spot{X: h.X, Y: h.Y} }

func (b bin) Block(it *shop.Item, n int, s pack.Spot) (w, up float64) {
	return block(b.Size(it).W.MM(), b.Size(it).H.MM(), it.KeptClear().MM(), n, s.Cols)
}

// Grip: somewhere in the middle.
func (bin) Grip(p *shop.Place, _ *shop.Item, _ int, _ pack.Spot) Grip {
	return Grip{p.W.MM() / 2, p.H.MM() / 2}
}

func (b bin) Grips(p *shop.Place, it *shop.Item, _ Where) []Grip {
	return []Grip{b.Grip(p, it, 1, pack.Spot{})}
}

// Boxes: nobody knows how they lie; they are drawn spread over its width.
func (b bin) Boxes(p *shop.Place, it *shop.Item, n int, s pack.Spot) (out []Box) {
	size := b.Size(it)
	w, up := min(size.W.MM(), p.W.MM()*.8), min(size.H.MM(), p.H.MM()*.9)
	for k := range n {
		out = append(out, Box{X: (p.W.MM() - w) * (float64(k) + .5) / float64(n), W: w, D: min(size.D.MM(), p.D.MM()), H: up, Behind: true})
	}
	return out
}

func (bin) Mass(p *shop.Place, _ *shop.Item, _ int, _ pack.Spot) (out, up float64) {
	return p.D.MM() / 2, p.H.MM() / 2
}

func (bin) Face() Face                                    { return Framed }
func (bin) Materials(p *shop.Place) (sheet, rail float64) { return box(p), 0 }
