package wood_test

import (
	"fmt"
	"math"
	"math/rand/v2"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"hobrak/demo"
	"hobrak/internal/core/check"
	"hobrak/internal/core/cutting"
	"hobrak/internal/core/length"
	"hobrak/internal/core/load"
	"hobrak/internal/core/mode"
	"hobrak/internal/core/shop"
	"hobrak/internal/core/weight"
	"hobrak/internal/core/wood"
)

var day = time.Date(2027, 3, 1, 0, 0, 0, 0, time.UTC)

func slipway(t require.TestingT) *shop.Shop {
	s, err := shop.Read(demo.Slipway)
	require.NoError(t, err)
	return s
}

func TestLinesAboutWood(t *testing.T) {
	metric := slipway(t)
	imperial := slipway(t)
	imperial.Settings.Units = length.Imperial
	for _, x := range []struct {
		s    *shop.Shop
		text string
		want wood.Reading
	}{
		{metric, "8 oak 2600x180x30 C2", wood.Reading{Count: 8, Of: "white-oak", Form: "board", L: 2600, W: 180, T: 30, Place: "C2"}},
		{metric, "1/2 sheet birch ply 12mm D6", wood.Reading{Count: 1, Of: "birch-plywood", Form: "sheet", L: 1220, W: 1220, T: 12, Place: "D6"}},
		{metric, "3 walnut offcuts 400 x 120 x 25", wood.Reading{Count: 3, Of: "walnut", Form: "offcut", L: 400, W: 120, T: 25}},
		{metric, "mdf 18mm", wood.Reading{Count: 1, Of: "mdf", Form: "sheet", L: 2440, W: 1220, T: 18}},
		{metric, "ash 2.4m x 15cm x 25mm at 30", wood.Reading{Count: 1, Of: "ash", Form: "board", L: 2400, W: 150, T: 25, Price: 30}},
		{metric, "about 2 hard maple billet 300x90x90", wood.Reading{Count: 1, Of: "hard-maple", Form: "billet", L: 300, W: 90, T: 90, About: true}},
		{imperial, "4 pine 2x4x96", wood.Reading{Count: 4, Of: "white-pine", Form: "board", L: 2438.4, W: 88.9, T: 38.1}},
		{metric, "2 pine 1x6x8'", wood.Reading{Count: 2, Of: "white-pine", Form: "board", L: 2438.4, W: 139.7, T: 19}},
		{imperial, "oak 12x8x1", wood.Reading{Count: 1, Of: "white-oak", Form: "board", L: 304.8, W: 203.2, T: 25.4}},
		{imperial, "6 cherry 96x7x1", wood.Reading{Count: 6, Of: "cherry", Form: "board", L: 2438.4, W: 177.8, T: 25.4}},
	} {
		r, err := wood.Read(x.s, x.text)
		require.NoError(t, err, x.text)
		r.Says, r.Called = nil, ""
		for _, v := range []*float64{&r.L, &r.W, &r.T} {
			*v = math.Round(*v*10) / 10
		}
		assert.Equal(t, x.want, *r, x.text)
	}
	bf, err := wood.Read(metric, "6 bf walnut 4/4")
	require.NoError(t, err)
	assert.True(t, bf.About)
	assert.InDelta(t, 6*.0254*.3048*.3048, float64(bf.Count)*bf.L*bf.W*bf.T/1e9, .0005, "so much wood, whatever the boards")
	for says, text := range map[string]string{"say what": " ", "which size": "oak", "how thick": "oak 2400x150", "millimetres here": "oak 8x6x1", "from 1 to": "0 oak 2400x150x25", "more than any board": "oak 90000x150x25"} {
		_, err := wood.Read(metric, text)
		assert.ErrorContains(t, err, says, text)
	}
	_, err = wood.Read(imperial, "pine 2x4")
	assert.ErrorContains(t, err, "is a section")
}

