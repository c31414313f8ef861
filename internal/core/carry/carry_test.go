package carry_test

import (
	"math"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"hobrak/demo"
	"hobrak/internal/core/carry"
	"hobrak/internal/core/length"
	"hobrak/internal/core/load"
	"hobrak/internal/core/quantity"
	"hobrak/internal/core/shop"
	"hobrak/internal/core/weight"
)

func mm(x float64) length.Length { return length.MM(x) }

// stock of one rack, 3 m long with 4 arms a level, and what lies on it.
func rack(items []shop.Item, homes []shop.Home) (carry.Stock, *shop.Place) {
	p := &shop.Place{ID: "R", Kind: "arms", W: mm(3000), H: mm(600), D: mm(300), Arms: 4, Levels: []shop.Level{{Z: 0, H: mm(250)}, {Z: mm(300), H: mm(250)}}}
	return carry.Stock{Places: []shop.Place{*p}, Homes: homes, Item: func(id string) *shop.Item {
		for i := range items {
			if items[i].ID == id {
				return &items[i]
			}
		}
		return nil
	}}, p
}

func TestARackSaysWhatEachArmCarriesAndWhatComesOffFirst(t *testing.T) {
	// Three planks of 4.2 m side by side, and a short board on the first of them.
	k, p := rack([]shop.Item{
		{ID: "plank", Name: "Larch plank", W: mm(4200), D: mm(90), H: mm(25), Count: 3, KG: weight.KG(5)},
		{ID: "short", Name: "Lath", W: mm(3000), D: mm(90), H: mm(20), KG: weight.KG(3)},
	}, []shop.Home{{Item: "plank", Place: "R", Cols: 3}, {Item: "short", Place: "R", Z: mm(25)}})
	r := k.Rack(p)
	assert.Equal(t, 4, r.Arms)
	assert.InDelta(t, 1000, r.Field, 1e-9)
	l := r.Levels[0]
	assert.InDelta(t, 18, l.KG, 1e-9)
	// Worked by hand. Planks: an outer arm carries 500 + 600 of 4200 mm, an inner one
	// 1000 of 4200. Lath: 500 and 1000 of 3000.
	outer, inner := 15*1100.0/4200+3*500.0/3000, 15*1000.0/4200+3*1000.0/3000
	assert.InDelta(t, math.Max(outer, inner), l.Worst, 1e-9)
	assert.False(t, l.End, "%.2f on an outer arm, %.2f on an inner one", outer, inner)
	assert.InDelta(t, inner, r.Upright, 1e-9)

	plank, lath := l.Boards[0], l.Boards[1]
	assert.Equal(t, "plank", plank.Item.ID, "what lies lowest comes first")
	assert.InDelta(t, 600, plank.Overhang, 1e-9)
	assert.InDelta(t, 600, plank.Most, 1e-9)
	assert.Equal(t, "larch", plank.Wood.ID)
	assert.False(t, plank.Assumed)
	assert.Equal(t, 1, plank.Above)
	assert.InDelta(t, 3, plank.AboveKG, 1e-9)
	assert.Equal(t, 0, lath.Above)
	assert.Equal(t, "white-pine", lath.Wood.ID)
	assert.True(t, lath.Assumed)
	// δ = 5 w L⁴ / 384 E I with w = ρ b t g: the width falls out.
	w := .52 * 1120 * 1e-9 * 25 * 9.80665
	assert.InEpsilon(t, 5*w*1e12/(384*12900*math.Pow(25, 3)/12), plank.Sag, .001)

	p.Arms = 0
	n, counted := carry.ArmsOf(p)
	assert.Equal(t, 5, n, "one every 800 mm over 3 m")
	assert.False(t, counted)
}

func TestTheArmsOfALevelTogetherCarryItsBoards(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		run, n := rapid.Float64Range(500, 6000).Draw(t, "run"), rapid.IntRange(2, 12).Draw(t, "arms")
		board := run + rapid.Float64Range(0, 1200).Draw(t, "past the arms")
		outer, inner := carry.ArmLoads(board, run, n)
		assert.InDelta(t, 1, 2*outer+float64(n-2)*inner, 1e-9)
	})
}

