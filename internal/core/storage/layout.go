package storage

import (
	"fmt"

	"hobrak/internal/core/carry"
	"hobrak/internal/core/keeping"
	"hobrak/internal/core/kinds"
	"hobrak/internal/core/length"
	"hobrak/internal/core/shop"
	"hobrak/internal/core/weight"
)

// Shape in the drawing of a place, mm from its lower or front left corner.
type Shape struct {
	Kind  string  `json:"kind" enum:"thing,slot,rail,level,case,front"`
	X     float64 `json:"x"`
	Y     float64 `json:"y" doc:"up, or away from the front when seen from above"`
	W     float64 `json:"w"`
	H     float64 `json:"h"`
	Item  string  `json:"item"`
	Name  string  `json:"name"`
	Glyph string  `json:"glyph"`
	Back  bool    `json:"back" doc:"in the second row"`
}

// Layout of a place, seen from the side that shows what is in it.
type Layout struct {
	View   string   `json:"view" enum:"from the front,from above,from the end"`
	W      float64  `json:"w"`
	H      float64  `json:"h"`
	Shapes []Shape  `json:"shapes" nullable:"false"`
	Notes  []string `json:"notes" nullable:"false" doc:"what is to be said of it as it is"`
}

// Lay draws a place with its homes.
func Lay(p *shop.Place, homes []shop.Home, item func(id string) *shop.Item) Layout {
	k := keeping.Of(p)
	out := Layout{View: "from the front", W: p.W.MM(), H: p.H.MM(), Shapes: []Shape{}, Notes: []string{}}
	switch k.View() {
	case keeping.FromAbove:
		out.View, out.H = "from above", p.D.MM()
	case keeping.FromEnd:
		out.View, out.W = "from the end", p.D.MM()
	}
	for _, z := range p.Rows {
		out.Shapes = append(out.Shapes, Shape{Kind: "rail", Y: z.MM() - 30, W: p.W.MM(), H: 30})
	}
	x := 0.0
	for _, r := range p.Slots {
		for range r.N {
			out.Shapes = append(out.Shapes, Shape{Kind: "slot", X: x, Y: p.H.MM() - r.H.MM(), W: r.W.MM(), H: r.H.MM()})
			x += r.W.MM()
		}
	}
	for _, l := range p.Levels {
		out.Shapes = append(out.Shapes, Shape{Kind: "level", Y: l.Z.MM() - 30, W: out.W, H: 30})
	}
	for i := range homes {
		if h := &homes[i]; h.Place == p.ID {
			if it := item(h.Item); it != nil {
				out.Shapes = append(out.Shapes, pieces(p, h, it, k.View())...)
			}
		}
	}
	out.notes(p, homes, item)
	return out
}

// pieces of a home as they are seen from a side, one shape for each.
func pieces(p *shop.Place, h *shop.Home, it *shop.Item, from keeping.View) (out []Shape) {
	for _, b := range keeping.BoxesOf(p, it, h) {
		x, y, w, up := b.X, b.Z, b.W, b.H
		switch from {
		case keeping.FromAbove:
			y, up = b.Y, b.D
		case keeping.FromEnd:
			x, w = b.Y, b.D
		}
		out = append(out, Shape{"thing", x, y, w, up, it.ID, it.Name, kinds.Glyph(it.Kind), h.Row > 0})
	}
	return out
}

// Air above what stands or lies in a place that is worth another shelf, in mm.
const Air = 200.0

// notes say what a place is like as it is: load, room left, air, sag.
func (out *Layout) notes(p *shop.Place, homes []shop.Home, item func(id string) *shop.Item) {
	k := keeping.Of(p)
	space := k.Space(p, p.H)
	tallest := length.Length(0)
	kg := weight.Weight(0)
	pieces := 0
	var misfits []string
	for i := range homes {
		h := &homes[i]
		it := item(h.Item)
		if h.Place != p.ID || it == nil {
			continue
		}
		n := h.Number(it)
		t, spot := keeping.Thing(p, it, n), keeping.SpotOf(p, h)
		if err := space.Allows(t, spot); err != nil && k.Form() != keeping.Heap {
			misfits = append(misfits, fmt.Sprintf("%s does not fit here any more: %v", it.Name, err))
		}
		space.Put(i, t, spot)
		tallest = max(tallest, it.SizeIn(p.Kind).H)
		kg += it.KG * weight.Weight(n)
		pieces += n
	}
	say := func(format string, args ...any) { out.Notes = append(out.Notes, fmt.Sprintf(format, args...)) }
	if pieces == 0 {
		say("empty")
		return
	}
	some := "1 piece"
	if pieces > 1 {
		some = fmt.Sprintf("%d pieces", pieces)
	}
	say("%s, %s", some, kg)
	out.Notes = append(out.Notes, misfits...)
	switch {
	case p.Capacity > 0 && kg > p.Capacity:
		say("overloaded: it may carry %s", p.Capacity)
	case p.Capacity > 0:
		say("%.0f %% of the %s it may carry", 100*float64(kg)/float64(p.Capacity), p.Capacity)
	default:
		say("not rated")
	}
	if space.Room() > 0 {
		say("%.0f %% full", 100*space.Used()/space.Room())
	}
	if k.Boarded() || k.Form() == keeping.Lying && k.Ample() {
		if air := (p.H - tallest).MM(); air >= Air {
			say("%s of air above what is highest: %s", length.Whole(air), map[bool]string{true: "one more fits", false: "it could be lower"}[k.Form() == keeping.Rows && air > tallest.MM()+overThings.MM()+board.MM()])
		}
	}
	stock := carry.Stock{Homes: homes, Item: item}
	switch k.Form() {
	case keeping.Rows:
		if g, err := carry.Shelf(p, kg.KG()); err == nil && (g.Sag > g.Limit || !g.Assumed) {
			say("%s", g.What(kg.KG()))
		}
	case keeping.Piles:
		out.rack(stock.Rack(p))
	}
}

