package pack

import (
	"fmt"
	"math"
	"math/rand/v2"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"hobrak/internal/core/length"
)

func somePieces(t *rapid.T) []Piece {
	side := rapid.Int64Range(1, 40)
	n := rapid.IntRange(1, 60).Draw(t, "n")
	list := make([]Piece, n)
	for i := range list {
		list[i] = Piece{W: length.Length(side.Draw(t, "w")), H: length.Length(side.Draw(t, "h")), Turn: rapid.Bool().Draw(t, "turn"), Value: float64(rapid.IntRange(0, 9).Draw(t, "v"))}
	}
	return list
}

func TestWhatIsLaidIsInsideAndNothingLiesTwice(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		pieces := somePieces(t)
		w, h := length.Length(rapid.Int64Range(10, 150).Draw(t, "W")), length.Length(rapid.Int64Range(10, 150).Draw(t, "H"))
		f := NewFilling(w, h, pieces, rapid.Uint64().Draw(t, "seed"))
		for k := range 10 {
			f.Improve(20, 1-float64(k)/10)
		}
		_, before := f.Best()
		f.LookAhead(3, func() bool { return false })
		tries := 0
		f.JoinUp(func() bool { tries++; return tries > 200 })
		laid, value := f.Best()
		seen := map[int]bool{}
		sum := 0.0
		size := func(l Laid) (length.Length, length.Length) {
			p := pieces[l.Piece]
			if l.Turned {
				return p.H, p.W
			}
			return p.W, p.H
		}
		for k, a := range laid {
			require.False(t, seen[a.Piece], "piece %d lies twice", a.Piece)
			seen[a.Piece] = true
			sum += pieces[a.Piece].Value
			require.True(t, !a.Turned || pieces[a.Piece].Turn)
			aw, ah := size(a)
			require.True(t, a.X >= 0 && a.Y >= 0 && a.X+aw <= w && a.Y+ah <= h, "%+v is not inside", a)
			for _, b := range laid[:k] {
				bw, bh := size(b)
				require.True(t, a.X+aw <= b.X || b.X+bw <= a.X || a.Y+ah <= b.Y || b.Y+bh <= a.Y, "%+v overlaps %+v", a, b)
			}
		}
		assert.InDelta(t, sum, value, 1e-9)
		assert.GreaterOrEqual(t, value, before)
	})
}

// What is kept of a layout when the order changes must be what laying it all anew
// would give, and looking a piece up what going through all of them would find.
func TestLayingFromWhereItDiffersIsLayingAnew(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		pieces := somePieces(t)
		f := NewFilling(length.Length(rapid.Int64Range(20, 150).Draw(t, "W")), length.Length(rapid.Int64Range(20, 150).Draw(t, "H")), pieces, rapid.Uint64().Draw(t, "seed"))
		for range 40 {
			f.Improve(1, .8)
			want := &course{at: make([]int32, len(pieces))}
			require.True(t, f.layFrom(want, 0, f.now.value-1e-9))
			require.Equal(t, want.events, f.now.events)
			require.InDelta(t, want.value, f.now.value, 1e-9)
		}
	})
}

// quartered cuts a rectangle into pieces without waste, each across its longer side.
func quartered(rng *rand.Rand, w, h length.Length, n int) []Piece {
	list := []Piece{{W: w, H: h}}
	for len(list) < n {
		k := 0
		for i, p := range list {
			if p.W*p.H > list[k].W*list[k].H {
				k = i
			}
		}
		a, b := list[k], list[k]
		at := length.Length(.3*1000+.4*1000*rng.Float64()) * max(a.W, a.H) / 1000
		if a.W > a.H {
			a.W, b.W = at, b.W-at
		} else {
			a.H, b.H = at, b.H-at
		}
		list[k] = a
		list = append(list, b)
	}
	for i := range list {
		list[i].Value = float64(list[i].W * list[i].H)
	}
	return list
}

