package api

import (
	"cmp"
	"context"
	"errors"
	"fmt"
	"net/http"
	"slices"
	"time"

	"github.com/danielgtaylor/huma/v2"
	"github.com/danielgtaylor/huma/v2/sse"

	"hobrak/internal/core/fit"
	"hobrak/internal/core/length"
	"hobrak/internal/core/propose"
	"hobrak/internal/core/round"
	"hobrak/internal/core/shop"
	"hobrak/internal/core/whatif"
	"hobrak/internal/store"
)

func (s *Server) planRoutes() {
	huma.Register(s.api, described(huma.Operation{OperationID: "plan-homes", Method: http.MethodPost, Path: "/api/v1/plans", Summary: "Look for better homes", MaxBodyBytes: smallBody, DefaultStatus: http.StatusAccepted}), s.planHomes)
	huma.Register(s.api, described(huma.Operation{OperationID: "few-moves", Method: http.MethodGet, Path: "/api/v1/plans/few-moves", Summary: "What few moves would bring, from none on"}), s.fewMoves)
	huma.Register(s.api, described(huma.Operation{OperationID: "list-plans", Method: http.MethodGet, Path: "/api/v1/plans", Summary: "The searches that wait or run, and the plans that are kept, oldest first"}), s.listPlans)
	huma.Register(s.api, described(huma.Operation{OperationID: "get-plan", Method: http.MethodGet, Path: "/api/v1/plans/{id}", Summary: "How far a search is"}), s.getPlan)
	huma.Register(s.api, described(huma.Operation{OperationID: "stop-plan", Method: http.MethodPost, Path: "/api/v1/plans/{id}/stop", Summary: "Stop with the best so far"}), s.stopPlan)
	huma.Register(s.api, described(huma.Operation{OperationID: "compare-plan", Method: http.MethodGet, Path: "/api/v1/plans/{id}/proposal", Summary: "The plan beside the shop as it stands"}), s.comparePlan)
	huma.Register(s.api, described(huma.Operation{OperationID: "accept-plan", Method: http.MethodPost, Path: "/api/v1/plans/{id}/accept", Summary: "Make the plan, or a part of it, the shop", MaxBodyBytes: 1 << 20}), s.acceptPlan)
	huma.Register(s.api, described(huma.Operation{OperationID: "plan-storage", Method: http.MethodPost, Path: "/api/v1/plans/storage", Summary: "Plan storage in a style, with a home for everything", MaxBodyBytes: smallBody, DefaultStatus: http.StatusAccepted}), s.planStorage)
	huma.Register(s.api, described(huma.Operation{OperationID: "what-if", Method: http.MethodPost, Path: "/api/v1/plans/what-if", Summary: "What it would cost if the shop were otherwise", MaxBodyBytes: smallBody, DefaultStatus: http.StatusAccepted}), s.whatIf)
	huma.Register(s.api, described(huma.Operation{OperationID: "plan-choices", Method: http.MethodGet, Path: "/api/v1/plans/choices", Summary: "What a search and a proposal can be told"}), s.planChoices)
	huma.Register(s.api, described(huma.Operation{OperationID: "contradictions", Method: http.MethodGet, Path: "/api/v1/plans/contradictions", Summary: "What no search can make right"}), s.contradictions)
	huma.Register(s.api, described(huma.Operation{OperationID: "discard-plan", Method: http.MethodDelete, Path: "/api/v1/plans/{id}", Summary: "Throw a plan away", DefaultStatus: http.StatusNoContent}), s.discardPlan)
	sse.Register(s.api, described(huma.Operation{OperationID: "watch-plan", Method: http.MethodGet, Path: "/api/v1/plans/{id}/stream", Summary: "The search as it goes on"}),
		map[string]any{"run": Run{}}, s.watchPlan)
}

