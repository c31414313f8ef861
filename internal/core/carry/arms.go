package carry

import (
	"math"
	"slices"
	"strings"

	"hobrak/internal/core/length"
	"hobrak/internal/core/load"
	"hobrak/internal/core/pack"
	"hobrak/internal/core/shop"
)

// armEvery is the distance of arms that were not counted, an estimate.
const armEvery = 800 * length.Millimetre

// SagAlong is the sag a board may have between arms, as a share of its length: 2 mm a metre.
const SagAlong = 2.0 / 1e3

// Boards of one kind on a level.
type Boards struct {
	Item     *shop.Item
	N        int
	Level    int
	KG       float64 // of all of them
	Overhang float64 // past an outer arm, mm; what is allowed in Most
	Most     float64
	Sag      float64 // of one between two arms under its own weight, mm
	Limit    float64
	Wood     load.Wood
	Assumed  bool    // its wood is not named: assumed to be pine
	Above    int     // boards that lie on it and must be lifted off first
	AboveKG  float64 // what those weigh
}

// Level of a rack.
type Level struct {
	KG     float64
	Worst  float64 // kg on the arm that carries most
	End    bool    // that is an end arm, which carries the overhang as well
	Boards []Boards
}

// Rack of arms as it is filled.
type Rack struct {
	Arms    int  // on each level
	Counted bool // the shop says so; else one every 800 mm is assumed
	Field   float64
	Levels  []Level
	Upright float64 // kg on the stud or upright that carries most: its arms on all levels
}

// ArmsOf is the number of arms of a level of a rack, and whether it was counted.
func ArmsOf(p *shop.Place) (int, bool) {
	if p.Arms >= 2 {
		return p.Arms, true
	}
	return max(2, int(math.Ceil(float64(p.W)/float64(armEvery)))+1), false
}

// ArmLoads gives the share of a board's weight on the arm that carries most, an
// outer or an inner one: tributary lengths of a uniform load; the outer arms carry
// half a field and the overhang.
func ArmLoads(board, run float64, arms int) (outer, inner float64) {
	l := math.Max(board, run)
	field := run / float64(arms-1)
	outer = (field/2 + (l-run)/2) / l
	if arms > 2 {
		inner = field / l
	}
	return outer, inner
}

// BoardSag is the sag in mm of a board w long, d across and h thick between arms
// a field apart, under its own weight.
func BoardSag(w load.Wood, field, across, thick float64) (float64, error) {
	return load.Board{Span: field, B: across, T: thick, Wood: w}.Sag(0)
}

// woodOf finds the wood in the name or kind of a board, else pine.
func woodOf(it *shop.Item) (load.Wood, bool) {
	text := strings.ToLower(it.Name + " " + it.Kind + " " + it.Family)
	best := -1
	for i, w := range load.Woods {
		if w.E > 0 && strings.Contains(text, strings.ToLower(w.Name)) && (best < 0 || len(w.Name) > len(load.Woods[best].Name)) {
			best = i
		}
	}
	if best >= 0 {
		return load.Woods[best], true
	}
	pine, err := load.WoodByID("white-pine")
	if err != nil {
		panic("carry: pine is not among the woods") // a table of constants
	}
	return pine, false
}

// Rack judges the arms of a place and the boards on them.
func (k Stock) Rack(p *shop.Place) Rack {
	out := Rack{Levels: make([]Level, len(p.Levels))}
	out.Arms, out.Counted = ArmsOf(p)
	out.Field = p.W.MM() / float64(out.Arms-1)
	outers, inners := make([]float64, len(p.Levels)), make([]float64, len(p.Levels))
	type laid struct {
		h  *shop.Home
		it *shop.Item
	}
	var all []laid
	for i := range k.Homes {
		h := &k.Homes[i]
		if it := k.Item(h.Item); h.Place == p.ID && it != nil && h.Level < len(p.Levels) {
			all = append(all, laid{h, it})
		}
	}
	for _, a := range all {
		n := a.h.Number(a.it)
		l := a.it.W.MM()
		b := Boards{Item: a.it, N: n, Level: a.h.Level, KG: a.it.KG.KG() * float64(n), Most: min(l/4, pack.MaxOverhang.MM()), Limit: out.Field * SagAlong}
		b.Overhang = max(0, (l-p.W.MM())/2)
		var named bool
		b.Wood, named = woodOf(a.it)
		b.Assumed = !named
		b.Sag, _ = BoardSag(b.Wood, out.Field, a.it.D.MM(), a.it.H.MM())
		for _, c := range all {
			if c.h != a.h && c.h.Level == a.h.Level && c.h.Z > a.h.Z && across(c.h, c.it) > a.h.Y && c.h.Y < across(a.h, a.it) {
				b.Above += c.h.Number(c.it)
				b.AboveKG += c.it.KG.KG() * float64(c.h.Number(c.it))
			}
		}
		outer, inner := ArmLoads(l, p.W.MM(), out.Arms)
		outers[b.Level] += outer * b.KG
		inners[b.Level] += inner * b.KG
		out.Levels[b.Level].KG += b.KG
		out.Levels[b.Level].Boards = append(out.Levels[b.Level].Boards, b)
	}
	ends, mids := 0.0, 0.0
	for i := range out.Levels {
		v := &out.Levels[i]
		v.Worst, v.End = inners[i], false
		if outers[i] >= inners[i] {
			v.Worst, v.End = outers[i], true
		}
		ends, mids = ends+outers[i], mids+inners[i]
		// Reading order is pile order: what lies lowest first.
		slices.SortStableFunc(v.Boards, func(a, b Boards) int { return b.Above - a.Above })
	}
	out.Upright = max(ends, mids)
	return out
}

// across is how far a home on arms reaches out from the wall.
func across(h *shop.Home, it *shop.Item) length.Length {
	cols := h.Number(it)
	if h.Cols > 0 {
		cols = min(cols, h.Cols)
	}
	return h.Y + length.Length(cols)*it.D
}
