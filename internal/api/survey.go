package api

import (
	"bytes"
	"context"
	"errors"
	"fmt"
	"net/http"
	"slices"

	"github.com/danielgtaylor/huma/v2"

	"hobrak/internal/core/free"
	"hobrak/internal/core/length"
	"hobrak/internal/core/passage"
	"hobrak/internal/core/round"
	"hobrak/internal/core/sheet"
	"hobrak/internal/core/shop"
	"hobrak/internal/core/survey"
	"hobrak/internal/exchange"
	"hobrak/internal/store"
)

// Surveyed is an area with its notes, what the adjustment says of them, and
// the drawing that follows.
type Surveyed struct {
	Revision int64             `json:"revision"`
	Units    length.System     `json:"units"`
	Areas    []AreaName        `json:"areas" nullable:"false"`
	Notes    *survey.Book      `json:"notes"`
	Report   *survey.Report    `json:"report"`
	Room     round.Room        `json:"room"`
	Walls    []round.Elevation `json:"walls" nullable:"false"`
	Above    []Flat            `json:"above" nullable:"false" doc:"what hangs from the ceiling"`
	Below    []Flat            `json:"below" nullable:"false" doc:"posts and steps"`
	Added    string            `json:"added" doc:"path of what the entries added"`
}

// AreaName of one area of the shop.
type AreaName struct {
	ID   string `json:"id"`
	Name string `json:"name"`
}

// Flat is a rectangle on the plan.
type Flat struct {
	ID   string  `json:"id"`
	Kind string  `json:"kind"`
	X    float64 `json:"x"`
	Y    float64 `json:"y"`
	W    float64 `json:"w"`
	D    float64 `json:"d"`
}

// Entry of the survey, as typed.
type Entry struct {
	Path string `json:"path" maxLength:"200" doc:"field of the notes"`
	Text string `json:"text" maxLength:"400" doc:"what was typed; lengths in any unit"`
	With string `json:"with,omitempty" enum:"tape,laser" doc:"what a reading was taken with, where that is not the usual instrument"`
}

// FreeSpace is the free wall and ceiling of a revision.
type FreeSpace struct {
	Revision int64        `json:"revision"`
	Free     *free.Result `json:"free"`
}

type areaPath struct {
	ID string `path:"id"`
}

func noArea(id string) error {
	return huma.Error404NotFound(fmt.Sprintf("there is no area %q", id), &huma.ErrorDetail{Location: "path.id", Value: id})
}

// surveyed gathers all about the survey of an area.
func surveyed(sh *shop.Shop, revision int64, id string) (*body[Surveyed], error) {
	a := shop.NewIndex(sh).Area(id)
	if a == nil {
		return nil, noArea(id)
	}
	out := Surveyed{Revision: revision, Units: sh.Settings.Units, Areas: []AreaName{}, Notes: survey.Notes(sh, a), Report: survey.Of(a),
		Room: round.RoomOf(a), Walls: []round.Elevation{}, Above: []Flat{}, Below: []Flat{}}
	for i := range sh.Areas {
		out.Areas = append(out.Areas, AreaName{sh.Areas[i].ID, sh.Areas[i].Name})
	}
	for i := range a.Walls {
		out.Walls = append(out.Walls, round.WallOf(a, i))
	}
	if a.Ceiling != nil {
		for _, f := range a.Ceiling.Features {
			out.Above = append(out.Above, Flat{f.ID, f.Kind, f.X.MM(), f.Y.MM(), f.W.MM(), f.D.MM()})
		}
	}
	if a.Floor != nil {
		for _, f := range a.Floor.Features {
			out.Below = append(out.Below, Flat{f.ID, f.Kind, f.X.MM(), f.Y.MM(), f.W.MM(), f.D.MM()})
		}
	}
	return &body[Surveyed]{out}, nil
}

