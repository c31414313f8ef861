package api

import (
	"context"
	"errors"
	"fmt"
	"net/http"
	"slices"
	"strings"
	"time"

	"github.com/danielgtaylor/huma/v2"

	"hobrak/internal/core/daily"
	"hobrak/internal/core/event"
	"hobrak/internal/core/gather"
	"hobrak/internal/core/learn"
	"hobrak/internal/core/shop"
	"hobrak/internal/store"
)

// The routes of the day: what is taken, put back and lent, what is wanted for a task, the round in the evening.

func (s *Server) dailyRoutes() {
	huma.Register(s.api, described(huma.Operation{OperationID: "tap", Method: http.MethodPost, Path: "/api/v1/taps", Summary: "Take, put back, lend or return things, boxes and kits", DefaultStatus: http.StatusCreated, MaxBodyBytes: smallBody}), s.tap)
	huma.Register(s.api, described(huma.Operation{OperationID: "list-out", Method: http.MethodGet, Path: "/api/v1/out", Summary: "What is out of its home, what has been longest first"}), s.listOut)
	huma.Register(s.api, described(huma.Operation{OperationID: "needs", Method: http.MethodGet, Path: "/api/v1/needs", Summary: "What is fetched together: kits, what stations need, what projects are promised"}), s.needs)
	huma.Register(s.api, described(huma.Operation{OperationID: "gather", Method: http.MethodGet, Path: "/api/v1/gather", Summary: "The shortest round over things that are fetched"}), s.gather)
	huma.Register(s.api, described(huma.Operation{OperationID: "closing", Method: http.MethodGet, Path: "/api/v1/closing", Summary: "The round in the evening: what is put back, what must be off"}), s.closing)
	huma.Register(s.api, described(huma.Operation{OperationID: "guards", Method: http.MethodGet, Path: "/api/v1/guards", Summary: "Protective gear, first aid and what is to be inspected, where it is not as it should be"}), s.guards)
	huma.Register(s.api, described(huma.Operation{OperationID: "habits", Method: http.MethodGet, Path: "/api/v1/habits", Summary: "What the days teach: what lands on the bench, what gathers dust near, what is used and far"}), s.habits)
	listed(s, "kits", "kit", func(sh *shop.Shop) []shop.Kit { return sh.Kits }, func(x *shop.Kit) string { return x.ID }, func(*shop.Shop, *shop.Kit, *struct{}) bool { return true })
	huma.Register(s.api, described(huma.Operation{OperationID: "put-kit", Method: http.MethodPut, Path: "/api/v1/kits/{id}", Summary: "Make a kit, or say anew what belongs to it", MaxBodyBytes: smallBody}), s.putKit)
	huma.Register(s.api, described(huma.Operation{OperationID: "drop-kit", Method: http.MethodDelete, Path: "/api/v1/kits/{id}", Summary: "Let a kit go: its things stay"}), s.dropKit)
}

// Tapped is what a press came to.
type Tapped struct {
	Events []event.Event `json:"events" nullable:"false"`
	Says   string        `json:"says"`
}

// longestAgo is how far back a press may have been made that comes only now.
const longestAgo = 60 * 24 * time.Hour

func (s *Server) tap(ctx context.Context, in *struct {
	Body struct {
		daily.Tap
		Key    string  `json:"key,omitempty" maxLength:"64" doc:"of this press alone: sent again, because the answer was lost, it counts once"`
		Ago    float64 `json:"ago,omitempty" minimum:"0" doc:"seconds since it was pressed, by the clock it was pressed at; so a clock that is wrong does no harm"`
		Device string  `json:"device,omitempty" maxLength:"100"`
	}
}) (*body[Tapped], error) {
	b := &in.Body
	at := time.Now().Add(-min(longestAgo, time.Duration(b.Ago*float64(time.Second))))
	sh, _ := s.store.Snapshot()
	list, err := s.store.Tap(ctx, b.Key, at, func(out event.Log) ([]event.Event, error) {
		list, err := daily.Events(sh, &b.Tap, out)
		for i := range list {
			list[i].Who, list[i].Device = who, b.Device
		}
		return list, err
	})
	var refused *daily.Refused
	var wrong *store.EventError
	switch {
	case errors.As(err, &refused):
		return nil, huma.Error409Conflict(refused.Why, &huma.ErrorDetail{Location: "body.items", Message: refused.Why, Value: refused.Item})
	case errors.As(err, &wrong):
		return nil, huma.Error422UnprocessableEntity(wrong.Reason, &huma.ErrorDetail{Location: "body." + wrong.Field, Message: wrong.Reason})
	case err != nil:
		return nil, problem(err)
	}
	return &body[Tapped]{Tapped{list, tappedWords(shop.NewIndex(sh), list)}}, nil
}

