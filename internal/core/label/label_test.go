package label_test

import (
	"math"
	"math/rand/v2"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"hobrak/demo"
	"hobrak/internal/core/label"
	"hobrak/internal/core/shop"
	"hobrak/internal/core/shoptest"
)

// On any size, nothing of a label stands over its edge and nothing over its code; what is cut short says so.
func TestNothingLeavesTheLabel(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		w, h := rapid.Float64Range(20, 210).Draw(t, "w"), rapid.Float64Range(10, 140).Draw(t, "h")
		l := label.Label{Address: rapid.StringMatching(`[A-Z][0-9]{1,2}(-[0-9]{1,2})?`).Draw(t, "address"), Name: rapid.StringMatching(`[A-Za-z ]{0,40}`).Draw(t, "name"),
			Lines: rapid.SliceOfN(rapid.StringMatching(`[A-Za-z0-9 ]{1,50}`), 0, 30).Draw(t, "lines"), Hazards: []string{"SHARP", "FLAMMABLE"}[:rapid.IntRange(0, 2).Draw(t, "hazards")],
			Load: rapid.SampledFrom([]string{"", "max 20 kg"}).Draw(t, "load"), Under: rapid.Bool().Draw(t, "under")}
		var code label.Bits
		if rapid.Bool().Draw(t, "code") {
			code = make(label.Bits, 33)
			for i := range code {
				code[i] = make([]bool, 33)
				code[i][i] = true
			}
		}
		p, has := label.Drawn(&l, w, h, code)
		require.Positive(t, has)
		edge, foot := w, 0.0
		for _, path := range p.Paths {
			for _, g := range path.Segs {
				if g.Op != 'Z' {
					x, y := g.P[0][0], g.P[0][1]
					require.True(t, x >= 0 && x <= w && y >= 0 && y <= h, "%v outside %g × %g", g.P[0], w, h)
					edge, foot = min(edge, x), max(foot, y)
				}
			}
		}
		for _, x := range p.Texts {
			require.LessOrEqual(t, x.Y, h, "%q", x.Text)
			require.GreaterOrEqual(t, x.Y-x.Size*.73, -1e-6, "%q", x.Text)
			if x.Anchor == "start" && len([]rune(x.Text)) > 2 {
				right := w
				if x.Y-x.Size*.73 < foot { // beside the code, not below it
					right = edge
				}
				require.LessOrEqual(t, x.X+x.Width(), right+1e-6, "%q on %g × %g", x.Text, w, h)
			}
		}
		// Lines do not lie over each other.
		for i := range p.Texts {
			for k := range i {
				a, b := p.Texts[i], p.Texts[k]
				if a.Anchor == "start" && b.Anchor == "start" {
					require.False(t, a.Y-a.Size*.73 < b.Y && b.Y-b.Size*.73 < a.Y, "%q over %q", a.Text, b.Text)
				}
			}
		}
	})
}

// Every common size holds its labels apart and on its paper, from any first label on; none is left out.
func TestAllLabelsAreOnTheSheets(t *testing.T) {
	require.GreaterOrEqual(t, len(label.Stocks), 8)
	s := shoptest.Random(5, shoptest.Few)
	labels := label.Of(s, true)
	require.NotEmpty(t, labels)
	for k := range label.Stocks {
		stock := &label.Stocks[k]
		field, err := stock.Check()
		require.NoError(t, err, field)
		paper, err := stock.PaperOf()
		require.NoError(t, err)
		start := 1 + k%(stock.Cols*stock.Rows)
		pages, small, err := label.Pages(labels, stock, start, true, nil)
		require.NoError(t, err)
		n := 0
		for _, p := range pages {
			for i, a := range p.Insets {
				n++
				require.True(t, a.X >= -.4 && a.X+a.W <= paper.W+.6 && a.Y >= -.4 && a.Y+a.H <= paper.H+.6, "%+v", stock)
				for _, b := range p.Insets[:i] {
					require.False(t, a.X < b.X+b.W-1e-6 && b.X < a.X+a.W-1e-6 && a.Y < b.Y+b.H-1e-6 && b.Y < a.Y+a.H-1e-6, "%+v", stock)
				}
			}
		}
		require.Equal(t, len(labels), n)
		for _, x := range small {
			require.Less(t, x.Has, x.Needs)
			if x.Larger >= 0 {
				assert.Equal(t, stock.Paper, label.Stocks[x.Larger].Paper)
			}
		}
	}
	for _, bad := range []label.Stock{{Paper: "A4", W: 70, H: 37, Cols: 3, Rows: 8, Left: -3, StepX: 70, StepY: 37}, {Paper: "A4", W: 70, H: 37, Cols: 4, Rows: 8, StepX: 70, StepY: 37}, {Paper: "A4", W: 70, H: 37, Cols: 3, Rows: 8, StepX: 60, StepY: 37},
		{Paper: "A5", W: 70, H: 37, Cols: 1, Rows: 1}, {Paper: "A4", W: math.NaN(), H: 37, Cols: 1, Rows: 1}} {
		field, err := bad.Check()
		require.Error(t, err)
		require.NotEmpty(t, field)
	}
	_, _, err := label.Pages(labels, &label.Stocks[0], 22, false, nil)
	assert.ErrorContains(t, err, "from 1 to 21")
}

// Whatever changes what stands on a label changes its mark, and nothing else does.
func TestALabelIsStaleWhenWhatStandsOnItChanges(t *testing.T) {
	s, err := shop.Read(demo.Slipway)
	require.NoError(t, err)
	labels := label.Of(s, false)
	printed := map[string]string{}
	require.Equal(t, len(labels), label.Stale(labels, printed), "none was ever printed")
	for i := range labels {
		printed[labels[i].Key()] = labels[i].Mark
	}
	require.Zero(t, label.Stale(labels, printed))
	rng := rand.New(rand.NewPCG(1, 2))
	for range 30 {
		next := s.Clone()
		h := next.Homes[rng.IntN(len(next.Homes))]
		it := shop.NewIndex(next).Item(h.Item)
		it.Name += " with a new handle"
		now := label.Of(next, false)
		n := label.Stale(now, printed)
		require.Positive(t, n)
		for i := range now {
			says := strings.Contains(strings.Join(now[i].Lines, "\n"), it.Name)
			require.Equal(t, says, i < n, "%s: the stale ones first", now[i].Address)
		}
	}
}

// Letters under 20 minutes of arc: 5.8 mm a metre away, half as much again for dim sight.
func TestLettersAreLargeEnoughToBeRead(t *testing.T) {
	assert.InDelta(t, 5.82, label.Height(1000, false), .01)
	assert.InDelta(t, 8.73, label.Height(1000, true), .01)
	s, err := shop.Read(demo.Slipway)
	require.NoError(t, err)
	under := 0
	for _, l := range label.Of(s, false) {
		require.InDelta(t, label.Height(l.Distance, false)*map[bool]float64{true: 1.5, false: 1}[l.Letters > label.Height(l.Distance, false)*1.2], l.Letters, 1e-9)
		if l.Under {
			under++
		}
	}
	t.Logf("%d labels go on undersides", under)
}
