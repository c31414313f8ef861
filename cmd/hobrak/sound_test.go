package main

import (
	"bytes"
	"context"
	"database/sql"
	"fmt"
	"io"
	"math/rand/v2"
	"net/http"
	"os"
	"os/exec"
	"path/filepath"
	"regexp"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"hobrak/demo"
	"hobrak/internal/core/shop"
	"hobrak/internal/store"
)

func TestADamagedDatabaseIsRefusedExaminedAndRescued(t *testing.T) {
	dir := t.TempDir()
	db := filepath.Join(dir, "a.db")
	require.Equal(t, 0, hobrak(t, "import", "--db", db, "--shop", file(t, "s.json", demo.Pantry)).code)
	require.Equal(t, 0, hobrak(t, "doctor", "--db", db).code)
	raw, err := sql.Open("sqlite", db)
	require.NoError(t, err)
	_, err = raw.Exec(`UPDATE areas SET doc = json_set(doc, '$.ceiling', json('{"joists":{"along":"x","spacing":6000,"first":0}}'))`)
	require.NoError(t, err)
	require.NoError(t, raw.Close())

	r := hobrak(t, "serve", "--db", db, "--listen", "127.0.0.1:0")
	assert.Equal(t, 2, r.code)
	assert.Contains(t, r.err, "hobrak doctor --db "+db)
	for _, args := range [][]string{{"export", "--out", filepath.Join(dir, "x.json")}, {"backup", "--out", filepath.Join(dir, "x.db")}} {
		r := hobrak(t, append(args, "--db", db)...)
		assert.Equal(t, 2, r.code, args)
		assert.Contains(t, r.err, "doctor", args)
	}
	r = hobrak(t, "doctor", "--db", db)
	assert.Equal(t, 1, r.code)
	assert.Contains(t, r.out, "ceiling.joists.spacing")
	out := filepath.Join(dir, "saved.json")
	r = hobrak(t, "doctor", "--db", db, "--rescue", out)
	require.Equal(t, 0, r.code, r.err)
	saved, err := os.ReadFile(out)
	require.NoError(t, err)
	assert.Equal(t, string(demo.Pantry), string(saved), "its log still has the area as it was")
	info, err := os.Stat(out)
	require.NoError(t, err)
	assert.EqualValues(t, 0o600, info.Mode().Perm())
	assert.Equal(t, 2, hobrak(t, "doctor", "--db", filepath.Join(dir, "none.db")).code)
	assert.Equal(t, 2, hobrak(t, "doctor", "--db", db, "--rescue", filepath.Join(dir, "x.txt")).code)
}

func TestARestoreKeepsWhatWasThereAndWaitsForNoServer(t *testing.T) {
	dir := t.TempDir()
	db, copied := filepath.Join(dir, "a.db"), filepath.Join(dir, "copy.db")
	require.Equal(t, 0, hobrak(t, "import", "--db", db, "--shop", file(t, "s.json", demo.Pantry)).code)
	require.Equal(t, 0, hobrak(t, "backup", "--db", db, "--out", copied).code)
	require.Equal(t, 0, hobrak(t, "import", "--db", db, "--shop", file(t, "t.json", demo.Slipway)).code)
	c, _, _ := served(t, "serve", "--db", db, "--listen", "127.0.0.1:0")
	r := hobrak(t, "restore", "--from", copied, "--db", db, "--replace")
	assert.Equal(t, 2, r.code)
	assert.Contains(t, r.err, "running")
	require.NoError(t, c.Process.Signal(os.Interrupt))
	require.NoError(t, c.Wait())
	assert.Equal(t, 2, hobrak(t, "restore", "--from", copied, "--db", db).code)
	require.Equal(t, 0, hobrak(t, "restore", "--from", copied, "--db", db, "--replace").code)
	kept, err := filepath.Glob(filepath.Join(dir, "a.before-*.db"))
	require.NoError(t, err)
	require.Len(t, kept, 1)
	for path, want := range map[string][]byte{db: demo.Pantry, kept[0]: demo.Slipway} {
		out := filepath.Join(dir, "out.json")
		require.Equal(t, 0, hobrak(t, "export", "--db", path, "--out", out).code)
		data, err := os.ReadFile(out)
		require.NoError(t, err)
		assert.Equal(t, string(want), string(data), path)
	}
}

