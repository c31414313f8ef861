package storage_test

import (
	"fmt"
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"hobrak/demo"
	"hobrak/internal/core/check"
	"hobrak/internal/core/length"
	"hobrak/internal/core/quantity"
	"hobrak/internal/core/shop"
	"hobrak/internal/core/storage"
	"hobrak/internal/core/weight"
)

// hall is a large bare room.
func hall() *shop.Shop {
	s := &shop.Shop{Format: shop.Format, Version: shop.Version, Settings: shop.Settings{Name: "Hall", Units: length.Metric, People: []shop.Person{{ID: "me", Stature: length.MM(1750)}}}}
	m := func(x, y float64) shop.Point { return shop.Point{length.MM(x), length.MM(y)} }
	a := shop.Area{ID: "main", Corners: []shop.Point{m(0, 0), m(0, 12000), m(16000, 12000), m(16000, 0)}}
	for i, w := range []float64{12000, 16000, 12000, 16000} {
		a.Walls = append(a.Walls, shop.Wall{ID: string(rune('A' + i)), Claimed: true, Surface: "plywood", Profile: []shop.Point{m(0, 5500), m(w, 5500)}})
	}
	s.Areas = []shop.Area{a}
	s.Stations = []shop.Station{{ID: "bench", Name: "Bench", Kind: "bench", X: length.MM(8000), Y: length.MM(6000), W: length.MM(1500), D: length.MM(600), H: length.MM(880), Stand: m(8700, 5700)}}
	return s
}

// placed is the hall with a design in it.
func placed(t require.TestingT, d *storage.Design, items []*shop.Item) *shop.Shop {
	s := hall()
	for _, it := range items {
		s.Items = append(s.Items, *it)
	}
	at := shop.At{Wall: "B", X: length.MM(1000), Z: length.MM(300)}
	for _, b := range storage.Builders() {
		if b.ID == d.Builder && !b.Hung {
			at = shop.At{Floor: &shop.Point{length.MM(5000), length.MM(2000)}}
		}
	}
	if d.Builder == "ceiling-rack" {
		at = shop.At{Ceiling: &shop.Point{length.MM(5000), length.MM(2000)}, Z: length.MM(2300)}
	}
	require.NoError(t, storage.Install(s, d, at))
	require.NoError(t, s.Validate())
	return s
}

// broken are the hard rules of homes that a shop breaks: reach and lifting depend
// on where the storage is put, not on how it is made.
func broken(t require.TestingT, s *shop.Shop) (out []string) {
	found, err := check.Shop(s)
	require.NoError(t, err)
	for _, f := range found {
		if f.Hard && !strings.Contains(f.Code, "reach") && !strings.Contains(f.Code, "lift") {
			out = append(out, f.String())
		}
	}
	return out
}

func everything(t require.TestingT) []*shop.Item {
	s, err := shop.Read(demo.Slipway)
	require.NoError(t, err)
	var out []*shop.Item
	for i := range s.Items {
		s.Items[i].UsedAt = nil // the hall has one station
		out = append(out, &s.Items[i])
	}
	return out
}

// counted tells whether every piece of every item has a home or is said to be left.
func counted(t require.TestingT, d *storage.Design, items []*shop.Item) {
	n := map[string]int{}
	for _, h := range d.Homes {
		i := slices.IndexFunc(items, func(it *shop.Item) bool { return it.ID == h.Item })
		n[h.Item] += h.Number(items[i])
	}
	for _, it := range items {
		left := slices.ContainsFunc(d.Left, func(l storage.Left) bool { return l.Item == it.ID })
		require.True(t, left || n[it.ID] == it.Number(), "%s: %d of %d have a home and nothing is said", it.Name, n[it.ID], it.Number())
		require.LessOrEqual(t, n[it.ID], it.Number())
	}
}

