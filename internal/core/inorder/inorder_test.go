package inorder_test

import (
	"fmt"
	"math/bits"
	"slices"
	"testing"

	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"hobrak/internal/core/inorder"
	"hobrak/internal/core/length"
	"hobrak/internal/core/shop"
)

// A row of things in any order: it is in order when those that are to move have moved, and of all sets that could stay none is larger.
func TestAsFewAsCanBeAreMovedIntoOrder(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		n := rapid.IntRange(0, 9).Draw(t, "things")
		s := &shop.Shop{Places: []shop.Place{{ID: "B1", Kind: "rail", At: shop.At{Wall: "B"}}}}
		sizes := rapid.SliceOfN(rapid.IntRange(1, 6), n, n).Draw(t, "sizes")
		for i, size := range sizes {
			mm := length.MM(float64(50 * size))
			s.Items = append(s.Items, shop.Item{ID: fmt.Sprintf("i%d", i), Name: fmt.Sprintf("Chisel %c", 'a'+rune(rapid.IntRange(0, 5).Draw(t, "letter"))), W: mm, H: mm, D: mm, UsesPerWeek: float64(rapid.IntRange(0, 4).Draw(t, "uses")), Kind: []string{"saw", "plane"}[i%2]})
			s.Homes = append(s.Homes, shop.Home{Item: s.Items[i].ID, Place: "B1", Slot: i})
		}
		by := rapid.SampledFrom([]shop.Ordering{shop.ByUse, shop.ByName, shop.BySize, shop.ByKind}).Draw(t, "by")
		row := inorder.Of(s, &s.Places[0], by)
		require.Len(t, row.Things, n)
		at := map[string]int{}
		for i := range s.Items {
			at[s.Items[i].ID] = i
		}
		// Those that stay are in today's order among themselves.
		last := -1
		moves := 0
		for _, x := range row.Things {
			if x.Moves {
				moves++
				continue
			}
			require.Greater(t, at[x.Item], last)
			last = at[x.Item]
		}
		require.Equal(t, moves, row.Moves)
		most := 0
		for set := uint(0); set < 1<<n; set++ {
			var kept []int
			for i, x := range row.Things {
				if set>>i&1 == 1 {
					kept = append(kept, at[x.Item])
				}
			}
			if slices.IsSorted(kept) {
				most = max(most, bits.OnesCount(set))
			}
		}
		require.Equal(t, n-most, row.Moves)
		if by == shop.BySize {
			for i := 1; i < n; i++ {
				require.LessOrEqual(t, s.Items[at[row.Things[i-1].Item]].W, s.Items[at[row.Things[i].Item]].W)
			}
		}
	})
}
