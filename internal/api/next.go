package api

import (
	"context"
	"net/http"

	"github.com/danielgtaylor/huma/v2"

	"hobrak/internal/core/next"
)

func (s *Server) nextRoutes() {
	huma.Register(s.api, described(huma.Operation{OperationID: "next", Method: http.MethodGet, Path: "/api/v1/next", Summary: "What is worth doing next, the most important first"}), s.whatNext)
	huma.Register(s.api, described(huma.Operation{OperationID: "enough", Method: http.MethodGet, Path: "/api/v1/enough", Summary: "Is enough known for a first plan?"}), s.enough)
}

func (s *Server) whatNext(_ context.Context, _ *struct{}) (*body[[]next.Step], error) {
	v, err := s.now()
	if err != nil {
		return nil, problem(err)
	}
	return &body[[]next.Step]{v.steps()}, nil
}

// Enough says how far a first plan can rest on what is known.
type Enough struct {
	Ready bool         `json:"ready" doc:"a first plan can be made"`
	Known []next.Known `json:"known" nullable:"false"`
}

func (s *Server) enough(_ context.Context, _ *struct{}) (*body[Enough], error) {
	sh, _ := s.store.Snapshot()
	list, ready := next.Enough(sh)
	return &body[Enough]{Enough{ready, list}}, nil
}
