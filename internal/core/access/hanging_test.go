package access_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"hobrak/demo"
	"hobrak/internal/core/access"
	"hobrak/internal/core/shop"
)

func TestWhatHangsIsListedWithItsHeightAndFootprint(t *testing.T) {
	s, err := shop.Read(demo.Slipway)
	require.NoError(t, err)
	ix := shop.NewIndex(s)
	a := &s.Areas[0]
	all := map[string]access.Hanging{}
	for _, h := range access.HangingIn(s, ix, a) {
		all[h.ID] = h
		for _, p := range h.Footprint {
			assert.True(t, a.Outline().Contains(p) || a.Outline().Distance(p) < 5, h.ID)
		}
		assert.Positive(t, h.Footprint.Area(), "%s runs anticlockwise", h.ID)
	}
	b1 := all["B1"]
	assert.Equal(t, 1, b1.Wall)
	assert.Equal(t, []float64{1000, 2150}, []float64{b1.From, b1.To})
	assert.InDelta(t, 2000*220, b1.Footprint.Area(), 1)
	assert.Equal(t, -1, all["E1"].Wall, "under the ceiling")
	assert.NotContains(t, all, "K2", "it stands on the floor")
	assert.NotContains(t, all, "N1", "a drawer in a bench hangs nowhere")
}

func TestMainWaysLeadFromTheDoorToEveryStation(t *testing.T) {
	s, err := shop.Read(demo.Slipway)
	require.NoError(t, err)
	m, err := access.NewMap(s)
	require.NoError(t, err)
	ways := m.MainWays(&m.Shop.Areas[0])
	require.Len(t, ways, len(s.Stations))
	for _, w := range ways {
		assert.Equal(t, ways[0][0], w[0], "all begin at the main door")
		for _, p := range w {
			assert.True(t, m.Shop.Areas[0].Outline().Contains(p))
		}
	}
	s.Areas[0].Walls[0].Features, s.Areas[0].Walls[2].Features = nil, nil
	m, err = access.NewMap(s)
	require.NoError(t, err)
	assert.Empty(t, m.MainWays(&m.Shop.Areas[0]), "no door, no way in")
}