// Run is how far a search is.
type Run struct {
	ID        string   `json:"id"`
	State     string   `json:"state" enum:"waiting,running,done"`
	Ahead     int      `json:"ahead" doc:"while it waits: how many searches are done before it"`
	Failed    string   `json:"failed" doc:"why the search failed; empty when it did not"`
	At        string   `json:"at" doc:"when it was started, RFC 3339"`
	Base      int64    `json:"base" doc:"revision it started from"`
	Before    float64  `json:"before" doc:"weekly handling as it stands"`
	Objective float64  `json:"objective" doc:"weekly handling of the best plan so far"`
	Bound     float64  `json:"bound" doc:"no plan for these places costs less; 0 until known"`
	Homeless  int      `json:"homeless"`
	Share     float64  `json:"share" doc:"share of the search that is done, 0 to 1"`
	Seconds   float64  `json:"seconds" doc:"how long it has been running"`
	Title     string   `json:"title" doc:"what it is, in words"`
	Style     string   `json:"style" doc:"of a plan with new storage; empty when only homes change"`
	Doing     string   `json:"doing" doc:"what is being placed"`
	Question  string   `json:"question" doc:"what if, in words; such a plan answers and is not taken over"`
	Mode      string   `json:"mode" doc:"for which mode homes are looked for; now: for the floor as it stands, empty: for all by their hours"`
	Modes     []InMode `json:"modes" nullable:"false" doc:"what the plan means in each mode of the floor; empty while it is looked for and in a shop without modes"`
}

// InMode is what a plan means in one mode.
type InMode struct {
	ID     string  `json:"id"`
	Name   string  `json:"name"`
	Hours  float64 `json:"hours" doc:"a week"`
	Share  float64 `json:"share" doc:"of the hours of all modes"`
	Counts bool    `json:"counts" doc:"whether homes were looked for with this mode in mind"`
	Before float64 `json:"before" doc:"weekly handling as things live now, were it always so"`
	After  float64 `json:"after" doc:"likewise with the plan"`
}

// asItStands is the mode of a search for the floor as it is now.
const asItStands = "now"

// Proposal is a plan beside the shop as it stands.
type Proposal struct {
	Run   Run               `json:"run"`
	Round *round.Round      `json:"round" doc:"the shop with the plan's homes"`
	Moves []Move            `json:"moves" nullable:"false" doc:"what gets another home, most seconds saved first"`
	Lost  []Lost            `json:"lost" nullable:"false" doc:"what found no home"`
	Table Compared          `json:"table" doc:"as it stands beside the plan"`
	Made  *propose.Proposal `json:"made,omitempty" doc:"new storage and what it takes to build it"`
}

// WishCosts of the wishes in seconds a week; the usual ones when left out.
type WishCosts struct {
	Together *float64 `json:"together,omitempty" minimum:"0" maximum:"1000" doc:"a family in one more place or case than one"`
	Dust     *float64 `json:"dust,omitempty" minimum:"0" maximum:"1000" doc:"a thing that gathers dust where dust gets at it"`
	Power    *float64 `json:"power,omitempty" minimum:"0" maximum:"1000" doc:"what charges where no outlet is near"`
	Show     *float64 `json:"show,omitempty" minimum:"0" maximum:"1000" doc:"a liked thing hidden behind a door or in a drawer"`
	Moving   *float64 `json:"moving,omitempty" minimum:"0" maximum:"1000" doc:"a thing that gets another home"`
	Reserve  *float64 `json:"reserve,omitempty" minimum:"0" maximum:"1000" doc:"a tenth of a place filled that was to be kept for growth"`
	Wall     *float64 `json:"wall,omitempty" minimum:"0" maximum:"1000" doc:"a square metre of wall whose storage is needed"`
	Order    *float64 `json:"order,omitempty" minimum:"0" maximum:"1000" doc:"a thing of a series that does not stand beside the next of it"`
}

