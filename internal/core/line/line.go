// Package line reads what somebody types about a thing they own, one line for
// one item, such as
//
//	jack plane 360x65x140 2.3kg weekly @bench hang
//	8 f-clamp 600
//	router bits 24 in box 200x150x60 monthly @router-table family:router
//
// It says for every piece of the line what it took it for, marks what it did
// not understand, and fills in what was not said from the kind of thing, as
// assumed. It never guesses silently. Lengths are mm, weights kg.
package line

import (
	"fmt"
	"slices"
	"sort"
	"strconv"
	"strings"
	"unicode"

	"hobrak/internal/core/kinds"
	"hobrak/internal/core/length"
	"hobrak/internal/core/quantity"
	"hobrak/internal/core/shop"
	"hobrak/internal/core/weight"
)

// Chip is a piece of the line and what it was taken for.
type Chip struct {
	From int    `json:"from" doc:"where it begins, in characters"`
	To   int    `json:"to"`
	Kind string `json:"kind" enum:"count,size,weight,uses,station,hold,flag,family,name,contents,word,place,wall,feature,ceiling,floor,at,mobility,amps,unknown"`
	Text string `json:"text" doc:"as typed"`
	Says string `json:"says" doc:"what it was taken for, or what would be right"`
	Sure bool   `json:"sure" doc:"false when a slip was forgiven"`
}

// Context is what a line may refer to.
type Context struct {
	Units    length.System
	Stations []shop.Station
	// Where a thing may be said to live, and what that is in; nothing is said of it where there is no area.
	Areas      []shop.Area
	Containers []shop.Container
	Places     []shop.Place
}

// Parsed line. The item has no id yet.
type Parsed struct {
	Item    shop.Item `json:"-"`
	Chips   []Chip    `json:"chips" nullable:"false"`
	Known   bool      `json:"known" doc:"the kind of thing is known"`
	Kind    string    `json:"kind"`
	Unknown int       `json:"unknown" doc:"pieces that were not understood"`
	Why     string    `json:"why" doc:"why no item can be made of it; empty when one can"`
	Place   string    `json:"place" doc:"where it is said to live; empty when that is not said"`
	Floor   string    `json:"floor" doc:"wall at which it stands on the floor, where no place is there yet"`
	Here    bool      `json:"here" doc:"the line says only where: what is typed next lives there, or nowhere yet"`
}

// DefaultSize in mm of a thing of which nothing is known: a shoe box.
var DefaultSize = [3]float64{200, 150, 120}

// reader takes pieces out of the line until only words are left.
type reader struct {
	ctx   Context
	rest  []byte // the line; what is taken becomes blanks, so that places stay
	text  string
	out   *Parsed
	dims  []length.Length
	one   *length.Length   // a length by itself that belongs to the kind
	long  *length.Length   // how long it is, whichever side that is
	sides [3]length.Length // said one by one: wide, high, deep
	count int
	kg    *weight.Weight
	uses  float64
	named string
}

// Parse reads a line.
func Parse(text string, ctx Context) *Parsed {
	if len(text) > 400 {
		text = strings.ToValidUTF8(text[:400], "")
	}
	r := &reader{ctx: ctx, text: text, rest: []byte(text), out: &Parsed{Chips: []Chip{}}}
	r.keys()
	r.contents()
	r.places()
	r.sizes()
	r.spelt()
	r.weights()
	volume := r.volume()
	r.rates()
	r.stations()
	r.hashed()
	r.counts()
	r.words(volume)
	r.fill()
	sort.SliceStable(r.out.Chips, func(i, j int) bool { return r.out.Chips[i].From < r.out.Chips[j].From })
	for _, c := range r.out.Chips {
		if c.Kind == "unknown" {
			r.out.Unknown++
		}
	}
	return r.out
}

// take notes a piece, by its bytes, and blanks it out.
func (r *reader) take(from, to int, kind, says string, sure bool) {
	for from < to && r.text[from] == ' ' {
		from++
	}
	for to > from && r.text[to-1] == ' ' {
		to--
	}
	if from == to {
		return
	}
	runes := func(n int) int { return len([]rune(r.text[:n])) }
	r.out.Chips = append(r.out.Chips, Chip{runes(from), runes(to), kind, r.text[from:to], says, sure})
	for i := from; i < to; i++ {
		r.rest[i] = ' '
	}
}

// left is the line with blanks for what was taken.
func (r *reader) left() string { return string(r.rest) }

// parse a length in the shop's units, or in the unit given for those without one.
func (r *reader) parse(s, fallback string) (length.Length, error) {
	s = strings.TrimSpace(s)
	if fallback != "" && !strings.ContainsAny(strings.ToLower(s), `mcift"'″′”’`) {
		s += " " + fallback
	}
	return length.Parse(s, r.ctx.Units)
}

