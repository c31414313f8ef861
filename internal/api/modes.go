package api

import (
	"context"
	"fmt"
	"maps"
	"net/http"
	"slices"

	"github.com/danielgtaylor/huma/v2"

	"hobrak/internal/core/floor"
	"hobrak/internal/core/length"
	"hobrak/internal/core/mode"
	"hobrak/internal/core/shift"
	"hobrak/internal/core/shop"
	"hobrak/internal/store"
)

func (s *Server) modeRoutes() {
	listed(s, "modes", "mode", func(sh *shop.Shop) []shop.Mode { return sh.Modes }, func(x *shop.Mode) string { return x.ID },
		func(*shop.Shop, *shop.Mode, *struct{}) bool { return true })
	huma.Register(s.api, described(huma.Operation{OperationID: "keep-mode", Method: http.MethodPost, Path: "/api/v1/modes", Summary: "Make a mode of how things stand now", MaxBodyBytes: smallBody}), s.keepMode)
	huma.Register(s.api, described(huma.Operation{OperationID: "change-mode", Method: http.MethodPatch, Path: "/api/v1/modes/{id}", Summary: "Say what a mode is called and how long it lasts, or that the floor is in it now", MaxBodyBytes: smallBody}), s.changeMode)
	huma.Register(s.api, described(huma.Operation{OperationID: "set-spot", Method: http.MethodPut, Path: "/api/v1/modes/{id}/spots/{thing}", Summary: "Say where something is in a mode", MaxBodyBytes: smallBody}), s.setSpot)
	huma.Register(s.api, described(huma.Operation{OperationID: "clear-spot", Method: http.MethodDelete, Path: "/api/v1/modes/{id}/spots/{thing}", Summary: "Leave something in a mode where it stands otherwise"}), s.clearSpot)
	huma.Register(s.api, described(huma.Operation{OperationID: "try-spot", Method: http.MethodPost, Path: "/api/v1/modes/{id}/spots/{thing}/try", Summary: "What would be in the way of something there", MaxBodyBytes: smallBody}), s.trySpot)
	huma.Register(s.api, described(huma.Operation{OperationID: "floor-layouts", Method: http.MethodGet, Path: "/api/v1/floor-layouts", Summary: "The floor as it stands and in each mode: what takes room, the ways, what breaks a rule"}), s.layouts)
	huma.Register(s.api, described(huma.Operation{OperationID: "forget-mode", Method: http.MethodDelete, Path: "/api/v1/modes/{id}", Summary: "Take a mode away"}), s.forgetMode)
	huma.Register(s.api, described(huma.Operation{OperationID: "change-over", Method: http.MethodGet, Path: "/api/v1/change-over", Summary: "What is moved from one arrangement of the floor to another, in order"}), s.changeOver)
}

