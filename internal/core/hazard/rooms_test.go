package hazard_test

import (
	"testing"

	"github.com/stretchr/testify/require"

	"hobrak/internal/core/access"
	"hobrak/internal/core/hazard"
	"hobrak/internal/core/shoptest"
)

func TestRulesOfAnyRoomAnswerForEveryThingAndPlace(t *testing.T) {
	barred := 0
	for seed := range shoptest.Seeds(40) {
		s := shoptest.Random(seed, shoptest.Few)
		m, err := access.NewMap(s)
		require.NoError(t, err)
		r := hazard.New(m)
		require.NoError(t, shoptest.Finite(hazard.ChildReach(s)))
		for i := range s.Items {
			for p := range s.Places {
				if r.Bars(&s.Items[i], p) != "" || r.Height(&s.Items[i], p, 300) != "" {
					barred++
				}
				for _, near := range r.Near(p) {
					require.Contains(t, r.Near(near), p, "nearness goes both ways")
				}
			}
		}
	}
	require.Positive(t, barred)
}
