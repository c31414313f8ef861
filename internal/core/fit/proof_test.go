package fit_test

import (
	"math/rand/v2"
	"slices"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"hobrak/internal/core/fit"
	"hobrak/internal/core/length"
	"hobrak/internal/core/shop"
	"hobrak/internal/core/shoptest"
	"hobrak/internal/core/weight"
)

func TestTheBoundSeesThatTwoInWideSlotsAreGrippedBetweenThem(t *testing.T) {
	// Two things of one entry in slots 800 mm wide: their grip is at the slots' common edge,
	// nearer to the bench than the middle of either.
	s, err := shop.Read([]byte(`{"format":"hobrak-shop","version":1,"shop":{"name":"S","units":"metric"},"areas":[{"id":"main","corners":[[0,0],[0,5000],[6000,5000],[6000,0]],"walls":[
		{"id":"A","profile":[[0,2600],[5000,2600]],"claimed":true},{"id":"B","profile":[[0,2600],[6000,2600]],"claimed":true},{"id":"C","profile":[[0,2600],[5000,2600]],"claimed":true},{"id":"D","profile":[[0,2600],[6000,2600]],"claimed":true}]}],
		"stations":[{"id":"bench","name":"Bench","kind":"bench","x":2200,"y":0,"w":1400,"d":600,"h":900,"stand":[3000,1200]}],
		"places":[{"id":"P","kind":"slots","at":{"wall":"B","x":1400,"z":600},"w":3200,"h":900,"d":300,"slots":[{"n":4,"w":800,"h":800,"d":200}]}],
		"items":[{"id":"a","name":"Frame","w":750,"h":700,"d":100,"count":2,"hold":["slot"],"uses_per_week":4,"used_at":["bench"]}]}`))
	require.NoError(t, err)
	plan, err := fit.Run(s, fit.Options{Seed: 1, Iterations: 200})
	require.NoError(t, err)
	require.NoError(t, plan.Contradiction())
	assert.Empty(t, plan.Homeless)
	assert.Less(t, plan.Gap(), .01, "and it is no weaker than that")
}

func TestAContradictionIsSaid(t *testing.T) {
	require.ErrorContains(t, (&fit.Plan{Objective: 60, Bound: 61}).Contradiction(), "the plan costs 60")
	assert.Negative(t, (&fit.Plan{Objective: 60, Bound: 61}).Gap(), "and not hidden")
}

func TestShortOfTimeThereIsAPlanAllTheSame(t *testing.T) {
	// Time that is up before the search begins leaves the quick construction, and with a tenth
	// of a second no plan is worse than that.
	sizes := [][2]int{{600, 60}}
	if shoptest.Seeds(1) > 1 {
		sizes = append(sizes, [2]int{1500, 150}, [2]int{3000, 300})
	}
	for _, size := range sizes {
		s := made(t, size[0], size[1], 3)
		for _, standing := range []bool{false, true} {
			worth := func(p *fit.Plan) float64 { return p.Objective + 1e4*float64(len(p.Homeless)) }
			none := func() bool { return true }
			e, err := fit.New(s)
			require.NoError(t, err)
			quick := e.Run(fit.Options{Seed: 1, Done: none})
			assert.Less(t, len(quick.Homeless), size[0]/10, "%v", size)
			require.NoError(t, quick.Contradiction())
			for _, h := range quick.Homeless {
				assert.NotContains(t, h.Why+h.SmallestChange, "but ;")
			}
			e, err = fit.New(s)
			require.NoError(t, err)
			end := time.Now().Add(100 * time.Millisecond)
			plan := e.Run(fit.Options{Seed: 1, Done: func() bool { return time.Now().After(end) }})
			assert.LessOrEqual(t, worth(plan), worth(quick)+1e-6, "%v, standing %v", size, standing)
			if standing {
				assert.LessOrEqual(t, worth(quick), worth(&fit.Plan{Objective: quick.Before})+1e4*float64(len(quick.Homeless))+1e-6, "not worse than as it stands")
			} else {
				keepsRules(t, s, quick)
			}
			s = quick.Apply(s)
		}
	}
}

// judged is a shop that breaks no rule so far, and the homes an allowed answer would give it.
func judged(t *testing.T, s *shop.Shop, homes []shop.Home, what string, seed uint64) {
	t.Helper()
	require.Empty(t, brokenBy(t, s, homes), "seed %d: %s", seed, what)
}

