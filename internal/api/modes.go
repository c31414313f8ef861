package api

import "hobrak/internal/core/shop"

func (s *Server) modeRoutes() {
	listed(s, "modes", "mode", func(sh *shop.Shop) []shop.Mode { return sh.Modes }, func(x *shop.Mode) string { return x.ID },
		func(*shop.Shop, *shop.Mode, *struct{}) bool { return true })
}
