package e2e

import (
	"fmt"
	"testing"
	"time"

	"github.com/chromedp/cdproto/emulation"
	"github.com/chromedp/cdproto/input"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"hobrak/demo"
	"hobrak/internal/core/shop"
)

// size of the window, with touch when it is a phone's.
func (p *page) size(w, h int64, phone bool) {
	p.t.Helper()
	call(p, emulation.SetDeviceMetricsOverride, emulation.SetDeviceMetricsOverrideParams{Width: w, Height: h, DeviceScaleFactor: 1, Mobile: phone})
	call(p, emulation.SetTouchEmulationEnabled, emulation.SetTouchEmulationEnabledParams{Enabled: phone, MaxTouchPoints: 2})
	p.wait(fmt.Sprintf(`innerWidth === %d`, w))
}

// onPhone opens a path as a phone shows it.
func onPhone(t *testing.T, path string, data []byte) *page {
	t.Helper()
	p := open(t, path, data)
	p.size(390, 844, true)
	p.visit(path)
	p.wait(shown)
	return p
}

type finger struct{ x, y float64 }

func (p *page) touch(kind input.DispatchTouchEventType, fingers ...finger) {
	p.t.Helper()
	points := []*input.TouchPoint{}
	for i, f := range fingers {
		id := float64(i)
		points = append(points, &input.TouchPoint{X: f.x, Y: f.y, ID: &id})
	}
	call(p, input.DispatchTouchEvent, input.DispatchTouchEventParams{Type: kind, TouchPoints: points})
}

// swipe a finger, quickly.
func (p *page) swipe(from, to finger) {
	p.touch(input.DispatchTouchEventTypeTouchStart, from)
	for i := 1; i <= 10; i++ {
		k := float64(i) / 10
		p.touch(input.DispatchTouchEventTypeTouchMove, finger{from.x + (to.x-from.x)*k, from.y + (to.y-from.y)*k})
	}
	p.touch(input.DispatchTouchEventTypeTouchEnd)
}

// seen is the middle of an element that is in sight.
func (p *page) seen(selector string) finger {
	p.t.Helper()
	p.wait(fmt.Sprintf(`document.querySelector(%q)`, selector))
	eval[bool](p, fmt.Sprintf(`(document.querySelector(%q).scrollIntoView({ block: 'center', inline: 'center' }), true)`, selector))
	// What was swiped may still roll.
	x, y := p.middle(selector)
	for range 40 {
		time.Sleep(50 * time.Millisecond)
		x1, y1 := p.middle(selector)
		if x1 == x && y1 == y {
			break
		}
		x, y = x1, y1
	}
	return finger{x, y}
}

func (p *page) tap(selector string) {
	p.t.Helper()
	f := p.seen(selector)
	p.touch(input.DispatchTouchEventTypeTouchStart, f)
	p.touch(input.DispatchTouchEventTypeTouchEnd)
}

// lift presses long on something until it is held. What still rolls takes the first touch to stop.
func (p *page) lift(selector string) finger {
	p.t.Helper()
	for end := time.Now().Add(patience); time.Now().Before(end); {
		f := p.seen(selector)
		p.touch(input.DispatchTouchEventTypeTouchStart, f)
		for range 40 {
			if eval[bool](p, `document.querySelector('[data-testid=ghost]') !== null`) {
				return f
			}
			time.Sleep(50 * time.Millisecond)
		}
		p.touch(input.DispatchTouchEventTypeTouchEnd)
	}
	p.t.Fatalf("%s is not picked up", selector)
	return finger{}
}

const scrolled = `document.querySelector('[data-testid=round]').parentElement.scrollLeft`

