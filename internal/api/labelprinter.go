package api

import (
	"context"
	"fmt"
	"net/http"
	"slices"

	"github.com/danielgtaylor/huma/v2"

	"hobrak/internal/core/label"
	"hobrak/internal/device"
	"hobrak/internal/exchange"
)

// WithLabelPrinter lets labels be printed one by one.
func WithLabelPrinter(p device.LabelPrinter) Option { return func(s *Server) { s.labeller = p } }

func (s *Server) labelPrinterRoutes() {
	huma.Register(s.api, described(huma.Operation{OperationID: "label-printer", Method: http.MethodGet, Path: "/api/v1/label-printer", Summary: "Is there a printer of labels, and what lies in its tray?"}), s.labelPrinter)
	huma.Register(s.api, described(huma.Operation{OperationID: "print-one-by-one", Method: http.MethodPost, Path: "/api/v1/label-printer", Summary: "Print labels one by one", MaxBodyBytes: smallBody}), s.printOneByOne)
	huma.Register(s.api, described(huma.Operation{OperationID: "label-in-tray", Method: http.MethodGet, Path: "/api/v1/label-printer/{n}", Summary: "A label in the tray of the simulated printer, as a picture"}), s.labelInTray)
}

// LabelPrinter that there is.
type LabelPrinter struct {
	There     bool            `json:"there"`
	Name      string          `json:"name"`
	Simulated bool            `json:"simulated"`
	Tray      []device.InTray `json:"tray" nullable:"false" doc:"what the simulated one printed, the newest first"`
}

func (s *Server) labelPrinter(context.Context, *struct{}) (*body[LabelPrinter], error) {
	out := LabelPrinter{Tray: []device.InTray{}}
	if s.labeller != nil {
		out.There, out.Name, out.Simulated = true, s.labeller.Name(), s.labeller.Simulated()
	}
	if t, ok := s.labeller.(*device.Tray); ok {
		out.Tray = t.List()
	}
	return &body[LabelPrinter]{out}, nil
}

// mostOneByOne labels are printed at once.
const mostOneByOne = 200

func (s *Server) printOneByOne(ctx context.Context, in *struct {
	Body struct {
		Only  []string `json:"only" maxItems:"200" doc:"kind and id, as place:K2-1"`
		W     float64  `json:"w" doc:"of a label, mm"`
		H     float64  `json:"h" doc:"mm"`
		Codes bool     `json:"codes,omitempty"`
		Base  string   `json:"base,omitempty" maxLength:"200" doc:"address under which phones find the shop"`
	}
}) (*body[LabelPrinter], error) {
	if s.labeller == nil {
		return nil, huma.Error404NotFound("there is no printer of labels")
	}
	b := &in.Body
	stock := label.Stock{Paper: "A4", W: b.W, H: b.H, Cols: 1, Rows: 1, StepX: b.W, StepY: b.H}
	if field, err := stock.Check(); err != nil {
		return nil, huma.Error422UnprocessableEntity(err.Error(), &huma.ErrorDetail{Location: "body." + field, Message: err.Error()})
	}
	if err := checkBase(b.Base, "body.base"); err != nil {
		return nil, err
	}
	list, _, err := s.labels(ctx, &OfLabels{Items: slices.ContainsFunc(b.Only, func(x string) bool { return len(x) > 5 && x[:5] == "item:" }), Only: b.Only})
	if err != nil {
		return nil, err
	}
	if len(list) == 0 || len(b.Only) == 0 {
		return nil, huma.Error422UnprocessableEntity("choose which labels", &huma.ErrorDetail{Location: "body.only", Message: "choose which labels"})
	}
	for i := range list[:min(len(list), mostOneByOne)] {
		var bits label.Bits
		if b.Codes {
			if bits, err = exchange.Code(codeOf(b.Base, list[i].Of, list[i].ID)); err != nil {
				bits = nil
			}
		}
		p, _ := label.Drawn(&list[i], b.W, b.H, bits)
		if err := s.labeller.Print(exchange.Dots(&p, s.labeller.Sharp()), b.W, b.H); err != nil {
			return nil, huma.Error502BadGateway(fmt.Sprintf("%s: %v; %d of %d labels were printed", s.labeller.Name(), err, i, len(list)))
		}
	}
	return s.labelPrinter(ctx, nil)
}

func (s *Server) labelInTray(_ context.Context, in *struct {
	N int `path:"n" minimum:"1"`
}) (*paper, error) {
	t, ok := s.labeller.(*device.Tray)
	if !ok {
		return nil, huma.Error404NotFound("there is no tray")
	}
	data := t.Picture(in.N)
	if data == nil {
		return nil, huma.Error404NotFound(fmt.Sprintf("label %d is not in the tray any more", in.N))
	}
	return &paper{"image/png", `inline; filename="label.png"`, data}, nil
}
