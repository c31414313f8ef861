package api

import (
	"context"
	"hobrak/internal/core/learn"
	"hobrak/internal/core/shop"
	"hobrak/internal/store"
	"net/http"

	"github.com/danielgtaylor/huma/v2"
)

func (s *Server) learnedRoutes() {
	huma.Register(s.api, described(huma.Operation{OperationID: "learned", Method: http.MethodGet, Path: "/api/v1/learned", Summary: "What is used otherwise than was said"}), s.learned)
	huma.Register(s.api, described(huma.Operation{OperationID: "take-learned", Method: http.MethodPost, Path: "/api/v1/learned/take", Summary: "Use what was learned, for some things or for all", MaxBodyBytes: smallBody}), s.takeLearned)
}

func (s *Server) learned(ctx context.Context, _ *struct{}) (*body[[]learn.Rate], error) {
	sh, _ := s.store.Snapshot()
	seen, err := s.store.Seen(ctx, learn.Since(sh), today())
	if err != nil {
		return nil, problem(err)
	}
	return &body[[]learn.Rate]{learn.Rates(sh, seen, today())}, nil
}

func (s *Server) takeLearned(ctx context.Context, in *struct {
	Match
	Body struct {
		Items []string `json:"items,omitempty" maxItems:"5000" doc:"all when left out"`
	}
}) (*body[store.Revision], error) {
	return revised(s.store.Change(ctx, in.rev, who, "uses a week as the log has them", func(sh *shop.Shop) error {
		seen, err := s.store.Seen(ctx, learn.Since(sh), today())
		if err != nil {
			return err
		}
		if learn.Take(sh, seen, today(), in.Body.Items) == 0 {
			return huma.Error422UnprocessableEntity("none of these is used otherwise than was said")
		}
		return nil
	}))
}