func TestAThumbSwipesTapsAndCarries(t *testing.T) {
	p := onPhone(t, "/round", demo.Slipway)
	// The bar below and what is pressed are large enough for a thumb.
	small := eval[[]string](p, `[...document.querySelectorAll('nav[aria-label=Screens] a, nav[aria-label=Screens] button, main button:not([data-tray])')].filter((b) => b.getBoundingClientRect().width > 0 && b.getBoundingClientRect().height < 24).map((b) => b.outerHTML.slice(0, 120))`)
	assert.Empty(t, small)
	assert.False(t, eval[bool](p, `document.documentElement.scrollWidth > innerWidth`), "nothing is wider than the phone")
	// A swipe pans the wall and selects nothing.
	stage := p.seen("[data-testid=stage]")
	p.swipe(finger{stage.x + 120, stage.y}, finger{stage.x - 120, stage.y})
	p.wait(scrolled + ` > 60`)
	assert.NotContains(t, eval[string](p, `location.search`), "on=")
	// A tap selects; the sheet comes from below and Back goes to what was looked at before.
	p.tap(`[data-place="A1"] > .place`)
	p.wait(`new URLSearchParams(location.search).get('on') === 'place:A1'`)
	p.wait(`document.querySelector('aside[aria-label=Sheet] h2')`)
	bottom := eval[float64](p, `innerHeight - document.querySelector('aside[aria-label=Sheet]').getBoundingClientRect().top`)
	assert.Less(t, bottom, 0.75*844)
	p.tap(`aside[aria-label=Sheet] button[aria-label^="Close"]`)
	p.wait(`!location.search.includes('on=')`)
	// The tray can be swiped along.
	tray := p.seen("[data-testid=tray]")
	p.swipe(finger{tray.x + 130, tray.y}, finger{tray.x - 130, tray.y})
	p.wait(`document.querySelector('[data-testid=tray]').scrollLeft > 60`)
	assert.Empty(t, p.homes("strap-clamp"))
	// A long press picks up; carried over a place it is given that home.
	p.lift(`[data-tray="strap-clamp"]`)
	eval[bool](p, `(document.querySelector('main').scrollTo(0, 0), true)`)
	box := func(place string) finger {
		x, y := p.middle(fmt.Sprintf(`[data-place=%q] > .place`, place))
		return finger{x, y}
	}
	p.look("carry")
	var to finger
	p.until(`document.querySelector('[data-testid=landing][data-allowed="true"]')`, func() {
		to = box("A1")
		to.x = min(max(to.x, 30), 330)
		p.touch(input.DispatchTouchEventTypeTouchMove, finger{to.x - 3, to.y - 3})
		p.touch(input.DispatchTouchEventTypeTouchMove, to)
	})
	p.touch(input.DispatchTouchEventTypeTouchEnd)
	p.revision(2)
	require.Len(t, p.homes("strap-clamp"), 1)
	// A second finger puts it back where it was.
	from := p.lift(`[data-item="strap-clamp"]`)
	p.touch(input.DispatchTouchEventTypeTouchMove, finger{from.x + 30, from.y + 10})
	p.touch(input.DispatchTouchEventTypeTouchStart, finger{from.x + 30, from.y + 10}, finger{40, 200})
	p.wait(`!document.querySelector('[data-testid=ghost]')`)
	p.touch(input.DispatchTouchEventTypeTouchEnd)
	time.Sleep(200 * time.Millisecond)
	_, revision := p.st.Shop()
	assert.EqualValues(t, 2, revision)
	// One wall after the other.
	p.tap(`button[aria-label="Next wall"]`)
	p.wait(`document.querySelector('[aria-label=Wall] b').innerText === 'Wall B'`)
	assert.Equal(t, 1, eval[int](p, `document.querySelectorAll('[data-testid=round] [data-elevation]').length`))
}

