package store

import (
	"errors"
	"fmt"

	"modernc.org/sqlite"
	lib "modernc.org/sqlite/lib"
)

// ErrNothing is returned when there is nothing to undo or redo, or a change changes nothing.
var ErrNothing = errors.New("there is nothing to do")

// ErrFull is returned when the disk has no room for a write. Nothing was changed.
var ErrFull = errors.New("the disk is full, so nothing was changed; free some space and try again")

// ErrBusy is returned when another program keeps the file to itself. Nothing was changed.
var ErrBusy = errors.New("another program is using the shop's file, so nothing was changed; try again when it is done")

// ErrInUse refuses what needs the file for itself alone.
var ErrInUse = errors.New("a Hobrak is running on it; stop that one first")

// errMovedOn says that another process wrote in between.
var errMovedOn = errors.New("the shop has moved on")

// StaleError refuses a change that was made on an old revision.
type StaleError struct {
	Base, Head int64
	Since      []Revision // the newest of what happened in between, oldest first
}

func (e *StaleError) Error() string {
	if len(e.Since) == 0 {
		return fmt.Sprintf("made on revision %d, but the shop is at %d", e.Base, e.Head)
	}
	last := e.Since[len(e.Since)-1]
	return fmt.Sprintf("made on revision %d, but the shop is at %d: %s (%s)", e.Base, e.Head, last.What, last.Who)
}

// NoRevisionError says that there is no such revision.
type NoRevisionError struct{ Revision, Newest int64 }

func (e *NoRevisionError) Error() string {
	return fmt.Sprintf("there is no revision %d; the newest is %d", e.Revision, e.Newest)
}

// DamagedError refuses a file that cannot be read as it should be.
type DamagedError struct {
	Path string
	Why  error
}

func (e *DamagedError) Error() string {
	return fmt.Sprintf("%v\nThe file was left as it is. `hobrak doctor --db %s` says what is wrong; with --rescue OUT.zip it saves what can be read", e.Why, e.Path)
}

func (e *DamagedError) Unwrap() error { return e.Why }

// inWords says what SQLite's own errors mean to whoever keeps a shop.
func inWords(err error) error {
	var e *sqlite.Error
	if !errors.As(err, &e) {
		return err
	}
	switch e.Code() & 0xff {
	case lib.SQLITE_FULL:
		return fmt.Errorf("%w (%v)", ErrFull, err)
	case lib.SQLITE_BUSY, lib.SQLITE_LOCKED:
		return fmt.Errorf("%w (%v)", ErrBusy, err)
	}
	return err
}
