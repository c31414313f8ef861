package survey

import (
	"fmt"
	"math"
	"slices"
	"strings"

	"hobrak/internal/core/length"
	"hobrak/internal/core/shop"
)

func (p *pen) addFeature(w *shop.Wall) {
	kind := shop.FeatureKind(p.choice(shop.FeatureKind("").Words()...))
	if p.err != nil {
		return
	}
	f, asked := kind.Usual()
	f.ID, f.Assumed = p.freeID(w.ID+"-"+string(kind)), asked
	long := p.area.Frame(p.area.WallIndex(w.ID)).Length
	f.W = min(f.W, long)
	f.X = gapFor(w, &f, long)
	top := w.TopOver(f.X, f.X+f.W)
	f.H = min(f.H, top)
	f.Z = min(f.Z, top-f.H)
	w.Features = append(w.Features, f)
	p.added = "walls/" + w.ID + "/features/" + f.ID
}

// gapFor finds the first spot from the left where a feature does not meet another.
func gapFor(w *shop.Wall, f *shop.Feature, long length.Length) length.Length {
	spots := []length.Length{min(length.MM(300), long-f.W), 0}
	for _, o := range w.Features {
		spots = append(spots, o.X+o.W)
	}
	slices.Sort(spots[2:])
	for _, x := range spots {
		free := x+f.W <= long
		for _, o := range w.Features {
			free = free && (x >= o.X+o.W || x+f.W <= o.X || f.Z >= o.Z+o.H || f.Z+f.H <= o.Z)
		}
		if free {
			return x
		}
	}
	return spots[0]
}

// freeID is an id nothing in the area has yet.
func (p *pen) freeID(id string) string {
	taken := map[string]bool{}
	for _, w := range p.area.Walls {
		for _, f := range w.Features {
			taken[f.ID] = true
		}
	}
	if c := p.area.Ceiling; c != nil {
		for _, f := range c.Features {
			taken[f.ID] = true
		}
	}
	if fl := p.area.Floor; fl != nil {
		for _, f := range fl.Features {
			taken[f.ID] = true
		}
	}
	if !taken[id] {
		return id
	}
	for n := 2; ; n++ {
		if next := fmt.Sprintf("%s-%d", id, n); !taken[next] {
			return next
		}
	}
}

func (p *pen) feature(w *shop.Wall, id, field string) {
	i := slices.IndexFunc(w.Features, func(f shop.Feature) bool { return f.ID == id })
	if i < 0 {
		p.fail("wall %s has no %q", w.ID, id)
		return
	}
	f := &w.Features[i]
	to := map[string]*length.Length{"x": &f.X, "z": &f.Z, "w": &f.W, "h": &f.H, "d": &f.D}[field]
	switch {
	case field == "remove":
		w.Features = slices.Delete(w.Features, i, i+1)
	case to != nil:
		low := length.Length(0)
		if field == "w" || field == "h" {
			low = 1
		}
		*to = p.length(low)
		f.Assumed = without(f.Assumed, field)
		p.yield(w, f)
		p.room(w, f)
	case field == "hinge":
		f.Hinge = p.choice("left", "right")
	case field == "swing":
		f.Swing = p.choice("in", "out")
	case field == "shape":
		if f.Shape = p.choice("square", "arched"); f.Shape == "square" {
			f.Shape = "" // as every feature is that says nothing
		}
	case field == "name":
		f.Name = p.text
	case field == "circuit":
		f.Circuit = p.text
		// A circuit that was not spoken of before: its rating is not known yet.
		if known := slices.ContainsFunc(p.shop.Circuits, func(c shop.Circuit) bool { return c.ID == p.text }); !known && p.text != "" {
			p.shop.Circuits = append(p.shop.Circuits, shop.Circuit{ID: p.text})
		}
	default:
		p.unknown()
	}
}

// yield makes assumed sizes of a feature smaller where the wall or a neighbour
// leaves less room: what is assumed never stands in the way of what is measured.
func (p *pen) yield(w *shop.Wall, f *shop.Feature) {
	right := p.area.Frame(p.area.WallIndex(w.ID)).Length
	for i := range w.Features {
		o := &w.Features[i]
		if o.ID != f.ID && o.X >= f.X && o.Z < f.Z+f.H && f.Z < o.Z+o.H {
			right = min(right, o.X)
		}
	}
	if slices.Contains(f.Assumed, "w") && right > f.X {
		f.W = min(f.W, right-f.X)
	}
	if high := w.TopOver(f.X, f.X+f.W); slices.Contains(f.Assumed, "h") && high > f.Z {
		f.H = min(f.H, high-f.Z)
	}
}

