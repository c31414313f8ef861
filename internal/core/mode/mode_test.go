package mode_test

import (
	"fmt"
	"math"
	"slices"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"hobrak/demo"
	"hobrak/internal/core/access"
	"hobrak/internal/core/belongings"
	"hobrak/internal/core/body"
	"hobrak/internal/core/check"
	"hobrak/internal/core/floor"
	"hobrak/internal/core/geometry"
	"hobrak/internal/core/length"
	"hobrak/internal/core/mode"
	"hobrak/internal/core/note"
	"hobrak/internal/core/shop"
	"hobrak/internal/core/shoptest"
	"hobrak/internal/core/walk"
	"hobrak/internal/core/weight"
)

func mm(v float64) length.Length { return length.MM(v) }

func room(t testing.TB, text string, stations ...string) *shop.Shop {
	r := note.Room(&shop.Shop{}, text)
	require.NotNil(t, r.Area, "%+v", r.Chips)
	s := &shop.Shop{Settings: shop.Settings{Units: length.Metric}, Areas: []shop.Area{*r.Area}}
	for _, line := range stations {
		_, _, err := belongings.AddStation(s, line)
		require.NoError(t, err, line)
	}
	return s
}

func of(t testing.TB, s *shop.Shop, id string) *mode.Layout {
	l, err := mode.Of(s, id, s.Areas[0].ID)
	require.NoError(t, err)
	return l
}

func codes(l *mode.Layout) (out []string) {
	for _, b := range l.Breaches {
		out = append(out, b.Code)
	}
	return out
}

func TestTheDemosFourModesBreakNoRule(t *testing.T) {
	s, err := shop.Read(demo.Slipway)
	require.NoError(t, err)
	for _, id := range []string{"", "day", "milling", "gluing", "evening"} {
		l := of(t, s, id)
		assert.False(t, l.Hard(), "%s: %+v", id, l.Breaches)
	}
}

// By hand: two benches 700 apart leave a way of 700, said up to a square too narrow.
func TestAWayIsAsWideAsItsNarrowestSpot(t *testing.T) {
	s := room(t, "6 x 4 x 2.5, door A 900x2000 at 1500")
	s.Stations = []shop.Station{
		{ID: "near", Name: "Near", Kind: "table-saw", X: mm(2000), Y: 0, W: mm(600), D: mm(1600), H: mm(850), Stand: shop.Point{mm(1500), mm(800)}},
		{ID: "beyond", Name: "Beyond", Kind: "table-saw", X: mm(2000), Y: mm(2300), W: mm(600), D: mm(1700), H: mm(850), Stand: shop.Point{mm(1500), mm(3000)}},
		{ID: "far", Name: "Far", Kind: "table-saw", X: mm(5000), Y: mm(3000), W: mm(600), D: mm(600), H: mm(850), Stand: shop.Point{mm(4600), mm(1500)}},
	}
	l := of(t, s, "")
	i := slices.IndexFunc(l.Ways, func(w mode.Way) bool { return w.Station == "far" })
	assert.InDelta(t, 700, l.Ways[i].Wide, 60)
	assert.LessOrEqual(t, l.Ways[i].Wide, 700.0)
	assert.ElementsMatch(t, []string{"Near", "Beyond"}, l.Ways[i].Between)
	assert.NotContains(t, codes(l), "way")
	s.Stations[1].Y, s.Stations[1].D = mm(2100), mm(1900) // 500
	assert.Contains(t, codes(of(t, s, "")), "way")
	s.Stations[1].Y, s.Stations[1].D = mm(1600), mm(2400) // none
	l = of(t, s, "")
	assert.Contains(t, codes(l), "way")
	assert.Zero(t, l.Ways[slices.IndexFunc(l.Ways, func(w mode.Way) bool { return w.Station == "far" })].Wide)
}

