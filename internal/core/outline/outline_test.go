package outline_test

import (
	"math"
	"math/rand/v2"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"hobrak/internal/core/outline"
)

type point = [2]float64

// tools are made-up outlines, mm, lying about the middle of the sheet.
func tools() [][]point {
	bar := func(l, w float64) []point {
		return []point{{-l / 2, -w / 2}, {l / 2, -w / 2}, {l / 2, w / 2}, {-l / 2, w / 2}}
	}
	round := func(n int, r func(a float64) float64) (out []point) {
		for i := range n {
			a := 2 * math.Pi * float64(i) / float64(n)
			out = append(out, point{r(a) * math.Cos(a), r(a) * math.Sin(a)})
		}
		return out
	}
	return [][]point{
		bar(180, 30), bar(90, 60), bar(220, 12),
		{{-90, -12}, {40, -12}, {44, -30}, {70, -30}, {70, 30}, {44, 30}, {40, 12}, {-90, 12}},
		{{-100, -9}, {-20, -9}, {-20, -3}, {100, -3}, {104, 0}, {100, 3}, {-20, 3}, {-20, 9}, {-100, 9}},
		{{-80, -40}, {-50, -40}, {-50, 10}, {80, 10}, {80, 40}, {-80, 40}},
		{{-110, 0}, {-60, -16}, {60, -16}, {110, -4}, {110, 4}, {60, 16}, {-60, 16}},
		{{-70, -45}, {0, -20}, {70, -45}, {40, 0}, {70, 45}, {0, 20}, {-70, 45}, {-40, 0}},
		round(60, func(float64) float64 { return 45 }),
		round(90, func(a float64) float64 { return 50 + 18*math.Cos(2*a) }),
		round(80, func(a float64) float64 { return 42 + 6*math.Sin(5*a) }),
		{{-95, -20}, {-30, -26}, {-20, -12}, {90, -8}, {96, 14}, {-18, 12}, {-30, 26}, {-95, 20}},
	}
}

func inside(poly []point, x, y float64) bool {
	in := false
	if x < -150 || x > 150 || y < -70 || y > 70 {
		return false
	}
	for i, a := range poly {
		b := poly[(i+1)%len(poly)]
		if (a[1] > y) != (b[1] > y) && x < a[0]+(y-a[1])*(b[0]-a[0])/(b[1]-a[1]) {
			in = !in
		}
	}
	return in
}

func distance(poly []point, q point) float64 {
	best := math.Inf(1)
	for i, a := range poly {
		b := poly[(i+1)%len(poly)]
		dx, dy := b[0]-a[0], b[1]-a[1]
		t := min(1, max(0, ((q[0]-a[0])*dx+(q[1]-a[1])*dy)/max(1e-12, dx*dx+dy*dy)))
		best = min(best, math.Hypot(a[0]+t*dx-q[0], a[1]+t*dy-q[1]))
	}
	return best
}

// scene is a camera over a sheet: how far it is tilted, turned and off the middle, the light and the noise.
type scene struct {
	tilt, toward, turn, high  float64 // degrees, mm
	tool, bench, paper, shade float64
	shadow, fall, noise       float64
	rng                       *rand.Rand
}

