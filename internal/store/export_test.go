package store

import (
	"fmt"
	"time"
)

// SetClock lets a test say what time it is.
func SetClock(s *Store, now func() time.Time) { s.now = now }

// HoldStill stops what is done while nothing happens: the log is not put into the file.
func HoldStill(s *Store) {
	s.stop()
	<-s.done
	if _, err := s.db.Exec(`PRAGMA wal_autocheckpoint = 0`); err != nil {
		panic(err)
	}
	s.db.SetMaxOpenConns(1)
}

// Fill lets the database grow no more, as on a full disk, until the function it gives is called.
func Fill(s *Store) (free func()) {
	s.db.SetMaxOpenConns(1)
	set := func(pages int) {
		if _, err := s.db.Exec(fmt.Sprintf(`PRAGMA max_page_count = %d`, pages)); err != nil {
			panic(err)
		}
	}
	pages := 0
	if err := s.db.QueryRow(`PRAGMA page_count`).Scan(&pages); err != nil {
		panic(err)
	}
	set(pages)
	return func() { set(1 << 30) }
}
