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

	"hobrak/internal/core/length"
	"hobrak/internal/core/shop"
)

// A keystroke-level model of somebody at the keyboard (Card, Moran, Newell 1980), in seconds.
const (
	keystroke = .28
	pointing  = 1.1
	homing    = .4
	thinking  = 1.35 // mental preparation before each decision
)

// typist enters a room by keyboard alone and counts what that takes.
type typist struct {
	*page
	keys, thinks int
	ticked, said []int // keys for each thing: by tick list, as a line
	placed       []placed
	here         string
}

// placed is what the sheet says lives somewhere.
type placed struct {
	name, place string
	count       int
}

// press types keys; a decision comes before them.
func (y *typist) press(keys string) {
	y.t.Helper()
	y.thinks++
	y.keys += len([]rune(keys))
	y.key(keys)
}

func (y *typist) minutes() float64 {
	return (float64(y.keys)*keystroke + float64(y.thinks)*thinking) / 60
}

// tab goes on n fields; nobody thinks about that.
func (y *typist) tab(n int) {
	y.t.Helper()
	y.keys += n
	y.key(strings.Repeat(kb.Tab, n))
}

// to opens a screen by the palette.
func (y *typist) to(screen, path string) {
	y.t.Helper()
	eval[bool](y.page, `(document.body.dispatchEvent(new KeyboardEvent('keydown', { key: 'k', ctrlKey: true, bubbles: true, cancelable: true })), true)`)
	y.keys += 2
	y.wait(`document.querySelector('[cmdk-input]') === document.activeElement`)
	y.press(screen)
	y.wait(fmt.Sprintf(`(document.querySelector('[cmdk-item][data-selected=true]')?.innerText ?? '').toLowerCase().includes(%q)`, strings.ToLower(screen)))
	y.press(kb.Enter)
	y.thinks--
	y.wait(fmt.Sprintf(`location.pathname === %q`, path))
}

// line types a line about the room, a station or storage, which must be understood.
func (y *typist) line(about, text string) {
	y.t.Helper()
	y.wait(fmt.Sprintf(`document.activeElement?.dataset.note === %q && document.activeElement.value === ''`, about))
	y.current()
	y.press(text)
	// Read as it is now: chips of all of it, none of them unknown.
	y.wait(fmt.Sprintf(`document.activeElement.value === %q && document.querySelector('[data-chip]')`, text))
	_, before := y.st.Shop()
	y.press(kb.Enter)
	y.thinks--
	y.wait(fmt.Sprintf(`(document.querySelector('[data-note=%s]')?.value ?? '') === '' || document.querySelector('[role=alert]')`, about))
	if said := eval[string](y.page, `document.querySelector('[data-note]') ? (document.querySelector('[data-note]').closest('div').querySelector('[role=alert]')?.innerText ?? '') : ''`); said != "" {
		require.Fail(y.t, "refused", "%s: %s", text, said)
	}
	_, after := y.st.Shop()
	require.Greater(y.t, after, before, text)
}

// at goes to where the next things are.
func (y *typist) at(where, place string) {
	y.t.Helper()
	y.enter(where)
	y.here = place
	if place == "" {
		return
	}
	require.Eventually(y.t, func() bool {
		return eval[bool](y.page, fmt.Sprintf(`(document.querySelector('[aria-label="I am at"]')?.innerText ?? '').startsWith(%q) || %q.startsWith('floor')`, place, place))
	}, patience, 20*time.Millisecond, "I am at %s", place)
	if wall, floor := strings.CutPrefix(place, "floor "); floor {
		for _, p := range y.shop().Places {
			if p.Kind == "floor" && strings.HasSuffix(p.Name, wall) {
				y.here = p.ID
			}
		}
	}
}

// enter types into the tick list and waits until it is taken.
func (y *typist) enter(text string) int {
	y.t.Helper()
	y.wait(`document.activeElement?.getAttribute('aria-label') === 'What is there' && document.activeElement.value === '' && !document.querySelector('[data-testid=ticks][aria-busy=true]')`)
	y.current()
	y.press(text)
	y.press(kb.Enter)
	y.thinks--
	y.wait(`document.activeElement.value === '' || document.querySelector('[data-testid=ticks] [role=alert]')`)
	if eval[bool](y.page, `document.querySelector('[data-testid=ticks] [role=alert]') !== null`) {
		require.Fail(y.t, "refused", "%s: %s", text, eval[string](y.page, `document.querySelector('[data-testid=ticks] [role=alert]').innerText`))
	}
	return len([]rune(text)) + 1
}

// tick takes a thing off the list; it must be the one that is meant.
func (y *typist) tick(text string, count int, name string) {
	y.t.Helper()
	y.ticked = append(y.ticked, y.enter(text))
	said := eval[string](y.page, `document.getElementById('ticks-say').innerText`)
	assert.Contains(y.t, said, fmt.Sprintf("%d × %s", count, name), text)
	y.placed = append(y.placed, placed{name, y.here, count})
}