// taken renders a tool on an A4 sheet as a pinhole camera sees it.
func (s *scene) taken(poly []point, w, h int) *outline.Grey {
	g := &outline.Grey{W: w, H: h, Pix: make([]uint8, w*h)}
	tilt, toward, turn := s.tilt*math.Pi/180, s.toward*math.Pi/180, s.turn*math.Pi/180
	focal := .95 * float64(w) * s.high / 420
	ct, st := math.Cos(tilt), math.Sin(tilt)
	for py := range h {
		for px := range w {
			sum := 0.0
			for k := range 2 {
				// A ray through the pixel, tilted about an axis in the sheet, onto the sheet.
				x := (float64(px) + .25 + .5*float64(k) - float64(w)/2) / focal
				y := -(float64(py) + .25 + .5*float64(k) - float64(h)/2) / focal
				a, b := x*math.Cos(toward)+y*math.Sin(toward), -x*math.Sin(toward)+y*math.Cos(toward)
				// The camera looks at the middle from so high: its place moves as it tilts.
				dx, dz := a*ct+st, -(ct - a*st)
				cx, cz := -s.high*st, s.high*ct
				t := cz / -dz
				gx, gy := cx+t*dx, t*b
				sx, sy := gx*math.Cos(toward)-gy*math.Sin(toward), gx*math.Sin(toward)+gy*math.Cos(toward)
				sx, sy = sx*math.Cos(turn)-sy*math.Sin(turn), sx*math.Sin(turn)+sy*math.Cos(turn)
				light := 1 - s.fall*(sx+sy)/400
				switch {
				case inside(poly, sx, sy):
					sum += s.tool * light
				case math.Abs(sx) < 148.5 && math.Abs(sy) < 105:
					v := s.paper * light
					if s.shadow > 0 && math.Abs(sx) < 130 && math.Abs(sy) < 80 { // soft, beside the tool
						d := distance(poly, point{sx - s.shadow, sy + s.shadow})
						if inside(poly, sx-s.shadow, sy+s.shadow) {
							d = 0
						}
						v *= s.shade + (1-s.shade)*min(1, d/4)
					}
					sum += v
				default:
					sum += s.bench * (.9 + .1*math.Sin(sx/9+math.Sin(sy/40)))
				}
			}
			g.Pix[py*w+px] = uint8(min(255, max(0, sum/2+s.noise*s.rng.NormFloat64())))
		}
	}
	return g
}

// Twelve tools, tilted up to 15 degrees, with noise, shadow and light that falls off: every spot of the outline is within 1.5 mm of the
// tool's, and every spot of the tool within 1.5 mm of the outline.
func TestToolsOnASheetAreFoundToHalfAMillimetreOrSo(t *testing.T) {
	worst, sizes := 0.0, 0.0
	for i, poly := range tools() {
		rng := rand.New(rand.NewPCG(uint64(i), 1))
		s := scene{tilt: 15 * float64(i) / 11, toward: 360 * rng.Float64(), turn: 20*rng.Float64() - 10, high: 500 + 300*rng.Float64(), tool: 25 + 70*rng.Float64(), bench: 60 + 40*rng.Float64(), paper: 225, shade: .7 + .2*rng.Float64(), shadow: 5 * float64(i%2), fall: .15 * rng.Float64(), noise: 5, rng: rng}
		got, err := outline.Find(s.taken(poly, 1200, 900), outline.Options{SheetW: 210, SheetH: 297})
		require.NoError(t, err, "tool %d, %+v", i, s)
		// As it lies on the sheet, or turned half about: both ways are the sheet.
		best := math.Inf(1)
		for _, half := range []bool{false, true} {
			off := 0.0
			ring := make([]point, len(got.Sheet))
			for k, q := range got.Sheet {
				ring[k] = point{q[0] - 148.5, q[1] - 105}
				if half {
					ring[k] = point{-ring[k][0], -ring[k][1]}
				}
				off = max(off, distance(poly, ring[k]))
			}
			for k, a := range poly {
				b := poly[(k+1)%len(poly)]
				for n := range 10 {
					f := float64(n) / 10
					off = max(off, distance(ring, point{a[0] + f*(b[0]-a[0]), a[1] + f*(b[1]-a[1])}))
				}
			}
			best = min(best, off)
		}
		assert.Less(t, best, 1.5, "tool %d, %+v", i, s)
		worst = max(worst, best)
		// The box it gives is the smallest there is, as a search over all turns says.
		least, w, h := math.Inf(1), 0.0, 0.0
		for k := range 1800 {
			a := float64(k) * math.Pi / 1800
			x0, x1, y0, y1 := math.Inf(1), math.Inf(-1), math.Inf(1), math.Inf(-1)
			for _, q := range poly {
				x, y := q[0]*math.Cos(a)-q[1]*math.Sin(a), q[0]*math.Sin(a)+q[1]*math.Cos(a)
				x0, x1, y0, y1 = min(x0, x), max(x1, x), min(y0, y), max(y1, y)
			}
			if v := (x1 - x0) * (y1 - y0); v < least-1e-9 {
				least, w, h = v, min(x1-x0, y1-y0), max(x1-x0, y1-y0)
			}
		}
		if i != 8 && i != 10 { // of what is round any turn is as good
			sizes = max(sizes, math.Abs(got.W-w), math.Abs(got.H-h))
			assert.InDelta(t, w, got.W, 1.5, "tool %d", i)
			assert.InDelta(t, h, got.H, 1.5, "tool %d", i)
		}
		for _, q := range got.Points {
			assert.True(t, q[0] > -1e-6 && q[1] > -1e-6 && q[0] < got.W+1e-6 && q[1] < got.H+1e-6)
		}
	}
	t.Logf("worst spot %.2f mm, worst size %.2f mm", worst, sizes)
}

