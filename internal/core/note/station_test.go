package note_test

import (
	"slices"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"hobrak/internal/core/floor"
	"hobrak/internal/core/length"
	"hobrak/internal/core/note"
	"hobrak/internal/core/shop"
	"hobrak/internal/core/weight"
)

func station(t require.TestingT, units length.System, text string) (shop.Station, floor.Wish) {
	r := note.Station(in(units), text)
	for _, c := range r.Chips {
		require.NotEqual(t, "unknown", c.Kind, "%s: %q: %s", text, c.Text, c.Says)
	}
	require.Empty(t, r.Why, text)
	return *r.Station, r.Where
}

func TestStationsAsPeopleJotThemDown(t *testing.T) {
	mm := func(v float64) length.Length { return length.MM(v) }
	for _, c := range []struct {
		text       string
		kind       shop.StationKind
		w, d, h    float64
		tall, amps float64
		mobility   shop.Mobility
		where      floor.Wish
	}{
		{text: "table saw 800x750x860 wheels 9A", kind: "table-saw", w: 800, d: 750, h: 860, amps: 9, mobility: shop.Rolls},
		{text: "bench 1500x600x880 wall B", kind: "bench", w: 1500, d: 600, h: 880, where: floor.Wish{Wall: "B"}},
		{text: "carving bench 1400×600×860 under the window", kind: "carving", w: 1400, d: 600, h: 860, where: floor.Wish{By: "window"}},
		{text: "shaving horse 1500×500×520 moves about", kind: "shaving-horse", w: 1500, d: 500, h: 520, mobility: shop.Rolls},
		{text: "small bandsaw on stand 500×450×1450 table 1000, 450 W", kind: "bench-bandsaw", w: 500, d: 450, h: 1000, tall: 1450, amps: 450. / 230},
		{text: "band saw on wheels 600×550, table 950, tall 1750, 6 A", kind: "bandsaw", w: 600, d: 550, h: 950, tall: 1750, amps: 6, mobility: shop.Rolls},
		{text: "planer thicknesser on wheels 1100×600, table 860", kind: "planer-thicknesser", w: 1100, d: 600, h: 860, mobility: shop.Rolls},
		{text: "workbench fixed 1800×600×880 at C end of wall D", kind: "bench", w: 1800, d: 600, h: 880, mobility: shop.Fixed, where: floor.Wish{Wall: "D", End: "C"}},
		{text: "extractor on wheels 650×500×1500, 5 A", kind: "extractor", w: 650, d: 500, h: 900, tall: 1500, amps: 5, mobility: shop.Rolls},
		{text: "assembly table in the middle", kind: "assembly", w: 1200, d: 800, h: 850, where: floor.Wish{Middle: true}},
		{text: "mitre saw on folding stand 1100×650×900, 7 A", kind: "mitre-saw", w: 1100, d: 650, h: 900, tall: 1300, amps: 7, mobility: shop.Folds},
		{text: "lathe 1300x450 wall D 2.4 from the left", kind: "lathe", w: 1300, d: 450, h: 1050, tall: 1250, where: floor.Wish{Wall: "D", From: ptr(mm(2400))}},
	} {
		st, where := station(t, length.Metric, c.text)
		assert.Equal(t, c.kind, st.Kind, c.text)
		assert.Equal(t, [4]length.Length{mm(c.w), mm(c.d), mm(c.h), mm(c.tall)}, [4]length.Length{st.W, st.D, st.H, st.Tall}, c.text)
		assert.Equal(t, c.amps == 0 && c.kind.Supply().Watts > 0, slices.Contains(st.Assumed, "amps"), c.text)
		if c.amps > 0 {
			assert.InDelta(t, c.amps, st.Amps, 1e-9, c.text)
		}
		assert.Equal(t, c.mobility, st.Mobility, c.text)
		assert.Equal(t, c.where, where, c.text)
	}
	st, where := station(t, length.Imperial, `bench 5' × 22" × 34" at B`)
	assert.Equal(t, [3]length.Length{5 * length.Foot, 22 * length.Inch, 34 * length.Inch}, [3]length.Length{st.W, st.D, st.H})
	assert.Equal(t, floor.Wish{Wall: "B"}, where)
	st, _ = station(t, length.Imperial, `scroll saw 26" × 14" on a stand 38" high`)
	assert.Equal(t, shop.StationKind("scroll-saw"), st.Kind)
	assert.Equal(t, 38*length.Inch, st.H)
	st, _ = station(t, length.Imperial, `drill press 18" × 24", table 44", 5 amps`)
	assert.Equal(t, 44*length.Inch, st.H)
	assert.Equal(t, []string{"tall", "kg"}, st.Assumed)
	st, _ = station(t, length.Metric, `lathe 1300x450x1050 95 kg 700 W`)
	assert.Equal(t, weight.KG(95), st.KG)
	assert.NotContains(t, st.Assumed, "kg")
}

