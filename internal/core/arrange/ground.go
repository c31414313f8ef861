package arrange

import (
	"math"

	"hobrak/internal/core/access"
	"hobrak/internal/core/geometry"
	"hobrak/internal/core/shop"
)

// ground is the floor in squares, to see quickly whether one gets from the main door to every station. It is coarser than the
// ways of the mode, which have the last word.
type ground struct {
	low     geometry.Point
	w, h    int
	blocked []bool // by walls and what does not move
	half    float64
	door    []int32 // squares one comes in at; none without a door
	stamp   []int32 // of the stations
	seen    []int32
	round   int32
	queue   []int32
}

const (
	tile = 100.0
	arm  = 450.0
)

func newGround(a *shop.Area, solid []geometry.Polygon, wide float64) *ground {
	outline := a.Outline()
	low, high := outline.Bounds()
	g := &ground{low: low, w: int(math.Ceil((high.X - low.X) / tile)), h: int(math.Ceil((high.Y - low.Y) / tile)), half: wide/2 - tile/2}
	n := g.w * g.h
	g.blocked, g.stamp, g.seen = make([]bool, n), make([]int32, n), make([]int32, n)
	for c := range n {
		p := g.middle(int32(c))
		g.blocked[c] = !outline.Contains(p) || outline.Distance(p) < g.half
	}
	for _, o := range solid {
		for _, c := range g.about(o, g.half) {
			g.blocked[c] = true
		}
	}
	if door, ok := access.MainDoor(a); ok {
		for c := range n {
			if p := g.middle(int32(c)); !g.blocked[c] && p.Near(door, arm) {
				g.door = append(g.door, int32(c))
			}
		}
	}
	return g
}

func (g *ground) middle(c int32) geometry.Point {
	return geometry.Point{X: g.low.X + (float64(int(c)%g.w)+.5)*tile, Y: g.low.Y + (float64(int(c)/g.w)+.5)*tile}
}

// about are the squares whose middle is nearer than so much to an outline, or in it.
func (g *ground) about(o geometry.Polygon, far float64) (out []int32) {
	from, to := o.Bounds()
	for y := max(0, int((from.Y-far-g.low.Y)/tile)); y <= min(g.h-1, int((to.Y+far-g.low.Y)/tile)); y++ {
		for x := max(0, int((from.X-far-g.low.X)/tile)); x <= min(g.w-1, int((to.X+far-g.low.X)/tile)); x++ {
			c := int32(y*g.w + x)
			if p := g.middle(c); o.Contains(p) || o.Distance(p) < far {
				out = append(out, c)
			}
		}
	}
	return out
}

// reached tells whether one gets from the door to every station that is worked at; true when there is no door.
func (p *problem) reached(at []int) bool {
	g := p.ground
	if len(g.door) == 0 {
		return true
	}
	p.stand(at)
	g.queue = g.queue[:0]
	for _, c := range g.door {
		if g.stamp[c] != g.round {
			g.seen[c] = g.round
			g.queue = append(g.queue, c)
		}
	}
	for i := 0; i < len(g.queue); i++ {
		c := g.queue[i]
		x, y := int(c)%g.w, int(c)/g.w
		for _, d := range [4][2]int{{1, 0}, {-1, 0}, {0, 1}, {0, -1}} {
			nx, ny := x+d[0], y+d[1]
			if nx < 0 || ny < 0 || nx >= g.w || ny >= g.h {
				continue
			}
			if n := int32(ny*g.w + nx); !g.blocked[n] && g.stamp[n] != g.round && g.seen[n] != g.round {
				g.seen[n] = g.round
				g.queue = append(g.queue, n)
			}
		}
	}
	for n, k := range at {
		if p.lodger[n] {
			continue
		}
		got := false
		for _, c := range p.spots[n][k].near {
			if g.seen[c] == g.round {
				got = true
				break
			}
		}
		if !got {
			return false
		}
	}
	return true
}

