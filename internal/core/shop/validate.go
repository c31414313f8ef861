package shop

import (
	"fmt"
	"math"
	"regexp"
	"slices"
	"strings"
	"time"

	"hobrak/internal/core/geometry"
	"hobrak/internal/core/length"
	"hobrak/internal/core/reach"
)

var idForm = regexp.MustCompile(`^[\p{L}\p{N}][\p{L}\p{N}._+-]{0,63}$`)

// Validate checks what concerns more than one field: references, ids, the
// outline of areas, and that everything lies in what it is part of. The error
// is *Faults.
func (s *Shop) Validate() error {
	f := &Faults{}
	v := validator{s: s, f: f, ix: NewIndex(s)}
	v.ids()
	if len(f.List) > 0 {
		return f // references mean nothing while ids are not unique
	}
	for i := range s.Areas {
		v.area(fmt.Sprintf("areas[%d]", i), &s.Areas[i])
	}
	if len(f.List) > 0 {
		return f // nothing can be placed against walls that are wrong
	}
	v.stations()
	v.containers()
	if len(f.List) > 0 {
		return f // a place in a lost container cannot be judged
	}
	v.places()
	v.items()
	v.photos()
	v.homes()
	v.modes()
	v.jobs()
	v.events()
	return f.orNil()
}

type validator struct {
	s  *Shop
	f  *Faults
	ix *Index
}

func (v validator) unique(seen map[string]string, path, id string) {
	if !idForm.MatchString(id) {
		v.f.add(path, "%q cannot be an id: use letters, digits, dots, hyphens and underscores, at most 64", shorten(id))
		return
	}
	if first, ok := seen[id]; ok {
		v.f.add(path, "the id %q is already taken by %s", id, first)
		return
	}
	seen[id] = path
}

func (v validator) ids() {
	if v.s.Format != Format || v.s.Version != Version {
		v.f.add("format", "this should be %s version %d", Format, Version)
	}
	if len(v.s.Areas) == 0 {
		v.f.add("areas", "a shop needs at least one area")
	}
	e := reach.DefaultEstimates()
	for _, name := range sortedKeys(v.s.Settings.Estimates) {
		if err := e.Set(map[string]float64{name: v.s.Settings.Estimates[name]}); err != nil {
			v.f.add("shop.estimates."+name, "%v", err)
		}
	}
	for i := range v.s.Places {
		if k := v.s.Places[i].Kind; k.Keeping() == nil {
			v.f.add(Nth("places", i)+".kind", "%q is not known here; it should be %s", k, oneOf(k.Words()))
		}
	}
	people, areas, circuits, modes := map[string]string{}, map[string]string{}, map[string]string{}, map[string]string{}
	for i, p := range v.s.Settings.People {
		path := fmt.Sprintf("shop.people[%d]", i)
		v.unique(people, path+".id", p.ID)
		for _, name := range sortedKeys(p.Measured) {
			if !slices.Contains(measurable, name) {
				v.f.add(path+".measured."+name, "this is not measured on a person; known are %s", oneOf(measurable))
			} else if p.Measured[name] <= 0 {
				v.f.add(path+".measured."+name, "a height is more than 0")
			}
		}
	}
	for i, a := range v.s.Areas {
		v.unique(areas, fmt.Sprintf("areas[%d].id", i), a.ID)
		walls, features := map[string]string{}, map[string]string{}
		for j, w := range a.Walls {
			at := fmt.Sprintf("areas[%d].walls[%d]", i, j)
			v.unique(walls, at+".id", w.ID)
			for k, x := range w.Features {
				v.unique(features, fmt.Sprintf("%s.features[%d].id", at, k), x.ID)
			}
		}
		if a.Ceiling != nil {
			for k, x := range a.Ceiling.Features {
				v.unique(features, fmt.Sprintf("areas[%d].ceiling.features[%d].id", i, k), x.ID)
			}
		}
		if a.Floor != nil {
			for k, x := range a.Floor.Features {
				v.unique(features, fmt.Sprintf("areas[%d].floor.features[%d].id", i, k), x.ID)
			}
		}
	}
	for i, c := range v.s.Circuits {
		v.unique(circuits, fmt.Sprintf("circuits[%d].id", i), c.ID)
	}
	// Stations, containers and places share one set of ids: they are addresses.
	spots := map[string]string{}
	for i, x := range v.s.Stations {
		v.unique(spots, fmt.Sprintf("stations[%d].id", i), x.ID)
	}
	for i, x := range v.s.Containers {
		v.unique(spots, fmt.Sprintf("containers[%d].id", i), x.ID)
	}
	for i, x := range v.s.Places {
		v.unique(spots, fmt.Sprintf("places[%d].id", i), x.ID)
	}
	items := map[string]string{}
	for i, x := range v.s.Items {
		v.unique(items, fmt.Sprintf("items[%d].id", i), x.ID)
	}
	kits := map[string]string{}
	for i, x := range v.s.Kits {
		v.unique(kits, fmt.Sprintf("kits[%d].id", i), x.ID)
	}
	targets := map[string]string{}
	for i, x := range v.s.Targets {
		v.unique(targets, fmt.Sprintf("targets[%d].id", i), x.ID)
	}
	for i, x := range v.s.Modes {
		v.unique(modes, fmt.Sprintf("modes[%d].id", i), x.ID)
	}
}

