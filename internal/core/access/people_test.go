package access_test

import (
	"fmt"
	"math"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"hobrak/internal/core/access"
	"hobrak/internal/core/keeping"
	"hobrak/internal/core/length"
	"hobrak/internal/core/reach"
	"hobrak/internal/core/shop"
	"hobrak/internal/core/shoptest"
	"hobrak/internal/core/weight"
)

func adult(t *rapid.T, id string) shop.Person {
	p := shop.Person{ID: id, Stature: length.MM(float64(rapid.IntRange(1400, 2050).Draw(t, "stature"))), NoKneeling: rapid.Bool().Draw(t, "kneels"), NoLadder: rapid.Bool().Draw(t, "climbs"),
		DimSight: rapid.Bool().Draw(t, "sees"), Seated: rapid.IntRange(0, 4).Draw(t, "seated") == 0}
	if rapid.Bool().Draw(t, "lifts") {
		p.Lifts = weight.KG(float64(rapid.IntRange(1, 12).Draw(t, "most")))
	}
	return p
}

// Two adults: what is one's own costs as if one were alone, what is anybody's never less than for either of them and is out of
// reach where it is for one; each limit is the stricter one's.
func TestOfTwoPeopleTheOneCountsToWhomItIsMoreTrouble(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		s := shoptest.Random(rapid.Uint64().Draw(t, "seed"), shoptest.Few)
		if len(s.Places) == 0 || len(s.Items) == 0 {
			t.Skip()
		}
		a, b := adult(t, "a"), adult(t, "b")
		it := s.Items[0]
		it.Whose = ""
		with := func(whose string, people ...shop.Person) (*access.Map, access.Use) {
			try := s.Clone()
			try.Settings.People = people
			for i := range try.Items {
				try.Items[i].Whose = ""
			}
			m, err := access.NewMap(try)
			require.NoError(t, err)
			x := it
			x.Whose = whose
			return m, m.UseOf(&x)
		}
		ma, ua := with("", a)
		mb, ub := with("", b)
		both, anybody := with("", a, b)
		_, hers := with("a", a, b)
		for k := range s.Places {
			p := &s.Places[k]
			g := keeping.Grip{X: rapid.Float64Range(0, p.W.MM()).Draw(t, "x"), Z: rapid.Float64Range(0, p.H.MM()).Draw(t, "z")}
			ca, oka := ma.Weekly(&ua, k, g, 0)
			cb, okb := mb.Weekly(&ub, k, g, 0)
			c, ok := both.Weekly(&anybody, k, g, 0)
			assert.Equal(t, oka && okb, ok)
			if ok {
				assert.GreaterOrEqual(t, c, math.Max(ca, cb)-1e-9)
			}
			own, ok := both.Weekly(&hers, k, g, 0)
			assert.Equal(t, oka, ok)
			assert.InDelta(t, ca, own, 1e-9)
			assert.Equal(t, ma.Lift(&ua, k, g).Barred, both.Lift(&hers, k, g).Barred)
			if ma.Lift(&ua, k, g).Barred || mb.Lift(&ub, k, g).Barred {
				assert.True(t, both.Lift(&anybody, k, g).Barred)
			}
		}
	})
}

// What is used at no station is lifted to one's own elbow: what is too much for the taller of two is too much for both.
func TestWithoutAStationEachLiftsToTheirOwnElbow(t *testing.T) {
	s := shoptest.Random(1, shoptest.Few)
	s.Stations, s.Modes, s.Homes, s.Containers, s.Settings.Running = nil, nil, nil, nil, nil
	s.Places = []shop.Place{{ID: "P", Kind: "shelf", At: shop.At{Wall: s.Areas[0].Walls[0].ID, X: 0, Z: 0}, W: length.MM(600), H: length.MM(2000), D: length.MM(200)}}
	s.Items = []shop.Item{{ID: "vice", Name: "Vice", W: length.MM(200), H: length.MM(200), D: length.MM(150), KG: weight.KG(29.9), UsesPerWeek: 1}}
	for i := range s.Areas {
		for k := range s.Areas[i].Walls {
			s.Areas[i].Walls[k].Features = nil
		}
	}
	tall, small := shop.Person{ID: "tall", Stature: length.MM(1950)}, shop.Person{ID: "small", Stature: length.MM(1480)}
	barred := func(z float64, people ...shop.Person) bool {
		s.Settings.People = people
		m, err := access.NewMap(s)
		require.NoError(t, err)
		u := m.UseOf(&s.Items[0])
		return m.Lift(&u, 0, keeping.Grip{X: 300, Z: z}).Barred
	}
	one := 0
	for z := 100.0; z < 1900; z += 20 {
		a, b := barred(z, tall), barred(z, small)
		if a != b {
			one++
		}
		assert.Equal(t, a || b, barred(z, tall, small), "at %.0f mm", z)
	}
	assert.Positive(t, one, "at some height it is too much for one of them alone")
}

