package wood

import (
	"cmp"
	"slices"

	"hobrak/internal/core/access"
	"hobrak/internal/core/free"
	"hobrak/internal/core/shop"
	"hobrak/internal/core/storage"
)

// NewRack is storage that would hold wood which has no room.
type NewRack struct {
	Builder string  `json:"builder"`
	Title   string  `json:"title"`
	Holds   int     `json:"holds" doc:"pieces of those without room"`
	W       float64 `json:"w" doc:"mm"`
	H       float64 `json:"h"`
	D       float64 `json:"d"`
	Wall    string  `json:"wall" doc:"where it would go best; empty off the walls"`
	Area    string  `json:"area"`
	Nowhere string  `json:"nowhere" doc:"why it has no spot in the room as it stands; empty when it has one"`
}

// racks of wood that are thought of.
var rackBuilders = []string{"lumber-rack", "sheet-bay", "stock-bin"}

// Racks are what would hold these things that have no room, those that hold most of them first, with a spot in the room as it is mapped.
func Racks(m *access.Map, space *free.Result, things []*shop.Item) []NewRack {
	out := []NewRack{}
	for _, kind := range rackBuilders {
		d, err := storage.Size(kind, "new", storage.Need{Items: things})
		if err != nil || len(d.Homes) == 0 {
			continue
		}
		r := NewRack{Builder: kind, Title: d.Title, W: d.W.MM(), H: d.H.MM(), D: d.D.MM()}
		for i := range d.Homes {
			for _, it := range things {
				if it.ID == d.Homes[i].Item {
					r.Holds += d.Homes[i].Number(it)
				}
			}
		}
		found, err := storage.Where(m, space, d)
		switch {
		case err != nil:
			r.Nowhere = err.Error()
		case len(found.Sites) > 0:
			r.Wall, r.Area = found.Sites[0].Wall, found.Sites[0].Area
		case len(found.Nowhere) > 0:
			r.Nowhere = found.Nowhere[0].Why
		default:
			r.Nowhere = "no wall is free for it"
		}
		out = append(out, r)
	}
	slices.SortStableFunc(out, func(a, b NewRack) int {
		return cmp.Or(cmp.Compare(min(1, len(a.Nowhere)), min(1, len(b.Nowhere))), cmp.Compare(b.Holds, a.Holds))
	})
	return out
}
