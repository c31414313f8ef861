package main

import (
	"bytes"
	"context"
	"errors"
	"fmt"
	"io"
	"os"
	"path/filepath"
	"strings"

	"github.com/spf13/cobra"

	"hobrak/internal/core/say"
	"hobrak/internal/core/shop"
	"hobrak/internal/core/table"
	"hobrak/internal/exchange"
	"hobrak/internal/photo"
	"hobrak/internal/store"
)

func importCommand() *cobra.Command {
	var db, in, list, sheet string
	var good, stations bool
	c := &cobra.Command{
		Use:   "import (--shop FILE | --list FILE)",
		Short: "Put a shop file, a zip with photos or a table of belongings into the database; undo brings the old shop back",
		Long: `Put a shop into the database in place of the one that is there (--shop: a shop
file, or a zip of one with its photos), or bring a list of belongings into the
shop that is there (--list: CSV or xlsx; columns are recognised by their headings
and content). Undo takes either back.`,
		Args: cobra.NoArgs,
		RunE: func(c *cobra.Command, _ []string) error {
			switch {
			case (in == "") == (list == ""):
				return &exit{code: exitInput, err: errors.New("give either --shop or --list")}
			case list != "":
				return importList(c, db, list, sheet, good, stations)
			}
			return importShop(c, db, in)
		},
	}
	c.Flags().StringVar(&db, "db", "", "database file (default: in your data directory)")
	c.Flags().StringVar(&in, "shop", "", "shop file (.json) or shop with photos (.zip) to read")
	c.Flags().StringVar(&list, "list", "", "table of belongings (.csv, .tsv, .xlsx) to read")
	c.Flags().StringVar(&sheet, "sheet", "", "sheet of a workbook; the first that holds something when left out")
	c.Flags().BoolVar(&good, "good-rows", false, "skip rows with errors instead of importing none")
	c.Flags().BoolVar(&stations, "make-stations", false, "make the stations that are named and not there")
	return c
}

func importShop(c *cobra.Command, db, in string) error {
	var s *shop.Shop
	var err error
	if exchange.IsZip(in) { // the shop first, its photos when there is a database to put them in
		s, err = readZip(in, func(p exchange.Photo) (string, error) { return p.Name, nil })
	} else {
		s, err = readShop(in)
	}
	if err != nil {
		return err
	}
	st, err := opened(c, db, s)
	if err != nil {
		return err
	}
	defer st.Close()
	var made []string
	if exchange.IsZip(in) {
		s, err = readZip(in, func(p exchange.Photo) (string, error) {
			kept, err := photo.Again(c.Context(), p.Name, p.Data)
			if err != nil {
				return "", err
			}
			name, is, err := st.KeepPhoto(c.Context(), kept)
			if is {
				made = append(made, name)
			}
			return name, err
		})
	}
	if err == nil {
		_, err = st.Change(c.Context(), st.Head(), commandLine, "import "+s.Settings.Name, func(x *shop.Shop) error { *x, x.Whole = *s, true; return nil })
	}
	if err != nil && !errors.Is(err, store.ErrNothing) {
		if err := st.DropPhotos(context.Background(), made); err != nil {
			fmt.Fprintf(c.ErrOrStderr(), "photos of the import that failed stay in the database: %v\n", err)
		}
		return failed(err)
	}
	fmt.Fprintf(c.ErrOrStderr(), "%s is in %s\n", s.Settings.Name, st.Path())
	return nil
}

// commandLine stands for whoever changes a shop from there.
const commandLine = "command line"

// failed gives an error its exit code: what the input is to blame for has it already.
func failed(err error) error {
	var e *exit
	if errors.As(err, &e) {
		return err
	}
	return &exit{code: exitInternal, err: err}
}

func readZip(in string, keep func(exchange.Photo) (string, error)) (*shop.Shop, error) {
	f, err := os.Open(in)
	if err != nil {
		return nil, &exit{code: exitInput, err: err}
	}
	defer f.Close()
	info, err := f.Stat()
	if err != nil {
		return nil, &exit{code: exitInput, err: err}
	}
	s, err := exchange.ReadZip(f, info.Size(), keep)
	if err != nil {
		return nil, &exit{code: exitInput, err: fmt.Errorf("%s: %w", in, err)}
	}
	return s, nil
}

