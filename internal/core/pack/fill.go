package pack

import (
	"math"
	"math/rand/v2"
	"slices"

	"hobrak/internal/core/length"
)

// Piece to be put into a rectangle as one of many.
type Piece struct {
	W, H  length.Length
	Turn  bool
	Value float64 // what having it in counts
}

// Laid is where a piece lies.
type Laid struct {
	Piece  int
	X, Y   length.Length
	Turned bool
}

// Filling searches for the most value a rectangle of w × h can hold of pieces that
// need no room between them. Pieces go one after the other into the lowest gap of
// the skyline, the one that fits its width and the heights beside it best, and among
// those that fit alike the first of an order; the order is improved by swaps with
// simulated annealing (after Leung, Zhang, Sim 2011).
type Filling struct {
	w, h   length.Length
	pieces []Piece
	order  []int
	rng    *rand.Rand
	value  float64
	best   float64
	kept   []Laid
	all    float64
	tries  int
	// room to work in
	sides []side
	least length.Length // the shortest side of all
	sky   []step
	chain []chained
	laid  []Laid
}

// side lengths of a piece.
type side struct {
	w, h length.Length
	turn bool
}

// chained is a piece with the place in the order of the next that is left.
type chained struct {
	side
	piece, next int32
}

// step of a skyline: from x to the next step's x it is y high.
type step struct{ x, y, w length.Length }

// NewFilling starts with the largest pieces first.
func NewFilling(w, h length.Length, pieces []Piece, seed uint64) *Filling {
	f := &Filling{w: w, h: h, pieces: pieces, rng: rand.New(rand.NewPCG(seed, 0x66696c6c))}
	f.least = max(w, h)
	for i := range pieces {
		p := &pieces[i]
		f.sides = append(f.sides, side{p.W, p.H, p.Turn && p.W != p.H})
		f.least = min(f.least, p.W, p.H)
		f.order = append(f.order, i)
		f.all += pieces[i].Value
	}
	slices.SortStableFunc(f.order, func(a, b int) int {
		pa, pb := &pieces[a], &pieces[b]
		switch x, y := float64(pa.W)*float64(pa.H), float64(pb.W)*float64(pb.H); {
		case x > y:
			return -1
		case x < y:
			return 1
		}
		return a - b
	})
	f.value = f.lay()
	f.keep()
	return f
}

// warmth is how much worse than now a try may be at first, in pieces of mean value.
const warmth = .24

// Best layout so far and its value.
func (f *Filling) Best() ([]Laid, float64) { return f.kept, f.best }

// Full tells whether everything is in.
func (f *Filling) Full() bool { return f.best >= f.all-1e-9*math.Abs(f.all) }

func (f *Filling) keep() {
	f.best = f.value
	f.kept = slices.Clone(f.laid)
}

// Improve tries n more orders, as long as something is left out. It cools down over
// a cycle of tries and then begins anew, warm, from where it is.
func (f *Filling) Improve(n, cycle int) {
	if len(f.order) < 2 {
		return
	}
	cycle = max(1, cycle)
	for range n {
		if f.Full() {
			return
		}
		heat := warmth / float64(len(f.order)) * f.all * math.Max(0, 1-float64(f.tries%cycle)/float64(cycle))
		f.tries++
		a, b := f.rng.IntN(len(f.order)), f.rng.IntN(len(f.order))
		moved := f.rng.IntN(3) == 0
		if moved {
			f.move(a, b)
		} else {
			f.order[a], f.order[b] = f.order[b], f.order[a]
		}
		v := f.lay()
		if v >= f.value || v > f.value+heat*math.Log(1-f.rng.Float64()) {
			f.value = v
			if v > f.best {
				f.keep()
			}
			continue
		}
		if moved {
			f.move(b, a)
		} else {
			f.order[a], f.order[b] = f.order[b], f.order[a]
		}
	}
}

// move the piece at a in the order to b.
func (f *Filling) move(a, b int) {
	x := f.order[a]
	if a < b {
		copy(f.order[a:b], f.order[a+1:b+1])
	} else {
		copy(f.order[b+1:a+1], f.order[b:a])
	}
	f.order[b] = x
}

