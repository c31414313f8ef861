package access

import (
	"hobrak/internal/core/geometry"
	"hobrak/internal/core/keeping"
	"hobrak/internal/core/shop"
	"hobrak/internal/core/walk"
)

// StandAt is where one stands to take something out of a place at a grip, in mm, and in which area; false when the place is away or
// nobody gets to it.
func (m *Map) StandAt(place int, g keeping.Grip) (*shop.Area, geometry.Point, bool) {
	f := &m.fronts[place]
	if f.host == nil {
		return f.Area, geometry.Point{}, false
	}
	c := m.columnAt(f, g.X)
	if c == nil || c.goal == nil || !c.goal.OK {
		return f.Area, geometry.Point{}, false
	}
	return f.Area, c.goal.Stand, true
}

// Between are the ways on foot from a spot of an area to others, of which each may be asked for.
func (m *Map) Between(a *shop.Area, from geometry.Point) *walk.Ways {
	return m.floors[a.ID].walk.From(from)
}