// What somebody does not do is never less trouble than doing it.
func TestHabitsOnlyEverCost(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		e := reach.DefaultEstimates()
		body := reach.NewBody(rapid.Float64Range(1400, 2050).Draw(t, "stature"), 250, nil)
		o := reach.Obstacle{Depth: rapid.Float64Range(0, 900).Draw(t, "depth"), Top: rapid.Float64Range(0, 1000).Draw(t, "top")}
		z := rapid.Float64Range(0, 3500).Draw(t, "z")
		for name, h := range map[string]reach.Habits{"kneels": {NoKneeling: true}, "climbs": {NoLadder: true}} {
			other := body.With(h)
			was, now := body.Zones(o, e.StepHeight).At(z), other.Zones(o, e.StepHeight).At(z)
			if now == reach.OutOfReach {
				assert.True(t, was == reach.OutOfReach || h.NoLadder && was == reach.Ladder, "%s at %.0f: %s, was %s", name, z, now, was)
				continue
			}
			assert.Equal(t, was, now)
			assert.GreaterOrEqual(t, reach.PostureSeconds(&other, now, &e), reach.PostureSeconds(&body, was, &e), fmt.Sprint(name, " ", z))
		}
		sits := body.With(reach.Habits{Seated: true})
		band := sits.Zones(o, e.StepHeight).At(z)
		assert.NotContains(t, []reach.Band{reach.Kneel, reach.Step, reach.Ladder}, band)
		if z < reach.SeatedLow {
			assert.Equal(t, reach.OutOfReach, band)
		}
		assert.Less(t, sits.Shoulder, body.Shoulder)
	})
}

// A left-handed person has at hand on the left what a right-handed one has on the right.
func TestTheHandDecidesTheSideOfABench(t *testing.T) {
	at := func(left bool, x float64) float64 {
		area := shop.Area{ID: "a", Corners: []shop.Point{{0, 0}, {0, length.MM(3000)}, {length.MM(4000), length.MM(3000)}, {length.MM(4000), 0}}}
		for i, long := range []float64{3000, 4000, 3000, 4000} {
			area.Walls = append(area.Walls, shop.Wall{ID: string(rune('A' + i)), Profile: []shop.Point{{0, length.MM(2400)}, {length.MM(long), length.MM(2400)}}, Claimed: true})
		}
		s := &shop.Shop{Format: shop.Format, Version: shop.Version, Settings: shop.Settings{Units: length.Metric, People: []shop.Person{{ID: "me", Stature: length.MM(1750), LeftHanded: left}}}, Areas: []shop.Area{area},
			Stations: []shop.Station{{ID: "bench", Name: "Bench", Kind: "bench", X: length.MM(1250), Y: length.MM(2400), W: length.MM(1500), D: length.MM(600), H: length.MM(880), Stand: shop.Point{length.MM(2000), length.MM(2150)}}},
			Places:   []shop.Place{{ID: "B1", Kind: "wall-field", Style: "peg", At: shop.At{Wall: "B", X: length.MM(1200), Z: length.MM(1000)}, W: length.MM(1600), H: length.MM(600), D: length.MM(100)}},
			Items:    []shop.Item{{ID: "saw", Name: "Saw", W: length.MM(100), H: length.MM(300), D: length.MM(20), UsesPerWeek: 1, UsedAt: []string{"bench"}}}}
		require.NoError(t, s.Validate())
		m, err := access.NewMap(s)
		require.NoError(t, err)
		u := m.UseOf(&s.Items[0])
		c, ok := m.Weekly(&u, 0, keeping.Grip{X: x, Z: 300}, 0)
		require.True(t, ok)
		return c
	}
	const left, middle, right = 350, 800, 1250
	assert.Greater(t, at(false, left), at(false, right)+1)
	assert.Greater(t, at(true, right), at(true, left)+1)
	assert.InDelta(t, at(false, right), at(true, left), .2)
	assert.Equal(t, at(false, middle), at(true, middle))
}