var measurable = []string{"eye", "shoulder", "elbow", "hip", "fingertip", "knee", "arm"}

func (v validator) area(path string, a *Area) {
	if len(a.Corners) < 3 || len(a.Corners) > 200 {
		v.f.add(path+".corners", "an outline has 3 to 200 corners, not %d", len(a.Corners))
		return
	}
	outline := a.Outline()
	for i := range outline {
		if outline.Edge(i).A.Near(outline.Edge(i).B, 1) {
			v.f.add(fmt.Sprintf("%s.corners[%d]", path, i), "this corner and the next are the same spot")
			return
		}
	}
	if i, j, crosses := outline.Crossing(); crosses {
		v.f.add(fmt.Sprintf("%s.corners[%d]", path, i), "the outline crosses itself: the side from corner %d meets the side from corner %d", i, j)
		return
	}
	if outline.Area() > 0 {
		v.f.add(path+".corners", "the corners run anticlockwise; list them clockwise as seen from above")
		return
	}
	if len(a.Walls) != len(a.Corners) {
		v.f.add(path+".walls", "there are %d walls for %d sides; each side needs one", len(a.Walls), len(a.Corners))
		return
	}
	for i := range a.Walls {
		v.wall(fmt.Sprintf("%s.walls[%d]", path, i), a, i)
	}
	if a.Survey != nil {
		v.survey(path+".survey", a)
	}
	if a.Floor != nil && a.Floor.Fall != nil && a.Wall(a.Floor.Fall.Toward) == nil {
		v.f.add(path+".floor.fall.toward", "there is no wall %q in this area", a.Floor.Fall.Toward)
	}
}

func (v validator) wall(path string, a *Area, i int) {
	w := &a.Walls[i]
	long := a.Frame(i).Length
	if len(w.Profile) < 2 {
		v.f.add(path+".profile", "a top edge needs at least its two ends")
		return
	}
	if w.Profile[0][0] != 0 || abs(w.Profile[len(w.Profile)-1][0]-long) > Tolerance {
		v.f.add(path+".profile", "the top edge should run from 0 to %s, the length of this side, not from %s to %s", long, w.Profile[0][0], w.Profile[len(w.Profile)-1][0])
		return
	}
	for k, p := range w.Profile {
		if k > 0 && p[0] <= w.Profile[k-1][0] {
			v.f.add(fmt.Sprintf("%s.profile[%d]", path, k), "the distances along the wall should grow")
		}
		if p[1] <= 0 || p[1] > 15*length.Metre {
			v.f.add(fmt.Sprintf("%s.profile[%d]", path, k), "a height of %s is not possible; it should be more than 0 and at most %s", p[1], 15*length.Metre)
		}
	}
	if w.Studs != nil {
		v.studs(path+".studs", w.Studs, long)
	}
	for k, x := range w.Features {
		at := fmt.Sprintf("%s.features[%d]", path, k)
		switch {
		case x.W > long+Tolerance:
			v.f.add(at, "%s is %s wide but the wall only %s long", x.ID, x.W, long)
			continue
		case x.X+x.W > long+Tolerance:
			v.f.add(at, "%s reaches to %s but the wall is %s long", x.ID, x.X+x.W, long)
			continue
		}
		for _, y := range w.Features[:k] {
			if x.collides(&y) {
				v.f.add(at, "%s and %s overlap: from %s to %s along the wall and from %s to %s up", y.ID, x.ID, max(x.X, y.X), min(x.X+x.W, y.X+y.W), max(x.Z, y.Z), min(x.Z+x.H, y.Z+y.H))
			}
		}
		if top := w.TopOver(x.X, x.X+x.W); x.Z+x.H > top+Tolerance {
			v.f.add(at, "%s reaches up to %s but the wall is only %s high there", x.ID, x.Z+x.H, top)
		}
		if x.Circuit != "" && !slices.ContainsFunc(v.s.Circuits, func(c Circuit) bool { return c.ID == x.Circuit }) {
			v.f.add(at+".circuit", "there is no circuit %q", x.Circuit)
		}
	}
}

