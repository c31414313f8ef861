package cutting

import (
	"math"
	"slices"
)

// most cells of the table in which the best way to cut a piece is worked out, cubed: more are counted coarser, with parts made smaller,
// so that the bound holds all the same.
const mostWork = 3e8

// lagrange is the bound by what parts are worth: what all of them are worth, less what the best way to cut each piece of stock is worth
// more than it costs. It holds whatever the worths are (Farley, Operations Research 38, 1990).
func (pr *problem) lagrange(want []int, duals []float64, kinds []int) float64 {
	best := pr.bestWays(duals, want)
	// Stock of which there is no end must not be worth more than it costs.
	scale := 1.0
	for b := range pr.bins {
		if pr.bins[b].left >= many && best[b] > pr.bins[b].cost {
			scale = min(scale, pr.bins[b].cost/best[b])
		}
	}
	sum := 0.0
	for _, k := range kinds {
		sum += scale * duals[k] * float64(want[k])
	}
	for b := range pr.bins {
		if pr.bins[b].left < many {
			sum += float64(pr.bins[b].left) * min(0, pr.bins[b].cost-scale*best[b])
		}
	}
	return sum
}

// bestWays is for each kind of stock no less than what can be cut from it by cuts that go through, however many of a part are wanted
// (Gilmore and Gomory, Operations Research 14, 1966: by all cuts of each size, smaller ones first).
func (pr *problem) bestWays(value []float64, want []int) []float64 {
	long, wide := 0.0, 0.0
	for b := range pr.bins {
		long, wide = max(long, pr.bins[b].l), max(wide, pr.bins[b].w)
	}
	var xs, ys []float64
	grid := 0.0
	for _, g := range []float64{0, .5, 1, 2, 4, 6, 8, 12, 16, 24, 32} {
		grid = g
		xs, ys = pr.raster(long, g, true, want), pr.raster(wide, g, false, want)
		if xs != nil && ys != nil && float64(len(xs))*float64(len(ys))*float64(len(xs)+len(ys))/4 < mostWork {
			break
		}
	}
	if xs == nil || ys == nil {
		out := make([]float64, len(pr.bins))
		for i := range out {
			out[i] = math.Inf(1)
		}
		return out
	}
	nx, ny := len(xs), len(ys)
	table := make([]float64, nx*ny)
	for s := range pr.sides {
		x := &pr.sides[s]
		if want[x.kind] == 0 || value[x.kind] <= 0 {
			continue
		}
		i, j := above(xs, coarse(x.l, grid)), above(ys, coarse(x.w, grid))
		for a := i; a < nx; a++ {
			for b := j; b < ny; b++ {
				table[a*ny+b] = max(table[a*ny+b], value[x.kind])
			}
		}
	}
	restX, restY := rests(xs), rests(ys)
	for a := range nx {
		row := table[a*ny : (a+1)*ny]
		// Cut across: the sum of two narrower pieces.
		for k := 1; k <= a; k++ {
			r := restX[a][k]
			if r < k {
				break
			}
			left, right := table[k*ny:(k+1)*ny], table[r*ny:(r+1)*ny]
			for b := range row {
				if v := left[b] + right[b]; v > row[b] {
					row[b] = v
				}
			}
		}
		// Cut along, and never worth less than what is smaller.
		for b := range ny {
			v := row[b]
			if b > 0 {
				v = max(v, row[b-1])
			}
			if a > 0 {
				v = max(v, table[(a-1)*ny+b])
			}
			for k := 1; k <= b; k++ {
				r := restY[b][k]
				if r < k {
					break
				}
				v = max(v, row[k]+row[r])
			}
			row[b] = v
		}
	}
	out := make([]float64, len(pr.bins))
	for b := range pr.bins {
		i, j := below(xs, pr.bins[b].l), below(ys, pr.bins[b].w)
		out[b] = table[i*ny+j]
	}
	return out
}

// coarse is a size made smaller to a grid.
func coarse(v, grid float64) float64 {
	if grid == 0 {
		return v
	}
	return max(grid, math.Floor(v/grid+1e-9)*grid)
}

// mostRaster positions of a raster.
const mostRaster = 1600

// raster are the sizes that parts beside each other add up to, smallest first, 0 among them; nil when they are too many.
func (pr *problem) raster(size, grid float64, long bool, want []int) []float64 {
	out := []float64{0}
	for i := range pr.parts {
		if want[i] == 0 {
			continue
		}
		var own []float64
		for s := range pr.sides {
			if x := &pr.sides[s]; x.kind == i {
				v := x.w
				if long {
					v = x.l
				}
				own = append(own, coarse(v, grid))
			}
		}
		now := slices.Clone(out)
		for range want[i] {
			var more []float64
			for _, v := range now {
				for _, o := range own {
					if v+o <= size+tight {
						more = append(more, v+o)
					}
				}
			}
			if len(more) == 0 {
				break
			}
			slices.Sort(more)
			now = distinct(more)
			before := len(out)
			out = append(out, now...)
			slices.Sort(out)
			out = distinct(out)
			if len(out) > mostRaster {
				return nil
			}
			if len(out) == before { // nothing new: no more of them make anything new
				break
			}
		}
	}
	return out
}

// below is the number of the largest that is not over v, above of the smallest that is not under it.
func below(list []float64, v float64) int {
	i, _ := slices.BinarySearchFunc(list, v+tight, func(a, b float64) int {
		if a > b {
			return 1
		}
		return -1
	})
	return max(0, i-1)
}

func above(list []float64, v float64) int {
	i, _ := slices.BinarySearchFunc(list, v-tight, func(a, b float64) int {
		if a < b {
			return -1
		}
		return 1
	})
	return i
}

// rests says for each size and each that is cut off it what is left, as a size of the raster.
func rests(list []float64) [][]int {
	out := make([][]int, len(list))
	for a := range list {
		out[a] = make([]int, a+1)
		for k := 0; k <= a; k++ {
			out[a][k] = below(list, list[a]-list[k])
		}
	}
	return out
}

// mostSets of stock are looked at to round a bound up.
const mostSets = 1 << 16

// roundedUp is the least that whole pieces of stock cost which is not under a bound.
func (pr *problem) roundedUp(bound float64) float64 {
	sums := []float64{0}
	for b := range pr.bins {
		c := pr.bins[b].cost
		n := min(pr.bins[b].left, int(bound/c)+1)
		before := slices.Clone(sums)
		for k := 1; k <= n; k++ {
			for _, s := range before {
				// Of the least set that reaches the bound nothing can be left out: it is over it by less than any of its pieces.
				if v := s + float64(k)*c; v < bound+c {
					sums = append(sums, v)
				}
			}
			if len(sums) > mostSets {
				return bound
			}
		}
	}
	best := math.Inf(1)
	for _, s := range sums {
		if s >= bound*(1-1e-9) {
			best = min(best, s)
		}
	}
	if math.IsInf(best, 1) {
		return bound
	}
	return best
}
