package api

import (
	"context"
	"fmt"
	"hobrak/internal/core/check"
	"hobrak/internal/core/shop"
	"net/http"
	"slices"

	"github.com/danielgtaylor/huma/v2"
)

func (s *Server) checkRoutes() {
	huma.Register(s.api, described(huma.Operation{OperationID: "check", Method: http.MethodGet, Path: "/api/v1/check", Summary: "Broken rules, then cautions, each with what it is about"}), s.check)
}

// Checked is a finding of the check with the item or place it is about.
type Checked struct {
	check.Finding
	Kind string `json:"kind" enum:"item,place," doc:"what id names; empty when it is something else"`
	ID   string `json:"id"`
}

// about says of each finding what a person would look at.
func (v *view) about() []Checked {
	out := []Checked{}
	ix := v.asIs.Map().Index
	for _, f := range v.findings() {
		x := Checked{Finding: f}
		var n int
		if _, err := fmt.Sscanf(f.Where, "homes[%d]", &n); err == nil && n < len(v.shop.Homes) {
			x.Kind, x.ID = "item", v.shop.Homes[n].Item
		} else if ix.Place(f.Where) != nil {
			x.Kind, x.ID = "place", f.Where
		} else if i := slices.IndexFunc(v.shop.Places, func(p shop.Place) bool { return p.At.In == f.Where }); i >= 0 {
			x.Kind, x.ID = "place", v.shop.Places[i].ID
		}
		out = append(out, x)
	}
	return out
}

func (s *Server) check(_ context.Context, _ *struct{}) (*body[[]Checked], error) {
	v, err := s.now()
	if err != nil {
		return nil, problem(err)
	}
	return &body[[]Checked]{v.about()}, nil
}
