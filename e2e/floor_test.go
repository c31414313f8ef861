package e2e

import (
	"fmt"
	"slices"
	"strings"
	"testing"
	"time"

	"github.com/chromedp/chromedp/kb"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"hobrak/demo"
	"hobrak/internal/core/check"
	"hobrak/internal/core/feed"
	"hobrak/internal/core/length"
	"hobrak/internal/core/mode"
	"hobrak/internal/core/shift"
	"hobrak/internal/core/shop"
)

// note types a line about the shop and enters it.
func (p *page) note(about, text string) {
	p.t.Helper()
	p.focus(fmt.Sprintf(`[data-note=%s]`, about))
	p.key(text)
	p.wait(fmt.Sprintf(`document.querySelector('[data-note=%s]').value === %q && document.querySelector('[data-chip]')`, about, text))
	p.key(kb.Enter)
}

func stationOf(s *shop.Shop, id string) shop.Station {
	if st := shop.NewIndex(s).Station(id); st != nil {
		return *st
	}
	return shop.Station{}
}

// current waits until the screen has what was stored last: what is changed on an older one is refused.
func (p *page) current() {
	p.t.Helper()
	_, revision := p.st.Shop()
	p.revision(revision)
}

// From nothing: the room in one line, machines a line each, all by keyboard; then they are moved, turned, sized and removed.
func TestARoomAndItsMachinesAreTypedLineByLine(t *testing.T) {
	p := open(t, "/survey", unsurveyed(length.Metric))
	p.wait(`document.querySelector('[data-note=room]')`)
	// What cannot be is said, and nothing is entered.
	p.note("room", "5 x 4 x 2.4, door A 900x2000 at 3500")
	p.wait(`document.querySelector('[role=alert]')`)
	assert.Contains(t, eval[string](p, `document.querySelector('[role=alert]').innerText`), "reach")
	assert.Equal(t, "5 x 4 x 2.4, door A 900x2000 at 3500", eval[string](p, `document.querySelector('[data-note=room]').value`), "what was typed stays")
	p.focus(`[data-note=room]`)
	p.key(kb.Escape)
	p.note("room", "7.3 x 5 x 2.6, door A 900x2000 at 300, window B 1200x1000 at 2000 up 950, studs 600 from 320")
	p.wait(`!document.querySelector('[data-note=room]')`)
	sh, _ := p.st.Shop()
	a := &sh.Areas[0]
	assert.InDelta(t, 7300, a.Frame(1).Length.MM(), .1)
	assert.Len(t, a.Survey.Measures, 4)

	p.visit("/floor")
	p.wait(`document.querySelector('[data-note=station]')`)
	for i, line := range []string{"table saw 800x750x860 wheels 9A", "bandsaw 600x700 wall D 1.2 from the left", "carving bench 1400x600x860 under the window", "chest freezer"} {
		p.note("station", line)
		p.wait(fmt.Sprintf(`document.querySelectorAll('[data-station]').length === %d`, i+1))
		p.current()
	}
	p.axe("floor")
	p.look("floor")
	sh, _ = p.st.Shop()
	require.NoError(t, sh.Validate())
	found, err := check.Shop(sh)
	require.NoError(t, err)
	assert.False(t, check.Broken(found), "%v", found)
	saw := stationOf(sh, "table-saw")
	assert.Equal(t, [3]length.Length{length.MM(800), length.MM(750), length.MM(860)}, [3]length.Length{saw.W, saw.D, saw.H})
	assert.Equal(t, shop.Rolls, saw.Mobility)
	assert.InDelta(t, 7300-1200-600, stationOf(sh, "bandsaw").X.MM(), 1)

	// By keys: 200 mm along, put down; the core says meanwhile what it would do.
	before := stationOf(sh, "bandsaw")
	p.focus(`[data-station=bandsaw]`)
	p.key(kb.ArrowLeft)
	for range 19 {
		p.key(kb.ArrowLeft)
	}
	p.wait(`/a week/.test(document.querySelector('[data-testid=trial]').innerText)`)
	p.key(kb.Enter)
	require.Eventually(t, func() bool { sh, _ = p.st.Shop(); return stationOf(sh, "bandsaw").X == before.X-200*length.Millimetre }, patience, 50*time.Millisecond)
	p.current()
	// Esc puts it back.
	p.focus(`[data-station=bandsaw]`)
	p.key(kb.ArrowUp)
	p.key(kb.Escape)
	// A size that was assumed is typed: its back stays at the wall.
	p.key(" ")
	p.wait(`document.querySelector('aside h2')?.innerText === 'Bandsaw'`)
	tall := eval[string](p, `[...document.querySelectorAll('aside label')].find((l) => l.innerText.startsWith('overall')).querySelector('input').value`)
	assert.Equal(t, "1800", tall, "assumed")
	eval[bool](p, `([...document.querySelectorAll('aside label')].find((l) => l.innerText.startsWith('deep')).querySelector('input').select(), [...document.querySelectorAll('aside label')].find((l) => l.innerText.startsWith('deep')).querySelector('input').focus(), true)`)
	p.key("650" + kb.Enter)
	require.Eventually(t, func() bool { sh, _ = p.st.Shop(); return stationOf(sh, "bandsaw").D == 650*length.Millimetre }, patience, 50*time.Millisecond)
	p.current()
	assert.InDelta(t, 0, stationOf(sh, "bandsaw").Y.MM(), 1, "its back is at wall D")
	p.button("Wall C")
	require.Eventually(t, func() bool { sh, _ = p.st.Shop(); return stationOf(sh, "bandsaw").X.MM() > 6000 }, patience, 50*time.Millisecond)
	p.current()
	p.button("Remove this station")
	p.wait(`document.querySelector('[role=alertdialog]')`)
	p.button("Remove")
	require.Eventually(t, func() bool { sh, _ = p.st.Shop(); return stationOf(sh, "bandsaw").ID == "" }, patience, 50*time.Millisecond)
}

