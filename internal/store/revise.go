package store

import (
	"cmp"
	"context"
	"database/sql"
	"errors"
	"maps"
	"slices"
	"time"

	"hobrak/internal/core/event"
	"hobrak/internal/core/shop"
)

// revising says what kind of revision is being made.
type revising struct {
	who, what, kind string
	target          int64
}

// revise stores documents as the next revision after now, at the positions
// given. They are read as they will be read when the file is opened again, so
// that nothing is stored which cannot be. The events of a file come in with it. The lock is
// held.
func (s *Store) revise(ctx context.Context, now *snapshot, why revising, docs shop.Documents, at order, log event.Log) (Revision, error) {
	read, err := shop.ReadDocuments(docs, now.docs, now.shop)
	if err != nil {
		return Revision{}, err
	}
	tx, err := s.db.BeginTx(ctx, nil)
	if err != nil {
		return Revision{}, err
	}
	defer func() { _ = tx.Rollback() }() // does nothing after a commit
	var head int64
	if err := tx.QueryRowContext(ctx, `SELECT coalesce(max(id), 0) FROM revisions`).Scan(&head); err != nil {
		return Revision{}, err
	}
	if head != now.head {
		return Revision{}, errMovedOn
	}
	if d := byDevice(ctx); d != "" {
		why.who = d
	}
	r := Revision{ID: head + 1, At: s.now().UTC().Truncate(time.Millisecond), Who: why.who, What: why.what, Kind: why.kind, Changed: []Changed{}}
	var target any
	if why.target != 0 {
		target = why.target
	}
	if _, err := tx.ExecContext(ctx, `INSERT INTO revisions (id, at, who, what, kind, target, state) VALUES (?, ?, ?, ?, ?, ?, 'applied')`,
		r.ID, r.At.Format(time.RFC3339Nano), r.Who, r.What, r.Kind, target); err != nil {
		return Revision{}, err
	}
	w := &writer{ctx: ctx, tx: tx, ready: map[string]*sql.Stmt{}, revision: &r}
	if err := w.differences(now, docs, at); err != nil {
		return Revision{}, err
	}
	if len(r.Changed) == 0 {
		return Revision{}, ErrNothing
	}
	switch why.kind {
	case "change":
		_, err = tx.ExecContext(ctx, `UPDATE revisions SET state = 'dropped' WHERE kind = 'change' AND state = 'undone'`)
	case "undo":
		_, err = tx.ExecContext(ctx, `UPDATE revisions SET state = 'undone' WHERE id = ?`, why.target)
	case "redo":
		_, err = tx.ExecContext(ctx, `UPDATE revisions SET state = 'applied' WHERE id = ?`, why.target)
	}
	if err != nil {
		return Revision{}, err
	}
	if err := bringIn(ctx, tx, log); err != nil {
		return Revision{}, err
	}
	if err := tx.Commit(); err != nil {
		return Revision{}, err
	}
	s.state.Store(&snapshot{head: r.ID, shop: read, docs: docs, order: at})
	return r, nil
}

// writer writes the documents of one revision.
type writer struct {
	ctx      context.Context
	tx       *sql.Tx
	ready    map[string]*sql.Stmt // many documents may change at once: each statement is made ready once
	revision *Revision
}

func (w *writer) exec(statement string, args ...any) error {
	if w.ready[statement] == nil {
		var err error
		if w.ready[statement], err = w.tx.PrepareContext(w.ctx, statement); err != nil {
			return err
		}
	}
	_, err := w.ready[statement].ExecContext(w.ctx, args...)
	return err
}

// differences writes what is new or otherwise than now, and takes out what is gone: what
// is referred to before what refers to it, and the other way round when taking out.
func (w *writer) differences(now *snapshot, docs shop.Documents, at order) error {
	before := map[string]map[string]string{}
	for _, list := range shop.Lists {
		before[list] = map[string]string{}
		for _, d := range now.docs[list] {
			before[list][d.ID] = d.JSON
		}
	}
	for _, list := range shop.Lists {
		for _, d := range docs[list] {
			position := at[list][d.ID]
			old, had := before[list][d.ID]
			delete(before[list], d.ID)
			was := now.order[list][d.ID]
			var err error
			switch {
			case !had:
				if err = w.exec(`INSERT INTO `+list+` (id, position, doc, format) VALUES (?, ?, ?, ?)`, d.ID, position, d.JSON, shop.Version); err == nil {
					err = w.note(list, d.ID, nil, nil, position, d.JSON)
				}
			case old != d.JSON || was != position:
				if err = w.exec(`UPDATE `+list+` SET position = ?, doc = ?, format = ? WHERE id = ?`, position, d.JSON, shop.Version, d.ID); err == nil {
					err = w.note(list, d.ID, was, old, position, d.JSON)
				}
			}
			if err != nil {
				return err
			}
		}
	}
	for _, list := range slices.Backward(shop.Lists) {
		for _, id := range slices.Sorted(maps.Keys(before[list])) {
			if err := w.exec(`DELETE FROM `+list+` WHERE id = ?`, id); err != nil {
				return err
			}
			if err := w.note(list, id, now.order[list][id], before[list][id], nil, nil); err != nil {
				return err
			}
		}
	}
	return nil
}

