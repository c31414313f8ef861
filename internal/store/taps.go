package store

import (
	"context"
	"database/sql"
	"errors"
	"slices"
	"time"

	"hobrak/internal/core/event"
)

// Tap notes what a press comes to. Decide is given the valid events by which something is out now, and says what is noted; nobody else
// notes anything meanwhile, so that two who take the last one do not both get it. A press with a key that came before gives what was
// noted then, and nothing is noted again.
func (s *Store) Tap(ctx context.Context, key string, at time.Time, decide func(out event.Log) ([]event.Event, error)) ([]event.Event, error) {
	s.write.Lock()
	defer s.write.Unlock()
	var list []event.Event
	var was event.Log
	again := false
	err := s.alone(ctx, func(tx *sql.Tx) error {
		if key != "" {
			var first, last int64
			err := tx.QueryRowContext(ctx, `SELECT first, last FROM taps WHERE key = ?`, key).Scan(&first, &last)
			if err == nil {
				again = true
				rows, err := tx.QueryContext(ctx, `SELECT `+columns+` FROM events e WHERE id BETWEEN ? AND ? ORDER BY id`, first, last)
				if err != nil {
					return err
				}
				list, err = scan(rows)
				return err
			}
			if !errors.Is(err, sql.ErrNoRows) {
				return err
			}
		}
		out, err := s.outstanding(ctx, tx)
		if err != nil {
			return err
		}
		was = out
		if list, err = decide(slices.Clone(out)); err != nil {
			return err
		}
		for i := range list {
			if list[i].At == "" {
				list[i].At = at.Format(time.RFC3339)
			}
			if field, says := list[i].Check(); says != "" {
				return &EventError{i, field, says}
			}
		}
		if err := add(ctx, tx, list); err != nil || key == "" || len(list) == 0 {
			return err
		}
		_, err = tx.ExecContext(ctx, `INSERT INTO taps (key, first, last) VALUES (?, ?, ?)`, key, list[0].ID, list[len(list)-1].ID)
		return err
	})
	if err != nil {
		return nil, inWords(err)
	}
	if !again && len(list) > 0 {
		s.standing.Store(&standing{list[len(list)-1].ID, append(slices.Clone(was), list...).Outstanding()})
		s.tellEvents()
	}
	return list, nil
}

// Outstanding are the events by which something is out of its home now, oldest first, each with how many pieces still are.
func (s *Store) Outstanding(ctx context.Context) (event.Log, error) {
	out, err := s.outstanding(ctx, s.db)
	return slices.Clone(out), inWords(err)
}

// standing is what was outstanding after the event of a number.
type standing struct {
	head int64
	list event.Log
}

// outstanding reads what is out, once for each newest event: every answer that says where things are asks for it.
func (s *Store) outstanding(ctx context.Context, db querier) (event.Log, error) {
	head, err := newest(ctx, db)
	if err != nil {
		return nil, err
	}
	if was := s.standing.Load(); was != nil && was.head == head {
		return was.list, nil
	}
	// Up to that event alone: what others note meanwhile belongs to the next.
	rows, err := db.QueryContext(ctx, `SELECT `+columns+sinceOut+` WHERE `+valid+` ORDER BY e.id`)
	if err != nil {
		return nil, err
	}
	list, err := scan(rows)
	if err != nil {
		return nil, err
	}
	out := event.Log(slices.DeleteFunc(list, func(e event.Event) bool { return e.What.Out() == 0 && e.What != event.Laid })).Outstanding()
	if now, err := newest(ctx, db); err == nil && now == head {
		s.standing.Store(&standing{head, out})
	}
	return out, nil
}

// newest is the number of the newest event, 0 before the first.
func newest(ctx context.Context, db querier) (head int64, err error) {
	rows, err := db.QueryContext(ctx, `SELECT coalesce(max(id), 0) FROM events`)
	if err != nil {
		return 0, err
	}
	if rows.Next() {
		err = rows.Scan(&head)
	}
	return head, errors.Join(err, rows.Err(), rows.Close())
}
