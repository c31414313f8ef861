package wood

import (
	"math"

	"hobrak/internal/core/reach"
	"hobrak/internal/core/shop"
)

// Kept is one way to keep short wood, with what it costs.
type Kept struct {
	Way     string  `json:"way" enum:"rack,by-length,by-kind" doc:"all on one rack; on end in bins by length; in bins by length and kind"`
	Bins    int     `json:"bins" doc:"0 for a rack"`
	Wall    float64 `json:"wall" doc:"m²"`
	Floor   float64 `json:"floor" doc:"m², with what must be free before it"`
	Seconds float64 `json:"seconds" doc:"to find a piece and get it out, on average"`
	Week    float64 `json:"week" doc:"seconds a week, by how often pieces are taken"`
}

// Own estimates of how short wood is kept.
const (
	shortWood  = 1200.0 // what is shorter may stand on end in a bin, mm
	binClass   = 300.0  // lengths that share a bin differ by less, mm
	filled     = .55    // share of a bin, and of the room between arms, that is wood
	rackLevel  = 250.0  // from one pair of arms to the next, mm
	rackDepth  = 300.0  // of arms, mm
	beforeRack = 600.0  // floor before a rack, mm
	beforeBin  = 300.0  // and before a bin, mm
	largestBin = 400.0  // side of a bin, mm
	leastSide  = 200.0
)

// Schools are the ways to keep the short wood there is: on one rack, or sorted into bins. Either side is held by good makers: a rack
// takes wall and has the piece one wants under others, bins take floor and have few pieces to look through. Nothing comes back where
// there is no short wood. Seconds are by the shop's own estimates of looking and moving aside.
func (st *Stock) Schools(s *shop.Shop) []Kept {
	e := reach.DefaultEstimates()
	_ = e.Set(s.Settings.Estimates) // checked when the shop was read
	type heap struct {
		n      int
		area   float64 // of the ends, mm²
		long   float64
		weekly float64
	}
	ix := shop.NewIndex(s)
	type sort struct {
		class int
		of    string
	}
	var all heap
	var byLength, byKind []*heap
	at := map[bool]map[sort]*heap{true: {}, false: {}}
	of := func(list *[]*heap, kind bool, k sort) *heap {
		if at[kind][k] == nil {
			at[kind][k] = &heap{}
			*list = append(*list, at[kind][k])
		}
		return at[kind][k]
	}
	for i := range st.Pieces {
		p := &st.Pieces[i]
		if p.L > shortWood || p.Form == Sheet || p.Form == Veneer {
			continue
		}
		weekly := 0.0
		if it := ix.Item(p.Item); it != nil {
			weekly = it.UsesPerWeek
		}
		class := int(p.L / binClass)
		for _, h := range []*heap{&all, of(&byLength, false, sort{class, ""}), of(&byKind, true, sort{class, p.Of})} {
			h.n += p.Count
			h.area += float64(p.Count) * p.W * p.T
			h.long = max(h.long, p.L)
			h.weekly += weekly
		}
	}
	if all.n == 0 {
		return nil
	}
	levels := math.Max(1, math.Ceil(all.area/filled/(rackDepth*rackLevel)))
	rack := Kept{Way: "rack", Wall: all.long * levels * rackLevel / 1e6, Floor: all.long * beforeRack / 1e6}
	// One sees the ends of all; of those on the same level half lie over the one that is wanted, as far as two abreast.
	rack.Seconds = float64(all.n)/2*e.InSight + max(0, float64(all.n)/levels-2)/2*e.Aside
	rack.Week = rack.Seconds * all.weekly
	out := []Kept{rack}
	in := func(way string, heaps []*heap) {
		k := Kept{Way: way}
		for _, h := range heaps {
			need := h.area / filled
			n := math.Ceil(need / (largestBin * largestBin))
			side := max(leastSide, math.Sqrt(need/n))
			k.Bins += int(n)
			k.Floor += n * side * (side + beforeBin) / 1e6
			seconds := float64(h.n) / n / 2 * e.InSight // on end each comes out by itself
			k.Seconds += seconds * float64(h.n) / float64(all.n)
			k.Week += seconds * h.weekly
		}
		out = append(out, k)
	}
	in("by-length", byLength)
	in("by-kind", byKind)
	return out
}
