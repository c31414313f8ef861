package note

import (
	"fmt"
	"slices"
	"strconv"
	"strings"

	"hobrak/internal/core/length"
	"hobrak/internal/core/shop"
)

// What can be said of a room, one subject after the other.

// has tells whether one of these words, or several in a row, is among what was not understood yet.
func (r *room) has(words ...string) bool {
	for i := range r.all {
		for _, w := range words {
			if r.phrase(i, w) > 0 {
				return true
			}
		}
	}
	return false
}

// drop takes words that are part of what was understood.
func (r *room) drop(words ...string) {
	for i := range r.all {
		for _, w := range words {
			r.use(i, i+r.phrase(i, w))
		}
	}
}

// The size: "5.6 x 4.1 x 2.4", "5.6 long, 4.1 wide, 2.4 high", "2.4 high" by itself.

func (r *room) tellsSize() bool {
	for i := range r.all {
		if r.isLong(i) && (i+1 < len(r.all) && r.all[i+1].kind == by || r.is(i+1, "long", "wide", "deep", "high")) || r.is(i, "ceiling", "height") {
			return true
		}
	}
	return false
}

func (r *room) readSize() {
	before := r.bigBare
	if r.units == length.Imperial {
		r.bigBare = 40 // feet: no room is that many inches long
	}
	defer func() { r.bigBare = before }()
	dims := r.crossed()
	if len(dims) >= 2 {
		r.long, r.wide, r.sized = dims[0], dims[1], true
	}
	if len(dims) >= 3 {
		r.high = dims[2]
	}
	if l := r.take([]string{"long", "length"}, []string{"long"}); l != nil {
		r.long = *l
	}
	if l := r.take([]string{"wide", "width"}, []string{"wide", "deep"}); l != nil {
		r.wide = *l
	}
	if l := r.take([]string{"ceiling", "height", "high"}, []string{"high", "ceiling"}); l != nil {
		r.high = *l
	}
	r.sized = r.long > 0 && r.wide > 0
	if len(dims) > 0 || r.sizeAt[1] == 0 {
		r.sizeAt[0], r.sizeAt[1] = r.span()
	}
	r.drop("ceiling", "height", "size", "measured with tape")
	const would = "a size is long x wide x high"
	switch {
	case r.sized && r.high > 0:
		r.says("size", would, "walls B and D %s, A and C %s, %s high", r.long, r.wide, r.high)
	case r.sized:
		r.says("size", would, "walls B and D %s, A and C %s", r.long, r.wide)
	case r.high > 0:
		r.says("size", would, "%s high", r.high)
	default:
		r.says("size", would, "long or wide, with the other still to come")
	}
}

// An L: "less 2 x 1.5 at corner BC".

func (r *room) tellsNotch() bool {
	return r.has("less", "minus", "without", "l-shape", "l-shaped", "l shape", "missing") && r.has("corner")
}

func (r *room) readNotch() {
	dims := r.crossed()
	at := -1
	for i := range r.all {
		if !r.is(i, "corner") {
			continue
		}
		var names []string
		for k := i + 1; k < len(r.all) && len(names) < 2; k++ {
			t := r.all[k]
			if w := lettersOf(t, true); w != nil && !slices.Contains(filler, t.text) {
				names = append(names, w...)
				r.use(k, k+1)
			} else if len(t.raw) == 2 && t.kind == word { // BC
				names = append(names, strings.ToUpper(t.raw[:1]), strings.ToUpper(t.raw[1:]))
				r.use(k, k+1)
			} else if !r.is(k, "between", "and", "of") {
				break
			}
		}
		r.use(i, i+1)
		if len(names) == 2 {
			a, b := int(names[0][0]-'A'), int(names[1][0]-'A')
			switch {
			case (a+1)%4 == b && a < 4:
				at = a
			case (b+1)%4 == a && b < 4:
				at = b
				if len(dims) == 2 {
					dims[0], dims[1] = dims[1], dims[0]
				}
			}
		}
	}
	r.drop("less", "minus", "without", "l-shape", "l-shaped", "l", "shape", "missing", "at", "a", "piece")
	if at < 0 || len(dims) != 2 {
		r.wrong("an L is written as: less 2 x 1.5 at corner BC")
		return
	}
	from, to := r.span()
	r.notch = &notch{at, dims[0], dims[1], [2]int{from, to}}
	r.says("size", "an L is written as: less 2 x 1.5 at corner BC", "without the corner of walls %s and %s: %s along %s, %s along %s; the walls after it take the next letters",
		letter(at), letter((at+1)%4), dims[0], letter(at), dims[1], letter((at+1)%4))
}