func TestAPhotographThatWillNotDoIsRefusedInWords(t *testing.T) {
	rng := rand.New(rand.NewPCG(1, 1))
	good := scene{high: 600, tool: 40, bench: 70, paper: 225, shade: .8, noise: 3, rng: rng}
	plain := func(v uint8) *outline.Grey {
		g := &outline.Grey{W: 600, H: 450, Pix: make([]uint8, 600*450)}
		for i := range g.Pix {
			g.Pix[i] = v
		}
		return g
	}
	near := good
	near.high = 600
	for says, c := range map[string]struct {
		g *outline.Grey
		o outline.Options
	}{
		"pixels":              {&outline.Grey{W: 10, H: 10, Pix: make([]uint8, 100)}, outline.Options{SheetW: 210, SheetH: 297}},
		"no bright sheet":     {plain(90), outline.Options{SheetW: 210, SheetH: 297}},
		"each side from":      {good.taken(tools()[0], 600, 450), outline.Options{SheetW: 2, SheetH: math.NaN()}},
		"nothing lies":        {good.taken([]point{{900, 900}, {901, 900}, {901, 901}}, 600, 450), outline.Options{SheetW: 210, SheetH: 297}},
		"times as wide":       {good.taken(tools()[0], 600, 450), outline.Options{SheetW: 100, SheetH: 297}},
		"edge of the sheet":   {good.taken([]point{{-60, -10}, {147, -10}, {147, 10}, {-60, 10}}, 600, 450), outline.Options{SheetW: 210, SheetH: 297}},
		"at least twice":      {good.taken(tools()[0], 600, 450), outline.Options{SheetW: 210, SheetH: 297, Tall: 300, Camera: 400}},
		"cut off by the edge": {func() *outline.Grey { s := near; s.turn = 40; return s.taken(tools()[0], 600, 300) }(), outline.Options{SheetW: 210, SheetH: 297}},
	} {
		_, err := outline.Find(c.g, c.o)
		assert.ErrorContains(t, err, says)
	}
}

func FuzzFind(f *testing.F) {
	f.Add([]byte{1, 2, 3}, 210.0, 297.0)
	f.Fuzz(func(t *testing.T, seed []byte, w, h float64) {
		g := &outline.Grey{W: 320, H: 310, Pix: make([]uint8, 320*310)}
		for i := range g.Pix {
			if len(seed) > 0 {
				g.Pix[i] = seed[(i/37+i/320)%len(seed)]
			}
		}
		if got, err := outline.Find(g, outline.Options{SheetW: w, SheetH: h}); err == nil {
			require.False(t, math.IsNaN(got.W+got.H))
		}
	})
}
