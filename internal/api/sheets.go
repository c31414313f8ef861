package api

import (
	"bytes"
	"context"
	"fmt"
	"hobrak/internal/core/length"
	"hobrak/internal/core/sheet"
	"hobrak/internal/core/shop"
	"hobrak/internal/exchange"
	"io"
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
	return drawn(in.Form, title, "survey-"+in.ID, pages)
}

// forms of files that drawings are written in.
var forms = map[string]struct {
	kind  string
	write func(io.Writer, string, []sheet.Page) error
}{
	"pdf": {"application/pdf", exchange.PDF},
	"svg": {"image/svg+xml", exchange.SVG},
	"png": {"image/png", exchange.PNG},
	"dxf": {"image/vnd.dxf", exchange.DXF},
}

// drawn is pages as a file of a form, under a name without its ending.
func drawn(form, title, name string, pages []sheet.Page) (*paper, error) {
	f := forms[form]
	var b bytes.Buffer
	if err := f.write(&b, title, pages); err != nil {
		return nil, problem(err)
	}
	return &paper{f.kind, fmt.Sprintf(`inline; filename="%s.%s"`, name, form), b.Bytes()}, nil
}
