package belongings_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"hobrak/internal/core/belongings"
	"hobrak/internal/core/shop"
	"hobrak/internal/core/shoptest"
)

// A thing that becomes a station and a thing again is of the same size; nothing else changes, and the shop stays one that can be.
func TestAThingBecomesAStationAndAThingAgain(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		s := shoptest.Random(rapid.Uint64().Draw(t, "seed"), shoptest.Few)
		if len(s.Items) == 0 {
			t.Skip()
		}
		i := rapid.IntRange(0, len(s.Items)-1).Draw(t, "item")
		was := s.Items[i]
		was.Assumed = nil // what is assumed is taken for what is usual
		s.Items[i].Assumed = nil
		things, stations := len(s.Items), len(s.Stations)
		id, _, err := belongings.AsStation(s, was.ID)
		if err != nil {
			var bad *belongings.FieldError
			require.ErrorAs(t, err, &bad, "there is no room for it")
			return
		}
		s.Tidy()
		require.NoError(t, s.Validate())
		require.Len(t, s.Stations, stations+1)
		st := shop.NewIndex(s).Station(id)
		assert.Equal(t, [3]any{was.W, was.D, was.H}, [3]any{st.W, st.D, st.H})
		if was.Number() > 1 {
			assert.Equal(t, was.Number()-1, shop.NewIndex(s).Item(was.ID).Number())
		} else {
			assert.Len(t, s.Items, things-1)
		}
		back, err := belongings.AsThing(s, id, "")
		require.NoError(t, err)
		require.NoError(t, s.Validate())
		it := shop.NewIndex(s).Item(back)
		assert.Equal(t, was.Name, it.Name)
		assert.Equal(t, [3]any{was.W, was.D, max(was.H, st.Tall)}, [3]any{it.W, it.D, it.H})
		assert.Len(t, s.Stations, stations)
	})
}
