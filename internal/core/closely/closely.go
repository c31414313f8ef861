// Package closely lays the things of one place by their true outlines, so that more of them go in than with the boxes round them.
package closely

import (
	"fmt"
	"math"
	"slices"

	"hobrak/internal/core/check"
	"hobrak/internal/core/geometry"
	"hobrak/internal/core/keeping"
	"hobrak/internal/core/length"
	"hobrak/internal/core/pack"
	"hobrak/internal/core/shop"
)

// Laid is what came of it.
type Laid struct {
	Place   string   `json:"place"`
	Before  int      `json:"before" doc:"things that live there now"`
	After   int      `json:"after"`
	Filled  float64  `json:"filled" doc:"share of its area that is thing, then; 0 to 1"`
	Was     float64  `json:"was" doc:"the same now"`
	Moved   int      `json:"moved" doc:"so many of those that live there are hung or laid elsewhere in it"`
	Added   []string `json:"added" nullable:"false" doc:"names of what comes in"`
	Left    []string `json:"left" nullable:"false" doc:"names of what was to come in and does not"`
	Unknown []string `json:"unknown" nullable:"false" doc:"names of what has no outline on record: its box counts"`
}

// Options of a search.
type Options struct {
	Tries int // orders that are tried; usual when 0
	Seed  uint64
	Done  func() bool
}

// mostTurns in which things are left out that would break a rule.
const mostTurns = 8

// usualTries of orders.
const usualTries = 30

// Lay the things of a place by their outlines, with more that are to come in; those it would take and that have no home when none are
// named. What is locked there, and several alike side by side, stay where they are; what lives there stays in it. The shop that comes
// back has the place packed so.
func Lay(s *shop.Shop, place string, more []string, o Options) (*Laid, *shop.Shop, error) {
	ix := shop.NewIndex(s)
	p := ix.Place(place)
	if p == nil {
		return nil, nil, fmt.Errorf("there is no place %q", place)
	}
	form := keeping.Of(p).Form()
	if form != keeping.Upright && form != keeping.Lying {
		return nil, nil, fmt.Errorf("%s is no field, drawer or tray: things are laid by their outlines where they hang or lie side by side", place)
	}
	c := &canvas{s: s, p: p, lying: form == keeping.Lying, out: &Laid{Place: place, Added: []string{}, Left: []string{}, Unknown: []string{}}}
	c.w, c.h = p.W.MM(), p.H.MM()
	if c.lying {
		c.h = p.D.MM()
	}
	for i := range s.Homes {
		if s.Homes[i].Place == place {
			c.resident(ix, i)
		}
	}
	for i := range s.Containers {
		if k := &s.Containers[i]; k.At.In == place {
			y, h := k.At.Z, k.H
			if c.lying {
				y, h = k.At.Y, k.D
			}
			c.stays(geometry.Rectangle(0, 0, k.W.MM(), h.MM(), 0), k.At.X.MM(), y.MM(), 0)
		}
	}
	c.out.Was = c.filled / max(1, c.w*c.h)
	was, err := broken(s)
	if err != nil {
		return nil, nil, err
	}
	// What comes in breaks no rule: what would hang out of reach, say, does not come in.
	barred := map[*shop.Item]bool{}
	for turn := 0; ; turn++ {
		if turn == mostTurns { // then nothing more comes in
			for i := range s.Items {
				barred[&s.Items[i]] = true
			}
		}
		try := *c
		try.list, try.home, try.item = slices.Clone(c.list), slices.Clone(c.home), slices.Clone(c.item)
		out := *c.out
		out.Unknown = slices.Clone(out.Unknown)
		try.out = &out
		try.come(ix, more, barred)
		then := s.Clone()
		try.keep(then, try.search(o))
		now, err := broken(then)
		if err != nil {
			return nil, nil, err
		}
		again, stays := false, false
		for what, where := range now {
			if was[what] != "" {
				continue
			}
			again = true
			var k int
			if _, err := fmt.Sscanf(where, "homes[%d]", &k); err == nil && k >= len(s.Homes) && k < len(then.Homes) {
				barred[ix.Item(then.Homes[k].Item)] = true
			} else {
				stays = true // of what lives there, or between two of them
			}
		}
		if !again {
			return try.out, then, nil
		}
		if stays && c.held {
			return nil, nil, fmt.Errorf("%s cannot be laid closer without breaking a rule that holds now", place)
		}
		if stays {
			c.hold()
		}
	}
}