// A pointed roof: "knee walls 1.1, ridge 2.85".

func (r *room) tellsGable() bool {
	return r.has("knee", "knee-walls", "kneewalls", "ridge", "gable", "gables", "eaves", "apex")
}

func (r *room) readGable() {
	knee := r.take([]string{"knee", "walls", "eaves", "kneewalls", "knee-walls"}, []string{"knee", "eaves", "kneewalls"})
	ridge := r.take([]string{"ridge", "apex"}, []string{"ridge", "apex"})
	ends := r.takeWalls()
	r.drop("knee", "walls", "knee-walls", "kneewalls", "eaves", "ridge", "apex", "gable", "gables", "high", "up", "at", "both", "long", "short", "sides", "side", "ends", "along", "middle")
	const would = "a pointed roof is written as: knee walls 1.1, ridge 2.85"
	if knee == nil && r.high > 0 {
		knee = &r.high
	}
	switch {
	case knee == nil || ridge == nil:
		r.wrong(would)
		return
	case *ridge <= *knee:
		r.wrong("the ridge, %s, is not higher than the knee walls, %s", *ridge, *knee)
		return
	case r.notch != nil:
		r.wrong("the roof of an L is entered in Survey, wall by wall")
		return
	}
	pair := []int{0, 2} // the ends of the longer side
	if r.wide > r.long {
		pair = []int{1, 3}
	}
	if len(ends) > 0 {
		k := int(ends[0][0] - 'A')
		pair = []int{k % 2, k%2 + 2}
	}
	if r.high > 0 && r.high == *ridge {
		r.high = 0
	}
	for i := range 4 {
		at := "walls/" + letter(i)
		if slices.Contains(pair, i) {
			r.enter(at+"/top", "gable")
			r.enter(at+"/top/0/z", exact(*knee))
			r.enter(at+"/top/1/z", exact(*ridge))
			r.enter(at+"/top/2/z", exact(*knee))
		} else {
			r.enter(at+"/top/0/z", exact(*knee))
		}
	}
	r.says("size", would, "gables %s and %s, ridge %s; the other walls %s", letter(pair[0]), letter(pair[1]), *ridge, *knee)
}

// A roof that slopes one way: "slopes from 2.8 at B to 2.1 at D", "high side B 2.8, low side D 2.1".

func (r *room) tellsPitch() bool {
	return r.has("slopes", "slope", "sloping", "lean-to", "pent", "mono-pitch", "monopitch", "high side", "low side")
}

func (r *room) readPitch() {
	names := r.takeWalls()
	r.drop("slopes", "slope", "sloping", "lean-to", "pent", "mono-pitch", "monopitch", "high", "low", "side", "from", "at", "down", "up", "roof", "ceiling", "between")
	heights := r.loose()
	const would = "a sloping roof is written as: slopes from 2.8 at B to 2.1 at D"
	if len(heights) != 2 {
		r.wrong(would)
		return
	}
	if len(names) == 0 {
		names = []string{"B", "D"}
	}
	a, b := int(names[0][0]-'A'), int(names[len(names)-1][0]-'A')
	if len(names) != 2 || a > 3 || b > 3 || (a+2)%4 != b {
		r.wrong("the high and the low side are walls opposite each other, as B and D")
		return
	}
	if r.notch != nil {
		r.wrong("the roof of an L is entered in Survey, wall by wall")
		return
	}
	z := [4]length.Length{}
	z[a], z[b] = heights[0], heights[1]
	for i := range 4 {
		at := "walls/" + letter(i)
		if i == a || i == b {
			r.enter(at+"/top/0/z", exact(z[i]))
			continue
		}
		// A wall begins at the left where the one before ends.
		left, right := z[(i+3)%4], z[(i+1)%4]
		if left == right {
			r.enter(at+"/top/0/z", exact(left))
			continue
		}
		r.enter(at+"/top", "slope")
		r.enter(at+"/top/0/z", exact(left))
		r.enter(at+"/top/1/z", exact(right))
	}
	r.says("size", would, "slopes from %s at wall %s to %s at wall %s", heights[0], letter(a), heights[1], letter(b))
}