func TestAServerAndTheCommandLineWorkOnOneFile(t *testing.T) {
	dir := t.TempDir()
	db := filepath.Join(dir, "a.db")
	require.Equal(t, 0, hobrak(t, "import", "--db", db, "--shop", file(t, "s.json", demo.Pantry)).code)
	c, url, _ := served(t, "serve", "--db", db, "--listen", "127.0.0.1:0")
	defer func() { _ = c.Process.Signal(os.Interrupt); _ = c.Wait() }()
	get := func(path string) string {
		resp, err := http.Get(url + path)
		require.NoError(t, err)
		defer resp.Body.Close()
		data, err := io.ReadAll(resp.Body)
		require.NoError(t, err)
		return string(data)
	}
	require.Contains(t, get("/api/v1/health"), `"revision":1`)
	require.Equal(t, 0, hobrak(t, "import", "--db", db, "--shop", file(t, "t.json", demo.Slipway)).code)
	require.Eventually(t, func() bool { return strings.Contains(get("/api/v1/health"), `"revision":2`) }, time.Minute, 50*time.Millisecond, "the server sees it")
	assert.Contains(t, get("/api/v1/shop"), "Slipway")
	req, err := http.NewRequest(http.MethodPost, url+"/api/v1/undo", nil)
	require.NoError(t, err)
	req.Header.Set("If-Match", `"2"`)
	resp, err := http.DefaultClient.Do(req)
	require.NoError(t, err)
	resp.Body.Close()
	require.Equal(t, 200, resp.StatusCode, "and goes on writing")
	r := hobrak(t, "export", "--db", db, "--out", filepath.Join(dir, "o.json"))
	require.Equal(t, 0, r.code)
	data, err := os.ReadFile(filepath.Join(dir, "o.json"))
	require.NoError(t, err)
	assert.Equal(t, string(demo.Pantry), string(data))
}

func TestBeyondThisMachineOnlyWithAPhraseOrAWarning(t *testing.T) {
	dir := t.TempDir()
	refused := func(says string, args ...string) {
		t.Helper()
		r := hobrak(t, append([]string{"serve", "--db", filepath.Join(dir, "a.db")}, args...)...)
		assert.Equal(t, 2, r.code)
		assert.Contains(t, r.err, says)
	}
	refused("opens the shop to your network", "--listen", "0.0.0.0:0")
	refused("opens the shop to your network", "--listen", ":0")
	refused("at least 12", "--share", "--phrase-file", file(t, "short", []byte("secret")))
	good := file(t, "good", []byte("four clamps on the rail"))
	refused("opens the shop to your network", "--listen", "0.0.0.0:0", "--phrase-file", good)
	refused("say with --share-at", "--share", "--listen", "0.0.0.0:0", "--phrase-file", good)
	refused("add --share", "--plain-http", "--phrase-file", good)
	refused("go together", "--share", "--cert", "some.pem", "--phrase-file", good)
	refused("should be an address and a port", "--listen", "nowhere")
	assert.NoFileExists(t, filepath.Join(dir, "a.db"), "nothing is begun")
	c, _, _ := served(t, "serve", "--db", filepath.Join(dir, "b.db"), "--listen", "0.0.0.0:0", "--open")
	require.NoError(t, c.Process.Signal(os.Interrupt))
	require.NoError(t, c.Wait())
	assert.Contains(t, c.Stderr.(fmt.Stringer).String(), "WARNING")
}

