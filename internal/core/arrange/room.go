package arrange

import (
	"cmp"
	"fmt"
	"math"
	"slices"

	"hobrak/internal/core/body"
	"hobrak/internal/core/feed"
	"hobrak/internal/core/floor"
	"hobrak/internal/core/geometry"
	"hobrak/internal/core/length"
	"hobrak/internal/core/mode"
	"hobrak/internal/core/shift"
	"hobrak/internal/core/shop"
)

// short is by how much the longest pieces have too little room at all machines, m: what their feed asks for, less what passes.
func short(s *shop.Shop, area *shop.Area) float64 {
	all, err := feed.Of(s, "")
	if err != nil {
		return 0
	}
	ix := shop.NewIndex(s)
	sum := 0.0
	for i := range all {
		st := ix.Station(all[i].Station)
		if st == nil || ix.Area(st.Area) != area {
			continue
		}
		sum += max(0, min(st.Feed.In.MM(), st.Feed.Out.MM())-all[i].Longest) / 1000
	}
	return sum
}

// Settle gives what clashes in modes other spots there, after stations moved: the nearest that are free, or folded; false when
// something finds none.
func Settle(s *shop.Shop, area string) bool {
	for i := range s.Modes {
		m := &s.Modes[i]
		for range len(m.Spots) + len(s.Stations) {
			l, err := mode.Breaches(s, m.ID, area)
			if err != nil {
				return false
			}
			k := slices.IndexFunc(l, func(b mode.Breach) bool { return b.Hard && (b.Code == "standing" || b.Code == "stand") })
			if k < 0 {
				break
			}
			settled := false
			for _, id := range l[k].Of {
				if settled = settle(s, m, area, id); settled {
					break
				}
			}
			if !settled {
				return false
			}
		}
	}
	return true
}

// settle finds something a spot in a mode on which it meets nothing.
func settle(s *shop.Shop, m *shop.Mode, area, id string) bool {
	r, err := newRoom(s, m.ID, area)
	if err != nil {
		return false
	}
	t := r.thing(id)
	if t == nil || !t.moves {
		return false
	}
	was, had := m.Spots[id]
	meetsNothing := func(to shop.Standing) bool {
		put(m, id, to)
		l, err := mode.Breaches(s, m.ID, area)
		return err == nil && !clashes(l, id)
	}
	if t.folds && meetsNothing(shop.Standing{State: "folded"}) {
		return true
	}
	free := r.free(t, []string{id})
	for _, c := range free[:min(len(free), mostFree)] {
		if meetsNothing(c.standing()) {
			return true
		}
	}
	if had {
		m.Spots[id] = was
	} else {
		delete(m.Spots, id)
	}
	return false
}

func clashes(l []mode.Breach, id string) bool {
	return slices.ContainsFunc(l, func(b mode.Breach) bool { return b.Hard && slices.Contains(b.Of, id) })
}

func put(m *shop.Mode, id string, to shop.Standing) {
	if m.Spots == nil {
		m.Spots = map[string]shop.Standing{}
	}
	m.Spots[id] = to
}

// room is an arrangement in which room is made.
type room struct {
	s       *shop.Shop // as it stands
	area    *shop.Area
	mode    string
	outline geometry.Polygon
	bodies  []body.Body
	things  []thing
}

// thing that can be moved, or must be brought in.
type thing struct {
	id, name     string
	w, d, h      float64
	x, y, rot    float64 // where it is in the mode
	moves, folds bool
}

// berth is a spot for a thing.
type berth struct {
	x, y, rot float64
	foot      geometry.Polygon
}

func (b *berth) standing() shop.Standing {
	return shop.Standing{Floor: shop.Point{length.MM(b.x), length.MM(b.y)}, Rot: b.rot}
}

func newRoom(s *shop.Shop, id, area string) (*room, error) {
	then := s
	if id != "" {
		var err error
		if then, err = s.InMode(id); err != nil {
			return nil, err
		}
	}
	ix := shop.NewIndex(then)
	a := ix.Area(area)
	if a == nil {
		return nil, fmt.Errorf("there is no area %q", area)
	}
	r := &room{s: s, area: a, mode: id, outline: a.Outline(), bodies: body.In(then, ix, a)}
	for i := range then.Stations {
		st := &then.Stations[i]
		if ix.Area(st.Area) == a {
			o := s.Stations[i]
			lives := st.Kind.Lodger() && st.Mobility == ""
			r.things = append(r.things, thing{st.ID, st.Name, o.W.MM(), o.D.MM(), max(o.H, o.Tall).MM(), st.X.MM(), st.Y.MM(), st.Rot, st.Mobility.Aside() || st.Mobility == shop.HungUp || lives, st.Mobility == shop.Folds})
		}
	}
	for i := range then.Containers {
		c := &then.Containers[i]
		switch o := &s.Containers[i]; {
		case !c.Kind.Rolls():
		case c.At.Away && (o.At.Away || o.At.Floor != nil): // it is brought in
			r.things = append(r.things, thing{c.ID, ix.Name(c.ID), c.W.MM(), c.D.MM(), c.H.MM(), 0, 0, 0, true, false})
		case c.At.Floor != nil && ix.Area(c.At.Area) == a:
			r.things = append(r.things, thing{c.ID, ix.Name(c.ID), c.W.MM(), c.D.MM(), c.H.MM(), c.At.Floor[0].MM(), c.At.Floor[1].MM(), c.At.Rot, true, false})
		}
	}
	return r, nil
}

