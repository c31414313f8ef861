package exchange_test

import (
	"bytes"
	"context"
	"fmt"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"github.com/xuri/excelize/v2"
	"golang.org/x/text/encoding/charmap"
	"golang.org/x/text/encoding/unicode"

	"hobrak/demo"
	"hobrak/internal/core/shop"
	"hobrak/internal/core/table"
	"hobrak/internal/exchange"
)

func TestCSVIsReadHoweverItWasSaved(t *testing.T) {
	want := [][]string{{"Thing", "Width"}, {"Große Säge", "1,5"}}
	text := "Thing;Width\nGroße Säge;1,5\n"
	utf16le, err := unicode.UTF16(unicode.LittleEndian, unicode.UseBOM).NewEncoder().Bytes([]byte(text))
	require.NoError(t, err)
	utf16be, err := unicode.UTF16(unicode.BigEndian, unicode.IgnoreBOM).NewEncoder().Bytes([]byte(text))
	require.NoError(t, err)
	latin, err := charmap.Windows1252.NewEncoder().Bytes([]byte(text))
	require.NoError(t, err)
	for name, data := range map[string][]byte{
		"UTF-8, semicolons":             []byte(text),
		"UTF-8 with a mark, semicolons": []byte("\ufeff" + text),
		"UTF-16, semicolons":            utf16le,
		"UTF-16 , semicolons":           utf16be,
		"Windows-1252, semicolons":      latin,
		"UTF-8, tabs":                   []byte(strings.ReplaceAll(text, ";", "\t")),
		"UTF-8, strokes":                []byte(strings.ReplaceAll(text, ";", "|")),
		"UTF-8, commas":                 []byte("Thing,Width\r\n\"Große Säge\",\"1,5\"\r\n"),
		"UTF-8, old ends of lines":      []byte("sep=,\rThing,Width\rGroße Säge,\"1,5\"\r"),
	} {
		got, err := exchange.ReadTable(context.Background(), data, name, "")
		require.NoError(t, err, name)
		assert.Equal(t, want, got.Rows, name)
		assert.Contains(t, got.Read, strings.TrimSpace(strings.Split(name, ",")[0]), name)
	}
}

func TestEmptyRowsKeepTheirNumbersAndInchesTheirMark(t *testing.T) {
	got, err := exchange.ReadTable(context.Background(), []byte("\nThing,Size\n\n\nPipe 3\" long,2\n\"a\nb\",3\n,\n\nLast,4\n\n"), "x.csv", "")
	require.NoError(t, err)
	assert.Equal(t, [][]string{nil, {"Thing", "Size"}, nil, nil, {`Pipe 3" long`, "2"}, {"a\nb", "3"}, {"", ""}, nil, {"Last", "4"}}, got.Rows)
}

func TestWhatIsNoTableIsRefusedInWords(t *testing.T) {
	book := excelize.NewFile()
	require.NoError(t, book.SetCellValue("Sheet1", "A1", "x"))
	var b bytes.Buffer
	require.NoError(t, book.Write(&b))
	for _, c := range []struct {
		data  []byte
		sheet string
		says  string
	}{
		{nil, "", "nothing in it"},
		{[]byte(" \n\n,\n"), "", "nothing in it"},
		{[]byte("\x89PNG\r\n\x1a\n\x00\x00\x00"), "", "neither text nor a workbook"},
		{[]byte("\xd0\xcf\x11\xe0\xa1\xb1\x1a\xe1"), "", "save it as xlsx"},
		{[]byte("PK\x03\x04 broken"), "", "no workbook that can be read"},
		{b.Bytes(), "Tools", `there is no sheet "Tools"; there are Sheet1`},
		{[]byte("a,\"b\n" + strings.Repeat("c,d\n", 300)), "", "not closed"},
		{[]byte(strings.Repeat("a,", 500)), "", "row 1 has 501 columns"},
		{bytes.Repeat([]byte("a\n"), 20_001), "", "more than 20000 rows"},
		{make([]byte, exchange.MaxTable+1), "", "too large"},
	} {
		_, err := exchange.ReadTable(context.Background(), c.data, "list", c.sheet)
		if assert.Error(t, err, c.says) {
			assert.Contains(t, err.Error(), c.says)
			assert.Contains(t, err.Error(), "list")
		}
	}
}

func TestTwoHundredColumnsAreNoTrouble(t *testing.T) {
	head, row := []string{"Thing"}, []string{"Hammer"}
	for i := range 199 {
		head, row = append(head, fmt.Sprintf("Extra %d", i)), append(row, "x")
	}
	got, err := exchange.ReadTable(context.Background(), []byte(strings.Join(head, ",")+"\n"+strings.Join(row, ",")), "", "")
	require.NoError(t, err)
	assert.Len(t, got.Rows[1], 200)
	s, err := shop.Read(demo.Pantry)
	require.NoError(t, err)
	r, err := table.Read(s, got.Rows, table.Recognise(s, got.Rows, false).Mapping, nil)
	require.NoError(t, err)
	assert.Equal(t, 1, r.New)
}

