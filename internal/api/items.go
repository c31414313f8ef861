package api

import (
	"context"
	"errors"
	"fmt"
	"net/http"
	"slices"
	"strings"

	"github.com/danielgtaylor/huma/v2"

	"hobrak/internal/core/belongings"
	"hobrak/internal/core/listing"
	"hobrak/internal/core/shop"
	"hobrak/internal/store"
)

func (s *Server) itemRoutes() {
	listed(s, "items", "item", func(sh *shop.Shop) []shop.Item { return sh.Items }, func(x *shop.Item) string { return x.ID }, wantedItem)
	huma.Register(s.api, described(huma.Operation{OperationID: "add-items", Method: http.MethodPost, Path: "/api/v1/items", Summary: "Put typed lines on the list, all or none", MaxBodyBytes: largeBody}), s.addItems)
	huma.Register(s.api, described(huma.Operation{OperationID: "set-items", Method: http.MethodPatch, Path: "/api/v1/items", Summary: "Put what was typed into one field of several things", MaxBodyBytes: largeBody}), s.setItems)
	huma.Register(s.api, described(huma.Operation{OperationID: "remove-items", Method: http.MethodPost, Path: "/api/v1/items/remove", Summary: "Take things off the list, with their homes", MaxBodyBytes: largeBody}), s.removeItems)
}

// itemsWanted is what a list of items can be asked for.
type itemsWanted struct {
	Kind   string    `query:"kind" maxLength:"64"`
	Family string    `query:"family" maxLength:"100"`
	Place  string    `query:"place" maxLength:"64" doc:"that lives there"`
	UsedAt string    `query:"used_at" maxLength:"64" doc:"station"`
	Hold   shop.Hold `query:"hold" doc:"way it can be held"`
	Flag   shop.Flag `query:"flag"`
	Status string    `query:"status" enum:"owned,wished,limbo"`
}

// wantedItem tells whether one is asked for.
func wantedItem(sh *shop.Shop, it *shop.Item, in *itemsWanted) bool {
	status := it.Status
	if status == "" {
		status = "owned"
	}
	return asked(in.Kind, it.Kind) && asked(in.Family, it.Family) && asked(in.Status, status) && (in.UsedAt == "" || slices.Contains(it.UsedAt, in.UsedAt)) &&
		(in.Hold == "" || slices.Contains(it.Holding(), in.Hold)) && (in.Flag == "" || it.Flagged(in.Flag)) &&
		(in.Place == "" || slices.ContainsFunc(sh.Homes, func(h shop.Home) bool { return h.Item == it.ID && h.Place == in.Place }))
}

func notNil[T any](list []T) []T {
	if list == nil {
		return []T{}
	}
	return list
}

// itemProblem points at the thing and field that cannot be so.
func itemProblem(err error) error {
	var f *belongings.FieldError
	if errors.As(err, &f) {
		return huma.Error422UnprocessableEntity(f.Reason, &huma.ErrorDetail{Location: strings.Trim(f.Item+"."+f.Field, "."), Message: f.Reason})
	}
	return problem(err)
}

// Listed is what a change of the list did.
type Listed struct {
	Revision store.Revision `json:"revision"`
	IDs      []string       `json:"ids" nullable:"false" doc:"things added"`
	Notes    []string       `json:"notes" nullable:"false" doc:"what could not be done as it was said, in words"`
}

// Entered is what became of typed lines.
type Entered struct {
	Listed
	Here string `json:"here" doc:"where the last line that says only where leaves one; empty nowhere"`
}

func (s *Server) addItems(ctx context.Context, in *struct {
	Match
	Body struct {
		Lines []string `json:"lines" minItems:"1" maxItems:"5000"`
	}
}) (*body[Entered], error) {
	var added listing.Added
	what := fmt.Sprintf("%d things listed", len(in.Body.Lines))
	if len(in.Body.Lines) == 1 {
		what = "listed: " + in.Body.Lines[0]
	}
	rev, err := s.store.Change(ctx, in.rev, who, what, func(sh *shop.Shop) (err error) {
		added, err = listing.Add(sh, in.Body.Lines)
		return err
	})
	if err != nil {
		return nil, itemProblem(err)
	}
	return &body[Entered]{Entered{Listed{rev, notNil(added.IDs), notNil(added.Notes)}, added.Here}}, nil
}

func (s *Server) setItems(ctx context.Context, in *struct {
	Match
	Body struct {
		IDs   []string `json:"ids" minItems:"1" maxItems:"5000"`
		Field string   `json:"field" maxLength:"40"`
		Text  string   `json:"text" maxLength:"400"`
	}
}) (*body[store.Revision], error) {
	what := fmt.Sprintf("%s of %d things: %s", in.Body.Field, len(in.Body.IDs), in.Body.Text)
	rev, err := s.store.Change(ctx, in.rev, who, what, func(sh *shop.Shop) error { return belongings.Set(sh, in.Body.IDs, in.Body.Field, in.Body.Text) })
	if err != nil {
		return nil, itemProblem(err)
	}
	return &body[store.Revision]{rev}, nil
}

func (s *Server) removeItems(ctx context.Context, in *struct {
	Match
	Body struct {
		IDs []string `json:"ids" minItems:"1" maxItems:"5000"`
	}
}) (*body[store.Revision], error) {
	rev, err := s.store.Change(ctx, in.rev, who, fmt.Sprintf("%d things off the list", len(in.Body.IDs)), func(sh *shop.Shop) error { return belongings.Remove(sh, in.Body.IDs) })
	if err != nil {
		return nil, itemProblem(err)
	}
	return &body[store.Revision]{rev}, nil
}
