package api

import (
	"bytes"
	"context"
	"errors"
	"fmt"
	"net/http"
	"strconv"
	"time"

	"github.com/danielgtaylor/huma/v2"

	"hobrak/internal/core/event"
	"hobrak/internal/core/shop"
	"hobrak/internal/exchange"
	"hobrak/internal/store"
)

func (s *Server) eventRoutes() {
	huma.Register(s.api, described(huma.Operation{OperationID: "list-events", Method: http.MethodGet, Path: "/api/v1/events", Tags: []string{"events"}, Summary: "What happened, the newest first",
		Description: "Events that were taken back are left out. The next page begins before the id of the last event of this one."}), s.listEvents)
	huma.Register(s.api, described(huma.Operation{OperationID: "get-event", Method: http.MethodGet, Path: "/api/v1/events/{id}", Tags: []string{"events"}, Summary: "One event, taken back or not"}), s.getEvent)
	huma.Register(s.api, described(huma.Operation{OperationID: "add-event", Method: http.MethodPost, Path: "/api/v1/events", Tags: []string{"events"}, Summary: "Note what happened", DefaultStatus: http.StatusCreated, MaxBodyBytes: smallBody,
		Description: "Nothing of the shop changes, undo leaves it alone. To take an event back, note one with what taken-back that corrects its number."}), s.addEvent)
	huma.Register(s.api, described(huma.Operation{OperationID: "export-events", Method: http.MethodGet, Path: "/api/v1/log/events.csv", Summary: "What happened, as a table"}), s.exportEvents)
	huma.Register(s.api, described(huma.Operation{OperationID: "list-uses", Method: http.MethodGet, Path: "/api/v1/uses", Tags: []string{"events"}, Summary: "How often things were used of late, and when last"}), s.listUses)
}

// The routes of events: what happened in the shop, beside it. They take no base and make
// nothing stale; one that was not so is taken back by another.

// Happening is what is recorded of something that happened.
type Happening struct {
	At       string     `json:"at,omitempty" maxLength:"40" doc:"a day or a time; now when left out" example:"2027-05-31"`
	What     event.Kind `json:"what" doc:"what happened" example:"used"`
	Item     string     `json:"item,omitempty" maxLength:"64" doc:"id of the thing" example:"jack-plane"`
	Place    string     `json:"place,omitempty" maxLength:"64" doc:"id of the place; of a use where the thing lives, when left out"`
	N        int        `json:"n,omitempty" minimum:"1" maximum:"10000" doc:"how many, or how often; 1 when left out"`
	Note     string     `json:"note,omitempty" maxLength:"4000"`
	Device   string     `json:"device,omitempty" maxLength:"100" doc:"what it was noted with"`
	Corrects int64      `json:"corrects,omitempty" minimum:"1" doc:"number of the event that was not so"`
}

// OfEvents is which events are meant.
type OfEvents struct {
	Item  string `query:"item" maxLength:"64" doc:"of this thing"`
	Place string `query:"place" maxLength:"64" doc:"at this place"`
	What  string `query:"what" maxLength:"20" doc:"of this kind"`
	From  string `query:"from" maxLength:"10" doc:"first day" example:"2027-05-01"`
	To    string `query:"to" maxLength:"10" doc:"last day"`
	Q     string `query:"q" maxLength:"200" doc:"words, each of which stands in the thing, the place, who or to whom, the note, or where it is meanwhile"`
}

func (o *OfEvents) filter() event.Filter {
	return event.Filter{Item: o.Item, Place: o.Place, What: event.Kind(o.What), From: o.From, To: o.To, Text: o.Q}
}

// mostInTable of the events that a table has.
const mostInTable = 1_000_000

