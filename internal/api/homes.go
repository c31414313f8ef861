package api

import (
	"context"
	"fmt"
	"hobrak/internal/core/fit"
	"hobrak/internal/core/keeping"
	"hobrak/internal/core/length"
	"hobrak/internal/core/propose"
	"hobrak/internal/core/reach"
	"hobrak/internal/core/shop"
	"hobrak/internal/store"
	"net/http"
	"slices"

	"github.com/danielgtaylor/huma/v2"
)

func (s *Server) homeRoutes() {
	huma.Register(s.api, described(huma.Operation{OperationID: "list-homes", Method: http.MethodGet, Path: "/api/v1/homes", Summary: "Where things live, as the shop file has it"}), s.listHomes)
	huma.Register(s.api, described(huma.Operation{OperationID: "try", Method: http.MethodPost, Path: "/api/v1/items/{id}/try", Summary: "May the item live there, and what would it cost?", MaxBodyBytes: smallBody}), s.try)
	huma.Register(s.api, described(huma.Operation{OperationID: "best", Method: http.MethodGet, Path: "/api/v1/items/{id}/best", Summary: "The best free home, nothing else moving"}), s.best)
	huma.Register(s.api, described(huma.Operation{OperationID: "admit", Method: http.MethodGet, Path: "/api/v1/items/{id}/admit", Summary: "The best home when at most so many others may move; of what is wished for, the one it would get"}), s.admit)
	huma.Register(s.api, described(huma.Operation{OperationID: "make-room", Method: http.MethodPost, Path: "/api/v1/items/{id}/admit", Summary: "Give it that home; at most so many others move", MaxBodyBytes: smallBody}), s.makeRoom)
	huma.Register(s.api, described(huma.Operation{OperationID: "why", Method: http.MethodGet, Path: "/api/v1/items/{id}/why", Summary: "Why an item lives where it does"}), s.explain)
	huma.Register(s.api, described(huma.Operation{OperationID: "give-home", Method: http.MethodPut, Path: "/api/v1/items/{id}/home", Summary: "Give an item a home", MaxBodyBytes: smallBody}), s.giveHome)
	huma.Register(s.api, described(huma.Operation{OperationID: "take-home", Method: http.MethodDelete, Path: "/api/v1/items/{id}/home", Summary: "Leave an item without a home"}), s.takeHome)
	huma.Register(s.api, described(huma.Operation{OperationID: "lock-home", Method: http.MethodPut, Path: "/api/v1/items/{id}/lock", Summary: "Let the homes of an item stay where they are in every plan, or not", MaxBodyBytes: smallBody}), s.lockHome)
}

// Spot is a wished home. Numbers are millimetres in the place; what they mean
// depends on its kind.
type Spot struct {
	Place string  `json:"place"`
	X     float64 `json:"x,omitempty" minimum:"-5000" maximum:"20000"`
	Y     float64 `json:"y,omitempty" minimum:"0" maximum:"20000"`
	Z     float64 `json:"z,omitempty" minimum:"0" maximum:"6000"`
	Rot   int     `json:"rot,omitempty" enum:"0,90"`
	Row   int     `json:"row,omitempty" minimum:"0" maximum:"1"`
	Slot  int     `json:"slot,omitempty" minimum:"0"`
	Level int     `json:"level,omitempty" minimum:"0"`
	Cols  int     `json:"cols,omitempty" minimum:"0"`
}

// Answer to the question whether an item may live at a spot.
type Answer struct {
	Allowed  bool    `json:"allowed"`
	Why      string  `json:"why" doc:"what forbids it"`
	Spot     Spot    `json:"spot" doc:"the spot, moved to a free one near it"`
	Here     float64 `json:"here" doc:"seconds a week there"`
	Now      float64 `json:"now" doc:"seconds a week as it stands"`
	Load     float64 `json:"load" doc:"kg the place would carry"`
	Capacity float64 `json:"capacity" doc:"kg it may carry, 0 when not rated"`
	Caution  string  `json:"caution"`
	// Front is left out where the front of the place does not show what is in it.
	Front *[4]float64 `json:"front,omitempty" doc:"what it would take of the front of the place: from the left, from below, width, height"`
}

// Why an item lives where it does.
type Why struct {
	Item    string       `json:"item"`
	Place   string       `json:"place"`
	Seconds float64      `json:"seconds" doc:"a week"`
	Uses    float64      `json:"uses"`
	Order   int          `json:"order"`
	Band    string       `json:"band"`
	Station string       `json:"station"`
	Parts   []reach.Part `json:"parts" nullable:"false" doc:"parts of one fetch"`
	Fetch   float64      `json:"fetch"`
	PutBack float64      `json:"put_back"`
	Caution string       `json:"caution"`
	Better  []Better     `json:"better" nullable:"false"`
	Path    [][2]float64 `json:"path" nullable:"false" doc:"walking line from the station"`
	Spot    *Spot        `json:"spot"`
}

