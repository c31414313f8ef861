package e2e

import (
	"encoding/json"
	"fmt"
	"testing"

	"github.com/chromedp/chromedp/kb"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"hobrak/demo"
)

// Every key of the help does what it says; one that is added to the help fails here until it is tried.
func TestEveryKeyOfTheHelpDoesWhatItSays(t *testing.T) {
	p := open(t, "/round?on=item:jack-plane", demo.Slipway)
	p.wait(`document.querySelector('aside h2')?.innerText === 'Jack plane'`)
	letter := func(key string) func() { return func() { p.key(key) } }
	// With Ctrl as an event: the browser has some of them for itself.
	held := func(key string, shift bool) func() {
		return func() {
			eval[bool](p, fmt.Sprintf(`(document.body.dispatchEvent(new KeyboardEvent('keydown', { key: %q, ctrlKey: true, shiftKey: %v, bubbles: true, cancelable: true })), true)`, key, shift))
		}
	}
	dialog := func(title string) string {
		return fmt.Sprintf(`document.querySelector('[role=dialog]')?.innerText.includes(%q)`, title)
	}
	away := func() {
		p.key(kb.Escape)
		p.wait(`!document.querySelector('[role=dialog]')`)
	}
	at := func(revision int64) string {
		return fmt.Sprintf(`document.querySelector('[data-testid=revision]').dataset.revision === '%d'`, revision)
	}
	inRound := func(wall string) string {
		return fmt.Sprintf(`document.querySelector('[role=slider]').getAttribute('aria-valuetext').endsWith(%q)`, wall)
	}
	select1 := func() {
		p.visit("/round?on=item:jack-plane")
		p.wait(`document.querySelector('[data-testid=mark]')`)
	}
	lens := func(name string) string {
		return fmt.Sprintf(`document.querySelector('dl[aria-label="Lens %s"]')`, name)
	}
	studs := `[...document.querySelectorAll('[aria-label=Stage] button')].some((b) => b.innerText === 'Studs' && b.dataset.state === 'on')`
	type check struct {
		press func()
		holds string
		then  func()
	}
	again := func(key string, gone string) func() {
		return func() { p.key(key); p.wait("!(" + gone + ")") }
	}
	checks := map[string]check{
		"Find a thing or a place":                         {letter("/"), `document.activeElement?.getAttribute('aria-label') === 'Find a thing or a place'`, func() { eval[bool](p, `(document.activeElement.blur(), true)`) }},
		"Find anything: things, walls, screens, commands": {held("k", false), `document.activeElement?.getAttribute('aria-label') === 'Find anything'`, away},
		"Next wall":               {letter("]"), inRound("B"), nil},
		"Previous wall":           {letter("["), inRound("A"), nil},
		"Lens: order":             {letter("1"), lens("Order"), again("1", lens("Order"))},
		"Lens: uses":              {letter("2"), lens("Uses"), again("2", lens("Uses"))},
		"Lens: free":              {letter("3"), lens("Free"), again("3", lens("Free"))},
		"Lens: load":              {letter("4"), lens("Load"), again("4", lens("Load"))},
		"Lens: fill":              {letter("5"), lens("Fill"), again("5", lens("Fill"))},
		"Lens: supply":            {letter("6"), lens("Supply"), again("6", lens("Supply"))},
		"Show studs":              {letter("s"), studs, again("s", studs)},
		"Print or save a picture": {letter("p"), dialog("Print or save a picture"), away},
		"Lamp off (dark)":         {letter("l"), `document.documentElement.dataset.lamp === 'off'`, again("l", `document.documentElement.dataset.lamp === 'off'`)},
		"Keys":                    {letter("?"), dialog("Single-letter keys"), away},
		"Move what is selected with the arrow keys; Enter puts it down": {letter("m"), `document.querySelector('[data-testid=ghost]')`, func() { p.key(kb.Escape); p.wait(`!document.querySelector('[data-testid=ghost]')`) }},
		"Clear the selected thing's home":                               {letter(kb.Delete), at(2), nil},
		"Undo":                                                          {letter("u"), at(3), nil},
		"Redo":                                                          {letter("U"), at(4), nil},
		"Give the selected thing its best free spot": {letter(kb.Enter), at(5), nil},
		"Deselect": {letter(kb.Escape), `!location.search.includes('on=')`, select1},
		"Find better homes": {letter("f"), `location.pathname === '/fit'`, func() {
			p.button("Stop with the best so far")
			p.wait(`document.querySelector('aside h2')?.textContent === 'The plan'`)
		}},
		"Switch between the plan and as it stands": {letter("."), `document.querySelector('[aria-label="What the stage shows"] [data-state=on]')?.innerText === 'As it stands'`, nil},
	}
	order := []string{"Find a thing or a place", "Find anything: things, walls, screens, commands", "Next wall", "Previous wall", "Lens: order", "Lens: uses", "Lens: free", "Lens: load", "Lens: fill", "Lens: supply", "Show studs", "Print or save a picture", "Lamp off (dark)", "Keys", "Deselect", "Move what is selected with the arrow keys; Enter puts it down", "Clear the selected thing's home", "Undo", "Redo", "Give the selected thing its best free spot", "Find better homes", "Switch between the plan and as it stands"}
	// Of the keys that parts of screens look after themselves there are tests of those parts.
	parts := map[string]bool{"In the round and in the tray: from thing to thing, or from place to place": true, "In the round: to the place of a thing, and into a place": true, "In the round: to the next wall": true, "In the survey: on to the next number that is missing": true, "In the list: select the row; with Shift and an arrow, several": true, "In the list: fill down": true}
	p.key("?")
	p.wait(dialog("Single-letter keys"))
	var named []string
	require.NoError(t, json.Unmarshal([]byte(eval[string](p, `JSON.stringify([...document.querySelectorAll('[role=dialog] dd')].map((d) => d.innerText))`)), &named))
	for _, name := range named {
		_, there := checks[name]
		assert.True(t, there || parts[name], "%q is in the help and is not tried", name)
	}
	away()
	for _, name := range order {
		assert.Contains(t, named, name)
		c := checks[name]
		c.press()
		p.wait(c.holds)
		if c.then != nil {
			c.then()
		}
	}
	// The other keys for the same.
	held("z", false)()
	p.wait(at(6))
	held("z", true)()
	p.wait(at(7))
}
