package belongings_test

import (
	"fmt"
	"strconv"
	"strings"
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

// typed is a line that says everything the list knows of a thing.
func typed(it *shop.Item) string {
	var b strings.Builder
	fmt.Fprintf(&b, `called:"%s" wide:%smm high:%smm deep:%smm weight:%skg uses:%s`, it.Name, plain(it.W.MM()), plain(it.H.MM()), plain(it.D.MM()), plain(it.KG.KG()), plain(it.UsesPerWeek))
	if it.Number() > 1 {
		fmt.Fprintf(&b, " count:%d", it.Count)
	}
	for _, st := range it.UsedAt {
		b.WriteString(" @" + st)
	}
	for _, h := range it.Hold {
		b.WriteString(" " + string(h))
	}
	for _, f := range it.Flags {
		b.WriteString(" #" + string(f))
	}
	if it.Family != "" {
		fmt.Fprintf(&b, ` family:"%s"`, it.Family)
	}
	if it.Keep {
		b.WriteString(" keep")
	}
	return b.String()
}

func plain(v float64) string { return strconv.FormatFloat(v, 'f', -1, 64) }

// The demo's list can be typed, line by line, into a shop that has its room and stations.
func TestTheSlipwayListCanBeTypedFromNothing(t *testing.T) {
	want := slipway(t)
	s := slipway(t)
	s.Items, s.Homes = nil, nil
	keys := 0
	for i := range want.Items {
		text := typed(&want.Items[i])
		p := line.Parse(text, belongings.Context(s))
		require.Zero(t, p.Unknown, "%s: %v", text, p.Chips)
		_, err := belongings.Add(s, p)
		require.NoError(t, err, text)
		keys += len(text) + 1
	}
	require.NoError(t, s.Validate())
	require.Len(t, s.Items, len(want.Items))
	for i := range want.Items {
		w, g := &want.Items[i], &s.Items[i]
		assert.Equal(t, w.Name, g.Name)
		assert.Equal(t, [3]length.Length{w.W, w.H, w.D}, [3]length.Length{g.W, g.H, g.D}, w.Name)
		assert.Equal(t, w.KG, g.KG, w.Name)
		assert.Equal(t, w.Number(), g.Number(), w.Name)
		assert.InDelta(t, w.UsesPerWeek, g.UsesPerWeek, 1e-9, w.Name)
		assert.Equal(t, w.UsedAt, g.UsedAt, w.Name)
		assert.ElementsMatch(t, w.Hold, g.Hold, w.Name)
		assert.Equal(t, w.Family, g.Family, w.Name)
		assert.Subset(t, g.Flags, w.Flags, "%s; its kind may add what is usual", w.Name)
	}
	t.Logf("%d lines, %d keys, everything said", len(want.Items), keys)
}
