package free_test

import (
	"testing"

	"github.com/stretchr/testify/require"

	"hobrak/internal/core/access"
	"hobrak/internal/core/free"
	"hobrak/internal/core/shoptest"
)

func TestFreeSpaceInAnyRoomIsFiniteAndInsideIt(t *testing.T) {
	regions := 0
	for seed := range shoptest.Seeds(60) {
		s := shoptest.Random(seed, shoptest.Few)
		m, err := access.NewMap(s)
		require.NoError(t, err)
		r := free.Of(m)
		require.NoError(t, shoptest.Finite(r), "seed %d", seed)
		for i := range s.Areas {
			_, head := free.KeptClear(m, &s.Areas[i])
			require.NoError(t, shoptest.Finite(head))
		}
		for _, w := range r.Walls {
			regions += len(w.Regions)
		}
	}
	require.Positive(t, regions)
}
