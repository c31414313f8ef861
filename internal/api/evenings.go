package api

import (
	"context"
	"errors"
	"fmt"
	"net/http"
	"slices"
	"time"

	"github.com/danielgtaylor/huma/v2"

	"hobrak/internal/core/belongings"
	"hobrak/internal/core/event"
	"hobrak/internal/core/fit"
	"hobrak/internal/core/learn"
	"hobrak/internal/core/moves"
	"hobrak/internal/core/round"
	"hobrak/internal/core/shop"
	"hobrak/internal/store"
)

// The routes of moving: plans that are kept as targets, the evenings that lead to one, and what is ticked of them. Homes change when
// something was moved, not before.

func (s *Server) eveningRoutes() {
	listed(s, "targets", "target", func(sh *shop.Shop) []shop.Target { return sh.Targets }, func(x *shop.Target) string { return x.ID },
		func(*shop.Shop, *shop.Target, *struct{}) bool { return true })
	huma.Register(s.api, described(huma.Operation{OperationID: "keep-plan", Method: http.MethodPost, Path: "/api/v1/plans/{id}/keep", Summary: "Keep a plan as a target: homes stay as they are until each thing is moved", MaxBodyBytes: smallBody}), s.aimAt)
	huma.Register(s.api, described(huma.Operation{OperationID: "target-round", Method: http.MethodGet, Path: "/api/v1/targets/{id}/round", Summary: "The walls as a target has them"}), s.targetRound)
	huma.Register(s.api, described(huma.Operation{OperationID: "change-target", Method: http.MethodPatch, Path: "/api/v1/targets/{id}", Summary: "Say what a target is called, why, when it is judged, and whether it is carried out", MaxBodyBytes: smallBody}), s.changeTarget)
	huma.Register(s.api, described(huma.Operation{OperationID: "drop-target", Method: http.MethodDelete, Path: "/api/v1/targets/{id}", Summary: "Let a target go"}), s.dropTarget)
	huma.Register(s.api, described(huma.Operation{OperationID: "evenings", Method: http.MethodGet, Path: "/api/v1/evenings", Summary: "What is left to do for the target, an evening at a time"}), s.evenings)
	huma.Register(s.api, described(huma.Operation{OperationID: "tick-step", Method: http.MethodPost, Path: "/api/v1/evenings/steps", Summary: "A step was done: things are where it says from now on", MaxBodyBytes: smallBody}), s.tickStep)
	huma.Register(s.api, described(huma.Operation{OperationID: "leave-thing", Method: http.MethodPost, Path: "/api/v1/evenings/left", Summary: "Something is not moved after all: it stays where it is, and what is left is ordered anew", MaxBodyBytes: smallBody}), s.leaveThing)
	huma.Register(s.api, described(huma.Operation{OperationID: "pile", Method: http.MethodGet, Path: "/api/v1/pile", Summary: "A pile to go through, one thing after the other, and what is won so far"}), s.pile)
	huma.Register(s.api, described(huma.Operation{OperationID: "decide", Method: http.MethodPost, Path: "/api/v1/pile", Summary: "What is decided of a thing of a pile", MaxBodyBytes: smallBody}), s.decide)
	huma.Register(s.api, described(huma.Operation{OperationID: "best-use", Method: http.MethodGet, Path: "/api/v1/best-use", Summary: "The best use of some minutes, without any plan"}), s.bestUse)
}

// Aimed is a plan that is a target from now on.
type Aimed struct {
	Revision store.Revision `json:"revision"`
	ID       string         `json:"id" doc:"of the target"`
}

func freshTarget(sh *shop.Shop) string {
	for n := 1; ; n++ {
		id := fmt.Sprintf("t%d", n)
		if !slices.ContainsFunc(sh.Targets, func(t shop.Target) bool { return t.ID == id }) {
			return id
		}
	}
}

// goFor makes a target the one that is carried out. How things were is kept as one to go back to.
func goFor(sh *shop.Shop, id, today string) {
	if sh.Settings.Target == id {
		return
	}
	sh.Settings.Target = id
	if id == "" {
		return
	}
	was := moves.Aim(sh, sh, "As it was on "+today)
	was.Note, was.Made = "to go back to", today
	was.Storage, was.Places, was.Containers = true, slices.Clone(sh.Places), slices.Clone(sh.Containers)
	for i := range sh.Stations {
		st := &sh.Stations[i]
		was.Stations = append(was.Stations, shop.StationTarget{ID: st.ID, X: st.X, Y: st.Y, Rot: st.Rot, Stand: st.Stand})
	}
	if k := slices.IndexFunc(sh.Targets, func(t shop.Target) bool { return t.Name == was.Name }); k >= 0 {
		return // of this day there is one already: how it was in the morning
	}
	was.ID = freshTarget(sh)
	sh.Targets = append(sh.Targets, was)
}

