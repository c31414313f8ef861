package api_test

import (
	"io"
	"net/http"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

func (c client) enter(base int64, entries ...map[string]any) (int, map[string]any) {
	c.t.Helper()
	return c.do("POST", "/api/v1/areas/main/survey", map[string]any{"base": base, "entries": entries})
}

func entry(path, text string) map[string]any { return map[string]any{"path": path, "text": text} }

func TestAReadingChangesTheRoomAndCanBeUndone(t *testing.T) {
	c := start(t)
	status, out := c.do("GET", "/api/v1/areas/main/survey", nil)
	require.Equal(t, 200, status, out)
	assert.Len(t, out["walls"], 4)
	assert.Equal(t, true, out["report"].(map[string]any)["checked"])
	status, out = c.enter(1, entry("walls/B/length", "7.26 m"), entry("walls/D/length", "7260"))
	require.Equal(t, 200, status, out)
	// The diagonals still say 7.3 m: the change is suspect, and the report names what was taken last.
	assert.NotNil(t, out["report"].(map[string]any)["suspect"])
	status, out = c.enter(2, entry("measures/4/remove", ""), entry("measures/4/remove", ""))
	require.Equal(t, 200, status, out)
	sh, _ := c.st.Shop()
	assert.InDelta(t, 7260, sh.Areas[0].Frame(1).Length.MM(), .2)
	status, _ = c.do("POST", "/api/v1/undo", map[string]any{"base": 3})
	require.Equal(t, 200, status)
	status, _ = c.do("POST", "/api/v1/undo", map[string]any{"base": 4})
	require.Equal(t, 200, status)
	sh, _ = c.st.Shop()
	assert.InDelta(t, 7300, sh.Areas[0].Frame(1).Length.MM(), .01)
}

func TestWhatCannotBeIsRefusedAtItsFieldAndNothingIsStored(t *testing.T) {
	c := start(t)
	for _, x := range []struct{ path, text, says string }{
		{"walls/A/length", "four", "not a number"},
		{"walls/A/features/A-door/w", "5 m", "does not go into wall A"},
		{"walls/A/features/A-door/x", "1300", "overlap"},
		{"walls/A/top/0/z", "1.5 m", "reaches up to 2000 mm"},
		{"walls/A/studs/spacing", "40", "cannot stand 40 mm apart"},
	} {
		status, out := c.enter(1, entry(x.path, x.text))
		require.Equal(t, 422, status, out)
		assert.Contains(t, out["detail"], x.says)
		assert.Equal(t, x.path, out["errors"].([]any)[0].(map[string]any)["location"])
	}
	assert.EqualValues(t, 1, c.revision())
	status, out := c.do("POST", "/api/v1/areas/nowhere/survey", map[string]any{"base": 1, "entries": []any{entry("name", "x")}})
	assert.Equal(t, 404, status, out)
}

func TestAnAreaComesAndGoes(t *testing.T) {
	c := start(t)
	status, out := c.do("POST", "/api/v1/areas", map[string]any{"base": 1, "name": "Shed"})
	require.Equal(t, 200, status, out)
	assert.Len(t, out["areas"], 2)
	id := out["notes"].(map[string]any)["area"].(string)
	status, out = c.do("POST", "/api/v1/areas/"+id+"/survey", map[string]any{"base": 2, "entries": []any{entry("walk_seconds", "45"), entry("walls/A/length", "2.5 m")}})
	require.Equal(t, 200, status, out)
	status, _ = c.do("DELETE", "/api/v1/areas/"+id+"?base=3", nil)
	assert.Equal(t, 200, status)
	status, out = c.do("DELETE", "/api/v1/areas/main?base=4", nil)
	assert.Equal(t, 422, status)
	assert.Contains(t, out["detail"], "main area stays")
}

func TestFreeSpaceFiguresAndPapersAreServed(t *testing.T) {
	c := start(t)
	status, out := c.do("GET", "/api/v1/free", nil)
	require.Equal(t, 200, status)
	f := out["free"].(map[string]any)
	assert.Len(t, f["walls"], 4)
	assert.NotEmpty(t, f["dead"])
	status, out = c.do("POST", "/api/v1/areas/main/will-it-go", map[string]any{"sides": []string{"2440", "1220", "18 mm"}})
	require.Equal(t, 200, status)
	assert.Contains(t, out["list"], "stand-up")
	status, out = c.do("POST", "/api/v1/areas/main/will-it-go", map[string]any{"sides": []string{"2440", "wide", "18"}})
	assert.Equal(t, 422, status)
	assert.Equal(t, "body.sides[1]", out["errors"].([]any)[0].(map[string]any)["location"])
	for form, kind := range map[string]string{"pdf": "application/pdf", "svg": "image/svg+xml"} {
		resp, err := http.Get(c.url + "/api/v1/areas/main/sheet." + form)
		require.NoError(t, err)
		raw, err := io.ReadAll(resp.Body)
		resp.Body.Close()
		require.NoError(t, err)
		assert.Equal(t, 200, resp.StatusCode)
		assert.Equal(t, kind, resp.Header.Get("Content-Type"))
		assert.Greater(t, len(raw), 3000)
	}
	_, out = c.do("GET", "/api/v1/meter", nil)
	assert.Equal(t, false, out["there"])
	status, _ = c.do("POST", "/api/v1/meter/press", map[string]any{"aim": "walls/A/length", "unit": "m"})
	assert.Equal(t, 404, status)
}
