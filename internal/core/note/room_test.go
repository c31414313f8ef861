package note_test

import (
	"fmt"
	"math"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"hobrak/internal/core/length"
	"hobrak/internal/core/note"
	"hobrak/internal/core/shop"
)

func in(units length.System) *shop.Shop { return &shop.Shop{Settings: shop.Settings{Units: units}} }

// read a room that is clear.
func read(t require.TestingT, units length.System, text string) *shop.Area {
	r := note.Room(in(units), text)
	for _, c := range r.Chips {
		require.NotEqual(t, "unknown", c.Kind, "%s: %q: %s", text, c.Text, c.Says)
	}
	require.Empty(t, r.Why, text)
	require.NotNil(t, r.Area)
	return r.Area
}

func feature(t require.TestingT, a *shop.Area, id string) shop.Feature {
	for _, w := range a.Walls {
		for _, f := range w.Features {
			if f.ID == id {
				return f
			}
		}
	}
	require.Fail(t, "no feature "+id)
	return shop.Feature{}
}

func heights(a *shop.Area) (out []string) {
	for _, w := range a.Walls {
		s := w.ID
		for _, p := range w.Profile {
			s += fmt.Sprintf(" %.0f", p[1].MM())
		}
		out = append(out, s)
	}
	return out
}

func TestARoomIsReadInOneBreath(t *testing.T) {
	a := read(t, length.Metric, "5.6 x 4.1 x 2.4, door A 850x1980 at 400, window C 1200x1000 at 1450 up 950, studs 600 from 320")
	assert.Equal(t, []string{"A 2400 2400", "B 2400 2400", "C 2400 2400", "D 2400 2400"}, heights(a))
	assert.InDelta(t, 4100, a.Frame(0).Length.MM(), .01)
	assert.InDelta(t, 5600, a.Frame(1).Length.MM(), .01)
	door, window := feature(t, a, "A-door"), feature(t, a, "C-window")
	assert.Equal(t, [4]length.Length{length.MM(400), length.MM(850), 0, length.MM(1980)}, [4]length.Length{door.X, door.W, door.Z, door.H})
	assert.Equal(t, [4]length.Length{length.MM(1450), length.MM(1200), length.MM(950), length.MM(1000)}, [4]length.Length{window.X, window.W, window.Z, window.H})
	assert.Empty(t, door.Assumed, "all of it was said")
	for _, w := range a.Walls {
		assert.Equal(t, length.MM(600), w.Studs.Spacing)
		assert.Equal(t, length.MM(320), w.Studs.First)
	}
	assert.Len(t, a.Survey.Measures, 4, "the lengths are measured")
}

