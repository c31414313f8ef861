// Package mode looks at one arrangement of the floor: what takes room where, how wide the ways are, what is open, and what
// breaks a rule there or asks for caution. Lengths are millimetres as floats.
package mode

import (
	"fmt"
	"slices"
	"strings"

	"hobrak/internal/core/access"
	"hobrak/internal/core/body"
	"hobrak/internal/core/floor"
	"hobrak/internal/core/free"
	"hobrak/internal/core/geometry"
	"hobrak/internal/core/length"
	"hobrak/internal/core/shop"
)

// States of a thing in an arrangement.
const (
	Stands  = "stands"
	Folded  = "folded"
	HoistUp = "hoisted"
	Outdoor = "outdoors" // rolled out while it is dry
	Away    = "away"
)

// Shape is something on the floor of an arrangement, or out of its way there.
type Shape struct {
	ID      string       `json:"id"`
	Name    string       `json:"name"`
	Kind    string       `json:"kind" enum:"station,container,place,post"`
	State   string       `json:"state" enum:"stands,folded,hoisted,outdoors,away"`
	Movable bool         `json:"movable" doc:"it rolls, folds or is hung up: a mode can have a spot of its own for it"`
	Own     bool         `json:"own" doc:"the mode has a spot of its own for it"`
	Ghost   string       `json:"ghost" doc:"it is only wished for: the day until which it holds its place; empty otherwise"`
	Under   bool         `json:"under" doc:"it is beneath the top of something else"`
	Corners [][2]float64 `json:"corners" nullable:"false" doc:"of its footprint; of what stands at any turn its front runs from the first to the second"`
	X       float64      `json:"x" doc:"left edge of its footprint before it is turned"`
	Y       float64      `json:"y"`
	W       float64      `json:"w"`
	D       float64      `json:"d"`
	Rot     float64      `json:"rot"`
	From    float64      `json:"from" doc:"height it begins at"`
	To      float64      `json:"to"`
}

// Way is how wide one walks from the main door to where one stands at a station.
type Way struct {
	Station string   `json:"station"`
	Name    string   `json:"name"`
	Wide    float64  `json:"wide" doc:"mm at its narrowest, at most 1100; 0 when there is no way"`
	X       float64  `json:"x" doc:"where it is narrowest"`
	Y       float64  `json:"y"`
	Between []string `json:"between" nullable:"false" doc:"what stands on both sides there"`
}

// Breach is a rule that is broken in an arrangement, or a caution.
type Breach struct {
	Code string   `json:"code"`
	Hard bool     `json:"hard" doc:"a broken rule; else a caution"`
	Of   []string `json:"of" nullable:"false" doc:"ids of what it is about"`
	Says string   `json:"says"`
	Do   string   `json:"do" doc:"what helps; empty when that is plain"`
}

// Layout of an arrangement.
type Layout struct {
	Mode     string     `json:"mode" doc:"its id; empty as it stands"`
	Name     string     `json:"name"`
	Hours    float64    `json:"hours" doc:"a week"`
	Shapes   []Shape    `json:"shapes" nullable:"false"`
	Ways     []Way      `json:"ways" nullable:"false"`
	Breaches []Breach   `json:"breaches" nullable:"false" doc:"broken rules first"`
	Open     floor.Open `json:"open"`
	Surfaces float64    `json:"surfaces" doc:"m² of tops to work and put things down on"`
}

// Of is an area of a shop in a mode, or as it stands when none is named.
func Of(s *shop.Shop, mode string, area string) (*Layout, error) {
	w, m, err := look(s, mode, area)
	if err != nil {
		return nil, err
	}
	out := &Layout{Mode: mode, Name: m.Name, Hours: m.HoursPerWeek, Shapes: w.shapes(), Ways: append([]Way{}, w.judge()...), Open: floor.OpenFloor(w.s, w.area)}
	for i := range w.s.Stations {
		if st := &w.s.Stations[i]; w.ix.Area(st.Area) == w.area && st.Kind.Bench() && st.W > body.Gone {
			out.Surfaces += st.W.MM() * st.D.MM() / 1e6
		}
	}
	out.Breaches = w.found
	return out, nil
}

// Breaches are what breaks a rule in a mode, or asks for caution, broken rules first: what Of gives without what is drawn.
func Breaches(s *shop.Shop, mode string, area string) ([]Breach, error) {
	w, _, err := look(s, mode, area)
	if err != nil {
		return nil, err
	}
	w.judge()
	return w.found, nil
}