// tappedWords says what a press came to.
func tappedWords(ix *shop.Index, list []event.Event) string {
	if len(list) == 0 {
		return "Noted."
	}
	verb := map[event.Kind]string{event.Taken: "taken", event.PutBack: "put back", event.Lent: "lent", event.Returned: "returned", event.Used: "used", event.Laid: "laid down for now"}[list[0].What]
	if len(list) > 3 {
		return fmt.Sprintf("%d things %s.", len(list), verb)
	}
	var names []string
	for i := range list {
		name := list[i].Item
		if it := ix.Item(list[i].Item); it != nil {
			name = it.Name
		}
		if n := list[i].Number(); n > 1 {
			name = fmt.Sprintf("%d × %s", n, name)
		}
		names = append(names, name)
	}
	text := strings.Join(names, ", ") + " " + verb
	if to := list[0].To; to != "" && list[0].What == event.Lent {
		text += " to " + to
	}
	return text + "."
}

// OutNow is what is out of its home.
type OutNow struct {
	event.Event
	Name    string `json:"name"`
	Home    string `json:"home" doc:"place it lives in; empty without one"`
	Days    int    `json:"days" doc:"since when"`
	Overdue bool   `json:"overdue" doc:"it was to be back by now"`
	Caution string `json:"caution" doc:"what goes with it: it is sharp, it is not for children; empty when nothing"`
}

func (s *Server) listOut(ctx context.Context, _ *struct{}) (*body[[]OutNow], error) {
	list, err := s.store.Outstanding(ctx)
	if err != nil {
		return nil, problem(err)
	}
	v, err := s.now()
	if err != nil {
		return nil, problem(err)
	}
	out := []OutNow{}
	for i := range list {
		out = append(out, v.outNow(&list[i]))
	}
	return &body[[]OutNow]{out}, nil
}

func (s *Server) needs(_ context.Context, _ *struct{}) (*body[[]daily.Needed], error) {
	sh, _ := s.store.Snapshot()
	return &body[[]daily.Needed]{daily.Need(sh)}, nil
}

func (s *Server) gather(_ context.Context, in *struct {
	Of    string   `query:"of" maxLength:"80" doc:"a kit, station or project, as in the list of what is needed: kit:k1, station:bench, project:skiff"`
	Items []string `query:"items" maxItems:"100" doc:"ids of things; with x and a number, how many: f-clamp-600x4"`
	From  string   `query:"from" maxLength:"64" doc:"station one is at; the main door when left out"`
}) (*body[gather.Round], error) {
	v, err := s.now()
	if err != nil {
		return nil, problem(err)
	}
	var wants []gather.Want
	if in.Of != "" {
		of, id, _ := strings.Cut(in.Of, ":")
		all := daily.Need(v.shop)
		k := slices.IndexFunc(all, func(n daily.Needed) bool { return n.Of == of && n.ID == id })
		if k < 0 {
			return nil, huma.Error422UnprocessableEntity(fmt.Sprintf("nothing is known of what %q needs", in.Of), &huma.ErrorDetail{Location: "query.of", Message: "there is no such kit, station or project", Value: in.Of})
		}
		wants = all[k].Items
	}
	ix := shop.NewIndex(v.shop)
	for _, text := range in.Items {
		w := gather.Want{Item: text, N: 1}
		if ix.Item(text) == nil {
			if k := strings.LastIndexByte(text, 'x'); k > 0 {
				if _, err := fmt.Sscanf(text[k+1:], "%d", &w.N); err == nil {
					w.Item = text[:k]
				}
			}
			if ix.Item(w.Item) == nil {
				return nil, noItem(text)
			}
		}
		wants = append(wants, w)
	}
	return &body[gather.Round]{gather.Walk(v.asIs.Map(), in.From, wants)}, nil
}