func TestRoomsAsPeopleJotThemDown(t *testing.T) {
	t.Run("under the roof", func(t *testing.T) {
		a := read(t, length.Metric, `5.60 long, 4.10 wide, knee walls 1.10 high on both long sides, ridge 2.85 along the middle.
Wall A: door 0.85 × 1.98, 1.40 from the left, opens in, hinges right. Wall B: plasterboard on studs every 60 cm, first at 32 cm.
Wall C: window 1.20 × 1.00, sill 0.95, 1.45 from the left; outlet 0.30 up at 0.60; plaster, left alone.
Wall D: boards; radiator 1.00 wide, 0.55 high, 2.20 from the left, sticks out 10 cm; outlet at 4.80.
Chimney 0.50 × 0.50 in the corner C/D. Rafters every 75 cm across`)
		assert.Equal(t, []string{"A 1100 2850 1100", "B 1100 1100", "C 1100 2850 1100", "D 1100 1100"}, heights(a))
		door := feature(t, a, "A-door")
		assert.Equal(t, "right", door.Hinge)
		assert.Equal(t, "in", door.Swing)
		assert.Equal(t, "drywall", a.Walls[1].Surface)
		assert.Equal(t, length.MM(320), a.Walls[1].Studs.First)
		assert.Nil(t, a.Walls[0].Studs)
		assert.False(t, a.Walls[2].Claimed)
		assert.Equal(t, "plaster", a.Walls[2].Surface)
		assert.Equal(t, length.MM(300), feature(t, a, "C-outlet").Z)
		heater := feature(t, a, "D-heater")
		assert.Equal(t, [4]length.Length{length.MM(2200), length.MM(1000), length.MM(550), length.MM(100)}, [4]length.Length{heater.X, heater.W, heater.H, heater.D})
		assert.Equal(t, length.MM(4800), feature(t, a, "D-outlet").X)
		require.Len(t, a.Floor.Features, 1)
		assert.Equal(t, [2]length.Length{length.MM(5100), 0}, [2]length.Length{a.Floor.Features[0].X, a.Floor.Features[0].Y}, "C and D meet at the right, below")
		assert.Equal(t, length.MM(750), a.Ceiling.Joists.Spacing)
		assert.Equal(t, "y", a.Ceiling.Joists.Along)
	})
	t.Run("against the house, in feet", func(t *testing.T) {
		a := read(t, length.Imperial, `12' x 8' 6", slopes from 9' 2" at B to 6' 10" at D, wall B brick, walls A and C boards on studs at 16" first at 8",
A: door 2' 8" × 6' 6", 1' from the left, opens out. B: outlets at 2' 6", 9' up 4' 2"; panel B 14" × 20" bottom at 4' 6" at 10' 9", glass D 12' x 3' 6" at 0 up 3', C: door to the house 2' 6" × 6' 6", 5' from the left, opens out, floor falls 1/4" a foot toward D`)
		assert.Equal(t, length.Inch*102, a.Frame(0).Length)
		assert.Equal(t, []string{"A 2083 2794", "B 2794 2794", "C 2794 2083", "D 2083 2083"}, heights(a))
		assert.Equal(t, "brick", a.Walls[1].Surface)
		assert.Equal(t, 16*length.Inch, a.Walls[0].Studs.Spacing)
		assert.Nil(t, a.Walls[1].Studs)
		assert.Equal(t, 9*length.Foot, feature(t, a, "B-outlet-2").X)
		assert.Equal(t, 50*length.Inch, feature(t, a, "B-outlet-2").Z)
		assert.InDelta(t, 20.83, a.Floor.Fall.MMPerM, .01)
		assert.Equal(t, "D", a.Floor.Fall.Toward)
	})
	t.Run("an L, an alcove, a roller door", func(t *testing.T) {
		a := read(t, length.Metric, "6.2 x 3 x 2.55, less 2 x 1.5 at corner BC, roller door A 2.5 x 2.2 at .25, alcove B 1.2 x 2 at 1 deep .4, clock D 300x300 at .4 up 1.7, ceiling joists every 400 across, block everywhere")
		require.Len(t, a.Walls, 6)
		var long []float64
		for i := range a.Walls {
			long = append(long, a.Frame(i).Length.MM())
		}
		assert.InDeltaSlice(t, []float64{3000, 4200, 1500, 2000, 1500, 6200}, long, .5)
		assert.InDelta(t, 6.2*3-2*1.5, math.Abs(a.Outline().Area())/1e6, .001)
		assert.Equal(t, "block", a.Walls[3].Surface)
		assert.Equal(t, length.MM(400), feature(t, a, "B-niche").D)
		assert.Equal(t, "clock", feature(t, a, "D-keepsake").Name, "what hangs there for its own sake stays")
	})
}

// A piece may be missing at each corner; the walls go round it and enclose the rest.
func TestAPieceIsMissingAtEachCorner(t *testing.T) {
	for i, corner := range []string{"AB", "BC", "CD", "D/A"} {
		a := read(t, length.Metric, "6 x 4 x 2.5, less 2 x 1.5 at corner "+corner)
		require.Len(t, a.Walls, 6, corner)
		assert.InDelta(t, 6*4-2*1.5, math.Abs(a.Outline().Area())/1e6, .001, corner)
		// Along the wall before the corner 2 m are missing, along the one after it 1.5 m.
		whole := []float64{4000, 6000, 4000, 6000}
		assert.InDelta(t, whole[i]-2000, a.Frame(i).Length.MM(), .5, corner)
		after := (i + 3) % 6
		assert.InDelta(t, whole[(i+1)%4]-1500, a.Frame(after).Length.MM(), .5, corner)
	}
}

