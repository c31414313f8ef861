package outline

import (
	"math"
)

// sheetFlat is the sheet as seen from above, so many pixels a mm, its lower row first; brightness against that of the paper, 0 to 1.
type sheetFlat struct {
	w, h int
	v    []float64
}

// laid is the sheet laid flat, less a margin; each spot is the mean of its surroundings, so that noise counts little.
func laid(g *Grey, m [9]float64, w, h float64) *sheetFlat {
	f := &sheetFlat{w: int(w * fineness), h: int(h * fineness)}
	f.v = make([]float64, f.w*f.h)
	for y := range f.h {
		for x := range f.w {
			sx, sy := (float64(x)+.5)/fineness, (float64(y)+.5)/fineness
			d := m[6]*sx + m[7]*sy + m[8]
			f.v[y*f.w+x] = g.between((m[0]*sx+m[1]*sy+m[2])/d, (m[3]*sx+m[4]*sy+m[5])/d)
		}
	}
	f.smooth()
	f.smooth()
	return f
}

// smooth by a box of three, both ways.
func (f *sheetFlat) smooth() {
	const r = 1
	line := make([]float64, max(f.w, f.h))
	pass := func(n, from, step int) {
		for i := range n {
			sum, k := 0.0, 0
			for j := max(0, i-r); j <= min(n-1, i+r); j++ {
				sum += f.v[from+j*step]
				k++
			}
			line[i] = sum / float64(k)
		}
		for i := range n {
			f.v[from+i*step] = line[i]
		}
	}
	for y := range f.h {
		pass(f.w, y*f.w, 1)
	}
	for x := range f.w {
		pass(f.h, x, f.w)
	}
}

// even takes out how the light falls off over the sheet: a plane with a bend is fitted to what is paper, again without what is darker
// than it, and everything is taken against it.
func (f *sheetFlat) even() {
	basis := func(x, y int) [6]float64 {
		u, v := 2*float64(x)/float64(f.w)-1, 2*float64(y)/float64(f.h)-1
		return [6]float64{1, u, v, u * u, u * v, v * v}
	}
	var fit [6]float64
	for round := range 5 {
		a := equations(6)
		for y := int(margin * fineness); y < f.h-int(margin*fineness); y += 3 {
			for x := int(margin * fineness); x < f.w-int(margin*fineness); x += 3 {
				b := basis(x, y)
				is := f.v[y*f.w+x]
				want := 0.0
				for i := range 6 {
					want += fit[i] * b[i]
				}
				if round > 0 && is < .93*want {
					continue
				}
				for i := range 6 {
					for k := range 6 {
						a[i][k] += b[i] * b[k]
					}
					a[i][6] += b[i] * is
				}
			}
		}
		if next, ok := solved(a); ok {
			copy(fit[:], next)
		}
	}
	for y := range f.h {
		for x := range f.w {
			b := basis(x, y)
			paper := 0.0
			for i := range 6 {
				paper += fit[i] * b[i]
			}
			f.v[y*f.w+x] = min(1.2, max(0, f.v[y*f.w+x]/max(1, paper)))
		}
	}
}

// inner calls for every spot that is looked at.
func (f *sheetFlat) inner(do func(x, y, i int)) {
	edge := int(margin * fineness)
	for y := edge; y < f.h-edge; y++ {
		for x := edge; x < f.w-edge; x++ {
			do(x, y, y*f.w+x)
		}
	}
}

// limit is the brightness between the tool and the paper. A shadow is between the two: where three kinds of brightness are told apart
// much better than two, the darkest is the tool.
func (f *sheetFlat) limit() float64 {
	const bins = 200
	count := make([]float64, bins)
	f.inner(func(_, _, i int) { // where it is as bright all round: at an edge it is neither
		if math.Abs(f.v[i+3]-f.v[i-3])+math.Abs(f.v[i+3*f.w]-f.v[i-3*f.w]) < .12 {
			count[min(bins-1, int(f.v[i]/1.2*bins))]++
		}
	})
	// Most of the sheet is paper: a few spots of a tool must count against it.
	at, _ := otsu(count)
	dark := make([]float64, at+1)
	copy(dark, count[:at+1])
	second, part := otsu(dark)
	low, high := mean(dark[:second+1], 0), mean(dark[second+1:], second+1)
	paper := mean(count[at+1:], at+1)
	// A shadow: two kinds among what is dark, the brighter of which is paper in less light.
	if part > .6 && high-low > .2*(paper-low) {
		return (low + high) / 2 / bins * 1.2
	}
	return (mean(count[:at+1], 0) + paper) / 2 / bins * 1.2
}

func mean(count []float64, from int) float64 {
	sum, all := 0.0, 0.0
	for i, n := range count {
		sum += n * float64(from+i)
		all += n
	}
	return sum / max(1, all)
}

// largest is what is darker than a limit and hangs together, the largest of it; nil when there is nothing of size.
func (f *sheetFlat) largest(limit float64) []bool {
	on := make([]bool, len(f.v))
	f.inner(func(_, _, i int) { on[i] = f.v[i] < limit })
	spots := component(on, f.w, f.h)
	if float64(len(spots)) < 40*fineness*fineness { // 40 mm²
		return nil
	}
	out := make([]bool, len(f.v))
	for _, i := range spots {
		out[i] = true
	}
	return out
}

// ring follows the outer border of what is set, mm, between pixels where the brightness passes the limit (borders after Suzuki and
// Abe 1985; crossings by linear interpolation).
func (f *sheetFlat) ring(on []bool, limit float64) [][2]float64 {
	is := func(x, y int) bool { return x >= 0 && y >= 0 && x < f.w && y < f.h && on[y*f.w+x] }
	start := -1
	for i := range on {
		if on[i] {
			start = i
			break
		}
	}
	if start < 0 {
		return nil
	}
	// The lowest row's first spot: its lower side is border. Walk along sides with what is set on the left.
	type side struct{ x, y, d int } // pixel, and which way the side runs: 0 right below it, 1 up on its right, 2 left above it, 3 down on its left
	step := [4][2]int{{1, 0}, {0, 1}, {-1, 0}, {0, -1}}
	out2 := [4][2]int{{0, -1}, {1, 0}, {0, 1}, {-1, 0}} // where the outside is
	at := side{start % f.w, start / f.w, 0}
	begin := at
	var out [][2]float64
	for n := 0; n < 8*len(on); n++ {
		ox, oy := out2[at.d][0], out2[at.d][1]
		a, b := f.v[at.y*f.w+at.x], limit
		if nx, ny := at.x+ox, at.y+oy; nx >= 0 && ny >= 0 && nx < f.w && ny < f.h {
			b = f.v[ny*f.w+nx]
		}
		share := .5
		if b > a {
			share = min(1, max(0, (limit-a)/(b-a)))
		}
		out = append(out, [2]float64{(float64(at.x) + .5 + share*float64(ox)) / fineness, (float64(at.y) + .5 + share*float64(oy)) / fineness})
		// Next side: turn out, go straight, or turn in.
		sx, sy := at.x+step[at.d][0], at.y+step[at.d][1]
		switch {
		case is(sx+ox, sy+oy):
			at = side{sx + ox, sy + oy, (at.d + 3) % 4}
		case is(sx, sy):
			at = side{sx, sy, at.d}
		default:
			at = side{at.x, at.y, (at.d + 1) % 4}
		}
		if at == begin {
			break
		}
	}
	return out
}
