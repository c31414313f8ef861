package scene_test

import (
	"slices"
	"testing"

	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"hobrak/demo"
	"hobrak/internal/core/scene"
	"hobrak/internal/core/shop"
)

// The heights at which reach changes are remembered by column; they are those of the modes themselves, at any spot of a place and beside it.
func TestRememberedBreaksAreThoseOfTheModes(t *testing.T) {
	for _, data := range [][]byte{demo.Slipway, demo.Pantry} {
		s, err := shop.Read(data)
		require.NoError(t, err)
		scenes, err := scene.ByHours(s)
		require.NoError(t, err)
		rapid.Check(t, func(t *rapid.T) {
			place := rapid.IntRange(0, len(s.Places)-1).Draw(t, "place")
			w := s.Places[place].W.MM()
			x := rapid.Float64Range(-150, w+150).Draw(t, "x")
			var want []float64
			for i := range scenes.All {
				want = append(want, scenes.All[i].Map.Breaks(place, x)...)
			}
			slices.Sort(want)
			got := scenes.Breaks(place, x)
			require.ElementsMatch(t, slices.Compact(want), got, "%s at %.0f of %.0f mm", s.Places[place].ID, x, w)
			require.True(t, slices.IsSorted(got))
		})
	}
}
