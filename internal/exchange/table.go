package exchange

import (
	"bytes"
	"context"
	"encoding/csv"
	"errors"
	"fmt"
	"io"
	"path"
	"slices"
	"strconv"
	"strings"
	"unicode/utf8"

	"github.com/xuri/excelize/v2"
	"golang.org/x/text/encoding/charmap"
	"golang.org/x/text/encoding/unicode"

	"hobrak/internal/core/table"
)

// MaxTable is how large a table's file may be, in bytes, and maxCells how many cells it
// may have.
const (
	MaxTable = 12 << 20
	maxCells = 600_000
)

// Table as it was read from a file: every row of it, the empty ones too, so that
// their numbers are those of the spreadsheet.
type Table struct {
	Rows       [][]string `json:"rows" nullable:"false"`
	Sheets     []string   `json:"sheets" nullable:"false" doc:"names of the sheets of a workbook"`
	Sheet      string     `json:"sheet" doc:"the one that was read"`
	Read       string     `json:"read" doc:"how the file was taken, in words"`
	Semicolons bool       `json:"semicolons" doc:"semicolons part the cells"`
}

// ReadTable reads CSV in whatever form spreadsheets save it, text copied from a
// spreadsheet, or a workbook (xlsx). Of a workbook it reads the sheet named, or
// the first that holds something. Name is that of the file, for messages.
func ReadTable(ctx context.Context, data []byte, name, sheet string) (*Table, error) {
	var t *Table
	var err error
	switch {
	case len(data) > MaxTable:
		return nil, fmt.Errorf("%s: %d MB is too large for a table; at most %d MB", name, len(data)>>20, MaxTable>>20)
	case bytes.HasPrefix(data, []byte("PK\x03\x04")):
		t, err = readWorkbook(ctx, data, sheet)
	case bytes.HasPrefix(data, []byte("\xd0\xcf\x11\xe0")):
		err = errors.New("this is a workbook in an old form (xls); save it as xlsx or CSV")
	default:
		t, err = readCSV(data)
	}
	if err != nil {
		return nil, fmt.Errorf("%s: %w", cmpName(name), err)
	}
	for len(t.Rows) > 0 && blank(t.Rows[len(t.Rows)-1]) {
		t.Rows = t.Rows[:len(t.Rows)-1]
	}
	switch {
	case len(t.Rows) == 0:
		return nil, fmt.Errorf("%s: there is nothing in it", cmpName(name))
	case len(t.Rows) > table.MaxRows:
		return nil, fmt.Errorf("%s: it has %d rows; at most %d can be read at once", cmpName(name), len(t.Rows), table.MaxRows)
	}
	for i, r := range t.Rows {
		if len(r) > table.MaxColumns {
			return nil, fmt.Errorf("%s: row %d has %d columns; at most %d can be read", cmpName(name), i+1, len(r), table.MaxColumns)
		}
	}
	return t, nil
}

func cmpName(name string) string {
	if name == "" {
		return "the table"
	}
	return name
}

func blank(row []string) bool {
	return !slices.ContainsFunc(row, func(c string) bool { return strings.TrimSpace(c) != "" })
}

// decoded makes UTF-8 of a text in one of the encodings spreadsheets write.
func decoded(data []byte) (text []byte, encoding string, err error) {
	decode := func(name string, e unicode.Endianness) ([]byte, string, error) {
		out, err := unicode.UTF16(e, unicode.UseBOM).NewDecoder().Bytes(data)
		if err != nil || bytes.ContainsRune(out, utf8.RuneError) {
			return nil, "", fmt.Errorf("it begins like %s, and is not", name)
		}
		return out, name, nil
	}
	zeros := func(from int) int {
		n := 0
		for i := from; i < min(len(data), 2000); i += 2 {
			if data[i] == 0 {
				n++
			}
		}
		return n
	}
	half := min(len(data), 2000) / 2
	switch {
	case bytes.HasPrefix(data, []byte("\xef\xbb\xbf")):
		data, encoding = data[3:], "UTF-8 with a mark"
	case bytes.HasPrefix(data, []byte("\xff\xfe")), half > 4 && zeros(1) > half*2/3:
		return decode("UTF-16", unicode.LittleEndian)
	case bytes.HasPrefix(data, []byte("\xfe\xff")), half > 4 && zeros(0) > half*2/3:
		return decode("UTF-16", unicode.BigEndian)
	default:
		encoding = "UTF-8"
	}
	if bytes.IndexByte(data, 0) >= 0 {
		return nil, "", errors.New("this is neither text nor a workbook; save the table as CSV or xlsx")
	}
	if utf8.Valid(data) {
		return data, encoding, nil
	}
	out, err := charmap.Windows1252.NewDecoder().Bytes(data)
	if err != nil {
		return nil, "", fmt.Errorf("its encoding is not known; save the table as UTF-8: %w", err)
	}
	return out, "Windows-1252", nil
}

// partings are the marks between cells, the likeliest first.
var partings = []rune{'\t', ';', ',', '|'}

