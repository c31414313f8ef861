package survey

import (
	"fmt"
	"math"
	"slices"
	"strconv"
	"strings"

	"hobrak/internal/core/length"
	"hobrak/internal/core/shop"
)

// Book is a survey as it stands in the notes: every field with what is in it,
// written in the shop's units.
type Book struct {
	Area       string      `json:"area"`
	Name       Field       `json:"name"`
	Kind       Field       `json:"kind"`
	Walk       Field       `json:"walk"`
	Climate    Field       `json:"climate"`
	Instrument Field       `json:"instrument"`
	Walls      []WallNotes `json:"walls" nullable:"false"`
	Joists     []Field     `json:"joists" nullable:"false"`
	Above      []Thing     `json:"above" nullable:"false" doc:"what hangs from the ceiling"`
	Fall       []Field     `json:"fall" nullable:"false"`
	Below      []Thing     `json:"below" nullable:"false" doc:"posts, steps and the like"`
	Kinds      Kinds       `json:"kinds"`
}

// Kinds that can be added.
type Kinds struct {
	Features []string `json:"features" nullable:"false"`
	Above    []string `json:"above" nullable:"false"`
	Below    []string `json:"below" nullable:"false"`
}

// Field of the notes.
type Field struct {
	Path    string   `json:"path"`
	Label   string   `json:"label"`
	Text    string   `json:"text" doc:"what is in it; empty when nothing was entered"`
	Shown   string   `json:"shown" doc:"what is assumed or follows while nothing was entered"`
	Assumed bool     `json:"assumed" doc:"the text is assumed, not measured"`
	Length  bool     `json:"length" doc:"a length, in any unit"`
	Choices []string `json:"choices" nullable:"false" doc:"what it may be; empty when anything"`
}

// WallNotes are the notes on one wall.
type WallNotes struct {
	ID       string  `json:"id"`
	Claimed  Field   `json:"claimed"`
	Length   Field   `json:"length"`
	Angle    Field   `json:"angle"`
	Top      Field   `json:"top"`
	Points   []Field `json:"points" nullable:"false" doc:"heights and spots of the top edge, from the left"`
	Surface  Field   `json:"surface"`
	Studs    []Field `json:"studs" nullable:"false"`
	Features []Thing `json:"features" nullable:"false"`
	Done     bool    `json:"done" doc:"length and height are measured or follow from what is"`
}

// Thing in or on a wall, under the ceiling or on the floor.
type Thing struct {
	ID     string  `json:"id"`
	Kind   string  `json:"kind"`
	Path   string  `json:"path"`
	Fields []Field `json:"fields" nullable:"false"`
}

// The words a survey chooses from are those of the shop file.
var (
	surfaces     = shop.Choices[shop.Wall]("surface")
	areaKinds    = shop.Choices[shop.Area]("kind")
	climates     = shop.Choices[shop.Area]("climate")
	instruments  = shop.Choices[shop.Survey]("instrument")
	ceilingKinds = shop.Choices[shop.CeilingFeature]("kind")
	floorKinds   = shop.Choices[shop.FloorFeature]("kind")
)

// writer writes fields in the shop's units.
type writer struct{ style length.Style }

func (w writer) length(path, label string, l length.Length, assumed bool) Field {
	return Field{Path: path, Label: label, Text: w.style.Typed(l), Assumed: assumed, Length: true, Choices: []string{}}
}

func plain(path, label, text string, choices ...string) Field {
	if choices == nil {
		choices = []string{}
	}
	return Field{Path: path, Label: label, Text: text, Choices: choices}
}

