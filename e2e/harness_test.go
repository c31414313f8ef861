// Package e2e drives the real interface in headless Chromium against a real
// server on a real database file.
package e2e

import (
	"context"
	"encoding/json"
	"fmt"
	"io"
	"log/slog"
	"net/http/httptest"
	"os"
	"os/exec"
	"path/filepath"
	"strings"
	"sync"
	"testing"
	"time"

	"github.com/chromedp/cdproto/cdp"
	"github.com/chromedp/cdproto/emulation"
	"github.com/chromedp/cdproto/input"
	"github.com/chromedp/chromedp"
	"github.com/chromedp/chromedp/kb"
	"github.com/stretchr/testify/require"

	"hobrak/internal/api"
	"hobrak/internal/core/shop"
	"hobrak/internal/store"
	"hobrak/web"
)

var allocator context.Context

func TestMain(m *testing.M) {
	dir, err := os.MkdirTemp("", "hobrak-e2e-*")
	if err != nil {
		panic(err)
	}
	// Without the background-networking flags the browser looks for hosts that are not there.
	options := []chromedp.ExecAllocatorOption{chromedp.NoSandbox, chromedp.Headless, chromedp.DisableGPU, chromedp.NoFirstRun, chromedp.NoDefaultBrowserCheck, chromedp.UserDataDir(dir), chromedp.WSURLReadTimeout(patience)}
	// The shell without a browser's own windows takes a good part less of the machine.
	if shell, err := exec.LookPath("chromium-headless-shell"); err == nil {
		options = append(options, chromedp.ExecPath(shell), chromedp.Flag("font-render-hinting", "none"))
	}
	for _, flag := range []string{"disable-quic", "disable-background-networking", "disable-component-update", "disable-sync", "disable-dev-shm-usage", "hide-scrollbars"} {
		options = append(options, chromedp.Flag(flag, true))
	}
	ctx, cancel := chromedp.NewExecAllocator(context.Background(), options...)
	allocator = ctx
	code := m.Run()
	cancel()
	os.RemoveAll(dir)
	os.Exit(code)
}

// page is the interface open in a browser, on a shop of its own.
type page struct {
	t   *testing.T
	ctx context.Context
	url string
	st  *store.Store
	// gone ends the server under the page.
	gone func()
}

// running is the one browser all tests share; each has a tab of its own.
var running = sync.OnceValues(func() (context.Context, error) {
	ctx, _ := chromedp.NewContext(allocator)
	return ctx, chromedp.Do(ctx, chromedp.Navigate("about:blank"))
})

// browser opens a tab.
func browser(t *testing.T) context.Context {
	t.Helper()
	root, err := running()
	require.NoError(t, err, "the browser does not start")
	ctx, _ := chromedp.NewContext(root)
	require.NoError(t, chromedp.Do(ctx, chromedp.EmulateViewport(1280, 800)))
	return ctx
}

// shown holds once a screen is there.
const shown = `document.querySelector('[data-testid=round], [data-testid=plan], [data-testid=belongings], [data-testid=floor], [data-testid=facts], [data-testid=ticks], [data-testid=begin], [data-testid=review]') !== null && document.fonts.status === 'loaded'`

// open starts a server with a demo shop and opens a path of it at 1280 × 800.
func open(t *testing.T, path string, data []byte, options ...api.Option) *page {
	t.Helper()
	return opened(t, path, data, shown, options...)
}

// opened is open that waits for something else than a screen.
func opened(t *testing.T, path string, data []byte, until string, options ...api.Option) *page {
	t.Helper()
	if web.Files() == nil {
		t.Fatal("the front end has not been built; run make build")
	}
	sh, err := shop.Read(data)
	require.NoError(t, err)
	st, err := store.Open(context.Background(), filepath.Join(t.TempDir(), "shop.db"), sh)
	require.NoError(t, err)
	srv := api.New(st, slog.New(slog.NewTextHandler(io.Discard, nil)), web.Files(), options...)
	h := httptest.NewServer(srv.Handler())
	ctx := browser(t)
	t.Cleanup(func() {
		_ = chromedp.Cancel(ctx)
		srv.Close()
		h.Close()
		st.Close()
	})
	p := &page{t: t, ctx: ctx, url: h.URL, st: st, gone: func() { srv.Close(); h.CloseClientConnections(); h.Close() }}
	p.focusable()
	p.visit(path)
	p.wait(until)
	return p
}

