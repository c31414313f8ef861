// Package share opens a shop to other devices of the household: the pass phrase that lets them in, and certificates by which what is
// sent cannot be read on the way. Who is let in is kept by the store, and what each may do is the API's.
package share

import (
	"crypto/rand"
	"crypto/subtle"
	"encoding/base64"
	"errors"
	"fmt"
	"strings"

	"golang.org/x/crypto/argon2"
)

// How much work it is to try out a pass phrase: memory in KiB, passes over it, lanes (OWASP, Password Storage Cheat Sheet).
const (
	memory = 19 << 10
	passes = 2
	lanes  = 1
	length = 32
)

// Least is how long a pass phrase is at least, in characters (OWASP ASVS 2.1.1), and most what is still looked at.
const (
	Least = 12
	most  = 1000
)

// CheckPhrase says what is wrong with a pass phrase.
func CheckPhrase(phrase string) error {
	if n := len([]rune(phrase)); n < Least || n > most {
		return fmt.Errorf("the pass phrase has %d characters; take at least %d, several words are good", n, Least)
	}
	return nil
}

// Hash is what is kept of a pass phrase: by argon2id with a salt of its own, in the form $argon2id$v=19$m=,t=,p=$salt$hash.
func Hash(phrase string) string {
	salt := make([]byte, 16)
	_, _ = rand.Read(salt) // never fails
	sum := argon2.IDKey([]byte(phrase), salt, passes, memory, lanes, length)
	b := base64.RawStdEncoding
	return fmt.Sprintf("$argon2id$v=%d$m=%d,t=%d,p=%d$%s$%s", argon2.Version, memory, passes, lanes, b.EncodeToString(salt), b.EncodeToString(sum))
}

// ErrHash says that what was kept of a pass phrase cannot be read.
var ErrHash = errors.New("what is kept of the pass phrase cannot be read; set it anew with --new-phrase")

// Right tells whether a pass phrase is the one a hash was made of.
func Right(hash, phrase string) (bool, error) {
	parts := strings.Split(hash, "$")
	if len(parts) != 6 || parts[1] != "argon2id" {
		return false, ErrHash
	}
	var version, m, t, p int
	if _, err := fmt.Sscanf(parts[2], "v=%d", &version); err != nil || version != argon2.Version {
		return false, ErrHash
	}
	if _, err := fmt.Sscanf(parts[3], "m=%d,t=%d,p=%d", &m, &t, &p); err != nil || m < 8 || m > 1<<20 || t < 1 || t > 100 || p < 1 || p > 16 {
		return false, ErrHash
	}
	salt, err := base64.RawStdEncoding.DecodeString(parts[4])
	if err != nil {
		return false, ErrHash
	}
	sum, err := base64.RawStdEncoding.DecodeString(parts[5])
	if err != nil || len(sum) == 0 || len(sum) > 128 {
		return false, ErrHash
	}
	if len([]rune(phrase)) > most {
		return false, nil
	}
	is := argon2.IDKey([]byte(phrase), salt, uint32(t), uint32(m), uint8(p), uint32(len(sum)))
	return subtle.ConstantTimeCompare(is, sum) == 1, nil
}
