package api

import (
	"context"
	"fmt"
	"net/http"
	"strings"
	"time"

	"github.com/danielgtaylor/huma/v2"

	"hobrak/internal/core/length"
	"hobrak/internal/core/reuse"
	"hobrak/internal/core/shop"
	"hobrak/internal/core/storage"
	"hobrak/internal/core/wood"
	"hobrak/internal/store"
)

// The routes of reuse: what found furniture is good for, and what storage gives when it is taken apart.

func (s *Server) reuseRoutes() {
	huma.Register(s.api, described(huma.Operation{OperationID: "judge-found", Method: http.MethodPost, Path: "/api/v1/found", Summary: "What furniture that was found holds as it is, with a shelf more and cut down, and where it would go", MaxBodyBytes: smallBody}), s.judgeFound)
	huma.Register(s.api, described(huma.Operation{OperationID: "keep-found", Method: http.MethodPost, Path: "/api/v1/found/keep", Summary: "Put it there, one of these ways; what it holds moves in", MaxBodyBytes: smallBody}), s.keepFound)
	huma.Register(s.api, described(huma.Operation{OperationID: "apart", Method: http.MethodGet, Path: "/api/v1/build/{id}/apart", Summary: "What a piece of storage gives to stock when it is taken apart"}), s.apart)
	huma.Register(s.api, described(huma.Operation{OperationID: "take-apart", Method: http.MethodPost, Path: "/api/v1/build/{id}/apart", Summary: "It was taken apart: its pieces come into stock", MaxBodyBytes: smallBody}), s.takeApart)
}

// FoundAsked is furniture as it was measured, with what it should hold.
type FoundAsked struct {
	Name     string   `json:"name" minLength:"1" maxLength:"100"`
	W        string   `json:"w" maxLength:"40" doc:"outside, as typed"`
	H        string   `json:"h" maxLength:"40"`
	D        string   `json:"d" maxLength:"40"`
	InW      string   `json:"in_w,omitempty" maxLength:"40" doc:"inside; from the outside when left out"`
	InD      string   `json:"in_d,omitempty" maxLength:"40"`
	Openings []string `json:"openings" minItems:"1" maxItems:"40" doc:"clear heights from below"`
	Drawers  bool     `json:"drawers,omitempty" doc:"drawers, not shelves"`
	Carries  float64  `json:"carries,omitempty" minimum:"0" maximum:"2000" doc:"kg each carries, as somebody rated it"`
	Things   []string `json:"things,omitempty" maxItems:"2000" doc:"what it should hold; what has no home when left out"`
	Lower    string   `json:"lower,omitempty" maxLength:"40" doc:"height to cut it down to; what suits the room when left out"`
}

// FoundWay is a way to use it, with its spots.
type FoundWay struct {
	reuse.Variant
	Spots []Whereabout `json:"spots" nullable:"false" doc:"best first"`
}

// read what was measured; the error names the field.
func (a *FoundAsked) read(sh *shop.Shop) (f reuse.Found, things []string, lower float64, err error) {
	one := func(field, text string, to *float64, needed bool) error {
		if strings.TrimSpace(text) == "" && !needed {
			return nil
		}
		l, err := length.Parse(text, sh.Settings.Units)
		if err != nil {
			return huma.Error422UnprocessableEntity(err.Error(), &huma.ErrorDetail{Location: "body." + field, Message: err.Error(), Value: text})
		}
		*to = l.MM()
		return nil
	}
	f = reuse.Found{Name: strings.TrimSpace(a.Name), Drawers: a.Drawers, Carries: a.Carries}
	for _, x := range []struct {
		field, text string
		to          *float64
		needed      bool
	}{{"w", a.W, &f.W, true}, {"h", a.H, &f.H, true}, {"d", a.D, &f.D, true}, {"in_w", a.InW, &f.InW, false}, {"in_d", a.InD, &f.InD, false}, {"lower", a.Lower, &lower, false}} {
		if err = one(x.field, x.text, x.to, x.needed); err != nil {
			return f, nil, 0, err
		}
	}
	for i, text := range a.Openings {
		var h float64
		if err = one(fmt.Sprintf("openings[%d]", i), text, &h, true); err != nil {
			return f, nil, 0, err
		}
		f.Openings = append(f.Openings, h)
	}
	ix := shop.NewIndex(sh)
	for i, id := range a.Things {
		if ix.Item(id) == nil {
			return f, nil, 0, huma.Error422UnprocessableEntity(fmt.Sprintf("there is no item %q", id), &huma.ErrorDetail{Location: fmt.Sprintf("body.things[%d]", i), Value: id})
		}
	}
	if things = a.Things; len(things) == 0 {
		for i := range sh.Items {
			if it := &sh.Items[i]; it.Needs() && ix.Homed(it) == 0 {
				things = append(things, it.ID)
			}
		}
	}
	return f, things, lower, nil
}

