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
	"hobrak/internal/core/fit"
	"hobrak/internal/core/shop"
	"hobrak/internal/core/shoptest"
)

// How fast the interface is. Figures are printed and not judged, since machines are shared; sizes are.
func TestFiguresOfTheInterface(t *testing.T) {
	p := open(t, "/round", demo.Slipway)
	// What the first load moves over the wire, and what a browser's own measures say of it.
	p.visit("/round")
	p.wait(shown)
	p.wait(`document.readyState === 'complete'`)
	moved := eval[float64](p, `[...performance.getEntriesByType('resource'), ...performance.getEntriesByType('navigation')].filter((e) => !e.name.includes('/stream')).reduce((n, e) => n + e.encodedBodySize, 0)`)
	code := eval[float64](p, `performance.getEntriesByType('resource').filter((e) => /\.(js|css)$/.test(e.name)).reduce((n, e) => n + e.encodedBodySize, 0)`)
	t.Logf("first load: %.0f KB compressed, of it %.0f KB scripts and styles", moved/1000, code/1000)
	assert.Less(t, moved, 250e3, "first load, compressed")
	paint := `new Promise((done) => { const v = { paint: 0, shift: 0, blocked: 0 }; new PerformanceObserver((l) => { for (const e of l.getEntries()) v.paint = e.startTime }).observe({ type: 'largest-contentful-paint', buffered: true }); new PerformanceObserver((l) => { for (const e of l.getEntries()) if (!e.hadRecentInput) v.shift += e.value }).observe({ type: 'layout-shift', buffered: true }); new PerformanceObserver((l) => { for (const e of l.getEntries()) v.blocked += Math.max(0, e.duration - 50) }).observe({ type: 'longtask', buffered: true }); setTimeout(() => done([v.paint, v.shift, v.blocked]), 400) })`
	got := await[[]float64](p, paint)
	t.Logf("largest paint after %.0f ms, layout shift %.3f, blocked %.0f ms", got[0], got[1], got[2])
	assert.Less(t, got[1], 0.1, "layout shift")
	// Screens are fetched while nothing else is done; then each opens, a second time as well.
	p.wait(`['Survey', 'Belongings', 'History'].every((n) => performance.getEntriesByType('resource').some((e) => e.name.includes('/assets/' + n)))`)
	time.Sleep(time.Second)
	for range 2 {
		for _, s := range []struct{ path, there string }{{"/belongings", "[data-row]"}, {"/round", "[data-testid=round]"}, {"/places", "[data-testid=places]"}, {"/fit", "aside h2"}, {"/survey", "[data-testid=plan]"}, {"/history", "[data-change]"}, {"/find", "[data-testid=round]"}} {
			took := await[float64](p, fmt.Sprintf(`new Promise((done) => { const begun = performance.now(); history.pushState(null, '', %q); dispatchEvent(new PopStateEvent('popstate')); const look = () => location.pathname === %q && document.querySelector(%q) ? requestAnimationFrame(() => done(performance.now() - begun)) : setTimeout(look, 4); look() })`, s.path, s.path, s.there))
			t.Logf("%s opened in %.0f ms", s.path, took)
		}
	}
}

func TestFiguresOfALargeShop(t *testing.T) {
	long(t)
	s := shoptest.Made(3000, 300, 1)
	plan, err := fit.Run(s, fit.Options{Seed: 1, Iterations: 1})
	require.NoError(t, err)
	s.Homes = plan.Homes
	p := open(t, "/round", shop.Write(s))
	p.wait(`document.querySelectorAll('[data-item]').length > 200`)
	time.Sleep(500 * time.Millisecond)
	// While the round rolls nothing outside of the stage and its tape is touched.
	eval[bool](p, `(() => { window.outside = 0; new MutationObserver((l) => { for (const m of l) { const e = m.target.nodeType === 1 ? m.target : m.target.parentElement; if (!e.closest('[data-testid=stage], [role=slider]')) window.outside++ } }).observe(document.body, { subtree: true, childList: true, attributes: true, characterData: true }); return true })()`)
	frames := p.frames(200, `document.querySelector('[data-testid=round]').parentElement`, `e.scrollLeft = 12 * n`)
	slices.Sort(frames)
	t.Logf("3000 things, %d frames of scrolling: median %.1f ms, 95 of 100 under %.1f ms, longest %.1f ms", len(frames), frames[len(frames)/2], frames[len(frames)*95/100], frames[len(frames)-1])
	outside := eval[int](p, `window.outside`)
	t.Logf("changes of the page outside of stage and tape while it rolled: %d", outside)
	assert.LessOrEqual(t, outside, 12, "walls that come into sight in the key plan, no more")
	// A cell that is typed shows at once; what confirms it is small.
	p.visit("/belongings")
	p.wait(`document.querySelector('[data-row]')`)
	p.focus(`[data-grid]`)
	p.key(kb.ArrowRight)
	p.key("7")
	p.wait(`document.querySelector('[role=gridcell] input')`)
	eval[bool](p, `(performance.clearResourceTimings(), window.begun = performance.now(), window.shown = 0, true)`)
	eval[bool](p, `(() => { const look = () => { if ([...document.querySelectorAll('[data-row]')].some((r) => r.querySelectorAll('[role=gridcell]')[2]?.innerText === '7')) window.shown = performance.now() - window.begun; else setTimeout(look, 2) }; look(); return true })()`)
	p.key(kb.Enter)
	p.wait(`window.shown > 0`)
	at := eval[float64](p, `window.shown`)
	p.revision(2)
	bytes := eval[float64](p, `performance.getEntriesByType('resource').filter((e) => /items$|round\/since|round$/.test(e.name.split('?')[0])).reduce((n, e) => n + e.encodedBodySize, 0)`)
	t.Logf("a cell of 3000 things: shown %.0f ms after Enter, confirmed with %.1f KB", at, bytes/1000)
	assert.Less(t, bytes, 20e3, "what confirms a cell")
}
