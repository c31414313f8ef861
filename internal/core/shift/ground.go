package shift

import (
	"math"
	"slices"

	"hobrak/internal/core/geometry"
	"hobrak/internal/core/shop"
	"hobrak/internal/core/walk"
)

// ground is the floor of an area in squares, to see whether something gets past.
type ground struct {
	outline geometry.Polygon
	doors   []door
	low     geometry.Point
	w, h    int
	walls   map[float64][]bool // squares whose middle is too near to a wall for a body so wide
}

// square is how wide a square of the floor is, and slack how much narrower than its shorter side a body is taken to be:
// people edge things past.
const (
	square = 80.0
	slack  = 40.0
)

func newGround(a *shop.Area) *ground {
	g := &ground{outline: a.Outline(), walls: map[float64][]bool{}}
	low, high := g.outline.Bounds()
	g.low = low
	g.w, g.h = int(math.Ceil((high.X-low.X)/square)), int(math.Ceil((high.Y-low.Y)/square))
	for i := range a.Walls {
		for k := range a.Walls[i].Features {
			if x := &a.Walls[i].Features[k]; x.Kind.Passage() {
				g.doors = append(g.doors, door{a.Frame(i).Spot((x.X + x.W/2).MM(), walk.BodyRadius+1), x.W.MM()})
			}
		}
	}
	return g
}

// door is the spot just inside one, and how wide it is.
type door struct {
	at   geometry.Point
	wide float64
}

// doorFor is where something so wide goes in and out: the first door that is wide enough, or the widest; nil without doors.
func (g *ground) doorFor(wide float64) *geometry.Point {
	var best *door
	for i := range g.doors {
		d := &g.doors[i]
		if d.wide >= wide {
			return &d.at
		}
		if best == nil || d.wide > best.wide {
			best = d
		}
	}
	if best == nil {
		return nil
	}
	return &best.at
}

// holds tells whether a footprint lies in the room.
func (g *ground) holds(foot geometry.Polygon) bool {
	for i, c := range foot {
		if !g.outline.Contains(c) {
			return false
		}
		for k := range g.outline {
			if g.outline.Edge(k).Crosses(foot.Edge(i)) {
				return false
			}
		}
	}
	return true
}

func (g *ground) middle(c int) geometry.Point {
	return geometry.Point{X: g.low.X + (float64(c%g.w)+.5)*square, Y: g.low.Y + (float64(c/g.w)+.5)*square}
}

func (g *ground) square(p geometry.Point) (c int, ok bool) {
	x, y := int((p.X-g.low.X)/square), int((p.Y-g.low.Y)/square)
	if x < 0 || y < 0 || x >= g.w || y >= g.h {
		return 0, false
	}
	return y*g.w + x, true
}

// near are the squares too near to the walls.
func (g *ground) near(half float64) []bool {
	if w, ok := g.walls[half]; ok {
		return w
	}
	w := make([]bool, g.w*g.h)
	for c := range w {
		p := g.middle(c)
		w[c] = !g.outline.Contains(p) || g.outline.Distance(p) < half
	}
	g.walls[half] = w
	return w
}

// way is how far a body is pushed from one spot to another past what stands there, in mm; false when it does not get past.
// Half is half of its shorter side: it goes through gaps lengthwise.
func (g *ground) way(from, to geometry.Point, half float64, lists ...[]geometry.Polygon) (float64, bool) {
	half = max(0, half-slack)
	if math.IsInf(half, 1) {
		half = 0
	}
	blocked := slices.Clone(g.near(half))
	for _, list := range lists {
		for _, o := range list {
			low, high := o.Bounds()
			for x := max(0, int((low.X-half-g.low.X)/square)); x <= min(g.w-1, int((high.X+half-g.low.X)/square)); x++ {
				for y := max(0, int((low.Y-half-g.low.Y)/square)); y <= min(g.h-1, int((high.Y+half-g.low.Y)/square)); y++ {
					c := y*g.w + x
					if !blocked[c] {
						p := g.middle(c)
						blocked[c] = o.Contains(p) || o.Distance(p) < half
					}
				}
			}
		}
	}
	goal, ok := g.square(to)
	first, ok2 := g.square(from)
	if !ok || !ok2 {
		return 0, false
	}
	// What stands in a corner gets out of it, and into one: the squares about both ends are free.
	for _, end := range [2]geometry.Point{from, to} {
		for x := max(0, int((end.X-half-g.low.X)/square)); x <= min(g.w-1, int((end.X+half-g.low.X)/square)); x++ {
			for y := max(0, int((end.Y-half-g.low.Y)/square)); y <= min(g.h-1, int((end.Y+half-g.low.Y)/square)); y++ {
				if c := y*g.w + x; blocked[c] && g.middle(c).Near(end, half) && !g.within(lists, g.middle(c)) {
					blocked[c] = false
				}
			}
		}
	}
	blocked[first], blocked[goal] = false, false
	length := make([]float64, len(blocked))
	for i := range length {
		length[i] = math.Inf(1)
	}
	length[first] = 0
	queue := []int{first}
	for len(queue) > 0 {
		c := queue[0]
		queue = queue[1:]
		if c == goal {
			return length[c], true
		}
		x, y := c%g.w, c/g.w
		for dx := -1; dx <= 1; dx++ {
			for dy := -1; dy <= 1; dy++ {
				nx, ny := x+dx, y+dy
				if nx < 0 || ny < 0 || nx >= g.w || ny >= g.h {
					continue
				}
				n := ny*g.w + nx
				if blocked[n] || dx != 0 && dy != 0 && (blocked[y*g.w+nx] || blocked[ny*g.w+x]) {
					continue
				}
				// Each square once: the way is hardly longer than the shortest.
				if math.IsInf(length[n], 1) {
					length[n] = length[c] + square*math.Hypot(float64(dx), float64(dy))
					queue = append(queue, n)
				}
			}
		}
	}
	if math.IsInf(length[goal], 1) {
		return 0, false
	}
	return length[goal], true
}

func (g *ground) within(lists [][]geometry.Polygon, p geometry.Point) bool {
	for _, list := range lists {
		for _, o := range list {
			if o.Contains(p) {
				return true
			}
		}
	}
	return false
}
