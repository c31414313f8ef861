package moves

import (
	"fmt"
	"math"
	"slices"

	"hobrak/internal/core/shop"
)

// chain is what has to be done for a node, itself last; the first of it is still to be done.
type chain struct {
	nodes   []int
	minutes float64
	gain    float64
	fresh   bool
}

// packer fills evenings.
type packer struct {
	w        *work
	after    [][]int // of each node what must be done before, others in its way among them
	chains   []chain
	plan     *Plan
	evening  *Evening
	left     float64
	handling float64
	n        int
	seen     []int // nodes visited, by the stamp of the visit
	stamp    int
	key      int            // the node on which most others wait, -1 none
	cut      bool           // the rest is not asked for
	within   [][]int        // chains that a node is in
	blocked  map[int]string // what could not be done, until something is
	stopped  []bool         // chains with something like that in them
	now      *chain         // the one that is being followed
}

// evenings packs what is to be done, what brings most a minute first: of a thing everything that has to be done before it counts
// along (as jobs are ordered that wait for each other: Sidney, Operations Research 23, 1975).
func (w *work) evenings() (*Plan, error) {
	p := &packer{w: w, plan: &Plan{Evenings: []Evening{}, Stuck: []string{}}, blocked: map[int]string{}}
	p.plan.Handling = Handling{w.scenes[0].Week(w.now.Homes), w.scenes[1].Week(w.target.Homes)}
	p.handling = p.plan.Handling.Now
	p.ways()
	p.opens()
	p.begin()
	for {
		if w.o.Stop != nil && w.o.Stop() {
			return nil, fmt.Errorf("stopped before the plan was made")
		}
		if f := w.o.First; f > 0 && len(p.plan.Evenings) >= f {
			p.evening, p.cut = nil, true
			break
		}
		c := p.next()
		if c == nil && p.anything() {
			continue
		}
		if c == nil {
			if p.evening != nil && len(p.evening.Steps) > 0 {
				p.end()
				p.begin()
				if p.next() != nil {
					continue
				}
			}
			break
		}
		p.follow(c)
	}
	if !p.cut {
		p.rest()
	}
	p.plan.Temporary = w.evacs()
	return p.plan, nil
}

// anything does whatever can be done when the evening is new and no chain can be followed: of piles that shrink bit by bit more can
// than is known beforehand.
func (p *packer) anything() bool {
	if len(p.evening.Steps) > 0 {
		return false
	}
	for i := range p.w.nodes {
		n := &p.w.nodes[i]
		if !n.done && !p.sets(&chain{nodes: []int{i}}) && n.left <= p.left && p.do(i) == "" {
			return true
		}
	}
	return false
}

// ways finds what waits for what: storage for storage, and things for those in their way.
func (p *packer) ways() {
	w := p.w
	p.after = make([][]int, len(w.nodes))
	leaving := map[string][]int{}
	aside := map[int]int{} // pieces of each pile that are put aside, by number of the hands
	for i := range w.nodes {
		n := &w.nodes[i]
		p.after[i] = slices.Clone(n.after)
		if n.do == Carry && !n.puts() && n.from >= 0 {
			at := w.hands.Held(n.from).Home.Place
			leaving[at] = append(leaving[at], i)
			if n.evac >= 0 {
				aside[n.from] += n.n
			}
		}
	}
	for i := range w.nodes {
		n := &w.nodes[i]
		if n.do != Carry || n.puts() || n.to == nil {
			continue
		}
		for _, j := range leaving[n.to.Place] {
			o := &w.nodes[j]
			at := w.hands.Held(o.from).Home
			// What is put aside of a pile makes the rest of it smaller.
			lies := w.hands.Held(o.from).N
			if o.evac < 0 {
				lies -= aside[o.from]
			}
			if j != i && w.hands.Clash(o.item, lies, &at, n.item, w.all(n), n.to) {
				p.after[i] = append(p.after[i], w.out(j))
			}
		}
		for _, k := range w.over(n.from) { // what lies on it goes first
			for _, j := range leaving[w.hands.Held(n.from).Home.Place] {
				if o := &w.nodes[j]; o.from == k {
					first := w.out(i)
					p.after[first] = append(p.after[first], w.out(j))
				}
			}
		}
	}
	p.chains, p.seen = make([]chain, len(w.nodes)), make([]int, len(w.nodes))
	p.within, p.stopped = make([][]int, len(w.nodes)), make([]bool, len(w.nodes))
}