func (s *Server) aimAt(ctx context.Context, in *struct {
	Match
	ID   string `path:"id"`
	Body struct {
		Name  string `json:"name" minLength:"1" maxLength:"60"`
		Note  string `json:"note,omitempty" maxLength:"2000"`
		Judge string `json:"judge,omitempty" maxLength:"10" doc:"day on which to judge it, as 2027-05-31"`
		Go    bool   `json:"go,omitempty" doc:"it is carried out from now on; else it is parked"`
		Taken
	}
}) (*body[Aimed], error) {
	if err := dayOrNone(in.Body.Judge, "body.judge"); err != nil {
		return nil, err
	}
	r, err := s.finished(ctx, in.ID)
	if err != nil {
		return nil, err
	}
	part, _, err := r.wanted(&in.Body.Taken)
	if err != nil {
		return nil, err
	}
	out := Aimed{}
	today := time.Now().Format(time.DateOnly)
	rev, err := s.store.Change(ctx, in.rev, who, "plan kept: "+in.Body.Name, func(sh *shop.Shop) error {
		then := sh.Clone()
		if r.made != nil {
			then.Places, then.Containers = r.made.Shop.Places, r.made.Shop.Containers
		}
		then.Homes = part.Homes
		t := moves.Aim(sh, then, in.Body.Name)
		t.ID, t.Note, t.Judge, t.Made = freshTarget(sh), in.Body.Note, in.Body.Judge, today
		if _, _, err := moves.Toward(sh, &t); err != nil {
			return huma.Error422UnprocessableEntity(err.Error(), &huma.ErrorDetail{Location: "path.id", Message: err.Error(), Value: in.ID})
		}
		sh.Targets = append(sh.Targets, t)
		if out.ID = t.ID; in.Body.Go {
			goFor(sh, t.ID, today)
		}
		return nil
	})
	if err != nil {
		return nil, problem(err)
	}
	s.drop(ctx, r)
	out.Revision = rev
	return &body[Aimed]{out}, nil
}

func dayOrNone(day, where string) error {
	if day == "" {
		return nil
	}
	if _, err := time.Parse(time.DateOnly, day); err != nil {
		return huma.Error422UnprocessableEntity("a day is written as 2027-05-31", &huma.ErrorDetail{Location: where, Message: "a day is written as 2027-05-31", Value: day})
	}
	return nil
}

// targetOf a shop by its id.
func targetOf(sh *shop.Shop, id string) (*shop.Target, error) {
	for i := range sh.Targets {
		if sh.Targets[i].ID == id {
			return &sh.Targets[i], nil
		}
	}
	return nil, huma.Error404NotFound("there is no plan "+id, &huma.ErrorDetail{Location: "path.id", Message: "there is no plan of this id", Value: id})
}

func (s *Server) changeTarget(ctx context.Context, in *struct {
	Match
	ID   string `path:"id"`
	Body struct {
		Name  *string `json:"name,omitempty" minLength:"1" maxLength:"60"`
		Note  *string `json:"note,omitempty" maxLength:"2000"`
		Judge *string `json:"judge,omitempty" maxLength:"10" doc:"day on which to judge it, as 2027-05-31; empty when it is not"`
		Go    *bool   `json:"go,omitempty" doc:"it is carried out from now on, or parked"`
		Again bool    `json:"again,omitempty" doc:"what was left out of it is in it again"`
	}
}) (*body[store.Revision], error) {
	if j := in.Body.Judge; j != nil {
		if err := dayOrNone(*j, "body.judge"); err != nil {
			return nil, err
		}
	}
	return revised(s.store.Change(ctx, in.rev, who, "plan "+in.ID, func(sh *shop.Shop) error {
		t, err := targetOf(sh, in.ID)
		if err != nil {
			return err
		}
		if in.Body.Name != nil {
			t.Name = *in.Body.Name
		}
		if in.Body.Note != nil {
			t.Note = *in.Body.Note
		}
		if in.Body.Judge != nil {
			t.Judge = *in.Body.Judge
		}
		if in.Body.Again {
			t.Left = nil
		}
		switch g := in.Body.Go; {
		case g == nil:
		case *g:
			goFor(sh, in.ID, time.Now().Format(time.DateOnly))
		case sh.Settings.Target == in.ID:
			sh.Settings.Target = ""
		}
		return nil
	}))
}