func TestWhatWasCutWithoutWasteGoesBackIn(t *testing.T) {
	for seed := range uint64(5) {
		rng := rand.New(rand.NewPCG(seed, 1))
		for _, size := range [][2]length.Length{{2400, 1200}, {1200, 2400}} {
			f := NewFilling(size[0], size[1], quartered(rng, size[0], size[1], 16), seed)
			f.Fill(2e6, nil)
			assert.True(t, f.Full(), "seed %d, %v", seed, size)
		}
	}
}

func TestWhatWasCutInAHundredGoesBackInOnceJoinedUp(t *testing.T) {
	for seed := range uint64(6) {
		w, h := length.MM(2400), length.MM(1200)
		pieces := quartered(rand.New(rand.NewPCG(seed, 2)), w, h, 100)
		if seed%2 == 1 {
			for i := range pieces {
				if pieces[i].Turn = true; i%3 == 0 {
					pieces[i].W, pieces[i].H = pieces[i].H, pieces[i].W
				}
			}
		}
		f := NewFilling(w, h, pieces, seed)
		f.Fill(2e7, nil)
		assert.True(t, f.Full(), "seed %d", seed)
	}
}

func TestOfTwoHundredCutWithoutWasteAllButAFewGoBackIn(t *testing.T) {
	for seed := range uint64(4) {
		w, h := length.MM(2400), length.MM(1200)
		f := NewFilling(w, h, quartered(rand.New(rand.NewPCG(seed, 4)), w, h, 200), seed)
		f.Fill(1e6, nil)
		laid, area := f.Best()
		assert.Greater(t, area, .98*float64(w)*float64(h), "seed %d", seed)
		assert.Greater(t, len(laid), 190, "seed %d", seed)
	}
}

func TestWhatGoesInNowhereComesToAnEnd(t *testing.T) {
	f := NewFilling(100, 50, []Piece{{W: 200, H: 10, Value: 1}, {W: 60, H: 60, Value: 1}, {W: 300, H: 300, Value: 1}}, 1)
	f.Fill(1e5, nil)
	laid, value := f.Best()
	assert.Empty(t, laid)
	assert.Zero(t, value)
}

func TestFillingStopsWhenTheTimeIsSpentAndKeepsTheBest(t *testing.T) {
	f := NewFilling(2400, 1200, quartered(rand.New(rand.NewPCG(3, 3)), 2400, 1200, 150), 1)
	asked := 0
	_, before := f.Best()
	f.Fill(math.Inf(1), func() float64 {
		asked++
		return float64(asked) / 5000
	})
	_, after := f.Best()
	assert.InDelta(t, 5000, asked, 5, "it goes on after the time is spent")
	assert.Greater(t, after, before)
	assert.False(t, f.Full())
}

func BenchmarkFilling(b *testing.B) {
	for _, n := range []int{60, 200} {
		pieces := quartered(rand.New(rand.NewPCG(1, uint64(n))), 2_400_000, 1_200_000, n)
		b.Run(fmt.Sprintf("an order of %d", n), func(b *testing.B) {
			f := NewFilling(2_400_000, 1_200_000, pieces, 1)
			for b.Loop() {
				f.Improve(1, .5)
			}
		})
		b.Run(fmt.Sprintf("%d looking ahead", n), func(b *testing.B) {
			sum := 0.0
			for b.Loop() {
				f := NewFilling(2_400_000, 1_200_000, pieces, uint64(b.N))
				f.LookAhead(4, f.Full)
				_, sum = f.Best()
			}
			b.ReportMetric(100*sum/(2_400_000*1_200_000), "area-%")
		})
		b.Run(fmt.Sprintf("%d joined up once", n), func(b *testing.B) {
			j := newJoining(NewFilling(2_400_000, 1_200_000, pieces, 1))
			for b.Loop() {
				j.once(func() bool { return false })
			}
			b.ReportMetric(float64(j.least), "left")
		})
	}
}
