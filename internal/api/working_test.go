package api_test

import (
	"encoding/json"
	"net/http"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"hobrak/demo"
	"hobrak/internal/core/shop"
	"hobrak/internal/core/shoptest"
)

// list asks for an answer that is a list.
func (c client) list(path string) (out []map[string]any) {
	c.t.Helper()
	_, got := c.do(http.MethodGet, path, nil)
	require.NoError(c.t, json.Unmarshal([]byte(got["list"].(string)), &out))
	return out
}

func TestHowTheShopIsWorkedInIsKept(t *testing.T) {
	shoptest.OneAfterTheOther(t)
	c := startWith(t, few(t))
	_, now := c.do(http.MethodGet, "/api/v1/settings/working", nil)
	assert.Contains(t, now["families"], "planes")
	assert.Empty(t, now["together"])
	code, got := c.do(http.MethodPut, "/api/v1/settings/together", map[string]any{"base": c.revision(), "families": []string{"planes"}})
	require.Equal(t, 200, code, got)
	code, got = c.do(http.MethodPut, "/api/v1/settings/together", map[string]any{"base": c.revision(), "families": []string{"planes", "gnomes"}})
	assert.Equal(t, 422, code)
	assert.Contains(t, got["detail"], `family "gnomes"`)
	code, got = c.do(http.MethodPut, "/api/v1/settings/prices", map[string]any{"base": c.revision(), "currency": "£", "sheet": 22.5, "rail": 4})
	require.Equal(t, 200, code, got)
	_, now = c.do(http.MethodGet, "/api/v1/settings/working", nil)
	assert.Equal(t, []any{"planes"}, now["together"])
	assert.InDelta(t, 22.5, now["sheet"], 0)

	// A plan keeps the family together, and a proposal has a price.
	_, run := c.do(http.MethodPost, "/api/v1/plans", map[string]any{"seconds": 4})
	_, plan := c.do(http.MethodGet, "/api/v1/plans/"+run["id"].(string)+"/proposal", nil)
	cases := map[string]bool{}
	for _, it := range plan["round"].(map[string]any)["items"].([]any) {
		if it := it.(map[string]any); it["family"] == "planes" && it["place"] != "" {
			cases[it["place"].(string)] = true
		}
	}
	assert.Len(t, cases, 1)
	table := plan["table"].(map[string]any)
	for _, row := range []string{"walked", "walking", "fill", "in_use", "roomy"} {
		assert.Positive(t, table[row].(map[string]any)["before"], row)
		assert.Positive(t, table[row].(map[string]any)["after"], row)
	}
	assert.Less(t, table["walked"].(map[string]any)["after"], table["walked"].(map[string]any)["before"])
	_, run = c.do(http.MethodPost, "/api/v1/plans/storage", map[string]any{"style": "yours", "seconds": .1})
	_, made := c.do(http.MethodGet, "/api/v1/plans/"+run["id"].(string)+"/proposal", nil)
	m := made["made"].(map[string]any)
	assert.InDelta(t, 22.5*m["sheet"].(float64)+4*m["rail"].(float64), m["money"], 1e-6)
}

