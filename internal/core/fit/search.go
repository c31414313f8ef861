package fit

import (
	"cmp"
	"fmt"
	"math"
	"math/rand/v2"
	"slices"
	"sync"

	"hobrak/internal/core/keeping"
	"hobrak/internal/core/pack"
	"hobrak/internal/core/shop"
	"hobrak/internal/core/weight"
)

// Options of a search.
type Options struct {
	Seed uint64
	// Iterations bounds the improvements tried; 0 picks a number that grows
	// with the shop.
	Iterations int
	// KeepHomes leaves every home as it is and finds homes only for what has none.
	KeepHomes bool
	// Items are the only ones that get other homes than they have, by id; nil: all.
	Items []string
	// Moves are how many things may move at most; 0: all. The plan is then a point of the curve of few moves.
	Moves int
	// Wishes are what is liked but not a rule, in seconds a week.
	Wishes *Wishes
	// Quick makes one search of as many iterations as are given, without a bound, which is 0 then, and without order: where many plans are set side
	// by side.
	Quick bool
	// Done is asked often; the search ends with the best so far when it says so.
	Done func() bool
	// Spent says how much of the time given is gone, 0 to 1; nil when only the number
	// of improvements counts.
	Spent func() float64
	timed bool
	// Hurry is asked while the reasons of what has no home are worked out, once the
	// search is over; they are left short when it says so.
	Hurry func() bool
	// Progress is called with the state of the search now and then.
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
	Paid       Wishes // what the plan pays for each wish, in the same seconds
	Order      Ordered
	Iterations int
	Seed       uint64
}

// Gap is how far the plan may be from the best possible, as a share of its cost.
func (p *Plan) Gap() float64 {
	if p.Objective <= 0 {
		return 0
	}
	return (p.Objective - p.Bound) / p.Objective
}

