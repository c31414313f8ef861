package api

import (
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"maps"
	"net/http"
	"slices"
	"strconv"
	"strings"
	"sync"
	"time"

	"github.com/danielgtaylor/huma/v2"

	"hobrak/internal/core/fit"
	"hobrak/internal/core/propose"
	"hobrak/internal/core/scene"
	"hobrak/internal/core/shop"
)

const (
	// keptRuns is how many plans are kept beside the shop as it stands; the oldest go.
	keptRuns = 12
	// waitingRuns is how many searches may wait for the one that runs.
	waitingRuns = 12
)

// run is one search for homes: waiting, going on or done. What is above the lock does not
// change once others see it.
type run struct {
	id       int64
	base     int64
	shop     *shop.Shop
	asked    *shop.Shop // the shop as it is wondered about or arranged in a mode; nil when it is the one that stands
	wishes   fit.Wishes
	stop     context.CancelFunc
	finished chan struct{}

	mu       sync.Mutex
	started  time.Time
	state    Run
	plan     *fit.Plan
	made     *propose.Proposal // with new storage; nil when only homes change
	watchers map[chan Run]bool

	looking sync.Mutex // apart from the state, which must not wait for it
	view    *view      // of the plan, made when it is first looked at
}

// asking is what a search is about.
type asking struct {
	title    string
	question string
	style    string
	arranged *shop.Shop
	mode     string
	wishes   fit.Wishes
}

// started gives the state of a run that was begun.
func (s *Server) started(r *run, err error) (*body[Run], error) {
	if err != nil {
		return nil, problem(err)
	}
	return &body[Run]{r.now()}, nil
}

func (s *Server) run(id string) (*run, error) {
	n, err := strconv.ParseInt(id, 10, 64)
	s.mu.Lock()
	defer s.mu.Unlock()
	if r, ok := s.runs[n]; ok && err == nil {
		return r, nil
	}
	return nil, huma.Error404NotFound(fmt.Sprintf("there is no plan %q; it was accepted, thrown away, or gave way to newer ones", id))
}

// all runs, oldest first.
func (s *Server) all() []Run {
	s.mu.Lock()
	runs := slices.Collect(maps.Values(s.runs))
	s.mu.Unlock()
	slices.SortFunc(runs, func(a, b *run) int { return int(a.id - b.id) })
	out := []Run{}
	for _, r := range runs {
		out = append(out, r.now())
	}
	return out
}

// drop forgets a plan for good.
func (s *Server) drop(ctx context.Context, r *run) {
	s.mu.Lock()
	delete(s.runs, r.id)
	s.mu.Unlock()
	if err := s.store.DropPlan(ctx, r.id); err != nil {
		s.log.Error("a plan that was thrown away stays in the database", "what", err)
	}
}

// begin a run: it waits until the searches before it are done.
func (s *Server) begin(ctx context.Context, a asking) (*run, context.Context, error) {
	sh, revision := s.store.Shop()
	s.mu.Lock()
	ahead := 0
	for _, r := range s.runs {
		if r.now().State != "done" {
			ahead++
		}
	}
	s.mu.Unlock()
	if ahead > waitingRuns {
		return nil, nil, huma.NewError(http.StatusServiceUnavailable, fmt.Sprintf("%d searches are waiting already. Stop some of them, or wait until they are done.", waitingRuns))
	}
	id, err := s.store.NewPlan(ctx, revision)
	if err != nil {
		return nil, nil, err
	}
	work, stop := context.WithCancel(s.life)
	r := &run{id: id, base: revision, shop: sh, asked: a.arranged, wishes: a.wishes, started: time.Now(), stop: stop, finished: make(chan struct{}), watchers: map[chan Run]bool{}}
	r.state = Run{ID: strconv.FormatInt(id, 10), Title: a.title, Question: a.question, Style: a.style, State: "waiting", Base: revision, Mode: a.mode, Modes: []InMode{}, Ahead: ahead, At: r.started.UTC().Format(time.RFC3339)}
	s.mu.Lock()
	defer s.mu.Unlock()
	s.runs[id] = r
	return r, work, nil
}

// inTurn does the work of a run when those before it are done. Time counts from then on.
func (s *Server) inTurn(r *run, ctx context.Context, limit time.Duration, work func(context.Context) error) {
	defer close(r.finished)
	defer r.stop()
	select {
	case s.turn <- struct{}{}:
		defer func() {
			<-s.turn
			s.moveUp()
		}()
	case <-ctx.Done():
		s.end(r, r.nothing())
		return
	}
	r.change(func(x *Run) { r.started, x.State, x.Ahead = time.Now(), "running", 0 })
	timed, cancel := context.WithTimeout(ctx, limit)
	defer cancel()
	s.end(r, work(timed))
}

// moveUp tells those who wait that there is one less before them.
func (s *Server) moveUp() {
	s.mu.Lock()
	runs := slices.Collect(maps.Values(s.runs))
	s.mu.Unlock()
	for _, r := range runs {
		if r.now().State == "waiting" {
			r.change(func(x *Run) { x.Ahead = max(0, x.Ahead-1) })
		}
	}
}

