package shoptest

import (
	"fmt"
	"math"
	"math/rand/v2"

	"hobrak/internal/core/length"
	"hobrak/internal/core/shop"
	"hobrak/internal/core/weight"
)

// Made is a shop for benchmarks: a long room with stations, places of mixed kinds along
// its walls, and things that fill about three fifths of them, none with a home. The same
// counts and seed give the same shop.
func Made(items, places int, seed uint64) *shop.Shop {
	rng := rand.New(rand.NewPCG(seed, uint64(items)*1000+uint64(places)))
	mm := func(low, high float64) length.Length { return length.MM(math.Round(low + (high-low)*rng.Float64())) }
	units := (places + 7) / 8 // each brings a bench and what is round it
	wide := 2200*float64((units+1)/2) + 1200
	s, err := shop.Read([]byte(fmt.Sprintf(`{"format":"hobrak-shop","version":2,"shop":{"name":"Made","units":"metric"},"areas":[{"id":"main",
		"corners":[[0,0],[0,6000],[%[1]v,6000],[%[1]v,0]],"walls":[{"id":"A","profile":[[0,3000],[6000,3000]],"claimed":true},{"id":"B","profile":[[0,3000],[%[1]v,3000]],"claimed":true},
		{"id":"C","profile":[[0,3000],[6000,3000]],"claimed":true},{"id":"D","profile":[[0,3000],[%[1]v,3000]],"claimed":true}]}]}`, wide)))
	if err != nil {
		panic(err)
	}
	left := places
	add := func(p shop.Place) {
		if left > 0 {
			left--
			p.ID = fmt.Sprintf("p%d", places-left)
			s.Places = append(s.Places, p)
		}
	}
	for u := range units {
		wall, x := "B", 300+2200*float64(u/2)
		y, stand := 5300.0, 4900.0
		if u%2 == 1 {
			wall, y, stand = "D", 0, 1100
			x = wide - x - 2000
		}
		from := x // along the wall from its left end, which is at the right end of D
		if wall == "D" {
			from = wide - x - 2000
		}
		id := fmt.Sprintf("s%d", u)
		rot := 0.0
		if wall == "D" {
			rot = 180
		}
		s.Stations = append(s.Stations, shop.Station{ID: id, Name: "Bench " + id, Kind: "bench", X: length.MM(x), Y: length.MM(y), Rot: rot, W: length.MM(1900), D: length.MM(700), H: length.MM(900), Stand: shop.Point{length.MM(x + 950), length.MM(stand)}})
		on := func(dx, z float64) shop.At { return shop.At{Wall: wall, X: length.MM(from + dx), Z: length.MM(z)} }
		kinds := rng.Perm(3)
		field := shop.Place{Kind: "wall-field", Style: "board", At: on(0, 1000), W: length.MM(1200), H: length.MM(900), D: length.MM(260), Capacity: weight.KG(80)}
		switch kinds[0] {
		case 0:
			field.Style, field.Rows = "cleat", []length.Length{length.MM(300), length.MM(600), length.MM(880)}
		case 1:
			field.Style = "screw"
		}
		add(field)
		add(shop.Place{Kind: "drawer", At: shop.At{Station: id, X: length.MM(50), Z: length.MM(700)}, W: length.MM(560), D: length.MM(500), H: length.MM(110), Access: "drawer"})
		add(shop.Place{Kind: "drawer", At: shop.At{Station: id, X: length.MM(50), Z: length.MM(450)}, W: length.MM(560), D: length.MM(500), H: length.MM(190), Access: "drawer"})
		add(shop.Place{Kind: "shelf", At: on(1250, 1000), W: length.MM(650), H: length.MM(320), D: length.MM(280), Capacity: weight.KG(40)})
		add(shop.Place{Kind: "shelf", At: on(1250, 1350), W: length.MM(650), H: length.MM(320), D: length.MM(280), Capacity: weight.KG(40)})
		add(shop.Place{Kind: "drawer", At: shop.At{Station: id, X: length.MM(650), Z: length.MM(700)}, W: length.MM(560), D: length.MM(500), H: length.MM(110), Access: "drawer"})
		if kinds[1] == 0 {
			add(shop.Place{Kind: "slots", At: on(1250, 1700), W: length.MM(600), H: length.MM(700), D: length.MM(200), Slots: []shop.SlotRun{{N: 15, W: length.MM(40), H: length.MM(700), D: length.MM(200)}}})
		} else {
			add(shop.Place{Kind: "rail", Style: "magnet", At: on(1250, 1700), W: length.MM(600), H: length.MM(350), D: length.MM(80)})
		}
		add(shop.Place{Kind: "wall-field", Style: "peg", At: on(0, 1950), W: length.MM(1200), H: length.MM(600), D: length.MM(200), Capacity: weight.KG(40)})
	}
	ways := []struct {
		hold       []shop.Hold
		w, h, d    [2]float64
		share      float64
		flat, turn bool
	}{
		{[]shop.Hold{"hang"}, [2]float64{40, 200}, [2]float64{100, 420}, [2]float64{15, 120}, .34, false, false},
		{[]shop.Hold{"hang", "flat"}, [2]float64{30, 90}, [2]float64{150, 380}, [2]float64{20, 90}, .2, true, false},
		{[]shop.Hold{"stand"}, [2]float64{50, 200}, [2]float64{60, 280}, [2]float64{50, 200}, .14, false, false},
		{[]shop.Hold{"flat"}, [2]float64{30, 160}, [2]float64{15, 90}, [2]float64{60, 260}, .26, false, false},
		{[]shop.Hold{"magnet", "flat"}, [2]float64{15, 40}, [2]float64{120, 280}, [2]float64{10, 25}, .06, true, false},
	}
	often := []float64{10, 5, 1, 1, .25, .25, .25, .08, .08, .01}
	for i := range items {
		pick, k := rng.Float64(), 0
		for k < len(ways)-1 && pick > ways[k].share {
			pick -= ways[k].share
			k++
		}
		w := ways[k]
		it := shop.Item{ID: fmt.Sprintf("i%d", i), Name: fmt.Sprintf("Thing %d", i), W: mm(w.w[0], w.w[1]), H: mm(w.h[0], w.h[1]), D: mm(w.d[0], w.d[1]), Hold: w.hold, UsesPerWeek: often[rng.IntN(len(often))] * (.6 + .8*rng.Float64())}
		it.KG = weight.KG(math.Max(.05, it.W.MM()*it.H.MM()*it.D.MM()*4e-7))
		if w.flat {
			it.Flat = &shop.Size{W: it.H, H: it.D, D: it.W}
		}
		it.UsedAt = []string{s.Stations[rng.IntN(len(s.Stations))].ID}
		if rng.IntN(4) == 0 {
			it.UsedAt = append(it.UsedAt, s.Stations[rng.IntN(len(s.Stations))].ID)
			if it.UsedAt[0] == it.UsedAt[1] {
				it.UsedAt = it.UsedAt[:1]
			}
		}
		if rng.IntN(8) == 0 {
			it.Count = 2 + rng.IntN(3)
		}
		s.Items = append(s.Items, it)
	}
	if err := s.Validate(); err != nil {
		panic(err)
	}
	return s
}
