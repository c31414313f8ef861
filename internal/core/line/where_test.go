package line_test

import (
	"fmt"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"hobrak/demo"
	"hobrak/internal/core/length"
	"hobrak/internal/core/line"
	"hobrak/internal/core/shop"
	"hobrak/internal/core/shoptest"
)

func in(s *shop.Shop) line.Context {
	return line.Context{Units: s.Settings.Units, Stations: s.Stations, Areas: s.Areas, Containers: s.Containers, Places: s.Places}
}

// However a place is called, a thing comes to live in it or the line says that it is not clear, and never in another.
func TestAPlaceIsKnownByWhateverItIsCalled(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		s := shoptest.Random(rapid.Uint64().Draw(t, "seed"), shoptest.Few)
		if len(s.Places) == 0 {
			t.Skip()
		}
		for i := range s.Containers { // people call several the same
			s.Containers[i].Name = rapid.SampledFrom([]string{"", "Chest of drawers", "Steel shelving", "Old chest", "Big cart"}).Draw(t, "name")
		}
		for i := range s.Places {
			s.Places[i].Name = rapid.SampledFrom([]string{"", "Pegboard", "Peg rail", "Second drawer", "Lumber rack"}).Draw(t, "name")
		}
		p := &s.Places[rapid.IntRange(0, len(s.Places)-1).Draw(t, "place")]
		ways := []string{p.ID, strings.ToLower(p.ID)}
		if p.Name != "" {
			ways = append(ways, p.Name, strings.ToLower(p.Name))
		}
		if c := shop.NewIndex(s).Container(p.At.In); c != nil {
			nth := 1
			for i := range s.Places {
				if q := &s.Places[i]; q.At.In == c.ID && (q.At.Z > p.At.Z || q.At.Z == p.At.Z && (q.At.X < p.At.X || q.At.X == p.At.X && i < indexOf(s, p.ID))) {
					nth++
				}
			}
			ways = append(ways, fmt.Sprintf("%s %d", c.ID, nth), fmt.Sprintf("%s drawer %d", c.ID, nth))
			if c.Name != "" {
				ways = append(ways, fmt.Sprintf("%s %d", strings.ToLower(c.Name), nth), fmt.Sprintf("shelf %d of the %s", nth, c.Name))
			}
		}
		way := rapid.SampledFrom(ways).Draw(t, "way")
		only := rapid.Bool().Draw(t, "by itself")
		text := rapid.SampledFrom([]string{"in ", "on ", "IN the "}).Draw(t, "in") + way
		if !only {
			text = "zinc gadget 120x30x20, " + text
		}
		got := line.Parse(text, in(s))
		if got.Place != "" {
			assert.Equal(t, p.ID, got.Place, text)
			assert.Equal(t, only, got.Here, text)
			if !only {
				assert.Equal(t, "Zinc gadget", got.Item.Name, text)
			}
			return
		}
		if way == p.ID {
			assert.Fail(t, "an address is always clear", text)
		}
		said := false
		for _, c := range got.Chips {
			said = said || c.Kind == "unknown"
		}
		assert.True(t, said, "%s: %+v", text, got.Chips)
	})
}

func indexOf(s *shop.Shop, place string) int {
	for i := range s.Places {
		if s.Places[i].ID == place {
			return i
		}
	}
	return -1
}

func TestWhereIsSaidAsPeopleSayIt(t *testing.T) {
	s, err := shop.Read(demo.Slipway)
	require.NoError(t, err)
	s.Containers = []shop.Container{{ID: "K1", Name: "Shelving", Kind: "shelving"}, {ID: "K2", Name: "Chest of drawers", Kind: "chest"}, {ID: "K3", Name: "Crate", Kind: "tote"}, {ID: "K4", Name: "Crate", Kind: "tote"}}
	s.Places = []shop.Place{{ID: "A1", Name: "Peg rail", Kind: "rail"}, {ID: "K3-1", Kind: "bin", At: shop.At{In: "K3"}}, {ID: "K4-1", Kind: "bin", At: shop.At{In: "K4"}}}
	for i := range 4 {
		z := length.MM(float64(900 - 200*i))
		s.Places = append(s.Places, shop.Place{ID: fmt.Sprintf("K1-%d", i+1), Kind: "shelf", At: shop.At{In: "K1", Z: z}}, shop.Place{ID: fmt.Sprintf("K2-%d", i+1), Kind: "drawer", At: shop.At{In: "K2", Z: z}})
	}
	for _, c := range []struct{ text, place, floor, name string }{
		{"3 rasps 300 in chest 2", "K2-2", "", "Rasps 300 mm"},
		{"3 rasps 300 in the second drawer of the chest", "K2-2", "", "Rasps 300 mm"},
		{"in shelving top", "K1-1", "", ""},
		{"in the bottom of the shelving", "K1-4", "", ""},
		{"k2-3", "K2-3", "", ""},
		{"apron on the peg rail", "A1", "", "Apron"},
		{"apron on rail", "A1", "", "Apron"},
		{"broom on the floor at C", "", "C", "Broom"},
		{"on floor c", "", "C", ""},
		{"jars in crate 2", "", "", ""}, // the second of two crates, or the second thing in one: not clear
		{"push stick on hook", "", "", "Push stick on hook"},
		{"plug cutters in box", "", "", "Plug cutters in box"},
		{"24 screws in box 150x100x60 in chest 4", "K2-4", "", "Screws in box"},
		{"no place", "", "", ""},
	} {
		got := line.Parse(c.text, in(s))
		assert.Equal(t, c.place, got.Place, c.text)
		assert.Equal(t, c.floor, got.Floor, c.text)
		assert.Equal(t, c.name == "" && c.text != "jars in crate 2", got.Here, c.text)
		if c.name != "" {
			assert.Equal(t, c.name, got.Item.Name, c.text)
		}
	}
	crate := line.Parse("jars in crate 2", in(s))
	assert.Equal(t, 1, crate.Unknown)
	assert.Contains(t, crate.Chips[1].Says, "K3 or K4")
	nothing := line.Parse("jars in K2-9", in(s))
	assert.Contains(t, nothing.Chips[1].Says, "there is no place K2-9")
	outside := line.Parse("jars in chest 9", in(s))
	assert.Contains(t, outside.Chips[1].Says, "K2 has 4, counted from the top")
}

func TestLoneLengthsAndWordsBehindThem(t *testing.T) {
	for _, c := range []struct {
		text    string
		w, h, d float64
	}{
		{"14 gouges ~250 long 25 wide", 25, 250, 30},
		{"steel rule 300", 30, 300, 2},
		{"bench chisel 300", 32, 300, 32},
		{"thingummy 400 long", 400, 150, 120},
		{"jack plane 14in", 65, 355.6, 140},
		{"bench chisel 12mm", 32, 280, 32}, // of its edge
	} {
		it := parse(c.text, length.Metric).Item
		assert.Equal(t, [3]float64{c.w, c.h, c.d}, [3]float64{it.W.MM(), it.H.MM(), it.D.MM()}, c.text)
	}
}
