package api

import (
	"bytes"
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"hobrak/internal/core/shop"
	"hobrak/internal/core/table"
	"hobrak/internal/exchange"
	"hobrak/internal/photo"
	"hobrak/internal/store"
	"io"
	"net/http"
	"os"

	"github.com/danielgtaylor/huma/v2"
)

func (s *Server) shopfileRoutes() {
	huma.Register(s.api, described(huma.Operation{OperationID: "export", Method: http.MethodGet, Path: "/api/v1/export/{form}", Summary: "The belongings as a table, or the shop with its photos"}), s.export)
	huma.Register(s.api, described(huma.Operation{OperationID: "replace-shop-zip", Method: http.MethodPut, Path: "/api/v1/shop/zip", Summary: "Replace the shop by a shop file with its photos", MaxBodyBytes: zipBody, SkipValidateBody: true, Middlewares: huma.Middlewares{s.notOver(zipBody, "zip"), s.spooled}}), s.replaceShopZip)
	huma.Register(s.api, described(huma.Operation{OperationID: "shop", Method: http.MethodGet, Path: "/api/v1/shop", Summary: "The shop file"}), s.shop)
	huma.Register(s.api, described(huma.Operation{OperationID: "replace-shop", Method: http.MethodPut, Path: "/api/v1/shop", Summary: "Replace the shop by a shop file", MaxBodyBytes: shop.MaxFile, SkipValidateBody: true, Middlewares: huma.Middlewares{s.notOver(shop.MaxFile, "shop file")}}), s.replaceShop)
}

// Document is the shop file with its revision.
type Document struct {
	Revision int64           `json:"revision"`
	Shop     json.RawMessage `json:"shop" doc:"the shop file, see docs/format"`
}

func (s *Server) shop(ctx context.Context, _ *struct{}) (*body[Document], error) {
	sh, revision, err := s.store.File(ctx)
	if err != nil {
		return nil, problem(err)
	}
	return &body[Document]{Document{revision, shop.Write(sh)}}, nil
}

func (s *Server) replaceShop(ctx context.Context, in *struct {
	Match
	RawBody []byte
}) (*body[store.Revision], error) {
	free, err := s.alone(ctx)
	if err != nil {
		return nil, err
	}
	defer free()
	next, err := shop.Read(in.RawBody)
	if err != nil {
		return nil, problem(err)
	}
	return revised(s.store.Change(ctx, in.rev, who, "import "+next.Settings.Name, func(sh *shop.Shop) error { *sh, sh.Whole = *next, true; return nil }))
}

func (s *Server) export(ctx context.Context, in *struct {
	Form string `path:"form" enum:"csv,xlsx,json,zip"`
}) (*paper, error) {
	sh, _, err := s.store.File(ctx)
	if err != nil {
		return nil, problem(err)
	}
	var b bytes.Buffer
	kind := ""
	switch in.Form {
	case "csv":
		kind, err = "text/csv; charset=utf-8", exchange.WriteCSV(&b, table.Rows(sh))
	case "xlsx":
		kind, err = "application/vnd.openxmlformats-officedocument.spreadsheetml.sheet", exchange.WriteWorkbook(&b, "Belongings", table.Rows(sh))
	case "json":
		kind = "application/json"
		b.Write(shop.Write(sh))
	default:
		kind = "application/zip"
		err = exchange.WriteZip(&b, sh, func(name string) ([]byte, error) { return s.store.Photo(ctx, name, false) })
	}
	if err != nil {
		return nil, err
	}
	return &paper{kind, fmt.Sprintf(`attachment; filename="%s.%s"`, fileName(sh.Settings.Name), in.Form), b.Bytes()}, nil
}

func (s *Server) replaceShopZip(ctx context.Context, in *struct {
	Match
	Spool
}) (*body[store.Revision], error) {
	free, err := s.alone(ctx)
	if err != nil {
		return nil, err
	}
	defer free()
	var made []string
	next, err := exchange.ReadZip(in.file, in.size, s.keep(ctx, &made))
	if err == nil {
		var rev store.Revision
		rev, err = s.store.Change(ctx, in.rev, who, "import "+next.Settings.Name, func(sh *shop.Shop) error { *sh, sh.Whole = *next, true; return nil })
		if err == nil {
			return &body[store.Revision]{rev}, nil
		}
		s.forget(made)
		return nil, problem(err)
	}
	s.forget(made)
	var faults *shop.Faults
	if errors.As(err, &faults) || ctx.Err() != nil || errors.Is(err, store.ErrFull) {
		return nil, problem(err)
	}
	return nil, huma.Error422UnprocessableEntity(err.Error(), &huma.ErrorDetail{Location: "body", Message: err.Error()})
}

// zipBody is how large a shop with its photos may be.
const zipBody = 256 << 20

// alone waits until no other file is being opened: each may take much memory. The function
// it gives lets the next one in.
func (s *Server) alone(ctx context.Context) (free func(), err error) {
	select {
	case s.bringing <- struct{}{}:
		return func() { <-s.bringing }, nil
	case <-ctx.Done():
		return nil, ctx.Err()
	}
}

// Spool is a body too large for the memory, in a file of its own that goes with the request.
type Spool struct {
	file *os.File
	size int64
}

// Resolve takes the file the body was written to.
func (in *Spool) Resolve(ctx huma.Context) []error {
	f, ok := ctx.Context().Value(spoolKey{}).(*Spool)
	if !ok {
		return []error{errors.New("there is no body")}
	}
	*in = *f
	return nil
}

type spoolKey struct{}

// spooled writes the body to a temporary file before the request is looked at.
func (s *Server) spooled(ctx huma.Context, next func(huma.Context)) {
	f, err := os.CreateTemp("", "hobrak-*.zip")
	if err != nil {
		s.log.Error("a temporary file", "what", err)
		_ = huma.WriteErr(s.api, ctx, http.StatusInsufficientStorage, "There is no room for a temporary file, so nothing was changed. Free some space and try again.")
		return
	}
	defer os.Remove(f.Name())
	defer f.Close()
	n, err := io.Copy(f, io.LimitReader(ctx.BodyReader(), zipBody+1))
	switch {
	case n > zipBody:
		_ = huma.WriteErr(s.api, ctx, http.StatusRequestEntityTooLarge, fmt.Sprintf("A shop with its photos has at most %d MB.", zipBody>>20))
	case err != nil:
		_ = huma.WriteErr(s.api, ctx, http.StatusBadRequest, "The file did not arrive whole, so nothing was changed: "+err.Error())
	default:
		next(huma.WithValue(ctx, spoolKey{}, &Spool{f, n}))
	}
}

// keep stores the photos of a zip one after the other, and notes which were not there before.
func (s *Server) keep(ctx context.Context, made *[]string) func(exchange.Photo) (string, error) {
	return func(p exchange.Photo) (string, error) {
		kept, err := photo.Again(ctx, p.Name, p.Data)
		if err != nil {
			return "", err
		}
		name, is, err := s.store.KeepPhoto(ctx, kept)
		if is {
			*made = append(*made, name)
		}
		return name, err
	}
}

// forget photos of a change that did not come about.
func (s *Server) forget(names []string) {
	if err := s.store.DropPhotos(context.Background(), names); err != nil {
		s.log.Error("photos of a refused import stay", "what", err)
	}
}
