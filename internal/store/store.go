// Package store keeps a shop in an SQLite file. Every change is one transaction
// and one revision that says who changed what and when; undo and redo walk the
// revisions. A write says which revision it was made on and is refused when the
// shop has moved on since.
//
// Nothing is stored that could not be read back: the transaction is judged by
// the reader of shop files. What the store hands out is the caller's own copy,
// so that nobody who reads can change what is kept. Several processes may have
// the same file open; each sees within a second what the others did.
package store

import (
	"context"
	"database/sql"
	"errors"
	"fmt"
	"math"
	"net/url"
	"os"
	"path/filepath"
	"sync"
	"sync/atomic"
	"time"

	"github.com/gofrs/flock"
	_ "modernc.org/sqlite" // driver

	_ "hobrak/internal/core/keeping" // the kinds of place, which reading needs
	"hobrak/internal/core/shop"
)

// Store is an open shop. It is safe for concurrent use.
type Store struct {
	db   *sql.DB
	path string
	now  func() time.Time
	held *flock.Flock // shared: the file is in use

	write sync.Mutex               // one write at a time
	state atomic.Pointer[snapshot] // readers take it and wait for nobody

	watching  sync.Mutex
	watchers  map[chan Revision]bool
	listeners map[chan struct{}]bool // for events
	told      atomic.Int64           // the newest event the listeners heard of
	standing  atomic.Pointer[standing]

	stop context.CancelFunc // ends looking for what other processes did
	done chan struct{}
}

// snapshot is the shop at a revision. Nothing in it changes, and the shop in it
// is never handed out.
type snapshot struct {
	head  int64
	shop  *shop.Shop
	docs  shop.Documents
	order order
}

// order holds the position of every document, by list and id.
type order map[string]map[string]float64

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

// Files and folders of a shop are for their owner only.
const (
	ownFile   = 0o600
	ownFolder = 0o700
)

// lookout is how often the file is looked at for what other processes wrote.
const lookout = 250 * time.Millisecond

// Open opens a database file, makes it when there is none, and brings it up to
// date. A new one begins with the given shop. A file that cannot be used is
// refused with *DamagedError.
func Open(ctx context.Context, path string, first *shop.Shop) (*Store, error) {
	if err := os.MkdirAll(filepath.Dir(path), ownFolder); err != nil {
		return nil, fmt.Errorf("making the folder of %s: %w", path, err)
	}
	held, err := hold(path, false)
	if err != nil {
		return nil, err
	}
	s, err := open(ctx, path, first)
	if err != nil {
		_ = held.Unlock()
		return nil, fmt.Errorf("opening %s: %w", path, err)
	}
	s.held = held
	watch, stop := context.WithCancel(context.Background())
	s.stop, s.done = stop, make(chan struct{})
	go s.lookOut(watch)
	return s, nil
}

func open(ctx context.Context, path string, first *shop.Shop) (*Store, error) {
	if err := private(path); err != nil {
		return nil, err
	}
	db, err := connect(path, url.Values{
		// FULL: what was acknowledged survives a power cut.
		"_pragma": {"journal_mode(WAL)", "busy_timeout(5000)", "foreign_keys(1)", "synchronous(FULL)"},
		"_txlock": {"immediate"},
	})
	if err != nil {
		return nil, err
	}
	s := &Store{db: db, path: path, now: time.Now, watchers: map[chan Revision]bool{}, listeners: map[chan struct{}]bool{}}
	if err := s.begin(ctx, first); err != nil {
		db.Close()
		return nil, inWords(err)
	}
	return s, nil
}

// connect to a database file with the options of the driver.
func connect(path string, options url.Values) (*sql.DB, error) {
	return sql.Open("sqlite", (&url.URL{Scheme: "file", Opaque: url.PathEscape(path), RawQuery: options.Encode()}).String())
}

// private makes the file its owner's alone, and makes it when there is none:
// what SQLite puts beside it gets the same rights.
func private(path string) error {
	f, err := os.OpenFile(path, os.O_CREATE|os.O_EXCL, ownFile)
	if err == nil {
		return f.Close()
	}
	if !errors.Is(err, os.ErrExist) {
		return err
	}
	for _, name := range []string{path, path + "-wal", path + "-shm"} {
		if err := os.Chmod(name, ownFile); err != nil && !errors.Is(err, os.ErrNotExist) && !errors.Is(err, os.ErrPermission) {
			return err
		}
	}
	return nil
}

