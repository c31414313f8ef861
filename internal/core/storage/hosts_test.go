package storage_test

import (
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"hobrak/demo"
	"hobrak/internal/core/access"
	"hobrak/internal/core/check"
	"hobrak/internal/core/keeping"
	"hobrak/internal/core/length"
	"hobrak/internal/core/quantity"
	"hobrak/internal/core/shop"
	"hobrak/internal/core/storage"
	"hobrak/internal/core/weight"
)

// held is a thing of a size that is held in one way.
func held(id string, hold shop.Hold, w, h, d float64) *shop.Item {
	return &shop.Item{ID: id, Name: id, W: length.MM(w), H: length.MM(h), D: length.MM(d), KG: weight.KG(.5), UsesPerWeek: 2, Hold: []shop.Hold{hold}}
}

// sized storage for things that are put into the shop as well.
func sized(t *testing.T, s *shop.Shop, kind string, n storage.Need) *storage.Design {
	for _, it := range n.Items {
		s.Items = append(s.Items, *it)
	}
	d, err := storage.Size(kind, "Z1", n)
	require.NoError(t, err)
	require.Empty(t, d.Left)
	return d
}

// hardIn are the hard findings of a shop, which must be valid.
func hardIn(t *testing.T, s *shop.Shop) (out []string) {
	require.NoError(t, s.Validate())
	found, err := check.Shop(s)
	require.NoError(t, err)
	for _, f := range found {
		if f.Hard {
			out = append(out, f.String())
		}
	}
	return out
}

func TestADoorTakesARackOnItsBackOnce(t *testing.T) {
	s, err := shop.Read(demo.Slipway)
	require.NoError(t, err)
	d := sized(t, s, "door-back", storage.Need{Items: []*shop.Item{held("door-apron", "hang", 300, 500, 60)}, Reserve: .1})
	got, err := where(t, s, d)
	require.NoError(t, err)
	require.Len(t, got.Sites, 1)
	assert.Equal(t, "the back of C-double-door", got.Sites[0].Surface)
	assert.Contains(t, got.Nowhere[0].Why, "something is on the back of A-door")
	_, err = storage.Remove(s, "K5")
	require.NoError(t, err)
	got, err = where(t, s, d)
	require.NoError(t, err)
	require.Len(t, got.Sites, 2)
	assert.Equal(t, "the back of A-door", got.Sites[0].Surface, "nearer to the bench")
	before := hardIn(t, s)
	require.NoError(t, storage.Install(s, d, got.Sites[0].At))
	assert.Equal(t, before, hardIn(t, s))

	deep, err := storage.Size("door-back", "Z2", storage.Need{Items: []*shop.Item{held("drum", "hang", 300, 300, 200)}})
	require.NoError(t, err)
	assert.Contains(t, deep.Left[0].Why, "on a door")
}

func TestABayBetweenBareStudsTakesWhatIsNoDeeper(t *testing.T) {
	s, err := shop.Read(demo.Pantry)
	require.NoError(t, err)
	d := sized(t, s, "stud-bays", storage.Need{Items: []*shop.Item{held("level", "hang", 100, 600, 40), held("square", "hang", 150, 300, 20)}, Reserve: .1})
	assert.LessOrEqual(t, d.D, length.MM(90))
	got, err := where(t, s, d)
	require.NoError(t, err)
	assert.Empty(t, got.Sites)
	for i := range s.Areas[0].Walls {
		s.Areas[0].Walls[i].Surface = "bare-studs"
		s.Areas[0].Walls[i].Studs = &shop.Studs{Spacing: length.MM(400), First: length.MM(200), Width: length.MM(45)}
	}
	got, err = where(t, s, d)
	require.NoError(t, err)
	require.NotEmpty(t, got.Sites)
	for _, c := range got.Sites {
		assert.InDelta(t, 222.5, c.X-400*float64(int(c.X)/400), .6, "it begins at the right face of a stud")
		next := s.Clone()
		require.NoError(t, storage.Install(next, d, c.At))
		assert.Empty(t, hardIn(t, next))
	}
	left, err := storage.Size("stud-bays", "Z2", storage.Need{Items: []*shop.Item{held("box", "hang", 100, 100, 120)}})
	require.NoError(t, err)
	assert.Contains(t, quantity.Metric(left.Left[0].Why), "a bay is 90")
}