func (r *reader) keys() {
	for _, m := range keyed.FindAllStringSubmatchIndex(r.left(), -1) {
		key, value := strings.ToLower(r.text[m[6]:m[7]]), strings.Trim(r.text[m[8]:m[9]], `"`)
		switch key {
		case "family", "fam":
			r.out.Item.Family = value
			r.take(m[4], m[5], "family", "lives with the family "+value, true)
		case "called", "name":
			r.named = value
			r.take(m[4], m[5], "name", "is called "+value, true)
		case "kind":
			if k, ok := kinds.ByID(strings.ToLower(value)); ok {
				r.out.Item.Kind = k.ID
				r.take(m[4], m[5], "name", "kind: "+k.Name, true)
			} else {
				r.take(m[4], m[5], "unknown", fmt.Sprintf("there is no kind %q", value), true)
			}
		case "count":
			if n, err := strconv.Atoi(value); err == nil && n > 0 && n <= shop.MostCount {
				r.count = n
				r.take(m[4], m[5], "count", fmt.Sprintf("%d alike", n), true)
			} else {
				r.take(m[4], m[5], "unknown", fmt.Sprintf("a count is a whole number from 1 to %d", shop.MostCount), true)
			}
		case "uses":
			if u, err := strconv.ParseFloat(strings.Replace(value, ",", ".", 1), 64); err == nil && u >= 0 && u <= shop.MostUses {
				r.uses = u
				r.take(m[4], m[5], "uses", fmt.Sprintf("%g times a week", u), true)
			} else {
				r.take(m[4], m[5], "unknown", "uses are a number a week", true)
			}
		case "wide", "high", "deep":
			i := slices.Index([]string{"wide", "high", "deep"}, key)
			if l, err := length.Parse(value, r.ctx.Units); err == nil && l > 0 && l <= shop.MostSide {
				r.sides[i] = l
				r.take(m[4], m[5], "size", fmt.Sprintf("%s %s", l, key), true)
			} else {
				r.take(m[4], m[5], "unknown", fmt.Sprintf("a side is more than 0 and at most %s, as wide:65", shop.MostSide), true)
			}
		case "weight":
			if w, err := weight.Parse(value, r.ctx.Units); err == nil && w > 0 {
				r.kg = &w
				r.take(m[4], m[5], "weight", w.String(), true)
			} else {
				r.take(m[4], m[5], "unknown", "a weight is written as 2.3kg or 5lb", true)
			}
		}
	}
}

func firstWord(s string) string {
	if f := strings.Fields(s); len(f) > 0 {
		return f[0]
	}
	return ""
}

func (r *reader) contents() {
	// "in drawer 2" says where, "24 in box" what it is kept in.
	if m := contents.FindStringSubmatchIndex(r.left()); m != nil && !number.MatchString(firstWord(r.left()[m[7]:])) {
		n, box := r.text[m[4]:m[5]], strings.ToLower(r.text[m[6]:m[7]])
		r.out.Item.Notes = fmt.Sprintf("%s in a %s", n, box)
		r.take(m[4], m[7], "contents", fmt.Sprintf("%s pieces in one %s, kept as one thing", n, box), true)
	}
}

func (r *reader) sizes() {
	left := r.left()
	m := sizes.FindStringSubmatchIndex(left)
	if m == nil {
		return
	}
	group := func(k int) string {
		if m[2*k] < 0 {
			return ""
		}
		return strings.TrimSpace(left[m[2*k]:m[2*k+1]])
	}
	// "600 mm x6" is six of 600 mm: the cross belongs to the number behind it.
	if m[8] < 0 && strings.HasSuffix(strings.TrimRight(left[:m[6]], "0123456789"), "x") && !strings.HasSuffix(left[:m[6]], " ") && m[6] >= 2 && left[m[6]-2] == ' ' {
		return
	}
	fallback := strings.ToLower(group(5))
	parts := []string{group(2), group(3)}
	if g := group(4); g != "" {
		parts = append(parts, g)
	}
	// A unit at the last one counts for all.
	if last := parts[len(parts)-1]; fallback == "" {
		if u := lastUnit.FindString(last); u != "" {
			fallback = strings.TrimSpace(u)
		}
	}
	for _, p := range parts {
		l, err := r.parse(p, fallback)
		if err != nil || l <= 0 || l > shop.MostSide {
			why := fmt.Sprintf("a size is more than 0 and at most %s on each side", shop.MostSide)
			if err != nil {
				why = err.Error()
			}
			r.dims = nil
			r.take(m[4], m[1], "unknown", why, true)
			return
		}
		r.dims = append(r.dims, l)
	}
	r.take(m[4], m[1], "size", "", true) // what it means depends on the kind
}

