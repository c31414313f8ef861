package e2e

import (
	"testing"

	"github.com/chromedp/chromedp/kb"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"hobrak/demo"
	"hobrak/internal/core/shop"
)

// From bare walls: two plans are made and compared, a wall of the better homes is
// taken over, a new thing gets a home and says why it is there.
func TestPlansAreProposedComparedAndTakenOverInParts(t *testing.T) {
	p := open(t, "/fit", demo.Pantry)
	p.wait(`document.querySelector('[aria-label="Wishes and what they may cost"]')`)
	p.axe("fit before a search")
	eval[bool](p, `([...document.querySelectorAll('aside label')].find((l) => l.textContent.includes('from bare walls')).querySelector('input').click(), true)`)
	start := func(title string) {
		p.wait(`[...document.querySelectorAll('aside button')].some((b) => b.textContent.startsWith('` + title + `'))`)
		eval[bool](p, `([...document.querySelectorAll('aside button')].find((b) => b.textContent.startsWith('`+title+`')).click(), true)`)
		p.wait(`[...document.querySelectorAll('aside h3')].some((h) => h.textContent === 'To build')`)
	}
	start("Open, by machine")
	p.wait(`document.querySelectorAll('ul[aria-label="To build"] li').length > 4`)
	p.axe("a plan with new storage")
	p.button("Others")
	start("Closed, by use")
	p.button("Others")
	p.wait(`document.querySelectorAll('button[aria-label^="Open the plan"]').length === 2`)
	assert.EqualValues(t, 1, func() int64 { _, r := p.st.Shop(); return r }(), "nothing is changed by proposing")

	// The wishes have prices one can set, by keyboard.
	p.focus(`[aria-label="Wishes and what they may cost"] input`)
	p.key(kb.ArrowRight)
	p.wait(`document.querySelector('[aria-label="Wishes and what they may cost"] input').getAttribute('aria-valuetext').startsWith('1 s')`)
	p.button("Find better homes")
	p.wait(`document.querySelector('table[aria-label="As it stands beside the plan"]')`)
	p.axe("a plan beside the shop as it stands")
	p.button("Others")
	p.wait(`document.querySelectorAll('button[aria-label^="Open the plan"]').length === 3`)
	// Opened again, a plan with storage is taken over as a whole.
	eval[bool](p, `(document.querySelector('button[aria-label^="Open the plan Open, by machine"]').click(), true)`)
	p.wait(`[...document.querySelectorAll('aside h3')].some((h) => h.textContent === 'To build')`)
	p.button("Accept the plan")
	p.revision(2)
	s := p.shop()
	assert.NotEmpty(t, s.Places)
	for _, h := range s.Homes {
		assert.NotNil(t, shop.NewIndex(s).Place(h.Place))
	}
}

func TestAThingIsAddedAndAsksOthersToMove(t *testing.T) {
	p := open(t, "/round?on=item:f-clamp-1000", demo.Slipway)
	before := p.shop()
	p.wait(`[...document.querySelectorAll('aside h3')].some((h) => h.textContent === 'If others moved for it')`)
	p.axe("a thing for which others may move")
	p.button("Make room for it")
	p.revision(2)
	after := p.shop()
	require.Len(t, p.homes("f-clamp-1000"), 1)
	moved := 0
	old := shop.NewIndex(before)
	for i := range after.Items {
		id := after.Items[i].ID
		if h, o := shop.NewIndex(after).Homes(id), old.Homes(id); len(o) > 0 && *h[0] != *o[0] {
			moved++
		}
	}
	assert.LessOrEqual(t, moved, 2)
	p.wait(`[...document.querySelectorAll('aside h3')].some((h) => h.textContent === 'Why here')`)
	p.key("u")
	p.revision(3)
	assert.Empty(t, p.homes("f-clamp-1000"))
}

func TestAWallOfAPlanIsTakenOver(t *testing.T) {
	p := open(t, "/fit", demo.Slipway)
	p.button("Find better homes")
	p.wait(`document.querySelector('[aria-label="What moves"] button')`)
	// The menu of parts, by keyboard.
	eval[bool](p, `([...document.querySelectorAll('aside button')].find((b) => b.textContent.trim() === 'A part').focus(), true)`)
	p.key(kb.Enter)
	p.wait(`[...document.querySelectorAll('[role=menuitem]')].some((m) => m.textContent.includes('on wall D'))`)
	p.axe("parts of a plan")
	eval[bool](p, `([...document.querySelectorAll('[role=menuitem]')].find((m) => m.textContent.includes('on wall D')).click(), true)`)
	p.revision(2)
	after := p.shop()
	ix := shop.NewIndex(after)
	was := shop.NewIndex(func() *shop.Shop { s, _ := shop.Read(demo.Slipway); return s }())
	moved, stayed := 0, 0
	for i := range after.Items {
		h, o := ix.Homes(after.Items[i].ID), was.Homes(after.Items[i].ID)
		if len(h) > 0 && len(o) > 0 && *h[0] == *o[0] {
			stayed++
		} else if len(h) > 0 {
			moved++
		}
	}
	assert.Greater(t, moved, 5)
	assert.Greater(t, stayed, 5, "the other walls stay but for what was in the way")
}
