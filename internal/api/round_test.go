package api_test

import (
	"encoding/json"
	"fmt"
	"io"
	"net/http"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"hobrak/internal/core/shop"
	"hobrak/internal/core/shoptest"
)

// One edit of a large shop is told in little, and a window that knows nothing of this start
// of the server is told all.
func TestAnEditOfALargeShopIsToldInLittle(t *testing.T) {
	shoptest.OneAfterTheOther(t)
	c := startWith(t, shoptest.Made(2000, 200, 1))
	read := func(path string) (string, map[string]any) {
		resp, err := http.Get(c.url + path)
		require.NoError(t, err)
		defer resp.Body.Close()
		require.Equal(t, 200, resp.StatusCode)
		text, err := io.ReadAll(resp.Body)
		require.NoError(t, err)
		var out map[string]any
		require.NoError(t, json.Unmarshal(text, &out))
		return string(text), out
	}
	whole, first := read("/api/v1/round")
	r, err := c.st.Change(t.Context(), c.st.Head(), "me", "a name", func(s *shop.Shop) error { s.Items[7].Name = "Renamed"; return nil })
	require.NoError(t, err)
	since := fmt.Sprintf("/api/v1/round/since/%v?start=", first["revision"])
	text, change := read(since + first["start"].(string))
	assert.EqualValues(t, r.ID, change["revision"])
	assert.Nil(t, change["round"])
	put := change["change"].(map[string]any)["items"].(map[string]any)["put"].([]any)
	require.Len(t, put, 1)
	assert.Equal(t, "Renamed", put[0].(map[string]any)["name"])
	assert.Less(t, len(text), 20_000)
	t.Logf("the whole round is %d kB, one edit %d kB", len(whole)/1000, len(text)/1000)
	_, other := read(since + "another")
	assert.NotNil(t, other["round"])
	assert.Nil(t, other["change"])
}
