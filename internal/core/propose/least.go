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
// sizes and spots. The relaxation: each wall from end to end and from floor to top, and the front of each station, is open, without rails, doors
// or drawers, and each thing is there alone: it is neither heavy nor harmful nor bound to others, and takes no room from them. What is left is
// which spot on the walls or at the hand is got at best. What stands free in the room is no better than at the hand of who stands at a station.
// Room is left out because it would hardly matter: with each thing taking its volume at the greatest depth, the Lagrangian bound of package
// fit on these fronts is a quarter per cent higher in the demo, and takes eight seconds.
func Least(s *shop.Shop, done func() bool) (float64, error) {
	e, err := fit.ByHours(opened(s), done)
	if err != nil {
		return 0, err
	}
	return least(e, s), nil
}

func least(open *fit.Problem, s *shop.Shop) (sum float64) {
	for i := range s.Items {
		if it := &s.Items[i]; !it.Needs() {
			continue
		} else if c, ok := open.Cheapest(i); ok {
			sum += c
		} else {
			sum += open.Seconds(i) // without a home
		}
	}
	return sum
}

// idealOf gives what each item would cost in seconds a week, by id, if it had the best spot of all that to itself.
func idealOf(open *fit.Problem, s *shop.Shop) map[string]float64 {
	out := map[string]float64{}
	for i := range s.Items {
		if c, ok := open.Cheapest(i); ok {
			out[s.Items[i].ID] = c
		}
	}
	return out
}

// opened is a shop with its walls and stations as open fronts and nothing else.
func opened(s *shop.Shop) *shop.Shop {
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
	return b
}
