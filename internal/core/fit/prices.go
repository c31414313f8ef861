package fit

import (
	"math"
	"slices"
	"sync"
	"sync/atomic"

	"hobrak/internal/core/access"
	"hobrak/internal/core/length"
	"hobrak/internal/core/pack"
)

// bands are what an item costs in a place by height: between two breaks of any column it is the same in each column.
type bands struct {
	breaks []float64 // mm above the lower edge of the place
	least  []float64 // of all pieces in any column, seconds a week: below the first break, to the second, and so on
	// costs remembers what all pieces cost: by column, and there below the first break, at it, up to the second, and so on.
	// Zero is not known yet. Several ask at once.
	costs   []atomic.Uint64
	once    sync.Once
	columns int     // none: what it costs depends on the height itself, as lifting does
	first   int     // number of the first
	left    float64 // of the place along what it is on, mm
}

// newBands are those of an item in a place that is cut into them; nil where they are not the same everywhere.
func (e *Problem) newBands(item, place int) *bands {
	breaks, columns, first := e.scenes.Columns(place)
	if columns == 0 {
		return nil
	}
	b := &bands{breaks: breaks, least: slices.Repeat([]float64{math.Inf(1)}, len(breaks)+1)}
	u := &e.uses[item]
	if !u.Lifted() && len(e.rules.Edges(u.Item, place)) == 0 {
		b.columns, b.first, b.left = columns, first, e.ways.Front(place).X
	}
	return b
}

// lower the least costs of the bands that heights from low to high are in to a cost.
func (b *bands) lower(low, high, cost float64) {
	if b == nil {
		return
	}
	k, at := slices.BinarySearch(b.breaks, low)
	if at && low < high {
		k++ // they begin where a band does
	}
	for first := k; k < len(b.least); k++ {
		if k > first && !(b.breaks[k-1] < high || low == high && b.breaks[k-1] == low) {
			break
		}
		b.least[k] = min(b.least[k], cost)
	}
}

// at a height it costs at least so much; level is its band, counted with the breaks.
func (b *bands) at(z float64) (least float64, level int) {
	k, at := slices.BinarySearch(b.breaks, z)
	if at {
		return min(b.least[k], b.least[k+1]), 2*k + 1
	}
	return b.least[k], 2 * k
}

// prices of n pieces of an item in a plane, for pack.
type prices struct {
	e           *Arrangement
	item, n     int
	o           *option
	share       float64
	turned      bool // of the block that was asked for last
	cols        int
	half, width float64 // of that: from its lower edge up to where it is gripped, and from its left edge along; mm
}

func (p *prices) block(turned bool, cols int) {
	if p.cols != cols || p.turned != turned {
		g := p.e.grip(p.item, p.n, p.o.place, pack.Spot{Turned: turned, Cols: cols})
		p.turned, p.cols, p.half, p.width = turned, cols, g.Z, g.X
	}
}

// Floor implements pack.Prices.
func (p *prices) Floor(turned bool, cols int, y length.Length) (float64, int) {
	if p.o.bands == nil {
		return p.share * p.o.least, 0
	}
	p.block(turned, cols)
	least, level := p.o.bands.at(y.MM() + p.half)
	return p.share * least, level
}

// Cost implements pack.Prices.
func (p *prices) Cost(s *pack.Spot, level int) float64 {
	b := p.o.bands
	if b == nil || b.columns == 0 {
		return p.anew(s)
	}
	p.block(s.Turned, s.Cols)
	column := int(math.Floor((b.left+s.X.MM()+p.width)/access.ColumnWidth)) - b.first
	if column < 0 || column >= b.columns {
		return p.anew(s)
	}
	levels := 2*len(b.breaks) + 1
	b.once.Do(func() { b.costs = make([]atomic.Uint64, levels*b.columns) })
	known := &b.costs[column*levels+level]
	bits := known.Load()
	if bits == 0 {
		bits = math.Float64bits(p.anew(s) / p.share)
		known.Store(bits)
	}
	return p.share * math.Float64frombits(bits) // as it is remembered the first time as well: the last digits must not depend on who asked first
}

// anew works out what a spot costs.
func (p *prices) anew(s *pack.Spot) float64 {
	c, why := p.e.spotCost(p.item, p.n, p.o.place, *s, false)
	if why != "" {
		return math.Inf(1)
	}
	return c
}

// best free spot for n pieces in a place, where no rule bars them.
func (e *Arrangement) best(item, n int, o *option) pack.Offer {
	if e.torn(item, o.place) {
		return pack.Offer{}
	}
	return e.free(item, n, o, math.Inf(1))
}

// free is the best free spot for n pieces in a place that costs less than something, whatever lives elsewhere.
func (e *Arrangement) free(item, n int, o *option, below float64) pack.Offer {
	if over, _ := e.overloaded(item, n, o.place); over > 0 || e.harmful(item, o.place) != "" {
		return pack.Offer{}
	}
	it := &e.shop.Items[item]
	t := e.kinds[o.place].Thing(it, n)
	p := &e.prices
	*p = prices{e: e, item: item, n: n, o: o, share: float64(n) / float64(it.Number()), cols: -1}
	out := pack.Offer{Cost: below}
	look := func(spots []pack.Spot) {
		for i := range spots {
			if c := p.anew(&spots[i]); c < out.Cost-tie {
				out.Spot, out.Cost, out.Found = spots[i], c, true
			}
		}
	}
	if plane, ok := e.spaces[o.place].(*pack.Plane); ok {
		out = plane.Cheapest(t, p, below)
	} else {
		e.spots = e.spaces[o.place].Spots(t, e.spots[:0])
		out.None = len(e.spots) == 0
		look(e.spots)
	}
	if !out.None && p.share*o.least < out.Cost-tie {
		// A corner may be out of reach where the middle is not.
		e.spots = e.preferred(item, n, o, t, out.Cost, e.spots[:0])
		look(e.spots)
	}
	return out
}

// tie is by how much costs, seconds a week, must differ to matter.
const tie = 1e-9

// preferred appends the free spots at the cheapest grips of a place that may cost less than something.
func (e *Arrangement) preferred(item, n int, o *option, t pack.Thing, below float64, buf []pack.Spot) []pack.Spot {
	p, it := &e.shop.Places[o.place], &e.shop.Items[item]
	w, up := e.kinds[o.place].Block(it, n, pack.Spot{})
	share := float64(n) / float64(it.Number())
	for k := range o.prefer {
		g := &o.prefer[k]
		if o.bands != nil && share*g.cost >= below-tie { // elsewhere it goes to the nearest spot there is, which may be cheaper
			break
		}
		s, ok := e.kinds[o.place].At(p, g.Grip, w, up)
		if !ok {
			return buf
		}
		if e.spaces[o.place].Allows(t, s) == nil {
			buf = append(buf, s)
		}
	}
	return buf
}
