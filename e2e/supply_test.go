package e2e

import (
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"hobrak/demo"
	"hobrak/internal/core/shop"
)

// Two machines trip a circuit together; one is plugged in where it is proposed, and the sum is right. Light, cord and paint are said and
// count at once.
func TestThePlanerIsPluggedInWhereItDoesNotTrip(t *testing.T) {
	p := opened(t, "/supply", demo.Slipway, `document.querySelector('[data-testid=loads]')?.innerText.includes('119')`)
	p.axe("supply")
	p.button("Plug it in there")
	require.Eventually(t, func() bool { return shop.NewIndex(p.shop()).Station("planer").Outlet == "D-outlet" }, patience, 50*time.Millisecond)
	p.wait(`!document.querySelector('[data-testid=loads]').innerText.includes('119') && !document.querySelector('[data-testid=mind]').innerText.includes('19 A')`)
	p.current()

	// A machine on the plan is pressed, and its lead measured.
	eval[bool](p, `([...document.querySelectorAll('[data-testid=supply-plan] g')].find((g) => g.querySelector('title')?.textContent.includes('planer')).dispatchEvent(new MouseEvent('click', { bubbles: true })), true)`)
	p.wait(`document.querySelector('[data-testid=machine]')`)
	eval[bool](p, `([...document.querySelectorAll('[data-testid=machine] label')].find((l) => l.innerText.includes('lead laid')).querySelector('input').setAttribute('data-lead', ''), true)`)
	p.typed("[data-lead]", "1 m")
	p.key("\t")
	require.Eventually(t, func() bool { return shop.NewIndex(p.shop()).Station("planer").Lead.MM() == 1000 }, patience, 50*time.Millisecond)
	p.wait(`document.querySelector('[data-testid=mind]').innerText.includes('short of outlet 2 on wall D')`)
	p.current()

	p.button("Light")
	before := eval[string](p, `document.querySelector('[data-testid=lit]').innerText`)
	p.axe("light")
	eval[bool](p, `([...document.querySelectorAll('label')].find((l) => l.innerText.includes('painted pale')).click(), true)`)
	require.Eventually(t, func() bool { return p.shop().Areas[0].Pale }, patience, 50*time.Millisecond)
	p.wait("document.querySelector('[data-testid=lit]').innerText !== `" + before + "`")

	p.button("Extraction")
	p.wait(`document.querySelectorAll('[data-testid=runs] tbody tr').length > 3`)
	p.axe("extraction")
	assert.Contains(t, eval[string](p, `document.querySelector('[data-testid=air]').innerText`), "m³")
}

// A strip is added and the lathe plugged into it; a stop out of reach is said; the extractor that comes is put where it would stand
// better; a wall with a neighbour is heard; and the same is seen through the lenses on the floor and on the round.
func TestSupplyIsSaidAndSeenThroughItsLenses(t *testing.T) {
	p := opened(t, "/supply", demo.Slipway, `document.querySelector('[data-testid=strips]')`)
	open := func(summary string) {
		eval[bool](p, `([...document.querySelectorAll('summary')].find((s) => s.innerText.startsWith('`+summary+`')).click(), true)`)
	}
	field := func(box, label, text string) {
		eval[bool](p, `(document.querySelectorAll('[data-typed]').forEach((e) => e.removeAttribute('data-typed')), [...document.querySelectorAll('`+box+` label')].find((l) => l.innerText.trim().startsWith('`+label+`')).querySelector('input').setAttribute('data-typed', ''), true)`)
		p.typed("[data-typed]", text)
	}
	open("A power strip")
	field("[data-testid=strips]", "called", "Bench strip")
	field("[data-testid=strips]", "lead", "4 m")
	field("[data-testid=strips]", "carries", "4")
	p.button("Add it")
	require.Eventually(t, func() bool { return len(p.shop().Settings.Strips) == 1 }, patience, 50*time.Millisecond)
	p.current()
	p.choose("Bench strip is plugged into", "outlet 2 on wall D")
	require.Eventually(t, func() bool { return p.shop().Settings.Strips[0].Into == "D-outlet" }, patience, 50*time.Millisecond)
	p.current()
	p.choose("Outlet of Small lathe", "Bench strip")
	require.Eventually(t, func() bool { return shop.NewIndex(p.shop()).Station("lathe").Outlet == "strip-1" }, patience, 50*time.Millisecond)
	p.wait(`document.querySelector('[data-testid=strips]').innerText.includes('5.0 A of 4')`)
	p.wait(`document.querySelector('[data-testid=mind]').innerText.includes('on Bench strip, which carries 4 A')`)
	p.current()

	// Batteries: what a session takes.
	open("There is little")
	for label, text := range map[string]string{"batteries": "18 V packs", "how many": "2"} {
		field("[data-testid=supply]", label, text)
	}
	p.typed(`[aria-label=Volts]`, "18")
	p.typed(`[aria-label="Ampere-hours"]`, "5")
	p.button("Add them")
	require.Eventually(t, func() bool { return p.shop().Settings.Stored != nil }, patience, 50*time.Millisecond)
	p.wait(`document.querySelector('[data-testid=budget]').innerText.includes('153 of 180 Wh')`)
	p.current()

	// A stop two metres behind the planer is out of reach.
	eval[bool](p, `([...document.querySelectorAll('[data-testid=supply-plan] g')].find((g) => g.querySelector('title')?.textContent.includes('planer')).dispatchEvent(new MouseEvent('click', { bubbles: true })), true)`)
	p.wait(`document.querySelector('[data-testid=machine]')`)
	open("Its switch")
	field("[data-testid=supply]", "from the left", "100")
	field("[data-testid=supply]", "behind the front", "2 m")
	field("[data-testid=supply]", "up", "900")
	eval[bool](p, `([...document.querySelectorAll('form')].find((f) => f.innerText.includes('behind the front')).querySelector('button[type=submit]').click(), true)`)
	require.Eventually(t, func() bool { return len(shop.NewIndex(p.shop()).Station("planer").Controls) == 1 }, patience, 50*time.Millisecond)
	p.wait(`document.querySelector('[data-testid=mind]').innerText.includes('stop of')`)
	p.current()
	open("Where it would stand best")
	p.wait(`document.querySelector('[data-testid=sites]') || document.body.innerText.includes('Nowhere better is clear')`)

	p.button("Noise")
	p.choose("Beyond wall B", "a neighbour lives beyond it")
	require.Eventually(t, func() bool { a := p.shop().Areas[0]; return a.Walls[a.WallIndex("B")].Beyond == "neighbour" }, patience, 50*time.Millisecond)
	p.wait(`document.querySelector('[data-testid=heard]').innerText.includes('wall B')`)
	p.axe("noise")
	p.button("Pipes and warmth")
	p.wait(`document.querySelector('[data-testid=warmth]')`)
	p.axe("pipes")

	p.visit("/floor")
	p.wait(`document.querySelector('[data-testid=floor-screen]')`)
	eval[bool](p, `([...document.querySelectorAll('[data-testid=floor-screen] button')].find((b) => b.innerText === 'Supply').click(), true)`)
	p.wait(`document.querySelectorAll('[data-lead]').length > 3 && document.querySelector('[data-testid=floor-supply]').innerText.includes('Circuits at their fullest')`)
	p.axe("floor, supply")
	p.visit("/round?lens=supply")
	p.wait(`document.querySelectorAll('[data-outlet]').length > 3`)
	p.axe("round, supply")
}
