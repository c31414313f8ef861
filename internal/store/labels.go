package store

import (
	"context"
	"database/sql"
	"time"
)

// Printed are the marks of the labels that were printed last, by their keys.
func (s *Store) Printed(ctx context.Context) (map[string]string, error) {
	return pairs[string](ctx, s.db, `SELECT key, mark FROM labels`)
}

// Print notes that labels were printed: their marks by their keys.
func (s *Store) Print(ctx context.Context, marks map[string]string) error {
	s.write.Lock()
	defer s.write.Unlock()
	day := s.now().Format(time.DateOnly)
	return inWords(s.alone(ctx, func(tx *sql.Tx) error {
		for key, mark := range marks {
			if _, err := tx.ExecContext(ctx, `INSERT INTO labels (key, mark, day) VALUES (?, ?, ?) ON CONFLICT (key) DO UPDATE SET mark = excluded.mark, day = excluded.day`, key, mark, day); err != nil {
				return err
			}
		}
		return nil
	}))
}