func (r *room) thing(id string) *thing {
	for i := range r.things {
		if r.things[i].id == id {
			return &r.things[i]
		}
	}
	return nil
}

// roomStep is how far spots are apart at which room is looked for, mm.
const roomStep = 100.0

// berths in the room for something so large, inside the walls and below the ceiling, in no body that cannot be moved.
func (r *room) berths(t *thing, firm func(*body.Body) bool) (out []berth) {
	low, high := r.outline.Bounds()
	for _, rot := range []float64{0, 90, 180, 270} {
		w, d := t.w, t.d
		if rot == 90 || rot == 270 {
			w, d = d, w
		}
		for x := low.X; x+w <= high.X+1; x += roomStep {
			for y := low.Y; y+d <= high.Y+1; y += roomStep {
				foot := geometry.Rectangle(x, y, w, d, 0)
				if !r.holds(foot) {
					continue
				}
				b := body.Body{ID: t.id, Of: t.id, Part: body.Stands, Foot: foot, To: t.h}
				if slices.ContainsFunc(r.bodies, func(o body.Body) bool { return o.Part.Solid() && o.ID != t.id && firm(&o) && b.Meets(&o, 1) }) {
					continue
				}
				mid := geometry.Point{X: x + w/2, Y: y + d/2}
				out = append(out, berth{mid.X - t.w/2, mid.Y - t.d/2, rot, foot})
			}
		}
	}
	return out
}

func (r *room) holds(foot geometry.Polygon) bool {
	for i, c := range foot {
		if !r.outline.Contains(c) && r.outline.Distance(c) > 2 {
			return false
		}
		mid := foot[0].Add(foot[2]).Mul(.5)
		a, b := c.Add(mid.Sub(c).Unit().Mul(3)), foot[(i+1)%len(foot)]
		b = b.Add(mid.Sub(b).Unit().Mul(3))
		for k := range r.outline {
			if r.outline.Edge(k).Crosses(geometry.Segment{A: a, B: b}) {
				return false
			}
		}
	}
	return true
}

// free berths of a thing with nothing in them, the nearest to where it is first; what is listed is not in its way.
func (r *room) free(t *thing, gone []string) []berth {
	out := r.berths(t, func(b *body.Body) bool { return !slices.Contains(gone, b.ID) })
	here := geometry.Point{X: t.x + t.w/2, Y: t.y + t.d/2}
	slices.SortStableFunc(out, func(a, b berth) int {
		return cmp.Or(cmp.Compare(middle(a.foot).Distance(here), middle(b.foot).Distance(here)), cmp.Compare(turn(a.rot, t.rot), turn(b.rot, t.rot)))
	})
	return out
}

func turn(a, b float64) float64 { return math.Abs(math.Remainder(a-b, 360)) }

func middle(g geometry.Polygon) geometry.Point { return g[0].Add(g[2]).Mul(.5) }

// Step is something put elsewhere to make room.
type Step struct {
	ID    string  `json:"id"`
	Name  string  `json:"name"`
	State string  `json:"state" enum:"stands,folded"`
	X     float64 `json:"x"`
	Y     float64 `json:"y"`
	Rot   float64 `json:"rot"`
}

// Made is room that was made for something in a mode.
type Made struct {
	Steps   []Step   `json:"steps" nullable:"false" doc:"what stands otherwise than before, what the room is for among them"`
	Seconds float64  `json:"seconds" doc:"what changing over to it takes from as it stands"`
	Stuck   []string `json:"stuck" nullable:"false" doc:"what cannot be brought to its spot, with the reason"`
	// Shop with the mode as it would be.
	Shop *shop.Shop `json:"-"`
}

// mostFree is how many free berths are tried for a thing.
const mostFree = 8

// mostFor is for how many berths it is tried out what has to move.
const mostFor = 400

// MakeRoom finds a spot for something in a mode, with the fewest other things moved or folded there; of those with as few, the
// one to which changing over takes the least. The error says why there is none.
func MakeRoom(s *shop.Shop, id, area, what string) (*Made, error) {
	now, err := mode.Breaches(s, id, area)
	if err != nil {
		return nil, err
	}
	return makeRoom(s, id, area, what, func(made *Made) bool {
		l, err := mode.Breaches(made.Shop, id, area)
		return err == nil && hard(l) <= hard(now)
	})
}

