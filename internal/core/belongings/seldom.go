package belongings

import (
	"slices"

	"hobrak/internal/core/kinds"
	"hobrak/internal/core/shop"
)

// Dust is what is used less than once a year, with the room it takes. What is
// kept whatever the numbers say is counted beside it, never in it; safety gear is
// not counted at all.
type Dust struct {
	Items     []string `json:"items" nullable:"false"`
	Share     float64  `json:"share" doc:"of all pieces"`
	Pieces    int      `json:"pieces"`
	Wall      float64  `json:"wall" doc:"m² of wall that hanging pieces take at their true size"`
	WallShare float64  `json:"wall_share" doc:"of the wall that is hung"`
	Litres    float64  `json:"litres"`
	Kept      int      `json:"kept" doc:"pieces used as seldom that are kept in any case"`
}

// yearly is once a year, in uses a week.
const yearly = 1.0 / 52

// forSafety tells whether a thing is there for the day it is needed: how seldom
// that is says nothing about it.
func forSafety(it *shop.Item) bool {
	k, ok := kinds.ByID(it.Kind)
	if !ok {
		m, found := kinds.Find(it.Name)
		k, ok = m.Kind, found && m.Sure
	}
	return ok && k.Group == "safety gear"
}

// Seldom sums up what gathers dust. Things whose use is only assumed are left out.
func Seldom(s *shop.Shop) Dust {
	ix := shop.NewIndex(s)
	d := Dust{Items: []string{}}
	pieces, wall := 0, 0.0
	for i := range s.Items {
		it := &s.Items[i]
		if it.Status == "wished" {
			continue
		}
		pieces += it.Number()
		hung, _ := Takes(ix, it)
		wall += hung
		if it.UsesPerWeek >= yearly || slices.Contains(it.Assumed, "uses_per_week") || forSafety(it) {
			continue
		}
		if it.Keep {
			d.Kept += it.Number()
			continue
		}
		d.Items = append(d.Items, it.ID)
		d.Pieces += it.Number()
		d.Wall += hung
		d.Litres += it.W.MM() * it.H.MM() * it.D.MM() / 1e6 * float64(it.Number())
	}
	if pieces > 0 {
		d.Share = float64(d.Pieces) / float64(pieces)
	}
	if wall > 0 {
		d.WallShare = d.Wall / wall
	}
	return d
}

// Leaving lists what might leave when the item comes in: of the same kind, then
// of the same family, then used as seldom as anything; the least used first,
// never what is kept in any case.
func Leaving(s *shop.Shop, id string, most int) []string {
	i := slices.IndexFunc(s.Items, func(it shop.Item) bool { return it.ID == id })
	if i < 0 {
		return nil
	}
	in := &s.Items[i]
	var list []int
	for k := range s.Items {
		if it := &s.Items[k]; k != i && !it.Keep && it.Status != "wished" && !forSafety(it) {
			list = append(list, k)
		}
	}
	near := func(it *shop.Item) int {
		switch {
		case it.Kind != "" && it.Kind == in.Kind:
			return 0
		case it.Family != "" && it.Family == in.Family:
			return 1
		case it.UsesPerWeek < yearly && !slices.Contains(it.Assumed, "uses_per_week"):
			return 2
		}
		return 3
	}
	slices.SortStableFunc(list, func(a, b int) int {
		x, y := &s.Items[a], &s.Items[b]
		if d := near(x) - near(y); d != 0 {
			return d
		}
		switch {
		case x.UsesPerWeek < y.UsesPerWeek:
			return -1
		case x.UsesPerWeek > y.UsesPerWeek:
			return 1
		}
		return 0
	})
	out := []string{}
	for _, k := range list[:min(most, len(list))] {
		if near(&s.Items[k]) < 3 {
			out = append(out, s.Items[k].ID)
		}
	}
	return out
}