// surveying are the routes of the survey.
func (s *Server) surveying() {
	huma.Register(s.api, described(huma.Operation{OperationID: "survey", Method: http.MethodGet, Path: "/api/v1/areas/{id}/survey", Summary: "The survey of an area"}),
		func(_ context.Context, in *areaPath) (*body[Surveyed], error) {
			sh, revision := s.store.Shop()
			return surveyed(sh, revision, in.ID)
		})
	huma.Register(s.api, described(huma.Operation{OperationID: "enter", Method: http.MethodPost, Path: "/api/v1/areas/{id}/survey", Summary: "Enter what was measured, all of it or nothing", MaxBodyBytes: smallBody}),
		func(ctx context.Context, in *struct {
			Match
			ID   string `path:"id"`
			Body struct {
				Entries []Entry `json:"entries" minItems:"1" maxItems:"200"`
			}
		}) (*body[Surveyed], error) {
			added := ""
			sh, _ := s.store.Shop()
			if shop.NewIndex(sh).Area(in.ID) == nil {
				return nil, noArea(in.ID)
			}
			first := in.Body.Entries[0]
			_, err := s.store.Change(ctx, in.rev, who, "survey: "+first.Path, func(sh *shop.Shop) error {
				for _, e := range in.Body.Entries {
					a, err := survey.Enter(sh, in.ID, survey.Entry(e))
					if err != nil {
						return err
					}
					if a != "" {
						added = a
					}
				}
				return nil
			})
			if err != nil && !errors.Is(err, store.ErrNothing) {
				return nil, entryProblem(err, first.Path)
			}
			sh, revision := s.store.Shop()
			out, err := surveyed(sh, revision, in.ID)
			if err != nil {
				return nil, err
			}
			out.Body.Added = added
			return out, nil
		})
	huma.Register(s.api, described(huma.Operation{OperationID: "add-area", Method: http.MethodPost, Path: "/api/v1/areas", Summary: "Add an area that nothing is known of yet", MaxBodyBytes: smallBody}),
		func(ctx context.Context, in *struct {
			Match
			Body struct {
				Name string `json:"name" minLength:"1" maxLength:"80"`
			}
		}) (*body[Surveyed], error) {
			id := ""
			_, err := s.store.Change(ctx, in.rev, who, "area "+in.Body.Name, func(sh *shop.Shop) error { id = survey.NewArea(sh, in.Body.Name); return nil })
			if err != nil {
				return nil, problem(err)
			}
			sh, revision := s.store.Shop()
			return surveyed(sh, revision, id)
		})
	huma.Register(s.api, described(huma.Operation{OperationID: "remove-area", Method: http.MethodDelete, Path: "/api/v1/areas/{id}", Summary: "Take an area away that holds nothing"}),
		func(ctx context.Context, in *struct {
			ID string `path:"id"`
			Match
		}) (*body[store.Revision], error) {
			sh, _ := s.store.Shop()
			i := slices.IndexFunc(sh.Areas, func(a shop.Area) bool { return a.ID == in.ID })
			switch {
			case i < 0:
				return nil, noArea(in.ID)
			case i == 0:
				return nil, huma.Error422UnprocessableEntity("The main area stays; survey it anew instead.")
			}
			return revised(s.store.Change(ctx, in.rev, who, "area "+in.ID+" taken away", func(sh *shop.Shop) error { sh.Areas = slices.Delete(sh.Areas, i, i+1); return nil }))
		})
	huma.Register(s.api, described(huma.Operation{OperationID: "free", Method: http.MethodGet, Path: "/api/v1/free", Summary: "Free wall and ceiling, and what limits them"}),
		func(_ context.Context, _ *struct{}) (*body[FreeSpace], error) {
			v, err := s.now()
			if err != nil {
				return nil, problem(err)
			}
			return &body[FreeSpace]{FreeSpace{v.revision, v.freeSpace()}}, nil
		})
	s.passing()
	s.papers()
}

// entryProblem points at the field that was typed in.
func entryProblem(err error, path string) error {
	var field *survey.FieldError
	if errors.As(err, &field) {
		return huma.Error422UnprocessableEntity(field.Reason, &huma.ErrorDetail{Location: field.Path, Message: field.Reason})
	}
	var faults *shop.Faults
	if errors.As(err, &faults) {
		return huma.Error422UnprocessableEntity(faults.List[0].Message, &huma.ErrorDetail{Location: path, Message: faults.List[0].Message, Value: faults.List[0].Path})
	}
	return problem(err)
}

