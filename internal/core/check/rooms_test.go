package check_test

import (
	"testing"

	"github.com/stretchr/testify/require"

	"hobrak/internal/core/check"
	"hobrak/internal/core/shoptest"
)

func TestFindingsInAnyRoomAreWholeSentencesWithFiniteFigures(t *testing.T) {
	codes := map[string]bool{}
	for seed := range shoptest.Seeds(120) {
		found, err := check.Shop(shoptest.Random(seed, shoptest.Few))
		require.NoError(t, err)
		require.NoError(t, shoptest.Finite(found), "seed %d", seed)
		for _, f := range found {
			require.NotEmpty(t, f.What)
			require.NotContains(t, f.What, "%!", "seed %d", seed)
			codes[f.Code] = true
		}
	}
	require.Greater(t, len(codes), 15)
}
