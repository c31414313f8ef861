package main

import (
	"errors"
	"fmt"
	"io"
	"os"
	"path/filepath"
	"strings"

	"github.com/spf13/cobra"

	"hobrak/internal/core/length"
	"hobrak/internal/core/say"
	"hobrak/internal/core/shop"
	"hobrak/internal/exchange"
	"hobrak/internal/store"
)

func doctorCommand() *cobra.Command {
	var db, out string
	c := &cobra.Command{
		Use:   "doctor [--db FILE] [--rescue OUT]",
		Short: "Say what is wrong with a database, and save what can be read of it",
		Long: `Look at a database file without changing it: its pages, its references, every
part of the shop, and whether the revisions lead to the shop as it stands. One
finding a line; exit code 1 when something is wrong. With --rescue the newest
state that can be read is written to a shop file (.json) or a shop with its
photos (.zip), and what is missing in it is said.`,
		Args: cobra.NoArgs,
		RunE: func(c *cobra.Command, _ []string) error {
			if db == "" {
				var err error
				if db, err = store.DefaultPath(); err != nil {
					return &exit{code: exitInternal, err: err}
				}
			}
			if _, err := os.Stat(db); err != nil {
				return &exit{code: exitInput, err: err}
			}
			if out != "" {
				return rescue(c, db, out)
			}
			found, err := store.Examine(c.Context(), db)
			if err != nil {
				return &exit{code: exitInput, err: err}
			}
			for _, f := range found {
				fmt.Fprintf(c.OutOrStdout(), "%s\t%s\n", f.Where, say.In(length.Metric, f.What))
			}
			if len(found) > 0 {
				fmt.Fprintf(c.ErrOrStderr(), "save what can be read with: hobrak doctor --db %s --rescue OUT.zip\n", db)
				return &exit{code: exitBroken, quiet: true, err: errors.New("something is wrong with it")}
			}
			fmt.Fprintf(c.ErrOrStderr(), "%s is in order\n", db)
			return nil
		},
	}
	c.Flags().StringVar(&db, "db", "", "database file (default: in your data directory)")
	c.Flags().StringVar(&out, "rescue", "", "file to write what can be read to (.json or .zip)")
	return c
}

func rescue(c *cobra.Command, db, out string) error {
	form := strings.ToLower(filepath.Ext(out))
	if form != ".json" && form != ".zip" {
		return &exit{code: exitInput, err: fmt.Errorf("--rescue %s should end in .json or .zip", out)}
	}
	r, err := store.Rescue(c.Context(), db)
	if err != nil {
		return &exit{code: exitInput, err: err}
	}
	write := func(w io.Writer) error {
		if form == ".zip" {
			return exchange.WriteZip(w, r.Shop, func(name string) ([]byte, error) { return r.Photos[name], nil })
		}
		_, err := w.Write(shop.Write(r.Shop))
		return err
	}
	if err := writeFile(out, write); err != nil {
		return &exit{code: exitInput, err: err}
	}
	fmt.Fprintf(c.ErrOrStderr(), "%s is the shop as it was at revision %d: %d things, %d places, %d photos\n", out, r.Revision, len(r.Shop.Items), len(r.Shop.Places), len(r.Photos))
	for _, lost := range r.Lost {
		fmt.Fprintf(c.OutOrStdout(), "lost\t%s\n", lost)
	}
	if len(r.Lost) > 0 {
		return &exit{code: exitBroken, quiet: true, err: errors.New("something is missing in it")}
	}
	return nil
}
