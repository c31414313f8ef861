package pack_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"hobrak/internal/core/length"
	"hobrak/internal/core/pack"
	"hobrak/internal/core/quantity"
)

const mm = length.Millimetre

// box is where the pieces of a thing ended up, worked out anew from its spot.
type box struct {
	x, y, w, h, gap length.Length
	thing           int
}

func pieces(t pack.Thing, s pack.Spot, id int) []box {
	w, h := t.W, t.H
	if s.Turned {
		w, h = h, w
	}
	cols := s.Cols
	if cols <= 0 || cols > t.N {
		cols = t.N
	}
	var out []box
	for k := range t.N {
		out = append(out, box{s.X + length.Length(k%cols)*(w+t.Clearance), s.Y + length.Length(k/cols)*(h+t.Clearance), w, h, t.Clearance, id})
	}
	return out
}

func drawThing(t *rapid.T) pack.Thing {
	return pack.Thing{
		W: length.Length(rapid.IntRange(5, 400).Draw(t, "w")) * mm, H: length.Length(rapid.IntRange(5, 400).Draw(t, "h")) * mm,
		D: length.Length(rapid.IntRange(5, 200).Draw(t, "d")) * mm, N: rapid.IntRange(1, 5).Draw(t, "n"),
		Clearance: length.Length(rapid.IntRange(0, 40).Draw(t, "gap")) * mm, Turn: rapid.Bool().Draw(t, "turn"),
	}
}

func TestAPlaneNeverOverlapsNorSpillsAndLosesNothing(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		p := &pack.Plane{W: length.Length(rapid.IntRange(100, 1500).Draw(t, "W")) * mm, H: length.Length(rapid.IntRange(100, 1200).Draw(t, "H")) * mm}
		if rapid.Bool().Draw(t, "rails") {
			p.Rails = []length.Length{p.H / 3, p.H * 2 / 3, p.H}
		}
		in := map[int][]box{}
		area := 0.0
		for id := range rapid.IntRange(1, 25).Draw(t, "things") {
			if len(in) > 0 && rapid.IntRange(0, 4).Draw(t, "take") == 0 {
				for k := range in {
					p.Take(k)
					for _, b := range in[k] {
						area -= float64(b.w) * float64(b.h)
					}
					delete(in, k)
					break
				}
			}
			th := drawThing(t)
			spots := p.Spots(th, nil)
			if len(spots) == 0 {
				continue
			}
			s := spots[rapid.IntRange(0, len(spots)-1).Draw(t, "spot")]
			if err := p.Allows(th, s); err != nil {
				t.Fatalf("offered a spot it does not allow: %v", err)
			}
			if s.Turned && !th.Turn {
				t.Fatal("turned what may not be turned")
			}
			p.Put(id, th, s)
			in[id] = pieces(th, s, id)
			for _, b := range in[id] {
				area += float64(b.w) * float64(b.h)
			}
			var all []box
			for _, bs := range in {
				all = append(all, bs...)
			}
			for i, a := range all {
				if a.x < 0 || a.y < 0 || a.x+a.w > p.W || a.y+a.h > p.H {
					t.Fatalf("%+v leaves the field", a)
				}
				for _, b := range all[:i] {
					g := max(a.gap, b.gap)
					if a.x < b.x+b.w+g && b.x < a.x+a.w+g && a.y < b.y+b.h+g && b.y < a.y+a.h+g {
						t.Fatalf("%+v and %+v are closer than %v", a, b, g)
					}
				}
			}
			if d := p.Used() - area; d > 1 || d < -1 {
				t.Fatalf("lost something: %v used, %v put in", p.Used(), area)
			}
			if p.Used() > p.Room() {
				t.Fatal("more in it than there is room")
			}
		}
	})
}

