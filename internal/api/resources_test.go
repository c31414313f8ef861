package api_test

import (
	"encoding/json"
	"fmt"
	"io"
	"net/http"
	"slices"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"hobrak/internal/core/event"
	"hobrak/internal/core/shop"
	"hobrak/internal/core/shoptest"
)

// part of the shop as the API serves it, against the shop file.
func served[T any](t *testing.T, c client, path string) T {
	t.Helper()
	_, body := c.ask("GET", path, "", nil)
	var out T
	require.NoError(t, json.Unmarshal([]byte(body), &out), body)
	return out
}

func TestEveryPartIsServedAsTheShopFileHasIt(t *testing.T) {
	c := start(t)
	sh, _ := c.st.Shop()
	assert.Equal(t, sh.Items, served[[]shop.Item](t, c, "/api/v1/items"))
	assert.Equal(t, sh.Places, served[[]shop.Place](t, c, "/api/v1/places"))
	assert.Equal(t, sh.Containers, served[[]shop.Container](t, c, "/api/v1/containers"))
	assert.Equal(t, sh.Stations, served[[]shop.Station](t, c, "/api/v1/stations"))
	assert.Equal(t, sh.Areas, served[[]shop.Area](t, c, "/api/v1/areas"))
	assert.Equal(t, sh.Modes, served[[]shop.Mode](t, c, "/api/v1/modes"))
	assert.Equal(t, sh.Circuits, served[[]shop.Circuit](t, c, "/api/v1/circuits"))
	assert.Equal(t, sh.Homes, served[[]shop.Home](t, c, "/api/v1/homes"))
	assert.Equal(t, sh.Items[7], served[shop.Item](t, c, "/api/v1/items/"+sh.Items[7].ID))
	assert.Equal(t, sh.Modes[3], served[shop.Mode](t, c, "/api/v1/modes/"+sh.Modes[3].ID))
	inB1 := 0
	for _, h := range sh.Homes {
		if h.Place == "B1" {
			inB1++
		}
	}
	assert.Len(t, served[[]shop.Item](t, c, "/api/v1/items?place=B1"), inB1)
	for _, it := range served[[]shop.Item](t, c, "/api/v1/items?flag=flammable&hold=stand") {
		assert.True(t, it.Flagged(shop.Flammable), it.ID)
	}
	for _, p := range served[[]shop.Place](t, c, "/api/v1/places?kind=drawer&in=K2") {
		assert.True(t, p.Kind == "drawer" && p.At.In == "K2", p.ID)
	}
	for path, want := range map[string]int{"/api/v1/places?kind=hammock": 422, "/api/v1/items/ghost": 404, "/api/v1/revisions/9": 404, "/api/v1/revisions/1": 200, "/api/v1/events/1": 404} {
		resp, body := c.ask("GET", path, "", nil)
		assert.Equal(t, want, resp.StatusCode, "%s: %s", path, body)
		if want != 200 {
			assert.Contains(t, body, `"type":"urn:hobrak:problem:`, path)
		}
	}
}

func TestWhatDidNotChangeIsNotSentAgain(t *testing.T) {
	c := start(t)
	get := func(path, has string) (int, string) {
		resp, _ := c.ask("GET", path, "", map[string]string{"If-None-Match": has})
		return resp.StatusCode, resp.Header.Get("ETag")
	}
	for _, path := range []string{"/api/v1/round", "/api/v1/items", "/api/v1/items/jack-plane/why", "/api/v1/check", "/api/v1/uses"} {
		code, tag := get(path, "")
		require.Equal(t, 200, code, path)
		code, again := get(path, `"x", W/`+tag)
		assert.Equal(t, 304, code, path)
		assert.Equal(t, tag, again)
		// What happened touches what depends on it, and nothing else.
		_, err := c.st.Happened(t.Context(), event.Event{What: event.Used, Item: "jack-plane"})
		require.NoError(t, err)
		code, _ = get(path, tag)
		assert.Equal(t, strings.HasSuffix(path, "uses"), code == 200, path)
	}
	_, tag := get("/api/v1/round", "")
	code, _ := c.do(http.MethodPut, "/api/v1/settings/one-out", map[string]any{"base": c.revision(), "on": true})
	require.Equal(t, 200, code)
	code, newer := get("/api/v1/round", tag)
	assert.Equal(t, 200, code)
	// The ETag of what was looked at is what a change is made on.
	resp, body := c.ask("PUT", "/api/v1/settings/one-out", `{"on":false}`, map[string]string{"If-Match": tag, "Content-Type": "application/json"})
	assert.Equal(t, 412, resp.StatusCode, body)
	assert.Contains(t, body, "urn:hobrak:problem:stale")
	resp, body = c.ask("PUT", "/api/v1/settings/one-out", `{"on":false}`, map[string]string{"If-Match": newer, "Content-Type": "application/json"})
	assert.Equal(t, 200, resp.StatusCode, body)
	for _, wrong := range []string{"", "7", `"x"`, `"0"`, "*"} {
		resp, _ = c.ask("POST", "/api/v1/undo", "", map[string]string{"If-Match": wrong})
		assert.Contains(t, []int{422, 428}, resp.StatusCode, wrong)
	}
}

