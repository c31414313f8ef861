package api

import (
	"context"
	"fmt"
	"hobrak/internal/core/shop"
	"hobrak/internal/core/survey"
	"hobrak/internal/store"
	"net/http"
	"slices"

	"github.com/danielgtaylor/huma/v2"
)

func (s *Server) areaRoutes() {
	listed(s, "areas", "area", func(sh *shop.Shop) []shop.Area { return sh.Areas }, func(x *shop.Area) string { return x.ID }, wantedArea)
	huma.Register(s.api, described(huma.Operation{OperationID: "add-area", Method: http.MethodPost, Path: "/api/v1/areas", Summary: "Add an area that nothing is known of yet", MaxBodyBytes: smallBody}), s.addArea)
	huma.Register(s.api, described(huma.Operation{OperationID: "remove-area", Method: http.MethodDelete, Path: "/api/v1/areas/{id}", Summary: "Take an area away that holds nothing"}), s.removeArea)
}

// areasWanted is what a list of areas can be asked for.
type areasWanted struct {
	Kind string `query:"kind" enum:"room,shed,loft,outdoors"`
}

// wantedArea tells whether one is asked for.
func wantedArea(_ *shop.Shop, a *shop.Area, in *areasWanted) bool {
	return asked(in.Kind, a.Kind)
}

// AreaName of one area of the shop.
type AreaName struct {
	ID   string `json:"id"`
	Name string `json:"name"`
}

type areaPath struct {
	ID string `path:"id"`
}

func noArea(id string) error {
	return huma.Error404NotFound(fmt.Sprintf("there is no area %q", id), &huma.ErrorDetail{Location: "path.id", Value: id})
}

func (s *Server) addArea(ctx context.Context, in *struct {
	Match
	Body struct {
		Name string `json:"name" minLength:"1" maxLength:"80"`
	}
}) (*body[Surveyed], error) {
	id := ""
	_, err := s.store.Change(ctx, in.rev, who, "area "+in.Body.Name, func(sh *shop.Shop) error { id = survey.NewArea(sh, in.Body.Name); return nil })
	if err != nil {
		return nil, problem(err)
	}
	sh, revision := s.store.Shop()
	return surveyed(sh, revision, id)
}

func (s *Server) removeArea(ctx context.Context, in *struct {
	ID string `path:"id"`
	Match
}) (*body[store.Revision], error) {
	sh, _ := s.store.Snapshot()
	i := slices.IndexFunc(sh.Areas, func(a shop.Area) bool { return a.ID == in.ID })
	switch {
	case i < 0:
		return nil, noArea(in.ID)
	case i == 0:
		return nil, huma.Error422UnprocessableEntity("The main area stays; survey it anew instead.")
	}
	return revised(s.store.Change(ctx, in.rev, who, "area "+in.ID+" taken away", func(sh *shop.Shop) error { sh.Areas = slices.Delete(sh.Areas, i, i+1); return nil }))
}
