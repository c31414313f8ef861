// Package reuse judges furniture that was found: what it holds as it is, with a shelf more and cut down, and where in the room it would
// go; and what a piece of storage gives to stock when it is taken apart. Lengths are mm, weights kg.
package reuse

import (
	"cmp"
	"fmt"
	"math"
	"slices"
	"strings"

	"hobrak/internal/core/access"
	"hobrak/internal/core/fit"
	"hobrak/internal/core/free"
	"hobrak/internal/core/length"
	"hobrak/internal/core/shop"
	"hobrak/internal/core/storage"
	"hobrak/internal/core/weight"
)

// Found is a piece of furniture as it was measured.
type Found struct {
	Name     string
	W, H, D  float64   // outside
	InW, InD float64   // of an opening or drawer inside; 0 when only the outside was measured
	Openings []float64 // clear heights from below, of shelves or drawers
	Drawers  bool
	Carries  float64 // kg each shelf or drawer carries, as somebody rated it; 0 when nobody did
}

// Own estimates of furniture whose inside was not measured.
const (
	side  = 20.0 // of a case, and a board between two openings, mm
	back  = 10.0
	least = 60.0 // clear height of an opening that is of use
	air   = 20.0 // over what stands on a shelf, to get it out
)

// inside of an opening.
func (f *Found) inside() (w, d float64) {
	w, d = f.InW, f.InD
	if w == 0 {
		w = f.W - 2*side
	}
	if d == 0 {
		d = f.D - back
	}
	return w, d
}

// Check says what of the sizes cannot be, and what would be right.
func (f *Found) Check() error {
	w, d := f.inside()
	sum := 0.0
	for i, h := range f.Openings {
		if !(h >= least) {
			return fmt.Errorf("openings[%d]: an opening should be at least %.0f mm high", i, least)
		}
		sum += h
	}
	switch {
	case !(f.W >= 100 && f.W <= 5000):
		return fmt.Errorf("w: the outer width should be from 100 to 5000 mm")
	case !(f.H >= 100 && f.H <= 4000):
		return fmt.Errorf("h: the outer height should be from 100 to 4000 mm")
	case !(f.D >= 50 && f.D <= 2000):
		return fmt.Errorf("d: the outer depth should be from 50 to 2000 mm")
	case len(f.Openings) == 0:
		return fmt.Errorf("openings: say the clear height of each shelf or drawer, from below")
	case len(f.Openings) > 40:
		return fmt.Errorf("openings: at most 40 of them")
	case w > f.W || w < 50:
		return fmt.Errorf("in_w: the inner width should be over 50 mm and not over the outer width")
	case d > f.D || d < 30:
		return fmt.Errorf("in_d: the inner depth should be over 30 mm and not over the outer depth")
	case sum > f.H:
		return fmt.Errorf("openings: together they are higher than the outside is")
	case !(f.Carries >= 0 && f.Carries <= 2000):
		return fmt.Errorf("carries: from 0 to 2000 kg")
	}
	return nil
}

// Design is the furniture as storage: a case on the floor with its shelves or drawers.
func (f *Found) Design(id string) *storage.Design {
	w, d := f.inside()
	kind, place := shop.Shelving, shop.PlaceKind("shelf")
	if f.Drawers {
		kind, place = shop.Chest, "drawer"
	}
	mm := length.MM
	c := &shop.Container{ID: id, Name: f.Name, Kind: kind, W: mm(f.W), H: mm(f.H), D: mm(f.D)}
	out := &storage.Design{Builder: "shelf-unit", Title: f.Name, W: c.W, H: c.H, D: c.D, Container: c}
	sum := 0.0
	for _, h := range f.Openings {
		sum += h
	}
	// What is over and between the openings is divided evenly: a plinth, boards, a top.
	between := (f.H - sum) / float64(len(f.Openings)+1)
	z := between
	for i, h := range f.Openings {
		out.Places = append(out.Places, shop.Place{ID: fmt.Sprintf("%s-%d", id, i+1), Kind: place, At: shop.At{In: id, X: mm((f.W - w) / 2), Z: mm(z)}, W: mm(w), H: mm(h), D: mm(d), Capacity: weight.KG(f.Carries)})
		z += h + between
	}
	return out
}

// Holds is something that goes in.
type Holds struct {
	Item    string `json:"item"`
	Name    string `json:"name"`
	Count   int    `json:"count"`
	Opening int    `json:"opening" doc:"from below, the lowest 1"`
}

// The ways to use it.
const (
	AsIs    = "as-is"
	Shelf   = "shelf-more"
	CutDown = "cut-down"
)

