package e2e

import (
	"encoding/json"
	"regexp"
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"hobrak/demo"
	"hobrak/internal/core/length"
	"hobrak/internal/core/shop"
)

var metricWords = regexp.MustCompile(`\d[\s\x{2009}]*(mm|cm|cm²|m|m²|kg|g|l)([^\w'"]|$)|\b(mm|kg|millimetres?|kilograms?)\b`)

// typed are the texts of a shop in which people themselves say millimetres, longest first.
func typed(t *testing.T, s *shop.Shop) (list []string) {
	var all func(v any)
	all = func(v any) {
		switch v := v.(type) {
		case map[string]any:
			for _, x := range v {
				all(x)
			}
		case []any:
			for _, x := range v {
				all(x)
			}
		case string:
			if metricWords.MatchString(v) {
				list = append(list, v)
			}
		}
	}
	var doc any
	require.NoError(t, json.Unmarshal(shop.Write(s), &doc))
	all(doc)
	slices.SortFunc(list, func(a, b string) int { return len(b) - len(a) })
	return list
}

func TestNoScreenOfAnImperialShopSaysMillimetresOrKilograms(t *testing.T) {
	for name, doc := range map[string][]byte{"pantry": demo.Pantry, "boat bay": demo.Slipway} {
		t.Run(name, func(t *testing.T) {
			sh, err := shop.Read(doc)
			require.NoError(t, err)
			sh.Settings.Units = length.Imperial
			item, place, wall := sh.Homes[0].Item, sh.Homes[0].Place, sh.Areas[0].Walls[0].ID
			theirs := typed(t, sh)
			p := open(t, "/round", shop.Write(sh))
			read := func(screen string) {
				t.Helper()
				text := eval[string](p, `[document.body.innerText, ...[...document.querySelectorAll('svg text')].map((e) => e.textContent), ...[...document.querySelectorAll('[aria-label],[title],[placeholder],[aria-valuetext]')].flatMap((e) => ['aria-label', 'title', 'placeholder', 'aria-valuetext'].map((a) => e.getAttribute(a) ?? ''))].join('\n')`)
				assert.Greater(t, len(text), 300, screen)
				for _, x := range theirs {
					text = strings.ReplaceAll(text, x, "")
				}
				for line := range strings.SplitSeq(text, "\n") {
					if m := metricWords.FindString(line); m != "" {
						t.Errorf("%s says %q: %.200s", screen, m, line)
					}
				}
			}
			visit := func(path, until string) {
				t.Helper()
				p.visit(path)
				p.wait(until)
				read(path)
			}
			read("/round")
			visit("/round?lens=free", `document.querySelector('[data-testid=round] [data-free]')`)
			visit("/round?on=item:"+item, `document.querySelector('aside h2')`)
			visit("/round?on=place:"+place, `document.querySelectorAll('aside [data-testid=plan-drawing] [data-thing]').length > 0`)
			visit("/survey?page="+wall, `document.querySelector('[data-testid=will-it-go]')?.textContent.includes('longest that goes')`)
			visit("/survey?page=check", `document.querySelector('[data-testid=readings]')`)
			visit("/belongings", `document.querySelector('[data-row]')`)
			visit("/places", shown)
			visit("/find", shown)
			p.visit("/round")
			p.wait(shown)
			p.key("f")
			p.wait(`document.querySelector('aside h2')?.textContent === 'The plan'`)
			read("/fit")
			p.button("Others")
			p.wait(`[...document.querySelectorAll('aside button')].some((b) => b.textContent.startsWith('As you work'))`)
			read("other plans")
			eval[bool](p, `([...document.querySelectorAll('aside button')].find((b) => b.textContent.startsWith('As you work')).click(), true)`)
			p.wait(`[...document.querySelectorAll('aside h3')].some((h) => h.textContent === 'To build')`)
			read("a plan to build")
			p.button("Others")
			p.wait(`document.querySelector('button[aria-label^="Open the plan As you work"] svg')`)
			p.button("All side by side")
			p.wait(`document.querySelectorAll('table[aria-label="Plans side by side"] thead th').length > 3`)
			read("plans side by side")
		})
	}
}
