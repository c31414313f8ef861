package line

import (
	"fmt"
	"regexp"
	"slices"
	"strings"
	"unicode"

	"hobrak/internal/core/shop"
)

// Where a thing lives is said by its address, "in K2-3"; by what people call it, "in chest 2", "in the second drawer of
// the chest", "on the peg rail"; or as a spot on the floor, "on the floor at C". Only what is known is taken for a place:
// in and on begin many names.

var (
	preposition = regexp.MustCompile(`(?i)(^|[\s,;])((?:in|into|on|at|under)\s+(?:the\s+|my\s+)?)(\S)`)
	onFloor     = regexp.MustCompile(`(?i)^floor(?:\s+(?:(?:at|by|before|near)\s+)?(?:the\s+)?(?:wall\s+)?([a-z]{1,2}))?($|[\s,;.])`)
	bare        = regexp.MustCompile(`(?i)^\s*([a-z]{1,3}\d{1,3}(?:-\d{1,3})?)\s*$`)
	nowhere     = regexp.MustCompile(`(?i)^\s*(?:in\s+)?(?:no\s+place|no\s+home|nowhere|homeless)(?:\s+yet)?\s*$`)
	addressed   = regexp.MustCompile(`(?i)^[a-z]{1,3}\d{1,3}(?:-\d{1,3})?$`)
)

// part of a container, as people count them: from the top, or by its end.
var (
	partWords = []string{"drawer", "shelf", "level", "compartment", "slot", "no", "number"}
	ordinals  = map[string]int{"top": 1, "upper": 1, "first": 1, "1st": 1, "second": 2, "2nd": 2, "third": 3, "3rd": 3, "fourth": 4, "4th": 4, "fifth": 5, "5th": 5, "sixth": 6, "6th": 6, "seventh": 7, "7th": 7, "bottom": -1, "last": -1, "lowest": -1, "lower": -1}
)

// places reads where the thing lives.
func (r *reader) places() {
	if len(r.ctx.Areas) == 0 {
		return
	}
	left := r.left()
	if nowhere.MatchString(left) {
		r.out.Here = true
		r.take(0, len(left), "place", "what is typed next has no home yet", true)
		return
	}
	if m := bare.FindStringSubmatchIndex(left); m != nil {
		if id, says, unknown := r.resolve(left[m[2]:m[3]]); id != "" {
			r.livesIn(m[2], m[3], id)
			return
		} else if unknown && says != "" {
			r.take(m[2], m[3], "unknown", says, true)
			return
		}
	}
	for _, m := range preposition.FindAllStringSubmatchIndex(left, -1) {
		from, at := m[4], m[6]
		if r.floorAt(left, from, at) || r.placeAt(left, from, at) {
			return
		}
	}
}

// livesIn takes a piece for the place a thing lives in.
func (r *reader) livesIn(from, to int, id string) {
	i := slices.IndexFunc(r.ctx.Places, func(p shop.Place) bool { return p.ID == id })
	says := "lives in " + id
	if name := r.ctx.Places[i].Name; name != "" && !strings.EqualFold(name, id) {
		says += ", " + name
	} else if c := slices.IndexFunc(r.ctx.Containers, func(c shop.Container) bool { return c.ID == r.ctx.Places[i].At.In }); c >= 0 && r.ctx.Containers[c].Name != "" {
		says += ", " + strings.ToLower(r.ctx.Containers[c].Name)
	}
	r.out.Place = id
	r.take(from, to, "place", says, true)
	r.out.Here = strings.Trim(r.left(), " ,;.:") == ""
}

