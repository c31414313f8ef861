package between_test

import (
	"slices"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"hobrak/internal/core/between"
	"hobrak/internal/core/length"
	"hobrak/internal/core/shop"
	"hobrak/internal/core/shoptest"
)

func ids(list []between.Thing, kind string) (out []string) {
	for _, t := range list {
		if t.Kind == kind {
			out = append(out, t.ID)
		}
	}
	slices.Sort(out)
	return out
}

func again(t require.TestingT, s *shop.Shop) *shop.Shop {
	c, err := shop.Read(shop.Write(s))
	require.NoError(t, err)
	return c
}

// What was done to a shop by hand is what the comparison says, no more and no less; the other
// way round it says the opposite.
func TestWhatWasDoneIsWhatIsSaid(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		before := again(t, shoptest.Random(rapid.Uint64().Draw(t, "seed"), shoptest.Few))
		if none := between.Of(before, again(t, before)); true {
			assert.Empty(t, none.Added)
			assert.Empty(t, none.Gone)
			assert.Empty(t, none.Moved)
			assert.Empty(t, none.Changed)
		}
		after := again(t, before)
		var gone, moved, renamed []string
		for i := len(after.Items) - 1; i >= 0; i-- {
			it := &after.Items[i]
			switch rapid.IntRange(0, 4).Draw(t, "what") {
			case 0:
				gone = append(gone, it.ID)
				after.Homes = slices.DeleteFunc(after.Homes, func(h shop.Home) bool { return h.Item == it.ID })
				after.Items = slices.Delete(after.Items, i, i+1)
			case 1:
				if slices.ContainsFunc(after.Homes, func(h shop.Home) bool { return h.Item == it.ID }) {
					moved = append(moved, it.ID)
					after.Homes = slices.DeleteFunc(after.Homes, func(h shop.Home) bool { return h.Item == it.ID })
				}
			case 2:
				renamed = append(renamed, it.ID)
				it.Name += " too"
				it.W += length.Millimetre
			}
		}
		slices.Reverse(after.Homes) // in another order it is the same
		slices.Sort(gone)
		slices.Sort(moved)
		slices.Sort(renamed)
		r := between.Of(before, after)
		assert.Equal(t, gone, ids(r.Gone, "item"))
		assert.Empty(t, r.Added)
		var m, c []string
		for _, x := range r.Moved {
			m = append(m, x.ID)
			assert.Empty(t, x.To)
			assert.NotEmpty(t, x.From)
		}
		for _, x := range r.Changed {
			c = append(c, x.ID)
			assert.Equal(t, []string{"name", "w"}, x.Facts)
		}
		slices.Sort(m)
		slices.Sort(c)
		assert.Equal(t, moved, m)
		assert.Equal(t, renamed, c)
		back := between.Of(after, before)
		assert.Equal(t, r.Gone, back.Added)
		assert.Equal(t, r.Added, back.Gone)
		assert.Len(t, back.Moved, len(r.Moved))
	})
}

func TestAPlaceThatHangsElsewhereIsMovedWithoutItsThings(t *testing.T) {
	before := again(t, shoptest.Made(30, 10, 1))
	after := again(t, before)
	i := slices.IndexFunc(after.Places, func(p shop.Place) bool { return p.At.Wall != "" })
	require.GreaterOrEqual(t, i, 0)
	after.Places[i].At.X += 10 * length.Millimetre
	r := between.Of(before, after)
	require.Len(t, r.Moved, 1)
	assert.Equal(t, after.Places[i].ID, r.Moved[0].ID)
	assert.Equal(t, after.Places[i].At.Wall, r.Moved[0].To)
	assert.Empty(t, r.Changed)
}
