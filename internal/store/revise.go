package store

import (
	"cmp"
	"context"
	"database/sql"
	"encoding/json"
	"errors"
	"fmt"
	"maps"
	"slices"
	"strings"
	"time"

	"hobrak/internal/core/shop"
)

// parts are the tables of a shop, in an order in which references hold.
var parts = []string{"settings", "areas", "circuits", "stations", "containers", "places", "items", "homes", "modes"}

// part of a shop as it is stored.
type part struct {
	table string
	id    string
	doc   string
}

// split cuts a shop into its parts.
func split(s *shop.Shop) ([]part, error) {
	var out []part
	add := func(table, id string, v any) error {
		doc, err := json.Marshal(v)
		if err != nil {
			return fmt.Errorf("writing %s %s: %w", table, id, err)
		}
		out = append(out, part{table, id, string(doc)})
		return nil
	}
	var err error
	each := func(table string, n int, id func(int) string, v func(int) any) {
		for i := range n {
			if err == nil {
				err = add(table, id(i), v(i))
			}
		}
	}
	each("settings", 1, func(int) string { return "shop" }, func(int) any { return s.Settings })
	each("areas", len(s.Areas), func(i int) string { return s.Areas[i].ID }, func(i int) any { return s.Areas[i] })
	each("circuits", len(s.Circuits), func(i int) string { return s.Circuits[i].ID }, func(i int) any { return s.Circuits[i] })
	each("stations", len(s.Stations), func(i int) string { return s.Stations[i].ID }, func(i int) any { return s.Stations[i] })
	each("containers", len(s.Containers), func(i int) string { return s.Containers[i].ID }, func(i int) any { return s.Containers[i] })
	each("places", len(s.Places), func(i int) string { return s.Places[i].ID }, func(i int) any { return s.Places[i] })
	each("items", len(s.Items), func(i int) string { return s.Items[i].ID }, func(i int) any { return s.Items[i] })
	number := map[string]int{}
	each("homes", len(s.Homes), func(i int) string {
		number[s.Homes[i].Item]++
		return fmt.Sprintf("%s %d", s.Homes[i].Item, number[s.Homes[i].Item])
	}, func(i int) any { return s.Homes[i] })
	each("modes", len(s.Modes), func(i int) string { return s.Modes[i].ID }, func(i int) any { return s.Modes[i] })
	return out, err
}

// load reads the shop from the database.
func (s *Store) load(ctx context.Context) error {
	if err := s.db.QueryRowContext(ctx, `SELECT coalesce(max(id), 0) FROM revisions`).Scan(&s.head); err != nil {
		return err
	}
	s.order = map[string]map[string]float64{}
	docs := map[string][]string{}
	for _, table := range parts {
		s.order[table] = map[string]float64{}
		rows, err := s.db.QueryContext(ctx, `SELECT id, position, doc FROM `+table+` ORDER BY position`)
		if err != nil {
			return err
		}
		for rows.Next() {
			var id, doc string
			var position float64
			if err := rows.Scan(&id, &position, &doc); err != nil {
				rows.Close()
				return err
			}
			s.order[table][id] = position
			docs[table] = append(docs[table], doc)
		}
		if err := errors.Join(rows.Err(), rows.Close()); err != nil {
			return err
		}
	}
	if s.head == 0 {
		return nil
	}
	read, err := join(docs)
	if err != nil {
		return fmt.Errorf("the stored shop cannot be read: %w", err)
	}
	s.shop = read
	return nil
}

// join puts the documents of all parts together to a shop.
func join(docs map[string][]string) (*shop.Shop, error) {
	if len(docs["settings"]) == 0 {
		return nil, errors.New("the settings of the shop are missing")
	}
	var b strings.Builder
	fmt.Fprintf(&b, `{"format":%q,"version":%d,"shop":%s`, shop.Format, shop.Version, docs["settings"][0])
	for _, table := range parts[1:] {
		if len(docs[table]) > 0 {
			fmt.Fprintf(&b, `,%q:[%s]`, table, strings.Join(docs[table], ","))
		}
	}
	b.WriteString("}")
	return shop.Read([]byte(b.String()))
}

