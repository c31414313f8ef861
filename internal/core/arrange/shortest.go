package arrange

import (
	"hobrak/internal/core/length"
	"hobrak/internal/core/shop"
)

// Shortest is the first proposal in which less is walked than as it stands and no more rules are broken, with the shop as it would
// be; the shop as it stands when nothing is better. With a mode the spots that movable stations have in it are looked for, and
// everything else stays.
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
	var best *Proposal
	for i := range all {
		if x := &all[i]; x.After.Walking < x.Before.Walking && x.After.Clashes <= x.Before.Clashes {
			best = x
			break
		}
	}
	if best == nil {
		best = &Proposal{Moved: []Moved{}, Shop: s.Clone()}
		if len(all) > 0 { // what is known of how it stands
			best.Before, best.Stays, best.Bound = all[0].Before, all[0].Stays, all[0].Bound
		} else {
			best.Before, best.Stays = figuresOf(look, shop.NewIndex(look).Area(o.Area)), followed(look, o.Area)
			best.Bound = best.Before.Walking
		}
		best.After, best.Follow = best.Before, best.Stays
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
