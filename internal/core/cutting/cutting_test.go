package cutting_test

import (
	"fmt"
	"math"
	"math/rand/v2"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"hobrak/internal/core/cutting"
)

// sawn follows the cuts of each piece by themselves, as somebody at the saw: each goes right through a piece that is there, takes its
// kerf, and in the end every part is one of the pieces, at its size, with its grain; nothing is cut twice and counts are right.
func sawn(t require.TestingT, parts []cutting.Part, stock []cutting.Stock, o cutting.Options, p *cutting.Plan) {
	type piece struct{ x, y, l, w float64 }
	got, used := map[string]int{}, map[string]int{}
	byName := map[string]cutting.Part{}
	for _, x := range parts {
		byName[x.Name] = x
	}
	for _, s := range p.Pieces {
		var st *cutting.Stock
		for i := range stock {
			if stock[i].Name == s.Stock {
				st = &stock[i]
			}
		}
		require.NotNil(t, st, s.Stock)
		used[s.Stock]++
		hand := map[int]piece{0: {o.Trim, o.Trim, st.L - 2*o.Trim, st.W - 2*o.Trim}}
		for i, c := range s.Cuts {
			require.Equal(t, i+1, c.N)
			from, ok := hand[c.Of]
			require.True(t, ok, "cut %d is of a piece that is not there", c.N)
			delete(hand, c.Of)
			a, b := from, from
			if c.Along == "l" {
				a.w, b.y, b.w = c.At, from.y+c.At+o.Kerf, from.w-c.At-o.Kerf
			} else {
				a.l, b.x, b.l = c.At, from.x+c.At+o.Kerf, from.l-c.At-o.Kerf
			}
			require.Greater(t, c.At, -1e-6)
			require.LessOrEqual(t, c.At, max(from.w, from.l)+1e-6)
			hand[c.Gives[0]], hand[c.Gives[1]] = a, b
		}
		taken := map[int]bool{}
		find := func(x, y, l, w float64) bool {
			for id, q := range hand {
				if !taken[id] && math.Abs(q.x-x)+math.Abs(q.y-y)+math.Abs(q.l-l)+math.Abs(q.w-w) < .02 {
					taken[id] = true
					return true
				}
			}
			return false
		}
		for _, x := range s.Parts {
			want := byName[x.Part]
			l, w := want.L, want.W
			if x.Turned {
				l, w = w, l
				require.NotEqual(t, cutting.AlongL, want.Grain, x.Part)
			} else {
				require.NotEqual(t, cutting.AlongW, want.Grain, x.Part)
			}
			require.InDelta(t, l, x.L, .01)
			require.InDelta(t, w, x.W, .01)
			require.InDelta(t, st.T, want.T, .05)
			require.Equal(t, st.Material, want.Material)
			require.True(t, find(x.X, x.Y, x.L, x.W), "%s at %g %g of %s is no piece that was cut", x.Part, x.X, x.Y, s.Stock)
			got[x.Part]++
		}
		for _, x := range s.Offcuts {
			require.True(t, find(x.X, x.Y, x.L, x.W), "an offcut that was not cut")
		}
	}
	for _, name := range p.Unplaced {
		got[name]++
	}
	for _, x := range parts {
		require.Equal(t, x.Count, got[x.Name], x.Name)
	}
	for _, s := range stock {
		if s.Count >= 0 {
			require.LessOrEqual(t, used[s.Name], s.Count, s.Name)
		}
	}
	require.LessOrEqual(t, p.Bound, p.Used+1e-9)
}

