package api

import (
	"context"
	"fmt"
	"hobrak/internal/core/fit"
	"hobrak/internal/core/keeping"
	"hobrak/internal/core/length"
	"hobrak/internal/core/shop"
	"hobrak/internal/core/storage"
	"hobrak/internal/store"
	"maps"
	"net/http"
	"slices"
	"strings"

	"github.com/danielgtaylor/huma/v2"
)

func (s *Server) placeRoutes() {
	listed(s, "places", "place", func(sh *shop.Shop) []shop.Place { return sh.Places }, func(x *shop.Place) string { return x.ID }, wantedPlace)
	huma.Register(s.api, described(huma.Operation{OperationID: "layout", Method: http.MethodGet, Path: "/api/v1/places/{id}/layout", Summary: "A place seen from the side that shows what is in it"}), s.layout)
	huma.Register(s.api, described(huma.Operation{OperationID: "worth", Method: http.MethodGet, Path: "/api/v1/places/{id}/worth", Summary: "How full a place is, and who gains most by living there"}), s.worth)
	huma.Register(s.api, described(huma.Operation{OperationID: "try-storage", Method: http.MethodPost, Path: "/api/v1/places/{id}/try", Summary: "What moving a place or container there would do", MaxBodyBytes: smallBody}), s.tryStorage)
	huma.Register(s.api, described(huma.Operation{OperationID: "move-storage", Method: http.MethodPut, Path: "/api/v1/places/{id}/at", Summary: "Move a place or container; what is in it moves along", MaxBodyBytes: smallBody}), s.moveStorage)
	huma.Register(s.api, described(huma.Operation{OperationID: "set-storage", Method: http.MethodPatch, Path: "/api/v1/places/{id}", Summary: "Put what was typed into a field of a place or container", MaxBodyBytes: smallBody}), s.setStorage)
	huma.Register(s.api, described(huma.Operation{OperationID: "remove-storage", Method: http.MethodDelete, Path: "/api/v1/places/{id}", Summary: "Take a place or container away; its things stay, without a home"}), s.removeStorage)
}

// placesWanted is what a list of places can be asked for.
type placesWanted struct {
	Kind shop.PlaceKind `query:"kind"`
	In   string         `query:"in" maxLength:"64" doc:"container it is in"`
	Wall string         `query:"wall" maxLength:"64"`
	Area string         `query:"area" maxLength:"64"`
}

// wantedPlace tells whether one is asked for.
func wantedPlace(_ *shop.Shop, p *shop.Place, in *placesWanted) bool {
	return (in.Kind == "" || in.Kind == p.Kind) && asked(in.In, p.At.In) && asked(in.Wall, p.At.Wall) && asked(in.Area, p.At.Area)
}

// Opened is a place seen from the side that shows what is in it, with what can
// be said of how it is made. Lengths are mm; 0 is not known.
type Opened struct {
	storage.Layout
	Hung   string  `json:"hung" doc:"what is screwed to the wall: the place or its container; empty when nothing is"`
	Screws int     `json:"screws" doc:"of what is hung, those that hit studs"`
	Screw  float64 `json:"screw" doc:"diameter"`
	Thread float64 `json:"thread"`
	Side   float64 `json:"side"`
	Lever  float64 `json:"lever"`
	Board  bool    `json:"board" doc:"what is in it rests on a board"`
	Wood   string  `json:"wood" doc:"of its board"`
	Thick  float64 `json:"thick"`
	Strip  float64 `json:"strip"`
	Piles  bool    `json:"piles" doc:"what is in it lies on arms"`
	Arms   int     `json:"arms" doc:"of a rack, on each level"`
}