func (v validator) studs(path string, s *Studs, long length.Length) {
	for k, x := range s.List {
		switch {
		case x > long+Tolerance:
			v.f.add(fmt.Sprintf("%s.list[%d]", path, k), "a stud at %s is beyond the end of the wall, which is %s long", x, long)
		case k > 0 && x-s.List[k-1] < s.Width:
			v.f.add(fmt.Sprintf("%s.list[%d]", path, k), "a stud at %s cannot follow one at %s: each is %s wide; list them from the left", x, s.List[k-1], s.Width)
		}
	}
	if len(s.List) > 0 {
		if s.Spacing != 0 || s.First != 0 {
			v.f.add(path, "give either first and spacing or a list of studs, not both")
		}
		return
	}
	if s.Spacing <= s.Width {
		v.f.add(path, "studs %s wide cannot stand %s apart", s.Width, s.Spacing)
	}
	if s.First > long {
		v.f.add(path+".first", "the first stud at %s is beyond the end of the wall, which is %s long", s.First, long)
	}
}

func (v validator) areaRef(path, id string) bool {
	if v.ix.Area(id) == nil {
		v.f.add(path, "there is no area %q", id)
		return false
	}
	return true
}

func (v validator) stations() {
	for i := range v.s.Stations {
		st := &v.s.Stations[i]
		path := fmt.Sprintf("stations[%d]", i)
		if !v.areaRef(path+".area", st.Area) {
			continue
		}
		v.inside(path, v.ix.Area(st.Area), st.Footprint())
		if !v.ix.Area(st.Area).Outline().Contains(st.Stand.Geometry()) {
			v.f.add(path+".stand", "one cannot stand at %s, %s: that is outside the area", st.Stand[0], st.Stand[1])
		}
		v.date(path+".wished", st.Wished)
		if st.Tall != 0 && st.Tall < st.H {
			v.f.add(path+".tall", "the overall height %s is below the table height %s", st.Tall, st.H)
		}
	}
}

// inside checks that a footprint lies within its area, give or take Tolerance.
func (v validator) inside(path string, a *Area, g geometry.Polygon) {
	outline := a.Outline()
	for _, p := range g {
		if !outline.Contains(p) && outline.Distance(p) > Tolerance.MM() {
			v.f.add(path, "its footprint reaches outside the area %s, to %.0f, %.0f", a.ID, p.X, p.Y)
			return
		}
	}
}

// at checks a position; w, d and h are the size of what is there.
func (v validator) at(path string, at *At, w, h, d length.Length) {
	given := 0
	for _, yes := range []bool{at.Wall != "", at.Floor != nil, at.In != "", at.Station != "", at.Ceiling != nil, at.Away} {
		if yes {
			given++
		}
	}
	if given != 1 {
		v.f.add(path, "exactly one of wall, floor, in, station, ceiling and away says where it is; %d are given", given)
		return
	}
	if !v.areaRef(path+".area", at.Area) {
		return
	}
	area := v.ix.Area(at.Area)
	switch {
	case at.Wall != "":
		v.onWall(path, area, at, w, h)
	case at.Floor != nil:
		v.inside(path+".floor", area, geometry.Rectangle(at.Floor[0].MM(), at.Floor[1].MM(), w.MM(), d.MM(), at.Rot))
	case at.Ceiling != nil:
		v.inside(path+".ceiling", area, geometry.Rectangle(at.Ceiling[0].MM(), at.Ceiling[1].MM(), w.MM(), d.MM(), at.Rot))
	case at.In != "":
		c := v.ix.Container(at.In)
		if c == nil {
			v.on(path, at, w, h, d)
			return
		}
		if at.X+w > c.W+Tolerance || at.Z+h > c.H+Tolerance || d > c.D+Tolerance {
			v.f.add(path, "%s at %s, %s does not fit into %s, which is %s", length.Size(w, h, d), at.X, at.Z, c.ID, length.Size(c.W, c.H, c.D))
		}
	case at.Station != "":
		st := v.ix.Station(at.Station)
		if st == nil {
			v.f.add(path+".station", "there is no station %q", at.Station)
			return
		}
		if at.X+w > st.W+Tolerance || d > st.D+Tolerance || at.Z+h > max(st.H, st.Tall)+Tolerance {
			v.f.add(path, "%s at %s, %s does not fit into %s, which is %s", length.Size(w, h, d), at.X, at.Z, st.ID, length.Size(st.W, max(st.H, st.Tall), st.D))
		}
	}
}

