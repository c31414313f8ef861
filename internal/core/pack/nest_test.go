package pack_test

import (
	"fmt"
	"math"
	"math/rand/v2"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"hobrak/internal/core/geometry"
	"hobrak/internal/core/length"
	"hobrak/internal/core/pack"
)

// tool is an outline as tools have them: an angle, a wedge, a tee, a crank, or a bar that tapers.
func tool(rng *rand.Rand) geometry.Polygon {
	w, h := float64(60+rng.IntN(240)), float64(60+rng.IntN(240))
	t := min(w, h) * (.15 + .3*rng.Float64())
	switch rng.IntN(5) {
	case 0: // a try square
		return geometry.Polygon{{X: 0, Y: 0}, {X: w, Y: 0}, {X: w, Y: t}, {X: t, Y: t}, {X: t, Y: h}, {X: 0, Y: h}}
	case 1: // a set square
		return geometry.Polygon{{X: 0, Y: 0}, {X: w, Y: 0}, {X: 0, Y: h}}
	case 2: // a mallet
		return geometry.Polygon{{X: w/2 - t/2, Y: 0}, {X: w/2 + t/2, Y: 0}, {X: w/2 + t/2, Y: h - t}, {X: w, Y: h - t}, {X: w, Y: h}, {X: 0, Y: h}, {X: 0, Y: h - t}, {X: w/2 - t/2, Y: h - t}}
	case 3: // a brace
		return geometry.Polygon{{X: 0, Y: 0}, {X: t, Y: 0}, {X: t, Y: h - t}, {X: w - t, Y: h - t}, {X: w - t, Y: 0}, {X: w, Y: 0}, {X: w, Y: h}, {X: 0, Y: h}}
	default: // a saw
		return geometry.Polygon{{X: 0, Y: 0}, {X: w, Y: h * .3}, {X: w, Y: h * .5}, {X: 0, Y: h}}
	}
}

func nested(g geometry.Polygon, turn bool, gap, value float64) pack.Nested {
	out := pack.Nested{Shape: g, Gap: gap, Value: value}
	if turn {
		_, high := g.Bounds()
		for _, p := range g {
			out.Turned = append(out.Turned, geometry.Point{X: high.Y - p.Y, Y: p.X})
		}
	}
	return out
}

// judged are two outlines compared by points along their sides, a millimetre apart, without the sum that is tested: how near they come,
// below 0 where one is in the other.
func judged(a, b geometry.Polygon) float64 {
	near := math.Inf(1)
	for _, pair := range [2][2]geometry.Polygon{{a, b}, {b, a}} {
		for i := range pair[0] {
			e := pair[0].Edge(i)
			n := int(e.A.Distance(e.B)) + 1
			for k := range n {
				p := e.A.Add(e.B.Sub(e.A).Mul(float64(k) / float64(n)))
				if pair[1].Contains(p) && pair[1].Distance(p) > .01 {
					return -1
				}
				near = min(near, pair[1].Distance(p))
			}
		}
	}
	return near
}