func (s *Server) closing(ctx context.Context, _ *struct{}) (*body[gather.Round], error) {
	v, err := s.now()
	if err != nil {
		return nil, problem(err)
	}
	out, err := s.store.Outstanding(ctx)
	if err != nil {
		return nil, problem(err)
	}
	return &body[gather.Round]{daily.Closing(v.asIs.Map(), out)}, nil
}

func (s *Server) guards(ctx context.Context, _ *struct{}) (*body[[]daily.Guard], error) {
	out, err := s.store.Outstanding(ctx)
	if err != nil {
		return nil, problem(err)
	}
	missing, err := s.store.StillMissing(ctx)
	if err != nil {
		return nil, problem(err)
	}
	sh, _ := s.store.Snapshot()
	return &body[[]daily.Guard]{daily.Guards(sh, out, missing, today())}, nil
}

func (s *Server) habits(ctx context.Context, _ *struct{}) (*body[daily.Habits], error) {
	v, err := s.now()
	if err != nil {
		return nil, problem(err)
	}
	now := today()
	seen, err := s.store.Seen(ctx, learn.Since(v.shop), now)
	if err != nil {
		return nil, problem(err)
	}
	stayed, err := s.store.Stayed(ctx, now.AddDate(-1, 0, 0).Format(time.DateOnly))
	if err != nil {
		return nil, problem(err)
	}
	v.mu.Lock()
	defer v.mu.Unlock()
	return &body[daily.Habits]{daily.Learned(v.asIs, stayed, seen, now)}, nil
}

func (s *Server) putKit(ctx context.Context, in *struct {
	Match
	ID   string `path:"id" minLength:"1" maxLength:"64" pattern:"^[a-z0-9-]+$"`
	Body struct {
		Name  string         `json:"name" minLength:"1" maxLength:"60"`
		Items []shop.KitItem `json:"items" maxItems:"500"`
		Drops []string       `json:"drops,omitempty" maxItems:"50" doc:"stations at which it is put down, when it travels"`
		Notes string         `json:"notes,omitempty" maxLength:"2000"`
	}
}) (*body[store.Revision], error) {
	return revised(s.store.Change(ctx, in.rev, who, "kit: "+short(in.Body.Name), func(sh *shop.Shop) error {
		ix := shop.NewIndex(sh)
		for i, x := range in.Body.Items {
			if ix.Item(x.Item) == nil {
				return huma.Error422UnprocessableEntity(fmt.Sprintf("there is no thing %q", x.Item), &huma.ErrorDetail{Location: fmt.Sprintf("body.items[%d]", i), Message: "there is no such thing", Value: x.Item})
			}
		}
		for i, id := range in.Body.Drops {
			if ix.Station(id) == nil {
				return huma.Error422UnprocessableEntity(fmt.Sprintf("there is no station %q", id), &huma.ErrorDetail{Location: fmt.Sprintf("body.drops[%d]", i), Message: "there is no such station", Value: id})
			}
		}
		for i := range sh.Kits {
			if k := &sh.Kits[i]; k.ID != in.ID && strings.EqualFold(k.Name, in.Body.Name) {
				return huma.Error422UnprocessableEntity("there is a kit of this name already", &huma.ErrorDetail{Location: "body.name", Message: "there is a kit of this name already", Value: in.Body.Name})
			}
		}
		kit := shop.Kit{ID: in.ID, Name: in.Body.Name, Items: in.Body.Items, Drops: in.Body.Drops, Notes: in.Body.Notes}
		if k := slices.IndexFunc(sh.Kits, func(k shop.Kit) bool { return k.ID == in.ID }); k >= 0 {
			sh.Kits[k] = kit
		} else {
			sh.Kits = append(sh.Kits, kit)
		}
		return nil
	}))
}

func (s *Server) dropKit(ctx context.Context, in *struct {
	Match
	ID string `path:"id"`
}) (*body[store.Revision], error) {
	return revised(s.store.Change(ctx, in.rev, who, "kit let go: "+short(in.ID), func(sh *shop.Shop) error {
		n := len(sh.Kits)
		if sh.Kits = slices.DeleteFunc(sh.Kits, func(k shop.Kit) bool { return k.ID == in.ID }); len(sh.Kits) == n {
			return huma.Error404NotFound("there is no kit " + in.ID)
		}
		return nil
	}))
}