func TestThingsAreFoundAndChangedOnThePhone(t *testing.T) {
	p := onPhone(t, "/find", demo.Slipway)
	p.tap(`input[aria-label="Find a thing or a place"]`)
	p.key("block pl")
	p.wait(`document.querySelector('[role=option]')?.innerText.includes('Block plane')`)
	p.axe("finding on a phone")
	p.tap(`[role=option]`)
	p.wait(`document.querySelector('aside[aria-label=Sheet] h2')?.innerText === 'Block plane'`)
	// The list is made of cards; opened, a card can be changed, and what is refused stays with its reason.
	p.visit("/belongings")
	p.tap(`[data-card] button`)
	p.wait(`document.querySelectorAll('[data-card] label input').length > 8`)
	p.axe("a card opened")
	weight := `[...document.querySelectorAll('[data-card] label')].find((l) => l.innerText.startsWith('weight')).querySelector('input')`
	eval[bool](p, `(`+weight+`.focus(), `+weight+`.select(), true)`)
	p.key("heavy\r")
	p.wait(`document.querySelector('[data-card] [role=alert]')`)
	eval[bool](p, `(`+weight+`.select(), true)`)
	p.key("1,5 kg\r")
	p.revision(2)
	id := eval[string](p, `document.querySelector('[data-card] label').closest('[data-card]').dataset.card`)
	assert.InDelta(t, 1.5, shop.NewIndex(p.shop()).Item(id).KG.KG(), 1e-9, "with a decimal comma")
}

// Every screen and dialog, in both lights, at the widths of a phone, of a small tablet, of a window and of one at 200 %.
func TestEveryScreenIsAccessibleAndFitsAtEveryWidth(t *testing.T) {
	p := open(t, "/round", demo.Slipway)
	// The first of each is opened so, the others become of it as a window that is made narrower.
	sizes := [][]struct {
		name  string
		w, h  int64
		phone bool
	}{
		{{"a window", 1280, 800, false}, {"a small tablet", 768, 1024, true}, {"200 %", 640, 400, false}},
		{{"a phone", 390, 844, true}},
	}
	screens := []string{"/survey", "/floor", "/facts", "/belongings", "/places?on=item:jack-plane", "/round?on=place:B1", "/round?lens=free", "/fit", "/find", "/history", "/ticks", "/first", "/begin", "/out", "/labels", "/look"}
	for i, from := range sizes {
		for k, screen := range screens {
			lamp := []string{"on", "off"}[(i+k)%2]
			eval[bool](p, fmt.Sprintf(`(localStorage.setItem('lamp', '"%s"'), true)`, lamp))
			p.size(from[0].w, from[0].h, from[0].phone)
			p.visit(screen)
			p.wait(shown + ` || document.querySelector('[data-change], ol[aria-label=Changes], [role=region][aria-label=Out], [role=region][aria-label=Labels], [role=region][aria-label="Look round"] h3') !== null`)
			where := fmt.Sprintf("%s at %s, lamp %s", screen, from[0].name, lamp)
			p.axe(where)
			assert.NotEqual(t, "Hobrak", eval[string](p, `document.title`), where)
			// The other light changes contrast alone.
			eval[bool](p, `(() => { const d = document.documentElement.dataset; if (d.lamp) delete d.lamp; else d.lamp = 'off'; return true })()`)
			p.contrast(where + ", turned")
			for _, size := range from {
				p.size(size.w, size.h, size.phone)
				p.wait(fmt.Sprintf(`innerWidth === %d`, size.w))
				await[bool](p, `new Promise((done) => requestAnimationFrame(() => requestAnimationFrame(() => done(true))))`)
				assert.False(t, eval[bool](p, `document.documentElement.scrollWidth > innerWidth + 1`), "%s at %s is wider than its window", screen, size.name)
			}
		}
	}
	for _, open := range []struct{ key, title string }{{"?", "Keys"}, {"p", "Print or save a picture"}} {
		p.visit("/round")
		p.wait(shown)
		p.key(open.key)
		p.wait(fmt.Sprintf(`[...document.querySelectorAll('[role=dialog] h2')].some((h) => h.innerText === %q)`, open.title))
		p.axe(open.title)
	}
}