// note what a document was before and is after the revision.
func (w *writer) note(list, id string, positionBefore, before, positionAfter, after any) error {
	w.revision.Changed = append(w.revision.Changed, Changed{list, id})
	return w.exec(`INSERT INTO parts_changed (revision, part, id, position_before, before, position_after, after, format) VALUES (?, ?, ?, ?, ?, ?, ?, ?)`,
		w.revision.ID, list, id, positionBefore, before, positionAfter, after, shop.Version)
}

// closest is how near two positions may come before what follows is moved on.
const closest = 1e-6

// positions gives every document a place in the order of its list, leaving those
// that were there where they are as far as the order allows.
func positions(old order, docs shop.Documents) order {
	out := order{}
	for _, list := range shop.Lists {
		out[list] = map[string]float64{}
		last := 0.0
		for i, d := range docs[list] {
			at, had := old[list][d.ID]
			if !had || at <= last {
				// Between the last one and the next that keeps its position.
				at = last + 1
				for _, later := range docs[list][i+1:] {
					if next, ok := old[list][later.ID]; ok && next > last {
						if middle := (last + next) / 2; middle-last >= closest {
							at = middle
						}
						break
					}
				}
			}
			out[list][d.ID], last = at, at
		}
	}
	return out
}

// stored is a document with its position.
type stored struct {
	position float64
	json     string
}

// arrangement of documents by list and id, while revisions are walked.
type arrangement map[string]map[string]stored

func (n *snapshot) arrangement() arrangement {
	out := arrangement{}
	for _, list := range shop.Lists {
		out[list] = make(map[string]stored, len(n.docs[list]))
		for _, d := range n.docs[list] {
			out[list][d.ID] = stored{n.order[list][d.ID], d.JSON}
		}
	}
	return out
}

func (a arrangement) documents() (shop.Documents, order) {
	docs, at := shop.Documents{}, order{}
	for list, byID := range a {
		at[list] = make(map[string]float64, len(byID))
		ids := slices.Collect(maps.Keys(byID))
		slices.SortFunc(ids, func(x, y string) int {
			return cmp.Or(cmp.Compare(byID[x].position, byID[y].position), cmp.Compare(x, y))
		})
		for _, id := range ids {
			at[list][id] = byID[id].position
			docs[list] = append(docs[list], shop.Document{ID: id, JSON: byID[id].json})
		}
	}
	return docs, at
}

// querier is a database or a transaction.
type querier interface {
	QueryContext(ctx context.Context, query string, args ...any) (*sql.Rows, error)
}

// walk takes an arrangement through changes: forward to what they made, or back to
// what was before. Query picks rows of parts_changed in the order to walk them.
func (a arrangement) walk(ctx context.Context, db querier, back bool, query string, args ...any) error {
	side := "position_after, after"
	if back {
		side = "position_before, before"
	}
	rows, err := db.QueryContext(ctx, `SELECT part, id, `+side+`, format FROM parts_changed `+query, args...)
	if err != nil {
		return err
	}
	defer rows.Close()
	for rows.Next() {
		var list, id string
		var position sql.NullFloat64
		var doc sql.NullString
		var format int
		if err := rows.Scan(&list, &id, &position, &doc, &format); err != nil {
			return err
		}
		if a[list] == nil {
			return &unknownList{list}
		}
		if !doc.Valid {
			delete(a[list], id)
			continue
		}
		text, _, err := today(list, format, doc.String)
		if err != nil {
			return err
		}
		a[list][id] = stored{position.Float64, text}
	}
	return rows.Err()
}

type unknownList struct{ list string }

func (e *unknownList) Error() string {
	return "there is a part of " + e.list + " in it, which this Hobrak does not know"
}

// step undoes or redoes the change a query picks. A change of which nothing is left in
// the shop, because the format moved it elsewhere, is passed over.
func (s *Store) step(ctx context.Context, base int64, who, kind, query string) (Revision, error) {
	return s.writing(ctx, base, func(now *snapshot) (Revision, error) {
		for {
			var target int64
			var what string
			switch err := s.db.QueryRowContext(ctx, query).Scan(&target, &what); {
			case errors.Is(err, sql.ErrNoRows):
				return Revision{}, ErrNothing
			case err != nil:
				return Revision{}, err
			}
			a := now.arrangement()
			if err := a.walk(ctx, s.db, kind == "undo", `WHERE revision = ?`, target); err != nil {
				return Revision{}, err
			}
			docs, at := a.documents()
			r, err := s.revise(ctx, now, revising{who: who, what: what, kind: kind, target: target}, docs, at, nil)
			if !errors.Is(err, ErrNothing) {
				return r, err
			}
			if _, err := s.db.ExecContext(ctx, `UPDATE revisions SET state = ? WHERE id = ?`, map[string]string{"undo": "undone", "redo": "applied"}[kind], target); err != nil {
				return Revision{}, err
			}
		}
	})
}

