// Package photo makes of a picture somebody took the two sizes that Hobrak
// keeps: turned upright, without what the camera wrote into it, as JPEG. It
// judges by a file's head what opening it would take, so that files made to
// harm are refused before they fill the memory.
package photo

import (
	"bytes"
	"context"
	"crypto/sha256"
	"encoding/hex"
	"errors"
	"fmt"
	"image"
	"image/color"
	"image/jpeg"
	_ "image/png" // reads PNG
	"strings"

	"github.com/bep/imagemeta"
	"golang.org/x/image/draw"
	_ "golang.org/x/image/webp" // reads WebP
)

// Limits of what is opened.
const (
	MaxFile   = 12 << 20 // bytes
	maxOpen   = 48 << 20 // bytes of memory a picture may take while it is opened
	Large     = 1600     // longest side kept, in pixels
	Small     = 192
	qualityOf = 82
)

// Photo in the two sizes kept.
type Photo struct {
	Name         string // made of what it shows: the same picture has the same name
	W, H         int    // of the large one, in pixels
	Large, Small []byte // JPEG
}

// paper is what shows through where a picture is transparent.
var paper = color.RGBA{0xf3, 0xee, 0xe2, 0xff}

// Prepare makes a photo of a JPEG, PNG or WebP file. It stops when nobody waits for it any more.
func Prepare(ctx context.Context, data []byte) (*Photo, error) {
	img, err := Open(ctx, data)
	if err != nil {
		return nil, err
	}
	large := upright(reduced(img, Large), orientation(data))
	out := &Photo{W: large.Bounds().Dx(), H: large.Bounds().Dy()}
	if out.Large, err = encoded(large); err != nil {
		return nil, err
	}
	if out.Small, err = encoded(reduced(large, Small)); err != nil {
		return nil, err
	}
	out.Name = NameOf(out.Large)
	return out, nil
}

// NameOf makes the name of a photo from its large picture.
func NameOf(large []byte) string {
	sum := sha256.Sum256(large)
	return hex.EncodeToString(sum[:8]) + ".jpg"
}

// Again takes a photo that was kept before, under its name: what it was is what
// it stays, only the small one is made anew, and whatever a camera wrote beside the
// picture is left out. What is not as Prepare makes them is prepared, and still keeps its
// name.
func Again(ctx context.Context, name string, data []byte) (*Photo, error) {
	config, format, err := image.DecodeConfig(bytes.NewReader(data))
	if err != nil || format != "jpeg" || max(config.Width, config.Height) > Large || orientation(data) > 1 {
		p, err := Prepare(ctx, data)
		if err != nil {
			return nil, err
		}
		p.Name = name
		return p, nil
	}
	data = bare(data)
	img, err := Open(ctx, data)
	if err != nil {
		return nil, err
	}
	small, err := encoded(reduced(img, Small))
	if err != nil {
		return nil, err
	}
	return &Photo{Name: name, W: config.Width, H: config.Height, Large: data, Small: small}, nil
}

