package main

import (
	"errors"
	"fmt"

	"github.com/spf13/cobra"

	"hobrak/internal/core/check"
	"hobrak/internal/core/say"
)

func checkCommand() *cobra.Command {
	var in string
	var asJSON bool
	c := &cobra.Command{
		Use:   "check --shop FILE",
		Short: "List broken rules and cautions of a shop file",
		Args:  cobra.NoArgs,
		RunE: func(c *cobra.Command, _ []string) error {
			s, err := readShop(in)
			if err != nil {
				return err
			}
			found, err := check.Shop(s)
			if err != nil {
				return &exit{code: exitInput, err: err}
			}
			supplied, err := check.Supplied(s)
			if err != nil {
				return &exit{code: exitInput, err: err}
			}
			found = append(found, supplied...)
			if asJSON {
				if found == nil {
					found = []check.Finding{}
				}
				if err := printed(c, s, found); err != nil {
					return err
				}
			} else {
				for _, f := range found {
					fmt.Fprintln(c.OutOrStdout(), say.In(s.Settings.Units, f.String()))
				}
			}
			if check.Broken(found) {
				return &exit{code: exitBroken, quiet: true, err: errors.New("a rule is broken")}
			}
			return nil
		},
	}
	c.Flags().StringVar(&in, "shop", "", "shop file to check")
	c.Flags().BoolVar(&asJSON, "json", false, "write a JSON list instead of lines")
	required(c, "shop")
	return c
}
