package fit

import "hobrak/internal/core/shop"

// Settle gives things without a home one in the place each is said to be in, at the cheapest spot that is free there, one
// after the other; of a wish only item and place count. Why those that got none did not is given by item.
func Settle(s *shop.Shop, wishes []shop.Home) (refused map[string]string, err error) {
	if len(wishes) == 0 {
		return nil, nil
	}
	p, err := New(s)
	if err != nil {
		return nil, err
	}
	e := p.AsItIs()
	number := map[string]int{}
	for i := range s.Items {
		number[s.Items[i].ID] = i
	}
	refused = map[string]string{}
	var settled []shop.Home
	for _, h := range wishes {
		if a := e.Settle(number[h.Item], h.Place); a.Allowed {
			settled = append(settled, a.Home)
		} else {
			refused[h.Item] = a.Why
		}
	}
	s.Homes = append(s.Homes, settled...)
	return refused, nil
}
