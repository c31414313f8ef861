package store

import (
	"context"
	"database/sql"
	"encoding/json"
	"errors"
	"fmt"
	"slices"
	"strings"
	"time"

	"hobrak/internal/core/event"
	"hobrak/internal/core/learn"
	"hobrak/internal/core/upgrade"
)

// EventError refuses an event and says at which of its fields.
type EventError struct {
	Nth           int // of those handed over
	Field, Reason string
}

func (e *EventError) Error() string { return e.Reason }

// Happened notes events and gives them back with their numbers. One without a time
// happened now. They are no revision: undo leaves them alone and nothing grows stale.
func (s *Store) Happened(ctx context.Context, list ...event.Event) ([]event.Event, error) {
	now := s.now()
	out := make([]event.Event, len(list))
	for i, e := range list {
		e.ID = 0
		if e.At == "" {
			e.At = now.Format(time.RFC3339)
		}
		if e.Day() > now.AddDate(0, 0, 1).Format(time.DateOnly) {
			return nil, &EventError{i, "at", fmt.Sprintf("%s is yet to come; what happened is noted up to today", e.Day())}
		}
		if field, says := e.Check(); says != "" {
			return nil, &EventError{i, field, says}
		}
		out[i] = e
	}
	if len(out) == 0 {
		return out, nil
	}
	s.write.Lock()
	defer s.write.Unlock()
	if err := s.alone(ctx, func(tx *sql.Tx) error { return add(ctx, tx, out) }); err != nil {
		return nil, inWords(err)
	}
	s.tellEvents()
	return out, nil
}

// add events and give them their numbers.
func add(ctx context.Context, tx *sql.Tx, list []event.Event) error {
	insert, err := tx.PrepareContext(ctx, `INSERT INTO events (at, day, who, what, item, place, n, note, device, corrects, lent_to, due, meanwhile) VALUES (?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?)`)
	if err != nil {
		return err
	}
	defer insert.Close()
	for i := range list {
		e := &list[i]
		if d := byDevice(ctx); d != "" {
			// By what a look is noted with it is found again.
			if e.Who = d; !strings.HasPrefix(e.Device, lookDevice) {
				e.Device = d
			}
		}
		change, item, again := e.What.Out()*e.Number(), e.Item, false
		var corrects any
		if e.What == event.TakenBack {
			was, err := eventOf(ctx, tx, e.Corrects)
			switch {
			case errors.Is(err, sql.ErrNoRows):
				return &EventError{i, "corrects", fmt.Sprintf("there is no event %d", e.Corrects)}
			case err != nil:
				return err
			case was.What == event.TakenBack:
				return &EventError{i, "corrects", fmt.Sprintf("event %d takes another back; note again what happened instead", e.Corrects)}
			}
			corrects = e.Corrects
			e.Item, e.Place = was.Item, was.Place
			item, again = was.Item, true
		}
		r, err := insert.ExecContext(ctx, e.At, e.Day(), e.Who, string(e.What), e.Item, e.Place, e.N, e.Note, e.Device, corrects, e.To, e.Due, e.On)
		if err != nil {
			if corrects != nil && strings.Contains(err.Error(), "UNIQUE") {
				return &EventError{i, "corrects", fmt.Sprintf("event %d has been taken back already", e.Corrects)}
			}
			return err
		}
		if e.ID, err = r.LastInsertId(); err != nil {
			return err
		}
		switch {
		case again:
			// What was not so changes what followed from it: add the item's up again.
			err = addUp(ctx, tx, item)
		case change > 0:
			_, err = tx.ExecContext(ctx, `INSERT INTO out (item, n, since) VALUES (?, ?, ?) ON CONFLICT (item) DO UPDATE SET n = n + excluded.n`, item, change, e.ID)
		case change < 0:
			if err = stayed(ctx, tx, e); err != nil {
				return err
			}
			if _, err = tx.ExecContext(ctx, `DELETE FROM out WHERE item = ? AND n <= ?`, item, -change); err == nil {
				_, err = tx.ExecContext(ctx, `UPDATE out SET n = n - ? WHERE item = ?`, -change, item)
			}
		}
		if err == nil && e.What.Use() {
			_, err = tx.ExecContext(ctx, `INSERT INTO used (item, n, last) VALUES (?, ?, ?) ON CONFLICT (item) DO UPDATE SET n = n + excluded.n, last = max(last, excluded.last)`, item, e.Number(), e.Day())
			if err == nil {
				_, err = tx.ExecContext(ctx, `INSERT INTO uses_by_day (item, day, n) VALUES (?, ?, ?) ON CONFLICT (item, day) DO UPDATE SET n = n + excluded.n`, item, e.Day(), e.Number())
			}
		}
		if err != nil {
			return err
		}
	}
	return nil
}

