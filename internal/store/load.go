package store

import (
	"context"
	"database/sql"
	"embed"
	"errors"
	"fmt"
	"io/fs"
	"os"

	"github.com/pressly/goose/v3"

	"hobrak/internal/core/shop"
	"hobrak/internal/core/upgrade"
)

//go:embed migrations/*.sql
var migrations embed.FS

// migrate brings the tables up to date; tables of a later Hobrak are refused.
func migrate(ctx context.Context, db *sql.DB) error {
	files, err := fs.Sub(migrations, "migrations")
	if err != nil {
		return err
	}
	p, err := goose.NewProvider(goose.DialectSQLite3, db, files)
	if err != nil {
		return err
	}
	newest := p.ListSources()[len(p.ListSources())-1].Version
	has, err := tables(ctx, db)
	if err != nil {
		return err
	}
	if has["goose_db_version"] {
		var version int64
		if err := db.QueryRowContext(ctx, `SELECT coalesce(max(version_id), 0) FROM goose_db_version`).Scan(&version); err != nil {
			return err
		}
		if version > newest {
			return fmt.Errorf("its tables are of version %d; this Hobrak knows them up to version %d. Open it with the Hobrak that wrote it, or a newer one", version, newest)
		}
	} else if len(has) > 0 {
		return errors.New("this database was made by another program")
	}
	_, err = p.Up(ctx)
	return err
}

// tables of a database by name, without SQLite's own.
func tables(ctx context.Context, db querier) (map[string]bool, error) {
	rows, err := db.QueryContext(ctx, `SELECT name FROM sqlite_schema WHERE type = 'table' AND name NOT LIKE 'sqlite_%'`)
	if err != nil {
		return nil, err
	}
	defer rows.Close()
	out := map[string]bool{}
	for rows.Next() {
		var name string
		if err := rows.Scan(&name); err != nil {
			return nil, err
		}
		out[name] = true
	}
	return out, rows.Err()
}

// quickly is how large a file may be to be checked page by page at every start.
const quickly = 512 << 20

// sound refuses a file whose pages are damaged.
func sound(ctx context.Context, db *sql.DB, path string) error {
	if info, err := os.Stat(path); err != nil || info.Size() > quickly {
		return err
	}
	var says string
	if err := db.QueryRowContext(ctx, `PRAGMA quick_check(1)`).Scan(&says); err != nil {
		return err
	}
	if says != "ok" {
		return errors.New("it is damaged: " + says)
	}
	return nil
}

// load reads the shop from the database and brings documents of an older format to today's.
func (s *Store) load(ctx context.Context) (*snapshot, error) {
	now := &snapshot{}
	tx, err := s.db.BeginTx(ctx, &sql.TxOptions{ReadOnly: true}) // all of one revision
	if err != nil {
		return nil, err
	}
	defer func() { _ = tx.Rollback() }()
	if err := tx.QueryRowContext(ctx, `SELECT coalesce(max(id), 0) FROM revisions`).Scan(&now.head); err != nil {
		return nil, err
	}
	var old []oldDocument
	now.docs, now.order, old, err = documents(ctx, tx)
	if err = errors.Join(err, tx.Rollback()); err != nil {
		return nil, err
	}
	if now.head == 0 {
		return now, nil
	}
	if now.shop, err = shop.ReadDocuments(now.docs, nil, nil); err != nil {
		return nil, fmt.Errorf("the stored shop cannot be read: %w", err)
	}
	return now, s.rewrite(ctx, old)
}

// formatColumn is the column with the version of a document; the number 1 in a file from
// before documents said so.
func formatColumn(ctx context.Context, db querier) string {
	rows, err := db.QueryContext(ctx, `SELECT format FROM settings LIMIT 1`)
	if err != nil {
		return "1"
	}
	_ = rows.Close()
	return "format"
}

// came is the migration with which a list got its table; those that are not named were there from the first.
var came = map[string]int64{"targets": 7, "kits": 8}

// yet tells whether a file is from before a list came: then it has no table for it, and nothing is wrong.
func yet(ctx context.Context, db querier, list string) bool {
	since, later := came[list]
	if !later {
		return false
	}
	rows, err := db.QueryContext(ctx, `SELECT coalesce(max(version_id), 0) FROM goose_db_version`)
	if err != nil {
		return false
	}
	defer func() { _ = rows.Close() }()
	var version int64
	if !rows.Next() || rows.Scan(&version) != nil {
		return false
	}
	return version < since
}

// oldDocument was stored in an older format and has been brought to today's, with what moved
// out of it on the way.
type oldDocument struct {
	list, id, json string
	moved          []upgrade.Extra
}

// today brings a document of a format to today's and writes it as it would be written now.
func today(list string, format int, doc string) (string, []upgrade.Extra, error) {
	if format == shop.Version {
		return doc, nil, nil
	}
	doc, moved, err := upgrade.Released.Part(list, format, doc)
	if err == nil {
		doc = shop.Again(list, doc)
	}
	return doc, moved, err
}

// documents reads the documents of all lists.
func documents(ctx context.Context, db querier) (shop.Documents, order, []oldDocument, error) {
	docs, at := shop.Documents{}, order{}
	var old []oldDocument
	for _, list := range shop.Lists {
		at[list] = map[string]float64{}
		rows, err := db.QueryContext(ctx, `SELECT id, position, doc, format FROM `+list+` ORDER BY position, id`)
		if err != nil {
			return nil, nil, nil, err
		}
		for rows.Next() {
			var id, doc string
			var position float64
			var format int
			if err = rows.Scan(&id, &position, &doc, &format); err != nil {
				break
			}
			if format != shop.Version {
				var moved []upgrade.Extra
				if doc, moved, err = today(list, format, doc); err != nil {
					err = fmt.Errorf("%s %s: %w", list, id, err)
					break
				}
				old = append(old, oldDocument{list, id, doc, moved})
			}
			at[list][id] = position
			docs[list] = append(docs[list], shop.Document{ID: id, JSON: doc})
		}
		if err := errors.Join(err, rows.Err(), rows.Close()); err != nil {
			return nil, nil, nil, err
		}
	}
	return docs, at, old, nil
}

// rewrite stores documents in today's format. It is no revision: the shop is the same.
func (s *Store) rewrite(ctx context.Context, old []oldDocument) error {
	if len(old) == 0 {
		return nil
	}
	tx, err := s.db.BeginTx(ctx, nil)
	if err != nil {
		return err
	}
	defer func() { _ = tx.Rollback() }()
	var moved []upgrade.Extra
	for _, d := range old {
		moved = append(moved, d.moved...)
		if _, err := tx.ExecContext(ctx, `UPDATE `+d.list+` SET doc = ?, format = ? WHERE id = ?`, d.json, shop.Version, d.id); err != nil {
			return err
		}
	}
	log, err := eventsOf(moved)
	if err != nil {
		return err
	}
	if err := bringIn(ctx, tx, log); err != nil {
		return err
	}
	return tx.Commit()
}