// say lists a thing as a line.
func (y *typist) say(text string, count int, name string) {
	y.t.Helper()
	_, before := y.st.Shop()
	y.said = append(y.said, y.enter(text))
	require.Eventually(y.t, func() bool { _, now := y.st.Shop(); return now > before }, patience, 10*time.Millisecond, text)
	y.placed = append(y.placed, placed{name, y.here, count})
}

// keep puts what is ticked on the list.
func (y *typist) keep() {
	y.t.Helper()
	y.press(kb.Enter)
	y.wait(`document.querySelector('[data-testid=ticks] button.ml-auto').innerText === 'Nothing ticked yet'`)
	y.current()
}

// rightly is the share of what the sheet places that is where the sheet says, and what is not.
func (y *typist) rightly() (share float64, wrong []string) {
	s := y.shop()
	ix := shop.NewIndex(s)
	of, right := 0, 0
	for _, w := range y.placed {
		if w.place == "" {
			continue
		}
		of++
		found := slices.ContainsFunc(s.Items, func(it shop.Item) bool {
			if !strings.EqualFold(it.Name, w.name) && it.Kind != strings.ReplaceAll(w.name, " ", "-") || it.Number() != w.count {
				return false
			}
			return it.Lies == w.place || slices.ContainsFunc(ix.Homes(it.ID), func(h *shop.Home) bool { return h.Place == w.place })
		})
		if found {
			right++
		} else {
			wrong = append(wrong, fmt.Sprintf("%d %s in %s", w.count, w.name, w.place))
		}
	}
	return float64(right) / float64(max(of, 1)), wrong
}

func median(of []int) int {
	if len(of) == 0 {
		return 0
	}
	of = slices.Sorted(slices.Values(of))
	return of[len(of)/2]
}

// toggle goes to the next choice of a few and takes it.
func (y *typist) toggle(arrow, choice string) {
	y.t.Helper()
	y.press(arrow)
	y.wait(fmt.Sprintf(`document.activeElement.innerText === %q && document.activeElement.tabIndex === 0`, choice))
	y.press(" ")
	y.thinks--
	y.wait(`document.activeElement.dataset.state === 'on'`)
}

// fresh opens the first page of a new shop.
func fresh(t *testing.T) *typist {
	p := opened(t, "/", unsaid(), `document.querySelector('[data-testid=begin] input') === document.activeElement && document.activeElement.selectionEnd > 0`)
	return &typist{page: p}
}

// unsaid is the shop a new database begins with.
func unsaid() []byte {
	s, err := shop.Read(unsurveyed(length.Metric))
	if err != nil {
		panic(err)
	}
	s.Settings = shop.Settings{Name: "My workshop", Units: length.Metric}
	s.Stations, s.Containers, s.Places, s.Items, s.Homes, s.Modes = nil, nil, nil, nil, nil, nil
	return shop.Write(s)
}

// firstPlan makes the first plan and takes it over.
func (y *typist) firstPlan() {
	y.t.Helper()
	y.to("First plan", "/first")
	y.wait(`document.activeElement?.innerText === 'Make the first plan'`)
	y.press(kb.Enter)
	y.wait(`document.activeElement?.innerText === 'Take it over'`)
	said := eval[string](y.page, `[...document.querySelectorAll('aside')].map((a) => a.innerText).join()`)
	assert.Contains(y.t, said, "less a week")
	y.look("first plan of a trial room")
	y.press(kb.Enter)
	y.wait(`location.pathname === '/round'`)
	require.NoError(y.t, y.shop().Validate())
}

// report says what it took.
func (y *typist) report(most, share float64, wrong []string) {
	y.t.Helper()
	y.t.Logf("%.1f min by the model (%d keys, %d decisions); %d things ticked at %d keys in the middle, %d typed at %d; %.0f %% where the sheet says%s",
		y.minutes(), y.keys, y.thinks, len(y.ticked), median(y.ticked), len(y.said), median(y.said), 100*share, strings.Join(append([]string{""}, wrong...), "; not "))
	assert.LessOrEqual(y.t, y.minutes(), most)
	assert.GreaterOrEqual(y.t, share, .95)
	assert.LessOrEqual(y.t, median(y.ticked), 4)
}

