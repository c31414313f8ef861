package e2e

import (
	"bytes"
	"context"
	"image"
	_ "image/png" // sheets of labels as pictures
	"io"
	"net/http"
	"strconv"
	"strings"
	"testing"

	"github.com/chromedp/chromedp/kb"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"hobrak/demo"
	"hobrak/internal/core/event"
	"hobrak/internal/exchange"
)

// out is what is out by the events of the shop.
func (p *page) outNow() map[string]int {
	p.t.Helper()
	list, err := p.st.Outstanding(context.Background())
	require.NoError(p.t, err)
	out := map[string]int{}
	for _, e := range list {
		out[e.Item] += e.Number()
	}
	return out
}

// typed puts text into a field as if typed.
func (p *page) typed(selector, text string) {
	p.t.Helper()
	p.wait(`document.querySelector('` + selector + `')`)
	eval[bool](p, `((i) => { i.focus(); Object.getOwnPropertyDescriptor(HTMLInputElement.prototype, 'value').set.call(i, `+strconv.Quote(text)+`); i.dispatchEvent(new Event('input', { bubbles: true })); return true })(document.querySelector('`+selector+`'))`)
}

// A thing is found in spite of a slip, taken with one key, another lent; in the evening what was taken is put back, what was lent stays.
func TestADayWithTheShop(t *testing.T) {
	p := open(t, "/round", demo.Slipway)
	p.key("/")
	p.typed("input[role=combobox]", "jakc plnae")
	p.wait(`document.querySelector('[role=option] b')?.textContent === 'Jack plane'`)
	p.key(kb.Enter) // goes there
	p.wait(`location.search.includes('jack-plane')`)
	p.key("/")
	p.typed("input[role=combobox]", "jakc plnae")
	p.wait(`document.querySelector('[role=option] b')?.textContent === 'Jack plane'`)
	eval[bool](p, `(document.querySelector('input[role=combobox]').dispatchEvent(new KeyboardEvent('keydown', { key: 'Enter', shiftKey: true, bubbles: true })), true)`)
	p.wait(`document.querySelector('[role=option]')?.innerText.includes('out')`)
	assert.Equal(t, map[string]int{"jack-plane": 1}, p.outNow())
	p.key(kb.Escape)
	p.visit("/round?on=item:block-plane")
	p.button("Lend it …")
	p.wait(`document.activeElement?.tagName === 'INPUT'`)
	p.key("the neighbour")
	p.key(kb.Enter)
	p.wait(`document.querySelector('aside').innerText.includes('lent to the neighbour')`)
	p.visit("/out")
	p.wait(`document.body.innerText.includes('the neighbour has it')`)
	p.wait(`document.body.innerText.includes('Windows shut, lights off, door locked')`)
	p.axe("out")
	p.look("out")
	p.size(390, 844, true)
	p.wait(`document.body.innerText.includes('Before you leave')`)
	p.look("out on a phone")
	p.button("Put back")
	p.wait(`!document.body.innerText.includes('Jack plane\nsince')`)
	p.until(`!document.querySelector('[aria-label="Out"]').innerText.includes('Jack plane')`, func() {})
	assert.Equal(t, map[string]int{"block-plane": 1}, p.outNow(), "what was lent stays out")
	p.visit("/history?log=1")
	p.wait(`document.querySelector('ol[aria-label^="What happened"]')?.innerText.includes('Block plane lent to the neighbour')`)
	p.look("the log on a phone")
	p.visit("/out")
	p.button("It came back")
	p.wait(`document.body.innerText.includes('Everything is in its home')`)
	assert.Empty(t, p.outNow())
}

// The network goes: ten presses wait on the phone, and when it is back each counts once.
func TestPressesWaitWhileTheShopIsOutOfReach(t *testing.T) {
	p := opened(t, "/look?place=B1", demo.Slipway, `document.querySelector("[data-testid=place-page]")`)
	p.size(390, 844, true)
	p.wait(`document.querySelectorAll('[data-testid=place-page] li').length > 9`)
	eval[bool](p, `(window.real = window.fetch, window.fetch = (r, ...more) => (r.url ?? r).includes('/taps') ? Promise.reject(new TypeError('away')) : window.real(r, ...more), true)`)
	for i := range 10 {
		eval[bool](p, `([...document.querySelectorAll('[data-testid=place-page] li button')].filter((b) => b.textContent === 'Take')[`+strconv.Itoa(i)+`].click(), true)`)
	}
	p.wait(`JSON.parse(localStorage.getItem('presses') ?? '{}').waiting?.length === 10`)
	assert.Empty(t, p.outNow())
	// The first comes through, but its answer is lost: sent again, it counts once.
	eval[bool](p, `(window.lost = 1, window.fetch = async (r, ...more) => { const a = await window.real(r, ...more); if ((r.url ?? r).includes('/taps') && window.lost-- > 0) throw new TypeError('away'); return a }, true)`)
	p.visit("/out")
	p.wait(`JSON.parse(localStorage.getItem('presses') ?? '{}').waiting?.length === 0`)
	n := 0
	for _, k := range p.outNow() {
		n += k
	}
	assert.Equal(t, 10, n)
}

