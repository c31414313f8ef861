package api

import (
	"context"
	"net/http"

	"github.com/danielgtaylor/huma/v2"

	"hobrak/internal/core/next"
)

func (s *Server) nextRoutes() {
	huma.Register(s.api, described(huma.Operation{OperationID: "next", Method: http.MethodGet, Path: "/api/v1/next", Summary: "What is worth doing next, the most important first"}), s.whatNext)
}

func (s *Server) whatNext(_ context.Context, _ *struct{}) (*body[[]next.Step], error) {
	v, err := s.now()
	if err != nil {
		return nil, problem(err)
	}
	return &body[[]next.Step]{v.steps()}, nil
}
