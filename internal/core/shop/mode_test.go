package shop_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"hobrak/demo"
	"hobrak/internal/core/length"
	"hobrak/internal/core/shop"
)

func TestAShopIsArrangedAsAModeHasIt(t *testing.T) {
	s, err := shop.Read(demo.Slipway)
	require.NoError(t, err)
	was := string(shop.Write(s))
	_, err = s.InMode("party")
	assert.EqualError(t, err, `there is no mode "party"; there are day, milling, gluing, evening`)
	s.Places[0].When = []string{"day"}
	out, err := s.InMode("evening")
	require.NoError(t, err)
	ix, old := shop.NewIndex(out), shop.NewIndex(s)
	assert.Equal(t, shop.Point{length.MM(800), length.MM(1300)}, *ix.Container("K3").At.Floor)
	assert.InDelta(t, 90, ix.Container("K3").At.Rot, 0)
	assert.Less(t, ix.Station("assembly").D, old.Station("assembly").D, "it is folded")
	assert.True(t, out.Places[0].At.Away, "it is reached by day only")
	assert.Equal(t, s.Homes, out.Homes)
	day, err := s.InMode("day")
	require.NoError(t, err)
	assert.Equal(t, s.Places, day.Places)
	s.Places[0].When = nil
	assert.Equal(t, was, string(shop.Write(s)), "the shop itself is as it was")

	// A table stood elsewhere is worked at from there.
	s.Modes[1].Spots["assembly"] = shop.Standing{Floor: shop.Point{length.MM(500), length.MM(700)}}
	out, err = s.InMode("evening")
	require.NoError(t, err)
	a, b := shop.NewIndex(s).Station("assembly"), shop.NewIndex(out).Station("assembly")
	assert.Equal(t, b.Stand[0]-b.X, a.Stand[0]-a.X)
	assert.Equal(t, b.Stand[1]-b.Y, a.Stand[1]-a.Y)
}
