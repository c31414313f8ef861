package walk_test

import (
	"math"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"hobrak/internal/core/geometry"
	"hobrak/internal/core/walk"
)

// room is 6 m by 4 m, clockwise.
var room = geometry.Polygon{{X: 0, Y: 0}, {X: 0, Y: 4000}, {X: 6000, Y: 4000}, {X: 6000, Y: 0}}

func TestStraightAcrossAnEmptyRoom(t *testing.T) {
	f := walk.NewFloor(room, nil, walk.BodyRadius)
	p, ok := f.From(geometry.Point{X: 500, Y: 500}).To(geometry.Point{X: 3500, Y: 4000 - 500})
	require.True(t, ok)
	assert.InDelta(t, math.Hypot(3000, 3000), p.Length, 1e-6)
	assert.Len(t, p.Points, 2)
}

func TestRoundABenchInTheMiddle(t *testing.T) {
	// A bench 2000 × 800 stands across the way; the way round its end is worked in docs/rules.
	bench := geometry.Rectangle(2000, 0, 800, 2000, 0)
	f := walk.NewFloor(room, []geometry.Polygon{bench}, walk.BodyRadius)
	p, ok := f.From(geometry.Point{X: 1000, Y: 1000}).To(geometry.Point{X: 3800, Y: 1000})
	require.True(t, ok)
	// Tangents to the quarter circles of radius 250 about (2000,2000) and (2800,2000),
	// the arcs between them and the straight along the bench's end.
	toCentre := math.Hypot(1000, 1000)
	leg := math.Sqrt(toCentre*toCentre - 250*250)
	arc := 250 * (math.Pi/4 + math.Asin(250/toCentre))
	exact := 2*leg + 2*arc + 800
	assert.InDelta(t, 4065.4, exact, 0.1, "as worked in docs/rules")
	assert.GreaterOrEqual(t, p.Length, exact-1)
	assert.LessOrEqual(t, p.Length, exact*1.015)
	assert.Greater(t, len(p.Points), 3)
}

func TestAClosedOffCornerCannotBeReached(t *testing.T) {
	wall := geometry.Rectangle(2900, 0, 200, 4000, 0)
	f := walk.NewFloor(room, []geometry.Polygon{wall}, walk.BodyRadius)
	_, ok := f.From(geometry.Point{X: 1000, Y: 1000}).To(geometry.Point{X: 5000, Y: 1000})
	assert.False(t, ok)
}

func TestAGapNarrowerThanABodyIsNoWay(t *testing.T) {
	for gap, passes := range map[float64]bool{480: false, 520: true} {
		wall := geometry.Rectangle(2900, gap, 200, 4000-gap, 0)
		f := walk.NewFloor(room, []geometry.Polygon{wall}, walk.BodyRadius)
		_, ok := f.From(geometry.Point{X: 1000, Y: 1000}).To(geometry.Point{X: 5000, Y: 1000})
		assert.Equal(t, passes, ok, "gap of %v mm", gap)
	}
}

func TestRoundTheInnerCornerOfAnLShapedRoom(t *testing.T) {
	l := geometry.Polygon{{X: 0, Y: 0}, {X: 0, Y: 5000}, {X: 2000, Y: 5000}, {X: 2000, Y: 2000}, {X: 5000, Y: 2000}, {X: 5000, Y: 0}}
	f := walk.NewFloor(l, nil, walk.BodyRadius)
	p, ok := f.From(geometry.Point{X: 1000, Y: 4500}).To(geometry.Point{X: 4500, Y: 1000})
	require.True(t, ok)
	straight := math.Hypot(3500, 3500)
	assert.Greater(t, p.Length, straight)
	for i := 1; i < len(p.Points); i++ {
		mid := p.Points[i-1].Add(p.Points[i]).Mul(0.5)
		assert.True(t, l.Contains(mid))
	}
}

