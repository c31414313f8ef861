package store

import (
	"context"
	"database/sql"
	"errors"
	"fmt"
	"maps"
	"net/url"
	"strings"

	"hobrak/internal/core/event"
	"hobrak/internal/core/shop"
)

// Finding is something that is wrong with a database file.
type Finding struct {
	Where string // file, table, revision or document
	What  string
}

// mostFindings of a kind are listed; a file may be damaged all over.
const mostFindings = 20

// Examine looks at a database file without changing it: its pages, its
// references, every document by the reader of shop files, and whether the
// revisions lead to the shop as it stands. It works beside a running server.
func Examine(ctx context.Context, path string) ([]Finding, error) {
	if !exists(path) {
		return nil, fmt.Errorf("there is no file %s", path)
	}
	db, err := readOnly(path)
	if err != nil {
		return nil, err
	}
	defer db.Close()
	tx, err := db.BeginTx(ctx, &sql.TxOptions{ReadOnly: true})
	if err != nil {
		return []Finding{{path, err.Error()}}, nil
	}
	defer func() { _ = tx.Rollback() }()
	x := &examination{ctx: ctx, tx: tx}
	x.pages()
	if len(x.found) > 0 {
		return x.found, ctx.Err()
	}
	has, err := tables(ctx, db)
	switch {
	case err != nil:
		x.add(path, "%v", err)
	case !has["revisions"] || !has["settings"]:
		x.add(path, "this is not a database of Hobrak")
	default:
		x.references()
		x.shop()
		x.log()
		x.events()
	}
	return x.found, ctx.Err()
}

func readOnly(path string) (*sql.DB, error) {
	return connect(path, url.Values{"_pragma": {"busy_timeout(5000)", "query_only(1)"}})
}

type examination struct {
	ctx    context.Context
	tx     *sql.Tx
	found  []Finding
	format string // column with the version of a document
	now    arrangement
	whole  bool // all documents could be read
}

func (x *examination) add(where, format string, args ...any) {
	x.found = append(x.found, Finding{where, fmt.Sprintf(format, args...)})
}

// texts runs a query that gives rows of texts.
func (x *examination) texts(query string, columns int, row func([]string)) error {
	rows, err := x.tx.QueryContext(x.ctx, query)
	if err != nil {
		return err
	}
	defer rows.Close()
	for rows.Next() {
		values, into := make([]sql.NullString, columns), make([]any, columns)
		for i := range values {
			into[i] = &values[i]
		}
		if err := rows.Scan(into...); err != nil {
			return err
		}
		out := make([]string, columns)
		for i, v := range values {
			out[i] = v.String
		}
		row(out)
	}
	return rows.Err()
}

func (x *examination) pages() {
	err := x.texts(fmt.Sprintf(`PRAGMA integrity_check(%d)`, mostFindings), 1, func(r []string) {
		if r[0] != "ok" {
			x.add("pages", "%s", r[0])
		}
	})
	if err != nil {
		x.add("pages", "%v", err)
	}
}

func (x *examination) references() {
	err := x.texts(`PRAGMA foreign_key_check`, 4, func(r []string) {
		if len(x.found) < mostFindings {
			x.add(r[0], "row %s refers to a row of %s that is not there", r[1], r[2])
		}
	})
	if err != nil {
		x.add("references", "%v", err)
	}
}

// shop reads every document by itself and then all of them together.
func (x *examination) shop() {
	x.now, x.whole = arrangement{}, true
	x.format = formatColumn(x.ctx, x.tx)
	for _, list := range shop.Lists {
		x.now[list] = map[string]stored{}
		if yet(x.ctx, x.tx, list) {
			continue
		}
		rows, err := x.tx.QueryContext(x.ctx, `SELECT id, position, doc, `+x.format+` FROM `+list+` ORDER BY position, id`)
		if err != nil {
			x.add(list, "%v", err)
			x.whole = false
			continue
		}
		for rows.Next() {
			var id, doc string
			var position float64
			var format int
			if err := rows.Scan(&id, &position, &doc, &format); err != nil {
				x.add(list, "%v", err)
				x.whole = false
				continue
			}
			doc, _, err := today(list, format, doc)
			if err != nil {
				x.add(list+" "+id, "%v", err)
				x.whole = false
				continue
			}
			if err := shop.ReadDocument(list, doc); err != nil {
				x.add(list+" "+id, "%s", oneLine(err))
				x.whole = false
			}
			x.now[list][id] = stored{position, doc}
		}
		if err := errors.Join(rows.Err(), rows.Close()); err != nil {
			x.add(list, "%v", err)
			x.whole = false
		}
	}
	if len(x.now["settings"]) == 0 {
		x.add("settings", "there is no shop in it")
		x.whole = false
	}
	if !x.whole {
		return
	}
	docs, _ := x.now.documents()
	if _, err := shop.ReadDocuments(docs, nil, nil); err != nil {
		x.add("shop", "%s", oneLine(err))
	}
}