// broken rules of a shop, each with where.
func broken(s *shop.Shop) (map[string]string, error) {
	found, err := check.Shop(s)
	if err != nil {
		return nil, err
	}
	out := map[string]string{}
	for _, f := range found {
		if f.Hard {
			out[f.Code+f.What] = f.Where
		}
	}
	return out, nil
}

// canvas is a place with what is laid in it.
type canvas struct {
	s      *shop.Shop
	p      *shop.Place
	lying  bool
	w, h   float64
	list   []pack.Nested
	home   []int // of each in the list: number of its home, -1 of what comes in or is no thing
	item   []*shop.Item
	kg     float64
	filled float64 // mm²
	held   bool    // what lives there stays
	out    *Laid
}

// up is where a home is over the foot of the place, or behind its front, mm.
func (c *canvas) up(h *shop.Home) float64 {
	if c.lying {
		return h.Y.MM()
	}
	return h.Z.MM()
}

// shapes of a thing as it hangs or lies there, and turned: its outline, or its box.
func (c *canvas) shapes(it *shop.Item) (g, turned geometry.Polygon, known bool) {
	size := it.SizeIn(c.p.Kind)
	up := size.H
	if c.lying {
		up = size.D
	}
	if g, turned = it.Seen(size.W, up), it.Seen(up, size.W); g != nil {
		return g, turned, true
	}
	return geometry.Rectangle(0, 0, size.W.MM(), up.MM(), 0), geometry.Rectangle(0, 0, up.MM(), size.W.MM(), 0), false
}

// nested is a thing that may be laid anew.
func (c *canvas) nested(it *shop.Item, value float64) (pack.Nested, bool) {
	g, turned, known := c.shapes(it)
	if !it.Turns(c.p.Kind) {
		turned = nil
	}
	return pack.Nested{Shape: g, Turned: turned, Gap: it.KeptClear().MM(), Value: value + math.Abs(g.Area())}, known
}

func (c *canvas) resident(ix *shop.Index, i int) {
	h := &c.s.Homes[i]
	it := ix.Item(h.Item)
	if it == nil {
		return
	}
	n := h.Number(it)
	c.kg += it.KG.KG() * float64(n)
	c.out.Before++
	y := c.up(h)
	g, turned, known := c.shapes(it)
	c.filled += float64(n) * math.Abs(g.Area())
	if n > 1 { // they stay as they are, each its box
		for _, b := range keeping.BoxesOf(c.p, it, h) {
			x, y, up := b.X, b.Z, b.H
			if c.lying {
				y, up = b.Y, b.D
			}
			c.stays(geometry.Rectangle(0, 0, b.W, up, 0), x, y, it.KeptClear().MM())
		}
		return
	}
	if !known {
		c.out.Unknown = append(c.out.Unknown, it.Name)
	}
	if h.Locked {
		if h.Rot == 90 {
			g = turned
		}
		c.stays(g, h.X.MM(), y, it.KeptClear().MM())
		return
	}
	one, _ := c.nested(it, resident)
	c.list = append(c.list, one)
	c.home, c.item = append(c.home, i), append(c.item, it)
}

// resident counts more than all that could come in.
const resident = 1e9

func (c *canvas) stays(g geometry.Polygon, x, y, gap float64) {
	c.list = append(c.list, pack.Nested{Shape: g, Gap: gap, Fixed: &pack.Lain{X: x, Y: y}})
	c.home, c.item = append(c.home, -1), append(c.item, nil)
}

