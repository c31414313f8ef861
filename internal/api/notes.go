package api

import (
	"context"
	"errors"
	"net/http"

	"github.com/danielgtaylor/huma/v2"

	"hobrak/internal/core/belongings"
	"hobrak/internal/core/floor"
	"hobrak/internal/core/note"
	"hobrak/internal/core/shop"
	"hobrak/internal/core/storage"
	"hobrak/internal/store"
)

func (s *Server) noteRoutes() {
	huma.Register(s.api, described(huma.Operation{OperationID: "read-note", Method: http.MethodPost, Path: "/api/v1/notes/{about}", Summary: "What would this line about a room, a station or a place be taken for?", MaxBodyBytes: smallBody}), s.readNote)
	huma.Register(s.api, described(huma.Operation{OperationID: "note-place", Method: http.MethodPost, Path: "/api/v1/places/stated", Summary: "State storage that is there, empty", MaxBodyBytes: smallBody}), s.notePlace)
	huma.Register(s.api, described(huma.Operation{OperationID: "note-room", Method: http.MethodPut, Path: "/api/v1/areas/{id}/outline", Summary: "Give an area the walls that a line says", MaxBodyBytes: smallBody}), s.noteRoom)
}

// Noted is a line with what it was taken for.
type Noted struct {
	Chips []note.Chip `json:"chips" nullable:"false"`
	Why   string      `json:"why" doc:"why nothing can be made of it; empty when something can"`
}

// lineText is a line as typed.
type lineText struct {
	Text string `json:"text" maxLength:"2000"`
}

func (s *Server) readNote(_ context.Context, in *struct {
	About string `path:"about" enum:"room,station,place"`
	Body  lineText
}) (*body[Noted], error) {
	sh, _ := s.store.Snapshot()
	r, _ := note.Read(sh, in.About, in.Body.Text)
	return &body[Noted]{Noted{r.Chips, r.Why}}, nil
}

// Redrawn is what became of a room.
type Redrawn struct {
	Revision store.Revision `json:"revision"`
	Moved    []string       `json:"moved" nullable:"false" doc:"stations that had to be put elsewhere"`
}

func (s *Server) noteRoom(ctx context.Context, in *struct {
	Match
	ID   string `path:"id"`
	Body lineText
}) (*body[Redrawn], error) {
	sh, _ := s.store.Snapshot()
	if shop.NewIndex(sh).Area(in.ID) == nil {
		return nil, noArea(in.ID)
	}
	read := note.Room(sh, in.Body.Text)
	if read.Area == nil {
		return nil, unread(read.Reading)
	}
	var moved []string
	rev, err := s.store.Change(ctx, in.rev, who, "the room: "+short(in.Body.Text), func(sh *shop.Shop) (err error) {
		moved, err = floor.Outline(sh, in.ID, read.Area)
		return err
	})
	if err != nil {
		return nil, floorProblem(err)
	}
	return &body[Redrawn]{Redrawn{rev, notNil(moved)}}, nil
}

// unread says what of a line is not clear.
func unread(r note.Reading) error {
	c := r.Wrong()
	return huma.Error422UnprocessableEntity(c.Says, &huma.ErrorDetail{Location: "body.text", Message: c.Says, Value: c.Text})
}

// short is the beginning of a line, for the history.
func short(text string) string {
	if r := []rune(text); len(r) > 60 {
		return string(r[:60]) + " …"
	}
	return text
}

func floorProblem(err error) error {
	var none *floor.NoSpot
	if errors.As(err, &none) {
		return huma.Error422UnprocessableEntity(none.Why)
	}
	return itemProblem(err)
}

func (s *Server) notePlace(ctx context.Context, in *struct {
	Match
	Body lineText
}) (*body[Stood], error) {
	sh, _ := s.store.Snapshot()
	read := note.Place(sh, in.Body.Text)
	if read.Entry == nil {
		return nil, unread(read.Reading)
	}
	var id, blocked string
	rev, err := s.store.Change(ctx, in.rev, who, "there is: "+short(in.Body.Text), func(sh *shop.Shop) (err error) {
		if id, blocked, err = storage.State(sh, read); err != nil {
			return &belongings.FieldError{Field: "text", Reason: err.Error()}
		}
		return nil
	})
	if err != nil {
		return nil, floorProblem(err)
	}
	return &body[Stood]{Stood{rev, []string{id}, blocked}}, nil
}
