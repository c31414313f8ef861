package share

import (
	"bytes"
	"crypto/ecdsa"
	"crypto/elliptic"
	"crypto/rand"
	"crypto/sha256"
	"crypto/tls"
	"crypto/x509"
	"crypto/x509/pkix"
	"encoding/hex"
	"encoding/pem"
	"errors"
	"fmt"
	"math/big"
	"net"
	"os"
	"path/filepath"
	"slices"
	"strings"
	"time"
)

// Files beside the database in which the certificates are: the shop's own authority, which devices are told to trust, and the
// certificate of this machine, which it signs.
const (
	authorityFile = "trust.pem"
	machineFile   = "machine.pem"
)

// How long they last: devices take certificates of servers for 825 days at most, and the authority is put on each device by hand.
const (
	authorityYears = 10
	machineDays    = 397
	renewDays      = 30
)

// Certificates of a machine.
type Certificates struct {
	TLS       *tls.Config
	Authority []byte // that which devices are told to trust, DER; nil where the certificate was given
}

// Given are a certificate and its key from files.
func Given(certificate, key string) (*Certificates, error) {
	pair, err := tls.LoadX509KeyPair(certificate, key)
	if err != nil {
		return nil, fmt.Errorf("the certificate %s and its key %s: %w", certificate, key, err)
	}
	return &Certificates{TLS: &tls.Config{Certificates: []tls.Certificate{pair}, MinVersion: tls.VersionTLS12}}, nil
}

// Own are the shop's own: made in a folder the first time, the one of the machine anew when it soon ends or the machine has other names
// or addresses by now. The authority may speak for names and addresses of private networks alone, so that who trusts it trusts it
// with nothing else.
func Own(folder string, names []string, addresses []net.IP, now time.Time) (*Certificates, error) {
	ca, caKey, err := read(filepath.Join(folder, authorityFile))
	if errors.Is(err, os.ErrNotExist) || err == nil && now.After(ca.NotAfter) {
		ca, caKey, err = newAuthority(names, now)
		if err == nil {
			err = write(filepath.Join(folder, authorityFile), ca, caKey)
		}
	}
	if err != nil {
		return nil, fmt.Errorf("the certificate devices trust: %w", err)
	}
	mine := filepath.Join(folder, machineFile)
	leaf, key, err := read(mine)
	if err != nil || leaf.CheckSignatureFrom(ca) != nil || now.AddDate(0, 0, renewDays).After(leaf.NotAfter) || !serves(leaf, names, addresses) {
		if leaf, key, err = newMachine(ca, caKey, names, addresses, now); err == nil {
			err = write(mine, leaf, key)
		}
	}
	if err != nil {
		return nil, fmt.Errorf("the certificate of this machine: %w", err)
	}
	pair := tls.Certificate{Certificate: [][]byte{leaf.Raw, ca.Raw}, PrivateKey: key, Leaf: leaf}
	return &Certificates{TLS: &tls.Config{Certificates: []tls.Certificate{pair}, MinVersion: tls.VersionTLS12}, Authority: ca.Raw}, nil
}

// Fingerprint of a certificate as devices show it: SHA-256, in pairs of hexadecimal digits.
func Fingerprint(der []byte) string {
	sum := sha256.Sum256(der)
	var b strings.Builder
	for i, c := range sum {
		if i > 0 {
			b.WriteByte(':')
		}
		b.WriteString(strings.ToUpper(hex.EncodeToString([]byte{c})))
	}
	return b.String()
}

func serial() (*big.Int, error) { return rand.Int(rand.Reader, new(big.Int).Lsh(big.NewInt(1), 120)) }

// private networks (RFC 1918, RFC 4193, RFC 6598, loopback and link-local).
func private() (out []*net.IPNet) {
	for _, c := range []string{"10.0.0.0/8", "172.16.0.0/12", "192.168.0.0/16", "100.64.0.0/10", "127.0.0.0/8", "169.254.0.0/16", "fc00::/7", "fe80::/10", "::1/128"} {
		_, n, _ := net.ParseCIDR(c) // all of them can be read
		out = append(out, n)
	}
	return out
}

// Nearby are those of some addresses that are in private networks: the only ones a certificate of the shop's own is made for.
func Nearby(addresses []net.IP) (out []net.IP) {
	for _, a := range addresses {
		if slices.ContainsFunc(private(), func(n *net.IPNet) bool { return n.Contains(a) }) {
			out = append(out, a)
		}
	}
	return out
}