// revising says what kind of revision is being made.
type revising struct {
	who, what, kind string
	target          int64
}

// change stores next as a revision, its parts at positions that disturb the
// others least. The lock is held.
func (s *Store) change(ctx context.Context, why revising, next *shop.Shop) (Revision, error) {
	after, err := split(next)
	if err != nil {
		return Revision{}, err
	}
	return s.revise(ctx, why, next, positions(s.order, after))
}

// revise stores next as a revision, its parts at the positions given.
func (s *Store) revise(ctx context.Context, why revising, next *shop.Shop, order map[string]map[string]float64) (Revision, error) {
	next.Fit = nil // belongs to a plan file, not to the shop
	after, err := split(next)
	if err != nil {
		return Revision{}, err
	}
	before := map[string]part{}
	if s.shop != nil {
		old, err := split(s.shop)
		if err != nil {
			return Revision{}, err
		}
		for _, p := range old {
			before[p.table+" "+p.id] = p
		}
	}
	r := Revision{ID: s.head + 1, At: s.now().UTC().Truncate(time.Millisecond), Who: why.who, What: why.what, Kind: why.kind, Changed: []Changed{}}

	tx, err := s.db.BeginTx(ctx, nil)
	if err != nil {
		return Revision{}, err
	}
	defer func() { _ = tx.Rollback() }() // does nothing after a commit
	var target any
	if why.target != 0 {
		target = why.target
	}
	if _, err := tx.ExecContext(ctx, `INSERT INTO revisions (id, at, who, what, kind, target, state) VALUES (?, ?, ?, ?, ?, ?, 'applied')`,
		r.ID, r.At.Format(time.RFC3339Nano), r.Who, r.What, r.Kind, target); err != nil {
		return Revision{}, err
	}
	// Many parts may change at once: each statement is made ready once.
	ready := map[string]*sql.Stmt{}
	exec := func(statement string, args ...any) error {
		if ready[statement] == nil {
			var err error
			if ready[statement], err = tx.PrepareContext(ctx, statement); err != nil {
				return err
			}
		}
		_, err := ready[statement].ExecContext(ctx, args...)
		return err
	}
	note := func(p part, positionBefore, docBefore, positionAfter, docAfter any) error {
		r.Changed = append(r.Changed, Changed{p.table, p.id})
		return exec(`INSERT INTO parts_changed (revision, part, id, position_before, before, position_after, after) VALUES (?, ?, ?, ?, ?, ?, ?)`,
			r.ID, p.table, p.id, positionBefore, docBefore, positionAfter, docAfter)
	}
	kept := map[string]bool{}
	for _, p := range after {
		key := p.table + " " + p.id
		kept[key] = true
		position := order[p.table][p.id]
		old, had := before[key]
		oldPosition := s.order[p.table][p.id]
		switch {
		case !had:
			if err := exec(`INSERT INTO `+p.table+` (id, position, doc) VALUES (?, ?, ?)`, p.id, position, p.doc); err != nil {
				return Revision{}, err
			}
			err = note(p, nil, nil, position, p.doc)
		case old.doc != p.doc || oldPosition != position:
			if err := exec(`UPDATE `+p.table+` SET position = ?, doc = ? WHERE id = ?`, position, p.doc, p.id); err != nil {
				return Revision{}, err
			}
			err = note(p, oldPosition, old.doc, position, p.doc)
		}
		if err != nil {
			return Revision{}, err
		}
	}
	for _, p := range sortedParts(before) {
		if kept[p.table+" "+p.id] {
			continue
		}
		if err := exec(`DELETE FROM `+p.table+` WHERE id = ?`, p.id); err != nil {
			return Revision{}, err
		}
		if err := note(p, s.order[p.table][p.id], p.doc, nil, nil); err != nil {
			return Revision{}, err
		}
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
	if err := tx.Commit(); err != nil {
		return Revision{}, err
	}
	s.head, s.shop, s.order = r.ID, next, order
	s.tell(r)
	return r, nil
}

// sortedParts gives parts in the order of their tables, what refers before what is referred to.
func sortedParts(m map[string]part) []part {
	var out []part
	for i := len(parts) - 1; i >= 0; i-- {
		for _, p := range m {
			if p.table == parts[i] {
				out = append(out, p)
			}
		}
	}
	return out
}

// positions gives every part a place in the order of its table, leaving those
// that were there where they are as far as the order allows.
func positions(old map[string]map[string]float64, after []part) map[string]map[string]float64 {
	out := map[string]map[string]float64{}
	byTable := map[string][]string{}
	for _, table := range parts {
		out[table] = map[string]float64{}
	}
	for _, p := range after {
		byTable[p.table] = append(byTable[p.table], p.id)
	}
	for table, ids := range byTable {
		last := 0.0
		for i, id := range ids {
			at, had := old[table][id]
			if !had || at <= last {
				// Between the last one and the next that keeps its position.
				at = last + 1
				for _, later := range ids[i+1:] {
					if next, ok := old[table][later]; ok && next > last {
						at = (last + next) / 2
						break
					}
				}
			}
			out[table][id], last = at, at
		}
	}
	return out
}

// step undoes or redoes the change a query picks.
func (s *Store) step(ctx context.Context, base int64, who, kind, query string) (Revision, error) {
	s.mu.Lock()
	defer s.mu.Unlock()
	if err := s.fresh(ctx, base); err != nil {
		return Revision{}, err
	}
	var target int64
	var what string
	switch err := s.db.QueryRowContext(ctx, query).Scan(&target, &what); {
	case errors.Is(err, sql.ErrNoRows):
		return Revision{}, ErrNothing
	case err != nil:
		return Revision{}, err
	}
	next, order, err := s.walked(ctx, target, kind == "undo")
	if err != nil {
		return Revision{}, err
	}
	return s.revise(ctx, revising{who: who, what: what, kind: kind, target: target}, next, order)
}

// walked is the shop with a revision taken back or done again, and the
// positions its parts had then.
func (s *Store) walked(ctx context.Context, revision int64, back bool) (*shop.Shop, map[string]map[string]float64, error) {
	type stored struct {
		position float64
		doc      string
	}
	now := map[string]map[string]stored{}
	current, err := split(s.shop)
	if err != nil {
		return nil, nil, err
	}
	for _, table := range parts {
		now[table] = map[string]stored{}
	}
	for _, p := range current {
		now[p.table][p.id] = stored{s.order[p.table][p.id], p.doc}
	}
	rows, err := s.db.QueryContext(ctx, `SELECT part, id, position_before, before, position_after, after FROM parts_changed WHERE revision = ?`, revision)
	if err != nil {
		return nil, nil, err
	}
	defer rows.Close()
	for rows.Next() {
		var table, id string
		var positionBefore, positionAfter sql.NullFloat64
		var before, after sql.NullString
		if err := rows.Scan(&table, &id, &positionBefore, &before, &positionAfter, &after); err != nil {
			return nil, nil, err
		}
		if !back {
			positionBefore, before = positionAfter, after
		}
		if before.Valid {
			now[table][id] = stored{positionBefore.Float64, before.String}
		} else {
			delete(now[table], id)
		}
	}
	if err := rows.Err(); err != nil {
		return nil, nil, err
	}
	docs := map[string][]string{}
	order := map[string]map[string]float64{}
	for _, table := range parts {
		order[table] = map[string]float64{}
		for _, id := range byPosition(now[table], func(x stored) float64 { return x.position }) {
			order[table][id] = now[table][id].position
			docs[table] = append(docs[table], now[table][id].doc)
		}
	}
	read, err := join(docs)
	return read, order, err
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

func byPosition[T any](m map[string]T, position func(T) float64) []string {
	ids := slices.Collect(maps.Keys(m))
	slices.SortFunc(ids, func(a, b string) int { return cmp.Compare(position(m[a]), position(m[b])) })
	return ids
}
