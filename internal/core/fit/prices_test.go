package fit_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"hobrak/internal/core/fit"
	"hobrak/internal/core/shop"
	"hobrak/internal/core/shoptest"
)

// What is left out because it cannot be cheaper is never what is: each offer is the cheapest of all spots, one after the other.
func TestNothingCheaperIsOverlooked(t *testing.T) {
	look := func(s *shop.Shop, seed uint64) int {
		p, err := fit.ByHours(s, func() bool { return false })
		require.NoError(t, err)
		wrong, offers := p.Overlooked(seed)
		require.Empty(t, wrong, "seed %d", seed)
		return offers
	}
	offers := 0
	for seed := range shoptest.Seeds(6) {
		offers += look(mixed(t, seed), seed)
		offers += look(shoptest.Random(seed, shoptest.Size{Items: 30, Places: 12}), seed)
	}
	offers += look(shoptest.Made(60, 8, 1), 1)
	assert.Positive(t, offers)
	t.Logf("%d offers", offers)
}
