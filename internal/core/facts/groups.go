package facts

import (
	"strings"

	"hobrak/internal/core/household"
	"hobrak/internal/core/length"
	"hobrak/internal/core/shop"
)

// groups of facts but for people, in the order they are shown. A new fact is a line in one of the lists.
var groups = []struct {
	id, name, does string
	facts          []fact
}{
	{"general", "The shop", "", general},
	{"ways", "Ways of working", "what proposals of new storage lean to", ways},
	{"prices", "What material costs", "a plan of new storage says what it would cost; nothing is costed while nothing is said", prices},
	{"clear", "Room to keep free", "the usual cautious figures while nothing is said; local codes may ask more", clearances},
	{"estimates", "What things take", "seconds that no table of motions gives; set those you have timed", estimates},
}

// Of are the facts of a shop.
func Of(s *shop.Shop) []Group {
	w := writer{length.Style{System: s.Settings.Units}}
	var out []Group
	for i, g := range groups {
		group := Group{ID: g.id, Name: g.name, Does: g.does, Fields: []Field{}}
		for _, f := range g.facts {
			field := Field{Path: f.path, Label: f.label, Text: f.show(&s.Settings, w), Unit: f.unit, Choices: f.choices, Many: f.many, Does: f.does}
			if field.Choices == nil {
				field.Choices = []string{}
			}
			if f.usual != nil {
				field.Usual = f.usual(w)
			}
			group.Fields = append(group.Fields, field)
		}
		out = append(out, group)
		if i == 0 {
			for k := range s.Settings.People {
				out = append(out, person(s, &s.Settings.People[k], w))
			}
		}
	}
	out = append(out, circuits(s))
	taken := household.Of(s)
	for i := range s.Areas {
		out = append(out, area(s, i, taken[i], w))
	}
	return out
}

// Enter puts what was typed into a field; nothing typed leaves it unsaid where that is possible. The path people/+ adds
// somebody of the name typed. The error is a *FieldError.
func Enter(s *shop.Shop, path, text string) error {
	r := reader{strings.TrimSpace(text), s.Settings.Units}
	if rest, ok := strings.CutPrefix(path, "people/"); ok {
		if err := enterPerson(s, strings.Split(rest, "/"), r); err != nil {
			return &FieldError{path, err.Error()}
		}
		return nil
	}
	if rest, ok := strings.CutPrefix(path, "circuits/"); ok {
		if err := enterCircuit(s, strings.Split(rest, "/"), r); err != nil {
			return &FieldError{path, err.Error()}
		}
		return nil
	}
	if rest, ok := strings.CutPrefix(path, "areas/"); ok {
		if err := enterArea(s, strings.Split(rest, "/"), r); err != nil {
			return &FieldError{path, err.Error()}
		}
		return nil
	}
	for _, g := range groups {
		for _, f := range g.facts {
			if f.path != path {
				continue
			}
			next := s.Settings
			if err := f.enter(&next, r); err != nil {
				return &FieldError{path, err.Error()}
			}
			s.Settings = next
			return nil
		}
	}
	return &FieldError{path, "the shop has no fact " + path}
}