// stayed notes what was put back by an event that had been taken on another day, before that is no longer out.
func stayed(ctx context.Context, tx *sql.Tx, back *event.Event) error {
	if back.What != event.PutBack {
		return nil
	}
	rows, err := tx.QueryContext(ctx, `SELECT `+columns+sinceOut+` WHERE o.item = ? AND e.id <= ? AND `+valid+` ORDER BY e.id`, back.Item, back.ID)
	if err != nil {
		return err
	}
	list, err := scan(rows)
	if err != nil || len(list) == 0 {
		return err
	}
	log := event.Log(list)
	before := log[:len(log)-1].Stays(back.Item)
	n := log.Stays(back.Item).Back[back.Day()] - before.Back[back.Day()]
	if n == 0 {
		return nil
	}
	_, err = tx.ExecContext(ctx, `INSERT INTO stays (day, item, n) VALUES (?, ?, ?) ON CONFLICT (day, item) DO UPDATE SET n = n + excluded.n`, back.Day(), back.Item, n)
	return err
}

// Stayed is how many pieces of each item were taken and not put back the same day, as far as they were put back from a day on or are out
// still.
func (s *Store) Stayed(ctx context.Context, from string) (map[string]int, error) {
	out, err := pairs[int](ctx, s.db, `SELECT item, sum(n) FROM stays WHERE day >= ? AND item <> '' GROUP BY item`, from)
	if err != nil {
		return nil, err
	}
	open, err := s.Outstanding(ctx)
	if err != nil {
		return nil, err
	}
	for i := range open {
		if e := &open[i]; e.What == event.Taken {
			out[e.Item] += e.Number()
		}
	}
	return out, nil
}

// fillStays adds up what was put back late before there was a table for it, once.
func (s *Store) fillStays(ctx context.Context) error {
	var n int
	if err := s.db.QueryRowContext(ctx, `SELECT count(*) FROM stays WHERE day = '' AND item = ''`).Scan(&n); err != nil || n > 0 {
		return err
	}
	return s.alone(ctx, func(tx *sql.Tx) error {
		rows, err := tx.QueryContext(ctx, `SELECT DISTINCT item FROM events WHERE what = 'put-back'`)
		if err != nil {
			return err
		}
		defer rows.Close()
		var items []string
		for rows.Next() {
			var item string
			if err := rows.Scan(&item); err != nil {
				return err
			}
			items = append(items, item)
		}
		if err := rows.Err(); err != nil {
			return err
		}
		for _, item := range items {
			if err := addUp(ctx, tx, item); err != nil {
				return err
			}
		}
		_, err = tx.ExecContext(ctx, `INSERT INTO stays (day, item, n) VALUES ('', '', 0)`)
		return err
	})
}