// judgedWays of a request.
func (s *Server) judgedWays(a *FoundAsked) ([]reuse.Variant, error) {
	v, err := s.now()
	if err != nil {
		return nil, problem(err)
	}
	f, things, lower, err := a.read(v.shop)
	if err != nil {
		return nil, err
	}
	ways, err := reuse.Judge(v.asIs.Map(), v.freeSpace(), &f, things, lower)
	if err != nil {
		field, _, _ := strings.Cut(err.Error(), ":")
		return nil, huma.Error422UnprocessableEntity(err.Error(), &huma.ErrorDetail{Location: "body." + field, Message: err.Error()})
	}
	return ways, nil
}

func (s *Server) judgeFound(_ context.Context, in *struct{ Body FoundAsked }) (*body[[]FoundWay], error) {
	ways, err := s.judgedWays(&in.Body)
	if err != nil {
		return nil, err
	}
	out := []FoundWay{}
	for _, w := range ways {
		x := FoundWay{Variant: w, Spots: []Whereabout{}}
		for _, c := range w.Sites {
			x.Spots = append(x.Spots, whereabout(c))
		}
		out = append(out, x)
	}
	return &body[[]FoundWay]{out}, nil
}

func (s *Server) keepFound(ctx context.Context, in *struct {
	Match
	Body struct {
		FoundAsked
		Way string `json:"way" enum:"as-is,shelf-more,cut-down"`
		At  Put    `json:"at"`
	}
}) (*body[Listed], error) {
	ways, err := s.judgedWays(&in.Body.FoundAsked)
	if err != nil {
		return nil, err
	}
	for i := range ways {
		w := &ways[i]
		if w.Way != in.Body.Way {
			continue
		}
		var ids []string
		rev, err := s.store.Change(ctx, in.rev, who, "found: "+in.Body.Name, func(sh *shop.Shop) error {
			at := in.Body.At.at(sh)
			d := w.Found().Design(storage.Address(sh, at))
			ids = []string{d.Container.ID}
			for _, p := range d.Places {
				ids = append(ids, p.ID)
			}
			return reuse.Keep(sh, w, d, at)
		})
		if err != nil {
			return nil, problem(err)
		}
		return &body[Listed]{Listed{rev, ids, []string{}}}, nil
	}
	return nil, huma.Error422UnprocessableEntity("it cannot be used that way", &huma.ErrorDetail{Location: "body.way", Value: in.Body.Way})
}

// notMade is the answer where a unit is not made, or not so.
func notMade(sh *shop.Shop, id string, err error) error {
	if ix := shop.NewIndex(sh); ix.Container(id) == nil && ix.Place(id) == nil {
		return huma.Error404NotFound(err.Error(), &huma.ErrorDetail{Location: "path.id", Message: err.Error(), Value: id})
	}
	return huma.Error422UnprocessableEntity(err.Error(), &huma.ErrorDetail{Location: "query", Message: err.Error()})
}

func (s *Server) apart(_ context.Context, in *struct {
	ID string `path:"id"`
	AsIsMade
}) (*body[reuse.Yield], error) {
	sh, _ := s.store.Snapshot()
	y, err := reuse.Apart(sh, in.ID, in.choices())
	if err != nil {
		return nil, notMade(sh, in.ID, err)
	}
	return &body[reuse.Yield]{*y}, nil
}

// TakenApart is what came of it.
type TakenApart struct {
	Revision store.Revision `json:"revision"`
	Pieces   int            `json:"pieces" doc:"that came into stock"`
	Homeless int            `json:"homeless" doc:"so many kinds of pieces found no rack with room"`
}

func (s *Server) takeApart(ctx context.Context, in *struct {
	Match
	ID string `path:"id"`
	AsIsMade
}) (*body[TakenApart], error) {
	var out TakenApart
	var err error
	out.Revision, err = s.store.Change(ctx, in.rev, who, in.ID+" taken apart", func(sh *shop.Shop) error {
		st, err := wood.Of(sh, today())
		if err != nil {
			return err
		}
		d, then, err := reuse.TakeApart(sh, in.ID, in.choices(), st, today().Format(time.DateOnly))
		if err != nil {
			return notMade(sh, in.ID, err)
		}
		for _, a := range d.Arrivals {
			out.Pieces += a.Count
			if a.Place == "" {
				out.Homeless++
			}
		}
		*sh = *then
		return nil
	})
	if err != nil {
		return nil, problem(err)
	}
	return &body[TakenApart]{out}, nil
}
