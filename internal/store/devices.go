package store

import (
	"context"
	"database/sql"
	"errors"
	"time"
)

// Roles of devices that are let in.
const (
	Maker     = "maker"     // everything
	Household = "household" // find, take and put back
	Guest     = "guest"     // look
)

type deviceKey struct{}

// ByDevice has changes and events that are noted with a context say which device they came from.
func ByDevice(ctx context.Context, name string) context.Context {
	return context.WithValue(ctx, deviceKey{}, name)
}

// byDevice is the device a context says; empty at the machine itself.
func byDevice(ctx context.Context) string {
	name, _ := ctx.Value(deviceKey{}).(string)
	return name
}

// Device that is let in beyond this machine.
type Device struct {
	ID    int64  `json:"id"`
	Name  string `json:"name" doc:"as the household calls it"`
	Role  string `json:"role" enum:"maker,household,guest" doc:"what it may do: everything; find, take and put back; look"`
	Made  string `json:"made" doc:"when it was let in"`
	Seen  string `json:"seen" doc:"when it last asked, to the hour"`
	Until string `json:"until" doc:"when it has to be let in again"`
	Key   []byte `json:"-"` // hash of what it shows
}

// ErrNoDevice says that there is no such device.
var ErrNoDevice = errors.New("there is no such device; it may have been shown out already")

// Devices that are let in, the newest first; those whose time is over are taken out.
func (s *Store) Devices(ctx context.Context) ([]Device, error) {
	s.write.Lock()
	defer s.write.Unlock()
	if _, err := s.db.ExecContext(ctx, `DELETE FROM devices WHERE until < ?`, s.now().UTC().Format(time.RFC3339)); err != nil {
		return nil, inWords(err)
	}
	rows, err := s.db.QueryContext(ctx, `SELECT id, name, role, made, seen, until, key FROM devices ORDER BY id DESC`)
	if err != nil {
		return nil, inWords(err)
	}
	defer rows.Close()
	out := []Device{}
	for rows.Next() {
		var d Device
		if err := rows.Scan(&d.ID, &d.Name, &d.Role, &d.Made, &d.Seen, &d.Until, &d.Key); err != nil {
			return nil, inWords(err)
		}
		out = append(out, d)
	}
	return out, inWords(rows.Err())
}

// LetIn keeps a device that is let in from now on, for so long.
func (s *Store) LetIn(ctx context.Context, d Device, lasts time.Duration) (Device, error) {
	s.write.Lock()
	defer s.write.Unlock()
	now := s.now().UTC()
	d.Made, d.Seen, d.Until = now.Format(time.RFC3339), now.Format(time.RFC3339), now.Add(lasts).Format(time.RFC3339)
	r, err := s.db.ExecContext(ctx, `INSERT INTO devices (name, role, key, made, seen, until) VALUES (?, ?, ?, ?, ?, ?)`, d.Name, d.Role, d.Key, d.Made, d.Seen, d.Until)
	if err != nil {
		return d, inWords(err)
	}
	d.ID, err = r.LastInsertId()
	return d, inWords(err)
}

// SeenAgain notes that a device asked, and gives it more time.
func (s *Store) SeenAgain(ctx context.Context, id int64, lasts time.Duration) (Device, error) {
	s.write.Lock()
	defer s.write.Unlock()
	now := s.now().UTC()
	d := Device{ID: id, Seen: now.Format(time.RFC3339), Until: now.Add(lasts).Format(time.RFC3339)}
	_, err := s.db.ExecContext(ctx, `UPDATE devices SET seen = ?, until = ? WHERE id = ?`, d.Seen, d.Until, id)
	return d, inWords(err)
}

// ChangeDevice gives a device another name or role; nil leaves either.
func (s *Store) ChangeDevice(ctx context.Context, id int64, name, role *string) error {
	s.write.Lock()
	defer s.write.Unlock()
	return one(s.db.ExecContext(ctx, `UPDATE devices SET name = coalesce(?, name), role = coalesce(?, role) WHERE id = ?`, name, role, id))
}

// ShowOut lets a device in no more.
func (s *Store) ShowOut(ctx context.Context, id int64) error {
	s.write.Lock()
	defer s.write.Unlock()
	return one(s.db.ExecContext(ctx, `DELETE FROM devices WHERE id = ?`, id))
}

// one says so when no device was met.
func one(r sql.Result, err error) error {
	if err != nil {
		return inWords(err)
	}
	if n, err := r.RowsAffected(); err != nil || n == 0 {
		return errors.Join(ErrNoDevice, err)
	}
	return nil
}

// Phrase is what is kept of the pass phrase; empty when none was set.
func (s *Store) Phrase(ctx context.Context) (string, error) {
	var hash string
	err := s.db.QueryRowContext(ctx, `SELECT phrase FROM sharing`).Scan(&hash)
	if errors.Is(err, sql.ErrNoRows) {
		return "", nil
	}
	return hash, inWords(err)
}

// SetPhrase keeps what is kept of another pass phrase. Devices that were let in by the old one are shown out.
func (s *Store) SetPhrase(ctx context.Context, hash string) error {
	s.write.Lock()
	defer s.write.Unlock()
	return inWords(s.alone(ctx, func(tx *sql.Tx) error {
		if _, err := tx.ExecContext(ctx, `DELETE FROM devices`); err != nil {
			return err
		}
		_, err := tx.ExecContext(ctx, `INSERT INTO sharing (only_one, phrase) VALUES (1, ?) ON CONFLICT (only_one) DO UPDATE SET phrase = excluded.phrase`, hash)
		return err
	}))
}
