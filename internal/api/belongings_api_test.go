package api_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

func TestALineIsReadWithEveryPieceOfIt(t *testing.T) {
	c := start(t)
	status, out := c.do("POST", "/api/v1/lines", map[string]any{"text": "8 f-clamp 600 weekly @assembly colour:red"})
	require.Equal(t, 200, status, out)
	assert.Equal(t, "f-clamp", out["kind"])
	assert.EqualValues(t, 8, out["count"])
	assert.EqualValues(t, 1, out["unknown"])
	assert.Len(t, out["chips"], 6)
	assert.Equal(t, []any{"assembly"}, out["used_at"])
	status, out = c.do("GET", "/api/v1/kinds?q=dov", nil)
	require.Equal(t, 200, status)
	assert.Contains(t, out["list"], "dovetail saw")
	assert.Contains(t, out["list"], "dovetail jig")
}

func TestThingsAreListedChangedAndTakenOff(t *testing.T) {
	c := start(t)
	status, out := c.do("POST", "/api/v1/items", map[string]any{"base": 1, "lines": []string{"jack plane 360x65x140 2.3kg weekly", "old zither 300x200x100"}})
	require.Equal(t, 200, status, out)
	assert.Equal(t, []any{"jack-plane-2", "old-zither"}, out["ids"])
	status, out = c.do("PATCH", "/api/v1/items", map[string]any{"base": 2, "ids": []string{"jack-plane-2", "old-zither"}, "field": "family", "text": "heirlooms"})
	require.Equal(t, 200, status, out)
	status, out = c.do("PATCH", "/api/v1/items", map[string]any{"base": 3, "ids": []string{"jack-plane-2", "old-zither"}, "field": "w", "text": "broad"})
	require.Equal(t, 422, status)
	assert.Equal(t, "jack-plane-2.w", out["errors"].([]any)[0].(map[string]any)["location"])
	status, out = c.do("POST", "/api/v1/items/remove", map[string]any{"base": 3, "ids": []string{"old-zither", "jack-plane"}})
	require.Equal(t, 200, status, out)
	sh, _ := c.st.Shop()
	for i := range sh.Homes {
		assert.NotEqual(t, "jack-plane", sh.Homes[i].Item)
	}
	status, _ = c.do("POST", "/api/v1/undo", map[string]any{"base": 4})
	require.Equal(t, 200, status)
	status, out = c.do("GET", "/api/v1/items/jack-plane/why", nil)
	require.Equal(t, 200, status)
	assert.NotEmpty(t, out["place"], "undo brings the thing back with its home")
}

func TestOneBadLineKeepsAllOfThemOut(t *testing.T) {
	c := start(t)
	status, out := c.do("POST", "/api/v1/items", map[string]any{"base": 1, "lines": []string{"mallet", "@bench 3kg"}})
	require.Equal(t, 422, status)
	assert.Contains(t, out["detail"], "Begin with its name")
	assert.EqualValues(t, 1, c.revision())
}