// The attic over a flat, as it is jotted down, by keyboard from an empty database to a plan that is taken over.
func TestTheAtticIsEnteredByKeyboard(t *testing.T) {
	y := fresh(t)
	p := y.page
	y.press("Attic")
	y.tab(1)
	if eval[string](p, `document.querySelector('[aria-label="Measured in"] [data-state=on]').innerText`) != "millimetres" {
		y.toggle(kb.ArrowLeft, "millimetres")
	}
	y.tab(1)
	y.press("158cm")
	y.tab(2)
	y.press(" ") // no kneeling
	y.tab(1)
	y.press(" ") // no ladder
	y.tab(5)
	y.wait(`document.activeElement.getAttribute('aria-label') === 'Times a week you work there'`)
	y.tab(1)
	y.toggle(kb.ArrowRight, "rented, few holes")
	y.tab(1 + 8 + 3)
	y.wait(`document.activeElement.closest('label')?.innerText.trim() === 'carving'`)
	y.press(" ")
	p.look("begin filled in")
	y.tab(5)
	y.press(kb.Enter)
	y.wait(`location.pathname === '/survey'`)
	s := y.shop().Settings
	me := s.People[0]
	assert.Equal(t, [3]any{length.MM(1580), true, true}, [3]any{me.Stature, me.NoKneeling, me.NoLadder})
	assert.Equal(t, [2]any{shop.FewHoles, []string{"carving"}}, [2]any{s.Fixing, s.Makes})

	y.line("room", "5.6x4.1, knee walls 1.1, ridge 2.85, door A .85x1.98 at 1.05 opens in hinges right, B plasterboard studs 60cm first 32cm, window C 1.2x1 at 1.45 up .95, outlet C .6 up .3, C plaster left alone, D boards, radiator D 1x.55 at 2.2 sticks out 10cm, outlet D 4.8, chimney .5x.5 in the corner CD, rafters every 75cm")
	y.to("floor", "/floor")
	for _, st := range []string{"carving bench 1400x600x860 by window", "shaving horse 1500x500x520 wheels", "small bandsaw 500x450x1450 table 1000 450W", "sharpening shelf 700x300x900", "paint corner 600x400x750"} {
		y.line("station", st)
	}
	y.to("places", "/places")
	for _, st := range []string{"shelving 800x1100x300 4 shelves wall B .2", "drawers 780x900x450 5 wall D .3", "peg rail 900 at 1.6 wall A 2", "crate 400x300x280 wall C", "crate 400x300x280 wall C"} {
		y.line("place", st)
	}
	for _, c := range y.shop().Containers {
		t.Log(c.ID, c.Name)
	}
	y.to("tick", "/ticks")
	y.attic()
	share, wrong := y.rightly()
	y.firstPlan()
	y.report(20, share, wrong)
}

// attic says what is where.
func (y *typist) attic() {
	y.at("in drawers 1", "K2-1")
	y.tick("14g", 14, "carving gouge")
	y.tick("6k", 6, "carving knife")
	y.tick("3ho", 3, "hook knife")
	y.at("k2-2", "K2-2")
	y.say("2 drawknives 380x110", 2, "drawknife")
	y.tick("spok", 1, "spokeshave")
	y.tick("3ra", 3, "rasp")
	y.tick("4fi", 4, "file")
	y.at("k2-3", "K2-3")
	y.tick("div", 1, "dividers")
	y.tick("ste", 1, "steel rule")
	y.tick("try", 1, "try square")
	y.tick("5pe", 5, "pencil")
	y.say("template folder 320x240x40", 1, "template folder")
	y.at("k2-4", "K2-4")
	y.say("24 in box paints 300x200x60", 1, "paints")
	y.say("20 in jar brushes 90x180x90", 1, "brushes")
	y.at("k2-5", "K2-5")
	y.tick("san", 1, "sandpaper")
	y.say("3 oil bottles flammable", 3, "oil bottles")
	y.tick("rag", 1, "rags")
	y.at("k1-1", "K1-1")
	y.say("9 bowl blanks 200x200x100 1.8kg", 9, "bowl blanks")
	y.at("k1-2", "K1-2")
	y.tick("2wood g", 2, "wood glue")
	y.tick("8spr", 8, "spring clamp")
	y.say("6 f-clamp 200", 6, "f-clamp")
	y.at("k1-3", "K1-3")
	y.tick("2ax", 2, "hand axe")
	y.tick("ad", 1, "adze")
	y.tick("3ma", 3, "carving mallet")
	y.at("k1-4", "K1-4")
	y.say("60 in box offcuts", 1, "offcuts")
	y.at("on rail", "A1")
	y.tick("ap", 1, "apron")
	y.tick("dust m", 1, "dust mask")
	y.tick("ear", 1, "ear defenders")
	y.tick("co", 1, "coping saw")
	y.say("turning saw 620x330x40", 1, "turning saw")
	y.at("k3-1", "K3-1")
	y.say("200 toy wheels 40x40x12 bin", 200, "toy wheels")
	y.say("40 dowel rods 900", 40, "dowel rods 900 mm")
	y.tick("cor", 1, "cord")
	y.at("k4-1", "K4-1")
	y.say("12 finished toys bin", 12, "finished toys")
	y.at("on floor C", "floor C")
	y.tick("sho", 1, "shop vacuum")
	y.say("5 boards 1800x200x52", 5, "boards")
	y.say("3 planks 2400x150x30", 3, "planks")
	y.say("4 ply 600x600x6", 4, "ply")
	y.tick("ste", 1, "step stool")
	y.at("no place", "")
	y.tick("hea", 1, "heat gun")
	y.tick("glue g", 1, "glue gun")
	y.say("headlamp", 1, "headlamp")
	y.tick("firs", 1, "first-aid box")
	y.tick("fire b", 1, "fire blanket")
	y.tick("2band", 2, "band clamp")
	y.tick("hand d", 1, "hand drill")
	y.tick("br", 1, "brace")
	y.tick("aug", 1, "auger bit")
	y.tick("cor", 1, "cordless drill")
	y.tick("2batt", 2, "battery")
	y.say("drawing board 700x500x15", 1, "drawing board")
	y.keep()
}
