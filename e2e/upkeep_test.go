package e2e

import (
	"strconv"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"hobrak/demo"
	"hobrak/internal/core/shop"
)

// year is the demo with a year of work behind it.
func year(t *testing.T) []byte {
	s, err := shop.Read(demo.Slipway)
	require.NoError(t, err)
	demo.Year(s, time.Now().UTC().Truncate(24*time.Hour))
	return shop.Write(s)
}

// Edges get dull one by one until they are a batch, and are sharpened in one session; something runs low and is on the list, comes, and is
// off it; upkeep is done and put off; a project is begun over the limit and dropped.
func TestWhatIsDueIsDone(t *testing.T) {
	p := opened(t, "/upkeep", year(t), `document.querySelectorAll('[data-testid=due] li').length > 4`)
	p.axe("upkeep")
	dull := func() (n int) {
		for _, it := range p.shop().Items {
			if it.Flagged("dull") {
				n++
			}
		}
		return n
	}
	was := dull()
	require.GreaterOrEqual(t, was, 4)
	var name string
	for _, it := range p.shop().Items { // any other that is not dull yet
		if !it.Flagged("dull") && it.Flagged(shop.Sharp) {
			name = it.Name
		}
	}
	p.typed(`[aria-label="What is dull"]`, name)
	p.button("It is dull")
	require.Eventually(t, func() bool { return dull() == was+1 }, patience, 50*time.Millisecond)
	p.current()
	p.wait(`document.querySelectorAll('[data-testid=dull] [role=checkbox]').length === ` + strconv.Itoa(was+1))
	p.button(strconv.Itoa(was+1) + " are sharp again")
	require.Eventually(t, func() bool { return dull() == 0 }, patience, 50*time.Millisecond)
	p.wait(`!document.querySelector('[data-due=edges]')`)
	p.current()

	// Run low, on the list; it comes, off the list.
	p.wait(`document.querySelector('[data-testid=shopping]').innerText.includes('Sanding blocks')`)
	p.button("18 came")
	require.Eventually(t, func() bool { return shop.NewIndex(p.shop()).Item("sanding-blocks").Stock.Has == 20 }, patience, 50*time.Millisecond)
	p.wait(`!document.querySelector('[data-testid=shopping]').innerText.includes('Sanding blocks')`)
	p.current()

	// Done, and put off with a reason only.
	eval[bool](p, `([...document.querySelectorAll('[data-due=oil-bench] button')].find((b) => b.innerText === 'Done today').click(), true)`)
	p.wait(`!document.querySelector('[data-due=oil-bench]')`)
	p.current()
	eval[bool](p, `([...document.querySelectorAll('[data-due=wheel] button')].find((b) => b.innerText === 'Put it off').click(), true)`)
	p.wait(`[...document.querySelectorAll('[data-due=wheel] button')].find((b) => b.innerText === 'Put off').disabled`)
	eval[bool](p, `([...document.querySelectorAll('[data-due=wheel] label')].find((l) => l.innerText.includes('because')).querySelector('input').setAttribute('data-why', ''), true)`)
	p.typed("[data-why]", "the new tyres are on their way")
	eval[bool](p, `([...document.querySelectorAll('[data-due=wheel] button')].find((b) => b.innerText === 'Put off').click(), true)`)
	p.wait(`!document.querySelector('[data-due=wheel]')`)
	p.current()

	p.visit("/projects")
	p.wait(`document.querySelectorAll('[data-project]').length === 2`)
	p.axe("projects")
	p.typed(`[aria-label="What is made"]`, "A tender")
	p.button("Begin it")
	p.wait(`document.querySelector('[role=alert]')?.innerText.includes('3 are open')`)
	p.current()
	eval[bool](p, `([...document.querySelectorAll('[data-project=oars] button')].find((b) => b.innerText === 'Drop it').click(), true)`)
	require.Eventually(t, func() bool { return p.shop().Settings.Projects[1].State == "dropped" }, patience, 50*time.Millisecond)
	p.wait(`!document.querySelector('[role=alert]')`)
}

// A day is kept, things happen, and the review has them; an aim is written down and judged; a month is played; the shop moves into another
// room and a smaller one.
func TestAYearIsReviewedAndTheNextRoomTried(t *testing.T) {
	p := opened(t, "/review", year(t), `document.body.innerText.includes('Keep how it is today')`)
	p.typed(`[aria-label="What today is called"]`, "before")
	p.button("Keep how it is today")
	p.wait(`document.querySelector('[data-testid=days]')?.innerText.includes('before')`)
	p.wait(`document.querySelectorAll('[data-testid=asked] li').length === 10`)
	// A photo of a wall is kept with the day, and shown small.
	await[bool](p, `(async () => { const c = document.createElement('canvas'); c.width = 400; c.height = 300; c.getContext('2d').fillRect(0, 0, 200, 150); const b = await new Promise((done) => c.toBlob(done, 'image/png')); const dt = new DataTransfer(); dt.items.add(new File([b], 'wall.png', { type: 'image/png' })); const i = document.querySelector('[data-testid=days] input[type=file]'); i.files = dt.files; i.dispatchEvent(new Event('change', { bubbles: true })); return true })()`)
	p.wait(`document.querySelector('[data-testid=days] img')?.naturalWidth > 0`)
	p.axe("review")
	assert.Contains(t, eval[string](p, `document.querySelector('[data-testid=went]').innerText`), "0 came, 0 went, 0 moved")

	// Something goes.
	gone := p.shop().Homes[0].Item
	_, revision := p.st.Shop()
	_, err := p.st.Change(t.Context(), revision, "you", "it goes", func(s *shop.Shop) error {
		var items []shop.Item
		for _, it := range s.Items {
			if it.ID != gone {
				items = append(items, it)
			}
		}
		var homes []shop.Home
		for _, h := range s.Homes {
			if h.Item != gone {
				homes = append(homes, h)
			}
		}
		s.Items, s.Homes, s.Kits = items, homes, nil
		return nil
	})
	require.NoError(t, err)
	p.current()
	p.wait(`document.querySelector('[data-testid=went]').innerText.includes('0 came, 1 went, 0 moved')`)

	p.typed(`[aria-label="What is aimed at"]`, "Nothing without a home")
	p.choose("What it is measured by", "things without a home")
	p.button("Aim at it")
	p.wait(`document.querySelector('[data-testid=aims]').innerText.includes('Nothing without a home')`)
	p.current()
	p.button("Play a thousand months")
	p.wait(`document.querySelector('[data-testid=month]')?.innerText.includes('fetching')`)

	p.typed(`[aria-label="The next room in a line"]`, "a shed")
	p.button("Move in")
	p.wait(`document.querySelector('[role=alert]')`)
	p.typed(`[aria-label="The next room in a line"]`, "12 x 9 x 3, door A 900x2000 at 500")
	p.button("Move in")
	p.wait(`document.querySelector('[data-testid=next-room]')?.innerText.includes('have a spot there')`)
	large := eval[string](p, `document.querySelector('[data-testid=next-room]').innerText`)
	p.typed(`[aria-label="The next room in a line"]`, "3 x 2.4 x 2.3, door A 800x2000 at 300")
	p.button("Move in")
	p.wait("document.querySelector('[data-testid=next-room]').innerText !== `" + large + "`")
	p.axe("the next room")
}