// floorAt reads a spot on the floor that begins at a byte.
func (r *reader) floorAt(left string, from, at int) bool {
	m := onFloor.FindStringSubmatchIndex(left[at:])
	if m == nil {
		return false
	}
	to, wall := at+m[4], ""
	if m[2] >= 0 {
		wall, to = strings.ToUpper(left[at+m[2]:at+m[3]]), at+m[3]
		if !slices.ContainsFunc(r.ctx.Areas[0].Walls, func(w shop.Wall) bool { return w.ID == wall }) {
			wall, to = "", at+len("floor")
		}
	}
	if m[2] < 0 {
		to = at + len("floor")
	}
	if wall == "" {
		wall = r.ctx.Areas[0].Walls[0].ID
		for i := range r.ctx.Places { // any floor that is there already
			if p := &r.ctx.Places[i]; p.Kind == "floor" {
				r.livesIn(from, to, p.ID)
				return true
			}
		}
	}
	if i := slices.IndexFunc(r.ctx.Places, func(p shop.Place) bool { return p.Kind == "floor" && strings.EqualFold(p.Name, FloorName(wall)) }); i >= 0 {
		r.livesIn(from, to, r.ctx.Places[i].ID)
		return true
	}
	r.out.Floor = wall
	r.take(from, to, "place", "stands on the floor at wall "+wall, true)
	r.out.Here = strings.Trim(r.left(), " ,;.:") == ""
	return true
}

// FloorName is what the floor before a wall is called.
func FloorName(wall string) string { return "Floor at " + wall }

// placeAt reads a place that begins at a byte, as many words of it as are known.
func (r *reader) placeAt(left string, from, at int) bool {
	words, ends := wordsAt(left, at)
	for n := len(words); n > 0; n-- {
		text := strings.Join(words[:n], " ")
		id, says, unknown := r.resolve(text)
		switch {
		case id != "":
			r.livesIn(from, ends[n-1], id)
			return true
		case says != "" && (!unknown || n == 1 && unicode.IsUpper(rune(left[at]))):
			r.take(from, ends[n-1], "unknown", says, true)
			return true
		}
	}
	return false
}

// mostWords a place is called by.
const mostWords = 7

func wordsAt(text string, from int) (words []string, ends []int) {
	for i := from; i < len(text) && len(words) < mostWords; {
		for i < len(text) && text[i] == ' ' {
			i++
		}
		k := i
		for k < len(text) && text[k] != ' ' && text[k] != ',' && text[k] != ';' {
			k++
		}
		if k == i {
			break
		}
		words, ends = append(words, strings.ToLower(strings.TrimRight(text[i:k], ".:"))), append(ends, k)
		if k < len(text) && text[k] != ' ' {
			break
		}
		i = k
	}
	return words, ends
}

// resolve gives the place that a text means; or says why it is none. Unknown tells that it only looks like an address.
func (r *reader) resolve(text string) (id, says string, unknown bool) {
	if i := slices.IndexFunc(r.ctx.Places, func(p shop.Place) bool { return strings.EqualFold(p.ID, text) }); i >= 0 {
		return r.ctx.Places[i].ID, "", false
	}
	var called []string
	for i := range r.ctx.Places {
		if p := &r.ctx.Places[i]; p.Name != "" && strings.EqualFold(p.Name, text) {
			called = append(called, p.ID)
		}
	}
	if len(called) == 1 {
		return called[0], "", false
	}
	units, part, said := r.units(text)
	switch {
	case len(units) == 1:
		inside := r.inside(units[0])
		switch {
		case !said && len(inside) == 1:
			return inside[0], "", false
		case !said && len(inside) > 1:
			return "", fmt.Sprintf("%s has %d: say which, as in %s", units[0], len(inside), inside[min(1, len(inside)-1)]), false
		case part < 0 && len(inside) > 0:
			return inside[len(inside)-1], "", false
		case said && part >= 1 && part <= len(inside):
			return inside[part-1], "", false
		case said && len(inside) > 0:
			return "", fmt.Sprintf("%s has %d, counted from the top: there is no %d", units[0], len(inside), part), false
		}
	case len(units) > 1:
		if said || len(units) <= 4 {
			return "", fmt.Sprintf("that could be %s; say its address", strings.Join(units, " or ")), false
		}
	case len(called) > 1:
		return "", fmt.Sprintf("that could be %s; say its address", strings.Join(called, " or ")), false
	}
	// A place that is alone of its sort may be called by one word of its name.
	for i := range r.ctx.Places {
		p := &r.ctx.Places[i]
		if p.At.In == "" && (nameHas(p.Name, text) || strings.EqualFold(string(p.Kind), text)) {
			called = append(called, p.ID)
		}
	}
	switch {
	case len(called) == 1:
		return called[0], "", false
	case len(called) > 1:
		return "", fmt.Sprintf("that could be %s; say its address", strings.Join(called, " or ")), false
	}
	if addressed.MatchString(text) {
		return "", fmt.Sprintf("there is no place %s; state it under Places, or leave it out", strings.ToUpper(text)), true
	}
	return "", "", false
}

