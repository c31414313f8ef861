package api_test

import (
	"bytes"
	"encoding/json"
	"io"
	"net/http"
	"net/url"
	"regexp"
	"slices"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"hobrak/demo"
	"hobrak/internal/core/length"
	"hobrak/internal/core/quantity"
	"hobrak/internal/core/shop"
	"hobrak/internal/core/shoptest"
	"hobrak/internal/core/storage"
)

var metricWords = regexp.MustCompile(`\d\s*(mm|cm|m|kg|g|l|m²|m³)\b|\b(millimetres?|kilograms?|kg|mm)\b`)

// named are names of units and fields, which are for programs.
var named = regexp.MustCompile(`\.(unit|units\[\]|assumed\[\])$`)

// texts of a document, with where they are, but for what is not for people to read.
func texts(v any, path string, each func(path, text string)) {
	switch v := v.(type) {
	case map[string]any:
		for k, x := range v {
			texts(x, path+"."+k, each)
		}
	case []any:
		for _, x := range v {
			texts(x, path+"[]", each)
		}
	case string:
		each(path, v)
	}
}

// What people typed is theirs, in whatever units; all else is in the units of the shop.
func TestNothingInAnImperialShopSaysMillimetresOrKilograms(t *testing.T) {
	shoptest.OneAfterTheOther(t)
	for name, doc := range map[string][]byte{"pantry": demo.Pantry, "boat bay": demo.Slipway} {
		t.Run(name, func(t *testing.T) {
			sh, err := shop.Read(doc)
			require.NoError(t, err)
			sh.Settings.Units = length.Imperial
			var theirs []string
			var raw any
			require.NoError(t, json.Unmarshal(shop.Write(sh), &raw))
			texts(raw, "", func(_, text string) {
				if metricWords.MatchString(text) {
					theirs = append(theirs, text)
				}
			})
			slices.SortFunc(theirs, func(a, b string) int { return len(b) - len(a) })
			c := startWith(t, sh)
			said := 0
			look := func(path string, body []byte) {
				assert.NotContains(t, string(body), string(quantity.Sign), path)
				var v any
				if json.Unmarshal(body, &v) != nil {
					return // a file
				}
				texts(v, path, func(at, text string) {
					said++
					for _, x := range theirs {
						text = strings.ReplaceAll(text, x, "")
					}
					if m := metricWords.FindString(text); m != "" && !named.MatchString(at) {
						t.Errorf("%s says %q: %s", at, m, text)
					}
				})
			}
			get := func(path string) []byte {
				resp, err := http.Get(c.url + path)
				require.NoError(t, err)
				defer resp.Body.Close()
				body, err := io.ReadAll(resp.Body)
				require.NoError(t, err)
				look(path, body)
				return body
			}
			send := func(method, path string, body any) []byte {
				raw, err := json.Marshal(body)
				require.NoError(t, err)
				req, err := http.NewRequest(method, c.url+path, bytes.NewReader(raw))
				require.NoError(t, err)
				req.Header.Set("Content-Type", "application/json")
				req.Header.Set("If-Match", `"1"`)
				resp, err := http.DefaultClient.Do(req)
				require.NoError(t, err)
				defer resp.Body.Close()
				got, err := io.ReadAll(resp.Body)
				require.NoError(t, err)
				look(method+" "+path, got)
				return got
			}
			asked := map[string]any{"/api/v1/plans": map[string]any{"seconds": 1}, "/api/v1/plans/what-if": map[string]any{"seconds": .5, "stature": "5 ft 1 in"}}
			if name == "pantry" { // for all of the boat bay it takes long
				asked["/api/v1/plans/storage"] = map[string]any{"style": "open", "seconds": .1}
			}
			var plans []string
			for path, body := range asked {
				var run struct{ ID, State string }
				require.NoError(t, json.Unmarshal(send(http.MethodPost, path, body), &run))
				plans = append(plans, run.ID)
				require.Eventually(t, func() bool {
					_, got := c.do(http.MethodGet, "/api/v1/plans/"+run.ID, nil)
					return got["state"] == "done"
				}, 5*time.Minute, 50*time.Millisecond)
			}
			var api struct {
				Paths map[string]map[string]struct{ Parameters []struct{ Name, In string } }
			}
			body, err := c.srv.OpenAPI()
			require.NoError(t, err)
			require.NoError(t, json.Unmarshal(body, &api))
			var kinds []string
			for _, b := range storage.Builders() {
				kinds = append(kinds, b.ID)
			}
			for path, methods := range api.Paths {
				if _, ok := methods["get"]; !ok || strings.Contains(path, "stream") || strings.Contains(path, "export") || strings.Contains(path, "openapi") {
					continue
				}
				ids := []string{""}
				switch {
				case strings.Contains(path, "/items/{"), strings.Contains(path, "item}"):
					ids = nil
					for i := 0; i < len(sh.Items); i += 1 + len(sh.Items)/25 {
						ids = append(ids, sh.Items[i].ID)
					}
				case strings.Contains(path, "/places/{"):
					ids = nil
					for i := range sh.Places {
						ids = append(ids, sh.Places[i].ID)
					}
				case strings.Contains(path, "/plans/{"):
					ids = plans
				case strings.Contains(path, "/areas/{"):
					ids = []string{sh.Areas[0].ID}
				case strings.Contains(path, "{"):
					ids = []string{"1"}
				}
				for _, id := range ids {
					get(inPath.ReplaceAllString(path, url.PathEscape(id)))
				}
			}
			// What is asked for with a body, and what is refused.
			send(http.MethodPatch, "/api/v1/items", map[string]any{"ids": []string{sh.Items[0].ID}, "fields": map[string]any{"w": "900000"}})
			send(http.MethodPost, "/api/v1/lines", map[string]any{"text": "marking gauge 3x4x2000000"})
			send(http.MethodPost, "/api/v1/lines", map[string]any{"text": "8 f-clamp 24 in weight:3lb weekly"})
			send(http.MethodPost, "/api/v1/areas/"+sh.Areas[0].ID+"/will-it-go", map[string]any{"sides": []string{"96", "48", "3/4"}})
			send(http.MethodPatch, "/api/v1/places/"+sh.Places[0].ID, map[string]any{"fields": map[string]any{"w": "90000", "capacity": "99999999"}})
			for i := 0; i < len(sh.Items); i += 3 {
				send(http.MethodPost, "/api/v1/storage/size", map[string]any{"items": []string{sh.Items[i].ID}, "reserve": .15})
				send(http.MethodPost, "/api/v1/storage/where", map[string]any{"items": []string{sh.Items[i].ID}, "kind": kinds[i%len(kinds)]})
			}
			for i := range sh.Places {
				send(http.MethodPost, "/api/v1/places/"+sh.Places[i].ID+"/try", map[string]any{"at": map[string]any{"wall": sh.Areas[0].Walls[0].ID, "x": 0, "z": 100}})
			}
			for i := range min(len(sh.Items), 15) {
				for k := range sh.Places {
					send(http.MethodPost, "/api/v1/items/"+sh.Items[i].ID+"/try", map[string]any{"place": sh.Places[k].ID})
				}
			}
			assert.Greater(t, said, 500)
		})
	}
}

var inPath = regexp.MustCompile(`\{[^}]*\}`)
