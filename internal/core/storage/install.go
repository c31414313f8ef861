package storage

import (
	"fmt"
	"slices"

	"hobrak/internal/core/shop"
)

// Install puts a design into a shop at a position: a place hangs there itself, a
// container stands or hangs there with its places in it. What the design holds
// moves there; its other homes are given up. The shop is checked by its owner.
func Install(s *shop.Shop, d *Design, at shop.At) error {
	if len(d.Places) == 0 {
		return fmt.Errorf("the %s holds nothing", d.Title)
	}
	taken := func(id string) bool {
		return slices.ContainsFunc(s.Places, func(p shop.Place) bool { return p.ID == id }) || slices.ContainsFunc(s.Containers, func(c shop.Container) bool { return c.ID == id })
	}
	if d.Container != nil {
		if taken(d.Container.ID) {
			return fmt.Errorf("%s is there already", d.Container.ID)
		}
		c := *d.Container
		c.At, c.Area = at, at.Area
		c.At.Area = ""
		s.Containers = append(s.Containers, c)
	}
	for _, p := range d.Places {
		if taken(p.ID) {
			return fmt.Errorf("%s is there already", p.ID)
		}
		if d.Container == nil {
			p.At, p.Name = at, d.Title
		}
		s.Places = append(s.Places, p)
	}
	moved := map[string]bool{}
	for _, h := range d.Homes {
		moved[h.Item] = true
	}
	s.Homes = slices.DeleteFunc(s.Homes, func(h shop.Home) bool { return moved[h.Item] })
	s.Homes = append(s.Homes, d.Homes...)
	return nil
}

// Address is the next free id for a place or container: the letter of its wall
// and the next number, counted on so that none changes when others are added.
// Without a wall it is K for what stands on the floor, T for what hangs under
// the ceiling. In another area than the main one its first letter comes before.
func Address(s *shop.Shop, at shop.At) string {
	letter := "K"
	switch {
	case at.Wall != "":
		letter = at.Wall
	case at.Ceiling != nil:
		letter = "T"
	}
	if at.Area != "" && len(s.Areas) > 0 && at.Area != s.Areas[0].ID {
		letter = string([]rune(at.Area)[:1]) + letter
	}
	highest := 0
	note := func(id string) {
		var n int
		if _, err := fmt.Sscanf(id, letter+"%d", &n); err == nil && n > highest {
			highest = n
		}
	}
	for _, p := range s.Places {
		note(p.ID)
	}
	for _, c := range s.Containers {
		note(c.ID)
	}
	return fmt.Sprintf("%s%d", letter, highest+1)
}