func TestWhatIsUsedIsNotedAndLearned(t *testing.T) {
	c := start(t)
	assert.Empty(t, c.list("/api/v1/learned"))
	ago := func(days int) string { return time.Now().AddDate(0, 0, -days).Format(time.DateOnly) }
	for _, d := range []int{30, 21, 14, 7, 3, 1} {
		code, got := c.do(http.MethodPost, "/api/v1/events", map[string]any{"what": "used", "item": "shoulder-plane", "at": ago(d)})
		require.Equal(t, 201, code, got)
		assert.Equal(t, "B6", got["place"], "where it lives")
	}
	before := c.revision()
	code, got := c.do(http.MethodPost, "/api/v1/events", map[string]any{"what": "used", "item": "shoulder-plane", "at": time.Now().AddDate(0, 0, 2).Format(time.DateOnly)})
	assert.Equal(t, 422, code)
	assert.Contains(t, got["detail"], "yet to come")
	code, _ = c.do(http.MethodPost, "/api/v1/events", map[string]any{"what": "used", "item": "ghost"})
	assert.Equal(t, 404, code)
	code, got = c.do(http.MethodPost, "/api/v1/events", map[string]any{"what": "borrowed", "item": "shoulder-plane"})
	assert.Equal(t, 422, code, got)
	// One use was not so; a thing is taken and comes back in part.
	list := c.list("/api/v1/events?item=shoulder-plane&limit=2")
	require.Len(t, list, 2)
	code, _ = c.do(http.MethodPost, "/api/v1/events", map[string]any{"what": "taken-back", "corrects": list[0]["id"]})
	require.Equal(t, 201, code)
	code, got = c.do(http.MethodPost, "/api/v1/events", map[string]any{"what": "taken-back", "corrects": list[0]["id"]})
	assert.Equal(t, 422, code)
	assert.Contains(t, got["detail"], "taken back already")
	assert.Len(t, c.list("/api/v1/events?item=shoulder-plane"), 5)
	code, _ = c.do(http.MethodPost, "/api/v1/events", map[string]any{"what": "taken", "item": "f-clamp-300", "n": 3})
	require.Equal(t, 201, code)
	code, _ = c.do(http.MethodPost, "/api/v1/events", map[string]any{"what": "put-back", "item": "f-clamp-300"})
	require.Equal(t, 201, code)
	out := c.list("/api/v1/out")
	require.Len(t, out, 1)
	assert.InDelta(t, 2, out[0]["n"], 0)
	uses := c.list("/api/v1/uses?days=10")
	require.Len(t, uses, 2)
	assert.Equal(t, map[string]any{"item": "f-clamp-300", "n": 3.0, "last": ago(0)}, uses[1], "what is taken is used")
	assert.Equal(t, map[string]any{"item": "shoulder-plane", "n": 2.0, "last": ago(3)}, uses[0])
	assert.Equal(t, before, c.revision(), "none of this is a change of the shop")
	rates := c.list("/api/v1/learned")
	require.NotEmpty(t, rates, "the others were not used for a month")
	code, got = c.do(http.MethodPost, "/api/v1/learned/take", map[string]any{"base": c.revision(), "items": []any{rates[0]["item"]}})
	require.Equal(t, 200, code, got)
	assert.Len(t, c.list("/api/v1/learned"), len(rates)-1)
	code, got = c.do(http.MethodPost, "/api/v1/learned/take", map[string]any{"base": c.revision(), "items": []string{"ghost"}})
	assert.Equal(t, 422, code)
	assert.Contains(t, got["detail"], "none of these")
}

func TestASelectionIsFittedAndSomebodyWhoStopsWaitsForNothing(t *testing.T) {
	shoptest.OneAfterTheOther(t)
	c := start(t)
	code, got := c.do(http.MethodPost, "/api/v1/plans", map[string]any{"items": []string{"jack-plane", "ghost"}})
	assert.Equal(t, 422, code)
	assert.Contains(t, got["detail"], `no item "ghost"`)
	_, run := c.do(http.MethodPost, "/api/v1/plans", map[string]any{"seconds": 5, "items": []string{"jack-plane"}})
	_, plan := c.do(http.MethodGet, "/api/v1/plans/"+run["id"].(string)+"/proposal", nil)
	for _, m := range plan["moves"].([]any) {
		assert.Equal(t, "jack-plane", m.(map[string]any)["item"], "%v", m)
	}
	// In a mode of the floor it is compared with that mode.
	code, got = c.do(http.MethodPost, "/api/v1/plans", map[string]any{"mode": "party"})
	assert.Equal(t, 422, code)
	assert.Contains(t, got["detail"], "there are day, milling, gluing, evening")
	_, run = c.do(http.MethodPost, "/api/v1/plans", map[string]any{"seconds": 2, "mode": "evening"})
	assert.Equal(t, "Homes, Skiff in", run["title"])
	_, plan = c.do(http.MethodGet, "/api/v1/plans/"+run["id"].(string)+"/proposal", nil)
	assert.NotEmpty(t, plan["moves"])
	code, got = c.do(http.MethodPost, "/api/v1/plans/"+run["id"].(string)+"/accept", map[string]any{"base": c.revision()})
	assert.Equal(t, 200, code, got)
	sh, _ := c.st.Shop()
	usual, err := shop.Read(demo.Slipway)
	require.NoError(t, err)
	assert.Equal(t, usual.Containers, sh.Containers, "homes are taken over, the floor stays")
	_, run = c.do(http.MethodPost, "/api/v1/plans", map[string]any{"seconds": 60})
	require.Eventually(t, func() bool { // into the search, with something found
		_, run = c.do(http.MethodGet, "/api/v1/plans/"+run["id"].(string), nil)
		return run["objective"].(float64) > 0 && run["objective"].(float64) < run["before"].(float64)
	}, 50*time.Second, 100*time.Millisecond)
	_, run = c.do(http.MethodPost, "/api/v1/plans/"+run["id"].(string)+"/stop", nil)
	assert.Equal(t, "done", run["state"])
	assert.Positive(t, run["objective"])
	code, got = c.do(http.MethodPost, "/api/v1/plans/"+run["id"].(string)+"/accept", map[string]any{"base": c.revision()})
	assert.Equal(t, 200, code, got)
}
