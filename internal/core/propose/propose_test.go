package propose_test

import (
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"hobrak/demo"
	"hobrak/internal/core/check"
	"hobrak/internal/core/propose"
	"hobrak/internal/core/shop"
	"hobrak/internal/core/shoptest"
)

func TestEveryStyleFurnishesBareWalls(t *testing.T) {
	for name, data := range map[string][]byte{"slipway": demo.Slipway, "pantry": demo.Pantry} {
		s, err := shop.Read(data)
		require.NoError(t, err)
		made := map[string]string{}
		for i, style := range propose.Styles() {
			if name == "slipway" && i%2 == 0 && shoptest.Seeds(1) == 1 {
				continue // two ways of working are enough where it takes long
			}
			start := time.Now()
			p, err := propose.Plan(s, propose.Options{Style: style.ID, Bare: true, Iterations: 300})
			require.NoError(t, err)
			t.Logf("%s %s: %d made, %.0f s a week of %.0f, %d without a home, %d left, %.1f m² sheet, %.1f m rail, floor %.1f wall %.1f m² free, %v", name, style.ID, len(p.Made), p.After, p.Before, len(p.Homeless), len(p.Left), p.Sheet, p.Rail, p.FloorFree, p.WallFree, time.Since(start))
			for _, l := range p.Left {
				t.Logf("   %s: %s", l.For, l.Why)
			}
			require.NoError(t, p.Shop.Validate())
			found, err := check.Shop(p.Shop)
			require.NoError(t, err)
			for _, f := range found {
				assert.False(t, f.Hard, "%s %s: %s", name, style.ID, f)
			}
			list := ""
			for _, m := range p.Made {
				list += m.Kind + " "
				assert.Positive(t, m.Things)
				assert.Positive(t, m.Sheet+m.Rail, m.Kind)
			}
			for other, l := range made {
				assert.NotEqual(t, l, list, "%s and %s are the same", other, style.ID)
			}
			made[style.ID] = list
			assert.Empty(t, p.Homeless, "%s %s", name, style.ID)
			assert.Less(t, p.After, .85*p.Before, "%s %s", name, style.ID)
		}
	}
}

func TestWhatIsKeptStays(t *testing.T) {
	s, err := shop.Read(demo.Slipway)
	require.NoError(t, err)
	p, err := propose.Plan(s, propose.Options{Style: "closed", Bare: true, Kept: []string{"B1", "K2"}, Iterations: 50})
	require.NoError(t, err)
	ix, old := shop.NewIndex(p.Shop), shop.NewIndex(s)
	assert.Equal(t, old.Place("B1").At, ix.Place("B1").At)
	assert.Equal(t, old.Container("K2").At, ix.Container("K2").At)
	assert.NotNil(t, ix.Place("K2-1"))
	assert.NotNil(t, ix.Container("skiff"), "what is away is no storage to be taken down")
	assert.NotNil(t, old.Place("D1"), "the shop itself is as it was")

	add, err := propose.Plan(s, propose.Options{Style: "open", Iterations: 50})
	require.NoError(t, err)
	for i := range s.Places {
		assert.NotNil(t, shop.NewIndex(add.Shop).Place(s.Places[i].ID), "without bare walls everything stays")
	}
	assert.Less(t, add.After, add.Before)

	_, err = propose.Plan(s, propose.Options{Style: "baroque"})
	assert.ErrorContains(t, err, "there is no style")
}
