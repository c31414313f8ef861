package supply

import (
	"fmt"
	"slices"

	"hobrak/internal/core/quantity"
	"hobrak/internal/core/say"
	"hobrak/internal/core/served"
	"hobrak/internal/core/shop"
)

// StripLoad is what hangs on a power strip or reel.
type StripLoad struct {
	ID       string   `json:"id"`
	Name     string   `json:"name"`
	Into     string   `json:"into" doc:"the outlet or strip it is plugged into, in words; empty when in none"`
	Circuit  string   `json:"circuit" doc:"of the outlet at its end; empty when that is not known"`
	Machines []string `json:"machines" nullable:"false" doc:"names of what is plugged into it, or into what is plugged into it"`
	Rated    float64  `json:"rated" doc:"A, as printed on it; 0 when nobody read it"`
	Amps     float64  `json:"amps" doc:"most that runs on it at the same time"`
	Chain    int      `json:"chain" doc:"how many strips one into another there are up to the wall, this one included"`
}

func (w *worker) strip(id string) *shop.Strip {
	for i := range w.s.Settings.Strips {
		if w.s.Settings.Strips[i].ID == id {
			return &w.s.Settings.Strips[i]
		}
	}
	return nil
}

// chain of strips from one up to the wall, and the outlet at its end; nil when it hangs on nothing, or on itself.
func (w *worker) chain(id string) (chain []*shop.Strip, end *served.Outlet) {
	for x := w.strip(id); x != nil && !slices.Contains(chain, x); x = w.strip(id) {
		chain = append(chain, x)
		id = x.Into
	}
	if len(chain) == 0 {
		return nil, nil
	}
	for i := range w.outlets {
		if w.outlets[i].F.ID == chain[len(chain)-1].Into {
			return chain, &w.outlets[i]
		}
	}
	return chain, nil
}

// strips of the room: what hangs on each, against what is printed on it.
func (w *worker) strips() {
	for i := range w.s.Settings.Strips {
		x := &w.s.Settings.Strips[i]
		chain, end := w.chain(x.ID)
		l := StripLoad{ID: x.ID, Name: x.Name, Rated: x.Rated, Chain: len(chain), Machines: []string{}}
		switch {
		case end != nil && len(chain) == 1:
			l.Into, l.Circuit = end.Called(), end.F.Circuit
		case end != nil:
			l.Into, l.Circuit = chain[1].Name, end.F.Circuit
		case w.strip(x.Into) != nil:
			l.Into = w.strip(x.Into).Name
		}
		on := func(id string) bool {
			k := w.number(id)
			if k < 0 {
				return false
			}
			up, _ := w.chain(w.here[k].Outlet)
			return slices.Contains(up, x)
		}
		var first string
		for _, p := range w.out.Plugs {
			if on(p.Station) {
				l.Machines = append(l.Machines, p.Name)
				if first == "" {
					first = p.Station
				}
			}
		}
		if end == nil && len(l.Machines) == 0 && x.Into != "" {
			continue // it is in another room
		}
		for _, set := range w.sets {
			sum := 0.0
			for _, id := range set.ids {
				if p := w.plug(id); p != nil && on(id) {
					sum += p.Amps
				}
			}
			l.Amps = max(l.Amps, sum)
		}
		w.out.Strips = append(w.out.Strips, l)
		if first == "" {
			continue
		}
		if len(chain) > 1 {
			w.caution("chained", first, fmt.Sprintf("%s is plugged into %s, one strip into another", x.Name, chain[1].Name), "each strip into an outlet of its own: what hangs on both goes through the first, and each joint is one more that gets hot")
		}
		if x.Rated > 0 && l.Amps > x.Rated+1e-9 {
			w.caution("strip", first, fmt.Sprintf("%s draw %s A together on %s, which carries %s A", say.Listed(l.Machines), quantity.Number(l.Amps, 3), x.Name, quantity.Number(x.Rated, 3)), "machines into outlets, small things into strips")
		}
		if x.Reel && l.Amps > 0 {
			w.caution("reel", first, fmt.Sprintf("%s feeds %s from a drum", x.Name, say.Listed(l.Machines)), "unroll all of it before anything runs: what is wound up gets hot; the drum says what it carries wound up and unrolled")
		}
		if end == nil {
			w.caution("no-outlet", first, fmt.Sprintf("%s is plugged into nothing that is marked", x.Name), "say which outlet it is plugged into")
		}
	}
}
