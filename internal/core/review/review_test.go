package review_test

import (
	"fmt"
	"math/rand/v2"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"hobrak/demo"
	"hobrak/internal/core/fit"
	"hobrak/internal/core/project"
	"hobrak/internal/core/review"
	"hobrak/internal/core/round"
	"hobrak/internal/core/shop"
	"hobrak/internal/core/shoptest"
)

func snapshot(t require.TestingT, s *shop.Shop, last map[string]string, day string) *review.Snapshot {
	p, err := fit.New(s)
	require.NoError(t, err)
	return review.Take(s, round.Of(p.AsItIs()), last, "2024-01-01", day, review.Noted{Uses: 100})
}

// A year of the demo with what is known to have happened: each of it is in the review, and nothing else.
func TestAYearIsWhatHappenedInIt(t *testing.T) {
	s, err := shop.Read(demo.Slipway)
	require.NoError(t, err)
	last := map[string]string{}
	for i := range s.Items {
		last[s.Items[i].ID] = "2025-06-01"
	}
	a := snapshot(t, s, last, "2026-01-01")
	require.NoError(t, shoptest.Finite(a))

	moved, went := s.Homes[0].Item, ""
	for _, h := range s.Homes {
		if h.Item != moved {
			went = h.Item
		}
	}
	then := s.Clone()
	for i := range then.Homes { // one moves into a bin, where no spot is asked for
		if then.Homes[i].Item == moved {
			for _, p := range then.Places {
				if p.Kind == "bin" {
					then.Homes[i] = shop.Home{Item: moved, Place: p.ID}
				}
			}
		}
	}
	keep := func(id string) bool { return id != went }
	var items []shop.Item
	for _, it := range then.Items {
		if keep(it.ID) {
			items = append(items, it)
		}
	}
	var homes []shop.Home
	for _, h := range then.Homes {
		if keep(h.Item) {
			homes = append(homes, h)
		}
	}
	then.Items, then.Homes = append(items, shop.Item{ID: "new", Name: "New thing", W: 100000, H: 100000, D: 100000}), homes
	then.Settings.Aims = []shop.Aim{{ID: "a", Name: "fewer without a home", What: "homeless", To: 0, By: "2026-12-31"}, {ID: "b", Name: "room", What: "open-floor", To: .1, Weight: 3}, {ID: "c", Name: "joy", State: "reached"}, {ID: "d", Name: "later", What: "homeless", To: 0, By: "2030-01-01"}}
	used := 0
	now := map[string]string{}
	for k, v := range last {
		now[k] = v
	}
	for i := range then.Items {
		if i%3 == 0 {
			now[then.Items[i].ID] = "2026-06-01"
		}
		if then.Items[i].ID != "new" && i%3 == 0 {
			used++
		}
	}
	b := snapshot(t, then, now, "2027-01-01")
	r := review.Compare(a, b, "2024-01-01")
	require.NoError(t, shoptest.Finite(r))
	assert.Equal(t, []string{moved}, ids(r.Moved))
	assert.Equal(t, []string{"new"}, ids(r.Came))
	assert.Equal(t, []string{went}, ids(r.Went))
	both := len(then.Items) - 1
	assert.InDelta(t, 1-float64(used)/float64(both), r.Untaken, 1e-9)
	assert.Equal(t, both-1, r.Same)
	for _, n := range r.NearIdle {
		assert.Less(t, now[n.ID], "2026-01-01")
		assert.LessOrEqual(t, n.Order, 2)
	}
	// One in five of what counts was missed: a weighs 1, b 3, c 1; d is open.
	assert.InDelta(t, .8, r.Score, 1e-9)
	assert.Len(t, r.Asked, 10)
	for _, x := range r.Asked {
		assert.NotEmpty(t, x.Says)
	}
	for _, p := range r.Figures {
		if p.What == "things" {
			assert.InDelta(t, p.Then, p.Now, 1e-9)
		}
	}
	// An older form is compared as far as it goes, and it is said.
	a.Version, a.Figures.OpenFloor = 0, 0
	assert.NotEmpty(t, review.Compare(a, b, "").Form)
}

func ids(list []review.Change) (out []string) {
	for _, c := range list {
		out = append(out, c.ID)
	}
	return out
}

// A shop set beside itself has not changed, whatever it is like.
func TestNothingChangedOnTheSameDay(t *testing.T) {
	for seed := range shoptest.Seeds(30) {
		s := shoptest.Random(seed, shoptest.Few)
		a := snapshot(t, s, nil, "2026-01-01")
		r := review.Compare(a, a, "2026-01-01")
		require.NoError(t, shoptest.Finite(r))
		require.Empty(t, r.Moved)
		require.Empty(t, r.Came)
		require.Empty(t, r.Went)
		require.Equal(t, len(a.Things), r.Same)
		for _, p := range r.Figures {
			require.InDelta(t, p.Then, p.Now, 1e-9)
		}
	}
}

