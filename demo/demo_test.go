package demo_test

import (
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"hobrak/demo"
	"hobrak/internal/core/check"
	"hobrak/internal/core/due"
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
	assert.InDelta(t, 285, pieces, 20)
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

// A year gives each demo what is due and what a review asks for, breaks no rule, and is the same each time.
func TestAYearIsBelievableAndTheSameEachTime(t *testing.T) {
	today := time.Date(2026, 11, 30, 0, 0, 0, 0, time.UTC)
	for name, data := range map[string][]byte{"slipway": demo.Slipway, "pantry": demo.Pantry} {
		s, err := shop.Read(data)
		require.NoError(t, err)
		before := demo.Year(s, today)
		require.NoError(t, s.Validate(), name)
		require.NoError(t, before.Validate(), name)
		again, err := shop.Read(data)
		require.NoError(t, err)
		demo.Year(again, today)
		assert.Equal(t, string(shop.Write(s)), string(shop.Write(again)))
		assert.Greater(t, len(s.Events), 500, name)
		list, err := due.Of(s, due.NewTally(s.Events), nil, "2026-11-30")
		require.NoError(t, err)
		assert.GreaterOrEqual(t, len(list), 3, name)
		for _, e := range s.Events {
			assert.LessOrEqual(t, e.At, "2026-11-30")
		}
	}
}