// visit another address of the same shop.
func (p *page) visit(path string) {
	p.t.Helper()
	require.NoError(p.t, chromedp.Do(p.ctx, chromedp.Navigate(p.url+path)))
}

// reload the page.
func (p *page) reload() {
	p.t.Helper()
	require.NoError(p.t, chromedp.Do(p.ctx, chromedp.Reload()))
	p.wait(shown)
}

// another opens the same file, as another program would.
func another(t *testing.T, path string) *store.Store {
	t.Helper()
	st, err := store.Open(context.Background(), path, nil)
	require.NoError(t, err)
	t.Cleanup(func() { st.Close() })
	return st
}

// patience is how long a page may take: machines are shared, and slow at times.
const patience = 2 * time.Minute

// wait until an expression holds.
func (p *page) wait(expression string) {
	p.t.Helper()
	for end := time.Now().Add(patience); time.Now().Before(end); time.Sleep(25 * time.Millisecond) {
		if ok, err := chromedp.Run(p.ctx, chromedp.Evaluate[bool]("!!("+expression+")")); err == nil && ok {
			return
		}
	}
	text, _ := chromedp.Run(p.ctx, chromedp.Evaluate[string]("document.body.innerText"))
	p.t.Fatalf("waited in vain for %s; the page says:\n%s", expression, text)
}

func eval[T any](p *page, expression string) T {
	p.t.Helper()
	v, err := chromedp.Run(p.ctx, chromedp.Evaluate[T](expression))
	require.NoError(p.t, err, expression)
	return v
}

// await what a promise comes to.
func await[T any](p *page, expression string) T {
	p.t.Helper()
	v, err := chromedp.Run(p.ctx, chromedp.Evaluate[T](expression, chromedp.EvalAwaitPromise))
	require.NoError(p.t, err, expression)
	return v
}

// frames does a step with an element e in each of so many frames, n counting them, and gives the ms between them.
func (p *page) frames(many int, element, step string) []float64 {
	p.t.Helper()
	return await[[]float64](p, fmt.Sprintf(`new Promise((done) => { const e = %s; const all = []; let last = performance.now(); let n = 0; const each = (now) => { all.push(now - last); last = now; %s; if (n++ < %d) requestAnimationFrame(each); else done(all.slice(1)) }; requestAnimationFrame(each) })`, element, step, many))
}

func (p *page) key(keys string) {
	p.t.Helper()
	require.NoError(p.t, chromedp.Do(p.ctx, chromedp.KeyEvent(keys)))
}

// middle of an element on the screen.
func (p *page) middle(selector string) (x, y float64) {
	p.t.Helper()
	at := eval[[]float64](p, fmt.Sprintf(`(() => { const r = document.querySelector(%q).getBoundingClientRect(); return [r.left + r.width / 2, r.top + r.height / 2] })()`, selector))
	return at[0], at[1]
}

func (p *page) click(selector string) {
	p.t.Helper()
	p.wait(fmt.Sprintf(`document.querySelector(%q)`, selector))
	x, y := p.middle(selector)
	for tries := 0; tries < 20; tries++ { // what is still moving would be missed
		time.Sleep(30 * time.Millisecond)
		x2, y2 := p.middle(selector)
		if x2 == x && y2 == y {
			break
		}
		x, y = x2, y2
	}
	require.NoError(p.t, chromedp.Do(p.ctx, chromedp.MouseClickXY(x, y)))
}

// button clicks the button with a text.
func (p *page) button(text string) {
	p.t.Helper()
	find := fmt.Sprintf(`[...document.querySelectorAll('button, a')].find((b) => b.textContent.trim() === %q && !b.disabled)`, text)
	p.wait(find)
	eval[bool](p, `(() => { document.querySelectorAll('[data-wanted]').forEach((b) => b.removeAttribute('data-wanted')); `+find+`.setAttribute('data-wanted', ''); document.querySelector('[data-wanted]').scrollIntoView({ block: 'nearest' }); return true })()`)
	p.click("[data-wanted]")
}

