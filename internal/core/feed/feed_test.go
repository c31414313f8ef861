package feed_test

import (
	"math"
	"slices"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"hobrak/demo"
	"hobrak/internal/core/access"
	"hobrak/internal/core/feed"
	"hobrak/internal/core/floor"
	"hobrak/internal/core/free"
	"hobrak/internal/core/geometry"
	"hobrak/internal/core/length"
	"hobrak/internal/core/note"
	"hobrak/internal/core/shop"
	"hobrak/internal/core/shoptest"
)

// room with things in it, from lines as people type them.
func room(t require.TestingT, text string, stations ...string) *shop.Shop {
	s := &shop.Shop{Format: shop.Format, Version: shop.Version, Settings: shop.Settings{Name: "room", Units: length.Metric}}
	r := note.Room(s, text)
	require.NotNil(t, r.Area, "%+v", r.Chips)
	s.Areas = []shop.Area{*r.Area}
	for _, text := range stations {
		read := note.Station(s, text)
		require.NotNil(t, read.Entry, "%s: %+v", text, read.Chips)
		st := *read.Station
		st.ID = st.Name
		at, _, err := floor.Put(s, st, read.Where)
		require.NoError(t, err, text)
		s.Stations = append(s.Stations, at)
	}
	return s
}

func one(t require.TestingT, s *shop.Shop, mode string) *feed.Taken {
	all, err := feed.Of(s, mode)
	require.NoError(t, err)
	require.NotEmpty(t, all)
	return &all[0]
}

func TestTheLongestPieceAtAJointer(t *testing.T) {
	s := room(t, "6 x 4 x 2.5, door A 900x2000 at 1000", "jointer 1500x500x850")
	// In the middle of the room by hand: its cut at x 2500, y 2000, fed along x; wall A is where x is 0, wall C at 6000.
	st := &s.Stations[0]
	st.X, st.Y, st.Rot = 1750*length.Millimetre, 1750*length.Millimetre, 0
	got := one(t, s, "")
	assert.InDelta(t, 2500, got.Longest, .5)
	require.NotEmpty(t, got.In)
	assert.Equal(t, feed.ByWall, got.Out[0].Kind)

	// Before a shut door the piece is as long; with it open it reaches as far as behind the machine there is room.
	a := &s.Areas[0]
	k := -1
	for i := range a.Walls {
		if x, out := a.Frame(i).Coordinates(geometry.Point{X: 2500, Y: 2000}); math.Abs(out-2500) < 1 && k < 0 {
			k = i
			a.Walls[i].Features = []shop.Feature{{ID: "d", Name: "yard door", Kind: "door", X: length.MM(x - 400), W: length.MM(800), H: length.MM(2000)}}
		}
	}
	require.GreaterOrEqual(t, k, 0)
	got = one(t, s, "")
	assert.InDelta(t, 2500, got.Longest, .5)
	steps, err := got.ToPass(3000)
	require.NoError(t, err)
	require.Len(t, steps, 1)
	assert.Equal(t, "open yard door", steps[0].Do)
	assert.InDelta(t, 3500, steps[0].Longest, .5)
	_, err = got.ToPass(3600)
	assert.ErrorContains(t, err, "wall")

	// What is higher than the table stops it, what is lower does not, and what is level carries.
	cart := func(h float64) {
		s.Containers = []shop.Container{{ID: "K1", Name: "Cart", Kind: "cart", W: length.MM(600), H: length.MM(h), D: length.MM(600), At: shop.At{Floor: &shop.Point{4200 * length.Millimetre, 1700 * length.Millimetre}}}}
	}
	cart(900)
	got = one(t, s, "")
	assert.InDelta(t, 1700, got.Longest, .5)
	assert.Equal(t, "move Cart away", got.Steps[0].Do)
	for _, c := range []struct{ high, riser float64 }{{848, 0}, {800, 50}} {
		cart(c.high)
		got = one(t, s, "")
		assert.InDelta(t, 2500, got.Longest, .5)
		require.Len(t, got.Carries, 1)
		assert.InDelta(t, c.riser, got.Carries[0].Riser, .5)
		assert.InDelta(t, 1700, got.Carries[0].From, .5)
	}
}

