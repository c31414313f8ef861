package hazard_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"hobrak/demo"
	"hobrak/internal/core/access"
	"hobrak/internal/core/hazard"
	"hobrak/internal/core/quantity"
	"hobrak/internal/core/shop"
)

func TestWhatIsNeededAtOnceIsInSightAndAtHand(t *testing.T) {
	s, err := shop.Read(demo.Slipway)
	require.NoError(t, err)
	m, err := access.NewMap(s)
	require.NoError(t, err)
	rules := hazard.New(m)
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
	s, err := shop.Read(demo.Slipway)
	require.NoError(t, err)
	m, err := access.NewMap(s)
	require.NoError(t, err)
	rules := hazard.New(m)
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