// What is said of a way agrees with another way of looking for it: along the corners of what stands there, grown by half of it.
func TestWaysAgreeWithThoseRoundCorners(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		s := shoptest.Random(rapid.Uint64Range(0, 1e6).Draw(t, "seed"), shoptest.Few)
		ix := shop.NewIndex(s)
		a := &s.Areas[0]
		l, err := mode.Of(s, "", a.ID)
		require.NoError(t, err)
		require.NoError(t, shoptest.Finite(l))
		door, ok := access.MainDoor(a)
		if !ok {
			return
		}
		var solid []geometry.Polygon
		for _, b := range access.StandingIn(s, ix, a) {
			solid = append(solid, b.Footprint)
		}
		for _, w := range l.Ways {
			if w.Wide < 200 || w.Wide > 800 { // the other way rounds corners off by more the wider the body is
				continue
			}
			// A body a little less wide gets there, to within an arm of the spot.
			f := walk.NewFloor(a.Outline(), solid, w.Wide/2-80)
			reached := false
			for _, from := range about(f, door, 1000) {
				if reached {
					break
				}
				ways := f.From(from)
				for _, p := range about(f, ix.Station(w.Station).Stand.Geometry(), 1000) {
					if !reached {
						_, reached = ways.To(p)
					}
				}
			}
			require.True(t, reached, "%+v", w)
		}
	})
}

// about are spots within an arm where somebody so wide fits, at most so many.
func about(f *walk.Floor, p geometry.Point, most int) (out []geometry.Point) {
	for r := 0.0; r <= 500; r += 50 {
		for k := range 24 {
			if q := p.Add(geometry.Point{X: r}.Turned(float64(k) * 15)); f.Free(q) && len(out) < most {
				out = append(out, q)
			}
		}
	}
	return out
}

// A cart goes beneath the top of a bench when it is low enough, and is said to be under it; a higher one stands in it.
func TestWhatIsLowGoesBeneathABench(t *testing.T) {
	s := room(t, "5 x 4 x 2.4, door A 900x2000 at 300", "bench 1500x650x880 wall B 1.5")
	at := shop.Point{s.Stations[0].X + mm(200), s.Stations[0].Y + mm(50)}
	s.Containers = []shop.Container{{ID: "K1", Kind: shop.Cart, At: shop.At{Floor: &at}, W: mm(500), D: mm(500), H: mm(700)}}
	l := of(t, s, "")
	assert.False(t, l.Hard(), "%+v", l.Breaches)
	assert.True(t, l.Shapes[slices.IndexFunc(l.Shapes, func(x mode.Shape) bool { return x.ID == "K1" })].Under)
	s.Containers[0].H = mm(800)
	assert.Contains(t, codes(of(t, s, "")), "standing")
}

// What stands before drawers keeps them shut; a lower one does not.
func TestADrawerIsStoppedByWhatStandsBeforeIt(t *testing.T) {
	s := room(t, "5 x 4 x 2.4, door A 900x2000 at 300")
	at := shop.Point{mm(2000), mm(3550)}
	s.Containers = []shop.Container{{ID: "K1", Kind: shop.Cabinet, At: shop.At{Floor: &at}, W: mm(600), D: mm(450), H: mm(900)}}
	for i := range 2 {
		s.Places = append(s.Places, shop.Place{ID: fmt.Sprintf("K1-%d", i+1), Kind: "drawer", Access: "drawer", At: shop.At{In: "K1", Z: mm(float64(100 + 500*i))}, W: mm(560), H: mm(200), D: mm(430)})
	}
	require.NotContains(t, codes(of(t, s, "")), "opens")
	// A stool 350 high, 150 before it: the lower drawer opens 150 of 430, the upper one passes over it.
	s.Stations = []shop.Station{{ID: "stool", Name: "Stool", Kind: "saw-stool", X: mm(2050), Y: mm(3100), W: mm(400), D: mm(300), H: mm(350), Mobility: shop.Rolls, Stand: shop.Point{mm(1500), mm(3000)}}}
	l := of(t, s, "")
	i := slices.Index(codes(l), "opens")
	require.GreaterOrEqual(t, i, 0)
	assert.Equal(t, []string{"K1-1", "stool"}, l.Breaches[i].Of)
	assert.Contains(t, l.Breaches[i].Says, "150")
	assert.Contains(t, l.Breaches[i].Do, "roll Stool away")
}