// Storage that is there already is stated a line each, empty, where it is; what cannot be is said and stays typed.
func TestStorageThatIsThereIsTypedLineByLine(t *testing.T) {
	p := open(t, "/places", unsurveyed(length.Metric))
	p.wait(`document.querySelector('[data-note=place]')`)
	p.note("place", "pegboard 1200x600")
	p.wait(`document.querySelector('aside [role=alert]')`)
	assert.Contains(t, eval[string](p, `document.querySelector('aside [role=alert]').innerText`), "on which wall")
	p.focus(`[data-note=place]`)
	p.key(kb.Escape)
	for i, line := range []string{"shelving 1000x1800x400 4 shelves wall B 0.5", "drawers 700x900x450 5 wall D", "pegboard 1200x600 wall C 0.4", "crate 400x300x280"} {
		p.note("place", line)
		require.Eventually(t, func() bool { sh, _ := p.st.Shop(); return len(sh.Places) == []int{4, 9, 10, 11}[i] }, patience, 50*time.Millisecond, line)
		p.wait(`document.querySelector('[data-note=place]').value === '' && document.querySelectorAll('[data-place]').length >= ` + fmt.Sprint([]int{4, 9, 10, 11}[i]))
		p.current()
	}
	p.axe("storage that is there")
	sh, _ := p.st.Shop()
	assert.Len(t, sh.Containers, 3)
	found, err := check.Shop(sh)
	require.NoError(t, err)
	assert.False(t, check.Broken(found), "%v", found)
}