func TestNoWayTakesAShortcut(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		var obstacles []geometry.Polygon
		for range rapid.IntRange(0, 7).Draw(t, "obstacles") {
			obstacles = append(obstacles, geometry.Rectangle(
				float64(rapid.IntRange(0, 5000).Draw(t, "x")), float64(rapid.IntRange(0, 3000).Draw(t, "y")),
				float64(rapid.IntRange(50, 1500).Draw(t, "w")), float64(rapid.IntRange(50, 1000).Draw(t, "d")),
				float64(rapid.IntRange(0, 90).Draw(t, "rot"))))
		}
		f := walk.NewFloor(room, obstacles, walk.BodyRadius)
		draw := func(name string) geometry.Point {
			return geometry.Point{X: float64(rapid.IntRange(0, 6000).Draw(t, name)), Y: float64(rapid.IntRange(0, 4000).Draw(t, name))}
		}
		a, b := draw("a"), draw("b")
		a, okA := f.Nearest(a)
		b, okB := f.Nearest(b)
		if !okA || !okB {
			return // the obstacles leave no room at all
		}
		p, ok := f.From(a).To(b)
		back, okBack := f.From(b).To(a)
		if ok != okBack {
			t.Fatal("a way leads there but not back")
		}
		if !ok {
			return
		}
		if p.Length < a.Distance(b)-1e-6 {
			t.Fatalf("%v is shorter than the straight line %v", p.Length, a.Distance(b))
		}
		if math.Abs(p.Length-back.Length) > 1e-3 {
			t.Fatalf("there %v, back %v", p.Length, back.Length)
		}
		// Walk it in steps of 20 mm and look whether the body touches anything.
		for i := 1; i < len(p.Points); i++ {
			s := geometry.Segment{A: p.Points[i-1], B: p.Points[i]}
			steps := int(s.A.Distance(s.B)/20) + 1
			for k := range steps + 1 {
				q := s.A.Add(s.B.Sub(s.A).Mul(float64(k) / float64(steps)))
				if room.Distance(q) < walk.BodyRadius-1 || !room.Contains(q) {
					t.Fatalf("at %v the body touches the wall", q)
				}
				for _, o := range obstacles {
					if o.Contains(q) || o.Distance(q) < walk.BodyRadius-1 {
						t.Fatalf("at %v the body touches an obstacle", q)
					}
				}
			}
		}
	})
}

func BenchmarkWaysAmongThirtyThings(b *testing.B) {
	var obstacles []geometry.Polygon
	for i := range 30 {
		obstacles = append(obstacles, geometry.Rectangle(float64(300+i%6*950), float64(300+i/6*750), 250, 180, float64(i*13)))
	}
	for b.Loop() {
		f := walk.NewFloor(room, obstacles, 100)
		f.From(geometry.Point{X: 150, Y: 150}).To(geometry.Point{X: 5800, Y: 3800})
	}
}

// Nowhere on a grid can one stand nearer to a point than at its nearest spot, but for what a
// way may graze (half a millimetre, more where two limits meet at a sharp angle).
func TestNoSpotIsNearerThanTheNearest(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		var obstacles []geometry.Polygon
		for range rapid.IntRange(1, 8).Draw(t, "obstacles") {
			obstacles = append(obstacles, geometry.Rectangle(
				float64(rapid.IntRange(0, 5000).Draw(t, "x")), float64(rapid.IntRange(0, 3000).Draw(t, "y")),
				float64(rapid.IntRange(50, 2500).Draw(t, "w")), float64(rapid.IntRange(50, 1500).Draw(t, "d")),
				float64(rapid.SampledFrom([]int{0, 0, 90, 30}).Draw(t, "rot"))))
		}
		f := walk.NewFloor(room, obstacles, walk.BodyRadius)
		p := geometry.Point{X: float64(rapid.IntRange(0, 6000).Draw(t, "px")), Y: float64(rapid.IntRange(0, 4000).Draw(t, "py"))}
		q, ok := f.Nearest(p)
		if ok && !f.Free(q) {
			t.Fatalf("nobody can stand at %v", q)
		}
		for x := 0.0; x <= 6000; x += 60 {
			for y := 0.0; y <= 4000; y += 60 {
				g := geometry.Point{X: x, Y: y}
				if f.Free(g) && (!ok || g.Distance(p) < q.Distance(p)-2) {
					t.Fatalf("one can stand at %v, which is nearer to %v than %v", g, p, q)
				}
			}
		}
	})
}
