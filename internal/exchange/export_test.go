package exchange

import (
	"github.com/go-text/typesetting/shaping"

	"hobrak/internal/core/sheet"
)

// Run is a run of a text in one typeface, for tests.
type Run struct {
	Text string
	Has  func(rune) bool
}

// Runs sets a text in plain letters.
func Runs(text string) (out []Run) {
	for _, r := range runs(text, false) {
		out = append(out, Run{r.text, r.face.has})
	}
	return out
}

// NeedsShaping and Letters set a text whose letters join, stack or run from the right.
var (
	NeedsShaping = needsShaping
	Letters      = func(t *sheet.Text) []sheet.Path { return letters(t) }
)

// Boxes counts the letters of a text that no typeface has.
func Boxes(text string) (n int) {
	line, _ := set([]rune(text), false)
	for _, o := range line {
		n += boxes(o)
	}
	return n
}

func boxes(o shaping.Output) (n int) {
	for _, g := range o.Glyphs {
		if g.GlyphID == 0 {
			n++
		}
	}
	return n
}
