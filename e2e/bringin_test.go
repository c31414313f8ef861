package e2e

import (
	"bytes"
	"encoding/base64"
	"encoding/json"
	"fmt"
	"image"
	"image/color"
	"image/jpeg"
	"slices"
	"strings"
	"testing"
	"time"

	"github.com/chromedp/chromedp/kb"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"hobrak/demo"
	"hobrak/internal/api"
	"hobrak/internal/core/length"
	"hobrak/internal/core/shop"
	"hobrak/internal/core/table"
	"hobrak/internal/device"
	"hobrak/internal/exchange"
)

// emptied is a demo shop with nothing on its list.
func emptied(t *testing.T, data []byte) *shop.Shop {
	s, err := shop.Read(data)
	require.NoError(t, err)
	s.Items, s.Homes = nil, nil
	return s
}

// hand gives a file to a file input of the page.
func (p *page) hand(input, name, kind string, data []byte) {
	p.t.Helper()
	p.wait(fmt.Sprintf(`document.querySelector(%q)`, input))
	eval[bool](p, fmt.Sprintf(`(() => { const bytes = Uint8Array.from(atob(%q), (c) => c.charCodeAt(0)); const dt = new DataTransfer(); dt.items.add(new File([bytes], %q, { type: %q })); const i = document.querySelector(%q); i.files = dt.files; i.dispatchEvent(new Event('change', { bubbles: true })); return true })()`,
		base64.StdEncoding.EncodeToString(data), name, kind, input))
}

// paste text into what has the focus.
func (p *page) paste(text string) {
	p.t.Helper()
	raw, err := json.Marshal(text)
	require.NoError(p.t, err)
	eval[bool](p, fmt.Sprintf(`(() => { const dt = new DataTransfer(); dt.setData('text/plain', %s); document.activeElement.dispatchEvent(new ClipboardEvent('paste', { clipboardData: dt, bubbles: true, cancelable: true })); return true })()`, raw))
}

func (p *page) focus(selector string) {
	p.t.Helper()
	p.wait(fmt.Sprintf(`document.querySelector(%q)`, selector))
	eval[bool](p, fmt.Sprintf(`(document.querySelector(%q).focus(), true)`, selector))
}

const preview = `document.querySelector('[data-testid=preview]').innerText`

func TestAPastedTableIsMappedMendedAndBroughtIn(t *testing.T) {
	p := open(t, "/belongings", demo.Slipway)
	before := len(p.shop().Items)
	p.focus("[role=grid]")
	p.paste("Item\tPcs\tWidth (in)\tHeight (in)\tFrom\tWhere used\nHammer of brass\t1\t4 1/2\t12\tmarket\tbench\nGlue kettle\ttwo\t5\t6\tmarket\tglue corner\nSnail clamp\t2\t1/2\t9\tattic\tbench\n")
	p.wait(`document.querySelector('[role=table][aria-label="Rows of the table"]')`)
	p.wait(preview + `.includes('2 new')`)
	assert.Contains(t, eval[string](p, preview), "1 with errors")
	assert.Contains(t, eval[string](p, preview), `row 3, column B: "two" should be a whole number`)
	p.axe("bringing in a table")
	// What was not recognised can still be used: where it is from becomes a note.
	p.choose("What column E is", "notes")
	p.wait(preview + `.includes('2 new')`)
	// The good rows only.
	p.click(`[data-testid=preview] label:last-of-type [role=checkbox]`)
	p.button("Import 2 things")
	p.revision(2)
	items := p.shop().Items
	require.Len(t, items, before+2)
	it := items[before]
	assert.Equal(t, "Hammer of brass", it.Name)
	assert.InDelta(t, 4.5*25.4, it.W.MM(), .001)
	assert.Equal(t, "market", it.Notes)
	assert.Contains(t, it.Assumed, "d", "the table did not say how deep it is")
	// As one change it is undone.
	p.wait(`!document.querySelector('[role=dialog]')`)
	eval[bool](p, `(document.activeElement?.blur(), true)`)
	p.key("u")
	p.revision(3)
	assert.Len(t, p.shop().Items, before)
	// Lines pasted into the field are lines.
	p.focus(`input[aria-label="One thing a line"]`)
	p.paste("8 f-clamp 600\ntenon saw weekly @bench\nmarking knife daily")
	p.wait(`document.querySelector('[data-testid=preview]') && ` + preview + `.includes('3 new')`)
	p.button("Import 3 things")
	p.revision(4)
	assert.Equal(t, 8, p.shop().Items[before].Count)
}

