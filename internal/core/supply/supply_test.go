package supply_test

import (
	"math"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"hobrak/internal/core/belongings"
	"hobrak/internal/core/note"
	"hobrak/internal/core/quantity"
	"hobrak/internal/core/shop"
	"hobrak/internal/core/shoptest"
	"hobrak/internal/core/supply"
)

func needs(t *testing.T, s *shop.Shop, id string) map[string]supply.Need {
	t.Helper()
	out := map[string]supply.Need{}
	for _, n := range supply.Needs(s, shop.NewIndex(s).Station(id)) {
		out[n.Kind] = n
	}
	return out
}

func TestWhatASawNeedsIsFoundInTheRoom(t *testing.T) {
	r := note.Room(&shop.Shop{}, "6 x 4 x 2.5, window C 1200x1400 at 1450 up 950, outlet A at 3m up 1100")
	require.NotNil(t, r.Area, "%+v", r.Chips)
	s := &shop.Shop{Areas: []shop.Area{*r.Area}}
	id, _, err := belongings.AddStation(s, "table saw 800x750x860 wall A")
	require.NoError(t, err)
	n := needs(t, s, id)
	assert.Contains(t, quantity.Metric(n[supply.Power].Says), "9.6 A, assumed") // 2200 W of 230 V
	assert.NotEmpty(t, n[supply.Power].By)
	assert.True(t, n[supply.Dust].Open)
	assert.Contains(t, n[supply.Dust].Says, "no extractor")
	assert.True(t, n[supply.Noise].Open, "95 dB(A) wants hearing protection")
	assert.Contains(t, n[supply.Weight].Says, "two people")

	// With an extractor, wheels and what it says on the plate, nothing is open of these.
	saw := shop.NewIndex(s).Station(id)
	saw.Mobility, saw.Amps = shop.Rolls, 8
	saw.Measured("amps")
	_, _, err = belongings.AddStation(s, "extractor")
	require.NoError(t, err)
	s.Circuits = []shop.Circuit{{ID: "saws", Amps: 6, Volts: 230}}
	w := &s.Areas[0].Walls[0]
	for i := range w.Features {
		if w.Features[i].Kind == "outlet" {
			w.Features[i].Circuit = "saws"
		}
	}
	s.Areas[0].Ceiling = &shop.Ceiling{Features: []shop.CeilingFeature{{ID: "lamp", Kind: "light", X: saw.X, Y: saw.Y, W: saw.W, D: saw.D}}}
	n = needs(t, s, id)
	assert.False(t, n[supply.Dust].Open)
	assert.False(t, n[supply.Weight].Open)
	assert.NotContains(t, n[supply.Power].Says, "assumed")
	assert.Contains(t, n[supply.Power].Says, "an electrician")
	assert.NotEmpty(t, n[supply.Light].By)
}

// Whatever stands where: figures are finite, what supplies something is there, and a nearer source is never passed over.
func TestNeedsNameWhatIsThere(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		s := shoptest.Random(rapid.Uint64Range(0, 1e6).Draw(t, "seed"), shoptest.Few)
		for i := range s.Stations {
			st := &s.Stations[i]
			st.Kind = rapid.SampledFrom(shop.StationKinds()).Draw(t, "kind")
			s.Assume(st)
		}
		ix := shop.NewIndex(s)
		for i := range s.Stations {
			st := &s.Stations[i]
			all := supply.Needs(s, st)
			require.NoError(t, shoptest.Finite(all))
			for _, n := range all {
				require.NotEmpty(t, n.Says)
				if n.Kind != supply.Dust && n.Kind != supply.Air || n.By == "" {
					continue
				}
				by := ix.Station(n.By)
				require.NotNil(t, by)
				for k := range s.Stations {
					if o := &s.Stations[k]; o.Kind == by.Kind && ix.Area(o.Area) == ix.Area(st.Area) {
						dx, dy := (o.X + o.W/2 - st.X - st.W/2).MM(), (o.Y + o.D/2 - st.Y - st.D/2).MM()
						require.LessOrEqual(t, n.Far, math.Hypot(dx, dy)+.1)
					}
				}
			}
		}
	})
}