func TestAPlaneFindsASpotWhereverThereIsOne(t *testing.T) {
	// Brute force on a grid of 10 mm: whenever some grid spot is free, Spots offers one.
	rapid.Check(t, func(t *rapid.T) {
		p := &pack.Plane{W: 300 * mm, H: 250 * mm}
		draw := func() pack.Thing {
			return pack.Thing{W: length.Length(rapid.IntRange(1, 15).Draw(t, "w")) * 10 * mm, H: length.Length(rapid.IntRange(1, 15).Draw(t, "h")) * 10 * mm,
				N: 1, Clearance: length.Length(rapid.IntRange(0, 2).Draw(t, "gap")) * 10 * mm}
		}
		for id := range rapid.IntRange(0, 8).Draw(t, "things") {
			th := draw()
			s := pack.Spot{X: length.Length(rapid.IntRange(0, 30).Draw(t, "x")) * 10 * mm, Y: length.Length(rapid.IntRange(0, 25).Draw(t, "y")) * 10 * mm}
			if p.Allows(th, s) == nil {
				p.Put(id, th, s)
			}
		}
		th := draw()
		free := false
		for x := length.Length(0); x <= p.W; x += 10 * mm {
			for y := length.Length(0); y <= p.H; y += 10 * mm {
				free = free || p.Allows(th, pack.Spot{X: x, Y: y}) == nil
			}
		}
		if offered := len(p.Spots(th, nil)) > 0; offered != free {
			t.Fatalf("a spot is free: %v, one is offered: %v", free, offered)
		}
	})
}

// Where one thing finds no spot, none does that is as large on both sides and wants as much clearance, nor several of it.
func TestWhatIsLargerFindsNoSpotWhereSmallerFindsNone(t *testing.T) {
	refused := 0
	rapid.Check(t, func(t *rapid.T) {
		wide, high := length.Length(rapid.IntRange(200, 900).Draw(t, "W"))*mm, length.Length(rapid.IntRange(150, 600).Draw(t, "H"))*mm
		var space pack.Space
		switch rapid.IntRange(0, 3).Draw(t, "space") {
		case 0:
			space = &pack.Plane{W: wide, H: high}
		case 1:
			space = &pack.Plane{W: wide, H: high, Rails: []length.Length{high / 2, high}}
		case 2:
			space = &pack.Shelf{W: wide, D: high}
		default:
			space = &pack.Rail{W: wide, Pitch: 25 * mm}
		}
		for id := range rapid.IntRange(2, 14).Draw(t, "things") {
			x := drawThing(t)
			if spots := space.Spots(x, nil); len(spots) > 0 {
				space.Put(id, x, rapid.SampledFrom(spots).Draw(t, "spot"))
			}
		}
		small := drawThing(t)
		small.N = 1
		if len(space.Spots(small, nil)) > 0 {
			return
		}
		refused++
		more := func(name string) length.Length { return length.Length(rapid.IntRange(0, 60).Draw(t, name)) * mm }
		large := small
		w, h, turns, ok := space.(pack.Sided).Sides(small)
		if !ok {
			t.Fatal("only what is packed by its outline cannot be told")
		}
		large.W, large.H, large.D, large.Clearance = large.W+more("wider"), large.H+more("higher"), large.D+more("deeper"), large.Clearance+more("clear")
		large.N = rapid.IntRange(1, 3).Draw(t, "pieces")
		large.Turn = turns && rapid.Bool().Draw(t, "turns")
		if lw, lh, _, _ := space.(pack.Sided).Sides(large); lw < w || lh < h {
			t.Fatalf("%v by %v of what is no smaller than %v by %v", lw, lh, w, h)
		}
		if spots := space.Spots(large, nil); len(spots) > 0 {
			t.Fatalf("no spot for %+v, and %+v for %+v", small, spots[0], large)
		}
	})
	assert.Positive(t, refused)
}