func (s *Server) dropTarget(ctx context.Context, in *struct {
	Match
	ID string `path:"id"`
}) (*body[store.Revision], error) {
	return revised(s.store.Change(ctx, in.rev, who, "plan "+in.ID+" let go", func(sh *shop.Shop) error {
		if _, err := targetOf(sh, in.ID); err != nil {
			return err
		}
		sh.Targets = slices.DeleteFunc(sh.Targets, func(t shop.Target) bool { return t.ID == in.ID })
		if sh.Settings.Target == in.ID {
			sh.Settings.Target = ""
		}
		return nil
	}))
}

// Evenings of a target.
type Evenings struct {
	Target string      `json:"target" doc:"id of the target; empty when none is carried out"`
	Name   string      `json:"name"`
	Gone   []string    `json:"gone" nullable:"false" doc:"what of the target there is no more, in words"`
	Left   []LeftThing `json:"left" nullable:"false" doc:"what was left out of it"`
	Why    string      `json:"why" doc:"why there is no plan; empty when there is one"`
	Plan   *moves.Plan `json:"plan,omitempty"`
}

func (s *Server) targetRound(_ context.Context, in *struct {
	ID string `path:"id"`
}) (*body[round.Round], error) {
	sh, _ := s.store.Snapshot()
	t, err := targetOf(sh, in.ID)
	if err != nil {
		return nil, err
	}
	then, _, err := moves.Toward(sh, t)
	if err != nil {
		return nil, huma.Error409Conflict(err.Error())
	}
	v, err := look(then, 0)
	if err != nil {
		return nil, problem(err)
	}
	return &body[round.Round]{*v.round}, nil
}

// LeftThing is not moved.
type LeftThing struct {
	Item string `json:"item"`
	Name string `json:"name"`
	Why  string `json:"why"`
}

func (s *Server) evenings(_ context.Context, in *struct {
	Minutes float64 `query:"minutes" minimum:"1" maximum:"600" default:"60" doc:"how long an evening is"`
	First   int     `query:"first" minimum:"0" maximum:"500" doc:"so many evenings are enough; all when left out"`
}) (*body[Evenings], error) {
	sh, _ := s.store.Snapshot()
	out := Evenings{Target: sh.Settings.Target, Gone: []string{}, Left: []LeftThing{}}
	if out.Target == "" {
		return &body[Evenings]{out}, nil
	}
	t, err := targetOf(sh, out.Target)
	if err != nil {
		return nil, err
	}
	out.Name = t.Name
	ix := shop.NewIndex(sh)
	for _, l := range t.Left {
		x := LeftThing{Item: l.Item, Name: l.Item, Why: l.Why}
		if it := ix.Item(l.Item); it != nil {
			x.Name = it.Name
		}
		out.Left = append(out.Left, x)
	}
	then, gone, err := moves.Toward(sh, t)
	out.Gone = append(out.Gone, gone...)
	if err != nil {
		out.Why = err.Error()
		return &body[Evenings]{out}, nil
	}
	o := moves.Options{Minutes: in.Minutes, Pace: sh.Settings.OwnPace(), First: in.First}
	for _, l := range t.Left {
		o.Leave = append(o.Leave, l.Item)
	}
	if out.Plan, err = moves.Of(sh, then, o); err != nil {
		return nil, huma.Error422UnprocessableEntity(err.Error(), &huma.ErrorDetail{Location: "query.minutes", Message: err.Error(), Value: in.Minutes})
	}
	on := map[string]string{}
	for _, a := range t.Aside {
		on[a.Item] = a.On
	}
	for i := range out.Plan.Evenings {
		for k := range out.Plan.Evenings[i].Steps {
			if x := &out.Plan.Evenings[i].Steps[k]; x.Do == moves.Carry && x.From == nil && x.FromOn == "" {
				x.FromOn = on[x.Item]
			}
		}
	}
	return &body[Evenings]{out}, nil
}

// StepDone step.
type StepDone struct {
	Revision store.Revision `json:"revision"`
	Pace     float64        `json:"pace" doc:"how much longer than usual things take here, as learned"`
}

// learning is how much one step counts for the pace, and the least and most it is taken for (estimates).
const (
	learning = .1
	quickest = .3
	slowest  = 4.0
)

