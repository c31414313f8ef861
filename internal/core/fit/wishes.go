package fit

import (
	"slices"

	"hobrak/internal/core/hold"
)

// families of a shop and in how many cases each lives.
type families struct {
	of    []int         // by item, none without one
	host  []int         // by place: its outermost container, or itself
	there []map[int]int // by family: parcels by host
}

// families finds who belongs together and what counts as one place: a case is one,
// whatever it has inside.
func (e *Engine) families() families {
	f := families{}
	known := map[string]int{}
	for i := range e.shop.Items {
		name := e.shop.Items[i].Family
		if name == "" {
			f.of = append(f.of, none)
			continue
		}
		k, ok := known[name]
		if !ok {
			k = len(known)
			known[name] = k
		}
		f.of = append(f.of, k)
	}
	cases := map[string]int{}
	for i := range e.shop.Places {
		p := &e.shop.Places[i]
		f.host = append(f.host, i)
		if chain, _ := e.ways.Index.Chain(&p.At); len(chain) > 0 {
			outer := chain[len(chain)-1].ID
			if k, ok := cases[outer]; ok {
				f.host[i] = k
			} else {
				cases[outer] = i
			}
		}
	}
	f.there = make([]map[int]int, len(known))
	f.empty()
	return f
}

func (f *families) empty() {
	for k := range f.there {
		f.there[k] = map[int]int{}
	}
}

// join or leave: a parcel of an item goes into a place, or out of it.
func (r *search) join(item, place, by int) {
	k := r.kin.of[item]
	if k == none {
		return
	}
	h := r.kin.host[place]
	if r.kin.there[k][h] += by; r.kin.there[k][h] == 0 {
		delete(r.kin.there[k], h)
	}
}

// company is what an item pays for going where none of its family is, when some
// are elsewhere.
func (r *search) company(item, place int) float64 {
	k := r.kin.of[item]
	if k == none || r.o.Wishes.Together <= 0 || len(r.kin.there[k]) == 0 || r.kin.there[k][r.kin.host[place]] > 0 {
		return 0
	}
	return r.o.Wishes.Together
}

// apart is what the families of some parcels pay for living in more than one case.
func (r *search) apart(list []int) (sum float64) {
	if r.o.Wishes.Together <= 0 {
		return 0
	}
	var seen []int
	for _, i := range list {
		if k := r.kin.of[r.parcels[i].item]; k != none && !slices.Contains(seen, k) {
			seen = append(seen, k)
			sum += r.o.Wishes.Together * float64(max(0, len(r.kin.there[k])-1))
		}
	}
	return sum
}

// liked is what an item pays for a place that is against a wish.
func (r *search) liked(item, place int) float64 {
	p := r.Engine.against(item, place, r.o.Wishes)
	return p.Dust + p.Show
}

// against says which wishes a place is against for an item, and their prices.
func (e *Engine) against(item, place int, w *Wishes) (out Wishes) {
	it := &e.shop.Items[item]
	if len(it.Flags) == 0 {
		return out
	}
	if slices.Contains(it.Flags, "dust") && e.rules.Dusty(place) {
		out.Dust = w.Dust
	}
	if slices.Contains(it.Flags, "show") && e.ways.Front(place).Closed {
		out.Show = w.Show
	}
	return out
}

// paid adds up what the plan in the engine's parcels pays for each wish.
func (e *Engine) paid(o Options) (out Wishes) {
	kin := e.families()
	for i := range e.parcels {
		p := &e.parcels[i]
		if p.place == none {
			continue
		}
		a := e.against(p.item, p.place, o.Wishes)
		out.Dust += a.Dust
		out.Show += a.Show
		if k := kin.of[p.item]; k != none {
			kin.there[k][kin.host[p.place]]++
		}
		if homes := e.ways.Index.Homes(e.shop.Items[p.item].ID); len(homes) > 0 && !p.fixed {
			if h := homes[0]; h.Place != e.shop.Places[p.place].ID || hold.SpotOf(&e.shop.Places[p.place], h) != p.spot {
				out.Moving += o.Wishes.Moving
			}
		}
	}
	for _, t := range kin.there {
		out.Together += o.Wishes.Together * float64(max(0, len(t)-1))
	}
	return out
}
