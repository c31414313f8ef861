package store

import (
	"context"
	"crypto/rand"
	"database/sql"
	"encoding/hex"
	"encoding/json"
	"errors"
	"fmt"

	"hobrak/internal/core/review"
)

// ErrNoSnapshot says that there is no snapshot of a number.
var ErrNoSnapshot = errors.New("there is no such snapshot")

// KeepSnapshot keeps how the shop was, and gives its number.
func (s *Store) KeepSnapshot(ctx context.Context, x *review.Snapshot) (int64, error) {
	s.write.Lock()
	defer s.write.Unlock()
	raw, err := json.Marshal(x)
	if err != nil {
		return 0, fmt.Errorf("writing a snapshot: %w", err)
	}
	r, err := s.db.ExecContext(ctx, `INSERT INTO snapshots (day, doc) VALUES (?, ?)`, x.Day, string(raw))
	if err != nil {
		return 0, inWords(err)
	}
	return r.LastInsertId()
}

// Snapshots that are kept, the oldest first.
func (s *Store) Snapshots(ctx context.Context) (out []review.Snapshot, err error) {
	rows, err := s.db.QueryContext(ctx, `SELECT id, doc FROM snapshots ORDER BY day, id`)
	if err != nil {
		return nil, inWords(err)
	}
	defer func() { err = errors.Join(err, rows.Close()) }()
	for rows.Next() {
		var id int64
		var raw string
		if err := rows.Scan(&id, &raw); err != nil {
			return nil, inWords(err)
		}
		x, err := readSnapshot(id, raw)
		if err != nil {
			return nil, err
		}
		out = append(out, *x)
	}
	return out, inWords(rows.Err())
}

// KeptSnapshot of a number.
func (s *Store) KeptSnapshot(ctx context.Context, id int64) (*review.Snapshot, error) {
	var raw string
	switch err := s.db.QueryRowContext(ctx, `SELECT doc FROM snapshots WHERE id = ?`, id).Scan(&raw); {
	case errors.Is(err, sql.ErrNoRows):
		return nil, ErrNoSnapshot
	case err != nil:
		return nil, inWords(err)
	}
	return readSnapshot(id, raw)
}

// readSnapshot takes what it does not know of an older form as empty.
func readSnapshot(id int64, raw string) (*review.Snapshot, error) {
	x := &review.Snapshot{}
	if err := json.Unmarshal([]byte(raw), x); err != nil {
		return nil, fmt.Errorf("snapshot %d cannot be read: %w", id, err)
	}
	x.ID = id
	return x, nil
}

// ForgetSnapshot lets go of one.
func (s *Store) ForgetSnapshot(ctx context.Context, id int64) error {
	s.write.Lock()
	defer s.write.Unlock()
	r, err := s.db.ExecContext(ctx, `DELETE FROM snapshots WHERE id = ?`, id)
	if err != nil {
		return inWords(err)
	}
	if n, err := r.RowsAffected(); err != nil || n == 0 {
		return errors.Join(ErrNoSnapshot, err)
	}
	return nil
}

// Picture says which photo is of a wall in a snapshot.
func (s *Store) Picture(ctx context.Context, id int64, p review.Photo) error {
	x, err := s.KeptSnapshot(ctx, id)
	if err != nil {
		return err
	}
	var photos []review.Photo
	for _, o := range x.Photos {
		if o.Wall != p.Wall {
			photos = append(photos, o)
		}
	}
	if p.Name != "" {
		photos = append(photos, p)
	}
	x.Photos = photos
	raw, err := json.Marshal(x)
	if err != nil {
		return fmt.Errorf("writing a snapshot: %w", err)
	}
	s.write.Lock()
	defer s.write.Unlock()
	_, err = s.db.ExecContext(ctx, `UPDATE snapshots SET doc = ? WHERE id = ?`, string(raw), id)
	return inWords(err)
}

// Feed is the secret of the address at which a calendar reads what is due; one is made when there is none.
func (s *Store) Feed(ctx context.Context) (string, error) {
	var secret string
	err := s.db.QueryRowContext(ctx, `SELECT secret FROM feed`).Scan(&secret)
	if errors.Is(err, sql.ErrNoRows) {
		return s.ChangeFeed(ctx)
	}
	return secret, inWords(err)
}

// ChangeFeed makes another secret: who knew the old one reads nothing more.
func (s *Store) ChangeFeed(ctx context.Context) (string, error) {
	var b [20]byte
	_, _ = rand.Read(b[:]) // never fails
	secret := hex.EncodeToString(b[:])
	s.write.Lock()
	defer s.write.Unlock()
	_, err := s.db.ExecContext(ctx, `INSERT INTO feed (only_one, secret) VALUES (1, ?) ON CONFLICT (only_one) DO UPDATE SET secret = excluded.secret`, secret)
	return secret, inWords(err)
}
