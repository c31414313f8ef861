package store

import (
	"cmp"
	"context"
	"database/sql"
	"errors"
	"fmt"
	"maps"
	"regexp"
	"slices"
	"strconv"

	"hobrak/internal/core/shop"
	"hobrak/internal/core/upgrade"
)

// Rescued is what could be read of a damaged database.
type Rescued struct {
	Shop     *shop.Shop
	Revision int64    // it is the shop as it was then
	Lost     []string // what is missing, a line each; empty when nothing is
	Photos   map[string][]byte
}

// Rescue reads what can be read of a database file, without changing it. It looks
// for the state that loses least: the shop as it stands, else the newest revision
// that can be read, found from the documents backwards and from the log of
// revisions forwards, else the shop without the documents that cannot be read.
func Rescue(ctx context.Context, path string) (*Rescued, error) {
	if !exists(path) {
		return nil, fmt.Errorf("there is no file %s", path)
	}
	db, err := readOnly(path)
	if err != nil {
		return nil, err
	}
	defer db.Close()
	r := &rescue{ctx: ctx, db: db}
	r.read()
	best := r.best()
	if best == nil {
		return nil, errors.Join(fmt.Errorf("nothing can be read of %s", path), ctx.Err())
	}
	best.Photos = r.photos(best.Shop)
	r.events(best)
	return best, ctx.Err()
}

type rescue struct {
	ctx   context.Context
	db    *sql.DB
	head  int64
	now   arrangement      // the documents, as far as they can be read
	gaps  []string         // in them
	what  map[int64]string // of revisions
	log   map[int64][]change
	torn  []string        // gaps in the log
	moved []upgrade.Extra // out of documents of an older format
}

// change of a document by a revision.
type change struct {
	list, id      string
	before, after *stored
}

// rows runs a query that gives rows, and goes on where it can.
func (r *rescue) rows(query string, row func(*sql.Rows) error) error {
	rows, err := r.db.QueryContext(r.ctx, query)
	if err != nil {
		return err
	}
	defer rows.Close()
	for rows.Next() {
		if err := row(rows); err != nil {
			return err
		}
	}
	return rows.Err()
}

func (r *rescue) read() {
	r.now, r.what, r.log = arrangement{}, map[int64]string{}, map[int64][]change{}
	format := formatColumn(r.ctx, r.db)
	note := func(gaps *[]string, table string, err error) {
		if err != nil {
			*gaps = append(*gaps, fmt.Sprintf("part of the table %s: %v", table, err))
		}
	}
	for _, list := range shop.Lists {
		r.now[list] = map[string]stored{}
		if yet(r.ctx, r.db, list) {
			continue
		}
		read := func(order string) error {
			return r.rows(`SELECT id, position, doc, `+format+` FROM `+list+` ORDER BY rowid `+order, func(rows *sql.Rows) error {
				var id, doc string
				var position float64
				var version int
				err := rows.Scan(&id, &position, &doc, &version)
				if err == nil {
					var moved []upgrade.Extra
					doc, moved, err = today(list, version, doc)
					r.moved = append(r.moved, moved...)
				}
				if err != nil {
					note(&r.gaps, list, err)
					return nil // the other rows may be whole
				}
				r.now[list][id] = stored{position, doc}
				return nil
			})
		}
		if err := read("ASC"); err != nil {
			note(&r.gaps, list, err)
			_ = read("DESC") // what comes after the damage
		}
	}
	note(&r.torn, "revisions", r.rows(`SELECT id, what FROM revisions ORDER BY id`, func(rows *sql.Rows) error {
		var id int64
		var what string
		if err := rows.Scan(&id, &what); err != nil {
			return nil
		}
		r.head = max(r.head, id)
		r.what[id] = what
		return nil
	}))
	note(&r.torn, "parts_changed", r.rows(`SELECT revision, part, id, position_before, before, position_after, after, `+format+` FROM parts_changed ORDER BY revision`, func(rows *sql.Rows) error {
		var revision int64
		var list, id string
		var positions [2]sql.NullFloat64
		var texts [2]sql.NullString
		var version int
		if err := rows.Scan(&revision, &list, &id, &positions[0], &texts[0], &positions[1], &texts[1], &version); err != nil || r.now[list] == nil {
			note(&r.torn, "parts_changed", cmp.Or(err, error(&unknownList{list})))
			return nil
		}
		c := change{list: list, id: id}
		for k, into := range []**stored{&c.before, &c.after} {
			if doc, _, err := today(list, version, texts[k].String); err == nil && texts[k].Valid {
				*into = &stored{positions[k].Float64, doc}
			}
		}
		r.log[revision] = append(r.log[revision], c)
		r.head = max(r.head, revision)
		return nil
	}))
}

