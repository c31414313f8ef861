package api

import (
	"context"
	"fmt"
	"net/http"
	"strings"

	"github.com/danielgtaylor/huma/v2"

	"hobrak/internal/core/event"
	"hobrak/internal/core/keeping"
	"hobrak/internal/core/lookround"
	"hobrak/internal/core/shop"
	"hobrak/internal/exchange"
	"hobrak/internal/photo"
	"hobrak/internal/store"
)

// The routes of looking round: is everything where it lives, place by place; and of codes that are scanned.

func (s *Server) lookRoutes() {
	huma.Register(s.api, described(huma.Operation{OperationID: "get-look", Method: http.MethodGet, Path: "/api/v1/look", Summary: "The look round that goes on, or the last one"}), s.getLook)
	huma.Register(s.api, described(huma.Operation{OperationID: "begin-look", Method: http.MethodPost, Path: "/api/v1/look", Summary: "Begin to look round", MaxBodyBytes: smallBody}), s.beginLook)
	huma.Register(s.api, described(huma.Operation{OperationID: "see", Method: http.MethodPost, Path: "/api/v1/look/sights", Summary: "What is there, missing, elsewhere, or not on the list", MaxBodyBytes: smallBody}), s.see)
	huma.Register(s.api, described(huma.Operation{OperationID: "end-look", Method: http.MethodPost, Path: "/api/v1/look/end", Summary: "End it: what is missing and when it was last seen"}), s.endLook)
	huma.Register(s.api, described(huma.Operation{OperationID: "place-page", Method: http.MethodGet, Path: "/api/v1/places/{id}/page", Summary: "What belongs in a place or box, what is there and what is out"}), s.placePage)
	huma.Register(s.api, described(huma.Operation{OperationID: "read-code", Method: http.MethodPost, Path: "/api/v1/codes", Summary: "Read the code on a photograph of a label", MaxBodyBytes: photo.MaxFile, SkipValidateBody: true, Middlewares: huma.Middlewares{s.notOver(photo.MaxFile, "photograph")}}), s.readCode)
}

// LookRound is a look with what there is to look at.
type LookRound struct {
	Look    *store.Look       `json:"look,omitempty" doc:"left out when nobody ever looked"`
	Stops   []lookround.Stop  `json:"stops" nullable:"false"`
	Outcome lookround.Outcome `json:"outcome"`
	Last    map[string]string `json:"last" nullable:"false" doc:"of what is missing: when and where it was last, by item"`
}

func (s *Server) lookNow(ctx context.Context, l *store.Look) (*body[LookRound], error) {
	out := LookRound{Look: l, Stops: []lookround.Stop{}, Last: map[string]string{}}
	out.Outcome = lookround.Sum(nil)
	if l == nil {
		return &body[LookRound]{out}, nil
	}
	v, err := s.now()
	if err != nil {
		return nil, problem(err)
	}
	sights, err := s.store.Sights(ctx, l)
	if err != nil {
		return nil, problem(err)
	}
	away, err := s.store.Outstanding(ctx)
	if err != nil {
		return nil, problem(err)
	}
	out.Stops = lookround.Stops(v.shop, v.round, l.Scope, sights, away)
	out.Outcome = lookround.Sum(out.Stops)
	var ids []string
	for _, t := range out.Outcome.Missing {
		ids = append(ids, t.Item)
	}
	last, err := s.store.LastSeen(ctx, ids)
	if err != nil {
		return nil, problem(err)
	}
	for id, e := range last {
		says := e.Day()
		if e.Place != "" {
			says += " in " + e.Place
		}
		if e.To != "" {
			says += ", with " + e.To
		}
		out.Last[id] = says
	}
	return &body[LookRound]{out}, nil
}

func (s *Server) getLook(ctx context.Context, _ *struct{}) (*body[LookRound], error) {
	l, err := s.store.LastLook(ctx)
	if err != nil {
		return nil, problem(err)
	}
	return s.lookNow(ctx, l)
}

