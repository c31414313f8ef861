package closely_test

import (
	"math/rand/v2"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"hobrak/demo"
	"hobrak/internal/core/check"
	"hobrak/internal/core/closely"
	"hobrak/internal/core/keeping"
	"hobrak/internal/core/length"
	"hobrak/internal/core/shop"
	"hobrak/internal/core/shoptest"
)

// outlined gives things outlines as tools have them: an angle, a wedge, a tee.
func outlined(s *shop.Shop, rng *rand.Rand) {
	for i := range s.Items {
		it := &s.Items[i]
		w, h := it.W, it.H
		t := min(w, h) / 4
		switch rng.IntN(4) {
		case 0:
			it.Outline = []shop.Point{{0, 0}, {w, 0}, {w, t}, {t, t}, {t, h}, {0, h}}
		case 1:
			it.Outline = []shop.Point{{0, 0}, {w, 0}, {0, h}}
		case 2:
			it.Outline = []shop.Point{{0, h - t}, {w/2 - t/2, h - t}, {w/2 - t/2, 0}, {w/2 + t/2, 0}, {w/2 + t/2, h - t}, {w, h - t}, {w, h}, {0, h}}
		}
	}
}

func hard(t require.TestingT, s *shop.Shop) map[string]bool {
	found, err := check.Shop(s)
	require.NoError(t, err)
	out := map[string]bool{}
	for _, f := range found {
		if f.Hard {
			out[f.Code+" "+f.What] = true
		}
	}
	return out
}

// Laid by their outlines, things break no rule of the checker, all that lived there still does, what is locked stays, and more came in
// than left.
func TestLaidByOutlineBreaksNoRule(t *testing.T) {
	places, added, moved := 0, 0, 0
	for seed := range shoptest.Seeds(1) {
		s, err := shop.Read(demo.Slipway)
		require.NoError(t, err)
		rng := rand.New(rand.NewPCG(seed, 11))
		outlined(s, rng)
		require.NoError(t, s.Validate())
		for i := range s.Homes {
			s.Homes[i].Locked = rng.IntN(4) == 0
		}
		was := hard(t, s)
		ix := shop.NewIndex(s)
		for i := range s.Places {
			p := &s.Places[i]
			form := keeping.Of(p).Form()
			if form != keeping.Upright && form != keeping.Lying {
				_, _, err := closely.Lay(s, p.ID, nil, closely.Options{Tries: 1})
				require.ErrorContains(t, err, "side by side")
				continue
			}
			r, then, err := closely.Lay(s, p.ID, nil, closely.Options{Tries: 3, Seed: seed})
			require.NoError(t, err)
			require.NoError(t, then.Validate())
			places++
			added += len(r.Added)
			moved += r.Moved
			assert.Equal(t, r.Before+len(r.Added), r.After)
			assert.GreaterOrEqual(t, r.Filled, r.Was-1e-9)
			for what := range hard(t, then) {
				require.True(t, was[what], "seed %d, %s: %s", seed, p.ID, what)
			}
			later := shop.NewIndex(then)
			for _, h := range s.Homes {
				if h.Place != p.ID {
					continue
				}
				there := false
				for _, x := range later.Homes(h.Item) {
					there = there || x.Place == p.ID && (!h.Locked || *x == h)
				}
				require.True(t, there, h.Item)
			}
			kg := 0.0
			for _, h := range then.Homes {
				if it := ix.Item(h.Item); h.Place == p.ID && it != nil {
					kg += it.KG.KG() * float64(h.Number(it))
				}
			}
			if len(r.Added) > 0 && p.Capacity > 0 {
				assert.LessOrEqual(t, kg, p.Capacity.KG()+1e-6)
			}
		}
	}
	t.Logf("%d places, %d things came in, %d moved", places, added, moved)
	assert.Positive(t, added)
	assert.Positive(t, moved)
}

// In the field of a room where angles nest, more of them hang by their outlines than by their boxes; the fit goes on from there.
func TestMoreAnglesHangByTheirOutlines(t *testing.T) {
	s, err := shop.Read(demo.Slipway)
	require.NoError(t, err)
	mm := length.MM
	s.Homes = nil
	s.Items = nil
	k := -1
	for i := range s.Places {
		if s.Places[i].ID == "A1" {
			k = i
		}
	}
	p := &s.Places[k]
	p.W, p.H, p.Capacity = mm(600), mm(500), 0
	gap := mm(5)
	for i := range 12 {
		it := shop.Item{ID: string(rune('a' + i)), Name: "try square " + string(rune('a'+i)), Kind: "square", W: mm(180), H: mm(240), D: mm(20), Hold: []shop.Hold{"hang"}, Clearance: &gap}
		it.Outline = []shop.Point{{0, 0}, {mm(180), 0}, {mm(180), mm(30)}, {mm(40), mm(30)}, {mm(40), mm(240)}, {0, mm(240)}}
		s.Items = append(s.Items, it)
	}
	boxes := 3 * 2
	r, then, err := closely.Lay(s, "A1", nil, closely.Options{Tries: 10})
	require.NoError(t, err)
	assert.Greater(t, r.After, boxes)
	for what := range hard(t, then) {
		require.NotContains(t, what, "overlap")
	}
	// Without the word that it is packed so, the same homes are too close.
	for i := range then.Places {
		then.Places[i].Dense = false
	}
	found := false
	for what := range hard(t, then) {
		found = found || what[:7] == "overlap"
	}
	assert.True(t, found)
}
