package main

import (
	"bytes"
	"context"
	"errors"
	"fmt"
	"io"
	"log/slog"
	"net"
	"net/http"
	"os"
	"os/signal"
	"path/filepath"
	"strings"
	"syscall"
	"time"

	"github.com/spf13/cobra"

	"hobrak/demo"
	"hobrak/internal/api"
	"hobrak/internal/core/length"
	"hobrak/internal/core/sheet"
	"hobrak/internal/core/shop"
	"hobrak/internal/core/survey"
	"hobrak/internal/device"
	"hobrak/internal/exchange"
	"hobrak/internal/store"
	"hobrak/web"
)

// plainShop is what a new database begins with: a room that is still to be surveyed, and a bench in it.
func plainShop() []byte {
	s := &shop.Shop{Format: shop.Format, Version: shop.Version, Settings: shop.Settings{Name: "My workshop", Units: length.Metric, People: []shop.Person{{ID: "me", Stature: length.MM(1720)}}}}
	survey.NewArea(s, "Workshop")
	s.Stations = []shop.Station{{ID: "bench", Name: "Bench", Kind: "bench", X: length.MM(1200), Y: length.MM(2400), W: length.MM(1500), D: length.MM(600), H: length.MM(880), Stand: shop.Point{length.MM(1950), length.MM(2100)}}}
	return shop.Write(s)
}

func serveCommand() *cobra.Command {
	var db, listen string
	c := &cobra.Command{
		Use:   "serve",
		Short: "Start on a database file",
		Args:  cobra.NoArgs,
		RunE: func(c *cobra.Command, _ []string) error {
			if db == "" {
				var err error
				if db, err = store.DefaultPath(); err != nil {
					return &exit{code: exitInternal, err: err}
				}
			}
			return serve(c, db, listen, plainShop())
		},
	}
	c.Flags().StringVar(&db, "db", "", "database file (default: in your data directory)")
	c.Flags().StringVar(&listen, "listen", "127.0.0.1:8080", "address to listen on; anything but this machine's own is open to your network")
	return c
}

func demoCommand() *cobra.Command {
	var listen, which string
	c := &cobra.Command{
		Use:   "demo",
		Short: "Start with the demo data in a fresh temporary database",
		Args:  cobra.NoArgs,
		RunE: func(c *cobra.Command, _ []string) error {
			data, ok := map[string][]byte{"slipway": demo.Slipway, "pantry": demo.Pantry}[which]
			if !ok {
				return &exit{code: exitInput, err: fmt.Errorf("--shop %q should be slipway or pantry", which)}
			}
			dir, err := os.MkdirTemp("", "hobrak-demo-*")
			if err != nil {
				return &exit{code: exitInternal, err: err}
			}
			defer os.RemoveAll(dir)
			return serve(c, filepath.Join(dir, "shop.db"), listen, data)
		},
	}
	c.Flags().StringVar(&listen, "listen", "127.0.0.1:8080", "address to listen on")
	c.Flags().StringVar(&which, "shop", "slipway", "which demo: slipway (millimetres) or pantry (feet and inches)")
	return c
}

// grace is how long requests may go on once the server is asked to stop.
const grace = 5 * time.Second

func serve(c *cobra.Command, db, listen string, first []byte) error {
	ctx, stop := signal.NotifyContext(context.Background(), os.Interrupt, syscall.SIGTERM)
	defer stop()
	begin, err := shop.Read(first)
	if err != nil {
		return &exit{code: exitInternal, err: err}
	}
	st, err := store.Open(ctx, db, begin)
	if err != nil {
		return &exit{code: exitInput, err: err}
	}
	defer st.Close()
	log := slog.New(slog.NewTextHandler(c.ErrOrStderr(), nil))
	files := web.Files()
	if files == nil {
		log.Warn("the front end has not been built; run make build")
	}
	meter, err := simulatedMeter(first)
	if err != nil {
		return &exit{code: exitInternal, err: err}
	}
	srv := api.New(st, log, files, api.WithMeter(meter), api.WithScale(device.NewSimulatedScale(uint64(time.Now().UnixNano()))))
	defer srv.Close()
	l, err := net.Listen("tcp", listen)
	if err != nil {
		return &exit{code: exitInput, err: err}
	}
	h := &http.Server{Handler: srv.Handler(), ReadHeaderTimeout: 10 * time.Second, IdleTimeout: 2 * time.Minute}
	failed := make(chan error, 1)
	go func() { failed <- h.Serve(l) }()
	fmt.Fprintf(c.OutOrStdout(), "Hobrak is at http://%s\n", l.Addr())
	log.Info("serving", "address", l.Addr().String(), "db", db)
	select {
	case err := <-failed:
		return &exit{code: exitInternal, err: err}
	case <-ctx.Done():
	}
	log.Info("stopping")
	srv.Close()
	end, cancel := context.WithTimeout(context.Background(), grace)
	defer cancel()
	if err := h.Shutdown(end); err != nil && !errors.Is(err, context.DeadlineExceeded) {
		return &exit{code: exitInternal, err: err}
	}
	return nil
}

