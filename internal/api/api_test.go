package api_test

import (
	"bufio"
	"bytes"
	"context"
	"encoding/json"
	"fmt"
	"io"
	"io/fs"
	"log/slog"
	"maps"
	"net/http"
	"net/http/httptest"
	"path/filepath"
	"regexp"
	"slices"
	"strconv"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"hobrak/demo"
	"hobrak/internal/api"
	"hobrak/internal/core/shop"
	"hobrak/internal/core/shoptest"
	"hobrak/internal/store"
)

// client talks to a real server on a real database file.
type client struct {
	t   testing.TB
	url string
	st  *store.Store
	srv *api.Server
}

func start(t *testing.T) client {
	sh, err := shop.Read(demo.Slipway)
	require.NoError(t, err)
	return startWith(t, sh)
}

// few is the boat bay with every third thing in it: what takes long in the whole takes less.
func few(t *testing.T) *shop.Shop {
	sh, err := shop.Read(demo.Slipway)
	require.NoError(t, err)
	kept := map[string]bool{}
	for i := 0; i < len(sh.Items); i += 3 {
		kept[sh.Items[i].ID] = true
	}
	sh.Items = slices.DeleteFunc(sh.Items, func(it shop.Item) bool { return !kept[it.ID] })
	sh.Homes = slices.DeleteFunc(sh.Homes, func(h shop.Home) bool { return !kept[h.Item] })
	require.NoError(t, sh.Validate())
	return sh
}

func startWith(t testing.TB, sh *shop.Shop) client { return startServing(t, sh, nil) }

// startServing has files of a front end as well.
func startServing(t testing.TB, sh *shop.Shop, static fs.FS) client {
	st, err := store.Open(context.Background(), filepath.Join(t.TempDir(), "shop.db"), sh)
	require.NoError(t, err)
	srv := api.New(st, slog.New(slog.NewTextHandler(io.Discard, nil)), static)
	h := httptest.NewServer(srv.Handler())
	t.Cleanup(func() { srv.Close(); h.Close(); st.Close() })
	return client{t, h.URL, st, srv}
}

var inQuery = regexp.MustCompile(`[?&]base=(\d+)`)

// baseOf takes the base of a change out of a path or body, as the header that says it.
func baseOf(path string, body any) (string, any, string) {
	if m := inQuery.FindStringSubmatch(path); m != nil {
		return strings.Replace(path, m[0], "", 1), body, strconv.Quote(m[1])
	}
	b, ok := body.(map[string]any)
	if !ok || b["base"] == nil {
		return path, body, ""
	}
	match := strconv.Quote(fmt.Sprint(b["base"]))
	b = maps.Clone(b)
	delete(b, "base")
	return path, b, match
}

// do asks and gives the status and the answer.
func (c client) do(method, path string, body any) (int, map[string]any) {
	c.t.Helper()
	var in io.Reader
	// The base of a change is its If-Match.
	path, body, match := baseOf(path, body)
	switch b := body.(type) {
	case nil:
	case []byte:
		in = bytes.NewReader(b)
	default:
		raw, err := json.Marshal(b)
		require.NoError(c.t, err)
		in = bytes.NewReader(raw)
	}
	req, err := http.NewRequest(method, c.url+path, in)
	require.NoError(c.t, err)
	if match != "" {
		req.Header.Set("If-Match", match)
	}
	if in != nil {
		req.Header.Set("Content-Type", "application/json")
	}
	resp, err := http.DefaultClient.Do(req)
	require.NoError(c.t, err)
	defer resp.Body.Close()
	raw, err := io.ReadAll(resp.Body)
	require.NoError(c.t, err)
	if resp.StatusCode >= 400 {
		require.Contains(c.t, resp.Header.Get("Content-Type"), "application/problem+json")
	}
	out := map[string]any{}
	if len(raw) > 0 && raw[0] == '{' {
		require.NoError(c.t, json.Unmarshal(raw, &out), string(raw))
	} else if len(raw) > 0 {
		out["list"] = string(raw)
	}
	return resp.StatusCode, out
}

func (c client) revision() int64 { _, r := c.st.Shop(); return r }

func TestARoundIsServed(t *testing.T) {
	c := start(t)
	status, out := c.do("GET", "/api/v1/round", nil)
	require.Equal(t, 200, status)
	r := out["round"].(map[string]any)
	assert.Equal(t, "Slipway Workshop", r["name"])
	assert.Len(t, r["places"], 52)
	assert.Equal(t, 25.0, r["totals"].(map[string]any)["homeless"])
}

