package api_test

import (
	"fmt"
	"io"
	"net/http"
	"strings"
	"testing"
	"time"

	ics "github.com/arran4/golang-ical"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"hobrak/internal/core/shop"
)

// What cannot be is refused by its name and changes nothing; what can is kept, due on its day, and in the calendar; the feed answers at its
// secret address only, and at an old one no more.
func TestUpkeepIsKeptOrRefusedByName(t *testing.T) {
	c := start(t)
	sh, _ := c.st.Shop()
	item := sh.Items[0].ID
	say := func(method, path string, body map[string]any) (int, string) {
		body["base"] = c.revision()
		code, got := c.do(method, path, body)
		where := ""
		if list, ok := got["errors"].([]any); ok && len(list) > 0 {
			where, _ = list[0].(map[string]any)["location"].(string)
		}
		return code, where
	}
	before := c.revision()
	for _, x := range []struct {
		method, path, where string
		body                map[string]any
	}{
		{http.MethodPut, "/api/v1/upkeep", "upkeep[0].days", map[string]any{"upkeep": []any{map[string]any{"id": "", "name": "Oil"}}}},
		{http.MethodPut, "/api/v1/upkeep", "upkeep[0].days", map[string]any{"upkeep": []any{map[string]any{"id": "", "name": "Oil", "yearly": "13-40"}}}},
		{http.MethodPut, "/api/v1/upkeep", "upkeep[0].last", map[string]any{"upkeep": []any{map[string]any{"id": "", "name": "Oil", "days": 3, "last": "2199-01-01"}}}},
		{http.MethodPut, "/api/v1/items/" + item + "/stock", "stock.par", map[string]any{"stock": map[string]any{"has": 1, "low": 5, "par": 2}}},
		{http.MethodPut, "/api/v1/items/" + item + "/stock", "stock.opened", map[string]any{"stock": map[string]any{"has": 1, "opened": "soon"}}},
		{http.MethodPut, "/api/v1/items/" + item + "/limbo", "review", map[string]any{"limbo": "sell", "review": "some day"}},
		{http.MethodPatch, "/api/v1/records", "frost_moves", map[string]any{"frost_moves": "15.10."}},
		{http.MethodPatch, "/api/v1/records", "trials[0].without", map[string]any{"trials": []any{map[string]any{"id": "", "without": " "}}}},
		{http.MethodPut, "/api/v1/projects/new", "name", map[string]any{"name": " "}},
		{http.MethodPut, "/api/v1/projects/new", "typed.w", map[string]any{"name": "Chest", "typed": map[string]string{"w": "wide"}}},
		{http.MethodPut, "/api/v1/projects/new", "dries", map[string]any{"name": "Chest", "dries": "tomorrow"}},
		{http.MethodPut, "/api/v1/projects/nothing", "path.id", map[string]any{"name": "Chest"}},
		{http.MethodPost, "/api/v1/upkeep/nothing/done", "path.id", map[string]any{}},
	} {
		code, where := say(x.method, x.path, x.body)
		assert.Contains(t, []int{404, 422}, code, x.body)
		assert.Contains(t, where, x.where, x.body)
	}
	assert.Equal(t, before, c.revision())

	last := time.Now().AddDate(0, 0, -10).Format(time.DateOnly)
	for _, x := range []struct {
		method, path string
		body         map[string]any
	}{
		{http.MethodPut, "/api/v1/upkeep", map[string]any{"upkeep": []any{map[string]any{"id": "", "name": "Oil; the bench, top", "days": 7, "last": last}}}},
		{http.MethodPut, "/api/v1/items/" + item + "/stock", map[string]any{"stock": map[string]any{"has": 3, "low": 2}}},
		{http.MethodPut, "/api/v1/items/" + item + "/limbo", map[string]any{"limbo": "repair", "goes_to": "the smith"}},
		{http.MethodPut, "/api/v1/projects/new", map[string]any{"name": "Chest", "touched": "today", "typed": map[string]string{"w": "90 cm", "d": "450"}}},
	} {
		code, where := say(x.method, x.path, x.body)
		require.Equal(t, 200, code, "%v: %s", x.body, where)
	}
	code, _ := say(http.MethodPost, "/api/v1/items/"+item+"/stock/used", map[string]any{"n": 2})
	require.Equal(t, 200, code)
	sh, _ = c.st.Shop()
	it := shop.NewIndex(sh).Item(item)
	assert.InDelta(t, 1, it.Stock.Has, 1e-9)
	assert.Equal(t, time.Now().Format(time.DateOnly), it.LimboSince)
	assert.InDelta(t, 900, sh.Settings.Projects[0].W.MM(), .1)

	text := func(path string) (int, string) {
		r, err := http.Get(c.url + path)
		require.NoError(t, err)
		defer r.Body.Close()
		b := new(strings.Builder)
		_, err = io.Copy(b, r.Body)
		require.NoError(t, err)
		return r.StatusCode, b.String()
	}
	_, feed := c.do(http.MethodGet, "/api/v1/due/feed", nil)
	path := feed["path"].(string)
	code, cal := text(path)
	require.Equal(t, 200, code)
	read, err := ics.ParseCalendar(strings.NewReader(cal))
	require.NoError(t, err)
	found := false
	for _, e := range read.Events() {
		found = found || e.GetProperty(ics.ComponentPropertySummary).Value == "Oil; the bench, top" || strings.Contains(e.GetProperty(ics.ComponentPropertySummary).Value, "the bench")
	}
	assert.True(t, found, "what is due is in the calendar")
	code, _ = c.do(http.MethodPost, "/api/v1/due/feed", map[string]any{})
	require.Equal(t, 200, code)
	code, _ = text(path)
	assert.Equal(t, 404, code, "the old address answers no more")
	code, _ = text("/api/v1/feed/guess.ics")
	assert.Equal(t, 404, code)

	// A kept day names nobody; what is not there is not found.
	_, kept := c.do(http.MethodPost, "/api/v1/snapshots", map[string]any{})
	require.NotNil(t, kept["id"])
	code, page := text("/api/v1/review/page?from=1")
	require.Equal(t, 200, code)
	for _, p := range sh.Settings.People {
		assert.NotContains(t, page, ">"+p.ID+"<")
	}
	code, _ = text("/api/v1/review?from=99")
	assert.Equal(t, 404, code)
	code, door := text("/api/v1/cautions/page")
	require.Equal(t, 200, code)
	assert.Contains(t, door, "Oily rags")
	code, _ = c.do(http.MethodPost, "/api/v1/new-room", map[string]any{"line": "a shed"})
	assert.Equal(t, 422, code)
	code, got := c.do(http.MethodPost, "/api/v1/new-room", map[string]any{"line": "5.6 x 4.1 x 2.5, door A 900x2000 at 300", "stair": "narrow"})
	assert.Equal(t, 422, code)
	assert.Contains(t, fmt.Sprint(got["errors"]), "body.stair")
	// What was regretted is said where something like it is chosen.
	code, _ = say(http.MethodPatch, "/api/v1/records", map[string]any{"regrets": []any{map[string]any{"id": "", "kind": "shelf", "says": "open shelves only gathered dust"}}})
	require.Equal(t, 200, code)
	resp, sized := c.ask(http.MethodPost, "/api/v1/storage/size", `{"items":["`+sh.Items[0].ID+`"],"reserve":0}`, map[string]string{"Content-Type": "application/json"})
	require.Equal(t, 200, resp.StatusCode, sized)
	assert.Contains(t, sized, "you wrote once: open shelves only gathered dust")
}