// Open decodes a file whose head promises that it is not too much.
func Open(ctx context.Context, data []byte) (image.Image, error) {
	if len(data) > MaxFile {
		return nil, fmt.Errorf("the photo has %d MB; at most %d MB can be taken: save it smaller", len(data)>>20, MaxFile>>20)
	}
	config, format, err := image.DecodeConfig(bytes.NewReader(data))
	switch {
	case errors.Is(err, image.ErrFormat) && isHEIF(data):
		return nil, errors.New("this is a HEIC photo, which cannot be read; set the camera to JPEG, or save it as JPEG")
	case errors.Is(err, image.ErrFormat):
		return nil, errors.New("this is no photo; it should be a JPEG, PNG or WebP file")
	case err != nil:
		return nil, fmt.Errorf("the photo is broken at its head: %w", err)
	case config.Width < 8 || config.Height < 8:
		return nil, fmt.Errorf("the photo is %d × %d pixels; there is nothing to see on it", config.Width, config.Height)
	}
	if takes := float64(config.Width) * float64(config.Height) * perPixel(data, format, config.ColorModel); takes > maxOpen {
		return nil, fmt.Errorf("the photo is %d × %d pixels, which is more than can be opened here (%.0f MB of memory, at most %d); save it smaller", config.Width, config.Height, takes/(1<<20), maxOpen>>20)
	}
	if n := scans(data); format == "jpeg" && n > mostScans {
		return nil, fmt.Errorf("the photo is put together of %d layers, which would take too long to open; save it again as an ordinary JPEG", n)
	}
	img, _, err := image.Decode(&patient{ctx, bytes.NewReader(data)})
	if ctx.Err() != nil {
		return nil, ctx.Err()
	}
	if err != nil {
		return nil, fmt.Errorf("the photo is broken or not complete: %w", err)
	}
	return img, nil
}

// patient reads until nobody waits any more.
type patient struct {
	ctx context.Context
	*bytes.Reader
}

func (p *patient) Read(b []byte) (int, error) {
	if err := p.ctx.Err(); err != nil {
		return 0, err
	}
	return p.Reader.Read(b)
}

// mostScans a progressive JPEG may have: cameras and programs write about ten, and each
// goes over the whole picture.
const mostScans = 40

// scans counts the scans of a JPEG (ITU T.81, B.1.1.2: 0xff 0xda begins one). In what is
// between the markers 0xff is never followed by 0xda.
func scans(data []byte) int { return bytes.Count(data, []byte{0xff, 0xda}) }

// bare is a JPEG without what programs and cameras wrote beside the picture: the segments
// APP1 to APP15, where place and time are, and comments. What is not as it should be stays.
func bare(data []byte) []byte {
	out := append([]byte(nil), data[:min(2, len(data))]...)
	for i := 2; i+4 <= len(data) && data[i] == 0xff; {
		marker, end := data[i+1], i+2+int(data[i+2])<<8+int(data[i+3])
		if end > len(data) || end < i+4 {
			return data
		}
		if marker == 0xda { // the picture itself
			return append(out, data[i:]...)
		}
		if aside := marker > 0xe0 && marker <= 0xef || marker == 0xfe; !aside || marker == 0xee { // 0xee says how its colours are meant
			out = append(out, data[i:end]...)
		}
		i = end
	}
	return data
}

func isHEIF(data []byte) bool {
	return len(data) > 12 && string(data[4:8]) == "ftyp" && strings.Contains("heic heix mif1 msf1 avif", string(data[8:12]))
}

// perPixel is how many bytes decoding takes for a pixel.
func perPixel(data []byte, format string, model color.Model) float64 {
	switch format {
	case "jpeg":
		samples, progressive := jpegFrame(data)
		if progressive {
			return 5 * samples // the coefficients are kept as four bytes beside the pixels
		}
		return samples
	case "png":
		switch model {
		case color.GrayModel:
			return 1
		case color.RGBA64Model, color.NRGBA64Model:
			return 8
		}
		return 4
	default:
		if model == color.YCbCrModel {
			return 2
		}
		return 8 // lossless: the pixels twice while they are put together
	}
}

// jpegFrame reads the frame header of a JPEG (ITU T.81, B.2.2): how many samples
// it has for a pixel, and whether it is progressive.
func jpegFrame(data []byte) (samples float64, progressive bool) {
	for i := 2; i+9 < len(data) && data[i] == 0xff; {
		marker, n := data[i+1], int(data[i+2])<<8|int(data[i+3])
		if marker >= 0xc0 && marker <= 0xc2 {
			parts := int(data[i+9])
			if i+10+3*parts > len(data) || parts == 0 {
				break
			}
			most, sum := 1, 0
			for c := range parts {
				hv := data[i+11+3*c]
				area := int(hv>>4) * int(hv&15)
				most, sum = max(most, area), sum+area
			}
			return float64(sum) / float64(most), marker == 0xc2
		}
		i += 2 + n
	}
	return 4, true // not found: take the most it can be
}

