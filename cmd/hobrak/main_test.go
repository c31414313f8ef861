package main

import (
	"bufio"
	"bytes"
	"encoding/csv"
	"encoding/json"
	"fmt"
	"io"
	"net/http"
	"os"
	"os/exec"
	"path/filepath"
	"regexp"
	"slices"
	"strconv"
	"strings"
	"syscall"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"hobrak/demo"
	"hobrak/internal/core/fit"
	"hobrak/internal/core/length"
	"hobrak/internal/core/moves"
	"hobrak/internal/core/quantity"
	"hobrak/internal/core/shop"
	"hobrak/internal/core/weight"
)

var binary string

// TestMain builds the command once; the tests run it as its users do.
func TestMain(m *testing.M) {
	dir, err := os.MkdirTemp("", "hobrak-cmd-*")
	if err != nil {
		panic(err)
	}
	binary = filepath.Join(dir, "hobrak")
	if out, err := exec.Command("go", "build", "-tags", "nomsgpack", "-o", binary, ".").CombinedOutput(); err != nil {
		fmt.Fprintln(os.Stderr, string(out))
		os.Exit(1)
	}
	code := m.Run()
	os.RemoveAll(dir)
	os.Exit(code)
}

type result struct {
	code     int
	out, err string
	maxRSS   int64 // KiB
}

func hobrak(t testing.TB, args ...string) result {
	t.Helper()
	c := exec.Command(binary, args...)
	var out, errs bytes.Buffer
	c.Stdout, c.Stderr = &out, &errs
	_ = c.Run()
	r := result{code: c.ProcessState.ExitCode(), out: out.String(), err: errs.String()}
	if u, ok := c.ProcessState.SysUsage().(*syscall.Rusage); ok {
		r.maxRSS = u.Maxrss
	}
	return r
}

func file(t testing.TB, name string, data []byte) string {
	t.Helper()
	path := filepath.Join(t.TempDir(), name)
	require.NoError(t, os.WriteFile(path, data, 0o644))
	return path
}

func TestFitWritesAPlanThatCheckAccepts(t *testing.T) {
	dir := t.TempDir()
	out, costs := filepath.Join(dir, "plan.json"), filepath.Join(dir, "costs.csv")
	r := hobrak(t, "fit", "--shop", file(t, "s.json", demo.Slipway), "--out", out, "--costs", costs, "--seconds", "120")
	require.Equal(t, 0, r.code, r.err)
	assert.Contains(t, r.err, "have a home")
	data, err := os.ReadFile(out)
	require.NoError(t, err)
	plan, err := shop.Read(data)
	require.NoError(t, err)
	require.NotNil(t, plan.Fit)
	assert.LessOrEqual(t, plan.Fit.Objective, .65*plan.Fit.Before)
	assert.LessOrEqual(t, plan.Fit.Bound, plan.Fit.Objective)
	assert.Equal(t, 0, hobrak(t, "check", "--shop", out).code)
	t.Logf("fit of the demo: %d ms, %.1f %% less, gap %.1f %%", plan.Fit.Millis, 100*(1-plan.Fit.Objective/plan.Fit.Before), 100*plan.Fit.Gap)

	f, err := os.Open(costs)
	require.NoError(t, err)
	defer f.Close()
	rows, err := csv.NewReader(f).ReadAll()
	require.NoError(t, err)
	assert.Equal(t, []string{"item", "place", "seconds_per_week"}, rows[0])
	assert.Greater(t, len(rows), 500)
}

func TestTheSameIterationsGiveTheSameFile(t *testing.T) {
	in, dir := file(t, "s.json", demo.Pantry), t.TempDir()
	var plans []string
	for _, name := range []string{"a", "b"} {
		out := filepath.Join(dir, name)
		hobrak(t, "fit", "--shop", in, "--out", out, "--seconds", "60", "--iterations", "300", "--seed", "4")
		data, err := os.ReadFile(out)
		require.NoError(t, err)
		s, err := shop.Read(data)
		require.NoError(t, err)
		s.Fit.Millis = 0
		plans = append(plans, string(shop.Write(s)))
	}
	assert.Equal(t, plans[0], plans[1])
}

