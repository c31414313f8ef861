package listing

import (
	"fmt"
	"slices"
	"strings"

	"hobrak/internal/core/fit"
	"hobrak/internal/core/keeping"
	"hobrak/internal/core/kinds"
	"hobrak/internal/core/line"
	"hobrak/internal/core/shop"
)

// Row of a tick list: a kind of thing, with how many of it are there.
type Row struct {
	Kind kinds.Kind
	Here int  // that live or lie in the place; without a home where no place is meant
	Fits bool // one goes into the empty place as it is usually kept; true where no place is meant
}

// Ticks is the list for a place, empty for what has no home yet: what is ticked there already comes first, then what the
// makers of such things have, what the place can hold before what it cannot. Only kinds that a text finds; one of which a word
// and more is typed is meant whether the place can hold it or not.
func Ticks(s *shop.Shop, place, text string) []Row {
	p, here := shop.NewIndex(s).Place(place), map[string]int{}
	for i := range s.Items {
		if it := &s.Items[i]; ticked(it) {
			here[it.Kind] += standing(s, it, place)
		}
	}
	var out []Row
	for _, k := range kinds.Like(text, kinds.Rank(s.Settings.Makes)) {
		t := Row{Kind: k, Here: here[k.ID], Fits: true}
		if p != nil {
			it := usual(k)
			t.Fits = p.Takes(&it) && keeping.Of(p).Short(p, it.SizeIn(p.Kind)) <= 0
		}
		out = append(out, t)
	}
	text = strings.ToLower(strings.TrimSpace(text))
	slices.SortStableFunc(out, func(a, b Row) int { return a.order(text) - b.order(text) })
	return out
}

func (t *Row) order(text string) int {
	switch {
	case t.Here > 0:
		return 0
	case t.Fits, t.Kind.Name == text, strings.Contains(text, " ") && strings.HasPrefix(t.Kind.Name, text):
		return 1
	}
	return 2
}

// usual is one of a kind as it is usually.
func usual(k kinds.Kind) shop.Item {
	return line.Parse(k.Name, line.Context{}).Item
}

// ticked tells whether an item is one that only its kind is said of.
func ticked(it *shop.Item) bool {
	k, ok := kinds.ByID(it.Kind)
	return ok && it.Needs() && strings.EqualFold(it.Name, k.Name)
}

// standing is how many of an item are in a place; without any home where none is meant.
func standing(s *shop.Shop, it *shop.Item, place string) (n int) {
	homed := 0
	for i := range s.Homes {
		if h := &s.Homes[i]; h.Item == it.ID {
			homed += h.Number(it)
			if h.Place == place {
				n += h.Number(it)
			}
		}
	}
	if it.Lies == place {
		n += it.Number() - homed
	}
	return n
}

// Ticked is how many more of a kind there are in a place; fewer when it is below 0.
type Ticked struct {
	Kind string `json:"kind" maxLength:"64"`
	More int    `json:"more" minimum:"-10000" maximum:"10000"`
}

// summed has each kind once.
func summed(ticks []Ticked) (out []Ticked) {
	for _, t := range ticks {
		if i := slices.IndexFunc(out, func(o Ticked) bool { return o.Kind == t.Kind }); i >= 0 {
			out[i].More += t.More
		} else {
			out = append(out, t)
		}
	}
	return out
}

// TickError says which kind cannot be ticked, and why.
type TickError struct{ Kind, Reason string }

func (e *TickError) Error() string { return e.Reason }

// Tick puts what was ticked on the list, in a place or without a home. What is there already of a kind, with nothing else
// said of it, becomes more or fewer; at none it leaves the list.
func Tick(s *shop.Shop, place string, ticks []Ticked) (out Added, err error) {
	ix := shop.NewIndex(s)
	if place != "" && ix.Place(place) == nil {
		return Added{}, &TickError{"", fmt.Sprintf("there is no place %q", place)}
	}
	var wishes []shop.Home
	for _, t := range summed(ticks) {
		k, ok := kinds.ByID(t.Kind)
		if !ok {
			return Added{}, &TickError{t.Kind, fmt.Sprintf("there is no kind %q", t.Kind)}
		}
		if t.More == 0 {
			continue
		}
		i := slices.IndexFunc(s.Items, func(it shop.Item) bool {
			return it.Kind == k.ID && ticked(&it) && standing(s, &it, place) == it.Number()
		})
		n := t.More
		if i >= 0 {
			n += s.Items[i].Number()
		}
		switch {
		case n < 0 || n == 0 && i < 0:
			return Added{}, &TickError{k.ID, fmt.Sprintf("there are not so many of %s there", k.Name)}
		case n > shop.MostCount:
			return Added{}, &TickError{k.ID, fmt.Sprintf("%d %s are too many; at most %d are alike", n, k.Name, shop.MostCount)}
		case i < 0:
			added, err := Add(s, []string{fmt.Sprintf("%d %s", n, k.Name)})
			if err != nil {
				return Added{}, err
			}
			out.IDs = append(out.IDs, added.IDs...)
			wishes = append(wishes, shop.Home{Item: added.IDs[0], Place: place})
		default:
			id := s.Items[i].ID
			s.Homes = slices.DeleteFunc(s.Homes, func(h shop.Home) bool { return h.Item == id })
			if n == 0 {
				s.Items = slices.Delete(s.Items, i, i+1)
				continue
			}
			s.Items[i].Count, s.Items[i].Lies = n, ""
			if n == 1 {
				s.Items[i].Count = 0
			}
			out.IDs = append(out.IDs, id)
			wishes = append(wishes, shop.Home{Item: id, Place: place})
		}
	}
	if place == "" {
		return out, nil
	}
	lying, err := fit.Settle(s, wishes)
	if err != nil {
		return Added{}, err
	}
	out.Notes, out.Here = notes(s, wishes, lying), place
	return out, nil
}