// spelt reads sides with a word behind them: "250 long 25 wide".
func (r *reader) spelt() {
	for _, m := range spelt.FindAllStringSubmatchIndex(r.left(), -1) {
		text, word := r.text[m[4]:m[5]], strings.ToLower(r.text[m[6]:m[7]])
		l, err := r.parse(text, "")
		if err != nil || l <= 0 || l > shop.MostSide {
			r.take(m[2], m[7], "unknown", fmt.Sprintf("a side is more than 0 and at most %s, as 250 long", shop.MostSide), true)
			continue
		}
		switch word {
		case "long":
			r.long = &l
		case "wide":
			r.sides[0] = l
		case "high", "tall":
			r.sides[1] = l
		default:
			r.sides[2] = l
		}
		r.take(m[2], m[7], "size", fmt.Sprintf("%s %s", l, word), true)
	}
}

func (r *reader) weights() {
	if m := weights.FindStringSubmatchIndex(r.left()); m != nil && r.kg == nil {
		text := r.text[m[4]:m[5]]
		for _, u := range spelled {
			text = u.as.ReplaceAllString(text, u.unit)
		}
		w, err := weight.Parse(text, r.ctx.Units)
		if err != nil || w <= 0 || w.KG() > 2000 {
			r.take(m[4], m[5], "unknown", "a weight is written as 2.3kg, 800 g or 5 lb 4 oz", true)
			return
		}
		r.kg = &w
		r.take(m[4], m[5], "weight", w.String(), true)
	}
}

// volume of a tin or a bottle belongs to its name.
func (r *reader) volume() string {
	m := volumes.FindStringSubmatchIndex(r.left())
	if m == nil {
		return ""
	}
	text := r.text[m[4]:m[5]]
	r.take(m[4], m[5], "name", "part of the name: "+text, true)
	return text
}

func (r *reader) rates() {
	if m := rates.FindStringSubmatchIndex(r.left()); m != nil {
		times := 1.0
		per := ""
		if m[6] >= 0 {
			times, _ = strconv.ParseFloat(strings.Replace(r.text[m[6]:m[7]], ",", ".", 1), 64)
			per = strings.ToLower(r.text[m[8]:m[9]])
		} else {
			times = map[string]float64{"once": 1, "twice": 2, "three times": 3}[strings.ToLower(r.text[m[10]:m[11]])]
			per = strings.ToLower(r.text[m[12]:m[13]])
		}
		r.uses = times * perWeek[per]
		r.take(m[4], m[5], "uses", quantity.Number(r.uses, 3)+" times a week", true)
		return
	}
	low := strings.ToLower(r.left())
	for _, p := range phrases {
		if i := strings.Index(low, p.text); i >= 0 && len(low) == len(r.text) {
			r.uses = p.uses
			r.take(i, i+len(p.text), "uses", quantity.Number(p.uses, 3)+" times a week", true)
			return
		}
	}
}

func (r *reader) stations() {
	for _, m := range at.FindAllStringSubmatchIndex(r.left(), -1) {
		name := r.text[m[4]:m[5]]
		id, sure, many := r.station(name)
		switch {
		case id != "":
			if !slices.Contains(r.out.Item.UsedAt, id) {
				r.out.Item.UsedAt = append(r.out.Item.UsedAt, id)
			}
			r.take(m[4]-1, m[5], "station", "used at "+r.stationName(id), sure)
		case many != "":
			r.take(m[4]-1, m[5], "unknown", fmt.Sprintf("%q could be %s", name, many), true)
		default:
			r.take(m[4]-1, m[5], "unknown", fmt.Sprintf("there is no station %q; %s", name, r.stationList()), true)
		}
	}
}

func (r *reader) stationName(id string) string {
	for _, st := range r.ctx.Stations {
		if st.ID == id {
			return st.Name
		}
	}
	return id
}

func (r *reader) stationList() string {
	var ids []string
	for _, st := range r.ctx.Stations {
		ids = append(ids, "@"+st.ID)
	}
	if len(ids) == 0 {
		return "the shop has none yet"
	}
	return "there are " + strings.Join(ids, ", ")
}

