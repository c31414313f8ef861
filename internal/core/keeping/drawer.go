package keeping

import (
	"hobrak/internal/core/pack"
	"hobrak/internal/core/shop"
)

// drawer that is pulled out and looked into from above.
type drawer struct{ lying }

func (drawer) Name() shop.PlaceKind           { return Drawer }
func (drawer) Word() string                   { return "drawer" }
func (drawer) Offers(*shop.Place) []shop.Hold { return []shop.Hold{"flat", "slot"} }
func (drawer) Face() Face                     { return Front }

// Grip: the hand goes to the drawer, whatever is in it.
func (d drawer) Grip(p *shop.Place, it *shop.Item, n int, s pack.Spot) Grip {
	w, _ := d.Block(it, n, s)
	return Grip{s.X.MM() + w/2, p.H.MM() / 2}
}

func (d drawer) Grips(p *shop.Place, it *shop.Item, at Where) []Grip {
	return levelGrips(p, it, d.Size(it), p.H.MM()/2, at)
}

func (drawer) Growing() []Growth { return wallField{}.Growing() }

func (drawer) Materials(p *shop.Place) (sheet, rail float64) { return box(p), 0 }