// FitChoices are the ways of working storage is planned for, and the usual prices of
// the wishes.
type FitChoices struct {
	Styles []propose.Style `json:"styles" nullable:"false"`
	Usual  WishCosts       `json:"usual"`
}

func (p *WishCosts) wishes(s *shop.Shop) fit.Wishes {
	w := fit.WishesOf(s)
	for _, x := range []struct {
		from *float64
		to   *float64
	}{{p.Together, &w.Together}, {p.Dust, &w.Dust}, {p.Power, &w.Power}, {p.Show, &w.Show}, {p.Moving, &w.Moving}, {p.Reserve, &w.Reserve}, {p.Wall, &w.Wall}, {p.Order, &w.Order}} {
		if x.from != nil {
			*x.to = *x.from
		}
	}
	return w
}

// Taken is what of a plan is taken over; all of it when nothing is said.
type Taken struct {
	Walls  []string `json:"walls,omitempty" doc:"what the plan has on these walls"`
	Places []string `json:"places,omitempty" doc:"or in these places"`
	Items  []string `json:"items,omitempty" doc:"or these items"`
}

func (t *Taken) part() bool { return len(t.Walls)+len(t.Places)+len(t.Items) > 0 }

// Accepted plan or part of one.
type Accepted struct {
	store.Revision
	Moved int      `json:"moved"`
	Along []string `json:"along" nullable:"false" doc:"names of what was in the way and came along"`
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

// FewMoves is what so many moves bring. Times are seconds a week.
type FewMoves struct {
	Before float64    `json:"before" doc:"handling as it stands"`
	Points []FewPoint `json:"points" nullable:"false" doc:"from one move on; some numbers of moves may be left out, where fewer do as well"`
}

// FewPoint is a number of moves with what they bring.
type FewPoint struct {
	Moves    int     `json:"moves"`
	Handling float64 `json:"handling" doc:"after them"`
	Least    float64 `json:"least" doc:"no so few moves come to less"`
	Exact    bool    `json:"exact" doc:"no others bring more"`
	Name     string  `json:"name" doc:"of the thing that moves with this one"`
}

func (s *Server) fewMoves(_ context.Context, in *struct {
	Most int `query:"most" minimum:"1" maximum:"200" default:"30"`
}) (*body[FewMoves], error) {
	v, err := s.now()
	if err != nil {
		return nil, problem(err)
	}
	c := v.asIs.Curve(in.Most, fit.Options{})
	ix := shop.NewIndex(v.shop)
	out := FewMoves{Before: c.Points[0].Handling, Points: []FewPoint{}}
	for _, x := range c.Points[1:] {
		out.Points = append(out.Points, FewPoint{x.Moves, x.Handling, x.Least, x.Exact, ix.Item(x.Items[len(x.Items)-1]).Name})
	}
	return &body[FewMoves]{out}, nil
}

func (s *Server) planHomes(ctx context.Context, in *body[HomesWanted]) (*body[Run], error) {
	sh, _ := s.store.Shop()
	wishes := in.Body.Wishes.wishes(sh)
	ix := shop.NewIndex(sh)
	for i, id := range in.Body.Items {
		if ix.Item(id) == nil {
			return nil, huma.Error422UnprocessableEntity(fmt.Sprintf("there is no item %q", id), &huma.ErrorDetail{Location: fmt.Sprintf("body.items[%d]", i), Value: id})
		}
	}
	var arranged *shop.Shop
	mode := in.Body.Mode
	if mode == "" && len(sh.Modes) == 0 {
		mode = asItStands
	}
	if mode != "" && mode != asItStands {
		var err error
		if arranged, err = sh.InMode(in.Body.Mode); err != nil {
			return nil, huma.Error422UnprocessableEntity(err.Error(), &huma.ErrorDetail{Location: "body.mode", Message: err.Error(), Value: in.Body.Mode})
		}
	}
	title := "Homes only"
	if n := in.Body.Moves; n == 1 {
		title = "One move"
	} else if n > 1 {
		title = fmt.Sprintf("%d moves", n)
	}
	if mode == "" && in.Body.Moves == 0 {
		title = "Homes, all modes"
	}
	if i := slices.IndexFunc(sh.Modes, func(m shop.Mode) bool { return m.ID == in.Body.Mode }); i >= 0 && in.Body.Moves == 0 {
		title = "Homes, " + sh.Modes[i].Name
	}
	limit := time.Duration(in.Body.Seconds * float64(time.Second))
	if in.Body.Moves > 0 { // so many moves are so many: it takes what it takes
		limit = max(limit, longest)
	}
	return s.started(s.search(ctx, asking{title: title, arranged: arranged, mode: mode, wishes: wishes}, limit, fit.Options{Seed: in.Body.Seed, Moves: in.Body.Moves, KeepHomes: in.Body.KeepHomes, Wishes: &wishes, Items: in.Body.Items}))
}

func (s *Server) listPlans(_ context.Context, _ *struct{}) (*body[[]Run], error) {
	return &body[[]Run]{s.all()}, nil
}

func (s *Server) getPlan(_ context.Context, in *byID) (*body[Run], error) {
	r, err := s.run(in.ID)
	if err != nil {
		return nil, err
	}
	return &body[Run]{r.now()}, nil
}

func (s *Server) stopPlan(ctx context.Context, in *byID) (*body[Run], error) {
	r, err := s.run(in.ID)
	if err != nil {
		return nil, err
	}
	r.stop()
	if err := r.wait(ctx); err != nil {
		return nil, err
	}
	return &body[Run]{r.now()}, nil
}

func (s *Server) comparePlan(ctx context.Context, in *byID) (*body[Proposal], error) {
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
}

// finished is a run of which the search has ended.
func (s *Server) finished(ctx context.Context, id string) (*run, error) {
	r, err := s.run(id)
	if err != nil {
		return nil, err
	}
	return r, r.wait(ctx)
}

// wanted is take of a plan that can be carried out: none that answers a question, and one with new storage as a whole.
func (r *run) wanted(t *Taken) (fit.Part, int, error) {
	if q := r.now().Question; q != "" {
		return fit.Part{}, 0, huma.Error422UnprocessableEntity("this plan answers a question ("+q+"); change the shop itself and fit again", &huma.ErrorDetail{Location: "path.id", Value: fmt.Sprint(r.id)})
	}
	if r.made != nil && t.part() {
		return fit.Part{}, 0, huma.Error422UnprocessableEntity("a plan with new storage is taken over as a whole", &huma.ErrorDetail{Location: "body"})
	}
	part, n, err := r.take(t)
	if err != nil {
		return part, n, problem(err)
	}
	return part, n, nil
}

func (s *Server) acceptPlan(ctx context.Context, in *struct {
	Match
	ID   string `path:"id"`
	Body Taken
}) (*body[Accepted], error) {
	r, err := s.finished(ctx, in.ID)
	if err != nil {
		return nil, err
	}
	if err := s.store.Fresh(ctx, in.rev); err != nil {
		return nil, problem(err)
	}
	part, moved, err := r.wanted(&in.Body)
	if err != nil {
		return nil, err
	}
	what := fmt.Sprintf("plan %d accepted", r.id)
	if in.Body.part() {
		what = fmt.Sprintf("part of plan %d accepted", r.id)
	}
	what += r.inMind()
	// On the revision the plan was made on: the store refuses it if the shop moved on.
	rev, err := s.store.Change(ctx, r.base, who, what, func(sh *shop.Shop) error {
		if r.made != nil {
			sh.Places, sh.Containers, sh.Modes = r.made.Shop.Places, r.made.Shop.Containers, r.made.Shop.Modes
		}
		sh.Homes = part.Homes
		return nil
	})
	if err != nil {
		return nil, problem(err)
	}
	s.drop(ctx, r)
	return &body[Accepted]{Accepted{rev, moved, notNil(part.Along)}}, nil
}

func (s *Server) planStorage(ctx context.Context, in *body[StorageWanted]) (*body[Run], error) {
	if sh, _ := s.store.Shop(); in.Body.Budget.Money != nil && sh.Settings.Prices == nil {
		return nil, wrong("budget.money", fmt.Sprint(*in.Body.Budget.Money), errors.New("nothing is said yet about what sheet and rail cost: say that first, or leave the money out"))
	}
	return s.started(s.propose(ctx, time.Duration(in.Body.Seconds*float64(time.Second)), propose.Options{Style: in.Body.Style, Bare: in.Body.Bare, Kept: in.Body.Kept, Budget: in.Body.Budget, Revisions: mostRevisions, Seed: 1}))
}

func (s *Server) whatIf(ctx context.Context, in *body[Wondered]) (*body[Run], error) {
	sh, _ := s.store.Shop()
	c := in.Body.Change
	if in.Body.Stature != "" {
		l, err := length.Parse(in.Body.Stature, sh.Settings.Units)
		if err != nil {
			return nil, huma.Error422UnprocessableEntity(err.Error(), &huma.ErrorDetail{Location: "body.stature", Message: err.Error(), Value: in.Body.Stature})
		}
		c.Stature = l
	}
	next, says, err := whatif.Apply(sh, c)
	if err == nil {
		err = next.Validate()
	}
	if err != nil {
		return nil, huma.Error422UnprocessableEntity(err.Error(), &huma.ErrorDetail{Location: "body", Message: err.Error()})
	}
	return s.started(s.search(ctx, asking{title: "What if: " + says, question: says, arranged: next, wishes: fit.WishesOf(next)}, time.Duration(in.Body.Seconds*float64(time.Second)), fit.Options{Seed: 1}))
}

func (s *Server) planChoices(_ context.Context, _ *struct{}) (*body[FitChoices], error) {
	sh, _ := s.store.Shop()
	w := fit.WishesOf(sh)
	return &body[FitChoices]{FitChoices{propose.Styles(), WishCosts{&w.Together, &w.Dust, &w.Power, &w.Show, &w.Moving, &w.Reserve, &w.Wall, &w.Order}}}, nil
}

func (s *Server) contradictions(_ context.Context, _ *struct{}) (*body[[]fit.Contradiction], error) {
	v, err := s.now()
	if err != nil {
		return nil, problem(err)
	}
	v.mu.Lock()
	defer v.mu.Unlock()
	return &body[[]fit.Contradiction]{v.asIs.Contradictions()}, nil
}

func (s *Server) discardPlan(ctx context.Context, in *byID) (*struct{}, error) {
	r, err := s.run(in.ID)
	if err != nil {
		return nil, err
	}
	r.stop()
	s.drop(ctx, r)
	return nil, nil
}

func (s *Server) watchPlan(ctx context.Context, in *byID, send sse.Sender) {
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
}

func (s *Server) proposal(r *run) (*Proposal, error) {
	old, err := s.now() // as a rule the shop is still the one the plan was made for
	switch {
	case err != nil:
	case r.asked != nil && r.now().Question == "": // in a mode: so is what it is compared with
		old, err = look(r.asked, r.base)
	case old.revision != r.base:
		old, err = look(r.shop, r.base)
	}
	if err != nil {
		return nil, err
	}
	v, err := r.planned()
	if err != nil {
		return nil, err
	}
	out := &Proposal{Run: r.now(), Round: v.round, Moves: []Move{}, Lost: []Lost{}, Made: r.made}
	name := map[string]string{}
	for i := range out.Round.Items {
		after, before := &out.Round.Items[i], &old.round.Items[i]
		name[after.ID] = after.Name
		if samePieces(before, after) {
			continue
		}
		m := Move{Item: after.ID, Name: after.Name, From: before.Place, To: after.Place, Before: before.Seconds, After: after.Seconds}
		if after.Elevation >= 0 {
			m.Wall = out.Round.Elevations[after.Elevation].ID
		}
		out.Moves = append(out.Moves, m)
	}
	sortMoves(out.Moves)
	out.Table = r.compared(old, v)
	for _, h := range r.plan.Homeless {
		out.Lost = append(out.Lost, Lost{h.Item, name[h.Item], h.Why, h.SmallestChange})
	}
	return out, nil
}

// take works out the part of the plan that is wanted, with the names of what comes along.
func (r *run) take(t *Taken) (fit.Part, int, error) {
	if !t.part() {
		return fit.Part{Homes: r.plan.Homes}, len(r.plan.Homes), nil
	}
	e, err := fit.New(r.shop)
	if err != nil {
		return fit.Part{}, 0, err
	}
	v, err := r.planned()
	if err != nil {
		return fit.Part{}, 0, err
	}
	wanted := map[string]bool{}
	for i := range v.round.Items {
		it := &v.round.Items[i]
		wall := ""
		if it.Elevation >= 0 {
			wall = v.round.Elevations[it.Elevation].ID
		}
		wanted[it.ID] = slices.Contains(t.Items, it.ID) || slices.Contains(t.Places, it.Place) || wall != "" && slices.Contains(t.Walls, wall)
	}
	part := e.Part(r.plan.Homes, func(id string) bool { return wanted[id] })
	moved := len(part.Along)
	for _, yes := range wanted {
		if yes {
			moved++
		}
	}
	ix := shop.NewIndex(r.shop)
	for i, id := range part.Along {
		part.Along[i] = ix.Item(id).Name
	}
	return part, moved, nil
}

// samePieces tells whether an item stays where it is.
func samePieces(a, b *round.Item) bool {
	return a.Place == b.Place && slices.Equal(a.Pieces, b.Pieces)
}

func sortMoves(m []Move) {
	slices.SortStableFunc(m, func(a, b Move) int { return cmp.Compare(b.Before-b.After, a.Before-a.After) })
}

// HomesWanted is what a search for homes is given.
type HomesWanted struct {
	Seconds   float64   `json:"seconds,omitempty" minimum:"0.1" maximum:"600" default:"2"`
	Seed      uint64    `json:"seed,omitempty" default:"1"`
	KeepHomes bool      `json:"keep_homes,omitempty"`
	Wishes    WishCosts `json:"wishes,omitempty"`
	Moves     int       `json:"moves,omitempty" minimum:"0" maximum:"5000" doc:"how many things may move at most; all when left out"`
	Items     []string  `json:"items,omitempty" maxItems:"5000" doc:"the only ones that get other homes; all when left out"`
	Mode      string    `json:"mode,omitempty" maxLength:"64" doc:"mode of the floor in which things are to be got at; now: as it stands; all modes by their hours when left out"`
}

// StorageWanted is what a proposal of storage is given.
type StorageWanted struct {
	Style string   `json:"style" enum:"open,closed,mobile,yours"`
	Bare  bool     `json:"bare,omitempty" doc:"take down what there is first"`
	Kept  []string `json:"kept,omitempty" maxItems:"500" doc:"but for these places and containers"`
	// Seconds given to take some of it down again and put it up otherwise, as often as there is time for.
	Seconds float64        `json:"seconds,omitempty" minimum:"0.1" maximum:"600" default:"30"`
	Budget  propose.Budget `json:"budget,omitempty"`
}

// Wondered is a change that is wondered about.
type Wondered struct {
	whatif.Change
	Stature string  `json:"stature,omitempty" maxLength:"40" doc:"of who uses the shop, as typed"`
	Seconds float64 `json:"seconds,omitempty" minimum:"0.1" maximum:"60" default:"3"`
}
