package line_test

import (
	"hobrak/internal/core/shop"
	"testing"

	"github.com/stretchr/testify/assert"

	"hobrak/internal/core/length"
)

func TestCountsAreReadHoweverTheyAreSaid(t *testing.T) {
	for text, want := range map[string]int{
		"8 f-clamp 600": 8, "8x mallet": 8, "8 x mallet": 8, "x8 mallet": 8, "mallet x8": 8, "mallet × 8": 8, "mallet 8x": 8, "mallet 8 off": 8, "mallet 8 pcs": 8, "a pair of pincers": 2,
		"dozen pencils": 12, "Two mallets": 2, "mallet count:8": 8, "mallet": 0, "1 mallet": 0, "no 5 plane": 0, "2440x1220x18 plywood": 0, "2x mallet 100x200x90": 2,
	} {
		p := parse(text, length.Metric)
		assert.Equal(t, want, p.Item.Count, text)
		assert.Zero(t, p.Unknown, "%s: %+v", text, p.Chips)
	}
}

func TestSizesAreReadInEitherSystemAndAnyOrder(t *testing.T) {
	for _, c := range []struct {
		text    string
		units   length.System
		w, h, d float64
	}{
		{"jack plane 360x65x140", length.Metric, 65, 360, 140},
		{"jack plane 65 x 140 x 360 mm", length.Metric, 65, 360, 140},
		{"jack plane 36 by 6,5 by 14 cm", length.Metric, 65, 360, 140},
		{"jack plane 0.36m x 65mm x 14cm", length.Metric, 65, 360, 140},
		{`jack plane 14" x 2 1/2" x 5 1/2"`, length.Metric, 63.5, 355.6, 139.7},
		{"jack plane 14 x 2-1/2 x 5½", length.Imperial, 63.5, 355.6, 139.7},
		{"jack plane 14x2.5x5.5 in weekly", length.Metric, 63.5, 355.6, 139.7},
		{"1' 2\" x 3\" x 5\" jack plane", length.Imperial, 76.2, 355.6, 127},
		// What is no known kind is as it was typed: wide, high, deep.
		{"zither 300x90x400", length.Metric, 300, 90, 400},
		// Two sides: the larger ones of the kind; the third is usual.
		{"2440 x 1220 plywood sheet", length.Metric, 2440, 1220, 18},
	} {
		it := parse(c.text, c.units).Item
		assert.InDelta(t, c.w, it.W.MM(), .05, c.text)
		assert.InDelta(t, c.h, it.H.MM(), .05, c.text)
		assert.InDelta(t, c.d, it.D.MM(), .05, c.text)
	}
}

func TestWeightsAreReadHoweverTheyAreWritten(t *testing.T) {
	for text, kg := range map[string]float64{"mallet 2.3kg": 2.3, "mallet 2,3 kg": 2.3, "mallet 800 g": .8, "mallet 800grams": .8, "mallet 5 lb": 2.26796, "mallet 5lbs": 2.26796, "mallet 5 lb 4 oz": 2.38136, "mallet 12 oz": .34019, "mallet 3 kilos": 3, "mallet weight:900g": .9, "2 pounds mallet": .90718} {
		p := parse(text, length.Metric)
		assert.InDelta(t, kg, p.Item.KG.KG(), .001, text)
		assert.NotContains(t, p.Item.Assumed, "kg", text)
		assert.Equal(t, "Mallet", p.Item.Name, text)
	}
}

func TestHowOftenIsReadHoweverItIsSaid(t *testing.T) {
	for text, want := range map[string]float64{"daily": 5, "every day": 5, "each week": 1, "weekly": 1, "monthly": .25, "yearly": .02, "3x a week": 3, "3 times per week": 3, "2/month": .5, "twice a day": 10, "once a year": 1.0 / 52, "a few times a year": .08, "hardly ever": .01, "constantly": 10, "uses:1.5": 1.5} {
		p := parse("mallet "+text, length.Metric)
		assert.InDelta(t, want, p.Item.UsesPerWeek, .001, text)
		assert.NotContains(t, p.Item.Assumed, "uses_per_week", text)
		assert.Equal(t, "Mallet", p.Item.Name, text)
		assert.Zero(t, p.Unknown, text)
	}
}

func TestStationsAreFoundByIDNameOrBeginning(t *testing.T) {
	for text, want := range map[string]string{"@bench": "bench", "@drill-press": "drill-press", "@DrillPress": "drill-press", "@drill": "drill-press", "@glue": "assembly", "@lathe": "lathe", "@sharp": "sharpening"} {
		p := parse("mallet "+text, length.Metric)
		assert.Equal(t, []string{want}, p.Item.UsedAt, text)
	}
	assert.Equal(t, []string{"bench", "lathe"}, parse("mallet @bench @lathe @bench", length.Metric).Item.UsedAt)
}

func TestWordsOfANameAreNotTakenForSomethingElse(t *testing.T) {
	for text, name := range map[string]string{"dust mask": "Dust mask", "flat file": "Flat file", "sharpening stone": "Sharpening stone", "bench hook": "Bench hook", "stop block": "Stop block", "varnish 1 l": "Varnish 1 l", "bench chisel 12 mm": "Bench chisel 12 mm", "sandpaper 120 grit": "Sandpaper 120 grit", `mortise chisel 1/4"`: `Mortise chisel 1/4"`} {
		p := parse(text, length.Metric)
		assert.Equal(t, name, p.Item.Name)
		assert.Zero(t, p.Unknown, "%s: %+v", text, p.Chips)
	}
	p := parse("mallet called:\"Grandfather's own\" keep household dull", length.Metric)
	assert.Equal(t, "Grandfather's own", p.Item.Name)
	assert.True(t, p.Item.Keep)
	assert.Equal(t, "household", p.Item.Realm)
	assert.Contains(t, p.Item.Flags, shop.Dull)
}

func TestASeriesFollowsItsLength(t *testing.T) {
	short, long := parse("f-clamp 300", length.Metric).Item, parse("f-clamp 1200", length.Metric).Item
	assert.InDelta(t, 900, long.H.MM()-short.H.MM(), .01)
	assert.Greater(t, long.KG.KG(), short.KG.KG()+1)
	assert.Equal(t, `F-clamp 2'`, parse(`f-clamp 24"`, length.Imperial).Item.Name)
	plank := parse("larch plank 4.8 m", length.Metric).Item
	assert.InDelta(t, 4800, plank.W.MM(), .01)
	assert.NotContains(t, plank.Assumed, "w")
	assert.InDelta(t, 14, plank.KG.KG(), .01, "twice as long as the usual one, twice as heavy")
}