func TestATotePacksIntoTheRoomOnADeckAndMovesWithItsContents(t *testing.T) {
	s, err := shop.Read(demo.Slipway)
	require.NoError(t, err)
	// The deck is emptied, but for two things that stay at its front corners.
	homes := s.Homes[:0]
	for _, h := range s.Homes {
		if h.Place != "E1" {
			homes = append(homes, h)
		}
	}
	s.Homes = homes
	d := sized(t, s, "tote", storage.Need{Items: []*shop.Item{held("lamp", "flat", 200, 120, 150), held("rope", "flat", 300, 100, 200)}, Reserve: .1})
	require.NotNil(t, d.Container)
	assert.True(t, d.Container.Portable)
	got, err := where(t, s, d)
	require.NoError(t, err)
	on := map[string]storage.Site{}
	for _, c := range got.Sites {
		if c.On != "" {
			on[c.On] = c
		}
	}
	require.Contains(t, on, "E1", "it goes on the ceiling rack: %v", got.Nowhere)
	next := s.Clone()
	before := hardIn(t, s)
	require.NoError(t, storage.Install(next, d, on["E1"].At))
	assert.Equal(t, before, hardIn(t, next))

	// What lives in it is found under the ceiling, and moves along when it is carried elsewhere.
	m, err := access.NewMap(next)
	require.NoError(t, err)
	f := m.Front(m.PlaceNumber("Z1-1"))
	assert.Greater(t, f.Z, 2000.0)
	assert.True(t, f.LiftOut)
	require.NoError(t, storage.Move(next, "Z1", shop.At{Floor: &shop.Point{length.MM(3000), length.MM(3000)}}))
	m, err = access.NewMap(next)
	require.NoError(t, err)
	assert.Less(t, m.Front(m.PlaceNumber("Z1-1")).Z, 200.0)

	for _, n := range got.Nowhere {
		if n.Wall == "A3" {
			assert.Contains(t, n.Why, "are needed", "the shelf over the door is too shallow")
		}
	}
}

func TestBothFacesOfACartAreGotAt(t *testing.T) {
	s, err := shop.Read(demo.Slipway)
	require.NoError(t, err)
	var things []*shop.Item
	for _, id := range []string{"a", "b", "c", "d", "e", "f"} {
		things = append(things, held("thing-"+id, "hang", 250, 350, 60))
	}
	things[0].UsesPerWeek = 50
	d := sized(t, s, "two-sided-cart", storage.Need{Items: things, Reserve: .1})
	require.Len(t, d.Places, 2)
	assert.Equal(t, "back", d.Places[1].At.Face)
	assert.Equal(t, "Z1-1", d.Homes[0].Place)
	assert.GreaterOrEqual(t, d.D, length.MM(500))

	at := func(x, y, rot float64) (front, back float64, rolled []string) {
		next := s.Clone()
		require.NoError(t, storage.Install(next, d, shop.At{Floor: &shop.Point{length.MM(x), length.MM(y)}, Rot: rot}))
		require.NoError(t, next.Validate())
		m, err := access.NewMap(next)
		require.NoError(t, err)
		u := m.UseOf(things[1])
		g := keeping.Grip{X: 200, Z: 600}
		front, ok := m.Weekly(&u, m.PlaceNumber("Z1-1"), g, 0)
		require.True(t, ok)
		back, ok = m.Weekly(&u, m.PlaceNumber("Z1-2"), g, 0)
		require.True(t, ok)
		_, rolled = m.Band(&u, m.PlaceNumber("Z1-2"), g)
		return front, back, rolled
	}
	_, free, rolled := at(3600, 2000, 0)
	assert.Empty(t, rolled, "in the middle of the room one walks round it")
	front, close, rolled := at(7295-(d.D+d.W).MM()/2, 2200-d.D.MM()/2, 270) // its back at the water wall
	assert.Equal(t, []string{"Z1"}, rolled)
	assert.Greater(t, close, front+15, "it is rolled out twice a use")
	assert.Greater(t, close, free)
}

