package api

import (
	"cmp"
	"context"
	"errors"
	"fmt"
	"net/http"
	"slices"

	"github.com/danielgtaylor/huma/v2"

	"hobrak/internal/core/build"
	"hobrak/internal/core/length"
	"hobrak/internal/core/moves"
	"hobrak/internal/core/say"
	"hobrak/internal/core/sheet"
	"hobrak/internal/core/shop"
	"hobrak/internal/core/weight"
	"hobrak/internal/store"
)

// The routes of building: what is to be made, how, on paper, and that it was.

func (s *Server) buildRoutes() {
	huma.Register(s.api, described(huma.Operation{OperationID: "builds", Method: http.MethodGet, Path: "/api/v1/build", Summary: "What is to be built for the plan, and what there is"}), s.builds)
	huma.Register(s.api, described(huma.Operation{OperationID: "unit", Method: http.MethodGet, Path: "/api/v1/build/{id}", Summary: "How a piece of storage is made: parts, fittings, steps, screws in its wall"}), s.unit)
	huma.Register(s.api, described(huma.Operation{OperationID: "draw-unit", Method: http.MethodGet, Path: "/api/v1/build/{id}/drawing.{form}", Summary: "The drawings of a unit on paper"}), s.drawUnit)
	huma.Register(s.api, described(huma.Operation{OperationID: "template", Method: http.MethodGet, Path: "/api/v1/build/{id}/template.{form}", Summary: "Parts of a unit at full size"}), s.template)
	huma.Register(s.api, described(huma.Operation{OperationID: "built", Method: http.MethodPost, Path: "/api/v1/build/{id}/built", Summary: "It is built: it becomes storage as it is", MaxBodyBytes: smallBody}), s.built)
	huma.Register(s.api, described(huma.Operation{OperationID: "lining", Method: http.MethodGet, Path: "/api/v1/linings/{wall}", Summary: "A wall as it is, with rails, and lined with boards, compared"}), s.lining)
}

// lining compares what a wall can be lined with; the area is the main one when it is left out.
func (s *Server) lining(_ context.Context, in *struct {
	Wall string `path:"wall"`
	Area string `query:"area" maxLength:"64" doc:"the main one when left out"`
}) (*body[build.Linings], error) {
	sh, _ := s.store.Snapshot()
	l, err := build.Line(sh, in.Area, in.Wall)
	if err != nil {
		return nil, huma.Error404NotFound(err.Error(), &huma.ErrorDetail{Location: "path.wall", Message: err.Error(), Value: in.Wall})
	}
	return &body[build.Linings]{*l}, nil
}

// AsIsMade are the choices of how a unit is made, as they stand in an address.
type AsIsMade struct {
	Sheet  string  `query:"sheet" maxLength:"40"`
	T      float64 `query:"t" minimum:"0" maximum:"60" doc:"mm; what suits when left out"`
	Thin   float64 `query:"thin" minimum:"0" maximum:"20" doc:"mm, of backs and drawer bottoms"`
	Joint  string  `query:"joint" enum:"screws,rebates,dadoes,"`
	Back   string  `query:"back" enum:"none,on,rebated,"`
	Runner string  `query:"runner" enum:"none,side,undermount,"`
	Front  string  `query:"front" enum:"overlay,inset,"`
	Bevel  float64 `query:"bevel" enum:"0,30,45"`
	Strip  string  `query:"strip" enum:"where-it-sags,always,never,"`
	Scrap  bool    `query:"scrap"`
}

func (a *AsIsMade) choices() build.Choices {
	return build.Choices{Sheet: a.Sheet, T: a.T, Thin: a.Thin, Joint: a.Joint, Back: a.Back, Runner: a.Runner, Front: a.Front, Bevel: a.Bevel, Strip: a.Strip, Scrap: a.Scrap}
}

// ToBuild is a piece of storage that can be made.
type ToBuild struct {
	ID     string  `json:"id"`
	Name   string  `json:"name"`
	Title  string  `json:"title" doc:"how it is made"`
	Wanted bool    `json:"wanted" doc:"the plan has it, and it is not there yet"`
	Things int     `json:"things" doc:"that go into it"`
	Hours  float64 `json:"hours"`
	Sheet  float64 `json:"sheet" doc:"m²"`
	Solid  float64 `json:"solid" doc:"m"`
	Space  float64 `json:"space" doc:"litres"`
	Money  float64 `json:"money" doc:"of sheet and solid wood by one's own prices; 0 when there are none"`
	Why    string  `json:"why" doc:"why it is not made of parts; empty when it is"`
}

// Builds are what can be made.
type Builds struct {
	Target string    `json:"target" doc:"name of the plan that is carried out, where it has storage"`
	Why    string    `json:"why" doc:"why that cannot be carried out any more; empty when it can"`
	Units  []ToBuild `json:"units" nullable:"false" doc:"what the plan wants first, by the space an hour of work brings"`
}

