package store

import "time"

// SetClock lets a test say what time it is.
func SetClock(s *Store, now func() time.Time) { s.now = now }
