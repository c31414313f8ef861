package api

import (
	"context"
	"net/http"
	"slices"

	"github.com/danielgtaylor/huma/v2"

	"hobrak/internal/core/shop"
)

// The parts of the shop as the shop file has them, one by one and in lists. Each is a
// file of its own where it can be changed; what is the same for all is here.

// oneOf a list, by its id.
type oneOf struct {
	ID string `path:"id" maxLength:"64" doc:"its id"`
}

// listed registers a list of parts and each of its parts. In is what the list can be asked
// for, wanted tells whether a part is.
func listed[T, In any](s *Server, list, one string, of func(*shop.Shop) []T, id func(*T) string, wanted func(*shop.Shop, *T, *In) bool) {
	huma.Register(s.api, described(huma.Operation{OperationID: "list-" + list, Method: http.MethodGet, Path: "/api/v1/" + list, Summary: "The " + list + " of the shop, as the shop file has them"}),
		func(_ context.Context, in *In) (*body[[]T], error) {
			sh, _ := s.store.Snapshot()
			out := []T{}
			all := of(sh)
			for i := range all {
				if wanted(sh, &all[i], in) {
					out = append(out, all[i])
				}
			}
			return &body[[]T]{out}, nil
		})
	huma.Register(s.api, described(huma.Operation{OperationID: "get-" + one, Method: http.MethodGet, Path: "/api/v1/" + list + "/{id}", Summary: "One " + one + ", as the shop file has it"}),
		func(_ context.Context, in *oneOf) (*body[T], error) {
			sh, _ := s.store.Snapshot()
			all := of(sh)
			if i := slices.IndexFunc(all, func(x T) bool { return id(&x) == in.ID }); i >= 0 {
				return &body[T]{all[i]}, nil
			}
			return nil, huma.Error404NotFound("there is no "+one+" "+in.ID, &huma.ErrorDetail{Location: "path.id", Message: "there is no " + one + " of this id", Value: in.ID})
		})
}

// any of a list is wanted when nothing was asked, or what was asked is what it has.
func asked(in, has string) bool { return in == "" || in == has }

func (s *Server) parts() {
	listed(s, "items", "item", func(sh *shop.Shop) []shop.Item { return sh.Items }, func(x *shop.Item) string { return x.ID },
		func(sh *shop.Shop, it *shop.Item, in *struct {
			Kind   string    `query:"kind" maxLength:"64"`
			Family string    `query:"family" maxLength:"100"`
			Place  string    `query:"place" maxLength:"64" doc:"that lives there"`
			UsedAt string    `query:"used_at" maxLength:"64" doc:"station"`
			Hold   shop.Hold `query:"hold" doc:"way it can be held"`
			Flag   shop.Flag `query:"flag"`
			Status string    `query:"status" enum:"owned,wished,limbo"`
		}) bool {
			status := it.Status
			if status == "" {
				status = "owned"
			}
			return asked(in.Kind, it.Kind) && asked(in.Family, it.Family) && asked(in.Status, status) && (in.UsedAt == "" || slices.Contains(it.UsedAt, in.UsedAt)) &&
				(in.Hold == "" || slices.Contains(it.Holding(), in.Hold)) && (in.Flag == "" || it.Flagged(in.Flag)) &&
				(in.Place == "" || slices.ContainsFunc(sh.Homes, func(h shop.Home) bool { return h.Item == it.ID && h.Place == in.Place }))
		})
	listed(s, "places", "place", func(sh *shop.Shop) []shop.Place { return sh.Places }, func(x *shop.Place) string { return x.ID },
		func(_ *shop.Shop, p *shop.Place, in *struct {
			Kind shop.PlaceKind `query:"kind"`
			In   string         `query:"in" maxLength:"64" doc:"container it is in"`
			Wall string         `query:"wall" maxLength:"64"`
			Area string         `query:"area" maxLength:"64"`
		}) bool {
			return (in.Kind == "" || in.Kind == p.Kind) && asked(in.In, p.At.In) && asked(in.Wall, p.At.Wall) && asked(in.Area, p.At.Area)
		})
	listed(s, "containers", "container", func(sh *shop.Shop) []shop.Container { return sh.Containers }, func(x *shop.Container) string { return x.ID },
		func(_ *shop.Shop, c *shop.Container, in *struct {
			Kind shop.ContainerKind `query:"kind"`
			Area string             `query:"area" maxLength:"64"`
		}) bool {
			return (in.Kind == "" || in.Kind == c.Kind) && asked(in.Area, c.At.Area)
		})
	listed(s, "stations", "station", func(sh *shop.Shop) []shop.Station { return sh.Stations }, func(x *shop.Station) string { return x.ID },
		func(_ *shop.Shop, st *shop.Station, in *struct {
			Kind string `query:"kind" maxLength:"64"`
			Area string `query:"area" maxLength:"64"`
		}) bool {
			return asked(in.Kind, st.Kind) && asked(in.Area, st.Area)
		})
	listed(s, "areas", "area", func(sh *shop.Shop) []shop.Area { return sh.Areas }, func(x *shop.Area) string { return x.ID },
		func(_ *shop.Shop, a *shop.Area, in *struct {
			Kind string `query:"kind" enum:"room,shed,loft,outdoors"`
		}) bool {
			return asked(in.Kind, a.Kind)
		})
	listed(s, "modes", "mode", func(sh *shop.Shop) []shop.Mode { return sh.Modes }, func(x *shop.Mode) string { return x.ID },
		func(*shop.Shop, *shop.Mode, *struct{}) bool { return true })
	listed(s, "circuits", "circuit", func(sh *shop.Shop) []shop.Circuit { return sh.Circuits }, func(x *shop.Circuit) string { return x.ID },
		func(*shop.Shop, *shop.Circuit, *struct{}) bool { return true })
	huma.Register(s.api, described(huma.Operation{OperationID: "list-homes", Method: http.MethodGet, Path: "/api/v1/homes", Summary: "Where things live, as the shop file has it"}), s.listHomes)
}

func (s *Server) listHomes(_ context.Context, in *struct {
	Item  string `query:"item" maxLength:"64"`
	Place string `query:"place" maxLength:"64"`
}) (*body[[]shop.Home], error) {
	sh, _ := s.store.Snapshot()
	out := []shop.Home{}
	for i := range sh.Homes {
		if h := &sh.Homes[i]; asked(in.Item, h.Item) && asked(in.Place, h.Place) {
			out = append(out, *h)
		}
	}
	return &body[[]shop.Home]{out}, nil
}
