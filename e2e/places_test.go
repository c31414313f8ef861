package e2e

import (
	"fmt"
	"testing"

	"github.com/chromedp/chromedp"
	"github.com/chromedp/chromedp/kb"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"hobrak/demo"
	"hobrak/internal/core/length"
	"hobrak/internal/core/shop"
)

// wish says what a place shall hold and waits for its kinds.
func (p *page) wish(words string, limits map[string]string) {
	p.t.Helper()
	p.focus(`input[aria-label="What it should hold"]`)
	p.key(words)
	p.wait(`document.querySelector('[data-testid=design]')`)
	for name, text := range limits {
		p.focus(fmt.Sprintf(`input[aria-label="%s at most"]`, name))
		p.key(text)
	}
}

// spot asks where it goes and chooses the first that is offered on a wall.
func (p *page) spot(wall string) {
	p.t.Helper()
	p.button("Where does it go?")
	p.wait(`document.querySelector('[aria-label=Spots] button')`)
	find := fmt.Sprintf(`[...document.querySelectorAll('[aria-label=Spots] button')].find((b) => b.querySelector('b').textContent === %q)`, wall)
	p.wait(find)
	eval[bool](p, `(`+find+`.click(), true)`)
	p.wait(`document.querySelector('[data-testid=proposed]')`)
}

func TestAClampRackIsMadeAndHungWhereItIsBest(t *testing.T) {
	p := open(t, "/places", demo.Slipway)
	p.wish("f-clamp", map[string]string{"width": "900"})
	p.wait(`document.querySelector('[data-testid=design] b').textContent === 'Clamp rack'`)
	p.axe("a place in the making")
	before := len(p.shop().Places)
	p.button("Where does it go?")
	p.wait(`document.querySelector('[aria-label=Spots] button')`)
	wall := eval[string](p, `document.querySelector('[aria-label=Spots] button b').textContent`)
	eval[bool](p, `(document.querySelector('[aria-label=Spots] button').click(), true)`)
	p.wait(`document.querySelector('[data-testid=proposed]')`)
	p.axe("spots for a place")
	p.button("Put it there")
	p.revision(2)
	s := p.shop()
	require.Len(t, s.Places, before+1)
	rack := s.Places[before]
	assert.Equal(t, shop.PlaceKind("slots"), rack.Kind)
	assert.Equal(t, wall, rack.ID[:1])
	held := 0
	for _, h := range s.Homes {
		if h.Place == rack.ID {
			held++
		}
	}
	assert.Positive(t, held)
	// Its sheet shows the slots from the front, and it moves with what is in it.
	p.wait(fmt.Sprintf(`document.querySelector('aside[aria-label=Sheet]')?.innerText.includes(%q)`, rack.ID))
	p.wait(`document.querySelectorAll('aside [data-testid=plan-drawing] [data-thing]').length > 0`)
	p.axe("a place opened")
	p.focus(`input[aria-label="Height"]`)
	eval[bool](p, `(document.activeElement.select(), true)`)
	p.key(fmt.Sprintf("%d mm", int(rack.At.Z.MM())+10))
	p.button("Move")
	p.revision(3)
	assert.Equal(t, rack.At.Z+length.MM(10), shop.NewIndex(p.shop()).Place(rack.ID).At.Z)
	// What it may carry is typed in, or refused in words.
	fact := func(label string) string {
		return fmt.Sprintf(`[...document.querySelectorAll('aside[aria-label=Sheet] label')].find((l) => l.textContent.startsWith(%q)).querySelector('input')`, label)
	}
	eval[bool](p, `(`+fact("may carry")+`.focus(), true)`)
	p.key("lots\r")
	p.wait(fact("may carry") + `.getAttribute('aria-invalid') === 'true'`)
	p.key("\b\b\b\b60 kg\r")
	p.revision(4)
	assert.Equal(t, 60.0, shop.NewIndex(p.shop()).Place(rack.ID).Capacity.KG())
	// Taking it away asks first, and the clamps stay.
	p.button("Remove " + rack.ID)
	p.wait(`document.querySelector('[role=alertdialog]')?.innerText.includes('They stay on the list')`)
	p.axe("taking a place away")
	p.button("Remove it")
	p.revision(5)
	assert.Len(t, p.shop().Items, len(s.Items))
	assert.Len(t, p.shop().Places, before)
}

