package shop_test

import (
	"testing"

	"hobrak/demo"
	"hobrak/internal/core/shop"
)

func BenchmarkReadTheSlipway(b *testing.B) {
	b.SetBytes(int64(len(demo.Slipway)))
	for b.Loop() {
		if _, err := shop.Read(demo.Slipway); err != nil {
			b.Fatal(err)
		}
	}
}
