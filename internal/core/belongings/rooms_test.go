package belongings_test

import (
	"testing"

	"github.com/stretchr/testify/require"

	"hobrak/internal/core/belongings"
	"hobrak/internal/core/shoptest"
)

func TestAdviceAboutAnyListIsFinite(t *testing.T) {
	for seed := range shoptest.Seeds(60) {
		s := shoptest.Random(seed, shoptest.Size{Areas: 1, Stations: 4, Containers: 3, Places: 6, Items: 40, Homes: true})
		require.NoError(t, shoptest.Finite(belongings.Duplicates(s)), "seed %d", seed)
		require.NoError(t, shoptest.Finite(belongings.Families(s)), "seed %d", seed)
		require.NoError(t, shoptest.Finite(belongings.Seldom(s)), "seed %d", seed)
		if _, err := belongings.NewStation(s, "router table"); err == nil {
			require.NoError(t, s.Validate(), "seed %d", seed)
		}
		for i := len(s.Items) - 1; i >= 0; i -= 3 {
			require.NoError(t, belongings.Remove(s, []string{s.Items[i].ID}))
		}
		require.NoError(t, s.Validate(), "seed %d", seed)
	}
}
