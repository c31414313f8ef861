package demo_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"hobrak/demo"
	"hobrak/internal/core/check"
	"hobrak/internal/core/length"
	"hobrak/internal/core/shop"
)

func TestDemosAreValidAndBreakNoRule(t *testing.T) {
	for name, data := range map[string][]byte{"slipway": demo.Slipway, "pantry": demo.Pantry} {
		s, err := shop.Read(data)
		require.NoError(t, err, name)
		assert.Equal(t, string(data), string(shop.Write(s)), "%s is in the form Write gives", name)
		found, err := check.Shop(s)
		require.NoError(t, err)
		for _, f := range found {
			assert.False(t, f.Hard, "%s: %s", name, f)
		}
	}
}

func TestSlipwayIsComplete(t *testing.T) {
	s, err := shop.Read(demo.Slipway)
	require.NoError(t, err)
	assert.Len(t, s.Stations, 11)
	assert.GreaterOrEqual(t, len(s.Places), 30)
	kinds := map[shop.PlaceKind]bool{}
	for _, p := range s.Places {
		kinds[p.Kind] = true
	}
	assert.GreaterOrEqual(t, len(kinds), 8)
	pieces, homed := 0, map[string]bool{}
	for _, h := range s.Homes {
		homed[h.Item] = true
	}
	for i := range s.Items {
		pieces += s.Items[i].Number()
	}
	assert.InDelta(t, 160, len(s.Items), 5)
	assert.InDelta(t, 240, pieces, 20)
	assert.Equal(t, 25, len(s.Items)-len(homed), "things without a home")
}

func TestPantryIsInFeetAndInches(t *testing.T) {
	s, err := shop.Read(demo.Pantry)
	require.NoError(t, err)
	assert.Equal(t, length.Imperial, s.Settings.Units)
	style := length.Style{System: s.Settings.Units}
	assert.Equal(t, `7' 4"`, style.Format(s.Areas[0].Frame(1).Length))
	assert.Equal(t, `9' 2"`, style.Format(s.Areas[0].Frame(0).Length))
}
