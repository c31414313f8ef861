package note

import (
	"errors"
	"fmt"
	"regexp"
	"slices"
	"strings"

	"hobrak/internal/core/length"
	"hobrak/internal/core/shop"
	"hobrak/internal/core/survey"
)

// RoomReading is a line about a room: the area it comes to, measured as far as it was said.
type RoomReading struct {
	Reading
	Area *shop.Area
}

// Room reads a room in one breath, its pieces in any order. The first length of the size is that of walls B
// and D, the second that of A and C.
func Room(s *shop.Shop, text string) RoomReading {
	r := &room{scan: scan{text: text, units: s.Settings.Units, bigBare: 15, chips: []Chip{}}, letters: 4}
	if r.units == length.Imperial {
		r.bigBare = 0 // inches, but for the size of the room
	}
	parts := r.subjects(clauses(tokens(text, false)))
	// What gives the room its shape comes first, whatever the order it is said in.
	for turn := range turns {
		for _, p := range parts {
			if p.subject.turn == turn {
				r.all, r.at = p.tokens, p.wall
				p.subject.read(r)
			}
		}
		if turn == outline {
			r.shape()
		}
	}
	out := RoomReading{Reading: Reading{Chips: r.chips}}
	area := r.build()
	slices.SortStableFunc(r.chips, func(a, b Chip) int { return a.From - b.From })
	out.Chips = r.chips
	switch {
	case strings.TrimSpace(text) == "":
		out.Why = "nothing is said yet"
	case !r.sized:
		out.Why = "say how long and wide the room is, as 5.6 x 4.1 x 2.4"
		if r.units == length.Imperial {
			out.Why = `say how long and wide the room is, as 18' x 13' 6" x 8'`
		}
	case out.Unclear():
		out.Why = "something is not clear"
	case area != nil:
		out.Area, out.Entry = area, area
	}
	return out
}

// room is a room while a line about it is read.
type room struct {
	scan
	at      string // wall that is spoken of, while no other is named
	letters int    // how many walls there are

	sized            bool
	long, wide, high length.Length
	sizeAt           [2]int // where it is said
	notch            *notch
	entries          []entry
	said             map[string]length.Length // lengths of single walls
}

// notch is what is missing of the rectangle at a corner: so far along the wall before it and the one after.
type notch struct {
	wall int // the wall before the corner
	a, b length.Length
	at   [2]int // where it is said
}

// entry of the survey, with the piece of the line it comes from.
type entry struct {
	survey.Entry
	from, to int
}

// subject is what a piece of the line is about.
type subject struct {
	// told tells whether a piece is about it.
	told func(*room) bool
	read func(*room)
	turn turn
	// joins: pieces about it that follow each other are one.
	joins bool
}

// turn is when a subject is read: what gives the room its shape before what is in its walls.
type turn int

const (
	outline turn = iota
	tops
	rest
	turns
)

type part struct {
	subject *subject
	tokens  []token
	wall    string
}

// subjects in the order they are looked for. Something new to say of a room is one line here.
var subjects []*subject

func init() {
	subjects = []*subject{
		{told: (*room).tellsNotch, read: (*room).readNotch},
		{told: (*room).tellsChimney, read: (*room).readChimney, turn: rest},
		{told: (*room).tellsFall, read: (*room).readFall, turn: rest},
		{told: (*room).tellsGable, read: (*room).readGable, turn: tops, joins: true},
		{told: (*room).tellsPitch, read: (*room).readPitch, turn: tops},
		{told: (*room).tellsJoists, read: (*room).readJoists, turn: rest},
		{told: (*room).tellsFeature, read: (*room).readFeature, turn: rest},
		{told: (*room).tellsWall, read: (*room).readWall, turn: rest},
		{told: (*room).tellsSize, read: (*room).readSize},
		{turn: rest, told: func(*room) bool { return true }, read: func(r *room) {
			r.leftover("say a size, a wall, a door, a window, an outlet, studs, joists or the fall of the floor")
		}},
	}
}