// come are the things that may come in, as far as the place takes them and carries them.
func (c *canvas) come(ix *shop.Index, more []string, barred map[*shop.Item]bool) {
	named := len(more) > 0
	if !named {
		for i := range c.s.Items {
			if it := &c.s.Items[i]; it.Needs() && ix.Homed(it) == 0 {
				more = append(more, it.ID)
			}
		}
	}
	for _, id := range more {
		it := ix.Item(id)
		if it == nil || slices.Contains(c.item, it) {
			continue
		}
		size := it.SizeIn(c.p.Kind)
		deep := size.D.MM() <= c.p.D.MM()+1e-6
		if c.lying {
			deep = size.H.MM() <= c.p.H.MM()+1e-6
		}
		over := c.p.Capacity > 0 && c.kg+it.KG.KG() > c.p.Capacity.KG()
		if barred[it] || !c.p.Takes(it) || it.Number() > 1 || !deep || over {
			if named {
				c.out.Left = append(c.out.Left, it.Name)
			}
			continue
		}
		c.kg += it.KG.KG()
		one, known := c.nested(it, 0)
		if !known {
			c.out.Unknown = append(c.out.Unknown, it.Name)
		}
		c.list = append(c.list, one)
		c.home, c.item = append(c.home, -1), append(c.item, it)
	}
}

// search lays all anew; where one that lives there finds no room so, all that live there stay and only the rest is laid.
func (c *canvas) search(o Options) []pack.Lain {
	opt := pack.NestOptions{Tries: o.Tries, Seed: o.Seed, Done: o.Done}
	if opt.Tries <= 0 {
		opt.Tries = usualTries
	}
	if c.p.Style == "cleat" {
		for _, z := range c.p.Rows {
			opt.Rails = append(opt.Rails, z.MM())
		}
	}
	laid := pack.Nest(c.w, c.h, c.list, opt)
	in := map[int]bool{}
	for _, l := range laid {
		in[l.Piece] = true
	}
	for i := range c.list {
		if c.home[i] >= 0 && !in[i] {
			c.hold()
			return pack.Nest(c.w, c.h, c.list, opt)
		}
	}
	return laid
}

// hold makes all that lives there stay where it is.
func (c *canvas) hold() {
	c.held = true
	for k := range c.list {
		if h := c.home[k]; h >= 0 {
			x := &c.s.Homes[h]
			c.list[k].Fixed = &pack.Lain{X: x.X.MM(), Y: c.up(x), Turned: x.Rot == 90}
			if g, turned, _ := c.shapes(c.item[k]); x.Rot == 90 { // also where it may not be turned any more
				c.list[k].Shape, c.list[k].Turned = g, turned
			}
		}
	}
}

// keep puts what was found into a shop.
func (c *canvas) keep(then *shop.Shop, laid []pack.Lain) {
	c.out.After = c.out.Before
	in := map[int]bool{}
	for _, l := range laid {
		in[l.Piece] = true
		it := c.item[l.Piece]
		if it == nil {
			continue
		}
		h := shop.Home{Item: it.ID, Place: c.p.ID}
		if k := c.home[l.Piece]; k >= 0 {
			h = c.s.Homes[k]
		}
		was := h
		h.X, h.Rot = length.MM(l.X), 0
		if l.Turned {
			h.Rot = 90
		}
		if c.lying {
			h.Y = length.MM(l.Y)
		} else {
			h.Z = length.MM(l.Y)
		}
		if c.home[l.Piece] >= 0 {
			if h != was {
				c.out.Moved++
			}
			then.Homes[c.home[l.Piece]] = h
			continue
		}
		then.Homes = append(then.Homes, h)
		c.out.After++
		c.out.Added = append(c.out.Added, it.Name)
		g, _, _ := c.shapes(it)
		c.filled += math.Abs(g.Area())
	}
	for i, it := range c.item {
		if it != nil && c.home[i] < 0 && !in[i] {
			c.out.Left = append(c.out.Left, it.Name)
		}
	}
	c.out.Filled = c.filled / max(1, c.w*c.h)
	for i := range then.Places {
		if then.Places[i].ID == c.p.ID {
			then.Places[i].Dense = true
		}
	}
}