// nameHas tells whether a text is a run of whole words of a name.
func nameHas(name, text string) bool {
	return name != "" && len(text) >= 3 && strings.Contains(" "+strings.ToLower(name)+" ", " "+text+" ")
}

// units are the containers that a text calls, and the part of them it says: counted from the top, -1 the last.
func (r *reader) units(text string) (ids []string, part int, said bool) {
	words := strings.Fields(text)
	// "second drawer of the chest", "top of the shelving"
	if of := slices.Index(words, "of"); of > 0 && of < len(words)-1 {
		if n, ok := whichPart(words[:of]); ok {
			rest := words[of+1:]
			if rest[0] == "the" && len(rest) > 1 {
				rest = rest[1:]
			}
			if ids = r.unitsCalled(strings.Join(rest, " ")); len(ids) > 0 {
				return ids, n, true
			}
		}
	}
	for n := len(words); n > 0; n-- {
		ids = r.unitsCalled(strings.Join(words[:n], " "))
		if len(ids) == 0 {
			continue
		}
		if n == len(words) {
			return ids, 0, false
		}
		if k, ok := whichPart(words[n:]); ok {
			return ids, k, true
		}
		return nil, 0, false
	}
	return nil, 0, false
}

// whichPart reads which part is meant: "2", "drawer 2", "second drawer", "top shelf".
func whichPart(words []string) (n int, ok bool) {
	for _, w := range words {
		if k, known := ordinals[w]; known && !ok {
			n, ok = k, true
		} else if _, err := fmt.Sscanf(w, "%d", &k); err == nil && !ok && fmt.Sprint(k) == w {
			n, ok = k, true
		} else if !slices.Contains(partWords, w) {
			return 0, false
		}
	}
	return n, ok
}

// unitsCalled are the containers of a name: their id, what they are called or a part of that, or what sort they are.
func (r *reader) unitsCalled(text string) (out []string) {
	for _, same := range []func(*shop.Container) bool{
		func(c *shop.Container) bool { return strings.EqualFold(c.ID, text) },
		func(c *shop.Container) bool { return strings.EqualFold(c.Name, text) },
		func(c *shop.Container) bool { return nameHas(c.Name, text) || strings.EqualFold(string(c.Kind), text) },
	} {
		for i := range r.ctx.Containers {
			if c := &r.ctx.Containers[i]; same(c) && len(r.inside(c.ID)) > 0 {
				out = append(out, c.ID)
			}
		}
		if len(out) > 0 {
			return out
		}
	}
	return nil
}

// inside are the places in a container, from the top and from the left.
func (r *reader) inside(unit string) (ids []string) {
	var list []*shop.Place
	for i := range r.ctx.Places {
		if r.ctx.Places[i].At.In == unit {
			list = append(list, &r.ctx.Places[i])
		}
	}
	slices.SortStableFunc(list, func(a, b *shop.Place) int {
		if a.At.Z != b.At.Z {
			return int(b.At.Z - a.At.Z)
		}
		return int(a.At.X - b.At.X)
	})
	for _, p := range list {
		ids = append(ids, p.ID)
	}
	return ids
}
