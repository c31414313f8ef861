package belongings

import (
	"fmt"
	"slices"
	"time"

	"hobrak/internal/core/keeping"
	"hobrak/internal/core/learn"
	"hobrak/internal/core/shop"
)

// Piles there are besides those of a place or container: what is used less than once a year, what is in boxes nothing of which was
// used for a year, what has no home, what is to be decided on.
const (
	PileSeldom   = "seldom"
	PileUnopened = "unopened"
	PileHomeless = "homeless"
	PileLimbo    = "limbo"
)

// Piled is a thing of a pile that is gone through.
type Piled struct {
	Item   string  `json:"item"`
	Name   string  `json:"name"`
	Count  int     `json:"count"`
	Place  string  `json:"place" doc:"where it lives; empty without a home"`
	Uses   float64 `json:"uses" doc:"a week"`
	Wall   float64 `json:"wall" doc:"m² of wall that it takes, at its true size"`
	Litres float64 `json:"litres" doc:"litres it takes elsewhere"`
	Goes   string  `json:"goes" doc:"where it is to go; empty while it stays"`
	Review string  `json:"review" doc:"day on which to decide"`
}

// Pile is what is gone through, one thing after the other: the largest first, since it wins most. What the log of events has seen
// used until today tells of boxes. The error says which piles there are.
func Pile(s *shop.Shop, of string, seen learn.Seen, today time.Time) ([]Piled, error) {
	ix := shop.NewIndex(s)
	var in func(*shop.Item) bool
	switch {
	case of == PileSeldom:
		dust := Seldom(s).Items
		in = func(it *shop.Item) bool { return slices.Contains(dust, it.ID) }
	case of == PileUnopened:
		shut := unopened(s, ix, seen, today)
		in = func(it *shop.Item) bool { return shut[it.ID] }
	case of == PileHomeless:
		in = func(it *shop.Item) bool { return it.Needs() && len(ix.Homes(it.ID)) == 0 }
	case of == PileLimbo:
		in = func(it *shop.Item) bool { return it.Status == "limbo" }
	case ix.Place(of) != nil || ix.Container(of) != nil:
		in = func(it *shop.Item) bool {
			return slices.ContainsFunc(ix.Homes(it.ID), func(h *shop.Home) bool {
				p := ix.Place(h.Place)
				chain, _ := ix.Chain(&p.At)
				return p.ID == of || slices.ContainsFunc(chain, func(c *shop.Container) bool { return c.ID == of })
			})
		}
	default:
		return nil, fmt.Errorf("there is no pile %q; there are %s, %s, %s, %s and each place and container by its address", of, PileSeldom, PileUnopened, PileHomeless, PileLimbo)
	}
	out := []Piled{}
	for i := range s.Items {
		if it := &s.Items[i]; in(it) {
			out = append(out, piled(ix, it))
		}
	}
	slices.SortStableFunc(out, func(a, b Piled) int {
		switch x, y := a.Wall*100+a.Litres, b.Wall*100+b.Litres; {
		case x > y:
			return -1
		case x < y:
			return 1
		}
		return 0
	})
	return out, nil
}

// unopened are the things in boxes that nothing was used of for a year: by the log where it is a year old, else by the uses that are
// said. Of half a year's log nothing can be told of a year.
func unopened(s *shop.Shop, ix *shop.Index, seen learn.Seen, today time.Time) map[string]bool {
	year := today.AddDate(-1, 0, 0).Format(time.DateOnly)
	old := seen.Began != "" && seen.Began <= year
	in, opened := map[string][]string{}, map[string]bool{}
	for i := range s.Items {
		it := &s.Items[i]
		places := []string{it.Lies}
		for _, h := range ix.Homes(it.ID) {
			places = append(places, h.Place)
		}
		used := it.UsesPerWeek >= yearly || slices.Contains(it.Assumed, "uses_per_week")
		if old {
			used = seen.Last[it.ID] > year
		}
		for _, id := range places {
			p := ix.Place(id)
			if p == nil {
				continue
			}
			chain, _ := ix.Chain(&p.At)
			for _, c := range chain {
				if c.Portable {
					in[c.ID] = append(in[c.ID], it.ID)
					opened[c.ID] = opened[c.ID] || used
				}
			}
		}
	}
	out := map[string]bool{}
	for box, items := range in {
		if !opened[box] {
			for _, id := range items {
				out[id] = true
			}
		}
	}
	return out
}

func piled(ix *shop.Index, it *shop.Item) Piled {
	x := Piled{Item: it.ID, Name: it.Name, Count: it.Number(), Uses: it.UsesPerWeek, Goes: it.GoesTo, Review: it.Review}
	for _, h := range ix.Homes(it.ID) {
		x.Place = h.Place
	}
	x.Wall, x.Litres = Takes(ix, it)
	return x
}

// Takes is the room a thing takes: m² of wall at its true size for what hangs, litres for the rest of it.
func Takes(ix *shop.Index, it *shop.Item) (wall, litres float64) {
	rest := it.Number()
	for _, h := range ix.Homes(it.ID) {
		p := ix.Place(h.Place)
		if keeping.Of(p).Hangs() {
			size := it.SizeIn(p.Kind)
			wall += size.W.Metres() * size.H.Metres() * float64(h.Number(it))
			rest -= h.Number(it)
		}
	}
	return wall, it.W.MM() * it.H.MM() * it.D.MM() / 1e6 * float64(max(0, rest))
}

// Won is what goes once everything is gone that is to go.
type Won struct {
	Things int     `json:"things"`
	Wall   float64 `json:"wall" doc:"m²"`
	Litres float64 `json:"litres"`
}

// Winning sums up what is to go.
func Winning(s *shop.Shop) (out Won) {
	ix := shop.NewIndex(s)
	for i := range s.Items {
		if it := &s.Items[i]; it.Status == "limbo" && it.GoesTo != "" {
			x := piled(ix, it)
			out.Things += x.Count
			out.Wall += x.Wall
			out.Litres += x.Litres
		}
	}
	return out
}

// Ways are what is decided of a thing that does not stay: how it goes.
var Ways = []string{"sell", "give", "burn", "tip", "friend"}

// Decide on a thing of a pile: keep it, move it elsewhere (it has no home then), let it go one of the ways, or decide by a day.
func Decide(s *shop.Shop, id, what, day string) error {
	i := slices.IndexFunc(s.Items, func(it shop.Item) bool { return it.ID == id })
	if i < 0 {
		return fmt.Errorf("there is no thing %q", id)
	}
	it := &s.Items[i]
	switch {
	case what == "keep":
		it.Keep = true
		if it.Status == "limbo" {
			it.Status = ""
		}
		it.GoesTo, it.Review = "", ""
	case what == "elsewhere":
		s.Homes = slices.DeleteFunc(s.Homes, func(h shop.Home) bool { return h.Item == id })
		if it.Status == "limbo" {
			it.Status = ""
		}
		it.GoesTo, it.Review = "", ""
	case what == "decide":
		if _, err := time.Parse(time.DateOnly, day); err != nil {
			return fmt.Errorf("%q should be a day as 2027-05-31: by when to decide", day)
		}
		it.Status, it.GoesTo, it.Review = "limbo", "", day
	case slices.Contains(Ways, what):
		it.Status, it.GoesTo, it.Review, it.Keep = "limbo", what, "", false
	default:
		return fmt.Errorf("%q is nothing to decide; there are keep, elsewhere, decide, %v", what, Ways)
	}
	return nil
}
