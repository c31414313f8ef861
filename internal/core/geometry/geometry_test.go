package geometry_test

import (
	"math"
	"testing"

	"github.com/stretchr/testify/assert"
	"pgregory.net/rapid"

	"hobrak/internal/core/geometry"
)

type pt = geometry.Point

func TestSegmentsCross(t *testing.T) {
	for name, c := range map[string]struct {
		a, b geometry.Segment
		want bool
	}{
		"in the middle":            {geometry.Segment{A: pt{X: 0, Y: 0}, B: pt{X: 2, Y: 2}}, geometry.Segment{A: pt{X: 0, Y: 2}, B: pt{X: 2, Y: 0}}, true},
		"touching with an end":     {geometry.Segment{A: pt{X: 0, Y: 0}, B: pt{X: 2, Y: 0}}, geometry.Segment{A: pt{X: 1, Y: 0}, B: pt{X: 1, Y: 5}}, true},
		"one along the other":      {geometry.Segment{A: pt{X: 0, Y: 0}, B: pt{X: 4, Y: 0}}, geometry.Segment{A: pt{X: 3, Y: 0}, B: pt{X: 9, Y: 0}}, true},
		"on one line, apart":       {geometry.Segment{A: pt{X: 0, Y: 0}, B: pt{X: 1, Y: 0}}, geometry.Segment{A: pt{X: 2, Y: 0}, B: pt{X: 3, Y: 0}}, false},
		"side by side":             {geometry.Segment{A: pt{X: 0, Y: 0}, B: pt{X: 4, Y: 0}}, geometry.Segment{A: pt{X: 0, Y: 1}, B: pt{X: 4, Y: 1}}, false},
		"lines meet, parts do not": {geometry.Segment{A: pt{X: 0, Y: 0}, B: pt{X: 1, Y: 1}}, geometry.Segment{A: pt{X: 4, Y: 0}, B: pt{X: 3, Y: 1}}, false},
	} {
		assert.Equal(t, c.want, c.a.Crosses(c.b), name)
		assert.Equal(t, c.want, c.b.Crosses(c.a), name+", the other way round")
	}
}

func TestRectanglesTurnAboutTheirMiddle(t *testing.T) {
	g := geometry.Rectangle(-150, 2650, 700, 400, 90)
	low, high := g.Bounds()
	assert.InDelta(t, 0, low.X, 1e-9)
	assert.InDelta(t, 400, high.X, 1e-9)
	assert.InDelta(t, 2500, low.Y, 1e-9)
	assert.InDelta(t, 3200, high.Y, 1e-9)
	// The front, at the lower edge before, looks to the right now.
	front := g.Edge(0)
	assert.InDelta(t, 400, front.A.X, 1e-9)
	assert.InDelta(t, 400, front.B.X, 1e-9)
	assert.Positive(t, g.Area(), "corners run anticlockwise")
}

func TestTurningKeepsAreaAndMiddle(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		x, y := rapid.Float64Range(-5000, 5000).Draw(t, "x"), rapid.Float64Range(-5000, 5000).Draw(t, "y")
		w, d := rapid.Float64Range(1, 3000).Draw(t, "w"), rapid.Float64Range(1, 3000).Draw(t, "d")
		g := geometry.Rectangle(x, y, w, d, rapid.Float64Range(-360, 360).Draw(t, "deg"))
		if math.Abs(g.Area()-w*d) > 1e-3 {
			t.Fatalf("area %v, not %v", g.Area(), w*d)
		}
		mid := g[0].Add(g[2]).Mul(.5)
		if !mid.Near(pt{X: x + w/2, Y: y + d/2}, 1e-6) {
			t.Fatalf("the middle went to %v", mid)
		}
		if !g.Contains(mid) {
			t.Fatal("the middle is not inside")
		}
	})
}

func TestOverlapIsSymmetricAndSeesTouchingAsApart(t *testing.T) {
	a := geometry.Rectangle(0, 0, 100, 100, 0)
	assert.False(t, a.Overlaps(geometry.Rectangle(100, 0, 50, 50, 0), 0))
	assert.True(t, a.Overlaps(geometry.Rectangle(99, 0, 50, 50, 0), 0))
	assert.False(t, a.Overlaps(geometry.Rectangle(99, 0, 50, 50, 0), 1), "a millimetre is forgiven")
	// Turned by 45 degrees its corner reaches in, though its bounds alone would overlap more.
	assert.False(t, a.Overlaps(geometry.Rectangle(95, 95, 100, 100, 45), 0))
	rapid.Check(t, func(t *rapid.T) {
		draw := func(n string) geometry.Polygon {
			return geometry.Rectangle(rapid.Float64Range(0, 300).Draw(t, n), rapid.Float64Range(0, 300).Draw(t, n), rapid.Float64Range(5, 200).Draw(t, n), rapid.Float64Range(5, 200).Draw(t, n), rapid.Float64Range(0, 90).Draw(t, n))
		}
		g, o := draw("g"), draw("o")
		if g.Overlaps(o, 0) != o.Overlaps(g, 0) {
			t.Fatal("one way they overlap, the other they do not")
		}
		for _, p := range o {
			if g.Contains(p) && g.Distance(p) > 1e-6 && !g.Overlaps(o, 0) {
				t.Fatalf("%v of one is inside the other", p)
			}
		}
	})
}

func TestNearestOnASegment(t *testing.T) {
	s := geometry.Segment{A: pt{X: 0, Y: 0}, B: pt{X: 10, Y: 0}}
	assert.Equal(t, pt{X: 4, Y: 0}, s.Nearest(pt{X: 4, Y: 7}))
	assert.Equal(t, pt{X: 10, Y: 0}, s.Nearest(pt{X: 14, Y: 3}))
	assert.InDelta(t, 5, s.Distance(pt{X: 14, Y: 3}), 1e-9)
	assert.InDelta(t, 5, geometry.Segment{A: pt{X: 1, Y: 1}, B: pt{X: 1, Y: 1}}.Distance(pt{X: 4, Y: 5}), 1e-9, "a segment without length is a point")
}

func TestAnOutlineThatCrossesItselfIsFound(t *testing.T) {
	bow := geometry.Polygon{{X: 0, Y: 0}, {X: 1000, Y: 1000}, {X: 1000, Y: 0}, {X: 0, Y: 1000}}
	i, j, found := bow.Crossing()
	assert.True(t, found)
	assert.Equal(t, []int{0, 2}, []int{i, j})
	_, _, found = geometry.Rectangle(0, 0, 1000, 500, 30).Crossing()
	assert.False(t, found)
}
