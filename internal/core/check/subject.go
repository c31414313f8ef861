package check

import (
	"fmt"
	"slices"

	"hobrak/internal/core/shop"
)

// Kinds of subject.
const (
	AboutItem    = "item"
	AboutPlace   = "place"
	AboutStation = "station"
	AboutArea    = "area"
)

// Subject is what a person looks at to mend a finding: an item, a place, a station or an area. Kind and id are
// empty where it is about something else.
func (f Finding) Subject(s *shop.Shop, ix *shop.Index) (kind, id string) {
	var n int
	if _, err := fmt.Sscanf(f.Where, "homes[%d]", &n); err == nil && n >= 0 && n < len(s.Homes) {
		return AboutItem, s.Homes[n].Item
	}
	if _, err := fmt.Sscanf(f.Where, "items[%d]", &n); err == nil && n >= 0 && n < len(s.Items) {
		return AboutItem, s.Items[n].ID
	}
	if ix.Place(f.Where) != nil {
		return AboutPlace, f.Where
	}
	if i := slices.IndexFunc(s.Places, func(p shop.Place) bool { return p.At.In == f.Where }); i >= 0 {
		return AboutPlace, s.Places[i].ID
	}
	if ix.Station(f.Where) != nil {
		return AboutStation, f.Where
	}
	if c := ix.Container(f.Where); c != nil {
		return AboutArea, ix.Area(c.At.Area).ID
	}
	if a := ix.Area(f.Where); a != nil && f.Where != "" {
		return AboutArea, a.ID
	}
	return "", ""
}