func (w *work) over(k int) []int {
	if k < 0 {
		return nil
	}
	return w.hands.Over(k)
}

// of is the chain of a node as it is by now.
func (p *packer) of(i int) *chain {
	c := &p.chains[i]
	if c.fresh {
		for len(c.nodes) > 0 && p.w.nodes[c.nodes[0]].done {
			c.nodes = c.nodes[1:]
		}
		return c
	}
	// What waits for what does not change: from then on a chain only grows shorter.
	*c = chain{fresh: true}
	p.stamp++
	var visit func(k int)
	visit = func(k int) {
		if p.seen[k] == p.stamp || p.w.nodes[k].done {
			return
		}
		p.seen[k] = p.stamp
		for _, a := range p.after[k] {
			visit(a)
		}
		n := &p.w.nodes[k]
		c.nodes = append(c.nodes, k)
		c.minutes += n.left
		c.gain += n.gain
	}
	visit(i)
	// What is put aside on the way is carried on as well: nothing is left lying for long.
	for _, k := range slices.Clone(c.nodes) {
		if n := &p.w.nodes[k]; n.puts() {
			visit(n.of)
		}
	}
	for _, k := range c.nodes {
		p.within[k] = append(p.within[k], i)
	}
	return c
}

// opens finds the step on which most others wait.
func (p *packer) opens() {
	p.key = -1
	most := 0
	for i := range p.w.nodes {
		if !p.w.nodes[i].puts() {
			p.of(i)
		}
	}
	for k := range p.w.nodes {
		if n := len(p.within[k]) - 1; n > most && len(p.after[k]) == 0 {
			p.key, most = k, n
		}
	}
	if p.key >= 0 {
		p.plan.Opens = &Opening{Name: p.w.nodes[p.key].name, Do: p.w.nodes[p.key].do, Others: most}
	}
}

// next is the chain to go on with: of those that bring most a minute the first that still fits, else the best when the evening
// is new; nothing when it is full or all is done.
func (p *packer) next() *chain {
	var best, fits *chain
	p.stamp++
	clears := p.clearing() // comes first when an evening gets short
	rate := func(c *chain) float64 { return c.gain / max(.1, c.minutes) }
	for i := range p.w.nodes {
		n := &p.w.nodes[i]
		if n.done || n.puts() {
			continue
		}
		c := p.of(i)
		if p.stopped[i] || p.sets(c) {
			continue
		}
		if best == nil || rate(c) > rate(best) {
			best = c
		}
		if c.minutes <= p.left && (fits == nil || rate(c) > rate(fits)) && (clears == 0 || clears+p.besides(c) <= p.left) {
			fits = c
		}
	}
	switch {
	case fits != nil:
		return fits
	case best == nil:
		return nil
	case len(p.evening.Steps) == 0:
		return best
	}
	// Something large: its building is begun when a good part of an evening is left.
	if n := &p.w.nodes[best.nodes[0]]; n.do != Carry && p.left >= p.w.o.Minutes/3 {
		return best
	}
	return nil
}

// clearing is how long it takes until nothing lies on the main bench any more, and marks what that needs.
func (p *packer) clearing() (minutes float64) {
	for i := range p.w.surfaces {
		x := &p.w.surfaces[i]
		if !x.main || x.on == 0 {
			continue
		}
		for k := range p.w.nodes {
			n := &p.w.nodes[k]
			if n.evac >= 0 && n.on == x.name && !n.done {
				minutes += p.marked(p.of(k))
			}
		}
	}
	return minutes
}

// besides is how long what is to be done of a chain takes that is not marked.
func (p *packer) besides(c *chain) (minutes float64) {
	for _, k := range c.nodes {
		if n := &p.w.nodes[k]; !n.done && p.seen[k] != p.stamp {
			minutes += n.left
		}
	}
	return minutes
}

// marked is the same, and marks it.
func (p *packer) marked(c *chain) float64 {
	minutes := p.besides(c)
	for _, k := range c.nodes {
		p.seen[k] = p.stamp
	}
	return minutes
}

// cleared tells whether the main bench would be free again when the evening ends, with a node put aside on it: what is being
// followed is done by then, and so is what lies there already.
func (p *packer) cleared(node int) bool {
	c := p.of(node)
	p.stamp++
	minutes := p.clearing() + p.marked(c)
	if p.now != nil {
		minutes += p.marked(p.now)
	}
	return minutes <= p.left
}

