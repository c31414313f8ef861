package api_test

import (
	"bufio"
	"bytes"
	"encoding/json"
	"image"
	"image/color"
	"image/jpeg"
	"io"
	"net/http"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"hobrak/demo"
	"hobrak/internal/core/shop"
	"hobrak/internal/core/shoptest"
)

// raw posts bytes and gives the whole answer.
func (c client) raw(method, path string, data []byte) (int, http.Header, []byte) {
	c.t.Helper()
	path, _, match := baseOf(path, nil)
	req, err := http.NewRequest(method, c.url+path, bytes.NewReader(data))
	require.NoError(c.t, err)
	if match != "" {
		req.Header.Set("If-Match", match)
	}
	resp, err := http.DefaultClient.Do(req)
	require.NoError(c.t, err)
	defer resp.Body.Close()
	out, err := io.ReadAll(resp.Body)
	require.NoError(c.t, err)
	return resp.StatusCode, resp.Header, out
}

// bringIn imports a table as it is recognised and gives the last event of the stream with its data.
func (c client) bringIn(data string, more map[string]any) (event string, got map[string]any, progress int) {
	c.t.Helper()
	code, _, raw := c.raw(http.MethodPost, "/api/v1/tables/read?name=list.csv", []byte(data))
	require.Equal(c.t, 200, code, string(raw))
	var sheet struct {
		Rows  [][]string     `json:"rows"`
		Guess map[string]any `json:"guess"`
	}
	require.NoError(c.t, json.Unmarshal(raw, &sheet))
	delete(sheet.Guess, "headings")
	delete(sheet.Guess, "why")
	body := map[string]any{"base": c.revision(), "rows": sheet.Rows, "mapping": sheet.Guess}
	for k, v := range more {
		body[k] = v
	}
	path, rest, match := baseOf("/api/v1/tables/import/stream", body)
	in, err := json.Marshal(rest)
	require.NoError(c.t, err)
	req, err := http.NewRequest(http.MethodPost, c.url+path, bytes.NewReader(in))
	require.NoError(c.t, err)
	req.Header.Set("Content-Type", "application/json")
	req.Header.Set("If-Match", match)
	resp, err := http.DefaultClient.Do(req)
	require.NoError(c.t, err)
	defer resp.Body.Close()
	if resp.StatusCode != http.StatusOK {
		raw, _ := io.ReadAll(resp.Body)
		require.Fail(c.t, "not even begun", string(raw))
	}
	lines := bufio.NewScanner(resp.Body)
	lines.Buffer(nil, 1<<20)
	for lines.Scan() {
		if e, ok := strings.CutPrefix(lines.Text(), "event: "); ok {
			event = e
		}
		if d, ok := strings.CutPrefix(lines.Text(), "data: "); ok {
			got = map[string]any{}
			require.NoError(c.t, json.Unmarshal([]byte(d), &got))
			if event == "progress" {
				progress++
			}
		}
	}
	return event, got, progress
}

func TestATableIsReadRecognisedPreviewedAndBroughtIn(t *testing.T) {
	c := start(t)
	sh, _ := c.st.Shop()
	before := len(sh.Items)
	table := "Bezeichnung;Anzahl;Breite cm;Gewicht kg;Station\nGroße Raspel;2;3,5;0,4;bench\nLampe;1;breit;1;porch\n"
	code, _, raw := c.raw(http.MethodPost, "/api/v1/tables/read?name=list.csv", []byte(table))
	require.Equal(t, 200, code)
	assert.Contains(t, string(raw), `"read":"UTF-8, semicolons between the cells"`)
	assert.Contains(t, string(raw), `"comma":true`)

	event, got, _ := c.bringIn(table, nil)
	assert.Equal(t, "refused", event)
	assert.Contains(t, got["detail"], "rows with errors: 1, so none was imported")
	assert.EqualValues(t, 1, c.revision(), "nothing happened")

	event, got, progress := c.bringIn(table, map[string]any{"good": true, "stations": true})
	require.Equal(t, "done", event, got)
	assert.Greater(t, progress, 0)
	assert.EqualValues(t, 1, got["new"])
	assert.EqualValues(t, 1, got["faulty"])
	assert.Equal(t, []any{"porch"}, got["stations"])
	sh, _ = c.st.Shop()
	require.Len(t, sh.Items, before+1)
	it := sh.Items[before]
	assert.Equal(t, [2]float64{35, .4}, [2]float64{it.W.MM(), it.KG.KG()})

	code, _ = c.do(http.MethodPost, "/api/v1/undo", map[string]any{"base": c.revision()})
	assert.Equal(t, 200, code, "one change, undone at once")
	sh, _ = c.st.Shop()
	assert.Len(t, sh.Items, before)

	event, got, _ = c.bringIn(table, map[string]any{"base": 1})
	assert.Equal(t, "refused", event)
	assert.Contains(t, got["detail"], "changed meanwhile")
}

