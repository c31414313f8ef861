package survey

import (
	"fmt"
	"math"
	"slices"
	"strconv"
	"strings"

	"hobrak/internal/core/geometry"
	"hobrak/internal/core/length"
	"hobrak/internal/core/shop"
)

// An Entry puts what was typed into one field of a survey. Fields are named by
// paths, relative to the area:
//
//	name, kind, walk_seconds, climate, instrument
//	walls/A/length             the first reading of the wall; empty takes it away
//	walls/A/angle              inside angle at its right end: a number, or square, left, right
//	walls/A/top                level, slope or gable
//	walls/A/top/0/x, …/z       a point of the top edge
//	walls/A/surface, walls/A/claimed
//	walls/A/studs              none, spaced or listed; …/first, …/spacing, …/width, …/list
//	walls/A/split, walls/A/remove
//	walls/A/features/+         a feature of the kind typed
//	walls/A/features/ID/x      and z, w, h, d, hinge, swing, shape, name, circuit, remove
//	measures/+/wall:A          another reading; also diagonal:0-2 and angle:1
//	measures/0/value           and left_out, remove
//	ceiling/joists             none, x or y; ceiling/joists/spacing, …/first
//	ceiling/features/+         and ceiling/features/ID/x, y, w, d, drop, kind, remove
//	floor/fall, floor/toward
//	floor/features/+           and floor/features/ID/x, y, w, d, kind, remove
type Entry struct {
	Path string
	Text string
	With string // tape or laser, when a reading was taken with something else than usual
}

// FieldError says why what was typed in a field cannot be.
type FieldError struct{ Path, Reason string }

func (e *FieldError) Error() string { return e.Reason }

// Enter makes an entry in the area of a shop and lets the corners follow from
// the measurements. It tells the path of what it added, if it added something.
// The error is a *FieldError; the shop may then have been changed in part and
// must be thrown away. Whether the shop is still valid is for its Validate to say.
func Enter(s *shop.Shop, area string, e Entry) (added string, err error) {
	a := shop.NewIndex(s).Area(area)
	if a == nil {
		return "", &FieldError{e.Path, fmt.Sprintf("there is no area %q", area)}
	}
	p := &pen{shop: s, area: a, entry: e, text: strings.TrimSpace(e.Text)}
	p.write(strings.Split(e.Path, "/"))
	if p.err != nil {
		return "", p.err
	}
	return p.added, nil
}

// pen writes one entry.
type pen struct {
	shop  *shop.Shop
	area  *shop.Area
	entry Entry
	text  string
	added string
	err   error
}

func (p *pen) fail(format string, args ...any) {
	if p.err == nil {
		p.err = &FieldError{p.entry.Path, fmt.Sprintf(format, args...)}
	}
}

func (p *pen) unknown() { p.fail("the survey has no field %q", p.entry.Path) }

// length reads a length of at least low.
func (p *pen) length(low length.Length) length.Length {
	l, err := length.Parse(p.text, p.shop.Settings.Units)
	switch {
	case err != nil:
		p.fail("%v", err)
	case l < low && low > 0:
		p.fail("%s is not possible here; it should be more than 0", l)
	case l < low:
		p.fail("%s is below 0", l)
	case l > 50*length.Metre:
		p.fail("%s is longer than any room here may be, %s", l, 50*length.Metre)
	}
	return l
}

func (p *pen) number(low, high float64) float64 {
	v, err := strconv.ParseFloat(strings.Replace(strings.TrimSuffix(p.text, "°"), ",", ".", 1), 64)
	if err != nil || math.IsNaN(v) || v < low || v > high {
		p.fail("%q should be a number from %v to %v", p.entry.Text, low, high)
	}
	return v
}

func (p *pen) choice(words ...string) string {
	if !slices.Contains(words, p.text) {
		p.fail("%q should be one of %s", p.entry.Text, strings.Join(words, ", "))
	}
	return p.text
}

func (p *pen) yes() bool { return p.choice("yes", "no") == "yes" }

