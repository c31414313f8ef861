package survey_test

import (
	"fmt"
	"math/rand/v2"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"hobrak/demo"
	"hobrak/internal/core/length"
	"hobrak/internal/core/shop"
	"hobrak/internal/core/survey"
)

// fieldsOf lists every field of the notes.
func fieldsOf(b *survey.Book) []survey.Field {
	out := []survey.Field{b.Name, b.Kind, b.Walk, b.Climate, b.Instrument}
	add := func(lists ...[]survey.Field) {
		for _, l := range lists {
			out = append(out, l...)
		}
	}
	for _, w := range b.Walls {
		add([]survey.Field{w.Claimed, w.Length, w.Top, w.Surface}, w.Points, w.Studs)
		for _, f := range w.Features {
			add(f.Fields)
		}
	}
	add(b.Joists, b.Fall)
	for _, t := range append(b.Above, b.Below...) {
		add(t.Fields)
	}
	return out
}

// What the notes show can be typed into them again, and nothing changes but
// that it is no longer assumed.
func TestWhatTheNotesShowCanBeTypedAgain(t *testing.T) {
	for name, data := range map[string][]byte{"slipway": demo.Slipway, "pantry": demo.Pantry} {
		s, err := shop.Read(data)
		require.NoError(t, err)
		before := shop.Write(s)
		fields := fieldsOf(survey.Notes(s, &s.Areas[0]))
		assert.Greater(t, len(fields), 40, name)
		for _, f := range fields {
			if f.Text == "" && f.Length || f.Text == "points" {
				continue
			}
			_, err := survey.Enter(s, "main", survey.Entry{Path: f.Path, Text: f.Text})
			require.NoError(t, err, "%s = %q", f.Path, f.Text)
		}
		assert.Equal(t, string(before), string(shop.Write(s)), name)
	}
}

func TestTheNotesSayWhatIsMeasuredAndWhatFollows(t *testing.T) {
	s := book(length.Metric)
	n := survey.Notes(s, &s.Areas[0])
	assert.Equal(t, "", n.Walls[0].Length.Text)
	assert.Equal(t, "3000", n.Walls[0].Length.Shown, "what is drawn while nothing is measured")
	assert.False(t, n.Walls[0].Done)
	enter(t, s, "walls/A/length=3.2 m", "walls/B/length=4100", "walls/A/top/0/z=2450")
	n = survey.Notes(s, &s.Areas[0])
	assert.Equal(t, "3200", n.Walls[0].Length.Text)
	assert.Equal(t, "3200", n.Walls[2].Length.Shown, "C follows")
	assert.True(t, n.Walls[0].Done)
	assert.False(t, n.Walls[2].Done, "its height is still assumed")
	assert.True(t, n.Walls[2].Points[0].Assumed)
	assert.Equal(t, "2450", n.Walls[2].Points[0].Text)
	enter(t, s, "walls/A/angle=100")
	n = survey.Notes(s, &s.Areas[0])
	assert.Equal(t, "100.0°", n.Walls[0].Angle.Text)
}

func TestNewFeaturesAreAssumedUntilTheyAreMeasured(t *testing.T) {
	s := book(length.Metric)
	enter(t, s, "walls/A/length=3000", "walls/B/length=4000")
	for _, kind := range shop.FeatureKinds() {
		path := enter(t, s, "walls/B/features/+="+string(kind))
		require.NoError(t, s.Validate(), kind)
		f := s.Areas[0].Walls[1].Features[0]
		assert.Equal(t, kind, f.Kind)
		assert.NotEmpty(t, f.Assumed, kind)
		enter(t, s, path+"/x=100")
		assert.NotContains(t, s.Areas[0].Walls[1].Features[0].Assumed, "x")
		enter(t, s, path+"/remove=")
		assert.Empty(t, s.Areas[0].Walls[1].Features)
	}
	// A second one of a kind gets an id and a spot of its own.
	enter(t, s, "walls/B/features/+=window", "walls/B/features/+=window", "walls/B/features/+=outlet", "walls/B/features/+=outlet")
	require.NoError(t, s.Validate())
	ids := map[string]bool{}
	for _, f := range s.Areas[0].Walls[1].Features {
		assert.False(t, ids[f.ID], f.ID)
		ids[f.ID] = true
	}
	assert.True(t, ids["B-window-2"])
}