// best of the ways to put a shop together.
func (r *rescue) best() *Rescued {
	replayed := arrangement{}
	for _, list := range shop.Lists {
		replayed[list] = map[string]stored{}
	}
	for revision := int64(1); revision <= r.head; revision++ {
		for _, c := range r.log[revision] {
			replayed.set(c.list, c.id, c.after)
		}
	}
	var best *Rescued
	for _, x := range []struct {
		shop *Rescued
		gaps []string
	}{{r.back(r.now), r.gaps}, {r.back(replayed), r.torn}, {r.without(), r.gaps}} {
		if x.shop == nil {
			continue
		}
		x.shop.Lost = append(x.shop.Lost, x.gaps...)
		if best == nil || len(x.shop.Lost) < len(best.Lost) {
			best = x.shop
		}
	}
	return best
}

func (a arrangement) set(list, id string, to *stored) {
	if to == nil {
		delete(a[list], id)
	} else {
		a[list][id] = *to
	}
}

// farthest is how many revisions are taken back to find one that can be read.
const farthest = 500

// back takes revisions back until the shop can be read.
func (r *rescue) back(from arrangement) *Rescued {
	a := arrangement{}
	for list, byID := range from {
		a[list] = maps.Clone(byID)
	}
	out := &Rescued{Revision: r.head}
	for out.Revision > 0 && r.head-out.Revision < farthest && r.ctx.Err() == nil {
		docs, _ := a.documents()
		if sh, err := shop.ReadDocuments(docs, nil, nil); err == nil {
			out.Shop = sh
			return out
		}
		for _, c := range r.log[out.Revision] {
			a.set(c.list, c.id, c.before)
		}
		out.Lost = append(out.Lost, fmt.Sprintf("revision %d: %s", out.Revision, r.what[out.Revision]))
		out.Revision--
	}
	return nil
}

var faultAt = regexp.MustCompile(`^([a-z]+)(?:\[(\d+)\])?`)

// without leaves out one document after the other until the shop can be read.
func (r *rescue) without() *Rescued {
	docs, _ := r.now.documents()
	out := &Rescued{Revision: r.head}
	for range 2000 {
		sh, err := shop.ReadDocuments(docs, nil, nil)
		if err == nil {
			out.Shop = sh
			return out
		}
		var faults *shop.Faults
		if !errors.As(err, &faults) || r.ctx.Err() != nil {
			return nil
		}
		m := faultAt.FindStringSubmatch(faults.List[0].Path)
		switch {
		case m == nil:
			return nil
		case m[1] == "shop" && len(out.Lost) < 2000:
			docs["settings"] = []shop.Document{{ID: "shop", JSON: `{"name":"Rescued shop","units":"metric"}`}}
			out.Lost = append(out.Lost, "the settings of the shop: "+faults.List[0].Message)
		case m[2] != "":
			k, _ := strconv.Atoi(m[2])
			if k >= len(docs[m[1]]) {
				return nil
			}
			out.Lost = append(out.Lost, fmt.Sprintf("%s %s: %s", m[1], docs[m[1]][k].ID, faults.List[0].Message))
			docs[m[1]] = slices.Delete(slices.Clone(docs[m[1]]), k, k+1)
		default:
			return nil
		}
	}
	return nil
}

// events beside the shop, as far as they can be read.
func (r *rescue) events(into *Rescued) {
	log, err := eventsOf(r.moved)
	if err != nil {
		into.Lost = append(into.Lost, fmt.Sprintf("uses of things: %v", err))
	}
	if list, err := allEvents(r.ctx, r.db); err == nil {
		log = append(log, list...)
	} else if has, e := tables(r.ctx, r.db); e != nil || has["events"] {
		into.Lost = append(into.Lost, fmt.Sprintf("what happened: %v", err))
	}
	into.Shop.Events = log
	if err := into.Shop.Validate(); err != nil { // one that cannot be read would spoil the file
		into.Shop.Events = nil
		into.Lost = append(into.Lost, fmt.Sprintf("what happened: %v", err))
	}
}

// photos that the things of the shop show, as far as they can be read.
func (r *rescue) photos(sh *shop.Shop) map[string][]byte {
	out := map[string][]byte{}
	sh.Pictures(func(of shop.Pictured) {
		for _, name := range *of.List {
			var data []byte
			if err := r.db.QueryRowContext(r.ctx, `SELECT large FROM photos WHERE name = ?`, name).Scan(&data); err == nil {
				out[name] = data
			}
		}
	})
	return out
}