func TestEveryKindHoldsWhatItSaysItHolds(t *testing.T) {
	items := everything(t)
	for _, b := range storage.Builders() {
		t.Run(b.ID, func(t *testing.T) {
			d, err := storage.Size(b.ID, "X1", storage.Need{Items: items, Reserve: .15})
			require.NoError(t, err)
			counted(t, d, items)
			if !assert.NotEmpty(t, d.Homes, "%v", d.Left[:min(3, len(d.Left))]) {
				return
			}
			assert.Empty(t, broken(t, placed(t, d, items)))
			assert.NotEmpty(t, d.Rules)
			assert.Positive(t, d.W)
			assert.LessOrEqual(t, d.Fill, 1.0)
		})
	}
}

func TestNoLayoutOverlapsOrSticksOutWhateverItHolds(t *testing.T) {
	all := everything(t)
	kinds := storage.Builders()
	rapid.Check(t, func(t *rapid.T) {
		b := rapid.SampledFrom(kinds).Draw(t, "kind")
		var items []*shop.Item
		for i := range rapid.IntRange(1, 12).Draw(t, "n") {
			it := *rapid.SampledFrom(all).Draw(t, "item")
			it.ID = fmt.Sprintf("t%d", i)
			it.Count = rapid.IntRange(0, 9).Draw(t, "count")
			items = append(items, &it)
		}
		size := func(name string) length.Length {
			return length.MM(float64(rapid.SampledFrom([]int{0, 0, 300, 800, 1500}).Draw(t, name)))
		}
		n := storage.Need{Items: items, Reserve: rapid.SampledFrom([]float64{0, .15, .4}).Draw(t, "reserve"), Width: size("w"), Height: size("h"), Depth: size("d")}
		d, err := storage.Size(b.ID, "X1", n)
		if err != nil {
			return // nothing of it can be kept there
		}
		counted(t, d, items)
		if len(d.Places) > 0 {
			if bad := broken(t, placed(t, d, items)); len(bad) > 0 {
				t.Fatalf("%s: %v", b.ID, bad)
			}
		}
	})
}

func thing(id string, w, h, d float64, n int, hold shop.Hold, kg float64) *shop.Item {
	return &shop.Item{ID: id, Name: id, W: length.MM(w), H: length.MM(h), D: length.MM(d), Count: n, Hold: []shop.Hold{hold}, KG: weight.KG(kg)}
}

func TestTheWorkedExampleOfAClampRack(t *testing.T) {
	// 8 F-clamps 160 wide: pitch 160 + 15 = 175, 8 + 2 slots; 4 parallel clamps 190 wide: 190 + 20 = 210, 4 + 1.
	f, par := thing("f", 160, 740, 40, 8, "slot", 1.4), thing("p", 190, 760, 60, 4, "slot", 2.6)
	par.Kind = "parallel-clamp"
	d, err := storage.Size("clamp-rack", "C9", storage.Need{Items: []*shop.Item{f, par}, Reserve: .15})
	require.NoError(t, err)
	require.Len(t, d.Places, 1)
	p := d.Places[0]
	assert.Equal(t, []shop.SlotRun{{N: 5, W: length.MM(210), H: length.MM(780), D: length.MM(70)}, {N: 10, W: length.MM(175), H: length.MM(760), D: length.MM(50)}}, p.Slots)
	assert.Equal(t, length.MM(5*210+10*175), p.W)
	assert.Equal(t, "3 of 15 slots", d.Spare)
	assert.InDelta(t, 8*1.4+4*2.6, d.KG.KG(), 1e-9)
}

func TestTheWorkedExampleOfAChargerShelf(t *testing.T) {
	// Chargers of 120 and 150 with 20 between: 290; / 0.85 = 341, up to 350. Depth 140 + 25.
	a, c := thing("a", 120, 100, 140, 1, "stand", .5), thing("c", 150, 110, 120, 1, "stand", .6)
	a.Flags, c.Flags = []shop.Flag{"charger"}, []shop.Flag{"charger"}
	d, err := storage.Size("charger-shelf", "C9", storage.Need{Items: []*shop.Item{a, c, thing("battery", 75, 65, 115, 4, "stand", .6)}, Reserve: .15})
	require.NoError(t, err)
	require.Len(t, d.Places, 2)
	assert.Equal(t, length.MM(430), d.Places[1].W, "four batteries with clearance are longer: 4 × 75 and 3 × 20")
	assert.Equal(t, length.MM(165), d.Places[1].D)
	assert.Contains(t, strings.Join(d.Rules, "; "), "3 outlets")
}

