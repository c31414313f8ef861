package api

import (
	"context"
	"hobrak/internal/core/free"
	"net/http"

	"github.com/danielgtaylor/huma/v2"
)

func (s *Server) freespaceRoutes() {
	huma.Register(s.api, described(huma.Operation{OperationID: "free", Method: http.MethodGet, Path: "/api/v1/free", Summary: "Free wall and ceiling, and what limits them"}), s.free)
}

// FreeSpace is the free wall and ceiling of a revision.
type FreeSpace struct {
	Revision int64        `json:"revision"`
	Free     *free.Result `json:"free"`
}

func (s *Server) free(_ context.Context, _ *struct{}) (*body[FreeSpace], error) {
	v, err := s.now()
	if err != nil {
		return nil, problem(err)
	}
	return &body[FreeSpace]{FreeSpace{v.revision, v.freeSpace()}}, nil
}