func importList(c *cobra.Command, db, list, sheet string, good, stations bool) error {
	data, err := os.ReadFile(list)
	if err != nil {
		return &exit{code: exitInput, err: err}
	}
	t, err := exchange.ReadTable(c.Context(), data, list, sheet)
	if err != nil {
		return &exit{code: exitInput, err: err}
	}
	st, err := opened(c, db, nil)
	if err != nil {
		return err
	}
	defer st.Close()
	sh, revision := st.Shop()
	tell := func(format string, args ...any) {
		fmt.Fprintln(c.ErrOrStderr(), say.In(sh.Settings.Units, fmt.Sprintf(format, args...)))
	}
	g := table.Recognise(sh, t.Rows, t.Semicolons)
	for i, u := range g.Columns {
		if u.Field == "" {
			tell("column %s (%s): left out, not recognised", table.Letter(i), g.Headings[i])
		}
	}
	_, err = st.Change(c.Context(), revision, commandLine, "import "+filepath.Base(list), func(sh *shop.Shop) error {
		read := table.Read
		if stations {
			read = func(sh *shop.Shop, rows [][]string, m table.Mapping, progress func(int, int) error) (*table.Reading, error) {
				r, made, err := table.ReadMaking(sh, rows, m, progress)
				for _, name := range made {
					tell("station %s made; it stands where the floor was free", name)
				}
				return r, err
			}
		}
		r, err := read(sh, t.Rows, g.Mapping, nil)
		if err != nil {
			return err
		}
		for _, row := range r.Rows {
			for _, f := range row.Faults {
				tell("%s", f.Error())
			}
		}
		if r.Faulty > 0 && !good {
			return fmt.Errorf("rows with errors: %d, so none was imported; correct them, or skip them with --good-rows", r.Faulty)
		}
		notes, err := table.Apply(sh, r)
		for _, n := range notes {
			tell("%s", n)
		}
		tell("%d new, %d changed, %d as they were, %d left out", r.New, r.Changed, r.Same, r.Faulty)
		return err
	})
	if err != nil && !errors.Is(err, store.ErrNothing) {
		return &exit{code: exitInput, err: fmt.Errorf("%s: %w", list, err)}
	}
	return nil
}

func exportCommand() *cobra.Command {
	var drawing, area string
	c := outCommand("export", "Write the shop to a shop file (.json), with its photos (.zip), its belongings as a table (.csv, .xlsx), or its survey sheet (.pdf, .svg)", func(ctx context.Context, st *store.Store, out string) error {
		s, _, err := st.File(ctx)
		if err != nil {
			return err
		}
		if drawing != "" {
			if drawing != "survey" {
				return fmt.Errorf("--sheet %q should be survey", drawing)
			}
			return surveySheet(s, area, out)
		}
		switch strings.ToLower(filepath.Ext(out)) {
		case ".json":
			return writeFile(out, func(w io.Writer) error { _, err := w.Write(shop.Write(s)); return err })
		case ".zip":
			return writeFile(out, func(w io.Writer) error {
				return exchange.WriteZip(w, s, func(name string) ([]byte, error) { return st.Photo(ctx, name, false) })
			})
		case ".csv":
			return writeFile(out, func(w io.Writer) error { return exchange.WriteCSV(w, table.Rows(s)) })
		case ".xlsx":
			var b bytes.Buffer
			if err := exchange.WriteWorkbook(&b, "Belongings", table.Rows(s)); err != nil {
				return err
			}
			return writeFile(out, func(w io.Writer) error { _, err := b.WriteTo(w); return err })
		}
		return fmt.Errorf("%s should end in .json, .zip, .csv or .xlsx", out)
	})
	c.Flags().StringVar(&drawing, "sheet", "", "draw this instead: survey, with every wall to scale and empty boxes for what is not measured")
	c.Flags().StringVar(&area, "area", "", "area to draw; the main one when left out")
	return c
}
