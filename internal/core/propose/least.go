package propose

import (
	"math"

	"hobrak/internal/core/fit"
	"hobrak/internal/core/length"
	"hobrak/internal/core/shop"
)

// deepest that storage on a wall or at a station is taken to be for the bound, mm: what is deeper is not reached into.
const deepest = 600.0

// Least is a handling, seconds a week, below which no storage on the walls that are taken up and at the stations can come, whatever its kinds,
// sizes and spots. The relaxation: each wall from end to end and from floor to top, and each station, is one open field without rails, doors
// or drawers, as if nothing had to be cut out of it; a thing takes no more of its front than its volume at the greatest depth, and is neither
// heavy nor harmful nor bound to others. What is left is who may be where at what cost, and that a stretch of front holds no more than its
// area: the Lagrangian bound of package fit on that. Storage that stands free in the room or hangs under the ceiling is not in it.
func Least(s *shop.Shop, done func() bool) (float64, error) {
	b := s.Clone()
	b.Homes, b.Containers, b.Places, b.Targets = nil, nil, nil, nil
	for i := range b.Areas {
		a := &b.Areas[i]
		for k := range a.Walls {
			w := &a.Walls[k]
			if !w.Claimed || len(w.Profile) < 2 {
				continue
			}
			high := length.Length(0)
			for _, p := range w.Profile {
				high = max(high, p[1])
			}
			b.Places = append(b.Places, shop.Place{ID: "wall " + a.ID + " " + w.ID, Kind: "wall-field", Style: "screw", At: shop.At{Area: a.ID, Wall: w.ID}, W: w.Profile[len(w.Profile)-1][0], H: high, D: length.MM(deepest)})
		}
	}
	for i := range b.Stations {
		st := &b.Stations[i]
		if st.Wished == "" {
			b.Places = append(b.Places, shop.Place{ID: "at " + st.ID, Kind: "wall-field", Style: "screw", At: shop.At{Station: st.ID}, W: st.W, H: max(st.H, st.Tall), D: st.D})
		}
	}
	for i := range b.Items {
		it := &b.Items[i]
		volume := it.W.MM() * it.H.MM() * it.D.MM()
		side := length.MM(max(1, math.Sqrt(min(volume/deepest, it.W.MM()*it.H.MM()))))
		none := length.Length(0)
		it.W, it.H, it.D, it.Clearance, it.KG = side, side, length.MM(1), &none, 0
		it.Hold, it.Flat, it.Flags, it.Family, it.Outline = []shop.Hold{"hang"}, nil, nil, "", nil
	}
	b.Settings.Together = nil
	e, err := fit.ByHours(b, done)
	if err != nil {
		return 0, err
	}
	return e.Bound(done), nil
}