func TestTheWorkedExampleOfARackForLongBoards(t *testing.T) {
	// 4.8 m boards on a run of 3 m: overhang 0.9 m asked, 0.6 m and a quarter allowed: refused with the numbers.
	b := thing("plank", 4800, 30, 180, 3, "arms", 12)
	d, err := storage.Size("lumber-rack", "D9", storage.Need{Items: []*shop.Item{b}, Width: length.MM(3000)})
	require.NoError(t, err)
	require.Len(t, d.Left, 1)
	assert.Contains(t, quantity.Metric(d.Left[0].Why), "600 mm too long for the arms")
	// On 3.6 m it goes, with three arms and more.
	d, err = storage.Size("lumber-rack", "D9", storage.Need{Items: []*shop.Item{b}})
	require.NoError(t, err)
	assert.Empty(t, d.Left)
	assert.Equal(t, length.MM(3600), d.Places[0].W)
	assert.Contains(t, d.Rules[0], "arms a level")
}

func TestTheReserveIsKept(t *testing.T) {
	items := everything(t)
	for _, kind := range []string{"cleat-field", "drawer-bank", "shelf-unit", "clamp-rack", "magnet-rail", "lumber-rack"} {
		for _, g := range []float64{0, .15, .3} {
			d, err := storage.Size(kind, "X", storage.Need{Items: items, Reserve: g})
			require.NoError(t, err)
			// A row, drawer or run whose one thing is larger than its share may use the reserve.
			assert.LessOrEqual(t, d.Fill, 1-g+.12, "%s at %g", kind, g)
		}
	}
}

func TestWhatCannotBeSizedIsRefusedInWords(t *testing.T) {
	one := []*shop.Item{thing("x", 100, 100, 100, 1, "hang", 1)}
	for _, c := range []struct {
		kind string
		n    storage.Need
		says string
	}{
		{"hammock", storage.Need{Items: one}, "there are cleat-field"}, {"shelf", storage.Need{}, "what is it to hold"}, {"shelf", storage.Need{Items: one, Reserve: 1}, "from 0 to 0.9"},
		{"shelf", storage.Need{Items: one, Width: -1}, "below 0"},
	} {
		_, err := storage.Size(c.kind, "X", c.n)
		assert.ErrorContains(t, err, c.says)
	}
	d, err := storage.Size("drawer-bank", "X", storage.Need{Items: one})
	require.NoError(t, err)
	assert.Contains(t, d.Left[0].Why, "this holds flat or slot; it is kept hang")
	s := hall()
	d, err = storage.Size("peg-field", "X", storage.Need{Items: one})
	require.NoError(t, err)
	s.Items = []shop.Item{*one[0]}
	require.NoError(t, storage.Install(s, d, shop.At{Wall: "A", X: 0, Z: length.MM(1000)}))
	assert.ErrorContains(t, storage.Install(s, d, shop.At{Wall: "A"}), "X is there already")
}

func TestAddressesCountOnAndStay(t *testing.T) {
	s, err := shop.Read(demo.Slipway)
	require.NoError(t, err)
	b := storage.Address(s, shop.At{Wall: "B"})
	assert.False(t, slices.ContainsFunc(s.Places, func(p shop.Place) bool { return p.ID == b || strings.HasPrefix(p.ID, b+"-") }))
	s.Places = append(s.Places, shop.Place{ID: b})
	assert.NotEqual(t, b, storage.Address(s, shop.At{Wall: "B"}))
	assert.Equal(t, "T1", storage.Address(s, shop.At{Ceiling: &shop.Point{}}))
	assert.Equal(t, byte('K'), storage.Address(s, shop.At{Floor: &shop.Point{}})[0])
}

