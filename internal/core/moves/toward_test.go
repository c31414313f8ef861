package moves_test

import (
	"fmt"
	"math/rand/v2"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"hobrak/internal/core/moves"
	"hobrak/internal/core/shop"
	"hobrak/internal/core/shoptest"
)

// What a plan found no home for lies where others are to go: it keeps its place where there is room beside them, and is said to have
// none otherwise. Either way the shop that is aimed at breaks no rule, and is got to.
func TestWhatAPlanGivesNoHomeIsInNobodysWay(t *testing.T) {
	plans, crowded, kept := 0, 0, 0
	for seed := range shoptest.Seeds(60) {
		s := tight(t, seed, 14, 4)
		now, then := shuffled(t, s, seed), shuffled(t, s, seed+500)
		if now == nil || then == nil {
			continue
		}
		rng := rand.New(rand.NewPCG(seed, 12))
		without := map[string]bool{}
		for _, k := range rng.Perm(len(s.Items))[:1+rng.IntN(6)] {
			without[s.Items[k].ID] = true
		}
		aim := moves.Aim(now, then, "aim")
		aim.Homes = nil
		for _, h := range then.Homes {
			if !without[h.Item] {
				aim.Homes = append(aim.Homes, h)
			}
		}
		where := fmt.Sprintf("seed %d", seed)
		got, gone, err := moves.Toward(now, &aim)
		require.NoError(t, err, where)
		assert.Empty(t, broken(t, got), where)
		assert.Subset(t, got.Homes, aim.Homes, where)
		assert.Equal(t, len(s.Items), len(got.Homes)+len(gone), "%s: each thing has a home or is said to have none", where)
		ix := shop.NewIndex(now)
		for id := range without {
			for _, h := range shop.NewIndex(got).Homes(id) {
				assert.Equal(t, *ix.Homes(id)[0], *h, where)
				kept++
			}
		}
		p, err := moves.Of(now, got, moves.Options{Minutes: 60})
		require.NoError(t, err, where)
		assert.Empty(t, p.Stuck, where)
		lawful(t, now, got, p, where, 1)
		plans++
		crowded += len(gone)
	}
	t.Logf("%d plans, %d things without room beside what the plan puts there, %d keep their place", plans, crowded, kept)
	assert.Positive(t, crowded)
	assert.Positive(t, kept)
}
