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
	"runtime/debug"
	"strings"
	"sync"
	"syscall"
	"time"

	"github.com/spf13/cobra"

	"hobrak/demo"
	"hobrak/internal/api"
	"hobrak/internal/core/fit"
	"hobrak/internal/core/length"
	"hobrak/internal/core/review"
	"hobrak/internal/core/round"
	"hobrak/internal/core/sheet"
	"hobrak/internal/core/shop"
	"hobrak/internal/core/survey"
	"hobrak/internal/device"
	"hobrak/internal/exchange"
	"hobrak/internal/shelf"
	"hobrak/internal/store"
	"hobrak/web"
)

// plainShop is what a new database begins with: a room that is still to be surveyed, and nothing said of it.
func plainShop() []byte {
	s := &shop.Shop{Format: shop.Format, Version: shop.Version, Settings: shop.Settings{Name: "My workshop", Units: length.Metric}}
	survey.NewArea(s, "Workshop")
	return shop.Write(s)
}

// examples are the shops of the demo, to be copied.
func examples() []api.Example {
	return []api.Example{{ID: "slipway", Says: "a boatbuilder's shop, in millimetres", File: demo.Slipway}, {ID: "pantry", Says: "a shop in a pantry, in feet and inches", File: demo.Pantry}}
}

// serving is how a server is started.
type serving struct {
	db, listen string
	sharing
	simulate bool // a distance meter and a scale that make their readings up
}

func (o *serving) flags(c *cobra.Command) {
	c.Flags().StringVar(&o.listen, "listen", "127.0.0.1:8080", "address to listen on at this machine; beyond it only with --open, better --share")
	o.sharing.flags(c)
}

func serveCommand() *cobra.Command {
	var o serving
	c := &cobra.Command{
		Use:   "serve",
		Short: "Start on a database file",
		Args:  cobra.NoArgs,
		RunE: func(c *cobra.Command, _ []string) error {
			if o.db == "" {
				var err error
				if o.db, err = store.DefaultPath(); err != nil {
					return &exit{code: exitInternal, err: err}
				}
			}
			return serve(c, &o, plainShop())
		},
	}
	c.Flags().StringVar(&o.db, "db", "", "database file (default: in your data directory)")
	c.Flags().BoolVar(&o.simulate, "simulate", false, "offer a distance meter and a scale whose readings are made up, to try them out")
	o.flags(c)
	return c
}

func demoCommand() *cobra.Command {
	var which string
	o := serving{simulate: true}
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
			o.db = filepath.Join(dir, "shop.db")
			if err := begunYear(c.Context(), o.db, data); err != nil {
				return &exit{code: exitInternal, err: err}
			}
			return serve(c, &o, data)
		},
	}
	o.flags(c)
	c.Flags().StringVar(&which, "shop", "slipway", "which demo: slipway (millimetres) or pantry (feet and inches)")
	return c
}

// begunYear makes the database of a demo with a year of work behind it, and how the shop was a year ago.
func begunYear(ctx context.Context, db string, data []byte) error {
	s, err := shop.Read(data)
	if err != nil {
		return err
	}
	y, m, d := time.Now().Date()
	today := time.Date(y, m, d, 0, 0, 0, 0, time.UTC)
	before := demo.Year(s, today)
	st, err := store.Open(ctx, db, s)
	if err != nil {
		return err
	}
	p, err := fit.New(before)
	if err == nil {
		e := p.AsItIs()
		was := review.Take(before, round.Of(e), nil, "", today.AddDate(-1, 0, 0).Format(time.DateOnly), review.Noted{InOrder: e.Orderly()})
		was.Name = "last autumn"
		_, err = st.KeepSnapshot(ctx, was)
	}
	return errors.Join(err, st.Close())
}

// grace is how long requests may go on once the server is asked to stop.
const grace = 5 * time.Second

// memory in bytes from which on the garbage collector works harder, where nothing else is said.
const memory = 256 << 20

// version of this Hobrak, set when a release is built.
var version = "development"

