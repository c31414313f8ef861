package api

import (
	"context"
	"fmt"
	"net/http"
	"slices"
	"time"

	"github.com/danielgtaylor/huma/v2"

	"hobrak/internal/core/shop"
	"hobrak/internal/store"
)

func (s *Server) settingRoutes() {
	huma.Register(s.api, described(huma.Operation{OperationID: "one-out", Method: http.MethodPut, Path: "/api/v1/settings/one-out", Summary: "Ask what leaves whenever something comes in, or not", MaxBodyBytes: smallBody}), s.oneOut)
	huma.Register(s.api, described(huma.Operation{OperationID: "together", Method: http.MethodPut, Path: "/api/v1/settings/together", Summary: "Families that must stay together", MaxBodyBytes: smallBody}), s.together)
	huma.Register(s.api, described(huma.Operation{OperationID: "prices", Method: http.MethodPut, Path: "/api/v1/settings/prices", Summary: "What material costs", MaxBodyBytes: smallBody}), s.prices)
	huma.Register(s.api, described(huma.Operation{OperationID: "working", Method: http.MethodGet, Path: "/api/v1/settings/working", Summary: "How the shop is worked in"}), s.showWorking)
}

// working answers about how the shop is worked in: what must stay together, what
// material costs, how often things are really used.

func (s *Server) together(ctx context.Context, in *struct {
	Match
	Body struct {
		Families []string `json:"families" nullable:"false" maxItems:"200"`
	}
}) (*body[store.Revision], error) {
	sh, _ := s.store.Snapshot()
	for i, f := range in.Body.Families {
		if !slices.ContainsFunc(sh.Items, func(it shop.Item) bool { return it.Family == f }) {
			return nil, huma.Error422UnprocessableEntity(fmt.Sprintf("no thing is of the family %q", f), &huma.ErrorDetail{Location: fmt.Sprintf("body.families[%d]", i), Value: f})
		}
	}
	return revised(s.store.Change(ctx, in.rev, who, "families that must stay together", func(sh *shop.Shop) error {
		sh.Settings.Together = in.Body.Families
		return nil
	}))
}

func (s *Server) prices(ctx context.Context, in *struct {
	Match
	Body struct {
		Currency string  `json:"currency,omitempty" maxLength:"8"`
		Sheet    float64 `json:"sheet" minimum:"0" maximum:"100000" doc:"a square metre"`
		Rail     float64 `json:"rail" minimum:"0" maximum:"100000" doc:"a metre"`
	}
}) (*body[store.Revision], error) {
	return revised(s.store.Change(ctx, in.rev, who, "prices of material", func(sh *shop.Shop) error {
		sh.Settings.Prices = &shop.Prices{Currency: in.Body.Currency, Sheet: in.Body.Sheet, Rail: in.Body.Rail}
		if in.Body.Sheet == 0 && in.Body.Rail == 0 {
			sh.Settings.Prices = nil
		}
		return nil
	}))
}

func (s *Server) showWorking(_ context.Context, _ *struct{}) (*body[Working], error) {
	sh, _ := s.store.Snapshot()
	out := Working{Together: notNil(sh.Settings.Together), Families: []string{}, Modes: []Named{}}
	for _, m := range sh.Modes {
		out.Modes = append(out.Modes, Named{m.ID, m.Name})
	}
	if p := sh.Settings.Prices; p != nil {
		out.Currency, out.Sheet, out.Rail = p.Currency, p.Sheet, p.Rail
	}
	for i := range sh.Items {
		if f := sh.Items[i].Family; f != "" && !slices.Contains(out.Families, f) {
			out.Families = append(out.Families, f)
		}
	}
	slices.Sort(out.Families)
	return &body[Working]{out}, nil
}

// Working is how the shop is worked in.
type Working struct {
	Families []string `json:"families" nullable:"false" doc:"of the things"`
	Together []string `json:"together" nullable:"false" doc:"those that must stay together"`
	Modes    []Named  `json:"modes" nullable:"false" doc:"arrangements of the floor"`
	Currency string   `json:"currency" doc:"of the prices"`
	Sheet    float64  `json:"sheet" doc:"price of a square metre, 0 when none is given"`
	Rail     float64  `json:"rail" doc:"price of a metre"`
}

// Named is something with an id and a name.
type Named struct {
	ID   string `json:"id"`
	Name string `json:"name"`
}

// today is the day where the shop is.
func today() time.Time {
	y, m, d := time.Now().Date()
	return time.Date(y, m, d, 0, 0, 0, 0, time.UTC)
}

func (s *Server) oneOut(ctx context.Context, in *struct {
	Match
	Body struct {
		On bool `json:"on"`
	}
}) (*body[store.Revision], error) {
	what := "one in, one out: off"
	if in.Body.On {
		what = "one in, one out: on"
	}
	return revised(s.store.Change(ctx, in.rev, who, what, func(sh *shop.Shop) error { sh.Settings.OneOut = in.Body.On; return nil }))
}
