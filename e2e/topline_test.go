package e2e

import (
	"testing"

	"github.com/stretchr/testify/assert"

	"hobrak/demo"
)

// Whatever screen is open, each way through the work can be pressed: nothing in the top line lies over another.
func TestEveryWayInTheTopLineCanBePressed(t *testing.T) {
	p := open(t, "/round", demo.Slipway)
	for _, path := range []string{"/survey", "/belongings", "/places", "/round", "/find", "/upkeep", "/history"} {
		p.visit(path)
		p.wait(`document.querySelector('header nav a[aria-current=page]')`)
		covered := eval[[]string](p, `[...document.querySelectorAll('header nav a')].filter((a) => { const r = a.getBoundingClientRect(); const e = document.elementFromPoint(r.left + r.width / 2, r.top + r.height / 2); return !a.contains(e) }).map((a) => a.textContent)`)
		assert.Empty(t, covered, path)
		assert.Equal(t, eval[float64](p, `document.querySelector('header nav').parentElement.clientWidth`), eval[float64](p, `document.querySelector('header nav').parentElement.scrollWidth`), "%s: the ways take a line of their own to scroll", path)
	}
}
