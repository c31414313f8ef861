package check

import (
	"hobrak/internal/core/access"
	"hobrak/internal/core/carry"
	"hobrak/internal/core/keeping"
	"hobrak/internal/core/length"
	"hobrak/internal/core/load"
	"hobrak/internal/core/shop"
	"hobrak/internal/core/weight"
)

// tipping warns of what stands on wheels or narrow feet and would fall over at a
// push: its own weight at its middle, what it holds at the places it lives in.
func (c *checker) tipping() {
	stock := carry.Of(c.s, c.ix)
	for i := range c.s.Containers {
		k := &c.s.Containers[i]
		if k.At.Floor == nil || !k.Kind.Tips() {
			continue
		}
		a, err := stock.TiltOn(k, c.ix.Area(k.Area))
		switch {
		case err != nil:
		case a < load.TipBarred:
			c.add(false, "tips", k.ID, a, "degrees", "%s tips over at %.0f degrees: fix it to the wall, or move the heavy things down", k.ID, a)
		case a < load.TipCaution:
			c.add(false, "tips", k.ID, a, "degrees", "%s tips over at %.0f degrees: keep the heavy things low", k.ID, a)
		}
	}
}

// hanging is a place or container on a wall.
type hanging struct {
	id       string
	at       *shop.At
	w, d     float64
	held     carry.Held
	fixing   *shop.Fixing
	capacity float64
}

// hung warns of what hangs down into something that stands before the wall, and
// of what nothing is known to carry; screws that are overloaded break a rule.
func (c *checker) hung() {
	stock := carry.Of(c.s, c.ix)
	var all []hanging
	for i := range c.s.Places {
		if p := &c.s.Places[i]; p.At.Wall != "" {
			all = append(all, hanging{p.ID, &p.At, p.W.MM(), p.D.MM(), stock.Place(p), p.Fixing, p.Capacity.KG()})
		}
	}
	for i := range c.s.Containers {
		// The back of a door hangs on the door's own hinges.
		if k := &c.s.Containers[i]; k.At.Wall != "" && !k.Kind.OnDoor() {
			all = append(all, hanging{k.ID, &k.At, k.W.MM(), k.D.MM(), stock.Container(k), k.Fixing, k.Capacity.KG()})
		}
	}
	for i := range all {
		c.into(&all[i])
		c.fixed(&all[i])
	}
}

func (c *checker) into(p *hanging) {
	a := c.ix.Area(p.at.Area)
	foot := a.Frame(a.WallIndex(p.at.Wall)).Before(p.at.X.MM(), p.at.X.MM()+p.w, p.d)
	for _, t := range c.standing[a.ID] {
		if by := t.Height - p.at.Z.MM(); by > eps && t.ID != p.id && foot.Overlaps(t.Footprint, 1) {
			c.add(false, "into", p.id, by, "mm", "%s hangs %s down into %s, which stands before the wall there", p.id, length.Whole(by), t.ID)
		}
	}
}

func (c *checker) fixed(p *hanging) {
	a := c.ix.Area(p.at.Area)
	k := a.WallIndex(p.at.Wall)
	hit := a.StudsBehind(k, p.at.X.MM(), p.at.X.MM()+p.w)
	surface := a.Walls[k].Surface
	v := carry.Screwed(p.fixing, p.capacity, surface, p.held)
	switch {
	case v.Rated && p.capacity <= 0 && v.Use > 1:
		c.add(true, "fixing", p.id, p.held.KG-v.KG, "kg", "%s carries %s; its screws hold %s (%s)", p.id, weight.Rough(p.held.KG), weight.Rough(v.KG), v.Why)
	case v.Rated && p.capacity <= 0 && hit == 0 && surface != "timber" && len(a.Walls[k].Studs.Centres(a.Frame(k).Length)) > 0:
		c.add(false, "not-rated", p.id, 0, "", "%s: its screws are said to hit studs, but none is behind it", p.id)
	case v.Rated:
	case carry.Anchored(surface):
		c.add(false, "not-rated", p.id, 0, "", "%s hangs on %s: what its anchors are rated for is not said", p.id, surface)
	case p.fixing != nil:
		c.add(false, "not-rated", p.id, 0, "", "%s is %s", p.id, v.Why)
	case hit < 2 && surface != "timber":
		c.add(false, "not-rated", p.id, 0, "", "%s hangs with %d studs behind it: it needs two, or anchors with a rating of their own", p.id, hit)
	}
}