// room checks a feature against its wall in the words of the field.
func (p *pen) room(w *shop.Wall, f *shop.Feature) {
	long := p.area.Frame(p.area.WallIndex(w.ID)).Length
	switch {
	case p.err != nil:
	case f.W > long:
		p.fail("a %s %s wide does not go into wall %s, which is %s long", f.Kind, f.W, w.ID, long)
	case f.X+f.W > long:
		p.fail("from %s and %s wide it would reach to %s, but wall %s is %s long", f.X, f.W, f.X+f.W, w.ID, long)
	case f.Z+f.H > w.TopOver(f.X, f.X+f.W):
		p.fail("from %s and %s high it would reach up to %s, but the wall is %s high there", f.Z, f.H, f.Z+f.H, w.TopOver(f.X, f.X+f.W))
	}
}

// top gives a wall a top edge of one of three shapes.
func (p *pen) top(i int) {
	w := &p.area.Walls[i]
	long := p.area.Frame(i).Length
	first, last := w.Profile[0][1], w.Profile[len(w.Profile)-1][1]
	switch p.choice("level", "slope", "gable") {
	case "level":
		w.Profile = []shop.Point{{0, first}, {long, first}}
	case "slope":
		if first == last {
			last += length.MM(300) // some slope, until it is measured
			w.Assumed = append(without(w.Assumed, "top"), "top")
		}
		w.Profile = []shop.Point{{0, first}, {long, last}}
	case "gable":
		ridge := max(first, last) + long/4
		w.Profile = []shop.Point{{0, first}, {long / 2, ridge}, {long, last}}
	}
}

// topPoint sets one point of the top edge. A level edge has one height.
func (p *pen) topPoint(i int, point, axis string) {
	w := &p.area.Walls[i]
	var k int
	if _, err := fmt.Sscanf(point, "%d", &k); err != nil || k < 0 || k >= len(w.Profile) || axis != "x" && axis != "z" {
		p.unknown()
		return
	}
	l := p.length(1)
	if p.err != nil {
		return
	}
	if axis == "x" {
		if k == 0 || k == len(w.Profile)-1 {
			p.fail("the ends of the top edge are the ends of the wall")
			return
		}
		if l <= w.Profile[k-1][0] || l >= w.Profile[k+1][0] {
			p.fail("%s is not between the points left and right of it, %s and %s", l, w.Profile[k-1][0], w.Profile[k+1][0])
			return
		}
		w.Profile[k][0] = l
		return
	}
	if l > 15*length.Metre {
		p.fail("a wall %s high is not possible; at most %s", l, 15*length.Metre)
		return
	}
	level := len(w.Profile) == 2 && w.Profile[0][1] == w.Profile[1][1] && k == 0
	w.Profile[k][1] = l
	if level {
		w.Profile[1][1] = l
	}
	w.Assumed = without(w.Assumed, "top")
	for _, f := range w.Features {
		if high := w.TopOver(f.X, f.X+f.W); f.Z+f.H > high {
			p.fail("the %s reaches up to %s, above this top edge, which is %s there", f.Kind, f.Z+f.H, high)
			return
		}
	}
	if level {
		p.levelOn(i, l)
	}
}

// levelOn gives the walls whose tops are only assumed the same height: most
// rooms have one.
func (p *pen) levelOn(i int, h length.Length) {
	for k := range p.area.Walls {
		w := &p.area.Walls[k]
		if k == i || !slices.Contains(w.Assumed, "top") {
			continue
		}
		for _, f := range w.Features {
			if f.Z+f.H > h {
				return
			}
		}
		for j := range w.Profile {
			w.Profile[j][1] = h
		}
	}
}

func (p *pen) studs(w *shop.Wall) {
	width := length.MM(45)
	if p.shop.Settings.Units == length.Imperial {
		width = length.Inch * 3 / 2
	}
	if w.Studs != nil {
		width = w.Studs.Width
	}
	switch p.choice("none", "spaced", "listed") {
	case "none":
		w.Studs = nil
	case "spaced":
		pitch := length.MM(600)
		if p.shop.Settings.Units == length.Imperial {
			pitch = 16 * length.Inch
		}
		w.Studs = &shop.Studs{Spacing: pitch, First: pitch / 2, Width: width}
	case "listed":
		list := w.Studs.Centres(p.area.Frame(p.area.WallIndex(w.ID)).Length)
		if len(list) == 0 {
			list = []length.Length{width / 2}
		}
		w.Studs = &shop.Studs{Width: width, List: list}
	}
}

