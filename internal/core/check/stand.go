package check

import (
	"hobrak/internal/core/access"
	"hobrak/internal/core/geometry"
	"hobrak/internal/core/load"
	"hobrak/internal/core/shop"
)

// tipping warns of what stands on wheels or narrow feet and would fall over at a
// push: its own weight at its middle, what it holds at the places it lives in.
func (c *checker) tipping() {
	for i := range c.s.Containers {
		k := &c.s.Containers[i]
		if k.At.Floor == nil || k.Kind != "cart" && k.Kind != "trolley" && k.Kind != "shelving" {
			continue
		}
		own := k.KG.KG()
		if own == 0 {
			own = board * (2*k.H.MM()*k.D.MM() + 3*k.W.MM()*k.D.MM()) // not said: a case of 18 mm plywood
		}
		kg, moment := own, own*k.H.MM()/2
		for j := range c.s.Homes {
			h := &c.s.Homes[j]
			p, it := c.ix.Place(h.Place), c.ix.Item(h.Item)
			if p == nil || it == nil || p.At.In != k.ID {
				continue
			}
			m := it.KG.KG() * float64(h.Number(it))
			kg += m
			moment += m * (p.At.Z + h.Z + it.SizeIn(p.Kind).H/2).MM()
		}
		a, err := load.Cart{Track: min(k.W, k.D).MM() - wheels, Height: moment / kg, Fall: fallOf(c.ix.Area(k.Area))}.Angle()
		switch {
		case err != nil:
		case a < load.TipBarred:
			c.add(false, "tips", k.ID, a, "degrees", "%s tips over at %.0f degrees: fix it to the wall, or move the heavy things down", k.ID, a)
		case a < load.TipCaution:
			c.add(false, "tips", k.ID, a, "degrees", "%s tips over at %.0f degrees: keep the heavy things low", k.ID, a)
		}
	}
}

const (
	board  = 600 * 1e-9 * 18 // kg a mm² of plywood of 18 mm
	wheels = 60.0            // by which the wheels stand inside the case, mm
)

func fallOf(a *shop.Area) float64 {
	if a == nil || a.Floor == nil || a.Floor.Fall == nil {
		return 0
	}
	return a.Floor.Fall.MMPerM
}

// hung warns of what hangs down into something that stands before the wall, and
// of what nothing is known to carry.
func (c *checker) hung() {
	for i := range c.s.Places {
		p := &c.s.Places[i]
		if p.At.Wall == "" {
			continue
		}
		a := c.ix.Area(p.At.Area)
		k := a.WallIndex(p.At.Wall)
		f := a.Frame(k)
		x, w := p.At.X.MM(), p.W.MM()
		foot := geometry.Polygon{f.Spot(x, 1), f.Spot(x, p.D.MM()), f.Spot(x+w, p.D.MM()), f.Spot(x+w, 1)}
		for _, t := range access.StandingIn(c.s, c.ix, a) {
			if by := t.Height - p.At.Z.MM(); by > eps && t.ID != p.ID && foot.Overlaps(t.Footprint, 1) {
				c.add(false, "into", p.ID, by, "mm", "%s hangs %.0f mm down into %s, which stands before the wall there", p.ID, by, t.ID)
			}
		}
		if p.Capacity > 0 {
			continue
		}
		switch s := a.Walls[k].Surface; s {
		case "timber":
		case "brick", "block", "concrete", "sheet-metal":
			c.add(false, "not-rated", p.ID, 0, "", "%s hangs on %s: what its anchors are rated for is not said", p.ID, s)
		default:
			hit := 0
			for _, at := range a.Walls[k].Studs.Centres(f.Length) {
				if at.MM() >= x && at.MM() <= x+w {
					hit++
				}
			}
			if hit < 2 {
				c.add(false, "not-rated", p.ID, 0, "", "%s hangs with %d studs behind it: it needs two, or anchors with a rating of their own", p.ID, hit)
			}
		}
	}
}