func TestBladesGoInOnEdgeAndBitsByTheirSize(t *testing.T) {
	d, err := storage.Size("blade-rack", "Z1", storage.Need{Items: []*shop.Item{held("saw blade", "slot", 255, 255, 4)}, Reserve: .15})
	require.NoError(t, err)
	require.Empty(t, d.Left)
	assert.Equal(t, length.MM(25), d.Places[0].Slots[0].W)
	assert.Equal(t, length.MM(265), d.Places[0].Slots[0].D)
	bits, err := storage.Size("bit-rack", "Z1", storage.Need{Items: []*shop.Item{held("router bit", "slot", 30, 60, 30), held("drill bit", "slot", 8, 100, 8)}, Reserve: 0})
	require.NoError(t, err)
	require.Empty(t, bits.Left)
	assert.Equal(t, []length.Length{length.MM(20), length.MM(40)}, []length.Length{bits.Places[0].Slots[0].W, bits.Places[0].Slots[1].W})
}

func TestASpotOverAnOpeningSaysSo(t *testing.T) {
	s, err := shop.Read(demo.Slipway)
	require.NoError(t, err)
	d := sized(t, s, "shelf", storage.Need{Items: []*shop.Item{held("pattern", "stand", 500, 150, 100)}, Reserve: .1})
	got, err := where(t, s, d)
	require.NoError(t, err)
	var over []string
	for _, c := range got.Sites {
		over = append(over, c.Over)
	}
	assert.Contains(t, strings.Join(over, " "), "C-window")
}

func TestAHookHoldsOneThingAndAFloorSpotWhatStands(t *testing.T) {
	hook, err := storage.Size("hook", "Z1", storage.Need{Items: []*shop.Item{held("bow", "hang", 80, 700, 40), held("rope", "hang", 80, 600, 40)}})
	require.NoError(t, err)
	assert.Equal(t, length.MM(700), hook.Places[0].H, "the larger one")
	assert.Contains(t, hook.Left[0].Why, "one thing")
	s, err := shop.Read(demo.Pantry)
	require.NoError(t, err)
	before := hardIn(t, s)
	d := sized(t, s, "floor-spot", storage.Need{Items: []*shop.Item{held("trestle", "stand", 400, 500, 200)}, Width: length.MM(420), Depth: length.MM(220)})
	got, err := where(t, s, d)
	require.NoError(t, err)
	require.NotEmpty(t, got.Sites)
	assert.True(t, got.Sites[0].FromFloor)
	require.NoError(t, storage.Install(s, d, got.Sites[0].At))
	assert.LessOrEqual(t, len(hardIn(t, s)), len(before)+1, "at most somebody stands there")
}

// However thin the things are, a cart stands on its casters; where less is wanted, it is no deeper.
func TestACartForThinThingsIsDeepEnoughToStand(t *testing.T) {
	d, err := storage.Size("cart", "Z1", storage.Need{Items: []*shop.Item{held("rule", "flat", 300, 30, 5)}})
	require.NoError(t, err)
	assert.Equal(t, length.MM(300), d.D)
	less := length.MM(200)
	d, err = storage.Size("cart", "Z1", storage.Need{Items: []*shop.Item{held("rule", "flat", 300, 30, 5)}, Depth: less})
	require.NoError(t, err)
	assert.Equal(t, less, d.D)
}
