package fit

import (
	"fmt"

	"hobrak/internal/core/keeping"
	"hobrak/internal/core/pack"
	"hobrak/internal/core/scene"
	"hobrak/internal/core/shop"
)

// Hands move things between places one at a time, by what places can hold and carry: what lies in the way and what weighs too
// much stops them. They ask for no wish and no cost. They are for one goroutine.
type Hands struct {
	e *Arrangement
	// own are the homes as the shop writes them, by number: a spot may be written in more than one way.
	own map[int]shop.Home
	of  map[int][]int // numbers by item
}

// NewHands are at a shop with its homes as they stand. It is quick: where things would do best is not looked for.
func NewHands(s *shop.Shop) (*Hands, error) {
	scenes, err := scene.AsItStands(s)
	if err != nil {
		return nil, err
	}
	e := &Problem{shop: s, ways: scenes.Base, scenes: scenes}
	e.prepare()
	for i := range s.Items {
		e.uses = append(e.uses, e.ways.UseOf(&s.Items[i]))
	}
	h := &Hands{e.Empty(), map[int]shop.Home{}, map[int][]int{}}
	for i := range s.Items {
		it := &s.Items[i]
		if !it.Needs() {
			continue
		}
		for _, at := range e.ways.Index.Homes(it.ID) {
			k := h.Pick(i, at.Number(it))
			place := e.ways.PlaceNumber(at.Place)
			h.e.put(k, place, keeping.SpotOf(&s.Places[place], at), 0)
			h.own[k] = *at
		}
	}
	return h, nil
}

// Held are n pieces of an item, the number of it in the shop, that lie in one spot together.
type Held struct {
	Item, N int
	Home    shop.Home // empty while they are in the hand
}

// All that the hands know of, by number.
func (h *Hands) All() []Held {
	out := make([]Held, len(h.e.parcels))
	for k := range out {
		out[k] = h.Held(k)
	}
	return out
}

// Held is one of them.
func (h *Hands) Held(k int) Held {
	p := &h.e.parcels[k]
	out := Held{Item: p.item, N: p.n}
	if p.place == none {
		return out
	}
	at := &h.e.shop.Places[p.place]
	if own, ok := h.own[k]; ok && own.Place == at.ID && keeping.SpotOf(at, &own) == p.spot {
		out.Home = own
	} else {
		out.Home = keeping.Home(&h.e.shop.Items[p.item], at, p.n, p.spot)
	}
	return out
}

// Pick n pieces of an item up that have no home; their number.
func (h *Hands) Pick(item, n int) int {
	h.e.parcels = append(h.e.parcels, parcel{item: item, n: n, place: none})
	k := len(h.e.parcels) - 1
	h.of[item] = append(h.of[item], k)
	return k
}

// with is the number of pieces of the same item that lie at a spot of a place already, none when there are none.
func (h *Hands) with(k, place int, spot pack.Spot) int {
	for _, j := range h.of[h.e.parcels[k].item] {
		if o := &h.e.parcels[j]; j != k && o.place == place && o.spot == spot {
			return j
		}
	}
	return none
}

// Under tells whether something else lies on them, so that they cannot be taken.
func (h *Hands) Under(k int) bool { return len(h.Over(k)) > 0 }

// Take them out of their place.
func (h *Hands) Take(k int) {
	if h.e.parcels[k].place != none {
		h.e.take(k)
	}
}

// Split n of them off into the hand; the rest stays where it is. It gives their number.
func (h *Hands) Split(k, n int) int {
	p := &h.e.parcels[k]
	if n >= p.n {
		h.Take(k)
		return k
	}
	h.grow(k, -n)
	return h.Pick(p.item, n)
}

// grow makes a pile larger or smaller where it lies.
func (h *Hands) grow(k, by int) {
	p := &h.e.parcels[k]
	place, spot := p.place, p.spot
	h.Take(k)
	p.n += by
	if place != none {
		h.e.put(k, place, spot, 0)
	}
}

