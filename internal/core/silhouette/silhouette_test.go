package silhouette

import (
	"math"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"hobrak/internal/core/kinds"
)

func TestEveryOutlineIsReadAndStaysNearItsBox(t *testing.T) {
	for name, s := range all() {
		require.NotEmpty(t, s.Strokes, name)
		for _, st := range s.Strokes {
			require.NotEmpty(t, st.Path, name)
			assert.Equal(t, byte('M'), st.Path[0].Op, name)
			for _, seg := range st.Path {
				for _, p := range seg.P {
					assert.InDelta(t, 50, p[0], 90, name)
					assert.InDelta(t, 50, p[1], 90, name)
				}
			}
		}
	}
}

func TestEveryKindOfThingHasOne(t *testing.T) {
	assert.NotNil(t, Of("no such thing"))
	for _, name := range []string{"plane", "saw", "bar-clamp", kinds.Glyph("jack-plane")} {
		assert.Contains(t, all(), name)
	}
}

// Every point of the curves an arc becomes is on its ellipse.
func TestAnArcIsPartOfItsEllipse(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		rx, ry := rapid.Float64Range(1, 50).Draw(t, "rx"), rapid.Float64Range(1, 50).Draw(t, "ry")
		a, turn := rapid.Float64Range(0, 6.2).Draw(t, "from"), rapid.Float64Range(.1, 6.1).Draw(t, "turn")
		x := func(a float64) (float64, float64) { return 50 + rx*math.Cos(a), 50 + ry*math.Sin(a) }
		p := &parser{}
		p.x, p.y = x(a)
		ex, ey := x(a + turn)
		p.arc(rx, ry, turn > math.Pi, true, [2]float64{ex, ey})
		last := [2]float64{}
		last[0], last[1] = x(a)
		for _, s := range p.out {
			require.Equal(t, byte('C'), s.Op)
			for _, u := range []float64{.25, .5, .75, 1} {
				b := func(i int) float64 {
					v := 1 - u
					return v*v*v*last[i] + 3*v*v*u*s.P[0][i] + 3*v*u*u*s.P[1][i] + u*u*u*s.P[2][i]
				}
				assert.InDelta(t, 1, math.Hypot((b(0)-50)/rx, (b(1)-50)/ry), 1e-3)
			}
			last = s.P[2]
		}
	})
}

func TestWhatIsNoPathIsRefused(t *testing.T) {
	for _, d := range []string{"M", "M1", "L", "5 5", "M0 0X1 1", "M0 0L1 -", "Z5"} {
		_, err := Parse(d)
		assert.Error(t, err, d)
	}
	got, err := Parse("M1 2h3v-1l1,1 2 0z")
	require.NoError(t, err)
	assert.Equal(t, []Seg{{'M', [3][2]float64{{1, 2}}}, {'L', [3][2]float64{{4, 2}}}, {'L', [3][2]float64{{4, 1}}}, {'L', [3][2]float64{{5, 2}}}, {'L', [3][2]float64{{7, 2}}}, {Op: 'Z'}}, got)
}