func opened(sh *shop.Shop, ix *shop.Index, p *shop.Place) Opened {
	out := Opened{Layout: storage.As(sh, ix, p), Board: keeping.Of(p).Boarded(), Piles: keeping.Of(p).Form() == keeping.Piles, Arms: p.Arms}
	if b := p.Board; b != nil {
		out.Wood, out.Thick, out.Strip = b.Wood, b.T.MM(), b.Strip.MM()
	}
	f := p.Fixing
	if p.At.Wall != "" {
		out.Hung = p.ID
	} else if c := ix.Container(p.At.In); c != nil && c.At.Wall != "" && !c.Kind.OnDoor() {
		out.Hung, f = c.ID, c.Fixing
	}
	if f != nil {
		out.Screws, out.Screw, out.Thread, out.Side, out.Lever = f.Screws, f.D.MM(), f.Thread.MM(), f.Side.MM(), f.Lever.MM()
	}
	return out
}

// Put says where something goes: on a wall at x and z, or on the floor.
type Put struct {
	Area  string      `json:"area,omitempty"`
	Wall  string      `json:"wall,omitempty"`
	X     float64     `json:"x,omitempty" minimum:"0" maximum:"50000"`
	Z     float64     `json:"z,omitempty" minimum:"0" maximum:"6000"`
	Floor *[2]float64 `json:"floor,omitempty"`
	// Station is the bench it goes under, at x from the left of its front.
	Station string `json:"station,omitempty"`
	// On is the place a box goes on, at x from its left, y from its front and z up a field.
	On string  `json:"on,omitempty"`
	Y  float64 `json:"y,omitempty" minimum:"0" maximum:"20000"`
	// Ceiling is the lower left corner of its footprint, its underside at z.
	Ceiling *[2]float64 `json:"ceiling,omitempty"`
	Rot     float64     `json:"rot,omitempty" minimum:"-360" maximum:"360"`
}

func (p *Put) at(sh *shop.Shop) shop.At {
	at := shop.At{Area: p.Area, Wall: p.Wall, X: length.MM(p.X), Z: length.MM(p.Z), Rot: p.Rot}
	if len(sh.Areas) > 0 && at.Area == sh.Areas[0].ID {
		at.Area = ""
	}
	if p.Floor != nil {
		at.Wall, at.X, at.Z = "", 0, 0
		at.Floor = &shop.Point{length.MM(p.Floor[0]), length.MM(p.Floor[1])}
	}
	if p.Station != "" {
		at = shop.At{Station: p.Station, X: length.MM(p.X)}
	}
	if p.On != "" {
		at = shop.At{In: p.On, X: length.MM(p.X), Y: length.MM(p.Y), Z: length.MM(p.Z)}
	}
	if p.Ceiling != nil {
		at.Wall, at.X = "", 0
		at.Ceiling = &shop.Point{length.MM(p.Ceiling[0]), length.MM(p.Ceiling[1])}
	}
	return at
}

// typed puts lengths as typed in the place of numbers; the error names the field.
func (p *Put) typed(sh *shop.Shop, texts map[string]string) error {
	for _, f := range slices.Sorted(maps.Keys(texts)) {
		l, err := length.Parse(texts[f], sh.Settings.Units)
		if err == nil && (l < 0 || l > 50*length.Metre) {
			err = fmt.Errorf("%s should be from 0 to 50 m", texts[f])
		}
		if err != nil {
			return huma.Error422UnprocessableEntity(err.Error(), &huma.ErrorDetail{Location: "body.typed." + f, Message: err.Error(), Value: texts[f]})
		}
		switch {
		case p.Floor != nil && f == "x":
			p.Floor[0] = l.MM()
		case p.Floor != nil && f == "y":
			p.Floor[1] = l.MM()
		case f == "x":
			p.X = l.MM()
		case f == "z":
			p.Z = l.MM()
		}
	}
	return nil
}

func (s *Server) layout(_ context.Context, in *byID) (*body[Opened], error) {
	sh, _ := s.store.Snapshot()
	ix := shop.NewIndex(sh)
	p := ix.Place(in.ID)
	if p == nil {
		return nil, huma.Error404NotFound(fmt.Sprintf("there is no place %q", in.ID), &huma.ErrorDetail{Location: "path.id", Value: in.ID})
	}
	return &body[Opened]{opened(sh, ix, p)}, nil
}

