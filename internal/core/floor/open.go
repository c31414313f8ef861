package floor

import (
	"math"

	"hobrak/internal/core/access"
	"hobrak/internal/core/geometry"
	"hobrak/internal/core/shop"
)

// Open is the largest rectangle of floor along the room's axes on which nothing stands, and the largest project that can
// be built on it with room to walk round. Lengths are mm.
type Open struct {
	X        float64 `json:"x" doc:"left edge"`
	Y        float64 `json:"y" doc:"lower edge"`
	W        float64 `json:"w"`
	D        float64 `json:"d"`
	ProjectW float64 `json:"project_w" doc:"the largest project with 600 round it; 0 when there is room for none"`
	ProjectD float64 `json:"project_d"`
	High     float64 `json:"high" doc:"to the lowest that hangs over it, or to the lowest ceiling"`
	Under    string  `json:"under" doc:"what that is; empty for the ceiling"`
}

// Round is how much is kept free round a project, and openStep how wide the squares are by which it is looked for, in mm.
const (
	Round    = 600.0
	openStep = 50.0
)

// OpenFloor of an area as it stands. What touches a square takes it, so that the rectangle is never too large; it may be too
// small by two squares each way.
func OpenFloor(s *shop.Shop, area *shop.Area) Open {
	ix := shop.NewIndex(s)
	outline := area.Outline()
	low, high := outline.Bounds()
	w, h := int((high.X-low.X)/openStep), int((high.Y-low.Y)/openStep)
	taken := make([]bool, max(0, w*h))
	one := make(geometry.Polygon, 4)
	square := func(c int) geometry.Polygon {
		x, y := low.X+float64(c%w)*openStep, low.Y+float64(c/w)*openStep
		one[0], one[1], one[2], one[3] = geometry.Point{X: x, Y: y}, geometry.Point{X: x + openStep, Y: y}, geometry.Point{X: x + openStep, Y: y + openStep}, geometry.Point{X: x, Y: y + openStep}
		return one
	}
	half := geometry.Point{X: openStep / 2, Y: openStep / 2}
	for c := range taken {
		taken[c] = !outline.Contains(square(c)[0].Add(half))
	}
	for i := range outline { // only those along the walls can be partly outside
		from, to := geometry.Polygon{outline.Edge(i).A, outline.Edge(i).B}.Bounds()
		for x := max(0, int((from.X-low.X)/openStep)-1); x <= min(w-1, int((to.X-low.X)/openStep)+1); x++ {
			for y := max(0, int((from.Y-low.Y)/openStep)-1); y <= min(h-1, int((to.Y-low.Y)/openStep)+1); y++ {
				if c := y*w + x; !taken[c] {
					taken[c] = !within(outline, square(c))
				}
			}
		}
	}
	for _, t := range access.StandingIn(s, ix, area) {
		from, to := t.Footprint.Bounds()
		for x := max(0, int((from.X-low.X)/openStep)); x <= min(w-1, int((to.X-low.X)/openStep)); x++ {
			for y := max(0, int((from.Y-low.Y)/openStep)); y <= min(h-1, int((to.Y-low.Y)/openStep)); y++ {
				if c := y*w + x; !taken[c] {
					taken[c] = t.Footprint.Overlaps(square(c), .5)
				}
			}
		}
	}
	x, y, nx, ny := largest(taken, w, h)
	out := Open{X: low.X + float64(x)*openStep, Y: low.Y + float64(y)*openStep, W: float64(nx) * openStep, D: float64(ny) * openStep}
	if out.W > 2*Round && out.D > 2*Round {
		out.ProjectW, out.ProjectD = out.W-2*Round, out.D-2*Round
	}
	out.High = math.Inf(1)
	for i := range area.Walls {
		for _, p := range area.Walls[i].Profile {
			out.High = min(out.High, p[1].MM())
		}
	}
	if math.IsInf(out.High, 1) {
		out.High = 0
	}
	foot := geometry.Rectangle(out.X, out.Y, out.W, out.D, 0)
	for _, hung := range access.HangingIn(s, ix, area) {
		if hung.From < out.High && out.W > 0 && hung.Footprint.Overlaps(foot, 1) {
			out.High, out.Under = hung.From, hung.ID
		}
	}
	return out
}

// largest rectangle of squares that are not taken, by area: for each row the heights of free columns above it, and of these
// the largest rectangle under a histogram with a stack, in one pass.
func largest(taken []bool, w, h int) (x, y, nx, ny int) {
	heights := make([]int, w+1)
	for row := range h {
		for c := range w {
			if heights[c]++; taken[row*w+c] {
				heights[c] = 0
			}
		}
		var stack []int
		for c := 0; c <= w; c++ {
			for len(stack) > 0 && heights[stack[len(stack)-1]] >= heights[c] {
				high := heights[stack[len(stack)-1]]
				stack = stack[:len(stack)-1]
				left := 0
				if len(stack) > 0 {
					left = stack[len(stack)-1] + 1
				}
				if high*(c-left) > nx*ny {
					x, y, nx, ny = left, row-high+1, c-left, high
				}
			}
			stack = append(stack, c)
		}
	}
	return x, y, nx, ny
}
