package check_test

import (
	"bytes"
	"math/rand/v2"
	"strconv"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"

	"hobrak/demo"
	"hobrak/internal/core/check"
	"hobrak/internal/core/shop"
	"hobrak/internal/core/shoptest"
)

func TestMutatedShopFilesAreReadCheckedOrRefusedInTime(t *testing.T) {
	// Numbers exchanged, pieces doubled, cut out and moved: no panic, and nothing that hangs.
	read := 0
	var slowest time.Duration
	for seed := range shoptest.Seeds(400) {
		rng := rand.New(rand.NewPCG(seed, 21))
		data := bytes.Clone(demo.Pantry)
		if seed%4 == 0 {
			data = bytes.Clone(demo.Slipway)
		}
		for range 1 + rng.IntN(2) {
			at := rng.IntN(len(data))
			switch rng.IntN(20) {
			default: // another number
				for at < len(data) && (data[at] < '0' || data[at] > '9') {
					at++
				}
				end := at
				for end < len(data) && data[end] >= '0' && data[end] <= '9' {
					end++
				}
				n := []string{"0", "1", "-1", "99999", "1e9", "0.001", strconv.Itoa(rng.IntN(9000))}[rng.IntN(7)]
				data = append(append(append([]byte(nil), data[:at]...), n...), data[end:]...)
			case 1:
				data[at] = byte(rng.IntN(256))
			case 2, 3: // a line doubled or cut out
				from := bytes.LastIndexByte(data[:at], '\n') + 1
				to := from + bytes.IndexByte(append(bytes.Clone(data[from:]), '\n'), '\n') + 1
				line := bytes.Clone(data[from:min(to, len(data))])
				if rng.IntN(2) == 0 {
					line = append(line, line...)
				} else {
					line = nil
				}
				data = append(append(append([]byte(nil), data[:from]...), line...), data[min(to, len(data)):]...)
			case 0:
				data = data[:at]
			}
		}
		begun := time.Now()
		s, err := shop.Read(data)
		if err == nil {
			read++
			_, err = check.Shop(s)
			assert.NoError(t, err, "seed %d", seed)
		}
		slowest = max(slowest, time.Since(begun))
	}
	t.Logf("%d could be read; the slowest took %v", read, slowest)
	assert.Positive(t, read)
	assert.Less(t, slowest, 20*time.Second, "something hangs")
}
