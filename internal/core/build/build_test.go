package build_test

import (
	"fmt"
	"math"
	"math/rand/v2"
	"slices"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"hobrak/demo"
	"hobrak/internal/core/build"
	_ "hobrak/internal/core/fit"
	"hobrak/internal/core/length"
	"hobrak/internal/core/shop"
	"hobrak/internal/core/shoptest"
	"hobrak/internal/core/storage"
)

// designed is a shop in which one piece of storage was sized for random things, and its id; nil where nothing came of it.
func designed(t require.TestingT, seed uint64) (*shop.Shop, *storage.Design) {
	s := shoptest.Random(seed%97, shoptest.Few)
	rng := rand.New(rand.NewPCG(seed, 7))
	all := storage.Builders()
	b := all[rng.IntN(len(all))]
	if len(s.Items) == 0 {
		return nil, nil
	}
	var items []*shop.Item
	for range 1 + rng.IntN(10) {
		it := &s.Items[rng.IntN(len(s.Items))]
		if !slices.Contains(items, it) {
			items = append(items, it)
		}
	}
	need := storage.Need{Items: items, Reserve: []float64{0, .15, .3}[rng.IntN(3)]}
	if rng.IntN(3) == 0 {
		need.Width = length.MM(float64(300 + rng.IntN(1500)))
	}
	d, err := storage.Size(b.ID, "Z1", need)
	if err != nil || len(d.Places) == 0 {
		return nil, nil
	}
	at := shop.At{Floor: &shop.Point{}}
	if b.Hung {
		at = shop.At{Wall: s.Areas[0].Walls[0].ID}
	} else if b.ID == "ceiling-rack" {
		at = shop.At{Ceiling: &shop.Point{}, Z: length.MM(2000)}
	}
	require.NoError(t, storage.Install(s, d, at))
	return s, d
}

func chosen(rng *rand.Rand) build.Choices {
	pick := func(words ...string) string { return words[rng.IntN(len(words))] }
	return build.Choices{
		T: []float64{0, 12, 15, 18, 19, 21, 25}[rng.IntN(7)], Thin: []float64{0, 4, 6, 9}[rng.IntN(4)], Joint: pick("", "screws", "rebates", "dadoes"), Back: pick("", "none", "on", "rebated"),
		Runner: pick("", "none", "side", "undermount"), Front: pick("", "overlay", "inset"), Strip: pick("", "always", "never"), Bevel: []float64{0, 30, 45}[rng.IntN(3)], Scrap: rng.IntN(8) == 0,
	}
}

// pieces is a part less what is cut out of it, as blocks: the judge's own way, by splitting the block at every face of a cut.
func pieces(p *build.Part) []build.Box {
	xs, ys, zs := []float64{p.At.X, p.At.X + p.At.W}, []float64{p.At.Y, p.At.Y + p.At.D}, []float64{p.At.Z, p.At.Z + p.At.H}
	for _, c := range p.Cuts {
		xs, ys, zs = append(xs, c.X, c.X+c.W), append(ys, c.Y, c.Y+c.D), append(zs, c.Z, c.Z+c.H)
	}
	for _, l := range []*[]float64{&xs, &ys, &zs} {
		slices.Sort(*l)
	}
	if len(p.Cuts) == 0 {
		return []build.Box{p.At}
	}
	var out []build.Box
	for i := range len(xs) - 1 {
		for k := range len(ys) - 1 {
			for n := range len(zs) - 1 {
				b := build.Box{X: xs[i], Y: ys[k], Z: zs[n], W: xs[i+1] - xs[i], D: ys[k+1] - ys[k], H: zs[n+1] - zs[n]}
				if b.W < 1e-6 || b.D < 1e-6 || b.H < 1e-6 {
					continue
				}
				x, y, z := b.X+b.W/2, b.Y+b.D/2, b.Z+b.H/2
				gone := slices.ContainsFunc(p.Cuts, func(c build.Box) bool {
					return x > c.X && x < c.X+c.W && y > c.Y && y < c.Y+c.D && z > c.Z && z < c.Z+c.H
				})
				if !gone {
					out = append(out, b)
				}
			}
		}
	}
	return out
}