// begin checks the file, brings its tables up to date and reads the shop.
func (s *Store) begin(ctx context.Context, first *shop.Shop) error {
	if err := sound(ctx, s.db, s.path); err != nil {
		return &DamagedError{s.path, err}
	}
	if err := migrate(ctx, s.db); err != nil {
		return err
	}
	if err := s.fillStays(ctx); err != nil {
		return err
	}
	now, err := s.load(ctx)
	if err != nil {
		return &DamagedError{s.path, err}
	}
	s.state.Store(now)
	s.tellEvents()
	if now.head > 0 {
		return nil
	}
	if first == nil {
		return errors.New("there is no shop in it")
	}
	docs, err := first.Documents()
	if err != nil {
		return err
	}
	_, err = s.revise(ctx, now, revising{who: "hobrak", what: "the shop begins", kind: "change"}, docs, positions(now.order, docs), first.Events)
	return err
}

// lookOut tells the watchers what other processes did, and puts the write-ahead
// log into the file when there was a pause, so that a plain copy of the file has
// all but the last second.
func (s *Store) lookOut(ctx context.Context) {
	defer close(s.done)
	tick := time.NewTicker(lookout)
	defer tick.Stop()
	tidied := s.state.Load().head
	for {
		select {
		case <-ctx.Done():
			return
		case <-tick.C:
		}
		before := s.state.Load().head
		if r, err := s.catchUp(ctx); err == nil && r != nil {
			s.tell(*r)
		}
		s.tellEvents()
		if head := s.state.Load().head; head == before && head != tidied {
			if _, err := s.db.ExecContext(ctx, `PRAGMA wal_checkpoint(PASSIVE)`); err == nil {
				tidied = head
			}
		}
	}
}

// Close the database. The write-ahead log is put into the file.
func (s *Store) Close() error {
	s.stop()
	<-s.done
	s.write.Lock()
	defer s.write.Unlock()
	s.watching.Lock()
	for w := range s.watchers {
		close(w)
	}
	s.watchers = map[chan Revision]bool{}
	s.watching.Unlock()
	_, _ = s.db.Exec(`PRAGMA wal_checkpoint(TRUNCATE)`) // at worst the log stays beside the file
	return errors.Join(s.db.Close(), s.held.Unlock())
}

// Path of the database file.
func (s *Store) Path() string { return s.path }

// Shop as it is now, and its revision. It is a copy for the caller, who may change it.
func (s *Store) Shop() (*shop.Shop, int64) {
	now := s.state.Load()
	return now.shop.Clone(), now.head
}

// Fresh refuses a base that is not the newest revision with *StaleError, as a write would.
func (s *Store) Fresh(ctx context.Context, base int64) error {
	if head := s.Head(); base != head {
		return s.stale(ctx, base, head)
	}
	return nil
}

// Snapshot is the shop as it is now, and its revision, shared by all who look at it:
// nobody may change it. It costs nothing, where Shop makes a copy.
func (s *Store) Snapshot() (*shop.Shop, int64) {
	now := s.state.Load()
	return now.shop, now.head
}

// EventHead is the number of the newest event that was told of.
func (s *Store) EventHead() int64 { return s.told.Load() }

// Head is the newest revision.
func (s *Store) Head() int64 { return s.state.Load().head }

// Change applies a change made on revision base. The change gets a copy of the
// shop; what it returns as an error, and a shop that is not valid afterwards
// (*shop.Faults), leave everything as it was. A base that is no longer the
// newest is refused with *StaleError.
func (s *Store) Change(ctx context.Context, base int64, who, what string, change func(*shop.Shop) error) (Revision, error) {
	return s.writing(ctx, base, func(now *snapshot) (Revision, error) {
		next := now.shop.Clone()
		if err := change(next); err != nil {
			return Revision{}, err
		}
		log := next.Events // of a file; they are kept beside the shop
		next.Events, next.Fit = nil, nil
		if next.Format != shop.Format || next.Version != shop.Version {
			return Revision{}, fmt.Errorf("a shop is %s version %d", shop.Format, shop.Version)
		}
		next.Tidy()
		next.Date(now.shop, s.now().Format(time.DateOnly))
		docs, err := next.Documents()
		if err != nil {
			return Revision{}, err
		}
		r, err := s.revise(ctx, now, revising{who: who, what: what, kind: "change"}, docs, positions(now.order, docs), log)
		if errors.Is(err, ErrNothing) && len(log) > 0 { // the same shop, but more may have happened
			err = errors.Join(err, s.alone(ctx, func(tx *sql.Tx) error { return bringIn(ctx, tx, log) }))
		}
		return r, err
	})
}

