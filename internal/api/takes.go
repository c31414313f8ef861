package api

import (
	"context"
	"fmt"
	"net/http"
	"slices"

	"github.com/danielgtaylor/huma/v2"

	"hobrak/internal/core/feed"
	"hobrak/internal/core/length"
	"hobrak/internal/core/round"
)

func (s *Server) takesRoutes() {
	huma.Register(s.api, described(huma.Operation{OperationID: "takes", Method: http.MethodGet, Path: "/api/v1/stations/{id}/takes", Summary: "The longest and widest piece a machine takes where it stands, and what to do for a longer one"}), s.takes)
}

// Takes is what a machine takes in one arrangement of the floor.
type Takes struct {
	feed.Taken
	Widest float64        `json:"widest" doc:"mm, of a sheet as long as sheet says"`
	Ways   [][][2]float64 `json:"ways" nullable:"false" doc:"strips of floor that are free for a piece: before the machine, behind it"`
	Long   float64        `json:"long" doc:"mm, the piece that was asked about; 0 when none was"`
	First  []feed.Step    `json:"first" nullable:"false" doc:"what must be done before that piece passes; nothing when it does already"`
	Why    string         `json:"why" doc:"why it never passes there; empty when it does"`
}

func (s *Server) takes(_ context.Context, in *struct {
	ID   string `path:"id"`
	Mode string `query:"mode" maxLength:"64" doc:"as the room is in this mode; as it stands when left out"`
	Long string `query:"long" maxLength:"40" doc:"a length as typed, in the units of the shop when none is said"`
}) (*body[Takes], error) {
	sh, _ := s.store.Snapshot()
	all, err := feed.Of(sh, in.Mode)
	if err != nil {
		return nil, huma.Error422UnprocessableEntity(err.Error(), &huma.ErrorDetail{Location: "query.mode", Message: err.Error(), Value: in.Mode})
	}
	i := slices.IndexFunc(all, func(t feed.Taken) bool { return t.Station == in.ID })
	if i < 0 {
		return nil, huma.Error404NotFound(fmt.Sprintf("nothing is fed through a station %q there", in.ID))
	}
	out := Takes{Taken: all[i], Widest: all[i].Widest(), Ways: [][][2]float64{}, First: []feed.Step{}}
	for _, w := range out.Way {
		out.Ways = append(out.Ways, round.Corners(w))
	}
	if in.Long != "" {
		l, err := length.Parse(in.Long, sh.Settings.Units)
		if err == nil && l <= 0 {
			err = fmt.Errorf("a piece is longer than nothing")
		}
		if err != nil {
			return nil, huma.Error422UnprocessableEntity(err.Error(), &huma.ErrorDetail{Location: "query.long", Message: err.Error(), Value: in.Long})
		}
		out.Long = l.MM()
		steps, err := out.ToPass(out.Long)
		if err != nil {
			out.Why = err.Error()
		}
		out.First = append(out.First, steps...)
	}
	return &body[Takes]{out}, nil
}
