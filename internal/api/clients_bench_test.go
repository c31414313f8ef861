package api_test

import (
	"context"
	"fmt"
	"io"
	"math/rand/v2"
	"net/http"
	"net/url"
	"os"
	"slices"
	"strings"
	"sync"
	"testing"
	"time"

	"github.com/stretchr/testify/require"

	"hobrak/demo"
	"hobrak/internal/core/event"
	"hobrak/internal/core/shop"
)

// A household that presses all at once: fifty devices find, take, put back, look what is out and walk the round, for 5 s (60 with
// HOBRAK_LONG). It reports how long the slowest one in a hundred waited, what failed, and whether what was acknowledged is all there.
func BenchmarkFiftyClients(b *testing.B) {
	c := benched(b)
	long := 5 * time.Second
	if os.Getenv("HOBRAK_LONG") != "" {
		long = time.Minute
	}
	sh, _ := c.st.Snapshot()
	transport := &http.Transport{MaxIdleConnsPerHost: 60}
	web := &http.Client{Transport: transport}
	defer transport.CloseIdleConnections()
	func() { // one run says it
		var mu sync.Mutex
		var took []time.Duration
		failed, noted := 0, 0
		var wg sync.WaitGroup
		end := time.Now().Add(long)
		for k := range 50 {
			wg.Go(func() {
				rng := rand.New(rand.NewPCG(uint64(k), 7))
				var mine []time.Duration
				bad, written := 0, 0
				for n := 0; time.Now().Before(end); n++ {
					it := sh.Items[rng.IntN(len(sh.Items))]
					var req *http.Request
					switch rng.IntN(6) {
					case 0, 1:
						req, _ = http.NewRequest("GET", c.url+"/api/v1/find?q="+url.QueryEscape(it.Name), nil)
					case 2:
						req, _ = http.NewRequest("GET", c.url+"/api/v1/out", nil)
					case 3:
						req, _ = http.NewRequest("GET", c.url+"/api/v1/round/since/1?start=x", nil)
					default:
						what := []string{"taken", "put-back"}[rng.IntN(2)]
						req, _ = http.NewRequest("POST", c.url+"/api/v1/taps", strings.NewReader(fmt.Sprintf(`{"what":%q,"items":[{"item":%q,"n":1}],"key":"%d-%d"}`, what, it.ID, k, n)))
						req.Header.Set("Content-Type", "application/json")
					}
					began := time.Now()
					resp, err := web.Do(req)
					if err != nil {
						bad++
						continue
					}
					_, _ = io.Copy(io.Discard, resp.Body)
					resp.Body.Close()
					mine = append(mine, time.Since(began))
					switch {
					case resp.StatusCode == 201:
						written++
					case resp.StatusCode >= 300 && resp.StatusCode != 409: // 409: out already, or not out
						if bad++; bad == 1 {
							b.Logf("%s %s: %d", req.Method, req.URL.Path, resp.StatusCode)
						}
					}
					time.Sleep(time.Duration(50+rng.IntN(100)) * time.Millisecond) // one looks and walks in between
				}
				mu.Lock()
				defer mu.Unlock()
				took, failed, noted = append(took, mine...), failed+bad, noted+written
			})
		}
		wg.Wait()
		all, err := c.st.AllEvents(context.Background())
		require.NoError(b, err)
		slices.Sort(took)
		b.ReportMetric(float64(len(took))/long.Seconds(), "answers/s")
		b.ReportMetric(float64(took[len(took)*99/100].Milliseconds()), "p99-ms")
		b.ReportMetric(float64(took[len(took)/2].Milliseconds()), "p50-ms")
		b.ReportMetric(float64(failed), "failed")
		b.ReportMetric(float64(noted-len(all)), "lost")
	}()
}

// Answers with a hundred thousand events behind them, by those with a thousand: the ratio of each.
func BenchmarkAHundredThousandEvents(b *testing.B) {
	few, many := benched(b), benched(b)
	filled := func(c client, n int) {
		sh, _ := c.st.Snapshot()
		rng := rand.New(rand.NewPCG(1, 2))
		now := time.Now()
		out := map[string]bool{}
		var list []event.Event
		for i := range n {
			it := sh.Items[rng.IntN(len(sh.Items))].ID
			what := event.Taken
			if out[it] {
				what = event.PutBack
			}
			out[it] = !out[it]
			list = append(list, event.Event{At: now.AddDate(0, 0, -300+i*299/n).Format(time.DateOnly), Who: "you", What: what, Item: it, Place: "B1"})
		}
		for len(list) > 0 {
			k := min(len(list), 2000)
			_, err := c.st.Happened(context.Background(), list[:k]...)
			require.NoError(b, err)
			list = list[k:]
		}
	}
	filled(few, 1000)
	filled(many, 100_000)
	paths := []string{"out", "closing", "find?q=jack+plane", "events?limit=50", "uses", "learned", "habits", "needs", "guards"}
	ask := func(c client, path string) time.Duration {
		began := time.Now()
		resp, err := http.Get(c.url + "/api/v1/" + path)
		require.NoError(b, err)
		_, _ = io.Copy(io.Discard, resp.Body)
		resp.Body.Close()
		require.Equal(b, 200, resp.StatusCode, path)
		return time.Since(began)
	}
	func() {
		for _, path := range paths {
			var f, m []time.Duration
			for range 15 {
				f, m = append(f, ask(few, path)), append(m, ask(many, path))
			}
			slices.Sort(f)
			slices.Sort(m)
			name, _, _ := strings.Cut(path, "?")
			b.ReportMetric(float64(m[len(m)/2])/float64(f[len(f)/2]), name+"-ratio")
			b.ReportMetric(float64(m[len(m)/2].Microseconds())/1000, name+"-ms")
		}
	}()
}

// benched is the demo, served.
func benched(b *testing.B) client {
	b.Helper()
	sh, err := shop.Read(demo.Slipway)
	require.NoError(b, err)
	return startWith(b, sh)
}
