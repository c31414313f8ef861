package e2e

import (
	"fmt"
	"testing"
	"time"

	"github.com/chromedp/chromedp"
	"github.com/chromedp/chromedp/kb"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"hobrak/demo"
	"hobrak/internal/core/length"
	"hobrak/internal/core/shop"
)

// Ten windows of one browser and a phone see what any of them changes.
func TestTenWindowsAndAPhoneSeeEachOthersChanges(t *testing.T) {
	p := open(t, "/round", demo.Slipway)
	tabs := []*page{p}
	for range 9 {
		ctx, cancel := chromedp.NewContext(p.ctx)
		t.Cleanup(cancel)
		require.NoError(t, chromedp.Do(ctx, chromedp.EmulateViewport(1280, 800), chromedp.Navigate(p.url+"/round")))
		tab := &page{t: t, ctx: ctx, url: p.url, st: p.st}
		tab.focusable()
		tab.wait(shown)
		tabs = append(tabs, tab)
	}
	streams := 0
	for _, tab := range tabs {
		streams += eval[int](tab, `performance.getEntriesByType('resource').filter((e) => e.name.includes('/changes/stream')).length`)
	}
	phone := browser(t)
	require.NoError(t, chromedp.Do(phone, chromedp.EmulateViewport(390, 844), chromedp.Navigate(p.url+"/round")))
	ph := &page{t: t, ctx: phone, url: p.url, st: p.st}
	ph.wait(shown)
	tabs = append(tabs, ph)
	var took []time.Duration
	for n, tab := range []*page{tabs[0], tabs[5], ph} {
		since := time.Now()
		await[bool](tab, fmt.Sprintf(`fetch('/api/v1/items', { method: 'POST', headers: { 'Content-Type': 'application/json', 'If-Match': '"%d"' }, body: JSON.stringify({ lines: ['window %d'] }) }).then(() => true)`, n+1, n))
		for _, other := range tabs {
			other.revision(int64(n + 2))
		}
		took = append(took, time.Since(since))
	}
	t.Logf("eleven windows had each change after %v; %d streams finished before", took, streams)
	// When the window that holds the stream goes, another takes over.
	require.NoError(t, chromedp.Cancel(tabs[1].ctx))
	require.NoError(t, chromedp.Do(p.ctx, chromedp.Navigate("about:blank")))
	_, err := p.st.Change(p.ctx, 4, "another", "something", dropHome("jack-plane"))
	require.NoError(t, err)
	for _, other := range tabs[2:] {
		other.revision(5)
	}
}

// Undo from the message, up to a moment, and two moments side by side.
func TestChangesAreTakenBackFromTheMessageAndTheHistory(t *testing.T) {
	p := open(t, "/round?on=item:jack-plane", demo.Slipway)
	p.wait(`document.querySelector('aside h2')?.innerText === 'Jack plane'`)
	p.button("Clear its home")
	p.revision(2)
	p.button("Undo")
	p.revision(3)
	require.Len(t, p.homes("jack-plane"), 1)
	p.key("u") // nothing is left to undo
	p.key("U")
	p.revision(4)
	_, err := p.st.Change(p.ctx, 4, "phone", "put away", dropHome("block-plane"))
	require.NoError(t, err)
	p.visit("/history")
	p.wait(`document.querySelector('[data-change="5"]')`)
	row := func(id int, text string) {
		find := fmt.Sprintf(`[...document.querySelectorAll('[data-change="%d"] button')].find((b) => b.innerText === %q)`, id, text)
		p.wait(find)
		eval[bool](p, `(`+find+`.click(), true)`)
	}
	row(3, "Compare from here")
	p.wait(`document.querySelector('[aria-label=Comparison] [aria-label=Moved]')?.innerText.includes('Block plane')`)
	text := eval[string](p, `document.querySelector('[aria-label=Comparison]').innerText`)
	assert.Contains(t, text, "Jack plane")
	assert.Contains(t, text, "weekly handling")
	p.axe("two moments compared")
	p.look("compare")
	row(4, "Compare to here")
	p.wait(`!document.querySelector('[aria-label=Comparison] [aria-label=Moved]')?.innerText.includes('Block plane')`)
	row(3, "Undo up to here")
	p.revision(6)
	require.Len(t, p.homes("jack-plane"), 1)
	require.Len(t, p.homes("block-plane"), 1)
}

