package keeping

import "hobrak/internal/core/shop"

// floor that things stand on.
type floor struct{ lying }

func (floor) Name() shop.PlaceKind           { return Floor }
func (floor) Word() string                   { return "floor" }
func (floor) Offers(*shop.Place) []shop.Hold { return []shop.Hold{"stand", "lean"} }
func (floor) Bears() shop.Bearing            { return shop.BearsStanding }
func (floor) Ample() bool                    { return false }
