package store

import (
	"context"
	"errors"
	"fmt"
	"io"
	"net/url"
	"os"
	"path/filepath"
	"slices"
	"strings"
	"time"
)

// Backup writes a copy of the database to a new file, readable only by its
// owner, and opens it to see that it is whole. What fails leaves no file.
func (s *Store) Backup(ctx context.Context, to string) error {
	if exists(to) {
		return fmt.Errorf("%s is there already", to)
	}
	part := to + ".part"
	_ = os.Remove(part) // of a backup that was cut off
	if err := s.backup(ctx, part, to); err != nil {
		_ = os.Remove(part)
		return fmt.Errorf("backing up to %s: %w", to, inWords(err))
	}
	return nil
}

func (s *Store) backup(ctx context.Context, part, to string) error {
	if err := private(part); err != nil { // VACUUM fills an empty file
		return err
	}
	if _, err := s.db.ExecContext(ctx, `VACUUM INTO ?`, part); err != nil {
		return err
	}
	if err := whole(ctx, part); err != nil {
		return err
	}
	return settle(part, to)
}

// settle gives a finished file its name, without replacing anything, and sees to
// it that both survive a power cut.
func settle(part, to string) error {
	f, err := os.Open(part)
	if err != nil {
		return err
	}
	if err := errors.Join(f.Sync(), f.Close()); err != nil {
		return err
	}
	if err := os.Link(part, to); err != nil {
		if exists(to) {
			return err
		}
		if err := os.Rename(part, to); err != nil { // a file system without links
			return err
		}
	} else if err := os.Remove(part); err != nil {
		return err
	}
	return syncFolder(filepath.Dir(to))
}

func syncFolder(path string) error {
	d, err := os.Open(path)
	if err != nil {
		return err
	}
	_ = d.Sync() // not every file system can
	return d.Close()
}

// whole opens a database file without changing it and says what is wrong with it.
func whole(ctx context.Context, path string) error {
	found, err := Examine(ctx, path)
	if err != nil {
		return err
	}
	if len(found) > 0 {
		return fmt.Errorf("%s: %s", found[0].Where, found[0].What)
	}
	return nil
}

// Restore makes a backup the database at path. The backup itself stays as it is,
// and is refused when it is not whole. A database that is there is kept beside it
// under the name returned, with all that its write-ahead log held; it may be
// damaged. *ErrInUse* when a process has it open.
func Restore(ctx context.Context, backup, path string, at time.Time) (kept string, err error) {
	if !exists(backup) {
		return "", fmt.Errorf("there is no file %s", backup)
	}
	if err := whole(ctx, backup); err != nil {
		return "", fmt.Errorf("%s is no backup that can be used: %w", backup, err)
	}
	if err := os.MkdirAll(filepath.Dir(path), ownFolder); err != nil {
		return "", err
	}
	held, err := hold(path, true)
	if err != nil {
		return "", err
	}
	defer func() { _ = held.Unlock() }()
	part := path + ".part"
	_ = os.Remove(part)
	if err := copyFile(backup, part); err != nil {
		_ = os.Remove(part)
		return "", inWords(fmt.Errorf("copying %s: %w", backup, err))
	}
	if exists(path) {
		kept = strings.TrimSuffix(path, ".db") + ".before-" + at.Format("20060102-150405") + ".db"
		if err := setAside(ctx, path, kept); err != nil {
			_ = os.Remove(part)
			return "", err
		}
	}
	for _, rest := range []string{"-wal", "-shm"} {
		if err := os.Remove(path + rest); err != nil && !errors.Is(err, os.ErrNotExist) {
			return kept, err
		}
	}
	return kept, settle(part, path)
}

