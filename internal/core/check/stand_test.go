package check_test

import (
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"hobrak/demo"
	"hobrak/internal/core/check"
	"hobrak/internal/core/quantity"
	"hobrak/internal/core/shop"
	"hobrak/internal/core/weight"
)

// said are the findings of a code about an id.
func said(t *testing.T, s *shop.Shop, code, id string) (out []string) {
	require.NoError(t, s.Validate())
	found, err := check.Shop(s)
	require.NoError(t, err)
	for _, f := range found {
		if f.Code == code && f.Where == id {
			assert.False(t, f.Hard)
			out = append(out, f.String())
		}
	}
	return out
}

func TestWhatTipsHangsIntoOrIsNotRatedIsACaution(t *testing.T) {
	s, err := shop.Read(demo.Slipway)
	require.NoError(t, err)
	require.Empty(t, said(t, s, "into", "B1"))
	place(s, "B1").At.Z = mm(700)
	assert.Contains(t, quantity.Metric(said(t, s, "into", "B1")[0]), "hangs 180 mm down into bench")

	s, err = shop.Read(demo.Slipway)
	require.NoError(t, err)
	b := place(s, "B1")
	b.Capacity, b.Fixing = 0, nil
	assert.Empty(t, said(t, s, "not-rated", "B1"), "it covers three studs")
	for i := range s.Areas[0].Walls {
		s.Areas[0].Walls[i].Studs = nil
	}
	assert.Contains(t, said(t, s, "not-rated", "B1")[0], "0 studs behind it")
	s.Areas[0].Walls[1].Surface = "brick"
	assert.Contains(t, said(t, s, "not-rated", "B1")[0], "hangs on brick")
	b.Capacity = weight.KG(80)
	assert.Empty(t, said(t, s, "not-rated", "B1"), "a rating wins")

	// A tall narrow trolley with everything at its top.
	s, err = shop.Read(demo.Pantry)
	require.NoError(t, err)
	s.Containers = append(s.Containers, shop.Container{ID: "Q1", Kind: "trolley", At: shop.At{Floor: &shop.Point{mm(1000), mm(1000)}}, W: mm(300), D: mm(300), H: mm(1800), KG: weight.KG(8)})
	s.Places = append(s.Places, shop.Place{ID: "Q1-1", Kind: "shelf", At: shop.At{In: "Q1", Z: mm(1300)}, W: mm(280), H: mm(400), D: mm(280)})
	assert.Contains(t, said(t, s, "tips", "Q1")[0], "fix it to the wall", "empty it tips at 8 degrees, under 10")
}

// found are all findings of a shop about an id.
func found(t *testing.T, s *shop.Shop, code, id string) (out []check.Finding) {
	require.NoError(t, s.Validate())
	all, err := check.Shop(s)
	require.NoError(t, err)
	for _, f := range all {
		if f.Code == code && (f.Where == id || id == "") {
			out = append(out, f)
		}
	}
	return out
}

func TestScrewsThatAreOverloadedBreakARule(t *testing.T) {
	s, err := shop.Read(demo.Slipway)
	require.NoError(t, err)
	b := place(s, "B1")
	b.Capacity = 0
	b.Fixing = &shop.Fixing{Screws: 1, D: mm(3), Thread: mm(20), Side: mm(18), Lever: mm(20)}
	over := found(t, s, "fixing", "B1")
	require.Len(t, over, 1)
	assert.True(t, over[0].Hard)
	assert.Contains(t, over[0].What, "its screws hold")
	*b.Fixing = shop.Fixing{Screws: 16, D: mm(5), Thread: mm(40), Side: mm(18), Lever: mm(1000)}
	assert.Empty(t, found(t, s, "fixing", "B1"))
	b.Fixing.Thread = 0
	assert.Contains(t, found(t, s, "not-rated", "B1")[0].What, "how much thread is in the stud is not said")
	b.Fixing.Thread = mm(40)
	for i := range s.Areas[0].Walls {
		if s.Areas[0].Walls[i].ID == "B" {
			s.Areas[0].Walls[i].Studs.First = mm(3000)
			s.Areas[0].Walls[i].Studs.Spacing = mm(3000)
		}
	}
	b.At.X = mm(200)
	assert.Contains(t, found(t, s, "not-rated", "B1")[0].What, "none is behind it")

	// A wall cabinet weighs in with what is in it.
	s, err = shop.Read(demo.Slipway)
	require.NoError(t, err)
	for i := range s.Containers {
		if s.Containers[i].ID == "K4" {
			s.Containers[i].KG, s.Containers[i].Capacity = weight.KG(30), 0
			s.Containers[i].Fixing = &shop.Fixing{Screws: 1, D: mm(3), Thread: mm(20), Side: mm(18), Lever: mm(50)}
		}
	}
	assert.NotEmpty(t, found(t, s, "fixing", "K4"))
}

