package storage_test

import (
	"fmt"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"hobrak/internal/core/check"
	"hobrak/internal/core/floor"
	"hobrak/internal/core/length"
	"hobrak/internal/core/note"
	"hobrak/internal/core/shop"
	"hobrak/internal/core/storage"
)

// bare room with a bench at wall B.
func bare(t require.TestingT, units length.System, line string) *shop.Shop {
	s := &shop.Shop{Format: shop.Format, Version: shop.Version, Settings: shop.Settings{Name: "bare", Units: units, People: []shop.Person{{ID: "me", Stature: length.MM(1750)}}}}
	r := note.Room(s, line)
	require.NotNil(t, r.Area, "%+v", r.Chips)
	s.Areas = []shop.Area{*r.Area}
	st, _, err := floor.Put(s, shop.Station{ID: "bench", Name: "Bench", Kind: "bench", W: length.MM(1500), D: length.MM(600), H: length.MM(880)}, floor.Wish{Wall: "B"})
	require.NoError(t, err)
	s.Stations = []shop.Station{st}
	return s
}

func state(t require.TestingT, s *shop.Shop, line string) string {
	r := note.Place(s, line)
	for _, c := range r.Chips {
		require.NotEqual(t, "unknown", c.Kind, "%s: %q: %s", line, c.Text, c.Says)
	}
	require.Empty(t, r.Why, line)
	id, _, err := storage.State(s, r)
	require.NoError(t, err, line)
	require.NoError(t, s.Validate(), line)
	return id
}

func TestStorageThatIsThereIsStatedByLine(t *testing.T) {
	mm := length.MM
	s := bare(t, length.Metric, "6.2 x 4.1 x 2.55, door A 850x1980 at 400")
	ix := func() *shop.Index { return shop.NewIndex(s) }

	id := state(t, s, "steel shelving 1000x2000x450, 5 shelves, wall B 4.6m")
	c := ix().Container(id)
	assert.Equal(t, shop.Shelving, c.Kind)
	assert.Equal(t, [3]length.Length{mm(1000), mm(2000), mm(450)}, [3]length.Length{c.W, c.H, c.D})
	assert.InDelta(t, 4600, c.At.Floor[0].MM(), 1)
	for i := range 5 {
		p := ix().Place(fmt.Sprintf("%s-%d", id, i+1))
		assert.Equal(t, shop.PlaceKind("shelf"), p.Kind)
		assert.InDelta(t, 378, p.H.MM(), 1)
	}
	assert.Greater(t, ix().Place(id+"-1").At.Z, ix().Place(id+"-5").At.Z, "the first is the highest")

	id = state(t, s, "drawers 780x900x450 5 wall D")
	assert.Equal(t, shop.Chest, ix().Container(id).Kind)
	assert.Equal(t, shop.Access("drawer"), ix().Place(id+"-5").Access)

	id = state(t, s, "cleat rails 2.4m at 1.5 and 1.9 wall D from 2m")
	p := ix().Place(id)
	assert.Equal(t, "cleat", p.Style)
	assert.Equal(t, mm(2000), p.At.X)
	require.Len(t, p.Rows, 2)
	assert.Equal(t, [2]length.Length{mm(1500), mm(1900)}, [2]length.Length{p.At.Z + p.Rows[0], p.At.Z + p.Rows[1]}, "the rails are where they were said to be")

	id = state(t, s, "pegboard 1200x600 over bench")
	p = ix().Place(id)
	assert.Equal(t, "B", p.At.Wall)
	assert.GreaterOrEqual(t, p.At.Z, mm(1180), "over the bench")

	id = state(t, s, "ceiling rack 1200x1000 drop 500 rated 120kg")
	p = ix().Place(id)
	assert.Equal(t, mm(2050), p.At.Z)
	assert.InDelta(t, 120, p.Capacity.KG(), .01)

	id = state(t, s, "crate 400x300x280 on the floor by the door")
	assert.True(t, ix().Container(id).Portable)
	id = state(t, s, "peg rail 900 long at 1.60 wall A 1.8")
	p = ix().Place(id)
	assert.Equal(t, mm(1600), p.At.Z+p.H)
	id = state(t, s, "rack arms 400, 3 levels, wall C 0.5 at 1.7 to 2.3")
	assert.Len(t, ix().Place(id).Levels, 3)
	assert.Equal(t, mm(1700), ix().Place(id).At.Z)

	s = bare(t, length.Imperial, `12' x 10' x 8', door A 32" x 78" at 12"`)
	id = state(t, s, `wall cabinet 30" × 36" × 12", two doors, 3 shelves, over the bench`)
	assert.Equal(t, shop.Access("door"), ix().Container(id).Access)
	assert.Equal(t, "B", ix().Container(id).At.Wall)
	id = state(t, s, `tool chest 27" × 38" × 18", 7 drawers, on casters`)
	assert.NotNil(t, ix().Place(id+"-7"))

	for text, says := range map[string]string{
		"shelving 40 x 12 x 18, 40 shelves": "say fewer",
		"pegboard 48 x 24":                  "on which wall",
		"pegboard 360 x 24 wall B 0":        "past the end",
		"cabinet 32 x 70 x 16 bouncing":     "not understood",
		"wall cabinet 32 x 120 x 16 wall B": "free",
	} {
		r := note.Place(s, text)
		got := r.Why
		for _, c := range r.Chips {
			if c.Kind == "unknown" {
				got += c.Says
			}
		}
		if r.Entry != nil {
			_, _, err := storage.State(s, r)
			require.Error(t, err, text)
			got = err.Error()
		}
		assert.Contains(t, got, says, text)
	}
}

