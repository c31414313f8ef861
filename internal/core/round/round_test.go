package round_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"hobrak/demo"
	"hobrak/internal/core/fit"
	"hobrak/internal/core/round"
	"hobrak/internal/core/shop"
	"hobrak/internal/core/shoptest"
)

func of(t *testing.T, data []byte) (*shop.Shop, *round.Round) {
	s, err := shop.Read(data)
	require.NoError(t, err)
	p, err := fit.New(s)
	require.NoError(t, err)
	e := p.AsItIs()
	return s, round.Of(e)
}

func TestWallsStandSideBySideClockwise(t *testing.T) {
	s, r := of(t, demo.Slipway)
	at := 0.0
	for i, g := range r.Elevations {
		assert.InDelta(t, at, g.Offset, 1e-6)
		at += g.Length
		if i < len(s.Areas[0].Walls) {
			assert.Equal(t, s.Areas[0].Walls[i].ID, g.ID)
		} else {
			assert.True(t, g.Middle)
		}
		// The runs of reach cover the wall without a gap.
		x := 0.0
		for _, run := range g.Reach {
			assert.InDelta(t, x, run.From, 1e-6)
			x = run.To
		}
		if !g.Middle {
			assert.InDelta(t, g.Length, x, 1e-6)
		}
	}
}

func TestEveryPieceIsDrawnInItsPlace(t *testing.T) {
	s, r := of(t, demo.Slipway)
	places := map[string]round.Place{}
	for _, p := range r.Places {
		places[p.ID] = p
	}
	ix := shop.NewIndex(s)
	for _, it := range r.Items {
		if it.Place == "" {
			assert.Zero(t, it.Order)
			assert.Empty(t, it.Pieces)
			continue
		}
		assert.Len(t, it.Pieces, it.Count, it.ID)
		p := places[it.Place]
		assert.Equal(t, p.Elevation, it.Elevation)
		assert.True(t, it.Order >= 1 && it.Order <= 4, it.ID)
		for _, q := range it.Pieces {
			if p.Kind != "arms" { // boards may reach past the last arm
				assert.GreaterOrEqual(t, q.X, p.X-.01, it.ID)
				assert.LessOrEqual(t, q.X+q.W, p.X+p.W+.01, it.ID)
			}
			if p.Kind == "wall-field" || p.Kind == "slots" || p.Kind == "rail" {
				assert.GreaterOrEqual(t, q.Z, p.Z-.01, it.ID)
				assert.LessOrEqual(t, q.Z+q.H, p.Z+p.H+.01, it.ID)
			}
		}
		require.NotNil(t, ix.Item(it.ID))
	}
}

func TestThingsStandAtTheWallBehindThem(t *testing.T) {
	_, r := of(t, demo.Slipway)
	at := map[string]round.Thing{}
	for _, x := range r.Things {
		at[x.ID] = x
	}
	assert.Equal(t, "B", r.Elevations[at["bench"].Elevation].ID)
	assert.InDelta(t, 1500, at["bench"].X, 1e-6)
	assert.Equal(t, "A", r.Elevations[at["sharpening"].Elevation].ID)
	assert.InDelta(t, 2500, at["sharpening"].X, 1e-6, "turned by 90 degrees about its middle")
	assert.Equal(t, "D", r.Elevations[at["carving"].Elevation].ID)
	assert.InDelta(t, 7300-4100, at["carving"].X, 1e-6, "wall D runs from right to left")
	assert.True(t, r.Elevations[at["assembly"].Elevation].Middle, "the table stands free")
	assert.NotContains(t, at, "skiff", "what is away is not drawn")
}

func TestTotalsAddUp(t *testing.T) {
	s, r := of(t, demo.Slipway)
	sum, lines := 0.0, 0
	for _, it := range r.Items {
		sum += it.Seconds
		lines++
	}
	assert.InDelta(t, sum, r.Totals.Seconds, 1e-6)
	orders := 0
	for _, n := range r.Totals.Orders {
		orders += n
	}
	assert.Equal(t, lines, orders)
	fetched := 0.0
	for _, st := range r.Plan.Stations {
		fetched += st.Seconds
	}
	homeless := 0.0
	for _, it := range r.Items {
		if it.Place == "" {
			homeless += it.Seconds
		}
	}
	assert.InDelta(t, sum-homeless, fetched, 1e-6, "what is fetched from the stations is what is not lost")
	assert.Len(t, r.Plan.Stations, len(s.Stations))
}

// A trip is gone for what lives in another area than the one it is used in, and for nothing else.
func TestATripIsGoneToWhereAThingLivesAndIsNotUsed(t *testing.T) {
	trips := 0
	for seed := range shoptest.Seeds(30) {
		s := shoptest.Random(seed, shoptest.Few)
		p, err := fit.New(s)
		require.NoError(t, err)
		r := round.Of(p.AsItIs())
		ix := shop.NewIndex(s)
		for _, it := range r.Items {
			home := ""
			for _, h := range ix.Homes(it.ID) {
				_, at := ix.Chain(&ix.Place(h.Place).At)
				if home = ""; !at.Away {
					home = ix.Area(at.Area).ID
				}
			}
			used := map[string]bool{}
			for _, id := range it.UsedAt {
				used[ix.Area(ix.Station(id).Area).ID] = true
			}
			if len(used) == 0 {
				used[s.Areas[0].ID] = true
			}
			if home != "" && !used[home] {
				trips++
				assert.Equal(t, ix.Area(home).Called(), it.Trip, it.ID)
			} else {
				assert.Empty(t, it.Trip, it.ID)
			}
		}
	}
	assert.Positive(t, trips)
}
