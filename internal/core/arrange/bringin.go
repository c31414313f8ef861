package arrange

import (
	"fmt"

	"hobrak/internal/core/floor"
	"hobrak/internal/core/length"
	"hobrak/internal/core/mode"
	"hobrak/internal/core/shop"
)

// BringIn finds a station a spot in the room as it stands, with the fewest others shifted for it: before something is bought, what
// it would set off. All that is not pinned is shifted, since that is done once. The shop of what is made has them where they would
// stand then, and the station no longer only wished for. The error says why there is no spot.
func BringIn(s *shop.Shop, station string, pinned []string) (*Made, error) {
	st := shop.NewIndex(s).Station(station)
	if st == nil {
		return nil, fmt.Errorf("there is no station %q", station)
	}
	try := s.Clone()
	firm := map[string]bool{}
	for _, id := range pinned {
		firm[id] = true
	}
	for i := range try.Stations {
		x := &try.Stations[i]
		switch {
		case x.ID == station:
			x.Wished, x.Mobility = "", shop.Rolls
		case firm[x.ID]:
			x.Mobility = ""
		default:
			x.Mobility = shop.Rolls
		}
	}
	const id = "brought-in"
	try.Modes = []shop.Mode{{ID: id, Name: "with it"}}
	area := shop.NewIndex(try).Area(st.Area).ID
	// What it breaks where it holds its place is no excuse to break it where it is to stand; what others break already is none of its
	// doing.
	before, err := mode.Breaches(s, "", area)
	if err != nil {
		return nil, err
	}
	made, err := makeRoom(try, id, area, station, func(made *Made) bool {
		l, err := mode.Breaches(standing(s, station, made.Steps), "", area)
		return err == nil && hard(l) <= hard(before)
	})
	if err != nil {
		return nil, err
	}
	made.Shop = standing(s, station, made.Steps)
	return made, nil
}

// standing is the shop with things where steps have them, and the station there.
func standing(s *shop.Shop, station string, steps []Step) *shop.Shop {
	then := s.Clone()
	for i := range then.Stations {
		x := &then.Stations[i]
		if x.ID == station {
			x.Wished = ""
		}
		for _, step := range steps {
			if step.ID == x.ID {
				x.X, x.Y, x.Rot = length.MM(step.X), length.MM(step.Y), step.Rot
				x.Stand = floor.Stand(x)
			}
		}
	}
	for i := range then.Containers {
		c := &then.Containers[i]
		for _, step := range steps {
			if step.ID == c.ID {
				c.At.Floor, c.At.Rot = &shop.Point{length.MM(step.X), length.MM(step.Y)}, step.Rot
			}
		}
	}
	return then
}
