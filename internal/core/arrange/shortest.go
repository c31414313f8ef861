package arrange

import (
	"fmt"

	"hobrak/internal/core/length"
	"hobrak/internal/core/shop"
)

// Shortest is the first proposal in which less is walked than as it stands and no more rules are broken, with the shop as it would be; the shop as it stands when nothing is better. With a
// mode the spots that movable stations have in it are looked for, and everything else stays.
func Shortest(s *shop.Shop, in string, o Options) (*Proposal, error) {
	look := s
	if in != "" {
		then, err := s.InMode(in)
		if err != nil {
			return nil, err
		}
		m, err := s.Mode(in)
		if err != nil {
			return nil, err
		}
		then.Modes = nil // it is looked for in this arrangement alone
		for i := range then.Places {
			then.Places[i].When = nil
		}
		for i := range then.Stations {
			st := &then.Stations[i]
			if spot := m.Spots[st.ID]; !st.Mobility.Aside() || spot.State != "" {
				o.Pinned = append(o.Pinned, st.ID)
			}
		}
		look = then
	}
	all, err := Whole(look, o)
	if err != nil {
		return nil, err
	}
	area := shop.NewIndex(look).Area(o.Area)
	if area == nil {
		return nil, fmt.Errorf("there is no area %q", o.Area)
	}
	var best *Proposal
	for i := range all {
		if x := &all[i]; x.After.Walking < x.Before.Walking && x.After.Clashes <= x.Before.Clashes {
			best = x
			break
		}
	}
	if best == nil {
		f := figuresOf(look, area)
		best = &Proposal{Moved: []Moved{}, Before: f, After: f, Bound: f.Walking}
		if len(all) > 0 {
			best.Bound = all[0].Bound
		}
		stays := followed(look, o.Area)
		best.Follow, best.Stays = stays, stays
		best.Shop = s.Clone()
		return best, nil
	}
	if in == "" {
		return best, nil
	}
	next := s.Clone()
	m, err := next.Mode(in)
	if err != nil {
		return nil, err
	}
	for _, x := range best.Moved {
		put(m, x.ID, shop.Standing{Floor: shop.Point{length.MM(x.X), length.MM(x.Y)}, Rot: x.Rot})
	}
	best.Shop = next
	return best, nil
}