func TestAHomeIsTriedGivenAndTakenBack(t *testing.T) {
	c := start(t)
	status, out := c.do("POST", "/api/v1/items/strap-clamp/try", map[string]any{"place": "A1", "x": 1300, "z": 800})
	require.Equal(t, 200, status)
	require.Equal(t, true, out["allowed"], out["why"])
	spot := out["spot"].(map[string]any)
	spot["base"] = 1
	status, out = c.do("PUT", "/api/v1/items/strap-clamp/home", spot)
	require.Equal(t, 200, status, out)
	assert.EqualValues(t, 2, out["id"])
	// The same base again is stale, and the answer says what happened.
	status, out = c.do("DELETE", "/api/v1/items/strap-clamp/home?base=1", nil)
	require.Equal(t, 412, status)
	assert.Contains(t, out["detail"], "Strap clamp to A1")
	status, _ = c.do("DELETE", "/api/v1/items/strap-clamp/home?base=2", nil)
	require.Equal(t, 200, status)
	status, _ = c.do("POST", "/api/v1/undo", map[string]any{"base": 3})
	require.Equal(t, 200, status)
	sh, _ := c.st.Shop()
	assert.Len(t, shop.NewIndex(sh).Homes("strap-clamp"), 1)
}

func TestRefusalsNameTheFieldAndLeaveTheShop(t *testing.T) {
	c := start(t)
	for _, x := range []struct {
		method, path string
		body         any
		status       int
		says         string
		where        string
	}{
		{"PUT", "/api/v1/items/shop-vacuum/home", map[string]any{"base": 1, "place": "B1"}, 422, "holds hang", "body.place"},
		{"PUT", "/api/v1/items/shop-vacuum/home", map[string]any{"base": 1, "place": "Z9"}, 422, "no place", "body.place"},
		{"PUT", "/api/v1/items/shop-vacuum/home", map[string]any{"base": 1, "place": "B1", "rot": 45}, 422, "", "body.rot"},
		{"PUT", "/api/v1/items/shop-vacuum/home", map[string]any{"base": 1, "place": "B1", "colour": 1}, 422, "", "body.colour"},
		{"PUT", "/api/v1/items/nothing/home", map[string]any{"base": 1, "place": "B1"}, 404, "no item", "path.id"},
		{"GET", "/api/v1/items/nothing/why", nil, 404, "no item", "path.id"},
		{"POST", "/api/v1/undo", map[string]any{"base": 1}, 409, "nothing to do", ""},
		{"POST", "/api/v1/plans/77/stop", nil, 404, "no plan", ""},
		{"PUT", "/api/v1/shop?base=1", []byte(`{"format":"hobrak-shop","version":9}`), 422, "version 9", "shop.version"},
		{"PUT", "/api/v1/shop?base=1", []byte(strings.Replace(string(demo.Slipway), `"kg": 2.4`, `"kg": -2.4`, 1)), 422, "too small", "shop.items[0].kg"},
		{"PUT", "/api/v1/shop?base=1", []byte(`{"items":` + strings.Repeat("[", 1<<20)), 422, "nested deeper", ""},
		{"POST", "/api/v1/lines", []byte(`{"text":"` + strings.Repeat("x", 70<<10) + `"}`), 413, "", ""},
		{"POST", "/api/v1/undo", nil, 428, "If-Match", ""},
	} {
		status, out := c.do(x.method, x.path, x.body)
		require.Equal(t, x.status, status, "%s %s: %v", x.method, x.path, out)
		raw, _ := json.Marshal(out)
		assert.Contains(t, string(raw), x.says, x.path)
		if x.where != "" {
			assert.Contains(t, string(raw), `"location":"`+x.where+`"`, x.path)
		}
	}
	assert.EqualValues(t, 1, c.revision())
}

func TestAForeignPageMayNotWrite(t *testing.T) {
	c := start(t)
	req, err := http.NewRequest("POST", c.url+"/api/v1/undo", strings.NewReader(`{"base":1}`))
	require.NoError(t, err)
	req.Header.Set("Origin", "http://elsewhere.example")
	req.Header.Set("Sec-Fetch-Site", "cross-site")
	resp, err := http.DefaultClient.Do(req)
	require.NoError(t, err)
	resp.Body.Close()
	assert.Equal(t, http.StatusForbidden, resp.StatusCode)
}

func TestAShopFileComesBackAsItWentIn(t *testing.T) {
	c := start(t)
	status, out := c.do("PUT", "/api/v1/shop?base=1", demo.Pantry)
	require.Equal(t, 200, status, out)
	status, out = c.do("GET", "/api/v1/shop", nil)
	require.Equal(t, 200, status)
	raw, err := json.Marshal(out["shop"])
	require.NoError(t, err)
	got, err := shop.Read(raw)
	require.NoError(t, err)
	assert.Equal(t, string(demo.Pantry), string(shop.Write(got)))
}