// addUp what is out of an item and how often it was used from all its events.
func addUp(ctx context.Context, tx *sql.Tx, item string) error {
	rows, err := tx.QueryContext(ctx, `SELECT `+columns+` FROM events e WHERE item = ? AND `+valid+` ORDER BY id`, item)
	if err != nil {
		return err
	}
	list, err := scan(rows)
	if err != nil {
		return err
	}
	n, since, uses, last := 0, int64(0), 0, ""
	for i := range list {
		if e := &list[i]; e.What.Use() {
			uses, last = uses+e.Number(), max(last, e.Day())
		}
		k := list[i].What.Out() * list[i].Number()
		if n == 0 && k > 0 {
			since = list[i].ID
		}
		n = max(0, n+k)
	}
	for _, table := range []string{"out", "used", "uses_by_day", "stays"} {
		if _, err := tx.ExecContext(ctx, `DELETE FROM `+table+` WHERE item = ?`, item); err != nil {
			return err
		}
	}
	if n > 0 {
		_, err = tx.ExecContext(ctx, `INSERT INTO out (item, n, since) VALUES (?, ?, ?)`, item, n, since)
	}
	if uses > 0 {
		_, more := tx.ExecContext(ctx, `INSERT INTO used (item, n, last) VALUES (?, ?, ?)`, item, uses, last)
		err = errors.Join(err, more)
	}
	days := map[string]int{}
	for i := range list {
		if e := &list[i]; e.What.Use() {
			days[e.Day()] += e.Number()
		}
	}
	for day, k := range days {
		_, more := tx.ExecContext(ctx, `INSERT INTO uses_by_day (item, day, n) VALUES (?, ?, ?)`, item, day, k)
		err = errors.Join(err, more)
	}
	for day, k := range event.Log(list).Stays(item).Back {
		_, more := tx.ExecContext(ctx, `INSERT INTO stays (day, item, n) VALUES (?, ?, ?)`, day, item, k)
		err = errors.Join(err, more)
	}
	return err
}

const (
	columns = `e.id, e.at, e.who, e.what, e.item, e.place, e.n, e.note, e.device, coalesce(e.corrects, 0), e.lent_to, e.due, e.meanwhile`
	// sinceOut are the events of what is out, from the one on by which it left.
	sinceOut = ` FROM out o CROSS JOIN events e INDEXED BY events_item ON e.item = o.item AND e.id >= o.since`
	// valid are the events that were not taken back.
	valid = `e.what <> 'taken-back' AND NOT EXISTS (SELECT 1 FROM events b WHERE b.corrects = e.id)`
)

func scan(rows *sql.Rows) (out []event.Event, err error) {
	defer rows.Close()
	for rows.Next() {
		var e event.Event
		if err := rows.Scan(&e.ID, &e.At, &e.Who, &e.What, &e.Item, &e.Place, &e.N, &e.Note, &e.Device, &e.Corrects, &e.To, &e.Due, &e.On); err != nil {
			return nil, err
		}
		out = append(out, e)
	}
	return out, rows.Err()
}

func eventOf(ctx context.Context, db querier, id int64) (event.Event, error) {
	rows, err := db.QueryContext(ctx, `SELECT `+columns+` FROM events e WHERE id = ?`, id)
	if err != nil {
		return event.Event{}, err
	}
	list, err := scan(rows)
	if err == nil && len(list) == 0 {
		err = sql.ErrNoRows
	}
	if err != nil {
		return event.Event{}, err
	}
	return list[0], nil
}

// ErrNoEvent says that there is no event of a number.
var ErrNoEvent = errors.New("there is no event of that number")

// Event of a number, taken back or not.
func (s *Store) Event(ctx context.Context, id int64) (event.Event, error) {
	e, err := eventOf(ctx, s.db, id)
	if errors.Is(err, sql.ErrNoRows) {
		err = ErrNoEvent
	}
	return e, inWords(err)
}