func (p *pen) studField(w *shop.Wall, field string) {
	if w.Studs == nil {
		p.fail("say first that wall %s has studs", w.ID)
		return
	}
	s := w.Studs
	long := p.area.Frame(p.area.WallIndex(w.ID)).Length
	switch field {
	case "first":
		s.First = p.length(0)
	case "spacing":
		s.Spacing = p.length(1)
	case "width":
		s.Width = p.length(1)
	case "list":
		var list []length.Length
		for _, one := range strings.Split(p.text, ";") {
			if one = strings.TrimSpace(one); one == "" {
				continue
			}
			l, err := length.Parse(one, p.shop.Settings.Units)
			if err != nil {
				p.fail("%v; join the centres of the studs by semicolons", err)
				return
			}
			list = append(list, l)
		}
		if len(list) == 0 {
			p.fail("list at least one stud, as 300; 900; 1500")
			return
		}
		s.List = list
		if last := slices.Max(list); last > long {
			p.fail("a stud at %s is beyond the end of the wall, which is %s long", last, long)
		}
		for k := 1; k < len(list); k++ {
			if list[k]-list[k-1] < s.Width {
				p.fail("a stud at %s cannot follow one at %s: each is %s wide; list them from the left", list[k], list[k-1], s.Width)
			}
		}
	default:
		p.unknown()
	}
	switch {
	case p.err != nil || len(s.List) > 0:
	case s.Spacing <= s.Width:
		p.fail("studs %s wide cannot stand %s apart", s.Width, s.Spacing)
	case s.First > long:
		p.fail("the first stud at %s is beyond the end of the wall, which is %s long", s.First, long)
	}
}

// flat is a rectangle on the floor or under the ceiling.
type flat struct{ x, y, w, d, drop *length.Length }

func (p *pen) flat(f flat, field string) {
	to := map[string]*length.Length{"x": f.x, "y": f.y, "w": f.w, "d": f.d, "drop": f.drop}[field]
	if to == nil {
		p.unknown()
		return
	}
	low := length.Length(0)
	switch field {
	case "x", "y":
		low = -50 * length.Metre
	case "w", "d":
		low = 1
	}
	*to = p.length(low)
	outline := p.area.Outline()
	mid := shop.Point{*f.x + *f.w/2, *f.y + *f.d/2}
	if p.err == nil && !outline.Contains(mid.Geometry()) {
		p.fail("that is outside the room: its middle would be at %s, %s", mid[0], mid[1])
	}
}

// middle of the room for what is added and not measured yet.
func (p *pen) middle(w, d length.Length) (x, y length.Length) {
	low, high := p.area.Outline().Bounds()
	return length.MM((low.X+high.X)/2) - w/2, length.MM((low.Y+high.Y)/2) - d/2
}

func (p *pen) ceiling(at []string) {
	a := p.area
	if a.Ceiling == nil {
		a.Ceiling = &shop.Ceiling{}
	}
	c := a.Ceiling
	defer func() {
		if c.Joists == nil && len(c.Features) == 0 {
			a.Ceiling = nil
		}
	}()
	switch {
	case at[0] == "joists" && len(at) == 1:
		along := p.choice("none", "x", "y")
		switch {
		case along == "none":
			c.Joists = nil
		case c.Joists == nil:
			c.Joists = &shop.Joists{Along: along, Spacing: length.MM(600), First: length.MM(300)}
			if p.shop.Settings.Units == length.Imperial {
				c.Joists.Spacing, c.Joists.First = 16*length.Inch, 8*length.Inch
			}
		default:
			c.Joists.Along = along
		}
	case at[0] == "joists" && len(at) == 2 && c.Joists != nil && at[1] == "spacing":
		c.Joists.Spacing = p.length(1)
	case at[0] == "joists" && len(at) == 2 && c.Joists != nil && at[1] == "first":
		c.Joists.First = p.length(0)
	case at[0] == "features" && len(at) == 2 && at[1] == "+":
		kind := p.choice(ceilingKinds...)
		f := shop.CeilingFeature{ID: p.freeID("ceiling-" + kind), Kind: kind, W: length.MM(1200), D: length.MM(150), Drop: length.MM(120)}
		f.X, f.Y = p.middle(f.W, f.D)
		c.Features = append(c.Features, f)
		p.added = "ceiling/features/" + f.ID
	case at[0] == "features" && len(at) == 3:
		i := slices.IndexFunc(c.Features, func(f shop.CeilingFeature) bool { return f.ID == at[1] })
		switch {
		case i < 0:
			p.fail("nothing called %q is under the ceiling", at[1])
		case at[2] == "remove":
			c.Features = slices.Delete(c.Features, i, i+1)
		case at[2] == "kind":
			c.Features[i].Kind = p.choice(ceilingKinds...)
		default:
			f := &c.Features[i]
			p.flat(flat{&f.X, &f.Y, &f.W, &f.D, &f.Drop}, at[2])
		}
	default:
		p.unknown()
	}
}

