// Package outline finds the outline of a tool in a photograph of it on a sheet of paper of known size, and so its true width and height.
// Pictures are grey, 0 black to 255 white; lengths are mm, from the lower left corner of the sheet.
package outline

import (
	"errors"
	"fmt"
	"math"
	"slices"
)

// Grey is a picture, row by row from the top.
type Grey struct {
	W, H int
	Pix  []uint8
}

func (g *Grey) at(x, y int) float64 {
	return float64(g.Pix[min(max(y, 0), g.H-1)*g.W+min(max(x, 0), g.W-1)])
}

// between pixels, bilinear; x and y count from the middle of the first pixel.
func (g *Grey) between(x, y float64) float64 {
	x0, y0 := int(math.Floor(x)), int(math.Floor(y))
	fx, fy := x-float64(x0), y-float64(y0)
	return (g.at(x0, y0)*(1-fx)+g.at(x0+1, y0)*fx)*(1-fy) + (g.at(x0, y0+1)*(1-fx)+g.at(x0+1, y0+1)*fx)*fy
}

// Options of a search.
type Options struct {
	SheetW, SheetH float64 // of the sheet, mm, either way round
	// Tall is how high the tool stands over the sheet, and Camera how high the camera was over it: tall things lean outwards in a
	// picture, by their height over the camera's. 0 leaves that as it is.
	Tall, Camera float64
}

// Found is an outline.
type Found struct {
	W      float64      `json:"w" doc:"mm across, the tool turned so that its box is smallest and upright"`
	H      float64      `json:"h" doc:"mm along"`
	Points [][2]float64 `json:"outline" doc:"mm from the lower left corner of that box, in order"`
	Sheet  [][2]float64 `json:"-"` // the same, as it lay on the sheet
	Says   []string     `json:"says" nullable:"false" doc:"what to mind about it"`
}

// Smallest picture, mm a pixel at most, and how closely the outline is followed.
const (
	smallest = 300
	fineness = 4.0 // pixels a mm of the picture laid flat
	follow   = .35 // mm
	margin   = 3.0 // of the sheet that is not looked at, mm
)

// Find looks for the sheet, lays it flat, and follows the outline of what lies on it. The error says what is wrong with the photograph.
func Find(g *Grey, o Options) (*Found, error) {
	switch {
	case g.W < smallest || g.H < smallest || len(g.Pix) != g.W*g.H:
		return nil, fmt.Errorf("the picture has %d by %d pixels; at least %d each way are needed", g.W, g.H, smallest)
	case !(o.SheetW >= 50 && o.SheetH >= 50 && o.SheetW <= 3000 && o.SheetH <= 3000):
		return nil, fmt.Errorf("a sheet of %g by %g mm; each side from 50 to 3000", o.SheetW, o.SheetH)
	case o.Tall < 0 || o.Camera < 0 || o.Camera > 0 && o.Tall >= o.Camera/2:
		return nil, errors.New("the camera should be at least twice as high over the sheet as the tool is tall")
	}
	corners, err := sheetIn(g)
	if err != nil {
		return nil, err
	}
	// Which way round it lies: as it is longer in the picture.
	side := func(a, b int) float64 { return math.Hypot(corners[a][0]-corners[b][0], corners[a][1]-corners[b][1]) }
	across, up := (side(0, 1)+side(2, 3))/2, (side(1, 2)+side(3, 0))/2
	w, h := max(o.SheetW, o.SheetH), min(o.SheetW, o.SheetH)
	if up > across {
		w, h = h, w
	}
	if seen, is := across/up, w/h; seen < is*.72 || seen > is*1.39 {
		return nil, fmt.Errorf("what looks like the sheet is %.2f times as wide as high in the picture, and %g by %g mm is %.2f: photograph it from above, or say which sheet it is", seen, w, h, is)
	}
	m, err := homography([4][2]float64{{0, 0}, {w, 0}, {w, h}, {0, h}}, corners)
	if err != nil {
		return nil, err
	}
	flat := laid(g, m, w, h)
	flat.even()
	limit := flat.limit()
	mask := flat.largest(limit)
	if mask == nil {
		return nil, errors.New("nothing lies on the sheet, or nothing that is darker than it: put the tool on the middle of a white sheet")
	}
	ring := flat.ring(mask, limit)
	if len(ring) < 8 {
		return nil, errors.New("the outline cannot be followed: more light, and no reflections")
	}
	out := &Found{Says: []string{}}
	for _, q := range ring {
		if q[0] < margin+.6 || q[1] < margin+.6 || q[0] > w-margin-.6 || q[1] > h-margin-.6 {
			return nil, errors.New("it reaches to the edge of the sheet: take a larger sheet, or turn the tool")
		}
	}
	if o.Tall > 0 && o.Camera > 0 {
		k := (o.Camera - o.Tall) / o.Camera
		for i := range ring {
			ring[i] = [2]float64{w/2 + (ring[i][0]-w/2)*k, h/2 + (ring[i][1]-h/2)*k}
		}
		out.Says = append(out.Says, fmt.Sprintf("made smaller by %.1f %%: it stands %.0f mm over the sheet, and the camera was %.0f mm over it", 100*(1-k), o.Tall, o.Camera))
	} else {
		out.Says = append(out.Says, "a tool that is tall looks larger than it is: by its height over the camera's")
	}
	out.Sheet = cornered(ring)
	out.upright()
	return out, nil
}