// sets tells whether the first that could be done of a chain waits for glue to set.
func (p *packer) sets(c *chain) bool {
	k := c.nodes[0]
	for _, a := range p.after[k] {
		if n := &p.w.nodes[a]; n.done && n.dries && n.when == len(p.plan.Evenings) {
			return true
		}
	}
	return false
}

func (p *packer) begin() {
	p.evening, p.left = &Evening{Steps: []Step{}}, p.w.o.Minutes
}

func (p *packer) end() {
	e := p.evening
	p.heavyFirst(e)
	for i := range e.Steps {
		e.Minutes += e.Steps[i].Minutes
	}
	for i := range p.w.nodes {
		if n := &p.w.nodes[i]; n.puts() && n.done && !p.w.nodes[n.of].done {
			e.Aside++
		}
	}
	for i := range p.w.surfaces {
		if x := &p.w.surfaces[i]; x.main && x.on > 0 {
			e.Covered = x.name
		}
	}
	e.Handling = p.handling
	p.plan.Worst = max(p.plan.Worst, p.handling-p.plan.Handling.Now)
	p.plan.Minutes += e.Minutes
	p.plan.Evenings = append(p.plan.Evenings, *e)
	p.free()
}

// free forgets what could not be done: it is tried again.
func (p *packer) free() {
	clear(p.blocked)
	clear(p.stopped)
}

// follow does what of a chain can be done this evening.
func (p *packer) follow(c *chain) {
	p.now = c
	defer func() { p.now = nil }()
	alone := len(p.evening.Steps) == 0
	for _, k := range slices.Clone(c.nodes) {
		n := &p.w.nodes[k]
		if n.done {
			continue
		}
		if p.sets(&chain{nodes: []int{k}}) {
			return
		}
		if n.left > p.left && !(n.do == Carry && alone && len(p.evening.Steps) == 0) {
			if n.do == Carry || p.left < min(n.left, shortest) {
				if len(p.evening.Steps) > 0 {
					p.end()
					p.begin()
					alone = true
				}
				if n.do == Carry {
					if p.sets(&chain{nodes: []int{k}}) {
						return
					}
				}
			}
			if n.do != Carry {
				for n.left > p.left {
					p.part(k, p.left)
					p.end()
					p.begin()
				}
			}
		}
		if why := p.do(k); why != "" {
			p.blocked[k] = why
			for _, i := range p.within[k] {
				p.stopped[i] = true
			}
			return
		}
	}
}

// part of building something that takes longer than the evening.
func (p *packer) part(k int, minutes float64) {
	n := &p.w.nodes[k]
	if n.parts == 0 {
		n.parts = 1 + int(math.Ceil((n.left-minutes)/p.w.o.Minutes))
	}
	n.part++
	p.n++
	p.evening.Steps = append(p.evening.Steps, Step{N: p.n, Do: n.do, What: n.unit, Name: n.name, Minutes: minutes, People: n.people, Part: n.part, Parts: n.parts, Caution: n.caution})
	n.left -= minutes
	p.left -= minutes
	for _, i := range p.within[k] {
		p.chains[i].minutes -= minutes
	}
}

// do a node; what stops it otherwise.
func (p *packer) do(k int) string {
	w := p.w
	n := &w.nodes[k]
	for _, a := range n.after {
		if !w.nodes[a].done {
			return fmt.Sprintf("%s waits for %s", n.name, w.nodes[a].name)
		}
	}
	s := Step{N: p.n + 1, Do: n.do, Name: n.name, Minutes: n.left, People: n.people, Gain: n.gain, Caution: n.caution}
	switch {
	case n.do != Carry:
		s.What, s.Temporary, s.On = n.unit, n.forNow, n.on
		if st := n.spot; st != nil {
			s.Spot = &Spot{st.X.MM(), st.Y.MM(), st.Rot, [2]float64{st.Stand[0].MM(), st.Stand[1].MM()}}
		}
		if n.parts > 0 {
			s.Part, s.Parts = n.parts, n.parts
		}
	case n.puts():
		if why := p.putAside(k, &s); why != "" {
			return why
		}
	default:
		if why := p.carry(k, &s); why != "" {
			return why
		}
	}
	p.n++
	if k == p.key {
		p.plan.Opens.N = p.n
	}
	n.done, n.when = true, len(p.plan.Evenings)
	p.handling -= n.gain
	p.left -= n.left
	p.evening.Steps = append(p.evening.Steps, s)
	for _, i := range p.within[k] {
		c := &p.chains[i]
		c.minutes -= n.left
		c.gain -= n.gain
	}
	if len(p.blocked) > 0 {
		p.free()
	}
	return ""
}

