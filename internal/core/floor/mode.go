package floor

import (
	"fmt"
	"math"
	"slices"
	"strings"

	"hobrak/internal/core/kinds"
	"hobrak/internal/core/shop"
)

// Keep makes a mode of how things stand now: each that rolls or folds has its spot in it. Hours are how long it lasts in a
// week, 0 when nothing is said of it. It gives the id of the mode.
func Keep(s *shop.Shop, name string, hours float64) (string, error) {
	name = strings.TrimSpace(name)
	switch {
	case name == "" || len(name) > 60:
		return "", fmt.Errorf("a mode has a name of at most 60 letters, as “boat in”")
	case math.IsNaN(hours) || hours < 0 || hours > 168:
		return "", fmt.Errorf("a mode lasts from 0 to 168 hours a week")
	case slices.ContainsFunc(s.Modes, func(m shop.Mode) bool { return strings.EqualFold(m.Name, name) }):
		return "", fmt.Errorf("there is a mode called %q already", name)
	}
	id := strings.Join(kinds.Words(name), "-")
	if id == "" {
		id = "mode"
	}
	for n := 2; slices.ContainsFunc(s.Modes, func(m shop.Mode) bool { return m.ID == id }); n++ {
		id = fmt.Sprintf("%s-%d", strings.Join(kinds.Words(name), "-"), n)
	}
	m := shop.Mode{ID: id, Name: name, HoursPerWeek: hours, Spots: map[string]shop.Standing{}}
	for i := range s.Stations {
		if st := &s.Stations[i]; st.Mobility.Aside() {
			m.Spots[st.ID] = shop.Standing{Floor: shop.Point{st.X, st.Y}, Rot: st.Rot}
		}
	}
	for i := range s.Containers {
		if c := &s.Containers[i]; c.Kind.Rolls() && c.At.Floor != nil {
			m.Spots[c.ID] = shop.Standing{Floor: *c.At.Floor, Rot: c.At.Rot}
		}
	}
	s.Modes = append(s.Modes, m)
	return id, nil
}

// Forget takes a mode away; places that could be reached in it alone can be reached always.
func Forget(s *shop.Shop, id string) error {
	if _, err := s.Mode(id); err != nil {
		return err
	}
	s.Modes = slices.DeleteFunc(s.Modes, func(m shop.Mode) bool { return m.ID == id })
	for i := range s.Places {
		s.Places[i].When = slices.DeleteFunc(slices.Clone(s.Places[i].When), func(w string) bool { return w == id })
		if len(s.Places[i].When) == 0 {
			s.Places[i].When = nil
		}
	}
	return nil
}
