package api

import (
	"bytes"
	"context"
	"errors"
	"fmt"
	"net/http"
	"slices"
	"strings"

	"github.com/danielgtaylor/huma/v2"
	"github.com/danielgtaylor/huma/v2/sse"

	"hobrak/internal/core/belongings"
	"hobrak/internal/core/shop"
	"hobrak/internal/core/table"
	"hobrak/internal/exchange"
	"hobrak/internal/store"
)

func (s *Server) tableRoutes() {
	huma.Register(s.api, described(huma.Operation{OperationID: "read-table", Method: http.MethodPost, Path: "/api/v1/tables/read", Summary: "Read a table (CSV, text from a spreadsheet, xlsx) and recognise its columns",
		MaxBodyBytes: exchange.MaxTable, SkipValidateBody: true, Middlewares: huma.Middlewares{s.notOver(exchange.MaxTable, "table")}}), s.readTable)
	huma.Register(s.api, described(huma.Operation{OperationID: "preview-table", Method: http.MethodPost, Path: "/api/v1/tables/preview", Summary: "What would become of every row?", MaxBodyBytes: rowsBody}), s.previewTable)
	sse.Register(s.api, described(huma.Operation{OperationID: "import-table", Method: http.MethodPost, Path: "/api/v1/tables/import/stream", Summary: "Import the good rows, or none when one is not good", MaxBodyBytes: rowsBody}),
		map[string]any{"progress": Importing{}, "done": Imported{}, "refused": NotImported{}}, s.importTable)
}

// Sheet is a table as it was read, with what its columns are taken for.
type Sheet struct {
	exchange.Table
	Guess   table.Guess   `json:"guess"`
	Columns []SheetColumn `json:"columns" nullable:"false" doc:"what a column can be taken for"`
}

// SheetColumn is what a column of a sheet can be taken for.
type SheetColumn struct {
	Field string   `json:"field"`
	Title string   `json:"title"`
	Doc   string   `json:"doc"`
	Units []string `json:"units" nullable:"false" doc:"units its numbers can be in"`
}

// Importing is how far an import is.
type Importing struct {
	Done  int `json:"done"`
	Total int `json:"total"`
}

// Imported is what an import did.
type Imported struct {
	Revision int64    `json:"revision"`
	New      int      `json:"new"`
	Changed  int      `json:"changed"`
	Same     int      `json:"same"`
	Faulty   int      `json:"faulty" doc:"rows left out"`
	Stations []string `json:"stations" nullable:"false" doc:"stations made"`
	Notes    []string `json:"notes" nullable:"false" doc:"what found no home"`
}

// NotImported says why nothing was imported.
type NotImported struct {
	Detail string `json:"detail"`
}

// TablePreview says what would become of a sheet.
type TablePreview struct {
	table.Reading
	Marks string `json:"marks" doc:"one for each row from the first thing on: + new, ~ changed, = as it is, ! error, - left out, blank when empty"`
}

func marksOf(r *table.Reading, first int) string {
	last := first
	for _, row := range r.Rows {
		last = max(last, row.Number)
	}
	marks := bytes.Repeat([]byte{' '}, last-first)
	for _, row := range r.Rows {
		marks[row.Number-1-first] = map[string]byte{"new": '+', "change": '~', "same": '=', "fault": '!', "left": '-'}[row.Does]
	}
	return string(marks)
}

// rowsBody is how large the rows of a table may be as JSON, in bytes.
const rowsBody = 8 << 20

// rowsSent are most rows of a preview: those with faults first.
const rowsSent = 400

// SheetRequest is a table with the mapping to read it by.
type SheetRequest struct {
	Rows     [][]string    `json:"rows" maxItems:"20000" nullable:"false"`
	Mapping  table.Mapping `json:"mapping"`
	Stations bool          `json:"stations,omitempty" doc:"make the stations that are named and not there"`
}

// read a sheet for a shop, which gets the stations that are to be made.
func (r *SheetRequest) read(sh *shop.Shop, progress func(done, total int) error) (*table.Reading, []string, error) {
	if !r.Stations {
		reading, err := table.Read(sh, r.Rows, r.Mapping, progress)
		return reading, []string{}, err
	}
	reading, made, err := table.ReadMaking(sh, r.Rows, r.Mapping, progress)
	return reading, notNil(made), err
}