// stocked is the demo with random wood on its racks.
func stocked(t require.TestingT, seed uint64, n int) *shop.Shop {
	s := slipway(t)
	rng := rand.New(rand.NewPCG(seed, 1))
	kinds := []string{"larch", "ash", "hard-maple", "birch-plywood", ""}
	var list []wood.Reading
	for range n {
		r := wood.Reading{Count: 1 + rng.IntN(3), Of: kinds[rng.IntN(len(kinds))], Form: "board", L: float64(250 + rng.IntN(2200)), W: float64(40 + rng.IntN(160)), T: []float64{12, 18, 25, 40}[rng.IntN(4)]}
		if r.L < 700 {
			r.Form = "offcut"
		}
		r.Called = wood.Called(r.Of)
		list = append(list, r)
	}
	st, err := wood.Of(s, day)
	require.NoError(t, err)
	d, then, err := wood.Deliver(s, st, list, "2026-01-05")
	require.NoError(t, err)
	require.Len(t, d.Arrivals, n)
	return then
}

// A delivery lies where the checker allows it: nothing overlaps, nothing carries too much.
func TestADeliveryIsLawful(t *testing.T) {
	laid := 0
	for seed := range uint64(8) {
		s := stocked(t, seed, 12)
		was, err := check.Shop(slipway(t))
		require.NoError(t, err)
		before := map[string]bool{}
		for _, f := range was {
			before[f.Code+f.What] = f.Hard
		}
		found, err := check.Shop(s)
		require.NoError(t, err)
		for _, f := range found {
			if f.Hard && !before[f.Code+f.What] {
				require.NotContains(t, []string{"overlap", "outside", "capacity", "load", "hold", "size"}, f.Code, "%+v", f)
			}
		}
		laid += len(s.Homes) - len(slipway(t).Homes)
	}
	t.Logf("%d lines laid", laid)
	assert.Positive(t, laid)
}

// Each piece that serves does, and none that would is left out: looked at by laying the part into it row by row.
func TestWhatServesAPart(t *testing.T) {
	served := 0
	for seed := range uint64(20) {
		st, err := wood.Of(stocked(t, seed, 20), day)
		require.NoError(t, err)
		rng := rand.New(rand.NewPCG(seed, 2))
		w := wood.Wish{L: float64(100 + rng.IntN(900)), W: float64(30 + rng.IntN(100)), T: []float64{12, 18, 20, 25}[rng.IntN(4)], Kerf: 3, Count: 1 + rng.IntN(4), Of: []string{"", "ash", "larch"}[rng.IntN(3)]}
		got := map[string]int{}
		for _, x := range st.Find(w) {
			got[x.Item] = x.Gives
			assert.GreaterOrEqual(t, x.Waste, 0.0)
			assert.LessOrEqual(t, x.Waste, 1.0)
		}
		for _, p := range st.Pieces {
			n := 0
			for y := 0.0; y+w.W <= p.W+1e-9; y += w.W + w.Kerf {
				for x := 0.0; x+w.L <= p.L+1e-9; x += w.L + w.Kerf {
					n++
				}
			}
			if w.Of != "" && p.Of != w.Of || p.T < w.T || p.T > w.T+15 && p.Form != "billet" {
				n = 0
			}
			assert.Equal(t, n, got[p.Item], "seed %d: %s for %+v", seed, p.Name, w)
			served += n
		}
	}
	assert.Positive(t, served)
}

