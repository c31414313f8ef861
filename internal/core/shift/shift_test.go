package shift_test

import (
	"fmt"
	"math"
	"math/rand/v2"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"hobrak/demo"
	"hobrak/internal/core/floor"
	"hobrak/internal/core/geometry"
	"hobrak/internal/core/length"
	"hobrak/internal/core/shift"
	"hobrak/internal/core/shop"
	"hobrak/internal/core/shoptest"
)

// crowd is a room with things on wheels that stand one way now and another way in the mode "then".
func crowd(seed uint64, many int, w, h float64) *shop.Shop {
	rng := rand.New(rand.NewPCG(seed, 5))
	mm := length.MM
	s := &shop.Shop{Format: shop.Format, Version: shop.Version, Settings: shop.Settings{Name: "crowd", Units: length.Metric}}
	top := []shop.Point{{0, mm(2400)}, {mm(h), mm(2400)}}
	long := []shop.Point{{0, mm(2400)}, {mm(w), mm(2400)}}
	s.Areas = []shop.Area{{ID: "main", Corners: []shop.Point{{0, 0}, {0, mm(h)}, {mm(w), mm(h)}, {mm(w), 0}}, Walls: []shop.Wall{{ID: "A", Profile: top}, {ID: "B", Profile: long}, {ID: "C", Profile: top}, {ID: "D", Profile: long}}}}
	mode := shop.Mode{ID: "then", Name: "Then", Spots: map[string]shop.Standing{}}
	var before, after []geometry.Polygon
	free := func(list []geometry.Polygon, cw, cd float64) (x, y float64, foot geometry.Polygon, ok bool) {
		for range 60 {
			x, y = float64(rng.IntN(int(w-cw)/50)*50), float64(rng.IntN(int(h-cd)/50)*50)
			foot = geometry.Rectangle(x, y, cw, cd, 0)
			clash := false
			for _, o := range list {
				clash = clash || o.Overlaps(foot, 1)
			}
			if !clash {
				return x, y, foot, true
			}
		}
		return 0, 0, nil, false
	}
	for i := range many {
		cw, cd := float64(400+rng.IntN(10)*50), float64(400+rng.IntN(8)*50)
		x, y, foot, ok := free(before, cw, cd)
		if !ok {
			continue
		}
		x2, y2, foot2, ok := free(after, cw, cd)
		if rng.IntN(6) == 0 && ok { // it stays
			x2, y2, foot2 = x, y, foot
			for _, o := range after {
				ok = ok && !o.Overlaps(foot2, 1)
			}
		}
		if !ok {
			continue
		}
		before, after = append(before, foot), append(after, foot2)
		id := fmt.Sprintf("K%d", i+1)
		s.Containers = append(s.Containers, shop.Container{ID: id, Name: "Cart " + id, Kind: "cart", W: mm(cw), D: mm(cd), H: mm(850), At: shop.At{Floor: &shop.Point{mm(x), mm(y)}}})
		mode.Spots[id] = shop.Standing{Floor: shop.Point{mm(x2), mm(y2)}}
	}
	s.Modes = []shop.Mode{mode}
	return s
}

// replay does the moves one after the other, forwards or backwards, and holds that nothing ever stands in anything else.
func replay(t *testing.T, s *shop.Shop, moves []shift.Move, back bool, where string) {
	t.Helper()
	at := map[string]geometry.Polygon{}
	first, err := s, error(nil)
	if back {
		first, err = s.InMode("then")
		require.NoError(t, err)
	}
	for i := range first.Containers {
		if c := &first.Containers[i]; c.At.Floor != nil {
			at[c.ID] = geometry.Rectangle(c.At.Floor[0].MM(), c.At.Floor[1].MM(), c.W.MM(), c.D.MM(), c.At.Rot)
		}
	}
	for k := range moves {
		m := &moves[k]
		to := m.Is
		if back {
			m = &moves[len(moves)-1-k]
			to = m.Was
		}
		at[m.ID] = to
		for id, foot := range at {
			if id != m.ID && len(foot) > 0 && len(to) > 0 {
				require.False(t, foot.Overlaps(to, 2), "%s: %s is put into %s", where, m.ID, id)
			}
		}
	}
}

