package api

import (
	"cmp"
	"context"
	"fmt"
	"net/http"
	"slices"
	"strconv"
	"sync"
	"time"

	"github.com/danielgtaylor/huma/v2"
	"github.com/danielgtaylor/huma/v2/sse"

	"hobrak/internal/core/fit"
	"hobrak/internal/core/round"
	"hobrak/internal/core/shop"
	"hobrak/internal/store"
)

// maxRuns is how many plans are kept beside the shop as it stands.
const maxRuns = 8

// run is one search for homes, going on or done.
type run struct {
	id       string
	base     int64
	shop     *shop.Shop
	started  time.Time
	stop     context.CancelFunc
	mu       sync.Mutex
	state    Run
	finished chan struct{}
	plan     *fit.Plan
	view     *view
	watchers map[chan Run]bool
}

// Run is how far a search is.
type Run struct {
	ID        string  `json:"id"`
	State     string  `json:"state" enum:"running,done"`
	Base      int64   `json:"base" doc:"revision it started from"`
	Before    float64 `json:"before" doc:"weekly handling as it stands"`
	Objective float64 `json:"objective" doc:"weekly handling of the best plan so far"`
	Bound     float64 `json:"bound" doc:"no plan for these places costs less; 0 until known"`
	Homeless  int     `json:"homeless"`
	Share     float64 `json:"share" doc:"share of the search that is done, 0 to 1"`
	Seconds   float64 `json:"seconds" doc:"how long it has been running"`
}

// Proposal is a plan beside the shop as it stands.
type Proposal struct {
	Run   Run          `json:"run"`
	Round *round.Round `json:"round" doc:"the shop with the plan's homes"`
	Moves []Move       `json:"moves" nullable:"false" doc:"what gets another home, most seconds saved first"`
	Lost  []Lost       `json:"lost" nullable:"false" doc:"what found no home"`
}

// Move of an item from one home to another.
type Move struct {
	Item   string  `json:"item"`
	Name   string  `json:"name"`
	From   string  `json:"from" doc:"place, empty without a home"`
	To     string  `json:"to"`
	Wall   string  `json:"wall" doc:"wall the new home is on, empty when on none"`
	Before float64 `json:"before"`
	After  float64 `json:"after"`
}

// Lost is an item that found no home.
type Lost struct {
	Item   string `json:"item"`
	Name   string `json:"name"`
	Why    string `json:"why"`
	Change string `json:"change" doc:"the smallest change that would give it one"`
}