// events must be such as are noted, and what is added up of them what they add up to.
func (x *examination) events() {
	has, err := tables(x.ctx, x.tx)
	if err != nil || !has["events"] {
		return // a file from before there were any
	}
	list, err := allEvents(x.ctx, x.tx)
	if err != nil {
		x.add("events", "%v", err)
		return
	}
	for i := range list {
		if field, says := list[i].Check(); says != "" && list[i].What != event.TakenBack {
			x.add(fmt.Sprintf("event %d", list[i].ID), "%s: %s", field, says)
		}
	}
	out, err := pairs[int](x.ctx, x.tx, `SELECT item, n FROM out`)
	if err != nil {
		x.add("events", "%v", err)
	} else if !maps.Equal(out, list.Out()) {
		x.add("events", "what is said to be out is not what the events add up to")
	}
	last, err := pairs[string](x.ctx, x.tx, `SELECT item, last FROM used`)
	if err != nil {
		x.add("events", "%v", err)
	} else if !yet(x.ctx, x.tx, "kits") && !maps.Equal(last, list.Last()) { // before, what was taken did not count as used
		x.add("events", "the days of the last uses are not what the events say")
	}
}

// log walks back from the shop as it stands to the first revision: what each says it left
// must be what is there when the later ones are taken back.
func (x *examination) log() {
	var ids []int64
	if err := x.texts(`SELECT id FROM revisions ORDER BY id`, 1, func(r []string) {
		var id int64
		_, _ = fmt.Sscan(r[0], &id)
		ids = append(ids, id)
	}); err != nil {
		x.add("revisions", "%v", err)
		return
	}
	for i, id := range ids {
		if id != int64(i+1) {
			x.add("revisions", "revision %d is missing", i+1)
			return
		}
	}
	if !x.whole {
		return // there is nothing to walk back from
	}
	rows, err := x.tx.QueryContext(x.ctx, `SELECT revision, part, id, position_before, before, after, `+x.format+` FROM parts_changed ORDER BY revision DESC`)
	if err != nil {
		x.add("revisions", "%v", err)
		return
	}
	defer rows.Close()
	for rows.Next() && len(x.found) < mostFindings {
		var revision int64
		var list, id string
		var position sql.NullFloat64
		var before, after sql.NullString
		var format int
		if err := rows.Scan(&revision, &list, &id, &position, &before, &after, &format); err != nil {
			x.add("revisions", "%v", err)
			return
		}
		where := fmt.Sprintf("revision %d", revision)
		if x.now[list] == nil {
			x.add(where, "there is a part of %q in it, which this Hobrak does not know", list)
			continue
		}
		texts := [2]string{}
		for k, d := range []sql.NullString{before, after} {
			if d.Valid {
				if texts[k], _, err = today(list, format, d.String); err != nil {
					x.add(where, "%s %s: %v", list, id, err)
				}
			}
		}
		if has, there := x.now[list][id]; there != after.Valid || there && has.json != texts[1] {
			x.add(where, "%s %s is not what this revision left", list, id)
		}
		if before.Valid {
			x.now[list][id] = stored{position.Float64, texts[0]}
		} else {
			delete(x.now[list], id)
		}
	}
	if err := rows.Err(); err != nil {
		x.add("revisions", "%v", err)
		return
	}
	for list, left := range x.now {
		for id := range left {
			if len(x.found) < mostFindings {
				x.add("revisions", "no revision brought %s %s in", list, id)
			}
		}
	}
}

func oneLine(err error) string { return strings.ReplaceAll(err.Error(), "\n", "; ") }
