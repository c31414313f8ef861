package fit

import (
	"cmp"
	"fmt"
	"math"
	"math/rand/v2"
	"slices"

	"hobrak/internal/core/hold"
	"hobrak/internal/core/pack"
	"hobrak/internal/core/shop"
)

// Options of a search.
type Options struct {
	Seed uint64
	// Iterations bounds the improvements tried; 0 picks a number that grows
	// with the shop.
	Iterations int
	// KeepHomes leaves every home as it is and finds homes only for what has none.
	KeepHomes bool
	// Done is asked often; the search ends with the best so far when it says so.
	Done func() bool
	// Progress is told about the search now and then.
	Progress func(Progress)
}

// Progress of a search. Costs are seconds a week.
type Progress struct {
	Iteration int
	Of        int
	Objective float64
	Bound     float64
	Homeless  int
}

// Plan is the answer of a search.
type Plan struct {
	Homes      []shop.Home
	Before     float64 // weekly handling as it stands
	Objective  float64 // weekly handling of the plan
	Bound      float64 // no plan for these places costs less
	Homeless   []shop.Homeless
	Iterations int
	Seed       uint64
}

// Gap is how far the plan may be from the best possible, as a share of its cost.
func (p *Plan) Gap() float64 {
	if p.Objective <= 0 {
		return 0
	}
	return max(0, (p.Objective-p.Bound)/p.Objective)
}

// Apply gives a copy of the shop with the plan's homes. Report, when not nil,
// is filled in but for the time it took.
func (p *Plan) Apply(s *shop.Shop) *shop.Shop {
	out := s.Clone()
	out.Homes = p.Homes
	out.Fit = &shop.FitReport{Before: round(p.Before), Objective: round(p.Objective), Bound: round(p.Bound), Gap: math.Round(p.Gap()*1e5) / 1e5,
		Homeless: p.Homeless, Iterations: p.Iterations, Seed: p.Seed}
	if out.Fit.Homeless == nil {
		out.Fit.Homeless = []shop.Homeless{}
	}
	return out
}

func round(x float64) float64 { return math.Round(x*1000) / 1000 }

const (
	// nuisance is what a parcel without a home counts in the search beyond its
	// seconds, so that even what is hardly used gets one if it can.
	nuisance = 1e4
	// moving is what giving something another home counts in the search, so
	// that nothing moves for nothing (seconds a week, estimate).
	moving = .05
	// coarsest is into how many parts at most an item is split to find homes.
	coarsest = 16
)

// Run searches for the homes of a shop that cost least.
func Run(s *shop.Shop, o Options) (*Plan, error) {
	e, err := New(s)
	if err != nil {
		return nil, err
	}
	return e.Run(o), nil
}

// Run searches for the homes that cost least.
func (e *Engine) Run(o Options) *Plan {
	if o.Done == nil {
		o.Done = func() bool { return false }
	}
	plan := &Plan{Before: e.AsItStands(), Seed: o.Seed}
	plan.Bound = e.bound()
	r := &search{Engine: e, o: o, rng: rand.New(rand.NewPCG(o.Seed, 0x686f6272616b)), bound: plan.Bound}
	r.begin()
	plan.Iterations = r.improve()
	for i := range e.parcels {
		p := &e.parcels[i]
		plan.Objective += p.cost
		if p.place != none {
			h := hold.Home(&e.shop.Items[p.item], &e.shop.Places[p.place], p.n, p.spot)
			h.Locked = p.fixed && e.lockedAt(p.item, p.place)
			plan.Homes = append(plan.Homes, h)
		}
	}
	plan.Bound = min(plan.Bound, plan.Objective)
	plan.Homeless = e.homeless()
	order := map[string]int{}
	for i := range e.shop.Items {
		order[e.shop.Items[i].ID] = i
	}
	slices.SortStableFunc(plan.Homes, func(a, b shop.Home) int { return cmp.Compare(order[a.Item], order[b.Item]) })
	return plan
}

func (e *Engine) lockedAt(item, place int) bool {
	for _, h := range e.ways.Index.Homes(e.shop.Items[item].ID) {
		if h.Locked && h.Place == e.shop.Places[place].ID {
			return true
		}
	}
	return false
}

