package api_test

import (
	"context"
	"encoding/json"
	"fmt"
	"html"
	"io"
	"log/slog"
	"net/http"
	"net/http/cookiejar"
	"net/http/httptest"
	"net/url"
	"path/filepath"
	"slices"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"hobrak/demo"
	"hobrak/internal/api"
	"hobrak/internal/core/shop"
	"hobrak/internal/share"
	"hobrak/internal/store"
)

// household is a shop that is shared: its machine, and browsers elsewhere.
type household struct {
	t     *testing.T
	st    *store.Store
	srv   *api.Server
	here  string // address of the way that is for the machine alone
	far   string
	trust http.RoundTripper
}

func shared(t *testing.T, path string) *household {
	t.Helper()
	sh, err := shop.Read(demo.Pantry)
	require.NoError(t, err)
	st, err := store.Open(context.Background(), path, sh)
	require.NoError(t, err)
	h := &household{t: t, st: st}
	far := httptest.NewUnstartedServer(http.HandlerFunc(func(w http.ResponseWriter, r *http.Request) { h.srv.Handler().ServeHTTP(w, r) }))
	far.StartTLS()
	h.far = far.URL
	h.srv = api.New(st, slog.New(slog.DiscardHandler), nil, api.WithSharing(api.Sharing{Phrase: share.Hash("correct horse battery"), Addresses: []string{far.URL}, Here: true}))
	here := httptest.NewServer(http.HandlerFunc(func(w http.ResponseWriter, r *http.Request) {
		h.srv.Handler().ServeHTTP(w, r.WithContext(api.AtTheMachine(r.Context())))
	}))
	h.here = here.URL
	t.Cleanup(func() { h.srv.Close(); here.Close(); far.Close(); st.Close() })
	h.trust = far.Client().Transport
	return h
}

// browser keeps its cookies.
type browser struct {
	t    *testing.T
	at   string
	http *http.Client
}

func (h *household) browser(at string) *browser {
	jar, err := cookiejar.New(nil)
	require.NoError(h.t, err)
	return &browser{h.t, at, &http.Client{Jar: jar, Transport: h.trust, CheckRedirect: func(*http.Request, []*http.Request) error { return http.ErrUseLastResponse }}}
}

func (b *browser) ask(method, path, body string) (int, string) {
	b.t.Helper()
	req, err := http.NewRequest(method, b.at+path, strings.NewReader(body))
	require.NoError(b.t, err)
	if body != "" {
		req.Header.Set("Content-Type", "application/json")
	}
	resp, err := b.http.Do(req)
	require.NoError(b.t, err)
	defer resp.Body.Close()
	data, err := io.ReadAll(resp.Body)
	require.NoError(b.t, err)
	return resp.StatusCode, string(data)
}

func (b *browser) form(path string, fields map[string]string) (int, string) {
	b.t.Helper()
	v := url.Values{}
	for k, x := range fields {
		v.Set(k, x)
	}
	resp, err := b.http.PostForm(b.at+path, v)
	require.NoError(b.t, err)
	defer resp.Body.Close()
	return resp.StatusCode, resp.Header.Get("Location")
}

// paired is a browser that was let in by a code from the machine.
func (h *household) paired(role, name string) *browser {
	h.t.Helper()
	status, body := h.browser(h.here).ask("POST", "/api/v1/devices/pairing", fmt.Sprintf(`{"role":%q,"name":%q}`, role, name))
	require.Equal(h.t, 200, status, body)
	var p api.Pairing
	require.NoError(h.t, json.Unmarshal([]byte(body), &p))
	assert.Contains(h.t, p.QR, "<svg")
	u, err := url.Parse(p.URL)
	require.NoError(h.t, err)
	b := h.browser(h.far)
	status, page := b.ask("GET", u.RequestURI(), "")
	require.Equal(h.t, 200, status)
	assert.Contains(h.t, page, html.EscapeString(name))
	_, again := b.ask("GET", u.RequestURI(), "")
	assert.Equal(h.t, page, again, "a look at the link does not use it up")
	status, _ = b.form("/pair", map[string]string{"code": u.Query().Get("code"), "name": name})
	require.Equal(h.t, 303, status)
	other := h.browser(h.far)
	status, _ = other.form("/pair", map[string]string{"code": u.Query().Get("code"), "name": "a second one"})
	assert.Equal(h.t, 410, status, "a code lets one in, once")
	return b
}