// parting finds the mark between cells: the one found in most of the first
// lines and most often in them. A line "sep=;" says it.
func parting(text []byte) (mark rune, rest []byte) {
	if first, after, ok := bytes.Cut(text, []byte("\n")); ok {
		if s := strings.ToLower(strings.TrimSpace(string(first))); len(s) == 5 && strings.HasPrefix(s, "sep=") {
			return rune(s[4]), after
		}
	}
	best, mark := 0, ','
	for _, m := range partings {
		lines, marks, quoted, here := 0, 0, false, 0
		seen := 0
		for _, c := range string(text[:min(len(text), 64<<10)]) {
			switch {
			case c == '"':
				quoted = !quoted
			case c == m && !quoted:
				here++
			case c == '\n' && (!quoted || m == '\t'):
				if here > 0 {
					lines++
				}
				marks, here = marks+min(here, 50), 0
				seen++
			}
		}
		if here > 0 {
			lines++
			marks += min(here, 50)
		}
		if score := lines*100 + marks; lines > 0 && lines*2 > seen && score > best {
			best, mark = score, m
		}
	}
	return mark, text
}

var markNames = map[rune]string{'\t': "tabs", ';': "semicolons", ',': "commas", '|': "strokes"}

// longestCell in lines: more means that a quote was never closed.
const longestCell = 200

func readCSV(data []byte) (*Table, error) {
	text, encoding, err := decoded(data)
	if err != nil {
		return nil, err
	}
	text = bytes.ReplaceAll(bytes.ReplaceAll(text, []byte("\r\n"), []byte("\n")), []byte("\r"), []byte("\n"))
	mark, text := parting(text)
	if err := tooWide(text, mark); err != nil {
		return nil, err
	}
	rows, err := records(text, mark, false)
	if errors.Is(err, csv.ErrBareQuote) || errors.Is(err, csv.ErrQuote) {
		rows, err = records(text, mark, true) // a quote may stand for inches
	}
	if err != nil {
		var p *csv.ParseError
		if errors.As(err, &p) {
			return nil, fmt.Errorf("line %d, character %d: %s", p.StartLine, p.Column, strings.TrimPrefix(p.Err.Error(), "csv: "))
		}
		return nil, err
	}
	name := markNames[mark]
	if name == "" {
		name = strconv.QuoteRune(mark)
	}
	return &Table{Rows: rows, Sheets: []string{}, Read: fmt.Sprintf("%s, %s between the cells", encoding, name), Semicolons: mark == ';'}, nil
}

// tooWide refuses lines with far more cells than can be read, before they are made into
// cells. Marks inside quotes count as well; no note has so many.
func tooWide(text []byte, mark rune) error {
	sep := []byte(string(mark))
	for n, line := 1, []byte(nil); len(text) > 0; n++ {
		line, text, _ = bytes.Cut(text, []byte("\n"))
		if marks := bytes.Count(line, sep); marks > 20*table.MaxColumns {
			return fmt.Errorf("line %d has %d cells; at most %d can be read", n, marks+1, table.MaxColumns)
		}
	}
	return nil
}

func records(text []byte, mark rune, lazy bool) ([][]string, error) {
	r := csv.NewReader(bytes.NewReader(text))
	r.Comma, r.FieldsPerRecord, r.LazyQuotes = mark, -1, lazy
	var rows [][]string
	cells := 0
	for at := int64(0); ; at = r.InputOffset() {
		rec, err := r.Read()
		if err == io.EOF {
			return rows, nil
		}
		if err != nil {
			return nil, err
		}
		// The reader skips empty lines; they count.
		for _, c := range text[at:r.InputOffset()] {
			if c != '\n' {
				break
			}
			rows = append(rows, nil)
		}
		for _, c := range rec {
			if strings.Count(c, "\n") > longestCell {
				return nil, fmt.Errorf("row %d: a quote is opened and not closed: %q …", len(rows)+1, c[:min(len(c), 30)])
			}
		}
		rows = append(rows, rec)
		if cells += len(rec); cells > maxCells {
			return nil, fmt.Errorf("it has more than %d cells", maxCells)
		}
		if len(rows) > table.MaxRows {
			return nil, fmt.Errorf("it has more than %d rows", table.MaxRows)
		}
	}
}

// limits of what a workbook may unpack to, in bytes.
const (
	maxUnpacked = 96 << 20
	maxXML      = 48 << 20
	inMemory    = 4 << 20 // a part larger than that is read from the disk
)

