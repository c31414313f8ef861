package storage_test

import (
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"hobrak/demo"
	"hobrak/internal/core/access"
	"hobrak/internal/core/check"
	"hobrak/internal/core/length"
	"hobrak/internal/core/shop"
	"hobrak/internal/core/storage"
)

func TestADraggedPlaceIsToldWhatForbidsASpotAndWhatItCosts(t *testing.T) {
	s, err := shop.Read(demo.Slipway)
	require.NoError(t, err)
	m, err := access.NewMap(s)
	require.NoError(t, err)
	before, err := check.Shop(s)
	require.NoError(t, err)
	try := func(id, wall string, x, z float64) *storage.Trial {
		got, err := storage.Try(m, before, id, shop.At{Wall: wall, X: length.MM(x), Z: length.MM(z)})
		require.NoError(t, err)
		return got
	}
	here := try("B6", "B", 4950, 1660)
	assert.True(t, here.Allowed, here.Broken)
	assert.InDelta(t, here.Now, here.Seconds, 1e-9)
	assert.Positive(t, here.Now)

	over := try("B6", "B", 3700, 1800)
	assert.False(t, over.Allowed)
	assert.Contains(t, strings.Join(over.Broken, " "), "B2")
	high := try("B6", "B", 4950, 2900)
	assert.False(t, high.Allowed)
	assert.Contains(t, high.Broken[0], "high there")

	// A cabinet takes what is in it along, and what is used there costs more far away.
	moved := try("K4", "B", 5600, 1350)
	assert.True(t, moved.Allowed, moved.Broken)
	assert.InDelta(t, moved.Now, moved.Seconds, .2*moved.Now)

	_, err = storage.Try(m, before, "K2-1", shop.At{Wall: "B"})
	assert.ErrorContains(t, err, "is part of K2")
	assert.Equal(t, length.MM(4950), shop.NewIndex(s).Place("B6").At.X, "the shop stays as it is")
}

func BenchmarkTryingAPlaceElsewhere(b *testing.B) {
	s, err := shop.Read(demo.Slipway)
	require.NoError(b, err)
	m, err := access.NewMap(s)
	require.NoError(b, err)
	before, err := check.Shop(s)
	require.NoError(b, err)
	for b.Loop() {
		if _, err := storage.Try(m, before, "B6", shop.At{Wall: "B", X: length.MM(4900), Z: length.MM(1660)}); err != nil {
			b.Fatal(err)
		}
	}
}
