package moves

import (
	"reflect"
	"strings"

	"hobrak/internal/core/fit"
	"hobrak/internal/core/geometry"
	"hobrak/internal/core/scene"
	"hobrak/internal/core/shop"
)

// before marks a place of the first shop whose shape is another in the second: for a time there are both.
const before = "~"

// node is something to do.
type node struct {
	do string
	// Of what is carried: n pieces of an item, lying as number from of the hands (-1: without a home), to a home (nil: none).
	item, n, from int
	to            *shop.Home
	held          int  // their number once they were split off, -1 before
	lid           bool // they only make way and come back
	evac          int  // the node that puts them aside for a while, -1 when none does
	of            int  // of a node that only puts something aside: the node that carries it on, -1 of all others
	// Of what is built, shifted and taken down.
	unit, name  string
	places      []string // in it
	dries       bool     // glue has to set before anything is put in
	after       []int    // what has to be done first, by number
	minutes     float64
	people      int
	gain        float64
	caution     string
	done        bool
	when        int // evening in which it was done
	left        float64
	part, parts int           // begun of it so far, of so many
	forNow      bool          // of a station or storage: it is set aside
	spot        *shop.Station // where it stands then
	on          string        // where they lie for a while, when that is no place
	at          *shop.Home    // the same when it is one
}

// puts tells whether it only puts something aside for a while.
func (n *node) puts() bool { return n.of >= 0 }

// newNode is one that has nothing to do with any other yet.
func newNode(do, name string) node {
	return node{do: do, name: name, people: 1, from: -1, held: -1, evac: -1, of: -1}
}

// ofUnit is what is done to storage or a station.
func ofUnit(do, id, name string) node {
	n := newNode(do, name)
	n.unit = id
	return n
}

// out is the node that takes something out of where it lies: that which puts it aside when there is one.
func (w *work) out(i int) int {
	if e := w.nodes[i].evac; e >= 0 {
		return e
	}
	return i
}

// work is all there is to do.
type work struct {
	o           Options
	now, target *shop.Shop
	both        *shop.Shop // the places of both
	hands       *fit.Hands
	nodes       []node
	scenes      [2]*scene.Scenes
	number      [2]map[string]int // of places in each
	ready       map[string]int    // the node that has to be done before a place can be used, -1 never
	going       map[string]bool   // places that go or change
	wanted      map[string]bool   // places something is to go to
	spot        map[string]geometry.Point
	surfaces    []surface
	roots       map[string]string
	ix          *shop.Index // of both
	began       []string    // places pieces lay in at first, by number of the hands
	stay        [][3]int    // what the target gives no home and stays: item, pieces, number of the hands
}

func newWork(now, target *shop.Shop, o Options) (*work, error) {
	w := &work{o: o, now: now, target: target, ready: map[string]int{}, going: map[string]bool{}, wanted: map[string]bool{}, spot: map[string]geometry.Point{}}
	w.union()
	for i, s := range [2]*shop.Shop{now, target} {
		var err error
		if w.scenes[i], err = scene.ByHours(s); err != nil {
			return nil, err
		}
		w.number[i] = map[string]int{}
		for k := range s.Places {
			w.number[i][s.Places[k].ID] = k
		}
	}
	var err error
	if w.hands, err = fit.NewHands(w.both); err != nil {
		return nil, err
	}
	w.roots, w.ix = map[string]string{}, shop.NewIndex(w.both)
	for _, h := range w.hands.All() {
		w.began = append(w.began, h.Home.Place)
	}
	w.units()
	w.things()
	w.order()
	w.room()
	return w, nil
}

// shape is a place without what does not matter to what is in it.
func shape(p *shop.Place) shop.Place {
	x := *p
	x.At, x.Name, x.Capacity, x.Access, x.Board, x.Fixing, x.Labelled, x.When, x.Photos, x.Notes = shop.At{}, "", 0, "", nil, nil, false, nil, nil, ""
	return x
}

// union makes the shop with the places and containers of both.
func (w *work) union() {
	u := w.target.Clone()
	u.Items, u.Modes, u.Homes = w.now.Items, nil, nil
	has := map[string]int{}
	for i := range u.Places {
		has[u.Places[i].ID] = i
		u.Places[i].When = nil
	}
	renamed := map[string]string{}
	containers := map[string]bool{}
	for i := range u.Containers {
		containers[u.Containers[i].ID] = true
	}
	for i := range w.now.Containers {
		if c := w.now.Containers[i]; !containers[c.ID] {
			u.Containers = append(u.Containers, c)
		}
	}
	for i := range w.now.Places {
		p := w.now.Places[i]
		p.When = nil
		k, both := has[p.ID]
		switch {
		case !both:
			w.going[p.ID] = true
			u.Places = append(u.Places, p)
		case !reflect.DeepEqual(shape(&p), shape(&u.Places[k])):
			renamed[p.ID] = p.ID + before
			p.ID += before
			w.going[p.ID] = true
			u.Places = append(u.Places, p)
		}
	}
	for _, h := range w.now.Homes {
		if id, ok := renamed[h.Place]; ok {
			h.Place = id
		}
		u.Homes = append(u.Homes, h)
	}
	w.both = u
}

// plain is the id of a place as the shops have it.
func plain(id string) string { return strings.TrimSuffix(id, before) }

// root is what carries a place in the end: what is taken out of it makes room, or takes weight off, there.
func (w *work) root(place string) string {
	r, ok := w.roots[place]
	if !ok {
		r = place
		if p := w.ix.Place(place); p != nil {
			r, _ = rootOf(w.ix, place, &p.At)
		}
		w.roots[place] = r
	}
	return r
}

// order says what has to be done before what: places are there before what goes into them, and empty before they go.
func (w *work) order() {
	clears := map[string]int{}
	for i := range w.nodes {
		n := &w.nodes[i]
		switch n.do {
		case Clear:
			for _, p := range n.places {
				clears[p] = i
			}
		case Build:
			for _, p := range n.places {
				if w.going[p+before] { // the same place in another shape: it is empty first
					clears[p+before] = i
				}
			}
		}
	}
	for i := range w.nodes {
		n := &w.nodes[i]
		if n.do != Carry {
			continue
		}
		if n.to != nil {
			if k, ok := w.ready[n.to.Place]; ok {
				n.after = append(n.after, k)
			}
		}
		if n.from >= 0 {
			if k, ok := clears[w.hands.Held(n.from).Home.Place]; ok {
				w.nodes[k].after = append(w.nodes[k].after, i)
			}
		}
	}
}