func serve(c *cobra.Command, o *serving, first []byte) error {
	ctx, stop := signal.NotifyContext(context.Background(), os.Interrupt, syscall.SIGTERM)
	defer stop()
	if os.Getenv("GOMEMLIMIT") == "" {
		debug.SetMemoryLimit(memory)
	}
	phrase, err := o.phrase()
	if err == nil {
		err = o.alone(o.listen, phrase, c.ErrOrStderr())
	}
	if err != nil {
		return &exit{code: exitInput, err: err}
	}
	begin, err := shop.Read(first)
	if err != nil {
		return &exit{code: exitInternal, err: err}
	}
	st, err := store.Open(ctx, o.db, begin)
	if err != nil {
		return &exit{code: exitInput, err: err}
	}
	defer st.Close()
	log := slog.New(slog.NewTextHandler(c.ErrOrStderr(), nil))
	files := web.Files()
	if files == nil {
		log.Warn("the front end has not been built; run make build")
	}
	options := []api.Option{api.WithHosts(o.hosts...), api.WithVersion(version)}
	var beyond *beyond
	switch {
	case o.share:
		if beyond, err = o.open(ctx, st, phrase, c.InOrStdin(), c.OutOrStdout(), c.ErrOrStderr()); err != nil {
			return &exit{code: exitInput, err: err}
		}
		defer beyond.listener.Close()
		options = append(options, api.WithSharing(beyond.api))
	case phrase != "":
		hash, err := o.hash(ctx, st, phrase, nil, nil)
		if err != nil {
			return &exit{code: exitInput, err: err}
		}
		options = append(options, api.WithSharing(api.Sharing{Phrase: hash}))
	}
	if o.simulate {
		meter, err := simulatedMeter(first)
		if err != nil {
			return &exit{code: exitInternal, err: err}
		}
		options = append(options, api.WithMeter(meter), api.WithScale(device.NewSimulatedScale(uint64(time.Now().UnixNano()))), api.WithLabelPrinter(&device.Tray{}))
	}
	var srv *api.Server
	var side sync.WaitGroup // house keeping of the shops beside the first
	fresh, err := shop.Read(plainShop())
	if err != nil {
		return &exit{code: exitInternal, err: err}
	}
	var shops *shelf.Shelf
	shops = shelf.New(st, fresh, func(name string, st *store.Store) *api.Server {
		return api.New(st, log.With("shop", name), files, api.WithHosts(o.hosts...), api.WithVersion(version), api.WithExamples(examples()...), api.WithShelf(shops), api.Behind(srv))
	}, func(st *store.Store) { side.Go(func() { keepHouse(ctx, st, log) }) })
	defer func() {
		stop()
		side.Wait()
		if err := shops.Close(); err != nil {
			log.Error("closing the shops", "what", err)
		}
	}()
	options = append(options, api.WithExamples(examples()...), api.WithShelf(shops))
	srv = api.New(st, log, files, options...)
	defer srv.Close()
	shops.Root(srv.Handler())
	l, err := net.Listen("tcp", o.listen)
	if err != nil {
		return &exit{code: exitInput, err: err}
	}
	server := func() *http.Server {
		return &http.Server{Handler: shops, ReadHeaderTimeout: 10 * time.Second, IdleTimeout: 2 * time.Minute, MaxHeaderBytes: 64 << 10, ErrorLog: slog.NewLogLogger(log.Handler(), slog.LevelDebug)}
	}
	h := server()
	h.BaseContext = func(net.Listener) context.Context { return api.AtTheMachine(context.Background()) }
	failed := make(chan error, 2)
	go func() { failed <- h.Serve(l) }()
	fmt.Fprintf(c.OutOrStdout(), "Hobrak is at http://%s\n", l.Addr())
	others := server()
	if beyond != nil {
		go func() { failed <- others.Serve(beyond.listener) }()
		beyond.tell(c.OutOrStdout())
	}
	log.Info("serving", "address", l.Addr().String(), "db", o.db)
	kept := make(chan struct{})
	go func() {
		defer close(kept)
		keepHouse(ctx, st, log)
	}()
	select {
	case err := <-failed:
		return &exit{code: exitInternal, err: err}
	case <-ctx.Done():
	}
	log.Info("stopping")
	srv.Close()
	end, cancel := context.WithTimeout(context.Background(), grace)
	defer cancel()
	for _, x := range []*http.Server{h, others} {
		if err := x.Shutdown(end); err != nil && !errors.Is(err, context.DeadlineExceeded) {
			return &exit{code: exitInternal, err: err}
		}
	}
	<-kept
	return nil
}

// keepHouse makes the backup of the day and takes out photos that nothing shows, at the
// start and then every hour.
func keepHouse(ctx context.Context, st *store.Store, log *slog.Logger) {
	for {
		if made, err := st.BackupToday(ctx); err != nil && ctx.Err() == nil {
			log.Error("today's backup", "what", err)
		} else if made {
			log.Info("backed up for today")
		}
		if n, err := st.CollectPhotos(ctx); err != nil && ctx.Err() == nil {
			log.Error("photos that nothing shows", "what", err)
		} else if n > 0 {
			log.Info("photos that nothing shows were taken out", "count", n)
		}
		select {
		case <-ctx.Done():
			return
		case <-time.After(time.Hour):
		}
	}
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
	var replace bool
	c := &cobra.Command{
		Use:   "restore --from FILE [--db FILE] [--replace]",
		Short: "Make a backup the database again; with --replace one that is there is kept beside it",
		Args:  cobra.NoArgs,
		RunE: func(c *cobra.Command, _ []string) error {
			if db == "" {
				var err error
				if db, err = store.DefaultPath(); err != nil {
					return &exit{code: exitInternal, err: err}
				}
			}
			if _, err := os.Stat(db); err == nil && !replace {
				return &exit{code: exitInput, err: fmt.Errorf("%s is there already; with --replace it is put aside under another name, with all that is in it, and the backup takes its place", db)}
			}
			kept, err := store.Restore(c.Context(), in, db, time.Now())
			if err != nil {
				return &exit{code: exitInput, err: err}
			}
			if kept != "" {
				fmt.Fprintf(c.ErrOrStderr(), "what was there is now %s\n", kept)
			}
			fmt.Fprintf(c.ErrOrStderr(), "%s is the backup %s\n", db, in)
			return nil
		},
	}
	c.Flags().StringVar(&db, "db", "", "database file to make (default: in your data directory)")
	c.Flags().StringVar(&in, "from", "", "backup to read")
	c.Flags().BoolVar(&replace, "replace", false, "put the database that is there aside and take its place")
	required(c, "from")
	return c
}