// Where a wall is taken at the height at which a board usually hangs, it hangs at the nearest that is free; a height that was said is kept.
func TestABoardHangsAtTheNearestFreeHeight(t *testing.T) {
	s := bare(t, length.Metric, "6.2 x 4.1 x 2.55, outlets B at 0.5, 1.3, 2.1, 2.9, 3.7, 4.5, 5.3 up 1.35")
	id := state(t, s, "pegboard 1200x600 wall B")
	at := shop.NewIndex(s).Place(id).At
	assert.Equal(t, "B", at.Wall)
	assert.Greater(t, at.Z, length.MM(1430), "above the outlets, which begin at 1350 and are 80 high")
	assert.Less(t, at.Z, length.MM(1600))
	_, _, err := storage.State(s, note.Place(s, "pegboard 1200x600 at 1.2 wall B"))
	assert.ErrorContains(t, err, "at that height")
}

// Whatever storage is stated in whatever room, the shop can be kept, each address is its own, and the check can judge it.
func TestStatedStorageLeavesTheShopWhole(t *testing.T) {
	kinds := []string{"shelving", "chest", "cabinet", "cart", "crate", "pegboard", "tool board", "cleat rails", "rail", "magnet rail", "shelf", "lumber rack", "ceiling rack", "sheet stand", "bin", "wall cabinet"}
	rapid.Check(t, func(t *rapid.T) {
		s := bare(t, length.Metric, fmt.Sprintf("%d mm x %d mm x %d mm, door A 850x1900 at 400", rapid.IntRange(3500, 8000).Draw(t, "long"), rapid.IntRange(3000, 5000).Draw(t, "wide"), rapid.IntRange(2100, 3200).Draw(t, "high")))
		for range rapid.IntRange(1, 6).Draw(t, "many") {
			line := rapid.SampledFrom(kinds).Draw(t, "kind")
			if rapid.Bool().Draw(t, "sized") {
				line += fmt.Sprintf(" %dx%dx%d", rapid.IntRange(200, 2000).Draw(t, "w"), rapid.IntRange(200, 2000).Draw(t, "h"), rapid.IntRange(50, 600).Draw(t, "d"))
			}
			line += rapid.SampledFrom([]string{"", " wall A", " wall B", " wall C 0.4", " over the bench", " under the bench", " under the bench", " rated 40kg", ", 4 shelves"}).Draw(t, "where")
			r := note.Place(s, line)
			if r.Entry == nil {
				continue
			}
			before := s.Clone()
			if _, _, err := storage.State(s, r); err != nil {
				s = before
				continue
			}
			require.NoError(t, s.Validate(), line)
			if strings.Contains(line, "under") {
				requireBeneath(t, s, line)
			}
			_, err := check.Shop(s)
			require.NoError(t, err, line)
		}
	})
}

// requireBeneath holds where all that is under a bench is within its top and beside each other.
func requireBeneath(t *rapid.T, s *shop.Shop, line string) {
	taken := [][2]length.Length{}
	add := func(at *shop.At, w, h, d length.Length) {
		if at.Station != "bench" {
			return
		}
		require.LessOrEqual(t, at.X+w, s.Stations[0].W, line)
		require.LessOrEqual(t, at.Z+h, s.Stations[0].H, line)
		require.LessOrEqual(t, d, s.Stations[0].D, line)
		for _, o := range taken {
			require.True(t, at.X >= o[1] || at.X+w <= o[0], "%s: %s to %s is taken", line, o[0], o[1])
		}
		taken = append(taken, [2]length.Length{at.X, at.X + w})
	}
	for i := range s.Containers {
		add(&s.Containers[i].At, s.Containers[i].W, s.Containers[i].H, s.Containers[i].D)
	}
	for i := range s.Places {
		add(&s.Places[i].At, s.Places[i].W, s.Places[i].H, s.Places[i].D)
	}
}
