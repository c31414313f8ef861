package api

import (
	"context"
	"net/http"

	"github.com/danielgtaylor/huma/v2"

	"hobrak/internal/core/length"
)

func (s *Server) scaleRoutes() {
	huma.Register(s.api, described(huma.Operation{OperationID: "scale", Method: http.MethodGet, Path: "/api/v1/scale", Summary: "Is there a scale to read?"}), s.scaleState)
	huma.Register(s.api, described(huma.Operation{OperationID: "weigh", Method: http.MethodPost, Path: "/api/v1/items/{id}/weigh", Summary: "Read the scale with the item on it"}), s.weigh)
}

func (s *Server) scaleState(context.Context, *struct{}) (*body[MeterState], error) {
	if s.scale == nil {
		return &body[MeterState]{}, nil
	}
	return &body[MeterState]{MeterState{true, s.scale.Name(), s.scale.Simulated()}}, nil
}

func (s *Server) weigh(_ context.Context, in *struct {
	ID string `path:"id"`
}) (*body[Measured], error) {
	if s.scale == nil {
		return nil, huma.Error404NotFound("there is no scale")
	}
	v, i, err := s.itemNow(in.ID)
	if err != nil {
		return nil, err
	}
	text, err := s.scale.Weigh(&v.shop.Items[i], length.System(v.shop.Settings.Units))
	if err != nil {
		return nil, huma.Error422UnprocessableEntity(err.Error())
	}
	return &body[Measured]{Measured{text}}, nil
}

// Measured is what a device says, as a person would type it.
type Measured struct {
	Text string `json:"text" example:"2.35 kg"`
}
