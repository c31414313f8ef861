package load_test

import (
	"math"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"hobrak/internal/core/load"
	"hobrak/internal/core/shop"
)

// A No 10 screw (4.83 mm) through 19 mm of pine into a stud, 38 mm of thread.
var ten = load.Screw{D: 4.826, Root: 3.861, Thread: 38.1, Side: 19.05, SideG: .42, StudG: .42}

func TestTheWorkedExampleOfWithdrawal(t *testing.T) {
	// By hand: 2850 × 0.42² × 0.19 in = 95.5 lb an inch; 1.5 in: 143.3 lb = 637 N.
	n, err := ten.Withdrawal()
	require.NoError(t, err)
	assert.InEpsilon(t, 637.4, n, .001)
}

// The closed formulas of NDS table 12.3.1A, with k1, k2, k3, are another way to
// the same figures as the general dowel equations.
func closed(s load.Screw) map[string]float64 {
	d := s.Root / 25.4
	fem, fes := 16600*math.Pow(s.StudG, 1.84), 16600*math.Pow(s.SideG, 1.84)
	fyb := 80_000.0
	rd := 2.2
	if d > .17 {
		rd = 10*d + .5
	}
	lm, ls := s.Thread/25.4, s.Side/25.4
	re, rt := fem/fes, lm/ls
	k1 := (math.Sqrt(re+2*re*re*(1+rt+rt*rt)+rt*rt*re*re*re) - re*(1+rt)) / (1 + re)
	k2 := -1 + math.Sqrt(2*(1+re)+2*fyb*(1+2*re)*d*d/(3*fem*lm*lm))
	k3 := -1 + math.Sqrt(2*(1+re)/re+2*fyb*(2+re)*d*d/(3*fem*ls*ls))
	lb := map[string]float64{
		"Im": d * lm * fem, "Is": d * ls * fes, "II": k1 * d * ls * fes,
		"IIIm": k2 * d * lm * fem / (1 + 2*re), "IIIs": k3 * d * ls * fem / (2 + re),
		"IV": d * d * math.Sqrt(2*fem*fyb/(3*(1+re))),
	}
	for k := range lb {
		lb[k] *= 4.4482216 / rd
	}
	return lb
}

func TestLateralAgreesWithTheClosedFormulas(t *testing.T) {
	for _, s := range []load.Screw{ten, {D: 4.826, Root: 3.861, Thread: 60, Side: 12, SideG: .62, StudG: .42}, {D: 5.5, Root: 4.4, Thread: 45, Side: 38, SideG: .35, StudG: .51}} {
		got, err := s.Lateral()
		require.NoError(t, err)
		want := closed(s)
		low := math.Inf(1)
		for _, m := range got.Modes {
			assert.InEpsilon(t, want[m.Name], m.N, .005, m.Name)
			low = min(low, want[m.Name])
		}
		assert.InEpsilon(t, low, got.N, .005)
	}
	got, _ := ten.Lateral()
	// By hand: IV = 0.152² √(2 × 3364 × 80000 / (3 × 2)) / 2.2 = 99.5 lb; IIIs is lower.
	assert.Equal(t, "IIIs", got.Limit)
	assert.InDelta(t, 23.2, got.BearingM, .1)
}

func TestCombinedLiesBetweenPullAndShear(t *testing.T) {
	assert.InDelta(t, 300, load.Combined(600, 300, 0), 1e-9, "sideways only")
	assert.InDelta(t, 600, load.Combined(600, 300, 90), 1e-9, "outwards only")
	rapid.Check(t, func(t *rapid.T) {
		w, z := rapid.Float64Range(50, 2000).Draw(t, "w"), rapid.Float64Range(50, 2000).Draw(t, "z")
		c := load.Combined(w, z, rapid.Float64Range(0, 90).Draw(t, "deg"))
		if c < min(w, z)-1e-6 || c > max(w, z)+1e-6 {
			t.Fatalf("%g is not between %g and %g", c, w, z)
		}
	})
}

func TestARailCarriesWhatItsScrewsInStudsDo(t *testing.T) {
	h := load.Hung{Screw: ten, Screws: 6, KG: 60, Out: 120, Lever: 300, Studded: true}
	v, err := h.Judge()
	require.NoError(t, err)
	require.True(t, v.Rated)
	// Shear 98 N and pull 39 N on a screw; at the load it may carry, both grow alike.
	assert.InDelta(t, 98.07, v.Shear, .01)
	assert.InDelta(t, 39.23, v.Pull, .01)
	assert.InDelta(t, math.Atan(.4)*180/math.Pi, v.Angle, 1e-9)
	assert.InEpsilon(t, v.Combined, math.Hypot(v.Shear, v.Pull)/v.Use, 1e-9)
	twice := h
	twice.Screws = 12
	v2, _ := twice.Judge()
	assert.InEpsilon(t, 2*v.KG, v2.KG, 1e-9)
	far := h
	far.Out = 400
	v3, _ := far.Judge()
	assert.Less(t, v3.KG, v.KG, "farther out it carries less")
}

