package e2e

import (
	"context"
	"io"
	"log/slog"
	"net/http"
	"net/http/httptest"
	"path/filepath"
	"testing"

	"github.com/chromedp/chromedp"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"hobrak/demo"
	"hobrak/internal/api"
	"hobrak/internal/core/shop"
	"hobrak/internal/share"
	"hobrak/internal/store"
	"hobrak/web"
)

// A phone is let in with a code from the machine: it finds and takes, does not change the shop, and is shown out.
func TestASecondBrowserIsPaired(t *testing.T) {
	sh, err := shop.Read(demo.Pantry)
	require.NoError(t, err)
	st, err := store.Open(context.Background(), filepath.Join(t.TempDir(), "shop.db"), sh)
	require.NoError(t, err)
	var srv *api.Server
	far := httptest.NewServer(http.HandlerFunc(func(w http.ResponseWriter, r *http.Request) { srv.Handler().ServeHTTP(w, r) }))
	here := httptest.NewServer(http.HandlerFunc(func(w http.ResponseWriter, r *http.Request) {
		srv.Handler().ServeHTTP(w, r.WithContext(api.AtTheMachine(r.Context())))
	}))
	srv = api.New(st, slog.New(slog.NewTextHandler(io.Discard, nil)), web.Files(), api.WithSharing(api.Sharing{Phrase: share.Hash("correct horse battery"), Addresses: []string{far.URL}, Here: true}))
	at := func(url string) *page {
		ctx := browser(t)
		t.Cleanup(func() { _ = chromedp.Cancel(ctx) })
		p := &page{t: t, ctx: ctx, url: url, st: st}
		p.focusable()
		return p
	}
	t.Cleanup(func() { srv.Close(); far.Close(); here.Close(); st.Close() })

	machine := at(here.URL)
	machine.visit("/devices")
	machine.typed(`input[placeholder="as phone in the shop"]`, "Phone by the bench")
	machine.button("Make a code")
	machine.wait(`document.querySelector('[data-testid=pairing] img')?.complete`)
	machine.axe("devices")
	machine.look("devices")
	link := eval[string](machine, `document.querySelector('[data-testid=pairing]').innerText.match(/pair\?code=\S+/)[0]`)

	phone := at(far.URL)
	phone.visit("/find")
	phone.size(390, 844, true)
	phone.visit("/find")
	phone.wait(`document.activeElement?.name === 'phrase'`)
	phone.visit("/" + link)
	phone.wait(`document.querySelector('input[name=name]')?.value === 'Phone by the bench'`)
	phone.look("pairing on a phone")
	phone.button("Come in")
	phone.wait(`document.querySelector('nav[aria-label=Screens]')`)
	phone.visit("/find")
	phone.typed("input[role=combobox]", "blok plane")
	phone.wait(`document.querySelector('[role=option] b')?.textContent === 'Block plane'`)
	phone.wait(`document.querySelector('[data-take]')`)
	assert.GreaterOrEqual(t, eval[float64](phone, `document.querySelector('[role=listbox]').getBoundingClientRect().left`), 0.0, "the answers are on the phone, not beside it")
	phone.look("household on a phone")
	assert.Equal(t, "/find, /out, /places, /round", eval[string](phone, `[...new Set([...document.querySelectorAll('nav[aria-label=Screens] a')].map((a) => a.pathname))].sort().join(', ')`))
	eval[bool](phone, `(document.querySelector('[data-take]').dispatchEvent(new MouseEvent('mousedown', { bubbles: true })), true)`)
	phone.wait(`document.querySelector('[role=option]')?.innerText.includes('out')`)
	list, err := st.Outstanding(context.Background())
	require.NoError(t, err)
	require.Len(t, list, 1)
	assert.Equal(t, "Phone by the bench", list[0].Device)
	assert.Equal(t, 403, eval[int](phone, `(() => { const x = new XMLHttpRequest(); x.open('POST', '/api/v1/undo', false); x.setRequestHeader('Content-Type', 'application/json'); x.send('{}'); return x.status })()`))

	machine.wait(`document.querySelector('[data-testid=devices]')?.innerText.includes('last asked today')`)
	machine.button("Show out")
	machine.wait(`document.body.innerText.includes('None yet.')`)
	phone.visit("/find")
	phone.wait(`document.activeElement?.name === 'phrase'`)
}

// A device that keeps the last answers shows and finds things, and takes them, while the shop's machine is away.
func TestThingsAreFoundWhileTheMachineIsAway(t *testing.T) {
	p := opened(t, "/devices", demo.Pantry, `document.querySelector('[role=switch]')`)
	eval[bool](p, `(document.querySelector('[role=switch]').click(), true)`)
	p.wait(`(navigator.serviceWorker.getRegistrations().then((r) => window.works = r.some((x) => x.active)), window.works)`)
	p.visit("/find")
	p.wait(`document.querySelector('input[role=combobox]')`)
	p.wait(`(caches.open('hobrak answers').then((c) => c.match('/api/v1/round')).then((r) => window.keptRound = !!r), window.keptRound)`)
	p.gone()
	p.visit("/find")
	p.wait(`document.querySelector('input[role=combobox]')`)
	p.typed("input[role=combobox]", "planes block")
	p.wait(`document.querySelector('[role=option] b')?.textContent === 'Block plane'`)
	p.wait(`document.querySelector('[role=option]').innerText.includes('as last known here')`)
	p.look("away")
	eval[bool](p, `(document.querySelector('[data-take]').dispatchEvent(new MouseEvent('mousedown', { bubbles: true })), true)`)
	p.wait(`document.body.innerText.includes('kept here, and sent when')`)
	assert.Equal(t, 1, eval[int](p, `JSON.parse(localStorage.getItem('presses')).waiting.length`))
}