// Better is a cheaper place and what bars it.
type Better struct {
	Place   string  `json:"place"`
	Seconds float64 `json:"seconds"`
	Barred  string  `json:"barred" doc:"empty when it is free"`
}

// itemNow finds an item in the newest view.
func (s *Server) itemNow(id string) (*view, int, error) {
	v, err := s.now()
	if err != nil {
		return nil, 0, problem(err)
	}
	i, ok := v.item[id]
	if !ok {
		return nil, 0, noItem(id)
	}
	return v, i, nil
}

// itemOwned is itemNow, and for what is wished for a view of the shop as if it were owned.
func (s *Server) itemOwned(id string) (*view, int, error) {
	v, i, err := s.itemNow(id)
	if err != nil || v.shop.Items[i].Needs() {
		return v, i, err
	}
	sh := v.shop.Clone()
	sh.Items[i].Status = ""
	c := &shop.Changes{}
	c.Note("items", id)
	if v, err = v.next(sh, v.revision, c); err != nil {
		return nil, 0, problem(err)
	}
	return v, i, nil
}

func noItem(id string) error {
	return huma.Error404NotFound(fmt.Sprintf("there is no item %q", id), &huma.ErrorDetail{Location: "path.id", Value: id})
}

// Attempt is a spot to be tried, or the point a thing is dropped at.
type Attempt struct {
	Spot
	At *[2]float64 `json:"at,omitempty" doc:"in place of the numbers of the spot: where its middle is dropped, along and up the front of the place"`
}

func (s *Server) try(_ context.Context, in *struct {
	ID   string `path:"id"`
	Body Attempt
}) (*body[Answer], error) {
	v, i, err := s.itemNow(in.ID)
	if err != nil {
		return nil, err
	}
	k := v.asIs.Map().PlaceNumber(in.Body.Place)
	if k < 0 {
		return nil, noPlace(in.Body.Place)
	}
	h := in.Body.home()
	if at := in.Body.At; at != nil {
		it, p := &v.shop.Items[i], &v.shop.Places[k]
		h = keeping.Of(p).Home(shop.Home{Place: p.ID}, p, it, keeping.Dropped(p, it, it.Number(), at[0], at[1]))
	}
	v.mu.Lock()
	defer v.mu.Unlock()
	return &body[Answer]{answer(v, i, v.asIs.Try(i, h))}, nil
}

func (s *Server) best(_ context.Context, in *byID) (*body[Answer], error) {
	v, i, err := s.itemNow(in.ID)
	if err != nil {
		return nil, err
	}
	v.mu.Lock()
	defer v.mu.Unlock()
	a, _ := v.byHours().Find(i)
	return &body[Answer]{answer(v, i, a)}, nil
}

func (s *Server) admit(_ context.Context, in *struct {
	ID     string `path:"id"`
	Others int    `query:"others" minimum:"0" maximum:"20" default:"2"`
}) (*body[Admitted], error) {
	v, i, err := s.itemOwned(in.ID)
	if err != nil {
		return nil, err
	}
	v.mu.Lock()
	a := v.byHours().Admit(i, in.Others)
	v.mu.Unlock()
	if !a.Found && a.Change == "" {
		if a.Change, err = propose.NewPlace(v.shop, &v.shop.Items[i]); err != nil {
			return nil, problem(err)
		}
	}
	return &body[Admitted]{v.admitted(a)}, nil
}

func (s *Server) makeRoom(ctx context.Context, in *struct {
	Match
	ID   string `path:"id"`
	Body struct {
		Others int `json:"others" minimum:"0" maximum:"20"`
	}
}) (*body[store.Revision], error) {
	v, i, err := s.itemNow(in.ID)
	if err != nil {
		return nil, err
	}
	if !v.shop.Items[i].Needs() {
		return nil, huma.Error422UnprocessableEntity(v.shop.Items[i].Name+" is wished for: say that it is owned before it gets a home", &huma.ErrorDetail{Location: "path.id", Value: in.ID})
	}
	v.mu.Lock()
	a := v.byHours().Admit(i, in.Body.Others)
	v.mu.Unlock()
	if !a.Found {
		return nil, huma.Error422UnprocessableEntity(a.Why, &huma.ErrorDetail{Location: "path.id", Message: a.Why, Value: in.ID})
	}
	moved := append([]string{in.ID}, a.Moved...)
	return revised(s.store.Change(ctx, in.rev, who, fmt.Sprintf("room made for %s", in.ID), func(sh *shop.Shop) error {
		sh.Homes = slices.DeleteFunc(sh.Homes, func(h shop.Home) bool { return slices.Contains(moved, h.Item) })
		sh.Homes = append(sh.Homes, a.Homes...)
		return nil
	}))
}

