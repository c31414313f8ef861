package e2e

import (
	"fmt"
	"testing"

	"github.com/chromedp/chromedp/kb"
	"github.com/stretchr/testify/assert"

	"hobrak/demo"
)

// Whatever the server answers, or when it is gone, it is said in words, and nothing typed is lost.
func TestWhateverTheServerAnswersNothingTypedIsLost(t *testing.T) {
	answers := map[string]struct{ stub, says string }{
		"500":        {`Promise.resolve(new Response('<html>oops</html>', { status: 500, headers: { 'Content-Type': 'text/html' } }))`, "Nothing was changed"},
		"409":        {`Promise.resolve(new Response(JSON.stringify({ title: 'Conflict', status: 409, detail: 'There is nothing to do: the shop is like that already.' }), { status: 409, headers: { 'Content-Type': 'application/problem+json' } }))`, "nothing to do"},
		"is gone":    {`Promise.reject(new TypeError('Failed to fetch'))`, "what you typed is kept"},
		"no content": {`Promise.resolve(new Response(null, { status: 502 }))`, "Nothing was changed"},
	}
	for name, a := range answers {
		t.Run(name, func(t *testing.T) {
			p := open(t, "/belongings", demo.Slipway)
			write := func() {
				eval[bool](p, fmt.Sprintf(`(() => { const real = window.fetch; window.fetch = (r, o) => ((r.method ?? o?.method ?? 'GET') === 'GET' ? real(r, o) : %s); window.real = real; return true })()`, a.stub))
			}
			write()
			// A cell: it opens again with what was typed and the reason.
			p.focus(`[data-grid]`)
			p.key(kb.ArrowRight)
			p.key("7")
			p.wait(`document.querySelector('[role=gridcell] input')`)
			p.key(kb.Enter)
			p.wait(fmt.Sprintf(`document.querySelector('[role=gridcell] [role=alert]')?.innerText.includes(%q)`, a.says))
			assert.Equal(t, "7", eval[string](p, `document.querySelector('[role=gridcell] input').value`))
			// With the server back the same stroke goes through.
			eval[bool](p, `(window.fetch = window.real, true)`)
			p.key(kb.Enter)
			p.revision(2)
			// A line: it stays in its field.
			write()
			line := `input[aria-label="One thing a line"]`
			p.focus(line)
			p.key("toothing plane 300")
			p.key(kb.Enter)
			p.wait(fmt.Sprintf(`document.querySelector('#line-read [role=alert]')?.innerText.includes(%q)`, a.says))
			assert.Contains(t, eval[string](p, fmt.Sprintf(`document.querySelector('%s').value`, line)), "toothing plane 300")
			// A drag is answered as well.
			p.visit("/round?on=item:jack-plane")
			p.wait(`document.querySelector('aside h2')?.innerText === 'Jack plane'`)
			write()
			p.button("Clear its home")
			p.wait(fmt.Sprintf(`document.querySelector('[data-sonner-toast]')?.innerText.includes(%q)`, a.says))
			assert.NotEmpty(t, p.homes("jack-plane"))
		})
	}
}

// A browser that keeps nothing, and a screen whose code is gone, are no reason to stop.
func TestABrowserThatKeepsNothingAndAScreenThatIsGone(t *testing.T) {
	p := open(t, "/round", demo.Slipway)
	eval[bool](p, `(Storage.prototype.setItem = () => { throw new DOMException('full', 'QuotaExceededError') }, true)`)
	p.key("l")
	p.wait(`document.documentElement.dataset.lamp === 'off'`)
	p.button("Things")
	p.wait(`document.querySelector('[data-row]')`)
	p.focus(`input[aria-label="Show only"]`)
	p.key("plane")
	p.wait(`document.querySelector('[data-testid=sum]').innerText.startsWith('1') || document.querySelectorAll('[data-row]').length < 20`)
	p.button("Storage")
	p.wait(`document.querySelector('[data-testid=places]')`)
	p.wish("f-clamp", map[string]string{"width": "900"})
	// The shop's own clock is asked, not this machine's.
	eval[bool](p, `(Date.now = () => 0, true)`)
	p.button("The shop")
	p.wait(`document.querySelector('[data-change="1"]')`)
	assert.NotContains(t, eval[string](p, `document.querySelector('main').innerText`), "1970")
}
