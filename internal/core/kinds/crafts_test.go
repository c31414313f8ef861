package kinds_test

import (
	"slices"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"hobrak/internal/core/kinds"
	"hobrak/internal/core/shop"
)

func TestCraftsNameKindsThatThereAre(t *testing.T) {
	assert.ElementsMatch(t, shop.Choices[shop.Settings]("makes"), kinds.CraftIDs(), "what the shop file may say")
	for _, c := range kinds.Crafts {
		assert.GreaterOrEqual(t, len(c.Kinds), 15, c.ID)
		for i, id := range c.Kinds {
			_, ok := kinds.ByID(id)
			assert.True(t, ok, "%s: %s", c.ID, id)
			assert.NotContains(t, c.Kinds[:i], id, c.ID)
		}
	}
}

// Every kind has a rank of its own whatever one makes, those of the crafts come first, and a search finds a kind by the
// beginning of each of its names.
func TestKindsAreRankedByWhatOneMakes(t *testing.T) {
	for _, makes := range [][]string{nil, {"carving"}, {"boats", "repair"}, kinds.CraftIDs()} {
		rank := kinds.Rank(makes)
		require.Len(t, rank.Of, len(kinds.All()))
		taken := make([]bool, len(rank.Of))
		for _, r := range rank.Of {
			require.False(t, taken[r])
			taken[r] = true
		}
		for _, c := range kinds.Crafts {
			if slices.Contains(makes, c.ID) {
				assert.Less(t, rank.Of[c.Kinds[0]], len(makes), "the first of each comes among the first")
			}
		}
		for _, k := range kinds.All() {
			for _, name := range append([]string{k.Name}, k.Also...) {
				list := kinds.Like(name, rank)
				assert.True(t, slices.ContainsFunc(list, func(x kinds.Kind) bool { return x.ID == k.ID }), name)
			}
		}
	}
	assert.Equal(t, "carving-gouge", kinds.Like("g", kinds.Rank([]string{"carving"}))[0].ID)
	assert.Equal(t, "marking-knife", kinds.Like("mk", kinds.Rank(nil))[0].ID, "the first letters of its words")
	assert.Equal(t, "turning-gouge", kinds.Like("gouge", kinds.Rank([]string{"turning"}))[0].ID)
}