// simulatedMeter stands in where there is no distance meter. It measures the
// main area of the demo that is shown, or of the larger one.
func simulatedMeter(first []byte) (device.Meter, error) {
	room := demo.Slipway
	if bytes.Equal(first, demo.Pantry) {
		room = demo.Pantry
	}
	s, err := shop.Read(room)
	if err != nil {
		return nil, err
	}
	return device.NewSimulatedMeter(&s.Areas[0], uint64(time.Now().UnixNano())), nil
}

// opened opens the database a command works on.
func opened(c *cobra.Command, db string, first *shop.Shop) (*store.Store, error) {
	if db == "" {
		var err error
		if db, err = store.DefaultPath(); err != nil {
			return nil, &exit{code: exitInternal, err: err}
		}
	}
	if _, err := os.Stat(db); err != nil && first == nil {
		return nil, &exit{code: exitInput, err: fmt.Errorf("there is no database %s; give one with --db", db)}
	}
	st, err := store.Open(c.Context(), db, first)
	if err != nil {
		return nil, &exit{code: exitInput, err: err}
	}
	return st, nil
}

// surveySheet draws the survey sheet of an area; the ending of the file says in which form.
func surveySheet(s *shop.Shop, area, out string) error {
	a := shop.NewIndex(s).Area(area)
	if a == nil {
		return fmt.Errorf("there is no area %q", area)
	}
	write := map[string]func(io.Writer, string, []sheet.Page) error{".pdf": exchange.PDF, ".svg": exchange.SVG}[strings.ToLower(filepath.Ext(out))]
	if write == nil {
		return fmt.Errorf("%s should end in .pdf or .svg", out)
	}
	pages := sheet.Survey(s.Settings.Name, a, length.Style{System: s.Settings.Units})
	return writeFile(out, func(w io.Writer) error { return write(w, s.Settings.Name+": survey sheet", pages) })
}

func backupCommand() *cobra.Command {
	return outCommand("backup", "Copy the database, history and all, to a new file; works while the server runs", func(ctx context.Context, st *store.Store, out string) error {
		return st.Backup(ctx, out)
	})
}

// outCommand is a command that writes something of the database to a file.
func outCommand(name, short string, write func(context.Context, *store.Store, string) error) *cobra.Command {
	var db, out string
	c := &cobra.Command{
		Use:   name + " --out FILE",
		Short: short,
		Args:  cobra.NoArgs,
		RunE: func(c *cobra.Command, _ []string) error {
			st, err := opened(c, db, nil)
			if err != nil {
				return err
			}
			defer st.Close()
			if err := write(c.Context(), st, out); err != nil {
				return &exit{code: exitInput, err: err}
			}
			return nil
		},
	}
	c.Flags().StringVar(&db, "db", "", "database file (default: in your data directory)")
	c.Flags().StringVar(&out, "out", "", "file to write")
	required(c, "out")
	return c
}

func restoreCommand() *cobra.Command {
	var db, in string
	c := &cobra.Command{
		Use:   "restore --from FILE --db FILE",
		Short: "Make a backup the database again; refuses to overwrite one that is there",
		Args:  cobra.NoArgs,
		RunE: func(c *cobra.Command, _ []string) error {
			if _, err := os.Stat(in); err != nil {
				return &exit{code: exitInput, err: err}
			}
			st, err := store.Open(c.Context(), in, nil)
			if err != nil {
				return &exit{code: exitInput, err: err}
			}
			defer st.Close()
			if err := st.Backup(c.Context(), db); err != nil {
				return &exit{code: exitInput, err: fmt.Errorf("%w; move it away first, so that nothing is lost", err)}
			}
			return nil
		},
	}
	c.Flags().StringVar(&db, "db", "", "database file to make")
	c.Flags().StringVar(&in, "from", "", "backup to read")
	required(c, "db", "from")
	return c
}