func (p *pen) write(at []string) {
	a := p.area
	rest := at[1:]
	switch {
	case at[0] == "name" && len(rest) == 0:
		a.Name = p.text
	case at[0] == "kind" && len(rest) == 0:
		a.Kind = p.choice(areaKinds...)
	case at[0] == "walk_seconds" && len(rest) == 0:
		a.WalkSeconds = p.number(0, 3600)
	case at[0] == "climate" && len(rest) == 0:
		a.Climate = nil
		for _, c := range strings.Split(p.text, ",") {
			if c = strings.TrimSpace(c); slices.Contains(climates, c) {
				a.Climate = append(a.Climate, c)
			} else if c != "" {
				p.fail("%q should be %s, or several joined by commas", c, strings.Join(climates, ", "))
			}
		}
	case at[0] == "instrument" && len(rest) == 0:
		p.survey().Instrument = p.choice(instruments...)
		p.adopt()
	case at[0] == "walls" && len(rest) >= 2:
		if i := a.WallIndex(rest[0]); i >= 0 {
			p.wall(i, rest[1:])
			return
		}
		p.fail("there is no wall %q", rest[0])
	case at[0] == "measures" && len(rest) == 2:
		p.measure(rest)
	case at[0] == "ceiling" && len(rest) >= 1:
		p.ceiling(rest)
	case at[0] == "floor" && len(rest) >= 1:
		p.floor(rest)
	default:
		p.unknown()
	}
}

func (p *pen) survey() *shop.Survey {
	if p.area.Survey == nil {
		p.area.Survey = &shop.Survey{}
	}
	// From now on the corners move with the measurements, what they are taken for does not.
	p.area.Survey.Angles = slices.Clone(takenFor(p.area))
	return p.area.Survey
}

// adopt lets the corners follow from the measurements, unless they cannot be.
func (p *pen) adopt() {
	if p.err == nil {
		Adopt(p.shop, p.area)
	}
}

func (p *pen) wall(i int, at []string) {
	w := &p.area.Walls[i]
	field := strings.Join(at, "/")
	switch {
	case field == "length":
		p.wallLength(i)
	case field == "angle":
		p.angle(i)
	case field == "top":
		p.top(i)
	case at[0] == "top" && len(at) == 3:
		p.topPoint(i, at[1], at[2])
	case field == "surface":
		if p.text == "" {
			w.Surface = ""
			return
		}
		w.Surface = p.text
		w.Assumed = without(w.Assumed, "surface")
	case field == "claimed":
		w.Claimed = p.yes()
	case field == "studs":
		p.studs(w)
	case at[0] == "studs" && len(at) == 2:
		p.studField(w, at[1])
	case field == "split":
		p.split(i)
	case field == "remove":
		p.remove(i)
	case at[0] == "features" && len(at) == 2 && at[1] == "+":
		p.addFeature(w)
	case at[0] == "features" && len(at) == 3:
		p.feature(w, at[1], at[2])
	default:
		p.unknown()
	}
}

func (p *pen) wallLength(i int) {
	s := p.survey()
	id := p.area.Walls[i].ID
	k := reading(p.area, id)
	if p.text == "" {
		s.Measures = slices.DeleteFunc(s.Measures, func(m shop.Measure) bool { return m.Kind == "wall" && m.Wall == id })
		p.adopt()
		return
	}
	m := shop.Measure{Kind: "wall", Wall: id, Length: p.length(1), Instrument: p.entry.With}
	if p.err == nil && m.Length.MM() < shortest {
		p.fail("a wall of %s is too short to be one; it should be at least %s", m.Length, length.MM(shortest))
	}
	if p.err != nil {
		return
	}
	if k >= 0 {
		s.Measures[k] = m
	} else {
		s.Measures = append(s.Measures, m)
	}
	p.adopt()
}

// angle says what the corner at the end of wall i is like.
func (p *pen) angle(i int) {
	a := p.area
	n := len(a.Corners)
	corner := (i + 1) % n
	s := p.survey()
	inside, isMeasured := 90.0, false
	switch p.text {
	case "", "square", "right", "r", "90":
	case "left", "l", "270":
		inside = 270
	default:
		inside, isMeasured = p.number(1, 359), true
	}
	if p.err != nil {
		return
	}
	s.Measures = slices.DeleteFunc(s.Measures, func(m shop.Measure) bool { return m.Kind == "angle" && m.Corner == corner })
	ls := legs(a)
	ls[i].inside, ls[i].how = inside, "square"
	s.Angles[corner] = inside
	if isMeasured {
		s.Angles[corner] = 0
		s.Measures = append(s.Measures, shop.Measure{Kind: "angle", Corner: corner, Degrees: inside})
	}
	p.close(ls, i)
	p.adopt()
}

