package note

import (
	"fmt"
	"slices"
	"strings"

	"hobrak/internal/core/floor"
	"hobrak/internal/core/length"
	"hobrak/internal/core/line"
	"hobrak/internal/core/quantity"
	"hobrak/internal/core/shop"
	"hobrak/internal/core/weight"
)

// StationReading is a line about a station, and where it is said to stand.
type StationReading struct {
	Reading
	Station *shop.Station
	Where   floor.Wish
}

// Station reads a machine or a bench, as "table saw 800x750x860 wheels 9A" or "bench 1500x600x880 wall B". The
// size is width, depth and the height of its table, or its height overall where that is said to be another.
// What is left out is assumed from the kind.
func Station(s *shop.Shop, text string) StationReading {
	r := begun(s, text)
	out := StationReading{}
	if strings.TrimSpace(text) == "" {
		out.Chips, out.Why = r.chips, "nothing is said yet"
		return out
	}
	r.where()
	r.mobility()
	r.sizes()
	r.named()
	r.finish()
	slices.SortStableFunc(r.chips, func(a, b Chip) int { return a.From - b.From })
	out.Chips = r.chips
	switch {
	case r.st.Name == "":
		out.Why = "say what it is, as table saw 800x750x860"
	case out.Unclear():
		out.Why = "something is not clear"
	default:
		out.Station, out.Where, out.Entry = &r.st, r.at, &r.st
	}
	return out
}

// begun is a line of one piece: commas in it only part what would run together.
func begun(s *shop.Shop, text string) *station {
	r := &station{scan: scan{text: text, units: s.Settings.Units, all: tokens(text, true), chips: []Chip{}}, shop: s}
	for i := range r.all {
		r.all[i].used = r.all[i].kind == cut
	}
	return r
}

type station struct {
	scan
	shop *shop.Shop
	st   shop.Station
	at   floor.Wish
	dims []length.Length
	said map[string]length.Length
}

// piece marks tokens from i to k as understood and says what they were taken for.
func (r *station) piece(i, k int, kind, format string, args ...any) {
	r.use(i, k)
	r.chip(r.all[i].from, r.all[k-1].to, kind, fmt.Sprintf(format, args...), true)
}

// lengthAt reads the length at i; a small number by itself is metres, or feet, along a wall.
func (r *station) lengthAt(i int, along bool) (length.Length, bool) {
	r.bigBare = 0
	if along {
		r.bigBare = 15
	}
	l, _, err := r.length(&r.all[i])
	if err != nil || l < 0 {
		return 0, false
	}
	return l, true
}

func (r *station) where() {
	for i := range r.all {
		if r.is(i, "in", "to") && r.is(i+1, "the") && r.is(i+2, "middle") || r.is(i, "middle") {
			k := i + 1
			for k < len(r.all) && r.is(k, "the", "middle") {
				k++
			}
			r.at.Middle = true
			r.piece(i, k, "at", "in the middle of the room")
		}
		if r.is(i, "under", "by", "at", "before", "beside") {
			k := i + 1
			for r.is(k, "the", "house", "main", "back") {
				k++
			}
			if r.is(k, "window", "door", "panel", "sink") {
				r.at.By = r.all[k].text
				r.piece(i, k+1, "at", "by the %s", r.at.By)
			}
		}
	}
	for i := range r.all {
		// "at C end of wall D"
		if w := lettersOf(r.all[i], false); len(w) == 1 && !r.all[i].used && r.is(i+1, "end") {
			r.at.End = w[0]
			from := i
			if r.is(i-1, "at", "the") {
				from--
			}
			k := i + 2
			for r.is(k, "of", "the") {
				k++
			}
			r.piece(from, k, "at", "at the end of wall %s", w[0])
		}
	}
	for i := range r.all {
		after := r.is(i-1, "wall")
		w := lettersOf(r.all[i], after)
		if len(w) != 1 || r.all[i].used || r.at.Wall != "" || len(r.all[i].raw) > 1 {
			continue
		}
		if i == 0 && !after {
			continue // the first word is what it is
		}
		from := i
		for from > 0 && r.is(from-1, "wall", "at", "on", "against", "along") {
			from--
		}
		r.at.Wall = w[0]
		k := i + 1
		for r.is(k, "at", "from") && r.isLong(k+1) || r.isLong(k) && !(k+1 < len(r.all) && r.all[k+1].kind == by) {
			if !r.isLong(k) {
				k++
				continue
			}
			if l, ok := r.lengthAt(k, true); ok {
				r.at.From = &l
			}
			k++
			break
		}
		for _, more := range []string{"from the left", "from left", "along"} {
			if n := r.phrase(k, more); n > 0 && r.at.From != nil {
				k += n
			}
		}
		says := "at wall " + w[0]
		if !slices.ContainsFunc(r.walls(), func(id string) bool { return id == w[0] }) {
			r.use(from, k)
			r.chip(r.all[from].from, r.all[k-1].to, unknown, fmt.Sprintf("there is no wall %s; there are %s", w[0], strings.Join(r.walls(), ", ")), true)
			continue
		}
		if r.at.From != nil {
			says += fmt.Sprintf(", %s from its left end", *r.at.From)
		}
		r.piece(from, k, "at", "%s", says)
	}
}

