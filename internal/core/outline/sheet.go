package outline

import (
	"errors"
	"math"
	"slices"
)

// otsu is the threshold between dark and bright that parts a histogram best (Otsu 1979), and how well it does, 0 to 1.
func otsu(count []float64) (at int, part float64) {
	sum, weight, all := 0.0, 0.0, 0.0
	for i, n := range count {
		all += n
		sum += float64(i) * n
	}
	mean := sum / max(1, all)
	whole := 0.0
	for i, n := range count {
		whole += n * (float64(i) - mean) * (float64(i) - mean)
	}
	low, best := 0.0, -1.0
	for i, n := range count {
		weight += n
		low += float64(i) * n
		if weight == 0 || weight == all {
			continue
		}
		a, b := low/weight, (sum-low)/(all-weight)
		if v := weight * (all - weight) * (a - b) * (a - b) / all; v > best {
			best, at = v, i
		}
	}
	return at, best / max(1, whole)
}

// sheetIn finds the four corners of the bright sheet in a picture, pixels, from its lower left one on, anticlockwise as the sheet is
// seen. Its edges are fitted to where the brightness changes, closer than a pixel.
func sheetIn(g *Grey) ([4][2]float64, error) {
	var none [4][2]float64
	count := make([]float64, 256)
	for _, v := range g.Pix {
		count[v]++
	}
	limit, part := otsu(count)
	if part < .3 {
		return none, errors.New("there is no bright sheet in the photograph that stands out from what it lies on: lay a white sheet on something dark")
	}
	bright := make([]bool, len(g.Pix))
	for i, v := range g.Pix {
		bright[i] = int(v) > limit
	}
	spot := component(bright, g.W, g.H)
	if spot == nil || float64(len(spot)) < .08*float64(len(g.Pix)) {
		return none, errors.New("the sheet takes too little of the photograph, or is not there: go closer, with all four corners in the picture")
	}
	// Its ends row by row are enough for the hull.
	left, right := map[int]int{}, map[int]int{}
	for _, i := range spot {
		x, y := i%g.W, i/g.W
		if l, ok := left[y]; !ok || x < l {
			left[y] = x
		}
		if r, ok := right[y]; !ok || x > r {
			right[y] = x
		}
	}
	var ends [][2]float64
	for y, x := range left {
		ends = append(ends, [2]float64{float64(x), float64(y)}, [2]float64{float64(right[y]), float64(y)})
	}
	hull := hullOf(ends)
	if len(hull) < 4 {
		return none, errors.New("what is bright in the photograph is no sheet")
	}
	for _, q := range hull {
		if q[0] < 2 || q[1] < 2 || q[0] > float64(g.W)-3 || q[1] > float64(g.H)-3 {
			return none, errors.New("the sheet is cut off by the edge of the photograph: all four corners must be in it")
		}
	}
	quad := largestQuad(hull)
	if area(quad[:]) < .9*area(hull) {
		return none, errors.New("what is bright in the photograph has no four corners: flatten the sheet, and see that nothing covers its corners")
	}
	// Each edge: where the brightness passes half way, along normals; a line through those spots.
	var lines [4][3]float64
	for k := range 4 {
		a, b := quad[k], quad[(k+1)%4]
		l := math.Hypot(b[0]-a[0], b[1]-a[1])
		ux, uy := (b[0]-a[0])/l, (b[1]-a[1])/l
		nx, ny := uy, -ux // outwards: the hull runs anticlockwise
		var on [][2]float64
		for t := .06; t < .94; t += 1.5 / l {
			x, y := a[0]+t*(b[0]-a[0]), a[1]+t*(b[1]-a[1])
			inside, outside := g.between(x-6*nx, y-6*ny), g.between(x+6*nx, y+6*ny)
			if inside-outside < 20 {
				continue
			}
			half := (inside + outside) / 2
			for d := -6.0; d < 6; d += .5 {
				p, q := g.between(x+d*nx, y+d*ny), g.between(x+(d+.5)*nx, y+(d+.5)*ny)
				if p >= half && q < half {
					e := d + .5*(p-half)/(p-q)
					on = append(on, [2]float64{x + e*nx, y + e*ny})
					break
				}
			}
		}
		line, ok := lineThrough(on)
		if !ok {
			return none, errors.New("an edge of the sheet cannot be made out: more light, and something darker under it")
		}
		lines[k] = line
	}
	var corners [4][2]float64
	for k := range 4 {
		q, ok := meet(lines[(k+3)%4], lines[k])
		if !ok {
			return none, errors.New("the edges of the sheet do not meet")
		}
		corners[k] = q
	}
	// In the picture y runs down: the hull is clockwise as the sheet is seen, and begins anywhere. The lower left one comes first.
	slices.Reverse(corners[:])
	first := 0
	for k := range corners {
		if corners[k][0]-corners[k][1] < corners[first][0]-corners[first][1] {
			first = k
		}
	}
	var out [4][2]float64
	for k := range out {
		out[k] = corners[(first+k)%4]
	}
	return out, nil
}