// shared is how much room, mm³, two sets of blocks take both.
func shared(a, b []build.Box) (v float64) {
	for _, x := range a {
		for _, y := range b {
			w := min(x.X+x.W, y.X+y.W) - max(x.X, y.X)
			d := min(x.Y+x.D, y.Y+y.D) - max(x.Y, y.Y)
			h := min(x.Z+x.H, y.Z+y.H) - max(x.Z, y.Z)
			if w > 1e-6 && d > 1e-6 && h > 1e-6 {
				v += w * d * h
			}
		}
	}
	return v
}

// apart is how far two sets of blocks are from each other along their worst axis; 0 where they touch.
func apart(a, b []build.Box) float64 {
	least := math.Inf(1)
	for _, x := range a {
		for _, y := range b {
			gap := max(max(x.X, y.X)-min(x.X+x.W, y.X+y.W), max(x.Y, y.Y)-min(x.Y+x.D, y.Y+y.D), max(x.Z, y.Z)-min(x.Z+x.H, y.Z+y.H))
			least = min(least, gap)
		}
	}
	return max(0, least)
}

func TestPartsOfAnyDesignGoTogether(t *testing.T) {
	made, parts, refused, drawers, byKind := 0, 0, 0, 0, map[string]int{}
	for seed := range shoptest.Seeds(500) {
		s, d := designed(t, seed)
		if s == nil {
			continue
		}
		rng := rand.New(rand.NewPCG(seed, 9))
		c := build.Choices{}
		if seed%3 > 0 {
			c = chosen(rng)
		}
		u, err := build.Of(s, "Z1", c)
		if err != nil {
			require.NotEqual(t, build.Choices{}, c, "seed %d, %s: as it is usually made: %v", seed, d.Builder, err)
			refused++
			continue
		}
		made++
		parts += len(u.Parts)
		byKind[u.Kind]++
		where := fmt.Sprintf("seed %d, %s, %s, %+v", seed, d.Builder, u.Kind, c)
		blocks := make([][]build.Box, len(u.Parts))
		for i := range u.Parts {
			p := &u.Parts[i]
			require.Positive(t, min(p.L, p.W, p.T), "%s: %s", where, p.Name)
			require.InDelta(t, p.At.W*p.At.D*p.At.H, p.L*p.W*p.T, 1, "%s: the size of %s is not that of its block", where, p.Name)
			blocks[i] = pieces(p)
			require.NotEmpty(t, blocks[i], "%s: nothing is left of %s", where, p.Name)
		}
		var fittings []build.Box
		for _, f := range u.Fittings {
			fittings = append(fittings, f.At...)
		}
		// No two parts take the same room, nor a part and a fitting.
		for i := range blocks {
			for k := range i {
				require.Less(t, shared(blocks[i], blocks[k]), 1., "%s: %s (%+v) and %s (%+v) are in each other", where, u.Parts[i].Name, u.Parts[i].At, u.Parts[k].Name, u.Parts[k].At)
			}
			require.Less(t, shared(blocks[i], fittings), 1., "%s: a fitting is in %s %+v %+v", where, u.Parts[i].Name, u.Parts[i].At, u.Fittings)
		}
		// They hang together: parts that touch, or that a fitting touches both.
		if len(blocks) > 1 && u.Kind != "cleats" && u.Kind != "battens" && u.Kind != "bay-strips" && u.Kind != "arms" && !slices.ContainsFunc(u.Fittings, func(f build.Fitting) bool { return f.Name == "Cup hinge, inset" }) {
			all := slices.Clone(blocks)
			for _, f := range fittings {
				all = append(all, []build.Box{f})
			}
			reached, todo := map[int]bool{0: true}, []int{0}
			for len(todo) > 0 {
				n := todo[0]
				todo = todo[1:]
				for k := range all {
					near := doorNear(u, n, k)
					if !reached[k] && apart(all[n], all[k]) <= near {
						reached[k] = true
						todo = append(todo, k)
					}
				}
			}
			for k := range blocks {
				require.True(t, reached[k], "%s: %s %+v touches nothing", where, u.Parts[k].Name, u.Parts[k].At)
			}
		}
		// The whole is as large as was planned.
		if con := d.Container; con != nil {
			o := u.Outer()
			require.InDelta(t, con.W.MM(), o.W, .01, where)
			if u.Kind == "sheet-cart" { // what stands in it is higher than its sides
				require.Less(t, o.H, con.H.MM(), where)
			} else {
				require.InDelta(t, con.H.MM(), o.H, .01, where)
			}
			if u.Kind == "door-back" || u.Kind == "stand" { // a board thinner than was planned
				require.LessOrEqual(t, o.D, con.D.MM()+.01, where)
				require.InDelta(t, con.D.MM(), o.Y+o.D, .01, where)
			} else {
				require.InDelta(t, con.D.MM(), o.D, .01, where)
				require.InDelta(t, 0, math.Abs(o.X)+math.Abs(o.Y)+math.Abs(o.Z), .01, where)
			}
		}
		// Drawers come out to the front, and have the play that is said.
		for i := range u.Parts {
			p := &u.Parts[i]
			if !p.Slides {
				continue
			}
			for k := range u.Parts {
				if o := &u.Parts[k]; !o.Slides || o.Of != p.Of {
					swept := slices.Clone(blocks[i])
					for n := range swept {
						swept[n].D += swept[n].Y + 2000
						swept[n].Y = -2000
					}
					if !o.Slides { // other drawers are shut, and come out by themselves
						require.Less(t, shared(swept, blocks[k]), 1., "%s: %s of %s does not come past %s", where, p.Name, p.Of, o.Name)
					}
				}
			}
			if p.Name == "Drawer side" {
				drawers++
				gap := math.Inf(1)
				for k := range u.Parts {
					if o := &u.Parts[k]; o.Name == "Side" || o.Name == "Divider" || o.Name == "Bearer" {
						gap = min(gap, max(o.At.X-(p.At.X+p.At.W), p.At.X-(o.At.X+o.At.W)))
					}
				}
				want := map[string]float64{"side": 12.7, "undermount": 5.5, "none": 1}[u.Choices.Runner]
				require.InDelta(t, want, gap, .01, "%s: play beside a drawer", where)
			}
		}
		// Every screw goes through wood into wood.
		for i := range u.Parts {
			for _, h := range u.Parts[i].Holes {
				inside := func(b build.Box) bool {
					const e = .02
					return h.X > b.X-e && h.X < b.X+b.W+e && h.Y > b.Y-e && h.Y < b.Y+b.D+e && h.Z > b.Z-e && h.Z < b.Z+b.H+e
				}
				require.True(t, inside(u.Parts[i].At), "%s: a hole of %s for %s is beside it: %+v %+v", where, u.Parts[i].Name, h.For, h, u.Parts[i].At)
			}
		}
		require.NoError(t, shoptest.Finite(u), where)
		// As it is usually made, what was planned comes out.
		if c == (build.Choices{}) {
			for _, in := range u.Inside {
				require.Empty(t, in.Short, where)
			}
		}
	}
	kinds := map[string]bool{}
	for k := range byKind {
		kinds[k] = true
	}
	t.Logf("%d units of %d parts, %d drawer sides, %d choices refused: %v", made, parts, drawers, refused, byKind)
	assert.Greater(t, len(kinds), 17)
	assert.Greater(t, made, 3*refused)
}

