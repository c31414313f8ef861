package shop_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"hobrak/demo"
	"hobrak/internal/core/length"
	"hobrak/internal/core/quantity"
	"hobrak/internal/core/shop"
)

func TestASurveyThatCannotBeIsRefusedWithItsPath(t *testing.T) {
	mm := length.MM
	for name, c := range map[string]struct {
		path, says string
		spoil      func(a *shop.Area)
	}{
		"a wall that is not there": {"areas[0].survey.measures[0].wall", "no wall", func(a *shop.Area) { a.Survey.Measures[0].Wall = "Q" }},
		"a diagonal to nowhere":    {"areas[0].survey.measures[4]", "two of the corners 0 to 3", func(a *shop.Area) { a.Survey.Measures[4].To = 9 }},
		"a diagonal to itself":     {"areas[0].survey.measures[5]", "two of the corners", func(a *shop.Area) { a.Survey.Measures[5].To = 1 }},
		"a length of nothing":      {"areas[0].survey.measures[1].length", "more than 0", func(a *shop.Area) { a.Survey.Measures[1].Length = 0 }},
		"an angle of nothing":      {"areas[0].survey.measures[1].degrees", "more than 0", func(a *shop.Area) { a.Survey.Measures[1] = shop.Measure{Kind: "angle", Corner: 1} }},
		"an angle at no corner":    {"areas[0].survey.measures[1].corner", "no corner 7", func(a *shop.Area) { a.Survey.Measures[1] = shop.Measure{Kind: "angle", Corner: 7, Degrees: 90} }},
		"angles for other corners": {"areas[0].survey.angles", "3 angles for 4 corners", func(a *shop.Area) { a.Survey.Angles = a.Survey.Angles[:3] }},
		"studs listed out of order": {"areas[0].walls[0].studs.list[1]", "list them from the left", func(a *shop.Area) {
			a.Walls[0].Studs = &shop.Studs{Width: mm(45), List: []length.Length{mm(900), mm(300)}}
		}},
		"a stud beyond the wall":       {"areas[0].walls[0].studs.list[0]", "beyond the end", func(a *shop.Area) { a.Walls[0].Studs = &shop.Studs{Width: mm(45), List: []length.Length{mm(9000)}} }},
		"studs listed and spaced":      {"areas[0].walls[0].studs", "not both", func(a *shop.Area) { a.Walls[0].Studs.List = []length.Length{mm(300)} }},
		"a first stud beyond the wall": {"areas[0].walls[0].studs.first", "beyond the end", func(a *shop.Area) { a.Walls[0].Studs.Spacing, a.Walls[0].Studs.First = mm(600), mm(4700) }},
		"a window over a door":         {"areas[0].walls[0].features[1]", "A-door and A-switch overlap", func(a *shop.Area) { a.Walls[0].Features[1].X = mm(600) }},
		"a door wider than its wall":   {"areas[0].walls[0].features[0]", "is 4700 mm wide but the wall only 4600 mm long", func(a *shop.Area) { a.Walls[0].Features[0].W = mm(4700) }},
	} {
		t.Run(name, func(t *testing.T) {
			s, err := shop.Read(demo.Slipway)
			require.NoError(t, err)
			c.spoil(&s.Areas[0])
			var f *shop.Faults
			require.ErrorAs(t, s.Validate(), &f)
			assert.Equal(t, c.path, f.List[0].Path)
			assert.Contains(t, quantity.Metric(f.List[0].Message), c.says)
		})
	}
}

func TestPipesAndBeamsMayRunAcrossOthers(t *testing.T) {
	s, err := shop.Read(demo.Slipway)
	require.NoError(t, err)
	w := &s.Areas[0].Walls[0]
	w.Features = append(w.Features, shop.Feature{ID: "pipe", Kind: "pipe", X: length.MM(100), Z: length.MM(1500), W: length.MM(2000), H: length.MM(40)})
	assert.NoError(t, s.Validate())
}

func TestClearancesAreTheUsualOnesUnlessGiven(t *testing.T) {
	var s shop.Settings
	c := s.Clearances()
	assert.Equal(t, shop.Clear{AisleMain: 760, AisleSide: 600, PanelWide: 762, PanelDeep: 914, PanelHigh: 1981, Heater: 900, Head: 100, OverThings: 150}, c)
	wide := length.MM(900)
	s.Clear = &shop.Clearances{AisleMain: &wide}
	assert.Equal(t, 900.0, s.Clearances().AisleMain)
	assert.Equal(t, 600.0, s.Clearances().AisleSide)
}

func TestCornersAndThingsAreCalledAsPeopleDo(t *testing.T) {
	s, err := shop.Read(demo.Slipway)
	require.NoError(t, err)
	a := &s.Areas[0]
	assert.Equal(t, []string{"DA", "AB", "BC", "CD"}, []string{a.CornerName(0), a.CornerName(1), a.CornerName(2), a.CornerName(3)})
	ix := shop.NewIndex(s)
	assert.Equal(t, "Main bench", ix.Name("bench"))
	assert.Equal(t, "Varnish cabinet", ix.Name("K1"))
	assert.Equal(t, "ghost", ix.Name("ghost"))
}