func TestEachRoleDoesWhatItMayAndNothingElse(t *testing.T) {
	h := shared(t, filepath.Join(t.TempDir(), "shop.db"))
	status, _ := h.browser(h.here).ask("GET", "/api/v1/shop", "")
	assert.Equal(t, 200, status, "nobody is asked at the machine itself")
	status, _ = h.browser(h.far).ask("GET", "/api/v1/shop", "")
	assert.Equal(t, 401, status)

	var spec struct {
		Paths map[string]map[string]struct {
			OperationID string `json:"operationId"`
		} `json:"paths"`
	}
	raw, err := h.srv.OpenAPI()
	require.NoError(t, err)
	require.NoError(t, json.Unmarshal(raw, &spec))
	for _, role := range []string{store.Maker, store.Household, store.Guest} {
		b := h.paired(role, "the "+role+"'s phone")
		_, said := b.ask("GET", "/api/v1/session", "")
		assert.Contains(t, said, role)
		asked, refused := 0, 0
		for path, methods := range spec.Paths {
			for method, op := range methods {
				if strings.Contains(path, "stream") || op.OperationID == "backup" || op.OperationID == "show-out" {
					continue // they go on, write files, or send it away
				}
				to := strings.NewReplacer("{id}", "none", "{name}", "none", "{form}", "csv", "{thing}", "none", "{what}", "walls", "{revision}", "1", "{later}", "1", "{about}", "thing").Replace(path)
				body := ""
				if method != "get" && method != "delete" {
					body = `{"nonsense":1}`
				}
				status, said := b.ask(strings.ToUpper(method), to, body)
				asked++
				may := api.Allowed(role, strings.ToUpper(method), op.OperationID)
				if !may {
					refused++
				}
				assert.Equal(t, !may, status == http.StatusForbidden, "%s: %s %s: %d %s", role, method, to, status, said)
				if method != "get" && role != store.Maker && !slices.Contains([]string{"tap", "read-code", "find-wood"}, op.OperationID) {
					assert.Equal(t, 403, status, "%s: %s %s", role, method, to)
				}
			}
		}
		t.Logf("%s: %d operations asked, %d refused", role, asked, refused)
		assert.Equal(t, role != store.Maker, refused > 0)
	}
	assert.EqualValues(t, 1, h.st.Head(), "none of that changed the shop")
}

func TestWhatADeviceDoesIsNotedWithItsName(t *testing.T) {
	h := shared(t, filepath.Join(t.TempDir(), "shop.db"))
	b := h.paired(store.Household, "Kitchen phone")
	status, said := b.ask("POST", "/api/v1/taps", `{"what":"taken","items":[{"item":"block-plane","n":1}],"device":"somebody else"}`)
	require.Equal(t, 201, status, said)
	list, err := h.st.Outstanding(context.Background())
	require.NoError(t, err)
	require.Len(t, list, 1)
	assert.Equal(t, "Kitchen phone", list[0].Device)
	m := h.paired(store.Maker, "Bench tablet")
	req, err := http.NewRequest("PUT", h.far+"/api/v1/settings/one-out", strings.NewReader(`{"on":true}`))
	require.NoError(t, err)
	req.Header.Set("Content-Type", "application/json")
	req.Header.Set("If-Match", `"1"`)
	resp, err := m.http.Do(req)
	require.NoError(t, err)
	resp.Body.Close()
	require.Equal(t, 200, resp.StatusCode)
	r, err := h.st.Revision(context.Background(), 2)
	require.NoError(t, err)
	assert.Equal(t, "Bench tablet", r.Who)
}

func TestADeviceIsShownOutAtOnceAndStaysInOverARestart(t *testing.T) {
	path := filepath.Join(t.TempDir(), "shop.db")
	h := shared(t, path)
	b := h.paired(store.Guest, "Guest's phone")
	status, _ := b.ask("GET", "/api/v1/round", "")
	assert.Equal(t, 200, status)

	// The server starts again: it knows the device.
	h.srv.Close()
	h.srv = api.New(h.st, slog.New(slog.DiscardHandler), nil, api.WithSharing(api.Sharing{Phrase: share.Hash("correct horse battery"), Addresses: []string{h.far}, Here: true}))
	status, _ = b.ask("GET", "/api/v1/round", "")
	assert.Equal(t, 200, status)

	m := h.browser(h.here)
	list, err := h.st.Devices(context.Background())
	require.NoError(t, err)
	require.Len(t, list, 1)
	status, _ = m.ask("PATCH", fmt.Sprintf("/api/v1/devices/%d", list[0].ID), `{"role":"household"}`)
	require.Equal(t, 204, status)
	_, said := b.ask("GET", "/api/v1/session", "")
	assert.Contains(t, said, "household", "from the next thing it asks")
	status, _ = m.ask("DELETE", fmt.Sprintf("/api/v1/devices/%d", list[0].ID), "")
	require.Equal(t, 204, status)
	status, _ = b.ask("GET", "/api/v1/round", "")
	assert.Equal(t, 401, status)
	status, _ = m.ask("DELETE", fmt.Sprintf("/api/v1/devices/%d", list[0].ID), "")
	assert.Equal(t, 404, status)
}

