package free

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"hobrak/internal/core/length"
	"hobrak/internal/core/quantity"
	"hobrak/internal/core/shop"
)

// plain is a room of 4 × 3 m, 2.7 m high, with a feature on a wall.
func plain(wall int, f ...shop.Feature) *shop.Area {
	a := areaOf([][2]float64{{0, 0}, {0, 3000}, {4000, 3000}, {4000, 0}}, 2700)
	a.Walls[wall].Features = f
	return a
}

func deadOf(t *testing.T, s *shop.Shop, kind string) []Dead {
	var out []Dead
	for _, d := range Of(mapOf(t, s)).Dead {
		if d.Kind == kind {
			out = append(out, d)
		}
	}
	return out
}

func TestBehindAnOpenDoorOnlyThinThingsHaveRoom(t *testing.T) {
	door := featureAt("door", "door", 150, 0, 900, 2000)
	door.Hinge, door.Swing = "left", "in"
	found := deadOf(t, shopOf(plain(0, door)), "behind-door")
	require.Len(t, found, 1)
	d := found[0]
	assert.Equal(t, "D", d.Wall, "the door opens against the wall at its hinges")
	assert.Equal(t, []float64{3100, 900, 2000, 110}, []float64{d.X, d.W, d.H, d.D}, "150 less a leaf of 40")
	assert.Contains(t, quantity.Metric(d.Note), "thinner than 110 mm")
	door.Swing = "out"
	assert.Empty(t, deadOf(t, shopOf(plain(0, door)), "behind-door"))
	door.Swing, door.X = "in", length.MM(60)
	assert.Empty(t, deadOf(t, shopOf(plain(0, door)), "behind-door"), "20 mm hold nothing")
}

func TestOverAnOverheadDoorThereIsRoomAboveItsTracks(t *testing.T) {
	names := map[string]Dead{}
	for _, d := range deadOf(t, shopOf(plain(3, featureAt("up", "sectional-door", 800, 0, 2400, 2000))), "over-door") {
		names[d.Name] = d
	}
	d, ok := names["over the tracks of the sectional-door"]
	require.True(t, ok)
	assert.InDelta(t, 2700-2000-trackHigh, d.H, .1)
	assert.Equal(t, 2300.0, d.D, "as deep as the door is high, and the tracks beyond")
}

func TestBetweenBareStudsThereAreBays(t *testing.T) {
	a := plain(1)
	a.Walls[1].Surface = "bare-studs"
	a.Walls[1].Studs = &shop.Studs{First: length.MM(200), Spacing: length.MM(600), Width: length.MM(45)}
	found := deadOf(t, shopOf(a), "between-studs")
	require.Len(t, found, 1)
	assert.Equal(t, "between the studs, 6 bays of 555 mm", quantity.Metric(found[0].Name))
	a.Walls[1].Surface = "drywall"
	assert.Empty(t, deadOf(t, shopOf(a), "between-studs"), "closed walls have none to offer")
}

func TestUnderABenchCountsWhatIsThereAlready(t *testing.T) {
	s := shopOf(plain(0))
	s.Stations = []shop.Station{{ID: "bench", Name: "Bench", Kind: "bench", X: length.MM(1000), Y: length.MM(2300), W: length.MM(2000), D: length.MM(700), H: length.MM(900), Stand: pointOf(2000, 2000)}}
	bare := deadOf(t, s, "under-bench")
	require.Len(t, bare, 1)
	assert.Equal(t, []float64{1840, 780, 650}, []float64{bare[0].W, bare[0].H, bare[0].D})
	s.Places = []shop.Place{{ID: "N1", Kind: "drawer", At: shop.At{Station: "bench", X: length.MM(80), Z: length.MM(600)}, W: length.MM(1840), H: length.MM(150), D: length.MM(600)}}
	less := deadOf(t, s, "under-bench")
	require.Len(t, less, 1)
	assert.InDelta(t, 630, less[0].H, .1)
}

func TestWhatIsKeptClearIsListed(t *testing.T) {
	door := featureAt("door", "double-door", 500, 0, 1600, 2000)
	door.Swing = "in"
	a := plain(0, door)
	a.Walls[1].Features = []shop.Feature{featureAt("panel", "panel", 1000, 1200, 400, 600), featureAt("heater", "heater", 2500, 100, 800, 500)}
	m := mapOf(t, shopOf(a))
	kept, head := KeptClear(m, &m.Shop.Areas[0])
	assert.Equal(t, 1800.0, head, "1700 and 100")
	kinds := map[string]int{}
	for _, k := range kept {
		kinds[k.Limit.Kind]++
		assert.NotEmpty(t, k.Limit.Says)
		assert.Less(t, k.From, k.To)
	}
	assert.Equal(t, map[string]int{"door-swing": 2, "panel": 1, "heater": 1}, kinds, "two leaves")
}

func TestWhatHangsTakesFreeWallAndNotUsableWall(t *testing.T) {
	s := shopOf(plain(0))
	before := Of(mapOf(t, s)).Walls[1]
	s.Places = []shop.Place{{ID: "B1", Name: "Field", Kind: "wall-field", Style: "board", At: shop.At{Wall: "B", X: length.MM(1000), Z: length.MM(900)}, W: length.MM(2000), H: length.MM(1000), D: length.MM(200)}}
	after := Of(mapOf(t, s)).Walls[1]
	assert.InDelta(t, before.Free-2, after.Free, .001)
	assert.InDelta(t, before.Usable, after.Usable, .001)
	for _, r := range after.Regions {
		apart := r.X+r.W <= 1000.5 || r.X >= 2999.5 || r.Z+r.H <= 900.5 || r.Z >= 1899.5
		assert.True(t, apart, "%+v lies over the field", r)
	}
}

func TestOwnClearancesOverrideTheUsualOnes(t *testing.T) {
	s := shopOf(plain(1, featureAt("heater", "heater", 1500, 100, 800, 500)))
	usual := Of(mapOf(t, s)).Walls[1].Free
	near := length.MM(300)
	s.Settings.Clear = &shop.Clearances{Heater: &near}
	assert.Greater(t, Of(mapOf(t, s)).Walls[1].Free, usual+1)
}