// Whatever is laid lies in the plane, apart by its gap, hangs at a rail where there are some, and the plane that is packed densely takes
// all of it as well: two judgements of the same rule.
func TestNestedByOutlineNothingOverlaps(t *testing.T) {
	laid := 0
	rapid.Check(t, func(t *rapid.T) {
		rng := rand.New(rand.NewPCG(rapid.Uint64().Draw(t, "seed"), 1))
		w, h := float64(300+rng.IntN(900)), float64(300+rng.IntN(600))
		var rails []float64
		if rng.IntN(3) == 0 {
			rails = []float64{h * .4, h * .8}
		}
		var list []pack.Nested
		for range 3 + rng.IntN(7) {
			list = append(list, nested(tool(rng), rng.IntN(2) == 0, []float64{0, 5, 20}[rng.IntN(3)], 1))
		}
		out := pack.Nest(w, h, list, pack.NestOptions{Rails: rails, Tries: 3, Seed: 1})
		plane := &pack.Plane{W: length.MM(w), H: length.MM(h), Dense: true}
		for _, z := range rails {
			plane.Rails = append(plane.Rails, length.MM(z))
		}
		seen := map[int]bool{}
		at := func(l pack.Lain) (geometry.Polygon, float64, float64) {
			g := list[l.Piece].Shape
			_, high := g.Bounds()
			if l.Turned {
				return list[l.Piece].Turned.Moved(geometry.Point{X: l.X, Y: l.Y}), high.Y, high.X
			}
			return g.Moved(geometry.Point{X: l.X, Y: l.Y}), high.X, high.Y
		}
		for i, l := range out {
			require.False(t, seen[l.Piece])
			seen[l.Piece] = true
			require.True(t, !l.Turned || list[l.Piece].Turned != nil)
			g, gw, gh := at(l)
			require.GreaterOrEqual(t, l.X, 0.0)
			require.LessOrEqual(t, l.X+gw, w+1e-6)
			require.LessOrEqual(t, l.Y+gh, h+1e-6)
			if len(rails) > 0 {
				require.True(t, math.Abs(l.Y+gh-rails[0]) < 1e-6 || math.Abs(l.Y+gh-rails[1]) < 1e-6)
			}
			for _, o := range out[:i] {
				other, _, _ := at(o)
				gap := max(list[l.Piece].Gap, list[o.Piece].Gap)
				require.GreaterOrEqual(t, judged(g, other), gap-.01)
			}
			_, high := list[l.Piece].Shape.Bounds()
			thing := pack.Thing{W: length.MM(high.X), H: length.MM(high.Y), N: 1, Clearance: length.MM(list[l.Piece].Gap), Turn: list[l.Piece].Turned != nil, Shape: list[l.Piece].Shape, Turned: list[l.Piece].Turned}
			spot := pack.Spot{X: length.MM(l.X), Y: length.MM(l.Y), Turned: l.Turned}
			if len(rails) > 0 { // its height was rounded to the micrometre
				for _, z := range plane.Rails {
					if th := thing.H; !l.Turned && math.Abs((spot.Y+th-z).MM()) < .01 {
						spot.Y = z - th
					} else if l.Turned && math.Abs((spot.Y+thing.W-z).MM()) < .01 {
						spot.Y = z - thing.W
					}
				}
			}
			require.NoError(t, plane.Allows(thing, spot), fmt.Sprint(l))
			plane.Put(l.Piece, thing, spot)
			laid++
		}
		for _, l := range out { // what lies there is in its own way, and nothing that is apart is
			_, high := list[l.Piece].Shape.Bounds()
			thing := pack.Thing{W: length.MM(high.X), H: length.MM(high.Y), N: 1, Clearance: length.MM(list[l.Piece].Gap), Turn: true, Shape: list[l.Piece].Shape, Turned: list[l.Piece].Turned}
			require.Contains(t, plane.Clashes(thing, pack.Spot{X: length.MM(l.X), Y: length.MM(l.Y), Turned: l.Turned}), l.Piece)
		}
	})
	assert.Positive(t, laid)
	t.Logf("%d outlines laid", laid)
}

// What stays where it is stays, and nothing lies on it.
func TestNestedRoundWhatStays(t *testing.T) {
	rng := rand.New(rand.NewPCG(4, 4))
	stays := pack.Lain{X: 200, Y: 100}
	list := []pack.Nested{{Shape: tool(rng), Gap: 10, Value: 1, Fixed: &stays}}
	for range 12 {
		list = append(list, nested(tool(rng), true, 10, 1))
	}
	out := pack.Nest(900, 600, list, pack.NestOptions{Tries: 4})
	require.NotEmpty(t, out)
	assert.Equal(t, pack.Lain{Piece: 0, X: 200, Y: 100}, out[0])
	assert.Greater(t, len(out), 3)
}

// BenchmarkNest lays more things than go in: how much more area than with their boxes alone, same time.
func BenchmarkNest(b *testing.B) {
	for b.Loop() {
		byShape, byBox := 0.0, 0.0
		for seed := range uint64(6) {
			rng := rand.New(rand.NewPCG(seed, 7))
			const w, h, gap = 1000.0, 700.0, 10.0
			var list, boxes []pack.Nested
			sum := 0.0
			for sum < 1.2*w*h {
				g := tool(rng)
				_, high := g.Bounds()
				a := math.Abs(g.Area())
				list = append(list, nested(g, true, gap, a))
				boxes = append(boxes, nested(geometry.Rectangle(0, 0, high.X, high.Y, 0), true, gap, a))
				sum += a
			}
			value := func(out []pack.Lain) (v float64) {
				for _, l := range out {
					v += list[l.Piece].Value
				}
				return v
			}
			byShape += value(pack.Nest(w, h, list, pack.NestOptions{Tries: 60, Seed: seed}))
			// Boxes by the packing of rectangles, which is better at them.
			var pieces []pack.Piece
			for i := range boxes {
				_, high := boxes[i].Shape.Bounds()
				pieces = append(pieces, pack.Piece{W: length.MM(high.X + gap), H: length.MM(high.Y + gap), Turn: true, Value: boxes[i].Value})
			}
			f := pack.NewFilling(length.MM(w+gap), length.MM(h+gap), pieces, seed)
			began := 0
			f.Fill(1, func() float64 { began++; return float64(began) / 4000 })
			_, v := f.Best()
			byBox += max(v, value(pack.Nest(w, h, boxes, pack.NestOptions{Tries: 60, Seed: seed})))
		}
		b.ReportMetric(100*(byShape/byBox-1), "more-area-%")
	}
}
