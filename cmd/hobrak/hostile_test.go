package main

import (
	"archive/zip"
	"bytes"
	"fmt"
	"image"
	"image/color"
	"image/jpeg"
	"strings"
	"testing"

	"github.com/stretchr/testify/require"
)

// attack is a request with a file made to harm.
type attack struct {
	name, method, path, kind, says string
	data                           []byte
}

func hostile(t *testing.T) []attack {
	const table = "/api/v1/tables/read?name=list"
	return []attack{
		{"a cell at the far end of every row", "POST", table, "application/octet-stream", "columns can be read", book(t, func(b *strings.Builder) {
			for i := 1; i <= 20000; i++ {
				fmt.Fprintf(b, `<row r="%d"><c r="XFD%d"><v>1</v></c></row>`, i, i)
			}
		}, "")},
		{"a million shared texts", "POST", table, "application/octet-stream", "more than", book(t, func(b *strings.Builder) {
			b.WriteString(`<row r="1"><c r="A1" t="s"><v>0</v></c></row>`)
		}, strings.Repeat("<si><t>a</t></si>", 1_000_000))},
		{"a sheet that unpacks to more than there may be", "POST", table, "application/octet-stream", "unpacks to more than", book(t, func(b *strings.Builder) {
			b.WriteString("<row r=\"1\"><c r=\"A1\" t=\"inlineStr\"><is><t>" + strings.Repeat("x", 60<<20) + "</t></is></c></row>")
		}, "")},
		{"twelve megabytes of commas", "POST", table, "text/csv", "cells", bytes.Repeat([]byte(","), 12<<20-1)},
		{"lines of commas", "POST", table, "text/csv", "cells", bytes.Repeat([]byte(strings.Repeat(",", 7000)+"\n"), 1600)},
		{"more commas than are taken", "POST", table, "text/csv", "at most 12 MB", bytes.Repeat([]byte(","), 21<<20)},
		{"a shop file of nothing but numbers", "PUT", "/api/v1/shop", "application/json", "values", []byte("[" + strings.Repeat("0,", 11<<20) + "0]")},
		{"a shop file too large", "PUT", "/api/v1/shop", "application/json", "at most 24 MB", bytes.Repeat([]byte(" "), 63<<20)},
		{"nested lists", "PUT", "/api/v1/shop", "application/json", "nested deeper", bytes.Repeat([]byte("["), 20<<20)},
		{"a zip that unpacks to a gigabyte", "PUT", "/api/v1/shop/zip", "application/zip", "larger than", zipped(t, map[string]int{"shop.json": 1 << 30})},
		{"a picture of very many layers", "POST", "/api/v1/items/block-plane/photos", "image/jpeg", "layers", layered(t, 4000)},
		{"rows of a table as JSON", "POST", "/api/v1/tables/preview", "application/json", "", []byte(`{"mapping":{},"rows":[[` + strings.Repeat(`"",`, 2_700_000) + `""]]}`)},
	}
}

// book is a workbook of one sheet, written by hand.
func book(t *testing.T, rows func(*strings.Builder), texts string) []byte {
	var sheet strings.Builder
	sheet.WriteString(`<?xml version="1.0"?><worksheet xmlns="http://schemas.openxmlformats.org/spreadsheetml/2006/main"><sheetData>`)
	rows(&sheet)
	sheet.WriteString(`</sheetData></worksheet>`)
	files := [][2]string{
		{"[Content_Types].xml", `<?xml version="1.0"?><Types xmlns="http://schemas.openxmlformats.org/package/2006/content-types"><Default Extension="rels" ContentType="application/vnd.openxmlformats-package.relationships+xml"/><Override PartName="/xl/workbook.xml" ContentType="application/vnd.openxmlformats-officedocument.spreadsheetml.sheet.main+xml"/><Override PartName="/xl/worksheets/sheet1.xml" ContentType="application/vnd.openxmlformats-officedocument.spreadsheetml.worksheet+xml"/><Override PartName="/xl/sharedStrings.xml" ContentType="application/vnd.openxmlformats-officedocument.spreadsheetml.sharedStrings+xml"/></Types>`},
		{"_rels/.rels", `<?xml version="1.0"?><Relationships xmlns="http://schemas.openxmlformats.org/package/2006/relationships"><Relationship Id="rId1" Type="http://schemas.openxmlformats.org/officeDocument/2006/relationships/officeDocument" Target="xl/workbook.xml"/></Relationships>`},
		{"xl/workbook.xml", `<?xml version="1.0"?><workbook xmlns="http://schemas.openxmlformats.org/spreadsheetml/2006/main" xmlns:r="http://schemas.openxmlformats.org/officeDocument/2006/relationships"><sheets><sheet name="Sheet1" sheetId="1" r:id="rId1"/></sheets></workbook>`},
		{"xl/_rels/workbook.xml.rels", `<?xml version="1.0"?><Relationships xmlns="http://schemas.openxmlformats.org/package/2006/relationships"><Relationship Id="rId1" Type="http://schemas.openxmlformats.org/officeDocument/2006/relationships/worksheet" Target="worksheets/sheet1.xml"/><Relationship Id="rId2" Type="http://schemas.openxmlformats.org/officeDocument/2006/relationships/sharedStrings" Target="sharedStrings.xml"/></Relationships>`},
		{"xl/worksheets/sheet1.xml", sheet.String()},
		{"xl/sharedStrings.xml", `<?xml version="1.0"?><sst xmlns="http://schemas.openxmlformats.org/spreadsheetml/2006/main">` + texts + `</sst>`},
	}
	var b bytes.Buffer
	z := zip.NewWriter(&b)
	for _, f := range files {
		w, err := z.Create(f[0])
		require.NoError(t, err)
		_, err = w.Write([]byte(f[1]))
		require.NoError(t, err)
	}
	require.NoError(t, z.Close())
	return b.Bytes()
}

// zipped is a zip of files of blanks.
func zipped(t *testing.T, sizes map[string]int) []byte {
	var b bytes.Buffer
	z := zip.NewWriter(&b)
	for name, n := range sizes {
		w, err := z.Create(name)
		require.NoError(t, err)
		blanks := bytes.Repeat([]byte(" "), 1<<20)
		for range n >> 20 {
			_, err = w.Write(blanks)
			require.NoError(t, err)
		}
	}
	require.NoError(t, z.Close())
	return b.Bytes()
}

// layered is a JPEG with so many scans more than it needs: to count them is enough to refuse it.
func layered(t *testing.T, scans int) []byte {
	img := image.NewRGBA(image.Rect(0, 0, 1200, 900))
	for i := range img.Pix {
		img.Pix[i] = byte(i * 7)
	}
	img.Set(0, 0, color.White)
	var b bytes.Buffer
	require.NoError(t, jpeg.Encode(&b, img, nil))
	data := b.Bytes()
	at := bytes.Index(data, []byte{0xff, 0xda})
	scan := data[at : at+64]
	return append(append(append([]byte(nil), data[:at]...), bytes.Repeat(scan, scans)...), data[at:]...)
}