func newAuthority(names []string, now time.Time) (*x509.Certificate, *ecdsa.PrivateKey, error) {
	key, err := ecdsa.GenerateKey(elliptic.P256(), rand.Reader)
	if err != nil {
		return nil, nil, err
	}
	n, err := serial()
	if err != nil {
		return nil, nil, err
	}
	t := &x509.Certificate{
		SerialNumber: n, Subject: pkix.Name{CommonName: "Hobrak, this shop"},
		NotBefore: now.Add(-time.Hour), NotAfter: now.AddDate(authorityYears, 0, 0),
		IsCA: true, BasicConstraintsValid: true, MaxPathLenZero: true, KeyUsage: x509.KeyUsageCertSign | x509.KeyUsageCRLSign,
		PermittedDNSDomainsCritical: true, PermittedDNSDomains: append([]string{"local"}, names...), PermittedIPRanges: private(),
	}
	der, err := x509.CreateCertificate(rand.Reader, t, t, &key.PublicKey, key)
	if err != nil {
		return nil, nil, err
	}
	c, err := x509.ParseCertificate(der)
	return c, key, err
}

func newMachine(ca *x509.Certificate, caKey *ecdsa.PrivateKey, names []string, addresses []net.IP, now time.Time) (*x509.Certificate, *ecdsa.PrivateKey, error) {
	key, err := ecdsa.GenerateKey(elliptic.P256(), rand.Reader)
	if err != nil {
		return nil, nil, err
	}
	n, err := serial()
	if err != nil {
		return nil, nil, err
	}
	// Names the authority does not know, as those given later, cannot be in it: devices would refuse it for all.
	known := slices.DeleteFunc(slices.Clone(names), func(n string) bool {
		return !slices.ContainsFunc(ca.PermittedDNSDomains, func(d string) bool { return n == d || strings.HasSuffix(n, "."+d) })
	})
	t := &x509.Certificate{
		SerialNumber: n, Subject: pkix.Name{CommonName: "Hobrak"},
		NotBefore: now.Add(-time.Hour), NotAfter: now.AddDate(0, 0, machineDays),
		KeyUsage: x509.KeyUsageDigitalSignature, ExtKeyUsage: []x509.ExtKeyUsage{x509.ExtKeyUsageServerAuth},
		DNSNames: known, IPAddresses: Nearby(addresses),
	}
	der, err := x509.CreateCertificate(rand.Reader, t, ca, &key.PublicKey, caKey)
	if err != nil {
		return nil, nil, err
	}
	c, err := x509.ParseCertificate(der)
	return c, key, err
}

// serves tells whether a certificate is for all of these names and addresses.
func serves(c *x509.Certificate, names []string, addresses []net.IP) bool {
	for _, n := range names {
		if c.VerifyHostname(n) != nil {
			return false
		}
	}
	for _, a := range Nearby(addresses) {
		if c.VerifyHostname(a.String()) != nil {
			return false
		}
	}
	return true
}

func read(file string) (*x509.Certificate, *ecdsa.PrivateKey, error) {
	data, err := os.ReadFile(file)
	if err != nil {
		return nil, nil, err
	}
	var c *x509.Certificate
	var key *ecdsa.PrivateKey
	for {
		var b *pem.Block
		if b, data = pem.Decode(data); b == nil {
			break
		}
		switch b.Type {
		case "CERTIFICATE":
			c, err = x509.ParseCertificate(b.Bytes)
		case "EC PRIVATE KEY":
			key, err = x509.ParseECPrivateKey(b.Bytes)
		}
		if err != nil {
			return nil, nil, fmt.Errorf("%s: %w", file, err)
		}
	}
	if c == nil || key == nil {
		return nil, nil, fmt.Errorf("%s should hold a certificate and its key; move it away and it is made anew", file)
	}
	return c, key, nil
}

// write them so that nobody but the owner reads the key, and never half of it.
func write(file string, c *x509.Certificate, key *ecdsa.PrivateKey) error {
	der, err := x509.MarshalECPrivateKey(key)
	if err != nil {
		return err
	}
	var b bytes.Buffer
	for _, x := range []*pem.Block{{Type: "CERTIFICATE", Bytes: c.Raw}, {Type: "EC PRIVATE KEY", Bytes: der}} {
		if err := pem.Encode(&b, x); err != nil {
			return err
		}
	}
	part := file + ".part"
	if err := os.WriteFile(part, b.Bytes(), 0o600); err != nil {
		return err
	}
	return os.Rename(part, file)
}