// A room that is written down, in any order and either system, is read as the same room.
func TestARoomThatIsWrittenDownIsReadAgain(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		units := rapid.SampledFrom([]length.System{length.Metric, length.Imperial}).Draw(t, "units")
		step := length.MM(10)
		if units == length.Imperial {
			step = length.Inch / 2
		}
		draw := func(name string, low, high float64) length.Length {
			n := rapid.IntRange(int(length.MM(low)/step)+1, int(length.MM(high)/step)).Draw(t, name)
			return length.Length(n) * step
		}
		style := length.Style{System: units}
		w := func(l length.Length) string {
			if units == length.Metric {
				return rapid.SampledFrom([]string{fmt.Sprintf("%g mm", l.MM()), fmt.Sprintf("%g cm", l.MM()/10), fmt.Sprintf("%.2fm", l.MM()/1000), strings.Replace(fmt.Sprintf("%.2f m", l.MM()/1000), ".", ",", 1)}).Draw(t, "written")
			}
			return style.Format(l)
		}
		long, wide, high := draw("long", 3000, 12000), draw("wide", 2500, 8000), draw("high", 2100, 3500)
		pieces := []string{fmt.Sprintf("%s x %s x %s", w(long), w(wide), w(high))}
		type hole struct {
			id         string
			x, w, z, h length.Length
		}
		var holes []hole
		for i, wall := range []string{"A", "B", "C", "D"} {
			span := []length.Length{wide, long, wide, long}[i]
			if rapid.Bool().Draw(t, "door") {
				h := hole{id: wall + "-door", x: draw("x", 20, 500), w: draw("w", 600, 1000), h: draw("h", 1800, 2050)}
				pieces = append(pieces, fmt.Sprintf("door %s %s x %s at %s", wall, w(h.w), w(h.h), w(h.x)))
				holes = append(holes, h)
			}
			if rapid.Bool().Draw(t, "window") && span > length.MM(2500) {
				h := hole{id: wall + "-window", x: draw("x", 1520, 1600), w: draw("w", 400, 850), z: draw("z", 700, 1000), h: draw("h", 500, 1000)}
				pieces = append(pieces, fmt.Sprintf("%s window %s × %s up %s at %s", wall, w(h.w), w(h.h), w(h.z), w(h.x)))
				holes = append(holes, h)
			}
		}
		studs := draw("studs", 300, 700)
		pieces = append(pieces, fmt.Sprintf("studs %s from %s", w(studs), w(step*5)))
		order := rapid.Permutation(pieces).Draw(t, "order")
		text := strings.Join(order, ", ")
		a := read(t, units, text)
		near := func(want, got length.Length, what string) {
			require.InDelta(t, want.MM(), got.MM(), 5.1, "%s of %s", what, text) // metres with two places are 10 mm apart
		}
		near(long, a.Frame(1).Length, "length")
		near(wide, a.Frame(0).Length, "width")
		near(high, a.Walls[2].Profile[0][1], "height")
		near(studs, a.Walls[3].Studs.Spacing, "studs")
		for _, h := range holes {
			f := feature(t, a, h.id)
			near(h.x, f.X, h.id)
			near(h.w, f.W, h.id)
			near(h.z, f.Z, h.id)
			near(h.h, f.H, h.id)
		}
	})
}

// What contradicts itself is said at its piece, with what would be right, and nothing comes of it.
func TestWhatARoomCannotBeIsSaidAtItsPiece(t *testing.T) {
	for _, c := range []struct{ text, at, says string }{
		{"5 x 4 x 2.4, door A 900x2000 at 400, window A 1000x1000 at 800 up 950", "window A", "overlap"},
		{"5 x 4 x 2.4, door A 900x2000 at 3500", "door A", "reach"},
		{"5 x 4 x 2.4, door A 900x2600 at 400", "door A", "high"},
		{"5 x 4 x 2.4, window F 1000x1000 at 800", "window F", "which wall"},
		{"5 x 4 x 2.4, knee walls 2.6, ridge 2.5", "knee walls", "not higher"},
		{"5 x 4 x 2.4, slopes from 2.8 at B to 2.1 at C", "slopes", "opposite"},
		{"5 x 4 x 2.4, door A 900x2000 at 400 wibble", "wibble", "not understood"},
		{"5 x 4 x 2.4, less 6 x 1 at corner BC", "", ""},
		{"5.6 x 4.1, knee walls 1.1, ridge 2.85, door A 0.85 x 1.98 at 0.4", "door A", "but the wall is"},
	} {
		r := note.Room(in(length.Metric), c.text)
		assert.Nil(t, r.Entry, c.text)
		assert.NotEmpty(t, r.Why, c.text)
		found := false
		for _, chip := range r.Chips {
			found = found || chip.Kind == "unknown" && strings.HasPrefix(chip.Text, c.at) && strings.Contains(chip.Says, c.says)
		}
		assert.True(t, found, "%s: %+v", c.text, r.Chips)
	}
	assert.Contains(t, note.Room(in(length.Metric), "door A 900x2000 at 400").Why, "how long and wide")
	assert.NotEmpty(t, note.Room(in(length.Metric), "").Why)
}

func FuzzRead(f *testing.F) {
	f.Add("5.6 x 4.1 x 2.4, door A 850x1980 at 400")
	f.Add(`12' x 8' 6", slopes from 9' 2" at B to 6' 10" at D`)
	f.Fuzz(func(t *testing.T, text string) {
		text = strings.ToValidUTF8(text, "?")
		for _, about := range note.Abouts() {
			r, ok := note.Read(in(length.Metric), about, text)
			require.True(t, ok)
			require.Equal(t, r.Entry == nil, r.Why != "", "%s %q: an entry, or why there is none", about, text)
			runes := []rune(text)
			for _, c := range r.Chips {
				require.LessOrEqual(t, c.To, len(runes))
				require.Equal(t, c.Text, string(runes[c.From:c.To]))
			}
		}
	})
}
