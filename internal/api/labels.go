package api

import (
	"cmp"
	"context"
	"fmt"
	"net/http"
	"net/url"
	"slices"

	"github.com/danielgtaylor/huma/v2"

	"hobrak/internal/core/inorder"
	"hobrak/internal/core/label"
	"hobrak/internal/core/sheet"
	"hobrak/internal/core/shop"
	"hobrak/internal/exchange"
	"hobrak/internal/store"
)

// The routes of labels: what stands on them, which are not as they should be any more, sheets to print.

func (s *Server) labelRoutes() {
	huma.Register(s.api, described(huma.Operation{OperationID: "list-labels", Method: http.MethodGet, Path: "/api/v1/labels", Summary: "What stands on the labels; those that are not as they should be first"}), s.listLabels)
	huma.Register(s.api, described(huma.Operation{OperationID: "print-labels", Method: http.MethodGet, Path: "/api/v1/labels/sheet.{form}", Summary: "Labels on sheets as they are bought, or one as a picture"}), s.printLabels)
	huma.Register(s.api, described(huma.Operation{OperationID: "place-order", Method: http.MethodGet, Path: "/api/v1/places/{id}/order", Summary: "What lives in a place in an order one can see, and the fewest things that move for it"}), s.placeOrder)
	huma.Register(s.api, described(huma.Operation{OperationID: "set-order", Method: http.MethodPut, Path: "/api/v1/places/{id}/order", Summary: "Say what the things in a place are in order of", MaxBodyBytes: smallBody}), s.setOrder)
	huma.Register(s.api, described(huma.Operation{OperationID: "labels-printed", Method: http.MethodPost, Path: "/api/v1/labels/printed", Summary: "Labels are on their places as they stand now", MaxBodyBytes: smallBody}), s.labelsPrinted)
}

// Labels of the shop.
type Labels struct {
	Labels []label.Label `json:"labels" nullable:"false"`
	Stale  int           `json:"stale" doc:"how many, of the first, were never printed or have changed since"`
	Stocks []label.Stock `json:"stocks" nullable:"false" doc:"sizes that are common"`
	Small  []label.Small `json:"small" nullable:"false" doc:"those that cannot be read from where one stands on the stock that was asked for"`
}

// OfLabels is which labels are meant.
type OfLabels struct {
	Items bool     `query:"items" doc:"of each thing with a home as well"`
	Only  []string `query:"only" maxItems:"2000" doc:"kind and id, as place:K2-1; all when left out"`
	Stale bool     `query:"stale" doc:"only those that were never printed or have changed since"`
}

func (s *Server) labels(ctx context.Context, in *OfLabels) (list []label.Label, stale int, err error) {
	sh, _ := s.store.Snapshot()
	list = label.Of(sh, in.Items)
	if len(in.Only) > 0 {
		list = slices.DeleteFunc(list, func(l label.Label) bool { return !slices.Contains(in.Only, l.Of+":"+l.ID) })
	}
	printed, err := s.store.Printed(ctx)
	if err != nil {
		return nil, 0, problem(err)
	}
	stale = label.Stale(list, printed)
	if in.Stale {
		list = list[:stale]
	}
	return list, stale, nil
}

func (s *Server) listLabels(ctx context.Context, in *struct {
	OfLabels
	Stock int `query:"stock" minimum:"0" maximum:"100" doc:"number of a common size, to say which are too small"`
}) (*body[Labels], error) {
	return s.labelled(ctx, &in.OfLabels, in.Stock)
}

func (s *Server) labelled(ctx context.Context, of *OfLabels, stock int) (*body[Labels], error) {
	list, stale, err := s.labels(ctx, of)
	if err != nil {
		return nil, err
	}
	out := Labels{Labels: list, Stale: stale, Stocks: label.Stocks, Small: []label.Small{}}
	if stock < len(label.Stocks) && len(list) > 0 {
		if _, small, err := label.Pages(list, &label.Stocks[stock], 1, false, nil); err == nil {
			out.Small = small
		}
	}
	return &body[Labels]{out}, nil
}

