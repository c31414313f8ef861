package e2e

import (
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"hobrak/demo"
)

func TestTheRoundIsDrawnToScaleAndScrolls(t *testing.T) {
	p := open(t, "/round", demo.Slipway)
	assert.Equal(t, []string{"A", "B", "C", "D", "middle"}, eval[[]string](p, `[...document.querySelectorAll('[data-elevation]')].map((g) => g.dataset.elevation)`))
	assert.Equal(t, 52, eval[int](p, `document.querySelectorAll('[data-place]').length`), "every place is drawn")
	assert.Greater(t, eval[int](p, `document.querySelectorAll('[data-item] path').length`), 150)
	// The jack plane's silhouette, or whatever hangs first, is as wide as the core says, in px per mm.
	scale := eval[float64](p, `Number(document.querySelector('[data-testid=round]').dataset.scale)`)
	widths := eval[[]float64](p, `(() => { const g = document.querySelector('[data-place="B1"]'); const i = g.querySelector('[data-item] > g > rect'); return [i.getBoundingClientRect().width, Number(i.getAttribute('width'))] })()`)
	assert.InDelta(t, widths[1]*scale, widths[0], 1)

	// What the first load brings of script, as it comes over the wire.
	script := eval[float64](p, `performance.getEntriesByType('resource').filter((r) => r.name.endsWith('.js')).reduce((sum, r) => sum + r.encodedBodySize, 0)`)
	t.Logf("first load: %.0f KB of compressed script", script/1024)
	assert.Positive(t, script)
	assert.LessOrEqual(t, script, 250.0*1024)

	before := eval[float64](p, `document.querySelector('[data-testid=round]').parentElement.scrollLeft`)
	p.key("]")
	p.key("]")
	p.wait(`document.querySelector('[role=slider]').getAttribute('aria-valuetext') === 'from Wall C'`)
	assert.Greater(t, eval[float64](p, `document.querySelector('[data-testid=round]').parentElement.scrollLeft`), before)
	p.key("[")
	p.wait(`document.querySelector('[role=slider]').getAttribute('aria-valuetext') === 'from Wall B'`)

	p.key("s")
	p.wait(`document.querySelector('[data-elevation=B] line[stroke-dasharray="6 5"]')`)
	p.key("2")
	p.wait(`document.querySelector('dl[aria-label="Lens Uses"]')`)
	assert.True(t, strings.Contains(eval[string](p, `location.search`), "lens=uses"), "the lens is in the URL")

	// Frames while scrolling from one end to the other: reported, not asserted.
	frames := p.frames(120, `document.querySelector('[data-testid=round]').parentElement`, `e.scrollLeft = (e.scrollWidth * n) / 120`)
	slow, worst := 0, 0.0
	for _, f := range frames {
		worst = max(worst, f)
		if f > 50 {
			slow++
		}
	}
	t.Logf("scrolling the round: %d frames, %d over 50 ms, the longest %.0f ms", len(frames), slow, worst)
}

func TestDraggingIsAnsweredRefusedAndAccepted(t *testing.T) {
	p := open(t, "/round", demo.Slipway)
	// A vacuum does not hang on a cleat field, and the core says why while it is dragged.
	p.drag(`[data-tray="shop-vacuum"]`, "B1", .5, .5, false, func() {
		assert.Contains(t, eval[string](p, `document.querySelector('[data-testid=ghost]').textContent`), "not in B1")
	})
	p.wait(`document.body.textContent.includes('can\'t live in B1')`)
	assert.Empty(t, p.homes("shop-vacuum"))
	// A strap clamp may hang at the window; the answer names the seconds there and now.
	p.drag(`[data-tray="strap-clamp"]`, "A1", .8, .8, true, func() {
		assert.Regexp(t, `A1: [\d.]+ s a week here, [\d.]+ s now`, eval[string](p, `document.querySelector('[data-testid=ghost]').textContent`))
	})
	p.revision(2)
	require.Len(t, p.homes("strap-clamp"), 1)
	assert.Equal(t, "A1", p.homes("strap-clamp")[0].Place)
	// From place to place.
	p.wait(`document.querySelector('[data-place="A1"] [data-item="strap-clamp"]')`)
	p.show("A1")
	p.drag(`[data-item="strap-clamp"]`, "A1", .2, .85, true, nil)
	p.revision(3)
	assert.Less(t, p.homes("strap-clamp")[0].X.MM(), 900.0)
	// And back.
	p.key("u")
	p.revision(4)
	p.key("u")
	p.revision(5)
	assert.Empty(t, p.homes("strap-clamp"))
	p.wait(`document.querySelector('[data-tray="strap-clamp"]')`)
	p.key("U")
	p.revision(6)
	assert.Len(t, p.homes("strap-clamp"), 1)
}

