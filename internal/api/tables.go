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
	"hobrak/internal/photo"
	"hobrak/internal/store"
)

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
	Marks string `json:"marks" doc:"one for each row from the first thing on: + new, ~ changed, = as it is, ! not good, blank when empty"`
}

func marksOf(r *table.Reading, first int) string {
	last := first
	for _, row := range r.Rows {
		last = max(last, row.Number)
	}
	marks := bytes.Repeat([]byte{' '}, last-first)
	for _, row := range r.Rows {
		marks[row.Number-1-first] = map[string]byte{"new": '+', "change": '~', "same": '=', "fault": '!'}[row.Does]
	}
	return string(marks)
}

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

func (s *Server) tables() {
	huma.Register(s.api, huma.Operation{OperationID: "read-table", Method: http.MethodPost, Path: "/api/tables/read", Summary: "Read a table (CSV, text from a spreadsheet, xlsx) and recognise its columns",
		MaxBodyBytes: exchange.MaxTable, SkipValidateBody: true, Middlewares: huma.Middlewares{s.notOver(exchange.MaxTable, "table")}},
		func(_ context.Context, in *struct {
			Name    string `query:"name" maxLength:"200" doc:"of the file"`
			Sheet   string `query:"sheet" maxLength:"200" doc:"of a workbook; the first that holds something when left out"`
			RawBody []byte
		}) (*body[Sheet], error) {
			t, err := exchange.ReadTable(in.RawBody, in.Name, in.Sheet)
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
		})
	huma.Register(s.api, huma.Operation{OperationID: "preview-table", Method: http.MethodPost, Path: "/api/tables/preview", Summary: "What would become of every row?", MaxBodyBytes: shopBody},
		func(_ context.Context, in *body[SheetRequest]) (*body[TablePreview], error) {
			sh, _ := s.store.Shop()
			if in.Body.Stations {
				sh = sh.Clone()
			}
			reading, _, err := in.Body.read(sh, nil)
			if err != nil {
				return nil, huma.Error422UnprocessableEntity(err.Error(), &huma.ErrorDetail{Location: "body.mapping", Message: err.Error()})
			}
			out := TablePreview{Reading: *reading, Marks: marksOf(reading, in.Body.Mapping.First)}
			slices.SortStableFunc(out.Rows, func(a, b table.Row) int { return len(b.Faults) - len(a.Faults) })
			out.Rows = out.Rows[:min(rowsSent, len(out.Rows))]
			return &body[TablePreview]{out}, nil
		})
	sse.Register(s.api, huma.Operation{OperationID: "import-table", Method: http.MethodPost, Path: "/api/tables/import/stream", Summary: "Bring the good rows in, or none when one is not good", MaxBodyBytes: shopBody},
		map[string]any{"progress": Importing{}, "done": Imported{}, "refused": NotImported{}},
		func(ctx context.Context, in *struct {
			Body struct {
				Base
				SheetRequest
				Good bool `json:"good,omitempty" doc:"leave out the rows that are not good"`
			}
		}, send sse.Sender) {
			out, err := s.bringIn(ctx, in.Body.Base.Base, &in.Body.SheetRequest, in.Body.Good, func(done, total int) error {
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
		})
	huma.Register(s.api, huma.Operation{OperationID: "export", Method: http.MethodGet, Path: "/api/export/{form}", Summary: "The belongings as a table, or the shop with its photos"},
		func(ctx context.Context, in *struct {
			Form string `path:"form" enum:"csv,xlsx,json,zip"`
		}) (*paper, error) {
			sh, _ := s.store.Shop()
			var b bytes.Buffer
			var err error
			kind := ""
			switch in.Form {
			case "csv":
				kind, err = "text/csv; charset=utf-8", exchange.WriteCSV(&b, table.Rows(sh))
			case "xlsx":
				kind, err = "application/vnd.openxmlformats-officedocument.spreadsheetml.sheet", exchange.WriteWorkbook(&b, "Belongings", table.Rows(sh))
			case "json":
				kind = "application/json"
				b.Write(shop.Write(sh))
			default:
				kind = "application/zip"
				err = exchange.WriteZip(&b, sh, func(name string) ([]byte, error) { return s.store.Photo(ctx, name, false) })
			}
			if err != nil {
				return nil, err
			}
			return &paper{kind, fmt.Sprintf(`attachment; filename="%s.%s"`, fileName(sh.Settings.Name), in.Form), b.Bytes()}, nil
		})
	huma.Register(s.api, huma.Operation{OperationID: "replace-shop-zip", Method: http.MethodPut, Path: "/api/shop/zip", Summary: "Replace the shop by a shop file with its photos", MaxBodyBytes: 4 * shopBody, SkipValidateBody: true},
		func(ctx context.Context, in *struct {
			Base    int64 `query:"base" required:"true" doc:"revision the change was made on"`
			RawBody []byte
		}) (*body[store.Revision], error) {
			next, err := exchange.ReadZip(bytes.NewReader(in.RawBody), int64(len(in.RawBody)), s.keep(ctx))
			if err != nil {
				var faults *shop.Faults
				if errors.As(err, &faults) {
					return nil, problem(faults)
				}
				return nil, huma.Error422UnprocessableEntity(err.Error(), &huma.ErrorDetail{Location: "body", Message: err.Error()})
			}
			return revised(s.store.Change(ctx, in.Base, who, "import "+next.Settings.Name, func(sh *shop.Shop) error { *sh = *next; return nil }))
		})
}

// keep stores the photos of a zip one after the other.
func (s *Server) keep(ctx context.Context) func(exchange.Photo) error {
	return func(p exchange.Photo) error {
		s.opening.Lock()
		kept, err := photo.Again(p.Name, p.Data)
		s.opening.Unlock()
		if err != nil {
			return err
		}
		return s.store.KeepPhoto(ctx, kept)
	}
}

// bringIn puts a sheet into the shop in one change.
func (s *Server) bringIn(ctx context.Context, base int64, r *SheetRequest, good bool, progress func(done, total int) error) (*Imported, error) {
	out := &Imported{Notes: []string{}, Stations: []string{}}
	rev, err := s.store.Change(ctx, base, who, "a table brought in", func(sh *shop.Shop) error {
		reading, made, err := r.read(sh, progress)
		if err != nil {
			return err
		}
		if reading.Faulty > 0 && !good {
			return fmt.Errorf("%d rows are not good, so none was brought in; mend them or leave them out", reading.Faulty)
		}
		out.New, out.Changed, out.Same, out.Faulty, out.Stations = reading.New, reading.Changed, reading.Same, reading.Faulty, made
		notes, err := table.Apply(sh, reading)
		out.Notes = append(out.Notes, notes...)
		return err
	})
	if errors.Is(err, store.ErrNothing) {
		_, out.Revision = s.store.Shop()
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
