package api

import (
	"context"
	"net/http"

	"github.com/danielgtaylor/huma/v2"

	"hobrak/internal/core/belongings"
	"hobrak/internal/core/fit"
	"hobrak/internal/core/shop"
	"hobrak/internal/store"
)

func (s *Server) adviceRoutes() {
	huma.Register(s.api, described(huma.Operation{OperationID: "advice", Method: http.MethodGet, Path: "/api/v1/belongings/advice", Summary: "What to measure first, what is alike, what belongs together, what gathers dust"}), s.giveAdvice)
	huma.Register(s.api, described(huma.Operation{OperationID: "resolve-alike", Method: http.MethodPost, Path: "/api/v1/items/alike", Summary: "Say what to make of things that are alike", MaxBodyBytes: smallBody}), s.resolveAlike)
	huma.Register(s.api, described(huma.Operation{OperationID: "leaving", Method: http.MethodGet, Path: "/api/v1/items/{id}/leaving", Summary: "What might leave now that the item has come in"}), s.leaving)
}

// Advice about the list of belongings.
type Advice struct {
	Revision int64                  `json:"revision"`
	Doubts   fit.Doubts             `json:"doubts" doc:"what is assumed, by how much depends on it"`
	Alike    []belongings.Alike     `json:"alike" nullable:"false" doc:"things that may be one too many"`
	Families []belongings.Relatives `json:"families" nullable:"false" doc:"things that may want one home together"`
	Seldom   belongings.Dust        `json:"seldom" doc:"used less than once a year"`
}

func (s *Server) giveAdvice(_ context.Context, _ *struct{}) (*body[Advice], error) {
	v, err := s.now()
	if err != nil {
		return nil, problem(err)
	}
	v.mu.Lock()
	doubts := v.asIs.Doubts()
	v.mu.Unlock()
	return &body[Advice]{Advice{v.revision, doubts, belongings.Duplicates(v.shop), belongings.Families(v.shop), belongings.Seldom(v.shop)}}, nil
}

func (s *Server) resolveAlike(ctx context.Context, in *struct {
	Match
	Body struct {
		IDs    []string `json:"ids" minItems:"2" maxItems:"500" doc:"the one that stays as it is first"`
		Choice string   `json:"choice" enum:"all,spare,merge,twice"`
	}
}) (*body[store.Revision], error) {
	what := map[string]string{"all": "all are wanted", "spare": "one is wanted, the others are spares", "merge": "one entry for all", "twice": "listed twice"}[in.Body.Choice]
	rev, err := s.store.Change(ctx, in.rev, who, in.Body.IDs[0]+": "+what, func(sh *shop.Shop) error { return belongings.Resolve(sh, in.Body.IDs, in.Body.Choice) })
	if err != nil {
		return nil, itemProblem(err)
	}
	return &body[store.Revision]{rev}, nil
}

func (s *Server) leaving(_ context.Context, in *struct {
	ID string `path:"id"`
}) (*body[[]string], error) {
	v, _, err := s.itemNow(in.ID)
	if err != nil {
		return nil, err
	}
	return &body[[]string]{notNil(belongings.Leaving(v.shop, in.ID, 3))}, nil
}