func TestFitIsRunComparedAndAccepted(t *testing.T) {
	p := open(t, "/round", demo.Slipway)
	p.key("f")
	p.wait(`document.querySelector('aside h2')?.textContent === 'The plan'`)
	text := eval[string](p, `document.querySelector('aside').textContent`)
	assert.Regexp(t, `as things live now, in all modes\d+ min`, text)
	assert.Regexp(t, `at most [\d.]+ % from the best possible`, text)
	planned := eval[int](p, `document.querySelectorAll('[data-item] path[stroke="var(--blue)"]').length`)
	assert.Positive(t, planned, "what moves is drawn in blue")
	p.key(".")
	p.wait(`document.querySelectorAll('[data-item] path[stroke="var(--blue)"]').length === 0`)
	p.already()
	p.revision(2)
	p.wait(`document.body.textContent.includes('Everything has a home')`)
	assert.GreaterOrEqual(t, len(p.shop().Homes), len(p.shop().Items))
	p.key("u")
	p.revision(3)
	p.wait(`document.body.textContent.includes('No home yet')`)
}

func TestAFitCanBeStoppedAndDiscarded(t *testing.T) {
	p := open(t, "/fit", demo.Slipway)
	p.click(`[role=radio][data-state=unchecked]`)
	p.button("Find better homes")
	p.button("Stop with the best so far")
	p.wait(`document.querySelector('aside h2')?.textContent === 'The plan'`)
	p.button("Discard")
	p.wait(`document.querySelector('aside h2')?.textContent === 'Fit'`)
	_, revision := p.st.Shop()
	assert.EqualValues(t, 1, revision)
}

func TestAMisspeltThingIsFoundAndMarked(t *testing.T) {
	p := open(t, "/round", demo.Slipway)
	p.key("/")
	p.key("thiknessing caliper")
	p.wait(`document.querySelectorAll('[role=option]').length >= 2 && document.querySelector('[role=option]').textContent.includes('Thicknessing calliper')`)
	p.key("\r")
	p.wait(`document.querySelector('[data-testid=mark]')`)
	p.wait(`document.querySelector('[data-testid=walking-line]')`)
	assert.Equal(t, "/find", eval[string](p, `location.pathname`))
	home := p.homes("thicknessing-calliper-large")[0]
	p.wait(`document.querySelector('aside h2')?.textContent.startsWith('Thicknessing calliper')`)
	assert.Contains(t, eval[string](p, `document.querySelector('aside').textContent`), home.Place)
	// The mark is on screen.
	p.wait(`(() => { const r = document.querySelector('[data-testid=mark] rect').getBoundingClientRect(); const s = document.querySelector('[data-testid=round]').parentElement.getBoundingClientRect(); return r.left >= s.left && r.right <= s.right })()`)
}

