package moves

import (
	"cmp"
	"fmt"
	"reflect"
	"slices"
	"strings"

	"hobrak/internal/core/body"
	"hobrak/internal/core/floor"
	"hobrak/internal/core/keeping"
	"hobrak/internal/core/reach"
	"hobrak/internal/core/shop"
)

// rootOf the storage a place or container is in: the container that stands or hangs by itself, or the place.
func rootOf(ix *shop.Index, id string, at *shop.At) (string, *shop.At) {
	chain, root := ix.Chain(at)
	if len(chain) > 0 {
		return chain[len(chain)-1].ID, root
	}
	return id, root
}

// unit is storage that stands or hangs by itself.
type unit struct {
	at     shop.At
	w, h   float64
	d      float64
	places []string
}

func unitsOf(s *shop.Shop) (map[string]*unit, []string) {
	ix := shop.NewIndex(s)
	out, order := map[string]*unit{}, []string{}
	add := func(id string, at *shop.At) *unit {
		root, where := rootOf(ix, id, at)
		u := out[root]
		if u == nil {
			u = &unit{at: *where}
			out[root] = u
			order = append(order, root)
		}
		return u
	}
	for i := range s.Containers {
		c := &s.Containers[i]
		if u := add(c.ID, &c.At); c.At.In == "" {
			u.w, u.h, u.d = c.W.MM(), c.H.MM(), c.D.MM()
		}
	}
	for i := range s.Places {
		p := &s.Places[i]
		u := add(p.ID, &p.At)
		u.places = append(u.places, p.ID)
		if p.At.In == "" {
			u.w, u.h, u.d = p.W.MM(), p.H.MM(), p.D.MM()
		}
	}
	return out, order
}

// untilQuiet says when nothing may be sawn or drilled because somebody lives beyond a wall; empty when nobody does, or nobody said when.
func untilQuiet(s *shop.Shop) string {
	from, to := s.Settings.QuietFrom, s.Settings.QuietTo
	if from == "" || to == "" {
		return ""
	}
	for i := range s.Areas {
		for k := range s.Areas[i].Walls {
			if b := s.Areas[i].Walls[k].Beyond; b != "" {
				who := "a neighbour lives"
				if b == "bedroom" {
					who = "somebody sleeps"
				}
				return fmt.Sprintf("no drilling or sawing from %s to %s: %s beyond wall %s", from, to, who, s.Areas[i].Walls[k].ID)
			}
		}
	}
	return ""
}

// units finds what is built, shifted and taken down.
func (w *work) units() {
	was, orderWas := unitsOf(w.now)
	is, orderIs := unitsOf(w.target)
	ix, ixThen := shop.NewIndex(w.now), shop.NewIndex(w.target)
	name := func(id string) string {
		for _, x := range []*shop.Index{ix, ixThen} {
			if n := x.Name(id); n != "" && n != id {
				return id + " " + n
			}
		}
		return id
	}
	bodiesNow, bodiesThen := solid(w.now), solid(w.target)
	byUnit := map[string]int{}
	quiet := untilQuiet(w.target)
	add := func(n node) int {
		if n.do == Build && quiet != "" {
			n.caution = strings.TrimPrefix(n.caution+"; "+quiet, "; ")
		}
		w.nodes = append(w.nodes, n)
		byUnit[n.do+" "+n.unit] = len(w.nodes) - 1
		return len(w.nodes) - 1
	}
	for _, id := range orderWas {
		u, then := was[id], is[id]
		if then == nil {
			n := ofUnit(Clear, id, name(id))
			n.places, n.minutes, n.people = u.places, 10+2*float64(len(u.places)), handsFor(u)
			add(n)
		}
	}
	for _, id := range orderIs {
		u, then := was[id], is[id]
		switch {
		case u == nil:
			n := ofUnit(Build, id, name(id))
			n.places, n.people = then.places, handsFor(then)
			n.minutes, n.dries = building(w.target, then)
			add(n)
		case !reflect.DeepEqual(u.at, then.at) || u.w != then.w || u.h != then.h || u.d != then.d:
			n := ofUnit(Shift, id, name(id))
			n.minutes, n.people = 20, handsFor(u)
			if u.at.Floor != nil && then.at.Floor != nil {
				n.minutes = 5
			} else {
				n.minutes += float64(w.thingsIn(u.places)) * .3 // emptied and filled again
				n.caution = "take out what is in it first, and put it back when it hangs"
			}
			add(n)
		}
		if u != nil { // places in it that come or go
			for _, p := range then.places {
				if !slices.Contains(u.places, p) || w.going[p+before] {
					n := ofUnit(Build, p, name(p))
					n.places = []string{p}
					n.minutes, n.dries = building(w.target, &unit{places: []string{p}})
					k := add(n)
					if s, ok := byUnit[Shift+" "+id]; ok {
						w.nodes[k].after = append(w.nodes[k].after, s)
					}
				}
			}
			for _, p := range u.places {
				if !slices.Contains(then.places, p) {
					n := ofUnit(Clear, p, name(p))
					n.places, n.minutes = []string{p}, 5
					add(n)
				}
			}
		}
	}
	for i := range w.target.Stations {
		st := &w.target.Stations[i]
		o := ix.Station(st.ID)
		if o == nil || o.X == st.X && o.Y == st.Y && o.Rot == st.Rot {
			continue
		}
		n := ofUnit(Shift, st.ID, st.Name)
		n.minutes = 5 + .05*o.KG.KG()
		if o.KG.KG() > reach.OneLifts && o.Mobility != shop.Rolls {
			n.people, n.caution = 2, "two people, or skates under it: it has no wheels"
		}
		if o.Amps > 0 {
			n.caution = strings.TrimPrefix(n.caution+"; unplug it, and let blades and drums come to rest first", "; ")
		}
		add(n)
	}
	// Something is hung or put where something else was only once that is gone.
	for i := range w.nodes {
		a := &w.nodes[i]
		if a.do == Clear {
			continue
		}
		then, ok := bodiesThen[a.unit]
		if !ok {
			continue
		}
		for k := range w.nodes {
			b := &w.nodes[k]
			old, ok := bodiesNow[b.unit]
			if i != k && ok && b.do != Build && a.unit != b.unit && then.area == old.area && then.Meets(&old.Body, 5) {
				a.after = append(a.after, k)
			}
		}
	}
	w.rings()
	for i := range w.nodes {
		n := &w.nodes[i]
		n.left = n.minutes * w.o.Pace
		n.minutes = n.left
		if n.do == Build {
			for _, p := range n.places {
				w.ready[p] = i
			}
		}
	}
}