// events reads a stream until stop says so.
func (c client) events(path string, stop func(event, data string) bool) {
	c.t.Helper()
	ctx, cancel := context.WithTimeout(context.Background(), 3*time.Minute)
	defer cancel()
	req, err := http.NewRequestWithContext(ctx, "GET", c.url+path, nil)
	require.NoError(c.t, err)
	resp, err := http.DefaultClient.Do(req)
	require.NoError(c.t, err)
	defer resp.Body.Close()
	require.Equal(c.t, "text/event-stream", resp.Header.Get("Content-Type"))
	event := ""
	for lines := bufio.NewScanner(resp.Body); lines.Scan(); {
		if name, ok := strings.CutPrefix(lines.Text(), "event: "); ok {
			event = name
		}
		if data, ok := strings.CutPrefix(lines.Text(), "data: "); ok && stop(event, data) {
			return
		}
	}
	c.t.Fatal("the stream ended early")
}

func TestAFitIsFollowedStoppedAndAccepted(t *testing.T) {
	c := start(t)
	status, run := c.do("POST", "/api/v1/plans", map[string]any{"seconds": 60})
	require.Equal(t, 202, status)
	id := run["id"].(string)
	seen := 0
	c.events("/api/v1/plans/"+id+"/stream", func(event, data string) bool {
		assert.Equal(t, "run", event)
		var r map[string]any
		require.NoError(t, json.Unmarshal([]byte(data), &r))
		if r["objective"].(float64) > 0 {
			seen++
			assert.GreaterOrEqual(t, r["objective"], r["bound"])
		}
		return seen >= 3
	})
	stopped := time.Now()
	status, run = c.do("POST", "/api/v1/plans/"+id+"/stop", nil)
	require.Equal(t, 200, status)
	t.Logf("stopped after %v", time.Since(stopped))
	assert.Equal(t, "done", run["state"])
	assert.Less(t, run["objective"], run["before"])
	status, p := c.do("GET", "/api/v1/plans/"+id+"/proposal", nil)
	require.Equal(t, 200, status)
	assert.NotEmpty(t, p["moves"])
	assert.EqualValues(t, 1, c.revision(), "nothing moves before it is accepted")
	status, _ = c.do("POST", "/api/v1/plans/"+id+"/accept", map[string]any{"base": 1})
	require.Equal(t, 200, status)
	assert.EqualValues(t, 2, c.revision())
	status, _ = c.do("GET", "/api/v1/plans/"+id, nil)
	assert.Equal(t, 404, status, "an accepted plan is gone")
}

func TestAPlanMadeOnAnOldShopIsRefused(t *testing.T) {
	c := start(t)
	_, run := c.do("POST", "/api/v1/plans", map[string]any{"seconds": 0.2})
	id := run["id"].(string)
	_, _ = c.do("GET", "/api/v1/plans/"+id+"/proposal", nil)
	sh, _ := c.st.Shop()
	item := sh.Homes[0].Item
	status, _ := c.do("DELETE", "/api/v1/items/"+item+"/home?base=1", nil)
	require.Equal(t, 200, status)
	status, out := c.do("POST", "/api/v1/plans/"+id+"/accept", map[string]any{"base": 2})
	require.Equal(t, 412, status)
	assert.Contains(t, out["detail"], "changed meanwhile")
	status, _ = c.do("DELETE", "/api/v1/plans/"+id, nil)
	assert.Equal(t, 204, status)
}

func TestChangesAreStreamed(t *testing.T) {
	c := start(t)
	sh, _ := c.st.Shop()
	item := sh.Homes[0].Item
	begun := false
	c.events("/api/v1/changes/stream", func(event, data string) bool {
		if !begun { // first where the shop is, so that nothing is missed between looking and listening
			assert.Equal(t, "here", event)
			assert.Contains(t, data, fmt.Sprintf(`"revision":%d`, c.st.Head()))
			begun = true
			go c.do("DELETE", "/api/v1/items/"+item+"/home?base=1", nil)
			return false
		}
		assert.Equal(t, "revision", event)
		assert.Contains(t, data, fmt.Sprintf(`"id":"%s 1"`, item))
		return true
	})
}

func TestFindForgivesSlipsOverHTTP(t *testing.T) {
	c := start(t)
	_, out := c.do("GET", "/api/v1/find?q=dovtail", nil)
	assert.Contains(t, out["list"], `"id":"dovetail-saw"`)
	assert.Contains(t, out["list"], `"sure":false`)
}

// waited for a run to end.
func (c client) waited(id string) map[string]any {
	c.t.Helper()
	code, got := c.do("GET", "/api/v1/plans/"+id+"/proposal", nil)
	require.Equal(c.t, 200, code, got)
	return got
}