// At gives the shop as it was at a revision.
func (s *Store) At(ctx context.Context, revision int64) (*shop.Shop, error) {
	now := s.state.Load()
	if revision == now.head {
		return now.shop.Clone(), nil
	}
	if revision < 1 || revision > now.head {
		return nil, &NoRevisionError{revision, now.head}
	}
	a := now.arrangement()
	if err := a.walk(ctx, s.db, true, `WHERE revision > ? AND revision <= ? ORDER BY revision DESC`, revision, now.head); err != nil {
		return nil, err
	}
	docs, _ := a.documents()
	return shop.ReadDocuments(docs, nil, nil)
}

// catchUp takes over what other processes wrote, and gives the newest revision of
// theirs; nil when there is none.
func (s *Store) catchUp(ctx context.Context) (*Revision, error) {
	s.write.Lock()
	defer s.write.Unlock()
	return s.catchUpLocked(ctx)
}

func (s *Store) catchUpLocked(ctx context.Context) (*Revision, error) {
	now := s.state.Load()
	var head int64
	if err := s.db.QueryRowContext(ctx, `SELECT coalesce(max(id), 0) FROM revisions`).Scan(&head); err != nil {
		return nil, err
	}
	if head == now.head {
		return nil, nil
	}
	a := now.arrangement()
	if err := a.walk(ctx, s.db, false, `WHERE revision > ? AND revision <= ? ORDER BY revision`, now.head, head); err != nil {
		return nil, err
	}
	docs, at := a.documents()
	read, err := shop.ReadDocuments(docs, now.docs, now.shop)
	if err != nil {
		return nil, &DamagedError{s.path, err}
	}
	s.state.Store(&snapshot{head: head, shop: read, docs: docs, order: at})
	newest, err := s.revisions(ctx, `WHERE r.id = ?`, head)
	if err != nil || len(newest) == 0 {
		return nil, err
	}
	return &newest[0], nil
}

// sinceMost is how many of the revisions since its base a stale write is shown.
const sinceMost = 20

// stale refuses an old base with what happened since.
func (s *Store) stale(ctx context.Context, base, head int64) error {
	since, err := s.revisions(ctx, `WHERE r.id > ? ORDER BY r.id`, max(base, head-sinceMost))
	if err != nil {
		return err
	}
	return &StaleError{Base: base, Head: head, Since: since}
}

// Revision of a number.
func (s *Store) Revision(ctx context.Context, id int64) (Revision, error) {
	list, err := s.revisions(ctx, `WHERE r.id = ?`, id)
	if err != nil {
		return Revision{}, inWords(err)
	}
	if len(list) == 0 {
		return Revision{}, &NoRevisionError{id, s.Head()}
	}
	return list[0], nil
}

// Between lists the parts that were changed after a revision and up to a later one, each
// once; at most so many.
func (s *Store) Between(ctx context.Context, after, upTo int64, most int) ([]Changed, error) {
	rows, err := s.db.QueryContext(ctx, `SELECT DISTINCT part, id FROM parts_changed WHERE revision > ? AND revision <= ? LIMIT ?`, after, upTo, most)
	if err != nil {
		return nil, inWords(err)
	}
	defer rows.Close()
	var out []Changed
	for rows.Next() {
		var c Changed
		if err := rows.Scan(&c.Part, &c.ID); err != nil {
			return nil, inWords(err)
		}
		out = append(out, c)
	}
	return out, inWords(rows.Err())
}

// revisions reads revisions with what they changed.
func (s *Store) revisions(ctx context.Context, where string, args ...any) ([]Revision, error) {
	rows, err := s.db.QueryContext(ctx, `SELECT r.id, r.at, r.who, r.what, r.kind, coalesce(c.part, ''), coalesce(c.id, '')
		FROM revisions r LEFT JOIN parts_changed c ON c.revision = r.id `+where, args...)
	if err != nil {
		return nil, err
	}
	defer rows.Close()
	out := []Revision{}
	for rows.Next() {
		var r Revision
		var at string
		var c Changed
		if err := rows.Scan(&r.ID, &at, &r.Who, &r.What, &r.Kind, &c.Part, &c.ID); err != nil {
			return nil, err
		}
		if n := len(out); n == 0 || out[n-1].ID != r.ID {
			if r.At, err = time.Parse(time.RFC3339Nano, at); err != nil {
				return nil, err
			}
			r.Changed = []Changed{}
			out = append(out, r)
		}
		if c.Part != "" {
			last := &out[len(out)-1]
			last.Changed = append(last.Changed, c)
		}
	}
	return out, rows.Err()
}