func TestExportsComeBackAsTheSameShop(t *testing.T) {
	c := start(t)
	code, head, raw := c.raw(http.MethodGet, "/api/v1/export/csv", nil)
	require.Equal(t, 200, code)
	assert.Equal(t, `attachment; filename="slipway-workshop.csv"`, head.Get("Content-Disposition"))
	event, got, _ := c.bringIn(string(raw), nil)
	assert.Equal(t, "done", event)
	assert.EqualValues(t, 0, got["new"].(float64)+got["changed"].(float64)+got["faulty"].(float64))
	assert.EqualValues(t, 1, c.revision(), "what says nothing new makes no revision")

	code, _, raw = c.raw(http.MethodGet, "/api/v1/export/xlsx", nil)
	require.Equal(t, 200, code)
	assert.Equal(t, "PK", string(raw[:2]))
	code, _, raw = c.raw(http.MethodGet, "/api/v1/export/json", nil)
	require.Equal(t, 200, code)
	s, err := shop.Read(raw)
	require.NoError(t, err)
	want, err := shop.Read(demo.Slipway)
	require.NoError(t, err)
	assert.Equal(t, want, s)
}

func TestWhatIsNoTableIsRefusedWithTheReason(t *testing.T) {
	shoptest.OneAfterTheOther(t)
	c := start(t)
	code, _, raw := c.raw(http.MethodPost, "/api/v1/tables/read?name=list.xls", []byte("\xd0\xcf\x11\xe0"))
	assert.Equal(t, 422, code)
	assert.Contains(t, string(raw), "list.xls: this is a workbook in an old form")
	code, _, raw = c.raw(http.MethodPost, "/api/v1/tables/read", make([]byte, 21<<20))
	assert.Equal(t, 413, code)
	assert.Contains(t, string(raw), "The table has 21 MB; at most 12 MB")
	code, got := c.do(http.MethodPost, "/api/v1/tables/preview", map[string]any{"rows": [][]string{{"a"}}, "mapping": map[string]any{"first": 0, "comma": false, "columns": []map[string]string{{"field": "w", "unit": "mm"}}}})
	assert.Equal(t, 422, code)
	assert.Contains(t, got["detail"], "no column says what the things are called")
}

func jpegOf(t *testing.T, w, h int) []byte {
	img := image.NewRGBA(image.Rect(0, 0, w, h))
	for i := range w * h {
		img.SetRGBA(i%w, i/w, color.RGBA{uint8(i), uint8(i >> 8), 90, 255})
	}
	var b bytes.Buffer
	require.NoError(t, jpeg.Encode(&b, img, nil))
	return b.Bytes()
}

func TestAPhotoIsAttachedShownTakenAwayAndTravels(t *testing.T) {
	c := start(t)
	code, _, raw := c.raw(http.MethodPost, "/api/v1/items/jack-plane/photos?base=1", jpegOf(t, 900, 600))
	require.Equal(t, 200, code, string(raw))
	var got struct {
		Name string `json:"name"`
		W    int    `json:"w"`
	}
	require.NoError(t, json.Unmarshal(raw, &got))
	assert.Equal(t, 900, got.W)
	code, head, large := c.raw(http.MethodGet, "/api/v1/photos/"+got.Name, nil)
	assert.Equal(t, 200, code)
	assert.Equal(t, "image/jpeg", head.Get("Content-Type"))
	assert.Contains(t, head.Get("Cache-Control"), "immutable")
	_, _, small := c.raw(http.MethodGet, "/api/v1/photos/"+got.Name+"?size=small", nil)
	assert.Less(t, len(small), len(large))
	_, seen := c.do(http.MethodGet, "/api/v1/round", nil)
	raw, err := json.Marshal(seen)
	require.NoError(t, err)
	assert.Contains(t, string(raw), `"photos":["`+got.Name+`"]`)

	// One of a cabinet, by what is in it and by itself; it is of no thing, and nobody takes it for one that nothing shows.
	code, _, raw = c.raw(http.MethodPost, "/api/v1/places/K1/photos?base=2", jpegOf(t, 400, 300))
	require.Equal(t, 200, code, string(raw))
	var cabinet struct {
		Name string `json:"name"`
	}
	require.NoError(t, json.Unmarshal(raw, &cabinet))
	_, err = c.st.CollectPhotos(t.Context())
	require.NoError(t, err)
	require.NoError(t, c.st.DropPhotos(t.Context(), []string{cabinet.Name}))
	code, _, _ = c.raw(http.MethodGet, "/api/v1/photos/"+cabinet.Name, nil)
	assert.Equal(t, 200, code)
	_, _, raw = c.raw(http.MethodGet, "/api/v1/round", nil)
	assert.Contains(t, string(raw), `"pictured":"K1","photos":["`+cabinet.Name+`"]`)
	code, _, _ = c.raw(http.MethodPost, "/api/v1/places/nowhere/photos?base=3", jpegOf(t, 40, 30))
	assert.Equal(t, 422, code)

	// With its photos into another shop.
	code, _, zip := c.raw(http.MethodGet, "/api/v1/export/zip", nil)
	require.Equal(t, 200, code)
	other := start(t)
	code, _, raw = other.raw(http.MethodPut, "/api/v1/shop/zip?base=1", zip)
	require.Equal(t, 200, code, string(raw))
	code, _, _ = other.raw(http.MethodGet, "/api/v1/photos/"+cabinet.Name, nil)
	assert.Equal(t, 200, code)
	_, _, there := other.raw(http.MethodGet, "/api/v1/photos/"+got.Name, nil)
	assert.True(t, bytes.Equal(large, there), "the same picture, byte for byte")
	code, _, raw = other.raw(http.MethodPut, "/api/v1/shop/zip?base=2", []byte("no zip"))
	assert.Equal(t, 422, code, string(raw))

	code, _, _ = c.raw(http.MethodDelete, "/api/v1/items/jack-plane/photos/"+got.Name+"?base=3", nil)
	assert.Equal(t, 200, code)
	code, _, _ = c.raw(http.MethodDelete, "/api/v1/places/K1/photos/"+cabinet.Name+"?base=4", nil)
	assert.Equal(t, 200, code)
	sh, _ := c.st.Shop()
	assert.Empty(t, shop.NewIndex(sh).Item("jack-plane").Photos)
	assert.Empty(t, shop.NewIndex(sh).Container("K1").Photos)
	code, _ = c.do(http.MethodPost, "/api/v1/undo", map[string]any{"base": 5})
	assert.Equal(t, 200, code)
	code, _, _ = c.raw(http.MethodGet, "/api/v1/photos/"+got.Name, nil)
	assert.Equal(t, 200, code, "what undo brings back is still there")
}

