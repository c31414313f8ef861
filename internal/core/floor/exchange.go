package floor

import (
	"hobrak/internal/core/length"
	"hobrak/internal/core/shop"
)

// Exchange puts two stations each where the other stands, back to where its back was; false when one of them does not fit
// there, and the shop must then be thrown away.
func Exchange(s *shop.Shop, a, b string) bool {
	i, k := index(s, a), index(s, b)
	if i < 0 || k < 0 || i == k || s.Stations[i].Area != s.Stations[k].Area {
		return false
	}
	one, two := s.Stations[i], s.Stations[k]
	s.Stations[i], s.Stations[k] = instead(one, &two), instead(two, &one)
	area := shop.NewIndex(s).Area(one.Area)
	for _, n := range []int{i, k} {
		g, err := Of(s, area, s.Stations[n].ID)
		if err != nil || g.At(&s.Stations[n]) != nil {
			return false
		}
	}
	return true
}

// instead is a station with its back in the middle of where the back of another is, turned as that is.
func instead(st shop.Station, of *shop.Station) shop.Station {
	mid, foot := middleOf(of), of.Footprint()
	back := foot[2].Add(foot[3]).Mul(.5)
	at := back.Add(mid.Sub(back).Unit().Mul(st.D.MM() / 2))
	st.X, st.Y, st.Rot = length.MM(at.X-st.W.MM()/2), length.MM(at.Y-st.D.MM()/2), of.Rot
	st.Stand = Stand(&st)
	return st
}
