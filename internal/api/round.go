package api

import (
	"context"
	"net/http"

	"github.com/danielgtaylor/huma/v2"

	"hobrak/internal/core/round"
)

func (s *Server) roundRoutes() {
	huma.Register(s.api, described(huma.Operation{OperationID: "round", Method: http.MethodGet, Path: "/api/v1/round", Summary: "The shop as it is seen turning on one's heel"}), s.round)
	huma.Register(s.api, described(huma.Operation{OperationID: "round-since", Method: http.MethodGet, Path: "/api/v1/round/since/{revision}", Summary: "What makes the round of an earlier one"}), s.roundSince)
}

// Seen is the round of a shop with the revision it shows.
type Seen struct {
	Revision int64        `json:"revision"`
	Start    string       `json:"start" doc:"which start of the server it is from: numbers of revisions may come again when a backup is restored"`
	Round    *round.Round `json:"round"`
}

func (s *Server) round(_ context.Context, _ *struct{}) (*body[Seen], error) {
	v, err := s.now()
	if err != nil {
		return nil, problem(err)
	}
	return &body[Seen]{Seen{v.revision, s.start, v.round}}, nil
}

// SeenSince is what has changed in the round, or all of it.
type SeenSince struct {
	Revision int64         `json:"revision"`
	Start    string        `json:"start"`
	Change   *round.Change `json:"change,omitempty" doc:"what is otherwise since the revision asked for"`
	Round    *round.Round  `json:"round,omitempty" doc:"all of it, in place of a change"`
}

func (s *Server) roundSince(_ context.Context, in *struct {
	Revision int64  `path:"revision" minimum:"0"`
	Start    string `query:"start" required:"true" maxLength:"40" doc:"that was told with it"`
}) (*body[SeenSince], error) {
	v, err := s.now()
	if err != nil {
		return nil, problem(err)
	}
	out := SeenSince{Revision: v.revision, Start: s.start}
	if old := s.views.roundOf(in.Revision); old != nil && in.Start == s.start {
		if c, ok := v.round.Since(old); ok {
			out.Change = c
			return &body[SeenSince]{out}, nil
		}
	}
	out.Round = v.round
	return &body[SeenSince]{out}, nil
}
