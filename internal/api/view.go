package api

import (
	"context"
	"sync"

	"hobrak/internal/core/check"
	"hobrak/internal/core/find"
	"hobrak/internal/core/fit"
	"hobrak/internal/core/free"
	"hobrak/internal/core/next"
	"hobrak/internal/core/round"
	"hobrak/internal/core/shop"
)

// view is a revision of the shop made ready for questions. Questions that try things out
// on the arrangement are asked under its lock; the rest of it does not change.
type view struct {
	revision int64
	shop     *shop.Shop
	round    *round.Round
	problem  *fit.Problem
	mu       sync.Mutex
	asIs     *fit.Arrangement
	item     map[string]int
	// What follows is worked out when it is first asked for.
	entries  func() *find.Index
	inRound  func() map[string]*round.Item // owned and wished for
	free     func() *free.Result
	checked  func() []check.Finding
	supplied func() []check.Finding // cautions of supply, apart: they take longer
	here     func() *moment
	steps    func() []next.Step
	hours    func() *fit.Arrangement
	risky    func() []fit.Risk
	going    func() map[string]string // by item: where the target has it, in words
}

// findings of the check in the view.
func (v *view) findings() []check.Finding { return v.checked() }

// byHours is the arrangement as homes are chosen for it: what a home costs in each mode counts by the hours the mode lasts.
func (v *view) byHours() *fit.Arrangement { return v.hours() }

// risks of the homes as they stand.
func (v *view) risks() []fit.Risk { return v.risky() }

// freeSpace of the view.
func (v *view) freeSpace() *free.Result { return v.free() }

// look makes a view of a shop.
func look(sh *shop.Shop, revision int64) (*view, error) {
	p, err := fit.New(sh)
	if err != nil {
		return nil, err
	}
	return viewOf(p, revision), nil
}

// next is the view of a shop that was changed a little since.
func (v *view) next(sh *shop.Shop, revision int64, c *shop.Changes) (*view, error) {
	p, err := v.problem.Next(sh, c)
	if err != nil {
		return nil, err
	}
	return viewOf(p, revision), nil
}

func viewOf(p *fit.Problem, revision int64) *view {
	v := &view{revision: revision, shop: p.Map().Shop, problem: p, asIs: p.AsItIs(), item: map[string]int{}}
	for i := range v.shop.Items {
		v.item[v.shop.Items[i].ID] = i
	}
	v.round = round.Of(v.asIs)
	v.entries = sync.OnceValue(func() *find.Index { return find.NewIndex(entries(v.shop, v.round)) })
	v.inRound = sync.OnceValue(func() map[string]*round.Item {
		out := map[string]*round.Item{}
		for _, list := range [2][]round.Item{v.round.Items, v.round.Wished} {
			for i := range list {
				out[list[i].ID] = &list[i]
			}
		}
		return out
	})
	v.going = sync.OnceValue(func() map[string]string { return v.goings() })
	v.hours = sync.OnceValue(func() *fit.Arrangement {
		if len(v.shop.Modes) > 0 {
			if in, err := fit.ByHours(v.shop, func() bool { return false }); err == nil {
				return in.AsItIs()
			}
		}
		return v.asIs
	})
	v.risky = sync.OnceValue(func() []fit.Risk { return p.AsItIs().Risks() })
	v.here = sync.OnceValue(func() *moment { return momentOf(v.shop) })
	v.free = sync.OnceValue(func() *free.Result { return free.Of(p.Map()) })
	v.checked = sync.OnceValue(func() []check.Finding {
		found, err := check.Mapped(p.Map())
		if err != nil {
			return nil // the view was made of the same shop, so there is none
		}
		return found
	})
	v.supplied = sync.OnceValue(func() []check.Finding {
		found, err := check.Supplied(v.shop)
		if err != nil {
			return nil // its areas and modes are its own, so there is none
		}
		return found
	})
	v.steps = sync.OnceValue(func() []next.Step {
		// On an arrangement of its own: it takes long in a large shop, and who drags something is not kept waiting.
		return next.Steps(p.AsItIs(), v.free, v.findings())
	})
	return v
}

// views makes the view of the newest revision: out of the one before, outside any lock, and
// once for all who wait for it.
type views struct {
	mu     sync.Mutex
	last   *view
	making *making
	recent []seen // the newest last
}

// seen is a round that some window may still have.
type seen struct {
	revision int64
	round    *round.Round
}

// recentRounds are kept, so that a window is sent only what changed.
const recentRounds = 32

// roundOf is the round of a revision, nil when it is no longer kept.
func (v *views) roundOf(revision int64) *round.Round {
	v.mu.Lock()
	defer v.mu.Unlock()
	for _, s := range v.recent {
		if s.revision == revision {
			return s.round
		}
	}
	return nil
}

// making of a view; done is closed when it is there.
type making struct {
	revision int64
	done     chan struct{}
	view     *view
	err      error
}

// now is the view of the newest revision.
func (s *Server) now() (*view, error) {
	head := s.store.Head()
	s.views.mu.Lock()
	if v := s.views.last; v != nil && v.revision >= head {
		s.views.mu.Unlock()
		return v, nil
	}
	if m := s.views.making; m != nil && m.revision >= head {
		s.views.mu.Unlock()
		<-m.done
		return m.view, m.err
	}
	sh, revision := s.store.Shop() // of head or later
	last := s.views.last
	if last != nil && last.revision >= revision {
		s.views.mu.Unlock()
		return last, nil
	}
	m := &making{revision: revision, done: make(chan struct{})}
	s.views.making = m
	s.views.mu.Unlock()
	m.view, m.err = s.make(last, sh, revision)
	s.views.mu.Lock()
	if m.err == nil && (s.views.last == nil || s.views.last.revision < revision) {
		s.views.last = m.view
		s.views.recent = append(s.views.recent, seen{m.view.revision, m.view.round})
		s.views.recent = s.views.recent[max(0, len(s.views.recent)-recentRounds):]
	}
	if s.views.making == m {
		s.views.making = nil
	}
	s.views.mu.Unlock()
	close(m.done)
	return m.view, m.err
}

// mostParts that changed are taken over one by one; of more all is made anew.
const mostParts = 400

func (s *Server) make(last *view, sh *shop.Shop, revision int64) (*view, error) {
	if last == nil {
		return look(sh, revision)
	}
	parts, err := s.store.Between(context.Background(), last.revision, revision, mostParts)
	if err != nil || len(parts) >= mostParts {
		return look(sh, revision)
	}
	c := &shop.Changes{}
	for _, p := range parts {
		c.Note(p.Part, p.ID)
	}
	return last.next(sh, revision, c)
}
