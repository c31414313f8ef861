package access

import (
	"maps"
	"reflect"

	"hobrak/internal/core/shop"
)

// With is the map of a shop that was changed a little: the ways that are known stay
// known. It takes over the lists of next that did not change from its own shop, so that
// both share them. False when so much changed that the map must be made anew: the
// outlines, what stands on the floor, who walks.
func (m *Map) With(next *shop.Shop, c *shop.Changes) (*Map, bool) {
	old, now := &m.Shop.Settings, &next.Settings
	if c.Areas || c.Stations || c.Containers || c.Settings && (!reflect.DeepEqual(old.People, now.People) || !reflect.DeepEqual(old.Estimates, now.Estimates)) {
		return nil, false
	}
	stands := func(p *shop.Place) bool { return c.Places[p.ID] && p.At.Floor != nil }
	for _, s := range []*shop.Shop{m.Shop, next} {
		for i := range s.Places {
			if stands(&s.Places[i]) {
				return nil, false
			}
		}
		for i := range s.Containers {
			if b := &s.Containers[i]; c.Places[b.At.In] && !c.Boxes[b.ID] {
				return nil, false // what is on it moves with it
			}
		}
	}
	next.Areas, next.Stations = m.Shop.Areas, m.Shop.Stations
	if len(c.Boxes) == 0 {
		next.Containers = m.Shop.Containers
	}
	out := &Map{Shop: next, Index: shop.NewIndex(next), Body: m.Body, bodies: m.bodies, all: m.all, Estimates: m.Estimates, floors: m.floors, ways: m.ways, works: m.works, stations: m.stations,
		fronts: m.fronts, places: m.places, hosts: m.hosts}
	if len(c.Places) == 0 {
		return out, true
	}
	out.hosts = maps.Clone(m.hosts)
	for id := range c.Places { // its own face, where it has one
		delete(out.hosts, "thing "+id)
	}
	for id := range c.Boxes {
		delete(out.hosts, "thing "+id)
	}
	out.fronts, out.places = make([]Front, len(next.Places)), make(map[string]int, len(next.Places))
	for i := range next.Places {
		p := &next.Places[i]
		out.places[p.ID] = i
		if k, ok := m.places[p.ID]; ok && !c.Places[p.ID] {
			out.fronts[i] = m.fronts[k]
			out.fronts[i].Place = p
		} else {
			out.fronts[i] = out.front(p)
		}
	}
	for _, h := range out.hosts {
		for i := range h.columns {
			if h.columns[i] == nil {
				h.columns[i] = out.newColumn(h, i)
			}
		}
	}
	return out, true
}