// Lay them at a home, exactly there. The error says what is in the way; then nothing is changed. Pieces of the same item that lie
// there already count as one with them.
func (h *Hands) Lay(k int, at *shop.Home) error {
	_, err := h.Put(k, at)
	return err
}

// Put is Lay that can be taken back.
func (h *Hands) Put(k int, at *shop.Home) (back func(), err error) {
	e := h.e
	p := &e.parcels[k]
	place := e.ways.PlaceNumber(at.Place)
	if place < 0 {
		return nil, fmt.Errorf("there is no place %q", at.Place)
	}
	spot := keeping.SpotOf(&e.shop.Places[place], at)
	with, n, had := h.with(k, place, spot), p.n, 0
	apart := func() {
		if with != none {
			e.parcels[with].n = had
			e.put(with, place, spot, 0)
		}
	}
	if with != none {
		had = e.parcels[with].n
		e.take(with)
	}
	if over, what := e.overloaded(p.item, n+had, place); over > 0 {
		apart()
		return nil, fmt.Errorf("%s would carry %s too much", what, over)
	}
	if err := e.spaces[place].Allows(keeping.Thing(&e.shop.Places[place], &e.shop.Items[p.item], n+had), spot); err != nil {
		apart()
		return nil, err
	}
	if with != none {
		e.parcels[with].n = 0
	}
	p.n = n + had
	e.put(k, place, spot, 0)
	return func() {
		e.take(k)
		e.parcels[k].n = n
		apart()
	}, nil
}

// Room for them somewhere for a while: the first free spot in a place that takes them, of those that may be used; false when
// there is none.
func (h *Hands) Room(k int, may func(place string) bool) (shop.Home, bool) {
	e := h.e
	p := &e.parcels[k]
	it := &e.shop.Items[p.item]
	var spots []pack.Spot
	for i := range e.shop.Places {
		at := &e.shop.Places[i]
		if !may(at.ID) || keeping.Barred(at, it, p.n, e.emptySpace(i)) != "" {
			continue
		}
		if over, _ := e.overloaded(p.item, p.n, i); over > 0 {
			continue
		}
		t := keeping.Thing(at, it, p.n)
		spots = e.spaces[i].Spots(t, spots[:0])
		for _, s := range spots {
			if e.spaces[i].Allows(t, s) == nil {
				return keeping.Home(it, at, p.n, s), true
			}
		}
	}
	return shop.Home{}, false
}

// Join gives pieces that were split off back to where the rest lies.
func (h *Hands) Join(k, split int) {
	if k == split {
		return
	}
	h.grow(k, h.e.parcels[split].n)
	h.e.parcels[split].n = 0
}

// Back puts them where they lay, whatever is there: it is for what was taken and not laid elsewhere.
func (h *Hands) Back(k int, at *shop.Home) {
	place := h.e.ways.PlaceNumber(at.Place)
	h.e.put(k, place, keeping.SpotOf(&h.e.shop.Places[place], at), 0)
}

// Over are the numbers of what lies on them.
func (h *Hands) Over(k int) []int {
	p := &h.e.parcels[k]
	if p.place == none {
		return nil
	}
	if arms, ok := h.e.spaces[p.place].(*pack.Arms); ok {
		return arms.On(k)
	}
	return nil
}

// Clash tells whether n pieces of an item at a home leave no room there for m of another at its own; both in one place.
func (h *Hands) Clash(item, n int, at *shop.Home, other, m int, there *shop.Home) bool {
	e := h.e
	place := e.ways.PlaceNumber(at.Place)
	p := &e.shop.Places[place]
	space := e.emptySpace(place)
	space.Put(0, keeping.Thing(p, &e.shop.Items[item], n), keeping.SpotOf(p, at))
	return space.Allows(keeping.Thing(p, &e.shop.Items[other], m), keeping.SpotOf(p, there)) != nil
}
