package shop

import (
	"maps"
	"reflect"
	"slices"
)

// Changes are the parts in which a shop differs from an earlier one, by id.
type Changes struct {
	Settings, Areas, Circuits, Stations, Containers, Modes, Kits, Targets bool
	Places, Items, Homes                                                  map[string]bool // homes by their item
	// Boxes are the containers that changed where all that did are none that stands on the floor; Containers is false then. The places in them are
	// among the places.
	Boxes map[string]bool
}

// Note that a part of a list was changed. Lists are those of Lists.
func (c *Changes) Note(list, id string) {
	add := func(m *map[string]bool, id string) {
		if *m == nil {
			*m = map[string]bool{}
		}
		(*m)[id] = true
	}
	switch list {
	case "settings":
		c.Settings = true
	case "areas":
		c.Areas = true
	case "circuits":
		c.Circuits = true
	case "stations":
		c.Stations = true
	case "containers":
		c.Containers = true
	case "modes":
		c.Modes = true
	case "kits":
		c.Kits = true
	case "targets":
		c.Targets = true
	case "places":
		add(&c.Places, id)
	case "items":
		add(&c.Items, id)
	case "homes":
		add(&c.Homes, itemOf(id))
	}
}

// itemOf the id of a stored home: the item's and the number of the home.
func itemOf(home string) string {
	for i := len(home) - 1; i > 0; i-- {
		if home[i] == ' ' {
			return home[:i]
		}
	}
	return home
}

// PlacesChanged between a shop and a later state of it; false when more than its places, homes and the containers that do not stand on the floor may
// have changed.
func (s *Shop) PlacesChanged(next *Shop) (*Changes, bool) {
	c := &Changes{Boxes: map[string]bool{}}
	if !reflect.DeepEqual(s.Stations, next.Stations) || !reflect.DeepEqual(s.Areas, next.Areas) || !reflect.DeepEqual(s.Modes, next.Modes) ||
		!reflect.DeepEqual(s.Settings, next.Settings) || !reflect.DeepEqual(s.Items, next.Items) {
		return nil, false
	}
	for _, id := range differ(s.Places, next.Places, func(p *Place) string { return p.ID }) {
		c.Note("places", id)
	}
	stands := func(c Container) bool {
		return c.At.Floor != nil || slices.ContainsFunc(s.Modes, func(m Mode) bool { _, ok := m.Spots[c.ID]; return ok })
	}
	for _, id := range differ(s.Containers, next.Containers, func(c *Container) string { return c.ID }) {
		c.Boxes[id] = true
	}
	for _, x := range []*Shop{s, next} {
		for _, b := range x.Containers {
			if c.Boxes[b.ID] && stands(b) {
				return nil, false
			}
			if on := b.At.In; c.Boxes[b.ID] && slices.ContainsFunc(x.Places, func(p Place) bool { return p.ID == on }) {
				c.Note("places", on) // it takes room there, or did
			}
		}
	}
	for _, x := range []*Shop{s, next} { // what is in or on what changed
		for again := true; again; {
			again = false
			for _, b := range x.Containers {
				if !c.Boxes[b.ID] && (c.Boxes[b.At.In] || c.Places[b.At.In]) {
					c.Boxes[b.ID], again = true, true
				}
			}
			for i := range x.Places {
				if p := &x.Places[i]; !c.Places[p.ID] && (c.Boxes[p.At.In] || c.Places[p.At.In]) {
					c.Note("places", p.ID)
					again = true
				}
			}
		}
	}
	return c, true
}

// differ lists by id what is in one list and not, or otherwise, in the other.
func differ[T any](was, is []T, id func(*T) string) (out []string) {
	before := make(map[string]*T, len(was))
	for i := range was {
		before[id(&was[i])] = &was[i]
	}
	for i := range is {
		k := id(&is[i])
		if old := before[k]; old == nil || !reflect.DeepEqual(old, &is[i]) {
			out = append(out, k)
		}
		delete(before, k)
	}
	return slices.AppendSeq(out, maps.Keys(before))
}
