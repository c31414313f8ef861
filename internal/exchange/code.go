package exchange

import (
	"errors"
	"fmt"
	"image"
	"strings"

	"github.com/makiuchi-d/gozxing"
	"github.com/makiuchi-d/gozxing/qrcode"
	"github.com/makiuchi-d/gozxing/qrcode/decoder"
	"github.com/makiuchi-d/gozxing/qrcode/encoder"

	"hobrak/internal/core/label"
)

// Code is the square code (QR, ISO/IEC 18004) of a text, with so much of it double that a quarter may be smudged.
func Code(text string) (label.Bits, error) {
	c, err := encoder.Encoder_encode(text, decoder.ErrorCorrectionLevel_H, nil)
	if err != nil {
		return nil, fmt.Errorf("%q is too long for a code on a label: %w", text, err)
	}
	m := c.GetMatrix()
	out := make(label.Bits, m.GetHeight())
	for y := range out {
		out[y] = make([]bool, m.GetWidth())
		for x := range out[y] {
			out[y][x] = m.Get(x, y) == 1
		}
	}
	return out, nil
}

// ReadCode reads the square code on a picture. The error says that there is none to be seen.
func ReadCode(img image.Image) (string, error) {
	// The first judges black and white round each spot, the second over the whole: dirt deceives the one, shadow the other.
	from := gozxing.NewLuminanceSourceFromImage(img)
	for _, judge := range []gozxing.Binarizer{gozxing.NewHybridBinarizer(from), gozxing.NewGlobalHistgramBinarizer(from)} {
		bmp, err := gozxing.NewBinaryBitmap(judge)
		if err != nil {
			return "", err
		}
		for _, hard := range []bool{false, true} {
			hints := map[gozxing.DecodeHintType]any{}
			if hard {
				hints[gozxing.DecodeHintType_TRY_HARDER] = true
			}
			if r, err := qrcode.NewQRCodeReader().Decode(bmp, hints); err == nil {
				return r.GetText(), nil
			}
		}
	}
	return "", errors.New("no code is to be seen on this picture: hold it closer, straight and in light")
}

// CodeSVG is a code as a picture by itself, with the quiet zone round it that readers need, without a size of its own.
func CodeSVG(b label.Bits) string {
	const quiet = 4 // modules (ISO/IEC 18004, 9.1)
	n := len(b)
	var path strings.Builder
	for y := range b {
		for x := 0; x < len(b[y]); x++ {
			if !b[y][x] {
				continue
			}
			from := x
			for x < len(b[y]) && b[y][x] {
				x++
			}
			fmt.Fprintf(&path, "M%d %dh%dv1h-%dz", from+quiet, y+quiet, x-from, x-from)
		}
	}
	return fmt.Sprintf(`<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 %d %d" shape-rendering="crispEdges"><rect width="100%%" height="100%%" fill="#fff"/><path fill="#000" d="%s"/></svg>`, n+2*quiet, n+2*quiet, path.String())
}
