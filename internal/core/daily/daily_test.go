package daily_test

import (
	"fmt"
	"math/rand/v2"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"hobrak/demo"
	"hobrak/internal/core/access"
	"hobrak/internal/core/daily"
	"hobrak/internal/core/event"
	"hobrak/internal/core/gather"
	"hobrak/internal/core/shop"
	"hobrak/internal/core/shoptest"
)

// Whatever is pressed in any order in any shop: what is out is never more than there is nor less than nothing, what is refused
// changes nothing, and what the events add up to is what stands open of them.
func TestTapsNeverTakeMoreThanThereIs(t *testing.T) {
	kinds := []event.Kind{event.Taken, event.Taken, event.PutBack, event.Lent, event.Returned, event.Used, event.Laid, event.Laid}
	done, refused := 0, 0
	for seed := range shoptest.Seeds(80) {
		s := shoptest.Random(seed, shoptest.Few)
		if len(s.Items) == 0 {
			continue
		}
		rng := rand.New(rand.NewPCG(seed, 5))
		ix := shop.NewIndex(s)
		var log event.Log
		for range 60 {
			tap := daily.Tap{What: kinds[rng.IntN(len(kinds))], With: rng.IntN(3) == 0}
			switch {
			case rng.IntN(6) == 0 && len(s.Containers) > 0:
				tap.Boxes = []string{s.Containers[rng.IntN(len(s.Containers))].ID}
			case rng.IntN(6) == 0 && len(s.Kits) > 0:
				tap.Kits = []string{s.Kits[rng.IntN(len(s.Kits))].ID}
			default:
				tap.Items = []gather.Want{{Item: s.Items[rng.IntN(len(s.Items))].ID, N: rng.IntN(4)}}
			}
			if tap.What == event.Lent {
				tap.To = fmt.Sprintf("friend %d", rng.IntN(3))
			}
			if tap.What == event.Laid {
				tap.On = fmt.Sprintf("spot %d", rng.IntN(3))
			}
			list, err := daily.Events(s, &tap, log.Outstanding())
			if err != nil {
				var r *daily.Refused
				require.ErrorAs(t, err, &r)
				require.NotEmpty(t, r.Why)
				refused++
				continue
			}
			done++
			for _, e := range list {
				e.ID, e.At = int64(len(log)+1), "2027-05-31"
				_, says := e.Check()
				require.Empty(t, says)
				log = append(log, e)
			}
			open := map[string]int{}
			for _, e := range log.Outstanding() {
				require.Positive(t, e.N)
				open[e.Item] += e.N
			}
			require.Equal(t, log.Out(), open, "seed %d", seed)
			for id, n := range open {
				require.LessOrEqual(t, n, ix.Item(id).Number(), "seed %d: %s", seed, id)
			}
		}
	}
	assert.Positive(t, done)
	assert.Positive(t, refused)
}

func slipway(t *testing.T) *shop.Shop {
	s, err := shop.Read(demo.Slipway)
	require.NoError(t, err)
	return s
}

func TestWhatIsRefusedSaysWhoHasIt(t *testing.T) {
	s := slipway(t)
	it := &s.Items[0]
	it.Count = 0
	lent := event.Log{{ID: 1, At: "2027-05-30", What: event.Lent, Item: it.ID, To: "the neighbour"}}
	_, err := daily.Events(s, &daily.Tap{What: event.Taken, Items: []gather.Want{{Item: it.ID}}}, lent.Outstanding())
	assert.EqualError(t, err, it.Name+" is out already, lent to the neighbour on 2027-05-30")
	_, err = daily.Events(s, &daily.Tap{What: event.PutBack, Items: []gather.Want{{Item: s.Items[1].ID}}}, lent.Outstanding())
	assert.EqualError(t, err, s.Items[1].Name+" is not out: it is on record in its home")
	_, err = daily.Events(s, &daily.Tap{What: event.Taken, Boxes: []string{"nowhere"}}, nil)
	assert.ErrorContains(t, err, "there is no box")
	_, err = daily.Events(s, &daily.Tap{What: event.Taken}, nil)
	assert.ErrorContains(t, err, "say what")
}

func TestABoxGoesWithAllThatIsInItAndCompanionsGoAlong(t *testing.T) {
	s := slipway(t)
	box := &s.Containers[0]
	for i := range s.Containers {
		if len(daily.In(s, shop.NewIndex(s), s.Containers[i].ID)) > 1 {
			box = &s.Containers[i]
			break
		}
	}
	box.Portable = true
	in := daily.In(s, shop.NewIndex(s), box.ID)
	require.Greater(t, len(in), 1)
	list, err := daily.Events(s, &daily.Tap{What: event.Taken, Boxes: []string{box.ID}}, nil)
	require.NoError(t, err)
	require.Len(t, list, len(in))
	for i, e := range list {
		assert.Equal(t, in[i].Item, e.Item)
		assert.Equal(t, in[i].N, e.Number())
	}
	s.Items[0].With = []string{s.Items[1].ID, "gone since"}
	list, err = daily.Events(s, &daily.Tap{What: event.Taken, With: true, Items: []gather.Want{{Item: s.Items[0].ID}}}, nil)
	require.NoError(t, err)
	require.Len(t, list, 2)
	assert.Equal(t, s.Items[1].ID, list[1].Item)
}

// In the evening what was taken goes back and what was lent does not; chargers and what can burn are looked at.
func TestTheRoundInTheEvening(t *testing.T) {
	s := slipway(t)
	s.Items = append(s.Items, shop.Item{ID: "rags-x", Name: "Rags", Kind: "rags", W: 1, H: 1, D: 1})
	m, err := access.NewMap(s)
	require.NoError(t, err)
	a, b := s.Homes[0].Item, s.Homes[5].Item
	require.NotEqual(t, a, b)
	r := daily.Closing(m, event.Log{{ID: 1, At: "2027-05-31", What: event.Taken, Item: a}, {ID: 2, At: "2027-05-31", What: event.Lent, Item: b}})
	back, says := map[string]bool{}, ""
	for _, trip := range r.Trips {
		for _, x := range trip.Stops {
			for _, p := range x.Things {
				back[p.Item] = true
			}
			for _, c := range x.Chores {
				says += c.Says + "\n"
			}
		}
	}
	assert.Equal(t, map[string]bool{a: true}, back)
	assert.Contains(t, says, "oily rags")
	assert.Contains(t, says, "door locked")
}

func TestWhatIsNeededForSomething(t *testing.T) {
	s := slipway(t)
	s.Kits = []shop.Kit{{ID: "k", Name: "Outdoors", Items: []shop.KitItem{{Item: s.Items[0].ID, N: 2}, {Item: "gone"}}, Drops: []string{s.Stations[0].ID, "gone"}}}
	s.Items[3].PromisedTo = "Side cabinet"
	all := daily.Need(s)
	assert.Equal(t, []gather.Want{{Item: s.Items[0].ID, N: 2}}, all[0].Items)
	assert.Equal(t, []string{"gone"}, all[0].Gone)
	assert.Equal(t, []string{s.Stations[0].ID}, all[0].Drops)
	last := all[len(all)-1]
	assert.Equal(t, "project", last.Of)
	ix := shop.NewIndex(s)
	for _, n := range all {
		if n.Of == "station" {
			for k, w := range n.Items {
				assert.Contains(t, ix.Item(w.Item).UsedAt, n.ID)
				if k > 0 {
					assert.GreaterOrEqual(t, ix.Item(n.Items[k-1].Item).UsesPerWeek, ix.Item(w.Item).UsesPerWeek, "the most used first")
				}
			}
		}
	}
}
