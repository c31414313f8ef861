package keeping

import (
	"hobrak/internal/core/length"
	"hobrak/internal/core/pack"
	"hobrak/internal/core/shop"
)

// upright faces hold things side by side and over each other: x from the left, z up.
type upright struct{ plain }

func (upright) Form() Form  { return Upright }
func (upright) Hangs() bool { return true }

func (u upright) Thing(it *shop.Item, n int) pack.Thing {
	t := thing(it, u.Size(it), n)
	t.Turn = it.Turned(u.Turns())
	return t
}

func (upright) Home(h shop.Home, _ *shop.Place, _ *shop.Item, s pack.Spot) shop.Home {
	h.X, h.Z = s.X, s.Y
	return h
}
func (upright) Spot(h shop.Home) pack.Spot {
	return pack.Spot{X: h.X, Y: h.Z, Turned: h.Rot == 90}
}

func (u upright) Block(it *shop.Item, n int, s pack.Spot) (w, up float64) {
	w, up = sides(u.Size(it).W, u.Size(it).H, s.Turned)
	return block(w, up, it.KeptClear().MM(), n, s.Cols)
}

// sides in mm, turned or not.
func sides(w, up length.Length, turned bool) (float64, float64) {
	if turned {
		w, up = up, w
	}
	return w.MM(), up.MM()
}

func (u upright) Grip(_ *shop.Place, it *shop.Item, n int, s pack.Spot) Grip {
	w, up := u.Block(it, n, s)
	return Grip{s.X.MM() + w/2, s.Y.MM() + up/2}
}

func (u upright) Grips(p *shop.Place, it *shop.Item, at Where) (out []Grip) {
	u.each(it, func(w, up float64) {
		for _, x := range at.Columns(w/2, p.W.MM()-w/2) {
			for _, z := range at.Heights(x, up/2, p.H.MM()-up/2) {
				out = append(out, Grip{x, z})
			}
		}
	})
	return out
}

// each way round an item may hang.
func (u upright) each(it *shop.Item, do func(w, up float64)) {
	s := u.Size(it)
	do(s.W.MM(), s.H.MM())
	if it.Turned(u.Turns()) {
		do(s.H.MM(), s.W.MM())
	}
}

func (upright) At(p *shop.Place, g Grip, w, up float64) (pack.Spot, bool) {
	return pack.Spot{X: leftOf(p, g, w), Y: length.MM(g.Z - up/2)}, true
}

// leftOf is where a block w wide begins that is gripped in its middle.
func leftOf(p *shop.Place, g Grip, w float64) length.Length {
	return length.MM(min(max(0, g.X-w/2), p.W.MM()-w))
}

func (u upright) Boxes(_ *shop.Place, it *shop.Item, n int, s pack.Spot) (out []Box) {
	size, gap := u.Size(it), it.KeptClear().MM()
	w, up := sides(size.W, size.H, s.Turned)
	cols := columns(n, s.Cols)
	for k := range n {
		out = append(out, Box{X: s.X.MM() + float64(k%cols)*(w+gap), Z: s.Y.MM() + float64(k/cols)*(up+gap), W: w, D: size.D.MM(), H: up})
	}
	return out
}

func (u upright) Mass(_ *shop.Place, it *shop.Item, n int, s pack.Spot) (out, up float64) {
	size := u.Size(it)
	return size.D.MM() / 2, s.Y.MM() + size.H.MM()/2
}

func (upright) Into(p *shop.Place, t pack.Thing, s pack.Spot) pack.Spot {
	return inPlane(p.W, p.H, t, s)
}

// inPlane moves the spot of a block, one piece over the other, into a plane.
func inPlane(wide, high length.Length, t pack.Thing, s pack.Spot) pack.Spot {
	w, h := t.W, t.H
	if s.Turned {
		w, h = h, w
	}
	n := length.Length(max(t.N, 1))
	h = n*h + (n-1)*t.Clearance
	s.X, s.Y = max(0, min(s.X, wide-w)), max(0, min(s.Y, high-h))
	return s
}

func (upright) Over(p *shop.Place, s shop.Size) (length.Length, string) { return s.D - p.D, "deep" }
func (upright) Short(p *shop.Place, s shop.Size) float64                { return all3(p, s) }

// all3 is by how much the worst of the three sizes is over the place's.
func all3(p *shop.Place, s shop.Size) float64 {
	return short([2]length.Length{s.W, p.W}, [2]length.Length{s.H, p.H}, [2]length.Length{s.D, p.D})
}