func (r *station) walls() (ids []string) {
	if len(r.shop.Areas) == 0 {
		return []string{"A", "B", "C", "D"}
	}
	for _, w := range r.shop.Areas[0].Walls {
		ids = append(ids, w.ID)
	}
	return ids
}

var mobilities = []struct {
	words string
	is    shop.Mobility
	says  string
}{
	{"locking casters", shop.Rolls, "rolls on casters that lock"}, {"locking castors", shop.Rolls, "rolls on casters that lock"}, {"locking wheels", shop.Rolls, "rolls on wheels that lock"}, {"lockable wheels", shop.Rolls, "rolls on wheels that lock"},
	{"on wheels", shop.Rolls, "rolls"}, {"on casters", shop.Rolls, "rolls"}, {"on castors", shop.Rolls, "rolls"}, {"wheels", shop.Rolls, "rolls"}, {"wheeled", shop.Rolls, "rolls"}, {"casters", shop.Rolls, "rolls"}, {"mobile", shop.Rolls, "rolls"}, {"rolls", shop.Rolls, "rolls"}, {"rolling", shop.Rolls, "rolls"}, {"moves about", shop.Rolls, "is moved about"},
	{"folds down", shop.Folds, "folds"}, {"on folding stand", shop.Folds, "folds"}, {"on a folding stand", shop.Folds, "folds"}, {"folding", shop.Folds, "folds"}, {"folds", shop.Folds, "folds"}, {"foldable", shop.Folds, "folds"}, {"hangs up", shop.HungUp, "is hung up"}, {"fixed", shop.Fixed, "stays where it is"}, {"bolted down", shop.Fixed, "stays where it is"},
}

func (r *station) mobility() {
	for i := range r.all {
		for _, m := range mobilities {
			if n := r.phrase(i, m.words); n > 0 && r.st.Mobility == "" {
				r.st.Mobility = m.is
				if m.is == shop.Rolls && strings.HasPrefix(m.words, "lock") {
					r.st.Casters = shop.Locking
				}
				r.piece(i, i+n, "mobility", "%s", m.says)
			}
		}
	}
	for i := range r.all {
		if t := r.all[i]; t.kind == amps && !t.used {
			a := t.value
			if t.bare { // watts
				a = t.value / r.shop.Volts()
			}
			r.st.Amps = a
			r.piece(i, i+1, "amps", "draws %s A", quantity.Number(a, 3))
		}
		if t := r.all[i]; t.kind == kilos && !t.used {
			r.st.KG = weight.KG(t.value)
			r.piece(i, i+1, "weight", "weighs %s", r.st.KG)
		}
	}
}

func (r *station) sizes() {
	r.said = map[string]length.Length{}
	for i := range r.all {
		for _, f := range []struct {
			field string
			words []string
			says  string
		}{{"h", []string{"table", "top"}, "its table is %s high"}, {"tall", []string{"tall", "overall"}, "%s high overall"}, {"h", []string{"high"}, "%s high"}} {
			k := -1
			switch {
			case r.is(i, f.words...) && r.isLong(i+1) && !(i+2 < len(r.all) && r.all[i+2].kind == by):
				k = i + 1
			case r.isLong(i) && r.is(i+1, f.words...) && !(i > 0 && r.all[i-1].kind == by):
				k = i
			}
			if k < 0 {
				continue
			}
			if l, ok := r.lengthAt(k, false); ok && l > 0 {
				r.said[f.field] = l
				r.piece(i, i+2, "size", f.says, l)
			}
		}
	}
	for i := range r.all {
		if !r.isLong(i) || i+2 >= len(r.all) || r.all[i+1].kind != by {
			continue
		}
		k := i
		for {
			l, ok := r.lengthAt(k, false)
			if !ok || l <= 0 {
				r.use(i, k+1)
				r.chip(r.all[i].from, r.all[k].to, unknown, "a size is width x depth x height, as 800x750x860", true)
				return
			}
			r.dims = append(r.dims, l)
			if k+2 >= len(r.all) || r.all[k+1].kind != by || !r.isLong(k+2) || len(r.dims) == 3 {
				break
			}
			k += 2
		}
		r.use(i, k+1)
		r.chip(r.all[i].from, r.all[k].to, "size", "", true) // said when the kind is known
		return
	}
}

