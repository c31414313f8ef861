package keeping

import (
	"hobrak/internal/core/length"
	"hobrak/internal/core/pack"
	"hobrak/internal/core/shop"
)

// hook for one thing by itself.
type hook struct{ upright }

func (hook) Name() shop.PlaceKind           { return Hook }
func (hook) Word() string                   { return "hook" }
func (hook) Offers(*shop.Place) []shop.Hold { return []shop.Hold{"hang"} }
func (hook) Form() Form                     { return Single }
func (hook) Ample() bool                    { return false }

func (hook) Space(p *shop.Place, _ length.Length) pack.Space {
	return &pack.Plane{W: p.W, H: p.H, Single: true}
}

func (h hook) Mass(p *shop.Place, it *shop.Item, _ int, _ pack.Spot) (out, up float64) {
	size := h.Size(it)
	return size.D.MM() / 2, p.H.MM() - size.H.MM()/2
}

func (hook) Into(_ *shop.Place, _ pack.Thing, s pack.Spot) pack.Spot { return s }