// Judged by points: nothing that the piece would meet is within the way of the longest, and something is where a longer
// one would be.
func TestTheLongestPieceIsFreeAndALongerOneIsNot(t *testing.T) {
	judged := 0
	for seed := range shoptest.Seeds(150) {
		s := shoptest.Random(seed, shoptest.Few)
		all, err := feed.Of(s, "")
		require.NoError(t, err)
		require.NoError(t, shoptest.Finite(all))
		ix := shop.NewIndex(s)
		for i := range all {
			got := &all[i]
			st := ix.Station(got.Station)
			a := ix.Area(st.Area)
			openings := false
			for w := range a.Walls {
				for f := range a.Walls[w].Features {
					openings = openings || a.Walls[w].Features[f].Kind == "opening"
				}
			}
			if openings || got.Longest < 20 {
				continue
			}
			judged++
			high := st.H.MM() + feed.Thick
			roof := free.NewRoof(a)
			met := func(p geometry.Point, slack float64) bool {
				low := st.H.MM() + slack
				if !a.Outline().Contains(p) && a.Outline().Distance(p) > slack || roof.Slopes() && roof.At(p) < high-.5 {
					return true
				}
				for _, x := range access.StandingIn(s, ix, a) {
					if x.ID != st.ID && x.Height > low && x.Footprint.Contains(p) {
						return true
					}
				}
				for _, x := range access.HangingIn(s, ix, a) {
					if x.From < high && x.To > low && x.Footprint.Contains(p) {
						return true
					}
				}
				return false
			}
			hit := false
			for side, way := range got.Way {
				far, right := way[1].Sub(way[0]).Unit(), way[3].Sub(way[0])
				for along := 5.0; along < got.Longest-2; along += 37 {
					for _, x := range []float64{.02, .2, .4, .6, .8, .98} {
						p := way[0].Add(right.Mul(x)).Add(far.Mul(along))
						require.False(t, met(p, 1), "seed %d: %s, side %d, %.0f of %.0f", seed, st.ID, side, along, got.Longest)
					}
				}
				for x := .001; x < 1; x += .002 {
					for past := .2; past < 4; past++ {
						hit = hit || met(way[0].Add(right.Mul(x)).Add(far.Mul(got.Longest+past)), .5)
					}
				}
			}
			if !got.Endless {
				assert.True(t, hit, "seed %d: %s takes more than %.0f", seed, st.ID, got.Longest)
			}
		}
	}
	assert.Greater(t, judged, 40)
	t.Logf("%d machines judged", judged)
}

// A longer piece needs no fewer steps, and each step makes room; a door that is open never makes it shorter.
func TestALongerPieceNeverFitsBetter(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		s := shoptest.Random(rapid.Uint64Range(0, 1e6).Draw(t, "seed"), shoptest.Few)
		all, err := feed.Of(s, "")
		require.NoError(t, err)
		a, b := rapid.Float64Range(0, feed.Endless).Draw(t, "a"), rapid.Float64Range(0, feed.Endless).Draw(t, "b")
		for i := range all {
			got := &all[i]
			last := got.Longest
			for _, step := range got.Steps {
				require.GreaterOrEqual(t, step.Longest, last)
				last = step.Longest
			}
			short, err1 := got.ToPass(min(a, b))
			long, err2 := got.ToPass(max(a, b))
			if err2 == nil {
				require.NoError(t, err1)
				require.LessOrEqual(t, len(short), len(long))
			}
		}
		// The same with a door taken out of its frame.
		for i := range s.Areas {
			for w := range s.Areas[i].Walls {
				for f := range s.Areas[i].Walls[w].Features {
					if x := &s.Areas[i].Walls[w].Features[f]; x.Kind == "door" {
						x.Kind, x.Hinge, x.Swing = "opening", "", ""
					}
				}
			}
		}
		opened, err := feed.Of(s, "")
		require.NoError(t, err)
		for i := range all {
			require.GreaterOrEqual(t, opened[i].Longest, all[i].Longest-1e-6)
		}
	})
}

