package exchange

import (
	"math"

	"github.com/go-text/typesetting/di"
	"github.com/go-text/typesetting/font"
	"github.com/go-text/typesetting/font/opentype"
	"github.com/go-text/typesetting/language"
	"github.com/go-text/typesetting/shaping"
	"golang.org/x/image/math/fixed"

	"hobrak/internal/core/sheet"
	"hobrak/internal/core/silhouette"
)

// Letters of many scripts join, stack, change places or run from the right. Such texts are set by a
// shaper and drawn as outlines; all others are written as text, which can be searched for in a PDF.

// oneByOne are the scripts whose letters stand one after the other, from left to right.
var oneByOne = map[language.Script]bool{
	language.Common: true, language.Latin: true, language.Greek: true, language.Cyrillic: true,
	language.Armenian: true, language.Georgian: true, language.Han: true, language.Hiragana: true,
	language.Katakana: true, language.Bopomofo: true, language.Hangul: true,
}

// needsShaping says whether a text cannot be written letter by letter. Marks that go on the letter before
// them are of no script of their own, and Korean syllables may be spelt in parts.
func needsShaping(text string) bool {
	for _, r := range text {
		if !oneByOne[language.LookupScript(r)] || r >= 0x1100 && r <= 0x11ff {
			return true
		}
	}
	return false
}

// fromRight are the scripts that are written from right to left; the first letter that has a direction
// gives that of the text.
var fromRight = map[language.Script]bool{
	language.Arabic: true, language.Hebrew: true, language.Syriac: true, language.Thaana: true, language.Nko: true,
}

func direction(text []rune) di.Direction {
	for _, r := range text {
		switch s := language.LookupScript(r); {
		case fromRight[s]:
			return di.DirectionRTL
		case s != language.Common && s != language.Inherited:
			return di.DirectionLTR
		}
	}
	return di.DirectionLTR
}

// faces finds the typeface for a letter; a face keeps what it looked up and is not shared.
type faces struct {
	bold bool
	of   map[*typeface]*font.Face
}

func (f faces) ResolveFace(r rune) *font.Face {
	t := faceFor(r, f.bold)
	if f.of[t] == nil {
		f.of[t] = font.NewFace(t.open)
	}
	return f.of[t]
}

// shapedAt is the size texts are shaped at; they are drawn at another by scaling.
const shapedAt = 1000

// set sets a text in its typefaces: runs from left to right as they are seen, and how wide they are in all,
// at the size they are shaped at.
func set(text []rune, bold bool) (line []shaping.Output, wide float64) {
	var (
		split  shaping.Segmenter
		shaper shaping.HarfbuzzShaper
		order  shaping.LineWrapper
		shaped []shaping.Output
	)
	base := direction(text)
	for _, in := range split.Split(shaping.Input{
		Text: text, RunEnd: len(text), Size: fixed.I(shapedAt), Direction: base, Language: "en",
	}, faces{bold, map[*typeface]*font.Face{}}) {
		shaped = append(shaped, shaper.Shape(in))
	}
	unwrapped := shaping.WrapConfig{Direction: base, DisableTrailingWhitespaceTrim: true}
	lines, _ := order.WrapParagraphF(unwrapped, math.MaxInt32, text, shaping.NewSliceIterator(shaped))
	for _, l := range lines {
		seen := make([]shaping.Output, len(l))
		for _, o := range l {
			seen[o.VisualIndex] = o
			wide += float64(o.Advance) / 64
		}
		line = append(line, seen...)
	}
	return line, wide
}

// letters gives the outlines of the letters of a text on the page, in mm, where it is anchored and as it is
// turned.
func letters(t *sheet.Text) []sheet.Path {
	line, wide := set([]rune(t.Text), t.Bold)
	k := t.Size / shapedAt
	pen := 0.0
	switch t.Anchor {
	case "middle":
		pen = -wide / 2
	case "end":
		pen = -wide
	}
	sin, cos := math.Sincos(t.Turn * math.Pi / 180)
	var out []sheet.Path
	for _, o := range line {
		for _, g := range o.Glyphs {
			em := shapedAt / float64(o.Face.Upem())
			outline, _ := o.Face.GlyphDataOutline(g.GlyphID)
			path := outlineOf(outline.Segments, func(p opentype.SegmentPoint) [2]float64 {
				x := (pen + float64(g.XOffset)/64 + float64(p.X)*em) * k
				y := -(float64(g.YOffset)/64 + float64(p.Y)*em) * k
				return [2]float64{t.X + x*cos + y*sin, t.Y - x*sin + y*cos}
			})
			if len(path.Segs) > 0 {
				out = append(out, path)
			}
			pen += float64(g.Advance) / 64
		}
	}
	return out
}

// outlineOf makes a filled path of the outline of a letter. Curves with one handle are given two at two thirds
// of the way to it, which is the same curve.
func outlineOf(segs []opentype.Segment, on func(opentype.SegmentPoint) [2]float64) sheet.Path {
	p := sheet.Path{}
	var at [2]float64
	add := func(op byte, q ...[2]float64) {
		seg := silhouette.Seg{Op: op}
		if n := copy(seg.P[:], q); n > 0 {
			at = q[n-1]
		}
		p.Segs = append(p.Segs, seg)
	}
	for i, s := range segs {
		switch s.Op {
		case opentype.SegmentOpMoveTo:
			if i > 0 {
				add('Z')
			}
			add('M', on(s.Args[0]))
		case opentype.SegmentOpLineTo:
			add('L', on(s.Args[0]))
		case opentype.SegmentOpQuadTo:
			c, end := on(s.Args[0]), on(s.Args[1])
			near := func(p [2]float64) [2]float64 {
				return [2]float64{p[0] + (c[0]-p[0])*2/3, p[1] + (c[1]-p[1])*2/3}
			}
			add('C', near(at), near(end), end)
		case opentype.SegmentOpCubeTo:
			add('C', on(s.Args[0]), on(s.Args[1]), on(s.Args[2]))
		}
	}
	if len(segs) > 0 {
		add('Z')
	}
	return p
}