// What is cut is gone and offcuts are there: the wood before is the parts, the offcuts and the rest of the stock, but for the saw and
// what is too small to keep.
func TestCutsAreBookedExactly(t *testing.T) {
	cuts, came := 0, 0
	for seed := range uint64(12) {
		s := stocked(t, seed, 15)
		st, err := wood.Of(s, day)
		require.NoError(t, err)
		parts := []cutting.Part{{Name: "slat", Count: 4, L: 420, W: 45, T: 18, Material: "ash", Grain: cutting.AlongL}, {Name: "rail", Count: 2, L: 700, W: 60, T: 25, Material: "larch", Grain: cutting.AlongL}}
		stock := st.ForCutting(parts, 0, "")
		p, err := cutting.Of(parts, stock, cutting.Options{Kerf: 3, Rounds: 3})
		require.NoError(t, err)
		before := map[string]int{}
		for _, it := range s.Items {
			before[it.ID] = it.Number()
		}
		list, err := wood.Take(s, p, nil, "2027-03-01")
		require.NoError(t, err)
		used := map[string]int{}
		kept := 0
		for _, x := range p.Pieces {
			used[x.Stock]++
			cuts++
			for _, o := range x.Offcuts {
				if max(o.L, o.W) >= 300 && min(o.L, o.W) >= 40 {
					kept++
				}
			}
		}
		assert.Len(t, list, kept)
		came += kept
		ix := shop.NewIndex(s)
		for id, n := range before {
			left := 0
			if it := ix.Item(id); it != nil {
				left = it.Number()
			}
			require.Equal(t, n-used[id], left, id)
		}
		require.NoError(t, s.Validate())
		for _, it := range s.Items {
			n := 0
			for _, h := range ix.Homes(it.ID) {
				n += h.Number(&it)
			}
			require.LessOrEqual(t, n, it.Number(), it.Name)
		}
		// The same plan again: the wood is not there any more.
		if len(p.Pieces) > 0 {
			for range 40 {
				if _, err = wood.Take(s, p, nil, "2027-03-01"); err != nil {
					break
				}
			}
			assert.ErrorContains(t, err, "make the plan again")
		}
	}
	t.Logf("%d pieces cut, %d offcuts came", cuts, came)
	assert.Positive(t, cuts)
	assert.Positive(t, came)
}

func TestWhatMayGo(t *testing.T) {
	s := &shop.Shop{}
	add := func(id string, l, w, t float64, came string, change func(*shop.Item)) {
		it := shop.Item{ID: id, Name: id, W: length.MM(l), H: length.MM(t), D: length.MM(w), Wood: &shop.Wood{Of: "ash", Form: "offcut", Came: came}}
		if change != nil {
			change(&it)
		}
		s.Items = append(s.Items, it)
	}
	add("short", 200, 100, 25, "2027-02-01", nil)
	add("old", 900, 100, 25, "2025-01-01", nil)
	add("used", 900, 100, 25, "2025-01-01", nil)
	add("new", 900, 100, 25, "2027-02-01", nil)
	add("kept", 200, 100, 25, "2020-02-01", func(it *shop.Item) { it.Keep = true })
	add("promised", 200, 100, 25, "2020-02-01", func(it *shop.Item) { it.PromisedTo = "stool" })
	add("later", 200, 100, 25, "2020-02-01", func(it *shop.Item) { it.Review = "2027-12-01" })
	st, err := wood.Of(s, day)
	require.NoError(t, err)
	why := map[string]string{}
	for _, x := range st.Letting(s, map[string]string{"used": "2027-01-01"}, day) {
		why[x.Item] = x.Why
	}
	assert.Equal(t, map[string]string{"short": "shorter than is kept", "old": "untouched for 25 months"}, why)
	s.Settings.Useful, s.Settings.WoodMonths = length.MM(150), 60
	st, err = wood.Of(s, day)
	require.NoError(t, err)
	assert.Empty(t, st.Letting(s, nil, day), "another school keeps more")
	s.Settings.WoodCap = .002
	st, err = wood.Of(s, day)
	require.NoError(t, err)
	assert.Greater(t, st.M3, .002)
	assert.NotContains(t, st.Over, "promised")
	assert.NotEmpty(t, st.Over)
}

