package api

import (
	"context"
	"fmt"
	"hobrak/internal/core/belongings"
	"hobrak/internal/core/shop"
	"net/http"

	"github.com/danielgtaylor/huma/v2"
)

func (s *Server) stationRoutes() {
	listed(s, "stations", "station", func(sh *shop.Shop) []shop.Station { return sh.Stations }, func(x *shop.Station) string { return x.ID }, wantedStation)
	huma.Register(s.api, described(huma.Operation{OperationID: "new-station", Method: http.MethodPost, Path: "/api/v1/stations", Summary: "Make a station that is named, where the floor is free", MaxBodyBytes: smallBody}), s.newStation)
}

// stationsWanted is what a list of stations can be asked for.
type stationsWanted struct {
	Kind string `query:"kind" maxLength:"64"`
	Area string `query:"area" maxLength:"64"`
}

// wantedStation tells whether one is asked for.
func wantedStation(_ *shop.Shop, st *shop.Station, in *stationsWanted) bool {
	return asked(in.Kind, string(st.Kind)) && asked(in.Area, st.Area)
}

func (s *Server) newStation(ctx context.Context, in *struct {
	Match
	Body struct {
		Name string `json:"name" minLength:"1" maxLength:"60"`
	}
}) (*body[Listed], error) {
	var id string
	rev, err := s.store.Change(ctx, in.rev, who, fmt.Sprintf("station %s", in.Body.Name), func(sh *shop.Shop) (err error) {
		id, err = belongings.NewStation(sh, in.Body.Name)
		return err
	})
	if err != nil {
		return nil, itemProblem(err)
	}
	return &body[Listed]{Listed{rev, []string{id}}}, nil
}
