package check

import (
	"fmt"

	"hobrak/internal/core/keeping"
	"hobrak/internal/core/kinds"
	"hobrak/internal/core/length"
	"hobrak/internal/core/reach"
	"hobrak/internal/core/shop"
)

// gearNear is how far protective gear may live from where it is worn before it is left
// there unworn, mm of way on foot (estimate).
const gearNear = 2500.0

// aids cautions about what storage and machines ask for besides: something to step on for
// what is high, and protective gear near the machines it is worn at.
func (c *checker) aids() {
	var steps, ladders []int // homes that are got at from one
	stool, ladder := false, false
	worn, order := map[string][]int{}, []string{} // homes of protective gear, by kind
	for i := range c.s.Homes {
		h := &c.s.Homes[i]
		it, place := c.ix.Item(h.Item), c.m.PlaceNumber(h.Place)
		if it == nil || place < 0 {
			continue
		}
		u := c.m.UseOf(it)
		switch band, _ := c.m.Band(&u, place, keeping.GripOf(&c.s.Places[place], it, h)); band {
		case reach.Step:
			steps = append(steps, i)
		case reach.Ladder:
			ladders = append(ladders, i)
		}
		kind, ok := kinds.Sure(it.Name)
		if !ok {
			continue
		}
		switch {
		case kind.Kind.Name == "step stool":
			stool = true
		case kind.Kind.Name == "ladder":
			ladder = true
		case kind.Kind.Group == "safety gear" && !kind.Kind.Urgent:
			if worn[kind.Kind.Name] == nil {
				order = append(order, kind.Kind.Name)
			}
			worn[kind.Kind.Name] = append(worn[kind.Kind.Name], i)
		}
	}
	c.emergency()
	c.odds()
	if len(steps) > 0 && !stool && !ladder {
		c.add(false, "step", fmt.Sprintf("homes[%d]", steps[0]), 0, "", "%d things are got at from a step: that asks for a step stool with a home of its own", len(steps))
	}
	if len(ladders) > 0 && !ladder {
		c.add(false, "step", fmt.Sprintf("homes[%d]", ladders[0]), 0, "", "%d things are got at from a ladder: that asks for one with a home of its own, and for room to stand it safely", len(ladders))
	}
	for _, kind := range order {
		c.gear(worn[kind])
	}
}

// manyThings make a workshop in which somebody works (estimate).
const manyThings = 10

// emergency cautions when nothing is there for first aid or against a small fire.
func (c *checker) emergency() {
	if len(c.s.Items) < manyThings {
		return
	}
	aid, fire := false, false
	for i := range c.s.Items {
		it := &c.s.Items[i]
		if kind, ok := kinds.Sure(it.Name); ok && it.Needs() {
			aid = aid || kind.Kind.Name == "first-aid box"
			fire = fire || kind.Kind.Name == "fire extinguisher" || kind.Kind.Name == "fire blanket"
		}
	}
	if !aid {
		c.add(false, "emergency", "items", 0, "", "there is no first-aid box on the list: keep one in sight, within reach of everybody and near the way out")
	}
	if !fire {
		c.add(false, "emergency", "items", 0, "", "there is no fire extinguisher or fire blanket on the list: keep one in sight near the way out; ask your fire brigade which kind suits what you store")
	}
}

// gear of one kind: its nearest home to each station it is worn at.
func (c *checker) gear(homes []int) {
	told := map[int]bool{}
	for _, i := range homes {
		for _, id := range c.ix.Item(c.s.Homes[i].Item).UsedAt {
			station := c.station(id)
			if station < 0 || told[station] {
				continue
			}
			told[station] = true
			near, nearest := 0.0, -1
			for _, k := range homes {
				h := &c.s.Homes[k]
				place := c.m.PlaceNumber(h.Place)
				path, ok := c.m.Path(station, place, keeping.GripOf(&c.s.Places[place], c.ix.Item(h.Item), h))
				if ok && (nearest < 0 || path.Length < near) {
					near, nearest = path.Length, k
				}
			}
			if nearest >= 0 && near > gearNear {
				h := &c.s.Homes[nearest]
				c.add(false, "gear", fmt.Sprintf("homes[%d]", nearest), near-gearNear, "mm", "%s in %s: %s on foot from where it is worn (%s); what is further than %s tends to be left, so keep it or a second one there", c.ix.Item(h.Item).Name, h.Place, length.OnFoot(near), c.s.Stations[station].Name, length.OnFoot(gearNear))
			}
		}
	}
}

// station number of an id, -1 when there is none.
func (c *checker) station(id string) int {
	for i := range c.s.Stations {
		if c.s.Stations[i].ID == id {
			return i
		}
	}
	return -1
}

// odds says when more lies in the place for odds and ends than it may hold.
func (c *checker) odds() {
	at := c.s.Settings.Odds
	if at == "" {
		return
	}
	if c.ix.Place(at) == nil {
		c.add(false, "odds", "settings.odds", 0, "", "there is no place %s for odds and ends: say in The shop, Facts which one it is", at)
		return
	}
	if n, most := len(c.ix.LivesIn(func(p *shop.Place) bool { return p.ID == at })), c.s.Settings.OddsCap(); n > most {
		c.add(false, "odds", "settings.odds", float64(n-most), "", "%d lines in %s, the place for odds and ends, which may hold %d: find a home for some of them, or let them go", n, at, most)
	}
}
