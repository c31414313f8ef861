package main

import (
	"fmt"

	"github.com/spf13/cobra"

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
			_, err := fmt.Fprint(c.OutOrStdout(), string(shop.Schema()))
			return err
		},
	}
}
