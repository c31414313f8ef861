package api_test

import (
	"net/http"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"hobrak/internal/core/shop"
)

// What is said of supply is kept as it was typed, and what cannot be is refused by its name and changes nothing.
func TestWhatIsSaidOfSupplyIsKeptOrRefusedByName(t *testing.T) {
	c := start(t)
	sh, _ := c.st.Shop()
	st, outlet := sh.Stations[0].ID, ""
	for i := range sh.Areas[0].Walls {
		for _, f := range sh.Areas[0].Walls[i].Features {
			if f.Kind == "outlet" {
				outlet = f.ID
			}
		}
	}
	say := func(method, path string, body map[string]any) (int, string) {
		body["base"] = c.revision()
		code, got := c.do(method, path, body)
		where := ""
		if list, ok := got["errors"].([]any); ok && len(list) > 0 {
			where, _ = list[0].(map[string]any)["location"].(string)
		}
		return code, where
	}
	station := "/api/v1/supply/stations/" + st
	before := c.revision()
	for _, x := range []struct {
		method, path, where string
		body                map[string]any
	}{
		{http.MethodPatch, station, "placed", map[string]any{"placed": "tomorrow"}},
		{http.MethodPatch, station, "placed", map[string]any{"placed": "2199-01-01"}},
		{http.MethodPatch, station, "sees", map[string]any{"sees": []string{"nothing"}}},
		{http.MethodPatch, station, "controls[0].z", map[string]any{"controls": []any{map[string]any{"kind": "stop", "x": "100", "y": "-50", "z": "-3"}}}},
		{http.MethodPatch, station, "outlet", map[string]any{"outlet": "nowhere"}},
		{http.MethodPatch, station, "mat", map[string]any{"typed": map[string]string{"mat_w": "a metre"}}},
		{http.MethodPut, "/api/v1/supply/strips", "strips[0].lead", map[string]any{"strips": []any{map[string]any{"name": "Strip", "lead": "long"}}}},
		{http.MethodPut, "/api/v1/supply/strips", "strips[0].into", map[string]any{"strips": []any{map[string]any{"id": "strip-1", "name": "Strip", "lead": "2 m", "into": "strip-1"}}}},
		{http.MethodPut, "/api/v1/supply/strips", "strips[0].into", map[string]any{"strips": []any{map[string]any{"name": "Strip", "lead": "2 m", "into": "nowhere"}}}},
		{http.MethodPut, "/api/v1/supply/quiet", "to", map[string]any{"from": "20:00", "to": ""}},
		{http.MethodPut, "/api/v1/supply/quiet", "from", map[string]any{"from": "25:00", "to": "08:00"}},
		{http.MethodPatch, "/api/v1/supply/room", "exhaust", map[string]any{"exhaust": "nowhere"}},
		{http.MethodPatch, "/api/v1/supply/room", "walls[0]", map[string]any{"walls": []any{map[string]any{"id": "Z", "beyond": "neighbour", "damp": false}}}},
		{http.MethodPut, "/api/v1/supply/stored", "batteries[1].name", map[string]any{"stored": map[string]any{"hours": 3, "batteries": []any{battery("packs"), battery("packs")}}}},
		{http.MethodPut, "/api/v1/supply/stored", "draws[0].battery", map[string]any{"stored": map[string]any{"hours": 3, "batteries": []any{battery("packs")}, "draws": []any{map[string]any{"name": "lamp", "watts": 5, "battery": "none"}}}}},
	} {
		code, where := say(x.method, x.path, x.body)
		assert.Contains(t, []int{404, 422}, code, x.body)
		if code == 422 {
			assert.Contains(t, where, x.where, x.body)
		}
	}
	assert.Equal(t, before, c.revision(), "nothing that was refused changed anything")

	for _, x := range []struct {
		method, path string
		body         map[string]any
	}{
		{http.MethodPut, "/api/v1/supply/strips", map[string]any{"strips": []any{map[string]any{"name": "Bench strip", "lead": "3 m", "into": outlet, "rated": 10}}}},
		{http.MethodPatch, station, map[string]any{"outlet": "strip-1", "air": "clean", "wants": []string{"water"}, "placed": "2025-02-28", "typed": map[string]string{"mat_w": "900", "mat_d": "60 cm"}, "controls": []any{map[string]any{"kind": "stop", "x": "100", "y": "-50", "z": "90 cm"}}}},
		{http.MethodPatch, "/api/v1/supply/room", map[string]any{"insulated": true, "walls": []any{map[string]any{"id": "B", "beyond": "bedroom", "damp": true}}}},
		{http.MethodPut, "/api/v1/supply/quiet", map[string]any{"from": "20:00", "to": "08:00"}},
		{http.MethodPut, "/api/v1/supply/stored", map[string]any{"stored": map[string]any{"hours": 3, "batteries": []any{battery("packs")}}}},
	} {
		code, where := say(x.method, x.path, x.body)
		sh, _ := c.st.Shop()
		require.Equal(t, 200, code, "%v: %s %v", x.body, where, sh.Settings.Strips)
	}
	sh, _ = c.st.Shop()
	got := shop.NewIndex(sh).Station(st)
	assert.Equal(t, "strip-1", got.Outlet)
	assert.InDelta(t, 600, got.Mat[1].MM(), .1)
	assert.InDelta(t, -50, got.Controls[0].Y.MM(), .1)
	assert.InDelta(t, 3000, sh.Settings.Strips[0].Lead.MM(), .1)
	assert.Equal(t, "bedroom", sh.Areas[0].Walls[sh.Areas[0].WallIndex("B")].Beyond)

	_, r := c.do(http.MethodGet, "/api/v1/supply?outside=-5&wanted=16", nil)
	assert.NotNil(t, r["budget"])
	assert.NotNil(t, r["warmth"])
	assert.NotEmpty(t, r["all_strips"])

	// Where it stands since is noted when it is moved.
	code, _ := c.do(http.MethodPut, "/api/v1/stations/"+st+"/spot", map[string]any{"base": c.revision(), "floor": []float64{got.X.MM() + 30, got.Y.MM()}, "rot": got.Rot})
	require.Equal(t, 200, code)
	sh, _ = c.st.Shop()
	assert.NotEqual(t, "2025-02-28", shop.NewIndex(sh).Station(st).Placed)
	code, _ = c.do(http.MethodGet, "/api/v1/supply/sites/nothing", nil)
	assert.Equal(t, 404, code)
}

func battery(name string) map[string]any {
	return map[string]any{"name": name, "n": 2, "volts": 18, "ah": 4}
}