func TestClampsOfAPanel(t *testing.T) {
	s := &shop.Shop{Items: []shop.Item{{ID: "f", Name: "F-clamp 600", Kind: "f-clamp", W: length.MM(80), H: length.MM(720), D: length.MM(40), Count: 4}, {ID: "b", Name: "Bar clamp 1200", Kind: "bar-clamp", W: length.MM(80), H: length.MM(1320), D: length.MM(40), Count: 2}, {ID: "s", Name: "Spring clamp", Kind: "spring-clamp", W: length.MM(50), H: length.MM(150), D: length.MM(30), Count: 8}}}
	c := wood.Clamps(s, wood.Glue{L: 1000, W: 400, T: 20, Outer: 80, Of: "white-oak"})
	assert.Equal(t, 1.2, c.Pressure)
	// By spacing: at most 160 apart over 1 000, so 8; by force: 1.2 × 20 000 = 24 kN of 4 kN each, so 6.
	assert.Equal(t, 8, c.Count)
	assert.LessOrEqual(t, c.Spacing, 160.0)
	assert.Equal(t, 6, c.Have, "spring clamps do not open so far")
	assert.Equal(t, 2, c.Short)
	assert.Equal(t, fmt.Sprintf("%d × %s", 2, "Bar clamp 1200"), c.Which[0])
}

// BenchmarkFindAmongTwoThousand pieces, the stock being read as well.
func BenchmarkFindAmongTwoThousand(b *testing.B) {
	s := &shop.Shop{}
	rng := rand.New(rand.NewPCG(1, 1))
	for i := range 2000 {
		s.Items = append(s.Items, shop.Item{ID: fmt.Sprint(i), Name: "board", W: length.MM(float64(200 + rng.IntN(3000))), H: length.MM(25), D: length.MM(float64(30 + rng.IntN(200))), Wood: &shop.Wood{Of: "ash", Form: "board"}})
	}
	for b.Loop() {
		st, err := wood.Of(s, day)
		require.NoError(b, err)
		require.NotEmpty(b, st.Find(wood.Wish{L: 800, W: 90, T: 22, Kerf: 3}))
	}
}

// What is too heavy for one person is said so until the cuts have made it lighter, and where there is room for it.
func TestHeavySheetsAreBrokenDownWhereThereIsRoom(t *testing.T) {
	s := slipway(t)
	parts := []cutting.Part{{Name: "side", Count: 4, L: 720, W: 560, T: 18, Material: "mdf", Grain: cutting.Whatever}, {Name: "top", Count: 1, L: 1400, W: 560, T: 18, Material: "mdf", Grain: cutting.Whatever}}
	stock := []cutting.Stock{{Name: "new", Count: -1, L: 2440, W: 1220, T: 18, Material: "mdf"}}
	plan, err := cutting.Of(parts, stock, cutting.Options{Kerf: 3.2, Rounds: 3})
	require.NoError(t, err)
	heavy := wood.Handling(s, plan, map[string]cutting.Stock{"new": stock[0]})
	require.Len(t, heavy, 1)
	h := heavy[0]
	mdf, err := load.WoodByID("mdf")
	require.NoError(t, err)
	assert.InDelta(t, 2.44*1.22*.018*mdf.Density, h.KG, .01)
	assert.Positive(t, h.Cuts)
	assert.LessOrEqual(t, h.After, h.Most)
	for i, name := range append([]string{""}, h.Modes...) {
		id := ""
		for k := range s.Modes {
			if s.Modes[k].Name == name {
				id = s.Modes[k].ID
			}
		}
		l, err := mode.Of(s, id, s.Areas[0].ID)
		require.NoError(t, err)
		room := max(l.Open.W, l.Open.D) >= h.Long && min(l.Open.W, l.Open.D) >= h.Wide
		assert.Equal(t, i > 0 || h.Here, room, "%q", name)
	}
	// Each piece in the hand is within the one it came from.
	for i := range plan.Pieces {
		hand := plan.Pieces[i].InHand(plan.Kerf)
		require.Len(t, hand, len(plan.Pieces[i].Cuts)+1)
		for n := 1; n < len(hand); n++ {
			assert.LessOrEqual(t, hand[n], hand[n-1])
		}
	}
	s.Settings.People[0].Lifts = weight.KG(6)
	again := wood.Handling(s, plan, map[string]cutting.Stock{"new": stock[0]})
	assert.GreaterOrEqual(t, again[0].Cuts, h.Cuts, "who lifts less cuts more first")
	assert.InDelta(t, 6, again[0].Most, 1e-9)
}
