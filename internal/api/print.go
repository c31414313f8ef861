package api

import (
	"context"
	"fmt"
	"net/http"
	"slices"
	"strings"

	"github.com/danielgtaylor/huma/v2"

	"hobrak/internal/core/length"
	"hobrak/internal/core/round"
	"hobrak/internal/core/sheet"
)

func (s *Server) printRoutes() {
	huma.Register(s.api, described(huma.Operation{OperationID: "print", Method: http.MethodGet, Path: "/api/v1/print/{what}/drawing.{form}", Summary: "Walls, the floor plan or a list of what lives where, on paper or as a picture"}), s.print)
}

func (s *Server) print(_ context.Context, in *struct {
	What  string `path:"what" enum:"wall,round,plan,contents,list" doc:"round is every wall; contents is every place with what lives there, list is everything owned"`
	Form  string `path:"form" enum:"pdf,svg,png"`
	Area  string `query:"area" maxLength:"64" doc:"of the wall; the main one when left out"`
	Wall  string `query:"wall" maxLength:"64" doc:"letter of the wall; empty: what stands free in the area"`
	Scale int    `query:"scale" minimum:"0" maximum:"500" doc:"one to so many; 0: as large as one sheet takes"`
	Paper string `query:"paper" enum:"A4,A3,Letter," doc:"A4, or Letter in a shop in feet and inches, when left out"`
}) (*paper, error) {
	v, err := s.now()
	if err != nil {
		return nil, problem(err)
	}
	r := v.round
	on := sheet.A4
	if r.Units == length.Imperial {
		on = sheet.Letter
	}
	if k := slices.IndexFunc(sheet.Papers, func(p sheet.Paper) bool { return p.Name == in.Paper }); k >= 0 {
		on = sheet.Papers[k]
	}
	job := printing{r, on, float64(in.Scale), in.Form == "pdf"}
	var pages []sheet.Page
	title := r.Name
	switch in.What {
	case "wall":
		at := slices.IndexFunc(r.Elevations, func(e round.Elevation) bool {
			return e.ID == in.Wall && (in.Area == "" || e.Area == in.Area)
		})
		if at < 0 {
			what := fmt.Sprintf("there is no wall %q; there are %s", in.Wall, wallsOf(r))
			return nil, huma.Error404NotFound(what, &huma.ErrorDetail{Location: "query.wall", Message: what, Value: in.Wall})
		}
		title += ", " + r.Elevations[at].Title
		pages = job.of(title, func(scale float64) sheet.Page { return sheet.Wall(r, at, scale) })
	case "round":
		title += ", the round"
		for at := range r.Elevations {
			pages = append(pages, job.of(r.Name+", "+r.Elevations[at].Title, func(scale float64) sheet.Page { return sheet.Wall(r, at, scale) })...)
		}
	case "plan":
		title += ", floor plan"
		pages = job.of(title, func(scale float64) sheet.Page { return sheet.Floor(r, scale) })
	case "contents":
		title += ", what lives where"
		pages = sheet.Contents(r, on)
	case "list":
		title += ", belongings"
		pages = sheet.Belongings(r, on)
	}
	if in.Form == "png" && len(pages) != 1 {
		pages = []sheet.Page{sheet.Stacked(pages)}
	}
	return drawn(in.Form, title, drawingName(in.What, in.Wall), pages)
}

func wallsOf(r *round.Round) string {
	var out []string
	for _, e := range r.Elevations {
		if !e.Middle {
			out = append(out, e.ID)
		}
	}
	return strings.Join(out, ", ")
}

func drawingName(what, wall string) string {
	safe := strings.Map(func(c rune) rune {
		if c >= 'a' && c <= 'z' || c >= 'A' && c <= 'Z' || c >= '0' && c <= '9' || c == '-' {
			return c
		}
		return -1
	}, wall)
	if safe == "" {
		return what
	}
	return what + "-" + safe
}

// printing is how drawings are put on paper.
type printing struct {
	round *round.Round
	on    sheet.Paper
	scale float64 // 0: as large as one sheet takes
	cut   bool    // cut up for sheets; a picture is whole
}

func (p *printing) of(title string, made func(scale float64) sheet.Page) []sheet.Page {
	d, scale := sheet.Page{}, p.scale
	if scale == 0 {
		d, scale = sheet.Fitting(p.on, made)
	} else {
		d = made(scale)
	}
	if !p.cut {
		return []sheet.Page{d}
	}
	return sheet.Tiled(&d, p.on, fmt.Sprintf("%s, 1 : %.0f", title, scale), p.round.Units)
}