// setAside moves a database with what its log holds. A damaged one keeps its log
// under the same name, which is where SQLite looks for it.
func setAside(ctx context.Context, path, kept string) error {
	if exists(kept) {
		return fmt.Errorf("%s is there already; move it away first", kept)
	}
	if db, err := connect(path, url.Values{"_pragma": {"busy_timeout(2000)"}}); err == nil {
		_, _ = db.ExecContext(ctx, `PRAGMA wal_checkpoint(TRUNCATE)`)
		_ = db.Close()
	}
	if exists(path + "-wal") {
		if err := os.Rename(path+"-wal", kept+"-wal"); err != nil {
			return err
		}
	}
	return os.Rename(path, kept)
}

// copyFile copies a database file with its log, which is put into the copy.
func copyFile(from, to string) error {
	if err := copyOne(from, to); err != nil {
		return err
	}
	if !exists(from + "-wal") {
		return nil
	}
	defer os.Remove(to + "-shm")
	defer os.Remove(to + "-wal")
	if err := copyOne(from+"-wal", to+"-wal"); err != nil {
		return err
	}
	db, err := connect(to, url.Values{})
	if err != nil {
		return err
	}
	_, err = db.Exec(`PRAGMA wal_checkpoint(TRUNCATE)`)
	return errors.Join(err, db.Close())
}

func copyOne(from, to string) error {
	in, err := os.Open(from)
	if err != nil {
		return err
	}
	defer in.Close()
	out, err := os.OpenFile(to, os.O_CREATE|os.O_EXCL|os.O_WRONLY, ownFile)
	if err != nil {
		return err
	}
	_, err = io.Copy(out, in)
	return errors.Join(err, out.Sync(), out.Close())
}

// Kept are the daily backups of a database.
type Kept struct {
	Folder string       `json:"folder" doc:"where they are"`
	Keep   int          `json:"keep" doc:"how many are kept"`
	List   []KeptBackup `json:"list" nullable:"false" doc:"newest first; each was opened and read when it was made"`
}

// KeptBackup is one of them.
type KeptBackup struct {
	File  string    `json:"file"`
	At    time.Time `json:"at"`
	Bytes int64     `json:"bytes"`
}

// keepBackups is how many daily backups there are at most.
const keepBackups = 14

// Backups lists the daily backups.
func (s *Store) Backups() (Kept, error) {
	out := Kept{Folder: filepath.Join(filepath.Dir(s.path), "backups"), Keep: keepBackups, List: []KeptBackup{}}
	name := strings.TrimSuffix(filepath.Base(s.path), ".db")
	entries, err := os.ReadDir(out.Folder)
	if err != nil && !errors.Is(err, os.ErrNotExist) {
		return out, err
	}
	for _, e := range slices.Backward(entries) {
		day, ours := strings.CutPrefix(e.Name(), name+"-")
		day, db := strings.CutSuffix(day, ".db")
		if _, err := time.Parse(time.DateOnly, day); err != nil || !ours || !db {
			continue
		}
		if info, err := e.Info(); err == nil {
			out.List = append(out.List, KeptBackup{e.Name(), info.ModTime(), info.Size()})
		}
	}
	return out, nil
}

// BackupToday makes the backup of the day unless there is one, and takes out the
// oldest beyond the number that is kept. It tells whether it made one.
func (s *Store) BackupToday(ctx context.Context) (bool, error) {
	kept, err := s.Backups()
	if err != nil {
		return false, err
	}
	if err := os.MkdirAll(kept.Folder, ownFolder); err != nil {
		return false, err
	}
	to := filepath.Join(kept.Folder, strings.TrimSuffix(filepath.Base(s.path), ".db")+"-"+s.now().Format(time.DateOnly)+".db")
	if exists(to) {
		return false, nil
	}
	if err := s.Backup(ctx, to); err != nil {
		return false, err
	}
	if kept, err = s.Backups(); err != nil {
		return true, err
	}
	for _, old := range kept.List[min(len(kept.List), keepBackups):] {
		if err := os.Remove(filepath.Join(kept.Folder, old.File)); err != nil {
			return true, err
		}
	}
	return true, nil
}