// component is the largest set of true spots that hang together, as indices.
func component(on []bool, w, h int) (best []int) {
	seen := make([]bool, len(on))
	var todo []int
	for i := range on {
		if !on[i] || seen[i] {
			continue
		}
		todo = append(todo[:0], i)
		seen[i] = true
		for n := 0; n < len(todo); n++ {
			x, y := todo[n]%w, todo[n]/w
			for _, d := range [4][2]int{{1, 0}, {-1, 0}, {0, 1}, {0, -1}} {
				nx, ny := x+d[0], y+d[1]
				if nx < 0 || ny < 0 || nx >= w || ny >= h {
					continue
				}
				if k := ny*w + nx; on[k] && !seen[k] {
					seen[k] = true
					todo = append(todo, k)
				}
			}
		}
		if len(todo) > len(best) {
			best = slices.Clone(todo)
		}
	}
	return best
}

func area(p [][2]float64) (a float64) {
	for i, q := range p {
		r := p[(i+1)%len(p)]
		a += q[0]*r[1] - r[0]*q[1]
	}
	return math.Abs(a) / 2
}

// largestQuad is the largest four-cornered piece of a convex polygon.
func largestQuad(hull [][2]float64) (out [4][2]float64) {
	for len(hull) > 60 { // corners that hardly turn are left out first
		least, k := math.Inf(1), 0
		for i := range hull {
			if c := math.Abs(cross(hull[(i+len(hull)-1)%len(hull)], hull[i], hull[(i+1)%len(hull)])); c < least {
				least, k = c, i
			}
		}
		hull = slices.Delete(slices.Clone(hull), k, k+1)
	}
	best := -1.0
	n := len(hull)
	for i := range n {
		for k := i + 2; k < n; k++ {
			// The corner furthest from the diagonal on each side.
			far1, far2, a, b := -1.0, -1.0, 0, 0
			for j := i + 1; j < k; j++ {
				if c := math.Abs(cross(hull[i], hull[k], hull[j])); c > far1 {
					far1, a = c, j
				}
			}
			for j := k + 1; j < n+i; j++ {
				if c := math.Abs(cross(hull[i], hull[k], hull[j%n])); c > far2 {
					far2, b = c, j%n
				}
			}
			if far1 >= 0 && far2 >= 0 && far1+far2 > best {
				best = far1 + far2
				out = [4][2]float64{hull[i], hull[a], hull[k], hull[b]}
			}
		}
	}
	return out
}

// lineThrough spots, by total least squares; those far off are left out and it is fitted again. As a, b, c with ax + by = c.
func lineThrough(on [][2]float64) (line [3]float64, ok bool) {
	for range 4 {
		if len(on) < 12 {
			return line, false
		}
		mx, my := 0.0, 0.0
		for _, q := range on {
			mx, my = mx+q[0], my+q[1]
		}
		mx, my = mx/float64(len(on)), my/float64(len(on))
		xx, xy, yy := 0.0, 0.0, 0.0
		for _, q := range on {
			dx, dy := q[0]-mx, q[1]-my
			xx, xy, yy = xx+dx*dx, xy+dx*dy, yy+dy*dy
		}
		t := .5 * math.Atan2(2*xy, xx-yy) // of the line
		a, b := -math.Sin(t), math.Cos(t)
		line = [3]float64{a, b, a*mx + b*my}
		spread := 0.0
		for _, q := range on {
			d := a*q[0] + b*q[1] - line[2]
			spread += d * d
		}
		limit := max(.5, 2*math.Sqrt(spread/float64(len(on))))
		on = slices.DeleteFunc(slices.Clone(on), func(q [2]float64) bool { return math.Abs(a*q[0]+b*q[1]-line[2]) > limit })
	}
	return line, true
}

func meet(p, q [3]float64) ([2]float64, bool) {
	d := p[0]*q[1] - q[0]*p[1]
	if math.Abs(d) < 1e-6 {
		return [2]float64{}, false
	}
	return [2]float64{(p[2]*q[1] - q[2]*p[1]) / d, (p[0]*q[2] - q[0]*p[2]) / d}, true
}

// homography takes spots of the sheet to those of the picture: the eight unknowns of four corners, by elimination (the direct linear
// transform; Hartley and Zisserman).
func homography(from, to [4][2]float64) (m [9]float64, err error) {
	a := equations(8)
	for i := range 4 {
		x, y, u, v := from[i][0], from[i][1], to[i][0], to[i][1]
		copy(a[2*i], []float64{x, y, 1, 0, 0, 0, -u * x, -u * y, u})
		copy(a[2*i+1], []float64{0, 0, 0, x, y, 1, -v * x, -v * y, v})
	}
	found, ok := solved(a)
	if !ok {
		return m, errors.New("the corners of the sheet lie in a line")
	}
	copy(m[:], found)
	m[8] = 1
	return m, nil
}

// equations are so many linear ones, a row each with what it comes to at its end.
func equations(n int) [][]float64 {
	a := make([][]float64, n)
	for i := range a {
		a[i] = make([]float64, n+1)
	}
	return a
}

// solved is what solves linear equations, by elimination with the largest pivot; false when they do not say it.
func solved(a [][]float64) ([]float64, bool) {
	n := len(a)
	for i := range n {
		p := i
		for k := i; k < n; k++ {
			if math.Abs(a[k][i]) > math.Abs(a[p][i]) {
				p = k
			}
		}
		if math.Abs(a[p][i]) < 1e-12 {
			return nil, false
		}
		a[i], a[p] = a[p], a[i]
		for k := range n {
			if k == i {
				continue
			}
			f := a[k][i] / a[i][i]
			for j := i; j <= n; j++ {
				a[k][j] -= f * a[i][j]
			}
		}
	}
	out := make([]float64, n)
	for i := range n {
		out[i] = a[i][n] / a[i][i]
	}
	return out, true
}