func TestOtherSpacesOfferOnlyWhatTheyAllow(t *testing.T) {
	spaces := map[string]func() pack.Space{
		"shelf": func() pack.Space { return &pack.Shelf{W: 900 * mm, D: 300 * mm} },
		"rail":  func() pack.Space { return &pack.Rail{W: 900 * mm, Pitch: 25 * mm} },
		"slots": func() pack.Space {
			s := &pack.Slots{}
			for range 20 {
				s.Slots = append(s.Slots, pack.Slot{W: 200 * mm, H: 400 * mm, D: 200 * mm})
			}
			return s
		},
		"bay": func() pack.Space { return &pack.SheetBay{W: 300 * mm, H: 400 * mm, D: 400 * mm} },
		"bin": func() pack.Space { return &pack.Bin{W: 400 * mm, H: 400 * mm, D: 400 * mm, Fill: .6} },
		"arms": func() pack.Space {
			return &pack.Arms{W: 300 * mm, D: 400 * mm, Levels: []pack.ArmLevel{{H: 300 * mm}, {H: 200 * mm}}}
		},
	}
	for name, fresh := range spaces {
		t.Run(name, func(t *testing.T) {
			rapid.Check(t, func(t *rapid.T) {
				p := fresh()
				in := map[int]pack.Thing{}
				for id := range 15 {
					th := drawThing(t)
					spots := p.Spots(th, nil)
					if len(spots) == 0 {
						continue
					}
					s := spots[rapid.IntRange(0, len(spots)-1).Draw(t, "spot")]
					if err := p.Allows(th, s); err != nil {
						t.Fatalf("offered a spot it does not allow: %v", err)
					}
					p.Put(id, th, s)
					in[id] = th
					if name != "bin" && p.Allows(th, s) == nil {
						t.Fatal("the same spot is given twice")
					}
					sum := 0.0
					for _, x := range in {
						sum += p.Takes(x)
					}
					if d := p.Used() - sum; d > 1e-3*sum+1 || d < -1e-3*sum-1 {
						t.Fatalf("used %v, put in %v", p.Used(), sum)
					}
					if p.Used() > p.Room()*1.0000001 {
						t.Fatalf("%v used of %v", p.Used(), p.Room())
					}
				}
				if len(in) == 0 {
					return
				}
				arms, isArms := p.(*pack.Arms)
				for id := range in {
					if !isArms || !arms.Bears(id) {
						p.Take(id)
						delete(in, id)
					}
				}
				if len(in) == 0 && p.Used() > 1e-3 {
					t.Fatal("all was taken out and yet something is in it")
				}
			})
		})
	}
}

func TestAShelfTakesASecondRowOnlyWhereItIsDeepEnough(t *testing.T) {
	p := &pack.Shelf{W: 500 * mm, D: 300 * mm}
	front := pack.Thing{W: 200 * mm, D: 180 * mm, N: 1}
	p.Put(1, front, pack.Spot{})
	require.Error(t, p.Allows(pack.Thing{W: 100 * mm, D: 130 * mm, N: 1}, pack.Spot{X: 0, Row: 1}))
	require.NoError(t, p.Allows(pack.Thing{W: 100 * mm, D: 120 * mm, N: 1}, pack.Spot{X: 0, Row: 1}))
	require.NoError(t, p.Allows(pack.Thing{W: 100 * mm, D: 280 * mm, N: 1}, pack.Spot{X: 300 * mm, Row: 1}), "nothing stands before it there")
}

func TestABoardOverhangsAtMostAQuarter(t *testing.T) {
	p := &pack.Arms{W: 3000 * mm, D: 300 * mm, Levels: []pack.ArmLevel{{H: 200 * mm}}}
	assert.NoError(t, p.Allows(pack.Thing{W: 4200 * mm, H: 25 * mm, D: 100 * mm, N: 1}, pack.Spot{}), "3000 + 2·600")
	assert.Contains(t, quantity.Metric(p.Allows(pack.Thing{W: 4800 * mm, H: 25 * mm, D: 100 * mm, N: 1}, pack.Spot{}).Error()), "600 mm too long")
}

func BenchmarkPlaneSpotsAmongForty(b *testing.B) {
	p := &pack.Plane{W: 2400 * mm, H: 1200 * mm}
	for id := range 40 {
		th := pack.Thing{W: length.Length(60+id*7%150) * mm, H: length.Length(80+id*13%200) * mm, N: 1, Clearance: 20 * mm}
		if s := p.Spots(th, nil); len(s) > 0 {
			p.Put(id, th, s[0])
		}
	}
	var buf []pack.Spot
	for b.Loop() {
		buf = p.Spots(pack.Thing{W: 90 * mm, H: 120 * mm, N: 1, Clearance: 20 * mm}, buf[:0])
	}
}
