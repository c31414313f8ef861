package api

import "hobrak/internal/core/shop"

// ViewShop is the shop the view shares among all who ask.
func (s *Server) ViewShop() *shop.Shop {
	v, err := s.now()
	if err != nil {
		panic(err)
	}
	return v.shop
}
