package fit

import (
	"reflect"
	"slices"

	"hobrak/internal/core/shop"
)

// Next is the problem of a shop that was changed a little: what is known of the things and
// places that did not change is taken over. It comes to the same as New. The lists of next
// that did not change are shared with the shop of the problem.
func (e *Problem) Next(next *shop.Shop, c *shop.Changes) (*Problem, error) {
	c = e.felt(next, c)
	scenes := e.scenes.With(next, c)
	if scenes == nil {
		return e.anew(next)
	}
	m := scenes.Base
	n := &Problem{shop: next, ways: m, scenes: scenes, rules: e.rules.Within(scenes, c.Items)}
	n.prepare()
	was := make(map[string]int, len(e.shop.Items))
	for i := range e.shop.Items {
		was[e.shop.Items[i].ID] = i
	}
	size := len(next.Items)
	n.fits, n.bars = make([][]option, size), make([][]string, size)
	var anew, patched []int
	places := e.placesIn(n, c)
	for i := range next.Items {
		it := &next.Items[i]
		k, known := was[it.ID]
		if !known || c.Items[it.ID] {
			n.uses = append(n.uses, m.UseOf(it))
			anew = append(anew, i)
			continue
		}
		u := e.uses[k]
		u.Item = it
		n.uses = append(n.uses, u)
		if places == nil {
			n.fits[i], n.bars[i] = e.fits[k], e.bars[k]
			continue
		}
		n.fits[i], n.bars[i] = places.row(e.fits[k], e.bars[k])
		patched = append(patched, i)
	}
	never := func() bool { return false }
	n.survey(anew, never)
	if places != nil {
		n.patch(patched, places.anew)
	}
	n.weigh()
	return n, nil
}

// anew is the problem of a changed shop where too much changed: in the modes by their hours, where it was.
func (e *Problem) anew(next *shop.Shop) (*Problem, error) {
	if len(e.scenes.All) == 1 && e.scenes.All[0].Mode == "" {
		return New(next)
	}
	return ByHours(next, func() bool { return false })
}

// felt are the changes that matter to where things live: a place that was only renamed is
// the place it was.
func (e *Problem) felt(next *shop.Shop, c *shop.Changes) *shop.Changes {
	if len(c.Boxes) > 0 {
		return c // what is in them is as it was, and elsewhere
	}
	out := *c
	out.Places = map[string]bool{}
	now := make(map[string]*shop.Place, len(c.Places))
	for i := range next.Places {
		if p := &next.Places[i]; c.Places[p.ID] {
			now[p.ID] = p
		}
	}
	same := len(next.Places) == len(e.shop.Places) // and in the same order
	for i := range next.Places {
		same = same && next.Places[i].ID == e.shop.Places[i].ID
	}
	for id := range c.Places {
		was, is := e.ways.Index.Place(id), now[id]
		if same && was != nil && is != nil {
			a, b := *was, *is
			a.Name, a.Notes, b.Name, b.Notes = "", "", "", ""
			if reflect.DeepEqual(a, b) {
				continue
			}
		}
		out.Places[id] = true
	}
	return &out
}

// renumbered places: where those that did not change are now, and which are to be judged.
type renumbered struct {
	to   []int // by number before: now, none when it is gone or another
	n    int
	anew []int
}

// placesIn a changed shop; nil when all are as they were.
func (e *Problem) placesIn(n *Problem, c *shop.Changes) *renumbered {
	if len(c.Places) == 0 {
		return nil
	}
	r := &renumbered{n: len(n.shop.Places)}
	for i := range e.shop.Places {
		id := e.shop.Places[i].ID
		to := n.ways.PlaceNumber(id)
		if c.Places[id] {
			to = none
		}
		r.to = append(r.to, to)
	}
	for i := range n.shop.Places {
		if c.Places[n.shop.Places[i].ID] {
			r.anew = append(r.anew, i)
		}
	}
	return r
}

// row of an item with the numbers of now.
func (r *renumbered) row(fits []option, bars []string) ([]option, []string) {
	out := make([]option, 0, len(fits)+len(r.anew))
	for _, o := range fits {
		if o.place = r.to[o.place]; o.place != none {
			out = append(out, o)
		}
	}
	why := make([]string, r.n)
	for i, to := range r.to {
		if to != none {
			why[to] = bars[i]
		}
	}
	return out, why
}

// patch judges some places for items of which the others are known.
func (e *Problem) patch(items, places []int) {
	workers := crew(len(items), 8)
	spread(workers, func(w int) {
		empty, said := e.emptySpaces(), map[string]string{}
		for k := w; k < len(items); k += workers {
			i := items[k]
			if !e.shop.Items[i].Needs() {
				continue
			}
			n := len(e.fits[i])
			for _, p := range places {
				e.judge(i, p, empty[p], said)
			}
			// Of the same cost the place with the lower number comes first: they may have changed.
			if len(e.fits[i]) > n || !slices.IsSortedFunc(e.fits[i], byCost) {
				e.cheapestFirst(i)
			}
		}
	})
}