// Notes of an area.
func Notes(s *shop.Shop, a *shop.Area) *Book {
	w := writer{length.Style{System: s.Settings.Units}}
	instrument := "tape"
	if a.Survey != nil && a.Survey.Instrument != "" {
		instrument = a.Survey.Instrument
	}
	kind := a.Kind
	if kind == "" {
		kind = "room"
	}
	b := &Book{Area: a.ID, Walls: []WallNotes{}, Joists: []Field{}, Above: []Thing{}, Fall: []Field{}, Below: []Thing{},
		Name: plain("name", "called", a.Name), Kind: plain("kind", "kind", kind, areaKinds...),
		Walk: plain("walk_seconds", "walk from the main area, s", strconv.FormatFloat(a.WalkSeconds, 'f', -1, 64)), Climate: plain("climate", "climate", strings.Join(a.Climate, ","), climates...),
		Instrument: plain("instrument", "measured with", instrument, instruments...), Kinds: Kinds{shop.FeatureKind("").Words(), ceilingKinds, floorKinds}}
	ls := legs(a)
	measured := 0
	for _, l := range ls {
		if l.measured {
			measured++
		}
	}
	for i := range a.Walls {
		b.Walls = append(b.Walls, w.wall(a, i, ls, measured))
	}
	w.ceiling(b, a)
	w.floor(b, a)
	return b
}

func (w writer) wall(a *shop.Area, i int, ls []leg, measured int) WallNotes {
	x := &a.Walls[i]
	at := "walls/" + x.ID
	n := WallNotes{ID: x.ID, Points: []Field{}, Studs: []Field{}, Features: []Thing{}, Claimed: plain(at+"/claimed", "claimed", yesNo(x.Claimed), "yes", "no")}
	n.Length = w.length(at+"/length", "length", a.Frame(i).Length, false)
	if k := reading(a, x.ID); k >= 0 {
		n.Length.Text = w.length("", "", a.Survey.Measures[k].Length, false).Text
	} else {
		n.Length.Shown, n.Length.Text = n.Length.Text, ""
	}
	end := a.CornerName(i + 1)
	n.Angle = plain(at+"/angle", "corner "+end, "square")
	switch l := ls[i]; {
	case l.how == "square" && l.inside > 180:
		n.Angle.Text = "left"
	case l.how != "square":
		n.Angle.Text = strconv.FormatFloat(l.inside, 'f', 1, 64) + "°"
		n.Angle.Assumed = l.how == "drawn"
	}
	shape := "points"
	switch p := x.Profile; {
	case len(p) == 2 && p[0][1] == p[1][1]:
		shape = "level"
	case len(p) == 2:
		shape = "slope"
	case len(p) == 3:
		shape = "gable"
	}
	n.Top = plain(at+"/top", "top edge", shape, "level", "slope", "gable")
	guess := slices.Contains(x.Assumed, "top")
	for k, q := range x.Profile {
		p := fmt.Sprintf("%s/top/%d", at, k)
		label := "height"
		switch {
		case shape == "level" && k > 0:
			continue
		case k == 0 && shape != "level":
			label = "height at the left"
		case k == len(x.Profile)-1:
			label = "height at the right"
		case k > 0:
			label = "height of the ridge"
			n.Points = append(n.Points, w.length(p+"/x", "ridge, from the left", q[0], guess))
		}
		n.Points = append(n.Points, w.length(p+"/z", label, q[1], guess))
	}
	n.Surface = plain(at+"/surface", "surface", x.Surface, append([]string{""}, surfaces...)...)
	how := "none"
	switch {
	case x.Studs != nil && len(x.Studs.List) > 0:
		how = "listed"
	case x.Studs != nil:
		how = "spaced"
	}
	n.Studs = append(n.Studs, plain(at+"/studs", "studs", how, "none", "spaced", "listed"))
	switch how {
	case "spaced":
		n.Studs = append(n.Studs, w.length(at+"/studs/first", "first", x.Studs.First, false), w.length(at+"/studs/spacing", "spacing", x.Studs.Spacing, false), w.length(at+"/studs/width", "width", x.Studs.Width, false))
	case "listed":
		var list []string
		for _, c := range x.Studs.List {
			list = append(list, w.length("", "", c, false).Text)
		}
		n.Studs = append(n.Studs, plain(at+"/studs/list", "centres, joined by ;", strings.Join(list, "; ")), w.length(at+"/studs/width", "width", x.Studs.Width, false))
	}
	for k := range x.Features {
		n.Features = append(n.Features, w.feature(at, &x.Features[k]))
	}
	n.Done = !guess && (ls[i].measured || measured >= len(ls)-2)
	return n
}