// What is listed lives where the line says, or where one says one is; what does not fit there is listed all the same and said.
func TestThingsLiveWhereTheLineSays(t *testing.T) {
	p := open(t, "/places", unsurveyed(length.Metric))
	p.wait(`document.querySelector('[data-note=place]')`)
	p.note("place", "drawers 700x900x450 5 wall D")
	p.wait(`document.querySelectorAll('[data-place]').length >= 5`)
	p.visit("/belongings")
	p.focus(`[aria-label="One thing a line"]`)
	p.key("tape measure 80x40x80 daily in K1-2")
	p.wait(`document.querySelector('[data-chip=place]')?.innerText.includes('lives in K1-2')`)
	p.key(kb.Enter)
	home := func(item string) string {
		sh, _ := p.st.Shop()
		for _, h := range sh.Homes {
			if h.Item == item {
				return h.Place
			}
		}
		return ""
	}
	require.Eventually(t, func() bool { return home("tape-measure") == "K1-2" }, patience, 50*time.Millisecond)
	p.choose("I am at", "K1-4")
	p.focus(`[aria-label="One thing a line"]`)
	p.key("3 sanding blocks 120x60x40")
	p.wait(`document.querySelectorAll('[data-chip]').length >= 3`)
	p.key(kb.Enter)
	require.Eventually(t, func() bool { sh, _ := p.st.Shop(); return len(sh.Homes) == 2 && sh.Homes[1].Place == "K1-4" }, patience, 50*time.Millisecond)
	p.wait(`document.querySelector('[aria-label="One thing a line"]').value === ''`)
	p.focus(`[aria-label="One thing a line"]`)
	p.key("kayak 4000x600x400" + kb.Enter)
	p.wait(`document.body.innerText.includes('lies in K1-4 without a spot of its own')`)
	sh, _ := p.st.Shop()
	assert.Len(t, sh.Items, 3)
	require.NoError(t, sh.Validate())
	assert.Equal(t, "K1-4", sh.Items[2].Lies)
	// A line that says only where holds for what follows.
	p.wait(`document.querySelector('[aria-label="One thing a line"]').value === ''`)
	p.key("in drawers 1" + kb.Enter)
	p.wait(`document.querySelector('[aria-label="I am at"]').innerText.startsWith('K1-1')`)
	// A machine one works at goes to the floor.
	p.current()
	p.key("table saw 800x750x860")
	// The button moves along while what is typed is still being read.
	p.wait(`document.querySelector('[data-testid=line-read]').innerText.includes('800')`)
	p.wait(`[...document.querySelectorAll('button')].some((b) => b.innerText === 'Put the table saw on the floor')`)
	p.button("Put the table saw on the floor")
	require.Eventually(t, func() bool { sh, _ := p.st.Shop(); return len(sh.Stations) == 1 && len(sh.Items) == 3 }, patience, 50*time.Millisecond)
}

// What is used at a station that goes is asked about, and a drag on the demo says what it costs and what is in the way.
func TestAStationIsDraggedAndItsThingsAskForAnother(t *testing.T) {
	p := open(t, "/floor", demo.Slipway)
	p.wait(`document.querySelector('[data-station=bandsaw]')`)
	sh, _ := p.st.Shop()
	used := "bandsaw"
	scale := eval[float64](p, `Number(document.querySelector('[data-testid=floor]').dataset.scale)`)
	was := stationOf(sh, used)
	x, y := p.middle(fmt.Sprintf(`[data-station=%q]`, used))
	p.mouse("mousePressed", x, y)
	for k := 1; k <= 10; k++ {
		p.mouse("mouseMoved", x+float64(k)*scale*20, y)
	}
	p.wait(`document.querySelector('[data-testid=trial]').innerText.includes('week') || document.querySelector('[data-testid=trial] b')`)
	p.mouse("mouseReleased", x+scale*200, y)
	require.Eventually(t, func() bool { sh, _ = p.st.Shop(); return stationOf(sh, used).X != was.X }, patience, 50*time.Millisecond)
	assert.InDelta(t, was.X.MM()+200, stationOf(sh, used).X.MM(), 25)
	p.click(fmt.Sprintf(`[data-station=%q]`, used))
	p.wait(`document.querySelector('aside h2')?.innerText === 'Bandsaw'`)
	p.wait(`document.querySelector('[data-testid=takes]')?.innerText.includes('longest piece')`) // it makes the sheet longer
	p.button("Remove this station")
	p.wait(`document.querySelector('[role=alertdialog] [role=combobox]')`)
	p.axe("what is used there")
}

