package round_test

import (
	"slices"
	"testing"

	"github.com/stretchr/testify/require"

	"hobrak/internal/core/fit"
	"hobrak/internal/core/round"
	"hobrak/internal/core/shop"
	"hobrak/internal/core/shoptest"
)

func TestTheRoundOfAnyRoomCanBeShown(t *testing.T) {
	for seed := range shoptest.Seeds(100) {
		s := shoptest.Random(seed, shoptest.Few)
		p, err := fit.New(s)
		require.NoError(t, err)
		e := p.AsItIs()
		r := round.Of(e)
		require.NoError(t, shoptest.Finite(r), "seed %d", seed)
		for _, h := range s.Homes {
			require.True(t, slices.ContainsFunc(r.Items, func(it round.Item) bool { return it.ID == h.Item && it.Place != "" }) || !s.Items[slices.IndexFunc(s.Items, func(it shop.Item) bool { return it.ID == h.Item })].Needs(), "seed %d: %s", seed, h.Item)
		}
	}
}