// stand marks the squares in which nobody walks in an arrangement.
func (p *problem) stand(at []int) {
	g := p.ground
	g.round++
	for n, k := range at {
		x := &p.spots[n][k]
		if x.walls == nil {
			x.walls = append([]int32{}, g.about(x.foot, g.half)...)
			x.near = g.close(x.stand)
		}
		for _, c := range x.walls {
			g.stamp[c] = g.round
		}
	}
}

// close are the squares within an arm of a spot.
func (g *ground) close(p geometry.Point) []int32 {
	dot := geometry.Polygon{p, p.Add(geometry.Point{X: 1}), p.Add(geometry.Point{Y: 1})}
	return append([]int32{}, g.about(dot, arm)...)
}

// field is how far it is on foot from somewhere to every square, in tenths of a tile; -1 where one does not get.
type field struct {
	far   []int32
	queue [][]int32
}

// from fills a field: ways go from square to square, also across corners, by buckets of their length (Dial 1969).
func (g *ground) from(f *field, start geometry.Point, near []int32) {
	if f.far == nil {
		f.far, f.queue = make([]int32, len(g.blocked)), make([][]int32, 64)
	}
	for i := range f.far {
		f.far[i] = -1
	}
	for i := range f.queue {
		f.queue[i] = f.queue[i][:0]
	}
	waiting := 0
	push := func(c, d int32) {
		if f.far[c] < 0 || d < f.far[c] {
			f.far[c] = d
			f.queue[d%64] = append(f.queue[d%64], c)
			waiting++
		}
	}
	for _, c := range near {
		if !g.blocked[c] && g.stamp[c] != g.round {
			push(c, int32(10*g.middle(c).Distance(start)/tile))
		}
	}
	for d := int32(0); waiting > 0; d++ {
		q := &f.queue[d%64]
		for len(*q) > 0 {
			c := (*q)[len(*q)-1]
			*q = (*q)[:len(*q)-1]
			waiting--
			if f.far[c] != d {
				continue
			}
			x, y := int(c)%g.w, int(c)/g.w
			for dy := -1; dy <= 1; dy++ {
				for dx := -1; dx <= 1; dx++ {
					nx, ny := x+dx, y+dy
					if dx == 0 && dy == 0 || nx < 0 || ny < 0 || nx >= g.w || ny >= g.h {
						continue
					}
					n := int32(ny*g.w + nx)
					if g.blocked[n] || g.stamp[n] == g.round {
						continue
					}
					step := int32(10)
					if dx != 0 && dy != 0 {
						step = 14
					}
					push(n, d+step)
				}
			}
		}
	}
}

// to is how far it is in a field to a spot, in mm; false when one does not get there.
func (g *ground) to(f *field, p geometry.Point, near []int32) (float64, bool) {
	best := math.Inf(1)
	for _, c := range near {
		if f.far[c] >= 0 {
			best = min(best, float64(f.far[c])*tile/10+g.middle(c).Distance(p))
		}
	}
	return best, !math.IsInf(best, 1)
}

// walked is what an arrangement costs with ways round what stands there, in metres a week, wishes included. Where there is no
// way twice the straight one counts.
func (p *problem) walked(at []int) float64 {
	g := p.ground
	p.stand(at)
	sum := 0.0
	for n, k := range at {
		x := &p.spots[n][k]
		sum += x.wish
		asked := len(p.pulls[n]) > 0
		for m := range n {
			asked = asked || p.pair[n][m] > 0
		}
		if !asked {
			continue
		}
		g.from(&p.field, x.stand, x.near)
		for i := range p.pulls[n] {
			l := &p.pulls[n][i]
			if l.near == nil {
				l.near = g.close(l.at)
			}
			far, ok := g.to(&p.field, l.at, l.near)
			if !ok {
				far = 2 * x.stand.Distance(l.at)
			}
			sum += l.rate * far / 1000
		}
		for m := range n {
			if w := p.pair[n][m]; w > 0 {
				o := &p.spots[m][at[m]]
				far, ok := g.to(&p.field, o.stand, o.near)
				if !ok {
					far = 2 * x.stand.Distance(o.stand)
				}
				sum += w * far / 1000
			}
		}
	}
	return sum
}
