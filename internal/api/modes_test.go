package api_test

import (
	"encoding/json"
	"fmt"
	"net/http"
	"net/url"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"hobrak/internal/api"
	"hobrak/internal/core/fit"
	"hobrak/internal/core/mode"
	"hobrak/internal/core/shop"
)

// put asks onto the newest revision, and gives the body.
func (c client) put(method, path string, body any, want int) string {
	c.t.Helper()
	sent := ""
	if body != nil {
		raw, err := json.Marshal(body)
		require.NoError(c.t, err)
		sent = string(raw)
	}
	header := map[string]string{}
	if method != http.MethodGet {
		_, revision := c.st.Shop()
		header["If-Match"] = fmt.Sprintf("%q", fmt.Sprint(revision))
		header["Content-Type"] = "application/json"
	}
	resp, got := c.ask(method, path, sent, header)
	require.Equal(c.t, want, resp.StatusCode, "%s %s: %s", method, path, got)
	return got
}

// In the mode the floor is in, Find says what must be rolled away and what is not reached; the layouts say where things are.
func TestFindAnswersForTheModeOneIsIn(t *testing.T) {
	c := start(t)
	sh, _ := c.st.Shop()
	c.put("PATCH", "/api/v1/modes/evening", map[string]any{"now": true}, 200)
	said := map[string]int{}
	for i := range sh.Items {
		for _, f := range served[[]api.Found](t, c, "/api/v1/find?kind=item&limit=1&q="+url.QueryEscape(sh.Items[i].Name)) {
			switch {
			case f.Now == "":
			case len(f.Now) > 3 && f.Now[:3] == "not":
				said["not reached"]++
			default:
				said["other"]++
			}
		}
	}
	assert.Positive(t, said["not reached"]+said["other"], "the skiff is in the way of something")
	c.put("PATCH", "/api/v1/modes/-", map[string]any{"now": true}, 200)
	sh, _ = c.st.Shop()
	assert.Empty(t, sh.Settings.Mode)
	c.put("PATCH", "/api/v1/modes/-", map[string]any{"name": "x"}, 422)
	c.put("PATCH", "/api/v1/modes/nowhen", map[string]any{"now": true}, 422)
}

// Spots in a mode: said, tried, taken away, refused with what would be right.
func TestSpotsInAModeAreSaidTriedAndTakenAway(t *testing.T) {
	c := start(t)
	c.put("PUT", "/api/v1/modes/milling/spots/drum-sander", map[string]any{"floor": [2]float64{5700, 2800}}, 200)
	all := served[[]mode.Layout](t, c, "/api/v1/floor-layouts")
	require.Len(t, all, 5)
	for _, l := range all {
		for _, x := range l.Shapes {
			if x.ID == "drum-sander" {
				assert.Equal(t, l.Mode == "milling", x.X == 5700, l.Mode)
			}
		}
	}
	// Into the bench: kept, and said.
	got := c.put("PUT", "/api/v1/modes/milling/spots/drum-sander", map[string]any{"floor": [2]float64{2000, 4000}}, 200)
	assert.Contains(t, got, "same spot")
	got = c.put("POST", "/api/v1/modes/milling/spots/drum-sander/try", map[string]any{"floor": [2]float64{5700, 2800}}, 200)
	assert.Contains(t, got, `"hard":false`)
	got = c.put("POST", "/api/v1/modes/milling/spots/drum-sander/try", map[string]any{"floor": [2]float64{-4000, 1500}}, 200)
	assert.Contains(t, got, "outside the room")
	c.put("DELETE", "/api/v1/modes/milling/spots/drum-sander", nil, 200)
	sh, _ := c.st.Shop()
	m, err := sh.Mode("milling")
	require.NoError(t, err)
	assert.NotContains(t, m.Spots, "drum-sander")
	assert.Contains(t, c.put("PUT", "/api/v1/modes/milling/spots/bench", map[string]any{"state": "folded"}, 422), "is fixed")
	assert.Contains(t, c.put("PUT", "/api/v1/modes/milling/spots/planer", map[string]any{"state": "folded"}, 422), "not said to fold")
	assert.Contains(t, c.put("PUT", "/api/v1/modes/milling/spots/planer", map[string]any{}, 422), "say where")

	// Copied under its own name; of one name there are not two.
	c.put("POST", "/api/v1/modes", map[string]any{"name": "Milling long", "like": "milling"}, 200)
	assert.Contains(t, c.put("POST", "/api/v1/modes", map[string]any{"name": "MILLING", "like": "milling"}, 422), "already")
	c.put("PATCH", "/api/v1/modes/milling-long", map[string]any{"hours": 2.5, "name": "Long boards"}, 200)
	sh, _ = c.st.Shop()
	m, err = sh.Mode("milling-long")
	require.NoError(t, err)
	assert.Equal(t, "Long boards", m.Name)
	assert.InDelta(t, 2.5, m.HoursPerWeek, 1e-9)
}

