package sheet_test

import (
	"fmt"
	"math"
	"math/rand/v2"
	"slices"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"hobrak/internal/core/build"
	_ "hobrak/internal/core/fit"
	"hobrak/internal/core/length"
	"hobrak/internal/core/sheet"
	"hobrak/internal/core/shop"
	"hobrak/internal/core/shoptest"
)

// units of random shops, made in random ways.
func units(t require.TestingT, shops uint64, do func(where string, s *shop.Shop, u *build.Unit)) {
	for seed := range shops {
		s := shoptest.Random(seed, shoptest.Few)
		rng := rand.New(rand.NewPCG(seed, 3))
		var ids []string
		for i := range s.Containers {
			ids = append(ids, s.Containers[i].ID)
		}
		for i := range s.Places {
			ids = append(ids, s.Places[i].ID)
		}
		for _, id := range ids {
			c := build.Choices{Joint: []string{"", "screws", "dadoes"}[rng.IntN(3)], Back: []string{"", "none"}[rng.IntN(2)]}
			if u, err := build.Of(s, id, c); err == nil {
				do(fmt.Sprintf("seed %d, %s, %s", seed, id, u.Kind), s, u)
			}
		}
	}
}

// Figures of dimensions lie on nothing else that is written on their page.
func TestFiguresOfADrawingNeverLieOnEachOther(t *testing.T) {
	drawn := 0
	units(t, shoptest.Seeds(15), func(where string, s *shop.Shop, u *build.Unit) {
		for _, system := range []length.System{length.Metric, length.Imperial} {
			p := sheet.UnitSheets(u, build.Fix(s, u), sheet.A4, system, func(s string) string { return s })[0]
			drawn++
			boxes := make([]sheet.Box, len(p.Texts))
			for i, x := range p.Texts {
				w, left := .9*x.Width(), x.X
				switch x.Anchor {
				case "middle":
					left -= w / 2
				case "end":
					left -= w
				}
				boxes[i] = sheet.Box{X: left, Y: x.Y - .7*x.Size, W: w, H: .7 * x.Size}
				assert.False(t, left < -.5 || left+w > p.W+.5, "%s, %s: %q is off the page", where, system, x.Text)
			}
			for i, a := range boxes {
				for k, b := range boxes[:i] {
					if a.X < b.X+b.W && b.X < a.X+a.W && a.Y < b.Y+b.H && b.Y < a.Y+a.H {
						t.Fatalf("%s, %s: %q and %q lie on each other", where, system, p.Texts[i].Text, p.Texts[k].Text)
					}
				}
			}
		}
	})
	assert.Greater(t, drawn, 100)
}

// At full size a part is as large as it is, and its holes are in it.
func TestAPartAtFullSizeIsAsLargeAsItIs(t *testing.T) {
	drawn := 0
	units(t, shoptest.Seeds(25), func(where string, _ *shop.Shop, u *build.Unit) {
		for i := range u.Parts {
			x := &u.Parts[i]
			p := sheet.PartSheet(x)
			drawn++
			low, high := [2]float64{math.Inf(1), math.Inf(1)}, [2]float64{math.Inf(-1), math.Inf(-1)}
			round := 0.0
			for _, l := range p.Lines {
				if l.Weight != .3 {
					continue
				}
				for _, q := range [][2]float64{{l.X1, l.Y1}, {l.X2, l.Y2}} {
					low[0], low[1], high[0], high[1] = min(low[0], q[0]), min(low[1], q[1]), max(high[0], q[0]), max(high[1], q[1])
				}
				round += math.Hypot(l.X2-l.X1, l.Y2-l.Y1)
			}
			whole := func(f build.Flat) bool { return f.L > x.L-.1 || f.W > x.W-.1 }
			if out := x.Lay().Out; !slices.ContainsFunc(out, whole) {
				require.InDelta(t, x.L, high[0]-low[0], .1, "%s: %s is %g long", where, x.Name, x.L)
				require.InDelta(t, x.W, high[1]-low[1], .1, "%s: %s is %g wide", where, x.Name, x.W)
				if len(out) == 0 {
					require.InDelta(t, 2*(x.L+x.W), round, .1, "%s: %s", where, x.Name)
				}
			}
			for _, h := range x.Lay().Holes {
				require.True(t, h.X > 0 && h.X < x.L && h.Y > 0 && h.Y < x.W, "%s: a hole of %s at %g, %g is outside of it", where, x.Name, h.X, h.Y)
			}
		}
	})
	assert.Greater(t, drawn, 300)
}
