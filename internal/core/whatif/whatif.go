// Package whatif changes a copy of a shop as people wonder: a wall left alone, a
// cabinet less, more clamps, another person. The engine then says what it would cost.
package whatif

import (
	"fmt"
	"math"
	"slices"

	"hobrak/internal/core/length"
	"hobrak/internal/core/shop"
	"hobrak/internal/core/storage"
)

// Change that is wondered about. Exactly one of its parts is used.
type Change struct {
	Wall     string        `json:"wall,omitempty" doc:"wall that is left alone: its storage is taken down"`
	Area     string        `json:"area,omitempty" doc:"area of the wall; the main one when left out"`
	Without  string        `json:"without,omitempty" doc:"place or container that is not there"`
	Family   string        `json:"family,omitempty" doc:"family of which there are more"`
	More     float64       `json:"more,omitempty" minimum:"-0.9" maximum:"10" doc:"by that share more of it"`
	Stature  length.Length `json:"-"`
	Person   string        `json:"person,omitempty" doc:"who uses the shop: id of a person in it"`
	Sessions float64       `json:"sessions,omitempty" minimum:"0" maximum:"50" doc:"sessions a week"`
}

// Apply gives a copy of the shop with the change, and says it in words.
func Apply(s *shop.Shop, c Change) (next *shop.Shop, says string, err error) {
	next = s.Clone()
	next.Fit = nil
	switch {
	case c.Wall != "":
		return wall(next, c)
	case c.Without != "":
		if _, err := storage.Remove(next, c.Without); err != nil {
			return nil, "", err
		}
		return next, "without " + c.Without, nil
	case c.Family != "":
		return family(next, c)
	case c.Person != "":
		i := slices.IndexFunc(next.Settings.People, func(p shop.Person) bool { return p.ID == c.Person })
		if i < 0 {
			return nil, "", fmt.Errorf("there is nobody called %q", c.Person)
		}
		p := next.Settings.People[i]
		p.Child = false
		// The other adults are away; what is theirs is fetched by whoever is there.
		children := slices.DeleteFunc(slices.Clone(next.Settings.People), func(o shop.Person) bool { return !o.Child || o.ID == p.ID })
		next.Settings.People = append([]shop.Person{p}, children...)
		next.Tidy()
		return next, "used by " + c.Person, nil
	case c.Stature > 0:
		if c.Stature < 800*length.Millimetre || c.Stature > 2300*length.Millimetre {
			return nil, "", fmt.Errorf("a stature is from %s to %s, not %s", 800*length.Millimetre, 2300*length.Millimetre, c.Stature)
		}
		own := slices.DeleteFunc(slices.Clone(next.Settings.People), func(p shop.Person) bool { return !p.Child })
		next.Settings.People = append([]shop.Person{{ID: "somebody", Stature: c.Stature}}, own...)
		next.Tidy()
		return next, fmt.Sprintf("used by somebody %s tall", c.Stature), nil
	case c.Sessions > 0:
		old := next.Settings.SessionsPerWeek
		if old <= 0 {
			return nil, "", fmt.Errorf("how often the shop is used now is not said")
		}
		for i := range next.Items {
			next.Items[i].UsesPerWeek *= c.Sessions / old
		}
		next.Settings.SessionsPerWeek = c.Sessions
		return next, fmt.Sprintf("%g sessions a week", c.Sessions), nil
	}
	return nil, "", fmt.Errorf("what if what? Say a wall, what is not there, a family and how many more, or a person")
}

// wall leaves a wall alone and takes down what hangs there.
func wall(s *shop.Shop, c Change) (*shop.Shop, string, error) {
	a := shop.NewIndex(s).Area(c.Area)
	if a == nil || a.Wall(c.Wall) == nil {
		return nil, "", fmt.Errorf("there is no wall %q", c.Wall)
	}
	for i := range s.Areas {
		if s.Areas[i].ID == a.ID {
			s.Areas[i].Walls[a.WallIndex(c.Wall)].Claimed = false
		}
	}
	for {
		ix, gone := shop.NewIndex(s), ""
		on := func(at *shop.At) bool { return at.Wall == c.Wall && ix.Area(at.Area).ID == a.ID }
		for i := range s.Places {
			if on(&s.Places[i].At) {
				gone = s.Places[i].ID
			}
		}
		for i := range s.Containers {
			if k := &s.Containers[i]; on(&k.At) && !k.Kind.OnDoor() {
				gone = k.ID
			}
		}
		if gone == "" {
			return s, "wall " + c.Wall + " left alone", nil
		}
		if _, err := storage.Remove(s, gone); err != nil {
			return nil, "", err
		}
	}
}

// family grows or shrinks by a share: in counts, rounded up, and where that gives
// less than one more, of the things used most.
func family(s *shop.Shop, c Change) (*shop.Shop, string, error) {
	var list []int
	pieces := 0
	for i := range s.Items {
		if s.Items[i].Family == c.Family && s.Items[i].Needs() {
			list = append(list, i)
			pieces += s.Items[i].Number()
		}
	}
	if len(list) == 0 {
		return nil, "", fmt.Errorf("there is no family %q", c.Family)
	}
	want := int(math.Ceil(float64(pieces)*(1+c.More) - 1e-9))
	if want < 1 || want > 100*pieces {
		return nil, "", fmt.Errorf("%g of %d cannot be", c.More, pieces)
	}
	// A home of all of them goes on holding as many as it does.
	for i := range s.Homes {
		for _, k := range list {
			if h := &s.Homes[i]; h.Item == s.Items[k].ID && h.N == 0 {
				h.N = s.Items[k].Number()
			}
		}
	}
	slices.SortStableFunc(list, func(a, b int) int { return s.Items[b].Number() - s.Items[a].Number() })
	for k := 0; pieces != want; k++ {
		it := &s.Items[list[k%len(list)]]
		switch {
		case pieces < want:
			// One more lies beside the others; it is used as often as each of them.
			it.UsesPerWeek *= float64(it.Number()+1) / float64(it.Number())
			it.Count = it.Number() + 1
			pieces++
		case it.Number() > 1:
			it.Count = it.Number() - 1
			pieces--
		case k > len(list)*len(list)+want:
			return s, "", fmt.Errorf("the %s are one of each kind: name those that go", c.Family)
		}
	}
	for i := range s.Homes {
		h := &s.Homes[i]
		for _, k := range list {
			if h.Item == s.Items[k].ID && h.N > s.Items[k].Number() {
				h.N = s.Items[k].Number()
			}
		}
	}
	return s, fmt.Sprintf("%d pieces of %s", want, c.Family), nil
}