// close makes the turns add up to a full one: it adds walls at the end until
// the last corner can close the way round, takes away such as nothing is known
// of, and bends the last corner as needed. Corner i+1 was just given.
func (p *pen) close(ls []leg, i int) {
	a := p.area
	closing := func() float64 {
		sum := 0.0
		for _, l := range ls[:len(ls)-1] {
			sum += 180 - l.inside
		}
		return 360 - sum
	}
	for closing() > 180-nearSquare {
		if len(ls) >= 24 {
			p.fail("with this corner the walls do not close with 24 corners")
			return
		}
		k := len(ls)
		last := &a.Walls[k-1]
		top := last.Profile[len(last.Profile)-1][1]
		w := shop.Wall{ID: letter(k), Claimed: last.Claimed, Surface: last.Surface, Assumed: []string{"top", "surface"}}
		w.Profile = []shop.Point{{0, top}, {length.MM(addedWall), top}}
		a.Walls = append(a.Walls, w)
		ls[k-1].inside, ls[k-1].how = 90, "square"
		a.Survey.Angles = append(a.Survey.Angles, 90)
		ls = append(ls, leg{long: addedWall, inside: 90, how: "square"})
	}
	for len(ls) > 3 && len(ls)-1 > i && closing() < nearSquare && p.blank(len(ls)-1) {
		a.Walls = a.Walls[:len(ls)-1]
		ls = ls[:len(ls)-1]
		a.Survey.Angles = a.Survey.Angles[:len(ls)]
	}
	c := closing()
	if c <= nearSquare-180 || c >= 180-nearSquare {
		p.fail("with this corner the walls cannot close: the last corner would have to be %.0f° inside", 180-c)
		return
	}
	last := &ls[len(ls)-1]
	last.inside, last.how = 180-c, "drawn"
	a.Survey.Angles[0] = squared(last.inside)
	p.redraw(ls)
}

// addedWall is how long a wall is drawn that nothing is known of, mm.
const addedWall = 1000.0

// blank tells whether nothing is known of a wall.
func (p *pen) blank(i int) bool {
	id := p.area.Walls[i].ID
	return len(p.area.Walls[i].Features) == 0 && reading(p.area, id) < 0 && !p.used(id)
}

// used tells whether something hangs on a wall.
func (p *pen) used(wall string) bool {
	on := func(at *shop.At) bool {
		return at.Wall == wall && (at.Area == p.area.ID || at.Area == "" && p.area == &p.shop.Areas[0])
	}
	return slices.ContainsFunc(p.shop.Places, func(x shop.Place) bool { return on(&x.At) }) ||
		slices.ContainsFunc(p.shop.Containers, func(x shop.Container) bool { return on(&x.At) })
}

// redraw draws the outline along the legs.
func (p *pen) redraw(ls []leg) {
	corners, _ := trace(ls)
	setCorners(p.area, framed(p.area, corners))
}

func letter(i int) string {
	if i < 26 {
		return string(rune('A' + i))
	}
	return fmt.Sprintf("W%d", i+1)
}

// split puts a new wall after wall i, straight on from it, half of it long.
func (p *pen) split(i int) {
	a := p.area
	if len(a.Walls) >= 24 {
		p.fail("a room has at most 24 corners here")
		return
	}
	f := a.Frame(i)
	mid := f.Length / 2
	for _, x := range a.Walls[i].Features {
		mid = max(mid, x.X+x.W)
	}
	if mid >= f.Length-length.MM(shortest) || p.used(a.Walls[i].ID) {
		p.fail("wall %s is in use up to its right end; clear that end first", a.Walls[i].ID)
		return
	}
	spot := f.Spot(mid.MM(), 0)
	top := a.Walls[i].TopAt(mid)
	right := shop.Wall{ID: letter(len(a.Walls)), Claimed: a.Walls[i].Claimed, Surface: a.Walls[i].Surface, Studs: nil, Assumed: []string{"top"}}
	right.Profile = []shop.Point{{0, top}, {f.Length - mid, a.Walls[i].TopAt(f.Length)}}
	left := &a.Walls[i]
	left.Profile = append(slices.DeleteFunc(left.Profile, func(q shop.Point) bool { return q[0] >= mid }), shop.Point{mid, top})
	if s := p.survey(); s != nil {
		s.Measures = slices.DeleteFunc(s.Measures, func(m shop.Measure) bool { return m.Kind == "wall" && m.Wall == left.ID })
		for k := range s.Measures {
			for _, c := range []*int{&s.Measures[k].From, &s.Measures[k].To, &s.Measures[k].Corner} {
				if *c > i {
					*c++
				}
			}
		}
	}
	a.Survey.Angles = slices.Insert(a.Survey.Angles, i+1, 0)
	a.Corners = slices.Insert(a.Corners, i+1, shop.Point{length.MM(spot.X), length.MM(spot.Y)})
	a.Walls = slices.Insert(a.Walls, i+1, right)
	p.letters()
	p.added = "walls/" + a.Walls[i+1].ID
}

