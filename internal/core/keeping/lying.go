package keeping

import (
	"hobrak/internal/core/length"
	"hobrak/internal/core/pack"
	"hobrak/internal/core/shop"
)

// lying places hold things beside and behind each other on their bottom: x from the
// left, y from the front.
type lying struct {
	plain
	// always: also what could stand lies.
	always bool
}

func (lying) Form() Form  { return Lying }
func (lying) Turns() bool { return true }
func (lying) View() View  { return FromAbove }
func (lying) Face() Face  { return Shut }

func (l lying) Size(it *shop.Item) shop.Size { return it.Laid(l.always) }

func (lying) Space(p *shop.Place, _ length.Length) pack.Space {
	return &pack.Plane{W: p.W, H: p.D, Lying: true, Dense: p.Dense}
}

// laid is a piece of a size seen from above: its depth is the height of the plane.
func laid(it *shop.Item, s shop.Size, n int) pack.Thing {
	t := thing(it, s, n)
	t.H, t.Turn = s.D, it.Turned(true)
	t.Shape, t.Turned = nil, nil
	if n <= 1 {
		t.Shape, t.Turned = it.Seen(s.W, s.D), it.Seen(s.D, s.W)
	}
	return t
}

func (l lying) Thing(it *shop.Item, n int) pack.Thing { return laid(it, l.Size(it), n) }

func (lying) Home(h shop.Home, _ *shop.Place, _ *shop.Item, s pack.Spot) shop.Home {
	h.X, h.Y = s.X, s.Y
	return h
}
func (lying) Spot(h shop.Home) pack.Spot {
	return pack.Spot{X: h.X, Y: h.Y, Turned: h.Rot == 90}
}

func (l lying) Block(it *shop.Item, n int, s pack.Spot) (w, up float64) {
	return laidBlock(it, l.Size(it), n, s)
}

func laidBlock(it *shop.Item, size shop.Size, n int, s pack.Spot) (w, up float64) {
	w, up = sides(size.W, size.D, s.Turned)
	return block(w, up, it.KeptClear().MM(), n, s.Cols)
}

func (l lying) Grip(_ *shop.Place, it *shop.Item, n int, s pack.Spot) Grip {
	w, _ := l.Block(it, n, s)
	return Grip{s.X.MM() + w/2, l.Size(it).H.MM() / 2}
}

func (l lying) Grips(p *shop.Place, it *shop.Item, at Where) []Grip {
	return levelGrips(p, it, l.Size(it), l.Size(it).H.MM()/2, at)
}

// levelGrips are at one height, one in each column.
func levelGrips(p *shop.Place, it *shop.Item, s shop.Size, z float64, at Where) (out []Grip) {
	widths := []length.Length{s.W}
	if it.Turned(true) {
		widths = append(widths, s.D)
	}
	for _, w := range widths {
		for _, x := range at.Columns(w.MM()/2, p.W.MM()-w.MM()/2) {
			out = append(out, Grip{x, z})
		}
	}
	return out
}

func (lying) At(p *shop.Place, g Grip, w, _ float64) (pack.Spot, bool) {
	return pack.Spot{X: leftOf(p, g, w)}, true
}

func (l lying) Boxes(_ *shop.Place, it *shop.Item, n int, s pack.Spot) []Box {
	return laidBoxes(it, l.Size(it), n, s)
}

func laidBoxes(it *shop.Item, size shop.Size, n int, s pack.Spot) (out []Box) {
	gap := it.KeptClear().MM()
	w, d := sides(size.W, size.D, s.Turned)
	cols := columns(n, s.Cols)
	for k := range n {
		out = append(out, Box{X: s.X.MM() + float64(k%cols)*(w+gap), Y: s.Y.MM() + float64(k/cols)*(d+gap), W: w, D: d, H: size.H.MM(), Behind: s.Y > 0})
	}
	return out
}

func (l lying) Mass(p *shop.Place, it *shop.Item, _ int, _ pack.Spot) (out, up float64) {
	return p.D.MM() / 2, l.Size(it).H.MM() / 2
}

func (lying) Into(p *shop.Place, t pack.Thing, s pack.Spot) pack.Spot {
	return inPlane(p.W, p.D, t, s)
}

func (lying) Over(p *shop.Place, s shop.Size) (length.Length, string) { return s.H - p.H, "high" }

func (lying) Short(p *shop.Place, s shop.Size) float64 {
	flat := min(short([2]length.Length{s.W, p.W}, [2]length.Length{s.D, p.D}), short([2]length.Length{s.W, p.D}, [2]length.Length{s.D, p.W}))
	return max(flat, short([2]length.Length{s.H, p.H}))
}

func (lying) Cells(*shop.Place) (Cells, int) { return Strip, 0 }
