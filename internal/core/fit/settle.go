package fit

import (
	"slices"

	"hobrak/internal/core/shop"
)

// Settle gives things without a home one in the place each is said to be in, at the cheapest spot that is free there, one
// after the other; of a wish only item and place count. What is there already can evidently be held the way that place
// holds things. Where no spot is free, or a rule bars it, the thing is kept as lying there; why, is given by item.
func Settle(s *shop.Shop, wishes []shop.Home) (lying map[string]string, err error) {
	if len(wishes) == 0 {
		return nil, nil
	}
	number := map[string]int{}
	for i := range s.Items {
		number[s.Items[i].ID] = i
	}
	ix := shop.NewIndex(s)
	for _, h := range wishes {
		it, p := &s.Items[number[h.Item]], ix.Place(h.Place)
		if ways := p.Offers(); !p.Takes(it) && len(ways) > 0 {
			it.Hold = append(slices.Clone(it.Holding()), ways[0])
		}
	}
	p, err := New(s)
	if err != nil {
		return nil, err
	}
	e := p.AsItIs()
	lying = map[string]string{}
	var settled []shop.Home
	for _, h := range wishes {
		i := number[h.Item]
		if a := e.Settle(i, h.Place); a.Allowed {
			settled = append(settled, a.Home)
		} else {
			lying[h.Item] = a.Why
			s.Items[i].Lies = h.Place
		}
	}
	s.Homes = append(s.Homes, settled...)
	return lying, nil
}
