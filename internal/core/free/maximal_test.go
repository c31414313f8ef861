package free

import (
	"math/rand/v2"
	"slices"
	"testing"

	"github.com/stretchr/testify/assert"
	"pgregory.net/rapid"

	"hobrak/internal/core/geometry"
)

// brute lists the maximal free rectangles by trying every rectangle.
func brute(cols, rows int, isFree func(c, r int) bool) []span {
	all := func(s span) bool {
		if s.c0 < 0 || s.r0 < 0 || s.c1 > cols || s.r1 > rows {
			return false
		}
		for c := s.c0; c < s.c1; c++ {
			for r := s.r0; r < s.r1; r++ {
				if !isFree(c, r) {
					return false
				}
			}
		}
		return true
	}
	var out []span
	for c0 := range cols {
		for c1 := c0 + 1; c1 <= cols; c1++ {
			for r0 := range rows {
				for r1 := r0 + 1; r1 <= rows; r1++ {
					s := span{c0, c1, r0, r1}
					if all(s) && !all(span{c0 - 1, c1, r0, r1}) && !all(span{c0, c1 + 1, r0, r1}) && !all(span{c0, c1, r0 - 1, r1}) && !all(span{c0, c1, r0, r1 + 1}) {
						out = append(out, s)
					}
				}
			}
		}
	}
	return out
}

func TestMaximalRectanglesAreThoseThatBruteForceFinds(t *testing.T) {
	order := func(a, b span) int {
		return slices.Compare([]int{a.c0, a.c1, a.r0, a.r1}, []int{b.c0, b.c1, b.r0, b.r1})
	}
	rapid.Check(t, func(t *rapid.T) {
		rnd := rand.New(rand.NewPCG(rapid.Uint64().Draw(t, "seed"), 1))
		cols, rows, share := 1+rnd.IntN(8), 1+rnd.IntN(8), rnd.Float64()
		grid := make([]bool, cols*rows)
		for i := range grid {
			grid[i] = rnd.Float64() < share
		}
		isFree := func(c, r int) bool { return grid[c*rows+r] }
		got, want := maximal(cols, rows, isFree), brute(cols, rows, isFree)
		slices.SortFunc(got, order)
		slices.SortFunc(want, order)
		assert.Equal(t, want, got)
	})
}

func TestAGableHasTwoPlanes(t *testing.T) {
	a := areaOf([][2]float64{{0, 0}, {0, 3000}, {4000, 3000}, {4000, 0}}, 2400)
	for _, i := range []int{0, 2} {
		p := a.Walls[i].Profile
		a.Walls[i].Profile = append(p[:1:1], pointOf(1500, 3200), p[1])
	}
	r := NewRoof(a)
	assert.Equal(t, "ridged", r.shape)
	assert.InDelta(t, 3200, r.At(geometry.Point{X: 2000, Y: 1500}), .1)
	assert.InDelta(t, 2800, r.At(geometry.Point{X: 1000, Y: 750}), .1)
	a.Walls[1].Profile[0] = pointOf(0, 2900)
	assert.Equal(t, "lowest", NewRoof(a).shape, "when it cannot be told, the lowest top counts")
	assert.InDelta(t, 2400, NewRoof(a).At(geometry.Point{X: 2000, Y: 1500}), .1)
}