func TestEverythingByKeyboardAlone(t *testing.T) {
	p := open(t, "/round", demo.Slipway)
	focused := `document.activeElement`
	tab := func(until string) {
		t.Helper()
		var past []string
		for range 150 {
			p.key("\t")
			if eval[bool](p, "!!("+until+")") {
				return
			}
			past = append(past, eval[string](p, focused+`.tagName + ' ' + (`+focused+`.ariaLabel ?? `+focused+`.innerText).slice(0, 20)`))
		}
		t.Fatalf("Tab never came to %s but to %q, and %q is open", until, slices.Compact(past), eval[string](p, `document.querySelector('[role=dialog]')?.innerText ?? location.pathname`))
	}
	// The tray: along to the second thing, and Enter places it.
	tab(focused + `.dataset.tray !== undefined`)
	p.key(chromedpRight)
	p.wait(focused + `.dataset.tray !== undefined`)
	id := eval[string](p, focused+`.dataset.tray`)
	p.key("\r")
	p.revision(2)
	require.NotEmpty(t, p.homes(id))
	p.key("u")
	p.revision(3)
	// The round, past the notices that lie over it: from thing to thing.
	p.wait(`document.querySelectorAll('[data-sonner-toast]').length === 2`)
	p.key(chromedpEscape)
	eval[bool](p, `(() => { document.activeElement.blur(); return true })()`)
	tab(focused + `.closest('[data-sonner-toast]') && ` + focused + `.innerText === 'Undo'`)
	p.key("\t")
	assert.False(t, eval[bool](p, focused+`.dataset.tray !== undefined`), "from the notices Tab goes on, not back to where it came from")
	tab(focused + `.getAttribute('role') === 'region' && !!` + focused + `.querySelector('[data-testid=round]')`)
	p.key(chromedpRight)
	p.wait(`document.querySelector('[data-testid=mark]')`)
	p.wait(`document.querySelector('aside h2')`)
	first := eval[string](p, `document.querySelector('aside h2').textContent`)
	p.key(chromedpRight)
	p.wait(`document.querySelector('aside h2')?.textContent !== ` + quoted(first))
	// Fit and accept.
	p.key("f")
	p.wait(`document.querySelector('aside h2')?.textContent === 'The plan'`)
	tab(focused + `.textContent === 'Accept the plan'`)
	p.key("\r")
	p.revision(4)
	// The keys are listed, and Esc closes the list.
	p.key("?")
	p.wait(`document.querySelector('[role=dialog]')`)
	p.key(chromedpEscape)
	p.wait(`!document.querySelector('[role=dialog]')`)
}

func TestNoSeriousViolationOfAccessibilityInEitherLight(t *testing.T) {
	p := open(t, "/round", demo.Slipway)
	for _, lamp := range []string{"lamp on", "lamp off"} {
		look := p.axe
		if lamp == "lamp off" {
			look = p.contrast
		}
		look("round, " + lamp)
		p.key("1")
		look("order lens, " + lamp)
		p.key("1")
		p.key("f")
		p.wait(`document.querySelector('aside h2')?.textContent === 'The plan'`)
		look("fit, " + lamp)
		p.button("Discard")
		p.wait(`document.querySelector('aside h2')?.textContent === 'Fit'`)
		look("fit before, " + lamp)
		p.key("/")
		p.key("plane")
		p.wait(`document.querySelector('[role=option]')`)
		look("find, typing, " + lamp)
		p.key("\r")
		p.wait(`document.querySelector('[data-testid=mark]')`)
		look("find, " + lamp)
		p.key(chromedpEscape)
		eval[bool](p, `(() => { document.activeElement.blur(); return true })()`)
		p.key("?")
		p.wait(`document.querySelector('[role=dialog]')`)
		look("keys, " + lamp)
		p.key(chromedpEscape)
		p.wait(`!document.querySelector('[role=dialog]')`)
		p.key("l")
		p.wait(`document.documentElement.dataset.lamp === ` + map[string]string{"lamp on": `"off"`, "lamp off": `undefined`}[lamp])
	}
}

func TestThePantryIsShownInFeetAndInches(t *testing.T) {
	p := open(t, "/round", demo.Pantry)
	p.key("/")
	p.key("smoothing")
	p.wait(`document.querySelector('[role=option]')`)
	p.key("\r")
	p.wait(`document.querySelector('aside h2')?.textContent === 'Smoothing plane'`)
	assert.Contains(t, eval[string](p, `document.querySelector('aside').textContent`), `2 5⁄8" × 9 13⁄16" × 5 1⁄2"`)
	p.axe("pantry")
}

func TestAChangeElsewhereIsSeenHere(t *testing.T) {
	p := open(t, "/round", demo.Slipway)
	sh, revision := p.st.Shop()
	_, err := p.st.Change(p.ctx, revision, "somebody", "a home less", dropHome(sh.Homes[0].Item))
	require.NoError(t, err)
	p.wait(`document.querySelectorAll('[data-tray]').length === 26`)
}
