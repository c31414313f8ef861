package fit_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"hobrak/demo"
	"hobrak/internal/core/fit"
	"hobrak/internal/core/length"
	"hobrak/internal/core/shop"
)

// One wall field of 1000 × 500 over a bench, two things in it.
func fieldOfTwo(t *testing.T) *shop.Shop {
	s, err := shop.Read(demo.Slipway)
	require.NoError(t, err)
	s.Items, s.Homes = nil, nil
	for i := range s.Places {
		if s.Places[i].ID == "B1" {
			p := &s.Places[i]
			p.Style, p.Rows, p.W, p.H = "screw", nil, length.MM(1000), length.MM(500)
			s.Places, s.Containers, s.Modes = []shop.Place{*p}, nil, nil
			break
		}
	}
	thing := func(id string, w float64, uses float64, assumed ...string) {
		s.Items = append(s.Items, shop.Item{ID: id, Name: id, W: length.MM(w), H: length.MM(400), D: length.MM(50), KG: 1e6, Hold: []shop.Hold{"hang"}, UsesPerWeek: uses, UsedAt: []string{"bench"}, Assumed: assumed})
	}
	thing("tight", 580, 5, "w")
	thing("roomy", 100, 5, "w")
	thing("sure", 100, 5)
	thing("seldom", 200, .02, "w", "h", "uses_per_week")
	s.Homes = []shop.Home{{Item: "tight", Place: "B1"}, {Item: "roomy", Place: "B1", X: length.MM(620)}, {Item: "sure", Place: "B1", X: length.MM(900)}}
	require.NoError(t, s.Validate())
	return s
}

func TestWhatMattersMostIsMeasuredFirst(t *testing.T) {
	s := fieldOfTwo(t)
	before := shop.Write(s)
	problem, err := fit.New(s)
	require.NoError(t, err)
	e := problem.AsItIs()
	d := e.Doubts()
	assert.Equal(t, [3]int{3, 0, 1}, [3]int{d.Sizes, d.KGs, d.Uses})
	require.Len(t, d.List, 3)
	assert.Equal(t, "tight", d.List[0].Item, "larger, it no longer fits beside its neighbour")
	assert.Equal(t, []string{"w"}, d.List[0].Fields)
	assert.Greater(t, d.List[0].Seconds, 60.0, "it would be without a home at 60 s a use in two cases of three")
	assert.Zero(t, d.List[1].Seconds+d.List[2].Seconds)
	assert.Equal(t, 1, d.First)
	assert.Equal(t, before, shop.Write(s), "nothing is changed by asking")
	// Asking again gives the same: everything was put back where it was.
	assert.Equal(t, d, e.Doubts())
}

func TestWithoutHomesTheAreaDecides(t *testing.T) {
	s := fieldOfTwo(t)
	s.Homes, s.Places = nil, nil
	problem, err := fit.New(s)
	require.NoError(t, err)
	e := problem.AsItIs()
	d := e.Doubts()
	assert.Equal(t, "tight", d.List[0].Item)
	assert.InDelta(t, .58*.4*(.1+.25+.5)/3, d.List[0].Area, 1e-6)
	assert.Zero(t, d.List[0].Seconds)
	assert.LessOrEqual(t, d.First, 3)
}

func TestSettledThingsKeepTheirSpots(t *testing.T) {
	s := fieldOfTwo(t)
	s.Homes = nil
	problem, err := fit.New(s)
	require.NoError(t, err)
	e := problem.AsItIs()
	for i := range 3 {
		a := e.Settle(i, "B1")
		require.True(t, a.Allowed, a.Why)
		s.Homes = append(s.Homes, a.Home)
	}
	require.NoError(t, s.Validate())
	assert.Contains(t, e.Settle(3, "B1").Why, "no spot is free", "the three before it stay where they are")
}

func BenchmarkDoubtsOfTheDemo(b *testing.B) {
	s, err := shop.Read(demo.Slipway)
	require.NoError(b, err)
	for i := range s.Items {
		s.Items[i].Assumed = []string{"w", "h", "d", "kg"}
	}
	problem, err := fit.New(s)
	require.NoError(b, err)
	e := problem.AsItIs()
	for b.Loop() {
		d := e.Doubts()
		b.ReportMetric(float64(d.First)/float64(d.Sizes), "share-that-matters")
	}
}