// passing are the routes that answer whether a piece will go in.
func (s *Server) passing() {
	room := func(id string) (*passage.Room, length.System, error) {
		v, err := s.now()
		if err != nil {
			return nil, "", problem(err)
		}
		m := v.asIs.Map()
		a := m.Index.Area(id)
		if a == nil {
			return nil, "", noArea(id)
		}
		return passage.NewRoom(m, a), v.shop.Settings.Units, nil
	}
	huma.Register(s.api, described(huma.Operation{OperationID: "figures", Method: http.MethodGet, Path: "/api/v1/areas/{id}/figures", Summary: "The longest board and the biggest sheet that go in, turn and stand up"}),
		func(_ context.Context, in *areaPath) (*body[passage.Figures], error) {
			r, _, err := room(in.ID)
			if err != nil {
				return nil, err
			}
			return &body[passage.Figures]{r.Figures()}, nil
		})
	huma.Register(s.api, described(huma.Operation{OperationID: "will-it-go", Method: http.MethodPost, Path: "/api/v1/areas/{id}/will-it-go", Summary: "Does a piece come in, turn and stand up?", MaxBodyBytes: smallBody}),
		func(_ context.Context, in *struct {
			ID   string `path:"id"`
			Body struct {
				Sides []string `json:"sides" minItems:"3" maxItems:"3" doc:"its three sides as typed, in any order and unit"`
			}
		}) (*body[[]passage.Verdict], error) {
			r, units, err := room(in.ID)
			if err != nil {
				return nil, err
			}
			var mm [3]float64
			for i, text := range in.Body.Sides {
				l, err := length.Parse(text, units)
				if err == nil && l <= 0 {
					err = fmt.Errorf("%q should be more than 0", text)
				}
				if err != nil {
					return nil, huma.Error422UnprocessableEntity(err.Error(), &huma.ErrorDetail{Location: fmt.Sprintf("body.sides[%d]", i), Message: err.Error(), Value: text})
				}
				mm[i] = l.MM()
			}
			return &body[[]passage.Verdict]{r.Judge(passage.Piece{A: mm[0], B: mm[1], C: mm[2]})}, nil
		})
}

// paper is a file to look at or print.
type paper struct {
	ContentType string `header:"Content-Type"`
	Disposition string `header:"Content-Disposition"`
	Body        []byte
}

func (s *Server) papers() {
	huma.Register(s.api, described(huma.Operation{OperationID: "survey-sheet", Method: http.MethodGet, Path: "/api/v1/areas/{id}/sheet.{form}", Summary: "The survey sheet to take to the room"}),
		func(_ context.Context, in *struct {
			ID   string `path:"id"`
			Form string `path:"form" enum:"pdf,svg"`
		}) (*paper, error) {
			sh, _ := s.store.Shop()
			a := shop.NewIndex(sh).Area(in.ID)
			if a == nil {
				return nil, noArea(in.ID)
			}
			pages := sheet.Survey(sh.Settings.Name, a, length.Style{System: sh.Settings.Units})
			title := sh.Settings.Name + ": survey sheet"
			write, kind := exchange.PDF, "application/pdf"
			if in.Form == "svg" {
				write, kind = exchange.SVG, "image/svg+xml"
			}
			var b bytes.Buffer
			if err := write(&b, title, pages); err != nil {
				return nil, err
			}
			return &paper{kind, fmt.Sprintf(`inline; filename="survey-%s.%s"`, in.ID, in.Form), b.Bytes()}, nil
		})
}

// MeterState says whether there is a meter to press, or a scale to read.
type MeterState struct {
	There     bool   `json:"there"`
	Name      string `json:"name"`
	Simulated bool   `json:"simulated"`
}

// measuring are the routes of the distance meter.
func (s *Server) measuring() {
	huma.Register(s.api, described(huma.Operation{OperationID: "meter", Method: http.MethodGet, Path: "/api/v1/meter", Summary: "Is there a distance meter to press?"}),
		func(context.Context, *struct{}) (*body[MeterState], error) {
			if s.meter == nil {
				return &body[MeterState]{}, nil
			}
			return &body[MeterState]{MeterState{true, s.meter.Name(), s.meter.Simulated()}}, nil
		})
	huma.Register(s.api, described(huma.Operation{OperationID: "press-meter", Method: http.MethodPost, Path: "/api/v1/meter/press", Summary: "Measure what the meter is aimed at", MaxBodyBytes: smallBody}),
		func(_ context.Context, in *struct {
			Body struct {
				Aim  string `json:"aim" maxLength:"200" doc:"field of the survey in focus"`
				Unit string `json:"unit" enum:"m,ft"`
			}
		}) (*body[Measured], error) {
			if s.meter == nil {
				return nil, huma.Error404NotFound("there is no meter")
			}
			text, err := s.meter.Press(in.Body.Aim, in.Body.Unit)
			if err != nil {
				return nil, huma.Error422UnprocessableEntity(err.Error(), &huma.ErrorDetail{Location: "body.aim", Message: err.Error(), Value: in.Body.Aim})
			}
			return &body[Measured]{Measured{text}}, nil
		})
}
