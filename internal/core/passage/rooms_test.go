package passage_test

import (
	"testing"

	"github.com/stretchr/testify/require"

	"hobrak/internal/core/access"
	"hobrak/internal/core/passage"
	"hobrak/internal/core/shoptest"
)

func TestVerdictsInAnyRoomAreFiniteAndSayWhatLimits(t *testing.T) {
	fits := 0
	for seed := range shoptest.Seeds(15) {
		s := shoptest.Random(seed, shoptest.Few)
		m, err := access.NewMap(s)
		require.NoError(t, err)
		for i := range s.Areas {
			r := passage.NewRoom(m, &s.Areas[i])
			for _, p := range []passage.Piece{{A: 600, B: 200, C: 20}, {A: 2440, B: 1220, C: 18}, {A: 4800, B: 150, C: 40}} {
				for _, v := range r.Judge(p) {
					require.NoError(t, shoptest.Finite(v), "seed %d", seed)
					if v.Fits {
						fits++
					}
				}
			}
		}
	}
	require.Positive(t, fits)
}
