package fit

import (
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
	inEach(all, (*search).begin)
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
	inEach(all, func(r *search) {
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
		var wait sync.WaitGroup
		for k, r := range all {
			wait.Go(func() { done[k] += r.improve(open, from, to, total) - from })
		}
		wait.Wait()
		first := all[0]
		for _, r := range all[1:] {
			if r.best < first.best {
				first = r
			}
		}
		for _, r := range all {
			if r != first || round == rounds-1 {
				r.adopt(first)
			}
		}
		if o.Done() {
			break
		}
	}
	all[0].adopt(all[0])
	if o.Progress != nil {
		o.Progress(all[0].progress(done[0], total, all[0].keep))
	}
	sum := 0
	for _, n := range done {
		sum += n
	}
	return sum
}

func inEach(all []*search, do func(*search)) {
	var wait sync.WaitGroup
	for _, r := range all {
		wait.Go(func() { do(r) })
	}
	wait.Wait()
}

// adopt goes on from the best another search knows.
func (r *search) adopt(other *search) {
	r.best, r.now, r.keep = other.best, other.best, slices.Clone(other.keep)
	r.restore(r.keep)
	r.since = r.since[:0]
}
