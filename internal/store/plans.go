package store

import (
	"context"
	"fmt"
	"time"
)

// Plan is one that was made for a revision of the shop and is neither taken over nor thrown
// away. What is in it is the business of whoever keeps it.
type Plan struct {
	ID   int64
	Base int64
	Doc  []byte // JSON
}

// NewPlan gives a number that no plan had before, in this run of the program or an earlier one.
func (s *Store) NewPlan(ctx context.Context, base int64) (int64, error) {
	s.write.Lock()
	defer s.write.Unlock()
	r, err := s.db.ExecContext(ctx, `INSERT INTO plans (at, base) VALUES (?, ?)`, s.now().UTC().Format(time.RFC3339), base)
	if err != nil {
		return 0, fmt.Errorf("beginning a plan: %w", inWords(err))
	}
	return r.LastInsertId()
}

// KeepPlan keeps what was found.
func (s *Store) KeepPlan(ctx context.Context, id int64, doc []byte) error {
	s.write.Lock()
	defer s.write.Unlock()
	_, err := s.db.ExecContext(ctx, `UPDATE plans SET doc = ? WHERE id = ?`, string(doc), id)
	return inWords(err)
}

// Plans lists what is kept, oldest first. Those that were never finished, because the program
// ended first, are taken out; their numbers are not given again.
func (s *Store) Plans(ctx context.Context) ([]Plan, error) {
	s.write.Lock()
	defer s.write.Unlock()
	if _, err := s.db.ExecContext(ctx, `DELETE FROM plans WHERE doc IS NULL AND at < ?`, s.now().UTC().Add(-time.Hour).Format(time.RFC3339)); err != nil {
		return nil, inWords(err)
	}
	rows, err := s.db.QueryContext(ctx, `SELECT id, base, doc FROM plans WHERE doc IS NOT NULL ORDER BY id`)
	if err != nil {
		return nil, err
	}
	defer rows.Close()
	var out []Plan
	for rows.Next() {
		var p Plan
		var doc string
		if err := rows.Scan(&p.ID, &p.Base, &doc); err != nil {
			return nil, err
		}
		p.Doc = []byte(doc)
		out = append(out, p)
	}
	return out, rows.Err()
}

// DropPlan takes a plan out.
func (s *Store) DropPlan(ctx context.Context, id int64) error {
	s.write.Lock()
	defer s.write.Unlock()
	_, err := s.db.ExecContext(ctx, `DELETE FROM plans WHERE id = ?`, id)
	return inWords(err)
}