// Walls: "B brick", "D boards on studs 600 from 320", "C left alone", "studs 600 from 320".

var surfaces = []struct{ words, surface string }{
	{"bare studs", "bare-studs"}, {"open studs", "bare-studs"}, {"sheet metal", "sheet-metal"}, {"corrugated", "sheet-metal"}, {"metal", "sheet-metal"}, {"steel", "sheet-metal"},
	{"drywall", "drywall"}, {"plasterboard", "drywall"}, {"gypsum board", "drywall"}, {"gypsum", "drywall"}, {"plaster", "plaster"}, {"plastered", "plaster"},
	{"plywood", "plywood"}, {"ply", "plywood"}, {"osb", "plywood"}, {"boards", "boards"}, {"board", "boards"}, {"boarded", "boards"}, {"boarding", "boards"}, {"matchboard", "boards"},
	{"timber", "timber"}, {"logs", "timber"}, {"brick", "brick"}, {"bricks", "brick"}, {"blocks", "block"}, {"block", "block"}, {"blockwork", "block"}, {"concrete", "concrete"},
}

func (r *room) tellsWall() bool {
	for _, s := range surfaces {
		if r.has(s.words) {
			return true
		}
	}
	if r.has("studs", "stud", "left alone", "leave alone", "keep off", "not claimed") {
		return true
	}
	// A wall and its length.
	named, lengths := false, 0
	for i := range r.all {
		named = named || lettersOf(r.all[i], i > 0 && strings.HasPrefix(r.all[i-1].text, "wall")) != nil
		if r.isLong(i) {
			lengths++
		}
	}
	return named && lengths == 1
}

func (r *room) readWall() {
	names := r.orAll(r.takeWalls())
	var told []string
	for _, s := range surfaces {
		if r.has(s.words) {
			for _, w := range names {
				r.enter("walls/"+w+"/surface", s.surface)
			}
			told = append(told, strings.ReplaceAll(s.surface, "-", " "))
			r.drop(s.words)
			break
		}
	}
	if r.has("studs", "stud") {
		told = append(told, r.readStuds(names))
	}
	if r.has("left alone", "leave alone", "keep off", "not claimed") {
		r.drop("left alone", "leave alone", "keep off", "not claimed", "for screws")
		for _, w := range names {
			r.enter("walls/"+w+"/claimed", "no")
		}
		told = append(told, "left alone")
	}
	r.drop("all", "round", "everywhere", "other", "others", "sides", "long")
	if one := r.loose(); len(one) == 1 && len(names) == 1 {
		r.enter("walls/"+names[0]+"/length", exact(one[0]))
		told = append(told, one[0].String()+" long")
	}
	where := "wall " + names[0]
	if len(names) > 1 {
		where = "walls " + strings.Join(names[:len(names)-1], ", ") + " and " + names[len(names)-1]
	}
	r.says("wall", "of a wall one says what it is made of, its studs, its length, or that it is left alone", "%s: %s", where, strings.Join(told, ", "))
}

func (r *room) readStuds(names []string) string {
	first := r.take([]string{"from", "first", "starting", "beginning"}, nil)
	width := r.take([]string{"width", "thick"}, []string{"wide", "thick"})
	pitch := r.take([]string{"studs", "stud", "every", "at", "spacing", "centres", "centers"}, []string{"centres", "centers", "apart"})
	r.drop("studs", "stud", "on", "every", "at", "first", "spacing", "centres", "centers", "spaced", "apart")
	says := "studs"
	for _, w := range names {
		r.enter("walls/"+w+"/studs", "spaced")
		for field, l := range map[string]*length.Length{"spacing": pitch, "first": first, "width": width} {
			if l != nil {
				r.enter("walls/"+w+"/studs/"+field, exact(*l))
			}
		}
	}
	if pitch != nil {
		says += fmt.Sprintf(" every %s", *pitch)
	}
	if first != nil {
		says += fmt.Sprintf(", first at %s", *first)
	}
	return says
}

// Joists: "joists every 400 across", "rafters 750 along".

func (r *room) tellsJoists() bool { return r.has("joists", "joist", "rafters", "rafter", "trusses") }