func TestWhatIsHoistedHasNothingBeneath(t *testing.T) {
	s := room(t, "6 x 4 x 2.6, door A 900x2000 at 300", "bench 1500x650x880 wall D 3.0")
	s.Stations = append(s.Stations, shop.Station{ID: "boat", Name: "Boat", Kind: "boat", X: mm(2000), Y: mm(1000), W: mm(2500), D: mm(1200), H: mm(900), Mobility: shop.HungUp, Stand: shop.Point{mm(1000), mm(1000)}})
	s.Modes = []shop.Mode{{ID: "up", Name: "Boat up", Spots: map[string]shop.Standing{"boat": {State: "hoisted"}}}}
	l := of(t, s, "up")
	assert.False(t, l.Hard(), "%+v", l.Breaches)
	s.Stations = append(s.Stations, shop.Station{ID: "cupboard", Name: "Cupboard", Kind: "wardrobe", X: mm(3000), Y: mm(1200), W: mm(600), D: mm(600), H: mm(900), Tall: mm(1900), Stand: shop.Point{mm(3300), mm(600)}})
	assert.Contains(t, codes(of(t, s, "up")), "hoisted")
}

// The mode's check and the shop's own agree on what stands in what and outside of the room, however it came about.
func TestModesAgreeWithTheShopsCheck(t *testing.T) {
	clashes := 0
	rapid.Check(t, func(t *rapid.T) {
		s := shoptest.Random(rapid.Uint64Range(0, 1e6).Draw(t, "seed"), shoptest.Few)
		s.Containers, s.Places, s.Homes, s.Modes = nil, nil, nil, nil
		for i := range s.Stations {
			s.Stations[i].Kind, s.Stations[i].Mobility = "shaper", shop.Rolls // solid down to the floor
		}
		if s.Validate() != nil {
			return
		}
		found, err := check.Shop(s)
		require.NoError(t, err)
		want := map[string]bool{}
		for _, f := range found {
			if f.Code == "standing" {
				want[f.What] = true
			}
		}
		got := 0
		for i := range s.Areas {
			l, err := mode.Of(s, "", s.Areas[i].ID)
			require.NoError(t, err)
			for _, b := range l.Breaches {
				if b.Code == "standing" {
					got++
				}
			}
		}
		require.Equal(t, len(want), got)
		clashes += got
	})
	assert.Positive(t, clashes)
}

// Whatever is put where in a mode: it is taken or refused with a reason, and the shop stays one that can be kept.
func TestASpotInAModeIsTakenOrRefused(t *testing.T) {
	taken := 0
	rapid.Check(t, func(t *rapid.T) {
		s := shoptest.Random(rapid.Uint64Range(0, 1e6).Draw(t, "seed"), shoptest.Few)
		s.Modes = nil
		for i := range s.Places {
			s.Places[i].When = nil
		}
		id, err := floor.Keep(s, "Night", 3)
		require.NoError(t, err)
		thing := "nothing"
		if n := len(s.Stations); n > 0 {
			thing = s.Stations[rapid.IntRange(0, n-1).Draw(t, "station")].ID
		}
		if n := len(s.Containers); n > 0 && rapid.Bool().Draw(t, "container") {
			thing = s.Containers[rapid.IntRange(0, n-1).Draw(t, "n")].ID
		}
		to := shop.Standing{State: rapid.SampledFrom([]string{"", "", "folded", "hoisted", "away"}).Draw(t, "state")}
		if to.State == "" {
			to.Floor = shop.Point{mm(rapid.Float64Range(-2000, 9000).Draw(t, "x")), mm(rapid.Float64Range(-2000, 9000).Draw(t, "y"))}
			to.Rot = rapid.Float64Range(0, 360).Draw(t, "rot")
		}
		was := s.Clone()
		if err := floor.SetSpot(s, id, thing, to); err != nil {
			require.NotEmpty(t, err.Error())
			require.Equal(t, was, s)
			return
		}
		taken++
		require.NoError(t, s.Validate())
		for i := range s.Areas {
			l, err := mode.Of(s, id, s.Areas[i].ID)
			require.NoError(t, err)
			require.NoError(t, shoptest.Finite(l))
		}
		copied, err := floor.Copy(s, id, "Other night", 0)
		require.NoError(t, err)
		a, _ := s.Mode(id)
		b, _ := s.Mode(copied)
		require.Equal(t, a.Spots, b.Spots)
		require.NoError(t, floor.ClearSpot(s, id, thing))
		require.NotEqual(t, a.Spots, b.Spots, "a copy is a copy")
		require.NoError(t, floor.Forget(s, copied))
		require.NoError(t, s.Validate())
	})
	assert.Positive(t, taken)
}

