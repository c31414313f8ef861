package round

import (
	"reflect"

	"hobrak/internal/core/length"
)

// Change is what makes a later round of one: whoever has the earlier one needs no more.
type Change struct {
	Head       Head           `json:"head"`
	Elevations []Elevation    `json:"elevations,omitzero" doc:"all of them; the same as before when left out"`
	Things     []Thing        `json:"things,omitzero" doc:"all of them; the same as before when left out"`
	Rooms      []Room         `json:"rooms,omitzero" doc:"of the plan, all of them; the same as before when left out"`
	Footprints []Footprint    `json:"footprints,omitzero" doc:"on the plan, all of them; the same as before when left out"`
	Stations   StationsChange `json:"stations"`
	Places     PlacesChange   `json:"places"`
	Items      ItemsChange    `json:"items"`
	Wished     ItemsChange    `json:"wished"`
}

// Head of a round is what is sent in any case.
type Head struct {
	Name   string        `json:"name"`
	Units  length.System `json:"units"`
	Comma  bool          `json:"comma"`
	Figure Figure        `json:"figure"`
	Totals Totals        `json:"totals"`
	People []string      `json:"people" nullable:"false"`
	Fresh  bool          `json:"fresh"`
	OneOut bool          `json:"one_out"`
	Mode   string        `json:"mode"`
}

// ItemsChange of a list of items.
type ItemsChange struct {
	Put   []Item   `json:"put" nullable:"false" doc:"those that are new or otherwise"`
	Order []string `json:"order,omitzero" doc:"ids of all in their order; the same as before when left out"`
}

// PlacesChange of the list of places.
type PlacesChange struct {
	Put   []Place  `json:"put" nullable:"false" doc:"those that are new or otherwise"`
	Order []string `json:"order,omitzero" doc:"ids of all in their order; the same as before when left out"`
}

// StationsChange of the stations of the plan.
type StationsChange struct {
	Put   []Stand  `json:"put" nullable:"false" doc:"those that are new or otherwise"`
	Order []string `json:"order,omitzero" doc:"ids of all in their order; the same as before when left out"`
}

// Since tells what makes this round of an earlier one; false when so much is otherwise that the
// whole round says it better.
func (r *Round) Since(old *Round) (*Change, bool) {
	c := &Change{
		Head:       Head{r.Name, r.Units, r.Comma, r.Figure, r.Totals, r.People, r.Fresh, r.OneOut, r.Mode},
		Elevations: unlike(old.Elevations, r.Elevations),
		Things:     unlike(old.Things, r.Things),
		Rooms:      unlike(old.Plan.Rooms, r.Plan.Rooms),
		Footprints: unlike(old.Plan.Things, r.Plan.Things),
	}
	c.Stations.Put, c.Stations.Order = byID(old.Plan.Stations, r.Plan.Stations, func(s *Stand) string { return s.ID })
	c.Places.Put, c.Places.Order = byID(old.Places, r.Places, func(p *Place) string { return p.ID })
	item := func(i *Item) string { return i.ID }
	c.Items.Put, c.Items.Order = byID(old.Items, r.Items, item)
	c.Wished.Put, c.Wished.Order = byID(old.Wished, r.Wished, item)
	return c, 2*(len(c.Items.Put)+len(c.Places.Put)) <= len(r.Items)+len(r.Places)
}

// unlike is a list that is not as before, nil when it is.
func unlike[T any](old, now []T) []T {
	if reflect.DeepEqual(old, now) {
		return nil
	}
	return append([]T{}, now...)
}

// byID gives what is new or otherwise in a list, and the order of all when that is another.
func byID[T any](old, now []T, id func(*T) string) (put []T, order []string) {
	put, order = []T{}, []string{}
	at := make(map[string]int, len(old))
	for i := range old {
		at[id(&old[i])] = i
	}
	same := len(old) == len(now)
	for i := range now {
		name := id(&now[i])
		k, there := at[name]
		same = same && k == i && there
		if !there || !reflect.DeepEqual(old[k], now[i]) {
			put = append(put, now[i])
		}
		order = append(order, name)
	}
	if same {
		return put, nil
	}
	return put, order
}