func (r *room) readJoists() {
	first := r.take([]string{"from", "first", "starting"}, nil)
	pitch := r.take([]string{"joists", "joist", "rafters", "rafter", "trusses", "every", "at", "spacing"}, []string{"centres", "centers", "apart"})
	along := "y" // across: from B to D
	if r.has("along", "lengthwise", "lengthways") {
		along = "x"
	}
	r.drop("ceiling", "roof", "joists", "joist", "rafters", "rafter", "trusses", "every", "at", "spacing", "across", "along", "lengthwise", "lengthways", "first", "from", "centres", "centers")
	r.enter("ceiling/joists", along)
	says := "joists"
	if pitch != nil {
		r.enter("ceiling/joists/spacing", exact(*pitch))
		says += fmt.Sprintf(" every %s", *pitch)
	}
	if first != nil {
		r.enter("ceiling/joists/first", exact(*first))
		says += fmt.Sprintf(", first at %s", *first)
	}
	runs := "from B to D"
	if along == "x" {
		runs = "from A to C"
	}
	r.says("ceiling", "joists are written as: joists every 400 across from 200", "%s, running %s", says, runs)
}

// The floor: "floor falls 12 mm a metre to A".

func (r *room) tellsFall() bool { return r.has("falls", "fall", "slopes down", "falling") }

func (r *room) readFall() {
	toward := r.takeWalls()
	var share float64
	for i := range r.all {
		if !r.isLong(i) {
			continue
		}
		l, _, err := r.length(&r.all[i])
		if err != nil {
			continue
		}
		run := length.Metre
		if r.units == length.Imperial || strings.Contains(r.text, "foot") {
			run = length.Foot
		}
		if r.has("m", "metre", "meter") {
			run = length.Metre
		}
		share = l.MM() / run.MM() * 1000
		r.use(i, i+1)
		break
	}
	r.drop("floor", "concrete", "falls", "fall", "falling", "slopes down", "toward", "towards", "door", "roller", "the", "metre", "meter", "foot", "per", "m", "down")
	if share <= 0 || len(toward) == 0 {
		r.wrong("a fall is written as: floor falls 10 mm a metre to A")
		return
	}
	fall := share
	if r.units == length.Imperial {
		fall *= .012 // the survey has it in inches a foot
	}
	r.enter("floor/fall", strconv.FormatFloat(fall, 'f', 4, 64))
	r.enter("floor/toward", toward[0])
	r.says("floor", "a fall is written as: floor falls 10 mm a metre to A", "the floor falls %.0f in 1000 toward wall %s", share, toward[0])
}

// A chimney, or a post: "chimney 0.5 x 0.5 in corner CD", "post 120 x 120 at 2 from A, 1.5 from B".

func (r *room) tellsChimney() bool {
	return r.has("chimney", "post", "column", "pillar", "chimney breast")
}

func (r *room) readChimney() {
	dims := r.crossed()
	var names []string
	corner := r.has("corner")
	for i := range r.all {
		if t := r.all[i]; corner && t.kind == word && !t.used && len(t.raw) == 2 && t.text != "at" && t.text != "in" && t.text != "of" {
			names = append(names, strings.ToUpper(t.raw[:1]), strings.ToUpper(t.raw[1:]))
			r.use(i, i+1)
		}
	}
	if names == nil {
		names = r.takeWalls()
	}
	at := r.take([]string{"at", "from"}, []string{"from the left", "along"})
	r.drop("chimney", "breast", "post", "column", "pillar", "corner", "between", "from", "left", "at", "against")
	const would = "a chimney is written as: chimney 0.5 x 0.5 in corner CD, or against a wall: chimney B 1.2 x 0.4 at 2"
	if len(dims) < 2 || !r.sized || len(names) == 0 || !corner && at == nil || corner && len(names) != 2 {
		r.wrong(would)
		return
	}
	// Wall k seen from inside runs to the right; the rectangle is laid along it.
	k := int(names[0][0] - 'A')
	along, out := dims[0], dims[1]
	if corner {
		other := int(names[1][0] - 'A')
		if (other+1)%4 == k {
			k, other = other, k
			along, out = out, along
		}
		if (k+1)%4 != other || k > 3 {
			r.wrong("walls %s and %s do not meet in a corner", names[0], names[1])
			return
		}
		l := []length.Length{r.wide, r.long, r.wide, r.long}[k] - along
		at = &l
	}
	if k > 3 {
		r.wrong("there is no wall %s", names[0])
		return
	}
	x, y, w, d := *at, r.wide-out, along, out
	switch k {
	case 0:
		x, y, w, d = 0, *at, out, along
	case 2:
		x, y, w, d = r.long-out, r.wide-*at-along, out, along
	case 3:
		x, y = r.long-*at-along, 0
	}
	r.enter("floor/features/+", "post")
	for _, f := range []struct {
		name string
		l    length.Length
	}{{"w", w}, {"d", d}, {"x", x}, {"y", y}} {
		r.enter(justAdded+"/"+f.name, exact(f.l))
	}
	where := fmt.Sprintf("at wall %s, %s from the left", letter(k), *at)
	if corner {
		where = fmt.Sprintf("in the corner of walls %s and %s", letter(k), letter((k+1)%4))
	}
	r.says("floor", would, "stands in the room from floor to ceiling, %s × %s, %s", dims[0], dims[1], where)
}

