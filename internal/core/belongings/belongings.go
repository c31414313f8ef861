// Package belongings keeps the list of what somebody owns: it takes typed
// lines in, changes one field of many things at once, and takes things out with
// their homes. Texts are as typed, in the shop's units.
package belongings

import (
	"fmt"
	"slices"
	"strconv"
	"strings"
	"unicode"

	"hobrak/internal/core/length"
	"hobrak/internal/core/line"
	"hobrak/internal/core/shop"
	"hobrak/internal/core/weight"
)

// FieldError says which field of which thing cannot be so, and why.
type FieldError struct{ Item, Field, Reason string }

func (e *FieldError) Error() string { return e.Reason }

// Context for reading a line in a shop.
func Context(s *shop.Shop) line.Context {
	return line.Context{Units: s.Settings.Units, Stations: s.Stations}
}

// Add puts the thing of a line on the list and gives its id.
func Add(s *shop.Shop, p *line.Parsed) (string, error) {
	if p.Why != "" {
		return "", &FieldError{"", "line", p.Why}
	}
	it := p.Item
	it.ID = freeID(s, it.Name)
	s.Items = append(s.Items, it)
	return it.ID, nil
}

// freeID makes an id of a name that no thing has yet.
func freeID(s *shop.Shop, name string) string {
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
	taken := func(id string) bool {
		return slices.ContainsFunc(s.Items, func(it shop.Item) bool { return it.ID == id })
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

// Fields that Set knows, in the order of the list.
var Fields = []string{"name", "count", "w", "h", "d", "kg", "uses", "used_at", "hold", "family", "flags", "kind", "keep", "notes"}

// Set puts what was typed into one field of several things. A size or weight
// that was typed is no longer assumed.
func Set(s *shop.Shop, ids []string, field, text string) error {
	text = strings.TrimSpace(text)
	for _, id := range ids {
		i := slices.IndexFunc(s.Items, func(it shop.Item) bool { return it.ID == id })
		if i < 0 {
			return &FieldError{id, "id", fmt.Sprintf("there is no item %q", id)}
		}
		if why := set(s, &s.Items[i], field, text); why != "" {
			return &FieldError{id, field, why}
		}
	}
	return nil
}

func set(s *shop.Shop, it *shop.Item, field, text string) (why string) {
	switch field {
	case "name":
		if text == "" {
			return "a thing needs a name"
		}
		it.Name = text
	case "count":
		n, err := strconv.Atoi(text)
		if err != nil || n < 1 || n > 10000 {
			return fmt.Sprintf("%q should be a whole number from 1 to 10000", text)
		}
		it.Count = n
		if n == 1 {
			it.Count = 0
		}
		return tooMany(s, it)
	case "w", "h", "d":
		l, err := length.Parse(text, s.Settings.Units)
		switch {
		case err != nil:
			return err.Error()
		case l <= 0 || l > 20*length.Metre:
			return fmt.Sprintf("%s is not possible for a side; it should be more than 0 and at most 20 m", l)
		}
		*map[string]*length.Length{"w": &it.W, "h": &it.H, "d": &it.D}[field] = l
		known(it, field)
	case "kg":
		w, err := weight.Parse(text, s.Settings.Units)
		switch {
		case err != nil:
			return err.Error()
		case w < 0 || w.KG() > 2000:
			return "a weight is from 0 to 2000 kg"
		}
		it.KG = w
		known(it, "kg")
	case "uses":
		// As in a line: weekly, 3x a week, or a number a week.
		if u, err := strconv.ParseFloat(strings.Replace(text, ",", ".", 1), 64); err == nil && u >= 0 && u <= 1000 {
			it.UsesPerWeek = u
		} else if p := line.Parse("thing "+text, Context(s)); !slices.Contains(p.Item.Assumed, "uses_per_week") {
			it.UsesPerWeek = p.Item.UsesPerWeek
		} else {
			return fmt.Sprintf("%q should say how often, as weekly, 3x a week or a number a week", text)
		}
		known(it, "uses_per_week")
	case "used_at":
		ids, bad := stationsOf(s, text)
		if bad != "" {
			return bad
		}
		it.UsedAt = ids
	case "hold":
		list, bad := words(text, []string{"hang", "stand", "flat", "slot", "lean", "arms", "bin", "magnet"})
		if bad != "" {
			return bad
		}
		it.Hold = list
	case "flags":
		list, bad := words(text, []string{"sharp", "fragile", "dust", "freeze", "flammable", "child", "rust", "heavy-handed", "show", "charger", "dull", "lent"})
		if bad != "" {
			return bad
		}
		it.Flags = list
	case "family":
		it.Family = text
	case "kind":
		it.Kind = text
	case "notes":
		it.Notes = text
	case "keep":
		if text != "yes" && text != "no" {
			return fmt.Sprintf("%q should be yes or no", text)
		}
		it.Keep = text == "yes"
	default:
		return fmt.Sprintf("the list has no field %q; it has %s", field, strings.Join(Fields, ", "))
	}
	return ""
}

// tooMany tells when more of a thing have a home than there are.
func tooMany(s *shop.Shop, it *shop.Item) string {
	homed := 0
	for i := range s.Homes {
		if h := &s.Homes[i]; h.Item == it.ID {
			if h.N == 0 {
				return ""
			}
			homed += h.N
		}
	}
	if homed > it.Number() {
		return fmt.Sprintf("%d of it have a home; take homes away first", homed)
	}
	return ""
}

func known(it *shop.Item, field string) {
	it.Assumed = slices.DeleteFunc(it.Assumed, func(f string) bool { return f == field })
	if len(it.Assumed) == 0 {
		it.Assumed = nil
	}
}

func split(text string) []string {
	return strings.FieldsFunc(text, func(r rune) bool { return r == ',' || r == ';' || unicode.IsSpace(r) })
}

// words reads some of a few known words.
func words(text string, known []string) (list []string, bad string) {
	for _, w := range split(strings.ToLower(text)) {
		if !slices.Contains(known, w) {
			return nil, fmt.Sprintf("%q should be one or more of %s", w, strings.Join(known, ", "))
		}
		if !slices.Contains(list, w) {
			list = append(list, w)
		}
	}
	return list, ""
}

func stationsOf(s *shop.Shop, text string) (ids []string, bad string) {
	for _, w := range split(text) {
		p := line.Parse("thing @"+strings.TrimPrefix(w, "@"), Context(s))
		if len(p.Item.UsedAt) != 1 {
			for _, c := range p.Chips {
				if c.Kind == "unknown" {
					return nil, c.Says
				}
			}
			return nil, fmt.Sprintf("there is no station %q", w)
		}
		ids = append(ids, p.Item.UsedAt[0])
	}
	return ids, ""
}