// pick one of the words of a list that opens from a button, given as an expression.
func (p *page) pick(button, word string) {
	p.t.Helper()
	p.wait(button)
	option := fmt.Sprintf(`[...document.querySelectorAll('[role=option]')].find((b) => b.textContent.trim() === %q)`, word)
	eval[bool](p, button+`.focus()||true`)
	p.key(kb.Enter)
	p.wait(option)
	// As an event: a second half of the key would open the list again.
	eval[bool](p, `(() => { const o = `+option+`; o.focus(); o.dispatchEvent(new KeyboardEvent('keydown', { key: 'Enter', bubbles: true, cancelable: true })); return true })()`)
	p.wait(fmt.Sprintf(`%s?.textContent === %q || /^then/.test(%s?.textContent ?? '')`, button, word, button)) // a list that adds shows its first word again
	for tries := 0; tries < 10 && eval[bool](p, `document.querySelector('[role=listbox]') !== null`); tries++ {
		p.key(kb.Escape)
		time.Sleep(200 * time.Millisecond)
	}
}

// choose a word of the list with a label.
func (p *page) choose(label, word string) {
	p.t.Helper()
	p.pick(fmt.Sprintf(`document.querySelector('[role=combobox][aria-label=%q]')`, label), word)
}

// call the browser directly.
func call[P, R any](p *page, command cdp.Command[P, R], params P) {
	p.t.Helper()
	require.NoError(p.t, chromedp.Do(p.ctx, chromedp.Func(func(ctx context.Context, t *chromedp.Target) error {
		_, err := cdp.Call(ctx, t, command, params)
		return err
	})))
}

// focusable has the page get focus events, which one in the background does not.
func (p *page) focusable() {
	p.t.Helper()
	call(p, emulation.SetFocusEmulationEnabled, emulation.SetFocusEmulationEnabledParams{Enabled: true})
}

// mouse moves, presses or releases.
func (p *page) mouse(kind input.DispatchMouseEventType, x, y float64) {
	p.t.Helper()
	params := input.DispatchMouseEventParams{Type: kind, X: x, Y: y, Button: input.MouseButtonLeft}
	if kind == chromedp.MouseMoved {
		params.Buttons = 1
	} else {
		params.ClickCount = 1
	}
	call(p, input.DispatchMouseEvent, params)
}

// drag from one element to a spot of a place, given as shares of its width and
// height from its lower left, and waits for the answer that is expected there;
// look is called before the thing is let go.
func (p *page) drag(from, place string, sx, sz float64, allowed bool, look func()) {
	p.t.Helper()
	p.show(place)
	eval[bool](p, fmt.Sprintf(`(() => { const e = document.querySelector(%q); if (e instanceof HTMLElement) e.scrollIntoView({ inline: 'center' }); return true })()`, from))
	p.grab(from)
	// The stage may still be moving to where the place is: the pointer follows it. The
	// answers for spots on the way may come in first.
	x1, y1 := 0.0, 0.0
	p.until(fmt.Sprintf(`document.querySelector('[data-testid=landing][data-allowed="%v"]')`, allowed), func() {
		box := eval[[]float64](p, fmt.Sprintf(`(() => { const r = document.querySelector('[data-place=%q] rect, [data-place=%q] path').getBoundingClientRect(); return [r.left, r.top, r.width, r.height] })()`, place, place))
		if x, y := box[0]+sx*box[2], box[1]+(1-sz)*box[3]; x != x1 || y != y1 {
			p.mouse(chromedp.MouseMoved, (3*x+x1)/4, (3*y+y1)/4)
			p.mouse(chromedp.MouseMoved, x, y)
			x1, y1 = x, y
		}
	})
	if look != nil {
		look()
	}
	p.mouse(chromedp.MouseReleased, x1, y1)
	p.wait(`!document.querySelector('[data-testid=ghost]')`)
}