// drywall is a room without studs; the second wall has some.
func drywall(t *testing.T) *shop.Shop {
	s, err := shop.Read(demo.Slipway)
	require.NoError(t, err)
	s.Places, s.Containers, s.Homes, s.Modes = nil, nil, nil, nil
	for i := range s.Areas[0].Walls {
		w := &s.Areas[0].Walls[i]
		w.Claimed, w.Surface, w.Studs = i == 1 || i == 3, "drywall", nil
		if i == 3 {
			w.Studs = &shop.Studs{Spacing: length.MM(600), First: length.MM(300), Width: length.MM(45)}
		}
	}
	return s
}

func TestALumberRackIsNotRatedOnDrywallWithoutStuds(t *testing.T) {
	p := open(t, "/places", shop.Write(drywall(t)))
	p.wish("larch", nil)
	p.wait(`document.querySelector('[data-testid=design] b').textContent === 'Lumber rack'`)
	assert.Contains(t, eval[string](p, `document.querySelector('[data-testid=design]').innerText`), "arms a level")
	p.spot("B")
	says := func() string {
		return eval[string](p, `document.querySelector('[aria-label=Spots] button[aria-pressed=true]').innerText`)
	}
	assert.Contains(t, says(), "0 studs behind it: not rated")
	p.button("back to its kinds")
	p.spot("D")
	assert.NotContains(t, says(), "not rated", "on studs its fixings can be calculated")
	p.button("Put it there")
	p.revision(2)
	assert.Equal(t, shop.PlaceKind("arms"), p.shop().Places[0].Kind)
}

func TestADrawerBankIsLaidOutAndOpened(t *testing.T) {
	s := drywall(t)
	for i := range s.Areas[0].Walls {
		s.Areas[0].Walls[i].Claimed = true
	}
	p := open(t, "/places", shop.Write(s))
	p.wish("gouge", nil)
	eval[bool](p, `([...document.querySelectorAll('button')].find((b) => b.textContent.endsWith('more kinds')).click(), true)`)
	// The rows shift while the answers for the others come in: by name, not by place.
	find := `[...document.querySelectorAll('button')].find((b) => b.textContent.trim() === 'Drawer bank')`
	p.wait(find)
	eval[bool](p, `(`+find+`.click(), true)`)
	p.wait(`document.querySelector('[data-testid=design] b').textContent === 'Drawer bank'`)
	p.wait(`document.querySelectorAll('[data-testid=design] [data-testid=plan-drawing]').length >= 2`)
	p.button("Where does it go?")
	p.wait(`document.querySelector('[aria-label=Spots] button')`)
	assert.Contains(t, eval[string](p, `document.querySelector('[aria-label=Spots]').innerText`), "on the floor")
	eval[bool](p, `(document.querySelector('[aria-label=Spots] button').click(), true)`)
	p.button("Put it there")
	p.revision(2)
	require.Len(t, p.shop().Containers, 1)
	chest := p.shop().Containers[0]
	require.NotNil(t, chest.At.Floor)
	p.wait(`document.querySelector('aside[aria-label=Sheet]')?.innerText.includes('Inside, from above')`)
	assert.Contains(t, eval[string](p, `document.querySelector('aside[aria-label=Sheet]').innerText`), chest.ID+", which it is part of")
	// What cannot be is said at the field, and stays typed.
	p.button("Places")
	eval[bool](p, `(document.activeElement?.blur(), true)`)
	p.key("\x1b")
	p.wish("gouge", map[string]string{"width": "wide"})
	p.wait(`document.querySelector('[data-testid=places] [role=alert]')?.textContent.includes('not a number')`)
	assert.Equal(t, "wide", eval[string](p, `document.querySelector('input[aria-label="width at most"]').value`))
}

func TestACabinetMovesWithItsContents(t *testing.T) {
	p := open(t, "/round?on=place:K1-3", demo.Slipway)
	before := p.shop()
	from := shop.NewIndex(before).Container("K1").At
	p.focus(`input[aria-label="From the left"]`)
	eval[bool](p, `(document.activeElement.select(), true)`)
	p.key("far")
	p.button("Move")
	p.wait(`document.querySelector('aside [role=alert]')?.textContent.includes('not a number')`)
	eval[bool](p, `(document.querySelector('input[aria-label="From the left"]').focus(), document.activeElement.select(), true)`)
	p.key(fmt.Sprintf("%.1f cm", from.Floor[0].MM()/10+1))
	p.button("Move")
	p.revision(2)
	after := p.shop()
	assert.Equal(t, from.Floor[0]+length.MM(10), shop.NewIndex(after).Container("K1").At.Floor[0])
	assert.Equal(t, before.Homes, after.Homes)
	// Whether it can be locked decides what may be kept in it.
	was := shop.NewIndex(after).Container("K1").Lockable
	eval[bool](p, `([...document.querySelectorAll('aside label')].find((l) => l.textContent === 'can be locked').querySelector('[role=checkbox]').click(), true)`)
	p.revision(3)
	assert.Equal(t, !was, shop.NewIndex(p.shop()).Container("K1").Lockable)
}