func TestWhatCannotBeLiftedOffItsRailIsSaid(t *testing.T) {
	s, err := shop.Read(demo.Slipway)
	require.NoError(t, err)
	require.Empty(t, found(t, s, "lift-off", ""))
	b := place(s, "B1")
	// A shelf hung close over the field.
	top := b.At.Z + b.H
	s.Places = append(s.Places, shop.Place{ID: "B9", Kind: "shelf", At: shop.At{Wall: "B", X: b.At.X, Z: top + mm(5)}, W: b.W, H: mm(60), D: mm(120), Capacity: weight.KG(5)})
	b.Rows = append(b.Rows, b.H)
	s.Items = append(s.Items, shop.Item{ID: "tall", Name: "Tall thing", W: mm(60), H: mm(120), D: mm(50), Hold: []shop.Hold{"hang"}})
	s.Homes = append(s.Homes, shop.Home{Item: "tall", Place: "B1", X: 0, Z: b.H - mm(120)})
	off := found(t, s, "lift-off", "B1")
	require.NotEmpty(t, off)
	i := slices.IndexFunc(off, func(f check.Finding) bool { return strings.HasPrefix(f.What, "Tall thing") })
	require.GreaterOrEqual(t, i, 0)
	assert.Contains(t, quantity.Metric(off[i].What), "5 mm below B9")
	assert.InDelta(t, 35, off[i].By, .1)
}

func TestABoxOnADeckSharesItsRoomAndItsLoad(t *testing.T) {
	s, err := shop.Read(demo.Slipway)
	require.NoError(t, err)
	e := place(s, "E1")
	s.Homes = nil
	s.Containers = append(s.Containers, shop.Container{ID: "T7", Kind: "tote", At: shop.At{In: "E1", X: mm(100), Y: mm(100)}, W: mm(400), H: mm(300), D: mm(300), KG: weight.KG(1)})
	s.Places = append(s.Places, shop.Place{ID: "T7-1", Kind: "bin", At: shop.At{In: "T7"}, W: mm(380), H: mm(280), D: mm(280)})
	s.Items = append(s.Items,
		shop.Item{ID: "lead", Name: "Lead", W: mm(100), H: mm(100), D: mm(100), KG: weight.KG(70), Hold: []shop.Hold{"bin"}},
		shop.Item{ID: "board", Name: "Board", W: mm(300), H: mm(50), D: mm(200), KG: weight.KG(1), Hold: []shop.Hold{"flat"}})
	s.Homes = []shop.Home{{Item: "lead", Place: "T7-1", Locked: true}, {Item: "board", Place: "E1", X: mm(450), Y: mm(150)}}
	assert.Contains(t, found(t, s, "overlap", "homes[1]")[0].What, "T7")
	over := found(t, s, "capacity", "E1")
	require.Len(t, over, 1)
	assert.InDelta(t, 70+1+1+1.2-e.Capacity.KG(), over[0].By, .01, "with the repair box that is there")
	s.Homes[1].X = mm(600)
	assert.Empty(t, found(t, s, "overlap", ""))

	s.Containers[len(s.Containers)-1].At.X = mm(1800)
	assert.ErrorContains(t, s.Validate(), "does not fit on E1")
	s.Containers[len(s.Containers)-1].At = shop.At{In: "N1"}
	assert.ErrorContains(t, s.Validate(), "N1 is a drawer; a container can be on a wall field, shelf, deck or floor")
	s.Containers[len(s.Containers)-1].At = shop.At{In: "T7-1"}
	assert.ErrorContains(t, s.Validate(), "is inside itself")
}

func TestBoardsThatSagAndArmsBesideTheStudsAreSaid(t *testing.T) {
	s, err := shop.Read(demo.Slipway)
	require.NoError(t, err)
	b := place(s, "B3")
	b.Arms = 2
	sag := found(t, s, "sags", "B3")
	require.NotEmpty(t, sag, "4 200 mm between two arms")
	assert.Contains(t, sag[0].What, "more arms")
	b.Arms = 12
	assert.Contains(t, found(t, s, "arms", "B3")[0].What, "12 arms a level")
	shelf := place(s, "K6-1")
	shelf.Board = &shop.Board{Wood: "mdf", T: mm(6)}
	assert.NotEmpty(t, found(t, s, "sags", "K6-1"))
	shelf.Board = &shop.Board{Wood: "ash", T: mm(40), Strip: mm(60)}
	assert.Empty(t, found(t, s, "sags", "K6-1"))
}

// In the evening the boat is before three machines of the demo: that is said of each, and not once the boat stays outside.
func TestMachinesThatAreBoxedInInAModeAreNamed(t *testing.T) {
	s, err := shop.Read(demo.Slipway)
	require.NoError(t, err)
	k := slices.IndexFunc(s.Modes, func(m shop.Mode) bool { return m.ID == "evening" })
	boxed := []string{"bandsaw", "drill-press", "drum-sander"}
	for _, st := range s.Stations {
		was := said(t, s, "no-room", st.ID)
		require.Equal(t, slices.Contains(boxed, st.ID), len(was) == 1, "%s: %v", st.ID, was)
		for _, says := range was {
			assert.Contains(t, says, s.Modes[k].Name)
		}
	}
	delete(s.Modes[k].Spots, "skiff")
	for _, id := range boxed {
		assert.Empty(t, said(t, s, "no-room", id))
	}
}
