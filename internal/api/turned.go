package api

import (
	"context"
	"fmt"
	"net/http"

	"github.com/danielgtaylor/huma/v2"

	"hobrak/internal/core/belongings"
	"hobrak/internal/core/floor"
	"hobrak/internal/core/shop"
)

func (s *Server) turnRoutes() {
	huma.Register(s.api, described(huma.Operation{OperationID: "item-as-station", Method: http.MethodPost, Path: "/api/v1/items/{id}/station", Summary: "Make a station of a thing: one works at it"}), s.itemAsStation)
	huma.Register(s.api, described(huma.Operation{OperationID: "station-as-item", Method: http.MethodPost, Path: "/api/v1/stations/{id}/item", Summary: "Make a thing of a station: it wants a home"}), s.stationAsItem)
}

func (s *Server) itemAsStation(ctx context.Context, in *struct {
	Match
	ID string `path:"id" maxLength:"64"`
}) (*body[Stood], error) {
	var id string
	var blocked *floor.Blocked
	rev, err := s.store.Change(ctx, in.rev, who, in.ID+" is a station", func(sh *shop.Shop) (err error) {
		id, blocked, err = belongings.AsStation(sh, in.ID)
		return err
	})
	if err != nil {
		return nil, itemProblem(err)
	}
	out := Stood{Revision: rev, IDs: []string{id}}
	if blocked != nil {
		out.Blocked = blocked.Says
	}
	return &body[Stood]{out}, nil
}

func (s *Server) stationAsItem(ctx context.Context, in *struct {
	Match
	ID      string `path:"id" maxLength:"64"`
	Instead string `query:"instead" maxLength:"64" doc:"station where what is used here is used from then on"`
}) (*body[Listed], error) {
	var id string
	rev, err := s.store.Change(ctx, in.rev, who, fmt.Sprintf("%s is one of the things", in.ID), func(sh *shop.Shop) (err error) {
		id, err = belongings.AsThing(sh, in.ID, in.Instead)
		return err
	})
	if err != nil {
		return nil, floorProblem(err)
	}
	return &body[Listed]{Listed{rev, []string{id}, []string{}}}, nil
}
