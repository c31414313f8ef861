package fit

import (
	"cmp"
	"fmt"
	"math"
	"slices"
	"strings"

	"hobrak/internal/core/keeping"
	"hobrak/internal/core/length"
	"hobrak/internal/core/shop"
)

// change is the smallest change of what there is that gives n pieces of an item a home,
// each of them tried: held otherwise, others moving to homes of their own, a place a
// little larger, something put out. Empty when none does: then it takes a place more.
func (e *Arrangement) change(item, n int) string {
	if says := e.heldOtherwise(item, n); says != "" {
		return says
	}
	if says := e.othersMove(item, n); says != "" {
		return says
	}
	mm, larger := e.larger(item, n)
	if larger != "" && mm <= little {
		return larger
	}
	if says := e.putOut(item, n); says != "" {
		return says
	}
	return larger
}

const (
	// little is how much larger a place is easily made, in mm, mostLarger how much is
	// tried, in steps of enlarged.
	little     = 100.0
	mostLarger = 400.0
	enlarged   = 10.0
	// mostEnlarged places are tried, the cheapest first.
	mostEnlarged = 16
)

// otherwise are ways of holding that may be allowed besides.
var otherwise = []shop.Hold{shop.Flat, shop.Stand, shop.Hang, shop.InBin}

// heldOtherwise finds the way of holding that, were it allowed, would give the item a
// home at once, where it costs least; empty when none would.
func (e *Arrangement) heldOtherwise(item, n int) string {
	best, says := math.Inf(1), ""
	for _, way := range otherwise {
		it := e.shop.Items[item]
		if slices.Contains(it.Holding(), way) {
			continue
		}
		it.Hold = []shop.Hold{way}
		u := e.ways.UseOf(&it)
		for place := range e.shop.Places {
			p := &e.shop.Places[place]
			if e.rules.Bars(&it, place) != "" || e.harmful(item, place) != "" || keeping.Barred(p, &it, n, e.spaces[place]) != "" {
				continue
			}
			if over, _ := e.overloaded(item, n, place); over > 0 {
				continue
			}
			for _, s := range e.spaces[place].Spots(keeping.Thing(p, &it, n), nil) {
				g := e.kinds[place].Grip(p, &it, n, s)
				c, why := e.scenes.Cost(&u, place, g, keeping.Aside(p, s), false)
				if why == "" && c < best && e.rules.Height(&it, place, g.Z) == "" {
					best, says = c, fmt.Sprintf("let it %s: %s has room for it", way.Says(), p.ID)
				}
			}
		}
	}
	return says
}

// othersMove finds one or two others that can go elsewhere and make room.
func (e *Arrangement) othersMove(item, n int) string {
	e.parcels = append(e.parcels, parcel{item: item, n: n, place: none})
	me := len(e.parcels) - 1
	defer func() { e.parcels = e.parcels[:me] }()
	x, ok := e.makeRoom(me, 2)
	if !ok || len(x.moves) < 2 {
		return ""
	}
	var moves []string
	for _, m := range x.moves[1:] {
		moves = append(moves, fmt.Sprintf("%s to %s", e.shop.Items[e.parcels[m.i].item].Name, e.shop.Places[m.place].ID))
	}
	return fmt.Sprintf("move %s: then %s has room for it", strings.Join(moves, " and "), e.shop.Places[x.moves[0].place].ID)
}

// putOut looks for the one thing, the smallest, whose leaving would make room.
func (e *Arrangement) putOut(item, n int) string {
	for k := range e.fits[item] {
		o := &e.fits[item][k]
		best, name := -1.0, ""
		for i := range e.parcels {
			q := &e.parcels[i]
			if q.place != o.place || q.fixed || e.bears(i) {
				continue
			}
			was := *q
			e.take(i)
			ok := e.best(item, n, o).Found
			e.put(i, was.place, was.spot, was.cost)
			size := e.spaces[o.place].Takes(e.kinds[o.place].Thing(&e.shop.Items[q.item], q.n))
			if ok && (best < 0 || size < best) {
				best, name = size, e.shop.Items[q.item].Name
			}
		}
		if name != "" {
			return fmt.Sprintf("move %s out of %s", name, e.shop.Places[o.place].ID)
		}
	}
	return ""
}

// larger finds the place that, made least larger in one direction, has room beside what
// is in it, and by how many millimetres.
func (e *Arrangement) larger(item, n int) (least float64, says string) {
	it := &e.shop.Items[item]
	type near struct {
		place int
		cost  float64
	}
	var places []near
	for p := range e.shop.Places {
		pl := &e.shop.Places[p]
		if !pl.Takes(it) || e.rules.Bars(it, p) != "" || e.harmful(item, p) != "" || e.torn(item, p) {
			continue
		}
		if over, _ := e.overloaded(item, n, p); over > 0 {
			continue
		}
		places = append(places, near{p, e.kinds[p].Short(pl, e.kinds[p].Size(it))})
	}
	slices.SortStableFunc(places, func(a, b near) int { return cmp.Compare(a.cost, b.cost) })
	least = math.Inf(1)
	for _, p := range places[:min(len(places), mostEnlarged)] {
		for _, way := range e.kinds[p.place].Growing() {
			most := min(mostLarger, least-enlarged)
			if most < enlarged || !e.roomIn(item, n, p.place, way.Side, most) {
				continue
			}
			low, high := 0.0, most // high is enough, low is not
			for high-low > enlarged {
				if mid := math.Round((low+high)/2/enlarged) * enlarged; e.roomIn(item, n, p.place, way.Side, mid) {
					high = mid
				} else {
					low = mid
				}
			}
			least, says = high, fmt.Sprintf(way.Says, length.MM(high), e.shop.Places[p.place].ID)
		}
	}
	return least, says
}

// roomIn tells whether a place larger by some millimetres has room for n pieces beside
// what is in it.
func (e *Arrangement) roomIn(item, n, place int, side func(*shop.Place) *length.Length, more float64) bool {
	p := e.shop.Places[place]
	*side(&p) += length.MM(more)
	space := keeping.SpaceIn(e.shop, &p, headOver(e.ways, place))
	for i := range e.parcels {
		if q := &e.parcels[i]; q.place == place {
			space.Put(i, keeping.Thing(&p, &e.shop.Items[q.item], q.n), q.spot)
		}
	}
	it := &e.shop.Items[item]
	if keeping.Barred(&p, it, n, space) != "" {
		return false
	}
	for _, s := range space.Spots(keeping.Thing(&p, it, n), nil) {
		g := e.kinds[place].Grip(&p, it, n, s)
		if _, why := e.scenes.Cost(&e.uses[item], place, g, keeping.Aside(&p, s), false); why == "" {
			return true
		}
	}
	return false
}
