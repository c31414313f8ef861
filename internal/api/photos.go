package api

import (
	"context"
	"fmt"
	"net/http"
	"slices"
	"strconv"

	"github.com/danielgtaylor/huma/v2"

	"hobrak/internal/core/shop"
	"hobrak/internal/photo"
	"hobrak/internal/store"
)

func (s *Server) photoRoutes() {
	huma.Register(s.api, described(huma.Operation{OperationID: "add-photo", Method: http.MethodPost, Path: "/api/v1/items/{id}/photos", Summary: "Attach a photo: JPEG, PNG or WebP",
		MaxBodyBytes: photo.MaxFile, SkipValidateBody: true, Middlewares: huma.Middlewares{s.notOver(photo.MaxFile, "photo")}}), s.addPhoto)
	huma.Register(s.api, described(huma.Operation{OperationID: "remove-photo", Method: http.MethodDelete, Path: "/api/v1/items/{id}/photos/{name}", Summary: "Take a photo off an item"}), s.removePhoto)
	huma.Register(s.api, described(huma.Operation{OperationID: "photo", Method: http.MethodGet, Path: "/api/v1/photos/{name}", Summary: "A photo as JPEG"}), s.photo)
}

// mostPhotos an item may have.
const mostPhotos = 12

// Attached is what attaching a photo did.
type Attached struct {
	Revision store.Revision `json:"revision"`
	Name     string         `json:"name"`
	W        int            `json:"w" doc:"pixels"`
	H        int            `json:"h" doc:"pixels"`
}

// picture is a photo as it is sent.
type picture struct {
	ContentType  string `header:"Content-Type"`
	CacheControl string `header:"Cache-Control"`
	Body         []byte
}

// notOver refuses a request by its announced length before any of it is read.
func (s *Server) notOver(most int, what string) func(huma.Context, func(huma.Context)) {
	return func(ctx huma.Context, next func(huma.Context)) {
		if n, err := strconv.Atoi(ctx.Header("Content-Length")); err == nil && n > most {
			_ = huma.WriteErr(s.api, ctx, http.StatusRequestEntityTooLarge, fmt.Sprintf("The %s has %d MB; at most %d MB can be taken.", what, n>>20, most>>20))
			return
		}
		next(ctx)
	}
}

func (s *Server) addPhoto(ctx context.Context, in *struct {
	ID string `path:"id"`
	Match
	RawBody []byte
}) (*body[Attached], error) {
	v, i, err := s.itemNow(in.ID)
	if err != nil {
		return nil, err
	}
	if n := len(v.shop.Items[i].Photos); n >= mostPhotos {
		return nil, huma.Error422UnprocessableEntity(fmt.Sprintf("%s has %d photos; take one away first", v.shop.Items[i].Name, n))
	}
	free, err := s.alone(ctx)
	if err != nil {
		return nil, err
	}
	p, err := photo.Prepare(ctx, in.RawBody)
	free()
	if err != nil {
		return nil, huma.Error422UnprocessableEntity(err.Error(), &huma.ErrorDetail{Location: "body", Message: err.Error()})
	}
	name, made, err := s.store.KeepPhoto(ctx, p)
	if err != nil {
		return nil, problem(err)
	}
	p.Name = name
	rev, err := s.store.Change(ctx, in.rev, who, "photo of "+v.shop.Items[i].Name, func(sh *shop.Shop) error {
		it := shop.NewIndex(sh).Item(in.ID)
		if it == nil {
			return noItem(in.ID)
		}
		if !slices.Contains(it.Photos, p.Name) {
			it.Photos = append(it.Photos, p.Name)
		}
		return nil
	})
	if err != nil {
		if made {
			s.forget([]string{name})
		}
		return nil, problem(err)
	}
	return &body[Attached]{Attached{rev, p.Name, p.W, p.H}}, nil
}

func (s *Server) removePhoto(ctx context.Context, in *struct {
	ID   string `path:"id"`
	Name string `path:"name"`
	Match
}) (*body[store.Revision], error) {
	return revised(s.store.Change(ctx, in.rev, who, "a photo less of "+in.ID, func(sh *shop.Shop) error {
		it := shop.NewIndex(sh).Item(in.ID)
		if it == nil {
			return noItem(in.ID)
		}
		it.Photos = slices.DeleteFunc(it.Photos, func(p string) bool { return p == in.Name })
		if len(it.Photos) == 0 {
			it.Photos = nil
		}
		return nil
	}))
}

func (s *Server) photo(ctx context.Context, in *struct {
	Name string `path:"name"`
	Size string `query:"size" enum:"large,small" default:"large"`
}) (*picture, error) {
	data, err := s.store.Photo(ctx, in.Name, in.Size == "small")
	if err != nil {
		return nil, err
	}
	if data == nil {
		return nil, huma.Error404NotFound(fmt.Sprintf("there is no photo %q", in.Name))
	}
	// A name always means the same picture.
	return &picture{"image/jpeg", "private, max-age=31536000, immutable", data}, nil
}
