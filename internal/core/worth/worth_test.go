package worth_test

import (
	"slices"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"hobrak/internal/core/length"
	"hobrak/internal/core/shop"
	"hobrak/internal/core/shoptest"
	"hobrak/internal/core/stature"
	"hobrak/internal/core/weight"
	"hobrak/internal/core/worth"
)

func station(id string, kind shop.StationKind, w, d, h, kg float64) shop.Station {
	return shop.Station{ID: id, Name: id, Kind: kind, W: length.MM(w), D: length.MM(d), H: length.MM(h), KG: weight.KG(kg)}
}

func choice(all []worth.Tenure, id, do string) *worth.Choice {
	for _, t := range all {
		if i := slices.IndexFunc(t.Choices, func(c worth.Choice) bool { return c.Do == do }); t.ID == id && i >= 0 {
			return &t.Choices[i]
		}
	}
	return nil
}

func TestSmallMachinesShareAFlipTopUnlessTheyFollowEachOther(t *testing.T) {
	s := &shop.Shop{Stations: []shop.Station{station("grinder", "bench-grinder", 450, 400, 950, 15), station("sander", "spindle-sander", 450, 450, 950, 35), station("bench", "bench", 1800, 650, 880, 90)}}
	s.Items = []shop.Item{{ID: "i", UsesPerWeek: 2, UsedAt: []string{"sander"}}, {ID: "k", UsesPerWeek: 1, UsedAt: []string{"grinder"}}}
	c := choice(worth.Of(s), "grinder", "share")
	require.NotNil(t, c)
	assert.Equal(t, "sander", c.With)
	assert.InDelta(t, .18, c.Wins, 1e-9) // the smaller footprint
	assert.InDelta(t, 30, c.Pays, 1e-9)  // the rarer use
	assert.InDelta(t, 30/.18, c.Rate, 1e-9)
	assert.NotNil(t, choice(worth.Of(s), "grinder", "shelf"))
	assert.Nil(t, choice(worth.Of(s), "bench", "share"))

	s.Settings.Jobs = []shop.Job{{Name: "knife", PerMonth: 1, Path: []string{"grinder", "sander"}}}
	assert.Nil(t, choice(worth.Of(s), "grinder", "share"))
	s.Settings.Jobs = nil
	s.Stations[1].KG = weight.KG(90)
	assert.Nil(t, choice(worth.Of(s), "grinder", "share"), "too heavy to flip")
}

func TestWhatFoldsAndNeverIsIsSaid(t *testing.T) {
	s := &shop.Shop{Stations: []shop.Station{station("table", "assembly", 1400, 800, 850, 60)}, Modes: []shop.Mode{{ID: "m", Name: "M", Spots: map[string]shop.Standing{}}}}
	s.Stations[0].Mobility = shop.Folds
	assert.Contains(t, worth.Of(s)[0].Idle, "no arrangement folds it")
	s.Modes[0].Spots["table"] = shop.Standing{State: "folded"}
	assert.Empty(t, worth.Of(s)[0].Idle)
}

// Whatever stands there: figures are finite, what is wished for takes nothing, and no choice wins more than the thing takes.
func TestNoChoiceWinsMoreFloorThanThereIs(t *testing.T) {
	said := 0
	rapid.Check(t, func(t *rapid.T) {
		s := shoptest.Random(rapid.Uint64Range(0, 1e6).Draw(t, "seed"), shoptest.Few)
		for i := range s.Stations {
			s.Stations[i].Kind = rapid.SampledFrom(shop.StationKinds()).Draw(t, "kind")
			s.Assume(&s.Stations[i])
		}
		all := worth.Of(s)
		require.NoError(t, shoptest.Finite(all))
		for i, x := range all {
			if i > 0 {
				require.LessOrEqual(t, x.Days, all[i-1].Days)
			}
			for _, c := range x.Choices {
				said++
				require.LessOrEqual(t, c.Wins, x.Floor+1e-9)
				require.GreaterOrEqual(t, c.Pays, 0.0)
			}
		}
	})
	assert.Positive(t, said)
}

// By hand, of somebody 1700 tall: elbow .63 × 1700 + 25 = 1096; for planing 150 to 400 below, for carving 50 to 100 above.
func TestHeightsByTheElbow(t *testing.T) {
	s := &shop.Shop{Settings: shop.Settings{People: []shop.Person{{ID: "me", Stature: length.MM(1700)}}}, Stations: []shop.Station{station("bench", "bench", 1800, 650, 880, 0), station("carving", "carving", 900, 500, 1000, 0), station("freezer", "freezer", 900, 600, 850, 0)}}
	all := stature.Of(s)
	require.Len(t, all, 2, "nobody works at a freezer")
	assert.Equal(t, "carving", all[0].Station)
	assert.InDelta(t, 1146, all[0].Low, 1)
	assert.InDelta(t, 1000-1146, all[0].Off, 1)
	assert.Zero(t, all[1].Off)
	s.Settings.People = append(s.Settings.People, shop.Person{ID: "tall", Stature: length.MM(2000)}, shop.Person{ID: "child", Stature: length.MM(1200), Child: true})
	assert.Len(t, stature.Of(s), 4, "children are not fitted")
}

// By hand, of the same person with the elbow at 1096: jaws from 1046 to 1146, an axle from 846 to 1046.
func TestHeightsOfVicesCranksAndShelves(t *testing.T) {
	mm := length.MM
	s := &shop.Shop{Settings: shop.Settings{People: []shop.Person{{ID: "me", Stature: mm(1700)}}}, Stations: []shop.Station{station("metal", "metal", 1200, 600, 850, 0), station("stone", "grindstone", 700, 500, 800, 0)}}
	fit := func(id string, task stature.Task) *stature.Fit {
		for _, f := range stature.Of(s) {
			if f.Station == id && f.Task == task {
				return &f
			}
		}
		return nil
	}
	v := fit("metal", stature.Vice)
	require.NotNil(t, v)
	assert.InDelta(t, 1000, v.Height, .1)
	assert.InDelta(t, -46, v.Off, 1)
	assert.True(t, v.Assumed)
	s.Items = []shop.Item{{ID: "vice", Name: "bench vice", H: mm(220), UsedAt: []string{"metal"}}}
	v = fit("metal", stature.Vice)
	assert.InDelta(t, 1070, v.Height, .1, "the vice on the list is known to be higher")
	assert.Zero(t, v.Off)
	assert.InDelta(t, -46, fit("stone", stature.Crank).Off, 1)
	// A board at 2300 with something that is used twice a week is higher than anybody of 1700 reaches.
	s.Areas = []shop.Area{{ID: "main", Corners: []shop.Point{{0, 0}, {0, mm(4000)}, {mm(4000), mm(4000)}, {mm(4000), 0}}, Walls: []shop.Wall{{ID: "A"}, {ID: "B"}, {ID: "C"}, {ID: "D"}}}}
	s.Items = append(s.Items, shop.Item{ID: "plane", Name: "jack plane", W: mm(100), H: mm(100), D: mm(350), UsesPerWeek: 2})
	s.Places = []shop.Place{{ID: "S1", Kind: "shelf", At: shop.At{Wall: "A", Z: mm(2300)}, W: mm(900), H: mm(300), D: mm(250)}}
	s.Homes = []shop.Home{{Item: "plane", Place: "S1"}}
	require.NotNil(t, fit("S1", stature.Shelf))
	assert.Positive(t, fit("S1", stature.Shelf).Off)
	s.Items[1].UsesPerWeek = .1
	assert.Nil(t, fit("S1", stature.Shelf), "what is used once in ten weeks may be high")
}
