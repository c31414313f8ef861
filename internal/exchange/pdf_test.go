package exchange_test

import (
	"bytes"
	"compress/zlib"
	"io"
	"math"
	"os"
	"regexp"
	"strconv"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"hobrak/demo"
	"hobrak/internal/core/build"
	"hobrak/internal/core/sheet"
	"hobrak/internal/core/shop"
	"hobrak/internal/exchange"
)

// pdfExtent reads the straight lines of a PDF, mm: its streams are unpacked, and points, moves and lines taken one by one (ISO 32000,
// 8.5.2). It knows nothing of what wrote them.
func pdfExtent(t *testing.T, raw []byte) (w, h float64) {
	low, high := [2]float64{math.Inf(1), math.Inf(1)}, [2]float64{math.Inf(-1), math.Inf(-1)}
	for _, part := range bytes.Split(raw, []byte("stream\n"))[1:] {
		z, err := zlib.NewReader(bytes.NewReader(part))
		if err != nil {
			continue
		}
		text, err := io.ReadAll(z)
		if err != nil && len(text) == 0 {
			continue
		}
		words := strings.Fields(string(text))
		for i, op := range words {
			if i < 2 || op != "m" && op != "l" {
				continue
			}
			for k := range 2 {
				v, err := strconv.ParseFloat(words[i-2+k], 64)
				require.NoError(t, err)
				v *= 25.4 / 72
				low[k], high[k] = min(low[k], v), max(high[k], v)
			}
		}
	}
	return high[0] - low[0], high[1] - low[1]
}

// Each part of each piece of storage in the demo, at full size in a PDF, is as large as it is.
func TestPartsAreTrueToSizeInPDF(t *testing.T) {
	s, err := shop.Read(demo.Slipway)
	require.NoError(t, err)
	read := 0
	for _, c := range s.Containers {
		u, err := build.Of(s, c.ID, build.Choices{})
		if err != nil {
			continue // not made of parts
		}
		for _, l := range u.CutList() {
			var out bytes.Buffer
			require.NoError(t, exchange.PDF(&out, l.Name, []sheet.Page{sheet.PartSheet(&u.Parts[l.Parts[0]])}))
			w, h := pdfExtent(t, out.Bytes())
			assert.InDelta(t, l.L, w, .1, "%s: %s", c.ID, l.Name)
			assert.InDelta(t, l.W, h, .1, "%s: %s", c.ID, l.Name)
			read++
		}
	}
	t.Logf("%d parts read back", read)
	assert.Greater(t, read, 20)
}

// The drawings of three pieces of storage are as they were looked at and found right; UPDATE_GOLDEN=1 takes them anew.
func TestDrawingsAreAsTheyWereApproved(t *testing.T) {
	s, err := shop.Read(demo.Slipway)
	require.NoError(t, err)
	figures := regexp.MustCompile(`>([^<>]+)</text>`)
	for _, id := range []string{"K2", "K4", "A3"} {
		u, err := build.Of(s, id, build.Choices{})
		require.NoError(t, err, id)
		var text strings.Builder
		for _, page := range sheet.UnitSheets(u, build.Fix(s, u), sheet.A4, s.Settings.Units, func(t string) string { return t }) {
			var svg bytes.Buffer
			require.NoError(t, exchange.SVG(&svg, "x", []sheet.Page{page}))
			for _, m := range figures.FindAllStringSubmatch(svg.String(), -1) {
				text.WriteString(m[1] + "\n")
			}
			for _, l := range page.Lines {
				text.WriteString(strconv.FormatFloat(l.X1, 'f', 1, 64) + " " + strconv.FormatFloat(l.Y1, 'f', 1, 64) + " " + strconv.FormatFloat(l.X2, 'f', 1, 64) + " " + strconv.FormatFloat(l.Y2, 'f', 1, 64) + "\n")
			}
			text.WriteString("--\n")
		}
		file := "testdata/drawing-" + id + ".golden"
		if os.Getenv("UPDATE_GOLDEN") != "" {
			require.NoError(t, os.WriteFile(file, []byte(text.String()), 0o600))
		}
		want, err := os.ReadFile(file)
		require.NoError(t, err)
		assert.Equal(t, string(want), text.String(), id)
	}
}
