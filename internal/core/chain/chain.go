// Package chain counts what must be moved or opened before a thing or a machine can be used, with its seconds and lifts, and by how
// often that happens: the list of what annoys most. What waits for each other in a ring is named. Lengths are millimetres, times
// seconds.
package chain

import (
	"cmp"
	"fmt"
	"slices"

	"hobrak/internal/core/access"
	"hobrak/internal/core/feed"
	"hobrak/internal/core/flow"
	"hobrak/internal/core/keeping"
	"hobrak/internal/core/shop"
)

// Link of a chain: something done before.
type Link struct {
	Do      string  `json:"do"`
	ID      string  `json:"id" doc:"of what is moved; empty when it is opened"`
	Seconds float64 `json:"seconds"`
}

// Chain is what comes before using something.
type Chain struct {
	ID      string   `json:"id"`
	Name    string   `json:"name"`
	Kind    string   `json:"kind" enum:"item,station"`
	Links   []Link   `json:"links" nullable:"false"`
	Seconds float64  `json:"seconds" doc:"each time"`
	Lifts   int      `json:"lifts" doc:"how often something is lifted out of the way"`
	Rate    float64  `json:"rate" doc:"times a week"`
	Week    float64  `json:"week" doc:"seconds a week"`
	Ring    []string `json:"ring" nullable:"false" doc:"names of what waits for each other in a ring; empty when nothing does"`
}

const (
	// A machine no job and no thing comes to is still used so often a week (estimate).
	seldom = .5
	unfold = 20.0
	hoist  = 60.0
	roll   = 10.0
)

// Of a mapped shop, as it is in a mode when one is named, what costs most a week first. The map is that of the mode.
func Of(m *access.Map, was *shop.Shop, mode string) ([]Chain, error) {
	s := m.Shop
	var out []Chain
	for i := range s.Homes {
		if c, ok := ofItem(m, &s.Homes[i]); ok {
			out = append(out, c)
		}
	}
	machines, err := ofStations(m, was, mode)
	if err != nil {
		return nil, err
	}
	out = append(out, machines...)
	rings(out)
	slices.SortStableFunc(out, func(a, b Chain) int { return cmp.Compare(b.Week, a.Week) })
	return out, nil
}

func (c *Chain) add(do, id string, seconds float64) {
	c.Links = append(c.Links, Link{do, id, seconds})
	c.Seconds += seconds
}

// ofItem is what comes before fetching a thing, apart from walking, bending and looking for it; false when nothing does.
func ofItem(m *access.Map, h *shop.Home) (Chain, bool) {
	it, p := m.Index.Item(h.Item), m.Index.Place(h.Place)
	if it == nil || p == nil {
		return Chain{}, false
	}
	u, place := m.UseOf(it), m.PlaceNumber(p.ID)
	f := m.Front(place)
	c := Chain{ID: it.ID, Name: it.Name, Kind: "item", Ring: []string{}, Rate: it.UsesPerWeek * float64(h.Number(it)) / float64(max(1, it.Number()))}
	_, blockers := m.Band(&u, place, keeping.GripOf(p, it, h))
	for _, id := range blockers {
		c.add("roll "+called(m.Index, id)+" out", id, m.Estimates.RollOut)
	}
	for _, a := range f.Accesses {
		if sec := a.Seconds(&m.Estimates); sec > 0 {
			c.add("open the "+string(a), "", sec)
		}
	}
	if f.LiftOut {
		c.add("lift the box out", "", m.Estimates.LiftOut)
		c.Lifts++
	}
	if h.Row == 1 {
		n := 0
		for i := range m.Shop.Homes {
			o := &m.Shop.Homes[i]
			if x := m.Index.Item(o.Item); o.Place == h.Place && o.Row == 0 && x != nil && o.X < h.X+it.W && o.X+x.W > h.X {
				n++
			}
		}
		if n > 0 {
			c.add(fmt.Sprintf("move %d aside", n), "", float64(n)*m.Estimates.Aside)
			c.Lifts += n
		}
	}
	// One thing to open is how storage is; a chain begins with two, or with something to move.
	if len(c.Links) < 2 && c.Lifts == 0 && len(blockers) == 0 {
		return c, false
	}
	c.Week = c.Seconds * c.Rate
	return c, c.Week > 0
}

