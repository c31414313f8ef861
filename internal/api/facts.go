package api

import (
	"context"
	"errors"
	"fmt"
	"net/http"

	"github.com/danielgtaylor/huma/v2"

	"hobrak/internal/core/facts"
	"hobrak/internal/core/shop"
	"hobrak/internal/store"
)

func (s *Server) factRoutes() {
	huma.Register(s.api, described(huma.Operation{OperationID: "facts", Method: http.MethodGet, Path: "/api/v1/facts", Summary: "What is said of the shop as a whole"}), s.showFacts)
	huma.Register(s.api, described(huma.Operation{OperationID: "try-facts", Method: http.MethodPost, Path: "/api/v1/facts/try", Summary: "What changing facts would change", MaxBodyBytes: smallBody}), s.tryFacts)
	huma.Register(s.api, described(huma.Operation{OperationID: "enter-facts", Method: http.MethodPatch, Path: "/api/v1/facts", Summary: "Change facts", MaxBodyBytes: smallBody}), s.enterFacts)
}

// FactEntry is what was typed into a field.
type FactEntry struct {
	Path string `json:"path" maxLength:"120"`
	Text string `json:"text" maxLength:"200"`
}

type factEntries struct {
	Entries []FactEntry `json:"entries" nullable:"false" minItems:"1" maxItems:"60"`
}

// enter all of them, or say which cannot be.
func (f *factEntries) enter(sh *shop.Shop) error {
	for i, e := range f.Entries {
		var wrong *facts.FieldError
		if err := facts.Enter(sh, e.Path, e.Text); errors.As(err, &wrong) {
			return huma.Error422UnprocessableEntity(wrong.Reason, &huma.ErrorDetail{Location: fmt.Sprintf("body.entries[%d]", i), Message: wrong.Reason, Value: e.Text})
		}
	}
	return nil
}

func (s *Server) showFacts(context.Context, *struct{}) (*body[[]facts.Group], error) {
	sh, _ := s.store.Snapshot()
	return &body[[]facts.Group]{facts.Of(sh)}, nil
}

// Standing of the shop in a few figures.
type Standing struct {
	Seconds  float64 `json:"seconds" doc:"weekly handling"`
	Step     int     `json:"step" doc:"things that ask for something to open and move, or a step"`
	Ladder   int     `json:"ladder" doc:"things that ask for a ladder, or cannot be reached"`
	Broken   int     `json:"broken" doc:"rules that are broken"`
	Cautions int     `json:"cautions"`
}

// standing of the shop in the view.
func (v *view) standing() (out Standing) {
	t := v.round.Totals
	out = Standing{Seconds: t.Seconds, Step: t.Orders[3], Ladder: t.Orders[4]}
	for _, f := range v.findings() {
		if f.Hard {
			out.Broken++
		} else {
			out.Cautions++
		}
	}
	return out
}

// Effect of a change, before it is made.
type Effect struct {
	Now  Standing `json:"now"`
	Then Standing `json:"then"`
}

func (s *Server) tryFacts(_ context.Context, in *struct {
	Body factEntries
}) (*body[Effect], error) {
	v, err := s.now()
	if err != nil {
		return nil, problem(err)
	}
	next := v.shop.Clone()
	if err := in.Body.enter(next); err != nil {
		return nil, err
	}
	if err := next.Validate(); err != nil {
		return nil, problem(err)
	}
	then, err := look(next, v.revision)
	if err != nil {
		return nil, problem(err)
	}
	return &body[Effect]{Effect{v.standing(), then.standing()}}, nil
}

func (s *Server) enterFacts(ctx context.Context, in *struct {
	Match
	Body factEntries
}) (*body[store.Revision], error) {
	what := "the shop's facts"
	if e := in.Body.Entries; len(e) == 1 {
		what = fmt.Sprintf("%s: %s", e[0].Path, short(e[0].Text))
	}
	rev, err := s.store.Change(ctx, in.rev, who, what, in.Body.enter)
	var said huma.StatusError
	if errors.As(err, &said) {
		return nil, said
	}
	return revised(rev, err)
}