// One wall is looked at: all there at the first place, one missing and one elsewhere at the next; what came of it is said.
func TestAWallIsLookedAt(t *testing.T) {
	p := opened(t, "/look", demo.Slipway, `document.querySelector("[aria-label=\"Look round\"] button")`)
	p.choose("Where to look", "Wall A")
	p.button("Begin to look round")
	p.wait(`document.querySelector('[data-testid=stop]')`)
	p.axe("look round")
	p.look("look round")
	first := eval[string](p, `document.querySelector('[data-testid=stop] .text-blue').innerText`)
	p.button("All of it is there")
	p.wait(`document.querySelector('[data-testid=stop] .text-blue').innerText !== ` + strconv.Quote(first))
	missing := eval[string](p, `document.querySelector('[data-testid=stop] li span').innerText`)
	p.button("Missing")
	p.wait(`document.querySelector('[data-testid=stop]').innerText.includes('missing')`)
	// Left and come back to, it goes on.
	p.visit("/look")
	p.wait(`document.querySelector('h1')?.parentElement?.innerText.includes('places looked at') || document.body.innerText.includes('places looked at')`)
	p.wait(`document.querySelector('[data-testid=stop]')`)
	p.typed("[data-testid=stop] form input", "a strange knife")
	p.key(kb.Enter)
	p.wait(`document.querySelector('[data-testid=stop]').innerText.includes('not on the list: a strange knife')`)
	p.button("End it here")
	p.wait(`document.querySelector('[data-testid=outcome]')`)
	said := eval[string](p, `document.querySelector('[data-testid=outcome]').innerText`)
	assert.Contains(t, said, strings.TrimSpace(strings.Split(missing, "×")[len(strings.Split(missing, "×"))-1])+" is missing")
	assert.Contains(t, said, "a strange knife")
	p.look("looked round")
	list, err := p.st.Events(context.Background(), event.Filter{What: event.Missed}, 0, 10)
	require.NoError(t, err)
	assert.Len(t, list, 1)
}

// A sheet of labels is looked at as it is printed; the codes on a label and on a photograph of it open its place.
func TestLabelsArePrintedAndTheirCodesOpenTheirPlaces(t *testing.T) {
	p := opened(t, "/labels", demo.Slipway, `document.querySelector("[aria-label=Labels]")`)
	p.wait(`document.querySelector('img[alt^="Sheet"]')?.complete`)
	p.axe("labels")
	p.look("labels")
	base := eval[string](p, `location.origin`)
	get := func(path string) []byte {
		resp, err := http.Get(base + path)
		require.NoError(t, err)
		defer resp.Body.Close()
		data, err := io.ReadAll(resp.Body)
		require.NoError(t, err)
		require.Equal(t, 200, resp.StatusCode, "%s", data)
		return data
	}
	assert.Equal(t, "%PDF", string(get("/api/v1/labels/sheet.pdf?stock=3&codes=true&base=" + base)[:4]))
	picture := get("/api/v1/labels/sheet.png?stock=6&codes=true&only=place:B1&base=" + base)
	img, _, err := image.Decode(bytes.NewReader(picture))
	require.NoError(t, err)
	text, err := exchange.ReadCode(img)
	require.NoError(t, err)
	assert.Equal(t, base+"/s/p/B1", text)
	resp, err := http.Post(base+"/api/v1/codes", "image/png", bytes.NewReader(picture))
	require.NoError(t, err)
	said, _ := io.ReadAll(resp.Body)
	resp.Body.Close()
	assert.Contains(t, string(said), `"id":"B1"`)
	p.visit("/s/p/B1")
	p.wait(`document.querySelector('[data-testid=place-page]')?.innerText.includes('B1')`)
	p.visit("/s/p/Z99")
	p.wait(`document.querySelector('[role=alert]')?.innerText.includes('its label is an old one')`)
	p.visit("/labels")
	p.button("They are on their places")
	p.wait(`document.body.innerText.includes('All are as they should be')`)
}