func (s *Server) worth(_ context.Context, in *struct {
	ID string `path:"id"`
}) (*body[fit.Worth], error) {
	v, err := s.now()
	if err != nil {
		return nil, problem(err)
	}
	if shop.NewIndex(v.shop).Place(in.ID) == nil {
		return nil, huma.Error404NotFound(fmt.Sprintf("there is no place %q", in.ID), &huma.ErrorDetail{Location: "path.id", Value: in.ID})
	}
	v.mu.Lock()
	defer v.mu.Unlock()
	return &body[fit.Worth]{v.asIs.WorthOf(in.ID)}, nil
}

func (s *Server) tryStorage(_ context.Context, in *struct {
	ID   string `path:"id"`
	Body struct {
		At Put `json:"at"`
	}
}) (*body[storage.Trial], error) {
	v, err := s.now()
	if err != nil {
		return nil, problem(err)
	}
	got, err := storage.Try(v.asIs.Map(), v.findings(), in.ID, in.Body.At.at(v.shop))
	if err != nil {
		return nil, refusedStorage(err)
	}
	return &body[storage.Trial]{*got}, nil
}

func (s *Server) moveStorage(ctx context.Context, in *struct {
	Match
	ID   string `path:"id"`
	Body struct {
		At Put `json:"at"`
		// Typed are lengths as typed, in either system: x and z on a wall, x and y on the floor.
		Typed map[string]string `json:"typed,omitempty"`
	}
}) (*body[store.Revision], error) {
	// What is dragged there is asked about first; what is typed says how it stands.
	if v, err := s.now(); err == nil && v.revision == in.rev && len(in.Body.Typed) == 0 {
		got, err := storage.Try(v.asIs.Map(), v.findings(), in.ID, in.Body.At.at(v.shop))
		if err != nil {
			return nil, refusedStorage(err)
		}
		if !got.Allowed {
			p := &huma.ErrorModel{Title: "Unprocessable Entity", Status: http.StatusUnprocessableEntity, Detail: fmt.Sprintf("%s stays where it is: %s.", in.ID, strings.Join(got.Broken, "; "))}
			for _, why := range got.Broken {
				p.Errors = append(p.Errors, &huma.ErrorDetail{Location: "body.at", Message: why})
			}
			return nil, p
		}
	}
	return revised(s.store.Change(ctx, in.rev, who, in.ID+" moved", func(sh *shop.Shop) error {
		if err := in.Body.At.typed(sh, in.Body.Typed); err != nil {
			return err
		}
		if err := storage.Move(sh, in.ID, in.Body.At.at(sh)); err != nil {
			return refusedStorage(err)
		}
		return nil
	}))
}

func (s *Server) setStorage(ctx context.Context, in *struct {
	Match
	ID   string `path:"id"`
	Body struct {
		Field string `json:"field" maxLength:"40"`
		Text  string `json:"text" maxLength:"200"`
	}
}) (*body[store.Revision], error) {
	return revised(s.store.Change(ctx, in.rev, who, fmt.Sprintf("%s of %s: %s", in.Body.Field, in.ID, in.Body.Text), func(sh *shop.Shop) error {
		if err := storage.Set(sh, in.ID, in.Body.Field, in.Body.Text); err != nil {
			return huma.Error422UnprocessableEntity(err.Error(), &huma.ErrorDetail{Location: "body.text", Message: err.Error(), Value: in.Body.Text})
		}
		return nil
	}))
}

func (s *Server) removeStorage(ctx context.Context, in *struct {
	ID string `path:"id"`
	Match
}) (*body[Listed], error) {
	var lost []string
	rev, err := s.store.Change(ctx, in.rev, who, in.ID+" taken away", func(sh *shop.Shop) (err error) {
		if lost, err = storage.Remove(sh, in.ID); err != nil {
			return refusedStorage(err)
		}
		return nil
	})
	if err != nil {
		return nil, problem(err)
	}
	return &body[Listed]{Listed{rev, notNil(lost), []string{}}}, nil
}