func called(ix *shop.Index, id string) string {
	if n := ix.Name(id); n != "" {
		return n
	}
	return id
}

// Visits a week to each station: by the things used there and by the stops of jobs.
func Visits(s *shop.Shop) map[string]float64 {
	out := map[string]float64{}
	for i := range s.Items {
		it := &s.Items[i]
		for _, st := range it.UsedAt {
			out[st] += it.UsesPerWeek / float64(len(it.UsedAt))
		}
	}
	if len(s.Areas) == 0 {
		return out
	}
	jobs, _ := flow.Jobs(s, &s.Areas[0])
	for _, j := range jobs {
		for _, stop := range j.Path {
			out[stop] += j.PerWeek()
		}
	}
	return out
}

func ofStations(m *access.Map, was *shop.Shop, mode string) (out []Chain, err error) {
	takes, err := feed.Of(m.Shop, "")
	if err != nil {
		return nil, err
	}
	spots := map[string]shop.Standing{}
	if mode != "" {
		x, err := was.Mode(mode)
		if err != nil {
			return nil, err
		}
		spots = x.Spots
	}
	jobs := map[string]float64{} // how often a long piece comes
	if len(was.Areas) > 0 {
		list, _ := flow.Jobs(was, &was.Areas[0])
		for _, j := range list {
			for _, stop := range j.Path {
				jobs[stop] += j.PerWeek()
			}
		}
	}
	for i := range m.Shop.Stations {
		st := &m.Shop.Stations[i]
		if st.Kind.Lodger() {
			continue
		}
		c := Chain{ID: st.ID, Name: st.Name, Kind: "station", Ring: []string{}, Rate: max(seldom, jobs[st.ID])}
		switch spots[st.ID].State {
		case "folded":
			c.add("unfold it", st.ID, unfold)
		case "hoisted":
			c.add("let it down", st.ID, hoist)
			c.Lifts++
		case "away", "outdoors":
			c.add("bring it in", st.ID, 3*roll)
		}
		if st.Mobility == shop.HungUp && mode == "" {
			c.add("take it down", st.ID, hoist)
			c.Lifts++
		}
		if k := slices.IndexFunc(takes, func(t feed.Taken) bool { return t.Station == st.ID }); k >= 0 {
			t := &takes[k]
			steps, err := t.ToPass(min(st.Feed.In.MM(), st.Feed.Out.MM()))
			if err != nil {
				steps = t.Steps
			}
			for _, x := range steps {
				c.add(x.Do, x.ID, x.Seconds)
			}
		}
		if len(c.Links) == 0 {
			continue
		}
		c.Week = c.Seconds * c.Rate
		out = append(out, c)
	}
	return out, nil
}

// rings marks chains in which things wait for each other: one is moved for the other, and the other for the one.
func rings(all []Chain) {
	waits := map[string][]string{}
	name := map[string]string{}
	for i := range all {
		if all[i].Kind != "station" {
			continue
		}
		name[all[i].ID] = all[i].Name
		for _, l := range all[i].Links {
			if l.ID != "" && l.ID != all[i].ID {
				waits[all[i].ID] = append(waits[all[i].ID], l.ID)
			}
		}
	}
	for i := range all {
		if all[i].Kind != "station" {
			continue
		}
		// The shortest way back to itself, breadth first.
		from := map[string]string{}
		queue := []string{all[i].ID}
		for len(queue) > 0 && len(all[i].Ring) == 0 {
			x := queue[0]
			queue = queue[1:]
			for _, y := range waits[x] {
				if y == all[i].ID {
					for k := x; ; k = from[k] {
						all[i].Ring = append(all[i].Ring, name[k])
						if k == all[i].ID {
							break
						}
					}
					slices.Reverse(all[i].Ring)
					break
				}
				if _, seen := from[y]; !seen && name[y] != "" {
					from[y] = x
					queue = append(queue, y)
				}
			}
		}
	}
}