// end a run: what it found is kept, in the database as well, and the oldest plans give way.
func (s *Server) end(r *run, err error) {
	if err != nil {
		s.log.Error("a search failed", "id", r.id, "what", err)
		r.change(func(x *Run) { x.Failed = err.Error() })
	} else if err := s.keepPlan(r); err != nil {
		s.log.Error("a plan is not kept in the database", "id", r.id, "what", err)
	}
	r.change(func(x *Run) { x.State = "done" })
	s.mu.Lock()
	ids := slices.Sorted(maps.Keys(s.runs))
	var old []*run
	for _, id := range ids[:max(0, len(ids)-keptRuns)] {
		if s.runs[id].now().State == "done" {
			old = append(old, s.runs[id])
		}
	}
	s.mu.Unlock()
	for _, o := range old {
		s.drop(context.Background(), o)
	}
}

// search in the background.
func (s *Server) search(ctx context.Context, a asking, limit time.Duration, o fit.Options) (*run, error) {
	r, work, err := s.begin(ctx, a)
	if err != nil {
		return nil, err
	}
	go s.inTurn(r, work, limit, func(ctx context.Context) error { return s.fit(r, ctx, limit, o) })
	return r, nil
}

// answering is how long places for what has no home are looked for.
const answering = 1500 * time.Millisecond

// longest a proposal may take beyond the time it is given: what is begun is brought to an end.
const longest = 2 * time.Minute

// mostRevisions of a proposal, if there is time.
const mostRevisions = 10_000

// propose storage in the background.
func (s *Server) propose(ctx context.Context, limit time.Duration, o propose.Options) (*run, error) {
	sh, _ := s.store.Shop()
	a := asking{wishes: fit.WishesOf(sh)}
	for _, style := range propose.Styles() {
		if style.ID == o.Style {
			a.style, a.title = style.ID, style.Title
		}
	}
	r, work, err := s.begin(ctx, a)
	if err != nil {
		return nil, err
	}
	go s.inTurn(r, work, limit+longest, func(ctx context.Context) error {
		begun := time.Now()
		o.Spent = func() float64 { return time.Since(begun).Seconds() / limit.Seconds() }
		o.Done = func() bool { return ctx.Err() != nil }
		o.Progress = func(share float64, what string) {
			r.change(func(x *Run) { x.Share, x.Doing = share, what })
		}
		made, err := propose.Plan(r.shop, o)
		if err != nil {
			return err
		}
		if err := made.Plan.Contradiction(); err != nil {
			return err
		}
		r.mu.Lock()
		r.made, r.plan = made, made.Plan
		r.mu.Unlock()
		r.change(func(x *Run) {
			x.Before, x.Objective, x.Bound, x.Homeless, x.Share = made.Before, made.After, made.Plan.Bound, len(made.Homeless), 1
		})
		s.log.Info("propose", "style", o.Style, "made", len(made.Made), "before", made.Before, "after", made.After, "homeless", len(made.Homeless))
		return nil
	})
	return r, nil
}