// There and back: the demo as CSV and as a workbook gives the same shop.
func TestTheDemoComesBackFromItsFiles(t *testing.T) {
	for _, form := range []string{"csv", "xlsx"} {
		for _, data := range [][]byte{demo.Slipway, demo.Pantry} {
			s, err := shop.Read(data)
			require.NoError(t, err)
			var b bytes.Buffer
			if form == "csv" {
				require.NoError(t, exchange.WriteCSV(&b, table.Rows(s)))
			} else {
				require.NoError(t, exchange.WriteWorkbook(&b, "Belongings", table.Rows(s)))
			}
			got, err := exchange.ReadTable(context.Background(), b.Bytes(), form, "")
			require.NoError(t, err)
			next, err := shop.Read(data)
			require.NoError(t, err)
			next.Items, next.Homes = nil, nil
			r, err := table.Read(next, got.Rows, table.Recognise(next, got.Rows, got.Semicolons).Mapping, nil)
			require.NoError(t, err)
			_, err = table.Apply(next, r)
			require.NoError(t, err)
			assert.Equal(t, s.Items, next.Items, form)
			assert.ElementsMatch(t, s.Homes, next.Homes, form)
		}
	}
}

func TestAWorkbookWithFormulasAndMergedHeadings(t *testing.T) {
	f := excelize.NewFile()
	set := func(cell string, v any) { require.NoError(t, f.SetCellValue("Sheet1", cell, v)) }
	set("A1", "Item")
	set("B1", "Size (in)")
	require.NoError(t, f.MergeCell("Sheet1", "B1", "D1"))
	set("B2", "W")
	set("C2", "H")
	set("D2", "D")
	set("A3", "Hammer")
	set("B3", 5.25)
	set("C3", 13)
	require.NoError(t, f.SetCellFormula("Sheet1", "D3", "=1+0.5"))
	set("A4", "Mallet")
	set("B4", 6)
	set("C4", 12.5)
	set("D4", 3.5)
	var b bytes.Buffer
	require.NoError(t, f.Write(&b))
	got, err := exchange.ReadTable(context.Background(), b.Bytes(), "", "")
	require.NoError(t, err)
	s, err := shop.Read(demo.Slipway)
	require.NoError(t, err)
	s.Items, s.Homes = nil, nil
	g := table.Recognise(s, got.Rows, false)
	r, err := table.Read(s, got.Rows, g.Mapping, nil)
	require.NoError(t, err)
	require.Equal(t, 2, r.New)
	_, err = table.Apply(s, r)
	require.NoError(t, err)
	assert.Equal(t, 133.35, s.Items[0].W.MM())
	assert.Contains(t, s.Items[0].Assumed, "d", "a formula without a value kept says nothing")
	assert.Equal(t, 88.9, s.Items[1].D.MM())
}

func TestAShopTravelsWithItsPhotos(t *testing.T) {
	s, err := shop.Read(demo.Slipway)
	require.NoError(t, err)
	s.Items[0].Photos = []string{"plane.jpg", "lost.jpg"}
	s.Items[1].Photos = []string{"plane.jpg"}
	var b bytes.Buffer
	require.NoError(t, exchange.WriteZip(&b, s, func(name string) ([]byte, error) {
		if name == "lost.jpg" {
			return nil, nil
		}
		return []byte("picture of " + name), nil
	}))
	kept := map[string]string{}
	got, err := exchange.ReadZip(bytes.NewReader(b.Bytes()), int64(b.Len()), func(p exchange.Photo) (string, error) { kept[p.Name] = string(p.Data); return p.Name, nil })
	require.NoError(t, err)
	assert.Equal(t, s, got)
	assert.Equal(t, map[string]string{"plane.jpg": "picture of plane.jpg"}, kept)
	_, err = exchange.ReadZip(bytes.NewReader(b.Bytes()[:200]), 200, nil)
	assert.ErrorContains(t, err, "no zip that can be read")
	_, err = exchange.ReadZip(bytes.NewReader(b.Bytes()), int64(b.Len()), func(exchange.Photo) (string, error) { return "", fmt.Errorf("no room") })
	assert.ErrorContains(t, err, "photos/plane.jpg: no room")
}

func BenchmarkReadingAWorkbookOfFiveThousandRows(b *testing.B) {
	rows := [][]string{{"Thing", "Count", "Width mm", "Height mm", "Depth mm", "Weight kg"}}
	for i := range 5000 {
		rows = append(rows, []string{fmt.Sprintf("Thing %d", i), "1", "60", "360", "140", "2.3"})
	}
	var book bytes.Buffer
	require.NoError(b, exchange.WriteWorkbook(&book, "List", rows))
	for b.Loop() {
		if _, err := exchange.ReadTable(context.Background(), book.Bytes(), "", ""); err != nil {
			b.Fatal(err)
		}
	}
}

func FuzzReadTable(f *testing.F) {
	f.Add([]byte("a;b\n\"x;\n\";3\"\n"))
	f.Add([]byte("\xff\xfea\x00,\x00b\x00"))
	f.Add([]byte("sep=|\na|b"))
	f.Add([]byte("PK\x03\x04"))
	f.Fuzz(func(t *testing.T, data []byte) {
		got, err := exchange.ReadTable(context.Background(), data, "f", "")
		if err == nil && len(got.Rows) == 0 {
			t.Fatal("a table without rows")
		}
	})
}

func FuzzReadZip(f *testing.F) {
	s, err := shop.Read(demo.Pantry)
	require.NoError(f, err)
	var b bytes.Buffer
	require.NoError(f, exchange.WriteZip(&b, s, nil))
	f.Add(b.Bytes())
	f.Fuzz(func(t *testing.T, data []byte) {
		_, _ = exchange.ReadZip(bytes.NewReader(data), int64(len(data)), func(p exchange.Photo) (string, error) { return p.Name, nil })
	})
}