func (s *Server) beginLook(ctx context.Context, in *struct {
	Body struct {
		Scope string `json:"scope,omitempty" maxLength:"130" doc:"area and wall, as main:B; an area alone for all of it; everything when left out"`
	}
}) (*body[LookRound], error) {
	l, err := s.store.BeginLook(ctx, in.Body.Scope)
	if err != nil {
		return nil, problem(err)
	}
	return s.lookNow(ctx, l)
}

func (s *Server) see(ctx context.Context, in *struct {
	Body struct {
		Place string   `json:"place" minLength:"1" maxLength:"64"`
		Items []string `json:"items,omitempty" maxItems:"500" doc:"ids of things that live there"`
		State string   `json:"state" enum:"there,missing,elsewhere,unknown"`
		N     int      `json:"n,omitempty" minimum:"0" maximum:"10000" doc:"how many were counted; not counted when left out"`
		At    string   `json:"at,omitempty" maxLength:"64" doc:"where it was found, when elsewhere"`
		What  string   `json:"what,omitempty" maxLength:"200" doc:"what was found, when it is not on the list"`
	}
}) (*body[LookRound], error) {
	b := &in.Body
	l, err := s.store.LastLook(ctx)
	if err != nil {
		return nil, problem(err)
	}
	if l == nil || l.Ended != "" {
		return nil, huma.Error409Conflict("nobody looks round: begin first; what was seen before is kept")
	}
	sh, _ := s.store.Snapshot()
	ix := shop.NewIndex(sh)
	if ix.Place(b.Place) == nil {
		return nil, huma.Error422UnprocessableEntity(fmt.Sprintf("there is no place %q any more", b.Place), &huma.ErrorDetail{Location: "body.place", Message: "there is no such place", Value: b.Place})
	}
	if b.State == lookround.Elsewhere && ix.Place(b.At) == nil {
		return nil, huma.Error422UnprocessableEntity("say in which place it was found, by its address", &huma.ErrorDetail{Location: "body.at", Message: "there is no such place", Value: b.At})
	}
	var list []event.Event
	for _, id := range b.Items {
		if ix.Item(id) == nil {
			return nil, noItem(id)
		}
		e := event.Event{Who: who, Item: id, Place: b.Place, N: b.N, Device: l.Device()}
		switch b.State {
		case lookround.There:
			e.What = event.Seen
		case lookround.Missing:
			e.What = event.Missed
		case lookround.Elsewhere:
			e.What, e.Place, e.Note = event.Seen, b.At, b.Place
		}
		list = append(list, e)
	}
	if b.State == "unknown" {
		if strings.TrimSpace(b.What) == "" {
			return nil, huma.Error422UnprocessableEntity("say what it is, in a word or two", &huma.ErrorDetail{Location: "body.what", Message: "say what it is, in a word or two"})
		}
		list = []event.Event{{Who: who, What: event.Noted, Place: b.Place, Note: strings.TrimSpace(b.What), Device: l.Device()}}
	}
	if _, err := s.store.Happened(ctx, list...); err != nil {
		return nil, problem(err)
	}
	return s.lookNow(ctx, l)
}

func (s *Server) endLook(ctx context.Context, _ *struct{}) (*body[LookRound], error) {
	l, err := s.store.LastLook(ctx)
	if err != nil {
		return nil, problem(err)
	}
	if l != nil {
		if err := s.store.EndLook(ctx, l.ID); err != nil {
			return nil, problem(err)
		}
		l, err = s.store.LastLook(ctx)
		if err != nil {
			return nil, problem(err)
		}
	}
	return s.lookNow(ctx, l)
}

// PlacePage is what a code opens.
type PlacePage struct {
	ID       string            `json:"id"`
	Name     string            `json:"name"`
	Where    string            `json:"where" doc:"in words"`
	Caution  string            `json:"caution" doc:"before one reaches in; empty when none"`
	Portable bool              `json:"portable" doc:"it is a box that is carried with what is in it"`
	Things   []lookround.Thing `json:"things" nullable:"false"`
	Out      []OutNow          `json:"out" nullable:"false" doc:"what lives there and is out"`
}