func TestExitCodes(t *testing.T) {
	whole := string(demo.Pantry)
	s, err := shop.Read(demo.Pantry)
	require.NoError(t, err)
	s.Places, s.Homes = nil, nil
	out := filepath.Join(t.TempDir(), "plan.json")
	r := hobrak(t, "fit", "--shop", file(t, "bare.json", shop.Write(s)), "--out", out)
	assert.Equal(t, 1, r.code, "nothing has a home")
	assert.FileExists(t, out, "the plan is still written")

	r = hobrak(t, "fit", "--shop", file(t, "bad.json", []byte(strings.Replace(whole, `"w": `, `"w": -`, 1))), "--out", out)
	assert.Equal(t, 2, r.code)
	assert.Regexp(t, `\]\.w: .*too small`, r.err)
	for _, doc := range []string{`{"format":"hobrak-shop","version":2}`, `{"a":NaN}`, `[`, ``, `{"areas":` + strings.Repeat("[", 4<<20)} {
		r = hobrak(t, "check", "--shop", file(t, "x.json", []byte(doc)))
		assert.Equal(t, 2, r.code, "%.30s", doc)
		assert.NotEmpty(t, r.err)
	}
	assert.Equal(t, 2, hobrak(t, "check", "--shop", "nowhere.json").code)
	assert.Equal(t, 2, hobrak(t, "fit").code)
	assert.Equal(t, 2, hobrak(t, "calc", "lift", "weight=heavy").code)

	s, err = shop.Read(demo.Pantry)
	require.NoError(t, err)
	s.Homes[1].Place, s.Homes[1].X, s.Homes[1].Z = s.Homes[0].Place, s.Homes[0].X, s.Homes[0].Z
	r = hobrak(t, "check", "--json", "--shop", file(t, "clash.json", shop.Write(s)))
	assert.Equal(t, 1, r.code)
	var found []map[string]any
	require.NoError(t, json.Unmarshal([]byte(r.out), &found))
	assert.NotEmpty(t, found)
}

func TestCalcListsItselfAndAnswersInJSON(t *testing.T) {
	r := hobrak(t, "calc")
	for _, name := range []string{"length", "reach-band", "reach-over", "lift", "fetch-time", "path"} {
		assert.Contains(t, "\n"+r.out, "\n"+name+": ")
	}
	r = hobrak(t, "calc", "reach-over", "stature=1680", "depth=650", "top=880 mm")
	require.Equal(t, 0, r.code, r.err)
	var answer map[string]any
	require.NoError(t, json.Unmarshal([]byte(r.out), &answer))
	assert.InDelta(t, 2019.6, answer["result"].(map[string]any)["high"], .1)
	assert.NotEmpty(t, answer["source"])
}

func TestImportExportBackupAndRestore(t *testing.T) {
	dir := t.TempDir()
	db, out := filepath.Join(dir, "a.db"), filepath.Join(dir, "out.json")
	require.Equal(t, 0, hobrak(t, "import", "--db", db, "--shop", file(t, "s.json", demo.Pantry)).code)
	require.Equal(t, 0, hobrak(t, "export", "--db", db, "--out", out).code)
	data, err := os.ReadFile(out)
	require.NoError(t, err)
	assert.Equal(t, string(demo.Pantry), string(data))
	copied, again := filepath.Join(dir, "copy.db"), filepath.Join(dir, "again.db")
	require.Equal(t, 0, hobrak(t, "backup", "--db", db, "--out", copied).code)
	require.Equal(t, 0, hobrak(t, "restore", "--from", copied, "--db", again).code)
	assert.Equal(t, 2, hobrak(t, "restore", "--from", copied, "--db", again).code, "it overwrites nothing")
	require.Equal(t, 0, hobrak(t, "export", "--db", again, "--out", out).code)
	data, err = os.ReadFile(out)
	require.NoError(t, err)
	assert.Equal(t, string(demo.Pantry), string(data))
	assert.Equal(t, 2, hobrak(t, "export", "--db", filepath.Join(dir, "none.db"), "--out", out).code)
	for _, name := range []string{"room.pdf", "room.svg"} {
		paper := filepath.Join(dir, name)
		require.Equal(t, 0, hobrak(t, "export", "--db", db, "--sheet", "survey", "--out", paper).code)
		data, err = os.ReadFile(paper)
		require.NoError(t, err)
		assert.Greater(t, len(data), 3000)
	}
	assert.Equal(t, 2, hobrak(t, "export", "--db", db, "--sheet", "survey", "--out", filepath.Join(dir, "room.bmp")).code)
}

