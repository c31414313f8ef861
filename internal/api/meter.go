package api

import (
	"context"
	"net/http"

	"github.com/danielgtaylor/huma/v2"
)

func (s *Server) meterRoutes() {
	huma.Register(s.api, described(huma.Operation{OperationID: "meter", Method: http.MethodGet, Path: "/api/v1/meter", Summary: "Is there a distance meter to press?"}), s.meterState)
	huma.Register(s.api, described(huma.Operation{OperationID: "press-meter", Method: http.MethodPost, Path: "/api/v1/meter/press", Summary: "Measure what the meter is aimed at", MaxBodyBytes: smallBody}), s.pressMeter)
}

// MeterState says whether there is a meter to press, or a scale to read.
type MeterState struct {
	There     bool   `json:"there"`
	Name      string `json:"name"`
	Simulated bool   `json:"simulated"`
}

func (s *Server) meterState(context.Context, *struct{}) (*body[MeterState], error) {
	if s.meter == nil {
		return &body[MeterState]{}, nil
	}
	return &body[MeterState]{MeterState{true, s.meter.Name(), s.meter.Simulated()}}, nil
}

func (s *Server) pressMeter(_ context.Context, in *struct {
	Body struct {
		Aim  string `json:"aim" maxLength:"200" doc:"field of the survey in focus"`
		Unit string `json:"unit" enum:"m,ft"`
	}
}) (*body[Measured], error) {
	if s.meter == nil {
		return nil, huma.Error404NotFound("there is no meter")
	}
	text, err := s.meter.Press(in.Body.Aim, in.Body.Unit)
	if err != nil {
		return nil, huma.Error422UnprocessableEntity(err.Error(), &huma.ErrorDetail{Location: "body.aim", Message: err.Error(), Value: in.Body.Aim})
	}
	return &body[Measured]{Measured{text}}, nil
}
