package store

import (
	"context"
	"database/sql"
	"errors"
	"fmt"
	"time"

	"hobrak/internal/photo"
)

// KeepPhoto stores a photo under its name. One that is there already stays.
func (s *Store) KeepPhoto(ctx context.Context, p *photo.Photo) error {
	s.write.Lock()
	defer s.write.Unlock()
	if _, err := s.db.ExecContext(ctx, `INSERT INTO photos (name, at, width, height, large, small) VALUES (?, ?, ?, ?, ?, ?) ON CONFLICT (name) DO NOTHING`,
		p.Name, s.now().UTC().Format(time.RFC3339Nano), p.W, p.H, p.Large, p.Small); err != nil {
		return fmt.Errorf("keeping photo %s: %w", p.Name, inWords(err))
	}
	return nil
}

// Photo gives the picture of a photo, large or small, as JPEG; nil when there is none of that name.
func (s *Store) Photo(ctx context.Context, name string, small bool) ([]byte, error) {
	query := `SELECT large FROM photos WHERE name = ?`
	if small {
		query = `SELECT small FROM photos WHERE name = ?`
	}
	var data []byte
	if err := s.db.QueryRowContext(ctx, query, name).Scan(&data); err != nil && !errors.Is(err, sql.ErrNoRows) {
		return nil, fmt.Errorf("reading photo %s: %w", name, err)
	}
	return data, nil
}
