package fit_test

import (
	"testing"

	"hobrak/internal/core/shop"
	"hobrak/internal/core/shoptest"
)

// made is a shop for the benchmarks.
func made(_ testing.TB, items, places int, seed uint64) *shop.Shop {
	return shoptest.Made(items, places, seed)
}
