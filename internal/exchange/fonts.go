package exchange

import (
	"bytes"
	"compress/gzip"
	_ "embed"
	"io"
	"sync"

	"github.com/go-fonts/dejavu/dejavusans"
	"github.com/go-fonts/dejavu/dejavusansbold"
	"golang.org/x/image/font/sfnt"
)

// What a drawing is lettered with is part of the program, so that it looks the same everywhere:
// one typeface for the scripts of Europe and the Near East, and one that has the signs of China and
// Japan (see fonts/fallback-LICENSE). What neither has is a box. Letters are set one after the other; scripts whose letters join
// or stack are legible but not set as they should be.

//go:embed fonts/fallback.ttf.gz
var packed []byte

// typeface is a font file with what is needed to know which letters it has.
type typeface struct {
	name string
	data []byte
	font *sfnt.Font
}

func opened(name string, data []byte) *typeface {
	f, err := sfnt.Parse(data)
	if err != nil {
		panic(err) // it is part of the program, and a test opens it
	}
	return &typeface{name, data, f}
}

var (
	plainFace    = sync.OnceValue(func() *typeface { return opened("plain", dejavusans.TTF) })
	boldFace     = sync.OnceValue(func() *typeface { return opened("bold", dejavusansbold.TTF) })
	fallbackFace = sync.OnceValue(func() *typeface {
		r, err := gzip.NewReader(bytes.NewReader(packed))
		if err != nil {
			panic(err)
		}
		data, err := io.ReadAll(r)
		if err != nil {
			panic(err)
		}
		return opened("fallback", data)
	})
)

func (f *typeface) has(r rune) bool {
	i, err := f.font.GlyphIndex(nil, r)
	return err == nil && i != 0
}

// run of a text in one typeface.
type run struct {
	face *typeface
	text string
}

// runs sets a text in the typefaces that have its letters; what none has is set in the first, which
// shows a box for it.
func runs(text string, bold bool) []run {
	first := plainFace()
	if bold {
		first = boldFace()
	}
	var out []run
	for _, r := range text {
		face := first
		if !first.has(r) && fallbackFace().has(r) {
			face = fallbackFace()
		}
		if n := len(out); n > 0 && out[n-1].face == face {
			out[n-1].text += string(r)
		} else {
			out = append(out, run{face, string(r)})
		}
	}
	return out
}
