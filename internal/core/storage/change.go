package storage

import (
	"fmt"
	"hobrak/internal/core/keeping"
	"slices"
	"strconv"
	"strings"

	"hobrak/internal/core/length"
	"hobrak/internal/core/load"
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
// the list without a home; a container that stood on what goes is not in the shop until
// somebody says where it is.
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
	for i := range s.Containers { // a tote on a deck that goes is put aside with what is in it
		if c := &s.Containers[i]; gone[c.At.In] {
			c.At = shop.At{Area: c.At.Area, Away: true}
		}
	}
	for i := range s.Modes {
		for c := range cases {
			delete(s.Modes[i].Spots, c)
		}
	}
	s.Tidy()
	return homeless, nil
}

// FieldError says which field of a place or container cannot be so, and why.
type FieldError struct{ Field, Reason string }

func (e *FieldError) Error() string { return e.Reason }

// Set puts what was typed into a field of a place or container: name, w, h, d,
// capacity (its rating; nothing takes it away) and access, of a place labelled, of a container also
// kg, dust_tight, lockable and portable; screws, screw (their diameter), thread,
// side and lever of the fixing; wood, thick and strip of a shelf or deck; arms of a
// rack. What lives there stays, even where it no
// longer fits: Lay says so.
func Set(s *shop.Shop, id, field, text string) (err error) {
	text = strings.TrimSpace(text)
	bad := func(format string, args ...any) error { return &FieldError{field, fmt.Sprintf(format, args...)} }
	fields, what, done := fieldsOf(s, id)
	if fields == nil {
		return bad("there is no place or container %q", id)
	}
	defer func() {
		if err == nil {
			done()
		}
	}()
	switch to := fields[field].(type) {
	case *string:
		if words := woods(); field == "wood" && text != "" && !slices.Contains(words, text) {
			return bad("%q should be one of %s", text, strings.Join(words, ", "))
		}
		*to = text
	case *shop.Access:
		if words := to.Words(); text != "" && !slices.Contains(words, text) {
			return bad("%q should be one of %s", text, strings.Join(words, ", "))
		}
		*to = shop.Access(text)
	case *length.Length:
		_, mm := limits(what, field)
		most := length.MM(mm)
		if text == "" && field != "w" && field != "h" && field != "d" {
			*to = 0
			return nil
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
		_, most := limits(what, field)
		w, err := weight.Parse(text, s.Settings.Units)
		switch {
		case err != nil:
			return bad("%v", err)
		case w < 0 || w.KG() > most:
			return bad("a load is at most %s", weight.KG(most))
		}
		*to = w
	case *int:
		least, most := limits(what, field)
		if text == "" {
			*to = 0
			return nil
		}
		n, err := strconv.Atoi(text)
		if err != nil || float64(n) < least || float64(n) > most {
			return bad("%q should be a whole number from %.0f to %.0f", text, least, most)
		}
		*to = n
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

// limits of a number, as the shop file has them.
func limits(what, field string) (least, most float64) {
	switch field {
	case "thick":
		least, most, _ = shop.Limits[shop.Board]("t")
	case "strip":
		least, most, _ = shop.Limits[shop.Board](field)
	case "screw":
		least, most, _ = shop.Limits[shop.Fixing]("d")
	case "screws", "thread", "side", "lever":
		least, most, _ = shop.Limits[shop.Fixing](field)
	default:
		if what == "container" {
			least, most, _ = shop.Limits[shop.Container](field)
		} else {
			least, most, _ = shop.Limits[shop.Place](field)
		}
	}
	return least, most
}

// fieldsOf are the fields of a place or container that can be typed, and what is
// to be done once one was; nil when there is none of that id.
func fieldsOf(s *shop.Shop, id string) (fields map[string]any, what string, done func()) {
	for i := range s.Places {
		p := &s.Places[i]
		if p.ID != id {
			continue
		}
		f := map[string]any{"name": &p.Name, "w": &p.W, "h": &p.H, "d": &p.D, "capacity": &p.Capacity, "access": &p.Access, "labelled": &p.Labelled}
		screwed := fixing(f, &p.Fixing)
		b := shop.Board{Wood: "plywood", T: 18 * mm}
		if p.Board != nil {
			b = *p.Board
		}
		old := b
		switch k := keeping.Of(p); {
		case k.Boarded():
			f["wood"], f["thick"], f["strip"] = &b.Wood, &b.T, &b.Strip
		case k.Form() == keeping.Piles:
			f["arms"] = &p.Arms
		case k.Form() == keeping.Upright || k.Form() == keeping.Lying:
			f["dense"] = &p.Dense
		}
		return f, "place", func() {
			screwed()
			if b != old {
				p.Board = &b
			}
			if b.Wood == "" || b.T == 0 {
				p.Board = nil
			}
		}
	}
	for i := range s.Containers {
		c := &s.Containers[i]
		if c.ID == id {
			f := map[string]any{"name": &c.Name, "w": &c.W, "h": &c.H, "d": &c.D, "kg": &c.KG, "capacity": &c.Capacity, "access": &c.Access, "dust_tight": &c.DustTight, "lockable": &c.Lockable, "portable": &c.Portable}
			return f, "container", fixing(f, &c.Fixing)
		}
	}
	return nil, "", nil
}

// fixing adds the fields of a fixing, and gives what puts them into the shop.
func fixing(fields map[string]any, to **shop.Fixing) func() {
	x := shop.Fixing{}
	if *to != nil {
		x = **to
	}
	fields["screws"], fields["screw"], fields["thread"], fields["side"], fields["lever"] = &x.Screws, &x.D, &x.Thread, &x.Side, &x.Lever
	return func() {
		*to = &x
		if x == (shop.Fixing{}) {
			*to = nil
		}
	}
}

// woods a shelf can be made of.
func woods() (out []string) {
	for _, w := range load.Woods {
		out = append(out, w.ID)
	}
	return out
}