// upright turns the outline so that its box is smallest and stands on its short side (rotating calipers over its hull).
func (f *Found) upright() {
	hull := hullOf(f.Sheet)
	best, turn := math.Inf(1), 0.0
	for i := range hull {
		a, b := hull[i], hull[(i+1)%len(hull)]
		t := math.Atan2(b[1]-a[1], b[0]-a[0])
		low, high := box(hull, -t)
		if area := (high[0] - low[0]) * (high[1] - low[1]); area < best {
			best, turn = area, -t
		}
	}
	if low, high := box(hull, turn); high[0]-low[0] > high[1]-low[1] {
		turn += math.Pi / 2
	}
	low, high := box(hull, turn)
	f.W, f.H = high[0]-low[0], high[1]-low[1]
	f.Points = make([][2]float64, len(f.Sheet))
	s, c := math.Sincos(turn)
	for i, q := range f.Sheet {
		f.Points[i] = [2]float64{q[0]*c - q[1]*s - low[0], q[0]*s + q[1]*c - low[1]}
	}
}

func box(points [][2]float64, turn float64) (low, high [2]float64) {
	low, high = [2]float64{math.Inf(1), math.Inf(1)}, [2]float64{math.Inf(-1), math.Inf(-1)}
	s, c := math.Sincos(turn)
	for _, q := range points {
		x, y := q[0]*c-q[1]*s, q[0]*s+q[1]*c
		low, high = [2]float64{min(low[0], x), min(low[1], y)}, [2]float64{max(high[0], x), max(high[1], y)}
	}
	return low, high
}

// hullOf is the convex hull, anticlockwise (Andrew's monotone chain 1979).
func hullOf(points [][2]float64) [][2]float64 {
	p := slices.Clone(points)
	slices.SortFunc(p, func(a, b [2]float64) int {
		switch {
		case a[0] != b[0]:
			return int(math.Copysign(1, a[0]-b[0]))
		case a[1] != b[1]:
			return int(math.Copysign(1, a[1]-b[1]))
		}
		return 0
	})
	half := func(list [][2]float64) (out [][2]float64) {
		for _, q := range list {
			for len(out) > 1 && cross(out[len(out)-2], out[len(out)-1], q) <= 0 {
				out = out[:len(out)-1]
			}
			out = append(out, q)
		}
		return out[:len(out)-1]
	}
	lower := half(p)
	slices.Reverse(p)
	return append(lower, half(p)...)
}

func cross(o, a, b [2]float64) float64 {
	return (a[0]-o[0])*(b[1]-o[1]) - (a[1]-o[1])*(b[0]-o[0])
}

// simple is which spots of a ring stay, where what is within a distance of the line that stays is left out (Douglas and Peucker 1973).
func simple(ring [][2]float64, within float64) []int {
	far, k := 0.0, 0
	for i, q := range ring {
		if d := math.Hypot(q[0]-ring[0][0], q[1]-ring[0][1]); d > far {
			far, k = d, i
		}
	}
	var keep func(from, to int) []int
	at := func(i int) [2]float64 { return ring[i%len(ring)] }
	keep = func(from, to int) []int {
		a, b := at(from), at(to)
		far, k := within, -1
		l := math.Hypot(b[0]-a[0], b[1]-a[1])
		for i := from + 1; i < to; i++ {
			q := at(i)
			d := math.Hypot(q[0]-a[0], q[1]-a[1])
			if l > 1e-9 {
				d = math.Abs(cross(a, b, q)) / l
			}
			if d > far {
				far, k = d, i
			}
		}
		if k < 0 {
			return []int{from}
		}
		return append(keep(from, k), keep(k, to)...)
	}
	return append(keep(0, k), keep(k, len(ring))...)
}

// Edges from so long on are straight lines through all their spots, less so much at their ends; corners are where two such lines meet,
// where that is near: a picture rounds corners off. All mm.
const (
	straight = 8.0
	offEnd   = 1.6
	rounded  = 4.0
)

// cornered is the ring in few spots, its corners where its straight edges meet.
func cornered(ring [][2]float64) [][2]float64 {
	kept := simple(ring, follow)
	n := len(kept)
	type edge struct {
		line [3]float64
		ok   bool
	}
	edges := make([]edge, n)
	for i := range n {
		from, to := kept[i], kept[(i+1)%n]
		if to <= from {
			to += len(ring)
		}
		a, b := ring[from%len(ring)], ring[to%len(ring)]
		if math.Hypot(b[0]-a[0], b[1]-a[1]) < straight {
			continue
		}
		var on [][2]float64
		for k := from; k <= to; k++ {
			q := ring[k%len(ring)]
			if math.Hypot(q[0]-a[0], q[1]-a[1]) > offEnd && math.Hypot(q[0]-b[0], q[1]-b[1]) > offEnd {
				on = append(on, q)
			}
		}
		edges[i].line, edges[i].ok = lineThrough(on)
	}
	first := slices.IndexFunc(edges, func(e edge) bool { return e.ok })
	points := make([][2]float64, n)
	for i, k := range kept {
		points[i] = ring[k%len(ring)]
	}
	if first < 0 {
		return points
	}
	var out [][2]float64
	for i := 0; i < n; { // edge first+i is straight; then some that are not
		e := &edges[(first+i)%n]
		k := i + 1
		for k < n && !edges[(first+k)%n].ok {
			k++
		}
		next := &edges[(first+k)%n]
		between := make([][2]float64, 0, k-i)
		for j := i + 1; j <= k; j++ {
			between = append(between, points[(first+j)%n])
		}
		i = k
		q, ok := meet(e.line, next.line)
		near := ok && len(between) > 0 && math.Hypot(between[0][0]-between[len(between)-1][0], between[0][1]-between[len(between)-1][1]) < rounded
		for _, b := range between {
			near = near && math.Hypot(b[0]-q[0], b[1]-q[1]) < rounded
		}
		if near {
			out = append(out, q)
		} else {
			out = append(out, between...)
		}
	}
	return out
}