// What a machine takes is said where it stands, in each mode, and what to do for a longer piece.
func TestWhatAMachineTakesIsSaidAndMadeRoomFor(t *testing.T) {
	p := open(t, "/floor", demo.Slipway)
	p.wait(`document.querySelector('[data-station=planer]')`)
	eval[bool](p, `(document.querySelector('[data-station=planer]').focus(), true)`)
	p.key(kb.Enter)
	p.wait(`document.querySelector('[data-testid=takes]')?.innerText.includes('longest piece')`)
	assert.Equal(t, 2, eval[int](p, `document.querySelectorAll('[data-way]').length`), "its way is drawn")
	all, err := feed.Of(p.shop(), "")
	require.NoError(t, err)
	of := all[slices.IndexFunc(all, func(x feed.Taken) bool { return x.Station == "planer" })]
	says := func() string { return eval[string](p, `document.querySelector('[data-testid=takes]').innerText`) }
	figure := func(mm float64) string { // with a thin space before the last three
		text := fmt.Sprintf("%.0f", mm)
		return strings.TrimPrefix(text[:len(text)-3]+"\u2009"+text[len(text)-3:], "\u2009")
	}
	assert.Contains(t, says(), figure(of.Longest)+" mm")
	ask := func(text string) {
		eval[bool](p, `(document.querySelector('[data-testid=takes] input').focus(), document.querySelector('[data-testid=takes] input').select(), true)`)
		p.key(text + kb.Enter)
	}
	ask("300 mm")
	p.wait(`document.querySelector('[data-testid=takes]').innerText.includes('It passes as things stand')`)
	ask("90 m")
	p.wait(`/stands for good|nothing is known/.test(document.querySelector('[data-testid=takes]').innerText)`)
	ask("long")
	p.wait(`document.querySelector('[data-testid=takes] [role=alert]')`)
	p.axe("what a machine takes")
	// In the middle of the room it takes more, or says what stands in its way there.
	p.button("In the middle")
	p.current()
	all, err = feed.Of(p.shop(), "")
	require.NoError(t, err)
	of = all[slices.IndexFunc(all, func(x feed.Taken) bool { return x.Station == "planer" })]
	p.wait(fmt.Sprintf(`document.querySelector('[data-testid=takes]').innerText.includes(%q)`, figure(of.Longest)+" mm"))
}

