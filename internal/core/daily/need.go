package daily

import (
	"cmp"
	"slices"
	"strings"

	"hobrak/internal/core/gather"
	"hobrak/internal/core/shop"
)

// Needed is what is wanted for something: a kit, the work at a station, or a project.
type Needed struct {
	ID    string        `json:"id"`
	Of    string        `json:"of" enum:"kit,station,project"`
	Name  string        `json:"name"`
	Items []gather.Want `json:"items" nullable:"false"`
	Gone  []string      `json:"gone" nullable:"false" doc:"ids of things of a kit that are gone"`
	Drops []string      `json:"drops" nullable:"false" doc:"stations at which a kit that travels is put down"`
	Notes string        `json:"notes"`
}

// atStation so many things that are used at a station are proposed, the most used first.
const atStation = 12

// Need lists what there is to fetch together: the kits that were made, then for each station what is used there most, and what is
// promised to each project.
func Need(s *shop.Shop) []Needed {
	ix := shop.NewIndex(s)
	out := []Needed{}
	for _, k := range s.Kits {
		n := Needed{ID: k.ID, Of: "kit", Name: k.Name, Items: []gather.Want{}, Gone: []string{}, Drops: []string{}, Notes: k.Notes}
		for _, x := range k.Items {
			if ix.Item(x.Item) == nil {
				n.Gone = append(n.Gone, x.Item)
				continue
			}
			n.Items = append(n.Items, gather.Want{Item: x.Item, N: x.Number()})
		}
		for _, id := range k.Drops {
			if ix.Station(id) != nil {
				n.Drops = append(n.Drops, id)
			}
		}
		out = append(out, n)
	}
	for i := range s.Stations {
		st := &s.Stations[i]
		var used []*shop.Item
		for k := range s.Items {
			if it := &s.Items[k]; it.Needs() && it.UsesPerWeek > 0 && slices.Contains(it.UsedAt, st.ID) {
				used = append(used, it)
			}
		}
		if len(used) == 0 {
			continue
		}
		slices.SortStableFunc(used, func(a, b *shop.Item) int { return cmp.Compare(b.UsesPerWeek, a.UsesPerWeek) })
		n := Needed{ID: st.ID, Of: "station", Name: st.Name, Items: []gather.Want{}, Gone: []string{}, Drops: []string{}}
		for _, it := range used[:min(len(used), atStation)] {
			n.Items = append(n.Items, gather.Want{Item: it.ID, N: 1})
		}
		out = append(out, n)
	}
	projects := map[string]*Needed{}
	var names []string
	for i := range s.Items {
		it := &s.Items[i]
		key := strings.ToLower(it.PromisedTo)
		if key == "" || !it.Needs() {
			continue
		}
		if projects[key] == nil {
			projects[key] = &Needed{ID: key, Of: "project", Name: it.PromisedTo, Items: []gather.Want{}, Gone: []string{}, Drops: []string{}}
			names = append(names, key)
		}
		projects[key].Items = append(projects[key].Items, gather.Want{Item: it.ID, N: it.Number()})
	}
	slices.Sort(names)
	for _, key := range names {
		out = append(out, *projects[key])
	}
	return out
}
