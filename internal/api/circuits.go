package api

import "hobrak/internal/core/shop"

func (s *Server) circuitRoutes() {
	listed(s, "circuits", "circuit", func(sh *shop.Shop) []shop.Circuit { return sh.Circuits }, func(x *shop.Circuit) string { return x.ID },
		func(*shop.Shop, *shop.Circuit, *struct{}) bool { return true })
}
