package wood_test

import (
	"slices"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"hobrak/internal/core/access"
	"hobrak/internal/core/cutting"
	"hobrak/internal/core/free"
	"hobrak/internal/core/shop"
	"hobrak/internal/core/wood"
)

// Sorting finer takes more bins and more floor and never longer to find a piece; bins have nothing lying on it, so a rack of many
// pieces is slower.
func TestSortedFinerIsFoundSoonerAndTakesMoreFloor(t *testing.T) {
	seen := 0
	for seed := range uint64(12) {
		s := stocked(t, seed, 4+3*int(seed))
		st, err := wood.Of(s, day)
		require.NoError(t, err)
		ways := st.Schools(s)
		short := 0
		for _, p := range st.Pieces {
			if p.L <= 1200 && p.Form != wood.Sheet && p.Form != wood.Veneer {
				short += p.Count
			}
		}
		if short == 0 {
			assert.Empty(t, ways)
			continue
		}
		require.Len(t, ways, 3)
		rack, byLength, byKind := ways[0], ways[1], ways[2]
		assert.Zero(t, rack.Bins)
		assert.Positive(t, rack.Wall)
		assert.LessOrEqual(t, byLength.Bins, byKind.Bins)
		assert.LessOrEqual(t, byLength.Floor, byKind.Floor+1e-9)
		assert.LessOrEqual(t, byKind.Seconds, byLength.Seconds+1e-9)
		if short > 12 {
			assert.Less(t, byLength.Seconds, rack.Seconds)
			seen++
		}
		// Looking takes twice as long where the shop says so.
		s.Settings.Estimates = map[string]float64{"in_sight": 1}
		slow := st.Schools(s)
		assert.InDelta(t, 2*byKind.Seconds, slow[2].Seconds, 1e-9)
	}
	assert.Positive(t, seen)
}

// Wood outside the workroom is told by its area, with what that does to it, and is fetched first for a plan of cuts.
func TestWoodElsewhereIsFetched(t *testing.T) {
	s := slipway(t)
	s.Areas = append(s.Areas, shop.Area{ID: "shed", Name: "the shed", Kind: "shed", WalkSeconds: 40, Climate: []string{"damp", "frost"}, Corners: s.Areas[0].Corners, Walls: s.Areas[0].Walls})
	k := slices.IndexFunc(s.Places, func(p shop.Place) bool { return p.ID == "C2" })
	s.Places[k].At.Area = "shed"
	st, err := wood.Of(s, day)
	require.NoError(t, err)
	require.Len(t, st.Elsewhere, 1)
	e := st.Elsewhere[0]
	assert.Equal(t, "the shed", e.Name)
	assert.Len(t, e.Says, 2)
	n := 0
	for _, p := range st.Pieces {
		if p.Place == "C2" {
			n += p.Count
			assert.Equal(t, "the shed", p.Area)
		} else {
			assert.Empty(t, p.Area)
		}
	}
	assert.Equal(t, n, e.Pieces)
	parts := []cutting.Part{{Name: "slat", Count: 3, L: 1100, W: 90, T: 25, Material: "ash", Grain: cutting.AlongL}, {Name: "strip", Count: 2, L: 3000, W: 50, T: 25, Material: "larch", Grain: cutting.AlongL}}
	p, err := cutting.Of(parts, st.ForCutting(parts, 0, ""), cutting.Options{Kerf: 3, Rounds: 4})
	require.NoError(t, err)
	require.Empty(t, p.Unplaced)
	list := st.Fetch(p)
	require.Len(t, list, 2)
	assert.Equal(t, "C2", list[0].Place, "the farthest first")
	assert.InDelta(t, 40, list[0].Seconds, 0)
	got := 0
	for _, f := range list {
		for _, c := range f.Counts {
			got += c
		}
		for _, l := range f.Lift {
			assert.NotContains(t, f.Names, l)
		}
	}
	assert.Equal(t, len(p.Pieces), got, "each piece that is cut is fetched")
}

// What has no room gets a rack that holds it, on a wall that is free, or the reason why not.
func TestARackIsProposedForWhatHasNoRoom(t *testing.T) {
	s := slipway(t)
	st, err := wood.Of(s, day)
	require.NoError(t, err)
	var list []wood.Reading
	for _, line := range []string{"30 oak 1800x200x50", "6 birch ply 1200x600x18"} {
		r, err := wood.Read(s, line)
		require.NoError(t, err)
		list = append(list, *r)
	}
	d, then, err := wood.Deliver(s, st, list, "2027-03-01")
	require.NoError(t, err)
	require.False(t, d.Fits)
	var left []*shop.Item
	pieces := 0
	for i, a := range d.Arrivals {
		if a.Place == "" {
			left = append(left, &then.Items[len(s.Items)+i])
			pieces += a.Count
		}
	}
	require.NotEmpty(t, left)
	m, err := access.NewMap(s)
	require.NoError(t, err)
	racks := wood.Racks(m, free.Of(m), left)
	require.NotEmpty(t, racks)
	for _, r := range racks {
		assert.Positive(t, r.Holds)
		assert.LessOrEqual(t, r.Holds, pieces)
		assert.True(t, r.Nowhere != "" || r.Area != "" || r.Wall != "", "%+v", r)
	}
}