// bends warns of shelves that sag and of racks whose boards do, or whose arms
// are more than the studs they should be on.
func (c *checker) bends() {
	stock := carry.Of(c.s, c.ix)
	for i := range c.s.Places {
		p := &c.s.Places[i]
		switch k := keeping.Of(p); {
		case k.Boarded():
			kg := stock.Place(p).KG
			if g, err := carry.Shelf(p, kg); err == nil && !g.Assumed && g.Sag > g.Limit {
				c.add(false, "sags", p.ID, g.Sag-g.Limit, "mm", "%s %s", p.ID, g.What(kg))
			}
		case k.Form() == keeping.Piles:
			r := stock.Rack(p)
			if !r.Counted {
				continue
			}
			for _, l := range r.Levels {
				for _, b := range l.Boards {
					if b.Sag > b.Limit {
						c.add(false, "sags", p.ID, b.Sag-b.Limit, "mm", "%s sags %s between arms %s apart in %s; %s are bearable: more arms, or put it on edge", b.Item.Name, length.Fine(b.Sag), length.Whole(r.Field), p.ID, length.Fine(b.Limit))
					}
				}
			}
			if p.At.Wall == "" {
				continue
			}
			a := c.ix.Area(p.At.Area)
			k := a.WallIndex(p.At.Wall)
			hit := a.StudsBehind(k, p.At.X.MM(), (p.At.X + p.W).MM())
			if s := a.Walls[k].Surface; s != "timber" && s != "brick" && s != "block" && s != "concrete" && hit < r.Arms {
				c.add(false, "arms", p.ID, float64(r.Arms-hit), "", "%s has %d arms a level and %d studs behind it: an arm belongs on a stud", p.ID, r.Arms, hit)
			}
		}
	}
}

// liftOff is the room above a holder on a bevelled rail to lift it off: half a
// rail of 60 mm and 10.
const liftOff = 40.0

// liftOff warns of things in cleat fields that cannot be lifted off their rail:
// something hangs or begins too close above.
func (c *checker) liftOff(p *shop.Place, pieces []piece) {
	if p.Style != "cleat" || p.At.Wall == "" {
		return
	}
	a := c.ix.Area(p.At.Area)
	k := a.WallIndex(p.At.Wall)
	hangs := access.HangingIn(c.s, c.ix, a)
	for i := range pieces {
		q := &pieces[i]
		left, right, top := p.At.X.MM()+q.x, p.At.X.MM()+q.x+q.w, p.At.Z.MM()+q.z+q.h
		room, by := a.Walls[k].TopOver(p.At.X, p.At.X+p.W).MM()-top, "the top of the wall"
		for j := range pieces {
			o := &pieces[j]
			if j != i && o.x < q.x+q.w-eps && o.x+o.w > q.x+eps && o.z >= q.z+q.h-eps && o.z-q.z-q.h < room {
				room, by = o.z-q.z-q.h, o.item.Name
			}
		}
		for _, h := range hangs {
			if h.Wall != k || h.ID == p.ID || h.From < top-eps {
				continue
			}
			from, _ := a.Frame(k).Coordinates(h.Footprint[0])
			to, _ := a.Frame(k).Coordinates(h.Footprint[1])
			if from < right-eps && to > left+eps && h.From-top < room {
				room, by = h.From-top, h.ID
			}
		}
		if room < liftOff-eps {
			c.add(false, "lift-off", p.ID, liftOff-room, "mm", "%s has %s below %s; to lift it off its rail takes %s", q.item.Name, length.Whole(room), by, length.Whole(liftOff))
		}
	}
}