// orientation as the camera wrote it down, 1 to 8.
func orientation(data []byte) int {
	format := imagemeta.JPEG
	switch {
	case bytes.HasPrefix(data, []byte("\x89PNG")):
		format = imagemeta.PNG
	case bytes.HasPrefix(data, []byte("RIFF")):
		format = imagemeta.WebP
	}
	found := 1
	_, err := imagemeta.Decode(imagemeta.Options{
		R: bytes.NewReader(data), ImageFormat: format, Sources: imagemeta.EXIF, Warnf: func(string, ...any) {},
		ShouldHandleTag: func(t imagemeta.TagInfo) bool { return t.Tag == "Orientation" && t.Namespace == "IFD0" },
		HandleTag: func(t imagemeta.TagInfo) error {
			if v, ok := t.Value.(uint16); ok && v >= 1 && v <= 8 {
				found = int(v)
			}
			return imagemeta.ErrStopWalking
		},
	})
	if err != nil {
		return 1 // what the camera wrote cannot be read: the picture stays as it is
	}
	return found
}

// reduced makes a picture whose longest side is at most so many pixels, in
// steps, so that fine lines do not break up.
func reduced(img image.Image, longest int) *image.RGBA {
	b := img.Bounds()
	w, h := b.Dx(), b.Dy()
	if k := float64(longest) / float64(max(w, h)); k < 1 {
		w, h = max(1, int(float64(w)*k+.5)), max(1, int(float64(h)*k+.5))
	}
	for b.Dx() > 2*w {
		half := image.NewRGBA(image.Rect(0, 0, max(w, min(2*w, b.Dx()/2)), max(h, min(2*h, b.Dy()/2))))
		fill(half)
		draw.ApproxBiLinear.Scale(half, half.Bounds(), img, b, draw.Over, nil)
		img, b = half, half.Bounds()
		if b.Dx() == 2*w {
			break
		}
	}
	out := image.NewRGBA(image.Rect(0, 0, w, h))
	fill(out)
	draw.ApproxBiLinear.Scale(out, out.Bounds(), img, b, draw.Over, nil)
	return out
}

func fill(img *image.RGBA) {
	draw.Draw(img, img.Bounds(), image.NewUniform(paper), image.Point{}, draw.Src)
}

// upright turns a picture the way the camera says it was held: 1 as it is, 2
// mirrored, 3 upside down, 4 both, 5 to 8 the same with rows and columns swapped.
func upright(img *image.RGBA, orientation int) *image.RGBA {
	if orientation <= 1 {
		return img
	}
	w, h := img.Bounds().Dx(), img.Bounds().Dy()
	size := image.Rect(0, 0, w, h)
	if orientation >= 5 {
		size = image.Rect(0, 0, h, w)
	}
	out := image.NewRGBA(size)
	for y := range size.Dy() {
		for x := range size.Dx() {
			sx, sy := x, y
			switch orientation {
			case 2:
				sx = w - 1 - x
			case 3:
				sx, sy = w-1-x, h-1-y
			case 4:
				sy = h - 1 - y
			case 5:
				sx, sy = y, x
			case 6:
				sx, sy = y, h-1-x
			case 7:
				sx, sy = w-1-y, h-1-x
			case 8:
				sx, sy = w-1-y, x
			}
			out.SetRGBA(x, y, img.RGBAAt(sx, sy))
		}
	}
	return out
}

func encoded(img image.Image) ([]byte, error) {
	var b bytes.Buffer
	if err := jpeg.Encode(&b, img, &jpeg.Options{Quality: qualityOf}); err != nil {
		return nil, fmt.Errorf("keeping the photo: %w", err)
	}
	return b.Bytes(), nil
}
