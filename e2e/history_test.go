package e2e

import (
	"strconv"
	"testing"

	"github.com/chromedp/chromedp/kb"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"hobrak/demo"
	"hobrak/internal/core/shop"
)

func TestTheHistoryTellsWhatWasChangedAndOfOneThingAlone(t *testing.T) {
	p := open(t, "/round?on=item:block-plane", demo.Slipway)
	p.wait(`document.querySelector('aside')`)
	p.key(kb.Delete)
	p.revision(2)
	p.key("u")
	p.revision(3)
	_, err := p.st.Change(t.Context(), 3, "other", "lathe gets a note", func(s *shop.Shop) error { s.Items[0].Notes = "sharpened"; return nil })
	require.NoError(t, err)
	p.visit("/history")
	p.wait(`document.querySelectorAll('[data-change]').length === 4`)
	p.axe("history")
	p.look("history")
	change := func(n int) string {
		return eval[string](p, `document.querySelectorAll('[data-change]')[`+strconv.Itoa(n)+`].innerText`)
	}
	assert.Contains(t, change(0), "Lathe gets a note by other")
	assert.Contains(t, change(1), "Undone: Block plane without a home")
	eval[bool](p, `(document.querySelector('[aria-label="its history: Block plane"]').click(), true)`)
	p.wait(`document.querySelectorAll('[data-change]').length === 3`)
	p.look("history-of")
	p.button("Show all")
	p.wait(`document.querySelectorAll('[data-change]').length === 4`)
	eval[bool](p, `([...document.querySelectorAll('[data-change] a')].find((a) => a.innerText === 'Block plane').click(), true)`)
	p.wait(`location.pathname === '/round' && document.querySelector('aside h2')?.innerText.includes('Block plane')`)
}
