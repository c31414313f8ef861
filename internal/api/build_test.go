package api_test

import (
	"io"
	"math"
	"net/http"
	"regexp"
	"slices"
	"strconv"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"hobrak/internal/core/build"
	"hobrak/internal/core/moves"
	"hobrak/internal/core/shop"
)

// lengths of the lines of a DXF file, read by itself: code and value in turn.
func dxfExtent(t *testing.T, text string) (w, h float64) {
	lines := strings.Split(text, "\n")
	low, high := [2]float64{math.Inf(1), math.Inf(1)}, [2]float64{math.Inf(-1), math.Inf(-1)}
	in, layer := "", ""
	for i := 0; i+1 < len(lines); i += 2 {
		switch code, v := strings.TrimSpace(lines[i]), strings.TrimSpace(lines[i+1]); code {
		case "0":
			in = v
		case "8":
			layer = v
		case "10", "11", "20", "21":
			if in != "LINE" || layer != "lines" {
				continue
			}
			x, err := strconv.ParseFloat(v, 64)
			require.NoError(t, err)
			k := 0
			if code[0] == '2' {
				k = 1
			}
			low[k], high[k] = min(low[k], x), max(high[k], x)
		}
	}
	return high[0] - low[0], high[1] - low[1]
}

func TestStorageIsMadeDrawnAndBuilt(t *testing.T) {
	c := start(t)
	list := func() []any {
		_, got := c.do(http.MethodGet, "/api/v1/build", nil)
		return got["units"].([]any)
	}
	require.NotEmpty(t, list())
	code, u := c.do(http.MethodGet, "/api/v1/build/K4?joint=screws&back=on", nil)
	require.Equal(t, 200, code, u)
	assert.Equal(t, "screws", u["choices"].(map[string]any)["joint"])
	lines := u["lines"].([]any)
	require.NotEmpty(t, lines)

	// The parts are a list that is cut as it stands.
	code, cuts := c.do(http.MethodPost, "/api/v1/wood/cuts", map[string]any{"name": "K4", "parts": lines, "buy": []string{"plywood 2440x1220x18 at 50", "plywood 2440x1220x6 at 20"}, "seconds": .5})
	require.Equal(t, 200, code, cuts)

	// Drawings are what they are called; a part at full size is as large as it is in every form.
	sh, _ := c.st.Shop()
	made, err := build.Of(sh, "K4", build.Choices{Joint: "screws", Back: "on"})
	require.NoError(t, err)
	get := func(path string) string {
		resp, err := http.Get(c.url + path)
		require.NoError(t, err)
		defer resp.Body.Close()
		body, err := io.ReadAll(resp.Body)
		require.NoError(t, err)
		require.Equal(t, 200, resp.StatusCode, "%s: %.200s", path, body)
		return string(body)
	}
	assert.True(t, strings.HasPrefix(get("/api/v1/build/K4/drawing.pdf"), "%PDF"))
	for k, l := range made.CutList() {
		at := "/api/v1/build/K4/template.%?joint=screws&back=on&part=" + strconv.Itoa(k+1)
		w, h := dxfExtent(t, get(strings.Replace(at, "%", "dxf", 1)))
		assert.InDelta(t, l.L, w, .1, l.Name)
		assert.InDelta(t, l.W, h, .1, l.Name)
		svg := get(strings.Replace(at, "%", "svg", 1))
		var xs, ys []float64
		for _, m := range regexp.MustCompile(`<line[^>]*?x1="([-\d.]+)"[^>]*?y1="([-\d.]+)"[^>]*?x2="([-\d.]+)"[^>]*?y2="([-\d.]+)"`).FindAllStringSubmatch(svg, -1) {
			for i := 1; i <= 4; i++ {
				v, err := strconv.ParseFloat(m[i], 64)
				require.NoError(t, err)
				if i%2 == 1 {
					xs = append(xs, v)
				} else {
					ys = append(ys, v)
				}
			}
		}
		require.NotEmpty(t, xs, "%.300s", svg)
		assert.InDelta(t, l.L, slices.Max(xs)-slices.Min(xs), .1, l.Name)
		assert.InDelta(t, l.W, slices.Max(ys)-slices.Min(ys), .1, l.Name)
	}

	// What cannot be is said.
	for path, says := range map[string]string{"K4?thin=19&t=12": "thickness of the backs", "nothing": "there is no storage", "K4?sheet=cheese": "not a wood that is known", "K2-1": "part of"} {
		code, got := c.do(http.MethodGet, "/api/v1/build/"+path, nil)
		assert.Contains(t, []int{404, 422}, code, path)
		assert.Contains(t, got["detail"], says, path)
	}

	// What a plan has that is not there yet is built, with its screws and its rating.
	p := *shop.NewIndex(sh).Place("A3")
	p.ID, p.Name = "A9", "New shelf"
	p.At.Z -= 300_000
	_, err = c.st.Change(t.Context(), c.st.Head(), "me", "a plan", func(s *shop.Shop) error {
		s.Targets = append(s.Targets, shop.Target{ID: "plan", Name: "More shelves", Storage: true, Homes: slices.Clone(s.Homes), Containers: slices.Clone(s.Containers), Places: append(slices.Clone(s.Places), p)})
		s.Settings.Target = "plan"
		return nil
	})
	require.NoError(t, err)
	target, _ := c.st.Shop()
	_, _, err = moves.Toward(target, &target.Targets[0])
	require.NoError(t, err)
	first := list()[0].(map[string]any)
	assert.Equal(t, "A9", first["id"])
	assert.Equal(t, true, first["wanted"])
	code, got := c.do(http.MethodPost, "/api/v1/build/A9/built", map[string]any{"base": c.revision(), "screws": 4, "d": 5, "thread": 40, "rated": 60})
	require.Equal(t, 200, code, got)
	now, _ := c.st.Shop()
	there := shop.NewIndex(now).Place("A9")
	require.NotNil(t, there)
	assert.Equal(t, 4, there.Fixing.Screws)
	assert.InDelta(t, 60, there.Capacity.KG(), 1e-9)
	code, got = c.do(http.MethodPost, "/api/v1/build/A10/built", map[string]any{"base": c.revision()})
	assert.Equal(t, 404, code, got)
}
