package listing_test

import (
	"fmt"
	"slices"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"hobrak/internal/core/check"
	"hobrak/internal/core/listing"
	"hobrak/internal/core/shop"
	"hobrak/internal/core/shoptest"
)

// Whatever is typed as living in a place is in it afterwards: at a lawful spot, or lying there and said to.
func TestThingsAreWhereTheyAreSaidToBe(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		s := shoptest.Random(rapid.Uint64().Draw(t, "seed"), shoptest.Few)
		if len(s.Places) == 0 {
			t.Skip()
		}
		s.Homes = nil // some are against the rules already
		type said struct{ name, place string }
		var lines []string
		var want []said
		here := ""
		for i := range rapid.IntRange(1, 8).Draw(t, "lines") {
			p := s.Places[rapid.IntRange(0, len(s.Places)-1).Draw(t, "place")].ID
			if rapid.IntRange(0, 3).Draw(t, "only where") == 0 {
				lines, here = append(lines, "in "+p), p
				continue
			}
			name := fmt.Sprintf("zinc gadget%c", 'a'+i)
			size := fmt.Sprintf("%dx%dx%d", rapid.IntRange(5, 900).Draw(t, "w"), rapid.IntRange(5, 900).Draw(t, "h"), rapid.IntRange(5, 900).Draw(t, "d"))
			text, place := name+" "+size+"mm", here
			if rapid.Bool().Draw(t, "says where") {
				text, place = text+" in "+p, p
			}
			lines, want = append(lines, text), append(want, said{name, place})
		}
		were := len(s.Items)
		got, err := listing.Add(s, lines)
		require.NoError(t, err)
		require.Len(t, got.IDs, len(want))
		assert.Equal(t, here, got.Here)
		require.NoError(t, s.Validate())
		ix, loose := shop.NewIndex(s), 0
		for i, id := range got.IDs {
			it, homes := ix.Item(id), ix.Homes(id)
			switch {
			case want[i].place == "":
				assert.Empty(t, homes)
				assert.Empty(t, it.Lies)
			case len(homes) == 1:
				assert.Equal(t, want[i].place, homes[0].Place)
				assert.Empty(t, it.Lies)
			default:
				assert.Empty(t, homes)
				assert.Equal(t, want[i].place, it.Lies)
				loose++
			}
		}
		assert.Len(t, got.Notes, loose)
		assert.Len(t, s.Items, were+len(want))
		after, err := check.Shop(s)
		require.NoError(t, err)
		assert.Empty(t, broken(s, after, got.IDs), "what is new breaks no rule")
	})
}

// broken are the rules that some things are said to break.
func broken(s *shop.Shop, found []check.Finding, ids []string) (out []string) {
	for _, f := range found {
		for i := range s.Homes {
			if f.Hard && slices.Contains(ids, s.Homes[i].Item) && f.Where == fmt.Sprintf("homes[%d]", i) {
				out = append(out, f.String())
			}
		}
	}
	return out
}
