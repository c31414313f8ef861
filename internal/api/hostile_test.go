package api_test

import (
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"io"
	"log/slog"
	"math/rand/v2"
	"net/http"
	"net/http/httptest"
	"path/filepath"
	"regexp"
	"slices"
	"strconv"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"hobrak/demo"
	"hobrak/internal/api"
	"hobrak/internal/core/shop"
	"hobrak/internal/core/shoptest"
	"hobrak/internal/store"
)

// hostile makes up requests from the API's own description, with values nobody should send.
type hostile struct {
	rng     *rand.Rand
	schemas map[string]any
	words   []string // strings the API itself answers with: ids, fields, kinds
	base    int64
}

var (
	hostileTexts   = []string{"6000", "3001", "0.0001", "-1", "0", "1e9", "50 m", "12'", "NaN", "Infinity", "", " ", "\x00", "é🪚", "../../x", "=1+1", "<b>", "a/b", "999999999999999999999", "1e-400", "x 10 20 30", "49.9 m", "0.0004", "2027-13-45", "-0"}
	hostileNumbers = []float64{0, -1, 1, 2, .0001, 1e-9, 6000, 3001, 50001, 1e9, 1e15, 1e300, -1e300, .5, 90, 89.999, 1500}
)

func (h *hostile) text() string {
	switch h.rng.IntN(8) {
	case 0:
		return strings.Repeat("long ", h.rng.IntN(3000))
	case 1, 2, 3:
		return hostileTexts[h.rng.IntN(len(hostileTexts))]
	}
	return h.words[h.rng.IntN(len(h.words))]
}

// value for a schema, mostly of its type.
func (h *hostile) value(schema map[string]any, depth int) any {
	if ref, ok := schema["$ref"].(string); ok {
		schema, _ = h.schemas[strings.TrimPrefix(ref, "#/components/schemas/")].(map[string]any)
	}
	if enum, ok := schema["enum"].([]any); ok && h.rng.IntN(12) > 0 {
		return enum[h.rng.IntN(len(enum))]
	}
	if h.rng.IntN(60) == 0 || depth > 6 {
		return []any{nil, "x", 1e300, []any{}, map[string]any{}, true}[h.rng.IntN(6)]
	}
	kind := schema["type"]
	if list, ok := kind.([]any); ok && len(list) > 0 {
		kind = list[0]
	}
	switch kind {
	case "object":
		out := map[string]any{}
		props, _ := schema["properties"].(map[string]any)
		need, _ := schema["required"].([]any)
		for name, p := range props {
			if !slices.Contains(need, any(name)) && h.rng.IntN(3) == 0 {
				continue
			}
			sub, _ := p.(map[string]any)
			out[name] = h.value(sub, depth+1)
		}
		return out
	case "array":
		items, _ := schema["items"].(map[string]any)
		out := []any{}
		for range h.rng.IntN(4) {
			out = append(out, h.value(items, depth+1))
		}
		return out
	case "integer":
		return float64(int64(hostileNumbers[h.rng.IntN(11)]))
	case "number":
		return hostileNumbers[h.rng.IntN(len(hostileNumbers))]
	case "boolean":
		return h.rng.IntN(2) == 0
	}
	return h.text()
}

// harvest collects the strings of an answer.
func harvest(v any, into map[string]bool) {
	switch v := v.(type) {
	case string:
		if len(v) < 60 {
			into[v] = true
		}
	case []any:
		for _, x := range v {
			harvest(x, into)
		}
	case map[string]any:
		for k, x := range v {
			into[k] = true
			harvest(x, into)
		}
	}
}

// entry of the survey in one of the fields its notes have now.
func (h *hostile) entry(c client, notes string) string {
	var v any
	_, body := c.ask("GET", notes, "", nil)
	require.NoError(c.t, json.Unmarshal([]byte(body), &v))
	var paths []string
	var look func(any)
	look = func(v any) {
		switch v := v.(type) {
		case []any:
			for _, x := range v {
				look(x)
			}
		case map[string]any:
			if p, ok := v["path"].(string); ok && p != "" {
				paths = append(paths, p)
			}
			for _, x := range v {
				look(x)
			}
		}
	}
	look(v)
	slices.Sort(paths)
	if len(paths) == 0 {
		return "{}"
	}
	text := h.text()
	switch h.rng.IntN(3) {
	case 0:
		text = fmt.Sprint(h.rng.IntN(7000))
	case 1:
		text = []string{"x", "y", "post", "light", "door", "window", "brick", "yes", "no", "square", "3000 90", "100 2000 900 2100"}[h.rng.IntN(12)]
	}
	raw, err := json.Marshal(map[string]any{"entries": []any{map[string]any{"path": paths[h.rng.IntN(len(paths))], "text": text}}})
	require.NoError(c.t, err)
	return string(raw)
}