func (s *Server) explain(_ context.Context, in *byID) (*body[Why], error) {
	v, i, err := s.itemNow(in.ID)
	if err != nil {
		return nil, err
	}
	return &body[Why]{v.why(i)}, nil
}

func (s *Server) giveHome(ctx context.Context, in *struct {
	Match
	ID   string `path:"id"`
	Body struct {
		Spot
	}
}) (*body[store.Revision], error) {
	v, i, err := s.itemNow(in.ID)
	if err != nil {
		return nil, err
	}
	if v.asIs.Map().PlaceNumber(in.Body.Place) < 0 {
		return nil, noPlace(in.Body.Place)
	}
	// What the shop was when it was asked for may have changed: the store says so.
	if in.rev == v.revision {
		v.mu.Lock()
		a := v.asIs.Try(i, in.Body.home())
		v.mu.Unlock()
		if !a.Allowed {
			return nil, huma.Error422UnprocessableEntity(fmt.Sprintf("%s may not live in %s: %s", v.shop.Items[i].Name, in.Body.Place, a.Why), &huma.ErrorDetail{Location: "body.place", Message: a.Why, Value: in.Body.Place})
		}
		in.Body.Spot = spotOf(a.Home)
	}
	what := fmt.Sprintf("%s to %s", v.shop.Items[i].Name, in.Body.Place)
	return revised(s.store.Change(ctx, in.rev, who, what, func(sh *shop.Shop) error {
		h := in.Body.home()
		h.Item = in.ID
		leave(sh, in.ID)
		sh.Homes = append(sh.Homes, h)
		return nil
	}))
}

func (s *Server) takeHome(ctx context.Context, in *struct {
	ID string `path:"id"`
	Match
}) (*body[store.Revision], error) {
	v, i, err := s.itemNow(in.ID)
	if err != nil {
		return nil, err
	}
	it := &v.shop.Items[i]
	if in.rev == v.revision {
		v.mu.Lock()
		on := v.asIs.LyingOn(i)
		v.mu.Unlock()
		if on != "" {
			why := fit.Lies(on)
			return nil, huma.Error422UnprocessableEntity(it.Name+" stays: "+why, &huma.ErrorDetail{Location: "path.id", Message: why, Value: in.ID})
		}
	}
	return revised(s.store.Change(ctx, in.rev, who, it.Name+" without a home", func(sh *shop.Shop) error { leave(sh, in.ID); return nil }))
}

func (s *Server) lockHome(ctx context.Context, in *struct {
	Match
	ID   string `path:"id"`
	Body struct {
		Locked bool `json:"locked"`
	}
}) (*body[store.Revision], error) {
	v, i, err := s.itemNow(in.ID)
	if err != nil {
		return nil, err
	}
	what := v.shop.Items[i].Name + " unlocked"
	if in.Body.Locked {
		what = v.shop.Items[i].Name + " locked in place"
	}
	return revised(s.store.Change(ctx, in.rev, who, what, func(sh *shop.Shop) error {
		for k := range sh.Homes {
			if sh.Homes[k].Item == in.ID {
				sh.Homes[k].Locked = in.Body.Locked
			}
		}
		return nil
	}))
}

func noPlace(id string) error {
	return huma.Error422UnprocessableEntity(fmt.Sprintf("there is no place %q", id), &huma.ErrorDetail{Location: "body.place", Message: "there is no such place", Value: id})
}

// leave takes all homes of an item away.
func leave(sh *shop.Shop, item string) {
	kept := sh.Homes[:0]
	for _, h := range sh.Homes {
		if h.Item != item {
			kept = append(kept, h)
		}
	}
	sh.Homes = kept
}

