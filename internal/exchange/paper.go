// Package exchange writes what leaves Hobrak as files and reads what comes in: drawings on paper as SVG, PDF
// and PNG, tables, archives.
package exchange

import (
	"hobrak/internal/core/sheet"
)

// pen draws the parts of a page in one form of file. All lengths are mm of paper.
type pen interface {
	path(p *sheet.Path)
	line(l *sheet.Line)
	box(b *sheet.Box)
	text(t *sheet.Text)
	// within draws through a window, moved so that a spot of the drawing is at its upper left corner.
	within(in *sheet.Inset, draw func())
}

// draw draws a page in the order that its parts are on each other.
func draw(to pen, p *sheet.Page) {
	for i := range p.Paths {
		to.path(&p.Paths[i])
	}
	for i := range p.Lines {
		to.line(&p.Lines[i])
	}
	for i := range p.Boxes {
		to.box(&p.Boxes[i])
	}
	for i := range p.Texts {
		to.text(&p.Texts[i])
	}
	for i := range p.Insets {
		in := &p.Insets[i]
		to.within(in, func() { draw(to, in.Drawing) })
	}
}

// dashes are how long a stroke of a broken line and the gap after it are, in mm.
var dashes = [2]float64{2, 1.4}
