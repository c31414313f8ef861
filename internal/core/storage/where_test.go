package storage_test

import (
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"hobrak/demo"
	"hobrak/internal/core/access"
	"hobrak/internal/core/check"
	"hobrak/internal/core/free"
	"hobrak/internal/core/keeping"
	"hobrak/internal/core/length"
	"hobrak/internal/core/shop"
	"hobrak/internal/core/storage"
)

func spaceOf(t require.TestingT, s *shop.Shop) (*access.Map, *free.Result) {
	m, err := access.NewMap(s)
	require.NoError(t, err)
	return m, free.Of(m)
}

// where looks for spots in a shop.
func where(t require.TestingT, s *shop.Shop, d *storage.Design) (*storage.Sites, error) {
	m, space := spaceOf(t, s)
	return storage.Where(m, space, d)
}

// clamps of the demo's shop, as a new rack would hold them.
func clamps(s *shop.Shop) (out []*shop.Item) {
	for i := range s.Items {
		if s.Items[i].Family == "clamps" && slices.Contains(s.Items[i].Holding(), "slot") {
			out = append(out, &s.Items[i])
		}
	}
	return out
}

func TestEverySpotThatIsOfferedIsFreeAndPassesTheCheck(t *testing.T) {
	s, err := shop.Read(demo.Slipway)
	require.NoError(t, err)
	before, err := check.Shop(s)
	require.NoError(t, err)
	hard := func(list []check.Finding) (n int) {
		for _, f := range list {
			if f.Hard {
				n++
			}
		}
		return n
	}
	var small []*shop.Item
	for i := range s.Items {
		if s.Items[i].Family == "knives" || s.Items[i].Family == "templates" {
			small = append(small, &s.Items[i])
		}
	}
	for _, kind := range []string{"tool-board", "shelf", "shelf-unit", "drawer-bank"} {
		d, err := storage.Size(kind, "Z1", storage.Need{Items: small, Reserve: .1, Width: length.MM(600)})
		require.NoError(t, err)
		got, err := where(t, s, d)
		require.NoError(t, err)
		for n, c := range got.Sites {
			next := s.Clone()
			require.NoError(t, storage.Install(next, d, c.At))
			require.NoError(t, next.Validate(), "%s: %+v", kind, c)
			if n > 0 {
				assert.True(t, len(c.Barred) > len(got.Sites[n-1].Barred) || c.Seconds >= got.Sites[n-1].Seconds-1e-9, "best first")
			}
			if len(c.Barred) == 0 {
				after, err := check.Shop(next)
				require.NoError(t, err)
				assert.LessOrEqual(t, hard(after), hard(before), "%s at %s %g %g: %v", kind, c.Wall, c.X, c.Z, after)
			}
		}
		t.Logf("%s %g × %g: %d spots, nowhere on %d walls", kind, d.W.MM(), d.H.MM(), len(got.Sites), len(got.Nowhere))
	}
}

func TestABareWallIsBestNearTheStation(t *testing.T) {
	s := hall()
	near := thing("saw", 130, 430, 30, 1, "hang", .6)
	near.UsesPerWeek, near.UsedAt = 5, []string{"bench"}
	s.Items = []shop.Item{*near}
	d, err := storage.Size("tool-board", "Z1", storage.Need{Items: []*shop.Item{near}})
	require.NoError(t, err)
	got, err := where(t, s, d)
	require.NoError(t, err)
	require.NotEmpty(t, got.Sites)
	best := got.Sites[0]
	assert.Contains(t, []string{"easy"}, best.Band)
	assert.Equal(t, 300.0, best.Now, "without a home: 60 s a use")
	assert.Less(t, best.Seconds, 150.0, "a walk of some six metres and back, five times a week")
	assert.Empty(t, best.Barred)
	assert.Equal(t, []string{"0 studs behind it: not rated, it needs two at least or an anchor's own rating"}, best.Cautions)
	// Left alone, a wall takes nothing; too small a one says what it has.
	for i := range s.Areas[0].Walls {
		s.Areas[0].Walls[i].Claimed = i == 1
	}
	s.Areas[0].Walls[1].Features = []shop.Feature{{ID: "w", Kind: "window", X: 0, Z: length.MM(700), W: length.MM(16000), H: length.MM(4500)}}
	got, err = where(t, s, mustSize(t, "jig-wall", thing("sled", 900, 900, 100, 1, "hang", 6)))
	require.NoError(t, err)
	assert.Empty(t, got.Sites)
	require.Len(t, got.Nowhere, 4)
	whys := []string{}
	for _, n := range got.Nowhere {
		whys = append(whys, n.Why)
	}
	assert.Contains(t, whys, "left alone")
	assert.Contains(t, whys[1], "are needed")
}

