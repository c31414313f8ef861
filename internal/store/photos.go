package store

import (
	"bytes"
	"context"
	"database/sql"
	"errors"
	"fmt"
	"time"

	"hobrak/internal/photo"
)

// KeepPhoto stores a photo and says under which name: its own, or, when another picture has
// that name already, one made of what it shows. Made tells whether it was not there before.
func (s *Store) KeepPhoto(ctx context.Context, p *photo.Photo) (name string, made bool, err error) {
	s.write.Lock()
	defer s.write.Unlock()
	name = p.Name
	switch there, err := s.Photo(ctx, name, false); {
	case err != nil:
		return "", false, err
	case bytes.Equal(there, p.Large):
		return name, false, nil
	case there != nil:
		name = photo.NameOf(p.Large)
	}
	r, err := s.db.ExecContext(ctx, `INSERT INTO photos (name, at, width, height, large, small) VALUES (?, ?, ?, ?, ?, ?) ON CONFLICT (name) DO NOTHING`,
		name, s.now().UTC().Format(time.RFC3339Nano), p.W, p.H, p.Large, p.Small)
	if err != nil {
		return "", false, fmt.Errorf("keeping photo %s: %w", name, inWords(err))
	}
	n, err := r.RowsAffected()
	return name, n > 0, err
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

// unshown are the photos of nothing, now or in any revision that could be gone back to.
const unshown = ` NOT EXISTS (SELECT 1 FROM items WHERE instr(doc, photos.name) > 0)
	AND NOT EXISTS (SELECT 1 FROM containers WHERE instr(doc, photos.name) > 0)
	AND NOT EXISTS (SELECT 1 FROM places WHERE instr(doc, photos.name) > 0)
	AND NOT EXISTS (SELECT 1 FROM snapshots WHERE instr(doc, photos.name) > 0)
	AND NOT EXISTS (SELECT 1 FROM parts_changed WHERE part IN ('items', 'containers', 'places') AND (instr(before, photos.name) > 0 OR instr(after, photos.name) > 0))`

// DropPhotos takes photos out that no thing shows or showed.
func (s *Store) DropPhotos(ctx context.Context, names []string) error {
	s.write.Lock()
	defer s.write.Unlock()
	for _, name := range names {
		if _, err := s.db.ExecContext(ctx, `DELETE FROM photos WHERE name = ? AND`+unshown, name); err != nil {
			return inWords(err)
		}
	}
	return nil
}

// CollectPhotos takes out what was left by changes that did not come about: photos older
// than a day that no thing shows or showed. It says how many.
func (s *Store) CollectPhotos(ctx context.Context) (int, error) {
	s.write.Lock()
	defer s.write.Unlock()
	r, err := s.db.ExecContext(ctx, `DELETE FROM photos WHERE at < ? AND`+unshown, s.now().UTC().AddDate(0, 0, -1).Format(time.RFC3339Nano))
	if err != nil {
		return 0, inWords(err)
	}
	n, err := r.RowsAffected()
	return int(n), err
}
