package household_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"pgregory.net/rapid"

	"hobrak/internal/core/household"
	_ "hobrak/internal/core/keeping"
	"hobrak/internal/core/shop"
	"hobrak/internal/core/shoptest"
)

// What the household takes is what it took before and what a thing more takes; the shop's own things take nothing of it, and no
// more is taken of a room than its things are large.
func TestWhatTheHouseholdTakesAddsUp(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		s := shoptest.Random(rapid.Uint64().Draw(t, "seed"), shoptest.Few)
		all := household.Of(s)
		assert.Len(t, all, len(s.Areas))
		sum := func(list []household.Taken) (out float64) {
			for _, x := range list {
				assert.GreaterOrEqual(t, x.Wall, 0.)
				assert.GreaterOrEqual(t, x.Floor, 0.)
				out += x.Wall + x.Floor
			}
			return out
		}
		most := 0.0
		for i := range s.Items {
			if it := &s.Items[i]; it.Realm == "household" {
				n := float64(it.Number())
				most += n * (it.W.MM()*it.H.MM() + it.W.MM()*it.D.MM() + it.H.MM()*it.D.MM()) / 1e6
			}
		}
		for i := range s.Containers { // a thing in a case takes its share of it at most
			c := &s.Containers[i]
			most += (c.W.MM()*c.H.MM() + c.W.MM()*c.D.MM()) / 1e6 * float64(len(s.Homes))
		}
		for i := range s.Stations {
			if s.Stations[i].Kind.Lodger() {
				most += s.Stations[i].W.MM() * s.Stations[i].D.MM() / 1e6
			}
		}
		before := sum(all)
		assert.LessOrEqual(t, before, most+1e-9)
		for i := range s.Items { // one by one they become the shop's
			if s.Items[i].Realm != "household" {
				continue
			}
			s.Items[i].Realm = "shop"
			now := sum(household.Of(s))
			assert.LessOrEqual(t, now, before+1e-9)
			before = now
		}
		s.Stations = nil
		for _, x := range household.Of(s) {
			assert.Zero(t, x.Things)
		}
	})
}

func TestCreepIsMeasuredAgainstWhatWasAgreed(t *testing.T) {
	x := household.Taken{Wall: 1.2, Floor: .5}
	wall, floor := x.Creeps(&shop.Quota{Wall: 1, Floor: .5})
	assert.Equal(t, [2]bool{true, false}, [2]bool{wall, floor})
	wall, floor = x.Creeps(nil)
	assert.Equal(t, [2]bool{false, false}, [2]bool{wall, floor})
}