// grab presses on a thing and moves until it hangs at the pointer. Nothing may lie over it:
// a message that comes up just then takes the press, and one tries again.
func (p *page) grab(from string) {
	p.t.Helper()
	for tries := 0; tries < 10; tries++ {
		p.wait(fmt.Sprintf(`(() => { const r = document.querySelector(%q).getBoundingClientRect(); return document.elementFromPoint(r.left + r.width / 2, r.top + r.height / 2)?.closest(%q) })()`, from, from))
		x, y := p.middle(from)
		p.mouse(chromedp.MousePressed, x, y)
		p.mouse(chromedp.MouseMoved, x, y-8)
		p.mouse(chromedp.MouseMoved, x, y-16)
		for end := time.Now().Add(5 * time.Second); time.Now().Before(end); time.Sleep(25 * time.Millisecond) {
			if eval[bool](p, `document.querySelector('[data-testid=ghost]') !== null`) {
				return
			}
		}
		p.mouse(chromedp.MouseReleased, x, y-16)
	}
	p.t.Fatalf("%s is not taken by the pointer", from)
}

// until an expression holds something is done again and again.
func (p *page) until(expression string, do func()) {
	p.t.Helper()
	for end := time.Now().Add(patience); time.Now().Before(end); time.Sleep(50 * time.Millisecond) {
		do()
		if eval[bool](p, "!!("+expression+")") {
			return
		}
	}
	p.wait(expression)
}

// show scrolls a place to the middle of the stage.
func (p *page) show(place string) {
	p.t.Helper()
	eval[bool](p, fmt.Sprintf(`(() => { const s = document.querySelector('[data-testid=round]').parentElement; const r = document.querySelector('[data-place=%q]').getBoundingClientRect(); const b = s.getBoundingClientRect(); s.scrollLeft += r.left + r.width / 2 - b.left - b.width / 2; return true })()`, place))
	time.Sleep(80 * time.Millisecond)
}

// shop as the server has it.
func (p *page) shop() *shop.Shop {
	s, _, err := p.st.File(context.Background())
	require.NoError(p.t, err)
	return s
}

func (p *page) homes(item string) []*shop.Home { return shop.NewIndex(p.shop()).Homes(item) }

func (p *page) revision(n int64) {
	p.t.Helper()
	p.wait(fmt.Sprintf(`document.querySelector('[data-testid=revision]').dataset.revision === '%d'`, n))
}

// axe lists serious and critical violations of accessibility on the page as it is.
func (p *page) axe(where string) {
	p.t.Helper()
	p.violations(where, `resultTypes: ['violations']`)
}

// contrast is what axe says of letters alone, which is all that the lamp changes.
func (p *page) contrast(where string) {
	p.t.Helper()
	p.violations(where, `resultTypes: ['violations'], runOnly: ['color-contrast']`)
}

func (p *page) violations(where, options string) {
	p.t.Helper()
	p.wait(`document.getAnimations().every((a) => a.playState !== 'running')`) // what fades in has no contrast yet
	script, err := os.ReadFile("../web/node_modules/axe-core/axe.min.js")
	require.NoError(p.t, err)
	require.NoError(p.t, chromedp.Do(p.ctx, chromedp.Evaluate[chromedp.Void](string(script))))
	found := await[string](p, `axe.run(document, { `+options+` }).then((r) => JSON.stringify(r.violations.filter((v) => ['serious', 'critical'].includes(v.impact)).map((v) => v.id + ': ' + v.nodes.slice(0, 3).map((n) => n.html.slice(0, 160) + ' ' + n.failureSummary).join(' | '))))`)
	var list []string
	require.NoError(p.t, json.Unmarshal([]byte(found), &list))
	require.Empty(p.t, list, "%s:\n%s", where, strings.Join(list, "\n"))
}

// shot writes a picture of the page when pictures are asked for.
func (p *page) shot(name string) { p.picture("HOBRAK_SHOTS", name) }

// look takes a picture that is only looked at, into the folder HOBRAK_LOOK.
func (p *page) look(name string) { p.picture("HOBRAK_LOOK", name) }

func (p *page) picture(folder, name string) {
	p.t.Helper()
	dir := os.Getenv(folder)
	if dir == "" {
		return
	}
	time.Sleep(400 * time.Millisecond) // let what moves come to rest
	png, err := chromedp.Run(p.ctx, chromedp.CaptureScreenshot())
	require.NoError(p.t, err)
	require.NoError(p.t, os.WriteFile(filepath.Join(dir, name+".png"), png, 0o644))
}