func (s *Server) placePage(ctx context.Context, in *struct {
	ID string `path:"id" maxLength:"64"`
}) (*body[PlacePage], error) {
	v, err := s.now()
	if err != nil {
		return nil, problem(err)
	}
	away, err := s.store.Outstanding(ctx)
	if err != nil {
		return nil, problem(err)
	}
	ix := shop.NewIndex(v.shop)
	out := PlacePage{ID: in.ID, Things: []lookround.Thing{}, Out: []OutNow{}}
	meant := func(q *shop.Place) bool { return q.ID == in.ID }
	switch p, c := ix.Place(in.ID), ix.Container(in.ID); {
	case p != nil:
		out.Name, out.Where = p.Name, v.inWords(p)
	case c != nil:
		out.Name, out.Portable = c.Name, c.Portable
		meant = func(q *shop.Place) bool { return ix.Within(q, c.ID) }
	default:
		return nil, huma.Error404NotFound(fmt.Sprintf("there is no place or box %q any more: its label is an old one", in.ID))
	}
	gone := away.Out()
	edges := 0
	for _, x := range ix.LivesIn(meant) {
		for _, h := range ix.Homes(x.Item.ID) {
			if q := ix.Place(h.Place); x.Item.Flagged(shop.Sharp) && q != nil && meant(q) && keeping.Of(q).Form() != keeping.Upright {
				edges++
			}
		}
		out.Things = append(out.Things, lookround.Thing{Item: x.Item.ID, Name: x.Item.Name, N: x.N, Out: min(x.N, gone[x.Item.ID])})
		for k := range away {
			if away[k].Item == x.Item.ID {
				out.Out = append(out.Out, v.outNow(&away[k]))
			}
		}
	}
	if edges > 0 {
		out.Caution = "edges in it: open it all the way and look before you reach in"
	}
	return &body[PlacePage]{out}, nil
}

// Scanned is what a code says.
type Scanned struct {
	Text string `json:"text"`
	Of   string `json:"of" enum:",place,container,item" doc:"empty when it is no code of this shop"`
	ID   string `json:"id"`
	Says string `json:"says" doc:"what is wrong with it, in words; empty when nothing"`
}

func (s *Server) readCode(ctx context.Context, in *struct{ RawBody []byte }) (*body[Scanned], error) {
	img, err := photo.Open(ctx, in.RawBody)
	if err != nil {
		return nil, huma.Error422UnprocessableEntity(err.Error(), &huma.ErrorDetail{Location: "body", Message: err.Error()})
	}
	text, err := exchange.ReadCode(img)
	if err != nil {
		return nil, huma.Error422UnprocessableEntity(err.Error(), &huma.ErrorDetail{Location: "body", Message: err.Error()})
	}
	sh, _ := s.store.Snapshot()
	return &body[Scanned]{scanned(sh, text)}, nil
}

// scanned says which label a code is of.
func scanned(sh *shop.Shop, text string) Scanned {
	out := Scanned{Text: text}
	of, id := "", ""
	if rest, ok := strings.CutPrefix(text, "hobrak:"); ok {
		of, id, _ = strings.Cut(rest, ":")
	} else if _, rest, ok := strings.Cut(text, "/s/"); ok && strings.HasPrefix(text, "http") {
		of, id, _ = strings.Cut(rest, "/")
	}
	ix := shop.NewIndex(sh)
	there := false
	switch of {
	case "p", "place":
		out.Of, there = "place", ix.Place(id) != nil
	case "c", "container":
		out.Of, there = "container", ix.Container(id) != nil
	case "i", "item":
		out.Of, there = "item", ix.Item(id) != nil
	default:
		out.Says = "this is no label of a shop"
		return out
	}
	out.ID = id
	if !there {
		out.Says = fmt.Sprintf("%s is not in this shop any more: the label is an old one, or of another shop", id)
	}
	return out
}