// planned is the shop as the plan that is carried out has it, and its name; nil when there is none, or none with storage. The error
// says why it cannot be carried out any more.
func planned(sh *shop.Shop) (*shop.Shop, string, error) {
	t, err := targetOf(sh, sh.Settings.Target)
	if err != nil || !t.Storage {
		return nil, "", nil
	}
	then, _, err := moves.Toward(sh, t)
	if err != nil {
		return nil, t.Name, fmt.Errorf("%s: %w", t.Name, err)
	}
	return then, t.Name, nil
}

// units of a shop: its containers that are on the floor, a wall or the ceiling, and its places that are in no container.
func units(sh *shop.Shop) (out []string) {
	ix := shop.NewIndex(sh)
	for i := range sh.Containers {
		out = append(out, sh.Containers[i].ID)
	}
	for i := range sh.Places {
		if p := &sh.Places[i]; ix.Container(p.At.In) == nil {
			out = append(out, p.ID)
		}
	}
	return out
}

func money(sh *shop.Shop, u *build.Unit) float64 {
	p := sh.Settings.Prices
	if p == nil {
		return 0
	}
	return u.Sheet*p.Sheet + u.Solid*p.Rail
}

func toBuild(sh *shop.Shop, id string, wanted bool) ToBuild {
	ix := shop.NewIndex(sh)
	out := ToBuild{ID: id, Name: ix.Name(id), Wanted: wanted}
	for i := range sh.Homes {
		if p := ix.Place(sh.Homes[i].Place); p != nil && (p.ID == id || p.At.In == id) {
			out.Things++
		}
	}
	u, err := build.Of(sh, id, build.Choices{})
	if err != nil {
		out.Why = err.Error()
		return out
	}
	out.Title, out.Hours, out.Sheet, out.Solid, out.Space, out.Money = u.Title, u.Hours, u.Sheet, u.Solid, u.Space, money(sh, u)
	return out
}

func (s *Server) builds(_ context.Context, _ *struct{}) (*body[Builds], error) {
	sh, _ := s.store.Snapshot()
	out := Builds{Units: []ToBuild{}}
	then, name, err := planned(sh)
	there := units(sh)
	if out.Target = name; err != nil {
		out.Why = err.Error()
	}
	if then != nil {
		for _, id := range units(then) {
			if !slices.Contains(there, id) {
				out.Units = append(out.Units, toBuild(then, id, true))
			}
		}
	}
	for _, id := range there {
		out.Units = append(out.Units, toBuild(sh, id, false))
	}
	slices.SortStableFunc(out.Units, func(a, b ToBuild) int {
		if a.Wanted != b.Wanted {
			return map[bool]int{true: -1, false: 1}[a.Wanted]
		}
		return cmp.Compare(b.Space/max(.1, b.Hours), a.Space/max(.1, a.Hours))
	})
	return &body[Builds]{out}, nil
}

// AsMade is how a unit is made.
type AsMade struct {
	build.Unit
	List   []build.List  `json:"list" nullable:"false" doc:"parts that are alike together, the largest first"`
	Lines  []string      `json:"lines" nullable:"false" doc:"the same as lines for a plan of cuts"`
	Wall   *build.OnWall `json:"wall,omitempty" doc:"where it is screwed to its wall"`
	Wanted bool          `json:"wanted" doc:"the plan has it, and it is not there yet"`
	Money  float64       `json:"money" doc:"of sheet and solid wood by one's own prices"`
	Ways   []MadeWay     `json:"ways" nullable:"false" doc:"how else it could be made, with what that costs; as it is chosen first"`
}

// MadeWay is a way to make it, with its price.
type MadeWay struct {
	build.Variant
	Money float64 `json:"money" doc:"of sheet and solid wood by one's own prices; 0 when there are none"`
}

// made is a unit of the shop, or of the plan where it is not there yet.
func (s *Server) made(id string, a *AsIsMade) (*AsMade, *shop.Shop, error) {
	sh, _ := s.store.Snapshot()
	in, wanted := sh, false
	if !slices.Contains(units(sh), id) {
		if then, _, _ := planned(sh); then != nil && slices.Contains(units(then), id) {
			in, wanted = then, true
		}
	}
	u, err := build.Of(in, id, a.choices())
	if err != nil {
		return nil, nil, notMade(in, id, err)
	}
	out := &AsMade{Unit: *u, List: u.CutList(), Lines: u.Lines(), Wall: build.Fix(in, u), Wanted: wanted, Money: money(in, u), Ways: []MadeWay{}}
	ways, err := build.Variants(in, id, a.choices())
	if err != nil {
		return nil, nil, err
	}
	for _, v := range ways {
		out.Ways = append(out.Ways, MadeWay{v, money(in, &build.Unit{Sheet: v.Sheet, Solid: v.Solid})})
	}
	return out, in, nil
}

