package api

import (
	"context"
	"errors"
	"net/http"

	"github.com/danielgtaylor/huma/v2"

	"hobrak/internal/core/length"
	"hobrak/internal/core/round"
	"hobrak/internal/core/shop"
	"hobrak/internal/core/survey"
	"hobrak/internal/store"
)

func (s *Server) surveyRoutes() {
	huma.Register(s.api, described(huma.Operation{OperationID: "survey", Method: http.MethodGet, Path: "/api/v1/areas/{id}/survey", Summary: "The survey of an area"}), s.survey)
	huma.Register(s.api, described(huma.Operation{OperationID: "enter", Method: http.MethodPost, Path: "/api/v1/areas/{id}/survey", Summary: "Enter what was measured, all of it or nothing", MaxBodyBytes: smallBody}), s.enterReadings)
}

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

func (s *Server) survey(_ context.Context, in *areaPath) (*body[Surveyed], error) {
	sh, revision := s.store.Shop()
	return surveyed(sh, revision, in.ID)
}

func (s *Server) enterReadings(ctx context.Context, in *struct {
	Match
	ID   string `path:"id"`
	Body struct {
		Entries []Entry `json:"entries" minItems:"1" maxItems:"200"`
	}
}) (*body[Surveyed], error) {
	added := ""
	sh, _ := s.store.Snapshot()
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
