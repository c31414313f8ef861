// Package store keeps a shop in an SQLite file. Every change is one transaction
// and one revision that says who changed what and when; undo and redo walk the
// revisions. A write says which revision it was made on and is refused when the
// shop has moved on since.
package store

import (
	"context"
	"database/sql"
	"embed"
	"errors"
	"fmt"
	"io/fs"
	"net/url"
	"os"
	"path/filepath"
	"sync"
	"time"

	"github.com/pressly/goose/v3"
	_ "modernc.org/sqlite" // driver

	"hobrak/internal/core/shop"
)

//go:embed migrations/*.sql
var migrations embed.FS

// Store is an open shop. It is safe for concurrent use.
type Store struct {
	db   *sql.DB
	path string
	now  func() time.Time

	mu       sync.Mutex // one write at a time; also guards what follows
	head     int64
	shop     *shop.Shop // never changed once set
	order    map[string]map[string]float64
	watchers map[chan Revision]bool
}

// Revision of a shop.
type Revision struct {
	ID      int64     `json:"id"`
	At      time.Time `json:"at"`
	Who     string    `json:"who"`
	What    string    `json:"what"`
	Kind    string    `json:"kind" enum:"change,undo,redo"`
	Changed []Changed `json:"changed" nullable:"false" doc:"parts of the shop it touched"`
}

// Changed part of a shop.
type Changed struct {
	Part string `json:"part" doc:"items, homes, places and so on"`
	ID   string `json:"id"`
}

// StaleError refuses a change that was made on an old revision.
type StaleError struct {
	Base, Head int64
	Since      []Revision // what happened in between, oldest first
}

func (e *StaleError) Error() string {
	if len(e.Since) == 0 {
		return fmt.Sprintf("made on revision %d, but the shop is at %d", e.Base, e.Head)
	}
	last := e.Since[len(e.Since)-1]
	return fmt.Sprintf("made on revision %d, but the shop is at %d: %s (%s)", e.Base, e.Head, last.What, last.Who)
}

// ErrNothing is returned when there is nothing to undo or redo, or a change changes nothing.
var ErrNothing = errors.New("there is nothing to do")

// DefaultPath is the database file in the user's data directory.
func DefaultPath() (string, error) {
	if dir := os.Getenv("XDG_DATA_HOME"); dir != "" {
		return filepath.Join(dir, "hobrak", "shop.db"), nil
	}
	home, err := os.UserHomeDir()
	if err != nil {
		return "", fmt.Errorf("finding the user's data directory: %w", err)
	}
	return filepath.Join(home, ".local", "share", "hobrak", "shop.db"), nil
}

// Open opens a database file, makes it when there is none, and brings it up to
// date. A new one begins with the given shop.
func Open(ctx context.Context, path string, first *shop.Shop) (*Store, error) {
	if err := os.MkdirAll(filepath.Dir(path), 0o755); err != nil {
		return nil, fmt.Errorf("making the folder of %s: %w", path, err)
	}
	// FULL: what was acknowledged survives a power cut.
	options := url.Values{"_pragma": {"journal_mode(WAL)", "busy_timeout(5000)", "foreign_keys(1)", "synchronous(FULL)"}, "_txlock": {"immediate"}}
	db, err := sql.Open("sqlite", (&url.URL{Scheme: "file", Opaque: url.PathEscape(path), RawQuery: options.Encode()}).String())
	if err != nil {
		return nil, fmt.Errorf("opening %s: %w", path, err)
	}
	s := &Store{db: db, path: path, now: time.Now, watchers: map[chan Revision]bool{}}
	if err := s.start(ctx, first); err != nil {
		db.Close()
		return nil, fmt.Errorf("opening %s: %w", path, err)
	}
	return s, nil
}

