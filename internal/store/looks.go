package store

import (
	"context"
	"database/sql"
	"errors"
	"fmt"
	"time"

	"hobrak/internal/core/event"
)

// Look is a round on which one looks whether everything is where it lives.
type Look struct {
	ID    int64  `json:"id"`
	Began string `json:"began" doc:"when"`
	Ended string `json:"ended" doc:"when; empty while it goes on"`
	Scope string `json:"scope" doc:"area and wall, as main:B; area alone for all of it; empty for everything"`
	first int64
}

// Device is what the events of a look are noted with.
func (l *Look) Device() string { return fmt.Sprint(lookDevice, l.ID) }

const lookDevice = "look "

// BeginLook begins a look; one that was open is ended.
func (s *Store) BeginLook(ctx context.Context, scope string) (*Look, error) {
	s.write.Lock()
	defer s.write.Unlock()
	now := s.now().Format(time.RFC3339)
	l := &Look{Began: now, Scope: scope}
	err := s.alone(ctx, func(tx *sql.Tx) error {
		if _, err := tx.ExecContext(ctx, `UPDATE looks SET ended = ? WHERE ended = ''`, now); err != nil {
			return err
		}
		if err := tx.QueryRowContext(ctx, `SELECT coalesce(max(id), 0) + 1 FROM events`).Scan(&l.first); err != nil {
			return err
		}
		r, err := tx.ExecContext(ctx, `INSERT INTO looks (began, scope, first) VALUES (?, ?, ?)`, now, scope, l.first)
		if err != nil {
			return err
		}
		l.ID, err = r.LastInsertId()
		return err
	})
	return l, inWords(err)
}

// LastLook is the newest look; nil when there was none.
func (s *Store) LastLook(ctx context.Context) (*Look, error) {
	l := &Look{}
	err := s.db.QueryRowContext(ctx, `SELECT id, began, ended, scope, first FROM looks ORDER BY id DESC LIMIT 1`).Scan(&l.ID, &l.Began, &l.Ended, &l.Scope, &l.first)
	if errors.Is(err, sql.ErrNoRows) {
		return nil, nil
	}
	return l, inWords(err)
}

// EndLook ends a look.
func (s *Store) EndLook(ctx context.Context, id int64) error {
	s.write.Lock()
	defer s.write.Unlock()
	_, err := s.db.ExecContext(ctx, `UPDATE looks SET ended = ? WHERE id = ? AND ended = ''`, s.now().Format(time.RFC3339), id)
	return inWords(err)
}

// Sights are the events of a look, oldest first.
func (s *Store) Sights(ctx context.Context, l *Look) (event.Log, error) {
	rows, err := s.db.QueryContext(ctx, `SELECT `+columns+` FROM events e WHERE e.id >= ? AND e.device = ? AND `+valid+` ORDER BY e.id`, l.first, l.Device())
	if err != nil {
		return nil, inWords(err)
	}
	list, err := scan(rows)
	return list, inWords(err)
}

// LastSeen is the newest event of each of some things by which it was somewhere: seen, put back, moved, returned, used or taken.
func (s *Store) LastSeen(ctx context.Context, items []string) (map[string]event.Event, error) {
	out := map[string]event.Event{}
	for _, id := range items {
		rows, err := s.db.QueryContext(ctx, `SELECT `+columns+` FROM events e WHERE e.item = ? AND e.what NOT IN ('missed', 'noted') AND `+valid+` ORDER BY e.id DESC LIMIT 1`, id)
		if err != nil {
			return nil, inWords(err)
		}
		list, err := scan(rows)
		if err != nil {
			return nil, inWords(err)
		}
		if len(list) > 0 {
			out[id] = list[0]
		}
	}
	return out, nil
}

// StillMissing are the things that were looked for in vain and not seen since, each with the day.
func (s *Store) StillMissing(ctx context.Context) (map[string]string, error) {
	rows, err := s.db.QueryContext(ctx, `SELECT e.item, max(e.day) FROM events e WHERE e.what = 'missed' AND `+valid+`
		AND NOT EXISTS (SELECT 1 FROM events l WHERE l.item = e.item AND l.id > e.id AND l.what NOT IN ('missed', 'noted', 'taken-back')
			AND NOT EXISTS (SELECT 1 FROM events b WHERE b.corrects = l.id)) GROUP BY e.item`)
	if err != nil {
		return nil, inWords(err)
	}
	defer rows.Close()
	out := map[string]string{}
	for rows.Next() {
		var item, day string
		if err := rows.Scan(&item, &day); err != nil {
			return nil, inWords(err)
		}
		out[item] = day
	}
	return out, inWords(rows.Err())
}
