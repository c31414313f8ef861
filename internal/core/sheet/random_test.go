package sheet_test

import (
	"fmt"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"hobrak/internal/core/length"
	"hobrak/internal/core/sheet"
	"hobrak/internal/core/shop"
	"hobrak/internal/core/survey"
)

// Whatever the room, its sheet keeps on the paper, true to one scale, with a
// page for the plan and one for every two walls.
func TestSheetsOfAnyRoomKeepOnThePaper(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		s := &shop.Shop{Settings: shop.Settings{Units: length.Metric}}
		survey.NewArea(s, "Room")
		enter := func(path, text string) {
			// Some of what is drawn at random cannot be; it is refused and left out.
			next := s.Clone()
			if _, err := survey.Enter(next, "main", survey.Entry{Path: path, Text: text}); err == nil {
				*s = *next
			}
		}
		enter("walls/A/length", fmt.Sprint(rapid.IntRange(1500, 20000).Draw(t, "a")))
		enter("walls/B/length", fmt.Sprint(rapid.IntRange(1500, 30000).Draw(t, "b")))
		enter("walls/A/top/0/z", fmt.Sprint(rapid.IntRange(2000, 6000).Draw(t, "h")))
		if rapid.Bool().Draw(t, "L") {
			enter("walls/C/angle", "left")
		}
		for k := range rapid.IntRange(0, 8).Draw(t, "features") {
			wall := s.Areas[0].Walls[k%len(s.Areas[0].Walls)].ID
			enter("walls/"+wall+"/features/+", rapid.SampledFrom(shop.FeatureKind("").Words()).Draw(t, "kind"))
		}
		n := len(s.Areas[0].Walls)
		pages := sheet.Survey("t", &s.Areas[0], length.Style{})
		require.Len(t, pages, 1+(n+1)/2)
		for i, p := range pages {
			for _, l := range p.Lines {
				assert.True(t, min(l.X1, l.X2) > 0 && max(l.X1, l.X2) < p.W && min(l.Y1, l.Y2) > 0 && max(l.Y1, l.Y2) < p.H, "page %d: %+v", i, l)
			}
			for _, b := range p.Boxes {
				assert.True(t, b.Y > 0 && b.Y+b.H < p.H && b.W >= 0 && b.H >= 0, "page %d: %+v", i, b)
			}
			for _, x := range p.Texts {
				assert.NotEmpty(t, x.Text)
				assert.Contains(t, []string{"start", "middle", "end"}, x.Anchor, x.Text)
			}
		}
	})
}