func look(s *shop.Shop, mode string, area string) (*world, *shop.Mode, error) {
	then, m := s, &shop.Mode{Name: "as it stands"}
	if mode != "" {
		var err error
		if m, err = s.Mode(mode); err != nil {
			return nil, nil, err
		}
		if then, err = s.InMode(mode); err != nil {
			return nil, nil, err
		}
	}
	ix := shop.NewIndex(then)
	a := ix.Area(area)
	if a == nil {
		return nil, nil, fmt.Errorf("there is no area %q", area)
	}
	w := &world{was: s, s: then, ix: ix, area: a, mode: m, outline: a.Outline(), bodies: body.In(then, ix, a)}
	w.hoisted()
	return w, m, nil
}

// judge looks for everything that is to be said, and gives the ways.
func (w *world) judge() []Way {
	w.found = []Breach{}
	w.keeps, _ = free.KeptIn(w.s, w.ix, w.area)
	w.known()
	w.together()
	w.ghosts()
	w.inRoom()
	w.standing()
	w.kept()
	w.openings()
	w.lines()
	w.sparks()
	w.heads()
	w.aids()
	w.rolling()
	w.hung()
	w.leaves()
	ways := w.ways()
	slices.SortStableFunc(w.found, func(a, b Breach) int {
		switch {
		case a.Hard == b.Hard:
			return 0
		case a.Hard:
			return -1
		}
		return 1
	})
	return ways
}

// Hard tells whether a rule is broken.
func (l *Layout) Hard() bool {
	return slices.ContainsFunc(l.Breaches, func(b Breach) bool { return b.Hard })
}

// world is an arrangement that is looked at.
type world struct {
	was     *shop.Shop // as it stands
	s       *shop.Shop // in the mode
	ix      *shop.Index
	area    *shop.Area
	mode    *shop.Mode
	outline geometry.Polygon
	bodies  []body.Body
	found   []Breach
	keeps   []free.Kept // what the building keeps clear
	aidsAt  []aid       // what has to be at hand, where it lives
	ids     []string    // of what stands in the way, as ways number it
}

func (w *world) add(hard bool, code string, of []string, do, format string, args ...any) {
	w.found = append(w.found, Breach{code, hard, of, fmt.Sprintf(format, args...), do})
}

func (w *world) called(id string) string {
	if n := w.ix.Name(id); n != "" && n != id {
		return n
	}
	return id
}

// hoisted adds what a mode pulls up under the ceiling, above where it stands otherwise.
func (w *world) hoisted() {
	roof := free.NewRoof(w.area)
	ix := shop.NewIndex(w.was)
	for id, spot := range w.mode.Spots {
		if spot.State != HoistUp {
			continue
		}
		if st := ix.Station(id); st != nil && ix.Area(st.Area).ID == w.area.ID {
			foot := st.Footprint()
			top := roof.Lowest(foot)
			w.bodies = append(w.bodies, body.Body{ID: id, Of: id, Part: body.Hoisted, Foot: foot, From: max(0, top-max(st.H, st.Tall).MM()), To: top, Movable: true})
		}
	}
}

