package api

import (
	"context"
	"hobrak/internal/core/round"
	"net/http"

	"github.com/danielgtaylor/huma/v2"
)

func (s *Server) roundRoutes() {
	huma.Register(s.api, described(huma.Operation{OperationID: "round", Method: http.MethodGet, Path: "/api/v1/round", Summary: "The shop as it is seen turning on one's heel"}), s.round)
}

// Seen is the round of a shop with the revision it shows.
type Seen struct {
	Revision int64        `json:"revision"`
	Round    *round.Round `json:"round"`
}

func (s *Server) round(_ context.Context, _ *struct{}) (*body[Seen], error) {
	v, err := s.now()
	if err != nil {
		return nil, problem(err)
	}
	return &body[Seen]{Seen{v.revision, v.round}}, nil
}
