package api

import (
	"context"
	"fmt"
	"net/http"
	"slices"
	"strings"

	"github.com/danielgtaylor/huma/v2"

	"hobrak/internal/core/fit"
	"hobrak/internal/core/learn"
	"hobrak/internal/core/shop"
	"hobrak/internal/store"
)

func (s *Server) swapRoutes() {
	huma.Register(s.api, described(huma.Operation{OperationID: "swaps", Method: http.MethodGet, Path: "/api/v1/swaps", Summary: "Swaps of homes that would save most"}), s.listSwaps)
	huma.Register(s.api, described(huma.Operation{OperationID: "swap", Method: http.MethodPost, Path: "/api/v1/swaps", Summary: "Make one of these swaps", MaxBodyBytes: smallBody}), s.swap)
}

// Exchange is a swap of homes, or the move of one thing, that would save time.
type Exchange struct {
	Moves []Swapped `json:"moves" nullable:"false" doc:"one thing or two"`
	Saves float64   `json:"saves" doc:"seconds a week"`
}

// Swapped is one of the things of an exchange.
type Swapped struct {
	Item string  `json:"item"`
	Name string  `json:"name"`
	From string  `json:"from"`
	To   string  `json:"to"`
	Idle float64 `json:"idle" doc:"weeks it was not used; 0 when it was, or when nothing is noted"`
}

// mostExchanges are listed at once.
const mostExchanges = 20

func (s *Server) listSwaps(ctx context.Context, in *struct {
	N int `query:"n" minimum:"1" maximum:"20" default:"5"`
}) (*body[[]Exchange], error) {
	v, err := s.now()
	if err != nil {
		return nil, err
	}
	seen, err := s.store.Seen(ctx, learn.Since(v.shop), today())
	if err != nil {
		return nil, problem(err)
	}
	return &body[[]Exchange]{v.exchanges(v.swaps(in.N), learn.Idle(v.shop, seen, today()))}, nil
}

func (s *Server) swap(ctx context.Context, in *struct {
	Match
	Body struct {
		Items []string `json:"items" nullable:"false" minItems:"1" maxItems:"2" doc:"whose homes are swapped, as they were told"`
	}
}) (*body[store.Revision], error) {
	v, err := s.now()
	if err != nil {
		return nil, err
	}
	list := v.swaps(mostExchanges)
	k := slices.IndexFunc(list, func(w fit.Swap) bool { return slices.Equal(w.Items, in.Body.Items) })
	if k < 0 {
		what := "nothing is worth swapping with " + strings.Join(in.Body.Items, " and ") + " as the shop stands now; look at the list again"
		return nil, huma.Error422UnprocessableEntity(what, &huma.ErrorDetail{Location: "body.items", Message: what, Value: in.Body.Items})
	}
	w := list[k]
	what := fmt.Sprintf("%s moved to %s", nameOf(v, w.Items[0]), w.Homes[0].Place)
	if len(w.Items) == 2 {
		what = fmt.Sprintf("%s and %s swapped", nameOf(v, w.Items[0]), nameOf(v, w.Items[1]))
	}
	return revised(s.store.Change(ctx, in.rev, who, what, func(sh *shop.Shop) error {
		sh.Homes = slices.DeleteFunc(sh.Homes, func(h shop.Home) bool { return slices.Contains(w.Items, h.Item) })
		sh.Homes = append(sh.Homes, w.Homes...)
		return nil
	}))
}

func nameOf(v *view, item string) string { return v.asIs.Map().Index.Item(item).Name }

// swaps of the shop as it stands.
func (v *view) swaps(n int) []fit.Swap {
	v.mu.Lock()
	defer v.mu.Unlock()
	return v.asIs.Swaps(n)
}

func (v *view) exchanges(list []fit.Swap, unused map[string]float64) []Exchange {
	out := []Exchange{}
	ix := v.asIs.Map().Index
	for _, w := range list {
		x := Exchange{Saves: w.Saves()}
		for i, id := range w.Items {
			x.Moves = append(x.Moves, Swapped{Item: id, Name: ix.Item(id).Name, From: ix.Homes(id)[0].Place, To: w.Homes[i].Place, Idle: unused[id]})
		}
		out = append(out, x)
	}
	return out
}
