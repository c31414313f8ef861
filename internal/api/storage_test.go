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
	code, got := c.do(http.MethodPost, "/api/storage/size", map[string]any{"items": items, "reserve": .15})
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
	code, got = c.do(http.MethodPost, "/api/storage/where", wish)
	require.Equal(t, 200, code, got)
	spots := got["spots"].([]any)
	require.NotEmpty(t, spots)
	best := spots[0].(map[string]any)
	wish["base"], wish["at"] = 1, map[string]any{"wall": best["wall"], "x": best["x"], "z": best["z"]}
	code, got = c.do(http.MethodPost, "/api/storage", wish)
	require.Equal(t, 200, code, got)
	id := got["ids"].([]any)[0].(string)
	sh, _ := c.st.Shop()
	ix := shop.NewIndex(sh)
	assert.Equal(t, id, ix.Homes("marking-knife")[0].Place)
	assert.Equal(t, best["wall"].(string), id[:1], "its address begins with the wall")

	code, got = c.do(http.MethodGet, "/api/places/"+id+"/layout", nil)
	assert.Equal(t, 200, code)
	assert.Equal(t, "from the front", got["view"])
	assert.Len(t, got["shapes"], 2)
	code, _ = c.do(http.MethodPut, "/api/places/"+id+"/at", map[string]any{"base": 2, "at": map[string]any{"wall": "B", "x": 100, "z": 2000}})
	assert.Equal(t, 200, code)
	code, got = c.do(http.MethodPut, "/api/places/"+id+"/at", map[string]any{"base": 3, "at": map[string]any{"wall": "B"}, "typed": map[string]string{"x": "high", "z": "2 m"}})
	assert.Equal(t, 422, code)
	assert.Contains(t, got["detail"], "not a number")
	code, got = c.do(http.MethodPut, "/api/places/"+id+"/at", map[string]any{"base": 3, "at": map[string]any{"wall": "B", "x": 40000, "z": 2000}})
	assert.Equal(t, 422, code)
	assert.Contains(t, got["detail"], "mm long", "a place that would be beyond its wall")
	code, _ = c.do(http.MethodDelete, "/api/places/"+id+"?base=3", nil)
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
		code, got := c.do(http.MethodPost, "/api/storage/where", wish)
		assert.Equal(t, 422, code, x.more)
		assert.Contains(t, got["detail"], x.says)
	}
	code, _ := c.do(http.MethodGet, "/api/places/Q9/layout", nil)
	assert.Equal(t, 404, code)
	code, got := c.do(http.MethodDelete, "/api/places/Q9?base=1", nil)
	assert.Equal(t, 422, code)
	assert.Contains(t, got["detail"], "there is no place")
}

func TestACabinetMovesWithItsContents(t *testing.T) {
	c := start(t)
	sh, _ := c.st.Shop()
	homes := len(sh.Homes)
	k := shop.NewIndex(sh).Container("K1")
	code, got := c.do(http.MethodPut, "/api/places/K1/at", map[string]any{"base": 1, "at": map[string]any{"floor": []float64{0, 0}, "rot": k.At.Rot}, "typed": map[string]string{"x": k.At.Floor[0].String(), "y": "1' 1\""}})
	require.Equal(t, 200, code, got)
	sh, _ = c.st.Shop()
	k2 := shop.NewIndex(sh).Container("K1")
	assert.Equal(t, k.At.Floor[0], k2.At.Floor[0])
	assert.InDelta(t, 330.2, k2.At.Floor[1].MM(), .001)
	assert.Len(t, sh.Homes, homes)
}
