package api

import (
	"io"
	"log/slog"

	"hobrak/internal/core/shop"
)

// ViewShop is the shop the view shares among all who ask.
func (s *Server) ViewShop() *shop.Shop {
	v, err := s.now()
	if err != nil {
		panic(err)
	}
	return v.shop
}

// MarshalWhole writes an answer as the server does.
func MarshalWhole(w io.Writer, v any) error {
	return whole(slog.New(slog.DiscardHandler)).Marshal(w, v)
}
