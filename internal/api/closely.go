package api

import (
	"context"
	"fmt"
	"net/http"
	"strings"
	"sync"
	"time"

	"github.com/danielgtaylor/huma/v2"

	"hobrak/internal/core/closely"
	"hobrak/internal/core/shop"
	"hobrak/internal/store"
)

// The routes of true outlines: kept with a thing, and by which a place is packed.

func (s *Server) closelyRoutes() {
	huma.Register(s.api, described(huma.Operation{OperationID: "keep-outline", Method: http.MethodPut, Path: "/api/v1/items/{id}/outline", Summary: "Keep the true outline of a thing, and its size with it", MaxBodyBytes: smallBody}), s.keepOutline)
	huma.Register(s.api, described(huma.Operation{OperationID: "closely", Method: http.MethodPost, Path: "/api/v1/places/{id}/closely", Summary: "What goes into a place when its things are laid by their outlines", MaxBodyBytes: smallBody}), s.closely)
	huma.Register(s.api, described(huma.Operation{OperationID: "lay-closely", Method: http.MethodPut, Path: "/api/v1/places/{id}/closely", Summary: "Lay them so", MaxBodyBytes: smallBody}), s.layClosely)
}

func (s *Server) keepOutline(ctx context.Context, in *struct {
	Match
	ID   string `path:"id"`
	Body struct {
		Outline [][2]float64 `json:"outline" maxItems:"2000" doc:"mm from the left lower corner of its box, in order; none forgets it"`
		Turn    bool         `json:"turn,omitempty" doc:"by a quarter, where it was photographed lying and hangs upright"`
	}
}) (*body[store.Revision], error) {
	return revised(s.store.Change(ctx, in.rev, who, "outline: "+in.ID, func(sh *shop.Shop) error {
		for i := range sh.Items {
			it := &sh.Items[i]
			if it.ID != in.ID {
				continue
			}
			if len(in.Body.Outline) == 0 {
				it.Outline = nil
				return nil
			}
			if err := it.Trace(in.Body.Outline, in.Body.Turn); err != nil {
				return huma.Error422UnprocessableEntity(err.Error(), &huma.ErrorDetail{Location: "body.outline", Message: err.Error()})
			}
			return nil
		}
		return noItem(in.ID)
	}))
}

// CloselyAsked is what is to come in.
type CloselyAsked struct {
	Things []string `json:"things,omitempty" maxItems:"500" doc:"what is to come in; what has no home when left out"`
}

// notLaid is the answer where a place is not laid closely.
func notLaid(sh *shop.Shop, id string, err error) error {
	if shop.NewIndex(sh).Place(id) == nil {
		return huma.Error404NotFound(err.Error(), &huma.ErrorDetail{Location: "path.id", Message: err.Error(), Value: id})
	}
	return huma.Error422UnprocessableEntity(err.Error(), &huma.ErrorDetail{Location: "path.id", Message: err.Error(), Value: id})
}

// lain is the last layout that was shown, so that it is what is laid.
type lain struct {
	mu       sync.Mutex
	revision int64
	asked    string
	then     *shop.Shop
}

// closelyFor is how long a layout is looked for.
const closelyFor = 4 * time.Second

// laid looks for a layout, or gives that which was shown last.
func (s *Server) laid(ctx context.Context, id string, asked *CloselyAsked, shown bool) (*closely.Laid, *shop.Shop, error) {
	sh, rev := s.store.Snapshot()
	key := fmt.Sprint(id, asked.Things)
	s.lain.mu.Lock()
	defer s.lain.mu.Unlock()
	if shown && s.lain.then != nil && s.lain.revision == rev && s.lain.asked == key {
		return nil, s.lain.then, nil
	}
	until := time.Now().Add(closelyFor)
	r, then, err := closely.Lay(sh, id, asked.Things, closely.Options{Seed: 1, Done: func() bool { return ctx.Err() != nil || time.Now().After(until) }})
	if err != nil {
		return nil, nil, notLaid(sh, id, err)
	}
	s.lain.revision, s.lain.asked, s.lain.then = rev, key, then
	return r, then, nil
}

func (s *Server) closely(ctx context.Context, in *struct {
	ID   string `path:"id"`
	Body CloselyAsked
}) (*body[closely.Laid], error) {
	r, _, err := s.laid(ctx, in.ID, &in.Body, false)
	if err != nil {
		return nil, err
	}
	return &body[closely.Laid]{*r}, nil
}

func (s *Server) layClosely(ctx context.Context, in *struct {
	Match
	ID   string `path:"id"`
	Body CloselyAsked
}) (*body[store.Revision], error) {
	_, then, err := s.laid(ctx, in.ID, &in.Body, true)
	if err != nil {
		return nil, err
	}
	return revised(s.store.Change(ctx, in.rev, who, "laid closely: "+strings.TrimSpace(in.ID), func(sh *shop.Shop) error {
		sh.Homes, sh.Places = then.Homes, then.Places
		return nil
	}))
}
