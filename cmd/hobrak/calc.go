package main

import (
	"fmt"
	"strings"

	"github.com/spf13/cobra"

	"hobrak/internal/core/calc"
	"hobrak/internal/core/length"
)

func calcCommand() *cobra.Command {
	var units string
	c := &cobra.Command{
		Use:   "calc [NAME key=value ...]",
		Short: "Work one thing out; without a name, list the calculators",
		RunE: func(c *cobra.Command, args []string) error {
			out := c.OutOrStdout()
			if len(args) == 0 {
				for _, k := range calc.All() {
					fmt.Fprintf(out, "%s: %s\n", k.Name, k.About)
					for _, in := range k.Inputs {
						left := ""
						if in.Default != "" {
							left = ", " + in.Default + " when left out"
						}
						fmt.Fprintf(out, "  %s (%s): %s%s\n", in.Name, in.Kind, in.About, left)
					}
				}
				return nil
			}
			values := map[string]string{}
			for _, a := range args[1:] {
				k, v, ok := strings.Cut(a, "=")
				if !ok {
					return &exit{code: exitInput, err: fmt.Errorf("%q should be key=value", a)}
				}
				values[k] = v
			}
			if units != "metric" && units != "imperial" {
				return &exit{code: exitInput, err: fmt.Errorf("--units %q should be metric or imperial", units)}
			}
			r, err := calc.Run(args[0], values, length.System(units))
			if err != nil {
				return &exit{code: exitInput, err: err, units: length.System(units)}
			}
			return asJSON(out, length.System(units), r)
		},
	}
	c.Flags().StringVar(&units, "units", "metric", "what bare numbers are: metric (mm, kg) or imperial (in, lb)")
	return c
}