// remove takes a wall away; the corners before and after it become one.
func (p *pen) remove(i int) {
	a := p.area
	w := &a.Walls[i]
	switch {
	case len(a.Walls) <= 3:
		p.fail("a room has at least three walls")
		return
	case i == 0:
		p.fail("wall A has the main door at its left; take another one away")
		return
	case p.used(w.ID):
		p.fail("things hang on wall %s; give them another place first", w.ID)
		return
	case len(w.Features) > 0:
		p.fail("wall %s has %d features; take them away first", w.ID, len(w.Features))
		return
	}
	s := p.survey()
	id := w.ID
	s.Measures = slices.DeleteFunc(s.Measures, func(m shop.Measure) bool {
		return m.Kind == "wall" && m.Wall == id || m.Kind == "diagonal" && (m.From == i || m.To == i) || m.Kind == "angle" && m.Corner == i
	})
	for k := range s.Measures {
		for _, c := range []*int{&s.Measures[k].From, &s.Measures[k].To, &s.Measures[k].Corner} {
			if *c > i {
				*c--
			}
		}
	}
	a.Corners = slices.Delete(a.Corners, i, i+1)
	a.Walls = slices.Delete(a.Walls, i, i+1)
	s.Angles = nil
	s.Angles = slices.Clone(takenFor(a))
	tops(a)
	p.letters()
	p.adopt()
}

// letters names the walls A, B, C … again after one has come or gone, and what
// hangs on them with them.
func (p *pen) letters() {
	a := p.area
	now := map[string]string{}
	for i := range a.Walls {
		now[a.Walls[i].ID] = letter(i)
	}
	rename := func(id *string) {
		if to, ok := now[*id]; ok {
			*id = to
		}
	}
	here := func(at *shop.At) bool {
		return at.Area == a.ID || at.Area == "" && a == &p.shop.Areas[0]
	}
	for i := range a.Walls {
		rename(&a.Walls[i].ID)
	}
	for i := range p.shop.Places {
		if at := &p.shop.Places[i].At; here(at) {
			rename(&at.Wall)
		}
	}
	for i := range p.shop.Containers {
		if at := &p.shop.Containers[i].At; here(at) {
			rename(&at.Wall)
		}
	}
	for k := range p.survey().Measures {
		rename(&a.Survey.Measures[k].Wall)
	}
	if a.Floor != nil && a.Floor.Fall != nil {
		rename(&a.Floor.Fall.Toward)
	}
}

func (p *pen) measure(at []string) {
	s := p.survey()
	if at[0] == "+" {
		kind, what, _ := strings.Cut(at[1], ":")
		m := shop.Measure{Kind: kind, Instrument: p.entry.With}
		switch kind {
		case "wall":
			m.Wall = what
		case "diagonal":
			if _, err := fmt.Sscanf(what, "%d-%d", &m.From, &m.To); err != nil {
				p.unknown()
			}
		case "angle":
			if _, err := fmt.Sscanf(what, "%d", &m.Corner); err != nil {
				p.unknown()
			}
		default:
			p.unknown()
		}
		if !p.exists(&m) {
			return
		}
		if kind == "angle" {
			m.Degrees = p.number(1, 359)
		} else {
			m.Length = p.length(1)
		}
		s.Measures = append(s.Measures, m)
		p.added = fmt.Sprintf("measures/%d", len(s.Measures)-1)
		p.adopt()
		return
	}
	k, err := strconv.Atoi(at[0])
	if err != nil || k < 0 || k >= len(s.Measures) {
		p.fail("there is no measurement %s", at[0])
		return
	}
	m := &s.Measures[k]
	switch at[1] {
	case "value":
		if m.Kind == "angle" {
			m.Degrees = p.number(1, 359)
		} else {
			m.Length = p.length(1)
		}
		m.LeftOut, m.Instrument = false, p.entry.With
	case "left_out":
		m.LeftOut = p.yes()
	case "remove":
		s.Measures = slices.Delete(s.Measures, k, k+1)
	default:
		p.unknown()
	}
	p.adopt()
}