// In small rooms the moves are as few as by looking at everything, no step puts one thing into another, and done backwards
// they lead back.
func TestTheMovesAreTheFewestThereAre(t *testing.T) {
	solved, more, none, sizes := 0, 0, 0, map[int]int{}
	for seed := range shoptest.Seeds(200) {
		rng := rand.New(rand.NewPCG(seed, 6))
		many := 2 + rng.IntN(6)
		s := crowd(seed, many, 2200+float64(rng.IntN(20))*100, 2000+float64(rng.IntN(15))*100)
		plan, err := shift.Between(s, "", "then")
		require.NoError(t, err)
		where := fmt.Sprintf("seed %d, %d bodies", seed, len(s.Containers))
		replay(t, s, plan.Moves, false, where)
		sizes[len(s.Containers)]++
		if len(plan.Stuck) > 0 {
			// Small rooms are looked at to the end, larger ones as far as two moves more than there are bodies.
			most := math.MaxInt
			if len(s.Containers) > 4 {
				most = len(s.Containers) + 2
			}
			fewest, err := shift.Exhaustive(s, "", "then", most)
			require.NoError(t, err)
			assert.Negative(t, fewest, where)
			none++
			continue
		}
		fewest := len(plan.Moves)
		if fewest > 0 {
			less, err := shift.Exhaustive(s, "", "then", fewest-1)
			require.NoError(t, err)
			assert.Negative(t, less, "%s: there are fewer moves than %d", where, fewest)
		}
		assert.True(t, plan.Fewest, where)
		assert.LessOrEqual(t, plan.Least, fewest, where)
		replay(t, s, plan.Moves, true, where)
		solved++
		if fewest > plan.Least {
			more++
		}
	}
	t.Logf("%d rooms: %d changed over with the fewest moves, %d of them with more than the bound, %d that cannot be; by bodies %v", solved+none, solved, more, none, sizes)
	assert.Greater(t, solved, 100)
}

// The demo's modes lead to each other, and nothing is stuck.
func TestTheDemosModesLeadToEachOther(t *testing.T) {
	s, err := shop.Read(demo.Slipway)
	require.NoError(t, err)
	modes := []string{""}
	for _, m := range s.Modes {
		modes = append(modes, m.ID)
	}
	for _, from := range modes {
		for _, to := range modes {
			plan, err := shift.Between(s, from, to)
			require.NoError(t, err)
			assert.Empty(t, plan.Stuck, "%s to %s", from, to)
			if from == to {
				assert.Empty(t, plan.Moves)
			}
			t.Logf("%q to %q: %d moves (at least %d), %.0f s", from, to, len(plan.Moves), plan.Least, plan.Seconds)
		}
	}
	_, err = shift.Between(s, "", "nonsense")
	assert.ErrorContains(t, err, "there is no mode")
}

func BenchmarkTwentyFiveOnWheels(b *testing.B) {
	s := crowd(3, 25, 8000, 6000)
	moves, least := 0, 0
	for b.Loop() {
		plan, err := shift.Between(s, "", "then")
		require.NoError(b, err)
		moves, least = len(plan.Moves), plan.Least
	}
	b.ReportMetric(float64(moves), "moves")
	b.ReportMetric(float64(least), "bound")
	b.ReportMetric(float64(len(s.Containers)), "bodies")
}

// A mode that is kept of how things stand is how they stand: nothing is moved for it. What is forgotten leaves a whole shop.
func TestWhatIsKeptOfTheFloorIsHowItStands(t *testing.T) {
	for seed := range shoptest.Seeds(40) {
		s := shoptest.Random(seed, shoptest.Few)
		id, err := floor.Keep(s, "As it is today", 12)
		require.NoError(t, err)
		require.NoError(t, s.Validate(), "seed %d", seed)
		plan, err := shift.Between(s, "", id)
		require.NoError(t, err)
		for _, m := range plan.Moves { // places that are there in some modes only come and go
			mode, err := s.Mode(id)
			require.NoError(t, err)
			assert.NotContains(t, mode.Spots, m.ID, "seed %d", seed)
		}
		_, err = floor.Keep(s, "as it is TODAY", 1)
		require.ErrorContains(t, err, "already")
		require.NoError(t, floor.Forget(s, id))
		require.NoError(t, s.Validate(), "seed %d", seed)
		require.Error(t, floor.Forget(s, id))
	}
}