func TestAnAssumedSizeYieldsToWhatIsMeasured(t *testing.T) {
	s := book(length.Metric)
	enter(t, s, "walls/A/length=3000", "walls/B/length=4000", "walls/A/top/0/z=2400", "walls/A/features/+=door", "walls/A/features/A-door/x=2700")
	door := s.Areas[0].Walls[0].Features[0]
	assert.Equal(t, mm(300), door.W, "900 assumed do not go in, 300 are left")
	enter(t, s, "walls/A/features/+=window", "walls/A/features/A-window/x=100", "walls/A/features/A-window/w=800", "walls/A/features/A-window/z=1800")
	window := s.Areas[0].Walls[0].Features[1]
	assert.Equal(t, mm(600), window.H, "up to the top of the wall")
	require.NoError(t, s.Validate())
}

func TestStudsCeilingAndFloorAreEntered(t *testing.T) {
	s := book(length.Metric)
	enter(t, s, "walls/A/length=3000", "walls/B/length=4000", "walls/A/studs=listed", "walls/A/studs/width=45", "walls/A/studs/list=300; 0.9 m; 1500;")
	assert.Equal(t, []length.Length{mm(300), mm(900), mm(1500)}, s.Areas[0].Walls[0].Studs.Centres(mm(3000)))
	refused(t, s, "walls/A/studs/list=300; 310", "cannot follow one at 300 mm")
	refused(t, s, "walls/A/studs/list=3500", "beyond the end of the wall")
	refused(t, s, "walls/A/studs/list=", "at least one stud")
	enter(t, s, "walls/A/studs=spaced", "walls/A/studs/first=200", "walls/A/studs/spacing=600")
	assert.Len(t, s.Areas[0].Walls[0].Studs.Centres(mm(3000)), 5)
	enter(t, s, "ceiling/joists=x", "ceiling/joists/first=250", "ceiling/joists/spacing=450")
	light := enter(t, s, "ceiling/features/+=light")
	enter(t, s, light+"/x=500", light+"/w=600", light+"/drop=90", "floor/fall=12", "floor/toward=C")
	post := enter(t, s, "floor/features/+=post")
	enter(t, s, post+"/x=1200", post+"/w=140")
	require.NoError(t, s.Validate())
	a := &s.Areas[0]
	assert.Equal(t, mm(90), a.Ceiling.Features[0].Drop)
	assert.Equal(t, 12.0, a.Floor.Fall.MMPerM)
	refused(t, s, light+"/x=90 m", "longer than any room")
	refused(t, s, light+"/x=9000", "outside the room")
	refused(t, s, "floor/fall=900", "from 0 to 200")
	enter(t, s, light+"/remove=", post+"/remove=", "floor/fall=0", "ceiling/joists=none", "walls/A/studs=none")
	assert.Nil(t, a.Ceiling)
	assert.Nil(t, a.Floor)
	assert.Nil(t, a.Walls[0].Studs)
}

// The proposed diagonals, taken one after the other, end in a checked room.
func TestProposedDiagonalsCheckTheRoom(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		rnd := rand.New(rand.NewPCG(rapid.Uint64().Draw(t, "seed"), 9))
		w, d := 2000+upTo6m(rnd), 2000+upTo6m(rnd)
		s := book(length.Metric)
		enter(t, s, "instrument=laser", fmt.Sprintf("walls/A/length=%.0f", d), fmt.Sprintf("walls/B/length=%.0f", w), fmt.Sprintf("walls/C/length=%.0f", d), fmt.Sprintf("walls/D/length=%.0f", w))
		for range 2 {
			p := survey.Of(&s.Areas[0]).Propose
			require.NotNil(t, p)
			enter(t, s, fmt.Sprintf("measures/+/diagonal:%d-%d=%.1f", p.From, p.To, p.Length))
		}
		r := survey.Of(&s.Areas[0])
		assert.True(t, r.Checked)
		assert.Nil(t, r.Suspect)
		assert.Nil(t, r.Propose)
		for _, m := range r.Measures {
			assert.InDelta(t, 0, m.Residual, .2, m.Name)
		}
	})
}

func upTo6m(rnd *rand.Rand) float64 { return float64(rnd.IntN(6000)) }