func TestPlansCanBeSawn(t *testing.T) {
	plans, placed := 0, 0
	rapid.Check(t, func(t *rapid.T) {
		mm := func(name string, low, high int) float64 { return float64(rapid.IntRange(low, high).Draw(t, name)) }
		materials := []string{"ply", "oak"}
		var parts []cutting.Part
		for i := range rapid.IntRange(1, 8).Draw(t, "kinds") {
			parts = append(parts, cutting.Part{Name: fmt.Sprintf("p%d", i), Count: rapid.IntRange(1, 6).Draw(t, "n"), L: mm("l", 10, 1500), W: mm("w", 10, 700) + float64(rapid.IntRange(0, 1).Draw(t, "half"))/2,
				T: rapid.SampledFrom([]float64{9, 18}).Draw(t, "t"), Material: rapid.SampledFrom(materials).Draw(t, "of"), Grain: rapid.SampledFrom([]cutting.Grain{cutting.AlongL, cutting.AlongW, cutting.Whatever, ""}).Draw(t, "grain")})
		}
		var stock []cutting.Stock
		for i := range rapid.IntRange(0, 7).Draw(t, "stocks") {
			stock = append(stock, cutting.Stock{Name: fmt.Sprintf("s%d", i), Count: rapid.IntRange(-1, 3).Draw(t, "there"), L: mm("sl", 30, 2500), W: mm("sw", 30, 1250), T: rapid.SampledFrom([]float64{9, 18}).Draw(t, "st"), Material: rapid.SampledFrom(materials).Draw(t, "sof"), Price: mm("price", 0, 50)})
		}
		o := cutting.Options{Kerf: rapid.SampledFrom([]float64{0, 1, 3.2}).Draw(t, "kerf"), Trim: rapid.SampledFrom([]float64{0, 0, 5}).Draw(t, "trim"), Rounds: 4, Seed: 1,
			Goal: rapid.SampledFrom([]string{"", cutting.FewestCuts, cutting.FewestNew, cutting.SmallestOne}).Draw(t, "goal")}
		p, err := cutting.Of(parts, stock, o)
		require.NoError(t, err)
		sawn(t, parts, stock, o, p)
		plans++
		for _, x := range p.Pieces {
			placed += len(x.Parts)
		}
	})
	t.Logf("%d plans, %d parts", plans, placed)
	assert.Positive(t, placed)
}

// within so many seconds from now.
func within(seconds float64) func() float64 {
	began := time.Now()
	return func() float64 { return time.Since(began).Seconds() / seconds }
}

func TestWhatIsWrongIsSaid(t *testing.T) {
	good := cutting.Part{Name: "side", Count: 1, L: 700, W: 300, T: 18, Material: "ply"}
	sheet := cutting.Stock{Name: "sheet", Count: 1, L: 2440, W: 1220, T: 18, Material: "ply"}
	for says, change := range map[string]func(*cutting.Part, *cutting.Stock, *cutting.Options){
		"at least 1":         func(p *cutting.Part, _ *cutting.Stock, _ *cutting.Options) { p.Count = 0 },
		"are millimetres":    func(p *cutting.Part, _ *cutting.Stock, _ *cutting.Options) { p.W = -3 },
		"it is l, w or none": func(p *cutting.Part, _ *cutting.Stock, _ *cutting.Options) { p.Grain = "x" },
		"leave it empty":     func(_ *cutting.Part, s *cutting.Stock, _ *cutting.Options) { s.Count = -2 },
		"a kerf":             func(_ *cutting.Part, _ *cutting.Stock, o *cutting.Options) { o.Kerf = math.NaN() },
		"a trim":             func(_ *cutting.Part, _ *cutting.Stock, o *cutting.Options) { o.Trim = -1 },
	} {
		p, s, o := good, sheet, cutting.Options{Kerf: 3}
		change(&p, &s, &o)
		_, err := cutting.Of([]cutting.Part{p}, []cutting.Stock{s}, o)
		assert.ErrorContains(t, err, says)
	}
	p := good
	p.L = 3000
	plan, err := cutting.Of([]cutting.Part{p}, []cutting.Stock{sheet}, cutting.Options{})
	require.NoError(t, err)
	assert.Equal(t, []string{"side"}, plan.Unplaced, "larger than any stock")
}

// sheets are parts in some kinds, two sizes of sheet that may be bought and offcuts.
func sheets(seed uint64) ([]cutting.Part, []cutting.Stock) {
	rng := rand.New(rand.NewPCG(seed, 3))
	var parts []cutting.Part
	for i := range 10 {
		parts = append(parts, cutting.Part{Name: fmt.Sprintf("p%d", i), Count: 5, L: float64(200 + rng.IntN(900)), W: float64(100 + rng.IntN(500)), T: 18, Material: "ply", Grain: []cutting.Grain{cutting.AlongL, cutting.Whatever}[rng.IntN(2)]})
	}
	stock := []cutting.Stock{{Name: "full", Count: -1, L: 2440, W: 1220, T: 18, Material: "ply"}, {Name: "half", Count: -1, L: 1220, W: 1220, T: 18, Material: "ply"}}
	for i := range 10 {
		stock = append(stock, cutting.Stock{Name: fmt.Sprintf("offcut %d", i), Count: 1, L: float64(300 + rng.IntN(900)), W: float64(200 + rng.IntN(500)), T: 18, Material: "ply"})
	}
	return parts, stock
}

