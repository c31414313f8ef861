package fit

import (
	"slices"

	"hobrak/internal/core/keeping"
	"hobrak/internal/core/shop"
)

// Part of a plan: the shop with the plan's homes for some items and its own for the
// others. An item that stays but is in the way of one that moves goes along; Along
// names those.
type Part struct {
	Homes []shop.Home
	Along []string
}

// Part takes over of a plan's homes those of the items that are wanted. The plan must
// be one for this shop.
func (p *Problem) Part(homes []shop.Home, wanted func(item string) bool) Part {
	e := p.Empty()
	out := Part{}
	take := make([]bool, len(e.shop.Items))
	planned := map[string][]*shop.Home{}
	for i := range homes {
		planned[homes[i].Item] = append(planned[homes[i].Item], &homes[i])
	}
	for i := range e.shop.Items {
		take[i] = wanted(e.shop.Items[i].ID)
	}
	// Boards lie on each other: what they are piled on is taken over as a whole.
	for again := true; again; {
		again = false
		touched := map[string]bool{}
		each := func(i int, do func(place string)) {
			for _, h := range slices.Concat(planned[e.shop.Items[i].ID], e.ways.Index.Homes(e.shop.Items[i].ID)) {
				if p := e.ways.Index.Place(h.Place); keeping.Of(p).Form() == keeping.Piles {
					do(p.ID)
				}
			}
		}
		for i := range e.shop.Items {
			if take[i] {
				each(i, func(p string) { touched[p] = true })
			}
		}
		for i := range e.shop.Items {
			each(i, func(p string) {
				if touched[p] && !take[i] {
					take[i], again = true, true
					out.Along = append(out.Along, e.shop.Items[i].ID)
				}
			})
		}
	}
	for {
		e.reset()
		out.Homes = nil
		along := none
		put := func(item int, list []*shop.Home, check bool) {
			it := &e.shop.Items[item]
			for _, h := range list {
				place := e.ways.PlaceNumber(h.Place)
				p := &e.shop.Places[place]
				n, s := h.Number(it), keeping.SpotOf(p, h)
				if check && along == none && !h.Locked {
					over, _ := e.overloaded(item, n, place)
					if e.spaces[place].Allows(keeping.Thing(p, it, n), s) != nil || over > 0 || e.harmful(item, place) != "" {
						along = item
						return
					}
				}
				e.parcels = append(e.parcels, parcel{item: item, n: n, place: none})
				e.put(len(e.parcels)-1, place, s, 0)
				out.Homes = append(out.Homes, *h)
			}
		}
		// What moves goes in first; what stays must fit beside it.
		for i := range e.shop.Items {
			if take[i] {
				put(i, planned[e.shop.Items[i].ID], false)
			}
		}
		for i := range e.shop.Items {
			if !take[i] {
				put(i, e.ways.Index.Homes(e.shop.Items[i].ID), true)
			}
		}
		if along == none {
			break
		}
		take[along] = true
		out.Along = append(out.Along, e.shop.Items[along].ID)
	}
	e.inOrder(out.Homes)
	return out
}
