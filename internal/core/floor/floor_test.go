package floor_test

import (
	"fmt"
	"math"
	"math/rand/v2"
	"slices"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"hobrak/demo"
	"hobrak/internal/core/check"
	"hobrak/internal/core/floor"
	"hobrak/internal/core/length"
	"hobrak/internal/core/note"
	"hobrak/internal/core/shop"
)

// room that a line comes to.
func room(t require.TestingT, text string) *shop.Shop {
	s := &shop.Shop{Format: shop.Format, Version: shop.Version, Settings: shop.Settings{Name: "room", Units: length.Metric, People: []shop.Person{{ID: "me", Stature: length.MM(1750)}}}}
	r := note.Room(s, text)
	require.NotNil(t, r.Area, "%+v", r.Chips)
	s.Areas = []shop.Area{*r.Area}
	return s
}

// read a station and put it where it is said, or where it is best.
func put(t require.TestingT, s *shop.Shop, text string) (shop.Station, *floor.Blocked, error) {
	r := note.Station(s, text)
	require.NotNil(t, r.Station, "%s: %+v", text, r.Chips)
	st := *r.Station
	st.ID = fmt.Sprintf("s%d", len(s.Stations))
	placed, blocked, err := floor.Put(s, st, r.Where)
	if err == nil {
		s.Stations = append(s.Stations, placed)
	}
	return placed, blocked, err
}

func hard(t require.TestingT, s *shop.Shop) (out []string) {
	require.NoError(t, s.Validate())
	found, err := check.Shop(s)
	require.NoError(t, err)
	for _, f := range found {
		if f.Hard {
			out = append(out, f.What)
		}
	}
	return out
}

func TestAStationStandsWhereItIsSaid(t *testing.T) {
	s := room(t, "5.6 x 4.1 x 2.4, door A 850x1980 at 400, window C 1200x1000 at 1450 up 950")
	bench, blocked, err := put(t, s, "bench 1400x600x860 under the window")
	require.NoError(t, err)
	assert.Nil(t, blocked)
	assert.InDelta(t, 5600-600./2-1400./2, bench.X.MM(), 1, "its back is at wall C")
	assert.InDelta(t, 270, bench.Rot, .01, "and its front to the room")
	assert.InDelta(t, 5600-600-350, bench.Stand[0].MM(), 1)
	saw, _, err := put(t, s, "bandsaw 600x700 wall D 1.2 from the left")
	require.NoError(t, err)
	assert.InDelta(t, 0, saw.Y.MM(), 1)
	assert.InDelta(t, 180, saw.Rot, .01)
	assert.InDelta(t, 5600-1200-600, saw.X.MM(), 1, "wall D is read from the right, seen from above")
	end, _, err := put(t, s, "drill press at C end of wall B")
	require.NoError(t, err)
	assert.Greater(t, end.X.MM(), 4000.)
	table, _, err := put(t, s, "small table 500x500 in the middle")
	require.NoError(t, err)
	assert.Greater(t, table.X.MM(), 600.)
	// Where the door swings nothing is put by itself; what is said exactly stands there, and what it blocks is said.
	there, blocked, err := put(t, s, "sink wall A 0.5")
	require.NoError(t, err)
	require.NotNil(t, blocked)
	assert.Equal(t, "kept", blocked.Kind)
	assert.InDelta(t, 0, there.X.MM(), 30)
	_, _, err = put(t, s, "assembly table 4000x4000")
	var none *floor.NoSpot
	require.ErrorAs(t, err, &none)
	assert.Contains(t, none.Why, "make room")
}

