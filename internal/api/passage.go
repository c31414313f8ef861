package api

import (
	"context"
	"fmt"
	"hobrak/internal/core/length"
	"hobrak/internal/core/passage"
	"net/http"

	"github.com/danielgtaylor/huma/v2"
)

func (s *Server) passageRoutes() {
	huma.Register(s.api, described(huma.Operation{OperationID: "figures", Method: http.MethodGet, Path: "/api/v1/areas/{id}/figures", Summary: "The longest board and the biggest sheet that go in, turn and stand up"}), s.figures)
	huma.Register(s.api, described(huma.Operation{OperationID: "will-it-go", Method: http.MethodPost, Path: "/api/v1/areas/{id}/will-it-go", Summary: "Does a piece come in, turn and stand up?", MaxBodyBytes: smallBody}), s.willItGo)
}

// room of an area, for what is carried through it, and the units of the shop.
func (s *Server) room(id string) (*passage.Room, length.System, error) {
	v, err := s.now()
	if err != nil {
		return nil, "", problem(err)
	}
	m := v.asIs.Map()
	a := m.Index.Area(id)
	if a == nil {
		return nil, "", noArea(id)
	}
	return passage.NewRoom(m, a), v.shop.Settings.Units, nil
}

func (s *Server) figures(_ context.Context, in *areaPath) (*body[passage.Figures], error) {
	r, _, err := s.room(in.ID)
	if err != nil {
		return nil, err
	}
	return &body[passage.Figures]{r.Figures()}, nil
}

func (s *Server) willItGo(_ context.Context, in *struct {
	ID   string `path:"id"`
	Body struct {
		Sides []string `json:"sides" minItems:"3" maxItems:"3" doc:"its three sides as typed, in any order and unit"`
	}
}) (*body[[]passage.Verdict], error) {
	r, units, err := s.room(in.ID)
	if err != nil {
		return nil, err
	}
	var mm [3]float64
	for i, text := range in.Body.Sides {
		l, err := length.Parse(text, units)
		if err == nil && l <= 0 {
			err = fmt.Errorf("%q should be more than 0", text)
		}
		if err != nil {
			return nil, huma.Error422UnprocessableEntity(err.Error(), &huma.ErrorDetail{Location: fmt.Sprintf("body.sides[%d]", i), Message: err.Error(), Value: text})
		}
		mm[i] = l.MM()
	}
	return &body[[]passage.Verdict]{r.Judge(passage.Piece{A: mm[0], B: mm[1], C: mm[2]})}, nil
}
