package listing_test

import (
	"errors"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"hobrak/internal/core/kinds"
	"hobrak/internal/core/listing"
	"hobrak/internal/core/shop"
	"hobrak/internal/core/shoptest"
)

// Whatever is ticked in turn, the list counts as somebody with a pencil would, and what cannot be changes nothing.
func TestTicksCountLikeAPencil(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		s := shoptest.Random(rapid.Uint64().Draw(t, "seed"), shoptest.Few)
		s.Items, s.Homes = nil, nil
		places := []string{""}
		for i := range s.Places {
			places = append(places, s.Places[i].ID)
		}
		want := map[string]map[string]int{}
		for range rapid.IntRange(1, 8).Draw(t, "times") {
			place := rapid.SampledFrom(places).Draw(t, "place")
			if want[place] == nil {
				want[place] = map[string]int{}
			}
			var ticks []listing.Ticked
			next, fine := map[string]int{}, true
			for k, n := range want[place] {
				next[k] = n
			}
			for range rapid.IntRange(1, 4).Draw(t, "ticks") {
				x := listing.Ticked{Kind: rapid.SampledFrom([]string{"bench-chisel", "board", "f-clamp", "screws", "ladder", "varnish"}).Draw(t, "kind"), More: rapid.IntRange(-3, 9).Draw(t, "more")}
				ticks = append(ticks, x)
				next[x.Kind] += x.More
			}
			for _, n := range next {
				fine = fine && n >= 0
			}
			try := s.Clone()
			_, err := listing.Tick(try, place, ticks)
			if !fine {
				var bad *listing.TickError
				assert.True(t, errors.As(err, &bad), "%v", err)
				continue
			}
			require.NoError(t, err)
			require.NoError(t, try.Validate())
			s, want[place] = try, next
			for _, place := range places {
				for _, row := range listing.Ticks(s, place, "") {
					assert.Equal(t, want[place][row.Kind.ID], row.Here, "%s in %q", row.Kind.ID, place)
				}
			}
		}
	})
}

func TestTheTickListBeginsWithWhatOneMakesAndThePlaceHolds(t *testing.T) {
	s := shoptest.Random(1, shoptest.Few)
	s.Items, s.Homes, s.Containers = nil, nil, nil
	s.Settings.Makes = []string{"carving"}
	area := s.Areas[0].ID
	s.Places = []shop.Place{{ID: "K1", Kind: "drawer", W: 600_000, H: 90_000, D: 400_000, At: shop.At{Area: area, Away: true}}}
	rows := listing.Ticks(s, "K1", "")
	require.Len(t, rows, len(kinds.All()))
	assert.Equal(t, "carving-gouge", rows[0].Kind.ID)
	assert.True(t, rows[0].Fits)
	for _, r := range rows {
		if r.Kind.ID == "ladder" || r.Kind.ID == "broom" {
			assert.False(t, r.Fits, r.Kind.ID)
		}
	}
	_, err := listing.Tick(s, "K1", []listing.Ticked{{Kind: "rasp", More: 3}})
	require.NoError(t, err)
	rows = listing.Ticks(s, "K1", "")
	assert.Equal(t, "rasp", rows[0].Kind.ID, "what is there comes first")
	assert.Equal(t, 3, rows[0].Here)
}
