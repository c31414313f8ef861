package api_test

import (
	"context"
	"encoding/json"
	"fmt"
	"io"
	"log/slog"
	"math"
	"net/http"
	"net/http/cookiejar"
	"net/http/httptest"
	"net/url"
	"path/filepath"
	"strings"
	"testing"
	"testing/fstest"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"hobrak/demo"
	"hobrak/internal/api"
	"hobrak/internal/core/length"
	"hobrak/internal/core/shop"
	"hobrak/internal/core/shoptest"
	"hobrak/internal/store"
)

// ask sends a request with headers and gives the answer.
func (c client) ask(method, path, body string, headers map[string]string) (*http.Response, string) {
	c.t.Helper()
	req, err := http.NewRequest(method, c.url+path, strings.NewReader(body))
	require.NoError(c.t, err)
	for k, v := range headers {
		if k == "Host" {
			req.Host = v
		}
		req.Header.Set(k, v)
	}
	resp, err := http.DefaultClient.Do(req)
	require.NoError(c.t, err)
	defer resp.Body.Close()
	data, err := io.ReadAll(resp.Body)
	require.NoError(c.t, err)
	return resp, string(data)
}

func TestOnlyByItsOwnNames(t *testing.T) {
	c := start(t)
	for host, status := range map[string]int{"evil.example": 421, "evil.example:8080": 421, "127.0.0.1.evil.example": 421, "localhost": 200, "LOCALHOST:99": 200, "127.0.0.1": 200, "[::1]:80": 200, "192.168.1.5:8080": 200} {
		for _, path := range []string{"/api/v1/health", "/api/v1/shop"} {
			resp, body := c.ask("GET", path, "", map[string]string{"Host": host})
			assert.Equal(t, status, resp.StatusCode, "%s: %s", host, body)
		}
	}
}

func TestAnswersSayThatTheyAreNotKeptAndPagesLoadNothingElse(t *testing.T) {
	c := start(t)
	for _, path := range []string{"/api/v1/health", "/api/v1/shop", "/api/v1/nothing", "/api/v1/items/none/why"} {
		resp, _ := c.ask("GET", path, "", nil)
		assert.Equal(t, "no-store", resp.Header.Get("Cache-Control"), path)
		assert.Equal(t, "nosniff", resp.Header.Get("X-Content-Type-Options"))
		assert.Equal(t, "DENY", resp.Header.Get("X-Frame-Options"))
		assert.Equal(t, "no-referrer", resp.Header.Get("Referrer-Policy"))
		for _, part := range []string{"default-src 'self'", "object-src 'none'", "base-uri 'none'", "form-action 'self'", "frame-ancestors 'none'"} {
			assert.Contains(t, resp.Header.Get("Content-Security-Policy"), part, path)
		}
	}
}

func TestMethodsAndBodiesAreWhatTheySayTheyAre(t *testing.T) {
	c := start(t)
	resp, body := c.ask("DELETE", "/api/v1/shop", "", nil)
	assert.Equal(t, 405, resp.StatusCode, body)
	resp, _ = c.ask("PATCH", "/api/v1/health", "", nil)
	assert.Equal(t, 405, resp.StatusCode)
	for _, kind := range []string{"", "text/plain", "application/x-www-form-urlencoded", "/;"} {
		headers := map[string]string{"Content-Type": kind}
		if kind == "" {
			headers = nil
		}
		resp, body = c.ask("POST", "/api/v1/lines", `{"text":"plane"}`, headers)
		assert.Equal(t, 415, resp.StatusCode, "%q: %s", kind, body)
	}
	assert.EqualValues(t, 1, c.revision(), "none of them did anything")
	for _, site := range []map[string]string{{"Origin": "http://evil.example"}, {"Sec-Fetch-Site": "cross-site"}} {
		site["Content-Type"] = "application/json"
		resp, _ = c.ask("PUT", "/api/v1/settings/one-out", `{"base":1,"on":true}`, site)
		assert.Equal(t, 403, resp.StatusCode)
		assert.Contains(t, resp.Header.Get("Content-Type"), "problem+json")
	}
}