func TestAPlaceIsDraggedAlongItsWall(t *testing.T) {
	p := open(t, "/round", demo.Slipway)
	p.show("B6")
	scale := eval[float64](p, `Number(document.querySelector('[data-testid=round]').dataset.scale)`)
	corner := func() (x, y float64) {
		box := eval[[]float64](p, `(() => { const r = document.querySelector('[data-place=B6] rect, [data-place=B6] path').getBoundingClientRect(); return [r.left, r.top, r.width, r.height] })()`)
		return box[0] + 4, box[1] + box[3] - 4
	}
	x, y := corner()
	move := func(dx, dy float64) {
		for i := 1; i <= 8; i++ {
			p.mouse(chromedp.MouseMoved, x+dx*float64(i)/8, y+dy*float64(i)/8)
		}
	}
	says := func(what string) {
		p.wait(fmt.Sprintf(`document.querySelector('[data-testid=carried]')?.innerText.includes(%q)`, what))
	}
	from := shop.NewIndex(p.shop()).Place("B6").At

	// Over another place the core says what is in the way, and nothing moves.
	p.mouse(chromedp.MousePressed, x, y)
	move(-900*scale, -100*scale)
	says("B2")
	assert.True(t, eval[bool](p, `document.querySelector('[data-testid=proposed] rect').getAttribute('stroke') === 'var(--red)'`))
	p.key(kb.Escape)
	p.wait(`!document.querySelector('[data-testid=carried]')`)
	p.mouse(chromedp.MouseReleased, x, y)
	assert.Equal(t, from, shop.NewIndex(p.shop()).Place("B6").At)

	// A little to the right it may hang, and its things come along. The round may have rolled meanwhile.
	p.show("B6")
	x, y = corner()
	homes := p.shop().Homes
	p.mouse(chromedp.MousePressed, x, y)
	move(60*scale, 0)
	says("a week here")
	p.mouse(chromedp.MouseReleased, x+60*scale, y)
	p.revision(2)
	to := shop.NewIndex(p.shop()).Place("B6").At
	assert.InDelta(t, 60, (to.X - from.X).MM(), 10)
	assert.Equal(t, homes, p.shop().Homes)
	p.key("u")
	p.revision(3)
	assert.Equal(t, from, shop.NewIndex(p.shop()).Place("B6").At)
}

func TestScrewsAreTypedAndJudged(t *testing.T) {
	p := open(t, "/round?on=place:B2", demo.Slipway)
	p.button("How it is made and fixed")
	revision := int64(1)
	put := func(label, text string) {
		input := fmt.Sprintf(`[...document.querySelectorAll('aside label')].find((l) => l.querySelector('span')?.textContent === %q).querySelector('input')`, label)
		eval[bool](p, `(() => { const i = `+input+`; i.focus(); i.select(); return true })()`)
		p.key(text)
		p.key(kb.Enter)
	}
	put("screws in studs", "lots")
	p.wait(`document.querySelector('aside [role=alert]')?.textContent.includes('whole number')`)
	// Without its rating the screws decide, once all is known of them.
	for _, f := range []struct{ label, text, says string }{{"may carry", " ", "not rated"}, {"screws in studs", "8", "the diameter"}, {"screw thick", "5", "how much thread"}, {"thread in stud", "40", "how thick"}, {"through", "18", "how high"}, {"above its foot", "90 cm", "its fixing may carry"}} {
		put(f.label, f.text)
		revision++
		p.revision(revision)
		p.wait(fmt.Sprintf(`document.querySelector('[aria-label="Notes on it"]').textContent.includes(%q)`, f.says))
	}
	p.wait(`document.querySelector('[aria-label="Notes on it"]').textContent.includes('mode')`)
	assert.Equal(t, &shop.Fixing{Screws: 8, D: length.MM(5), Thread: length.MM(40), Side: length.MM(18), Lever: length.MM(900)}, shop.NewIndex(p.shop()).Place("B2").Fixing)
	p.axe("a place with its fixing")
}
