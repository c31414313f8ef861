package fit_test

import (
	"slices"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"hobrak/demo"
	"hobrak/internal/core/check"
	"hobrak/internal/core/fit"
	"hobrak/internal/core/shop"
)

// Whatever part of a plan is taken over, the shop keeps every rule, what was wanted
// is where the plan has it, and what neither was wanted nor in the way stays.
func TestAPartOfAPlanKeepsEveryRule(t *testing.T) {
	s := read(t, demo.Slipway)
	e, err := fit.New(s)
	require.NoError(t, err)
	plan := e.Run(fit.Options{Seed: 1, Iterations: 300})
	ix := shop.NewIndex(s)
	rapid.Check(t, func(rt *rapid.T) {
		most := rapid.IntRange(1, 40).Draw(rt, "one of")
		mask := rapid.SliceOfN(rapid.IntRange(0, most), len(s.Items), len(s.Items)).Draw(rt, "wanted")
		wanted := func(id string) bool {
			return mask[slices.IndexFunc(s.Items, func(it shop.Item) bool { return it.ID == id })] == 0
		}
		part := e.Part(plan.Homes, wanted)
		next := s.Clone()
		next.Homes = part.Homes
		require.NoError(t, next.Validate())
		found, err := check.Shop(next)
		require.NoError(t, err)
		for _, f := range found {
			if f.Hard {
				rt.Fatalf("%s (along: %v)", f, part.Along)
			}
		}
		of := map[string][]shop.Home{}
		for _, h := range part.Homes {
			of[h.Item] = append(of[h.Item], h)
		}
		planned := map[string][]shop.Home{}
		for _, h := range plan.Homes {
			planned[h.Item] = append(planned[h.Item], h)
		}
		for i := range s.Items {
			id := s.Items[i].ID
			if wanted(id) || slices.Contains(part.Along, id) {
				assert.Equal(rt, planned[id], of[id])
				continue
			}
			var own []shop.Home
			for _, h := range ix.Homes(id) {
				own = append(own, *h)
			}
			assert.Equal(rt, own, of[id])
		}
	})
}
