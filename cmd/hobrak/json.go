package main

import (
	"encoding/json"
	"io"

	"github.com/spf13/cobra"

	"hobrak/internal/core/length"
	"hobrak/internal/core/say"
	"hobrak/internal/core/shop"
)

// asJSON writes an answer for scripts, and for people who read it; quantities in sentences in the units that are given.
func asJSON(w io.Writer, units length.System, answer any) error {
	out := say.ToJSON(w, units)
	defer out.Close()
	enc := json.NewEncoder(out)
	enc.SetEscapeHTML(false)
	enc.SetIndent("", "  ")
	return enc.Encode(answer)
}

// printed writes an answer of a shop to standard output.
func printed(c *cobra.Command, s *shop.Shop, answer any) error {
	if err := asJSON(c.OutOrStdout(), s.Settings.Units, answer); err != nil {
		return &exit{code: exitInternal, err: err}
	}
	return nil
}
