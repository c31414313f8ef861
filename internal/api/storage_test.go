package api_test

import (
	"encoding/json"
	"net/http"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"hobrak/internal/core/shop"
)

func TestStorageIsSizedPutMovedAndTakenAway(t *testing.T) {
	c := start(t)
	items := []string{"marking-knife", "carving-knife-long"}
	code, got := c.do(http.MethodPost, "/api/v1/storage/size", map[string]any{"items": items, "reserve": .15})
	require.Equal(t, 200, code, got)
	var designs []struct {
		Kind  struct{ ID string }
		Holds int
		Front struct{ Shapes []any }
	}
	require.NoError(t, json.Unmarshal([]byte(got["list"].(string)), &designs))
	require.NotEmpty(t, designs)
	assert.Equal(t, 2, designs[0].Holds, "what holds most comes first")
	assert.NotEmpty(t, designs[0].Front.Shapes)

	wish := map[string]any{"items": items, "reserve": .15, "kind": "magnet-rail", "width": "60 cm"}
	code, got = c.do(http.MethodPost, "/api/v1/storage/where", wish)
	require.Equal(t, 200, code, got)
	spots := got["sites"].([]any)
	require.NotEmpty(t, spots)
	best := spots[0].(map[string]any)
	wish["base"], wish["at"] = 1, map[string]any{"wall": best["wall"], "x": best["x"], "z": best["z"]}
	code, got = c.do(http.MethodPost, "/api/v1/storage", wish)
	require.Equal(t, 200, code, got)
	id := got["ids"].([]any)[0].(string)
	sh, _ := c.st.Shop()
	ix := shop.NewIndex(sh)
	assert.Equal(t, id, ix.Homes("marking-knife")[0].Place)
	assert.Equal(t, best["wall"].(string), id[:1], "its address begins with the wall")

	code, got = c.do(http.MethodGet, "/api/v1/places/"+id+"/layout", nil)
	assert.Equal(t, 200, code)
	assert.Equal(t, "from the front", got["view"])
	assert.Len(t, got["shapes"], 2)
	next := spots[len(spots)-1].(map[string]any)
	code, got = c.do(http.MethodPut, "/api/v1/places/"+id+"/at", map[string]any{"base": 2, "at": map[string]any{"wall": next["wall"], "x": next["x"], "z": next["z"]}})
	assert.Equal(t, 200, code, got)
	code, got = c.do(http.MethodPut, "/api/v1/places/"+id+"/at", map[string]any{"base": 3, "at": map[string]any{"wall": "B"}, "typed": map[string]string{"x": "high", "z": "2 m"}})
	assert.Equal(t, 422, code)
	assert.Contains(t, got["detail"], "not a number")
	code, got = c.do(http.MethodPut, "/api/v1/places/"+id+"/at", map[string]any{"base": 3, "at": map[string]any{"wall": "B", "x": 40000, "z": 2000}})
	assert.Equal(t, 422, code)
	assert.Contains(t, got["detail"], "mm long", "a place that would be beyond its wall")
	code, _ = c.do(http.MethodDelete, "/api/v1/places/"+id+"?base=3", nil)
	assert.Equal(t, 200, code)
	sh, _ = c.st.Shop()
	assert.NotNil(t, shop.NewIndex(sh).Item("marking-knife"), "the thing stays")
	assert.Empty(t, shop.NewIndex(sh).Homes("marking-knife"))
}

func TestStorageThatCannotBeIsRefusedAtTheField(t *testing.T) {
	c := start(t)
	for _, x := range []struct {
		more map[string]any
		says string
	}{
		{map[string]any{"width": "wide"}, "not a number"}, {map[string]any{"height": "-3"}, "more than 0"}, {map[string]any{"items": []string{"ghost"}}, "there is no item"},
		{map[string]any{"kind": "hammock"}, "there is no storage"}, {map[string]any{"kind": "sheet-bay"}, "would hold none of these"}, {map[string]any{"kind": "ceiling-rack", "items": []string{"oars"}}, ""},
	} {
		wish := map[string]any{"items": []string{"jack-plane"}, "reserve": .1, "kind": "tool-board"}
		for k, v := range x.more {
			wish[k] = v
		}
		code, got := c.do(http.MethodPost, "/api/v1/storage/where", wish)
		assert.Equal(t, 422, code, x.more)
		assert.Contains(t, got["detail"], x.says)
	}
	code, _ := c.do(http.MethodGet, "/api/v1/places/Q9/layout", nil)
	assert.Equal(t, 404, code)
	code, got := c.do(http.MethodDelete, "/api/v1/places/Q9?base=1", nil)
	assert.Equal(t, 422, code)
	assert.Contains(t, got["detail"], "there is no place")
}

