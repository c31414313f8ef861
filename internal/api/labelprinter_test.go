package api_test

import (
	"bytes"
	"context"
	"image/png"
	"io"
	"log/slog"
	"net/http"
	"net/http/httptest"
	"path/filepath"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"hobrak/demo"
	"hobrak/internal/api"
	"hobrak/internal/core/shop"
	"hobrak/internal/device"
	"hobrak/internal/exchange"
	"hobrak/internal/store"
)

// A label from the printer lies in the tray, black or white, and its code opens its place.
func TestALabelIsPrintedIntoTheTray(t *testing.T) {
	sh, err := shop.Read(demo.Slipway)
	require.NoError(t, err)
	st, err := store.Open(context.Background(), filepath.Join(t.TempDir(), "shop.db"), sh)
	require.NoError(t, err)
	srv := api.New(st, slog.New(slog.DiscardHandler), nil, api.WithLabelPrinter(&device.Tray{}))
	h := httptest.NewServer(srv.Handler())
	t.Cleanup(func() { srv.Close(); h.Close(); st.Close() })
	c := client{t, h.URL, st, srv}
	place := sh.Places[0].ID
	ask := func(body string) (int, string) {
		resp, said := c.ask("POST", "/api/v1/label-printer", body, map[string]string{"Content-Type": "application/json"})
		return resp.StatusCode, said
	}
	status, said := ask(`{"only":["place:` + place + `"],"w":62,"h":29,"codes":true,"base":"http://shop.local:8080"}`)
	require.Equal(t, 200, status, said)
	assert.Equal(t, 1, strings.Count(said, `"n":`))
	resp, err := http.Get(h.URL + "/api/v1/label-printer/1")
	require.NoError(t, err)
	defer resp.Body.Close()
	data, err := io.ReadAll(resp.Body)
	require.NoError(t, err)
	img, err := png.Decode(bytes.NewReader(data))
	require.NoError(t, err)
	assert.InDelta(t, 62*8, img.Bounds().Dx(), 1)
	text, err := exchange.ReadCode(img)
	require.NoError(t, err)
	assert.Equal(t, "http://shop.local:8080/s/p/"+place, text)
	for where, body := range map[string]string{
		"body.only": `{"only":[],"w":62,"h":29}`,
		"body.w":    `{"only":["place:` + place + `"],"w":-5,"h":29}`,
		"body.base": `{"only":["place:` + place + `"],"w":62,"h":29,"base":"nowhere"}`,
	} {
		status, said = ask(body)
		assert.Equal(t, 422, status, said)
		assert.Contains(t, said, where)
	}
	status, _ = c.do("GET", "/api/v1/label-printer/99", nil)
	assert.Equal(t, 404, status)
}

func TestOutlinesOfADrawerAndOfAWallArePrinted(t *testing.T) {
	c := start(t)
	sh, _ := c.st.Snapshot()
	lived := sh.Homes[0].Place
	for _, what := range []string{"shadows", "foam"} {
		resp, body := c.ask("GET", "/api/v1/print/"+what+"/drawing.pdf?place="+lived, "", nil)
		assert.Equal(t, 200, resp.StatusCode, body)
		assert.Contains(t, body[:8], "%PDF")
		resp, body = c.ask("GET", "/api/v1/print/"+what+"/drawing.svg?place=nowhere", "", nil)
		assert.Equal(t, 404, resp.StatusCode, body)
	}
}