func TestEveryOperationIsDescribed(t *testing.T) {
	c := start(t)
	_, body := c.ask("GET", "/api/v1/openapi.json", "", nil)
	var doc struct {
		Paths map[string]map[string]struct {
			OperationID, Summary, Description string
			Tags                              []string
			Responses                         map[string]any
		}
		Servers []any
	}
	require.NoError(t, json.Unmarshal([]byte(body), &doc))
	assert.NotEmpty(t, doc.Servers)
	n := 0
	for path, ops := range doc.Paths {
		for method, o := range ops {
			n++
			what := method + " " + path
			assert.True(t, strings.HasPrefix(path, "/api/v1/"), what)
			assert.True(t, o.OperationID != "" && o.Summary != "" && o.Description != "" && len(o.Tags) == 1 && o.Tags[0] != "", "%s: %+v", what, o)
			assert.Contains(t, o.Responses, "422", what)
		}
	}
	assert.Greater(t, n, 90)
}

// BenchmarkReadersBesideAWriter tells how long the slowest hundredth of the readers wait
// while one writes without a pause.
func BenchmarkReadersBesideAWriter(b *testing.B) {
	c := startWith(b, shoptest.Made(3000, 300, 1))
	stop := make(chan struct{})
	done := make(chan int)
	go func() {
		n := 0
		for {
			select {
			case <-stop:
				done <- n
				return
			default:
			}
			n++
			_, _ = c.st.Change(b.Context(), c.st.Head(), "me", "a note", func(s *shop.Shop) error { s.Items[n%len(s.Items)].Notes = fmt.Sprint(n); return nil })
		}
	}()
	var took []time.Duration
	for b.Loop() {
		start := time.Now()
		resp, err := http.Get(fmt.Sprintf("%s/api/v1/items/i%d", c.url, len(took)%3000))
		require.NoError(b, err)
		_, err = io.Copy(io.Discard, resp.Body)
		require.NoError(b, err)
		resp.Body.Close()
		took = append(took, time.Since(start))
	}
	close(stop)
	writes := <-done
	slices.Sort(took)
	b.ReportMetric(float64(took[len(took)*99/100].Microseconds())/1000, "p99-ms")
	b.ReportMetric(float64(took[len(took)/2].Microseconds())/1000, "p50-ms")
	b.ReportMetric(float64(writes), "writes")
}

func TestTheShopGoesBackAndTwoMomentsAreCompared(t *testing.T) {
	c := start(t)
	first := c.revision()
	began, _ := c.st.Shop()
	code, got := c.do(http.MethodPost, "/api/v1/items", map[string]any{"base": first, "lines": []string{"toothing plane 50x240x90 1.2kg"}})
	require.Equal(t, 200, code, got)
	code, got = c.do(http.MethodDelete, "/api/v1/items/jack-plane/home", map[string]any{"base": c.revision()})
	require.Equal(t, 200, code, got)
	last := c.revision()
	code, got = c.do(http.MethodGet, fmt.Sprintf("/api/v1/revisions/%d/until/%d", first, last), nil)
	require.Equal(t, 200, code, got)
	assert.Equal(t, "Toothing plane", got["added"].([]any)[0].(map[string]any)["name"])
	assert.Equal(t, "jack-plane", got["moved"].([]any)[0].(map[string]any)["id"])
	assert.Empty(t, got["gone"])
	from, to := got["from"].(map[string]any), got["to"].(map[string]any)
	assert.Greater(t, to["seconds"], from["seconds"], "what has no home is looked for")
	code, got = c.do(http.MethodGet, fmt.Sprintf("/api/v1/revisions/%d/until/999", first), nil)
	assert.Equal(t, 404, code, got)
	code, got = c.do(http.MethodPost, fmt.Sprintf("/api/v1/revisions/%d/restore", first), map[string]any{"base": last})
	require.Equal(t, 200, code, got)
	now, _ := c.st.Shop()
	assert.Equal(t, string(shop.Write(began)), string(shop.Write(now)))
	code, _ = c.do(http.MethodPost, fmt.Sprintf("/api/v1/revisions/%d/restore", first), map[string]any{"base": last})
	assert.Equal(t, 412, code, "the shop has moved on")
	_, _ = c.do(http.MethodPost, "/api/v1/undo", map[string]any{"base": c.revision()})
	undone, _ := c.st.Shop()
	assert.Empty(t, slices.DeleteFunc(slices.Clone(undone.Homes), func(h shop.Home) bool { return h.Item != "jack-plane" }))
}

func TestDrawingsArePrintedAndWhatIsNotThereIsNamed(t *testing.T) {
	c := start(t)
	get := func(path string) (int, string) {
		answer, body := c.ask("GET", "/api/v1/print/"+path, "", nil)
		return answer.StatusCode, body
	}
	code, whole := get("wall/drawing.pdf?wall=B")
	assert.Equal(t, 200, code)
	_, cut := get("wall/drawing.pdf?wall=B&scale=10&paper=A4")
	assert.Equal(t, 1, strings.Count(whole, "/Type /Page\n"), "as large as one sheet takes")
	assert.Equal(t, 6, strings.Count(cut, "/Type /Page\n"), "7.3 m at 1 : 10 take three sheets by two")
	_, a3 := get("wall/drawing.pdf?wall=B&scale=10&paper=A3")
	assert.Less(t, strings.Count(a3, "/Type /Page\n"), 6)
	for _, path := range []string{"round/drawing.svg", "plan/drawing.png?scale=50", "contents/drawing.pdf", "wall/drawing.svg"} {
		code, body := get(path)
		assert.Equal(t, 200, code, path)
		assert.Greater(t, len(body), 1000, path)
	}
	code, body := get("wall/drawing.pdf?wall=Q")
	assert.Equal(t, 404, code)
	assert.Contains(t, body, "there are A, B, C, D")
	code, _ = get("wall/drawing.gif?wall=A")
	assert.Equal(t, 422, code)
}