// station by its id, its name, or the beginning of either when only one has it.
func (r *reader) station(name string) (id string, sure bool, many string) {
	key := func(s string) string {
		return strings.ToLower(strings.Map(func(c rune) rune {
			if unicode.IsLetter(c) || unicode.IsDigit(c) {
				return c
			}
			return -1
		}, s))
	}
	want := key(name)
	var begin []string
	for _, st := range r.ctx.Stations {
		if key(st.ID) == want || key(st.Name) == want || key(string(st.Kind)) == want && want != "" && r.only(st.Kind) {
			return st.ID, true, ""
		}
		if want != "" && (strings.HasPrefix(key(st.ID), want) || strings.HasPrefix(key(st.Name), want)) {
			begin = append(begin, st.ID)
		}
	}
	switch {
	case len(begin) == 1:
		return begin[0], false, ""
	case len(begin) > 1:
		return "", false, "@" + strings.Join(begin, " or @")
	}
	return "", false, ""
}

func (r *reader) only(kind shop.StationKind) bool {
	n := 0
	for _, st := range r.ctx.Stations {
		if st.Kind == kind {
			n++
		}
	}
	return n == 1
}

func (r *reader) hashed() {
	for _, m := range hashed.FindAllStringSubmatchIndex(r.left(), -1) {
		word := strings.ToLower(r.text[m[4]:m[5]])
		if f, ok := flagWords[word]; ok {
			r.flag(f, m[4]-1, m[5])
			continue
		}
		r.take(m[4]-1, m[5], "unknown", fmt.Sprintf("%q is no flag; there are %s", word, strings.Join(shop.Flag("").Words(), ", ")), true)
	}
}

func (r *reader) flag(f string, from, to int) {
	if f := shop.Flag(f); !slices.Contains(r.out.Item.Flags, f) {
		r.out.Item.Flags = append(r.out.Item.Flags, f)
	}
	r.take(from, to, "flag", f, true)
}

func (r *reader) counts() {
	left := r.left()
	if m := counted.FindStringSubmatchIndex(left); m != nil {
		from, to := m[0], m[1]
		for from < to && left[from] == ' ' {
			from++
		}
		switch {
		case m[2] >= 0 || m[4] >= 0:
			k := 2
			if m[2] < 0 {
				k = 4
			}
			r.count, _ = strconv.Atoi(left[m[k]:m[k+1]])
		default:
			r.count = amounts[strings.Join(strings.Fields(strings.ToLower(left[m[6]:m[7]])), " ")]
		}
		if r.count > 0 {
			r.take(from, to, "count", fmt.Sprintf("%d alike", r.count), true)
		} else {
			r.take(from, to, "unknown", "a count is at least 1", true)
		}
		return
	}
	if m := countEnd.FindStringSubmatchIndex(left); m != nil && r.count == 0 {
		k := 4
		if m[4] < 0 {
			k = 6
		}
		if n, _ := strconv.Atoi(left[m[k]:m[k+1]]); n > 0 {
			r.count = n
			r.take(m[3], m[8], "count", fmt.Sprintf("%d alike", n), true)
		}
	}
}

// likely tells whether a number by itself is how long a thing of a kind is: about as long as they usually are.
func likely(l length.Length, k kinds.Kind) bool {
	usual := max(k.W, k.H, k.D)
	return l.MM() >= .6*usual && l.MM() <= 1.7*usual
}

// word of what is left, with where it is.
type word struct {
	from, to int
	text     string
}

func (r *reader) split() []word {
	var out []word
	from := -1
	end := func(i int) {
		if from >= 0 {
			out = append(out, word{from, i, string(r.rest[from:i])})
			from = -1
		}
	}
	for i, c := range r.left() {
		if unicode.IsSpace(c) || c == ',' || c == ';' || c == '(' || c == ')' {
			end(i)
		} else if from < 0 {
			from = i
		}
	}
	end(len(r.rest))
	return out
}

