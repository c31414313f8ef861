package fit

import (
	"hobrak/internal/core/carry"
	"hobrak/internal/core/keeping"
	"hobrak/internal/core/pack"
	"hobrak/internal/core/shop"
	"hobrak/internal/core/weight"
)

// screwed is a place or container on a wall whose screws are known and that has no rating:
// what they hold depends on the weight and on how far out it hangs.
type screwed struct {
	id      string
	fixing  *shop.Fixing
	surface string
	kg, out float64 // of what is always there: weight, and weight times distance from the wall in kg mm
}

// hung says that what is in a place hangs on such screws too, so much further out.
type hung struct {
	screwed int
	further float64
}

// onScrews finds what hangs on screws, and for each place on which.
func (e *Problem) onScrews() {
	e.hung = make([][]hung, len(e.shop.Places))
	empty := carry.Stock{Containers: e.shop.Containers, Places: e.shop.Places}
	add := func(id string, at *shop.At, f *shop.Fixing, rated weight.Weight, held carry.Held) int {
		if f == nil || rated > 0 || at.Wall == "" {
			return -1
		}
		a := e.ways.Index.Area(at.Area)
		surface := a.Walls[a.WallIndex(at.Wall)].Surface
		if !carry.Screwed(f, 0, surface, carry.Held{KG: 1}).Rated {
			return -1
		}
		e.screwed = append(e.screwed, screwed{id, f, surface, held.KG, held.KG * held.Out})
		return len(e.screwed) - 1
	}
	for i := range e.shop.Places {
		p := &e.shop.Places[i]
		if k := add(p.ID, &p.At, p.Fixing, p.Capacity, empty.Place(p)); k >= 0 {
			e.hangOn(k, p.ID, 0, 0)
		}
	}
	for i := range e.shop.Containers {
		c := &e.shop.Containers[i]
		if k := add(c.ID, &c.At, c.Fixing, c.Capacity, empty.Container(c)); k >= 0 {
			e.hangIn(k, c.ID, 0, 0)
		}
	}
}

// hangOn notes that a place, and whatever is on it, hangs on screws k.
func (e *Problem) hangOn(k int, id string, further float64, depth int) {
	place := e.ways.PlaceNumber(id)
	e.hung[place] = append(e.hung[place], hung{k, further})
	p := &e.shop.Places[place]
	for i := range e.shop.Containers {
		c := &e.shop.Containers[i]
		switch {
		case c.At.In != id || depth > len(e.shop.Containers):
		case e.kinds[place].Bears() == shop.BearsHung:
			e.hangIn(k, c.ID, further, depth+1)
		default: // as far out as the container stands on it
			e.hangIn(k, c.ID, further+(p.D-c.At.Y-c.D).MM(), depth+1)
		}
	}
}

// hangIn notes the same of what is in a container.
func (e *Problem) hangIn(k int, id string, further float64, depth int) {
	for i := range e.shop.Places {
		if p := &e.shop.Places[i]; p.At.In == id {
			e.hangOn(k, p.ID, further, depth)
		}
	}
	for i := range e.shop.Containers {
		if c := &e.shop.Containers[i]; c.At.In == id && c.ID != id && depth <= len(e.shop.Containers) {
			e.hangIn(k, c.ID, further, depth+1)
		}
	}
}

// pulls is what a parcel adds to the screws it hangs on.
type pulls struct{ kg, out float64 }

// weighs gives the weight of n pieces in a place and how far out they are; a spot that is
// not chosen yet counts as the furthest out.
func (e *Problem) weighs(item, n, place int, s *pack.Spot) pulls {
	it, p := &e.shop.Items[item], &e.shop.Places[place]
	h := shop.Home{Item: it.ID, Place: p.ID, N: n}
	if s != nil {
		h = keeping.Home(it, p, n, *s)
		h.N = n
	} else if k := e.kinds[place]; k.Form() == keeping.Piles {
		h.Y = max(0, p.D-k.Size(it).D)
	}
	held := carry.Stock{Homes: []shop.Home{h}, Item: func(string) *shop.Item { return it }}.Place(p)
	return pulls{held.KG, held.KG * held.Out}
}

// burden adds a parcel to the screws it hangs on, or takes it off with sign -1.
func (e *Arrangement) burden(p *parcel, place int, s pack.Spot, sign float64) {
	if len(e.hung[place]) == 0 {
		return
	}
	w := e.weighs(p.item, p.n, place, &s)
	for _, h := range e.hung[place] {
		e.pulled[h.screwed].kg += float64(sign * w.kg)
		e.pulled[h.screwed].out += float64(sign * (w.out + float64(w.kg*h.further)))
	}
}

// tooMuch tells by how many kg n pieces more in a place would be more than screws hold,
// and what hangs on them.
func (e *Arrangement) tooMuch(item, n, place int) (weight.Weight, string) {
	if len(e.hung[place]) == 0 {
		return 0, ""
	}
	w := e.weighs(item, n, place, nil)
	for _, h := range e.hung[place] {
		s, has := &e.screwed[h.screwed], e.pulled[h.screwed]
		kg := s.kg + has.kg + w.kg
		if kg <= 0 {
			continue
		}
		out := (s.out + has.out + w.out + w.kg*h.further) / kg
		if v := carry.Screwed(s.fixing, 0, s.surface, carry.Held{KG: kg, Out: max(0, out)}); v.Rated && v.Use > 1-1e-9 {
			return weight.KG(max(.001, kg-v.KG)), s.id
		}
	}
	return 0, ""
}
