package check_test

import (
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"hobrak/demo"
	"hobrak/internal/core/check"
	"hobrak/internal/core/length"
	"hobrak/internal/core/quantity"
	"hobrak/internal/core/shop"
	"hobrak/internal/core/weight"
)

// each case breaks one rule of the demo, and the checker must name it.
func TestEveryBrokenRuleIsFound(t *testing.T) {
	home := func(s *shop.Shop, item string) *shop.Home {
		for i := range s.Homes {
			if s.Homes[i].Item == item {
				return &s.Homes[i]
			}
		}
		t.Fatalf("%s has no home in the demo", item)
		return nil
	}
	move := func(s *shop.Shop, h shop.Home) {
		kept := s.Homes[:0]
		for _, x := range s.Homes {
			if x.Item != h.Item {
				kept = append(kept, x)
			}
		}
		s.Homes = append(kept, h)
	}
	cases := map[string]struct {
		code  string
		where string
		spoil func(s *shop.Shop)
	}{
		"two things in one spot": {"overlap", "", func(s *shop.Shop) {
			move(s, shop.Home{Item: "broom", Place: "A1", X: 0, Z: 0})
			s.Places[0].H, s.Places[0].Rows = mm(1500), nil
			move(s, shop.Home{Item: "apron", Place: "A1", X: mm(100), Z: mm(100)})
		}},
		"clearance not kept": {"overlap", "", func(s *shop.Shop) {
			move(s, shop.Home{Item: "violin-mould", Place: "A1", X: 0, Z: 0})
			move(s, shop.Home{Item: "viola-mould", Place: "A1", X: mm(230 + 19), Z: 0})
		}},
		"sticking out of a field": {"bounds", "", func(s *shop.Shop) { move(s, shop.Home{Item: "apron", Place: "A1", X: mm(1600)}) }},
		"deeper than the field":   {"depth", "", func(s *shop.Shop) { item(s, "apron").D = mm(160); move(s, shop.Home{Item: "apron", Place: "A1"}) }},
		"hung between the rails":  {"rail", "", func(s *shop.Shop) { move(s, shop.Home{Item: "apron", Place: "B1", X: 0, Z: mm(111)}) }},
		"higher than the drawer": {"height", "", func(s *shop.Shop) {
			item(s, "strop-board").H = mm(300)
			move(s, shop.Home{Item: "strop-board", Place: "N9"})
		}},
		"kept in a way it cannot be":  {"holding", "", func(s *shop.Shop) { move(s, shop.Home{Item: "shop-vacuum", Place: "B1"}) }},
		"turned though it may not be": {"turned", "", func(s *shop.Shop) { move(s, shop.Home{Item: "apron", Place: "A1", Rot: 90}) }},
		"more than the place carries": {"capacity", "A1", func(s *shop.Shop) {
			place(s, "A1").Capacity = weight.KG(.1)
			move(s, shop.Home{Item: "apron", Place: "A1"})
		}},
		"more than the cabinet carries":  {"capacity", "K1", func(s *shop.Shop) { shop.NewIndex(s).Container("K1").Capacity = weight.KG(1) }},
		"too heavy to be lifted so high": {"lifting", "", func(s *shop.Shop) { item(s, "larch-plank-4-8-m").KG = weight.KG(13) }},
		"too long for the arms":          {"overhang", "", func(s *shop.Shop) { item(s, "larch-plank-4-8-m").W = mm(5600) }},
		"out of everybody's reach": {"reach", "", func(s *shop.Shop) {
			move(s, shop.Home{Item: "apron", Place: "A1"})
			s.Stations = append(s.Stations, shop.Station{ID: "block", Name: "Block", Kind: "stove", X: mm(420), Y: mm(2300), W: mm(900), D: mm(1900), H: mm(2000), Stand: shop.Point{mm(4000), mm(1200)}})
		}},
		"a bin filled to the brim": {"volume", "N10", func(s *shop.Shop) {
			item(s, "offcuts-short").Count = 90
			move(s, shop.Home{Item: "offcuts-short", Place: "N10"})
		}},
		"a place over the panel":         {"covers", "A1", func(s *shop.Shop) { place(s, "A1").At.X = mm(1700) }},
		"two places on the same wall":    {"same-wall", "A2", func(s *shop.Shop) { place(s, "A2").At.X = mm(2500) }},
		"a place on a wall left alone":   {"left-alone", "A1", func(s *shop.Shop) { s.Areas[0].Walls[0].Claimed = false }},
		"two machines in the same spot":  {"standing", "", func(s *shop.Shop) { s.Stations[2].X = s.Stations[3].X }},
		"nowhere to stand at a machine":  {"stand", "stations[0].stand", func(s *shop.Shop) { s.Stations[0].Stand = shop.Point{mm(4300), mm(4000)} }},
		"a home of a thing that is gone": {"dangling", "", func(s *shop.Shop) { home(s, "jack-plane").Item = "gone" }},
		"a board resting on nothing":     {"unborne", "", func(s *shop.Shop) { move(s, shop.Home{Item: "oars", Place: "C2", X: mm(-300), Z: mm(50)}) }},
		"two things on one hook": {"overlap", "A2", func(s *shop.Shop) {
			move(s, shop.Home{Item: "apron", Place: "A2"})
			move(s, shop.Home{Item: "dustpan-and-brush", Place: "A2"})
		}},
	}
	for name, c := range cases {
		t.Run(name, func(t *testing.T) {
			s, err := shop.Read(demo.Slipway)
			require.NoError(t, err)
			c.spoil(s)
			found, err := check.Shop(s)
			require.NoError(t, err)
			assert.True(t, check.Broken(found))
			named := false
			for _, f := range found {
				named = named || f.Hard && f.Code == c.code && (c.where == "" || f.Where == c.where)
				assert.NotEmpty(t, f.What)
			}
			assert.True(t, named, "expected %s at %q in %v", c.code, c.where, found)
		})
	}
}

