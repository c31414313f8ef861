package fit

import (
	"runtime"
	"slices"
	"sync"
)

// Two searches run side by side from the same construction, each with its own
// luck; now and then the worse goes on from the best of both. Their number is
// fixed, so that the same seed gives the same plan again on machines of one kind (where a
// processor multiplies and adds in one step, the last digits differ).
const (
	twins  = 2
	rounds = 16
)

// searching is the share of the time given that the search takes; the rest is for
// the bound, and for order where it is looked for all over the shop.
func (o *Options) searching() float64 {
	if o.Wishes != nil && o.Wishes.Order >= dear {
		return .6
	}
	return .96
}

// firstSteps and lastSteps of the bound: before the search, whose multipliers guide it, and
// after it, when the cost of a plan is known, if the first did not come to their end.
const (
	firstSteps = 1000
	lastSteps  = 300
)

// islands runs the searches and leaves the best in the arrangement's parcels. It says
// how many improvements were tried.
func (e *Arrangement) islands(o Options, relaxed *relaxation, bound float64) int {
	var all [twins]*search
	for k := range all {
		mine, of := o, e
		if k > 0 {
			mine.Progress, of = nil, &Arrangement{Problem: e.Problem, asked: e.asked}
		}
		all[k] = newSearch(of, mine, relaxed, bound, uint64(k))
	}
	guides := relaxed.guides(o.Done)
	for _, r := range all {
		r.guides = guides
	}
	all[0].begin()
	for _, r := range all[1:] {
		r.follow(all[0])
	}
	open := e.open()
	total := o.Iterations
	if total == 0 {
		total = usualTries(len(open))
	}
	if len(open) == 0 {
		return 0
	}
	spread(twins, func(k int) { all[k].start(open) })
	done := make([]int, twins)
	halves, begun := e.newHalves(open), o.Spent()
	for round := range rounds {
		to := total * (round + 1) / rounds
		until := begun + (o.searching()-begun)*float64(round+1)/rounds
		lists := [twins][]int{open, open}
		apart := halves != nil && round%4 < 3 && round < rounds-1
		if apart {
			lists = halves.cut(all)
		}
		spread(twins, func(k int) {
			if len(lists[k]) > 0 {
				done[k] = all[k].improve(lists[k], done[k], to, total, until)
			}
		})
		if apart {
			halves.join(all, lists, open)
		} else {
			first := bestOf(all)
			for _, r := range all {
				if r != first {
					r.adopt(first)
				}
			}
		}
		if round < rounds/2 {
			open = e.partAll(all, open)
			if halves != nil {
				halves.open = open
			}
		}
		if o.Done() {
			break
		}
	}
	all[0].adopt(all[0]) // from where it was trying to the best it knows
	if o.Progress != nil {
		o.Progress(all[0].progress(done[0], total, all[0].keep))
	}
	sum := 0
	for _, n := range done {
		sum += n
	}
	return sum
}

// usualTries are how many improvements a search tries when nobody says how many.
func usualTries(parcels int) int { return 12_000 + 60*parcels }

// open are the parcels that a search may move.
func (e *Arrangement) open() (out []int) {
	for i := range e.parcels {
		if !e.parcels[i].fixed {
			out = append(out, i)
		}
	}
	return out
}

// start from what is constructed.
func (r *search) start(open []int) {
	r.squeeze(open)
	for _, i := range open {
		r.now += r.value(i)
	}
	r.now += r.apart(open) + r.upkeep
	r.best, r.keep = r.now, nil
	r.kept()
}

// single runs one search without a bound and says how many improvements were tried.
func (e *Arrangement) single(o Options) int {
	r := newSearch(e, o, nil, 0, 0)
	r.guides = e.unbound()
	r.begin()
	open := e.open()
	if len(open) == 0 {
		return 0
	}
	r.start(open)
	n := r.improve(open, 0, o.Iterations, o.Iterations, o.searching())
	r.adopt(r) // from where it was trying to the best it knows
	return n
}

// bestOf the searches, by the best plan each knows.
func bestOf(all [twins]*search) *search {
	first := all[0]
	for _, r := range all[1:] {
		if r.best < first.best {
			first = r
		}
	}
	return first
}

// follow begins with what another search has constructed.
func (r *search) follow(first *search) {
	r.prepare()
	for i := range first.parcels {
		q := first.parcels[i]
		q.place = none
		r.parcels = append(r.parcels, q)
		if q := &first.parcels[i]; q.place != none {
			r.put(i, q.place, q.spot, q.cost)
		}
	}
	r.old = first.old
}

// partAll parts multiples in the first search's plan, and lets the other
// go on from there.
func (e *Problem) partAll(all [twins]*search, open []int) []int {
	first := all[0]
	first.adopt(first) // from where it was trying to the best it knows
	made := first.part(open)
	if len(made) == 0 {
		return open
	}
	open = append(open, made...)
	first.best, first.keep = first.now, nil
	first.kept()
	for _, r := range all[1:] {
		for _, i := range open[:len(open)-len(made)] {
			q := &r.parcels[i]
			if q.place != none {
				r.take(i)
			}
			q.n = first.parcels[i].n
		}
		for _, i := range made {
			q := first.parcels[i]
			q.place = none
			r.parcels = append(r.parcels, q)
		}
		r.adopt(first)
	}
	return open
}

// spread runs something side by side, once for each number, and waits for all.
func spread(n int, do func(k int)) {
	var wait sync.WaitGroup
	for k := range n {
		wait.Go(func() { do(k) })
	}
	wait.Wait()
}

// crew is how many workers are worth it for n pieces of work, when one should have
// at least so many of them.
func crew(n, least int) int { return max(1, min(runtime.GOMAXPROCS(0), n/least)) }

// adopt goes on from the best another search knows.
func (r *search) adopt(other *search) {
	r.best, r.now, r.keep = other.best, other.best, slices.Clone(other.keep)
	r.restore(r.keep)
	r.since = r.since[:0]
}
