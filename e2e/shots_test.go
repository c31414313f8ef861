package e2e

import (
	"os"
	"testing"
	"time"

	"github.com/chromedp/chromedp/kb"
	"github.com/stretchr/testify/require"

	"hobrak/demo"
	"hobrak/internal/api"
	"hobrak/internal/core/fit"
	"hobrak/internal/core/review"
	"hobrak/internal/core/round"
	"hobrak/internal/core/shop"
	"hobrak/internal/device"
)

// TestShots refreshes the pictures of docs/screenshots; see make shots.
func TestShots(t *testing.T) {
	if os.Getenv("HOBRAK_SHOTS") == "" {
		t.Skip("no folder for pictures in HOBRAK_SHOTS")
	}
	t.Run("survey", func(t *testing.T) {
		room, err := shop.Read(demo.Slipway)
		require.NoError(t, err)
		s := open(t, "/survey?page=C", demo.Slipway, api.WithMeter(device.NewSimulatedMeter(&room.Areas[0], 3)))
		s.wait(`document.querySelector('[data-testid=will-it-go]')?.textContent.includes('longest that goes')`)
		s.shot("survey")
	})
	t.Run("floor", func(t *testing.T) {
		f := open(t, "/floor", demo.Slipway)
		f.click(`[data-station=bandsaw]`)
		f.wait(`document.querySelector('aside h2')?.innerText === 'Bandsaw'`)
		f.focus(`[data-note=station]`)
		f.key("table saw 800x750x860 wheels 9A wall D")
		f.wait(`document.querySelectorAll('[data-chip]').length === 5`)
		f.shot("floor")
	})
	t.Run("review", func(t *testing.T) {
		f := open(t, "/review", year(t))
		before, err := shop.Read(demo.Slipway)
		require.NoError(t, err)
		now := time.Now().UTC().Truncate(24 * time.Hour)
		p, err := fit.New(demo.Year(before, now))
		require.NoError(t, err)
		e := p.AsItIs()
		was := review.Take(p.Map().Shop, round.Of(e), nil, "", now.AddDate(-1, 0, 0).Format(time.DateOnly), review.Noted{InOrder: e.Orderly()})
		was.Name = "last autumn"
		_, err = f.st.KeepSnapshot(t.Context(), was)
		require.NoError(t, err)
		f.reload()
		f.wait(`document.querySelectorAll('[data-testid=asked] li').length === 10`)
		f.button("Play a thousand months")
		f.wait(`document.querySelector('[data-testid=month]')?.innerText.includes('fetching')`)
		f.shot("review")
	})
	t.Run("begin", func(t *testing.T) {
		y := fresh(t, api.WithExamples(api.Example{ID: "slipway", Says: "a boatbuilder's shop, in millimetres", File: demo.Slipway}, api.Example{ID: "pantry", Says: "a shop in a pantry, in feet and inches", File: demo.Pantry}))
		y.press("Boat shed")
		y.tab(2)
		y.press("5' 6\"")
		y.shot("begin")
	})
	t.Run("ticks", func(t *testing.T) {
		f := open(t, "/ticks", demo.Slipway)
		f.wait(`document.querySelector('[data-kind]')`)
		f.key("3 rasp" + kb.Enter)
		f.wait(`document.getElementById('ticks-say').innerText.includes('rasp')`)
		f.key("pl")
		f.wait(`document.querySelectorAll('[data-kind]').length < 30`)
	})
	t.Run("first", func(t *testing.T) {
		f := open(t, "/first", demo.Slipway)
		f.wait(`document.activeElement?.innerText === 'Make the first plan'`)
		f.key(kb.Enter)
		f.wait(`document.activeElement?.innerText === 'Take it over'`)
	})
	t.Run("belongings", func(t *testing.T) {
		b := open(t, "/belongings", demo.Slipway)
		b.wait(`document.querySelector('[data-row]') && document.activeElement?.getAttribute('aria-label') === 'One thing a line'`)
		b.key("8 f-clamp 600 weekly @assembly 1.2kg hang #rust")
		b.wait(`document.querySelectorAll('[data-chip]').length === 8`)
		b.shot("belongings")
	})
	t.Run("places", func(t *testing.T) {
		m := open(t, "/places", demo.Slipway)
		m.wish("f-clamp", map[string]string{"width": "900"})
		m.wait(`document.querySelector('[data-testid=design] b').textContent === 'Clamp rack'`)
		m.button("Where does it go?")
		m.wait(`document.querySelector('[aria-label=Spots] button')`)
		eval[bool](m, `(document.querySelector('[aria-label=Spots] button').click(), true)`)
		m.wait(`document.querySelector('[data-testid=proposed]')`)
		time.Sleep(time.Second) // the round rolls there
		m.shot("places")
	})
	t.Run("days", func(t *testing.T) {
		l := opened(t, "/labels", demo.Slipway, `document.querySelector('img[alt^="Sheet"]')?.complete`)
		l.shot("labels")
		l.visit("/round?on=item:block-plane")
		l.button("Lend it …")
		l.wait(`document.activeElement?.tagName === 'INPUT'`)
		l.key("the neighbour")
		l.key(kb.Enter)
		l.wait(`document.querySelector('aside').innerText.includes('lent to the neighbour')`)
		l.visit("/round?on=item:jack-plane")
		l.button("Take it")
		l.wait(`document.querySelector('aside').innerText.includes('Put back')`)
		l.size(390, 844, true)
		l.visit("/out")
		l.wait(`document.body.innerText.includes('door locked')`)
		l.shot("out-phone")
		l.visit("/look")
		l.button("Begin to look round")
		l.wait(`document.querySelector('[data-testid=stop]')`)
		l.button("Missing")
		l.wait(`document.querySelector('[data-testid=stop]').innerText.includes('missing')`)
	})
	t.Run("supply", func(t *testing.T) {
		s := opened(t, "/supply", demo.Slipway, `document.querySelector('[data-testid=loads]')`)
		s.shot("supply")
	})
	t.Run("build", func(t *testing.T) {
		b := opened(t, "/build?unit=K2", demo.Slipway, `document.querySelector('[data-testid=drawing]')?.complete`)
		b.shot("build")
		eval[bool](b, `(document.querySelectorAll('[data-testid=build] img')[1].scrollIntoView({ block: 'end' }), true)`)
		b.wait(`document.querySelectorAll('[data-testid=build] img')[1].complete`)
		b.shot("drawing")
	})
	t.Run("wood", func(t *testing.T) {
		w := opened(t, "/wood", demo.Slipway, `document.querySelector('[data-testid=wood]')`)
		w.typed(`input[placeholder^="length"]`, "400x50x14")
		w.button("Look")
		w.wait(`document.querySelector('[data-testid=serves] li')`)
		w.shot("wood")
		w.button("Cut plan")
		w.choose("List", "Hull mould")
		w.wait(`document.querySelectorAll('textarea')[1].value.includes('frames')`)
		w.button("Work out the cuts")
		w.wait(`document.querySelector('[data-testid=cuts] svg')`)
		eval[bool](w, `(document.querySelector('[data-testid=cuts]').scrollIntoView({ block: 'start' }), true)`)
		w.shot("cut-plan")
	})
	t.Run("evenings", func(t *testing.T) {
		e := open(t, "/round", demo.Slipway)
		e.key("f")
		e.wait(`document.querySelector('aside h2')?.textContent === 'The plan'`)
		e.button("Accept the plan")
		e.wait(`document.querySelector('[data-testid=tonight]')`)
		e.shot("evenings")
		e.size(390, 844, true)
		e.wait(`document.querySelector('[data-testid=step]')`)
		e.button("Done")
		e.wait(`document.querySelector('[data-testid=step]').innerText.startsWith('2 of')`)
		e.shot("tonight-phone")
	})
	p := open(t, "/round?lens=free", demo.Slipway)
	p.wait(`document.querySelectorAll('[data-testid=round] [data-free]').length === 4`)
	eval[bool](p, `(document.querySelector('[data-free=A] [data-region]').dispatchEvent(new MouseEvent('click', { bubbles: true })), true)`)
	p.wait(`document.querySelector('[data-testid=chosen-region]')`)
	p.look("free")
	p.key(kb.Escape)
	p.key("3")
	p.wait(`!document.querySelector('[data-free]')`)
	p.key("]")
	p.wait(`document.querySelector('[role=slider]').getAttribute('aria-valuenow') > 4500`)
	p.shot("round")

	p.key("f")
	p.wait(`document.querySelector('aside h2')?.textContent === 'The plan'`)
	eval[bool](p, `([...document.querySelectorAll('aside h3')].find((h) => h.textContent === 'Side by side').scrollIntoView({ block: 'center' }), true)`)
	p.shot("fit")
	p.button("Others")
	p.wait(`[...document.querySelectorAll('aside label')].some((l) => l.textContent.includes('from bare walls'))`)
	eval[bool](p, `([...document.querySelectorAll('aside label')].find((l) => l.textContent.includes('from bare walls')).querySelector('[role=checkbox]').click(), true)`)
	eval[bool](p, `(document.querySelector('[aria-label="Try for"] [role=radio]').click(), true)`)
	for _, style := range []string{"As you work", "On wheels"} {
		eval[bool](p, `([...document.querySelectorAll('aside button')].find((b) => b.textContent.startsWith('`+style+`')).click(), true)`)
		p.wait(`[...document.querySelectorAll('aside h3')].some((h) => h.textContent === 'To build')`)
		p.button("Others")
		p.wait(`document.querySelector('button[aria-label^="Open the plan ` + style + `"] svg')`)
	}
	p.button("All side by side")
	p.wait(`document.querySelectorAll('table[aria-label="Plans side by side"] thead th').length === 5`)
	eval[bool](p, `([...document.querySelectorAll('[aria-label="Wall drawn"] button')].find((b) => b.textContent === 'B').click(), true)`)
	p.shot("plans")
	p.key(kb.Escape)
	p.wait(`!document.querySelector('[role=dialog]')`)
	eval[bool](p, `(document.querySelector('button[aria-label^="Open the plan Homes, all modes"]').click(), true)`)
	p.button("Discard")

	p.key("/")
	p.key("dovtail saw")
	p.wait(`document.querySelector('[role=option]')`)
	p.key("\r")
	p.wait(`document.querySelector('[data-testid=mark]') && document.querySelector('[data-testid=walking-line]')`)
	p.key("/")
	p.wait(`document.querySelector('[role=option]')`)
	p.shot("find")
}