// on checks the position of a container on a place.
func (v validator) on(path string, at *At, w, h, d length.Length) {
	p := v.ix.Place(at.In)
	if p == nil || !strings.HasPrefix(path, "containers") {
		v.f.add(path+".in", "there is no container %q", at.In)
		return
	}
	fits := true
	switch p.Kind.Keeping().Bears() {
	case BearsNothing:
		var words []string
		for _, k := range PlaceKinds() {
			if k.Bears() != BearsNothing {
				words = append(words, k.Word())
			}
		}
		v.f.add(path+".in", "%s is a %s; a container can be on a %s", p.ID, p.Kind.Keeping().Word(), oneOf(words))
		return
	case BearsHung:
		fits = at.X+w <= p.W+Tolerance && at.Z+h <= p.H+Tolerance && d <= p.D+Tolerance
	case BearsStanding:
		fits = at.X+w <= p.W+Tolerance && at.Y+d <= p.D+Tolerance && h <= p.H+Tolerance
	}
	if !fits {
		v.f.add(path, "%s at %s, %s does not fit on %s, which is %s", length.Size(w, h, d), at.X, max(at.Y, at.Z), p.ID, length.Size(p.W, p.H, p.D))
	}
}

func (v validator) onWall(path string, area *Area, at *At, w, h length.Length) {
	i := area.WallIndex(at.Wall)
	if i < 0 {
		v.f.add(path+".wall", "there is no wall %q in area %s", at.Wall, area.ID)
		return
	}
	long := area.Frame(i).Length
	if at.X+w > long+Tolerance {
		v.f.add(path, "it reaches to %s but wall %s is %s long", at.X+w, at.Wall, long)
		return
	}
	if top := area.Walls[i].TopOver(at.X, at.X+w); at.Z+h > top+Tolerance {
		v.f.add(path, "it reaches up to %s but wall %s is only %s high there", at.Z+h, at.Wall, top)
	}
}

func (v validator) containers() {
	for i := range v.s.Containers {
		c := &v.s.Containers[i]
		path := fmt.Sprintf("containers[%d]", i)
		v.areaRef(path+".area", c.Area)
		if v.ix.loops(c.ID) {
			v.f.add(path+".at.in", "%s is inside itself", c.ID)
			continue
		}
		v.at(path+".at", &c.At, c.W, c.H, c.D)
	}
}

func (v validator) places() {
	for i := range v.s.Places {
		p := &v.s.Places[i]
		path := fmt.Sprintf("places[%d]", i)
		v.at(path+".at", &p.At, p.W, p.H, p.D)
		p.Kind.Keeping().Faults(p, v.complain(path))
		for k, m := range p.When {
			if !slices.ContainsFunc(v.s.Modes, func(x Mode) bool { return x.ID == m }) {
				v.f.add(fmt.Sprintf("%s.when[%d]", path, k), "there is no mode %q", m)
			}
		}
	}
}

// photoName keeps photos in their folder.
var photoName = regexp.MustCompile(`^[A-Za-z0-9_-][A-Za-z0-9._-]{0,99}$`)

func (v validator) photos() {
	v.s.Pictures(func(p Pictured) {
		for k, name := range *p.List {
			if !photoName.MatchString(name) {
				v.f.add(fmt.Sprintf("%s.photos[%d]", p.Path, k), "%q is no name of a photo; it is made of letters, digits, dots, - and _, as bench.jpg", name)
			}
		}
	})
}

// MostCorners of an outline.
const MostCorners = 200

// outline of a thing: within its width and height, with a face, and not across itself.
func (v validator) outline(path string, it *Item) {
	if len(it.Outline) == 0 {
		return
	}
	if len(it.Outline) < 3 || len(it.Outline) > MostCorners {
		v.f.add(path, "an outline has 3 to %d corners, this has %d", MostCorners, len(it.Outline))
		return
	}
	for k, p := range it.Outline {
		if p[0] < -Tolerance || p[1] < -Tolerance || p[0] > it.W+Tolerance || p[1] > it.H+Tolerance {
			v.f.add(fmt.Sprintf("%s[%d]", path, k), "it is outside of the thing, which is %s wide and %s high", it.W, it.H)
			return
		}
	}
	g := it.shape()
	if math.Abs(g.Area()) < 1 {
		v.f.add(path, "its corners enclose nothing")
	} else if i, j, crosses := g.Crossing(); crosses {
		v.f.add(path, "the side from corner %d crosses that from corner %d", i+1, j+1)
	}
}

