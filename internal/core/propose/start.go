package propose

import (
	"errors"
	"fmt"
	"slices"
	"sync"

	"hobrak/internal/core/fit"
	"hobrak/internal/core/shop"
)

// begun is a start of a proposal.
type begun struct {
	*state
	left   []Unbuilt
	before float64 // seconds a week before it had homes
}

// starts are how many things go together in the first piece for the same, and how many times as many in each next one, where there is time to
// try several: small pieces find room where it counts, large ones are fewer. The usual one comes first.
var starts = []struct {
	most  int
	grows float64
}{{0, 0}, {2, 1.5}, {1, 1.5}, {4, 1}}

// starting is the share of the time after which no more starts are tried.
const starting = .1

// start of a proposal on what is bare: the best of several where it is going to be revised and as much may be built as one likes.
func start(bare *shop.Shop, before map[string]bool, o *Options) (*begun, error) {
	if o.Revisions == 0 || len(o.spent()) > 0 {
		return begin(bare, before, *o)
	}
	var best *begun
	for n := 0; n < len(starts) && (n == 0 || !o.Done() && o.Spent() < starting); n += beside {
		var tried [beside]*begun
		var errs [beside]error
		var all sync.WaitGroup
		for k := range beside {
			try := *o
			if k > 0 {
				try.Progress = func(float64, string) {}
			}
			if s := starts[n+k]; s.most > 0 {
				try.most, try.grows = s.most, s.grows
			}
			all.Go(func() { tried[k], errs[k] = begin(bare.Clone(), before, try) })
		}
		all.Wait()
		if err := errors.Join(errs[:]...); err != nil {
			return nil, err
		}
		for _, y := range tried {
			if best == nil || y.cost() < best.cost()-1e-6 {
				best = y
			}
		}
	}
	return best, nil
}

// begin a proposal: storage for one group after the other, then homes for all; what breaks a rule comes down, and so does what is more than may be
// built.
func begin(bare *shop.Shop, before map[string]bool, o Options) (*begun, error) {
	out := &Proposal{Made: []Made{}, Left: []Unbuilt{}}
	first := o
	first.light = o.Revisions > 0
	next, err := putUp(bare, groups(bare, o.Style, &o), out, first, 0, .4)
	if err != nil {
		return nil, err
	}
	o.Progress(.4, "homes")
	soon := fit.Options{Seed: 1, Iterations: quick, Done: o.Done, Quick: true}
	x, err := homes(next, out.Made, soon)
	if err != nil {
		return nil, err
	}
	was := x.plan.Before
	if first.light {
		if x, err = lawful(x, before, &o); err != nil {
			return nil, err
		}
		out.Made = x.made
	}
	if len(x.plan.Homeless) > 0 && !o.Done() {
		// What still has no home gets storage of any kind, where there is room.
		out.Left = []Unbuilt{}
		if next, err = putUp(x.shop, groups(x.shop, "open", &o), out, o, .4, .45); err != nil {
			return nil, err
		}
		o.Progress(.45, "homes")
		if x, err = homes(next, out.Made, soon); err != nil {
			return nil, err
		}
	}
	if o.over(out.Made) {
		less := x.shop.Clone()
		all := out.Made
		if out.Made, err = trim(less, out.Made, &o); err != nil {
			return nil, err
		}
		for _, m := range all {
			if !slices.ContainsFunc(out.Made, func(o Made) bool { return o.ID == m.ID }) {
				out.Left = append(out.Left, Unbuilt{fmt.Sprintf("%s (%d)", m.For, m.Things), "more would be built than you allow"})
			}
		}
		if x, err = homes(less, out.Made, soon); err != nil {
			return nil, err
		}
	}
	return &begun{x, out.Left, was}, nil
}