// rings are stations and storage that wait for each other's spots: one of each is set aside for a while, the quickest.
func (w *work) rings() {
	for {
		ring := w.ring()
		if len(ring) == 0 {
			return
		}
		slices.SortStableFunc(ring, func(a, b int) int { return cmp.Compare(w.nodes[a].minutes, w.nodes[b].minutes) })
		i := ring[0]
		n := w.nodes[i]
		aside := ofUnit(Shift, n.unit, n.name)
		aside.minutes, aside.people, aside.caution = n.minutes, n.people, n.caution
		aside.forNow, aside.on = true, "where it is in nobody's way"
		if st := shop.NewIndex(w.now).Station(n.unit); st != nil {
			// Where neither what stands there now nor what is to come is in its way.
			s := w.now.Clone()
			s.Modes = nil
			s.Stations = slices.DeleteFunc(s.Stations, func(x shop.Station) bool { return x.ID == st.ID })
			for _, x := range w.target.Stations {
				x.ID += before
				s.Stations = append(s.Stations, x)
			}
			if at, _, err := floor.Put(s, *st, floor.Wish{}); err == nil {
				aside.spot, aside.on = &at, ""
			}
		}
		w.nodes = append(w.nodes, aside)
		k := len(w.nodes) - 1
		for j := range w.nodes {
			if j == k || j == i {
				continue
			}
			for a := range w.nodes[j].after {
				if w.nodes[j].after[a] == i {
					w.nodes[j].after[a] = k
				}
			}
		}
		w.nodes[i].after = append(w.nodes[i].after, k)
	}
}

// ring finds nodes that wait for each other; nothing when none do.
func (w *work) ring() []int {
	state := make([]int, len(w.nodes)) // 1 on the way, 2 seen
	var path []int
	var visit func(i int) []int
	visit = func(i int) []int {
		switch state[i] {
		case 1:
			return slices.Clone(path[slices.Index(path, i):])
		case 2:
			return nil
		}
		state[i] = 1
		path = append(path, i)
		for _, a := range w.nodes[i].after {
			if r := visit(a); r != nil {
				return r
			}
		}
		path = path[:len(path)-1]
		state[i] = 2
		return nil
	}
	for i := range w.nodes {
		if r := visit(i); r != nil {
			return r
		}
	}
	return nil
}

type standing struct {
	body.Body
	area string
}

// solid bodies of a shop, by id.
func solid(s *shop.Shop) map[string]standing {
	ix := shop.NewIndex(s)
	out := map[string]standing{}
	for i := range s.Areas {
		for _, b := range body.In(s, ix, &s.Areas[i]) {
			if _, ok := out[b.ID]; !ok && b.Part.Solid() {
				out[b.ID] = standing{b, s.Areas[i].ID}
			}
		}
	}
	return out
}

func handsFor(u *unit) int {
	if u.at.Wall != "" && u.w*u.h > 1e6 || u.at.Ceiling != nil {
		return 2
	}
	return 1
}

// building is how long it takes to make and put up storage, minutes (estimates: twenty to begin and put up, an hour a square metre
// of sheet, ten a metre of rail), and whether glue has to set.
func building(s *shop.Shop, u *unit) (minutes float64, dries bool) {
	minutes = 20
	ix := shop.NewIndex(s)
	for _, id := range u.places {
		if p := ix.Place(id); p != nil {
			sheet, rail := keeping.Of(p).Materials(p)
			minutes += 60*sheet + 10*rail
			dries = dries || sheet > 0
		}
	}
	return minutes, dries
}

func (w *work) thingsIn(places []string) (n int) {
	for i := range w.now.Homes {
		if h := &w.now.Homes[i]; slices.Contains(places, h.Place) {
			n++
		}
	}
	return n
}