func readWorkbook(ctx context.Context, data []byte, sheet string) (t *Table, err error) {
	defer func() {
		// The library is not always ready for files made to harm.
		if recover() != nil {
			t, err = nil, errors.New("this workbook is broken")
		}
	}()
	if err := measured(ctx, data); err != nil {
		return nil, err
	}
	f, err := excelize.OpenReader(bytes.NewReader(data), excelize.Options{RawCellValue: true, UnzipSizeLimit: maxUnpacked, UnzipXMLSizeLimit: inMemory})
	if err != nil {
		return nil, fmt.Errorf("this is no workbook that can be read: %w", err)
	}
	defer f.Close()
	t = &Table{Sheets: f.GetSheetList()}
	if len(t.Sheets) == 0 {
		return nil, errors.New("there is no sheet in this workbook")
	}
	if sheet != "" && !slices.Contains(t.Sheets, sheet) {
		return nil, fmt.Errorf("there is no sheet %q; there are %s", sheet, strings.Join(t.Sheets, ", "))
	}
	for _, name := range t.Sheets {
		if sheet != "" && name != sheet {
			continue
		}
		rows, err := sheetRows(ctx, f, name)
		if err != nil {
			return nil, fmt.Errorf("sheet %s: %w", name, err)
		}
		t.Sheet, t.Rows = name, rows
		if sheet != "" || slices.ContainsFunc(rows, func(r []string) bool { return !blank(r) }) {
			break
		}
	}
	t.Read = "sheet " + t.Sheet
	return t, nil
}

func sheetRows(ctx context.Context, f *excelize.File, name string) ([][]string, error) {
	it, err := f.Rows(name)
	if err != nil {
		return nil, err
	}
	defer it.Close()
	var rows [][]string
	full := 0
	for it.Next() {
		if len(rows)%256 == 0 && ctx.Err() != nil {
			return nil, ctx.Err()
		}
		row, err := it.Columns()
		if err != nil {
			return nil, err
		}
		rows = append(rows, row)
		if !blank(row) {
			full = len(rows)
		}
		// Formatted but empty rows at the end are many in some workbooks.
		if full > table.MaxRows || len(rows) > 20*table.MaxRows {
			return nil, fmt.Errorf("it has more than %d rows", table.MaxRows)
		}
	}
	return rows[:full], it.Error()
}

// WriteCSV writes rows as CSV that spreadsheets open as it is: UTF-8 with a
// mark, commas between the cells.
func WriteCSV(w io.Writer, rows [][]string) error {
	if _, err := io.WriteString(w, "\ufeff"); err != nil {
		return err
	}
	c := csv.NewWriter(w)
	c.UseCRLF = true
	if err := c.WriteAll(rows); err != nil {
		return fmt.Errorf("writing the table: %w", err)
	}
	return nil
}

// WriteWorkbook writes rows as a workbook with one sheet; the first row are
// headings. Cells that are numbers in columns of numbers are written as such.
func WriteWorkbook(w io.Writer, sheet string, rows [][]string) error {
	f := excelize.NewFile()
	defer f.Close()
	if err := f.SetSheetName("Sheet1", sheet); err != nil {
		return fmt.Errorf("naming the sheet %q: %w", sheet, err)
	}
	s, err := f.NewStreamWriter(sheet)
	if err != nil {
		return err
	}
	bold, err := f.NewStyle(&excelize.Style{Font: &excelize.Font{Bold: true}})
	if err != nil {
		return err
	}
	if err := s.SetPanes(&excelize.Panes{Freeze: true, XSplit: 0, YSplit: 1, TopLeftCell: "A2", ActivePane: "bottomLeft"}); err != nil {
		return err
	}
	for c := range rows[0] {
		widest := 8
		for _, r := range rows[:min(len(rows), 300)] {
			widest = max(widest, min(40, utf8.RuneCountInString(r[c])+1))
		}
		if err := s.SetColWidth(c+1, c+1, float64(widest)); err != nil {
			return err
		}
	}
	numbers := numberColumns(rows)
	for i, row := range rows {
		cells := make([]any, len(row))
		for c, text := range row {
			switch {
			case i == 0:
				cells[c] = excelize.Cell{StyleID: bold, Value: text}
			case numbers[c] && text != "":
				v, _ := strconv.ParseFloat(text, 64)
				cells[c] = v
			case text != "":
				cells[c] = text
			}
		}
		if err := s.SetRow("A"+strconv.Itoa(i+1), cells); err != nil {
			return fmt.Errorf("row %d: %w", i+1, err)
		}
	}
	if err := s.Flush(); err != nil {
		return err
	}
	return f.Write(w)
}

// numberColumns are those whose every cell is a number that comes back as it was.
func numberColumns(rows [][]string) []bool {
	out := make([]bool, len(rows[0]))
	for c := range out {
		some := false
		out[c] = true
		for _, r := range rows[1:] {
			if r[c] == "" {
				continue
			}
			v, err := strconv.ParseFloat(r[c], 64)
			if err != nil || strconv.FormatFloat(v, 'f', -1, 64) != r[c] {
				out[c] = false
				break
			}
			some = true
		}
		out[c] = out[c] && some
	}
	return out
}

// IsTable tells by its name whether a file is a table.
func IsTable(name string) bool {
	switch strings.ToLower(path.Ext(name)) {
	case ".csv", ".tsv", ".txt", ".xlsx":
		return true
	}
	return false
}