func ptr[T any](v T) *T { return &v }

// Every kind that is known is found by each of its names, with its usual size, all assumed.
func TestEveryKindOfStationIsReadByItsName(t *testing.T) {
	assert.GreaterOrEqual(t, len(shop.StationKinds()), 70)
	for _, k := range shop.StationKinds() {
		st, _ := station(t, length.Metric, k.Says())
		assert.Equal(t, k, st.Kind, k.Says())
		u := k.Usual()
		assert.Equal(t, [3]length.Length{u.W, u.D, u.H}, [3]length.Length{st.W, st.D, st.H})
		assert.Subset(t, st.Assumed, []string{"w", "d", "h"})
		assert.Less(t, float64(u.H), float64(2*length.Metre), k)
		if tall := k.Tall(); tall > 0 {
			assert.Greater(t, float64(tall), float64(u.H), k)
		}
	}
}

// What is said of a station is in it, in whatever order it is said.
func TestAStationIsReadInAnyOrder(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		kind := rapid.SampledFrom(shop.StationKinds()).Draw(t, "kind")
		draw := func(name string, low, high int) length.Length {
			return length.MM(float64(rapid.IntRange(low, high).Draw(t, name)))
		}
		w, d, h := draw("w", 200, 2500), draw("d", 200, 900), draw("h", 300, 1100)
		pieces := []string{
			w.Metric() + " x " + d.Metric(), "table " + h.Metric(),
			rapid.SampledFrom([]string{"on wheels", "fixed", "folds"}).Draw(t, "mobility"),
			rapid.SampledFrom([]string{"wall A", "wall b", "at C", "by the window"}).Draw(t, "where"), "7.5 A",
		}
		text := kind.Says() + ", "
		for i, p := range rapid.Permutation(pieces).Draw(t, "order") {
			if i > 0 {
				text += rapid.SampledFrom([]string{" ", ", "}).Draw(t, "between")
			}
			text += p
		}
		st, where := station(t, length.Metric, text)
		require.Equal(t, [3]length.Length{w, d, h}, [3]length.Length{st.W, st.D, st.H}, text)
		require.Equal(t, kind, st.Kind, text)
		require.InDelta(t, 7.5, st.Amps, 1e-9)
		require.NotEmpty(t, st.Mobility, text)
		require.NotEqual(t, floor.Wish{}, where, text)
	})
}

func TestAStationThatCannotBeSaysWhy(t *testing.T) {
	room := in(length.Imperial)
	room.Areas = []shop.Area{*read(t, length.Imperial, `12' x 8' x 8'`)}
	for text, says := range map[string]string{
		`bench 60' x 30'`:          "larger than the room",
		`bench 5' x 2' wall Q`:     "there is no wall",
		`bench 5' x 2' bouncing 3`: "not understood",
		`bench 100' x 2'`:          "larger than any",
	} {
		r := note.Station(room, text)
		assert.Nil(t, r.Entry, text)
		found := ""
		for _, c := range r.Chips {
			if c.Kind == "unknown" {
				found += c.Says
			}
		}
		assert.Contains(t, found, says, text)
	}
	assert.NotEmpty(t, note.Station(room, "5' x 2'").Why)
}