// subjects finds what each piece is about. One that is about nothing of its own goes on with the piece before:
// "door A 850x1980, 400 from the left, opens in".
func (r *room) subjects(pieces [][]token) (out []part) {
	wall := ""
	for _, p := range pieces {
		r.all = p
		if w := r.heading(); w != "" {
			wall = w
			r.chip(p[0].from, p[len(p)-1].to, "wall", "wall "+w, true)
			continue
		}
		i := slices.IndexFunc(subjects, func(s *subject) bool { return s.told(r) })
		last := i == len(subjects)-1
		size := i == len(subjects)-2
		if len(out) > 0 && (last || subjects[i].joins && out[len(out)-1].subject == subjects[i] || size && slices.ContainsFunc(out, func(x part) bool { return x.subject == subjects[i] })) {
			before := &out[len(out)-1]
			before.tokens = slices.Concat(before.tokens, []token{{kind: cut, used: true, from: p[0].from, to: p[0].from}}, p)
			continue
		}
		out = append(out, part{subjects[i], p, wall})
	}
	return out
}

// heading is the wall a piece names and says nothing else of, as "Wall A:" or "A:".
func (r *room) heading() string {
	if len(r.all) == 1 && len(r.all[0].raw) == 1 {
		if w := lettersOf(r.all[0], false); w != nil {
			return w[0]
		}
	}
	if len(r.all) == 2 && r.is(0, "wall") {
		if w := lettersOf(r.all[1], true); len(w) == 1 {
			return w[0]
		}
	}
	return ""
}

var walls = regexp.MustCompile(`^[A-Z](?:[/&-][A-Z])*$`)

// lettersOf are the walls a token names: B, C/D. After the word "wall" small letters are walls too.
func lettersOf(t token, small bool) (out []string) {
	raw := t.raw
	if small {
		raw = strings.ToUpper(raw)
	}
	if t.kind != word || !walls.MatchString(raw) {
		return nil
	}
	for i := 0; i < len(raw); i += 2 {
		out = append(out, raw[i:i+1])
	}
	return out
}

// takeWalls takes the walls a piece names; those spoken of before when it names none.
func (r *room) takeWalls() (out []string) {
	for i := range r.all {
		small := i > 0 && r.all[i-1].kind == word && (r.all[i-1].text == "wall" || r.all[i-1].text == "walls")
		if w := lettersOf(r.all[i], small); w != nil && !r.all[i].used {
			out = append(out, w...)
			r.use(i, i+1)
		}
	}
	if out == nil && r.at != "" {
		out = []string{r.at}
	}
	return out
}

// orAll are all walls when none is named.
func (r *room) orAll(names []string) []string {
	if names != nil {
		return names
	}
	for i := range r.letters {
		names = append(names, letter(i))
	}
	return names
}

func letter(i int) string { return string(rune('A' + i)) }

// take the length before one of these words, or else the first one after one of the others.
func (r *room) take(before, after []string) *length.Length {
	for i := range r.all {
		for _, w := range after {
			if n := r.phrase(i+1, w); r.isLong(i) && n > 0 {
				return r.takeLong(i, i+1+n, i)
			}
		}
	}
	for i := range r.all {
		if !r.is(i, before...) {
			continue
		}
		k := i + 1
		for r.is(k, "is", "of", "the", "every", "from", "first", "at") {
			k++
		}
		if r.isLong(k) {
			return r.takeLong(i, k+1, k)
		}
	}
	return nil
}

// takeLong reads the length at k and marks tokens as understood.
func (r *room) takeLong(from, to, k int) *length.Length {
	l, _, err := r.length(&r.all[k])
	r.use(from, to)
	if err != nil {
		r.chip(r.all[k].from, r.all[k].to, unknown, err.Error(), true)
		return nil
	}
	return &l
}

// lengths that nothing was made of yet, those joined by a cross first.
func (r *room) crossed() (out []length.Length) {
	for i := range r.all {
		if !r.isLong(i) || i+1 >= len(r.all) || r.all[i+1].kind != by {
			continue
		}
		k := i
		for {
			if l := r.takeLong(k, k+1, k); l != nil {
				out = append(out, *l)
			}
			if k+2 >= len(r.all) || r.all[k+1].kind != by || !r.isLong(k+2) {
				return out
			}
			r.use(k+1, k+2)
			k += 2
		}
	}
	return out
}

