package api

import (
	"context"
	"net/http"

	"github.com/danielgtaylor/huma/v2"

	"hobrak/internal/core/floor"
	"hobrak/internal/core/shift"
	"hobrak/internal/core/shop"
	"hobrak/internal/store"
)

func (s *Server) modeRoutes() {
	listed(s, "modes", "mode", func(sh *shop.Shop) []shop.Mode { return sh.Modes }, func(x *shop.Mode) string { return x.ID },
		func(*shop.Shop, *shop.Mode, *struct{}) bool { return true })
	huma.Register(s.api, described(huma.Operation{OperationID: "keep-mode", Method: http.MethodPost, Path: "/api/v1/modes", Summary: "Make a mode of how things stand now", MaxBodyBytes: smallBody}), s.keepMode)
	huma.Register(s.api, described(huma.Operation{OperationID: "forget-mode", Method: http.MethodDelete, Path: "/api/v1/modes/{id}", Summary: "Take a mode away"}), s.forgetMode)
	huma.Register(s.api, described(huma.Operation{OperationID: "open-floor", Method: http.MethodGet, Path: "/api/v1/open-floor", Summary: "The largest free rectangle of floor in each arrangement, and the largest project it takes"}), s.openFloor)
	huma.Register(s.api, described(huma.Operation{OperationID: "change-over", Method: http.MethodGet, Path: "/api/v1/change-over", Summary: "What is moved from one arrangement of the floor to another, in order"}), s.changeOver)
}

func (s *Server) keepMode(ctx context.Context, in *struct {
	Match
	Body struct {
		Name  string  `json:"name" minLength:"1" maxLength:"60"`
		Hours float64 `json:"hours,omitempty" minimum:"0" maximum:"168" doc:"how long it lasts in a week"`
	}
}) (*body[store.Revision], error) {
	return revised(s.store.Change(ctx, in.rev, who, "mode "+short(in.Body.Name), func(sh *shop.Shop) error {
		if _, err := floor.Keep(sh, in.Body.Name, in.Body.Hours); err != nil {
			return huma.Error422UnprocessableEntity(err.Error(), &huma.ErrorDetail{Location: "body.name", Message: err.Error(), Value: in.Body.Name})
		}
		return nil
	}))
}

func (s *Server) forgetMode(ctx context.Context, in *struct {
	ID string `path:"id"`
	Match
}) (*body[store.Revision], error) {
	return revised(s.store.Change(ctx, in.rev, who, "mode "+short(in.ID)+" taken away", func(sh *shop.Shop) error {
		if err := floor.Forget(sh, in.ID); err != nil {
			return huma.Error404NotFound(err.Error())
		}
		return nil
	}))
}

func (s *Server) changeOver(_ context.Context, in *struct {
	From string `query:"from" maxLength:"64" doc:"a mode; as it stands when left out"`
	To   string `query:"to" maxLength:"64" doc:"a mode; as it stands when left out"`
}) (*body[shift.Plan], error) {
	sh, _ := s.store.Snapshot()
	plan, err := shift.Between(sh, in.From, in.To)
	if err != nil {
		return nil, huma.Error422UnprocessableEntity(err.Error(), &huma.ErrorDetail{Location: "query", Message: err.Error()})
	}
	return &body[shift.Plan]{*plan}, nil
}

// OpenFloor is what is free of the floor of the main area in an arrangement.
type OpenFloor struct {
	Mode string `json:"mode" doc:"its id; empty as it stands"`
	floor.Open
}

func (s *Server) openFloor(_ context.Context, _ *struct{}) (*body[[]OpenFloor], error) {
	sh, _ := s.store.Snapshot()
	out := []OpenFloor{}
	if len(sh.Areas) == 0 {
		return &body[[]OpenFloor]{out}, nil
	}
	out = append(out, OpenFloor{"", floor.OpenFloor(sh, &sh.Areas[0])})
	for i := range sh.Modes {
		then, err := sh.InMode(sh.Modes[i].ID)
		if err != nil {
			return nil, problem(err)
		}
		out = append(out, OpenFloor{sh.Modes[i].ID, floor.OpenFloor(then, &then.Areas[0])})
	}
	return &body[[]OpenFloor]{out}, nil
}
