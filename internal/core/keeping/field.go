package keeping

import (
	"hobrak/internal/core/length"
	"hobrak/internal/core/pack"
	"hobrak/internal/core/shop"
)

// wallField is a part of a wall on which things hang: on bevelled rails, pegs,
// holders of their own or screws.
type wallField struct{ upright }

func (wallField) Name() shop.PlaceKind { return WallField }
func (wallField) Word() string         { return "wall field" }

func (wallField) Offers(p *shop.Place) []shop.Hold {
	if p.Style == "screw" || p.Style == "board" {
		return []shop.Hold{"hang", "flat"} // a holder can be made for what would lie
	}
	return []shop.Hold{"hang"}
}

func (wallField) Bears() shop.Bearing { return shop.BearsHung }

func (wallField) Faults(p *shop.Place, bad shop.Complain) {
	for k, z := range p.Rows {
		if z > p.H+shop.Tolerance {
			bad(shop.Nth("rows", k), "a rail at %s is above the field, which is %s high", z, p.H)
		}
	}
}

// railed tells whether things hang with their top at one of some rails.
func railed(p *shop.Place) bool { return p.Style == "cleat" && len(p.Rows) > 0 }

func (wallField) Space(p *shop.Place, _ length.Length) pack.Space {
	pl := &pack.Plane{W: p.W, H: p.H, Dense: p.Dense}
	if p.Style == "cleat" {
		pl.Rails = p.Rows
	}
	return pl
}

func (wallField) Try(p *shop.Place, t pack.Thing) pack.Spot {
	if railed(p) {
		return pack.Spot{Y: p.Rows[len(p.Rows)-1] - t.H}
	}
	return pack.Spot{}
}

func (f wallField) Grips(p *shop.Place, it *shop.Item, at Where) (out []Grip) {
	if !railed(p) {
		return f.upright.Grips(p, it, at)
	}
	f.each(it, func(w, up float64) {
		for _, x := range at.Columns(w/2, p.W.MM()-w/2) {
			for _, z := range p.Rows {
				if z.MM() >= up {
					out = append(out, Grip{x, z.MM() - up/2})
				}
			}
		}
	})
	return out
}

func (wallField) Growing() []Growth {
	return []Growth{{high, "%s more height in %s"}, {wide, "%s more width in %s"}, {deep, "%s more depth in %s"}}
}

func (wallField) Cells(p *shop.Place) (Cells, int) {
	if railed(p) {
		return InRows, len(p.Rows)
	}
	return Bands, 0
}

// Row: what hangs at a rail takes a length of it and of those its foot reaches down to.
func (wallField) Row(p *shop.Place, it *shop.Item, up float64, k int) (rows []int, z float64, aside int, ok bool) {
	top := p.Rows[k].MM()
	if top < up-1e-6 {
		return nil, 0, 0, false
	}
	foot := top - up - it.KeptClear().MM() + 1e-6
	for j, o := range p.Rows {
		if j == k || o < p.Rows[k] && o.MM() > foot {
			rows = append(rows, j)
		}
	}
	return rows, top - up/2, 0, true
}

func (wallField) RowOf(p *shop.Place, s pack.Spot, up float64) int {
	best := 0
	for k, z := range p.Rows {
		if far(z, s, up) < far(p.Rows[best], s, up) {
			best = k
		}
	}
	return best
}

func far(z length.Length, s pack.Spot, up float64) float64 {
	return max(z.MM()-s.Y.MM()-up, s.Y.MM()+up-z.MM())
}

func (wallField) Face() Face { return Framed }

func (wallField) Lines(p *shop.Place) (out [][4]float64) {
	for _, z := range p.Rows {
		out = append(out, [4]float64{0, z.MM(), p.W.MM(), z.MM()})
	}
	return out
}

func (wallField) Materials(p *shop.Place) (sheet, rail float64) {
	if len(p.Rows) > 0 {
		return 0, float64(len(p.Rows)) * p.W.Metres()
	}
	return area(p.W, p.H), 0
}

func (wallField) Furnish(p *shop.Place, between func(least, most length.Length) length.Length) {
	for z := between(0, p.H); z <= p.H && len(p.Rows) < 6; z += between(50*length.Millimetre, 400*length.Millimetre) {
		p.Rows = append(p.Rows, z)
	}
}