func (s *Server) tickStep(ctx context.Context, in *struct {
	Match
	Body struct {
		Step moves.Step `json:"step"`
		Took float64    `json:"took,omitempty" minimum:"0" maximum:"600" doc:"minutes it took; not known when left out"`
	}
}) (*body[StepDone], error) {
	x := &in.Body.Step
	out := StepDone{}
	what := x.Name + " moved"
	if x.Do != moves.Carry {
		what = map[string]string{moves.Build: " built", moves.Shift: " shifted", moves.Clear: " taken down"}[x.Do]
		what = x.Name + what
	}
	rev, err := s.store.Change(ctx, in.rev, who, what, func(sh *shop.Shop) error {
		t, err := targetOf(sh, sh.Settings.Target)
		if err != nil {
			return huma.Error422UnprocessableEntity("no plan is carried out: choose one first", &huma.ErrorDetail{Location: "body.step", Message: "no plan is carried out"})
		}
		if err := tick(sh, t, x); err != nil {
			return huma.Error422UnprocessableEntity(err.Error(), &huma.ErrorDetail{Location: "body.step", Message: err.Error()})
		}
		if took := in.Body.Took; took > 0 && x.Minutes > 0 {
			p := sh.Settings.OwnPace()
			if ratio := p * took / x.Minutes; ratio >= quickest && ratio <= slowest {
				sh.Settings.Pace = min(5, max(.2, (1-learning)*p+learning*ratio))
			}
		}
		out.Pace = sh.Settings.OwnPace()
		return nil
	})
	if err != nil {
		return nil, problem(err)
	}
	e := event.Event{Who: who, What: event.Moved, Item: x.Item, N: x.Count, Note: what}
	if x.To != nil {
		e.Place = x.To.Place
	}
	if _, err := s.store.Happened(ctx, e); err != nil {
		s.log.Error("a move is in the shop but not among what happened", "what", err)
	}
	out.Revision = rev
	return &body[StepDone]{out}, nil
}

// tick does a step in the shop. The error says what is otherwise than it says.
func tick(sh *shop.Shop, t *shop.Target, x *moves.Step) error {
	if x.Do != moves.Carry {
		then, _, err := moves.Toward(sh, t)
		if err != nil {
			return err
		}
		if x.Parts > x.Part {
			return nil // only begun: it is there once it is done
		}
		*sh = *moves.Built(sh, then, x)
		return nil
	}
	ix := shop.NewIndex(sh)
	it := ix.Item(x.Item)
	if it == nil {
		return fmt.Errorf("%s is gone", x.Name)
	}
	h, err := fit.NewHands(sh)
	if err != nil {
		return err
	}
	k := -1
	homed := 0
	for j, held := range h.All() {
		if sh.Items[held.Item].ID != x.Item {
			continue
		}
		homed += held.N
		if x.From != nil && held.Home.Place == x.From.Place && moves.Same(&held.Home, x.From) {
			k = j
		}
	}
	switch {
	case x.Count < 1:
		return fmt.Errorf("say how many of %s were moved", it.Name)
	case x.From != nil && (k < 0 || h.Held(k).N < x.Count):
		return fmt.Errorf("%s is not in %s any more: the list is made anew", it.Name, x.From.Place)
	case x.From != nil && h.Under(k):
		return fmt.Errorf("something lies on %s: take that off first", it.Name)
	case x.From == nil && it.Number()-homed < x.Count:
		return fmt.Errorf("%s has a home already: the list is made anew", it.Name)
	}
	if x.To != nil {
		if ix.Place(x.To.Place) == nil {
			return fmt.Errorf("%s is not there yet", x.To.Place)
		}
		if k >= 0 {
			k = h.Split(k, x.Count)
		} else {
			k = h.Pick(slices.IndexFunc(sh.Items, func(i shop.Item) bool { return i.ID == x.Item }), x.Count)
		}
		if err := h.Lay(k, x.To); err != nil {
			return fmt.Errorf("%s does not go there: %w", it.Name, err)
		}
	}
	sh.Homes = moves.Done(sh.Homes, ix.Item, x)
	t.Aside = slices.DeleteFunc(t.Aside, func(a shop.Aside) bool { return a.Item == x.Item })
	if x.To == nil && x.On != "" {
		t.Aside = append(t.Aside, shop.Aside{Item: x.Item, N: x.Count, On: x.On})
	}
	return nil
}

