package exchange_test

import (
	"bytes"
	"context"
	"image"
	"image/jpeg"
	"math/rand/v2"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"hobrak/demo"
	"hobrak/internal/core/shop"
	"hobrak/internal/core/shoptest"
	"hobrak/internal/core/table"
	"hobrak/internal/exchange"
	"hobrak/internal/photo"
)

// broken is a file with some bytes exchanged, cut out, doubled, or its end missing.
func broken(rng *rand.Rand, data []byte) []byte {
	out := bytes.Clone(data)
	for range 1 + rng.IntN(5) {
		at := rng.IntN(len(out))
		end := min(len(out), at+1+rng.IntN(40))
		switch rng.IntN(6) {
		case 0:
			out = append(out[:at:at], out[end:]...)
		case 1:
			out = append(out[:end:end], out[at:]...)
		case 2:
			out = out[:max(1, at)]
		default:
			out[at] = byte(rng.IntN(256))
		}
		if len(out) == 0 {
			return []byte{0}
		}
	}
	return out
}

func TestBrokenFilesAreReadOrRefusedInTime(t *testing.T) {
	ctx := context.Background()
	s, err := shop.Read(demo.Pantry)
	require.NoError(t, err)
	var book, list, zip, picture bytes.Buffer
	require.NoError(t, exchange.WriteWorkbook(&book, "Belongings", table.Rows(s)))
	require.NoError(t, exchange.WriteCSV(&list, table.Rows(s)))
	require.NoError(t, exchange.WriteZip(&zip, s, func(string) ([]byte, error) { return nil, nil }))
	img := image.NewRGBA(image.Rect(0, 0, 160, 120))
	for i := range img.Pix {
		img.Pix[i] = byte(i * i)
	}
	require.NoError(t, jpeg.Encode(&picture, img, nil))
	read := map[string]int{}
	var slowest time.Duration
	for seed := range shoptest.Seeds(500) {
		rng := rand.New(rand.NewPCG(seed, 31))
		begun := time.Now()
		if _, err := exchange.ReadTable(ctx, broken(rng, book.Bytes()), "b.xlsx", ""); err == nil {
			read["workbooks"]++
		}
		if _, err := exchange.ReadTable(ctx, broken(rng, list.Bytes()), "l.csv", ""); err == nil {
			read["tables"]++
		}
		data := broken(rng, zip.Bytes())
		if _, err := exchange.ReadZip(bytes.NewReader(data), int64(len(data)), func(p exchange.Photo) (string, error) { return p.Name, nil }); err == nil {
			read["zips"]++
		}
		data = broken(rng, picture.Bytes())
		if p, err := photo.Prepare(ctx, data); err == nil {
			read["photos"]++
			assert.NotEmpty(t, p.Large)
		}
		if _, err := photo.Again(ctx, "a.jpg", data); err == nil {
			read["photos again"]++
		}
		slowest = max(slowest, time.Since(begun))
	}
	t.Logf("%v could be read; the slowest round took %v", read, slowest)
	assert.Less(t, slowest, 20*time.Second, "something hangs")
}
