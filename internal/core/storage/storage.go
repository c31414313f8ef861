// Package storage sizes places from what they must hold: it lays the things out
// as they will hang, stand or lie, adds clearance, finger room and room to grow,
// and gives the place with a home for each of them. Every layout it gives is one
// that the place's own space allows (package hold). Lengths are those of package
// length; shares run from 0 to 1.
package storage

import (
	"cmp"
	"fmt"
	"math"
	"slices"
	"strings"

	"hobrak/internal/core/keeping"
	"hobrak/internal/core/length"
	"hobrak/internal/core/pack"
	"hobrak/internal/core/shop"
	"hobrak/internal/core/weight"
)

const mm = length.Millimetre

// UsualReserve is the share of a place kept free for growth.
const UsualReserve = .15

// Need is what a place must hold and how large it may be.
type Need struct {
	Items   []*shop.Item
	Reserve float64       // share to keep free
	Width   length.Length // at most; 0: as the kind of place is usually made
	Height  length.Length
	Depth   length.Length
}

// Left is an item that the place cannot hold.
type Left struct {
	Item string `json:"item"`
	Why  string `json:"why"`
}

// Design is a place, or a container with places, sized from what it must hold.
// Its places have no position of their own yet unless they are in the container.
type Design struct {
	Builder   string          `json:"builder"`
	Title     string          `json:"title"`
	W         length.Length   `json:"w" doc:"overall, mm"`
	H         length.Length   `json:"h"`
	D         length.Length   `json:"d"`
	Container *shop.Container `json:"container,omitempty"`
	Places    []shop.Place    `json:"places" nullable:"false"`
	Homes     []shop.Home     `json:"homes" nullable:"false"`
	KG        weight.Weight   `json:"kg" doc:"what it holds"`
	Fill      float64         `json:"fill" doc:"share of its room that is taken"`
	Spare     string          `json:"spare" doc:"what is kept free, in words"`
	Rules     []string        `json:"rules" nullable:"false" doc:"what decided its size"`
	Cautions  []string        `json:"cautions" nullable:"false"`
	Left      []Left          `json:"left" nullable:"false"`
}

// Builder makes one kind of storage.
type Builder struct {
	ID    string
	Title string
	About string
	Hung  bool // on a wall; else it stands on the floor or hangs from the ceiling
	build func(*builder)
	// of is what it is meant for, as words of the kind, name or family; empty: anything.
	of []string
}

// Made tells whether storage of this kind is made for such things alone.
func (b *Builder) Made() bool { return len(b.of) > 0 }

// Suits tells whether storage of this kind is meant for an item. It may hold
// others as well.
func (b *Builder) Suits(it *shop.Item) bool {
	if len(b.of) == 0 {
		return true
	}
	text := strings.ToLower(it.Kind + " " + it.Name + " " + it.Family)
	return slices.ContainsFunc(b.of, func(w string) bool { return strings.Contains(text, w) })
}

// Builders in the order in which they are offered.
func Builders() []Builder { return builders }

// builder is a design in the making.
type builder struct {
	need  Need
	base  string // id of the place or container
	out   *Design
	used  float64
	room  float64
	index int // of the next place
}

// Size makes the storage of a kind for what is needed. Id is that of the place,
// or of the container whose places get it with a number behind.
func Size(kind, id string, n Need) (*Design, error) {
	i := slices.IndexFunc(builders, func(b Builder) bool { return b.ID == kind })
	if i < 0 {
		var known []string
		for _, b := range builders {
			known = append(known, b.ID)
		}
		return nil, fmt.Errorf("there is no storage %q; there are %s", kind, strings.Join(known, ", "))
	}
	switch {
	case len(n.Items) == 0:
		return nil, fmt.Errorf("what is it to hold? Choose at least one thing")
	case n.Reserve < 0 || n.Reserve > .9:
		return nil, fmt.Errorf("the share kept free should be from 0 to 0.9, not %g", n.Reserve)
	case n.Width < 0 || n.Height < 0 || n.Depth < 0:
		return nil, fmt.Errorf("a size cannot be below 0")
	}
	b := &builder{need: n, base: id, out: &Design{Builder: kind, Title: builders[i].Title, Places: []shop.Place{}, Homes: []shop.Home{}, Rules: []string{}, Cautions: []string{}, Left: []Left{}}}
	b.need.Items = slices.Clone(n.Items)
	builders[i].build(b)
	if len(b.out.Places) == 0 && len(b.out.Left) == 0 {
		return nil, fmt.Errorf("nothing of this can be kept in a %s", builders[i].Title)
	}
	for i := range b.out.Homes {
		it := b.item(b.out.Homes[i].Item)
		b.out.KG += it.KG * weight.Weight(b.out.Homes[i].Number(it))
	}
	if b.room > 0 {
		b.out.Fill = b.used / b.room
	}
	return b.out, nil
}

func (b *builder) item(id string) *shop.Item {
	i := slices.IndexFunc(b.need.Items, func(it *shop.Item) bool { return it.ID == id })
	return b.need.Items[i]
}

