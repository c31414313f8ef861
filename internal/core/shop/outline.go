package shop

import (
	"fmt"
	"math"
	"slices"

	"hobrak/internal/core/geometry"
	"hobrak/internal/core/length"
)

// shape is the outline in mm.
func (it *Item) shape() geometry.Polygon {
	out := make(geometry.Polygon, len(it.Outline))
	for i, p := range it.Outline {
		out[i] = geometry.Point{X: p[0].MM(), Y: p[1].MM()}
	}
	return out
}

// Seen is the outline of a thing in a face so wide and high, in mm from its left lower corner: as it is, or turned by a quarter where the
// face has its sides the other way round. Nil when its outline is not known, or the face is another one.
func (it *Item) Seen(w, h length.Length) geometry.Polygon {
	if len(it.Outline) == 0 {
		return nil
	}
	near := func(a, b length.Length) bool { return math.Abs(a.MM()-b.MM()) < 1 }
	switch g := it.shape(); {
	case near(w, it.W) && near(h, it.H):
		return g
	case near(w, it.H) && near(h, it.W):
		return Quarter(g, it.H.MM())
	}
	return nil
}

// Quarter is a shape turned anticlockwise by a quarter; high is how high its box was.
func Quarter(g geometry.Polygon, high float64) geometry.Polygon {
	out := make(geometry.Polygon, len(g))
	for i, p := range g {
		out[i] = geometry.Point{X: high - p.Y, Y: p.X}
	}
	return out
}

// Resize changes the width and height of a thing; its outline grows with them.
func (it *Item) Resize(w, h length.Length) {
	if it.W > 0 && it.H > 0 {
		for i := range it.Outline {
			p := &it.Outline[i]
			p[0], p[1] = length.MM(p[0].MM()*w.MM()/it.W.MM()), length.MM(p[1].MM()*h.MM()/it.H.MM())
		}
	}
	it.W, it.H = w, h
}

// Trace keeps an outline of a thing, mm from the left lower corner of its box, turned by a quarter or not; its width and height are those
// of the outline from then on. Corners that hardly bend it are left out until there are few enough of them.
func (it *Item) Trace(outline [][2]float64, turn bool) error {
	var g geometry.Polygon
	for _, p := range outline {
		g = append(g, geometry.Point{X: p[0], Y: p[1]})
	}
	if len(g) < 3 {
		return fmt.Errorf("an outline has at least 3 corners")
	}
	low, high := g.Bounds()
	g = g.Moved(geometry.Point{X: -low.X, Y: -low.Y})
	if turn {
		g = Quarter(g, high.Y-low.Y)
	}
	for len(g) > MostCorners {
		least, at := math.Inf(1), 0
		for i := range g {
			if d := (geometry.Segment{A: g[(i+len(g)-1)%len(g)], B: g[(i+1)%len(g)]}).Distance(g[i]); d < least {
				least, at = d, i
			}
		}
		g = append(g[:at:at], g[at+1:]...)
	}
	low, high = g.Bounds()
	w, h := length.MM(high.X-low.X), length.MM(high.Y-low.Y)
	if w <= 0 || h <= 0 || w > MostSide || h > MostSide {
		return fmt.Errorf("the outline is %s by %s; it should be more than 0 and at most %s", w, h, MostSide)
	}
	if i, j, crosses := g.Crossing(); crosses {
		return fmt.Errorf("the side from corner %d crosses that from corner %d", i+1, j+1)
	}
	it.W, it.H, it.Outline = w, h, make([]Point, len(g))
	for i, p := range g {
		it.Outline[i] = Point{min(w, length.MM(p.X-low.X)), min(h, length.MM(p.Y-low.Y))}
	}
	it.Assumed = slices.DeleteFunc(it.Assumed, func(a string) bool { return a == "w" || a == "h" })
	return nil
}
