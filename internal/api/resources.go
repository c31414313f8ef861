package api

import (
	"context"
	"net/http"
	"slices"

	"github.com/danielgtaylor/huma/v2"

	"hobrak/internal/core/shop"
)

// The parts of the shop as the shop file has them, one by one and in lists. Each is a
// file of its own where it can be changed; what is the same for all is here.

// oneOf a list, by its id.
type oneOf struct {
	ID string `path:"id" maxLength:"64" doc:"its id"`
}

// listed registers a list of parts and each of its parts. In is what the list can be asked
// for, wanted tells whether a part is.
func listed[T, In any](s *Server, list, one string, of func(*shop.Shop) []T, id func(*T) string, wanted func(*shop.Shop, *T, *In) bool) {
	huma.Register(s.api, described(huma.Operation{OperationID: "list-" + list, Method: http.MethodGet, Path: "/api/v1/" + list, Summary: "The " + list + " of the shop, as the shop file has them"}),
		func(_ context.Context, in *In) (*body[[]T], error) {
			sh, _ := s.store.Snapshot()
			out := []T{}
			all := of(sh)
			for i := range all {
				if wanted(sh, &all[i], in) {
					out = append(out, all[i])
				}
			}
			return &body[[]T]{out}, nil
		})
	huma.Register(s.api, described(huma.Operation{OperationID: "get-" + one, Method: http.MethodGet, Path: "/api/v1/" + list + "/{id}", Summary: "One " + one + ", as the shop file has it"}),
		func(_ context.Context, in *oneOf) (*body[T], error) {
			sh, _ := s.store.Snapshot()
			all := of(sh)
			if i := slices.IndexFunc(all, func(x T) bool { return id(&x) == in.ID }); i >= 0 {
				return &body[T]{all[i]}, nil
			}
			return nil, huma.Error404NotFound("there is no "+one+" "+in.ID, &huma.ErrorDetail{Location: "path.id", Message: "there is no " + one + " of this id", Value: in.ID})
		})
}

// any of a list is wanted when nothing was asked, or what was asked is what it has.
func asked(in, has string) bool { return in == "" || in == has }
