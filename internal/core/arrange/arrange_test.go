package arrange_test

import (
	"fmt"
	"math"
	"slices"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"hobrak/demo"
	"hobrak/internal/core/arrange"
	"hobrak/internal/core/belongings"
	"hobrak/internal/core/check"
	"hobrak/internal/core/floor"
	"hobrak/internal/core/length"
	"hobrak/internal/core/mode"
	"hobrak/internal/core/note"
	"hobrak/internal/core/shift"
	"hobrak/internal/core/shop"
)

func slipway(t testing.TB) *shop.Shop {
	s, err := shop.Read(demo.Slipway)
	require.NoError(t, err)
	return s
}

func room(t require.TestingT, text string, stations ...string) *shop.Shop {
	r := note.Room(&shop.Shop{}, text)
	require.NotNil(t, r.Area, "%+v", r.Chips)
	s := &shop.Shop{Settings: shop.Settings{Units: length.Metric}, Areas: []shop.Area{*r.Area}}
	for _, line := range stations {
		_, _, err := belongings.AddStation(s, line)
		require.NoError(t, err, line)
	}
	return s
}

// gone is how far a proposal's shop is from breaking rules: none, in any mode.
func sound(t require.TestingT, was, s *shop.Shop) {
	for _, id := range append([]string{""}, ids(s)...) {
		l, err := mode.Of(s, id, s.Areas[0].ID)
		require.NoError(t, err)
		before, err := mode.Of(was, id, s.Areas[0].ID)
		require.NoError(t, err)
		if !before.Hard() {
			require.False(t, l.Hard(), "%s: %+v", id, l.Breaches)
		}
	}
}

func ids(s *shop.Shop) (out []string) {
	for i := range s.Modes {
		out = append(out, s.Modes[i].ID)
	}
	return out
}

// In small rooms all arrangements on a grid of 250 are looked at one by one: none is better than the engine's.
func TestInSmallRoomsNoArrangementIsBetter(t *testing.T) {
	lines := []string{"bench 1250x750x880", "bandsaw 500x500x950", "small lathe 1000x500x1050", "drill press 500x500x950", "sharpening bench 750x500x900"}
	tried, most := 0, 0
	rapid.Check(t, func(t *rapid.T) {
		w := 250 * rapid.IntRange(11, 14).Draw(t, "w")
		d := 250 * rapid.IntRange(10, 12).Draw(t, "d")
		n := rapid.IntRange(2, 3).Draw(t, "stations")
		order := rapid.Permutation(lines).Draw(t, "lines")[:n]
		s := room(t, fmt.Sprintf("%.2f x %.2f x 2.4, door A 800x2000 at 300", float64(w)/1000, float64(d)/1000))
		for i, line := range order {
			r := note.Station(s, line)
			require.NotNil(t, r.Station)
			st := *r.Station
			st.ID = fmt.Sprintf("s%d", i)
			at, _, err := floor.Put(s, st, floor.Wish{Anyhow: true})
			if err != nil {
				t.Skip("no room")
			}
			s.Stations = append(s.Stations, at)
		}
		// Between each two something is carried.
		for i := range n {
			for k := range i {
				s.Settings.Jobs = append(s.Settings.Jobs, shop.Job{Name: "j", PerMonth: rapid.Float64Range(1, 60).Draw(t, "rate"), Path: []string{"door", s.Stations[i].ID, s.Stations[k].ID}})
			}
		}
		o := arrange.Options{Area: s.Areas[0].ID, Grid: 250, Tries: 60000, Seed: rapid.Uint64().Draw(t, "seed")}
		best, lawful, err := arrange.Best(s, arrange.Short, o)
		require.NoError(t, err)
		if math.IsInf(best, 1) || lawful < 20 || lawful > 400000 {
			t.Skip("too few or too many")
		}
		all, err := arrange.Whole(s, o)
		require.NoError(t, err)
		i := slices.IndexFunc(all, func(p arrange.Proposal) bool { return p.School == arrange.Short })
		if i < 0 { // as it stands is the best, or another school has the same
			return
		}
		tried++
		most = max(most, lawful)
		sound(t, s, all[i].Shop)
		got, err := arrange.Cost(s, &all[i], o)
		require.NoError(t, err)
		require.LessOrEqual(t, got, best*1.0001, "of %d arrangements", lawful)
	})
	assert.Positive(t, tried)
	t.Logf("%d rooms, of up to %d arrangements", tried, most)
}

