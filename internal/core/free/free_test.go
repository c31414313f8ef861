package free

import (
	"fmt"
	"math"
	"math/rand/v2"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"hobrak/demo"
	"hobrak/internal/core/access"
	"hobrak/internal/core/body"
	"hobrak/internal/core/geometry"
	"hobrak/internal/core/length"
	"hobrak/internal/core/quantity"
	"hobrak/internal/core/shop"
)

func pointOf(x, y float64) shop.Point { return shop.Point{length.MM(x), length.MM(y)} }

func areaOf(corners [][2]float64, high float64) *shop.Area {
	a := &shop.Area{ID: "main"}
	for _, c := range corners {
		a.Corners = append(a.Corners, pointOf(c[0], c[1]))
	}
	for i := range corners {
		long := a.Frame(i).Length
		a.Walls = append(a.Walls, shop.Wall{ID: string(rune('A' + i)), Claimed: true, Profile: []shop.Point{{0, length.MM(high)}, {long, length.MM(high)}}})
	}
	return a
}

func featureAt(id string, kind shop.FeatureKind, x, z, w, h float64) shop.Feature {
	return shop.Feature{ID: id, Kind: kind, X: length.MM(x), Z: length.MM(z), W: length.MM(w), H: length.MM(h)}
}

func shopOf(a *shop.Area) *shop.Shop {
	return &shop.Shop{Format: shop.Format, Version: shop.Version, Settings: shop.Settings{Name: "t", Units: length.Metric, People: []shop.Person{{ID: "me", Stature: length.MM(1700)}}}, Areas: []shop.Area{*a}}
}

func mapOf(t require.TestingT, s *shop.Shop) *access.Map {
	require.NoError(t, s.Validate())
	m, err := access.NewMap(s)
	require.NoError(t, err)
	return m
}

// The worked example of docs/rules: a room of 4 m by 3 m, 2.4 m high.
func TestTheWorkedExample(t *testing.T) {
	a := areaOf([][2]float64{{0, 0}, {0, 3000}, {4000, 3000}, {4000, 0}}, 2400)
	door := featureAt("door", "door", 300, 0, 900, 2000)
	door.Hinge, door.Swing = "left", "out"
	a.Walls[0].Features = []shop.Feature{door}
	a.Walls[2].Features = []shop.Feature{featureAt("window", "window", 1000, 900, 1000, 1000)}
	a.Walls[3].Claimed = false
	r := Of(mapOf(t, shopOf(a)))
	// A: 3.0 × 2.4 less the door with 70 mm at the sides and above.
	assert.InDelta(t, 7.2-1.04*2.07, r.Walls[0].Free, .001)
	assert.InDelta(t, 9.6, r.Walls[1].Free, .001)
	// C: less the window with 50 mm all round.
	assert.InDelta(t, 7.2-1.1*1.1, r.Walls[2].Free, .001)
	assert.Zero(t, r.Walls[3].Free, "a wall left alone gives nothing")
	assert.Empty(t, r.Walls[3].Regions)
	assert.InDelta(t, 24.0/12, r.Totals.Ratio, .001)
	// Wall B: the room is 3000 deep; below head height the side aisle of 600 stays.
	b := r.Walls[1].Regions[0]
	assert.Equal(t, []float64{0, 0, 4000, 2400}, []float64{b.X, b.Z, b.W, b.H})
	assert.Equal(t, maxDepth, b.Depth)
	assert.Equal(t, "corner", b.Left.Kind)
	// Under the ceiling: 2400 less 1700 and 100 of head room, over 12 m².
	assert.InDelta(t, 12*.6, r.Totals.Overhead, .01)
	assert.InDelta(t, 12*2.4, r.Totals.Volume, .01)
	kinds := map[string]Dead{}
	for _, d := range r.Dead {
		kinds[d.Kind] = d
	}
	over := kinds["over-door"]
	assert.Equal(t, []float64{300, 2070, 900, 330}, []float64{over.X, over.Z, over.W, over.H})
	under := kinds["under-window"]
	assert.Equal(t, []float64{1000, 0, 1000, 850}, []float64{under.X, under.Z, under.W, under.H})
}