// BenchmarkSheets cuts fifty parts in ten kinds from two sizes of sheet and ten offcuts, mean of twenty seeds: how far from the bound.
func BenchmarkSheets(b *testing.B) {
	gap, raw, n := 0.0, 0.0, 0
	for seed := range uint64(20) {
		parts, stock := sheets(seed)
		o := cutting.Options{Kerf: 3.2, Spent: within(5), Seed: seed}
		p, err := cutting.Of(parts, stock, o)
		require.NoError(b, err)
		sawn(b, parts, stock, o, p)
		gap += p.Gap
		raw += p.Area / p.Stocked
		n++
		b.Logf("seed %d: used %.3f, bound %.3f, gap %.2f %%, filled %.1f %%", seed, p.Used, p.Bound, 100*p.Gap, 100*p.Area/p.Stocked)
	}
	b.ReportMetric(100*gap/float64(n), "gap-%")
	b.ReportMetric(100*raw/float64(n), "filled-%")
}

// wasteFree is a sheet that was cut up into parts without waste.
func wasteFree(seed uint64, n int, kerf float64) ([]cutting.Part, []cutting.Stock) {
	rng := rand.New(rand.NewPCG(seed, 4))
	type rect struct{ l, w float64 }
	list := []rect{{2440 + kerf, 1220 + kerf}}
	for len(list) < n {
		// The largest, or nearly, is cut once more.
		at := 0
		for i := range list {
			if list[i].l*list[i].w*(1+.5*rng.Float64()) > list[at].l*list[at].w {
				at = i
			}
		}
		r := list[at]
		if r.l > r.w {
			x := math.Round(r.l * (.2 + .6*rng.Float64()))
			list[at] = rect{x, r.w}
			list = append(list, rect{r.l - x, r.w})
		} else {
			x := math.Round(r.w * (.2 + .6*rng.Float64()))
			list[at] = rect{r.l, x}
			list = append(list, rect{r.l, r.w - x})
		}
	}
	var parts []cutting.Part
	for i, r := range list {
		l, w := r.l-kerf, r.w-kerf
		if rng.IntN(2) == 0 {
			l, w = w, l
		}
		parts = append(parts, cutting.Part{Name: fmt.Sprintf("p%d", i), Count: 1, L: l, W: w, T: 18, Material: "ply", Grain: cutting.Whatever})
	}
	return parts, []cutting.Stock{{Name: "sheet", Count: 1, L: 2440, W: 1220, T: 18, Material: "ply"}}
}

// BenchmarkWasteFree puts back what was cut without waste.
func BenchmarkWasteFree(b *testing.B) {
	back, n := 0.0, 0
	for seed := range uint64(10) {
		parts, stock := wasteFree(seed, 40, 3)
		o := cutting.Options{Kerf: 3, Spent: within(5), Seed: seed}
		p, err := cutting.Of(parts, stock, o)
		require.NoError(b, err)
		sawn(b, parts, stock, o, p)
		all := 0.0
		for _, x := range parts {
			all += x.L * x.W / 1e6
		}
		b.Logf("seed %d: %.1f %% back, %d left", seed, 100*p.Area/all, len(p.Unplaced))
		back += p.Area / all
		n++
	}
	b.ReportMetric(100*back/float64(n), "back-%")
}

// boards are many parts out of boards each of its own length and width.
func boards(seed uint64) ([]cutting.Part, []cutting.Stock) {
	rng := rand.New(rand.NewPCG(seed, 5))
	var parts []cutting.Part
	for i := range 30 {
		parts = append(parts, cutting.Part{Name: fmt.Sprintf("p%d", i), Count: 4, L: float64(250 + rng.IntN(900)), W: float64(40 + rng.IntN(80)), T: 25, Material: "ash", Grain: cutting.AlongL})
	}
	var stock []cutting.Stock
	for i := range 40 {
		stock = append(stock, cutting.Stock{Name: fmt.Sprintf("b%d", i), Count: 1, L: float64(1800 + rng.IntN(1800)), W: float64(120 + rng.IntN(140)), T: 25, Material: "ash"})
	}
	return parts, stock
}

