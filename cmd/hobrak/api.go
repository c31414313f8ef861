package main

import (
	"log/slog"

	"github.com/spf13/cobra"

	"hobrak/internal/api"
	"hobrak/internal/core/shop"
)

// apiCommand prints the machine-readable descriptions that the docs and the
// front end are generated from.
func apiCommand() *cobra.Command {
	return &cobra.Command{
		Use:       "describe shop|api",
		Short:     "Print the JSON Schema of the shop file or the OpenAPI description of the server",
		Args:      cobra.MatchAll(cobra.ExactArgs(1), cobra.OnlyValidArgs),
		ValidArgs: []string{"shop", "api"},
		Hidden:    true,
		RunE: func(c *cobra.Command, args []string) error {
			out := shop.Schema()
			if args[0] == "api" {
				var err error
				if out, err = api.New(nil, slog.New(slog.DiscardHandler), nil).OpenAPI(); err != nil {
					return &exit{code: exitInternal, err: err}
				}
			}
			_, err := c.OutOrStdout().Write(out)
			return err
		},
	}
}
