package api_test

import (
	"fmt"
	"net/http"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"hobrak/internal/api"
	"hobrak/internal/core/check"
	"hobrak/internal/core/event"
	"hobrak/internal/core/moves"
	"hobrak/internal/core/shop"
)

// planned runs a search for homes and gives the id of the plan.
func planned(t *testing.T, c client) string {
	code, got := c.do(http.MethodPost, "/api/v1/plans", map[string]any{"seconds": 1})
	require.Less(t, code, 300, "%v", got)
	return fmt.Sprint(got["id"])
}

// A plan that is accepted moves nothing; each tick moves one thing and is noted; what turns out otherwise is said; at the end the
// homes are those of the plan, and one can go back.
func TestAPlanIsCarriedOutStepByStep(t *testing.T) {
	c := start(t)
	before, _ := c.st.Shop()
	id := planned(t, c)
	c.put("POST", "/api/v1/plans/"+id+"/keep", map[string]any{"name": "Autumn", "go": true, "judge": "2027-03-01"}, 200)
	sh, _ := c.st.Shop()
	assert.Equal(t, before.Homes, sh.Homes, "nothing has moved")
	require.Len(t, sh.Targets, 2, "the plan, and how it was")
	assert.Equal(t, "2027-03-01", sh.Targets[0].Judge)
	c.put("GET", "/api/v1/evenings?minutes=5", nil, 422)
	e := served[api.Evenings](t, c, "/api/v1/evenings?minutes=45")
	require.NotNil(t, e.Plan)
	require.Empty(t, e.Plan.Stuck)
	first := e.Plan.Evenings[0].Steps[0]
	going := served[[]api.Found](t, c, "/api/v1/find?kind=item&limit=1&q="+first.Item)
	require.NotEmpty(t, going)
	assert.NotEmpty(t, going[0].Going)
	// A step that is not so any more is refused, and nothing changes.
	wrong := first
	wrong.Count = 400
	c.put("POST", "/api/v1/evenings/steps", map[string]any{"step": wrong}, 422)
	// Left out: it is in no evening any more.
	c.put("POST", "/api/v1/evenings/left", map[string]any{"item": first.Item, "why": "does not fit"}, 200)
	e = served[api.Evenings](t, c, "/api/v1/evenings?minutes=45")
	require.Len(t, e.Left, 1)
	for _, x := range e.Plan.Evenings {
		for _, s := range x.Steps {
			assert.NotEqual(t, first.Item, s.Item)
		}
	}
	c.put("PATCH", "/api/v1/targets/"+e.Target, map[string]any{"again": true}, 200)
	// One evening after the other, made anew each time.
	steps := 0
	for range 60 {
		e = served[api.Evenings](t, c, "/api/v1/evenings?minutes=45&first=1")
		require.NotNil(t, e.Plan, e.Why)
		if len(e.Plan.Evenings) == 0 {
			break
		}
		for _, s := range e.Plan.Evenings[0].Steps {
			c.put("POST", "/api/v1/evenings/steps", map[string]any{"step": s, "took": 2 * s.Minutes}, 200)
			steps++
		}
		now, _ := c.st.Shop()
		found, err := check.Shop(now)
		require.NoError(t, err)
		for _, f := range found {
			assert.NotEqual(t, "overlap", f.Code, f.What)
		}
	}
	sh, _ = c.st.Shop()
	goal := sh.Targets[0].Homes
	assert.Len(t, sh.Homes, len(goal))
	for i := range goal {
		ok := false
		for k := range sh.Homes {
			ok = ok || moves.Same(&goal[i], &sh.Homes[k])
		}
		assert.True(t, ok, "%+v", goal[i])
	}
	assert.Greater(t, sh.Settings.Pace, 1.2, "twice as slow is learned bit by bit")
	moved := served[[]event.Event](t, c, "/api/v1/events?what=moved&limit=1000")
	assert.Len(t, moved, steps)
	// And back.
	c.put("PATCH", "/api/v1/targets/"+sh.Targets[1].ID, map[string]any{"go": true}, 200)
	e = served[api.Evenings](t, c, "/api/v1/evenings?minutes=600")
	require.NotNil(t, e.Plan, e.Why)
	assert.NotEmpty(t, e.Plan.Evenings)
	c.put("DELETE", "/api/v1/targets/"+e.Target, nil, 200)
	sh, _ = c.st.Shop()
	assert.Empty(t, sh.Settings.Target)
	assert.Empty(t, served[api.Evenings](t, c, "/api/v1/evenings").Target)
}

// When the room is otherwise than it was when something was planned, that is said in words.
func TestATargetThatIsNotLawfulAnyMore(t *testing.T) {
	c := start(t)
	id := planned(t, c)
	c.put("POST", "/api/v1/plans/"+id+"/keep", map[string]any{"name": "Autumn", "go": true}, 200)
	sh, _ := c.st.Shop()
	gone := sh.Targets[0].Homes[0]
	_, err := c.st.Change(t.Context(), c.revision(), "test", "a thing went", func(s *shop.Shop) error {
		for i := range s.Items {
			if s.Items[i].ID == gone.Item {
				s.Items = append(s.Items[:i], s.Items[i+1:]...)
				break
			}
		}
		var rest []shop.Home
		for _, h := range s.Homes {
			if h.Item != gone.Item {
				rest = append(rest, h)
			}
		}
		s.Homes = rest
		return nil
	})
	require.NoError(t, err)
	e := served[api.Evenings](t, c, "/api/v1/evenings")
	require.NotNil(t, e.Plan)
	assert.NotEmpty(t, e.Gone)
}

func TestTheBestUseOfAnHour(t *testing.T) {
	c := start(t)
	sh, _ := c.st.Snapshot()
	homed := sh.Homes[0].Item
	c.put("POST", "/api/v1/events", map[string]any{"what": "taken", "item": homed}, 201)
	list := served[[]moves.Worthwhile](t, c, "/api/v1/best-use?minutes=40")
	require.NotEmpty(t, list)
	sum, last := 0.0, 1e9
	seen := map[string]bool{}
	for _, x := range list {
		sum += x.Minutes
		if x.Do != "look" {
			assert.LessOrEqual(t, x.Saves/x.Minutes, last+1e-9, "most a minute first")
			last = x.Saves / x.Minutes
			assert.Positive(t, x.Saves)
		}
		for _, id := range x.Items {
			assert.False(t, seen[id], id)
			seen[id] = true
		}
	}
	assert.LessOrEqual(t, sum, 40.0)
	assert.True(t, seen[homed], "what lies out is put back")
	c.put("GET", "/api/v1/best-use?minutes=2", nil, 422)
}