// loose are the single lengths that are left.
func (r *room) loose() (out []length.Length) {
	for i := range r.all {
		if r.isLong(i) {
			if l := r.takeLong(i, i+1, i); l != nil {
				out = append(out, *l)
			}
		}
	}
	return out
}

// enter notes an entry of the survey that the piece comes to.
func (r *room) enter(path, text string) {
	from, to := r.span()
	r.entries = append(r.entries, entry{survey.Entry{Path: path, Text: text}, from, to})
}

// exact writes a length so that it is read as the same again.
func exact(l length.Length) string { return fmt.Sprintf("%.4f mm", l.MM()) }

// says what the piece was taken for, unless something of it was not understood.
func (r *room) says(kind, would, format string, args ...any) {
	if r.leftover(would) {
		return
	}
	from, to := r.span()
	r.chip(from, to, kind, fmt.Sprintf(format, args...), true)
}

func (r *room) wrong(format string, args ...any) {
	from, to := r.span()
	r.use(0, len(r.all))
	r.chip(from, to, unknown, fmt.Sprintf(format, args...), true)
}

// shape enters the lengths and heights of the walls.
func (r *room) shape() {
	if !r.sized {
		return
	}
	long := []length.Length{r.wide, r.long, r.wide, r.long}
	first := len(r.entries)
	at := r.sizeAt
	if n := r.notch; n != nil {
		at = n.at
		i := n.wall
		if i >= 2 {
			// The last corner closes the way round and cannot be turned before there are more walls.
			r.enter("walls/B/angle", "left")
		}
		r.enter("walls/"+letter(i+1)+"/angle", "left")
		if i >= 2 {
			r.enter("walls/B/angle", "square")
		}
		turned := slices.Insert(slices.Clone(long), i+1, n.b, n.a)
		turned[i] -= n.a
		next := (i + 3) % 6
		turned[next] -= n.b
		long = turned
	}
	r.letters = len(long)
	for i, l := range long {
		if own, ok := r.said[letter(i)]; ok {
			l = own
		}
		r.enter("walls/"+letter(i)+"/length", exact(l))
	}
	if r.high > 0 {
		for i := range long {
			r.enter("walls/"+letter(i)+"/top/0/z", exact(r.high))
		}
	}
	for i := range r.entries[first:] {
		r.entries[first+i].from, r.entries[first+i].to = at[0], at[1]
	}
}

// build makes the area the entries come to and says what of them cannot be.
func (r *room) build() *shop.Area {
	if !r.sized {
		return nil
	}
	s := &shop.Shop{Format: shop.Format, Version: shop.Version, Settings: shop.Settings{Name: "room", Units: r.units}, Areas: []shop.Area{{ID: "main"}}}
	survey.Begin(&s.Areas[0])
	added := ""
	for i, e := range r.entries {
		path := strings.Replace(e.Path, justAdded, added, 1)
		got, err := survey.Enter(s, "main", survey.Entry{Path: path, Text: e.Text})
		if got != "" {
			added = got
		}
		// A piece is whole when all it says is entered.
		if whole := i+1 == len(r.entries) || r.entries[i+1].from != e.from || strings.HasSuffix(r.entries[i+1].Path, "/+"); err == nil && whole {
			err = valid(s)
		}
		if err != nil {
			r.chip(e.from, e.to, unknown, err.Error(), true)
			return nil
		}
	}
	if why := survey.Of(&s.Areas[0]).Fault; why != "" {
		r.chip(0, len(r.text), unknown, why, true)
		return nil
	}
	return &s.Areas[0]
}

// justAdded stands in a path for what the entry before added.
const justAdded = "ADDED"

// valid says what of a room cannot be, in words.
func valid(s *shop.Shop) error {
	var faults *shop.Faults
	if err := s.Validate(); errors.As(err, &faults) && len(faults.List) > 0 {
		return errors.New(faults.List[0].Message)
	} else if err != nil {
		return err
	}
	return nil
}
