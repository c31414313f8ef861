package survey_test

import (
	"errors"
	"fmt"
	"math/rand/v2"
	"strconv"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"hobrak/demo"
	"hobrak/internal/core/length"
	"hobrak/internal/core/quantity"
	"hobrak/internal/core/shop"
	"hobrak/internal/core/survey"
)

// book is a shop with one area that nothing is known of.
func book(units length.System) *shop.Shop {
	s := &shop.Shop{Format: shop.Format, Version: shop.Version, Settings: shop.Settings{Name: "t", Units: units}}
	survey.NewArea(s, "Room")
	return s
}

// enter types texts into fields, given as path=text; all must be taken.
func enter(t require.TestingT, s *shop.Shop, entries ...string) (last string) {
	for _, e := range entries {
		path, text, _ := strings.Cut(e, "=")
		added, err := survey.Enter(s, "main", survey.Entry{Path: path, Text: text})
		require.NoError(t, err, e)
		last = added
	}
	return last
}

func refused(t *testing.T, s *shop.Shop, entry, says string) {
	t.Helper()
	path, text, _ := strings.Cut(entry, "=")
	_, err := survey.Enter(s.Clone(), "main", survey.Entry{Path: path, Text: text})
	var f *survey.FieldError
	require.ErrorAs(t, err, &f, entry)
	assert.Equal(t, path, f.Path)
	assert.Contains(t, quantity.Metric(f.Reason), says, entry)
}

func corners(s *shop.Shop) string {
	var out []string
	for _, c := range s.Areas[0].Corners {
		out = append(out, fmt.Sprintf("%v,%v", c[0].MM(), c[1].MM()))
	}
	return strings.Join(out, " ")
}

func TestTwoLengthsMakeARectangle(t *testing.T) {
	s := book(length.Metric)
	enter(t, s, "walls/A/length=4600", "walls/B/length=7.3 m")
	assert.Equal(t, "0,0 0,4600 7300,4600 7300,0", corners(s))
	r := survey.Of(&s.Areas[0])
	assert.False(t, r.Checked)
	require.NotNil(t, r.Propose)
	assert.Equal(t, "Nothing checks these lengths yet: measure the diagonal DA to BC, about 8628.4 mm", quantity.Metric(r.Propose.Says))
	assert.Equal(t, []bool{true, true, false, false}, []bool{r.Walls[0].Measured, r.Walls[1].Measured, r.Walls[2].Measured, r.Walls[3].Measured})
	require.NoError(t, s.Validate())
}

func TestACornerThatTurnsLeftMakesAnLShapedRoom(t *testing.T) {
	s := book(length.Metric)
	enter(t, s, "walls/A/length=5000", "walls/B/length=3000", "walls/B/angle=square", "walls/C/angle=left")
	require.Len(t, s.Areas[0].Walls, 6)
	enter(t, s, "walls/C/length=2000", "walls/D/length=2500")
	assert.Equal(t, "0,0 0,5000 3000,5000 3000,3000 5500,3000 5500,0", corners(s))
	require.NoError(t, s.Validate())
	enter(t, s, "walls/D/length=", "walls/C/angle=square")
	assert.Len(t, s.Areas[0].Walls, 4, "walls that nothing is known of go again")
}

func TestATopEdgeMaySlopeOrFormAGable(t *testing.T) {
	s := book(length.Metric)
	enter(t, s, "walls/B/length=4000", "walls/A/top/0/z=2500")
	assert.Equal(t, length.MM(2500), s.Areas[0].Walls[2].Profile[0][1], "walls not looked at yet are as high as the one measured")
	enter(t, s, "walls/B/top=slope")
	w := &s.Areas[0].Walls[1]
	assert.NotEqual(t, w.Profile[0][1], w.Profile[1][1], "a slope slopes")
	enter(t, s, "walls/B/top/0/z=2500", "walls/B/top/1/z=3.1 m", "walls/B/top=gable", "walls/B/top/1/x=1500", "walls/B/top/1/z=3600")
	assert.Equal(t, []shop.Point{{0, mm(2500)}, {mm(1500), mm(3600)}, {mm(4000), mm(3100)}}, w.Profile)
	refused(t, s, "walls/B/top/1/x=4100", "not between the points left and right of it")
	enter(t, s, "walls/B/top=level")
	assert.Equal(t, []shop.Point{{0, mm(2500)}, {mm(4000), mm(2500)}}, w.Profile)
	require.NoError(t, s.Validate())
}