// Projects: a limit, one that stalled, what was promised, the floor it has put together, what it frees when it is dropped.
func TestProjectsHaveRoomAndLimits(t *testing.T) {
	s, err := shop.Read(demo.Slipway)
	require.NoError(t, err)
	s.Items[0].PromisedTo = "Chest"
	s.Settings.Projects = []shop.Project{{ID: "p1", Name: "Chest", Started: "2026-01-01", Touched: "2026-01-05", W: 900000, D: 450000, H: 400000}, {ID: "p2", Name: "Barn", Started: "2026-03-01", W: 20e6, D: 20e6, H: 5e6}, {ID: "p3", Name: "Old", State: "done", Touched: "2020-01-01"}}
	s.Settings.ProjectsMost = 1
	list, over := project.Of(s, "2026-03-10")
	assert.True(t, over)
	require.Len(t, list, 3)
	assert.Equal(t, []string{"p2", "p1", "p3"}, []string{list[0].ID, list[1].ID, list[2].ID})
	assert.Equal(t, 64, list[1].Stalled)
	assert.Zero(t, list[0].Stalled)
	assert.Zero(t, list[2].Stalled, "what is done does not stall")
	assert.Equal(t, []string{s.Items[0].ID}, list[1].Promised)
	assert.Len(t, list[1].Floors, 1+len(s.Modes))
	assert.Equal(t, "stuck", list[0].Out)
	assert.Equal(t, "goes", list[1].Out)
	for _, f := range list[0].Floors {
		assert.False(t, f.Fits)
	}
	assert.Equal(t, 1, project.Drop(s, "p1"))
	assert.Empty(t, s.Items[0].PromisedTo)
	assert.Zero(t, project.Drop(s, "nothing"))
}

// BenchmarkReview compares two snapshots of a large shop.
func BenchmarkReview(b *testing.B) {
	s := shoptest.Made(600, 60, 3)
	rng := rand.New(rand.NewPCG(1, 1))
	last := map[string]string{}
	for i := range s.Items {
		last[s.Items[i].ID] = fmt.Sprintf("20%02d-0%d-11", 20+rng.IntN(6), 1+rng.IntN(9))
	}
	x := snapshot(b, s, last, "2025-01-01")
	p, err := fit.New(s)
	require.NoError(b, err)
	r := round.Of(p.AsItIs())
	for b.Loop() {
		y := review.Take(s, r, last, "2020-01-01", "2026-01-01", review.Noted{Uses: 8000})
		review.Compare(x, y, "2020-01-01")
	}
	b.ReportMetric(float64(b.Elapsed().Microseconds())/1000/float64(b.N), "ms/review")
}

// What is used every day and lives in what is put away most of the time is outside of one's own part of the room; what is seldom used, or
// there half of the time, is not.
func TestWhatIsOutsideOfTheCoreOfARoom(t *testing.T) {
	for _, x := range []struct {
		uses, away float64
		state      string
		when       []string
		outside    bool
	}{
		{5, 30, "away", nil, true}, {5, 10, "away", nil, false}, {2, 30, "away", nil, false}, {5, 30, "", nil, false}, {5, 30, "folded", nil, true},
		{5, 30, "", []string{"work"}, true}, {5, 10, "", []string{"work"}, false}, {5, 0, "away", nil, false},
	} {
		s, err := shop.Read(demo.Slipway)
		require.NoError(t, err)
		var it *shop.Item
		var h shop.Home
		for _, h = range s.Homes {
			p := shop.NewIndex(s).Place(h.Place)
			if chain, root := shop.NewIndex(s).Chain(&p.At); len(chain) == 1 && root.Floor != nil {
				it = shop.NewIndex(s).Item(h.Item)
				break
			}
		}
		require.NotNil(t, it)
		it.UsesPerWeek = x.uses
		p := shop.NewIndex(s).Place(h.Place)
		p.When = x.when
		s.Modes = []shop.Mode{{ID: "work", Name: "Work", HoursPerWeek: 20}, {ID: "car", Name: "Car in", HoursPerWeek: x.away, Spots: map[string]shop.Standing{p.At.In: {State: x.state}}}}
		r := snapshot(t, s, nil, "2026-01-01")
		for _, thing := range r.Things {
			if thing.ID == it.ID {
				assert.Equal(t, x.outside, thing.Outside, "%+v", x)
			}
		}
	}
}