func TestAnAnswerIsWholeOrAnError(t *testing.T) {
	// What has no JSON form is answered with 500 and a problem, not with 200 and half an answer.
	rec := httptest.NewRecorder()
	require.NoError(t, api.MarshalWhole(rec, map[string]float64{"a": 1, "b": math.Inf(1)}))
	assert.Equal(t, 500, rec.Code)
	assert.Contains(t, rec.Header().Get("Content-Type"), "problem+json")
	var p map[string]any
	require.NoError(t, json.Unmarshal(rec.Body.Bytes(), &p))
	rec = httptest.NewRecorder()
	require.NoError(t, api.MarshalWhole(rec, map[string]float64{"a": 1}))
	assert.Equal(t, "{\"a\":1}\n", rec.Body.String())
}

func TestAPostBeforeAWallIsShown(t *testing.T) {
	c := start(t)
	sh, _ := c.st.Shop()
	for _, x := range []float64{0, 3000, 7180} {
		next := sh.Clone()
		next.Areas[0].Floor.Features[0].X, next.Areas[0].Floor.Features[0].Y = length.MM(x), length.MM(x/2)
		_, err := c.st.Change(context.Background(), c.revision(), "me", "post", func(s *shop.Shop) error { *s = *next; return nil })
		require.NoError(t, err)
		status, out := c.do("GET", "/api/v1/round", nil)
		require.Equal(t, 200, status)
		assert.NotEmpty(t, out["round"])
	}
}

// phrased is a server behind a pass phrase.
func phrased(t *testing.T) client {
	sh, err := shop.Read(demo.Pantry)
	require.NoError(t, err)
	st, err := store.Open(context.Background(), filepath.Join(t.TempDir(), "shop.db"), sh)
	require.NoError(t, err)
	srv := api.New(st, slog.New(slog.DiscardHandler), nil, api.WithPhrase("correct horse battery"))
	h := httptest.NewServer(srv.Handler())
	t.Cleanup(func() { srv.Close(); h.Close(); st.Close() })
	return client{t, h.URL, st, srv}
}

func TestBehindAPassPhraseNothingIsSeenWithoutIt(t *testing.T) {
	c := phrased(t)
	resp, body := c.ask("GET", "/api/v1/shop", "", nil)
	assert.Equal(t, 401, resp.StatusCode)
	assert.NotContains(t, body, "areas")
	resp, body = c.ask("GET", "/", "", nil)
	assert.Equal(t, 401, resp.StatusCode)
	assert.Contains(t, body, "Pass phrase")
	resp, _ = c.ask("GET", "/api/v1/health", "", nil)
	assert.Equal(t, 200, resp.StatusCode)
	resp, _ = c.ask("GET", "/api/v1/shop", "", map[string]string{"Cookie": "hobrak=guessed"})
	assert.Equal(t, 401, resp.StatusCode)

	jar, err := cookiejar.New(nil)
	require.NoError(t, err)
	h := &http.Client{Jar: jar, CheckRedirect: func(*http.Request, []*http.Request) error { return http.ErrUseLastResponse }}
	enter := func(phrase string) *http.Response {
		resp, err := h.PostForm(c.url+"/enter", url.Values{"phrase": {phrase}})
		require.NoError(t, err)
		resp.Body.Close()
		return resp
	}
	assert.Equal(t, 403, enter("wrong").StatusCode)
	in := enter("correct horse battery")
	require.Equal(t, 303, in.StatusCode)
	key := in.Cookies()[0]
	assert.True(t, key.HttpOnly)
	assert.Equal(t, http.SameSiteStrictMode, key.SameSite)
	got, err := h.Get(c.url + "/api/v1/shop")
	require.NoError(t, err)
	got.Body.Close()
	assert.Equal(t, 200, got.StatusCode)
	out, err := h.Post(c.url+"/leave", "", nil)
	require.NoError(t, err)
	out.Body.Close()
	resp, _ = c.ask("GET", "/api/v1/shop", "", map[string]string{"Cookie": key.Name + "=" + key.Value})
	assert.Equal(t, 401, resp.StatusCode, "who left is out")
	tries := 0
	for range 8 {
		if enter("guess").StatusCode == http.StatusTooManyRequests {
			tries++
		}
	}
	assert.Positive(t, tries, "guessing is slowed down")
}

