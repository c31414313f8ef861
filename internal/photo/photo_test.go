package photo_test

import (
	"bytes"
	"context"
	"encoding/binary"
	"fmt"
	"image"
	"image/color"
	"image/jpeg"
	"image/png"
	"runtime"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"hobrak/internal/photo"
)

// corner is a picture that is red in its upper left corner and blue elsewhere.
func corner(w, h int) *image.RGBA {
	img := image.NewRGBA(image.Rect(0, 0, w, h))
	for y := range h {
		for x := range w {
			c := color.RGBA{20, 40, 200, 255}
			if x < w/2 && y < h/2 {
				c = color.RGBA{220, 30, 30, 255}
			}
			img.SetRGBA(x, y, c)
		}
	}
	return img
}

func jpegOf(t testing.TB, img image.Image) []byte {
	var b bytes.Buffer
	require.NoError(t, jpeg.Encode(&b, img, nil))
	return b.Bytes()
}

// held puts what a camera writes about how it was held into a JPEG.
func held(data []byte, orientation uint16) []byte {
	tiff := []byte("II*\x00\x08\x00\x00\x00\x01\x00\x12\x01\x03\x00\x01\x00\x00\x00")
	tiff = binary.LittleEndian.AppendUint16(tiff, orientation)
	tiff = append(tiff, 0, 0, 0, 0, 0, 0)
	body := append([]byte("Exif\x00\x00"), tiff...)
	app := []byte{0xff, 0xe1}
	app = binary.BigEndian.AppendUint16(app, uint16(len(body)+2))
	return append(append(append([]byte{}, data[:2]...), append(app, body...)...), data[2:]...)
}

func decoded(t *testing.T, data []byte) image.Image {
	img, err := jpeg.Decode(bytes.NewReader(data))
	require.NoError(t, err)
	return img
}

func red(img image.Image, x, y int) bool {
	r, _, b, _ := img.At(x, y).RGBA()
	return r > b
}

func TestAPhotoIsReducedToTwoSizes(t *testing.T) {
	p, err := photo.Prepare(context.Background(), jpegOf(t, corner(4000, 3000)))
	require.NoError(t, err)
	assert.Equal(t, [2]int{1600, 1200}, [2]int{p.W, p.H})
	assert.Equal(t, image.Pt(1600, 1200), decoded(t, p.Large).Bounds().Size())
	assert.Equal(t, image.Pt(192, 144), decoded(t, p.Small).Bounds().Size())
	assert.Less(t, len(p.Small), 10_000)
	again, err := photo.Prepare(context.Background(), jpegOf(t, corner(4000, 3000)))
	require.NoError(t, err)
	assert.Equal(t, p.Name, again.Name, "the same picture has the same name")
	little, err := photo.Prepare(context.Background(), jpegOf(t, corner(100, 60)))
	require.NoError(t, err)
	assert.Equal(t, 100, little.W, "a little one is not blown up")
}

func TestAPhotoIsTurnedUpright(t *testing.T) {
	// Where the red corner of the stored picture comes to lie: left, top.
	want := map[uint16][2]bool{1: {true, true}, 2: {false, true}, 3: {false, false}, 4: {true, false}, 5: {true, true}, 6: {false, true}, 7: {false, false}, 8: {true, false}}
	for o, at := range want {
		p, err := photo.Prepare(context.Background(), held(jpegOf(t, corner(300, 200)), o))
		require.NoError(t, err)
		if o >= 5 {
			assert.Equal(t, [2]int{200, 300}, [2]int{p.W, p.H}, o)
		}
		img := decoded(t, p.Large)
		for _, left := range []bool{true, false} {
			for _, top := range []bool{true, false} {
				x, y := p.W/4, p.H/4
				if !left {
					x = p.W * 3 / 4
				}
				if !top {
					y = p.H * 3 / 4
				}
				assert.Equal(t, at == [2]bool{left, top}, red(img, x, y), "held %d, left %v, top %v", o, left, top)
			}
		}
		assert.NotContains(t, string(p.Large), "Exif", "what the camera wrote is not kept")
	}
}

func TestWhatIsTransparentShowsPaper(t *testing.T) {
	img := image.NewNRGBA(image.Rect(0, 0, 50, 50))
	var b bytes.Buffer
	require.NoError(t, png.Encode(&b, img))
	p, err := photo.Prepare(context.Background(), b.Bytes())
	require.NoError(t, err)
	r, _, _, _ := decoded(t, p.Large).At(25, 25).RGBA()
	assert.Greater(t, r>>8, uint32(0xe0))
}

func TestWhatWasKeptComesBackAsItWas(t *testing.T) {
	p, err := photo.Prepare(context.Background(), jpegOf(t, corner(800, 600)))
	require.NoError(t, err)
	again, err := photo.Again(context.Background(), p.Name, p.Large)
	require.NoError(t, err)
	assert.True(t, bytes.Equal(p.Large, again.Large) && p.Name == again.Name && p.W == again.W && len(again.Small) > 0)
	other, err := photo.Again(context.Background(), "bench.jpg", held(jpegOf(t, corner(2400, 600)), 6))
	require.NoError(t, err)
	assert.Equal(t, [3]any{"bench.jpg", 400, 1600}, [3]any{other.Name, other.W, other.H})
}

// headPNG is a PNG whose head promises a size, and nothing behind it.
func headPNG(t *testing.T, w, h uint32) []byte {
	var b bytes.Buffer
	require.NoError(t, png.Encode(&b, image.NewRGBA(image.Rect(0, 0, 8, 8))))
	data := b.Bytes()
	binary.BigEndian.PutUint32(data[16:], w)
	binary.BigEndian.PutUint32(data[20:], h)
	// The check sum of the head as it is now.
	binary.BigEndian.PutUint32(data[29:], crc(data[12:29]))
	return data
}