func (s *Server) printLabels(ctx context.Context, in *struct {
	OfLabels
	Form  string  `path:"form" enum:"pdf,svg,png"`
	Stock int     `query:"stock" minimum:"-1" maximum:"100" default:"0" doc:"number of a common size; -1: the measures that are given"`
	Paper string  `query:"paper" enum:"A4,Letter," doc:"measures of a stock of one's own, mm, as the others"`
	W     float64 `query:"w"`
	H     float64 `query:"h"`
	Cols  int     `query:"cols"`
	Rows  int     `query:"rows"`
	Left  float64 `query:"left"`
	Top   float64 `query:"top"`
	StepX float64 `query:"step_x"`
	StepY float64 `query:"step_y"`
	Page  int     `query:"page" minimum:"0" doc:"only this sheet, from 1; all when left out"`
	Start int     `query:"start" minimum:"1" default:"1" doc:"position of the first label on the first sheet"`
	Cut   bool    `query:"cut" doc:"with lines to cut along"`
	Codes bool    `query:"codes" doc:"with square codes that open the place on a phone"`
	Base  string  `query:"base" maxLength:"200" doc:"address under which phones find the shop, as http://shop.local:8080; a code without one is read by the scanner of the program"`
}) (*paper, error) {
	list, _, err := s.labels(ctx, &in.OfLabels)
	if err != nil {
		return nil, err
	}
	if len(list) == 0 {
		return nil, huma.Error422UnprocessableEntity("there is nothing to print: no place of that name, or none that has changed", &huma.ErrorDetail{Location: "query.only", Message: "nothing to print"})
	}
	stock := label.Stock{Paper: in.Paper, W: in.W, H: in.H, Cols: in.Cols, Rows: in.Rows, Left: in.Left, Top: in.Top, StepX: in.StepX, StepY: in.StepY}
	if in.Stock >= 0 {
		if in.Stock >= len(label.Stocks) {
			return nil, huma.Error422UnprocessableEntity(fmt.Sprintf("there are %d common sizes", len(label.Stocks)), &huma.ErrorDetail{Location: "query.stock", Value: in.Stock})
		}
		stock = label.Stocks[in.Stock]
	}
	if field, err := stock.Check(); err != nil {
		return nil, huma.Error422UnprocessableEntity(err.Error(), &huma.ErrorDetail{Location: "query." + field, Message: err.Error()})
	}
	if err := checkBase(in.Base, "query.base"); err != nil {
		return nil, err
	}
	var code func(*label.Label) label.Bits
	if in.Codes {
		code = func(l *label.Label) label.Bits {
			bits, err := exchange.Code(codeOf(in.Base, l.Of, l.ID))
			if err != nil {
				return nil
			}
			return bits
		}
	}
	var pages []sheet.Page
	if in.Form == "png" && len(list) == 1 {
		var bits label.Bits
		if code != nil {
			bits = code(&list[0])
		}
		p, _ := label.Drawn(&list[0], stock.W, stock.H, bits)
		pages = []sheet.Page{p}
	} else if pages, _, err = label.Pages(list, &stock, in.Start, in.Cut, code); err != nil {
		return nil, huma.Error422UnprocessableEntity(err.Error(), &huma.ErrorDetail{Location: "query.start", Message: err.Error(), Value: in.Start})
	}
	if in.Page > len(pages) {
		return nil, huma.Error422UnprocessableEntity(fmt.Sprintf("there are %d sheets", len(pages)), &huma.ErrorDetail{Location: "query.page", Value: in.Page})
	}
	if in.Page > 0 {
		pages = pages[in.Page-1 : in.Page]
	}
	if in.Form == "png" && len(pages) != 1 {
		pages = []sheet.Page{sheet.Stacked(pages)}
	}
	return drawn(in.Form, "Labels", "labels", pages)
}

// checkBase refuses what is no address under which phones find a shop.
func checkBase(base, where string) error {
	if base == "" {
		return nil
	}
	if u, err := url.Parse(base); err != nil || u.Host == "" || u.Scheme != "http" && u.Scheme != "https" {
		return huma.Error422UnprocessableEntity("an address begins with http:// or https:// and a name", &huma.ErrorDetail{Location: where, Message: "an address begins with http:// or https:// and a name", Value: base})
	}
	return nil
}

// codeOf what the square code of a label says: an address that opens its place, or the place by itself.
func codeOf(base, of, id string) string {
	if base == "" {
		return "hobrak:" + of + ":" + id
	}
	u, _ := url.Parse(base)
	return u.JoinPath("s", of[:1], id).String()
}

func (s *Server) labelsPrinted(ctx context.Context, in *struct {
	Body struct {
		Only []string `json:"only" maxItems:"5000" doc:"kind and id, as place:K2-1"`
	}
}) (*body[Labels], error) {
	list, _, err := s.labels(ctx, &OfLabels{Items: true, Only: in.Body.Only})
	if err != nil {
		return nil, err
	}
	marks := map[string]string{}
	for i := range list {
		marks[list[i].Key()] = list[i].Mark
	}
	if err := s.store.Print(ctx, marks); err != nil {
		return nil, problem(err)
	}
	// A place with a label outside is searched less long.
	unsaid := func(sh *shop.Shop) (out []*shop.Place) {
		for i := range sh.Places {
			p := &sh.Places[i]
			if !p.Labelled && slices.ContainsFunc(list, func(l label.Label) bool { return l.Of == "place" && l.ID == p.ID }) {
				out = append(out, p)
			}
		}
		return out
	}
	if sh, _ := s.store.Snapshot(); len(unsaid(sh)) > 0 {
		if _, err := s.store.Change(ctx, s.store.Head(), who, "labels are on their places", func(sh *shop.Shop) error {
			for _, p := range unsaid(sh) {
				p.Labelled = true
			}
			return nil
		}); err != nil {
			return nil, problem(err)
		}
	}
	return s.labelled(ctx, &OfLabels{}, 0)
}

func (s *Server) placeOrder(_ context.Context, in *struct {
	ID string        `path:"id" maxLength:"64"`
	By shop.Ordering `query:"by" doc:"in which order; that of the place when left out"`
}) (*body[inorder.Row], error) {
	sh, _ := s.store.Snapshot()
	p := shop.NewIndex(sh).Place(in.ID)
	if p == nil {
		return nil, noPlace(in.ID)
	}
	return &body[inorder.Row]{inorder.Of(sh, p, cmp.Or(in.By, p.Order, shop.ByUse))}, nil
}

func (s *Server) setOrder(ctx context.Context, in *struct {
	Match
	ID   string `path:"id" maxLength:"64"`
	Body struct {
		By   *shop.Ordering `json:"by,omitempty" doc:"in which order one wants to see what is in it"`
		Dull *string        `json:"dull,omitempty" enum:",left,right" doc:"side on which dull blades hang; empty for anywhere"`
	}
}) (*body[store.Revision], error) {
	return revised(s.store.Change(ctx, in.rev, who, "order in "+in.ID, func(sh *shop.Shop) error {
		for i := range sh.Places {
			if p := &sh.Places[i]; p.ID == in.ID {
				set(&p.Order, in.Body.By)
				set(&p.Dull, in.Body.Dull)
				return nil
			}
		}
		return noPlace(in.ID)
	}))
}