func TestPinnedStationsStayAndTheRestBreaksNoRule(t *testing.T) {
	s := slipway(t)
	o := arrange.Options{Area: s.Areas[0].ID, Pinned: []string{"bench", "carving"}, Tries: 10000}
	all, err := arrange.Whole(s, o)
	require.NoError(t, err)
	require.NotEmpty(t, all)
	o.Spent = func() float64 { return 2 }
	short, err := arrange.Whole(s, o)
	require.NoError(t, err, "the time is over before it began")
	o.Spent = nil
	for _, p := range append(all, short...) {
		require.NoError(t, p.Shop.Validate())
		sound(t, s, p.Shop)
		found, err := check.Shop(p.Shop)
		require.NoError(t, err)
		for _, f := range found {
			assert.False(t, f.Hard && (f.Code == "standing" || f.Code == "stand" || f.Code == "outside"), "%v", f)
		}
		for _, m := range p.Moved {
			assert.NotContains(t, o.Pinned, m.ID)
		}
		assert.LessOrEqual(t, p.Bound, p.After.Walking, "no arrangement is below the bound")
	}
	for i := range s.Stations {
		o.Pinned = append(o.Pinned, s.Stations[i].ID)
	}
	_, err = arrange.Whole(s, o)
	assert.ErrorContains(t, err, "pinned")
}

// The skiff comes in with no more moved than in the arrangement that was made by hand.
func TestRoomForTheSkiffIsMadeWithAsFewMoves(t *testing.T) {
	s := slipway(t)
	byHand, err := shift.Between(s, "", "evening")
	require.NoError(t, err)
	_, err = floor.Keep(s, "Night", 10)
	require.NoError(t, err)
	made, err := arrange.MakeRoom(s, "night", s.Areas[0].ID, "skiff")
	require.NoError(t, err)
	require.NoError(t, made.Shop.Validate())
	l, err := mode.Of(made.Shop, "night", s.Areas[0].ID)
	require.NoError(t, err)
	assert.False(t, l.Hard(), "%+v", l.Breaches)
	assert.Empty(t, made.Stuck)
	plan, err := shift.Between(made.Shop, "", "night")
	require.NoError(t, err)
	assert.LessOrEqual(t, len(plan.Moves), len(byHand.Moves))
}

func TestWhatIsTooLargeFindsNoRoomAndSaysSo(t *testing.T) {
	s := room(t, "4 x 3 x 2.4, door A 900x2000 at 300", "bench 1500x650x880")
	s.Containers = []shop.Container{{ID: "T", Name: "Trailer", Kind: shop.Trolley, At: shop.At{Away: true}, W: length.MM(4600), H: length.MM(1000), D: length.MM(1500)}}
	id, err := floor.Keep(s, "Night", 0)
	require.NoError(t, err)
	_, err = arrange.MakeRoom(s, id, s.Areas[0].ID, "T")
	assert.ErrorContains(t, err, "larger than the room")
	s.Containers[0].W, s.Containers[0].D = length.MM(3900), length.MM(2900)
	_, err = arrange.MakeRoom(s, id, s.Areas[0].ID, "T")
	assert.ErrorContains(t, err, "what is fixed leaves no")
	_, err = arrange.MakeRoom(s, id, s.Areas[0].ID, "bench")
	assert.ErrorContains(t, err, "is fixed")
	_, err = arrange.MakeRoom(s, "nowhen", s.Areas[0].ID, "T")
	assert.Error(t, err)
}

// BenchmarkArrangeTheDemo arranges the demo's eleven stations in four schools and says how much less is walked, things living
// where they do, and how far the best is from the bound.
func BenchmarkArrangeTheDemo(b *testing.B) {
	s := slipway(b)
	var all []arrange.Proposal
	for b.Loop() {
		var err error
		all, err = arrange.Whole(s, arrange.Options{Area: s.Areas[0].ID})
		require.NoError(b, err)
	}
	b.ReportMetric(all[0].Before.Walking, "m-before")
	b.ReportMetric(all[0].After.Walking, "m-after")
	b.ReportMetric(100*(1-all[0].After.Walking/all[0].Before.Walking), "%less")
	b.ReportMetric(100*(all[0].After.Walking/all[0].Bound-1), "%over-bound")
	b.ReportMetric(100*(1-all[0].Follow.Walking/all[0].Before.Walking), "%less-with-homes")
	b.ReportMetric(100*(1-all[0].Follow.Walking/all[0].Stays.Walking), "%less-than-homes-alone")
	b.ReportMetric(100*(1-all[0].Follow.Handling/all[0].Stays.Handling), "%less-handling-than-homes-alone")
}

func BenchmarkRoomForTheSkiff(b *testing.B) {
	s := slipway(b)
	_, err := floor.Keep(s, "Night", 10)
	require.NoError(b, err)
	var made *arrange.Made
	for b.Loop() {
		made, err = arrange.MakeRoom(s, "night", s.Areas[0].ID, "skiff")
		require.NoError(b, err)
	}
	b.ReportMetric(float64(len(made.Steps)), "moves")
	b.ReportMetric(made.Seconds, "s-change")
}