func (s *Server) readTable(ctx context.Context, in *struct {
	Name    string `query:"name" maxLength:"200" doc:"of the file"`
	Sheet   string `query:"sheet" maxLength:"200" doc:"of a workbook; the first that holds something when left out"`
	RawBody []byte
}) (*body[Sheet], error) {
	free, err := s.alone(ctx)
	if err != nil {
		return nil, err
	}
	defer free()
	t, err := exchange.ReadTable(ctx, in.RawBody, in.Name, in.Sheet)
	if err != nil {
		return nil, huma.Error422UnprocessableEntity(err.Error(), &huma.ErrorDetail{Location: "body", Message: err.Error()})
	}
	sh, _ := s.store.Shop()
	out := Sheet{Table: *t, Guess: table.Recognise(sh, t.Rows, t.Semicolons)}
	for i := range out.Rows {
		if out.Rows[i] == nil {
			out.Rows[i] = []string{}
		}
	}
	for _, c := range table.Columns {
		sc := SheetColumn{c.Field, c.Title, c.Doc, []string{}}
		switch {
		case c.Holds == "length" || c.Field == "size":
			sc.Units = table.LengthUnits
		case c.Holds == "weight":
			sc.Units = table.WeightUnits
		}
		out.Columns = append(out.Columns, sc)
	}
	return &body[Sheet]{out}, nil
}

func (s *Server) previewTable(ctx context.Context, in *body[SheetRequest]) (*body[TablePreview], error) {
	free, err := s.alone(ctx)
	if err != nil {
		return nil, err
	}
	defer free()
	sh, _ := s.store.Shop()
	reading, _, err := in.Body.read(sh, func(int, int) error { return ctx.Err() })
	if err != nil {
		return nil, huma.Error422UnprocessableEntity(err.Error(), &huma.ErrorDetail{Location: "body.mapping", Message: err.Error()})
	}
	out := TablePreview{Reading: *reading, Marks: marksOf(reading, in.Body.Mapping.First)}
	slices.SortStableFunc(out.Rows, func(a, b table.Row) int { return len(b.Faults) - len(a.Faults) })
	out.Rows = out.Rows[:min(rowsSent, len(out.Rows))]
	return &body[TablePreview]{out}, nil
}

func (s *Server) importTable(ctx context.Context, in *struct {
	Match
	Body struct {
		SheetRequest
		Good bool `json:"good,omitempty" doc:"skip the rows with errors"`
	}
}, send sse.Sender) {
	free, err := s.alone(ctx)
	if err != nil {
		return
	}
	defer free()
	out, err := s.bringIn(ctx, in.rev, &in.Body.SheetRequest, in.Body.Good, func(done, total int) error {
		if err := send.Data(Importing{done, total}); err != nil {
			return err
		}
		return ctx.Err()
	})
	if err != nil {
		s.log.Info("a table was not brought in", "why", err)
		_ = send.Data(NotImported{detail(err)})
		return
	}
	_ = send.Data(*out)
}

// bringIn puts a sheet into the shop in one change.
func (s *Server) bringIn(ctx context.Context, base int64, r *SheetRequest, good bool, progress func(done, total int) error) (*Imported, error) {
	// Read before it is the turn of this write, so that no other waits for the reading.
	out := &Imported{Notes: []string{}, Stations: []string{}}
	sh, revision := s.store.Shop()
	if revision != base {
		return out, s.store.Fresh(ctx, base)
	}
	reading, made, err := r.read(sh, progress)
	if err != nil {
		return out, err
	}
	if reading.Faulty > 0 && !good {
		return out, fmt.Errorf("rows with errors: %d, so none was imported; correct them or skip them", reading.Faulty)
	}
	out.New, out.Changed, out.Same, out.Faulty, out.Stations = reading.New, reading.Changed, reading.Same, reading.Faulty, made
	notes, err := table.Apply(sh, reading)
	out.Notes = append(out.Notes, notes...)
	if err != nil {
		return out, err
	}
	rev, err := s.store.Change(ctx, base, who, "table imported", func(x *shop.Shop) error { *x = *sh; return nil })
	if errors.Is(err, store.ErrNothing) {
		out.Revision = s.store.Head()
		return out, nil // all of it was there already
	}
	out.Revision = rev.ID
	return out, err
}

// detail is the sentence of a problem.
func detail(err error) string {
	var p *huma.ErrorModel
	if e := problem(err); errors.As(e, &p) {
		return p.Detail
	}
	return err.Error()
}

// fileName makes a name for a file of the shop's name.
func fileName(name string) string {
	return belongings.ID(strings.ToLower(name), func(string) bool { return false })
}