func (s *Server) unit(_ context.Context, in *struct {
	ID string `path:"id"`
	AsIsMade
}) (*body[AsMade], error) {
	u, _, err := s.made(in.ID, &in.AsIsMade)
	if err != nil {
		return nil, err
	}
	return &body[AsMade]{*u}, nil
}

func (s *Server) drawUnit(_ context.Context, in *struct {
	ID    string `path:"id"`
	Form  string `path:"form" enum:"pdf,svg,png,dxf"`
	Page  int    `query:"page" minimum:"0" doc:"only this one, from 1; all when left out"`
	Paper string `query:"paper" enum:"A4,A3,Letter,"`
	AsIsMade
}) (*paper, error) {
	u, sh, err := s.made(in.ID, &in.AsIsMade)
	if err != nil {
		return nil, err
	}
	pages := sheet.UnitSheets(&u.Unit, u.Wall, paperOf(sh.Settings.Units, in.Paper), sh.Settings.Units, func(t string) string { return say.In(sh.Settings.Units, t) })
	if pages, err = pagesAsked(pages, "pages", in.Page, in.Form); err != nil {
		return nil, err
	}
	return drawn(in.Form, u.Name, "drawing of "+in.ID, pages)
}

func (s *Server) template(_ context.Context, in *struct {
	ID    string `path:"id"`
	Form  string `path:"form" enum:"pdf,svg,dxf"`
	Part  int    `query:"part" minimum:"0" doc:"number of the kind of part in the list, from 1; all when left out"`
	Paper string `query:"paper" enum:"A4,A3,Letter,"`
	AsIsMade
}) (*paper, error) {
	u, sh, err := s.made(in.ID, &in.AsIsMade)
	if err != nil {
		return nil, err
	}
	if in.Part > len(u.List) {
		return nil, huma.Error422UnprocessableEntity(fmt.Sprintf("there are %d kinds of parts", len(u.List)), &huma.ErrorDetail{Location: "query.part", Value: in.Part})
	}
	var pages []sheet.Page
	for k, l := range u.List {
		if in.Part > 0 && k+1 != in.Part {
			continue
		}
		full := sheet.PartSheet(&u.Parts[l.Parts[0]])
		if in.Form == "pdf" { // on paper there is, with marks to lay the sheets on each other
			pages = append(pages, sheet.Tiled(&full, paperOf(sh.Settings.Units, in.Paper), u.Name+": "+l.Name, sh.Settings.Units)...)
			continue
		}
		pages = append(pages, full)
	}
	if len(pages) == 0 {
		return nil, huma.Error422UnprocessableEntity("it has no parts")
	}
	if len(pages) > mostSheets {
		return nil, huma.Error422UnprocessableEntity(fmt.Sprintf("that would be %d sheets of paper: choose a part", len(pages)), &huma.ErrorDetail{Location: "query.part"})
	}
	return drawn(in.Form, u.Name, "templates of "+in.ID, pages)
}

// mostSheets of paper are printed at once.
const mostSheets = 60

func (s *Server) built(ctx context.Context, in *struct {
	Match
	ID   string `path:"id"`
	Body struct {
		Screws int     `json:"screws,omitempty" minimum:"0" maximum:"500" doc:"that hit studs or solid timber"`
		D      float64 `json:"d,omitempty" minimum:"0" maximum:"12" doc:"mm across their thread"`
		Thread float64 `json:"thread,omitempty" minimum:"0" maximum:"300" doc:"mm of thread in the wood"`
		Rated  float64 `json:"rated,omitempty" minimum:"0" maximum:"5000" doc:"kg it may carry, as its fixings are rated"`
	}
}) (*body[store.Revision], error) {
	b := &in.Body
	rev, err := s.store.Change(ctx, in.rev, who, in.ID+" built", func(sh *shop.Shop) error {
		if !slices.Contains(units(sh), in.ID) {
			then, _, _ := planned(sh)
			if then == nil || !slices.Contains(units(then), in.ID) {
				return huma.Error404NotFound(fmt.Sprintf("%s is neither there nor in the plan that is carried out", in.ID), &huma.ErrorDetail{Location: "path.id", Value: in.ID})
			}
			*sh = *moves.Built(sh, then, &moves.Step{Do: moves.Build, What: in.ID})
		}
		ix := shop.NewIndex(sh)
		fixed := func(f **shop.Fixing, capacity *weight.Weight) {
			if b.Screws > 0 {
				*f = &shop.Fixing{Screws: b.Screws, D: length.MM(b.D), Thread: length.MM(b.Thread)}
			}
			if b.Rated > 0 {
				*capacity = weight.KG(b.Rated)
			}
		}
		switch c, p := ix.Container(in.ID), ix.Place(in.ID); {
		case c != nil:
			fixed(&c.Fixing, &c.Capacity)
		case p != nil:
			fixed(&p.Fixing, &p.Capacity)
		default:
			return errors.New("it did not come into the shop")
		}
		return nil
	})
	return revised(rev, err)
}
