package api_test

import (
	"fmt"
	"math/rand/v2"
	"slices"
	"sync"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"hobrak/demo"
	"hobrak/internal/api"
	"hobrak/internal/core/gather"
	"hobrak/internal/core/shop"
)

// Many press at once for the last ones: as many get them as there are, and each who sends a press again, because the answer was lost,
// is told the same.
func TestTapsOfManyAtOnceTakeNoMoreThanThereIs(t *testing.T) {
	c := start(t)
	sh, _ := c.st.Snapshot()
	k := slices.IndexFunc(sh.Items, func(it shop.Item) bool { return it.Count > 3 })
	require.GreaterOrEqual(t, k, 0)
	it := sh.Items[k]
	var wg sync.WaitGroup
	codes := make([]int, 12)
	for i := range codes {
		wg.Go(func() {
			tap := map[string]any{"what": "taken", "items": []any{map[string]any{"item": it.ID, "n": 1}}, "key": fmt.Sprintf("press %d", i)}
			codes[i], _ = c.do("POST", "/api/v1/taps", tap)
			again, _ := c.do("POST", "/api/v1/taps", tap)
			if codes[i] == 201 {
				assert.Equal(t, 201, again)
			}
		})
	}
	wg.Wait()
	got := 0
	for _, code := range codes {
		if code == 201 {
			got++
		} else {
			assert.Equal(t, 409, code)
		}
	}
	assert.Equal(t, it.Count, got)
	out := served[[]api.OutNow](t, c, "/api/v1/out")
	n := 0
	for _, o := range out {
		n += o.Number()
	}
	assert.Equal(t, it.Count, n)
}

func TestAPressThatComesLateIsNotedWhenItWasMade(t *testing.T) {
	c := start(t)
	sh, _ := c.st.Snapshot()
	item := sh.Homes[0].Item
	c.put("POST", "/api/v1/taps", map[string]any{"what": "lent", "to": "a neighbour", "due": "2020-01-01", "items": []any{map[string]any{"item": item, "n": 1}}, "ago": 3 * 24 * 3600, "key": "late"}, 201)
	out := served[[]api.OutNow](t, c, "/api/v1/out")
	require.Len(t, out, 1)
	assert.Equal(t, 3, out[0].Days)
	assert.True(t, out[0].Overdue)
	assert.WithinDuration(t, time.Now().Add(-72*time.Hour), mustTime(t, out[0].At), time.Minute)
	// A clock that is years off moves it no further than two months.
	c.put("POST", "/api/v1/taps", map[string]any{"what": "returned", "items": []any{map[string]any{"item": item, "n": 1}}, "ago": 9e8}, 201)
	assert.Empty(t, served[[]api.OutNow](t, c, "/api/v1/out"))
	for _, bad := range []map[string]any{{"what": "moved", "items": []any{map[string]any{"item": item, "n": 1}}}, {"what": "taken", "items": []any{map[string]any{"item": item, "n": 1}}, "ago": -5}, {"what": "lent", "due": "soon", "to": "x", "items": []any{map[string]any{"item": item, "n": 1}}}} {
		c.put("POST", "/api/v1/taps", bad, 422)
	}
	c.put("POST", "/api/v1/taps", map[string]any{"what": "put-back", "items": []any{map[string]any{"item": item, "n": 1}}}, 409)
}

func mustTime(t *testing.T, text string) time.Time {
	at, err := time.Parse(time.RFC3339, text)
	require.NoError(t, err)
	return at
}

// What is found says what is out of it, with whom, and what goes with it; what is out is asked for by that word.
func TestFindSaysWhoHasIt(t *testing.T) {
	c := start(t)
	sh, _ := c.st.Snapshot()
	a, b := sh.Homes[0].Item, sh.Homes[3].Item
	c.put("PUT", "/api/v1/kits/outdoors", map[string]any{"name": "Outdoors", "items": []any{map[string]any{"item": a, "n": 1}, map[string]any{"item": b}}}, 200)
	c.put("POST", "/api/v1/taps", map[string]any{"what": "taken", "kits": []string{"outdoors"}, "on": "the garden"}, 201)
	found := served[[]api.Found](t, c, "/api/v1/find?q=out")
	ids := []string{}
	for _, f := range found {
		ids = append(ids, f.ID)
		require.NotEmpty(t, f.Out)
		assert.Equal(t, "the garden", f.Out[0].On)
		assert.Equal(t, f.Count-1, f.Home)
	}
	assert.ElementsMatch(t, []string{a, b}, ids)
	kit := served[[]api.Found](t, c, "/api/v1/find?q=outdoors&kind=kit")
	require.Len(t, kit, 1)
	walk := served[gather.Round](t, c, "/api/v1/gather?of=kit:outdoors")
	assert.Positive(t, walk.Metres)
	c.put("GET", "/api/v1/gather?of=kit:gone", nil, 422)
	c.put("PUT", "/api/v1/kits/other", map[string]any{"name": "outdoors", "items": []any{}}, 422)
	c.put("PUT", "/api/v1/kits/other", map[string]any{"name": "Other", "items": []any{map[string]any{"item": "nothing"}}}, 422)
	c.put("DELETE", "/api/v1/kits/outdoors", nil, 200)
	c.put("DELETE", "/api/v1/kits/outdoors", nil, 404)
}

// BenchmarkTaps is a press with the disk's flush, and the same while many press at once.
func BenchmarkTaps(b *testing.B) {
	full, err := shop.Read(demo.Slipway)
	require.NoError(b, err)
	c := startWith(b, full)
	sh, _ := c.st.Snapshot()
	rng := rand.New(rand.NewPCG(1, 1))
	var each []time.Duration
	for b.Loop() {
		it := sh.Items[rng.IntN(len(sh.Items))].ID
		began := time.Now()
		c.do("POST", "/api/v1/taps", map[string]any{"what": "used", "items": []any{map[string]any{"item": it, "n": 1}}})
		each = append(each, time.Since(began))
	}
	slices.Sort(each)
	b.ReportMetric(float64(each[len(each)*95/100].Microseconds())/1000, "p95_ms")
}
