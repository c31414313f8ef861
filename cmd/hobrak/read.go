package main

import (
	"errors"
	"fmt"
	"slices"
	"strings"

	"github.com/spf13/cobra"

	"hobrak/internal/core/floor"
	"hobrak/internal/core/length"
	"hobrak/internal/core/note"
	"hobrak/internal/core/shop"
)

func readCommand() *cobra.Command {
	var about, file, units string
	c := &cobra.Command{
		Use:   `read --as ` + strings.Join(note.Abouts(), "|") + ` "LINE"`,
		Short: "Say what a typed line is taken for, and the entry of the shop file it comes to",
		Args:  cobra.ExactArgs(1),
		RunE: func(c *cobra.Command, args []string) error {
			if !slices.Contains(note.Abouts(), about) {
				return &exit{code: exitInput, err: fmt.Errorf("--as %q should be one of %s", about, strings.Join(note.Abouts(), ", "))}
			}
			if units != "metric" && units != "imperial" {
				return &exit{code: exitInput, err: fmt.Errorf("--units %q should be metric or imperial", units)}
			}
			s := &shop.Shop{Settings: shop.Settings{Units: length.System(units)}}
			if file != "" {
				var err error
				if s, err = readShop(file); err != nil {
					return err
				}
			}
			r, _ := note.Read(s, about, args[0])
			if st, ok := r.Entry.(*shop.Station); ok && file != "" {
				at, _, err := floor.Put(s, *st, note.Station(s, args[0]).Where)
				if err != nil {
					r.Entry, r.Why = nil, err.Error()
				} else {
					r.Entry = at
				}
			}
			if err := printed(c, s, r); err != nil {
				return err
			}
			if r.Entry == nil {
				return &exit{code: exitBroken, quiet: true, err: errors.New(r.Why)}
			}
			return nil
		},
	}
	c.Flags().StringVar(&about, "as", "item", "what the line is about: "+strings.Join(note.Abouts(), ", "))
	c.Flags().StringVar(&file, "shop", "", "shop file that the line belongs to: its units, walls and stations")
	c.Flags().StringVar(&units, "units", "metric", "units without a shop file: metric or imperial")
	return c
}
