package fit_test

import (
	"fmt"
	"math/rand/v2"
	"slices"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"hobrak/internal/core/fit"
	"hobrak/internal/core/length"
	"hobrak/internal/core/shop"
	"hobrak/internal/core/shoptest"
)

// edit a shop at random and say what changed; false when nothing did.
func edit(s *shop.Shop, rng *rand.Rand, c *shop.Changes) string {
	mm := func(low, high int) length.Length { return length.MM(float64(low + rng.IntN(high-low+1))) }
	item, place := rng.IntN(len(s.Items)), rng.IntN(len(s.Places))
	switch k := rng.IntN(10); k {
	case 9:
		s.Places[place].Name, s.Places[place].Notes = fmt.Sprint("called ", rng.IntN(99)), "so"
		c.Note("places", s.Places[place].ID)
		return "a name"
	case 0, 1:
		it := &s.Items[item]
		it.W, it.Flags, it.Family = mm(10, 400), []shop.Flag{shop.Flags()[rng.IntN(len(shop.Flags()))]}, fmt.Sprint("f", rng.IntN(3))
		c.Note("items", it.ID)
		return "an item"
	case 2:
		it := s.Items[item]
		it.ID, it.Name = fmt.Sprint("new-", rng.IntN(1e6)), "First-aid box"
		s.Items = slices.Insert(s.Items, item, it)
		c.Note("items", it.ID)
		return "a new item"
	case 3:
		id := s.Items[item].ID
		s.Items = slices.Delete(s.Items, item, item+1)
		s.Homes = slices.DeleteFunc(s.Homes, func(h shop.Home) bool { return h.Item == id })
		c.Note("items", id)
		c.Note("homes", id+" 1")
		return "an item less"
	case 4, 5:
		p := &s.Places[place]
		p.H, p.D, p.Labelled, p.Access = mm(50, 900), mm(30, 500), !p.Labelled, shop.Access(shop.Access("").Words()[rng.IntN(6)])
		c.Note("places", p.ID)
		return "a place"
	case 6:
		p := s.Places[place]
		p.ID = fmt.Sprint("new-", rng.IntN(1e6))
		s.Places = slices.Insert(s.Places, place, p)
		c.Note("places", p.ID)
		return "a new place"
	case 7:
		id := s.Places[place].ID
		s.Places = slices.Delete(s.Places, place, place+1)
		for _, h := range s.Homes {
			if h.Place == id {
				c.Note("homes", h.Item+" 1")
			}
		}
		s.Homes = slices.DeleteFunc(s.Homes, func(h shop.Home) bool { return h.Place == id })
		c.Note("places", id)
		return "a place less"
	}
	s.Settings.Together = []string{fmt.Sprint("f", rng.IntN(3))}
	c.Note("settings", "shop")
	return "who must stay together"
}

func TestWhatIsTakenOverComesToTheSameAsMadeAnew(t *testing.T) {
	done := map[string]int{}
	for seed := range shoptest.Seeds(25) {
		rng := rand.New(rand.NewPCG(seed, 8))
		s := shoptest.Random(seed, shoptest.Size{Areas: 2, Stations: 4, Containers: 5, Places: 12, Items: 20, Homes: true})
		if len(s.Items) == 0 || len(s.Places) == 0 {
			continue
		}
		p, err := fit.New(s)
		require.NoError(t, err)
		for range 8 { // one change after the other, each from the problem before
			next, c := s.Clone(), &shop.Changes{}
			var what []string
			for range 1 + rng.IntN(2) {
				if len(next.Items) > 0 && len(next.Places) > 0 {
					what = append(what, edit(next, rng, c))
				}
			}
			if next.Validate() != nil {
				continue
			}
			fresh, err := fit.New(next.Clone())
			require.NoError(t, err)
			over, err := p.Next(next, c)
			require.NoError(t, err)
			require.Empty(t, fit.Differs(over, fresh), "seed %d: %v", seed, what)
			a, b := over.AsItIs(), fresh.AsItIs()
			require.InDelta(t, b.AsItStands(), a.AsItStands(), 1e-6)
			for i := range next.Items {
				require.Equal(t, b.Admit(i, 1), a.Admit(i, 1), "seed %d: %v", seed, what)
			}
			s, p = next, over
			for _, w := range what {
				done[w]++
			}
		}
	}
	assert.Len(t, done, 8, "%v", done)
}

// BenchmarkNext is a problem made of the one before against one made anew.
func BenchmarkNext(b *testing.B) {
	s := shoptest.Made(3000, 300, 1)
	p, err := fit.New(s)
	require.NoError(b, err)
	for what, change := range map[string]func(*shop.Shop, *shop.Changes){
		"item":  func(s *shop.Shop, c *shop.Changes) { s.Items[7].W += 1; c.Note("items", s.Items[7].ID) },
		"place": func(s *shop.Shop, c *shop.Changes) { s.Places[7].H -= 1; c.Note("places", s.Places[7].ID) },
	} {
		b.Run(what, func(b *testing.B) {
			for b.Loop() {
				next, c := s.Clone(), &shop.Changes{}
				change(next, c)
				_, err := p.Next(next, c)
				require.NoError(b, err)
			}
		})
	}
}
