package api

import "hobrak/internal/core/shop"

func (s *Server) containerRoutes() {
	listed(s, "containers", "container", func(sh *shop.Shop) []shop.Container { return sh.Containers }, func(x *shop.Container) string { return x.ID }, wantedContainer)
}

// containersWanted is what a list of containers can be asked for.
type containersWanted struct {
	Kind shop.ContainerKind `query:"kind"`
	Area string             `query:"area" maxLength:"64"`
}

// wantedContainer tells whether one is asked for.
func wantedContainer(_ *shop.Shop, c *shop.Container, in *containersWanted) bool {
	return (in.Kind == "" || in.Kind == c.Kind) && asked(in.Area, c.At.Area)
}