func (s *Server) leaveThing(ctx context.Context, in *struct {
	Match
	Body struct {
		Item string `json:"item" minLength:"1" maxLength:"64"`
		Why  string `json:"why,omitempty" maxLength:"200" doc:"does not fit, was elsewhere, broke"`
	}
}) (*body[store.Revision], error) {
	return revised(s.store.Change(ctx, in.rev, who, "not moved: "+in.Body.Item, func(sh *shop.Shop) error {
		t, err := targetOf(sh, sh.Settings.Target)
		if err != nil {
			return huma.Error422UnprocessableEntity("no plan is carried out: choose one first")
		}
		if shop.NewIndex(sh).Item(in.Body.Item) == nil {
			return noItem(in.Body.Item)
		}
		t.Left = slices.DeleteFunc(t.Left, func(l shop.Left) bool { return l.Item == in.Body.Item })
		t.Left = append(t.Left, shop.Left{Item: in.Body.Item, Why: in.Body.Why})
		return nil
	}))
}

func (s *Server) bestUse(ctx context.Context, in *struct {
	Minutes float64 `query:"minutes" minimum:"1" maximum:"600" default:"40"`
}) (*body[[]moves.Worthwhile], error) {
	v, err := s.now()
	if err != nil {
		return nil, problem(err)
	}
	if in.Minutes < 5 {
		err := errors.New("in less than 5 minutes nothing is moved and put away: give it a little more")
		return nil, huma.Error422UnprocessableEntity(err.Error(), &huma.ErrorDetail{Location: "query.minutes", Message: err.Error(), Value: in.Minutes})
	}
	list, err := s.store.Outstanding(ctx)
	if err != nil {
		return nil, problem(err)
	}
	out := map[string]int{}
	for i := range list {
		if list[i].What == event.Taken {
			out[list[i].Item] += list[i].Number()
		}
	}
	v.mu.Lock()
	defer v.mu.Unlock()
	return &body[[]moves.Worthwhile]{moves.BestUse(v.byHours(), out, in.Minutes)}, nil
}

// GoneThrough is a pile.
type GoneThrough struct {
	Things []belongings.Piled `json:"things" nullable:"false" doc:"the largest first"`
	Won    belongings.Won     `json:"won" doc:"by what is to go, of all piles"`
}

func (s *Server) pile(ctx context.Context, in *struct {
	Of string `query:"of" maxLength:"64" default:"seldom" doc:"seldom, unopened, homeless, limbo, or the address of a place or container"`
}) (*body[GoneThrough], error) {
	sh, _ := s.store.Snapshot()
	seen, err := s.store.Seen(ctx, learn.Since(sh), time.Now())
	if err != nil {
		return nil, problem(err)
	}
	list, err := belongings.Pile(sh, in.Of, seen, time.Now())
	if err != nil {
		return nil, huma.Error422UnprocessableEntity(err.Error(), &huma.ErrorDetail{Location: "query.of", Message: err.Error(), Value: in.Of})
	}
	return &body[GoneThrough]{GoneThrough{list, belongings.Winning(sh)}}, nil
}

func (s *Server) decide(ctx context.Context, in *struct {
	Match
	Body struct {
		Item string `json:"item" minLength:"1" maxLength:"64"`
		What string `json:"what" enum:"keep,elsewhere,sell,give,burn,tip,friend,decide"`
		Day  string `json:"day,omitempty" maxLength:"10" doc:"by when to decide, as 2027-05-31"`
	}
}) (*body[store.Revision], error) {
	return revised(s.store.Change(ctx, in.rev, who, in.Body.Item+": "+in.Body.What, func(sh *shop.Shop) error {
		if err := belongings.Decide(sh, in.Body.Item, in.Body.What, in.Body.Day); err != nil {
			return huma.Error422UnprocessableEntity(err.Error(), &huma.ErrorDetail{Location: "body.what", Message: err.Error(), Value: in.Body.What})
		}
		return nil
	}))
}

// goings are what is on its way: for each thing that the target has elsewhere, in words.
func (v *view) goings() map[string]string {
	out := map[string]string{}
	t, err := targetOf(v.shop, v.shop.Settings.Target)
	if err != nil {
		return out
	}
	for _, l := range t.Left {
		out[l.Item] = ""
	}
	ix := v.asIs.Map().Index
	for i := range t.Homes {
		h := &t.Homes[i]
		if _, left := out[h.Item]; left || ix.Item(h.Item) == nil {
			continue
		}
		stays := false
		for _, o := range ix.Homes(h.Item) {
			stays = stays || moves.Same(o, h)
		}
		if !stays {
			out[h.Item] = "goes to " + h.Place
		}
	}
	for _, a := range t.Aside {
		says := "lies for a while on " + a.On
		if goes := out[a.Item]; goes != "" {
			says += ", " + goes
		}
		out[a.Item] = says
	}
	return out
}
