package api

import (
	"context"
	"fmt"
	"math"
	"net/http"

	"github.com/danielgtaylor/huma/v2"

	"hobrak/internal/core/outline"
	"hobrak/internal/core/sheet"
	"hobrak/internal/photo"
)

// The routes of outlines: how large a thing is that was photographed on a sheet of paper.

func (s *Server) outlineRoutes() {
	huma.Register(s.api, described(huma.Operation{OperationID: "outline", Method: http.MethodPost, Path: "/api/v1/outline", Summary: "The outline and size of a thing from a photograph of it on a sheet of paper", MaxBodyBytes: photo.MaxFile}), s.outline)
	huma.Register(s.api, described(huma.Operation{OperationID: "outline-template", Method: http.MethodPost, Path: "/api/v1/outline/template.{form}", Summary: "The same at full size, to cut out", MaxBodyBytes: photo.MaxFile}), s.outlineTemplate)
}

// Photographed is a photograph with what is said of it.
type Photographed struct {
	Sheet   string  `query:"sheet" maxLength:"30" doc:"a4, a3, letter or its sides in mm, as 420x594; a4 when left out"`
	Tall    float64 `query:"tall" minimum:"0" maximum:"500" doc:"mm the thing stands over the sheet"`
	Camera  float64 `query:"camera" minimum:"0" maximum:"5000" doc:"mm the camera was over the sheet"`
	RawBody []byte
}

func found(ctx context.Context, in *Photographed) (*outline.Found, error) {
	w, h, err := photo.SheetSize(in.Sheet)
	if err != nil {
		return nil, huma.Error422UnprocessableEntity(err.Error(), &huma.ErrorDetail{Location: "query.sheet", Message: err.Error(), Value: in.Sheet})
	}
	f, err := photo.Outline(ctx, in.RawBody, outline.Options{SheetW: w, SheetH: h, Tall: in.Tall, Camera: in.Camera})
	if err != nil {
		return nil, huma.Error422UnprocessableEntity(err.Error(), &huma.ErrorDetail{Location: "body", Message: err.Error()})
	}
	return f, nil
}

func (s *Server) outline(ctx context.Context, in *struct{ Photographed }) (*body[outline.Found], error) {
	f, err := found(ctx, &in.Photographed)
	if err != nil {
		return nil, err
	}
	return &body[outline.Found]{*f}, nil
}

func (s *Server) outlineTemplate(ctx context.Context, in *struct {
	Form  string  `path:"form" enum:"pdf,svg,dxf"`
	Play  float64 `query:"play" minimum:"0" maximum:"20" doc:"mm of play round it, for foam"`
	Paper string  `query:"paper" enum:"A4,A3,Letter,"`
	Photographed
}) (*paper, error) {
	f, err := found(ctx, &in.Photographed)
	if err != nil {
		return nil, err
	}
	sh, _ := s.store.Snapshot()
	pages := []sheet.Page{sheet.Cutout(f.Points, f.W, f.H, in.Play)}
	if in.Form == "pdf" {
		pages = sheet.Tiled(&pages[0], paperOf(sh.Settings.Units, in.Paper), fmt.Sprintf("outline, %.0f by %.0f mm", math.Round(f.W), math.Round(f.H)), sh.Settings.Units)
	}
	return drawn(in.Form, "Outline", "outline", pages)
}
