package review

import (
	"slices"

	"hobrak/internal/core/shop"
)

// daily is from how many uses a week on a thing is used nearly every day one is in the shop (estimate).
const daily = 3.0

// there is the share of the hours, 0 to 1, in which one gets at a place: the room is shared with what else happens in it, and a place that is
// only there in some modes, or in what is folded, put outdoors or away in others, is not yours all the time. Without modes it is always there.
func there(s *shop.Shop, ix *shop.Index, p *shop.Place) float64 {
	if len(s.Modes) == 0 {
		return 1
	}
	chain, root := ix.Chain(&p.At)
	of := []string{p.ID}
	for _, c := range chain {
		of = append(of, c.ID)
	}
	if root.Station != "" {
		of = append(of, root.Station)
	}
	all, got := 0.0, 0.0
	for i := range s.Modes {
		m := &s.Modes[i]
		all += m.HoursPerWeek
		if len(p.When) > 0 && !slices.Contains(p.When, m.ID) || slices.ContainsFunc(of, func(id string) bool { return m.Spots[id].State != "" }) {
			continue
		}
		got += m.HoursPerWeek
	}
	if all == 0 { // nobody said how long they last
		return 1
	}
	return got / all
}

// outside tells whether a thing is used nearly every day and lives outside of the part of the room that is yours most of the time: less than
// half of the hours, in all its homes.
func outside(s *shop.Shop, ix *shop.Index, it *shop.Item) bool {
	homes := ix.Homes(it.ID)
	if it.UsesPerWeek < daily || len(homes) == 0 {
		return false
	}
	return !slices.ContainsFunc(homes, func(h *shop.Home) bool {
		p := ix.Place(h.Place)
		return p == nil || there(s, ix, p) >= .5
	})
}
