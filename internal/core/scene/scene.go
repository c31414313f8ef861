// Package scene is a shop in its modes: in each of them other things stand in the way,
// and some places cannot be got at. A mode counts by the share of the hours it lasts.
// What a home costs in a week is the mean over the scenes; where it cannot be reached in
// one, it costs there what a thing without a home costs, because it is looked for and
// dug out. Lengths are mm, times seconds a week.
package scene

import (
	"slices"
	"sync"

	"hobrak/internal/core/access"
	"hobrak/internal/core/keeping"
	"hobrak/internal/core/reach"
	"hobrak/internal/core/shop"
)

// Scene is the shop in one mode.
type Scene struct {
	Mode  string  // its id; empty: as the shop stands
	Name  string  // of the mode
	Hours float64 // a week
	Share float64 // of all hours; of all scenes together it is 1
	Map   *access.Map
}

// Scenes of a shop. They do not change and may be used by several goroutines.
//
// A thing is used where one can work: each hour at each of its stations where somebody can stand then counts alike. A machine that is boxed in
// in the evening has its uses in the other hours. Where none of its stations can be worked at in any scene, each scene counts by its hours.
type Scenes struct {
	Base *access.Map // the shop as it stands
	All  []Scene     // at least one

	once   sync.Once
	even   bool // one can work everywhere in all of them
	asked  sync.Once
	breaks breaks
}

// AsItStands is the one scene of how things stand now.
func AsItStands(s *shop.Shop) (*Scenes, error) {
	m, err := access.NewMap(s)
	if err != nil {
		return nil, err
	}
	return One(m), nil
}

// One scene, of a map.
func One(m *access.Map) *Scenes { return &Scenes{Base: m, All: []Scene{{Share: 1, Map: m}}} }

// ByHours are the modes of a shop that last some hours a week, or all alike when none
// says how long; as it stands when there are no modes.
func ByHours(s *shop.Shop) (*Scenes, error) {
	sum := 0.0
	for i := range s.Modes {
		sum += s.Modes[i].HoursPerWeek
	}
	var ids []string
	for i := range s.Modes {
		if sum == 0 || s.Modes[i].HoursPerWeek > 0 {
			ids = append(ids, s.Modes[i].ID)
		}
	}
	return Of(s, ids...)
}

// Of some modes of a shop, by their hours; as it stands when none is named.
func Of(s *shop.Shop, modes ...string) (*Scenes, error) {
	out, err := AsItStands(s)
	if err != nil || len(modes) == 0 {
		return out, err
	}
	out.All = nil
	hours := 0.0
	for _, id := range modes {
		m, err := s.Mode(id)
		if err != nil {
			return nil, err
		}
		x := Scene{Mode: id, Name: m.Name, Hours: m.HoursPerWeek, Map: out.Base}
		if !asNow(s, m) {
			then, err := s.InMode(id)
			if err != nil {
				return nil, err
			}
			if x.Map, err = access.NewMap(then); err != nil {
				return nil, err
			}
		}
		hours += x.Hours
		out.All = append(out.All, x)
	}
	for i := range out.All {
		if x := &out.All[i]; hours > 0 {
			x.Share = x.Hours / hours
		} else {
			x.Share = 1 / float64(len(out.All))
		}
	}
	return out, nil
}

// asNow tells whether a mode leaves everything where it stands.
func asNow(s *shop.Shop, m *shop.Mode) bool {
	return len(m.Spots) == 0 && !slices.ContainsFunc(s.Places, func(p shop.Place) bool { return len(p.When) > 0 })
}

// worked counts the stations of a use at which one can work in a scene; 1 when it has none.
func (x *Scene) worked(u *access.Use) (n int) {
	stations := u.Stations()
	if len(stations) == 0 {
		return 1
	}
	for _, st := range stations {
		if x.Map.Worked(st) {
			n++
		}
	}
	return n
}

// hours are what the uses of an item are spread over: the shares of the scenes, each times the stations worked at in it. 0: by shares alone.
func (s *Scenes) hours(u *access.Use) (sum float64) {
	s.once.Do(func() {
		s.even = true
		for i := range s.All {
			for st := range s.Base.Shop.Stations {
				s.even = s.even && s.All[i].Map.Worked(st)
			}
		}
	})
	if s.even || len(s.All) == 1 {
		return 0
	}
	for i := range s.All {
		sum += s.All[i].Share * float64(s.All[i].worked(u))
	}
	return sum
}

// part of the uses of an item that falls into a scene.
func (s *Scenes) part(scene int, u *access.Use, hours float64) float64 {
	x := &s.All[scene]
	if hours == 0 {
		return x.Share
	}
	return x.Share * float64(x.worked(u)) / hours
}

// Weekly is the weekly handling of an item at a grip of a place, the mean over the scenes;
// false when it can be reached in none. Aside is how many things stand before it.
func (s *Scenes) Weekly(u *access.Use, place int, g keeping.Grip, aside int) (float64, bool) {
	if len(s.All) == 1 {
		return s.All[0].Map.Weekly(u, place, g, aside)
	}
	sum, any := 0.0, false
	hours := s.hours(u)
	for i := range s.All {
		part := s.part(i, u, hours)
		if part == 0 {
			continue
		}
		x := &s.All[i]
		c, ok := x.Map.Weekly(u, place, g, aside)
		if !ok {
			c = x.Map.Without(u)
		}
		sum, any = sum+float64(part*c), any || ok
	}
	return sum, any
}