func TestWhateverIsSentWhatIsStoredCanBeReadBack(t *testing.T) {
	shoptest.OneAfterTheOther(t)
	ctx := context.Background()
	accepted := map[string]int{}
	for seed := range shoptest.Seeds(3) {
		sh, err := shop.Read(demo.Pantry)
		require.NoError(t, err)
		if seed%3 == 2 {
			sh = shoptest.Random(seed, shoptest.Few)
		}
		path := filepath.Join(t.TempDir(), "shop.db")
		st, err := store.Open(ctx, path, sh)
		require.NoError(t, err)
		srv := api.New(st, slog.New(slog.DiscardHandler), nil)
		server := httptest.NewServer(srv.Handler())
		c := client{t, server.URL, st, srv}
		_, doc := c.do("GET", "/api/v1/openapi.json", nil)
		h := &hostile{rng: rand.New(rand.NewPCG(seed, 11)), schemas: doc["components"].(map[string]any)["schemas"].(map[string]any)}
		words := map[string]bool{}
		for _, p := range []string{"/api/v1/shop", "/api/v1/areas", "/api/v1/areas/" + sh.Areas[0].ID + "/survey", "/api/v1/belongings", "/api/v1/places", "/api/v1/storages"} {
			if resp, body := c.ask("GET", p, "", nil); resp.StatusCode == 200 {
				var v any
				require.NoError(t, json.Unmarshal([]byte(body), &v))
				harvest(v, words)
			}
		}
		for w := range words {
			h.words = append(h.words, w)
		}
		slices.Sort(h.words)
		type operation struct {
			method, path string
			op           map[string]any
		}
		var ops []operation
		for p, methods := range doc["paths"].(map[string]any) {
			for m, op := range methods.(map[string]any) {
				if op, ok := op.(map[string]any); ok && m != "get" && !strings.Contains(p, "/plans") && !strings.Contains(p, "backups") && m+p != "post/api/v1/arrange" { // long, and stores nothing
					ops = append(ops, operation{strings.ToUpper(m), p, op})
				}
			}
		}
		slices.SortFunc(ops, func(a, b operation) int { return strings.Compare(a.path+a.method, b.path+b.method) })
		require.Greater(t, len(ops), 30)
		for range 700 {
			o := ops[h.rng.IntN(len(ops))]
			if strings.Contains(o.path, "survey") == (h.rng.IntN(3) > 0) && h.rng.IntN(2) == 0 {
				for !strings.Contains(o.path, "survey") {
					o = ops[h.rng.IntN(len(ops))]
				}
			}
			h.base = st.Head()
			now, _ := st.Shop()
			filled := regexp.MustCompile(`\{([^}]*)\}`).ReplaceAllStringFunc(o.path, func(name string) string {
				switch {
				case strings.HasPrefix(o.path, "/api/v1/areas"):
					return now.Areas[h.rng.IntN(len(now.Areas))].ID
				case strings.HasPrefix(o.path, "/api/v1/items") && len(now.Items) > 0:
					return now.Items[h.rng.IntN(len(now.Items))].ID
				case len(now.Places) > 0 && h.rng.IntN(2) == 0:
					return now.Places[h.rng.IntN(len(now.Places))].ID
				case len(now.Containers) > 0:
					return now.Containers[h.rng.IntN(len(now.Containers))].ID
				}
				return "none"
			})
			sep := "?"
			params, _ := o.op["parameters"].([]any)
			for _, p := range params {
				p := p.(map[string]any)
				if p["in"] == "query" {
					filled += sep + p["name"].(string) + "=x"
					sep = "&"
				}
			}
			body := ""
			if rb, ok := o.op["requestBody"].(map[string]any); ok {
				content, _ := rb["content"].(map[string]any)
				if js, ok := content["application/json"].(map[string]any); ok {
					schema, _ := js["schema"].(map[string]any)
					raw, err := json.Marshal(h.value(schema, 0))
					require.NoError(t, err)
					body = string(raw)
				}
			}
			if strings.HasSuffix(o.path, "/survey") {
				body = h.entry(c, filled)
			}
			req, err := http.NewRequest(o.method, c.url+filled, strings.NewReader(body))
			if err != nil {
				continue // an id that no address can have
			}
			req.Header.Set("Content-Type", "application/json")
			if h.rng.IntN(20) > 0 {
				req.Header.Set("If-Match", strconv.Quote(fmt.Sprint(h.base)))
			} else {
				req.Header.Set("If-Match", strings.Map(func(r rune) rune {
					if r < ' ' || r > '~' {
						return -1
					}
					return r
				}, h.text()))
			}
			resp, err := http.DefaultClient.Do(req)
			require.NoError(t, err)
			says, err := io.ReadAll(resp.Body)
			resp.Body.Close()
			require.NoError(t, err)
			require.Less(t, resp.StatusCode, 500, "%s %s %.300s\n%s", o.method, filled, body, says)
			if resp.StatusCode < 300 {
				accepted[o.method+" "+o.path]++
			}
		}
		for _, p := range []string{"/api/v1/round", "/api/v1/findings", "/api/v1/free", "/api/v1/belongings", "/api/v1/shop"} {
			if resp, says := c.ask("GET", p, "", nil); resp.StatusCode != 404 {
				require.Equal(t, 200, resp.StatusCode, "%s: %s", p, says)
			}
		}
		want := text(c)
		srv.Close()
		server.Close()
		require.NoError(t, st.Close())

		st, err = store.Open(ctx, path, nil)
		require.NoError(t, err, "seed %d: what was stored cannot be read back", seed)
		c.st = st
		require.Equal(t, want, text(c), "seed %d", seed)
		undone := 0
		for {
			if _, err := st.Undo(ctx, st.Head(), "me"); errors.Is(err, store.ErrNothing) {
				break
			} else {
				require.NoError(t, err, "seed %d, undo %d", seed, undone)
			}
			undone++
		}
		require.Equal(t, string(shop.Write(sh)), text(c), "seed %d: all of it undone", seed)
		for range undone {
			_, err := st.Redo(ctx, st.Head(), "me")
			require.NoError(t, err, "seed %d", seed)
		}
		require.Equal(t, want, text(c), "seed %d: all of it done again", seed)
		require.NoError(t, st.Close())
		found, err := store.Examine(ctx, path)
		require.NoError(t, err)
		require.Empty(t, found, "seed %d", seed)
	}
	sum := 0
	for _, n := range accepted {
		sum += n
	}
	t.Logf("%d of the requests were taken: %v", sum, accepted)
	assert.Greater(t, len(accepted), 12, "%v", accepted)
}

func text(c client) string { sh, _ := c.st.Shop(); return string(shop.Write(sh)) }
