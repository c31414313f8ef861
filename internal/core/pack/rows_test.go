package pack_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"hobrak/internal/core/length"
	"hobrak/internal/core/pack"
	"hobrak/internal/core/quantity"
)

func TestARailKeepsClearanceAndPitch(t *testing.T) {
	p := &pack.Rail{W: 300 * mm, Pitch: 25 * mm}
	p.Put(1, pack.Thing{W: 30 * mm, N: 1, Clearance: 20 * mm}, pack.Spot{})
	assert.Error(t, p.Allows(pack.Thing{W: 30 * mm, N: 1, Clearance: 10 * mm}, pack.Spot{Slot: 1}), "25 mm is on the first one")
	assert.NoError(t, p.Allows(pack.Thing{W: 30 * mm, N: 1, Clearance: 10 * mm}, pack.Spot{Slot: 2}), "30 + 20 is 50")
	assert.Error(t, p.Allows(pack.Thing{W: 30 * mm, N: 1, Clearance: 30 * mm}, pack.Spot{Slot: 2}), "the larger clearance counts")
	spots := p.Spots(pack.Thing{W: 30 * mm, N: 1, Clearance: 10 * mm}, nil)
	require.NotEmpty(t, spots)
	assert.Equal(t, 2, spots[0].Slot)
	assert.ErrorContains(t, p.Allows(pack.Thing{W: 40 * mm, N: 8, Clearance: 10 * mm}, pack.Spot{}), "too wide", "8 · 40 + 7 · 10 is 390")
}

func TestSlotsGoToWhatFitsThem(t *testing.T) {
	fresh := func() *pack.Slots {
		return &pack.Slots{Slots: []pack.Slot{{W: 40 * mm, H: 500 * mm, D: 150 * mm}, {W: 40 * mm, H: 900 * mm, D: 150 * mm}, {W: 40 * mm, H: 900 * mm, D: 150 * mm}}}
	}
	long := pack.Thing{W: 35 * mm, H: 700 * mm, D: 120 * mm, N: 2}
	p := fresh()
	assert.Contains(t, quantity.Metric(p.Allows(long, pack.Spot{}).Error()), "200 mm too long")
	assert.Equal(t, []pack.Spot{{Slot: 1}}, p.Spots(long, nil))
	p.Put(7, long, pack.Spot{Slot: 1})
	assert.ErrorContains(t, p.Allows(pack.Thing{W: 10 * mm, H: 10 * mm, D: 10 * mm, N: 1}, pack.Spot{Slot: 2}), "slot 3 is taken")
	assert.Equal(t, 2.0, p.Used())
	p.Take(7)
	assert.Zero(t, p.Used())
	assert.Contains(t, quantity.Metric(fresh().Allows(pack.Thing{W: 50 * mm, H: 10 * mm, D: 10 * mm, N: 1}, pack.Spot{}).Error()), "10 mm too wide")
	assert.ErrorContains(t, fresh().Allows(pack.Thing{W: 5 * mm, H: 5 * mm, D: 5 * mm, N: 4}, pack.Spot{}), "4 slots are needed, there are 3")
}

func TestSheetsLeanEitherWayUp(t *testing.T) {
	p := &pack.SheetBay{W: 30 * mm, H: 1300 * mm, D: 700 * mm}
	sheet := pack.Thing{W: 1220 * mm, H: 610 * mm, D: 9 * mm, N: 2}
	require.NoError(t, p.Allows(sheet, pack.Spot{}), "on its short edge it is 1220 high and 610 deep")
	p.Put(1, sheet, pack.Spot{})
	assert.ErrorContains(t, p.Allows(pack.Thing{W: 600 * mm, H: 600 * mm, D: 6 * mm, N: 1}, pack.Spot{X: 28 * mm}), "too narrow", "2 · (9 + 5) of 30 are taken")
	assert.Contains(t, quantity.Metric(p.Allows(pack.Thing{W: 1220 * mm, H: 800 * mm, D: 9 * mm, N: 1}, pack.Spot{}).Error()), "100 mm too large")
}