// doorNear is how far a door may be from what carries it: its hinges bridge the gap.
func doorNear(u *build.Unit, a, b int) float64 {
	for _, k := range []int{a, b} {
		if k < len(u.Parts) && u.Parts[k].Name == "Door" {
			return 3.01
		}
		if k < len(u.Parts) && u.Parts[k].Slides && u.Choices.Runner == "none" {
			return 2.01
		}
	}
	return .011
}

// A wall that is lined: nothing is counted twice, sheets suffice, boards hold everywhere and rails more than the bare wall.
func TestAWallIsLinedThreeWays(t *testing.T) {
	walls := 0
	for seed := range shoptest.Seeds(25) {
		s := shoptest.Random(seed, shoptest.Few)
		for i := range s.Areas {
			a := &s.Areas[i]
			for k := range a.Walls {
				l, err := build.Line(s, a.ID, a.Walls[k].ID)
				if err != nil {
					continue
				}
				walls++
				where := fmt.Sprintf("seed %d, wall %s", seed, l.Wall)
				// The free wall, counted square by square of 20 mm.
				count := 0.0
				long := a.Frame(k).Length.MM()
				for x := 10.0; x < long; x += 20 {
					for z := 10.0; z < l.High; z += 20 {
						in := slices.ContainsFunc(a.Walls[k].Features, func(f shop.Feature) bool {
							kind := string(f.Kind)
							return kind != "outlet" && kind != "switch" && kind != "pipe" && kind != "beam" && kind != "keepsake" && kind != "tap" && kind != "data-socket" && x > f.X.MM() && x < f.X.MM()+f.W.MM() && z > f.Z.MM() && z < f.Z.MM()+f.H.MM()
						})
						if !in {
							count += .0004
						}
					}
				}
				require.InDelta(t, count, l.M2, .02*count+.12, where)
				require.Len(t, l.Ways, 3)
				bare, rails, boards := l.Ways[0], l.Ways[1], l.Ways[2]
				require.LessOrEqual(t, bare.Holds, rails.Holds+1e-9, where)
				require.LessOrEqual(t, rails.Holds, boards.Holds+1e-9, where)
				require.GreaterOrEqual(t, float64(boards.Sheets)*2.44*1.22*(1-boards.Waste), .97*l.M2-.1, "%s: %d sheets for %g m²", where, boards.Sheets, l.M2)
				require.True(t, boards.Waste >= 0 && boards.Waste < 1, where)
				require.NoError(t, shoptest.Finite(l), where)
			}
		}
	}
	assert.Greater(t, walls, 50)
	_, err := build.Line(shoptest.Random(1, shoptest.Few), "", "Q")
	assert.ErrorContains(t, err, "no wall")
}