// Contradiction is an error when the bound is above the cost of the plan, which no plan can
// be: then one of the two is wrong, and neither may be shown.
func (p *Plan) Contradiction() error {
	if p.Bound > p.Objective {
		return fmt.Errorf("the plan costs %.6f s a week, and the proof says that none costs less than %.6f", p.Objective, p.Bound)
	}
	return nil
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
	// nuisance is what a parcel of middle size without a home counts in the search
	// beyond its seconds, so that even what is hardly used gets one if it can. What
	// is larger is more in the way.
	nuisance = 1e4
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
func (p *Problem) Run(o Options) *Plan {
	e := p.Empty()
	var asked sync.Mutex // several ask at once
	done := o.Done
	o.Done = func() bool {
		if done == nil {
			return false
		}
		asked.Lock()
		defer asked.Unlock()
		return done()
	}
	if spent := o.Spent; spent != nil {
		o.timed = true
		o.Spent = func() float64 {
			asked.Lock()
			defer asked.Unlock()
			return spent()
		}
	} else {
		o.Spent = func() float64 { return 0 }
	}
	plan := &Plan{Before: e.AsItStands(), Seed: o.Seed}
	if o.Wishes == nil {
		usual := WishesOf(e.shop)
		o.Wishes = &usual
	}
	e.asked = o.Items
	if o.Moves > 0 {
		return p.few(&o)
	}
	var relaxed *relaxation
	if o.Quick {
		plan.Iterations = e.single(o)
	} else {
		relaxed = e.relax(func(item int) []*shop.Home { return e.staying(item, o.stays(e.shop.Items[item].ID)) }, o.Done)
		plan.Bound = relaxed.improve(firstSteps, 0, o.Done)
		plan.Iterations = e.islands(o, relaxed, plan.Bound)
		plan.Order = e.tidy(&o)
	}
	for i := range e.parcels {
		p := &e.parcels[i]
		plan.Objective += p.cost
		if p.place != none {
			h := keeping.Home(&e.shop.Items[p.item], &e.shop.Places[p.place], p.n, p.spot)
			h.Locked = e.keepsLock(p)
			plan.Homes = append(plan.Homes, h)
		}
	}
	plan.Paid = e.paid(o)
	// The cost of the plan is a better target than the guess before.
	if !o.Quick {
		plan.Bound = max(plan.Bound, relaxed.improve(lastSteps, plan.Objective, o.Done))
	}
	if plan.Bound > plan.Objective && plan.Bound-plan.Objective < 1e-9*plan.Objective {
		plan.Bound = plan.Objective // the last digits of two sums
	}
	plan.Homeless = e.homeless(o.Hurry)
	e.inOrder(plan.Homes)
	return plan
}

// inOrder sorts homes as their items are in the shop.
func (e *Problem) inOrder(homes []shop.Home) {
	order := map[string]int{}
	for i := range e.shop.Items {
		order[e.shop.Items[i].ID] = i
	}
	slices.SortStableFunc(homes, func(a, b shop.Home) int { return cmp.Compare(order[a.Item], order[b.Item]) })
}

// stays tells whether an item keeps the homes it has.
func (o *Options) stays(item string) bool {
	return o.KeepHomes || o.Items != nil && !slices.Contains(o.Items, item)
}

// staying are the homes of an item that a search leaves as they are.
func (e *Problem) staying(item int, all bool) (out []*shop.Home) {
	for _, h := range e.ways.Index.Homes(e.shop.Items[item].ID) {
		if h.Locked || all {
			out = append(out, h)
		}
	}
	return out
}

// written is the home in the shop that a parcel is in; nil when it was put there.
func (e *Problem) written(q *parcel) (home *shop.Home) {
	p, n := &e.shop.Places[q.place], 0
	for _, h := range e.ways.Index.Homes(e.shop.Items[q.item].ID) {
		if h.Place != p.ID {
			continue
		}
		if keeping.SpotOf(p, h) == q.spot {
			return h
		}
		home, n = h, n+1
	}
	if n > 1 {
		return nil
	}
	return home
}

// keepsLock tells whether a parcel is in a home that is locked.
func (e *Problem) keepsLock(q *parcel) bool {
	was := e.written(q)
	return q.fixed && was != nil && was.Locked
}

func (e *Problem) lockedAt(item, place int) bool {
	for _, h := range e.ways.Index.Homes(e.shop.Items[item].ID) {
		if h.Locked && h.Place == e.shop.Places[place].ID {
			return true
		}
	}
	return false
}

// AsItStands is the weekly handling of the homes the shop has; what has none
// counts 60 s a use, and so does what cannot be reached where it is.
func (e *Problem) AsItStands() float64 {
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
func (e *Problem) homeCost(item int, h *shop.Home) float64 {
	it := &e.shop.Items[item]
	place := e.ways.PlaceNumber(h.Place)
	p := &e.shop.Places[place]
	if c, why := e.spotCost(item, h.Number(it), place, keeping.SpotOf(p, h), true); why == "" {
		return c
	}
	return e.homelessCost(item, h.Number(it))
}

type search struct {
	*Arrangement
	o       Options
	rng     *rand.Rand
	bound   float64
	old     map[int]shop.Home // the home an item had, by item
	relaxed *relaxation
	guides  []guide
	// memo remembers the best spot of a parcel in a place, as long as what is there
	// is the same; hash stands for what is there.
	memo    [][]remembered
	before  [][]uint64 // by place: what hash was before each thing put in since one was taken out
	other   remembered // of the places further away, which are seldom asked for
	hash    []uint64
	plain   []bool  // places whose load nothing else counts
	there   [][]int // parcels by place
	upkeep  float64 // what the places pay for being used, see care
	care    []care
	only    int // the one case things may go to now, none: any
	now     float64
	best    float64
	keep    []saved    // the best so far
	since   []int      // what may differ from it
	refused []refusals // by place, what found no spot there
	tired   []int      // by parcel: how often it was the first to be put back and nothing was gained, since something was
	mine    []bool     // by place: those it may change; nil: all
}

func newSearch(e *Arrangement, o Options, relaxed *relaxation, bound float64, island uint64) *search {
	r := &search{Arrangement: e, o: o, relaxed: relaxed, bound: bound, rng: rand.New(rand.NewPCG(o.Seed, 0x686f6272616b+island))}
	for i := range e.shop.Places {
		plain := true
		for _, b := range e.within[i] {
			if most, _ := e.rated(b); most > 0 {
				plain = false
			}
		}
		plain = plain && len(e.hung[i]) == 0
		r.plain = append(r.plain, plain)
	}
	r.only = none
	r.care = r.cares(r.o.Wishes)
	return r
}

// put and take keep the hash of what is in a place.
func (r *search) put(i, place int, s pack.Spot, cost float64) {
	r.Arrangement.put(i, place, s, cost)
	if len(r.before[place]) < mostBefore {
		r.before[place] = append(r.before[place], r.hash[place])
	}
	r.hash[place] ^= fingerprint(i, s)
	r.there[place] = append(r.there[place], i)
	r.since = append(r.since, i)
	r.keepUp(r.parcels[i].item, r.parcels[i].n, place, 1)
}

func (r *search) take(i int) {
	p := &r.parcels[i]
	r.before[p.place] = r.before[p.place][:0]
	r.hash[p.place] ^= fingerprint(i, p.spot)
	list := r.there[p.place]
	k := slices.Index(list, i)
	list[k] = list[len(list)-1]
	r.there[p.place] = list[:len(list)-1]
	r.since = append(r.since, i)
	r.keepUp(p.item, p.n, p.place, -1)
	r.Arrangement.take(i)
}

// fingerprint of a parcel at a spot (a finalizer of MurmurHash3 over each number).
func fingerprint(i int, s pack.Spot) uint64 {
	h := uint64(i)*0x9e3779b97f4a7c15 + 1
	turned := 0
	if s.Turned {
		turned = 1
	}
	for _, v := range [...]uint64{uint64(s.X), uint64(s.Y), uint64(s.Z), uint64(s.Row*4+turned)<<40 ^ uint64(s.Slot)<<20 ^ uint64(s.Level)<<10 ^ uint64(s.Cols)} {
		h ^= v
		h ^= h >> 33
		h *= 0xff51afd7ed558ccd
		h ^= h >> 33
		h *= 0xc4ceb9fe1a85ec53
		h ^= h >> 33
	}
	return h
}

// prepare empties all places.
func (r *search) prepare() {
	r.reset()
	r.upkeep = 0
	for i := range r.care {
		r.care[i].clear()
	}
	r.hash, r.memo, r.there = make([]uint64, len(r.shop.Places)), nil, make([][]int, len(r.shop.Places))
	r.before = make([][]uint64, len(r.shop.Places))
	r.refused = make([]refusals, len(r.shop.Places))
	r.old = map[int]shop.Home{}
}

// begin puts in what stays, and constructs a home for everything else.
func (r *search) begin() {
	r.prepare()
	var free []int
	for i := range r.shop.Items {
		it := &r.shop.Items[i]
		if !it.Needs() {
			continue
		}
		rest := it.Number()
		for _, h := range r.ways.Index.Homes(it.ID) {
			if !h.Locked && !r.o.stays(it.ID) {
				r.old[i] = *h
				continue
			}
			n := h.Number(it)
			rest -= n
			place := r.ways.PlaceNumber(h.Place)
			r.parcels = append(r.parcels, parcel{item: i, n: n, fixed: true, place: none})
			r.put(len(r.parcels)-1, place, keeping.SpotOf(&r.shop.Places[place], h), r.homeCost(i, h))
		}
		if rest > 0 {
			asked := r.o.Items == nil || slices.Contains(r.o.Items, it.ID)
			r.parcels = append(r.parcels, parcel{item: i, n: rest, place: none, cost: r.homelessCost(i, rest), fixed: !asked})
			if asked {
				free = append(free, len(r.parcels)-1)
			}
		}
	}
	for k := range r.kin.must {
		r.gather(k, free)
	}
	r.construct(slices.DeleteFunc(slices.Clone(free), func(i int) bool { return r.parcels[i].place != none }))
	r.split()
}

// value is what a parcel counts in the search.
func (r *search) value(i int) float64 {
	p := &r.parcels[i]
	if p.place == none {
		return p.cost + r.nuisance[p.item]
	}
	return p.cost + r.moved(p.item, p.place, p.spot) + r.liked(p.item, p.place)
}

// moved is the cost of a home that differs from the one an item has.
func (r *search) moved(item, place int, s pack.Spot) float64 {
	h, ok := r.old[item]
	if !ok {
		return 0
	}
	p := &r.shop.Places[place]
	if h.Place != p.ID {
		return r.o.Wishes.Moving
	}
	if o := keeping.SpotOf(p, &h); o.X != s.X || o.Y != s.Y || o.Slot != s.Slot {
		return r.o.Wishes.Moving / 2
	}
	return 0
}

// recreate finds homes for parcels, the one with the largest regret first.
func (r *search) recreate(todo []int, m manner) {
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
	looked := 0
	for len(left) > 0 {
		pick := -1
		for k, i := range left {
			if i < 0 {
				continue
			}
			if state[k].stale {
				if looked++; looked%8 == 0 && r.o.Done() {
					return // what is left over stays without a home, and the try is given up
				}
				state[k].choice, state[k].regret = r.choices(i, m)
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
		p := &r.parcels[left[pick]]
		// What was put elsewhere meanwhile may weigh too much in the same container, be a hazard near by, or its family.
		over := weight.Weight(0)
		if !r.plain[c.place] {
			over, _ = r.overloaded(p.item, p.n, c.place)
		}
		if over > 0 || r.harmful(p.item, c.place) != "" || r.torn(p.item, c.place) {
			state[pick].stale = true
			continue
		}
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

// At first a plan is gone on from that is worse by so much of what a parcel costs on average, as likely as not, in the end by so much.
// Between them it falls by equal shares, as usual in simulated annealing; ruining and recreating with it is that of Christiaens and Vanden
// Berghe (2020).
const (
	hottest = .2
	coldest = .002
)

// oneByOne is how often what was taken out is put back one after the other, which is some times as fast.
const oneByOne = .9

// improve takes a few parcels out and puts them back, keeping what is better,
// or now and then (as in simulated annealing) what is slightly worse. It runs from
// one iteration to another of a total, or until so much of the time is gone, and says
// how far it came.
func (r *search) improve(open []int, from, to, total int, until float64) int {
	each := max(1, r.seconds(open)) / float64(len(open))
	it, gone := from, r.o.Spent()
	for ; it < to && gone < r.o.searching() && !(gone >= until && behind(gone, it, total)) && !r.o.Done(); it++ {
		if it%16 == 15 {
			gone = r.o.Spent()
		}
		out, first, host := r.ruin(open)
		before := 0.0
		was := make([]saved, 0, len(out))
		for _, i := range out {
			before += r.value(i)
			was = append(was, r.savedOf(i))
		}
		before += r.apart(out) + r.upkeep
		for _, i := range out {
			if r.parcels[i].place != none {
				r.take(i)
			}
		}
		m := manner{noise: [...]float64{0, .2, 1}[r.rng.IntN(3)], paying: r.rng.Float64() < .7, first: first, force: first >= 0 && r.rng.IntN(2) == 0}
		if host != none {
			r.assemble(out, host)
		}
		if r.rng.Float64() < oneByOne {
			r.insert(was, m)
		} else {
			r.recreate(r.without(out), m)
		}
		after := 0.0
		for _, i := range out {
			after += r.value(i)
		}
		after += r.apart(out) + r.upkeep
		if first >= 0 {
			r.tire(first, after < before-1e-9)
		}
		cooled := float64(it) / float64(total)
		if behind(gone, it, total) {
			cooled = gone
		}
		t := each * hottest * math.Pow(coldest/hottest, cooled)
		if after < before-1e-9 || after < before+t*-math.Log(1-r.rng.Float64()) {
			r.now += after - before
			if r.now < r.best-1e-6 {
				r.best = r.now
				r.kept()
			}
		} else {
			r.back(was)
		}
		if r.o.Progress != nil && it%64 == 0 {
			r.o.Progress(r.progress(it, total, r.keep))
		}
	}
	return it
}

// behind tells whether the time given will be over before the improvements are. As
// long as it is not, time has no influence, and a seed gives the same plan again.
func behind(gone float64, it, total int) bool { return gone > float64(it)/float64(total)+.15 }

// seconds a week of the plan as it is.
func (r *search) seconds(open []int) (sum float64) {
	for _, i := range open {
		sum += r.parcels[i].cost
	}
	return sum
}

// What is said of a thing that has room and no home.
const (
	noTime       = "there was no time to find it a home"
	searchLonger = "search longer: "
)

// homeless lists what found no home with the reason and the smallest change.
func (e *Arrangement) homeless(hurry func() bool) []shop.Homeless {
	lost := map[int]int{}
	for i := range e.parcels {
		if p := &e.parcels[i]; p.place == none {
			lost[p.item] += p.n
		}
	}
	var out []shop.Homeless
	for i := range e.shop.Items {
		if n := lost[i]; n > 0 {
			why, change := "there was no time to find out why", ""
			if place := e.roomFor(i, n); place != "" {
				why, change = noTime, searchLonger+place+" has room for it"
			} else if hurry == nil || !hurry() {
				why, change = e.reason(i, n)
			}
			if it := &e.shop.Items[i]; n < it.Number() {
				why = fmt.Sprintf("%d of %d: %s", n, it.Number(), why)
			}
			out = append(out, shop.Homeless{Item: e.shop.Items[i].ID, Why: why, SmallestChange: change})
		}
	}
	return out
}