func mustSize(t *testing.T, kind string, items ...*shop.Item) *storage.Design {
	d, err := storage.Size(kind, "Z1", storage.Need{Items: items})
	require.NoError(t, err)
	return d
}

func TestWhatStandsOnTheFloorLooksIntoTheRoom(t *testing.T) {
	s := hall()
	it := thing("box", 300, 200, 250, 4, "stand", 2)
	it.UsesPerWeek = 1
	s.Items = []shop.Item{*it}
	d := mustSize(t, "shelf-unit", it)
	got, err := where(t, s, d)
	require.NoError(t, err)
	walls := map[string]bool{}
	for _, c := range got.Sites {
		walls[c.Wall] = true
		next := s.Clone()
		require.NoError(t, storage.Install(next, d, c.At))
		require.NoError(t, next.Validate(), "%s %+v", c.Wall, c.At)
		m, err := access.NewMap(next)
		require.NoError(t, err)
		u := m.UseOf(&shop.Item{})
		band, _ := m.Band(&u, m.PlaceNumber("Z1-1"), keeping.Grip{X: 50, Z: 50})
		assert.NotEqual(t, "out of reach", band.String(), "its front is open to the room on wall %s", c.Wall)
	}
	assert.Len(t, walls, 4)
}

func TestADeckGoesUnderTheCeilingWhereThereAreJoists(t *testing.T) {
	s := hall()
	s.Areas[0].Ceiling = &shop.Ceiling{Joists: &shop.Joists{Along: "y", Spacing: length.MM(600), First: length.MM(300)}}
	for i := range s.Areas[0].Walls {
		for k := range s.Areas[0].Walls[i].Profile {
			s.Areas[0].Walls[i].Profile[k][1] = length.MM(3000)
		}
	}
	it := thing("crate", 500, 300, 400, 4, "stand", 3)
	s.Items = []shop.Item{*it}
	d := mustSize(t, "ceiling-rack", it)
	got, err := where(t, s, d)
	require.NoError(t, err)
	require.NotEmpty(t, got.Sites)
	for _, c := range got.Sites {
		assert.GreaterOrEqual(t, c.Studs, 2)
		assert.Contains(t, c.Cautions[0], "qualified person")
		next := s.Clone()
		require.NoError(t, storage.Install(next, d, c.At))
		require.NoError(t, next.Validate())
		assert.Equal(t, "T1", storage.Address(s, c.At))
	}
	// Under a low ceiling nothing hangs.
	for i := range s.Areas[0].Walls {
		for k := range s.Areas[0].Walls[i].Profile {
			s.Areas[0].Walls[i].Profile[k][1] = length.MM(2000)
		}
	}
	got, err = where(t, s, d)
	require.NoError(t, err)
	assert.Empty(t, got.Sites)
	assert.Contains(t, got.Nowhere[0].Why, "are needed")
}