func mm(v float64) length.Length                    { return length.MM(v) }
func item(s *shop.Shop, id string) *shop.Item       { return shop.NewIndex(s).Item(id) }
func place(s *shop.Shop, id string) *shop.Place     { return shop.NewIndex(s).Place(id) }
func station(s *shop.Shop, id string) *shop.Station { return shop.NewIndex(s).Station(id) }

func TestWhatTheBuildingWantsClearIsACaution(t *testing.T) {
	for name, c := range map[string]struct {
		code, where string
		spoil       func(*shop.Shop)
	}{
		"a bench in the swing of the door": {"door-swing", "sharpening", func(s *shop.Shop) { station(s, "sharpening").Y = mm(600) }},
		"a bench before the panel":         {"panel", "sharpening", func(s *shop.Shop) { station(s, "sharpening").Y = mm(1400) }},
		"more current than a breaker carries": {"current", "bandsaw", func(s *shop.Shop) {
			s.Circuits = []shop.Circuit{{ID: "c1", Amps: 10}, {ID: "c2", Amps: 16}}
			for i := range s.Stations {
				if s.Stations[i].ID == "bandsaw" {
					s.Stations[i].Amps = 16.5
				}
			}
		}},
		"a rack at the height of the forehead": {"head-room", "E1", func(s *shop.Shop) { place(s, "E1").At.Z = mm(1700) }},
		"a reading that does not fit":          {"survey", "areas[0].survey.measures[1]", func(s *shop.Shop) { s.Areas[0].Survey.Measures[1].Length = mm(7600) }},
		"walls that do not close":              {"survey", "areas[0].survey", func(s *shop.Shop) { s.Areas[0].Survey.Measures[1].Length = mm(9600) }},
	} {
		t.Run(name, func(t *testing.T) {
			s, err := shop.Read(demo.Slipway)
			require.NoError(t, err)
			c.spoil(s)
			found, err := check.Shop(s)
			require.NoError(t, err)
			named := false
			for _, f := range found {
				named = named || !f.Hard && f.Code == c.code && f.Where == c.where
			}
			assert.True(t, named, "expected %s at %q in %v", c.code, c.where, found)
		})
	}
}

func TestAFindingIsOneLine(t *testing.T) {
	f := check.Finding{Code: "capacity", Where: "A1", What: "A1 carries too much", By: 2.5, Unit: "kg", Hard: true}
	assert.Equal(t, "broken capacity\tA1\tA1 carries too much (by 2.5 kg)", quantity.Metric(f.String()))
	assert.Equal(t, 0, strings.Count(f.String(), "\n"))
}
