package storage

import (
	"cmp"
	"slices"
)

// Offer is one way to keep what is needed.
type Offer struct {
	Builder Builder
	Design  *Design
}

// forThem is by how much a way made for such things goes before one that would take a few
// more of them; own estimate.
const forThem = 1.6

// Offers sizes every kind of storage that suits some of what is needed, what holds most of it
// first. What holds none of it, or cannot be made as asked, is left out.
func Offers(id string, n Need) []Offer {
	type ranked struct {
		Offer
		rank float64
	}
	var list []ranked
	for _, b := range Builders() {
		if !slices.ContainsFunc(n.Items, b.Suits) {
			continue
		}
		d, err := Size(b.ID, id, n)
		if err != nil || len(d.Homes) == 0 {
			continue
		}
		held := map[string]bool{}
		for i := range d.Homes {
			held[d.Homes[i].Item] = true
		}
		rank := float64(len(held))
		if b.Made() {
			rank *= forThem
		}
		list = append(list, ranked{Offer{b, d}, rank})
	}
	slices.SortStableFunc(list, func(a, b ranked) int { return cmp.Compare(b.rank, a.rank) })
	out := make([]Offer, len(list))
	for i := range list {
		out[i] = list[i].Offer
	}
	return out
}