func BenchmarkAllMachines(b *testing.B) {
	s, err := shop.Read(demo.Slipway)
	require.NoError(b, err)
	n := 0
	for b.Loop() {
		for _, mode := range append([]shop.Mode{{}}, s.Modes...) {
			all, err := feed.Of(s, mode.ID)
			require.NoError(b, err)
			n += len(all)
		}
	}
	b.ReportMetric(float64(n)/float64(b.N), "machines/op")
}

// By hand: of the surfaces, those up to 5 mm below the saw carry, those up to 120 with a riser, no higher ones.
func TestSurfacesAsHighAsATableAreFound(t *testing.T) {
	mm := length.MM
	s := &shop.Shop{Stations: []shop.Station{
		{ID: "saw", Name: "Saw", H: mm(870), Feed: &shop.Feed{Along: "y"}},
		{ID: "bench", Name: "Bench", Kind: "bench", H: mm(867)},
		{ID: "low", Name: "Low", Kind: "table", H: mm(760), Mobility: shop.Rolls},
		{ID: "high", Name: "High", Kind: "table", H: mm(880)},
		{ID: "tall", Name: "Tall", Kind: "drill-press", H: mm(868), Tall: mm(1700)},
	}}
	all := feed.Pairs(s)
	require.Len(t, all, 2)
	assert.Equal(t, feed.Pair{Machine: "saw", Helper: "bench", Names: "Saw and Bench", Below: 3}, all[0])
	assert.Equal(t, feed.Pair{Machine: "saw", Helper: "low", Names: "Saw and Low", Below: 110, Riser: 110, Rolls: true}, all[1])
}

// The profile says what the stops say: whatever stops a piece as it stands is in it, at the same spot.
func TestTheProfileShowsWhatStops(t *testing.T) {
	shown := 0
	rapid.Check(t, func(t *rapid.T) {
		s := shoptest.Random(rapid.Uint64Range(0, 1e6).Draw(t, "seed"), shoptest.Few)
		all, err := feed.Of(s, "")
		require.NoError(t, err)
		for _, x := range all {
			require.NoError(t, shoptest.Finite(x.Profile))
			for i, side := range [][]feed.Stop{x.In, x.Out} {
				if len(side) == 0 || side[0].Kind != feed.ByThing || side[0].At == 0 {
					continue
				}
				at := side[0].At
				if i == 0 {
					at = -at
				}
				found := false
				for _, b := range x.Profile {
					found = found || b.ID == side[0].ID && b.Stops && (math.Abs(b.From-at) < 1 || math.Abs(b.To-at) < 1)
				}
				require.True(t, found, "%v %+v", side[0], x.Profile)
				shown++
			}
		}
	})
	assert.Positive(t, shown)
}

// Under a slope a piece goes as far as the ceiling is higher than it lies thick: by hand, of a lean-to 4 m deep that falls from
// 2 400 to 400 the ceiling is 940 high 1 080 from the low wall, and the cut is at 2 000. What the machine itself takes is on its plate.
func TestASlopeStopsAPieceAndThePlateLimitsIt(t *testing.T) {
	s := room(t, "5 x 4 x 2.4, slopes from 2.4 at B to 0.4 at D", "table saw 800x750x900")
	st := &s.Stations[0]
	st.X, st.Y, st.Rot = length.MM(2100), length.MM(1625), 0
	st.Feed.Along = "y"
	got := one(t, s, "")
	stops := append(append([]feed.Stop{}, got.In...), got.Out...)
	k := slices.IndexFunc(stops, func(x feed.Stop) bool { return x.Kind == feed.BySlope })
	require.GreaterOrEqual(t, k, 0, "%+v", stops)
	assert.InDelta(t, 2000-1080, stops[k].At, 2)
	assert.Zero(t, got.Thick, "nothing is known")
	st.Feed.Thick, st.Feed.Wide = length.MM(80), length.MM(300)
	got = one(t, s, "")
	assert.InDelta(t, 80, got.Thick, .1)
	assert.Equal(t, st.Name, got.ByThick)
	assert.InDelta(t, 300, got.Widest(), .1)
}
