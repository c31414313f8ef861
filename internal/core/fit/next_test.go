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
	"hobrak/internal/core/storage"
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
		if len(s.Modes) > 0 && rng.IntN(2) == 0 {
			p.When = []string{s.Modes[rng.IntN(len(s.Modes))].ID}
		}
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
	done, moded := map[string]int{}, false
	for seed := range shoptest.Seeds(25) {
		rng := rand.New(rand.NewPCG(seed, 8))
		s := shoptest.Random(seed, shoptest.Size{Areas: 2, Stations: 4, Containers: 5, Places: 12, Items: 20, Modes: int(seed%2) * 4, Homes: true})
		if len(s.Items) == 0 || len(s.Places) == 0 {
			continue
		}
		made := fit.New
		if seed%2 == 1 { // in all modes by their hours
			made = func(s *shop.Shop) (*fit.Problem, error) {
				return fit.ByHours(s, func() bool { return false })
			}
			moded = moded || len(s.Modes) > 0
		}
		p, err := made(s)
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
			fresh, err := made(next.Clone())
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
	assert.True(t, moded, "none had modes")
}

// box puts a chest under a station or on a wall, takes one away with what is in it, or makes one otherwise.
func box(s *shop.Shop, rng *rand.Rand) string {
	mm := func(low, high int) length.Length { return length.MM(float64(low + rng.IntN(high-low+1))) }
	var hung []int
	for i := range s.Containers {
		if c := &s.Containers[i]; c.At.Floor == nil && !slices.ContainsFunc(s.Modes, func(m shop.Mode) bool { _, ok := m.Spots[c.ID]; return ok }) {
			hung = append(hung, i)
		}
	}
	k := rng.IntN(3)
	if len(hung) == 0 {
		k = 0
	}
	switch k {
	case 0:
		at := shop.At{Wall: s.Areas[0].Walls[rng.IntN(len(s.Areas[0].Walls))].ID, X: mm(0, 500), Z: mm(100, 1500)}
		if len(s.Stations) > 0 && rng.IntN(2) == 0 {
			at = shop.At{Station: s.Stations[rng.IntN(len(s.Stations))].ID, X: mm(0, 100)}
		}
		id := fmt.Sprint("box-", rng.IntN(1e6))
		s.Containers = append(s.Containers, shop.Container{ID: id, Name: id, Kind: "chest", At: at, W: mm(300, 700), H: mm(300, 700), D: mm(200, 500)})
		for n := range 1 + rng.IntN(3) {
			s.Places = append(s.Places, shop.Place{ID: fmt.Sprint(id, "-", n), Kind: "drawer", At: shop.At{In: id, Z: length.MM(float64(100 * n))}, W: mm(200, 300), H: mm(60, 99), D: mm(150, 200)})
		}
		return "a box more"
	case 1:
		if _, err := storage.Remove(s, s.Containers[hung[rng.IntN(len(hung))]].ID); err != nil {
			panic(err)
		}
		return "a box less"
	}
	c := &s.Containers[hung[rng.IntN(len(hung))]]
	c.W, c.Lockable, c.At.X = c.W+mm(0, 50), !c.Lockable, mm(0, 100)
	return "a box otherwise"
}

func TestBoxesThatDoNotStandAreTakenOver(t *testing.T) {
	done, taken := map[string]int{}, 0
	for seed := range shoptest.Seeds(25) {
		rng := rand.New(rand.NewPCG(seed, 12))
		s := shoptest.Random(seed, shoptest.Size{Areas: 2, Stations: 4, Containers: 5, Places: 12, Items: 20, Modes: 3, Homes: true})
		made := func(s *shop.Shop) (*fit.Problem, error) { return fit.ByHours(s, func() bool { return false }) }
		p, err := made(s)
		require.NoError(t, err)
		for range 8 {
			next := s.Clone()
			what := box(next, rng)
			if next.Validate() != nil {
				continue
			}
			c, few := s.PlacesChanged(next)
			if !few {
				continue
			}
			if p.Scenes().With(next.Clone(), c) != nil {
				taken++
			}
			fresh, err := made(next.Clone())
			require.NoError(t, err)
			over, err := p.Next(next, c)
			require.NoError(t, err)
			require.Empty(t, fit.Differs(over, fresh), "seed %d: %s", seed, what)
			require.InDelta(t, fresh.AsItStands(), over.AsItStands(), 1e-6, "seed %d: %s", seed, what)
			s, p = next, over
			done[what]++
		}
	}
	assert.Len(t, done, 3, "%v", done)
	all := 0
	for _, n := range done {
		all += n
	}
	assert.Greater(t, taken, all/2, "the ways that are known should be taken over as a rule")
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