func TestNoNumberIsInventedWhereNoneIsKnown(t *testing.T) {
	v, err := load.Hung{Screw: ten, Screws: 4, KG: 10, Out: 100, Lever: 200}.Judge()
	require.NoError(t, err)
	assert.False(t, v.Rated)
	assert.Contains(t, v.Why, "not rated")
	assert.Zero(t, v.KG)
	v, err = load.Hung{Screw: ten, KG: 10, Lever: 200, Studded: true}.Judge()
	require.NoError(t, err)
	assert.Contains(t, v.Why, "no screw hits a stud")
	v, err = load.Hung{KG: 10, Rating: 40}.Judge()
	require.NoError(t, err)
	assert.Equal(t, [2]float64{40, .25}, [2]float64{v.KG, v.Use}, "what the maker states wins")
}

func TestScrewsThatCannotBeAreRefused(t *testing.T) {
	for _, c := range []struct {
		s    load.Screw
		says string
	}{
		{load.Screw{D: 40, Thread: 300, Side: 19}, "diameter"}, {load.Screw{D: 5, Thread: 0, Side: 19}, "thread in the stud"}, {load.Screw{D: 5, Thread: 20, Side: 19}, "too short"},
		{load.Screw{D: 5, Thread: 40, Side: 0}, "how thick"}, {load.Screw{D: 5, Thread: 40, Side: 19, StudG: 3}, "specific gravity"}, {load.Screw{D: 5, Root: 6, Thread: 40, Side: 19}, "root"},
	} {
		_, err := c.s.Lateral()
		assert.ErrorContains(t, err, c.says)
	}
	_, err := load.Hung{Screw: ten, Screws: 2, KG: 5, Studded: true}.Judge()
	assert.ErrorContains(t, err, "bears on below")
	_, err = load.Hung{KG: -1}.Judge()
	assert.Error(t, err)
}

func wood(t *testing.T, id string) load.Wood {
	w, err := load.WoodByID(id)
	require.NoError(t, err)
	return w
}

func TestTheWorkedExampleOfAShelf(t *testing.T) {
	// Plywood 18 × 300 over 900 mm, 30 kg: I = 145 800 mm⁴, own 2.92 kg, w = .3587 N/mm; δ = 5 × .3587 × 900⁴ / (384 × 7000 × 145800) = 3.00 mm.
	b := load.Board{Span: 900, B: 300, T: 18, Wood: wood(t, "plywood")}
	assert.InDelta(t, 145_800, b.Inertia(), 1e-6)
	sag, err := b.Sag(30)
	require.NoError(t, err)
	assert.InEpsilon(t, 3.00, sag, .005)
	most, err := b.Most()
	require.NoError(t, err)
	at, _ := b.Sag(most)
	assert.InEpsilon(t, 900./600, at, 1e-6, "at the most it may carry the sag is the limit")
	strip := b
	strip.Strips, strip.StripT, strip.StripH = 1, 18, 50
	less, _ := strip.Sag(30)
	assert.Less(t, less, sag, "a strip along the edge stiffens it")
}

// The same sag by adding up small pieces of the curve, which is another way to it.
func TestSagAgreesWithIntegratingTheCurve(t *testing.T) {
	b := load.Board{Span: 1200, B: 250, T: 22, Wood: wood(t, "ash")}
	const kg, n = 40.0, 4000
	w := (kg + b.Own()) * 9.80665 / b.Span
	ei := b.Wood.E * 1e3 * b.Inertia()
	h := b.Span / n
	// y'' = -M/EI with M = w x (L - x) / 2, y = 0 at both ends.
	slope, y := 0.0, 0.0
	mid := 0.0
	ends := 0.0
	for i := range n {
		x := (float64(i) + .5) * h
		y += slope * h
		slope += -w * x * (b.Span - x) / 2 / ei * h
		if i == n/2-1 {
			mid = y
		}
		ends = y
	}
	want := mid - ends/2 // taking the chord off
	sag, err := b.Sag(kg)
	require.NoError(t, err)
	assert.InEpsilon(t, math.Abs(want), sag, .005)
}

func TestSpansAndRefusals(t *testing.T) {
	b := load.Board{B: 100, T: 20, Wood: wood(t, "white-pine")}
	span, err := b.Widest(5, 1./500)
	require.NoError(t, err)
	b.Span = span
	sag, err := b.Sag(5 * span / 1000)
	require.NoError(t, err)
	assert.InEpsilon(t, span/500, sag, 1e-6)
	_, err = load.Board{Span: -1, B: 1, T: 1, Wood: b.Wood}.Sag(1)
	assert.ErrorContains(t, err, "span")
	_, err = b.Sag(-4)
	assert.ErrorContains(t, err, "below 0")
	_, err = load.WoodByID("cheese")
	assert.ErrorContains(t, err, "there are stud, red-oak")
}

func TestTheWorkedExampleOfACart(t *testing.T) {
	// Track 500, centre of mass 900 high and 50 off: atan(200/900) = 12.53°, less a fall of 10 mm/m (0.57°).
	a, err := load.Cart{Track: 500, Offset: -50, Height: 900, Fall: 10}.Angle()
	require.NoError(t, err)
	assert.InDelta(t, 11.96, a, .01)
	_, err = load.Cart{Track: 0, Height: 1}.Angle()
	assert.Error(t, err)
}

func TestEveryWoodOfAShopFileHasFigures(t *testing.T) {
	var known []string
	for _, w := range load.Woods {
		known = append(known, w.ID)
	}
	assert.Equal(t, shop.Choices[shop.Board]("wood"), known)
}