func TestWhereTheShopIsKeptAndItsBackupsAreTold(t *testing.T) {
	c := start(t)
	status, out := c.do("POST", "/api/v1/backups", nil)
	require.Equal(t, 200, status)
	assert.Len(t, out["list"], 1)
	_, out = c.do("GET", "/api/v1/about", nil)
	assert.Equal(t, c.st.Path(), out["database"])
	kept := out["backups"].(map[string]any)
	assert.Equal(t, filepath.Join(filepath.Dir(c.st.Path()), "backups"), kept["folder"])
	assert.Len(t, kept["list"], 1)
}

func TestSearchesWaitForEachOtherInSightAndCanAllBeStopped(t *testing.T) {
	c := start(t)
	begin := func() string {
		status, out := c.do("POST", "/api/v1/plans", map[string]any{"seconds": 60})
		require.Equal(t, 202, status, out)
		return out["id"].(string)
	}
	ids := []string{begin(), begin(), begin()}
	state := func(id string) (string, float64) {
		_, out := c.do("GET", "/api/v1/plans/"+id, nil)
		return out["state"].(string), out["ahead"].(float64)
	}
	require.Eventually(t, func() bool { s, _ := state(ids[0]); return s == "running" }, time.Minute, 10*time.Millisecond)
	for k, id := range ids[1:] {
		s, ahead := state(id)
		assert.Equal(t, "waiting", s)
		assert.EqualValues(t, k+1, ahead)
	}
	resp, all := c.ask("GET", "/api/v1/plans", "", nil)
	require.Equal(t, 200, resp.StatusCode)
	assert.Equal(t, 3, strings.Count(all, `"state"`))
	for range 12 {
		if status, _ := c.do("POST", "/api/v1/plans", map[string]any{"seconds": 60}); status != 202 {
			assert.Equal(t, 503, status)
			break
		}
	}
	status, out := c.do("POST", "/api/v1/plans", map[string]any{"seconds": 60})
	require.Equal(t, 503, status)
	assert.Contains(t, out["detail"], "waiting already")
	status, _ = c.do("POST", "/api/v1/plans/"+ids[1]+"/stop", map[string]any{}) // one that waits
	require.Equal(t, 200, status)
	s, _ := state(ids[1])
	assert.Equal(t, "done", s)
	status, _ = c.do("POST", "/api/v1/plans/"+ids[0]+"/stop", map[string]any{})
	require.Equal(t, 200, status)
	require.Eventually(t, func() bool { s, _ := state(ids[2]); return s == "running" }, time.Minute, 10*time.Millisecond, "the next one's turn")
	var runs []map[string]any
	_, all = c.ask("GET", "/api/v1/plans", "", nil)
	require.NoError(t, json.Unmarshal([]byte(all), &runs))
	for _, r := range runs {
		resp, _ := c.ask("DELETE", fmt.Sprintf("/api/v1/plans/%v", r["id"]), "", nil)
		assert.Equal(t, 204, resp.StatusCode)
	}
	_, all = c.ask("GET", "/api/v1/plans", "", nil)
	assert.Equal(t, "[]\n", all)
}

