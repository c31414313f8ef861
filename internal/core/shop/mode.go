package shop

import (
	"fmt"
	"slices"
	"strings"

	"hobrak/internal/core/length"
)

// folded is how much floor something folded takes from front to back, an estimate.
const folded = 100 * length.Millimetre

// Mode by its id.
func (s *Shop) Mode(id string) (*Mode, error) {
	var known []string
	for i := range s.Modes {
		if s.Modes[i].ID == id {
			return &s.Modes[i], nil
		}
		known = append(known, s.Modes[i].ID)
	}
	if known == nil {
		return nil, fmt.Errorf("there is no mode %q; the shop has none", id)
	}
	return nil, fmt.Errorf("there is no mode %q; there are %s", id, strings.Join(known, ", "))
}

// InMode gives a copy of the shop as it is arranged in a mode: movable things at their
// spots, what is folded, hoisted or away out of the way, and places that cannot be
// reached then not in the shop. Homes stay as they are.
func (s *Shop) InMode(id string) (*Shop, error) {
	if _, err := s.Mode(id); err != nil {
		return nil, err
	}
	out := s.Clone()
	m, _ := out.Mode(id)
	for name, spot := range m.Spots {
		for i := range out.Stations {
			if st := &out.Stations[i]; st.ID == name {
				st.goTo(spot)
			}
		}
		for i := range out.Containers {
			c := &out.Containers[i]
			switch {
			case c.ID != name:
			case spot.State == "":
				at := spot.Floor
				c.At = At{Area: c.At.Area, Floor: &at, Rot: spot.Rot}
			case spot.State == "folded":
				c.D = min(c.D, folded)
			default:
				c.At = At{Away: true}
			}
		}
	}
	s.putAway(out.Places, id)
	return out, nil
}

// putAway the places that are not there in a mode.
func (s *Shop) putAway(places []Place, mode string) {
	for i := range places {
		if p := &places[i]; len(p.When) > 0 && s.onlyModes(p.When) && !slices.Contains(p.When, mode) {
			p.At = At{Away: true}
		}
	}
}

// ModeAs is InMode for a shop of which an earlier state is known in that mode, and since when no station and no container that stands on the floor
// changed. Its lists are those of the two.
func (s *Shop) ModeAs(known *Shop, id string) *Shop {
	out := *s
	m, _ := s.Mode(id)
	out.Stations, out.Containers = known.Stations, slices.Clone(s.Containers)
	for i := range out.Containers {
		c := &out.Containers[i]
		if _, moves := m.Spots[c.ID]; moves {
			*c = known.Containers[slices.IndexFunc(known.Containers, func(k Container) bool { return k.ID == c.ID })]
		}
	}
	out.Places = slices.Clone(s.Places)
	s.putAway(out.Places, id)
	return &out
}

// onlyModes tells whether all of a place's conditions are modes: those that are states
// of doors have nothing to do with where things stand.
func (s *Shop) onlyModes(when []string) bool {
	return !slices.ContainsFunc(when, func(w string) bool {
		return !slices.ContainsFunc(s.Modes, func(m Mode) bool { return m.ID == w })
	})
}

// goTo puts a station where a mode has it; one stands before it as before.
func (st *Station) goTo(spot Standing) {
	switch spot.State {
	case "":
		st.Stand[0] += spot.Floor[0] - st.X
		st.Stand[1] += spot.Floor[1] - st.Y
		st.X, st.Y, st.Rot = spot.Floor[0], spot.Floor[1], spot.Rot
	case "folded":
		st.D = min(st.D, folded)
	default:
		// Out of the way, and what is used there is used at the same spot.
		st.W, st.D = min(st.W, length.Millimetre), min(st.D, length.Millimetre)
	}
}