func TestTheDepthKeepsTheAisle(t *testing.T) {
	a := areaOf([][2]float64{{0, 0}, {0, 3000}, {4000, 3000}, {4000, 0}}, 2400)
	s := shopOf(a)
	// A bench at wall B, 600 deep, and a table that leaves 900 before it.
	s.Stations = []shop.Station{
		{ID: "bench", Name: "Bench", Kind: "bench", X: length.MM(1000), Y: length.MM(2400), W: length.MM(2000), D: length.MM(600), H: length.MM(900), Stand: pointOf(2000, 2000)},
		{ID: "table", Name: "Table", Kind: "table", X: length.MM(1000), Y: length.MM(700), W: length.MM(2000), D: length.MM(800), H: length.MM(850), Stand: pointOf(500, 1000)},
	}
	r := Of(mapOf(t, s))
	at := func(wall int, x, z float64) Patch {
		for _, p := range r.Walls[wall].Patches {
			if x > p.X && x < p.X+p.W && z > p.Z && z < p.Z+p.H {
				return p
			}
		}
		t.Fatalf("no patch at %v, %v", x, z)
		return Patch{}
	}
	assert.Zero(t, at(1, 2000, 500).Depth, "behind the bench")
	assert.Equal(t, "Bench", at(1, 2000, 500).Limit.Says)
	over := at(1, 2000, 1200)
	assert.InDelta(t, 900, over.Depth, .01, "over the bench as far as leaves 600 to the table")
	assert.Equal(t, "side aisle of 600 mm to Table", quantity.Metric(over.Limit.Says))
	assert.InDelta(t, 2000, at(1, 2000, 2000).Depth, .01, "above head height nobody walks")
	assert.InDelta(t, 700-600, at(3, 2000, 1000).Depth, .01, "wall D: 700 to the table less 600")
}

func TestPanelHeaterTrackAndDoorKeepTheirRoom(t *testing.T) {
	a := areaOf([][2]float64{{0, 0}, {0, 3000}, {4000, 3000}, {4000, 0}}, 2700)
	panel := featureAt("panel", "panel", 100, 1200, 400, 600)
	door := featureAt("door", "door", 2000, 0, 900, 2000)
	door.Hinge, door.Swing = "right", "in"
	a.Walls[0].Features = []shop.Feature{panel, door}
	a.Walls[1].Features = []shop.Feature{featureAt("heater", "heater", 3000, 200, 800, 500)}
	a.Walls[3].Features = []shop.Feature{featureAt("up", "up-and-over-door", 600, 0, 2400, 2100)}
	f := newFinder(mapOf(t, shopOf(a)), a)
	depth := func(wall int, x, z float64) cell {
		g := f.wall(wall, &walled{seen: f.seenFrom(wall), ways: f.m.MainWays(f.area), zones: f.m.Zones(f.area, wall)})
		for c := range g.cells {
			for k := range g.cells[c] {
				if x > g.xs[c] && x < g.xs[c+1] && z > g.zs[k] && z < g.zs[k+1] {
					return g.cells[c][k]
				}
			}
		}
		t.Fatalf("no cell at %v, %v", x, z)
		return cell{}
	}
	assert.Equal(t, "panel", depth(0, 600, 1000).limit.Kind, "762 wide about the middle at 300")
	assert.NotEqual(t, "panel", depth(0, 700, 1000).limit.Kind)
	assert.NotEqual(t, "panel", depth(0, 310, 2110).limit.Kind, "above 1981")
	// On wall D the panel's space ends 681 - wall corner … seen at its right end: 4000 - 914 along.
	assert.Equal(t, "heater", depth(1, 2150, 500).limit.Kind)
	assert.NotEqual(t, "heater", depth(1, 2050, 500).limit.Kind)
	assert.Equal(t, "heater", depth(2, 300, 500).limit.Kind, "the corner beside it, too")
	// The open door comes to 100 - 40 of wall B: hinge at 2900 of 3000.
	behind := depth(1, 450, 1000)
	assert.Equal(t, "door-swing", behind.limit.Kind)
	assert.InDelta(t, 60, behind.depth, .5)
	assert.Equal(t, "track", depth(3, 2000, 2300).limit.Kind)
	c := f.ceiling()
	for _, z := range c.Zones {
		tracks := geometry.Rectangle(900, 0, 2600, 2400, 0)
		assert.False(t, tracks.Overlaps(geometry.Rectangle(z.X, z.Y, z.W, z.D, 0), 1), "a zone at %+v meets the tracks", z)
	}
}

