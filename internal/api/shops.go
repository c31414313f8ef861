package api

import (
	"context"
	"fmt"
	"net/http"
	"slices"

	"github.com/danielgtaylor/huma/v2"

	"hobrak/internal/core/shop"
	"hobrak/internal/store"
)

// OnShelf is a shop that is kept beside this one.
type OnShelf struct {
	Name string `json:"name" doc:"what it is called; its file where it was not opened since the start"`
	Path string `json:"path" doc:"where it is served"`
	File string `json:"file"`
}

// Shelf keeps several shops side by side.
type Shelf interface {
	Shops(ctx context.Context) ([]OnShelf, error)
	Make(ctx context.Context, title string) (path string, err error)
}

// WithShelf lets people make and change between shops.
func WithShelf(s Shelf) Option { return func(srv *Server) { srv.shelf = s } }

// Example is a shop that can be looked at in place of an empty one.
type Example struct {
	ID   string
	Says string
	File []byte // a shop file
}

// WithExamples offers shops to copy.
func WithExamples(examples ...Example) Option { return func(s *Server) { s.examples = examples } }

// Behind lets in whom another server lets in.
func Behind(other *Server) Option { return func(s *Server) { s.gate = other.gate } }

func (s *Server) shopRoutes() {
	huma.Register(s.api, described(huma.Operation{OperationID: "shops", Method: http.MethodGet, Path: "/api/v1/shops", Summary: "The shops side by side"}), s.shops)
	huma.Register(s.api, described(huma.Operation{OperationID: "make-shop", Method: http.MethodPost, Path: "/api/v1/shops", Summary: "Put a new shop beside the others", MaxBodyBytes: smallBody}), s.makeShop)
	huma.Register(s.api, described(huma.Operation{OperationID: "copy-example", Method: http.MethodPost, Path: "/api/v1/shop/example", Summary: "Make this shop a copy of an example", MaxBodyBytes: smallBody}), s.copyExample)
}

// Shops side by side.
type Shops struct {
	Shops    []OnShelf `json:"shops" nullable:"false" doc:"the first is the one the program was started with"`
	Examples []Offered `json:"examples" nullable:"false" doc:"what a new shop can be made a copy of"`
}

// Offered is an example.
type Offered struct {
	ID   string `json:"id"`
	Says string `json:"says"`
}

func (s *Server) shops(ctx context.Context, _ *struct{}) (*body[Shops], error) {
	out := Shops{Shops: []OnShelf{}, Examples: []Offered{}}
	if s.shelf != nil {
		list, err := s.shelf.Shops(ctx)
		if err != nil {
			return nil, err
		}
		out.Shops = list
	}
	for _, e := range s.examples {
		out.Examples = append(out.Examples, Offered{e.ID, e.Says})
	}
	return &body[Shops]{out}, nil
}

// Made is a new shop.
type Made struct {
	Path string `json:"path" doc:"where it is served"`
}

func (s *Server) makeShop(ctx context.Context, in *struct {
	Body struct {
		Name string `json:"name" minLength:"1" maxLength:"80"`
	}
}) (*body[Made], error) {
	if s.shelf == nil {
		return nil, huma.Error404NotFound("This Hobrak keeps one shop only.")
	}
	path, err := s.shelf.Make(ctx, in.Body.Name)
	if err != nil {
		return nil, huma.Error422UnprocessableEntity(err.Error(), &huma.ErrorDetail{Location: "body.name", Message: err.Error(), Value: in.Body.Name})
	}
	return &body[Made]{Made{path}}, nil
}

func (s *Server) copyExample(ctx context.Context, in *struct {
	Match
	Body struct {
		ID string `json:"id" maxLength:"40"`
	}
}) (*body[store.Revision], error) {
	i := slices.IndexFunc(s.examples, func(e Example) bool { return e.ID == in.Body.ID })
	if i < 0 {
		why := fmt.Sprintf("there is no example %q", in.Body.ID)
		return nil, huma.Error422UnprocessableEntity(why, &huma.ErrorDetail{Location: "body.id", Message: why, Value: in.Body.ID})
	}
	next, err := shop.Read(s.examples[i].File)
	if err != nil {
		return nil, problem(err)
	}
	return revised(s.store.Change(ctx, in.rev, who, "a copy of "+next.Settings.Name, func(sh *shop.Shop) error { *sh, sh.Whole = *next, true; return nil }))
}
