// Package belongings keeps the list of what somebody owns: it takes typed
// lines in, changes one field of many things at once, and takes things out with
// their homes. Texts are as typed, in the shop's units.
package belongings

import (
	"fmt"
	"slices"
	"strings"
	"unicode"

	"hobrak/internal/core/line"
	"hobrak/internal/core/shop"
)

// FieldError says which field of which thing cannot be so, and why.
type FieldError struct{ Item, Field, Reason string }

func (e *FieldError) Error() string { return e.Reason }

// Context for reading a line in a shop.
func Context(s *shop.Shop) line.Context {
	return line.Context{Units: s.Settings.Units, Stations: s.Stations, Areas: s.Areas, Containers: s.Containers, Places: s.Places}
}

// Add puts the thing of a line on the list and gives its id.
func Add(s *shop.Shop, p *line.Parsed) (string, error) {
	if p.Why != "" {
		return "", &FieldError{"", "line", p.Why}
	}
	it := p.Item
	it.ID = ID(it.Name, func(id string) bool {
		return slices.ContainsFunc(s.Items, func(it shop.Item) bool { return it.ID == id })
	})
	s.Items = append(s.Items, it)
	return it.ID, nil
}

// ID makes an id of a name that is not taken yet.
func ID(name string, taken func(string) bool) string {
	var b strings.Builder
	for _, c := range strings.ToLower(name) {
		switch {
		case unicode.IsLetter(c) || unicode.IsDigit(c):
			b.WriteRune(c)
		case b.Len() > 0 && !strings.HasSuffix(b.String(), "-"):
			b.WriteByte('-')
		}
	}
	id := strings.Trim(b.String(), "-")
	if r := []rune(id); len(r) > 48 {
		id = strings.Trim(string(r[:48]), "-")
	}
	if id == "" {
		id = "thing"
	}
	if !taken(id) {
		return id
	}
	for n := 2; ; n++ {
		if next := fmt.Sprintf("%s-%d", id, n); !taken(next) {
			return next
		}
	}
}

// Remove takes things off the list, and their homes with them.
func Remove(s *shop.Shop, ids []string) error {
	for _, id := range ids {
		i := slices.IndexFunc(s.Items, func(it shop.Item) bool { return it.ID == id })
		if i < 0 {
			return &FieldError{id, "id", fmt.Sprintf("there is no item %q", id)}
		}
		s.Items = slices.Delete(s.Items, i, i+1)
	}
	s.Homes = slices.DeleteFunc(s.Homes, func(h shop.Home) bool { return slices.Contains(ids, h.Item) })
	return nil
}
