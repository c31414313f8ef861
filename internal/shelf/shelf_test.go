package shelf_test

import (
	"context"
	"encoding/json"
	"fmt"
	"log/slog"
	"net/http"
	"net/http/httptest"
	"os"
	"path/filepath"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"hobrak/internal/api"
	"hobrak/internal/core/length"
	"hobrak/internal/core/shop"
	"hobrak/internal/core/survey"
	"hobrak/internal/shelf"
	"hobrak/internal/store"
)

// beside opens a shelf with one shop on it.
func beside(t *testing.T) (http.Handler, *shelf.Shelf, string) {
	dir := t.TempDir()
	first := &shop.Shop{Format: shop.Format, Version: shop.Version, Settings: shop.Settings{Name: "First", Units: length.Metric}}
	survey.NewArea(first, "Workshop")
	st, err := store.Open(context.Background(), filepath.Join(dir, "shop.db"), first)
	require.NoError(t, err)
	quiet := slog.New(slog.DiscardHandler)
	var root *api.Server
	var s *shelf.Shelf
	s = shelf.New(st, first, func(_ string, st *store.Store) *api.Server {
		return api.New(st, quiet, nil, api.WithShelf(s), api.Behind(root))
	}, nil)
	root = api.New(st, quiet, nil, api.WithShelf(s))
	s.Root(root.Handler())
	t.Cleanup(func() {
		root.Close()
		require.NoError(t, s.Close())
		st.Close()
	})
	return s, s, dir
}

func ask(t *testing.T, h http.Handler, method, path, body string, header ...string) (int, map[string]any) {
	t.Helper()
	r := httptest.NewRequest(method, "http://127.0.0.1:8080"+path, strings.NewReader(body))
	r.Header.Set("Content-Type", "application/json")
	for i := 0; i+1 < len(header); i += 2 {
		r.Header.Set(header[i], header[i+1])
	}
	w := httptest.NewRecorder()
	h.ServeHTTP(w, r)
	var out map[string]any
	_ = json.Unmarshal(w.Body.Bytes(), &out) // a redirect has none
	return w.Code, out
}

func named(t *testing.T, h http.Handler, path string) string {
	t.Helper()
	code, out := ask(t, h, "GET", path+"api/v1/shop", "")
	require.Equal(t, 200, code, path)
	return out["shop"].(map[string]any)["shop"].(map[string]any)["name"].(string)
}

// What is done in one shop is done in no other, and each is there again when the program starts anew.
func TestShopsStandSideBySide(t *testing.T) {
	h, s, dir := beside(t)
	paths := []string{"/"}
	for _, name := range []string{"Attic", "Trailer bay", "../../etc", "Büro 2"} {
		code, out := ask(t, h, "POST", "/api/v1/shops", fmt.Sprintf(`{"name": %q}`, name))
		require.Equal(t, 200, code, "%v", out)
		paths = append(paths, out["path"].(string))
	}
	assert.Equal(t, []string{"/", "/shops/attic/", "/shops/trailer-bay/", "/shops/etc/", "/shops/b-ro-2/"}, paths)
	assert.Equal(t, "Trailer bay", named(t, h, paths[2]))
	code, out := ask(t, h, "PATCH", "/shops/attic/api/v1/facts", `{"entries": [{"path": "name", "text": "Under the roof"}]}`, "If-Match", `"1"`)
	require.Equal(t, 200, code, "%v", out)
	assert.Equal(t, []string{"First", "Under the roof", "Trailer bay"}, []string{named(t, h, "/"), named(t, h, paths[1]), named(t, h, paths[2])})
	list, err := s.Shops(context.Background())
	require.NoError(t, err)
	assert.Len(t, list, len(paths))
	for _, x := range list {
		assert.True(t, strings.HasPrefix(x.File, dir), "no file outside: %s", x.File)
	}
	// Begun from another one, and of a name that is taken.
	code, out = ask(t, h, "POST", "/shops/attic/api/v1/shops", `{"name": "attic"}`)
	assert.Equal(t, 422, code)
	assert.Contains(t, fmt.Sprint(out["detail"]), "already")
	require.NoError(t, s.Close())
	assert.Equal(t, "Under the roof", named(t, h, "/shops/attic/"), "opened again from its file")
}

func TestWhatIsNoShopIsSaid(t *testing.T) {
	h, _, dir := beside(t)
	for path, want := range map[string]int{"/shops/none/api/v1/shop": 404, "/shops/..%2f..%2fshop/api/v1/shop": 404, "/shops/UPPER/api/v1/shop": 404, "/shops/": 404} {
		code, _ := ask(t, h, "GET", path, "")
		assert.Equal(t, want, code, path)
	}
	require.NoError(t, os.MkdirAll(filepath.Join(dir, "shops"), 0o700))
	require.NoError(t, os.WriteFile(filepath.Join(dir, "shops", "rubbish.db"), []byte("this is no database, but somebody put it here"), 0o600))
	code, _ := ask(t, h, "GET", "/shops/rubbish/api/v1/shop", "")
	assert.Equal(t, 404, code)
	code, _ = ask(t, h, "GET", "/api/v1/shop", "")
	assert.Equal(t, 200, code, "the first shop goes on")
	code, _ = ask(t, h, "GET", "/shops/rubbish", "")
	assert.Equal(t, http.StatusSeeOther, code, "a path without its stroke leads there")
}
