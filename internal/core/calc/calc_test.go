package calc_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"hobrak/internal/core/calc"
	"hobrak/internal/core/length"
)

func TestCalculatorsGiveTheWorkedExamples(t *testing.T) {
	for _, c := range []struct {
		name   string
		in     map[string]string
		key    string
		want   any
		within float64
	}{
		{"length", map[string]string{"value": `3' 11 1/4"`}, "mm", 1200.15, .001},
		{"weight", map[string]string{"value": "2 lb 4 oz"}, "kg", 1.020583, 1e-6},
		{"reach-over", map[string]string{"stature": "1680", "depth": "650", "top": "880"}, "high", 2019.6, .1},
		{"lift", map[string]string{"weight": "10 kg", "from-height": "1500", "from-reach": "400", "to-height": "600", "to-reach": "250"}, "limit_from_kg", 9.69, .01},
		{"fetch-time", map[string]string{"stature": "1680", "distance": "2 m", "band": "bend", "open": "drawer", "search": "labelled", "uses": "3"}, "weekly", 72.25, .05},
		{"stand-up", map[string]string{"length": "2440", "thickness": "18", "ceiling": "2.4 m"}, "needs", 2440.1, .05},
		{"turn", map[string]string{"a": "900", "b": "1200", "width": "200"}, "longest", 2759.3, 1},
		{"come-in", map[string]string{"door-width": "900", "door-height": "2000", "width": "1220", "height": "2440"}, "diagonal", 2193.2, .05},
		{"shelf-sag", map[string]string{"span": "900", "depth": "300", "load": "30 kg"}, "sag", 3.00, .01},
		{"screw-withdrawal", map[string]string{"diameter": "4.826", "thread": "38.1"}, "newton", 637.4, .7},
		{"screw-lateral", map[string]string{"diameter": "4.826", "root": "3.861", "thread": "38.1", "side": "19.05"}, "bearing_stud_mpa", 23.2, .1},
		{"tip-angle", map[string]string{"track": "500", "height": "900", "offset": "50", "fall": "10"}, "degrees", 11.96, .01},
		{"rail-load", map[string]string{"diameter": "5", "thread": "40", "side": "18", "screws": "4", "load": "20 kg", "out": "150", "lever": "300"}, "angle", 26.57, .05},
		{"clamp-rack", map[string]string{"things": "8x160x740x40"}, "w", 1750.0, .1},
		{"blade-rack", map[string]string{"things": "6x3x250x250"}, "w", 175.0, .1},
		{"sheet-bay", map[string]string{"things": "4x2440x1220x18", "reserve": "0"}, "w", 100.0, .1},
		{"drawer-layout", map[string]string{"things": "10x100x30x60"}, "w", 560.0, .1},
		{"arm-rack", map[string]string{"things": "3x4800x30x180"}, "w", 3600.0, .1},
		{"bin-fill", map[string]string{"things": "200x8x8x40"}, "fill", .51, .12},
		{"charger-shelf", map[string]string{"things": "1x120x100x140;1x150x110x120"}, "d", 165.0, .1},
		{"place-from-items", map[string]string{"kind": "magnet-rail", "hold": "magnet", "things": "6x30x250x30"}, "d", 30.0, .1},
		{"path", map[string]string{"room": "6000x4000", "from": "1000,1000", "to": "3800,1000", "boxes": "2000,0,800,2000"}, "length", 4065.4, 40},
	} {
		r, err := calc.Run(c.name, c.in, length.Metric)
		require.NoError(t, err, c.name)
		assert.InDelta(t, c.want, r.Result[c.key], c.within, c.name)
		assert.NotEmpty(t, r.Source)
	}
	r, err := calc.Run("reach-band", map[string]string{"stature": `5' 6"`, "z": "1.2 m"}, length.Imperial)
	require.NoError(t, err)
	assert.Equal(t, "easy", r.Result["band"])
}

func TestBadInputIsNamed(t *testing.T) {
	for _, c := range []struct {
		name string
		in   map[string]string
		says string
	}{
		{"nothing", nil, "there is no such calculator"},
		{"length", nil, "value: this is missing"},
		{"length", map[string]string{"valeu": "3"}, "has no such input"},
		{"length", map[string]string{"value": "wide"}, "not a number"},
		{"reach-over", map[string]string{"stature": "9 m", "depth": "1", "top": "1"}, "anybody's height"},
		{"fetch-time", map[string]string{"stature": "1680", "distance": "1 m", "open": "wall"}, "should be door"},
		{"path", map[string]string{"room": "6", "from": "1,1", "to": "2,2"}, "2 numbers"},
		{"shelf-sag", map[string]string{"span": "900", "depth": "300", "load": "30 kg", "wood": "cheese"}, "wood: \"cheese\" is not a wood"},
		{"screw-withdrawal", map[string]string{"diameter": "5", "thread": "10"}, "too short"},
		{"clamp-rack", map[string]string{"things": "0x1x1x1"}, "a count and three sides over 0"},
		{"place-from-items", map[string]string{"kind": "hammock", "things": "1x1x1x1"}, "there is no storage"},
		{"lift", map[string]string{"weight": "5 kg", "from-height": "-3 m"}, "too small"},
	} {
		_, err := calc.Run(c.name, c.in, length.Metric)
		assert.ErrorContains(t, err, c.says)
	}
}
