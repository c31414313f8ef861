package gather_test

import (
	"math"
	"math/rand/v2"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"hobrak/demo"
	"hobrak/internal/core/access"
	"hobrak/internal/core/gather"
	"hobrak/internal/core/shop"
	"hobrak/internal/core/shoptest"
)

// field is n stops and a start somewhere, with the ways between them straight.
func field(rng *rand.Rand, n int) func(i, j int) float64 {
	at := make([][2]float64, n+1)
	for i := range at {
		at[i] = [2]float64{rng.Float64() * 9000, rng.Float64() * 6000}
	}
	return func(i, j int) float64 { return math.Hypot(at[i][0]-at[j][0], at[i][1]-at[j][1]) }
}

// brute is the shortest of all orders.
func brute(n int, far func(i, j int) float64) float64 {
	least := math.Inf(1)
	order := make([]int, n)
	for i := range order {
		order[i] = i
	}
	var visit func(k int)
	visit = func(k int) {
		if k == n {
			least = min(least, gather.Length(order, n, far))
			return
		}
		for i := k; i < n; i++ {
			order[k], order[i] = order[i], order[k]
			visit(k + 1)
			order[k], order[i] = order[i], order[k]
		}
	}
	visit(0)
	return least
}

func TestUpToNineStopsTheRoundIsTheShortestOfAll(t *testing.T) {
	for seed := range shoptest.Seeds(60) {
		rng := rand.New(rand.NewPCG(seed, 2))
		n := rng.IntN(8)
		if seed%20 == 0 {
			n = 9
		}
		far := field(rng, n)
		order := gather.Order(n, far)
		require.ElementsMatch(t, all(n), order)
		require.InDelta(t, brute(n, far), gather.Length(order, n, far), 1e-6, "%d stops", n)
	}
}

func all(n int) []int {
	out := make([]int, n)
	for i := range out {
		out[i] = i
	}
	return out
}

// Beyond what is looked at in full the rule of thumb is held against the tree that joins all stops, which no round is shorter than.
func BenchmarkManyStops(b *testing.B) {
	over, gap := 0.0, 0.0
	for b.Loop() {
		rng := rand.New(rand.NewPCG(7, uint64(b.N)))
		far := field(rng, 40)
		order := gather.Order(40, far)
		over = gather.Length(order, 40, far)/tree(41, far) - 1
		// The same rule on 12 stops, where the shortest is known.
		few := field(rng, 12)
		gap = gather.Length(gather.Improved(12, few), 12, few)/gather.Length(gather.Order(12, few), 12, few) - 1
	}
	b.ReportMetric(100*over, "%_over_tree_40")
	b.ReportMetric(100*gap, "%_over_best_12")
}

// tree is the length of the shortest tree that joins n points (Prim).
func tree(n int, far func(i, j int) float64) (sum float64) {
	in := map[int]bool{0: true}
	for len(in) < n {
		next, least := -1, math.Inf(1)
		for i := range n {
			for j := range in {
				if !in[i] && far(i, j) < least {
					next, least = i, far(i, j)
				}
			}
		}
		in[next] = true
		sum += least
	}
	return sum
}

func TestManyStopsAreAllVisitedOnceAndNearlyAsShort(t *testing.T) {
	for seed := range shoptest.Seeds(20) {
		rng := rand.New(rand.NewPCG(seed, 3))
		n := 13 + rng.IntN(40)
		far := field(rng, n)
		order := gather.Order(n, far)
		require.ElementsMatch(t, all(n), order)
		// Christofides' bound of one and a half trees is not promised, but two trees always are enough to walk.
		require.LessOrEqual(t, gather.Length(order, n, far), 2*tree(n+1, far))
		few := field(rng, 11)
		require.LessOrEqual(t, gather.Length(gather.Improved(11, few), 11, few), 1.15*gather.Length(gather.Order(11, few), 11, few))
	}
}

// What is fetched in any shop is what was wanted: each piece at one stop, or said to have no home.
func TestAWalkFetchesWhatIsWanted(t *testing.T) {
	stops := 0
	for seed := range shoptest.Seeds(80) {
		s := shoptest.Random(seed, shoptest.Few)
		m, err := access.NewMap(s)
		require.NoError(t, err)
		rng := rand.New(rand.NewPCG(seed, 4))
		var wants []gather.Want
		left := map[string]int{}
		for _, i := range rng.Perm(len(s.Items))[:min(len(s.Items), 7)] {
			it := &s.Items[i]
			n := 1 + rng.IntN(it.Number())
			wants = append(wants, gather.Want{Item: it.ID, N: n})
			left[it.ID] = n
		}
		station := ""
		if len(s.Stations) > 0 && seed%2 == 0 {
			station = s.Stations[0].ID
		}
		r := gather.Walk(m, station, wants)
		sum := 0.0
		ix := shop.NewIndex(s)
		for _, trip := range r.Trips {
			sum += trip.Metres
			legs := 0.0
			for _, x := range trip.Stops {
				stops++
				legs += x.Metres
				for _, p := range x.Things {
					left[p.Item] -= p.N
					assert.NotNil(t, ix.Place(x.Place))
				}
			}
			assert.LessOrEqual(t, legs, trip.Metres+1e-6, "the way back counts as well")
		}
		assert.InDelta(t, r.Metres, sum, 1e-6)
		for _, p := range r.Homeless {
			left[p.Item] -= p.N
		}
		for id, n := range left {
			assert.Zero(t, n, "seed %d: %s", seed, id)
		}
	}
	assert.Positive(t, stops)
}

func TestChoresAreDoneOnTheSameWalk(t *testing.T) {
	s, err := shop.Read(demo.Slipway)
	require.NoError(t, err)
	m, err := access.NewMap(s)
	require.NoError(t, err)
	r := gather.Walk(m, "", []gather.Want{{Item: s.Homes[0].Item, N: 1}}, gather.Chore{ID: "off", Station: s.Stations[0].ID, Says: "off"}, gather.Chore{ID: "door", Says: "locked"})
	done := map[string]bool{}
	for _, trip := range r.Trips {
		for _, x := range trip.Stops {
			for _, c := range x.Chores {
				done[c.ID] = true
			}
		}
	}
	assert.Equal(t, map[string]bool{"off": true, "door": true}, done)
}
