package api_test

import (
	"context"
	"encoding/json"
	"fmt"
	"io"
	"math/rand/v2"
	"net/http"
	"regexp"
	"strings"
	"sync"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"hobrak/internal/core/shop"
	"hobrak/internal/core/shoptest"
)

// gets lists every GET of the API with its parameters filled in from the shop.
func (c client) gets(sh *shop.Shop) []string {
	c.t.Helper()
	_, doc := c.do("GET", "/api/v1/openapi.json", nil)
	item, place := sh.Items[3].ID, sh.Homes[0].Place
	fill := map[string]string{
		"/api/v1/items/{id}": item, "/api/v1/containers/{id}": sh.Containers[0].ID, "/api/v1/places/{id}": place, "/api/v1/areas/{id}": sh.Areas[0].ID,
		"/api/v1/export/{form}": "csv", "/api/v1/calc/{name}": "stature", "/api/v1/plans/{id}": "1", "/api/v1/photos/{name}": "none.jpg", "/api/v1/walls/{id}": "A",
	}
	query := map[string]string{"q": "plane", "item": item, "place": place, "area": sh.Areas[0].ID, "wall": "A", "text": "plane", "line": "plane 300"}
	var out []string
	for path, what := range doc["paths"].(map[string]any) {
		get, ok := what.(map[string]any)["get"].(map[string]any)
		if !ok || strings.HasSuffix(path, "events") || strings.HasSuffix(path, "stream") {
			continue
		}
		filled := path
		for prefix, id := range fill {
			if strings.HasPrefix(path, prefix) {
				filled = regexp.MustCompile(`\{[^}]*\}`).ReplaceAllString(path, id)
			}
		}
		var q []string
		ps, _ := get["parameters"].([]any)
		for _, p := range ps {
			p := p.(map[string]any)
			if name := p["name"].(string); p["in"] == "query" && query[name] != "" {
				q = append(q, name+"="+strings.ReplaceAll(query[name], " ", "+"))
			}
		}
		if len(q) > 0 {
			filled += "?" + strings.Join(q, "&")
		}
		out = append(out, filled)
	}
	require.Greater(c.t, len(out), 20)
	return out
}

func TestReadingChangesNothing(t *testing.T) {
	shoptest.OneAfterTheOther(t)
	// Every GET again and again beside writers, whose changes are kept in a model as well: at
	// the end the shop that is stored, the one that is served and the model are the same, bit for
	// bit. `make test` runs it under the race detector.
	c := start(t)
	sh, _ := c.st.Shop()
	paths := c.gets(sh)
	model := sh.Clone()
	stop := make(chan struct{})
	var readers sync.WaitGroup
	served := map[string]int{}
	var counting sync.Mutex
	for r := range 4 {
		readers.Add(1)
		go func() {
			defer readers.Done()
			rng := rand.New(rand.NewPCG(uint64(r), 1))
			for {
				select {
				case <-stop:
					return
				default:
				}
				path := paths[rng.IntN(len(paths))]
				resp, err := http.Get(c.url + path)
				if !assert.NoError(t, err) {
					return
				}
				data, err := io.ReadAll(resp.Body)
				resp.Body.Close()
				assert.NoError(t, err, path)
				assert.Less(t, resp.StatusCode, 500, "%s: %s", path, data)
				counting.Lock()
				served[path]++
				counting.Unlock()
			}
		}()
	}
	writes := 0
	for end := time.Now().Add(4 * time.Second); time.Now().Before(end) || writes < 10; writes++ {
		k := (writes * 7) % len(model.Items)
		note := fmt.Sprintf("note %d", writes)
		_, err := c.st.Change(context.Background(), c.revision(), "me", note, func(x *shop.Shop) error {
			x.Items[k].Notes = note
			return nil
		})
		require.NoError(t, err)
		model.Items[k].Notes = note
	}
	for _, path := range paths { // each at least once after the last write as well
		if resp, err := http.Get(c.url + path); assert.NoError(t, err) {
			_, _ = io.Copy(io.Discard, resp.Body)
			resp.Body.Close()
		}
	}
	close(stop)
	readers.Wait()
	stored, _ := c.st.Shop()
	require.Equal(t, string(shop.Write(model)), string(shop.Write(stored)))
	_, doc := c.do("GET", "/api/v1/shop", nil)
	raw, err := json.Marshal(doc["shop"])
	require.NoError(t, err)
	again, err := shop.Read(raw)
	require.NoError(t, err)
	assert.Equal(t, string(shop.Write(model)), string(shop.Write(again)))
	// What one view shows all who ask is not changed by asking either.
	require.Equal(t, string(shop.Write(model)), string(shop.Write(c.srv.ViewShop())))
	t.Logf("%d writes, %d of %d paths read beside them", writes, len(served), len(paths))
}