// makeRoom takes only what is lawful.
func makeRoom(s *shop.Shop, id, area, what string, lawful func(*Made) bool) (*Made, error) {
	if _, err := s.Mode(id); err != nil {
		return nil, err
	}
	r, err := newRoom(s, id, area)
	if err != nil {
		return nil, err
	}
	t := r.thing(what)
	if t == nil {
		return nil, fmt.Errorf("there is nothing called %q in this area that could be brought in", what)
	}
	if !t.moves {
		return nil, fmt.Errorf("%s is fixed: say first that it rolls, folds or is hung up", t.name)
	}
	low, high := r.outline.Bounds()
	if long, wide := max(high.X-low.X, high.Y-low.Y), min(high.X-low.X, high.Y-low.Y); max(t.w, t.d) > long || min(t.w, t.d) > wide {
		return nil, fmt.Errorf("%s, %s × %s, is larger than the room", t.name, length.Whole(t.w), length.Whole(t.d))
	}
	all := r.berths(t, func(b *body.Body) bool { o := r.thing(b.ID); return o == nil || !o.moves })
	if len(all) == 0 {
		return nil, fmt.Errorf("%s finds no spot even with everything away that can be moved; what is fixed leaves no %s × %s", t.name, length.Whole(t.w), length.Whole(t.d))
	}
	type option struct {
		at    berth
		inWay []string
		far   float64 // from where it is now
	}
	var options []option
	for _, b := range all {
		x := option{at: b}
		own := body.Body{Part: body.Stands, Foot: b.foot, To: t.h}
		for i := range r.bodies {
			if o := &r.bodies[i]; o.Part.Solid() && o.ID != what && o.Part != body.Post && own.Meets(o, 1) && !slices.Contains(x.inWay, o.ID) {
				x.inWay = append(x.inWay, o.ID)
			}
		}
		x.far = middle(b.foot).Distance(geometry.Point{X: t.x + t.w/2, Y: t.y + t.d/2})
		options = append(options, x)
	}
	slices.SortStableFunc(options, func(a, b option) int {
		return cmp.Or(cmp.Compare(len(a.inWay), len(b.inWay)), cmp.Compare(a.far, b.far))
	})
	var best *Made
	bestN, bestHard := 0, 0
	for n, x := range options {
		if best != nil && len(x.inWay) > bestN || n > mostFor && best != nil {
			break
		}
		made, ok := r.clear(t, x.at, x.inWay)
		if !ok || !lawful(made) {
			continue
		}
		plan, err := shift.Between(made.Shop, "", id)
		if err != nil {
			return nil, err
		}
		made.Seconds, made.Stuck = plan.Seconds, append([]string{}, plan.Stuck...)
		worse := len(plan.Stuck)
		if best == nil || worse < bestHard || worse == bestHard && made.Seconds < best.Seconds {
			best, bestN, bestHard = made, len(x.inWay), worse
		}
		if best != nil && bestHard == 0 && n >= 12 {
			break
		}
	}
	if best == nil {
		return nil, fmt.Errorf("wherever %s would stand, something else finds no other spot", t.name)
	}
	return best, nil
}

// clear gives what is in the way of a berth other spots: folded where that is enough, else the nearest free one.
func (r *room) clear(t *thing, at berth, inWay []string) (*Made, bool) {
	next := r.s.Clone()
	m, _ := next.Mode(r.mode)
	made := &Made{Steps: []Step{{t.id, t.name, "stands", at.x, at.y, at.rot}}, Shop: next}
	put(m, t.id, at.standing())
	for _, id := range inWay {
		on, err := newRoom(next, r.mode, r.area.ID)
		if err != nil {
			return nil, false
		}
		o := on.thing(id)
		if o == nil || !o.moves {
			return nil, false
		}
		if o.folds {
			put(m, id, shop.Standing{State: "folded"})
			if l, err := mode.Breaches(next, r.mode, r.area.ID); err == nil && !clashes(l, id) {
				made.Steps = append(made.Steps, Step{id, o.name, "folded", o.x, o.y, o.rot})
				continue
			}
		}
		done := false
		for i, b := range on.free(o, []string{id}) {
			if i == mostFree {
				break
			}
			put(m, id, b.standing())
			if l, err := mode.Breaches(next, r.mode, r.area.ID); err == nil && !clashes(l, id) {
				made.Steps = append(made.Steps, Step{id, o.name, "stands", b.x, b.y, b.rot})
				done = true
				break
			}
		}
		if !done {
			return nil, false
		}
	}
	return made, true
}

// Take puts stations where a proposal has them, and settles what clashes in modes then. The error says what does not go.
func Take(s *shop.Shop, moved []Moved) error {
	areas := map[string]bool{}
	for _, m := range moved {
		ix := shop.NewIndex(s)
		st := ix.Station(m.ID)
		if st == nil {
			return fmt.Errorf("there is no station %q", m.ID)
		}
		st.X, st.Y, st.Rot = length.MM(m.X), length.MM(m.Y), m.Rot
		st.Stand = floor.Stand(st)
		areas[ix.Area(st.Area).ID] = true
	}
	for id := range areas {
		if !Settle(s, id) {
			return fmt.Errorf("something finds no spot in one of the arrangements of the floor")
		}
	}
	return nil
}

// Swap lets two stations change places, as flow.Swaps proposes; false when one does not fit.
func Swap(s *shop.Shop, a, b string) bool {
	if !floor.Exchange(s, a, b) {
		return false
	}
	return Settle(s, shop.NewIndex(s).Area(shop.NewIndex(s).Station(a).Area).ID)
}
