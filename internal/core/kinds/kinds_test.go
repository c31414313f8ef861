package kinds_test

import (
	"slices"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"hobrak/internal/core/kinds"
	"hobrak/internal/core/shop"
)

func TestTheTableIsWhole(t *testing.T) {
	all := kinds.All()
	assert.GreaterOrEqual(t, len(all), 180)
	assert.GreaterOrEqual(t, len(kinds.Groups()), 14)
	seen := map[string]bool{}
	holds := shop.Holds()
	flags := shop.Flags()
	for _, k := range all {
		assert.False(t, seen[k.ID], k.ID)
		seen[k.ID] = true
		assert.True(t, k.W > 0 && k.H > 0 && k.D > 0 && k.KG > 0 && k.Uses > 0, k.Name)
		assert.Less(t, max(k.W, k.H, k.D), 2600.0, k.Name)
		// A light thing for its size or a heavy one: between cork and lead.
		density := k.KG / (k.W * k.H * k.D / 1e9)
		assert.True(t, density > 5 && density < 11000, "%s weighs %.0f kg/m³", k.Name, density)
		require.NotEmpty(t, k.Hold, k.Name)
		for _, h := range k.Hold {
			assert.Contains(t, holds, h, k.Name)
		}
		for _, f := range k.Flags {
			assert.Contains(t, flags, f, k.Name)
		}
		m, ok := kinds.Find(k.Name)
		assert.True(t, ok && m.Sure && m.Kind.ID == k.ID, "%s is found as %s", k.Name, m.Kind.Name)
	}
}

func TestWhatBurnsIsFlaggedSo(t *testing.T) {
	for _, name := range []string{"varnish", "solvent", "oil finish", "shellac", "spray can", "lacquer", "denatured alcohol"} {
		m, ok := kinds.Find(name)
		require.True(t, ok, name)
		assert.True(t, slices.Contains(m.Kind.Flags, shop.Flammable), name)
	}
}

func TestNamesAreFoundAsPeopleSayThem(t *testing.T) {
	for _, c := range []struct {
		said, kind string
		rest       int
		sure       bool
	}{
		{"old jack plane", "jack-plane", 1, true}, {"No 5 plane", "jack-plane", 0, true}, {"F-clamps", "f-clamp", 0, true}, {"c clamps", "g-clamp", 0, true},
		{"dovtail saw", "dovetail-saw", 0, false}, {"paring chisles", "paring-chisel", 0, false}, {"Routre bits", "router-bits", 0, false}, {"batteries", "battery", 0, true},
		{"knives", "utility-knife", 0, true}, {"paint brushes", "paintbrush", 0, true}, {"planks", "board", 0, true}, {"vise", "bench-vice", 0, true}, {"ryoba", "pull-saw", 0, true},
		{"square", "try-square", 0, true}, {"grandfather's mallet", "mallet", 1, true},
	} {
		m, ok := kinds.Find(c.said)
		require.True(t, ok, c.said)
		assert.Equal(t, c.kind, m.Kind.ID, c.said)
		assert.Len(t, m.Rest, c.rest, c.said)
		assert.Equal(t, c.sure, m.Sure, c.said)
	}
	for _, said := range []string{"", "zither", "qwxyz", "left-handed smoke shifter"} {
		_, ok := kinds.Find(said)
		assert.False(t, ok, said)
	}
}

func TestALengthSeriesGrowsWithItsLength(t *testing.T) {
	k, ok := kinds.ByID("f-clamp")
	require.True(t, ok)
	short, long := k.Of(300), k.Of(1000)
	assert.Equal(t, 440.0, short.H)
	assert.Equal(t, k.KG, short.KG)
	assert.Equal(t, 1140.0, long.H)
	assert.InDelta(t, .9+1.6*.7, long.KG, .01)
	assert.Equal(t, "box", kinds.Glyph("mitre-box"))
	assert.Equal(t, "zither", kinds.Glyph("zither"))
}
