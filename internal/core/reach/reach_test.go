package reach_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"hobrak/internal/core/reach"
)

// owner is 1680 mm tall; the heights are worked out in docs/rules/reach.md.
var owner = reach.NewBody(1680, 250, nil)

func TestBodyOfAPersonOf1680(t *testing.T) {
	assert.InDelta(t, 1399.24, owner.Shoulder, .01)
	assert.InDelta(t, 658.36, owner.Fingertip, .01)
	assert.InDelta(t, 503.80, owner.Knee, .01)
	assert.InDelta(t, 648.48, owner.Arm, .01)
	assert.InDelta(t, 1100, reach.NewBody(1680, 250, map[string]float64{"elbow": 1075}).Elbow, .01, "measured overrides, shoes added")
}

func TestReachOverABench(t *testing.T) {
	// a = 648.48 + 250 = 898.48; √(898.48² − 650²) = 620.31
	w := owner.Over(reach.Obstacle{Depth: 650, Top: 880}, owner.Lean)
	require.True(t, w.OK)
	assert.InDelta(t, 1399.24+620.31, w.High, .02)
	assert.InDelta(t, 880, w.Low, .001, "not below the bench")
	assert.False(t, owner.Over(reach.Obstacle{Depth: 900}, owner.Lean).OK)
}

func TestBandsBeforeABareWall(t *testing.T) {
	z := owner.Zones(reach.Obstacle{}, 400)
	for height, want := range map[float64]reach.Band{
		100: reach.Kneel, 503: reach.Kneel, 600: reach.Bend, 659: reach.Easy, 1399: reach.Easy,
		1500: reach.Stretch, 2297: reach.Stretch, 2298: reach.Step, 2697: reach.Step, 2700: reach.Ladder,
	} {
		assert.Equal(t, want, z.At(height), "%v mm", height)
	}
}

func TestBandsOverABench(t *testing.T) {
	z := owner.Zones(reach.Obstacle{Depth: 650, Top: 880}, 400)
	assert.Equal(t, reach.OutOfReach, z.At(800), "behind the bench")
	assert.Equal(t, reach.Stretch, z.At(1200), "the arm alone is shorter than the bench is deep: it takes the lean")
	shallow := owner.Zones(reach.Obstacle{Depth: 400, Top: 880}, 400)
	assert.Equal(t, reach.Easy, shallow.At(1200), "√(648² − 400²) = 510 below the shoulder without leaning")
	assert.Equal(t, reach.Stretch, shallow.At(885), "below 889 it takes the lean")
}

func TestZonesAgreeWithTheirBreaks(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		b := reach.NewBody(rapid.Float64Range(900, 2200).Draw(t, "stature"), rapid.Float64Range(0, 400).Draw(t, "lean"), nil)
		z := b.Zones(reach.Obstacle{Depth: rapid.Float64Range(0, 1200).Draw(t, "depth"), Top: rapid.Float64Range(0, 1800).Draw(t, "top")}, 400)
		low := rapid.Float64Range(0, 3000).Draw(t, "low")
		high := low + rapid.Float64Range(0, 500).Draw(t, "more")
		crossed := false
		for _, x := range z.Breaks() {
			crossed = crossed || x >= low && x <= high
		}
		if !crossed && z.At(low) != z.At(high) {
			t.Fatalf("%v at %v, %v at %v, and no break between", z.At(low), low, z.At(high), high)
		}
	})
}

func TestLiftingByHand(t *testing.T) {
	// 23 · 25/40 · (1 − .003·75) · (.82 + 4.5/90) = 23 · .625 · .775 · .87 = 9.692 kg at V = 150, H = 40, D = 90.
	l := reach.Lift{FromHeight: 1500, FromReach: 400, ToHeight: 600, ToReach: 250}
	from, to := l.Limits()
	assert.InDelta(t, 9.692, from.Limit, .001)
	// 23 · 1 · (1 − .003·15) · .87 = 19.110 at V = 60, H = 25.
	assert.InDelta(t, 19.110, to.Limit, .001)
	assert.InDelta(t, 10/9.692, l.Index(10), .001)
}