// AsItStands is the weekly handling of the homes the shop has; what has none
// counts 60 s a use, and so does what cannot be reached where it is.
func (e *Engine) AsItStands() float64 {
	sum := 0.0
	for i := range e.shop.Items {
		it := &e.shop.Items[i]
		if !it.Needs() {
			continue
		}
		rest := it.Number()
		for _, h := range e.ways.Index.Homes(it.ID) {
			n := h.Number(it)
			rest -= n
			sum += e.homeCost(i, h)
		}
		if rest > 0 {
			sum += e.homelessCost(i, rest)
		}
	}
	return sum
}

// homeCost is the weekly handling of a home as it stands.
func (e *Engine) homeCost(item int, h *shop.Home) float64 {
	it := &e.shop.Items[item]
	place := e.ways.PlaceNumber(h.Place)
	p := &e.shop.Places[place]
	if c, why := e.spotCost(item, h.Number(it), place, hold.SpotOf(p, h), true); why == "" {
		return c
	}
	return e.homelessCost(item, h.Number(it))
}

type search struct {
	*Engine
	o     Options
	rng   *rand.Rand
	bound float64
	old   map[int]shop.Home // the home an item had, by item
	buf   []pack.Spot
}

// begin puts in what stays, and constructs a home for everything else.
func (r *search) begin() {
	r.reset()
	r.old = map[int]shop.Home{}
	var free []int
	for i := range r.shop.Items {
		it := &r.shop.Items[i]
		if !it.Needs() {
			continue
		}
		rest := it.Number()
		for _, h := range r.ways.Index.Homes(it.ID) {
			if !h.Locked && !r.o.KeepHomes {
				r.old[i] = *h
				continue
			}
			n := h.Number(it)
			rest -= n
			place := r.ways.PlaceNumber(h.Place)
			r.parcels = append(r.parcels, parcel{item: i, n: n, fixed: true, place: none})
			r.put(len(r.parcels)-1, place, hold.SpotOf(&r.shop.Places[place], h), r.homeCost(i, h))
		}
		if rest > 0 {
			r.parcels = append(r.parcels, parcel{item: i, n: rest, place: none, cost: r.homelessCost(i, rest)})
			free = append(free, len(r.parcels)-1)
		}
	}
	r.recreate(free, 0)
	r.split()
}

// split tries things that are several and found no room together in parts.
func (r *search) split() {
	for i := 0; i < len(r.parcels); i++ {
		p := &r.parcels[i]
		if p.place != none || p.n < 2 || r.o.Done() {
			continue
		}
		it := &r.shop.Items[p.item]
		if p.n <= (it.Number()+coarsest-1)/coarsest {
			continue
		}
		half := p.n / 2
		other := parcel{item: p.item, n: half, place: none, cost: r.homelessCost(p.item, half)}
		p.n -= half
		p.cost = r.homelessCost(p.item, p.n)
		r.parcels = append(r.parcels, other)
		r.recreate([]int{i, len(r.parcels) - 1}, 0)
		if r.parcels[i].place == none {
			i-- // halve it again
		}
	}
}

// value is what a parcel counts in the search.
func (r *search) value(i int) float64 {
	p := &r.parcels[i]
	if p.place == none {
		return p.cost + nuisance
	}
	return p.cost + r.moved(p.item, p.place, p.spot)
}

// moved is the price of a home that differs from the one an item has.
func (r *search) moved(item, place int, s pack.Spot) float64 {
	h, ok := r.old[item]
	if !ok {
		return 0
	}
	p := &r.shop.Places[place]
	if h.Place != p.ID {
		return moving
	}
	if o := hold.SpotOf(p, &h); o.X != s.X || o.Y != s.Y || o.Slot != s.Slot {
		return moving / 2
	}
	return 0
}

// choice is the best spot for a parcel in one place.
type choice struct {
	place int
	spot  pack.Spot
	cost  float64
	value float64
	ok    bool
}