// begun starts a server and gives its address.
func begun(c *exec.Cmd) (string, error) {
	pipe, err := c.StdoutPipe()
	if err != nil {
		return "", err
	}
	if err := c.Start(); err != nil {
		return "", err
	}
	line, err := bufio.NewReader(pipe).ReadString('\n')
	if err != nil {
		return "", err
	}
	_, url, _ := strings.Cut(strings.TrimSpace(line), "Hobrak is at ")
	return url, nil
}

// served starts the command and waits for its address.
func served(t testing.TB, args ...string) (*exec.Cmd, string, time.Duration) {
	t.Helper()
	c := exec.Command(binary, args...)
	c.Stderr = &bytes.Buffer{}
	started := time.Now()
	url, err := begun(c)
	require.NoError(t, err)
	t.Cleanup(func() { _ = c.Process.Kill(); _ = c.Wait() })
	resp, err := http.Get(url + "/api/v1/round")
	require.NoError(t, err)
	resp.Body.Close()
	return c, url, time.Since(started)
}

func TestAListGoesOutAndComesInOnTheCommandLine(t *testing.T) {
	dir := t.TempDir()
	db := filepath.Join(dir, "s.db")
	require.Equal(t, 0, hobrak(t, "import", "--db", db, "--shop", file(t, "s.json", demo.Slipway)).code)
	for _, ending := range []string{"csv", "xlsx"} {
		list := filepath.Join(dir, "list."+ending)
		require.Equal(t, 0, hobrak(t, "export", "--db", db, "--out", list).code)
		// Into the shop it came from nothing is new; into one with the same room and an empty list all of it is.
		r := hobrak(t, "import", "--db", db, "--list", list)
		require.Equal(t, 0, r.code, r.err)
		assert.Contains(t, r.err, "0 new, 0 changed,")
		s, err := shop.Read(demo.Slipway)
		require.NoError(t, err)
		want := s.Items
		s.Items, s.Homes = nil, nil
		empty := filepath.Join(dir, ending+".db")
		require.Equal(t, 0, hobrak(t, "import", "--db", empty, "--shop", file(t, "e.json", shop.Write(s))).code)
		r = hobrak(t, "import", "--db", empty, "--list", list)
		require.Equal(t, 0, r.code, r.err)
		out := filepath.Join(dir, ending+".json")
		require.Equal(t, 0, hobrak(t, "export", "--db", empty, "--out", out).code)
		data, err := os.ReadFile(out)
		require.NoError(t, err)
		got, err := shop.Read(data)
		require.NoError(t, err)
		assert.Equal(t, want, got.Items)
	}
	bad := file(t, "bad.csv", []byte("Thing;Width;Used at\nAwl;20;bench\nLamp;wide;porch\nMat;400;porch\n"))
	r := hobrak(t, "import", "--db", db, "--list", bad)
	assert.Equal(t, 2, r.code)
	assert.Contains(t, r.err, "row 3, column B")
	assert.Contains(t, r.err, "none was imported")
	r = hobrak(t, "import", "--db", db, "--list", bad, "--good-rows", "--make-stations")
	assert.Equal(t, 0, r.code, r.err)
	assert.Contains(t, r.err, "station porch made")
	assert.Contains(t, r.err, "2 new, 0 changed, 0 as they were, 1 left out")
	assert.Equal(t, 2, hobrak(t, "import", "--db", db).code, "nothing to import")
	assert.Equal(t, 2, hobrak(t, "export", "--db", db, "--out", filepath.Join(dir, "list.doc")).code)
}

func TestAShopTravelsAsAZip(t *testing.T) {
	dir := t.TempDir()
	db, zip := filepath.Join(dir, "s.db"), filepath.Join(dir, "s.zip")
	require.Equal(t, 0, hobrak(t, "import", "--db", db, "--shop", file(t, "s.json", demo.Pantry)).code)
	require.Equal(t, 0, hobrak(t, "export", "--db", db, "--out", zip).code)
	again, out := filepath.Join(dir, "again.db"), filepath.Join(dir, "again.json")
	require.Equal(t, 0, hobrak(t, "import", "--db", again, "--shop", zip).code)
	require.Equal(t, 0, hobrak(t, "export", "--db", again, "--out", out).code)
	data, err := os.ReadFile(out)
	require.NoError(t, err)
	s, err := shop.Read(demo.Pantry)
	require.NoError(t, err)
	assert.Equal(t, shop.Write(s), data)
	assert.Equal(t, 2, hobrak(t, "import", "--db", again, "--shop", file(t, "no.zip", []byte("PK"))).code)
}

