package fit

import (
	"cmp"
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

// Rehome gives what has no home the best spot that is free, what is used most first, nothing else moving. It changes the shop, and gives
// how many things it found one for.
func Rehome(s *shop.Shop) (n int, err error) {
	p, err := New(s)
	if err != nil {
		return 0, err
	}
	e := p.AsItIs()
	ix := shop.NewIndex(s)
	var open []int
	for i := range s.Items {
		if it := &s.Items[i]; it.Needs() && len(ix.Homes(it.ID)) == 0 {
			open = append(open, i)
		}
	}
	slices.SortStableFunc(open, func(a, b int) int { return cmp.Compare(s.Items[b].UsesPerWeek, s.Items[a].UsesPerWeek) })
	var homes []shop.Home
	for _, i := range open {
		if a, ok := e.Find(i); ok {
			if a = e.Settle(i, a.Home.Place); a.Allowed {
				homes = append(homes, a.Home)
			}
		}
	}
	s.Homes = append(s.Homes, homes...)
	return len(homes), nil
}
