package belongings

import (
	"fmt"
	"slices"
	"strconv"
	"strings"
	"time"
	"unicode"

	"hobrak/internal/core/length"
	"hobrak/internal/core/line"
	"hobrak/internal/core/shop"
	"hobrak/internal/core/weight"
)

// Fields that Set and Put know, in the order of the list.
var Fields = []string{"name", "count", "w", "h", "d", "kg", "uses", "used_at", "hold", "family", "flags", "kind", "keep", "realm", "status",
	"clearance", "turn", "promised_to", "goes_to", "review", "twins", "whose", "lies", "with", "set_up", "due", "wood", "notes"}

// Set puts what was typed into one field of several things. A size or weight
// that was typed is no longer assumed.
func Set(s *shop.Shop, ids []string, field, text string) error {
	text = strings.TrimSpace(text)
	if field == "locked" { // of their homes, not of the things
		return lock(s, ids, text)
	}
	for _, id := range ids {
		i := slices.IndexFunc(s.Items, func(it shop.Item) bool { return it.ID == id })
		if i < 0 {
			return &FieldError{id, "id", fmt.Sprintf("there is no item %q", id)}
		}
		if why := Put(s, &s.Items[i], field, text); why != "" {
			return &FieldError{id, field, why}
		}
	}
	return nil
}

// lock locks the homes of things, or unlocks them.
func lock(s *shop.Shop, ids []string, text string) error {
	yes, bad := yesNo(text)
	if bad != "" {
		return &FieldError{ids[0], "locked", bad}
	}
	homed := map[string]bool{}
	for i := range s.Homes {
		if h := &s.Homes[i]; slices.Contains(ids, h.Item) {
			h.Locked, homed[h.Item] = yes, true
		}
	}
	for _, id := range ids {
		if yes && !homed[id] {
			return &FieldError{id, "locked", "it has no home that could be locked"}
		}
	}
	return nil
}

