package shop

import "fmt"

// Pictured is something of a shop that photos can be of.
type Pictured struct {
	Path string // in the shop file
	Name string // shown to people
	List *[]string
}

// Pictures are the photos of all that photos can be of: things, containers and places.
func (s *Shop) Pictures(visit func(Pictured)) {
	for i := range s.Items {
		visit(Pictured{fmt.Sprintf("items[%d]", i), s.Items[i].Name, &s.Items[i].Photos})
	}
	for i := range s.Containers {
		c := &s.Containers[i]
		visit(Pictured{fmt.Sprintf("containers[%d]", i), calledOr(c.Name, c.ID), &c.Photos})
	}
	for i := range s.Places {
		p := &s.Places[i]
		visit(Pictured{fmt.Sprintf("places[%d]", i), calledOr(p.Name, p.ID), &p.Photos})
	}
}

// Stored is the container or place with an address, for photos of it; false when there is none.
func (s *Shop) Stored(address string) (out Pictured, ok bool) {
	for i := range s.Containers {
		if c := &s.Containers[i]; c.ID == address {
			return Pictured{fmt.Sprintf("containers[%d]", i), calledOr(c.Name, c.ID), &c.Photos}, true
		}
	}
	for i := range s.Places {
		if p := &s.Places[i]; p.ID == address {
			return Pictured{fmt.Sprintf("places[%d]", i), calledOr(p.Name, p.ID), &p.Photos}, true
		}
	}
	return Pictured{}, false
}

func calledOr(name, id string) string {
	if name == "" {
		return id
	}
	return name
}
