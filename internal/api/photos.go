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
	huma.Register(s.api, described(huma.Operation{OperationID: "add-photo-of-storage", Method: http.MethodPost, Path: "/api/v1/places/{id}/photos", Summary: "Attach a photo of a place or of what places are in: JPEG, PNG or WebP",
		MaxBodyBytes: photo.MaxFile, SkipValidateBody: true, Middlewares: huma.Middlewares{s.notOver(photo.MaxFile, "photo")}}), s.addPhotoOfStorage)
	huma.Register(s.api, described(huma.Operation{OperationID: "remove-photo-of-storage", Method: http.MethodDelete, Path: "/api/v1/places/{id}/photos/{name}", Summary: "Take a photo off a place or of what places are in"}), s.removePhotoOfStorage)
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

// pictured finds what a photo is of in a shop.
type pictured func(*shop.Shop) (shop.Pictured, error)

func itemPictured(id string) pictured {
	return func(sh *shop.Shop) (shop.Pictured, error) {
		it := shop.NewIndex(sh).Item(id)
		if it == nil {
			return shop.Pictured{}, noItem(id)
		}
		return shop.Pictured{Name: it.Name, List: &it.Photos}, nil
	}
}

func storagePictured(address string) pictured {
	return func(sh *shop.Shop) (shop.Pictured, error) {
		p, ok := sh.Stored(address)
		if !ok {
			return p, noPlace(address)
		}
		return p, nil
	}
}

// Picture is a photo that comes in.
type Picture struct {
	ID string `path:"id"`
	Match
	RawBody []byte
}

// NoPicture is a photo that is taken away.
type NoPicture struct {
	ID   string `path:"id"`
	Name string `path:"name"`
	Match
}

func (s *Server) addPhoto(ctx context.Context, in *Picture) (*body[Attached], error) {
	return s.attach(ctx, itemPictured(in.ID), in)
}

func (s *Server) removePhoto(ctx context.Context, in *NoPicture) (*body[store.Revision], error) {
	return s.takeOff(ctx, itemPictured(in.ID), in)
}

func (s *Server) addPhotoOfStorage(ctx context.Context, in *Picture) (*body[Attached], error) {
	return s.attach(ctx, storagePictured(in.ID), in)
}

func (s *Server) removePhotoOfStorage(ctx context.Context, in *NoPicture) (*body[store.Revision], error) {
	return s.takeOff(ctx, storagePictured(in.ID), in)
}

// prepared is a photo made ready to be kept, one at a time: it takes memory.
func (s *Server) prepared(ctx context.Context, raw []byte) (*photo.Photo, error) {
	free, err := s.alone(ctx)
	if err != nil {
		return nil, err
	}
	defer free()
	p, err := photo.Prepare(ctx, raw)
	if err != nil {
		return nil, huma.Error422UnprocessableEntity(err.Error(), &huma.ErrorDetail{Location: "body", Message: err.Error()})
	}
	return p, nil
}

func (s *Server) attach(ctx context.Context, of pictured, in *Picture) (*body[Attached], error) {
	sh, _ := s.store.Snapshot()
	now, err := of(sh)
	if err != nil {
		return nil, err
	}
	if n := len(*now.List); n >= mostPhotos {
		return nil, huma.Error422UnprocessableEntity(fmt.Sprintf("%s has %d photos; take one away first", now.Name, n))
	}
	p, err := s.prepared(ctx, in.RawBody)
	if err != nil {
		return nil, err
	}
	name, made, err := s.store.KeepPhoto(ctx, p)
	if err != nil {
		return nil, problem(err)
	}
	p.Name = name
	rev, err := s.store.Change(ctx, in.rev, who, "photo of "+now.Name, func(sh *shop.Shop) error {
		x, err := of(sh)
		if err == nil && !slices.Contains(*x.List, p.Name) {
			*x.List = append(slices.Clone(*x.List), p.Name)
		}
		return err
	})
	if err != nil {
		if made {
			s.forget([]string{name})
		}
		return nil, problem(err)
	}
	return &body[Attached]{Attached{rev, p.Name, p.W, p.H}}, nil
}

func (s *Server) takeOff(ctx context.Context, of pictured, in *NoPicture) (*body[store.Revision], error) {
	return revised(s.store.Change(ctx, in.rev, who, "a photo less of "+in.ID, func(sh *shop.Shop) error {
		x, err := of(sh)
		if err != nil {
			return err
		}
		*x.List = slices.DeleteFunc(slices.Clone(*x.List), func(p string) bool { return p == in.Name })
		if len(*x.List) == 0 {
			*x.List = nil
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