func TestAPartOfAPlanIsAccepted(t *testing.T) {
	shoptest.OneAfterTheOther(t)
	c := start(t)
	code, got := c.do("POST", "/api/v1/plans", map[string]any{"seconds": 1, "wishes": map[string]any{"together": 3}})
	require.Equal(t, 202, code, got)
	p := c.waited(got["id"].(string))
	table := p["table"].(map[string]any)
	assert.NotEmpty(t, table["stations"])
	assert.Len(t, table["orders"], 5)
	paid := table["paid"].([]any)[0].(map[string]any)
	assert.Equal(t, "together", paid["name"])
	assert.Equal(t, 3.0, paid["price"])
	move := p["moves"].([]any)[0].(map[string]any)
	item := move["item"].(string)
	code, got = c.do("POST", "/api/v1/plans/"+got["id"].(string)+"/accept", map[string]any{"base": 1, "items": []string{item}})
	require.Equal(t, 200, code, got)
	sh, revision := c.st.Shop()
	assert.EqualValues(t, 2, revision)
	assert.Equal(t, move["to"], shop.NewIndex(sh).Homes(item)[0].Place)

	code, got = c.do("GET", "/api/v1/plans/contradictions", nil)
	assert.Equal(t, 200, code)
	assert.Equal(t, "[]", strings.TrimSpace(got["list"].(string)))
	code, _ = c.do("POST", "/api/v1/plans", map[string]any{"wishes": map[string]any{"dust": -1}})
	assert.Equal(t, 422, code)
}

func TestRoomIsMadeForAThing(t *testing.T) {
	c := start(t)
	code, got := c.do("GET", "/api/v1/items/f-clamp-1000/admit?others=2", nil)
	require.Equal(t, 200, code)
	require.Equal(t, true, got["found"], got)
	moved := got["moved"].([]any)
	place := got["place"]
	code, got = c.do("POST", "/api/v1/items/f-clamp-1000/admit", map[string]any{"base": 1, "others": 2})
	require.Equal(t, 200, code, got)
	sh, _ := c.st.Shop()
	ix := shop.NewIndex(sh)
	assert.Equal(t, place, ix.Homes("f-clamp-1000")[0].Place)
	for _, m := range moved {
		x := m.(map[string]any)
		assert.Equal(t, x["to"], ix.Homes(x["item"].(string))[0].Place)
	}
	code, _ = c.do("GET", "/api/v1/items/ghost/admit", nil)
	assert.Equal(t, 404, code)
}

func TestStorageIsProposedAndTakenOver(t *testing.T) {
	shoptest.OneAfterTheOther(t)
	c := startWith(t, few(t))
	code, got := c.do("POST", "/api/v1/plans/storage", map[string]any{"style": "open", "bare": true, "kept": []string{"B1"}, "seconds": .1})
	require.Equal(t, 202, code, got)
	id := got["id"].(string)
	p := c.waited(id)
	made := p["made"].(map[string]any)
	assert.Greater(t, len(made["made"].([]any)), 10)
	assert.Positive(t, made["sheet"])
	code, got = c.do("POST", "/api/v1/plans/"+id+"/accept", map[string]any{"base": 1, "walls": []string{"B"}})
	assert.Equal(t, 422, code, got)
	code, got = c.do("POST", "/api/v1/plans/"+id+"/accept", map[string]any{"base": 1})
	require.Equal(t, 200, code, got)
	sh, _ := c.st.Shop()
	assert.Len(t, sh.Places, len(p["round"].(map[string]any)["places"].([]any)))
	assert.NotNil(t, shop.NewIndex(sh).Place("B1"))
	code, _ = c.do("POST", "/api/v1/plans/storage", map[string]any{"style": "baroque"})
	assert.Equal(t, 422, code)
}

func TestWhatIfAnswersAndIsNotTakenOver(t *testing.T) {
	shoptest.OneAfterTheOther(t)
	c := start(t)
	code, got := c.do("POST", "/api/v1/plans/what-if", map[string]any{"wall": "D", "seconds": 1})
	require.Equal(t, 202, code, got)
	assert.Equal(t, "wall D left alone", got["question"])
	id := got["id"].(string)
	p := c.waited(id)
	for _, x := range p["round"].(map[string]any)["places"].([]any) {
		assert.NotEqual(t, "D1", x.(map[string]any)["id"])
	}
	code, got = c.do("POST", "/api/v1/plans/"+id+"/accept", map[string]any{"base": 1})
	assert.Equal(t, 422, code)
	assert.Contains(t, got["detail"], "answers a question")
	for _, bad := range []map[string]any{{}, {"wall": "Q"}, {"stature": "tall"}, {"stature": "9 m"}, {"family": "ghosts", "more": .1}} {
		code, _ = c.do("POST", "/api/v1/plans/what-if", bad)
		assert.Equal(t, 422, code, bad)
	}
	code, got = c.do("POST", "/api/v1/plans/what-if", map[string]any{"stature": "5 ft 1 in", "seconds": .5})
	assert.Equal(t, 202, code, got)
}
