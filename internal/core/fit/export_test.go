package fit

import (
	"fmt"
	"math"
	"math/rand/v2"
	"slices"

	"hobrak/internal/core/keeping"
	"hobrak/internal/core/pack"
	"hobrak/internal/core/shop"
)

// Differs says in what two problems differ; empty when they are the same.
func Differs(a, b *Problem) string {
	switch {
	case len(a.fits) != len(b.fits) || len(a.within) != len(b.within):
		return "they are of different size"
	case !slices.EqualFunc(a.within, b.within, slices.Equal[[]int]):
		return "what bears the places"
	case !slices.EqualFunc(a.hung, b.hung, slices.Equal[[]hung]):
		return "what hangs on which screws"
	case !slices.Equal(a.kin.of, b.kin.of) || !slices.Equal(a.kin.host, b.kin.host) || !slices.Equal(a.kin.must, b.kin.must):
		return "the families"
	}
	for i := range a.fits {
		id := a.shop.Items[i].ID
		same := func(x, y option) bool {
			return x.place == y.place && math.Abs(x.least-y.least) <= 1e-9*math.Abs(y.least) && slices.Equal(x.prefer, y.prefer)
		}
		switch {
		case !slices.EqualFunc(a.fits[i], b.fits[i], same):
			return fmt.Sprintf("%s fits %v and %v", id, a.fits[i], b.fits[i])
		case !slices.Equal(a.bars[i], b.bars[i]):
			return fmt.Sprintf("%s is barred by %q and %q", id, a.bars[i], b.bars[i])
		case math.Abs(a.nuisance[i]-b.nuisance[i]) > 1e-6:
			return id + " is another nuisance"
		case a.uses[i].Item != &a.shop.Items[i] || b.uses[i].Item != &b.shop.Items[i]:
			return id + " is not of this shop"
		case a.rules.Urgent(&a.shop.Items[i]) != b.rules.Urgent(&b.shop.Items[i]):
			return id + " is urgent in one"
		}
	}
	for p := range a.shop.Places {
		if !slices.Equal(a.rules.Near(p), b.rules.Near(p)) {
			return a.shop.Places[p].ID + " is near to others"
		}
	}
	return ""
}

// GripOf a home of a shop.
func GripOf(s *shop.Shop, h *shop.Home) keeping.Grip {
	ix := shop.NewIndex(s)
	return keeping.GripOf(ix.Place(h.Place), ix.Item(h.Item), h)
}

// LeastBlock is what a bound says that n pieces of an item cost at least in a place, seconds a week, when room costs nothing, or without a
// home when that is less; infinite where none can be.
func (p *Problem) LeastBlock(item, n, place int) float64 {
	r := p.Empty().relax(func(int) []*shop.Home { return nil }, func() bool { return false })
	for k := range r.things {
		t := &r.things[k]
		if t.item != item {
			continue
		}
		for w := range t.placings {
			if t.placings[w].place == place {
				only := relaxed{item: item, n: t.n, alone: math.Inf(1), beyond: math.Inf(1), placings: t.placings[w : w+1]}
				var lately recent
				var best pick
				return r.block(&only, n, &lately, &best, make([]float64, room))
			}
		}
		if p.bars[item][place] == "" {
			return min(t.alone, t.beyond) * float64(n) / float64(t.n)
		}
	}
	return math.Inf(1)
}

// CheapestSpot is what n pieces cost at the cheapest of some spots of an empty place and its corners, as lifting and rules allow; infinite
// where they are barred at all of them.
func (p *Problem) CheapestSpot(item, n, place int, spots []pack.Spot) (least float64) {
	least = math.Inf(1)
	if p.bars[item][place] != "" {
		return least
	}
	empty := p.emptySpace(place)
	t := p.kinds[place].Thing(&p.shop.Items[item], n)
	for _, s := range append(spots, empty.Spots(t, nil)...) {
		if empty.Allows(t, s) == nil {
			if c, why := p.spotCost(item, n, place, s, false); why == "" {
				least = min(least, c)
			}
		}
	}
	return least
}

// Overlooked finds homes, takes some of them away again, and says what a thing would have been offered that is not the cheapest of all
// spots there, or not found though it costs less than was asked for; empty when there is nothing. It says how many offers it looked at.
func (p *Problem) Overlooked(seed uint64) (wrong string, offers int) {
	rng := rand.New(rand.NewPCG(seed, 7))
	wishes := WishesOf(p.shop)
	e := p.Empty()
	e.single(Options{Seed: seed, Iterations: 40, Wishes: &wishes, Done: func() bool { return false }, Spent: func() float64 { return 0 }})
	for i := range e.parcels {
		if q := &e.parcels[i]; q.place != none && !e.bears(i) && rng.IntN(3) == 0 {
			e.take(i)
		}
	}
	for item := range p.fits {
		for k := range p.fits[item] {
			o := &p.fits[item][k]
			n := 1 + rng.IntN(p.shop.Items[item].Number())
			th := e.kinds[o.place].Thing(&p.shop.Items[item], n)
			least := math.Inf(1)
			over, _ := e.overloaded(item, n, o.place)
			spots := e.spaces[o.place].Spots(th, nil)
			if over == 0 && e.harmful(item, o.place) == "" && len(spots) > 0 {
				for _, s := range e.preferred(item, n, o, th, math.Inf(1), spots) {
					if c, why := e.spotCost(item, n, o.place, s, false); why == "" {
						least = min(least, c)
					}
				}
			}
			below := [...]float64{math.Inf(1), least * (.9 + .2*rng.Float64())}[rng.IntN(2)]
			if math.IsNaN(below) {
				below = math.Inf(1)
			}
			offers++
			at := e.free(item, n, o, below)
			what := fmt.Sprintf("%d of %s in %s below %g: %+v, at least %g of %d spots, floor %g, %s %T", n, p.shop.Items[item].ID, p.shop.Places[o.place].ID, below, at, least, len(spots), o.least*float64(n)/float64(p.shop.Items[item].Number()), p.shop.Places[o.place].Kind, e.spaces[o.place])
			switch real, why := e.spotCost(item, n, o.place, at.Spot, false); {
			case at.Found != (least < below-pack.Tie):
				return "found or not: " + what, offers
			case at.None && len(spots) > 0:
				return "there is room: " + what, offers
			case at.Found && (math.Abs(at.Cost-least) > 1e-6 || why != "" || math.Abs(real-at.Cost) > 1e-6):
				return fmt.Sprintf("%s; that spot costs %g %s", what, real, why), offers
			case at.Found && e.spaces[o.place].Allows(th, at.Spot) != nil:
				return "not free: " + what, offers
			}
		}
	}
	return "", offers
}
