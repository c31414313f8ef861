package whatif_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"hobrak/demo"
	"hobrak/internal/core/fit"
	"hobrak/internal/core/length"
	"hobrak/internal/core/shop"
	"hobrak/internal/core/whatif"
)

func TestWhatIsWonderedAboutIsAShopOfItsOwn(t *testing.T) {
	s, err := shop.Read(demo.Slipway)
	require.NoError(t, err)
	before := string(shop.Write(s))
	run := func(c whatif.Change) (*shop.Shop, float64, string) {
		next, says, err := whatif.Apply(s, c)
		require.NoError(t, err)
		require.NoError(t, next.Validate(), says)
		plan, err := fit.Run(next, fit.Options{Seed: 1, Iterations: 400})
		require.NoError(t, err)
		return next, plan.Objective, says
	}
	_, now, _ := run(whatif.Change{Stature: length.MM(1680)})

	alone, cost, says := run(whatif.Change{Wall: "D"})
	assert.Equal(t, "wall D left alone", says)
	for i := range alone.Places {
		assert.NotEqual(t, "D", alone.Places[i].At.Wall)
	}
	assert.Greater(t, cost, now, "a wall less costs")
	less, cost, _ := run(whatif.Change{Without: "K2"})
	assert.Nil(t, shop.NewIndex(less).Container("K2"))
	assert.Greater(t, cost, .98*now, "hardly anything is gained by having less")

	grown, cost, says := run(whatif.Change{Family: "clamps", More: .15})
	count := func(s *shop.Shop) (n int) {
		for i := range s.Items {
			if s.Items[i].Family == "clamps" {
				n += s.Items[i].Number()
			}
		}
		return n
	}
	assert.Equal(t, (count(s)*115+99)/100, count(grown), says)
	assert.Greater(t, cost, now, "more clamps, more handling")
	_, cost, _ = run(whatif.Change{Stature: length.MM(1500)})
	assert.NotEqual(t, now, cost)
	twice, cost, _ := run(whatif.Change{Sessions: 8})
	assert.InDelta(t, 2*now, cost, .1*now)
	assert.Equal(t, 8.0, twice.Settings.SessionsPerWeek)
	assert.Equal(t, before, string(shop.Write(s)), "the shop stays as it is")

	for _, c := range []whatif.Change{{}, {Wall: "Q"}, {Without: "Q9"}, {Family: "ghosts", More: 1}, {Person: "nobody"}, {Stature: length.MM(200)}} {
		_, _, err := whatif.Apply(s, c)
		assert.Error(t, err)
	}
}
