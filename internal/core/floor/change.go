package floor

import (
	"fmt"
	"slices"

	"hobrak/internal/core/length"
	"hobrak/internal/core/shop"
)

// Move puts a station at a spot, turned, with the place where one stands before it. It gives what is in its way;
// it stands there all the same, since a room may be as it is, unless that is outside of it (a *NoSpot).
func Move(s *shop.Shop, id string, to shop.Point, turn float64) (*Blocked, error) {
	i := index(s, id)
	if i < 0 {
		return nil, &NoSpot{fmt.Sprintf("there is no station %q", id)}
	}
	st := s.Stations[i]
	st.X, st.Y, st.Rot = to[0], to[1], turn
	st.Stand = Stand(&st)
	area := shop.NewIndex(s).Area(st.Area)
	if area == nil {
		return nil, &NoSpot{fmt.Sprintf("there is no area %q", st.Area)}
	}
	g, err := Of(s, area, id)
	if err != nil {
		return nil, err
	}
	blocked := g.At(&st)
	if blocked != nil && blocked.Kind == "outside" {
		return nil, &NoSpot{blocked.Says}
	}
	if blocked == nil {
		blocked = g.Reached(&st, g.clear.AisleSide)
	}
	s.Stations[i] = st
	return blocked, nil
}

func index(s *shop.Shop, id string) int {
	return slices.IndexFunc(s.Stations, func(st shop.Station) bool { return st.ID == id })
}

// Sized changes the size of a station; its back stays where it is, and what was typed is assumed no more. Fields are w, d, h
// and tall; tall 0 is no higher than its table.
func Sized(s *shop.Shop, id string, sizes map[string]length.Length) (*Blocked, error) {
	i := index(s, id)
	if i < 0 {
		return nil, &NoSpot{fmt.Sprintf("there is no station %q", id)}
	}
	st := &s.Stations[i]
	was := *st
	for field, to := range map[string]*length.Length{"w": &st.W, "d": &st.D, "h": &st.H, "tall": &st.Tall} {
		if l, ok := sizes[field]; ok {
			*to = l
			st.Assumed = slices.DeleteFunc(st.Assumed, func(f string) bool { return f == field })
		}
	}
	// The footprint turns about its middle: the middle moves half of what the depth grew, to the front.
	front := Stand(&was).Geometry().Sub(middleOf(&was)).Unit()
	mid := middleOf(&was).Add(front.Mul((st.D - was.D).MM() / 2))
	return Move(s, id, shop.Point{length.MM(mid.X) - st.W/2, length.MM(mid.Y) - st.D/2}, st.Rot)
}

// Used counts the things that are used at a station.
func Used(s *shop.Shop, id string) (n int) {
	for i := range s.Items {
		if slices.Contains(s.Items[i].UsedAt, id) {
			n++
		}
	}
	return n
}

// Remove takes a station away. What was used there is used at another from then on; it must be said which, and
// what stores things in it goes first. The error is a *NoSpot.
func Remove(s *shop.Shop, id, instead string) error {
	i := index(s, id)
	if i < 0 {
		return &NoSpot{fmt.Sprintf("there is no station %q", id)}
	}
	name := s.Stations[i].Name
	for _, p := range s.Places {
		if p.At.Station == id {
			return &NoSpot{fmt.Sprintf("%s is part of %s; move or remove it first", p.ID, name)}
		}
	}
	for _, c := range s.Containers {
		if c.At.Station == id {
			return &NoSpot{fmt.Sprintf("%s is part of %s; move or remove it first", c.ID, name)}
		}
	}
	if n := Used(s, id); n > 0 && (instead == "" || instead == id || index(s, instead) < 0) {
		return &NoSpot{fmt.Sprintf("%d things are used at %s; say at which station they are used then", n, name)}
	}
	for k := range s.Items {
		it := &s.Items[k]
		if !slices.Contains(it.UsedAt, id) {
			continue
		}
		var at []string
		for _, u := range it.UsedAt {
			if u == id {
				u = instead
			}
			if !slices.Contains(at, u) {
				at = append(at, u)
			}
		}
		it.UsedAt = at
	}
	for k := range s.Modes {
		delete(s.Modes[k].Spots, id)
	}
	s.Stations = slices.Delete(slices.Clone(s.Stations), i, i+1)
	return nil
}