func (w *world) shapes() []Shape {
	out := []Shape{}
	state := func(id string) (string, bool) {
		spot, own := w.mode.Spots[id]
		if spot.State == "" {
			return Stands, own
		}
		return spot.State, own
	}
	body := map[string]*body.Body{}
	for i := range w.bodies {
		if b := &w.bodies[i]; b.Part.Solid() && body[b.ID] == nil {
			body[b.ID] = b
		}
	}
	put := func(x Shape, foot geometry.Polygon) {
		for _, p := range foot {
			x.Corners = append(x.Corners, [2]float64{p.X, p.Y})
		}
		if b := body[x.ID]; b != nil {
			x.From, x.To = b.From, b.To
			for i := range w.bodies {
				if o := &w.bodies[i]; o.From > 0 && o.Part == "top" && o.ID != x.ID && b.To <= o.From+1 && o.Foot.Overlaps(b.Foot, 1) {
					x.Under = true
				}
			}
		}
		out = append(out, x)
	}
	was := shop.NewIndex(w.was)
	for i := range w.s.Stations {
		st := &w.s.Stations[i]
		if w.ix.Area(st.Area) != w.area {
			continue
		}
		x := Shape{ID: st.ID, Name: st.Name, Kind: "station", Movable: st.Mobility.Aside() || st.Mobility == shop.HungUp, X: st.X.MM(), Y: st.Y.MM(), W: st.W.MM(), D: st.D.MM(), Rot: st.Rot}
		x.State, x.Own = state(st.ID)
		x.Ghost = st.Wished
		if st.Mobility == shop.HungUp && !x.Own {
			x.State = HoistUp
		}
		if x.State == HoistUp || x.State == Outdoor || x.State == Away {
			o := was.Station(st.ID)
			x.W, x.D = o.W.MM(), o.D.MM()
		}
		put(x, geometry.Rectangle(x.X, x.Y, x.W, x.D, x.Rot))
	}
	for i := range w.s.Containers {
		c := &w.s.Containers[i]
		o := was.Container(c.ID)
		if o.At.Away && c.At.Away && c.Kind.Rolls() && was.Area(c.Area) == was.Area(w.area.ID) {
			// It is brought in when there is room for it.
			low, high := w.outline.Bounds()
			mid := low.Add(high).Mul(.5)
			x := Shape{ID: c.ID, Name: w.called(c.ID), Kind: "container", State: Away, Movable: true, X: mid.X - c.W.MM()/2, Y: mid.Y - c.D.MM()/2, W: c.W.MM(), D: c.D.MM()}
			_, x.Own = state(c.ID)
			put(x, geometry.Rectangle(x.X, x.Y, x.W, x.D, 0))
			continue
		}
		if o.At.Floor == nil && c.At.Floor == nil || was.Area(o.At.Area).ID != w.area.ID {
			continue
		}
		at := c.At
		if at.Floor == nil {
			at = o.At
		}
		if at.Floor == nil {
			continue
		}
		x := Shape{ID: c.ID, Name: w.called(c.ID), Kind: "container", Movable: c.Kind.Rolls(), X: at.Floor[0].MM(), Y: at.Floor[1].MM(), W: c.W.MM(), D: c.D.MM(), Rot: at.Rot}
		x.State, x.Own = state(c.ID)
		put(x, geometry.Rectangle(x.X, x.Y, x.W, x.D, x.Rot))
	}
	for _, t := range access.StandingIn(w.s, w.ix, w.area) {
		if w.ix.Station(t.ID) != nil || w.ix.Container(t.ID) != nil {
			continue
		}
		kind := "place"
		if t.Built {
			kind = "post"
		}
		low, high := t.Footprint.Bounds()
		put(Shape{ID: t.ID, Name: w.called(t.ID), Kind: kind, State: Stands, X: low.X, Y: low.Y, W: high.X - low.X, D: high.Y - low.Y}, t.Footprint)
	}
	return out
}

// together finds solid bodies in each other.
func (w *world) together() {
	for i := range w.bodies {
		a := &w.bodies[i]
		if !a.Part.Solid() {
			continue
		}
		for k := range i {
			b := &w.bodies[k]
			if !b.Part.Solid() || a.Part == body.Hangs && b.Part == body.Hangs || !a.Meets(b, 1) {
				continue
			}
			switch {
			case a.Part == body.Hoisted || b.Part == body.Hoisted:
				up, under := a, b
				if b.Part == body.Hoisted {
					up, under = b, a
				}
				w.add(true, "hoisted", []string{up.ID, under.ID}, "move what is under it, or leave it down", "%s is hoisted into %s", w.called(up.ID), w.called(under.ID))
			case a.Part == body.Hangs || b.Part == body.Hangs:
				// Looked at by the storage's own rules: here only when something was moved under it.
				up, under := a, b
				if b.Part == body.Hangs {
					up, under = b, a
				}
				if _, own := w.mode.Spots[under.ID]; own {
					w.add(true, "standing", []string{under.ID, up.ID}, "choose another spot for it", "%s stands in %s, which hangs down to %s there", w.called(under.ID), w.called(up.ID), length.Whole(up.From))
				}
			default:
				w.add(true, "standing", []string{a.ID, b.ID}, "move one of them", "%s and %s stand in the same spot", w.called(a.ID), w.called(b.ID))
			}
		}
	}
}

