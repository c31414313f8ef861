package e2e

import (
	"fmt"
	"os"
	"slices"
	"strings"
	"testing"
	"time"

	"github.com/chromedp/chromedp/kb"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"hobrak/internal/api"
	"hobrak/internal/core/arrange"
	"hobrak/internal/core/fit"
	"hobrak/internal/core/length"
	"hobrak/internal/core/moves"
	"hobrak/internal/core/propose"
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
		assert.Fail(y.t, "refused", "%s: %s", text, said)
		y.press(kb.Escape)
		return
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
		assert.Fail(y.t, "refused", "%s: %s", text, eval[string](y.page, `document.querySelector('[data-testid=ticks] [role=alert]').innerText`))
		y.press(kb.Escape)
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
	assert.Eventually(y.t, func() bool { _, now := y.st.Shop(); return now > before }, patience, 10*time.Millisecond, text)
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
func fresh(t *testing.T, options ...api.Option) *typist {
	p := opened(t, "/", unsaid(), `document.querySelector('[data-testid=begin] input') === document.activeElement && document.activeElement.selectionEnd > 0`, options...)
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
	y.wait(`location.pathname === '/evenings'`)
	y.wait(`document.querySelector('[data-testid=tonight]') || document.querySelector('[data-testid=finished]')`)
	require.NoError(y.t, y.shop().Validate())
	y.halfway()
}

// halfway says what half of the evenings of the first plan bring.
func (y *typist) halfway() {
	s := y.shop()
	then, _, err := moves.Toward(s, &s.Targets[0])
	require.NoError(y.t, err)
	p, err := moves.Of(s, then, moves.Options{Minutes: 60})
	require.NoError(y.t, err)
	if n := len(p.Evenings); n > 0 {
		half := p.Evenings[(n-1)/2].Handling
		y.t.Logf("%d evenings, %d put aside: after half of them %.0f %% of what the plan saves", n, p.Temporary, 100*(p.Handling.Now-half)/max(1, p.Handling.Now-p.Handling.Target))
	}
	assert.Empty(y.t, p.Stuck)
}

// arranged says what the engine's arrangements of the room bring against how it was entered: no rule is broken that was not.
func (y *typist) arranged() {
	s := y.shop()
	all, err := arrange.Whole(s, arrange.Options{Area: s.Areas[0].ID})
	require.NoError(y.t, err)
	for _, x := range all {
		y.t.Logf("arranged, %s: %.0f m a week before, %.0f after, %.0f at least; once homes follow %.0f, with new homes alone %.0f; clashes %d before, %d after; %d moved",
			x.School, x.Before.Walking, x.After.Walking, x.Bound, x.Follow.Walking, x.Stays.Walking, x.Before.Clashes, x.After.Clashes, len(x.Moved))
		assert.LessOrEqual(y.t, x.After.Clashes, x.Before.Clashes)
	}
}

// proposed says what storage from bare walls would bring against the storage that is there, filled anew: it is quicker in use, and has a home for
// whatever had one.
func (y *typist) proposed() {
	s := y.shop()
	e, err := fit.ByHours(s, func() bool { return false })
	require.NoError(y.t, err)
	made := e.Run(fit.Options{Seed: 1})
	p, err := propose.Plan(s, propose.Options{Style: "open", Bare: true, Revisions: 60, Iterations: 2000, Seed: 1})
	require.NoError(y.t, err)
	y.t.Logf("storage: %.0f s a week as it was entered, %.0f filled anew (%d without a home), %.0f from bare walls (%d without a home, %d pieces); %.0f at least",
		e.AsItStands(), made.Objective, len(made.Homeless), p.After, len(p.Homeless), len(p.Made), p.Least)
	assert.Less(y.t, p.After, made.Objective)
	assert.LessOrEqual(y.t, len(p.Homeless), len(made.Homeless))
}

// report says what it took.
func (y *typist) report(most, share float64, wrong []string) {
	y.t.Helper()
	y.t.Logf("%.1f min by the model (%d keys, %d decisions); %d things ticked at %d keys in the middle, %d typed at %d; %.0f %% where the sheet says%s",
		y.minutes(), y.keys, y.thinks, len(y.ticked), median(y.ticked), len(y.said), median(y.said), 100*share, strings.Join(append([]string{""}, wrong...), "; not "))
	assert.LessOrEqual(y.t, y.minutes(), most)
	assert.GreaterOrEqual(y.t, share, .95)
	assert.LessOrEqual(y.t, median(y.ticked), 4)
	y.lines()
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
	y.tab(2) // past how one and a half is written
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
	y.to("tick", "/ticks")
	y.attic()
	share, wrong := y.rightly()
	y.arranged()
	y.proposed()
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
	y.say("200 toy wheels 40x40x12", 200, "toy wheels")
	y.say("40 dowel rods 900", 40, "dowel rods 900 mm")
	y.tick("cor", 1, "cord")
	y.at("k4-1", "K4-1")
	y.say("12 finished toys", 12, "finished toys")
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

// The lean-to against the house, in feet and inches: two people of unlike height, one of them left-handed, and a child who visits.
func TestTheLeanToIsEnteredByKeyboard(t *testing.T) {
	long(t)
	y := fresh(t)
	p := y.page
	y.press("Lean-to")
	y.tab(1)
	if eval[string](p, `document.querySelector('[aria-label="Measured in"] [data-state=on]').innerText`) != "feet and inches" {
		y.toggle(kb.ArrowRight, "feet and inches")
	}
	y.tab(2)
	y.press(`5'3"`)
	y.tab(1)
	y.toggle(kb.ArrowRight, "left-handed")
	y.tab(5)
	y.wait(`document.activeElement.innerText === 'Another maker'`)
	y.press(kb.Enter)
	y.wait(`document.querySelector('[aria-label="How tall person 2 is"]')`)
	y.key(kb.Shift + kb.Tab)
	y.focus(`[aria-label="Name of person 2"]`) // back by Shift and Tab, three times
	y.keys += 6
	y.press("He")
	y.tab(1)
	y.press(`6'2"`)
	y.tab(3)
	y.wait(`document.activeElement.innerText === 'A child'`)
	y.press(kb.Enter)
	y.wait(`document.querySelector('[aria-label="How tall person 3 is"]')`)
	y.focus(`[aria-label="How tall person 3 is"]`)
	y.keys += 6
	y.press(`3'6"`)
	y.tab(4)
	y.wait(`document.activeElement.getAttribute('aria-label') === 'Times a week you work there'`)
	y.press("3" + kb.Enter)
	y.wait(`location.pathname === '/survey'`)
	people := y.shop().Settings.People
	require.Len(t, people, 3)
	assert.Equal(t, []length.Length{63 * length.Inch, 74 * length.Inch, 42 * length.Inch}, []length.Length{people[0].Stature, people[1].Stature, people[2].Stature})
	assert.True(t, people[0].LeftHanded && people[2].Child)

	y.line("room", `12' x 8'6", slopes from 9'2" at B to 6'10" at D, B brick, A and C boards on studs 16" first 8", door A 2'8" x 6'6" at 1' opens out, outlets B at 2'6", 9' up 4'2", panel B 14" x 20" bottom 4'6" at 10'9", glass D 12' x 3'6" at 0 up 3', door C 2'6" x 6'6" at 5' opens out, floor falls 1/4" a foot toward D`)
	y.to("floor", "/floor")
	for _, st := range []string{`bench 5' x 22" x 34" wall B`, `drill press 18" x 24" table 44" 5 amps`, `scroll saw 26" x 14" x 38"`, `finishing shelf 3' x 16" wall C`, `sink 20" x 18" by door fixed`} {
		y.line("station", st)
	}
	y.to("places", "/places")
	for _, st := range []string{`wall cabinet 30" x 36" x 12" two doors 3 shelves over the bench`, `tool chest 27" x 38" x 18" 7 drawers on casters`, `pegboard 4' x 2' wall B`, `lumber rack 6' x 2' x 14" 3 levels wall B at 6'`, `tote 24" x 16" x 14" wall B`, `tote 24" x 16" x 14"`, `magazine shelf 36" x 10" x 10" 1 shelf wall C`} {
		y.line("place", st)
	}
	y.to("tick", "/ticks")
	y.leanTo()
	share, wrong := y.rightly()
	y.arranged()
	y.proposed()
	y.firstPlan()
	y.report(28, share, wrong)
}

func (y *typist) leanTo() {
	at := func(part string) string {
		for _, c := range y.shop().Containers {
			if c.Kind == "chest" {
				return c.ID + "-" + part
			}
		}
		return part
	}
	drawer := func(n string) { y.at(strings.ToLower(at(n)), at(n)) }
	place := func(kind shop.PlaceKind) string {
		for _, p := range y.shop().Places {
			if p.Kind == kind && p.At.In == "" {
				return p.ID
			}
		}
		return ""
	}
	in := func(kind shop.ContainerKind, nth int) string {
		for _, c := range y.shop().Containers {
			if c.Kind == kind {
				if nth--; nth == 0 {
					return c.ID
				}
			}
		}
		return ""
	}
	drawer("1")
	y.say("12 chisels daily", 12, "chisels")
	y.tick("2marking g", 2, "marking gauge")
	y.tick("mal", 1, "mallet")
	drawer("2")
	y.tick("bl", 1, "block plane")
	y.tick("sm", 1, "smoothing plane")
	y.tick("jac", 1, "jack plane")
	y.tick("shou", 1, "shoulder plane")
	drawer("3")
	y.tick("3try", 3, "try square")
	y.tick("sl", 1, "sliding bevel")
	y.say("rule 12in", 1, "steel rule")
	y.say("rule 24in", 1, "steel rule")
	y.tick("3div", 3, "dividers")
	y.tick("2marking g", 2, "marking gauge")
	drawer("4")
	y.tick("dov", 1, "dovetail saw")
	y.tick("carc", 1, "carcass saw")
	y.tick("co", 1, "coping saw")
	y.tick("fl", 1, "flush saw")
	drawer("5")
	y.say("20 boxes of screws 4x2x1", 20, "boxes of screws")
	drawer("6")
	y.tick("3tw", 3, "twist bits")
	y.tick("br", 1, "brace")
	y.tick("cou", 1, "countersink")
	drawer("7")
	y.say("15 in case router bits", 1, "router bits")
	y.tick("tri", 1, "trim router")
	y.say("trim router base", 1, "trim router base")
	y.at("on pegboard", place("wall-field"))
	y.tick("9screwd", 9, "screwdriver")
	y.tick("5pl", 5, "pliers")
	y.tick("span", 1, "spanner set")
	y.tick("3cl", 3, "claw hammer")
	y.tick("2ta", 2, "tape measure")
	y.tick("sci", 1, "scissors")
	y.tick("6qu", 6, "quick clamp")
	y.tick("4ra", 4, "rasp")
	cabinet := in(shop.Cabinet, 1)
	y.at(strings.ToLower(cabinet)+"-1", cabinet+"-1")
	y.tick("4wood g", 4, "wood glue")
	y.tick("2she", 2, "shellac")
	y.tick("3oi", 3, "oil finish")
	y.at(strings.ToLower(cabinet)+"-2", cabinet+"-2")
	y.tick("wax", 1, "wax")
	y.tick("8pai", 8, "paint")
	y.tick("glov", 1, "gloves")
	y.tick("6adh", 6, "adhesive tape")
	y.at("on rack", place("arms"))
	y.say("8 boards cherry 5' x 6in x 1in", 8, "boards cherry")
	y.say("4 boards maple 6' x 5in x 1in", 4, "boards maple")
	y.say("3 boards pine 8' x 6in x 1in", 3, "boards pine")
	y.tick("12dowel r", 12, "dowel rod")
	tote := in(shop.Tote, 1)
	y.at(strings.ToLower(tote)+"-1", tote+"-1")
	y.tick("8sandp", 8, "sandpaper")
	y.tick("ran", 1, "random orbit sander")
	y.tick("hea", 1, "heat gun")
	y.say("30 hinges and latches", 30, "hinges and latches")
	tote = in(shop.Tote, 2)
	y.at(strings.ToLower(tote)+"-1", tote+"-1")
	y.say("5 box-making jigs", 5, "box-making jigs")
	y.say("scroll saw sled", 1, "scroll saw sled")
	y.tick("dovetail j", 1, "dovetail jig")
	y.at("on floor A", "floor A")
	y.say("vacuum 15x15x22", 1, "vacuum")
	y.say("8 f-clamp 24in", 8, "f-clamp")
	y.say("4 bar clamp 40in", 4, "bar clamp")
	y.say("5 ply 48x24x1/4", 5, "ply")
	y.tick("was", 1, "waste bin")
	y.say("boots", 1, "boots")
	y.say("watering can", 1, "watering can")
	y.say("6 plant pots", 6, "plant pots")
	y.at("no place", "")
	y.tick("cor", 1, "cordless drill")
	y.tick("im", 1, "impact driver")
	y.tick("4batt", 4, "battery")
	y.tick("2batt", 6, "battery")
	y.tick("fire e", 1, "fire extinguisher")
	y.tick("firs", 1, "first-aid box")
	y.tick("2ear", 2, "ear defenders")
	y.tick("3saf", 3, "safety glasses")
	y.tick("lad", 1, "ladder")
	y.tick("broom", 1, "broom")
	y.tick("ext", 1, "extension lead")
	y.tick("shoo", 1, "shooting board")
	y.tick("2bench h", 2, "bench hook")
	y.tick("2ap", 2, "apron")
	y.say("3 in tray sharpening stones 14x10x4", 1, "sharpening stones")
	y.tick("hon", 1, "honing guide")
	y.keep()
}

// The trailer bay: everything on wheels, a cargo trailer comes in at night.
func TestTheBayIsEnteredByKeyboard(t *testing.T) {
	long(t)
	y := fresh(t)
	p := y.page
	y.press("Trailer bay")
	y.tab(1)
	if eval[string](p, `document.querySelector('[aria-label="Measured in"] [data-state=on]').innerText`) != "millimetres" {
		y.toggle(kb.ArrowLeft, "millimetres")
	}
	y.tab(2)
	y.press("183cm")
	y.tab(6)
	y.wait(`document.activeElement.innerText === 'Another maker'`)
	y.press(kb.Enter)
	y.wait(`document.querySelector('[aria-label="How tall person 2 is"]')`)
	y.focus(`[aria-label="Name of person 2"]`)
	y.keys += 6
	y.press("friend")
	y.tab(1)
	y.press("171cm")
	y.tab(4)
	y.wait(`document.activeElement.getAttribute('aria-label') === 'Times a week you work there'`)
	y.press("4")
	y.tab(1 + 2)
	y.wait(`document.activeElement.closest('label')?.innerText.trim() === 'trailer'`)
	y.press(" ")
	y.tab(6 + 2)
	y.wait(`document.activeElement.closest('label')?.innerText.trim() === 'machines'`)
	y.press(" ")
	y.tab(7)
	y.press(kb.Enter)
	y.wait(`location.pathname === '/survey'`)
	assert.Equal(t, []string{"trailer"}, y.shop().Settings.Shares)

	y.line("room", "6.2x3x2.55, floor falls 12mm a metre toward A, roller door A 2.5x2.2 at .25, B and D block, C boards studs 60cm, door C .8x2 at 2.05 opens in hinges right, outlets B 1, 3.2, 5.4, outlet C .4, panel C 300x450 bottom 1.4 at 1.55, joists across every 40cm")
	// The trailer stands there at night only: that is an arrangement of the floor, not one of its stations.
	y.to("floor", "/floor")
	for _, st := range []string{"bench 1800x600x880 at C end of wall D fixed", "table saw 800x750x860 wheels 9A", "planer thicknesser 1100x600 table 860 wheels 10A", "mitre saw 1100x650x900 folds 7A", "band saw 600x550 table 950 tall 1750 wheels 6A", "assembly table 1500x900x850 wheels", "extractor 650x500x1500 wheels 5A", "compressor 450x400x600"} {
		y.line("station", st)
	}
	y.to("places", "/places")
	for _, st := range []string{"cart 900x850x500 6 drawers", "steel shelving 1000x2000x450 5 shelves wall B 4.6m", "cleat rails 2.4m at 1.5 and 1.9 wall D 2m", "ceiling rack 1200x1000 drop 500 rated 120kg", "sheet stand 1300x1300x350", "rack arms 400 3 levels 2m apart wall B 1.2 at 1.7 to 2.3"} {
		y.line("place", st)
	}
	y.to("tick", "/ticks")
	y.bay()
	share, wrong := y.rightly()
	y.arranged()
	y.proposed()
	y.firstPlan()
	y.report(35, share, wrong)
}

func (y *typist) bay() {
	cart, shelving := "", ""
	for _, c := range y.shop().Containers {
		switch c.Kind {
		case shop.Cart:
			cart = c.ID
		case shop.Shelving:
			shelving = c.ID
		}
	}
	kind := func(kind shop.PlaceKind) string {
		for _, p := range y.shop().Places {
			if p.Kind == kind && p.At.In == "" {
				return p.ID
			}
		}
		return ""
	}
	at := func(place string) { y.at(strings.ToLower(place), place) }
	at(cart + "-1")
	y.tick("3ta", 3, "tape measure")
	y.tick("4cs", 4, "combination square")
	y.tick("3sr", 3, "steel rule")
	y.tick("cal", 1, "calliper")
	y.tick("3mk", 3, "marking knife")
	y.tick("20pe", 20, "pencil")
	at(cart + "-2")
	y.tick("8be", 8, "bench chisel")
	y.tick("3jp", 3, "jack plane")
	y.tick("4card", 4, "card scraper")
	at(cart + "-3")
	y.tick("plun", 1, "plunge router")
	y.say("2 router bases 180x150x40", 2, "router bases")
	y.say("24 in case router bits", 1, "router bits")
	at(cart + "-4")
	y.tick("2co", 2, "cordless drill")
	y.tick("im", 1, "impact driver")
	y.tick("4tw", 4, "twist bits")
	at(cart + "-5")
	y.tick("2ran", 2, "random orbit sander")
	y.tick("9san", 9, "sanding discs")
	y.tick("5sanding bl", 5, "sanding block")
	at(cart + "-6")
	y.tick("2cn", 2, "cordless nailer")
	y.tick("stap", 1, "staples")
	y.tick("12nails", 12, "nails")
	at(shelving + "-1")
	y.say("2 camping box 600x400x350", 2, "camping box")
	y.tick("6pai", 6, "paint")
	y.tick("5var", 5, "varnish")
	at(shelving + "-2")
	y.tick("4wo", 4, "wood glue")
	y.say("30 screw boxes 150x60x100", 30, "screw boxes")
	y.tick("9saw bl", 9, "saw blade")
	y.tick("da", 1, "dado stack")
	at(shelving + "-3")
	y.tick("5pu", 5, "push stick")
	y.tick("3fe", 3, "featherboard")
	y.say("7 jigs 300x200x100", 7, "jigs")
	y.say("cross-cut sled 700x120x600", 1, "cross-cut sled")
	at(shelving + "-4")
	y.tick("ci", 1, "circular saw")
	y.tick("ts", 1, "track saw")
	y.tick("ji", 1, "jigsaw")
	y.tick("an", 1, "angle grinder")
	at(shelving + "-5")
	y.tick("bis", 1, "biscuit jointer")
	y.tick("po", 1, "pocket-hole jig")
	y.say("2 guide rail 1400", 2, "guide rail")
	y.say("guide rail 2700", 1, "guide rail")
	at(kind("wall-field"))
	y.say("10 f-clamp 300", 10, "f-clamp")
	y.say("8 f-clamp 600", 8, "f-clamp")
	y.say("4 parallel clamp 1000", 4, "parallel clamp")
	y.say("4 pipe clamp 1500", 4, "pipe clamp")
	y.tick("14spr", 14, "spring clamp")
	y.tick("3pan", 3, "panel saw")
	y.tick("3claw", 3, "claw hammer")
	y.say("level 600", 1, "spirit level")
	y.say("level 1200", 1, "spirit level")
	at(kind("deck"))
	y.say("2 cable totes 400x300x280", 2, "cable totes")
	y.say("sled 1200x300x400", 1, "sled")
	y.say("tent 900x250x250", 1, "tent")
	y.say("20 mouldings 1800x50x20", 20, "mouldings")
	at(kind("sheet-bay"))
	y.say("3 birch ply 1250x1250x15", 3, "birch ply")
	y.say("2 mdf 1220x800x18", 2, "mdf")
	y.say("12 sheet offcuts 600x400x18", 12, "sheet offcuts")
	at(kind("arms"))
	y.say("6 oak boards 2600x180x30", 6, "oak boards")
	y.say("5 ash boards 2100x200x35", 5, "ash boards")
	y.say("10 pine boards 3000x95x45", 10, "pine boards")
	y.say("8 ply strips 2400x80x18", 8, "ply strips")
	y.at("on floor D", "floor D")
	y.say("2 offcut bins 400x400x600", 2, "offcut bins")
	y.tick("wb", 1, "waste bin")
	y.tick("broom", 1, "broom")
	y.tick("vacuum h", 1, "vacuum hose")
	y.say("2 roller stands 450x450x900", 2, "roller")
	y.tick("step", 1, "step stool")
	y.say("4 saw horses 900x400x750", 4, "saw horses")
	y.say("welding helmet", 1, "welding helmet")
	y.say("oily rags bin 300x300x400 flammable", 1, "oily rags bin")
	y.tick("fire e", 1, "fire extinguisher")
	y.say("dolly 800x200x500", 1, "dolly")
	y.at("no place", "")
	y.tick("firs", 1, "first-aid box")
	y.keep()
}

// lines types things as lines with their names completed, as one does where there is no list to tick.
func (y *typist) lines() {
	y.t.Helper()
	y.to("belong", "/belongings")
	y.wait(`document.activeElement?.getAttribute('aria-label') === 'One thing a line'`)
	var keys []int
	for _, x := range [][2]string{{"spok", "spokeshave"}, {"cor", "cordless drill"}, {"tro", "trowel"}, {"2 band c", "band clamp"}, {"hole s", "hole saws"}, {"dra", "drawknife"}, {"4 spr", "spring clamp"}, {"glue p", "glue pot"}, {"str", "straightedge"}} {
		_, before := y.st.Shop()
		y.press(x[0])
		many := 0
		time.Sleep(400 * time.Millisecond) // until the names are offered; a person reads them
		if eval[bool](y.page, fmt.Sprintf(`document.querySelector('[data-testid=offers] b')?.innerText === %q`, x[1])) {
			y.key(kb.Tab)
			many = 1
		} else {
			y.key(strings.TrimPrefix(x[1], x[0]))
			many = len(x[1]) - len(x[0])
		}
		y.key(kb.Enter)
		y.wait(`document.activeElement.value === ''`)
		require.Eventually(y.t, func() bool { _, now := y.st.Shop(); return now > before }, patience, 10*time.Millisecond, x[1])
		keys = append(keys, len(x[0])+many+1)
	}
	y.t.Logf("%d keys a thing in the middle as lines", median(keys))
	assert.LessOrEqual(y.t, median(keys), 9)
}

// long leaves a test out where time is short: two more rooms take two minutes and go the same way as the first.
func long(t *testing.T) {
	t.Helper()
	if os.Getenv("HOBRAK_LONG") == "" {
		t.Skip("only in make check-long")
	}
}