// What is exactly as large as its stock, or fills it to the tenth of a millimetre, is cut from it.
func TestWhatFillsItsStockExactlyIsCutFromIt(t *testing.T) {
	stock := []cutting.Stock{{Name: "sheet", Count: -1, L: 2440, W: 1220, T: 18, Material: "ply"}}
	parts := []cutting.Part{{Name: "whole", Count: 3, L: 2440, W: 1220, T: 18, Material: "ply", Grain: cutting.Whatever}}
	o := cutting.Options{Kerf: 3.2, Rounds: 3}
	p, err := cutting.Of(parts, stock, o)
	require.NoError(t, err)
	assert.Len(t, p.Pieces, 3)
	assert.Empty(t, p.Unplaced)
	for seed := range uint64(3) {
		parts, stock := usedUp(seed, 3)
		o := cutting.Options{Kerf: 3, Rounds: 40, Seed: seed}
		p, err := cutting.Of(parts[:60], stock, o)
		require.NoError(t, err)
		sawn(t, parts[:60], stock, o, p)
		assert.Empty(t, p.Unplaced)
	}
}

// usedUp is 40 boards that were cut into 120 parts without any waste: crosscut and ripped, or the other way about, the kerf counted.
func usedUp(seed uint64, kerf float64) ([]cutting.Part, []cutting.Stock) {
	rng := rand.New(rand.NewPCG(seed, 8))
	var parts []cutting.Part
	var stock []cutting.Stock
	part := func(l, w float64) {
		parts = append(parts, cutting.Part{Name: fmt.Sprintf("p%d", len(parts)), Count: 1, L: l, W: w, T: 25, Material: "ash", Grain: cutting.AlongL})
	}
	for i := range 40 {
		l, w := float64(1500+rng.IntN(2000)), float64(120+rng.IntN(140))
		stock = append(stock, cutting.Stock{Name: fmt.Sprintf("b%d", i), Count: 1, L: l, W: w, T: 25, Material: "ash"})
		at := func(whole float64) float64 { return math.Round(whole * (.25 + .5*rng.Float64())) }
		if x := at(l); rng.IntN(2) == 0 { // across, then one of the two along
			y := at(w)
			part(x-kerf, w)
			part(l-x, y-kerf)
			part(l-x, w-y)
		} else {
			y := at(w)
			part(l, y-kerf)
			part(x-kerf, w-y)
			part(l-x, w-y)
		}
	}
	rng.Shuffle(len(parts), func(i, k int) { parts[i], parts[k] = parts[k], parts[i] })
	return parts, stock
}

// BenchmarkBoardsUsedUp puts back what 40 boards were cut into: no plan can place more than all of it.
func BenchmarkBoardsUsedUp(b *testing.B) {
	back, n := 0.0, 0
	for seed := range uint64(5) {
		parts, stock := usedUp(seed, 3)
		o := cutting.Options{Kerf: 3, Spent: within(2), Seed: seed}
		p, err := cutting.Of(parts, stock, o)
		require.NoError(b, err)
		sawn(b, parts, stock, o, p)
		all := 0.0
		for _, x := range parts {
			all += x.L * x.W / 1e6
		}
		b.Logf("seed %d: %.2f %% back, %d left", seed, 100*p.Area/all, len(p.Unplaced))
		back += p.Area / all
		n++
	}
	b.ReportMetric(100*back/float64(n), "back-%")
}

// BenchmarkBoards cuts 120 parts from 40 boards in 2 s.
func BenchmarkBoards(b *testing.B) {
	gap, n := 0.0, 0
	for seed := range uint64(10) {
		parts, stock := boards(seed)
		o := cutting.Options{Kerf: 3.2, Spent: within(2), Seed: seed}
		p, err := cutting.Of(parts, stock, o)
		require.NoError(b, err)
		sawn(b, parts, stock, o, p)
		require.Empty(b, p.Unplaced)
		b.Logf("seed %d: used %.3f, bound %.3f, gap %.2f %%, filled %.1f %%", seed, p.Used, p.Bound, 100*p.Gap, 100*p.Area/p.Stocked)
		gap += p.Gap
		n++
	}
	b.ReportMetric(100*gap/float64(n), "gap-%")
}