// A kill at any moment loses nothing that was acknowledged, and the file opens again.
func TestKillStorm(t *testing.T) {
	rounds := 8
	if os.Getenv("HOBRAK_LONG") != "" {
		rounds = 200
	}
	dir := t.TempDir()
	db := filepath.Join(dir, "a.db")
	require.Equal(t, 0, hobrak(t, "import", "--db", db, "--shop", file(t, "s.json", demo.Pantry)).code)
	acknowledged, lost := 0, 0
	base := int64(1)
	for round := range rounds {
		c := exec.Command(binary, "serve", "--db", db, "--listen", "127.0.0.1:0")
		url, err := begun(c)
		require.NoError(t, err)
		kill := time.After(time.Duration(20+37*round%160) * time.Millisecond)
		stop := make(chan struct{})
		go func() { <-kill; _ = c.Process.Kill(); close(stop) }()
		for alive := true; alive; {
			select {
			case <-stop:
				alive = false
			default:
				req, _ := http.NewRequest(http.MethodPut, url+"/api/v1/settings/one-out", strings.NewReader(fmt.Sprintf(`{"on":%v}`, base%2 == 1)))
				req.Header.Set("If-Match", fmt.Sprintf("%q", fmt.Sprint(base)))
				req.Header.Set("Content-Type", "application/json")
				resp, err := http.DefaultClient.Do(req)
				if err != nil {
					continue
				}
				resp.Body.Close()
				if resp.StatusCode == 200 {
					base++
					acknowledged++
				} else if resp.StatusCode == 412 {
					base++ // done, and not acknowledged before the kill
				}
			}
		}
		_ = c.Wait()
		st, err := store.Open(context.Background(), db, nil)
		require.NoError(t, err, "round %d", round)
		if st.Head() < base {
			lost++
		}
		base = st.Head()
		require.NoError(t, st.Close())
	}
	assert.Zero(t, lost)
	found, err := store.Examine(context.Background(), db)
	require.NoError(t, err)
	assert.Empty(t, found)
	t.Logf("%d writes acknowledged over %d kills, none lost", acknowledged, rounds)
	require.Greater(t, acknowledged, rounds)
}

// peak memory of a process in MB.
func peak(t *testing.T, c *exec.Cmd) int {
	t.Helper()
	data, err := os.ReadFile(fmt.Sprintf("/proc/%d/status", c.Process.Pid))
	require.NoError(t, err)
	for line := range strings.Lines(string(data)) {
		if rest, ok := strings.CutPrefix(line, "VmHWM:"); ok {
			kb := 0
			_, err := fmt.Sscan(rest, &kb)
			require.NoError(t, err)
			return kb >> 10
		}
	}
	t.Skip("the system does not say how much memory a process took")
	return 0
}

func TestHostileFilesAreRefusedInWordsWithoutFillingTheMemory(t *testing.T) {
	for _, x := range hostile(t) {
		t.Run(x.name, func(t *testing.T) {
			c, url, _ := served(t, "demo", "--listen", "127.0.0.1:0", "--shop", "pantry")
			defer func() { _ = c.Process.Kill(); _ = c.Wait() }()
			req, err := http.NewRequest(x.method, url+x.path, bytes.NewReader(x.data))
			require.NoError(t, err)
			req.Header.Set("Content-Type", x.kind)
			req.Header.Set("If-Match", `"1"`)
			begun := time.Now()
			resp, err := http.DefaultClient.Do(req)
			require.NoError(t, err)
			says, err := io.ReadAll(resp.Body)
			resp.Body.Close()
			require.NoError(t, err)
			took := time.Since(begun)
			assert.GreaterOrEqual(t, resp.StatusCode, 400, "%.200s", says)
			assert.Less(t, resp.StatusCode, 500, "%.200s", says)
			assert.Contains(t, string(says), x.says)
			mb := peak(t, c)
			assert.Less(t, mb, 300)
			t.Logf("%d bytes: %d MB, %.1f s, %.160s", len(x.data), mb, took.Seconds(), says)
		})
	}
}

