package shoptest_test

import (
	"slices"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"hobrak/internal/core/shop"
	"hobrak/internal/core/shoptest"
)

func TestRandomShopsAreValidAndOfEveryKind(t *testing.T) {
	seen := map[string]int{}
	homes := 0
	for seed := range uint64(150) {
		s := shoptest.Random(seed, shoptest.Few)
		data := shop.Write(s)
		again, err := shop.Read(data)
		require.NoError(t, err, "seed %d", seed)
		require.Equal(t, string(data), string(shop.Write(again)), "seed %d", seed)
		for _, a := range s.Areas {
			for _, w := range a.Walls {
				for _, f := range w.Features {
					seen[string(f.Kind)]++
				}
			}
			if a.Floor != nil {
				for _, f := range a.Floor.Features {
					seen[f.Kind]++
				}
			}
		}
		for _, p := range s.Places {
			seen[string(p.Kind)]++
		}
		for _, c := range s.Containers {
			seen[string(c.Kind)]++
		}
		homes += len(s.Homes)
	}
	kinds := slices.Concat(shop.FeatureKind("").Words(), shop.PlaceKind("").Words(), shop.ContainerKind("").Words(), []string{"post", "step", "drain", "pit"})
	for _, kind := range kinds {
		assert.Positive(t, seen[kind], kind)
	}
	assert.Greater(t, homes, 150)
}