// words makes the name of what is left, finds its kind, and takes out the
// words that say how often, how it is held and what care it needs.
func (r *reader) words(volume string) {
	list := r.split()
	join := func(ws []word) string {
		var t []string
		for _, w := range ws {
			t = append(t, w.text)
		}
		return strings.Join(t, " ")
	}
	from := list
	if r.named != "" {
		from = slices.DeleteFunc(slices.Clone(list), saysSomethingElse)
	}
	match, ok := kinds.Find(join(from))
	used := map[string]bool{}
	if ok {
		for _, w := range kinds.Words(join(from)) {
			used[w] = true
		}
		for _, w := range match.Rest {
			delete(used, w)
		}
	} else if r.named != "" {
		match, ok = kinds.Find(r.named)
	}
	var name []word
	for _, w := range list {
		low := strings.ToLower(strings.Trim(w.text, ".!"))
		inKind := false
		for _, p := range kinds.Words(w.text) {
			inKind = inKind || used[p]
		}
		switch {
		case inKind:
			name = append(name, w)
		case often[low] > 0 && r.uses == 0:
			r.uses = often[low]
			r.take(w.from, w.to, "uses", quantity.Number(r.uses, 3)+" times a week", true)
		case holding[low] != "":
			if h := shop.Hold(holding[low]); !slices.Contains(r.out.Item.Hold, h) {
				r.out.Item.Hold = append(r.out.Item.Hold, h)
			}
			r.take(w.from, w.to, "hold", holding[low], true)
		case flagWords[low] != "":
			r.flag(flagWords[low], w.from, w.to)
		case low == "keep":
			r.out.Item.Keep = true
			r.take(w.from, w.to, "word", "never suggested for leaving", true)
		case low == "household":
			r.out.Item.Realm = "household"
			r.take(w.from, w.to, "word", "belongs to the household", true)
		case low == "wished":
			r.out.Item.Status = "wished"
			r.take(w.from, w.to, "word", "not owned yet", true)
		default:
			name = append(name, w)
		}
	}
	r.name(name, volume, match, ok)
}

// saysSomethingElse tells whether a word says how a thing is held, how often it
// is fetched or what care it needs: with called: the name is given, and it does.
func saysSomethingElse(w word) bool {
	low := strings.ToLower(strings.Trim(w.text, ".!"))
	return holding[low] != "" || often[low] > 0 || flagWords[low] != ""
}

// name takes the numbers out of the name and settles the kind.
func (r *reader) name(list []word, volume string, match kinds.Match, ok bool) {
	if ok {
		r.out.Known, r.out.Kind = true, match.Kind.ID
	}
	var kept []string
	for _, w := range list {
		kept = append(kept, r.part(w, list, match, ok))
	}
	text := strings.Join(strings.Fields(strings.Join(kept, " ")+" "+volume), " ")
	text = strings.Trim(text, " -–,.")
	if r.named != "" {
		text = r.named
	}
	if text != "" {
		runes := []rune(text)
		text = string(unicode.ToUpper(runes[0])) + string(runes[1:])
	}
	r.out.Item.Name = text
}

// part handles one word of the name and gives back what stays of it.
func (r *reader) part(w word, list []word, match kinds.Match, ok bool) string {
	says := "part of the name"
	if ok {
		says = match.Kind.Name
	}
	isKind := ok && !slices.ContainsFunc(kinds.Words(w.text), func(p string) bool { return slices.Contains(match.Rest, p) })
	full, withUnit := number.MatchString(w.text), measured.MatchString(w.text)
	isUnit := slices.Contains(lengthUnits, strings.ToLower(w.text))
	i := slices.Index(list, w)
	switch {
	case isUnit && i > 0 && number.MatchString(list[i-1].text):
		return "" // taken with its number
	case (full || withUnit) && !isKind:
		to, text := w.to, w.text
		if full && i+1 < len(list) {
			if u := strings.ToLower(list[i+1].text); slices.Contains(lengthUnits, u) {
				to, text = list[i+1].to, w.text+" "+u
			}
		}
		l, err := length.Parse(text, r.ctx.Units)
		switch {
		case err == nil && l > 0 && l <= shop.MostSide && ok && (match.Kind.Series != nil || match.Kind.Length) && r.one == nil && len(r.dims) == 0:
			r.one = &l
			r.take(w.from, to, "size", "", true)
			return length.Style{System: r.ctx.Units}.Format(l) // in the name
		case err == nil && ok && r.long == nil && len(r.dims) == 0 && likely(l, match.Kind):
			r.long = &l
			r.take(w.from, to, "size", fmt.Sprintf("%s long", l), withUnit || to != w.to)
			return length.Style{System: r.ctx.Units}.Format(l)
		case withUnit || to != w.to:
			r.take(w.from, to, "name", "part of the name: "+text, true)
			return text
		case ok && (match.Kind.Group == "blades bits and abrasives"):
			r.take(w.from, to, "name", "part of the name: grit or size "+text, true)
			return text
		}
		r.take(w.from, to, "unknown", fmt.Sprintf("%s of what? Write a size as 360x65x140, a weight as 2.3kg, a count before the name", w.text), true)
		return ""
	case strings.ContainsAny(w.text, ":=@#") || !sayable.MatchString(w.text):
		r.take(w.from, w.to, "unknown", fmt.Sprintf("%q is not understood", w.text), true)
		return ""
	}
	sure := true
	if isKind {
		sure = match.Sure
	} else {
		says = "part of the name"
	}
	r.take(w.from, w.to, "name", says, sure)
	return w.text
}