func mm(v float64) length.Length { return length.MM(v) }

func TestACornerCutOff(t *testing.T) {
	s := book(length.Metric)
	enter(t, s, "walls/A/length=3000", "walls/A/angle=135", "walls/B/length=1414.2", "walls/B/angle=135", "walls/C/length=3000")
	require.Len(t, s.Areas[0].Walls, 5)
	assert.Equal(t, "0,0 0,3000 1000,4000 4000,4000 4000,0", corners(s))
	assert.Equal(t, "measured", survey.Of(&s.Areas[0]).Corners[1].How)
}

func TestAWrongReadingIsNamedAndCanBeLeftOut(t *testing.T) {
	s := book(length.Metric)
	enter(t, s, "instrument=laser", "walls/A/length=3372", "walls/B/length=4000", "walls/C/length=3412", "walls/D/length=4000", "measures/+/diagonal:0-2=5231.8", "measures/+/diagonal:1-3=5231.8")
	r := survey.Of(&s.Areas[0])
	require.NotNil(t, r.Suspect)
	assert.Contains(t, quantity.Metric(r.Suspect.Says), "wall C: 3412 mm measured, 33")
	assert.InDelta(t, 3372, r.Suspect.Fits, 3)
	assert.Contains(t, r.Suspect.Rivals, "wall A", "with both diagonals taken, 40 mm too much in C is nearly 40 too little in A")
	assert.Nil(t, r.Propose, "there is no further diagonal")
	enter(t, s, "measures/2/left_out=yes")
	r = survey.Of(&s.Areas[0])
	assert.Nil(t, r.Suspect)
	assert.InDelta(t, 3372, r.Walls[2].Adjusted, 1)
	assert.Len(t, s.Areas[0].Survey.Measures, 6, "kept, but not used")
	enter(t, s, "measures/2/value=3371")
	assert.False(t, s.Areas[0].Survey.Measures[2].LeftOut, "measured again, it counts")
}

func TestWhatCannotBeIsRefusedAtTheField(t *testing.T) {
	s := book(length.Metric)
	enter(t, s, "walls/A/length=3000", "walls/B/length=4000", "walls/A/top/0/z=2400", "walls/A/features/+=door", "walls/A/features/A-door/x=200", "walls/A/features/A-door/w=900", "walls/A/studs=spaced")
	refused(t, s, "walls/A/length=four", "not a number")
	refused(t, s, "walls/A/length=0", "should be more than 0")
	refused(t, s, "walls/A/length=3 km", "is not a unit")
	refused(t, s, "walls/Q/length=3 m", "no wall")
	refused(t, s, "walls/A/height=3 m", "no field")
	refused(t, s, "walls/A/features/A-door/w=3500", "3500 mm wide does not go into wall A, which is 3000 mm long")
	refused(t, s, "walls/A/features/A-door/x=2500", "would reach to 3400 mm")
	refused(t, s, "walls/A/features/A-door/h=2500", "the wall is 2400 mm high there")
	refused(t, s, "walls/A/top/0/z=1800", "the door reaches up to 2000 mm, above this top edge")
	refused(t, s, "walls/A/studs/spacing=30", "cannot stand")
	refused(t, s, "walls/A/studs/first=3100", "beyond the end of the wall")
	refused(t, s, "walls/B/studs/first=300", "has studs")
	refused(t, s, "walls/A/angle=400", "from 1 to 359")
	refused(t, s, "ceiling/features/+=ghost", "should be one of light")
	refused(t, s, "walls/A/remove=", "main door")
	refused(t, s, "measures/7/value=3", "no measurement 7")
	enter(t, s, "walls/A/features/+=window", "walls/A/features/A-window/w=500", "walls/A/features/A-window/x=500")
	assert.Contains(t, quantity.Metric(s.Validate().Error()), "A-door and A-window overlap: from 500 mm to 1000 mm along the wall")
}

// A wrong reading bends the room; the corners are still taken as square, so
// that the diagonals taken later show which one it was.
func TestAWrongReadingDoesNotMakeCornersAskewForGood(t *testing.T) {
	s := book(length.Metric)
	enter(t, s, "instrument=laser", "walls/A/length=2794", "walls/B/length=2235", "walls/C/length=3060", "walls/D/length=2235", "measures/+/diagonal:0-2=3578", "measures/+/diagonal:1-3=3578")
	r := survey.Of(&s.Areas[0])
	require.NotNil(t, r.Suspect)
	assert.Contains(t, quantity.Metric(r.Suspect.Says), "wall C: 3060 mm measured, 279")
	for _, c := range r.Corners {
		assert.Equal(t, "square", c.How)
	}
}