// choices looks the cheapest places through until the best and the second best
// are known for certain, and says what losing the best would cost.
func (r *search) choices(i int, noise float64) (best choice, regret float64) {
	p := &r.parcels[i]
	share := float64(p.n) / float64(r.shop.Items[p.item].Number())
	second := math.Inf(1)
	best.value = math.Inf(1)
	for k := range r.fits[p.item] {
		o := &r.fits[p.item][k]
		if o.least*share >= second {
			break
		}
		spot, cost, buf, ok := r.Engine.best(p.item, p.n, o, r.buf)
		r.buf = buf
		// The home it has is a spot worth trying even where no corner is.
		if h, had := r.old[p.item]; had && h.Place == r.shop.Places[o.place].ID {
			if c, same := r.again(i, o.place, &h); same && (!ok || c <= cost+moving/2) {
				spot, cost, ok = hold.SpotOf(&r.shop.Places[o.place], &h), c, true
			}
		}
		if !ok {
			continue
		}
		v := cost + r.moved(p.item, o.place, spot)
		if noise > 0 {
			v *= 1 + min(noise, .3)*r.rng.Float64()
		}
		if v < best.value {
			second, best = best.value, choice{o.place, spot, cost, v, true}
		} else if v < second {
			second = v
		}
	}
	if math.IsInf(second, 1) {
		second = nuisance + r.homelessCost(p.item, p.n)
	}
	regret = second - best.value
	if noise > 0 {
		// Ties break differently each time, and with much noise the order is nearly random.
		regret *= 1 - min(noise, .95)*r.rng.Float64()
	}
	return best, regret
}

// again tells whether the old home is free, and its cost.
func (r *search) again(i, place int, h *shop.Home) (float64, bool) {
	p := &r.parcels[i]
	if h.Number(&r.shop.Items[p.item]) != p.n {
		return 0, false
	}
	pl := &r.shop.Places[place]
	s := hold.SpotOf(pl, h)
	if over, _ := r.overloaded(p.item, p.n, place); over > 0 || r.spaces[place].Allows(hold.Thing(pl, &r.shop.Items[p.item], p.n), s) != nil {
		return 0, false
	}
	c, why := r.spotCost(p.item, p.n, place, s, false)
	return c, why == ""
}

// recreate finds homes for parcels, the one with the largest regret first.
func (r *search) recreate(todo []int, noise float64) {
	type waiting struct {
		choice
		regret float64
		stale  bool
	}
	state := make([]waiting, len(todo))
	for k := range state {
		state[k].stale = true
	}
	left := slices.Clone(todo)
	for len(left) > 0 {
		pick := -1
		for k, i := range left {
			if i < 0 {
				continue
			}
			if state[k].stale {
				state[k].choice, state[k].regret = r.choices(i, noise)
				state[k].stale = false
			}
			if !state[k].ok {
				left[k] = -1 // no room; what is put in later only takes more
				continue
			}
			if pick < 0 || state[k].regret > state[pick].regret {
				pick = k
			}
		}
		if pick < 0 {
			return
		}
		c := state[pick].choice
		r.put(left[pick], c.place, c.spot, c.cost)
		left[pick] = -1
		for k := range state {
			// Only those that wanted this place have to look again.
			if left[k] >= 0 && state[k].place == c.place {
				state[k].stale = true
			}
		}
	}
}

// saved is a parcel's home before it was taken out.
type saved struct {
	i     int
	place int
	spot  pack.Spot
	cost  float64
}

// improve takes a few parcels out and puts them back, keeping what is better,
// or now and then (as in simulated annealing) what is slightly worse.
func (r *search) improve() int {
	var open []int
	for i := range r.parcels {
		if !r.parcels[i].fixed {
			open = append(open, i)
		}
	}
	total := r.o.Iterations
	if total == 0 {
		total = 1500 + 25*len(open)
	}
	if len(open) == 0 {
		return 0
	}
	now := 0.0
	for _, i := range open {
		now += r.value(i)
	}
	best := now
	keep := r.snapshot()
	heat := .002 * max(1, math.Mod(now, nuisance))
	it := 0
	for ; it < total && !r.o.Done(); it++ {
		out := r.ruin(open)
		before := 0.0
		was := make([]saved, 0, len(out))
		for _, i := range out {
			p := &r.parcels[i]
			before += r.value(i)
			was = append(was, saved{i, p.place, p.spot, p.cost})
		}
		for _, i := range out {
			if r.parcels[i].place != none {
				r.take(i)
			}
		}
		noise := [...]float64{0, .2, 1}[r.rng.IntN(3)]
		r.recreate(out, noise)
		after := 0.0
		for _, i := range out {
			after += r.value(i)
		}
		t := heat * (1 - float64(it)/float64(total))
		if after < before-1e-9 || after < before+t*-math.Log(1-r.rng.Float64()) {
			now += after - before
			if now < best-1e-6 {
				best = now
				keep = r.snapshot()
			}
		} else {
			r.back(was)
		}
		if r.o.Progress != nil && it%64 == 0 {
			r.o.Progress(r.progress(it, total, keep))
		}
	}
	r.restore(keep)
	if r.o.Progress != nil {
		r.o.Progress(r.progress(it, total, keep))
	}
	return it
}

