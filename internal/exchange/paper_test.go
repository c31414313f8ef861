package exchange_test

import (
	"bytes"
	"encoding/xml"
	"errors"
	"image/png"
	"io"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"hobrak/demo"
	"hobrak/internal/core/length"
	"hobrak/internal/core/sheet"
	"hobrak/internal/core/shop"
	"hobrak/internal/exchange"
)

func pages(t *testing.T) []sheet.Page {
	s, err := shop.Read(demo.Pantry)
	require.NoError(t, err)
	s.Areas[0].Name = "Pantry <old> & dry"
	return sheet.Survey(s.Settings.Name, &s.Areas[0], length.Style{System: s.Settings.Units})
}

func TestSVGIsWellFormedAndKeepsEveryWord(t *testing.T) {
	var b bytes.Buffer
	require.NoError(t, exchange.SVG(&b, "survey", pages(t)))
	d := xml.NewDecoder(bytes.NewReader(b.Bytes()))
	texts := 0
	for {
		tok, err := d.Token()
		if errors.Is(err, io.EOF) {
			break
		}
		require.NoError(t, err)
		if e, ok := tok.(xml.StartElement); ok && e.Name.Local == "text" {
			texts++
		}
	}
	want := 0
	for _, p := range pages(t) {
		want += len(p.Texts)
	}
	assert.Equal(t, want, texts)
	assert.Contains(t, b.String(), "Pantry &lt;old&gt; &amp; dry")
	assert.Contains(t, b.String(), `width="297mm"`)
}

func TestPDFHasItsPagesAndIsTheSameEachTime(t *testing.T) {
	var a, b bytes.Buffer
	require.NoError(t, exchange.PDF(&a, "survey", pages(t)))
	require.NoError(t, exchange.PDF(&b, "survey", pages(t)))
	assert.Equal(t, a.Bytes(), b.Bytes())
	assert.True(t, strings.HasPrefix(a.String(), "%PDF-"))
	assert.Equal(t, 3, strings.Count(a.String(), "/Type /Page\n"))
}

func TestWordsOfAnyScriptAreInThePDFAndThePicture(t *testing.T) {
	text := "Hobel Рубанок פלונה 鉋 かんな"
	page := sheet.Page{W: 120, H: 20, Texts: []sheet.Text{{X: 5, Y: 10, Size: 4, Text: text, Anchor: "start"}}}
	for _, r := range exchange.Runs(text) {
		for _, c := range r.Text {
			assert.True(t, r.Has(c), "%c has no letter in any typeface", c)
		}
	}
	var pdf, plain, picture bytes.Buffer
	require.NoError(t, exchange.PDF(&pdf, "any script", []sheet.Page{page}))
	page.Texts[0].Text = "Hobel"
	require.NoError(t, exchange.PDF(&plain, "any script", []sheet.Page{page}))
	assert.Greater(t, strings.Count(pdf.String(), "/FontFile2"), strings.Count(plain.String(), "/FontFile2"), "the letters are in the file")
	require.NoError(t, exchange.PNG(&picture, "any script", []sheet.Page{page}))
	img, err := png.Decode(&picture)
	require.NoError(t, err)
	assert.InDelta(t, 120*200/25.4, img.Bounds().Dx(), 1, "200 dots an inch")
	dark := 0
	for x := range img.Bounds().Dx() {
		for y := range img.Bounds().Dy() {
			if r, _, _, _ := img.At(x, y).RGBA(); r < 0x8000 {
				dark++
			}
		}
	}
	assert.Greater(t, dark, 200, "the word is drawn")
	require.Error(t, exchange.PNG(io.Discard, "two", []sheet.Page{page, page}))
}

// What is outside of a window stays outside, in every form; what is within comes out where it belongs.
func TestAWindowShowsItsPartOfADrawing(t *testing.T) {
	d := &sheet.Page{W: 100, H: 100, Paths: []sheet.Path{sheet.Outline([][2]float64{{50, 50}, {60, 50}, {60, 60}, {50, 60}}, 0, 0)}}
	page := sheet.Page{W: 40, H: 40, Insets: []sheet.Inset{{X: 10, Y: 10, W: 15, H: 15, AtX: 40, AtY: 40, Drawing: d}}}
	var b bytes.Buffer
	require.NoError(t, exchange.PNG(&b, "window", []sheet.Page{page}))
	img, err := png.Decode(&b)
	require.NoError(t, err)
	k := 200 / 25.4
	dark := func(x, y float64) bool { r, _, _, _ := img.At(int(x*k), int(y*k)).RGBA(); return r < 0x8000 }
	assert.True(t, dark(22, 22), "drawn 12 mm into the window")
	assert.False(t, dark(18, 18), "before it begins")
	assert.False(t, dark(27, 27), "cut off by the window")
}
