package e2e

import (
	"strconv"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"hobrak/demo"
	"hobrak/internal/core/shop"
)

// paragraph puts text into a field of several lines, the n-th on the page.
func (p *page) paragraph(n int, text string) {
	p.t.Helper()
	field := `document.querySelectorAll('textarea')[` + strconv.Itoa(n) + `]`
	p.wait(field)
	eval[bool](p, `((t) => { Object.getOwnPropertyDescriptor(HTMLTextAreaElement.prototype, 'value').set.call(t, `+strconv.Quote(text)+`); t.dispatchEvent(new Event('input', { bubbles: true })); return true })(`+field+`)`)
}

// A delivery is looked at before it comes and taken in; a cut list is cut and booked, its offcut found again; what is too old goes.
func TestWoodComesIsCutAndGoes(t *testing.T) {
	p := opened(t, "/wood", demo.Slipway, `document.querySelector('[data-testid=wood]')`)
	p.button("Delivery")
	p.paragraph(1, "2 oak 1500x120x20\n1 oak 9000x120x20")
	p.button("Where would it lie?")
	p.wait(`document.querySelector('[data-testid=delivery]')?.innerText.includes('nowhere')`)
	p.look("delivery")
	p.paragraph(1, "2 oak 1500x120x20")
	p.button("Where would it lie?")
	p.wait(`document.querySelector('[data-testid=delivery]') && !document.querySelector('[data-testid=delivery]').innerText.includes('nowhere')`)
	p.button("It came: take it in")
	p.revision(2)
	oak := func() (n int, list []*shop.Item) {
		sh := p.shop()
		for i := range sh.Items {
			if it := &sh.Items[i]; it.Wood != nil && it.Wood.Of == "white-oak" {
				n += it.Number()
				list = append(list, it)
			}
		}
		return n, list
	}
	n, _ := oak()
	require.Equal(t, 2, n)
	p.wait(`document.querySelector('[data-testid=wood]').innerText.includes('White oak')`)

	p.button("Cut plan")
	p.paragraph(1, "2 rails 500x120x20 white oak")
	p.button("Work out the cuts")
	p.wait(`document.querySelector('[data-testid=cuts]')?.innerText.includes('One piece of stock')`)
	p.axe("wood")
	p.look("cut plan")
	p.button("It is cut: book it")
	p.revision(3)
	p.wait(`document.body.innerText.includes('in stock')`)
	n, list := oak()
	assert.Equal(t, 2, n, "one board was cut, what is left of it is an offcut")
	assert.Len(t, list, 2)

	p.button("Find a piece")
	p.typed(`input[placeholder^="length"]`, "400x100x20")
	p.button("Look")
	p.wait(`document.querySelector('[data-testid=serves] li b')?.textContent.includes('oak')`)
	assert.Contains(t, eval[string](p, `document.querySelector('[data-testid=serves] li b').textContent`), "493", "the offcut serves before the whole board")
	p.look("found wood")

	p.button("Keep or go")
	p.wait(`document.querySelector('[data-testid=letting] li')`)
	before := len(p.shop().Items)
	p.button("Stove")
	p.revision(4)
	assert.Len(t, p.shop().Items, before-1)
	p.key("u")
	p.revision(5)
	assert.Len(t, p.shop().Items, before, "undo gives it back")
	p.button("Glue-up")
	p.typed(`input[placeholder^="along"]`, "900x400x20")
	p.button("Count them")
	p.wait(`document.querySelector('[data-testid=clamps]')?.innerText.includes('clamps')`)
	p.size(390, 844, true)
	p.wait(`document.querySelector('[data-testid=wood]')`)
	p.look("wood on a phone")
}