func TestKillingTheServerLosesNothingItAcknowledged(t *testing.T) {
	db := filepath.Join(t.TempDir(), "shop.db")
	require.Equal(t, 0, hobrak(t, "import", "--db", db, "--shop", file(t, "s.json", demo.Slipway)).code)
	c, url, _ := served(t, "serve", "--db", db, "--listen", "127.0.0.1:0")
	s, err := shop.Read(demo.Slipway)
	require.NoError(t, err)
	acknowledged := map[string]bool{}
	revision := 1
	killed := time.AfterFunc(900*time.Millisecond, func() { _ = c.Process.Signal(syscall.SIGKILL) })
	defer killed.Stop()
	tried := ""
	for _, h := range s.Homes {
		if acknowledged[h.Item] {
			continue
		}
		tried = h.Item
		req, err := http.NewRequest("DELETE", fmt.Sprintf("%s/api/v1/items/%s/home", url, h.Item), nil)
		require.NoError(t, err)
		req.Header.Set("If-Match", strconv.Quote(fmt.Sprint(revision)))
		resp, err := http.DefaultClient.Do(req)
		if err != nil {
			break // killed
		}
		resp.Body.Close()
		require.Equal(t, 200, resp.StatusCode)
		acknowledged[h.Item] = true
		revision++
	}
	require.NotEmpty(t, acknowledged)
	_ = c.Process.Signal(syscall.SIGKILL)
	_ = c.Wait()
	out := filepath.Join(t.TempDir(), "out.json")
	require.Equal(t, 0, hobrak(t, "export", "--db", db, "--out", out).code)
	data, err := os.ReadFile(out)
	require.NoError(t, err)
	after, err := shop.Read(data)
	require.NoError(t, err)
	left := map[string]bool{}
	for _, h := range after.Homes {
		left[h.Item] = true
	}
	for _, h := range s.Homes {
		if acknowledged[h.Item] {
			assert.False(t, left[h.Item], "%s was acknowledged and is lost", h.Item)
		} else if h.Item != tried {
			assert.True(t, left[h.Item], "%s was never touched", h.Item)
		}
	}
	t.Logf("killed after %d acknowledged changes, all of them there", len(acknowledged))
}

// Steps of an evening are ticked until the machine goes dark: each that was acknowledged is done, and the list goes on from there.
func TestNoTickOfAnEveningIsLostWhenTheServerIsKilled(t *testing.T) {
	s, err := shop.Read(demo.Slipway)
	require.NoError(t, err)
	e, err := fit.New(s)
	require.NoError(t, err)
	aim := moves.Aim(s, e.Run(fit.Options{Seed: 1, Iterations: 500}).Apply(s), "the plan")
	aim.ID, aim.Made = "t1", "2027-01-01"
	s.Targets, s.Settings.Target = []shop.Target{aim}, "t1"
	db := filepath.Join(t.TempDir(), "shop.db")
	require.Equal(t, 0, hobrak(t, "import", "--db", db, "--shop", file(t, "s.json", shop.Write(s))).code)
	then, _, err := moves.Toward(s, &aim)
	require.NoError(t, err)
	plan, err := moves.Of(s, then, moves.Options{Minutes: 600})
	require.NoError(t, err)
	steps := plan.Evenings[0].Steps
	require.Greater(t, len(steps), 20)
	c, url, _ := served(t, "serve", "--db", db, "--listen", "127.0.0.1:0")
	revision, done := 1, 0
	for ; done < len(steps); done++ {
		if done == 12 {
			time.AfterFunc(30*time.Millisecond, func() { _ = c.Process.Signal(syscall.SIGKILL) })
		}
		body, err := json.Marshal(map[string]any{"step": steps[done]})
		require.NoError(t, err)
		req, err := http.NewRequest("POST", url+"/api/v1/evenings/steps", bytes.NewReader(body))
		require.NoError(t, err)
		req.Header.Set("If-Match", strconv.Quote(fmt.Sprint(revision)))
		req.Header.Set("Content-Type", "application/json")
		resp, err := http.DefaultClient.Do(req)
		if err != nil {
			break // killed
		}
		said, _ := io.ReadAll(resp.Body)
		resp.Body.Close()
		if len(said) == 0 {
			break
		}
		require.Equal(t, 200, resp.StatusCode, "%s", said)
		revision++
	}
	_ = c.Process.Signal(syscall.SIGKILL)
	_ = c.Wait()
	require.GreaterOrEqual(t, done, 12)
	out := filepath.Join(t.TempDir(), "out.json")
	require.Equal(t, 0, hobrak(t, "export", "--db", db, "--out", out).code)
	data, err := os.ReadFile(out)
	require.NoError(t, err)
	after, err := shop.Read(data)
	require.NoError(t, err)
	// What was under way when it went dark may have got in, nothing more.
	homes := s.Homes
	ix := shop.NewIndex(s)
	for i := range done {
		homes = moves.Done(homes, ix.Item, &steps[i])
	}
	one := homes
	if done < len(steps) {
		one = moves.Done(homes, ix.Item, &steps[done])
	}
	key := func(list []shop.Home) (out []string) {
		for _, h := range list {
			out = append(out, fmt.Sprintf("%s %s %v %v %d %d %d", h.Item, h.Place, h.X, h.Y, h.Slot, h.Level, h.N))
		}
		slices.Sort(out)
		return out
	}
	got := key(after.Homes)
	assert.True(t, slices.Equal(got, key(homes)) || slices.Equal(got, key(one)), "after %d acknowledged ticks", done)
	left, _, err := moves.Toward(after, &after.Targets[0])
	require.NoError(t, err)
	rest, err := moves.Of(after, left, moves.Options{Minutes: 600})
	require.NoError(t, err)
	assert.Empty(t, rest.Stuck)
	t.Logf("killed after %d acknowledged ticks of %d", done, len(steps))
}