// What opens is stopped no farther than it is deep, and never by what is beside, above or below it.
func TestOpeningIsNeverFartherThanWhatStopsIt(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		deep, wide := rapid.Float64Range(100, 800).Draw(t, "deep"), rapid.Float64Range(100, 900).Draw(t, "wide")
		turn := rapid.Float64Range(0, 360).Draw(t, "turn")
		at := func(x, y float64) geometry.Point { return geometry.Point{X: x, Y: y}.Turned(turn) }
		b := body.Body{ID: "d", Of: "k", Part: body.Drawer, Front: geometry.Segment{A: at(0, 0), B: at(wide, 0)}, Foot: geometry.Polygon{at(0, 0), at(wide, 0), at(wide, deep), at(0, deep)}, To: 300, Deep: deep}
		x, y := rapid.Float64Range(-900, 1500).Draw(t, "x"), rapid.Float64Range(0, 900).Draw(t, "y")
		w, h := rapid.Float64Range(50, 900).Draw(t, "w"), rapid.Float64Range(50, 900).Draw(t, "h")
		from := rapid.SampledFrom([]float64{0, 400}).Draw(t, "from")
		o := body.Body{ID: "o", Of: "o", Part: body.Stands, Foot: geometry.Polygon{at(x, y), at(x+w, y), at(x+w, y+h), at(x, y+h)}, From: from, To: 900}
		far, by := b.Opens([]body.Body{o})
		meets := from == 0 && x < wide-6 && x+w > 6 && y < deep-6 && h > 6
		clear := from > 0 || x >= wide || x+w <= 0 || y >= deep
		switch {
		case meets:
			require.Equal(t, "o", by)
			require.InDelta(t, y, far, 1e-6)
		case clear:
			require.Empty(t, by)
			require.InDelta(t, deep, far, 1e-9)
		}
	})
}

// BenchmarkAModeOfSixty checks an arrangement with sixty bodies.
func BenchmarkAModeOfSixty(b *testing.B) {
	s := room(b, "12 x 9 x 3, door A 1200x2100 at 400")
	for i := range 60 {
		x, y := 600+float64(i%10)*1100, 600+float64(i/10)*1350
		s.Stations = append(s.Stations, shop.Station{ID: fmt.Sprintf("s%d", i), Name: fmt.Sprintf("Station %d", i), Kind: "shaper", X: mm(x), Y: mm(y), W: mm(600), D: mm(500), H: mm(900), Rot: float64(i%4) * 5, Mobility: shop.Rolls, Stand: shop.Point{mm(x + 300), mm(y - 300)}})
	}
	for b.Loop() {
		_, err := mode.Breaches(s, "", s.Areas[0].ID)
		require.NoError(b, err)
	}
	l := of(b, s, "")
	b.ReportMetric(float64(b.Elapsed().Microseconds())/1000/float64(b.N), "ms")
	b.ReportMetric(float64(len(l.Ways)), "ways")
	least := math.Inf(1)
	for _, w := range l.Ways {
		least = min(least, w.Wide)
	}
	b.ReportMetric(least, "mm-narrowest")
}