// What is dragged can be moved by keys just as well.
func TestThingsAndPlacesAreMovedByKeys(t *testing.T) {
	p := open(t, "/round?on=item:jack-plane", demo.Slipway)
	p.wait(`document.querySelector('[data-testid=mark]')`)
	was := *p.homes("jack-plane")[0]
	eval[bool](p, `(document.activeElement?.blur(), true)`)
	p.key("m")
	p.wait(`document.querySelector('[data-testid=ghost]')`)
	p.wait(`document.querySelector('[data-testid=landing][data-allowed]')`)
	p.key(kb.Escape)
	p.wait(`!document.querySelector('[data-testid=ghost]')`)
	assert.Equal(t, was, *p.homes("jack-plane")[0])
	// Upwards and along until it may hang there.
	p.key("m")
	p.until(`document.querySelector('[data-testid=landing][data-allowed="true"]') && document.querySelector('[data-testid=ghost]')?.innerText.includes('D1')`, func() { p.key(kb.PageDown); time.Sleep(150 * time.Millisecond) })
	p.key(kb.Enter)
	p.revision(2)
	assert.Equal(t, "D1", p.homes("jack-plane")[0].Place)
	// A place is moved along its wall; one that would break a rule asks first.
	p.visit("/round?on=place:B6")
	p.wait(`document.querySelector('aside h2')`)
	at := func() float64 {
		s := p.shop()
		return shop.NewIndex(s).Place("B6").At.X.MM()
	}
	x := at()
	p.key("m")
	p.wait(`document.querySelector('[data-testid=carried]')`)
	for range 6 {
		p.key(kb.ArrowRight)
	}
	p.wait(`document.querySelector('[data-testid=carried]')?.innerText.includes('a week here')`)
	p.key(kb.Enter)
	p.revision(3)
	assert.InDelta(t, x+60, at(), 10)
	p.key("m")
	for range 9 {
		require.NoError(t, chromedp.Do(p.ctx, chromedp.KeyEvent(kb.ArrowLeft, chromedp.KeyModifiers(chromedp.ModifierShift))))
	}
	p.wait(`document.querySelector('[data-testid=proposed] rect')?.getAttribute('stroke') === 'var(--red)'`)
	// As an event: a second half of the key would answer the question at once.
	eval[bool](p, `(window.dispatchEvent(new KeyboardEvent('keydown', { key: 'Enter', bubbles: true, cancelable: true })), true)`)
	p.wait(`document.querySelector('[role=alertdialog]')?.innerText.includes('B2')`)
	p.axe("asked whether rules may be broken")
	p.look("broken")
	p.button("Leave it where it is")
	p.wait(`!document.querySelector('[role=alertdialog]')`)
	_, revision := p.st.Shop()
	assert.EqualValues(t, 3, revision)
}

// What is worth doing next leads there, and stays away once it is put away.
func TestNextStepsLeadThereAndNeverNag(t *testing.T) {
	p := open(t, "/round", demo.Slipway)
	p.wait(`document.querySelector('[data-step=homes]')?.innerText.includes('25 things have no home')`)
	p.button("Make a place")
	p.wait(`location.pathname === '/places' && document.querySelector('input[aria-label="What it should hold"]').value === 'homeless'`)
	p.visit("/round")
	p.click(`button[aria-label^="Put away: 25 things"]`)
	p.wait(`!document.querySelector('[data-step=homes]')`)
	p.reload()
	p.wait(`document.querySelector('[data-step]')`)
	assert.False(t, eval[bool](p, `document.querySelector('[data-step=homes]') !== null`))
	// In an empty shop nothing is said to be in order.
	q := open(t, "/round", unsurveyed(length.Metric))
	q.wait(`document.querySelector('[data-step=room]') && document.querySelector('[data-step=things]')`)
	assert.NotContains(t, eval[string](q, `document.body.innerText`), "Everything has a home")
	q.look("empty")
	for _, path := range []string{"/belongings", "/places", "/fit", "/find", "/history", "/survey"} {
		q.visit(path)
		q.wait(`document.querySelector('main button')`)
		assert.NotContains(t, eval[string](q, `document.body.innerText`), "Everything has a home", path)
		if path != "/history" && path != "/survey" { // they show what is there from the first
			assert.True(t, eval[bool](q, `document.querySelector('[data-empty] h2') !== null`), "%s says what it will show", path)
		}
	}
}
