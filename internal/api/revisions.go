package api

import (
	"context"
	"errors"
	"net/http"
	"time"

	"github.com/danielgtaylor/huma/v2"
	"github.com/danielgtaylor/huma/v2/sse"

	"hobrak/internal/core/between"
	"hobrak/internal/core/shop"
	"hobrak/internal/store"
)

func (s *Server) revisionRoutes() {
	huma.Register(s.api, described(huma.Operation{OperationID: "undo", Method: http.MethodPost, Path: "/api/v1/undo", Summary: "Take the newest change back", MaxBodyBytes: smallBody}), s.undo)
	huma.Register(s.api, described(huma.Operation{OperationID: "redo", Method: http.MethodPost, Path: "/api/v1/redo", Summary: "Do again what was undone", MaxBodyBytes: smallBody}), s.redo)
	huma.Register(s.api, described(huma.Operation{OperationID: "list-revisions", Method: http.MethodGet, Path: "/api/v1/revisions", Summary: "Revisions, the newest first"}), s.listRevisions)
	huma.Register(s.api, described(huma.Operation{OperationID: "get-revision", Method: http.MethodGet, Path: "/api/v1/revisions/{id}", Summary: "One revision"}), s.getRevision)
	huma.Register(s.api, described(huma.Operation{OperationID: "go-back", Method: http.MethodPost, Path: "/api/v1/revisions/{id}/restore", Summary: "Make the shop what it was after a revision", MaxBodyBytes: smallBody}), s.goBack)
	huma.Register(s.api, described(huma.Operation{OperationID: "compare-revisions", Method: http.MethodGet, Path: "/api/v1/revisions/{id}/until/{later}", Summary: "What is otherwise at a later revision"}), s.betweenRevisions)
	sse.Register(s.api, described(huma.Operation{OperationID: "changes", Method: http.MethodGet, Path: "/api/v1/changes/stream", Summary: "Every revision as it happens, and whenever an event was noted"}),
		map[string]any{"here": Here{}, "revision": store.Revision{}, "happened": Happened{}}, s.changes)
}

// Here is the newest revision when somebody begins to listen.
type Here struct {
	Revision int64  `json:"revision"`
	Start    string `json:"start" doc:"which start of the server it is"`
}

func revised(r store.Revision, err error) (*body[store.Revision], error) {
	if err != nil {
		return nil, problem(err)
	}
	return &body[store.Revision]{r}, nil
}

func (s *Server) undo(ctx context.Context, in *Match) (*body[store.Revision], error) {
	return revised(s.store.Undo(ctx, in.rev, who))
}

func (s *Server) redo(ctx context.Context, in *Match) (*body[store.Revision], error) {
	return revised(s.store.Redo(ctx, in.rev, who))
}

func (s *Server) listRevisions(ctx context.Context, in *struct {
	Of     string `query:"of" maxLength:"64" doc:"only what changed the thing, place or whatever has this id"`
	Before int64  `query:"before" minimum:"0" doc:"only revisions older than this one"`
	Limit  int    `query:"limit" minimum:"1" maximum:"500" default:"50"`
}) (*body[[]store.Revision], error) {
	h, err := s.store.History(ctx, store.Wanted{Of: in.Of, Before: in.Before, Limit: in.Limit})
	if err != nil {
		return nil, problem(err)
	}
	return &body[[]store.Revision]{h}, nil
}

func (s *Server) changes(ctx context.Context, _ *struct{}, send sse.Sender) {
	heard, stop := s.store.Watch()
	defer stop()
	events, deaf := s.store.WatchEvents()
	defer deaf()
	// First where the shop is now: whoever listens again hears what was missed.
	if send.Data(Here{s.store.Head(), s.start}) != nil {
		return
	}
	for {
		select {
		case r, ok := <-heard:
			if !ok || send.Data(r) != nil {
				return
			}
		case <-events:
			if send.Data(Happened{}) != nil {
				return
			}
		case <-ctx.Done():
			return
		case <-s.life.Done():
			return
		}
	}
}

func (s *Server) getRevision(ctx context.Context, in *struct {
	ID int64 `path:"id" minimum:"1"`
}) (*body[store.Revision], error) {
	r, err := s.store.Revision(ctx, in.ID)
	if err != nil {
		return nil, known(err, "path.id", in.ID)
	}
	return &body[store.Revision]{r}, nil
}

// known turns the error about a revision that does not exist into an answer that names the parameter.
func known(err error, where string, id int64) error {
	var none *store.NoRevisionError
	if errors.As(err, &none) {
		return huma.Error404NotFound(err.Error(), &huma.ErrorDetail{Location: where, Message: err.Error(), Value: id})
	}
	return problem(err)
}

func (s *Server) goBack(ctx context.Context, in *struct {
	Match
	ID int64 `path:"id" minimum:"1"`
}) (*body[store.Revision], error) {
	rev, err := s.store.Revision(ctx, in.ID)
	if err != nil {
		return nil, known(err, "path.id", in.ID)
	}
	then, err := s.store.At(ctx, in.ID)
	if err != nil {
		return nil, known(err, "path.id", in.ID)
	}
	return revised(s.store.Change(ctx, in.rev, who, "back to how it was after “"+rev.What+"”", func(sh *shop.Shop) error {
		*sh, sh.Whole = *then, true
		return nil
	}))
}

// Between is what two moments of the shop differ in.
type Between struct {
	between.Result
	From Moment `json:"from"`
	To   Moment `json:"to"`
}

// Moment is a revision with what the homes cost then.
type Moment struct {
	Revision int64     `json:"revision"`
	At       time.Time `json:"at"`
	What     string    `json:"what"`
	Items    int       `json:"items"`
	Homeless int       `json:"homeless"`
	Seconds  float64   `json:"seconds" doc:"weekly handling"`
}

func (s *Server) betweenRevisions(ctx context.Context, in *struct {
	ID    int64 `path:"id" minimum:"1" doc:"the earlier revision"`
	Later int64 `path:"later" minimum:"1"`
}) (*body[Between], error) {
	if in.Later < in.ID {
		in.ID, in.Later = in.Later, in.ID
	}
	before, from, err := s.moment(ctx, "path.id", in.ID)
	if err != nil {
		return nil, err
	}
	after, to, err := s.moment(ctx, "path.later", in.Later)
	if err != nil {
		return nil, err
	}
	return &body[Between]{Between{*between.Of(before, after), *from, *to}}, nil
}

func (s *Server) moment(ctx context.Context, where string, id int64) (*shop.Shop, *Moment, error) {
	rev, err := s.store.Revision(ctx, id)
	if err != nil {
		return nil, nil, known(err, where, id)
	}
	sh, err := s.store.At(ctx, id)
	if err != nil {
		return nil, nil, known(err, where, id)
	}
	v, err := look(sh, id)
	if err != nil {
		return nil, nil, problem(err)
	}
	t := v.round.Totals
	return sh, &Moment{id, rev.At, rev.What, t.Lines, t.Homeless, t.Seconds}, nil
}