// Each caution comes when it should, and goes when what helps is done.
func TestFloorCautionsComeAndGo(t *testing.T) {
	has := func(s *shop.Shop, code string) bool { return slices.Contains(codes(of(t, s, "")), code) }
	at := func(s *shop.Shop, id string, x, y, rot float64) {
		_, err := floor.Move(s, id, shop.Point{mm(x), mm(y)}, rot)
		require.NoError(t, err)
	}
	s := room(t, "9 x 6 x 2.6, door A 900x2000 at 300", "table saw 800x750x860", "desk 1200x600x740", "bench grinder 400x300x950", "drum sander 900x650x950")
	at(s, "table-saw", 4000, 3000, 0)
	at(s, "desk", 3800, 600, 180) // who sits there is in line before the saw
	at(s, "bench-grinder", 8000, 5000, 0)
	at(s, "drum-sander", 7000, 4500, 0)
	assert.True(t, has(s, "in-line"))
	assert.True(t, has(s, "sparks"))
	assert.True(t, has(s, "push-stick"))
	assert.True(t, has(s, "unheld"))
	at(s, "desk", 200, 5000, 0)
	at(s, "drum-sander", 1500, 200, 180)
	assert.False(t, has(s, "in-line"))
	assert.False(t, has(s, "sparks"))
	// A push stick at the saw, and a table a little lower behind it.
	_, _, err := belongings.AddStation(s, "out-feed table 1200x900x857")
	require.NoError(t, err)
	at(s, "out-feed-table", 3800, 3800, 0)
	assert.False(t, has(s, "unheld"), "%v", of(t, s, "").Breaches)
	s.Places = []shop.Place{{ID: "P", Kind: "shelf", At: shop.At{Station: "table-saw", Z: mm(300)}, W: mm(500), H: mm(300), D: mm(300)}}
	s.Items = []shop.Item{{ID: "ps", Name: "Push stick", W: mm(100), H: mm(320), D: mm(40)}}
	s.Homes = []shop.Home{{Item: "ps", Place: "P"}}
	assert.False(t, has(s, "push-stick"))
	// A lathe that throws towards the desk, and a deep cabinet at the height of a face.
	s.Stations = append(s.Stations, shop.Station{ID: "lathe", Name: "Lathe", Kind: "lathe", W: mm(1300), D: mm(450), H: mm(1050)})
	at(s, "lathe", 400, 3200, 180)
	at(s, "desk", 300, 4300, 0)
	assert.True(t, has(s, "throw"))
	s.Containers = []shop.Container{{ID: "K1", Kind: shop.Cabinet, At: shop.At{Wall: "C", X: mm(500), Z: mm(1400)}, W: mm(800), H: mm(600), D: mm(350)}}
	assert.True(t, has(s, "head"))
	s.Containers[0].D = mm(200)
	assert.False(t, has(s, "head"))
	// What is wished for holds its place, and takes no part.
	s.Stations[0].Wished = "2027-05-31"
	assert.False(t, has(s, "unheld"))
	at(s, "out-feed-table", 4100, 3100, 0)
	assert.True(t, has(s, "ghost"))
}

