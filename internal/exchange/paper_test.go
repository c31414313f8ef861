package exchange_test

import (
	"bytes"
	"encoding/xml"
	"errors"
	"image/png"
	"io"
	"math"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

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

// words is "plane", or something like it, in the scripts a drawing can be lettered in.
var words = []string{
	"Hobel", "Πλάνη", "Рубанок", "Ռանդա", "შალაშინი", "鉋", "かんな", "カンナ", "대패",
	"פלונה", "مسحاة", "رنده", "रंदा", "স্টেকি", "ਰੰਦਾ", "રંધો", "ରନ୍ଧା", "இழைப்புளி", "చిత్రిక", "ಉಜ್ಜುಗೊರಡಿ",
	"ചിന്തേര്", "යතු", "กบไสไม้", "ກົບ", "រណុស", "ရွေဘော်", "መላጊያ", "འབུར་ལེན", "ra\u0301bot",
}

func TestWordsOfAnyScriptAreInThePDFAndThePicture(t *testing.T) {
	for _, text := range words {
		assert.Zero(t, exchange.Boxes(text), "%s has letters that no typeface has", text)
		page := sheet.Page{W: 60, H: 20, Texts: []sheet.Text{{X: 5, Y: 10, Size: 4, Text: text, Anchor: "start"}}}
		var pdf, picture bytes.Buffer
		require.NoError(t, exchange.PDF(&pdf, "any script", []sheet.Page{page}))
		if exchange.NeedsShaping(text) {
			assert.NotEmpty(t, exchange.Letters(&page.Texts[0]), text)
		} else {
			assert.Contains(t, pdf.String(), "/FontFile2", "the letters of %s are in the file", text)
		}
		require.NoError(t, exchange.PNG(&picture, "any script", []sheet.Page{page}))
		img, err := png.Decode(&picture)
		require.NoError(t, err)
		assert.InDelta(t, 60*200/25.4, img.Bounds().Dx(), 1, "200 dots an inch")
		dark := 0
		for x := range img.Bounds().Dx() {
			for y := range img.Bounds().Dy() {
				if r, _, _, _ := img.At(x, y).RGBA(); r < 0x8000 {
					dark++
				}
			}
		}
		assert.Greater(t, dark, 100, "%s is drawn", text)
		require.Error(t, exchange.PNG(io.Discard, "two", []sheet.Page{page, page}))
	}
}

// Words from right to left stand that way; what is from left to right among them keeps its own.
func TestWordsFromTheRightStandThatWay(t *testing.T) {
	at := func(text string) (xs []float64) {
		for _, p := range exchange.Letters(&sheet.Text{Size: 10, Text: text}) {
			xs = append(xs, span(p)[0])
		}
		return xs
	}
	shape := func(text string) []sheet.Path { return exchange.Letters(&sheet.Text{Size: 10, Text: text}) }
	two, alef := shape("אב"), shape("א")
	require.Len(t, two, 2)
	assert.Equal(t, len(alef[0].Segs), len(two[1].Segs), "the first letter is on the right")
	assert.Greater(t, at("אב 12")[2], at("אב 12")[0], "figures are read from the left, and stand at the left of the word")
	joined, single := shape("بب"), shape("ب")
	assert.NotEqual(t, joined[1].Segs[:4], single[0].Segs[:4], "letters join")
	// A vowel that is written before the consonant it follows in speech.
	ki, ka := shape("कि"), shape("क")
	require.Len(t, ki, 2)
	assert.Equal(t, len(ka[0].Segs), len(ki[1].Segs), "the consonant stands after its vowel")
}

func span(p sheet.Path) (s [4]float64) {
	s = [4]float64{math.Inf(1), math.Inf(1), math.Inf(-1), math.Inf(-1)}
	for _, g := range p.Segs {
		n := map[byte]int{'M': 1, 'L': 1, 'C': 3}[g.Op]
		for _, q := range g.P[:n] {
			s = [4]float64{min(s[0], q[0]), min(s[1], q[1]), max(s[2], q[0]), max(s[3], q[1])}
		}
	}
	return s
}

// However words are mixed, no letter is missing, and a text is the same wherever it is anchored and
// however it is turned.
func TestSetLettersAreTheSameHoweverTheyAreAnchoredAndTurned(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		text := strings.Join(rapid.SliceOfN(rapid.SampledFrom(append([]string{"No 4", "1200 × 600"}, words...)), 1, 5).Draw(t, "words"), " ")
		require.Zero(t, exchange.Boxes(text))
		size := rapid.Float64Range(1, 12).Draw(t, "size")
		start := exchange.Letters(&sheet.Text{Size: size, Text: text, Anchor: "start"})
		middle := exchange.Letters(&sheet.Text{Size: size, Text: text, Anchor: "middle"})
		end := exchange.Letters(&sheet.Text{X: 7, Y: 3, Size: size, Text: text, Anchor: "end"})
		turned := exchange.Letters(&sheet.Text{Size: size, Text: text, Anchor: "start", Turn: 90})
		require.Len(t, middle, len(start))
		require.Len(t, end, len(start))
		wide := 0.0
		for i := range start {
			a, m, e, u := span(start[i]), span(middle[i]), span(end[i]), span(turned[i])
			if i == 0 {
				wide = 2 * (a[0] - m[0])
			}
			assert.InDelta(t, wide/2, a[0]-m[0], 1e-6)
			assert.InDelta(t, wide, a[0]-e[0]+7, 1e-6)
			assert.InDelta(t, 3, e[1]-a[1], 1e-6)
			assert.InDelta(t, a[0], -u[3], 1e-6, "to the right becomes up")
			assert.InDelta(t, a[1], u[0], 1e-6, "up becomes to the left")
		}
	})
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
