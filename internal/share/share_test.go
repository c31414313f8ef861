package share_test

import (
	"crypto/x509"
	"net"
	"os"
	"path/filepath"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"hobrak/internal/share"
)

func TestOnlyThePhraseOpens(t *testing.T) {
	hash := share.Hash("three planes and a mallet")
	assert.NotContains(t, hash, "planes")
	assert.NotEqual(t, hash, share.Hash("three planes and a mallet"), "each has its own salt")
	ok, err := share.Right(hash, "three planes and a mallet")
	require.NoError(t, err)
	assert.True(t, ok)
	for _, wrong := range []string{"", "three planes and a malle", "three planes and a mallet ", "Three planes and a mallet", strings.Repeat("x", 5000)} {
		ok, err := share.Right(hash, wrong)
		require.NoError(t, err)
		assert.False(t, ok, wrong)
	}
}

// What is kept may be damaged: then nobody is let in, and it is said.
func TestADamagedHashLetsNobodyIn(t *testing.T) {
	hash := share.Hash("three planes and a mallet")
	rapid.Check(t, func(t *rapid.T) {
		b := []byte(hash)
		b[rapid.IntRange(0, len(b)-1).Draw(t, "where")] = rapid.SampledFrom([]byte("$0aZ=,9")).Draw(t, "what")
		if string(b) == hash {
			return
		}
		if ok, _ := share.Right(string(b), "three planes and a mallet"); ok {
			t.Fatalf("%s lets in", b)
		}
	})
}

func TestPhrasesAreLongEnough(t *testing.T) {
	assert.ErrorContains(t, share.CheckPhrase("short"), "at least 12")
	assert.NoError(t, share.CheckPhrase("ö ö ö ö ö ö ö"))
}

func TestCertificatesAreTrustedForThisMachineAndNothingElse(t *testing.T) {
	dir := t.TempDir()
	now := time.Now()
	names := []string{"localhost", "shed", "shed.local"}
	at := []net.IP{net.ParseIP("127.0.0.1"), net.ParseIP("192.168.7.20"), net.ParseIP("203.0.113.9")}
	c, err := share.Own(dir, names, at, now)
	require.NoError(t, err)
	ca, err := x509.ParseCertificate(c.Authority)
	require.NoError(t, err)
	trust := x509.NewCertPool()
	trust.AddCert(ca)
	leaf := c.TLS.Certificates[0].Leaf
	for name, ok := range map[string]bool{"shed": true, "shed.local": true, "localhost": true, "192.168.7.20": true, "127.0.0.1": true, "bank.example": false, "192.168.7.21": false, "203.0.113.9": false} {
		_, err := leaf.Verify(x509.VerifyOptions{Roots: trust, DNSName: name, CurrentTime: now})
		assert.Equal(t, ok, err == nil, "%s: %v", name, err)
	}
	assert.Less(t, leaf.NotAfter.Sub(leaf.NotBefore), 825*24*time.Hour)
	for _, f := range []string{"trust.pem", "machine.pem"} {
		info, err := os.Stat(filepath.Join(dir, f))
		require.NoError(t, err)
		assert.EqualValues(t, 0o600, info.Mode().Perm(), f)
	}

	// The same ones again; another one for the machine when its address is another or the time is up; the authority stays.
	again, err := share.Own(dir, names, at, now)
	require.NoError(t, err)
	assert.Equal(t, leaf.Raw, again.TLS.Certificates[0].Leaf.Raw)
	moved, err := share.Own(dir, names, append(at, net.ParseIP("192.168.7.33")), now)
	require.NoError(t, err)
	assert.NotEqual(t, leaf.Raw, moved.TLS.Certificates[0].Leaf.Raw)
	assert.Equal(t, c.Authority, moved.Authority)
	assert.NoError(t, moved.TLS.Certificates[0].Leaf.VerifyHostname("192.168.7.33"))
	later, err := share.Own(dir, names, at, now.AddDate(2, 0, 0))
	require.NoError(t, err)
	assert.Equal(t, c.Authority, later.Authority)
	_, err = later.TLS.Certificates[0].Leaf.Verify(x509.VerifyOptions{Roots: trust, DNSName: "shed", CurrentTime: now.AddDate(2, 0, 0)})
	assert.NoError(t, err)
	decade, err := share.Own(dir, names, at, now.AddDate(11, 0, 0))
	require.NoError(t, err)
	assert.NotEqual(t, c.Authority, decade.Authority)

	require.NoError(t, os.WriteFile(filepath.Join(dir, "trust.pem"), []byte("nonsense"), 0o600))
	_, err = share.Own(dir, names, at, now)
	assert.ErrorContains(t, err, "move it away")
	_, err = share.Given(filepath.Join(dir, "none.pem"), filepath.Join(dir, "none.key"))
	assert.ErrorContains(t, err, "none.pem")
}

// An authority that is stolen is of no use for a name elsewhere: devices refuse what it signs for one.
func TestWhatIsMadeForANameElsewhereIsNotTrusted(t *testing.T) {
	dir := t.TempDir()
	_, err := share.Own(dir, []string{"shed"}, nil, time.Now())
	require.NoError(t, err)
	c, err := share.Own(dir, []string{"shed", "bank.example"}, nil, time.Now())
	require.NoError(t, err)
	leaf := c.TLS.Certificates[0].Leaf
	assert.Error(t, leaf.VerifyHostname("bank.example"))
	assert.NoError(t, leaf.VerifyHostname("shed"))
}
