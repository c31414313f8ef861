package api

import (
	"context"
	"errors"
	"fmt"
	"net/http"
	"strings"

	"github.com/danielgtaylor/huma/v2"

	"hobrak/internal/core/belongings"
	"hobrak/internal/core/kinds"
	"hobrak/internal/core/line"
	"hobrak/internal/core/shop"
	"hobrak/internal/store"
)

// Read is a typed line with what it was taken for.
type Read struct {
	*line.Parsed
	Name    string      `json:"name"`
	Count   int         `json:"count"`
	Size    [3]float64  `json:"size" doc:"width, height and depth in mm"`
	KG      float64     `json:"kg"`
	Uses    float64     `json:"uses" doc:"a week"`
	UsedAt  []string    `json:"used_at" nullable:"false"`
	Hold    []shop.Hold `json:"hold" nullable:"false"`
	Flags   []shop.Flag `json:"flags" nullable:"false"`
	Family  string      `json:"family"`
	Assumed []string    `json:"assumed" nullable:"false"`
	Glyph   string      `json:"glyph"`
}

// KindName offers a kind while a line is typed.
type KindName struct {
	ID    string     `json:"id"`
	Name  string     `json:"name"`
	Group string     `json:"group"`
	Size  [3]float64 `json:"size"`
	KG    float64    `json:"kg"`
	Glyph string     `json:"glyph"`
}

func notNil[T any](list []T) []T {
	if list == nil {
		return []T{}
	}
	return list
}

func readLine(sh *shop.Shop, text string) Read {
	p := line.Parse(text, belongings.Context(sh))
	it := &p.Item
	return Read{Parsed: p, Name: it.Name, Count: it.Number(), Size: [3]float64{it.W.MM(), it.H.MM(), it.D.MM()}, KG: it.KG.KG(), Uses: it.UsesPerWeek,
		UsedAt: notNil(it.UsedAt), Hold: notNil(it.Hold), Flags: notNil(it.Flags), Family: it.Family, Assumed: notNil(it.Assumed), Glyph: kinds.Glyph(it.Kind)}
}

// itemProblem points at the thing and field that cannot be so.
func itemProblem(err error) error {
	var f *belongings.FieldError
	if errors.As(err, &f) {
		return huma.Error422UnprocessableEntity(f.Reason, &huma.ErrorDetail{Location: strings.Trim(f.Item+"."+f.Field, "."), Message: f.Reason})
	}
	return problem(err)
}

// Listed is what a change of the list did.
type Listed struct {
	Revision store.Revision `json:"revision"`
	IDs      []string       `json:"ids" nullable:"false" doc:"things added"`
}

func (s *Server) belongings() {
	huma.Register(s.api, described(huma.Operation{OperationID: "read-line", Method: http.MethodPost, Path: "/api/v1/lines", Summary: "What would this line be taken for?", MaxBodyBytes: smallBody}),
		func(_ context.Context, in *struct {
			Body struct {
				Text string `json:"text" maxLength:"400"`
			}
		}) (*body[Read], error) {
			sh, _ := s.store.Shop()
			return &body[Read]{readLine(sh, in.Body.Text)}, nil
		})
	huma.Register(s.api, described(huma.Operation{OperationID: "kinds", Method: http.MethodGet, Path: "/api/v1/kinds", Summary: "Kinds whose name begins like this", MaxBodyBytes: smallBody}),
		func(_ context.Context, in *struct {
			Q string `query:"q" maxLength:"60"`
		}) (*body[[]KindName], error) {
			return &body[[]KindName]{kindsLike(in.Q, 8)}, nil
		})
	huma.Register(s.api, described(huma.Operation{OperationID: "add-items", Method: http.MethodPost, Path: "/api/v1/items", Summary: "Put typed lines on the list, all or none", MaxBodyBytes: largeBody}),
		func(ctx context.Context, in *struct {
			Match
			Body struct {
				Lines []string `json:"lines" minItems:"1" maxItems:"5000"`
			}
		}) (*body[Listed], error) {
			var ids []string
			what := fmt.Sprintf("%d things listed", len(in.Body.Lines))
			if len(in.Body.Lines) == 1 {
				what = "listed: " + in.Body.Lines[0]
			}
			rev, err := s.store.Change(ctx, in.rev, who, what, func(sh *shop.Shop) error {
				c := belongings.Context(sh)
				for i, text := range in.Body.Lines {
					id, err := belongings.Add(sh, line.Parse(text, c))
					if err != nil {
						return fmt.Errorf("line %d: %w", i+1, err)
					}
					ids = append(ids, id)
				}
				return nil
			})
			if err != nil {
				return nil, itemProblem(err)
			}
			return &body[Listed]{Listed{rev, ids}}, nil
		})
	huma.Register(s.api, described(huma.Operation{OperationID: "set-items", Method: http.MethodPatch, Path: "/api/v1/items", Summary: "Put what was typed into one field of several things", MaxBodyBytes: largeBody}),
		func(ctx context.Context, in *struct {
			Match
			Body struct {
				IDs   []string `json:"ids" minItems:"1" maxItems:"5000"`
				Field string   `json:"field" maxLength:"40"`
				Text  string   `json:"text" maxLength:"400"`
			}
		}) (*body[store.Revision], error) {
			what := fmt.Sprintf("%s of %d things: %s", in.Body.Field, len(in.Body.IDs), in.Body.Text)
			rev, err := s.store.Change(ctx, in.rev, who, what, func(sh *shop.Shop) error { return belongings.Set(sh, in.Body.IDs, in.Body.Field, in.Body.Text) })
			if err != nil {
				return nil, itemProblem(err)
			}
			return &body[store.Revision]{rev}, nil
		})
	huma.Register(s.api, described(huma.Operation{OperationID: "remove-items", Method: http.MethodPost, Path: "/api/v1/items/remove", Summary: "Take things off the list, with their homes", MaxBodyBytes: largeBody}),
		func(ctx context.Context, in *struct {
			Match
			Body struct {
				IDs []string `json:"ids" minItems:"1" maxItems:"5000"`
			}
		}) (*body[store.Revision], error) {
			rev, err := s.store.Change(ctx, in.rev, who, fmt.Sprintf("%d things off the list", len(in.Body.IDs)), func(sh *shop.Shop) error { return belongings.Remove(sh, in.Body.IDs) })
			if err != nil {
				return nil, itemProblem(err)
			}
			return &body[store.Revision]{rev}, nil
		})
}

// kindsLike lists kinds one of whose names, or a word of it, begins as typed.
func kindsLike(q string, most int) []KindName {
	out := []KindName{}
	q = strings.ToLower(strings.TrimSpace(q))
	if q == "" {
		return out
	}
	var later []KindName
	for _, k := range kinds.All() {
		n := KindName{k.ID, k.Name, k.Group, [3]float64{k.W, k.H, k.D}, k.KG, k.Glyph}
		rank := 0
		for _, name := range append([]string{k.Name}, k.Also...) {
			switch {
			case strings.HasPrefix(name, q):
				rank = 2
			case strings.Contains(name, " "+q):
				rank = max(rank, 1)
			}
		}
		switch rank {
		case 2:
			out = append(out, n)
		case 1:
			later = append(later, n)
		}
	}
	out = append(out, later...)
	return out[:min(len(out), most)]
}
