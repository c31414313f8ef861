package keeping

import "hobrak/internal/core/shop"

// deck is an open board that things lie and stand on, as overhead.
type deck struct{ lying }

func (deck) Name() shop.PlaceKind           { return Deck }
func (deck) Word() string                   { return "deck" }
func (deck) Offers(*shop.Place) []shop.Hold { return []shop.Hold{"stand", "flat"} }
func (deck) Bears() shop.Bearing            { return shop.BearsStanding }
func (deck) Boarded() bool                  { return true }

func (deck) Growing() []Growth { return wallField{}.Growing() }

func (deck) Lines(p *shop.Place) [][4]float64 { return [][4]float64{{0, 0, p.W.MM(), 0}} }

func (deck) Materials(p *shop.Place) (sheet, rail float64) { return area(p.W, p.D), 0 }
