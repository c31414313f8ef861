package main

import (
	"bytes"
	"crypto/tls"
	"crypto/x509"
	"encoding/pem"
	"io"
	"net/http"
	"net/http/cookiejar"
	"net/url"
	"os"
	"os/exec"
	"path/filepath"
	"regexp"
	"strings"
	"sync"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// lines is what a program says, to be read while it runs.
type lines struct {
	mu  sync.Mutex
	all bytes.Buffer
}

func (l *lines) Write(b []byte) (int, error) {
	l.mu.Lock()
	defer l.mu.Unlock()
	return l.all.Write(b)
}

func (l *lines) String() string {
	l.mu.Lock()
	defer l.mu.Unlock()
	return l.all.String()
}

// sharedServer starts hobrak serve --share and waits until it says where it is.
func sharedServer(t *testing.T, stdin string, args ...string) (here, far string, stop func()) {
	t.Helper()
	c := exec.Command(binary, append([]string{"serve", "--share", "--listen", "127.0.0.1:0", "--share-at", "127.0.0.1:0"}, args...)...)
	out := &lines{}
	c.Stdout, c.Stderr = out, out
	c.Stdin = strings.NewReader(stdin)
	c.Env = append(os.Environ(), phraseVariable+"=")
	require.NoError(t, c.Start())
	done := make(chan error, 1)
	go func() { done <- c.Wait() }()
	at := regexp.MustCompile(`Hobrak is at (\S+)`)
	others := regexp.MustCompile(`Other devices find it at (\S+)`)
	require.Eventually(t, func() bool { return others.MatchString(out.String()) }, time.Minute, 10*time.Millisecond, "%s", out)
	stop = func() {
		_ = c.Process.Signal(os.Interrupt)
		<-done
	}
	t.Cleanup(stop)
	stopped := false
	return at.FindStringSubmatch(out.String())[1], others.FindStringSubmatch(out.String())[1], func() {
		if !stopped {
			stopped = true
			_ = c.Process.Signal(os.Interrupt)
			require.NoError(t, <-done)
			done <- nil
		}
	}
}

// The shop is shared from the command line: encrypted with a certificate of its own, which a device that trusts it takes without a
// warning and another does not; the pass phrase is asked for once and kept.
func TestAShopIsSharedEncrypted(t *testing.T) {
	dir := t.TempDir()
	db := filepath.Join(dir, "shop.db")
	here, far, stop := sharedServer(t, "four clamps on the rail\n", "--db", db)
	require.True(t, strings.HasPrefix(far, "https://127.0.0.1:"), far)

	resp, err := http.Get(here + "/api/v1/shop")
	require.NoError(t, err)
	resp.Body.Close()
	assert.Equal(t, 200, resp.StatusCode, "nobody is asked at the machine")
	_, err = http.Get(far + "/api/v1/health")
	assert.ErrorContains(t, err, "certificate", "who was not told to trust it does not")

	raw, err := os.ReadFile(filepath.Join(dir, "trust.pem"))
	require.NoError(t, err)
	block, _ := pem.Decode(raw)
	ca, err := x509.ParseCertificate(block.Bytes)
	require.NoError(t, err)
	trust := x509.NewCertPool()
	trust.AddCert(ca)
	jar, err := cookiejar.New(nil)
	require.NoError(t, err)
	phone := &http.Client{Jar: jar, Transport: &http.Transport{TLSClientConfig: &tls.Config{RootCAs: trust}}}
	ask := func(path string) (int, []byte) {
		resp, err := phone.Get(far + path)
		require.NoError(t, err)
		defer resp.Body.Close()
		data, err := io.ReadAll(resp.Body)
		require.NoError(t, err)
		return resp.StatusCode, data
	}
	status, der := ask("/trust.crt")
	assert.Equal(t, 200, status)
	assert.Equal(t, ca.Raw, der, "what a phone fetches to trust is what signs")
	status, _ = ask("/api/v1/shop")
	assert.Equal(t, 401, status)
	resp, err = phone.PostForm(far+"/enter", url.Values{"phrase": {"four clamps on the rail"}, "name": {"Phone"}})
	require.NoError(t, err)
	resp.Body.Close()
	status, _ = ask("/api/v1/shop")
	assert.Equal(t, 200, status)
	u, err := url.Parse(far)
	require.NoError(t, err)
	require.Len(t, jar.Cookies(u), 1)
	assert.True(t, strings.HasPrefix(jar.Cookies(u)[0].Name, "__Host-"))
	data, err := os.ReadFile(db)
	require.NoError(t, err)
	assert.NotContains(t, string(data), "four clamps")
	assert.NotContains(t, string(data), jar.Cookies(u)[0].Value, "nor can the key of a device be read out of the file")
	stop()

	// Again: nothing is asked for, and the phone's key is good for the shop at its new address.
	key := jar.Cookies(u)[0]
	_, far, stop = sharedServer(t, "", "--db", db)
	req, err := http.NewRequest("GET", far+"/api/v1/shop", nil)
	require.NoError(t, err)
	req.AddCookie(key)
	resp, err = phone.Do(req)
	require.NoError(t, err)
	resp.Body.Close()
	assert.Equal(t, 200, resp.StatusCode)
	stop()

	// Another pass phrase shows everybody out.
	_, far, stop = sharedServer(t, "a longer one for the year\n", "--db", db, "--new-phrase")
	req.URL, err = url.Parse(far + "/api/v1/shop")
	require.NoError(t, err)
	req.Host = ""
	resp, err = phone.Do(req)
	require.NoError(t, err)
	resp.Body.Close()
	assert.Equal(t, 401, resp.StatusCode)
	stop()
}

func TestSharingWithoutEncryptionIsSaidTwice(t *testing.T) {
	db := filepath.Join(t.TempDir(), "shop.db")
	r := hobrak(t, "serve", "--share", "--db", db, "--share-at", "127.0.0.1:0", "--listen", "127.0.0.1:0")
	assert.Equal(t, 2, r.code)
	assert.Contains(t, r.err, "needs a pass phrase")
	_, far, stop := sharedServer(t, "", "--db", db, "--plain-http", "--phrase-file", file(t, "good", []byte("four clamps on the rail")))
	assert.True(t, strings.HasPrefix(far, "http://"), far)
	resp, err := http.Get(far + "/api/v1/shop")
	require.NoError(t, err)
	resp.Body.Close()
	assert.Equal(t, 401, resp.StatusCode)
	stop()
}