// Variant is a way to use it.
type Variant struct {
	Way      string         `json:"way" enum:"as-is,shelf-more,cut-down"`
	H        float64        `json:"h" doc:"outer height, mm"`
	Openings []float64      `json:"openings" nullable:"false" doc:"clear heights from below, mm"`
	At       float64        `json:"at" doc:"mm from the outer foot at which the shelf comes, or where it is cut; 0 as it is"`
	Holds    []Holds        `json:"holds" nullable:"false"`
	Left     []string       `json:"left" nullable:"false" doc:"names of what does not go in, or not all of it"`
	Sites    []storage.Site `json:"-"`
	Nowhere  string         `json:"nowhere" doc:"why it has no spot in the room as it stands; empty when it has one"`
	found    Found
}

// Found is the furniture as this way leaves it.
func (v *Variant) Found() *Found { return &v.found }

// Judge says what it holds of these things, in each way, and where it would go in the room as it is mapped: as it is; with a shelf where
// that lets most in, if it has shelves; and cut down to a height that is asked for, or else, where it has no spot, to the highest sill
// or bench that it would go under.
func Judge(m *access.Map, space *free.Result, f *Found, things []string, lower float64) ([]Variant, error) {
	if err := f.Check(); err != nil {
		return nil, err
	}
	if lower < 0 || lower > 0 && (lower >= f.H || lower < 100) {
		return nil, fmt.Errorf("lower: cut down it is at least 100 mm high, and lower than it is now")
	}
	asIs, err := judged(m, space, f, AsIs, 0, things)
	if err != nil {
		return nil, err
	}
	out := []Variant{*asIs}
	if !f.Drawers {
		v, err := f.shelfMore(m, space, things, asIs)
		if err != nil {
			return nil, err
		}
		if v != nil {
			out = append(out, *v)
		}
	}
	heights := []float64{lower}
	if lower == 0 {
		if heights = nil; asIs.Nowhere != "" {
			heights = under(m.Shop, f.H)
		}
	}
	for _, h := range heights {
		low, ok := f.cutTo(h)
		if !ok {
			continue
		}
		v, err := judged(m, space, low, CutDown, h, things)
		if err != nil {
			return nil, err
		}
		if v.Nowhere == "" || lower > 0 {
			out = append(out, *v)
			break
		}
	}
	return out, nil
}

// judged is one way: filled, and with its spots.
func judged(m *access.Map, space *free.Result, f *Found, way string, at float64, things []string) (*Variant, error) {
	v := &Variant{Way: way, H: f.H, Openings: f.Openings, At: at, Holds: []Holds{}, Left: []string{}, found: *f}
	d := f.Design("found")
	if err := v.fill(m.Shop, d, things); err != nil {
		return nil, err
	}
	found, err := storage.Where(m, space, d)
	switch {
	case err != nil:
		v.Nowhere = err.Error()
	case len(found.Sites) > 0:
		v.Sites = found.Sites
	case len(found.Nowhere) > 0:
		v.Nowhere = found.Nowhere[0].Why
	default:
		v.Nowhere = "no wall is free for it"
	}
	return v, nil
}

// fill puts the things in, the largest first, or the smallest where so more of them go in.
func (v *Variant) fill(s *shop.Shop, d *storage.Design, things []string) error {
	then := s.Clone()
	then.Homes = slices.DeleteFunc(then.Homes, func(h shop.Home) bool { return slices.Contains(things, h.Item) })
	for i := range then.Items {
		if slices.Contains(things, then.Items[i].ID) {
			then.Items[i].Lies = ""
		}
	}
	if err := storage.Install(then, d, shop.At{Away: true}); err != nil {
		return err
	}
	size := func(i int) float64 {
		it := &then.Items[i]
		return it.W.MM() * it.H.MM() * it.D.MM()
	}
	var order []int
	for i := range then.Items {
		if slices.Contains(things, then.Items[i].ID) {
			order = append(order, i)
		}
	}
	slices.SortStableFunc(order, func(a, b int) int { return cmp.Compare(size(b), size(a)) })
	most := -1
	for range 2 {
		h, err := fit.NewHands(then)
		if err != nil {
			return err
		}
		var holds []Holds
		var homes []shop.Home
		var left []string
		n := 0
		for _, i := range order {
			it := &then.Items[i]
			k := h.Pick(i, it.Number())
			at, ok := h.Room(k, func(place string) bool {
				return slices.ContainsFunc(d.Places, func(p shop.Place) bool { return p.ID == place })
			})
			if !ok || h.Lay(k, &at) != nil {
				left = append(left, it.Name)
				continue
			}
			at.Item = it.ID
			opening := slices.IndexFunc(d.Places, func(p shop.Place) bool { return p.ID == at.Place }) + 1
			holds = append(holds, Holds{it.ID, it.Name, it.Number(), opening})
			homes = append(homes, at)
			n++
		}
		if n > most {
			most = n
			d.Homes = homes
			v.Holds, v.Left = append([]Holds{}, holds...), append([]string{}, left...)
		}
		slices.Reverse(order)
	}
	slices.SortStableFunc(v.Holds, func(a, b Holds) int { return cmp.Compare(a.Opening, b.Opening) })
	return nil
}

