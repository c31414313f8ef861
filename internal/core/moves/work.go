package moves

import (
	"cmp"
	"reflect"
	"slices"
	"strings"

	"hobrak/internal/core/body"
	"hobrak/internal/core/fit"
	"hobrak/internal/core/floor"
	"hobrak/internal/core/geometry"
	"hobrak/internal/core/keeping"
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
	evac          int  // the node that puts them aside for a while, -1 when none does; of that node itself -2
	of            int  // of a node that puts aside: the node that carries them on
	// Of what is built, shifted and taken down.
	unit, name string
	places     []string // in it
	dries      bool     // glue has to set before anything is put in
	after      []int    // what has to be done first, by number
	minutes    float64
	people     int
	gain       float64
	caution    string
	done       bool
	when       int // evening in which it was done
	left       float64
	parts      int
	forNow     bool          // of a station or storage: it is set aside
	spot       *shop.Station // where it stands then
	on         string        // where they lie for a while, when that is no place
	at         *shop.Home    // the same when it is one
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
	add := func(n node) int {
		n.evac, n.held, n.from, n.of = -1, -1, -1, -1
		w.nodes = append(w.nodes, n)
		byUnit[n.do+" "+n.unit] = len(w.nodes) - 1
		return len(w.nodes) - 1
	}
	for _, id := range orderWas {
		u, then := was[id], is[id]
		if then == nil {
			add(node{do: Clear, unit: id, name: name(id), places: u.places, minutes: 10 + 2*float64(len(u.places)), people: handsFor(u)})
		}
	}
	for _, id := range orderIs {
		u, then := was[id], is[id]
		switch {
		case u == nil:
			n := node{do: Build, unit: id, name: name(id), places: then.places, people: handsFor(then)}
			n.minutes, n.dries = building(w.target, then)
			add(n)
		case !reflect.DeepEqual(u.at, then.at) || u.w != then.w || u.h != then.h || u.d != then.d:
			n := node{do: Shift, unit: id, name: name(id), minutes: 20, people: handsFor(u)}
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
					n := node{do: Build, unit: p, name: name(p), places: []string{p}, people: 1}
					n.minutes, n.dries = building(w.target, &unit{places: []string{p}})
					k := add(n)
					if s, ok := byUnit[Shift+" "+id]; ok {
						w.nodes[k].after = append(w.nodes[k].after, s)
					}
				}
			}
			for _, p := range u.places {
				if !slices.Contains(then.places, p) {
					add(node{do: Clear, unit: p, name: name(p), places: []string{p}, minutes: 5, people: 1})
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
		n := node{do: Shift, unit: st.ID, name: st.Name, minutes: 5 + .05*o.KG.KG(), people: 1}
		if o.KG.KG() > oneLifts && o.Mobility != shop.Rolls {
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
		aside := node{do: Shift, unit: n.unit, name: n.name, minutes: n.minutes, people: n.people, caution: n.caution, evac: -1, held: -1, from: -1, of: -1, forNow: true, on: "where it is in nobody's way"}
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

// oneLifts so much by himself, kg (the guideline of the British HSE for a man at the height of the elbow).
const oneLifts = 25.0

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

// things finds what is carried: pieces whose home is another in the target.
func (w *work) things() {
	items := map[string]int{}
	for i := range w.both.Items {
		items[w.both.Items[i].ID] = i
	}
	held := map[int][]int{} // of each item, numbers of the hands
	for k, h := range w.hands.All() {
		held[h.Item] = append(held[h.Item], k)
	}
	goal := map[int][]shop.Home{}
	var stay [][3]int // what the target gives no home: item, pieces, number of the hands
	for _, h := range w.target.Homes {
		if i, ok := items[h.Item]; ok {
			goal[i] = append(goal[i], h)
		}
	}
	for i := range w.both.Items {
		it := &w.both.Items[i]
		if !it.Needs() || slices.Contains(w.o.Leave, it.ID) {
			continue
		}
		type portion struct{ k, n int }
		var from []portion
		to := slices.Clone(goal[i])
		need := make([]int, len(to))
		for k := range to {
			need[k] = to[k].Number(it)
		}
		total := 0
		for _, k := range held[i] {
			h := w.hands.Held(k)
			n := h.N
			total += n
			for j := range to { // what stays
				if h.Home.Place != "" && same(&h.Home, &to[j]) {
					stays := min(n, need[j])
					n, need[j] = n-stays, need[j]-stays
				}
			}
			if n > 0 {
				from = append(from, portion{k, n})
			}
		}
		if rest := it.Number() - total; rest > 0 {
			from = append(from, portion{-1, rest})
		}
		for j := range to {
			for f := range from {
				if n := min(need[j], from[f].n); n > 0 {
					h := to[j]
					w.carry(i, n, from[f].k, &h)
					need[j], from[f].n = need[j]-n, from[f].n-n
				}
			}
		}
		for _, f := range from { // no home in the target: out of the way only when its place goes
			if f.n > 0 && f.k >= 0 {
				stay = append(stay, [3]int{i, f.n, f.k})
			}
		}
	}
	for _, x := range stay {
		at := w.hands.Held(x[2]).Home
		if w.going[at.Place] || slices.ContainsFunc(w.nodes, func(n node) bool {
			return n.do == Carry && n.to != nil && n.to.Place == at.Place && w.hands.Clash(x[0], x[1], &at, n.item, w.all(&n), n.to)
		}) {
			w.carry(x[0], x[1], x[2], nil)
		}
	}
	w.stay = stay
	w.lids()
}

// all are the pieces that lie at the goal of a node in the end.
func (w *work) all(n *node) int {
	return max(n.n, n.to.Number(&w.both.Items[n.item]))
}

// evict takes what the target gives no home out of places in which something finds no room beside it; false when there is nothing
// like that.
func (w *work) evict(places map[string]bool) bool {
	before := len(w.nodes)
	w.stay = slices.DeleteFunc(w.stay, func(x [3]int) bool {
		at := w.hands.Held(x[2]).Home
		if !places[at.Place] {
			return false
		}
		if !slices.ContainsFunc(w.nodes, func(n node) bool { return n.do == Carry && n.from == x[2] }) {
			w.carry(x[0], x[1], x[2], nil)
		}
		return true
	})
	return len(w.nodes) > before
}

// lids are things that stay but lie on something that goes: they are put aside for as long.
func (w *work) lids() {
	node := map[int]int{} // of each number of the hands
	for i := range w.nodes {
		if n := &w.nodes[i]; n.do == Carry && n.from >= 0 {
			node[n.from] = i
		}
	}
	for i := 0; i < len(w.nodes); i++ {
		n := &w.nodes[i]
		if n.do != Carry || n.from < 0 {
			continue
		}
		for _, k := range w.hands.Over(n.from) {
			if _, goes := node[k]; goes {
				continue
			}
			h := w.hands.Held(k)
			w.carry(h.Item, h.N, k, &h.Home)
			lid := len(w.nodes) - 1
			w.nodes[lid].gain, w.nodes[lid].lid = 0, true
			node[k] = lid
		}
	}
	for i := range w.nodes {
		if n := &w.nodes[i]; n.do == Carry && n.from >= 0 {
			for _, k := range w.hands.Over(n.from) {
				if lid := node[k]; w.nodes[lid].lid {
					w.nodes[lid].after = append(w.nodes[lid].after, i)
				}
			}
		}
	}
}

// Times of carrying, minutes (estimates).
const (
	grasp   = .15 // to take something and to put it down, each piece
	begin   = .2  // to look where it goes
	screwed = 1.5 // a holder for what hangs
	aWalk   = 60.0
)

func (w *work) carry(item, n, from int, to *shop.Home) {
	it := &w.both.Items[item]
	x := node{do: Carry, item: item, n: n, from: from, to: to, held: -1, evac: -1, of: -1, people: 1, name: it.Name}
	kg := it.KG.KG()
	x.minutes = begin + 2*grasp*float64(min(n, 12)) + .02*float64(max(0, n-12))
	was := ""
	if from >= 0 {
		was = w.hands.Held(from).Home.Place
		x.minutes += w.apart(was, to) / 1000 / aWalk
	}
	if to != nil {
		w.wanted[to.Place] = true
		if k, ok := w.number[1][to.Place]; ok {
			p := &w.target.Places[k]
			if keeping.Of(p).Form() == keeping.Upright {
				x.minutes += screwed
			}
		}
	}
	switch {
	case kg > oneLifts:
		x.people, x.minutes = 2, 2*x.minutes
		x.caution = "two people, or a trolley"
	case it.Flagged(shop.Fragile):
		x.caution = "it breaks: nothing on top of it on the way"
	case it.W.MM() > 1800 || it.H.MM() > 1800:
		x.caution = "mind lamps over your head and who stands behind you"
	case sharp(it.Kind):
		x.caution = "edges away from you, covered or in a tray"
	}
	x.minutes *= w.o.Pace
	x.left = x.minutes
	x.gain = w.cost(0, it, w.heldHome(from), n) - w.cost(1, it, to, n)
	w.nodes = append(w.nodes, x)
}

func sharp(kind string) bool {
	return slices.ContainsFunc([]string{"chisel", "saw", "knife", "plane", "gouge", "axe", "adze", "blade"}, func(k string) bool { return strings.Contains(kind, k) })
}

func (w *work) heldHome(k int) *shop.Home {
	if k < 0 {
		return nil
	}
	h := w.hands.Held(k).Home
	return &h
}

// cost of n pieces at a home, seconds a week: in the shop as it is (0) or as it is to be (1).
func (w *work) cost(then int, it *shop.Item, h *shop.Home, n int) float64 {
	sc := w.scenes[then]
	u := sc.Base.UseOf(it)
	share := float64(n) / float64(max(1, it.Number()))
	if h == nil {
		return share * sc.Base.Without(&u)
	}
	k, ok := w.number[then][plain(h.Place)]
	if !ok {
		return share * sc.Base.Without(&u)
	}
	p := &sc.Base.Shop.Places[k]
	c, ok := sc.Weekly(&u, k, keeping.GripOf(p, it, h), keeping.Aside(p, keeping.SpotOf(p, h)))
	if !ok {
		c = sc.Base.Without(&u)
	}
	return share * c
}

// apart is how far two places are from each other, straight; a few steps where that is not known.
func (w *work) apart(from string, to *shop.Home) float64 {
	if to == nil {
		return 3000
	}
	a, ok := w.where(0, plain(from))
	b, ok2 := w.where(1, to.Place)
	if !ok || !ok2 {
		return 3000
	}
	return 2 * a.Distance(b)
}

func (w *work) where(then int, id string) (geometry.Point, bool) {
	key := [2]string{"now ", "then "}[then] + id
	if p, ok := w.spot[key]; ok {
		return p, true
	}
	k, ok := w.number[then][id]
	if !ok {
		return geometry.Point{}, false
	}
	m := w.scenes[then].Base
	g := m.Front(k).Corners()
	if len(g) == 0 {
		return geometry.Point{}, false
	}
	p := g[0].Add(g[len(g)/2]).Mul(.5)
	w.spot[key] = p
	return p, true
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

// root is what carries a place in the end: what is taken out of it makes room, or takes weight off, there.
func (w *work) root(place string) string {
	r, ok := w.roots[place]
	if !ok {
		r = place
		if k := slices.IndexFunc(w.both.Places, func(p shop.Place) bool { return p.ID == place }); k >= 0 {
			r, _ = rootOf(w.ix, place, &w.both.Places[k].At)
		}
		w.roots[place] = r
	}
	return r
}

// wasAt is the place in which pieces lay when nothing was done yet.
func (w *work) wasAt(k int) string { return w.began[k] }

// surface is somewhere things can be put for a while that is no place.
type surface struct {
	name string
	w, d float64
	main bool // the main bench, which is free again at the end of an evening
	// Rows of what lies there.
	rows []row
	on   int
}

type row struct{ y, deep, x float64 }

// put finds room for something so wide and deep on it.
func (s *surface) put(w, d float64) bool {
	try := func(w, d float64) bool {
		for i := range s.rows {
			if r := &s.rows[i]; r.x+w <= s.w && d <= r.deep {
				r.x += w
				return true
			}
		}
		y := 0.0
		for _, r := range s.rows {
			y += r.deep
		}
		if y+d > s.d || w > s.w {
			return false
		}
		s.rows = append(s.rows, row{y, d, w})
		return true
	}
	if try(w, d) || try(d, w) {
		s.on++
		return true
	}
	return false
}

// off takes one thing away; the room is free once all are.
func (s *surface) off() {
	if s.on--; s.on == 0 {
		s.rows = nil
	}
}

// room finds the benches and free floor things can be put on for a while, the main bench last.
func (w *work) room() {
	w.surfaces = nil
	var main *surface
	for i := range w.now.Stations {
		st := &w.now.Stations[i]
		if !st.Kind.Bench() || st.Wished != "" {
			continue
		}
		x := surface{name: st.Name, w: st.W.MM(), d: st.D.MM()}
		if main == nil && st.Kind == "bench" {
			x.main = true
			main = &x
			continue
		}
		w.surfaces = append(w.surfaces, x)
	}
	slices.SortStableFunc(w.surfaces, func(a, b surface) int { return cmp.Compare(b.w*b.d, a.w*a.d) })
	for i := range w.now.Areas {
		if o := openFloor(w.now, &w.now.Areas[i]); o.w > 0 {
			w.surfaces = append(w.surfaces, o)
		}
	}
	if main != nil {
		w.surfaces = append(w.surfaces, *main)
	}
}

// openFloor is what of the largest free floor can be lain on with a way beside it left free.
func openFloor(s *shop.Shop, a *shop.Area) surface {
	o := floor.OpenFloor(s, a)
	x := surface{name: "the free floor", w: max(o.W, o.D), d: min(o.W, o.D) - s.Settings.Clearances().AisleMain}
	if x.d < 400 {
		return surface{}
	}
	return x
}
