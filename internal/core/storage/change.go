package storage

import (
	"fmt"
	"slices"
	"strings"

	"hobrak/internal/core/length"
	"hobrak/internal/core/shop"
	"hobrak/internal/core/weight"
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

// FieldError says which field of a place or container cannot be so, and why.
type FieldError struct{ Field, Reason string }

func (e *FieldError) Error() string { return e.Reason }

// accesses are the words of the field access.
var accesses = []string{"open", "door", "drawer", "lid", "roll-out", "hoist"}

// Set puts what was typed into a field of a place or container: name, w, h, d,
// capacity (its rating; nothing takes it away) and access, of a container also
// kg, dust_tight, lockable and portable. What lives there stays, even where it no
// longer fits: Lay says so.
func Set(s *shop.Shop, id, field, text string) error {
	text = strings.TrimSpace(text)
	bad := func(format string, args ...any) error { return &FieldError{field, fmt.Sprintf(format, args...)} }
	fields, what := fieldsOf(s, id)
	if fields == nil {
		return bad("there is no place or container %q", id)
	}
	switch to := fields[field].(type) {
	case *string:
		if field == "access" && text != "" && !slices.Contains(accesses, text) {
			return bad("%q should be one of %s", text, strings.Join(accesses, ", "))
		}
		*to = text
	case *length.Length:
		most := 20 * length.Metre
		if field == "h" {
			most = 6 * length.Metre
		}
		l, err := length.Parse(text, s.Settings.Units)
		switch {
		case err != nil:
			return bad("%v", err)
		case l <= 0 || l > most:
			return bad("%s should be more than 0 and at most %s", l, most)
		}
		*to = l
	case *weight.Weight:
		if text == "" {
			*to = 0
			return nil
		}
		most := 5000.0
		if field == "kg" {
			most = 2000
		}
		w, err := weight.Parse(text, s.Settings.Units)
		switch {
		case err != nil:
			return bad("%v", err)
		case w < 0 || w.KG() > most:
			return bad("a load is from 0 to %g kg", most)
		}
		*to = w
	case *bool:
		if text != "yes" && text != "no" {
			return bad("%q should be yes or no", text)
		}
		*to = text == "yes"
	default:
		return bad("a %s has no field %q here", what, field)
	}
	return nil
}

// fieldsOf are the fields of a place or container that can be typed; nil when
// there is none of that id.
func fieldsOf(s *shop.Shop, id string) (fields map[string]any, what string) {
	for i := range s.Places {
		if p := &s.Places[i]; p.ID == id {
			return map[string]any{"name": &p.Name, "w": &p.W, "h": &p.H, "d": &p.D, "capacity": &p.Capacity, "access": &p.Access}, "place"
		}
	}
	for i := range s.Containers {
		if c := &s.Containers[i]; c.ID == id {
			return map[string]any{"name": &c.Name, "w": &c.W, "h": &c.H, "d": &c.D, "kg": &c.KG, "capacity": &c.Capacity, "access": &c.Access, "dust_tight": &c.DustTight, "lockable": &c.Lockable, "portable": &c.Portable}, "container"
		}
	}
	return nil, ""
}
