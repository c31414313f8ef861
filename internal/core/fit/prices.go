package fit

import (
	"math"
	"slices"
	"sync"
	"sync/atomic"

	"hobrak/internal/core/access"
	"hobrak/internal/core/keeping"
	"hobrak/internal/core/length"
	"hobrak/internal/core/pack"
)

// bands are what an item costs in a place by height: between two breaks of any column it is the same in each column. They are worked out
// when they are asked for, which several do at once.
type bands struct {
	once   sync.Once
	breaks []float64 // mm above the lower edge of the place
	least  []float64 // of all pieces in any column, seconds a week: below the first break, to the second, and so on; none: not the same everywhere
	// costs remembers what all pieces cost: below the first break, at it, up to the second, and so on, and there by column. Zero is
	// not known yet.
	costs   []atomic.Pointer[[]atomic.Uint64]
	columns int     // none: what it costs depends on the height itself, as lifting does
	first   int     // number of the first
	left    float64 // of the place along what it is on, mm
}

// bandsOf an item in a place; nil where what it costs is not looked at by height.
func (e *Problem) bandsOf(item int, o *option) *bands {
	b := o.bands
	if b == nil {
		return nil
	}
	b.once.Do(func() { b.fill(e, item, o.place) })
	if len(b.least) == 0 {
		return nil
	}
	return b
}

func (b *bands) fill(e *Problem, item, place int) {
	breaks, columns, first := e.scenes.Columns(place)
	if columns == 0 {
		return
	}
	b.breaks, b.least = breaks, slices.Repeat([]float64{math.Inf(1)}, len(breaks)+1)
	e.grips(item, place, func(_ keeping.Grip, low, high, cost float64) { b.lower(low, high, cost) })
	u := &e.uses[item]
	if !u.Lifted() && len(e.rules.Edges(u.Item, place)) == 0 {
		b.columns, b.first, b.left = columns, first, e.ways.Front(place).X
		b.costs = make([]atomic.Pointer[[]atomic.Uint64], 2*len(breaks)+1)
	}
}

// lower the least costs of the bands that heights from low to high are in to a cost.
func (b *bands) lower(low, high, cost float64) {
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
	bands       *bands
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
	if p.bands == nil {
		return p.share * p.o.least, 0
	}
	p.block(turned, cols)
	least, level := p.bands.at(y.MM() + p.half)
	return p.share * least, level
}

// Cost implements pack.Prices.
func (p *prices) Cost(s *pack.Spot, level int) float64 {
	b := p.bands
	if b == nil || b.columns == 0 {
		return p.anew(s)
	}
	p.block(s.Turned, s.Cols)
	column := int(math.Floor((b.left+s.X.MM()+p.width)/access.ColumnWidth)) - b.first
	if column < 0 || column >= b.columns {
		return p.anew(s)
	}
	at := b.costs[level].Load()
	if at == nil {
		anew := make([]atomic.Uint64, b.columns)
		b.costs[level].CompareAndSwap(nil, &anew)
		at = b.costs[level].Load()
	}
	known := &(*at)[column]
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
	*p = prices{e: e, item: item, n: n, o: o, bands: e.bandsOf(item, o), share: float64(n) / float64(it.Number()), cols: -1}
	out := pack.Offer{Cost: below}
	look := func(spots []pack.Spot) {
		for i := range spots {
			if c := p.anew(&spots[i]); c < out.Cost-pack.Tie {
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
	if !out.None && p.share*o.least < out.Cost-pack.Tie {
		// A corner may be out of reach where the middle is not.
		e.spots = e.preferred(item, n, o, t, out.Cost, e.spots[:0])
		look(e.spots)
	}
	return out
}

// preferred appends the free spots at the cheapest grips of a place that may cost less than something.
func (e *Arrangement) preferred(item, n int, o *option, t pack.Thing, below float64, buf []pack.Spot) []pack.Spot {
	p, it := &e.shop.Places[o.place], &e.shop.Items[item]
	w, up := e.kinds[o.place].Block(it, n, pack.Spot{})
	share := float64(n) / float64(it.Number())
	bands := e.bandsOf(item, o)
	for _, g := range o.prefer {
		if bands != nil {
			if least, _ := bands.at(g.Z); share*least >= below-pack.Tie {
				continue
			}
		}
		s, ok := e.kinds[o.place].At(p, g, w, up)
		if !ok {
			return buf
		}
		if e.spaces[o.place].Allows(t, s) == nil {
			buf = append(buf, s)
		}
	}
	return buf
}