// Doors, windows and all else in a wall.

var features = []struct {
	words string
	kind  shop.FeatureKind
}{
	{"double door", "double-door"}, {"double doors", "double-door"}, {"french doors", "double-door"},
	{"roller door", "sectional-door"}, {"roll-up door", "sectional-door"}, {"rolling door", "sectional-door"}, {"sectional door", "sectional-door"}, {"garage door", "sectional-door"}, {"overhead door", "sectional-door"},
	{"up-and-over door", "up-and-over-door"}, {"up-and-over", "up-and-over-door"}, {"house door", "door"}, {"door", "door"}, {"doorway", "opening"}, {"opening", "opening"}, {"passage", "opening"},
	{"window", "window"}, {"windows", "window"}, {"glass", "window"}, {"glazed", "window"}, {"glazing", "window"},
	{"consumer unit", "panel"}, {"fuse box", "panel"}, {"breaker panel", "panel"}, {"electrical panel", "panel"}, {"panel", "panel"},
	{"tap", "tap"}, {"water tap", "tap"}, {"faucet", "tap"}, {"network socket", "data-socket"}, {"data socket", "data-socket"}, {"wall fan", "wall-fan"}, {"exhaust fan", "wall-fan"}, {"extractor fan", "wall-fan"},
	{"outlets", "outlet"}, {"outlet", "outlet"}, {"sockets", "outlet"}, {"socket", "outlet"}, {"switch", "switch"}, {"light switch", "switch"},
	{"radiator", "heater"}, {"heater", "heater"}, {"stove", "heater"}, {"pipe", "pipe"}, {"beam", "beam"}, {"alcove", "niche"}, {"niche", "niche"}, {"recess", "niche"}, {"keepsake", "keepsake"}, {"heirloom", "keepsake"}, {"picture", "keepsake"}, {"painting", "keepsake"}, {"clock", "keepsake"}, {"mirror", "keepsake"},
}

func (r *room) featureKind() (k shop.FeatureKind, at, n int) {
	for i := range r.all {
		for _, f := range features {
			if m := r.phrase(i, f.words); m > n {
				k, at, n = f.kind, i, m
			}
		}
		if n > 0 {
			return k, at, n
		}
	}
	return "", 0, 0
}

func (r *room) tellsFeature() bool { _, _, n := r.featureKind(); return n > 0 }