func TestPlansSurviveARestartAndAreNotTakenForOthers(t *testing.T) {
	shoptest.OneAfterTheOther(t)
	ctx := context.Background()
	path := filepath.Join(t.TempDir(), "shop.db")
	sh := few(t)
	begin := func() (client, func()) {
		st, err := store.Open(ctx, path, sh)
		require.NoError(t, err)
		srv := api.New(st, slog.New(slog.DiscardHandler), nil)
		h := httptest.NewServer(srv.Handler())
		return client{t, h.URL, st, srv}, func() { srv.Close(); h.Close(); require.NoError(t, st.Close()) }
	}
	c, end := begin()
	ids := []string{}
	for _, ask := range []struct {
		path string
		body map[string]any
	}{{"/api/v1/plans", map[string]any{"seconds": .5}}, {"/api/v1/plans", map[string]any{"seconds": .5, "mode": "evening", "wishes": map[string]any{"moving": 1}}}, {"/api/v1/plans/storage", map[string]any{"style": "open", "seconds": .1}}} {
		status, out := c.do("POST", ask.path, ask.body)
		require.Equal(t, 202, status, out)
		id := out["id"].(string)
		ids = append(ids, id)
		status, _ = c.do("GET", "/api/v1/plans/"+id+"/proposal", nil) // waits until it is done
		require.Equal(t, 200, status)
	}
	before := map[string]map[string]any{}
	for _, id := range ids {
		_, before[id] = c.do("GET", "/api/v1/plans/"+id+"/proposal", nil)
	}
	status, running := c.do("POST", "/api/v1/plans", map[string]any{"seconds": 100})
	require.Equal(t, 202, status)
	end()

	c, end = begin()
	defer func() { end() }()
	for _, id := range ids {
		status, after := c.do("GET", "/api/v1/plans/"+id+"/proposal", nil)
		require.Equal(t, 200, status, after)
		for _, part := range []string{"round", "moves", "lost", "made"} {
			assert.Equal(t, before[id][part], after[part], "plan %s: %s", id, part)
		}
		assert.Equal(t, before[id]["table"].(map[string]any)["paid"], after["table"].(map[string]any)["paid"])
	}
	status, _ = c.do("GET", "/api/v1/plans/"+running["id"].(string), nil)
	assert.Equal(t, 404, status, "what was not done is gone")
	status, out := c.do("POST", "/api/v1/plans", map[string]any{"seconds": .3})
	require.Equal(t, 202, status)
	assert.NotContains(t, append(ids, running["id"].(string)), out["id"], "its number is a new one")
	status, _ = c.do("POST", "/api/v1/plans/"+ids[0]+"/accept", map[string]any{"base": 7})
	assert.Equal(t, 412, status, "on another revision")
	status, taken := c.do("POST", "/api/v1/plans/"+ids[0]+"/accept", map[string]any{"base": 1})
	require.Equal(t, 200, status, taken)
	status, _ = c.do("POST", "/api/v1/plans/"+ids[1]+"/accept", map[string]any{"base": 1})
	assert.Equal(t, 412, status, "the shop has moved on")
}

func TestASlipInTheSurveyIsRefusedAtItsField(t *testing.T) {
	c := start(t)
	enter := func(path, text string) (int, map[string]any) {
		return c.do("POST", "/api/v1/areas/main/survey", map[string]any{"base": c.revision(), "entries": []any{map[string]any{"path": path, "text": text}}})
	}
	for path, text := range map[string]string{"ceiling/joists/spacing": "6000", "ceiling/joists/first": "4000", "walls/B/studs/spacing": "6000", "walls/B/surface": "marzipan"} {
		before := c.revision()
		status, out := enter(path, text)
		assert.Equal(t, 422, status, "%s: %v", path, out)
		assert.Equal(t, before, c.revision(), path)
	}
	again, err := store.Open(context.Background(), c.st.Path(), nil)
	require.NoError(t, err, "the file opens")
	require.NoError(t, again.Close())
}

func TestFilesOfTheFrontEndArePackedAndOldOnesAreRefused(t *testing.T) {
	static := fstest.MapFS{"index.html": {Data: []byte("<html>")}, "assets/a.js": {Data: []byte("plain")}, "assets/a.js.br": {Data: []byte("tight")}, "assets/a.js.gz": {Data: []byte("zip")}}
	c := startServing(t, few(t), static)
	for _, q := range []struct{ accept, coding, body string }{{"gzip, br", "br", "tight"}, {"gzip", "gzip", "zip"}, {"identity", "", "plain"}} {
		answer, body := c.ask("GET", "/assets/a.js", "", map[string]string{"Accept-Encoding": q.accept})
		assert.Equal(t, q.coding, answer.Header.Get("Content-Encoding"), q.accept)
		assert.Equal(t, q.body, body)
		assert.Contains(t, answer.Header.Get("Content-Type"), "javascript")
	}
	answer, body := c.ask("GET", "/assets/gone.js", "", nil)
	assert.Equal(t, 404, answer.StatusCode)
	assert.Contains(t, body, "reload the page")
	_, body = c.ask("GET", "/round", "", nil)
	assert.Equal(t, "<html>", body)
}