// In whatever room, what is put somewhere breaks no rule, blocks no way and no door, and stands in the room.
func TestWhatIsPutSomewhereIsInNobodysWay(t *testing.T) {
	kinds := shop.StationKinds()
	rapid.Check(t, func(t *rapid.T) {
		long, wide := rapid.IntRange(26, 80).Draw(t, "long"), rapid.IntRange(24, 60).Draw(t, "wide")
		text := fmt.Sprintf("%d mm x %d mm x 2400 mm, door A 850x1980 at 300, window B 900x900 at 600 up 1000, panel C 400x600 at 800 up 1200", long*100, wide*100)
		if rapid.Bool().Draw(t, "L") {
			text += ", less 1000 mm x 800 mm at corner CD"
		}
		s := room(t, text)
		for range rapid.IntRange(1, 6).Draw(t, "stations") {
			_, _, err := put(t, s, rapid.SampledFrom(kinds).Draw(t, "kind").Says())
			var none *floor.NoSpot
			if err != nil {
				require.ErrorAs(t, err, &none)
			}
		}
		require.Empty(t, hard(t, s))
		// Judged one by one, each against all others.
		for i := range s.Stations {
			g, err := floor.Of(s, &s.Areas[0], s.Stations[i].ID)
			require.NoError(t, err)
			assert.Nil(t, g.At(&s.Stations[i]), s.Stations[i].Name)
			assert.Nil(t, g.Reached(&s.Stations[i], 600), s.Stations[i].Name)
		}
	})
}

// twelve stations of a usual shop.
var twelve = []string{"bench", "table saw", "bandsaw", "planer thicknesser", "drill press", "router table", "mitre saw", "lathe", "sharpening bench", "extractor", "belt and disc sander", "finishing bench"}

func stations(t require.TestingT, s *shop.Shop) (out []shop.Station) {
	for i, text := range twelve {
		r := note.Station(s, text)
		require.NotNil(t, r.Station, text)
		r.Station.ID = fmt.Sprintf("s%d", i)
		out = append(out, *r.Station)
	}
	return out
}

func TestTwelveStationsFindTheirSpotsInABareRoom(t *testing.T) {
	s := room(t, "7.3 x 5 x 2.6, door A 900x2000 at 300, window B 1200x1000 at 2000 up 950, panel C 400x600 at 300 up 1200")
	placed, homeless, err := floor.Arrange(s, &s.Areas[0], stations(t, s))
	require.NoError(t, err)
	assert.Empty(t, homeless)
	s.Stations = placed
	assert.Empty(t, hard(t, s))
	walked, err := floor.Walking(s, &s.Areas[0])
	require.NoError(t, err)
	assert.False(t, math.IsInf(walked, 1))
}

// BenchmarkTwelveStations puts twelve stations in a bare room and says how much more is walked than in the best of
// 10 000 random arrangements that are allowed.
func BenchmarkTwelveStations(b *testing.B) {
	s := room(b, "7.3 x 5 x 2.6, door A 900x2000 at 300, window B 1200x1000 at 2000 up 950, panel C 400x600 at 300 up 1200")
	all := stations(b, s)
	var placed []shop.Station
	for b.Loop() {
		var homeless []string
		var err error
		placed, homeless, err = floor.Arrange(s, &s.Areas[0], all)
		require.NoError(b, err)
		require.Empty(b, homeless)
	}
	b.StopTimer()
	with := *s
	with.Stations = placed
	ours, err := floor.Walking(&with, &s.Areas[0])
	require.NoError(b, err)
	rng := rand.New(rand.NewPCG(1, 1))
	best, lawful := floor.BestOfRandom(b, s, all, 10000, rng)
	b.ReportMetric(ours/1000, "m")
	b.ReportMetric(best/1000, "m-random")
	b.ReportMetric(100*(ours/best-1), "%over")
	b.ReportMetric(float64(lawful), "lawful")
	_ = slices.Clone(placed)
}

// A bench with drawers of its own is moved with them; the bench is not in its own way.
func TestABenchIsMovedWithItsDrawers(t *testing.T) {
	s, err := shop.Read(demo.Slipway)
	require.NoError(t, err)
	st := shop.NewIndex(s).Station("bench")
	blocked, err := floor.Move(s, "bench", shop.Point{st.X + length.MM(20), st.Y}, st.Rot)
	require.NoError(t, err)
	require.NotNil(t, blocked, "in one arrangement the skiff is where one stands")
	assert.Equal(t, "skiff", blocked.ID)
	require.NoError(t, s.Validate())
}
