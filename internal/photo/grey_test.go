package photo_test

import (
	"bytes"
	"context"
	"image"
	"image/color"
	"image/jpeg"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"hobrak/internal/core/outline"
	"hobrak/internal/photo"
)

// A photograph as a camera writes it: colours, JPEG.
func TestAJPEGOfAToolOnASheetIsMeasured(t *testing.T) {
	img := image.NewRGBA(image.Rect(0, 0, 1400, 1000))
	for y := range 1000 {
		for x := range 1400 {
			c := color.RGBA{90, 60, 40, 255}
			if x >= 100 && x < 1288 && y >= 80 && y < 920 { // 4 pixels a mm
				c = color.RGBA{235, 232, 225, 255}
			}
			if x >= 400 && x < 800 && y >= 300 && y < 420 {
				c = color.RGBA{40, 45, 60, 255}
			}
			img.SetRGBA(x, y, c)
		}
	}
	var b bytes.Buffer
	require.NoError(t, jpeg.Encode(&b, img, &jpeg.Options{Quality: 85}))
	for _, sheet := range []string{"a4", "210x297", "297x210"} {
		w, h, err := photo.SheetSize(sheet)
		require.NoError(t, err)
		f, err := photo.Outline(context.Background(), b.Bytes(), outline.Options{SheetW: w, SheetH: h})
		require.NoError(t, err)
		assert.InDelta(t, 30, f.W, .3)
		assert.InDelta(t, 100, f.H, .3)
		assert.Len(t, f.Points, 4)
	}
	_, _, err := photo.SheetSize("legal")
	assert.ErrorContains(t, err, "420x594")
}
