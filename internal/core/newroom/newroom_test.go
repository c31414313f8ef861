package newroom_test

import (
	"slices"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"hobrak/demo"
	"hobrak/internal/core/check"
	"hobrak/internal/core/length"
	"hobrak/internal/core/newroom"
	"hobrak/internal/core/note"
	"hobrak/internal/core/shop"
)

func room(t *testing.T, s *shop.Shop, line string) *shop.Area {
	r := note.Room(s, line)
	require.NotNil(t, r.Area, line)
	return r.Area
}

// The demo moves into rooms of several sizes: what came and what is left are all there was, once; the shop there is valid and breaks no
// rule of the floor; what lived in what came lives there still; a larger room never loses more.
func TestADemoMovesIntoOtherRooms(t *testing.T) {
	last := -1
	for _, line := range []string{
		"3 x 2.4 x 2.3, door A 800x2000 at 300",
		"5.6 x 4.1 x 2.5, door A 900x2000 at 300, window C 1200x1000 at 1450 up 950",
		"12 x 9 x 3, roller door A 2.5x2.2 at .5, window C 1200x1000 at 1450 up 950",
	} {
		s, err := shop.Read(demo.Slipway)
		require.NoError(t, err)
		before := *s
		m, err := newroom.Into(s, room(t, s, line), newroom.Options{Van: [3]float64{2500, 1700, 1800}})
		require.NoError(t, err, line)
		assert.Equal(t, before.Homes, s.Homes, "the old shop stays as it is")
		require.NoError(t, m.Shop.Validate())
		ix := shop.NewIndex(s)
		all := slices.Concat(m.Came, names(m.Left))
		for i := range s.Stations {
			assert.Contains(t, all, s.Stations[i].Name, line)
		}
		for i := range s.Containers {
			assert.Contains(t, all, ix.Name(s.Containers[i].ID), line)
		}
		for i := range s.Places {
			if chain, root := ix.Chain(&s.Places[i].At); len(chain) == 0 && root.Station == "" {
				assert.Contains(t, all, ix.Name(s.Places[i].ID), line)
			}
		}
		left := map[string]bool{}
		for _, l := range m.Left {
			assert.False(t, left[l.ID], "%s is named twice", l.ID)
			left[l.ID] = true
		}
		assert.Equal(t, len(m.Shop.Homes), m.Kept+m.Found)
		assert.Len(t, m.Shop.Items, len(s.Items))
		for _, h := range m.Shop.Homes[:m.Kept] {
			assert.True(t, slices.Contains(s.Homes, h), "%+v", h)
		}
		// Nothing stands in anything: of the hard rules only those of homes can be broken, and they were kept as they were.
		found, err := check.Shop(m.Shop)
		require.NoError(t, err)
		was, err := check.Shop(s)
		require.NoError(t, err)
		broken := 0
		for _, f := range found {
			if f.Hard && !slices.ContainsFunc(was, func(o check.Finding) bool { return o.Code == f.Code && o.What == f.What }) {
				broken++
				t.Log(line, f)
			}
		}
		assert.Zero(t, broken, line)
		if last >= 0 {
			assert.LessOrEqual(t, len(m.Left), last, line)
		}
		last = len(m.Left)
		for i, p := range m.Packs {
			assert.Equal(t, i+1, p.Box)
			assert.GreaterOrEqual(t, p.KG, p.Empty)
			if i > 0 {
				assert.LessOrEqual(t, p.Uses, m.Packs[i-1].Uses, "what is needed first comes first")
			}
		}
		t.Logf("%s: %d came, %d left, %d lost their home, %d found one, %.1f m² open (%.1f), %.1f m² of wall (%.1f)", line, len(m.Came), len(m.Left), m.Homeless, m.Found, m.Open, m.OpenWas, m.Wall, m.WallWas)
	}
	assert.Less(t, last, 6, "in the largest nearly all of it goes")
}

func names(list []newroom.Lost) (out []string) {
	for _, l := range list {
		out = append(out, l.Name)
	}
	return out
}

// What stays behind does not come, and what was in it has no home there; a cupboard wider than the door is to be split.
func TestWhatStaysAndWhatIsSplit(t *testing.T) {
	s, err := shop.Read(demo.Slipway)
	require.NoError(t, err)
	c := &s.Containers[0]
	m, err := newroom.Into(s, room(t, s, "12 x 9 x 3, door A 500x900 at .5"), newroom.Options{Stays: []string{c.ID}})
	require.NoError(t, err)
	assert.Nil(t, shop.NewIndex(m.Shop).Container(c.ID))
	assert.True(t, slices.ContainsFunc(m.Left, func(l newroom.Lost) bool { return l.ID == c.ID && l.Why == "it stays behind" }))
	assert.True(t, slices.ContainsFunc(m.Packs, func(p newroom.Pack) bool { return p.Door == "split" }))
	// A stair: what goes round its landing by hand, 900 by 900 for boards of 50: (2·900^⅔)^1.5 − 50 = 2495.6.
	c.W, c.H, c.D = length.MM(2490), length.MM(1200), length.MM(50)
	stair := func(w, d float64) string {
		m, err := newroom.Into(s, room(t, s, "12 x 9 x 3, door A 2500x2500 at .5"), newroom.Options{Stair: [2]float64{w, d}})
		require.NoError(t, err)
		for _, p := range m.Packs {
			if p.ID == c.ID {
				return p.Stair
			}
		}
		return "not packed"
	}
	assert.Equal(t, "goes", stair(900, 900))
	assert.Equal(t, "stuck", stair(890, 900))
	assert.Equal(t, "goes", stair(60, 0), "straight up")
	assert.Equal(t, "stuck", stair(40, 0))
	_, err = newroom.Into(&shop.Shop{}, &shop.Area{}, newroom.Options{})
	assert.ErrorContains(t, err, "no room to move out of")
}