// exists tells whether there is something to measure like that.
func (p *pen) exists(m *shop.Measure) bool {
	n := len(p.area.Corners)
	in := func(k int) bool { return k >= 0 && k < n }
	switch {
	case p.err != nil:
	case m.Kind == "wall" && p.area.WallIndex(m.Wall) < 0:
		p.fail("there is no wall %q", m.Wall)
	case m.Kind == "angle" && !in(m.Corner):
		p.fail("there is no corner %d; the last one is %d", m.Corner, n-1)
	case m.Kind == "diagonal" && (!in(m.From) || !in(m.To)):
		p.fail("a diagonal runs between two of the corners 0 to %d", n-1)
	case m.Kind == "diagonal" && slices.Contains([]int{0, 1, n - 1}, max(m.From, m.To)-min(m.From, m.To)):
		p.fail("between corners next to each other there is a wall; measure that")
	}
	return p.err == nil
}

// Adopt lets the corners of an area follow from its measurements and takes what
// stands or hangs at its edges along. It leaves everything as it is when the
// measurements cannot be a room, and says so in the report.
func Adopt(s *shop.Shop, a *shop.Area) *Report {
	r := Of(a)
	if r.Fault != "" {
		return r
	}
	corners := make([]geometry.Point, len(r.Corners))
	for i, c := range r.Corners {
		corners[i] = geometry.Point{X: c.X, Y: c.Y}
	}
	setCorners(a, corners)
	shift(s, a)
	return r
}

func setCorners(a *shop.Area, corners []geometry.Point) {
	a.Corners = make([]shop.Point, len(corners))
	for i, c := range corners {
		a.Corners[i] = shop.Point{length.MM(c.X), length.MM(c.Y)}
	}
	tops(a)
}

// tops makes the top edges as long as their walls. A ridge stays where it was measured.
func tops(a *shop.Area) {
	for i := range a.Walls {
		p := a.Walls[i].Profile
		long := a.Frame(i).Length
		end := p[len(p)-1][1]
		p = slices.DeleteFunc(slices.Clone(p[:len(p)-1]), func(q shop.Point) bool { return q[0] >= long })
		if len(p) == 0 {
			p = []shop.Point{{0, end}}
		}
		a.Walls[i].Profile = append(p, shop.Point{long, end})
	}
}

// shift moves what a wall that came nearer would cut: along the wall what hangs
// on it, inwards what stands before it.
func shift(s *shop.Shop, a *shop.Area) {
	ix := shop.NewIndex(s)
	outline := a.Outline()
	along := func(at *shop.At, w length.Length) {
		if i := a.WallIndex(at.Wall); at.Wall != "" && i >= 0 {
			at.X = max(0, min(at.X, a.Frame(i).Length-w))
		}
	}
	inwards := func(x, y *length.Length, w, d length.Length, rot float64) geometry.Point {
		var moved geometry.Point
		for range 4 {
			push := geometry.Point{}
			for i := range outline {
				f := a.Frame(i)
				low := 0.0
				for _, q := range geometry.Rectangle(x.MM(), y.MM(), w.MM(), d.MM(), rot) {
					if _, out := f.Coordinates(q); !outline.Contains(q) && outline.Edge(i).Distance(q) <= outline.Distance(q)+1e-6 {
						low = min(low, out)
					}
				}
				if low < -.05 {
					push = push.Add(f.Inward.Mul(-low))
				}
			}
			if push.Norm() == 0 {
				break
			}
			*x, *y = *x+length.MM(push.X), *y+length.MM(push.Y)
			moved = moved.Add(push)
		}
		return moved
	}
	for i := range s.Stations {
		if st := &s.Stations[i]; ix.Area(st.Area) == a {
			m := inwards(&st.X, &st.Y, st.W, st.D, st.Rot)
			st.Stand[0] += length.MM(m.X)
			st.Stand[1] += length.MM(m.Y)
		}
	}
	at := func(at *shop.At, w, d length.Length) {
		if ix.Area(at.Area) != a {
			return
		}
		along(at, w)
		for _, spot := range []*shop.Point{at.Floor, at.Ceiling} {
			if spot != nil {
				inwards(&spot[0], &spot[1], w, d, at.Rot)
			}
		}
	}
	for i := range s.Containers {
		c := &s.Containers[i]
		at(&c.At, c.W, c.D)
	}
	for i := range s.Places {
		x := &s.Places[i]
		at(&x.At, x.W, x.D)
	}
}

func without(list []string, word string) []string {
	list = slices.DeleteFunc(list, func(w string) bool { return w == word })
	if len(list) == 0 {
		return nil
	}
	return list
}