// piles is a shop of racks full of boards that lie on each other.
func piles(seed uint64) *shop.Shop {
	s := shoptest.Random(seed, shoptest.Size{Stations: 2})
	rng := rand.New(rand.NewPCG(seed, 1))
	mm := func(low, high int) length.Length { return length.MM(float64(low + rng.IntN(high-low+1))) }
	s.Places, s.Items, s.Homes = nil, nil, nil
	for i := range 2 {
		p := shop.Place{ID: []string{"rack", "other"}[i], Kind: "arms", W: length.MM(900), H: length.MM(700), D: length.MM(300), Levels: []shop.Level{{Z: 0, H: mm(60, 200)}, {Z: length.MM(250), H: mm(60, 200)}}}
		p.At = shop.At{Wall: "A", X: 0, Z: length.MM(float64(100 + 800*i))}
		s.Places = append(s.Places, p)
	}
	for i := range 14 {
		s.Items = append(s.Items, shop.Item{ID: "b" + string(rune('a'+i)), Name: "Board " + string(rune('A'+i)), W: mm(700, 1100), H: mm(8, 40), D: mm(60, 290), KG: weight.KG(1), Count: 1 + rng.IntN(3)*rng.IntN(2), Hold: []shop.Hold{"arms"}, UsesPerWeek: rng.Float64()})
	}
	return s
}

func TestNothingThatIsAllowedBreaksARule(t *testing.T) {
	// Trying, giving, settling, swapping, making room and taking over a part, in shops with
	// places of every kind and on racks whose boards lie on each other.
	tried := map[string]int{}
	for seed := range shoptest.Seeds(10) {
		s := shoptest.Random(seed, shoptest.Size{Areas: 1, Stations: 3, Containers: 6, Places: 14, Items: 30})
		if seed%3 == 0 {
			s = piles(seed)
			if s.Validate() != nil {
				continue // the rack does not fit its wall
			}
		}
		plan, err := fit.Run(s, fit.Options{Seed: seed, Iterations: 30})
		require.NoError(t, err)
		now := plan.Apply(s)
		now.Fit = nil
		judged(t, now, now.Homes, "plan", seed)
		rng := rand.New(rand.NewPCG(seed, 3))
		at := func(l length.Length) length.Length { return length.Length(rng.Float64() * float64(l)) }
		without := func(ids ...string) []shop.Home {
			return slices.DeleteFunc(slices.Clone(now.Homes), func(h shop.Home) bool { return slices.Contains(ids, h.Item) })
		}
		problem, err := fit.New(now)
		require.NoError(t, err)
		e := problem.AsItIs()
		for range 12 {
			if len(now.Items) == 0 || len(now.Places) == 0 {
				break
			}
			i := rng.IntN(len(now.Items))
			it, p := &now.Items[i], &now.Places[rng.IntN(len(now.Places))]
			if !it.Needs() {
				continue
			}
			wish := shop.Home{Place: p.ID, X: at(p.W), Y: at(p.D), Z: at(p.H), Rot: 90 * rng.IntN(2), Row: rng.IntN(2), Slot: rng.IntN(4), Level: rng.IntN(2)}
			if own := e.Map().Index.Homes(it.ID); len(own) > 0 && rng.IntN(3) == 0 { // beside the home it has
				wish = *own[0]
				wish.X += at(50 * length.Millimetre)
			}
			if a := e.Try(i, wish); a.Allowed {
				tried["try"]++
				judged(t, now, append(without(it.ID), a.Home), "try "+it.ID, seed)
			}
			if a, ok := e.Find(i); ok {
				tried["find"]++
				judged(t, now, append(without(it.ID), a.Home), "find "+it.ID, seed)
			}
			if a := e.Admit(i, 2); a.Found {
				tried["admit"]++
				judged(t, now, append(without(append(a.Moved, it.ID)...), a.Homes...), "admit "+it.ID, seed)
			}
			if e.LyingOn(i) == "" {
				tried["take"]++
				judged(t, now, without(it.ID), "take "+it.ID, seed)
			}
			e = e.AsItIs()
		}
		for _, w := range e.Swaps(5) {
			tried["swap"]++
			judged(t, now, append(without(w.Items...), w.Homes...), "swap", seed)
		}
		other, err := fit.Run(now, fit.Options{Seed: seed + 1, Iterations: 60, Wishes: &fit.Wishes{}})
		require.NoError(t, err)
		part := problem.Part(other.Homes, func(id string) bool { return len(id)%2 == 0 && rng.IntN(2) == 0 || id == "ba" })
		tried["part"]++
		judged(t, now, part.Homes, "part", seed)
	}
	t.Log(tried)
	for _, what := range []string{"try", "find", "admit", "take", "part"} {
		assert.Positive(t, tried[what], what)
	}
}