func TestAWayThatDoesNotCloseIsKeptButNotDrawn(t *testing.T) {
	s := book(length.Metric)
	enter(t, s, "walls/A/length=3000", "walls/B/length=4000", "walls/C/length=3000", "walls/D/length=4000")
	before := corners(s)
	enter(t, s, "walls/C/length=4900")
	r := survey.Of(&s.Areas[0])
	assert.Contains(t, quantity.Metric(r.Fault), "miss the first corner by 1900 mm, 12 % of the way round")
	assert.Equal(t, before, corners(s), "the room stays as it was")
	assert.Equal(t, length.MM(4900), s.Areas[0].Survey.Measures[2].Length, "what was typed is kept")
	enter(t, s, "walls/A/length=4900")
	assert.Empty(t, survey.Of(&s.Areas[0]).Fault)
	assert.Equal(t, "0,0 0,4900 4000,4900 4000,0", corners(s))
}

func TestAnOutlineThatCrossesItselfIsNamed(t *testing.T) {
	s := book(length.Metric)
	enter(t, s, "walls/A/length=5000", "walls/B/length=3000", "walls/C/angle=left", "walls/C/length=2000", "walls/D/length=2500")
	enter(t, s, "walls/C/length=5600")
	assert.Contains(t, survey.Of(&s.Areas[0]).Fault, "crosses itself")
	require.NoError(t, s.Validate(), "the half-done survey can be saved")
}

func TestARoomThatBecomesShorterTakesWhatStandsThereAlong(t *testing.T) {
	s, err := shop.Read(demo.Slipway)
	require.NoError(t, err)
	enter(t, s, "walls/B/length=7250", "walls/D/length=7250", "measures/4/left_out=yes", "measures/5/left_out=yes")
	assert.InDelta(t, 7250, s.Areas[0].Frame(1).Length.MM(), .2)
	require.NoError(t, s.Validate())
}

func TestAWallCanBeSplitAndTakenAway(t *testing.T) {
	s := book(length.Metric)
	enter(t, s, "walls/A/length=3000", "walls/B/length=4000", "measures/+/diagonal:0-2=5000")
	assert.Equal(t, "walls/B", enter(t, s, "walls/A/split="))
	require.Len(t, s.Areas[0].Walls, 5)
	require.NoError(t, s.Validate())
	assert.Equal(t, 3, s.Areas[0].Survey.Measures[1].To, "the diagonal keeps its corners")
	assert.Equal(t, "C", s.Areas[0].Survey.Measures[0].Wall, "the old wall B is C now")
	enter(t, s, "walls/B/remove=")
	require.NoError(t, s.Validate())
	assert.Len(t, s.Areas[0].Walls, 4)
}