// randomShop is a room of n corners with features and things, as many as find room.
func randomShop(rnd *rand.Rand, n, features, things int) *shop.Shop {
	var corners [][2]float64
	corners = append(corners, [2]float64{0, 0})
	x, last := 0.0, 0.0
	for range (n - 2) / 2 {
		y := 3500 + math.Round(5000*rnd.Float64())
		for math.Abs(y-last) < 500 {
			y = 3500 + math.Round(5000*rnd.Float64())
		}
		last = y
		corners = append(corners, [2]float64{x, y})
		x += 1500 + math.Round(1500*rnd.Float64())
		corners = append(corners, [2]float64{x, y})
	}
	corners = append(corners, [2]float64{x, 0})
	a := areaOf(corners, 2400+math.Round(900*rnd.Float64()))
	kinds := []string{"outlet", "window", "switch", "door", "panel", "heater", "outlet", "niche"}
	for k, tries := 0, features*20; k < tries && features > 0; k++ {
		i := rnd.IntN(len(a.Walls))
		long := a.Frame(i).Length.MM()
		kind := kinds[rnd.IntN(len(kinds))]
		w, h, z := 80.0, 80.0, 300+900*rnd.Float64()
		switch kind {
		case "window":
			w, h = 600, 700
		case "door":
			w, h, z = 800, 2000, 0
		case "panel", "niche":
			w, h = 300, 400
		case "heater":
			w, h, z = 500, 400, 100
		}
		if w >= long {
			continue
		}
		f := featureAt(fmt.Sprintf("f%d", k), shop.FeatureKind(kind), math.Round((long-w)*rnd.Float64()), math.Round(z), w, h)
		a.Walls[i].Features = append(a.Walls[i].Features, f)
		s := shopOf(a)
		if s.Validate() != nil {
			a.Walls[i].Features = a.Walls[i].Features[:len(a.Walls[i].Features)-1]
			continue
		}
		features--
	}
	s := shopOf(a)
	outline := a.Outline()
	var standing []geometry.Polygon
	for k := 0; k < things*50 && len(s.Stations) < things; k++ {
		w, d := 300+600*rnd.Float64(), 300+400*rnd.Float64()
		px, py := x*rnd.Float64(), 8000*rnd.Float64()
		rot := float64(rnd.IntN(8)) * 45
		g := geometry.Rectangle(math.Round(px), math.Round(py), math.Round(w), math.Round(d), rot)
		ok := true
		for _, q := range g {
			ok = ok && outline.Contains(q) && outline.Distance(q) > 5
		}
		for _, o := range standing {
			ok = ok && !g.Overlaps(o, 0)
		}
		if !ok {
			continue
		}
		standing = append(standing, g)
		s.Stations = append(s.Stations, shop.Station{ID: fmt.Sprintf("s%d", k), Name: "S", Kind: "bench", X: length.MM(math.Round(px)), Y: length.MM(math.Round(py)), W: length.MM(math.Round(w)), D: length.MM(math.Round(d)), Rot: rot, H: length.MM(900), Stand: shop.Point{length.MM(px), length.MM(py)}})
		if !outline.Contains(s.Stations[len(s.Stations)-1].Stand.Geometry()) {
			s.Stations = s.Stations[:len(s.Stations)-1]
			standing = standing[:len(standing)-1]
		}
	}
	return s
}