func TestTheDemosOwnFilesBringItsListBack(t *testing.T) {
	want, err := shop.Read(demo.Slipway)
	require.NoError(t, err)
	var csv, book bytes.Buffer
	require.NoError(t, exchange.WriteCSV(&csv, table.Rows(want)))
	require.NoError(t, exchange.WriteWorkbook(&book, "Belongings", table.Rows(want)))
	p := open(t, "/belongings", shop.Write(emptied(t, demo.Slipway)))
	for n, f := range []struct {
		name string
		data []byte
	}{{"list.csv", csv.Bytes()}, {"list.xlsx", book.Bytes()}} {
		p.hand(`input[aria-label="File to import"]`, f.name, "", f.data)
		p.button(fmt.Sprintf("Import %d things", len(want.Items)))
		p.revision(int64(2*n + 2))
		assert.Equal(t, want.Items, p.shop().Items, f.name)
		assert.ElementsMatch(t, want.Homes, p.shop().Homes, f.name)
		p.wait(`!document.querySelector('[role=dialog]')`)
		eval[bool](p, `(document.activeElement?.blur(), true)`)
		p.key("u")
		p.revision(int64(2*n + 3))
	}
	// What is no table is refused in words.
	p.hand(`input[aria-label="File to import"]`, "old.xls", "", []byte("\xd0\xcf\x11\xe0"))
	p.wait(`document.querySelector('[role=dialog] [role=alert]')?.textContent.includes('save it as xlsx or CSV')`)
	p.button("Close")
	// A whole shop takes the place of this one.
	p.hand(`input[aria-label="File to import"]`, "pantry.json", "application/json", demo.Pantry)
	p.wait(`document.querySelector('h1').textContent.includes('Pantry')`)
}

func photoOf(t *testing.T, w, h int) []byte {
	img := image.NewRGBA(image.Rect(0, 0, w, h))
	for i := range w * h {
		img.SetRGBA(i%w, i/w, color.RGBA{180, uint8(130 + i%40), 80, 255})
	}
	var b bytes.Buffer
	require.NoError(t, jpeg.Encode(&b, img, nil))
	return b.Bytes()
}

func TestAPhotoIsAttachedAndShownInListSheetAndFind(t *testing.T) {
	p := open(t, "/belongings?on=item:apron", demo.Slipway)
	p.click(`[aria-label="Choose Apron"]`)
	photo := `input[aria-label="Photo of Apron"]`
	p.hand(photo, "notes.txt", "text/plain", []byte("not a picture"))
	p.wait(`document.querySelector('[data-testid=photos] [role=alert]')?.textContent.includes('it should be a JPEG, PNG or WebP')`)
	p.hand(photo, "apron.jpg", "image/jpeg", photoOf(t, 640, 480))
	p.revision(2)
	shown := `(() => { const i = document.querySelector(%q); return i && i.complete && i.naturalWidth > 0 })()`
	p.wait(fmt.Sprintf(shown, `[data-testid=photos] img`))
	p.axe("a thing with a photo")
	p.button("Choose nothing")
	p.wait(fmt.Sprintf(shown, `[data-row=apron] img`))
	p.focus(`input[role=combobox]`)
	p.key("apron")
	p.wait(fmt.Sprintf(shown, `[role=listbox] img`))
	p.key(kb.Enter)
	p.wait(fmt.Sprintf(shown, `aside [data-testid=photos] img`))
	p.click(`aside [aria-label="Photo of Apron, larger"]`)
	p.wait(fmt.Sprintf(shown, `[role=dialog] img`))
	p.button("Take this photo off")
	p.revision(3)
	assert.Empty(t, shop.NewIndex(p.shop()).Item("apron").Photos)
}