// lay the pieces by the order and give the value of those that are in.
func (f *Filling) lay() (value float64) {
	f.sky = append(f.sky[:0], step{0, 0, f.w})
	f.laid = f.laid[:0]
	// What is left is a chain in the order, so that taking one out costs nothing.
	f.chain = f.chain[:0]
	for k, i := range f.order {
		f.chain = append(f.chain, chained{f.sides[i], int32(i), int32(k + 1)})
	}
	f.chain = append(f.chain, chained{next: 0}) // the end; its next is the first
	end := int32(len(f.order))
	for f.chain[end].next != end {
		low := 0
		for i := range f.sky {
			if f.sky[i].y < f.sky[low].y {
				low = i
			}
		}
		g := f.sky[low]
		if g.y >= f.h {
			break
		}
		// Walls beside the gap; the sides of the rectangle reach to its top.
		hl, hr := f.h-g.y, f.h-g.y
		if low > 0 {
			hl = f.sky[low-1].y - g.y
		}
		if low < len(f.sky)-1 {
			hr = f.sky[low+1].y - g.y
		}
		pick, before, fits, turned := end, end, -1, false
		if g.w >= f.least {
			up := f.h - g.y
			from := end
			for k := f.chain[end].next; k != end; from, k = k, f.chain[k].next {
				q := &f.chain[k]
				if q.w <= g.w && q.h <= up {
					if s := fitness(q.w, q.h, g.w, hl, hr, up); s > fits {
						pick, before, fits, turned = k, from, s, false
					}
				}
				if q.turn && q.h <= g.w && q.w <= up {
					if s := fitness(q.h, q.w, g.w, hl, hr, up); s > fits {
						pick, before, fits, turned = k, from, s, true
					}
				}
				if fits == best {
					break
				}
			}
		}
		if pick == end {
			f.raise(low)
			continue
		}
		i := int(f.chain[pick].piece)
		f.chain[before].next = f.chain[pick].next
		p := &f.pieces[i]
		w, h := p.W, p.H
		if turned {
			w, h = h, w
		}
		x := g.x
		// Beside the wall it matches, else beside the higher one.
		if h != hl && (h == hr || hr > hl) {
			x = g.x + g.w - w
		}
		f.laid = append(f.laid, Laid{i, x, g.y, turned})
		value += p.Value
		f.cover(low, x, w, g.y+h)
	}
	return value
}

// best is the highest fitness there is.
const best = 7

// fitness of a piece for a gap between walls.
func fitness(w, h, gap, left, right, up length.Length) (s int) {
	if w == gap {
		s += 4
	}
	if h == left || h == right {
		s += 2
	}
	if h == up {
		s++
	}
	return s
}

// raise fills a gap nothing fits into, up to its lower wall.
func (f *Filling) raise(low int) {
	y := f.h
	if low > 0 {
		y = min(y, f.sky[low-1].y)
	}
	if low < len(f.sky)-1 {
		y = min(y, f.sky[low+1].y)
	}
	f.sky[low].y = y
	f.join(low)
}

// cover part of a step up to y.
func (f *Filling) cover(low int, x, w, y length.Length) {
	g := f.sky[low]
	switch {
	case w == g.w:
		f.sky[low].y = y
		f.join(low)
	case x == g.x:
		f.sky[low].x, f.sky[low].w = x+w, g.w-w
		f.sky = slices.Insert(f.sky, low, step{x, y, w})
		f.join(low)
	default:
		f.sky[low].w = g.w - w
		f.sky = slices.Insert(f.sky, low+1, step{x, y, w})
		f.join(low + 1)
	}
}

// join a step with those beside it that are as high.
func (f *Filling) join(i int) {
	if i < len(f.sky)-1 && f.sky[i+1].y == f.sky[i].y {
		f.sky[i].w += f.sky[i+1].w
		f.sky = slices.Delete(f.sky, i+1, i+2)
	}
	if i > 0 && f.sky[i-1].y == f.sky[i].y {
		f.sky[i-1].w += f.sky[i].w
		f.sky = slices.Delete(f.sky, i, i+1)
	}
}