func home(h shop.Home) *shop.Home {
	h.Place = plain(h.Place)
	return &h
}

// crate is where things go for a while when no bench and no floor has room.
const crate = "a crate"

// putAside finds a spot for a while: in a place nothing else is to go to, on a bench, on free floor, on the main bench.
func (p *packer) putAside(k int, s *Step) string {
	w := p.w
	e := &w.nodes[k]
	n := &w.nodes[e.of]
	if w.hands.Under(n.from) {
		return fmt.Sprintf("something lies on %s", n.name)
	}
	s.Item, s.Count, s.Temporary = w.both.Items[n.item].ID, n.n, true
	s.From = home(w.hands.Held(n.from).Home)
	n.held = w.hands.Split(n.from, n.n)
	alike := map[string]bool{} // with others of them that lie there it would be one pile, and those are to be found as they are
	for _, h := range w.hands.All() {
		if h.Item == n.item {
			alike[h.Home.Place] = true
		}
	}
	quiet := func(place string) bool {
		_, built := w.ready[place]
		return !built && !w.wanted[place] && !w.going[place] && !alike[place]
	}
	if at, ok := w.hands.Room(n.held, quiet); ok && w.hands.Lay(n.held, &at) == nil {
		n.at, s.To = &at, home(at)
		return ""
	}
	it := &w.both.Items[n.item]
	width, deep := lain(it, n.n)
	for i := range w.surfaces {
		x := &w.surfaces[i]
		if x.main && !p.cleared(e.of) {
			continue // it would still lie there when the evening ends
		}
		if x.put(width, deep) {
			n.on, s.On = x.name, x.name
			return ""
		}
	}
	n.on, s.On = crate, crate
	return ""
}

// carry pieces to their goal.
func (p *packer) carry(k int, s *Step) string {
	w := p.w
	n := &w.nodes[k]
	it := &w.both.Items[n.item]
	s.Item, s.Count, s.To = it.ID, n.n, n.to
	h := w.hands
	held, split := n.held, false
	var was shop.Home
	switch {
	case n.evac >= 0: // from where it was put aside
		if n.at != nil {
			s.From = home(*n.at)
			h.Take(held)
		} else {
			s.FromOn = n.on
		}
	case n.from >= 0:
		if h.Under(n.from) {
			return fmt.Sprintf("something lies on %s", n.name)
		}
		was = h.Held(n.from).Home
		s.From = home(was)
		held, split = h.Split(n.from, n.n), true
	default:
		held = h.Pick(n.item, n.n)
	}
	if n.to != nil {
		if err := h.Lay(held, n.to); err != nil {
			switch {
			case split && held == n.from:
				h.Back(held, &was)
			case split:
				h.Join(n.from, held)
			case n.evac >= 0 && n.at != nil:
				h.Back(held, n.at)
			}
			return fmt.Sprintf("%s does not go to %s: %v", n.name, n.to.Place, err)
		}
	}
	n.held = held
	if n.on != "" {
		for i := range w.surfaces {
			if w.surfaces[i].name == n.on {
				w.surfaces[i].off()
				break
			}
		}
	}
	return ""
}

// rest says what could not be done, and gives what is only put aside its last word.
func (p *packer) rest() {
	w := p.w
	if p.evening != nil && len(p.evening.Steps) > 0 {
		p.end()
	}
	for i := range w.nodes {
		n := &w.nodes[i]
		if n.done || n.puts() {
			continue
		}
		why := p.blocked[i]
		if why == "" {
			why = p.do(i)
		}
		if why == "" { // it went after all
			continue
		}
		p.plan.Stuck = append(p.plan.Stuck, fmt.Sprintf("%s: take it out of the plan, or look for homes again", why))
	}
	if last := len(p.plan.Evenings) - 1; last >= 0 && len(p.plan.Stuck) == 0 {
		// Of what stays where it is the way changed with the stations.
		p.plan.Evenings[last].Handling = p.plan.Handling.Target
	}
}