// why explains where an item lives.
func (v *view) why(i int) Why {
	it := &v.shop.Items[i]
	w := Why{Item: it.ID, Uses: it.UsesPerWeek, Parts: []reach.Part{}, Better: []Better{}, Path: [][2]float64{}}
	v.mu.Lock()
	defer v.mu.Unlock()
	homes := v.asIs.Map().Index.Homes(it.ID)
	if len(homes) == 0 {
		w.Seconds = v.asIs.Seconds(i)
		a, ok := v.asIs.Find(i)
		if ok {
			w.Better = append(w.Better, Better{Place: a.Home.Place, Seconds: a.Here})
		}
		return w
	}
	h := homes[0]
	r := v.asIs.Explain(i, h)
	w.Place, w.Seconds, w.Order, w.Band, w.Station, w.Fetch, w.PutBack = h.Place, r.Seconds, r.Order, r.Band, r.Station, r.Fetch, r.PutBack
	sp := spotOf(*h)
	w.Spot = &sp
	if r.Parts != nil {
		w.Parts = r.Parts
	}
	if r.Lift.Caution || r.Lift.Barred {
		w.Caution = r.Lift.Why
	}
	for _, b := range r.Better {
		w.Better = append(w.Better, Better(b))
	}
	m := v.asIs.Map()
	u := m.UseOf(it)
	place := m.PlaceNumber(h.Place)
	if st := u.Stations(); len(st) > 0 {
		if p, ok := m.Path(st[0], place, keeping.GripOf(m.Index.Place(h.Place), it, h)); ok {
			for _, q := range p.Points {
				w.Path = append(w.Path, [2]float64{q.X, q.Y})
			}
		}
	}
	return w
}

func (sp Spot) home() shop.Home {
	return shop.Home{Place: sp.Place, X: length.MM(sp.X), Y: length.MM(sp.Y), Z: length.MM(sp.Z), Rot: sp.Rot, Row: sp.Row, Slot: sp.Slot, Level: sp.Level, Cols: sp.Cols}
}

func spotOf(h shop.Home) Spot {
	return Spot{Place: h.Place, X: h.X.MM(), Y: h.Y.MM(), Z: h.Z.MM(), Rot: h.Rot, Row: h.Row, Slot: h.Slot, Level: h.Level, Cols: h.Cols}
}

func answer(v *view, i int, a fit.Answer) Answer {
	out := Answer{Allowed: a.Allowed, Why: a.Why, Spot: spotOf(a.Home), Here: a.Here, Now: a.Now, Load: a.Load.KG(), Capacity: a.Room.KG(), Caution: a.Caution}
	if k := v.asIs.Map().PlaceNumber(a.Home.Place); a.Allowed && k >= 0 {
		if b, seen := keeping.Outlook(&v.shop.Places[k], &v.shop.Items[i], &a.Home); seen {
			out.Front = &[4]float64{b.X, b.Z, b.W, b.H}
		}
	}
	return out
}

// Admitted says where a thing would go when some others may move for it. Costs are
// seconds a week.
type Admitted struct {
	Found     bool      `json:"found"`
	Place     string    `json:"place" doc:"its home"`
	Moved     []Shifted `json:"moved" nullable:"false" doc:"what moves for it"`
	Seconds   float64   `json:"seconds" doc:"of it and of what moves, after"`
	Before    float64   `json:"before"`
	Why       string    `json:"why" doc:"why there is no home"`
	Change    string    `json:"change" doc:"the smallest change that would give it one"`
	More      float64   `json:"more" doc:"what would be gained on top if more might move"`
	MoreMoved int       `json:"more_moved"`
}

// Shifted is a thing that moves for another.
type Shifted struct {
	Item string `json:"item"`
	Name string `json:"name"`
	From string `json:"from"`
	To   string `json:"to"`
}

func (v *view) admitted(a fit.Admission) Admitted {
	out := Admitted{Found: a.Found, Moved: []Shifted{}, Seconds: a.Seconds, Before: a.Before, Why: a.Why, Change: a.Change, More: a.More, MoreMoved: a.MoreMoved}
	ix := v.asIs.Map().Index
	for i, h := range a.Homes {
		if i == 0 {
			out.Place = h.Place
			continue
		}
		from := ""
		if old := ix.Homes(h.Item); len(old) > 0 {
			from = old[0].Place
		}
		out.Moved = append(out.Moved, Shifted{h.Item, ix.Item(h.Item).Name, from, h.Place})
	}
	return out
}

func (s *Server) listHomes(_ context.Context, in *struct {
	Item  string `query:"item" maxLength:"64"`
	Place string `query:"place" maxLength:"64"`
}) (*body[[]shop.Home], error) {
	sh, _ := s.store.Snapshot()
	out := []shop.Home{}
	for i := range sh.Homes {
		if h := &sh.Homes[i]; asked(in.Item, h.Item) && asked(in.Place, h.Place) {
			out = append(out, *h)
		}
	}
	return &body[[]shop.Home]{out}, nil
}