// alone does something in a transaction of its own.
func (s *Store) alone(ctx context.Context, do func(*sql.Tx) error) error {
	tx, err := s.db.BeginTx(ctx, nil)
	if err != nil {
		return err
	}
	defer func() { _ = tx.Rollback() }() // does nothing after a commit
	if err := do(tx); err != nil {
		return err
	}
	return tx.Commit()
}

// File is the shop as a file has it: with all that happened, and its revision.
func (s *Store) File(ctx context.Context) (*shop.Shop, int64, error) {
	out, revision := s.Shop()
	var err error
	out.Events, err = s.AllEvents(ctx)
	return out, revision, err
}

// Undo takes back the newest change that is not undone yet.
func (s *Store) Undo(ctx context.Context, base int64, who string) (Revision, error) {
	return s.step(ctx, base, who, "undo", `SELECT id, what FROM revisions WHERE kind = 'change' AND state = 'applied' AND id > 1 ORDER BY id DESC LIMIT 1`)
}

// Redo does again what was undone last.
func (s *Store) Redo(ctx context.Context, base int64, who string) (Revision, error) {
	return s.step(ctx, base, who, "redo", `SELECT id, what FROM revisions WHERE kind = 'change' AND state = 'undone' ORDER BY id LIMIT 1`)
}

// writing runs a write on the newest revision, one at a time.
func (s *Store) writing(ctx context.Context, base int64, do func(*snapshot) (Revision, error)) (Revision, error) {
	s.write.Lock()
	defer s.write.Unlock()
	if r, err := s.catchUpLocked(ctx); err != nil {
		return Revision{}, inWords(err)
	} else if r != nil {
		s.tell(*r)
	}
	now := s.state.Load()
	if base != now.head {
		return Revision{}, s.stale(ctx, base, now.head)
	}
	r, err := do(now)
	if errors.Is(err, errMovedOn) { // another process was quicker
		if _, err := s.catchUpLocked(ctx); err != nil {
			return Revision{}, inWords(err)
		}
		return Revision{}, s.stale(ctx, base, s.state.Load().head)
	}
	if err != nil {
		return Revision{}, inWords(err)
	}
	s.tell(r)
	return r, nil
}

// Wanted revisions: all when nothing is said.
type Wanted struct {
	Of     string // id of a thing, place or whatever else; homes count as their thing's
	Before int64  // older than this revision
	Limit  int
}

// History lists revisions, the newest first.
func (s *Store) History(ctx context.Context, w Wanted) ([]Revision, error) {
	if w.Before <= 0 {
		w.Before = math.MaxInt64
	}
	if w.Of == "" {
		return s.revisions(ctx, `WHERE r.id IN (SELECT id FROM revisions WHERE id < ? ORDER BY id DESC LIMIT ?) ORDER BY r.id DESC, c.part, c.id`, w.Before, w.Limit)
	}
	// Homes are numbered: all that begin with the id and a blank.
	return s.revisions(ctx, `WHERE r.id IN (SELECT revision FROM parts_changed
		WHERE revision < ? AND (id = ? OR part = 'homes' AND id > ? || ' ' AND id < ? || '!')
		GROUP BY revision ORDER BY revision DESC LIMIT ?) ORDER BY r.id DESC, c.part, c.id`, w.Before, w.Of, w.Of, w.Of, w.Limit)
}

// Watch tells about every revision from now on. Call the function returned to stop.
// A watcher that does not keep up misses revisions in between, never the newest.
func (s *Store) Watch() (<-chan Revision, func()) {
	w := make(chan Revision, 1)
	s.watching.Lock()
	s.watchers[w] = true
	s.watching.Unlock()
	return w, func() {
		s.watching.Lock()
		defer s.watching.Unlock()
		if s.watchers[w] {
			delete(s.watchers, w)
			close(w)
		}
	}
}

func (s *Store) tell(r Revision) {
	s.watching.Lock()
	defer s.watching.Unlock()
	for w := range s.watchers {
		select {
		case <-w: // make room for the newest
		default:
		}
		w <- r
	}
}