// ghosts finds what stands where something that is wished for is to come.
func (w *world) ghosts() {
	for i := range w.s.Stations {
		st := &w.s.Stations[i]
		if st.Wished == "" || w.ix.Area(st.Area) != w.area {
			continue
		}
		g := body.Body{ID: st.ID, Foot: st.Footprint(), To: max(st.H, st.Tall).MM()}
		for k := range w.bodies {
			if b := &w.bodies[k]; b.Part.Solid() && b.Part != body.Hangs && b.Meets(&g, 1) {
				w.add(false, "ghost", []string{st.ID, b.ID}, "move it before that comes, or hold another place", "%s stands where %s is to come", w.called(b.ID), st.Name)
			}
		}
	}
}

// inRoom finds what stands through a wall, or is higher than the slope of the ceiling over it.
func (w *world) inRoom() {
	roof := free.NewRoof(w.area)
	for i := range w.bodies {
		b := &w.bodies[i]
		if b.Part != body.Stands && b.Part != body.Top {
			continue
		}
		if slices.ContainsFunc(b.Foot, func(p geometry.Point) bool { return !w.outline.Contains(p) && w.outline.Distance(p) > 5 }) {
			w.add(true, "outside", []string{b.ID}, "move it in", "%s reaches through a wall", w.called(b.ID))
		} else if top := roof.Lowest(b.Foot); b.To > top+5 {
			w.add(true, "roof", []string{b.ID}, "move it to where the ceiling is higher", "%s is %s high, and the ceiling over it only %s", w.called(b.ID), length.Whole(b.To), length.Whole(top))
		}
	}
}

// standing finds spots to stand at that something stands on.
func (w *world) standing() {
	for i := range w.s.Stations {
		st := &w.s.Stations[i]
		if w.ix.Area(st.Area) != w.area || st.Kind.Lodger() || w.idle(st) {
			continue
		}
		p := st.Stand.Geometry()
		for k := range w.bodies {
			if b := &w.bodies[k]; b.Part == body.Stands && b.Foot.Contains(p) && b.ID != st.ID {
				_, moved := w.mode.Spots[b.ID]
				// In a mode in which something is brought in, what it stands before is not worked at.
				w.add(w.mode.ID == "" || !moved, "stand", []string{st.ID, b.ID}, "move one of them, or do not work there in this arrangement", "where one stands at %s there is %s", w.called(st.ID), w.called(b.ID))
			}
		}
	}
}

var keptCodes = map[string]struct {
	hard bool
	do   string
}{
	"door-swing": {true, "move it, or let the door open to the other side"},
	"panel":      {false, "keep the room before it free; local codes say how much"},
	"heater":     {false, "keep it away from what gets hot, as the maker of the heater says"},
	"track":      {true, "lower it, or move it out from under the tracks"},
}

// kept finds what stands in room that the building needs: where doors swing, before the panel, at a heater.
func (w *world) kept() {
	for _, k := range w.keeps {
		rule, ok := keptCodes[k.Limit.Kind]
		if !ok {
			continue
		}
		for i := range w.bodies {
			b := &w.bodies[i]
			// What a place on the floor keeps for things is its own affair: the storage's rules know of doors.
			if w.ix.Station(b.ID) == nil && w.ix.Container(b.ID) == nil || !b.Part.Solid() || b.Part == body.Hangs || b.From >= k.To-1 || b.To <= k.From+1 || !b.Foot.Overlaps(k.Foot, 5) {
				continue
			}
			w.add(rule.hard, k.Limit.Kind, []string{b.ID, k.Limit.By}, rule.do, "%s is in the way of %s", w.called(b.ID), k.Limit.Says)
		}
	}
}

// openShare is how much of its depth a drawer or door must open for what is in it to be got at (estimate).
const openShare = .6