func crc(data []byte) uint32 {
	c := ^uint32(0)
	for _, b := range data {
		c ^= uint32(b)
		for range 8 {
			if c&1 == 1 {
				c = c>>1 ^ 0xedb88320
			} else {
				c >>= 1
			}
		}
	}
	return ^c
}

func TestHostileFilesAreRefusedInWordsAndInLittleMemory(t *testing.T) {
	whole := jpegOf(t, corner(4000, 3000))
	gray := jpegOf(t, image.NewGray(image.Rect(0, 0, 10_000, 10_000)))
	for _, c := range []struct {
		name string
		data []byte
		says string
	}{
		{"10 000 × 10 000 PNG", headPNG(t, 10_000, 10_000), "10000 × 10000 pixels"},
		{"10 000 × 10 000 JPEG", gray, "10000 × 10000 pixels"},
		{"the largest PNG there can be", headPNG(t, 1<<31-1, 1<<31-1), "p"},
		{"30 MB", append(whole, make([]byte, 30<<20)...), "the photo has 30 MB; at most 12 MB"},
		{"cut off", whole[:len(whole)/2], "broken or not complete"},
		{"cut off in its head", whole[:20], "broken at its head"},
		{"text", []byte("hello, I am a photo.jpg"), "it should be a JPEG, PNG or WebP"},
		{"nothing", nil, "it should be a JPEG, PNG or WebP"},
		{"a page", []byte("<svg xmlns='http://www.w3.org/2000/svg'><script>1</script></svg>"), "it should be a JPEG, PNG or WebP"},
		{"HEIC", []byte("\x00\x00\x00\x18ftypheic\x00\x00\x00\x00mif1heic"), "HEIC"},
		{"a dot", jpegOf(t, corner(1, 1)), "nothing to see"},
	} {
		var before, after runtime.MemStats
		runtime.ReadMemStats(&before)
		_, err := photo.Prepare(context.Background(), c.data)
		runtime.ReadMemStats(&after)
		require.ErrorContains(t, err, c.says, c.name)
		used := (after.TotalAlloc - before.TotalAlloc) >> 20
		t.Logf("%s: %d MB: %v", c.name, used, err)
		assert.Less(t, used, uint64(60), "%s, all that was ever asked for", c.name)
	}
}

func BenchmarkPreparingAPhoneCamerasPhoto(b *testing.B) {
	data := jpegOf(b, corner(4000, 3000))
	b.ReportAllocs()
	for b.Loop() {
		if _, err := photo.Prepare(context.Background(), data); err != nil {
			b.Fatal(err)
		}
	}
}

func FuzzPrepare(f *testing.F) {
	f.Add(held(jpegOf(f, corner(16, 12)), 6))
	var b bytes.Buffer
	if err := png.Encode(&b, corner(9, 9)); err != nil {
		f.Fatal(err)
	}
	f.Add(b.Bytes())
	f.Add([]byte("RIFF\x1a\x00\x00\x00WEBPVP8L\x0d\x00\x00\x00\x2f\x00\x00\x00\x10\x07\x10\x11\x11\x88\x88\xfe\x07\x00"))
	f.Fuzz(func(t *testing.T, data []byte) {
		p, err := photo.Prepare(context.Background(), data)
		if err == nil && (max(p.W, p.H) > photo.Large || len(p.Small) == 0) {
			t.Fatal(fmt.Sprint(p.W, p.H))
		}
	})
}

// layered is a progressive JPEG with the scan that refines nothing so many times more.
func layered(t *testing.T, more int) []byte {
	data := jpegOf(t, corner(64, 48))
	at := bytes.Index(data, []byte{0xff, 0xda})
	return append(append(append([]byte(nil), data[:at]...), bytes.Repeat(data[at:at+20], more)...), data[at:]...)
}

func TestAPictureOfVeryManyLayersIsRefusedBeforeItIsOpened(t *testing.T) {
	_, err := photo.Prepare(context.Background(), layered(t, 3000))
	require.ErrorContains(t, err, "3001 layers")
}

func TestNobodyWaitingEndsTheOpening(t *testing.T) {
	ctx, cancel := context.WithCancel(context.Background())
	cancel()
	_, err := photo.Prepare(ctx, jpegOf(t, corner(3000, 2000)))
	require.ErrorIs(t, err, context.Canceled)
	_, err = photo.Again(ctx, "a.jpg", jpegOf(t, corner(300, 200)))
	require.ErrorIs(t, err, context.Canceled)
}

func TestWhereAndWhenAPictureWasTakenIsNotKept(t *testing.T) {
	// A segment as cameras write them, with a place in it, and a comment.
	plain := jpegOf(t, corner(300, 200))
	secret := []byte("Exif\x00\x00GPS 47.1 8.6 my own camera")
	segment := func(marker byte, data []byte) []byte {
		return append([]byte{0xff, marker, byte((len(data) + 2) >> 8), byte(len(data) + 2)}, data...)
	}
	tagged := append(append([]byte(nil), plain[:2]...), append(segment(0xe1, secret), segment(0xfe, []byte("GPS here"))...)...)
	tagged = append(tagged, plain[2:]...)
	kept, err := photo.Again(context.Background(), "bench.jpg", tagged)
	require.NoError(t, err)
	assert.NotContains(t, string(kept.Large), "GPS")
	assert.Equal(t, plain, kept.Large, "the picture itself is what it was")
	made, err := photo.Prepare(context.Background(), tagged)
	require.NoError(t, err)
	assert.NotContains(t, string(made.Large)+string(made.Small), "GPS")
}