func (r *search) progress(it, total int, keep []saved) Progress {
	p := Progress{Iteration: it, Of: total, Bound: r.bound}
	for _, s := range keep {
		p.Objective += s.cost
		if s.place == none {
			p.Homeless++
		}
	}
	return p
}

func (r *search) snapshot() []saved {
	out := make([]saved, len(r.parcels))
	for i := range r.parcels {
		p := &r.parcels[i]
		out[i] = saved{i, p.place, p.spot, p.cost}
	}
	return out
}

func (r *search) restore(keep []saved) {
	var open []saved
	for _, s := range keep {
		if p := &r.parcels[s.i]; !p.fixed {
			open = append(open, s)
		}
	}
	r.back(open)
}

// back puts parcels where they were. Boards go in from the bottom of their piles.
func (r *search) back(was []saved) {
	for _, s := range was {
		if r.parcels[s.i].place != none {
			r.take(s.i)
		}
	}
	for _, s := range was {
		if s.place != none {
			r.put(s.i, s.place, s.spot, s.cost)
		}
	}
}

// ruin picks the parcels to take out: some at random, those of one place, or
// one that would rather be elsewhere with those that are in its way.
func (r *search) ruin(open []int) []int {
	size := 2 + r.rng.IntN(min(7, max(1, len(open)-1)))
	chosen := map[int]bool{}
	var out []int
	add := func(i int) {
		if len(out) >= size+4 || chosen[i] || r.parcels[i].fixed {
			return
		}
		if p := r.parcels[i].place; p != none {
			if arms, ok := r.spaces[p].(*pack.Arms); ok && arms.Bears(i) {
				return
			}
		}
		chosen[i] = true
		out = append(out, i)
	}
	first := open[r.rng.IntN(len(open))]
	switch kind := r.rng.IntN(4); kind {
	case 0:
		for range size {
			add(open[r.rng.IntN(len(open))])
		}
	case 1:
		place := r.parcels[first].place
		r.fromPlace(place, open, size, add)
		add(first)
	default:
		// The one of a few that loses most against its best place, and what is there.
		loss := -1.0
		for range 6 {
			i := open[r.rng.IntN(len(open))]
			p := &r.parcels[i]
			if len(r.fits[p.item]) == 0 {
				continue
			}
			share := float64(p.n) / float64(r.shop.Items[p.item].Number())
			if d := r.value(i) - r.fits[p.item][0].least*share; d > loss {
				loss, first = d, i
			}
		}
		add(first)
		options := r.fits[r.parcels[first].item]
		if len(options) > 0 {
			want := options[r.rng.IntN(min(4, len(options)))].place
			r.fromPlace(want, open, size, add)
		}
	}
	// Whatever has no home tries again every time.
	for _, i := range open {
		if r.parcels[i].place == none && r.rng.IntN(3) == 0 {
			add(i)
		}
	}
	return out
}

func (r *search) fromPlace(place int, open []int, size int, add func(int)) {
	var there []int
	for _, i := range open {
		if r.parcels[i].place == place {
			there = append(there, i)
		}
	}
	r.rng.Shuffle(len(there), func(a, b int) { there[a], there[b] = there[b], there[a] })
	for _, i := range there[:min(size, len(there))] {
		add(i)
	}
}

// homeless lists what found no home with the reason and the smallest change.
func (e *Engine) homeless() []shop.Homeless {
	lost := map[int]int{}
	for i := range e.parcels {
		if p := &e.parcels[i]; p.place == none {
			lost[p.item] += p.n
		}
	}
	var out []shop.Homeless
	for i := range e.shop.Items {
		if n := lost[i]; n > 0 {
			why, change := e.reason(i, n)
			if it := &e.shop.Items[i]; n < it.Number() {
				why = fmt.Sprintf("%d of %d: %s", n, it.Number(), why)
			}
			out = append(out, shop.Homeless{Item: e.shop.Items[i].ID, Why: why, SmallestChange: change})
		}
	}
	return out
}