// Events that happened and were not taken back, as a filter wants them, the newest first:
// at most so many, with numbers below before unless that is 0.
func (s *Store) Events(ctx context.Context, f event.Filter, before int64, limit int) ([]event.Event, error) {
	where, args := []string{valid}, []any{}
	add := func(clause string, arg any) { where, args = append(where, clause), append(args, arg) }
	// What an index is for comes first; a plus keeps SQLite from another.
	switch {
	case f.Item != "":
		add(`e.item = ?`, f.Item)
	case f.Place != "":
		add(`e.place = ? AND e.place <> ''`, f.Place)
	}
	if f.Item != "" && f.Place != "" {
		add(`e.place = ?`, f.Place)
	}
	if f.What != "" {
		add(`e.what = ?`, string(f.What))
	}
	if f.From != "" {
		add(`e.day >= ?`, f.From)
	}
	if f.To != "" {
		add(`e.day <= ?`, f.To)
	}
	for _, w := range f.Words() {
		w = strings.NewReplacer(`\`, `\\`, `%`, `\%`, `_`, `\_`).Replace(w)
		add(`(replace(e.item, '-', ' ') || ' ' || e.place || ' ' || e.who || ' ' || e.lent_to || ' ' || e.meanwhile || ' ' || e.note || ' ' || e.device) LIKE ? ESCAPE '\'`, "%"+w+"%")
	}
	if before > 0 {
		add(`e.id < ?`, before)
	}
	rows, err := s.db.QueryContext(ctx, `SELECT `+columns+` FROM events e WHERE `+strings.Join(where, " AND ")+` ORDER BY e.id DESC LIMIT ?`, append(args, limit)...)
	if err != nil {
		return nil, inWords(err)
	}
	list, err := scan(rows)
	return list, inWords(err)
}

// Began is the first day on which a use was noted; empty when none was.
func (s *Store) Began(ctx context.Context) (day string, err error) {
	err = s.db.QueryRowContext(ctx, `SELECT coalesce((SELECT day FROM events e WHERE what IN ('used', 'taken') AND `+valid+` ORDER BY day LIMIT 1), '')`).Scan(&day)
	return day, inWords(err)
}

// LastUsed is the day of the last use of each item.
func (s *Store) LastUsed(ctx context.Context) (map[string]string, error) {
	return pairs[string](ctx, s.db, `SELECT item, last FROM used`)
}

// Uses of each item from a day to another, both included.
func (s *Store) Uses(ctx context.Context, from, to string) (map[string]int, error) {
	return pairs[int](ctx, s.db, `SELECT item, sum(n) FROM uses_by_day WHERE day BETWEEN ? AND ? GROUP BY item`, from, to)
}

// Times at which anything was noted with a time of day, from a day to another, in order.
func (s *Store) Times(ctx context.Context, from, to string) ([]string, error) {
	rows, err := s.db.QueryContext(ctx, `SELECT DISTINCT at FROM events WHERE day BETWEEN ? AND ? AND length(at) > 10 ORDER BY at`, from, to)
	if err != nil {
		return nil, inWords(err)
	}
	defer rows.Close()
	var out []string
	for rows.Next() {
		var at string
		if err := rows.Scan(&at); err != nil {
			return nil, inWords(err)
		}
		out = append(out, at)
	}
	return out, inWords(rows.Err())
}

// Seen is what package learn asks of the events: the uses of each item since a day of its
// own, up to today.
func (s *Store) Seen(ctx context.Context, since map[string]string, today time.Time) (learn.Seen, error) {
	var out learn.Seen
	var err [4]error
	out.Began, err[0] = s.Began(ctx)
	out.Last, err[1] = s.LastUsed(ctx)
	out.Count, err[2] = pairs[int](ctx, s.db, `SELECT item, n FROM used`)
	if err := errors.Join(err[:]...); err != nil {
		return learn.Seen{}, err
	}
	one, e := s.db.PrepareContext(ctx, `SELECT coalesce(sum(n), 0) FROM uses_by_day WHERE item = ? AND day BETWEEN ? AND ?`)
	if e != nil {
		return learn.Seen{}, inWords(e)
	}
	defer one.Close()
	for item, from := range since {
		n := 0
		if err := one.QueryRowContext(ctx, item, from, today.Format(time.DateOnly)).Scan(&n); err != nil {
			return learn.Seen{}, inWords(err)
		}
		out.Count[item] = n
	}
	return out, nil
}

// pairs are the rows of two columns, by the first.
func pairs[V any](ctx context.Context, db querier, query string, args ...any) (map[string]V, error) {
	rows, err := db.QueryContext(ctx, query, args...)
	if err != nil {
		return nil, inWords(err)
	}
	defer rows.Close()
	out := map[string]V{}
	for rows.Next() {
		var id string
		var v V
		if err := rows.Scan(&id, &v); err != nil {
			return nil, inWords(err)
		}
		out[id] = v
	}
	return out, inWords(rows.Err())
}

// AllEvents there are, oldest first, those that were taken back with what took them back:
// as a shop file carries them.
func (s *Store) AllEvents(ctx context.Context) (event.Log, error) { return allEvents(ctx, s.db) }

func allEvents(ctx context.Context, db querier) (event.Log, error) {
	rows, err := db.QueryContext(ctx, `SELECT `+columns+` FROM events e ORDER BY e.id`)
	if err != nil {
		// A file from before it was said to whom, until when and where, which is read as it is.
		rows, err = db.QueryContext(ctx, `SELECT e.id, e.at, e.who, e.what, e.item, e.place, e.n, e.note, e.device, coalesce(e.corrects, 0), '', '', '' FROM events e ORDER BY e.id`)
	}
	if err != nil {
		return nil, inWords(err)
	}
	list, err := scan(rows)
	return list, inWords(err)
}

// bringIn the events of a shop file behind those there are, but for those that are there
// already: the same file may come twice. Their numbers become new ones.
func bringIn(ctx context.Context, tx *sql.Tx, log event.Log) error {
	if len(log) == 0 {
		return nil
	}
	have, err := allEvents(ctx, tx)
	if err != nil {
		return err
	}
	known, number := map[event.Event]int64{}, map[int64]int64{}
	for _, e := range have {
		id := e.ID
		e.ID = 0
		known[e] = id
	}
	for _, e := range log {
		was := e.ID
		e.ID = 0
		if e.Corrects != 0 {
			e.Corrects = number[e.Corrects]
		}
		if e.What == event.TakenBack {
			of, err := eventOf(ctx, tx, e.Corrects)
			if err != nil {
				return err
			}
			e.Item, e.Place = of.Item, of.Place // as it was stored, if it was
		}
		id, ok := known[e]
		if !ok {
			one := []event.Event{e}
			if err := add(ctx, tx, one); err != nil {
				return err
			}
			id = one[0].ID
		}
		if was != 0 {
			number[was] = id
		}
	}
	return nil
}

// eventsOf parts that an upgrade made of documents.
func eventsOf(parts []upgrade.Extra) (out event.Log, err error) {
	for _, p := range parts {
		if p.List != "events" {
			return nil, fmt.Errorf("there is no list %s beside the shop", p.List)
		}
		var e event.Event
		if err := json.Unmarshal([]byte(p.JSON), &e); err != nil {
			return nil, err
		}
		out = append(out, e)
	}
	slices.SortStableFunc(out, func(a, b event.Event) int { return strings.Compare(a.At, b.At) })
	return out, nil
}

// WatchEvents tells whenever something happened, here or in another process. Call the
// function returned to stop.
func (s *Store) WatchEvents() (<-chan struct{}, func()) {
	w := make(chan struct{}, 1)
	s.watching.Lock()
	s.listeners[w] = true
	s.watching.Unlock()
	return w, func() {
		s.watching.Lock()
		defer s.watching.Unlock()
		delete(s.listeners, w)
	}
}

// tellEvents once more of them are there than were told of.
func (s *Store) tellEvents() {
	var newest int64
	if err := s.db.QueryRow(`SELECT coalesce(max(id), 0) FROM events`).Scan(&newest); err != nil {
		return // whoever asks for them hears of it
	}
	if s.told.Swap(newest) == newest {
		return
	}
	s.watching.Lock()
	defer s.watching.Unlock()
	for w := range s.listeners {
		select {
		case w <- struct{}{}:
		default: // it has not looked since
		}
	}
}
