package api

import (
	"context"
	"net/http"
	"slices"

	"github.com/danielgtaylor/huma/v2"

	"hobrak/internal/core/check"
)

func (s *Server) checkRoutes() {
	huma.Register(s.api, described(huma.Operation{OperationID: "check", Method: http.MethodGet, Path: "/api/v1/check", Summary: "Broken rules, then cautions, each with what it is about"}), s.check)
}

// Checked is a finding of the check with the item or place it is about.
type Checked struct {
	check.Finding
	Kind string `json:"kind" enum:"item,place,station,area," doc:"what id names; empty when it is something else"`
	ID   string `json:"id"`
}

// about says of each finding what a person would look at.
func (v *view) about() []Checked {
	out := []Checked{}
	for _, f := range slices.Concat(v.findings(), v.supplied()) {
		x := Checked{Finding: f}
		x.Kind, x.ID = f.Subject(v.shop, v.asIs.Map().Index)
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
