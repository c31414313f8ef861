package storage

import (
	"fmt"
	"slices"

	"hobrak/internal/core/shop"
)

// Move puts a place or container elsewhere; what is in it moves along.
func Move(s *shop.Shop, id string, to shop.At) error {
	for i := range s.Places {
		if p := &s.Places[i]; p.ID == id {
			if p.At.In != "" {
				return fmt.Errorf("%s is part of %s; move that", id, p.At.In)
			}
			p.At = to
			return nil
		}
	}
	for i := range s.Containers {
		if c := &s.Containers[i]; c.ID == id {
			c.Area = to.Area
			to.Area = ""
			c.At = to
			return nil
		}
	}
	return fmt.Errorf("there is no place or container %q", id)
}

// Remove takes a place away, or a container with its places. The things stay on
// the list without a home.
// It gives the ids of the things that lost their home.
func Remove(s *shop.Shop, id string) (homeless []string, err error) {
	gone := map[string]bool{}
	if slices.ContainsFunc(s.Places, func(p shop.Place) bool { return p.ID == id }) {
		gone[id] = true
	} else if !slices.ContainsFunc(s.Containers, func(c shop.Container) bool { return c.ID == id }) {
		return nil, fmt.Errorf("there is no place or container %q", id)
	}
	// Containers in containers, and the places in all of them.
	cases := map[string]bool{}
	if !gone[id] {
		cases[id] = true
		for again := true; again; {
			again = false
			for _, c := range s.Containers {
				if cases[c.At.In] && !cases[c.ID] {
					cases[c.ID], again = true, true
				}
			}
		}
		for _, p := range s.Places {
			if cases[p.At.In] {
				gone[p.ID] = true
			}
		}
	}
	for _, h := range s.Homes {
		if gone[h.Place] && !slices.Contains(homeless, h.Item) {
			homeless = append(homeless, h.Item)
		}
	}
	s.Homes = slices.DeleteFunc(s.Homes, func(h shop.Home) bool { return gone[h.Place] })
	s.Places = slices.DeleteFunc(s.Places, func(p shop.Place) bool { return gone[p.ID] })
	s.Containers = slices.DeleteFunc(s.Containers, func(c shop.Container) bool { return cases[c.ID] })
	for i := range s.Modes {
		for c := range cases {
			delete(s.Modes[i].Spots, c)
		}
	}
	return homeless, nil
}