func (s *Server) keepMode(ctx context.Context, in *struct {
	Match
	Body struct {
		Name  string  `json:"name" minLength:"1" maxLength:"60"`
		Hours float64 `json:"hours,omitempty" minimum:"0" maximum:"168" doc:"how long it lasts in a week"`
		Like  string  `json:"like,omitempty" maxLength:"64" doc:"a mode it is a copy of; of how things stand when left out"`
	}
}) (*body[store.Revision], error) {
	return revised(s.store.Change(ctx, in.rev, who, "mode "+short(in.Body.Name), func(sh *shop.Shop) error {
		var err error
		if in.Body.Like != "" {
			_, err = floor.Copy(sh, in.Body.Like, in.Body.Name, in.Body.Hours)
		} else {
			_, err = floor.Keep(sh, in.Body.Name, in.Body.Hours)
		}
		if err != nil {
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

func (s *Server) changeMode(ctx context.Context, in *struct {
	ID string `path:"id" doc:"a mode, or - for as it stands"`
	Match
	Body struct {
		Name  *string  `json:"name,omitempty" minLength:"1" maxLength:"60"`
		Hours *float64 `json:"hours,omitempty" minimum:"0" maximum:"168" doc:"how long it lasts in a week"`
		Now   bool     `json:"now,omitempty" doc:"the floor is in it now"`
	}
}) (*body[store.Revision], error) {
	id := in.ID
	if id == "-" {
		id = ""
	}
	return revised(s.store.Change(ctx, in.rev, who, "mode "+short(in.ID), func(sh *shop.Shop) error {
		if id == "" && (in.Body.Name != nil || in.Body.Hours != nil) {
			return huma.Error422UnprocessableEntity("how things stand has no name: keep it as a mode first")
		}
		if id != "" {
			if err := floor.Rename(sh, id, in.Body.Name, in.Body.Hours); err != nil {
				return huma.Error422UnprocessableEntity(err.Error(), &huma.ErrorDetail{Location: "body.name", Message: err.Error()})
			}
		}
		if in.Body.Now {
			sh.Settings.Mode = id
		}
		return nil
	}))
}

// SpotInMode is where something is in a mode.
type SpotInMode struct {
	State string      `json:"state,omitempty" enum:"stands,folded,hoisted,outdoors,away" doc:"on the floor when left out"`
	Floor *[2]float64 `json:"floor,omitempty" doc:"left and lower edge of its footprint before it is turned, mm"`
	Rot   float64     `json:"rot,omitempty" minimum:"-360" maximum:"360" doc:"degrees anticlockwise"`
}

func (sp *SpotInMode) standing() (shop.Standing, error) {
	switch {
	case sp.State != "" && sp.State != mode.Stands:
		return shop.Standing{State: sp.State}, nil
	case sp.Floor == nil:
		return shop.Standing{}, fmt.Errorf("say where on the floor it is")
	}
	return shop.Standing{Floor: shop.Point{length.MM(sp.Floor[0]), length.MM(sp.Floor[1])}, Rot: sp.Rot}, nil
}

// set puts something there in a mode of a shop.
func (sp *SpotInMode) set(sh *shop.Shop, id, thing string) error {
	to, err := sp.standing()
	if err == nil {
		err = floor.SetSpot(sh, id, thing, to)
	}
	if err != nil {
		return huma.Error422UnprocessableEntity(err.Error(), &huma.ErrorDetail{Location: "body", Message: err.Error()})
	}
	return nil
}

// about are the breaches that concern something.
func about(l *mode.Layout, thing string) string {
	for _, b := range l.Breaches {
		if slices.Contains(b.Of, thing) {
			return b.Says
		}
	}
	return ""
}

func (s *Server) setSpot(ctx context.Context, in *struct {
	ID    string `path:"id"`
	Thing string `path:"thing"`
	Match
	Body SpotInMode
}) (*body[Stood], error) {
	blocked := ""
	rev, err := s.store.Change(ctx, in.rev, who, fmt.Sprintf("%s in mode %s", short(in.Thing), short(in.ID)), func(sh *shop.Shop) error {
		if err := in.Body.set(sh, in.ID, in.Thing); err != nil {
			return err
		}
		l, err := mode.Of(sh, in.ID, areaOf(sh, in.Thing))
		if err == nil {
			blocked = about(l, in.Thing)
		}
		return err
	})
	if err != nil {
		return nil, floorProblem(err)
	}
	return &body[Stood]{Stood{rev, []string{}, blocked}}, nil
}

// areaOf is the area something stands in.
func areaOf(sh *shop.Shop, thing string) string {
	ix := shop.NewIndex(sh)
	if st := ix.Station(thing); st != nil {
		return ix.Area(st.Area).ID
	}
	if c := ix.Container(thing); c != nil {
		return ix.Area(c.At.Area).ID
	}
	return ""
}

// SpotTrial is what would come of something standing there.
type SpotTrial struct {
	Blocked string `json:"blocked" doc:"the first rule it would break, or caution; empty when none"`
	Hard    bool   `json:"hard" doc:"a rule would be broken, or it cannot be there at all"`
}

func (s *Server) trySpot(_ context.Context, in *struct {
	ID    string `path:"id"`
	Thing string `path:"thing"`
	Body  SpotInMode
}) (*body[SpotTrial], error) {
	sh, _ := s.store.Snapshot()
	next := *sh
	next.Modes = slices.Clone(sh.Modes)
	for i := range next.Modes {
		next.Modes[i].Spots = maps.Clone(next.Modes[i].Spots)
	}
	to, err := in.Body.standing()
	if err == nil {
		err = floor.SetSpot(&next, in.ID, in.Thing, to)
	}
	if err != nil {
		return &body[SpotTrial]{SpotTrial{err.Error(), true}}, nil
	}
	found, err := mode.Breaches(&next, in.ID, areaOf(sh, in.Thing))
	if err != nil {
		return nil, problem(err)
	}
	for _, b := range found {
		if slices.Contains(b.Of, in.Thing) {
			return &body[SpotTrial]{SpotTrial{b.Says, b.Hard}}, nil
		}
	}
	return &body[SpotTrial]{}, nil
}

func (s *Server) clearSpot(ctx context.Context, in *struct {
	ID    string `path:"id"`
	Thing string `path:"thing"`
	Match
}) (*body[store.Revision], error) {
	return revised(s.store.Change(ctx, in.rev, who, fmt.Sprintf("%s in mode %s as it stands", short(in.Thing), short(in.ID)), func(sh *shop.Shop) error {
		if err := floor.ClearSpot(sh, in.ID, in.Thing); err != nil {
			return huma.Error404NotFound(err.Error())
		}
		return nil
	}))
}

func (s *Server) layouts(_ context.Context, in *struct {
	Area string `query:"area" maxLength:"64" doc:"the main one when left out"`
}) (*body[[]mode.Layout], error) {
	sh, _ := s.store.Snapshot()
	area := in.Area
	if area == "" {
		area = sh.Areas[0].ID
	}
	out := []mode.Layout{}
	ids := []string{""}
	for i := range sh.Modes {
		ids = append(ids, sh.Modes[i].ID)
	}
	for _, id := range ids {
		l, err := mode.Of(sh, id, area)
		if err != nil {
			return nil, huma.Error404NotFound(err.Error())
		}
		out = append(out, *l)
	}
	return &body[[]mode.Layout]{out}, nil
}
