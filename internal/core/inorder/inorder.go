// Package inorder puts what lives in a place into an order one can see, by size, name, kind or use, with the fewest things moved from
// how they stand.
package inorder

import (
	"cmp"
	"math"
	"slices"
	"strings"

	"hobrak/internal/core/keeping"
	"hobrak/internal/core/shop"
)

// Thing of a place, in the order that is wanted.
type Thing struct {
	Item  string `json:"item"`
	Name  string `json:"name"`
	Moves bool   `json:"moves" doc:"it goes elsewhere in the row; the others stay where they are"`
	After string `json:"after" doc:"name of the thing it comes after; empty when it is the first"`
}

// Row is a place in order.
type Row struct {
	By     shop.Ordering `json:"by" doc:"what it is in order of"`
	Things []Thing       `json:"things" nullable:"false" doc:"as they are to stand, from the left or the upper left"`
	Moves  int           `json:"moves" doc:"how many move"`
}

// Of is what lives in a place in an order.
func Of(s *shop.Shop, p *shop.Place, by shop.Ordering) Row {
	type spot struct {
		it *shop.Item
		at Reading
	}
	ix := shop.NewIndex(s)
	var list []spot
	for i := range s.Items {
		it := &s.Items[i]
		for _, h := range ix.Homes(it.ID) {
			if h.Place == p.ID {
				list = append(list, spot{it, Read(p, h)})
				break
			}
		}
	}
	slices.SortStableFunc(list, func(a, b spot) int { return a.at.Compare(b.at) })
	wanted := make([]int, len(list)) // places in today's row, in the order that is wanted
	for i := range wanted {
		wanted[i] = i
	}
	sorter := By(s, by)
	slices.SortStableFunc(wanted, func(a, b int) int { return sorter.Compare(list[a].it, list[b].it) })
	stay := longest(wanted)
	out := Row{By: by, Things: []Thing{}}
	for i, k := range wanted {
		t := Thing{Item: list[k].it.ID, Name: list[k].it.Name, Moves: !stay[i]}
		if i > 0 {
			t.After = list[wanted[i-1]].it.Name
		}
		if t.Moves {
			out.Moves++
		}
		out.Things = append(out.Things, t)
	}
	return out
}

// Reading is where something comes when one reads a place row by row, then from the left: its level from the top, its row, its band of a
// hand's breadth where things hang, its slot, and how far it is from the left, µm.
type Reading [5]int64

// band of a field in which what hangs is one row, µm.
const band = 100_000

// Read where a home comes in its place.
func Read(p *shop.Place, h *shop.Home) Reading {
	y := int64(h.Y)
	if keeping.Of(p).Hangs() {
		y = -int64(h.Z)
	}
	return Reading{int64(-h.Level), int64(h.Row), y / band, int64(h.Slot), int64(h.X)}
}

// Compare what comes first.
func (r Reading) Compare(o Reading) int { return slices.Compare(r[:], o[:]) }

// Sorter of things by an order.
type Sorter struct {
	by   shop.Ordering
	rank map[string]int // by item, where an order needs the shop: of its first kit or station
}

// By an order in a shop.
func By(s *shop.Shop, by shop.Ordering) *Sorter {
	x := &Sorter{by: by}
	switch by {
	case shop.ByJob:
		x.rank = map[string]int{}
		for k := len(s.Kits) - 1; k >= 0; k-- { // the first one counts
			for _, i := range s.Kits[k].Items {
				x.rank[i.Item] = k + 1
			}
		}
	case shop.ByMachine:
		at := map[string]int{}
		for i := range s.Stations {
			at[s.Stations[i].ID] = i + 1
		}
		x.rank = map[string]int{}
		for i := range s.Items {
			if it := &s.Items[i]; len(it.UsedAt) > 0 {
				x.rank[it.ID] = at[it.UsedAt[0]]
			}
		}
	}
	return x
}

// Compare two things by the order, then by name.
func (x *Sorter) Compare(a, b *shop.Item) int {
	c := x.Sorted(a, b)
	if x.by == shop.ByUse { // what is alike stays as it is
		return c
	}
	return cmp.Or(c, byName(a, b))
}

func byName(a, b *shop.Item) int {
	return cmp.Compare(strings.ToLower(a.Name), strings.ToLower(b.Name))
}

// Sorted compares two things by what the order is about alone: 0 where either may come first. What belongs to no kit, or is used at no station,
// comes last.
func (x *Sorter) Sorted(a, b *shop.Item) int {
	size := func() int {
		long := func(it *shop.Item) float64 { return max(it.W.MM(), it.H.MM(), it.D.MM()) }
		return cmp.Or(cmp.Compare(long(a), long(b)), cmp.Compare(a.W, b.W))
	}
	switch x.by {
	case shop.ByName:
		return byName(a, b)
	case shop.BySize:
		return size()
	case shop.ByKind:
		return cmp.Or(cmp.Compare(a.Family, b.Family), cmp.Compare(a.Kind, b.Kind), size())
	case shop.ByJob, shop.ByMachine:
		last := func(it *shop.Item) int { return cmp.Or(x.rank[it.ID], math.MaxInt) }
		return cmp.Or(cmp.Compare(last(a), last(b)), size())
	case shop.ByWeight:
		return cmp.Compare(a.KG, b.KG)
	default:
		return cmp.Compare(b.UsesPerWeek, a.UsesPerWeek)
	}
}

// longest marks the members of a longest part of a list that rises (patience sorting): they stay, all others move, and fewer cannot.
func longest(list []int) []bool {
	var tails, at []int // last of the best of each length, and where in the list it is
	before := make([]int, len(list))
	for i, v := range list {
		k, _ := slices.BinarySearch(tails, v)
		if k == len(tails) {
			tails, at = append(tails, v), append(at, i)
		} else {
			tails[k], at[k] = v, i
		}
		before[i] = -1
		if k > 0 {
			before[i] = at[k-1]
		}
	}
	stay := make([]bool, len(list))
	if len(at) > 0 {
		for i := at[len(at)-1]; i >= 0; i = before[i] {
			stay[i] = true
		}
	}
	return stay
}