func (b *builder) leave(it *shop.Item, format string, args ...any) {
	b.out.Left = append(b.out.Left, Left{it.ID, fmt.Sprintf(format, args...)})
}

func (b *builder) rule(format string, args ...any) {
	b.out.Rules = append(b.out.Rules, fmt.Sprintf(format, args...))
}

func (b *builder) caution(format string, args ...any) {
	b.out.Cautions = append(b.out.Cautions, fmt.Sprintf(format, args...))
}

// limit is the size asked for, or the usual one.
func limit(asked, usual length.Length) length.Length {
	if asked > 0 {
		return asked
	}
	return usual
}

// up rounds up to a step, so that what is built has round figures.
func up(l, step length.Length) length.Length { return (l + step - 1) / step * step }

// takers are the items a place of that kind and style takes by the way they are
// held, larger ones first; the others are left, with the reason.
func (b *builder) takers(p *shop.Place, larger func(a, c shop.Size) int) []*shop.Item {
	var out []*shop.Item
	for _, it := range b.need.Items {
		if !p.Takes(it) {
			b.leave(it, "this holds %s; it is kept %s", keeping.Either(p.Offers()), keeping.Either(it.Holding()))
			continue
		}
		out = append(out, it)
	}
	slices.SortStableFunc(out, func(a, c *shop.Item) int { return larger(a.SizeIn(p.Kind), c.SizeIn(p.Kind)) })
	return out
}

func higher(a, c shop.Size) int { return cmp.Or(cmp.Compare(c.H, a.H), cmp.Compare(c.W, a.W)) }
func wider(a, c shop.Size) int  { return cmp.Or(cmp.Compare(c.W*c.D, a.W*a.D), cmp.Compare(c.W, a.W)) }

// run is some pieces of an item side by side in a row.
type run struct {
	it *shop.Item
	n  int
	x  length.Length
	w  length.Length
}

// row of things side by side, as high as its first.
type row struct {
	h    length.Length
	used length.Length
	gap  length.Length // clearance of the last one
	runs []run
	kg   weight.Weight
}

// rows lays things out in rows of a width, tallest first, each in the first row
// with room for it (first fit by decreasing height; Coffman and others 1980:
// never more than 1.7 times the best height, plus the tallest). More pieces than
// one row takes go on in the next. A row is filled up to the reserve.
func (b *builder) rows(items []*shop.Item, kind shop.PlaceKind, width length.Length) []row {
	var out []row
	share := length.Length(float64(width) * (1 - b.need.Reserve))
	for _, it := range items {
		size, gap := it.SizeIn(kind), it.KeptClear()
		if size.W > width {
			b.leave(it, "%s wide, more than the %s there are", size.W, width)
			continue
		}
		for rest := it.Number(); rest > 0; {
			placed := false
			for i := range out {
				r := &out[i]
				if size.H > r.h {
					continue
				}
				g := max(r.gap, gap)
				free := share - r.used - g
				n := int((free + gap) / (size.W + gap))
				if n = min(n, rest); n < 1 {
					continue
				}
				w := length.Length(n)*size.W + length.Length(n-1)*gap
				r.runs = append(r.runs, run{it, n, r.used + g, w})
				r.used, r.gap = r.used+g+w, gap
				r.kg += it.KG * weight.Weight(n)
				rest -= n
				placed = true
				if rest == 0 {
					break
				}
			}
			if rest == 0 {
				break
			}
			if !placed || rest > 0 {
				n := max(1, min(rest, int((share+gap)/(size.W+gap))))
				w := length.Length(n)*size.W + length.Length(n-1)*gap
				out = append(out, row{h: size.H, used: w, gap: gap, runs: []run{{it, n, 0, w}}, kg: it.KG * weight.Weight(n)})
				rest -= n
			}
		}
	}
	return out
}

// home of a run in a place. Pieces of one item in several homes say how many.
func (b *builder) home(p *shop.Place, r run, s pack.Spot) {
	h := keeping.Home(r.it, p, r.n, s)
	b.out.Homes = append(b.out.Homes, h)
}

// add a place with what is in it; in a container it is numbered.
func (b *builder) add(p shop.Place, used, room float64) *shop.Place {
	b.index++
	b.used += used
	b.room += room
	b.out.Places = append(b.out.Places, p)
	return &b.out.Places[len(b.out.Places)-1]
}

// part is the id of the next place of a container.
func (b *builder) part() string { return fmt.Sprintf("%s-%d", b.base, b.index+1) }

func sum(rows []row, f func(row) length.Length) (total length.Length) {
	for _, r := range rows {
		total += f(r)
	}
	return total
}

// best tries widths and keeps the one with the least area that is not higher
// than allowed; where none is, the widest.
func best(from, to, step, height length.Length, h func(w length.Length) (length.Length, bool)) length.Length {
	found, least := to, math.Inf(1)
	for w := from; w <= to; w += step {
		high, all := h(w)
		if !all || high > height {
			continue
		}
		if a := float64(w) * float64(high); a < least {
			found, least = w, a
		}
	}
	return found
}
