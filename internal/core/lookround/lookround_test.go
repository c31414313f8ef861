package lookround_test

import (
	"math/rand/v2"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"hobrak/internal/core/event"
	"hobrak/internal/core/fit"
	"hobrak/internal/core/lookround"
	"hobrak/internal/core/round"
	"hobrak/internal/core/shop"
	"hobrak/internal/core/shoptest"
)

// In any shop each thing that lives on a wall is looked for once where it lives; what was seen last of it is what counts, and the
// outcome adds up to what was looked for.
func TestEverythingIsLookedForOnceAndWhatWasSeenLastCounts(t *testing.T) {
	looked := 0
	for seed := range shoptest.Seeds(60) {
		s := shoptest.Random(seed, shoptest.Few)
		p, err := fit.New(s)
		require.NoError(t, err)
		r := round.Of(p.AsItIs())
		rng := rand.New(rand.NewPCG(seed, 7))
		var sights, out event.Log
		last := map[[2]string]string{}
		for _, h := range s.Homes {
			for range rng.IntN(3) {
				e := event.Event{Item: h.Item, Place: h.Place}
				state := []string{lookround.There, lookround.Missing, lookround.Elsewhere}[rng.IntN(3)]
				switch state {
				case lookround.There:
					e.What = event.Seen
				case lookround.Missing:
					e.What = event.Missed
				default:
					e.What, e.Note, e.Place = event.Seen, h.Place, s.Places[rng.IntN(len(s.Places))].ID
				}
				last[[2]string{h.Place, h.Item}] = state
				sights = append(sights, e)
			}
			if rng.IntN(5) == 0 {
				out = append(out, event.Event{What: event.Taken, Item: h.Item, N: 1})
			}
		}
		ix := shop.NewIndex(s)
		stops := lookround.Stops(s, r, "", sights, out)
		seen := map[[2]string]bool{}
		var there, missing, strayed, open int
		for _, x := range stops {
			done := true
			for _, thing := range x.Things {
				key := [2]string{x.Place, thing.Item}
				require.False(t, seen[key], "seed %d: %v twice", seed, key)
				seen[key] = true
				n := 0
				for _, h := range ix.Homes(thing.Item) {
					if h.Place == x.Place {
						n += h.Number(ix.Item(thing.Item))
					}
				}
				require.Equal(t, n, thing.N)
				want := last[key]
				if want == "" && thing.Out == thing.N {
					want = lookround.Out
				}
				require.Equal(t, want, thing.State, "seed %d: %v", seed, key)
				switch thing.State {
				case lookround.There:
					there++
				case lookround.Missing:
					missing++
				case lookround.Elsewhere:
					strayed++
				case "":
					done = false
				}
			}
			require.Equal(t, done, x.Seen)
			if !done {
				open++
			}
		}
		for i := range r.Places {
			if p := &r.Places[i]; p.Elevation >= 0 {
				for _, h := range s.Homes {
					if h.Place == p.ID {
						require.True(t, seen[[2]string{h.Place, h.Item}], "seed %d: %s in %s is not looked for", seed, h.Item, h.Place)
					}
				}
			}
		}
		sum := lookround.Sum(stops)
		assert.Equal(t, [4]int{there, missing, strayed, open}, [4]int{sum.There, len(sum.Missing), len(sum.Strayed), sum.Left})
		looked += len(seen)
	}
	assert.Positive(t, looked)
}
