package chain_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"hobrak/demo"
	"hobrak/internal/core/access"
	"hobrak/internal/core/chain"
	"hobrak/internal/core/length"
	"hobrak/internal/core/shop"
	"hobrak/internal/core/shoptest"
)

func of(t require.TestingT, s *shop.Shop, mode string) []chain.Chain {
	then := s
	if mode != "" {
		var err error
		then, err = s.InMode(mode)
		require.NoError(t, err)
	}
	m, err := access.NewMap(then)
	require.NoError(t, err)
	all, err := chain.Of(m, s, mode)
	require.NoError(t, err)
	return all
}

func pair(t *testing.T) *shop.Shop {
	mm := length.MM
	top, side := []shop.Point{{0, mm(2400)}, {mm(4000), mm(2400)}}, []shop.Point{{0, mm(2400)}, {mm(9000), mm(2400)}}
	s := &shop.Shop{Settings: shop.Settings{Units: length.Metric}, Areas: []shop.Area{{ID: "main", Corners: []shop.Point{{0, 0}, {0, mm(4000)}, {mm(9000), mm(4000)}, {mm(9000), 0}}, Walls: []shop.Wall{{ID: "A", Profile: top}, {ID: "B", Profile: side}, {ID: "C", Profile: top}, {ID: "D", Profile: side}}}}}
	machine := func(id string, x float64) shop.Station {
		return shop.Station{ID: id, Name: "Machine " + id, Kind: "shaper", X: mm(x), Y: mm(1500), W: mm(800), D: mm(800), H: mm(880), Mobility: shop.Rolls, Feed: &shop.Feed{Along: "x", In: mm(2500), Out: mm(2500)}, Stand: shop.Point{mm(x), mm(1000)}}
	}
	// Each in the other's feed: both are higher than the other's table.
	s.Stations = []shop.Station{machine("a", 3000), machine("b", 5000)}
	s.Stations[0].Tall, s.Stations[1].Tall = mm(1200), mm(1200)
	return s
}

// By hand: two machines stand in each other's feed, so each waits for the other; of those one is rolled away for 10 s.
func TestMachinesInEachOthersFeedWaitInARing(t *testing.T) {
	s := pair(t)
	s.Settings.Jobs = []shop.Job{{Name: "table", PerMonth: 52, Path: []string{"a", "b"}}}
	all := of(t, s, "")
	require.Len(t, all, 2)
	for _, c := range all {
		assert.ElementsMatch(t, []string{"Machine a", "Machine b"}, c.Ring)
		assert.InDelta(t, 10, c.Seconds, 1e-9)
		assert.InDelta(t, 12, c.Rate, 1e-9)
		assert.InDelta(t, 120, c.Week, 1e-9)
	}
	s.Stations[1].Y = 0
	assert.Empty(t, of(t, s, ""), "beside the way nothing is moved")
}

func TestWhatIsFoldedIsUnfoldedFirst(t *testing.T) {
	s := pair(t)
	s.Stations = s.Stations[:1]
	s.Stations[0].Mobility = shop.Folds
	s.Modes = []shop.Mode{{ID: "night", Name: "Night", Spots: map[string]shop.Standing{"a": {State: "folded"}}}}
	all := of(t, s, "night")
	require.Len(t, all, 1)
	assert.Equal(t, "unfold it", all[0].Links[0].Do)
	assert.Empty(t, of(t, s, ""))
}

// In any shop: the worst first, the seconds those of the links, what is named is there, and nothing without weight.
func TestChainsAddUp(t *testing.T) {
	found := 0
	rapid.Check(t, func(t *rapid.T) {
		s := shoptest.Random(rapid.Uint64Range(0, 1e6).Draw(t, "seed"), shoptest.Few)
		ix := shop.NewIndex(s)
		all := of(t, s, "")
		require.NoError(t, shoptest.Finite(all))
		for i, c := range all {
			found++
			sum := 0.0
			for _, l := range c.Links {
				require.Positive(t, l.Seconds)
				require.NotEmpty(t, l.Do)
				sum += l.Seconds
			}
			require.InDelta(t, sum, c.Seconds, 1e-9)
			require.InDelta(t, c.Seconds*c.Rate, c.Week, 1e-9)
			if i > 0 {
				require.LessOrEqual(t, c.Week, all[i-1].Week)
			}
			require.True(t, ix.Item(c.ID) != nil || ix.Station(c.ID) != nil)
		}
	})
	assert.Positive(t, found)
}

func TestTheDemosChainsNameWhatIsInTheWay(t *testing.T) {
	s, err := shop.Read(demo.Slipway)
	require.NoError(t, err)
	for _, mode := range []string{"", "milling", "evening"} {
		all := of(t, s, mode)
		require.NotEmpty(t, all)
	}
}
