package e2e

import (
	"fmt"
	"slices"
	"strconv"
	"testing"

	"github.com/chromedp/chromedp/kb"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"hobrak/demo"
	"hobrak/internal/core/shop"
)

// menu chooses a line of the menu that a button opens.
func (p *page) menu(name, line string) {
	p.t.Helper()
	button := fmt.Sprintf(`[...document.querySelectorAll('button')].find((b) => b.textContent.trim() === %q)`, name)
	p.wait(button)
	eval[bool](p, button+`.focus()||true`)
	p.key(kb.Enter)
	item := fmt.Sprintf(`[...document.querySelectorAll('[role=menuitem]')].find((m) => m.textContent.trim() === %q)`, line)
	p.wait(item)
	eval[bool](p, item+`.click()||true`)
}

// already takes a plan over as done: everything is moved.
func (p *page) already() {
	p.t.Helper()
	p.menu("Otherwise", "everything is moved already")
}

// A plan is accepted and nothing has moved; an evening is begun on a phone, where each tick moves one thing; what does not go is left
// where it is; the rest is done, and at the end of it the plan is done with.
func TestAnEveningOnAPhone(t *testing.T) {
	p := open(t, "/round", demo.Slipway)
	p.key("f")
	p.wait(`document.querySelector('aside h2')?.textContent === 'The plan'`)
	p.button("Accept the plan")
	p.revision(2)
	p.wait(`location.pathname === '/evenings' && document.querySelector('[data-testid=tonight]')`)
	was, err := shop.Read(demo.Slipway)
	require.NoError(t, err)
	assert.Equal(t, was.Homes, p.shop().Homes, "nothing has moved")
	assert.NotEmpty(t, p.shop().Settings.Target)
	p.axe("evenings")
	p.look("evenings")
	// The film of the evening plays by itself, halts, and goes back a step.
	film := `document.querySelector('[data-testid=film] figcaption [aria-live]').textContent`
	drawn := `document.querySelector('[data-testid=film] svg').innerHTML`
	before := eval[string](p, drawn)
	p.button("Play the evening")
	p.wait(`/^2 of \d+: /.test(` + film + `)`)
	p.button("Halt")
	assert.NotEqual(t, before, eval[string](p, drawn), "what has moved is drawn elsewhere")
	at := eval[string](p, film)
	p.button("Step back")
	p.wait(film + ` !== ` + strconv.Quote(at))
	p.size(390, 844, true)
	p.wait(`document.querySelector('[data-testid=step] p')`)
	p.look("tonight on a phone")
	target := p.shop().Targets[0]
	goal := func(item string) (out []shop.Home) {
		for _, h := range target.Homes {
			if h.Item == item {
				out = append(out, h)
			}
		}
		return out
	}
	moved := func() (n int) {
		for _, h := range p.shop().Homes {
			for _, g := range goal(h.Item) {
				if g == h && !slices.Contains(was.Homes, h) {
					n++
				}
			}
		}
		return n
	}
	said := func() string { return eval[string](p, `document.querySelector('[data-testid=step] p').innerText`) }
	for i := range 3 {
		step := said()
		p.button("Done")
		p.revision(int64(3 + i))
		p.wait(`document.querySelector('[data-testid=step] p').innerText !== ` + strconv.Quote(step))
	}
	assert.Equal(t, 3, moved())
	// It does not fit: it stays, and the list is made anew without it.
	step := said()
	p.menu("Not possible", "it does not fit")
	p.revision(6)
	p.wait(`document.body.innerText.includes('it does not fit')`)
	require.Len(t, p.shop().Targets[0].Left, 1)
	p.wait(`document.querySelector('[data-testid=step] p').innerText !== ` + strconv.Quote(step))
	assert.Equal(t, 3, moved(), "it has not moved")
	// Find says where a thing is going.
	p.size(1280, 800, false)
	item := ""
	for _, h := range target.Homes {
		if it := shop.NewIndex(was).Item(h.Item); !slices.Contains(p.shop().Homes, h) && it != nil && h.Item != p.shop().Targets[0].Left[0].Item {
			item = it.Name
			break
		}
	}
	p.key("/")
	p.key(item)
	p.wait(`document.body.innerText.includes('goes to')`)
	p.key(chromedpEscape)
}