func yesNo(b bool) string {
	if b {
		return "yes"
	}
	return "no"
}

func (w writer) feature(at string, f *shop.Feature) Thing {
	p := at + "/features/" + f.ID
	t := Thing{ID: f.ID, Kind: string(f.Kind), Path: p, Fields: []Field{}}
	add := func(name, label string, l length.Length) {
		t.Fields = append(t.Fields, w.length(p+"/"+name, label, l, slices.Contains(f.Assumed, name)))
	}
	add("x", "from the left", f.X)
	add("w", "width", f.W)
	if f.Kind.Passage() {
		add("h", "height", f.H)
		add("z", "above the floor", f.Z)
	} else {
		add("z", "above the floor", f.Z)
		add("h", "height", f.H)
	}
	if says := f.Kind.Depth(); says != "" {
		add("d", says, f.D)
	}
	if f.Kind.Leaves() > 0 {
		t.Fields = append(t.Fields, plain(p+"/swing", "opens", f.Swing, "in", "out"))
		if f.Kind.Leaves() == 1 {
			t.Fields = append(t.Fields, plain(p+"/hinge", "hinges", f.Hinge, "left", "right"))
		}
	}
	if f.Kind.Shaped() {
		shape := f.Shape
		if shape == "" {
			shape = "square"
		}
		t.Fields = append(t.Fields, plain(p+"/shape", "shape", shape, "square", "arched"))
	}
	if f.Kind.Wired() {
		t.Fields = append(t.Fields, plain(p+"/circuit", "circuit", f.Circuit))
	}
	t.Fields = append(t.Fields, plain(p+"/name", "called", f.Name))
	return t
}

func (w writer) ceiling(b *Book, a *shop.Area) {
	along := "none"
	c := a.Ceiling
	if c != nil && c.Joists != nil {
		along = c.Joists.Along
	}
	b.Joists = append(b.Joists, plain("ceiling/joists", "joists run along", along, "none", "x", "y"))
	if along != "none" {
		b.Joists = append(b.Joists, w.length("ceiling/joists/first", "first", c.Joists.First, false), w.length("ceiling/joists/spacing", "spacing", c.Joists.Spacing, false))
	}
	if c == nil {
		return
	}
	for _, f := range c.Features {
		p := "ceiling/features/" + f.ID
		b.Above = append(b.Above, Thing{f.ID, f.Kind, p, []Field{w.length(p+"/x", "x", f.X, false), w.length(p+"/y", "y", f.Y, false), w.length(p+"/w", "along x", f.W, false), w.length(p+"/d", "along y", f.D, false), w.length(p+"/drop", "hangs down", f.Drop, false)}})
	}
}

func fallLabel(units length.System) string {
	if units == length.Imperial {
		return "fall, inches a foot"
	}
	return "fall, mm a metre"
}

// fallUnit turns a fall in mm a metre into the unit it is written in.
func fallUnit(units length.System) float64 {
	if units == length.Imperial {
		return 12.0 / 1000
	}
	return 1
}

func (w writer) floor(b *Book, a *shop.Area) {
	fall, toward := "0", a.Walls[0].ID
	var ids []string
	for i := range a.Walls {
		ids = append(ids, a.Walls[i].ID)
	}
	if a.Floor != nil && a.Floor.Fall != nil {
		fall, toward = strconv.FormatFloat(math.Round(a.Floor.Fall.MMPerM*fallUnit(w.style.System)*1e4)/1e4, 'f', -1, 64), a.Floor.Fall.Toward
	}
	b.Fall = append(b.Fall, plain("floor/fall", fallLabel(w.style.System), fall))
	if fall != "0" {
		b.Fall = append(b.Fall, plain("floor/toward", "towards wall", toward, ids...))
	}
	if a.Floor == nil {
		return
	}
	for _, f := range a.Floor.Features {
		p := "floor/features/" + f.ID
		b.Below = append(b.Below, Thing{f.ID, f.Kind, p, []Field{w.length(p+"/x", "x", f.X, false), w.length(p+"/y", "y", f.Y, false), w.length(p+"/w", "along x", f.W, false), w.length(p+"/d", "along y", f.D, false)}})
	}
}
