package api

import (
	"bytes"
	"context"
	"fmt"
	"hobrak/internal/core/length"
	"hobrak/internal/core/sheet"
	"hobrak/internal/core/shop"
	"hobrak/internal/exchange"
	"net/http"

	"github.com/danielgtaylor/huma/v2"
)

func (s *Server) sheetRoutes() {
	huma.Register(s.api, described(huma.Operation{OperationID: "survey-sheet", Method: http.MethodGet, Path: "/api/v1/areas/{id}/sheet.{form}", Summary: "The survey sheet to take to the room"}), s.surveySheet)
}

// paper is a file to look at or print.
type paper struct {
	ContentType string `header:"Content-Type"`
	Disposition string `header:"Content-Disposition"`
	Body        []byte
}

func (s *Server) surveySheet(_ context.Context, in *struct {
	ID   string `path:"id"`
	Form string `path:"form" enum:"pdf,svg"`
}) (*paper, error) {
	sh, _ := s.store.Snapshot()
	a := shop.NewIndex(sh).Area(in.ID)
	if a == nil {
		return nil, noArea(in.ID)
	}
	pages := sheet.Survey(sh.Settings.Name, a, length.Style{System: sh.Settings.Units})
	title := sh.Settings.Name + ": survey sheet"
	write, kind := exchange.PDF, "application/pdf"
	if in.Form == "svg" {
		write, kind = exchange.SVG, "image/svg+xml"
	}
	var b bytes.Buffer
	if err := write(&b, title, pages); err != nil {
		return nil, err
	}
	return &paper{kind, fmt.Sprintf(`inline; filename="survey-%s.%s"`, in.ID, in.Form), b.Bytes()}, nil
}