func TestAFileThatIsNoPhotoIsRefusedInWords(t *testing.T) {
	c := start(t)
	for _, x := range []struct {
		data []byte
		code int
		says string
	}{
		{[]byte("just text"), 422, "it should be a JPEG, PNG or WebP"},
		{jpegOf(t, 400, 300)[:3000], 422, "broken or not complete"},
		{make([]byte, 30<<20), 413, "The photo has 30 MB; at most 12 MB"},
	} {
		code, _, raw := c.raw(http.MethodPost, "/api/v1/items/jack-plane/photos?base=1", x.data)
		assert.Equal(t, x.code, code)
		assert.Contains(t, string(raw), x.says)
	}
	code, _, _ := c.raw(http.MethodPost, "/api/v1/items/ghost/photos?base=1", jpegOf(t, 40, 30))
	assert.Equal(t, 404, code)
	code, _, _ = c.raw(http.MethodGet, "/api/v1/photos/ghost.jpg", nil)
	assert.Equal(t, 404, code)
	assert.EqualValues(t, 1, c.revision())
}

func TestAdviceComesWithChoices(t *testing.T) {
	c := start(t)
	code, got := c.do(http.MethodPost, "/api/v1/items", map[string]any{"base": 1, "lines": []string{"jack plane hang", "jack plane"}})
	require.Equal(t, 200, code, got)
	_, advice := c.do(http.MethodGet, "/api/v1/belongings/advice", nil)
	alike := advice["alike"].([]any)
	require.NotEmpty(t, alike)
	ids := alike[0].(map[string]any)["items"].([]any)
	assert.Contains(t, ids, "jack-plane")
	doubts := advice["doubts"].(map[string]any)
	assert.Greater(t, doubts["sizes"].(float64), 1.0)
	assert.NotEmpty(t, doubts["list"])
	code, _ = c.do(http.MethodPost, "/api/v1/items/alike", map[string]any{"base": c.revision(), "ids": ids, "choice": "twice"})
	assert.Equal(t, 200, code)
	_, advice = c.do(http.MethodGet, "/api/v1/belongings/advice", nil)
	assert.Len(t, advice["alike"], len(alike)-1)
	code, got = c.do(http.MethodPost, "/api/v1/items/alike", map[string]any{"base": c.revision(), "ids": []string{"ghost", "spook"}, "choice": "all"})
	assert.Equal(t, 422, code)
	assert.Contains(t, got["detail"], "there is no item")

	code, _ = c.do(http.MethodPut, "/api/v1/settings/one-out", map[string]any{"base": c.revision(), "on": true})
	assert.Equal(t, 200, code)
	_, seen := c.do(http.MethodGet, "/api/v1/round", nil)
	assert.Equal(t, true, seen["round"].(map[string]any)["one_out"])
	_, leaving := c.do(http.MethodGet, "/api/v1/items/jack-plane/leaving", nil)
	assert.Contains(t, leaving["list"], `"`)
	code, got = c.do(http.MethodPost, "/api/v1/stations", map[string]any{"base": c.revision(), "name": "spray corner"})
	assert.Equal(t, 200, code, got)
	assert.Equal(t, []any{"spray-corner"}, got["ids"])
}

func TestTheScaleIsReadThroughTheServer(t *testing.T) {
	c := start(t)
	_, got := c.do(http.MethodGet, "/api/v1/scale", nil)
	assert.Equal(t, false, got["there"])
	code, _ := c.do(http.MethodPost, "/api/v1/items/jack-plane/weigh", nil)
	assert.Equal(t, 404, code)
}