// Keep puts it into a shop where it goes, with what goes in; the design is its own.
func Keep(s *shop.Shop, v *Variant, d *storage.Design, at shop.At) error {
	things := make([]string, len(v.Holds))
	for i, h := range v.Holds {
		things[i] = h.Item
	}
	if err := v.fill(s, d, things); err != nil {
		return err
	}
	return storage.Install(s, d, at)
}

// shelfMore divides an opening where that lets most things in; nil where it lets no more in.
func (f *Found) shelfMore(m *access.Map, space *free.Result, things []string, asIs *Variant) (*Variant, error) {
	ix := shop.NewIndex(m.Shop)
	// A shelf is worth it right over something that stands below it.
	var heights []float64
	for _, id := range things {
		if it := ix.Item(id); it != nil {
			for _, h := range []float64{it.W.MM(), it.H.MM(), it.D.MM()} {
				heights = append(heights, math.Ceil((h+air)/10)*10)
			}
		}
	}
	slices.Sort(heights)
	heights = slices.Compact(heights)
	tallest := slices.Index(f.Openings, slices.Max(f.Openings))
	h := f.Openings[tallest]
	heights = append(slices.DeleteFunc(heights, func(x float64) bool { return x < least || x > h-side-least }), (h-side)/2)
	if len(heights) > mostShelves { // evenly out of them
		var some []float64
		for i := range mostShelves {
			some = append(some, heights[i*len(heights)/mostShelves])
		}
		heights = some
	}
	var best *Variant
	for _, low := range heights {
		if low < least || h-side-low < least {
			continue
		}
		g := *f
		g.Openings = slices.Concat(f.Openings[:tallest], []float64{low, h - side - low}, f.Openings[tallest+1:])
		v := &Variant{Way: Shelf, H: g.H, Openings: g.Openings, found: g}
		d := g.Design("found")
		v.At = d.Places[tallest].At.Z.MM() + low
		if err := v.fill(m.Shop, d, things); err != nil {
			return nil, err
		}
		if best == nil || len(v.Holds) > len(best.Holds) {
			best = v
		}
	}
	if best == nil || len(best.Holds) <= len(asIs.Holds) {
		return nil, nil
	}
	return judged(m, space, &best.found, Shelf, best.At, things)
}

// mostShelves are tried.
const mostShelves = 12

// cutTo is the furniture cut off at a height, from above: what is left of the opening that is cut through keeps its size less a top.
func (f *Found) cutTo(h float64) (*Found, bool) {
	out := *f
	out.H, out.Openings = h, nil
	d := f.Design("found")
	for i := range d.Places {
		z := d.Places[i].At.Z.MM()
		clear := min(f.Openings[i], h-side-z)
		if clear >= least && (!f.Drawers || clear >= f.Openings[i]) { // a drawer is kept whole
			out.Openings = append(out.Openings, math.Floor(clear))
		}
	}
	return &out, len(out.Openings) > 0
}

// under are the heights of sills and of bench tops' undersides, the highest first, that something so high would go under if it were cut.
func under(s *shop.Shop, high float64) (out []float64) {
	const slack, top = 10.0, 60.0 // to slide it in, and what a bench top is thick
	for i := range s.Areas {
		for k := range s.Areas[i].Walls {
			w := &s.Areas[i].Walls[k]
			for f := range w.Features {
				if x := &w.Features[f]; w.Claimed && strings.Contains(string(x.Kind), "window") {
					out = append(out, x.Z.MM()-slack)
				}
			}
		}
	}
	for i := range s.Stations {
		out = append(out, s.Stations[i].H.MM()-top-slack)
	}
	out = slices.DeleteFunc(out, func(h float64) bool { return h < 200 || h > high-20 })
	slices.SortFunc(out, func(a, b float64) int { return cmp.Compare(b, a) })
	out = slices.Compact(out)
	return out[:min(len(out), mostCuts)]
}

// mostCuts heights are tried.
const mostCuts = 6
