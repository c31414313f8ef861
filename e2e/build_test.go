package e2e

import (
	"fmt"
	"net/http"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"hobrak/demo"
	"hobrak/internal/core/build"
	"hobrak/internal/core/shop"
)

// Storage is made as one chooses, its parts are cut, its drawings printed, and how it is fixed is kept.
func TestACabinetIsDrawnCutAndFixed(t *testing.T) {
	p := opened(t, "/build", demo.Slipway, `document.querySelector('[data-testid=build] li button')`)
	name := shop.NewIndex(p.shop()).Name("K4")
	eval[bool](p, `([...document.querySelectorAll('[data-testid=build] li button')].find((b) => b.innerText.includes('`+name+`')).click(), true)`)
	p.wait(`document.querySelector('[data-testid=drawing]')?.naturalWidth > 0`)
	p.choose("Joints", "butt, screwed")
	p.choose("Back", "on the back")
	p.wait(`document.querySelector('[data-testid=drawing]')?.src.includes('joint=screws')`)
	p.axe("build")
	u, err := build.Of(p.shop(), "K4", build.Choices{Joint: "screws", Back: "on"})
	require.NoError(t, err)
	for _, form := range []string{"pdf", "dxf"} {
		at := eval[string](p, `[...document.querySelectorAll('[data-testid=build] a')].find((a) => a.innerText.endsWith('`+map[string]string{"pdf": "PDF", "dxf": "DXF"}[form]+`')).href`)
		resp, err := http.Get(at)
		require.NoError(t, err)
		resp.Body.Close()
		assert.Equal(t, 200, resp.StatusCode, at)
	}
	p.button("On the wall")
	p.wait(`document.querySelectorAll('[data-testid=on-wall] tbody tr').length === 2`)
	p.button("Parts")
	assert.Equal(t, len(u.CutList()), eval[int](p, `document.querySelectorAll('[data-testid=parts] tbody tr').length`))

	// What is fixed is kept with it.
	eval[bool](p, `([...document.querySelectorAll('label')].find((l) => l.innerText.includes('screws into studs')).querySelector('input').setAttribute('data-screws', ''), true)`)
	p.typed("[data-screws]", "6")
	p.button("Keep how it is fixed")
	require.Eventually(t, func() bool { f := shop.NewIndex(p.shop()).Container("K4").Fixing; return f != nil && f.Screws == 6 }, patience, 50*time.Millisecond)
	p.current()

	// Its parts are cut from what may be bought.
	p.button("Work out how they are cut")
	p.wait(`location.pathname === '/wood' && document.querySelectorAll('textarea')[1]?.value.includes('side')`)
	require.Eventually(t, func() bool { return len(p.shop().Settings.CutLists) == 3 }, patience, 50*time.Millisecond)
	p.current()
	p.paragraph(2, "plywood 2440x1220x18 at 50\nplywood 2440x1220x6 at 20")
	p.button("Work out the cuts")
	p.wait(`document.querySelectorAll('[data-testid=ways] tbody tr').length === 4`)
	p.wait(`!document.querySelector('[data-testid=cuts]').innerText.includes('No stock')`)
	p.button("fewest cuts")
	p.wait(`[...document.querySelectorAll('[data-testid=ways] button')].find((b) => b.innerText === 'fewest cuts').ariaPressed === 'true'`)
	p.axe("ways to cut")
}

// Furniture that was found is measured in, shown what it holds, and put where it goes; a cabinet taken apart comes back as wood.
func TestFoundFurnitureIsJudgedAndOldTakenApart(t *testing.T) {
	p := opened(t, "/build", demo.Slipway, `document.querySelector('[data-testid=found] input')`)
	for i, text := range []string{"old chest", "240", "700", "240", "", "", "200, 200, 180"} {
		if text != "" {
			eval[bool](p, fmt.Sprintf(`(document.querySelectorAll('[data-testid=found] input')[%d].setAttribute('data-found', '%d'), true)`, i, i))
			p.typed(fmt.Sprintf("[data-found=\"%d\"]", i), text)
		}
	}
	p.button("What is it good for?")
	p.wait(`document.querySelector('[data-testid=found-ways] li')?.innerText.includes('go in')`)
	p.axe("found furniture")
	before := len(p.shop().Containers)
	p.wait(`[...document.querySelectorAll('[data-testid=found-ways] button')].some((b) => b.innerText === 'Put it there')`)
	p.button("Put it there")
	require.Eventually(t, func() bool { return len(p.shop().Containers) == before+1 }, patience, 50*time.Millisecond)
	chest := p.shop().Containers[before]
	assert.Equal(t, "old chest", chest.Name)
	p.current()

	p.wait(`[...document.querySelectorAll('[data-testid=build] li button')].some((b) => b.innerText.includes('old chest'))`)
	eval[bool](p, `([...document.querySelectorAll('[data-testid=build] li button')].find((b) => b.innerText.includes('old chest')).click(), true)`)
	p.until(`document.querySelector('[data-testid=apart] li')`, func() {
		eval[bool](p, `([...document.querySelectorAll('button')].find((b) => b.innerText === 'What would it give?')?.click(), true)`)
	})
	p.button("It is taken apart: pieces into stock")
	require.Eventually(t, func() bool {
		s := p.shop()
		salvaged := false
		for _, it := range s.Items {
			salvaged = salvaged || it.Wood != nil && it.Wood.Salvaged
		}
		return salvaged && shop.NewIndex(s).Container(chest.ID) == nil
	}, patience, 50*time.Millisecond)
}

// A thing whose outline is known is drawn by it, and a board lays its things closer by their outlines.
func TestThingsAreLaidByTheirOutlines(t *testing.T) {
	s, err := shop.Read(demo.Slipway)
	require.NoError(t, err)
	for i := range s.Items {
		it := &s.Items[i]
		it.Outline = []shop.Point{{0, 0}, {it.W, 0}, {it.W, it.H / 3}, {it.W / 3, it.H / 3}, {it.W / 3, it.H}, {0, it.H}}
	}
	p := opened(t, "/round", shop.Write(s), `document.querySelector('[data-place="A1"]')`)
	p.click(`[data-place="A1"] > .place`)
	p.look("outlines")
	p.button("How many go in so?")
	p.wait(`document.querySelector('[data-testid=closely]')?.innerText.includes('instead of')`)
	p.axe("laid by outlines")
	p.button("Lay them so")
	require.Eventually(t, func() bool { return shop.NewIndex(p.shop()).Place("A1").Dense }, patience, 50*time.Millisecond)
}