// Layouts whose best fill is known: a drawer cut without waste into footprints
// by random straight cuts, clearance 0.
func cut(rnd func(n int) int, w, d float64, pieces int) [][2]float64 {
	list := [][2]float64{{w, d}}
	for len(list) < pieces {
		slices.SortFunc(list, func(a, b [2]float64) int { return int(b[0]*b[1] - a[0]*a[1]) })
		big := list[0]
		share := .3 + .4*float64(rnd(1000))/1000
		if big[0] > big[1] {
			x := float64(int(big[0] * share))
			list = append(list[1:], [2]float64{x, big[1]}, [2]float64{big[0] - x, big[1]})
		} else {
			y := float64(int(big[1] * share))
			list = append(list[1:], [2]float64{big[0], y}, [2]float64{big[0], big[1] - y})
		}
	}
	return list
}

func BenchmarkDrawersAgainstTheBestKnownFill(b *testing.B) {
	// Inside of a chest of 560 × 450: 474 × 410.
	const w, d = 474.0, 410.0
	none := length.Length(0)
	mean := 0.0
	runs := 0
	for b.Loop() {
		mean, runs = 0, 0
		for seed := range 20 {
			state := uint64(seed)*2862933555777941757 + 3037000493
			rnd := func(n int) int { state = state*2862933555777941757 + 3037000493; return int(state>>33) % n }
			var items []*shop.Item
			for i, p := range cut(rnd, w, d, 8+seed) {
				it := thing(fmt.Sprint(i), p[0], 30, p[1], 1, "flat", .1)
				it.Clearance = &none
				items = append(items, it)
			}
			out, err := storage.Size("drawer-bank", "X", storage.Need{Items: items})
			if err != nil {
				b.Fatal(err)
			}
			// How much of the waste-free drawer came back into the fullest drawer.
			fullest := 0.0
			for _, p := range out.Places {
				area := 0.0
				for _, h := range out.Homes {
					if h.Place == p.ID {
						i := slices.IndexFunc(items, func(it *shop.Item) bool { return it.ID == h.Item })
						area += items[i].W.MM() * items[i].D.MM()
					}
				}
				fullest = max(fullest, area)
			}
			mean += fullest / (w * d)
			runs++
		}
	}
	b.ReportMetric(100*mean/float64(runs), "%of-best-fill")
}

// Shelves whose best fill is known: rows of 864 mm cut without waste into things
// as high as their row.
func BenchmarkShelvesAgainstTheBestKnownFill(b *testing.B) {
	const w = 864.0
	none := length.Length(0)
	mean, runs := 0.0, 0
	for b.Loop() {
		mean, runs = 0, 0
		for seed := range 20 {
			state := uint64(seed)*2862933555777941757 + 3037000493
			rnd := func(n int) int { state = state*2862933555777941757 + 3037000493; return int(state>>33) % n }
			var items []*shop.Item
			known := 0.0
			for r := range 4 + seed%3 {
				h := float64(120 + 60*r + rnd(40))
				known += w * h
				for rest := w; rest > 0; {
					cut := min(rest, float64(70+rnd(180)))
					if rest-cut < 60 {
						cut = rest
					}
					it := thing(fmt.Sprintf("%d-%g", r, rest), cut, h, 200, 1, "stand", 1)
					it.Clearance = &none
					items = append(items, it)
					rest -= cut
				}
			}
			d, err := storage.Size("shelf-unit", "X", storage.Need{Items: items, Height: length.MM(6000)})
			if err != nil || len(d.Left) > 0 {
				b.Fatal(err, d.Left)
			}
			got := 0.0
			for _, p := range d.Places {
				got += p.W.MM() * (p.H.MM() - 30)
			}
			mean += known / got
			runs++
		}
	}
	b.ReportMetric(100*mean/float64(runs), "%of-best-fill")
}

func BenchmarkSizingForTwoHundredThings(b *testing.B) {
	all := everything(b)
	var items []*shop.Item
	for i := range 200 {
		it := *all[i%len(all)]
		it.ID = fmt.Sprint(i)
		items = append(items, &it)
	}
	for _, kind := range []string{"cleat-field", "drawer-bank", "shelf-unit", "lumber-rack"} {
		b.Run(kind, func(b *testing.B) {
			for b.Loop() {
				if _, err := storage.Size(kind, "X", storage.Need{Items: items, Reserve: .15}); err != nil {
					b.Fatal(err)
				}
			}
		})
	}
}