func TestALargeShopIsReadWithinTheMemory(t *testing.T) {
	// Nothing hostile: a shop about as large as there may be.
	s, err := shop.Read(demo.Pantry)
	require.NoError(t, err)
	first := s.Items[0]
	for i := range 12000 {
		it := first
		it.ID, it.Notes = fmt.Sprintf("many-%d", i), strings.Repeat("n", 300)
		s.Items = append(s.Items, it)
	}
	c, url, _ := served(t, "demo", "--listen", "127.0.0.1:0", "--shop", "pantry")
	defer func() { _ = c.Process.Kill(); _ = c.Wait() }()
	data := shop.Write(s)
	req, err := http.NewRequest(http.MethodPut, url+"/api/v1/shop", bytes.NewReader(data))
	require.NoError(t, err)
	req.Header.Set("If-Match", `"1"`)
	req.Header.Set("Content-Type", "application/json")
	resp, err := http.DefaultClient.Do(req)
	require.NoError(t, err)
	resp.Body.Close()
	assert.Equal(t, 200, resp.StatusCode)
	mb := peak(t, c)
	t.Logf("%d MB of shop file: %d MB", len(data)>>20, mb)
	assert.Less(t, mb, 300)
}

func TestWhateverIsImportedCanBeReadBack(t *testing.T) {
	// Shop files with other numbers in them and lists of odd cells: each goes in or is refused, and
	// the database opens, undoes and exports afterwards.
	rounds := 12
	if os.Getenv("HOBRAK_LONG") != "" {
		rounds = 300
	}
	dir := t.TempDir()
	db := filepath.Join(dir, "a.db")
	require.Equal(t, 0, hobrak(t, "import", "--db", db, "--shop", file(t, "s.json", demo.Pantry)).code)
	number := regexp.MustCompile(`\d+(\.\d+)?`)
	taken := 0
	for round := range rounds {
		rng := rand.New(rand.NewPCG(uint64(round), 17))
		odd := func() string {
			return []string{"0", "0.0001", "6000", "1", "99999", "1e9", "0.0004", "2400.0001", "50001", "17"}[rng.IntN(10)]
		}
		data := number.ReplaceAllStringFunc(string(demo.Pantry), func(n string) string {
			if rng.IntN(900) == 0 {
				return odd()
			}
			return n
		})
		r := hobrak(t, "import", "--db", db, "--shop", file(t, "m.json", []byte(data)))
		require.Contains(t, []int{0, 2}, r.code, r.err)
		if r.code == 0 {
			taken++
		}
		list := "Thing,Width,Height,Depth,Weight,Count,Where used\n"
		for i := range 6 {
			list += fmt.Sprintf("Odd %d %d,%s,%s,%s,%s,%s,%s\n", round, i, odd(), odd(), odd(), odd(), odd(), []string{"bench", "moon corner", "=1+1", "é"}[rng.IntN(4)])
		}
		r = hobrak(t, "import", "--db", db, "--list", file(t, "l.csv", []byte(list)), "--good-rows", "--make-stations")
		require.Contains(t, []int{0, 2}, r.code, r.err)
		require.Equal(t, 0, hobrak(t, "export", "--db", db, "--out", filepath.Join(dir, "o.json")).code)
	}
	r := hobrak(t, "doctor", "--db", db)
	require.Equal(t, 0, r.code, r.out)
	st, err := store.Open(context.Background(), db, nil)
	require.NoError(t, err)
	defer st.Close()
	for {
		if _, err := st.Undo(context.Background(), st.Head(), "me"); err != nil {
			require.ErrorIs(t, err, store.ErrNothing)
			break
		}
	}
	s, _ := st.Shop()
	assert.Equal(t, string(demo.Pantry), string(shop.Write(s)), "all of it undone")
	t.Logf("%d of %d files were taken", taken, rounds)
}
