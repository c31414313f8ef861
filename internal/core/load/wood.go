// Package load works out what storage carries: screws into studs, shelves and
// arms that sag, carts that tip. Lengths are mm, weights kg, forces N, modulus
// of elasticity GPa, density kg/m³. It gives figures only where the material is
// known to carry: drywall, plaster, brick and concrete are not rated here, their
// anchors are rated by their maker.
package load

import (
	"fmt"
	"slices"
	"strings"
)

// Wood is a species or a sheet material.
type Wood struct {
	ID      string
	Name    string
	Gravity float64 // specific gravity at 12 % moisture; 0 for sheets
	E       float64 // GPa
	Density float64 // kg/m³
}

// WoodSource is where the figures of species come from.
const WoodSource = "USDA Wood Handbook FPL-GTR-282, tables 5-3 and 12-1: species at 12 % moisture, sheets at the lower end of their range"

// Woods known. Species weigh their specific gravity and the moisture in it.
var Woods = func() []Wood {
	species := func(id, name string, g, e float64) Wood { return Wood{id, name, g, e, g * 1120} }
	sheet := func(id, name string, density, e float64) Wood { return Wood{id, name, 0, e, density} }
	return []Wood{
		species("stud", "common studs", .42, 9.0),
		species("red-oak", "red oak", .63, 12.5), species("white-oak", "white oak", .68, 12.3), species("hard-maple", "hard maple", .63, 12.6), species("soft-maple", "soft maple", .54, 11.3),
		species("cherry", "cherry", .50, 10.3), species("walnut", "walnut", .55, 11.6), species("ash", "ash", .60, 12.0), species("beech", "beech", .64, 11.9), species("yellow-birch", "yellow birch", .62, 13.9),
		species("yellow-poplar", "yellow poplar", .42, 10.9), species("white-pine", "white pine", .35, 8.5), species("douglas-fir", "Douglas fir", .48, 13.4), species("sitka-spruce", "Sitka spruce", .40, 10.8),
		species("larch", "larch", .52, 12.9), species("redcedar", "western redcedar", .32, 7.7), species("loblolly-pine", "loblolly pine", .51, 12.3),
		sheet("plywood", "plywood", 600, 7.0), sheet("birch-plywood", "birch plywood", 680, 8.5), sheet("mdf", "MDF", 750, 3.6), sheet("particle-board", "particle board", 650, 2.8), sheet("osb", "OSB", 620, 4.4),
	}
}()

// WoodByID finds a material; the error lists those that are known.
func WoodByID(id string) (Wood, error) {
	i := slices.IndexFunc(Woods, func(w Wood) bool { return w.ID == id })
	if i < 0 {
		var known []string
		for _, w := range Woods {
			known = append(known, w.ID)
		}
		return Wood{}, fmt.Errorf("%q is not a wood that is known; there are %s", id, strings.Join(known, ", "))
	}
	return Woods[i], nil
}
