package exchange_test

import (
	"image"
	"image/color"
	"math"
	"math/rand/v2"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"hobrak/internal/exchange"
)

// pictured is a code at so many pixels a module with its margin, part of it smudged.
func pictured(t *testing.T, text string, px int, smudged, opaque float64, seed uint64) image.Image {
	bits, err := exchange.Code(text)
	require.NoError(t, err)
	n := len(bits)
	side := (n + 8) * px
	img := image.NewGray(image.Rect(0, 0, side, side))
	for i := range img.Pix {
		img.Pix[i] = 255
	}
	for y := range bits {
		for x := range bits[y] {
			if bits[y][x] {
				for dy := range px {
					for dx := range px {
						img.SetGray((x+4)*px+dx, (y+4)*px+dy, color.Gray{})
					}
				}
			}
		}
	}
	// A thumb of grease: one blot of a fifth of the area, clear of the three corners by which a code is found.
	if smudged > 0 {
		rng := rand.New(rand.NewPCG(seed, 1))
		size := int(math.Round(math.Sqrt(smudged) * float64(n)))
		for {
			x, y := rng.IntN(n-size), rng.IntN(n-size)
			if x < 8 && (y < 8 || y+size > n-8) || y < 8 && x+size > n-8 {
				continue
			}
			grey := uint8(255 * rng.IntN(2))
			for dy := range size * px {
				for dx := range size * px {
					at := img.GrayAt((x+4)*px+dx, (y+4)*px+dy).Y
					img.SetGray((x+4)*px+dx, (y+4)*px+dy, color.Gray{Y: uint8(opaque*float64(grey) + (1-opaque)*float64(at))})
				}
			}
			break
		}
	}
	return img
}

// Codes are read at 3 pixels a module, clean and with a fifth of them smudged.
func TestCodesAreReadBackAlsoWhenSmudged(t *testing.T) {
	const n = 40
	// Share of the area, how much of the contrast is gone there, and how many are read at least. Blotted out wholly, a fifth of the area
	// is more than the code can mend, three words in ten: that some are read is luck, that none is read wrong is not.
	dirt := []struct{ share, gone, least float64 }{{.2, .5, .95}, {.1, 1, .9}, {.15, 1, .7}, {.2, 1, 0}}
	read := make([]int, len(dirt))
	for seed := range uint64(n) {
		text := []string{"hobrak:place:K2-1", "https://shop.local:8443/scan?code=place%3AK2-1", "http://192.168.1.20:8080/scan?code=container%3AK12", "hobrak:item:dovetail-saw-250-mm"}[seed%4]
		got, err := exchange.ReadCode(pictured(t, text, 3, 0, 0, seed))
		require.NoError(t, err)
		require.Equal(t, text, got)
		for k, x := range dirt {
			if got, err := exchange.ReadCode(pictured(t, text, 3, x.share, x.gone, seed)); err == nil {
				require.Equal(t, text, got, "what is read is right")
				read[k]++
			}
		}
	}
	t.Logf("read of %d: %v, dirty as %v", n, read, dirt)
	for k, x := range dirt {
		assert.GreaterOrEqual(t, float64(read[k])/n, x.least, "%+v", x)
	}
	_, err := exchange.ReadCode(image.NewGray(image.Rect(0, 0, 200, 200)))
	assert.ErrorContains(t, err, "no code is to be seen")
	_, err = exchange.Code(string(make([]byte, 5000)))
	assert.ErrorContains(t, err, "too long")
}