func (v validator) items() {
	for i := range v.s.Items {
		it := &v.s.Items[i]
		path := fmt.Sprintf("items[%d]", i)
		for k, id := range it.UsedAt {
			if v.ix.Station(id) == nil {
				v.f.add(fmt.Sprintf("%s.used_at[%d]", path, k), "there is no station %q", id)
			}
		}
		v.outline(path+".outline", it)
		if it.Lies != "" && v.ix.Place(it.Lies) == nil {
			v.f.add(path+".lies", "there is no place %q", it.Lies)
		}
		if it.Whose != "" && !slices.ContainsFunc(v.s.Settings.People, func(p Person) bool { return p.ID == it.Whose }) {
			v.f.add(path+".whose", "there is nobody called %q", it.Whose)
		}
		v.date(path+".since", it.Since)
		v.date(path+".review", it.Review)
		v.date(path+".due", it.Due)
	}
}

// complain of what is at a path.
func (v validator) complain(path string) Complain {
	return func(field, format string, args ...any) { v.f.add(path+"."+field, format, args...) }
}

// date checks a day that may be left out.
func (v validator) date(path, day string) {
	if day == "" {
		return
	}
	if _, err := time.Parse(time.DateOnly, day); err != nil {
		v.f.add(path, "%q is not a date; write it as 2027-05-31", day)
	}
}

func (v validator) homes() {
	count := map[string]int{}
	for i := range v.s.Homes {
		h := &v.s.Homes[i]
		path := fmt.Sprintf("homes[%d]", i)
		it := v.ix.Item(h.Item)
		if it == nil {
			v.f.add(path+".item", "there is no item %q", h.Item)
		}
		p := v.ix.Place(h.Place)
		if p == nil {
			v.f.add(path+".place", "there is no place %q", h.Place)
		}
		if it == nil || p == nil {
			continue
		}
		n := h.Number(it)
		count[h.Item] += n
		if count[h.Item] > it.Number() {
			v.f.add(path+".n", "%s has homes for %d but there are only %d of it", h.Item, count[h.Item], it.Number())
		}
		p.Kind.Keeping().Misplaced(p, h, n, v.complain(path))
	}
}

func (v validator) events() {
	known := map[int64]int{}
	for i := range v.s.Events {
		e := &v.s.Events[i]
		if field, says := e.Check(); says != "" {
			v.f.add(Nth("events", i)+"."+field, "%s", says)
		}
		if e.Corrects != 0 {
			if _, ok := known[e.Corrects]; !ok {
				v.f.add(Nth("events", i)+".corrects", "no event before this one has the number %d", e.Corrects)
			}
		}
		if first, twice := known[e.ID]; twice && e.ID != 0 {
			v.f.add(Nth("events", i)+".id", "events[%d] has the number %d, too", first, e.ID)
		}
		known[e.ID] = i
	}
}

func (v validator) jobs() {
	for i, j := range v.s.Settings.Jobs {
		for k, stop := range j.Path {
			if stop != "door" && v.ix.Station(stop) == nil && v.ix.Place(stop) == nil && v.ix.Container(stop) == nil {
				v.f.add(fmt.Sprintf("shop.jobs[%d].path[%d]", i, k), "there is no station, place or container %q; door is the main door", stop)
			}
		}
	}
}

func (v validator) modes() {
	if id := v.s.Settings.Mode; id != "" {
		if _, err := v.s.Mode(id); err != nil {
			v.f.add("shop.mode", "%v", err)
		}
	}
	for i, x := range v.s.Targets {
		v.date(fmt.Sprintf("targets[%d].judge", i), x.Judge)
		v.date(fmt.Sprintf("targets[%d].made", i), x.Made)
	}
	if id := v.s.Settings.Target; id != "" && !slices.ContainsFunc(v.s.Targets, func(x Target) bool { return x.ID == id }) {
		v.f.add("shop.target", "there is no target %q", id)
	}
	for i, m := range v.s.Modes {
		for _, id := range sortedKeys(m.Spots) {
			if v.ix.Station(id) == nil && v.ix.Container(id) == nil {
				v.f.add(fmt.Sprintf("modes[%d].spots.%s", i, id), "there is no station or container %q", id)
			}
		}
	}
}

func abs(l length.Length) length.Length { return length.Length(math.Abs(float64(l))) }
