package round_test

import (
	"encoding/json"
	"math/rand/v2"
	"slices"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"hobrak/internal/core/fit"
	"hobrak/internal/core/length"
	"hobrak/internal/core/round"
	"hobrak/internal/core/shop"
	"hobrak/internal/core/shoptest"
)

// A change brings whoever has the earlier round to the later one, through JSON, whatever was
// done to the shop; and one home moved is told in little.
func TestAChangeMakesTheLaterRoundOfTheEarlier(t *testing.T) {
	rng := rand.New(rand.NewPCG(7, 7))
	see := func(s *shop.Shop) *round.Round {
		p, err := fit.New(s)
		require.NoError(t, err)
		return round.Of(p.AsItIs())
	}
	told := 0
	for seed := range uint64(6) {
		s := shoptest.Made(60, 12, seed)
		old := see(s)
		for step := range 12 {
			s = s.Clone()
			i := rng.IntN(len(s.Items))
			switch step % 6 {
			case 0:
				s.Items[i].Name += " again"
			case 1:
				s.Items[i].UsesPerWeek *= 3
			case 2:
				if len(s.Homes) > 0 {
					s.Homes = slices.Delete(s.Homes, 0, 1)
				}
			case 3:
				id := s.Items[i].ID
				s.Items = slices.Delete(s.Items, i, i+1)
				s.Homes = slices.DeleteFunc(s.Homes, func(h shop.Home) bool { return h.Item == id })
			case 4:
				it := s.Items[i]
				it.ID, it.Status = "new", ""
				s.Items = append(s.Items, it)
			case 5:
				s.Settings.OneOut = !s.Settings.OneOut
				s.Items[i].W += 5 * length.Millimetre
			}
			if s.Validate() != nil {
				continue
			}
			now := see(s)
			c, ok := now.Since(old)
			if ok {
				told++
				sent, err := json.Marshal(c)
				require.NoError(t, err)
				var got round.Change
				require.NoError(t, json.Unmarshal(sent, &got))
				assert.Equal(t, text(t, now), text(t, after(&got, old)), "step %d", step)
				if whole := text(t, now); step%6 < 2 {
					assert.Less(t, len(sent), len(whole)/3, "step %d", step)
				}
			}
			old = now
		}
	}
	assert.Greater(t, told, 40)
}

func text(t *testing.T, r *round.Round) string {
	out, err := json.Marshal(r)
	require.NoError(t, err)
	return string(out)
}

// after is the round that a change makes of an earlier one, as whoever gets it has to do it.
func after(c *round.Change, old *round.Round) *round.Round {
	r := *old
	h := &c.Head
	r.Name, r.Units, r.Comma, r.Figure, r.Totals, r.People, r.Fresh, r.OneOut, r.Mode = h.Name, h.Units, h.Comma, h.Figure, h.Totals, h.People, h.Fresh, h.OneOut, h.Mode
	if c.Elevations != nil {
		r.Elevations = c.Elevations
	}
	if c.Things != nil {
		r.Things = c.Things
	}
	if c.Rooms != nil {
		r.Plan.Rooms = c.Rooms
	}
	if c.Footprints != nil {
		r.Plan.Things = c.Footprints
	}
	item := func(i *round.Item) string { return i.ID }
	r.Plan.Stations = put(old.Plan.Stations, c.Stations.Put, c.Stations.Order, func(s *round.Stand) string { return s.ID })
	r.Places = put(old.Places, c.Places.Put, c.Places.Order, func(p *round.Place) string { return p.ID })
	r.Items = put(old.Items, c.Items.Put, c.Items.Order, item)
	r.Wished = put(old.Wished, c.Wished.Put, c.Wished.Order, item)
	return &r
}

// put into a list what is new or otherwise, in an order if it is another.
func put[T any](old, changed []T, order []string, id func(*T) string) []T {
	now := make(map[string]T, len(old))
	for i := range old {
		now[id(&old[i])] = old[i]
	}
	for i := range changed {
		now[id(&changed[i])] = changed[i]
	}
	if order == nil {
		out := slices.Clone(old)
		for i := range out {
			out[i] = now[id(&out[i])]
		}
		return out
	}
	out := make([]T, len(order))
	for i, name := range order {
		out[i] = now[name]
	}
	return out
}