func (s *Server) fits() {
	type one struct {
		ID string `path:"id"`
	}
	huma.Register(s.api, huma.Operation{OperationID: "start-fit", Method: http.MethodPost, Path: "/api/fits", Summary: "Look for better homes", MaxBodyBytes: smallBody, DefaultStatus: http.StatusAccepted},
		func(_ context.Context, in *body[struct {
			Seconds   float64 `json:"seconds,omitempty" minimum:"0.1" maximum:"600" default:"2"`
			Seed      uint64  `json:"seed,omitempty" default:"1"`
			KeepHomes bool    `json:"keep_homes,omitempty"`
		}]) (*body[Run], error) {
			r := s.start(time.Duration(in.Body.Seconds*float64(time.Second)), fit.Options{Seed: in.Body.Seed, KeepHomes: in.Body.KeepHomes})
			return &body[Run]{r.now()}, nil
		})
	huma.Register(s.api, huma.Operation{OperationID: "fit", Method: http.MethodGet, Path: "/api/fits/{id}", Summary: "How far a search is"},
		func(_ context.Context, in *one) (*body[Run], error) {
			r, err := s.run(in.ID)
			if err != nil {
				return nil, err
			}
			return &body[Run]{r.now()}, nil
		})
	huma.Register(s.api, huma.Operation{OperationID: "stop-fit", Method: http.MethodPost, Path: "/api/fits/{id}/stop", Summary: "Stop with the best so far"},
		func(ctx context.Context, in *one) (*body[Run], error) {
			r, err := s.run(in.ID)
			if err != nil {
				return nil, err
			}
			r.stop()
			if err := r.wait(ctx); err != nil {
				return nil, err
			}
			return &body[Run]{r.now()}, nil
		})
	huma.Register(s.api, huma.Operation{OperationID: "proposal", Method: http.MethodGet, Path: "/api/fits/{id}/proposal", Summary: "The plan beside the shop as it stands"},
		func(ctx context.Context, in *one) (*body[Proposal], error) {
			r, err := s.run(in.ID)
			if err != nil {
				return nil, err
			}
			if err := r.wait(ctx); err != nil {
				return nil, err
			}
			p, err := s.proposal(r)
			if err != nil {
				return nil, problem(err)
			}
			return &body[Proposal]{*p}, nil
		})
	huma.Register(s.api, huma.Operation{OperationID: "accept-fit", Method: http.MethodPost, Path: "/api/fits/{id}/accept", Summary: "Make the plan the shop", MaxBodyBytes: smallBody},
		func(ctx context.Context, in *struct {
			ID   string `path:"id"`
			Body Base
		}) (*body[store.Revision], error) {
			r, err := s.run(in.ID)
			if err != nil {
				return nil, err
			}
			if err := r.wait(ctx); err != nil {
				return nil, err
			}
			// On the revision the plan was made on: the store refuses it if the shop moved on.
			out, err := revised(s.store.Change(ctx, r.base, who, fmt.Sprintf("plan %s accepted", r.id), func(sh *shop.Shop) error { sh.Homes = r.plan.Homes; return nil }))
			if err == nil {
				s.drop(r.id)
			}
			return out, err
		})
	huma.Register(s.api, huma.Operation{OperationID: "discard-fit", Method: http.MethodDelete, Path: "/api/fits/{id}", Summary: "Throw a plan away", DefaultStatus: http.StatusNoContent},
		func(_ context.Context, in *one) (*struct{}, error) {
			r, err := s.run(in.ID)
			if err != nil {
				return nil, err
			}
			r.stop()
			s.drop(r.id)
			return nil, nil
		})
	sse.Register(s.api, huma.Operation{OperationID: "fit-events", Method: http.MethodGet, Path: "/api/fits/{id}/events", Summary: "The search as it goes on"},
		map[string]any{"run": Run{}},
		func(ctx context.Context, in *one, send sse.Sender) {
			r, err := s.run(in.ID)
			if err != nil {
				return
			}
			heard, stop := r.watch()
			defer stop()
			for {
				select {
				case now := <-heard:
					if send.Data(now) != nil || now.State == "done" {
						return
					}
				case <-ctx.Done():
					return
				case <-s.life.Done():
					return
				}
			}
		})
}

func (s *Server) run(id string) (*run, error) {
	s.mu.Lock()
	defer s.mu.Unlock()
	if r, ok := s.runs[id]; ok {
		return r, nil
	}
	return nil, huma.Error404NotFound(fmt.Sprintf("there is no plan %q; it was accepted, thrown away or the server was started anew", id))
}

func (s *Server) drop(id string) {
	s.mu.Lock()
	defer s.mu.Unlock()
	delete(s.runs, id)
}

// start a search in the background.
func (s *Server) start(limit time.Duration, o fit.Options) *run {
	sh, revision := s.store.Shop()
	ctx, stop := context.WithTimeout(s.life, limit)
	s.mu.Lock()
	s.next++
	r := &run{id: strconv.Itoa(s.next), base: revision, shop: sh, started: time.Now(), stop: stop, finished: make(chan struct{}), watchers: map[chan Run]bool{}}
	s.runs[r.id] = r
	delete(s.runs, strconv.Itoa(s.next-maxRuns))
	s.mu.Unlock()
	r.state = Run{ID: r.id, State: "running", Base: revision}
	go r.work(ctx, s, o)
	return r
}

