package e2e

import (
	"slices"
	"strconv"

	"github.com/chromedp/chromedp/kb"

	"hobrak/internal/core/shop"
)

const (
	chromedpRight  = kb.ArrowRight
	chromedpEscape = kb.Escape
)

func quoted(s string) string { return strconv.Quote(s) }

// dropHome takes an item's homes away, as another window might.
func dropHome(item string) func(*shop.Shop) error {
	return func(s *shop.Shop) error {
		s.Homes = slices.DeleteFunc(s.Homes, func(h shop.Home) bool { return h.Item == item })
		return nil
	}
}
