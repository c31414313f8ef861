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
	"hobrak/internal/core/shop"
	"hobrak/internal/core/storage"
)

func (s *Server) printRoutes() {
	huma.Register(s.api, described(huma.Operation{OperationID: "print", Method: http.MethodGet, Path: "/api/v1/print/{what}/drawing.{form}", Summary: "Walls, the floor plan or a list of what lives where, on paper or as a picture"}), s.print)
}

func (s *Server) print(_ context.Context, in *struct {
	What  string  `path:"what" enum:"wall,round,plan,contents,list,shadows,foam" doc:"round is every wall; contents is every place with what lives there, list is everything owned; shadows and foam are the outlines of what lives in a place, at full size"`
	Form  string  `path:"form" enum:"pdf,svg,png"`
	Area  string  `query:"area" maxLength:"64" doc:"of the wall; the main one when left out"`
	Wall  string  `query:"wall" maxLength:"64" doc:"letter of the wall; empty: what stands free in the area"`
	Scale int     `query:"scale" minimum:"0" maximum:"500" doc:"one to so many; 0: as large as one sheet takes"`
	Place string  `query:"place" maxLength:"64" doc:"of shadows and foam"`
	Play  float64 `query:"play" minimum:"0" maximum:"20" default:"2" doc:"room round each thing in foam, mm"`
	Paper string  `query:"paper" enum:"A4,A3,Letter," doc:"A4, or Letter in a shop in feet and inches, when left out"`
}) (*paper, error) {
	v, err := s.now()
	if err != nil {
		return nil, problem(err)
	}
	r := v.round
	on := paperOf(r.Units, in.Paper)
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
	case "shadows", "foam":
		d, err := outlines(v.shop, r, in.Place, in.What == "foam", in.Play)
		if err != nil {
			return nil, err
		}
		title += ", " + sheet.OutlinesTitle(in.Place, in.What == "foam")
		job.scale = 1
		pages = job.of(title, func(float64) sheet.Page { return d })
	case "contents":
		title += ", what lives where"
		pages = sheet.Contents(r, on)
	case "list":
		title += ", belongings"
		pages = sheet.Belongings(r, on)
	}
	if in.What != "shadows" && in.What != "foam" { // those are cut up
		for i := range pages {
			pages[i].Emergency(sheet.Emergencies(r))
		}
	}
	if in.Form == "png" && len(pages) != 1 {
		pages = []sheet.Page{sheet.Stacked(pages)}
	}
	return drawn(in.Form, title, drawingName(in.What, in.Wall), pages)
}

// traceOf is the outline of a thing in a box so wide and high, mm; nil when it is not known.
func traceOf(it *shop.Item, w, h float64) (out [][2]float64) {
	if it == nil {
		return nil
	}
	for _, p := range it.Seen(length.MM(w), length.MM(h)) {
		out = append(out, [2]float64{p.X, p.Y})
	}
	return out
}

// outlines of what lives in a place.
func outlines(sh *shop.Shop, r *round.Round, place string, foam bool, play float64) (sheet.Page, error) {
	ix := shop.NewIndex(sh)
	p := ix.Place(place)
	if p == nil {
		return sheet.Page{}, huma.Error404NotFound(fmt.Sprintf("there is no place %q", place), &huma.ErrorDetail{Location: "query.place", Message: "there is no such place", Value: place})
	}
	l := storage.As(sh, ix, p)
	var things []sheet.Traced
	for _, x := range l.Shapes {
		if x.Kind == "thing" {
			things = append(things, sheet.Traced{Name: x.Name, Glyph: x.Glyph, X: x.X, Y: x.Y, W: x.W, H: x.H, Outline: traceOf(ix.Item(x.Item), x.W, x.H)})
		}
	}
	if len(things) == 0 {
		return sheet.Page{}, huma.Error422UnprocessableEntity(fmt.Sprintf("nothing lives in %s yet: there is no outline to draw", place), &huma.ErrorDetail{Location: "query.place", Message: "nothing lives there", Value: place})
	}
	if foam {
		return sheet.Foam(l.W, l.H, play, things, r.Units), nil
	}
	return sheet.Shadows(l.W, l.H, things, r.Units), nil
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

// paperOf is the paper that was asked for, or that the shop's units suggest.
func paperOf(units length.System, name string) sheet.Paper {
	if k := slices.IndexFunc(sheet.Papers, func(p sheet.Paper) bool { return p.Name == name }); k >= 0 {
		return sheet.Papers[k]
	}
	if units == length.Imperial {
		return sheet.Letter
	}
	return sheet.A4
}

// pagesAsked is the page of a drawing that was asked for, from 1, or all of them; as a picture they are one below the other.
func pagesAsked(pages []sheet.Page, called string, page int, form string) ([]sheet.Page, error) {
	if page > len(pages) {
		return nil, huma.Error422UnprocessableEntity(fmt.Sprintf("there are %d %s", len(pages), called), &huma.ErrorDetail{Location: "query.page", Value: page})
	}
	if page > 0 {
		pages = pages[page-1 : page]
	}
	if form == "png" && len(pages) != 1 {
		pages = []sheet.Page{sheet.Stacked(pages)}
	}
	return pages, nil
}