// BenchmarkCutLists is the time from a piece of storage to its list of parts, for all that the demo has: the most one takes is told.
func BenchmarkCutLists(b *testing.B) {
	s, err := shop.Read(demo.Slipway)
	require.NoError(b, err)
	most, parts := 0.0, 0
	for b.Loop() {
		most, parts = 0, 0
		for _, c := range s.Containers {
			began := time.Now()
			u, err := build.Of(s, c.ID, build.Choices{})
			if err != nil {
				continue
			}
			for _, l := range u.CutList() {
				parts += l.Count
			}
			most = max(most, time.Since(began).Seconds())
		}
	}
	b.ReportMetric(1000*most, "ms-at-most")
	b.ReportMetric(float64(parts), "parts")
}

// Each way is what it comes to when it is made so; where nothing runs on wood, the plain one never takes longer than dadoes, backs and
// strips.
func TestPlainerWaysTakeLess(t *testing.T) {
	s, err := shop.Read(demo.Slipway)
	require.NoError(t, err)
	fewer := 0
	for _, c := range s.Containers {
		ways, err := build.Variants(s, c.ID, build.Choices{Joint: build.Dadoed, Back: build.InBack, Runner: build.Side, Strip: "always"})
		if err != nil {
			continue
		}
		for _, v := range ways[1:] {
			u, err := build.Of(s, c.ID, v.Choices)
			require.NoError(t, err)
			assert.InDelta(t, u.Hours, v.Hours, 1e-9)
			assert.InDelta(t, u.Sheet, v.Sheet, 1e-9)
			drawers := slices.ContainsFunc(s.Places, func(p shop.Place) bool { return p.At.In == c.ID && p.Kind == "drawer" })
			if v.Name == "plain" && !drawers {
				assert.LessOrEqual(t, v.Hours, ways[0].Hours, c.ID)
				fewer++
			}
		}
	}
	assert.Positive(t, fewer)
}
