package floor

import (
	"fmt"
	"maps"
	"math"
	"slices"
	"strings"

	"hobrak/internal/core/geometry"
	"hobrak/internal/core/kinds"
	"hobrak/internal/core/length"
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
	if s.Settings.Mode == id {
		s.Settings.Mode = ""
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

// Copy makes a mode like another, under its own name. It gives the id of the new one.
func Copy(s *shop.Shop, id, name string, hours float64) (string, error) {
	m, err := s.Mode(id)
	if err != nil {
		return "", err
	}
	spots := maps.Clone(m.Spots)
	next, err := Keep(s, name, hours)
	if err != nil {
		return "", err
	}
	made, _ := s.Mode(next)
	made.Spots = spots
	for i := range s.Places { // what can be reached in the one can be in the other
		if p := &s.Places[i]; slices.Contains(p.When, id) {
			p.When = append(slices.Clone(p.When), next)
		}
	}
	return next, nil
}

// Rename says what a mode is called and how long it lasts in a week; nil leaves either as it is.
func Rename(s *shop.Shop, id string, name *string, hours *float64) error {
	m, err := s.Mode(id)
	if err != nil {
		return err
	}
	if name != nil {
		n := strings.TrimSpace(*name)
		if n == "" || len(n) > 60 {
			return fmt.Errorf("a mode has a name of at most 60 letters, as “boat in”")
		}
		if slices.ContainsFunc(s.Modes, func(o shop.Mode) bool { return o.ID != id && strings.EqualFold(o.Name, n) }) {
			return fmt.Errorf("there is a mode called %q already", n)
		}
		m.Name = n
	}
	if hours != nil {
		if math.IsNaN(*hours) || *hours < 0 || *hours > 168 {
			return fmt.Errorf("a mode lasts from 0 to 168 hours a week")
		}
		m.HoursPerWeek = *hours
	}
	return nil
}

// SetSpot says where something is in a mode. It may be a spot on which something else stands: a room may be as it is, and the
// mode's own checks say so. What is fixed has no spot of its own in a mode, and only what folds is folded.
func SetSpot(s *shop.Shop, mode, id string, to shop.Standing) error {
	m, err := s.Mode(mode)
	if err != nil {
		return err
	}
	ix := shop.NewIndex(s)
	st, c := ix.Station(id), ix.Container(id)
	var name string
	var area *shop.Area
	var w, d length.Length
	switch {
	case st != nil:
		name, area, w, d = st.Name, ix.Area(st.Area), st.W, st.D
		lives := st.Kind.Lodger() && st.Mobility == ""
		if !st.Mobility.Aside() && st.Mobility != shop.HungUp && !lives {
			return fmt.Errorf("%s is fixed: say first that it rolls, folds or is hung up", name)
		}
		if to.State == "folded" && st.Mobility != shop.Folds {
			return fmt.Errorf("%s is not said to fold", name)
		}
		if to.State == "outdoors" && st.Mobility != shop.Rolls {
			return fmt.Errorf("%s is not said to roll: only what rolls is put outdoors while it is dry", name)
		}
		if to.State == "hoisted" && st.Mobility != shop.HungUp {
			return fmt.Errorf("%s is not said to be hung up", name)
		}
	case c != nil && c.At.Floor != nil && c.Kind.Rolls():
		name, area, w, d = ix.Name(id), ix.Area(c.At.Area), c.W, c.D
		if to.State == "folded" || to.State == "hoisted" {
			return fmt.Errorf("%s rolls; it is on the floor, outdoors or away", name)
		}
	case c != nil:
		return fmt.Errorf("%s does not roll: it is where it is in every mode", ix.Name(id))
	default:
		return fmt.Errorf("there is nothing called %q on the floor", id)
	}
	if to.State == "" && !within(area.Outline(), geometry.Rectangle(to.Floor[0].MM(), to.Floor[1].MM(), w.MM(), d.MM(), to.Rot)) {
		return fmt.Errorf("%s would stand outside the room", name)
	}
	if m.Spots == nil {
		m.Spots = map[string]shop.Standing{}
	}
	m.Spots[id] = to
	return nil
}

// ClearSpot leaves something in a mode where it stands otherwise.
func ClearSpot(s *shop.Shop, mode, id string) error {
	m, err := s.Mode(mode)
	if err != nil {
		return err
	}
	delete(m.Spots, id)
	return nil
}