// What is on wheels, under the ceiling, out of doors or before the extinguisher has its caution until it is put right.
func TestCautionsOfWhatMovesComeAndGo(t *testing.T) {
	s := room(t, "9 x 6 x 2.6, overhead door A 2400x2100 at 3000, door C 900x2000 at 500", "table saw 800x750x860 wheels wall B", "drum sander 900x650x950 wheels", "extractor 650x500x900 wall B")
	s.Modes = []shop.Mode{{ID: "dry", Name: "Dry days", Spots: map[string]shop.Standing{}}}
	in := func(at, code string) bool {
		found, err := mode.Breaches(s, at, s.Areas[0].ID)
		require.NoError(t, err)
		return slices.ContainsFunc(found, func(b mode.Breach) bool { return b.Code == code })
	}
	saw := func() *shop.Station { return shop.NewIndex(s).Station("table-saw") }
	assert.False(t, in("", "locks"), "nothing is said of the casters")
	saw().Casters = shop.Plain
	assert.True(t, in("", "locks"))
	saw().Casters = shop.Locking
	assert.False(t, in("", "locks"))
	// Out of doors.
	require.NoError(t, floor.SetSpot(s, "dry", "drum-sander", shop.Standing{State: mode.Outdoor}))
	assert.True(t, in("dry", "weather"))
	assert.False(t, in("", "weather"))
	require.ErrorContains(t, floor.SetSpot(s, "dry", "extractor", shop.Standing{State: mode.Outdoor}), "fixed")
	// Hung up: rated for too little is a broken rule, and without joists it is not known to hold.
	st := shop.NewIndex(s).Station("drum-sander")
	st.Mobility, st.KG = shop.HungUp, weight.KG(80)
	delete(s.Modes[0].Spots, "drum-sander")
	assert.True(t, in("", "hoist"), "no rating")
	st.Rated = weight.KG(60)
	assert.True(t, of(t, s, "").Hard())
	st.Rated = weight.KG(120)
	assert.True(t, in("", "hoist"), "no joists")
	s.Areas[0].Ceiling = &shop.Ceiling{Joists: &shop.Joists{Along: "x", Spacing: mm(400)}}
	assert.False(t, in("", "hoist"))
	// The drum of the extractor comes out towards what is put before it.
	ext := shop.NewIndex(s).Station("extractor")
	assert.False(t, in("", "opens"))
	foot := ext.Footprint()
	front := foot[0].Add(foot[1]).Mul(.5)
	c := front.Add(ext.Stand.Geometry().Sub(front).Unit().Mul(350))
	s.Containers = []shop.Container{{ID: "K9", Kind: "cart", W: mm(500), H: mm(800), D: mm(500), At: shop.At{Floor: &shop.Point{mm(c.X - 250), mm(c.Y - 250)}}}}
	assert.True(t, in("", "opens"), "%v", of(t, s, "").Breaches)
	s.Containers = nil
	// An extinguisher behind the leaf of a door, then one with a cart before it.
	s.Items = []shop.Item{{ID: "fire", Name: "fire extinguisher", W: mm(160), H: mm(450), D: mm(160)}}
	s.Places = []shop.Place{{ID: "H1", Kind: "hook", At: shop.At{Wall: "C", X: mm(700), Z: mm(1000)}, W: mm(200), H: mm(500), D: mm(200)}}
	s.Homes = []shop.Home{{Item: "fire", Place: "H1"}}
	assert.True(t, in("", "aid"), "behind the leaf")
	s.Places[0].At.X = mm(4000)
	assert.False(t, in("", "aid"), "%v", of(t, s, "").Breaches)
	p := s.Areas[0].Frame(2).Spot(4100, 500)
	s.Containers = []shop.Container{{ID: "K9", Kind: "cart", W: mm(1200), H: mm(800), D: mm(1000), At: shop.At{Floor: &shop.Point{mm(p.X - 600), mm(p.Y - 500)}}}}
	assert.True(t, in("", "aid"), "behind a cart")
	s.Containers = nil
	// Storage over the leaf of the overhead door, until it is rated; on the leaf itself, always.
	s.Places = append(s.Places, shop.Place{ID: "R1", Kind: "ceiling-rack", At: shop.At{Ceiling: &shop.Point{mm(3200), mm(300)}, Z: mm(2300)}, W: mm(1200), H: mm(200), D: mm(800)})
	rack := &s.Places[len(s.Places)-1]
	a := s.Areas[0].Frame(0).Spot(3600, 600)
	rack.At.Ceiling = &shop.Point{mm(a.X - 300), mm(a.Y - 300)}
	rack.W, rack.D = mm(600), mm(600)
	assert.True(t, in("", "leaf"), "over the leaf")
	rack.Capacity = weight.KG(50)
	assert.False(t, in("", "leaf"))
	rack.At = shop.At{Wall: "A", X: mm(3500), Z: mm(1200)}
	rack.D = mm(150)
	assert.True(t, in("", "leaf"), "on the leaf")
}

// BenchmarkDrag is what is asked while something is dragged in an arrangement of the demo: what would be in its way there.
func BenchmarkDrag(b *testing.B) {
	s, err := shop.Read(demo.Slipway)
	require.NoError(b, err)
	for n := 0; b.Loop(); n++ {
		require.NoError(b, floor.SetSpot(s, "milling", "drum-sander", shop.Standing{Floor: shop.Point{mm(4000 + float64(n%20)*50), mm(1500)}}))
		_, err := mode.Breaches(s, "milling", s.Areas[0].ID)
		require.NoError(b, err)
	}
	b.ReportMetric(float64(b.Elapsed().Microseconds())/1000/float64(b.N), "ms")
}
