// Package between compares a shop with itself at another moment: what was added, what is gone,
// what lives elsewhere, and what was changed otherwise, of things, places and the rest.
package between

import (
	"cmp"
	"reflect"
	"slices"
	"strings"

	"hobrak/internal/core/shop"
)

// Thing is something that is otherwise at the later moment.
type Thing struct {
	Kind string `json:"kind" enum:"item,place,container,station,area" doc:"what it is"`
	ID   string `json:"id"`
	Name string `json:"name"`
}

// Moved is a thing that has other homes, or a place or container that is elsewhere.
type Moved struct {
	Thing
	From string `json:"from" doc:"places or walls it was at, with commas between them; empty: it had no home"`
	To   string `json:"to" doc:"the same, at the later moment"`
}

// Changed is a thing with other facts.
type Changed struct {
	Thing
	Facts []string `json:"facts" nullable:"false" doc:"names of what is otherwise, as the shop file has them"`
}

// Result of a comparison, each list in the order of names.
type Result struct {
	Added   []Thing   `json:"added" nullable:"false"`
	Gone    []Thing   `json:"gone" nullable:"false"`
	Moved   []Moved   `json:"moved" nullable:"false"`
	Changed []Changed `json:"changed" nullable:"false"`
}

// Of compares an earlier moment with a later one.
func Of(before, after *shop.Shop) *Result {
	r := &Result{Added: []Thing{}, Gone: []Thing{}, Moved: []Moved{}, Changed: []Changed{}}
	compare(r, "item", before.Items, after.Items, func(i *shop.Item) (string, string) { return i.ID, i.Name }, nil)
	compare(r, "place", before.Places, after.Places, func(p *shop.Place) (string, string) { return p.ID, cmp.Or(p.Name, p.ID) }, func(p *shop.Place) *shop.At { return &p.At })
	compare(r, "container", before.Containers, after.Containers, func(c *shop.Container) (string, string) { return c.ID, cmp.Or(c.Name, c.ID) }, func(c *shop.Container) *shop.At { return &c.At })
	compare(r, "station", before.Stations, after.Stations, func(s *shop.Station) (string, string) { return s.ID, s.Name }, nil)
	compare(r, "area", before.Areas, after.Areas, func(a *shop.Area) (string, string) { return a.ID, cmp.Or(a.Name, a.ID) }, nil)
	r.homes(before, after)
	byName := func(a, b Thing) int {
		return cmp.Or(cmp.Compare(strings.ToLower(a.Name), strings.ToLower(b.Name)), cmp.Compare(a.Kind, b.Kind), cmp.Compare(a.ID, b.ID))
	}
	slices.SortFunc(r.Added, byName)
	slices.SortFunc(r.Gone, byName)
	slices.SortFunc(r.Moved, func(a, b Moved) int { return byName(a.Thing, b.Thing) })
	slices.SortFunc(r.Changed, func(a, b Changed) int { return byName(a.Thing, b.Thing) })
	return r
}

// compare finds what is new, gone or otherwise in one part of the shop; at is where one of it
// is, when it can be moved as a whole.
func compare[T any](r *Result, kind string, before, after []T, name func(*T) (id, name string), at func(*T) *shop.At) {
	old := map[string]*T{}
	for i := range before {
		id, _ := name(&before[i])
		old[id] = &before[i]
	}
	for i := range after {
		now := &after[i]
		id, called := name(now)
		t := Thing{kind, id, called}
		was := old[id]
		delete(old, id)
		if was == nil {
			r.Added = append(r.Added, t)
			continue
		}
		facts := otherwise(was, now)
		if at != nil && slices.Contains(facts, "at") {
			facts = slices.DeleteFunc(facts, func(f string) bool { return f == "at" })
			r.Moved = append(r.Moved, Moved{t, spot(at(was)), spot(at(now))})
		}
		if stood := len(facts); kind == "station" {
			facts = slices.DeleteFunc(facts, func(f string) bool { return f == "x" || f == "y" || f == "rot" || f == "stand" })
			if len(facts) < stood {
				r.Moved = append(r.Moved, Moved{t, "floor", "floor"})
			}
		}
		if len(facts) > 0 {
			r.Changed = append(r.Changed, Changed{t, facts})
		}
	}
	for id, was := range old {
		_, called := name(was)
		r.Gone = append(r.Gone, Thing{kind, id, called})
	}
}

// otherwise names the facts in which two of the same kind differ, as the shop file has them.
func otherwise[T any](a, b *T) []string {
	x, y := reflect.ValueOf(a).Elem(), reflect.ValueOf(b).Elem()
	var out []string
	for i := range x.NumField() {
		f := x.Type().Field(i)
		if !f.IsExported() || reflect.DeepEqual(x.Field(i).Interface(), y.Field(i).Interface()) {
			continue
		}
		name, _, _ := strings.Cut(f.Tag.Get("json"), ",")
		out = append(out, cmp.Or(name, strings.ToLower(f.Name)))
	}
	return out
}

// spot says in one word where something is: the wall, the container, the bench, or what else holds it.
func spot(at *shop.At) string {
	switch {
	case at.Away:
		return "away"
	case at.In != "":
		return at.In
	case at.Station != "":
		return at.Station
	case at.Wall != "":
		return at.Wall
	case at.Ceiling != nil:
		return "ceiling"
	case at.Floor != nil:
		return "floor"
	}
	return ""
}

// homes finds the things that are at both moments and live elsewhere now.
func (r *Result) homes(before, after *shop.Shop) {
	was, now := homesOf(before), homesOf(after)
	old := map[string]bool{}
	for i := range before.Items {
		old[before.Items[i].ID] = true
	}
	for i := range after.Items {
		it := &after.Items[i]
		if !old[it.ID] || reflect.DeepEqual(was[it.ID], now[it.ID]) {
			continue
		}
		r.Moved = append(r.Moved, Moved{Thing{"item", it.ID, it.Name}, places(was[it.ID]), places(now[it.ID])})
	}
}

// homesOf are the homes of each thing, in one order whatever order they are kept in; whether a
// home is locked is no matter of where it is.
func homesOf(s *shop.Shop) map[string][]shop.Home {
	out := map[string][]shop.Home{}
	for _, h := range s.Homes {
		h.Locked = false
		out[h.Item] = append(out[h.Item], h)
	}
	for _, list := range out {
		slices.SortFunc(list, func(a, b shop.Home) int {
			return cmp.Or(cmp.Compare(a.Place, b.Place), cmp.Compare(a.X, b.X), cmp.Compare(a.Z, b.Z), cmp.Compare(a.Y, b.Y),
				cmp.Compare(a.Slot, b.Slot), cmp.Compare(a.Level, b.Level), cmp.Compare(a.Row, b.Row), cmp.Compare(a.N, b.N))
		})
	}
	return out
}

func places(list []shop.Home) string {
	var out []string
	for _, h := range list {
		if !slices.Contains(out, h.Place) {
			out = append(out, h.Place)
		}
	}
	return strings.Join(out, ", ")
}