func (s *Server) exportEvents(ctx context.Context, in *struct{ OfEvents }) (*paper, error) {
	list, err := s.store.Events(ctx, in.filter(), 0, mostInTable)
	if err != nil {
		return nil, problem(err)
	}
	sh, _ := s.store.Snapshot()
	ix := shop.NewIndex(sh)
	rows := [][]string{{"number", "when", "what", "thing", "count", "place", "who", "to whom", "back by", "meanwhile", "note", "noted with"}}
	for i := range list {
		e := &list[i]
		name := e.Item
		if it := ix.Item(e.Item); it != nil {
			name = it.Name
		}
		rows = append(rows, []string{strconv.FormatInt(e.ID, 10), e.At, string(e.What), name, strconv.Itoa(e.Number()), e.Place, e.Who, e.To, e.Due, e.On, e.Note, e.Device})
	}
	var b bytes.Buffer
	if err := exchange.WriteCSV(&b, rows); err != nil {
		return nil, problem(err)
	}
	return &paper{"text/csv; charset=utf-8", `attachment; filename="log.csv"`, b.Bytes()}, nil
}

func (s *Server) listEvents(ctx context.Context, in *struct {
	OfEvents
	Before int64 `query:"before" minimum:"0" doc:"with smaller numbers than this"`
	Limit  int   `query:"limit" minimum:"1" maximum:"1000" default:"100"`
}) (*body[[]event.Event], error) {
	list, err := s.store.Events(ctx, in.filter(), in.Before, in.Limit)
	if err != nil {
		return nil, problem(err)
	}
	return &body[[]event.Event]{notNil(list)}, nil
}

func (s *Server) getEvent(ctx context.Context, in *struct {
	ID int64 `path:"id" minimum:"1"`
}) (*body[event.Event], error) {
	e, err := s.store.Event(ctx, in.ID)
	if errors.Is(err, store.ErrNoEvent) {
		return nil, huma.Error404NotFound(fmt.Sprintf("there is no event %d", in.ID))
	}
	if err != nil {
		return nil, problem(err)
	}
	return &body[event.Event]{e}, nil
}

func (s *Server) addEvent(ctx context.Context, in *struct{ Body Happening }) (*body[event.Event], error) {
	h := &in.Body
	sh, _ := s.store.Snapshot()
	if h.Item != "" {
		known := false
		for i := range sh.Items {
			known = known || sh.Items[i].ID == h.Item
		}
		if !known {
			return nil, noItem(h.Item)
		}
	}
	if h.Place == "" && h.Item != "" {
		for i := range sh.Homes {
			if sh.Homes[i].Item == h.Item {
				h.Place = sh.Homes[i].Place
				break
			}
		}
	}
	list, err := s.store.Happened(ctx, event.Event{At: h.At, Who: who, What: h.What, Item: h.Item, Place: h.Place, N: h.N, Note: h.Note, Device: h.Device, Corrects: h.Corrects})
	var wrong *store.EventError
	switch {
	case errors.As(err, &wrong):
		return nil, huma.Error422UnprocessableEntity(wrong.Reason, &huma.ErrorDetail{Location: "body." + wrong.Field, Message: wrong.Reason})
	case err != nil:
		return nil, problem(err)
	}
	return &body[event.Event]{list[0]}, nil
}

// UsesOf a thing.
type UsesOf struct {
	Item string `json:"item"`
	N    int    `json:"n" doc:"uses in the days asked for"`
	Last string `json:"last" doc:"day of the last use, of all time"`
}

func (s *Server) listUses(ctx context.Context, in *struct {
	Days int `query:"days" minimum:"1" maximum:"3660" default:"90" doc:"up to today"`
}) (*body[[]UsesOf], error) {
	now := today()
	n, err := s.store.Uses(ctx, now.AddDate(0, 0, 1-in.Days).Format(time.DateOnly), now.Format(time.DateOnly))
	if err != nil {
		return nil, problem(err)
	}
	last, err := s.store.LastUsed(ctx)
	if err != nil {
		return nil, problem(err)
	}
	out := []UsesOf{}
	sh, _ := s.store.Snapshot()
	for i := range sh.Items {
		if id := sh.Items[i].ID; last[id] != "" {
			out = append(out, UsesOf{id, n[id], last[id]})
		}
	}
	return &body[[]UsesOf]{out}, nil
}

// Happened tells that an event was noted; what it was is asked for.
type Happened struct{}
