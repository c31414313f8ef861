package e2e

import (
	"fmt"
	"testing"
	"time"

	"github.com/chromedp/chromedp/kb"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"hobrak/demo"
	"hobrak/internal/core/length"
	"hobrak/internal/core/shop"
)

// fact types into a field of the shop's facts.
func (p *page) fact(path, text string) {
	p.t.Helper()
	field := fmt.Sprintf(`[data-fact=%q] input`, path)
	p.wait(fmt.Sprintf(`document.querySelector('%s')`, field))
	eval[bool](p, fmt.Sprintf(`(document.querySelector('%s').focus(), document.querySelector('%s').select(), true)`, field, field))
	p.key(text + kb.Enter)
}

// Somebody says how tall they are, in feet, and that nothing may be drilled; what that changes is said before it is kept.
func TestFactsOfTheShopAreTypedAndSayWhatTheyChange(t *testing.T) {
	p := open(t, "/facts", demo.Slipway)
	settings := func() shop.Settings { sh, _ := p.st.Shop(); return sh.Settings }
	p.fact("people/owner/stature", "1500")
	p.wait(`/a week/.test(document.querySelector('[data-testid=effect]')?.innerText ?? '')`)
	said := eval[string](p, `document.querySelector('[data-testid=effect]').innerText`)
	assert.Regexp(t, `\d+ (min|s).* (more|less) a week`, said, "what it costs a shorter person")
	assert.Equal(t, length.MM(1680), settings().People[0].Stature, "nothing is kept yet")
	p.axe("a fact that is not kept yet")
	p.look("facts")
	p.button("Leave it as it was")
	p.wait(`!document.querySelector('[data-testid=effect]')`)
	assert.Equal(t, "1680", eval[string](p, `document.querySelector('[data-fact="people/owner/stature"] input').value`))
	p.fact("people/owner/stature", `5' 3"`)
	p.wait(`document.querySelector('[data-testid=effect] button:not([disabled])')`)
	p.button("Keep it")
	require.Eventually(t, func() bool { return settings().People[0].Stature == 63*length.Inch }, patience, 50*time.Millisecond)
	p.wait(`!document.querySelector('[data-testid=effect]')`)
	// What cannot be is said, and stays to be mended.
	p.fact("growth_reserve", "plenty")
	p.wait(`document.querySelector('[data-testid=effect] [role=alert]')`)
	assert.Contains(t, eval[string](p, `document.querySelector('[data-testid=effect]').innerText`), "should be a number")
	p.button("Leave it as it was")
	// Nothing may be fixed: what hangs is a caution each.
	eval[bool](p, `([...document.querySelectorAll('[data-fact=fixing] button')].find((b) => b.innerText === 'none').click(), true)`)
	p.wait(`/cautions more/.test(document.querySelector('[data-testid=effect]')?.innerText ?? '')`)
	p.button("Keep it")
	require.Eventually(t, func() bool { return settings().Fixing == shop.NoHoles }, patience, 50*time.Millisecond)
	// Somebody else, who is taken away again.
	p.focus(`[aria-label="Name of somebody else"]`)
	p.key("Ann" + kb.Enter)
	p.wait(`document.querySelector('[data-fact="people/Ann/stature"]')`)
	assert.Len(t, settings().People, 3)
	p.button("Remove Ann")
	require.Eventually(t, func() bool { return len(settings().People) == 2 }, patience, 50*time.Millisecond)
	// In feet and inches from now on, everywhere.
	p.wait(`!document.querySelector('[data-fact="people/Ann/stature"]')`)
	eval[bool](p, `([...document.querySelectorAll('[data-fact=units] button')].find((b) => b.innerText === 'imperial').click(), true)`)
	p.wait(`document.querySelector('[data-testid=effect] button:not([disabled])')`)
	p.button("Keep it")
	p.wait(`document.querySelector('[data-fact="people/owner/stature"] input').value === '5\' 3"'`)
}