func TestFillingDownGroupingColumnsAndTheScale(t *testing.T) {
	p := open(t, "/belongings", demo.Slipway, api.WithScale(device.NewSimulatedScale(1)))
	p.wait(`document.querySelector('[data-row]')`)
	ids := eval[[]string](p, `[...document.querySelectorAll('[data-row]')].slice(0, 3).map((r) => r.dataset.row)`)
	first := shop.NewIndex(p.shop()).Item(ids[0])
	// The column "held" of the first goes to the two below.
	for _, id := range ids {
		p.click(fmt.Sprintf(`[data-row=%q] [aria-pressed]`, id))
	}
	p.focus("[role=grid]")
	p.key(strings.Repeat(kb.ArrowRight, 8))
	eval[bool](p, `(document.activeElement.dispatchEvent(new KeyboardEvent('keydown', { key: 'd', ctrlKey: true, bubbles: true, cancelable: true })), true)`)
	p.revision(2)
	for _, id := range ids {
		assert.Equal(t, first.Hold, shop.NewIndex(p.shop()).Item(id).Hold)
	}
	// One value pasted goes to all that is chosen.
	p.key(kb.ArrowRight)
	p.paste("for now")
	p.revision(3)
	for _, id := range ids {
		assert.Equal(t, "for now", shop.NewIndex(p.shop()).Item(id).Family)
	}
	p.button("Choose nothing")
	// The scale reads into the weight that is open.
	p.focus("[role=grid]")
	p.key(strings.Repeat(kb.ArrowLeft, 4) + kb.Enter)
	p.button("Read the scale")
	p.wait(`/^[\d.]+ kg$/.test(document.querySelector('[role=grid] input')?.value)`)
	shown := eval[string](p, `document.querySelector('[role=grid] input').value`)
	assert.Contains(t, eval[string](p, `document.querySelector('[role=grid]').innerText`), "simulated")
	p.key(kb.Enter)
	p.revision(4)
	it := shop.NewIndex(p.shop()).Item(ids[0])
	assert.Equal(t, shown, fmt.Sprintf("%.3f kg", it.KG.KG()))
	assert.NotContains(t, it.Assumed, "kg")
	// Grouped by family, each under its head with its sums; a head folds.
	p.choose("Group", "by family")
	p.focus(`input[aria-label="Show only"]`)
	p.key("now")
	p.wait(`[...document.querySelectorAll('[aria-expanded]')].some((b) => b.textContent.startsWith('for now'))`)
	assert.Contains(t, eval[string](p, `document.querySelector('[role=grid]').innerText`), "3 things, 10 pieces")
	rows := eval[string](p, `document.querySelector('[role=grid]').getAttribute('aria-rowcount')`)
	eval[bool](p, `([...document.querySelectorAll('[role=grid] [aria-expanded]')][0].click(), true)`)
	p.wait(`document.querySelector('[role=grid]').getAttribute('aria-rowcount') !== '` + rows + `'`)
	p.axe("a grouped list")
	// Another column.
	p.focus("[role=grid]")
	p.button("Columns")
	p.wait(`[...document.querySelectorAll('[role=menuitemcheckbox]')].some((m) => m.textContent === 'notes')`)
	eval[bool](p, `([...document.querySelectorAll('[role=menuitemcheckbox]')].find((m) => m.textContent === 'notes').click(), true)`)
	p.wait(`[...document.querySelectorAll('[role=columnheader]')].some((h) => h.textContent === 'notes')`)
}

func TestAdviceIsTakenFromTheSheet(t *testing.T) {
	p := open(t, "/belongings", demo.Slipway)
	for _, l := range []string{"block plane 52x165x60", "bandsaw blade 6 mm @bandsaw", "quick clamp 300", "quick clamp 600", "wished drum carder"} {
		p.key(l + kb.Enter)
		p.wait(`document.querySelector('input[aria-label="One thing a line"]').value === ''`)
	}
	p.revision(6)
	look := func(text string) {
		find := fmt.Sprintf(`[...document.querySelectorAll('[aria-label="Worth a look"] button')].find((b) => b.textContent.includes(%q))`, text)
		p.wait(find)
		eval[bool](p, `(`+find+`.click(), true)`)
	}
	look("measure")
	p.wait(`document.querySelector('[data-testid=advice] ol li')`)
	name := eval[string](p, `document.querySelector('[data-testid=advice] ol li b').textContent`)
	p.axe("what to measure first")
	eval[bool](p, `(document.querySelector('[data-testid=advice] ol li button').click(), true)`)
	p.wait(fmt.Sprintf(`[...document.querySelectorAll('[data-row]')].some((r) => r.innerText.includes(%q))`, name))
	look("possible duplicate")
	p.wait(`document.querySelector('[data-testid=advice]').innerText.includes('Block plane is listed twice')`)
	p.axe("what may be there twice")
	p.button("One is a spare")
	p.revision(7)
	assert.Equal(t, 2, shop.NewIndex(p.shop()).Item("block-plane").Twins)
	look("suggested")
	p.button("Make them a family")
	p.revision(8)
	assert.Equal(t, "quick clamps", shop.NewIndex(p.shop()).Item("quick-clamp-300-mm").Family)
	// A station that is named and not there is made from the line.
	p.focus(`input[aria-label="One thing a line"]`)
	p.key("spray gun @porch")
	p.button("make it one")
	p.revision(9)
	p.wait(`document.querySelector('[data-chip=station]')`)
	p.key(kb.Enter)
	p.revision(10)
	items := p.shop().Items
	assert.Equal(t, []string{"porch"}, items[len(items)-1].UsedAt)
}

