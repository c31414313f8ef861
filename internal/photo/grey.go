package photo

import (
	"context"
	"fmt"
	"image/color"
	"strings"

	"hobrak/internal/core/outline"
)

// longestGrey is how many pixels a picture has at most that an outline is looked for in.
const longestGrey = 1600

// Outline opens a photograph of a thing on a sheet of paper and finds its outline.
func Outline(ctx context.Context, data []byte, o outline.Options) (*outline.Found, error) {
	img, err := Open(ctx, data)
	if err != nil {
		return nil, err
	}
	small := reduced(upright(reduced(img, longestGrey), orientation(data)), longestGrey)
	b := small.Bounds()
	g := &outline.Grey{W: b.Dx(), H: b.Dy(), Pix: make([]uint8, b.Dx()*b.Dy())}
	for y := range g.H {
		for x := range g.W {
			g.Pix[y*g.W+x] = color.GrayModel.Convert(small.RGBAAt(b.Min.X+x, b.Min.Y+y)).(color.Gray).Y
		}
	}
	return outline.Find(g, o)
}

// SheetSize reads which sheet it is: a4, a3, letter, or its two sides in mm, 420x594.
func SheetSize(text string) (w, h float64, err error) {
	switch strings.ToLower(strings.TrimSpace(text)) {
	case "", "a4":
		return 210, 297, nil
	case "a3":
		return 297, 420, nil
	case "letter":
		return 215.9, 279.4, nil
	}
	if n, err := fmt.Sscanf(strings.ToLower(text), "%fx%f", &w, &h); n != 2 || err != nil {
		return 0, 0, fmt.Errorf("sheet %q: a4, a3, letter, or its sides in mm, as 420x594", text)
	}
	return w, h, nil
}