func TestJobsAndWishesAreRefusedWithWhatWouldBeRight(t *testing.T) {
	c := start(t)
	assert.Contains(t, c.put("PUT", "/api/v1/jobs", map[string]any{"jobs": []shop.Job{{Name: "Oar", Path: []string{"door", "nowhere"}}}}, 422), "door is the main door")
	assert.Contains(t, c.put("PUT", "/api/v1/jobs", map[string]any{"jobs": []shop.Job{{Name: "  "}}}, 422), "has a name")
	c.put("PUT", "/api/v1/jobs", map[string]any{"jobs": []shop.Job{{Name: "Oar", PerMonth: 3, Path: []string{"door", "bandsaw", "planer"}}}}, 200)
	assert.Contains(t, c.put("GET", "/api/v1/floor-judged", nil, 200), "Oar")
	// A stop that leaves is left out of the job.
	c.put("PATCH", "/api/v1/stations/planer", map[string]any{"wished": "soon"}, 422)
	c.put("PATCH", "/api/v1/stations/planer", map[string]any{"wished": "2027-05-31"}, 200)
	assert.Contains(t, c.put("POST", "/api/v1/modes/evening/room", map[string]any{"thing": "bench"}, 422), "fixed")
	assert.Contains(t, c.put("POST", "/api/v1/stations/bench/swap", map[string]any{"with": "drill-press"}, 422), "do not fit")
}

// Where something would live best counts the modes by their hours: when the room is in one mode all week, the answer is that of
// the room as it stands then, and not that of the room as it stands now.
func TestWhereCountsTheModesByTheirHours(t *testing.T) {
	c := start(t)
	sh, _ := c.st.Shop()
	for _, m := range sh.Modes {
		hours := 0.0
		if m.ID == "evening" {
			hours = 120
		}
		c.put("PATCH", "/api/v1/modes/"+m.ID, map[string]any{"hours": hours}, 200)
	}
	sh, _ = c.st.Shop()
	then, err := sh.InMode("evening")
	require.NoError(t, err)
	in, err := fit.New(then)
	require.NoError(t, err)
	now, err := fit.New(sh)
	require.NoError(t, err)
	evening, stands := in.AsItIs(), now.AsItIs()
	otherwise := 0
	for i := range sh.Items {
		if i%5 != 0 || !sh.Items[i].Needs() {
			continue
		}
		got := served[api.Answer](t, c, "/api/v1/items/"+sh.Items[i].ID+"/best")
		a, _ := evening.Find(i)
		b, _ := stands.Find(i)
		require.Equal(t, a.Allowed, got.Allowed, sh.Items[i].Name)
		if a.Allowed {
			assert.InDelta(t, a.Here, got.Here, 1e-6, sh.Items[i].Name)
			if !b.Allowed || b.Home.Place != a.Home.Place || b.Here != a.Here {
				otherwise++
			}
		}
	}
	assert.Positive(t, otherwise, "the skiff changes nothing")
}