// rack says what the arms carry, how the boards lie and sag, and what must be
// lifted off which.
func (out *Layout) rack(r carry.Rack) {
	say := func(format string, args ...any) { out.Notes = append(out.Notes, fmt.Sprintf(format, args...)) }
	counted := ""
	if !r.Counted {
		counted = " (assumed: say how many there are)"
	}
	say("%d arms a level, %s apart%s; the upright or stud that carries most has %s", r.Arms, length.Whole(r.Field), counted, weight.Rough(r.Upright))
	for i, l := range r.Levels {
		if len(l.Boards) == 0 {
			continue
		}
		at := "an inner arm"
		if l.End {
			at = "an outer arm"
		}
		say("level %d: %s, at most %s on %s", i+1, weight.Rough(l.KG), weight.Rough(l.Worst), at)
		for _, b := range l.Boards {
			of := b.Wood.Name
			if b.Assumed {
				of += ", assumed"
			}
			text := fmt.Sprintf("%s: past the arms by %s of %s allowed, sags %s (%s; %s are bearable)", b.Item.Name, length.Whole(b.Overhang), length.Whole(b.Most), length.Fine(b.Sag), of, length.Fine(b.Limit))
			if b.Above > 0 {
				text += fmt.Sprintf("; %d boards, %s, come off first", b.Above, weight.Rough(b.AboveKG))
			}
			say("%s", text)
		}
	}
}

// As draws a place of a shop as it is: its homes, what is on it, what its
// fixing holds.
func As(s *shop.Shop, ix *shop.Index, p *shop.Place) Layout {
	out := Lay(p, s.Homes, ix.Item)
	above := out.View == "from above"
	for i := range s.Containers {
		c := &s.Containers[i]
		if c.At.In != p.ID {
			continue
		}
		r := Shape{Kind: "case", X: c.At.X.MM(), Y: c.At.Z.MM(), W: c.W.MM(), H: c.H.MM(), Name: c.ID}
		if above {
			r.Y, r.H = c.At.Y.MM(), c.D.MM()
		}
		out.Shapes = append(out.Shapes, r)
		out.Notes = append(out.Notes, fmt.Sprintf("%s is on it", c.ID))
	}
	_, at := ix.Chain(&p.At)
	if at.Wall == "" {
		return out
	}
	stock, surface := carry.Of(s, ix), ix.Area(at.Area).Wall(at.Wall).Surface
	f, rating, held, id := p.Fixing, p.Capacity.KG(), stock.Place(p), p.ID
	if c := ix.Container(p.At.In); c != nil {
		f, rating, held, id = c.Fixing, c.Capacity.KG(), stock.Container(c), c.ID
	}
	if f == nil {
		return out
	}
	if v := carry.Screwed(f, rating, surface, held); v.Rated {
		out.Notes = append(out.Notes, fmt.Sprintf("%s: its fixing may carry %s and has %s (%s)", id, weight.Rough(v.KG), weight.Rough(held.KG), v.Why))
	} else {
		out.Notes = append(out.Notes, id+": "+v.Why)
	}
	return out
}

// Front draws a whole design from the front: its case, its places with what
// hangs or stands in them; of drawers their fronts.
func Front(d *Design, item func(id string) *shop.Item) Layout {
	out := Layout{View: "from the front", W: d.W.MM(), H: d.H.MM(), Shapes: []Shape{}, Notes: []string{}}
	if d.Container != nil {
		out.Shapes = append(out.Shapes, Shape{Kind: "case", W: d.W.MM(), H: d.H.MM()})
	}
	for i := range d.Places {
		p := &d.Places[i]
		x, z := p.At.X.MM(), p.At.Z.MM()
		outline := Shape{Kind: "front", X: x, Y: z, W: p.W.MM(), H: p.H.MM(), Name: p.ID}
		switch keeping.Of(p).Face() {
		case keeping.Front:
			if d.Container != nil && d.Container.Kind.Lifted() {
				out.Shapes = append(out.Shapes, outline)
				continue
			}
			out.Shapes = append(out.Shapes, Shape{Kind: "front", X: board.MM(), Y: z - 10, W: d.W.MM() - 2*board.MM(), H: p.H.MM() + 16, Name: p.ID})
			continue
		case keeping.Shut:
			out.Shapes = append(out.Shapes, outline)
			continue
		case keeping.Ledge:
			out.Shapes = append(out.Shapes, Shape{Kind: "level", X: x, Y: z - board.MM(), W: p.W.MM(), H: board.MM()})
		case keeping.Framed:
			out.Shapes = append(out.Shapes, outline)
		}
		if keeping.Of(p).View() == keeping.FromEnd {
			out.long(p, d, item)
			continue
		}
		for _, s := range Lay(p, d.Homes, item).Shapes {
			s.X, s.Y = s.X+x, s.Y+z
			out.Shapes = append(out.Shapes, s)
		}
	}
	return out
}

// long things on levels, which Lay draws from the end, from the front: each as long as
// it is.
func (out *Layout) long(p *shop.Place, d *Design, item func(id string) *shop.Item) {
	for _, l := range p.Levels {
		out.Shapes = append(out.Shapes, Shape{Kind: "level", Y: l.Z.MM() - 30, W: p.W.MM(), H: 30})
	}
	for i := range d.Homes {
		if h := &d.Homes[i]; h.Place == p.ID && item(h.Item) != nil {
			out.Shapes = append(out.Shapes, pieces(p, h, item(h.Item), keeping.FromFront)...)
		}
	}
}