func (r *run) work(ctx context.Context, s *Server, o fit.Options) {
	defer r.stop()
	defer close(r.finished)
	e, err := fit.New(r.shop)
	if err != nil {
		s.log.Error("fit", "what", err)
		r.change(func(x *Run) { x.State = "done" })
		return
	}
	before := e.AsItStands()
	last := time.Time{}
	o.Done = func() bool { return ctx.Err() != nil }
	o.Progress = func(p fit.Progress) {
		if time.Since(last) < 60*time.Millisecond {
			return
		}
		last = time.Now()
		r.change(func(x *Run) {
			x.Before, x.Objective, x.Bound, x.Homeless = before, p.Objective, p.Bound, p.Homeless
			x.Share = float64(p.Iteration) / float64(max(1, p.Of))
		})
	}
	plan := e.Run(o)
	v, err := look(plan.Apply(r.shop), r.base)
	if err != nil {
		s.log.Error("fit", "what", err)
	}
	r.mu.Lock()
	r.plan, r.view = plan, v
	r.mu.Unlock()
	r.change(func(x *Run) {
		x.State, x.Before, x.Objective, x.Bound, x.Homeless, x.Share = "done", plan.Before, plan.Objective, plan.Bound, len(plan.Homeless), 1
	})
	s.log.Info("fit", "before", plan.Before, "objective", plan.Objective, "bound", plan.Bound, "homeless", len(plan.Homeless), "iterations", plan.Iterations)
}

func (r *run) change(f func(*Run)) {
	r.mu.Lock()
	defer r.mu.Unlock()
	f(&r.state)
	r.state.Seconds = time.Since(r.started).Seconds()
	for w := range r.watchers {
		select {
		case <-w:
		default:
		}
		w <- r.state
	}
}

func (r *run) now() Run {
	r.mu.Lock()
	defer r.mu.Unlock()
	return r.state
}

// watch begins with the state as it is.
func (r *run) watch() (<-chan Run, func()) {
	w := make(chan Run, 1)
	r.mu.Lock()
	defer r.mu.Unlock()
	w <- r.state
	r.watchers[w] = true
	return w, func() {
		r.mu.Lock()
		defer r.mu.Unlock()
		delete(r.watchers, w)
	}
}

func (r *run) wait(ctx context.Context) error {
	select {
	case <-r.finished:
	case <-ctx.Done():
		return ctx.Err()
	}
	r.mu.Lock()
	defer r.mu.Unlock()
	if r.view == nil {
		return huma.Error500InternalServerError("the search failed; the log of the server says why")
	}
	return nil
}

func (s *Server) proposal(r *run) (*Proposal, error) {
	old, err := s.now() // as a rule the shop is still the one the plan was made for
	if err == nil && old.revision != r.base {
		old, err = look(r.shop, r.base)
	}
	if err != nil {
		return nil, err
	}
	out := &Proposal{Run: r.now(), Round: r.view.round, Moves: []Move{}, Lost: []Lost{}}
	name := map[string]string{}
	for i := range out.Round.Items {
		after, before := &out.Round.Items[i], &old.round.Items[i]
		name[after.ID] = after.Name
		if samePieces(before, after) {
			continue
		}
		m := Move{Item: after.ID, Name: after.Name, From: before.Place, To: after.Place, Before: before.Seconds, After: after.Seconds}
		if after.Segment >= 0 {
			m.Wall = out.Round.Segments[after.Segment].ID
		}
		out.Moves = append(out.Moves, m)
	}
	sortMoves(out.Moves)
	for _, h := range r.plan.Homeless {
		out.Lost = append(out.Lost, Lost{h.Item, name[h.Item], h.Why, h.SmallestChange})
	}
	return out, nil
}

// samePieces tells whether an item stays where it is.
func samePieces(a, b *round.Item) bool {
	return a.Place == b.Place && slices.Equal(a.Pieces, b.Pieces)
}

func sortMoves(m []Move) {
	slices.SortStableFunc(m, func(a, b Move) int { return cmp.Compare(b.Before-b.After, a.Before-a.After) })
}
