package whatif_test

import (
	"testing"

	"github.com/stretchr/testify/require"

	"hobrak/internal/core/shoptest"
	"hobrak/internal/core/whatif"
)

func TestWhatIsWonderedAboutAnyRoomIsAShopThatCanBe(t *testing.T) {
	applied := 0
	for seed := range shoptest.Seeds(60) {
		s := shoptest.Random(seed, shoptest.Few)
		changes := []whatif.Change{{Wall: "A"}, {Sessions: 2}, {Family: "planes", More: .5}, {Stature: 1_600_000}}
		if len(s.Places) > 0 {
			changes = append(changes, whatif.Change{Without: s.Places[0].ID})
		}
		if len(s.Containers) > 0 {
			changes = append(changes, whatif.Change{Without: s.Containers[0].ID})
		}
		for _, c := range changes {
			next, says, err := whatif.Apply(s, c)
			if err != nil {
				continue
			}
			applied++
			require.NotEmpty(t, says)
			require.NoError(t, next.Validate(), "seed %d: %s", seed, says)
		}
	}
	require.Positive(t, applied)
}
