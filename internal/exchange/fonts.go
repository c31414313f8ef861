package exchange

import (
	"bytes"
	"compress/gzip"
	"embed"
	"io"
	"sync"

	"github.com/go-fonts/dejavu/dejavusans"
	"github.com/go-fonts/dejavu/dejavusansbold"
	"github.com/go-text/typesetting/font"
	"github.com/go-text/typesetting/language"
	"golang.org/x/image/font/sfnt"
)

// What a drawing is lettered with is part of the program, so that it looks the same everywhere:
// one typeface for the scripts of Europe and the Near East, and one file for each other script
// (fonts/LICENSE-* say whose they are). What none has is a box.

//go:embed fonts/*.gz
var packed embed.FS

// typeface is a font file with what is needed to know which letters it has.
type typeface struct {
	name string
	data []byte
	font *sfnt.Font
	open *font.Font
}

func opened(name string, data []byte) *typeface {
	f, err := sfnt.Parse(data)
	if err != nil {
		panic(err) // it is part of the program, and a test opens it
	}
	face, err := font.ParseTTF(bytes.NewReader(data))
	if err != nil {
		panic(err)
	}
	return &typeface{name, data, f, face.Font}
}

var (
	plainFace = sync.OnceValue(func() *typeface { return opened("plain", dejavusans.TTF) })
	boldFace  = sync.OnceValue(func() *typeface { return opened("bold", dejavusansbold.TTF) })
)

// ofScript holds the typefaces of the scripts that the first has not; a new one is a file in fonts and
// a line here.
var ofScript = map[language.Script]func() *typeface{
	language.Han:        han,
	language.Hiragana:   han,
	language.Katakana:   han,
	language.Bopomofo:   han,
	language.Hangul:     lettering("hangul"),
	language.Devanagari: lettering("devanagari"),
	language.Bengali:    lettering("bengali"),
	language.Gurmukhi:   lettering("gurmukhi"),
	language.Gujarati:   lettering("gujarati"),
	language.Oriya:      lettering("oriya"),
	language.Tamil:      lettering("tamil"),
	language.Telugu:     lettering("telugu"),
	language.Kannada:    lettering("kannada"),
	language.Malayalam:  lettering("malayalam"),
	language.Sinhala:    lettering("sinhala"),
	language.Thai:       lettering("thai"),
	language.Lao:        lettering("lao"),
	language.Khmer:      lettering("khmer"),
	language.Myanmar:    lettering("myanmar"),
	language.Ethiopic:   lettering("ethiopic"),
	language.Tibetan:    lettering("tibetan"),
}

var han = lettering("han")

func lettering(name string) func() *typeface {
	return sync.OnceValue(func() *typeface {
		data, err := packed.ReadFile("fonts/" + name + ".ttf.gz")
		if err != nil {
			panic(err)
		}
		r, err := gzip.NewReader(bytes.NewReader(data))
		if err != nil {
			panic(err)
		}
		if data, err = io.ReadAll(r); err != nil {
			panic(err)
		}
		return opened(name, data)
	})
}

func (f *typeface) has(r rune) bool {
	i, err := f.font.GlyphIndex(nil, r)
	return err == nil && i != 0
}

func first(bold bool) *typeface {
	if bold {
		return boldFace()
	}
	return plainFace()
}

// faceFor finds a typeface that has a letter. Signs that belong to no script (full stops of China and
// Japan, wide brackets) are looked for with the signs of those; what none has is left to the first, which
// shows a box for it.
func faceFor(r rune, bold bool) *typeface {
	f := first(bold)
	if f.has(r) {
		return f
	}
	other := han
	if of := ofScript[language.LookupScript(r)]; of != nil {
		other = of
	}
	if other().has(r) {
		return other()
	}
	return f
}

// run of a text in one typeface.
type run struct {
	face *typeface
	text string
}

// runs sets a text in the typefaces that have its letters.
func runs(text string, bold bool) []run {
	var out []run
	for _, r := range text {
		face := faceFor(r, bold)
		if n := len(out); n > 0 && out[n-1].face == face {
			out[n-1].text += string(r)
		} else {
			out = append(out, run{face, string(r)})
		}
	}
	return out
}
