package inorder_test

import (
	"cmp"
	"fmt"
	"math/bits"
	"slices"
	"testing"

	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"hobrak/internal/core/inorder"
	"hobrak/internal/core/length"
	"hobrak/internal/core/shop"
	"hobrak/internal/core/weight"
)

// A row of things in any order: it is in order when those that are to move have moved, and of all sets that could stay none is larger.
func TestAsFewAsCanBeAreMovedIntoOrder(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		n := rapid.IntRange(0, 9).Draw(t, "things")
		s := &shop.Shop{Places: []shop.Place{{ID: "B1", Kind: "rail", At: shop.At{Wall: "B"}}}, Stations: []shop.Station{{ID: "bench"}, {ID: "lathe"}}}
		var words []shop.Ordering
		for _, w := range shop.Ordering("").Words() {
			words = append(words, shop.Ordering(w))
		}
		kits := rapid.SliceOfN(rapid.IntRange(-1, 1), n, n).Draw(t, "kits")
		sizes := rapid.SliceOfN(rapid.IntRange(1, 6), n, n).Draw(t, "sizes")
		for i, size := range sizes {
			mm := length.MM(float64(50 * size))
			s.Items = append(s.Items, shop.Item{ID: fmt.Sprintf("i%d", i), Name: fmt.Sprintf("Chisel %c", 'a'+rune(rapid.IntRange(0, 5).Draw(t, "letter"))), W: mm, H: mm, D: mm, UsesPerWeek: float64(rapid.IntRange(0, 4).Draw(t, "uses")), Kind: []string{"saw", "plane"}[i%2],
				KG: weight.KG(float64(size) / 2), UsedAt: []string{s.Stations[rapid.IntRange(0, 1).Draw(t, "at")].ID}})
			if len(s.Kits) == 0 {
				s.Kits = []shop.Kit{{ID: "a"}, {ID: "b"}}
			}
			if k := kits[i]; k >= 0 {
				s.Kits[k].Items = append(s.Kits[k].Items, shop.KitItem{Item: s.Items[i].ID})
			}
			s.Homes = append(s.Homes, shop.Home{Item: s.Items[i].ID, Place: "B1", Slot: i})
		}
		by := rapid.SampledFrom(words).Draw(t, "by")
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
		for i := 1; i < n; i++ { // judged by what the order is about
			a, b := at[row.Things[i-1].Item], at[row.Things[i].Item]
			job := func(k int) int { return cmp.Or(kits[k]+1, 3) }
			switch by {
			case shop.ByJob:
				require.LessOrEqual(t, job(a), job(b))
			case shop.ByMachine:
				require.LessOrEqual(t, s.Items[a].UsedAt[0], s.Items[b].UsedAt[0])
			case shop.ByWeight:
				require.LessOrEqual(t, s.Items[a].KG, s.Items[b].KG)
			}
		}
		if by == shop.BySize {
			for i := 1; i < n; i++ {
				require.LessOrEqual(t, s.Items[at[row.Things[i-1].Item]].W, s.Items[at[row.Things[i].Item]].W)
			}
		}
	})
}
