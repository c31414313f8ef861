package fit

import (
	"cmp"
	"math"
	"slices"
	"strings"

	"hobrak/internal/core/inorder"
	"hobrak/internal/core/keeping"
	"hobrak/internal/core/length"
	"hobrak/internal/core/pack"
	"hobrak/internal/core/shop"
)

// Ordered is how far the things of a plan stand in an order one can see.
type Ordered struct {
	Pairs int     // of neighbours that the series in all places of the plan have
	Now   int     // of those that stand side by side
	Costs float64 // seconds a week more than without order
	// Tight are the things of which a size or weight is assumed that would not fit where they are if they were a quarter larger; WasTight before
	// those were moved that could be at no cost.
	Tight, WasTight int
}

// series are the parcels of a place that are to stand side by side, each in the order it is wanted in: what the place is in order of, all of
// it; else the things of one family or kind that differ in size.
func (e *Arrangement) series(place int, in []int) (out [][]int) {
	p := &e.shop.Places[place]
	if p.Order != "" {
		if len(in) < 2 {
			return nil
		}
		all := slices.Clone(in)
		slices.SortStableFunc(all, func(a, b int) int { return e.sorter(p.Order).Compare(e.itemOf(a), e.itemOf(b)) })
		return [][]int{all}
	}
	by := map[string][]int{}
	var names []string
	for _, i := range in {
		name := seriesOf(e.itemOf(i))
		if name == "" {
			continue
		}
		if by[name] == nil {
			names = append(names, name)
		}
		by[name] = append(by[name], i)
	}
	for _, name := range names {
		list := by[name]
		if len(list) < 2 {
			continue
		}
		slices.SortStableFunc(list, func(a, b int) int { return e.sorter(e.orderOf(place)).Compare(e.itemOf(a), e.itemOf(b)) })
		out = append(out, list)
	}
	return out
}

// seriesOf is what a thing is one of: its kind and family; empty when it is one of nothing.
func seriesOf(it *shop.Item) string {
	if it.Kind == "" && it.Family == "" {
		return ""
	}
	return strings.ToLower(it.Kind + "|" + it.Family)
}

func (e *Arrangement) itemOf(i int) *shop.Item { return &e.shop.Items[e.parcels[i].item] }

// reading is where a parcel comes when one reads a place row by row from the left.
func (e *Arrangement) reading(i int) inorder.Reading {
	q := &e.parcels[i]
	p := &e.shop.Places[q.place]
	h := keeping.Home(&e.shop.Items[q.item], p, q.n, q.spot)
	return inorder.Read(p, &h)
}

// apartIn counts the neighbours of the series of a place that do not stand side by side: nothing between them, rising or falling all along.
func (e *Arrangement) apartIn(place int, in []int, series [][]int) (apart int) {
	if len(series) == 0 {
		return 0
	}
	plane, _ := e.spaces[place].(*pack.Plane)
	var blocks []block // of what is in it
	var nth []int      // by parcel, which of these it is
	var pos []int      // by parcel, where it comes in reading
	if plane != nil {
		blocks, nth = make([]block, len(in)), make([]int, len(e.parcels))
		for k, i := range in {
			blocks[k], nth[i] = e.blockOf(plane, i), k
		}
	} else {
		pos = e.inReading(in)
	}
	sorter := e.sorter(e.orderOf(place))
	var way []int
	for _, list := range series {
		least := math.MaxInt
		for _, step := range []int{1, -1} {
			way = append(way[:0], list...)
			// What is alike may stand either way round.
			for from := 0; from < len(way); {
				to := from + 1
				for to < len(way) && sorter.Sorted(e.itemOf(way[from]), e.itemOf(way[to])) == 0 {
					to++
				}
				if to > from+1 {
					if pos == nil {
						pos = e.inReading(in)
					}
					slices.SortStableFunc(way[from:to], func(a, b int) int { return step * cmp.Compare(pos[a], pos[b]) })
				}
				from = to
			}
			n := 0
			for k := 1; k < len(way); k++ {
				a, b := way[k-1], way[k]
				if step < 0 {
					a, b = b, a
				}
				if plane == nil && pos[b] != pos[a]+1 || plane != nil && !beside(nth[a], nth[b], blocks) {
					n++
				}
			}
			least = min(least, n)
		}
		apart += least
	}
	return apart
}

// inReading says of some parcels of a place where each comes when one reads it.
func (e *Arrangement) inReading(in []int) (pos []int) {
	type seen struct {
		i  int
		at inorder.Reading
	}
	read := make([]seen, len(in))
	for k, i := range in {
		read[k] = seen{i, e.reading(i)}
	}
	slices.SortStableFunc(read, func(a, b seen) int { return a.at.Compare(b.at) })
	pos = make([]int, len(e.parcels))
	for k := range read {
		pos[read[k].i] = k
	}
	return pos
}

// block is the rectangle a parcel takes of a plane.
type block struct{ x, y, w, h length.Length }

func (e *Arrangement) blockOf(plane *pack.Plane, i int) block {
	q := &e.parcels[i]
	w, h := plane.Block(e.kinds[q.place].Thing(e.itemOf(i), q.n), q.spot)
	return block{q.spot.X, q.spot.Y, w, h}
}

// atHand is how far two things may be from each other so that they are seen side by side (estimate: a hand's breadth).
const atHand = 100 * length.Millimetre

// beside tells whether the block b stands to the right of a, or below it, so that one sees them as neighbours: at most a hand's breadth away, more
// than half of the smaller beside the other, and nothing between.
func beside(a, b int, blocks []block) bool {
	p, q := blocks[a], blocks[b]
	gap := block{x: p.x + p.w, w: q.x - p.x - p.w, y: max(p.y, q.y), h: min(p.y+p.h, q.y+q.h) - max(p.y, q.y)}
	if gap.w < 0 || gap.w > atHand || 2*gap.h <= min(p.h, q.h) {
		gap = block{y: q.y + q.h, h: p.y - q.y - q.h, x: max(p.x, q.x), w: min(p.x+p.w, q.x+q.w) - max(p.x, q.x)}
		if gap.h < 0 || gap.h > atHand || 2*gap.w <= min(p.w, q.w) {
			return false
		}
	}
	for k, o := range blocks {
		if k != a && k != b && o.x < gap.x+gap.w && o.x+o.w > gap.x && o.y < gap.y+gap.h && o.y+o.h > gap.y {
			return false
		}
	}
	return true
}

// orderOf a place: what its series are in order of.
func (e *Problem) orderOf(place int) shop.Ordering {
	return cmp.Or(e.shop.Places[place].Order, shop.BySize)
}

func (e *Problem) sorter(by shop.Ordering) *inorder.Sorter { return e.sorters[by] }

// InOrder counts the neighbours of the series of an arrangement, and those of them that stand side by side.
func (e *Arrangement) InOrder() (pairs, beside int) {
	for place, list := range e.byPlace() {
		series := e.series(place, list)
		for _, s := range series {
			pairs += len(s) - 1
		}
		beside -= e.apartIn(place, list, series)
	}
	return pairs, beside + pairs
}

// Orderly is the share of the neighbours of series that stand side by side, 0 to 1.
func (e *Arrangement) Orderly() float64 {
	pairs, beside := e.InOrder()
	return float64(beside) / max(1, float64(pairs))
}

// byPlace are the parcels of each place.
func (e *Arrangement) byPlace() [][]int {
	in := make([][]int, len(e.shop.Places))
	for i := range e.parcels {
		if q := &e.parcels[i]; q.place != none {
			in[q.place] = append(in[q.place], i)
		}
	}
	return in
}