// named takes the words that are left for the name.
func (r *station) named() {
	var words []string
	from, to := -1, 0
	for i := range r.all {
		t := &r.all[i]
		if t.kind != word || t.used {
			continue
		}
		if t.text == "called" || t.text == "on" && r.is(i+1, "stand", "a") || slices.Contains([]string{"at", "wall", "the", "with", "its", "no", "longest", "stand"}, t.text) {
			if t.text == "called" {
				words, from = nil, -1
			}
			t.used = true
			continue
		}
		if from < 0 {
			from = i
		} else if gap := i - to; gap > 0 && len(words) > 0 && r.kind(words) != "" && r.kind(append(slices.Clone(words), t.text)) == r.kind(words) {
			// Words behind the sizes that add nothing to what it is are not part of its name.
			continue
		}
		words = append(words, t.raw)
		t.used = true
		to = i + 1
	}
	if len(words) == 0 {
		return
	}
	name := strings.Join(words, " ")
	r.st.Name = line.Title(name)
	r.st.Kind = r.kind(words)
	says := "a " + r.st.Kind.Says()
	if r.st.Kind == "" {
		r.st.Kind = shop.StationKind(strings.ToLower(strings.Join(words, "-")))
		says = "a station of its own kind"
	}
	r.chip(r.all[from].from, r.all[to-1].to, "name", says, true)
}

func (r *station) kind(words []string) shop.StationKind {
	return shop.StationKindOf(strings.Join(words, " "))
}

// finish fills in what was not said.
func (r *station) finish() {
	usual := r.st.Kind.Usual()
	tall := r.st.Kind.Tall()
	if usual.W == 0 {
		usual, tall = shop.Bench.Usual(), 0
	}
	st := &r.st
	if len(r.dims) == 3 {
		third := r.dims[2]
		_, tableSaid := r.said["h"]
		// The third is the height overall where it is nearer to that, or where the table has its own.
		if near := tall > 0 && 2*third > tall+usual.H; tableSaid || near {
			r.said["tall"] = third
		} else {
			r.said["h"] = third
		}
	}
	take := func(field string, to *length.Length, usual length.Length) {
		if l, ok := r.said[field]; ok {
			*to = l
		} else if usual > 0 {
			*to = usual
			st.Assumed = append(st.Assumed, field)
		}
	}
	if len(r.dims) >= 2 {
		r.said["w"], r.said["d"] = r.dims[0], r.dims[1]
	}
	take("w", &st.W, usual.W)
	take("d", &st.D, usual.D)
	take("h", &st.H, usual.H)
	if _, said := r.said["tall"]; said || tall > st.H {
		take("tall", &st.Tall, tall)
	}
	if st.Tall > 0 && st.H > st.Tall {
		if slices.Contains(st.Assumed, "h") {
			st.H = st.Tall * 3 / 5
		} else {
			st.Tall = 0
		}
	}
	st.Feed = st.Kind.Feed()
	r.shop.Assume(st)
	for i := range r.chips {
		if c := &r.chips[i]; c.Kind == "size" && c.Says == "" {
			c.Says = fmt.Sprintf("%s wide, %s deep", st.W, st.D)
			if len(r.dims) == 3 {
				switch r.dims[2] {
				case st.Tall:
					c.Says += fmt.Sprintf(", %s high overall", st.Tall)
				case st.H:
					c.Says += fmt.Sprintf(", table %s high", st.H)
				}
			}
			if why := r.cannot(); why != "" {
				c.Kind, c.Says = unknown, why
			}
		}
	}
	r.leftover("a station is written as: table saw 800x750x860 wheels 9A wall B")
}

// cannot says why a station of that size cannot be in the room.
func (r *station) cannot() string {
	st := &r.st
	if st.W > 20*length.Metre || st.D > 20*length.Metre || max(st.H, st.Tall) > 6*length.Metre {
		return fmt.Sprintf("%s × %s is larger than any station may be; is the unit right?", st.W, st.D)
	}
	if len(r.shop.Areas) == 0 {
		return ""
	}
	a := &r.shop.Areas[0]
	low, high := a.Outline().Bounds()
	long, wide := length.MM(high.X-low.X), length.MM(high.Y-low.Y)
	if max(st.W, st.D) > max(long, wide) || min(st.W, st.D) > min(long, wide) {
		return fmt.Sprintf("%s × %s is larger than the room, %s × %s", st.W, st.D, long, wide)
	}
	return ""
}
