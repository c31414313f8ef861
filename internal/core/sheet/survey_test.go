package sheet_test

import (
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"hobrak/demo"
	"hobrak/internal/core/length"
	"hobrak/internal/core/sheet"
	"hobrak/internal/core/shop"
	"hobrak/internal/core/survey"
)

func words(p sheet.Page) string {
	var out []string
	for _, t := range p.Texts {
		out = append(out, t.Text)
	}
	return strings.Join(out, "\n")
}

// open boxes are those to be written in: white with an outline.
func open(p sheet.Page) int {
	n := 0
	for _, b := range p.Boxes {
		if b.Empty && b.Weight > 0 {
			n++
		}
	}
	return n
}

func TestTheSheetOfASurveyedRoomHasItsValues(t *testing.T) {
	s, err := shop.Read(demo.Slipway)
	require.NoError(t, err)
	pages := sheet.Survey(s.Settings.Name, &s.Areas[0], length.Style{System: length.Metric})
	require.Len(t, pages, 3, "the plan, and two walls to a page")
	plan := words(pages[0])
	for _, want := range []string{"Slipway Workshop", "7300", "4600", "8628", "scale 1 : 50", "joists run along"} {
		assert.Contains(t, plan, want)
	}
	assert.Zero(t, open(pages[0])+open(pages[1])+open(pages[2]), "nothing is left to measure")
	for _, want := range []string{"main door", "900 × 2000", "3050", "3100", "panel 400 × 600 at 1200"} {
		assert.Contains(t, words(pages[1]), want)
	}
	assert.Contains(t, words(pages[2]), "lake window")
	for i, p := range pages {
		for _, x := range p.Texts {
			assert.True(t, x.X > 0 && x.X < p.W && x.Y > 0 && x.Y < p.H, "page %d: %q is off the paper", i, x.Text)
		}
		for _, l := range p.Lines {
			assert.True(t, min(l.X1, l.X2, l.Y1, l.Y2) > 0 && max(l.X1, l.X2) < p.W && max(l.Y1, l.Y2) < p.H, "page %d: %+v is off the paper", i, l)
		}
	}
}

func TestWhatIsNotMeasuredYetIsAnEmptyBox(t *testing.T) {
	s := &shop.Shop{Settings: shop.Settings{Units: length.Imperial}}
	survey.NewArea(s, "Shed")
	style := length.Style{System: length.Imperial}
	none := sheet.Survey("t", &s.Areas[0], style)
	// Four walls, five of ceiling and floor.
	assert.Equal(t, 9, open(none[0]))
	before := open(none[1])
	for _, e := range [][2]string{{"walls/A/length", `9' 2"`}, {"walls/A/top/0/z", "8 ft"}, {"walls/A/features/+", "door"}} {
		_, err := survey.Enter(s, "main", survey.Entry{Path: e[0], Text: e[1]})
		require.NoError(t, err)
	}
	some := sheet.Survey("t", &s.Areas[0], style)
	// One wall less; a diagonal is proposed on the plan and in the list.
	assert.Equal(t, 10, open(some[0]))
	assert.Contains(t, words(some[0]), `9' 2"`)
	// Wall A has its length and height; the door's place and size are open.
	assert.Equal(t, before-2+2, open(some[1]))
}