func TestVerdicts(t *testing.T) {
	easy := reach.Lift{FromHeight: 900, FromReach: 300, ToHeight: 900, ToReach: 300}
	assert.Equal(t, reach.Verdict{}, easy.Judge(2.9), "the equation is not for small things")
	assert.False(t, easy.Judge(10).Caution)
	assert.True(t, easy.Judge(25).Caution)
	assert.True(t, easy.Judge(40).Barred)
	high := reach.Lift{FromHeight: 2000, FromReach: 300, ToHeight: 900, ToReach: 300}
	assert.True(t, high.Judge(4).Caution)
	assert.True(t, high.Judge(5.1).Barred)
	far := reach.Lift{FromHeight: 1000, FromReach: 700, ToHeight: 900, ToReach: 300}
	assert.True(t, far.Judge(4).Barred, "no weight is lifted 70 cm from the body")
	assert.Equal(t, reach.NoLimit, far.Index(4))
}

// What is never lifted is barred at each single height, and what is barred at each of many is never lifted.
func TestWhatIsNeverLiftedIsBarredAtEveryHeight(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		l := reach.Lift{FromReach: rapid.Float64Range(150, 700).Draw(t, "reach"), ToHeight: rapid.Float64Range(300, 1500).Draw(t, "to"), ToReach: rapid.Float64Range(200, 500).Draw(t, "to reach")}
		low := rapid.Float64Range(0, 2400).Draw(t, "low")
		high := low + rapid.Float64Range(0, 2000).Draw(t, "height")
		kg := rapid.Float64Range(1, 60).Draw(t, "kg")
		never, all := l.Never(kg, low, high), true
		for z := low; z <= high; z += 5 {
			at := l
			at.FromHeight = z
			barred := at.Judge(kg).Barred
			all = all && barred
			if never && !barred {
				t.Fatalf("never lifted, but from %.0f mm it is allowed", z)
			}
		}
		// Between two of the looked-at heights the limit changes by less than 2 %.
		if all && !l.Never(kg*1.02, low, high) {
			t.Fatal("barred everywhere, and still lifted")
		}
	})
}

func TestFetchingTimeByHand(t *testing.T) {
	// 2 m: 2·2000/(.43·1680)·17·.036 = 3.389; turns 1.339; drawer 2.5; bend 2.192;
	// search 1.5; grasp 52·.036 = 1.872. Together 12.792; back without the search 11.292.
	r := reach.Fetch(reach.Errand{Distance: 2000, Band: reach.Bend, Accesses: []reach.Access{"drawer"}, Search: reach.Labelled, Of: owner, Estimates: reach.DefaultEstimates()})
	assert.InDelta(t, 12.792, r.Fetch, .005)
	assert.InDelta(t, 11.292, r.PutBack, .005)
	sum := 0.0
	for _, p := range r.Parts {
		sum += p.Seconds
	}
	assert.InDelta(t, r.Fetch, sum, 1e-9)
}

func TestOrders(t *testing.T) {
	for _, c := range []struct {
		want int
		e    reach.Errand
	}{
		{1, reach.Errand{Distance: 500, Band: reach.Easy}},
		{2, reach.Errand{Distance: 3000, Band: reach.Easy}},
		{2, reach.Errand{Distance: 500, Band: reach.Easy, Accesses: []reach.Access{"drawer"}}},
		{3, reach.Errand{Distance: 500, Band: reach.Step}},
		{3, reach.Errand{Distance: 500, Band: reach.Easy, Accesses: []reach.Access{"door"}, Aside: 1}},
		{4, reach.Errand{Distance: 500, Band: reach.Ladder}},
		{4, reach.Errand{Distance: 500, Band: reach.Easy, Accesses: []reach.Access{"roll-out"}}},
		{4, reach.Errand{AreaTime: 30, Band: reach.Easy}},
	} {
		assert.Equal(t, c.want, reach.Order(c.e), "%+v", c.e)
	}
}

func TestEstimatesCanBeSetByName(t *testing.T) {
	e := reach.DefaultEstimates()
	require.NoError(t, e.Set(map[string]float64{"door": 4}))
	assert.Equal(t, 4.0, e.Door)
	assert.ErrorContains(t, e.Set(map[string]float64{"gate": 4}), "known are")
	assert.ErrorContains(t, e.Set(map[string]float64{"door": -1}), "below 0")
}