// Cost is Weekly for where the item can be lifted, too: where it cannot in a scene, it is as
// good as out of reach there. Why says what bars it in all of them; of what is locked lifting
// bars nothing.
func (s *Scenes) Cost(u *access.Use, place int, g keeping.Grip, aside int, locked bool) (cost float64, why string) {
	any := false
	hours := s.hours(u)
	for i := range s.All {
		part := s.part(i, u, hours)
		if part == 0 {
			continue
		}
		x := &s.All[i]
		c, ok := x.Map.Weekly(u, place, g, aside)
		says := "out of reach"
		if ok && !locked {
			if v := x.Map.Lift(u, place, g); v.Barred {
				ok, says = false, v.Why
			}
		}
		if !ok {
			c = x.Map.Without(u)
			if why == "" {
				why = says
			}
		}
		cost, any = cost+float64(part*c), any || ok
	}
	if !any {
		return 0, why
	}
	return cost, ""
}

// Lift judges lifting as it is worst where the item can be reached.
func (s *Scenes) Lift(u *access.Use, place int, g keeping.Grip) (worst reach.Verdict) {
	for i := range s.All {
		if v := s.All[i].Map.Lift(u, place, g); i == 0 || v.Index > worst.Index {
			worst = v
		}
	}
	return worst
}

// Least is what Cost is at least at a grip whose height may be anything between low and high, in mm above the place's lower edge,
// where the band is what it is at the grip: a scene in which it can be lifted at none of these heights counts as one in which it
// is out of reach. False when that holds for all of them.
func (s *Scenes) Least(u *access.Use, place int, g keeping.Grip, low, high float64, aside int) (cost float64, any bool) {
	hours := s.hours(u)
	for i := range s.All {
		part := s.part(i, u, hours)
		if part == 0 {
			continue
		}
		x := &s.All[i]
		c, ok := x.Map.Weekly(u, place, g, aside)
		if !ok || x.Map.NeverLifted(u, place, g.X, low, high) {
			c, ok = x.Map.Without(u), false
		}
		cost, any = cost+float64(part*c), any || ok
	}
	return cost, any
}

// With are the scenes of a shop that was changed a little; nil when they must be made anew.
func (s *Scenes) With(next *shop.Shop, c *shop.Changes) *Scenes {
	if c.Modes {
		return nil
	}
	base, ok := s.Base.With(next, c)
	if !ok {
		return nil
	}
	out := &Scenes{Base: base, All: slices.Clone(s.All)}
	for i := range out.All {
		x := &out.All[i]
		m, err := next.Mode(x.Mode)
		if x.Mode != "" && err != nil {
			return nil
		}
		if now := x.Mode == "" || asNow(next, m); now != (x.Map == s.Base) {
			return nil
		} else if now {
			x.Map = base
			continue
		}
		then := next.ModeAs(x.Map.Shop, x.Mode)
		if x.Map, ok = x.Map.With(then, c); !ok {
			return nil
		}
	}
	return out
}

// Of another state of the shop: the same modes with the same shares. What is known is taken over where only places changed that do not stand on
// the floor.
func (s *Scenes) Of(next *shop.Shop) (*Scenes, error) {
	c, few := s.Base.Shop.PlacesChanged(next)
	if few {
		if out := s.With(next, c); out != nil {
			return out, nil
		}
	}
	if len(s.All) == 1 && s.All[0].Mode == "" {
		return AsItStands(next)
	}
	modes := make([]string, len(s.All))
	for i := range s.All {
		modes[i] = s.All[i].Mode
	}
	return Of(next, modes...)
}

// Where an item can be reached: in which of the scenes in which it is used.
func (s *Scenes) Where(u *access.Use, place int, g keeping.Grip) (in, not []Scene) {
	hours := s.hours(u)
	for i, x := range s.All {
		if _, ok := x.Map.Weekly(u, place, g, 0); ok {
			in = append(in, x)
		} else if s.part(i, u, hours) > 0 {
			not = append(not, x)
		}
	}
	return in, not
}

// Week is the weekly handling of the things of the shop, were these their homes: the mean over the scenes.
func (s *Scenes) Week(homes []shop.Home) (sum float64) {
	of := byItem(homes)
	for i := range s.Base.Shop.Items {
		it := &s.Base.Shop.Items[i]
		u := s.Base.UseOf(it)
		hours := s.hours(&u)
		for k := range s.All {
			if part := s.part(k, &u, hours); part > 0 {
				sum += part * s.All[k].week(it, of[it.ID])
			}
		}
	}
	return sum
}

// Week is the weekly handling of the things of the shop in a scene, were these their homes:
// what has none, or none that can be reached there, counts as without. What is used at no station where one can work in a mode does not count in it.
func (x *Scene) Week(homes []shop.Home) (sum float64) {
	of := byItem(homes)
	for i := range x.Map.Shop.Items {
		it := &x.Map.Shop.Items[i]
		if u := x.Map.UseOf(it); x.Mode == "" || x.worked(&u) > 0 {
			sum += x.week(it, of[it.ID])
		}
	}
	return sum
}

func byItem(homes []shop.Home) map[string][]*shop.Home {
	of := map[string][]*shop.Home{}
	for i := range homes {
		of[homes[i].Item] = append(of[homes[i].Item], &homes[i])
	}
	return of
}

// week of one thing.
func (x *Scene) week(it *shop.Item, homes []*shop.Home) (sum float64) {
	if !it.Needs() {
		return 0
	}
	u, rest := x.Map.UseOf(it), it.Number()
	for _, h := range homes {
		p := x.Map.Index.Place(h.Place)
		if p == nil {
			continue
		}
		n := h.Number(it)
		c, ok := x.Map.Weekly(&u, x.Map.PlaceNumber(p.ID), keeping.GripOf(p, it, h), keeping.Aside(p, keeping.SpotOf(p, h)))
		if !ok {
			c = x.Map.Without(&u)
		}
		sum, rest = sum+c*float64(n)/float64(it.Number()), rest-n
	}
	return sum + x.Map.Without(&u)*float64(rest)/float64(it.Number())
}
