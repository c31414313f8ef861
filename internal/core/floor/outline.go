package floor

import (
	"fmt"

	"hobrak/internal/core/shop"
)

// Outline gives an area the walls, ceiling and floor of another, as it was measured. Stations that would be outside
// or in something are put where they stand best; it gives those that were moved. The error is a *NoSpot when something hangs on a
// wall that is gone or a station finds no spot, and the shop must then be thrown away.
func Outline(s *shop.Shop, id string, measured *shop.Area) (moved []string, err error) {
	a := shop.NewIndex(s).Area(id)
	if a == nil {
		return nil, &NoSpot{fmt.Sprintf("there is no area %q", id)}
	}
	for i := range s.Places {
		if p := &s.Places[i]; p.At.Wall != "" && shop.NewIndex(s).Area(p.At.Area) == a && measured.WallIndex(p.At.Wall) < 0 {
			return nil, &NoSpot{fmt.Sprintf("%s hangs on wall %s, which the room would have no more; move it first", p.ID, p.At.Wall)}
		}
	}
	next := *measured
	next.ID, next.Name, next.Kind, next.WalkSeconds, next.Climate, next.Household = a.ID, a.Name, a.Kind, a.WalkSeconds, a.Climate, a.Household
	next.Pale, next.Insulated, next.Exhaust = a.Pale, a.Insulated, a.Exhaust
	for i := range a.Walls { // what is beyond a wall is there still
		if k := next.WallIndex(a.Walls[i].ID); k >= 0 {
			next.Walls[k].Beyond, next.Walls[k].Damp = a.Walls[i].Beyond, a.Walls[i].Damp
		}
	}
	*a = next
	for i := range s.Stations {
		st := s.Stations[i]
		if shop.NewIndex(s).Area(st.Area) != a {
			continue
		}
		g, err := Of(s, a, st.ID)
		if err != nil {
			return nil, err
		}
		if g.At(&st) == nil {
			continue
		}
		at, _, err := Put(s, st, Wish{Anyhow: true})
		if err != nil {
			return nil, err
		}
		s.Stations[i] = at
		moved = append(moved, at.ID)
	}
	return moved, nil
}