func TestScrewsAreJudgedOnlyWhenAllIsKnownOfThem(t *testing.T) {
	held := carry.Held{KG: 40, Out: 150, Up: 200}
	f := shop.Fixing{Screws: 6, D: mm(5), Thread: mm(40), Side: mm(18), Lever: mm(300)}
	v := carry.Screwed(&f, 0, "plywood", held)
	require.True(t, v.Rated)
	want, err := load.Hung{Screw: load.Screw{D: 5, Thread: 40, Side: 18}, Screws: 6, KG: 40, Out: 150, Lever: 300, Studded: true}.Judge()
	require.NoError(t, err)
	assert.InDelta(t, want.KG, v.KG, 1e-9)

	for what, spoil := range map[string]func(*shop.Fixing){
		"how many screws": func(f *shop.Fixing) { f.Screws = 0 },
		"the diameter":    func(f *shop.Fixing) { f.D = 0 },
		"how much thread": func(f *shop.Fixing) { f.Thread = 0 },
		"how thick":       func(f *shop.Fixing) { f.Side = 0 },
		"how high":        func(f *shop.Fixing) { f.Lever = 0 },
		"too short":       func(f *shop.Fixing) { f.Thread = mm(10) },
	} {
		g := f
		spoil(&g)
		v := carry.Screwed(&g, 0, "drywall", held)
		assert.False(t, v.Rated)
		assert.Zero(t, v.KG)
		assert.Contains(t, v.Why, what)
	}
	for _, surface := range []string{"brick", "block", "concrete", "sheet-metal"} {
		assert.False(t, carry.Screwed(&f, 0, surface, held).Rated, surface)
		assert.True(t, carry.Screwed(nil, 80, surface, held).Rated, "a rating wins on %s", surface)
	}
	assert.Contains(t, carry.Screwed(nil, 0, "plywood", held).Why, "not said")
}

func TestTheCentreOfMassOfACaseIsThatOfItsParts(t *testing.T) {
	it := shop.Item{ID: "iron", W: mm(100), H: mm(100), D: mm(100), KG: weight.KG(30)}
	c := shop.Container{ID: "K", Kind: "cart", W: mm(600), H: mm(1000), D: mm(500), KG: weight.KG(10), At: shop.At{Floor: &shop.Point{}}}
	tote := shop.Container{ID: "T", Kind: "tote", W: mm(300), H: mm(200), D: mm(300), KG: weight.KG(2), At: shop.At{In: "K-1", X: mm(200)}}
	shelf := shop.Place{ID: "K-1", Kind: "shelf", At: shop.At{In: "K", Z: mm(700)}, W: mm(560), H: mm(280), D: mm(480)}
	k := carry.Stock{Containers: []shop.Container{c, tote}, Places: []shop.Place{shelf}, Homes: []shop.Home{{Item: "iron", Place: "K-1"}}, Item: func(string) *shop.Item { return &it }}
	got := k.Container(&c)
	assert.InDelta(t, 42, got.KG, 1e-9)
	assert.InDelta(t, (10*500+30*750+2*800)/42.0, got.Up, 1e-9)
	a, err := k.TiltOn(&c, nil)
	require.NoError(t, err)
	want, err := load.Cart{Track: 440, Height: got.Up}.Angle()
	require.NoError(t, err)
	assert.InDelta(t, want, a, 1e-9)
	sloping := shop.Area{Floor: &shop.Floor{Fall: &shop.Fall{MMPerM: 20}}}
	b, err := k.TiltOn(&c, &sloping)
	require.NoError(t, err)
	assert.InDelta(t, math.Atan(.02)*180/math.Pi, a-b, 1e-9)
	assert.Greater(t, carry.Own(&shop.Container{W: mm(600), H: mm(1000), D: mm(500)}), 15.0, "not said: a case of plywood")
}

func TestAShelfIsCalculatedOfWhatItIsMadeOf(t *testing.T) {
	p := shop.Place{Kind: "shelf", W: mm(900), D: mm(300), H: mm(300)}
	plain, err := carry.Shelf(&p, 30)
	require.NoError(t, err)
	assert.True(t, plain.Assumed)
	assert.InDelta(t, 3.0, plain.Sag, .01)
	assert.InDelta(t, 1.5, plain.Limit, 1e-9)
	p.Board = &shop.Board{Wood: "ash", T: mm(25), Strip: mm(40)}
	stiff, err := carry.Shelf(&p, 30)
	require.NoError(t, err)
	assert.False(t, stiff.Assumed)
	assert.Less(t, stiff.Sag, plain.Sag/4)
	assert.Contains(t, quantity.Metric(stiff.What(30)), "under 30.0 kg")
}

func TestEveryWoodOfTheFormatIsKnown(t *testing.T) {
	s, err := shop.Read(demo.Slipway)
	require.NoError(t, err)
	for _, w := range load.Woods {
		// The format takes it, and it can be calculated with.
		for i := range s.Places {
			if s.Places[i].Kind == "shelf" {
				s.Places[i].Board = &shop.Board{Wood: w.ID, T: mm(18)}
			}
		}
		_, err := shop.Read(shop.Write(s))
		require.NoError(t, err, w.ID)
		_, err = carry.Shelf(&shop.Place{W: mm(500), D: mm(200), Board: &shop.Board{Wood: w.ID, T: mm(18)}}, 1)
		require.NoError(t, err)
	}
	_, err = carry.Shelf(&shop.Place{W: mm(500), D: mm(200), Board: &shop.Board{Wood: "cheese", T: mm(18)}}, 1)
	assert.ErrorContains(t, err, "cheese")
}
