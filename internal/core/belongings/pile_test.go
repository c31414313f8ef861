package belongings_test

import (
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"hobrak/internal/core/belongings"
	"hobrak/internal/core/learn"
	"hobrak/internal/core/shop"
	"hobrak/internal/core/shoptest"
)

// Going through any pile of any shop leaves a shop that can be written, in which what was decided is so; what is won is never more
// than the piles were large.
func TestPilesAreGoneThrough(t *testing.T) {
	decided := 0
	for seed := range shoptest.Seeds(60) {
		s := shoptest.Random(seed, shoptest.Few)
		piles := []string{belongings.PileSeldom, belongings.PileUnopened, belongings.PileHomeless, belongings.PileLimbo}
		for i := range s.Places {
			piles = append(piles, s.Places[i].ID)
		}
		wall, litres := belongings.Winning(s).Wall, belongings.Winning(s).Litres
		went := map[string]bool{}
		for _, of := range piles {
			list, err := belongings.Pile(s, of, learn.Seen{}, time.Now())
			require.NoError(t, err)
			for k, x := range list {
				if k > 0 {
					require.LessOrEqual(t, x.Wall*100+x.Litres, list[k-1].Wall*100+list[k-1].Litres+1e-9, "the largest first")
				}
				what := append([]string{"keep", "elsewhere", "decide"}, belongings.Ways...)[(int(seed)+k)%8]
				require.NoError(t, belongings.Decide(s, x.Item, what, "2027-05-31"))
				decided++
				it := shop.NewIndex(s).Item(x.Item)
				switch what {
				case "keep":
					assert.True(t, it.Keep)
					assert.NotEqual(t, "limbo", it.Status)
				case "elsewhere":
					assert.Empty(t, shop.NewIndex(s).Homes(x.Item))
				case "decide":
					assert.Equal(t, "2027-05-31", it.Review)
				default:
					assert.Equal(t, what, it.GoesTo)
					if !went[x.Item] && x.Goes == "" {
						wall, litres = wall+x.Wall, litres+x.Litres
					}
					went[x.Item] = true
				}
			}
		}
		require.NoError(t, s.Validate(), "seed %d", seed)
		won := belongings.Winning(s)
		assert.LessOrEqual(t, won.Wall, wall+1e-9, "seed %d", seed)
		assert.LessOrEqual(t, won.Litres, litres+1e-6, "seed %d", seed)
	}
	assert.Positive(t, decided)
	_, err := belongings.Pile(&shop.Shop{}, "nowhere", learn.Seen{}, time.Now())
	assert.ErrorContains(t, err, "there is no pile")
	s := shoptest.Random(3, shoptest.Few)
	require.ErrorContains(t, belongings.Decide(s, s.Items[0].ID, "decide", "soon"), "should be a day")
	require.ErrorContains(t, belongings.Decide(s, "nothing", "keep", ""), "there is no thing")
	require.ErrorContains(t, belongings.Decide(s, s.Items[0].ID, "eat", ""), "nothing to decide")
}

// A box is unopened when nothing in it was used for a year, of what is said as long as the log is young.
func TestABoxThatWasNotOpenedForAYear(t *testing.T) {
	s := &shop.Shop{
		Containers: []shop.Container{{ID: "K1", Kind: "tote", Portable: true}, {ID: "K2", Kind: "tote", Portable: true}, {ID: "K3", Kind: "chest"}},
		Places:     []shop.Place{{ID: "K1-1", Kind: "bin", At: shop.At{In: "K1"}}, {ID: "K2-1", Kind: "bin", At: shop.At{In: "K2"}}, {ID: "K3-1", Kind: "drawer", At: shop.At{In: "K3"}}},
		Items:      []shop.Item{{ID: "a", UsesPerWeek: 3}, {ID: "b", UsesPerWeek: .01}, {ID: "c", UsesPerWeek: .01}, {ID: "d", Lies: "K2-1"}, {ID: "e"}},
		Homes:      []shop.Home{{Item: "a", Place: "K1-1"}, {Item: "b", Place: "K1-1"}, {Item: "c", Place: "K2-1"}, {Item: "e", Place: "K3-1"}},
	}
	today := time.Date(2026, 11, 29, 12, 0, 0, 0, time.UTC)
	of := func(seen learn.Seen) (ids []string) {
		list, err := belongings.Pile(s, belongings.PileUnopened, seen, today)
		require.NoError(t, err)
		for _, x := range list {
			ids = append(ids, x.Item)
		}
		return ids
	}
	assert.ElementsMatch(t, []string{"c", "d"}, of(learn.Seen{}), "by what is said")
	assert.ElementsMatch(t, []string{"c", "d"}, of(learn.Seen{Began: "2026-05-01", Last: map[string]string{"c": "2026-06-01"}}), "half a year tells nothing")
	assert.ElementsMatch(t, []string{"a", "b"}, of(learn.Seen{Began: "2025-05-01", Last: map[string]string{"a": "2025-11-20", "d": "2026-01-02"}}), "by the log")
}
