package access_test

import (
	"testing"

	"github.com/stretchr/testify/require"

	"hobrak/internal/core/access"
	"hobrak/internal/core/keeping"
	"hobrak/internal/core/shoptest"
)

func TestWhatStandsAndHangsInAnyRoomHasFiniteHeights(t *testing.T) {
	posts := 0
	for seed := range shoptest.Seeds(60) {
		s := shoptest.Random(seed, shoptest.Few)
		m, err := access.NewMap(s)
		require.NoError(t, err)
		for i := range s.Areas {
			a := &s.Areas[i]
			standing := access.StandingIn(s, m.Index, a)
			require.NoError(t, shoptest.Finite(standing), "seed %d", seed)
			require.NoError(t, shoptest.Finite(access.HangingIn(s, m.Index, a)), "seed %d", seed)
			require.NoError(t, shoptest.Finite(m.MainWays(a)), "seed %d", seed)
			for _, x := range standing {
				if x.Built {
					posts++
					require.Equal(t, a.Highest().MM(), x.Height, "a post goes up to the roof")
				}
			}
		}
		for i := range s.Homes {
			h := &s.Homes[i]
			it, place := m.Index.Item(h.Item), m.PlaceNumber(h.Place)
			u := m.UseOf(it)
			if cost, ok := m.Weekly(&u, place, keeping.GripOf(&s.Places[place], it, h), 0); ok {
				require.NoError(t, shoptest.Finite(cost), "seed %d, %s", seed, h.Item)
			}
		}
	}
	require.Positive(t, posts)
}