func (s *Server) fit(r *run, ctx context.Context, limit time.Duration, o fit.Options) error {
	sh := r.arranged()
	begun := time.Now()
	o.Spent = func() float64 { return time.Since(begun).Seconds() / limit.Seconds() }
	// Somebody who stops waits for nothing; time that is up leaves some for the reasons.
	o.Hurry = func() bool { return errors.Is(ctx.Err(), context.Canceled) }
	e, err := r.problem(sh, o.Hurry)
	if errors.Is(err, fit.ErrStopped) {
		return r.nothing()
	}
	if err != nil {
		return err
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
	if err := plan.Contradiction(); err != nil {
		return err
	}
	searched := time.Now()
	if err := propose.Answer(sh, plan, func() bool { return o.Hurry() || time.Since(searched) > answering }); err != nil {
		s.log.Error("smallest changes", "what", err)
	}
	r.found(plan)
	if err := r.byModes(plan.Homes); err != nil {
		return err
	}
	s.log.Info("fit", "before", plan.Before, "objective", plan.Objective, "bound", plan.Bound, "homeless", len(plan.Homeless), "iterations", plan.Iterations)
	return nil
}

// problem homes are looked for in: the shop in all its modes by their hours, or as it stands.
func (r *run) problem(sh *shop.Shop, stop func() bool) (*fit.Problem, error) {
	if r.now().Mode != "" || r.asked != nil {
		return fit.NewUntil(sh, stop)
	}
	return fit.ByHours(sh, stop)
}

// byModes says what homes mean in each mode of the shop.
func (r *run) byModes(homes []shop.Home) error {
	if len(r.shop.Modes) == 0 || r.now().Question != "" {
		return nil
	}
	var ids []string
	for i := range r.shop.Modes {
		ids = append(ids, r.shop.Modes[i].ID)
	}
	scenes, err := scene.Of(r.shop, ids...)
	if err != nil {
		return err
	}
	mode := r.now().Mode
	list := []InMode{}
	for i := range scenes.All {
		x := &scenes.All[i]
		counts := mode == x.Mode || mode == "" && x.Share > 0 || mode == asItStands && x.Map == scenes.Base
		list = append(list, InMode{x.Mode, x.Name, x.Hours, x.Share, counts, x.Week(r.shop.Homes), x.Week(homes)})
	}
	r.change(func(x *Run) { x.Modes = list })
	return nil
}

// inMind says for which modes the homes of a plan were looked for.
func (r *run) inMind() string {
	var names []string
	for _, m := range r.now().Modes {
		if m.Counts {
			names = append(names, m.Name)
		}
	}
	if len(names) == 0 {
		return ""
	}
	return ", for " + strings.Join(names, " and ")
}

// found a plan.
func (r *run) found(plan *fit.Plan) {
	r.mu.Lock()
	r.plan = plan
	r.mu.Unlock()
	r.change(func(x *Run) {
		x.Before, x.Objective, x.Bound, x.Homeless, x.Share = plan.Before, plan.Objective, plan.Bound, len(plan.Homeless), 1
	})
}

// nothing was looked for: the plan is the shop as it stands.
func (r *run) nothing() error {
	e, err := fit.New(r.arranged())
	if err != nil {
		return err
	}
	cost := e.AsItStands()
	r.found(&fit.Plan{Homes: r.shop.Homes, Before: cost, Objective: cost})
	return nil
}

// arranged is the shop homes are looked for in.
func (r *run) arranged() *shop.Shop {
	if r.asked != nil {
		return r.asked
	}
	return r.shop
}

// planned is the shop with the plan.
func (r *run) planned() (*view, error) {
	r.looking.Lock()
	defer r.looking.Unlock()
	if r.view != nil {
		return r.view, nil
	}
	r.mu.Lock()
	plan, made := r.plan, r.made
	r.mu.Unlock()
	sh := plan.Apply(r.arranged())
	if made != nil {
		sh = made.Shop
	}
	v, err := look(sh, r.base)
	if err == nil {
		r.view = v
	}
	return v, err
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
	if r.plan == nil {
		return huma.Error500InternalServerError("The search failed; the log of the server says why.")
	}
	return nil
}

// keptPlan is a plan as the database has it.
type keptPlan struct {
	Run    Run               `json:"run"`
	Wishes fit.Wishes        `json:"wishes"`
	Plan   *fit.Plan         `json:"plan"`
	Asked  json.RawMessage   `json:"asked,omitempty"` // shop file
	Made   *propose.Proposal `json:"made,omitempty"`
	Shop   json.RawMessage   `json:"shop,omitempty"` // shop file with the new storage
}

func (s *Server) keepPlan(r *run) error {
	r.mu.Lock()
	k := keptPlan{Run: r.state, Wishes: r.wishes, Plan: r.plan, Made: r.made}
	r.mu.Unlock()
	k.Run.State = "done"
	if r.asked != nil {
		k.Asked = shop.Write(r.asked)
	}
	if k.Made != nil {
		k.Shop = shop.Write(k.Made.Shop)
	}
	doc, err := json.Marshal(k)
	if err != nil {
		return err
	}
	return s.store.KeepPlan(context.Background(), r.id, doc)
}

// remember the plans that were kept when the server last ran. What cannot be read any more
// is said in the log and left alone.
func (s *Server) remember(ctx context.Context) error {
	plans, err := s.store.Plans(ctx)
	if err != nil {
		return err
	}
	for _, p := range plans {
		r, err := s.remembered(ctx, p.ID, p.Base, p.Doc)
		if err != nil {
			s.log.Error("a kept plan cannot be read", "id", p.ID, "what", err)
			continue
		}
		s.runs[p.ID] = r
	}
	return nil
}

func (s *Server) remembered(ctx context.Context, id, base int64, doc []byte) (*run, error) {
	var k keptPlan
	if err := json.Unmarshal(doc, &k); err != nil {
		return nil, err
	}
	sh, err := s.store.At(ctx, base)
	if err != nil {
		return nil, err
	}
	k.Run.Modes = notNil(k.Run.Modes) // of a plan from before there were any
	r := &run{id: id, base: base, shop: sh, wishes: k.Wishes, state: k.Run, plan: k.Plan, made: k.Made, stop: func() {}, finished: make(chan struct{}), watchers: map[chan Run]bool{}}
	close(r.finished)
	if len(k.Asked) > 0 {
		if r.asked, err = shop.Read(k.Asked); err != nil {
			return nil, err
		}
	}
	if r.made != nil {
		r.made.Plan = k.Plan
		if r.made.Shop, err = shop.Read(k.Shop); err != nil {
			return nil, err
		}
	}
	if r.plan == nil {
		return nil, errors.New("there is no plan in it")
	}
	return r, nil
}
