package fit

import (
	"fmt"
	"slices"

	"hobrak/internal/core/keeping"
	"hobrak/internal/core/shop"
	"hobrak/internal/core/weight"
)

// Contradiction is something a search cannot make right: it is said before one begins.
type Contradiction struct {
	Item  string `json:"item" doc:"empty when it is about a place"`
	Place string `json:"place"`
	What  string `json:"what" doc:"one sentence"`
}

// Contradictions lists locked homes that cannot be, loads of locked things that no
// rating bears, and families locked apart. They do not keep a search from running:
// what is locked stays, and the rest finds homes round it.
func (e *Problem) Contradictions() []Contradiction {
	out := []Contradiction{}
	locked := make([]weight.Weight, len(e.shop.Places))
	kin := &e.kin
	type home struct{ item, place int }
	family := map[int][]home{}
	for i := range e.shop.Items {
		it := &e.shop.Items[i]
		for _, h := range e.ways.Index.Homes(it.ID) {
			place := e.ways.PlaceNumber(h.Place)
			if !h.Locked || place < 0 {
				continue
			}
			p := &e.shop.Places[place]
			n := h.Number(it)
			locked[place] += it.KG * weight.Weight(n)
			say := func(format string, args ...any) {
				out = append(out, Contradiction{it.ID, p.ID, fmt.Sprintf("%s is locked in %s, but ", it.Name, p.ID) + fmt.Sprintf(format, args...)})
			}
			empty := e.emptySpace(place)
			if why := keeping.Barred(p, it, n, empty); why != "" {
				say("%s", why)
			} else if err := empty.Allows(keeping.Thing(p, it, n), keeping.SpotOf(p, h)); err != nil {
				say("%v", err)
			} else if _, ok := e.scenes.Weekly(&e.uses[i], place, e.grip(i, n, place, keeping.SpotOf(p, h)), 0); !ok {
				say("nobody reaches it there")
			}
			if why := e.rules.Bars(it, place); why != "" {
				say("%s", why)
			}
			if k := kin.of[i]; k != none {
				family[k] = append(family[k], home{i, place})
			}
		}
	}
	for place, kg := range locked {
		if p := &e.shop.Places[place]; p.Capacity > 0 && kg > p.Capacity {
			out = append(out, Contradiction{"", p.ID, fmt.Sprintf("what is locked in %s weighs %s; it may carry %s", p.ID, kg, p.Capacity)})
		}
	}
	var keys []int
	for k := range family {
		keys = append(keys, k)
	}
	slices.Sort(keys)
	for _, k := range keys {
		first := family[k][0]
		for _, o := range family[k][1:] {
			if kin.host[o.place] != kin.host[first.place] {
				a, b := &e.shop.Items[first.item], &e.shop.Items[o.item]
				out = append(out, Contradiction{b.ID, e.shop.Places[o.place].ID, fmt.Sprintf("%s belong together, but %s is locked in %s and %s in %s", a.Family, a.Name, e.shop.Places[first.place].ID, b.Name, e.shop.Places[o.place].ID)})
				break
			}
		}
	}
	// What holds nothing at all.
	for i := range e.shop.Places {
		p := &e.shop.Places[i]
		if f := e.ways.Front(i); !f.Away && len(e.shop.Stations) > 0 && !slices.ContainsFunc(e.shop.Items, func(it shop.Item) bool { return it.Needs() && p.Takes(&it) }) && len(e.shop.Items) > 0 {
			out = append(out, Contradiction{"", p.ID, fmt.Sprintf("%s holds %s; none of the things is kept so", p.ID, keeping.Either(p.Offers()))})
		}
	}
	return out
}
