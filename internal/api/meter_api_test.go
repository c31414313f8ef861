package api_test

import (
	"context"
	"io"
	"log/slog"
	"net/http/httptest"
	"path/filepath"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"hobrak/demo"
	"hobrak/internal/api"
	"hobrak/internal/core/shop"
	"hobrak/internal/device"
	"hobrak/internal/store"
)

func TestTheSimulatedMeterIsPressedAndSaysThatItIsSimulated(t *testing.T) {
	sh, err := shop.Read(demo.Slipway)
	require.NoError(t, err)
	st, err := store.Open(context.Background(), filepath.Join(t.TempDir(), "shop.db"), sh)
	require.NoError(t, err)
	srv := api.New(st, slog.New(slog.NewTextHandler(io.Discard, nil)), nil, api.WithMeter(device.NewSimulatedMeter(&sh.Areas[0], 5)))
	h := httptest.NewServer(srv.Handler())
	t.Cleanup(func() { srv.Close(); h.Close(); st.Close() })
	c := client{t, h.URL, st, srv}
	status, out := c.do("GET", "/api/v1/meter", nil)
	require.Equal(t, 200, status)
	assert.Equal(t, true, out["there"])
	assert.Equal(t, true, out["simulated"])
	status, out = c.do("POST", "/api/v1/meter/press", map[string]any{"aim": "walls/B/length", "unit": "m"})
	require.Equal(t, 200, status, out)
	assert.Regexp(t, `^\d\.\d{3} m$`, out["text"])
	status, out = c.do("POST", "/api/v1/meter/press", map[string]any{"aim": "name", "unit": "m"})
	require.Equal(t, 422, status)
	assert.Contains(t, out["detail"], "cannot be aimed at that")
	status, _ = c.do("POST", "/api/v1/meter/press", map[string]any{"aim": "walls/B/length", "unit": "cubits"})
	assert.Equal(t, 422, status)
}
