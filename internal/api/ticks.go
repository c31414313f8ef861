package api

import (
	"context"
	"errors"
	"fmt"
	"net/http"

	"github.com/danielgtaylor/huma/v2"

	"hobrak/internal/core/listing"
	"hobrak/internal/core/shop"
)

func (s *Server) tickRoutes() {
	huma.Register(s.api, described(huma.Operation{OperationID: "ticks", Method: http.MethodGet, Path: "/api/v1/ticks", Summary: "Kinds of things to tick off, for a place"}), s.ticks)
	huma.Register(s.api, described(huma.Operation{OperationID: "tick", Method: http.MethodPost, Path: "/api/v1/ticks", Summary: "Put what was ticked on the list", MaxBodyBytes: smallBody}), s.tick)
}

// TickRow is a kind of thing on a tick list.
type TickRow struct {
	KindName
	Here int  `json:"here" doc:"how many are there already"`
	Fits bool `json:"fits" doc:"the place can hold one as it is usually kept"`
}

// mostTicks are sent at once; a search narrows them down.
const mostTicks = 60

func (s *Server) ticks(_ context.Context, in *struct {
	Place string `query:"place" maxLength:"64" doc:"address of a place; empty for things without a home"`
	Q     string `query:"q" maxLength:"60" doc:"what a name, or a word of it, begins with"`
}) (*body[[]TickRow], error) {
	sh, _ := s.store.Snapshot()
	rows := listing.Ticks(sh, in.Place, in.Q)
	out := []TickRow{}
	for _, r := range rows[:min(len(rows), mostTicks)] {
		k := r.Kind
		out = append(out, TickRow{KindName{k.ID, k.Name, k.Group, [3]float64{k.W, k.H, k.D}, k.KG, k.Glyph}, r.Here, r.Fits})
	}
	return &body[[]TickRow]{out}, nil
}

func (s *Server) tick(ctx context.Context, in *struct {
	Match
	Body struct {
		Place string           `json:"place,omitempty" maxLength:"64" doc:"address of the place they are in; empty when they have no home yet"`
		Ticks []listing.Ticked `json:"ticks" minItems:"1" maxItems:"500"`
	}
}) (*body[Entered], error) {
	var added listing.Added
	what := fmt.Sprintf("%d kinds ticked", len(in.Body.Ticks))
	if in.Body.Place != "" {
		what += " in " + in.Body.Place
	}
	rev, err := s.store.Change(ctx, in.rev, who, what, func(sh *shop.Shop) (err error) {
		added, err = listing.Tick(sh, in.Body.Place, in.Body.Ticks)
		return err
	})
	var bad *listing.TickError
	switch {
	case errors.As(err, &bad):
		return nil, huma.Error422UnprocessableEntity(bad.Reason, &huma.ErrorDetail{Location: "body.ticks", Message: bad.Reason, Value: bad.Kind})
	case err != nil:
		return nil, itemProblem(err)
	}
	return &body[Entered]{Entered{Listed{rev, notNil(added.IDs), notNil(added.Notes)}, added.Here}}, nil
}
