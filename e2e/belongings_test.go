package e2e

import (
	"fmt"
	"slices"
	"testing"
	"time"

	"github.com/chromedp/chromedp/kb"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"hobrak/demo"
	"hobrak/internal/core/shop"
)

// list types a line and waits until the thing is on the list. It returns the keys it took.
func (p *page) list(line string, things int) int {
	p.t.Helper()
	p.key(line)
	p.key(kb.Enter)
	p.wait(fmt.Sprintf(`document.querySelector('[role=grid]').getAttribute('aria-rowcount') === '%d'`, things+1))
	p.wait(`document.querySelector('input[aria-label="One thing a line"]').value === ''`)
	return len([]rune(line)) + 1
}

func TestThingsAreListedLineByLine(t *testing.T) {
	p := open(t, "/belongings", demo.Pantry)
	p.wait(`document.activeElement?.getAttribute('aria-label') === 'One thing a line'`)
	before := len(p.shop().Items)
	lines := []string{"8 f-clamp 24 in", "tenon saw weekly hang", "mallet", "2 hand screw", "marking knife daily", "card scraper", "jointer plane 22x3x6 8 lb", "bench hook", "wax", "spokeshave #sharp"}
	var keys []int
	for i, l := range lines {
		keys = append(keys, p.list(l, before+i+1))
	}
	slices.Sort(keys)
	t.Logf("keys a thing, without completion: median %d of %v", keys[len(keys)/2], keys)
	assert.Less(t, keys[len(keys)/2], 35)
	items := p.shop().Items
	require.Len(t, items, before+10)
	clamp := items[before]
	assert.Equal(t, 8, clamp.Count)
	assert.Equal(t, "f-clamp", clamp.Kind)
	assert.InDelta(t, 24*25.4+140, clamp.H.MM(), .1)

	// Ten more with completion: letters until the right kind is offered first, Tab, what else there is to say.
	keys = nil
	for i, c := range []struct{ name, more string }{{"dovetail saw", ""}, {"smoothing plane", "weekly"}, {"parallel clamp", "600 x4"}, {"try square", "hang"}, {"mortise chisel", "#rust"}, {"marking gauge", ""}, {"bar clamp", "48 in x2"}, {"bench dog", "x6"}, {"cabinet scraper", ""}, {"wood glue", "monthly"}} {
		n := 0
		for _, letter := range c.name {
			p.key(string(letter))
			n++
			time.Sleep(200 * time.Millisecond) // what is offered follows what is typed
			if n >= 2 && eval[bool](p, fmt.Sprintf(`document.querySelector('[data-testid=offers] b')?.textContent === %q`, c.name)) {
				p.key(kb.Tab)
				n++
				break
			}
		}
		p.wait(fmt.Sprintf(`document.querySelector('input[aria-label="One thing a line"]').value.trim() === %q`, c.name))
		keys = append(keys, n+p.list(c.more, before+11+i))
	}
	slices.Sort(keys)
	t.Logf("keys a thing, with completion: median %d of %v", keys[len(keys)/2], keys)
	assert.Less(t, keys[len(keys)/2], 20)

	// What is not understood is marked, and mended before it is listed.
	p.key("brace @moon monthly")
	p.wait(`document.querySelector('[data-chip=unknown]')?.textContent.includes('there is no station "moon"')`)
	p.axe("a line with something that is not understood")
	for range len("moon monthly") {
		p.key(kb.Backspace)
	}
	p.key("bench monthly")
	p.wait(`document.querySelector('[data-chip=station]') && !document.querySelector('[data-chip=unknown]')`)
	p.key(kb.Enter)
	p.wait(fmt.Sprintf(`document.querySelector('[role=grid]').getAttribute('aria-rowcount') === '%d'`, before+22))
	assert.Equal(t, []string{"bench"}, p.shop().Items[before+20].UsedAt)
}

func TestManyThingsAreChangedAtOnceAndUndone(t *testing.T) {
	p := open(t, "/belongings", demo.Slipway)
	p.wait(`document.querySelector('[data-row]')`)
	// Twenty rows from the top, with Shift and the arrow.
	p.click("[data-row] [aria-pressed]")
	p.focus("[role=grid]")
	for i := range 19 {
		// As an event of its own each, as a key held down makes them.
		eval[bool](p, `(document.activeElement.dispatchEvent(new KeyboardEvent('keydown', { key: 'ArrowDown', shiftKey: true, bubbles: true })), true)`)
		p.wait(fmt.Sprintf(`document.querySelector('[data-testid=sum] b').textContent === '%d chosen'`, i+2))
	}
	eval[bool](p, `(document.querySelector('input[aria-label="New value for all"]').focus(), true)`)
	p.key("odds and ends" + kb.Enter)
	p.revision(2)
	n := 0
	for _, it := range p.shop().Items {
		if it.Family == "odds and ends" {
			n++
		}
	}
	assert.Equal(t, 20, n)
	p.axe("many chosen")
	eval[bool](p, `(document.activeElement.blur(), true)`)
	p.key("u")
	p.revision(3)
	for _, it := range p.shop().Items {
		assert.NotEqual(t, "odds and ends", it.Family)
	}
}

func TestACellIsChangedByTypingAndRefusedInWords(t *testing.T) {
	p := open(t, "/belongings", demo.Slipway)
	p.wait(`document.querySelector('[data-row]')`)
	id := eval[string](p, `document.querySelector('[data-row]').dataset.row`)
	cell := fmt.Sprintf(`document.getElementById('cell-%s-5')`, id)
	eval[bool](p, `(document.querySelector('[role=grid]').focus(), true)`)
	p.key(kb.ArrowRight + kb.ArrowRight + kb.ArrowRight + kb.ArrowRight + kb.ArrowRight)
	p.key("heavy" + kb.Enter)
	p.wait(cell + `.querySelector('[role=alert]')`)
	assert.Equal(t, "heavy", eval[string](p, cell+`.querySelector('input').value`), "what was typed stays")
	p.key(kb.Escape)
	p.wait(`!` + cell + `.querySelector('input')`)
	p.key("3,5 kg" + kb.Enter)
	p.revision(2)
	assert.Equal(t, 3.5, shop.NewIndex(p.shop()).Item(id).KG.KG())
	p.wait(cell + `.textContent === '3.5 kg'`)
	// Show only: a word, and what is assumed.
	eval[bool](p, `(document.querySelector('input[aria-label="Show only"]').focus(), true)`)
	p.key("plane #sharp")
	p.wait(`Number(document.querySelector('[role=grid]').getAttribute('aria-rowcount')) < 20`)
	assert.Contains(t, eval[string](p, `document.querySelector('[role=grid]').innerText`), "Jack plane")
}