func TestABinTakesItsShareOfItsVolume(t *testing.T) {
	p := &pack.Bin{W: 200 * mm, H: 300 * mm, D: 200 * mm, Fill: .6, Head: 2000 * mm}
	block := pack.Thing{W: 100 * mm, H: 100 * mm, D: 100 * mm, N: 7}
	require.NoError(t, p.Allows(block, pack.Spot{}), "7 l of 7.2")
	block.N = 8
	assert.Contains(t, quantity.Metric(p.Allows(block, pack.Spot{}).Error()), "7.2 l free, 8.0 l needed")
	assert.ErrorContains(t, p.Allows(pack.Thing{W: 450 * mm, H: 10 * mm, D: 10 * mm, N: 1}, pack.Spot{}), "too long", "the diagonal is 412")
	stick := pack.Thing{W: 20 * mm, H: 1800 * mm, D: 20 * mm, N: 1, Lean: true}
	assert.NoError(t, p.Allows(stick, pack.Spot{}), "on end it may stick out")
	stick.H = 2100 * mm
	assert.Contains(t, quantity.Metric(p.Allows(stick, pack.Spot{}).Error()), "100 mm too long")
}

func TestBoardsLieOnArmsOrWhollyOnAPile(t *testing.T) {
	p := &pack.Arms{W: 3000 * mm, D: 300 * mm, Levels: []pack.ArmLevel{{H: 100 * mm}}}
	wide := pack.Thing{W: 2400 * mm, H: 25 * mm, D: 200 * mm, N: 1}
	narrow := pack.Thing{W: 2400 * mm, H: 25 * mm, D: 120 * mm, N: 1}
	p.Put(1, narrow, pack.Spot{})
	assert.ErrorContains(t, p.Allows(wide, pack.Spot{Z: 25 * mm}), "nothing bears it", "a wide one tips on a narrow one")
	assert.ErrorContains(t, p.Allows(wide, pack.Spot{Y: 120 * mm}), "stick out")
	p.Take(1)
	p.Put(2, wide, pack.Spot{})
	require.NoError(t, p.Allows(narrow, pack.Spot{Z: 25 * mm}))
	p.Put(1, narrow, pack.Spot{Z: 25 * mm})
	assert.True(t, p.Bears(2))
	assert.False(t, p.Bears(1))
	high := pack.Thing{W: 2400 * mm, H: 25 * mm, D: 60 * mm, N: 5}
	for _, s := range p.Spots(high, nil) {
		assert.NoError(t, p.Allows(high, s))
		assert.NotEqual(t, 1, s.Cols, "five of 25 on top of each other are higher than the level")
	}
}

func TestAHookHoldsOneThing(t *testing.T) {
	p := &pack.Plane{W: 200 * mm, H: 300 * mm, Single: true}
	one := pack.Thing{W: 50 * mm, H: 50 * mm, N: 1}
	two := pack.Thing{W: 50 * mm, H: 50 * mm, N: 2}
	assert.Empty(t, p.Spots(two, nil))
	assert.ErrorContains(t, p.Allows(two, pack.Spot{}), "one thing")
	p.Put(1, one, p.Spots(one, nil)[0])
	assert.Empty(t, p.Spots(one, nil))
	assert.ErrorContains(t, p.Allows(one, pack.Spot{}), "is taken")
}

func TestACleatFieldHangsByTheTopEdge(t *testing.T) {
	p := &pack.Plane{W: 500 * mm, H: 600 * mm, Rails: []length.Length{200 * mm, 600 * mm}}
	th := pack.Thing{W: 100 * mm, H: 150 * mm, N: 1, Clearance: 20 * mm}
	assert.ErrorContains(t, p.Allows(th, pack.Spot{Y: 100 * mm}), "not at a rail")
	for _, s := range p.Spots(th, nil) {
		assert.Contains(t, []length.Length{200 * mm, 600 * mm}, s.Y+th.H)
	}
	assert.Empty(t, p.Spots(pack.Thing{W: 100 * mm, H: 650 * mm, N: 1}, nil))
}

func TestTurningIsTriedOnlyWhereItIsAllowed(t *testing.T) {
	p := &pack.Plane{W: 100 * mm, H: 400 * mm, Lying: true}
	th := pack.Thing{W: 300 * mm, H: 80 * mm, N: 1}
	assert.Empty(t, p.Spots(th, nil))
	th.Turn = true
	spots := p.Spots(th, nil)
	require.NotEmpty(t, spots)
	assert.True(t, spots[0].Turned)
}