func TestACabinetMovesWithItsContents(t *testing.T) {
	c := start(t)
	sh, _ := c.st.Shop()
	homes := len(sh.Homes)
	k := shop.NewIndex(sh).Container("K1")
	code, got := c.do(http.MethodPut, "/api/v1/places/K1/at", map[string]any{"base": 1, "at": map[string]any{"floor": []float64{0, 0}, "rot": k.At.Rot}, "typed": map[string]string{"x": k.At.Floor[0].Metric(), "y": "1' 1\""}})
	require.Equal(t, 200, code, got)
	sh, _ = c.st.Shop()
	k2 := shop.NewIndex(sh).Container("K1")
	assert.Equal(t, k.At.Floor[0], k2.At.Floor[0])
	assert.InDelta(t, 330.2, k2.At.Floor[1].MM(), .001)
	assert.Len(t, sh.Homes, homes)
}

// What cannot be is refused in words that name the field, and nothing changes.
func TestSizesThatCannotBeAreRefused(t *testing.T) {
	c := start(t)
	for _, x := range []struct{ id, field, text, says string }{
		{"K2-1", "d", "900 mm", "does not fit into K2"},
		{"K2-1", "w", "-3", "more than 0"},
		{"K2-1", "w", "wide", "not a number"},
		{"B3", "arms", "0", "from 2 to 50"},
		{"B3", "capacity", "-5 kg", "cannot be below 0"},
		{"B1", "h", "900 mm", "is above the field"},
		{"B1", "h", "3 m", "is only"},
		{"K6-1", "wood", "cheese", "should be one of"},
		{"K6-1", "arms", "4", "has no field"},
		{"K4", "screws", "-1", "from 0 to 500"},
		{"K4", "screw", "40 mm", "at most 12"},
		{"D2", "w", "300 mm", "slots are"},
	} {
		code, got := c.do(http.MethodPatch, "/api/v1/places/"+x.id, map[string]any{"base": 1, "field": x.field, "text": x.text})
		assert.Equal(t, 422, code, "%v", x)
		assert.Contains(t, got["detail"], x.says, "%v", x)
	}
	for _, at := range []map[string]any{{"on": "K7-1"}, {"on": "N1"}, {"on": "E1", "x": 1700}} {
		code, got := c.do(http.MethodPut, "/api/v1/places/K7/at", map[string]any{"base": 1, "at": at})
		assert.Equal(t, 422, code, "%v: %v", at, got)
	}
	_, revision := c.st.Shop()
	assert.EqualValues(t, 1, revision)

	code, got := c.do(http.MethodPost, "/api/v1/places/B6/try", map[string]any{"at": map[string]any{"wall": "B", "x": 3700, "z": 1800}})
	assert.Equal(t, 200, code)
	assert.Equal(t, false, got["allowed"])
	assert.NotEmpty(t, got["broken"])
	code, got = c.do(http.MethodGet, "/api/v1/check", nil)
	assert.Equal(t, 200, code)
	var list []struct{ Code, What, Kind, ID string }
	require.NoError(t, json.Unmarshal([]byte(got["list"].(string)), &list))
	require.NotEmpty(t, list)
	for _, f := range list {
		assert.NotEmpty(t, f.ID, f)
	}
}

func TestAPlaceThatIsDraggedWhereARuleForbidsItStays(t *testing.T) {
	c := start(t)
	sh, _ := c.st.Shop()
	var moved, other *shop.Place
	for i := range sh.Places {
		if p := &sh.Places[i]; p.At.Wall == "B" && p.At.Area == "" || p.At.Wall == "B" && p.At.Area == "main" {
			moved, other = other, p
		}
	}
	require.NotNil(t, moved)
	at := map[string]any{"wall": "B", "x": other.At.X.MM(), "z": other.At.Z.MM()}
	status, out := c.do("PUT", "/api/v1/places/"+moved.ID+"/at", map[string]any{"base": c.revision(), "at": at})
	require.Equal(t, 422, status, out)
	assert.Contains(t, out["detail"], "overlap")
	assert.EqualValues(t, 1, c.revision())
}