func TestAServerStopsWhenAsked(t *testing.T) {
	c, _, _ := served(t, "demo", "--listen", "127.0.0.1:0")
	require.NoError(t, c.Process.Signal(syscall.SIGTERM))
	done := make(chan error, 1)
	go func() { done <- c.Wait() }()
	select {
	case err := <-done:
		assert.NoError(t, err)
	case <-time.After(60 * time.Second):
		t.Fatal("it does not stop")
	}
}

func BenchmarkDemoAnswers(b *testing.B) {
	for b.Loop() {
		c, _, took := served(b, "demo", "--listen", "127.0.0.1:0")
		b.ReportMetric(float64(took.Milliseconds()), "ms-to-first-answer")
		_ = c.Process.Kill()
		_ = c.Wait()
	}
}

func BenchmarkFitCommandOnTheDemo(b *testing.B) {
	in, out := file(b, "s.json", demo.Slipway), filepath.Join(b.TempDir(), "plan.json")
	for b.Loop() {
		r := hobrak(b, "fit", "--shop", in, "--out", out)
		b.ReportMetric(float64(r.maxRSS)/1024, "MB")
	}
}

// The command line speaks in the units of the shop; names are as people typed them.
func TestTheCommandLineSpeaksInTheUnitsOfTheShop(t *testing.T) {
	s, err := shop.Read(demo.Slipway)
	require.NoError(t, err)
	s.Settings.Units = length.Imperial
	for i := range s.Places {
		if s.Places[i].Capacity > 0 {
			s.Places[i].Capacity = weight.KG(.1) // what is overloaded is told with weights
		}
	}
	huge := s.Items[0]
	huge.ID, huge.Name, huge.W, huge.H, huge.D, huge.Flat = "huge", "Huge thing", 3*length.Metre, 2*length.Metre, length.Metre, nil
	s.Items = append(s.Items, huge)
	in, out := file(t, "s.json", shop.Write(s)), filepath.Join(t.TempDir(), "out.json")
	metric := regexp.MustCompile(`\d (mm|cm|m|kg|g|l)\b`)
	said := 0
	for _, args := range [][]string{{"check", "--shop", in}, {"check", "--shop", in, "--json"}, {"fit", "--shop", in, "--out", out, "--iterations", "50"}, {"calc", "sag", "--units", "imperial", "span=99999999999"}, {"calc", "shelf-sag", "--units", "imperial", "span=9999999"}} {
		r := hobrak(t, args...)
		for line := range strings.Lines(r.out + r.err) {
			for i := range s.Items {
				line = strings.ReplaceAll(line, s.Items[i].Name, "")
			}
			assert.NotRegexp(t, metric, line, args)
			assert.NotContains(t, line, string(quantity.Sign))
			if strings.Contains(line, " lb") || strings.Contains(line, `"`) {
				said++
			}
		}
	}
	assert.Greater(t, said, 20)
	plan, err := os.ReadFile(out)
	require.NoError(t, err)
	assert.NotContains(t, string(plan), string(quantity.Sign), "a plan is for people to read")
}