func (s *Store) start(ctx context.Context, first *shop.Shop) error {
	files, err := fs.Sub(migrations, "migrations")
	if err != nil {
		return err
	}
	p, err := goose.NewProvider(goose.DialectSQLite3, s.db, files)
	if err != nil {
		return err
	}
	if _, err := p.Up(ctx); err != nil {
		return err
	}
	if err := s.load(ctx); err != nil {
		return err
	}
	if s.head == 0 {
		if first == nil {
			return errors.New("there is no shop in it")
		}
		_, err := s.change(ctx, revising{who: "hobrak", what: "the shop begins", kind: "change"}, first)
		return err
	}
	return nil
}

// Close the database.
func (s *Store) Close() error {
	s.mu.Lock()
	defer s.mu.Unlock()
	for w := range s.watchers {
		close(w)
	}
	s.watchers = map[chan Revision]bool{}
	return s.db.Close()
}

// Path of the database file.
func (s *Store) Path() string { return s.path }

// Shop as it is now, and its revision. It must not be changed.
func (s *Store) Shop() (*shop.Shop, int64) {
	s.mu.Lock()
	defer s.mu.Unlock()
	return s.shop, s.head
}

// Change applies a change made on revision base. The change gets a copy of the
// shop; what it returns as an error, and a shop that is not valid afterwards
// (*shop.Faults), leave everything as it was. A base that is no longer the
// newest is refused with *StaleError.
func (s *Store) Change(ctx context.Context, base int64, who, what string, change func(*shop.Shop) error) (Revision, error) {
	s.mu.Lock()
	defer s.mu.Unlock()
	if err := s.fresh(ctx, base); err != nil {
		return Revision{}, err
	}
	next := s.shop.Clone()
	if err := change(next); err != nil {
		return Revision{}, err
	}
	if err := next.Validate(); err != nil {
		return Revision{}, err
	}
	return s.change(ctx, revising{who: who, what: what, kind: "change"}, next)
}

// Undo takes back the newest change that is not undone yet.
func (s *Store) Undo(ctx context.Context, base int64, who string) (Revision, error) {
	return s.step(ctx, base, who, "undo", `SELECT id, what FROM revisions WHERE kind = 'change' AND state = 'applied' AND id > 1 ORDER BY id DESC LIMIT 1`)
}

// Redo does again what was undone last.
func (s *Store) Redo(ctx context.Context, base int64, who string) (Revision, error) {
	return s.step(ctx, base, who, "redo", `SELECT id, what FROM revisions WHERE kind = 'change' AND state = 'undone' ORDER BY id LIMIT 1`)
}

// fresh refuses an old base. The lock is held.
func (s *Store) fresh(ctx context.Context, base int64) error {
	if base == s.head {
		return nil
	}
	since, err := s.revisions(ctx, `WHERE r.id > ? ORDER BY r.id`, base)
	if err != nil {
		return err
	}
	return &StaleError{Base: base, Head: s.head, Since: since}
}

// History lists the newest revisions, newest first.
func (s *Store) History(ctx context.Context, limit int) ([]Revision, error) {
	return s.revisions(ctx, `WHERE r.id IN (SELECT id FROM revisions ORDER BY id DESC LIMIT ?) ORDER BY r.id DESC`, limit)
}

// Watch tells about every revision from now on. Call the function returned to stop.
// A watcher that does not keep up misses revisions in between, never the newest.
func (s *Store) Watch() (<-chan Revision, func()) {
	w := make(chan Revision, 1)
	s.mu.Lock()
	s.watchers[w] = true
	s.mu.Unlock()
	return w, func() {
		s.mu.Lock()
		defer s.mu.Unlock()
		if s.watchers[w] {
			delete(s.watchers, w)
			close(w)
		}
	}
}

func (s *Store) tell(r Revision) {
	for w := range s.watchers {
		select {
		case <-w: // make room for the newest
		default:
		}
		w <- r
	}
}

// Backup writes a copy of the database to a new file.
func (s *Store) Backup(ctx context.Context, to string) error {
	if _, err := os.Stat(to); err == nil {
		return fmt.Errorf("%s is there already", to)
	}
	if _, err := s.db.ExecContext(ctx, `VACUUM INTO ?`, to); err != nil {
		return fmt.Errorf("backing up to %s: %w", to, err)
	}
	return nil
}
