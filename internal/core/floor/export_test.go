package floor

import (
	"math"
	"math/rand/v2"

	"github.com/stretchr/testify/require"

	"hobrak/internal/core/shop"
)

// BestOfRandom makes arrangements at random, each station at one of the spots it might have, until so many are
// allowed, and gives the least that is walked in one.
func BestOfRandom(t require.TestingT, s *shop.Shop, all []shop.Station, many int, rng *rand.Rand) (best float64, lawful int) {
	g, err := Of(s, &s.Areas[0], "")
	require.NoError(t, err)
	best = math.Inf(1)
	for tries := 0; lawful < many && tries < 40*many; tries++ {
		on := g
		done := 0
		for _, i := range rng.Perm(len(all)) {
			spots := on.spots(&all[i], Wish{})
			found := false
			for range 60 {
				at := &spots[rng.IntN(len(spots))].st
				if on.At(at) == nil {
					on, found = on.with(at), true
					done++
					break
				}
			}
			if !found {
				break
			}
		}
		if done < len(all) {
			continue
		}
		if w := on.walking(); !math.IsInf(w, 1) {
			lawful++
			best = min(best, w)
		}
	}
	return best, lawful
}