func TestAChestGoesUnderABenchBesideWhatIsThere(t *testing.T) {
	s := hall()
	s.Stations[0].H = length.MM(900)
	it := thing("chisel", 280, 30, 40, 6, "flat", .3)
	it.UsesPerWeek, it.UsedAt = 3, []string{"bench"}
	s.Items = []shop.Item{*it}
	d, err := storage.Size("under-bench", "Z1", storage.Need{Items: []*shop.Item{it}, Depth: length.MM(500)})
	require.NoError(t, err)
	got, err := where(t, s, d)
	require.NoError(t, err)
	require.NotEmpty(t, got.Sites)
	best := got.Sites[0]
	assert.Equal(t, "bench", best.Station)
	require.NoError(t, storage.Install(s, d, best.At))
	require.NoError(t, s.Validate())
	again, err := where(t, s, d)
	require.NoError(t, err)
	for _, c := range again.Sites {
		assert.False(t, c.X < best.X+d.W.MM() && best.X < c.X+d.W.MM(), "not where the first one is")
	}
	s.Stations[0].H = length.MM(150)
	s.Places, s.Containers, s.Homes = nil, nil, nil
	got, err = where(t, s, d)
	require.NoError(t, err)
	assert.Empty(t, got.Sites)
	assert.Contains(t, got.Nowhere[0].Why, "are needed")
}

func BenchmarkWhereOverTheWholeDemo(b *testing.B) {
	s, err := shop.Read(demo.Slipway)
	require.NoError(b, err)
	m, space := spaceOf(b, s)
	d, err := storage.Size("clamp-rack", "Z1", storage.Need{Items: clamps(s), Width: length.MM(900)})
	require.NoError(b, err)
	for b.Loop() {
		got, err := storage.Where(m, space, d)
		if err != nil {
			b.Fatal(err)
		}
		b.ReportMetric(float64(len(got.Sites)), "spots")
	}
}

// In a room where nothing may be fixed, what hangs goes nowhere and what stands goes where it went; where few holes are wanted
// each spot says so.
func TestWhatMayNotBeFixedIsNotOffered(t *testing.T) {
	s, err := shop.Read(demo.Slipway)
	require.NoError(t, err)
	space := func(fixing, kind string) *storage.Sites {
		s.Settings.Fixing = fixing
		d, err := storage.Size(kind, "new", storage.Need{Items: clamps(s)[:1]})
		require.NoError(t, err)
		got, err := where(t, s, d)
		require.NoError(t, err)
		return got
	}
	hung, stands := "clamp-rack", "shelf-unit"
	assert.NotEmpty(t, space(shop.AnyHoles, hung).Sites)
	none := space(shop.NoHoles, hung)
	assert.Empty(t, none.Sites)
	assert.Equal(t, "nothing may be fixed to the building", none.Nowhere[0].Why)
	for _, site := range space(shop.FewHoles, hung).Sites {
		assert.Contains(t, strings.Join(site.Cautions, " "), "before you drill")
	}
	assert.Equal(t, len(space(shop.AnyHoles, stands).Sites), len(space(shop.NoHoles, stands).Sites))
}

// Where few holes are wanted each is counted for what it is said to be worth; what stands needs none.
func TestEachHoleHasItsPriceWhereFewAreWanted(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		kind := rapid.SampledFrom(storage.Builders()).Draw(t, "kind")
		each := rapid.Float64Range(0, 200).Draw(t, "each")
		s, err := shop.Read(demo.Slipway)
		require.NoError(t, err)
		s.Settings.Fixing = shop.FewHoles
		s.Settings.Estimates = map[string]float64{"hole": each}
		d, err := storage.Size(kind.ID, "new", storage.Need{Items: clamps(s)})
		if err != nil {
			return
		}
		found, err := where(t, s, d)
		require.NoError(t, err)
		for i, c := range found.Sites {
			assert.InDelta(t, each*float64(c.Holes), c.Price, 1e-9)
			if c.FromFloor {
				assert.Zero(t, c.Holes, "what stands is not screwed on to be offered")
			}
			if i > 0 && len(c.Barred) == 0 {
				before := found.Sites[i-1]
				assert.LessOrEqual(t, before.Seconds+before.Price, c.Seconds+c.Price+1e-9)
			}
		}
	})
}