func (r *room) readFeature() {
	kind, at, n := r.featureKind()
	called := strings.TrimSpace(r.text[r.all[at].from:r.all[at+n-1].to])
	r.use(at, at+n)
	walls := r.takeWalls()
	would := fmt.Sprintf("it is written as: %s A 850 x 2000 at 400", called)
	if len(walls) != 1 || int(walls[0][0]-'A') >= r.letters {
		r.wrong("say which wall the %s is in: %s A 850 x 2000 at 400", called, called)
		return
	}
	wall := walls[0]
	dims := r.crossed()
	f, _ := kind.Usual()
	values := map[string]length.Length{}
	put := func(field string, l *length.Length) {
		if l != nil {
			values[field] = *l
		}
	}
	if len(dims) >= 2 {
		values["w"], values["h"] = dims[0], dims[1]
	}
	if len(dims) >= 3 {
		values["d"] = dims[2]
	}
	put("z", r.take([]string{"sill", "bottom", "above"}, []string{"above the floor", "sill"}))
	put("x", r.take([]string{"at", "from", "left", "starting"}, []string{"from the left", "from left", "along"}))
	if _, said := values["z"]; !said {
		put("z", r.up())
	}
	put("d", r.take([]string{"out", "deep", "sticks", "proud", "depth"}, []string{"out", "deep", "proud"}))
	put("h", r.take([]string{"high", "height"}, []string{"high", "tall"}))
	put("w", r.take([]string{"wide", "width"}, []string{"wide", "long"}))
	if _, said := values["z"]; !said && kind.Recess() {
		values["z"] = 0 // from the floor, unless it is said otherwise
	}
	words := map[string]string{}
	for i := range r.all {
		switch {
		case r.is(i, "opens", "opening", "swings") && r.is(i+1, "in", "out", "inwards", "outwards", "inward", "outward"):
			words["swing"] = strings.TrimSuffix(strings.TrimSuffix(r.all[i+1].text, "s"), "ward")
			r.use(i, i+2)
		case r.is(i, "hinges", "hinged", "hinge", "hung") && (r.is(i+1, "left", "right") || r.is(i+1, "on", "at") && r.is(i+2, "left", "right")):
			k := i + 1
			if !r.is(k, "left", "right") {
				k++
			}
			words["hinge"] = r.all[k].text
			r.use(i, k+1)
		case r.is(i, "arched"):
			words["shape"] = "arched"
			r.use(i, i+1)
		}
	}
	r.drop("house", "garden", "yard", "street", "outside", "main", "back", "front", "side", "sticks", "stands", "from", "left", "at", "along", "up", "sill", "opens", "rolls", "under", "ceiling", "fixed", "one", "two", "three", "whole", "over", "floor")
	if kind == "keepsake" {
		words["name"] = called
	}
	// What is left along the wall: of plates, where the others are; of others, a width.
	xs := []length.Length{values["x"]}
	if loose := r.loose(); len(loose) > 0 {
		_, there := values["x"]
		switch _, wide := values["w"]; {
		case there && f.W <= 100*length.Millimetre:
			xs = append(xs, loose...)
		case !wide:
			values["w"] = loose[0]
		case !there:
			xs[0], values["x"] = loose[0], loose[0]
		}
	}
	for _, x := range xs {
		r.enter("walls/"+wall+"/features/+", string(kind))
		if _, ok := values["x"]; ok {
			values["x"] = x
		}
		put := func(l func(length.Length) length.Length, fields ...string) {
			for _, field := range fields {
				if v, ok := values[field]; ok {
					r.enter(justAdded+"/"+field, exact(l(v)))
				}
			}
		}
		as := func(l length.Length) func(length.Length) length.Length {
			return func(length.Length) length.Length { return l }
		}
		itself := func(l length.Length) length.Length { return l }
		// On its way to where it is it must fit everywhere: it is small at the left end first.
		put(as(length.Millimetre), "h")
		put(as(0), "z", "x")
		put(itself, "w", "x", "z", "h", "d")
		for _, field := range []string{"swing", "hinge", "shape", "name"} {
			if words[field] != "" {
				r.enter(justAdded+"/"+field, words[field])
			}
		}
	}
	r.says("feature", would, "%s", featureSays(called, wall, f, values, xs, words))
}

// up is how high something begins: the length behind the word, else the one before it.
func (r *room) up() *length.Length {
	for i := range r.all {
		switch {
		case r.is(i, "up") && r.isLong(i+1):
			return r.takeLong(i, i+2, i+1)
		case r.is(i, "up") && r.isLong(i-1):
			return r.takeLong(i-1, i+1, i-1)
		}
	}
	return nil
}

// featureSays what was understood of a door or the like.
func featureSays(called, wall string, usual shop.Feature, values map[string]length.Length, xs []length.Length, words map[string]string) string {
	says := fmt.Sprintf("%s in wall %s", called, wall)
	if _, ok := values["w"]; ok {
		h := usual.H
		if v, ok := values["h"]; ok {
			h = v
		}
		says += fmt.Sprintf(", %s × %s", values["w"], h)
	}
	if _, ok := values["x"]; ok {
		var at []string
		for _, x := range xs {
			at = append(at, x.String())
		}
		says += ", " + strings.Join(at, ", ") + " from the left"
	}
	if z, ok := values["z"]; ok {
		says += fmt.Sprintf(", %s up", z)
	}
	if d, ok := values["d"]; ok {
		says += fmt.Sprintf(", %s deep", d)
	}
	if w := words["swing"]; w != "" {
		says += ", opens " + w
	}
	if w := words["hinge"]; w != "" {
		says += ", hinges " + w
	}
	return says
}