// entriesOf are the entries that survey an area from nothing.
func entriesOf(a *shop.Area, style length.Style) []string {
	var out []string
	put := func(path string, text string) { out = append(out, path+"="+text) }
	num := func(path string, l length.Length) { put(path, style.Format(l)) }
	put("name", a.Name)
	put("climate", strings.Join(a.Climate, ","))
	put("instrument", a.Survey.Instrument)
	for i, w := range a.Walls {
		num("walls/"+w.ID+"/length", a.Frame(i).Length)
	}
	for _, w := range a.Walls {
		at := "walls/" + w.ID
		if w.Profile[0][1] != w.Profile[len(w.Profile)-1][1] {
			put(at+"/top", "slope")
			num(at+"/top/1/z", w.Profile[1][1])
		}
		num(at+"/top/0/z", w.Profile[0][1])
		put(at+"/surface", w.Surface)
		put(at+"/claimed", map[bool]string{true: "yes", false: "no"}[w.Claimed])
		if w.Studs != nil {
			put(at+"/studs", "spaced")
			num(at+"/studs/spacing", w.Studs.Spacing)
			num(at+"/studs/first", w.Studs.First)
			num(at+"/studs/width", w.Studs.Width)
		}
		for _, f := range w.Features {
			fp := at + "/features/" + f.ID
			put(at+"/features/+", string(f.Kind))
			num(fp+"/x", f.X)
			num(fp+"/w", f.W)
			num(fp+"/z", f.Z)
			num(fp+"/h", f.H)
			for field, text := range map[string]string{"hinge": f.Hinge, "swing": f.Swing, "shape": f.Shape, "name": f.Name, "circuit": f.Circuit} {
				if text != "" {
					put(fp+"/"+field, text)
				}
			}
			if f.D > 0 {
				num(fp+"/d", f.D)
			}
		}
	}
	if c := a.Ceiling; c != nil {
		put("ceiling/joists", c.Joists.Along)
		num("ceiling/joists/spacing", c.Joists.Spacing)
		num("ceiling/joists/first", c.Joists.First)
		for _, f := range c.Features {
			put("ceiling/features/+", f.Kind)
			for field, l := range map[string]length.Length{"x": f.X, "y": f.Y, "w": f.W, "d": f.D, "drop": f.Drop} {
				num("ceiling/features/"+f.ID+"/"+field, l)
			}
		}
	}
	if f := a.Floor; f != nil {
		put("floor/fall", strconv.FormatFloat(f.Fall.MMPerM, 'f', -1, 64))
		put("floor/toward", f.Fall.Toward)
		for _, x := range f.Features {
			put("floor/features/+", x.Kind)
			for field, l := range map[string]length.Length{"x": x.X, "y": x.Y, "w": x.W, "d": x.D} {
				num("floor/features/"+x.ID+"/"+field, l)
			}
		}
	}
	for _, m := range a.Survey.Measures {
		if m.Kind == "diagonal" {
			put(fmt.Sprintf("measures/+/diagonal:%d-%d", m.From, m.To), strconv.FormatFloat(m.Length.MM(), 'f', -1, 64)+" mm")
		}
	}
	return out
}

func TestTheDemoRoomsCanBeEnteredFromNothing(t *testing.T) {
	for name, data := range map[string][]byte{"slipway": demo.Slipway, "pantry": demo.Pantry} {
		want, err := shop.Read(data)
		require.NoError(t, err)
		s := book(want.Settings.Units)
		entries := entriesOf(&want.Areas[0], length.Style{System: want.Settings.Units, Denominator: 64})
		enter(t, s, entries...)
		require.NoError(t, s.Validate())
		assert.Equal(t, want.Areas[0], s.Areas[0], "%s, in %d entries", name, len(entries))
	}
}

func TestEnteredRandomRoomsAreFound(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		rnd := rand.New(rand.NewPCG(rapid.Uint64().Draw(t, "seed"), 3))
		truth := stepped(rnd, 2*rapid.IntRange(2, 8).Draw(t, "half"))
		n := len(truth)
		s := book(length.Metric)
		mm := func(v float64) string { return strconv.FormatFloat(v, 'f', 3, 64) }
		for i := range n - 1 {
			angle := "square"
			if survey.Inside(truth, i+1) > 180 {
				angle = "left"
			}
			if _, err := survey.Enter(s, "main", survey.Entry{Path: "walls/" + s.Areas[0].Walls[i].ID + "/angle", Text: angle}); err != nil {
				t.Fatalf("corner %d: %v", i+1, err)
			}
			enter(t, s, "walls/"+s.Areas[0].Walls[i].ID+"/length="+mm(truth[i].Distance(truth[i+1])))
		}
		require.Len(t, s.Areas[0].Corners, n)
		for i, c := range s.Areas[0].Corners {
			assert.InDelta(t, truth[i].X, c[0].MM(), .3)
			assert.InDelta(t, truth[i].Y, c[1].MM(), .3)
		}
		require.NoError(t, s.Validate())
	})
}

func FuzzEnter(f *testing.F) {
	for _, seed := range [][2]string{{"walls/A/length", "4600"}, {"walls/A/angle", "135"}, {"measures/+/diagonal:0-2", "5 m"}, {"walls/A/features/+", "door"}, {"walls/A/top/0/z", "2400"}, {"ceiling/joists", "x"}, {"floor/fall", "10"}, {"walls/B/studs/list", "300; 900"}, {"walls/B/split", ""}} {
		f.Add(seed[0], seed[1])
	}
	f.Fuzz(func(t *testing.T, path, text string) {
		s := book(length.Metric)
		_, err := survey.Enter(s, "main", survey.Entry{Path: path, Text: text})
		var fe *survey.FieldError
		if err != nil && !errors.As(err, &fe) {
			t.Fatalf("%v is no FieldError", err)
		}
		if err == nil {
			_ = survey.Of(&s.Areas[0])
			_ = s.Validate()
		}
	})
}
