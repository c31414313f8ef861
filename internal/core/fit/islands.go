package fit

import (
	"runtime"
	"slices"
	"sync"
)

// Two searches run side by side from the same construction, each with its own
// luck; now and then the worse goes on from the best of both. Their number is
// fixed, so that the same seed gives the same plan on every machine.
const (
	twins  = 2
	rounds = 16
)

// firstSteps and lastSteps of the bound: before the search, whose prices guide it,
// and after it, when the cost of a plan is known.
const (
	firstSteps = 150
	lastSteps  = 150
)

// clone gives an engine on the same map with spaces and parcels of its own.
func (e *Engine) clone() *Engine {
	c := *e
	c.spaces, c.parcels, c.load, c.carried = nil, nil, nil, nil
	return &c
}

// islands runs the searches and leaves the best in the engine's parcels. It says
// how many improvements were tried.
func (e *Engine) islands(o Options, prices *pricer, bound float64) int {
	all := make([]*search, twins)
	for k := range all {
		mine, of := o, e
		if k > 0 {
			mine.Progress, of = nil, e.clone()
		}
		all[k] = newSearch(of, mine, prices, bound, uint64(k))
	}
	spread(twins, func(k int) { all[k].begin() })
	var open []int
	for i := range e.parcels {
		if !e.parcels[i].fixed {
			open = append(open, i)
		}
	}
	total := o.Iterations
	if total == 0 {
		total = 6000 + 60*len(open)
	}
	if len(open) == 0 {
		return 0
	}
	spread(twins, func(k int) {
		r := all[k]
		r.squeeze(open)
		for _, i := range open {
			r.now += r.value(i)
		}
		r.now += r.apart(open)
		r.best, r.keep = r.now, nil
		r.kept()
	})
	done := make([]int, twins)
	for round := range rounds {
		from, to := total*round/rounds, total*(round+1)/rounds
		spread(twins, func(k int) { done[k] += all[k].improve(open, from, to, total) - from })
		first := all[0]
		for _, r := range all[1:] {
			if r.best < first.best {
				first = r
			}
		}
		for _, r := range all {
			if r != first {
				r.adopt(first)
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
