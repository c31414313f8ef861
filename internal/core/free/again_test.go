package free

import (
	"fmt"
	"math/rand/v2"
	"slices"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"hobrak/internal/core/access"
	"hobrak/internal/core/length"
	"hobrak/internal/core/shop"
	"hobrak/internal/core/shoptest"
)

// What is taken over from an earlier state of a shop comes to the same as if it were worked out anew, whatever was hung, moved or taken down.
func TestWallsThatAreTakenOverAreAsIfWorkedOutAnew(t *testing.T) {
	over, anew := 0, 0
	for seed := range shoptest.Seeds(30) {
		rng := rand.New(rand.NewPCG(seed, 5))
		s := shoptest.Random(seed, shoptest.Size{Areas: 2, Stations: 4, Containers: 5, Places: 12, Items: 8, Modes: int(seed%2) * 3, Homes: true})
		m, err := access.NewMap(s)
		require.NoError(t, err)
		before := Of(m)
		for n := range 6 {
			next := s.Clone()
			mm := func(low, high int) length.Length { return length.MM(float64(low + rng.IntN(high-low+1))) }
			area := &next.Areas[rng.IntN(len(next.Areas))]
			wall := shop.At{Wall: area.Walls[rng.IntN(len(area.Walls))].ID, Area: area.ID, X: mm(0, 900), Z: mm(0, 1500)}
			switch k := rng.IntN(5); {
			case k == 0 && len(next.Places) > 0:
				next.Places = slices.Delete(next.Places, 0, 1)
			case k == 1 && len(next.Places) > 0:
				p := &next.Places[rng.IntN(len(next.Places))]
				p.At, p.D = wall, mm(20, 500)
			case k == 2 && len(next.Stations) > 0:
				next.Stations[0].X += mm(1, 200)
			case k == 3 && len(next.Areas[0].Walls[0].Features) > 0:
				next.Areas[0].Walls[0].Features[0].W += mm(1, 50)
			default:
				next.Containers = append(next.Containers, shop.Container{ID: fmt.Sprint("box-", n), Name: "box", Kind: "chest", At: wall, W: mm(300, 700), H: mm(300, 700), D: mm(200, 500)})
			}
			if next.Validate() != nil {
				continue
			}
			m, err := access.NewMap(next)
			require.NoError(t, err)
			got, want := before.Of(m), Of(m)
			for k, w := range got.walls {
				if k < len(before.walls) && w == before.walls[k] {
					over++
				} else if w.out.Claimed {
					anew++
				}
			}
			require.Equal(t, want.Walls, got.Walls, "seed %d, change %d", seed, n)
			require.Equal(t, want.Ceilings, got.Ceilings)
			require.Equal(t, want.Dead, got.Dead)
			require.Equal(t, want.Totals, got.Totals)
			s, before = next, got
		}
	}
	assert.Greater(t, over, 20)
	assert.Greater(t, anew, 20)
	t.Logf("%d walls taken over, %d worked out anew", over, anew)
}