// A room that lives twice: how it stands is kept, in that arrangement things are moved and put away, and the way from one to
// the other is a list to tick.
func TestAnArrangementIsKeptAndChangedOver(t *testing.T) {
	p := open(t, "/floor", demo.Slipway)
	p.wait(`document.querySelector('[data-mode=evening]')`)
	modes := len(p.shop().Modes)
	p.focus(`[aria-label="Name of this arrangement"]`)
	p.key("Bench day" + kb.Enter)
	p.wait(`document.querySelector('[data-mode=bench-day]')`)
	p.current()
	kept := p.shop().Modes[modes]
	assert.Contains(t, kept.Spots, "planer", "what rolls has its spot")
	// One of that name there is already: it is said, and what was typed stays.
	p.focus(`[aria-label="Name of this arrangement"]`)
	p.key("bench day" + kb.Enter)
	p.wait(`document.body.innerText.includes('already')`)
	assert.Equal(t, "bench day", eval[string](p, `document.querySelector('[aria-label="Name of this arrangement"]').value`))

	// In it the planer goes elsewhere, by keys; as it stands it stays. What it would stand in is said, and kept.
	p.click(`[data-mode=bench-day]`)
	p.wait(`document.querySelector('[data-mode=bench-day]').ariaPressed === 'true'`)
	spot := func() shop.Standing { return p.shop().Modes[modes].Spots["planer"] }
	was, stands := spot(), stationOf(p.shop(), "planer")
	p.focus(`[data-station=planer]`)
	for range 12 {
		p.key("\u21e7" + kb.ArrowUp)
	}
	p.key(kb.Enter)
	require.Eventually(t, func() bool { return spot().Floor[1] > was.Floor[1] }, patience, 50*time.Millisecond)
	p.current()
	assert.Equal(t, stands, stationOf(p.shop(), "planer"))
	// What is fixed stays; what folds can be folded there.
	p.focus(`[data-station=bandsaw]`)
	p.key(" ")
	p.wait(`document.querySelector('aside h2')?.innerText === 'Bandsaw' && document.querySelector('aside').innerText.includes('It is fixed')`)
	p.focus(`[data-station=assembly]`)
	p.key(" ")
	p.wait(`document.querySelector('aside h2')?.innerText === 'Glue-up table'`)
	p.button("folded")
	require.Eventually(t, func() bool { return p.shop().Modes[modes].Spots["assembly"].State == "folded" }, patience, 50*time.Millisecond)
	p.current()
	p.axe("an arrangement")
	// The floor is in it now.
	p.button("It is like this now")
	require.Eventually(t, func() bool { return p.shop().Settings.Mode == "bench-day" }, patience, 50*time.Millisecond)
	p.wait(`document.querySelector('[data-mode=bench-day]').innerText.includes('now')`)

	p.button("Change over")
	p.choose("From", "as it stands")
	p.choose("To", "Skiff in")
	p.wait(`document.querySelectorAll('[data-testid=change-over] ol li').length > 1`)
	plan, err := shift.Between(p.shop(), "", "evening")
	require.NoError(t, err)
	assert.Equal(t, len(plan.Moves), eval[int](p, `document.querySelectorAll('[data-testid=change-over] ol li').length`))
	// Played on the plan, step by step; the boat's way in is drawn.
	for range plan.Moves {
		p.button(eval[string](p, `[...document.querySelectorAll('[data-testid=change-over] button')].map((b) => b.innerText).find((t) => /Play|Next/.test(t))`))
	}
	p.wait(`document.querySelectorAll('[data-testid=played] polygon').length > 5`)
	p.click(`[data-testid=change-over] ol li [role=checkbox]`)
	p.wait(`document.querySelector('[data-testid=change-over] ol li [role=checkbox]').dataset.state === 'checked'`)
	p.axe("a change of arrangement")
	p.current()
	p.button("Remove Bench day")
	p.wait(`!document.querySelector('[data-mode=bench-day]') && document.querySelector('[data-mode=""]').ariaPressed === 'true'`)
	assert.Empty(t, p.shop().Settings.Mode, "what is gone is not how it is now")
}

// The whole room is arranged anew with a station pinned, and room is made for the skiff; both in one step that can be undone.
func TestTheRoomIsArrangedAndRoomIsMade(t *testing.T) {
	p := open(t, "/floor", demo.Slipway)
	p.wait(`document.querySelector('[data-mode=evening]')`)
	p.button("Arrange")
	p.wait(`document.querySelector('[data-testid=arrange]')`)
	eval[bool](p, `([...document.querySelectorAll('[data-testid=arrange] label')].find((l) => l.innerText === 'Main bench').click(), true)`)
	p.button("Look for better arrangements")
	p.wait(`document.querySelector('[data-testid=arrange] table tbody tr button')`)
	p.axe("arrangements")
	assert.Positive(t, eval[int](p, `document.querySelectorAll('[data-proposed]').length`))
	assert.Zero(t, eval[int](p, `document.querySelectorAll('[data-proposed=bench]').length`), "what is pinned stays")
	moved := eval[[]string](p, `[...document.querySelectorAll('[data-proposed]')].map((g) => g.dataset.proposed)`)
	before := p.shop()
	p.button(eval[string](p, `[...document.querySelectorAll('[data-testid=arrange] button')].map((b) => b.innerText).find((t) => t.startsWith('Take it'))`))
	require.Eventually(t, func() bool { return stationOf(p.shop(), moved[0]).Stand != stationOf(before, moved[0]).Stand }, patience, 50*time.Millisecond)
	p.current()
	after := p.shop()
	require.NoError(t, after.Validate())
	assert.Equal(t, stationOf(before, "bench"), stationOf(after, "bench"))
	for _, id := range []string{"", "milling", "gluing", "evening"} {
		l, err := mode.Of(after, id, after.Areas[0].ID)
		require.NoError(t, err)
		assert.False(t, l.Hard(), "%s: %+v", id, l.Breaches)
	}

	// In a new arrangement the skiff has no spot; room is made for it.
	p.focus(`[aria-label="Name of this arrangement"]`)
	p.key("Boat night" + kb.Enter)
	p.wait(`document.querySelector('[data-mode=boat-night]')`)
	p.current()
	p.click(`[data-mode=boat-night]`)
	p.wait(`document.querySelector('[aria-label="What room is made for"]')`)
	p.choose("What room is made for", "Skiff on its trolley")
	p.button("Make room for it in Boat night")
	require.Eventually(t, func() bool {
		m, err := p.shop().Mode("boat-night")
		return err == nil && m.Spots["skiff"].Floor != shop.Point{}
	}, patience, 50*time.Millisecond)
	p.current()
	l, err := mode.Of(p.shop(), "boat-night", after.Areas[0].ID)
	require.NoError(t, err)
	for _, b := range l.Breaches { // where it cannot be had without one, that is said
		if b.Hard {
			p.wait(fmt.Sprintf(`document.body.innerText.includes(%q)`, strings.SplitN(b.Says, ",", 2)[0]))
		}
	}
	p.axe("room is made")
}