func TestRegionsTouchNothingForbiddenAndCannotGrow(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		rnd := rand.New(rand.NewPCG(rapid.Uint64().Draw(t, "seed"), 5))
		s := randomShop(rnd, 2*rapid.IntRange(2, 5).Draw(t, "half"), rnd.IntN(14), rnd.IntN(8))
		for i := range s.Stations {
			if rnd.IntN(2) == 0 {
				s.Stations[i].Kind = "extractor" // with a drum to pull out
			}
		}
		m := mapOf(t, s)
		a := &m.Shop.Areas[0]
		r := Of(m)
		standing := access.StandingIn(m.Shop, m.Index, a)
		bodies := body.In(m.Shop, m.Index, a)
		for i, w := range r.Walls {
			fr := a.Frame(i)
			for _, g := range w.Regions {
				where := fmt.Sprintf("wall %s %+v", w.ID, g)
				require.Greater(t, g.Depth, 0.0)
				require.LessOrEqual(t, g.X+g.W, fr.Length.MM()+.01, where)
				require.LessOrEqual(t, g.Z+g.H, a.Walls[i].TopOver(length.MM(g.X), length.MM(g.X+g.W)).MM()+.01, where)
				for _, f := range a.Walls[i].Features {
					if f.Kind != "niche" {
						apart := g.X+g.W <= f.X.MM()+.5 || g.X >= (f.X+f.W).MM()-.5 || g.Z+g.H <= f.Z.MM()+.5 || g.Z >= (f.Z+f.H).MM()-.5
						require.True(t, apart, "%s covers %s", where, f.ID)
					}
				}
				// As a body in the room it meets nothing that stands there, and stays inside.
				region := geometry.Polygon{fr.Spot(g.X, g.Depth), fr.Spot(g.X+g.W, g.Depth), fr.Spot(g.X+g.W, 0), fr.Spot(g.X, 0)}
				for i := range bodies {
					if b := &bodies[i]; !b.Part.Solid() && b.From < g.Z+g.H-.5 && b.To > g.Z+.5 {
						require.False(t, region.Overlaps(b.Foot, 1), "%s is where %s opens", where, b.Of)
					}
				}
				for _, th := range standing {
					if th.Height > g.Z+.5 {
						require.False(t, region.Overlaps(th.Footprint, 1), "%s meets %s", where, th.ID)
					}
				}
				mid := fr.Spot(g.X+g.W/2, g.Depth-1)
				require.True(t, a.Outline().Contains(mid), where)
				// Every patch beside it is shallower than the region at some spot.
				grows := func(x0, x1, z0, z1 float64) bool {
					if x0 < -.5 || z0 < -.5 || x1 > fr.Length.MM()+.5 {
						return false
					}
					covered := 0.0
					for _, p := range w.Patches {
						dx, dz := min(x1, p.X+p.W)-max(x0, p.X), min(z1, p.Z+p.H)-max(z0, p.Z)
						if dx <= 0 || dz <= 0 {
							continue
						}
						if p.Depth < g.Depth-.01 {
							return false
						}
						covered += dx * dz
					}
					return covered > .999*(x1-x0)*(z1-z0)
				}
				require.False(t, grows(g.X-1, g.X, g.Z, g.Z+g.H), "%s grows to the left", where)
				require.False(t, grows(g.X+g.W, g.X+g.W+1, g.Z, g.Z+g.H), "%s grows to the right", where)
				require.False(t, grows(g.X, g.X+g.W, g.Z-1, g.Z), "%s grows down", where)
				require.False(t, grows(g.X, g.X+g.W, g.Z+g.H, g.Z+g.H+1), "%s grows up", where)
			}
		}
		for _, z := range r.Ceilings[0].Zones {
			body := geometry.Rectangle(z.X, z.Y, z.W, z.D, 0)
			for _, th := range standing {
				require.False(t, body.Overlaps(th.Footprint, 1) && z.Low < th.Height+150-.01, "zone %+v hangs too low over %s", z, th.ID)
			}
			for _, q := range body {
				require.True(t, a.Outline().Contains(q) || a.Outline().Distance(q) < 1)
			}
		}
	})
}

func TestTheDemoHasWhatOneSeesThere(t *testing.T) {
	s, err := shop.Read(demo.Slipway)
	require.NoError(t, err)
	r := Of(mapOf(t, s))
	assert.InDelta(t, 7.3*4.6, r.Totals.Floor, .01)
	assert.InDelta(t, 2*4.6*2.75+7.3*(3.1+2.4), r.Totals.Wall, .01)
	assert.InDelta(t, 7.3*4.6*2.75, r.Totals.Volume, .5)
	assert.Greater(t, r.Totals.Usable, r.Totals.Free)
	assert.Equal(t, "sloped", r.Ceilings[0].Shape)
	assert.Greater(t, r.Totals.Overhead, 3.0)
	require.NotEmpty(t, r.Ceilings[0].Zones)
	assert.NotEmpty(t, r.Ceilings[0].Zones[0].Joists)
	kinds := map[string]bool{}
	for _, d := range r.Dead {
		kinds[d.Kind] = true
		assert.Positive(t, d.Volume, d.Name)
	}
	for _, k := range []string{"corner", "under-bench", "under-ceiling"} {
		assert.True(t, kinds[k], k)
	}
}

// BenchmarkFreeOfALargeRoom looks at a room of 24 corners with 80 features and
// 60 standing things; the way on foot is worked out before.
func BenchmarkFreeOfALargeRoom(b *testing.B) {
	s := randomShop(rand.New(rand.NewPCG(3, 4)), 24, 80, 60)
	m := mapOf(b, s)
	features := 0
	for _, w := range s.Areas[0].Walls {
		features += len(w.Features)
	}
	m.MainWays(&m.Shop.Areas[0])
	regions := 0
	for b.Loop() {
		r := Of(m)
		regions = 0
		for _, w := range r.Walls {
			regions += len(w.Regions)
		}
	}
	b.ReportMetric(float64(len(s.Areas[0].Corners)), "corners")
	b.ReportMetric(float64(features), "features")
	b.ReportMetric(float64(len(s.Stations)), "things")
	b.ReportMetric(float64(regions), "regions")
}
