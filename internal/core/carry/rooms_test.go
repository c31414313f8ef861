package carry_test

import (
	"testing"

	"github.com/stretchr/testify/require"

	"hobrak/internal/core/carry"
	"hobrak/internal/core/shop"
	"hobrak/internal/core/shoptest"
)

func TestWhatAnyPlaceCarriesIsFinite(t *testing.T) {
	screwed := 0
	for seed := range shoptest.Seeds(80) {
		s := shoptest.Random(seed, shoptest.Few)
		ix := shop.NewIndex(s)
		stock := carry.Of(s, ix)
		for i := range s.Places {
			p := &s.Places[i]
			held := stock.Place(p)
			require.NoError(t, shoptest.Finite(held), "seed %d", seed)
			require.GreaterOrEqual(t, held.KG, 0.0)
			v := carry.Screwed(p.Fixing, p.Capacity.KG(), "plywood", held)
			require.NoError(t, shoptest.Finite(v), "seed %d", seed)
			if v.Rated {
				screwed++
			}
			if p.Kind == "arms" {
				require.NoError(t, shoptest.Finite(stock.Rack(p)), "seed %d", seed)
			}
			if p.Kind == "shelf" {
				if g, err := carry.Shelf(p, held.KG); err == nil {
					require.NoError(t, shoptest.Finite(g), "seed %d", seed)
				}
			}
		}
		for i := range s.Containers {
			require.NoError(t, shoptest.Finite(stock.Container(&s.Containers[i])), "seed %d", seed)
			if a, err := stock.TiltOn(&s.Containers[i], &s.Areas[0]); err == nil {
				require.NoError(t, shoptest.Finite(a), "seed %d", seed)
			}
		}
	}
	require.Positive(t, screwed)
}
