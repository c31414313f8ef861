package fit_test

import (
	"slices"
	"testing"

	"github.com/stretchr/testify/require"

	"hobrak/internal/core/check"
	"hobrak/internal/core/fit"
	"hobrak/internal/core/shop"
	"hobrak/internal/core/shoptest"
)

// item by id.
func item(s *shop.Shop, id string) int {
	return slices.IndexFunc(s.Items, func(it shop.Item) bool { return it.ID == id })
}

// brokenBy lists the rules that homes break in a shop which may itself be against every rule:
// its stations stand in each other and its places hang over doors.
func brokenBy(t testing.TB, s *shop.Shop, homes []shop.Home) (out []string) {
	t.Helper()
	with := s.Clone()
	with.Homes = homes
	again, err := shop.Read(shop.Write(with))
	require.NoError(t, err, "the plan is a valid shop file")
	found, err := check.Shop(again)
	require.NoError(t, err)
	without := s.Clone()
	without.Homes = nil
	anyway, err := check.Shop(without)
	require.NoError(t, err)
	for _, f := range found {
		if f.Hard && !slices.Contains(anyway, f) {
			out = append(out, f.String())
		}
	}
	return out
}

func TestEveryQuestionHasAFiniteAnswerInAnyRoom(t *testing.T) {
	allowed := 0
	for seed := range shoptest.Seeds(16) {
		s := shoptest.Random(seed, shoptest.Few)
		problem, err := fit.New(s)
		require.NoError(t, err)
		e := problem.AsItIs()
		ok := func(v any) {
			t.Helper()
			require.NoError(t, shoptest.Finite(v), "seed %d", seed)
		}
		ok(e.AsItStands())
		e = e.AsItIs()
		ok(e.Sum())
		ok(e.Costs())
		ok(e.Contradictions())
		ok(e.Doubts())
		ok(e.Swaps(3))
		for i := range s.Items {
			e = e.AsItIs()
			ok(e.Seconds(i))
			if !s.Items[i].Needs() {
				continue
			}
			a, found := e.Find(i)
			ok(a)
			if found {
				allowed++
			}
			ok(e.Admit(i, 1))
			for k := range s.Places {
				ok(e.Settle(i, s.Places[k].ID))
			}
		}
		for k := range s.Homes {
			h := &s.Homes[k]
			ok(e.Explain(item(s, h.Item), h))
		}
		for k := range s.Places {
			ok(e.WorthOf(s.Places[k].ID))
		}
	}
	require.Greater(t, allowed, 8)
}

func TestPlansForAnyRoomKeepEveryRuleAndStayAboveTheirBound(t *testing.T) {
	// Places of every kind, one to twelve alike, turned, both faces of carts, totes on decks. In
	// every other one some homes are locked, however messy they are.
	for seed := range shoptest.Seeds(20) {
		s := shoptest.Random(seed, shoptest.Size{Areas: 2, Stations: 4, Containers: 6, Places: 12, Items: 25, Homes: seed%2 == 1})
		plan, err := fit.Run(s, fit.Options{Seed: seed, Iterations: 60})
		require.NoError(t, err)
		require.NoError(t, shoptest.Finite(plan), "seed %d", seed)
		require.NoError(t, plan.Contradiction(), "seed %d", seed)
		locked := s.Clone()
		locked.Homes = slices.DeleteFunc(locked.Homes, func(h shop.Home) bool { return !h.Locked })
		messy := brokenBy(t, s, locked.Homes)
		if len(messy) == 0 {
			require.Empty(t, brokenBy(t, s, plan.Homes), "seed %d", seed)
		}
	}
}