func TestTwentyWrongPhrasesAreTooMany(t *testing.T) {
	h := shared(t, filepath.Join(t.TempDir(), "shop.db"))
	b := h.browser(h.far)
	said := map[int]int{}
	for i := range 20 {
		status, _ := b.form("/enter", map[string]string{"phrase": fmt.Sprintf("wrong phrase %d", i)})
		said[status]++
	}
	assert.LessOrEqual(t, said[403], 7, "five at once, then one every ten seconds")
	assert.GreaterOrEqual(t, said[429], 13)
	status, _ := b.form("/enter", map[string]string{"phrase": "correct horse battery"})
	assert.Equal(t, 429, status, "nor is the right one looked at then")
	// Whoever is in already, and the machine itself, are not kept from anything by that.
	status, _ = h.browser(h.here).ask("GET", "/api/v1/shop", "")
	assert.Equal(t, 200, status)
}

func TestPhraseCookieAndWhereItLeads(t *testing.T) {
	h := shared(t, filepath.Join(t.TempDir(), "shop.db"))
	b := h.browser(h.far)
	status, page := b.ask("GET", "/s/p/K1", "")
	assert.Equal(t, 401, status)
	assert.Contains(t, page, `name="to" value="/s/p/K1"`, "who opened the code of a place goes on to it")
	for _, elsewhere := range []string{"//evil.example", "https://evil.example", "/\\evil.example", "/a\r\nSet-Cookie: x"} {
		_, to := h.browser(h.far).form("/enter", map[string]string{"phrase": "correct horse battery", "to": elsewhere})
		assert.NotContains(t, to, "evil", elsewhere)
	}
}

func TestAPageElsewhereNeitherEntersNorPairs(t *testing.T) {
	h := shared(t, filepath.Join(t.TempDir(), "shop.db"))
	for _, path := range []string{"/enter", "/pair", "/leave"} {
		req, err := http.NewRequest("POST", h.far+path, strings.NewReader("phrase=correct+horse+battery"))
		require.NoError(t, err)
		req.Header.Set("Content-Type", "application/x-www-form-urlencoded")
		req.Header.Set("Origin", "https://evil.example")
		resp, err := h.browser(h.far).http.Do(req)
		require.NoError(t, err)
		resp.Body.Close()
		assert.Equal(t, 403, resp.StatusCode, path)
		assert.Empty(t, resp.Cookies(), path)
	}
}

// A session that ends in the middle of a look round: what was seen is kept, and after the phrase it goes on where it was.
func TestALookGoesOnAfterTheSessionEnded(t *testing.T) {
	h := shared(t, filepath.Join(t.TempDir(), "shop.db"))
	b := h.paired(store.Maker, "Phone")
	status, said := b.ask("POST", "/api/v1/look", `{"scope":""}`)
	require.Equal(t, 200, status, said)
	sh, _ := h.st.Snapshot()
	home := sh.Homes[0]
	status, said = b.ask("POST", "/api/v1/look/sights", fmt.Sprintf(`{"place":%q,"items":[%q],"state":"missing"}`, home.Place, home.Item))
	require.Equal(t, 200, status, said)
	list, err := h.st.Devices(context.Background())
	require.NoError(t, err)
	_, err = h.st.SeenAgain(context.Background(), list[0].ID, -time.Hour)
	require.NoError(t, err)
	h.srv.Close()
	h.srv = api.New(h.st, slog.New(slog.DiscardHandler), nil, api.WithSharing(api.Sharing{Phrase: share.Hash("correct horse battery"), Addresses: []string{h.far}}))
	status, _ = b.ask("GET", "/api/v1/look", "")
	assert.Equal(t, 401, status)
	status, _ = b.form("/enter", map[string]string{"phrase": "correct horse battery", "name": "Phone"})
	require.Equal(t, 303, status)
	status, said = b.ask("GET", "/api/v1/look", "")
	assert.Equal(t, 200, status)
	assert.Contains(t, said, `"state":"missing"`)
}