func TestOneInOneOutAsksWhatLeaves(t *testing.T) {
	s := emptied(t, demo.Slipway)
	s.Settings.OneOut = true
	s.Items = []shop.Item{{ID: "worn", Name: "Worn plane", Kind: "block-plane", W: 50_000, H: 160_000, D: 60_000, UsesPerWeek: .1}}
	p := open(t, "/belongings", shop.Write(s))
	p.key("block plane daily" + kb.Enter)
	p.wait(`document.querySelector('[aria-label="One in, one out"]')?.innerText.includes('Block plane came in')`)
	p.axe("one in, one out")
	p.button("Worn plane")
	p.revision(3)
	assert.Len(t, p.shop().Items, 1)
	p.wait(`!document.querySelector('[aria-label="One in, one out"]')`)
}

// many is the demo with a long list: each of its things again and again.
func many(t *testing.T, n int) *shop.Shop {
	s, err := shop.Read(demo.Slipway)
	require.NoError(t, err)
	for i := 0; len(s.Items) < n; i++ {
		it := s.Items[i%162]
		it.ID, it.Name = fmt.Sprintf("%s-%d", it.ID, i), fmt.Sprintf("%s %d", it.Name, i)
		s.Items = append(s.Items, it)
	}
	return s
}

func TestTwoThousandThingsScroll(t *testing.T) {
	p := open(t, "/belongings", shop.Write(many(t, 2000)))
	p.wait(`document.querySelector('[role=grid]').getAttribute('aria-rowcount') === '2001'`)
	time.Sleep(2 * time.Second) // what the page still fetches
	// A wheel's step in each frame through the whole list, with the time of every frame.
	took := p.frames(250, `document.querySelector('[role=grid]')`, `e.scrollTop += 240`)
	slices.Sort(took)
	long := 0
	for _, ms := range took {
		if ms > 50 {
			long++
		}
	}
	t.Logf("2000 things, %d frames of 240 px: median %.1f ms, 95 of 100 under %.1f ms, longest %.1f ms, %d over 50 ms", len(took), took[len(took)/2], took[len(took)*95/100], took[len(took)-1], long)
	assert.Greater(t, eval[float64](p, `document.querySelector('[role=grid]').scrollTop`), 40_000.0)
}

func TestFiveThousandRowsComeInWithProgress(t *testing.T) {
	s := emptied(t, demo.Slipway)
	var rows bytes.Buffer
	rows.WriteString("Thing,Count,Width mm,Height mm,Depth mm,Weight kg,Times a week,Used at,Held\n")
	kinds := []string{"Jack plane", "Tenon saw", "F-clamp 600", "Old harbour brace", "Glass jar", "Marking knife"}
	for i := range 5000 {
		fmt.Fprintf(&rows, "%s %d,1,%d,300,40,0.8,0.5,bench,hang\n", kinds[i%len(kinds)], i, 20+i%60)
	}
	p := open(t, "/belongings", shop.Write(s))
	p.hand(`input[aria-label="File to import"]`, "many.csv", "text/csv", rows.Bytes())
	find := `[...document.querySelectorAll('button')].find((b) => b.textContent === 'Import 5000 things' && !b.disabled)`
	p.wait(find)
	eval[bool](p, `(() => { window.seen = []; new MutationObserver(() => { const bar = document.querySelector('[role=progressbar]'); if (bar) window.seen.push(Number(bar.ariaValueNow)) }).observe(document.body, { subtree: true, childList: true, attributes: true }); return true })()`)
	started := time.Now()
	eval[bool](p, `(`+find+`.click(), true)`)
	for len(p.shop().Items) < 5000 {
		require.Less(t, time.Since(started), patience)
		time.Sleep(10 * time.Millisecond)
	}
	t.Logf("5000 rows were in the database after %.2f s", time.Since(started).Seconds())
	p.wait(`!document.querySelector('[role=dialog]')`)
	t.Logf("and on the screen after %.2f s", time.Since(started).Seconds())
	seen := eval[[]float64](p, `window.seen`)
	assert.Greater(t, len(seen), 2, "progress was shown")
	p.wait(`document.querySelector('[role=grid]').getAttribute('aria-rowcount') === '5001'`)
	assert.Equal(t, length.MM(300), p.shop().Items[0].H)
}
