package walk

import (
	"math"
	"math/rand/v2"
	"testing"

	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"hobrak/internal/core/geometry"
)

// scattered is a hall with boxes at random, some of them turned, some in each other.
func scattered(rng *rand.Rand, boxes int) *Floor {
	side := 12000.0
	var things []geometry.Polygon
	for range boxes {
		f := func(low, high float64) float64 { return low + (high-low)*rng.Float64() }
		things = append(things, geometry.Rectangle(f(0, side-1000), f(0, side-1000), f(100, 1000), f(100, 1000), f(0, 360)))
	}
	return NewFloor(geometry.Polygon{{X: 0, Y: 0}, {X: 0, Y: side}, {X: side, Y: side}, {X: side, Y: 0}}, things, BodyRadius)
}

// blockedAnywhere is what clear says without the grid.
func (f *Floor) blockedAnywhere(s geometry.Segment) bool {
	for i := range f.grown {
		if f.grown[i].blocks(s) {
			return true
		}
	}
	return false
}

func TestTheGridFindsWhatASegmentMeets(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		rng := rand.New(rand.NewPCG(rapid.Uint64().Draw(t, "seed"), 1))
		f := scattered(rng, rapid.IntRange(0, 30).Draw(t, "boxes"))
		for range 40 {
			c := func() float64 { return 13000*rng.Float64() - 500 }
			s := geometry.Segment{A: geometry.Point{X: c(), Y: c()}, B: geometry.Point{X: c(), Y: c()}}
			if rng.IntN(4) == 0 {
				s.B.X = s.A.X
			}
			found := f.at.along(s, func(i int32) bool { return f.grown[i].blocks(s) })
			if found != f.blockedAnywhere(s) {
				t.Fatalf("%v: the grid says %v", s, found)
			}
		}
	})
}

func TestAWayOnALargeFloorIsFreeAndHardlyLonger(t *testing.T) {
	// The same floor asked in both manners: a way is found where there is one, never shorter than
	// the shortest, and seldom longer.
	longer, ways := 0.0, 0
	rapid.Check(t, func(t *rapid.T) {
		rng := rand.New(rand.NewPCG(rapid.Uint64().Draw(t, "seed"), 2))
		f := scattered(rng, rapid.IntRange(45, 90).Draw(t, "boxes"))
		c := func() float64 { return 300 + 11400*rng.Float64() }
		from, to := geometry.Point{X: c(), Y: c()}, geometry.Point{X: c(), Y: c()}
		w := &Ways{floor: f, from: from}
		w.start, w.ok = f.Nearest(from)
		g := &Goal{floor: f, At: to}
		g.Stand, g.OK = f.Nearest(to)
		if !w.ok || !g.OK {
			return
		}
		g.look.Do(func() { g.seen = f.visible(g.Stand, f.at.nearest(f.nodes, g.Stand)) })
		got, points := w.search(g)
		want, _, ok := f.astar(f.visible(w.start, nil), f.visible(g.Stand, nil), g.Stand, f.neighbours)
		if f.clear(geometry.Segment{A: w.start, B: g.Stand}) {
			want, ok = w.start.Distance(g.Stand), true
		}
		if !ok {
			if !math.IsInf(got, 1) {
				t.Fatalf("a way of %v where there is none", got)
			}
			return
		}
		want += from.Distance(w.start) + g.Stand.Distance(to)
		if got < want-1e-6 || got > 1.25*want {
			t.Fatalf("%v, the shortest is %v", got, want)
		}
		longer, ways = longer+got/want-1, ways+1
		sum := 0.0
		for i := 1; i < len(points); i++ {
			s := geometry.Segment{A: points[i-1], B: points[i]}
			sum += s.A.Distance(s.B)
			if i > 1 && i < len(points)-1 && f.blockedAnywhere(s) && s.A.Distance(s.B) > 1 {
				t.Fatalf("the way runs through something between %v and %v", s.A, s.B)
			}
		}
		if math.Abs(sum-got) > 1e-6 {
			t.Fatalf("its points are %v long, it says %v", sum, got)
		}
	})
	require.Positive(t, ways)
	t.Logf("%.3f %% longer on average over %d ways", 100*longer/float64(ways), ways)
}