// Put puts what was typed into one field of a thing, which need not be on the
// list yet. Why says what would be right when it cannot be so.
func Put(s *shop.Shop, it *shop.Item, field, text string) (why string) {
	switch field {
	case "name":
		if text == "" {
			return "a thing needs a name"
		}
		it.Name = text
	case "count":
		n, err := strconv.Atoi(text)
		if err != nil || n < 1 || n > shop.MostCount {
			return fmt.Sprintf("%q should be a whole number from 1 to %d", text, shop.MostCount)
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
		case l <= 0 || l > shop.MostSide:
			return fmt.Sprintf("%s is not possible for a side; it should be more than 0 and at most %s", l, shop.MostSide)
		}
		switch field {
		case "w":
			it.Resize(l, it.H)
		case "h":
			it.Resize(it.W, l)
		default:
			it.D = l
		}
		known(it, field)
	case "kg":
		w, err := weight.Parse(text, s.Settings.Units)
		switch {
		case err != nil:
			return err.Error()
		case w < 0 || w > shop.MostWeight:
			return fmt.Sprintf("a weight is at most %s", shop.MostWeight)
		}
		it.KG = w
		known(it, "kg")
	case "uses":
		// As in a line: weekly, 3x a week, or a number a week.
		if u, err := strconv.ParseFloat(strings.Replace(text, ",", ".", 1), 64); err == nil && u >= 0 && u <= shop.MostUses {
			it.UsesPerWeek = u
		} else if p := line.Parse("thing "+text, Context(s)); p.Item.Name == "Thing" && !slices.Contains(p.Item.Assumed, "uses_per_week") {
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
		list, bad := words[shop.Hold](text)
		if bad != "" {
			return bad
		}
		it.Hold = list
	case "flags":
		list, bad := words[shop.Flag](text)
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
	case "set_up":
		it.SetUp = text
	case "with":
		ids, bad := thingsOf(s, it, text)
		if bad != "" {
			return bad
		}
		it.With = ids
	case "wood":
		w, bad := readWood(text)
		if bad != "" {
			return bad
		}
		it.Wood = w
	case "due":
		if _, err := time.Parse(time.DateOnly, text); err != nil && text != "" {
			return fmt.Sprintf("%q should be a date as 2027-05-31", text)
		}
		it.Due = text
	case "keep":
		yes, bad := yesNo(text)
		it.Keep = yes
		return bad
	case "whose":
		it.Whose = ""
		for i := range s.Settings.People {
			if p := &s.Settings.People[i]; text != "" && strings.EqualFold(p.ID, text) {
				it.Whose = p.ID
			}
		}
		if r := strings.ToLower(text); it.Whose == "" && slices.Contains(shop.Choices[shop.Item]("realm"), r) {
			it.Realm = r // a list that says by this word whether it is the shop's or the household's
			return ""
		}
		if text != "" && it.Whose == "" {
			return fmt.Sprintf("there is nobody called %q; people are said under Facts", text)
		}
	case "lies":
		i := slices.IndexFunc(s.Places, func(p shop.Place) bool { return strings.EqualFold(p.ID, text) })
		switch {
		case text == "":
			it.Lies = ""
		case i < 0:
			return fmt.Sprintf("there is no place %q", text)
		default:
			it.Lies = s.Places[i].ID
		}
	case "realm":
		return oneOf(&it.Realm, text, shop.Choices[shop.Item]("realm")...)
	case "status":
		return oneOf(&it.Status, text, shop.Choices[shop.Item]("status")...)
	case "clearance":
		l, err := length.Parse(text, s.Settings.Units)
		switch {
		case text == "":
			it.Clearance = nil
		case err != nil:
			return err.Error()
		case l < 0 || l > shop.MostClearance:
			return fmt.Sprintf("%s is not possible for clearance; it should be from 0 to %s", l, shop.MostClearance)
		default:
			it.Clearance = &l
		}
	case "turn":
		if text == "" {
			it.Turn = nil
			return ""
		}
		yes, bad := yesNo(text)
		it.Turn = &yes
		return bad
	case "promised_to":
		it.PromisedTo = text
	case "goes_to":
		it.GoesTo = text
	case "review":
		if _, err := time.Parse(time.DateOnly, text); err != nil && text != "" {
			return fmt.Sprintf("%q should be a date as 2027-05-31", text)
		}
		it.Review = text
	case "twins":
		n, err := strconv.Atoi(text)
		if err != nil || n < 0 || n > 50 {
			return fmt.Sprintf("%q should be a whole number from 0 to 50", text)
		}
		it.Twins = n
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

func yesNo(text string) (yes bool, bad string) {
	switch strings.ToLower(text) {
	case "yes", "y", "true", "x", "1":
		return true, ""
	case "no", "n", "false", "0", "":
		return false, ""
	}
	return false, fmt.Sprintf("%q should be yes or no", text)
}

// oneOf sets one of a few words; nothing clears it.
func oneOf(to *string, text string, known ...string) (bad string) {
	text = strings.ToLower(text)
	if text != "" && !slices.Contains(known, text) {
		return fmt.Sprintf("%q should be %s", text, strings.Join(known, " or "))
	}
	*to = text
	return ""
}

// thingsOf reads names or ids of things that go with another, with commas between them. What was said before and is gone since may
// stay.
func thingsOf(s *shop.Shop, of *shop.Item, text string) (ids []string, bad string) {
	parts := strings.FieldsFunc(text, func(r rune) bool { return r == ',' || r == ';' })
	for i := 0; i < len(parts); {
		// A name may have a comma in it: the longest that is known is meant.
		k, n := -1, 0
		for n = min(3, len(parts)-i); n > 0; n-- {
			w := strings.TrimSpace(strings.Join(parts[i:i+n], ","))
			k = slices.IndexFunc(s.Items, func(x shop.Item) bool { return x.ID == w || strings.EqualFold(x.Name, w) })
			if k >= 0 {
				break
			}
		}
		w := strings.TrimSpace(parts[i])
		switch {
		case w == "":
		case k < 0 && slices.Contains(of.With, w):
			ids = append(ids, w)
		case k < 0:
			return nil, fmt.Sprintf("there is nothing called %q; write names as they stand on the list, with commas between them", w)
		case s.Items[k].ID == of.ID:
			return nil, "a thing does not go with itself"
		case !slices.Contains(ids, s.Items[k].ID):
			ids = append(ids, s.Items[k].ID)
		}
		i += max(1, n)
	}
	return ids, ""
}

func split(text string) []string {
	return strings.FieldsFunc(text, func(r rune) bool { return r == ',' || r == ';' || unicode.IsSpace(r) })
}

// words reads some of a few known words.
func words[T worded](text string) (list []T, bad string) {
	known := T("").Words()
	for _, w := range split(strings.ToLower(text)) {
		if !slices.Contains(known, w) {
			return nil, fmt.Sprintf("%q should be one or more of %s", w, strings.Join(known, ", "))
		}
		if !slices.Contains(list, T(w)) {
			list = append(list, T(w))
		}
	}
	return list, ""
}

// worded types know their words.
type worded interface {
	~string
	Words() []string
}

// stationsOf reads stations by their ids or names with commas between them, or
// by their ids with blanks.
func stationsOf(s *shop.Shop, text string) (ids []string, bad string) {
	for _, piece := range strings.FieldsFunc(text, func(r rune) bool { return r == ',' || r == ';' }) {
		piece = strings.TrimPrefix(strings.TrimSpace(piece), "@")
		if i := slices.IndexFunc(s.Stations, func(st shop.Station) bool { return st.ID == piece || strings.EqualFold(st.Name, piece) }); i >= 0 {
			ids = append(ids, s.Stations[i].ID)
			continue
		}
		for _, w := range strings.Fields(piece) {
			p := line.Parse("thing @"+strings.TrimPrefix(w, "@"), Context(s))
			if len(p.Item.UsedAt) != 1 {
				return nil, fmt.Sprintf("there is no station %q; there are %s", piece, stationNames(s))
			}
			ids = append(ids, p.Item.UsedAt[0])
		}
	}
	return ids, ""
}

func stationNames(s *shop.Shop) string {
	var out []string
	for i := range s.Stations {
		out = append(out, s.Stations[i].ID)
	}
	if len(out) == 0 {
		return "none yet"
	}
	return strings.Join(out, ", ")
}