// What is made and where its material goes is said on screen, and followed; what annoys, floor and heights are judged.
func TestJobsAreFollowedAndTheFloorIsJudged(t *testing.T) {
	p := open(t, "/floor", demo.Slipway)
	p.wait(`document.querySelector('[data-station=planer]')`)
	p.button("Flow")
	p.wait(`document.querySelector('[data-testid=flow]')?.innerText.includes('a piece of furniture') && document.querySelectorAll('[data-leg]').length > 3`)
	p.focus(`[aria-label="What is made"]`)
	p.key("Oar" + kb.Enter)
	require.Eventually(t, func() bool { return len(p.shop().Settings.Jobs) == 1 }, patience, 50*time.Millisecond)
	p.current()
	for _, stop := range []string{"Bandsaw", "Thickness planer on its cart"} {
		n := len(p.shop().Settings.Jobs[0].Path)
		p.wait(`document.querySelector('[aria-label="Next stop of Oar"]')`)
		p.choose("Next stop of Oar", stop)
		require.Eventually(t, func() bool { return len(p.shop().Settings.Jobs[0].Path) == n+1 }, patience, 50*time.Millisecond)
		p.current()
	}
	path := p.shop().Settings.Jobs[0].Path
	assert.Equal(t, []string{"bandsaw", "planer"}, path[len(path)-2:])
	p.axe("the flow of material")
	p.button("Remove Oar")
	require.Eventually(t, func() bool { return len(p.shop().Settings.Jobs) == 0 }, patience, 50*time.Millisecond)
	p.current()

	p.button("Judge")
	p.wait(`document.querySelector('[data-testid=judge]')?.innerText.includes('What annoys most')`)
	judged := eval[string](p, `document.querySelector('[data-testid=judge]').innerText`)
	assert.Contains(t, judged, "m²·days a use")
	assert.Contains(t, judged, "Working heights")
	p.axe("the floor judged")
	// What is only wished for holds its place.
	p.focus(`[data-station=drum-sander]`)
	p.key(" ")
	p.wait(`document.querySelector('aside h2')?.innerText === 'Drum sander'`)
	eval[bool](p, `([...document.querySelectorAll('aside label')].find((l) => l.innerText.startsWith('wished')).querySelector('input').focus(), true)`)
	p.key("2027-05-31" + kb.Enter)
	require.Eventually(t, func() bool { return stationOf(p.shop(), "drum-sander").Wished == "2027-05-31" }, patience, 50*time.Millisecond)
	p.wait(`document.querySelector('aside').innerText.includes('It is only wished for')`)
}
