// Package gather orders stops on foot: what is fetched for a task, or put back in the evening, in one round that is as short as can
// be.
package gather

import (
	"math"
	"math/bits"
)

// exactly so many stops are ordered by looking at all subsets of them; more by improving a round until no two legs are better
// otherwise.
const exactly = 12

// Order of n stops, so that the way from the start over all of them and back is as short as can be. Far is how far it is from stop i to stop
// j; n stands for the start. Up to 12 stops it is the shortest there is (Held and Karp, Journal of the SIAM 10, 1962); beyond, a round
// that gets no shorter by turning a part of it round or carrying up to three stops elsewhere (Or, 1976).
func Order(n int, far func(i, j int) float64) []int {
	switch {
	case n == 0:
		return []int{}
	case n <= exactly:
		return shortest(n, far)
	}
	return improve(nearest(n, far), n, far)
}

// Length of a round from the start over stops and back.
func Length(order []int, n int, far func(i, j int) float64) (sum float64) {
	at := n
	for _, k := range order {
		sum += far(at, k)
		at = k
	}
	return sum + far(at, n)
}

func shortest(n int, far func(i, j int) float64) []int {
	full := 1 << n
	best := make([]float64, full*n)
	from := make([]int8, full*n)
	for i := range best {
		best[i] = math.Inf(1)
	}
	for k := range n {
		best[(1<<k)*n+k] = far(n, k)
	}
	for set := 1; set < full; set++ {
		if bits.OnesCount(uint(set)) == n {
			continue
		}
		for k := range n {
			c := best[set*n+k]
			if math.IsInf(c, 1) {
				continue
			}
			for j := range n {
				if set>>j&1 == 1 {
					continue
				}
				next := (set|1<<j)*n + j
				if v := c + far(k, j); v < best[next] {
					best[next], from[next] = v, int8(k)
				}
			}
		}
	}
	last, least := 0, math.Inf(1)
	for k := range n {
		if v := best[(full-1)*n+k] + far(k, n); v < least {
			last, least = k, v
		}
	}
	out := make([]int, n)
	set := full - 1
	for i := n - 1; i >= 0; i-- {
		out[i] = last
		was := int(from[set*n+last])
		set &^= 1 << last
		last = was
	}
	return out
}

// nearest goes to the nearest stop each time.
func nearest(n int, far func(i, j int) float64) []int {
	seen := make([]bool, n)
	out := make([]int, 0, n)
	at := n
	for range n {
		next := -1
		for k := range n {
			if !seen[k] && (next < 0 || far(at, k) < far(at, next)) {
				next = k
			}
		}
		seen[next] = true
		out = append(out, next)
		at = next
	}
	return out
}

// improve turns parts of a round and carries stops elsewhere as long as that makes it shorter.
func improve(order []int, n int, far func(i, j int) float64) []int {
	at := func(list []int, i int) int {
		if i < 0 || i >= len(list) {
			return n
		}
		return list[i]
	}
	for better := true; better; {
		better = false
		for i := range order {
			for j := i + 1; j < len(order); j++ {
				a, b, c, d := at(order, i-1), order[i], order[j], at(order, j+1)
				if far(a, c)+far(b, d) < far(a, b)+far(c, d)-1e-9 {
					for x, y := i, j; x < y; x, y = x+1, y-1 {
						order[x], order[y] = order[y], order[x]
					}
					better = true
				}
			}
		}
		for size := 1; size <= 3; size++ {
			for i := 0; i+size <= len(order); i++ {
				part := append([]int{}, order[i:i+size]...)
				rest := append(append([]int{}, order[:i]...), order[i+size:]...)
				first, last := part[0], part[size-1]
				won := far(at(order, i-1), first) + far(last, at(order, i+size)) - far(at(order, i-1), at(order, i+size))
				for j := 0; j <= len(rest); j++ {
					cost := far(at(rest, j-1), first) + far(last, at(rest, j)) - far(at(rest, j-1), at(rest, j))
					if cost < won-1e-9 {
						order = append(append(append([]int{}, rest[:j]...), part...), rest[j:]...)
						better = true
						break
					}
				}
			}
		}
	}
	return order
}
