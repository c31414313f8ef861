// Package shelf keeps several shops side by side, one database file each: the one the program was started with, and those
// in the folder "shops" beside it. Each is opened when it is first asked for, and served below /shops/NAME as the first
// one is at the root.
package shelf

import (
	"context"
	"errors"
	"fmt"
	"net/http"
	"os"
	"path/filepath"
	"regexp"
	"slices"
	"strings"
	"sync"

	"hobrak/internal/api"
	"hobrak/internal/core/shop"
	"hobrak/internal/store"
)

// Folder beside the first shop in which the others are.
const Folder = "shops"

// most shops on one shelf: each that is opened takes memory.
const most = 50

var named = regexp.MustCompile(`^[a-z0-9][a-z0-9-]{0,39}$`)

// Shelf of shops.
type Shelf struct {
	first *store.Store
	root  http.Handler
	begin *shop.Shop
	serve func(name string, st *store.Store) *api.Server
	kept  func(st *store.Store) // looks after a shop while it is open

	mu   sync.Mutex
	open map[string]*opened
}

type opened struct {
	store  *store.Store
	server *api.Server
}

// New makes a shelf of a first shop, which stays its owner's. Begin is what a new shop begins with; serve makes the server of
// an opened one; kept is told of each.
func New(first *store.Store, begin *shop.Shop, serve func(name string, st *store.Store) *api.Server, kept func(*store.Store)) *Shelf {
	return &Shelf{first: first, begin: begin, serve: serve, kept: kept, open: map[string]*opened{}}
}

// Root sets what serves the first shop.
func (s *Shelf) Root(h http.Handler) { s.root = h }

func (s *Shelf) folder() string { return filepath.Join(filepath.Dir(s.first.Path()), Folder) }

// Shops lists all, the first one with an empty name; the names of the others are in order.
func (s *Shelf) Shops(ctx context.Context) ([]api.OnShelf, error) {
	first, _ := s.first.Snapshot()
	out := []api.OnShelf{{Name: first.Settings.Name, Path: "/", File: s.first.Path()}}
	files, err := os.ReadDir(s.folder())
	if err != nil && !errors.Is(err, os.ErrNotExist) {
		return nil, err
	}
	for _, f := range files {
		name, ok := strings.CutSuffix(f.Name(), ".db")
		if !ok || f.IsDir() || !named.MatchString(name) {
			continue
		}
		x := api.OnShelf{Name: name, Path: "/" + Folder + "/" + name + "/", File: filepath.Join(s.folder(), f.Name())}
		s.mu.Lock()
		if o := s.open[name]; o != nil {
			sh, _ := o.store.Snapshot()
			x.Name = sh.Settings.Name
		}
		s.mu.Unlock()
		out = append(out, x)
	}
	return out, nil
}

// ErrTaken says that there is a shop of that name.
var ErrTaken = errors.New("there is a shop of that name already; choose another")

// Make puts a new, empty shop on the shelf and gives its path.
func (s *Shelf) Make(ctx context.Context, title string) (path string, err error) {
	name := strings.Trim(strings.Map(func(r rune) rune {
		switch {
		case r >= 'a' && r <= 'z' || r >= '0' && r <= '9':
			return r
		}
		return '-'
	}, strings.ToLower(strings.TrimSpace(title))), "-")
	for strings.Contains(name, "--") {
		name = strings.ReplaceAll(name, "--", "-")
	}
	name = strings.Trim(name[:min(len(name), 40)], "-")
	if name == "" {
		name = "shop"
	}
	all, err := s.Shops(ctx)
	if err != nil {
		return "", err
	}
	if len(all) >= most {
		return "", fmt.Errorf("there are %d shops already; move the files of some out of %s", len(all), s.folder())
	}
	if slices.ContainsFunc(all, func(x api.OnShelf) bool { return x.Path == "/"+Folder+"/"+name+"/" }) {
		return "", ErrTaken
	}
	if err := os.MkdirAll(s.folder(), 0o700); err != nil {
		return "", err
	}
	fresh := s.begin.Clone()
	if title = strings.TrimSpace(title); title != "" {
		fresh.Settings.Name = title
	}
	if _, err := s.opened(ctx, name, fresh); err != nil {
		return "", err
	}
	return "/" + Folder + "/" + name + "/", nil
}

// opened opens a shop unless it is; with a first content it is made where there is none.
func (s *Shelf) opened(ctx context.Context, name string, first *shop.Shop) (*opened, error) {
	s.mu.Lock()
	defer s.mu.Unlock()
	if o := s.open[name]; o != nil {
		return o, nil
	}
	file := filepath.Join(s.folder(), name+".db")
	if _, err := os.Stat(file); err != nil && first == nil {
		return nil, fmt.Errorf("there is no shop %q", name)
	}
	st, err := store.Open(context.WithoutCancel(ctx), file, first)
	if err != nil {
		return nil, err
	}
	o := &opened{st, s.serve(name, st)}
	s.open[name] = o
	if s.kept != nil {
		s.kept(st)
	}
	return o, nil
}

// ServeHTTP serves the shop that the path names.
func (s *Shelf) ServeHTTP(w http.ResponseWriter, r *http.Request) {
	rest, below := strings.CutPrefix(r.URL.Path, "/"+Folder+"/")
	name, _, slash := strings.Cut(rest, "/")
	if !below || !named.MatchString(name) {
		s.root.ServeHTTP(w, r)
		return
	}
	if !slash {
		http.Redirect(w, r, r.URL.Path+"/", http.StatusSeeOther)
		return
	}
	o, err := s.opened(r.Context(), name, nil)
	if err != nil {
		// Said like everything else: by the server of the first shop, which knows who may ask.
		r.URL.Path = "/api/v1/no-such-shop/" + name
		s.root.ServeHTTP(w, r)
		return
	}
	http.StripPrefix("/"+Folder+"/"+name, o.server.Handler()).ServeHTTP(w, r)
}

// Close closes what was opened but the first shop.
func (s *Shelf) Close() error {
	s.mu.Lock()
	defer s.mu.Unlock()
	var err error
	for _, o := range s.open {
		o.server.Close()
		err = errors.Join(err, o.store.Close())
	}
	s.open = map[string]*opened{}
	return err
}
