package api_test

import (
	"net/http"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

func TestASwapThatIsToldIsMadeAndSavesWhatItSaid(t *testing.T) {
	c := start(t)
	handling := func() float64 {
		_, seen := c.do(http.MethodGet, "/api/v1/round", nil)
		return seen["round"].(map[string]any)["totals"].(map[string]any)["seconds"].(float64)
	}
	list := c.list("/api/v1/swaps")
	require.NotEmpty(t, list)
	require.LessOrEqual(t, len(list), 5)
	before := handling()
	var items []string
	moves := list[0]["moves"].([]any)
	for _, m := range moves {
		items = append(items, m.(map[string]any)["item"].(string))
		assert.NotEqual(t, m.(map[string]any)["from"], m.(map[string]any)["to"])
		assert.Zero(t, m.(map[string]any)["idle"], "nothing was noted yet")
	}
	code, got := c.do(http.MethodPost, "/api/v1/swaps", map[string]any{"base": c.revision(), "items": []string{items[0], "skiff"}})
	assert.Equal(t, 422, code)
	assert.Contains(t, got["detail"], "look at the list again")
	code, got = c.do(http.MethodPost, "/api/v1/swaps", map[string]any{"base": c.revision(), "items": items})
	require.Equal(t, 200, code, got)
	assert.InDelta(t, before-list[0]["saves"].(float64), handling(), 1e-6*before)
	for _, x := range c.list("/api/v1/swaps") {
		assert.Less(t, x["saves"].(float64), list[0]["saves"].(float64)+1e-9)
	}
}

func TestASwapTellsWhatWasNotUsedForLong(t *testing.T) {
	c := start(t)
	long := time.Now().AddDate(0, 0, -100).Format(time.DateOnly)
	list := c.list("/api/v1/swaps")
	first := list[0]["moves"].([]any)[0].(map[string]any)["item"].(string)
	code, got := c.do(http.MethodPost, "/api/v1/events", map[string]any{"what": "used", "item": first, "at": long})
	require.Equal(t, 201, code, got)
	list = c.list("/api/v1/swaps")
	assert.InDelta(t, 100.0/7, list[0]["moves"].([]any)[0].(map[string]any)["idle"], .2)
}

func TestWhatIsWishedForIsTriedBeforeItIsBought(t *testing.T) {
	c := start(t)
	add := func(line string) string {
		code, got := c.do(http.MethodPost, "/api/v1/items", map[string]any{"base": c.revision(), "lines": []string{line}})
		require.Equal(t, 200, code, got)
		id := got["ids"].([]any)[0].(string)
		code, got = c.do(http.MethodPatch, "/api/v1/items", map[string]any{"base": c.revision(), "ids": []string{id}, "field": "status", "text": "wished"})
		require.Equal(t, 200, code, got)
		return id
	}
	small, large := add("marking gauge 60x200x30 0.2kg weekly @bench hang"), add("barn door 2400x2600x60 60kg weekly @bench hang")
	before, _ := c.st.Shop()
	code, got := c.do(http.MethodGet, "/api/v1/items/"+small+"/admit", nil)
	require.Equal(t, 200, code, got)
	assert.Equal(t, true, got["found"], got)
	assert.NotEmpty(t, got["place"])
	code, got = c.do(http.MethodGet, "/api/v1/items/"+large+"/admit", nil)
	require.Equal(t, 200, code, got)
	assert.Equal(t, false, got["found"])
	assert.NotEmpty(t, got["why"])
	assert.Contains(t, got["change"], "neither walls, ceiling nor floor have room")
	after, _ := c.st.Shop()
	assert.Equal(t, before, after, "trying changes nothing")
	code, got = c.do(http.MethodPost, "/api/v1/items/"+small+"/admit", map[string]any{"base": c.revision(), "others": 2})
	assert.Equal(t, 422, code)
	assert.Contains(t, got["detail"], "wished for")
}
