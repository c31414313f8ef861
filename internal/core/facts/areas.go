package facts

import (
	"fmt"
	"slices"
	"strings"

	"hobrak/internal/core/household"
	"hobrak/internal/core/length"
	"hobrak/internal/core/shop"
)

// squareFoot in square metres.
const squareFoot = .09290304

// squares writes square metres as the shop measures floors.
func (w writer) squares(m2 float64) string {
	switch {
	case m2 == 0:
		return ""
	case w.style.System == length.Imperial:
		return number(m2 / squareFoot)
	}
	return number(m2)
}

// squares reads what squares writes.
func (r reader) squares() (float64, error) {
	v, err := orNone(r, 10000)
	if r.units == length.Imperial {
		v *= squareFoot
	}
	if err == nil && v > 1000 {
		err = fmt.Errorf("%q is more than any shop has", r.text)
	}
	return v, err
}

// area is the group of facts of one area.
func area(s *shop.Shop, i int, taken household.Taken, w writer) Group {
	a := &s.Areas[i]
	at := "areas/" + a.ID + "/"
	unit := "m²"
	if w.style.System == length.Imperial {
		unit = "sq ft"
	}
	g := Group{ID: "areas/" + a.ID, Name: a.Called(), Does: "what the room does to things, and how much of it the household may take", Fields: []Field{
		{Path: at + "climate", Label: "is", Text: strings.Join(a.Climate, ", "), Choices: shop.Choices[shop.Area]("climate"), Many: true,
			Does: "frost: what freezes is kept out; damp and sun: what rusts or fades wants to be closed in, and must be in a shed or outdoors"},
	}}
	if i > 0 {
		g.Fields = append(g.Fields, Field{Path: at + "walk_seconds", Label: "walk from the main area", Text: orEmpty(a.WalkSeconds), Unit: "s", Choices: []string{}, Does: "one way: a trip there for what lives there"})
	}
	q := shop.Quota{}
	if a.Household != nil {
		q = *a.Household
	}
	says := func(now float64) string {
		text := w.squares(float64(int(now*100+.5)) / 100)
		if text == "" {
			text = "0"
		}
		return fmt.Sprintf("bicycles, garden things, what is stored for others take %s %s now; more than this is a caution", text, unit)
	}
	g.Fields = append(g.Fields,
		Field{Path: at + "household_wall", Label: "wall for the household", Text: w.squares(q.Wall), Unit: unit, Choices: []string{}, Does: says(taken.Wall)},
		Field{Path: at + "household_floor", Label: "floor for the household", Text: w.squares(q.Floor), Unit: unit, Choices: []string{}, Does: says(taken.Floor)})
	return g
}

// enterArea changes a fact of an area.
func enterArea(s *shop.Shop, at []string, r reader) error {
	i := slices.IndexFunc(s.Areas, func(a shop.Area) bool { return a.ID == at[0] })
	if i < 0 || len(at) != 2 {
		return fmt.Errorf("there is no area %q", at[0])
	}
	a := &s.Areas[i]
	q := shop.Quota{}
	if a.Household != nil {
		q = *a.Household
	}
	switch at[1] {
	case "climate":
		list, err := r.several(shop.Choices[shop.Area]("climate"))
		if err == nil {
			a.Climate = list
		}
		return err
	case "walk_seconds":
		v, err := orNone(r, 3600)
		if err == nil {
			a.WalkSeconds = v
		}
		return err
	case "household_wall", "household_floor":
		v, err := r.squares()
		if err != nil {
			return err
		}
		if at[1] == "household_wall" {
			q.Wall = v
		} else {
			q.Floor = v
		}
		a.Household = &q
		if q == (shop.Quota{}) {
			a.Household = nil
		}
		return nil
	}
	return fmt.Errorf("an area has no %q", at[1])
}
