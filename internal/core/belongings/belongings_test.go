package belongings_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"hobrak/demo"
	"hobrak/internal/core/belongings"
	"hobrak/internal/core/length"
	"hobrak/internal/core/line"
	"hobrak/internal/core/shop"
)

func slipway(t *testing.T) *shop.Shop {
	s, err := shop.Read(demo.Slipway)
	require.NoError(t, err)
	return s
}

func TestATypedLineIsOnTheList(t *testing.T) {
	s := slipway(t)
	id, err := belongings.Add(s, line.Parse("jack plane 360x65x140 2.3kg weekly @bench hang", belongings.Context(s)))
	require.NoError(t, err)
	assert.Equal(t, "jack-plane-2", id, "the shop has a jack plane already")
	it := shop.NewIndex(s).Item(id)
	assert.Equal(t, length.MM(360), it.H)
	assert.Equal(t, []string{"bench"}, it.UsedAt)
	require.NoError(t, s.Validate())
	_, err = belongings.Add(s, line.Parse("@bench", belongings.Context(s)))
	assert.ErrorContains(t, err, "Begin with its name")
	id, err = belongings.Add(s, line.Parse("Übergroße Säge (alt)", belongings.Context(s)))
	require.NoError(t, err)
	assert.Equal(t, "übergroße-säge-alt", id)
	require.NoError(t, s.Validate())
}

func TestOneFieldOfManyThingsIsSetAtOnce(t *testing.T) {
	s := slipway(t)
	ids := []string{"jack-plane", "block-plane", "smoothing-plane"}
	set := func(field, text string) {
		t.Helper()
		require.NoError(t, belongings.Set(s, ids, field, text), field)
	}
	set("family", "hand planes")
	set("uses", "twice a week")
	set("w", "2 1/2 in")
	set("kg", "1,5 kg")
	set("flags", "sharp, rust")
	set("hold", "hang flat")
	set("used_at", "@bench carving")
	set("keep", "yes")
	require.NoError(t, s.Validate())
	for _, id := range ids {
		it := shop.NewIndex(s).Item(id)
		assert.Equal(t, "hand planes", it.Family)
		assert.InDelta(t, 2, it.UsesPerWeek, .001)
		assert.Equal(t, length.MM(63.5), it.W)
		assert.Equal(t, 1.5, it.KG.KG())
		assert.Equal(t, []string{"bench", "carving"}, it.UsedAt)
		assert.True(t, it.Keep)
		assert.Empty(t, it.Assumed)
	}
}

func TestWhatCannotBeIsSaidWithItsFieldAndItem(t *testing.T) {
	s := slipway(t)
	for _, c := range []struct{ field, text, says string }{
		{"name", " ", "needs a name"}, {"count", "0", "whole number"}, {"w", "wide", "not a number"}, {"h", "-3", "more than 0"}, {"kg", "heavy", "not"}, {"uses", "whenever", "how often"},
		{"used_at", "moon", "there is no station"}, {"hold", "float", "should be one or more of hang"}, {"flags", "shiny", "should be one or more of sharp"}, {"keep", "maybe", "yes or no"}, {"colour", "red", "has no field"},
	} {
		err := belongings.Set(s, []string{"jack-plane"}, c.field, c.text)
		var f *belongings.FieldError
		require.ErrorAs(t, err, &f, c.field)
		assert.Equal(t, "jack-plane", f.Item)
		assert.Contains(t, f.Reason, c.says)
	}
	assert.ErrorContains(t, belongings.Set(s, []string{"ghost"}, "name", "x"), "there is no item")
}

func TestThingsGoWithTheirHomes(t *testing.T) {
	s := slipway(t)
	require.NotEmpty(t, shop.NewIndex(s).Homes("jack-plane"))
	require.NoError(t, belongings.Remove(s, []string{"jack-plane", "block-plane"}))
	ix := shop.NewIndex(s)
	assert.Nil(t, ix.Item("jack-plane"))
	assert.Empty(t, ix.Homes("jack-plane"))
	require.NoError(t, s.Validate())
	assert.Error(t, belongings.Remove(s, []string{"jack-plane"}))
}