func (p *pen) floor(at []string) {
	a := p.area
	if a.Floor == nil {
		a.Floor = &shop.Floor{}
	}
	f := a.Floor
	defer func() {
		if f.Fall == nil && len(f.Features) == 0 {
			a.Floor = nil
		}
	}()
	switch {
	case at[0] == "fall" && len(at) == 1:
		unit := fallUnit(p.shop.Settings.Units)
		fall := math.Round(p.number(0, 200*unit)/unit*1e3) / 1e3
		switch {
		case fall == 0:
			f.Fall = nil
		case f.Fall == nil:
			f.Fall = &shop.Fall{MMPerM: fall, Toward: a.Walls[0].ID}
		default:
			f.Fall.MMPerM = fall
		}
	case at[0] == "toward" && len(at) == 1:
		if f.Fall == nil {
			p.fail("say first how much the floor falls")
			return
		}
		f.Fall.Toward = p.text
	case at[0] == "features" && len(at) == 2 && at[1] == "+":
		kind := p.choice(floorKinds...)
		x := shop.FloorFeature{ID: p.freeID("floor-" + kind), Kind: kind, W: length.MM(120), D: length.MM(120)}
		x.X, x.Y = p.middle(x.W, x.D)
		f.Features = append(f.Features, x)
		p.added = "floor/features/" + x.ID
	case at[0] == "features" && len(at) == 3:
		i := slices.IndexFunc(f.Features, func(x shop.FloorFeature) bool { return x.ID == at[1] })
		switch {
		case i < 0:
			p.fail("nothing called %q is on the floor", at[1])
		case at[2] == "remove":
			f.Features = slices.Delete(f.Features, i, i+1)
		case at[2] == "kind":
			f.Features[i].Kind = p.choice(floorKinds...)
		default:
			x := &f.Features[i]
			p.flat(flat{&x.X, &x.Y, &x.W, &x.D, nil}, at[2])
		}
	default:
		p.unknown()
	}
}

// NewArea adds an area that nothing is known of yet: a plain room of 4 m by 3 m
// to be changed. It returns its id.
func NewArea(s *shop.Shop, name string) string {
	taken := func(id string) bool {
		return slices.ContainsFunc(s.Areas, func(a shop.Area) bool { return a.ID == id })
	}
	id := "main"
	for n := 2; taken(id); n++ {
		id = fmt.Sprintf("area-%d", n)
	}
	a := shop.Area{ID: id, Name: name, Kind: "room", Survey: &shop.Survey{}}
	Begin(&a)
	if len(s.Areas) > 0 {
		a.WalkSeconds = 30
	}
	s.Areas = append(s.Areas, a)
	return id
}

// Begin makes an area one of which nothing is known: four walls, all assumed.
func Begin(a *shop.Area) {
	w, d, h := length.MM(4000), length.MM(3000), length.MM(2400)
	a.Corners = []shop.Point{{0, 0}, {0, d}, {w, d}, {w, 0}}
	a.Walls = nil
	for i, long := range []length.Length{d, w, d, w} {
		a.Walls = append(a.Walls, shop.Wall{ID: letter(i), Claimed: true, Assumed: []string{"top", "surface"}, Profile: []shop.Point{{0, h}, {long, h}}})
	}
	a.Ceiling, a.Floor, a.Survey = nil, nil, &shop.Survey{}
}
