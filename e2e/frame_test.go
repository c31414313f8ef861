package e2e

import (
	"fmt"
	"testing"

	"github.com/chromedp/chromedp"
	"github.com/chromedp/chromedp/kb"
	"github.com/stretchr/testify/assert"

	"hobrak/demo"
)

// Looking at a thing leaves what one is in the middle of alone, and so does another screen and
// a reload.
func TestWorkInProgressOutlivesLookingAtThingsAndReloading(t *testing.T) {
	p := open(t, "/places", demo.Slipway)
	p.wish("f-clamp", map[string]string{"width": "900"})
	words := `document.querySelector('input[aria-label="What it should hold"]')?.value === 'f-clamp' && document.querySelector('input[aria-label="width at most"]')?.value === '900'`
	eval[bool](p, `(document.activeElement.blur(), true)`)
	p.visit("/places?on=item:block-plane")
	p.wait(words + ` && document.querySelector('aside[aria-label=Sheet] h2')?.innerText === 'Block plane'`)
	p.look("beside")
	p.axe("a thing beside a wish")
	p.key(kb.Escape)
	p.wait(words + ` && !document.querySelector('aside[aria-label=Sheet]')`)
	p.button("Homes")
	p.wait(`location.pathname === '/round'`)
	p.button("Storage")
	p.wait(words)
	p.reload()
	p.wait(words)
}

func TestEverythingIsFoundFromOneField(t *testing.T) {
	p := open(t, "/round", demo.Slipway)
	call := func() {
		eval[bool](p, `(window.dispatchEvent(new KeyboardEvent('keydown', { key: 'k', ctrlKey: true, bubbles: true })), true)`)
		p.wait(`document.activeElement?.getAttribute('aria-label') === 'Find anything'`)
	}
	call()
	p.look("palette")
	p.axe("palette")
	p.key("hist")
	p.wait(`document.querySelector('[cmdk-item][data-selected=true]')?.innerText.includes('History')`)
	p.key(kb.Enter)
	p.wait(`location.pathname === '/history'`)
	call()
	p.key("block plane")
	p.wait(`document.querySelector('[cmdk-item][data-selected=true]')?.innerText.includes('Block plane')`)
	p.key(kb.Enter)
	p.wait(`document.querySelector('aside[aria-label=Sheet] h2')?.innerText === 'Block plane'`)
	call()
	p.key("wall d")
	p.wait(`document.querySelector('[cmdk-item][data-selected=true]')`)
	p.key(kb.Enter)
	p.wait(`document.querySelector('[role=slider]').getAttribute('aria-valuetext').includes('D')`)
	call()
	p.key("lamp")
	p.wait(`document.querySelector('[cmdk-item][data-selected=true]')?.innerText.includes('Lamp')`)
	p.key(kb.Enter)
	p.wait(`document.documentElement.dataset.lamp === 'off'`)
}

// Who dictates, or whose keyboard sends letters by itself, turns single letters off; the rest
// of the keys stay.
func TestSingleLettersCanBeTurnedOff(t *testing.T) {
	p := open(t, "/round", demo.Slipway)
	p.key("?")
	p.wait(`document.querySelector('[role=dialog] [role=switch]')`)
	p.look("keys")
	p.axe("keys")
	eval[bool](p, `(document.querySelector('[role=dialog] [role=switch]').click(), true)`)
	p.key(kb.Escape)
	p.wait(`!document.querySelector('[role=dialog]')`)
	before := eval[string](p, `document.documentElement.dataset.lamp ?? ''`)
	p.key("l")
	p.key("1")
	assert.Equal(t, before, eval[string](p, `document.documentElement.dataset.lamp ?? ''`))
	assert.NotContains(t, eval[string](p, `location.search`), "lens")
	eval[bool](p, `(window.dispatchEvent(new KeyboardEvent('keydown', { key: 'k', ctrlKey: true, bubbles: true })), true)`)
	p.wait(`document.activeElement?.getAttribute('aria-label') === 'Find anything'`)
}

// A screen that fails leaves the rest of the window working.
func TestAScreenThatCannotBeLoadedSaysSoAndTheOthersGoOn(t *testing.T) {
	p := open(t, "/round", demo.Pantry)
	p.gone()
	p.wait(`document.querySelector('header [role=status]')?.innerText === 'Not connected'`)
	p.button("The shop")
	p.wait(`document.querySelector('main [role=alert] h2')?.innerText === "Hobrak doesn't answer"`)
	p.look("not-connected")
	p.button("Homes")
	p.wait(`document.querySelector('[data-testid=round]')`)
}

// Back goes to what was looked at before, on the same screen and on the one before; a plan is open
// again after a reload, and after the server was started anew.
func TestBackGoesToWhatWasLookedAtBefore(t *testing.T) {
	p := open(t, "/round", demo.Slipway)
	back := func() { eval[bool](p, `(history.back(), true)`) }
	title := func(name string) string {
		return fmt.Sprintf(`document.querySelector('aside[aria-label=Sheet] h2')?.innerText === %q`, name)
	}
	p.click(`[data-place="A1"] > .place`)
	p.wait(title("Tool board over the sharpening bench"))
	p.click(`[data-tray="radio"]`)
	p.wait(title("Radio"))
	back()
	p.wait(title("Tool board over the sharpening bench"))
	p.button("Storage")
	p.wait(`location.pathname === '/places' && ` + title("Tool board over the sharpening bench"))
	back()
	p.wait(`location.pathname === '/round' && ` + title("Tool board over the sharpening bench"))
	back()
	p.wait(`!document.querySelector('[data-testid=mark]') && !location.search.includes('on=')`)
	// What the list shows outlives Back and a reload.
	p.button("Things")
	p.focus(`input[aria-label="Show only"]`)
	p.key("gouge")
	few := `document.querySelectorAll('[data-row]').length > 0 && document.querySelectorAll('[data-row]').length < 12`
	p.wait(few)
	p.button("Homes")
	p.wait(`location.pathname === '/round'`)
	back()
	p.wait(`location.pathname === '/belongings' && ` + few)
	p.reload()
	p.wait(few)
	// The plan that is open is in the address.
	p.visit("/fit")
	p.button("Find better homes")
	plan := `document.querySelector('aside h2')?.textContent === 'The plan'`
	p.wait(plan)
	p.reload()
	p.wait(plan)
	back()
	p.wait(`document.querySelector('aside h2')?.textContent === 'Fit'`)
}

// Held at the edge of the stage a thing takes the round along.
func TestTheRoundRollsUnderWhatIsHeldAtItsEdge(t *testing.T) {
	p := open(t, "/round", demo.Slipway)
	p.grab(`[data-tray="radio"]`)
	box := eval[[]float64](p, `(() => { const r = document.querySelector('[data-testid=round]').parentElement.getBoundingClientRect(); return [r.left, r.top, r.right, r.bottom] })()`)
	p.mouse(chromedp.MouseMoved, (box[0]+box[2])/2, (box[1]+box[3])/2)
	p.mouse(chromedp.MouseMoved, box[2]-8, (box[1]+box[3])/2)
	p.wait(`document.querySelector('[data-testid=round]').parentElement.scrollLeft > 400`)
	p.key(kb.Escape)
	p.wait(`!document.querySelector('[data-testid=ghost]')`)
	p.mouse(chromedp.MouseReleased, box[2]-8, (box[1]+box[3])/2)
	_, revision := p.st.Shop()
	assert.EqualValues(t, 1, revision)
}
