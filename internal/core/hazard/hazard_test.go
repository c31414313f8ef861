package hazard_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"hobrak/demo"
	"hobrak/internal/core/access"
	"hobrak/internal/core/hazard"
	"hobrak/internal/core/quantity"
	"hobrak/internal/core/shop"
)

// slipway is the demo, its map and its rules.
func slipway(t *testing.T) (*shop.Shop, *access.Map, *hazard.Rules) {
	s, err := shop.Read(demo.Slipway)
	require.NoError(t, err)
	m, err := access.NewMap(s)
	require.NoError(t, err)
	return s, m, hazard.New(m)
}

func TestWhatIsNeededAtOnceIsInSightAndAtHand(t *testing.T) {
	s, m, rules := slipway(t)
	ix := shop.NewIndex(s)
	blanket, plane := ix.Item("fire-blanket"), ix.Item("jack-plane")
	require.NotNil(t, plane)
	assert.True(t, rules.Urgent(blanket))
	assert.False(t, rules.Urgent(plane))
	open, closed := 0, 0
	for i := range s.Places {
		f := m.Front(i)
		if f.Area == nil {
			continue
		}
		assert.NotContains(t, rules.Bars(plane, i), "at once")
		if f.Closed {
			closed++
			assert.Contains(t, rules.Bars(blanket, i), "in sight", s.Places[i].ID)
			continue
		}
		open++
		assert.Empty(t, rules.Bars(blanket, i), s.Places[i].ID)
		assert.Empty(t, rules.Height(blanket, i, hazard.AtHand-f.Z), s.Places[i].ID)
		assert.Contains(t, quantity.Metric(rules.Height(blanket, i, hazard.AtHand-f.Z+1)), "no higher than 1500 mm", s.Places[i].ID)
		assert.NotContains(t, rules.Height(plane, i, hazard.AtHand-f.Z+1), "at once", s.Places[i].ID)
	}
	assert.Positive(t, open)
	assert.Positive(t, closed)
}

func TestAChildIsKeptFromWhatHarmsItUnlessItIsHighOrLocked(t *testing.T) {
	s, m, rules := slipway(t)
	top := hazard.ChildReach(s)
	require.InDelta(t, 1.25*1180, top, 1e-6)
	it := shop.Item{ID: "lye", Name: "Lye", Flags: []shop.Flag{"child"}}
	locked := 0
	for i := range s.Places {
		f := m.Front(i)
		if f.Area == nil {
			continue
		}
		low, high := rules.Height(&it, i, top-f.Z-1), rules.Height(&it, i, top-f.Z)
		assert.Empty(t, high)
		if f.Locked {
			locked++
			assert.Empty(t, low)
		} else {
			assert.Contains(t, quantity.Metric(low), "a child reaches up to 1475 mm")
		}
	}
	assert.Positive(t, locked)
}

// What is barred at every height of a range is barred at each of many in it, and what is barred at each of many at every one.
func TestWhatIsBarredAtEveryHeightIsBarredAtEach(t *testing.T) {
	s, m, rules := slipway(t)
	never, some := 0, 0
	rapid.Check(t, func(rt *rapid.T) {
		it := *rapid.SampledFrom([]*shop.Item{m.Index.Item("fire-blanket"), m.Index.Item("jack-plane")}).Draw(rt, "item")
		it.Flags = rapid.SampledFrom([][]shop.Flag{nil, {"sharp"}, {"child"}, {"sharp", "child"}}).Draw(rt, "flags")
		place := rapid.IntRange(0, len(s.Places)-1).Draw(rt, "place")
		z := m.Front(place).Z
		low := rapid.Float64Range(0, 2000).Draw(rt, "low") - z
		high := low + rapid.Float64Range(0, 800).Draw(rt, "range")
		all := true
		for k := range 401 {
			all = all && rules.Height(&it, place, low+(high-low)*float64(k)/400) != ""
		}
		for _, e := range rules.Edges(&it, place) { // a range that only an edge lies in
			if e >= low && e <= high {
				all = all && rules.Height(&it, place, e) != ""
			}
		}
		if got := rules.NeverAt(&it, place, low, high); got != all {
			rt.Fatalf("%v in %s from %.1f to %.1f mm above the floor: %v, at 401 heights %v", it.Flags, s.Places[place].ID, low+z, high+z, got, all)
		}
		if all {
			never++
		} else {
			some++
		}
	})
	assert.Positive(t, never)
	assert.Positive(t, some)
}
