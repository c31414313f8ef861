package check_test

import (
	"fmt"
	"testing"

	"github.com/stretchr/testify/require"

	"hobrak/internal/core/check"
	"hobrak/internal/core/length"
	"hobrak/internal/core/shop"
	"hobrak/internal/core/weight"
)

// hall has so many stations, each with a thing that is used at it and lives on a wall.
func hall(stations int) *shop.Shop {
	side := 2000.0
	for side*side < float64(stations)*4e6 {
		side += 2000
	}
	mm := length.MM
	s := &shop.Shop{Format: shop.Format, Version: shop.Version, Settings: shop.Settings{Name: "Hall", Units: length.Metric}}
	a := shop.Area{ID: "main", Corners: []shop.Point{{0, 0}, {0, mm(side)}, {mm(side), mm(side)}, {mm(side), 0}}}
	for k := range 4 {
		a.Walls = append(a.Walls, shop.Wall{ID: string(rune('A' + k)), Claimed: true, Profile: []shop.Point{{0, mm(3000)}, {mm(side), mm(3000)}}})
	}
	s.Areas = []shop.Area{a}
	for k := range 4 {
		s.Places = append(s.Places, shop.Place{ID: fmt.Sprintf("P%d", k), Kind: "wall-field", Style: "screw", At: shop.At{Wall: a.Walls[k].ID, X: 0, Z: mm(900)}, W: mm(min(side, 20000)), H: mm(1000), D: mm(200)})
	}
	for i := range stations {
		x, y := 2000*float64(i%int(side/2000))+400, 2000*float64(i/int(side/2000))+700
		id := fmt.Sprintf("s%d", i)
		s.Stations = append(s.Stations, shop.Station{ID: id, Name: id, Kind: "bench", X: mm(x), Y: mm(y), W: mm(900), D: mm(600), H: mm(850), Stand: shop.Point{mm(x + 450), mm(y - 300)}})
		s.Items = append(s.Items, shop.Item{ID: "i" + id, Name: "Thing", W: mm(20), H: mm(40), D: mm(30), KG: weight.KG(.2), Hold: []shop.Hold{"hang"}, UsesPerWeek: 1, UsedAt: []string{id}})
		p := &s.Places[i%4]
		s.Homes = append(s.Homes, shop.Home{Item: "i" + id, Place: p.ID, X: mm(float64((i/4)*60) * 1), Z: mm(100)})
	}
	return s
}

func BenchmarkCheckOfStations(b *testing.B) {
	for _, n := range []int{50, 100, 200, 400} {
		s := hall(n)
		require.NoError(b, s.Validate())
		b.Run(fmt.Sprint(n), func(b *testing.B) {
			for b.Loop() {
				_, err := check.Shop(s)
				require.NoError(b, err)
			}
			b.ReportMetric(float64(b.Elapsed().Milliseconds())/float64(b.N), "ms/check")
		})
	}
}