// openings finds doors, drawers and lids that something stops. One word for each thing they are part of.
func (w *world) openings() {
	type stopped struct {
		by    string
		n     int
		worst *body.Body
		far   float64
	}
	byThing, order := map[string]*stopped{}, []string{}
	for i := range w.bodies {
		b := &w.bodies[i]
		if b.Part.Solid() {
			continue
		}
		far, by := b.Opens(w.bodies)
		full := b.Deep
		if b.Part.Up() {
			full = b.To - b.From
		}
		if by == "" || far >= openShare*full {
			continue
		}
		key := b.Of + " " + by
		if byThing[key] == nil {
			byThing[key] = &stopped{by: by, worst: b, far: far}
			order = append(order, key)
		}
		x := byThing[key]
		x.n++
		if far < x.far {
			x.far, x.worst = far, b
		}
	}
	for _, key := range order {
		x := byThing[key]
		what, verb := w.called(x.worst.ID), "opens"
		switch x.worst.Part {
		case body.Drum:
			what, verb = "the drum of "+what, "comes out"
		case body.Flip:
			what, verb = "the top of "+what, "turns up"
		case body.Arm:
			what, verb = "the arm of "+what, "swings"
		}
		if x.n > 1 {
			what, verb = fmt.Sprintf("%d doors and drawers of %s", x.n, w.called(x.worst.Of)), "open"
		}
		do := "move one of them"
		for i := range w.bodies {
			if o := &w.bodies[i]; o.ID == x.by && o.Movable {
				do = "roll " + w.called(x.by) + " away first"
			}
		}
		w.add(false, "opens", []string{x.worst.ID, x.by}, do, "%s %s only %s before %s stops it", what, verb, length.Whole(x.far), w.called(x.by))
	}
}

// sides names what is on both sides of the narrowest spot of a way.
func (w *world) sides(t *terrain, pinch int) (out []string) {
	for _, n := range t.between(pinch, w.outline) {
		if n < 0 {
			out = append(out, "a wall")
		} else {
			out = append(out, w.called(w.ids[n]))
		}
	}
	return out
}

// ways works out how wide one walks to each station.
func (w *world) ways() (out []Way) {
	door, ok := access.MainDoor(w.area)
	if !ok {
		return nil
	}
	var solid []geometry.Polygon
	var ids []string
	for i := range w.bodies {
		if b := &w.bodies[i]; b.Part == body.Stands || b.Part == body.Top || b.Part == body.Post {
			solid, ids = append(solid, b.Foot), append(ids, b.ID)
		}
	}
	t := newTerrain(w.outline, solid)
	t.spread(door)
	w.ids = ids
	clear := w.s.Settings.Clearances()
	var none []string
	for i := range w.s.Stations {
		st := &w.s.Stations[i]
		if w.ix.Area(st.Area) != w.area || st.Kind.Lodger() || w.idle(st) {
			continue
		}
		wide, pinch := t.to(st.Stand.Geometry())
		x := Way{Station: st.ID, Name: st.Name, Wide: min(wide, widest), Between: []string{}}
		if pinch >= 0 {
			p := t.middle(pinch)
			x.X, x.Y = p.X, p.Y
			x.Between = w.sides(t, pinch)
		}
		out = append(out, x)
		switch {
		case wide == 0:
			none = append(none, st.Name)
		case wide < clear.AisleSide-square:
			w.add(false, "way", []string{st.ID}, "move one of them: out of a room one should get without turning sideways",
				"the way to %s is %s wide between %s; %s are wanted", st.Name, length.Whole(x.Wide), strings.Join(x.Between, " and "), length.Whole(clear.AisleSide))
		}
	}
	if len(none) > 0 {
		w.add(false, "way", nil, "fine while nobody works there; else move what stands between", "one does not get from the door to %s", strings.Join(none, ", "))
	}
	w.helped(t)
	// What rolls is of use only when it gets past, to whichever door.
	if doors := access.Doors(w.area); len(doors) > 1 {
		t.spread(doors...)
	}
	for i := range w.bodies {
		b := &w.bodies[i]
		if !b.Movable || b.Part != body.Stands || w.called(b.ID) == "" {
			continue
		}
		if st := w.ix.Station(b.ID); st != nil && st.Mobility != shop.Rolls {
			continue
		}
		most, need := 0.0, min(b.Foot[0].Distance(b.Foot[1]), b.Foot[1].Distance(b.Foot[2]))
		for k := range b.Foot {
			e := b.Foot.Edge(k)
			mid := e.A.Add(e.B).Mul(.5)
			out := mid.Sub(b.Foot[0].Add(b.Foot[2]).Mul(.5)).Unit()
			wide, _ := t.to(mid.Add(out.Mul(square)))
			most = max(most, wide)
		}
		if most > 0 && most < min(need, widest)-2*square {
			w.add(false, "boxed-in", []string{b.ID}, "move what stands beside it first", "%s is %s wide and the way out for it %s", w.called(b.ID), length.Whole(need), length.Whole(most))
		}
	}
	return out
}
